//! Marking a dress form before anything is draped on it: where its centre front lies, how wide the tape of its lines is, and whether the
//! bust is bridged.

use serde::{Deserialize, Serialize};

use crate::Style;
use crate::length::Shown;

/// A mark of the centre front may lie beside the plumb line by so much, in millimetres (common practice, no source).
const PLUMB_ENOUGH: f64 = 3.0;

/// What the cloth does where no tape bridges the hollow between the busts (common practice, no source).
pub const NOT_BRIDGED: &str = "Without a taut tape across the bust points the cloth sinks into the hollow between them: the front comes out \
    longer at the centre and narrower across than a garment that spans it, and what is cut from it gapes there.";

/// How a form is marked.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
pub struct FormMarking {
    /// Width of the tape its lines are marked with, in millimetres.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub tape_width: Option<f64>,
    /// Whether a taut tape bridges the hollow between the busts; none where nothing is said.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bridged: Option<bool>,
    /// The centre front, found at several heights.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub centre: Vec<Halving>,
}

/// The centre front at one height: half of the way from side seam to side seam.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Halving {
    /// At which line it was measured.
    pub line: String,
    /// From side seam to side seam across the front, in millimetres.
    pub across: f64,
    /// How far the middle lies beside a plumb line hung from the neck, in millimetres; less than 0 to the right of who looks at it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub off: Option<f64>,
}

impl Halving {
    /// How far from either side seam the centre is marked.
    pub fn half(&self, style: Style) -> Shown {
        style.show(self.across / 2.0)
    }
}

/// Whether the marks of a centre front lie on one plumb line.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CentreCheck {
    /// Whether they do.
    pub straight: bool,
    /// What to measure again, where they do not.
    pub says: String,
}

/// Compares the marks with one plumb line. `None` where fewer than two were held against it.
pub fn check_centre(centre: &[Halving], style: Style) -> Option<CentreCheck> {
    let marks: Vec<(&str, f64)> =
        centre.iter().filter_map(|mark| Some((mark.line.as_str(), mark.off?))).collect();
    if marks.len() < 2 {
        return None;
    }
    // The line may hang anywhere: it is taken midway between the outermost marks.
    let beside = |marks: &[(&str, f64)]| {
        let all = marks.iter().map(|(_, off)| *off);
        let (least, most) =
            (all.clone().fold(f64::INFINITY, f64::min), all.fold(f64::NEG_INFINITY, f64::max));
        ((most - least) / 2.0, f64::midpoint(least, most))
    };
    if beside(&marks).0 <= PLUMB_ENOUGH {
        return Some(CentreCheck { straight: true, says: String::new() });
    }
    // One mark that is off is the one without which the others hang straight.
    let others = |left_out: usize| -> Vec<_> {
        let kept = marks.iter().enumerate().filter(|(place, _)| *place != left_out);
        kept.map(|(_, mark)| *mark).collect()
    };
    let alone = (0..marks.len()).filter(|&place| marks.len() > 2 && beside(&others(place)).0 <= PLUMB_ENOUGH);
    let alone: Vec<usize> = alone.collect();
    let says = if let [place] = alone[..] {
        let (line, off) = marks[place];
        let aside = off - beside(&others(place)).1;
        let side = if aside < 0.0 { "right" } else { "left" };
        let by = style.in_words(&style.show(aside.abs()));
        format!(
            "The mark at the {line} line lies {by} to the {side} of the others\u{2019} plumb line: measure there again from side seam to side seam, and halve it."
        )
    } else {
        let lines: Vec<&str> = marks.iter().map(|(line, _)| *line).collect();
        let by = style.in_words(&style.show(2.0 * beside(&marks).0));
        format!(
            "The marks at {} lie up to {by} apart from one plumb line: measure each again from side seam to side seam, and hang the line anew.",
            lines.join(", ")
        )
    };
    Some(CentreCheck { straight: false, says })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn marks(offs: [f64; 3]) -> Vec<Halving> {
        let lines = ["bust", "waist", "hip"];
        let mark =
            |(line, off): (&str, f64)| Halving { line: line.to_owned(), across: 470.0, off: Some(off) };
        lines.into_iter().zip(offs).map(mark).collect()
    }

    #[test]
    fn three_marks_within_three_millimetres_of_one_plumb_line_are_a_centre() {
        assert!(check_centre(&marks([-3.0, 3.0, 0.0]), Style::TENTHS).unwrap().straight);
        // The line may hang beside all of them.
        assert!(check_centre(&marks([11.0, 14.0, 16.9]), Style::TENTHS).unwrap().straight);
        assert_eq!(marks([0.0; 3])[0].half(Style::TENTHS).text, "23.5");
    }

    #[test]
    fn the_one_mark_that_is_off_is_named_with_its_side() {
        let check = check_centre(&marks([1.0, -8.5, 0.0]), Style::TENTHS).unwrap();
        assert!(!check.straight);
        assert!(
            check.says.starts_with("The mark at the waist line lies 0.9 cm to the right"),
            "{}",
            check.says
        );
    }

    #[test]
    fn two_marks_or_three_apart_are_all_measured_again() {
        let check = check_centre(&marks([-10.0, 0.0, 10.0]), Style::TENTHS).unwrap();
        assert!(check.says.starts_with("The marks at bust, waist, hip"), "{}", check.says);
        let two = check_centre(&marks([0.0, 9.0, 0.0])[..2], Style::TENTHS).unwrap();
        assert!(!two.straight && two.says.contains("bust, waist"));
        assert_eq!(check_centre(&marks([0.0; 3])[..1], Style::TENTHS), None);
    }
}
