//! `/api/drafting`: methods, size tables, and a draft with its construction, looked at before it is kept.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{
    Conflict, Draft, DraftDifference, DraftError, DraftMeasure, DraftNote, DraftStepView, Method, MethodKind,
    draft, draft_differences, draft_measures, step_views,
};
use yardwand_core::ease::{EaseSet, ease_sets};
use yardwand_core::pattern::Garment;
use yardwand_store::{How, NewBlock, Shelf};

use super::blocks::{DrawnBlock, drawn, refusal};
use super::print::SheetPaper;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString, Writer};
use crate::figures::{name_of, profile_of_client};
use crate::rights::Cutting;
use crate::sheets::draft_sheet;
use crate::views::{Made, attached, words};
use crate::workroom::{
    MethodAsk, ParameterView, all_size_tables, ease_of_draft, own_name, parameter_views, table_named,
};

/// What a house can draft with.
#[derive(Serialize, ToSchema)]
struct Drafting {
    kinds: Vec<KindOfDraft>,
    methods: Vec<HouseMethodView>,
    tables: Vec<SizeTableView>,
}

#[derive(Serialize, ToSchema)]
struct KindOfDraft {
    kind: MethodKind,
    name: String,
    trusts: String,
    /// Names of the readings it cannot do without.
    needs: Vec<String>,
    /// What it drafts: a sleeve can be drafted into a bodice.
    garment: Garment,
    /// The ease it is drafted with where none is chosen; none where that is the house's usual one.
    usual_ease: Option<String>,
}

#[derive(Serialize, ToSchema)]
struct HouseMethodView {
    id: u64,
    name: String,
    kind: MethodKind,
    with_sleeve: bool,
    changed_by: String,
}

#[derive(Serialize, ToSchema)]
struct SizeTableView {
    code: String,
    name: String,
    note: String,
    sizes: Vec<String>,
    /// The house's own number for it; none where it is built in.
    house_id: Option<u64>,
}

/// Whose figures are drafted.
#[derive(Clone, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case", tag = "from")]
enum DraftSource {
    /// A client's latest readings.
    Client {
        /// Her number.
        client: u64,
    },
    /// A dress form's own figures.
    Form {
        /// Its number.
        form: u64,
    },
    /// A size of a table.
    Table {
        /// The table's code.
        table: String,
        /// The size.
        size: String,
    },
}

#[derive(Clone, Debug, Deserialize, ToSchema)]
struct DraftAsk {
    source: DraftSource,
    #[serde(default)]
    method: MethodAsk,
    /// The ease set; the house's usual one if left out.
    #[serde(default)]
    ease_set: Option<String>,
    /// Another construction of the same figures to lay beside it.
    #[serde(default)]
    beside: Option<MethodKind>,
    /// What it measures is wanted as well, and how sure that is.
    #[serde(default)]
    measures: bool,
}

/// A draft to look at. Nothing is kept.
#[derive(Serialize, ToSchema)]
struct DraftPreview {
    /// Whose figures.
    name: String,
    /// The construction.
    method: String,
    ease: String,
    drawn: Option<DrawnBlock>,
    /// Why it cannot be kept, or cannot be drawn at all.
    refused: Option<String>,
    /// Codes of the readings to look at.
    readings: Vec<String>,
    /// The two readings that contradict each other, and what either would have to be.
    conflicts: Vec<Conflict>,
    steps: Vec<DraftStepView>,
    parameters: Vec<ParameterView>,
    beside: Option<Beside>,
    /// What it measures, where that was asked for, and how sure it is by her readings; none of a table's sizes, which nobody
    /// measured.
    measures: Vec<DraftMeasure>,
}

/// The same figures by another construction.
#[derive(Serialize, ToSchema)]
#[schema(as = DraftBeside)]
struct Beside {
    method: String,
    drawn: Option<DrawnBlock>,
    refused: Option<String>,
    /// Figures that differ by more than 5 mm, the widest first.
    differences: Vec<DraftDifference>,
}

