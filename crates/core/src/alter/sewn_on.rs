//! Pieces that are sewn to a finished edge from outside: what collar stand, waistband, cuffs and bias strips have in common
//! (handbook: `wishes.md`, section 8). Like facings they come last, and all round at once: they follow left and right.

use kurbo::Vec2;

use super::work::{FollowUp, PieceWork, altered};
use super::{AlterError, Altered, Handle, StageKind};
use crate::Style;
use crate::pattern::{Pattern, Piece, Seam, WornSide};

/// Outlines nearer than this are one, in millimetres.
const SAME: f64 = 1e-3;
/// What is sewn on is at least so wide, in millimetres (common practice, no source).
const LEAST: f64 = 15.0;

/// The pattern with pieces that are sewn on.
pub(super) fn sewn_on(pattern: &Pattern, made: &[Piece], words: &[(StageKind, String)]) -> Altered {
    let mut with = pattern.clone();
    with.pieces.extend(made.iter().cloned());
    let works: Vec<PieceWork> = made.iter().map(|piece| PieceWork::drawn(piece, piece.clone())).collect();
    altered(&with, &works, words)
}

/// Where its width is dragged: on the front, where the edge it is sewn to begins.
pub(super) fn on_front(pattern: &Pattern, seam: Seam, along: Vec2) -> Option<Handle> {
    let half = pattern.skirt_halves().map(|(front, _)| front).or_else(|| pattern.front_half())?;
    let piece = half.begins(seam)?;
    let edge = piece.edges_of(seam).next()?;
    Some(Handle::new(piece.kind, edge.curve.start(), along))
}

/// What is worn on either side: the pattern once where both are alike.
pub(super) fn sides_of(pattern: &Pattern) -> Vec<Pattern> {
    match pattern.is_sided() {
        true => WornSide::BOTH.map(|side| pattern.worn_on(side)).into(),
        false => vec![pattern.clone()],
    }
}

/// The piece for either side: one where both are alike.
pub(super) fn on_each_side(
    pattern: &Pattern,
    of: impl Fn(&Pattern) -> Result<Piece, AlterError>,
) -> Result<Vec<Piece>, AlterError> {
    Ok(one_or_each(sides_of(pattern).iter().map(of).collect::<Result<_, _>>()?))
}

/// Of a left and a right piece that are alike one; the two under their own names where they differ.
pub(super) fn one_or_each(mut pieces: Vec<Piece>) -> Vec<Piece> {
    if let [left, right] = pieces.as_slice() {
        if !is_same(left, right) {
            let named = |(piece, side): (Piece, WornSide)| {
                let kind = piece.kind.on(side);
                piece.named(kind)
            };
            return pieces.into_iter().zip(WornSide::BOTH).map(named).collect();
        }
        pieces.truncate(1);
    }
    pieces
}

fn is_same(one: &Piece, other: &Piece) -> bool {
    one.edges.len() == other.edges.len()
        && one.edges.iter().zip(&other.edges).all(|(a, b)| a.curve.end().distance(b.curve.end()) < SAME)
        && one
            .notches
            .iter()
            .zip(&other.notches)
            .all(|(a, b)| (a.from_underarm - b.from_underarm).abs() < SAME)
}

/// A piece that is sewn on is wide enough to be sewn.
pub(super) fn wide_enough(what: &str, wide: f64, style: Style) -> Result<(), AlterError> {
    if wide >= LEAST {
        return Ok(());
    }
    Err(AlterError::not_here(format!(
        "a {what} is at least {} wide, not {}",
        style.with_unit(LEAST),
        style.with_unit(wide)
    )))
}

/// What is said of it: it follows what comes before it.
pub(super) fn follows(what: &str, edge: &str) -> FollowUp {
    FollowUp::reminder(format!(
        "The {what} is drafted from the {edge} as it is now, and again whenever a step before it changes that. Interface it."
    ))
}
