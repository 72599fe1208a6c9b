//! Gaping armhole: the pinned tuck is turned into the bust dart (handbook: `alterations.md`, section 2).

use super::gape::{self, INTO, WANTS};
use super::keeps::{BACK, Keeps};
use super::work::FollowUp;
use super::{
    About, AlterError, Alteration, Altered, Amounts, Args, Handle, Layer, MeasuredOn, Param, WorksAcross,
};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Seam};

/// A larger tuck is a full bust in disguise, in millimetres.
const IS_FULL_BUST: f64 = 20.0;

const PARAMS: [Param; 3] = [
    Param::amount(
        "Pinned tuck",
        MeasuredOn::Pinned,
        (0.0, 40.0),
        "The whole width of the tuck at the armhole, measured square to its fold. Usual is 6 to 16 mm.",
    ),
    Param::share(
        "place",
        "Where on the armhole",
        (0.2, 0.9),
        Some(0.6),
        "Where the tuck is, as a share of the armhole from the shoulder tip.",
    ),
    INTO,
];

const ABOUT: About = About {
    code: "gaping_armhole",
    name: "Gaping armhole",
    why: "The front armhole stands away above the bust: pinned, the tuck points at the bust.",
    params: &PARAMS,
    seams: &[Seam::Armhole],
    wants: WANTS,
    layer: Layer::Fit,
};

/// A tuck at the front armhole turned into the bust dart.
pub(super) struct GapingArmhole;

impl Alteration for GapingArmhole {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        gape::takes_a_gape(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn armhole_taken_in_at(&self, args: &Args<'_>) -> Option<f64> {
        Some(gape::Params::of(args).place)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let front = [
            PatternMeasure::NecklineFront,
            PatternMeasure::ShoulderFront,
            PatternMeasure::SideFront,
            PatternMeasure::CentreFront,
        ];
        Keeps::exactly(&[BACK, &front, &[PatternMeasure::Waist]])
    }

    fn grows(&self, _: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        // The dart's angle grows by exactly the turn; its mouth depends on the leg.
        Vec::new()
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        gape::gripped(pattern, Seam::Armhole, gape::Params::of(args).place)
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let done = gape::taken_up(pattern, Seam::Armhole, gape::Params::of(args), style)?;
        Ok(if args.amount() > IS_FULL_BUST {
            done.and(FollowUp::offered(
                "So large a tuck says that the bust wants room: this is a full bust alteration.",
                "full_bust",
                Amounts::of(args.amount() / 2.0),
            ))
        } else {
            done
        })
    }
}
