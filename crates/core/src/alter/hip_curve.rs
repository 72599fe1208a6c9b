//! The curve of the hip: the side seam rounder or flatter between waist and hip, which stay (handbook: `fitting.md`,
//! section 3).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES, SKIRT_CENTRES, SKIRT_HIP};
use super::until_trued::until_trued;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::geometry::bent;
use crate::pattern::{Garment, LevelName, Pattern, Piece, Seam};
use crate::{PerEdge, Style};

const PARAMS: [Param; 1] = [Param::amount(
    "Rounder",
    MeasuredOn::PerEdge,
    (-12.0, 12.0),
    "What each edge of the side seam gains half-way between waist and hip. Negative takes the curve in.",
)];

const ABOUT: About = About {
    code: "hip_curve",
    name: "Hip curve",
    why: "Waist and hip fit, but between them cloth stands in cups at the side, or it pulls there.",
    params: &PARAMS,
    seams: &[Seam::Side],
    wants: "the curve lies between waist and hip of a whole front and back: this pattern ends at the waist, or is divided",
    layer: Layer::Fit,
};

/// The side seam rounder between waist and hip.
pub(super) struct HipCurve;

/// Front and back, each from waist to hip.
fn halves(pattern: &Pattern) -> Option<[&Piece; 2]> {
    let halves = match pattern.skirt_halves() {
        Some((front, back)) => [front.at_centre(), back.at_centre()],
        None => [pattern.front()?, pattern.back()?],
    };
    halves.iter().all(|piece| stretch(piece).is_some()).then_some(halves)
}

/// The edge of the side seam between waist and hip, and where on it they lie, in millimetres.
fn stretch(piece: &Piece) -> Option<(usize, f64, f64)> {
    let index = piece.last_edge(Seam::Side)?;
    let curve = &piece.edges[index].curve;
    let from = match piece.waist_at_side() {
        Some(waist) => curve.nearest(waist),
        // A skirt begins at the waist; what ends there has no hip.
        None if piece.kind.is_skirt() => 0.0,
        None => return None,
    };
    // A dress is drafted to the hip: its side ends there until it is drawn longer.
    let hip = piece.level(LevelName::Hip).and_then(|level| level.points.last());
    let to = hip.map_or(curve.length(), |hip| curve.nearest(*hip));
    (to > from + 40.0).then_some((index, from, to))
}

impl Alteration for HipCurve {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice, Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        halves(pattern).is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS, SKIRT_CENTRES, SKIRT_HIP])
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let [front, _] = halves(pattern)?;
        let (index, from, to) = stretch(front)?;
        let at = front.edges[index].curve.point_at(from.midpoint(to));
        Some(Handle::new(front.kind, at, Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by: PerEdge = args.per_edge("amount");
        let by = by.0.mm();
        let [front, back] = halves(pattern).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let drawn_front = rounder(front, by)?;
        // Both seams become longer or shorter by the same, so that they still walk.
        let longer = drawn_front.sewn_length(Seam::Side) - front.sewn_length(Seam::Side);
        let wanted = back.sewn_length(Seam::Side) + longer;
        let alike = until_trued(
            (by * 0.5, by * 1.5),
            wanted,
            |by| rounder(back, by),
            |piece| piece.sewn_length(Seam::Side),
        );
        let drawn_back = rounder(back, alike.unwrap_or(by))?;
        let works = [PieceWork::drawn(front, drawn_front), PieceWork::drawn(back, drawn_back)];
        let (way, amount) = (if by > 0.0 { "out" } else { "in" }, style.with_unit(by.abs()));
        let words = [
            (
                StageKind::Mark,
                format!(
                    "On each edge mark {amount} {way} half-way between waist and hip, nothing at either."
                ),
            ),
            (
                StageKind::Move,
                "Draw the side through the mark in one smooth curve; at waist and hip it runs as it did."
                    .to_owned(),
            ),
            (StageKind::True, "Walk front and back side seam along each other.".to_owned()),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

/// The side moved out by so much half-way between waist and hip, in millimetres; nothing moves at either, nor turns.
fn rounder(piece: &Piece, by: f64) -> Result<Piece, AlterError> {
    let (index, from, to) = stretch(piece).ok_or_else(|| AlterError::no_seam(Seam::Side))?;
    let mut after = piece.clone();
    let curve = &piece.edges[index].curve;
    let (above, rest) = curve.split(from);
    let (between, below) = rest.split(to - from);
    let long = to - from;
    let drawn = bent(&between, long, |s| {
        let u = s / long;
        let share = 16.0 * u * u * (1.0 - u) * (1.0 - u);
        let slope = 32.0 * u * (1.0 - u) * (1.0 - 2.0 * u) / long;
        (Vec2::new(by * share, 0.0), Vec2::new(by * slope, 0.0))
    });
    let mut whole = if from > 0.0 { above.then(drawn) } else { drawn };
    if below.length() > 1e-6 {
        whole = whole.then(below);
    }
    after.edges[index].curve = whole;
    Ok(after)
}
