//! Rules about a reading's own record: her other side, repeated takes, the last session, its age.

use super::{Beside, Finding, FindingKind, Grade};
use crate::Style;
use crate::body::caution::DRAWN_IN;
use crate::body::takes::wants_third;
use crate::body::{Measurement, Side};

/// Sides may differ by this, in millimetres, without a word.
const SIDES_ALIKE: f64 = 6.0;

pub(super) fn check(row: &Measurement, mm: f64, beside: &Beside, style: Style) -> Vec<Finding> {
    let found = [
        sides(row, mm, beside, style),
        repeats(row, mm, beside, style),
        changed(row, mm, beside, style),
        drawn_in(row, mm, beside),
    ];
    found.into_iter().flatten().collect()
}

fn finding(row: &Measurement, kind: FindingKind, grade: Grade, says: String, remedy: &str) -> Finding {
    Finding { measurement: row.code.clone(), kind, grade, says, remedy: remedy.to_owned(), repair: None }
}

fn sides(row: &Measurement, mm: f64, beside: &Beside, style: Style) -> Option<Finding> {
    let differ = mm - beside.other_side?;
    if beside.side == Side::Both || differ.abs() <= SIDES_ALIKE {
        return None;
    }
    let longer = if (differ > 0.0) == (beside.side == Side::Left) { "left" } else { "right" };
    let says = format!(
        "The {longer} is {} more than the other side: that is how she is.",
        style.with_unit(differ.abs())
    );
    Some(finding(
        row,
        FindingKind::Sides,
        Grade::Note,
        says,
        "cut left and right apart, or level her with the mean of both",
    ))
}

fn repeats(row: &Measurement, mm: f64, beside: &Beside, style: Style) -> Option<Finding> {
    let takes: Vec<f64> = beside.takes.iter().copied().chain([mm]).collect();
    if !wants_third(row, &takes) {
        return None;
    }
    let apart = style.in_words(&style.difference(takes[0], takes[1]));
    let within = style.with_unit(row.repeat_tolerance(mm));
    let says = format!("The two takes are {apart} apart; {within} is usual.");
    Some(finding(row, FindingKind::Repeat, Grade::Doubt, says, "take it a third time: the middle one counts"))
}

fn changed(row: &Measurement, mm: f64, beside: &Beside, style: Style) -> Option<Finding> {
    let last = beside.last.as_ref()?;
    let grown = mm - last.mm;
    if grown.abs() <= row.usual_change() {
        return None;
    }
    let way = if grown > 0.0 { "more" } else { "less" };
    let by = style.in_words(&style.difference(mm, last.mm));
    let (says, remedy) = if last.taken.agrees(&beside.taken, &row.code) {
        (
            format!("{by} {way} than last time, {} ago, taken the same way.", days(last.days_ago)),
            "ask whether she has changed",
        )
    } else {
        let ways = |says: Vec<String>| {
            if says.is_empty() { "the usual way".to_owned() } else { says.join("; ").to_lowercase() }
        };
        let (then, now) = (ways(last.taken.says()), ways(beside.taken.says()));
        (
            format!("{by} {way} than last time: but then it was taken {then}, now {now}."),
            "take it the same way to compare",
        )
    };
    Some(finding(row, FindingKind::Changed, Grade::Note, says, remedy))
}

/// A drawn-in waist is never recorded without the natural one, and beyond a tenth it asks for confirmation.
fn drawn_in(row: &Measurement, mm: f64, beside: &Beside) -> Option<Finding> {
    if row.code != "waist_girth_drawn_in" {
        return None;
    }
    let (says, remedy) = match beside.body.get("waist_girth") {
        None => (
            "A drawn-in waist says nothing without the natural one.".to_owned(),
            "measure the natural waist too",
        ),
        Some(natural) if mm < natural * (1.0 - DRAWN_IN) => (
            format!(
                "That draws her in by {:.0} in 100. Comfort and breathing come first; not in pregnancy or with heart, lung, \
                 spine or reflux trouble: her doctor decides.",
                (1.0 - mm / natural) * 100.0
            ),
            "ask her, and confirm with initials",
        ),
        Some(_) => return None,
    };
    Some(finding(row, FindingKind::Relation, Grade::Doubt, says, remedy))
}

/// Whether a figure is too old to cut from: older than the house's limit, or sooner where she is changing.
pub fn check_age(row: &Measurement, days_ago: i64, limit_days: i64, changing: bool) -> Option<Finding> {
    let limit = if changing { limit_days / 3 } else { limit_days };
    if days_ago <= limit {
        return None;
    }
    let because = if changing { ", and her figure is changing" } else { "" };
    let says = format!(
        "Taken {} ago; the house cuts from nothing older than {}{because}.",
        days(days_ago),
        days(limit)
    );
    Some(finding(row, FindingKind::Age, Grade::Note, says, "measure it again before cutting"))
}

fn days(count: i64) -> String {
    match count {
        1 => "1 day".to_owned(),
        count => format!("{count} days"),
    }
}
