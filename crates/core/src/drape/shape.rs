//! One piece with its darts closed: where its lines run, before front and back are held against each other
//! (drape.md, sections 6 to 8).
//!
//! A front is drawn, eased and balanced with the darts above the waist closed about the bust point, as it hangs on the body; a
//! back closes its shoulder dart for the shoulder line only. The waist is drawn with its own dart closed.

use kurbo::{Affine, Point, Vec2};

use super::bend::{Bend, Ends, Fitted};
use super::darts::ShapedDart;
use super::facts::{Given, Hand, WaistMarked};
use super::frame::{ask_about_left_out, dots_along, line_fit};
use super::marks::{Cross, Marks, Named, Run};
use super::report::{Correction, DrapeUnit, Draped, Notes, Refusal};
use super::straight::{Dot, StraightLine};
use crate::geometry::{Curve, house_curve, quarter_turn};
use crate::pattern::{DartPlace, Seam};

/// Ease of a skin-tight drape, in millimetres: the underarm goes so far down and out (51 in all round the bust).
const UNDERARM_DOWN: f64 = 25.4;
const UNDERARM_OUT: f64 = 12.7;
/// Ease in the bust span on one side.
const SPAN_EASE: f64 = 3.0;
/// The waist's end leans from its chord by so much as a rule, in radians.
const WAIST_LEAN: f64 = 8.6 / 180.0 * std::f64::consts::PI;
/// A tangent of a paper pattern differs from the house's by so much as a rule, in radians.
const PAPER_TURN: f64 = 7.0 / 180.0 * std::f64::consts::PI;
/// The armhole's handles are at most this share of their chord, before they are fitted.
const ARMHOLE_HANDLE: f64 = 0.55;
/// A line of dots is at most so many times as long as its reach, and so many millimetres.
const LONGEST_RUN: (f64, f64) = (1.25, 5.0);
/// A dot lies at most so far behind the one before it: in millimetres, and in spreads.
const BEHIND: (f64, f64) = (6.0, 5.0);

/// What both sections have of a piece before any line is drawn.
#[derive(Clone, Copy)]
pub(super) struct Cloth<'a> {
    pub(super) piece: Draped,
    pub(super) marks: &'a Marks,
    pub(super) hand: &'a Hand,
    pub(super) given: &'a Given,
    pub(super) darts: &'a [ShapedDart],
}

/// A piece with its darts closed.
#[derive(Clone, Debug)]
pub(super) struct Closed {
    pub(super) joins: Joins,
    /// The pit of the neck on the centre line.
    pub(super) pit: f64,
    /// Across, as it is drawn.
    pub(super) across: Point,
    /// The waist at the centre.
    pub(super) waist: f64,
}

/// What front and back have in common: the seams that join them, and how neckline and armhole run into them.
#[derive(Clone, Copy, Debug)]
pub(super) struct Joins {
    pub(super) shoulder: ClosedSeam,
    pub(super) side: ClosedSeam,
    /// How far paper leaves the house's tangents.
    pub(super) turns: Turns,
    /// It is drawn already and stays as it is: the other piece takes all that both differ by.
    pub(super) stands: bool,
}

/// A straight seam with its dart closed: a shoulder from the neck to the tip, a side from the underarm to the waist.
#[derive(Clone, Copy, Debug)]
pub(super) struct ClosedSeam {
    pub(super) from: Point,
    pub(super) to: Point,
}

impl ClosedSeam {
    pub(super) fn length(&self) -> f64 {
        self.from.distance(self.to)
    }

    pub(super) fn along(&self) -> Vec2 {
        (self.to - self.from) / self.length()
    }

    pub(super) fn curve(&self) -> Curve {
        Curve::line(self.from, self.to)
    }

    /// Both ends moved along it, each by half of what it becomes longer.
    pub(super) fn lengthen(&mut self, by: f64) {
        let half = self.along() * (by / 2.0);
        self.from -= half;
        self.to += half;
    }
}

/// What paper's tangents are turned by, in radians; nought where the trade's rule holds.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Turns {
    pub(super) neck: f64,
    pub(super) tip: f64,
    pub(super) across: f64,
    pub(super) underarm: f64,
}

/// What a curve is drawn along, between which marks.
struct Along {
    seam: Seam,
    name: &'static str,
    ends: [Cross; 2],
}

