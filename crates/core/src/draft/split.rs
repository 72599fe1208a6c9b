//! The dart split: most of a one-dart front's waist dart goes to a side dart at the bust line.

use crate::pattern::{
    DartPlace, Join, Motion, Part, Piece, Place, Seam, Slash, back_off_points, true_waist, turn_degrees,
};

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
    let index = |seam, last: bool| {
        let of_seam = |edge: &crate::pattern::Edge| edge.seam == seam;
        if last { piece.edges.iter().rposition(of_seam) } else { piece.edges.iter().position(of_seam) }
    };
    let (Some(side), Some(waist_side), Some(waist_centre)) =
        (index(Seam::Side, false), index(Seam::Waist, false), index(Seam::Waist, true))
    else {
        return piece;
    };
    let at_side = Place { edge: side, along: side_at };
    let side_mouth = Place { edge: waist_side, along: piece.edges[waist_side].curve.length() };
    let centre_mouth = Place { edge: waist_centre, along: 0.0 };
    let still = Part { from: centre_mouth, to: at_side, inner: vec![pivot], motion: Motion::Still };
    let moving = Part {
        from: at_side,
        to: side_mouth,
        inner: vec![pivot],
        motion: Motion::Turn { about: pivot, by: turn },
    };
    let slash = Slash {
        parts: vec![
            (still, Join::Dart(DartPlace::Side, pivot)),
            (moving, Join::Dart(DartPlace::Waist, pivot)),
        ],
    };
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
