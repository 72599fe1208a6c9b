//! The calendar on random houses and wishes, and worked dates (counted by hand on a 2027 calendar).

use chrono::{Datelike, Days, NaiveDate};
use proptest::prelude::*;
use yardwand_core::fitting::{
    Away, Booked, DatePlan, Gaps, HouseCalendar, PlannedVisit, Visit, VisitKind, Wish, move_visit, plan_dates,
};

fn day(month: u32, day: u32) -> NaiveDate {
    NaiveDate::from_ymd_opt(2027, month, day).unwrap()
}

fn wish(today: NaiveDate, wanted: NaiveDate) -> Wish {
    Wish { today, wanted, toiles: 2, away: vec![], booked: vec![], measured_on: None, settled: vec![] }
}

fn on(plan: &DatePlan, kind: VisitKind, number: u32) -> NaiveDate {
    plan.visits.iter().find(|p| p.visit == Visit { kind, number }).unwrap().on
}

#[test]
fn a_plan_is_counted_back_in_working_days() {
    // Wednesday 30 June 2027 back: 4 working days to Thursday 24, 7 to Tuesday 15, 8 to Thursday 3 June, 5 to Thursday
    // 27 May, 2 to Tuesday 25, 3 to Thursday 20 May.
    let plan = plan_dates(&HouseCalendar::default(), &wish(day(3, 1), day(6, 30)));
    assert!(plan.feasible, "{plan:?}");
    assert_eq!(on(&plan, VisitKind::Delivery, 1), day(6, 30));
    assert_eq!(on(&plan, VisitKind::FinalFitting, 1), day(6, 24));
    assert_eq!(on(&plan, VisitKind::ClothFitting, 1), day(6, 15));
    assert_eq!(on(&plan, VisitKind::Toile, 2), day(6, 3));
    assert_eq!(on(&plan, VisitKind::Toile, 1), day(5, 27));
    assert_eq!(on(&plan, VisitKind::Cutting, 1), day(5, 25));
    assert_eq!(on(&plan, VisitKind::Measuring, 1), day(5, 20));
}

#[test]
fn closed_days_her_days_and_full_days_are_passed_over() {
    let house = HouseCalendar {
        closed: vec![Away { from: day(6, 14), to: day(6, 18), why: "stocktaking".into() }],
        ..HouseCalendar::default()
    };
    let her = Wish {
        away: vec![Away { from: day(6, 1), to: day(6, 3), why: String::new() }],
        booked: vec![Booked { on: day(5, 28), count: 4 }],
        ..wish(day(3, 1), day(6, 30))
    };
    let plan = plan_dates(&house, &her);
    // Counted back over the closed week: the cloth fitting on Tuesday 8 June, eight before it Thursday 27 May.
    assert_eq!(on(&plan, VisitKind::ClothFitting, 1), day(6, 8));
    assert_eq!(on(&plan, VisitKind::Toile, 2), day(5, 27));
}

#[test]
fn what_cannot_be_says_which_gap_breaks_and_the_earliest_honest_date() {
    let plan = plan_dates(&HouseCalendar::default(), &wish(day(6, 1), day(6, 30)));
    assert!(!plan.feasible);
    // Forwards from Tuesday 1 June: 3, 2, 5, 8, 7 and 4 working days later is Monday 12 July.
    assert_eq!(plan.earliest, day(7, 12));
    assert!(plan.says[0].contains("toile 1 to toile 2") || plan.says[0].contains("break"), "{:?}", plan.says);
    assert_eq!(plan.says[1], "The earliest honest date is Monday 12 July 2027.");
    let before = plan_dates(&HouseCalendar::default(), &wish(day(6, 1), day(5, 3)));
    assert_eq!(before.says[0], "The wanted date, Monday 3 May 2027, lies before today.");
}

#[test]
fn old_readings_are_asked_for_again_and_fresh_ones_save_the_visit() {
    let fresh = Wish { measured_on: Some(day(5, 1)), ..wish(day(5, 3), day(7, 30)) };
    let plan = plan_dates(&HouseCalendar::default(), &fresh);
    assert!(plan.visits.iter().all(|p| p.visit.kind != VisitKind::Measuring));
    assert!(plan.says.is_empty(), "{:?}", plan.says);
    let old = Wish { measured_on: Some(day(1, 1)), ..fresh };
    let plan = plan_dates(&HouseCalendar::default(), &old);
    assert!(plan.says[0].contains("measure her again"), "{:?}", plan.says);
}

#[test]
fn a_house_that_is_never_open_says_so() {
    let house = HouseCalendar { open: [false; 7], ..HouseCalendar::default() };
    let plan = plan_dates(&house, &wish(day(3, 1), day(6, 30)));
    assert!(!plan.feasible);
    assert!(plan.says[0].contains("never open"), "{:?}", plan.says);
}

