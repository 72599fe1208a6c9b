//! The laws of the recipe in every cell of the table (handbook: `alterations.md`, section 5.3): sums, orders and sides.

use crate::cells::{Begun, Block, Try, blocks, usual, ways};
use crate::common::furthest_apart;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Recipe, make};
use yardwand_core::pattern::WornSide;

const STYLE: Style = Style::EIGHTHS;
const EXACT: f64 = 0.01;
/// Bodies a block on which sums, orders and sides are compared.
const COMPARED: usize = 6;

/// Decides the steps of a recipe one after the other.
fn decide(recipe: &mut Recipe, steps: &Recipe) {
    for step in &steps.steps {
        let decided = Decided::new(&step.alteration, step.amounts.clone(), "");
        recipe.take(Decided { side: step.side, ..decided });
    }
}

/// What the three laws find wrong with a cell on one pattern; none where the cell does not hold there anyway.
fn broken_laws((block, begun): &Begun, (code, mm, by): Try) -> Vec<String> {
    let amounts = by.iter().fold(Amounts::of(mm), |amounts, (param, way)| amounts.by(param, way));
    let amounts = ways(block, begun, code, amounts);
    let of = |share: f64, side: Option<WornSide>| {
        let decided = Decided::new(code, amounts.clone().with("amount", mm * share), "");
        Decided { side, ..decided }
    };
    let recipe = |decisions: &[Decided]| {
        let mut recipe = begun.clone();
        for decided in decisions {
            recipe.take(decided.clone());
        }
        recipe
    };
    let once = make(block, &recipe(&[of(1.0, None)]), STYLE);
    if !once.is_whole() {
        return Vec::new();
    }
    let mut wrong = Vec::new();
    let mut alike = |law: &str, one: &Recipe, other: &Recipe| {
        let (one, other) = (make(block, one, STYLE), make(block, other, STYLE));
        if !one.is_whole() && !other.is_whole() {
            return;
        }
        let off = furthest_apart(&one.pattern, &other.pattern);
        if off.is_nan() || off > EXACT || one.is_whole() != other.is_whole() {
            wrong.push(format!("{law}: {off} apart"));
        }
    };
    // A share of a dart is no length: half of it twice is not all of it.
    let adds_up = begun.clone().take(of(0.6, None)).contribution.is_some()
        || recipe(&[of(0.6, None), of(0.4, None)]).steps.len() == begun.steps.len() + 1;
    if adds_up {
        alike("a sum", &recipe(&[of(0.6, None), of(0.4, None)]), &recipe(&[of(1.0, None)]));
        let (left, right) = (Some(WornSide::Left), Some(WornSide::Right));
        alike(
            "left after both",
            &recipe(&[of(1.0, None), of(0.4, left)]),
            &recipe(&[of(1.4, left), of(1.0, right)]),
        );
    }
    let mut first = Recipe::default();
    first.take(of(1.0, None));
    decide(&mut first, begun);
    alike("the order", &first, &recipe(&[of(1.0, None)]));
    wrong
}

/// In every cell: a in one round and b in the next is a and b at once; a correction decided after what was done to the block
/// is the one decided before it; and both with more on the left is each side's own sum.
#[test]
fn sums_orders_and_sides_hold_in_every_cell() {
    let only = std::env::var("CELLS").ok();
    let mut usual = usual();
    usual.retain(|(code, ..)| only.as_ref().is_none_or(|only| only.split(',').any(|each| each == *code)));
    let blocks = blocks();
    let of_block = |(name, begun): &Block| -> (usize, Vec<String>) {
        let tried = begun.iter().take(COMPARED).flat_map(|begun| usual.iter().map(move |each| (begun, each)));
        let mut count = 0;
        let mut wrong = Vec::new();
        for (begun, each) in tried {
            count += 1;
            let told = broken_laws(begun, *each).into_iter();
            wrong.extend(told.map(|law| format!("{name}, {} {:?}: {law}", each.0, each.2)));
        }
        (count, wrong)
    };
    let (count, wrong) = std::thread::scope(|scope| {
        let half = |which: usize| blocks.iter().skip(which).step_by(2).map(of_block).collect::<Vec<_>>();
        let other = scope.spawn(move || half(1));
        let all = half(0).into_iter().chain(other.join().unwrap());
        all.fold((0, Vec::new()), |(count, wrong), (more, told)| (count + more, [wrong, told].concat()))
    });
    assert!(only.is_some() || count > 1500, "{count} were tried");
    assert!(wrong.is_empty(), "{} of {count}:\n{}", wrong.len(), wrong.join("\n"));
}
