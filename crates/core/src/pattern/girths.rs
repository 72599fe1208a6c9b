//! What bust, waist and hip are off from what block and recipe ask: carried along with the pattern, so that truing and
//! redrawing are held to what was asked, step by step.

use serde::{Deserialize, Serialize};

use super::measure::{PatternMeasure, measure};
use super::piece::Pattern;

/// How much larger the sewn girths are than was asked, all round, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GirthsOff {
    /// At the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip; nothing where the pattern ends at the waist.
    pub hip: f64,
}

impl GirthsOff {
    /// The girths that are looked at.
    const FIGURES: [PatternMeasure; 3] = [PatternMeasure::Bust, PatternMeasure::Waist, PatternMeasure::Hip];

    /// The girths with their figures.
    pub fn iter(self) -> impl Iterator<Item = (PatternMeasure, f64)> {
        Self::FIGURES.into_iter().zip([self.bust, self.waist, self.hip])
    }

    /// What a pattern measures against what was asked of it, in millimetres all round. A girth that it does not have is
    /// not off.
    pub fn of(pattern: &Pattern, asked: impl Fn(PatternMeasure) -> Option<f64>) -> Self {
        let sewn = measure(pattern);
        let off = |figure| sewn.get(figure).zip(asked(figure)).map_or(0.0, |(is, asked)| is - asked);
        Self {
            bust: off(PatternMeasure::Bust),
            waist: off(PatternMeasure::Waist),
            hip: off(PatternMeasure::Hip),
        }
    }

    /// The same after an alteration that was to change the girths by so much.
    pub(crate) fn after(
        self,
        before: &Pattern,
        after: &Pattern,
        grows: impl Fn(PatternMeasure) -> f64,
    ) -> Self {
        let was = measure(before);
        let more = Self::of(after, |figure| Some(was.get(figure)? + grows(figure)));
        Self { bust: self.bust + more.bust, waist: self.waist + more.waist, hip: self.hip + more.hip }
    }

    /// Of two sides' girths the one that is further off, girth by girth.
    pub(crate) fn worse(self, other: Self) -> Self {
        let worse = |a: f64, b: f64| if a.abs() >= b.abs() { a } else { b };
        Self {
            bust: worse(self.bust, other.bust),
            waist: worse(self.waist, other.waist),
            hip: worse(self.hip, other.hip),
        }
    }
}
