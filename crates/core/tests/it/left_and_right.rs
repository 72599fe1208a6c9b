//! Left and right: any alteration on one side makes pieces of its own, and everything looks at each side by itself.

use crate::common::{bodies, worked_body};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, FollowKind, Recipe, StepState, alteration, apply, make, preview};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    Pattern, PatternMeasure, PieceKind, Seam, WornSide, check_pattern, measure, walk, walks,
};

const STYLE: Style = Style::EIGHTHS;

fn block() -> Pattern {
    let body =
        worked_body().with("upper_arm_girth", 284.0).with("arm_length", 584.0).with("hand_girth", 205.0);
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    draft(&body, &Method { with_sleeve: true, direct, ..Method::default() }, STYLE).unwrap().pattern
}

fn one_sided(side: WornSide) -> Pattern {
    let slope = alteration("shoulder_slope").unwrap();
    apply(slope, &block(), &Amounts::of(10.0), Some(side), STYLE).unwrap().pattern
}

fn names(pattern: &Pattern) -> Vec<String> {
    pattern.pieces.iter().map(|piece| piece.kind.name()).collect()
}

#[test]
fn a_panel_carries_what_the_whole_piece_was_altered_for() {
    let method = Method { kind: MethodKind::Dress, ..Method::default() };
    let block = bodies(3, 5).iter().find_map(|body| draft(body, &method, STYLE).ok()).unwrap().pattern;
    let recipe = Recipe::default()
        .and("rounded_back", Amounts::of(8.0), "")
        .and("full_bust", Amounts::of(8.0), "")
        .and("princess_line", Amounts::of(0.0), "")
        .and("princess_line", Amounts::of(0.0).by("piece", "back"), "");
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole());
    let told: Vec<(String, String)> =
        made.altered_for().into_iter().map(|each| (each.piece.name(), each.names.join(", "))).collect();
    for (piece, wanted) in [
        ("Centre front panel", "full bust, princess line"),
        ("Side front panel", "full bust, princess line"),
        ("Centre back panel", "rounded back, princess line"),
        ("Side back panel", "rounded back, princess line"),
    ] {
        assert!(told.contains(&(piece.to_owned(), wanted.to_owned())), "{told:?}");
    }
}

#[test]
fn only_what_changes_becomes_left_and_right() {
    let sway =
        apply(alteration("sway_back").unwrap(), &block(), &Amounts::of(8.0), Some(WornSide::Left), STYLE);
    assert_eq!(
        names(&sway.unwrap().pattern),
        ["Bodice front", "Bodice back, left", "Bodice back, right", "Sleeve"]
    );
    assert_eq!(
        names(&one_sided(WornSide::Right)),
        ["Bodice front, left", "Bodice front, right", "Bodice back, left", "Bodice back, right", "Sleeve"]
    );
}

#[test]
fn the_other_side_stays_to_the_last_bit() {
    let before = block();
    for side in WornSide::BOTH {
        let after = one_sided(side);
        for old in &before.pieces {
            let kept = after.worn_on(side.other());
            let same = kept.pieces.iter().find(|piece| piece.kind.part() == old.kind.part()).unwrap();
            assert_eq!(same.edges, old.edges, "{}", same.kind.name());
        }
    }
}

#[test]
fn girths_are_what_both_halves_make_together() {
    let wider =
        apply(alteration("side_seams").unwrap(), &block(), &Amounts::of(6.0), Some(WornSide::Left), STYLE);
    let (before, after) = (measure(&block()), measure(&wider.unwrap().pattern));
    // Two edges of one side instead of four of both.
    let grown = after.get(PatternMeasure::Bust).unwrap() - before.get(PatternMeasure::Bust).unwrap();
    assert!((grown - 12.0).abs() < 0.05, "{grown}");
}

#[test]
fn each_side_is_walked_and_checked_by_itself() {
    let pattern = one_sided(WornSide::Left);
    let sides: Vec<_> = walk(&pattern).into_iter().filter(|walked| walked.seam == Seam::Side).collect();
    assert_eq!(sides.len(), 2);
    assert!(sides.iter().all(|walked| walked.difference().abs() < 1.0));
    assert!((sides[0].one_length - sides[1].one_length).abs() > 5.0, "the left side seam gave way");
    let named: Vec<String> = check_pattern(&pattern, STYLE).into_iter().map(|check| check.name).collect();
    assert!(named.iter().any(|name| name == "Side seams are equal, left"));
    assert!(named.iter().any(|name| name == "Side seams are equal, right"));
    let told = walks(&pattern, STYLE);
    assert!(told.iter().filter(|walk| !walk.frames.is_empty()).count() >= 4);
    assert!(
        told.iter().all(|walk| walk.joins),
        "{:?}",
        told.iter().map(|walk| &walk.says).collect::<Vec<_>>()
    );
}

