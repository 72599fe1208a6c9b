//! A fitting to practise on: a figure, a pattern that does not fit her, and what a fitter would see of it.
//!
//! A block is drafted for a figure of a size table. The figure is then taken to be another by so much of a hidden cause: what
//! the cause's alteration would change on the block is what she is off by. Readings and level lines are that difference,
//! measured; what is seen are the cause's own signs.

use serde::{Deserialize, Serialize};

use super::chance::Chance;
use super::drawing::PracticeFigure;
use super::hidden::{Behind, Cut, Differs, Hidden, cuts, figure, hide, practised_causes};
use super::judge::right_within;
use super::readings::{Card, PracticeReading, card, levels};
use super::sights::{Choice, choices, follows, said, sights};
use crate::Style;
use crate::alter::{MeasuredOn, alteration};
use crate::fitting::{Cause, Evidence, cause, weigh};
use crate::pattern::PatternMeasure;

/// How hard an exercise is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Difficulty {
    /// Plain signs, every level line, readings that can be believed.
    Easy,
    /// Fewer signs; a reading may be wrong.
    Middle,
    /// A sign next door, a reading that is wrong, or two causes at once.
    Hard,
}

impl Difficulty {
    /// All of them, the easiest first.
    pub const ALL: [Self; 3] = [Self::Easy, Self::Middle, Self::Hard];

    /// The word for it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Easy => "easy",
            Self::Middle => "middle",
            Self::Hard => "hard",
        }
    }
}

/// What a learner is shown of a fitting; nothing of what is behind it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeFitting {
    /// Its number: the same number makes the same exercise.
    pub seed: u64,
    /// How hard it is.
    pub difficulty: Difficulty,
    /// What she has on, in words.
    pub worn: String,
    /// The figure, with what is seen on it.
    pub figure: PracticeFigure,
    /// What is seen, in words, once the learner has named the first of it.
    pub seen: Vec<String>,
    /// Her figures beside the pattern's; one of them may have been read wrong.
    pub readings: Vec<PracticeReading>,
    /// What it could be that is marked with an A.
    pub sights: Vec<String>,
    /// What could be tried on the toile.
    pub tests: Vec<String>,
    /// What it could come from.
    pub causes: Vec<String>,
    /// The amount's name and what it is measured on; none where nothing tells it.
    pub amount: Option<String>,
    /// What could have to follow.
    pub follows: Vec<String>,
}

/// An exercise, with what is behind it.
pub struct Exercise {
    /// What the learner is shown.
    pub shown: PracticeFitting,
    /// All that a second opinion would be given: what is shown, as evidence.
    pub evidence: Evidence,
    pub(super) hidden: Vec<Hidden>,
    /// The reading that was read wrong.
    pub(super) misread: Option<PatternMeasure>,
    pub(super) sights: Vec<Choice>,
    pub(super) asked: Vec<&'static Cause>,
    pub(super) follows: Vec<Choice>,
}

impl Exercise {
    /// Codes of the causes that are behind it, the first one asked for.
    pub fn causes(&self) -> Vec<&'static str> {
        self.hidden.iter().map(|hidden| hidden.cause.code.as_str()).collect()
    }
}

/// What a difficulty asks.
pub(super) struct Rules {
    /// The least and the most of a cause, as shares of its usual amount.
    pub(super) amount: (f64, f64),
    /// One in so many of the figures that are off was measured.
    pub(super) off_one_in: usize,
    /// So many figures that fit were measured besides.
    pub(super) fitting: usize,
    /// So many times in a hundred one of them was read wrong.
    pub(super) misread: f64,
    /// So many times in a hundred a level line was measured.
    pub(super) levels: f64,
    /// At most so many sure signs, and so many that are often seen with it.
    pub(super) signs: (usize, usize),
    /// So many times in a hundred the last sign is taken for one next door.
    pub(super) next_door: f64,
    /// So many times in a hundred there is a second cause.
    pub(super) second: f64,
}

impl Difficulty {
    pub(super) const fn rules(self) -> Rules {
        match self {
            Self::Easy => Rules {
                amount: (1.0, 1.6),
                off_one_in: 1,
                fitting: 3,
                misread: 0.0,
                levels: 100.0,
                signs: (2, 2),
                next_door: 0.0,
                second: 0.0,
            },
            Self::Middle => Rules {
                amount: (0.8, 1.4),
                off_one_in: 2,
                fitting: 4,
                misread: 30.0,
                levels: 60.0,
                signs: (2, 1),
                next_door: 0.0,
                second: 0.0,
            },
            Self::Hard => Rules {
                amount: (0.7, 1.2),
                off_one_in: 3,
                fitting: 4,
                misread: 50.0,
                levels: 30.0,
                signs: (1, 1),
                next_door: 40.0,
                second: 30.0,
            },
        }
    }
}

/// So many figures are tried before a cause is given up: on almost every one of them it can be shown.
const FIGURES: usize = 20;

