//! The shoulder dart of a back that was opened or closed: drawn to its pivot, the shoulder as long as it was. What back
//! width and a rounded back have in common.

use kurbo::Point;

use crate::geometry::Curve;
use crate::pattern::{
    DartPlace, Edge, Piece, Seam, back_off_points, redraw_dart, straighten_shoulder, true_neck_side, true_tip,
};

/// The neckline arrives square at the shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;
/// The corner at the shoulder is trued square over this length, in millimetres.
const TIP_REACH: f64 = 40.0;

/// Equal legs to the pivot, the folded shoulder straight and sewn `length` long, its corners square.
pub(super) fn with_shoulder_dart(mut back: Piece, pivot: Point, length: f64) -> Piece {
    redraw_dart(&mut back, DartPlace::Shoulder, pivot);
    straighten_shoulder(&mut back);
    let over = back.sewn_length(Seam::Shoulder) - length;
    take_into_dart(&mut back, over);
    true_neck_side(&mut back, NECK_REACH);
    true_tip(&mut back, TIP_REACH);
    back_off_points(&mut back);
    back
}

/// The shoulder dart widened by what the shoulder is still too long, the outer half of the shoulder kept.
fn take_into_dart(back: &mut Piece, over: f64) {
    let Some((first, second)) = back.mouth(DartPlace::Shoulder) else { return };
    let Some(pivot) = back.dart(DartPlace::Shoulder).map(|dart| dart.pivot) else { return };
    let (Some(inner), Some(outer)) = (back.first_edge(Seam::Shoulder), back.last_edge(Seam::Shoulder)) else {
        return;
    };
    let (a, b) = (back.edges[inner].curve.clone(), back.edges[outer].curve.clone());
    let first = first - a.end_direction() * (over / 2.0);
    let second = second + b.start_direction() * (over / 2.0);
    back.edges[inner].curve = Curve::line(a.start(), first);
    back.edges[outer].curve = Curve::line(second, b.end());
    for edge in back.edges.iter_mut().filter(|edge| edge.dart == Some(DartPlace::Shoulder)) {
        let is_first = edge.curve.end() == pivot;
        *edge = if is_first {
            Edge::leg(DartPlace::Shoulder, first, pivot)
        } else {
            Edge::leg(DartPlace::Shoulder, pivot, second)
        };
    }
    redraw_dart(back, DartPlace::Shoulder, pivot);
}
