//! Regions that turn about a pivot: what moving a dart and taking up a gape have in common.

use kurbo::Point;

use super::AlterError;
use crate::pattern::{Dart, DartPlace, Join, LevelName, Motion, Part, Pattern, Piece, Place, Seam, Slash};

/// A cut from the outline to a pivot: along a dart that is there, or a new line.
#[derive(Clone, Copy, Debug)]
pub(super) struct Cut {
    /// Where the run before it ends.
    pub(super) before: Place,
    /// Where the run after it begins.
    pub(super) after: Place,
    /// The dart it runs along, with its opening in radians.
    pub(super) dart: Option<(DartPlace, f64)>,
}

impl Cut {
    /// Along a dart.
    pub(super) fn along(piece: &Piece, place: DartPlace) -> Option<Self> {
        let leg = piece.first_leg(place)?;
        let count = piece.edges.len();
        let before = (leg + count - 1) % count;
        let (first, second) = piece.mouth(place)?;
        let pivot = piece.dart(place)?.pivot;
        let opening = crate::geometry::turn_degrees(first - pivot, second - pivot).to_radians().abs();
        Some(Self {
            before: Place { edge: before, along: piece.edges[before].curve.length() },
            after: Place { edge: (leg + 2) % count, along: 0.0 },
            dart: Some((place, opening)),
        })
    }

    /// At a place of the outline.
    pub(super) fn at(place: Place) -> Self {
        Self { before: place, after: place, dart: None }
    }

    /// Where it leaves the outline.
    pub(super) fn point(&self, piece: &Piece) -> Point {
        piece.edges[self.before.edge].curve.point_at(self.before.along)
    }
}

/// A place on a seam, as a share of its length in the direction of the outline; darts in it are passed over.
pub(super) fn on_seam(piece: &Piece, seam: Seam, share: f64) -> Result<Place, AlterError> {
    at_length(piece, seam, piece.flat_length(seam) * share).ok_or_else(|| AlterError::no_seam(seam))
}

/// A place so many millimetres along a seam, at its end where that is further; none where the piece has no such seam.
pub(super) fn at_length(piece: &Piece, seam: Seam, along: f64) -> Option<Place> {
    let mut left = along;
    let mut last = None;
    for (edge, found) in piece.edges.iter().enumerate().filter(|(_, edge)| edge.seam == seam) {
        let length = found.curve.length();
        if left < length {
            return Some(Place { edge, along: left });
        }
        last = Some(Place { edge, along: length });
        left -= length;
    }
    last
}

/// Where a side dart is made that turns about the bust point: level with it, but well below the underarm.
pub(super) fn side_dart_place(piece: &Piece, bust: Point) -> Option<Place> {
    /// At least so far below, in millimetres.
    const BELOW_UNDERARM: f64 = 40.0;
    let edge = piece.first_edge(Seam::Side)?;
    let level = bust.y.max(piece.underarm().y + BELOW_UNDERARM);
    Some(Place { edge, along: piece.edges[edge].curve.crossing_level(level)? })
}

/// The bust line may be marked so far above or below the darts' pivot, in millimetres: beside it at its height what it measures
/// hardly changes when the cloth turns.
const BESIDE: f64 = 0.5;

/// Marks the bust line of a front where its darts turn, if it was marked higher or lower, as with her own bust point: only what
/// is measured to the pivot and on from it stays the same when the cloth turns about it.
pub(super) fn mark_bust_line_at(piece: &mut Piece, pivot: Point) {
    if piece.bust_pivot().is_none_or(|bust| bust.distance(pivot) > 1.0) {
        return;
    }
    let bust = piece.levels.iter_mut().find(|level| level.name == LevelName::Bust);
    if let Some([centre, middle, _]) = bust.map(|level| level.points.as_mut_slice())
        && (middle.y - pivot.y).abs() > BESIDE
    {
        (*middle, centre.y) = (pivot, pivot.y);
    }
}

/// Whether there is a whole front with a bust point.
pub(super) fn has_whole_front(pattern: &Pattern) -> bool {
    pattern.front().is_some_and(|front| front.bust_pivot().is_some())
}

/// Where a line from the pivot meets a seam.
pub(super) fn ray_on_seam(piece: &Piece, seam: Seam, pivot: Point, towards: kurbo::Vec2) -> Option<Place> {
    let ray = kurbo::Line::new(pivot, pivot + towards / towards.hypot() * 2000.0);
    piece
        .edges
        .iter()
        .enumerate()
        .filter(|(_, edge)| edge.seam == seam)
        .find_map(|(index, edge)| Some(Place { edge: index, along: edge.curve.crossing(ray)? }))
}

/// The region between two cuts, in the order of the outline, turned about their pivot; the rest, with the
/// centre line and the grain, stays. Each cut is joined again as told.
pub(super) fn turned(pivot: Point, by: f64, first: (Cut, Join), second: (Cut, Join)) -> Slash {
    let part = |from, to, motion| Part { from, to, inner: vec![pivot], motion };
    Slash {
        parts: vec![
            (part(second.0.after, first.0.before, Motion::Still), first.1),
            (part(first.0.after, second.0.before, Motion::Turn { about: pivot, by }), second.1),
        ],
    }
}

/// Whether a dart turns about this point, or is a waist dart that ends straight below it: one often stops short of the bust
/// point.
pub(super) fn points_at(dart: &Dart, point: Point) -> bool {
    /// At most so far below, in millimetres.
    const STOPS_SHORT: f64 = 60.0;
    let below = dart.pivot - point;
    let stops_short = dart.place == DartPlace::Waist
        && (0.0..STOPS_SHORT).contains(&below.y)
        && below.x.abs() < below.y * 0.2;
    below.hypot() < 1.0 || stops_short
}

/// The join of a cut along a dart that closes by `by` radians: closed, or a narrower dart.
pub(super) fn closing(cut: &Cut, by: f64, pivot: Point) -> Join {
    match cut.dart {
        Some((place, opening)) if opening - by > 1e-9 => Join::Dart(place, pivot),
        _ => Join::Meet,
    }
}
