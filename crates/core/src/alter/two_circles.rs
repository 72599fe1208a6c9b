//! Legs by two circles: a dart gets equal legs to its pivot, and every sewn length stays exactly (handbook: `alterations.md`,
//! section 1).
//!
//! One mouth stays. The other gives way: with the stretch of seam beyond it, up to a far end that stays, it turns rigidly
//! about that far end until its leg is as long as the other. Done twice it is done once.

use kurbo::{Affine, Point};

use super::AlterError;
use crate::geometry::{circles_meet, turn_degrees};
use crate::pattern::{DartPlace, Edge, Piece, redraw_dart};

/// Draws a dart to another pivot: by two circles where the seam it lies in is sewn to another piece that is not drawn anew.
pub(super) fn draw_to(piece: &mut Piece, place: DartPlace, pivot: Point) -> Result<(), AlterError> {
    match place {
        DartPlace::Armhole
        | DartPlace::Shoulder
        | DartPlace::Neckline
        | DartPlace::UnderBust
        | DartPlace::UnderBustSide => redraw_legs(piece, place, pivot, GivesWay::Second, None).map(|_| ()),
        _ => {
            redraw_dart(piece, place, pivot);
            Ok(())
        }
    }
}

/// Which mouth of a dart gives way, in the order of the outline.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum GivesWay {
    /// The first: of a waist dart the one towards the side.
    First,
    /// The second: of a side dart the lower one.
    Second,
}

/// Draws a dart's legs to `pivot`; `far` is the far end of the stretch that turns, the end of the edge where none is
/// given. Tells by how many degrees that stretch turned.
///
/// # Errors
///
/// [`AlterError::NotHere`] where the stretch is too short to give.
pub(super) fn redraw_legs(
    piece: &mut Piece,
    place: DartPlace,
    pivot: Point,
    gives: GivesWay,
    far: Option<Point>,
) -> Result<f64, AlterError> {
    let none = || AlterError::not_here(format!("there is no {} to draw", place.name()));
    let count = piece.edges.len();
    let leg = piece.first_leg(place).ok_or_else(none)?;
    let (first, second) = piece.mouth(place).ok_or_else(none)?;
    let (stays, moves, run) = match gives {
        GivesWay::First => (second, first, (leg + count - 1) % count),
        GivesWay::Second => (first, second, (leg + 2) % count),
    };
    let curve = piece.edges[run].curve.clone();
    let far = far.unwrap_or(if gives == GivesWay::First { curve.start() } else { curve.end() });
    let meet = circles_meet(pivot, pivot.distance(stays), far, far.distance(moves));
    let to =
        meet.and_then(|both| both.into_iter().min_by(|a, b| a.distance(moves).total_cmp(&b.distance(moves))));
    let to = to.ok_or_else(|| {
        AlterError::not_here(format!(
            "the seam beside the {} is too short to give: a smaller amount, or length at another level",
            place.name()
        ))
    })?;
    let turn = turn_degrees(moves - far, to - far);
    let about = Affine::rotate_about(turn.to_radians(), far);
    let at = curve.nearest(far);
    piece.edges[run].curve = match gives {
        GivesWay::First => {
            let turned = curve.between(at, curve.length()).transformed(about).with_end(to);
            if at > 1e-6 { curve.between(0.0, at).then(turned) } else { turned }
        }
        GivesWay::Second => {
            let turned = curve.between(0.0, at).transformed(about).with_start(to);
            if at < curve.length() - 1e-6 { turned.then(curve.between(at, curve.length())) } else { turned }
        }
    };
    // What follows a whole edge that turned about its own far end begins where it always did.
    let (a, b) = if gives == GivesWay::First { (to, stays) } else { (stays, to) };
    piece.edges[leg] = Edge::leg(place, a, pivot);
    piece.edges[(leg + 1) % count] = Edge::leg(place, pivot, b);
    if let Some(dart) = piece.darts.iter_mut().find(|dart| dart.place == place) {
        dart.pivot = pivot;
    }
    Ok(turn)
}
