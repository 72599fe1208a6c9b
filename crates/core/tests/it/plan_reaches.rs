//! The plan does what it says: applied to the block it starts from, every dimension it addresses comes within
//! the comparison's own tolerance of its target, on at least 95 of 100 random bodies. The table is printed.

use std::collections::BTreeMap;

use crate::common::{Chance, body_of_bust, standard_ease};
use yardwand_core::Style;
use yardwand_core::alter::{alteration, place_in_order};
use yardwand_core::body::Body;
use yardwand_core::compare::{BlockSize, CUP_OVER, PlanChanges, choose_size, compare, explain, plan};
use yardwand_core::draft::{Direct, DirectEase, draft_direct};
use yardwand_core::pattern::PatternMeasure;

const STYLE: Style = Style::TENTHS;

/// A house nest from 76 to 140 cm: the published steps without scatter.
fn house_sizes() -> Vec<BlockSize> {
    (0..=16)
        .map(|index| {
            let bust = 760.0 + 40.0 * f64::from(index);
            let figure = middle_of_bust(bust);
            let method = Direct { ease: DirectEase::of(standard_ease(), &figure), ..Direct::default() };
            let pattern = draft_direct(&figure, &method, STYLE).unwrap().pattern;
            BlockSize::drawn(&format!("{:.0}", bust / 10.0), figure, pattern)
        })
        .collect()
}

/// The middle of many scattered bodies of this bust, with a B cup.
fn middle_of_bust(bust: f64) -> Body {
    let mut chance = Chance::new(4);
    let many: Vec<Body> = (0..400).map(|_| body_of_bust(bust, &mut chance)).collect();
    let mean = |code: &str| many.iter().filter_map(|body| body.get(code)).sum::<f64>() / many.len() as f64;
    let figure: Body = many[0].iter().map(|(code, _)| (code.to_owned(), mean(code))).collect();
    figure.with("upper_bust_girth", bust - 50.8)
}

#[test]
fn what_the_plan_addresses_comes_within_its_tolerance() {
    let sizes = house_sizes();
    let mut chance = Chance::new(31);
    let (mut bodies, mut whole) = (0, 0);
    let mut by_figure: BTreeMap<PatternMeasure, (usize, usize, f64)> = BTreeMap::new();
    let mut missed = Vec::new();
    for _ in 0..600 {
        let bust = 1080.0 + 320.0 * chance.even();
        let body = body_of_bust(bust, &mut chance);
        let choices = choose_size(&body, &sizes, standard_ease(), CUP_OVER, STYLE).unwrap();
        let size = sizes.iter().find(|size| size.label == choices.choices[0].size).unwrap();
        let plan = plan(&body, size, standard_ease(), &PlanChanges::default(), STYLE).unwrap();
        let places = plan.recipe().steps;
        let places =
            places.iter().map(|step| place_in_order(alteration(&step.alteration).unwrap(), &step.amounts));
        assert!(places.is_sorted(), "the plan is in the one order: {:?}", plan.recipe().steps);
        let addressed: Vec<_> = plan.predictions.iter().filter(|row| row.addressed).collect();
        for line in plan.lines.iter().filter(|line| line.refused.is_some()) {
            missed.push(format!("bust {bust:.0}: {} refused: {}", line.name, line.refused.as_ref().unwrap()));
        }
        // What is left is left with its reason, and a line that is not carried out says what to do.
        for row in &plan.predictions {
            assert_eq!(row.rest.is_some(), !row.fits, "bust {bust:.0}: {row:?}");
        }
        for line in &plan.lines {
            assert_eq!(line.by_hand.is_some(), line.alteration.is_none(), "bust {bust:.0}: {line:?}");
        }
        if addressed.is_empty() {
            continue;
        }
        bodies += 1;
        let mut all = true;
        for row in addressed {
            let tally = by_figure.entry(row.figure).or_default();
            tally.0 += 1;
            let off = row.predicted.mm - row.target.mm;
            tally.2 = tally.2.max(off.abs());
            if row.fits {
                tally.1 += 1;
            } else {
                all = false;
                missed.push(format!(
                    "bust {bust:.0}, size {}: {} is {:.1} mm off after {}",
                    size.label,
                    row.name,
                    off,
                    plan.lines
                        .iter()
                        .map(|l| format!("{} {:.1}", l.key, l.amount.mm))
                        .collect::<Vec<_>>()
                        .join(", ")
                ));
            }
        }
        whole += usize::from(all);
    }
    eprintln!("600 bodies, bust 76 to 140 cm; {bodies} of them with a line whose alteration is built");
    eprintln!("{:<24}{:>10}{:>10}{:>14}", "figure", "addressed", "within", "worst, mm");
    for (figure, (count, within, worst)) in &by_figure {
        eprintln!("{:<24}{count:>10}{within:>10}{worst:>14.2}", figure.name());
    }
    eprintln!("bodies with every addressed figure within: {whole} of {bodies}");
    missed.iter().for_each(|line| eprintln!("  {line}"));
    assert!(bodies > 100, "only {bodies} bodies want a built alteration");
    assert!(
        by_figure.contains_key(&PatternMeasure::Bust)
            && by_figure.contains_key(&PatternMeasure::ShoulderFront)
    );
    assert!(whole * 100 >= bodies * 95, "{whole} of {bodies}: {missed:#?}");
}

