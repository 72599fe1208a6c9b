//! `/api/clients/{id}/profile` and `/history`: what a client measures now, and how it came about.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::make;
use yardwand_core::body::{
    BodyDrawing, Consent, Finding, Group, ProfileReading, Side, Taken, View, catalogue, cautions, check_age,
    draw_body, measurement, median,
};
use yardwand_core::{Shown, Style};
use yardwand_store::{ConsentRow, PastReading, Posture};

use super::sets::every_set;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::{name_of, profile_of, said_of};
use crate::rights::{Housekeeping, Readings};
use crate::views::{Based, words};

/// A figure of the profile in the house's writing.
#[derive(Serialize, ToSchema)]
struct FigureView {
    name: String,
    group: Group,
    wish: bool,
    differs: Option<String>,
    length: Option<Shown>,
    left: Option<Shown>,
    right: Option<Shown>,
    as_taken: Shown,
    give: Option<Shown>,
    #[serde(flatten)]
    figure: ProfileReading,
    findings: Vec<Finding>,
    /// The takes it is made of, to be corrected one by one.
    takes: Vec<FigureTake>,
}

/// A take that a figure is made of.
#[derive(Serialize, ToSchema)]
struct FigureTake {
    id: u64,
    session_id: u64,
    side: Side,
    /// As it was typed, with its unit.
    typed: String,
}

/// What a set still lacks for this client.
#[derive(Serialize, ToSchema)]
struct SetGaps {
    code: String,
    name: String,
    wanted: usize,
    /// Names of what was never measured, or has to be taken again.
    missing: Vec<String>,
    /// Names of what is older than the house allows before cutting.
    old: Vec<String>,
}

#[derive(Serialize, ToSchema)]
struct ConsentStand {
    given_on: NaiveDate,
    purpose: String,
    review_on: Option<NaiveDate>,
    due: bool,
}

#[derive(Serialize, ToSchema)]
struct ProfileView {
    client_id: u64,
    client: String,
    revision: u32,
    figures: Vec<FigureView>,
    sets: Vec<SetGaps>,
    posture: Vec<String>,
    changing: bool,
    consent: Option<ConsentStand>,
    cautions: Vec<String>,
    age_limit_days: i64,
    front: BodyDrawing,
    back: BodyDrawing,
    side: BodyDrawing,
}

#[derive(Deserialize, ToSchema)]
struct PostureEntry {
    notes: Vec<String>,
    changing: bool,
}

/// A figure in a session of the history.
#[derive(Serialize, ToSchema)]
struct PastFigure {
    code: String,
    side: Side,
    mm: f64,
    text: String,
    /// How it was taken, where not the catalogue's way.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[schema(required = false)]
    method: Vec<String>,
}

#[derive(Serialize, ToSchema)]
struct UsedBy {
    order_id: u64,
    garment: String,
}

/// A figure as it was at one session.
struct FigureOnce {
    mm: f64,
    taken: Taken,
    /// What she wore under the tape; empty where that was not said.
    worn: String,
}

impl FigureOnce {
    /// Whether she wore something else under the tape, as far as both were said.
    fn is_over_another(&self, other: &Self) -> bool {
        !self.worn.is_empty() && !other.worn.is_empty() && self.worn != other.worn
    }
}

/// A session of the history.
#[derive(Serialize, ToSchema)]
struct PastSession {
    id: u64,
    started_at: DateTime<Utc>,
    closed_at: Option<DateTime<Utc>>,
    set: String,
    /// What she wore under the tape; empty where that was not said.
    foundation: String,
    measurer: String,
    signed: Option<String>,
    used_by: Vec<UsedBy>,
    figures: Vec<PastFigure>,
}

/// A session that was dropped: its readings do not count, and it can be brought back.
#[derive(Serialize, ToSchema)]
struct DroppedSession {
    id: u64,
    started_at: DateTime<Utc>,
    measurer: String,
    why: String,
}

/// What changed between the last two readings of a measurement.
#[derive(Serialize, ToSchema)]
struct ChangeView {
    code: String,
    name: String,
    side: Side,
    from: Shown,
    to: Shown,
    by: Shown,
    /// The two were taken differently: they do not compare.
    method_changed: bool,
    /// More than is usual between sessions.
    large: bool,
}

#[derive(Serialize, ToSchema)]
struct NamedCode {
    code: String,
    name: String,
    group: Group,
}

#[derive(Serialize, ToSchema)]
struct HistoryView {
    client_id: u64,
    client: String,
    /// What was ever measured, in the order of the route.
    measurements: Vec<NamedCode>,
    /// Oldest first.
    sessions: Vec<PastSession>,
    /// The newest first.
    dropped: Vec<DroppedSession>,
    changes: Vec<ChangeView>,
    /// Millimetres in one of the house's unit.
    unit_mm: f64,
    suffix: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(profile))
        .routes(routes!(posture))
        .routes(routes!(history))
        .routes(routes!(erase))
}

