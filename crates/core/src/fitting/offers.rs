//! What is offered for a cause: the alteration with its amount, where the amount comes from, and whether it can be done.

use serde::{Deserialize, Serialize};

use super::causes::{AmountFrom, Remedy};
use super::{Evidence, LevelOff, Lie, Suggestion};
use crate::alter::{Amounts, Decided, Recipe, Setting, alteration, make, said};
use crate::pattern::{Pattern, WornSide};
use crate::{Shown, Style};

/// An alteration that is offered for a cause.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CauseOffer {
    /// Code of the alteration.
    pub alteration: String,
    /// Its name.
    pub alteration_name: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// The amount in each way of saying it.
    pub amount: Shown,
    /// What the amount is measured on.
    pub on: String,
    /// Where the amount comes from.
    pub amount_from: String,
    /// Nobody measured it: it is a guess.
    pub is_guess: bool,
    /// Why it cannot be done on the pattern that was fitted, with the limit and the way out; none where it can, or before it
    /// was tried there.
    pub cannot: Option<String>,
}

/// What is done about a cause.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case", tag = "what")]
pub enum CauseAnswer {
    /// The pattern is altered.
    Alter(CauseOffer),
    /// Nothing is altered.
    Leave {
        /// Why.
        reason: String,
    },
}

impl CauseAnswer {
    /// The alteration, where there is one.
    pub fn offer(&self) -> Option<&CauseOffer> {
        match self {
            Self::Alter(offer) => Some(offer),
            Self::Leave { .. } => None,
        }
    }
}

/// What an amount is read from: what was seen of the cause, by its place in the evidence, and on which side.
pub(super) struct ReadFrom<'a> {
    pub(super) evidence: &'a Evidence,
    pub(super) explains: &'a [usize],
    pub(super) side: Option<WornSide>,
}

impl CauseOffer {
    /// Offered for a cause, with the amount from the first source that is known and goes the way the cause goes.
    pub(super) fn of(remedy: &Remedy, from: &ReadFrom<'_>, style: Style) -> Self {
        let found = remedy.amount.iter().find_map(|source| {
            from.amount(source, remedy, style).filter(|(mm, _)| mm.abs() > 0.5 && mm * remedy.usual() > 0.0)
        });
        let is_guess = found.is_none();
        let (mm, amount_from) =
            found.unwrap_or_else(|| (remedy.usual(), "a guess: nothing was pinned or measured".to_owned()));
        let amounts = remedy.amounts(mm);
        let told = match amounts.0.get(&remedy.param) {
            Some(Setting::Number(mm)) => *mm,
            _ => mm,
        };
        // The words that stand for this very figure: a tuck is told as it is taken in, not as it stands up.
        let ways = said(remedy.measured_on(), told);
        let on = ways.iter().rfind(|(_, mm)| (mm - told).abs() < 1e-9).map_or("here", |(on, _)| *on);
        let on = from.side.map_or_else(|| on.to_owned(), |side| format!("{on}, on the {} only", side.name()));
        Self {
            alteration: remedy.alteration.clone(),
            alteration_name: alteration(&remedy.alteration).map_or("", |known| known.name()).to_owned(),
            amounts,
            amount: style.part(told, remedy.measured_on().parts()),
            on,
            amount_from,
            is_guess,
            cannot: None,
        }
    }
}

