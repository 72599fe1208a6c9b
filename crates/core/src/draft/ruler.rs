//! Ruler and compass: the constructions both pieces share.

use kurbo::{ParamCurveCurvature, PathSeg, Point, Vec2};

use crate::geometry::house_curve;
use crate::geometry::{Curve, quarter_turn};

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
            let off = crate::geometry::turn_degrees(line.start_direction(), quarter_turn(shoulder));
            assert!(off.abs() < 1e-6, "{inward}: {off}\u{b0} off square");
            assert!(is_s, "{inward}");
            assert!(line.corners().iter().all(|(_, turn)| turn.abs() < 8.0), "{:?}", line.corners());
        }
    }
}
