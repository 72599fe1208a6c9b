//! `/api/house/…`: the house's own drafting methods, ease sets and size tables.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::draft::SizeTable;
use yardwand_core::ease::{DesignEase, EaseSet, ease_set};
use yardwand_core::{Length, Style, Unit};
use yardwand_paper::tables::{LineProblem, SizesIn, read_sizes};
use yardwand_store::{Shelf, Store};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::rights::Cutting;
use crate::views::{Based, Made, words};
use crate::workroom::{MethodAsk, house_ease};

#[derive(Deserialize, ToSchema)]
struct HouseMethodEntry {
    name: String,
    method: MethodAsk,
}

/// An ease set as it is typed: every field a length in the house's unit, with its sign.
#[derive(Deserialize, ToSchema)]
struct EaseEntry {
    name: String,
    #[serde(default)]
    note: String,
    wearing: EaseFields,
    #[serde(default)]
    design: EaseFields,
    /// What the cloth gives, per cent; a minus cuts smaller.
    #[serde(default)]
    stretch: String,
    /// Compare across the back with both arms forward where that was measured.
    #[serde(default)]
    reach: bool,
    /// Compare the waist drawn in, without wearing ease, where that was measured beside the natural one.
    #[serde(default)]
    drawn_in: bool,
}

#[derive(Default, Deserialize, ToSchema)]
#[serde(default)]
struct EaseFields {
    bust: String,
    waist: String,
    hip: String,
    across_back: String,
    upper_arm: String,
    /// As at the upper arm where it is empty.
    elbow: String,
    /// As at the upper arm where it is empty.
    wrist: String,
}

#[derive(Serialize, ToSchema)]
struct HouseEaseView {
    id: u64,
    revision: u32,
    changed_by: String,
    set: EaseSet,
}

#[derive(Deserialize, ToSchema)]
struct SizeTableEntry {
    #[serde(default)]
    name: String,
    /// The file: a row a measurement, a column a size.
    csv: String,
    /// The unit of rows that name none; the house's if left out.
    #[serde(default)]
    unit: Option<Unit>,
}

/// A size table as it was read, nothing kept.
#[derive(Serialize, ToSchema)]
struct SizeTableRead {
    sizes: Vec<String>,
    /// Names of the measurements.
    measurements: Vec<String>,
    problems: Vec<TableProblem>,
}

#[derive(Serialize, ToSchema)]
struct TableProblem {
    /// Line in the file, from 1.
    line: usize,
    column: Option<String>,
    says: String,
}

impl From<LineProblem> for TableProblem {
    fn from(problem: LineProblem) -> Self {
        Self { line: problem.line, column: problem.column, says: problem.says }
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(keep_method))
        .routes(routes!(remove_method))
        .routes(routes!(restore_method))
        .routes(routes!(restore_ease))
        .routes(routes!(restore_table))
        .routes(routes!(ease_sets, keep_ease))
        .routes(routes!(change_ease, remove_ease))
        .routes(routes!(read_table))
        .routes(routes!(keep_table))
        .routes(routes!(remove_table))
}

