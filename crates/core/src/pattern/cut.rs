//! Cuts from the outline to a pivot, and the region that turns between two of them: what moving a dart, taking up a gape and
//! drawing a second dart have in common.

use kurbo::Point;

use super::piece::{DartPlace, Piece};
use super::slash::{Join, Motion, Part, Place, Slash};
use crate::geometry::turn_degrees;

/// A cut from the outline to a pivot: along a dart that is there, or a new line.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Cut {
    /// Where the run before it ends.
    pub(crate) before: Place,
    /// Where the run after it begins.
    pub(crate) after: Place,
    /// The dart it runs along, with its opening in radians.
    pub(crate) dart: Option<(DartPlace, f64)>,
}

impl Cut {
    /// Along a dart.
    pub(crate) fn along(piece: &Piece, place: DartPlace) -> Option<Self> {
        let leg = piece.first_leg(place)?;
        let count = piece.edges.len();
        let before = (leg + count - 1) % count;
        let (first, second) = piece.mouth(place)?;
        let pivot = piece.dart(place)?.pivot;
        let opening = turn_degrees(first - pivot, second - pivot).to_radians().abs();
        Some(Self {
            before: Place::end_of(piece, before),
            after: Place::start_of((leg + 2) % count),
            dart: Some((place, opening)),
        })
    }

    /// At a place of the outline.
    pub(crate) fn at(place: Place) -> Self {
        Self { before: place, after: place, dart: None }
    }

    /// Where it leaves the outline.
    pub(crate) fn point(&self, piece: &Piece) -> Point {
        piece.edges[self.before.edge].curve.point_at(self.before.along)
    }
}

/// The region between two cuts, in the order of the outline, turned about their pivot; the rest, with the
/// centre line and the grain, stays. Each cut is joined again as told.
pub(crate) fn turned(pivot: Point, by: f64, first: (Cut, Join), second: (Cut, Join)) -> Slash {
    let part = |from, to, motion| Part { from, to, inner: vec![pivot], motion };
    Slash {
        parts: vec![
            (part(second.0.after, first.0.before, Motion::Still), first.1),
            (part(first.0.after, second.0.before, Motion::Turn { about: pivot, by }), second.1),
        ],
    }
}

/// The join of a cut along a dart that closes by `by` radians: closed, or a narrower dart.
pub(crate) fn closing(cut: &Cut, by: f64, pivot: Point) -> Join {
    match cut.dart {
        Some((place, opening)) if opening - by > 1e-9 => Join::Dart(place, pivot),
        _ => Join::Meet,
    }
}
