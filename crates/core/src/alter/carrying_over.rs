//! Carrying corrections over: what was decided for one pattern is decided again on another size, block, garment or client.
//!
//! Step by step, in the order they stand in: each fits, fits as far as the limit, or is refused and left out (handbook:
//! `alterations.md`, section 5). What stands in the other recipe already is kept, and more of the same adds up there.

use serde::{Deserialize, Serialize};

use super::amounts::said;
use super::preview::nearest;
use super::{Alteration, Amounts, Decided, Made, Recipe, Step, alteration, make};
use crate::Style;
use crate::pattern::{Check, Pattern, check_pattern};

/// What became of a step that was carried over.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CarryOutcome {
    /// As it was.
    Fitted,
    /// As it was, and a rule before cutting does not hold with it.
    Failing,
    /// As far as this pattern allows.
    Limited,
    /// Left out.
    Refused,
}

/// One line of the report.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CarriedStep {
    /// The step in the recipe it comes from.
    pub step: u32,
    /// The alteration's name, with the side it is for.
    pub name: String,
    /// What became of it.
    pub outcome: CarryOutcome,
    /// What it does here, or why it cannot.
    pub says: String,
}

/// A recipe with what was carried over, and the report.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CarriedOver {
    /// The recipe as it is with it.
    pub recipe: Recipe,
    /// Step by step.
    pub report: Vec<CarriedStep>,
}

/// Whose pattern the steps come from.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Source<'a> {
    /// Another garment of the same client, by name: the reasons go along.
    SameClient(&'a str),
    /// Another client's: nothing that was said of her is written on this one's pattern.
    OtherClient,
}

/// Carries the chosen steps of a recipe, or all that are switched on, over to another block and its recipe.
pub fn carry_over(
    block: &Pattern,
    onto: &Recipe,
    from: &Recipe,
    chosen: Option<&[u32]>,
    source: Source<'_>,
    style: Style,
) -> CarriedOver {
    let is_chosen = |step: &&Step| step.on && chosen.is_none_or(|ids| ids.contains(&step.id));
    let made = make(block, onto, style);
    let failing = failing(&made, style);
    let mut table = Table { block, style, recipe: onto.clone(), made, failing };
    let report = from.steps.iter().filter(is_chosen).map(|step| table.carry(step, source)).collect();
    CarriedOver { recipe: table.recipe, report }
}

/// The amounts without the places that are read off a body, such as her bust point: on another body they are found anew.
fn without_her_places(known: &dyn Alteration, mut amounts: Amounts) -> Amounts {
    let is_hers = |code: &str| {
        let param = known.params().iter().find(|param| param.code == code);
        param.is_some_and(|param| param.on == super::MeasuredOn::Place && param.default.is_none())
    };
    amounts.0.retain(|code, _| !is_hers(code));
    amounts
}

struct Table<'a> {
    block: &'a Pattern,
    style: Style,
    recipe: Recipe,
    made: Made,
    /// The checks it does not pass.
    failing: Vec<Check>,
}

/// The checks that a pattern does not pass.
fn failing(made: &Made, style: Style) -> Vec<Check> {
    check_pattern(&made.pattern, style).into_iter().filter(|check| !check.passed).collect()
}

/// A recipe that was tried, and the first step that cannot be done in it though it could before.
struct Tried {
    recipe: Recipe,
    made: Made,
    step: u32,
    contribution: Option<u32>,
    broken: Option<(u32, String)>,
    /// The checks it does not pass; not looked at where a step is broken.
    failing: Vec<Check>,
}

