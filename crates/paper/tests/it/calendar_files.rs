//! Calendar files against another reader, and what comes in from other calendars (RFC 5545).

use chrono::{DateTime, NaiveDate, Utc};
use yardwand_paper::{DayEntry, busy_days, calendar_file};

fn day(month: u32, day: u32) -> NaiveDate {
    NaiveDate::from_ymd_opt(2027, month, day).unwrap()
}

fn stamp() -> DateTime<Utc> {
    day(1, 4).and_hms_opt(9, 0, 0).unwrap().and_utc()
}

fn entries() -> Vec<DayEntry> {
    let description =
        "Bring: foundation; shoes, with heels.\nOpen: a fold \\ across the back — Mårtens, Édith, ";
    vec![
        DayEntry {
            uid: "visit-7@yardwand".into(),
            sequence: 2,
            on: day(3, 31),
            summary: "Edda Mårtens: toile 1, long concert dress".into(),
            description: description.repeat(4),
        },
        DayEntry {
            uid: "visit-8@yardwand".into(),
            sequence: 0,
            on: day(12, 31),
            summary: "Delivery".into(),
            description: String::new(),
        },
    ]
}

#[test]
fn another_reader_finds_the_same_days_and_words() {
    let file = calendar_file("The workroom", &entries(), stamp());
    let mut read = ical::IcalParser::new(file.as_bytes());
    let calendar = read.next().unwrap().unwrap();
    assert!(read.next().is_none());
    let has = |name: &str| calendar.properties.iter().any(|p| p.name == name && p.value.is_some());
    assert!(has("PRODID") && has("VERSION"));
    assert_eq!(calendar.events.len(), 2);
    for (event, entry) in calendar.events.iter().zip(entries()) {
        let value = |name: &str| {
            event.properties.iter().find(|p| p.name == name).and_then(|p| p.value.clone()).unwrap_or_default()
        };
        assert_eq!(value("UID"), entry.uid);
        assert_eq!(value("SEQUENCE"), entry.sequence.to_string());
        assert_eq!(value("DTSTAMP"), "20270104T090000Z");
        assert_eq!(value("DTSTART"), entry.on.format("%Y%m%d").to_string());
        // An all-day entry ends on the day after (RFC 5545, 3.6.1).
        assert_eq!(value("DTEND"), entry.on.succ_opt().unwrap().format("%Y%m%d").to_string());
        let plain = value("DESCRIPTION")
            .replace("\\n", "\n")
            .replace("\\,", ",")
            .replace("\\;", ";")
            .replace("\\\\", "\\");
        assert_eq!(plain, entry.description.trim_end());
    }
}

#[test]
fn lines_end_with_crlf_and_are_folded_at_75_octets_between_characters() {
    let file = calendar_file("The workroom", &entries(), stamp());
    for line in file.split_inclusive('\n') {
        assert!(line.ends_with("\r\n"), "{line:?}");
        assert!(line.len() <= 77, "{} octets: {line:?}", line.len());
    }
    assert!(file.contains("\r\n "), "the description is folded");
    for once in ["VERSION:2.0\r\n", "PRODID:-//Yardwand//Workroom//EN\r\n"] {
        assert_eq!(file.matches(once).count(), 1, "{once:?}");
    }
}

#[test]
fn what_is_written_is_read_back() {
    let busy = busy_days(&calendar_file("x", &entries(), stamp())).unwrap();
    let days: Vec<_> = busy.away.iter().map(|a| (a.from, a.to)).collect();
    assert_eq!(days, [(day(3, 31), day(3, 31)), (day(12, 31), day(12, 31))]);
    assert!(busy.away.iter().all(|away| away.why.is_empty()), "what she does there is not taken over");
}

fn calendar(parts: &str) -> String {
    format!("BEGIN:VCALENDAR\r\nVERSION:2.0\r\nPRODID:-//somebody//EN\r\n{parts}END:VCALENDAR\r\n")
}

#[test]
fn free_and_busy_times_become_days() {
    // After the example of RFC 5545, 3.6.4.
    let file = calendar(
        "BEGIN:VFREEBUSY\r\nUID:1\r\nDTSTAMP:19970901T083000Z\r\n\
         FREEBUSY:20270314T233000Z/20270315T003000Z\r\n\
         FREEBUSY;FBTYPE=FREE:20270401T100000Z/20270401T110000Z\r\n\
         FREEBUSY;FBTYPE=BUSY-UNAVAILABLE:20270316T153000Z/PT1H,20270318T150000Z/P2D\r\n\
         END:VFREEBUSY\r\n",
    );
    let days: Vec<_> = busy_days(&file).unwrap().away.iter().map(|a| (a.from, a.to)).collect();
    assert_eq!(days, [(day(3, 14), day(3, 15)), (day(3, 16), day(3, 16)), (day(3, 18), day(3, 20))]);
}

#[test]
fn a_holiday_ends_on_its_last_day_and_what_is_free_is_not_busy() {
    let event =
        |more: &str| format!("BEGIN:VEVENT\r\nUID:1\r\nDTSTAMP:19970901T083000Z\r\n{more}END:VEVENT\r\n");
    let holiday = event("DTSTART;VALUE=DATE:20270705\r\nDTEND;VALUE=DATE:20270717\r\nSUMMARY:Sea\r\n");
    let free = event("DTSTART;VALUE=DATE:20270801\r\nTRANSP:TRANSPARENT\r\n");
    let weekly = event("DTSTART;TZID=Europe/Berlin:20270901T190000\r\nRRULE:FREQ=WEEKLY\r\n");
    let busy = busy_days(&calendar(&(holiday + &free + &weekly))).unwrap();
    let days: Vec<_> = busy.away.iter().map(|a| (a.from, a.to)).collect();
    assert_eq!(days, [(day(7, 5), day(7, 16)), (day(9, 1), day(9, 1))]);
    assert_eq!(busy.left_out, ["An entry that repeats is taken for its first day only, 1 September 2027."]);
}

#[test]
fn a_file_with_nothing_in_it_gets_its_sentence() {
    assert!(busy_days("").unwrap_err().contains("empty"));
    assert!(busy_days(" \r\n").unwrap_err().contains("empty"));
    assert!(busy_days("Dear workroom, I am away in July.").unwrap_err().contains("no calendar file"));
    assert!(busy_days(&calendar("")).unwrap_err().contains("no busy time"));
}