#[test]
fn a_fault_on_one_side_names_that_side() {
    let length = alteration("length").unwrap();
    let longer = Amounts::of(15.0).by("pieces", "front");
    let pattern = apply(length, &block(), &longer, Some(WornSide::Right), STYLE).unwrap().pattern;
    let failing: Vec<_> = check_pattern(&pattern, STYLE).into_iter().filter(|check| !check.passed).collect();
    assert!(!failing.is_empty());
    for check in &failing {
        assert!(check.name.ends_with(", right"), "{}", check.name);
        for fault in &check.faults {
            assert_ne!(fault.piece.side(), Some(WornSide::Left), "{}", fault.says);
        }
    }
}

#[test]
fn what_is_done_on_both_sides_later_is_done_on_each_as_it_is() {
    let recipe = Recipe::default()
        .and("shoulder_slope", Amounts::of(10.0), "")
        .on_one_side(WornSide::Left)
        .and("underarm", Amounts::of(8.0), "");
    let made = make(&block(), &recipe, STYLE);
    assert!(made.is_whole());
    let (left, right) = (made.pattern.worn_on(WornSide::Left), made.pattern.worn_on(WornSide::Right));
    let underarm = |before: &Pattern| {
        apply(alteration("underarm").unwrap(), before, &Amounts::of(8.0), None, STYLE).unwrap().pattern
    };
    let edges =
        |pattern: &Pattern| pattern.pieces.iter().map(|piece| piece.edges.clone()).collect::<Vec<_>>();
    assert_eq!(edges(&right), edges(&underarm(&block())));
    assert_eq!(edges(&left), edges(&underarm(&one_sided(WornSide::Left).worn_on(WornSide::Left))));
}

#[test]
fn an_offer_is_for_its_own_side_and_does_what_it_says() {
    let longer = alteration("shoulder_length").unwrap();
    let altered = apply(longer, &block(), &Amounts::of(20.0), Some(WornSide::Right), STYLE).unwrap();
    let offers: Vec<_> =
        altered.follow_ups.iter().filter(|follow| follow.kind == FollowKind::Offered).collect();
    assert!(!offers.is_empty(), "20 mm of shoulder wants the cap: {:?}", altered.follow_ups);
    for offer in offers.iter().filter_map(|follow| follow.offer.as_ref()) {
        assert_eq!(offer.side, Some(WornSide::Right));
        let known = alteration(&offer.alteration).unwrap();
        let taken = apply(known, &altered.pattern, &offer.amounts, offer.side, STYLE).unwrap().pattern;
        let sleeve = PieceKind::SLEEVE;
        assert!(
            taken.piece(sleeve.on(WornSide::Left)).is_some()
                && taken.piece(sleeve.on(WornSide::Right)).is_some()
        );
        let cap = |side| taken.worn_on(side).sleeve().unwrap().flat_length(Seam::Cap);
        let by = cap(WornSide::Right) - cap(WornSide::Left);
        assert!((by - offer.amounts.amount()).abs() < 0.05, "{by}");
    }
}

#[test]
fn stages_and_handle_name_the_pieces_that_are_there() {
    let recipe = Recipe::default().and("shoulder_slope", Amounts::of(10.0), "").on_one_side(WornSide::Right);
    let shown = preview(&block(), &recipe, None, STYLE);
    assert_eq!(shown.steps[0].state, StepState::Done);
    assert_eq!(shown.steps[0].name, "Shoulder slope, right only");
    let there: Vec<PieceKind> = shown.now.iter().map(|piece| piece.kind).collect();
    let drawn = shown.stages.iter().flat_map(|stage| &stage.drawings).map(|drawing| drawing.piece);
    for kind in
        drawn.chain(shown.moved.iter().map(|area| area.piece)).chain(shown.handle.map(|handle| handle.piece))
    {
        assert!(there.contains(&kind) && kind.side() == Some(WornSide::Right), "{}", kind.name());
    }
    // The left pieces are the block as it is.
    for each in &shown.altered_for {
        let right = each.piece.side() == Some(WornSide::Right);
        assert_eq!(each.names, if right { vec!["shoulder slope (right)"] } else { Vec::new() }, "{each:?}");
    }
}

#[test]
fn a_sided_pattern_comes_back_from_json_the_same() {
    let pattern = one_sided(WornSide::Left);
    let text = serde_json::to_string(&pattern).unwrap();
    assert!(text.contains("\"bodice_front_left\"") && text.contains("\"bodice_front_right\""));
    assert_eq!(serde_json::from_str::<Pattern>(&text).unwrap(), pattern);
}
