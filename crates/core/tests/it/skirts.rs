//! The straight skirt against the handbook's worked figures, a published pair of rules and over random bodies (handbook:
//! `wishes.md`, sections 7, 9 and 10).

use crate::common::{Chance, bodies};
use crate::cutting_line;
use crate::outside::{corner, polygon};
use crate::random_bodies::outlines_are_simple;
use crate::wishes::wishing_body;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, alteration, apply, make};
use yardwand_core::body::Body;
use yardwand_core::compare::{DifferenceGrade, compare};
use yardwand_core::draft::{Draft, DraftError, Method, MethodKind, draft};
use yardwand_core::pattern::{
    Allowances, DartPlace, LevelName, Pattern, PatternMeasure as F, Piece, PieceKind, Seam, check_pattern,
    measure,
};

const STYLE: Style = Style::TENTHS;

fn drafted(body: &Body) -> Result<Draft, DraftError> {
    draft(body, &Method { kind: MethodKind::Skirt, ..Method::default() }, STYLE)
}

fn halves(pattern: &Pattern) -> [&Piece; 2] {
    [PieceKind::SKIRT_FRONT, PieceKind::SKIRT_BACK].map(|kind| pattern.piece(kind).unwrap())
}

/// The bodies of the other tests, each with a length she wishes.
fn wishing(count: usize, seed: u64) -> Vec<Body> {
    let mut chance = Chance::new(seed + 1);
    bodies(count, seed)
        .into_iter()
        .map(|body| body.with("skirt_length", chance.between(400.0, 1000.0)))
        .collect()
}

/// Handbook, `wishes.md`, section 9: skirt 590.
#[test]
fn the_worked_skirt_has_the_handbooks_figures() {
    let skirt = drafted(&wishing_body().with("skirt_length", 590.0)).unwrap();
    let [front, back] = halves(&skirt.pattern);
    let figures = |name: &str| -> Vec<f64> {
        let lines = skirt.steps.iter().flat_map(|step| &step.lines);
        lines.filter(|line| line.name == name).map(|line| line.value).collect()
    };
    assert_eq!(figures("each side edge"), [22.5, 22.5]);
    for (name, wanted) in [("darts in front", 36.0), ("darts behind", 54.0)] {
        assert!((figures(name)[0] - wanted).abs() < 1e-9, "{name}: {:?}", figures(name));
    }
    for (piece, waist, darts) in [(front, 216.0, 36.0), (back, 179.0, 54.0)] {
        assert!((piece.sewn_length(Seam::Waist) - waist).abs() < 0.01);
        let mouths = [DartPlace::Waist, DartPlace::WaistSide].map(|place| {
            let (first, second) = piece.mouth(place).unwrap();
            first.distance(second)
        });
        assert!(mouths.iter().all(|mouth| (mouth - darts / 2.0).abs() < 1e-9), "{mouths:?}");
    }
    let hip = front.level(LevelName::Hip).unwrap().points[1];
    assert!((hip.x - 274.5).abs() < 0.01 && (hip.y - 191.215).abs() < 0.01, "{hip:?}");
    let waist = front.edges_of(Seam::Side).next().unwrap().curve.start();
    // The handbook's 251.068 is found with a house curve that jumps into an S; ours goes over into it (`house_curve`).
    assert!((waist.x - 251.068).abs() < 0.05 && (waist.y + 12.0).abs() < 0.01, "{waist:?}");
}

