//! What helps while marking, and keeps nothing: the outlines of a path file, and a mark by its distances from two others.

use axum::Json;
use axum::extract::State;
use kurbo::Point;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::drape::by_distances;
use yardwand_paper::{FileOutlines, outlines_of_svg};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, JsonBody};

/// A file of a drawing program.
#[derive(Deserialize, ToSchema)]
struct PathFile {
    /// The SVG.
    file: String,
    /// Which of its outlines is a test square, and how long its side is, in millimetres.
    #[serde(default)]
    square: Option<TestSquare>,
}

/// A square of known size in a file.
#[derive(Deserialize, ToSchema)]
struct TestSquare {
    /// Which outline, counted from 0.
    outline: usize,
    /// How long its side is, in millimetres.
    side_mm: f64,
}

/// A length by tape from a mark.
#[derive(Deserialize, ToSchema)]
struct FromMark {
    /// Where the mark lies.
    at: [f64; 2],
    /// How far off, in millimetres.
    mm: f64,
}

/// A mark by its distances from two others.
#[derive(Deserialize, ToSchema)]
struct TwoDistances {
    one: FromMark,
    other: FromMark,
}

/// Where a mark may lie.
#[derive(Serialize, ToSchema)]
struct MarkPlaces {
    places: Vec<[f64; 2]>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(outlines)).routes(routes!(place))
}

/// The outlines of a drawing program's file, with the scale that the file or its test square states.
#[utoipa::path(post, path = "/api/drape-outlines", request_body = PathFile, responses(
    (status = 200, body = FileOutlines), (status = 422, body = Problem)))]
async fn outlines(_: SignedIn, JsonBody(asked): JsonBody<PathFile>) -> Result<Json<FileOutlines>, ApiError> {
    let mut found = outlines_of_svg(&asked.file).map_err(|says| ApiError::field("/file", says))?;
    if let Some(TestSquare { outline, side_mm }) = asked.square {
        let refuse = |says: String| ApiError::field("/square", says);
        let square = found.outlines.get(outline);
        let square = square.ok_or_else(|| refuse("choose the test square among the outlines".to_owned()))?;
        if !(5.0..=1000.0).contains(&side_mm) {
            return Err(refuse("say how long the side of the test square is".to_owned()));
        }
        found.mm_per_unit = Some(square.scale_of_square(side_mm).map_err(refuse)?);
    }
    Ok(Json(found))
}

/// Where a mark lies that was measured by tape from two others.
#[utoipa::path(post, path = "/api/drape-places", request_body = TwoDistances, responses(
    (status = 200, body = MarkPlaces), (status = 422, body = Problem)))]
async fn place(
    State(_): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(TwoDistances { one, other }): JsonBody<TwoDistances>,
) -> Result<Json<MarkPlaces>, ApiError> {
    let from = |from: &FromMark| (Point::new(from.at[0], from.at[1]), from.mm);
    let places =
        by_distances(from(&one), from(&other)).map_err(|says| ApiError::field("/one", style.say(&says)))?;
    Ok(Json(MarkPlaces { places: places.into_iter().map(|at| [at.x, at.y]).collect() }))
}
