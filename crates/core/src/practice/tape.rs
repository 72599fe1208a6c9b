//! Reading a tape: a mark to read, a tape that lies in the wrong place, a figure in the wrong unit.

use serde::{Deserialize, Serialize};

use super::chance::Chance;
use super::hidden::figure;
use super::judge::{PracticeGrade, StepVerdict};
use super::{Difficulty, Mistake};
use crate::body::{Body, BodyDrawing, Tape, Tapeline, View, catalogue, draw_body, draw_tape, measurement};
use crate::{INCH, Length, Style, Unit};

/// What is practised with a tape.
#[derive(Clone, Copy, Debug, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum TapeKind {
    /// A mark to read.
    Reading,
    /// One of several tapes lies in the wrong place.
    Place,
    /// One of several figures was written down in the other unit.
    UnitSlip,
}

impl TapeKind {
    /// All of them.
    pub const ALL: [Self; 3] = [Self::Reading, Self::Place, Self::UnitSlip];

    /// What it is kept as.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Reading => "tape_reading",
            Self::Place => "tape_place",
            Self::UnitSlip => "unit_slip",
        }
    }

    /// In words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Reading => "Reading the tape",
            Self::Place => "A tape in the wrong place",
            Self::UnitSlip => "A slip of the unit",
        }
    }

    const fn mistake(self) -> Mistake {
        match self {
            Self::Reading => Mistake::TapeReading,
            Self::Place => Mistake::TapePlace,
            Self::UnitSlip => Mistake::UnitSlip,
        }
    }
}

/// A mark of a drawn tape.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrawnMark {
    /// Where, in millimetres from the left edge of the picture.
    pub x: f64,
    /// How long it is: 1 the longest.
    pub long: f64,
    /// The number at it.
    pub number: Option<String>,
}

/// A piece of a tape, drawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrawnTape {
    /// How much of it is seen, in millimetres.
    pub width: f64,
    /// Its marks.
    pub marks: Vec<DrawnMark>,
    /// Where it is to be read, in millimetres from the left edge.
    pub at: f64,
}

/// A tape on a figure, by its number.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlacedTape {
    /// What is measured with it.
    pub name: String,
    /// Where it lies.
    pub line: Tapeline,
}

/// A figure that was written down.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WrittenFigure {
    /// What was measured.
    pub name: String,
    /// What was written.
    pub written: String,
}

/// A tape exercise as it is shown; nothing of what is behind it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TapeExercise {
    /// Its number: the same number makes the same exercise.
    pub seed: u64,
    /// What it is of.
    pub kind: TapeKind,
    /// What is asked.
    pub asks: String,
    /// The tape to read.
    pub tape: Option<DrawnTape>,
    /// The figure that tapes lie on.
    pub figure: Option<BodyDrawing>,
    /// The tapes on it.
    pub placed: Vec<PlacedTape>,
    /// The column of figures.
    pub column: Vec<WrittenFigure>,
}

/// What a learner answers.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum TapeAnswer {
    /// What the tape says, in millimetres.
    Reads(f64),
    /// Which one it is, by its place in the list.
    Which(usize),
}

/// How an answer is, and what is so.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TapeVerdict {
    /// The step.
    pub verdict: StepVerdict,
    /// The kinds of mistakes that were made.
    pub mistakes: Vec<Mistake>,
    /// 1 where it is right, a half where it is near.
    pub score: f64,
}

/// What is behind a tape exercise.
enum Truth {
    Reads(f64),
    Which { at: usize, says: String },
}

/// The exercise of a number.
pub fn tape_exercise(
    seed: u64,
    kind: TapeKind,
    difficulty: Difficulty,
    style: Style,
) -> Option<TapeExercise> {
    Some(made(seed, kind, difficulty, style)?.0)
}

/// Judges an answer.
pub fn judge_tape(
    seed: u64,
    kind: TapeKind,
    difficulty: Difficulty,
    answer: TapeAnswer,
    style: Style,
) -> Option<TapeVerdict> {
    let (_, truth) = made(seed, kind, difficulty, style)?;
    let (grade, says) = match (&truth, answer) {
        (Truth::Reads(mm), TapeAnswer::Reads(read)) => {
            let marks = ((read - mm).abs() / style.step().mm()).round();
            let grade = match marks {
                0.0 => PracticeGrade::Right,
                1.0 => PracticeGrade::Near,
                _ => PracticeGrade::Wrong,
            };
            (grade, format!("It reads {}.", style.with_unit(*mm)))
        }
        (Truth::Which { at, says }, TapeAnswer::Which(chosen)) => {
            (if chosen == *at { PracticeGrade::Right } else { PracticeGrade::Wrong }, says.clone())
        }
        _ => return None,
    };
    let score = match grade {
        PracticeGrade::Right => 1.0,
        PracticeGrade::Near => 0.5,
        PracticeGrade::Wrong => 0.0,
    };
    let mistakes = if grade == PracticeGrade::Right { Vec::new() } else { vec![kind.mistake()] };
    Some(TapeVerdict { verdict: StepVerdict { grade, says }, mistakes, score })
}

