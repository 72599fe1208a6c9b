//! The range of adults, and what a figure outside it may have been meant to be.

use super::{Finding, FindingKind, Grade, Repair};
use crate::body::Measurement;
use crate::{Entered, Length, Style, Unit};

/// A figure below this share of the range's low end cannot be a body.
const STOP_BELOW: f64 = 0.6;
/// A figure above this multiple of the range's high end cannot be a body.
const STOP_ABOVE: f64 = 1.5;

pub(super) fn holds(row: &Measurement, mm: f64) -> bool {
    (row.low..=row.high).contains(&mm)
}

/// Whether so many millimetres cannot be this measurement of an adult body at all.
pub fn cannot_be(row: &Measurement, mm: f64) -> bool {
    mm < STOP_BELOW * row.low || mm > STOP_ABOVE * row.high
}

pub(super) fn check(row: &Measurement, entered: &Entered, style: Style) -> Option<Finding> {
    let mm = entered.length.mm();
    if holds(row, mm) {
        return None;
    }
    let cannot_be = cannot_be(row, mm);
    let slip = unit_slip(row, entered);
    let swap = if slip.is_none() { swaps(entered).find(|repair| holds(row, repair.mm)) } else { None };
    let usual = format!(
        "{} is usually {} to {}",
        row.name,
        style.write(Length::from_mm(row.low)),
        style.with_unit(row.high)
    );
    let (kind, says, remedy) = match (&slip, &swap) {
        (Some(_), _) => (
            FindingKind::UnitSlip,
            format!("{usual}: this looks like the other unit."),
            "take it over in the other unit",
        ),
        (_, Some(_)) => (
            FindingKind::DigitSwap,
            format!("{usual}: two digits may be exchanged."),
            "take it over with the digits exchanged",
        ),
        _ => (FindingKind::Range, format!("{usual}."), "measure it again"),
    };
    Some(Finding {
        measurement: row.code.clone(),
        kind,
        grade: if cannot_be { Grade::Stop } else { Grade::Doubt },
        says,
        remedy: remedy.to_owned(),
        repair: slip.or(swap),
    })
}

/// The same text read in the other unit, where that is plausible.
fn unit_slip(row: &Measurement, entered: &Entered) -> Option<Repair> {
    let typed = strip_unit(&entered.typed);
    let other = match entered.unit {
        Unit::Inch => Unit::Cm,
        Unit::Cm | Unit::Mm => Unit::Inch,
    };
    let mm = entered.length.mm() / entered.unit.in_mm() * other.in_mm();
    holds(row, mm).then(|| Repair { text: format!("{typed} {}", other.suffix()), mm, exchange_with: None })
}

/// The same text with two neighbouring digits of the whole number exchanged, the leading pair first.
pub(super) fn swaps(entered: &Entered) -> impl Iterator<Item = Repair> {
    let chars: Vec<char> = entered.typed.chars().collect();
    let whole = chars.iter().take_while(|c| c.is_ascii_digit()).count();
    let unit = entered.unit;
    (1..whole).filter_map(move |second| {
        let mut exchanged = chars.clone();
        exchanged.swap(second - 1, second);
        // A leading nought is no figure anybody typed.
        if exchanged == chars || exchanged[0] == '0' {
            return None;
        }
        let text: String = exchanged.into_iter().collect();
        let mm = Length::read(&text, unit).ok()?.length.mm();
        Some(Repair { text, mm, exchange_with: None })
    })
}

fn strip_unit(typed: &str) -> &str {
    typed.trim_end_matches(|c: char| {
        c.is_alphabetic() || c.is_whitespace() || "\"\u{2033}\u{201d}".contains(c)
    })
}