/// The exercise of a number. `None` where the cause of that number can be shown on none of many figures.
pub fn exercise(seed: u64, difficulty: Difficulty, style: Style) -> Option<Exercise> {
    let mut chance = Chance::new(seed.wrapping_mul(3).wrapping_add(difficulty as u64));
    let rules = difficulty.rules();
    let all = practised_causes();
    let first = all[(seed % all.len() as u64) as usize];
    let (body, cut, behind) = (0..FIGURES).find_map(|_| {
        let body = figure(&mut chance)?;
        let on = |cut: Cut| {
            let behind = hide(first, &cut, rules.amount, &mut chance)?;
            Some((cut, behind))
        };
        let (cut, behind) = cuts(&body).into_iter().find_map(on)?;
        Some((body, cut, behind))
    })?;
    let second = chance.percent(rules.second).then(|| beside(first, &cut, all, &mut chance)).flatten();
    let behind: Vec<Behind> = std::iter::once(behind).chain(second).collect();
    let differs = behind.iter().fold(Differs::default(), |all, each| all.and(&each.differs));
    let Card { readings, figures, misread } =
        card(&body, &cut.pattern, &differs, &rules, &mut chance, style)?;
    let level = if chance.percent(rules.levels) { levels(cut.garment, &differs) } else { Vec::new() };
    let seen = sights(&behind, cut.garment, &rules, &mut chance);
    let follows = follows(&differs);
    let asked = candidates(first, &cut, all, &mut chance);
    let choices = choices(seen.first()?, &mut chance);
    let evidence =
        Evidence { seen, figures, level, garment: cut.garment, worn: cut.worn, ..Evidence::default() };
    let hidden: Vec<Hidden> = behind.into_iter().map(|each| each.hidden).collect();
    let amount = || {
        let (code, _) = first.corrected_by(cut.garment)?;
        let on = first.measured_on(cut.garment).map_or("", MeasuredOn::words);
        Some(format!("{} {on}", alteration(code)?.name()).trim().to_owned())
    };
    let shown = PracticeFitting {
        seed,
        difficulty,
        worn: cut.says.to_owned(),
        figure: PracticeFigure::of(&body, &evidence.seen, &evidence.level, style),
        seen: evidence.seen.iter().map(|seen| said(seen, style)).collect(),
        readings,
        sights: choices.iter().map(|choice| choice.says.clone()).collect(),
        tests: asked.iter().map(|cause| cause.test.clone()).collect(),
        causes: asked.iter().map(|cause| cause.title.clone()).collect(),
        amount: if is_told(&evidence, &hidden[0], style) { amount() } else { None },
        follows: follows.iter().map(|choice| choice.says.clone()).collect(),
    };
    Some(Exercise { shown, evidence, hidden, misread, sights: choices, asked, follows })
}

/// Whether what is shown tells the amount: it can be read from it as the rules say, near enough to be right.
fn is_told(evidence: &Evidence, hidden: &Hidden, style: Style) -> bool {
    let offered = weigh(evidence, style).offered;
    let own = offered.iter().find(|offered| offered.cause == hidden.cause.code);
    let offer = own.and_then(|offered| offered.answer.offer()).filter(|offer| !offer.is_guess);
    offer.is_some_and(|offer| (offer.amount.mm - hidden.mm).abs() <= right_within(hidden.mm))
}

/// A second cause on the same toile: none that is taken for the first, or undoes it.
fn beside(first: &'static Cause, cut: &Cut, all: &[&'static Cause], chance: &mut Chance) -> Option<Behind> {
    let mut others: Vec<&'static Cause> = all
        .iter()
        .copied()
        .filter(|other| {
            other.code != first.code
                && !first.is_neighbour_of(other)
                && !first.is_opposite_of(other)
                && other.corrected_by(cut.garment).is_some()
        })
        .collect();
    chance.shuffle(&mut others);
    let amount = Difficulty::Middle.rules().amount;
    others.into_iter().take(6).find_map(|other| hide(other, cut, amount, chance))
}

/// Causes to choose from: the first one, those it is taken for, and others of such a garment.
fn candidates(
    first: &'static Cause,
    cut: &Cut,
    all: &[&'static Cause],
    chance: &mut Chance,
) -> Vec<&'static Cause> {
    const MANY: usize = 5;
    let is_of = |other: &&'static Cause| {
        other.code != first.code && other.corrected_by(cut.garment).is_some() && other.goes_with(&cut.worn)
    };
    let mut near: Vec<&'static Cause> =
        first.tells_from.iter().chain(&first.mistaken).filter_map(|code| cause(code)).filter(is_of).collect();
    chance.shuffle(&mut near);
    let mut rest: Vec<&'static Cause> = all.iter().copied().filter(is_of).collect();
    chance.shuffle(&mut rest);
    let mut found = vec![first];
    for other in near.into_iter().take(3).chain(rest) {
        if found.len() < MANY && !found.iter().any(|known| known.code == other.code) {
            found.push(other);
        }
    }
    chance.shuffle(&mut found);
    found
}
