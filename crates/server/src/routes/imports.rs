//! `/api/imports`: files of readings on their way in. A file is looked at first, with a sentence for every line that
//! cannot be read; saving runs in the background, can be watched and given up, and then leaves nothing behind.

use std::collections::{BTreeMap, BTreeSet};

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{Beside, Grade, Side, Taken, check_reading, measurement};
use yardwand_core::{Style, Unit};
use yardwand_paper::tables::{Column, Mapping, ReadingIn, Table, interpret, without_twins};
use yardwand_store::{ImportRow, ImportState, ImportedSession, NewReading, Store};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Doc, Id, Writer};
use crate::figures::name_of;
use crate::views::{Made, words};

/// Problems and readings that a preview shows.
const SHOWN: usize = 200;
/// Lines a file may have.
const MOST_LINES: usize = 20_000;

#[derive(Deserialize, ToSchema)]
struct FileEntry {
    file_name: String,
    /// CSV or JSON.
    content: String,
}

/// A column of the file.
#[derive(Serialize, ToSchema)]
struct ColumnView {
    heading: String,
    /// The first fields.
    sample: Vec<String>,
    is: Column,
}

/// What is wrong with a line.
#[derive(Serialize, ToSchema)]
struct LineView {
    line: usize,
    column: Option<String>,
    says: String,
}

/// A reading as it would be saved.
#[derive(Serialize, ToSchema)]
struct ReadingPreview {
    line: usize,
    client: String,
    taken_on: NaiveDate,
    name: String,
    side: Side,
    text: String,
}

/// A file before it is saved, and while it is.
#[derive(Serialize, ToSchema)]
struct ImportView {
    id: u64,
    file_name: String,
    state: String,
    /// Readings to save.
    total: u32,
    /// Readings saved.
    done: u32,
    lines: usize,
    columns: Vec<ColumnView>,
    unit: Unit,
    day_first: bool,
    /// What has to be said about the columns before lines can be read.
    lacks: Option<String>,
    /// Readings that are new.
    fresh: usize,
    clients: usize,
    new_clients: Vec<String>,
    /// How many lines are left out for a problem; the first of them below.
    problem_count: usize,
    problems: Vec<LineView>,
    /// How many readings are known already; the first of them below.
    twin_count: usize,
    twins: Vec<LineView>,
    /// How many readings are doubtful; they are saved all the same. The first of them below.
    doubt_count: usize,
    doubts: Vec<LineView>,
    sample: Vec<ReadingPreview>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(bring))
        .routes(routes!(look))
        .routes(routes!(map))
        .routes(routes!(save))
        .routes(routes!(cancel))
}

/// A file read as far as it can be.
struct Read {
    table: Table,
    mapping: Mapping,
    header_hash: [u8; 32],
    fresh: Vec<ReadingIn>,
    problems: Vec<LineView>,
    twins: Vec<LineView>,
    new_clients: BTreeSet<String>,
    clients: usize,
    lacks: Option<&'static str>,
}

async fn read(store: &Store, row: &ImportRow) -> Result<Read, ApiError> {
    let table = Table::read(&row.content).map_err(|error| ApiError::field("/content", error.to_string()))?;
    if table.rows.len() > MOST_LINES {
        let says = format!("the file has {} lines: at most {MOST_LINES} come in at once", table.rows.len());
        return Err(ApiError::field("/content", says));
    }
    let header_hash: [u8; 32] = Sha256::digest(table.columns.join("\u{1f}").as_bytes()).into();
    let remembered = store.remembered_mapping(&header_hash).await?;
    let remembered = remembered.and_then(|text| serde_json::from_str::<Mapping>(&text).ok());
    let unit = store.house().await?.style.unit();
    let mapping = remembered
        .filter(|mapping| mapping.columns.len() == table.columns.len())
        .unwrap_or_else(|| Mapping::guess(&table, unit));
    let lacks = mapping.lacks(false);
    let (readings, problems) = if lacks.is_some() {
        (Vec::new(), Vec::new())
    } else {
        interpret(&table, &mapping, None, Utc::now().date_naive())
    };
    let names: BTreeSet<String> = readings.iter().map(|reading| reading.client.clone()).collect();
    let (mut known, mut new_clients) = (BTreeMap::new(), BTreeSet::new());
    for name in &names {
        match store.figures_of_name(name).await? {
            None => {
                new_clients.insert(name.clone());
            }
            Some(figures) => {
                let side = |side: &str| match side {
                    "left" => Side::Left,
                    "right" => Side::Right,
                    _ => Side::Both,
                };
                let figures =
                    figures.into_iter().map(|(day, code, s, mm)| (day, code, side(&s), mm)).collect();
                known.insert(name.clone(), figures);
            }
        }
    }
    let (fresh, twins) = without_twins(readings, &known);
    let line = |problem: yardwand_paper::tables::LineProblem| LineView {
        line: problem.line,
        column: problem.column,
        says: problem.says,
    };
    Ok(Read {
        problems: problems.into_iter().map(line).collect(),
        twins: twins.into_iter().map(line).collect(),
        clients: names.len(),
        table,
        mapping,
        header_hash,
        fresh,
        new_clients,
        lacks,
    })
}

