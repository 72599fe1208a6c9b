//! A waist dart that is too wide to sew flat becomes two (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::keeps::Keeps;
use super::move_dart;
use super::pivot::{Cut, closing, turned};
use super::told::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Given, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{
    DartPlace, Figure, Join, Pattern, Piece, Place, Seam, TwoPointedDart, WAIST_DART_LIMIT, back_off_points,
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
            let at_seam =
                piece.dart(DartPlace::Waist).is_some() && piece.dart(DartPlace::WaistSide).is_none();
            at_seam || (piece.dart(DartPlace::Waist).is_none() && piece.two_pointed.len() == 1)
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
        let piece =
            move_dart::piece_of(pattern, given).ok_or_else(|| move_dart::not_whole(pattern, given))?;
        if piece.dart(DartPlace::WaistSide).is_some() {
            return Err(AlterError::not_here(
                "its waist dart is split already: move the rest to another seam",
            ));
        }
        let no_dart =
            || AlterError::not_here(format!("the {} has no waist dart", piece.kind.name().to_lowercase()));
        if let ([dart], None) = (piece.two_pointed.as_slice(), piece.dart(DartPlace::Waist)) {
            return two_pointed(pattern, piece, dart, given, style);
        }
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

/// The second of two two-pointed darts is so much shorter than the first, above and below the waist.
const SHORTER: f64 = 0.85;
/// It keeps so far from the side, in millimetres.
const FROM_SIDE: f64 = 12.0;

/// A dart with two points shared with a second one nearer the side: together they take in what the one did.
fn two_pointed(
    pattern: &Pattern,
    piece: &Piece,
    dart: &TwoPointedDart,
    given: &Given<'_>,
    style: Style,
) -> Result<Altered, AlterError> {
    let (share, apart) = (given.amount(), given.of("apart"));
    let along = (dart.second - dart.first) / dart.intake();
    let middle = dart.first.midpoint(dart.second);
    let (own, other) = (dart.intake() * (1.0 - share), dart.intake() * share);
    let inner = with_mouth(dart, middle, along * own);
    let at = middle + along * (own / 2.0 + apart + other / 2.0);
    if piece.waist_at_side().is_some_and(|side| (side - at).dot(along) < other / 2.0 + FROM_SIDE) {
        return Err(AlterError::not_here(
            "there is no room for a second dart beside the first: nearer together",
        ));
    }
    let shorter = |point: Point| at + (point - middle) * SHORTER;
    let beside = TwoPointedDart { upper: shorter(dart.upper), lower: shorter(dart.lower), ..*dart };
    let mut outer = with_mouth(&beside, at, along * other);
    outer.point = outer.upper + (dart.point - dart.upper);
    let mut after = piece.clone();
    after.two_pointed = vec![inner, outer];
    let most = style.with_unit(WAIST_DART_LIMIT);
    let words = [
        (
            StageKind::Mark,
            format!(
                "Mark the second dart {} from the first along the waist, on the side, a little shorter both ways.",
                style.with_unit(apart)
            ),
        ),
        (
            StageKind::True,
            format!(
                "Draw both darts so that together they take in what the one did; neither should be above {most}. The waist stays \
                 as long as it was."
            ),
        ),
    ];
    let work = PieceWork::drawn(piece, after).with_line(&[
        dart.upper,
        dart.first,
        dart.lower,
        dart.second,
        dart.upper,
    ]);
    Ok(altered(pattern, &[work], &words))
}

/// A dart with the same points and a mouth of this width about `at`.
fn with_mouth(dart: &TwoPointedDart, at: Point, width: Vec2) -> TwoPointedDart {
    TwoPointedDart { first: at - width / 2.0, second: at + width / 2.0, ..*dart }
}