#[derive(Deserialize, ToSchema)]
struct OwnBlockEntry {
    #[serde(default)]
    method: MethodAsk,
    /// The ease set; the house's usual one if left out.
    #[serde(default)]
    ease_set: Option<String>,
    #[serde(default)]
    why: String,
}

#[derive(Deserialize, ToSchema)]
struct MasterEntry {
    name: String,
    why: String,
    /// The size table's code.
    table: String,
    /// Sizes of the table, in any order; all of them if left out.
    #[serde(default)]
    sizes: Vec<String>,
    #[serde(default)]
    method: MethodAsk,
    #[serde(default)]
    ease_set: Option<String>,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct SheetAsk {
    /// The paper.
    #[serde(default = "super::print::a4")]
    #[param(inline, required = false)]
    paper: SheetPaper,
    /// What to draft, as the preview takes it, as JSON.
    ask: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(get))
        .routes(routes!(preview))
        .routes(routes!(sheet))
        .routes(routes!(keep_own))
        .routes(routes!(keep_of_form))
        .routes(routes!(keep_master))
}

/// Methods, house methods and size tables.
#[utoipa::path(get, path = "/api/drafting", responses((status = 200, body = Drafting)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
) -> Result<Json<Drafting>, ApiError> {
    let kind = |kind: MethodKind| KindOfDraft {
        kind,
        name: kind.name().to_owned(),
        trusts: kind.trusts().to_owned(),
        needs: kind.needs().into_iter().map(name_of).collect(),
        garment: kind.garment(),
        usual_ease: kind
            .garment()
            .usual_ease()
            .and_then(|code| ease_sets(style.unit()).iter().find(|set| set.code == code))
            .map(|set| set.name.clone()),
    };
    let methods = state.store.shelf::<Method>(Shelf::Methods).await?;
    let tables = all_size_tables(&state.store).await?;
    Ok(Json(Drafting {
        kinds: MethodKind::ALL.into_iter().map(kind).collect(),
        methods: methods
            .into_iter()
            .map(|kept| HouseMethodView {
                id: kept.id,
                name: kept.name,
                kind: kept.document.kind,
                with_sleeve: kept.document.with_sleeve,
                changed_by: kept.changed_by,
            })
            .collect(),
        tables: tables
            .into_iter()
            .map(|table| SizeTableView {
                house_id: table.code.strip_prefix("house-").and_then(|id| id.parse().ok()),
                sizes: table.sizes.into_iter().map(|size| size.label).collect(),
                code: table.code,
                name: table.name,
                note: table.note,
            })
            .collect(),
    }))
}

/// The figures of a source, under its name; of a client also these of her wishes.
async fn body_of(
    state: &AppState,
    source: &DraftSource,
    wishes: &[&str],
) -> Result<(String, Body), ApiError> {
    match source {
        DraftSource::Client { client } => {
            let name = state.store.client(*client).await?.name;
            Ok((name, profile_of_client(&state.store, *client).await?.body_with(wishes)))
        }
        DraftSource::Form { form } => {
            let form = state.store.form(*form).await?;
            Ok((form.name, form.figures))
        }
        DraftSource::Table { table, size } => {
            let table = table_named(&state.store, table).await?;
            let figure = table.figure(size).ok_or_else(|| {
                ApiError::field(
                    "/source/size",
                    format!("“{}” has no size {size}: choose one of its own", table.name),
                )
            })?;
            Ok((format!("{}, size {size}", table.name), figure))
        }
    }
}

struct Drafted {
    name: String,
    ease: EaseSet,
    method: Method,
    body: Body,
    outcome: Result<Draft, DraftError>,
}

async fn drafted(state: &AppState, ask: &DraftAsk, style: Style) -> Result<Drafted, ApiError> {
    let method = ask.method.resolved(&state.store, style).await?;
    let (name, body) = body_of(state, &ask.source, method.kind.wishes()).await?;
    let ease = ease_of_draft(&state.store, ask.ease_set.as_deref(), method.kind.garment()).await?;
    let method = method.with_ease(&ease, &body);
    let outcome = draft(&body, &method, style);
    Ok(Drafted { name, ease, method, body, outcome })
}

