//! Dates in files: iCalendar (RFC 5545) out, free and busy times in.

use chrono::{DateTime, Days, NaiveDate, NaiveDateTime, NaiveTime, Utc};
use icalendar::parser::{Component as Read, Property, read_calendar, unfold};
use icalendar::{Calendar, Component, Event, EventLike};
use yardwand_core::fitting::Away;

/// Days away that one file may bring.
const MOST: usize = 2000;

/// A day in the workroom, for a calendar file.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct DayEntry {
    /// Names it for ever and in every house: a calendar that reads the file again changes the same entry.
    pub uid: String,
    /// How often it was changed: of two files a calendar believes the higher (RFC 5545, 3.8.7.4).
    pub sequence: u32,
    /// The day.
    pub on: NaiveDate,
    /// In a few words.
    pub summary: String,
    /// What to prepare; empty for nothing.
    pub description: String,
}

/// A calendar file of whole days. `stamp` is when it is written.
pub fn calendar_file(name: &str, entries: &[DayEntry], stamp: DateTime<Utc>) -> String {
    let mut calendar = Calendar::empty();
    // Who wrote the file stands in it, as RFC 5545, 3.7.3 wants.
    for property in [("VERSION", "2.0"), ("PRODID", "-//Yardwand//Workroom//EN"), ("CALSCALE", "GREGORIAN")] {
        calendar.append_property(property);
    }
    calendar.name(name);
    for entry in entries {
        let mut event = Event::new();
        event
            .uid(&entry.uid)
            .sequence(entry.sequence)
            .timestamp(stamp)
            .summary(&entry.summary)
            .all_day(entry.on);
        // An all-day entry ends on the day after.
        event.ends(entry.on + Days::new(1));
        if !entry.description.is_empty() {
            event.description(&entry.description);
        }
        calendar.push(event.done());
    }
    calendar.to_string()
}

/// What a calendar file says of busy days.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct BusyDays {
    /// The days, the soonest first.
    pub away: Vec<Away>,
    /// What was left out and why, a sentence each.
    pub left_out: Vec<String>,
}

/// Reads the busy days of a calendar file: `VFREEBUSY` and `VEVENT`. Nothing but the days is taken over: not what she
/// does there.
///
/// # Errors
///
/// A sentence where the file is no calendar, or has no busy time in it.
pub fn busy_days(file: &str) -> Result<BusyDays, String> {
    if file.trim().is_empty() {
        return Err("the file is empty: save the calendar as .ics once more and send that".to_owned());
    }
    let unfolded = unfold(file);
    let calendar = read_calendar(&unfolded)
        .ok()
        .filter(|_| unfolded.to_uppercase().contains("BEGIN:VCALENDAR"))
        .ok_or("this is no calendar file: save the calendar as .ics and send that")?;
    let mut found = BusyDays::default();
    for part in &calendar.components {
        match part.name.as_ref() {
            "VEVENT" => event(part, &mut found),
            "VFREEBUSY" => free_busy(part, &mut found),
            _ => {}
        }
    }
    if found.away.is_empty() && found.left_out.is_empty() {
        return Err("the calendar has no busy time in it: nothing was changed".to_owned());
    }
    found.away.sort_by_key(|away| (away.from, away.to));
    found.away.dedup();
    if found.away.len() > MOST {
        let more = found.away.len() - MOST;
        found.away.truncate(MOST);
        found.left_out.push(format!("{more} entries beyond the first {MOST} were left out."));
    }
    Ok(found)
}

fn event(part: &Read<'_>, found: &mut BusyDays) {
    let is = |name: &str, value: &str| part.find_prop(name).is_some_and(|p| p.val.as_ref() == value);
    if is("TRANSP", "TRANSPARENT") || is("STATUS", "CANCELLED") {
        return;
    }
    let Some(start) = part.find_prop("DTSTART").and_then(moment) else {
        found.left_out.push("An entry without a date was left out.".to_owned());
        return;
    };
    if part.find_prop("RRULE").is_some() {
        let day = start.date().format("%-d %B %Y");
        found.left_out.push(format!("An entry that repeats is taken for its first day only, {day}."));
    }
    let end = part.find_prop("DTEND").and_then(moment).unwrap_or_else(|| {
        let whole_day = start.time() == NaiveTime::MIN;
        if whole_day { start + Days::new(1) } else { start }
    });
    busy(start, end, found);
}

fn free_busy(part: &Read<'_>, found: &mut BusyDays) {
    for property in part.properties.iter().filter(|p| p.name.as_ref() == "FREEBUSY") {
        let kind = property.params.iter().find(|p| p.key.as_ref() == "FBTYPE");
        if kind.and_then(|p| p.val.as_ref()).is_some_and(|value| value.as_ref() == "FREE") {
            continue;
        }
        for period in property.val.as_ref().split(',') {
            let Some((from, to)) = period.split_once('/') else { continue };
            let start = moment_of(from);
            let end = moment_of(to).or_else(|| Some(start? + duration(to)?));
            match (start, end) {
                (Some(start), Some(end)) => busy(start, end, found),
                _ => found.left_out.push("A busy time that cannot be read was left out.".to_owned()),
            }
        }
    }
}

/// The days a time touches: one that ends at midnight does not touch the next.
fn busy(start: NaiveDateTime, end: NaiveDateTime, found: &mut BusyDays) {
    if end < start {
        found.left_out.push("A busy time that ends before it begins was left out.".to_owned());
        return;
    }
    let last =
        if end > start && end.time() == NaiveTime::MIN { end.date() - Days::new(1) } else { end.date() };
    found.away.push(Away { from: start.date(), to: last, why: String::new() });
}

fn moment(property: &Property<'_>) -> Option<NaiveDateTime> {
    moment_of(property.val.as_ref())
}

/// `20270301`, `20270301T140000` or the same with `Z`. A zone moves a day only around midnight: it is not asked.
fn moment_of(text: &str) -> Option<NaiveDateTime> {
    let text = text.trim().trim_end_matches('Z');
    NaiveDateTime::parse_from_str(text, "%Y%m%dT%H%M%S")
        .ok()
        .or_else(|| Some(NaiveDate::parse_from_str(text, "%Y%m%d").ok()?.and_time(NaiveTime::MIN)))
}

/// `PT1H30M`, `P2D`.
fn duration(text: &str) -> Option<chrono::TimeDelta> {
    let mut rest = text.trim().strip_prefix('P')?;
    let mut seconds = 0;
    while !rest.is_empty() {
        rest = rest.strip_prefix('T').unwrap_or(rest);
        let digits = rest.find(|c: char| !c.is_ascii_digit())?;
        let count: i64 = rest[..digits].parse().ok()?;
        let each = match rest.as_bytes()[digits] {
            b'W' => 604_800,
            b'D' => 86_400,
            b'H' => 3600,
            b'M' => 60,
            b'S' => 1,
            _ => return None,
        };
        seconds += count.checked_mul(each)?;
        rest = &rest[digits + 1..];
    }
    chrono::TimeDelta::try_seconds(seconds)
}
