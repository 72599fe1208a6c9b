//! Forward shoulder: a wedge from nothing at the neck side goes from one piece to the other, so that the seam lies
//! on the shoulder (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::armhole::shoulder_ends;
use super::keeps::{CENTRES, GIRTHS, Keeps, NECKLINES, SIDES};
use super::narrow_shoulder::{PLAIN_ARMHOLES, has_plain_armholes};
use super::sleeve::{self, BACK_CAP, FRONT_CAP};
use super::until_trued::until_trued;
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::geometry::quarter_turn;
use crate::pattern::{
    Join, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash, shoulder_direction, true_kinks,
    true_neck_side, true_tip,
};

/// The corner at the shoulder is trued square over this length, in millimetres.
const TIP_REACH: f64 = 30.0;
/// The neckline arrives square at the turned shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Forward",
    MeasuredOn::Here,
    (-20.0, 25.0),
    "How far the shoulder seam comes forward at the tip. Negative takes it back.",
)];

const ABOUT: About = About {
    code: "forward_shoulder",
    name: "Forward shoulder",
    why: "The shoulder joint lies forward of the seam: the seam slants back from the neck.",
    params: &PARAMS,
    seams: &[Seam::Shoulder],
    wants: PLAIN_ARMHOLES,
    layer: Layer::Fit,
};

/// The shoulder seam forward at the tip.
pub(super) struct ForwardShoulder;

impl Alteration for ForwardShoulder {
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
        Keeps::exactly(&[SIDES, CENTRES, GIRTHS]).within(1.0, &[NECKLINES])
    }

    fn drawn_from(&self) -> f64 {
        // Its tips are drawn anew.
        2.0
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![
            (PatternMeasure::ArmholeFront, -args.amount()),
            (PatternMeasure::ArmholeBack, args.amount()),
            (PatternMeasure::Armhole, 0.0),
        ]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let armhole = front.first_edge(Seam::Armhole)?;
        Some(Handle::new(front.kind, front.tip(), front.edges[armhole].curve.start_direction()))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let (giver, taker) = if by > 0.0 { (front, back) } else { (back, front) };
        let given_away = cut_back(giver, by.abs())?;
        let taken = built_out(taker, wedge(giver, &given_away), by.abs())?;
        let works = [
            PieceWork::drawn_and_trued(
                giver,
                given_away.clone(),
                trued(giver, -by.abs(), |by| cut_back(giver, -by))?,
            ),
            PieceWork::drawn_and_trued(
                taker,
                taken,
                trued(taker, by.abs(), |by| built_out(taker, wedge(giver, &given_away), by))?,
            ),
        ];
        let amount = style.with_unit(by.abs());
        let (from, to) = if by > 0.0 { ("front", "back") } else { ("back", "front") };
        let words = [
            (
                StageKind::Mark,
                format!(
                    "On the {from} mark {amount} down the armhole from the tip; rule from the neck side to it."
                ),
            ),
            (
                StageKind::Move,
                format!("Cut the wedge off the {from} and tape it to the {to} shoulder, dart folded."),
            ),
            (
                StageKind::True,
                "Rule both shoulders straight; walk them along each other, and the armhole over the seam."
                    .to_owned(),
            ),
        ];
        let mut altered = altered(pattern, &works, &words);
        let way = if by > 0.0 { "forward" } else { "back" };
        let follow = match altered.pattern.sleeve().filter(|_| sleeve::is_sleeve(pattern)) {
            Some(old) => {
                altered.pattern = altered.pattern.clone().with(crown_moved(old, by));
                FollowUp::done(format!("The notch at the top of the cap was moved {amount} {way} with it."))
            }
            None => FollowUp::reminder(format!(
                "The notch at the top of the sleeve cap goes {amount} {way} with it."
            )),
        };
        Ok(altered.and(follow))
    }
}

/// The piece without the wedge: its armhole begins further down.
fn cut_back(piece: &Piece, by: f64) -> Result<Piece, AlterError> {
    let armhole = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let tip = piece.edges[armhole].curve.point_at(by);
    shoulder_to(piece, Place { edge: armhole, along: by }, tip)
}

/// The shoulder ruled to another tip; of the armhole stays what begins at a place on it.
fn shoulder_to(piece: &Piece, from: Place, tip: Point) -> Result<Piece, AlterError> {
    let (_, to) = shoulder_ends(piece)?;
    let stays = Part::traced(from, to, Motion::Still);
    Ok(Slash { parts: vec![(stays, Join::ShoulderTo(tip))] }.trace(piece)?)
}

/// The wedge's tip in the frame of the shoulder it was cut from: along the seam outwards, and into the piece.
fn wedge(before: &Piece, after: &Piece) -> Vec2 {
    let along = shoulder_direction(before).unwrap_or_default();
    let off = after.tip() - before.tip();
    Vec2::new(off.dot(along), off.dot(quarter_turn(along)))
}

/// The piece with the wedge on its shoulder, outside the seam.
fn built_out(piece: &Piece, wedge: Vec2, by: f64) -> Result<Piece, AlterError> {
    let along = shoulder_direction(piece).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let armhole = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let old = piece.tip();
    let towards = along * wedge.x - quarter_turn(along) * wedge.y;
    // As long as what was taken off the other armhole: its bow over so short a stretch is nothing.
    let tip: Point = old + towards / towards.hypot() * by;
    shoulder_to(piece, Place::start_of(armhole), tip)
}

fn squared(mut piece: Piece) -> Piece {
    true_kinks(&mut piece, Seam::Armhole, TIP_REACH);
    true_tip(&mut piece, TIP_REACH);
    true_neck_side(&mut piece, NECK_REACH);
    piece
}

/// Drawn and trued, so that the armhole is longer by just the amount (shorter where it is negative) when its corner is square
/// again.
fn trued(
    piece: &Piece,
    by: f64,
    drawn: impl Fn(f64) -> Result<Piece, AlterError>,
) -> Result<Piece, AlterError> {
    let wanted = piece.flat_length(Seam::Armhole) + by;
    let drawn = |amount: f64| Ok(squared(drawn(amount)?));
    let range = if by > 0.0 { (by * 0.3, by * 2.0) } else { (by * 2.0, by * 0.3) };
    let amount = until_trued(range, wanted, drawn, |piece| piece.flat_length(Seam::Armhole));
    drawn(amount.unwrap_or(by))
}

/// Back and front of the cap divided further forward along its edge.
fn crown_moved(old: &Piece, by: f64) -> Piece {
    let mut after = old.clone();
    let whole = old.edges[BACK_CAP].curve.clone().then(old.edges[FRONT_CAP].curve.clone());
    let (back, front) = whole.split(old.edges[BACK_CAP].curve.length() + by);
    after.edges[BACK_CAP].curve = back;
    after.edges[FRONT_CAP].curve = front;
    after
}
