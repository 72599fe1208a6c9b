//! `/api/rounds`: the fitting room.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{Recipe, alteration};
use yardwand_core::body::{FigureDrawing, View, draw_figure};
use yardwand_core::fitting::{
    Decision, Mark, Observation, ObservationKind, Pinned, PinnedAs, PinnedOn, PlaceOnFigure, is_open, places,
    places_on,
};
use yardwand_core::{Length, Shown, Style};
use yardwand_store::{ObservationRow, RoundRow};

use super::patterns::version_of;
use super::story::said;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Doc, HouseStyle, Id, Writer};
use crate::figures::body_of_client;
use crate::views::{Based, Made, OrderView, VersionView, optional_words, words};

/// The deepest pin that is believed, in millimetres.
const DEEPEST_PIN: f64 = 200.0;

#[derive(Deserialize, ToSchema)]
struct RoundEntry {
    /// The version on the body; the newest if left out.
    #[serde(default)]
    version_id: Option<u64>,
    #[serde(default)]
    worn: String,
}

#[derive(Deserialize, ToSchema)]
struct ObservationEntry {
    place: String,
    kind: ObservationKind,
    #[serde(default)]
    note: String,
    /// Depth as typed; nothing pinned if empty.
    #[serde(default)]
    depth: String,
    #[serde(default)]
    pinned_as: Option<PinnedAs>,
    #[serde(default)]
    pinned_on: Option<PinnedOn>,
}

#[derive(Deserialize, ToSchema)]
struct DecisionChange {
    decision: Decision,
}

#[derive(Deserialize, ToSchema)]
struct MarkEntry {
    observation_id: u64,
    mark: Mark,
}

#[derive(Deserialize, ToSchema)]
struct ComfortEntry {
    words: String,
}

#[derive(Serialize, ToSchema)]
struct MarkView {
    round: u32,
    mark: Mark,
}

#[derive(Serialize, ToSchema)]
struct ObservationView {
    id: u64,
    round: u32,
    place: String,
    kind: ObservationKind,
    kind_name: String,
    note: String,
    /// What was pinned, as measured.
    depth: Option<Shown>,
    /// What leaves (or is wanting in) one half pattern.
    per_half: Option<Shown>,
    decision: Option<Decision>,
    /// The decision in words.
    decided: Option<String>,
    revision: u32,
    marks: Vec<MarkView>,
    open: bool,
}

#[derive(Serialize, ToSchema)]
struct RoundView {
    id: u64,
    number: u32,
    order: OrderView,
    version: u32,
    version_id: u64,
    worn: String,
    comfort: String,
    opened_by: String,
    opened_at: DateTime<Utc>,
    closed_at: Option<DateTime<Utc>>,
    made_version: Option<u32>,
    observations: Vec<ObservationView>,
    /// Observations of earlier rounds that were still open, to be marked.
    earlier: Vec<ObservationView>,
    versions: Vec<VersionView>,
    /// Her own figure, to point at.
    front: FigureDrawing,
    back: FigureDrawing,
    places: Vec<PlaceOnFigure>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(open))
        .routes(routes!(get))
        .routes(routes!(observe))
        .routes(routes!(decide))
        .routes(routes!(mark))
        .routes(routes!(comfort))
        .routes(routes!(close))
}

impl ObservationEntry {
    fn checked(self, style: Style) -> Result<Observation, ApiError> {
        if !places().any(|place| place == self.place) {
            return Err(ApiError::field("/place", "choose the place on the bodice"));
        }
        let depth = self.depth.trim();
        let pinned = if depth.is_empty() {
            None
        } else {
            let entered =
                Length::read(depth, style.unit()).map_err(|error| ApiError::length("/depth", &error))?;
            if entered.length.mm() > DEEPEST_PIN {
                let most = style.with_unit(DEEPEST_PIN);
                return Err(ApiError::field(
                    "/depth",
                    format!("no pin holds that much: at most {most}, check the unit"),
                ));
            }
            Some(Pinned {
                depth: entered.length.mm(),
                pinned_as: self.pinned_as.unwrap_or(PinnedAs::Pinch),
                on: self.pinned_on.unwrap_or(PinnedOn::BothSides),
            })
        };
        let note = optional_words("/note", "The note", &self.note, 500)?;
        Ok(Observation { place: self.place, kind: self.kind, note, pinned })
    }
}