/// Drafts a block from a client's readings or a size of a table: nothing is kept.
#[utoipa::path(post, path = "/api/drafting/preview", request_body = DraftAsk, responses(
    (status = 200, body = DraftPreview), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn preview(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(ask): JsonBody<DraftAsk>,
) -> Result<Json<DraftPreview>, ApiError> {
    let Drafted { name, ease, method, mut body, outcome } = drafted(&state, &ask, style).await?;
    let (mut shown, error) = match outcome {
        Ok(draft) => (Some(draft), None),
        Err(error) => (None, Some(error)),
    };
    // What is missing is estimated from her other readings: to look at, never to keep.
    if let (Some(DraftError::Missing(codes)), DraftSource::Client { client }) = (&error, &ask.source) {
        let (whole, notes) = estimated(&state, *client, codes, style).await?;
        body = whole;
        shown = draft(&body, &method, style).ok().map(|mut draft| {
            draft.notes.splice(0..0, notes);
            draft
        });
    }
    let beside = ask.beside.filter(|kind| *kind != method.kind).map(|kind| {
        let method = Method { kind, ..method };
        let outcome = draft(&body, &method, style);
        let differences = shown.as_ref().zip(outcome.as_ref().ok());
        Beside {
            method: kind.name().to_owned(),
            differences: differences
                .map_or_else(Vec::new, |(one, other)| draft_differences(one, other, style)),
            refused: outcome.as_ref().err().map(refusal),
            drawn: outcome.ok().map(|draft| drawn(&draft.pattern, draft.notes, None, style)),
        }
    });
    let conflicts = match &error {
        Some(DraftError::Contradiction(found)) => found.readings.to_vec(),
        _ => Vec::new(),
    };
    Ok(Json(DraftPreview {
        name,
        method: method.kind.name().to_owned(),
        ease: ease.name,
        parameters: parameter_views(&method, style),
        refused: error.as_ref().map(refusal),
        readings: error.iter().flat_map(DraftError::measurements).map(str::to_owned).collect(),
        conflicts,
        measures: match (&shown, &ask.source) {
            (Some(drawn), DraftSource::Client { .. } | DraftSource::Form { .. }) if ask.measures => {
                draft_measures(drawn, &body, &method, style)
            }
            _ => Vec::new(),
        },
        steps: shown.as_ref().map_or_else(Vec::new, |draft| step_views(&draft.steps, style)),
        drawn: shown.map(|draft| drawn(&draft.pattern, draft.notes, None, style)),
        beside,
    }))
}

/// Her body with the missing readings estimated, and a note for each.
async fn estimated(
    state: &AppState,
    client: u64,
    missing: &[String],
    style: Style,
) -> Result<(Body, Vec<DraftNote>), ApiError> {
    let profile = profile_of_client(&state.store, client).await?.with_estimates(missing);
    let mut body = profile.body();
    let mut notes = Vec::new();
    for figure in profile.0.iter().filter(|figure| figure.estimated) {
        let Some(mm) = figure.mm else { continue };
        body = body.with(&figure.code, mm).with_spread(&figure.code, figure.spread);
        notes.push(DraftNote {
            says: format!(
                "{} is taken as {}, give or take {}: measure it before cutting.",
                name_of(&figure.code),
                style.with_unit(mm),
                style.with_unit(figure.give_mm)
            ),
            measurement: Some(figure.code.clone()),
            estimated: true,
        });
    }
    Ok((body, notes))
}

/// The construction as a worksheet: every step with its formula, exact and rounded figures, and a drawing.
#[utoipa::path(get, path = "/api/drafting/sheet.pdf", params(SheetAsk), responses(
    (status = 200, content_type = "application/pdf", body = Vec<u8>), (status = 422, body = Problem)))]
async fn sheet(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<SheetAsk>,
) -> Result<Response, ApiError> {
    let ask: DraftAsk = serde_json::from_str(&asked.ask).map_err(|_| {
        ApiError::field("/ask", "the draft that was asked for cannot be read: open it on the screen")
    })?;
    let Drafted { name, ease, method, outcome, .. } = drafted(&state, &ask, style).await?;
    let draft = outcome.map_err(|error| ApiError::field("/readings", refusal(&error)))?;
    let under = format!("{name}. {}, ease: {}.", method.kind.name(), ease.name);
    let pdf = draft_sheet(&draft, &under, style, asked.paper.into()).map_err(ApiError::from)?;
    Ok(attached("application/pdf", "construction.pdf", pdf))
}