#[test]
fn on_random_bodies_every_figure_is_what_was_measured_and_every_corner_is_sound() {
    let (mut drawn, mut off) = (0, 0);
    for body in wishing(400, 7) {
        let of = |code: &str| body.get(code).unwrap();
        let Ok(Draft { pattern, .. }) = drafted(&body) else { continue };
        drawn += 1;
        outlines_are_simple(&pattern);
        let red: Vec<_> = check_pattern(&pattern, STYLE).into_iter().filter(|check| !check.passed).collect();
        assert!(red.is_empty(), "{body:?}: {red:?}");
        let figures = measure(&pattern);
        let is = |figure| figures.get(figure).unwrap();
        // The handbook allows 2 of 1188 halves 0.12: where the house curve turns into an S.
        off += u32::from((is(F::Waist) - of("waist_girth") - 10.0).abs() > 0.02);
        assert!((is(F::Waist) - of("waist_girth") - 10.0).abs() < 0.3);
        assert!((is(F::Hip) - of("hip_girth") - 40.0).abs() < 1e-6);
        for (figure, code) in [
            (F::WaistToHip, "waist_to_hip"),
            (F::SkirtSideFront, "skirt_length"),
            (F::SkirtSideBack, "skirt_length"),
        ] {
            assert!((is(figure) - of(code)).abs() < 0.01, "{figure:?}: {} and {}", is(figure), of(code));
        }
        let [front, back] = halves(&pattern);
        let side = |piece: &Piece| piece.first_edge(Seam::Side).unwrap();
        let at_waist = corner(front, side(front) - 1) + corner(back, side(back) - 1);
        let at_hem = corner(front, side(front)) + corner(back, side(back));
        assert!((at_waist - 180.0).abs() < 0.01 && (at_hem - 180.0).abs() < 0.01, "{at_waist} {at_hem}");
        for piece in [front, back] {
            assert!((corner(piece, piece.edges.len() - 1) - 90.0).abs() < 0.01);
            for dart in &piece.darts {
                let leg = piece.edges.iter().position(|edge| edge.dart == Some(dart.place)).unwrap();
                let (first, second) = piece.mouth(dart.place).unwrap();
                assert!((first.distance(dart.pivot) - second.distance(dart.pivot)).abs() < 1e-6);
                // Folded, the waist runs on: what both ends lack of a right angle to their legs is the same.
                let folded = corner(piece, leg - 1) + corner(piece, leg + 1);
                assert!((folded - 180.0).abs() < 0.01, "{:?}: {folded}", dart.place);
            }
            let faults = cutting_line::faults(piece, &Allowances::default());
            assert!(faults.is_empty(), "{faults:?}");
        }
    }
    assert!(drawn > 380 && off <= 2, "{drawn} drawn, {off} waists off");
}

/// A published pair of rules, from memory, fairly sure (handbook, `wishes.md`, section 7): back waist a quarter and 42.5 with two
/// darts of 20, front a quarter and 22.5 with one of 20; together 10 of ease. The draft's own rules differ, its ease is the same.
#[test]
fn waist_and_ease_close_as_a_published_rule_does() {
    let waist: f64 = 780.0;
    let published = 2.0 * ((waist / 4.0 + 42.5 - 40.0) + (waist / 4.0 + 22.5 - 20.0));
    let skirt = drafted(&wishing_body().with("skirt_length", 590.0)).unwrap();
    let ours = measure(&skirt.pattern).get(F::Waist).unwrap();
    assert!((ours - published).abs() < 0.05, "{ours} and {published}");
}

#[test]
fn what_no_straight_skirt_can_be_drafted_from_is_refused_with_both_ways_out() {
    let body = wishing_body().with("skirt_length", 590.0);
    let says = |body: &Body| match drafted(body) {
        Err(DraftError::Contradiction(found)) => found.says,
        other => panic!("{other:?}"),
    };
    let belly = says(&body.clone().with("waist_girth", 1100.0));
    assert!(belly.contains("hangs from the belly") && belly.contains("hip girth"), "{belly}");
    let short = says(&body.clone().with("skirt_length", 250.0));
    assert!(short.contains("skirt length") && short.contains("at least 26.5 cm"), "{short}");
    let wide = says(&body.clone().with("waist_girth", 560.0).with("hip_girth", 1300.0));
    assert!(wide.contains("that sew flat"), "{wide}");
    assert!(matches!(drafted(&Body::default()), Err(DraftError::Missing(codes)) if codes.len() == 3));
    // A waist as wide as the hip has no dart, and closes.
    let straight = drafted(&body.clone().with("waist_girth", 1035.0)).unwrap();
    let [front, back] = halves(&straight.pattern);
    assert!(front.darts.is_empty() && back.darts.is_empty());
    assert!(check_pattern(&straight.pattern, STYLE).iter().all(|check| check.passed));
}

#[test]
fn without_a_wished_length_it_says_so_and_lines_are_drawn_where_she_measures_them() {
    let body = wishing_body().with("waist_to_knee", 570.0).with("waist_to_ankle", 930.0);
    let skirt = drafted(&body).unwrap();
    assert!(
        skirt.notes.iter().any(|note| note.says.contains("No skirt length is wished")),
        "{:?}",
        skirt.notes
    );
    let [front, _] = halves(&skirt.pattern);
    assert!(front.level(LevelName::Knee).is_some() && front.level(LevelName::Ankle).is_none());
}

fn altered(block: &Pattern, code: &str, amounts: Amounts) -> Pattern {
    apply(alteration(code).unwrap(), block, &amounts, None, STYLE).unwrap().pattern
}

