//! How sure a plan is: the spreads of her readings, carried through its amounts and the figures after it.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::carry_out::Ground;
use super::difference::stands;
use super::linear::Linear;
use super::plan::{Asked, Planner};
use super::{BlockSize, Plan, PlanChanges, Settled};
use crate::Style;
use crate::body::{Body, Carried, DoubtfulReading, Spread, carried, doubtful_readings};
use crate::ease::EaseSet;
use crate::pattern::PatternMeasure;

/// Finer than any reading is moved: what is worked out of figures as they are written would else move in steps.
const FINE: Style = Style::Cm { steps: 1_000_000 };
/// A reading that holds this share of the doubt is worth naming.
const WORTH_NAMING: f64 = 0.15;

/// Which readings a plan's amounts hang on.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanDoubt {
    /// The one that is best taken again first; only those that hold a fair share of the doubt.
    pub readings: Vec<DoubtfulReading>,
    /// Which reading, taken again, would make the plan surest.
    pub says: Option<String>,
}

impl PlanDoubt {
    fn of(readings: Vec<DoubtfulReading>) -> Self {
        let percent = |share: f64| (share * 100.0).round();
        let readings: Vec<_> = readings.into_iter().filter(|reading| reading.share >= WORTH_NAMING).collect();
        let says = readings.first().filter(|first| first.lessens > 0.0).map(|first| {
            format!(
                "Take {} again: it decides {} % of the doubt, and one more take leaves {} % less of it.",
                first.name.to_lowercase(),
                percent(first.share),
                percent(first.lessens)
            )
        });
        Self { readings, says }
    }
}

/// The spreads of a plan's amounts, by the key of the line, and of the figures after it.
#[derive(Default)]
pub(super) struct Doubt {
    amounts: BTreeMap<String, Carried>,
    figures: BTreeMap<PatternMeasure, Carried>,
    total: Carried,
    on: PlanDoubt,
}

/// What one spread of each of her readings moves.
#[derive(Clone, PartialEq, Eq, PartialOrd, Ord)]
enum Moved {
    Amount(String),
    Figure(PatternMeasure),
    Total,
}

/// Carries the spreads of the readings through a plan that was worked out on the block itself.
pub(super) fn doubt_of(asked: &Asked<'_>, worked: &Planner<'_>) -> Doubt {
    let linear = match &worked.ground {
        Ground::Drawn(_) => {
            let block = asked.block_as_it_is();
            Some(Linear::of(asked.block.figures(), block.shoulder_width(), &worked.done, asked.style))
        }
        Ground::Card | Ground::Figures(_) => None,
    };
    let keys = |planner: &Planner<'_>| -> Vec<String> {
        planner.lines.iter().map(|line| line.key.clone()).collect()
    };
    let hers = keys(worked);
    // Of the very plan: a hair further on a line may come or go, and how far one would go on is what is asked.
    let figures = |body: &Body| {
        let settled = settled_with(asked, body);
        let again = Asked { body, settled: &settled, style: FINE, ..*asked };
        let ground = linear.clone().map_or(Ground::Card, Ground::Figures);
        let planner = again.worked(ground);
        let mut moved: BTreeMap<Moved, f64> = BTreeMap::new();
        if keys(&planner) != hers {
            return moved;
        }
        for line in planner.lines.iter().filter(|line| line.planned.is_none()) {
            moved.insert(Moved::Amount(line.key.clone()), line.amount.mm);
        }
        let done = planner.lines.iter().filter(|line| line.done);
        moved.insert(Moved::Total, done.map(|line| line.amount.mm.abs()).sum());
        if let Ground::Figures(linear) = &planner.ground {
            moved.extend(linear.figures().iter().map(|(figure, mm)| (Moved::Figure(figure), mm)));
        }
        moved
    };
    let body = doubting_what_was_settled(asked);
    let mut doubt = Doubt::default();
    for (key, of) in carried(&body, figures) {
        match key {
            Moved::Amount(key) => drop(doubt.amounts.insert(key, of)),
            Moved::Figure(figure) => drop(doubt.figures.insert(figure, of)),
            Moved::Total => doubt.total = of,
        }
    }
    let done = |key: &&String| worked.lines.iter().any(|line| line.key == **key && line.done);
    let amounts = doubt.amounts.keys().filter(done).map(|key| &doubt.amounts[key]);
    doubt.on = PlanDoubt::of(doubtful_readings(&body, amounts));
    doubt
}

/// What her readings' spreads make of all corrections together from a block.
pub(super) fn doubt_of_total(body: &Body, block: &BlockSize, ease: &EaseSet, style: Style) -> Carried {
    let changes = PlanChanges::default();
    let asked = Asked::new(body, block, ease, &changes, style);
    doubt_of(&asked, &asked.worked(asked.block_as_it_is())).total
}

/// What fittings settled, as it would be on a body whose readings differ from hers by their error: a reading that stands was
/// as wrong on the day of the fitting.
fn settled_with(asked: &Asked<'_>, body: &Body) -> Vec<Settled> {
    let as_of = |settled: &Settled| {
        let now = settled.read_from(asked.body, asked.ease);
        let moved = settled.read_from(body, asked.ease);
        match (now, moved) {
            (Some((_, now)), Some((_, moved))) if stands(now, settled) => {
                Settled { reading: moved, ..settled.clone() }
            }
            _ => settled.clone(),
        }
    };
    asked.settled.iter().map(as_of).collect()
}

/// Her body, less sure of a reading that was taken anew since a fitting settled what hangs on it: that day's was as unsure.
fn doubting_what_was_settled(asked: &Asked<'_>) -> Body {
    let twice = |body: Body, settled: &Settled| {
        let Some((code, mm)) = settled.read_from(asked.body, asked.ease) else { return body };
        let Some(spread) = asked.body.spread(code).filter(|_| !stands(mm, settled)) else { return body };
        let root = std::f64::consts::SQRT_2;
        body.with_spread(code, Spread { mm: spread.mm * root, again_mm: spread.again_mm.hypot(spread.mm) })
    };
    asked.settled.iter().fold(asked.body.clone(), twice)
}

impl Doubt {
    /// Writes the spreads beside the amounts and figures of the plan.
    pub(super) fn written_into(self, plan: &mut Plan, style: Style) {
        let some = |carried: &Carried| Some(carried.mm()).filter(|mm| *mm > 0.0);
        for line in &mut plan.lines {
            let spread = self.amounts.get(&line.key).and_then(some);
            line.spread = spread.map(|mm| style.spread_part(mm, line.parts));
        }
        for row in &mut plan.predictions {
            let spread = self.figures.get(&row.figure).and_then(some);
            row.predicted_spread = spread.map(|mm| style.spread(mm));
        }
        plan.doubt = Some(self.on);
    }
}
