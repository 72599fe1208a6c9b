//! Curved dart: its stitching lines are bowed between mouth and point, for a close fit. The dart turns and closes as it did: at the mouth and
//! at the point the curves run along the straight legs.

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::pleat::{Open, Which};
use super::ways::Ways;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{DartStitching, Garment, Pattern, Piece, Seam};

/// A leg is bowed by no more than this part of its length (common practice, no source).
const MOST_OF_LEG: f64 = 0.08;

const PARAMS: [Param; 3] = [
    Param::amount(
        "Bowed by",
        MeasuredOn::Here,
        (-10.0, 10.0),
        "How far each stitching line lies outside the straight leg half-way: it takes in more there. Negative: inside, it takes in less.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way("piece", "Which piece", Which::WAYS, "The piece the dart is in.")
    },
    Param {
        told_where_chosen: true,
        ..Param::way("dart", "Which dart", Open::WAYS, "The dart that is sewn along curves.")
    },
];

const ABOUT: About = About {
    code: "curve_dart",
    name: "Curved dart",
    why: "A close-fitting bodice stands off below the bust or over the ribs: the dart follows the body between its mouth and its point.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "a dart that reaches a seam is sewn along curves: this pattern has none that is sewn",
    layer: Layer::Finish,
};

/// Stitching lines of a dart bowed.
pub(super) struct CurveDart;

impl Alteration for CurveDart {
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
        let ((first, second), point) = (piece.mouth(place)?, piece.dart(place)?.point);
        // Half-way along the leg, square to it, away from the dart.
        let along = (point - first) / first.distance(point);
        let out = Vec2::new(-along.y, along.x);
        let out = if out.dot(second - first) > 0.0 { -out } else { out };
        Some(Handle::new(piece.kind, first.midpoint(point), out))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (by, which, dart): (f64, Which, Open) =
            (args.amount(), args.choice("piece"), args.choice("dart"));
        let place = dart.place();
        let none = || {
            AlterError::not_here(format!("the {} has no {} that reaches a seam", which.name(), place.name()))
        };
        let piece = which.piece_of(pattern, place).ok_or_else(none)?;
        if piece.pleat(place).is_some() {
            return Err(AlterError::not_here(format!(
                "the {} of the {} is a pleat: nothing of it is sewn that could be curved",
                place.name(),
                which.name()
            )));
        }
        let (first, second) = piece.mouth(place).ok_or_else(none)?;
        let point = piece.dart(place).ok_or_else(none)?.point;
        let most = MOST_OF_LEG * first.distance(point).min(second.distance(point));
        let before = piece.stitching(place);
        let bow = before.bow + by;
        if bow.abs() > most {
            return Err(AlterError::not_here(format!(
                "the {} of the {} can be bowed by {} at most, not {}",
                place.name(),
                which.name(),
                style.with_unit(most),
                style.with_unit(bow.abs())
            )));
        }
        let mut after = piece.clone();
        after.stitch(DartStitching { bow, ..before });
        let side = if bow < 0.0 { "inside" } else { "outside" };
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Mark half-way along both legs of the {}, {} {side} each.",
                    place.name(),
                    style.with_unit(bow.abs())
                ),
            ),
            (
                StageKind::True,
                "Draw each stitching line through its mark as a smooth curve that runs into the straight leg at the seam and at the point."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(piece, after)], &words))
    }
}
