//! Corrections carried over to another size, block, garment or client (handbook: `alterations.md`, section 5, rule 5).

use crate::common::{bodies, furthest_apart};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, CarryOutcome, Recipe, Source, carry_over, make};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, WornSide};

const STYLE: Style = Style::EIGHTHS;

fn blocks(kind: MethodKind, count: usize, seed: u64) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    bodies(count, seed).iter().filter_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).collect()
}

/// Corrections of every layer, one of them on one side.
fn worn() -> Recipe {
    Recipe::default()
        .and("length", Amounts::of(8.0), "Her waist lies lower.")
        .and("rounded_back", Amounts::of(9.0), "Hikes at the centre back.")
        .and("full_bust", Amounts::of(8.0), "Strain at bust.")
        .and("shoulder_slope", Amounts::of(5.0), "The left drops.")
        .on_one_side(WornSide::Left)
        .and("side_seams", Amounts::of(4.0), "")
        .and("princess_line", Amounts::of(0.0), "A panelled front.")
}

fn all(block: &Pattern, onto: &Recipe, from: &Recipe) -> yardwand_core::alter::CarriedOver {
    carry_over(block, onto, from, None, Source::SameClient("Grey waistcoat"), STYLE)
}

#[test]
fn on_the_same_block_it_is_the_same_pattern() {
    for block in blocks(MethodKind::Direct, 10, 31) {
        let carried = all(&block, &Recipe::default(), &worn());
        // A rule that the recipe breaks on its own garment is broken here too, and said.
        let goes_in = |outcome| matches!(outcome, CarryOutcome::Fitted | CarryOutcome::Failing);
        assert!(carried.report.iter().all(|line| goes_in(line.outcome)), "{:?}", carried.report);
        for line in &carried.report {
            let is_failing = line.outcome == CarryOutcome::Failing;
            assert_eq!(line.says.contains("fails with it"), is_failing, "{line:?}");
        }
        let (one, other) = (make(&block, &worn(), STYLE), make(&block, &carried.recipe, STYLE));
        assert!(furthest_apart(&one.pattern, &other.pattern) < 0.01);
    }
}

#[test]
fn on_other_bodies_and_blocks_every_step_is_reported_and_what_was_taken_can_be_done() {
    for kind in [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional] {
        for block in blocks(kind, 6, 32) {
            let carried = all(&block, &Recipe::default(), &worn());
            assert_eq!(carried.report.len(), worn().steps.len());
            let taken = carried.report.iter().filter(|line| line.outcome != CarryOutcome::Refused).count();
            assert_eq!(carried.recipe.steps.len(), taken);
            assert!(make(&block, &carried.recipe, STYLE).is_whole());
            assert!(carried.report.iter().all(|line| line.says.len() > 4), "{:?}", carried.report);
        }
    }
}

#[test]
fn more_than_a_pattern_allows_goes_as_far_as_the_limit_and_says_so() {
    let much = Recipe::default().and("full_bust", Amounts::of(-59.0), "").and(
        "shoulder_slope",
        Amounts::of(4.0),
        "",
    );
    for block in blocks(MethodKind::Direct, 10, 33) {
        let carried = all(&block, &Recipe::default(), &much);
        let [bust, slope] = carried.report.as_slice() else { panic!("{:?}", carried.report) };
        assert_eq!((bust.outcome, slope.outcome), (CarryOutcome::Limited, CarryOutcome::Fitted), "{bust:?}");
        let taken = carried.recipe.steps.iter().find(|step| step.alteration == "full_bust").unwrap();
        let mm = taken.amounts.amount();
        assert!(mm < -1.0 && mm > -59.0, "{mm}");
        assert!(make(&block, &carried.recipe, STYLE).is_whole());
        // The next millimetre is what was refused.
        let more = Recipe::default().and("full_bust", Amounts::of(mm - 1.0), "");
        assert!(!make(&block, &more, STYLE).is_whole(), "{mm}");
    }
}

#[test]
fn what_stands_there_already_is_added_to_and_what_was_refused_there_before_stops_nothing() {
    let block = &blocks(MethodKind::Direct, 1, 34)[0];
    let onto = Recipe::default()
        .and("full_bust", Amounts::of(-59.0), "Refused before anything is carried.")
        .and("rounded_back", Amounts::of(6.0), "The plan.");
    let from = Recipe::default().and("rounded_back", Amounts::of(9.0), "Hikes.");
    let carried = all(block, &onto, &from);
    assert_eq!(carried.report[0].outcome, CarryOutcome::Fitted);
    assert!(carried.report[0].says.contains("added to what is there"), "{:?}", carried.report);
    assert_eq!(carried.recipe.steps.len(), 2);
    assert!((carried.recipe.steps[1].total().amount() - 15.0).abs() < 1e-9);
}

#[test]
fn what_would_break_a_step_that_is_there_is_left_out_by_name() {
    // Gathers take the waist dart's place: a princess line that stands there has no dart to follow any more.
    let block = &blocks(MethodKind::Direct, 1, 35)[0];
    let onto = Recipe::default().and("princess_line", Amounts::of(0.0), "");
    let from = Recipe::default().and("gather_dart", Amounts::of(1.0).by("dart", "waist"), "");
    let carried = all(block, &onto, &from);
    assert_eq!(carried.report[0].outcome, CarryOutcome::Refused, "{:?}", carried.report);
    assert!(carried.report[0].says.contains("could not be done any more"), "{:?}", carried.report);
    assert_eq!(carried.recipe, onto);
}

#[test]
fn her_bust_point_stays_with_her() {
    let block = &blocks(MethodKind::Direct, 1, 37)[0];
    let hers = Amounts::of(9.0).with("bust_point_out", 99.0).with("bust_point_down", 270.0);
    let from = Recipe::default().and("full_bust", hers, "");
    let onto = Recipe::default().and("full_bust", Amounts::of(6.0).with("bust_point_out", 92.0), "");
    let other = carry_over(block, &onto, &from, None, Source::OtherClient, STYLE);
    // So it is more of the same there: one step, drawn once, to this one's own bust point.
    assert_eq!(other.recipe.steps.len(), 1, "{:?}", other.recipe);
    assert!((other.recipe.steps[0].total().amount() - 15.0).abs() < 1e-9);
    let written = serde_json::to_string(&other.recipe).unwrap();
    assert!(!written.contains("99") && written.contains("92"), "{written}");
    let same = carry_over(block, &Recipe::default(), &from, None, Source::SameClient("Blouse"), STYLE);
    assert_eq!(same.recipe.steps[0].amounts, from.steps[0].amounts);
}

#[test]
fn a_chosen_part_goes_alone_and_another_clients_words_stay_with_her() {
    let block = &blocks(MethodKind::Direct, 1, 36)[0];
    let from = worn();
    let chosen = [from.steps[1].id];
    let other = carry_over(block, &Recipe::default(), &from, Some(&chosen), Source::OtherClient, STYLE);
    assert_eq!(other.report.len(), 1);
    assert_eq!(other.recipe.steps[0].reason, "Carried over from another pattern.");
    let hers = carry_over(
        block,
        &Recipe::default(),
        &from,
        Some(&chosen),
        Source::SameClient("Grey waistcoat"),
        STYLE,
    );
    assert_eq!(hers.recipe.steps[0].reason, "Carried over from Grey waistcoat: Hikes at the centre back.");
}
