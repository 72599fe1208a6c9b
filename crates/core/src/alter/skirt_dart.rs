//! The darts of a skirt ended higher or lower, their mouths as they are (handbook: `wishes.md`, section 7).

use kurbo::Vec2;

use super::keeps::{GIRTHS, Keeps, SKIRT_CENTRES, SKIRT_HIP, SKIRT_SIDES};
use super::skirt_waist::FOLD_AND_WALK;
use super::ways::{Body, Ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Garment, Pattern, Piece, Redrawn, Seam, WaistSeam};

/// A dart shorter than this would stand out like a cone, in millimetres (common practice, no source).
const LEAST_LONG: f64 = 40.0;

const PARAMS: [Param; 2] = [
    Param::amount(
        "Longer",
        MeasuredOn::Here,
        (-70.0, 60.0),
        "How much further down the darts end. Negative ends them higher, clear of where she is fullest.",
    ),
    Param::way("piece", "Which piece", Body::WAYS, "The piece the darts are in."),
];

const ABOUT: About = About {
    code: "skirt_dart",
    name: "Darts of a skirt",
    why: "A skirt's dart ends in a bubble over belly or seat, or stops before she is fullest.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "this pattern has no skirt with a dart in its waist",
    layer: Layer::Finish,
};

/// The darts of a skirt longer or shorter.
pub(super) struct SkirtDart;

fn half_of(pattern: &Pattern, which: Body) -> Option<&Piece> {
    let (front, back) = pattern.skirt_halves()?;
    let piece = if which == Body::Front { front.at_centre() } else { back.at_centre() };
    WaistSeam::of(piece).is_some_and(|seam| !seam.darts.is_empty()).then_some(piece)
}

impl Alteration for SkirtDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        Body::ALL.iter().any(|which| half_of(pattern, *which).is_some())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[GIRTHS, SKIRT_HIP, SKIRT_CENTRES, SKIRT_SIDES])
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let piece = half_of(pattern, args.choice("piece"))?;
        let dart = WaistSeam::of(piece)?.darts.first().copied()?;
        Some(Handle::new(piece.kind, dart.foot, Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (by, which) = (args.amount(), args.choice::<Body>("piece"));
        let no_dart = || AlterError::not_here("that piece of the skirt has no dart in its waist");
        let piece = half_of(pattern, which).ok_or_else(no_dart)?;
        let mut seam = WaistSeam::of(piece).ok_or_else(no_dart)?;
        let shortest =
            seam.darts.iter().map(|dart| dart.at.distance(dart.foot)).fold(f64::INFINITY, f64::min);
        if shortest + by < LEAST_LONG {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                -by,
                -(shortest - LEAST_LONG).max(0.0),
                "that the dart can be shortened by",
                "divide what it takes into two darts first",
            ));
        }
        for dart in &mut seam.darts {
            let down = dart.foot - dart.at;
            dart.foot += down / down.hypot() * by;
        }
        let after = piece.with_waist(&seam, Redrawn::default()).ok_or_else(|| {
            AlterError::not_here("the waist cannot be drawn over such darts: a smaller amount")
        })?;
        let (way, amount) = (if by > 0.0 { "lower" } else { "higher" }, style.with_unit(by.abs()));
        let words = [
            (StageKind::Mark, format!("Mark the end of each dart {amount} {way}, on its middle line.")),
            (StageKind::Move, "Draw the legs from the mouth to the mark.".to_owned()),
            (StageKind::True, FOLD_AND_WALK.to_owned()),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(piece, after)], &words))
    }
}
