//! Weighing causes: several observations together, with measurements, level lines and what earlier rounds taught.

use std::collections::HashMap;

use serde::{Deserialize, Serialize};

use super::causes::{AmountFrom, Cause, Stands, causes};
use super::{Mark, Observation, Station, Sureness};
use crate::alter::{Amounts, Decided, Recipe, Setting, alteration, make, said};
use crate::compare::{Comparison, DifferenceGrade};
use crate::pattern::{Garment, Pattern, PatternMeasure, WornSide};
use crate::{Shown, Style};

/// Never more causes than this.
const MOST: usize = 4;
/// What a sign counts (ours, set by what a fitter would say first; held to by the described fittings).
const SURE: f64 = 4.0;
const ALSO: f64 = 2.0;
const AGAINST: f64 = -3.0;
/// The same sign once more adds less.
const AGAIN: f64 = 0.35;
/// A doubtful observation.
const DOUBTFUL: f64 = 0.5;
/// A figure that stands as the cause would have it; that fits where it should not; that stands the other way.
const FIGURE_HOLDS: f64 = 2.5;
const FIGURE_FITS: f64 = -1.5;
const FIGURE_OPPOSES: f64 = -3.0;
/// A figure that should fit, and does; and does not.
const FITS_AS_IT_SHOULD: f64 = 1.0;
const SHOULD_FIT: f64 = -2.0;
/// A level line likewise.
const LEVEL_HOLDS: f64 = 3.0;
const LEVEL_FITS: f64 = -2.0;
const LEVEL_OPPOSES: f64 = -3.0;
/// A level line counts from this on, in millimetres: what a tape can tell.
const LEVEL_COUNTS: f64 = 3.2;
/// A cause it is mistaken for was tried in vain.
const MISTAKEN_TRIED: f64 = 2.0;
/// Less than this is not told.
const LEAST: f64 = 0.75;

/// How far a figure of the pattern is from her.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Off {
    /// Her figure and ease less the pattern's, in millimetres on the body.
    pub mm: f64,
    /// What still fits, in millimetres.
    pub tolerance: f64,
}

/// A cause that was taken up before, and what became of what it was for.
#[derive(Clone, Debug, PartialEq)]
pub struct Tried {
    /// Code of the cause.
    pub cause: String,
    /// What became of it.
    pub became: Mark,
}

/// All that is known when causes are weighed.
#[derive(Clone, Debug, Default)]
pub struct Evidence {
    /// What was seen.
    pub seen: Vec<Observation>,
    /// Her figures against the pattern that was on her.
    pub figures: HashMap<PatternMeasure, Off>,
    /// How far a level line stands above where it hangs free, in millimetres.
    pub level: HashMap<Station, f64>,
    /// Causes taken up in earlier rounds.
    pub tried: Vec<Tried>,
    /// What was on her: what corrects another garment is no cause of it.
    pub garment: Garment,
}

impl Evidence {
    /// The same, with the figures of a comparison that can be believed.
    #[must_use]
    pub fn with_comparison(mut self, comparison: &Comparison) -> Self {
        let believed = comparison
            .rows
            .iter()
            .filter(|row| matches!(row.grade, DifferenceGrade::Fits | DifferenceGrade::Alter));
        self.figures.extend(believed.filter_map(|row| {
            let mm = row.on_body.as_ref()?.mm;
            // Roomy armholes are a matter of style.
            let mm = if row.figure == PatternMeasure::Armhole { mm.max(0.0) } else { mm };
            Some((row.figure, Off { mm, tolerance: row.tolerance }))
        }));
        self
    }
}

/// A cause that is suggested.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suggestion {
    /// Code of the cause.
    pub cause: String,
    /// In neutral words.
    pub title: String,
    /// How what is seen follows from it.
    pub says: String,
    /// How to tell it from its neighbours.
    pub test: String,
    /// What it weighs.
    pub weight: f64,
    /// Which observations it explains, by their place in the evidence.
    pub explains: Vec<usize>,
    /// What speaks for it.
    pub speaks_for: Vec<String>,
    /// What speaks against it.
    pub speaks_against: Vec<String>,
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
    /// Done on one side only.
    pub side: Option<WornSide>,
    /// It is her posture or frame.
    pub lasting: bool,
    /// Why it cannot be done on the pattern that was fitted, with the limit and the way out; none where it can, or before it
    /// was tried there.
    pub cannot: Option<String>,
}

