//! Planning backwards from the wanted date, and forwards from today where that breaks.

use chrono::NaiveDate;

use super::days::Workdays;
use super::{DatePlan, HouseCalendar, PlannedVisit, Visit, VisitKind, Wish, said};

/// The visits of an order, first to last.
fn visits_of(wish: &Wish) -> Vec<Visit> {
    let settled = |kind| wish.settled.iter().any(|p| p.visit.kind == kind);
    let measured = wish.measured_on.is_some() && !settled(VisitKind::Measuring);
    let toiles = (1..=wish.toiles.max(1)).map(|number| Visit { kind: VisitKind::Toile, number });
    let one = |kind| Visit { kind, number: 1 };
    let before = [VisitKind::Measuring, VisitKind::Cutting].into_iter();
    before
        .filter(|kind| !(measured && *kind == VisitKind::Measuring))
        .map(one)
        .chain(toiles)
        .chain([VisitKind::ClothFitting, VisitKind::FinalFitting, VisitKind::Delivery].map(one))
        .collect()
}

/// Plans the dates of an order.
///
/// ```
/// use chrono::NaiveDate;
/// use yardwand_core::fitting::{HouseCalendar, Wish, plan_dates};
///
/// let day = |d| NaiveDate::from_ymd_opt(2027, 3, d).unwrap();
/// let wish = Wish {
///     today: day(1), wanted: NaiveDate::from_ymd_opt(2027, 6, 30).unwrap(), toiles: 2, away: vec![],
///     booked: vec![], measured_on: None, settled: vec![],
/// };
/// let plan = plan_dates(&HouseCalendar::default(), &wish);
/// assert!(plan.feasible);
/// assert_eq!(plan.visits.last().unwrap().on, wish.wanted);
/// ```
pub fn plan_dates(house: &HouseCalendar, wish: &Wish) -> DatePlan {
    let days = Workdays::of(house, wish);
    let visits = visits_of(wish);
    let forwards = forwards(house, &days, wish, &visits);
    let earliest = forwards.last().map_or(wish.wanted, |last| last.on);
    let mut says = Vec::new();
    let planned = match backwards(house, &days, wish, &visits) {
        Ok(planned) => planned,
        Err(breaks) => {
            says.push(breaks);
            says.push(format!("The earliest honest date is {}.", said(earliest)));
            return DatePlan {
                says: with_age(house, wish, &forwards, says),
                visits: forwards,
                feasible: false,
                earliest,
            };
        }
    };
    if let Some(last) = planned.last().filter(|last| last.on < wish.wanted && !last.settled) {
        let why = days.hinders(wish.wanted, VisitKind::Delivery).unwrap_or_default();
        says.push(format!("Delivery is on {}, since {why}.", said(last.on)));
    }
    DatePlan { says: with_age(house, wish, &planned, says), visits: planned, feasible: true, earliest }
}

/// Adds a word where readings will be too old when the toile is cut.
fn with_age(
    house: &HouseCalendar,
    wish: &Wish,
    planned: &[PlannedVisit],
    mut says: Vec<String>,
) -> Vec<String> {
    let on = |kind| planned.iter().find(|p| p.visit.kind == kind).map(|p| p.on);
    let measured = on(VisitKind::Measuring).or(wish.measured_on);
    if let (Some(measured), Some(cutting)) = (measured, on(VisitKind::Cutting)) {
        let age = (cutting - measured).num_days();
        if age > i64::from(house.reading_days) {
            says.push(format!(
                "Her readings will be {age} days old when the toile is cut; the house takes {}: measure her again.",
                house.reading_days
            ));
        }
    }
    says
}

fn settled(wish: &Wish, visit: Visit) -> Option<&PlannedVisit> {
    wish.settled.iter().find(|planned| planned.visit == visit)
}

fn planned(visit: Visit, on: NaiveDate, settled: bool) -> PlannedVisit {
    PlannedVisit { visit, name: visit.name(), on, settled }
}

/// From the wanted date to the first visit; or what breaks.
fn backwards(
    house: &HouseCalendar,
    days: &Workdays<'_>,
    wish: &Wish,
    visits: &[Visit],
) -> Result<Vec<PlannedVisit>, String> {
    let mut back: Vec<PlannedVisit> = Vec::with_capacity(visits.len());
    let never = || "The workroom is never open: set its days.".to_owned();
    for visit in visits.iter().rev().copied() {
        let next = back.last();
        if let Some(kept) = settled(wish, visit) {
            if let Some(next) = next {
                let gap = house.gaps.between(visit, next.visit);
                let there = days.between(kept.on, next.on);
                if there < gap {
                    return Err(format!(
                        "Between {} on {} and {} on {} there are {there} working days, and {gap} are needed.",
                        kept.name,
                        said(kept.on),
                        next.name,
                        said(next.on)
                    ));
                }
            }
            back.push(planned(visit, kept.on, true));
            continue;
        }
        let (latest, gap) = match next {
            None => (wish.wanted, 0),
            Some(next) => {
                let gap = house.gaps.between(visit, next.visit);
                (days.before(next.on, gap).ok_or_else(never)?, gap)
            }
        };
        let on = days.last_by(latest, visit.kind).ok_or_else(never)?;
        if on < wish.today {
            return Err(match next {
                None => format!("The wanted date, {}, lies before today.", said(wish.wanted)),
                Some(next) => format!(
                    "The {gap} working days from {} to {} break: {} would have been due on {}, before today.",
                    visit.name(),
                    next.name,
                    visit.name(),
                    said(on)
                ),
            });
        }
        back.push(planned(visit, on, false));
    }
    back.reverse();
    Ok(back)
}

/// From today to delivery, as soon as it honestly goes.
fn forwards(house: &HouseCalendar, days: &Workdays<'_>, wish: &Wish, visits: &[Visit]) -> Vec<PlannedVisit> {
    let mut there: Vec<PlannedVisit> = Vec::with_capacity(visits.len());
    for visit in visits.iter().copied() {
        let soonest = match there.last() {
            None => Some(wish.today),
            Some(last) => {
                days.after(last.on, house.gaps.between(last.visit, visit)).map(|day| day.max(wish.today))
            }
        };
        let free = soonest.and_then(|day| days.first_from(day, visit.kind));
        let kept = settled(wish, visit).map(|kept| kept.on);
        let Some(on) = kept.or(free) else { break };
        there.push(planned(visit, on, kept.is_some()));
    }
    there
}
