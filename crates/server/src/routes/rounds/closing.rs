//! The end of a round: nothing is left open, and what was decided becomes the next version.

use axum::extract::State;
use axum::http::StatusCode;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::Recipe;
use yardwand_core::fitting::{Decision, cause};
use yardwand_store::{ObservationRow, RoundRow};

use super::was_open_before;
use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, Writer};
use crate::routes::patterns::version_of;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(close))
}

/// Closes a round. Decided alterations are added to the recipe and become the next version of the pattern.
#[utoipa::path(post, path = "/api/rounds/{id}/close", responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn close(
    State(state): State<AppState>,
    writer: Writer,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let round = state.store.round(id).await?;
    let seen = state.store.observations(round.order_id).await?;
    let own: Vec<&ObservationRow> = seen.iter().filter(|o| o.round_id == id).collect();
    nothing_is_open(&round, &seen, &own)?;
    let pattern_id = state.store.order(round.order_id).await?.pattern_id;
    let pattern_id =
        pattern_id.ok_or_else(|| ApiError::NotFound("this garment has no pattern".to_owned()))?;
    let pattern = state.store.pattern(pattern_id).await?;
    let recipe = with_decisions(&round, &own, fitted_recipe(&state, &round).await?);
    let made = if own.iter().any(|o| matches!(o.decision, Some(Decision::Alter { .. }))) {
        Some(version_of(&pattern, recipe, format!("Decided in fitting round {}.", round.number), style)?)
    } else {
        None
    };
    state.store.close_round(id, pattern_id, pattern.revision, made.as_ref(), writer.once()).await?;
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

fn with_decisions(round: &RoundRow, own: &[&ObservationRow], recipe: Recipe) -> Recipe {
    own.iter().fold(recipe, |recipe, seen| match &seen.decision {
        Some(Decision::Alter { alteration, amounts, side, .. }) => {
            let reason = format!("Round {}: {}.", round.number, seen.seen.said().to_lowercase());
            let recipe = recipe.and(alteration, amounts.clone(), &reason);
            match side {
                Some(side) => recipe.on_one_side(*side),
                None => recipe,
            }
        }
        _ => recipe,
    })
}
