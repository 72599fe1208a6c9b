//! Which of the older backups are kept: all of the two days before the newest, and the newest of each of the last 14 days, 8 weeks
//! and 24 months that have one.

use std::collections::BTreeSet;

use chrono::{DateTime, Datelike, NaiveDateTime, TimeDelta, Utc};

/// Of so long before the newest all are kept: one taken by hand before something risky is among them.
const ALL: TimeDelta = TimeDelta::hours(48);
const DAYS: usize = 14;
const WEEKS: usize = 8;
const MONTHS: usize = 24;

/// The name of a backup of this moment.
pub fn name_of(taken_at: DateTime<Utc>, encrypted: bool) -> String {
    let end = if encrypted { "zip.age" } else { "zip" };
    // To the thousandth: no two have one name.
    format!("yardwand-{}.{end}", taken_at.format("%Y%m%dT%H%M%S%.3fZ"))
}

/// The moment that the name of a backup says; nothing for a file of another kind.
pub fn taken_at(name: &str) -> Option<DateTime<Utc>> {
    let moment = name.strip_prefix("yardwand-")?;
    let moment = moment.strip_suffix(".zip.age").or_else(|| moment.strip_suffix(".zip"))?;
    NaiveDateTime::parse_from_str(moment, "%Y%m%dT%H%M%S%.3fZ").ok().map(|moment| moment.and_utc())
}

/// Those of these backups that are not kept.
pub fn superfluous(all: &[DateTime<Utc>]) -> Vec<DateTime<Utc>> {
    let mut newest_first: Vec<_> = all.to_vec();
    newest_first.sort_unstable_by(|a, b| b.cmp(a));
    let newest = newest_first.first().copied();
    let mut kept: BTreeSet<_> =
        newest_first.iter().copied().filter(|at| newest.is_some_and(|newest| newest - *at <= ALL)).collect();
    keep(&newest_first, DAYS, |at| (at.year(), at.ordinal()), &mut kept);
    keep(&newest_first, WEEKS, |at| (at.iso_week().year(), at.iso_week().week()), &mut kept);
    keep(&newest_first, MONTHS, |at| (at.year(), at.month()), &mut kept);
    newest_first.retain(|at| !kept.contains(at));
    newest_first
}

/// Keeps the newest of each span, of so many spans that have one.
fn keep<S: Ord>(
    newest_first: &[DateTime<Utc>],
    most: usize,
    span: impl Fn(&DateTime<Utc>) -> S,
    kept: &mut BTreeSet<DateTime<Utc>>,
) {
    let mut spans = BTreeSet::new();
    for at in newest_first {
        let span = span(at);
        if !spans.contains(&span) && spans.len() < most {
            spans.insert(span);
            kept.insert(*at);
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn noon(day: u32) -> DateTime<Utc> {
        NaiveDateTime::parse_from_str(&format!("202611{day:02}T120000Z"), "%Y%m%dT%H%M%SZ").unwrap().and_utc()
    }

    #[test]
    fn a_name_says_its_moment_and_other_files_say_none() {
        let at = noon(30);
        for encrypted in [false, true] {
            assert_eq!(taken_at(&name_of(at, encrypted)), Some(at));
        }
        for other in [
            "yardwand-20261130T120000.000Z.zip.part",
            "yardwand-notes.zip",
            "20261130T120000Z.zip",
            "other.zip",
        ] {
            assert_eq!(taken_at(other), None, "{other}");
        }
    }

    #[test]
    fn of_a_backup_an_hour_for_three_years_the_days_weeks_and_months_are_kept() {
        let all: Vec<_> = (0..3 * 365 * 24).map(|hour| noon(30) - TimeDelta::hours(hour)).collect();
        let gone: BTreeSet<_> = superfluous(&all).into_iter().collect();
        let kept: Vec<_> = all.iter().filter(|at| !gone.contains(at)).collect();
        assert_eq!(kept[0], &noon(30), "the newest is never superfluous");
        assert!(
            (0..=48).all(|hours| !gone.contains(&(noon(30) - TimeDelta::hours(hours)))),
            "all of two days"
        );
        let days: BTreeSet<_> = kept.iter().map(|at| at.date_naive()).collect();
        assert_eq!(kept.len() - 49, days.len() - 3, "one a day before that");
        for back in 0..14 {
            assert!(days.contains(&(noon(30) - TimeDelta::days(back)).date_naive()), "{back} days back");
        }
        // 14 days; the weeks before them, of which the last 2 lie in those days; the months likewise.
        assert!((14 + 5..=14 + 8 + 24).contains(&days.len()), "{}", days.len());
        let oldest = kept.last().unwrap();
        assert!((noon(30) - **oldest).num_days() > 23 * 30, "two years back: {oldest}");
    }

    #[test]
    fn a_house_that_is_backed_up_now_and_then_keeps_all_of_them() {
        let seldom: Vec<_> = (0..20).map(|month| noon(30) - TimeDelta::days(month * 31)).collect();
        assert!(superfluous(&seldom).is_empty());
        assert!(superfluous(&[]).is_empty());
    }
}
