//! What a figure that cannot be right was probably meant to be: the other unit, two digits exchanged, half a girth, a
//! front length from the nape. Of several the one is offered that her other readings make most plausible.

use super::odd::off;
use super::range::holds;
use super::{Beside, FindingKind, Repair, WayTaken};
use crate::body::catalogue::Group;
use crate::body::{Measurement, Taken, Worth, worth};
use crate::{Entered, Length, Style, Unit};

/// A figure that may have been meant, and the mistake it would come from.
pub(super) struct Meant {
    pub(super) kind: FindingKind,
    pub(super) repair: Repair,
}

/// Up to here a repaired figure is offered, in gives of the catalogue's estimates.
const PLAUSIBLE: f64 = 1.35;
/// Of two repairs the second leads only where it is nearer by this many gives: typing slips are likelier than units.
const CLEARLY: f64 = 0.35;

/// The likeliest repair of a figure outside its range. `None` where none would be plausible.
pub(super) fn likeliest(
    row: &Measurement,
    entered: &Entered,
    beside: &Beside,
    style: Style,
) -> Option<Meant> {
    let last = beside.last.as_ref().map(|last| last.mm);
    let distance = |meant: &Meant| off(row, meant.repair.mm, &beside.body, last);
    let mut best: Option<(Meant, Option<f64>)> = None;
    for meant in candidates(row, entered, beside, style) {
        if !holds(row, meant.repair.mm, &beside.body) {
            continue;
        }
        let far = distance(&meant);
        if far.is_some_and(|far| far > PLAUSIBLE) {
            continue;
        }
        let leads = match (&best, far) {
            (None, _) => true,
            (Some((_, Some(known))), Some(far)) => far + CLEARLY < *known,
            _ => false,
        };
        if leads {
            best = Some((meant, far));
        }
    }
    best.map(|(meant, _)| meant)
}

/// In the order in which such mistakes happen. Eighths prove inches: no other unit is thought of then, and digits come
/// first.
fn candidates(row: &Measurement, entered: &Entered, beside: &Beside, style: Style) -> Vec<Meant> {
    let proves_inches = entered.typed.contains('/');
    let units = unit_slip(entered).filter(|_| !proves_inches);
    let digits = swaps(entered).map(|repair| Meant { kind: FindingKind::DigitSwap, repair });
    let half = (row.group == Group::Girth).then(|| doubled(entered, style)).flatten();
    let nape = from_the_nape(row, entered, beside, style);
    units.into_iter().chain(digits).chain(half).chain(nape).collect()
}

/// The same text read in the other unit.
fn unit_slip(entered: &Entered) -> Option<Meant> {
    let typed = strip_unit(&entered.typed);
    let other = match entered.unit {
        Unit::Inch => Unit::Cm,
        Unit::Cm | Unit::Mm => Unit::Inch,
    };
    let mm = entered.length.mm() / entered.unit.in_mm() * other.in_mm();
    let repair = Repair { mm, ..Repair::text(format!("{typed} {}", other.suffix())) };
    Some(Meant { kind: FindingKind::UnitSlip, repair })
}

/// Twice the length: a tape that was read from fold to fold, or a girth written for half a pattern.
fn doubled(entered: &Entered, style: Style) -> Option<Meant> {
    let mm = 2.0 * entered.length.mm();
    let repair = Repair { mm, ..Repair::text(style.typed_exactly(mm)) };
    Some(Meant { kind: FindingKind::HalfGirth, repair })
}

/// The same length, taken from the nape round the neck side: converted for comparing, kept as it was typed.
pub(super) fn from_the_nape(
    row: &Measurement,
    entered: &Entered,
    beside: &Beside,
    _: Style,
) -> Option<Meant> {
    let school = WayTaken { matter: "start".to_owned(), code: "nape".to_owned() };
    let is_plain = !beside.taken.schools.contains_key(&school.matter);
    let starts = crate::body::matters_of(&row.code).any(|matter| matter.code == school.matter);
    if !is_plain || !starts {
        return None;
    }
    let mut taken = Taken { schools: beside.taken.schools.clone(), ease_mm: 0.0 };
    taken.schools.insert(school.matter.clone(), school.code.clone());
    let finger = beside.finger.unwrap_or(crate::body::FINGER);
    match worth(row, entered.length.mm(), &taken, &beside.body, finger) {
        Worth::Converted { mm, .. } => {
            let repair = Repair { mm, school: Some(school), ..Repair::text(entered.typed.clone()) };
            Some(Meant { kind: FindingKind::FromTheNape, repair })
        }
        _ => None,
    }
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
        Some(Repair { mm, ..Repair::text(text) })
    })
}

fn strip_unit(typed: &str) -> &str {
    typed.trim_end_matches(|c: char| {
        c.is_alphabetic() || c.is_whitespace() || "\"\u{2033}\u{201d}".contains(c)
    })
}
