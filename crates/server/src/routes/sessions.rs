//! `/api/sessions`: measuring sessions, and one with everything a measurer needs to see.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{
    BodyDrawing, Finding, Measurement, Side, Taken, Tapeline, View, draw_body, draw_tape, measurement, route,
};
use yardwand_core::{Shown, Unit};
use yardwand_store::{ConsentRow, NewSession, Store};

use super::live::TapeView;
use super::sets::set_of;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, QueryString, Writer};
use crate::figures::{SessionReadings, figure_of, said_of};
use crate::rights::Readings;
use crate::views::{Made, optional_words, words};

#[derive(Deserialize, ToSchema)]
struct SessionEntry {
    /// A named set of the catalogue, or `house:` and the number of one of the house's own.
    #[serde(default)]
    set_code: String,
    /// Just these measurements instead of a set.
    #[serde(default)]
    codes: Vec<String>,
    /// The garment it is begun for.
    #[serde(default)]
    order: Option<u64>,
    /// What a reading without a unit is meant in; the house's unit if left out.
    #[serde(default)]
    unit: Option<Unit>,
}

#[derive(Deserialize, ToSchema)]
struct SkipEntry {
    code: String,
    reason: String,
}

#[derive(Deserialize, ToSchema)]
struct FoundationEntry {
    /// What she wears under the tape, in a few words.
    foundation: String,
}

#[derive(Deserialize, ToSchema)]
struct SignEntry {
    /// Who signs: a name or initials.
    signed: String,
}

/// One take.
#[derive(Serialize, ToSchema)]
struct TakeView {
    id: u64,
    typed: String,
    length: Shown,
    /// Ease that was inside, taken off.
    ease: Option<Shown>,
    taken: Taken,
    /// The same in words, where not the catalogue's way.
    method: Vec<String>,
    note: String,
    stands: Option<String>,
    taken_by: String,
    taken_at: DateTime<Utc>,
    /// A later one corrects it.
    replaced: bool,
    /// Why it corrects one of a signed session.
    corrected_why: String,
}

/// What is known of a measurement on one side.
#[derive(Serialize, ToSchema)]
struct EntryView {
    side: Side,
    /// Those that stand, oldest first.
    takes: Vec<TakeView>,
    /// Those that were corrected.
    corrected: Vec<TakeView>,
    /// The figure they make: the median.
    figure: Shown,
    stands: Option<String>,
    findings: Vec<Finding>,
}

/// A figure of an earlier session.
#[derive(Serialize, ToSchema)]
struct PreviousView {
    side: Side,
    length: Shown,
    days_ago: i64,
    method: Vec<String>,
}

/// One measurement of the session's set.
#[derive(Serialize, ToSchema)]
struct SessionRowView {
    measurement: Measurement,
    tape: Option<Tapeline>,
    /// How this house takes it.
    house_way: Taken,
    entries: Vec<EntryView>,
    skipped: Option<String>,
    previous: Vec<PreviousView>,
}

#[derive(Serialize, ToSchema)]
struct SessionView {
    id: u64,
    client_id: u64,
    client: String,
    set: String,
    unit: Unit,
    /// What she wears under the tape; empty where that was not said.
    foundation: String,
    /// What she wore the last time it was said.
    foundation_before: String,
    measurer: String,
    started_at: DateTime<Utc>,
    closed_at: Option<DateTime<Utc>>,
    signed: Option<String>,
    changes: u32,
    rows: Vec<SessionRowView>,
    front: BodyDrawing,
    back: BodyDrawing,
    side: BodyDrawing,
    tape: Option<TapeView>,
    /// When it was dropped: its readings do not count.
    dropped_at: Option<DateTime<Utc>>,
    dropped_why: String,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Dropping {
    /// Why it is dropped; a session that is signed wants a reason.
    #[serde(default)]
    #[param(required = false)]
    why: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(open))
        .routes(routes!(get, drop_session))
        .routes(routes!(restore))
        .routes(routes!(set_foundation))
        .routes(routes!(skip))
        .routes(routes!(close))
}

/// That she has agreed that her figures are kept; a dress form is not asked.
pub(super) async fn has_agreed(store: &Store, client: u64) -> Result<(), ApiError> {
    let stands = |consent: &ConsentRow| consent.withdrawn_on.is_none();
    if store.consents(client).await?.iter().any(stands) || store.client(client).await?.form_id.is_some() {
        return Ok(());
    }
    Err(ApiError::field(
        "/consent",
        "she has not agreed that her figures are kept: ask her, and write down the day and the purpose first",
    ))
}