#[test]
fn predictions_are_what_applying_the_recipe_measures() {
    let sizes = house_sizes();
    let body = middle_of_bust(960.0).with("bust_girth", 1010.0).with("shoulder_length", 119.0);
    let plan = plan(&body, &sizes[5], standard_ease(), &PlanChanges::default(), STYLE).unwrap();
    let made = yardwand_core::alter::make(sizes[5].pattern().unwrap(), &plan.recipe(), STYLE).pattern;
    let measured = compare(&body, &yardwand_core::pattern::measure(&made), standard_ease(), STYLE);
    assert!(plan.lines.iter().any(|line| line.alteration.is_some()));
    for row in &plan.predictions {
        let again = measured.row(row.figure).unwrap();
        assert_eq!(row.predicted, again.block, "{}", row.name);
        assert_eq!(row.before.mm, sizes[5].figures().get(row.figure).unwrap());
    }
}

#[test]
fn lines_can_be_left_out_set_by_hand_and_put_in_another_order() {
    let sizes = house_sizes();
    let body = middle_of_bust(960.0).with("bust_girth", 1010.0).with("shoulder_length", 139.0);
    let planned = |changes: &PlanChanges| plan(&body, &sizes[5], standard_ease(), changes, STYLE);
    let as_it_is = planned(&PlanChanges::default()).unwrap();
    let keys =
        |plan: &yardwand_core::compare::Plan| plan.lines.iter().map(|l| l.key.clone()).collect::<Vec<_>>();
    let recipe = |plan: &yardwand_core::compare::Plan| {
        let ours = |code: &String| ["full_bust", "shoulder_length"].contains(&code.as_str());
        plan.recipe().steps.iter().map(|step| step.alteration.clone()).filter(ours).collect::<Vec<_>>()
    };
    assert_eq!(recipe(&as_it_is), ["full_bust", "shoulder_length"]);

    let off = planned(&PlanChanges { off: vec!["bust".into()], ..PlanChanges::default() }).unwrap();
    assert_eq!(recipe(&off), ["shoulder_length"]);
    assert!(!off.lines.iter().find(|line| line.key == "bust").unwrap().done);
    let bust = off.predictions.iter().find(|row| row.figure == PatternMeasure::Bust).unwrap();
    assert!(!bust.fits && !bust.addressed);
    assert_eq!(
        bust.rest.as_deref(),
        Some("\u{201c}Full bust\u{201d} is left out: it is there to bring this right")
    );

    let amounts = BTreeMap::from([("bust".to_owned(), 10.0)]);
    let by_hand =
        planned(&PlanChanges { amounts, off: vec!["back_width".into()], ..PlanChanges::default() }).unwrap();
    let line = by_hand.lines.iter().find(|line| line.key == "bust").unwrap();
    assert_eq!(line.amount.mm, 10.0);
    assert!((line.planned.as_ref().unwrap().mm - 25.0).abs() < 0.01);
    let bust = by_hand.predictions.iter().find(|row| row.figure == PatternMeasure::Bust).unwrap();
    assert!((bust.predicted.mm - bust.before.mm - 20.0).abs() < 0.1, "{bust:?}");

    let order = vec!["shoulder_length".to_owned(), "bust".to_owned()];
    let turned = planned(&PlanChanges { order, ..PlanChanges::default() }).unwrap();
    assert_eq!(recipe(&turned), ["shoulder_length", "full_bust"]);
    assert_eq!(keys(&turned).len(), keys(&as_it_is).len());
    let waist = PlanChanges { order: vec!["waist".into(), "bust".into()], ..PlanChanges::default() };
    let wants_waist = body.clone().with("waist_girth", 700.0);
    let error = plan(&wants_waist, &sizes[5], standard_ease(), &waist, STYLE).unwrap_err();
    assert_eq!(error.to_string(), "Waist cannot come before Bust: a bust alteration changes the waist dart");
}

