//! Length over seat or belly on a piece that goes on below the waist: a wedge from the centre to nothing at the side
//! (handbook: `fitting.md`, section 3).

use kurbo::{Point, Vec2};

use super::folded_across::FoldedAcross;
use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::ways::Body;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{LevelName, Pattern, PatternMeasure, Piece, Seam};

/// The cut lies this far below the darts, at least, in millimetres.
const BELOW_DARTS: f64 = 8.0;

const WANTS: &str =
    "the wedge lies between waist and hip of a whole piece: this pattern ends at the waist, or is divided";

const SEAT: [Param; 1] = [Param::amount(
    "Longer over the seat",
    MeasuredOn::Here,
    (-35.0, 40.0),
    "How much longer the centre back becomes between waist and hip. Negative folds it out: a flat seat.",
)];

const BELLY: [Param; 1] = [Param::amount(
    "Longer over the belly",
    MeasuredOn::Here,
    (-30.0, 40.0),
    "How much longer the centre front becomes between waist and hip. Negative folds it out.",
)];

/// The seat of a dress.
pub(super) const SEAT_LENGTH: BelowWaistLength = BelowWaistLength {
    about: &About {
        code: "seat_length",
        name: "Length over the seat",
        why: "The hem rises or dips behind while the waist is level: a full seat wants length there, a flat one has too much.",
        params: &SEAT,
        seams: &[Seam::CentreBack, Seam::Hem],
        wants: WANTS,
        layer: Layer::Fit,
    },
    at: Body::Back,
};

/// The belly of a dress.
pub(super) const BELLY_LENGTH: BelowWaistLength = BelowWaistLength {
    about: &About {
        code: "belly_length",
        name: "Length over the belly",
        why: "The hem rises or dips in front while the waist is level: a belly wants length there, a flat front has too much.",
        params: &BELLY,
        seams: &[Seam::CentreFront, Seam::Hem],
        wants: WANTS,
        layer: Layer::Fit,
    },
    at: Body::Front,
};

/// Length below the waist, in front or behind.
pub(super) struct BelowWaistLength {
    about: &'static About,
    at: Body,
}

impl BelowWaistLength {
    fn fold_of<'a>(&self, pattern: &'a Pattern) -> Option<FoldedAcross<'a>> {
        let piece = self.at.piece_of(pattern)?;
        let centre = if self.at == Body::Front { Seam::CentreFront } else { Seam::CentreBack };
        FoldedAcross::at(piece, centre, level_of(piece)?)
    }
}

/// Where the cut is ruled: half-way between waist and hip, below the ends of the darts.
fn level_of(piece: &Piece) -> Option<f64> {
    let level = |name| piece.level(name).and_then(|level| level.points.first()).map(|point| point.y);
    let waist = level(LevelName::Waist)?;
    // A dress is drafted to the hip: its hem is the hip line until it is drawn longer.
    let hem = piece.edges_of(Seam::Hem).next()?.curve.end().y;
    let hip = level(LevelName::Hip).unwrap_or(hem);
    let ends = piece.two_pointed.iter().map(|dart| dart.lower.y + BELOW_DARTS);
    let at = ends.fold(waist.midpoint(hip), f64::max);
    (at < hip).then_some(at)
}

impl Alteration for BelowWaistLength {
    fn about(&self) -> &'static About {
        self.about
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        self.fold_of(pattern).is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            NECKLINES,
            SHOULDERS,
            ARMHOLES,
            SIDES,
            CENTRES,
            GIRTHS,
            &[PatternMeasure::AcrossFront, PatternMeasure::AcrossBack],
        ])
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let fold = self.fold_of(pattern)?;
        let foot = Point::new(fold.centre.x, fold.piece.bounds().y1);
        Some(Handle::new(fold.piece.kind, foot, Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let fold = self.fold_of(pattern).ok_or_else(|| AlterError::not_here(WANTS))?;
        let by = args.amount();
        let after = fold.risen(-by);
        let work = PieceWork::cut(fold.piece, fold.slash(-by)?, after.clone(), after);
        let amount = style.with_unit(by.abs());
        let centre = if self.at == Body::Front { "centre front" } else { "centre back" };
        let way = if by > 0.0 { "Open" } else { "Lap" };
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Rule level from the {centre} to the side seam between waist and hip, below the darts: the hinge is at the \
                     side, on the stitching line."
                ),
            ),
            (StageKind::Cut, format!("Cut from the {centre} to the hinge, not through it.")),
            (
                StageKind::Move,
                format!("{way} the cut by {amount} at the {centre}, into nothing at the hinge."),
            ),
            (
                StageKind::True,
                format!(
                    "Rule the {centre} straight again; the side seam stays as it was, and the hem runs to it in one line."
                ),
            ),
        ];
        Ok(altered(pattern, &[work], &words))
    }
}
