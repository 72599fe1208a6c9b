//! What a learner answered, held against what is behind the exercise: step by step, then the truth and why.

use serde::{Deserialize, Serialize};

use super::exercise::Exercise;
use super::sights::{Choice, said};
use crate::Style;
use crate::fitting::{Suggestion, weigh};

/// An amount this near is right, as a share of it, or in millimetres where that is more (common practice, no source).
const RIGHT_SHARE: f64 = 0.25;
const RIGHT_MM: f64 = 3.0;

/// What a learner answers; a step that is not answered yet is left out. Choices by their place in the list shown.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct PracticeAnswers {
    /// What is marked A.
    pub sight: Option<usize>,
    /// What she would test.
    pub test: Option<usize>,
    /// Which cause.
    pub cause: Option<usize>,
    /// How much, in millimetres.
    pub amount: Option<f64>,
    /// What must follow.
    pub follows: Option<Vec<usize>>,
}

/// How an answer is.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PracticeGrade {
    /// As it is.
    Right,
    /// What fitters take it for.
    Near,
    /// Something else.
    Wrong,
}

/// What kind of mistake was made.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Mistake {
    /// Something else was seen than is there.
    Sight,
    /// A test that does not tell the cause.
    Test,
    /// Another cause.
    Cause,
    /// The amount, the other way.
    Way,
    /// The amount, too much or too little.
    Amount,
    /// What follows was forgotten, or what does not follow was named.
    Follows,
    /// The tape was read wrong.
    TapeReading,
    /// A tape in the wrong place was not found.
    TapePlace,
    /// A slip of the unit was not found.
    UnitSlip,
}

impl Mistake {
    /// Every kind.
    pub const ALL: [Self; 9] = [
        Self::Sight,
        Self::Test,
        Self::Cause,
        Self::Way,
        Self::Amount,
        Self::Follows,
        Self::TapeReading,
        Self::TapePlace,
        Self::UnitSlip,
    ];

    /// In words.
    pub const fn says(self) -> &'static str {
        match self {
            Self::Sight => "what is seen was called something else",
            Self::Test => "the test did not tell the cause",
            Self::Cause => "another cause was named",
            Self::Way => "the amount went the other way",
            Self::Amount => "the amount was too much or too little",
            Self::Follows => "what follows was forgotten or too much was named",
            Self::TapeReading => "the tape was read wrong",
            Self::TapePlace => "the tape in the wrong place was not found",
            Self::UnitSlip => "the slip of the unit was not found",
        }
    }
}

/// One step, judged.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepVerdict {
    /// How the answer is.
    pub grade: PracticeGrade,
    /// What is so.
    pub says: String,
}

/// What is behind an exercise, told when every step is answered.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeTruth {
    /// The hidden causes, in words, with their amounts.
    pub causes: Vec<String>,
    /// How what is seen follows from the first.
    pub why: String,
    /// How it is told from its neighbours.
    pub test: String,
    /// What speaks for it here.
    pub speaks_for: Vec<String>,
    /// What speaks against what was chosen instead.
    pub against_yours: Vec<String>,
    /// The reading that was read wrong.
    pub misread: Option<String>,
}

/// All that is said to a learner so far.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeVerdict {
    /// What is marked A.
    pub sight: Option<StepVerdict>,
    /// What she would test, and what happens.
    pub test: Option<StepVerdict>,
    /// Which cause.
    pub cause: Option<StepVerdict>,
    /// How much.
    pub amount: Option<StepVerdict>,
    /// What must follow.
    pub follows: Option<StepVerdict>,
    /// Every step is answered: what is behind it.
    pub truth: Option<PracticeTruth>,
    /// The kinds of mistakes that were made.
    pub mistakes: Vec<Mistake>,
    /// Steps that are right, near counting half, of all of them: 0 to 1.
    pub score: f64,
}

/// How far an answer may be from an amount and still be right, in millimetres. Of a small amount nothing that goes the other
/// way is.
pub(super) fn right_within(mm: f64) -> f64 {
    (RIGHT_SHARE * mm.abs()).max(RIGHT_MM.min(mm.abs() / 2.0))
}

fn of_choice(choices: &[Choice], chosen: usize) -> Option<StepVerdict> {
    let (chosen, right) = (choices.get(chosen)?, choices.iter().find(|choice| choice.is_right)?);
    let grade = match chosen {
        _ if chosen.is_right => PracticeGrade::Right,
        _ if chosen.is_near => PracticeGrade::Near,
        _ => PracticeGrade::Wrong,
    };
    Some(StepVerdict { grade, says: format!("It is: {}.", right.says) })
}