/// The curves of a closed piece: neckline, armhole in two, waist.
#[derive(Clone, Debug)]
pub(super) struct Curves {
    pub(super) neckline: Curve,
    pub(super) armhole: Curve,
    pub(super) lower_armhole: Curve,
    /// In the frame of the centre, with the waist dart closed, from the centre out.
    pub(super) waist: Curve,
}

impl Cloth<'_> {
    pub(super) fn dart(&self, place: DartPlace) -> Option<&ShapedDart> {
        self.darts.iter().find(|dart| dart.place == place)
    }

    /// Closes a dart; where there is none, nothing moves.
    fn closing(&self, place: DartPlace) -> Affine {
        self.dart(place).map_or(Affine::IDENTITY, ShapedDart::closing)
    }

    /// Lays what lies beyond the shoulder dart where the shoulder is drawn.
    fn to_shoulder(self) -> Affine {
        self.closing(DartPlace::Shoulder)
    }

    /// Lays armhole and side, above a side dart, where they are drawn.
    pub(super) fn to_closed(self) -> Affine {
        match self.piece {
            Draped::Front => self.closing(DartPlace::Shoulder),
            Draped::Back => Affine::IDENTITY,
        }
    }

    /// Lays what is below a side dart where the side is drawn.
    pub(super) fn to_closed_below(self) -> Affine {
        self.to_closed() * self.closing(DartPlace::Side)
    }

    /// Lays the waist beyond its dart where the waist is drawn.
    pub(super) fn to_waist(self) -> Affine {
        self.closing(DartPlace::Waist)
    }

    /// From where the shoulder is drawn to where the armhole is.
    pub(super) fn shoulder_to_armhole(&self) -> Affine {
        self.to_closed() * self.to_shoulder().inverse()
    }

    /// From where the side is drawn to where the waist is.
    pub(super) fn side_to_waist(&self) -> Affine {
        self.to_waist() * self.to_closed_below().inverse()
    }

    fn sigma(&self) -> f64 {
        self.hand.sigma()
    }

    fn dots(&self, names: &[(Named, Affine)]) -> Vec<Dot> {
        let of = |(named, by): &(Named, Affine)| {
            let mut dots = dots_along(self.marks, &[*named], |named| self.hand.of(named));
            dots.iter_mut().for_each(|dot| dot.at = *by * dot.at);
            dots
        };
        names.iter().flat_map(of).collect()
    }

    fn at(&self, mark: Cross, by: Affine) -> Point {
        by * self.marks.get(mark).unwrap_or_default()
    }

    /// The straight lines: shoulder and side, each with its dart closed, with the ease of a skin-tight drape.
    fn straight(&self, notes: &mut Notes) -> Result<(ClosedSeam, ClosedSeam), Refusal> {
        let still = Affine::IDENTITY;
        let beyond = self.to_shoulder();
        let along_shoulder = [
            (Cross::NeckSide.into(), still),
            (Run::ShoulderDots.into(), still),
            (Cross::ShoulderDartIn.into(), still),
            (Cross::ShoulderDartOut.into(), beyond),
            (Run::ShoulderOuterDots.into(), beyond),
            (Cross::Tip.into(), beyond),
        ];
        let shoulder = self.line(Seam::Shoulder, "shoulder", &along_shoulder, notes)?;
        let (closed, below) = (self.to_closed(), self.to_closed_below());
        let along_side = [
            (Cross::Underarm.into(), closed),
            (Run::SideDots.into(), closed),
            (Cross::SideDartUpper.into(), closed),
            (Cross::SideDartLower.into(), below),
            (Run::SideLowerDots.into(), below),
            (Cross::SideWaist.into(), below),
        ];
        let side = self.line(Seam::Side, "side seam", &along_side, notes)?;
        let foot = |line: &StraightLine, mark: Cross, by: Affine| line.foot(self.at(mark, by));
        let shoulder = ClosedSeam {
            from: foot(&shoulder, Cross::NeckSide, still),
            to: foot(&shoulder, Cross::Tip, beyond),
        };
        let mut side = ClosedSeam {
            from: foot(&side, Cross::Underarm, closed),
            to: foot(&side, Cross::SideWaist, below),
        };
        if self.given.skin_tight {
            side.from += Vec2::new(UNDERARM_OUT, UNDERARM_DOWN);
        }
        side.to += side.along() * self.lower_waist();
        Ok((shoulder, side))
    }

    /// The seams of a piece that stands as it is drawn: between its marks, darts closed.
    pub(super) fn standing(&self) -> Joins {
        let seam = |(from, by): (Cross, Affine), (to, then): (Cross, Affine)| ClosedSeam {
            from: self.at(from, by),
            to: self.at(to, then),
        };
        Joins {
            shoulder: seam((Cross::NeckSide, Affine::IDENTITY), (Cross::Tip, self.to_shoulder())),
            side: seam((Cross::Underarm, self.to_closed()), (Cross::SideWaist, self.to_closed_below())),
            turns: Turns::default(),
            stands: true,
        }
    }

    /// How much lower the waist is drawn than it was marked, in millimetres.
    pub(super) fn lower_waist(&self) -> f64 {
        match self.given.waist_marked {
            WaistMarked::Middle if !self.hand.is_paper() => self.given.tape_width / 2.0,
            _ => 0.0,
        }
    }

    fn line(
        &self,
        seam: Seam,
        name: &'static str,
        names: &[(Named, Affine)],
        notes: &mut Notes,
    ) -> Result<StraightLine, Refusal> {
        let dots = self.dots(names);
        let line = StraightLine::without_strays(&dots, self.hand.doubtful()).ok_or_else(|| {
            let marks: Vec<Named> =
                [names.first(), names.last()].into_iter().flatten().map(|(named, _)| *named).collect();
            let says =
                format!("The {name} of the {} has no length: click both of its ends.", self.piece.name());
            Refusal::new(self.piece, &marks, says)
        })?;
        ask_about_left_out(notes, (self.piece, name), &dots, &line.left_out, |at| line.distance(at));
        // A mark that is doubted, though leaving it out would not mend the line.
        for (index, dot) in dots.iter().enumerate() {
            let off = line.distance(dot.at);
            let is_cross = matches!(dot.named, Named::Cross(_));
            if is_cross && !line.left_out.contains(&index) && off > self.hand.doubtful() {
                notes.ask_where(self.piece, &[dot.named], off, &format!("the {name}"));
            }
        }
        notes.lines.push(line_fit(self.piece, seam, name, &line.off, line.left_out.len()));
        Ok(line)
    }

    /// The piece with its darts closed, each end where its dots and marks put it.
    pub(super) fn closed(&self, notes: &mut Notes) -> Result<Closed, Refusal> {
        self.runs(notes);
        let (mut shoulder, mut side) = self.straight(notes)?;
        let mut turns = Turns::default();

        let neckline = self.neckline(&shoulder, None, notes);
        let (pit, neck) = (neckline.cubic.p0.y, neckline.cubic.p3);
        turns.neck = self.paper_turn(&neckline, 2);
        let (upper, across) = self.upper_armhole(&shoulder, None, notes);
        let tip = self.shoulder_to_armhole().inverse() * upper.cubic.p0;
        turns.tip = self.paper_turn(&upper, 3);
        turns.across = self.paper_turn(&upper, 4);
        shoulder = ClosedSeam { from: neck, to: tip };
        if self.hand.is_paper() {
            turns.underarm = self.lower_armhole_turn(across, turns.across, &side, notes);
        }
        let waist = self.waist(&side, None, notes);
        side.to = self.side_to_waist().inverse() * waist.cubic.p3;
        let closed = Closed {
            joins: Joins { shoulder, side, turns, stands: false },
            pit,
            across,
            waist: waist.cubic.p0.y,
        };
        self.ends(&closed, notes);
        Ok(closed)
    }

    /// What a free turn came to, in radians.
    fn paper_turn(&self, fitted: &Fitted, index: usize) -> f64 {
        if self.hand.is_paper() {
            fitted.numbers.get(index).copied().unwrap_or_default() * PAPER_TURN
        } else {
            0.0
        }
    }

    /// How far each end mark lies from where its lines meet.
    fn ends(&self, closed: &Closed, notes: &mut Notes) {
        let still = Affine::IDENTITY;
        let ends = [
            (Cross::CentreTop, still, Point::new(0.0, closed.pit), "neckline"),
            (Cross::NeckSide, still, closed.joins.shoulder.from, "neckline and shoulder"),
            (Cross::Tip, self.to_shoulder(), closed.joins.shoulder.to, "shoulder and armhole"),
            (Cross::Across, self.to_closed(), closed.across, "armhole"),
            (
                Cross::SideWaist,
                self.to_closed_below(),
                closed.joins.side.to - closed.joins.side.along() * self.lower_waist(),
                "side seam and waist",
            ),
            (Cross::CentreWaist, still, Point::new(0.0, closed.waist - self.lower_waist()), "waist"),
        ];
        for (mark, by, drawn, what) in ends {
            let Some(at) = self.marks.get(mark).map(|at| by * at) else { continue };
            let off = at.distance(drawn);
            if off > self.hand.doubtful() {
                notes.ask_where(self.piece, &[mark.into()], off, &format!("where {what} run"));
            }
            let correction = Correction::new(
                self.piece,
                format!("{}: drawn where {what} run, off the mark by", mark.name()),
                (off, 0.0),
                DrapeUnit::Mm,
            );
            let back = by.inverse();
            notes.corrections.push(correction.moved(back * at, back * drawn).of(&[mark.into()]));
        }
    }

    /// Dots out of their order, in a dart's mouth, or on a line much longer than its reach.
    fn runs(&self, notes: &mut Notes) {
        for (run, dots) in self.marks.runs() {
            let (Some(first), Some(last)) = (dots.first(), dots.last()) else { continue };
            let reach = first.distance(*last);
            let long: f64 = dots.windows(2).map(|pair| pair[0].distance(pair[1])).sum();
            let onwards = (*last - *first) / reach.max(1e-9);
            let behind = BEHIND.0.max(BEHIND.1 * self.sigma());
            let is_back = dots.windows(2).any(|pair| (pair[0] - pair[1]).dot(onwards) > behind);
            if dots.len() > 2 && (is_back || long > LONGEST_RUN.0 * reach + LONGEST_RUN.1) {
                let says = format!(
                    "The {} are not in order along their line: click them again from one end.",
                    run.name()
                );
                notes.ask(self.piece, &[run.into()], says);
            }
        }
        for dart in self.darts {
            let runs: &[Run] = match dart.place {
                DartPlace::Shoulder => &[Run::ShoulderDots, Run::ShoulderOuterDots],
                DartPlace::Side => &[Run::SideDots, Run::SideLowerDots],
                _ => &[Run::WaistDots, Run::WaistOuterDots],
            };
            for &run in runs {
                let inside = |dot: &Point| {
                    let from = *dot - dart.pivot;
                    let turned = dart.inner.cross(from).atan2(dart.inner.dot(from));
                    // Beside the legs there is room for the hand.
                    let beside = BEHIND.0.max(BEHIND.1 * self.sigma()) / from.hypot().max(1.0);
                    let share = turned * dart.opening.signum();
                    (beside..dart.opening.abs() - beside).contains(&share)
                };
                if self.marks.dots(run).iter().any(inside) {
                    let says =
                        format!("One of the {} lies in the mouth of the {}.", run.name(), dart.place.name());
                    notes.ask(self.piece, &[run.into()], says);
                }
            }
        }
    }

    /// Draws a curve through its dots, and says what was left out and how nearly it passes the rest.
    fn draw(
        &self,
        Along { seam, name, ends }: Along,
        bend: &Bend<'_>,
        dots: &[Dot],
        notes: Option<&mut Notes>,
    ) -> Fitted {
        let fitted = bend.without_stray(dots, self.hand.doubtful());
        let Some(notes) = notes else { return fitted };
        let left_out: Vec<usize> = fitted.left_out.into_iter().collect();
        let off = |at: Point| super::bend::distance(&fitted.cubic, at).abs();
        // A first or last dot is in doubt together with the mark at that end.
        let whole: Vec<Dot> = {
            let end = |mark: Cross| Dot { at: Point::ZERO, sigma: 1.0, named: mark.into() };
            std::iter::once(end(ends[0])).chain(dots.iter().copied()).chain([end(ends[1])]).collect()
        };
        let in_whole: Vec<usize> = left_out.iter().map(|out| out + 1).collect();
        ask_about_left_out(notes, (self.piece, name), &whole, &in_whole, off);
        for dot in dots.iter().filter(|dot| matches!(dot.named, Named::Cross(_))) {
            let far = off(dot.at);
            if far > self.hand.doubtful() && !left_out.iter().any(|out| dots[*out].named == dot.named) {
                notes.ask_where(self.piece, &[dot.named], far, &format!("the {name}"));
            }
        }
        notes.lines.push(line_fit(self.piece, seam, name, &fitted.off, left_out.len()));
        fitted
    }

    /// The neckline: level from the centre, square into the shoulder. Settled, both ends stay where they are.
    fn neckline(&self, shoulder: &ClosedSeam, settled: Option<&Closed>, notes: &mut Notes) -> Fitted {
        let sigma = self.sigma();
        let along = shoulder.along();
        let pit = self.at(Cross::CentreTop, Affine::IDENTITY).y;
        let free = usize::from(settled.is_none()) * if self.hand.is_paper() { 3 } else { 2 };
        let turn = settled.map_or(0.0, |closed| closed.joins.turns.neck);
        let ends = |n: &[f64]| {
            let by = |index: usize| n.get(index).copied().unwrap_or_default();
            let pit = settled.map_or(pit, |closed| closed.pit) + sigma * by(0);
            let square = -quarter_turn(along);
            Ends {
                from: Point::new(0.0, pit),
                leaving: Vec2::new(1.0, 0.0),
                to: shoulder.from + along * (sigma * by(1)),
                arriving: turned(square, turn + PAPER_TURN * by(2)),
            }
        };
        let bend = Bend { ends: &ends, free, longest_handle: 1.0, free_handles: true };
        let dots = self.dots(&[(Run::NecklineDots.into(), Affine::IDENTITY)]);
        let notes = settled.is_none().then_some(notes);
        self.draw(
            Along { seam: Seam::Neckline, name: "neckline", ends: [Cross::CentreTop, Cross::NeckSide] },
            &bend,
            &dots,
            notes,
        )
    }

    /// The armhole from the tip to across, and across as it is drawn: square from the shoulder, straight down at across.
    fn upper_armhole(
        &self,
        shoulder: &ClosedSeam,
        settled: Option<&Closed>,
        notes: &mut Notes,
    ) -> (Fitted, Point) {
        let sigma = self.sigma();
        let to_armhole = self.shoulder_to_armhole();
        let tip = to_armhole * shoulder.to;
        let along = tip - to_armhole * shoulder.from;
        let along = along / along.hypot();
        let across = settled.map_or_else(|| self.at(Cross::Across, self.to_closed()), |closed| closed.across);
        let free = usize::from(settled.is_none()) * if self.hand.is_paper() { 5 } else { 3 };
        let turns = settled.map_or_else(Turns::default, |closed| closed.joins.turns);
        let ends = |n: &[f64]| {
            let by = |index: usize| n.get(index).copied().unwrap_or_default();
            Ends {
                from: tip + along * (sigma * by(0)),
                leaving: turned(quarter_turn(along), turns.tip + PAPER_TURN * by(3)),
                to: across + Vec2::new(by(1), by(2)) * sigma,
                arriving: turned(Vec2::new(0.0, 1.0), turns.across + PAPER_TURN * by(4)),
            }
        };
        let bend = Bend { ends: &ends, free, longest_handle: ARMHOLE_HANDLE, free_handles: true };
        let dots = self.dots(&[(Run::ArmholeDots.into(), self.to_closed())]);
        let notes = settled.is_none().then_some(notes);
        let fitted = self.draw(
            Along { seam: Seam::Armhole, name: "armhole", ends: [Cross::Tip, Cross::Across] },
            &bend,
            &dots,
            notes,
        );
        let across = fitted.cubic.p3;
        (fitted, across)
    }

    /// The armhole from across to the underarm. On cloth it is drawn by rule: straight down at across, square into the side.
    fn lower_armhole(&self, across: Point, turns: Turns, side: &ClosedSeam) -> Curve {
        let down = turned(Vec2::new(0.0, 1.0), turns.across);
        let square = -quarter_turn(side.along());
        let Ends { from, leaving, to, arriving } =
            Ends { from: across, leaving: down, to: side.from, arriving: turned(square, turns.underarm) };
        if !self.hand.is_paper() {
            return house_curve(from, leaving, to, arriving).curve;
        }
        let ends = |_: &[f64]| Ends { from, leaving, to, arriving };
        let bend = Bend { ends: &ends, free: 0, longest_handle: 1.0, free_handles: true };
        bend.fit(&self.dots(&[(Run::ArmholeLowerDots.into(), self.to_closed())])).curve()
    }

    /// How far the lower armhole of paper leaves the square to its side, in radians.
    fn lower_armhole_turn(&self, across: Point, turn: f64, side: &ClosedSeam, notes: &mut Notes) -> f64 {
        let square = -quarter_turn(side.along());
        let ends = |n: &[f64]| Ends {
            from: across,
            leaving: turned(Vec2::new(0.0, 1.0), turn),
            to: side.from,
            arriving: turned(square, PAPER_TURN * n.first().copied().unwrap_or_default()),
        };
        let bend = Bend { ends: &ends, free: 1, longest_handle: 1.0, free_handles: true };
        let dots = self.dots(&[(Run::ArmholeLowerDots.into(), self.to_closed())]);
        let fitted = self.draw(
            Along { seam: Seam::Armhole, name: "lower armhole", ends: [Cross::Across, Cross::Underarm] },
            &bend,
            &dots,
            Some(notes),
        );
        fitted.numbers[0] * PAPER_TURN
    }

    /// The waist with its dart closed, from the centre out: level at the centre.
    fn waist(&self, side: &ClosedSeam, settled: Option<&Closed>, notes: &mut Notes) -> Fitted {
        let sigma = self.sigma();
        let beyond = self.to_waist();
        let to_waist = self.side_to_waist();
        let (end, from) = (to_waist * side.to, to_waist * side.from);
        let down = (end - from) / end.distance(from);
        let centre = self.at(Cross::CentreWaist, Affine::IDENTITY).y + self.lower_waist();
        let centre = settled.map_or(centre, |closed| closed.waist);
        // The lean of the end is free even when the ends are settled.
        let free = if settled.is_none() { 3 } else { 1 };
        let ends = |n: &[f64]| {
            let by = |index: usize| n.get(index).copied().unwrap_or_default();
            let (lower, along, lean) =
                if settled.is_none() { (by(0), by(1), by(2)) } else { (0.0, 0.0, by(0)) };
            let from = Point::new(0.0, centre + sigma * lower);
            let to = end + down * (sigma * along);
            let chord = (to - from) / to.distance(from);
            Ends { from, leaving: Vec2::new(1.0, 0.0), to, arriving: turned(chord, WAIST_LEAN * lean) }
        };
        let bend = Bend { ends: &ends, free, longest_handle: 1.0, free_handles: true };
        let still = Affine::translate((0.0, self.lower_waist()));
        // What was marked at the tape's middle is drawn lower all along.
        let lowered = beyond.then_translate((0.0, self.lower_waist()).into());
        let dots = self.dots(&[
            (Run::WaistDots.into(), still),
            (Cross::WaistDartIn.into(), still),
            (Cross::WaistDartOut.into(), lowered),
            (Run::WaistOuterDots.into(), lowered),
        ]);
        let notes = settled.is_none().then_some(notes);
        self.draw(
            Along { seam: Seam::Waist, name: "waist", ends: [Cross::CentreWaist, Cross::SideWaist] },
            &bend,
            &dots,
            notes,
        )
    }

    /// The curves of a piece whose ends are settled.
    pub(super) fn curves(&self, closed: &Closed) -> Curves {
        let mut unheard = Notes::default();
        let (upper, across) = self.upper_armhole(&closed.joins.shoulder, Some(closed), &mut unheard);
        Curves {
            neckline: self.neckline(&closed.joins.shoulder, Some(closed), &mut unheard).curve(),
            armhole: upper.curve(),
            lower_armhole: self.lower_armhole(across, closed.joins.turns, &closed.joins.side),
            waist: self.waist(&closed.joins.side, Some(closed), &mut unheard).curve(),
        }
    }
}

/// The bust point with the ease of the span, where it was ruled without.
pub(super) fn eased_bust_point(marks: &Marks, given: &Given) -> Marks {
    let mut marks = marks.clone();
    if given.skin_tight
        && !given.span_ease
        && let Some(at) = marks.get(Cross::BustPoint)
    {
        marks.put(Cross::BustPoint, at + Vec2::new(SPAN_EASE, 0.0));
    }
    marks
}

/// Level of the underarm as it will be drawn, in millimetres.
pub(super) fn underarm_level(marks: &Marks, given: &Given) -> f64 {
    let ease = if given.skin_tight { UNDERARM_DOWN } else { 0.0 };
    marks.get(Cross::Underarm).map_or(0.0, |at| at.y) + ease
}

/// A direction turned, in radians, clockwise to the eye positive.
fn turned(direction: Vec2, by: f64) -> Vec2 {
    Vec2::from_angle(direction.atan2() + by)
}
