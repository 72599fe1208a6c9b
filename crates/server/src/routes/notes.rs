//! `/api/clients/{id}/notes`: what is worth keeping about a client outside a fitting, with photographs.

use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{DefaultBodyLimit, State};
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::NoteRow;

use super::rounds::{PhotographView, PictureBytes, new_photograph};
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::rights::Readings;
use crate::views::{Made, optional_lines};
use crate::{AppState, PHOTO_LIMIT};

#[derive(Deserialize, ToSchema)]
struct NoteEntry {
    words: String,
}

#[derive(Serialize, ToSchema)]
struct NoteView {
    id: u64,
    words: String,
    written_by: String,
    written_at: DateTime<Utc>,
    photographs: Vec<PhotographView>,
}

impl From<NoteRow> for NoteView {
    fn from(row: NoteRow) -> Self {
        Self {
            id: row.id,
            words: row.words,
            written_by: row.written_by,
            written_at: row.written_at,
            photographs: row.photographs.into_iter().map(Into::into).collect(),
        }
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(photograph))
        .layer(DefaultBodyLimit::max(PHOTO_LIMIT))
        .routes(routes!(list, write))
        .routes(routes!(take_out))
        .routes(routes!(put_back))
}

/// The notes about a client, newest first.
#[utoipa::path(get, path = "/api/clients/{id}/notes", responses((status = 200, body = Vec<NoteView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    Id(client): Id,
) -> Result<Json<Vec<NoteView>>, ApiError> {
    Ok(Json(state.store.notes(client).await?.into_iter().map(NoteView::from).collect()))
}

/// Writes a note about a client.
#[utoipa::path(post, path = "/api/clients/{id}/notes", request_body = NoteEntry, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn write(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(client): Id,
    JsonBody(entry): JsonBody<NoteEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    // A note may be its photographs alone.
    let words = optional_lines("/words", "The note", &entry.words, 2000)?;
    let id = state.store.add_note(client, &words, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Takes a note out with its photographs. It can be put back.
#[utoipa::path(delete, path = "/api/notes/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn take_out(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_note(id, true, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a note that was taken out back.
#[utoipa::path(post, path = "/api/notes/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn put_back(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_note(id, false, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes a photograph of a note in: written anew, without what the camera says of itself.
#[utoipa::path(post, path = "/api/notes/{id}/photographs",
    request_body(content = PictureBytes, content_type = "application/octet-stream"), responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 413, body = Problem),
    (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn photograph(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(note): Id,
    bytes: Result<Bytes, BytesRejection>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let new = new_photograph(&state.pictures, bytes, None, None).await?;
    let id = state.store.add_note_photograph(note, &new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
