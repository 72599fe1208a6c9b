//! A dart that reaches a seam, chosen by its piece and its place: what is done to how it is sewn keeps every seam as it is.

use kurbo::Point;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::ways::{Ways, ways};
use super::{AlterError, Args, Param};
use crate::pattern::{Covers, Dart, DartPlace, Garment, Pattern, Piece};

/// Garments whose darts are chosen so.
pub(super) const GARMENTS: &[Garment] = &[Garment::Bodice, Garment::Skirt];

ways! {
    /// The piece a dart is in.
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
    const fn name(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
            Self::SkirtFront => "front of the skirt",
            Self::SkirtBack => "back of the skirt",
        }
    }

    /// The piece of a pattern that has this dart.
    fn piece_of(self, pattern: &Pattern, place: DartPlace) -> Option<&Piece> {
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
    /// Where a dart's mouth is.
    At {
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

impl At {
    const fn place(self) -> DartPlace {
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

/// The choice of the piece.
pub(super) const PIECE: Param = Param {
    told_where_chosen: true,
    ..Param::way("piece", "Which piece", Which::WAYS, "The piece the dart is in.")
};

/// The choice of the dart, and what is done to it.
pub(super) const fn dart(why: &'static str) -> Param {
    Param { told_where_chosen: true, ..Param::way("dart", "Which dart", At::WAYS, why) }
}

/// How a dart is sewn moves no seam and no girth.
pub(super) fn keeps() -> Keeps {
    Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
}

/// Whether there is a dart that is sewn.
pub(super) fn is_in(pattern: &Pattern) -> bool {
    let is_sewn = |piece: &Piece| piece.darts.iter().any(|dart| piece.pleat(dart.place).is_none());
    pattern.pieces.iter().any(|piece| !piece.kind.is_facing() && is_sewn(piece))
}

/// A dart of a pattern.
pub(super) struct SewnDart<'a> {
    pub(super) piece: &'a Piece,
    pub(super) dart: &'a Dart,
    /// The ends of its mouth, in the order of the outline.
    pub(super) mouth: (Point, Point),
    /// What its piece is called where it is chosen.
    pub(super) of: &'static str,
}

impl<'a> SewnDart<'a> {
    fn of(piece: &'a Piece, place: DartPlace, of: &'static str) -> Option<Self> {
        Some(Self { piece, dart: piece.dart(place)?, mouth: piece.mouth(place)?, of })
    }

    /// Whether it is folded as a pleat, and not sewn.
    pub(super) fn is_pleat(&self) -> bool {
        self.piece.pleat(self.dart.place).is_some()
    }
}

/// The dart that is chosen.
///
/// # Errors
///
/// [`AlterError`]: the piece has none there.
pub(super) fn chosen<'a>(pattern: &'a Pattern, args: &Args<'_>) -> Result<SewnDart<'a>, AlterError> {
    let (which, place) = (args.choice::<Which>("piece"), args.choice::<At>("dart").place());
    let piece = which.piece_of(pattern, place);
    piece.and_then(|piece| SewnDart::of(piece, place, which.name())).ok_or_else(|| {
        AlterError::not_here(format!("the {} has no {} that reaches a seam", which.name(), place.name()))
    })
}

/// The dart that is taken hold of: the one that is chosen; while that is none, the first there is.
pub(super) fn grasped<'a>(pattern: &'a Pattern, args: &Args<'_>) -> Option<SewnDart<'a>> {
    let first =
        || pattern.pieces.iter().find_map(|piece| SewnDart::of(piece, piece.darts.first()?.place, ""));
    chosen(pattern, args).ok().or_else(first)
}