fn view(row: ObservationRow, style: Style) -> ObservationView {
    let decided = row.decision.as_ref().map(|decision| match decision {
        Decision::Alter { alteration, amounts } => said(alteration, amounts, style),
        Decision::Leave { reason } => format!("Left as it is: {reason}"),
        Decision::Watch => "Watched".to_owned(),
    });
    let last = row.marks.last().map(|m| m.mark);
    ObservationView {
        open: is_open(row.decision.as_ref(), last),
        id: row.id,
        round: row.round,
        kind_name: row.seen.kind.name().to_owned(),
        depth: row.seen.pinned.map(|p| style.show(p.depth)),
        per_half: row.seen.pinned.map(|p| style.show(p.per_half().0.mm())),
        place: row.seen.place,
        kind: row.seen.kind,
        note: row.seen.note,
        decided,
        decision: row.decision,
        revision: row.revision,
        marks: row.marks.into_iter().map(|m| MarkView { round: m.round, mark: m.mark }).collect(),
    }
}

/// Opens the next round of a garment on a version of its pattern.
#[utoipa::path(post, path = "/api/orders/{id}/rounds", request_body = RoundEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn open(
    State(state): State<AppState>,
    writer: Writer,
    Id(order): Id,
    Doc(entry): Doc<RoundEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let worn = optional_words("/worn", "What was worn", &entry.worn, 400)?;
    let pattern = state.store.order(order).await?.pattern_id;
    let newest = match (entry.version_id, pattern) {
        (Some(id), _) => Some(id),
        (None, Some(pattern)) => state.store.versions(pattern).await?.first().map(|v| v.id),
        (None, None) => None,
    };
    let version = newest.ok_or_else(|| {
        ApiError::field("/version_id", "there is no version to fit: save a version of the pattern first")
    })?;
    let id = state.store.open_round(order, version, &worn, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A round with what was seen in it and what earlier rounds left open.
#[utoipa::path(get, path = "/api/rounds/{id}", responses((status = 200, body = RoundView), (status = 404, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<RoundView>, ApiError> {
    let round = state.store.round(id).await?;
    let order: OrderView = state.store.order(round.order_id).await?.into();
    let seen = state.store.observations(round.order_id).await?;
    let versions = match order.pattern_id {
        Some(pattern) => state.store.versions(pattern).await?,
        None => Vec::new(),
    };
    let (own, before): (Vec<_>, Vec<_>) =
        seen.into_iter().filter(|o| o.round <= round.number).partition(|o| o.round_id == id);
    let earlier = before.into_iter().filter(|o| was_open_before(o, round.number));
    let body = body_of_client(&state.store, order.client_id).await?;
    Ok(Json(RoundView {
        front: draw_figure(View::Front, &body),
        back: draw_figure(View::Back, &body),
        places: places_on(&body),
        observations: own.into_iter().map(|o| view(o, style)).collect(),
        earlier: earlier.map(|o| view(o, style)).collect(),
        versions: versions.into_iter().map(VersionView::from).collect(),
        order,
        id: round.id,
        number: round.number,
        version: round.version,
        version_id: round.version_id,
        worn: round.worn,
        comfort: round.comfort,
        opened_by: round.opened_by,
        opened_at: round.opened_at,
        closed_at: round.closed_at,
        made_version: round.made_version,
    }))
}

/// Whether an observation was still open when a round began.
fn was_open_before(row: &ObservationRow, round: u32) -> bool {
    let last = row.marks.iter().filter(|m| m.round < round).map(|m| m.mark).next_back();
    is_open(row.decision.as_ref(), last)
}

