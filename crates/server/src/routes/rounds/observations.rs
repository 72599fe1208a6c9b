//! What is seen in a round, what is decided about it, and what it becomes.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, TimeDelta, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::alteration;
use yardwand_core::body::Side;
use yardwand_core::fitting::Trend;
use yardwand_core::fitting::{
    CoursePoint, DEEPEST_PIN, Decision, Drawn, Lie, Mark, Observation, ObservationKind, Pinned, PinnedAs,
    PinnedOn, Posture, Sureness, cause, places, trend, warning,
};
use yardwand_core::{Length, Shown, Style};
use yardwand_store::ObservationRow;

use super::closing::kept_if_possible;
use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString, Writer};
use crate::rights::Fitting;
use crate::routes::story::said;
use crate::views::{Based, Made, optional_words, words};

/// The fitter's own time may be so far ahead of the server's.
const AHEAD: TimeDelta = TimeDelta::minutes(10);

#[derive(Deserialize, ToSchema)]
struct ObservationEntry {
    place: String,
    kind: ObservationKind,
    #[serde(default)]
    lie: Option<Lie>,
    /// The place it points at.
    #[serde(default)]
    towards: Option<String>,
    #[serde(default)]
    side: Side,
    #[serde(default)]
    posture: Option<Posture>,
    /// The posture in which it is gone.
    #[serde(default)]
    goes_when: Option<Posture>,
    /// How far it is off, as typed; not measured if empty.
    #[serde(default)]
    how_far: String,
    #[serde(default)]
    sureness: Sureness,
    #[serde(default)]
    drawn: Option<Drawn>,
    #[serde(default)]
    note: String,
    /// Depth as typed; nothing pinned if empty.
    #[serde(default)]
    depth: String,
    #[serde(default)]
    pinned_as: Option<PinnedAs>,
    #[serde(default)]
    pinned_on: Option<PinnedOn>,
    /// When it was seen, by the fitter's own clock; now if left out.
    #[serde(default)]
    seen_at: Option<DateTime<Utc>>,
}

#[derive(Deserialize, ToSchema)]
struct PinsAsked {
    depth: String,
    pinned_as: PinnedAs,
    pinned_on: PinnedOn,
    #[serde(default)]
    lie: Option<Lie>,
}

#[derive(Deserialize, ToSchema)]
struct DecisionChange {
    decision: Decision,
}

/// What is said of an observation after it was kept; what is left out stays.
#[derive(Deserialize, ToSchema)]
struct MoreSaid {
    #[serde(default)]
    lie: Option<Lie>,
    /// The place it points at.
    #[serde(default)]
    towards: Option<String>,
    /// How far it is off, as typed.
    #[serde(default)]
    how_far: String,
}

