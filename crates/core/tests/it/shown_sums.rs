//! Rows add up in the unit shown: what a row says obeys its own sum in the marks it is written in, on many bodies, in
//! eighths, sixteenths, half centimetres and millimetres.

use crate::common::bodies;
use yardwand_core::alter::{Amounts, Recipe, alteration, alteration_views, amount_views, preview};
use yardwand_core::compare::{BlockSize, CUP_OVER, PlanChanges, choose_size, compare, plan};
use yardwand_core::draft::{Method, draft};
use yardwand_core::ease::ease_set;
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
            let (Some(before), Some(change)) = (&row.before, &row.change) else { continue };
            assert_equal(said(&row.after, style) - said(before, style), said(change, style), &row.name);
        }
    }
    assert!(rows > 300, "{rows}");
}

/// What the choice of a size lists adds up to the sum it names, in the list and in the sentence above it.
#[test]
fn the_corrections_of_a_size_add_up_to_their_sum() {
    let bodies = bodies(40, 11);
    let mut lines = 0;
    for (index, body) in bodies.iter().enumerate() {
        let style = STYLES[index % STYLES.len()];
        let ease = ease_set("standard", style.unit()).unwrap();
        let sizes: Vec<BlockSize> = (1..4)
            .filter_map(|step| {
                let figure = &bodies[(index + step) % bodies.len()];
                let drafted = draft(figure, &Method::default(), style).ok()?;
                Some(BlockSize::drawn(&step.to_string(), figure.clone(), drafted.pattern))
            })
            .collect();
        let Some(choices) = choose_size(body, &sizes, ease, CUP_OVER, style) else { continue };
        for choice in &choices.choices {
            let unit = style.unit().suffix();
            let in_all: f64 = { choice.lines.iter() }
                .map(|line| {
                    // The name, the amount, its unit, and what it is measured on.
                    let (before, _) =
                        line.split_once(&format!(" {unit} ")).unwrap_or_else(|| panic!("{line}"));
                    let at = before.find(|c: char| c.is_ascii_digit() || c == '\u{2212}').unwrap();
                    Length::read_signed(&before[at..], style.unit()).unwrap().abs()
                })
                .sum();
            assert_equal(in_all, said(&choice.total, style), &format!("{choice:?}"));
            lines += choice.lines.len();
            let sum = format!("{} {unit}", choice.total.text);
            assert!(
                choices.why.contains("choose the same size") || choices.why.contains(&sum),
                "{}",
                choices.why
            );
        }
    }
    assert!(lines > 100, "{lines}");
}

#[test]
fn an_amount_is_as_many_times_itself_in_every_way_it_is_said() {
    let mut looked = 0;
    let times = [("on the body", 1.0), ("per half", 2.0), ("on each edge", 4.0)];
    for style in STYLES {
        for view in alteration_views(style) {
            let (code, known) = (&view.code, alteration(&view.code).unwrap());
            for n in -40..=40 {
                let mm = f64::from(n) * 0.317;
                let views = amount_views(known, &Amounts::of(mm), style);
                let Some(whole) = views.iter().find(|view| view.on == "on the body") else { continue };
                looked += 1;
                for view in &views {
                    let (_, share) = times.iter().find(|(on, _)| *on == view.on).unwrap();
                    let what = format!("{code} {mm}: {views:?}");
                    assert_equal(said(&view.amount, style) * share, said(&whole.amount, style), &what);
                    assert_equal(view.amount.mm * share, whole.amount.mm, &what);
                }
            }
        }
    }
    assert!(looked > 1000, "{looked}");
}
