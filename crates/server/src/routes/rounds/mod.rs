//! `/api/rounds`: the fitting room.

mod aside;
mod causes;
mod evidence;
mod observations;
mod photographs;

use std::convert::Infallible;
use std::time::Duration;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive};
use chrono::{DateTime, Utc};
use futures_util::Stream;
use futures_util::stream::unfold;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::Recipe;
use yardwand_core::body::{FigureDrawing, View, draw_figure};
use yardwand_core::fitting::{
    Decision, PlaceOnFigure, PlaceOnPiece, Posture, cause, places_on, places_on_pieces,
};
use yardwand_core::pattern::{PieceDrawing, draw_pattern};
use yardwand_store::{NewRound, ObservationRow, PhotographRow, RoundRow, RoundStage};

use super::patterns::version_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Doc, HouseStyle, Id, Writer};
use crate::figures::body_of_client;
use crate::views::{Made, OrderView, VersionView, optional_words};

pub(super) use aside::{BalanceLineView, line_view};
pub(super) use observations::{ObservationView, observation_view, was_open_before};

/// How often a stream looks.
const LOOK: Duration = Duration::from_millis(250);
/// A stream ends after so many looks: the browser comes back, and its sign-in is asked for again.
const LOOKS: u32 = 2400;

/// What is fitted.
#[derive(Clone, Copy, Debug, Default, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(super) enum FittingStage {
    /// A toile.
    #[default]
    Toile,
    /// Basted cloth.
    Cloth,
    /// The last fitting.
    Final,
}

impl From<RoundStage> for FittingStage {
    fn from(stage: RoundStage) -> Self {
        match stage {
            RoundStage::Toile => Self::Toile,
            RoundStage::Cloth => Self::Cloth,
            RoundStage::Final => Self::Final,
        }
    }
}

impl From<FittingStage> for RoundStage {
    fn from(stage: FittingStage) -> Self {
        match stage {
            FittingStage::Toile => Self::Toile,
            FittingStage::Cloth => Self::Cloth,
            FittingStage::Final => Self::Final,
        }
    }
}

#[derive(Deserialize, ToSchema)]
struct RoundEntry {
    /// The version on the body; the newest if left out.
    #[serde(default)]
    version_id: Option<u64>,
    #[serde(default)]
    stage: FittingStage,
    #[serde(default)]
    worn: String,
}

/// A photograph in a list; the picture itself is at `/api/photographs/{id}`.
#[derive(Serialize, ToSchema)]
pub(super) struct PhotographView {
    pub(super) id: u64,
    pub(super) observation_id: Option<u64>,
    pub(super) width: u32,
    pub(super) height: u32,
    pub(super) taken_at: DateTime<Utc>,
}

impl From<PhotographRow> for PhotographView {
    fn from(row: PhotographRow) -> Self {
        Self {
            id: row.id,
            observation_id: row.observation_id,
            width: row.width,
            height: row.height,
            taken_at: row.taken_at,
        }
    }
}

#[derive(Serialize, ToSchema)]
struct RoundView {
    id: u64,
    number: u32,
    stage: FittingStage,
    order: OrderView,
    version: u32,
    version_id: u64,
    worn: String,
    comfort: String,
    postures: Vec<Posture>,
    pins_out: Option<u32>,
    pins_back: Option<u32>,
    opened_by: String,
    opened_at: DateTime<Utc>,
    closed_at: Option<DateTime<Utc>>,
    made_version: Option<u32>,
    observations: Vec<ObservationView>,
    /// Observations of earlier rounds that were still open, to be marked.
    earlier: Vec<ObservationView>,
    lines: Vec<BalanceLineView>,
    photographs: Vec<PhotographView>,
    versions: Vec<VersionView>,
    /// Her own figure, to point at.
    front: FigureDrawing,
    back: FigureDrawing,
    side: FigureDrawing,
    places: Vec<PlaceOnFigure>,
    /// The version on the body, to point at.
    pieces: Vec<PieceDrawing>,
    piece_places: Vec<PlaceOnPiece>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list, open))
        .routes(routes!(get))
        .routes(routes!(close))
        .routes(routes!(events))
        .merge(observations::routes())
        .merge(aside::routes())
        .merge(causes::routes())
        .merge(photographs::routes())
}

/// A round as a mark on the wand.
#[derive(Serialize, ToSchema)]
struct RoundMark {
    id: u64,
    number: u32,
    closed: bool,
}

