//! What the cutting table looks at besides the recipe itself: seams walked along each other, two states of a
//! pattern beside each other, and the worksheet.

use std::collections::BTreeSet;

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{FigureRow, Recipe, figures_beside, make};
use yardwand_core::pattern::{Pattern, PieceDrawing, Walk, draw_pattern, walks};
use yardwand_store::PatternRow;

use super::patterns::{block_words, checked};
use super::print::OnPaper;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString};
use crate::sheets::recipe_sheet;
use crate::views::attached;

#[derive(Deserialize, ToSchema)]
struct WalkAsked {
    recipe: Recipe,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct BesideAsked {
    /// `block`, `now`, or the number of a version.
    one: String,
    /// The same for what is laid on it.
    other: String,
}

/// A state of a pattern: the block, a version, or the recipe as it stands.
#[derive(Serialize, ToSchema)]
struct PatternState {
    name: String,
    why: String,
    pieces: Vec<PieceDrawing>,
}

/// Two states of a pattern, drawn and by their figures.
#[derive(Serialize, ToSchema)]
struct StatesView {
    one: PatternState,
    other: PatternState,
    figures: Vec<FigureRow>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(walk)).routes(routes!(beside)).routes(routes!(sheet))
}

/// Every pair of seams that is sewn together, walked along each other as a recipe leaves them: nothing is kept.
#[utoipa::path(post, path = "/api/patterns/{id}/walks", request_body = WalkAsked, responses(
    (status = 200, body = Vec<Walk>), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn walk(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(asked): JsonBody<WalkAsked>,
) -> Result<Json<Vec<Walk>>, ApiError> {
    checked(&asked.recipe, style)?;
    let pattern = state.store.pattern(id).await?;
    Ok(Json(walks(&make(&pattern.block, &asked.recipe, style).pattern, style)))
}

/// Two states of a pattern beside each other.
#[utoipa::path(get, path = "/api/patterns/{id}/beside", params(BesideAsked), responses(
    (status = 200, body = StatesView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn beside(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<BesideAsked>,
) -> Result<Json<StatesView>, ApiError> {
    let row = state.store.pattern(id).await?;
    let (one, one_state) = state_of(&state, &row, "/one", &asked.one, style).await?;
    let (other, other_state) = state_of(&state, &row, "/other", &asked.other, style).await?;
    Ok(Json(StatesView { figures: figures_beside(&one, &other, style), one: one_state, other: other_state }))
}

async fn state_of(
    state: &AppState,
    row: &PatternRow,
    pointer: &str,
    asked: &str,
    style: Style,
) -> Result<(Pattern, PatternState), ApiError> {
    let (pattern, name, why) = match asked {
        "block" => (row.block.clone(), "The block".to_owned(), row.block_name.clone()),
        "now" => {
            let made = make(&row.block, &row.recipe, style);
            let names: BTreeSet<String> =
                made.altered_for().into_iter().flat_map(|each| each.names).collect();
            let why = names.into_iter().collect::<Vec<_>>().join(", ");
            (made.pattern, "The recipe now".to_owned(), why)
        }
        number => {
            let versions = state.store.versions(row.id).await?;
            let wanted = number.parse::<u32>().ok();
            let found =
                versions.into_iter().find(|version| Some(version.version) == wanted).ok_or_else(|| {
                    ApiError::field(
                        pointer,
                        format!("this pattern has no version {number}: choose one of its own"),
                    )
                })?;
            (found.pattern, format!("Version {}", found.version), found.why)
        }
    };
    let view = PatternState { name, why, pieces: draw_pattern(&pattern, style) };
    Ok((pattern, view))
}

/// The recipe as a worksheet: for shears, tape and paper, a drawing a stage.
#[utoipa::path(get, path = "/api/patterns/{id}/worksheet.pdf", params(OnPaper), responses(
    (status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem)))]
async fn sheet(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<OnPaper>,
) -> Result<Response, ApiError> {
    let row = state.store.pattern(id).await?;
    let order = state.store.order(row.order_id).await?.order;
    let made = make(&row.block, &row.recipe, style);
    let under = format!("{}, {}. {}.", order.client, order.garment, block_words(&row));
    let pdf = recipe_sheet(&under, &row.block, &made, style, asked.paper.into())?;
    Ok(attached("application/pdf", "worksheet.pdf", pdf))
}
