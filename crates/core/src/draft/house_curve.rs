//! The house curve: one rule for every drafted curve.
//!
//! Between two points with a direction each, the handles reach a share of the way to where the
//! tangent lines meet, chosen so that a circle stays a circle (handbook: `blocks.md`, section 2).

use kurbo::{Point, Vec2};

use crate::pattern::Curve;

/// A house curve, and whether it had to be drawn as an S.
#[derive(Clone, Debug, PartialEq)]
pub struct HouseCurve {
    /// The line.
    pub curve: Curve,
    /// The tangent lines do not meet between the ends: the curve may bend both ways.
    pub s_shaped: bool,
}

/// Where the tangent lines meet: ahead of `p0` along `t0` and behind `p1` along `t1`, as the two
/// distances. `None` where they do not.
pub(crate) fn tangents_meet(p0: Point, t0: Vec2, p1: Point, t1: Vec2) -> Option<(f64, f64)> {
    let across = t0.cross(t1);
    if across.abs() < 1e-9 {
        return None;
    }
    let chord = p1 - p0;
    let (ahead, behind) = (chord.cross(t1) / across, t0.cross(chord) / across);
    (ahead > 0.0 && behind > 0.0).then_some((ahead, behind))
}

/// The curve from `p0`, leaving along `t0`, to `p1`, arriving along `t1`. Directions of any length.
pub fn house_curve(p0: Point, t0: Vec2, p1: Point, t1: Vec2) -> HouseCurve {
    let (t0, t1) = (t0 / t0.hypot(), t1 / t1.hypot());
    let turning = t0.cross(t1).atan2(t0.dot(t1)).abs();
    match tangents_meet(p0, t0, p1, t1) {
        Some((ahead, behind)) => {
            let share = 4.0 * (turning / 4.0).tan() / (3.0 * (turning / 2.0).tan());
            let curve = Curve::cubic(p0, p0 + t0 * (share * ahead), p1 - t1 * (share * behind), p1);
            HouseCurve { curve, s_shaped: false }
        }
        None => {
            let third = p0.distance(p1) / 3.0;
            HouseCurve { curve: Curve::cubic(p0, p0 + t0 * third, p1 - t1 * third, p1), s_shaped: true }
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Closed form: the usual one-cubic quarter circle is off by at most 2.725e-4 of its radius.
    #[test]
    fn a_circle_stays_a_circle() {
        let arc =
            house_curve((100.0, 0.0).into(), Vec2::new(0.0, 1.0), (0.0, 100.0).into(), Vec2::new(-1.0, 0.0));
        assert!(!arc.s_shaped);
        for point in arc.curve.flattened(0.001) {
            let radius = point.to_vec2().hypot();
            assert!((radius - 100.0).abs() < 0.028, "{radius}");
        }
    }

    #[test]
    fn parallel_tangents_make_a_reported_s() {
        let s = house_curve((0.0, 0.0).into(), Vec2::new(1.0, 0.0), (30.0, 10.0).into(), Vec2::new(1.0, 0.0));
        assert!(s.s_shaped);
    }
}
