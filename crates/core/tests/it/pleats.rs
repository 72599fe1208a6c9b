//! A dart left open as a pleat: what was measured with the dart closed stays, its folds are drawn and nothing is sewn to a point.

use kurbo::{BezPath, PathEl, Point};

use crate::common::{bodies, made_of};
use crate::outside::nothing_turned_red;
use crate::wishes::{bodice, dress, wishing_body};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, alteration, apply, make, registry, suits};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    CheckCode, DartPlace, GarmentPart, Pattern, PatternMeasure, Seam, WornSide, check_pattern, draw_pattern,
    measure,
};

const STYLE: Style = Style::TENTHS;

fn pleated(block: &Pattern, amounts: &Amounts) -> Result<Pattern, String> {
    let made = apply(alteration("pleat").unwrap(), block, amounts, None, STYLE);
    made.map(|made| made.pattern).map_err(|error| error.to_string())
}

/// The ends of the lines of a drawn path.
fn lines(path: &str) -> Vec<[Point; 2]> {
    let mut found = Vec::new();
    let mut from = Point::ZERO;
    for part in BezPath::from_svg(path).unwrap().elements() {
        match part {
            PathEl::MoveTo(at) => from = *at,
            PathEl::LineTo(to) => {
                found.push([from, *to]);
                from = *to;
            }
            other => panic!("{other:?} in {path}"),
        }
    }
    found
}

#[test]
fn a_pleat_measures_as_the_dart_and_its_folds_are_drawn() {
    let mut tried = 0;
    for (index, body) in bodies(40, 61).iter().enumerate() {
        let direct = Direct { waist_dart_keeps: 38.0, one_dart: index % 2 == 0, ..Direct::default() };
        let Ok(made) = draft(body, &Method { direct, ..Method::default() }, STYLE) else { continue };
        let block = made.pattern;
        for (piece, dart, place, part) in [
            ("front", "waist", DartPlace::Waist, GarmentPart::BodiceFront),
            ("back", "waist", DartPlace::Waist, GarmentPart::BodiceBack),
            ("back", "shoulder", DartPlace::Shoulder, GarmentPart::BodiceBack),
        ] {
            let has_it =
                |p: &&yardwand_core::pattern::Piece| p.kind.part() == part && p.dart(place).is_some();
            let Some(before) = block.pieces.iter().find(has_it) else { continue };
            let asked = Amounts::of(45.0).by("piece", piece).by("dart", dart);
            let after = pleated(&block, &asked).unwrap();
            tried += 1;
            assert_eq!(measure(&after), measure(&block), "{piece} {dart}");
            nothing_turned_red(&block, &after, dart);
            after.validate().unwrap();
            // Written down and read again it is the same.
            let text = serde_json::to_string(&after).unwrap();
            assert_eq!(serde_json::from_str::<Pattern>(&text).unwrap(), after);
            let drawn = draw_pattern(&after, STYLE).into_iter().find(|p| p.kind == before.kind).unwrap();
            let drawn = drawn.darts.into_iter().find(|d| d.place == place).unwrap();
            assert!(drawn.is_pleat && drawn.name.starts_with("pleat from the"), "{}", drawn.name);
            let (first, second) = before.mouth(place).unwrap();
            let pivot = before.dart(place).unwrap().pivot;
            let folds = lines(&drawn.legs);
            assert_eq!(folds.len(), 2, "two folds, apart: {}", drawn.legs);
            for ([from, to], mouth) in folds.into_iter().zip([first, second]) {
                assert!(from.distance(mouth) < 0.1, "{from:?} {mouth:?}");
                assert!((from.distance(to) - 45.0).abs() < 0.2);
                // On the leg of the dart, on the way to its pivot.
                let off = (to - mouth).cross(pivot - mouth).abs() / mouth.distance(pivot);
                assert!(off < 0.2 && (to - mouth).dot(pivot - mouth) > 0.0, "{off}");
            }
        }
    }
    assert!(tried > 60, "{tried}");
}

#[test]
fn a_pleat_follows_what_is_decided_before_and_after_it() {
    let block = bodice(&wishing_body()).unwrap();
    let pleat = || Decided::new("pleat", Amounts::of(50.0), "");
    let wider = || Decided::new("full_bust", Amounts::of(10.0), "");
    let of = |steps| made_of(&block, steps);
    let (one, other) = (of([pleat(), wider()]), of([wider(), pleat()]));
    assert!(one.is_whole() && other.is_whole());
    assert_eq!(one.pattern, other.pattern);
    assert_eq!(one.pattern.front().unwrap().pleats.len(), 1);
    // A skirt that is joined below measures the waist with the pleat folded, and its own dart can be one.
    let mut recipe = Recipe::default();
    recipe.take(pleat());
    let skirt = Amounts::of(590.0).with("hip", 1020.0).with("to_hip", 205.0);
    recipe.take(Decided::new("joined_skirt", skirt, ""));
    recipe.take(Decided::new("pleat", Amounts::of(40.0).by("piece", "skirt_front"), ""));
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", made.refused().next());
    let part = |of: GarmentPart| made.pattern.pieces.iter().find(|piece| piece.kind.part() == of).unwrap();
    let (front, below) = (part(GarmentPart::BodiceFront), part(GarmentPart::JoinedSkirtFront));
    assert_eq!((front.pleats.len(), below.pleats.len()), (1, 1));
    assert!((front.sewn_length(Seam::Waist) - below.sewn_length(Seam::Waist)).abs() < 0.02);
}

