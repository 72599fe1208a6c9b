//! Photographs: taken in a round, drawn on, taken out and put back.

use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{DefaultBodyLimit, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::{NewPhotograph, OnPicture, Stroke};

use super::observations::own_time;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, QueryString, Writer};
use crate::picture::{Kept, Picture, Pictures};
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
pub(in crate::routes) struct PictureBytes(Vec<u8>);

/// A place on a picture, in parts of its width and height, from its upper left corner.
#[derive(Clone, Copy, Serialize, Deserialize, ToSchema)]
struct PlaceOnPicture {
    x: f64,
    y: f64,
}

impl PlaceOnPicture {
    fn is_on_it(self) -> bool {
        [self.x, self.y].iter().all(|part| (0.0..=1.0).contains(part))
    }
}

impl From<OnPicture> for PlaceOnPicture {
    fn from(OnPicture { x, y }: OnPicture) -> Self {
        Self { x, y }
    }
}

impl From<PlaceOnPicture> for OnPicture {
    fn from(PlaceOnPicture { x, y }: PlaceOnPicture) -> Self {
        Self { x, y }
    }
}

/// A line drawn on a photograph.
#[derive(Clone, Copy, Serialize, Deserialize, ToSchema)]
pub(in crate::routes) struct PhotographStroke {
    from: PlaceOnPicture,
    to: PlaceOnPicture,
    /// With a point at its end.
    arrow: bool,
}

impl From<Stroke> for PhotographStroke {
    fn from(Stroke { from, to, arrow }: Stroke) -> Self {
        Self { from: from.into(), to: to.into(), arrow }
    }
}

#[derive(Deserialize, ToSchema)]
struct PhotographLines {
    /// Everything that is drawn on it.
    strokes: Vec<PhotographStroke>,
}

/// So many lines can be drawn on one photograph.
const MOST_STROKES: usize = 40;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(take))
        .layer(DefaultBodyLimit::max(PHOTO_LIMIT))
        .routes(routes!(picture, take_out))
        .routes(routes!(put_back))
        .routes(routes!(draw))
}

/// Takes a photograph in: written anew, without what the camera says of itself.
#[utoipa::path(post, path = "/api/rounds/{id}/photographs", params(PhotographOf),
    request_body(content = PictureBytes, content_type = "application/octet-stream"), responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 413, body = Problem),
    (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn take(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(round): Id,
    QueryString(of): QueryString<PhotographOf>,
    bytes: Result<Bytes, BytesRejection>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let new = new_photograph(&state.pictures, bytes, of.observation, of.taken_at).await?;
    let id = state.store.add_photograph(round, &new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A photograph as it arrives, written anew.
pub(in crate::routes) async fn new_photograph(
    pictures: &Pictures,
    bytes: Result<Bytes, BytesRejection>,
    observation: Option<u64>,
    taken_at: Option<DateTime<Utc>>,
) -> Result<NewPhotograph, ApiError> {
    let bytes = bytes.map_err(|rejection| match rejection.status() {
        StatusCode::PAYLOAD_TOO_LARGE => ApiError::LARGE_PHOTOGRAPH,
        _ => ApiError::Unreadable("the photograph did not arrive whole: send it again".to_owned()),
    })?;
    let Picture { bytes: image, width, height } = pictures.taken_in(bytes, Kept::ToLookAt).await?;
    Ok(NewPhotograph { observation, image, width, height, taken_at: own_time(taken_at) })
}

/// The picture.
#[utoipa::path(get, path = "/api/photographs/{id}", responses(
    (status = 200, body = PictureBytes, content_type = "image/jpeg"), (status = 404, body = Problem)))]
async fn picture(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Response, ApiError> {
    let bytes = state.store.picture(id).await?;
    Ok(([(header::CONTENT_TYPE, "image/jpeg")], bytes).into_response())
}

/// Takes a photograph out. It can be put back.
#[utoipa::path(delete, path = "/api/photographs/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn take_out(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_photograph(id, true, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a photograph that was taken out back.
#[utoipa::path(post, path = "/api/photographs/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn put_back(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_photograph(id, false, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Keeps the lines and arrows drawn on a photograph, in place of those that were there. The picture stays as it was taken.
#[utoipa::path(put, path = "/api/photographs/{id}/strokes", request_body = PhotographLines, responses(
    (status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn draw(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(id): Id,
    JsonBody(PhotographLines { strokes }): JsonBody<PhotographLines>,
) -> Result<StatusCode, ApiError> {
    if strokes.len() > MOST_STROKES {
        let says = format!("at most {MOST_STROKES} lines fit on a photograph: take some out first");
        return Err(ApiError::field("/strokes", says));
    }
    if !strokes.iter().all(|stroke| stroke.from.is_on_it() && stroke.to.is_on_it()) {
        return Err(ApiError::field("/strokes", "a line ends beside the picture: draw it on the picture"));
    }
    let stroke = |PhotographStroke { from, to, arrow }| Stroke { from: from.into(), to: to.into(), arrow };
    let strokes: Vec<Stroke> = strokes.into_iter().map(stroke).collect();
    state.store.draw_on_photograph(id, &strokes, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
