//! Rows add up in the unit shown: what a row says obeys its own sum in the marks it is written in, on many bodies, in
//! eighths, sixteenths, half centimetres and millimetres.

mod common;

use common::bodies;
use yardwand_core::alter::{Recipe, preview};
use yardwand_core::compare::{BlockSize, PlanChanges, compare, ease_set, plan};
use yardwand_core::draft::{Method, draft};
use yardwand_core::{Length, Shown, Style};

const STYLES: [Style; 4] = [
    Style::Inch { denominator: 8 },
    Style::Inch { denominator: 16 },
    Style::Cm { steps: 2 },
    Style::Cm { steps: 10 },
];

/// What the words say, read as a tape is read: in millimetres.
fn said(shown: &Shown, style: Style) -> f64 {
    Length::read_signed(&shown.text, style.unit()).unwrap_or_else(|error| panic!("{shown:?}: {error}"))
}

fn assert_equal(one: f64, other: f64, what: &str) {
    assert!((one - other).abs() < 1e-6, "{what}: {one} and {other}");
}

#[test]
fn comparisons_plans_and_figures_add_up_as_they_are_written() {
    let bodies = bodies(40, 7);
    let mut rows = 0;
    for (index, body) in bodies.iter().enumerate() {
        let style = STYLES[index % STYLES.len()];
        let master = &bodies[(index + 1) % bodies.len()];
        let Ok(drafted) = draft(master, &Method::default(), style) else { continue };
        let block = BlockSize::drawn("house", master.clone(), drafted.pattern.clone());
        let ease = ease_set("standard", yardwand_core::Unit::Cm).unwrap();
        for row in compare(body, &block.figures(), ease, style).rows {
            let (Some(own), Some(target), Some(off), Some(half)) =
                (&row.body, &row.target, &row.on_body, &row.on_pattern)
            else {
                continue;
            };
            assert_equal(said(own, style) + said(&row.ease, style), said(target, style), &row.name);
            assert_equal(said(target, style) - said(&row.block, style), said(off, style), &row.name);
            let share = said(off, style) / said(half, style);
            assert!(
                said(off, style) == 0.0 || (share - 1.0).abs() < 1e-6 || (share - 2.0).abs() < 1e-6,
                "{row:?}"
            );
            rows += 1;
        }
        let plan = plan(body, &block, ease, &PlanChanges::default(), style).unwrap();
        let total: f64 = plan.lines.iter().filter(|l| l.done).map(|l| said(&l.amount, style).abs()).sum();
        assert_equal(total, said(&plan.total, style), "total");
        for row in &plan.predictions {
            assert_equal(
                said(&row.target, style) - said(&row.predicted, style),
                said(&row.left, style),
                &row.name,
            );
            assert_eq!(row.closes, row.target.text == row.predicted.text, "{row:?}");
        }
        let recipe: Recipe = plan.recipe();
        for row in preview(&drafted.pattern, &recipe, None, style).figures {
            assert_equal(
                said(&row.after, style) - said(&row.before, style),
                said(&row.change, style),
                &row.name,
            );
        }
    }
    assert!(rows > 300, "{rows}");
}