/// Keeps a block drafted from a client's own readings.
#[utoipa::path(post, path = "/api/clients/{id}/blocks", request_body = OwnBlockEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_own(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(client): Id,
    JsonBody(entry): JsonBody<OwnBlockEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let block = drafted_block(&state, DraftSource::Client { client }, entry, style).await?;
    let id = state.store.add_block(&block, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Keeps a block drafted from a dress form's own figures.
#[utoipa::path(post, path = "/api/forms/{id}/blocks", request_body = OwnBlockEntry, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn keep_of_form(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(form): Id,
    JsonBody(entry): JsonBody<OwnBlockEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let block = drafted_block(&state, DraftSource::Form { form }, entry, style).await?;
    let id = state.store.add_block(&block, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A block of one body: a client's, which is hers, or a form's, which is the house's.
async fn drafted_block(
    state: &AppState,
    source: DraftSource,
    entry: OwnBlockEntry,
    style: Style,
) -> Result<NewBlock, ApiError> {
    let client_id = match source {
        DraftSource::Client { client } => Some(client),
        DraftSource::Form { .. } | DraftSource::Table { .. } => None,
    };
    let ask =
        DraftAsk { source, method: entry.method, ease_set: entry.ease_set, beside: None, measures: false };
    let Drafted { name, ease, method, body, outcome } = drafted(state, &ask, style).await?;
    let draft = outcome.map_err(|error| ApiError::field("/readings", refusal(&error)))?;
    let usual = if client_id.is_some() { "her own readings" } else { "the form's own figures" };
    let why = if entry.why.trim().is_empty() {
        format!("Drafted from {usual}.")
    } else {
        words("/why", "The reason", &entry.why, 400)?
    };
    let label = if client_id.is_some() { "own" } else { "form" };
    Ok(NewBlock {
        name: own_name(&name, method.kind.garment()),
        client_id,
        how: How::Drafted,
        told: String::new(),
        parent_id: None,
        method: Some(method),
        ease_set: ease.code,
        why,
        sizes: vec![BlockSize::drawn(label, body, draft.pattern)],
    })
}

/// Keeps a house master: every size of a table drafted by one method, or none where one is refused.
#[utoipa::path(post, path = "/api/blocks", request_body = MasterEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_master(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<MasterEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The master's name", &entry.name, 120)?;
    let why = words("/why", "The reason", &entry.why, 400)?;
    let table = table_named(&state.store, &entry.table).await?;
    if let Some(unknown) =
        entry.sizes.iter().find(|label| table.sizes.iter().all(|size| size.label != **label))
    {
        return Err(ApiError::field(
            "/sizes",
            format!("“{}” has no size {unknown}: choose among its own", table.name),
        ));
    }
    let wanted =
        table.sizes.iter().filter(|size| entry.sizes.is_empty() || entry.sizes.contains(&size.label));
    let mut sizes = Vec::new();
    let method = entry.method.resolved(&state.store, style).await?;
    let ease = ease_of_draft(&state.store, entry.ease_set.as_deref(), method.kind.garment()).await?;
    let mut kept_method = None;
    for size in wanted {
        let figure = table.figure(&size.label).unwrap_or_default();
        let method = method.with_ease(&ease, &figure);
        let draft = draft(&figure, &method, style).map_err(|error| {
            ApiError::field("/sizes", format!("Size {}: {}", size.label, refusal(&error)))
        })?;
        kept_method = Some(method);
        sizes.push(BlockSize::drawn(&size.label, figure, draft.pattern));
    }
    let block = NewBlock {
        name,
        client_id: None,
        how: How::Drafted,
        told: format!("Sizes of {}.", table.name),
        parent_id: None,
        method: kept_method,
        ease_set: ease.code,
        why,
        sizes,
    };
    let id = state.store.add_block(&block, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
