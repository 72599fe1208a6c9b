//! Walking, frame by frame: one piece laid on the other along the seam that joins them, so that a difference and
//! every notch can be seen where they meet.

use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::piece::{Pattern, Piece, PieceKind, Seam};
use super::walk::{SeamWalk, walk};
use crate::geometry::turn_degrees;
use crate::{Shown, Style};

/// How many steps a walk is told in.
const STEPS: u32 = 24;

/// One moment of a walk.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WalkFrame {
    /// How far has been walked, along the sewn seam.
    pub along: Shown,
    /// Where the walked piece lies: an SVG matrix a, b, c, d, e, f.
    pub matrix: [f64; 6],
}

/// Two seams walked along each other.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Walk {
    /// What is joined.
    pub name: String,
    /// The piece that is walked.
    pub one: PieceKind,
    /// The piece it is walked along.
    pub other: PieceKind,
    /// Sewn length of the one.
    pub one_length: Shown,
    /// Sewn length of the other.
    pub other_length: Shown,
    /// How much longer the one is, as a sentence with why it may be.
    pub says: String,
    /// Whether they join.
    pub joins: bool,
    /// The walk from one end to the other; empty where a piece is walked along itself.
    pub frames: Vec<WalkFrame>,
}

/// Every pair of seams that is sewn together, each with its walk.
pub fn walks(pattern: &Pattern, style: Style) -> Vec<Walk> {
    walk(pattern).iter().map(|walked| walk_of(pattern, walked, style)).collect()
}

fn walk_of(pattern: &Pattern, walked: &SeamWalk, style: Style) -> Walk {
    let off = walked.difference();
    let word = if off < 0.0 { "shorter" } else { "longer" };
    let shown = style.difference(walked.one_length, walked.other_length);
    let mut says = if style.is_alike(walked.one_length, walked.other_length) {
        format!("{}: equally long", walked.name)
    } else {
        format!("{}: {} {word}", walked.name, style.in_words(&shown))
    };
    if !walked.reason.is_empty() && (off > 0.0 || walked.ease.1 < 0.0) {
        says = format!("{says}, {}", walked.reason);
    }
    if let Some(worst) = walked.notches.iter().map(|pair| pair.apart()).max_by(f64::total_cmp) {
        says = if worst < style.step().mm() / 2.0 {
            format!("{says}; notches fall together")
        } else {
            format!("{says}; notches {} apart at most", style.with_unit(worst))
        };
    }
    Walk {
        name: walked.name.to_owned(),
        one: walked.one,
        other: walked.other,
        one_length: style.show(walked.one_length),
        other_length: style.show(walked.other_length),
        says,
        joins: walked.joins(1.0),
        frames: frames(pattern, walked, style),
    }
}

fn frames(pattern: &Pattern, walked: &SeamWalk, style: Style) -> Vec<WalkFrame> {
    let pieces = pattern.piece(walked.one).zip(pattern.piece(walked.other));
    let Some((one, other)) = pieces.filter(|(one, _)| {
        walked.one != walked.other
            && walked.seam != Seam::Cap
            && (!one.kind.is_dependent() || walked.seam == Seam::Side)
    }) else {
        return Vec::new();
    };
    let length = walked.one_length.min(walked.other_length);
    (0..=STEPS)
        .filter_map(|step| {
            let along = length * f64::from(step) / f64::from(STEPS);
            let (from, to) = (sewn_at(one, walked.seam, along)?, sewn_at(other, walked.seam, along)?);
            Some(WalkFrame { along: style.show(along), matrix: laid(from, to).as_coeffs() })
        })
        .collect()
}

/// The place so far along a sewn seam from the end both pieces share, and the direction onwards.
fn sewn_at(piece: &Piece, seam: Seam, along: f64) -> Option<(Point, Vec2)> {
    let mut edges: Vec<crate::geometry::Curve> =
        piece.edges_of(seam).map(|edge| edge.curve.clone()).collect();
    if piece.comes_to_last(seam) {
        edges = edges.iter().rev().map(crate::geometry::Curve::reversed).collect();
    }
    let mut left = along;
    let last = edges.len().checked_sub(1)?;
    for (index, curve) in edges.iter().enumerate() {
        let length = curve.length();
        if left <= length || index == last {
            return Some((curve.point_at(left), curve.direction_at(left)));
        }
        left -= length;
    }
    None
}

/// Turns a piece over and lays its seam on the other's, place on place and direction on direction.
fn laid((from, onwards): (Point, Vec2), (to, along): (Point, Vec2)) -> Affine {
    let turned_over = Vec2::new(-onwards.x, onwards.y);
    let turn = turn_degrees(turned_over, along).to_radians();
    Affine::translate(to.to_vec2())
        * Affine::rotate(turn)
        * Affine::FLIP_X
        * Affine::translate(-from.to_vec2())
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_laid_piece_meets_place_and_direction_and_lies_on_the_other_side() {
        let from = (Point::new(200.0, 180.0), Vec2::new(0.0, 1.0));
        let to = (Point::new(190.0, 170.0), Vec2::new(0.6, 0.8));
        let laid = laid(from, to);
        assert!((laid * from.0).distance(to.0) < 1e-9);
        let onwards = laid * (from.0 + from.1) - laid * from.0;
        assert!((onwards - to.1).hypot() < 1e-9);
        // What lay towards the centre of the one lies beyond the seam of the other.
        let inside = laid * Point::new(0.0, 180.0) - to.0;
        assert!(inside.dot(Vec2::new(0.8, -0.6)) > 0.0, "{inside:?}");
    }
}