#[derive(Deserialize, ToSchema)]
struct MarkEntry {
    observation_id: u64,
    mark: Mark,
    /// What is still left in one half, as typed; a minus where it turned over. Not measured if empty.
    #[serde(default)]
    left: String,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct SawRevision {
    /// The revision that was seen.
    revision: u32,
}

/// What it had become in a later round.
#[derive(Clone, Serialize, ToSchema)]
pub(in crate::routes) struct MarkView {
    pub(in crate::routes) round: u32,
    pub(in crate::routes) mark: Mark,
    /// What was still left in one half.
    left: Option<Shown>,
}

/// A pinned depth in each way of saying it.
#[derive(Clone, Serialize, ToSchema)]
struct PinsView {
    /// As it was measured.
    depth: Shown,
    /// What leaves the cloth where it is pinned.
    leaves: Shown,
    on_body: Shown,
    per_half: Shown,
    /// On each edge of a seam that shares it.
    per_seam: Shown,
}

fn pins_view(pinned: Pinned, lie: Option<Lie>, style: Style) -> PinsView {
    let amounts = pinned.amounts(lie);
    PinsView {
        depth: style.show(pinned.depth),
        leaves: style.show(amounts.leaves),
        on_body: style.show(amounts.on_body.0.mm()),
        per_half: style.show(amounts.per_half.0.mm()),
        per_seam: style.show(amounts.per_seam.0.mm()),
    }
}

/// Something seen.
#[derive(Clone, Serialize, ToSchema)]
pub(in crate::routes) struct ObservationView {
    pub(in crate::routes) id: u64,
    pub(in crate::routes) round: u32,
    pub(in crate::routes) seen: Observation,
    /// It in words.
    pub(in crate::routes) said: String,
    seen_at: DateTime<Utc>,
    seen_by: String,
    pins: Option<PinsView>,
    pub(in crate::routes) decision: Option<Decision>,
    /// The decision in words.
    pub(in crate::routes) decided: Option<String>,
    revision: u32,
    pub(in crate::routes) marks: Vec<MarkView>,
    pub(in crate::routes) open: bool,
    /// What was pinned round by round: what leaves (or, below nought, is wanting in) one half.
    pub(in crate::routes) course: Vec<CoursePoint>,
    pub(in crate::routes) trend: Trend,
    /// Pointed out where it grew or turned over.
    pub(in crate::routes) warning: Option<String>,
}

impl ObservationView {
    /// What was pinned, per half, as the house writes it.
    pub(in crate::routes) fn per_half(&self) -> Option<String> {
        Some(self.pins.as_ref()?.per_half.text.clone())
    }
}

/// An observation as the screens show it.
pub(in crate::routes) fn observation_view(row: ObservationRow, style: Style) -> ObservationView {
    let decided = row.decision.as_ref().map(|decision| match decision {
        Decision::Alter { alteration, amounts, side, cause: of, overruled } => {
            let mut text = said(alteration, amounts, style);
            if let Some(side) = side {
                text += &format!(", on the {}", side.name());
            }
            if let Some(cause) = of.as_deref().and_then(cause) {
                text += &format!(", for {}", cause.title.to_lowercase());
            }
            if !overruled.is_empty() {
                text += &format!(". Decided otherwise: {overruled}");
            }
            text
        }
        Decision::Leave { reason } => format!("Left as it is: {reason}"),
        Decision::Watch => "Watched".to_owned(),
    });
    let noted = row.noted();
    let course = noted.course();
    ObservationView {
        open: noted.is_open(),
        said: row.seen.said(),
        pins: row.seen.pinned.map(|pinned| pins_view(pinned, row.seen.lie, style)),
        warning: warning(&course, row.decision.as_ref().and_then(Decision::cause), style),
        trend: trend(&course),
        course,
        id: row.id,
        round: row.round,
        seen: row.seen,
        seen_at: row.seen_at,
        seen_by: row.seen_by,
        decided,
        decision: row.decision,
        revision: row.revision,
        marks: row
            .marks
            .into_iter()
            .map(|m| MarkView { round: m.round, mark: m.mark, left: m.per_half.map(|mm| style.show(mm)) })
            .collect(),
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(observe))
        .routes(routes!(take_back))
        .routes(routes!(put_back))
        .routes(routes!(say_more))
        .routes(routes!(decide))
        .routes(routes!(mark))
        .routes(routes!(pins))
}

fn known_place(pointer: &str, name: String) -> Result<String, ApiError> {
    match places().any(|place| place == name) {
        true => Ok(name),
        false => Err(ApiError::field(pointer, "choose the place on the figure")),
    }
}

fn pinned(depth: &str, pinned_as: PinnedAs, on: PinnedOn, style: Style) -> Result<Option<Pinned>, ApiError> {
    let depth = depth.trim();
    if depth.is_empty() {
        return Ok(None);
    }
    let entered = Length::read(depth, style.unit()).map_err(|error| ApiError::length("/depth", &error))?;
    if entered.length.mm() > DEEPEST_PIN {
        let most = style.with_unit(DEEPEST_PIN);
        return Err(ApiError::field(
            "/depth",
            format!("no pin holds that much: at most {most}, check the unit"),
        ));
    }
    if entered.length.mm() < 0.5 {
        return Err(ApiError::field("/depth", "a pin holds more than nothing: leave it empty if none is in"));
    }
    Ok(Some(Pinned { depth: entered.length.mm(), pinned_as, on }))
}

fn how_far(text: &str, style: Style) -> Result<Option<f64>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let mm =
        Length::read(text, style.unit()).map_err(|error| ApiError::length("/how_far", &error))?.length.mm();
    if mm > DEEPEST_PIN {
        let most = style.with_unit(DEEPEST_PIN);
        return Err(ApiError::field(
            "/how_far",
            format!("nothing is off by so much: at most {most}, check the unit"),
        ));
    }
    Ok(Some(mm).filter(|mm| *mm > 0.0))
}

impl ObservationEntry {
    fn checked(self, style: Style) -> Result<Observation, ApiError> {
        let lie = match (self.lie, &self.drawn) {
            (Some(lie), _) if self.kind.lies().contains(&lie) => Some(lie),
            (Some(lie), _) => {
                let kind = self.kind.name().to_lowercase();
                let says = format!("a {kind} does not lie “{}”: choose again or leave it open", lie.name());
                return Err(ApiError::field("/lie", says));
            }
            // A drawn fold says itself how it lies.
            (None, Some(drawn)) => drawn.lies().filter(|lie| self.kind.lies().contains(lie)),
            (None, None) => None,
        };
        if let Some(drawn) = &self.drawn {
            let far = [drawn.from.x, drawn.from.y, drawn.to.x, drawn.to.y].into_iter();
            if far.into_iter().any(|mm| !mm.is_finite() || mm.abs() > 5000.0) {
                return Err(ApiError::field("/drawn", "the line lies off the drawing: draw it again"));
            }
        }
        let pinned_as = self.pinned_as.unwrap_or(PinnedAs::Pinch);
        let on = self.pinned_on.unwrap_or(PinnedOn::BothSides);
        let place = known_place("/place", self.place)?;
        let towards = self.towards.filter(|towards| *towards != place);
        Ok(Observation {
            towards: towards.map(|name| known_place("/towards", name)).transpose()?,
            place,
            kind: self.kind,
            lie,
            side: self.side,
            posture: self.posture,
            goes_when: self.goes_when.filter(|goes| Some(*goes) != self.posture),
            how_far: how_far(&self.how_far, style)?,
            sureness: self.sureness,
            drawn: self.drawn,
            note: optional_words("/note", "The note", &self.note, 500)?,
            pinned: pinned(&self.depth, pinned_as, on, style)?,
        })
    }
}

