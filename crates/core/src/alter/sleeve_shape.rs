//! Sleeve to her wish: as long and as wide at its edge as she wants it, its cap untouched (handbook: `wishes.md`, section 5).

use kurbo::{Point, Vec2};

use super::arm::{self, Arm, MOST_BELOW_WRIST};
use super::cuffs;
use super::elbow_dart::{self, longer_behind};
use super::keeps::Keeps;
use super::sleeve::{BACK_CAP, BACK_SEAM, FRONT_CAP, FRONT_SEAM, HEM, crown, is_sleeve};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Amounts, Args, Handle, Layer, MeasuredOn, Param, StageKind,
};
use crate::Style;
use crate::ease::ArmEase;
use crate::geometry::{Curve, bend, house_curve, reach_within, root};
use crate::pattern::{Gather, Level, LevelName, Pattern, PatternMeasure, Piece, Seam};

/// A sleeve ends at least so far below its biceps line, in millimetres.
const LEAST_BELOW_CAP: f64 = 25.0;
/// A sleeve that ends less than this below the elbow is not shaped there, in millimetres.
const PAST_ELBOW: f64 = 40.0;
/// The forearm hangs so far forward at the wrist, in millimetres (common practice, no source).
const FORWARD: f64 = 12.0;
/// A hem so much narrower than the biceps line, as a share of it, follows the forearm fully (common practice, no source).
const FOLLOWS_FOREARM: f64 = 0.25;
/// A gathered hem is so many times as wide as its opening unless told otherwise, and at most (common practice, no source).
const GATHERED: f64 = 1.5;
const MOST_GATHERED: f64 = 2.5;
/// Gathers begin so far from the seam, in millimetres.
const PLAIN_AT_SEAM: f64 = 20.0;
/// The kink at the elbow is drawn round over this length either way, in millimetres.
const ROUNDED: f64 = 60.0;
/// A seam leans at most so far from the arm, in degrees.
const MOST_LEAN: f64 = 25.0;
/// How much wider than her arm a sleeve may be, in millimetres.
const LEAST_TO_MOST_EASE: (f64, f64) = (-30.0, 250.0);
/// A slit is at least so long, in millimetres, and at most such a share of the seam.
const LEAST_SLIT: f64 = 60.0;
const MOST_SLIT: f64 = 0.5;

ways! {
    /// How the hand gets through.
    Opens {
        /// Through the closed hem.
        Closed = "closed", "closed, over the hand";
        /// Through a slit in the seam.
        Slit = "slit", "with a slit";
        /// Through a cuff that opens.
        Cuff = "cuff", "with a cuff that opens";
    }
}

ways! {
    /// How the hem lies.
    Lies {
        /// As wide as the opening.
        Flat = "flat", "flat";
        /// Wider, drawn in.
        Gathered = "gathered", "gathered";
    }
}

const PARAMS: [Param; 14] = [
    Param::size(
        "Length",
        (0.0, 760.0),
        "From the shoulder point down to the finished edge, cuff included. Left out, as long as it is.",
    ),
    Param::place(
        "opening",
        "Round at the edge",
        (140.0, 900.0),
        None,
        "How wide the sleeve is at its edge. Left out, her arm there and the ease, or as wide as it is where her arm is not known; never less than the hand wants.",
    ),
    Param::place(
        "ease",
        "Ease along the arm",
        LEAST_TO_MOST_EASE,
        Some(50.0),
        "How much wider than her arm it is: at the upper arm, and at elbow and wrist where nothing else is said.",
    ),
    Param::place("ease_elbow", "Ease at the elbow", LEAST_TO_MOST_EASE, None, "Left out, as along the arm."),
    Param::place(
        "ease_wrist",
        "Ease at the wrist",
        LEAST_TO_MOST_EASE,
        None,
        "Left out, as along the arm. In between it is in between.",
    ),
    Param::way("opens", "The edge", Opens::WAYS, "How the hand gets through."),
    Param::way("lies", "The hem lies", Lies::WAYS, "Flat, or drawn in to the opening."),
    Param::place(
        "gathered_from",
        "Gathered from",
        (150.0, 1500.0),
        None,
        "How wide a gathered hem is before it is drawn in. Left out, one and a half times the opening, at most as wide as the sleeve.",
    ),
    Param::place("cuff", "Cuff height", (0.0, 250.0), Some(0.0), "How much of the length is the cuff's."),
    arm::UPPER_ARM,
    arm::ELBOW,
    arm::WRIST,
    arm::HAND,
    arm::ARM_LENGTH,
];

