//! A plan's lines as what each does to the figures, millimetre by millimetre: worked out once on the pattern, so that the
//! plan can be asked again for many bodies that differ by a hair from hers.

use std::collections::BTreeMap;
use std::rc::Rc;

use super::carry_out::{Done, Means};
use crate::Style;
use crate::pattern::{PatternMeasure, PatternMeasures, measure};

/// How much more of an amount is tried to see what a millimetre does, in millimetres.
const TRIED: f64 = 0.5;
/// A figure that moves less than this for a millimetre cannot be brought anywhere.
const HARDLY: f64 = 0.05;

/// What one line does to the figures.
struct Effect {
    /// The amount it was done with, in millimetres.
    amount: f64,
    /// The figure its amount was found for.
    brings: Option<PatternMeasure>,
    /// What that amount did, and what each millimetre more of it does.
    moved: BTreeMap<PatternMeasure, (f64, f64)>,
    /// The other lengths it was told, and what each millimetre more of one does.
    told: Vec<(String, f64, BTreeMap<PatternMeasure, f64>)>,
}

/// What a millimetre does to the figures, tried a little more and, where that cannot be done, a little less.
fn per_mm(
    from: &PatternMeasures,
    with: impl Fn(f64) -> Option<PatternMeasures>,
) -> Option<BTreeMap<PatternMeasure, f64>> {
    let (tried, by) = [TRIED, -TRIED].into_iter().find_map(|by| Some((with(by)?, by)))?;
    Some(from.iter().filter_map(|(figure, mm)| Some((figure, (tried.get(figure)? - mm) / by))).collect())
}

impl Effect {
    fn of(done: &Done, style: Style) -> Self {
        let (before, after) = (measure(&done.before), &done.after);
        let more = per_mm(after, |by| done.with(done.mm + by, style));
        let moved = after.iter().filter_map(|(figure, mm)| {
            let did = mm - before.get(figure)?;
            // At the end of what can be done both ways, it goes on as it went so far.
            let so_far = || if done.mm == 0.0 { 0.0 } else { did / done.mm };
            Some((figure, (did, more.as_ref().map_or_else(so_far, |more| more[&figure]))))
        });
        let told = done.lengths().filter_map(|(code, mm)| {
            let more = per_mm(after, |by| done.told(code, mm + by, style))?;
            Some((code.to_owned(), mm, more))
        });
        Self { amount: done.mm, brings: done.brings, moved: moved.collect(), told: told.collect() }
    }

    fn moves(&self, figure: PatternMeasure, mm: f64, means: &Means) -> f64 {
        let by_amount =
            self.moved.get(&figure).map_or(0.0, |(did, per_mm)| did + per_mm * (mm - self.amount));
        let by_told = self.told.iter().map(|(code, was, per_mm)| {
            let now = means.lengths().find(|(each, _)| each == code).map_or(*was, |(_, mm)| mm);
            per_mm.get(&figure).map_or(0.0, |per_mm| per_mm * (now - was))
        });
        by_amount + by_told.sum::<f64>()
    }
}

/// The figures of a block and what the lines of its plan do to them.
#[derive(Clone)]
pub(super) struct Linear {
    effects: Rc<BTreeMap<String, Effect>>,
    figures: PatternMeasures,
    shoulder_width: Option<f64>,
}

impl Linear {
    /// Of lines that were done on the pattern one after another, the block as it was before them.
    pub(super) fn of(
        block: PatternMeasures,
        shoulder_width: Option<f64>,
        done: &[Done],
        style: Style,
    ) -> Self {
        let effects = done.iter().map(|done| (done.key.clone(), Effect::of(done, style)));
        Self { effects: Rc::new(effects.collect()), figures: block, shoulder_width }
    }

    pub(super) const fn shoulder_width(&self) -> Option<f64> {
        self.shoulder_width
    }

    pub(super) const fn figures(&self) -> &PatternMeasures {
        &self.figures
    }

    /// The figure that a line was brought to the target of.
    pub(super) fn brings(&self, key: &str) -> Option<PatternMeasure> {
        self.effects.get(key)?.brings
    }

    /// The amount of a line that brings a figure to its target, in millimetres.
    pub(super) fn amount_to(&self, key: &str, figure: PatternMeasure, target: f64) -> Option<f64> {
        let effect = self.effects.get(key)?;
        let (did, per_mm) = effect.moved.get(&figure)?;
        let missing = target - self.figures.get(figure)? - did;
        (per_mm.abs() > HARDLY).then(|| effect.amount + missing / per_mm)
    }

    /// Does a line with this amount and what else it is told; whether it can be done.
    pub(super) fn does(&mut self, key: &str, mm: f64, means: &Means) -> bool {
        let Some(effect) = self.effects.get(key) else { return false };
        self.figures =
            self.figures.iter().map(|(figure, is)| (figure, is + effect.moves(figure, mm, means))).collect();
        true
    }
}
