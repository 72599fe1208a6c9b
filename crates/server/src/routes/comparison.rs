//! `/api/orders/{id}/comparison`: the client against a block, both schools of size, and the plan.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::body::{Profile, ProfileFigure, check_age, measurement};
use yardwand_core::compare::{
    BlockSize, Comparison, EaseSet, Plan, SizeChoices, choose_size, compare, ease_set, plan,
};
use yardwand_core::draft::{Direct, draft_direct};
use yardwand_core::pattern::{PieceDrawing, draw_pattern, measure};

use super::blocks::{BlockView, refusal};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Ask, HouseStyle, Id};
use crate::figures::{name_of, profile_of_client};
use crate::views::OrderView;

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Wanted {
    /// The block; the first house master if left out.
    block: Option<u64>,
    /// The size; the leading school's if left out.
    size: Option<String>,
    /// The ease set; the house's if left out.
    ease: Option<String>,
}

#[derive(Serialize, ToSchema)]
struct ComparisonView {
    order: OrderView,
    blocks: Vec<BlockView>,
    block_id: u64,
    /// Sizes of the block.
    sizes: Vec<String>,
    size: String,
    ease: EaseSet,
    choices: Option<SizeChoices>,
    comparison: Comparison,
    plan: Plan,
    /// The block as it is drawn.
    block_pieces: Vec<PieceDrawing>,
    /// Her own draft, to lay over it.
    own_pieces: Vec<PieceDrawing>,
    /// Why there is no own draft.
    own_refused: Option<String>,
    /// Figures that are not as a tape gave them, or old: converted, assumed, to be taken again.
    remarks: Vec<Remark>,
}

/// What to know about some of the figures that are compared.
#[derive(Serialize, ToSchema)]
struct Remark {
    codes: Vec<String>,
    says: String,
    /// They have to be taken again before cutting.
    again: bool,
}

fn remarks(profile: &Profile, limit_days: i64, changing: bool, style: Style) -> Vec<Remark> {
    let of_body = profile.0.iter().filter(|figure| measurement(&figure.code).is_some_and(|row| !row.wish));
    let own = |figure: &ProfileFigure| {
        let name = name_of(&figure.code);
        let (says, again) = if let Some(asked) = &figure.asked {
            (format!("{name} is left out. {asked}."), true)
        } else if let Some(from) = &figure.converted {
            let give = style.with_unit(figure.give_mm);
            (format!("{name} is converted, give or take {give}: {from}."), false)
        } else {
            (format!("{name} is assumed: {}.", figure.assumed.as_ref()?), true)
        };
        Some(Remark { codes: vec![figure.code.clone()], says, again })
    };
    let mut found: Vec<Remark> = of_body.clone().filter_map(own).collect();
    // Readings of one day are old together: a sentence for each day.
    let mut by_age: BTreeMap<i64, (Vec<String>, String)> = BTreeMap::new();
    for figure in of_body {
        let Some((row, days)) = measurement(&figure.code).zip(figure.days_ago) else { continue };
        if let Some(finding) = check_age(row, days, limit_days, changing) {
            let same_day = by_age.entry(days).or_insert_with(|| (Vec::new(), finding.says));
            same_day.0.push(figure.code.clone());
        }
    }
    found.extend(by_age.into_values().rev().map(|(codes, says)| {
        let who = match codes.as_slice() {
            [one] => name_of(one),
            many => format!("{} readings", many.len()),
        };
        Remark { codes, says: format!("{who}: {says}"), again: true }
    }));
    found
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(get))
}

/// Everything the Compare page shows, in one answer.
#[utoipa::path(get, path = "/api/orders/{id}/comparison", params(Wanted), responses(
    (status = 200, body = ComparisonView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    Ask(wanted): Ask<Wanted>,
) -> Result<Json<ComparisonView>, ApiError> {
    let store = &state.store;
    let order: OrderView = store.order(id).await?.into();
    let (profile, posture) =
        (profile_of_client(store, order.client_id).await?, store.posture(order.client_id).await?);
    let body = profile.body();
    let blocks = store.blocks(Some(order.client_id)).await?;
    let first = blocks.iter().find(|b| b.client_id.is_none()).or(blocks.first()).map(|b| b.id);
    let block_id = wanted.block.or(first).ok_or_else(|| {
        ApiError::field(
            "/block",
            "the house has no block yet: draft one from her readings on the Blocks page",
        )
    })?;
    let block = store.block(block_id).await?;
    let house = store.house().await?;
    let code = wanted.ease.unwrap_or(house.ease_set);
    let ease =
        ease_set(&code).ok_or_else(|| ApiError::field("/ease", format!("no ease set is called “{code}”")))?;
    let choices = choose_size(&body, &block.sizes, ease, style);
    let leading = choices.as_ref().and_then(|c| c.choices.first()).map(|c| c.size.clone());
    let size = chosen(&block.sizes, wanted.size.as_deref().or(leading.as_deref()))?;
    let method = Direct { ease: ease.for_draft(), ..block.method };
    let own = draft_direct(&body, &method, style);
    Ok(Json(ComparisonView {
        comparison: compare(&body, &measure(&size.pattern), ease, style),
        plan: plan(&body, &size.pattern, size.cup(), ease, style),
        block_pieces: draw_pattern(&size.pattern, style),
        own_refused: own.as_ref().err().map(refusal),
        own_pieces: own.map_or_else(|_| Vec::new(), |draft| draw_pattern(&draft.pattern, style)),
        sizes: block.sizes.iter().map(|s| s.label.clone()).collect(),
        size: size.label.clone(),
        ease: ease.clone(),
        blocks: blocks.into_iter().map(BlockView::from).collect(),
        remarks: remarks(&profile, house.measuring.age_limit_days, posture.changing, style),
        choices,
        block_id,
        order,
    }))
}

/// The size of that name, or the first.
pub(super) fn chosen<'a>(sizes: &'a [BlockSize], label: Option<&str>) -> Result<&'a BlockSize, ApiError> {
    let found = match label {
        Some(label) => sizes.iter().find(|size| size.label == label),
        None => sizes.first(),
    };
    found.ok_or_else(|| ApiError::field("/size", "this block has no such size: choose one of its own"))
}