const ABOUT: About = About {
    code: "sleeve_shape",
    name: "Sleeve to her wish",
    why: "She wishes the sleeve short, to the elbow, three-quarter or long, and so wide at its edge.",
    params: &PARAMS,
    seams: &[Seam::UnderSleeve, Seam::Hem],
    wants: "a one-piece sleeve with one seam under the arm is wanted: this pattern has none",
    layer: Layer::Shape,
};

/// What it is told, in millimetres.
struct Wish {
    length: Option<f64>,
    opening: Option<f64>,
    ease: ArmEase,
    opens: Opens,
    lies: Lies,
    gathered_from: Option<f64>,
    cuff: f64,
    arm: arm::Told,
}

impl Wish {
    fn of(args: &Args<'_>) -> Self {
        let number = |code| args.number(code);
        let ease = args.of("ease");
        Self {
            length: number("amount").filter(|mm| *mm > 0.0),
            opening: number("opening"),
            ease: ArmEase {
                upper_arm: ease,
                elbow: number("ease_elbow").unwrap_or(ease),
                wrist: number("ease_wrist").unwrap_or(ease),
            },
            opens: args.choice("opens"),
            lies: args.choice("lies"),
            gathered_from: number("gathered_from"),
            cuff: args.of("cuff"),
            arm: arm::Told::of(args),
        }
    }
}

/// The sleeve shaped.
pub(super) struct SleeveShape;

impl Alteration for SleeveShape {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[PatternMeasure::CapLength, PatternMeasure::CapHeight, PatternMeasure::CapWidth]])
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        let Wish { length, opening, opens, lies, cuff, .. } = Wish::of(args);
        length.is_none() && opening.is_none() && (opens, lies) == (Opens::Closed, Lies::Flat) && cuff == 0.0
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        let hem = &sleeve.edges[HEM].curve;
        let middle = hem.point_at(hem.length() / 2.0);
        // The amount is told from the crown.
        Some(Handle::new(sleeve.kind, Point::new(middle.x, crown(sleeve).y), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let shape = Shape::of(sleeve, &Wish::of(args), style)?;
        let mut drawn = shape.drawn(sleeve, style)?;
        let words = shape.words(style);
        let over_the_elbow = longer_behind(&drawn);
        let slit = shape.slit(&drawn, style)?;
        drawn.slit = slit;
        let mut done = altered(pattern, &[PieceWork::drawn(sleeve, drawn)], &words);
        if over_the_elbow > 1.0 {
            let longer = style.with_unit(over_the_elbow);
            let eased =
                format!("The back seam is {longer} longer than the front one: it is eased over the elbow");
            done = done.and(if over_the_elbow < elbow_dart::LEAST {
                FollowUp::reminder(format!("{eased}."))
            } else {
                let offered = format!("{eased}, or sewn into a dart there.");
                FollowUp::offered(offered, "elbow_dart", Amounts::of(over_the_elbow))
            });
        }
        if let Some(slit) = slit {
            done = done.and(FollowUp::reminder(format!(
                "A slit of {} from the edge up the seam, to the notches, lets the hand through.",
                style.with_unit(slit)
            )));
        }
        done.follow_ups.extend(shape.elbow_wants_more(style));
        done.follow_ups.extend(shape.cuff(style));
        Ok(done)
    }
}

/// A sleeve as it is to be. Levels are told from the crown, in millimetres.
struct Shape {
    /// The whole length, with the cuff.
    length: f64,
    cuff: f64,
    /// What goes round the arm at the edge, and the hem before it is drawn in.
    opening: f64,
    hem: f64,
    opens: Opens,
    /// What lets her hand through, where it is known.
    through: Option<f64>,
    biceps: f64,
    width: f64,
    middle: f64,
    arm: Arm,
    /// How much wider than her arm it is.
    ease: ArmEase,
}

