//! The armhole carried as it is: what shoulder slope and a narrow shoulder by pivot have in common.
//!
//! It moves rigidly with the shoulder tip; its lower end stays on the side seam's own line, extended upwards
//! if need be, so that armhole and sleeve keep their length.

use kurbo::Point;

use super::AlterError;
use crate::geometry::root;
use crate::geometry::{Curve, quarter_turn, reshape_at, reshape_start, turn_degrees};
use crate::pattern::{Join, Motion, Part, Piece, Place, Seam, Slash, true_tip, true_underarm};

/// Front and back underarm are brought to one height over this length of armhole, in millimetres.
const MEET_REACH: f64 = 40.0;
/// The corner at the shoulder is trued square over this length, in millimetres.
const TIP_REACH: f64 = 40.0;
/// How far the underarm is looked for along the side seam's line, in millimetres.
const FURTHEST: f64 = 150.0;

/// A piece whose armhole was carried.
#[derive(Clone, Debug)]
pub(super) struct MovedArmhole {
    /// The piece, not yet trued.
    pub(super) piece: Piece,
    /// How far the underarm rose along the side seam's line, in millimetres.
    pub(super) rise: f64,
    side: Curve,
}

/// A side seam's own line: upwards (positive) it goes on straight.
pub(super) fn on_line(side: &Curve, rise: f64) -> Point {
    if rise >= 0.0 { side.start() - side.start_direction() * rise } else { side.point_at(-rise) }
}

/// The side seam begun so far up (or, negative, down) its own line.
pub(super) fn begun_at(side: &Curve, rise: f64) -> Curve {
    let start = on_line(side, rise);
    if side.is_line() {
        Curve::line(start, side.end())
    } else if rise >= 0.0 {
        Curve::line(start, side.start()).then(side.clone())
    } else {
        side.split(-rise).1.with_start(start)
    }
}

/// The shoulder moved, the armhole traced and laid down so that it begins at `tip`, the side seam ruled on to it. A shoulder
/// that stays is ruled to that tip.
///
/// # Errors
///
/// [`AlterError::NotHere`] where the armhole cannot reach the side seam's line any more.
pub(super) fn armhole_laid(piece: &Piece, shoulder: Motion, tip: Point) -> Result<MovedArmhole, AlterError> {
    let first = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let last = piece.last_edge(Seam::Armhole).unwrap_or(first);
    let side = piece
        .edges
        .get(last + 1)
        .filter(|edge| edge.seam == Seam::Side)
        .map(|edge| edge.curve.clone())
        .ok_or_else(|| AlterError::no_seam(Seam::Side))?;
    let (start, end) = (piece.edges[first].curve.start(), piece.edges[last].curve.end());
    let reach = start.distance(end);
    let off = |rise: f64| on_line(&side, rise).distance(tip) - reach;
    let rise = nearest_root(off).filter(|rise| -rise < side.length()).ok_or_else(|| {
        AlterError::not_here(
            "the armhole no longer reaches the side seam's line: a smaller amount, or another size",
        )
    })?;
    let by = turn_degrees(end - start, on_line(&side, rise) - tip).to_radians();
    let (begins, ends) = shoulder_ends(piece)?;
    let under = Place { edge: last + 1, along: (-rise).max(0.0) };
    let to_tip = if shoulder == Motion::Still { Join::ShoulderTo(tip) } else { Join::Meet };
    let to_side = if rise > 0.0 { Join::Gap(Seam::Side) } else { Join::Meet };
    let slash = Slash {
        parts: vec![
            (Part::traced(under, begins, Motion::Still), Join::Meet),
            (Part::traced(begins, ends, shoulder), to_tip),
            (
                Part::traced(
                    Place::start_of(first),
                    Place::end_of(piece, last),
                    Motion::Laid { from: start, to: tip, by },
                ),
                to_side,
            ),
        ],
    };
    let mut piece = slash.trace(piece)?;
    keep_side_notches(&mut piece, rise);
    Ok(MovedArmhole { piece, rise, side })
}

/// Where the shoulder begins and where it ends.
pub(super) fn shoulder_ends(piece: &Piece) -> Result<(Place, Place), AlterError> {
    let ends = piece.first_edge(Seam::Shoulder).zip(piece.last_edge(Seam::Shoulder));
    let (first, last) = ends.ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    Ok((Place::start_of(first), Place::end_of(piece, last)))
}

/// Notches of the side seam stay where they are on the cloth when its upper end moves.
pub(super) fn keep_side_notches(piece: &mut Piece, rise: f64) {
    for notch in piece.notches.iter_mut().filter(|notch| notch.seam == Seam::Side) {
        notch.from_underarm += rise;
    }
}

/// The zero nearest to 0, looked for step by step to both sides.
fn nearest_root(f: impl Fn(f64) -> f64) -> Option<f64> {
    const STEP: f64 = 2.0;
    let steps = (FURTHEST / STEP) as i32;
    (0..steps).find_map(|i| {
        let near = f64::from(i) * STEP;
        [near, -near].into_iter().find_map(|from| root(&f, from, from + STEP.copysign(from)))
    })
}

/// Front and back with their underarms at one height: both at the mean of their rises, corners trued.
pub(super) fn with_underarms_level(front: MovedArmhole, back: MovedArmhole) -> (Piece, Piece) {
    let mean = front.rise.midpoint(back.rise);
    (with_underarm_at(front, mean), with_underarm_at(back, mean))
}

fn with_underarm_at(moved: MovedArmhole, rise: f64) -> Piece {
    let MovedArmhole { mut piece, rise: was, side } = moved;
    let length = piece.sewn_length(Seam::Armhole);
    if let Some(last) = piece.last_edge(Seam::Armhole) {
        let armhole = &piece.edges[last].curve;
        let shift = on_line(&side, rise) - armhole.end();
        piece.edges[last].curve = reshape_start(&armhole.reversed(), shift, MEET_REACH).reversed();
        piece.edges[last + 1].curve = begun_at(&side, rise);
        keep_side_notches(&mut piece, rise - was);
    }
    true_tip(&mut piece, TIP_REACH);
    true_underarm(&mut piece, MEET_REACH);
    keep_armhole(&mut piece, length);
    piece
}

/// What squaring the corners may cost or add to an armhole, in millimetres.
const SQUARING: f64 = 0.9;
/// The armhole is brought in or out half-way by no more than this to give back the rest, in millimetres.
const FURTHEST_BUMP: f64 = 8.0;

/// Gives back what squaring its corners has added to the armhole, or taken off it, beyond a hair: half-way it is drawn a
/// little fuller or flatter.
fn keep_armhole(piece: &mut Piece, length: f64) {
    let over = piece.sewn_length(Seam::Armhole) - length;
    let Some(edge) = piece.first_edge(Seam::Armhole).filter(|_| over.abs() > SQUARING) else { return };
    let curve = piece.edges[edge].curve.clone();
    let (middle, wanted) = (curve.length() / 2.0, curve.length() - over + over.signum() * SQUARING);
    let out = quarter_turn(curve.direction_at(middle));
    let bumped = |by: f64| reshape_at(&curve, middle, out * by);
    if let Some(by) = root(|by| bumped(by).length() - wanted, -FURTHEST_BUMP, FURTHEST_BUMP) {
        piece.edges[edge].curve = bumped(by);
    }
}