impl ReadFrom<'_> {
    fn seen(&self) -> impl Iterator<Item = &super::Observation> {
        self.explains.iter().map(|index| &self.evidence.seen[*index])
    }

    /// An amount in millimetres and the words for where it comes from.
    fn amount(&self, source: &AmountFrom, remedy: &Remedy, style: Style) -> Option<(f64, String)> {
        let pinned = |of: &dyn Fn(&super::Observation) -> Option<f64>, times: f64| {
            let deepest = self.seen().filter_map(|seen| Some((of(seen)?, seen)));
            let (mm, seen) = deepest.max_by(|a, b| a.0.total_cmp(&b.0))?;
            let depth = style.with_unit(seen.pinned?.depth);
            Some((mm * times, format!("{depth} pinned at {}", seen.place)))
        };
        match source {
            AmountFrom::Pins { times } => {
                let on = remedy.measured_on();
                pinned(&|seen| Some(seen.pinned?.amounts(seen.lie).measured_on(on)), *times)
            }
            AmountFrom::Wedge { times } => pinned(&|seen| Some(seen.pinned?.depth), *times),
            AmountFrom::Across { times } => {
                let across = |seen: &super::Observation| {
                    let pinned = seen.pinned.filter(|_| seen.lie == Some(Lie::Across))?;
                    Some(pinned.amounts(seen.lie).leaves)
                };
                pinned(&across, *times)
            }
            AmountFrom::HowFar { times } => {
                let far = self.seen().filter_map(|seen| Some((seen.how_far?, seen)));
                let (mm, seen) = far.max_by(|a, b| a.0.total_cmp(&b.0))?;
                Some((mm * times, format!("{} off at {}", style.with_unit(mm), seen.place)))
            }
            AmountFrom::Level { sign, times } => {
                let meant = self.evidence.level.iter().filter(|level| level.is_meant_by(sign, self.side));
                let worst = meant
                    .filter(|level| level.mm * times * remedy.usual() > 0.0)
                    .max_by(|a, b| a.mm.abs().total_cmp(&b.mm.abs()))?;
                Some((worst.mm * times, moves(worst, style)))
            }
            AmountFrom::PatternMeasure { figure, times } => {
                let off = self.evidence.figures.get(figure).filter(|off| off.mm.abs() > off.tolerance)?;
                Some((off.mm * times, format!("her {} against the pattern's", figure.name())))
            }
            AmountFrom::Usual { .. } => None,
        }
    }
}

/// `the waist line at the centre back rises 1/2 in`.
pub(super) fn moves(level: &LevelOff, style: Style) -> String {
    let way = if level.mm > 0.0 { "rises" } else { "sinks" };
    format!("the {} {way} {}", level.said(), style.with_unit(level.mm.abs()))
}

/// The pattern that was fitted, with all that is decided already, as offers are tried on it.
pub struct OffersTried<'a> {
    block: &'a Pattern,
    recipe: &'a Recipe,
    style: Style,
    /// Steps that cannot be done without any offer.
    refused: Vec<u32>,
    /// One cause is often offered for several observations, with the same amount.
    tried: Vec<(Decided, Option<String>)>,
}

impl<'a> OffersTried<'a> {
    /// Nothing tried yet.
    pub fn on(block: &'a Pattern, recipe: &'a Recipe, style: Style) -> Self {
        let refused = make(block, recipe, style).refused().map(|(step, _)| step.id).collect();
        Self { block, recipe, style, refused, tried: Vec::new() }
    }

    /// Says with each offer why it cannot be done there, where it cannot.
    pub fn try_all(&mut self, offered: &mut [Suggestion]) {
        for each in offered {
            let side = each.side;
            let first = match &mut each.answer {
                CauseAnswer::Alter(offer) => Some(offer),
                CauseAnswer::Leave { .. } => None,
            };
            for offer in first.into_iter().chain(&mut each.beside) {
                let decided = Decided::new(&offer.alteration, offer.amounts.clone(), "");
                offer.cannot = self.cannot(Decided { side, ..decided });
            }
        }
    }

    fn cannot(&mut self, decided: Decided) -> Option<String> {
        if let Some((_, cannot)) = self.tried.iter().find(|(other, _)| *other == decided) {
            return cannot.clone();
        }
        let mut with = self.recipe.clone();
        let taken = with.take(decided.clone());
        let made = make(self.block, &with, self.style);
        let broken =
            { made.refused() }.find(|(step, _)| step.id == taken.step || !self.refused.contains(&step.id));
        let cannot = broken.map(|(_, error)| error.to_string());
        self.tried.push((decided, cannot.clone()));
        cannot
    }
}
