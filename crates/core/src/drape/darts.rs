//! The darts of a piece: their pivots, the directions of their legs, and the turn that closes each (drape.md, section 6).

use kurbo::{Affine, Point, Vec2};

use super::facts::{Given, Hand};
use super::marks::{Cross, DartMarks, Leg, Marks, Named};
use super::report::{Correction, DrapeUnit, Draped, Notes, Refusal, listed};
use super::straight::{Dot, StraightLine};
use crate::geometry::turn_degrees;
use crate::pattern::DartPlace;

/// Legs that differ by so many spreads of a cross are asked about.
const LEGS_APART: f64 = 6.3;
/// A dot of a leg is doubted at so many times the usual distance: it is told from the pivot, which has its own spread.
const FAR_FROM_LEG: f64 = 1.3;
/// From the mouth's middle to the pivot of a back shoulder dart: 75 mm stitched, and its back-off.
const SHOULDER_DART: f64 = 85.0;
/// A bust point that the legs contradict by so many of their standard errors is asked about.
const POINTED_ELSEWHERE: f64 = 6.5;

/// A dart as it will be drawn.
#[derive(Clone, Copy, Debug)]
pub(super) struct ShapedDart {
    pub(super) place: DartPlace,
    pub(super) pivot: Point,
    /// Along the leg the outline of the closed piece keeps: at a shoulder towards the neck, at a side above, at a waist towards
    /// the centre. Of unit length, from the pivot.
    pub(super) inner: Vec2,
    /// From the inner leg to the outer one, in radians, clockwise to the eye positive.
    pub(super) opening: f64,
}

impl ShapedDart {
    /// Lays what lies beyond it onto its inner leg.
    pub(super) fn closing(&self) -> Affine {
        Affine::rotate_about(-self.opening, self.pivot)
    }
}

/// The pivots and legs of every dart that is marked.
pub(super) struct Darts<'a> {
    pub(super) piece: Draped,
    pub(super) marks: &'a Marks,
    pub(super) hand: &'a Hand,
    pub(super) given: &'a Given,
    /// Whether a marked point is the pivot itself, as a corner of a path is.
    pub(super) points_are_pivots: bool,
    /// Level of the underarm as it will be drawn, in millimetres.
    pub(super) underarm: f64,
}

