//! `/api/blocks/{id}/trace`: a nest traced at her figure.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::nest::{TraceBy, TraceDot, Traced, trace};
use yardwand_core::pattern::{PieceDrawing, PieceKind, draw_pattern};
use yardwand_core::{Length, Style};
use yardwand_store::{BlockRow, How, NewBlock};

use super::blocks::{DrawnBlock, drawn};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::body_of_client;
use crate::rights::Cutting;
use crate::views::{Made, sentence, words};

/// What to trace.
#[derive(Clone, Debug, Deserialize, ToSchema)]
struct TraceAsk {
    /// The girth that chooses.
    #[serde(default)]
    by: TraceBy,
    /// The girth as typed; hers if left out.
    #[serde(default)]
    girth: Option<String>,
    /// The client it is for; none for a block of the house between its sizes.
    #[serde(default)]
    client: Option<u64>,
    /// Whether the shoulder is set to hers.
    #[serde(default)]
    shoulder: bool,
}

#[derive(Deserialize, ToSchema)]
struct TraceEntry {
    #[serde(flatten)]
    ask: TraceAsk,
    why: String,
}

/// A trace to look at. Nothing is kept, the master least of all.
#[derive(Serialize, ToSchema)]
struct TracePreview {
    says: String,
    drawn: DrawnBlock,
    /// Every corner of every size; those it did not pass are crossed out.
    dots: Vec<TraceDot>,
    /// From dot to dot over the sizes.
    lines: Vec<NestLine>,
    /// The sizes it passed between, drawn.
    around: Vec<NestSize>,
}

#[derive(Serialize, ToSchema)]
struct NestLine {
    piece: PieceKind,
    path: String,
}

#[derive(Serialize, ToSchema)]
#[schema(as = NestSizeDrawing)]
struct NestSize {
    size: String,
    pieces: Vec<PieceDrawing>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(preview)).routes(routes!(keep))
}

async fn traced(
    state: &AppState,
    block: &BlockRow,
    ask: &TraceAsk,
    style: Style,
) -> Result<Traced, ApiError> {
    let body = match ask.client {
        Some(client) => body_of_client(&state.store, client).await?,
        None => Body::default(),
    };
    let girth = match ask.girth.as_deref().map(str::trim).filter(|text| !text.is_empty()) {
        Some(text) => Length::read(text, style.unit())
            .map_err(|error| ApiError::field("/girth", error.to_string()))?
            .length
            .mm(),
        None => body.get(ask.by.code()).ok_or_else(|| {
            let way = if ask.client.is_some() { "measure it, or type the girth" } else { "type the girth" };
            ApiError::field("/girth", format!("there is no {} to trace by: {way}", ask.by.name()))
        })?,
    };
    let shoulder = if ask.shoulder {
        let hers = body.get("shoulder_length").ok_or_else(|| {
            ApiError::field(
                "/shoulder",
                "her shoulder length is not measured: measure it, or leave the shoulder as traced",
            )
        })?;
        Some(hers)
    } else {
        None
    };
    trace(&block.sizes, ask.by, girth, shoulder, style)
        .map_err(|error| ApiError::field("/girth", sentence(&error.to_string())))
}

/// Traces a nest between its sizes: nothing is kept.
#[utoipa::path(post, path = "/api/blocks/{id}/trace", request_body = TraceAsk, responses(
    (status = 200, body = TracePreview), (status = 422, body = Problem)))]
async fn preview(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(ask): JsonBody<TraceAsk>,
) -> Result<Json<TracePreview>, ApiError> {
    let block = state.store.block(id).await?;
    let found = traced(&state, &block, &ask, style).await?;
    let used = |size: &&BlockSize| found.dots.iter().any(|dot| dot.used && dot.size == size.label);
    let around = block.sizes.iter().filter(used).filter_map(|size| {
        Some(NestSize { size: size.label.clone(), pieces: draw_pattern(size.pattern()?, style) })
    });
    Ok(Json(TracePreview {
        around: around.collect(),
        drawn: drawn(&found.pattern, Vec::new(), None, style),
        dots: found.dots,
        lines: found.lines.into_iter().map(|(piece, path)| NestLine { piece, path }).collect(),
        says: found.says,
    }))
}

/// Keeps a trace as a block of its own. The master stays as it is.
#[utoipa::path(post, path = "/api/blocks/{id}/traces", request_body = TraceEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<TraceEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let why = words("/why", "The reason", &entry.why, 400)?;
    let block = state.store.block(id).await?;
    let found = traced(&state, &block, &entry.ask, style).await?;
    let name = match entry.ask.client {
        Some(client) => format!("{}, traced block", state.store.client(client).await?.name),
        None => format!("{}, traced", block.summary.name),
    };
    let new = NewBlock {
        name,
        client_id: entry.ask.client,
        how: How::Traced,
        told: found.says,
        parent_id: Some(id),
        method: block.method,
        ease_set: block.ease_set,
        why,
        // Drafted for what it was traced at, with the master's own cup: not for her other readings.
        sizes: vec![BlockSize::drawn("traced", found.figure, found.pattern)],
    };
    let id = state.store.add_block(&new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
