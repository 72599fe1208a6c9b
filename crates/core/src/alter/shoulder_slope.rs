//! Shoulder slope: the shoulder turns about the neck side, the armhole is carried with it (handbook:
//! `alterations.md`, section 2).

use kurbo::Vec2;

use super::armhole::{armhole_laid, shoulder_ends, with_underarms_level};
use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS};
use super::narrow_shoulder::{PLAIN_ARMHOLES, has_plain_armholes};
use super::ways::{Ways, ways};
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::geometry::turn_degrees;
use crate::pattern::{
    Join, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash, true_neck_side, true_tip,
};

/// Where the underarm stays, the armhole is re-drawn over this share of its length from the tip.
const REACH_SHARE: f64 = 2.0 / 3.0;
/// The corner at the shoulder is trued square over this length, in millimetres.
const TIP_REACH: f64 = 40.0;
/// The neckline arrives square at the turned shoulder over this length, in millimetres.
const NECK_REACH: f64 = 30.0;

ways! {
    /// What the underarm does.
    Underarm {
        /// It goes with the shoulder.
        Follows = "follows", "moves with the shoulder, so that the armhole keeps its shape";
        /// It stays where it is.
        Stays = "stays", "stays: the armhole changes";
    }
}

const PARAMS: [Param; 2] = [
    Param::amount(
        "Sloping",
        MeasuredOn::PerSide,
        (-25.0, 30.0),
        "How much further the tip drops below the neck side, front and back alike. Negative: squarer shoulders.",
    ),
    Param::way(
        "underarm",
        "The underarm",
        Underarm::WAYS,
        "Usually the whole armhole is carried and the side seam gives way; where the underarm is right, it stays and the \
         sleeve follows.",
    ),
];

const ABOUT: About = About {
    code: "shoulder_slope",
    name: "Shoulder slope",
    why: "Her shoulders slope more than the block's, or are squarer; one side alone makes left and right pieces.",
    params: &PARAMS,
    seams: &[Seam::Shoulder],
    wants: PLAIN_ARMHOLES,
    layer: Layer::Fit,
};

/// Sloping (positive) or square (negative) shoulders.
pub(super) struct ShoulderSlope;

impl Alteration for ShoulderSlope {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        has_plain_armholes(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        let keeps = Keeps::exactly(&[SHOULDERS, CENTRES, GIRTHS]).within(1.0, &[NECKLINES]);
        // Where the underarm stays, it is the armhole that changes.
        match args.choice("underarm") {
            Underarm::Stays => keeps,
            Underarm::Follows => keeps.within(1.5, &[ARMHOLES]),
        }
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::ShoulderDrop, args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.tip(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        if args.choice::<Underarm>("underarm") == Underarm::Stays {
            let work = |before: &Piece| -> Result<PieceWork, AlterError> {
                let taped = armhole_followed(before, by)?;
                let mut trued = taped.clone();
                true_tip(&mut trued, TIP_REACH);
                true_neck_side(&mut trued, NECK_REACH);
                Ok(PieceWork::drawn_and_trued(before, taped, trued).with_hinge(before.neck_side()))
            };
            let works = [work(front)?, work(back)?];
            return Ok(altered(pattern, &works, &words(by, None, style)));
        }
        let laid = |piece: &Piece| {
            let turn = shoulder_turn(piece, by)?;
            armhole_laid(piece, turn, turn.affine() * piece.tip())
        };
        let (moved_front, moved_back) = (laid(front)?, laid(back)?);
        let slide = -moved_front.rise.midpoint(moved_back.rise);
        let taped = [moved_front.piece.clone(), moved_back.piece.clone()];
        let (mut level_front, mut level_back) = with_underarms_level(moved_front, moved_back);
        for piece in [&mut level_front, &mut level_back] {
            true_neck_side(piece, NECK_REACH);
        }
        let works: Vec<PieceWork> = [front, back]
            .into_iter()
            .zip(taped)
            .zip([level_front, level_back])
            .map(|((before, taped), trued)| {
                PieceWork::drawn_and_trued(before, taped, trued).with_hinge(before.neck_side())
            })
            .collect();
        Ok(altered(pattern, &works, &words(by, Some(slide), style)))
    }
}

/// How the shoulder, with any dart in it, turns about the neck side until the tip has dropped by `by`.
fn shoulder_turn(piece: &Piece, by: f64) -> Result<Motion, AlterError> {
    let about = piece.neck_side();
    let reach = piece.tip() - about;
    let drop = reach.y + by;
    if drop.abs() >= reach.hypot() * 0.9 {
        return Err(AlterError::not_here("the shoulder would hang straight down: a smaller amount"));
    }
    let to = Vec2::new((reach.hypot2() - drop * drop).sqrt(), drop);
    Ok(Motion::Turn { about, by: turn_degrees(reach, to).to_radians() })
}

/// The shoulder turned and the armhole bent to its tip: the underarm stays.
fn armhole_followed(piece: &Piece, by: f64) -> Result<Piece, AlterError> {
    let first = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let (begins, ends) = shoulder_ends(piece)?;
    let reach = piece.edges[first].curve.length() * REACH_SHARE;
    let stays = Part::traced(Place::start_of(first), begins, Motion::Still);
    let turns = Part::traced(begins, ends, shoulder_turn(piece, by)?);
    Ok(Slash { parts: vec![(stays, Join::Meet), (turns, Join::Follow(reach))] }.trace(piece)?)
}

fn words(by: f64, slide: Option<f64>, style: Style) -> [(StageKind, String); 3] {
    let way = if by > 0.0 { "lower" } else { "higher" };
    let armhole = match slide {
        Some(slide) => format!(
            "Trace the armhole and carry it with the tip; its lower end stays on the side seam's line, which becomes {} {}.",
            style.with_unit(slide.abs()),
            if slide > 0.0 { "shorter" } else { "longer" }
        ),
        None => {
            "Draw the armhole from the new tip into the old line at two thirds of the way down.".to_owned()
        }
    };
    [
        (
            StageKind::Mark,
            format!("Turn the shoulder about the neck side: its tip is {} {way}, its length stays.", style.with_unit(by.abs())),
        ),
        (StageKind::Move, armhole),
        (
            StageKind::True,
            "Square the armhole to shoulder and side seam, front and back underarm at one height; lay the shoulders together."
                .to_owned(),
        ),
    ]
}
