//! An open run of lines and cubics: what an edge of a piece is made of.
//!
//! Places on a curve are named by arc length from its start, in millimetres. A curve is written
//! as SVG path data (`M… L… C…`), which gives every coordinate back exactly.

use kurbo::{
    Affine, BezPath, CubicBez, Line, ParamCurve, ParamCurveArclen, ParamCurveCurvature, ParamCurveDeriv,
    PathSeg, Point, Rect, Shape, Vec2,
};
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// How exactly arc lengths are computed, in millimetres.
const LENGTH_ACCURACY: f64 = 1e-6;

/// How nearly a place along is hit where a curve is only bent or fitted, in millimetres.
const PLACE_ACCURACY: f64 = 1e-3;
/// How often the way to a place is mended by the speed there before it is looked for by halving.
const STEPS_ALONG: u32 = 8;

/// Ends nearer than this are one point, in millimetres.
pub(crate) const SAME_POINT: f64 = 1e-6;

/// No point of a pattern from outside lies further from the origin, in millimetres.
pub(crate) const FURTHEST: f64 = 5000.0;

/// A seam line from outside has at most so many parts.
const MOST_SEGMENTS: usize = 400;

/// A connected, open run of straight lines and cubics. Never empty.
#[derive(Clone, Debug, PartialEq)]
pub struct Curve(Vec<PathSeg>);

impl Curve {
    /// A straight line.
    pub fn line(from: Point, to: Point) -> Self {
        Self(vec![PathSeg::Line(Line::new(from, to))])
    }

    /// One cubic.
    pub fn cubic(p0: Point, p1: Point, p2: Point, p3: Point) -> Self {
        Self(vec![PathSeg::Cubic(CubicBez::new(p0, p1, p2, p3))])
    }

    /// Straight lines through `points`. `None` for fewer than two.
    pub fn polyline(points: &[Point]) -> Option<Self> {
        let lines: Vec<_> = points.windows(2).map(|w| PathSeg::Line(Line::new(w[0], w[1]))).collect();
        (!lines.is_empty()).then_some(Self(lines))
    }

    /// One of the lines or bends of another.
    pub(crate) fn of_part(part: PathSeg) -> Self {
        Self(vec![part])
    }

    /// One curve after the other. The second is taken to begin where the first ends.
    pub fn then(mut self, next: Self) -> Self {
        let next = next.with_start(self.end());
        let is_point =
            |seg: &PathSeg| seg.start().distance(seg.end()) < SAME_POINT && matches!(seg, PathSeg::Line(_));
        self.0.extend(next.0.into_iter().filter(|seg| !is_point(seg)));
        if self.0.len() > 1 && is_point(&self.0[0]) {
            let start = self.start();
            self.0.remove(0);
            self = self.with_start(start);
        }
        self
    }

    /// The segments in order.
    pub fn segments(&self) -> &[PathSeg] {
        &self.0
    }

    /// First point.
    pub fn start(&self) -> Point {
        self.0[0].start()
    }

    /// Last point.
    pub fn end(&self) -> Point {
        self.0[self.0.len() - 1].end()
    }

    /// Arc length.
    pub fn length(&self) -> f64 {
        self.0.iter().map(|seg| seg.arclen(LENGTH_ACCURACY)).sum()
    }

    /// Direction of travel at the start, unit length.
    pub fn start_direction(&self) -> Vec2 {
        direction_at(&self.0[0], 0.0)
    }

    /// Direction of travel at the end, unit length.
    pub fn end_direction(&self) -> Vec2 {
        direction_at(&self.0[self.0.len() - 1], 1.0)
    }

    /// The point `s` along; clamped to the ends.
    pub fn point_at(&self, s: f64) -> Point {
        let (index, t) = self.locate(s);
        self.0[index].eval(t)
    }

    /// Direction of travel `s` along, unit length.
    pub fn direction_at(&self, s: f64) -> Vec2 {
        let (index, t) = self.locate(s);
        direction_at(&self.0[index], t)
    }

    /// Point and direction at each of these arc lengths, in ascending order: each is looked for from the one before, which a
    /// loop over [`Curve::point_at`] would do from the start for every point. Each place is within [`PLACE_ACCURACY`] of its
    /// arc length and exactly on the curve.
    pub(crate) fn places(&self, along: impl IntoIterator<Item = f64>) -> Vec<(Point, Vec2)> {
        let mut segments = self.0.iter().map(|seg| (seg, seg.arclen(LENGTH_ACCURACY))).peekable();
        // Arc length where the segment begins, and the last place on it: its parameter, and arc length from there.
        let (mut begins, mut last) = (0.0, (0.0, 0.0));
        let at = |s: f64| {
            while let Some((seg, length)) = segments.peek() {
                let left = s - begins;
                // Where two parts join, and at both ends, the place is the very point.
                if left < PLACE_ACCURACY {
                    return (seg.start(), direction_at(seg, 0.0));
                }
                if left < *length - PLACE_ACCURACY {
                    last = further_along(seg, last, left);
                    return (seg.eval(last.0), direction_at(seg, last.0));
                }
                begins += length;
                last = (0.0, 0.0);
                segments.next();
            }
            (self.end(), self.end_direction())
        };
        along.into_iter().map(at).collect()
    }