fn made(seed: u64, kind: TapeKind, difficulty: Difficulty, style: Style) -> Option<(TapeExercise, Truth)> {
    let mut chance = Chance::new(seed.wrapping_mul(9).wrapping_add(3 * kind as u64 + difficulty as u64));
    let body = figure(&mut chance)?;
    let plain = |asks: String| TapeExercise {
        seed,
        kind,
        asks,
        tape: None,
        figure: None,
        placed: Vec::new(),
        column: Vec::new(),
    };
    match kind {
        TapeKind::Reading => {
            let mm = mark_to_read(&body, difficulty, style, &mut chance);
            let asks = format!("What does the tape say at the pin, in {}?", style.unit().plural());
            Some((
                TapeExercise { tape: Some(drawn(mm, style, &mut chance)), ..plain(asks) },
                Truth::Reads(mm),
            ))
        }
        TapeKind::Place => {
            let (placed, truth) = placed(&body, difficulty, &mut chance)?;
            let figure = Some(draw_body(View::Front, &body));
            let asks = "One of these tapes does not lie where it should. Which?".to_owned();
            Some((TapeExercise { figure, placed, ..plain(asks) }, truth))
        }
        TapeKind::UnitSlip => {
            let (column, truth) = column(&body, difficulty, style, &mut chance)?;
            let asks = format!("One of these figures was not read in {}. Which?", style.unit().plural());
            Some((TapeExercise { column, ..plain(asks) }, truth))
        }
    }
}

/// A figure of hers on a mark of the tape: an easy one on a half, a hard one on the finest.
fn mark_to_read(body: &Body, difficulty: Difficulty, style: Style, chance: &mut Chance) -> f64 {
    let codes = [
        "bust_girth",
        "waist_girth",
        "hip_girth",
        "across_back",
        "nape_to_waist_back",
        "arm_length",
        "upper_arm_girth",
    ];
    let about = chance.one_of(&codes).and_then(|code| body.get(code)).unwrap_or(900.0);
    let coarser = match (difficulty, style.unit()) {
        (Difficulty::Easy, Unit::Inch) => Style::Inch { denominator: 2 },
        (Difficulty::Middle, Unit::Inch) => Style::Inch { denominator: 4 },
        (Difficulty::Easy, _) => Style::Cm { steps: 2 },
        _ => style,
    };
    coarser.written(about + chance.between(-40.0, 40.0))
}

/// A piece of tape with the pin somewhere in its middle.
fn drawn(mm: f64, style: Style, chance: &mut Chance) -> DrawnTape {
    const WIDTH: f64 = 90.0;
    let at = chance.between(0.3, 0.7) * WIDTH;
    let (whole, steps) = match style {
        Style::Inch { denominator } => (INCH, denominator.max(1)),
        Style::Cm { .. } => (10.0, 10),
    };
    let step = whole / f64::from(steps);
    let first = ((mm - at) / step).ceil() as i64;
    let last = ((mm - at + WIDTH) / step).floor() as i64;
    let mark = |index: i64| {
        let is = |every: u32| index.rem_euclid(i64::from(every.max(1))) == 0;
        let long = match style {
            _ if is(steps) => 1.0,
            _ if steps % 2 == 0 && is(steps / 2) => 0.7,
            Style::Inch { .. } if steps % 4 == 0 && is(steps / 4) => 0.5,
            _ => 0.35,
        };
        let number = is(steps).then(|| (index / i64::from(steps)).to_string());
        DrawnMark { x: index as f64 * step - (mm - at), long, number }
    };
    DrawnTape { width: WIDTH, marks: (first..=last).map(mark).collect(), at }
}

