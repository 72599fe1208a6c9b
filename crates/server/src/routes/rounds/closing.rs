//! The end of a round: nothing is left open, and what was decided becomes the next version.

use axum::extract::State;
use axum::http::StatusCode;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::Recipe;
use yardwand_core::fitting::{Decision, NotClosed, Noted, can_be_closed, can_be_decided, with_decisions};
use yardwand_core::pattern::Pattern;
use yardwand_store::{ObservationRow, RoundRow, RoundSeen, StoreError};

use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, Writer};
use crate::rights::Fitting;
use crate::routes::patterns::version_of;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(close)).routes(routes!(reopen))
}

/// Closes a round. Decided alterations are added to the recipe and become the next version of the pattern.
#[utoipa::path(post, path = "/api/rounds/{id}/close", responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn close(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let round = state.store.round(id).await?;
    let changes = state.store.round_changes(id).await?;
    let seen = state.store.observations(round.order_id).await?;
    let noted: Vec<Noted> = seen.iter().map(ObservationRow::noted).collect();
    can_be_closed(round.number, &noted, round.pins_out, round.pins_back)
        .map_err(|error| still_to_do(&error))?;
    let own: Vec<&Noted> = noted.iter().filter(|each| each.round == round.number).collect();
    let pattern_id = state.store.order(round.order_id).await?.pattern_id;
    let pattern_id =
        pattern_id.ok_or_else(|| ApiError::NotFound("this garment has no pattern".to_owned()))?;
    let pattern = state.store.pattern(pattern_id).await?;
    let recipe = with_decisions(own.iter().copied(), fitted_recipe(&state, &round).await?);
    let made = if own.iter().any(|o| matches!(o.decision, Some(Decision::Alter { .. }))) {
        Some(version_of(&pattern, recipe, format!("Decided in fitting round {}.", round.number), style)?)
    } else {
        None
    };
    let saw = RoundSeen { changes, recipe: pattern.revision };
    state.store.close_round(id, pattern_id, saw, made.as_ref(), writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Opens a closed round again while nothing was done after it; the version it made is withdrawn.
#[utoipa::path(post, path = "/api/rounds/{id}/reopen", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn reopen(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.reopen_round(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Where what is still to be done is shown on the page.
fn still_to_do(error: &NotClosed) -> ApiError {
    let field = match error {
        NotClosed::Undecided { .. } | NotClosed::Twice { .. } => "/observations",
        NotClosed::Unmarked(_) => "/earlier",
        NotClosed::Pins { .. } => "/pins_back",
    };
    ApiError::field(field, error.to_string())
}

/// The recipe of the version that was on the body: decisions are made about that, not about later tries.
async fn fitted_recipe(state: &AppState, round: &RoundRow) -> Result<Recipe, ApiError> {
    Ok(state.store.version(round.version_id).await?.recipe)
}

/// What a round's decisions are tried on.
struct Fitted {
    block: Pattern,
    /// Of the version that was on the body.
    recipe: Recipe,
    /// The round's own observations, by number.
    seen: Vec<(u64, Noted)>,
}

/// None where the garment has no pattern.
async fn fitted(state: &AppState, round: &RoundRow) -> Result<Option<Fitted>, ApiError> {
    let Some(pattern) = state.store.order(round.order_id).await?.pattern_id else { return Ok(None) };
    let block = state.store.pattern(pattern).await?.block;
    let recipe = fitted_recipe(state, round).await?;
    let seen = state.store.observations(round.order_id).await?;
    let own = seen.iter().filter(|each| each.round_id == round.id);
    Ok(Some(Fitted { block, recipe, seen: own.map(|each| (each.id, each.noted())).collect() }))
}

/// The block and the recipe with everything that is decided in a round so far; none where the garment has no pattern.
pub(super) async fn as_decided(
    state: &AppState,
    round: &RoundRow,
) -> Result<Option<(Pattern, Recipe)>, ApiError> {
    let fitted = fitted(state, round).await?;
    Ok(fitted.map(|Fitted { block, recipe, seen }| {
        (block, with_decisions(seen.iter().map(|(_, noted)| noted), recipe))
    }))
}

/// Keeps a decision if it can be carried out together with the others of its round: what is accepted never keeps a
/// round open. Others may decide meanwhile, on another server too: `keep` gets how often the round had been changed when
/// it was looked at, and refuses to keep where that is no longer so; then it is looked at anew.
///
/// # Errors
///
/// 422 with the limit, or with the other decision that would no longer be possible.
pub(super) async fn kept_if_possible<T, Kept>(
    state: &AppState,
    round: u64,
    observation: Option<u64>,
    decision: &Decision,
    style: Style,
    keep: impl Fn(u32) -> Kept,
) -> Result<T, ApiError>
where
    Kept: Future<Output = yardwand_store::Result<T>>,
{
    for _ in 0..LOOKED_AT_ANEW {
        let changes = state.store.round_changes(round).await?;
        can_be_done(state, round, observation, decision, style).await?;
        match keep(changes).await {
            Err(StoreError::Stale { what: "round", .. }) => {}
            kept => return Ok(kept?),
        }
    }
    Err(ApiError::field("/decision", "others decide in this round at the same time: decide it again"))
}

/// So often a decision is looked at anew where the round was changed meanwhile.
const LOOKED_AT_ANEW: u32 = 8;

/// Whether the recipe can be made with a decision, for an observation that is there or for a new one.
async fn can_be_done(
    state: &AppState,
    round: u64,
    observation: Option<u64>,
    decision: &Decision,
    style: Style,
) -> Result<(), ApiError> {
    let round = state.store.round(round).await?;
    let Some(Fitted { block, recipe, seen }) = fitted(state, &round).await? else { return Ok(()) };
    let index = seen.iter().position(|(id, _)| Some(*id) == observation);
    let own: Vec<Noted> = seen.into_iter().map(|(_, noted)| noted).collect();
    can_be_decided(&block, &recipe, &own, index, decision, style).map_err(|cannot| {
        ApiError::field(if cannot.is_own { "/decision/amounts" } else { "/decision" }, cannot.says)
    })
}
