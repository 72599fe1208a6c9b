//! The seat of a skirt: its waist raised at the centre back for a full seat, lowered for a hollow back (handbook: `wishes.md`,
//! section 7).

use kurbo::Vec2;

use super::keeps::{GIRTHS, Keeps, SKIRT_HIP, SKIRT_SIDES};
use super::skirt_waist::{RaisedAt, drawn_words, raise};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Garment, Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 1] = [Param::amount(
    "Higher at the centre back",
    MeasuredOn::Here,
    (-4e+01, 6e+01),
    "How much longer the centre back becomes, up from the waist. Negative lowers it: a hollow or sway back.",
)];

const ABOUT: About = About {
    code: "skirt_seat",
    name: "Seat of a skirt",
    why: "The seat lifts the back, so that the hem rises there; or the waist falls into folds behind, over a hollow back.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::CentreBack],
    wants: "the waist is raised on the whole back of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised at the centre back.
pub(super) struct SkirtSeat;

/// The skirt's back.
fn half(pattern: &Pattern) -> Option<&Piece> {
    let (_, back) = pattern.skirt_halves()?;
    Some(back.at_centre())
}

impl Alteration for SkirtSeat {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        half(pattern).is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            GIRTHS,
            SKIRT_SIDES,
            SKIRT_HIP,
            &[PatternMeasure::WaistToHip, PatternMeasure::SkirtCentreFront],
        ])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::SkirtCentreBack, args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let half = half(pattern)?;
        Some(Handle::new(half.kind, half.centre_top(), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let half = half(pattern).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let mm = args.amount();
        let mark = format!(
            "Mark the waist {} {} at the centre back, and nothing at the side.",
            style.with_unit(mm.abs()),
            if mm > 0.0 { "higher" } else { "lower" }
        );
        let [draw, true_up] = drawn_words();
        raise(pattern, &[half], mm, RaisedAt::Centre, &[(StageKind::Mark, mark), draw, true_up])
    }
}