fn stand(consents: Vec<ConsentRow>) -> Option<ConsentStand> {
    let today = crate::workroom::today();
    consents.into_iter().find(|consent| consent.withdrawn_on.is_none()).map(|consent| ConsentStand {
        due: consent.review_on.is_some_and(|day| day <= today),
        given_on: consent.given_on,
        purpose: consent.purpose,
        review_on: consent.review_on,
    })
}

/// A client's current best figures, what is missing or old, and what to mind.
#[utoipa::path(get, path = "/api/clients/{id}/profile", responses((status = 200, body = ProfileView), (status = 404, body = Problem)))]
async fn profile(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
) -> Result<Json<ProfileView>, ApiError> {
    let store = &state.store;
    let (client, house, posture, consents, readings) = tokio::try_join!(
        store.client(id),
        store.house(),
        store.posture(id),
        store.consents(id),
        store.latest_readings(id, None)
    )?;
    let consent = stand(consents);
    let measured = profile_of(&readings, &[], house.measuring.finger_mm);
    let limit = house.measuring.age_limit_days;
    let is_old = |code: &str, days: i64| {
        measurement(code).and_then(|row| check_age(row, days, limit, posture.changing))
    };
    let sets = every_set(store).await?.into_iter().map(|(code, name, codes, _, _)| {
        let figure = |code: &&String| measured.get(code).filter(|figure| figure.mm.is_some());
        let names = |codes: Vec<&String>| codes.into_iter().map(|code| name_of(code)).collect();
        let (known, missing): (Vec<&String>, Vec<&String>) =
            codes.iter().partition(|code| figure(code).is_some());
        let old = known.into_iter().filter(|code| {
            figure(code).and_then(|f| f.days_ago).is_some_and(|days| is_old(code, days).is_some())
        });
        SetGaps { wanted: codes.len(), missing: names(missing), old: names(old.collect()), code, name }
    });
    let sets = sets.collect();
    let standing = match &consent {
        None => Consent::Missing,
        Some(consent) if consent.due => Consent::ReviewDue,
        Some(_) => Consent::Given,
    };
    let cautions = cautions(&measured, standing, posture.changing);
    let body = measured.body();
    let every_code: Vec<String> =
        catalogue().iter().filter(|row| !row.wish).map(|row| row.code.clone()).collect();
    let style = house.style;
    let figures = measured.with_estimates(&every_code).0.into_iter().map(|figure| {
        let row = measurement(&figure.code);
        FigureView {
            name: name_of(&figure.code),
            group: row.map_or(Group::Length, |row| row.group),
            wish: row.is_some_and(|row| row.wish),
            differs: row.and_then(|row| row.differs.clone()),
            length: figure.mm.map(|mm| style.show(mm)),
            left: figure.left_mm.map(|mm| style.show(mm)),
            right: figure.right_mm.map(|mm| style.show(mm)),
            as_taken: style.show(figure.as_taken_mm),
            give: (figure.give_mm > 0.0).then(|| style.show(figure.give_mm)),
            takes: { readings.iter() }
                .filter(|take| take.code == figure.code)
                .map(|take| FigureTake {
                    id: take.id,
                    session_id: take.session_id,
                    side: take.side,
                    typed: take.entered.with_unit(),
                })
                .collect(),
            findings: figure.days_ago.and_then(|days| is_old(&figure.code, days)).into_iter().collect(),
            figure,
        }
    });
    Ok(Json(ProfileView {
        figures: figures.collect(),
        sets,
        cautions,
        consent,
        posture: posture.notes,
        changing: posture.changing,
        age_limit_days: limit,
        front: draw_body(View::Front, &body),
        back: draw_body(View::Back, &body),
        side: draw_body(View::Side, &body),
        client_id: client.id,
        client: client.name,
        revision: client.revision,
    }))
}

