//! What the sleeve's alterations have in common: its two halves, its rule, and drawing a half anew.
//!
//! The back half lies to the left of the crown and the front half to the right; each half of the cap is set
//! into its half of the armhole with its share of the ease.

use kurbo::{Affine, Point};

use crate::draft::half_of_cap;
use crate::geometry::root;
use crate::geometry::{Curve, reshape_start};
use crate::pattern::{LevelName, Pattern, Piece, Seam};

/// How much longer than the sleeve's rule allows a half of the cap is; negative: too short, 0 within it.
/// `None` without a sleeve or its rule.
pub(super) fn over(pattern: &Pattern, is_front: bool) -> Option<f64> {
    let (sleeve, rule) = (pattern.sleeve()?, pattern.sleeve_rule?);
    let half_of = if is_front { pattern.front_half()? } else { pattern.back_half()? };
    let armhole = half_of.sewn_length(Seam::Armhole);
    let ease = sleeve.edges[half(is_front)].curve.length() - armhole;
    let share = if is_front { 1.0 - rule.back_share } else { rule.back_share };
    let (least, most) = (rule.least * share, rule.most * share);
    Some(if ease > most { ease - most } else { (ease - least).min(0.0) })
}

/// The back half of the cap, from its underarm to the crown: the first edge of a sleeve as [`is_sleeve`] wants it.
pub(super) const BACK_CAP: usize = 0;
/// The front half of the cap, from the crown to its underarm.
pub(super) const FRONT_CAP: usize = 1;
/// The under-sleeve seam at the front, down to the hem.
pub(super) const FRONT_SEAM: usize = 2;
/// The hem.
pub(super) const HEM: usize = 3;
/// The under-sleeve seam at the back, up from the hem.
pub(super) const BACK_SEAM: usize = 4;

/// The edge of a half of the cap.
pub(super) fn half(is_front: bool) -> usize {
    if is_front { FRONT_CAP } else { BACK_CAP }
}

/// Whether a piece is a sleeve of two halves: back cap, front cap, seam, hem, seam.
pub(super) fn is_sleeve(pattern: &Pattern) -> bool {
    pattern.sleeve().is_some_and(|sleeve| {
        let seams: Vec<Seam> = sleeve.edges.iter().map(|edge| edge.seam).collect();
        seams == [Seam::Cap, Seam::Cap, Seam::UnderSleeve, Seam::Hem, Seam::UnderSleeve]
    })
}

/// The pattern with a half of its cap longer by so much.
pub(super) fn with_half_longer(pattern: &Pattern, is_front: bool, by: f64) -> Option<(Pattern, HalfBy)> {
    let sleeve = pattern.sleeve().filter(|_| is_sleeve(pattern))?;
    let (sleeve, how) = half_longer(sleeve, is_front, by)?;
    Some((pattern.clone().with(sleeve), how))
}

/// The top of the sleeve, where back and front of the cap meet.
pub(super) fn crown(sleeve: &Piece) -> Point {
    sleeve.edges[FRONT_CAP].curve.start()
}

/// How the length of a half of a cap was changed.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum HalfBy {
    /// Rounder or flatter between its ends: height and width at the biceps line stay.
    Roundness,
    /// Its underarm moved along the biceps line: the width goes with it.
    Width,
}

/// A half of the cap made longer or shorter, and how: rounder or flatter between its ends as long as a cap can be drawn
/// so, otherwise with its underarm moved. `None` where no such half can be drawn.
pub(super) fn half_longer(sleeve: &Piece, is_front: bool, by: f64) -> Option<(Piece, HalfBy)> {
    let rounder = half_rounder(sleeve, is_front, by).map(|piece| (piece, HalfBy::Roundness));
    rounder.or_else(|| half_wider(sleeve, is_front, by).map(|piece| (piece, HalfBy::Width)))
}

/// How steeply a half of a cap may leave the straight line from crown to underarm half-way, in degrees.
const ROUNDNESS: (f64, f64) = (4.0, 24.0);

