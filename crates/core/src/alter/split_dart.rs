//! A waist dart that is too wide to sew flat becomes two (handbook: `alterations.md`, section 2).

use super::keeps::Keeps;
use super::move_dart;
use super::pivot::{Cut, closing, turned};
use super::told::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Given, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{
    DartPlace, Figure, Join, Pattern, Piece, Place, Seam, WAIST_DART_LIMIT, back_off_points,
};

const PARAMS: [Param; 3] = [
    Param {
        default: Some(0.5),
        ..Param::share(
            "amount",
            "Share of the second dart",
            (0.0, 0.8),
            None,
            "How much of the dart's angle goes to the one nearer the side.",
        )
    },
    Param::way("piece", "Which piece", &[("front", "front"), ("back", "back")], "The piece the dart is in."),
    Param::place(
        "apart",
        "Apart at the waist",
        (12.0, 60.0),
        Some(25.0),
        "How far the second dart lies from the first, along the waist.",
    ),
];

const ABOUT: About = About {
    code: "split_dart",
    name: "Split the waist dart",
    why: "A waist dart wider than 64 mm (2 1/2 in) does not sew flat: two share its intake.",
    params: &PARAMS,
    seams: &[Seam::DartLeg, Seam::Waist],
    wants: "no piece of this pattern has a single waist dart to split",
    layer: Layer::Shape,
};

/// One waist dart made two.
pub(super) struct SplitDart;

impl Alteration for SplitDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let can = |piece: &Piece| {
            piece.dart(DartPlace::Waist).is_some() && piece.dart(DartPlace::WaistSide).is_none()
        };
        pattern.pieces.iter().any(can)
    }

    fn keeps(&self, given: &Given<'_>) -> Keeps {
        move_dart::MoveDart.keeps(given)
    }

    fn grows(&self, _: &Given<'_>) -> Vec<(Figure, f64)> {
        Vec::new()
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, _: &Pattern, _: &Given<'_>) -> Option<Handle> {
        None
    }

    fn alter(&self, pattern: &Pattern, given: &Given<'_>, style: Style) -> Result<Altered, AlterError> {
        let piece = move_dart::piece_of(pattern, given)
            .ok_or_else(|| AlterError::not_here("that piece is not in the pattern"))?;
        if piece.dart(DartPlace::WaistSide).is_some() {
            return Err(AlterError::not_here(
                "its waist dart is split already: move the rest to another seam",
            ));
        }
        let no_dart =
            || AlterError::not_here(format!("the {} has no waist dart", piece.kind.name().to_lowercase()));
        let dart = piece.dart(DartPlace::Waist).ok_or_else(no_dart)?;
        let old = Cut::along(piece, DartPlace::Waist).ok_or_else(no_dart)?;
        let apart = given.of("apart");
        let along = old.before.along - apart;
        if along < apart / 2.0 {
            return Err(AlterError::not_here(
                "there is no room for a second dart beside the first: nearer together",
            ));
        }
        let new = Cut::at(Place { edge: old.before.edge, along });
        let turn = old.dart.map_or(0.0, |(_, opening)| opening) * given.amount();
        // The strip between the two turns towards the old dart and closes it by the share.
        let slash = turned(
            dart.pivot,
            turn,
            (new, Join::Dart(DartPlace::WaistSide, dart.pivot)),
            (old, closing(&old, turn, dart.pivot)),
        );
        let taped = slash.apply(piece)?;
        let mut trued = taped.clone();
        back_off_points(&mut trued);
        // The outer dart ends a little lower and beside the other, so that the points do not meet.
        if let Some(outer) = trued.darts.iter_mut().find(|dart| dart.place == DartPlace::WaistSide) {
            let to_point = outer.point - outer.pivot;
            outer.point = outer.pivot + to_point * 1.4;
        }
        let most = style.with_unit(WAIST_DART_LIMIT);
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Rule a line from the waist, {} from the dart, to its pivot.",
                    style.with_unit(apart)
                ),
            ),
            (StageKind::Cut, "Cut along it to the pivot, not through it.".to_owned()),
            (
                StageKind::Move,
                "Turn the strip towards the dart until both openings are as wide as they should be."
                    .to_owned(),
            ),
            (StageKind::Fill, "Tape paper behind the second opening.".to_owned()),
            (
                StageKind::True,
                format!(
                    "Draw both darts, the outer one shorter; neither should be above {most}. Fold them to draw the waist."
                ),
            ),
        ];
        Ok(altered(pattern, &[PieceWork::cut(piece, slash, taped, trued)], &words))
    }
}