#[test]
fn a_card_is_compared_and_planned_without_geometry() {
    let size = &house_sizes()[5];
    let card = BlockSize::card("from an envelope", Body::default(), size.figures());
    let body = middle_of_bust(960.0).with("bust_girth", 1010.0);
    let plan = plan(&body, &card, standard_ease(), &PlanChanges::default(), STYLE).unwrap();
    assert!(!plan.lines.is_empty() && plan.predictions.is_empty());
    assert!(plan.lines.iter().all(|line| line.alteration.is_none() && line.by_hand.is_some()));
    assert!(plan.recipe().steps.is_empty());
    let choices = choose_size(&body, std::slice::from_ref(&card), standard_ease(), CUP_OVER, STYLE).unwrap();
    assert_eq!(choices.choices[0].size, "from an envelope");
}

#[test]
fn differences_with_one_cause_are_told_together() {
    let sizes = house_sizes();
    let told = |body: &Body| {
        let comparison = compare(body, &sizes[5].figures(), standard_ease(), STYLE);
        explain(body, sizes[5].cup(), &comparison)
    };
    let titles = |body: &Body| told(body).into_iter().map(|each| each.title).collect::<Vec<_>>();
    let middle = middle_of_bust(960.0);
    let grown = |code: &str, by: f64, body: Body| {
        let mm = body.get(code).unwrap();
        body.with(code, mm + by)
    };
    assert!(told(&middle).is_empty(), "{:?}", told(&middle));

    let full = grown(
        "bust_girth",
        60.0,
        grown("snp_to_waist_front", 22.0, grown("bust_span", 14.0, middle.clone())),
    );
    let found = told(&full);
    assert_eq!(found[0].title, "Bust prominence");
    assert_eq!(
        found[0].figures,
        [PatternMeasure::Bust, PatternMeasure::FrontLength, PatternMeasure::BustSpan]
    );

    let long = ["nape_to_waist_back", "snp_to_waist_back", "snp_to_waist_front"]
        .iter()
        .fold(middle.clone(), |body, code| grown(code, 18.0, body));
    assert_eq!(titles(&long), ["A longer bodice"]);

    let round = ["nape_to_waist_back", "snp_to_waist_back", "armhole_depth"]
        .iter()
        .fold(middle.clone(), |body, code| grown(code, 15.0, body));
    assert_eq!(titles(&round), ["A rounded back"]);

    let broad = ["shoulder_length", "across_back", "across_front"]
        .iter()
        .fold(middle.clone(), |body, code| grown(code, 14.0, body));
    assert_eq!(titles(&broad), ["Broader shoulders"]);

    let low = grown("snp_to_bust_point", 20.0, middle);
    assert_eq!(titles(&low), ["A lower bust point"]);
}