/// Judges the answers so far. An answer that is in no list is taken for none.
pub fn judge(exercise: &Exercise, answers: &PracticeAnswers, style: Style) -> PracticeVerdict {
    let first = &exercise.hidden[0];
    let is_hidden = |code: &str| exercise.hidden.iter().any(|hidden| hidden.cause.code == code);
    let sight = answers.sight.and_then(|chosen| of_choice(&exercise.sights, chosen));
    let test = answers.test.and_then(|chosen| {
        let tried = exercise.asked.get(chosen)?;
        let (grade, happens) = if is_hidden(&tried.code) {
            (PracticeGrade::Right, "It happens as it says.")
        } else if tried.tells_from.contains(&first.cause.code) {
            (PracticeGrade::Near, "It does not happen: that tells one neighbour away.")
        } else {
            (PracticeGrade::Wrong, "Nothing of it happens.")
        };
        Some(StepVerdict { grade, says: happens.to_owned() })
    });
    let cause = answers.cause.and_then(|chosen| {
        let named = exercise.asked.get(chosen)?;
        let grade = if is_hidden(&named.code) {
            PracticeGrade::Right
        } else if named.is_neighbour_of(first.cause) {
            PracticeGrade::Near
        } else {
            PracticeGrade::Wrong
        };
        Some(StepVerdict { grade, says: format!("It is: {}.", first.cause.title.to_lowercase()) })
    });
    let within = right_within(first.mm);
    let amount = answers.amount.map(|mm| {
        let grade = match (mm - first.mm).abs() {
            off if off <= within => PracticeGrade::Right,
            off if off <= 2.0 * within && mm * first.mm > 0.0 => PracticeGrade::Near,
            _ => PracticeGrade::Wrong,
        };
        StepVerdict { grade, says: format!("It is {}.", style.with_unit(first.mm)) }
    });
    let follows = answers.follows.as_ref().map(|named| {
        let off = { exercise.follows.iter().enumerate() }
            .filter(|(at, choice)| choice.is_right != named.contains(at))
            .count();
        let right: Vec<String> = exercise
            .follows
            .iter()
            .filter(|choice| choice.is_right)
            .map(|choice| choice.says.to_lowercase())
            .collect();
        let grade = match off {
            0 => PracticeGrade::Right,
            1 => PracticeGrade::Near,
            _ => PracticeGrade::Wrong,
        };
        let says =
            if right.is_empty() { "Nothing else.".to_owned() } else { format!("{}.", right.join("; ")) };
        StepVerdict { grade, says }
    });
    let wants_amount = exercise.shown.amount.is_some();
    let steps = [Some(&sight), Some(&test), Some(&cause), wants_amount.then_some(&amount), Some(&follows)];
    let asked: Vec<&Option<StepVerdict>> = steps.into_iter().flatten().collect();
    let points = |step: &&Option<StepVerdict>| match step.as_ref().map(|step| step.grade) {
        Some(PracticeGrade::Right) => 1.0,
        Some(PracticeGrade::Near) => 0.5,
        Some(PracticeGrade::Wrong) | None => 0.0,
    };
    let score = asked.iter().map(points).sum::<f64>() / asked.len() as f64;
    let is_done = asked.iter().all(|step| step.is_some());
    let wrong =
        |step: &Option<StepVerdict>| step.as_ref().is_some_and(|step| step.grade != PracticeGrade::Right);
    let other_way = answers.amount.is_some_and(|mm| mm * first.mm < 0.0);
    let mistakes = [
        (Mistake::Sight, wrong(&sight)),
        (Mistake::Test, wrong(&test)),
        (Mistake::Cause, wrong(&cause)),
        (Mistake::Way, wrong(&amount) && other_way),
        (Mistake::Amount, wrong(&amount) && !other_way),
        (Mistake::Follows, wrong(&follows)),
    ];
    let mistakes = mistakes.into_iter().filter_map(|(kind, made)| made.then_some(kind)).collect();
    let truth = is_done.then(|| truth(exercise, answers, style));
    PracticeVerdict { sight, test, cause, amount, follows, truth, mistakes, score }
}

fn truth(exercise: &Exercise, answers: &PracticeAnswers, style: Style) -> PracticeTruth {
    let first = &exercise.hidden[0];
    let offered = weigh(&exercise.evidence, style).offered;
    let of = |code: &str| offered.iter().find(|suggestion: &&Suggestion| suggestion.cause == code);
    let yours = answers.cause.and_then(|chosen| exercise.asked.get(chosen));
    let yours = yours.filter(|cause| cause.code != first.cause.code);
    let against = yours.map(|yours| match of(&yours.code) {
        Some(told) if !told.speaks_against.is_empty() => told.speaks_against.clone(),
        Some(_) => vec![format!("{} explains less of what is seen.", yours.title)],
        None => vec![format!("Nothing that is seen or measured speaks for: {}.", yours.title.to_lowercase())],
    });
    let misread = exercise.misread.and_then(|figure| {
        let row = exercise.shown.readings.iter().find(|row| row.figure == figure)?;
        Some(format!("{} was read wrong: it fits.", row.name))
    });
    PracticeTruth {
        causes: { exercise.hidden.iter() }
            .map(|hidden| format!("{}: {}", hidden.cause.title, style.with_unit(hidden.mm)))
            .collect(),
        why: first.cause.says.clone(),
        test: first.cause.test.clone(),
        speaks_for: of(&first.cause.code).map_or_else(
            || exercise.evidence.seen.iter().map(|seen| said(seen, style)).collect(),
            |told| told.speaks_for.clone(),
        ),
        against_yours: against.unwrap_or_default(),
        misread,
    }
}
