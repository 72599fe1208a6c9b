//! The house curve: one rule for every drafted curve.
//!
//! Between two points with a direction each, the handles reach a share of the way to where the
//! tangent lines meet, chosen so that a circle stays a circle (handbook: `blocks.md`, section 2).

use kurbo::{Point, Vec2};

use super::Curve;

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
    let chord = p0.distance(p1);
    let met = tangents_meet(p0, t0, p1, t1);
    // Near the end of an arc, and where the tangent lines meet far away, it turns into an S without a jump.
    let (share, ahead, behind, arc) = met.map_or((0.0, 0.0, 0.0, 0.0), |(ahead, behind)| {
        let share = 4.0 * (turning / 4.0).tan() / (3.0 * (turning / 2.0).tan());
        let room = ahead.min(behind) / (NEAR * chord);
        let reach = (FAR.1 - (ahead + behind) / chord) / (FAR.1 - FAR.0);
        (share, ahead, behind, smooth(room.min(reach)))
    });
    let handle = |to_meeting: f64| arc * share * to_meeting + (1.0 - arc) * chord / 3.0;
    let curve = Curve::cubic(p0, p0 + t0 * handle(ahead), p1 - t1 * handle(behind), p1);
    HouseCurve { curve, s_shaped: met.is_none() }
}

/// From the waist down: hollow at the waist, straight down at the hip.
pub(crate) fn hip_curve(waist: Point, hip: Point) -> Curve {
    let reach = Vec2::new(0.0, (hip.y - waist.y) / 3.0);
    Curve::cubic(waist, waist + reach, hip - reach, hip)
}

/// The tangent lines meet this near to an end, as a share of the chord: the arc begins to turn into an S (ours, tuned
/// so that no drafted curve of an ordinary body is touched).
const NEAR: f64 = 0.1;
/// Both ways to where they meet are together so many chords long: there the arc begins to turn into an S, and is one.
const FAR: (f64, f64) = (2.0, 4.0);

/// 0 to 1, level at both ends.
fn smooth(share: f64) -> f64 {
    let t = share.clamp(0.0, 1.0);
    t * t * (3.0 - 2.0 * t)
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

    /// A direction turned by a ten-thousandth of a degree moves no point of the curve by 0.005 mm: not
    /// where the tangents become parallel, and not where they meet at an end.
    #[test]
    fn an_arc_turns_into_an_s_without_a_jump() {
        let (from, to) = (Point::ZERO, Point::new(80.0, 30.0));
        let way = |degrees: f64| Vec2::from_angle(degrees.to_radians());
        let mut s = 0;
        for start in [-60.0, -20.0, 0.0, 15.0, 20.556, 35.0, 80.0] {
            for end in -1800..1800 {
                let end = f64::from(end) / 10.0;
                let curve = |by: f64| house_curve(from, way(start), to, way(end + by));
                let (one, other) = (curve(0.0), curve(0.0001));
                s += u32::from(one.s_shaped != other.s_shaped);
                for n in 1..16 {
                    let at = |curve: &HouseCurve| {
                        let kurbo::PathSeg::Cubic(cubic) = curve.curve.segments()[0] else {
                            panic!("no cubic")
                        };
                        kurbo::ParamCurve::eval(&cubic, f64::from(n) / 16.0)
                    };
                    let moved = at(&one).distance(at(&other));
                    assert!(moved < 0.005, "{start} {end}: {moved}");
                }
            }
        }
        assert!(s > 0, "the borders were not crossed");
    }

    #[test]
    fn parallel_tangents_make_a_reported_s() {
        let s = house_curve((0.0, 0.0).into(), Vec2::new(1.0, 0.0), (30.0, 10.0).into(), Vec2::new(1.0, 0.0));
        assert!(s.s_shaped);
    }
}
