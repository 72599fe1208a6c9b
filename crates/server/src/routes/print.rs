//! `/api/versions/{id}/print`: a frozen version on paper, true to size.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::make;
use yardwand_core::pattern::{Allowances, Edge, Pattern, Seam, check_cut_lines};
use yardwand_paper::{Label, PageMap, Paper, tiled_pdf, true_size_svg};

use super::patterns::block_words;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, QueryString};
use crate::views::attached;

#[derive(Clone, Copy, Debug, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub(super) enum SheetPaper {
    A4,
    Letter,
}

impl SheetPaper {
    /// As one says it.
    const fn name(self) -> &'static str {
        match self {
            Self::A4 => "A4",
            Self::Letter => "Letter",
        }
    }
}

impl From<SheetPaper> for Paper {
    fn from(paper: SheetPaper) -> Self {
        match paper {
            SheetPaper::A4 => Self::A4,
            SheetPaper::Letter => Self::Letter,
        }
    }
}

pub(super) fn a4() -> SheetPaper {
    SheetPaper::A4
}

/// Which paper a worksheet is wanted on.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(super) struct OnPaper {
    /// The paper.
    #[serde(default = "a4")]
    #[param(inline, required = false)]
    pub(super) paper: SheetPaper,
}

/// Allowances by edge in millimetres; the house table where one is left out.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub(super) struct AllowancesAsked {
    side: Option<f64>,
    shoulder: Option<f64>,
    waist: Option<f64>,
    neckline: Option<f64>,
    armhole: Option<f64>,
    centre: Option<f64>,
    hem: Option<f64>,
}

impl AllowancesAsked {
    /// The house's where one is left out.
    pub(super) fn checked(&self, style: Style) -> Result<Allowances, ApiError> {
        let house = Allowances::usual(style.unit());
        let of = |name: &str, asked: Option<f64>, usual: f64| {
            up_to(Allowances::MOST, name, &format!("the {name} allowance"), asked.unwrap_or(usual), style)
        };
        Ok(Allowances {
            side: of("side", self.side, house.side)?,
            shoulder: of("shoulder", self.shoulder, house.shoulder)?,
            waist: of("waist", self.waist, house.waist)?,
            neckline: of("neckline", self.neckline, house.neckline)?,
            armhole: of("armhole", self.armhole, house.armhole)?,
            centre: of("centre", self.centre, house.centre)?,
            hem: of("hem", self.hem, house.hem)?,
        })
    }
}

/// A length of a query that lies between nothing and so much, in millimetres.
pub(super) fn up_to(most: f64, field: &str, what: &str, mm: f64, style: Style) -> Result<f64, ApiError> {
    if (0.0..=most).contains(&mm) {
        return Ok(mm);
    }
    let says = format!("{what} must lie between nothing and {}", style.with_unit(most));
    Err(ApiError::field(&format!("/{field}"), says))
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(pages)).routes(routes!(pdf)).routes(routes!(svg))
}

/// What is printed of a version: its geometry, what is added at the edges, and what every piece says.
struct Printed {
    pattern: Pattern,
    allowances: Allowances,
    label: Label,
}

/// A version as a tiled PDF with the house's allowances.
pub(super) async fn pattern_on_paper(
    state: &AppState,
    id: u64,
    style: Style,
    paper: Paper,
) -> Result<Vec<u8>, ApiError> {
    let printed = printed(state, id, Allowances::usual(style.unit()), style).await?;
    Ok(tiled_pdf(&printed.pattern, &printed.allowances, &printed.label, paper)?)
}

async fn printed(
    state: &AppState,
    id: u64,
    allowances: Allowances,
    style: Style,
) -> Result<Printed, ApiError> {
    let version = state.store.version(id).await?;
    let pattern = state.store.pattern(version.pattern_id).await?;
    let order = state.store.order(pattern.order_id).await?.order;
    let label = Label {
        client: order.client,
        garment: order.garment,
        block: block_words(&pattern),
        version: version.version,
        date: version.made_at.format("%-d %B %Y").to_string(),
        allowance: allowance_note(&allowances, &version.pattern, style),
        altered_for: make(&pattern.block, &version.recipe, style).altered_for(),
    };
    can_be_cut(&version.pattern, &allowances, style)?;
    Ok(Printed { pattern: version.pattern, allowances, label })
}

/// A line that cannot be cut is not printed.
pub(super) fn can_be_cut(pattern: &Pattern, allowances: &Allowances, style: Style) -> Result<(), ApiError> {
    let cutting = check_cut_lines(pattern, allowances, style);
    if cutting.passed {
        return Ok(());
    }
    Err(ApiError::field("/side", format!("{}: choose narrower allowances", cutting.says)))
}

