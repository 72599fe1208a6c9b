//! Readings that contradict each other: which two, and what either would have to be.

use serde::{Deserialize, Serialize};

use super::{Draft, DraftError, DraftNote};
use crate::Style;
use crate::body::{Body, measurement};

/// How far a reading is searched for the figure that would do, as a share of it.
const FURTHEST: f64 = 0.6;
/// The first stride of the search, in millimetres.
const STRIDE: f64 = 2.0;

/// One of two readings that cannot both be right.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Conflict {
    /// Its code.
    pub measurement: String,
    /// Its name.
    pub name: String,
    /// What was read, in millimetres.
    pub is: f64,
    /// What it would have to be if the other one is right; none where no figure near it would do.
    pub would_be: Option<f64>,
}

/// Two readings that contradict each other.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Contradiction {
    /// What cannot be drawn.
    pub what: String,
    /// The two readings, the likelier one first.
    pub readings: [Conflict; 2],
    /// The whole, as it is said.
    pub says: String,
}

/// What a construction step found impossible, before the way out is known.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct Clash {
    /// What cannot be drawn.
    pub(super) what: String,
    /// Codes of the two readings, the likelier one first.
    pub(super) between: [&'static str; 2],
}

/// Runs a construction; a clash is told with what either reading would have to be.
pub(super) fn refusing(
    body: &Body,
    style: Style,
    construct: impl Fn(&Body, &mut Vec<DraftNote>) -> Result<Result<Draft, Clash>, DraftError>,
) -> Result<Draft, DraftError> {
    let mut notes = Vec::new();
    match construct(body, &mut notes)? {
        Ok(mut draft) => {
            draft.notes.splice(0..0, notes);
            Ok(draft)
        }
        Err(clash) => {
            let between = clash.between;
            let clashes = |body: &Body| match construct(body, &mut Vec::new()) {
                Ok(Err(again)) => again.between == between,
                _ => false,
            };
            Err(DraftError::Contradiction(Box::new(contradiction(clash, body, style, clashes))))
        }
    }
}

/// Finds the way out of a clash: each reading is moved, the other left, until `clashes` no longer.
pub(super) fn contradiction(
    clash: Clash,
    body: &Body,
    style: Style,
    clashes: impl Fn(&Body) -> bool,
) -> Contradiction {
    let readings = clash.between.map(|code| {
        let is = body.get(code).unwrap_or_default();
        let would_be = nearest_that_does(is, |mm| !clashes(&body.clone().with(code, mm)));
        Conflict {
            measurement: code.to_owned(),
            name: measurement(code).map_or(code, |row| &row.name).to_lowercase(),
            is,
            would_be,
        }
    });
    let way = |conflict: &Conflict| {
        let of = format!("{} ({})", conflict.name, style.with_unit(conflict.is));
        let Some(mm) = conflict.would_be else { return format!("{of} by itself cannot mend it") };
        let does = |mm: f64| !clashes(&body.clone().with(&conflict.measurement, mm));
        let (word, towards) = if mm > conflict.is { ("at least", 1.0) } else { ("at most", -1.0) };
        format!("{of} would have to be {word} {}", style.with_unit(on_the_tape(mm, towards, style, does)))
    };
    let [one, other] = &readings;
    let says = format!("{}: {}, or {}; measure both again", clash.what, way(one), way(other));
    Contradiction { what: clash.what, readings, says }
}

/// The nearest mark of the tape that does.
fn on_the_tape(mm: f64, towards: f64, style: Style, does: impl Fn(f64) -> bool) -> f64 {
    let step = style.step().mm();
    let nearest = (mm / step).round() * step;
    (0..3).map(|more| nearest + towards * step * f64::from(more)).find(|mark| does(*mark)).unwrap_or(mm)
}

/// The figure nearest to `is` for which `does` holds, searched outwards, then narrowed.
fn nearest_that_does(is: f64, does: impl Fn(f64) -> bool) -> Option<f64> {
    let reach = is.abs() * FURTHEST;
    let mut off = STRIDE;
    let mut last = 0.0;
    while off <= reach {
        for sign in [1.0, -1.0] {
            if does(is + sign * off) {
                return Some(is + sign * narrowed(last, off, |by| does(is + sign * by)));
            }
        }
        last = off;
        off += STRIDE.max(off * 0.1);
    }
    None
}

/// The least that does between one that does not and one that does, to a hundredth of a millimetre.
fn narrowed(mut does_not: f64, mut does: f64, holds: impl Fn(f64) -> bool) -> f64 {
    while does - does_not > 0.01 {
        let middle = does.midpoint(does_not);
        if holds(middle) { does = middle } else { does_not = middle }
    }
    does
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_nearest_figure_that_does_is_found_on_either_side() {
        let up = nearest_that_does(100.0, |mm| mm >= 117.3).unwrap();
        let down = nearest_that_does(100.0, |mm| mm <= 71.25).unwrap();
        assert!((up - 117.3).abs() < 0.011 && (down - 71.25).abs() < 0.011, "{up} {down}");
        assert_eq!(nearest_that_does(100.0, |mm| mm > 1000.0), None);
    }

    #[test]
    fn the_sentence_names_both_readings_and_both_ways_out() {
        let body = Body::default().with("shoulder_slope", 130.0).with("shoulder_length", 127.0);
        let clash = Clash {
            what: "a shoulder cannot drop more than it is long".to_owned(),
            between: ["shoulder_slope", "shoulder_length"],
        };
        let steep = |body: &Body| body.get("shoulder_slope").unwrap() >= body.get("shoulder_length").unwrap();
        let found = contradiction(clash, &body, Style::TENTHS, steep);
        assert_eq!(
            found.says,
            "a shoulder cannot drop more than it is long: shoulder slope (13.0 cm) would have to be at most 12.6 cm, \
             or shoulder length (12.7 cm) would have to be at least 13.1 cm; measure both again"
        );
    }
}
