//! Sleeve in one with the body: front and back go on over the shoulder into the sleeve, as far from the nape as she wishes
//! (handbook: `wishes.md`, section 6).

use super::arm::{self, Arm, MOST_BELOW_WRIST};
use super::cut_in_one_parts::{Asked, InOne, cut_in_one};
use super::keeps::{CENTRES, Keeps, NECKLINES, SHOULDERS};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Piece, Seam, measure};

/// A sleeve goes at least so far beyond the shoulder point, in millimetres.
const LEAST_SLEEVE: f64 = 20.0;
/// Where nothing else is wished the edge is so much wider than her arm there, the first that there is room for, in millimetres
/// (common practice, no source).
const ROOM_AT_EDGE: [f64; 3] = [60.0, 45.0, 30.0];
/// Where it was not measured an arm is so long, in millimetres (common practice, no source).
const USUAL_ARM: f64 = 585.0;
/// Her upper arm is measured so far down from the shoulder point, in millimetres (common practice, no source).
const UPPER_ARM_LEVEL: f64 = 130.0;
/// A sleeve that is set in is so much wider at the biceps line than her upper arm where that was not measured, in
/// millimetres (common practice, no source).
const USUAL_EASE: f64 = 50.0;

ways! {
    /// How the overarm falls.
    Falls {
        /// The first that closes, from the fullest on.
        AsCloses = "closes", "as it closes best";
        /// On in the shoulder's own slope.
        Shoulder = "shoulder", "as the shoulder slopes";
        /// A little more.
        Little = "little", "4\u{b0} more than the shoulder";
        /// More.
        More = "more", "8\u{b0} more than the shoulder";
        /// Steeply: less cloth under the arm, less room to lift it.
        Steep = "steep", "16\u{b0} more than the shoulder";
    }
}

impl Falls {
    /// In degrees below the shoulder's slope, in the order they are tried.
    const fn degrees(self) -> &'static [f64] {
        match self {
            Self::AsCloses => &[8.0, 4.0, 0.0],
            Self::Shoulder => &[0.0],
            Self::Little => &[4.0],
            Self::More => &[8.0],
            Self::Steep => &[16.0],
        }
    }
}

const PARAMS: [Param; 11] = [
    Param::size(
        "Nape to the sleeve's edge",
        (0.0, 900.0),
        "From the nape over the shoulder point to where the sleeve ends.",
    ),
    Param::place(
        "shoulder_width",
        "Her shoulder width",
        (300.0, 560.0),
        None,
        "From shoulder point to shoulder point: half of it is no sleeve yet. Left out, as the block has it.",
    ),
    Param::place(
        "opening",
        "Round at the edge",
        (180.0, 900.0),
        None,
        "How wide the sleeve is at its edge. Left out, her arm there and 60 mm, less where there is no room for that; never less than the hand wants.",
    ),
    Param::way("falls", "The overarm falls", Falls::WAYS, "How steeply the sleeve hangs from the shoulder."),
    Param {
        why: "Round: how low the sleeve is set on. Left out, as the block's sleeve has it.",
        ..arm::UPPER_ARM
    },
    Param { why: "Round, for a sleeve that ends near it.", ..arm::ELBOW },
    arm::WRIST,
    arm::HAND,
    Param { why: "From the shoulder point to the wrist: where elbow and wrist lie.", ..arm::ARM_LENGTH },
    Param::place(
        "to_wrist",
        "Her nape to the wrist",
        (600.0, 1000.0),
        None,
        "Over the shoulder point. Where her arm's length was not taken it is what lies beyond the shoulder point.",
    ),
    Param::place(
        "to_elbow",
        "Her nape to the elbow",
        (350.0, 750.0),
        None,
        "Over the shoulder point: where her elbow lies. Left out, a little below the middle of her arm.",
    ),
];

const ABOUT: About = About {
    code: "cut_in_one",
    name: "Sleeve in one with the body",
    why: "She wishes no seam where the sleeve is set in: front and back go on into the sleeve, with a seam over the arm and one \
          under it. It comes after all corrections of shoulder and armhole.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Overarm, Seam::SleeveEdge],
    wants: "a sleeve in one is drawn on a whole front and back with shoulder, armhole and side seam: here one of them is parted, or \
            has no armhole any more",
    layer: Layer::Shape,
};

/// What it is told, in millimetres.
struct Wish {
    from_nape: f64,
    shoulder_width: Option<f64>,
    opening: Option<f64>,
    falls: Falls,
    arm: arm::Told,
    to_wrist: Option<f64>,
    to_elbow: Option<f64>,
}

impl Wish {
    fn of(args: &Args<'_>) -> Self {
        let number = |code| args.number(code);
        Self {
            from_nape: args.amount(),
            shoulder_width: number("shoulder_width"),
            opening: number("opening"),
            falls: args.choice("falls"),
            arm: arm::Told::of(args),
            to_wrist: number("to_wrist"),
            to_elbow: number("to_elbow"),
        }
    }

    /// From the nape to the shoulder point.
    fn to_shoulder(&self, back: &Piece) -> f64 {
        self.shoulder_width.map_or_else(|| back.neck_base_top().distance(back.tip()), |width| width / 2.0)
    }