/// Opens a session for a client.
#[utoipa::path(post, path = "/api/clients/{id}/sessions", request_body = SessionEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn open(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    HouseStyle(style): HouseStyle,
    Id(client): Id,
    JsonBody(entry): JsonBody<SessionEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let (set_code, set_name, codes) = if entry.codes.is_empty() {
        set_of(&state.store, &entry.set_code).await?
    } else {
        ("chosen".to_owned(), "Chosen measurements".to_owned(), route(&entry.codes))
    };
    has_agreed(&state.store, client).await?;
    if codes.is_empty() {
        return Err(ApiError::field(
            "/codes",
            "none of these is a measurement: choose some from the catalogue",
        ));
    }
    let unit = entry.unit.unwrap_or(style.unit());
    let order = entry.order;
    let new = NewSession { client, order, set_code: &set_code, set_name: &set_name, codes: &codes, unit };
    let id = state.store.open_session(new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Drops a session: what was read in it counts no longer. It can be brought back.
#[utoipa::path(delete, path = "/api/sessions/{id}", params(Dropping), responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn drop_session(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    QueryString(dropping): QueryString<Dropping>,
) -> Result<StatusCode, ApiError> {
    let signed = state.store.session(id).await?.closed_at.is_some();
    let why = if signed {
        words("/why", "The reason", &dropping.why, 200)?
    } else {
        optional_words("/why", "The reason", &dropping.why, 200)?
    };
    state.store.drop_session(id, &why, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Brings a dropped session back.
#[utoipa::path(post, path = "/api/sessions/{id}/restore", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn restore(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.restore_session(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A session with every measurement of its set.
#[utoipa::path(get, path = "/api/sessions/{id}", responses((status = 200, body = SessionView), (status = 404, body = Problem)))]
async fn get(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<SessionView>, ApiError> {
    let store = &state.store;
    let bench = SessionReadings::of(store, id).await?;
    let client = store.client(bench.session.client_id).await?;
    let skipped = store.skipped(id).await?;
    let tape = store.tape(id).await?.map(TapeView::from);
    let body = bench.profile.body();
    let rows = bench.codes.iter().filter_map(|code| {
        let row = measurement(code)?;
        let sides = if row.sides { &[Side::Both, Side::Left, Side::Right][..] } else { &[Side::Both] };
        Some(SessionRowView {
            tape: draw_tape(&row.tape, &body),
            house_way: bench.house_way(code),
            entries: sides.iter().filter_map(|side| entry_view(&bench, row, *side)).collect(),
            skipped: skipped.iter().find(|s| s.code == *code).map(|s| s.reason.clone()),
            previous: sides.iter().filter_map(|side| previous_view(&bench, code, *side)).collect(),
            measurement: row.clone(),
        })
    });
    let rows = rows.collect();
    let session = bench.session;
    let earlier = store.sessions(client.id).await?.into_iter();
    let foundation_before = { earlier }
        .filter(|other| other.id != session.id && other.started_at <= session.started_at)
        .map(|other| other.foundation)
        .find(|foundation| !foundation.is_empty())
        .unwrap_or_default();
    Ok(Json(SessionView {
        foundation_before,
        rows,
        front: draw_body(View::Front, &body),
        back: draw_body(View::Back, &body),
        side: draw_body(View::Side, &body),
        tape,
        id: session.id,
        client_id: client.id,
        client: client.name,
        set: if session.set_name.is_empty() { session.set_code } else { session.set_name },
        unit: session.unit,
        foundation: session.foundation,
        measurer: session.measurer,
        started_at: session.started_at,
        closed_at: session.closed_at,
        signed: session.signed,
        changes: session.changes,
        dropped_at: session.dropped_at,
        dropped_why: session.dropped_why,
    }))
}

fn entry_view(bench: &SessionReadings, row: &Measurement, side: Side) -> Option<EntryView> {
    let style = bench.style();
    let standing = bench.takes(&row.code, side);
    let last = standing.last()?;
    let view = |take: &yardwand_store::ReadingRow| TakeView {
        id: take.id,
        typed: take.entered.typed.clone(),
        length: style.show(take.entered.length.mm()),
        ease: (take.taken.ease_mm != 0.0).then(|| style.show(take.taken.ease_mm)),
        method: said_of(&take.taken, style),
        taken: take.taken.clone(),
        note: take.note.clone(),
        stands: take.stands.clone(),
        taken_by: take.taken_by.clone(),
        taken_at: take.taken_at,
        replaced: take.replaced,
        corrected_why: take.corrected_why.clone(),
    };
    let corrected = bench.readings.iter().filter(|r| r.replaced && r.code == row.code && r.side == side);
    Some(EntryView {
        side,
        figure: style.show(figure_of(&standing)),
        stands: last.stands.clone(),
        findings: bench.standing_doubts(row, side),
        takes: standing.iter().map(|take| view(take)).collect(),
        corrected: corrected.map(view).collect(),
    })
}

fn previous_view(bench: &SessionReadings, code: &str, side: Side) -> Option<PreviousView> {
    if !bench.before.iter().any(|row| row.code == code && row.side == side) {
        return None;
    }
    let earlier = bench.earlier(code, side)?;
    let style = bench.style();
    let method = said_of(&earlier.taken, style);
    Some(PreviousView { side, length: style.show(earlier.mm), days_ago: earlier.days_ago, method })
}

/// Writes down what she wears under the tape.
#[utoipa::path(put, path = "/api/sessions/{id}/foundation", request_body = FoundationEntry, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn set_foundation(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<FoundationEntry>,
) -> Result<StatusCode, ApiError> {
    let worn = optional_words("/foundation", "What she wears under the tape", &entry.foundation, 120)?;
    state.store.set_foundation(id, &worn, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Leaves a reading out, with the reason.
#[utoipa::path(post, path = "/api/sessions/{id}/skips", request_body = SkipEntry, responses((status = 204), (status = 422, body = Problem)))]
async fn skip(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<SkipEntry>,
) -> Result<StatusCode, ApiError> {
    let row = super::readings::row_of(&entry.code)?;
    let reason = optional_words("/reason", "The reason", &entry.reason, 200)?;
    state.store.skip(id, &row.code, &reason, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Closes and signs a session.
#[utoipa::path(post, path = "/api/sessions/{id}/close", request_body = SignEntry, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn close(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<SignEntry>,
) -> Result<StatusCode, ApiError> {
    let signed = words("/signed", "The signature", &entry.signed, 120)?;
    state.store.close_session(id, &signed, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
