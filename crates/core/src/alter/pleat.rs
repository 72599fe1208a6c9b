//! Pleat: a dart that is left open and folded at its seam instead of sewn to a point. Its mouth, and all that is measured with
//! the dart closed, stays as it is.

use kurbo::Vec2;

use super::keeps::Keeps;
use super::sewn_dart::{self, SewnDart};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Dart, Garment, Pattern, Pleat, Seam};

/// Folds shorter than this cannot be pressed, in millimetres.
const LEAST: f64 = 10.0;

const PARAMS: [Param; 3] = [
    Param::size(
        "Folds marked for",
        (0.0, 200.0),
        "How far from the seam its folds are marked and pressed: usually 50 mm.",
    ),
    sewn_dart::PIECE,
    sewn_dart::dart("The dart that is left open."),
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
        sewn_dart::GARMENTS
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        sewn_dart::is_in(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        sewn_dart::keeps()
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let SewnDart { piece, dart, mouth: (first, second), .. } = sewn_dart::grasped(pattern, args)?;
        let middle = first.midpoint(second);
        let along: Vec2 = (dart.pivot - middle) / dart.pivot.distance(middle);
        Some(Handle::new(piece.kind, middle, along))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let marked = args.amount();
        let chosen = sewn_dart::chosen(pattern, args)?;
        let SewnDart { piece, dart: &Dart { place, pivot, .. }, mouth: (first, second), of } = chosen;
        if chosen.is_pleat() {
            return Err(AlterError::not_here(format!(
                "the {} of the {of} is a pleat already: change the step that made it",
                place.name()
            )));
        }
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
            of
        ))))
    }
}
