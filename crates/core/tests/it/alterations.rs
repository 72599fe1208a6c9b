//! What must stay true of each alteration, over random bodies and amounts (handbook:
//! `alterations.md`), and the recipe's own laws.

use crate::common::worked_body;
use proptest::prelude::*;
use yardwand_core::Style;
use yardwand_core::alter::{
    AlterError, Amounts, Args, Expectation, Recipe, alteration, apply, make, preview, registry,
};
use yardwand_core::draft::{Direct, DirectEase, draft_direct};
use yardwand_core::pattern::{
    CheckCode, DartPlace, KINK_LIMIT, LevelName, Pattern, PatternMeasure, Piece, PieceKind, Seam,
    check_pattern, measure,
};

const STYLE: Style = Style::EIGHTHS;

fn block(keeps: Option<f64>) -> Pattern {
    let usual = Direct::default();
    let method = Direct {
        one_dart: keeps.is_none(),
        waist_dart_keeps: keeps.unwrap_or(usual.waist_dart_keeps),
        ..usual
    };
    draft_direct(&worked_body(), &method, STYLE).unwrap().pattern
}

fn altered(block: &Pattern, code: &str, amounts: Amounts) -> Result<Pattern, AlterError> {
    apply(alteration(code).unwrap(), block, &amounts, None, STYLE).map(|a| a.pattern)
}

fn front(pattern: &Pattern) -> &Piece {
    pattern.piece(PieceKind::BODICE_FRONT).unwrap()
}

fn figure(pattern: &Pattern, figure: PatternMeasure) -> f64 {
    measure(pattern).get(figure).unwrap()
}

#[test]
fn full_bust_grows_the_bust_by_twice_the_half_and_the_centre_front_by_the_drop() {
    let before = block(Some(38.0));
    let after = altered(&before, "full_bust", Amounts::of(20.0)).unwrap();
    let grown = |f| figure(&after, f) - figure(&before, f);
    assert!((grown(PatternMeasure::Bust) - 40.0).abs() < 0.05, "{}", grown(PatternMeasure::Bust));
    let pivot = front(&before).dart(DartPlace::Waist).unwrap().pivot;
    let armhole = &front(&before).edges_of(Seam::Armhole).next().unwrap().curve;
    let hinge = armhole.point_at(armhole.length() * 2.0 / 3.0);
    let x = pivot.x + 20.0;
    let drop = hinge.y + (pivot.distance_squared(hinge) - (x - hinge.x).powi(2)).sqrt() - pivot.y;
    assert!(
        (grown(PatternMeasure::CentreFront) - drop).abs() < 1e-6,
        "{} for {drop}",
        grown(PatternMeasure::CentreFront)
    );
    // The dart takes the width: the sewn waist stays, save for the trued line.
    assert!(grown(PatternMeasure::Waist).abs() < 1.0, "{}", grown(PatternMeasure::Waist));
    assert!(
        (grown(PatternMeasure::WaistDartFront) - 20.0).abs() < 2.0,
        "{}",
        grown(PatternMeasure::WaistDartFront)
    );
    for kept in [
        PatternMeasure::NecklineFront,
        PatternMeasure::ShoulderFront,
        PatternMeasure::ArmholeBack,
        PatternMeasure::SideBack,
    ] {
        assert!(grown(kept).abs() < 1e-6, "{}", kept.name());
    }
    assert!(grown(PatternMeasure::ArmholeFront).abs() < 0.7);
}

#[test]
fn full_bust_without_any_dart_to_use_opens_one_at_the_side_and_fills_the_waist() {
    // A front with its waist dart taken out of the outline: legs replaced by a straight waist.
    let mut plain = front(&block(None)).clone();
    let (side, centre) = plain.mouth(DartPlace::Waist).unwrap();
    plain.edges.retain(|edge| edge.seam != Seam::DartLeg);
    let first_waist = plain.edges.iter().position(|edge| edge.seam == Seam::Waist).unwrap();
    let bridge =
        yardwand_core::pattern::Edge::sewn(Seam::Waist, yardwand_core::geometry::Curve::line(side, centre));
    plain.edges.insert(first_waist + 1, bridge);
    let merged = plain.edges[first_waist]
        .curve
        .clone()
        .then(plain.edges[first_waist + 1].curve.clone())
        .then(plain.edges[first_waist + 2].curve.clone());
    plain
        .edges
        .splice(first_waist..first_waist + 3, [yardwand_core::pattern::Edge::sewn(Seam::Waist, merged)]);
    plain.darts.clear();
    let before = block(None).with(plain);
    let after = altered(&before, "full_bust", Amounts::of(25.4)).unwrap();
    assert!(front(&after).is_closed());
    assert!(front(&after).dart(DartPlace::Side).is_some());
    assert!(front(&after).dart(DartPlace::Waist).is_none());
    // With no dart to take it the waist grows by the spread, within what smoothing the line costs.
    let grown = figure(&after, PatternMeasure::Waist) - figure(&before, PatternMeasure::Waist);
    assert!((grown - 50.8).abs() < 5.0, "{grown}");
}

