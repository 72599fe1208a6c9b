//! All that is known when the causes of what was seen are weighed.

use std::collections::HashMap;

use super::causes::{LevelAt, LevelSign, line_and_station, line_of};
use super::{BalanceLine, Mark, Observation, Station, Trend, Worn};
use crate::compare::{Comparison, DifferenceGrade};
use crate::pattern::{Garment, PatternMeasure, WornSide};

/// How far a figure of the pattern is from her.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Off {
    /// Her figure and ease less the pattern's, in millimetres on the body.
    pub mm: f64,
    /// What still fits, in millimetres.
    pub tolerance: f64,
}

/// How far a level line stands above where it hangs free, at one station.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct LevelOff {
    /// Which line; one of those above the hem where nobody said which.
    pub line: Option<BalanceLine>,
    /// Where on it.
    pub station: Station,
    /// Above (positive) or below, in millimetres.
    pub mm: f64,
}

impl LevelOff {
    /// As it is written in a table of fittings: `waist centre back`, `left`.
    ///
    /// # Errors
    ///
    /// What is no line and station.
    pub fn read(name: &str, mm: f64) -> Result<Self, String> {
        let wrong = || format!("“{name}” is no level line and station: waist centre back, left …");
        let (line, station) = line_and_station(name);
        let line = line.map(|line| line_of(line).ok_or_else(wrong)).transpose()?;
        Ok(Self { line, station: Station::of(station).ok_or_else(wrong)?, mm })
    }

    /// Whether a sign speaks of this line and station, for what is seen on a side of her.
    pub(super) fn is_meant_by(&self, sign: &LevelSign, side: Option<WornSide>) -> bool {
        let line = match self.line {
            None => true,
            Some(line) if sign.lines.is_empty() => line != BalanceLine::Hem,
            Some(line) => sign.lines.contains(&line),
        };
        let at = match (sign.at, side) {
            (LevelAt::Centre(station), _) => station == self.station,
            (LevelAt::Side, Some(WornSide::Left)) => self.station == Station::Left,
            (LevelAt::Side, Some(WornSide::Right)) => self.station == Station::Right,
            (LevelAt::Side, None) => matches!(self.station, Station::Left | Station::Right),
        };
        line && at
    }

    /// `waist line at the centre back`.
    pub(super) fn said(&self) -> String {
        let line = self.line.map_or("level line", BalanceLine::name);
        format!("{line} at the {}", self.station.name())
    }
}

/// A cause that was taken up before, and what became of what it was for.
#[derive(Clone, Debug, PartialEq)]
pub struct Tried {
    /// Code of the cause.
    pub cause: String,
    /// What became of it.
    pub became: Mark,
    /// How its amount went from round to round, where it was pinned more than once.
    pub trend: Option<Trend>,
}

/// A test that was made on the toile, and whether what it says happened.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Tested {
    /// Code of the cause whose test it is.
    pub cause: String,
    /// What it says happened.
    pub holds: bool,
}

/// All that is known when causes are weighed.
#[derive(Clone, Debug, Default)]
pub struct Evidence {
    /// What was seen.
    pub seen: Vec<Observation>,
    /// Her figures against the pattern that was on her.
    pub figures: HashMap<PatternMeasure, Off>,
    /// The level lines that were measured.
    pub level: Vec<LevelOff>,
    /// Causes taken up in earlier rounds.
    pub tried: Vec<Tried>,
    /// Tests made in this round.
    pub tested: Vec<Tested>,
    /// What was on her: what corrects another garment is no cause of it.
    pub garment: Garment,
    /// What it has, and what is worn with it.
    pub worn: Worn,
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
