//! Carrying a plan's line out on the pattern, so that the next lines are seen after it.

use super::compare_fitted;
use super::linear::Linear;
use super::plan::{PlanLine, Planner, Wanted};
use crate::Style;
use crate::alter::{Alteration, Amounts, Setting, alteration, apply, suits};
use crate::pattern::{Pattern, PatternMeasure, PatternMeasures, measure};

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

    /// The lengths the alteration is told besides the line's amount, in millimetres.
    pub(super) fn lengths(&self) -> impl Iterator<Item = (&str, f64)> {
        let others = self.amounts.0.iter().filter(|(code, _)| code.as_str() != self.param);
        others.filter_map(|(code, setting)| match setting {
            Setting::Number(mm) => Some((code.as_str(), *mm)),
            Setting::Way(_) => None,
        })
    }

    /// What the alteration is told for a line of so many millimetres.
    fn amounts(&self, mm: f64) -> Amounts {
        self.amounts.clone().with(self.param, self.sign * mm)
    }
}

/// What the lines of a plan are worked on, so that each is seen after the ones before it.
pub(super) enum Ground {
    /// A card: figures, and nothing drawn.
    Card,
    /// The pattern as the lines so far leave it.
    Drawn(Pattern),
    /// The figures alone, as the lines so far leave them: what each does to them is known.
    Figures(Linear),
}

impl Ground {
    /// Shoulder tip to shoulder tip in front, in millimetres, where something is drawn.
    pub(super) fn shoulder_width(&self) -> Option<f64> {
        match self {
            Self::Card => None,
            Self::Drawn(pattern) => Some(2.0 * pattern.front()?.tip().x),
            Self::Figures(linear) => linear.shoulder_width(),
        }
    }
}

/// A line that was done on the pattern, and what it was done to.
pub(super) struct Done {
    /// The line's key.
    pub(super) key: String,
    /// The amount it was done with, in millimetres.
    pub(super) mm: f64,
    /// The figure its amount was found for, where it was brought to its target.
    pub(super) brings: Option<PatternMeasure>,
    /// The pattern before it, and the figures of the one after it.
    pub(super) before: Pattern,
    pub(super) after: PatternMeasures,
    known: &'static dyn Alteration,
    means: Means,
}

impl Done {
    /// The figures if it had been done with another amount; `None` where that cannot be done.
    pub(super) fn with(&self, mm: f64, style: Style) -> Option<PatternMeasures> {
        self.done_with(&self.means.amounts(mm), style)
    }

    /// The figures if it had been told another length besides its amount.
    pub(super) fn told(&self, code: &str, mm: f64, style: Style) -> Option<PatternMeasures> {
        self.done_with(&self.means.amounts(self.mm).with(code, mm), style)
    }

    fn done_with(&self, amounts: &Amounts, style: Style) -> Option<PatternMeasures> {
        let altered = apply(self.known, &self.before, amounts, None, style).ok()?;
        Some(measure(&altered.pattern))
    }

    /// The lengths it is told besides its amount, in millimetres.
    pub(super) fn lengths(&self) -> impl Iterator<Item = (&str, f64)> {
        self.means.lengths()
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
        if let Ground::Figures(_) = self.ground {
            return self.carry_out_on_figures(line, &means);
        }
        // Without geometry, or on a block the alteration is not built for, the line stays on the worksheet.
        let known = alteration(means.code);
        let fits = |pattern: &&Pattern| known.is_some_and(|known| suits(known, pattern));
        let drawn = match &self.ground {
            Ground::Drawn(pattern) => Some(pattern),
            Ground::Card | Ground::Figures(_) => None,
        };
        let Some((known, pattern)) = known.zip(drawn.filter(fits).cloned()) else {
            line.by_hand = Some(match (known, drawn) {
                (Some(known), Some(_)) => {
                    format!("Not on this block: {}. Do it on the paper.", known.wants())
                }
                _ => "A card has no geometry: do it on the paper, from the worksheet.".to_owned(),
            });
            self.lines.push(line);
            return false;
        };
        line.alteration = Some(means.code.to_owned());
        line.amounts = means.amounts(line.amount.mm);
        if !line.done {
            self.lines.push(line);
            return false;
        }
        let mut outcome = apply(known, &pattern, &line.amounts, None, self.style);
        let mut brings = None;
        if let (Some(figure), Ok(altered), None) = (figure, &outcome, &line.planned) {
            let missed = self.missed(figure, &pattern, &altered.pattern);
            if let Some(factor) = missed {
                let mm = line.amount.mm * factor;
                let again = apply(known, &pattern, &means.amounts(mm), None, self.style);
                if again.is_ok() {
                    (line.amount, line.amounts) = (self.style.part(mm, line.parts), means.amounts(mm));
                    (outcome, brings) = (again, Some(figure));
                }
            }
        }
        let is_done = outcome.is_ok();
        match outcome {
            Ok(altered) => {
                let after = measure(&altered.pattern);
                self.comparison = compare_fitted(self.body, &after, self.settled, self.ease, self.style);
                self.ground = Ground::Drawn(altered.pattern);
                self.addressed.extend(figure);
                let (key, mm) = (line.key.clone(), line.amount.mm);
                self.done.push(Done { key, mm, brings, before: pattern, after, known, means });
            }
            Err(error) => line.refused = Some(error.to_string()),
        }
        self.lines.push(line);
        is_done
    }

    /// Does a line on the figures alone: one that could not be done on the pattern does nothing here.
    fn carry_out_on_figures(&mut self, mut line: PlanLine, means: &Means) -> bool {
        let Ground::Figures(linear) = &mut self.ground else { return false };
        let brought = linear.brings(&line.key).filter(|_| line.planned.is_none());
        let target =
            brought.and_then(|figure| Some((figure, self.comparison.row(figure)?.target.as_ref()?.mm)));
        if let Some(mm) = target.and_then(|(figure, target)| linear.amount_to(&line.key, figure, target)) {
            line.amount = self.style.part(mm, line.parts);
        }
        let is_done = line.done && linear.does(&line.key, line.amount.mm, means);
        if is_done {
            self.comparison =
                compare_fitted(self.body, linear.figures(), self.settled, self.ease, self.style);
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
