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

/// A line of a form: its heights above the floor, or how far it lies below another line.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
pub struct MarkedLine {
    /// The line its lengths were measured down from; none: they are heights above the floor.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub below: Option<String>,
    /// At its four places, in millimetres.
    #[serde(flatten)]
    pub at: LineHeights,
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

/// The pairs of which both places are measured: left with right, front with back.
fn pairs(at: LineHeights) -> Vec<(&'static str, f64, &'static str, f64)> {
    let pairs = [("left", at.left, "right", at.right), ("front", at.front, "back", at.back)];
    pairs.into_iter().filter_map(|(a, mm_a, b, mm_b)| Some((a, mm_a?, b, mm_b?))).collect()
}

fn checked(at: LineHeights, style: Style, says: impl Fn(&str, &str, &str) -> String) -> Option<LevelCheck> {
    let whole = pairs(at);
    let all = whole.iter().flat_map(|(_, a, _, b)| [*a, *b]);
    let spread_mm = all.clone().reduce(f64::max)? - all.reduce(f64::min)?;
    let moves =
        whole.iter().filter(|(_, a, _, b)| (a - b).abs() > LEVEL_ENOUGH).map(|&(a, mm_a, b, mm_b)| {
            let (less, more) = if mm_a < mm_b { (a, b) } else { (b, a) };
            says(less, more, &style.in_words(&style.difference(mm_a.max(mm_b), mm_a.min(mm_b))))
        });
    let moves: Vec<_> = moves.collect();
    Some(LevelCheck { spread_mm, level: moves.is_empty(), moves })
}

/// Compares heights above the floor, left with right and front with back. `None` where neither pair is whole.
pub fn check_level(heights: LineHeights, style: Style) -> Option<LevelCheck> {
    checked(heights, style, |low, high, by| {
        format!(
            "The {low} lies {by} lower than the {high}: raise it by that, or half of it and lower the {high} by the rest."
        )
    })
}

/// The check of each line of a form, in their order. A line that was measured down from another is as level as that one is: where that
/// one is not level, or not known, this is said instead.
pub fn check_lines(lines: &[(String, MarkedLine)], style: Style) -> Vec<Option<LevelCheck>> {
    lines.iter().map(|(_, line)| check_line(lines, line, style)).collect()
}

fn check_line(lines: &[(String, MarkedLine)], line: &MarkedLine, style: Style) -> Option<LevelCheck> {
    let Some(upper) = &line.below else { return check_level(line.at, style) };
    let check = checked(line.at, style, |near, far, by| {
        format!("The {near} lies {by} nearer to the {upper} line than the {far}: lower it there by that.")
    })?;
    let above = lines_above(lines, line).and_then(|above| {
        let checks = above.into_iter().map(|above| check_line(lines, above, style));
        checks.collect::<Option<Vec<_>>>()
    });
    let first = match above {
        None => format!(
            "It is measured down from the {upper} line, of which it is not known whether it is level: measure that one first."
        ),
        Some(above) if above.iter().any(|above| !above.level) => format!(
            "It is measured down from the {upper} line, which is not level yet: move that one first, and measure again."
        ),
        Some(_) => return Some(check),
    };
    Some(LevelCheck { level: false, moves: vec![first], ..check })
}

/// The lines that `line` hangs from, up to the one that is measured from the floor. `None` where one of them is not there, or where
/// they hang from each other in a ring.
fn lines_above<'a>(lines: &'a [(String, MarkedLine)], line: &'a MarkedLine) -> Option<Vec<&'a MarkedLine>> {
    let mut above = Vec::new();
    let mut at = line;
    while let Some(upper) = &at.below {
        at = lines.iter().find(|(name, _)| name == upper).map(|(_, line)| line)?;
        above.push(at);
        if above.len() > lines.len() {
            return None;
        }
    }
    Some(above)
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
    fn a_line_measured_down_from_a_level_one_is_lowered_where_it_is_nearer() {
        let bust = MarkedLine {
            below: None,
            at: LineHeights {
                left: Some(1040.0),
                right: Some(1041.0),
                front: Some(1040.0),
                back: Some(1040.0),
            },
        };
        let waist = MarkedLine {
            below: Some("bust".to_owned()),
            at: LineHeights { left: Some(110.0), right: Some(120.0), front: Some(118.0), back: Some(119.0) },
        };
        let lines = [("bust".to_owned(), bust), ("waist".to_owned(), waist)];
        let checks = check_lines(&lines, Style::TENTHS);
        assert!(checks[0].as_ref().unwrap().level);
        // The handbook's own figures: 110 and 120, lower the first by 10.
        assert_eq!(
            checks[1].as_ref().unwrap().moves,
            ["The left lies 1.0 cm nearer to the bust line than the right: lower it there by that."]
        );
    }

    #[test]
    fn a_line_below_one_that_is_not_level_or_below_itself_is_told() {
        let at = |left, right| LineHeights { left: Some(left), right: Some(right), ..LineHeights::default() };
        let line = |name: &str, below: Option<&str>, at| {
            (name.to_owned(), MarkedLine { below: below.map(str::to_owned), at })
        };
        let lines = [
            line("bust", None, at(1040.0, 1050.0)),
            line("waist", Some("bust"), at(120.0, 120.0)),
            line("hip", Some("knee"), at(200.0, 200.0)),
            line("hem", Some("hem"), at(100.0, 100.0)),
        ];
        let checks: Vec<_> = check_lines(&lines, Style::TENTHS).into_iter().map(Option::unwrap).collect();
        assert!(checks.iter().all(|check| !check.level && check.moves.len() == 1));
        assert!(checks[1].moves[0].contains("which is not level yet"), "{:?}", checks[1].moves);
        assert!(checks[2].moves[0].contains("not known") && checks[3].moves[0].contains("not known"));
    }

    #[test]
    fn half_a_pair_says_nothing() {
        let heights = LineHeights { left: Some(1040.0), back: Some(1000.0), ..LineHeights::default() };
        assert_eq!(check_level(heights, Style::TENTHS), None);
    }
}
