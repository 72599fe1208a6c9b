//! What the dressmaker feels: draft, alterations, checks and drawing, and how cost grows with steps.
#![allow(missing_docs, reason = "criterion's macros make undocumented functions")]

#[path = "../tests/it/common/mod.rs"]
mod common;

use std::hint::black_box;

use common::worked_body;
use criterion::{BenchmarkId, Criterion, criterion_group, criterion_main};
use yardwand_core::alter::{Amounts, Recipe, alteration, apply, make, preview};
use yardwand_core::compare::{BlockSize, PlanChanges, compare, plan, plan_with_spread};
use yardwand_core::draft::{Direct, Method, MethodKind, draft, draft_direct};
use yardwand_core::drape::{DrapeInput, Draped, Source, on_plane, transfer};
use yardwand_core::ease::ease_set;
use yardwand_core::pattern::{WornSide, check_pattern, measure};
use yardwand_core::{INCH, Style};

const STYLE: Style = Style::EIGHTHS;

/// So many steps: what a difficult figure asks for on both sides, then a little more on the left, on the right, and on both.
fn recipe(steps: usize) -> Recipe {
    let sides = [None, Some(WornSide::Left), Some(WornSide::Right), None];
    let all = sides.into_iter().flat_map(|side| eight_steps(false).into_iter().map(move |step| (side, step)));
    all.take(steps).fold(Recipe::default(), |recipe, (side, (code, amounts))| {
        // Each is small enough that every step is done.
        let little = amounts.clone().with("amount", amounts.amount() / 8.0);
        let recipe = recipe.and(code, little, "");
        match side {
            Some(side) => recipe.on_one_side(side),
            None => recipe,
        }
    })
}

/// What a difficult figure asks for, in usual amounts.
fn eight_steps(with_sleeve: bool) -> Vec<(&'static str, Amounts)> {
    vec![
        ("full_bust", Amounts::of(12.7)),
        ("shoulder_length", Amounts::of(-6.0)),
        ("shoulder_slope", Amounts::of(6.0)),
        ("rounded_back", Amounts::of(10.0)),
        ("sway_back", Amounts::of(8.0)),
        ("gaping_armhole", Amounts::of(6.0)),
        ("side_seams", Amounts::of(3.0).with("waist", 5.0)),
        if with_sleeve { ("biceps_width", Amounts::of(10.0)) } else { ("back_width", Amounts::of(4.0)) },
    ]
}

fn craft(c: &mut Criterion) {
    let method = Direct::default();
    let block = draft_direct(&worked_body(), &method, STYLE).expect("the bench's body drafts").pattern;
    c.bench_function("draft front and back", |b| {
        b.iter(|| draft_direct(black_box(&worked_body()), &method, STYLE))
    });
    let whole = Method { with_sleeve: true, ..Method::default() };
    let body =
        worked_body().with("upper_arm_girth", 284.0).with("arm_length", 584.0).with("hand_girth", 205.0);
    c.bench_function("draft front, back and sleeve with checks", |b| {
        b.iter(|| {
            let drafted = draft(black_box(&body), &whole, STYLE).expect("the bench's body drafts");
            check_pattern(&drafted.pattern, STYLE)
        });
    });
    c.bench_function("draft, two alterations, checks and drawing data", |b| {
        b.iter(|| {
            let drafted = draft_direct(black_box(&worked_body()), &method, STYLE).expect("drafts").pattern;
            preview(&drafted, &recipe(2), None, STYLE)
        });
    });
    let ease = ease_set("standard", yardwand_core::Unit::Cm).expect("a built-in set");
    let fuller = worked_body().with("bust_girth", 40.0 * INCH);
    let size = BlockSize::drawn("12", worked_body(), block.clone());
    let changes = PlanChanges::default();
    c.bench_function("comparison and plan with prediction", |b| {
        b.iter(|| {
            (
                compare(&fuller, &measure(&block), ease, STYLE),
                plan(black_box(&fuller), &size, ease, &changes, STYLE),
            )
        });
    });
    c.bench_function("a plan with its spreads", |b| {
        b.iter(|| plan_with_spread(black_box(&fuller), &size, ease, &changes, STYLE));
    });
    let mut alterations = c.benchmark_group("one alteration with truing and what follows");
    let sleeved = draft(&body, &whole, STYLE).expect("the bench's body drafts").pattern;
    for (code, amounts) in eight_steps(true) {
        let known = alteration(code).expect("built");
        alterations.bench_function(code, |b| {
            b.iter(|| apply(known, black_box(&sleeved), &amounts, None, STYLE).expect("in range"));
        });
    }
    alterations.finish();
    c.bench_function("the rules before cutting on three pieces", |b| {
        b.iter(|| check_pattern(black_box(&sleeved), STYLE));
    });
    let mut eight = c.benchmark_group("eight different steps, checks and drawing data");
    let body = body.with("hip_girth", 960.0).with("waist_to_hip", 205.0);
    let dress = Method { kind: MethodKind::Dress, ..whole };
    let dress = draft(&body, &dress, STYLE).expect("the bench's body drafts").pattern;
    let on = [("bodice", &block), ("bodice with sleeve", &sleeved), ("dress with sleeve", &dress)];
    for (name, pattern) in on {
        let recipe = eight_steps(pattern.sleeve().is_some())
            .into_iter()
            .fold(Recipe::default(), |recipe, (code, amounts)| recipe.and(code, amounts, ""));
        let refused: Vec<String> = make(pattern, &recipe, STYLE)
            .refused()
            .map(|(step, error)| format!("{}: {error}", step.alteration))
            .collect();
        assert!(refused.is_empty(), "{name}: {refused:?}");
        eight.bench_function(name, |b| b.iter(|| preview(black_box(pattern), &recipe, None, STYLE)));
    }
    eight.finish();
    let mut steps = c.benchmark_group("preview by steps");
    for count in [1, 2, 4, 8, 16, 32] {
        let recipe = recipe(count);
        assert!(make(&block, &recipe, STYLE).is_whole(), "{count} steps are done");
        steps.bench_with_input(BenchmarkId::from_parameter(count), &count, |b, _| {
            b.iter(|| preview(black_box(&block), &recipe, None, STYLE));
        });
    }
    steps.finish();
    drapes(c);
}

/// From marks to a trued block: typed, and from two photographs; and a photograph taken to its plane alone.
fn drapes(c: &mut Criterion) {
    let cases: serde_json::Value = serde_json::from_str(include_str!("../tests/it/data/drape_cases.json"))
        .expect("the cases can be read");
    let input = |id: &str| -> DrapeInput {
        let case = cases["cases"].as_array().and_then(|cases| cases.iter().find(|case| case["id"] == id));
        serde_json::from_value(case.expect("a case of that name")["input"].clone()).expect("it can be read")
    };
    let mut drapes = c.benchmark_group("marks to a trued front and back");
    for (name, id) in [("typed", "public-01"), ("two photographs", "public-04"), ("a path", "public-09")] {
        let input = input(id);
        drapes.bench_function(name, |b| b.iter(|| transfer(black_box(&input)).expect("nothing is missing")));
    }
    let photographed = input("public-03");
    if let Source::Photograph { photograph, marks } = &photographed.front {
        drapes.bench_function("a photograph to its plane", |b| {
            b.iter(|| on_plane(Draped::Front, black_box(photograph), marks).expect("its sheets are right"));
        });
    }
    drapes.finish();
}

criterion_group!(benches, craft);
criterion_main!(benches);
