//! `/api/imports`: files of readings on their way in. A file is looked at first, with a sentence for every line that
//! cannot be read; saving runs in the background, can be watched and given up, and then leaves nothing behind.

use std::collections::{BTreeMap, BTreeSet};

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{Beside, Grade, Side, Taken, check_reading, measurement};
use yardwand_core::{Style, Unit};
use yardwand_paper::tables::{Column, Mapping, ReadingIn, Table, are_near, interpret, tidy, without_twins};
use yardwand_store::{ImportRow, ImportState, ImportedClient, ImportedSession, NewReading, Store};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::figures::name_of;
use crate::jobs::{Ended, Hand};
use crate::rights::Readings;
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

/// Somebody of the book whom a name of the file may mean.
#[derive(Clone, Debug, Serialize, ToSchema)]
struct MatchView {
    client_id: u64,
    name: String,
    contact: String,
}

/// A name of the file, and whose readings they are.
#[derive(Clone, Debug, Serialize, ToSchema)]
struct PersonView {
    /// As the file has it.
    name: String,
    /// Everybody of this name, then everybody of a near one.
    may_be: Vec<MatchView>,
    /// Whose they are, as far as that is clear or answered.
    client_id: Option<u64>,
    /// New in the book.
    is_new: bool,
    /// Has to be answered before anything is saved.
    open: bool,
}

/// Whose a name of the file is.
#[derive(Deserialize, ToSchema)]
struct PersonAnswer {
    /// As the file has it.
    name: String,
    /// The client; none for somebody who is new in the book.
    client_id: Option<u64>,
}

/// What the columns are.
#[derive(Deserialize, ToSchema)]
struct MappingEntry {
    #[serde(flatten)]
    mapping: Mapping,
    /// The order of day and month was chosen for this file.
    #[serde(default)]
    order_chosen: bool,
}

/// What was answered about a file.
#[derive(Default, Serialize, Deserialize)]
#[serde(default)]
struct Answers {
    /// By the file's names; none is somebody new.
    people: BTreeMap<String, Option<u64>>,
    /// The order of day and month was chosen for this file.
    order_chosen: bool,
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
    /// Names that are near to one of the book, or that several there have.
    people: Vec<PersonView>,
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
        .routes(routes!(people))
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
    people: Vec<PersonView>,
    lacks: Option<&'static str>,
}

impl Read {
    fn owner(&self, name: &str) -> ImportedClient {
        let known = self.people.iter().find(|person| person.name == name).and_then(|person| person.client_id);
        known.map_or_else(|| ImportedClient::New(name.to_owned()), ImportedClient::Known)
    }
}

/// Who a name of the file is: one exact name of the book, the answer that was given, or a question.
fn person(name: String, everyone: &[(u64, String, String)], answers: &Answers) -> PersonView {
    let view = |(id, name, contact): &(u64, String, String)| MatchView {
        client_id: *id,
        name: name.clone(),
        contact: contact.clone(),
    };
    let is_same = |other: &str| tidy(other) == name;
    let same: Vec<MatchView> = everyone.iter().filter(|(_, other, _)| is_same(other)).map(view).collect();
    let near = everyone.iter().filter(|(_, other, _)| !is_same(other) && are_near(&name, other)).map(view);
    let clear = if let [only] = same.as_slice() { Some(only.client_id) } else { None };
    let may_be: Vec<MatchView> = same.into_iter().chain(near).collect();
    match (answers.people.get(&name), clear) {
        (Some(answer), _) => {
            PersonView { client_id: *answer, is_new: answer.is_none(), open: false, name, may_be }
        }
        (None, Some(id)) => PersonView { client_id: Some(id), is_new: false, open: false, name, may_be },
        (None, None) => {
            let open = !may_be.is_empty();
            PersonView { client_id: None, is_new: !open, open, name, may_be }
        }
    }
}

async fn answers(store: &Store, id: u64) -> Result<Answers, ApiError> {
    let kept = store.import_answers(id).await?;
    Ok(kept.and_then(|text| serde_json::from_str(&text).ok()).unwrap_or_default())
}