    /// The curve cut in two, `s` along.
    pub fn split(&self, s: f64) -> (Self, Self) {
        let (index, t) = self.locate(s);
        let mut before = self.0[..index].to_vec();
        let mut after = self.0[index + 1..].to_vec();
        if t > 0.0 {
            before.push(self.0[index].subsegment(0.0..t));
        }
        if t < 1.0 {
            after.insert(0, self.0[index].subsegment(t..1.0));
        }
        let at = self.0[index].eval(t);
        let point = || PathSeg::Line(Line::new(at, at));
        if before.is_empty() {
            before.push(point());
        }
        if after.is_empty() {
            after.push(point());
        }
        (Self(before), Self(after))
    }

    /// What lies between `from` and `to` along.
    pub fn between(&self, from: f64, to: f64) -> Self {
        let (head, _) = self.split(to);
        if from <= 0.0 { head } else { head.split(from).1 }
    }

    /// The same line travelled the other way.
    pub fn reversed(&self) -> Self {
        Self(self.0.iter().rev().map(PathSeg::reverse).collect())
    }

    /// Moved as a whole.
    pub fn transformed(&self, by: Affine) -> Self {
        Self(self.0.iter().map(|seg| by * *seg).collect())
    }

    /// Whether it is made of straight lines only, one or more.
    pub fn is_straight(&self) -> bool {
        self.0.iter().all(|seg| matches!(seg, PathSeg::Line(_)))
    }

    /// Whether it is one straight line.
    pub fn is_line(&self) -> bool {
        matches!(self.0.as_slice(), [PathSeg::Line(_)])
    }

    /// The start put exactly on `start`: for ends that already coincide within rounding.
    pub fn with_start(mut self, start: Point) -> Self {
        match &mut self.0[0] {
            PathSeg::Line(line) => line.p0 = start,
            PathSeg::Quad(quad) => quad.p0 = start,
            PathSeg::Cubic(cubic) => cubic.p0 = start,
        }
        self
    }

    /// The end put exactly on `end`: for ends that already coincide within rounding.
    pub fn with_end(mut self, end: Point) -> Self {
        if let Some(last) = self.0.last_mut() {
            match last {
                PathSeg::Line(line) => line.p1 = end,
                PathSeg::Quad(quad) => quad.p2 = end,
                PathSeg::Cubic(cubic) => cubic.p3 = end,
            }
        }
        self
    }

    /// Points along it, no further than `tolerance` from the line; ends included.
    pub fn flattened(&self, tolerance: f64) -> Vec<Point> {
        let mut points = vec![self.start()];
        kurbo::flatten(self.to_path(), tolerance, |el| {
            if let kurbo::PathEl::LineTo(p) = el {
                points.push(p);
            }
        });
        points
    }

    /// Arc length from the start to the first crossing with the level line at `y`.
    pub fn crossing_level(&self, y: f64) -> Option<f64> {
        let far = 1e5;
        self.crossing(Line::new((-far, y), (far, y)))
    }

    /// Arc length from the start to the first crossing with `line`.
    pub fn crossing(&self, line: Line) -> Option<f64> {
        let mut before = 0.0;
        for seg in &self.0 {
            let hit = seg.intersect_line(line).iter().map(|hit| hit.segment_t).min_by(f64::total_cmp);
            if let Some(t) = hit {
                return Some(before + seg.subsegment(0.0..t).arclen(LENGTH_ACCURACY));
            }
            before += seg.arclen(LENGTH_ACCURACY);
        }
        None
    }

    /// Arc length from the start to the place nearest to `point`.
    pub fn nearest(&self, point: Point) -> f64 {
        use kurbo::ParamCurveNearest;
        let mut best = (f64::INFINITY, 0.0);
        let mut before = 0.0;
        for seg in &self.0 {
            let near = seg.nearest(point, 1e-9);
            if near.distance_sq < best.0 {
                best = (near.distance_sq, before + seg.subsegment(0.0..near.t).arclen(LENGTH_ACCURACY));
            }
            before += seg.arclen(LENGTH_ACCURACY);
        }
        best.1
    }

