//! `/api/catalogue` and `/api/sets`: what can be measured, how, and the named sets, the house's own among them.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::body::{
    Body, BodyDrawing, Matter, Measurement, Precision, School, Tapeline, View, catalogue, draw_body,
    draw_tape, matters, measurement_set, route, sets,
};
use yardwand_store::{SetRow, Store};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::{name_of, precisions};
use crate::rights::Cutting;
use crate::views::{Based, Made, words};

/// A row of the catalogue with its tape on a middle figure.
#[derive(Serialize, ToSchema)]
struct CatalogueRow {
    measurement: Measurement,
    /// What it is on grown women, in the house's unit: `22 to 61 in`.
    range: String,
    tape: Option<Tapeline>,
}

/// A set that can be measured.
#[derive(Serialize, ToSchema)]
struct SetView {
    /// What opens a session with it.
    code: String,
    name: String,
    codes: Vec<String>,
    /// Number, where it is the house's own.
    house_id: Option<u64>,
    revision: u32,
}

#[derive(Serialize, ToSchema)]
struct CatalogueView {
    measurements: Vec<CatalogueRow>,
    sets: Vec<SetView>,
    matters: Vec<Matter>,
    front: BodyDrawing,
    back: BodyDrawing,
    side: BodyDrawing,
}

#[derive(Deserialize, ToSchema)]
struct SetEntry {
    name: String,
    codes: Vec<String>,
}

/// How well a person repeats a measurement.
#[derive(Serialize, ToSchema)]
struct PrecisionRow {
    measurer: String,
    code: String,
    name: String,
    precision: Precision,
    /// The technical error with its unit, to a thousandth: it is finer than the marks of a tape.
    error: String,
    /// What two takes of one body differ by in 19 of 20, likewise.
    within: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(whole))
        .routes(routes!(add))
        .routes(routes!(change, drop_set))
        .routes(routes!(repeats))
}

/// Code, name and measurements of a set, the catalogue's or the house's.
pub(super) async fn set_of(store: &Store, code: &str) -> Result<(String, String, Vec<String>), ApiError> {
    let unknown = || ApiError::field("/set_code", format!("no measurement set is called “{code}”"));
    match code.strip_prefix("house:") {
        Some(id) => {
            let id: u64 = id.parse().map_err(|_| unknown())?;
            let set = store.house_sets().await?.into_iter().find(|set| set.id == id).ok_or_else(unknown)?;
            Ok((code.to_owned(), set.name, set.codes))
        }
        None => {
            let set = measurement_set(code).ok_or_else(unknown)?;
            Ok((set.code.clone(), set.name.clone(), set.codes.clone()))
        }
    }
}

/// Every set: the catalogue's, then the house's own.
pub(super) async fn every_set(
    store: &Store,
) -> Result<Vec<(String, String, Vec<String>, Option<u64>, u32)>, ApiError> {
    let own = store.house_sets().await?;
    let named = sets().iter().map(|set| (set.code.clone(), set.name.clone(), set.codes.clone(), None, 0));
    let own = own
        .into_iter()
        .map(|set| (format!("house:{}", set.id), set.name, set.codes, Some(set.id), set.revision));
    Ok(named.chain(own).collect())
}

/// The matters of measuring, with lengths as this house says them.
fn matters_said(style: Style) -> Vec<Matter> {
    let school = |mut school: School| {
        school.name = style.say(&school.name);
        school
    };
    let said = |matter: &Matter| Matter {
        schools: matter.schools.iter().cloned().map(school).collect(),
        ..matter.clone()
    };
    matters().iter().map(said).collect()
}

/// The range of a measurement in whole units of the house.
fn range(row: &Measurement, style: Style) -> String {
    let unit = style.unit();
    let whole = |mm: f64| (mm / unit.in_mm()).round();
    format!("{} to {} {}", whole(row.low), whole(row.high), unit.suffix())
}

/// The whole catalogue.
#[utoipa::path(get, path = "/api/catalogue", responses((status = 200, body = CatalogueView)))]
async fn whole(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
) -> Result<Json<CatalogueView>, ApiError> {
    let body = Body::middle();
    let row = |row: &Measurement| CatalogueRow {
        tape: draw_tape(&row.tape, &body),
        range: range(row, style),
        measurement: row.clone(),
    };
    let set = |(code, name, codes, house_id, revision)| SetView { code, name, codes, house_id, revision };
    Ok(Json(CatalogueView {
        measurements: catalogue().iter().map(row).collect(),
        sets: every_set(&state.store).await?.into_iter().map(set).collect(),
        matters: matters_said(style),
        front: draw_body(View::Front, &body),
        back: draw_body(View::Back, &body),
        side: draw_body(View::Side, &body),
    }))
}

impl SetEntry {
    fn checked(&self, id: u64, revision: u32) -> Result<SetRow, ApiError> {
        let name = words("/name", "The set's name", &self.name, 120)?;
        let codes = route(&self.codes);
        if codes.is_empty() {
            return Err(ApiError::field("/codes", "a set needs at least one measurement: choose some"));
        }
        Ok(SetRow { id, name, codes, revision })
    }
}

/// Makes a set of the house's own.
#[utoipa::path(post, path = "/api/sets", request_body = SetEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn add(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    JsonBody(entry): JsonBody<SetEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let id = state.store.save_set(&entry.checked(0, 0)?, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Changes a set of the house's own.
#[utoipa::path(put, path = "/api/sets/{id}", request_body = Based<SetEntry>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<SetEntry>>,
) -> Result<StatusCode, ApiError> {
    state.store.save_set(&based.change.checked(id, based.revision)?, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes a set of the house's own away; sessions keep what they were opened with.
#[utoipa::path(delete, path = "/api/sets/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn drop_set(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.drop_set(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Technical error of measurement, by measurer and measurement, over the repeated readings of the newest 1,000 sessions.
#[utoipa::path(get, path = "/api/precision", responses((status = 200, body = Vec<PrecisionRow>)))]
async fn repeats(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
) -> Result<Json<Vec<PrecisionRow>>, ApiError> {
    let exact = |mm: f64| format!("{} {}", style.exact(mm), style.unit().suffix());
    let bodies = state.store.repeats().await?;
    let rows = precisions(&bodies).map(|(measurer, code, precision)| PrecisionRow {
        measurer: measurer.to_owned(),
        name: name_of(code),
        code: code.to_owned(),
        error: exact(precision.tem_mm),
        within: exact(precision.repeatability_mm),
        precision,
    });
    Ok(Json(rows.collect()))
}