/// A cause that something seen is a sign of, and that is not offered all the same.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetAside {
    /// Code of the cause.
    pub cause: String,
    /// In neutral words.
    pub title: String,
    /// Why it is not offered.
    pub why: String,
}

/// What is offered for what was seen, and what was thought of and set aside: no cause comes and goes without a word.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Weighing {
    /// The causes offered, strongest first, at most four.
    pub offered: Vec<Suggestion>,
    /// The other causes there is a sign of, strongest first.
    pub set_aside: Vec<SetAside>,
}

/// The causes of all that was seen.
pub fn weigh(evidence: &Evidence, style: Style) -> Weighing {
    Weighing::of(evidence, style, |_| true)
}

/// The causes of one observation, with all the rest as evidence.
pub fn weigh_for(evidence: &Evidence, one: usize, style: Style) -> Weighing {
    Weighing::of(evidence, style, |weighed| weighed.explains.contains(&one))
}

impl Weighing {
    /// Where nothing speaks clearly, the strongest cause is offered with what speaks against it: a sign that fitters
    /// know is not answered with silence because a figure fits.
    fn of(evidence: &Evidence, style: Style, is_wanted: impl Fn(&Weighed<'_>) -> bool) -> Self {
        let of_garment = causes().iter().filter(|cause| cause.is_of(evidence.garment));
        let weighed = of_garment.filter_map(|cause| Weighed::of(cause, evidence, style));
        let mut weighed: Vec<_> = weighed.filter(is_wanted).collect();
        // Stable: of two that weigh the same the upper one is told first.
        weighed.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        let clear = weighed.iter().take_while(|w| w.weight >= LEAST).count();
        let rest = weighed.split_off(clear.clamp(weighed.len().min(1), MOST));
        Self {
            offered: weighed.into_iter().map(|w| w.suggestion(evidence, style)).collect(),
            set_aside: rest.into_iter().map(Weighed::set_aside).collect(),
        }
    }
}

/// The signs of `causes.toml` that an observation meets, as `cause: sign`; for testing that none is idle.
pub fn signs_met(seen: &Observation) -> Vec<String> {
    let met = |cause: &'static Cause| {
        let signs = cause.sure.iter().chain(&cause.also).chain(&cause.against);
        signs.filter(|sign| sign.matches(seen) > 0.0).map(|sign| format!("{}: {}", cause.code, sign.text))
    };
    causes().iter().flat_map(met).collect()
}

struct Weighed<'a> {
    cause: &'a Cause,
    weight: f64,
    explains: Vec<usize>,
    speaks_for: Vec<String>,
    speaks_against: Vec<String>,
}

impl<'a> Weighed<'a> {
    /// `None` where nothing that was seen is a sign of it: measurements alone are no fault of the toile.
    fn of(cause: &'a Cause, evidence: &Evidence, style: Style) -> Option<Self> {
        let mut w = Self {
            cause,
            weight: 0.0,
            explains: Vec::new(),
            speaks_for: Vec::new(),
            speaks_against: Vec::new(),
        };
        w.see(evidence);
        if w.explains.is_empty() {
            return None;
        }
        w.measure(evidence, style);
        w.level(evidence, style);
        w.remember(evidence);
        Some(w)
    }

    fn add(&mut self, weight: f64, says: String) {
        self.weight += weight;
        let told = if weight > 0.0 { &mut self.speaks_for } else { &mut self.speaks_against };
        if !told.contains(&says) {
            told.push(says);
        }
    }

