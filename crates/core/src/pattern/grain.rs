//! Where a grain line has room: straight up and down inside a piece.

use kurbo::{Point, Shape as _};

use super::piece::Piece;
use crate::geometry::Stretches;

/// In how many places across a piece the longest line is looked for.
const PLACES_ACROSS: u32 = 60;

/// The longest line straight up and down inside a piece at this place across it, from the top down.
pub(crate) fn upright_at(piece: &Piece, x: f64) -> Option<(Point, Point)> {
    upright(piece, &Stretches::of(piece.edges.iter().map(|edge| &edge.curve)), x)
}

/// The longest line straight up and down anywhere inside a piece.
pub(super) fn longest_upright(piece: &Piece) -> Option<(Point, Point)> {
    let (bounds, stretches) = (piece.bounds(), Stretches::of(piece.edges.iter().map(|edge| &edge.curve)));
    let place = |n: u32| bounds.x0 + bounds.width() * (f64::from(n) + 0.5) / f64::from(PLACES_ACROSS);
    let lines = (0..PLACES_ACROSS).filter_map(|n| upright(piece, &stretches, place(n)));
    lines.max_by(|a, b| length(a).total_cmp(&length(b)))
}

fn upright(piece: &Piece, stretches: &Stretches, x: f64) -> Option<(Point, Point)> {
    let outline = piece.outline();
    let levels = stretches.levels_at(x);
    let line = |pair: &[f64]| (Point::new(x, pair[0]), Point::new(x, pair[1]));
    let inside = |(top, foot): &(Point, Point)| outline.contains(top.midpoint(*foot));
    { levels.windows(2) }.map(line).filter(inside).max_by(|a, b| length(a).total_cmp(&length(b)))
}

fn length((top, foot): &(Point, Point)) -> f64 {
    top.distance(*foot)
}
