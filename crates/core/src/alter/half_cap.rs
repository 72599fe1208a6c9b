//! Front or back of the cap longer or shorter, to its own half of the armhole (handbook: `alterations.md`,
//! section 2).

use super::keeps::Keeps;
use kurbo::Vec2;

use super::cap_height::WANTS;
use super::sleeve::{HalfBy, half, half_longer, is_sleeve};
use super::ways::{Body, Ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Seam};

const PARAMS: [Param; 2] = [
    Param::amount(
        "Longer",
        MeasuredOn::Here,
        (-40.0, 40.0),
        "What this half of the cap gains along its edge. Negative shortens.",
    ),
    Param::way("half", "Which half", Body::WAYS, "The half that is set into that armhole."),
];

const ABOUT: About = About {
    code: "half_cap",
    name: "Front or back of the cap",
    why: "One half of the armhole became longer or shorter, or the cap has too much or too little ease there.",
    params: &PARAMS,
    seams: &[Seam::Cap],
    wants: WANTS,
    layer: Layer::Finish,
};

/// One half of the cap longer or shorter.
pub(super) struct HalfCap;

impl Alteration for HalfCap {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[
            PatternMeasure::CapHeight,
            PatternMeasure::SleeveHem,
            PatternMeasure::SleeveLength,
        ]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CapLength, args.amount()), (PatternMeasure::CapEase, args.amount())]
    }

    fn takes_the_cap_along(&self) -> bool {
        // It is the cap: what it does stands.
        false
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        let is_front = args.choice::<Body>("half") == Body::Front;
        let curve = &sleeve.edges[half(is_front)].curve;
        let at = if is_front { curve.end() } else { curve.start() };
        let outwards = Vec2::new(if is_front { 1.0 } else { -1.0 }, 0.0);
        Some(Handle::new(sleeve.kind, at, outwards))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(WANTS))?;
        let by = args.amount();
        let is_front = args.choice::<Body>("half") == Body::Front;
        let (after, how) = half_longer(sleeve, is_front, by)
            .ok_or_else(|| AlterError::not_here("so short a half cannot be drawn: a smaller amount"))?;
        let name = if is_front { "front" } else { "back" };
        let (word, amount) = (if by > 0.0 { "longer" } else { "shorter" }, style.with_unit(by.abs()));
        let rounder = if by > 0.0 { "rounder" } else { "flatter" };
        let [mark, draw] = match how {
            HalfBy::Roundness => [
                format!("Mark the ends of the {name} half of the cap: both stay, and so does the width."),
                format!(
                    "Draw that half {rounder} from the top to the underarm, until it is {amount} {word}; level at both ends."
                ),
            ],
            HalfBy::Width => [
                format!(
                    "On the biceps line move the {name} underarm until its half of the cap is {amount} {word}."
                ),
                "Draw that half of the cap anew from the top to the underarm, level at both ends.".to_owned(),
            ],
        };
        let words = [
            (StageKind::Mark, mark),
            (StageKind::Move, draw),
            (
                StageKind::True,
                "Draw the seam into the hem, walk it along the other, and walk the cap into the armhole."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(sleeve, after)], &words))
    }
}