    fn see(&mut self, evidence: &Evidence) {
        let cause = self.cause;
        let groups = [(&cause.sure, SURE), (&cause.also, ALSO), (&cause.against, AGAINST)];
        let signs: Vec<_> =
            groups.iter().flat_map(|(signs, each)| signs.iter().map(move |s| (s, *each))).collect();
        let mut met = vec![0_u32; signs.len()];
        for (index, seen) in evidence.seen.iter().enumerate() {
            let sureness = if seen.sureness == Sureness::Sure { 1.0 } else { DOUBTFUL };
            let found =
                signs.iter().enumerate().map(|(i, (sign, each))| (i, each * sign.matches(seen) * sureness));
            let found: Vec<_> = found.filter(|(_, weight)| *weight != 0.0).collect();
            let best = |of: &dyn Fn(f64) -> f64| {
                let found = found.iter().filter(|(_, weight)| of(*weight) > 0.0);
                found.max_by(|a, b| of(a.1).total_cmp(&of(b.1))).copied()
            };
            for best in [best(&|weight| weight), best(&|weight| -weight)].into_iter().flatten() {
                let (sign, weight) = best;
                let again = if met[sign] > 0 { AGAIN.powi(met[sign] as i32) } else { 1.0 };
                met[sign] += 1;
                self.add(weight * again, seen.said());
                if weight > 0.0 {
                    self.explains.push(index);
                }
            }
        }
    }

    fn measure(&mut self, evidence: &Evidence, style: Style) {
        for sign in &self.cause.figures {
            let Some(off) = evidence.figures.get(&sign.figure) else { continue };
            let name = sign.figure.name();
            let beyond = off.mm.abs() > off.tolerance;
            let stands = match (beyond, off.mm > 0.0) {
                (false, _) => Stands::Fits,
                (true, true) => Stands::More,
                (true, false) => Stands::Less,
            };
            let by = style.with_unit(off.mm.abs());
            let says = match stands {
                Stands::Fits => format!("By her readings the {name} fits"),
                Stands::More => format!("Measured, she has {by} more than the pattern: {name}"),
                Stands::Less => format!("Measured, she has {by} less than the pattern: {name}"),
            };
            let weight = match (sign.stands, stands) {
                (Stands::Fits, Stands::Fits) => FITS_AS_IT_SHOULD,
                (Stands::Fits, _) => SHOULD_FIT,
                (asked, found) if asked == found => FIGURE_HOLDS,
                (_, Stands::Fits) => FIGURE_FITS,
                _ => FIGURE_OPPOSES,
            };
            self.add(weight, says);
        }
    }

    fn level(&mut self, evidence: &Evidence, style: Style) {
        // A cause of one side asks for either of them: the one that speaks for it counts.
        let weights = self.cause.level.iter().filter_map(|sign| {
            let mm = *evidence.level.get(&sign.station)?;
            let by = style.with_unit(mm.abs());
            let at = sign.station.name();
            Some(match (mm.abs() > LEVEL_COUNTS, (mm > 0.0) == sign.rises) {
                (false, _) => (LEVEL_FITS, format!("The level line hangs level at the {at}")),
                (true, true) => (LEVEL_HOLDS, format!("The level line {} {by} at the {at}", moves(mm))),
                (true, false) => (LEVEL_OPPOSES, format!("The level line {} {by} at the {at}", moves(mm))),
            })
        });
        if let Some((weight, says)) = weights.max_by(|a, b| a.0.total_cmp(&b.0)) {
            self.add(weight, says);
        }
    }

    fn remember(&mut self, evidence: &Evidence) {
        for tried in &evidence.tried {
            let in_vain = matches!(tried.became, Mark::Same | Mark::Worse);
            if tried.cause == self.cause.code {
                let weight = match tried.became {
                    Mark::Gone => 0.0,
                    Mark::Better => 1.0,
                    Mark::Moved => -1.0,
                    Mark::Same => -3.0,
                    Mark::Worse => -4.0,
                };
                if weight != 0.0 {
                    self.add(weight, format!("Taken up before, and it became {}", tried.became.code()));
                }
            } else if in_vain && self.cause.mistaken.contains(&tried.cause) {
                let name = super::cause(&tried.cause).map_or("the neighbour", |cause| &cause.title);
                self.add(
                    MISTAKEN_TRIED,
                    format!("It is often mistaken for “{}”, which did not help", name.to_lowercase()),
                );
            }
        }
    }