async fn answer(store: &Store, id: u64, answers: &Answers) -> Result<(), ApiError> {
    let text = serde_json::to_string(answers).map_err(|error| ApiError::Unreadable(error.to_string()))?;
    Ok(store.answer_import(id, &text).await?)
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
        .unwrap_or_else(|| Mapping::guess(&table, unit))
        .in_the_files_order(&table);
    let answers = answers(store, row.id).await?;
    let order = (!answers.order_chosen && mapping.order_is_open(&table))
        .then_some("choose below how a day such as 3/4/2026 is read: this file's days can be read both ways");
    let lacks = mapping.lacks(false).or(order);
    let (readings, problems) = if lacks.is_some() {
        (Vec::new(), Vec::new())
    } else {
        interpret(&table, &mapping, None, crate::workroom::today())
    };
    let names: BTreeSet<String> = readings.iter().map(|reading| reading.client.clone()).collect();
    let everyone = store.everyone_but_of(row.id).await?;
    let people: Vec<PersonView> = names.into_iter().map(|name| person(name, &everyone, &answers)).collect();
    let mut known = BTreeMap::new();
    for person in &people {
        let Some(client) = person.client_id else { continue };
        let side = |side: &str| match side {
            "left" => Side::Left,
            "right" => Side::Right,
            _ => Side::Both,
        };
        let figures = store.figures_but_of(row.id, client).await?.into_iter();
        let figures = figures.map(|(day, code, s, mm)| (day, code, side(&s), mm)).collect();
        known.insert(person.name.clone(), figures);
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
        table,
        mapping,
        header_hash,
        fresh,
        people,
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
        people: Vec::new(),
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
        clients: read.people.len(),
        sample: sample.collect(),
        doubt_count: doubts.len(),
        doubts: doubts.into_iter().take(SHOWN).collect(),
        new_clients: read
            .people
            .iter()
            .filter(|person| person.is_new)
            .map(|person| person.name.clone())
            .take(SHOWN)
            .collect(),
        people: read.people.into_iter().filter(is_asked).take(SHOWN).collect(),
        problem_count: read.problems.len(),
        problems: read.problems.into_iter().take(SHOWN).collect(),
        twin_count: read.twins.len(),
        twins: read.twins.into_iter().take(SHOWN).collect(),
        ..base
    })
}

/// Whether there is anything to choose about a name.
fn is_asked(person: &PersonView) -> bool {
    let clear = person.may_be.len() == 1 && person.client_id == person.may_be.first().map(|m| m.client_id);
    person.open || !person.may_be.is_empty() && !clear
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
    writer: Writer<Readings>,
    JsonBody(entry): JsonBody<FileEntry>,
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
#[utoipa::path(put, path = "/api/imports/{id}/mapping", request_body = MappingEntry, responses(
    (status = 200, body = ImportView), (status = 422, body = Problem)))]
async fn map(
    State(state): State<AppState>,
    _: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<MappingEntry>,
) -> Result<Json<ImportView>, ApiError> {
    let MappingEntry { mapping, order_chosen: asked_order } = entry;
    let row = state.store.import(id).await?;
    let read = read(&state.store, &row).await?;
    if mapping.columns.len() != read.table.columns.len() {
        let says = format!("the file has {} columns: say of each what it is", read.table.columns.len());
        return Err(ApiError::field("/columns", says));
    }
    if let Some(code) = mapping.unknown() {
        return Err(ApiError::field("/columns", format!("no measurement is called “{code}”")));
    }
    if mapping.day_first != read.mapping.day_first || asked_order {
        answer(&state.store, id, &Answers { order_chosen: true, ..answers(&state.store, id).await? }).await?;
    }
    let text = serde_json::to_string(&mapping).map_err(|error| ApiError::Unreadable(error.to_string()))?;
    state.store.remember_mapping(&read.header_hash, &text).await?;
    Ok(Json(view(&state.store, id).await?))
}

/// Saves the readings that are new and can be read. 202: ask for the file to see how far it is.
#[utoipa::path(post, path = "/api/imports/{id}/save", responses((status = 202), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn save(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
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
    if let Some(open) = read.people.iter().find(|person| person.open) {
        let says = format!(
            "say whose the readings of “{}” are: the book has a near name, or several of it",
            open.name
        );
        return Err(ApiError::field("/people", says));
    }
    if read.fresh.is_empty() {
        return Err(ApiError::field("/content", "there is nothing new to save in this file"));
    }
    let total = read.fresh.len() as u32;
    if !state.store.begin_import(id, total, writer.person.id).await? {
        return Err(yardwand_store::StoreError::Refused("somebody else is saving this file already").into());
    }
    state.jobs.wake();
    Ok(StatusCode::ACCEPTED)
}

/// Sessions saved in one transaction: few enough that the progress moves and a cancelled import ends soon.
const SESSIONS_AT_ONCE: usize = 50;

