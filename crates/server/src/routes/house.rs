//! `/api/house`: the house's choices, and reading a length in its unit.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use chrono::{DateTime, TimeDelta, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{Taken, measurement};
use yardwand_core::fitting::HouseCalendar;
use yardwand_core::{Length, Shown, Style, Unit};
use yardwand_store::{House, Measuring};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, HouseStyle, JsonBody, QueryString, Writer};
use crate::rights::Housekeeping;
use crate::views::{Based, optional_words, words};
use crate::workroom::ease_named;

#[derive(Serialize, ToSchema)]
struct HouseView {
    name: String,
    style: Style,
    /// What a length typed without a unit is meant in.
    unit: Unit,
    /// The unit behind a figure.
    suffix: String,
    /// What an arrow key adds, in millimetres.
    step: f64,
    ease_set: String,
    measuring: MeasuringView,
    calendar: HouseCalendar,
    /// Whether clients may read the story of their garment.
    shows_stories: bool,
    revision: u32,
}

/// How the house measures.
#[derive(Clone, Serialize, Deserialize, ToSchema)]
struct MeasuringView {
    /// Its school in each matter it has chosen.
    schools: BTreeMap<String, String>,
    /// One finger under the tape, in millimetres.
    finger_mm: f64,
    /// Readings older than this are asked for again before cutting.
    age_limit_days: i64,
    /// Its own order of the tape; the rest follows in the catalogue's order.
    route: Vec<String>,
    /// A cup over the block's by more than this is chosen for by the upper bust, in millimetres.
    #[serde(default = "usual_cup_over")]
    #[schema(required = true)]
    cup_over_mm: f64,
}

fn usual_cup_over() -> f64 {
    Measuring::default().cup_over_mm
}

impl From<Measuring> for MeasuringView {
    fn from(m: Measuring) -> Self {
        Self {
            schools: m.schools,
            finger_mm: m.finger_mm,
            age_limit_days: m.age_limit_days,
            route: m.route,
            cup_over_mm: m.cup_over_mm,
        }
    }
}

impl MeasuringView {
    fn checked(self, style: Style) -> Result<Measuring, ApiError> {
        let taken = Taken { schools: self.schools, ease_mm: 0.0 };
        if let Some(says) = taken.unknown() {
            return Err(ApiError::field("/measuring/schools", says));
        }
        if !(5.0..=25.4).contains(&self.finger_mm) {
            let says = style.say("a finger is 5 to 25.4 mm thick");
            return Err(ApiError::field("/measuring/finger_mm", says));
        }
        if !(1..=3650).contains(&self.age_limit_days) {
            return Err(ApiError::field(
                "/measuring/age_limit_days",
                "the limit lies between 1 day and 10 years",
            ));
        }
        if !(0.0..=150.0).contains(&self.cup_over_mm) {
            return Err(ApiError::field(
                "/measuring/cup_over_mm",
                style.say("the cup that chooses by the upper bust lies at most 150 mm over the block's"),
            ));
        }
        if let Some(code) = self.route.iter().find(|code| measurement(code).is_none()) {
            return Err(ApiError::field("/measuring/route", format!("no measurement is called “{code}”")));
        }
        Ok(Measuring {
            schools: taken.schools,
            finger_mm: self.finger_mm,
            age_limit_days: self.age_limit_days,
            route: self.route,
            cup_over_mm: self.cup_over_mm,
        })
    }
}

impl From<House> for HouseView {
    fn from(house: House) -> Self {
        Self {
            unit: house.style.unit(),
            suffix: house.style.unit().suffix().to_owned(),
            step: house.style.step().mm(),
            name: house.name,
            style: house.style,
            ease_set: house.ease_set,
            measuring: house.measuring.into(),
            calendar: house.calendar,
            shows_stories: house.shows_stories,
            revision: house.revision,
        }
    }
}

#[derive(Deserialize, ToSchema)]
struct HouseChange {
    name: String,
    style: Style,
    ease_set: String,
    /// As it is, where it is left out.
    #[serde(default)]
    measuring: Option<MeasuringView>,
    /// As it is, where it is left out.
    #[serde(default)]
    calendar: Option<HouseCalendar>,
    /// As it is, where it is left out.
    #[serde(default)]
    shows_stories: Option<bool>,
}

