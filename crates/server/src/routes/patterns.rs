//! `/api/patterns`: a frozen block, its recipe, previews and versions.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{
    CarriedOver, Contribution, Decided, Preview, Recipe, Source, Step, alteration, carry_over, make, preview,
};
use yardwand_core::pattern::{Check, LabelFacts, Pattern, check_labels};
use yardwand_store::{BlockSummary, NewPattern, NewVersion, PatternRow, PatternSummary, Store, StoreError};

use super::comparison::chosen;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::name_of;
use crate::rights::Cutting;
use crate::views::{Based, Made, OrderView, VersionView, optional_words, words};

#[derive(Deserialize, ToSchema)]
struct PatternEntry {
    block_id: u64,
    size: String,
    #[serde(default)]
    recipe: Recipe,
    /// Begin anew beside the pattern that is there.
    #[serde(default)]
    anew: bool,
}

#[derive(Deserialize, ToSchema)]
struct RecipeChange {
    recipe: Recipe,
}

#[derive(Deserialize, ToSchema)]
struct PreviewAsked {
    recipe: Recipe,
    /// The step whose stages and handle are wanted; the last one that is on if left out.
    #[serde(default)]
    in_hand: Option<u32>,
}

#[derive(Deserialize, ToSchema)]
struct TakeAsked {
    recipe: Recipe,
    decided: Decided,
}

/// Where a decision belongs in a recipe: a step in a place of its own, or more of one that is there.
#[derive(Serialize, ToSchema)]
struct TakenView {
    /// The step it is in, as it is with it.
    step: Step,
    /// The place of that step, from 0.
    at: usize,
    /// What it added to that step; none where the step is new.
    contribution: Option<Contribution>,
}

#[derive(Deserialize, ToSchema)]
struct MoveAsked {
    recipe: Recipe,
    /// The step that is moved.
    step: u32,
    /// Its new place, from 0.
    to: usize,
}

#[derive(Deserialize, ToSchema)]
struct CarryAsked {
    /// The recipe that is carried onto.
    recipe: Recipe,
    /// The pattern whose recipe is carried over.
    from: u64,
    /// Its steps that are carried over; all that are switched on if left out.
    #[serde(default)]
    steps: Option<Vec<u32>>,
}

#[derive(Deserialize, ToSchema)]
struct VersionEntry {
    #[serde(default)]
    why: String,
    /// Initials behind readings that were estimated for the block: without them such a version is not saved.
    #[serde(default)]
    stands: Option<String>,
    /// The recipe's revision that is meant: 409 where it was changed since. The newest if left out.
    #[serde(default)]
    revision: Option<u32>,
}

#[derive(Serialize, ToSchema)]
struct PatternView {
    id: u64,
    order: OrderView,
    block_name: String,
    recipe: Recipe,
    revision: u32,
    versions: Vec<VersionView>,
    /// Versions that were withdrawn before they were cut.
    withdrawn: Vec<VersionView>,
    /// The number the next version will have.
    next_version: u32,
    /// It is the pattern the garment is cut from.
    in_hand: bool,
    preview: Preview,
}

/// A pattern that was begun for a garment.
#[derive(Serialize, ToSchema)]
struct PatternOfOrder {
    id: u64,
    block_name: String,
    /// Its newest version, 0 where none was saved.
    version: u32,
    begun_at: DateTime<Utc>,
    in_hand: bool,
}

#[derive(Deserialize, ToSchema)]
struct Withdrawal {
    why: String,
}

#[derive(Serialize, ToSchema)]
pub(super) struct Saved {
    /// The new revision.
    pub(super) revision: u32,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(begin))
        .routes(routes!(of_order))
        .routes(routes!(take_up))
        .routes(routes!(withdraw, let_stand))
        .routes(routes!(get))
        .routes(routes!(preview_recipe))
        .routes(routes!(take))
        .routes(routes!(move_step))
        .routes(routes!(carry))
        .routes(routes!(change))
        .routes(routes!(freeze))
}

