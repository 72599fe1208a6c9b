//! What the back of a toile tells that was slashed on her: it sets a rounded back on the cutting table.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, rounded_back_as_slashed};
use yardwand_core::drape::{Draped, Named, SlashedBack};
use yardwand_core::geometry::Pt;

use super::drawn::{DrapeDot, DrapeRefusal, dots};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id};

/// A figure of a slashed back.
#[derive(Serialize, ToSchema)]
struct SlashedFigure {
    name: &'static str,
    text: String,
}

/// How wide the slash gapes at one mark.
#[derive(Serialize, ToSchema)]
struct SlashedGap {
    from_centre: String,
    opens: String,
}

/// Marks to look at again.
#[derive(Serialize, ToSchema)]
struct SlashedAsk {
    marks: Vec<Named>,
    says: String,
}

/// What a slashed back tells.
#[derive(Serialize, ToSchema)]
struct SlashedRead {
    figures: Vec<SlashedFigure>,
    gaps: Vec<SlashedGap>,
    asks: Vec<SlashedAsk>,
    notes: Vec<String>,
    /// What was marked: x from the straight centre, y down from the edge below the slash, in millimetres.
    dots: Vec<DrapeDot>,
    /// The drawn centre, from below the slash up to the nape.
    drawn: Vec<Pt>,
    /// What a rounded back is set to, in millimetres.
    amounts: Amounts,
}

/// A slashed back, or why it cannot be read yet.
#[derive(Default, Serialize, ToSchema)]
struct SlashedView {
    refusal: Option<DrapeRefusal>,
    read: Option<SlashedRead>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(slashed))
}

fn told(back: SlashedBack, style: Style) -> SlashedRead {
    let finest = style.finest();
    let amounts = rounded_back_as_slashed(&back);
    let [at_slash, quarter, half, three_quarters] = back.stands_in;
    let figures = [
        ("The slash opens at the centre", Some(back.opens)),
        ("It is cut below the nape", Some(back.below_nape)),
        ("It closes from the centre", back.closes_at),
        ("The drawn centre stands in, at the slash", Some(at_slash)),
        ("A quarter of the way up to the nape", Some(quarter)),
        ("Half-way up", Some(half)),
        ("Three quarters of the way up", Some(three_quarters)),
        ("At the nape", Some(back.nape_in)),
        ("The furthest dot from the line that is read", Some(back.furthest)),
    ];
    let figure =
        |(name, mm): (&'static str, Option<f64>)| Some(SlashedFigure { name, text: finest.with_unit(mm?) });
    SlashedRead {
        figures: figures.into_iter().filter_map(figure).collect(),
        gaps: { back.gaps.iter() }
            .map(|gap| SlashedGap {
                from_centre: finest.with_unit(gap.from_centre),
                opens: finest.with_unit(gap.opens),
            })
            .collect(),
        asks: { back.asks.iter() }
            .map(|ask| SlashedAsk { marks: ask.marks.clone(), says: style.say(&ask.says) })
            .collect(),
        notes: back.notes.iter().map(|note| style.say(note)).collect(),
        dots: dots(Draped::Back, &back.clicked).collect(),
        drawn: back.drawn,
        amounts,
    }
}

/// What the slash opened by and where the centre back was drawn, of a back that was slashed on her. Nothing is kept.
#[utoipa::path(get, path = "/api/drapes/{id}/slashed", responses(
    (status = 200, body = SlashedView), (status = 404, body = Problem)))]
async fn slashed(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<SlashedView>, ApiError> {
    let row = state.store.drape(id).await?;
    let in_hand = row.in_hand();
    Ok(Json(match in_hand.slashed(row.back.picture) {
        Ok(back) => SlashedView { read: Some(told(back, style)), ..SlashedView::default() },
        Err(refusal) => {
            SlashedView { refusal: Some(DrapeRefusal::of(refusal, style)), ..SlashedView::default() }
        }
    }))
}
