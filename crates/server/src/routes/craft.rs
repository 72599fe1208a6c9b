//! `/api/craft`: what the craft knows, for screens to build themselves from.

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{AlterationView, alteration_views};
use yardwand_core::body::{MeasurementSet, Side, sets};
use yardwand_core::ease::EaseSet;
use yardwand_core::fitting::{Lie, ObservationKind, Posture, places};
use yardwand_core::pattern::{Allowances, BackOff};
use yardwand_core::{Term, glossary};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::ApiError;
use crate::extract::HouseStyle;
use crate::workroom::all_ease_sets;

use super::rounds::FittingStage;

#[derive(Serialize, ToSchema)]
struct Craft {
    sets: Vec<MeasurementSet>,
    ease_sets: Vec<EaseSet>,
    /// What this house usually adds at each edge.
    allowances: Allowances,
    /// The widest allowance there is, in millimetres.
    widest_allowance: f64,
    /// How far a dart's point is backed off when it is marked by hand.
    back_off: BackOff,
    alterations: Vec<AlterationView>,
    observation_kinds: Vec<KindView>,
    places: Vec<String>,
    postures: Vec<PostureView>,
    /// What a round can be fitted in, in the order of a garment's life.
    stages: Vec<StageView>,
    sides: Vec<SideView>,
    /// The words of the trade, explained.
    glossary: Vec<Term>,
}

#[derive(Serialize, ToSchema)]
struct KindView {
    kind: ObservationKind,
    name: String,
    looks: String,
    /// The ways it can lie.
    lies: Vec<LieView>,
}

#[derive(Serialize, ToSchema)]
struct LieView {
    lie: Lie,
    name: String,
}

#[derive(Serialize, ToSchema)]
struct PostureView {
    posture: Posture,
    name: String,
}

#[derive(Serialize, ToSchema)]
struct StageView {
    stage: FittingStage,
    name: String,
}

#[derive(Serialize, ToSchema)]
struct SideView {
    side: Side,
    name: String,
    /// What stands behind the name of a reading of that side; nothing where it is of both.
    behind_a_name: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(craft))
}

/// Sets, ease, alterations and kinds of observation.
#[utoipa::path(get, path = "/api/craft", responses((status = 200, body = Craft)))]
async fn craft(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
) -> Result<Json<Craft>, ApiError> {
    let kind = |kind: ObservationKind| KindView {
        kind,
        name: kind.name().to_owned(),
        looks: kind.looks().to_owned(),
        lies: kind.lies().iter().map(|lie| LieView { lie: *lie, name: lie.name().to_owned() }).collect(),
    };
    Ok(Json(Craft {
        sets: sets().to_vec(),
        ease_sets: all_ease_sets(&state.store)
            .await?
            .into_iter()
            .map(|set| EaseSet { note: style.say(&set.note), ..set })
            .collect(),
        allowances: Allowances::usual(style.unit()),
        widest_allowance: Allowances::MOST,
        back_off: BackOff::by_hand(style.unit()),
        alterations: alteration_views(style),
        observation_kinds: ObservationKind::ALL.into_iter().map(kind).collect(),
        places: places().map(str::to_owned).collect(),
        postures: Posture::ALL
            .into_iter()
            .map(|posture| PostureView { posture, name: posture.name().to_owned() })
            .collect(),
        stages: FittingStage::ALL
            .into_iter()
            .map(|stage| StageView { stage, name: stage.name().to_owned() })
            .collect(),
        glossary: glossary().to_vec(),
        sides: Side::ALL
            .into_iter()
            .map(|side| SideView {
                side,
                name: side.name().to_owned(),
                behind_a_name: side.behind_a_name().to_owned(),
            })
            .collect(),
    }))
}