pub(super) fn checked(recipe: &Recipe, style: Style) -> Result<(), ApiError> {
    recipe.validate(style).map_err(|says| ApiError::field("/recipe", says))
}

/// A size of a block that a pattern is begun from.
pub(super) struct BegunFrom {
    block_id: u64,
    /// The block as it is called, with size and version.
    name: String,
    geometry: Pattern,
}

impl BegunFrom {
    pub(super) async fn block(store: &Store, block_id: u64, size: &str) -> Result<Self, ApiError> {
        let block = store.block(block_id).await?;
        let size = chosen(&block.sizes, Some(size))?;
        let geometry = size.pattern().ok_or_else(|| {
            ApiError::field(
                "/block_id",
                "a card has no geometry to cut from: work from its worksheet, or choose a drawn block",
            )
        })?;
        let BlockSummary { name, version, client_id, .. } = &block.summary;
        let size = if client_id.is_some() { String::new() } else { format!(", size {}", size.label) };
        Ok(Self { block_id, name: format!("{name}{size}, version {version}"), geometry: geometry.clone() })
    }

    /// As the store takes it.
    pub(super) fn with<'a>(&'a self, recipe: &'a Recipe) -> NewPattern<'a> {
        NewPattern { block_id: self.block_id, block_name: &self.name, block: &self.geometry, recipe }
    }
}

/// Begins the pattern of an order from a size of a block. The block itself stays as it is.
#[utoipa::path(post, path = "/api/orders/{id}/pattern", request_body = PatternEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn begin(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(order): Id,
    JsonBody(entry): JsonBody<PatternEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    checked(&entry.recipe, style)?;
    state.store.order(order).await?;
    let begun = BegunFrom::block(&state.store, entry.block_id, &entry.size).await?;
    let id = state.store.begin_pattern(order, begun.with(&entry.recipe), entry.anew, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A pattern, drawn.
#[utoipa::path(get, path = "/api/patterns/{id}", responses((status = 200, body = PatternView), (status = 404, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<PatternView>, ApiError> {
    let store = &state.store;
    let (pattern, versions, next_version) =
        tokio::try_join!(store.pattern(id), store.all_versions(id), store.next_version(id))?;
    let order: OrderView = store.order(pattern.order_id).await?.into();
    let (withdrawn, versions): (Vec<_>, Vec<_>) =
        versions.into_iter().partition(|version| version.withdrawn_at.is_some());
    let mut preview = preview(&pattern.block, &pattern.recipe, None, style);
    preview.checks.push(label_check(&pattern, &order, next_version));
    Ok(Json(PatternView {
        preview,
        id: pattern.id,
        order,
        block_name: pattern.block_name,
        recipe: pattern.recipe,
        revision: pattern.revision,
        versions: versions.into_iter().map(VersionView::from).collect(),
        withdrawn: withdrawn.into_iter().map(VersionView::from).collect(),
        next_version,
        in_hand: pattern.in_hand,
    }))
}

/// The seventh rule: what the next version's labels would say. It does not hang on the recipe.
fn label_check(pattern: &PatternRow, order: &OrderView, next_version: u32) -> Check {
    let version = next_version.to_string();
    let round = match order.round {
        0 => "before the first fitting".to_owned(),
        round => format!("after round {round}"),
    };
    let date = Utc::now().format("%-d %B %Y").to_string();
    let facts = LabelFacts {
        client: &order.client,
        block: &pattern.block_name,
        version: &version,
        round: &round,
        date: &date,
    };
    check_labels(&pattern.block, &facts)
}

/// What a recipe would make of the pattern's block: nothing is kept.
#[utoipa::path(post, path = "/api/patterns/{id}/preview", request_body = PreviewAsked, responses(
    (status = 200, body = Preview), (status = 404, body = Problem)))]
async fn preview_recipe(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(asked): JsonBody<PreviewAsked>,
) -> Result<Json<Preview>, ApiError> {
    if asked.recipe.steps.len() > Recipe::MOST_STEPS {
        checked(&asked.recipe, style)?;
    }
    let pattern = state.store.pattern(id).await?;
    Ok(Json(preview(&pattern.block, &asked.recipe, asked.in_hand, style)))
}

