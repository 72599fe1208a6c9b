//! Rule 9: the sewn girths are what block and recipe ask.

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::pattern::measure::{PatternMeasure, measure};
use crate::pattern::piece::{LevelName, Pattern, Piece};

/// How far a sewn girth may be from what was asked, in millimetres all round.
const GIRTH_TOLERANCE: f64 = 1.0;

/// Not judged where a pattern does not say what was asked of it.
pub(super) fn girths(pattern: &Pattern, style: Style) -> Option<Check> {
    let first = pattern.pieces.first()?;
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
            let (piece, at) = place(pattern, *figure).unwrap_or((first, first.underarm()));
            Fault::new(piece.kind, at, says)
        })
    };
    let says: Vec<String> = told
        .iter()
        .map(|(figure, sewn, _)| format!("{} {}", figure.name(), style.with_unit(*sewn)))
        .collect();
    let says = format!("sewn all round: {}", says.join(", "));
    Some(Check::new(CheckCode::Girths, says, told.iter().filter_map(fault).collect()))
}

/// Where a girth is looked for: the end of the bust line, or the waist at the centre, on the first piece that has it.
fn place(pattern: &Pattern, figure: PatternMeasure) -> Option<(&Piece, kurbo::Point)> {
    let bust = |piece: &Piece| piece.level(LevelName::Bust).and_then(|level| level.points.last()).copied();
    let waist = |piece: &Piece| piece.has_waist().then(|| piece.centre_waist());
    pattern.pieces.iter().find_map(|piece| {
        let at = if figure == PatternMeasure::Bust { bust(piece) } else { waist(piece) };
        Some((piece, at?))
    })
}
