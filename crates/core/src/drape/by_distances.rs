//! A mark that was measured by tape from two others.

use kurbo::Point;

use super::report::Words;
use crate::Style;

/// Two lengths that miss each other by no more are taken to touch, in millimetres: what a tape is off.
const TOUCHING: f64 = 3.0;

/// Where a mark lies that is so far from two places: on either side of the line between them, or once where the lengths only touch.
///
/// # Errors
///
/// A sentence: the two places are one, or the lengths do not meet.
pub fn by_distances(
    (from, from_mm): (Point, f64),
    (to, to_mm): (Point, f64),
    written: Style,
) -> Result<Vec<Point>, String> {
    let words = Words(Some(written));
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
            "these lengths do not meet: the two marks lie {} apart, and the lengths are {} and {}",
            words.mm(apart),
            words.mm(from_mm),
            words.mm(to_mm)
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
        let places = by_distances((from, 182.0), (to, 97.5), Style::TENTHS).unwrap();
        assert_eq!(places.len(), 2);
        for place in places {
            assert!((place.distance(from) - 182.0).abs() < 1e-9 && (place.distance(to) - 97.5).abs() < 1e-9);
        }
    }

    #[test]
    fn lengths_that_only_touch_make_one_place_and_those_that_do_not_meet_are_told() {
        let (from, to) = (Point::ORIGIN, Point::new(300.0, 0.0));
        assert_eq!(by_distances((from, 100.0), (to, 199.0), Style::TENTHS).unwrap().len(), 1);
        let says = by_distances((from, 100.0), (to, 120.0), Style::TENTHS).unwrap_err();
        assert!(says.contains("30 cm apart") && says.contains("10 cm") && says.contains("12 cm"), "{says}");
        assert!(by_distances((from, 900.0), (to, 100.0), Style::TENTHS).is_err());
        assert!(by_distances((from, 10.0), (from, 10.0), Style::TENTHS).is_err());
    }
}