    /// The curve moved as one drawn curve became another: each control point by as much. `None` where the three are not
    /// drawn in as many cubics.
    pub fn moved_like(&self, from: &Self, to: &Self) -> Option<Self> {
        let same = self.0.len() == from.0.len() && from.0.len() == to.0.len();
        let cubics = self.0.iter().zip(&from.0).zip(&to.0).map(|((own, from), to)| match (own, from, to) {
            (PathSeg::Cubic(own), PathSeg::Cubic(from), PathSeg::Cubic(to)) => {
                let moved = |own: Point, from: Point, to: Point| own + (to - from);
                Some(PathSeg::Cubic(CubicBez::new(
                    moved(own.p0, from.p0, to.p0),
                    moved(own.p1, from.p1, to.p1),
                    moved(own.p2, from.p2, to.p2),
                    moved(own.p3, from.p3, to.p3),
                )))
            }
            _ => None,
        });
        same.then(|| cubics.collect::<Option<Vec<_>>>()).flatten().map(Self)
    }

    /// Corners inside the curve: (arc length, turn in degrees, clockwise to the eye positive).
    pub fn corners(&self) -> Vec<(f64, f64)> {
        let mut along = 0.0;
        self.0
            .windows(2)
            .map(|pair| {
                along += pair[0].arclen(LENGTH_ACCURACY);
                (along, turn_degrees(direction_at(&pair[0], 1.0), direction_at(&pair[1], 0.0)))
            })
            .collect()
    }

    /// Curvature at `n + 1` even parameters of each cubic, 1/mm, clockwise to the eye positive.
    pub fn curvatures(&self, n: u32) -> Vec<f64> {
        let at = |cubic: &CubicBez, i: u32| cubic.curvature(f64::from(i) / f64::from(n));
        self.0
            .iter()
            .filter_map(|seg| if let PathSeg::Cubic(cubic) = seg { Some(cubic) } else { None })
            .flat_map(|cubic| (0..=n).map(move |i| at(cubic, i)))
            .collect()
    }

    /// The smallest upright rectangle round it.
    pub fn bounds(&self) -> Rect {
        self.to_path().bounding_box()
    }

    /// As a path of its own.
    pub fn to_path(&self) -> BezPath {
        BezPath::from_path_segments(self.0.iter().copied())
    }

    /// SVG path data, exact.
    pub fn to_svg(&self) -> String {
        self.to_path().to_svg()
    }

    fn locate(&self, s: f64) -> (usize, f64) {
        let mut left = s.max(0.0);
        for (index, seg) in self.0.iter().enumerate() {
            let length = seg.arclen(LENGTH_ACCURACY);
            // A stretch too short to have a direction would be a corner: its end is the place.
            if left < SAME_POINT {
                return (index, 0.0);
            }
            if (left - length).abs() < SAME_POINT {
                return (index, 1.0);
            }
            if left < length {
                return (index, seg.inv_arclen(left, LENGTH_ACCURACY * 0.1));
            }
            left -= length;
        }
        (self.0.len() - 1, 1.0)
    }
}

impl Serialize for Curve {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        serializer.serialize_str(&self.to_svg())
    }
}

impl<'de> Deserialize<'de> for Curve {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        use serde::de::Error;
        let text = String::deserialize(deserializer)?;
        let path = BezPath::from_svg(&text).map_err(D::Error::custom)?;
        let lines = path.segments().map(|seg| match seg {
            PathSeg::Quad(quad) => PathSeg::Cubic(quad.raise()),
            other => other,
        });
        let segments: Vec<_> = lines.collect();
        if segments.is_empty() {
            return Err(D::Error::custom("a seam line needs at least two points"));
        }
        if segments.len() > MOST_SEGMENTS {
            return Err(D::Error::custom(format!("a seam line has at most {MOST_SEGMENTS} parts")));
        }
        if !path.elements().iter().flat_map(points_of).all(is_on_the_table) {
            let says = format!("a seam line has a point that is no number, or beyond {FURTHEST} mm");
            return Err(D::Error::custom(says));
        }
        Ok(Self(segments))
    }
}

/// Every point of a path element, handles too.
fn points_of(el: &kurbo::PathEl) -> impl Iterator<Item = Point> + use<> {
    use kurbo::PathEl;
    let points: [Option<Point>; 3] = match *el {
        PathEl::MoveTo(p) | PathEl::LineTo(p) => [Some(p), None, None],
        PathEl::QuadTo(a, p) => [Some(a), Some(p), None],
        PathEl::CurveTo(a, b, p) => [Some(a), Some(b), Some(p)],
        PathEl::ClosePath => [None; 3],
    };
    points.into_iter().flatten()
}

