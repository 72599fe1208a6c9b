//! A piece from a path file: its outline as a drawing program keeps it, corners clicked (drape.md, section 10).

use kurbo::{Affine, BezPath, PathEl, PathSeg, Point, Shape, Vec2};

use super::frame::ToFrame;
use super::marks::{Cross, DartMarks, Marks, Named, Run};
use super::report::{Draped, Refusal};
use crate::geometry::{Curve, is_on_the_table, turn_degrees};
use crate::pattern::DartPlace;

/// A turn of so many degrees is a corner.
const CORNER: f64 = 8.0;
/// A click snaps to a corner, or to the line, within so many millimetres.
const SNAPS_WITHIN: f64 = 8.0;
/// An outline whose ends lie within so many millimetres is closed.
const CLOSED_WITHIN: f64 = 1.0;
/// Dots are taken so far apart, in millimetres.
const DOTS_APART: f64 = 8.0;
/// Dots of a dart's leg, which is straight.
const DOTS_OF_LEG: usize = 5;
/// Millimetres that one unit of a drawing may be.
const UNIT_MM: std::ops::RangeInclusive<f64> = 0.001..=1000.0;
/// The longest path that is read, in bytes.
pub const LONGEST_PATH: usize = 200_000;
/// A straight line that is off by so much is not one, in millimetres.
const STRAIGHT: f64 = 0.5;

/// The outline of one piece, in millimetres, travelled from the top of its centre over the neck.
pub(super) struct Outline {
    curve: Curve,
    length: f64,
    /// Arc length of every mark that lies on it.
    places: Vec<(Cross, f64)>,
    /// The clicks, each on its corner or on the line.
    pub(super) marks: Marks,
}

/// Reads a path as one closed outline, in millimetres.
fn outline(piece: Draped, data: &str, mm_per_unit: f64) -> Result<Curve, Refusal> {
    let refuse = |says: String| Err(Refusal::new(piece, &[], says));
    if !UNIT_MM.contains(&mm_per_unit) {
        return refuse(format!(
            "The path of the {}: one unit is stated as {mm_per_unit} mm; it is between {} and {} mm.",
            piece.name(),
            UNIT_MM.start(),
            UNIT_MM.end()
        ));
    }
    if data.len() > LONGEST_PATH {
        return refuse(format!(
            "The path of the {} is longer than {LONGEST_PATH} characters: save the outline alone.",
            piece.name()
        ));
    }
    // “e” stands in numbers too.
    let known = |c: char| !c.is_ascii_alphabetic() || "MmLlHhVvCcSsQqTtZzeE".contains(c);
    if let Some(other) = data.chars().find(|c| !known(*c)) {
        let what = if "Aa".contains(other) {
            "an elliptical arc (A)".to_owned()
        } else {
            format!("a command “{other}”")
        };
        return refuse(format!(
            "The path of the {} has {what}: turn its curves into Bézier curves in the drawing program and save it again.",
            piece.name()
        ));
    }
    let Ok(path) = BezPath::from_svg(data.trim()) else {
        return refuse(format!(
            "The path of the {} cannot be read: give the “d” of one path of M, L, H, V, C, S, Q, T and Z.",
            piece.name()
        ));
    };
    let begins = path.elements().iter().filter(|el| matches!(el, PathEl::MoveTo(_))).count();
    // A last “M” that draws nothing is no outline.
    let draws = path.segments().count();
    if begins != 1 || draws < 4 {
        return refuse(format!(
            "The path of the {} has {begins} outlines of {draws} parts: save one closed outline a piece.",
            piece.name()
        ));
    }
    let scale = Affine::scale(mm_per_unit);
    let lines = path.segments().map(|seg| match scale * seg {
        PathSeg::Quad(quad) => PathSeg::Cubic(quad.raise()),
        other => other,
    });
    let lines: Vec<PathSeg> = lines.collect();
    // Before anything is measured along it: what no float holds well has no length.
    let is_on_the_table = |seg: &PathSeg| match seg {
        PathSeg::Line(line) => [line.p0, line.p1].into_iter().all(is_on_the_table),
        PathSeg::Quad(quad) => [quad.p0, quad.p1, quad.p2].into_iter().all(is_on_the_table),
        PathSeg::Cubic(cubic) => [cubic.p0, cubic.p1, cubic.p2, cubic.p3].into_iter().all(is_on_the_table),
    };
    let is_whole = lines.iter().all(is_on_the_table);
    let drawn = lines.into_iter().filter(|seg| seg.bounding_box().size().max_side() > 1e-9);
    let Some(whole) = drawn.map(Curve::of_part).reduce(Curve::then).filter(|_| is_whole) else {
        return refuse(format!(
            "The path of the {} is too large: is one unit {mm_per_unit} mm?",
            piece.name()
        ));
    };
    let open = whole.start().distance(whole.end());
    if open > CLOSED_WITHIN {
        return refuse(format!(
            "The path of the {} is open by {open:.1} mm: close its outline and save it again.",
            piece.name()
        ));
    }
    let start = whole.start();
    Ok(whole.with_end(start))
}