/// What was added at the edges, as one sentence: the commonest figure first, then what differs.
pub(crate) fn allowance_note(allowances: &Allowances, pattern: &Pattern, style: Style) -> String {
    if *allowances == Allowances::NONE {
        return "No allowance: add it on the cloth.".to_owned();
    }
    let edges: [(&str, f64, &[Seam]); 7] = [
        ("side", allowances.side, &[Seam::Side, Seam::UnderSleeve, Seam::Princess, Seam::UnderBust]),
        ("shoulder", allowances.shoulder, &[Seam::Shoulder, Seam::Overarm]),
        ("waist", allowances.waist, &[Seam::Waist]),
        ("neckline", allowances.neckline, &[Seam::Neckline, Seam::UpperEdge]),
        ("armhole", allowances.armhole, &[Seam::Armhole, Seam::Cap]),
        ("centre seam", allowances.centre, &[Seam::CentreFront, Seam::CentreBack]),
        ("hem", allowances.hem, &[Seam::Hem, Seam::SleeveEdge]),
    ];
    // Only what this pattern has: a waisted bodice has no hem.
    let has = |seams: &[Seam]| {
        let sewn = |edge: &Edge| !edge.fold && seams.contains(&edge.seam);
        pattern.pieces.iter().any(|piece| piece.edges.iter().any(sewn))
    };
    let usual = allowances.side;
    let others: Vec<String> = edges
        .iter()
        .filter(|(_, mm, seams)| *mm != usual && has(seams))
        .map(|(name, mm, _)| format!("{name} {}", style.write(yardwand_core::Length::from_mm(*mm))))
        .collect();
    let unit = style.with_unit(usual);
    if others.is_empty() {
        format!("Allowance {unit}.")
    } else {
        format!("Allowance {unit}; {}.", others.join(", "))
    }
}

fn file_name(label: &Label, extension: &str) -> String {
    let safe = |text: &str| {
        text.chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect::<String>()
    };
    format!("{}-version-{}.{extension}", safe(&label.garment).to_lowercase(), label.version)
}

/// One sheet of the pattern and the part of the plane on it, in millimetres.
#[derive(Serialize, ToSchema)]
struct SheetView {
    name: String,
    x: f64,
    y: f64,
    width: f64,
    height: f64,
}

/// A piece in its place on the plane: its cutting line as an SVG path, in millimetres.
#[derive(Serialize, ToSchema)]
struct PlacedPiece {
    name: String,
    cutting: String,
}

/// What is printed before it is printed: the sheets, and where the pieces lie on them.
#[derive(Serialize, ToSchema)]
struct PagesView {
    /// The paper they are sheets of, by its name.
    paper: &'static str,
    /// Width and height of all sheets laid together, in millimetres.
    width: f64,
    height: f64,
    /// The sheets with something on them; one more comes first, with this map and the test squares.
    sheets: Vec<SheetView>,
    pieces: Vec<PlacedPiece>,
}

/// The sheets a version is printed on.
#[utoipa::path(get, path = "/api/versions/{id}/pages", params(OnPaper, AllowancesAsked), responses(
    (status = 200, body = PagesView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn pages(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<OnPaper>,
    QueryString(allowances): QueryString<AllowancesAsked>,
) -> Result<Json<PagesView>, ApiError> {
    let Printed { pattern, allowances, .. } = printed(&state, id, allowances.checked(style)?, style).await?;
    let map = PageMap::of(&pattern, &allowances, asked.paper.into());
    let (width, height) = map.size();
    let sheets = map.pages.into_iter().map(|page| SheetView {
        name: page.name,
        x: page.covers.x0,
        y: page.covers.y0,
        width: page.covers.width(),
        height: page.covers.height(),
    });
    let pieces =
        map.pieces.into_iter().map(|piece| PlacedPiece { name: piece.name, cutting: piece.cutting.to_svg() });
    Ok(Json(PagesView {
        paper: asked.paper.name(),
        width,
        height,
        sheets: sheets.collect(),
        pieces: pieces.collect(),
    }))
}

/// A tiled PDF, true to size.
#[utoipa::path(get, path = "/api/versions/{id}/pdf", params(OnPaper, AllowancesAsked), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn pdf(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<OnPaper>,
    QueryString(allowances): QueryString<AllowancesAsked>,
) -> Result<Response, ApiError> {
    let Printed { pattern, allowances, label } =
        printed(&state, id, allowances.checked(style)?, style).await?;
    let bytes = tiled_pdf(&pattern, &allowances, &label, asked.paper.into())?;
    Ok(attached("application/pdf", &file_name(&label, "pdf"), bytes))
}

/// An SVG in millimetres.
#[utoipa::path(get, path = "/api/versions/{id}/svg", params(AllowancesAsked), responses(
    (status = 200, content_type = "image/svg+xml"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn svg(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(allowances): QueryString<AllowancesAsked>,
) -> Result<Response, ApiError> {
    let Printed { pattern, allowances, label } =
        printed(&state, id, allowances.checked(style)?, style).await?;
    Ok(attached("image/svg+xml", &file_name(&label, "svg"), true_size_svg(&pattern, &allowances, &label)))
}
