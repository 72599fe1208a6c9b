//! Biceps width: the sleeve wider or narrower at the upper arm; the cap's height is restored as far as the
//! armhole allows (handbook: `alterations.md`, section 2).

use kurbo::Vec2;

use super::cap_height::{WANTS, cap_height};
use super::keeps::Keeps;
use super::sleeve::{BACK_CAP, FRONT_CAP, half, is_sleeve, over, with_halves};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::root;
use crate::pattern::{Pattern, PatternMeasure, Seam};

const PARAMS: [Param; 1] = [Param::amount(
    "Wider",
    MeasuredOn::Here,
    (-40.0, 70.0),
    "How much wider the sleeve becomes at the biceps line, all round. Negative takes in.",
)];

const ABOUT: About = About {
    code: "biceps_width",
    name: "Biceps width",
    why: "The sleeve strains round the upper arm, or hangs loose there, while the armhole fits.",
    params: &PARAMS,
    seams: &[Seam::Cap, Seam::UnderSleeve],
    wants: WANTS,
    layer: Layer::Finish,
};

/// The sleeve wider or narrower at the upper arm.
pub(super) struct BicepsWidth;

impl Alteration for BicepsWidth {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[PatternMeasure::SleeveHem, PatternMeasure::SleeveLength]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CapWidth, args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        Some(Handle::new(sleeve.kind, sleeve.edges[half(true)].curve.end(), Vec2::new(0.5, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(WANTS))?;
        let by = args.amount();
        let width = sleeve.edges[BACK_CAP].curve.start().distance(sleeve.edges[FRONT_CAP].curve.end());
        let height = cap_height(sleeve).ok_or_else(|| AlterError::not_here(WANTS))?;
        let k = (width + by) / width;
        let at = |down: f64| with_halves(sleeve, [k, k], down);
        let off = |down: f64| leaves_rule(&pattern.clone().with(at(down)), by);
        // A cap that fitted and would not: lowered just into the rule. One that did not fit is no matter here.
        let down = if off(1.0) > 0.0 && leaves_rule(pattern, by) <= 0.0 {
            let far = if by > 0.0 { 0.5 } else { 1.5 };
            root(|down| off(down) - 1e-3, far, 1.0).unwrap_or(1.0)
        } else {
            1.0
        };
        let after = at(down);
        let lowered = height * (1.0 - down);
        let (word, amount) = (if by > 0.0 { "Spread" } else { "Lap" }, style.with_unit(by.abs()));
        let words = [
            (
                StageKind::Mark,
                "Rule the middle of the sleeve from the top of the cap to the hem, and the biceps line."
                    .to_owned(),
            ),
            (
                StageKind::Move,
                format!(
                    "{word} the sleeve by {amount} at the biceps line, to nothing at the hem; draw the cap through."
                ),
            ),
            (
                StageKind::True,
                "Restore the height of the cap as far as its armhole allows; walk the cap into the armhole."
                    .to_owned(),
            ),
        ];
        let done = altered(pattern, &[PieceWork::drawn(sleeve, after)], &words);
        Ok(if lowered.abs() > 0.5 {
            let word = if lowered > 0.0 { "lower" } else { "higher" };
            done.and(FollowUp::done(format!(
                "The cap is {} {word}, so that it still eases into the armhole.",
                style.with_unit(lowered.abs())
            )))
        } else {
            done
        })
    }
}

/// How far the worse half of the cap leaves its rule, on the side a width of this sign drives it to: too long when
/// wider, too short when narrower.
fn leaves_rule(pattern: &Pattern, by: f64) -> f64 {
    let towards = 1_f64.copysign(by);
    let halves = [over(pattern, true), over(pattern, false)].map(|half| half.unwrap_or_default() * towards);
    halves[0].max(halves[1])
}
