//! `/api/forms`: dress forms, their padding for a client, and level lines.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::Recipe;
use yardwand_core::body::{
    Body, CentreCheck, FormMarking, Halving, LevelCheck, LineHeights, MarkedLine, NOT_BRIDGED, Padding,
    check_centre, check_level, check_lines, measurement, padding,
};
use yardwand_core::drape::TAPE_WIDTHS;

use yardwand_core::{Length, Shown, Style};
use yardwand_store::{FormRow, NewOrder};

use super::orders::USUAL_SET;
use super::patterns::BegunFrom;
use super::sets::set_of;
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

/// Heights of one line above the floor, or how far it lies below another line, as typed.
#[derive(Clone, Debug, Default, Serialize, Deserialize, ToSchema)]
struct LevelEntry {
    /// Which line: bust, waist, hip, hem.
    line: String,
    /// The line it was measured down from; empty: from the floor up.
    #[serde(default)]
    below: String,
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

/// The centre front at one height, as typed.
#[derive(Clone, Debug, Serialize, Deserialize, ToSchema)]
struct HalvingEntry {
    /// At which line.
    line: String,
    /// From side seam to side seam across the front.
    across: String,
    /// How far the middle lies beside the plumb line; less than 0 to the right.
    #[serde(default)]
    off: String,
}

/// How a form is marked, as typed.
#[derive(Clone, Debug, Default, Serialize, Deserialize, ToSchema)]
struct MarkingEntry {
    /// Width of the tape its lines are marked with.
    #[serde(default)]
    tape_width: String,
    /// Whether a taut tape bridges the hollow between the busts.
    #[serde(default)]
    bridged: Option<bool>,
    #[serde(default)]
    centre: Vec<HalvingEntry>,
}

#[derive(Serialize, ToSchema)]
struct HalvingView {
    #[serde(flatten)]
    entry: HalvingEntry,
    /// How far from either side seam the centre is marked.
    half: Shown,
}

/// How a form is marked, and what is to be seen to.
#[derive(Serialize, ToSchema)]
struct MarkingView {
    tape_width: String,
    bridged: Option<bool>,
    /// What it costs that the bust is not bridged; said where it is not.
    not_bridged: Option<&'static str>,
    centre: Vec<HalvingView>,
    /// None where fewer than two marks were held against a plumb line.
    check: Option<CentreCheck>,
}

#[derive(Deserialize, ToSchema)]
struct FormEntry {
    name: String,
    figures: Vec<FormFigure>,
    #[serde(default)]
    levels: Vec<LevelEntry>,
    /// As it was kept where it is not said.
    #[serde(default)]
    marking: Option<MarkingEntry>,
}

#[derive(Serialize, ToSchema)]
struct FormView {
    id: u64,
    name: String,
    figures: Vec<FormFigure>,
    levels: Vec<LevelView>,
    marking: MarkingView,
    revision: u32,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list, add))
        .routes(routes!(get, change))
        .routes(routes!(padding_for))
        .routes(routes!(fit_on))
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

    /// The line it hangs below, where it is measured down from one.
    fn below(&self, at: &str) -> Result<Option<String>, ApiError> {
        let below = self.below.trim();
        if below.is_empty() {
            return Ok(None);
        }
        if below == self.line.trim() {
            let says = format!(
                "the {below} line cannot be measured down from itself: choose another line, or the floor"
            );
            return Err(ApiError::field(&format!("{at}/below"), says));
        }
        Ok(Some(words(&format!("{at}/below"), "The line it is measured from", below, 40)?))
    }

    fn written(line: String, marked: MarkedLine, style: Style) -> Self {
        let text = |mm: Option<f64>| mm.map(|mm| style.typed_exactly(mm)).unwrap_or_default();
        Self {
            line,
            below: marked.below.unwrap_or_default(),
            left: text(marked.at.left),
            right: text(marked.at.right),
            front: text(marked.at.front),
            back: text(marked.at.back),
        }
    }
}