async fn view(store: &Store, id: u64) -> Result<ImportView, ApiError> {
    let row = store.import(id).await?;
    let in_hand = matches!(row.state, ImportState::Preview);
    let read = if in_hand { Some(read(store, &row).await?) } else { None };
    let base = ImportView {
        id,
        state: row.state.code().to_owned(),
        total: row.total,
        done: row.done,
        file_name: row.file_name,
        lines: 0,
        columns: Vec::new(),
        unit: Unit::Cm,
        day_first: true,
        lacks: None,
        fresh: 0,
        clients: 0,
        new_clients: Vec::new(),
        problem_count: 0,
        problems: Vec::new(),
        twin_count: 0,
        twins: Vec::new(),
        doubt_count: 0,
        doubts: Vec::new(),
        sample: Vec::new(),
    };
    let Some(read) = read else { return Ok(base) };
    let columns = read.table.columns.iter().zip(&read.mapping.columns).enumerate();
    let columns = columns.map(|(place, (heading, is))| ColumnView {
        heading: heading.clone(),
        sample: read.table.rows.iter().filter_map(|(_, fields)| fields.get(place).cloned()).take(3).collect(),
        is: is.clone(),
    });
    let doubts = doubts(&read.fresh, store.house().await?.style);
    let sample = read.fresh.iter().take(20).map(|reading| ReadingPreview {
        line: reading.line,
        client: reading.client.clone(),
        taken_on: reading.taken_on,
        name: name_of(&reading.code),
        side: reading.side,
        text: reading.entered.with_unit(),
    });
    Ok(ImportView {
        lines: read.table.rows.len() + read.table.broken.len(),
        columns: columns.collect(),
        unit: read.mapping.unit,
        day_first: read.mapping.day_first,
        lacks: read.lacks.map(str::to_owned),
        fresh: read.fresh.len(),
        clients: read.clients,
        sample: sample.collect(),
        doubt_count: doubts.len(),
        doubts: doubts.into_iter().take(SHOWN).collect(),
        new_clients: read.new_clients.into_iter().take(SHOWN).collect(),
        problem_count: read.problems.len(),
        problems: read.problems.into_iter().take(SHOWN).collect(),
        twin_count: read.twins.len(),
        twins: read.twins.into_iter().take(SHOWN).collect(),
        ..base
    })
}

/// Readings that are doubtful by themselves: out of range, or in the other unit.
fn doubts(readings: &[ReadingIn], style: Style) -> Vec<LineView> {
    let doubt = |reading: &ReadingIn| {
        let row = measurement(&reading.code)?;
        let found = check_reading(row, &reading.entered, &Beside::default(), style);
        let finding = found.into_iter().find(|finding| finding.grade > Grade::Note)?;
        let says = format!("{}: {}", reading.entered.with_unit(), finding.says);
        Some(LineView { line: reading.line, column: Some(row.name.clone()), says })
    };
    readings.iter().filter_map(doubt).collect()
}

/// Brings a file in to look at: nothing is saved yet.
#[utoipa::path(post, path = "/api/imports", request_body = FileEntry, responses((status = 201, body = Made), (status = 422, body = Problem)))]
async fn bring(
    State(state): State<AppState>,
    writer: Writer,
    Doc(entry): Doc<FileEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let file_name = words("/file_name", "The file's name", &entry.file_name, 200)?;
    Table::read(&entry.content).map_err(|error| ApiError::field("/content", error.to_string()))?;
    let id = state.store.add_import(&file_name, &entry.content, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A file: what it holds before it is saved, and how far it is while it is.
#[utoipa::path(get, path = "/api/imports/{id}", responses((status = 200, body = ImportView), (status = 404, body = Problem)))]
async fn look(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<ImportView>, ApiError> {
    Ok(Json(view(&state.store, id).await?))
}

/// Says what the columns are; remembered for the next file with the same headings.
#[utoipa::path(put, path = "/api/imports/{id}/mapping", request_body = Mapping, responses(
    (status = 200, body = ImportView), (status = 422, body = Problem)))]
