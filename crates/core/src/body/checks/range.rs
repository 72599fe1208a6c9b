//! The range of adults, and what a figure outside it may have been meant to be.

use super::meant::likeliest;
use super::odd::{FITS, off};
use super::{Beside, Finding, FindingKind, Grade};
use crate::body::catalogue::Group;
use crate::body::{Body, Measurement};
use crate::{Entered, Length, Style};

/// A figure below this share of the range's low end cannot be a body.
const STOP_BELOW: f64 = 0.6;
/// A figure above this multiple of the range's high end cannot be a body.
const STOP_ABOVE: f64 = 1.5;
/// Up to this height the catalogue's ranges of lengths hold, in millimetres; they grow with it above.
const TALL: f64 = 1780.0;

/// The greatest figure that is not doubted, in millimetres: lengths grow with a tall body.
fn most(row: &Measurement, body: &Body) -> f64 {
    let tall = body.get("height").map_or(1.0, |height| (height / TALL).max(1.0));
    if row.group == Group::Length && row.code != "height" { row.high * tall } else { row.high }
}

pub(super) fn holds(row: &Measurement, mm: f64, body: &Body) -> bool {
    (row.low..=most(row, body)).contains(&mm)
}

/// How far beyond the range a figure may lie and still be ordinary for a body that is large or small all over.
const BEYOND: f64 = 1.15;

/// A little outside the range, but just what her other readings make of it.
fn is_in_proportion(row: &Measurement, mm: f64, beside: &Beside) -> bool {
    let is_near = (row.low / BEYOND..=most(row, &beside.body) * BEYOND).contains(&mm);
    is_near && off(row, mm, &beside.body, None).is_some_and(|off| off <= FITS)
}

/// Whether so many millimetres cannot be this measurement of an adult body at all.
pub fn cannot_be(row: &Measurement, mm: f64) -> bool {
    mm < STOP_BELOW * row.low || mm > STOP_ABOVE * row.high
}

pub(super) fn check(row: &Measurement, entered: &Entered, beside: &Beside, style: Style) -> Option<Finding> {
    let mm = entered.length.mm();
    if holds(row, mm, &beside.body) || is_in_proportion(row, mm, beside) {
        return None;
    }
    let meant = likeliest(row, entered, beside, style);
    let usual = format!(
        "{} is usually {} to {}",
        row.name,
        style.write(Length::from_mm(row.low)),
        style.with_unit(most(row, &beside.body))
    );
    let kind = meant.as_ref().map_or(FindingKind::Range, |meant| meant.kind);
    let (looks, remedy) = match kind {
        FindingKind::UnitSlip => (": this looks like the other unit", "take it over in the other unit"),
        FindingKind::DigitSwap => (": two digits may be exchanged", "take it over with the digits exchanged"),
        FindingKind::HalfGirth => {
            (": this looks like half of it", "take it over doubled, if the tape lay folded")
        }
        FindingKind::FromTheNape => (
            ": this looks like the length from the nape",
            "take it over as taken from the nape, round the neck",
        ),
        _ => ("", "measure it again"),
    };
    Some(Finding {
        measurement: row.code.clone(),
        kind,
        grade: if cannot_be(row, mm) { Grade::Stop } else { Grade::Doubt },
        says: format!("{usual}{looks}."),
        remedy: remedy.to_owned(),
        repair: meant.map(|meant| meant.repair),
    })
}
