//! One high hip: a skirt's waist raised at the side, on the side that is higher (handbook: `wishes.md`, section 7).

use kurbo::Vec2;

use super::keeps::{GIRTHS, Keeps, SKIRT_CENTRES, SKIRT_HIP};
use super::skirt_waist::{RaisedAt, drawn_words, raise};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Garment, Pattern, PatternMeasure, Seam};

const PARAMS: [Param; 1] = [Param::amount(
    "Higher at the side",
    MeasuredOn::PerSide,
    (-25.0, 45.0),
    "How much longer the skirt becomes from the hip up to the waist at the side. Negative lowers it there.",
)];

const ABOUT: About = About {
    code: "high_hip",
    name: "High hip",
    why: "One hip stands higher, so that the skirt drags up on that side and its hem rises; or both curve more than the block.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::Side],
    wants: "the waist is raised on the whole front and back of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised at the side.
pub(super) struct HighHip;

impl Alteration for HighHip {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.skirt_halves().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[GIRTHS, SKIRT_CENTRES, SKIRT_HIP])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        [PatternMeasure::SkirtSideFront, PatternMeasure::SkirtSideBack, PatternMeasure::WaistToHip]
            .map(|figure| (figure, args.amount()))
            .to_vec()
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let (front, _) = pattern.skirt_halves()?;
        let side = front.at_side().edges_of(Seam::Side).next()?;
        Some(Handle::new(front.at_side().kind, side.curve.start(), Vec2::new(0.0, -1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (front, back) = pattern.skirt_halves().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let mm = args.amount();
        let mark = format!(
            "Mark the waist {} {} at the side of front and back, along the seam, and nothing at the centre.",
            style.with_unit(mm.abs()),
            if mm > 0.0 { "higher" } else { "lower" }
        );
        let [draw, true_up] = drawn_words();
        let words = [(StageKind::Mark, mark), draw, true_up];
        raise(pattern, &[front.at_centre(), back.at_centre()], mm, RaisedAt::Side, &words)
    }
}
