//! A mark that was measured by tape from two others.

use kurbo::Point;

use crate::geometry::is_on_the_table;

/// Two lengths that miss each other by no more are taken to touch, in millimetres: what a tape is off.
const TOUCHING: f64 = 3.0;

/// Where a mark lies that is so far from two places: on either side of the line between them, or once where the lengths only touch.
///
/// # Errors
///
/// A sentence, lengths in millimetres: the two places are one, or the lengths do not meet.
pub fn by_distances((from, from_mm): (Point, f64), (to, to_mm): (Point, f64)) -> Result<Vec<Point>, String> {
    // A length is looked at as a place is.
    let lengths = Point::new(from_mm, to_mm);
    if ![from, to, lengths].into_iter().all(is_on_the_table) || from_mm < 0.0 || to_mm < 0.0 {
        return Err("this lies too far off to be on a table: measure it again".to_owned());
    }
    let along = to - from;
    let apart = along.hypot();
    if apart < 1.0 {
        return Err("both lengths are taken from one place: choose two marks that lie apart".to_owned());
    }
    let along = along / apart;
    let short = apart - (from_mm + to_mm);
    let long = (from_mm - to_mm).abs() - apart;
    if short > TOUCHING || long > TOUCHING {
        return Err(format!(
            "these lengths do not meet: the two marks lie {apart:.0} mm apart, and the lengths are {from_mm:.0} and {to_mm:.0} mm"
        ));
    }
    let forward = (apart * apart + from_mm * from_mm - to_mm * to_mm) / (2.0 * apart);
    let foot = from + along * forward;
    let aside = (from_mm * from_mm - forward * forward).max(0.0).sqrt();
    let square = kurbo::Vec2::new(-along.y, along.x) * aside;
    Ok(if aside < 0.5 { vec![foot] } else { vec![foot + square, foot - square] })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn both_places_are_so_far_from_both_marks() {
        let (from, to) = (Point::new(10.0, -4.0), Point::new(130.0, 41.0));
        let places = by_distances((from, 182.0), (to, 97.5)).unwrap();
        assert_eq!(places.len(), 2);
        for place in places {
            assert!((place.distance(from) - 182.0).abs() < 1e-9 && (place.distance(to) - 97.5).abs() < 1e-9);
        }
    }

    #[test]
    fn lengths_that_only_touch_make_one_place_and_those_that_do_not_meet_are_told() {
        let (from, to) = (Point::ORIGIN, Point::new(300.0, 0.0));
        assert_eq!(by_distances((from, 100.0), (to, 199.0)).unwrap().len(), 1);
        let says = by_distances((from, 100.0), (to, 120.0)).unwrap_err();
        assert!(says.contains("300 mm apart") && says.contains("100 and 120 mm"), "{says}");
        assert!(by_distances((from, 900.0), (to, 100.0)).is_err());
        assert!(by_distances((from, 10.0), (from, 10.0)).is_err());
        assert!(
            by_distances((from, 1e200), (to, 1e200)).is_err()
                && by_distances((from, -1.0), (to, 300.0)).is_err()
        );
    }
}
