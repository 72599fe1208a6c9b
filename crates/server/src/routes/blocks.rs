//! `/api/blocks`: house masters, cards and clients' own blocks, drawn, measured and checked.

use axum::Json;
use axum::extract::State;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{DraftError, DraftNote};
use yardwand_core::pattern::{
    Check, Garment, LabelFacts, Pattern, PatternMeasure, PatternMeasures, PieceDrawing, angles, check_labels,
    check_pattern, draw_pattern, measure,
};
use yardwand_store::{BlockRow, BlockSummary, How};

use super::cards::made_for;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, QueryString};
use crate::figures::name_of;
use crate::views::sentence;
use crate::workroom::{ParameterView, ease_named, parameter_views};

#[derive(Clone, Copy, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(super) enum BlockHow {
    Drafted,
    Traced,
    Card,
    Draped,
    Paper,
}

impl From<How> for BlockHow {
    fn from(how: How) -> Self {
        match how {
            How::Drafted => Self::Drafted,
            How::Traced => Self::Traced,
            How::Card => Self::Card,
            How::Draped => Self::Draped,
            How::Paper => Self::Paper,
        }
    }
}

#[derive(Serialize, ToSchema)]
pub(super) struct BlockView {
    pub(super) id: u64,
    pub(super) name: String,
    pub(super) client_id: Option<u64>,
    pub(super) how: BlockHow,
    pub(super) version: u32,
    /// Names of its sizes in order.
    pub(super) sizes: Vec<String>,
    /// What its sizes are of.
    pub(super) garment: Garment,
    /// How many patterns were begun from it.
    pub(super) used: u64,
    pub(super) why: String,
    pub(super) made_by: String,
    pub(super) made_at: DateTime<Utc>,
}

impl From<BlockSummary> for BlockView {
    fn from(row: BlockSummary) -> Self {
        Self {
            id: row.id,
            name: row.name,
            client_id: row.client_id,
            how: row.how.into(),
            version: row.version,
            sizes: row.sizes,
            garment: row.garment,
            used: row.used,
            why: row.why,
            made_by: row.made_by,
            made_at: row.made_at,
        }
    }
}

/// A figure of a block.
#[derive(Serialize, ToSchema)]
pub(super) struct MeasuredRow {
    figure: Option<PatternMeasure>,
    name: String,
    text: String,
}

/// A block drawn; a card has figures alone.
#[derive(Serialize, ToSchema)]
pub(super) struct DrawnBlock {
    pub(super) pieces: Vec<PieceDrawing>,
    figures: Vec<MeasuredRow>,
    checks: Vec<Check>,
    notes: Vec<DraftNote>,
}

#[derive(Serialize, ToSchema)]
struct SizeView {
    label: String,
    /// Girths of the figure it was drafted or made for, with their names, as far as they are known.
    made_for: Vec<String>,
    drawn: DrawnBlock,
}

#[derive(Serialize, ToSchema)]
struct BlockDetail {
    block: BlockView,
    ease: String,
    /// What was done, for a traced block.
    told: String,
    /// The block it was traced from.
    parent: Option<BlockView>,
    /// The drape or paper pattern it was taken over from.
    drape: Option<u64>,
    /// How it was drafted; none for a card.
    method: Option<String>,
    /// The constants that stand otherwise than the trade has them.
    constants: Vec<ParameterView>,
    sizes: Vec<SizeView>,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct WhoseBlocks {
    /// Own blocks of this client too.
    client: Option<u64>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(list)).routes(routes!(get))
}

fn figure_rows(figures: &PatternMeasures, style: Style) -> Vec<MeasuredRow> {
    let row = |(figure, mm): (PatternMeasure, f64)| MeasuredRow {
        figure: Some(figure),
        name: figure.name().to_owned(),
        text: style.with_unit(mm),
    };
    figures.iter().map(row).collect()
}

/// A pattern with its figures, angles and checks; the label is checked where it is known.
pub(super) fn drawn(
    pattern: &Pattern,
    notes: Vec<DraftNote>,
    label: Option<&LabelFacts<'_>>,
    style: Style,
) -> DrawnBlock {
    let mut figures = figure_rows(&measure(pattern), style);
    figures.extend(angles(pattern).into_iter().map(|(name, degrees)| MeasuredRow {
        figure: None,
        name,
        text: format!("{degrees:.1}\u{b0}"),
    }));
    let mut checks = check_pattern(pattern, style);
    checks.extend(label.map(|facts| check_labels(pattern, facts)));
    DrawnBlock { pieces: draw_pattern(pattern, style), figures, checks, notes }
}

fn drawn_size(size: &BlockSize, block: &BlockRow, style: Style) -> DrawnBlock {
    let Some(pattern) = size.pattern() else {
        return DrawnBlock {
            pieces: Vec::new(),
            figures: figure_rows(&size.figures(), style),
            checks: Vec::new(),
            notes: Vec::new(),
        };
    };
    let (version, date) =
        (block.summary.version.to_string(), block.summary.made_at.format("%-d %B %Y").to_string());
    let name = format!("{}, size {}", block.summary.name, size.label);
    let facts = LabelFacts {
        client: if block.summary.client_id.is_some() { &block.summary.name } else { "house master" },
        block: &name,
        version: &version,
        round: "none: a block is not fitted",
        date: &date,
    };
    drawn(pattern, Vec::new(), Some(&facts), style)
}

/// House blocks, and a client's own where one is named.
#[utoipa::path(get, path = "/api/blocks", params(WhoseBlocks), responses((status = 200, body = Vec<BlockView>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(whose): QueryString<WhoseBlocks>,
) -> Result<Json<Vec<BlockView>>, ApiError> {
    let rows = state.store.blocks(whose.client).await?;
    Ok(Json(rows.into_iter().map(BlockView::from).collect()))
}

/// A block, drawn in every size.
#[utoipa::path(get, path = "/api/blocks/{id}", responses((status = 200, body = BlockDetail), (status = 404, body = Problem)))]
async fn get(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<BlockDetail>, ApiError> {
    let block = state.store.block(id).await?;
    let girth = |size: &BlockSize, code: &str| {
        Some(format!("{} {}", name_of(code).to_lowercase(), style.with_unit(size.figure.get(code)?)))
    };
    let size = |size: &BlockSize| SizeView {
        made_for: made_for(size.garment()).iter().filter_map(|code| girth(size, code)).collect(),
        drawn: drawn_size(size, &block, style),
        label: size.label.clone(),
    };
    let parent = match block.parent_id {
        // The master may have been a client's that was erased since.
        Some(parent) => state.store.block(parent).await.ok().map(|row| row.summary.into()),
        None => None,
    };
    let constants = block.method.iter().flat_map(|method| parameter_views(method, style));
    Ok(Json(BlockDetail {
        // A house set may have been taken away since.
        ease: ease_named(&state.store, Some(&block.ease_set))
            .await
            .map_or_else(|_| block.ease_set.clone(), |set| set.name),
        told: block.told.clone(),
        parent,
        drape: block.drape_id,
        method: block.method.map(|method| method.kind.name().to_owned()),
        constants: constants.filter(ParameterView::is_changed).collect(),
        sizes: block.sizes.iter().map(size).collect(),
        block: block.summary.into(),
    }))
}

/// A refusal with measurements by name instead of by code.
pub(super) fn refusal(error: &DraftError) -> String {
    match error {
        DraftError::Missing(codes) => {
            let names: Vec<String> = codes.iter().map(|code| name_of(code).to_lowercase()).collect();
            format!("The draft still wants {}.", names.join(", "))
        }
        other => sentence(&other.to_string()),
    }
}
