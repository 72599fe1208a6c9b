//! Photographs of a round.

use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{DefaultBodyLimit, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use chrono::{DateTime, Utc};
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::NewPhotograph;

use super::observations::own_time;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, QueryString, Writer};
use crate::picture::{Picture, taken_in};
use crate::rights::Fitting;
use crate::views::Made;
use crate::{AppState, PHOTO_LIMIT};

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct PhotographOf {
    /// The observation it shows; the whole round if left out.
    observation: Option<u64>,
    /// When it was taken, by the fitter's own clock.
    taken_at: Option<DateTime<Utc>>,
}

/// The picture's bytes.
#[derive(ToSchema)]
#[schema(value_type = String, format = Binary)]
#[allow(dead_code, reason = "only the description names it")]
struct PictureBytes(Vec<u8>);

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(take))
        .layer(DefaultBodyLimit::max(PHOTO_LIMIT))
        .routes(routes!(picture, take_out))
}

/// Takes a photograph in: written anew, without what the camera says of itself.
#[utoipa::path(post, path = "/api/rounds/{id}/photographs", params(PhotographOf),
    request_body(content = PictureBytes, content_type = "application/octet-stream"), responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 413, body = Problem),
    (status = 422, body = Problem)))]
async fn take(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(round): Id,
    QueryString(of): QueryString<PhotographOf>,
    bytes: Result<Bytes, BytesRejection>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let bytes = bytes.map_err(|rejection| match rejection.status() {
        StatusCode::PAYLOAD_TOO_LARGE => ApiError::LARGE_PHOTOGRAPH,
        _ => ApiError::Unreadable("the photograph did not arrive whole: send it again".to_owned()),
    })?;
    // Reading and writing a picture takes a while: not on the thread that answers the others.
    let read = tokio::task::spawn_blocking(move || taken_in(&bytes)).await;
    let read = read.map_err(|_| ApiError::field("/photograph", "this photograph cannot be read"))?;
    let Picture { bytes, width, height } = read.map_err(|says| ApiError::field("/photograph", says))?;
    let new = NewPhotograph {
        observation: of.observation,
        image: bytes,
        width,
        height,
        taken_at: own_time(of.taken_at),
    };
    let id = state.store.add_photograph(round, &new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// The picture.
#[utoipa::path(get, path = "/api/photographs/{id}", responses(
    (status = 200, body = PictureBytes, content_type = "image/jpeg"), (status = 404, body = Problem)))]
async fn picture(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    let bytes = state.store.picture(id).await?;
    // A picture of a person: this browser may keep it, nothing in between may.
    let headers = [(header::CONTENT_TYPE, "image/jpeg"), (header::CACHE_CONTROL, "private, max-age=3600")];
    Ok((headers, bytes).into_response())
}

/// Takes a photograph out for good.
#[utoipa::path(delete, path = "/api/photographs/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn take_out(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.drop_photograph(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
