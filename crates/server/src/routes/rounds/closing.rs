//! The end of a round: nothing is left open, and what was decided becomes the next version.

use axum::extract::State;
use axum::http::StatusCode;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{Decided, Recipe, alteration, make};
use yardwand_core::fitting::{Decision, cause};
use yardwand_core::pattern::Pattern;
use yardwand_store::{ObservationRow, RoundRow, RoundSeen, StoreError};

use super::was_open_before;
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
    let own: Vec<&ObservationRow> = seen.iter().filter(|o| o.round_id == id).collect();
    nothing_is_open(&round, &seen, &own)?;
    let pattern_id = state.store.order(round.order_id).await?.pattern_id;
    let pattern_id =
        pattern_id.ok_or_else(|| ApiError::NotFound("this garment has no pattern".to_owned()))?;
    let pattern = state.store.pattern(pattern_id).await?;
    let recipe = with_decisions(&round, own.iter().copied(), fitted_recipe(&state, &round).await?);
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

/// What must be done before a round can be closed, the first thing first.
fn nothing_is_open(
    round: &RoundRow,
    seen: &[ObservationRow],
    own: &[&ObservationRow],
) -> Result<(), ApiError> {
    let undecided = own.iter().filter(|o| o.decision.is_none()).count();
    if undecided > 0 {
        let says =
            format!("{undecided} of {} observations are not decided: alter, leave or watch each", own.len());
        return Err(ApiError::field("/observations", says));
    }
    let unmarked = seen.iter().filter(|o| o.round < round.number && was_open_before(o, round.number));
    let unmarked = unmarked.filter(|o| o.marks.iter().all(|m| m.round != round.number)).count();
    if unmarked > 0 {
        let says = format!(
            "{unmarked} earlier observations are not marked: say whether each is gone, better, same, worse or moved"
        );
        return Err(ApiError::field("/earlier", says));
    }
    if let (Some(out), back) = (round.pins_out, round.pins_back.unwrap_or(0))
        && back < out
    {
        let says = format!("{} of {out} pins are not back: look for them before she dresses", out - back);
        return Err(ApiError::field("/pins_back", says));
    }
    if let Some((title, first, second)) = decided_twice(own) {
        let says = format!(
            "“{title}” is decided both for “{}” and for “{}”, and would alter the pattern twice: watch one of them",
            first.seen.said(),
            second.seen.said()
        );
        return Err(ApiError::field("/observations", says));
    }
    Ok(())
}

/// Two observations decided for the same cause on the same side: one cause shows in several places and is answered once.
fn decided_twice<'a>(
    own: &[&'a ObservationRow],
) -> Option<(&'static str, &'a ObservationRow, &'a ObservationRow)> {
    let key = |row: &ObservationRow| match &row.decision {
        Some(Decision::Alter { cause: Some(cause), side, .. }) => Some((cause.clone(), *side)),
        _ => None,
    };
    own.iter().enumerate().find_map(|(index, first)| {
        let of_first = key(first)?;
        let second = own[index + 1..].iter().find(|second| key(second).as_ref() == Some(&of_first))?;
        let title = cause(&of_first.0).map_or("the same cause", |cause| cause.title.as_str());
        Some((title, *first, *second))
    })
}

/// The recipe of the version that was on the body: decisions are made about that, not about later tries.
async fn fitted_recipe(state: &AppState, round: &RoundRow) -> Result<Recipe, ApiError> {
    Ok(state.store.version(round.version_id).await?.recipe)
}

/// What closing a round takes into the recipe for one observation; none where nothing is altered for it.
fn decided(round: &RoundRow, said: &str, by: &str, decision: Option<&Decision>) -> Option<Decided> {
    let Some(Decision::Alter { alteration, amounts, side, .. }) = decision else { return None };
    Some(Decided {
        alteration: alteration.clone(),
        amounts: amounts.clone(),
        side: *side,
        reason: format!("{said}."),
        round: Some(round.number),
        by: Some(by.to_owned()),
        house_factor: None,
    })
}

/// The recipe with every decision of a round taken in, each in its layer's place or added to what is there.
fn with_decisions<'a>(
    round: &RoundRow,
    own: impl IntoIterator<Item = &'a ObservationRow>,
    mut recipe: Recipe,
) -> Recipe {
    let of = |row: &ObservationRow| decided(round, &row.seen.said(), &row.seen_by, row.decision.as_ref());
    for decided in own.into_iter().filter_map(of) {
        recipe.take(decided);
    }
    recipe
}

/// What a round's decisions are tried on.
struct Fitted {
    block: Pattern,
    /// Of the version that was on the body.
    recipe: Recipe,
    /// The round's own observations.
    seen: Vec<ObservationRow>,
}

/// None where the garment has no pattern.
async fn fitted(state: &AppState, round: &RoundRow) -> Result<Option<Fitted>, ApiError> {
    let Some(pattern) = state.store.order(round.order_id).await?.pattern_id else { return Ok(None) };
    let block = state.store.pattern(pattern).await?.block;
    let recipe = fitted_recipe(state, round).await?;
    let mut seen = state.store.observations(round.order_id).await?;
    seen.retain(|each| each.round_id == round.id);
    Ok(Some(Fitted { block, recipe, seen }))
}

/// The block and the recipe with everything that is decided in a round so far; none where the garment has no pattern.
pub(super) async fn as_decided(
    state: &AppState,
    round: &RoundRow,
) -> Result<Option<(Pattern, Recipe)>, ApiError> {
    let fitted = fitted(state, round).await?;
    Ok(fitted.map(|Fitted { block, recipe, seen }| (block, with_decisions(round, &seen, recipe))))
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
    let Some(Fitted { block, recipe: fitted, mut seen }) = fitted(state, &round).await? else {
        return Ok(());
    };
    let refused = |recipe: &Recipe| {
        let made = make(&block, recipe, style);
        made.refused().map(|(step, error)| (step.alteration.clone(), error.to_string())).collect::<Vec<_>>()
    };
    let before = refused(&with_decisions(&round, &seen, fitted.clone()));
    let own = seen.iter_mut().filter(|each| Some(each.id) == observation);
    own.for_each(|each| each.decision = Some(decision.clone()));
    let mut recipe = with_decisions(&round, &seen, fitted);
    if observation.is_none() {
        decided(&round, "", "", Some(decision)).map(|decided| recipe.take(decided));
    }
    let Some((code, error)) = refused(&recipe).into_iter().find(|each| !before.contains(each)) else {
        return Ok(());
    };
    let is_own = matches!(decision, Decision::Alter { alteration, .. } if *alteration == code);
    let name = alteration(&code).map_or(code.as_str(), |known| known.name());
    Err(if is_own {
        ApiError::field("/decision/amounts", format!("{name}: {error}"))
    } else {
        ApiError::field("/decision", format!("{name}, decided before, could not be done with that: {error}"))
    })
}