/// Keeps an observation.
#[utoipa::path(post, path = "/api/rounds/{id}/observations", request_body = ObservationEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn observe(
    State(state): State<AppState>,
    writer: Writer,
    HouseStyle(style): HouseStyle,
    Id(round): Id,
    Doc(entry): Doc<ObservationEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let seen = entry.checked(style)?;
    let id = state.store.observe(round, &seen, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Decides an observation.
#[utoipa::path(put, path = "/api/observations/{id}/decision", request_body = Based<DecisionChange>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn decide(
    State(state): State<AppState>,
    writer: Writer,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    Doc(based): Doc<Based<DecisionChange>>,
) -> Result<StatusCode, ApiError> {
    let decision = match based.change.decision {
        Decision::Alter { alteration: code, amounts } => {
            let known = alteration(&code).ok_or_else(|| {
                ApiError::field("/decision/alteration", format!("no alteration is called “{code}”"))
            })?;
            amounts
                .validate(known.params(), style)
                .map_err(|error| ApiError::field("/decision/amounts", error.to_string()))?;
            Decision::Alter { alteration: code, amounts }
        }
        Decision::Leave { reason } => {
            Decision::Leave { reason: words("/decision/reason", "The reason", &reason, 400)? }
        }
        Decision::Watch => Decision::Watch,
    };
    state.store.decide(id, &decision, based.revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Marks what an earlier observation has become.
#[utoipa::path(put, path = "/api/rounds/{id}/marks", request_body = MarkEntry, responses(
    (status = 204), (status = 409, body = Problem)))]
async fn mark(
    State(state): State<AppState>,
    writer: Writer,
    Id(round): Id,
    Doc(entry): Doc<MarkEntry>,
) -> Result<StatusCode, ApiError> {
    state.store.mark(round, entry.observation_id, entry.mark, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Keeps her words on comfort.
#[utoipa::path(put, path = "/api/rounds/{id}/comfort", request_body = ComfortEntry, responses(
    (status = 204), (status = 409, body = Problem)))]
async fn comfort(
    State(state): State<AppState>,
    writer: Writer,
    Id(round): Id,
    Doc(entry): Doc<ComfortEntry>,
) -> Result<StatusCode, ApiError> {
    let said = optional_words("/words", "Her words", &entry.words, 1000)?;
    state.store.set_comfort(round, &said, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Closes a round. Decided alterations are added to the recipe and become the next version of the pattern.
#[utoipa::path(post, path = "/api/rounds/{id}/close", responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn close(
    State(state): State<AppState>,
    writer: Writer,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let round = state.store.round(id).await?;
    let seen = state.store.observations(round.order_id).await?;
    let own: Vec<&ObservationRow> = seen.iter().filter(|o| o.round_id == id).collect();
    let undecided = own.iter().filter(|o| o.decision.is_none()).count();
    if undecided > 0 {
        let says =
            format!("{undecided} of {} observations are not decided: alter, leave or watch each", own.len());
        return Err(ApiError::field("/observations", says));
    }
    let unmarked = seen.iter().filter(|o| o.round < round.number && was_open_before(o, round.number));
    let unmarked = unmarked.filter(|o| o.marks.iter().all(|m| m.round != round.number)).count();
    if unmarked > 0 {
        let says = format!(
            "{unmarked} earlier observations are not marked: say whether each is gone, better, same or worse"
        );
        return Err(ApiError::field("/earlier", says));
    }
    let pattern_id = state.store.order(round.order_id).await?.pattern_id;
    let pattern_id =
        pattern_id.ok_or_else(|| ApiError::NotFound("this garment has no pattern".to_owned()))?;
    let pattern = state.store.pattern(pattern_id).await?;
    let recipe = with_decisions(&round, &own, fitted_recipe(&state, &round).await?);
    let made = if own.iter().any(|o| matches!(o.decision, Some(Decision::Alter { .. }))) {
        Some(version_of(&pattern, recipe, format!("Decided in fitting round {}.", round.number), style)?)
    } else {
        None
    };
    state.store.close_round(id, pattern_id, pattern.revision, made.as_ref(), writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The recipe of the version that was on the body: decisions are made about that, not about later tries.
async fn fitted_recipe(state: &AppState, round: &RoundRow) -> Result<Recipe, ApiError> {
    Ok(state.store.version(round.version_id).await?.recipe)
}

fn with_decisions(round: &RoundRow, own: &[&ObservationRow], recipe: Recipe) -> Recipe {
    own.iter().fold(recipe, |recipe, seen| match &seen.decision {
        Some(Decision::Alter { alteration, amounts }) => {
            let reason = format!(
                "Round {}: {} at {}.",
                round.number,
                seen.seen.kind.name().to_lowercase(),
                seen.seen.place
            );
            recipe.and(alteration, amounts.clone(), &reason)
        }
        _ => recipe,
    })
}
