//! A waist dart that is too wide to sew flat becomes two (handbook: `alterations.md`, section 2).

use super::keeps::Keeps;
use super::move_dart;
use super::ways::{Body, Ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{
    Cut, DARTS_APART, DartPlace, Join, Pattern, Piece, Place, Seam, Slash, TwoPointedDart, WAIST_DART_LIMIT,
    back_off_points, closing, second_two_pointed_dart, turned,
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
    Param::way("piece", "Which piece", Body::WAYS, "The piece the dart is in."),
    Param::place(
        "apart",
        "Apart at the waist",
        (12.0, 60.0),
        Some(DARTS_APART),
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

/// What it is told.
#[derive(Clone, Copy)]
struct Params {
    /// The second dart's share of the angle.
    share: f64,
    piece: Body,
    /// How far apart the two lie along the waist, in millimetres.
    apart: f64,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self { share: args.amount(), piece: args.choice("piece"), apart: args.of("apart") }
    }
}

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
        pattern.pieces.iter().any(|piece| !piece.kind.is_skirt() && can(piece))
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        move_dart::MoveDart.keeps(args)
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, _: &Pattern, _: &Args<'_>) -> Option<Handle> {
        None
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let params = Params::of(args);
        let piece =
            { params.piece.piece_of(pattern) }.ok_or_else(|| move_dart::not_whole(pattern, params.piece))?;
        if piece.dart(DartPlace::WaistSide).is_some() {
            return Err(AlterError::not_here(
                "its waist dart is split already: move the rest to another seam",
            ));
        }
        let no_dart =
            || AlterError::not_here(format!("the {} has no waist dart", piece.kind.name().to_lowercase()));
        if let ([dart], None) = (piece.two_pointed.as_slice(), piece.dart(DartPlace::Waist)) {
            return two_pointed(pattern, piece, dart, params, style);
        }
        piece.dart(DartPlace::Waist).ok_or_else(no_dart)?;
        let Params { share, apart, .. } = params;
        let slash = second_waist_dart(piece, share, apart).ok_or_else(no_room)?;
        let taped = slash.apply(piece)?;
        let mut trued = taped.clone();
        back_off_points(&mut trued);
        end_second_dart_low(&mut trued);
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

fn no_room() -> AlterError {
    AlterError::not_here("there is no room for a second dart beside the first: nearer together")
}

/// A dart with two points shared with a second one nearer the side: together they take in what the one did.
fn two_pointed(
    pattern: &Pattern,
    piece: &Piece,
    dart: &TwoPointedDart,
    Params { share, apart, .. }: Params,
    style: Style,
) -> Result<Altered, AlterError> {
    let darts = second_two_pointed_dart(piece, dart, share, apart).ok_or_else(no_room)?;
    let after = Piece { two_pointed: darts.to_vec(), ..piece.clone() };
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

/// The second dart ends so much further from the pivot than the first, so that the points do not meet.
const LOWER: f64 = 1.4;

/// The cuts that give a share of the waist dart's angle to a second dart: the strip between the two turns towards the first and
/// closes it by as much. `None` where the piece has no waist dart, or no room for another beside it.
fn second_waist_dart(piece: &Piece, share: f64, apart: f64) -> Option<Slash> {
    let pivot = piece.dart(DartPlace::Waist)?.pivot;
    let old = Cut::along(piece, DartPlace::Waist)?;
    let along = old.before.along - apart;
    if along < apart / 2.0 {
        return None;
    }
    let new = Cut::at(Place { edge: old.before.edge, along });
    let turn = old.dart.map_or(0.0, |(_, opening)| opening) * share;
    Some(turned(
        pivot,
        turn,
        (new, Join::Dart(DartPlace::WaistSide, pivot)),
        (old, closing(&old, turn, pivot)),
    ))
}

/// Ends the second waist dart lower than the first.
fn end_second_dart_low(piece: &mut Piece) {
    if let Some(outer) = piece.darts.iter_mut().find(|dart| dart.place == DartPlace::WaistSide) {
        outer.point = outer.pivot + (outer.point - outer.pivot) * LOWER;
    }
}
