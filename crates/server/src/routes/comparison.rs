//! `/api/orders/{id}/comparison`: the client against a block, both schools of size, and the plan.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::Recipe;
use yardwand_core::body::{Profile, ProfileReading, check_age, measurement};
use yardwand_core::compare::{
    BlockSize, Comparison, Explanation, Plan, PlanChanges, SizeChoices, WISHED, choose_size, compare_fitted,
    explain, plan_with_spread,
};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::ease::EaseSet;
use yardwand_core::pattern::{Garment, PatternMeasure, PieceDrawing, draw_pattern};
use yardwand_store::{BlockSummary, OrderPlan};

use super::blocks::{BlockView, refusal};
use super::print::OnPaper;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString, Writer};
use crate::figures::{name_of, profile_of_client};
use crate::rights::Cutting;
use crate::sheets::plan_sheet;
use crate::views::{Based, OrderView, attached};
use crate::workroom::{ONLY_COMPARED, all_ease_sets, ease_named};

#[derive(Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Wanted {
    /// The block; her own if left out, else the house master that is used most.
    block: Option<u64>,
    /// The size; the leading school's if left out.
    size: Option<String>,
    /// The ease set; the usual one of what the block is of if left out.
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
    /// Every set that can be compared with.
    ease_sets: Vec<EaseSet>,
    choices: Option<SizeChoices>,
    comparison: Comparison,
    /// Differences with one cause, told together.
    explanations: Vec<Explanation>,
    plan: Plan,
    /// What the plan's lines make on the cutting table.
    recipe: Recipe,
    /// What the dressmaker changed in the plan.
    changes: PlanChanges,
    /// Revision of those changes; 0 where nothing was kept yet.
    plan_revision: u32,
    /// The block as it is drawn.
    block_pieces: Vec<PieceDrawing>,
    /// Her own draft, to lay over it.
    own_pieces: Vec<PieceDrawing>,
    /// Why there is no own draft.
    own_refused: Option<String>,
    /// Readings that were estimated for this block's draft, in words; none where everything was measured.
    estimated: Option<String>,
    /// Figures that are not as a tape gave them, or old: converted, assumed, to be taken again.
    remarks: Vec<Remark>,
    /// What to know of this block before it is compared: what it does not tell, and what is not done here.
    of_block: Vec<String>,
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
    let own = |figure: &ProfileReading| {
        let name = name_of(&figure.code);
        let (says, again): (String, bool) = if let Some(asked) = &figure.asked {
            (format!("{name} is left out. {asked}."), true)
        } else if let Some(from) = &figure.converted {
            let give = style.with_unit(figure.give_mm);
            (format!("{name} is converted, give or take {give}: {from}."), false)
        } else {
            (format!("{name} is assumed: {}.", figure.assumed.as_ref()?), true)
        };
        Some(Remark { codes: vec![figure.code.clone()], says: style.say(&says), again })
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

/// The plan as the dressmaker leaves it.
#[derive(Deserialize, ToSchema)]
struct PlanEntry {
    block_id: u64,
    size: String,
    ease_set: String,
    changes: PlanChanges,
}

/// A plan after a change.
#[derive(Serialize, ToSchema)]
struct Planned {
    plan: Plan,
    /// What its lines make on the cutting table.
    recipe: Recipe,
    changes: PlanChanges,
    revision: u32,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(get)).routes(routes!(keep_plan)).routes(routes!(sheet))
}

/// Everything the Compare and Plan pages show, in one answer.
#[utoipa::path(get, path = "/api/orders/{id}/comparison", params(Wanted), responses(
    (status = 200, body = ComparisonView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(wanted): QueryString<Wanted>,
) -> Result<Json<ComparisonView>, ApiError> {
    Ok(Json(compared(&state, id, wanted, style).await?))
}

