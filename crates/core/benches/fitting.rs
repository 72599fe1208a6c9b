//! What a fitter and a planner wait for: causes while she stands there, and a year of dates.
#![allow(missing_docs, reason = "criterion's macros make undocumented functions")]

use std::collections::HashMap;
use std::hint::black_box;

use chrono::{Days, NaiveDate};
use criterion::{Criterion, criterion_group, criterion_main};
use yardwand_core::Style;
use yardwand_core::fitting::{
    Away, Booked, Evidence, HouseCalendar, LevelOff, Observation, Off, Pinned, PinnedAs, PinnedOn, VisitKind,
    Wish, causes, plan_dates, read_observation, weigh, weigh_for,
};
use yardwand_core::pattern::{Garment, PatternMeasure};

const STYLE: Style = Style::EIGHTHS;

/// Thirty observations that are signs of as many causes, pinned, with figures and level lines beside them.
fn evidence() -> Evidence {
    let texts = causes().iter().map(|cause| cause.sure[0].text.replace(" on one side", ""));
    let one_place = texts.map(|text| {
        let (what, aim) = text
            .split_once(" towards ")
            .map_or((text.clone(), String::new()), |(a, b)| (a.to_owned(), b.to_owned()));
        let first = |part: &str| part.split(" or ").next().unwrap_or_default().to_owned();
        if aim.is_empty() { first(&what) } else { format!("{} towards {}", first(&what), first(&aim)) }
    });
    let pinned = Some(Pinned { depth: 9.0, pinned_as: PinnedAs::Tuck, on: PinnedOn::BothSides });
    let seen: Vec<Observation> =
        one_place.filter_map(|text| Some(Observation { pinned, ..read_observation(&text).ok()? })).collect();
    let off = |mm| Off { mm, tolerance: 5.0 };
    Evidence {
        seen: seen.into_iter().cycle().take(30).collect(),
        figures: HashMap::from([
            (PatternMeasure::Bust, off(30.0)),
            (PatternMeasure::CentreBack, off(12.0)),
            (PatternMeasure::ShoulderFront, off(-8.0)),
            (PatternMeasure::AcrossBack, off(3.0)),
        ]),
        level: [("waist centre back", 9.0), ("hip left", -5.0)]
            .into_iter()
            .filter_map(|(name, mm)| LevelOff::read(name, mm).ok())
            .collect(),
        garment: Garment::Bodice,
        ..Evidence::default()
    }
}

/// A year of orders, planned one after the other: each finds the days the ones before have taken.
fn a_year(orders: u64) -> usize {
    let today = NaiveDate::from_ymd_opt(2027, 1, 4).unwrap_or_default();
    let holiday = |from: u64, days: u64| Away {
        from: today + Days::new(from),
        to: today + Days::new(from + days),
        why: "holiday".to_owned(),
    };
    let house = HouseCalendar {
        a_day: 12,
        closed: vec![holiday(80, 4), holiday(200, 21), holiday(350, 12)],
        ..HouseCalendar::default()
    };
    let mut taken: HashMap<NaiveDate, u32> = HashMap::new();
    let mut kept = 0;
    for order in 0..orders {
        let wish = Wish {
            today,
            wanted: today + Days::new(60 + order * 365 / orders),
            toiles: 1 + (order % 3) as u32,
            away: vec![holiday(30 + order % 50, 6)],
            booked: taken.iter().map(|(on, count)| Booked { on: *on, count: *count }).collect(),
            measured_on: None,
            settled: Vec::new(),
        };
        let plan = plan_dates(&house, &wish);
        kept += usize::from(plan.feasible);
        for visit in plan.visits.iter().filter(|visit| visit.visit.kind != VisitKind::Cutting) {
            *taken.entry(visit.on).or_default() += 1;
        }
    }
    kept
}

fn fitting(c: &mut Criterion) {
    let evidence = evidence();
    c.bench_function("causes of 30 observations, weighed together", |b| {
        b.iter(|| weigh(black_box(&evidence), STYLE));
    });
    c.bench_function("causes of each of 30 observations", |b| {
        b.iter(|| {
            (0..30).map(|one| weigh_for(black_box(&evidence), one, STYLE).offered.len()).sum::<usize>()
        });
    });
    println!("of 400 orders of a year {} keep their wanted date", a_year(400));
    c.bench_function("a year of 400 orders planned", |b| b.iter(|| a_year(black_box(400))));
}

criterion_group!(benches, fitting);
criterion_main!(benches);
