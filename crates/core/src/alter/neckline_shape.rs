//! The line of a neckline between the centre and the shoulder, in the shapes she may wish (handbook: `wishes.md`, section 1).

use kurbo::{Point, Vec2};

use super::ways::ways;
use crate::geometry::{Curve, bend, house_curve, quarter_turn, reach_within};

/// A line that must be square to the shoulder leaves it straight for so long, in millimetres (common practice, no source).
const STRAIGHT: f64 = 30.0;
/// Of its width, a round line is level for so much before it rises (common practice, no source).
const LEVEL_SHARE: f64 = 0.6;
/// A deep and narrow round line is drawn fuller at the centre, at most so much.
const FULLEST: f64 = 1.1;
/// How far the points of a sweetheart rise above its middle, in millimetres (common practice, no source).
const DIP: f64 = 40.0;
/// A sweetheart arrives at its middle so far from upright, in degrees (common practice, no source).
const DIP_ANGLE: f64 = 35.0;
/// A round line ends at least so far below the shoulder, in millimetres.
const LEAST_ROUND: f64 = 8.0;
/// A corner lies at least so far below the straight part, in millimetres.
const LEAST_POINTED: f64 = 20.0;

ways! {
    /// The neckline's shape in front.
    Shape {
        /// One curve, level at the centre.
        Round = "round", "round";
        /// Straight to a point at the centre.
        V = "v", "V";
        /// Down to a corner, then level.
        Square = "square", "square";
        /// Down to a corner, then over the breast to a dip.
        Sweetheart = "sweetheart", "sweetheart";
    }
}

ways! {
    /// The neckline's shape behind.
    ShapeBehind {
        /// One curve, level at the centre.
        Round = "round", "round";
        /// Straight to a point at the centre.
        V = "v", "V";
        /// Down to a corner, then level.
        Square = "square", "square";
    }
}

impl ShapeBehind {
    /// The same shape as it is drawn anywhere.
    pub(super) const fn shape(self) -> Shape {
        match self {
            Self::Round => Shape::Round,
            Self::V => Shape::V,
            Self::Square => Shape::Square,
        }
    }
}

impl Shape {
    /// Whether it comes to a point at the centre, and is not square there.
    pub(super) const fn is_pointed(self) -> bool {
        matches!(self, Self::V | Self::Sweetheart)
    }
}

/// Where a neckline begins and ends, and what it must be square to.
#[derive(Clone, Copy, Debug)]
pub(super) struct Ends {
    /// On the centre line.
    pub(super) centre: Point,
    /// Square to the centre line, into the piece, of unit length.
    pub(super) level: Vec2,
    /// On the shoulder.
    pub(super) neck: Point,
    /// The shoulder's direction, away from the neck, of unit length.
    pub(super) shoulder: Vec2,
}

impl Ends {
    /// Square to the shoulder, into the piece.
    fn inwards(&self) -> Vec2 {
        quarter_turn(self.shoulder)
    }

    /// Where a straight start from the shoulder ends.
    fn straight_end(&self) -> Point {
        self.neck + self.inwards() * STRAIGHT
    }

    fn width(&self) -> f64 {
        (self.neck - self.centre).dot(self.level)
    }

    fn depth(&self) -> f64 {
        (self.centre - self.neck).dot(quarter_turn(self.level))
    }

    /// How far from the centre the tangents of both ends meet, as a share of the width.
    fn meets_at(&self) -> f64 {
        let square = self.inwards();
        (self.neck - self.centre).cross(square) / self.level.cross(square) / self.width()
    }

    /// By how much the line would have to lie deeper to be drawn in this shape; none where it can be.
    pub(super) fn is_too_high_by(&self, shape: Shape) -> Option<f64> {
        let straight = (self.straight_end() - self.neck).dot(quarter_turn(self.level));
        let least = match shape {
            Shape::Round => LEAST_ROUND,
            Shape::V | Shape::Square => straight + LEAST_POINTED,
            Shape::Sweetheart => straight + LEAST_POINTED + DIP,
        };
        let short = least - self.depth();
        (short > 1e-9).then_some(short)
    }

    /// The line from the centre to the shoulder, in the parts between its corners. `old` is the line that is there: a round
    /// one is no fuller at the centre than it has to be.
    pub(super) fn drawn(&self, shape: Shape, corner: Option<f64>, old: &Self) -> Vec<Curve> {
        let (level, down) = (self.level, quarter_turn(self.level));
        let corner = corner.unwrap_or_else(|| (self.straight_end() - self.centre).dot(level));
        match shape {
            Shape::Round => vec![self.round(old)],
            Shape::V => vec![self.square_start(self.centre)],
            Shape::Square => {
                let at = self.centre + level * corner;
                vec![Curve::line(self.centre, at), self.square_start(at)]
            }
            Shape::Sweetheart => {
                let at = self.centre + level * corner - down * DIP;
                let (sin, cos) = DIP_ANGLE.to_radians().sin_cos();
                let arrives = down * cos - level * sin;
                vec![house_curve(self.centre, -arrives, at, level).curve, self.square_start(at)]
            }
        }
    }

    /// One cubic, level at the centre and square at the shoulder. Where the house curve would come to a point, deep and
    /// narrow, it keeps its fullness at the centre.
    fn round(&self, old: &Self) -> Curve {
        let arrives = -self.inwards();
        let (meets, least) = (self.meets_at(), old.meets_at().min(LEVEL_SHARE));
        if meets >= least {
            return house_curve(self.centre, self.level, self.neck, arrives).curve;
        }
        let turning = self.level.cross(arrives).atan2(self.level.dot(arrives)).abs();
        let share = 4.0 * (turning / 4.0).tan() / (3.0 * (turning / 2.0).tan());
        let width = self.width();
        let full = (least + 1.5 * (least - meets)).min(FULLEST);
        // As far along the square to the shoulder as from the wanted meeting place.
        let lean = self.level.dot(arrives).abs();
        let at_shoulder = share * (1.0 - least) * width / lean;
        Curve::cubic(
            self.centre,
            self.centre + self.level * (share * width * full),
            self.neck - arrives * at_shoulder,
            self.neck,
        )
    }

    /// From a point straight towards the shoulder's straight part, the kink drawn round, square at the shoulder.
    fn square_start(&self, from: Point) -> Curve {
        let kink = self.straight_end();
        bend(from, kink, self.neck, (reach_within(kink, from, STRAIGHT), STRAIGHT))
    }
}