/// The rounds of a garment, oldest first.
#[utoipa::path(get, path = "/api/orders/{id}/rounds", responses((status = 200, body = Vec<RoundMark>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    Id(order): Id,
) -> Result<Json<Vec<RoundMark>>, ApiError> {
    let rounds = state.store.rounds(order).await?;
    let mark = |r: RoundRow| RoundMark { id: r.id, number: r.number, closed: r.closed_at.is_some() };
    Ok(Json(rounds.into_iter().map(mark).collect()))
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
    let version_id = newest.ok_or_else(|| {
        ApiError::field("/version_id", "there is no version to fit: save a version of the pattern first")
    })?;
    let new = NewRound { version_id, stage: entry.stage.into(), worn };
    let id = state.store.open_round(order, &new, writer.once()).await?;
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
    let on_body = state.store.version(round.version_id).await?;
    let (own, before): (Vec<_>, Vec<_>) =
        seen.into_iter().filter(|o| o.round <= round.number).partition(|o| o.round_id == id);
    let earlier = before.into_iter().filter(|o| was_open_before(o, round.number));
    let body = body_of_client(&state.store, order.client_id).await?;
    let lines = state.store.balances(round.order_id).await?;
    let photographs = state.store.photographs(round.order_id).await?;
    Ok(Json(RoundView {
        front: draw_figure(View::Front, &body),
        back: draw_figure(View::Back, &body),
        side: draw_figure(View::Side, &body),
        places: places_on(&body),
        pieces: draw_pattern(&on_body.pattern, style),
        piece_places: places_on_pieces(&on_body.pattern),
        observations: own.into_iter().map(|o| observation_view(o, style)).collect(),
        earlier: earlier.map(|o| observation_view(o, style)).collect(),
        lines: lines.iter().filter(|line| line.round_id == id).map(|line| line_view(line, style)).collect(),
        photographs: photographs.into_iter().filter(|p| p.round_id == id).map(Into::into).collect(),
        versions: versions.into_iter().map(VersionView::from).collect(),
        order,
        id: round.id,
        number: round.number,
        stage: round.stage.into(),
        version: round.version,
        version_id: round.version_id,
        worn: round.worn,
        comfort: round.comfort,
        postures: round.postures,
        pins_out: round.pins_out,
        pins_back: round.pins_back,
        opened_by: round.opened_by,
        opened_at: round.opened_at,
        closed_at: round.closed_at,
        made_version: round.made_version,
    }))
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
            "{unmarked} earlier observations are not marked: say whether each is gone, better, same, worse or moved"
        );
        return Err(ApiError::field("/earlier", says));
    }
    if let (Some(out), back) = (round.pins_out, round.pins_back.unwrap_or(0))
        && back < out
    {
        let says = format!("{} of {out} pins are not back: look for them before she dresses", out - back);
        return Err(ApiError::field("/pins_back", says));
    }
    if let Some((title, first, second)) = decided_twice(&own) {
        let says = format!(
            "“{title}” is decided both for “{}” and for “{}”, and would alter the pattern twice: watch one of them",
            first.seen.said(),
            second.seen.said()
        );
        return Err(ApiError::field("/observations", says));
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

/// Two observations decided for the same cause on the same side: one cause shows in several places and is answered once.
fn decided_twice<'a>(
    own: &[&'a ObservationRow],
) -> Option<(&'static str, &'a ObservationRow, &'a ObservationRow)> {
    let key = |row: &ObservationRow| match &row.decision {
        Some(Decision::Alter { cause: Some(cause), side, .. }) => Some((cause.clone(), *side)),
        _ => None,
    };
    own.iter().enumerate().find_map(|(index, first)| {
        let of_first = key(first)?;
        let second = own[index + 1..].iter().find(|second| key(second).as_ref() == Some(&of_first))?;
        let title = cause(&of_first.0).map_or("the same cause", |cause| cause.title.as_str());
        Some((title, *first, *second))
    })
}

/// The recipe of the version that was on the body: decisions are made about that, not about later tries.
async fn fitted_recipe(state: &AppState, round: &RoundRow) -> Result<Recipe, ApiError> {
    Ok(state.store.version(round.version_id).await?.recipe)
}

fn with_decisions(round: &RoundRow, own: &[&ObservationRow], recipe: Recipe) -> Recipe {
    own.iter().fold(recipe, |recipe, seen| match &seen.decision {
        Some(Decision::Alter { alteration, amounts, side, .. }) => {
            let reason = format!("Round {}: {}.", round.number, seen.seen.said().to_lowercase());
            let recipe = recipe.and(alteration, amounts.clone(), &reason);
            match side {
                Some(side) => recipe.on_one_side(*side),
                None => recipe,
            }
        }
        _ => recipe,
    })
}

#[derive(Serialize)]
struct RoundChanged {
    changes: u32,
}

struct Watch {
    state: AppState,
    round: u64,
    changes: Option<u32>,
    looks: u32,
}

/// Tells whenever something was entered in a round: read it anew.
#[utoipa::path(get, path = "/api/rounds/{id}/events", responses(
    (status = 200, content_type = "text/event-stream"), (status = 404, body = Problem)))]
async fn events(
    State(state): State<AppState>,
    _: SignedIn,
    Id(round): Id,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    state.store.round_changes(round).await?;
    let watch = Watch { state, round, changes: None, looks: 0 };
    Ok(Sse::new(unfold(watch, next)).keep_alive(KeepAlive::new().interval(Duration::from_secs(15))))
}

async fn next(mut watch: Watch) -> Option<(Result<Event, Infallible>, Watch)> {
    loop {
        let changes = watch.state.store.round_changes(watch.round).await.ok()?;
        if watch.changes != Some(changes) {
            watch.changes = Some(changes);
            let data = serde_json::to_string(&RoundChanged { changes }).unwrap_or_default();
            return Some((Ok(Event::default().event("round").data(data)), watch));
        }
        watch.looks += 1;
        if watch.looks > LOOKS {
            return None;
        }
        tokio::select! {
            () = tokio::time::sleep(LOOK) => {}
            () = watch.state.live.stopped() => return None,
        }
    }
}
