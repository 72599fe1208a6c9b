//! Cap height: a flatter or higher cap of the same length, so that it still fits its armhole (handbook:
//! `alterations.md`, section 2).

use kurbo::Vec2;

use super::keeps::Keeps;
use super::sleeve::{crown, half, is_sleeve, scale_about, with_halves};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::root;
use crate::pattern::{LevelName, Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 1] = [Param::amount(
    "Higher",
    MeasuredOn::Here,
    (-40.0, 40.0),
    "How much higher the cap becomes; it stays as long, so the sleeve becomes narrower. Negative flattens it for reach.",
)];

const ABOUT: About = About {
    code: "cap_height",
    name: "Cap height",
    why: "Folds lie across the cap (too high) or drag from its top (too low); a bowing arm wants it flatter.",
    params: &PARAMS,
    seams: &[Seam::Cap],
    wants: WANTS,
    layer: Layer::Finish,
};

/// The cap higher or flatter, its length kept.
pub(super) struct CapHeight;

impl Alteration for CapHeight {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[
            PatternMeasure::CapLength,
            PatternMeasure::CapEase,
            PatternMeasure::SleeveHem,
            PatternMeasure::SleeveLength,
        ]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CapHeight, args.amount())]
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        Some(Handle::new(sleeve.kind, sleeve.edges[half(true)].curve.end(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(WANTS))?;
        let by = args.amount();
        let height = cap_height(sleeve).ok_or_else(|| AlterError::not_here(WANTS))?;
        let down = (height + by) / height;
        let [back, front] = [false, true].map(|is_front| across(sleeve, is_front, down));
        let (Some(back), Some(front)) = (back, front) else {
            return Err(AlterError::not_here(
                "so high a cap of this length leaves no sleeve: a smaller amount",
            ));
        };
        let after = with_halves(sleeve, [back, front], down);
        let (word, amount) = (if by > 0.0 { "higher" } else { "flatter" }, style.with_unit(by.abs()));
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Draw the biceps line {amount} {} from the top of the cap.",
                    if by > 0.0 { "further" } else { "less far" }
                ),
            ),
            (
                StageKind::Move,
                format!(
                    "Redraw both halves of the cap {word}, each as long as it was; the underarm points move along the new line."
                ),
            ),
            (
                StageKind::True,
                "Draw the seams into the hem, walk them along each other, and walk the cap into the armhole."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(sleeve, after)], &words))
    }
}

/// What the sleeve's alterations want.
pub(super) const WANTS: &str = "a one-piece sleeve is altered here: this pattern has none";

/// From the top of the cap down to the biceps line.
pub(super) fn cap_height(sleeve: &Piece) -> Option<f64> {
    let biceps = sleeve.level(LevelName::Biceps)?.points.first()?;
    Some(biceps.y - crown(sleeve).y)
}

/// How far a half must be scaled across so that it keeps its length when it is scaled down by so much.
fn across(sleeve: &Piece, is_front: bool, down: f64) -> Option<f64> {
    let curve = &sleeve.edges[half(is_front)].curve;
    let length = curve.length();
    root(|k| curve.transformed(scale_about(crown(sleeve), k, down)).length() - length, 0.3, 1.8)
}