/// Changes a client's posture notes.
#[utoipa::path(put, path = "/api/clients/{id}/posture", request_body = Based<PostureEntry>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn posture(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<PostureEntry>>,
) -> Result<StatusCode, ApiError> {
    let Based { revision, change } = based;
    if change.notes.len() > 20 {
        return Err(ApiError::field("/notes", "at most 20 notes fit: put some together"));
    }
    let notes =
        change.notes.iter().map(|note| words("/notes", "A note", note, 200)).collect::<Result<_, _>>()?;
    let posture = Posture { notes, changing: change.changing };
    state.store.set_posture(id, &posture, revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Erases a client with everything of hers. Only the owner may.
#[utoipa::path(delete, path = "/api/clients/{id}", responses((status = 204), (status = 403, body = Problem), (status = 404, body = Problem)))]
async fn erase(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    // What others wear that began from a block of hers goes on by itself: as its recipe makes it.
    let begun = state.store.patterns_begun_from(id).await?.into_iter().map(|row| {
        let own = make(&row.block, &row.recipe, style).pattern;
        (row, own)
    });
    state.store.erase_client(id, &begun.collect::<Vec<_>>(), writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes of one session together, by measurement and side.
type Together<'a> = BTreeMap<(&'a str, Side), Vec<&'a PastReading>>;

fn together(rows: &[PastReading]) -> Together<'_> {
    let mut takes = Together::new();
    for row in rows {
        takes.entry((row.code.as_str(), row.side)).or_default().push(row);
    }
    takes
}

fn middle(takes: &[&PastReading]) -> f64 {
    median(&takes.iter().map(|take| take.mm).collect::<Vec<_>>()).unwrap_or_default()
}

fn past_figures(takes: &Together<'_>, style: Style) -> Vec<PastFigure> {
    let figure = |((code, side), takes): (&(&str, Side), &Vec<&PastReading>)| {
        let mm = middle(takes);
        PastFigure {
            code: (*code).to_owned(),
            side: *side,
            mm,
            text: style.write(yardwand_core::Length::from_mm(mm)),
            method: takes.last().map(|take| said_of(&take.taken, style)).unwrap_or_default(),
        }
    };
    takes.iter().map(figure).collect()
}

/// Every session of a client with its figures, what changed since the last time, and which orders used which session.
#[utoipa::path(get, path = "/api/clients/{id}/history", responses((status = 200, body = HistoryView), (status = 404, body = Problem)))]
async fn history(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
) -> Result<Json<HistoryView>, ApiError> {
    let store = &state.store;
    let (client, style) = (store.client(id).await?, store.house().await?.style);
    let (sessions, rows, uses) =
        (store.sessions(id).await?, store.past_readings(id).await?, store.session_uses(id).await?);
    let mut by_session: BTreeMap<u64, Vec<PastReading>> = BTreeMap::new();
    for row in rows {
        by_session.entry(row.session_id).or_default().push(row);
    }
    let mut past: Vec<PastSession> = Vec::new();
    let mut over_time: BTreeMap<(String, Side), Vec<FigureOnce>> = BTreeMap::new();
    for session in sessions.into_iter().rev() {
        let rows = by_session.remove(&session.id).unwrap_or_default();
        let takes = together(&rows);
        for ((code, side), takes) in &takes {
            let taken = takes.last().map(|take| take.taken.clone()).unwrap_or_default();
            over_time.entry(((*code).to_owned(), *side)).or_default().push(FigureOnce {
                mm: middle(takes),
                taken,
                worn: session.foundation.clone(),
            });
        }
        past.push(PastSession {
            figures: past_figures(&takes, style),
            used_by: uses
                .iter()
                .filter(|used| used.session_id == session.id)
                .map(|used| UsedBy { order_id: used.order_id, garment: used.garment.clone() })
                .collect(),
            id: session.id,
            started_at: session.started_at,
            closed_at: session.closed_at,
            set: if session.set_name.is_empty() { session.set_code } else { session.set_name },
            foundation: session.foundation,
            measurer: session.measurer,
            signed: session.signed,
        });
    }
    let known = |code: &str| over_time.keys().any(|(known, _)| known == code);
    let named = catalogue().iter().filter(|row| known(&row.code));
    let measurements =
        named.map(|row| NamedCode { code: row.code.clone(), name: row.name.clone(), group: row.group });
    let measurements = measurements.collect();
    let changes = over_time.iter().filter_map(|((code, side), figures)| {
        let [.., then, now] = figures.as_slice() else { return None };
        let row = measurement(code)?;
        let by = now.mm - then.mm;
        (by.abs() > 0.5).then(|| ChangeView {
            name: row.name.clone(),
            side: *side,
            from: style.show(then.mm),
            to: style.show(now.mm),
            by: style.difference(now.mm, then.mm),
            method_changed: !then.taken.agrees(&now.taken, code)
                || (row.over_foundation && then.is_over_another(now)),
            large: by.abs() > row.usual_change(),
            code: code.clone(),
        })
    });
    Ok(Json(HistoryView {
        client_id: client.id,
        client: client.name,
        measurements,
        changes: changes.collect(),
        sessions: past,
        dropped: { store.dropped_sessions(id).await?.into_iter() }
            .map(|row| DroppedSession {
                id: row.id,
                started_at: row.started_at,
                measurer: row.measurer,
                why: row.dropped_why,
            })
            .collect(),
        unit_mm: style.unit().in_mm(),
        suffix: style.unit().suffix().to_owned(),
    }))
}