impl Darts<'_> {
    /// Every dart, from the neck round to the waist.
    pub(super) fn shaped(&self, notes: &mut Notes) -> Result<Vec<ShapedDart>, Refusal> {
        let marked: Vec<DartMarks> = self.marks.darts().collect();
        let shared = match self.piece {
            Draped::Front => Some(self.bust_point(&marked, notes)?),
            Draped::Back => None,
        };
        // A back's waist dart first: its shoulder dart points to it.
        let waist = marked.iter().find(|dart| dart.place == DartPlace::Waist).filter(|_| shared.is_none());
        let waist = waist.map(|dart| self.back_waist_pivot(dart, notes)).transpose()?;
        let mut shaped = Vec::new();
        for dart in &marked {
            let pivot = match (shared, dart.place) {
                (Some(pivot), _) => pivot,
                (None, DartPlace::Waist) => waist.unwrap_or_default(),
                (None, _) => self.back_shoulder_pivot(dart, waist, notes)?,
            };
            shaped.push(self.shape(dart, pivot, notes)?);
        }
        Ok(shaped)
    }

    /// Mouth mark and dots of a leg.
    fn leg(&self, dart: &DartMarks, leg: Leg) -> Vec<Dot> {
        let mouth = Named::from(dart.end(leg));
        let run = Named::from(dart.leg(leg));
        let dot = |named: Named, at: Point| Dot { at, sigma: self.hand.of(named), named };
        let mouth = self.marks.get(dart.end(leg)).map(|at| dot(mouth, at));
        mouth.into_iter().chain(self.marks.dots(dart.leg(leg)).iter().map(|at| dot(run, *at))).collect()
    }

    /// The pivot of a front's darts: marked, or where a drawn point says, or where the legs meet.
    fn bust_point(&self, darts: &[DartMarks], notes: &mut Notes) -> Result<Point, Refusal> {
        if let Some(at) = self.marks.get(Cross::BustPoint) {
            self.legs_point_at((at, Cross::BustPoint), darts, notes);
            return Ok(at);
        }
        let drawn: Vec<Point> = darts
            .iter()
            .filter_map(|dart| self.beyond_drawn_point(dart, self.given.backed_off_front))
            .collect();
        if !drawn.is_empty() {
            let middle = drawn.iter().map(|at| at.to_vec2()).sum::<Vec2>() / drawn.len() as f64;
            let note = format!(
                "The bust point was not marked: the darts of the front turn about the place {:.0} mm beyond their drawn points.",
                self.given.backed_off_front
            );
            notes.notes.extend((!self.points_are_pivots).then_some(note));
            return Ok(middle.to_point());
        }
        let legs: Vec<StraightLine> = self.legs_of(darts);
        let met = meeting(&legs).map(|met| met.at);
        if let Some(at) = met {
            notes.notes.push(
                "The bust point was not marked: it is estimated from where the legs of the darts meet."
                    .to_owned(),
            );
            return Ok(at);
        }
        let says = if darts.is_empty() {
            "The front has no dart and no bust point: mark the bust point, or the dart it was shaped with."
        } else {
            "The bust point of the front is not marked, and the legs of its darts have no dots to find it by: mark the bust point."
        };
        Err(Refusal::new(self.piece, &[Cross::BustPoint.into()], says.to_owned()))
    }

    /// The legs that are dotted.
    fn legs_of(&self, darts: &[DartMarks]) -> Vec<StraightLine> {
        let dotted = |leg: &Vec<Dot>| leg.len() >= 3;
        let legs = darts.iter().flat_map(|dart| [self.leg(dart, Leg::Inner), self.leg(dart, Leg::Outer)]);
        legs.filter(dotted).filter_map(|leg| StraightLine::through(&leg)).collect()
    }

    /// Asks about a pivot that the dotted legs do not point at.
    fn legs_point_at(&self, (at, apex): (Point, Cross), darts: &[DartMarks], notes: &mut Notes) {
        let legs = self.legs_of(darts);
        let Some(met) = meeting(&legs).filter(|_| legs.len() >= 2) else { return };
        let off = at - met.at;
        let far = met.in_errors(off, self.hand.sigma());
        if far > POINTED_ELSEWHERE && off.hypot() > FAR_FROM_LEG * self.hand.doubtful() {
            let says = format!(
                "The dotted legs meet {:.0} mm from the {}: was it clicked where the dart runs out?",
                off.hypot(),
                apex.name()
            );
            notes.ask(self.piece, &[apex.into()], says);
        }
    }

    /// The pivot by a drawn point: as far beyond it as the stitching was backed off.
    fn beyond_drawn_point(&self, dart: &DartMarks, backed_off: f64) -> Option<Point> {
        let point = self.marks.get(dart.point)?;
        if self.points_are_pivots || !self.hand.is_paper() {
            return Some(point);
        }
        let mouth = self.marks.get(dart.mouth[0])?.midpoint(self.marks.get(dart.mouth[1])?);
        let along = point - mouth;
        (along.hypot() > 1.0).then(|| point + along / along.hypot() * backed_off)
    }

    fn back_waist_pivot(&self, dart: &DartMarks, notes: &mut Notes) -> Result<Point, Refusal> {
        if let Some(point) = self.beyond_drawn_point(dart, self.given.backed_off_back) {
            self.legs_point_at((point, dart.point), std::slice::from_ref(dart), notes);
            return Ok(point);
        }
        let legs = self.legs_of(std::slice::from_ref(dart));
        let mouth = dart.mouth.map(|mark| self.marks.get(mark).unwrap_or_default());
        if legs.len() == 2 {
            // Two legs that run alongside meet nowhere.
            let met = meeting(&legs).map(|met| met.at).filter(|at| at.y < mouth[0].y.min(mouth[1].y) - 10.0);
            return met.ok_or_else(|| self.alongside(dart));
        }
        notes.notes.push(
            "The point of the back's waist dart was not marked: it is drawn level with the underarm."
                .to_owned(),
        );
        Ok(Point::new(mouth[0].midpoint(mouth[1]).x, self.underarm))
    }

    fn back_shoulder_pivot(
        &self,
        dart: &DartMarks,
        waist: Option<Point>,
        notes: &mut Notes,
    ) -> Result<Point, Refusal> {
        if let Some(point) = self.beyond_drawn_point(dart, self.given.backed_off_back) {
            self.legs_point_at((point, dart.point), std::slice::from_ref(dart), notes);
            return Ok(point);
        }
        let mouth = dart.mouth.map(|mark| self.marks.get(mark).unwrap_or_default());
        let middle = mouth[0].midpoint(mouth[1]);
        let towards = waist.map_or(Vec2::new(0.0, 1.0), |pivot| pivot - middle);
        Ok(middle + towards / towards.hypot() * SHOULDER_DART)
    }

    fn alongside(&self, dart: &DartMarks) -> Refusal {
        let says = format!(
            "The legs of the {} of the {} run alongside each other and meet nowhere: click them again, or mark its point.",
            dart.place.name(),
            self.piece.name()
        );
        let marks = dart.legs.map(Named::from);
        Refusal::new(self.piece, &marks, says)
    }

    /// Legs as seen from the pivot, and what closes them.
    fn shape(&self, dart: &DartMarks, pivot: Point, notes: &mut Notes) -> Result<ShapedDart, Refusal> {
        let [inner, outer] = [Leg::Inner, Leg::Outer].map(|leg| {
            let dots = self.leg(dart, leg);
            let apex = if self.piece == Draped::Front { Cross::BustPoint } else { dart.point };
            self.direction(&dots, (pivot, apex), notes)
        });
        let ends = dart.mouth.map(|mark| self.marks.get(mark).unwrap_or_default());
        let lengths = ends.map(|end| end.distance(pivot));
        if lengths.into_iter().any(|length| length < 5.0) {
            let says = format!(
                "The {} of the {} has no length: its mouth lies on its pivot. Click it again.",
                dart.place.name(),
                self.piece.name()
            );
            return Err(Refusal::new(self.piece, &dart.mouth.map(Named::from), says));
        }
        let apart = lengths[1] - lengths[0];
        let marks = dart.mouth.map(Named::from);
        if apart.abs() > LEGS_APART * self.hand.sigma() {
            let says = format!(
                "The legs of the {} differ by {:.0} mm: is its mouth marked where the seam runs?",
                dart.place.name(),
                apart.abs()
            );
            notes.ask(self.piece, &marks, says);
        }
        let what = format!("legs of the {} made equal: the outer one less the inner one", dart.place.name());
        notes.corrections.push(Correction::new(self.piece, what, (apart, 0.0), DrapeUnit::Mm).of(&marks));
        let opening = turn_degrees(inner, outer).to_radians();
        if opening.abs() < 1e-6 {
            return Err(self.alongside(dart));
        }
        Ok(ShapedDart { place: dart.place, pivot, inner, opening })
    }

    /// The direction of a leg as seen from the pivot: what lies further away says more. A dot beside the others is left out and
    /// asked about.
    fn direction(&self, dots: &[Dot], (pivot, apex): (Point, Cross), notes: &mut Notes) -> Vec2 {
        let all: Vec<usize> = (0..dots.len()).collect();
        let seen = |kept: &[usize]| ray(pivot, kept.iter().map(|index| dots[*index].at));
        let off = |ray: Vec2, index: usize| ray.cross(dots[index].at - pivot).abs();
        let whole = seen(&all);
        let doubtful = FAR_FROM_LEG * self.hand.doubtful();
        if dots.len() < 3 {
            return whole;
        }
        let tried = all.iter().map(|&out| {
            let others: Vec<usize> = all.iter().copied().filter(|index| *index != out).collect();
            let ray = seen(&others);
            let badness: f64 = others.iter().map(|index| off(ray, *index).powi(2)).sum();
            (out, badness, off(ray, out), ray)
        });
        let best = tried.min_by(|one, other| one.1.total_cmp(&other.1));
        match best {
            Some((out, _, far, ray)) if far > doubtful => {
                let dot = dots[out].named;
                let beside = [out.checked_sub(1), Some(out + 1)].into_iter().flatten();
                let beside = beside.filter_map(|index| dots.get(index)).map(|dot| dot.named);
                let mut marks = vec![dot];
                marks.extend(beside.filter(|other| *other != dot));
                // A mouth whose dots agree, or a last dot: the place they are told from may be the one that is wrong.
                let is_end = out == 0 || out + 1 == dots.len();
                marks.extend(Some(Named::from(apex)).filter(|_| is_end && self.marks.get(apex).is_some()));
                marks.dedup();
                notes.ask_where(self.piece, &marks, far, "its leg");
                ray
            }
            _ => whole,
        }
    }
}

