//! Darts sewn along curves: what is measured and closed with the dart stays, the curves are drawn, and later alterations carry them.

use kurbo::{BezPath, ParamCurveNearest, Point};

use crate::common::bodies;
use crate::outside::nothing_turned_red;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, alteration, apply};
use yardwand_core::draft::{Direct, Method, draft};
use yardwand_core::pattern::{
    DartPlace, GarmentPart, Pattern, Piece, capped_outline, draw_pattern, measure, walk,
};

const STYLE: Style = Style::TENTHS;

fn altered(code: &str, pattern: &Pattern, amounts: &Amounts) -> Result<Pattern, String> {
    let made = apply(alteration(code).unwrap(), pattern, amounts, None, STYLE);
    made.map(|made| made.pattern).map_err(|error| error.to_string())
}

fn blocks() -> Vec<Pattern> {
    let made = bodies(40, 97).into_iter().enumerate().filter_map(|(index, body)| {
        let direct = Direct { waist_dart_keeps: 38.0, one_dart: index % 2 == 0, ..Direct::default() };
        draft(&body, &Method { direct, ..Method::default() }, STYLE).ok()
    });
    made.map(|made| made.pattern).collect()
}

fn front(pattern: &Pattern) -> &Piece {
    pattern.pieces.iter().find(|piece| piece.kind.part() == GarmentPart::BodiceFront).unwrap()
}

/// The drawn stitching lines of a front's waist dart, and the ends they run between.
fn drawn(pattern: &Pattern) -> (BezPath, [Point; 3]) {
    let piece = front(pattern);
    let drawing =
        draw_pattern(pattern, STYLE).into_iter().find(|drawing| drawing.kind == piece.kind).unwrap();
    let dart = drawing.darts.into_iter().find(|dart| dart.place == DartPlace::Waist).unwrap();
    let (first, second) = piece.mouth(DartPlace::Waist).unwrap();
    (BezPath::from_svg(&dart.legs).unwrap(), [first, piece.dart(DartPlace::Waist).unwrap().point, second])
}

/// How far the drawn lines lie beside the middles of the straight legs, in millimetres.
fn bows(pattern: &Pattern) -> [f64; 2] {
    let (path, [first, point, second]) = drawn(pattern);
    [first, second].map(|mouth| {
        let middle = mouth.midpoint(point);
        path.segments()
            .map(|part| part.nearest(middle, 1e-6).distance_sq)
            .fold(f64::INFINITY, f64::min)
            .sqrt()
    })
}

#[test]
fn what_is_closed_with_the_dart_stays_and_both_lines_are_bowed_alike() {
    let blocks = blocks();
    assert!(blocks.len() > 30);
    for block in &blocks {
        for by in [4.0, -3.0] {
            let after = altered("curve_dart", block, &Amounts::of(by)).unwrap();
            assert_eq!(measure(&after), measure(block));
            assert_eq!(walk(&after), walk(block), "seams are as long, notches where they were");
            assert_eq!(
                capped_outline(front(&after)),
                capped_outline(front(block)),
                "the seam is cut as it was"
            );
            nothing_turned_red(block, &after, "curved");
            after.validate().unwrap();
            // A path is written in hundredths of a millimetre.
            for bow in bows(&after) {
                assert!((bow - f64::abs(by)).abs() < 0.02, "{bow} for {by}");
            }
            let text = serde_json::to_string(&after).unwrap();
            assert_eq!(serde_json::from_str::<Pattern>(&text).unwrap(), after);
        }
    }
}

#[test]
fn twice_is_once_of_the_sum_and_back_again_is_straight() {
    for block in blocks().iter().take(8) {
        let twice = altered(
            "curve_dart",
            &altered("curve_dart", block, &Amounts::of(2.0)).unwrap(),
            &Amounts::of(1.5),
        );
        assert_eq!(twice.unwrap(), altered("curve_dart", block, &Amounts::of(3.5)).unwrap());
        let back = altered(
            "curve_dart",
            &altered("curve_dart", block, &Amounts::of(2.0)).unwrap(),
            &Amounts::of(-2.0),
        );
        assert_eq!(&back.unwrap(), block);
    }
}

#[test]
fn alterations_after_it_keep_the_curve_with_its_dart() {
    let (mut tried, mut kept) = (0, 0);
    for block in blocks() {
        let curved = altered("curve_dart", &block, &Amounts::of(4.0)).unwrap();
        for (code, amounts) in [
            ("full_bust", Amounts::of(20.0)),
            ("full_bust", Amounts::of(-10.0)),
            ("length", Amounts::of(15.0)),
            ("side_seams", Amounts::of(30.0)),
            ("sway_back", Amounts::of(8.0)),
            ("shoulder_slope", Amounts::of(6.0)),
            ("dart_point", Amounts::of(12.0)),
        ] {
            // What it makes of the straight dart is what it makes of the curved one, besides the curve.
            let (Ok(straight), Ok(after)) =
                (altered(code, &block, &amounts), altered(code, &curved, &amounts))
            else {
                continue;
            };
            tried += 1;
            let mut without = after.clone();
            without.pieces.iter_mut().for_each(|piece| piece.stitching.clear());
            assert_eq!(without, straight, "{code} of a curved dart");
            if front(&after).dart(DartPlace::Waist).is_some() {
                assert!(
                    bows(&after).iter().all(|bow| (bow - 4.0).abs() < 0.02),
                    "{code}: {:?}",
                    bows(&after)
                );
                kept += 1;
            }
        }
    }
    assert!(tried > 150 && kept > 120, "{kept} of {tried}");
}

#[test]
fn a_dart_that_is_gone_takes_its_curve_along_and_too_much_is_refused() {
    for block in blocks().iter().filter(|block| front(block).dart(DartPlace::Side).is_none()).take(6) {
        let curved = altered("curve_dart", block, &Amounts::of(4.0)).unwrap();
        let moved = altered("move_dart", &curved, &Amounts::of(1.0).by("to", "side"));
        if let Ok(moved) = moved {
            assert!(front(&moved).stitching.iter().all(|told| front(&moved).dart(told.place).is_some()));
            moved.validate().unwrap();
        }
        let refused = altered("curve_dart", &curved, &Amounts::of(10.0)).unwrap_err();
        assert!(refused.contains("can be bowed by"), "{refused}");
        let pleat = altered("pleat", block, &Amounts::of(40.0)).unwrap();
        assert!(altered("curve_dart", &pleat, &Amounts::of(3.0)).unwrap_err().contains("is a pleat"));
    }
}
