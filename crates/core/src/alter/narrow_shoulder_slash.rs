//! Narrow shoulder by slash: the other school. The corner of the shoulder laps, the underarm stays where it is
//! (handbook: `alterations.md`, section 2).

use kurbo::Point;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SIDES};
use super::narrow_shoulder::{PLAIN_ARMHOLES, has_plain_armholes};
use super::pivot::on_seam;
use super::until_trued::until_trued;
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::pattern::{
    DartPlace, Join, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash, across_level,
    redraw_shoulder, true_kinks, true_neck_side, true_tip,
};

/// Truing reach at the hinge, in millimetres.
const HINGE_REACH: f64 = 12.0;
/// The corner at the shoulder is trued square over this length, in millimetres.
const TIP_REACH: f64 = 40.0;
/// The neckline arrives square at the straightened shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Narrower",
    MeasuredOn::PerSide,
    (-20.0, 25.0),
    "By how much the shoulder becomes shorter, front and back alike. Negative makes it longer.",
)];

const ABOUT: About = About {
    code: "narrow_shoulder_slash",
    name: "Narrow shoulder by slash",
    why: "The shoulders stand too far out (or in) while armhole, sleeve and underarm fit.",
    params: &PARAMS,
    seams: &[Seam::Shoulder, Seam::Armhole],
    wants: PLAIN_ARMHOLES,
    layer: Layer::Fit,
};

/// The corner of the shoulder lapped or spread about a hinge on the armhole.
pub(super) struct NarrowShoulderSlash;

impl Alteration for NarrowShoulderSlash {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        has_plain_armholes(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[SIDES, CENTRES, GIRTHS]).within(1.0, &[NECKLINES]).within(1.5, &[ARMHOLES])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::ShoulderFront, -args.amount()), (PatternMeasure::ShoulderBack, -args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let shoulder = front.last_edge(Seam::Shoulder)?;
        Some(Handle::new(front.kind, front.tip(), -front.edges[shoulder].curve.end_direction()))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let works: Vec<PieceWork> = [pattern.front(), pattern.back()]
            .into_iter()
            .flatten()
            .map(|piece| {
                let (slash, taped, trued) = lapped(piece, by)?;
                Ok(PieceWork::cut(piece, slash, taped, trued))
            })
            .collect::<Result<_, AlterError>>()?;
        let lap = if by > 0.0 { "laps" } else { "opens" };
        let words = [
            (
                StageKind::Mark,
                "Rule from the middle of the shoulder straight down to chest level, then out to the armhole: the hinge is on its \
                 stitching line."
                    .to_owned(),
            ),
            (StageKind::Cut, "Cut from the shoulder to the hinge, not through it.".to_owned()),
            (
                StageKind::Move,
                format!("Swing the corner about the hinge until the shoulder {lap} by {}.", style.with_unit(by.abs())),
            ),
            (
                StageKind::True,
                "Rule the shoulder straight from neck side to tip; smooth the armhole at the hinge and square it to the shoulder."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

/// The corner turned until the straightened shoulder is shorter by just the amount.
fn lapped(piece: &Piece, by: f64) -> Result<(Slash, Piece, Piece), AlterError> {
    let armhole = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let curve = &piece.edges[armhole].curve;
    let along = curve.crossing_level(across_level(piece)).unwrap_or(curve.length() / 2.0);
    let hinge = Place { edge: armhole, along };
    let from = cut_place(piece)?;
    let slash = |turn: f64| corner_turned(piece, from, hinge, turn);
    let wanted = piece.sewn_length(Seam::Shoulder) - by;
    let straightened = |turn: f64| -> Result<Piece, AlterError> {
        let mut after = slash(turn).apply(piece)?;
        let tip = after.tip();
        redraw_shoulder(&mut after, tip);
        Ok(after)
    };
    let shoulder = |piece: &Piece| piece.sewn_length(Seam::Shoulder);
    let turn = until_trued((-0.6, 0.6), wanted, straightened, shoulder).ok_or_else(|| {
        AlterError::not_here(
            "the corner of the shoulder cannot be turned so far: a smaller amount, or another size",
        )
    })?;
    let slash = slash(turn);
    let taped = straightened(turn)?;
    let mut trued = taped.clone();
    true_kinks(&mut trued, Seam::Armhole, HINGE_REACH);
    true_tip(&mut trued, TIP_REACH);
    true_neck_side(&mut trued, NECK_REACH);
    Ok((slash, taped, trued))
}

/// Mid shoulder; the middle of its outer half where a dart breaks it.
fn cut_place(piece: &Piece) -> Result<Place, AlterError> {
    if piece.dart(DartPlace::Shoulder).is_none() {
        return on_seam(piece, Seam::Shoulder, 0.5);
    }
    let edge = piece.last_edge(Seam::Shoulder).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    Ok(Place { edge, along: piece.edges[edge].curve.length() / 2.0 })
}

fn corner_turned(piece: &Piece, from: Place, hinge: Place, turn: f64) -> Slash {
    let at = |place: Place| piece.edges[place.edge].curve.point_at(place.along);
    let about = at(hinge);
    let corner = Point::new(at(from).x, about.y);
    let moving = Part { from, to: hinge, inner: vec![corner], motion: Motion::Turn { about, by: turn } };
    let rest = Part { from: hinge, to: from, inner: vec![corner], motion: Motion::Still };
    Slash { parts: vec![(rest, Join::Gap(Seam::Shoulder)), (moving, Join::Meet)] }
}
