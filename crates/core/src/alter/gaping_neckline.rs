//! Gaping neckline: the pinned tuck is turned into the bust dart (handbook: `alterations.md`, section 2).

use super::gape::{self, INTO, WANTS};
use super::keeps::{BACK, Keeps};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, WorksAcross};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Seam};

const PARAMS: [Param; 3] = [
    Param::amount(
        "Pinned tuck",
        MeasuredOn::Pinned,
        (0.0, 25.0),
        "The whole width of the tuck at the neckline, measured square to its fold.",
    ),
    Param::share(
        "place",
        "Where on the neckline",
        (0.2, 0.8),
        Some(0.5),
        "Where the tuck is, as a share of the neckline from the centre.",
    ),
    INTO,
];

const ABOUT: About = About {
    code: "gaping_neckline",
    name: "Gaping neckline",
    why: "The front neckline stands away above the bust: pinned, the tuck points at the bust.",
    params: &PARAMS,
    seams: &[Seam::Neckline],
    wants: WANTS,
    layer: Layer::Fit,
};

/// A tuck at the front neckline turned into the bust dart.
pub(super) struct GapingNeckline;

impl Alteration for GapingNeckline {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn goes_on_from(&self, _: &Args<'_>) -> Option<&'static str> {
        Some("neckline")
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        gape::takes_a_gape(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let front = [
            PatternMeasure::ShoulderFront,
            PatternMeasure::ArmholeFront,
            PatternMeasure::SideFront,
            PatternMeasure::CentreFront,
        ];
        Keeps::exactly(&[BACK, &front, &[PatternMeasure::Waist]])
    }

    fn grows(&self, _: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        // As the armhole's: the angle grows by exactly the turn.
        Vec::new()
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        gape::gripped(pattern, Seam::Neckline, gape::Params::of(args).place)
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        gape::taken_up(pattern, Seam::Neckline, gape::Params::of(args), style)
    }
}
