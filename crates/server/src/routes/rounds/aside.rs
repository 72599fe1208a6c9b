//! What is noted beside the observations: comfort, postures, pins counted, balance lines; and the sums of level lines
//! for forms and hems.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::LineHeights;
use yardwand_core::fitting::{Balance, BalanceLine, HemMarks, Posture, Station, mark_hem, read_balance};
use yardwand_core::{Length, Style};
use yardwand_store::{Aside, BalanceRow};

use super::closing::kept_if_possible;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, InPath, JsonBody, Writer};
use crate::rights::Fitting;
use crate::views::{Made, optional_lines, optional_words};

/// The tallest height of a line above the floor, in millimetres.
const TALLEST: f64 = 2500.0;
/// More pins than this are a slip.
const MOST_PINS: u32 = 2000;
/// Places round a hem.
const MOST_PLACES: usize = 64;

#[derive(Deserialize, ToSchema)]
struct AsideEntry {
    /// Her words on comfort; as they are if left out.
    #[serde(default)]
    comfort: Option<String>,
    /// What they were when these were begun; none if left out.
    #[serde(default)]
    comfort_was: String,
    #[serde(default)]
    postures: Option<Vec<Posture>>,
    #[serde(default)]
    pins_out: Option<u32>,
    #[serde(default)]
    pins_back: Option<u32>,
}

/// Heights of one line above the floor, as typed; empty where none was taken.
#[derive(Deserialize, ToSchema)]
struct HeightsEntry {
    #[serde(default)]
    front: String,
    #[serde(default)]
    left: String,
    #[serde(default)]
    right: String,
    #[serde(default)]
    back: String,
    /// Stations where the line is caught on the body.
    #[serde(default)]
    caught: Vec<Station>,
}

#[derive(Deserialize, ToSchema)]
struct LevellingEntry {
    /// The station whose levelling is taken up.
    station: Station,
}

#[derive(Deserialize, ToSchema)]
struct HemEntry {
    /// Name and height of the edge above the floor, as typed.
    places: Vec<HemPlaceEntry>,
    /// The finished hem above the floor, as typed.
    wanted: String,
    /// What is turned up, as typed; nothing if empty.
    #[serde(default)]
    allowance: String,
}

#[derive(Deserialize, ToSchema)]
struct HemPlaceEntry {
    name: String,
    height: String,
}

/// A balance line of a round.
#[derive(Serialize, ToSchema)]
pub(in crate::routes) struct BalanceLineView {
    pub(in crate::routes) line: BalanceLine,
    pub(in crate::routes) name: String,
    heights: LineHeights,
    /// The heights as the house writes them: front, left, right, back.
    texts: Vec<String>,
    caught: Vec<Station>,
    pub(in crate::routes) read: Option<Balance>,
}

/// A line as the screens show it.
pub(in crate::routes) fn line_view(row: &BalanceRow, style: Style) -> BalanceLineView {
    let LineHeights { front, left, right, back } = row.heights;
    let text = |mm: Option<f64>| mm.map(|mm| style.show(mm).text).unwrap_or_default();
    BalanceLineView {
        line: row.line,
        name: row.line.name().to_owned(),
        heights: row.heights,
        texts: [front, left, right, back].into_iter().map(text).collect(),
        caught: row.caught.clone(),
        read: read_balance(row.heights, &row.caught, style),
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(set_aside))
        .routes(routes!(keep_line))
        .routes(routes!(take_levelling))
        .routes(routes!(balance))
        .routes(routes!(hem))
}

fn height(pointer: &str, text: &str, style: Style) -> Result<Option<f64>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let mm = Length::read(text, style.unit()).map_err(|error| ApiError::length(pointer, &error))?.length.mm();
    if mm > TALLEST {
        let most = style.with_unit(TALLEST);
        return Err(ApiError::field(
            pointer,
            format!("the floor is not that far: at most {most}, check the unit"),
        ));
    }
    Ok(Some(mm))
}

impl HeightsEntry {
    fn checked(&self, style: Style) -> Result<LineHeights, ApiError> {
        Ok(LineHeights {
            front: height("/front", &self.front, style)?,
            left: height("/left", &self.left, style)?,
            right: height("/right", &self.right, style)?,
            back: height("/back", &self.back, style)?,
        })
    }
}