    /// The sleeve on this pattern, within its limits.
    fn asked(&self, pattern: &Pattern, back: &Piece, style: Style) -> Result<Asked, AlterError> {
        let to_shoulder = self.to_shoulder(back);
        let length = self.from_nape - to_shoulder;
        if length < LEAST_SLEEVE {
            return Err(AlterError::not_here(format!(
                "{} from the nape ends on the shoulder: at least {}",
                style.with_unit(self.from_nape),
                style.with_unit(to_shoulder + LEAST_SLEEVE)
            )));
        }
        let arm_length = self.arm.length.or_else(|| self.to_wrist.map(|mm| mm - to_shoulder));
        if let Some(most) = arm_length.map(|arm| arm + MOST_BELOW_WRIST).filter(|most| length > *most) {
            return Err(AlterError::not_here(format!(
                "{} from the nape ends more than {} below her wrist: at most {}",
                style.with_unit(self.from_nape),
                style.with_unit(MOST_BELOW_WRIST),
                style.with_unit(to_shoulder + most)
            )));
        }
        let upper_arm = self
            .arm
            .upper_arm
            .or_else(|| Some(measure(pattern).get(PatternMeasure::CapWidth)? - USUAL_EASE))
            .ok_or_else(|| {
                AlterError::not_here("how wide the sleeve is goes by her upper arm: say what it is round")
            })?;
        let told = arm::Told { upper_arm: Some(upper_arm), ..self.arm };
        let arm_length = arm_length.unwrap_or(USUAL_ARM);
        let elbow = self.to_elbow.map(|mm| mm - to_shoulder);
        if let Some(elbow) = elbow.filter(|elbow| !(UPPER_ARM_LEVEL..arm_length).contains(elbow)) {
            return Err(AlterError::not_here(format!(
                "an elbow {} beyond the shoulder point does not lie between her upper arm and her wrist: look at nape to elbow and \
                 shoulder width",
                style.with_unit(elbow)
            )));
        }
        let arm = Arm::of(&told, arm_length, UPPER_ARM_LEVEL, elbow);
        let there = arm.at(length).unwrap_or(upper_arm);
        let openings = match self.opening {
            Some(opening) => {
                arm::lets_through(opening, told.through(), "", style)?;
                arm.goes_through(opening, length, style)?;
                vec![opening]
            }
            None => ROOM_AT_EDGE.map(|room| (there + room).max(told.through().unwrap_or_default())).into(),
        };
        Ok(Asked { length, to_shoulder, openings, upper_arm, falls: self.falls.degrees() })
    }
}

/// Front and back drawn on into the sleeve.
pub(super) struct CutInOne;

impl Alteration for CutInOne {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let has_all = |piece: &Piece| {
            [Seam::Neckline, Seam::Shoulder, Seam::Armhole, Seam::Side]
                .into_iter()
                .all(|seam| piece.first_edge(seam).is_some())
        };
        pattern.front().is_some_and(has_all) && pattern.back().is_some_and(has_all)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, CENTRES, &[PatternMeasure::Waist, PatternMeasure::Hip]])
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let (front, back) = pattern.front().zip(pattern.back())?;
        let along = front.tip() - front.neck_side();
        let along = along / along.hypot();
        // The amount is told from the nape.
        Some(Handle::new(front.kind, front.tip() - along * Wish::of(args).to_shoulder(back), along))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let wish = Wish::of(args);
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let asked = wish.asked(pattern, back, style)?;
        let made = cut_in_one(front, back, &asked, style)?;
        let words = words(&asked, &made, style);
        let narrower = made.narrower;
        let works = [PieceWork::drawn(front, made.front), PieceWork::drawn(back, made.back)];
        let done = altered(pattern, &works, &words);
        let done = if style.is_alike(narrower, 0.0) {
            done
        } else {
            done.and(FollowUp::reminder(format!(
                "It is set on as low as the waist leaves room for, and {} narrower there than an arm of {} wants it.",
                style.with_unit(narrower),
                style.with_unit(asked.upper_arm)
            )))
        };
        Ok([
            "No sleeve is cut, and no armhole is left to set one into.",
            "Under the arm the seam is clipped round the turn and held by a tape, or it tears there.",
        ]
        .into_iter()
        .fold(done, |done, says| done.and(FollowUp::reminder(says))))
    }
}

fn words(asked: &Asked, made: &InOne, style: Style) -> [(StageKind, String); 3] {
    let unit = |mm: f64| style.with_unit(mm);
    let falls = match made.falls {
        0.0 => "as the shoulder slopes".to_owned(),
        degrees => format!("falling {degrees:.0}\u{b0} more than the shoulder"),
    };
    [
        (
            StageKind::Mark,
            format!(
                "Turn the darts away from shoulder and side. Draw the back's shoulder straight, as long as it is sewn. From just above \
                 the shoulder point draw the overarm, {falls}, until the seam is {} beyond the shoulder; there draw the edge square to \
                 it, {} round front and back together.",
                unit(asked.length),
                unit(made.opening)
            ),
        ),
        (
            StageKind::Move,
            format!(
                "Set the sleeve on {} below the old underarm, front and back alike: draw the underarm seam square from the edge and round \
                 into the side seam.",
                unit(made.lower)
            ),
        ),
        (
            StageKind::True,
            format!(
                "Walk the seams over and under the arm, front along back: the one under it is {} on both.",
                unit(made.underarm)
            ),
        ),
    ]
}