    /// The amount, from the first source that is known and goes the way this cause goes.
    fn amount(&self, evidence: &Evidence, style: Style) -> (f64, String) {
        let usual = self.cause.amount.iter().find_map(|from| match from {
            AmountFrom::Usual { mm } => Some(*mm),
            _ => None,
        });
        let usual = usual.unwrap_or_default();
        let on = self.cause.measured_on();
        let found = self.cause.amount.iter().find_map(|from| {
            match *from {
                AmountFrom::Pins { times } => {
                    let pinned = self.explains.iter().filter_map(|index| {
                        let seen = &evidence.seen[*index];
                        Some((seen.pinned?.amounts(seen.lie).measured_on(on), seen))
                    });
                    let (mm, seen) = pinned.max_by(|a, b| a.0.total_cmp(&b.0))?;
                    let depth = style.with_unit(seen.pinned?.depth);
                    Some((mm * times, format!("{depth} pinned at {}", seen.place)))
                }
                AmountFrom::Level { station, times } => {
                    let mm = *evidence.level.get(&station)?;
                    let says = format!(
                        "the level line {} {} at the {}",
                        moves(mm),
                        style.with_unit(mm.abs()),
                        station.name()
                    );
                    Some((mm * times, says))
                }
                AmountFrom::PatternMeasure { figure, times } => {
                    let off = evidence.figures.get(&figure).filter(|off| off.mm.abs() > off.tolerance)?;
                    Some((off.mm * times, format!("her {} against the pattern's", figure.name())))
                }
                AmountFrom::Usual { .. } => None,
            }
            .filter(|(mm, _)| mm.abs() > 0.5 && (mm * usual) > 0.0)
        });
        found.unwrap_or((usual, "usual; nothing was pinned or measured".to_owned()))
    }

    /// The side, where everything it explains is on the same one.
    fn side(&self, evidence: &Evidence) -> Option<WornSide> {
        let mut sides = self.explains.iter().map(|index| evidence.seen[*index].one_side());
        let first = sides.next()??;
        sides.all(|side| side == Some(first)).then_some(first)
    }

    fn set_aside(self) -> SetAside {
        let why = if self.speaks_against.is_empty() {
            "the causes offered weigh more".to_owned()
        } else {
            self.speaks_against.join("; ")
        };
        SetAside { cause: self.cause.code.clone(), title: self.cause.title.clone(), why }
    }

    fn suggestion(self, evidence: &Evidence, style: Style) -> Suggestion {
        let (mm, amount_from) = self.amount(evidence, style);
        let amounts = self.cause.amounts(mm);
        let told = match amounts.0.get(&self.cause.param) {
            Some(Setting::Number(mm)) => *mm,
            _ => mm,
        };
        let known = alteration(&self.cause.alteration);
        // The words that stand for this very figure: a tuck is told as it is taken in, not as it stands up.
        let ways = said(self.cause.measured_on(), told);
        let on = ways.iter().rfind(|(_, mm)| (mm - told).abs() < 1e-9).map_or("here", |(on, _)| *on);
        let side = self.side(evidence);
        let on = side.map_or_else(|| on.to_owned(), |side| format!("{on}, on the {} only", side.name()));
        Suggestion {
            cause: self.cause.code.clone(),
            title: self.cause.title.clone(),
            says: self.cause.says.clone(),
            test: self.cause.test.clone(),
            weight: self.weight,
            side,
            explains: self.explains,
            speaks_for: self.speaks_for,
            speaks_against: self.speaks_against,
            alteration: self.cause.alteration.clone(),
            alteration_name: known.map_or("", |known| known.name()).to_owned(),
            amounts,
            amount: style.part(told, self.cause.measured_on().parts()),
            on,
            amount_from,
            lasting: self.cause.lasting,
            cannot: None,
        }
    }
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
            let decided = Decided::new(&each.alteration, each.amounts.clone(), "");
            each.cannot = self.cannot(Decided { side: each.side, ..decided });
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

const fn moves(mm: f64) -> &'static str {
    if mm > 0.0 { "rises" } else { "sinks" }
}
