//! Rule 9: the sewn girths are what block and recipe ask.

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::pattern::measure::{PatternMeasure, measure};
use crate::pattern::piece::{LevelName, Pattern, Piece};

/// How far a sewn girth may be from what was asked, in millimetres all round.
const GIRTH_TOLERANCE: f64 = 1.0;

/// Not judged where a pattern does not say what was asked of it.
pub(super) fn girths(pattern: &Pattern, style: Style) -> Option<Check> {
    let piece = pattern.pieces.first()?;
    let sewn = measure(pattern);
    let told: Vec<(PatternMeasure, f64, f64)> = pattern
        .girths_off?
        .iter()
        .filter_map(|(figure, off)| Some((figure, sewn.get(figure)?, off)))
        .collect();
    let fault = |(figure, _, off): &(PatternMeasure, f64, f64)| {
        (off.abs() > GIRTH_TOLERANCE).then(|| {
            let (by, word) = (style.with_unit(off.abs()), if *off > 0.0 { "wider" } else { "narrower" });
            let says = format!("the {} is {by} {word} all round than block and recipe ask", figure.name());
            Fault::new(piece.kind, place(piece, *figure), says)
        })
    };
    let says: Vec<String> = told
        .iter()
        .map(|(figure, sewn, _)| format!("{} {}", figure.name(), style.with_unit(*sewn)))
        .collect();
    let says = format!("sewn all round: {}", says.join(", "));
    Some(Check::new(CheckCode::Girths, says, told.iter().filter_map(fault).collect()))
}

fn place(piece: &Piece, figure: PatternMeasure) -> kurbo::Point {
    let bust = piece.level(LevelName::Bust).and_then(|level| level.points.last()).copied();
    match figure {
        PatternMeasure::Bust => bust.unwrap_or_else(|| piece.underarm()),
        _ => piece.centre_waist(),
    }
}