impl Shape {
    fn of(sleeve: &Piece, wish: &Wish, style: Style) -> Result<Self, AlterError> {
        let top = crown(sleeve).y;
        let (back, front) = (sleeve.edges[BACK_CAP].curve.start(), sleeve.edges[FRONT_CAP].curve.end());
        let hem = &sleeve.edges[HEM].curve;
        let is_long = hem.point_at(hem.length() / 2.0).y - top;
        let (length, arm_length) = (wish.length.unwrap_or(is_long), wish.arm.length.unwrap_or(is_long));
        let biceps = back.midpoint(front).y - top;
        let arm = Arm::of(&wish.arm, arm_length, biceps, None);
        let least = biceps + LEAST_BELOW_CAP;
        if length - wish.cuff < least {
            return Err(AlterError::not_here(format!(
                "a sleeve {} long ends within the cap: at least {}",
                style.with_unit(length - wish.cuff),
                style.with_unit(least)
            )));
        }
        if wish.arm.length.is_some() && length > arm_length + MOST_BELOW_WRIST {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                length,
                arm_length + MOST_BELOW_WRIST,
                "that her arm is long, with 60 mm over the hand",
                "a shorter one",
            ));
        }
        let opening = opening(wish, &arm, (length, drafted_width(sleeve, top + length)), style)?;
        let width = front.x - back.x;
        let hem = match wish.lies {
            Lies::Flat => opening,
            Lies::Gathered => {
                wish.gathered_from.unwrap_or_else(|| (GATHERED * opening).min(width)).max(opening)
            }
        };
        if hem > MOST_GATHERED * opening {
            return Err(AlterError::not_here(format!(
                "a hem of {} cannot be drawn in to {}: at most {}",
                style.with_unit(hem),
                style.with_unit(opening),
                style.with_unit(MOST_GATHERED * opening)
            )));
        }
        let middle = back.midpoint(front).x;
        let (cuff, opens, through, ease) = (wish.cuff, wish.opens, wish.arm.through(), wish.ease);
        Ok(Self { length, cuff, opening, hem, opens, through, biceps, width, middle, arm, ease })
    }

    /// Where the sleeve itself ends.
    fn end(&self) -> f64 {
        self.length - self.cuff
    }

    /// Whether it is shaped at the elbow.
    fn passes_elbow(&self) -> bool {
        self.end() >= self.arm.elbow_level + PAST_ELBOW
    }

    /// How wide it is at the elbow: straight between biceps line and hem, or as the elbow wants it.
    fn at_elbow(&self) -> f64 {
        let share = (self.arm.elbow_level - self.biceps) / (self.end() - self.biceps);
        let straight = self.width + (self.hem - self.width) * share;
        let wanted = self.wanted_at_elbow().unwrap_or(straight);
        straight.max(wanted).min(self.width.max(straight))
    }

    /// Her elbow and the ease there, where it is known.
    fn wanted_at_elbow(&self) -> Option<f64> {
        self.arm.elbow.map(|girth| girth + self.ease.elbow)
    }

    /// What is said where the sleeve would have to be wider at the elbow than at the upper arm.
    fn elbow_wants_more(&self, style: Style) -> Option<FollowUp> {
        let wanted = self.wanted_at_elbow().filter(|_| self.passes_elbow())?;
        let is = self.at_elbow();
        (wanted > is + 1.0).then(|| {
            FollowUp::reminder(format!(
                "Her elbow and its ease want {} there, and the sleeve is {}, no wider than at the upper arm: widen it there first.",
                style.with_unit(wanted),
                style.with_unit(is)
            ))
        })
    }

    /// The hem's middle and the axis there; a wide sleeve does not follow the forearm forward.
    fn axis(&self, top: f64) -> (Point, Vec2) {
        let end = self.end();
        let below = end - self.arm.elbow_level;
        let forearm = self.arm.length - self.arm.elbow_level;
        if below <= 0.0 || forearm <= 0.0 {
            return (Point::new(self.middle, top + end), Vec2::new(0.0, 1.0));
        }
        let follows = ((self.width - self.hem) / (self.width * FOLLOWS_FOREARM)).clamp(0.0, 1.0);
        let at = Point::new(self.middle + FORWARD * follows * below / forearm, top + end);
        let from = Point::new(self.middle, top + self.arm.elbow_level);
        (at, (at - from) / at.distance(from))
    }

    /// The sleeve with its seams and hem drawn anew.
    fn drawn(&self, sleeve: &Piece, style: Style) -> Result<Piece, AlterError> {
        let top = crown(sleeve).y;
        let (middle, axis) = self.axis(top);
        let elbow = self.passes_elbow().then_some(top + self.arm.elbow_level);
        let half = |from: Point, side: f64| {
            let elbow = elbow.map(|level| Point::new(self.middle + side * self.at_elbow() / 2.0, level));
            let out = Vec2::new(axis.y, -axis.x) * side;
            HalfHem { from: elbow.unwrap_or(from), middle, axis, out, length: self.hem / 2.0 }
                .drawn()
                .map(|(arc, lean)| (seam(from, elbow, arc.end()), arc, lean))
        };
        let (back_top, front_top) =
            (sleeve.edges[BACK_CAP].curve.start(), sleeve.edges[FRONT_CAP].curve.end());
        let halves = half(front_top, 1.0).zip(half(back_top, -1.0));
        let leans_little = |lean: f64| lean.abs() <= MOST_LEAN.to_radians();
        let Some(((front, front_hem, _), (back, back_hem, _))) =
            halves.filter(|((.., one), (.., other))| leans_little(*one) && leans_little(*other))
        else {
            return Err(self.leans_too_far(style));
        };
        let mut after = sleeve.clone();
        after.edges[FRONT_SEAM].curve = front.clone();
        after.edges[BACK_SEAM].curve = back.reversed();
        after.edges[HEM].curve = front_hem.reversed().then(back_hem);
        after.gathers.retain(|gather| gather.seam != Seam::Hem);
        if self.hem > self.opening {
            after.gathers.push(Gather {
                seam: Seam::Hem,
                from_underarm: PLAIN_AT_SEAM,
                flat: self.hem - 2.0 * PLAIN_AT_SEAM,
                amount: self.hem - self.opening,
            });
        }
        after.levels.retain(|level| level.name != LevelName::Elbow);
        if let Some(level) = elbow {
            let on = |seam: &Curve| Some(seam.point_at(seam.crossing_level(level)?));
            let points: Vec<Point> = [&back, &front].into_iter().filter_map(on).collect();
            after.levels.push(Level { name: LevelName::Elbow, points });
        }
        let lowest = top + self.end() - LEAST_BELOW_CAP;
        after.grain.1.y = lowest.max(after.grain.0.y + LEAST_BELOW_CAP);
        Ok(after)
    }

    /// How far the hem may be from the biceps line's width.
    fn leans_too_far(&self, style: Style) -> AlterError {
        let (from, width) = if self.passes_elbow() {
            (self.arm.elbow_level, self.at_elbow())
        } else {
            (self.biceps, self.width)
        };
        // About: where the forearm hangs forward one seam leans more than the other.
        let by = 2.0 * (self.end() - from) * MOST_LEAN.to_radians().tan();
        AlterError::not_here(format!(
            "a hem of {} leans the seams by more than {MOST_LEAN:.0}\u{b0} at this length: from about {} to {}",
            style.with_unit(self.hem),
            style.with_unit((width - by).max(0.0)),
            style.with_unit(width + by)
        ))
    }

    /// How long a slit must be for the hand; none where there is none.
    fn slit(&self, drawn: &Piece, style: Style) -> Result<Option<f64>, AlterError> {
        if self.opens != Opens::Slit {
            return Ok(None);
        }
        let (front, back) = (&drawn.edges[FRONT_SEAM].curve, drawn.edges[BACK_SEAM].curve.reversed());
        let wanted = self.through;
        let whole = back.length().min(front.length());
        let is_wide_enough = |up: f64| {
            let at = |seam: &Curve| seam.point_at(seam.length() - up);
            wanted.is_none_or(|wanted| at(front).distance(at(&back)) >= wanted)
        };
        let up = (0..=whole as u32).map(f64::from).find(|up| is_wide_enough(*up)).unwrap_or(whole);
        let slit = up.max(LEAST_SLIT);
        if slit > whole * MOST_SLIT {
            return Err(AlterError::not_here(format!(
                "the slit would have to be {} long, more than half of the seam: a wider edge, or a cuff that opens",
                style.with_unit(slit)
            )));
        }
        Ok(Some(slit))
    }

    /// What is said of the cuff, with the step that drafts it.
    fn cuff(&self, style: Style) -> Option<FollowUp> {
        let laps = if self.opens == Opens::Cuff { cuffs::LAPS } else { 0.0 };
        (self.cuff > 0.0).then(|| {
            let says = format!(
                "The cuff is straight: {} long and {} high, net.",
                style.with_unit(self.opening + laps),
                style.with_unit(self.cuff)
            );
            let told = format!("The hem of the sleeve is {} as it is sewn", style.with_unit(self.opening));
            FollowUp::offered(says, "cuffs", Amounts::of(self.cuff).with("laps", laps))
                .where_followed(Seam::Hem, told)
        })
    }

    fn words(&self, style: Style) -> Vec<(StageKind, String)> {
        let at_elbow = if self.passes_elbow() {
            format!(", the elbow {} wide", style.with_unit(self.at_elbow()))
        } else {
            String::new()
        };
        let drawn_in = if self.hem > self.opening {
            format!(" Mark the gathers: the hem is drawn in to {}.", style.with_unit(self.opening))
        } else {
            String::new()
        };
        vec![
            (
                StageKind::Mark,
                format!(
                    "Mark the edge {} below the crown{at_elbow}, the hem {} wide.",
                    style.with_unit(self.end()),
                    style.with_unit(self.hem)
                ),
            ),
            (StageKind::Move, "Draw both seams from the underarm through the marks.".to_owned()),
            (
                StageKind::True,
                format!(
                    "Draw the hem square to the middle and to both seams, so that it runs on when they are sewn.{drawn_in}"
                ),
            ),
        ]
    }
}

