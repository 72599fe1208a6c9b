//! Truing by hand: a seam drawn smooth, or a corner squared, as a step of the recipe (handbook:
//! `alterations.md`, section 1).

use super::keeps::{Keeps, SHOULDERS};
use super::ways::{Ways, ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{
    Pattern, PatternMeasure, Piece, Seam, Trued, back_off_points, true_kinks, true_neck_side, true_tip,
    true_underarm, true_waist,
};

ways! {
    /// What is trued.
    What {
        /// The armhole smooth.
        Armhole = "armhole", "smooth the armhole";
        /// The neckline smooth.
        Neckline = "neckline", "smooth the neckline";
        /// The side seam smooth.
        Side = "side", "smooth the side seam";
        /// The armhole square at the tip.
        Tip = "tip", "square the armhole to the shoulder";
        /// The armhole square at the underarm.
        Underarm = "underarm", "square the armhole to the side seam";
        /// The neckline square at the neck side.
        NeckSide = "neck_side", "square the neckline to the shoulder";
        /// The waist as it is sewn.
        Waist = "waist", "draw the waist with its darts folded";
    }
}

impl What {
    /// The seam that is drawn anew.
    const fn seam(self) -> Seam {
        match self {
            Self::Armhole | Self::Tip | Self::Underarm => Seam::Armhole,
            Self::Neckline | Self::NeckSide => Seam::Neckline,
            Self::Side => Seam::Side,
            Self::Waist => Seam::Waist,
        }
    }
}

const PARAMS: [Param; 2] = [
    Param::place(
        "amount",
        "Over",
        (0.0, 80.0),
        Some(0.0),
        "How far to either side of a corner the line may be drawn anew; usual is 12 to 40 mm. Nothing leaves it.",
    ),
    Param::way(
        "what",
        "What",
        What::WAYS,
        "Corners inside a smooth seam are blended; right angles are restored; the waist is drawn as it is sewn.",
    ),
];

const ABOUT: About = About {
    code: "true_up",
    name: "Smooth and square",
    why: "A seam has a corner where it should run smooth, or a corner is not square where pieces meet.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Neckline, Seam::Side, Seam::Waist],
    wants: "seams are trued on a front or a back: this pattern has neither",
    layer: Layer::Finish,
};

/// A line trued by hand, on every piece that has it.
pub(super) struct TrueUp;

impl Alteration for TrueUp {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        trued_pieces(pattern).next().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[SHOULDERS, &[PatternMeasure::Bust]])
    }

    fn grip(&self, _: &Pattern, _: &Args<'_>) -> Option<Handle> {
        None
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (reach, what): (f64, What) = (args.amount(), args.choice("what"));
        let mut worst = Trued { seam: Seam::Armhole, moved: 0.0, lengthened: 0.0 };
        let mut works = Vec::new();
        for piece in trued_pieces(pattern).filter(|piece| piece.first_edge(what.seam()).is_some()) {
            let mut after = piece.clone();
            let trued = drawn(&mut after, what, reach);
            worst.moved = worst.moved.max(trued.moved);
            worst.lengthened += trued.lengthened;
            if after != *piece {
                works.push(PieceWork::drawn(piece, after));
            }
        }
        if works.is_empty() {
            return Err(AlterError::not_here(
                "nothing to true there: the line runs smooth and square already",
            ));
        }
        let words = [
            (StageKind::Mark, format!("Mark {} to either side of the corner.", style.with_unit(reach))),
            (
                StageKind::True,
                format!(
                    "Draw the line anew between the marks. It moves by {} at most and becomes {} {}.",
                    style.with_unit(worst.moved),
                    style.with_unit(worst.lengthened.abs()),
                    if worst.lengthened < 0.0 { "shorter" } else { "longer" }
                ),
            ),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

/// Front and back, or what lies of them above a seam under the bust.
fn trued_pieces(pattern: &Pattern) -> impl Iterator<Item = &Piece> {
    [pattern.front_half(), pattern.back_half()].into_iter().flatten().filter_map(|half| half.upper())
}

fn drawn(piece: &mut Piece, what: What, reach: f64) -> Trued {
    match what {
        What::Neckline => true_kinks(piece, Seam::Neckline, reach),
        What::Side => true_kinks(piece, Seam::Side, reach),
        What::Tip => true_tip(piece, reach),
        What::Underarm => true_underarm(piece, reach),
        What::NeckSide => true_neck_side(piece, reach),
        What::Waist => {
            let before = piece.flat_length(Seam::Waist);
            true_waist(piece);
            back_off_points(piece);
            Trued { seam: Seam::Waist, moved: 0.0, lengthened: piece.flat_length(Seam::Waist) - before }
        }
        What::Armhole => true_kinks(piece, Seam::Armhole, reach),
    }
}
