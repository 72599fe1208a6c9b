//! Rule 3: darts that sew flat.

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::pattern::piece::{DartPlace, Pattern};

/// Legs of a dart may differ by this, in millimetres.
const LEG_TOLERANCE: f64 = 0.5;
/// The widest mouth of a waist dart that sews flat (2 1/2 in), in millimetres.
pub const WAIST_DART_LIMIT: f64 = 63.5;

/// How wide a waist dart is that is too wide to sew flat: `2 5/8 in, above 2 1/2 in`. Written exactly where the tape's marks
/// would write it like the limit.
pub fn too_wide_for_one(mouth: f64, style: Style) -> Option<String> {
    let write = |mm: f64| {
        if style.is_alike(mouth, WAIST_DART_LIMIT) {
            return format!("{} {}", style.exact(mm), style.unit().suffix());
        }
        style.with_unit(mm)
    };
    (mouth > WAIST_DART_LIMIT + LEG_TOLERANCE)
        .then(|| format!("{}, above {}", write(mouth), write(WAIST_DART_LIMIT)))
}

pub(super) fn darts(pattern: &Pattern, style: Style) -> Check {
    let mut faults = Vec::new();
    let mut count = 0;
    let too_wide = |name: &str, mouth: f64| {
        too_wide_for_one(mouth, style).map(|wide| format!("the {name} is {wide}: split it"))
    };
    for piece in &pattern.pieces {
        let mut fault = |at, says: String| faults.push(Fault::new(piece.kind, at, says));
        for dart in &piece.darts {
            let Some((first, second)) = piece.mouth(dart.place) else { continue };
            // A pleat is folded, not sewn.
            if piece.pleat(dart.place).is_some() {
                continue;
            }
            count += 1;
            let name = format!("{} {}", piece.kind.name(), dart.place.name());
            if (first.distance(dart.pivot) - second.distance(dart.pivot)).abs() > LEG_TOLERANCE {
                fault(dart.pivot, format!("the legs of the {name} differ"));
            }
            if dart.point.distance(dart.pivot) < 1.0 {
                fault(dart.pivot, format!("the {name} is stitched right to its pivot"));
            }
            let wide = too_wide(&name, first.distance(second))
                .filter(|_| dart.place.seam() == DartPlace::Waist.seam());
            wide.into_iter().for_each(|says| fault(first.midpoint(second), says));
        }
        for dart in &piece.two_pointed {
            count += 1;
            let name = format!("{} waist dart", piece.kind.name());
            let differ = |from: kurbo::Point| {
                (from.distance(dart.first) - from.distance(dart.second)).abs() > LEG_TOLERANCE
            };
            if differ(dart.upper) || differ(dart.lower) {
                fault(dart.upper, format!("the legs of the {name} differ"));
            }
            if dart.point.distance(dart.upper) < 1.0 {
                fault(dart.upper, format!("the {name} is stitched right to its pivot"));
            }
            too_wide(&name, dart.intake())
                .into_iter()
                .for_each(|says| fault(dart.first.midpoint(dart.second), says));
        }
    }
    let says = format!("{count} darts, legs equal, points backed off");
    Check::of_faults(CheckCode::Darts, &says, faults)
}
