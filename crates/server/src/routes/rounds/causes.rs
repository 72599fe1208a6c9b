//! From symptom to cause: what a round's observations come from, weighed together.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::{OffersTried, SetAside, Suggestion, weigh, weigh_for};

use super::closing::as_decided;
use super::evidence::evidence_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id};

/// The causes of one observation.
#[derive(Serialize, ToSchema)]
struct CausesOf {
    observation_id: u64,
    /// Strongest first, at most four.
    causes: Vec<Suggestion>,
    /// Causes it is a sign of that are not offered, and why.
    set_aside: Vec<SetAside>,
}

#[derive(Serialize, ToSchema)]
struct RoundCauses {
    /// Of all that was seen together; strongest first, at most four.
    together: Vec<Suggestion>,
    each: Vec<CausesOf>,
    /// The observations `explains` counts, by number.
    observations: Vec<u64>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(causes))
}

/// The causes of what was seen in a round, with what speaks for and against each.
#[utoipa::path(get, path = "/api/rounds/{id}/causes", responses(
    (status = 200, body = RoundCauses), (status = 404, body = Problem)))]
async fn causes(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<RoundCauses>, ApiError> {
    let round = state.store.round(id).await?;
    let (evidence, observations) = evidence_of(&state, &round, style).await?;
    let decided = as_decided(&state, &round).await?;
    let mut table = decided.as_ref().map(|(block, recipe)| OffersTried::on(block, recipe, style));
    let mut tried = |mut offered: Vec<Suggestion>| {
        if let Some(table) = &mut table {
            table.try_all(&mut offered);
        }
        offered
    };
    let together = tried(weigh(&evidence, style).offered);
    let each = observations.iter().enumerate().map(|(index, observation_id)| {
        let weighing = weigh_for(&evidence, index, style);
        let causes = tried(weighing.offered);
        CausesOf { observation_id: *observation_id, causes, set_aside: weighing.set_aside }
    });
    let each = each.collect();
    Ok(Json(RoundCauses { together, each, observations }))
}
