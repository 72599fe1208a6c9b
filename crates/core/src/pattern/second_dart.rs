//! A waist dart with two points that is too wide to sew flat shared with a second one nearer the side (handbook: `alterations.md`, section 2):
//! together they take in what the one did.

use kurbo::{Point, Vec2};

use super::piece::{Piece, TwoPointedDart};

/// How far the second dart lies from the first along the waist, unless it is told otherwise, in millimetres.
pub(crate) const DARTS_APART: f64 = 25.0;
/// The second of two darts with two points is so much shorter than the first, above and below the waist.
const SHORTER: f64 = 0.85;
/// It keeps so far from the side, in millimetres.
const FROM_SIDE: f64 = 12.0;

/// A dart with two points as two: the first narrower, the second beside it on the side. `None` where there is no room.
pub(crate) fn second_two_pointed_dart(
    piece: &Piece,
    dart: &TwoPointedDart,
    share: f64,
    apart: f64,
) -> Option<[TwoPointedDart; 2]> {
    let along = (dart.second - dart.first) / dart.intake();
    let middle = dart.first.midpoint(dart.second);
    let (own, other) = (dart.intake() * (1.0 - share), dart.intake() * share);
    let inner = with_mouth(dart, middle, along * own);
    let at = middle + along * (own / 2.0 + apart + other / 2.0);
    if piece.waist_at_side().is_some_and(|side| (side - at).dot(along) < other / 2.0 + FROM_SIDE) {
        return None;
    }
    let shorter = |point: Point| at + (point - middle) * SHORTER;
    let beside = TwoPointedDart { upper: shorter(dart.upper), lower: shorter(dart.lower), ..*dart };
    let mut outer = with_mouth(&beside, at, along * other);
    outer.point = outer.upper + (dart.point - dart.upper);
    Some([inner, outer])
}

/// A dart with the same points and a mouth of this width about `at`.
fn with_mouth(dart: &TwoPointedDart, at: Point, width: Vec2) -> TwoPointedDart {
    TwoPointedDart { first: at - width / 2.0, second: at + width / 2.0, ..*dart }
}