/// Where the outline turns: arc length and place.
fn corners(curve: &Curve) -> Vec<(f64, Point)> {
    let mut corners: Vec<(f64, Point)> = curve
        .corners()
        .into_iter()
        .filter(|(_, turn)| turn.abs() > CORNER)
        .map(|(along, _)| (along, curve.point_at(along)))
        .collect();
    let at_start = turn_degrees(curve.end_direction(), curve.start_direction());
    if at_start.abs() > CORNER {
        corners.push((0.0, curve.start()));
    }
    corners
}

/// The outline of a piece with its clicks on it.
pub(super) fn traced(
    piece: Draped,
    data: &str,
    mm_per_unit: f64,
    clicks: &Marks,
) -> Result<Outline, Refusal> {
    let curve = outline(piece, data, mm_per_unit)?;
    let clicks = clicks.map(|at| Point::new(at.x * mm_per_unit, at.y * mm_per_unit));
    let corners = corners(&curve);
    let mut marks = Marks::default();
    for (mark, click) in clicks.points() {
        // The bust point lies inside, unless a dart's corner is right there.
        let corner = corners
            .iter()
            .map(|(_, at)| *at)
            .min_by(|one, other| one.distance(click).total_cmp(&other.distance(click)));
        let corner = corner.filter(|at| at.distance(click) <= SNAPS_WITHIN);
        let on_line =
            || Some(curve.point_at(curve.nearest(click))).filter(|at| at.distance(click) <= SNAPS_WITHIN);
        let inside = || (mark == Cross::BustPoint).then_some(click);
        let Some(at) = corner.or_else(inside).or_else(on_line) else {
            let says = format!(
                "The {} of the {} was clicked more than {SNAPS_WITHIN:.0} mm from its outline: click the corner itself.",
                mark.name(),
                piece.name()
            );
            return Err(Refusal::new(piece, &[mark.into()], says));
        };
        marks.put(mark, at);
    }
    Ok(Outline { length: curve.length(), curve, places: Vec::new(), marks })
}