/// Keeps a method with its constants under a name of the house's own.
#[utoipa::path(post, path = "/api/house/methods", request_body = HouseMethodEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_method(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<HouseMethodEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The method's name", &entry.name, 120)?;
    // Ease belongs to the ease set: what is kept here are the constants.
    let method = entry.method.resolved(&state.store, style).await?;
    let id = state.store.put_on_shelf(Shelf::Methods, &name, &method, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Takes a house method away. Blocks drafted by it keep their own copy.
#[utoipa::path(delete, path = "/api/house/methods/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn remove_method(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_off_shelf(Shelf::Methods, id, true, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The house's own ease sets.
#[utoipa::path(get, path = "/api/house/ease-sets", responses((status = 200, body = Vec<HouseEaseView>)))]
async fn ease_sets(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<HouseEaseView>>, ApiError> {
    let own = state.store.shelf::<EaseSet>(Shelf::Ease).await?;
    let view = |kept: yardwand_store::Kept<EaseSet>| HouseEaseView {
        id: kept.id,
        revision: kept.revision,
        changed_by: kept.changed_by.clone(),
        set: house_ease(kept),
    };
    Ok(Json(own.into_iter().map(view).collect()))
}

fn read_ease(entry: &EaseEntry, style: Style) -> Result<EaseSet, ApiError> {
    let name = words("/name", "The set's name", &entry.name, 120)?;
    let length = |part: &str, field: &str, words: &str, text: &str| {
        if text.trim().is_empty() {
            return Ok(0.0);
        }
        let pointer = format!("/{part}/{field}");
        let mm = Length::read_signed(text, style.unit())
            .map_err(|error| ApiError::field(&pointer, format!("{part} ease at the {words}: {error}")))?;
        if (-150.0..=600.0).contains(&mm) {
            Ok(mm)
        } else {
            Err(ApiError::field(
                &pointer,
                format!(
                    "{part} ease at the {words} must lie between {} and {}",
                    style.least_mark(-150.0),
                    style.greatest_mark(600.0)
                ),
            ))
        }
    };
    let if_said = |part: &str, field: &str, text: &str| {
        if text.trim().is_empty() { Ok(None) } else { length(part, field, field, text).map(Some) }
    };
    let (w, d) = (&entry.wearing, &entry.design);
    let stretch =
        entry.stretch.trim().trim_end_matches('%').trim().replace(',', ".").replace('\u{2212}', "-");
    let stretch: f64 = if stretch.is_empty() { 0.0 } else { stretch.parse().unwrap_or(f64::NAN) };
    if !(-40.0..=20.0).contains(&stretch) {
        return Err(ApiError::field("/stretch", "what the cloth gives lies between −40 and 20 per cent"));
    }
    Ok(EaseSet {
        code: String::new(),
        name,
        note: crate::views::optional_words("/note", "The note", &entry.note, 300)?,
        bust: length("wearing", "bust", "bust", &w.bust)?,
        waist: length("wearing", "waist", "waist", &w.waist)?,
        hip: length("wearing", "hip", "hip", &w.hip)?,
        across_back: length("wearing", "across_back", "back", &w.across_back)?,
        upper_arm: length("wearing", "upper_arm", "upper arm", &w.upper_arm)?,
        elbow: if_said("wearing", "elbow", &w.elbow)?,
        wrist: if_said("wearing", "wrist", &w.wrist)?,
        stretch: stretch / 100.0,
        reach: entry.reach,
        drawn_in: entry.drawn_in,
        design: DesignEase {
            bust: length("design", "bust", "bust", &d.bust)?,
            waist: length("design", "waist", "waist", &d.waist)?,
            hip: length("design", "hip", "hip", &d.hip)?,
            across_back: length("design", "across_back", "back", &d.across_back)?,
            upper_arm: length("design", "upper_arm", "upper arm", &d.upper_arm)?,
            elbow: if_said("design", "elbow", &d.elbow)?,
            wrist: if_said("design", "wrist", &d.wrist)?,
        },
    })
}

/// Keeps an ease set of the house's own.
#[utoipa::path(post, path = "/api/house/ease-sets", request_body = EaseEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_ease(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<EaseEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let set = read_ease(&entry, style)?;
    let id = state.store.put_on_shelf(Shelf::Ease, &set.name, &set, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Changes an ease set of the house's own. Its name stays.
#[utoipa::path(put, path = "/api/house/ease-sets/{id}", request_body = Based<EaseEntry>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change_ease(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<EaseEntry>>,
) -> Result<StatusCode, ApiError> {
    let set = read_ease(&based.change, style)?;
    state.store.change_on_shelf(Shelf::Ease, id, &set, based.revision, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes an ease set of the house's own away, unless it is the usual one.
#[utoipa::path(delete, path = "/api/house/ease-sets/{id}", responses(
    (status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn remove_ease(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let usual = state.store.house().await?.ease_set;
    if usual == format!("house-{id}") && ease_set(&usual, Unit::Cm).is_none() {
        return Err(ApiError::field(
            "/ease_set",
            "this is the house's usual set: choose another usual one first",
        ));
    }
    state.store.take_off_shelf(Shelf::Ease, id, true, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

async fn sizes_of(store: &Store, entry: &SizeTableEntry) -> Result<SizesIn, ApiError> {
    let unit = match entry.unit {
        Some(unit) => unit,
        None => store.house().await?.style.unit(),
    };
    read_sizes(&entry.csv, unit).map_err(|error| ApiError::field("/csv", error.to_string()))
}

/// Reads a size table from CSV and says what is wrong, line by line; nothing is kept.
#[utoipa::path(post, path = "/api/house/size-tables/preview", request_body = SizeTableEntry, responses(
    (status = 200, body = SizeTableRead), (status = 422, body = Problem)))]
async fn read_table(
    State(state): State<AppState>,
    _: SignedIn,
    JsonBody(entry): JsonBody<SizeTableEntry>,
) -> Result<Json<SizeTableRead>, ApiError> {
    let read = sizes_of(&state.store, &entry).await?;
    Ok(Json(SizeTableRead {
        sizes: read.sizes.into_iter().map(|size| size.label).collect(),
        measurements: read.measurements.iter().map(|code| crate::figures::name_of(code)).collect(),
        problems: read.problems.into_iter().map(TableProblem::from).collect(),
    }))
}

/// Keeps a size table of the house's own: whole, or not at all.
#[utoipa::path(post, path = "/api/house/size-tables", request_body = SizeTableEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep_table(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    JsonBody(entry): JsonBody<SizeTableEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The table's name", &entry.name, 120)?;
    let read = sizes_of(&state.store, &entry).await?;
    if let Some(first) = read.problems.first() {
        let more = match read.problems.len() {
            1 => String::new(),
            count => format!(", and {} more", count - 1),
        };
        return Err(ApiError::field("/csv", format!("line {}: {}{more}", first.line, first.says)));
    }
    let table = SizeTable {
        code: String::new(),
        name: name.clone(),
        note: "The house's own table.".to_owned(),
        sizes: read.sizes,
    };
    let id = state.store.put_on_shelf(Shelf::SizeTables, &name, &table, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Takes a size table of the house's own away. Blocks drafted from it keep their figures.
#[utoipa::path(delete, path = "/api/house/size-tables/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn remove_table(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_off_shelf(Shelf::SizeTables, id, true, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a house method that was taken away back.
#[utoipa::path(post, path = "/api/house/methods/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn restore_method(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_off_shelf(Shelf::Methods, id, false, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a ease set that was taken away back.
#[utoipa::path(post, path = "/api/house/ease-sets/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn restore_ease(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_off_shelf(Shelf::Ease, id, false, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a size table that was taken away back.
#[utoipa::path(post, path = "/api/house/size-tables/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn restore_table(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_off_shelf(Shelf::SizeTables, id, false, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}
