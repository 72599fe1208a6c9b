//! Circles: where two of them meet.

use kurbo::Point;

use super::quarter_turn;

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