#[test]
fn what_cannot_be_a_pleat_says_why() {
    let block = bodice(&wishing_body()).unwrap();
    let none = pleated(&block, &Amounts::of(50.0).by("dart", "neckline")).unwrap_err();
    assert!(none.contains("the front has no neck dart"), "{none}");
    let short = pleated(&block, &Amounts::of(4.0)).unwrap_err();
    assert!(short.contains("from 1.0 cm up to"), "{short}");
    let once = pleated(&block, &Amounts::of(50.0)).unwrap();
    let again = pleated(&once, &Amounts::of(50.0)).unwrap_err();
    assert!(again.contains("is a pleat already"), "{again}");
    // Two points and no seam: a dart inside a piece is no pleat.
    let inside = dress(&wishing_body()).unwrap();
    let waist = pleated(&inside, &Amounts::of(50.0)).unwrap_err();
    assert!(waist.contains("no waist dart that reaches a seam"), "{waist}");
    // A skirt by itself takes one; a document with a pleat of no dart is refused.
    let body = wishing_body().with("skirt_length", 590.0);
    let skirt =
        draft(&body, &Method { kind: MethodKind::Skirt, ..Method::default() }, STYLE).unwrap().pattern;
    assert!(suits(alteration("pleat").unwrap(), &skirt));
    let made = pleated(&skirt, &Amounts::of(60.0).by("piece", "back").by("dart", "waist_side")).unwrap();
    let darts = check_pattern(&made, STYLE).into_iter().find(|check| check.code == CheckCode::Darts).unwrap();
    assert!(darts.passed && darts.says.starts_with("3 darts"), "{}", darts.says);
    let mut wild = once;
    wild.pieces[0].pleats[0].place = DartPlace::Neckline;
    assert!(wild.validate().unwrap_err().contains("its pleat is of a neck dart that it has not"));
}

#[test]
fn on_a_block_that_has_one_a_pleat_stays_with_its_dart_and_goes_with_it() {
    // Her own block may keep a pleat: every alteration then meets it.
    let mut kept = 0;
    for (index, body) in bodies(12, 19).iter().enumerate() {
        let direct = Direct { waist_dart_keeps: 38.0, one_dart: index % 2 == 0, ..Direct::default() };
        let method = Method { direct, with_sleeve: true, ..Method::default() };
        let Ok(made) = draft(body, &method, STYLE) else { continue };
        let wished = body.clone().with("skirt_length", 620.0);
        let skirt = draft(&wished, &Method { kind: MethodKind::Skirt, ..Method::default() }, STYLE);
        let blocks = [Some(made.pattern), skirt.ok().map(|made| made.pattern)];
        for block in blocks.into_iter().flatten() {
            let Ok(block) = pleated(&block, &Amounts::of(40.0)) else { continue };
            let block = pleated(&block, &Amounts::of(40.0).by("piece", "back")).unwrap_or(block);
            for known in registry().iter().filter(|known| suits(**known, &block)) {
                let amounts = usual_of(known.code(), &block);
                let Ok(made) = apply(*known, &block, &amounts, None, STYLE) else { continue };
                let told = format!("{} {amounts:?}", known.code());
                made.pattern.validate().unwrap_or_else(|says| panic!("{told}: {says}"));
                for piece in &block.pieces {
                    let Some(now) = made.pattern.piece(piece.kind) else { continue };
                    for pleat in &piece.pleats {
                        let (is_dart, is_pleat) =
                            (now.dart(pleat.place).is_some(), now.pleat(pleat.place).is_some());
                        assert_eq!(
                            is_dart,
                            is_pleat,
                            "{told}: {} of {}",
                            pleat.place.name(),
                            piece.kind.name()
                        );
                        kept += usize::from(is_pleat);
                    }
                }
                // On one side alone as well.
                let left = apply(*known, &block, &amounts, Some(WornSide::Left), STYLE);
                left.into_iter().for_each(|made| made.pattern.validate().unwrap());
            }
        }
    }
    assert!(kept > 300, "{kept}");
}

/// An amount an alteration usually takes, with what it must be told.
fn usual_of(code: &str, block: &Pattern) -> Amounts {
    let waist = measure(block).get(PatternMeasure::Waist).unwrap();
    let usual = crate::cells::usual().into_iter().find(|(known, ..)| *known == code);
    let (_, mm, by) = usual.unwrap();
    let amounts = by.iter().fold(Amounts::of(mm), |amounts, (param, way)| amounts.by(param, way));
    match code {
        "joined_skirt" => amounts.with("hip", waist + 200.0).with("to_hip", 205.0),
        _ => amounts,
    }
}
