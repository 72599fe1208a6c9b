//! Off-shoulder band: a band on the upper edge that goes on over both upper arms (handbook: `measuring.md`, round
//! shoulders; common practice, no source).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::sewn_on::{follows, on_front, sewn_on, wide_enough};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{GarmentPart, Grain, Pattern, Seam, Straight, quarters};

/// Over each arm the band is free for at least so much, in millimetres: less does not go round one.
const LEAST_OVER_AN_ARM: f64 = 120.0;

const PARAMS: [Param; 4] = [
    Param::size("Height", (0.0, 250.0), "How high it is as it is worn: usually 60 to 90 mm."),
    Param::place(
        "round",
        "Round both upper arms",
        (600.0, 2000.0),
        None,
        "How long it is all round, as she was measured round both upper arms at the shoulder, snug.",
    ),
    Param::place(
        "over",
        "Over each arm",
        (0.0, 400.0),
        None,
        "How long it is over an arm, from crease to crease, where she was not measured round both.",
    ),
    Param::place(
        "gap",
        "Open behind for lacing",
        (0.0, 80.0),
        Some(0.0),
        "Where the edge is laced: what lies between its two sides. The band is so much shorter.",
    ),
];

const ABOUT: About = About {
    code: "off_shoulder_band",
    name: "Off-shoulder band",
    why: "The edge lies below the shoulders: a band is sewn to it in front and behind, and goes on over both upper arms. It follows \
          the edge as it is at the end.",
    params: &PARAMS,
    seams: &[Seam::UpperEdge],
    wants: "a band over the arms is sewn to an upper edge without shoulders, front and back, that is neither faced nor bound: decide \
            the strapless edge first",
    layer: Layer::Finish,
};

/// A band over both upper arms.
pub(super) struct OffShoulderBand;

impl Alteration for OffShoulderBand {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        quarters(pattern, Seam::UpperEdge).is_some() && pattern.follows(Seam::UpperEdge).next().is_none()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        on_front(pattern, Seam::UpperEdge, Vec2::new(0.0, -1.0))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let wide: f64 = args.amount();
        wide_enough("band over the arms", wide, style)?;
        let no_edge = || AlterError::no_seam(Seam::UpperEdge);
        let [left_back, left_front, right_front, right_back] =
            quarters(pattern, Seam::UpperEdge).ok_or_else(no_edge)?;
        let (edge, gap): (f64, f64) = (left_back + left_front + right_front + right_back, args.of("gap"));
        let round = args.number("round").or_else(|| Some(2.0f64.mul_add(args.number("over")?, edge + gap)));
        let round = round.ok_or_else(|| {
            AlterError::not_here(
                "a band over the arms is as long as she is round both of them, or over each: say how much",
            )
        })?;
        let over_an_arm = (round - gap - edge) / 2.0;
        let unit = |mm: f64| style.with_unit(mm);
        if over_an_arm < LEAST_OVER_AN_ARM {
            return Err(AlterError::not_here(format!(
                "the upper edge is {} round already: over each arm {} would be left of {}, and it wants at least {}",
                unit(edge + gap),
                unit(over_an_arm.max(0.0)),
                unit(round),
                unit(2.0f64.mul_add(LEAST_OVER_AN_ARM, edge + gap))
            )));
        }
        // From the centre back over her left arm to the front, and over the right one back.
        let stretches = [left_back, over_an_arm, left_front, right_front, over_an_arm];
        let joints = (1..=stretches.len()).map(|count| stretches[..count].iter().sum()).collect();
        let band = Straight {
            part: GarmentPart::OffShoulderBand,
            seam: Seam::UpperEdge,
            long: round - gap,
            laps: 0.0,
            wide,
            grain: Grain::AlongAndFolded,
            joints,
        };
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Rule a band {} long and {} high, twice the {} it is worn, and its fold line along the middle.",
                    unit(band.long),
                    unit(2.0 * wide),
                    unit(wide)
                ),
            ),
            (
                StageKind::True,
                format!(
                    "Mark, from the centre back: {} to the left side, {} free over the arm, {} and {} to the front's middle and its \
                     end, and the same again behind.",
                    unit(left_back),
                    unit(over_an_arm),
                    unit(left_front),
                    unit(right_front)
                ),
            ),
        ];
        Ok(sewn_on(pattern, &[band.piece()], &words).and(follows("band over the arms", "upper edge")))
    }
}
