//! `/api/orders/{id}/beside/{other}`: two garments compared, as they are cut.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{FigureRow, Recipe, figures_beside};
use yardwand_core::pattern::{Pattern, PieceDrawing, draw_pattern};

use super::story::said;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, InPath};
use crate::views::OrderView;

/// One of the two garments.
#[derive(Serialize, ToSchema)]
struct GarmentBeside {
    order: OrderView,
    /// The block it was begun from.
    block_name: String,
    /// The version that is compared; 0 where none was saved, and the pattern in hand is.
    version: u32,
    pieces: Vec<PieceDrawing>,
}

/// A step of one or both of the recipes.
#[derive(Serialize, ToSchema)]
struct StepBeside {
    /// What is done here; none where it is not.
    here: Option<String>,
    there: Option<String>,
}

/// Two garments beside each other.
#[derive(Serialize, ToSchema)]
struct BesideView {
    here: GarmentBeside,
    there: GarmentBeside,
    /// Finished measures: `before` here, `after` there.
    figures: Vec<FigureRow>,
    /// Corrections, those that both have in one row.
    steps: Vec<StepBeside>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(beside))
}

/// A garment as it is cut: its newest version, or the pattern in hand.
struct AsCut {
    view: GarmentBeside,
    pattern: Pattern,
    recipe: Recipe,
}

async fn as_cut(state: &AppState, id: u64, style: Style) -> Result<AsCut, ApiError> {
    let order: OrderView = state.store.order(id).await?.into();
    let row = order.pattern_id.ok_or_else(|| {
        ApiError::NotFound(format!("\u{201c}{}\u{201d} has no pattern yet to compare", order.garment))
    })?;
    let row = state.store.pattern(row).await?;
    let newest = state.store.versions(row.id).await?.into_iter().next();
    let (version, pattern, recipe) = match newest {
        Some(newest) => (newest.version, newest.pattern, newest.recipe),
        None => (0, yardwand_core::alter::make(&row.block, &row.recipe, style).pattern, row.recipe),
    };
    let pieces = draw_pattern(&pattern, style);
    Ok(AsCut { view: GarmentBeside { order, block_name: row.block_name, version, pieces }, pattern, recipe })
}

/// What each recipe does, the same alterations on the same side in one row, in the order of here.
fn steps_beside(here: &Recipe, there: &Recipe, style: Style) -> Vec<StepBeside> {
    let words = |recipe: &Recipe| -> Vec<(String, String)> {
        let steps = recipe.steps.iter().filter(|step| step.on);
        let key = |step: &yardwand_core::alter::Step| format!("{} {:?}", step.alteration, step.side);
        steps.map(|step| (key(step), said(&step.alteration, &step.total(), style))).collect()
    };
    let (here, mut there) = (words(here), words(there));
    let mut rows: Vec<StepBeside> = Vec::new();
    for (key, words) in here {
        let same = there.iter().position(|(other, _)| *other == key);
        rows.push(StepBeside { here: Some(words), there: same.map(|at| there.remove(at).1) });
    }
    rows.extend(there.into_iter().map(|(_, words)| StepBeside { here: None, there: Some(words) }));
    rows
}

/// Two garments beside each other: block, corrections and finished measures.
#[utoipa::path(get, path = "/api/orders/{id}/beside/{other}", responses(
    (status = 200, body = BesideView), (status = 404, body = Problem)))]
async fn beside(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    InPath((id, other)): InPath<(u64, u64)>,
) -> Result<Json<BesideView>, ApiError> {
    let here = as_cut(&state, id, style).await?;
    let there = as_cut(&state, other, style).await?;
    Ok(Json(BesideView {
        figures: figures_beside(&here.pattern, &there.pattern, style),
        steps: steps_beside(&here.recipe, &there.recipe, style),
        here: here.view,
        there: there.view,
    }))
}
