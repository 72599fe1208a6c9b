//! Marking a hem: from the edge's heights above the floor to the cutting line.

use serde::{Deserialize, Serialize};

use crate::{Shown, Style};

/// One place of a hem: from the edge as it hangs to the cutting line.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HemPlace {
    /// Which place, as it was named.
    pub name: String,
    /// From the edge up to the finished hem; negative where the cloth does not reach it.
    pub to_hem: Shown,
    /// From the edge up to where it is cut, the allowance left on.
    pub cut_off: Shown,
}

/// A hem marked from the floor.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HemMarks {
    /// Each place.
    pub places: Vec<HemPlace>,
    /// The lowest hem the cloth reaches everywhere with its allowance, above the floor.
    pub lowest: Shown,
    /// Whether the wanted hem can be cut.
    pub reaches: bool,
    /// In a sentence.
    pub says: String,
}

/// From the heights of the edge above the floor to the cutting line: `wanted` is the finished hem above the floor,
/// `allowance` what is turned up below it. All in millimetres. `None` without a place.
pub fn mark_hem(edges: &[(String, f64)], wanted: f64, allowance: f64, style: Style) -> Option<HemMarks> {
    let highest = edges.iter().map(|(_, mm)| *mm).max_by(f64::total_cmp)?;
    let lowest = highest + allowance;
    let reaches = wanted + 1e-9 >= lowest;
    let places = edges.iter().map(|(name, edge)| HemPlace {
        name: name.clone(),
        to_hem: style.show(wanted - edge),
        cut_off: style.show(wanted - allowance - edge),
    });
    let says = if reaches {
        "Measure up from the edge at each place, mark, and join the marks.".to_owned()
    } else {
        let names: Vec<&str> = edges
            .iter()
            .filter(|(_, edge)| edge + allowance > wanted + 1e-9)
            .map(|(name, _)| name.as_str())
            .collect();
        format!(
            "The cloth is too short at {}: finish it {} above the floor, or face it.",
            names.join(", "),
            style.with_unit(lowest)
        )
    };
    Some(HemMarks { places: places.collect(), lowest: style.show(lowest), reaches, says })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_hem_is_cut_from_the_edge_and_says_where_the_cloth_is_short() {
        let edges = [("front".to_owned(), 400.0), ("back".to_owned(), 430.0)];
        let marks = mark_hem(&edges, 480.0, 40.0, Style::TENTHS).unwrap();
        let cut: Vec<f64> = marks.places.iter().map(|place| place.cut_off.mm).collect();
        assert_eq!(cut, [40.0, 10.0]);
        assert!(marks.reaches);
        let short = mark_hem(&edges, 460.0, 40.0, Style::TENTHS).unwrap();
        assert!(!short.reaches);
        assert_eq!(
            short.says,
            "The cloth is too short at back: finish it 47.0 cm above the floor, or face it."
        );
        assert!(mark_hem(&[], 460.0, 40.0, Style::TENTHS).is_none());
    }
}
