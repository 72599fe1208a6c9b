//! Days a client is away: entered, or read from her calendar.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::NaiveDate;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::Away;
use yardwand_paper::busy_days;

use super::today;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::rights::Dates;
use crate::views::{optional_words, possible_day};

#[derive(Serialize, ToSchema)]
struct AwayView {
    id: u64,
    away: Away,
}

#[derive(Deserialize, ToSchema)]
struct AwayEntry {
    from: NaiveDate,
    to: NaiveDate,
    #[serde(default)]
    why: String,
}

#[derive(Deserialize, ToSchema)]
struct CalendarEntry {
    /// The text of an iCalendar file.
    content: String,
}

/// What came in from a calendar file.
#[derive(Serialize, ToSchema)]
struct BusyView {
    /// Days that were new.
    added: u64,
    /// What was left out and why.
    left_out: Vec<String>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(list, add)).routes(routes!(drop)).routes(routes!(read_busy))
}

/// Days a client is away.
#[utoipa::path(get, path = "/api/clients/{id}/away", responses((status = 200, body = Vec<AwayView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    Id(client): Id,
) -> Result<Json<Vec<AwayView>>, ApiError> {
    let rows = state.store.away(client).await?;
    Ok(Json(rows.into_iter().map(|row| AwayView { id: row.id, away: row.away }).collect()))
}

/// Adds days a client is away.
#[utoipa::path(post, path = "/api/clients/{id}/away", request_body = AwayEntry, responses(
    (status = 204), (status = 422, body = Problem)))]
async fn add(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(client): Id,
    JsonBody(entry): JsonBody<AwayEntry>,
) -> Result<StatusCode, ApiError> {
    for (pointer, day) in [("/from", entry.from), ("/to", entry.to)] {
        possible_day(pointer, day)?;
    }
    if entry.to < entry.from {
        return Err(ApiError::field("/to", "she comes back before she leaves: change one of the dates"));
    }
    if entry.to < today() {
        return Err(ApiError::field("/to", "these days lie before today: nothing is planned there any more"));
    }
    let why = optional_words("/why", "The reason", &entry.why, 200)?;
    let away = Away { from: entry.from, to: entry.to, why };
    state.store.add_away(client, &[away], writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes days away out again.
#[utoipa::path(delete, path = "/api/away/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn drop(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.drop_away(id, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Reads the busy days of a client's calendar: the days, not what she does there.
#[utoipa::path(post, path = "/api/clients/{id}/busy", request_body = CalendarEntry, responses(
    (status = 200, body = BusyView), (status = 422, body = Problem)))]
async fn read_busy(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(client): Id,
    JsonBody(entry): JsonBody<CalendarEntry>,
) -> Result<Json<BusyView>, ApiError> {
    let busy = busy_days(&entry.content).map_err(|says| ApiError::field("/content", says))?;
    let ahead: Vec<Away> = busy.away.into_iter().filter(|away| away.to >= today()).collect();
    let added = state.store.add_away(client, &ahead, writer.once()).await?;
    Ok(Json(BusyView { added, left_out: busy.left_out }))
}
