//! From round to round: how much of an observation is left each time, and when its cause was probably wrong.

use serde::{Deserialize, Serialize};

use super::{cause, causes};
use crate::Style;

/// Changes below this, in millimetres, are the tape's own.
const COUNTS: f64 = 1.6;

/// An amount in one round: what leaves (positive) or is wanting (negative) in one half, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CoursePoint {
    /// The round.
    pub round: u32,
    /// The amount.
    pub mm: f64,
}

/// How the amounts go.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Trend {
    /// Seen once, or as much as before.
    Steady,
    /// Less from round to round.
    Shrinks,
    /// More than the round before.
    Grows,
    /// Too much where it was too little, or the other way.
    Flips,
}

/// Reads the trend off the last two rounds.
pub fn trend(points: &[CoursePoint]) -> Trend {
    let [.., before, now] = points else { return Trend::Steady };
    if before.mm * now.mm < 0.0 && before.mm.abs() > COUNTS && now.mm.abs() > COUNTS {
        Trend::Flips
    } else if now.mm.abs() > before.mm.abs() + COUNTS {
        Trend::Grows
    } else if now.mm.abs() < before.mm.abs() - COUNTS {
        Trend::Shrinks
    } else {
        Trend::Steady
    }
}

/// What is pointed out of a course, `None` while it goes well. `taken_for` is the code of the cause it was taken for.
pub fn warning(points: &[CoursePoint], taken_for: Option<&str>, style: Style) -> Option<String> {
    let [.., before, now] = points else { return None };
    let happened = match trend(points) {
        Trend::Grows => "grew",
        Trend::Flips => "turned over",
        Trend::Steady | Trend::Shrinks => return None,
    };
    let [from, to] = [before.mm, now.mm].map(|mm| amount(mm, trend(points), style));
    let known = taken_for.and_then(cause);
    let Some(taken) = known else {
        return Some(format!("It {happened} from {from} to {to}: the cause was probably another."));
    };
    let neighbours: Vec<String> = causes()
        .iter()
        .filter(|other| other.mistaken.contains(&taken.code) || taken.mistaken.contains(&other.code))
        .map(|other| {
            format!("“{}” ({})", other.title.to_lowercase(), other.test.trim_end_matches('.').to_lowercase())
        })
        .collect();
    let instead = if neighbours.is_empty() {
        format!("try its test again: {}", taken.test)
    } else {
        format!("think of {}.", neighbours.join(", or of "))
    };
    Some(format!(
        "It {happened} from {from} to {to} after “{}”: the cause was probably wrong; {instead}",
        taken.title.to_lowercase()
    ))
}

/// An amount in words: what turned over says which way it was.
fn amount(mm: f64, trend: Trend, style: Style) -> String {
    let text = style.with_unit(mm.abs());
    match (trend, mm < 0.0) {
        (Trend::Flips, true) => format!("{text} wanting"),
        (Trend::Flips, false) => format!("{text} too much"),
        _ => text,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn points(amounts: &[f64]) -> Vec<CoursePoint> {
        amounts.iter().zip(1..).map(|(mm, round)| CoursePoint { round, mm: *mm }).collect()
    }

    #[test]
    fn the_last_two_rounds_say_how_it_goes() {
        assert_eq!(trend(&points(&[12.0])), Trend::Steady);
        assert_eq!(trend(&points(&[12.0, 5.0])), Trend::Shrinks);
        assert_eq!(trend(&points(&[12.0, 5.0, 9.0])), Trend::Grows);
        assert_eq!(trend(&points(&[12.0, -6.0])), Trend::Flips);
        assert_eq!(trend(&points(&[12.0, 11.0])), Trend::Steady);
        assert_eq!(trend(&points(&[6.0, -1.0])), Trend::Shrinks, "a trace the other way is the tape's");
    }

    #[test]
    fn what_grows_or_flips_names_the_neighbour_to_think_of() {
        assert_eq!(warning(&points(&[12.0, 5.0]), Some("small_bust_dart"), Style::TENTHS), None);
        let grew = warning(&points(&[6.0, 12.0]), Some("small_bust_dart"), Style::TENTHS).unwrap();
        assert!(grew.contains("grew from 0.6 cm to 1.2 cm"), "{grew}");
        assert!(grew.contains("too little room for the bust"), "{grew}");
        let flipped = warning(&points(&[6.0, -8.0]), Some("hollow_chest"), Style::TENTHS).unwrap();
        assert!(flipped.contains("try its test again"), "{flipped}");
        assert!(flipped.contains("from 0.6 cm too much to 0.8 cm wanting"), "{flipped}");
        let wanting = warning(&points(&[-3.0, -6.0]), None, Style::TENTHS).unwrap();
        assert!(wanting.contains("grew from 0.3 cm to 0.6 cm"), "{wanting}");
    }
}
