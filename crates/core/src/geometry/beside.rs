//! The line beside another, everywhere as far from it: the outer edge of a piece that follows a seam.

use kurbo::{Line, Point, Vec2};

use super::{Curve, SAME_POINT, Stretches, quarter_turn, turn_degrees};

/// The curve is looked at in steps of this length, in millimetres.
const STEP: f64 = 1.5;
/// How exactly the line is drawn between them, in millimetres.
const ACCURACY: f64 = 0.02;
/// A place beside the curve is nearer to it elsewhere where it is so much nearer, in millimetres: what is cut off where the curve
/// bends towards it more tightly than it can follow.
const NEARER: f64 = 0.03;
/// The curve has a corner where it turns at once by more than this, in degrees.
const CORNER: f64 = 1.0;

/// A place of the line with the direction the curve has there, and the part of the curve it is beside.
type Place = (Point, Vec2, usize);

/// The line so far beside a curve, on the side into a piece whose outline it is; corners are mitred. `None` where nothing of it
/// lies so far off.
pub(crate) fn beside(curve: &Curve, by: f64) -> Option<Curve> {
    let stretches = Stretches::within(ACCURACY, [curve]);
    let of_part = |(part, segment): (usize, &kurbo::PathSeg)| {
        let curve = Curve::of_part(*segment);
        let count = (curve.length() / STEP).ceil().max(1.0) as u32;
        let along = (0..=count).map(|n| curve.length() * f64::from(n) / f64::from(count));
        let places = curve.places(along);
        places
            .into_iter()
            .map(move |(at, way)| (at + quarter_turn(way) * by, way, part))
            .collect::<Vec<Place>>()
    };
    let all = curve.segments().iter().enumerate().flat_map(of_part);
    let places: Vec<Place> = all.filter(|(at, ..)| stretches.away(*at) > by - NEARER).collect();
    let mut line: Option<Curve> = None;
    let mut from = 0;
    while from + 1 < places.len() {
        let (stretch, to) = corner(&places[from], &places[from + 1])
            .map_or_else(|| longest_arc(&places, from), |mitre| (mitre, from + 1));
        if stretch.length() > SAME_POINT {
            line = Some(match line {
                None => stretch,
                Some(before) => before.then(stretch),
            });
        }
        from = to;
    }
    line
}

/// A mitre where the curve turns away from the line at once, between two places beside it.
fn corner((from, way, part): &Place, (to, onwards, next): &Place) -> Option<Curve> {
    if part == next || turn_degrees(*way, *onwards).abs() < CORNER {
        return None;
    }
    let at = Line::new(*from, *from + *way).crossing_point(Line::new(*to, *to + *onwards))?;
    let is_ahead = (at - *from).dot(*way) > 0.0 && (*to - at).dot(*onwards) > 0.0;
    is_ahead.then(|| Curve::line(*from, at).then(Curve::line(at, *to)))
}

/// The arc from one place over as many as it goes through, and the last of them.
fn longest_arc(places: &[Place], from: usize) -> (Curve, usize) {
    let mut longest = (arc(&places[from], &places[from + 1]), from + 1);
    for to in from + 2..places.len() {
        if corner(&places[to - 1], &places[to]).is_some() {
            break;
        }
        let longer = arc(&places[from], &places[to]);
        let goes_through =
            |place: &Place| longer.point_at(longer.nearest(place.0)).distance(place.0) < ACCURACY;
        // A few of them tell: an arc bends one way only.
        let between = places[from + 1..to].iter().step_by(((to - from) / 8).max(1));
        if !{ between }.all(goes_through) {
            break;
        }
        longest = (longer, to);
    }
    longest
}

/// A curve between two places with their directions, as an arc has it.
fn arc((from, way, _): &Place, (to, onwards, _): &Place) -> Curve {
    let turn = way.cross(*onwards).atan2(way.dot(*onwards)).abs();
    let share = if turn < 1e-6 { 1.0 / 3.0 } else { 2.0 / 3.0 * (turn / 4.0).tan() / (turn / 2.0).sin() };
    let handle = from.distance(*to) * share;
    Curve::cubic(*from, *from + *way * handle, *to - *onwards * handle, *to)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::house_curve;

    #[test]
    fn beside_an_arc_lies_an_arc() {
        // A quarter of a circle that is hollow as a neckline is, travelled with the piece on its right.
        let hollow =
            house_curve((0.0, 100.0).into(), (1.0, 0.0).into(), (100.0, 0.0).into(), (0.0, -1.0).into())
                .curve;
        let outer = beside(&hollow, 60.0).unwrap();
        for n in 0..=50 {
            let at = outer.point_at(outer.length() * f64::from(n) / 50.0);
            assert!((at.distance((0.0, 0.0).into()) - 160.0).abs() < 0.1, "{at:?}");
        }
        assert!(outer.segments().len() < 12, "{}", outer.segments().len());
        // Round the other way nothing lies further off than its radius.
        let full =
            house_curve((0.0, 0.0).into(), (0.0, -1.0).into(), (100.0, -100.0).into(), (1.0, 0.0).into())
                .curve;
        assert!(beside(&full, 60.0).is_some());
        assert!(beside(&full, 130.0).is_none());
    }

    #[test]
    fn where_a_bend_is_tighter_than_the_line_can_follow_it_is_cut_short() {
        // Level, then five degrees downwards within a few millimetres.
        let down = Vec2::from_angle(5f64.to_radians());
        let bent = Curve::line(Point::ZERO, (80.0, 0.0).into())
            .then(house_curve((80.0, 0.0).into(), (1.0, 0.0).into(), (82.0, 0.09).into(), down).curve)
            .then(Curve::line((82.0, 0.09).into(), Point::new(82.0, 0.09) + down * 80.0));
        let outer = beside(&bent, 50.0).unwrap();
        let stretches = Stretches::within(0.001, [&bent]);
        for n in 0..=200 {
            let at = outer.point_at(outer.length() * f64::from(n) / 200.0);
            let off = stretches.away(at);
            assert!((off - 50.0).abs() < 0.1, "{at:?} {off}");
        }
        assert!(outer.corners().iter().all(|(_, turn)| turn.abs() < 1.0), "{:?}", outer.corners());
    }

    #[test]
    fn a_corner_is_mitred() {
        let square = Curve::polyline(&[(0.0, 80.0).into(), (70.0, 80.0).into(), (70.0, 0.0).into()]).unwrap();
        let outer = beside(&square, 50.0).unwrap();
        assert!(outer.start().distance((0.0, 130.0).into()) < 1e-9);
        assert!(outer.end().distance((120.0, 0.0).into()) < 1e-9);
        assert!(outer.point_at(outer.nearest((120.0, 130.0).into())).distance((120.0, 130.0).into()) < 1e-6);
    }
}