async fn compared(
    state: &AppState,
    id: u64,
    wanted: Wanted,
    style: Style,
) -> Result<ComparisonView, ApiError> {
    let store = &state.store;
    let facts = store.order(id).await?;
    let is_of = garment_measured(facts.order.codes());
    let order: OrderView = facts.into();
    let client = order.client_id;
    // None of these waits for another: the page is one request and must be felt as one.
    let (profile, posture, blocks, kept, house, ease_sets) = tokio::try_join!(
        profile_of_client(store, client),
        async { Ok(store.posture(client).await?) },
        async { Ok(store.blocks(Some(client)).await?) },
        async { Ok(store.order_plan(id).await?) },
        async { Ok(store.house().await?) },
        all_ease_sets(store),
    )?;
    let body = profile.body_with(&WISHED);
    let first = first_block(blocks.iter().filter(|block| block.garment == is_of));
    let first = first.or_else(|| first_block(blocks.iter())).map(|block| block.id);
    let block_id = wanted.block.or(kept.as_ref().map(|plan| plan.block_id)).or(first).ok_or_else(|| {
        ApiError::field(
            "/block",
            "the house has no block yet: draft one from her readings on the Blocks page",
        )
    })?;
    // What was kept belongs to its own block.
    let kept_here = kept.as_ref().filter(|plan| plan.block_id == block_id);
    let block = store.block(block_id).await?;
    let asked = wanted.ease.as_deref().or(kept_here.map(|plan| plan.ease_set.as_str()));
    let garment = block.summary.garment;
    let code = asked.or(garment.usual_ease()).unwrap_or(&house.ease_set);
    let ease = ease_sets
        .iter()
        .find(|set| set.code == code)
        .cloned()
        .ok_or_else(|| ApiError::field("/ease", format!("no ease set is called “{code}”")))?;
    let choices = choose_size(&body, &block.sizes, &ease, house.measuring.cup_over_mm, style);
    let leading = choices.as_ref().and_then(|c| c.choices.first()).map(|c| c.size.clone());
    let asked = wanted.size.as_deref().or(kept_here.map(|plan| plan.size.as_str())).or(leading.as_deref());
    let size = chosen(&block.sizes, asked)?;
    let changes = kept.as_ref().map_or_else(PlanChanges::default, |plan| plan.changes.clone());
    let planned = plan_with_spread(&body, size, &ease, &changes, style)
        .map_err(|error| ApiError::field("/changes/order", error.to_string()))?;
    // A block that was not drafted here is looked at beside the usual draft of its garment.
    let usual = || Some(Method { kind: MethodKind::usual_of(garment)?, ..Method::usual(style.unit()) });
    let own = match block.method.or_else(usual) {
        // A sleeve that cannot be drawn must not keep the bodice from being laid over the block.
        Some(method) => {
            let method = Method { with_sleeve: false, ..method }.with_ease(&ease, &profile.body());
            draft(&profile.body_with(method.kind.wishes()), &method, style).map_err(|error| refusal(&error))
        }
        None => Err(ONLY_COMPARED.to_owned()),
    };
    let comparison = compare_fitted(&body, &size.figures(), &size.settled, &ease, style);
    Ok(ComparisonView {
        explanations: explain(&body, size.cup(), &comparison),
        comparison,
        recipe: planned.recipe(),
        plan: planned,
        plan_revision: kept.map_or(0, |plan| plan.revision),
        changes,
        block_pieces: size.pattern().map_or_else(Vec::new, |pattern| draw_pattern(pattern, style)),
        own_refused: own.as_ref().err().cloned(),
        own_pieces: own.map_or_else(|_| Vec::new(), |draft| draw_pattern(&draft.pattern, style)),
        sizes: block.sizes.iter().map(|s| s.label.clone()).collect(),
        size: size.label.clone(),
        ease,
        ease_sets,
        blocks: blocks.into_iter().map(BlockView::from).collect(),
        estimated: size.pattern().and_then(super::patterns::estimated_names),
        remarks: remarks(&profile, house.measuring.age_limit_days, posture.changing, style),
        of_block: of_block(size, is_of, style),
        choices,
        block_id,
        order,
    })
}

/// Her own block where she has one, the newest of them; else the house's block that most patterns were begun from, of
/// equals the first in the list.
fn first_block<'a>(blocks: impl Iterator<Item = &'a BlockSummary>) -> Option<&'a BlockSummary> {
    let (own, house): (Vec<_>, Vec<_>) = blocks.partition(|block| block.client_id.is_some());
    own.into_iter().max_by_key(|block| block.id).or(house.into_iter().rev().max_by_key(|block| block.used))
}

