//! Bias strips: cut across the grain, they bind or face a finished edge (handbook: `wishes.md`, section 8).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::sewn_on::{on_each_side, on_front, sewn_on, wide_enough};
use super::ways::{Ways, ways};
use super::work::FollowUp;
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{GarmentPart, Grain, Pattern, Piece, PieceKind, Seam, Straight, quarters};

ways! {
    /// The edge that a strip is sewn to.
    At {
        /// Round the neck.
        Neckline = "neckline", "neckline";
        /// Where there is no sleeve.
        Armholes = "armholes", "armholes";
        /// Without shoulders.
        UpperEdge = "upper_edge", "upper edge";
    }
}

impl At {
    const fn edge(self) -> (Seam, GarmentPart) {
        match self {
            Self::Neckline => (Seam::Neckline, GarmentPart::NeckStrip),
            Self::Armholes => (Seam::Armhole, GarmentPart::ArmholeStrip),
            Self::UpperEdge => (Seam::UpperEdge, GarmentPart::EdgeStrip),
        }
    }

    /// Whether that edge is there, and neither faced nor bound yet.
    fn is_free(self, pattern: &Pattern) -> bool {
        let (seam, _) = self.edge();
        quarters(pattern, seam).is_some() && pattern.follows(seam).next().is_none()
    }
}

const PARAMS: [Param; 2] = [
    Param::size(
        "Width",
        (0.0, 120.0),
        "How wide it is between its seams: for one that is folded double twice what is seen and turned in.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way("edge", "At the", At::WAYS, "The edge it is sewn to, front and back.")
    },
];

const ABOUT: About = About {
    code: "bias_strips",
    name: "Bias strips",
    why: "An edge is bound, or faced with a strip cut on the bias. It follows the edge as it is at the end, a little shorter where \
          that is hollow, so that it lies flat.",
    params: &PARAMS,
    seams: &[Seam::Neckline, Seam::Armhole, Seam::UpperEdge],
    wants: "bias strips are sewn to a neckline, an armhole or an upper edge of a front and a back: this pattern has none, or all \
            are faced or bound already",
    layer: Layer::Finish,
};

/// Strips cut on the bias.
pub(super) struct BiasStrips;

impl Alteration for BiasStrips {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        At::ALL.iter().any(|at| at.is_free(pattern))
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        on_front(pattern, args.choice::<At>("edge").edge().0, Vec2::new(0.0, 1.0))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (wide, at): (f64, At) = (args.amount(), args.choice("edge"));
        let (seam, part) = at.edge();
        if !at.is_free(pattern) {
            return Err(AlterError::not_here(format!(
                "this pattern has no {} in front and behind, or it is faced or bound already",
                seam.name()
            )));
        }
        wide_enough("bias strip", wide, style)?;
        let strip = |long: f64, joints: Vec<f64>| {
            let piece = PieceKind::of(part);
            let left = 1.0 - piece.share().stretched();
            let joints = joints.into_iter().map(|along| along * left).collect();
            Straight { part, seam, long: long * left, laps: 0.0, wide, grain: Grain::Bias, joints }.piece()
        };
        let no_seam = || AlterError::no_seam(seam);
        let made = match at {
            // From the underarm over the shoulder and back.
            At::Armholes => on_each_side(pattern, |worn| -> Result<Piece, AlterError> {
                let [back, front, ..] = quarters(worn, seam).ok_or_else(no_seam)?;
                Ok(strip(back + front, vec![back]))
            })?,
            At::Neckline | At::UpperEdge => {
                let [left_back, left_front, right_front, right_back] =
                    quarters(pattern, seam).ok_or_else(no_seam)?;
                let in_order = [left_back, left_front, right_front, right_back];
                let joints = (1..4).map(|count| in_order[..count].iter().sum()).collect();
                vec![strip(in_order.iter().sum(), joints)]
            }
        };
        Ok(sewn_on(pattern, &made, &words(at, wide, &made, style)).and(FollowUp::reminder(
            "The strip is drafted from the edge as it is now, and again whenever a step before it changes that. Stretch it evenly \
             as it is sewn on.",
        )))
    }
}

fn words(at: At, wide: f64, made: &[Piece], style: Style) -> [(StageKind, String); 2] {
    let (seam, part) = at.edge();
    let stretched = PieceKind::of(part).share().stretched();
    let long: Vec<String> = made.iter().map(|piece| style.with_unit(piece.sewn_length(seam))).collect();
    let shorter = if stretched > 0.0 {
        format!(", {:.0} in a hundred shorter than the {}", stretched * 100.0, seam.name())
    } else {
        format!(", as long as the {}", seam.name())
    };
    [
        (
            StageKind::Mark,
            format!(
                "Rule a strip at half a right angle to the grain, {} wide and {} long{shorter}.",
                style.with_unit(wide),
                long.join(" on the left and ")
            ),
        ),
        (StageKind::True, "Mark on it where the seams and the centre of the edge come to lie.".to_owned()),
    ]
}
