//! How corrections live together (handbook: `alterations.md`, section 5): more of the same adds up, a correction decided
//! after a style line is the same as one decided before it, and each side is one pattern.

use crate::common::{bodies, furthest_apart};
use yardwand_core::Style;
use yardwand_core::alter::{
    AlterError, Amounts, Decided, Layer, Made, Recipe, alteration, apply, make, place_in_order, preview,
    registry,
};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, WornSide};

const STYLE: Style = Style::EIGHTHS;
/// Two ways to the same pattern leave every point within this, in millimetres (handbook: section 5, laws).
const SAME: f64 = 0.01;

fn blocks(kind: MethodKind, count: usize) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    bodies(count, 23).iter().filter_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).collect()
}

fn all_blocks(each: usize) -> Vec<(MethodKind, Pattern)> {
    [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional]
        .into_iter()
        .flat_map(|kind| blocks(kind, each).into_iter().map(move |block| (kind, block)))
        .collect()
}

/// Corrections a fitting decides, each in two parts (common practice, no source).
fn corrections() -> Vec<(&'static str, Amounts, f64, f64)> {
    let of = |code, a, b| (code, Amounts::default(), a, b);
    let by = |code, param: &str, way: &str, a, b| (code, Amounts::default().by(param, way), a, b);
    vec![
        of("length", 8.0, 4.0),
        of("front_balance", 7.0, 4.0),
        of("rounded_back", 9.0, 5.0),
        by("rounded_back", "finish", "neck_dart", 6.0, 4.0),
        by("rounded_back", "finish", "shoulder_dart", 3.0, 2.0),
        of("full_bust", 8.0, 5.0),
        by("full_bust", "to", "waist", 6.0, 4.0),
        of("shoulder_length", 5.0, 4.0),
        of("shoulder_length", -4.0, -3.0),
        of("narrow_shoulder", 5.0, 3.0),
        of("narrow_shoulder_slash", 4.0, 3.0),
        of("shoulder_slope", 5.0, 4.0),
        of("forward_shoulder", 5.0, 3.0),
        of("back_width", 4.0, 3.0),
        of("front_width", 3.0, 2.0),
        of("neck", 5.0, 4.0),
        of("side_seams", 4.0, 3.0),
        of("underarm", 6.0, 4.0),
        of("gaping_armhole", 5.0, 4.0),
        of("gaping_neckline", 4.0, 3.0),
        of("sway_back", 6.0, 4.0),
        of("biceps_width", 6.0, 4.0),
        of("cap_height", 4.0, 3.0),
        of("half_cap", 3.0, 2.0),
        of("sleeve_width", 8.0, 6.0),
        of("dart_point", 5.0, 4.0),
    ]
}

fn decided(code: &str, amounts: &Amounts, mm: f64) -> Decided {
    Decided::new(code, amounts.clone().with("amount", mm), "")
}

fn refusals(made: &Made) -> Vec<String> {
    let of = |made: &yardwand_core::alter::MadeStep| {
        let error: &AlterError = made.outcome.as_ref()?.as_ref().err()?;
        Some(format!("{}: {error}", made.step.alteration))
    };
    made.steps.iter().filter_map(of).collect()
}

#[test]
fn the_one_order_goes_layer_by_layer() {
    let places: Vec<(Layer, usize)> =
        registry().iter().map(|known| place_in_order(*known, &Amounts::default())).collect();
    assert!(places.windows(2).all(|pair| pair[0] < pair[1]), "{places:?}");
}

#[test]
fn more_of_the_same_is_one_step_and_one_line() {
    for (kind, block) in all_blocks(6) {
        for (code, ways, a, b) in corrections() {
            let once = Recipe::default().and(code, ways.clone().with("amount", a + b), "");
            let made = make(&block, &once, STYLE);
            if !made.is_whole() {
                continue;
            }
            let mut added = Recipe::default();
            let first = added.take(decided(code, &ways, a));
            // A later decision need not name the ways again where they are the usual ones.
            let later = added.take(decided(code, &ways, b));
            assert_eq!((later.step, later.contribution), (first.step, Some(1)), "{code}");
            assert_eq!(added.steps.len(), 1);
            // Two steps of their own, as older recipes have them, are drawn as one too.
            let apart_steps = Recipe::default().and(code, ways.clone().with("amount", a), "").and(
                code,
                ways.clone().with("amount", b),
                "",
            );
            for other in [added, apart_steps] {
                let other = make(&block, &other, STYLE);
                assert!(other.is_whole(), "{kind:?} {code}: {:?}", refusals(&other));
                let off = furthest_apart(&made.pattern, &other.pattern);
                assert!(off <= SAME, "{kind:?} {code} {ways:?}: {a} and {b} lie {off} from {}", a + b);
            }
        }
    }
}

