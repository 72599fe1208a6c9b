//! What a round does to a pattern: level lines simulated on a block, decisions applied and undone, the lasting part.

use crate::common::{Chance, bodies, worked_body};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, alteration, apply, make};
use yardwand_core::body::LineHeights;
use yardwand_core::draft::{Direct, Method, draft};
use yardwand_core::fitting::{
    BalanceLine, CauseAnswer, CauseOffer, Evidence, OffersTried, Station, Suggestion, causes, lasting_steps,
    own_block, read_balance, read_observation, weigh,
};
use yardwand_core::pattern::{Pattern, PatternMeasure, WornSide, measure};

/// Heights of the waist line on a body that `fits`, when `worn` is put on her: where the worn pattern is shorter from
/// its hold at the shoulder down to the waist, the line stands that much higher (common practice, no source).
fn heights(worn: &Pattern, fits: &Pattern) -> LineHeights {
    let (worn, fits) = (measure(worn), measure(fits));
    let short = |figure: PatternMeasure| Some(1000.0 + fits.get(figure)? - worn.get(figure)?);
    let side = short(PatternMeasure::SideBack);
    LineHeights {
        front: short(PatternMeasure::CentreFront),
        left: side,
        right: side,
        back: short(PatternMeasure::CentreBack),
    }
}

fn block(body: &yardwand_core::body::Body) -> Option<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { with_sleeve: true, direct, ..Method::default() };
    Some(draft(body, &method, Style::TENTHS).ok()?.pattern)
}

#[test]
fn a_rounded_back_of_g_lifts_the_line_and_is_solved_as_g() {
    let known = alteration("rounded_back").unwrap();
    let mut tried = 0;
    for body in bodies(12, 61).iter().chain([&worked_body()]) {
        let Some(block) = block(body) else { continue };
        for g in [6.0, 12.0, 20.0, 30.0, -8.0] {
            let Ok(fits) = apply(known, &block, &Amounts::of(g), None, Style::TENTHS) else { continue };
            let read = read_balance(heights(&block, &fits.pattern), &[], Style::TENTHS).unwrap();
            let hike = read.off(Station::CentreBack).unwrap();
            assert!((hike - g).abs() < 1.0, "a back of {g} lifts the line by {hike}");
            let first = &read.solutions[0];
            assert_eq!(first.alteration, "rounded_back");
            assert!((first.amounts.amount() - g).abs() < 1.0, "{g}: {}", first.says);
            assert!(first.residual.mm < 1.0);
            // Done, the line hangs level.
            let done = apply(known, &block, &first.amounts, first.side, Style::TENTHS).unwrap();
            assert!(read_balance(heights(&done.pattern, &fits.pattern), &[], Style::TENTHS).unwrap().level);
            tried += 1;
        }
    }
    assert!(tried > 40, "only {tried}");
}

#[test]
fn balance_against_closed_forms() {
    // Heights h0 + a·x + b·y at front and back (y = ±d) and at the sides (x = ±w): the tilts are 2bd and 2aw, and a
    // plane has no other fault, so every station is off by its own share of the tilt.
    let mut chance = Chance::new(7);
    for _ in 0..200 {
        let (h0, front, left) = (1000.0 + chance.about(100.0), 12.0 * chance.even(), 12.0 * chance.even());
        let plane = LineHeights {
            front: Some(h0 + front),
            back: Some(h0 - front),
            left: Some(h0 + left),
            right: Some(h0 - left),
        };
        let read = read_balance(plane, &[], Style::TENTHS).unwrap();
        assert!((read.tilt_front_back.as_ref().unwrap().mm - 2.0 * front).abs() < 1e-9);
        assert!((read.tilt_left_right.as_ref().unwrap().mm - 2.0 * left).abs() < 1e-9);
        assert!((read.off(Station::Left).unwrap() - left).abs() < 1e-9);
        assert!((read.off(Station::CentreBack).unwrap() + front).abs() < 1e-9);
        // Levelled by its solutions, nothing is left beyond what a tape can tell.
        if let Some(last) = read.solutions.last() {
            assert!(last.residual.mm <= 3.2 + 1e-9, "{:?}", read.solutions);
        }
    }
    assert_eq!(BalanceLine::ALL.len(), 4);
}

