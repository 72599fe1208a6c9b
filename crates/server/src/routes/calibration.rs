//! `/api/calibration`: what pins make of plans, over all garments handed over.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{Recipe, alteration};
use yardwand_core::fitting::{CalibratedBy, Calibration, PlannedAndPinned, calibrate};
use yardwand_store::FinishedRecipes;

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::ApiError;

#[derive(Serialize, ToSchema)]
struct CalibrationView {
    learnt: Calibration,
    /// The alteration's name.
    name: String,
    /// In a sentence.
    says: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(list))
}

/// What each alteration ended at, against what was planned: for the house, by cutter and by measurer. It is offered,
/// never applied by itself.
#[utoipa::path(get, path = "/api/calibration", responses((status = 200, body = Vec<CalibrationView>)))]
async fn list(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<CalibrationView>>, ApiError> {
    let all: Vec<PlannedAndPinned> =
        state.store.finished_recipes().await?.iter().flat_map(planned_and_pinned).collect();
    let view = |learnt: Calibration| {
        let name = alteration(&learnt.alteration)
            .map_or(learnt.alteration.as_str(), |known| known.name())
            .to_owned();
        let whose = match learnt.by {
            CalibratedBy::House => "in this house".to_owned(),
            CalibratedBy::Cutter => format!("cut by {}", learnt.who),
            CalibratedBy::Measurer => format!("measured by {}", learnt.who),
        };
        let says = format!(
            "{name}, {whose}: it ends at {:.2} times what the plan said (n = {}; the middle half between {:.2} and {:.2}).",
            learnt.factor, learnt.count, learnt.low, learnt.high
        );
        CalibrationView { name, says, learnt }
    };
    Ok(Json(calibrate(&all).into_iter().map(view).collect()))
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
