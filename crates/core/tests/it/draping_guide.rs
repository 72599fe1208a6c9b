//! Where the dart goes: what each dart takes adds up to the same excess, what is proposed is not doubted, and no slash is past its line.

use kurbo::{BezPath, ParamCurveNearest, Point, Shape};
use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::drape::Draped;
use yardwand_core::draping::{DartGoes, DrapingGuide, draping_guide};
use yardwand_core::pattern::{DartPlace, WAIST_DART_LIMIT};

use crate::common::bodies;

const STYLE: Style = Style::TENTHS;

fn guide(body: &Body, piece: Draped, wish: Option<(DartGoes, bool)>) -> Option<DrapingGuide> {
    draping_guide(body, piece, wish, STYLE).ok()
}

fn path(text: &str) -> BezPath {
    BezPath::from_svg(text).unwrap()
}

fn off(outline: &BezPath, at: Point) -> f64 {
    outline.segments().map(|part| part.nearest(at, 1e-4).distance_sq).fold(f64::INFINITY, f64::min).sqrt()
}

#[test]
fn one_dart_is_proposed_unless_it_would_be_too_wide_and_then_two_that_are_not() {
    let (mut one, mut two) = (0, 0);
    for body in bodies(80, 23) {
        let Some(guide) = guide(&body, Draped::Front, None) else { continue };
        let first = &guide.ways[0];
        assert_eq!((first.goes, first.two), (guide.goes, guide.two), "the first is shown");
        let alone = guide.ways.iter().find(|way| way.goes == DartGoes::Waist).unwrap();
        let mouth = alone.darts.iter().find(|dart| dart.place == DartPlace::Waist).unwrap().takes.mm;
        if mouth <= WAIST_DART_LIMIT {
            assert!(first.goes == DartGoes::Waist && !first.two && first.doubt.is_none(), "{mouth}");
            one += 1;
        } else {
            assert!(alone.doubt.as_ref().is_some_and(|says| says.contains("two darts")), "{:?}", alone.doubt);
            assert!(first.doubt.is_none() && first.darts.len() == 2, "{:#?}", guide.ways);
            assert!(first.darts.iter().all(|dart| dart.takes.mm > 5.0));
            two += 1;
        }
        // Every way that can be made has its darts, and none is offered twice.
        for (place, way) in guide.ways.iter().enumerate() {
            assert!(
                guide.ways[place + 1..].iter().all(|other| (other.goes, other.two) != (way.goes, way.two))
            );
            let sewn = !matches!(way.goes, DartGoes::Gathers);
            assert!(way.doubt.is_some() || !sewn || !way.darts.is_empty(), "{way:?}");
        }
    }
    assert!(one > 5 && two > 5, "{one} of one dart, {two} of two");
}

#[test]
fn no_slash_is_past_its_line_or_near_a_dart_and_the_hand_stays_on_the_cloth() {
    let (mut slashes, mut pictures) = (0, 0);
    for (index, body) in bodies(60, 29).iter().enumerate() {
        for piece in [Draped::Front, Draped::Back] {
            let Some(proposed) = guide(body, piece, None) else { continue };
            let way = &proposed.ways[index % proposed.ways.len()];
            let Some(shown) = guide(body, piece, Some((way.goes, way.two))) else { continue };
            let outline = path(&shown.outline);
            // Mouths of the darts, as the pinned step draws them.
            let legs: Vec<Point> = shown
                .steps
                .iter()
                .filter(|step| step.picture.names.iter().any(|name| name.name.contains("dart")))
                .flat_map(|step| step.picture.now.iter().flat_map(|legs| ends(&path(legs))))
                .collect();
            for step in &shown.steps {
                pictures += 1;
                let says = &step.says;
                assert!(says.ends_with('.') && says.len() > 20, "{says}");
                for [from, to] in &step.picture.slashes {
                    let (from, to) = (Point::new(from.x, from.y), Point::new(to.x, to.y));
                    // All along, not at its ends alone.
                    for part in 0..=10 {
                        let at = from.lerp(to, f64::from(part) / 10.0);
                        assert!(!outline.contains(at), "a slash is past its line: {says}");
                        assert!(off(&outline, at) > 5.0, "{says}");
                    }
                    assert!((off(&outline, to) - 6.0).abs() < 0.7, "{says}: {}", off(&outline, to));
                    assert!(legs.iter().all(|leg| leg.distance(to) > 24.0), "a slash at a dart: {says}");
                    slashes += 1;
                }
                for [from, to] in &step.picture.smooth {
                    for at in [from, to].map(|at| Point::new(at.x, at.y)) {
                        assert!(outline.contains(at), "the hand leaves the cloth: {says}");
                    }
                }
                for pin in &step.picture.pins {
                    let at = Point::new(pin.x, pin.y);
                    assert!(outline.contains(at) || off(&outline, at) < 0.05, "a pin in the air: {says}");
                }
            }
        }
    }
    assert!(slashes > 600 && pictures > 600, "{slashes} slashes in {pictures} pictures");
}

fn ends(path: &BezPath) -> Vec<Point> {
    let at: Vec<Point> = path.elements().iter().filter_map(kurbo::PathEl::end_point).collect();
    [at.first(), at.last()].into_iter().flatten().copied().collect()
}

#[test]
fn what_is_not_measured_is_named() {
    let error =
        draping_guide(&Body::default().with("bust_girth", 900.0), Draped::Front, None, STYLE).unwrap_err();
    assert!(error.to_string().contains("waist"), "{error}");
}