async fn map(
    State(state): State<AppState>,
    _: Writer,
    Id(id): Id,
    Doc(mapping): Doc<Mapping>,
) -> Result<Json<ImportView>, ApiError> {
    let row = state.store.import(id).await?;
    let read = read(&state.store, &row).await?;
    if mapping.columns.len() != read.table.columns.len() {
        let says = format!("the file has {} columns: say of each what it is", read.table.columns.len());
        return Err(ApiError::field("/columns", says));
    }
    let text = serde_json::to_string(&mapping).map_err(|error| ApiError::Unreadable(error.to_string()))?;
    state.store.remember_mapping(&read.header_hash, &text).await?;
    Ok(Json(view(&state.store, id).await?))
}

/// Saves the readings that are new and can be read. 202: ask for the file to see how far it is.
#[utoipa::path(post, path = "/api/imports/{id}/save", responses((status = 202), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn save(State(state): State<AppState>, writer: Writer, Id(id): Id) -> Result<StatusCode, ApiError> {
    let row = state.store.import(id).await?;
    if row.state != ImportState::Preview {
        return Err(yardwand_store::StoreError::Refused(
            "this file is being saved or was: bring it in again",
        )
        .into());
    }
    let read = read(&state.store, &row).await?;
    if let Some(lacks) = read.lacks {
        return Err(ApiError::field("/columns", lacks));
    }
    if read.fresh.is_empty() {
        return Err(ApiError::field("/content", "there is nothing new to save in this file"));
    }
    let total = read.fresh.len() as u32;
    if !state.store.move_import(id, ImportState::Preview, ImportState::Running, Some(total)).await? {
        return Err(yardwand_store::StoreError::Refused("somebody else is saving this file already").into());
    }
    let (store, by, unit) = (state.store.clone(), writer.person.id, read.mapping.unit);
    tokio::spawn(async move {
        if let Err(error) = run(&store, id, by, unit, read.fresh).await {
            tracing::error!(import = id, %error, "an import failed");
            let _ = store.undo_import(id).await;
            let _ = store.move_import(id, ImportState::Running, ImportState::Failed, None).await;
        }
    });
    Ok(StatusCode::ACCEPTED)
}

async fn run(
    store: &Store,
    id: u64,
    by: u64,
    unit: Unit,
    readings: Vec<ReadingIn>,
) -> Result<(), yardwand_store::StoreError> {
    for session in by_day(readings, unit) {
        if !store.import_session(id, &session, by).await? {
            store.undo_import(id).await?;
            store.move_import(id, ImportState::Stopping, ImportState::Cancelled, None).await?;
            return Ok(());
        }
    }
    if !store.move_import(id, ImportState::Running, ImportState::Done, None).await? {
        store.undo_import(id).await?;
        store.move_import(id, ImportState::Stopping, ImportState::Cancelled, None).await?;
    }
    Ok(())
}

/// One session for each client and day, in the order of the file.
fn by_day(readings: Vec<ReadingIn>, unit: Unit) -> Vec<ImportedSession> {
    let mut places: BTreeMap<(String, NaiveDate), usize> = BTreeMap::new();
    let mut sessions: Vec<ImportedSession> = Vec::new();
    for reading in readings {
        let key = (reading.client.clone(), reading.taken_on);
        let place = *places.entry(key).or_insert_with(|| {
            let (client, taken_on) = (reading.client.clone(), reading.taken_on);
            sessions.push(ImportedSession { client, taken_on, unit, readings: Vec::new() });
            sessions.len() - 1
        });
        let taken = Taken { ease_mm: reading.ease_mm, ..Taken::default() };
        let plain = NewReading::plain(&reading.code, reading.entered);
        sessions[place].readings.push(NewReading { side: reading.side, taken, note: reading.note, ..plain });
    }
    sessions
}

/// Gives an import up: nothing of it stays.
#[utoipa::path(post, path = "/api/imports/{id}/cancel", responses((status = 204), (status = 409, body = Problem)))]
async fn cancel(State(state): State<AppState>, _: Writer, Id(id): Id) -> Result<StatusCode, ApiError> {
    let store = &state.store;
    store.import(id).await?;
    let stopped = store.move_import(id, ImportState::Preview, ImportState::Cancelled, None).await?
        || store.move_import(id, ImportState::Running, ImportState::Stopping, None).await?;
    if stopped {
        Ok(StatusCode::NO_CONTENT)
    } else {
        Err(yardwand_store::StoreError::Refused("this file is not being saved any more").into())
    }
}