/// Where a decision belongs in a recipe: nothing is kept. It goes to the step that does the same, or to its layer's place.
#[utoipa::path(post, path = "/api/recipe/take", request_body = TakeAsked, responses(
    (status = 200, body = TakenView), (status = 422, body = Problem)))]
async fn take(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(asked): JsonBody<TakeAsked>,
) -> Result<Json<TakenView>, ApiError> {
    let mut recipe = asked.recipe;
    if recipe.steps.len() >= Recipe::MOST_STEPS {
        let says = format!("a recipe has at most {} steps: take one out first", Recipe::MOST_STEPS);
        return Err(ApiError::field("/recipe", says));
    }
    let known = alteration(&asked.decided.alteration).ok_or_else(|| {
        ApiError::field(
            "/decided/alteration",
            format!("no alteration is called “{}”", asked.decided.alteration),
        )
    })?;
    asked
        .decided
        .amounts
        .validate(known.params(), style)
        .map_err(|error| ApiError::field("/decided/amounts", error.to_string()))?;
    let taken = recipe.take(asked.decided);
    let found = recipe.steps.into_iter().enumerate().find(|(_, step)| step.id == taken.step);
    let (at, step) = found.ok_or_else(|| ApiError::field("/recipe", "the step was not added"))?;
    let contribution = step.more.iter().find(|more| Some(more.id) == taken.contribution).cloned();
    Ok(Json(TakenView { step, at, contribution }))
}

/// A recipe with one step in another place: nothing is kept. 422 where a step could not be done then.
#[utoipa::path(post, path = "/api/patterns/{id}/moved", request_body = MoveAsked, responses(
    (status = 200, body = Recipe), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn move_step(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(asked): JsonBody<MoveAsked>,
) -> Result<Json<Recipe>, ApiError> {
    checked(&asked.recipe, style)?;
    let block = state.store.pattern(id).await?.block;
    let moved = asked.recipe.moved(&block, asked.step, asked.to, style);
    moved.map(Json).map_err(|says| ApiError::field("/to", says))
}

/// A recipe with the corrections of another pattern carried over, and what became of each: nothing is kept.
#[utoipa::path(post, path = "/api/patterns/{id}/carried-over", request_body = CarryAsked, responses(
    (status = 200, body = CarriedOver), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn carry(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(asked): JsonBody<CarryAsked>,
) -> Result<Json<CarriedOver>, ApiError> {
    checked(&asked.recipe, style)?;
    if asked.from == id {
        return Err(ApiError::field("/from", "choose another pattern: these corrections are this one's own"));
    }
    let pattern = state.store.pattern(id).await?;
    let other = state.store.pattern(asked.from).await?;
    let (order, from) =
        (state.store.order(pattern.order_id).await?.order, state.store.order(other.order_id).await?.order);
    let source = if order.client_id == from.client_id {
        Source::SameClient(&from.garment)
    } else {
        Source::OtherClient
    };
    let chosen = asked.steps.as_deref();
    Ok(Json(carry_over(&pattern.block, &asked.recipe, &other.recipe, chosen, source, style)))
}

/// Keeps a recipe.
#[utoipa::path(put, path = "/api/patterns/{id}/recipe", request_body = Based<RecipeChange>, responses(
    (status = 200, body = Saved), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<RecipeChange>>,
) -> Result<Json<Saved>, ApiError> {
    let recipe = based.change.recipe;
    checked(&recipe, style)?;
    match state.store.change_recipe(id, &recipe, based.revision, writer.person.id).await {
        Ok(revision) => Ok(Json(Saved { revision })),
        Err(error) => {
            let current = state.store.pattern(id).await.ok();
            let current = current.map(|p| serde_json::json!({ "recipe": p.recipe, "revision": p.revision }));
            Err(ApiError::from(error).with_current(current))
        }
    }
}