impl MarkingEntry {
    fn checked(&self, style: Style) -> Result<FormMarking, ApiError> {
        let mut marking = FormMarking { bridged: self.bridged, ..FormMarking::default() };
        if !self.tape_width.trim().is_empty() {
            let at = "/marking/tape_width";
            let mm = read(at, &self.tape_width, style)?;
            if !TAPE_WIDTHS.contains(&mm) {
                let bound = |mm: &f64| style.with_unit(*mm);
                let (least, most) = (bound(TAPE_WIDTHS.start()), bound(TAPE_WIDTHS.end()));
                return Err(ApiError::field(at, format!("a tape is between {least} and {most} wide")));
            }
            marking.tape_width = Some(mm);
        }
        let measured = self
            .centre
            .iter()
            .enumerate()
            .filter(|(_, mark)| !mark.across.trim().is_empty() || !mark.off.trim().is_empty());
        for (place, mark) in measured.take(MOST_LINES) {
            let at = format!("/marking/centre/{place}");
            let off = (!mark.off.trim().is_empty()).then(|| {
                Length::read_signed(&mark.off, style.unit())
                    .map_err(|error| ApiError::length(&format!("{at}/off"), &error))
            });
            marking.centre.push(Halving {
                line: words(&format!("{at}/line"), "The line's name", &mark.line, 40)?,
                across: read(&format!("{at}/across"), &mark.across, style)?,
                off: off.transpose()?,
            });
        }
        Ok(marking)
    }
}

/// How many lines of a form are kept.
const MOST_LINES: usize = 12;

fn marking_view(marking: FormMarking, style: Style) -> MarkingView {
    let check = check_centre(&marking.centre, style);
    let centre = marking.centre.into_iter().map(|mark| HalvingView {
        half: mark.half(style),
        entry: HalvingEntry {
            line: mark.line,
            across: style.typed_exactly(mark.across),
            off: mark.off.map(|mm| style.typed_exactly(mm)).unwrap_or_default(),
        },
    });
    MarkingView {
        tape_width: marking.tape_width.map(|mm| style.typed_exactly(mm)).unwrap_or_default(),
        bridged: marking.bridged,
        not_bridged: (marking.bridged == Some(false)).then_some(NOT_BRIDGED),
        centre: centre.collect(),
        check,
    }
}

impl FormEntry {
    /// `kept` is how the form is marked so far.
    fn checked(&self, id: u64, revision: u32, kept: FormMarking, style: Style) -> Result<FormRow, ApiError> {
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
                MarkedLine { below: level.below(&at)?, at: level.heights(&at, style)? },
            ))
        });
        Ok(FormRow {
            id,
            name: words("/name", "The form's name", &self.name, 120)?,
            figures,
            levels: levels.take(MOST_LINES).collect::<Result<_, ApiError>>()?,
            marking: self.marking.as_ref().map_or(Ok(kept), |marking| marking.checked(style))?,
            revision,
        })
    }
}

fn view(form: FormRow, style: Style) -> FormView {
    let figure = |(code, mm): (&str, f64)| FormFigure {
        code: code.to_owned(),
        text: style.typed_exactly(mm),
        name: name_of(code),
    };
    let checks = check_lines(&form.levels, style);
    let level = |((line, marked), check): ((String, MarkedLine), _)| LevelView {
        check,
        entry: LevelEntry::written(line, marked, style),
    };
    FormView {
        id: form.id,
        name: form.name,
        figures: form.figures.iter().map(figure).collect(),
        levels: form.levels.into_iter().zip(checks).map(level).collect(),
        marking: marking_view(form.marking, style),
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
    let id =
        state.store.save_form(&entry.checked(0, 0, FormMarking::default(), style)?, writer.once()).await?;
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
    let kept = state.store.form(id).await?.marking;
    state.store.save_form(&based.change.checked(id, based.revision, kept, style)?, writer.once()).await?;
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

/// A garment that is fitted on a form.
#[derive(Deserialize, ToSchema)]
struct FormGarment {
    /// What it is called.
    garment: String,
    /// The block that goes back to it: its pattern is begun at once.
    #[serde(default)]
    block_id: Option<u64>,
    /// Which of its sizes.
    #[serde(default)]
    size: String,
}

/// Begins a garment on a form: a block goes back to it, is fitted and altered as any other, without a client.
#[utoipa::path(post, path = "/api/forms/{id}/garments", request_body = FormGarment, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn fit_on(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
    JsonBody(entry): JsonBody<FormGarment>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let garment = words("/garment", "The garment", &entry.garment, 120)?;
    let begun = match entry.block_id {
        Some(block) => Some(BegunFrom::block(&state.store, block, &entry.size).await?),
        None => None,
    };
    let client_id = state.store.stand_in_for_form(id, writer.once()).await?;
    let (set_code, set_name, set_codes) = set_of(&state.store, USUAL_SET).await?;
    let order = NewOrder { client_id, garment, set_code, set_name, set_codes, wanted_on: None, toiles: 1 };
    let id = match begun {
        Some(begun) => {
            let unaltered = Recipe::default();
            state.store.add_order_with_pattern(&order, begun.with(&unaltered), writer.once()).await?
        }
        None => state.store.add_order(&order, writer.once()).await?,
    };
    Ok((StatusCode::CREATED, Json(Made { id })))
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