/// Tapes as they are laid wrong: at another level, or from another point.
fn laid_wrong(code: &str) -> Option<Tape> {
    let level = |name: &str| Tape {
        view: View::Front,
        level: Some(name.to_owned()),
        through: Vec::new(),
        round: Vec::new(),
    };
    let through = |names: &[&str]| Tape {
        view: View::Front,
        level: None,
        through: names.iter().map(|name| (*name).to_owned()).collect(),
        round: Vec::new(),
    };
    Some(match code {
        "upper_bust_girth" => level("bust_centre"),
        "bust_girth" => level("under_bust_centre"),
        "under_bust_girth" => level("bust_centre"),
        "waist_girth" => level("top_hip_centre"),
        "hip_girth" => level("top_hip_centre"),
        "shoulder_length" => through(&["pit", "shoulder"]),
        "snp_to_bust_point" => through(&["shoulder", "bust_point"]),
        "snp_to_waist_front" => through(&["shoulder", "bust_point", "waist_at_bust_point"]),
        "centre_front_length" => through(&["neck_side", "waist_centre"]),
        _ => return None,
    })
}

fn placed(body: &Body, difficulty: Difficulty, chance: &mut Chance) -> Option<(Vec<PlacedTape>, Truth)> {
    let shown = match difficulty {
        Difficulty::Easy => 3,
        Difficulty::Middle => 4,
        Difficulty::Hard => 5,
    };
    let mut codes: Vec<&str> =
        catalogue().iter().map(|row| row.code.as_str()).filter(|code| laid_wrong(code).is_some()).collect();
    chance.shuffle(&mut codes);
    let wrong = *codes.first()?;
    let lies = draw_tape(&laid_wrong(wrong)?, body)?;
    let own = |code: &str| draw_tape(&measurement(code)?.tape, body);
    // No other tape lies where the wrong one does: which of two is meant could not be told.
    let mut others: Vec<&str> = codes[1..]
        .iter()
        .copied()
        .filter(|code| own(code).is_some_and(|line| line.path != lies.path))
        .collect();
    others.truncate(shown - 1);
    others.push(wrong);
    chance.shuffle(&mut others);
    let at = others.iter().position(|code| *code == wrong)?;
    let tapes = others.iter().filter_map(|code| {
        let line = if *code == wrong { lies.clone() } else { own(code)? };
        Some(PlacedTape { name: measurement(code)?.name.clone(), line })
    });
    let row = measurement(wrong)?;
    let says = format!("It is {}. {}", row.name.to_lowercase(), row.how);
    Some((tapes.collect(), Truth::Which { at, says }))
}

fn column(
    body: &Body,
    difficulty: Difficulty,
    style: Style,
    chance: &mut Chance,
) -> Option<(Vec<WrittenFigure>, Truth)> {
    let shown = match difficulty {
        Difficulty::Easy => 5,
        Difficulty::Middle => 7,
        Difficulty::Hard => 9,
    };
    let mut rows: Vec<(&str, f64)> = { catalogue().iter() }
        .filter(|row| !row.wish)
        .filter_map(|row| Some((row.code.as_str(), body.get(&row.code)?)))
        .collect();
    chance.shuffle(&mut rows);
    let slips = |code: &str, mm: f64| {
        // Read in the other unit and written down as the house's own: it must be no figure of such a body.
        let row = measurement(code)?;
        let slipped = match style.unit() {
            Unit::Inch => mm / 10.0 * INCH,
            Unit::Cm | Unit::Mm => mm / INCH * 10.0,
        };
        (slipped < row.low || slipped > row.high).then_some(slipped)
    };
    let (wrong, slipped, is) = rows.iter().find_map(|(code, mm)| Some((*code, slips(code, *mm)?, *mm)))?;
    let mut shown_rows: Vec<(&str, f64)> =
        rows.iter().copied().filter(|(code, _)| *code != wrong).take(shown - 1).collect();
    shown_rows.push((wrong, slipped));
    chance.shuffle(&mut shown_rows);
    let at = shown_rows.iter().position(|(code, _)| *code == wrong)?;
    let written = shown_rows.iter().filter_map(|(code, mm)| {
        Some(WrittenFigure {
            name: measurement(code)?.name.clone(),
            written: style.write(Length::from_mm(*mm)),
        })
    });
    let other = match style.unit() {
        Unit::Inch => Style::TENTHS,
        Unit::Cm | Unit::Mm => Style::EIGHTHS,
    };
    let says = format!(
        "It is {}: {} were read, which is {}.",
        measurement(wrong)?.name.to_lowercase(),
        other.with_unit(is),
        style.with_unit(is)
    );
    Some((written.collect(), Truth::Which { at, says }))
}