/// Whether a calendar can be planned by.
fn checked_calendar(calendar: HouseCalendar) -> Result<HouseCalendar, ApiError> {
    let gaps = calendar.gaps;
    let all = [
        ("measuring_to_cutting", gaps.measuring_to_cutting),
        ("cutting_to_toile", gaps.cutting_to_toile),
        ("toile_to_toile", gaps.toile_to_toile),
        ("toile_to_cloth", gaps.toile_to_cloth),
        ("cloth_to_final", gaps.cloth_to_final),
        ("final_to_delivery", gaps.final_to_delivery),
    ];
    if let Some((name, _)) = all.iter().find(|(_, days)| *days > 120) {
        let says = "a gap has at most 120 working days: check the figure";
        return Err(ApiError::field(&format!("/calendar/gaps/{name}"), says));
    }
    if !calendar.open.contains(&true) {
        return Err(ApiError::field(
            "/calendar/open",
            "the workroom is open on one day of the week at least",
        ));
    }
    if !(1..=50).contains(&calendar.a_day) {
        return Err(ApiError::field("/calendar/a_day", "a day holds 1 to 50 clients"));
    }
    if !(1..=730).contains(&calendar.reading_days) {
        return Err(ApiError::field(
            "/calendar/reading_days",
            "readings may be 1 to 730 days old at cutting",
        ));
    }
    if calendar.remind_days > 30 {
        return Err(ApiError::field("/calendar/remind_days", "a reminder is written at most 30 days before"));
    }
    if calendar.closed.len() > 400 {
        return Err(ApiError::field(
            "/calendar/closed",
            "at most 400 closed times: take out those of past years",
        ));
    }
    for (index, closed) in calendar.closed.iter().enumerate() {
        if closed.to < closed.from {
            let says = format!("a closed time ends on {}, before it begins: change one of them", closed.to);
            return Err(ApiError::field(&format!("/calendar/closed/{index}/to"), says));
        }
        optional_words(&format!("/calendar/closed/{index}/why"), "The reason", &closed.why, 120)?;
    }
    Ok(calendar)
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct LengthAsked {
    /// What was typed; a minus is allowed here, since amounts have a sign.
    text: String,
    /// The least it may be, in millimetres.
    least: Option<f64>,
    /// The most it may be, in millimetres.
    most: Option<f64>,
    /// Whether `field` is to read back as the very same length.
    #[serde(default)]
    #[param(required = false)]
    exactly: bool,
    /// How many parts as long as this make a whole: `field` is then such a part of the whole as it is written.
    #[serde(default)]
    #[param(required = false)]
    parts: Option<u32>,
}

/// A length that was read.
#[derive(Serialize, ToSchema)]
struct LengthView {
    #[serde(flatten)]
    shown: Shown,
    /// As it is typed into a field of this house.
    field: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(get, change))
        .routes(routes!(length))
        .routes(routes!(written))
        .routes(routes!(last_backup))
}

/// The house's choices.
#[utoipa::path(get, path = "/api/house", responses((status = 200, body = HouseView)))]
async fn get(State(state): State<AppState>, _: SignedIn) -> Result<Json<HouseView>, ApiError> {
    Ok(Json(state.store.house().await?.into()))
}

/// When the house was backed up last.
#[derive(Serialize, ToSchema)]
struct LastBackup {
    /// The moment it holds; nothing where the house was never backed up.
    taken_at: Option<DateTime<Utc>>,
    /// How large its file is.
    bytes: u64,
    /// It opens with a passphrase only.
    encrypted: bool,
    /// A copy of it lies in a second place.
    second_place: bool,
    /// It is longer ago than a week, or was never.
    overdue: bool,
    /// This server can take one when it is asked.
    can_take: bool,
}

/// When the house was backed up last.
#[utoipa::path(get, path = "/api/house/backup", responses((status = 200, body = LastBackup), (status = 403, body = Problem)))]
async fn last_backup(
    State(state): State<AppState>,
    _: Entitled<Housekeeping>,
) -> Result<Json<LastBackup>, ApiError> {
    const OVERDUE: TimeDelta = TimeDelta::days(7);
    let last = state.store.last_backup().await?;
    Ok(Json(LastBackup {
        taken_at: last.map(|last| last.taken_at),
        bytes: last.map_or(0, |last| last.bytes),
        encrypted: last.is_some_and(|last| last.encrypted),
        second_place: last.is_some_and(|last| last.second_place),
        overdue: last.is_none_or(|last| Utc::now() - last.taken_at > OVERDUE),
        can_take: state.jobs.takes_backups(),
    }))
}