#[test]
fn beyond_the_hinge_is_refused_with_the_limit() {
    let error = altered(&block(Some(38.0)), "full_bust", Amounts::of(119.0)).unwrap_err();
    let limit_mm = &error.limit().expect("a limit").mm;
    assert!(error.to_string().contains("more than the"), "{error}");
    assert!(altered(&block(Some(38.0)), "full_bust", Amounts::of(limit_mm - 0.01)).is_ok());
    assert!(altered(&block(Some(38.0)), "full_bust", Amounts::of(limit_mm + 0.01)).is_err());
}

#[test]
fn more_than_the_darts_hold_cannot_be_taken_out() {
    let error = altered(&block(Some(38.0)), "full_bust", Amounts::of(-59.0)).unwrap_err();
    let limit_mm = error.limit().expect("a limit").mm;
    assert!(limit_mm < -5.0, "{limit_mm}");
    let taken = altered(&block(Some(38.0)), "full_bust", Amounts::of(limit_mm + 0.5)).unwrap();
    assert!(front(&taken).is_closed());
    // Without a side dart there is nothing to lap.
    assert!(altered(&block(None), "full_bust", Amounts::of(-5.0)).is_err());
}

#[test]
fn an_amount_that_is_no_number_or_out_of_range_is_refused_by_name() {
    for bad in [f64::NAN, f64::INFINITY, 4000.0] {
        for alteration in registry() {
            let error = apply(*alteration, &block(Some(38.0)), &Amounts::of(bad), None, STYLE).unwrap_err();
            assert!(error.to_string().contains("must lie between"), "{bad}: {error}");
        }
    }
    let unknown = altered(&block(None), "full_bust", Amounts::of(5.0).with("hing", 0.3)).unwrap_err();
    assert_eq!(unknown, AlterError::UnknownParam("hing".to_owned()));
}

#[test]
fn shoulder_length_moves_both_tips_alike() {
    let before = block(Some(38.0));
    for by in [-16.0, -6.0, 6.0, 12.7, 16.0] {
        let after = altered(&before, "shoulder_length", Amounts::of(by)).unwrap();
        for f in [PatternMeasure::ShoulderFront, PatternMeasure::ShoulderBack] {
            assert!((figure(&after, f) - figure(&before, f) - by).abs() < 1e-6, "{} {by}", f.name());
        }
        for f in [
            PatternMeasure::Bust,
            PatternMeasure::Waist,
            PatternMeasure::NecklineFront,
            PatternMeasure::SideFront,
            PatternMeasure::CentreBack,
        ] {
            assert!((figure(&after, f) - figure(&before, f)).abs() < 1e-6, "{} {by}", f.name());
        }
    }
}

#[test]
fn the_new_armhole_never_hooks() {
    for by in [-16.0, -6.0, 6.0, 12.7, 16.0] {
        let after = altered(&block(Some(38.0)), "shoulder_length", Amounts::of(by)).unwrap();
        for piece in &after.pieces {
            let armhole = &piece.edges_of(Seam::Armhole).next().unwrap().curve;
            let bends: Vec<f64> = armhole.curvatures(24).into_iter().filter(|k| k.abs() > 1e-5).collect();
            assert!(bends.iter().all(|k| *k > 0.0), "{by} {:?}: {bends:?}", piece.kind);
            // No bend tighter than a 20 mm radius: an armhole, not a hook.
            assert!(bends.iter().all(|k| *k < 1.0 / 20.0), "{by} {:?}: {bends:?}", piece.kind);
            let sharpest = armhole.corners().iter().map(|c| c.1.abs()).fold(0.0, f64::max);
            assert!(sharpest < 0.5, "{by}: {sharpest}");
        }
    }
}

#[test]
fn a_refused_step_is_passed_over_and_said() {
    let recipe = Recipe::default()
        .and("shoulder_length", Amounts::of(6.0), "")
        .and("full_bust", Amounts::of(110.0), "")
        .and("full_bust", Amounts::of(12.7), "");
    let made = make(&block(Some(38.0)), &recipe, STYLE);
    assert!(!made.is_whole());
    let without: Recipe = Recipe { steps: vec![recipe.steps[0].clone(), recipe.steps[2].clone()], ..recipe };
    assert_eq!(made.pattern, make(&block(Some(38.0)), &without, STYLE).pattern);
}

