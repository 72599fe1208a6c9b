//! The dart split: most of a one-dart front's waist dart goes to a side dart at the bust line.

use super::sheet::{DraftStep, Sheet, mm};
use crate::geometry::{Curve, turn_degrees};
use crate::pattern::{Cut, DartPlace, Join, Piece, Place, Seam, back_off_points, true_waist, turned};

/// The mouth that the waist dart of a one-dart front keeps where an angle of it, in radians, goes to the side.
pub(super) fn mouth_left(piece: &Piece, angle: f64) -> f64 {
    let dart = piece.dart(DartPlace::Waist).zip(piece.mouth(DartPlace::Waist));
    dart.map_or(0.0, |(dart, (side, centre))| {
        let whole = turn_degrees(side - dart.pivot, centre - dart.pivot).to_radians();
        2.0 * dart.pivot.distance(centre) * ((whole - angle).max(0.0) / 2.0).sin()
    })
}

/// Leaves `keeps` of the waist dart's mouth and opens the rest at the side, `side_at` along the side
/// seam. A dart that is no wider stays as it is. A slash: the region between waist dart and side line
/// turns about the pivot, so the sum of the angles is constant.
pub(super) fn waist_dart_to_side(piece: Piece, side_at: f64, keeps: f64) -> Piece {
    let opened =
        piece.dart(DartPlace::Waist).zip(piece.mouth(DartPlace::Waist)).map(|(dart, (side, centre))| {
            let angle = turn_degrees(side - dart.pivot, centre - dart.pivot).to_radians();
            let leg = dart.pivot.distance(centre);
            (dart.pivot, angle - 2.0 * (keeps / 2.0 / leg).min(1.0).asin())
        });
    let Some((pivot, turn)) = opened.filter(|(_, turn)| *turn > 0.0) else { return piece };
    let (Some(side), Some(waist)) = (piece.first_edge(Seam::Side), Cut::along(&piece, DartPlace::Waist))
    else {
        return piece;
    };
    let at_side = Cut::at(Place { edge: side, along: side_at });
    let opening = |place| Join::Dart(place, pivot);
    let slash = turned(pivot, turn, (at_side, opening(DartPlace::Side)), (waist, opening(DartPlace::Waist)));
    match slash.apply(&piece) {
        Ok(mut split) => {
            true_waist(&mut split);
            back_off_points(&mut split);
            split
        }
        // Both cuts lie on edges that were just drafted.
        Err(error) => unreachable!("a drafted front splits: {error}"),
    }
}

/// What the sheet says of the split.
pub(super) fn step(split: &Piece, keeps: f64) -> DraftStep {
    let mut sheet = Sheet::new(split.kind);
    let waist = split.mouth(DartPlace::Waist).map_or(0.0, |(a, b)| a.distance(b));
    sheet
        .step("One dart of this width would not sew flat: cut from the side to the bust point, close the waist dart to what it keeps, and the rest opens at the side.")
        .take("waist dart, at most", mm("waist_dart_keeps", keeps))
        .take("waist dart now", mm("mouth at the waist", waist));
    if let Some((a, b)) = split.mouth(DartPlace::Side) {
        sheet.take("side dart", mm("mouth at the side", a.distance(b)));
    }
    for dart in &split.darts {
        let Some((first, second)) = split.mouth(dart.place) else { continue };
        sheet.draw(&Curve::line(first, dart.pivot)).draw(&Curve::line(dart.pivot, second));
    }
    for edge in split.edges_of(Seam::Side).chain(split.edges_of(Seam::Waist)) {
        sheet.draw(&edge.curve);
    }
    sheet.steps.remove(0)
}