/// What a garment is that is measured so: with a hip and without a bust it is no bodice, and with a thigh it is trousers.
fn garment_measured(codes: &[String]) -> Garment {
    let has = |code: &str| codes.iter().any(|each| each == code);
    if has("bust_girth") || !has("hip_girth") {
        Garment::Bodice
    } else if has("thigh_girth") || has("thigh_slant_girth") {
        Garment::Trousers
    } else {
        Garment::Skirt
    }
}

/// What to know of a block before a garment of hers is compared with it.
fn of_block(size: &BlockSize, is_of: Garment, style: Style) -> Vec<String> {
    let mut says = Vec::new();
    if is_of == Garment::Trousers && size.garment() != Garment::Trousers {
        says.push(
            "This garment is measured as trousers, and this block is none: measure a card of trousers on the Blocks page, \
             and choose it here."
                .to_owned(),
        );
    }
    if size.garment() == Garment::Trousers {
        says.push(ONLY_COMPARED.to_owned());
    }
    if let Some(ease) = size.printed_ease() {
        says.push(format!(
            "Finished less printed, this pattern has {} of ease at the bust.",
            style.with_unit(ease)
        ));
    }
    let untold: Vec<&str> = size.untold().into_iter().map(PatternMeasure::name).collect();
    if !untold.is_empty() {
        says.push(format!("The card does not tell, and so is not compared: {}.", untold.join(", ")));
    }
    says
}

/// Keeps what the dressmaker made of the plan, and plans the rest anew.
#[utoipa::path(put, path = "/api/orders/{id}/plan", request_body = Based<PlanEntry>, responses(
    (status = 200, body = Planned), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn keep_plan(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<PlanEntry>>,
) -> Result<Json<Planned>, ApiError> {
    let Based { revision, change } = based;
    let store = &state.store;
    let order = store.order(id).await?;
    let block = store.block(change.block_id).await?;
    let size = chosen(&block.sizes, Some(&change.size))?;
    let ease = ease_named(store, Some(&change.ease_set)).await?;
    if let Some((key, mm)) = change.changes.amounts.iter().find(|(_, mm)| !(-300.0..=300.0).contains(*mm)) {
        let says = format!(
            "{} is no amount to alter by: it must stay below {}",
            style.with_unit(*mm),
            style.with_unit(300.0)
        );
        return Err(ApiError::field(&format!("/changes/amounts/{key}"), says));
    }
    let body = profile_of_client(store, order.order.client_id).await?.body_with(&WISHED);
    let planned = plan_with_spread(&body, size, &ease, &change.changes, style)
        .map_err(|error| ApiError::field("/changes/order", format!("{error}.")))?;
    let kept = OrderPlan {
        block_id: change.block_id,
        size: change.size,
        ease_set: change.ease_set,
        changes: change.changes.clone(),
        revision,
    };
    let revision = store.keep_plan(id, &kept, writer.person.id).await?;
    Ok(Json(Planned { recipe: planned.recipe(), plan: planned, changes: change.changes, revision }))
}

/// The comparison and the plan as a worksheet.
#[utoipa::path(get, path = "/api/orders/{id}/plan.pdf", params(OnPaper), responses(
    (status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 404, body = Problem)))]
async fn sheet(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<OnPaper>,
) -> Result<Response, ApiError> {
    let view = compared(&state, id, Wanted::default(), style).await?;
    let block = view.blocks.iter().find(|block| block.id == view.block_id);
    let name = block.map_or_else(String::new, |block| format!("{}, version {}", block.name, block.version));
    let under = format!(
        "{}, {}. {name}, size {}. Ease: {}.",
        view.order.client, view.order.garment, view.size, view.ease.name
    );
    let pdf = plan_sheet(
        "Comparison and plan",
        &under,
        &view.comparison,
        &view.explanations,
        &view.plan,
        style,
        asked.paper.into(),
    )
    .map_err(ApiError::from)?;
    Ok(attached("application/pdf", "plan.pdf", pdf))
}

/// The size of that name, or the first.
pub(super) fn chosen<'a>(sizes: &'a [BlockSize], label: Option<&str>) -> Result<&'a BlockSize, ApiError> {
    let found = match label {
        Some(label) => sizes.iter().find(|size| size.label == label),
        None => sizes.first(),
    };
    found.ok_or_else(|| ApiError::field("/size", "this block has no such size: choose one of its own"))
}
