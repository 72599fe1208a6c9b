//! `/api/cloth`: the cloth before it goes on, from a client's figures or a form's.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use kurbo::{BezPath, Line, Point, Rect, Shape};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::drape::{
    ClothFigure, ClothSheet, Draped, DrapingCloth, MarkNeed, MarkWanted, cloth_sheet, marks_of_a_toile,
};
use yardwand_core::geometry::Pt;
use yardwand_paper::{Item, Mark, Stroke, Worksheet, worksheet};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, QueryString};
use crate::figures::body_of_client;
use crate::routes::print::SheetPaper;
use crate::sheets::columns;
use crate::views::attached;

/// Whose body it is reckoned for: a client's, or a form's.
#[derive(Clone, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct ClothFor {
    client: Option<u64>,
    form: Option<u64>,
    /// Which paper it is printed on.
    #[param(inline)]
    paper: Option<SheetPaper>,
}

/// The cloths, and for whom.
#[derive(Serialize, ToSchema)]
struct ClothView {
    /// Her name, or the form's.
    of: String,
    /// None while readings are missing.
    sheet: Option<ClothSheet>,
    /// Readings that are missing, by name.
    missing: Vec<String>,
    /// What is marked before it comes off, front and back, in one walk round each.
    checklists: Vec<MarkChecklist>,
}

/// What is marked on a piece before it comes off.
#[derive(Serialize, ToSchema)]
struct MarkChecklist {
    piece: Draped,
    marks: Vec<MarkWanted>,
}

fn checklists() -> impl Iterator<Item = MarkChecklist> {
    Draped::BOTH.into_iter().map(|piece| MarkChecklist { piece, marks: marks_of_a_toile(piece) })
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(look)).routes(routes!(print))
}

/// The name and the figures of a client, or of a form.
pub(super) async fn whose_body(
    state: &AppState,
    client: Option<u64>,
    form: Option<u64>,
) -> Result<(String, Body), ApiError> {
    match (client, form) {
        (Some(client), None) => {
            Ok((state.store.client(client).await?.name, body_of_client(&state.store, client).await?))
        }
        (None, Some(form)) => {
            let form = state.store.form(form).await?;
            Ok((form.name, form.figures))
        }
        _ => Err(ApiError::field("/client", "name a client or a form: it is reckoned for one of them")),
    }
}

async fn reckoned(
    state: &AppState,
    asked: &ClothFor,
    style: Style,
) -> Result<(String, Result<ClothSheet, Vec<String>>), ApiError> {
    let (of, body) = whose_body(state, asked.client, asked.form).await?;
    Ok((of, cloth_sheet(&body, style)))
}

/// How large each cloth is torn, and what is ruled on it.
#[utoipa::path(get, path = "/api/cloth", params(ClothFor), responses(
    (status = 200, body = ClothView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn look(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<ClothFor>,
) -> Result<Json<ClothView>, ApiError> {
    let (of, sheet) = reckoned(&state, &asked, style).await?;
    let (sheet, missing) = match sheet {
        Ok(sheet) => (Some(sheet), Vec::new()),
        Err(missing) => (None, missing),
    };
    Ok(Json(ClothView { of, sheet, missing, checklists: checklists().collect() }))
}

/// The same on paper.
#[utoipa::path(get, path = "/api/cloth.pdf", params(ClothFor), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn print(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<ClothFor>,
) -> Result<Response, ApiError> {
    let (of, sheet) = reckoned(&state, &asked, style).await?;
    let sheet = sheet.map_err(|missing| {
        ApiError::field("/client", format!("these are not measured yet: {}", missing.join(", ")))
    })?;
    let paper = asked.paper.unwrap_or(SheetPaper::A4).into();
    let pdf = worksheet(&on_paper(&of, &sheet, style), paper).map_err(ApiError::from)?;
    Ok(attached("application/pdf", "cloth.pdf", pdf))
}

/// Height of a cloth's drawing on paper, in millimetres.
const DRAWN_HIGH: f64 = 95.0;
/// Half of a cross, in millimetres of the cloth.
const CROSS: f64 = 12.0;

fn on_paper(of: &str, sheet: &ClothSheet, style: Style) -> Worksheet {
    let under = format!(
        "For {of}. Torn along the thread, pressed square, ruled with a soft pencil. Exact figures to check by, rounded ones for the \
         tape."
    );
    let empty = Worksheet { title: "Cloth before it goes on".to_owned(), under, items: Vec::new() };
    let ruled = sheet.cloths.iter().fold(empty, |page, cloth| {
        let name = match cloth.piece {
            Draped::Front => "Front cloth",
            Draped::Back => "Back cloth",
        };
        let unit = style.unit().suffix();
        let row = |figure: &ClothFigure| {
            vec![
                figure.name.to_owned(),
                figure.from.clone(),
                format!("{} {unit}", figure.shown.text),
                format!("{} {unit}", figure.shown.exact),
            ]
        };
        let rows = cloth.figures.iter().map(row).collect();
        let columns = columns(&[("what", 0.2), ("how", 0.5), ("rounded", 0.15), ("exact", 0.15)]);
        page.and(Item::Heading(name.to_owned())).and(drawing(cloth)).and(Item::Table { columns, rows })
    });
    checklists().fold(ruled, |page, list| {
        let how = |wanted: &MarkWanted| match wanted.least_dots {
            None => "a cross".to_owned(),
            Some(least) => format!("{least} dots or more"),
        };
        let need = |wanted: &MarkWanted| match wanted.need {
            MarkNeed::Needed => "needed",
            MarkNeed::Wanted => "wanted",
            MarkNeed::Helps => "helps",
        };
        let row = |wanted: &MarkWanted| {
            vec![
                "\u{25a1}".to_owned(),
                wanted.name.to_owned(),
                wanted.place.to_owned(),
                how(wanted),
                need(wanted).to_owned(),
            ]
        };
        let columns = columns(&[("", 0.05), ("mark", 0.3), ("where", 0.38), ("how", 0.15), ("", 0.12)]);
        page.and(Item::Heading(format!("Before the {} comes off", list.piece.name())))
            .and(Item::Words("In one walk round it. Marks of a dart where that dart is.".to_owned()))
            .and(Item::Table { columns, rows: list.marks.iter().map(row).collect() })
    })
}

fn drawing(cloth: &DrapingCloth) -> Item {
    let point = |at: Pt| Point::new(at.x, at.y);
    let edge = Rect::new(0.0, 0.0, cloth.width, cloth.length).to_path(0.1);
    let mut strokes = vec![Stroke { path: edge, strong: true }];
    let mut marks = Vec::new();
    for line in &cloth.lines {
        let (from, to) = (point(line.from), point(line.to));
        let mut path = BezPath::new();
        if from == to {
            for (dx, dy) in [(CROSS, 0.0), (0.0, CROSS)] {
                path.extend(Line::new((from.x - dx, from.y - dy), (from.x + dx, from.y + dy)).to_path(0.1));
            }
        } else {
            path.extend(Line::new(from, to).to_path(0.1));
        }
        strokes.push(Stroke { path, strong: false });
        marks.push(Mark { name: line.name.to_owned(), at: from.midpoint(to) });
    }
    Item::Drawing { strokes, marks, height: DRAWN_HIGH }
}