impl Outline {
    /// The outline in the piece's own frame, travelled from the top of the centre over the neck; and across, where it was not
    /// clicked: where the middle half of the armhole comes nearest to the centre.
    pub(super) fn framed(mut self, piece: Draped, to_frame: &ToFrame) -> Result<Self, Refusal> {
        // Without a skew the frame is a motion, and curves go with it exactly.
        let at = |point: Point| to_frame.of(point);
        let (zero, x, y) = (at(Point::ZERO), at(Point::new(1.0, 0.0)), at(Point::new(0.0, 1.0)));
        let motion = Affine::new([x.x - zero.x, x.y - zero.y, y.x - zero.x, y.y - zero.y, zero.x, zero.y]);
        let mut curve = self.curve.transformed(motion);
        self.marks = self.marks.map(at);
        let area = curve.to_path().area();
        if area < 0.0 {
            // y runs down: clockwise to the eye has a positive area.
            curve = curve.reversed();
        }
        // From the top of the centre on.
        let begins = curve.nearest(self.marks.get(Cross::CentreTop).unwrap_or_default());
        let (before, after) = curve.split(begins);
        self.curve = if begins < 1e-9 || before.length() < 1e-9 { after } else { after.then(before) };
        self.length = self.curve.length();
        self.places = Vec::new();
        let mut last = 0.0;
        for mark in Self::order(&self.marks) {
            let point = self.marks.get(mark).unwrap_or_default();
            let place = if mark == Cross::CentreTop { 0.0 } else { self.place_after(point, last) };
            let Some(place) = Some(place).filter(|place| *place >= last) else {
                let says = format!(
                    "On the outline of the {} the {} does not come where it should, going round from the top of the centre over the neck: \
                     click the corners again.",
                    piece.name(),
                    mark.name()
                );
                return Err(Refusal::new(piece, &[mark.into()], says));
            };
            self.places.push((mark, place));
            last = place;
        }
        if self.marks.get(Cross::Across).is_none() {
            self.find_across();
        }
        Ok(self)
    }

    /// The marks on the outline in the order they are come to.
    fn order(marks: &Marks) -> Vec<Cross> {
        let order = [
            Cross::CentreTop,
            Cross::NeckSide,
            Cross::ShoulderDartIn,
            Cross::ShoulderDartOut,
            Cross::Tip,
            Cross::Across,
            Cross::Underarm,
            Cross::SideDartUpper,
            Cross::SideDartLower,
            Cross::SideWaist,
            Cross::WaistDartOut,
            Cross::WaistDartIn,
            Cross::CentreWaist,
        ];
        order.into_iter().filter(|mark| marks.get(*mark).is_some()).collect()
    }

    /// The place of a point of the outline, looked for beyond another one first: the outline may pass a place twice.
    fn place_after(&self, point: Point, last: f64) -> f64 {
        let (_, rest) = self.curve.split(last);
        let further = rest.nearest(point);
        if rest.point_at(further).distance(point) < 0.01 { last + further } else { self.curve.nearest(point) }
    }

    fn place(&self, mark: Cross) -> Option<f64> {
        self.places.iter().find(|(other, _)| *other == mark).map(|(_, place)| *place)
    }

    fn find_across(&mut self) {
        let (Some(tip), Some(underarm)) = (self.place(Cross::Tip), self.place(Cross::Underarm)) else {
            return;
        };
        let long = underarm - tip;
        let places = (0..=200).map(|n| tip + long * (0.25 + 0.5 * f64::from(n) / 200.0));
        let nearest = places
            .map(|place| (place, self.curve.point_at(place)))
            .min_by(|one, other| one.1.x.total_cmp(&other.1.x));
        if let Some((place, at)) = nearest {
            self.marks.put(Cross::Across, at);
            let index = self.places.iter().position(|(mark, _)| *mark == Cross::Underarm).unwrap_or_default();
            self.places.insert(index, (Cross::Across, place));
        }
    }

    /// The line between two marks.
    pub(super) fn between(&self, from: Cross, to: Cross) -> Option<Curve> {
        let (from, to) =
            (self.place(from)?, if to == Cross::CentreTop { self.length } else { self.place(to)? });
        (to > from).then(|| self.curve.between(from, to))
    }

