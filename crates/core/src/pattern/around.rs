//! How long an edge is that goes on over several pieces: what a band, a collar stand or a strip is sewn to.

use super::names::{Covers, GarmentPart};
use super::piece::{Pattern, PieceKind, Seam, WornSide};

/// The sewn lengths of an edge round the body, in millimetres: left back, left front, right front, right back.
pub(crate) fn quarters(pattern: &Pattern, edge: Seam) -> Option<[f64; 4]> {
    let of = |pattern: &Pattern| {
        let (front, back) =
            pattern.skirt_halves().or_else(|| pattern.front_half().zip(pattern.back_half()))?;
        front.begins(edge).and(back.begins(edge))?;
        Some((front.sewn_length(edge), back.sewn_length(edge)))
    };
    let ((left_front, left_back), (right_front, right_back)) = if pattern.is_sided() {
        of(&pattern.worn_on(WornSide::Left)).zip(of(&pattern.worn_on(WornSide::Right)))?
    } else {
        let alike = of(pattern)?;
        (alike, alike)
    };
    Some([left_back, left_front, right_front, right_back])
}

/// What a piece is sewn along from outside.
pub(super) struct Along {
    /// A piece that has the edge.
    pub(super) other: PieceKind,
    /// All of the edge, sewn, in millimetres.
    pub(super) long: f64,
}

/// The edge that a sewn-on piece goes along.
pub(super) fn along(kind: PieceKind, pattern: &Pattern) -> Option<Along> {
    let edge = *kind.share().follows().first()?;
    let has_it = |piece: &&super::piece::Piece| {
        piece.first_edge(edge).is_some()
            && !piece.kind.is_dependent()
            && (kind.part() == GarmentPart::Cuff) == piece.kind.is_sleeve()
            && (kind.side().is_none() || piece.kind.side().is_none_or(|side| kind.side() == Some(side)))
    };
    let other = pattern.pieces.iter().find(has_it)?;
    // A piece of one side goes along that side's; one for both along either.
    let on_the_right = kind.side() == Some(WornSide::Right);
    let long = match kind.part() {
        GarmentPart::JoinedSkirtFront | GarmentPart::JoinedSkirtBack => {
            let [left_back, left_front, right_front, right_back] = quarters(pattern, edge)?;
            match (kind.covers(), on_the_right) {
                (Covers::Front, true) => right_front,
                (Covers::Front, false) => left_front,
                (_, true) => right_back,
                (_, false) => left_back,
            }
        }
        GarmentPart::Cuff => other.sewn_length(edge),
        GarmentPart::CollarStand | GarmentPart::ArmholeStrip => {
            let [left_back, left_front, right_front, right_back] = quarters(pattern, edge)?;
            if on_the_right { right_front + right_back } else { left_front + left_back }
        }
        _ => quarters(pattern, edge)?.iter().sum(),
    };
    Some(Along { other: other.kind, long })
}
