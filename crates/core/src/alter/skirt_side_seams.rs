//! The side seams of a skirt: waist and hip each by itself; what the waist gains or gives, its darts give or take first
//! (handbook: `wishes.md`, section 7).

use super::AlterError;
use crate::pattern::{Piece, Redrawn, WAIST_DART_LIMIT, WaistSeam};

/// A dart is not made narrower than this, in millimetres: less is not worth sewing.
const NARROWEST: f64 = 6.0;

/// One half with so much more at each edge, waist and hip, in millimetres. The side seam stays as long as it was.
pub(super) fn moved_out(piece: &Piece, waist: f64, hip: f64) -> Result<Piece, AlterError> {
    let beyond = || {
        AlterError::not_here(
            "waist and hip cannot be joined by a side seam of this length then: a smaller amount",
        )
    };
    let mut seam = WaistSeam::of(piece).ok_or_else(beyond)?;
    let rooms: Vec<f64> = seam.darts.iter().map(|dart| room(dart.mouth, waist)).collect();
    let all: f64 = rooms.iter().sum();
    // Each dart in proportion to what it can.
    let part = if all.abs() > 0.0 { (waist / all).min(1.0) } else { 0.0 };
    for (dart, room) in seam.darts.iter_mut().zip(&rooms) {
        dart.mouth -= room * part;
    }
    piece.with_waist(&seam, Redrawn { wider: waist, hip_out: hip, ..Redrawn::default() }).ok_or_else(beyond)
}

/// How much a dart of this mouth can give to a waist that becomes wider, or take of one that becomes narrower, then negative.
fn room(mouth: f64, wider: f64) -> f64 {
    if wider > 0.0 { (mouth - NARROWEST).max(0.0) } else { (mouth - WAIST_DART_LIMIT).min(0.0) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_dart_gives_down_to_its_least_and_takes_up_to_its_most() {
        assert_eq!(room(18.0, 5.0), 12.0);
        assert_eq!(room(5.0, 5.0), 0.0);
        assert_eq!(room(60.0, -5.0), -3.5);
        assert_eq!(room(70.0, -5.0), 0.0);
    }
}
