//! A figure that all her other readings contradict: in range, yet more plausible with its digits, or with the
//! neighbouring row's figure, exchanged.
//!
//! How far off a figure is, is counted in the give of the catalogue's estimates: the median over all that can be
//! computed, so that one wrong neighbour does not make a right reading look wrong.

use super::meant::{from_the_nape, swaps};
use super::range::holds;
use super::{Beside, Finding, FindingKind, Grade, Repair};
use crate::body::takes::median;
use crate::body::{Body, Measurement, measurement};
use crate::{Entered, Length, Style};

/// From here on a figure is the odd one, in gives.
const ODD: f64 = 1.35;
/// Up to here an exchanged figure is plausible, in gives.
pub(super) const FITS: f64 = 0.9;
/// An exchanged figure must be nearer than the typed one by this share.
const NEARER: f64 = 0.5;
/// A last session's figure is worth an estimate with this give, in millimetres.
const LAST_GIVE: f64 = 40.0;

/// How many gives a figure lies from what the other readings make of it. `None` where nothing can be computed.
pub(super) fn off(row: &Measurement, mm: f64, body: &Body, last: Option<f64>) -> Option<f64> {
    let estimates =
        row.estimates.iter().filter_map(|estimate| Some((mm - estimate.of(body)?).abs() / estimate.give));
    let last = last.map(|last| (mm - last).abs() / LAST_GIVE);
    median(&estimates.chain(last).collect::<Vec<_>>())
}

/// Two digits exchanged inside the range.
pub(super) fn digits(row: &Measurement, entered: &Entered, beside: &Beside) -> Option<Finding> {
    let last = beside.last.as_ref().map(|last| last.mm);
    let typed = off(row, entered.length.mm(), &beside.body, last)?;
    if typed < ODD {
        return None;
    }
    let better = |repair: &Repair| {
        holds(row, repair.mm, &beside.body)
            && off(row, repair.mm, &beside.body, last).is_some_and(|off| off <= FITS && off < NEARER * typed)
    };
    let repair = swaps(entered).find(better)?;
    Some(Finding {
        measurement: row.code.clone(),
        kind: FindingKind::DigitSwap,
        grade: Grade::Doubt,
        says: format!("The other readings speak against {}: two digits may be exchanged.", entered.typed),
        remedy: "measure it again, or take it over with the digits exchanged".to_owned(),
        repair: Some(repair),
    })
}

/// A waist over the under-bust is ordinary, and one under it too: figures alone never say that they stand exchanged.
fn are_ordinary_either_way(one: &str, other: &str) -> bool {
    [(one, other), (other, one)].contains(&("waist_girth", "under_bust_girth"))
}

/// Within the range, but only plausible as a length from the nape.
pub(super) fn start(row: &Measurement, entered: &Entered, beside: &Beside, style: Style) -> Option<Finding> {
    let last = beside.last.as_ref().map(|last| last.mm);
    let typed = off(row, entered.length.mm(), &beside.body, last)?;
    let meant = from_the_nape(row, entered, beside, style)?;
    let then = off(row, meant.repair.mm, &beside.body, last)?;
    (typed >= ODD && then <= FITS && then < NEARER * typed).then(|| Finding {
        measurement: row.code.clone(),
        kind: FindingKind::FromTheNape,
        grade: Grade::Doubt,
        says: format!(
            "The other readings speak against {} from the neck side: it may be the length from the nape.",
            entered.typed
        ),
        remedy: "measure it again, or take it over as taken from the nape, round the neck".to_owned(),
        repair: Some(meant.repair),
    })
}

/// Two rows one after the other that are only plausible exchanged.
pub(super) fn neighbours(row: &Measurement, mm: f64, beside: &Beside, style: Style) -> Option<Finding> {
    let exchanged = |code: &String| {
        let other = measurement(code).filter(|other| !other.wish)?;
        if are_ordinary_either_way(&row.code, code) {
            return None;
        }
        let theirs = beside.body.get(code)?;
        let here = beside.body.clone().with(&row.code, mm);
        let there = beside.body.clone().with(&row.code, theirs).with(code, mm);
        let worst = |body: &Body| {
            let of = |row: &Measurement| {
                let own = body.get(&row.code)?;
                Some(if holds(row, own, body) {
                    off(row, own, &body.clone().without(&row.code), None)?
                } else {
                    f64::INFINITY
                })
            };
            Some(of(row)?.max(of(other)?))
        };
        let broken = |body: &Body| {
            let about = |code: &str| super::relation::broken(body, Some(code), style);
            about(&row.code)
                .into_iter()
                .chain(about(code))
                .filter(|finding| finding.grade > Grade::Note)
                .count()
        };
        let (now, then) = (worst(&here)?, worst(&there)?);
        let odd = now > ODD || broken(&here) > 0;
        (odd && then <= FITS && then < NEARER * now && broken(&there) == 0).then_some((other, theirs))
    };
    let (other, theirs) = beside.neighbours.iter().find_map(exchanged)?;
    Some(Finding {
        measurement: row.code.clone(),
        kind: FindingKind::NeighbourSwap,
        grade: Grade::Doubt,
        says: format!(
            "{} and {} are only plausible exchanged: each may stand in the other's row.",
            row.name, other.name
        ),
        remedy: "measure both again, or exchange them".to_owned(),
        repair: Some(Repair {
            text: style.write(Length::from_mm(theirs)),
            mm: theirs,
            exchange_with: Some(other.code.clone()),
            school: None,
        }),
    })
}