#[test]
fn a_correction_after_a_style_line_is_the_one_before_it() {
    let mut tried = 0;
    for block in blocks(MethodKind::Direct, 12) {
        let line = Recipe::default().and("princess_line", Amounts::of(6.0), "style");
        if !make(&block, &line, STYLE).is_whole() {
            continue;
        }
        for (code, ways, a, b) in corrections() {
            let before = Recipe::default().and(code, ways.clone().with("amount", a + b), "").and(
                "princess_line",
                Amounts::of(6.0),
                "style",
            );
            let layer = place_in_order(alteration(code).unwrap(), &ways).0;
            let before = make(&block, &before, STYLE);
            if layer > Layer::Shape || !before.is_whole() {
                continue;
            }
            tried += 1;
            let mut after = line.clone();
            after.take(decided(code, &ways, a));
            after.take(decided(code, &ways, b));
            let made = make(&block, &after, STYLE);
            assert!(made.is_whole(), "{code}: {:?}", refusals(&made));
            let off = furthest_apart(&before.pattern, &made.pattern);
            assert!(off <= SAME, "{code}: {off}");
        }
    }
    assert!(tried > 150, "{tried} were tried");
}

#[test]
fn left_after_both_is_each_sides_own_sum() {
    for (kind, block) in all_blocks(4) {
        for (code, ways, a, b) in corrections() {
            let alone = |mm: f64| {
                apply(alteration(code).unwrap(), &block, &ways.clone().with("amount", mm), None, STYLE)
            };
            let (Ok(ten), Ok(fourteen)) = (alone(a), alone(a + b)) else { continue };
            let mut recipe = Recipe::default();
            recipe.take(decided(code, &ways, a));
            recipe.take(Decided { side: Some(WornSide::Left), ..decided(code, &ways, b) });
            assert_eq!(recipe.steps.len(), 2, "two readable lines");
            let made = make(&block, &recipe, STYLE);
            assert!(made.is_whole(), "{kind:?} {code}: {:?}", refusals(&made));
            assert_eq!(made.steps[1].drawn_with, Some(recipe.steps[0].id));
            for (side, wanted) in [(WornSide::Left, &fourteen), (WornSide::Right, &ten)] {
                let (worn, wanted) = (made.pattern.worn_on(side), wanted.pattern.worn_on(side));
                let off = { worn.pieces.iter().zip(&wanted.pieces) }
                    .map(|(a, b)| {
                        let one = Pattern {
                            pieces: vec![yardwand_core::pattern::Piece { kind: b.kind, ..a.clone() }],
                            ..worn.clone()
                        };
                        furthest_apart(&one, &Pattern { pieces: vec![b.clone()], ..wanted.clone() })
                    })
                    .fold(0.0, f64::max);
                assert!(off <= SAME, "{kind:?} {code}: the {} lies {off} from its own sum", side.name());
            }
        }
    }
}

#[test]
fn what_goes_too_far_together_refuses_the_later_decision_alone() {
    let block = &blocks(MethodKind::Direct, 1)[0];
    let refused = apply(alteration("full_bust").unwrap(), block, &Amounts::of(-60.0), None, STYLE).err();
    let limit = refused.and_then(|error| error.limit()).expect("a small bust has a limit").mm;
    let mut recipe = Recipe::default().and("full_bust", Amounts::of(limit + 5.0), "");
    recipe.take(Decided { side: Some(WornSide::Left), ..Decided::new("full_bust", Amounts::of(-8.0), "") });
    let shown = preview(block, &recipe, None, STYLE);
    assert!(shown.steps[0].says.is_none(), "{:?}", shown.steps[0].says);
    let says = shown.steps[1].says.as_ref();
    assert!(says.is_some_and(|says| says.contains("smaller size")), "{says:?}");
    let nearest = shown.steps[1].nearest.unwrap();
    assert!((nearest.mm + 4.95).abs() < 1e-6, "{nearest:?}");
    recipe.steps[1].amounts = Amounts::of(nearest.mm);
    assert!(make(block, &recipe, STYLE).is_whole());
}

