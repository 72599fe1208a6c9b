//! `/api/forms`: dress forms, their padding for a client, and level lines.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{Body, LevelCheck, LineHeights, Padding, check_level, measurement, padding};
use yardwand_core::{Length, Style};
use yardwand_store::FormRow;

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, InPath, JsonBody, Writer};
use crate::figures::{body_of_client, name_of};
use crate::rights::Cutting;
use crate::views::{Based, Made, words};

/// A figure of a form, as it is typed or written.
#[derive(Clone, Debug, Serialize, Deserialize, ToSchema)]
struct FormFigure {
    code: String,
    /// With the house's unit where it names none.
    text: String,
    /// Its name; not read.
    #[serde(default)]
    name: String,
}

/// Heights of one line above the floor, as typed.
#[derive(Clone, Debug, Default, Serialize, Deserialize, ToSchema)]
struct LevelEntry {
    /// Which line: bust, waist, hip, hem.
    line: String,
    #[serde(default)]
    left: String,
    #[serde(default)]
    right: String,
    #[serde(default)]
    front: String,
    #[serde(default)]
    back: String,
}

#[derive(Serialize, ToSchema)]
struct LevelView {
    #[serde(flatten)]
    entry: LevelEntry,
    check: Option<LevelCheck>,
}

#[derive(Deserialize, ToSchema)]
struct FormEntry {
    name: String,
    figures: Vec<FormFigure>,
    #[serde(default)]
    levels: Vec<LevelEntry>,
}

#[derive(Serialize, ToSchema)]
struct FormView {
    id: u64,
    name: String,
    figures: Vec<FormFigure>,
    levels: Vec<LevelView>,
    revision: u32,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list, add))
        .routes(routes!(get, change))
        .routes(routes!(padding_for))
        .routes(routes!(level))
}

fn read(pointer: &str, text: &str, style: Style) -> Result<f64, ApiError> {
    let entered = Length::read(text, style.unit()).map_err(|error| ApiError::length(pointer, &error))?;
    Ok(entered.length.mm())
}

impl LevelEntry {
    fn heights(&self, at: &str, style: Style) -> Result<LineHeights, ApiError> {
        let side = |name: &str, text: &str| {
            (!text.trim().is_empty()).then(|| read(&format!("{at}/{name}"), text, style)).transpose()
        };
        Ok(LineHeights {
            left: side("left", &self.left)?,
            right: side("right", &self.right)?,
            front: side("front", &self.front)?,
            back: side("back", &self.back)?,
        })
    }

    fn written(line: String, heights: LineHeights, style: Style) -> Self {
        let text = |mm: Option<f64>| mm.map(|mm| style.write(Length::from_mm(mm))).unwrap_or_default();
        Self {
            line,
            left: text(heights.left),
            right: text(heights.right),
            front: text(heights.front),
            back: text(heights.back),
        }
    }
}

impl FormEntry {
    fn checked(&self, id: u64, revision: u32, style: Style) -> Result<FormRow, ApiError> {
        let mut figures = Body::default();
        for (place, figure) in
            self.figures.iter().enumerate().filter(|(_, figure)| !figure.text.trim().is_empty())
        {
            let at = format!("/figures/{place}");
            let row = measurement(&figure.code).filter(|row| !row.wish);
            let row = row
                .ok_or_else(|| ApiError::field(&at, format!("no measurement is called “{}”", figure.code)))?;
            figures = figures.with(&row.code, read(&format!("{at}/text"), &figure.text, style)?);
        }
        let levels = self.levels.iter().enumerate().map(|(place, level)| {
            let at = format!("/levels/{place}");
            Ok((
                words(&format!("{at}/line"), "The line's name", &level.line, 40)?,
                level.heights(&at, style)?,
            ))
        });
        Ok(FormRow {
            id,
            name: words("/name", "The form's name", &self.name, 120)?,
            figures,
            levels: levels.take(12).collect::<Result<_, ApiError>>()?,
            revision,
        })
    }
}

fn view(form: FormRow, style: Style) -> FormView {
    let figure = |(code, mm): (&str, f64)| FormFigure {
        code: code.to_owned(),
        text: style.write(Length::from_mm(mm)),
        name: name_of(code),
    };
    let level = |(line, heights): (String, LineHeights)| LevelView {
        check: check_level(heights, style),
        entry: LevelEntry::written(line, heights, style),
    };
    FormView {
        id: form.id,
        name: form.name,
        figures: form.figures.iter().map(figure).collect(),
        levels: form.levels.into_iter().map(level).collect(),
        revision: form.revision,
    }
}

/// The dress forms.
#[utoipa::path(get, path = "/api/forms", responses((status = 200, body = Vec<FormView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
) -> Result<Json<Vec<FormView>>, ApiError> {
    Ok(Json(state.store.forms().await?.into_iter().map(|form| view(form, style)).collect()))
}

/// One form.
#[utoipa::path(get, path = "/api/forms/{id}", responses((status = 200, body = FormView), (status = 404, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<FormView>, ApiError> {
    Ok(Json(view(state.store.form(id).await?, style)))
}

/// Adds a form.
#[utoipa::path(post, path = "/api/forms", request_body = FormEntry, responses((status = 201, body = Made), (status = 422, body = Problem)))]
async fn add(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<FormEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let id = state.store.save_form(&entry.checked(0, 0, style)?, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Changes a form's figures and lines.
#[utoipa::path(put, path = "/api/forms/{id}", request_body = Based<FormEntry>, responses(
    (status = 200, body = FormView), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<FormEntry>>,
) -> Result<Json<FormView>, ApiError> {
    state.store.save_form(&based.change.checked(id, based.revision, style)?, writer.once()).await?;
    Ok(Json(view(state.store.form(id).await?, style)))
}

/// How much padding a form needs for a client.
#[utoipa::path(get, path = "/api/forms/{id}/padding/{client}", responses((status = 200, body = Padding), (status = 404, body = Problem)))]
async fn padding_for(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    InPath((id, client)): InPath<(u64, u64)>,
) -> Result<Json<Padding>, ApiError> {
    let form = state.store.form(id).await?;
    state.store.client(client).await?;
    Ok(Json(padding(&form.figures, &body_of_client(&state.store, client).await?, style)))
}

/// Whether a line is level, on a body or a form: nothing is kept.
#[utoipa::path(post, path = "/api/level", request_body = LevelEntry, responses(
    (status = 200, body = Option<LevelCheck>), (status = 422, body = Problem)))]
async fn level(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<LevelEntry>,
) -> Result<Json<Option<LevelCheck>>, ApiError> {
    Ok(Json(check_level(entry.heights("", style)?, style)))
}