/// What pins come to, before anything is kept.
#[utoipa::path(post, path = "/api/pins", request_body = PinsAsked, responses(
    (status = 200, body = Option<PinsView>), (status = 422, body = Problem)))]
async fn pins(
    _: crate::auth::SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(asked): JsonBody<PinsAsked>,
) -> Result<Json<Option<PinsView>>, ApiError> {
    let pinned = pinned(&asked.depth, asked.pinned_as, asked.pinned_on, style)?;
    Ok(Json(pinned.map(|pinned| pins_view(pinned, asked.lie, style))))
}

/// Keeps an observation.
#[utoipa::path(post, path = "/api/rounds/{id}/observations", request_body = ObservationEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn observe(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    Id(round): Id,
    JsonBody(entry): JsonBody<ObservationEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let at = own_time(entry.seen_at);
    let seen = entry.checked(style)?;
    let id = state.store.observe(round, &seen, at, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// The fitter's own time; the server's where that lies ahead.
pub(super) fn own_time(said: Option<DateTime<Utc>>) -> DateTime<Utc> {
    let now = Utc::now();
    said.filter(|at| *at <= now + AHEAD && *at > now - TimeDelta::days(30)).unwrap_or(now)
}

/// Takes an observation out of an open round again.
#[utoipa::path(delete, path = "/api/observations/{id}", params(SawRevision), responses(
    (status = 204), (status = 409, body = Problem)))]
async fn take_back(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
    QueryString(saw): QueryString<SawRevision>,
) -> Result<StatusCode, ApiError> {
    state.store.take_back(id, saw.revision, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts an observation that was taken out back into its open round.
#[utoipa::path(post, path = "/api/observations/{id}/restore", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn put_back(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.restore_observation(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Says more of an observation: which way it goes, how far, what it points at.
#[utoipa::path(put, path = "/api/observations/{id}/more", request_body = Based<MoreSaid>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn say_more(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<MoreSaid>>,
) -> Result<StatusCode, ApiError> {
    let MoreSaid { lie, towards, how_far: far } = based.change;
    let towards = towards.map(|name| known_place("/towards", name)).transpose()?;
    let far = how_far(&far, style)?;
    let more = |seen: Observation| Observation {
        // A way that such a thing does not go is none; neither does it point at itself.
        lie: lie.filter(|lie| seen.kind.lies().contains(lie)).or(seen.lie),
        towards: towards.filter(|towards| *towards != seen.place).or(seen.towards),
        how_far: far.or(seen.how_far),
        ..seen
    };
    state.store.say_more(id, more, based.revision, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Decides an observation.
#[utoipa::path(put, path = "/api/observations/{id}/decision", request_body = Based<DecisionChange>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn decide(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<DecisionChange>>,
) -> Result<StatusCode, ApiError> {
    let decision = match based.change.decision {
        Decision::Alter { alteration: code, amounts, side, cause: of, overruled } => {
            let known = alteration(&code).ok_or_else(|| {
                ApiError::field("/decision/alteration", format!("no alteration is called “{code}”"))
            })?;
            amounts
                .validate(known.params(), style)
                .map_err(|error| ApiError::field("/decision/amounts", error.to_string()))?;
            if let Some(unknown) = of.as_deref().filter(|of| cause(of).is_none()) {
                return Err(ApiError::field("/decision/cause", format!("no cause is called “{unknown}”")));
            }
            let overruled = optional_words("/decision/overruled", "The reason", &overruled, 400)?;
            Decision::Alter { alteration: code, amounts, side, cause: of, overruled }
        }
        Decision::Leave { reason } => {
            Decision::Leave { reason: words("/decision/reason", "The reason", &reason, 400)? }
        }
        Decision::Watch => Decision::Watch,
    };
    let round = state.store.round_of(id).await?;
    let keep = |changes| state.store.decide(id, &decision, based.revision, Some(changes), writer.once());
    kept_if_possible(&state, round, Some(id), &decision, style, keep).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Marks what an earlier observation has become.
#[utoipa::path(put, path = "/api/rounds/{id}/marks", request_body = MarkEntry, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn mark(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    Id(round): Id,
    JsonBody(entry): JsonBody<MarkEntry>,
) -> Result<StatusCode, ApiError> {
    let left = match entry.left.trim() {
        "" => None,
        text => {
            let mm = Length::read_signed(text, style.unit()).map_err(|e| ApiError::length("/left", &e))?;
            if mm.abs() > DEEPEST_PIN {
                let most = style.with_unit(DEEPEST_PIN);
                let says = format!("no pin holds that much: at most {most}, check the unit");
                return Err(ApiError::field("/left", says));
            }
            Some(mm)
        }
    };
    state.store.mark(round, entry.observation_id, entry.mark, left, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