#[test]
fn decisions_of_a_round_applied_and_undone_leave_the_pattern_as_it_was() {
    let mut chance = Chance::new(83);
    let mut tried = 0;
    for body in bodies(8, 19) {
        let Some(block) = block(&body) else { continue };
        let before = Recipe::default().and("full_bust", Amounts::of(8.0), "the plan");
        let version = make(&block, &before, Style::TENTHS).pattern;
        for _ in 0..6 {
            // Decisions as a round makes them: the suggested alteration of random causes.
            let mut after = before.clone();
            for _ in 0..3 {
                let cause = &causes()[(chance.even().abs() * causes().len() as f64) as usize];
                let sign = cause.sure[0].text.replace(" on one side", " on the left");
                let first = sign.split(" or ").next().unwrap().to_owned();
                let towards = sign.split_once(" towards ").filter(|_| !first.contains(" towards "));
                let first = towards.map_or(first.clone(), |(_, aim)| {
                    format!("{first} towards {}", aim.split(" or ").next().unwrap())
                });
                let Ok(seen) = read_observation(&first) else { continue };
                let evidence = Evidence { seen: vec![seen], ..Evidence::default() };
                let Some(found) = weigh(&evidence, Style::TENTHS).offered.into_iter().next() else {
                    continue;
                };
                let Some(offer) = found.answer.offer() else { continue };
                after = after.and(&offer.alteration, offer.amounts.clone(), &found.title);
            }
            let altered = make(&block, &after, Style::TENTHS);
            after.steps.truncate(before.steps.len());
            assert_eq!(make(&block, &after, Style::TENTHS).pattern, version, "undone");
            tried += usize::from(altered.pattern != version);
        }
    }
    assert!(tried > 30, "only {tried} rounds changed the pattern");
}

#[test]
fn posture_goes_into_her_own_block_and_style_stays_with_the_garment() {
    let block = bodies(8, 5).iter().find_map(block).unwrap();
    let recipe = Recipe::default()
        .and("rounded_back", Amounts::of(12.0), "level lines")
        .and("neck", Amounts::of(30.0), "a wide neckline is the style")
        .and("under_bust_seam", Amounts::of(70.0), "the style");
    let steps = lasting_steps(&recipe, Style::TENTHS);
    let lasting: Vec<_> = steps.iter().map(|step| (step.name.as_str(), step.lasting)).collect();
    assert_eq!(lasting, [("Rounded back", true), ("Neckline", true), ("Seam under the bust", false)]);
    let own = own_block(&block, &recipe, &[steps[0].id], Style::TENTHS).unwrap();
    let (was, is) = (measure(&block), measure(&own));
    assert!(
        (is.get(PatternMeasure::CentreBack).unwrap() - was.get(PatternMeasure::CentreBack).unwrap() - 12.0)
            .abs()
            < 0.6
    );
    assert_eq!(is.get(PatternMeasure::NecklineFront), was.get(PatternMeasure::NecklineFront));
    // What builds on a step that is left out is refused with its name.
    let after = Recipe::default().and("princess_line", Amounts::of(0.0), "the style").and(
        "full_bust",
        Amounts::of(10.0),
        "too late",
    );
    let refused = own_block(&block, &after, &[1, 2], Style::TENTHS).unwrap_err();
    assert!(refused.starts_with("Full bust: "), "{refused}");
}

/// What cannot be done on the pattern is said when it is offered, with the limit; what can be done is not doubted.
#[test]
fn an_offer_that_cannot_be_done_says_so_before_it_is_taken() {
    let block = bodies(12, 61).iter().find_map(block).unwrap();
    let recipes = [
        Recipe::default(),
        Recipe::default().and("princess_line", Amounts::of(6.0), ""),
        Recipe::default().and("under_bust_seam", Amounts::of(60.0), ""),
        Recipe::default().and("strapless_edge", Amounts::of(120.0), ""),
        Recipe::default().and("shoulder_slope", Amounts::of(5.0), "").on_one_side(WornSide::Left),
    ];
    let mut offered = 0;
    for recipe in &recipes {
        assert!(make(&block, recipe, Style::TENTHS).is_whole());
        let mut tried = OffersTried::on(&block, recipe, Style::TENTHS);
        for cause in causes() {
            let text = cause.sure[0].text.replace(" on one side", "");
            let first = |part: &str| part.split(" or ").next().unwrap_or_default().to_owned();
            let text = match text.split_once(" towards ") {
                Some((what, aim)) => format!("{} towards {}", first(what), first(aim)),
                None => first(&text),
            };
            let Ok(seen) = read_observation(&text) else { continue };
            let evidence = Evidence { seen: vec![seen], ..Evidence::default() };
            let mut suggested = weigh(&evidence, Style::TENTHS).offered;
            let much = suggested.iter().filter_map(|each| {
                let offer = each.answer.offer()?.clone();
                let amounts = offer.amounts.clone().with("amount", 4000.0);
                let answer = CauseAnswer::Alter(CauseOffer { amounts, ..offer });
                Some(Suggestion { answer, ..each.clone() })
            });
            let much: Vec<_> = much.collect();
            suggested.extend(much);
            tried.try_all(&mut suggested);
            for each in suggested {
                let Some(offer) = each.answer.offer() else { continue };
                offered += 1;
                let mut taken = recipe.clone();
                let decided = Decided::new(&offer.alteration, offer.amounts.clone(), "");
                taken.take(Decided { side: each.side, ..decided });
                let made = make(&block, &taken, Style::TENTHS);
                assert_eq!(offer.cannot.is_none(), made.is_whole(), "{}: {:?}", each.title, offer.cannot);
                if offer.amounts.amount() == 4000.0 {
                    let says = offer.cannot.clone().unwrap_or_default();
                    assert!(says.contains("must lie between"), "{}: {says}", each.title);
                }
            }
        }
    }
    assert!(offered > 60, "{offered}");
}
