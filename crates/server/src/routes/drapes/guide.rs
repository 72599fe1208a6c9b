//! `/api/draping-guide`: where the dart goes on this body, and how the cloth is smoothed so that the excess walks there.

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::draft::DraftError;
use yardwand_core::drape::Draped;
use yardwand_core::draping::{DartGoes, DrapingGuide, draping_guide};

use super::cloth::whose_body;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, QueryString};
use crate::figures::name_of;
use crate::routes::blocks::refusal;

/// For whom, which piece, and where its excess is to go.
#[derive(Clone, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct GuideFor {
    client: Option<u64>,
    form: Option<u64>,
    /// Front or back.
    #[param(inline)]
    piece: Draped,
    /// As it is proposed where it is left out.
    #[param(inline)]
    goes: Option<DartGoes>,
    /// Part of it stays at the waist.
    #[serde(default)]
    #[param(required = false)]
    two: bool,
}

/// The guide, and for whom.
#[derive(Serialize, ToSchema)]
struct DrapingGuideView {
    /// Her name, or the form's.
    of: String,
    /// None where no block can be drafted that the pictures are made from.
    guide: Option<DrapingGuide>,
    /// Readings that are missing, by name.
    missing: Vec<String>,
    /// Why there is none though nothing is missing.
    refused: Option<String>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(look))
}

/// Where the dart goes, and how the piece is draped, step by step.
#[utoipa::path(get, path = "/api/draping-guide", params(GuideFor), responses(
    (status = 200, body = DrapingGuideView), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn look(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<GuideFor>,
) -> Result<Json<DrapingGuideView>, ApiError> {
    let (of, body) = whose_body(&state, asked.client, asked.form).await?;
    let wish = asked.goes.map(|goes| (goes, asked.two));
    let view = DrapingGuideView { of, guide: None, missing: Vec::new(), refused: None };
    Ok(Json(match draping_guide(&body, asked.piece, wish, style) {
        Ok(guide) => DrapingGuideView { guide: Some(guide), ..view },
        Err(DraftError::Missing(codes)) => {
            DrapingGuideView { missing: codes.iter().map(|code| name_of(code)).collect(), ..view }
        }
        Err(error) => DrapingGuideView { refused: Some(refusal(&error)), ..view },
    }))
}
