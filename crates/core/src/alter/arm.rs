//! Her arm, as far as it is known: what a sleeve that ends somewhere along it has to go round (handbook: `wishes.md`,
//! section 5).

use super::{AlterError, Args, Param};
use crate::Style;
use crate::ease::ArmEase;

/// A sleeve ends at most so far below the wrist, in millimetres.
pub(super) const MOST_BELOW_WRIST: f64 = 60.0;
/// The elbow lies half-way down the arm and so much lower, in millimetres (published: Bunka, 7th generation).
const ELBOW_LOWER: f64 = 25.0;
/// A closed edge is at least so much wider than the hand, in millimetres (common practice, no source).
const THROUGH: f64 = 10.0;

pub(super) const UPPER_ARM: Param = Param::place(
    "upper_arm",
    "Her upper arm",
    (150.0, 700.0),
    None,
    "Round, to know her arm where the sleeve ends.",
);
pub(super) const ELBOW: Param = Param::place(
    "elbow",
    "Her elbow",
    (150.0, 600.0),
    None,
    "Round: the sleeve is never narrower there than elbow and ease.",
);
pub(super) const WRIST: Param = Param::place(
    "wrist",
    "Her wrist",
    (110.0, 300.0),
    None,
    "Round, for a sleeve that ends below the elbow.",
);
pub(super) const HAND: Param =
    Param::place("hand", "Her closed hand", (150.0, 350.0), None, "Round: a closed edge goes over it.");
pub(super) const ARM_LENGTH: Param = Param::place(
    "arm_length",
    "Her arm's length",
    (350.0, 750.0),
    None,
    "From the shoulder point to the wrist: where elbow and wrist lie. Left out, as long as the sleeve is drafted.",
);

/// What a step is told of her arm, in millimetres.
pub(super) struct Told {
    pub(super) upper_arm: Option<f64>,
    pub(super) elbow: Option<f64>,
    pub(super) wrist: Option<f64>,
    pub(super) hand: Option<f64>,
    pub(super) length: Option<f64>,
}

impl Told {
    pub(super) fn of(args: &Args<'_>) -> Self {
        let of = |param: Param| args.number(param.code);
        Self {
            upper_arm: of(UPPER_ARM),
            elbow: of(ELBOW),
            wrist: of(WRIST),
            hand: of(HAND),
            length: of(ARM_LENGTH),
        }
    }

    /// What a closed edge has to be, to let her hand through.
    pub(super) fn through(&self) -> Option<f64> {
        self.hand.map(|hand| hand + THROUGH)
    }
}

/// Her arm, so long: what it is round at its levels. Levels are told from the shoulder point.
pub(super) struct Arm {
    pub(super) length: f64,
    upper_level: f64,
    pub(super) elbow_level: f64,
    pub(super) elbow: Option<f64>,
    wrist: Option<f64>,
    /// Level and girth, from the top.
    known: Vec<(f64, f64)>,
}

impl Arm {
    /// `upper_level` is where her upper arm was measured, `elbow_level` where her elbow lies, if that was.
    pub(super) fn of(told: &Told, length: f64, upper_level: f64, elbow_level: Option<f64>) -> Self {
        let elbow_level = elbow_level.unwrap_or(length / 2.0 + ELBOW_LOWER);
        let levels = [(upper_level, told.upper_arm), (elbow_level, told.elbow), (length, told.wrist)];
        let known = levels.into_iter().filter_map(|(level, girth)| Some((level, girth?))).collect();
        Self { length, upper_level, elbow_level, elbow: told.elbow, wrist: told.wrist, known }
    }

    /// What the arm is round at a level: in between what is known, as at the nearest beyond.
    pub(super) fn at(&self, level: f64) -> Option<f64> {
        along(&self.known, level)
    }

    /// How much wider than the arm a sleeve is at a level, in between its three figures.
    pub(super) fn ease_at(&self, level: f64, ease: &ArmEase) -> f64 {
        let eases =
            [(self.upper_level, ease.upper_arm), (self.elbow_level, ease.elbow), (self.length, ease.wrist)];
        along(&eases, level).unwrap_or(ease.upper_arm)
    }

    /// Whether an edge goes round the arm where it lies. Below the elbow an arm becomes narrower: how narrow is not known
    /// without the wrist, and nothing is refused.
    pub(super) fn goes_through(&self, opening: f64, level: f64, style: Style) -> Result<(), AlterError> {
        let is_known = self.wrist.is_some() || level <= self.elbow_level;
        let girth = self.at(level).filter(|girth| is_known && opening < *girth);
        let Some(girth) = girth else { return Ok(()) };
        Err(AlterError::not_here(format!(
            "an edge of {} is less than her arm there: at least {}",
            style.with_unit(opening),
            style.with_unit(girth)
        )))
    }
}

/// A figure at a level, in between those that are known at levels from the top, as at the nearest beyond.
fn along(known: &[(f64, f64)], level: f64) -> Option<f64> {
    let below = known.iter().find(|(at, _)| *at >= level);
    let above = known.iter().rfind(|(at, _)| *at <= level);
    match (above, below) {
        (Some((from, one)), Some((to, other))) if to > from => {
            Some(one + (other - one) * (level - from) / (to - from))
        }
        (Some((_, figure)), _) | (None, Some((_, figure))) => Some(*figure),
        (None, None) => None,
    }
}

/// Whether a closed edge lets her hand through; `or` is what else would help.
pub(super) fn lets_through(
    opening: f64,
    through: Option<f64>,
    or: &str,
    style: Style,
) -> Result<(), AlterError> {
    let Some(least) = through.filter(|least| opening < *least) else { return Ok(()) };
    Err(AlterError::not_here(format!(
        "a closed edge of {} does not go over her hand: at least {}{or}",
        style.with_unit(opening),
        style.with_unit(least)
    )))
}