#[test]
fn a_decision_is_taken_back_by_itself_and_the_sum_is_written_as_it_adds_up() {
    let block = &blocks(MethodKind::Direct, 1)[0];
    let mut recipe = Recipe::default();
    recipe.take(Decided::new("rounded_back", Amounts::of(19.3), "Her back length over the block's."));
    let round = |number, mm, by: &str| Decided {
        round: Some(number),
        by: Some(by.to_owned()),
        ..Decided::new("rounded_back", Amounts::of(mm), "Hike at back waist.")
    };
    recipe.take(round(1, 6.35, "Anna"));
    recipe.take(round(2, -3.175, "Marit"));
    let shown = preview(block, &recipe, None, STYLE);
    assert_eq!(shown.steps[0].sums, ["3/4 + 1/4 \u{2212} 1/8 = 7/8"]);
    let says: Vec<&str> = shown.steps[0].decisions.iter().map(|each| each.says.as_str()).collect();
    let wanted = [
        "Her back length over the block's.",
        "Round 1: Hike at back waist. (Anna)",
        "Round 2: Hike at back waist. (Marit)",
    ];
    assert_eq!(says, wanted);
    recipe.steps[0].more.remove(0);
    assert_eq!(preview(block, &recipe, None, STYLE).steps[0].sums, ["3/4 \u{2212} 1/8 = 5/8"]);
    assert!((recipe.steps[0].total().amount() - 16.125).abs() < 1e-9);
}

#[test]
fn a_move_that_would_break_another_step_is_refused_by_name() {
    let block = &blocks(MethodKind::Direct, 1)[0];
    let recipe = Recipe::default()
        .and("move_dart", Amounts::of(1.0).by("to", "armhole"), "")
        .and("move_dart", Amounts::of(1.0).by("from", "armhole").by("to", "shoulder"), "")
        .and("neck", Amounts::of(5.0), "");
    assert!(make(block, &recipe, STYLE).is_whole());
    let moved = recipe.moved(block, 3, 0, STYLE).unwrap();
    assert_eq!(moved.steps.iter().map(|step| step.id).collect::<Vec<_>>(), [3, 1, 2]);
    let says = recipe.moved(block, 2, 0, STYLE).map(|_| ()).unwrap_err();
    assert!(says.starts_with("move a dart cannot go there") && says.contains("armhole dart"), "{says}");
}

/// As 0.5.0 wrote it: no contributions, no round, two steps of one kind.
#[test]
fn an_older_recipe_reads_and_folds() {
    let text = r#"{"form":1,"steps":[
        {"id":1,"alteration":"rounded_back","amounts":{"amount":19.0,"finish":"seam"},"on":true,"reason":"plan"},
        {"id":2,"alteration":"shoulder_slope","amounts":{"amount":5.0},"side":"left","on":true,"reason":""},
        {"id":4,"alteration":"rounded_back","amounts":{"amount":6.0},"on":true,"reason":"Round 1: hike."}]}"#;
    let recipe: Recipe = serde_json::from_str(text).unwrap();
    recipe.validate(STYLE).unwrap();
    let block = &blocks(MethodKind::Direct, 1)[0];
    let made = make(block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", refusals(&made));
    let once = Recipe::default().and("rounded_back", Amounts::of(25.0), "");
    let back = |made: &Made| made.pattern.worn_on(WornSide::Right).back().cloned().unwrap();
    let once = make(block, &once, STYLE);
    assert_eq!(back(&made).edges, back(&once).edges, "19 and 6 are 25");
    let again = serde_json::to_string(&recipe).unwrap();
    assert_eq!(serde_json::from_str::<Recipe>(&again).unwrap(), recipe);
}

#[test]
fn what_does_not_matter_on_a_pattern_is_not_asked() {
    let unasked = |kind| {
        let block = &blocks(kind, 1)[0];
        let recipe = Recipe::default().and("full_bust", Amounts::of(8.0), "");
        let shown = preview(block, &recipe, None, STYLE);
        (shown.steps[0].unasked.clone(), shown.steps[0].choices.join("; "))
    };
    let (bodice, choices) = unasked(MethodKind::Direct);
    assert_eq!(bodice, ["below_waist"]);
    assert!(!choices.contains("below the waist"), "{choices}");
    assert_eq!(unasked(MethodKind::Dress).0, ["to"]);
}

/// What is done twice, in front and behind, is offered as long as one of the two is left, in whatever order they were decided.
#[test]
fn a_princess_line_is_offered_until_front_and_back_are_divided() {
    let block = &blocks(MethodKind::Direct, 1)[0];
    let line = |piece: &str| Decided::new("princess_line", Amounts::of(0.0).by("piece", piece), "");
    for order in [["front", "back"], ["back", "front"]] {
        let mut recipe = Recipe::default();
        let offered = |recipe: &Recipe| {
            let shown = preview(block, recipe, None, STYLE);
            assert!(shown.steps.iter().all(|step| step.says.is_none()));
            shown.fits.iter().any(|code| code == "princess_line")
        };
        assert!(offered(&recipe));
        recipe.take(line(order[0]));
        assert!(offered(&recipe));
        recipe.take(line(order[1]));
        assert!(!offered(&recipe), "{order:?}");
    }
}
