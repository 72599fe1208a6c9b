//! Two straight lines with the kink between them drawn round (handbook: `wishes.md`, section 0).

use kurbo::Point;

use super::{Curve, house_curve};

/// The most of a line that rounding its kink takes.
const MOST_OF_A_LINE: f64 = 0.98;

/// How much of a line between these points rounding takes, where it is to be `reach`, in millimetres.
pub(crate) fn reach_within(from: Point, to: Point, reach: f64) -> f64 {
    reach.min(MOST_OF_A_LINE * from.distance(to))
}

/// From `from` straight towards `kink` and on to `to`; the kink drawn round from the first length before it to the second
/// after it, in millimetres. A length that is all of its line leaves nothing of that straight.
pub(crate) fn bend(from: Point, kink: Point, to: Point, (before, after): (f64, f64)) -> Curve {
    let (into, out) = ((kink - from) / kink.distance(from), (to - kink) / to.distance(kink));
    let (begins, ends) = (kink - into * before, kink + out * after);
    let round = house_curve(begins, into, ends, out).curve;
    let whole =
        if begins.distance(from) < super::SAME_POINT { round } else { Curve::line(from, begins).then(round) };
    if ends.distance(to) < super::SAME_POINT { whole } else { whole.then(Curve::line(ends, to)) }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_the_kink_is_round_and_nothing_has_a_corner() {
        let (from, kink, to) = (Point::ZERO, Point::new(100.0, 0.0), Point::new(100.0, 40.0));
        let line = bend(from, kink, to, (30.0, reach_within(kink, to, 60.0)));
        assert_eq!((line.start(), line.end()), (from, to));
        assert!(line.corners().iter().all(|(_, turn)| turn.abs() < 1e-6), "{:?}", line.corners());
        assert!((line.point_at(69.9).y).abs() < 1e-9 && line.length() < 140.0);
        // All of the second line is round: it ends with the curve.
        assert_eq!(bend(from, kink, to, (30.0, 40.0)).segments().len(), 2);
    }
}