/// Changes the house's choices.
#[utoipa::path(put, path = "/api/house", request_body = Based<HouseChange>, responses(
    (status = 200, body = HouseView), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    JsonBody(based): JsonBody<Based<HouseChange>>,
) -> Result<Json<HouseView>, ApiError> {
    let Based { revision, change } = based;
    let style_is_known = match change.style {
        Style::Inch { denominator } => [4, 8, 16, 32].contains(&denominator),
        Style::Cm { steps } => [2, 10].contains(&steps),
    };
    if !style_is_known {
        return Err(ApiError::field(
            "/style",
            "a length is written in 1/4, 1/8, 1/16 or 1/32 in, or in 0.5 or 0.1 cm",
        ));
    }
    ease_named(&state.store, Some(&change.ease_set)).await?;
    let name = words("/name", "The house's name", &change.name, 120)?;
    let before = state.store.house().await?;
    let unit = change.style.unit();
    let as_before = || {
        if before.style.unit() == unit {
            before.measuring.clone()
        } else {
            before.measuring.clone().in_unit(unit)
        }
    };
    let house = House {
        name,
        style: change.style,
        ease_set: change.ease_set,
        measuring: match change.measuring {
            Some(measuring) => measuring.checked(change.style)?,
            None => as_before(),
        },
        calendar: change.calendar.map_or(Ok(before.calendar), checked_calendar)?,
        shows_stories: change.shows_stories.unwrap_or(before.shows_stories),
        revision,
    };
    match state.store.change_house(&house, writer.person.id).await {
        Ok(()) => Ok(Json(state.store.house().await?.into())),
        Err(error) => {
            let current = state.store.house().await.ok().map(HouseView::from);
            Err(ApiError::from(error).with_current(current))
        }
    }
}

/// Lengths and differences to be written.
#[derive(Deserialize, ToSchema)]
struct WrittenAsked {
    /// In millimetres.
    #[serde(default)]
    lengths: Vec<f64>,
    /// Pairs in millimetres: of each the first less the second.
    #[serde(default)]
    differences: Vec<(f64, f64)>,
}

/// The same as the house writes them, in the same order.
#[derive(Serialize, ToSchema)]
struct WrittenView {
    lengths: Vec<Shown>,
    differences: Vec<Shown>,
}

/// Writes lengths and differences in the house's marks: nothing is kept.
#[utoipa::path(post, path = "/api/written", request_body = WrittenAsked, responses(
    (status = 200, body = WrittenView), (status = 422, body = Problem)))]
async fn written(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(asked): JsonBody<WrittenAsked>,
) -> Result<Json<WrittenView>, ApiError> {
    if asked.lengths.len() + asked.differences.len() > 1000 {
        return Err(ApiError::field("/lengths", "at most 1000 lengths are written at once: ask for fewer"));
    }
    Ok(Json(WrittenView {
        lengths: asked.lengths.iter().map(|mm| style.show(*mm)).collect(),
        differences: asked.differences.iter().map(|(more, less)| style.difference(*more, *less)).collect(),
    }))
}

/// Reads a length as the house would, sign included.
#[utoipa::path(get, path = "/api/length", params(LengthAsked), responses(
    (status = 200, body = LengthView), (status = 422, body = Problem)))]
async fn length(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<LengthAsked>,
) -> Result<Json<LengthView>, ApiError> {
    let mm =
        Length::read_signed(&asked.text, style.unit()).map_err(|error| ApiError::length("/text", &error))?;
    let (least, most) = (asked.least.unwrap_or(f64::NEG_INFINITY), asked.most.unwrap_or(f64::INFINITY));
    if !(least..=most).contains(&mm) {
        let bound = |mm: f64| style.write(Length::from_mm(mm));
        let says = match (asked.least, asked.most) {
            (Some(least), Some(most)) => format!("between {} and {}", bound(least), style.with_unit(most)),
            (Some(least), None) => format!("{} or more", style.with_unit(least)),
            _ => format!("{} at most", style.with_unit(most)),
        };
        return Err(ApiError::field(
            "/text",
            format!("{} does not fit here: give {says}", style.with_unit(mm)),
        ));
    }
    let field = match asked.parts {
        _ if asked.exactly => style.typed_exactly(mm),
        Some(parts) => style.typed_part(mm, parts),
        None => style.typed(mm),
    };
    Ok(Json(LengthView { shown: style.show(mm), field }))
}
