//! Circles: where two of them meet, and arcs of one.

use kurbo::{Point, Vec2};

use super::{Curve, quarter_turn};

/// How exactly an arc is drawn, in millimetres.
const ARC_ACCURACY: f64 = 1e-5;

/// The arc about a centre from a point on, by an angle in radians, clockwise to the eye where that is positive.
pub(crate) fn round_about(about: Point, from: Point, angle: f64) -> Curve {
    let radius = from - about;
    let (hypot, begins_at) = (radius.hypot(), radius.y.atan2(radius.x));
    let arc = kurbo::Arc::new(about, Vec2::new(hypot, hypot), begins_at, angle, 0.0);
    let mut begins = from;
    let mut parts = arc.append_iter(ARC_ACCURACY).filter_map(|part| {
        let kurbo::PathEl::CurveTo(one, other, end) = part else { return None };
        Some(Curve::cubic(std::mem::replace(&mut begins, end), one, other, end))
    });
    let first = parts.next().unwrap_or_else(|| Curve::line(from, from));
    parts.fold(first, Curve::then)
}

/// Where two circles meet: both points, or `None`.
pub(crate) fn circles_meet(a: Point, ra: f64, b: Point, rb: f64) -> Option<[Point; 2]> {
    let between = b - a;
    let d = between.hypot();
    if ra <= 0.0 || rb <= 0.0 || d > ra + rb || d < (ra - rb).abs() || d == 0.0 {
        return None;
    }
    let along = (d * d + ra * ra - rb * rb) / (2.0 * d);
    let aside = (ra * ra - along * along).max(0.0).sqrt();
    let foot = a + between * (along / d);
    let square = quarter_turn(between / d) * aside;
    Some([foot + square, foot - square])
}

/// The gap by which two circles miss each other, in millimetres.
pub(crate) fn circles_miss_by(a: Point, ra: f64, b: Point, rb: f64) -> f64 {
    let d = a.distance(b);
    (d - ra - rb).max((ra - rb).abs() - d).max(0.0)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Check values, section 6: two circles.
    #[test]
    fn circles_meet_where_the_published_figures_say() {
        let [p, q] = circles_meet((90.0, 265.0).into(), 160.9, (240.0, 400.0).into(), 150.0).unwrap();
        let near = |p: Point, x: f64, y: f64| (p.x - x).abs() < 5e-4 && (p.y - y).abs() < 5e-4;
        assert!(near(p, 92.250, 425.884) || near(q, 92.250, 425.884), "{p:?} {q:?}");
        assert!(near(p, 250.232, 250.349) || near(q, 250.232, 250.349), "{p:?} {q:?}");
    }

    #[test]
    fn circles_apart_do_not_meet_and_say_by_how_much() {
        let (a, b) = (Point::ZERO, Point::new(100.0, 0.0));
        assert_eq!(circles_meet(a, 40.0, b, 50.0), None);
        assert_eq!(circles_miss_by(a, 40.0, b, 50.0), 10.0);
        assert_eq!(circles_miss_by(a, 160.0, b, 50.0), 10.0);
    }
}
