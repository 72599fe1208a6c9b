//! How a dart is sewn, where otherwise than straight from its mouth to its point and folded to the usual side.
//!
//! Its legs as edges of the piece stay straight: slashes, truing and walks turn about the pivot from leg to leg, and the curves run along the
//! legs at the mouth and at the point. What is closed is therefore the same, whatever is bowed in between.

use kurbo::{BezPath, Point};
use serde::{Deserialize, Serialize};

use super::piece::{DartPlace, Piece};

/// How one dart is sewn.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct DartStitching {
    /// Where the dart is.
    pub place: DartPlace,
    /// How far each stitching line lies outside its straight leg half-way, in millimetres: it takes in more there.
    #[serde(default)]
    pub bow: f64,
    /// Folded to the other side than is usual: waist and shoulder darts away from the centre, side darts upwards.
    #[serde(default)]
    pub other_way: bool,
}

impl DartStitching {
    /// Straight, and folded as is usual.
    pub(super) const fn usual(place: DartPlace) -> Self {
        Self { place, bow: 0.0, other_way: false }
    }

    fn is_usual(&self) -> bool {
        self.bow == 0.0 && !self.other_way
    }
}

impl Piece {
    /// How a dart is sewn.
    pub fn stitching(&self, place: DartPlace) -> DartStitching {
        let told = self.stitching.iter().find(|told| told.place == place);
        told.copied().unwrap_or_else(|| DartStitching::usual(place))
    }

    /// Has a dart sewn in this way.
    pub fn stitch(&mut self, stitching: DartStitching) {
        self.stitching.retain(|told| told.place != stitching.place);
        if !stitching.is_usual() {
            self.stitching.push(stitching);
        }
    }
}

/// The stitching lines of a dart, from one end of its mouth to the point and on to the other.
pub(super) fn stitching_lines(first: Point, point: Point, second: Point, bow: f64) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(first);
    bowed(&mut path, first, point, second, bow);
    bowed(&mut path, point, second, first, bow);
    path
}

/// Goes on from one end of a leg to the other, beside the straight line by `bow` half-way, away from `inside`.
fn bowed(path: &mut BezPath, from: Point, to: Point, inside: Point, bow: f64) {
    let leg = to - from;
    let length = leg.hypot();
    if bow == 0.0 || length < 1e-9 {
        path.line_to(to);
        return;
    }
    let square = kurbo::Vec2::new(-leg.y, leg.x) / length;
    let out = if square.dot(inside - from) > 0.0 { -square } else { square };
    let middle = from.midpoint(to) + out * bow;
    // Handles along the leg at all three places: the curve leaves, passes and arrives in its direction.
    let handle = leg / 4.0;
    path.curve_to(from + handle, middle - handle, middle);
    path.curve_to(middle + handle, to - handle, to);
}

#[cfg(test)]
mod tests {
    use kurbo::{ParamCurve, ParamCurveDeriv, PathSeg};

    use super::*;

    #[test]
    fn both_lines_are_bowed_alike_and_run_along_the_legs_at_their_ends() {
        let (first, point, second) = (Point::new(0.0, 160.0), Point::new(12.0, 0.0), Point::new(24.0, 160.0));
        for bow in [4.0, -3.0] {
            let path = stitching_lines(first, point, second, bow);
            let cubics: Vec<_> = path
                .segments()
                .map(|segment| match segment {
                    PathSeg::Cubic(cubic) => cubic,
                    other => panic!("{other:?}"),
                })
                .collect();
            assert_eq!(cubics.len(), 4);
            let (leg, other) = (point - first, second - point);
            for (cubic, along, t) in [
                (cubics[0], leg, 0.0),
                (cubics[1], leg, 1.0),
                (cubics[2], other, 0.0),
                (cubics[3], other, 1.0),
            ] {
                let direction = cubic.deriv().eval(t).to_vec2();
                assert!(direction.cross(along).abs() < 1e-9 * direction.hypot() * along.hypot());
            }
            // Half-way it takes in twice the bow more, straight across the dart, and everywhere as much on either side.
            for step in 0..=20 {
                let t = f64::from(step) / 20.0;
                let (one, two) = (cubics[0].eval(t), cubics[3].eval(1.0 - t));
                assert!(
                    (one.x + two.x - 24.0).abs() < 1e-9 && (one.y - two.y).abs() < 1e-9,
                    "mirrored about the middle"
                );
            }
            let off = (cubics[0].eval(1.0) - first).cross(leg) / leg.hypot();
            assert!((off.abs() - bow.abs()).abs() < 1e-9);
            assert_eq!(cubics[0].eval(1.0).x < 6.0, bow > 0.0, "outwards takes in more");
        }
    }

    #[test]
    fn a_straight_dart_is_two_lines() {
        let path = stitching_lines(Point::ORIGIN, Point::new(5.0, 90.0), Point::new(10.0, 0.0), 0.0);
        assert_eq!(path.to_svg(), "M0,0 L5,90 L10,0");
    }
}
