//! `/api/blocks`: house masters and clients' own blocks.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::body::ProfileFigure;
use yardwand_core::compare::{BlockSize, EaseSet, ease_set};
use yardwand_core::draft::{Direct, Draft, DraftError, DraftNote, draft_direct};
use yardwand_core::pattern::{Check, PieceDrawing, check_pattern, draw_pattern, measure};
use yardwand_store::{BlockSummary, NewBlock};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Ask, Doc, HouseStyle, Id, Writer};
use crate::figures::{body_of_client, name_of, profile_of_client};
use crate::views::{Made, words};

#[derive(Serialize, ToSchema)]
pub(super) struct BlockView {
    pub(super) id: u64,
    pub(super) name: String,
    pub(super) client_id: Option<u64>,
    pub(super) version: u32,
    pub(super) why: String,
    pub(super) made_by: String,
    pub(super) made_at: DateTime<Utc>,
}

impl From<BlockSummary> for BlockView {
    fn from(row: BlockSummary) -> Self {
        Self {
            id: row.id,
            name: row.name,
            client_id: row.client_id,
            version: row.version,
            why: row.why,
            made_by: row.made_by,
            made_at: row.made_at,
        }
    }
}

/// A figure of a drafted block.
#[derive(Serialize, ToSchema)]
struct MeasuredRow {
    name: String,
    text: String,
}

/// A block drawn.
#[derive(Serialize, ToSchema)]
struct DrawnBlock {
    pieces: Vec<PieceDrawing>,
    figures: Vec<MeasuredRow>,
    checks: Vec<Check>,
    notes: Vec<DraftNote>,
}

#[derive(Serialize, ToSchema)]
struct SizeView {
    label: String,
    /// Bust of the figure it was drafted for.
    bust: String,
    drawn: DrawnBlock,
}

#[derive(Serialize, ToSchema)]
struct BlockDetail {
    block: BlockView,
    ease: String,
    sizes: Vec<SizeView>,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct WhoseBlocks {
    /// Own blocks of this client too.
    client: Option<u64>,
}

#[derive(Deserialize, ToSchema)]
struct OwnBlockEntry {
    /// The ease set; the house's own if left out.
    #[serde(default)]
    ease_set: Option<String>,
    #[serde(default)]
    why: String,
}

/// A draft from a client's own readings: drawn, or refused with the readings concerned.
#[derive(Serialize, ToSchema)]
struct OwnDraft {
    drawn: Option<DrawnBlock>,
    refused: Option<String>,
    /// Codes of the readings to look at.
    readings: Vec<String>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(get))
        .routes(routes!(draft_own))
        .routes(routes!(keep_own))
}

fn drawn(pattern: &yardwand_core::pattern::Pattern, notes: Vec<DraftNote>, style: Style) -> DrawnBlock {
    let row = |(figure, mm): (yardwand_core::pattern::Figure, f64)| MeasuredRow {
        name: figure.name().to_owned(),
        text: style.with_unit(mm),
    };
    DrawnBlock {
        pieces: draw_pattern(pattern, style),
        figures: measure(pattern).iter().map(row).collect(),
        checks: check_pattern(pattern, style),
        notes,
    }
}

/// House masters, and a client's own blocks where one is named.
#[utoipa::path(get, path = "/api/blocks", params(WhoseBlocks), responses((status = 200, body = Vec<BlockView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    Ask(whose): Ask<WhoseBlocks>,
) -> Result<Json<Vec<BlockView>>, ApiError> {
    let rows = state.store.blocks(whose.client).await?;
    Ok(Json(rows.into_iter().map(BlockView::from).collect()))
}

/// A block, drawn in every size.
#[utoipa::path(get, path = "/api/blocks/{id}", responses((status = 200, body = BlockDetail), (status = 404, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<BlockDetail>, ApiError> {
    let block = state.store.block(id).await?;
    let size = |size: BlockSize| SizeView {
        bust: size.figure.get("bust_girth").map_or_else(String::new, |mm| style.with_unit(mm)),
        drawn: drawn(&size.pattern, Vec::new(), style),
        label: size.label,
    };
    Ok(Json(BlockDetail {
        ease: ease_set(&block.ease_set).map_or(block.ease_set, |set| set.name.clone()),
        sizes: block.sizes.into_iter().map(size).collect(),
        block: block.summary.into(),
    }))
}

