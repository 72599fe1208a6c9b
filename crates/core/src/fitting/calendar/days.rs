//! Working days, days she can come, and days that are full.

use std::collections::HashMap;

use chrono::{Datelike, Days, NaiveDate};

use super::{Away, HouseCalendar, VisitKind, Wish};

/// No plan looks further than this, in days: a house that is never open is not searched for ever.
const HORIZON: u64 = 1500;

/// The days of one order in one house.
pub(super) struct Workdays<'a> {
    house: &'a HouseCalendar,
    away: &'a [Away],
    booked: HashMap<NaiveDate, u32>,
}

impl<'a> Workdays<'a> {
    pub(super) fn of(house: &'a HouseCalendar, wish: &'a Wish) -> Self {
        Self { house, away: &wish.away, booked: wish.booked.iter().map(|b| (b.on, b.count)).collect() }
    }

    pub(super) fn is_open(&self, day: NaiveDate) -> bool {
        let weekday = day.weekday().num_days_from_monday() as usize;
        self.house.open[weekday] && !self.house.closed.iter().any(|closed| closed.holds(day))
    }

    /// Why a visit cannot be on a day; `None` where it can.
    pub(super) fn hinders(&self, day: NaiveDate, kind: VisitKind) -> Option<String> {
        let on = super::said(day);
        if !self.is_open(day) {
            let closed = self.house.closed.iter().find(|closed| closed.holds(day) && !closed.why.is_empty());
            let why = closed.map(|closed| format!(" ({})", closed.why)).unwrap_or_default();
            return Some(format!("the workroom is closed on {on}{why}"));
        }
        if !kind.needs_client() {
            return None;
        }
        if let Some(away) = self.away.iter().find(|away| away.holds(day)) {
            let why = if away.why.is_empty() { String::new() } else { format!(" ({})", away.why) };
            return Some(format!("she is away on {on}{why}"));
        }
        let booked = self.booked.get(&day).copied().unwrap_or_default();
        (booked >= self.house.a_day).then(|| format!("{on} is full: {booked} clients come already"))
    }

    fn can(&self, day: NaiveDate, kind: VisitKind) -> bool {
        self.is_open(day)
            && (!kind.needs_client()
                || (!self.away.iter().any(|away| away.holds(day))
                    && self.booked.get(&day).is_none_or(|count| *count < self.house.a_day)))
    }

    /// The last day on or before one on which a visit can be.
    pub(super) fn last_by(&self, day: NaiveDate, kind: VisitKind) -> Option<NaiveDate> {
        (0..HORIZON).filter_map(|n| day.checked_sub_days(Days::new(n))).find(|day| self.can(*day, kind))
    }

    /// The first day on or after one on which a visit can be.
    pub(super) fn first_from(&self, day: NaiveDate, kind: VisitKind) -> Option<NaiveDate> {
        (0..HORIZON).filter_map(|n| day.checked_add_days(Days::new(n))).find(|day| self.can(*day, kind))
    }

    /// So many working days before a day.
    pub(super) fn before(&self, day: NaiveDate, gap: u32) -> Option<NaiveDate> {
        self.count(day, gap, NaiveDate::pred_opt)
    }

    /// So many working days after a day.
    pub(super) fn after(&self, day: NaiveDate, gap: u32) -> Option<NaiveDate> {
        self.count(day, gap, NaiveDate::succ_opt)
    }

    /// Working days from one day to a later one.
    pub(super) fn between(&self, from: NaiveDate, to: NaiveDate) -> u32 {
        from.iter_days().skip(1).take_while(|day| *day <= to).filter(|day| self.is_open(*day)).count() as u32
    }

    fn count(
        &self,
        mut day: NaiveDate,
        gap: u32,
        step: fn(&NaiveDate) -> Option<NaiveDate>,
    ) -> Option<NaiveDate> {
        let mut left = gap;
        for _ in 0..HORIZON {
            if left == 0 {
                return Some(day);
            }
            day = step(&day)?;
            left -= u32::from(self.is_open(day));
        }
        None
    }
}
