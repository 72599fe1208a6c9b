//! Ease sets: wearing and design ease by name. The built-in ones are data; a house adds its own.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::body::Body;
use crate::draft::DirectEase;

/// Ease added for the look, over what moving wants: total, on the body, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct DesignEase {
    /// At the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip.
    pub hip: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
    /// At the upper arm.
    pub upper_arm: f64,
}

/// Ease by dimension: total, on the body, in millimetres.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EaseSet {
    /// Stable code.
    pub code: String,
    /// House name.
    pub name: String,
    /// What it is for.
    pub note: String,
    /// Wearing ease at the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip.
    pub hip: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
    /// At the upper arm.
    pub upper_arm: f64,
    /// What the cloth gives, as a share of bust, waist and hip: −0.05 cuts it a twentieth smaller.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub stretch: f64,
    /// Across the back takes the arms-forward reading where there is one: for players and drivers.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub reach: bool,
    /// Design ease over all that.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub design: DesignEase,
}

impl EaseSet {
    /// What the direct draft takes of it for a body.
    pub fn for_draft(&self, body: &Body) -> DirectEase {
        let girth = |code: &str, wearing: f64, design: f64| {
            body.get(code).unwrap_or_default() * self.stretch + wearing + design
        };
        DirectEase {
            bust: girth("bust_girth", self.bust, self.design.bust),
            waist: girth("waist_girth", self.waist, self.design.waist),
            hip: girth("hip_girth", self.hip, self.design.hip),
            across_back: self.across_back + self.design.across_back,
        }
    }
}

#[derive(Deserialize)]
struct Data {
    ease: Vec<EaseSet>,
}

static DATA: LazyLock<Vec<EaseSet>> = LazyLock::new(|| {
    let data: Data = toml::from_str(include_str!("../../data/ease.toml"))
        .unwrap_or_else(|error| panic!("data/ease.toml cannot be read: {error}"));
    data.ease
});

/// The built-in sets.
pub fn ease_sets() -> &'static [EaseSet] {
    &DATA
}

/// The built-in set of a code.
pub fn ease_set(code: &str) -> Option<&'static EaseSet> {
    DATA.iter().find(|set| set.code == code)
}