async fn own_draft(
    state: &AppState,
    client: u64,
    ease: &EaseSet,
    style: Style,
) -> Result<(yardwand_core::body::Body, Direct, Result<Draft, DraftError>), ApiError> {
    state.store.client(client).await?;
    let body = body_of_client(&state.store, client).await?;
    let method = Direct { ease: ease.for_draft(), ..Direct::default() };
    let draft = draft_direct(&body, &method, style);
    Ok((body, method, draft))
}

async fn ease_of(state: &AppState, asked: Option<&str>) -> Result<&'static EaseSet, ApiError> {
    let house = state.store.house().await?.ease_set;
    let code = asked.unwrap_or(&house);
    ease_set(code).ok_or_else(|| ApiError::field("/ease_set", format!("no ease set is called “{code}”")))
}

/// Drafts a block from a client's own readings by the direct method: nothing is kept.
#[utoipa::path(get, path = "/api/clients/{id}/draft", responses((status = 200, body = OwnDraft)))]
async fn draft_own(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(client): Id,
) -> Result<Json<OwnDraft>, ApiError> {
    let ease = ease_of(&state, None).await?;
    let (_, method, draft) = own_draft(&state, client, ease, style).await?;
    let (draft, error) = match draft {
        Ok(draft) => (Some(draft), None),
        Err(DraftError::Missing(codes)) => {
            let previewed = estimated_draft(&state, client, &codes, &method, style).await?;
            (previewed, Some(DraftError::Missing(codes)))
        }
        Err(error) => (None, Some(error)),
    };
    let readings = error.iter().flat_map(DraftError::measurements).map(str::to_owned).collect();
    Ok(Json(OwnDraft {
        drawn: draft.map(|draft| drawn(&draft.pattern, draft.notes, style)),
        refused: error.as_ref().map(refusal),
        readings,
    }))
}

/// A draft with the missing readings estimated from the others: to look at, never to keep. `None` where they cannot be.
async fn estimated_draft(
    state: &AppState,
    client: u64,
    missing: &[String],
    method: &Direct,
    style: Style,
) -> Result<Option<Draft>, ApiError> {
    let profile = profile_of_client(&state.store, client).await?.with_estimates(missing);
    let estimates: Vec<&ProfileFigure> = profile.0.iter().filter(|figure| figure.estimated).collect();
    let body = estimates.iter().fold(profile.body(), |body, figure| match figure.mm {
        Some(mm) => body.with(&figure.code, mm),
        None => body,
    });
    let Ok(mut draft) = draft_direct(&body, method, style) else { return Ok(None) };
    let note = |figure: &&ProfileFigure| DraftNote {
        says: format!(
            "{} is taken as {}, give or take {}: measure it before cutting.",
            name_of(&figure.code),
            style.with_unit(figure.mm.unwrap_or_default()),
            style.with_unit(figure.give_mm)
        ),
        measurement: Some(figure.code.clone()),
        estimated: true,
    };
    draft.notes.splice(0..0, estimates.iter().map(note));
    Ok(Some(draft))
}

/// A refusal with measurements by name instead of by code.
pub(super) fn refusal(error: &DraftError) -> String {
    let text = match error {
        DraftError::Missing(codes) => {
            let name = |code: &String| {
                yardwand_core::body::measurement(code)
                    .map_or_else(|| code.clone(), |row| row.name.to_lowercase())
            };
            format!("the draft still wants {}", codes.iter().map(name).collect::<Vec<_>>().join(", "))
        }
        other => other.to_string(),
    };
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| format!("{}{}.", first.to_uppercase(), chars.as_str()))
}

/// Keeps a block drafted from a client's own readings.
#[utoipa::path(post, path = "/api/clients/{id}/blocks", request_body = OwnBlockEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_own(
    State(state): State<AppState>,
    writer: Writer,
    HouseStyle(style): HouseStyle,
    Id(client): Id,
    Doc(entry): Doc<OwnBlockEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let ease = ease_of(&state, entry.ease_set.as_deref()).await?;
    let name = state.store.client(client).await?.name;
    let (figure, method, draft) = own_draft(&state, client, ease, style).await?;
    let draft = draft.map_err(|error| ApiError::field("/readings", refusal(&error)))?;
    let why = if entry.why.trim().is_empty() {
        "Drafted from her own readings.".to_owned()
    } else {
        words("/why", "The reason", &entry.why, 400)?
    };
    let block = NewBlock {
        name: format!("{name}, own block"),
        client_id: Some(client),
        method,
        ease_set: ease.code.clone(),
        why,
        sizes: vec![BlockSize { label: "own".to_owned(), figure, pattern: draft.pattern }],
    };
    let id = state.store.add_block(&block, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
