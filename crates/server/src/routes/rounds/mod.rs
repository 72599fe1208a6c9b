//! `/api/rounds`: the fitting room.

mod aside;
mod causes;
mod closing;
mod evidence;
mod observations;
mod photographs;

use std::convert::Infallible;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Sse;
use axum::response::sse::Event;
use chrono::{DateTime, Utc};
use futures_util::Stream;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{BodyDrawing, View, draw_body};
use yardwand_core::fitting::{PlaceOnFigure, PlaceOnPiece, Posture, places_on, places_on_pieces};
use yardwand_core::pattern::{PieceDrawing, draw_pattern};
use yardwand_store::{NewRound, Now, PhotographRow, RoundRow, RoundStage};

use crate::AppState;
use crate::auth::{SignedIn, SignedInBy};
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::body_of_client;
use crate::live::{About, Next, Watched, event};
use crate::rights::Fitting;
use crate::views::{Made, OrderView, VersionView, optional_words};

pub(super) use aside::{BalanceLineView, line_view};
pub(super) use photographs::{PhotographStroke, PictureBytes, new_photograph};

pub(super) use observations::{ObservationView, observation_view};

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

impl FittingStage {
    /// All of them, in the order of a garment's life.
    pub(in crate::routes) const ALL: [Self; 3] = [Self::Toile, Self::Cloth, Self::Final];

    /// In the trade's words.
    pub(in crate::routes) const fn name(self) -> &'static str {
        match self {
            Self::Toile => "toile",
            Self::Cloth => "basted cloth",
            Self::Final => "final fitting",
        }
    }
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
    /// What was drawn on it.
    strokes: Vec<PhotographStroke>,
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
            strokes: row.strokes.into_iter().map(Into::into).collect(),
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
    front: BodyDrawing,
    back: BodyDrawing,
    side: BodyDrawing,
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
        .routes(routes!(events))
        .merge(observations::routes())
        .merge(aside::routes())
        .merge(causes::routes())
        .merge(closing::routes())
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
    writer: Writer<Fitting>,
    Id(order): Id,
    JsonBody(entry): JsonBody<RoundEntry>,
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
    let (store, of) = (&state.store, round.order_id);
    let (order, seen, on_body, lines, photographs) = tokio::try_join!(
        store.order(of),
        store.observations(of),
        store.version(round.version_id),
        store.balances(of),
        store.photographs(of)
    )?;
    let order: OrderView = order.into();
    let versions = async {
        match order.pattern_id {
            Some(pattern) => Ok(store.versions(pattern).await?),
            None => Ok(Vec::new()),
        }
    };
    let (versions, body) = tokio::try_join!(versions, body_of_client(store, order.client_id))?;
    let (own, before): (Vec<_>, Vec<_>) =
        seen.into_iter().filter(|o| o.round <= round.number).partition(|o| o.round_id == id);
    let earlier = before.into_iter().filter(|o| o.noted().was_open_before(round.number));
    Ok(Json(RoundView {
        front: draw_body(View::Front, &body),
        back: draw_body(View::Back, &body),
        side: draw_body(View::Side, &body),
        places: places_on(&body),
        pieces: draw_pattern(&on_body.pattern, style),
        piece_places: places_on_pieces(&on_body.pattern),
        observations: own.into_iter().map(|o| observation_view(o, style)).collect(),
        earlier: earlier.map(|o| observation_view(o, style)).collect(),
        lines: lines.iter().filter(|line| line.round_id == id).map(|line| line_view(line, style)).collect(),
        photographs: photographs.into_iter().filter(|p| p.round_id == Some(id)).map(Into::into).collect(),
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

#[derive(Serialize)]
struct RoundChanged {
    changes: u32,
}

struct Watch {
    round: u64,
    changes: Option<u32>,
}

impl Watched for Watch {
    fn about(&self) -> About {
        About::Round(self.round)
    }

    fn look(&mut self, now: &Now) -> Next {
        match now.rounds.get(&self.round) {
            None => Next::Wait,
            Some(None) => Next::End,
            Some(Some(changes)) if self.changes.replace(*changes) == Some(*changes) => Next::Wait,
            Some(Some(changes)) => Next::Tell(event("round", &RoundChanged { changes: *changes })),
        }
    }
}

/// Tells whenever something was entered in a round: read it anew.
#[utoipa::path(get, path = "/api/rounds/{id}/events", responses(
    (status = 200, content_type = "text/event-stream"), (status = 404, body = Problem)))]
async fn events(
    State(state): State<AppState>,
    SignedInBy(sign_in): SignedInBy,
    Id(round): Id,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    state.store.round_changes(round).await?;
    let watch = Watch { round, changes: None };
    Ok(state.live.events(&state.store, watch, sign_in))
}