impl Table<'_> {
    fn carry(&mut self, step: &Step, source: Source<'_>) -> CarriedStep {
        let name = alteration(&step.alteration).map_or("the step", |known| known.name());
        let name = match step.side {
            None => name.to_owned(),
            Some(side) => format!("{name}, {} only", side.name()),
        };
        let (outcome, says) = self.tried(step, source);
        CarriedStep { step: step.id, name, outcome, says }
    }

    fn tried(&mut self, step: &Step, source: Source<'_>) -> (CarryOutcome, String) {
        let Some(known) = alteration(&step.alteration) else {
            return (CarryOutcome::Refused, super::AlterError::Unknown(step.alteration.clone()).to_string());
        };
        if self.recipe.steps.len() >= Recipe::MOST_STEPS {
            let says = format!("a recipe has at most {} steps: take one out first", Recipe::MOST_STEPS);
            return (CarryOutcome::Refused, says);
        }
        let total = match source {
            Source::SameClient(_) => step.total(),
            Source::OtherClient => without_her_places(known, step.total()),
        };
        let whole = self.with(step, total.clone(), source);
        let Some((broken, error)) = &whole.broken else {
            let says = self.said_of(known, &total, &whole);
            let is_sound = self.newly_failing(&whole).is_none();
            self.keep(whole);
            return (if is_sound { CarryOutcome::Fitted } else { CarryOutcome::Failing }, says);
        };
        if *broken != whole.step {
            let other = self.recipe.steps.iter().find(|each| each.id == *broken);
            let other = other.and_then(|each| alteration(&each.alteration));
            let other = other.map_or("a step", |known| known.name()).to_lowercase();
            return (CarryOutcome::Refused, format!("{other} could not be done any more: {error}"));
        }
        match self.as_far_as_it_goes(&whole, &total) {
            Some(less) => {
                let limited = self.with(step, less.clone(), source);
                if limited.broken.is_some() {
                    return (CarryOutcome::Refused, error.clone());
                }
                let says = format!("{error}. {}", self.said_of(known, &less, &limited));
                self.keep(limited);
                (CarryOutcome::Limited, says)
            }
            None => (CarryOutcome::Refused, error.clone()),
        }
    }

    /// The recipe with one more decision, and what could not be done in it any more.
    fn with(&self, step: &Step, amounts: Amounts, source: Source<'_>) -> Tried {
        let reason = match source {
            Source::SameClient(garment) if step.reason.is_empty() => format!("Carried over from {garment}."),
            Source::SameClient(garment) => format!("Carried over from {garment}: {}", step.reason),
            Source::OtherClient => "Carried over from another pattern.".to_owned(),
        };
        let mut recipe = self.recipe.clone();
        let decided = Decided { side: step.side, ..Decided::new(&step.alteration, amounts, &reason) };
        let taken = recipe.take(decided);
        let made = make(self.block, &recipe, self.style);
        let refused_before = |id: u32| self.made.refused().any(|(step, _)| step.id == id);
        let broken = { made.refused() }
            .find(|(step, _)| !refused_before(step.id))
            .map(|(step, error)| (step.id, error.to_string()));
        let failing = if broken.is_none() { failing(&made, self.style) } else { Vec::new() };
        Tried { recipe, made, step: taken.step, contribution: taken.contribution, broken, failing }
    }

    /// The amounts with what of the first can be done here, where that is something in the same direction.
    fn as_far_as_it_goes(&self, tried: &Tried, asked: &Amounts) -> Option<Amounts> {
        let made = tried.made.steps.iter().find(|made| made.step.id == tried.step)?;
        let nearest = nearest(made, &tried.recipe).filter(|near| near.contribution == tried.contribution)?;
        let is_some = nearest.mm.abs() > 0.5 && nearest.mm.signum() == asked.amount().signum();
        let is_less = nearest.mm.abs() < asked.amount().abs();
        (is_some && is_less).then(|| asked.clone().with("amount", nearest.mm))
    }

    fn said_of(&self, known: &dyn Alteration, amounts: &Amounts, tried: &Tried) -> String {
        let of = said(known.params()[0].on, amounts.amount());
        let is_share = known.params()[0].on == super::MeasuredOn::Share;
        let amount = of.first().filter(|_| !is_share).map(|(on, mm)| match *on {
            "here" => self.style.with_unit(*mm),
            on => format!("{} {on}", self.style.with_unit(*mm)),
        });
        let what = match (tried.contribution, amount) {
            (Some(_), Some(amount)) => format!("{amount}, added to what is there"),
            (None, Some(amount)) => amount,
            (_, None) => "As it was".to_owned(),
        };
        match self.newly_failing(tried) {
            None => format!("{what}."),
            Some(check) => format!("{what}. “{}” fails with it: {}", check.name, check.says),
        }
    }

    /// The first check that held before and does not hold with it.
    fn newly_failing<'a>(&self, tried: &'a Tried) -> Option<&'a Check> {
        let held = |check: &&Check| self.failing.iter().all(|before| before.code != check.code);
        tried.failing.iter().find(held)
    }

    fn keep(&mut self, tried: Tried) {
        (self.recipe, self.made, self.failing) = (tried.recipe, tried.made, tried.failing);
    }
}