#[test]
fn moving_a_date_moves_what_depends_on_it_and_refuses_what_cannot_be() {
    let house = HouseCalendar {
        closed: vec![Away { from: day(6, 7), to: day(6, 7), why: "fair".into() }],
        ..HouseCalendar::default()
    };
    let wish = wish(day(3, 1), day(6, 30));
    let plan = plan_dates(&house, &wish);
    let toile = Visit { kind: VisitKind::Toile, number: 2 };
    let moved = move_visit(&house, &wish, &plan.visits, toile, day(6, 8)).unwrap();
    assert_eq!(moved.moves.len(), 3, "cloth, final and delivery follow: {:?}", moved.moves);
    assert!(moved.late.unwrap().contains("after the wanted date"));
    let refused = |to| move_visit(&house, &wish, &plan.visits, toile, to).unwrap_err();
    assert_eq!(refused(day(6, 7)), "the workroom is closed on Monday 7 June 2027 (fair): choose another day");
    assert!(refused(day(2, 26)).contains("lies before today"));
    assert!(refused(day(3, 2)).contains("before today: "), "{}", refused(day(3, 2)));
    let mut settled = plan.visits.clone();
    settled[0].settled = true;
    let soon = move_visit(&house, &wish, &settled, Visit { kind: VisitKind::Cutting, number: 1 }, day(5, 18));
    assert!(soon.unwrap_err().contains("stays where it is"));
}

prop_compose! {
    fn house()(
        gaps in prop::collection::vec(0u32..9, 6),
        open in prop::array::uniform7(prop::bool::weighted(0.75)),
        closed in prop::collection::vec((0u64..300, 0u64..12), 0..5),
        a_day in 1u32..4,
    ) -> HouseCalendar {
        let away = |(from, length): (u64, u64)| {
            let from = day(1, 4) + Days::new(from);
            Away { from, to: from + Days::new(length), why: String::new() }
        };
        HouseCalendar {
            gaps: Gaps {
                measuring_to_cutting: gaps[0], cutting_to_toile: gaps[1], toile_to_toile: gaps[2],
                toile_to_cloth: gaps[3], cloth_to_final: gaps[4], final_to_delivery: gaps[5],
            },
            // A house that never opens is another test.
            open: if open.iter().any(|day| *day) { open } else { [true; 7] },
            closed: closed.into_iter().map(away).collect(),
            a_day,
            ..HouseCalendar::default()
        }
    }
}

fn working_days(house: &HouseCalendar, from: NaiveDate, to: NaiveDate) -> u32 {
    from.iter_days().skip(1).take_while(|d| *d <= to).filter(|d| is_open(house, *d)).count() as u32
}

fn is_open(house: &HouseCalendar, day: NaiveDate) -> bool {
    house.open[day.weekday().num_days_from_monday() as usize]
        && !house.closed.iter().any(|c| (c.from..=c.to).contains(&day))
}

fn gap(house: &HouseCalendar, from: Visit, to: Visit) -> u32 {
    match (from.kind, to.kind) {
        (VisitKind::Measuring, _) => house.gaps.measuring_to_cutting,
        (VisitKind::Cutting, _) => house.gaps.cutting_to_toile,
        (VisitKind::Toile, VisitKind::Toile) => house.gaps.toile_to_toile,
        (VisitKind::Toile, _) => house.gaps.toile_to_cloth,
        (VisitKind::ClothFitting, _) => house.gaps.cloth_to_final,
        _ => house.gaps.final_to_delivery,
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, ..ProptestConfig::default() })]

    #[test]
    fn every_plan_keeps_its_gaps_its_open_days_and_her_days(
        house in house(), wanted in 0u64..260, away in 0u64..260, length in 0u64..20, toiles in 1u32..4,
        booked in prop::collection::vec(0u64..260, 0..40),
    ) {
        let today = day(1, 4);
        let from = today + Days::new(away);
        let mut full: Vec<Booked> =
            booked.iter().map(|n| Booked { on: today + Days::new(*n), count: house.a_day }).collect();
        full.dedup_by_key(|b| b.on);
        let wish = Wish {
            toiles,
            away: vec![Away { from, to: from + Days::new(length), why: String::new() }],
            booked: full,
            ..wish(today, today + Days::new(wanted))
        };
        let plan = plan_dates(&house, &wish);
        for planned in &plan.visits {
            prop_assert!(is_open(&house, planned.on), "{planned:?} on a closed day");
            prop_assert!(planned.on >= today);
            if planned.visit.kind.needs_client() {
                prop_assert!(!wish.away.iter().any(|a| (a.from..=a.to).contains(&planned.on)), "{planned:?} away");
                prop_assert!(wish.booked.iter().all(|b| b.on != planned.on), "{planned:?} full");
            }
        }
        for pair in plan.visits.windows(2) {
            let needed = gap(&house, pair[0].visit, pair[1].visit);
            prop_assert!(working_days(&house, pair[0].on, pair[1].on) >= needed, "{pair:?}");
        }
        let last: &PlannedVisit = plan.visits.last().unwrap();
        if plan.feasible {
            prop_assert!(last.on <= wish.wanted);
            // Nothing honest is later than a plan that holds.
            prop_assert!(plan.earliest <= last.on, "{} {}", plan.earliest, last.on);
        } else {
            prop_assert_eq!(plan.earliest, last.on);
            prop_assert!(plan.says.len() >= 2);
        }
    }
}
