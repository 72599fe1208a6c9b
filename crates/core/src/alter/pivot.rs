//! Places on seams and darts about the bust point that several alterations ask for.

use kurbo::Point;

use super::AlterError;
use crate::pattern::{Dart, DartPlace, LevelName, Pattern, Piece, Place, Seam};

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

/// The place on a seam that lies nearest to a point.
///
/// # Errors
///
/// [`AlterError`] where the piece has no such seam.
pub(super) fn nearest_on_seam(piece: &Piece, seam: Seam, point: Point) -> Result<Place, AlterError> {
    { piece.edges.iter().enumerate() }
        .filter(|(_, edge)| edge.seam == seam)
        .map(|(edge, found)| Place { edge, along: found.curve.nearest(point) })
        .min_by(|a, b| {
            let off = |place: &Place| piece.edges[place.edge].curve.point_at(place.along).distance(point);
            off(a).total_cmp(&off(b))
        })
        .ok_or_else(|| AlterError::no_seam(seam))
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
