//! Pleat: a dart that is left open and folded at its seam instead of sewn to a point. Its mouth, and all that is measured with
//! the dart closed, stays as it is.

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Covers, DartPlace, Garment, Pattern, Piece, Pleat, Seam};

/// Folds shorter than this cannot be pressed, in millimetres.
const LEAST: f64 = 10.0;

ways! {
    /// The piece that is pleated.
    Which {
        /// The front, of a skirt as well.
        Front = "front", "front";
        /// The back, of a skirt as well.
        Back = "back", "back";
        /// The front of a skirt that is joined to a bodice.
        SkirtFront = "skirt_front", "front of the joined skirt";
        /// Its back.
        SkirtBack = "skirt_back", "back of the joined skirt";
    }
}

impl Which {
    /// The word.
    pub(super) const fn name(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
            Self::SkirtFront => "front of the skirt",
            Self::SkirtBack => "back of the skirt",
        }
    }

    /// The piece of a pattern that has this dart.
    pub(super) fn piece_of(self, pattern: &Pattern, place: DartPlace) -> Option<&Piece> {
        let (covers, joined) = match self {
            Self::Front => (Covers::Front, false),
            Self::Back => (Covers::Back, false),
            Self::SkirtFront => (Covers::Front, true),
            Self::SkirtBack => (Covers::Back, true),
        };
        let is_it = |piece: &&Piece| {
            piece.kind.covers() == covers
                && !piece.kind.is_facing()
                && piece.kind.is_joined_skirt() == joined
                && piece.dart(place).is_some()
        };
        pattern.pieces.iter().find(is_it)
    }
}

ways! {
    /// The dart that becomes a pleat.
    Open {
        /// At the waist.
        Waist = "waist", "waist dart";
        /// At the waist, the outer one of two.
        WaistSide = "waist_side", "outer waist dart";
        /// At the seam under the bust.
        UnderBust = "under_bust", "dart under the bust";
        /// In the shoulder.
        Shoulder = "shoulder", "shoulder dart";
        /// In the neckline.
        Neckline = "neckline", "neck dart";
        /// In the armhole.
        Armhole = "armhole", "armhole dart";
        /// At the side.
        Side = "side", "side dart";
    }
}

impl Open {
    pub(super) const fn place(self) -> DartPlace {
        match self {
            Self::Waist => DartPlace::Waist,
            Self::WaistSide => DartPlace::WaistSide,
            Self::UnderBust => DartPlace::UnderBust,
            Self::Shoulder => DartPlace::Shoulder,
            Self::Neckline => DartPlace::Neckline,
            Self::Armhole => DartPlace::Armhole,
            Self::Side => DartPlace::Side,
        }
    }
}

const PARAMS: [Param; 3] = [
    Param::size(
        "Folds marked for",
        (0.0, 200.0),
        "How far from the seam its folds are marked and pressed: usually 50 mm.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way("piece", "Which piece", Which::WAYS, "The piece the dart is in.")
    },
    Param {
        told_where_chosen: true,
        ..Param::way("dart", "Which dart", Open::WAYS, "The dart that is left open.")
    },
];

const ABOUT: About = About {
    code: "pleat",
    name: "Pleat from a dart",
    why: "The dart is folded at its seam and falls open below it, not sewn to a point.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "a dart that reaches a seam is left open as a pleat: this pattern has none that is sewn still",
    layer: Layer::Finish,
};

/// A dart left open as a pleat.
pub(super) struct PleatFromDart;

impl Alteration for PleatFromDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice, Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let is_sewn = |piece: &Piece| piece.darts.iter().any(|dart| piece.pleat(dart.place).is_none());
        pattern.pieces.iter().any(|piece| !piece.kind.is_facing() && is_sewn(piece))
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        // The dart that is chosen; while that is none, the first there is.
        let chosen = args.choice::<Open>("dart").place();
        let has_it = args.choice::<Which>("piece").piece_of(pattern, chosen).map(|piece| (piece, chosen));
        let any = || pattern.pieces.iter().find_map(|piece| Some((piece, piece.darts.first()?.place)));
        let (piece, place) = has_it.or_else(any)?;
        let ((first, second), pivot) = (piece.mouth(place)?, piece.dart(place)?.pivot);
        let middle = first.midpoint(second);
        let along: Vec2 = (pivot - middle) / pivot.distance(middle);
        Some(Handle::new(piece.kind, middle, along))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (marked, which, open): (f64, Which, Open) =
            (args.amount(), args.choice("piece"), args.choice("dart"));
        let place = open.place();
        let none = || {
            AlterError::not_here(format!("the {} has no {} that reaches a seam", which.name(), place.name()))
        };
        let piece = which.piece_of(pattern, place).ok_or_else(none)?;
        if piece.pleat(place).is_some() {
            return Err(AlterError::not_here(format!(
                "the {} of the {} is a pleat already: change the step that made it",
                place.name(),
                which.name()
            )));
        }
        let (first, second) = piece.mouth(place).ok_or_else(none)?;
        let pivot = piece.dart(place).ok_or_else(none)?.pivot;
        let longest = first.distance(pivot).min(second.distance(pivot));
        if marked < LEAST || marked > longest {
            return Err(AlterError::not_here(format!(
                "its folds are marked from {} up to the {} that the dart is long, not {}",
                style.with_unit(LEAST),
                style.with_unit(longest),
                style.with_unit(marked)
            )));
        }
        let mut after = piece.clone();
        after.pleats.push(Pleat { place, marked });
        let wide = style.with_unit(first.distance(second));
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Mark the two folds of the {} for {} from the seam; it takes {wide}.",
                    place.name(),
                    style.with_unit(marked)
                ),
            ),
            (
                StageKind::True,
                "Fold the paper there towards the centre and cut the seam across the fold, as it is for the dart.".to_owned(),
            ),
        ];
        let done = altered(pattern, &[PieceWork::drawn(piece, after)], &words);
        Ok(done.and(FollowUp::reminder(format!(
            "The pleat on the {} is {wide} deep in all: fold it towards the centre, baste it along the seam and sew nothing below.",
            which.name()
        ))))
    }
}