/// Keeps comfort, postures and pins counted; what is left out stays.
#[utoipa::path(put, path = "/api/rounds/{id}/aside", request_body = AsideEntry, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn set_aside(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    Id(round): Id,
    JsonBody(entry): JsonBody<AsideEntry>,
) -> Result<StatusCode, ApiError> {
    let comfort = entry
        .comfort
        .as_deref()
        .map(|said| optional_lines("/comfort", "Her words", said, 1000))
        .transpose()?;
    for (pointer, pins) in [("/pins_out", entry.pins_out), ("/pins_back", entry.pins_back)] {
        if pins.is_some_and(|pins| pins > MOST_PINS) {
            return Err(ApiError::field(pointer, format!("more than {MOST_PINS} pins: count again")));
        }
    }
    let AsideEntry { comfort_was, postures, pins_out, pins_back, .. } = entry;
    let aside = Aside { comfort, comfort_was, postures, pins_out, pins_back };
    state.store.set_aside(round, &aside, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Keeps a balance line of a round, in place of what was taken of it before.
#[utoipa::path(put, path = "/api/rounds/{id}/lines/{line}", params(("line" = BalanceLine, Path)), request_body = HeightsEntry, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn keep_line(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    InPath((round_id, line)): InPath<(u64, BalanceLine)>,
    JsonBody(entry): JsonBody<HeightsEntry>,
) -> Result<StatusCode, ApiError> {
    let row = BalanceRow { round_id, line, heights: entry.checked(style)?, caught: entry.caught };
    state.store.set_balance(&row, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes up what levels a kept line: the fault is written down and decided, in one.
#[utoipa::path(post, path = "/api/rounds/{id}/lines/{line}/levelling", params(("line" = BalanceLine, Path)), request_body = LevellingEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn take_levelling(
    State(state): State<AppState>,
    writer: Writer<Fitting>,
    HouseStyle(style): HouseStyle,
    InPath((round, line)): InPath<(u64, BalanceLine)>,
    JsonBody(entry): JsonBody<LevellingEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let order = state.store.round(round).await?.order_id;
    let kept = state.store.balances(order).await?;
    let kept = kept.into_iter().find(|row| row.round_id == round && row.line == line);
    let read = kept.and_then(|row| read_balance(row.heights, &row.caught, style));
    let solution = read.and_then(|read| read.solutions.into_iter().find(|s| s.station == entry.station));
    let solution = solution.ok_or_else(|| {
        ApiError::field("/station", "the line is level there now: nothing is left to take up")
    })?;
    let (seen, decision) = solution.taken(line);
    let keep = |changes| state.store.observe_decided(round, &seen, &decision, changes, writer.once());
    let id = kept_if_possible(&state, round, None, &decision, style, keep).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Reads a line off its heights: on a toile, on a form, round a body. Nothing is kept.
#[utoipa::path(post, path = "/api/balance", request_body = HeightsEntry, responses(
    (status = 200, body = Option<Balance>), (status = 422, body = Problem)))]
async fn balance(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<HeightsEntry>,
) -> Result<Json<Option<Balance>>, ApiError> {
    Ok(Json(read_balance(entry.checked(style)?, &entry.caught, style)))
}

/// From the edge's heights above the floor to the cutting line of a hem. Nothing is kept.
#[utoipa::path(post, path = "/api/hem", request_body = HemEntry, responses(
    (status = 200, body = HemMarks), (status = 422, body = Problem)))]
async fn hem(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<HemEntry>,
) -> Result<Json<HemMarks>, ApiError> {
    if entry.places.len() > MOST_PLACES {
        return Err(ApiError::field("/places", format!("at most {MOST_PLACES} places round a hem")));
    }
    let mut edges = Vec::new();
    for (index, place) in entry.places.iter().enumerate() {
        if let Some(mm) = height(&format!("/places/{index}/height"), &place.height, style)? {
            edges.push((optional_words("/places", "The place", &place.name, 40)?, mm));
        }
    }
    let wanted = height("/wanted", &entry.wanted, style)?;
    let wanted =
        wanted.ok_or_else(|| ApiError::field("/wanted", "say how high the hem shall be above the floor"))?;
    let allowance = height("/allowance", &entry.allowance, style)?.unwrap_or(0.0);
    let marks = mark_hem(&edges, wanted, allowance, style);
    marks
        .map(Json)
        .ok_or_else(|| ApiError::field("/places", "measure the edge above the floor at one place at least"))
}
