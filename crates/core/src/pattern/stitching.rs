//! How a dart is sewn, where otherwise than straight from its mouth to its point and folded to the usual side.
//!
//! Its legs as edges of the piece stay straight: slashes, truing and walks turn about the pivot from leg to leg, and the curves run along the
//! legs at the mouth and at the point. What is closed is therefore the same, whatever is bowed in between.

use kurbo::{BezPath, Point};
use serde::{Deserialize, Serialize};

use super::piece::{DartPlace, Pattern, Piece};
use super::truing::{BackOff, back_off_points_by};

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

/// How the darts of a block are marked for cutting by hand.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct DartsByHand {
    /// How far their points are backed off.
    pub back_off: BackOff,
    /// Waist, shoulder and neck darts are folded away from the centre.
    pub away_from_centre: bool,
    /// Side darts and darts in the armhole are folded upwards.
    pub upwards: bool,
}

/// A block with its darts marked so.
///
/// # Errors
///
/// A sentence, lengths in millimetres: a dart is not long enough for its point to be backed off so far.
pub fn marked_by_hand(pattern: &Pattern, by: &DartsByHand) -> Result<Pattern, String> {
    let mut marked = pattern.clone();
    for piece in &mut marked.pieces {
        back_off_points_by(piece, &by.back_off);
        for dart in piece.darts.clone() {
            let other_way = match dart.place {
                DartPlace::Side | DartPlace::Armhole | DartPlace::Elbow => by.upwards,
                _ => by.away_from_centre,
            };
            piece.stitch(DartStitching { other_way, ..piece.stitching(dart.place) });
            let Some((first, second)) = piece.mouth(dart.place) else { continue };
            let (long, short) = (
                first.midpoint(second).distance(dart.pivot),
                piece.dart(dart.place).map_or(0.0, |now| now.point.distance(now.pivot)),
            );
            if short > long / 2.0 {
                return Err(format!(
                    "the {} of the {} is {long:.0} mm long: its point cannot be backed off by {short:.0} mm, at most by half of it",
                    dart.place.name(),
                    piece.kind.name().to_lowercase()
                ));
            }
        }
    }
    Ok(marked)
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
