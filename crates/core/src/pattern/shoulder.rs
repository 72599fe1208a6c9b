//! The shoulder: drawn to a new tip with its dart folded, and its corner at the armhole trued.

use kurbo::{Affine, Point};

use super::curve::{Curve, quarter_turn, turn_degrees};
use super::piece::{DartPlace, Edge, Piece, Seam};
use super::truing::{NO_CORNER, Trued};

/// Draws the shoulder straight from the neck side to a new tip, as it runs with its dart folded.
///
/// The dart keeps its pivot and its angle; its legs are lengthened or shortened along themselves. Does
/// nothing to a piece without a shoulder.
pub fn redraw_shoulder(piece: &mut Piece, tip: Point) {
    let (Some(first), Some(last)) = (piece.first_edge(Seam::Shoulder), piece.last_edge(Seam::Shoulder))
    else {
        return;
    };
    let start = piece.edges[first].curve.start();
    let dart = piece.dart(DartPlace::Shoulder).zip(piece.mouth(DartPlace::Shoulder));
    let Some((dart, (inner, outer))) = dart.filter(|_| last == first + 3) else {
        piece.edges[last] = Edge::sewn(Seam::Shoulder, Curve::line(piece.edges[last].curve.start(), tip));
        return;
    };
    let pivot = dart.pivot;
    let closing = turn_degrees(outer - pivot, inner - pivot).to_radians();
    let folded_tip = Affine::rotate_about(closing, pivot) * tip;
    // Where the folded shoulder crosses the inner leg, drawn on if need be.
    let (leg, along) = (inner - pivot, folded_tip - start);
    let across = leg.cross(along);
    if across.abs() < 1e-9 {
        return;
    }
    let inner = pivot + leg * ((start - pivot).cross(along) / across);
    let outer = Affine::rotate_about(-closing, pivot) * inner;
    piece.edges[first] = Edge::sewn(Seam::Shoulder, Curve::line(start, inner));
    piece.edges[first + 1] = Edge::leg(DartPlace::Shoulder, inner, pivot);
    piece.edges[first + 2] = Edge::leg(DartPlace::Shoulder, pivot, outer);
    piece.edges[last] = Edge::sewn(Seam::Shoulder, Curve::line(outer, tip));
}

/// Restores the right angle at the neck side: the neckline's last `reach` is drawn anew so that it arrives
/// square to the shoulder. A corner that is square already is left alone.
pub fn true_neck_side(piece: &mut Piece, reach: f64) -> Trued {
    let untouched = Trued { seam: Seam::Neckline, moved: 0.0, lengthened: 0.0 };
    let (Some(neckline), Some(shoulder)) =
        (piece.last_edge(Seam::Neckline), piece.first_edge(Seam::Shoulder))
    else {
        return untouched;
    };
    let square = -quarter_turn(piece.edges[shoulder].curve.start_direction());
    let old = &piece.edges[neckline].curve;
    if turn_degrees(old.end_direction(), square).abs() < NO_CORNER {
        return untouched;
    }
    let (kept, last) = old.split((old.length() - reach).max(old.length() / 3.0));
    let third = last.start().distance(last.end()) / 3.0;
    let (from, to) = (last.start(), last.end());
    let drawn = Curve::cubic(from, from + last.start_direction() * third, to - square * third, to);
    let middle = last.point_at(last.length() / 2.0);
    let moved = drawn.point_at(drawn.nearest(middle)).distance(middle);
    let lengthened = drawn.length() - last.length();
    piece.edges[neckline].curve = kept.then(drawn);
    Trued { moved, lengthened, ..untouched }
}

/// Restores the right angle at the shoulder tip: the armhole's first `reach` is drawn anew so that it leaves
/// square to the shoulder. A corner that is square already is left alone.
pub fn true_tip(piece: &mut Piece, reach: f64) -> Trued {
    let untouched = Trued { seam: Seam::Armhole, moved: 0.0, lengthened: 0.0 };
    let (Some(shoulder), Some(armhole)) = (piece.last_edge(Seam::Shoulder), piece.first_edge(Seam::Armhole))
    else {
        return untouched;
    };
    let square = quarter_turn(piece.edges[shoulder].curve.end_direction());
    let old = &piece.edges[armhole].curve;
    if turn_degrees(old.start_direction(), square).abs() < NO_CORNER {
        return untouched;
    }
    let (first, kept) = old.split(reach.min(old.length() / 2.0));
    let third = first.start().distance(first.end()) / 3.0;
    let (from, to) = (first.start(), first.end());
    let drawn = Curve::cubic(from, from + square * third, to - first.end_direction() * third, to);
    let middle = first.point_at(first.length() / 2.0);
    let moved = drawn.point_at(drawn.nearest(middle)).distance(middle);
    let lengthened = drawn.length() - first.length();
    piece.edges[armhole].curve = drawn.then(kept);
    Trued { moved, lengthened, ..untouched }
}