/// Freezes the pattern as its next version. 409 while a step is refused.
#[utoipa::path(post, path = "/api/patterns/{id}/versions", request_body = VersionEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn freeze(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<VersionEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let why = optional_words("/why", "The reason", &entry.why, 400)?;
    let pattern = state.store.pattern(id).await?;
    let why = standing_for_estimates(&state.store, &pattern, why, entry.stands.as_deref()).await?;
    if let Some(saw) = entry.revision.filter(|saw| *saw != pattern.revision) {
        let stale = StoreError::Stale { what: "recipe", now: pattern.revision, saw };
        return Err(ApiError::from(stale).with_current(None::<()>));
    }
    let version = version_of(&pattern, pattern.recipe.clone(), why, style)?;
    let id = state.store.add_version(id, &version, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Why a version is saved, with who stands for what was estimated for its block. 422 where nobody does; once
/// somebody has, later versions of the pattern ask no more.
async fn standing_for_estimates(
    store: &Store,
    pattern: &PatternRow,
    why: String,
    stands: Option<&str>,
) -> Result<String, ApiError> {
    let Some(names) = estimated_names(&pattern.block) else { return Ok(why) };
    let initials = stands.map(|by| words("/stands", "The initials", by, 12)).transpose()?;
    match initials {
        Some(by) => Ok(format!("{why} Estimated {names} stands ({by}).").trim().chars().take(400).collect()),
        None if !store.versions(pattern.id).await?.is_empty() => Ok(why),
        None => Err(ApiError::field(
            "/stands",
            format!(
                "{names} is estimated for this block: measure it and draft the block anew, or let it stand with your \
                 initials"
            ),
        )),
    }
}

/// Names of the readings that were estimated for a draft; none where everything was measured.
pub(super) fn estimated_names(block: &Pattern) -> Option<String> {
    let names: Vec<String> = block.estimated.iter().map(|code| name_of(code).to_lowercase()).collect();
    (!names.is_empty()).then(|| names.join(" and "))
}

/// The block's name as it is written on paper, with what was estimated for it.
pub(super) fn block_words(row: &PatternRow) -> String {
    let estimated = estimated_names(&row.block).map(|names| format!("; {names} estimated"));
    format!("{}{}", row.block_name, estimated.unwrap_or_default())
}

/// The version a recipe makes; 422 while a step of it is refused.
pub(super) fn version_of(
    pattern: &PatternRow,
    recipe: Recipe,
    why: String,
    style: Style,
) -> Result<NewVersion, ApiError> {
    let made = make(&pattern.block, &recipe, style);
    let refused = made.refused().next();
    match refused {
        Some((step, error)) => {
            Err(ApiError::field("/recipe", format!("step {} cannot be done: {error}", step.id)))
        }
        None => Ok(NewVersion { pattern: made.pattern, recipe, why }),
    }
}

/// Every pattern that was begun for a garment, oldest first.
#[utoipa::path(get, path = "/api/orders/{id}/patterns", responses(
    (status = 200, body = Vec<PatternOfOrder>)))]
async fn of_order(
    State(state): State<AppState>,
    _: SignedIn,
    Id(order): Id,
) -> Result<Json<Vec<PatternOfOrder>>, ApiError> {
    let view = |row: PatternSummary| PatternOfOrder {
        id: row.id,
        block_name: row.block_name,
        version: row.version,
        begun_at: row.begun_at,
        in_hand: row.in_hand,
    };
    Ok(Json(state.store.patterns(order).await?.into_iter().map(view).collect()))
}

/// Takes a pattern up again that was begun before; the one in hand is laid beside it.
#[utoipa::path(post, path = "/api/patterns/{id}/take-up", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn take_up(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_up_pattern(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Withdraws the newest version before it is cut, with the reason.
#[utoipa::path(post, path = "/api/versions/{id}/withdraw", request_body = Withdrawal, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn withdraw(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
    JsonBody(entry): JsonBody<Withdrawal>,
) -> Result<StatusCode, ApiError> {
    let why = words("/why", "The reason", &entry.why, 200)?;
    state.store.withdraw_version(id, &why, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Lets a withdrawn version stand again.
#[utoipa::path(delete, path = "/api/versions/{id}/withdraw", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn let_stand(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.restore_version(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
