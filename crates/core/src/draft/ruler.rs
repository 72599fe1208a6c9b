//! Ruler and compass: the constructions both pieces share.

use kurbo::{ParamCurveCurvature, PathSeg, Point, Vec2};

use super::house_curve;
use crate::pattern::{Curve, quarter_turn};

/// Where two circles meet: both points, or `None`.
pub(super) fn circles_meet(a: Point, ra: f64, b: Point, rb: f64) -> Option<[Point; 2]> {
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
pub(super) fn circles_miss_by(a: Point, ra: f64, b: Point, rb: f64) -> f64 {
    let d = a.distance(b);
    (d - ra - rb).max((ra - rb).abs() - d).max(0.0)
}

/// Where `f` is nought between `low` and `high`, to a hundred-thousandth of a millimetre. `None` where it has
/// the same sign at both ends. False position in the Illinois form: it closes from both sides.
pub(crate) fn root(f: impl Fn(f64) -> f64, mut low: f64, mut high: f64) -> Option<f64> {
    let (mut at_low, mut at_high) = (f(low), f(high));
    if at_low == 0.0 {
        return Some(low);
    }
    if at_low.signum() == at_high.signum() || !(at_low.is_finite() && at_high.is_finite()) {
        return None;
    }
    let mut last = 0;
    for _ in 0..100 {
        let at = (low * at_high - high * at_low) / (at_high - at_low);
        let here = f(at);
        if here.abs() < 1e-6 || (high - low).abs() < 1e-5 {
            return Some(at);
        }
        if here.signum() == at_high.signum() {
            (high, at_high) = (at, here);
            if last == -1 {
                at_low /= 2.0;
            }
            last = -1;
        } else {
            (low, at_low) = (at, here);
            if last == 1 {
                at_high /= 2.0;
            }
            last = 1;
        }
    }
    Some(low.midpoint(high))
}

/// What an armhole is drawn between.
pub(super) struct Armhole {
    /// Shoulder tip.
    pub(super) tip: Point,
    /// Direction of the shoulder at the tip, away from the neck.
    pub(super) shoulder: Vec2,
    /// Where it touches the across line.
    pub(super) touch: Point,
    /// Underarm point.
    pub(super) underarm: Point,
    /// Direction of the side seam, downwards.
    pub(super) side: Vec2,
}

impl Armhole {
    /// The line from tip to underarm, with continuous curvature at the touch, and whether it is an S.
    pub(super) fn draw(&self) -> (Curve, bool) {
        let down = Vec2::new(0.0, 1.0);
        let square_to_side = -quarter_turn(self.side);
        let lower = house_curve(self.touch, down, self.underarm, square_to_side);
        let bend = match lower.curve.segments().first() {
            Some(PathSeg::Cubic(cubic)) => cubic.curvature(0.0).abs(),
            _ => 0.0,
        };
        let chord = self.tip.distance(self.touch);
        let square = quarter_turn(self.shoulder);
        // The shoulder's slope: how far its square leans towards the centre.
        let lean = -square.x;
        let inward = self.tip.x - self.touch.x;
        let longest = if lean > 1e-9 { 2.0 / 3.0 * inward / lean } else { f64::INFINITY };
        // Never shorter than an eighth: with no handle at all the line would leave the tip straight down,
        // not square to the shoulder, and front and back would peak where they join.
        let leaving = longest.clamp(chord / 8.0, chord / 3.0);
        let still = inward - leaving * lean;
        let arriving = (2.0 * still.max(0.0) / (3.0 * bend.max(1e-9))).sqrt().clamp(chord / 6.0, chord / 2.0);
        let upper =
            Curve::cubic(self.tip, self.tip + square * leaving, self.touch - down * arriving, self.touch);
        let is_s = lower.s_shaped || still < -1e-9;
        (upper.then(lower.curve), is_s)
    }
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

    /// Across as wide as the shoulder tip, or wider: the touch lies straight below the tip.
    #[test]
    fn a_wide_across_still_leaves_the_tip_square_and_says_it_bends_both_ways() {
        let shoulder = Vec2::new(133.0, 47.0).normalize();
        let tip = Point::new(208.0, 47.0);
        for inward in [0.0, 0.5, 2.0] {
            let touch = Point::new(tip.x - inward, 150.0);
            let underarm = Point::new(260.0, 225.0);
            let (line, is_s) =
                Armhole { tip, shoulder, touch, underarm, side: Vec2::new(0.1, 1.0).normalize() }.draw();
            let off = crate::pattern::turn_degrees(line.start_direction(), quarter_turn(shoulder));
            assert!(off.abs() < 1e-6, "{inward}: {off}\u{b0} off square");
            assert!(is_s, "{inward}");
            assert!(line.corners().iter().all(|(_, turn)| turn.abs() < 8.0), "{:?}", line.corners());
        }
    }

    #[test]
    fn circles_apart_do_not_meet_and_say_by_how_much() {
        let (a, b) = (Point::ZERO, Point::new(100.0, 0.0));
        assert_eq!(circles_meet(a, 40.0, b, 50.0), None);
        assert_eq!(circles_miss_by(a, 40.0, b, 50.0), 10.0);
        assert_eq!(circles_miss_by(a, 160.0, b, 50.0), 10.0);
    }
}
