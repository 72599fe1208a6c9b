//! The practice room: figures with a hidden cause, and tapes to read, made by their numbers and never out of a client's
//! file. The learner says what she sees, what she would test, which cause it is, how much, and what else must follow.

mod boxes;
mod chance;
mod drawing;
mod exercise;
mod hidden;
mod judge;
mod readings;
mod sights;
mod tape;

pub use boxes::{BOXES, PracticeBox, PracticeProgress, Practised, progress};
pub use drawing::{LevelHeight, PracticeFigure, PracticeLevel, PracticeMark};
pub use exercise::{Difficulty, Exercise, PracticeFitting, exercise};
pub use hidden::practised_causes;
pub use judge::{
    Mistake, PracticeAnswers, PracticeGrade, PracticeTruth, PracticeVerdict, StepVerdict, judge,
};
pub use readings::PracticeReading;
pub use tape::{
    DrawnMark, DrawnTape, PlacedTape, TapeAnswer, TapeExercise, TapeKind, TapeVerdict, WrittenFigure,
    judge_tape, tape_exercise,
};
