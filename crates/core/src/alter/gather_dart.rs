//! A dart opened as fullness: gathered or eased in between two notches instead of sewn as a wedge.

use super::keeps::{ARMHOLES, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::move_dart::not_whole;
use super::ways::{Body, Ways, ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::geometry::Curve;
use crate::pattern::{
    DartPlace, Edge, Gather, Notch, Pattern, PatternMeasure, Piece, Seam, back_off_points, true_kinks,
};

/// The seam is drawn smooth over this length either side of the former dart, in millimetres.
const SMOOTH: f64 = 25.0;
/// The notches stand this far outside the former mouth, in millimetres.
const NOTCH_OUTSIDE: f64 = 25.0;

ways! {
    /// The dart that is gathered.
    Gathered {
        /// At the waist.
        Waist = "waist", "waist dart";
        /// At the side.
        Side = "side", "side dart";
        /// In the shoulder.
        Shoulder = "shoulder", "shoulder dart";
        /// In the armhole.
        Armhole = "armhole", "armhole dart";
        /// In the neckline.
        Neckline = "neckline", "neck dart";
    }
}

impl Gathered {
    const fn place(self) -> DartPlace {
        match self {
            Self::Waist => DartPlace::Waist,
            Self::Side => DartPlace::Side,
            Self::Shoulder => DartPlace::Shoulder,
            Self::Armhole => DartPlace::Armhole,
            Self::Neckline => DartPlace::Neckline,
        }
    }
}

const PARAMS: [Param; 3] = [
    Param {
        default: Some(1.0),
        ..Param::share(
            "amount",
            "Gather it",
            (0.0, 1.0),
            None,
            "The share of the dart's intake that is drawn in; the rest stays a dart in the middle of it.",
        )
    },
    Param::way("piece", "Which piece", Body::WAYS, "The piece the dart is in."),
    Param::way("dart", "Which dart", Gathered::WAYS, "The dart whose intake is gathered or eased in."),
];

const ABOUT: About = About {
    code: "gather_dart",
    name: "Gather a dart",
    why: "The fullness is wanted as gathers or ease between two notches instead of a sewn dart.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "this pattern has no dart of a bodice or a dress that reaches a seam",
    layer: Layer::Shape,
};

/// What it is told.
struct Params {
    /// The share of the dart's intake that is drawn in.
    share: f64,
    piece: Body,
    dart: Gathered,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self { share: args.amount(), piece: args.choice("piece"), dart: args.choice("dart") }
    }
}

/// A dart made gathers or ease.
pub(super) struct GatherDart;

impl Alteration for GatherDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.pieces.iter().any(|piece| !piece.kind.is_skirt() && !piece.darts.is_empty())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::default()
            .within(0.7, &[NECKLINES, SHOULDERS, ARMHOLES, SIDES])
            .within(3.0, &[&[PatternMeasure::Waist]])
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, _: &Pattern, _: &Args<'_>) -> Option<Handle> {
        None
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let Params { share, piece: which, dart } = Params::of(args);
        let piece = which.piece_of(pattern).ok_or_else(|| not_whole(pattern, which))?;
        let place = dart.place();
        let taped = opened(piece, place, share)?;
        let after = gathered(piece, place, share)?;
        let amount = after.gathers.last().map_or(0.0, |gather| gather.amount);
        let seam = place.seam().name();
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Mark a notch on the {seam} either side of the {}, a little outside it.",
                    place.name()
                ),
            ),
            (
                StageKind::Fill,
                format!(
                    "Draw the {seam} straight across the mouth of the dart; {} of it is not sewn.",
                    style.with_unit(amount)
                ),
            ),
            (
                StageKind::True,
                format!(
                    "Draw the {seam} smooth. When sewing, draw in {} between the notches.",
                    style.with_unit(amount)
                ),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::drawn_and_trued(piece, taped, after)], &words))
    }
}

/// A share of the dart's intake drawn in: the seam runs straight across the mouth, and what is left of the dart
/// stands in the middle of it.
fn opened(piece: &Piece, place: DartPlace, share: f64) -> Result<Piece, AlterError> {
    let no_dart = || {
        AlterError::not_here(format!(
            "the {} has no {} to gather",
            piece.kind.name().to_lowercase(),
            place.name()
        ))
    };
    let leg = piece.first_leg(place).ok_or_else(no_dart)?;
    let (first, second) = piece.mouth(place).ok_or_else(no_dart)?;
    let pivot = piece.dart(place).ok_or_else(no_dart)?.pivot;
    let seam = piece.edges[(leg + piece.edges.len() - 1) % piece.edges.len()].seam;
    let intake = first.distance(second);
    let amount = intake * share;
    let mut after = piece.clone();
    let flat = |from, to| Edge { seam, dart: None, curve: Curve::line(from, to), fold: false };
    let joins = if share >= 1.0 {
        after.edges.splice(leg..leg + 2, [flat(first, second)]);
        after.darts.retain(|dart| dart.place != place);
        [leg, leg + 1]
    } else {
        let (from, to) = (first.lerp(second, share / 2.0), second.lerp(first, share / 2.0));
        let legs = [Edge::leg(place, from, pivot), Edge::leg(place, pivot, to)];
        let [down, up] = legs;
        after.edges.splice(leg..leg + 2, [flat(first, from), down, up, flat(to, second)]);
        [leg, leg + 4]
    };
    // Gathers are named from the underarm; travelled towards it on the upper seams, away from it below.
    let before = piece.length_before(leg, seam);
    let whole = after.flat_length(seam);
    let towards_underarm = matches!(seam, Seam::Neckline | Seam::Shoulder | Seam::Armhole | Seam::Hem);
    let near = if towards_underarm { whole - before - amount } else { before };
    let outside = NOTCH_OUTSIDE.min(near.min(whole - near - amount).max(0.0));
    let from_underarm = near - outside;
    let flat = amount + 2.0 * outside;
    after.gathers.push(Gather { seam, from_underarm, flat, amount });
    let notch = |from_underarm| Notch { seam, from_underarm, double: false };
    if !matches!(seam, Seam::Side | Seam::Armhole) {
        after.notches.extend([notch(from_underarm), notch(from_underarm + flat)]);
    }
    Ok(after.merged_at(&joins))
}

/// The piece with a dart gathered, its seam drawn smooth across.
pub(super) fn gathered(piece: &Piece, place: DartPlace, share: f64) -> Result<Piece, AlterError> {
    let mut after = opened(piece, place, share)?;
    back_off_points(&mut after);
    if let Some(seam) = after.gathers.last().map(|gather| gather.seam) {
        true_kinks(&mut after, seam, SMOOTH);
        // The seam is drawn in to what it was sewn to: neither the mouth's chord nor smoothing changes that.
        let over = after.sewn_length(seam) - piece.sewn_length(seam);
        if let Some(gather) = after.gathers.last_mut() {
            gather.amount += over;
        }
    }
    Ok(after)
}
