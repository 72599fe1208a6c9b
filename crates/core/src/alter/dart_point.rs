//! Where the darts point: to her own bust point, and stitched to a little short of it.

use kurbo::{Point, Vec2};

use super::darts_in_the_way::end_outer_dart_short;
use super::keeps::{ARMHOLES, CENTRES, Keeps, NECKLINES};
use super::move_dart::not_whole;
use super::pivot::points_at;
use super::two_circles::draw_to;
use super::ways::{Body, Ways};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{
    DartPlace, Pattern, PatternMeasure, Piece, Seam, back_off_points, keep_side_length, true_underarm,
    true_waist,
};

const PARAMS: [Param; 4] = [
    Param::amount(
        "Down",
        MeasuredOn::Here,
        (-60.0, 60.0),
        "How far the darts' pivot moves down the front; negative moves it up.",
    ),
    Param::place(
        "out",
        "Out from the centre",
        (-40.0, 40.0),
        Some(0.0),
        "How far the pivot moves towards the side; negative moves it to the centre.",
    ),
    Param::way("piece", "Which piece", Body::WAYS, "The piece the darts are in."),
    Param::place(
        "back_off",
        "Stitched to",
        (0.0, 90.0),
        None,
        "How far short of the pivot the stitching ends. Left out, the usual: 25 in front, 12 behind.",
    ),
];

const ABOUT: About = About {
    code: "dart_point",
    name: "Dart points",
    why: "The darts point above, below or beside her bust, or are stitched too near to it.",
    params: &PARAMS,
    seams: &[Seam::DartLeg],
    wants: "this pattern has no dart of a bodice or a dress that reaches a seam",
    layer: Layer::Finish,
};

/// What it is told.
struct Params {
    /// How far the pivot moves, out and down, in millimetres.
    by: Vec2,
    piece: Body,
    /// How far short of the pivot the stitching ends, in millimetres; none as usual.
    back_off: Option<f64>,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self {
            by: Vec2::new(args.of("out"), args.amount()),
            piece: args.choice("piece"),
            back_off: args.number("back_off"),
        }
    }
}

/// The pivot of the darts moved, their points backed off.
pub(super) struct DartPoint;

impl Alteration for DartPoint {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.pieces.iter().any(|piece| !piece.kind.is_skirt() && !piece.darts.is_empty())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, CENTRES, &[PatternMeasure::ShoulderFront]]).within(0.7, &[ARMHOLES])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        let Params { by, piece, .. } = Params::of(args);
        match piece {
            Body::Front => {
                vec![(PatternMeasure::BustPointDepth, by.y), (PatternMeasure::BustSpan, 2.0 * by.x)]
            }
            Body::Back => Vec::new(),
        }
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        let Params { by, back_off, .. } = Params::of(args);
        by == Vec2::ZERO && back_off.is_none()
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let piece = Params::of(args).piece.upper_of(pattern)?;
        Some(Handle::new(piece.kind, pivot(piece)?, Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let Params { by, piece: which, back_off } = Params::of(args);
        let piece = which.upper_of(pattern).ok_or_else(|| not_whole(pattern, which))?;
        let old =
            pivot(piece).ok_or_else(|| AlterError::not_here("that piece has no dart that reaches a seam"))?;
        let drawn = moved_to(piece, old, old + by, back_off)?;
        let mut trued = drawn.clone();
        if [DartPlace::Side, DartPlace::Armhole].into_iter().any(|place| piece.dart(place).is_some()) {
            keep_square(piece, &mut trued);
        }
        end_outer_dart_short(&mut trued);
        let words = [
            (
                StageKind::Mark,
                format!("Mark the new pivot: {} from the old one.", way_of(by, style)),
            ),
            (StageKind::Move, "Draw the legs of each dart from its mouth to the new pivot.".to_owned()),
            (
                StageKind::True,
                "Make the legs equal by lengthening the shorter one, back the points off, and fold each dart to draw its \
                 seam across it."
                    .to_owned(),
            ),
        ];
        let work =
            PieceWork::drawn_and_trued(piece, drawn, trued).with_line(&[old, old + by]).with_hinge(old + by);
        Ok(altered(pattern, &[work], &words))
    }
}

/// How far and which way, in words; a way that no mark of the tape shows is left out.
fn way_of(by: Vec2, style: Style) -> String {
    let said = |mm: f64, less: &str, more: &str| {
        (!style.is_alike(mm, 0.0))
            .then(|| format!("{} {}", style.with_unit(mm.abs()), if mm < 0.0 { less } else { more }))
    };
    let ways: Vec<String> = said(by.y, "up", "down").into_iter().chain(said(by.x, "in", "out")).collect();
    if ways.is_empty() { "a thread".to_owned() } else { ways.join(" and ") }
}

/// The point the piece's darts turn about: the bust point in front, the waist dart's behind.
fn pivot(piece: &Piece) -> Option<Point> {
    let of = |place| piece.dart(place).map(|dart| dart.pivot);
    { [DartPlace::Side, DartPlace::Armhole, DartPlace::Waist, DartPlace::UnderBust].into_iter().find_map(of) }
        .or_else(|| piece.darts.first().map(|dart| dart.pivot))
}

/// Where a piece was square under the arm it stays so: a dart drawn elsewhere turns the seam above it.
fn keep_square(before: &Piece, after: &mut Piece) {
    let mut as_it_was = before.clone();
    if true_underarm(&mut as_it_was, UNDERARM_REACH).moved == 0.0 {
        true_underarm(after, UNDERARM_REACH);
    }
}

/// How much of the armhole is drawn anew to be square, in millimetres.
const UNDERARM_REACH: f64 = 40.0;

/// Every dart that turns about `old` drawn to `new`.
fn moved_to(piece: &Piece, old: Point, new: Point, back_off: Option<f64>) -> Result<Piece, AlterError> {
    let mut after = piece.clone();
    let darts = piece.darts.iter().filter(|dart| points_at(dart, old));
    let (places, pivots): (Vec<DartPlace>, Vec<Point>) =
        darts.map(|dart| (dart.place, dart.pivot + (new - old))).unzip();
    if new != old {
        for (place, pivot) in places.iter().zip(pivots) {
            draw_to(&mut after, *place, pivot)?;
        }
        if places.contains(&DartPlace::Side) {
            keep_side_length(&mut after, piece.sewn_length(Seam::Side));
        }
        if places.iter().any(|place| place.seam() == Seam::Waist) {
            true_waist(&mut after);
        }
    }
    back_off_points(&mut after);
    if let Some(back_off) = back_off {
        for dart in after.darts.iter_mut().filter(|dart| places.contains(&dart.place)) {
            let along = dart.point - dart.pivot;
            dart.point = dart.pivot + along / along.hypot() * back_off;
        }
    }
    Ok(after)
}
