//! Figures of a finished transfer, and which of them are unusual: no click is suspected (drape.md, section 9).

use std::ops::RangeInclusive;

use kurbo::{Line, Point, Vec2};

use super::pair::lean;
use super::report::{DrapeFigure, DrapeUnit, Draped, Notes};
use super::shape::Closed;
use crate::geometry::{Curve, turn_degrees};
use crate::pattern::{DartPlace, Piece, Seam, WAIST_DART_LIMIT};

/// Usual figures, in millimetres and degrees (drape.md, sections 7 and 9).
const SHOULDER: RangeInclusive<f64> = 100.0..=160.0;
const ARMHOLE: RangeInclusive<f64> = 170.0..=300.0;
const BACK_WAIST_DART: RangeInclusive<f64> = 19.0..=45.0;
const BACK_SHOULDER_DART: RangeInclusive<f64> = 0.0..=19.0;
const BACK_SHOULDER_DART_LONG: RangeInclusive<f64> = 60.0..=90.0;
const LEAST_FRONT_ANGLE: f64 = 3.0;
/// From the corner under the arm to the armhole, along 45°.
const UNDER_THE_ARM: RangeInclusive<f64> = 15.0..=35.0;
/// How far a side seam leans out on its way down, darts closed, in degrees (ours: the fronts and backs of our own drafts).
const FRONT_LEAN: RangeInclusive<f64> = -4.0..=28.0;
const BACK_LEAN: RangeInclusive<f64> = -18.0..=6.0;

fn figure(
    piece: Draped,
    name: &'static str,
    value: f64,
    usual: &RangeInclusive<f64>,
    unit: DrapeUnit,
) -> DrapeFigure {
    let word = match unit {
        DrapeUnit::Mm => " mm",
        DrapeUnit::Degrees => "\u{b0}",
    };
    let doubt = (!usual.contains(&value)).then(|| {
        format!(
            "{name} of the {}: {value:.0}{word}, usual is {} to {}{word}.",
            piece.name(),
            usual.start(),
            usual.end()
        )
    });
    DrapeFigure { piece, name, value, unit, doubt }
}

/// Sewn lengths and darts of the finished pieces.
pub(super) fn of_pieces(pieces: &[Piece; 2], notes: &mut Notes) {
    for (draped, piece) in Draped::BOTH.into_iter().zip(pieces) {
        let anything = 0.0..=f64::INFINITY;
        for (name, seam, usual) in [
            ("neckline", Seam::Neckline, &anything),
            ("shoulder", Seam::Shoulder, &SHOULDER),
            ("armhole", Seam::Armhole, &ARMHOLE),
            ("side seam", Seam::Side, &anything),
            ("waist", Seam::Waist, &anything),
        ] {
            notes.figures.push(figure(draped, name, piece.sewn_length(seam), usual, DrapeUnit::Mm));
        }
        for dart in &piece.darts {
            let Some((first, second)) = piece.mouth(dart.place) else { continue };
            let mouth = first.distance(second);
            let usual = match (draped, dart.place) {
                (Draped::Back, DartPlace::Waist) => BACK_WAIST_DART,
                (Draped::Back, DartPlace::Shoulder) => BACK_SHOULDER_DART,
                (_, DartPlace::Waist) => 0.0..=WAIST_DART_LIMIT,
                _ => anything.clone(),
            };
            let mut told = figure(draped, dart.place.name(), mouth, &usual, DrapeUnit::Mm);
            if draped == Draped::Front && dart.place == DartPlace::Waist && mouth > WAIST_DART_LIMIT {
                told.doubt = Some(format!(
                    "waist dart of the front: {mouth:.0} mm, more than one dart takes well ({WAIST_DART_LIMIT:.0} mm): it can be split in two."
                ));
            }
            notes.figures.push(told);
            let angle = turn_degrees(first - dart.pivot, second - dart.pivot).abs();
            if draped == Draped::Front {
                let usual = LEAST_FRONT_ANGLE..=f64::INFINITY;
                let mut told = figure(draped, "angle of the dart", angle, &usual, DrapeUnit::Degrees);
                if told.doubt.is_some() {
                    told.doubt = Some(format!(
                        "{} of the front: {angle:.1}\u{b0}, under {LEAST_FRONT_ANGLE:.0}\u{b0} it shapes next to nothing.",
                        dart.place.name()
                    ));
                }
                notes.figures.push(told);
            }
            if draped == Draped::Back && dart.place == DartPlace::Shoulder {
                let long = first.midpoint(second).distance(dart.point);
                notes.figures.push(figure(
                    draped,
                    "length of the shoulder dart",
                    long,
                    &BACK_SHOULDER_DART_LONG,
                    DrapeUnit::Mm,
                ));
            }
        }
    }
}

/// What the closed pieces tell: how the armhole is hollowed, and how the side seams lean.
pub(super) fn of_lines(piece: Draped, closed: &Closed, lower_armhole: &Curve, notes: &mut Notes) {
    if let Some(off) = off_corner(lower_armhole, closed.across, closed.joins.side.from) {
        notes.figures.push(figure(
            piece,
            "armhole from its corner, along 45\u{b0}",
            off,
            &UNDER_THE_ARM,
            DrapeUnit::Mm,
        ));
    }
    let usual = if piece == Draped::Front { FRONT_LEAN } else { BACK_LEAN };
    notes.figures.push(figure(
        piece,
        "lean of the side seam, darts closed",
        lean(closed),
        &usual,
        DrapeUnit::Degrees,
    ));
}

/// Distance of the lower armhole from the corner straight down from across and level from the underarm, along 45°.
fn off_corner(lower: &Curve, across: Point, underarm: Point) -> Option<f64> {
    let corner = Point::new(across.x, underarm.y);
    let towards = corner + Vec2::new(1.0, -1.0) * 200.0;
    let at = lower.crossing(Line::new(corner, towards))?;
    Some(lower.point_at(at).distance(corner))
}