/// What an alteration of the waist leaves alone is the same to the last bit, and the waist rises by f = u^2 (3 - 2u), u the
/// share of the way from the centre to the side.
#[test]
fn a_high_hip_raises_the_waist_by_its_share_and_leaves_all_below_the_hip() {
    for body in wishing(40, 12) {
        let Ok(Draft { pattern: block, .. }) = drafted(&body) else { continue };
        let after = altered(&block, "high_hip", Amounts::of(18.0));
        for (was, is) in halves(&block).into_iter().zip(halves(&after)) {
            let hip = was.level(LevelName::Hip).unwrap().points[1];
            assert_eq!(was.level(LevelName::Hip), is.level(LevelName::Hip));
            assert_eq!(was.edges_of(Seam::Hem).next(), is.edges_of(Seam::Hem).next());
            let side = &is.edges_of(Seam::Side).next().unwrap().curve;
            assert!(side.point_at(side.nearest(hip)).distance(hip) < 1e-6);
            assert!(side.corners().iter().all(|(_, turn)| turn.abs() < 0.01), "{:?}", side.corners());
            // The sewn line over a dart, half-way between its mouth's ends and as far from its foot as they are.
            let waist = |piece: &Piece| piece.sewn_length(Seam::Waist);
            assert!((waist(was) - waist(is)).abs() < 0.005);
            let end = was.edges_of(Seam::Side).next().unwrap().curve.start();
            for dart in &was.darts {
                let sewn = |piece: &Piece| {
                    let (first, second) = piece.mouth(dart.place).unwrap();
                    let way = first.midpoint(second) - dart.pivot;
                    dart.pivot + way * (first.distance(dart.pivot) / way.hypot())
                };
                let u = sewn(was).x / end.x;
                let (rose, wanted) = (sewn(was).y - sewn(is).y, 18.0 * u * u * (3.0 - 2.0 * u));
                assert!((rose - wanted).abs() < 0.01, "{:?}: {rose} and {wanted}", dart.place);
            }
        }
    }
}

/// On one side, and then more on both: left and right differ by just the one side's.
#[test]
fn one_high_hip_makes_a_left_and_a_right_that_sew_together() {
    let block = drafted(&wishing_body().with("skirt_length", 590.0)).unwrap().pattern;
    let mut recipe = Recipe::default();
    recipe.take(Decided {
        side: Some(yardwand_core::pattern::WornSide::Left),
        ..Decided::new("high_hip", Amounts::of(14.0), "her left hip stands higher")
    });
    recipe.take(Decided::new("high_hip", Amounts::of(3.0), ""));
    recipe.take(Decided::new("skirt_seat", Amounts::of(-10.0), "hollow back"));
    recipe.take(Decided::new("side_seams", Amounts::default().with("waist", -4.0).with("hip", 3.0), ""));
    recipe.take(Decided::new("skirt_length", Amounts::of(70.0).with("out", 40.0), "to swing"));
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", made.steps);
    let red: Vec<_> = check_pattern(&made.pattern, STYLE).into_iter().filter(|check| !check.passed).collect();
    assert!(red.is_empty(), "{red:?}");
    let sides = yardwand_core::pattern::WornSide::BOTH.map(|side| measure(&made.pattern.worn_on(side)));
    let [left, right] = sides.each_ref().map(|figures| figures.get(F::WaistToHip).unwrap());
    assert!((left - right - 14.0).abs() < 0.01 && (right - 205.0 - 3.0).abs() < 0.01, "{left} {right}");
    for figures in sides {
        let is = |figure| figures.get(figure).unwrap();
        assert!((is(F::Waist) - (790.0 - 16.0)).abs() < 0.05, "{}", is(F::Waist));
        assert!((is(F::Hip) - (1060.0 + 12.0)).abs() < 0.05, "{}", is(F::Hip));
        assert!((is(F::BelowHip) - (590.0 - 205.0 + 70.0)).abs() < 0.01);
    }
}

