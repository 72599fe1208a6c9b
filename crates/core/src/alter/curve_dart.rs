//! Curved dart: its stitching lines are bowed between mouth and point, for a close fit. The dart turns and closes as it did: at the mouth and
//! at the point the curves run along the straight legs.

use kurbo::Vec2;

use super::keeps::Keeps;
use super::sewn_dart::{self, SewnDart};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Dart, DartStitching, Garment, Pattern, Seam};

/// A leg is bowed by no more than this part of its length (common practice, no source).
const MOST_OF_LEG: f64 = 0.08;

const PARAMS: [Param; 3] = [
    Param::amount(
        "Bowed by",
        MeasuredOn::Here,
        (-10.0, 10.0),
        "How far each stitching line lies outside the straight leg half-way: it takes in more there. Negative: inside, it takes in less.",
    ),
    sewn_dart::PIECE,
    sewn_dart::dart("The dart that is sewn along curves."),
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
        sewn_dart::GARMENTS
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        sewn_dart::is_in(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        sewn_dart::keeps()
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let SewnDart { piece, dart: &Dart { point, .. }, mouth: (first, second), .. } =
            sewn_dart::grasped(pattern, args)?;
        // Half-way along the leg, square to it, away from the dart.
        let along = (point - first) / first.distance(point);
        let out = Vec2::new(-along.y, along.x);
        let out = if out.dot(second - first) > 0.0 { -out } else { out };
        Some(Handle::new(piece.kind, first.midpoint(point), out))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let chosen = sewn_dart::chosen(pattern, args)?;
        let SewnDart { piece, dart: &Dart { place, point, .. }, mouth: (first, second), of } = chosen;
        if chosen.is_pleat() {
            return Err(AlterError::not_here(format!(
                "the {} of the {of} is a pleat: nothing of it is sewn that could be curved",
                place.name()
            )));
        }
        let most = MOST_OF_LEG * first.distance(point).min(second.distance(point));
        let before = piece.stitching(place);
        let bow = before.bow + by;
        if bow.abs() > most {
            return Err(AlterError::not_here(format!(
                "the {} of the {} can be bowed by {} at most, not {}",
                place.name(),
                of,
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
