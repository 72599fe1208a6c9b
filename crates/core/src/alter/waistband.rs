//! Waistband: a straight band, folded over its length, on the finished waist (handbook: `wishes.md`, section 8).

use kurbo::Vec2;

use super::keeps::{
    ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES, SKIRT_CENTRES, SKIRT_HIP, SKIRT_SIDES,
};
use super::sewn_on::{follows, on_front, sewn_on, wide_enough};
use super::ways::{Ways, ways};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Garment, GarmentPart, Grain, Pattern, Seam, Straight, quarters};

/// It laps under by so much unless told otherwise, in millimetres (common practice, no source).
pub(super) const LAPS: f64 = 25.0;

ways! {
    /// Where it opens.
    Opens {
        /// At the centre back.
        Back = "centre_back", "at the centre back";
        /// At her left side.
        Side = "side", "at her left side";
        /// At the centre front.
        Front = "centre_front", "at the centre front";
    }
}

const PARAMS: [Param; 3] = [
    Param::size("Height", (0.0, 150.0), "How high it is as it is worn: usually 35 mm."),
    Param::way("opens", "It opens", Opens::WAYS, "Where its ends meet."),
    Param::place("laps", "Laps under by", (0.0, 80.0), Some(LAPS), "What one end goes on under the other."),
];

const ABOUT: About = About {
    code: "waistband",
    name: "Waistband",
    why: "The waist is sewn into a straight band. It follows the waist as it is at the end.",
    params: &PARAMS,
    seams: &[Seam::Waist],
    wants: "a waistband is sewn to the waist of a skirt, or of a front and back that end there, and once: this pattern goes on \
            below it, or has one",
    layer: Layer::Finish,
};

/// A waistband.
pub(super) struct Waistband;

impl Alteration for Waistband {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice, Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        quarters(pattern, Seam::Waist).is_some() && pattern.follows(Seam::Waist).next().is_none()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        let (bodice, skirt) = (
            [NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS],
            [SKIRT_SIDES, SKIRT_CENTRES, SKIRT_HIP],
        );
        Keeps::exactly(&[bodice.as_slice(), skirt.as_slice()].concat())
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        on_front(pattern, Seam::Waist, Vec2::new(0.0, 1.0))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (wide, laps, opens): (f64, f64, Opens) = (args.amount(), args.of("laps"), args.choice("opens"));
        wide_enough("waistband", wide, style)?;
        let quarters = quarters(pattern, Seam::Waist).ok_or_else(|| AlterError::no_seam(Seam::Waist))?;
        let [left_back, left_front, right_front, right_back] = quarters;
        let (in_order, joints, place) = match opens {
            Opens::Back => (
                [left_back, left_front, right_front, right_back],
                "left side, centre front and right side",
                "at the centre back",
            ),
            Opens::Side => (
                [left_front, right_front, right_back, left_back],
                "centre front, right side and centre back",
                "at her left side",
            ),
            Opens::Front => (
                [left_front, left_back, right_back, right_front],
                "left side, centre back and right side",
                "at the centre front",
            ),
        };
        let band = Straight {
            part: GarmentPart::Waistband,
            seam: Seam::Waist,
            long: in_order.iter().sum(),
            laps,
            wide,
            grain: Grain::AlongAndFolded,
            joints: (1..4).map(|count| in_order[..count].iter().sum()).collect(),
        };
        let unit = |mm: f64| style.with_unit(mm);
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Rule a band as long as the waist all round, {}, and {} more to lap under; {} high, twice the {} it is worn.",
                    unit(band.long),
                    unit(laps),
                    unit(2.0 * wide),
                    unit(wide)
                ),
            ),
            (
                StageKind::True,
                format!("Rule the fold line along its middle. It opens {place}: mark {joints}."),
            ),
        ];
        Ok(sewn_on(pattern, &[band.piece()], &words).and(follows("waistband", "waist")))
    }
}