/// How wide the sleeve is drafted at a level; below its hem as wide as that.
fn drafted_width(sleeve: &Piece, level: f64) -> f64 {
    let at = |seam: usize| {
        let curve = &sleeve.edges[seam].curve;
        Some(curve.point_at(curve.crossing_level(level)?).x)
    };
    let across = at(FRONT_SEAM).zip(at(BACK_SEAM)).map(|(front, back)| front - back);
    across.unwrap_or_else(|| sleeve.edges[HEM].curve.length())
}

/// What goes round the arm at the edge: as wished, or her arm there with the ease, or as it is drafted where her arm is not
/// known; never less than hand and arm want.
fn opening(wish: &Wish, arm: &Arm, (length, drafted): (f64, f64), style: Style) -> Result<f64, AlterError> {
    let through = wish.arm.through().filter(|_| wish.opens == Opens::Closed);
    let own = arm
        .at(length)
        .map_or(drafted, |girth| girth + arm.ease_at(length, &wish.ease))
        .max(through.unwrap_or_default());
    let opening = wish.opening.unwrap_or(own);
    arm::lets_through(opening, through, ", or with a slit or a cuff that opens", style)?;
    arm.goes_through(opening, length, style)?;
    Ok(opening)
}

/// Half a hem: an arc from the middle, square to the axis there, that ends square to its seam.
struct HalfHem {
    /// Where the seam's last straight stretch begins.
    from: Point,
    middle: Point,
    axis: Vec2,
    /// Square to the axis, outwards on this side.
    out: Vec2,
    length: f64,
}