/// Refuses a dart of which only one leg is marked, and one that a back has no marks for.
pub(super) fn have_both_legs(piece: Draped, marks: &Marks) -> Result<(), Refusal> {
    for dart in marks.darts() {
        let missing: Vec<Cross> = dart.mouth.into_iter().filter(|mark| marks.get(*mark).is_none()).collect();
        if !missing.is_empty() {
            let names: Vec<&str> = missing.iter().map(|mark| mark.name()).collect();
            let says = format!(
                "The {} of the {} has one leg only: mark the {}, or take out what is marked of the dart.",
                dart.place.name(),
                piece.name(),
                listed(&names)
            );
            let named: Vec<Named> = missing.into_iter().map(Named::from).collect();
            return Err(Refusal::new(piece, &named, says));
        }
        if piece == Draped::Back && dart.place == DartPlace::Side {
            let says = "A back has no marks for a side dart: its darts are at the shoulder and the waist. Take them out.";
            return Err(Refusal::new(piece, &dart.mouth.map(Named::from), says.to_owned()));
        }
    }
    Ok(())
}

/// The direction from a pivot through dots, each weighing by the square of its distance.
fn ray(pivot: Point, dots: impl Iterator<Item = Point>) -> Vec2 {
    // Σ r² · angle / Σ r², told from the first so that no angle jumps round.
    let mut first: Option<Vec2> = None;
    let (mut turned, mut whole) = (0.0, 0.0);
    for dot in dots {
        let from = dot - pivot;
        let zero = *first.get_or_insert(from);
        let angle = zero.cross(from).atan2(zero.dot(from));
        turned += from.hypot2() * angle;
        whole += from.hypot2();
    }
    let zero = first.unwrap_or(Vec2::new(0.0, 1.0));
    let along = Vec2::from_angle(zero.atan2() + if whole > 0.0 { turned / whole } else { 0.0 });
    along / along.hypot()
}

