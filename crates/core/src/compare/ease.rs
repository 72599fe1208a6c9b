//! Ease sets: wearing and design ease by name. Data.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::draft::DirectEase;

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

impl EaseSet {
    /// What the direct draft takes of it.
    pub fn for_draft(&self) -> DirectEase {
        DirectEase { bust: self.bust, waist: self.waist, across_back: self.across_back }
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

/// The set of a code.
pub fn ease_set(code: &str) -> Option<&'static EaseSet> {
    DATA.iter().find(|set| set.code == code)
}
