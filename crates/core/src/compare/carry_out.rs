//! Carrying a plan's line out on the pattern, so that the next lines are seen after it.

use super::compare_fitted;
use super::plan::{PlanLine, Planner, Wanted};
use crate::alter::{Amounts, alteration, apply, suits};
use crate::pattern::{Pattern, PatternMeasure, measure};

/// A figure this near to its target needs no other amount, in millimetres.
const CLOSE_ENOUGH: f64 = 0.5;

/// What carries a line out: the alteration, and how the line's amount goes into it.
pub(super) struct Means {
    /// Code of the alteration.
    pub(super) code: &'static str,
    /// The parameter that takes the amount.
    pub(super) param: &'static str,
    /// The parameter's value for a line of 1 mm.
    pub(super) sign: f64,
    /// What else it is told.
    pub(super) amounts: Amounts,
}

impl Means {
    pub(super) fn by(code: &'static str) -> Self {
        Self { code, param: "amount", sign: 1.0, amounts: Amounts::default() }
    }

    pub(super) fn param(self, param: &'static str) -> Self {
        Self { param, ..self }
    }

    pub(super) fn opposite(self) -> Self {
        Self { sign: -self.sign, ..self }
    }
}

impl Planner<'_> {
    /// A line whose alteration is built: done on the pattern at once, so that the next are seen after it.
    pub(super) fn built(&mut self, wanted: Wanted<'_>, means: Means) -> bool {
        let Some(line) = self.line(&wanted) else { return false };
        self.carry_out(line, Some(wanted.figure), means)
    }

    /// Does a line on the pattern. Where it is for a figure and the amount is not set by hand, the amount is
    /// the one that brings the figure to its target: what an alteration adds need not be what is measured.
    pub(super) fn carry_out(
        &mut self,
        mut line: PlanLine,
        figure: Option<PatternMeasure>,
        means: Means,
    ) -> bool {
        // Without geometry, or on a block the alteration is not built for, the line stays on the worksheet.
        let known = alteration(means.code);
        let fits = |pattern: &&Pattern| known.is_some_and(|known| suits(known, pattern));
        let (Some(known), Some(pattern)) = (known, self.pattern.clone().as_ref().filter(fits).cloned())
        else {
            line.by_hand = Some(match (known, &self.pattern) {
                (Some(known), Some(_)) => {
                    format!("Not on this block: {}. Do it on the paper.", known.wants())
                }
                _ => "A card has no geometry: do it on the paper, from the worksheet.".to_owned(),
            });
            self.lines.push(line);
            return false;
        };
        let amounts = |mm: f64| means.amounts.clone().with(means.param, means.sign * mm);
        line.alteration = Some(means.code.to_owned());
        line.amounts = amounts(line.amount.mm);
        if !line.done {
            self.lines.push(line);
            return false;
        }
        let mut outcome = apply(known, &pattern, &line.amounts, None, self.style);
        if let (Some(figure), Ok(altered), None) = (figure, &outcome, &line.planned) {
            let missed = self.missed(figure, &pattern, &altered.pattern);
            if let Some(factor) = missed {
                let mm = line.amount.mm * factor;
                let again = apply(known, &pattern, &amounts(mm), None, self.style);
                if again.is_ok() {
                    (line.amount, line.amounts) = (self.style.part(mm, line.parts), amounts(mm));
                    outcome = again;
                }
            }
        }
        let is_done = outcome.is_ok();
        match outcome {
            Ok(altered) => {
                let figures = measure(&altered.pattern);
                self.comparison = compare_fitted(self.body, &figures, self.settled, self.ease, self.style);
                self.pattern = Some(altered.pattern);
                self.addressed.extend(figure);
            }
            Err(error) => line.refused = Some(error.to_string()),
        }
        self.lines.push(line);
        is_done
    }

    /// By what factor the amount must change for the figure to come to its target; `None` where it does.
    fn missed(&self, figure: PatternMeasure, before: &Pattern, after: &Pattern) -> Option<f64> {
        let target = self.comparison.row(figure)?.target.as_ref()?.mm;
        let (was, now) = (measure(before).get(figure)?, measure(after).get(figure)?);
        let (wanted, got) = (target - was, now - was);
        let factor = wanted / got;
        // An alteration that hardly moves the figure is not the one to bring it there.
        ((wanted - got).abs() > CLOSE_ENOUGH && (0.5..=2.5).contains(&factor)).then_some(factor)
    }
}
