//! The end of a curve drawn anew so that it arrives in a wanted direction: how corners are made square.

use kurbo::Vec2;

use super::curve::{Curve, turn_degrees};

/// An end that points this near to where it should is left alone, in degrees: any pencil draws through it.
pub(crate) const NO_CORNER: f64 = 0.2;

/// A curve whose end was drawn anew, and what that did.
pub(crate) struct SquareEnd {
    /// The whole curve.
    pub(crate) curve: Curve,
    /// How far its new end lies from the old one, half-way along it, in millimetres.
    pub(crate) moved: f64,
    /// How much longer it became, in millimetres.
    pub(crate) lengthened: f64,
}

/// The curve with its last `reach` millimetres drawn anew so that it arrives in this direction, of unit length. `None` where
/// it does already.
pub(crate) fn with_end_direction(curve: &Curve, direction: Vec2, reach: f64) -> Option<SquareEnd> {
    if turn_degrees(curve.end_direction(), direction).abs() < NO_CORNER {
        return None;
    }
    let (kept, last) = curve.split((curve.length() - reach).max(0.0));
    let third = last.start().distance(last.end()) / 3.0;
    let (from, to) = (last.start(), last.end());
    let drawn = Curve::cubic(from, from + last.start_direction() * third, to - direction * third, to);
    let middle = last.point_at(last.length() / 2.0);
    let moved = drawn.point_at(drawn.nearest(middle)).distance(middle);
    let lengthened = drawn.length() - last.length();
    Some(SquareEnd { curve: kept.then(drawn), moved, lengthened })
}

#[cfg(test)]
mod tests {
    use kurbo::Point;

    use super::*;

    #[test]
    fn only_the_last_of_the_curve_is_drawn_and_it_arrives_as_wanted() {
        let line = Curve::line(Point::ZERO, Point::new(100.0, 0.0));
        let down = Vec2::new(0.6, 0.8);
        let squared = with_end_direction(&line, down, 40.0).unwrap();
        assert!((squared.curve.end_direction() - down).hypot() < 1e-9);
        assert_eq!((squared.curve.start(), squared.curve.end()), (line.start(), line.end()));
        assert!((squared.curve.point_at(60.0) - Point::new(60.0, 0.0)).hypot() < 1e-9);
        assert!((squared.curve.length() - 100.0 - squared.lengthened).abs() < 1e-5);
        assert!(squared.moved > 1.0);
        assert!(with_end_direction(&line, Vec2::new(1.0, 0.001), 40.0).is_none());
    }
}