/// A half of the cap made rounder or flatter between its ends, which stay.
fn half_rounder(sleeve: &Piece, is_front: bool, by: f64) -> Option<Piece> {
    let index = half(is_front);
    let crown = crown(sleeve);
    // From the crown out to the right, whichever half it is.
    let to_right = if is_front {
        Affine::translate(-crown.to_vec2())
    } else {
        Affine::FLIP_X * Affine::translate(-crown.to_vec2())
    };
    let turned = |curve: &Curve, by: Affine| {
        let moved = curve.transformed(by);
        if is_front { moved } else { moved.reversed() }
    };
    let own = turned(&sleeve.edges[index].curve, to_right);
    let (end, length) = (own.end(), own.length());
    let drawn = |roundness: f64| half_of_cap(end.x, end.y, roundness);
    let at = |wanted: f64| root(|roundness| drawn(roundness).length() - wanted, ROUNDNESS.0, ROUNDNESS.1);
    let (now, then) = (drawn(at(length)?), drawn(at(length + by)?));
    // What the drawn half changes is laid on the own one, so that nothing moves where nothing is asked.
    let curve = own.moved_like(&now, &then)?;
    let mut piece = sleeve.clone();
    piece.edges[index].curve = turned(&curve, to_right.inverse());
    keep_notches(sleeve, &mut piece);
    Some(piece)
}

/// A half of the cap made longer by moving its underarm out at the same height: both ends stay level, the
/// curve keeps its shape.
fn half_wider(sleeve: &Piece, is_front: bool, by: f64) -> Option<Piece> {
    let curve = &sleeve.edges[half(is_front)].curve;
    let wanted = curve.length() + by;
    let about = crown(sleeve);
    let scaled = |k: f64| curve.transformed(scale_about(about, k, 1.0));
    let k = root(|k| scaled(k).length() - wanted, 0.4, 2.0)?;
    Some(with_halves(sleeve, if is_front { [1.0, k] } else { [k, 1.0] }, 1.0))
}

/// The sleeve with its halves scaled about the crown: across, back and front apart, and down alike. The
/// seams follow their underarm ends and run into the hem as it is.
pub(super) fn with_halves(sleeve: &Piece, across: [f64; 2], down: f64) -> Piece {
    let about = crown(sleeve);
    let mut piece = sleeve.clone();
    for (index, k) in across.into_iter().enumerate() {
        if (k, down) != (1.0, 1.0) {
            piece.edges[index].curve = sleeve.edges[index].curve.transformed(scale_about(about, k, down));
        }
    }
    move_underarms(sleeve, &mut piece);
    keep_notches(sleeve, &mut piece);
    piece
}

/// Seams and the biceps line after the underarm points have moved.
fn move_underarms(old: &Piece, piece: &mut Piece) {
    let back = piece.edges[BACK_CAP].curve.start() - old.edges[BACK_CAP].curve.start();
    let front = piece.edges[FRONT_CAP].curve.end() - old.edges[FRONT_CAP].curve.end();
    let length = |index: usize| old.edges[index].curve.length();
    piece.edges[FRONT_SEAM].curve = reshape_start(&old.edges[FRONT_SEAM].curve, front, length(FRONT_SEAM));
    piece.edges[BACK_SEAM].curve =
        reshape_start(&old.edges[BACK_SEAM].curve.reversed(), back, length(BACK_SEAM)).reversed();
    end_levels_on_seams(piece);
}

/// The biceps line ends at the underarm, every other level line where it meets the seams.
pub(super) fn end_levels_on_seams(piece: &mut Piece) {
    let [back, front] = [BACK_SEAM, FRONT_SEAM].map(|seam| piece.edges[seam].curve.clone());
    for level in &mut piece.levels {
        match (level.name, level.points.as_mut_slice()) {
            (LevelName::Biceps, [first, .., last]) => (*first, *last) = (back.end(), front.start()),
            (_, [first, .., last]) => {
                for (point, seam) in [(first, &back), (last, &front)] {
                    if let Some(along) = seam.crossing_level(point.y) {
                        *point = seam.point_at(along);
                    }
                }
            }
            _ => {}
        }
    }
}

/// Notches of the cap stay as far from their own underarm as they were.
fn keep_notches(old: &Piece, piece: &mut Piece) {
    let grown = piece.flat_length(Seam::Cap) - old.flat_length(Seam::Cap);
    for notch in piece.notches.iter_mut().filter(|notch| notch.seam == Seam::Cap && !notch.double) {
        notch.from_underarm += grown;
    }
}

/// Scaled about a point.
pub(super) fn scale_about(about: Point, across: f64, down: f64) -> Affine {
    Affine::translate(about.to_vec2())
        * Affine::scale_non_uniform(across, down)
        * Affine::translate(-about.to_vec2())
}