/// Where several lines meet: the point nearest to all of them.
struct Meeting {
    at: Point,
    /// What the point's place is known by: a symmetric matrix, in 1/mm² of a spread of one.
    known: [f64; 3],
}

impl Meeting {
    /// How far off a place is, in standard errors of a hand of this spread.
    fn in_errors(&self, off: Vec2, sigma: f64) -> f64 {
        let [xx, xy, yy] = self.known;
        ((xx * off.x * off.x + 2.0 * xy * off.x * off.y + yy * off.y * off.y) / (sigma * sigma))
            .max(0.0)
            .sqrt()
    }
}

/// The point nearest to all lines, each weighing as it is known there. `None` where they run alongside.
fn meeting(lines: &[StraightLine]) -> Option<Meeting> {
    if lines.len() < 2 {
        return None;
    }
    // A line is known less and less beyond its dots: twice, the second time with what the first meeting tells.
    let mut at: Option<Point> = None;
    let mut known = [0.0; 3];
    for _ in 0..3 {
        let (mut sum, mut right) = ([0.0; 3], Vec2::ZERO);
        for line in lines {
            let square = Vec2::new(-line.along.y, line.along.x);
            let reach = at.map_or(0.0, |at| (at - line.through).dot(line.along));
            let count = line.off.len().max(1) as f64;
            let variance = 1.0 / count + (line.lean_error / line.sigma * reach).powi(2);
            let weight = 1.0 / variance;
            sum[0] += weight * square.x * square.x;
            sum[1] += weight * square.x * square.y;
            sum[2] += weight * square.y * square.y;
            right += square * (weight * square.dot(line.through.to_vec2()));
        }
        let whole = sum[0] * sum[2] - sum[1] * sum[1];
        if whole < 1e-6 * (sum[0] + sum[2]).powi(2) {
            return None;
        }
        let x = (right.x * sum[2] - right.y * sum[1]) / whole;
        let y = (right.y * sum[0] - right.x * sum[1]) / whole;
        (at, known) = (Some(Point::new(x, y)), sum);
    }
    at.map(|at| Meeting { at, known })
}