    /// The marks with dots along every line between them, as a hand would have clicked them.
    pub(super) fn dotted(&self) -> Marks {
        let mut marks = self.marks.clone();
        for (run, from, to) in [
            (Run::CentreDots, Cross::CentreWaist, Cross::CentreTop),
            (Run::NecklineDots, Cross::CentreTop, Cross::NeckSide),
            (Run::ShoulderDots, Cross::NeckSide, self.or(Cross::ShoulderDartIn, Cross::Tip)),
            (Run::ShoulderOuterDots, Cross::ShoulderDartOut, Cross::Tip),
            (Run::ArmholeDots, Cross::Tip, Cross::Across),
            (Run::ArmholeLowerDots, Cross::Across, Cross::Underarm),
            (Run::SideDots, Cross::Underarm, self.or(Cross::SideDartUpper, Cross::SideWaist)),
            (Run::SideLowerDots, Cross::SideDartLower, Cross::SideWaist),
            (Run::WaistOuterDots, Cross::SideWaist, Cross::WaistDartOut),
            (Run::WaistDots, self.or(Cross::WaistDartIn, Cross::SideWaist), Cross::CentreWaist),
        ] {
            if let Some(line) = self.between(from, to) {
                let mut dots = inner_dots(&line, (line.length() / DOTS_APART).floor() as usize);
                if run == Run::CentreDots {
                    dots.reverse();
                }
                marks.put_dots(run, dots);
            }
        }
        for dart in self.marks.darts() {
            let apex = self.apex(&dart);
            if let Some(apex) = apex {
                marks.put(dart.point, apex);
            }
            for (end, run) in dart.mouth.into_iter().zip(dart.legs) {
                if let (Some(from), Some(apex)) = (self.marks.get(end), apex) {
                    marks.put_dots(run, inner_dots(&Curve::line(from, apex), DOTS_OF_LEG));
                }
            }
        }
        marks
    }

    fn or(&self, dart: Cross, end: Cross) -> Cross {
        if self.place(dart).is_some() { dart } else { end }
    }

    /// Where the outline turns between the ends of a dart's mouth: clicked, or the corner furthest from both.
    pub(super) fn apex(&self, dart: &DartMarks) -> Option<Point> {
        if let Some(at) = self.marks.get(dart.point) {
            return Some(at);
        }
        let [one, other] = dart.mouth;
        let (from, to) = if dart.place == DartPlace::Waist { (other, one) } else { (one, other) };
        let legs = self.between(from, to)?;
        let mouth = legs.start().midpoint(legs.end());
        let corners = legs.corners().into_iter().filter(|(_, turn)| turn.abs() > CORNER);
        corners
            .map(|(along, _)| legs.point_at(along))
            .max_by(|one, other| one.distance(mouth).total_cmp(&other.distance(mouth)))
    }

    /// Whether the outline can stand as it is: its centre and its legs are straight, and both legs of a dart have one length.
    pub(super) fn is_drawn_true(&self) -> bool {
        let straight = |line: &Curve| {
            let (from, to) = (line.start(), line.end());
            let along = (to - from) / to.distance(from);
            line.flattened(0.05).iter().all(|at| (*at - from).cross(along).abs() <= STRAIGHT)
        };
        let centre = self.between(Cross::CentreWaist, Cross::CentreTop);
        let centre_is_straight = centre.is_some_and(|line| {
            straight(&line) && line.start().x.abs() <= STRAIGHT && line.end().x.abs() <= STRAIGHT
        });
        let darts_are_true = self.marks.darts().all(|dart| {
            let [one, other] = dart.mouth;
            let (from, to) = if dart.place == DartPlace::Waist { (other, one) } else { (one, other) };
            let legs = self.between(from, to).zip(self.apex(&dart));
            legs.is_some_and(|(legs, apex)| {
                let (first, second) = legs.split(legs.nearest(apex));
                let apart = legs.start().distance(apex) - legs.end().distance(apex);
                straight(&first) && straight(&second) && apart.abs() <= STRAIGHT
            })
        });
        centre_is_straight && darts_are_true
    }
}

/// So many dots inside a line, evenly.
fn inner_dots(line: &Curve, count: usize) -> Vec<Point> {
    let length = line.length();
    let places = (1..=count).map(|n| length * n as f64 / (count + 1) as f64);
    line.places(places).into_iter().map(|(at, _): (Point, Vec2)| at).collect()
}

/// What is wanted of a path: its corners.
pub(super) fn wanted() -> impl Iterator<Item = Named> {
    Cross::OF_EVERY_PIECE.into_iter().filter(|mark| *mark != Cross::Across).map(Named::from)
}