/// Whether a point from outside can be worked with: a number, and on a table of a believable size.
pub(crate) fn is_on_the_table(point: Point) -> bool {
    point.x.abs() <= FURTHEST && point.y.abs() <= FURTHEST
}

/// One closed path along curves that follow each other; ends a rounding apart are taken as one point.
pub(crate) fn closed_path<'a>(curves: impl IntoIterator<Item = &'a Curve>) -> BezPath {
    let mut path = BezPath::new();
    for seg in curves.into_iter().flat_map(|curve| &curve.0) {
        if path.elements().is_empty() {
            path.move_to(seg.start());
        }
        path.push(seg.as_path_el());
    }
    path.close_path();
    path
}

/// Goes on along a segment from a known place, a parameter and its arc length, to an arc length: by as much as the speed
/// there says, until the stretch between is as long as it should be.
fn further_along(seg: &PathSeg, from: (f64, f64), to: f64) -> (f64, f64) {
    let speed = |t: f64| match seg {
        PathSeg::Cubic(cubic) => cubic.deriv().eval(t).to_vec2().hypot(),
        PathSeg::Line(line) => line.p0.distance(line.p1),
        PathSeg::Quad(quad) => quad.deriv().eval(t).to_vec2().hypot(),
    };
    let (mut t, mut at) = from;
    for _ in 0..STEPS_ALONG {
        let step = (to - at) / speed(t);
        if !step.is_finite() {
            break;
        }
        t = (t + step).clamp(from.0, 1.0);
        at = from.1 + seg.subsegment(from.0..t).arclen(LENGTH_ACCURACY);
        if (to - at).abs() < PLACE_ACCURACY {
            return (t, at);
        }
    }
    // A segment that nearly stands still somewhere is asked in the slow and certain way.
    (seg.inv_arclen(to, PLACE_ACCURACY), to)
}

/// The direction of a segment, even where its handle lies on its end.
fn direction_at(seg: &PathSeg, t: f64) -> Vec2 {
    let slope = match seg {
        PathSeg::Line(line) => line.deriv().eval(t).to_vec2(),
        PathSeg::Quad(quad) => quad.deriv().eval(t).to_vec2(),
        PathSeg::Cubic(cubic) => cubic.deriv().eval(t).to_vec2(),
    };
    if slope.hypot() > SAME_POINT {
        return slope / slope.hypot();
    }
    let step = 1e-4;
    let (a, b) = if t < 0.5 { (t, t + step) } else { (t - step, t) };
    let chord = seg.eval(b) - seg.eval(a);
    if chord.hypot() > 0.0 { chord / chord.hypot() } else { Vec2::ZERO }
}

/// The turn from one direction to another in degrees, −180 to 180, clockwise to the eye positive.
pub fn turn_degrees(from: Vec2, to: Vec2) -> f64 {
    from.cross(to).atan2(from.dot(to)).to_degrees()
}

/// The direction turned a quarter clockwise to the eye.
pub fn quarter_turn(direction: Vec2) -> Vec2 {
    Vec2::new(-direction.y, direction.x)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn parabola() -> Curve {
        Curve::cubic(
            (0.0, 0.0).into(),
            (1.0 / 3.0, 0.0).into(),
            (2.0 / 3.0, 1.0 / 3.0).into(),
            (1.0, 1.0).into(),
        )
    }

    /// Closed form: (2√5 + asinh 2)/4 (check values, section 6).
    #[test]
    fn length_of_the_parabola_is_its_closed_form() {
        assert!((parabola().length() - 1.478_942_857_544_597).abs() < 1e-9);
    }

    #[test]
    fn split_halves_add_up() {
        let curve = parabola().then(Curve::line((1.0, 1.0).into(), (4.0, 5.0).into()));
        for s in [0.0, 0.3, 1.2, 3.0, curve.length()] {
            let (a, b) = curve.split(s);
            assert!((a.length() - s).abs() < 1e-6, "{s}");
            assert!((a.length() + b.length() - curve.length()).abs() < 1e-6, "{s}");
            assert!(a.end().distance(b.start()) < 1e-9);
        }
    }

    #[test]
    fn written_and_read_back_is_the_same_to_the_last_bit() {
        let curve = parabola().then(Curve::line((1.0, 1.0).into(), (0.1 + 0.2, 1e-3 / 7.0).into()));
        let text = serde_json::to_string(&curve).unwrap();
        assert_eq!(serde_json::from_str::<Curve>(&text).unwrap(), curve);
    }

    #[test]
    fn a_corner_is_found_with_its_turn() {
        let bent = Curve::polyline(&[(0.0, 0.0).into(), (10.0, 0.0).into(), (10.0, 5.0).into()]).unwrap();
        assert_eq!(bent.corners(), vec![(10.0, 90.0)]);
    }
}
