//! The layers of a recipe: what is done when.

use serde::{Deserialize, Serialize};

/// A layer, in the order they are done (handbook: `alterations.md`, section 5). Each step reads its places on the state
/// that its own layer starts from, so that a correction decided late is the same as one decided early.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Layer {
    /// Lengths, and what front and back have over each other.
    Balance,
    /// Bust, shoulders, widths, side seams, gapes, neck, underarm.
    Fit,
    /// Darts moved, split and gathered; style lines.
    Shape,
    /// The sleeve from the finished armhole, points, truing.
    Finish,
}

impl Layer {
    /// The word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Balance => "balance",
            Self::Fit => "fit",
            Self::Shape => "shape",
            Self::Finish => "sleeve and finish",
        }
    }
}
