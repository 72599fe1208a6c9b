//! What the dressmaker feels: draft, alterations, checks and drawing, and how cost grows with steps.
#![allow(missing_docs, reason = "criterion's macros make undocumented functions")]

#[path = "../tests/common/mod.rs"]
mod common;

use std::hint::black_box;

use common::worked_body;
use criterion::{BenchmarkId, Criterion, criterion_group, criterion_main};
use yardwand_core::alter::{Amounts, Recipe, preview};
use yardwand_core::compare::{BlockSize, PlanChanges, compare, ease_set, plan};
use yardwand_core::draft::{Direct, Method, draft, draft_direct};
use yardwand_core::pattern::{check_pattern, measure};
use yardwand_core::{INCH, Style};

const STYLE: Style = Style::EIGHTHS;

/// Bust and shoulder in turn, small enough that every step is done.
fn recipe(steps: usize) -> Recipe {
    (0..steps).fold(Recipe::default(), |recipe, step| match step % 2 {
        0 => recipe.and("full_bust", Amounts::of(3.0), ""),
        _ => recipe.and("shoulder_length", Amounts::of(1.5), ""),
    })
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
    let ease = ease_set("standard").expect("a built-in set");
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
    let mut steps = c.benchmark_group("preview by steps");
    for count in [1, 2, 4, 8, 16] {
        steps.bench_with_input(BenchmarkId::from_parameter(count), &count, |b, &count| {
            b.iter(|| preview(black_box(&block), &recipe(count), None, STYLE));
        });
    }
    steps.finish();
}

criterion_group!(benches, craft);
criterion_main!(benches);
