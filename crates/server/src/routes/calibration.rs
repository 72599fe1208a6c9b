//! `/api/calibration`: what pins make of plans, over the garments handed over last.

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{Decided, Recipe, Step, alteration};
use yardwand_core::fitting::{CalibratedBy, Calibration, PlannedAndPinned, calibrate};
use yardwand_store::FinishedRecipes;

use super::patterns::checked;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, JsonBody};

#[derive(Serialize, ToSchema)]
struct CalibrationView {
    learnt: Calibration,
    /// The alteration's name.
    name: String,
    /// In a sentence.
    says: String,
}

/// What the house has learnt, for one step of a recipe.
#[derive(Serialize, ToSchema)]
struct CorrectionView {
    /// The step's own name.
    step: u32,
    /// What was learnt, in a sentence.
    says: String,
    /// What taking it does, in a word: `Make it × 1.33`.
    action: String,
    /// What is decided by taking it.
    decided: Decided,
}

#[derive(Deserialize, ToSchema)]
struct CorrectionsAsked {
    recipe: Recipe,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(list)).routes(routes!(corrections))
}

/// What each alteration ended at, against what was planned: for the house, by cutter and by measurer. It is offered,
/// never applied by itself.
#[utoipa::path(get, path = "/api/calibration", responses((status = 200, body = Vec<CalibrationView>)))]
async fn list(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<CalibrationView>>, ApiError> {
    let view = |learnt: Calibration| CalibrationView { name: name_of(&learnt), says: said(&learnt), learnt };
    Ok(Json(learnt(&state).await?.into_iter().map(view).collect()))
}

/// What the house would add to the steps of a recipe: of each step it has learnt of, and did not correct yet.
#[utoipa::path(post, path = "/api/calibration/corrections", request_body = CorrectionsAsked, responses(
    (status = 200, body = Vec<CorrectionView>), (status = 422, body = Problem)))]
async fn corrections(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(CorrectionsAsked { recipe }): JsonBody<CorrectionsAsked>,
) -> Result<Json<Vec<CorrectionView>>, ApiError> {
    checked(&recipe, style)?;
    let learnt = learnt(&state).await?;
    let of = |step: &Step| {
        learnt.iter().find_map(|each| {
            Some(CorrectionView {
                step: step.id,
                says: said(each),
                action: format!("Make it × {:.2}", each.factor),
                decided: each.correction_of(step)?,
            })
        })
    };
    Ok(Json(recipe.steps.iter().filter(|step| step.on).filter_map(of).collect()))
}

async fn learnt(state: &AppState) -> Result<Vec<Calibration>, ApiError> {
    let all: Vec<PlannedAndPinned> =
        state.store.finished_recipes().await?.iter().flat_map(planned_and_pinned).collect();
    Ok(calibrate(&all))
}

fn name_of(learnt: &Calibration) -> String {
    alteration(&learnt.alteration).map_or(learnt.alteration.as_str(), |known| known.name()).to_owned()
}

fn said(learnt: &Calibration) -> String {
    let whose = match learnt.by {
        CalibratedBy::House => "in this house".to_owned(),
        CalibratedBy::Cutter => format!("cut by {}", learnt.who),
        CalibratedBy::Measurer => format!("measured by {}", learnt.who),
    };
    format!(
        "{}, {whose}: in the end it came to {:.2} times the planned amount (over {} garments; half of them between {:.2} and {:.2}).",
        name_of(learnt),
        learnt.factor,
        learnt.count,
        learnt.low,
        learnt.high
    )
}

/// Each alteration the plan had an amount for, with what it came to in the end.
fn planned_and_pinned(garment: &FinishedRecipes) -> Vec<PlannedAndPinned> {
    let total = |recipe: &Recipe, code: &str| -> f64 {
        let steps =
            recipe.steps.iter().filter(|step| step.on && step.side.is_none() && step.alteration == code);
        steps.map(|step| step.total().amount()).sum()
    };
    let mut codes: Vec<&str> = garment.planned.steps.iter().map(|step| step.alteration.as_str()).collect();
    codes.sort_unstable();
    codes.dedup();
    let pair = |code: &str| PlannedAndPinned {
        alteration: code.to_owned(),
        cutter: garment.cutter.clone(),
        measurer: garment.measurer.clone(),
        planned: total(&garment.planned, code),
        ended: total(&garment.ended, code),
    };
    // A dart moved or gathered is told as a share: it has no amount to compare.
    let lengths = codes.into_iter().filter(|code| {
        alteration(code)
            .and_then(|known| known.params().first())
            .is_some_and(|first| first.on != yardwand_core::alter::MeasuredOn::Share)
    });
    lengths.map(pair).collect()
}