/// Narrower at the waist the darts take it, as far as they sew flat, and the side what is left; wider they give it first.
#[test]
fn the_darts_give_and_take_before_the_side() {
    let block = drafted(&wishing_body().with("skirt_length", 590.0)).unwrap().pattern;
    let intake = |pattern: &Pattern| {
        [F::WaistDartFront, F::WaistDartBack].map(|figure| measure(pattern).get(figure).unwrap())
    };
    let side = |pattern: &Pattern| {
        halves(pattern).map(|piece| piece.edges_of(Seam::Side).next().unwrap().curve.start())
    };
    let narrower = altered(&block, "side_seams", Amounts::default().with("waist", -12.0));
    let ([front, back], [was_front, was_back]) = (intake(&narrower), intake(&block));
    assert!((front - was_front - 12.0).abs() < 1e-6 && (back - was_back - 12.0).abs() < 1e-6);
    for (was, is) in side(&block).into_iter().zip(side(&narrower)) {
        assert!(was.distance(is) < 0.5, "the side keeps its place: {was:?} {is:?}");
    }
    // Wider than the front's darts can give: 36 of intake less two of 6.
    let wider = altered(&block, "side_seams", Amounts::default().with("waist", 30.0));
    assert!((intake(&wider)[0] - 12.0).abs() < 1e-6 && side(&wider)[0].x > side(&block)[0].x + 5.0);
    assert!((measure(&wider).get(F::Waist).unwrap() - 790.0 - 120.0).abs() < 0.05);
    // The same twice is both at once.
    let twice = altered(&narrower, "side_seams", Amounts::default().with("waist", -6.0));
    let once = altered(&block, "side_seams", Amounts::default().with("waist", -18.0));
    assert!(crate::common::furthest_apart(&twice, &once) < 0.01);
    let says = apply(alteration("side_seams").unwrap(), &block, &Amounts::of(5.0), None, STYLE)
        .unwrap_err()
        .to_string();
    assert!(says.contains("a skirt has no bust"), "{says}");
}

/// A skirt of every width is cut as it stands after what is pinned: sampled along its cutting line, hundreds of times.
#[test]
fn altered_skirts_are_sewable_and_stand_off_their_cutting_lines() {
    let mut chance = Chance::new(99);
    let mut made_whole = 0;
    for body in wishing(150, 31) {
        let Ok(Draft { pattern: block, .. }) = drafted(&body) else { continue };
        let recipe = Recipe::default()
            .and(
                "side_seams",
                Amounts::default()
                    .with("waist", chance.between(-9.0, 9.0))
                    .with("hip", chance.between(-8.0, 9.0)),
                "",
            )
            .and("high_hip", Amounts::of(chance.between(-12.0, 25.0)), "")
            .and("skirt_belly", Amounts::of(chance.between(-10.0, 30.0)), "")
            .and("skirt_seat", Amounts::of(chance.between(-20.0, 30.0)), "")
            .and(
                "skirt_length",
                Amounts::of(chance.between(-100.0, 200.0)).with("out", chance.between(0.0, 40.0)),
                "",
            );
        let made = make(&block, &recipe, STYLE);
        made_whole += u32::from(made.is_whole());
        outlines_are_simple(&made.pattern);
        crate::common::holds_still(&block, &made.pattern, &format!("{body:?} {recipe:?}"));
        for piece in halves(&made.pattern) {
            let faults = cutting_line::faults(piece, &Allowances::default());
            assert!(faults.is_empty(), "{faults:?}");
        }
    }
    assert!(made_whole > 140, "{made_whole}");
}

/// Half-way from waist to hip the cloth is as wide as a narrow band cut out of the piece there says (`geo`): what lies
/// between the legs of a dart is outside of it.
#[test]
fn the_top_hip_is_measured_with_the_darts_closed_and_only_too_tight_is_a_fault() {
    use geo::{Area, BooleanOps, Rect, coord};
    const BAND: f64 = 0.02;
    let mut seen = 0;
    for body in wishing(120, 31) {
        let Ok(Draft { pattern, .. }) = drafted(&body) else { continue };
        let width = |piece: &Piece| {
            let side = piece.edges_of(Seam::Side).next().unwrap().curve.start();
            let level = side.y.midpoint(piece.level(LevelName::Hip).unwrap().points[1].y);
            let (above, below) = (level - BAND / 2.0, level + BAND / 2.0);
            let band = Rect::new(coord! { x: -10.0, y: above }, coord! { x: 2000.0, y: below }).to_polygon();
            polygon(piece).intersection(&band).unsigned_area() / BAND
        };
        let outside = 2.0 * halves(&pattern).map(width).iter().sum::<f64>();
        let is = measure(&pattern).get(F::TopHip).unwrap();
        assert!((is - outside).abs() < 0.2, "{is} against {outside}");
        // 25 is half-way between the waist's ease and the hip's.
        let ease = yardwand_core::ease::ease_set("skirt", yardwand_core::Unit::Cm).unwrap();
        for (off, wanted) in
            [(-60.0, DifferenceGrade::Fits), (9.0, DifferenceGrade::Fits), (14.0, DifferenceGrade::Alter)]
        {
            let body = body.clone().with("top_hip_girth", is - 25.0 + off);
            let compared = compare(&body, &measure(&pattern), ease, STYLE);
            let row = compared.row(F::TopHip).unwrap();
            assert_eq!(
                (row.grade, (row.on_body.as_ref().unwrap().mm - off).abs() < 1e-6),
                (wanted, true),
                "{row:?}"
            );
        }
        seen += 1;
    }
    assert!(seen > 80, "{seen}");
}