#[test]
fn switched_off_is_as_if_it_were_not_there() {
    let mut recipe = Recipe::default().and("full_bust", Amounts::of(12.7), "").and(
        "shoulder_length",
        Amounts::of(-6.0),
        "",
    );
    recipe.steps[0].on = false;
    let alone = Recipe::default().and("shoulder_length", Amounts::of(-6.0), "");
    let block = block(Some(38.0));
    assert_eq!(make(&block, &recipe, STYLE).pattern, make(&block, &alone, STYLE).pattern);
}

#[test]
fn the_preview_says_what_stayed_and_what_may_change() {
    let recipe = Recipe::default().and("full_bust", Amounts::of(12.7), "");
    let shown = preview(&block(Some(38.0)), &recipe, None, STYLE);
    let row = |f| shown.figures.iter().find(|row| row.figure == f).unwrap();
    assert_eq!(row(PatternMeasure::ArmholeFront).expectation, Expectation::Stays);
    assert_eq!(row(PatternMeasure::Bust).expectation, Expectation::Free);
    assert_eq!(row(PatternMeasure::Bust).change.as_ref().unwrap().text, "1");
    let amounts = &shown.steps[0].amounts;
    assert_eq!((amounts[0].on.as_str(), amounts[0].amount.text.as_str()), ("on the body", "1"));
    assert_eq!((amounts[1].on.as_str(), amounts[1].amount.text.as_str()), ("per half", "1/2"));
    assert_eq!(shown.stages.len(), 5);
    assert!(shown.ready, "{:?}", shown.checks);
}

#[test]
fn pattern_and_recipe_come_back_from_json_the_same() {
    let block = block(Some(38.0));
    let text = serde_json::to_string(&block).unwrap();
    assert_eq!(serde_json::from_str::<Pattern>(&text).unwrap(), block);
    let recipe = Recipe::default().and("full_bust", Amounts::of(12.7), "bust 2 in over");
    let text = serde_json::to_string(&recipe).unwrap();
    assert_eq!(serde_json::from_str::<Recipe>(&text).unwrap(), recipe);
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 120, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn full_bust_keeps_what_it_promises(
        bust in 820.0..1100.0f64,
        d in -6.0..45.0f64,
        own in prop::option::of((-8.0..8.0f64, -8.0..8.0f64)),
    ) {
        let body = worked_body()
            .with("bust_girth", bust)
            .with("upper_bust_girth", bust - 45.0)
            .with("waist_girth", bust - 200.0)
            .with("bust_span", bust * 0.2);
        let method = Direct { ease: DirectEase::default(), ..Direct::default() };
        let Ok(draft) = draft_direct(&body, &method, STYLE) else { return Ok(()) };
        let before = draft.pattern;
        let mut amounts = Amounts::of(d);
        if let Some((x, y)) = own {
            let pivot = front(&before).dart(DartPlace::Waist).unwrap().pivot;
            amounts = amounts.with("bust_point_out", pivot.x + d / 2.0 + x).with("bust_point_down", pivot.y + y);
        }
        let after = match altered(&before, "full_bust", amounts) {
            Ok(after) => after,
            Err(AlterError::Beyond { most, .. }) => {
                    let limit_mm = most.mm;
                let is_beyond = if limit_mm > 0.0 { d > limit_mm } else { d <= limit_mm };
                prop_assert!(is_beyond);
                return Ok(());
            }
            Err(other) => return Err(TestCaseError::fail(other.to_string())),
        };
        let grown = |f| figure(&after, f) - figure(&before, f);
        let known = alteration("full_bust").unwrap();
        // What no chalk line shows is read as nothing.
        let wanted = 2.0 * Args::new(known.params(), &Amounts::of(d)).amount();
        prop_assert!((grown(PatternMeasure::Bust) - wanted).abs() < 0.05, "bust {} for {wanted}", grown(PatternMeasure::Bust));
        for (kept, cost) in known.keeps(&Args::new(known.params(), &Amounts::of(d))).iter() {
            prop_assert!(grown(kept).abs() <= cost + 0.01, "{} {}", kept.name(), grown(kept));
        }
        prop_assert!(front(&after).is_closed());
        // A full bust may leave a waist dart to be split; a small bust takes flare out of the front's side.
        let told = |c: &CheckCode| *c == CheckCode::Darts || (d < 0.0 && *c == CheckCode::SideBalance);
        for check in check_pattern(&after, STYLE).into_iter().filter(|c| !told(&c.code)) {
            prop_assert!(check.passed, "{}: {}", check.name, check.says);
        }
        for seam in [Seam::Armhole, Seam::Neckline] {
            for edge in front(&after).edges_of(seam) {
                prop_assert!(edge.curve.corners().iter().all(|c| c.1.abs() < KINK_LIMIT));
            }
        }
        prop_assert!(front(&after).level(LevelName::Bust).unwrap().points.len() == 3);
        prop_assert_eq!(&before.pieces[1], &after.pieces[1], "the back is left alone");
    }
}
