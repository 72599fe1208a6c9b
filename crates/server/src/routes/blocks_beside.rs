//! Two blocks laid over each other, and what a toile makes over a block or over another toile: what has changed since, and how far left
//! and right are apart.

use axum::Json;
use axum::extract::State;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{FigureRow, figures_beside};
use yardwand_core::pattern::{Pattern, PieceDrawing, draw_pattern};

use super::drapes::pattern_of_drape;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, InPath, QueryString};

/// One of the two.
#[derive(Serialize, ToSchema)]
struct PatternBeside {
    name: String,
    /// Its size or side, where it has one.
    which: String,
    /// When it was made, or marked last.
    at: DateTime<Utc>,
    pieces: Vec<PieceDrawing>,
}

/// Two patterns laid over each other.
#[derive(Serialize, ToSchema)]
struct PatternsBeside {
    here: PatternBeside,
    there: PatternBeside,
    /// Measures of both: `before` here, `after` there.
    figures: Vec<FigureRow>,
}

/// Which sizes of two blocks.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct SizesAsked {
    /// The one's size; its first that is drawn if left out.
    size: Option<String>,
    /// The other's.
    other_size: Option<String>,
}

/// What a toile is laid over: one of both.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct OverWhat {
    /// A block.
    block: Option<u64>,
    /// Another toile or paper pattern.
    drape: Option<u64>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(two_blocks)).routes(routes!(over))
}

struct Named {
    pattern: Pattern,
    name: String,
    which: String,
    at: DateTime<Utc>,
}

impl Named {
    fn drawn(&self, style: Style) -> PatternBeside {
        PatternBeside {
            name: self.name.clone(),
            which: self.which.clone(),
            at: self.at,
            pieces: draw_pattern(&self.pattern, style),
        }
    }
}

fn laid_over(here: &Named, there: &Named, style: Style) -> PatternsBeside {
    PatternsBeside {
        figures: figures_beside(&here.pattern, &there.pattern, style),
        here: here.drawn(style),
        there: there.drawn(style),
    }
}

async fn of_block(state: &AppState, id: u64, (field, size): (&str, Option<&str>)) -> Result<Named, ApiError> {
    let block = state.store.block(id).await?;
    let asked = block.sizes.iter().filter(|each| size.is_none_or(|size| size == each.label));
    let (label, pattern) = asked
        .filter_map(|each| Some((each.label.clone(), each.pattern()?.clone())))
        .next()
        .ok_or_else(|| {
            let says = format!(
                "\u{201c}{}\u{201d} has no drawing of this size to lay over another",
                block.summary.name
            );
            ApiError::field(field, says)
        })?;
    let which = if block.sizes.len() > 1 { format!("size {label}") } else { String::new() };
    Ok(Named { pattern, name: block.summary.name, which, at: block.summary.made_at })
}

async fn of_drape(state: &AppState, id: u64, field: &str, style: Style) -> Result<Named, ApiError> {
    let row = state.store.drape(id).await?;
    let pattern = pattern_of_drape(&row, style).map_err(|says| ApiError::field(field, says))?;
    let which = row.in_hand().facts.side.map_or_else(String::new, |side| format!("{} side", side.name()));
    Ok(Named { pattern, name: row.summary.name, which, at: row.summary.changed_at })
}

/// Two blocks laid over each other.
#[utoipa::path(get, path = "/api/blocks/{id}/beside/{other}", params(SizesAsked), responses(
    (status = 200, body = PatternsBeside), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn two_blocks(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    InPath((id, other)): InPath<(u64, u64)>,
    QueryString(asked): QueryString<SizesAsked>,
) -> Result<Json<PatternsBeside>, ApiError> {
    let here = of_block(&state, id, ("/size", asked.size.as_deref())).await?;
    let there = of_block(&state, other, ("/other_size", asked.other_size.as_deref())).await?;
    Ok(Json(laid_over(&here, &there, style)))
}

/// What the marks of a toile make, laid over a block or another toile: what has changed since.
#[utoipa::path(get, path = "/api/drapes/{id}/beside", params(OverWhat), responses(
    (status = 200, body = PatternsBeside), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn over(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<OverWhat>,
) -> Result<Json<PatternsBeside>, ApiError> {
    let there = match (asked.block, asked.drape) {
        (Some(block), None) => of_block(&state, block, ("/block", None)).await?,
        (None, Some(drape)) => of_drape(&state, drape, "/drape", style).await?,
        _ => {
            return Err(ApiError::field(
                "/block",
                "name a block or another toile: it is laid over one of them",
            ));
        }
    };
    let here = of_drape(&state, id, "/id", style).await?;
    // What was there before stands first.
    Ok(Json(laid_over(&there, &here, style)))
}