impl HalfHem {
    /// The end of an arc that turns by this angle.
    fn end(&self, angle: f64) -> Point {
        // Sine and one less cosine, each over the angle, also where that is nothing.
        let (across, down) = if angle.abs() < 1e-6 {
            (1.0, angle / 2.0)
        } else {
            (angle.sin() / angle, (1.0 - angle.cos()) / angle)
        };
        self.middle + self.out * (self.length * across) + self.axis * (self.length * down)
    }

    /// The arc from the middle, and how far its seam leans in, in radians; none where there is none.
    fn drawn(&self) -> Option<(Curve, f64)> {
        let leans = |angle: f64| {
            let along = self.end(angle) - self.from;
            (-along.dot(self.out)).atan2(along.dot(self.axis))
        };
        let angle = root(|angle| leans(angle) - angle, -0.7, 0.7)?;
        let arrives = self.out * angle.cos() + self.axis * angle.sin();
        let arc = house_curve(self.middle, self.out, self.end(angle), arrives).curve;
        Some((arc, angle))
    }
}

/// A seam from the underarm, over the elbow where there is one, straight to the hem; the kink drawn round.
fn seam(from: Point, elbow: Option<Point>, end: Point) -> Curve {
    let Some(elbow) = elbow else { return Curve::line(from, end) };
    let reach = reach_within(from, elbow, ROUNDED).min(reach_within(elbow, end, ROUNDED));
    bend(from, elbow, end, (reach, reach))
}
