//! From symptom to cause: what a round's observations come from, weighed together.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::{
    OffersTried, SetAside, Suggestion, TellApart, Tested, Unsaid, cause, weigh, weigh_for,
};

use super::closing::as_decided;
use super::evidence::evidence_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, InPath, JsonBody, Writer};
use crate::rights::Fitting;

/// The causes of one observation.
#[derive(Serialize, ToSchema)]
struct CausesOf {
    observation_id: u64,
    /// Strongest first, at most four.
    causes: Vec<Suggestion>,
    /// Causes it is a sign of that are not offered, and why.
    set_aside: Vec<SetAside>,
    /// The test that tells the first of them apart.
    tell_apart: Option<TellApart>,
    /// What is still to be said of the observation before a cause is taken.
    asks: Vec<Unsaid>,
}

/// A test that was made on the toile.
#[derive(Serialize, ToSchema)]
struct TestView {
    cause: String,
    title: String,
    test: String,
    /// What it says happened.
    holds: bool,
}

#[derive(Deserialize, ToSchema)]
struct TestEntry {
    /// Whether what the test says happened; left out, the answer is taken back.
    #[serde(default)]
    holds: Option<bool>,
}

#[derive(Serialize, ToSchema)]
struct RoundCauses {
    /// Of all that was seen together; strongest first, at most four.
    together: Vec<Suggestion>,
    /// The test that tells the first of them apart; none where the first one is sure.
    tell_apart: Option<TellApart>,
    /// Signs that contradict each other, in a sentence each.
    contradictions: Vec<String>,
    /// The tests that were made.
    tests: Vec<TestView>,
    each: Vec<CausesOf>,
    /// The observations `explains` counts, by number.
    observations: Vec<u64>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(causes)).routes(routes!(test))
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
    let all = weigh(&evidence, style);
    let together = tried(all.offered);
    let each = observations.iter().enumerate().map(|(index, observation_id)| {
        let weighing = weigh_for(&evidence, index, style);
        CausesOf {
            observation_id: *observation_id,
            causes: tried(weighing.offered),
            set_aside: weighing.set_aside,
            tell_apart: weighing.tell_apart,
            asks: evidence.seen[index].asks(),
        }
    });
    let each = each.collect();
    let told = |tested: &Tested| {
        let cause = cause(&tested.cause)?;
        Some(TestView {
            cause: cause.code.clone(),
            title: cause.title.clone(),
            test: cause.test.clone(),
            holds: tested.holds,
        })
    };
    let tests = evidence.tested.iter().filter_map(told).collect();
    let (tell_apart, contradictions) = (all.tell_apart, all.contradictions);
    Ok(Json(RoundCauses { together, tell_apart, contradictions, tests, each, observations }))
}

/// Keeps what came of a cause's test, made on the toile.
#[utoipa::path(put, path = "/api/rounds/{id}/tests/{cause}", params(("cause" = String, Path)), request_body = TestEntry, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn test(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    InPath((round, code)): InPath<(u64, String)>,
    JsonBody(entry): JsonBody<TestEntry>,
) -> Result<StatusCode, ApiError> {
    let known = cause(&code).ok_or_else(|| ApiError::NotFound(format!("no cause is called “{code}”")))?;
    state.store.set_test(round, &known.code, entry.holds, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
