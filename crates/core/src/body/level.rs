//! Level lines: heights of one line at several places, which side to move, and by how much.

use serde::{Deserialize, Serialize};

use crate::Style;

/// A line may be off level by this, in millimetres, without a word: an eighth of an inch, what a tape can tell (common
/// practice, no source).
const LEVEL_ENOUGH: f64 = 3.2;

/// Heights of one line above the floor, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LineHeights {
    /// At her left side.
    pub left: Option<f64>,
    /// At her right side.
    pub right: Option<f64>,
    /// In front.
    pub front: Option<f64>,
    /// Behind.
    pub back: Option<f64>,
}

/// Whether a line is level.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LevelCheck {
    /// Highest less lowest, in millimetres.
    pub spread_mm: f64,
    /// Whether that is level enough.
    pub level: bool,
    /// What to move and by how much, a sentence each.
    pub moves: Vec<String>,
}

/// Compares left with right and front with back. `None` where neither pair is whole.
pub fn check_level(heights: LineHeights, style: Style) -> Option<LevelCheck> {
    let pairs = [
        (("left", heights.left), ("right", heights.right)),
        (("front", heights.front), ("back", heights.back)),
    ];
    let whole =
        pairs.into_iter().filter_map(|((a, height_a), (b, height_b))| Some((a, height_a?, b, height_b?)));
    let whole: Vec<_> = whole.collect();
    if whole.is_empty() {
        return None;
    }
    let heights = whole.iter().flat_map(|(_, a, _, b)| [*a, *b]);
    let spread_mm = heights.clone().fold(f64::MIN, f64::max) - heights.fold(f64::MAX, f64::min);
    let moves = whole.iter().filter(|(_, a, _, b)| (a - b).abs() > LEVEL_ENOUGH).map(|&(a, height_a, b, height_b)| {
        let (low, high) = if height_a < height_b { (a, b) } else { (b, a) };
        let by = style.in_words(&style.difference(height_a.max(height_b), height_a.min(height_b)));
        format!("The {low} lies {by} lower than the {high}: raise it by that, or half of it and lower the {high} by the rest.")
    });
    let moves: Vec<_> = moves.collect();
    Some(LevelCheck { spread_mm, level: moves.is_empty(), moves })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_line_that_drops_behind_says_which_side_to_raise() {
        let heights =
            LineHeights { front: Some(1040.0), back: Some(1027.3), left: Some(1035.0), right: Some(1036.0) };
        let check = check_level(heights, Style::EIGHTHS).unwrap();
        assert!(!check.level);
        assert!((check.spread_mm - 12.7).abs() < 1e-9);
        assert_eq!(
            check.moves,
            [
                "The back lies 1/2 in lower than the front: raise it by that, or half of it and lower the front by the rest."
            ]
        );
    }

    #[test]
    fn within_three_millimetres_a_line_is_level() {
        let heights = LineHeights { left: Some(1040.0), right: Some(1037.0), ..LineHeights::default() };
        assert!(check_level(heights, Style::TENTHS).unwrap().level);
    }

    #[test]
    fn half_a_pair_says_nothing() {
        let heights = LineHeights { left: Some(1040.0), back: Some(1000.0), ..LineHeights::default() };
        assert_eq!(check_level(heights, Style::TENTHS), None);
    }
}