/// Saves a file that is being saved: from its first line, or from where another server left it. What failed is taken back.
pub(crate) async fn save_import(hand: &Hand, id: u64) -> Result<Ended, ApiError> {
    let store = &hand.store;
    let saved = save_sessions(hand, id).await;
    if hand.is_lost() {
        return Ok(Ended::GivenUp);
    }
    let to = match &saved {
        Ok(true) if store.move_import(id, ImportState::Running, ImportState::Done).await? => {
            return Ok(Ended::Done(None));
        }
        // It was done, and the server went away before it could say so.
        Ok(_) if store.import(id).await?.state == ImportState::Done => return Ok(Ended::Done(None)),
        Ok(_) => ImportState::Cancelled,
        Err(error) if error.is_passing() => return saved.map(|_| Ended::GivenUp),
        Err(_) => ImportState::Failed,
    };
    take_import_back(store, id, to).await?;
    saved.map(|_| Ended::GivenUp)
}

/// Takes back what was saved of a file; it stands so from then on.
pub(crate) async fn take_import_back(store: &Store, id: u64, to: ImportState) -> Result<(), ApiError> {
    store.undo_import(id).await?;
    for from in [ImportState::Running, ImportState::Stopping] {
        store.move_import(id, from, to).await?;
    }
    Ok(())
}

/// False where it is to be given up.
async fn save_sessions(hand: &Hand, id: u64) -> Result<bool, ApiError> {
    let store = &hand.store;
    let row = store.import(id).await?;
    if row.state != ImportState::Running {
        return Ok(false);
    }
    let sessions = by_day(&read(store, &row).await?);
    let readings = |some: &[ImportedSession]| some.iter().map(|each| each.readings.len() as u32).sum::<u32>();
    let (mut done, total) = (0, readings(&sessions));
    for some in sessions.chunks(SESSIONS_AT_ONCE) {
        hand.tell(done, total);
        if hand.is_ending() || !store.import_sessions(id, some, hand.job.asked_by).await? {
            return Ok(false);
        }
        done += readings(some);
    }
    hand.tell(done, total);
    Ok(true)
}

/// One session for each client and day, in the order of the file.
fn by_day(read: &Read) -> Vec<ImportedSession> {
    let unit = read.mapping.unit;
    let mut places: BTreeMap<(ImportedClient, NaiveDate), usize> = BTreeMap::new();
    let mut sessions: Vec<ImportedSession> = Vec::new();
    for reading in &read.fresh {
        let (client, taken_on) = (read.owner(&reading.client), reading.taken_on);
        let place = *places.entry((client.clone(), taken_on)).or_insert_with(|| {
            sessions.push(ImportedSession { client, taken_on, unit, readings: Vec::new() });
            sessions.len() - 1
        });
        let taken = Taken { schools: reading.schools.clone(), ease_mm: reading.ease_mm };
        let plain = NewReading::plain(&reading.code, reading.entered.clone());
        let (note, stands) = (reading.note.clone(), reading.stands.clone());
        sessions[place].readings.push(NewReading { side: reading.side, taken, note, stands, ..plain });
    }
    sessions
}

/// Says whose a name of the file is.
#[utoipa::path(put, path = "/api/imports/{id}/people", request_body = PersonAnswer, responses(
    (status = 200, body = ImportView), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn people(
    State(state): State<AppState>,
    _: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<PersonAnswer>,
) -> Result<Json<ImportView>, ApiError> {
    if let Some(client) = entry.client_id {
        state.store.client(client).await?;
    }
    let mut kept = answers(&state.store, id).await?;
    kept.people.insert(tidy(&entry.name), entry.client_id);
    answer(&state.store, id, &kept).await?;
    Ok(Json(view(&state.store, id).await?))
}

/// Gives an import up: nothing of it stays.
#[utoipa::path(post, path = "/api/imports/{id}/cancel", responses((status = 204), (status = 409, body = Problem)))]
async fn cancel(
    State(state): State<AppState>,
    _: Writer<Readings>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let store = &state.store;
    store.import(id).await?;
    let stopped = store.move_import(id, ImportState::Preview, ImportState::Cancelled).await?
        || store.move_import(id, ImportState::Running, ImportState::Stopping).await?;
    if stopped {
        state.jobs.wake();
        Ok(StatusCode::NO_CONTENT)
    } else {
        Err(yardwand_store::StoreError::Refused("this file is not being saved any more").into())
    }
}
