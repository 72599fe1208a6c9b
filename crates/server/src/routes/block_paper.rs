//! A block on paper: a card to trace round, and a pattern to cut by.

use axum::extract::State;
use axum::response::Response;
use serde::Deserialize;
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::pattern::{BackOff, DartsByHand, Pattern, marked_by_hand};
use yardwand_paper::{Label, card_pdf, tiled_pdf};

use super::print::{AllowancesAsked, OnPaper, allowance_note, can_be_cut, up_to};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, QueryString};
use crate::views::attached;

/// Which size of a block is printed.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct SizeAsked {
    /// The size's name; the first that is drawn if left out.
    size: Option<String>,
}

/// To which side of it a dart that runs down is folded.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum FoldedTo {
    #[default]
    Centre,
    Side,
}

/// To which side of it a dart that runs across is folded.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum FoldedAcross {
    #[default]
    Down,
    Up,
}

/// How darts are marked and folded, lengths in millimetres; as the house and the trade have it where it is left out.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct DartsAsked {
    /// How far the points of darts that shape the bust are backed off.
    front_point: Option<f64>,
    /// The same of a back's and a skirt's.
    back_point: Option<f64>,
    /// The same of a back's shoulder dart.
    shoulder_point: Option<f64>,
    /// Where waist, shoulder and neck darts are folded to.
    #[serde(default)]
    #[param(inline, required = false)]
    folded: FoldedTo,
    /// Where side and armhole darts are folded to.
    #[serde(default)]
    #[param(inline, required = false)]
    folded_across: FoldedAcross,
}

/// The furthest a dart's point is backed off, in millimetres (common practice, no source).
const MOST_BACKED_OFF: f64 = 60.0;

impl DartsAsked {
    fn checked(&self, style: Style) -> Result<DartsByHand, ApiError> {
        let usual = BackOff::by_hand(style.unit());
        let of = |field: &str, asked: Option<f64>, usual: f64| {
            up_to(
                MOST_BACKED_OFF,
                field,
                "what a dart\u{2019}s point is backed off by",
                asked.unwrap_or(usual),
                style,
            )
        };
        Ok(DartsByHand {
            back_off: BackOff {
                front: of("front_point", self.front_point, usual.front)?,
                back: of("back_point", self.back_point, usual.back)?,
                shoulder: of("shoulder_point", self.shoulder_point, usual.shoulder)?,
            },
            away_from_centre: self.folded == FoldedTo::Side,
            upwards: self.folded_across == FoldedAcross::Up,
        })
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(card)).routes(routes!(cutting))
}

/// One drawn size of a block, and what its paper says of it.
struct SizeOnPaper {
    pattern: Pattern,
    label: Label,
}

async fn size_on_paper(state: &AppState, id: u64, size: Option<&str>) -> Result<SizeOnPaper, ApiError> {
    let block = state.store.block(id).await?;
    let is_asked = |label: &str| size.is_none_or(|size| size == label);
    let drawn = block.sizes.iter().filter(|size| is_asked(&size.label));
    let (size, pattern) = drawn.filter_map(|size| Some((size, size.pattern()?))).next().ok_or_else(|| {
        ApiError::field(
            "/size",
            "there is no drawing of this size: a card that was measured by hand has none",
        )
    })?;
    let client = match block.summary.client_id {
        Some(client) => state.store.client(client).await?.name,
        None => format!("size {}", size.label),
    };
    let label = Label {
        client,
        garment: block.summary.name.clone(),
        block: "the block itself: do not draw on this".to_owned(),
        version: block.summary.version,
        date: block.summary.made_at.format("%-d %B %Y").to_string(),
        allowance: "Net: no allowance. Trace round it.".to_owned(),
        altered_for: Vec::new(),
    };
    Ok(SizeOnPaper { pattern: pattern.clone(), label })
}

/// A block as a card to trace round: net lines without allowance, holes at pivots and points, both grains.
#[utoipa::path(get, path = "/api/blocks/{id}/card.pdf", params(SizeAsked, OnPaper), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn card(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    QueryString(asked): QueryString<SizeAsked>,
    QueryString(on): QueryString<OnPaper>,
) -> Result<Response, ApiError> {
    let SizeOnPaper { pattern, label } = size_on_paper(&state, id, asked.size.as_deref()).await?;
    let pdf = card_pdf(&pattern, &label, on.paper.into())?;
    Ok(attached("application/pdf", "card-block.pdf", pdf))
}

/// A block as a pattern to cut by: with what is added at each edge, none where the centre lies on the fold.
#[utoipa::path(get, path = "/api/blocks/{id}/cutting.pdf", params(SizeAsked, OnPaper, AllowancesAsked, DartsAsked), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn cutting(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<SizeAsked>,
    QueryString(on): QueryString<OnPaper>,
    (QueryString(allowances), QueryString(darts)): (QueryString<AllowancesAsked>, QueryString<DartsAsked>),
) -> Result<Response, ApiError> {
    let SizeOnPaper { pattern, label } = size_on_paper(&state, id, asked.size.as_deref()).await?;
    let (allowances, darts) = (allowances.checked(style)?, darts.checked(style)?);
    let pattern =
        marked_by_hand(&pattern, &darts).map_err(|says| ApiError::field("/front_point", style.say(&says)))?;
    can_be_cut(&pattern, &allowances, style)?;
    let label = Label {
        block: "the block, not altered".to_owned(),
        allowance: allowance_note(&allowances, &pattern, style),
        ..label
    };
    let pdf = tiled_pdf(&pattern, &allowances, &label, on.paper.into())?;
    Ok(attached("application/pdf", "block-to-cut.pdf", pdf))
}
