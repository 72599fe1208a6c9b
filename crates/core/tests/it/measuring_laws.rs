//! Laws of measuring over random bodies and readings.

use proptest::prelude::*;
use yardwand_core::body::{
    Beside, Body, Earlier, FINGER, Frame, LatestReading, Profile, Repair, Side, Taken, View, Worth,
    catalogue, check_body, check_reading, draw_body, draw_tape, matters_of, measurement, median, padding,
    precision, wants_third, worth,
};
use yardwand_core::{Length, Style, Unit};

/// A middle figure with every length stretched on its own.
fn any_body() -> impl Strategy<Value = Body> {
    let count = catalogue().iter().filter(|row| !row.wish).count();
    prop::collection::vec(0.75..1.35f64, count).prop_map(|stretch| {
        let middle = Body::middle();
        let rows = catalogue().iter().filter(|row| !row.wish).zip(stretch);
        rows.filter_map(|(row, by)| Some((row.code.clone(), middle.get(&row.code)? * by))).collect()
    })
}

fn any_code() -> impl Strategy<Value = String> {
    prop::sample::select(catalogue().iter().map(|row| row.code.clone()).collect::<Vec<_>>())
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    /// Whatever is typed beside whatever is known: a doubt names its own reading, says what to do, and a repair can be
    /// typed as it is offered.
    #[test]
    fn a_doubt_is_about_its_reading_and_a_repair_can_be_typed(
        body in any_body(),
        code in any_code(),
        text in "[1-9][0-9]{0,2}( [1-7]/8)?",
        last in prop::option::of(100.0..1500.0f64),
    ) {
        let row = measurement(&code).unwrap();
        let Ok(entered) = Length::read(&text, Unit::Cm) else { return Ok(()) };
        let last = last.map(|mm| Earlier { mm, taken: Taken::default(), days_ago: 100 });
        let beside = Beside { last, ..Beside::body(body.without(&code)) };
        for finding in check_reading(row, &entered, &beside, Style::TENTHS) {
            prop_assert_eq!(&finding.measurement, &code);
            prop_assert!(!finding.says.is_empty() && !finding.remedy.is_empty());
            // What is exchanged, or was taken by another school, is not typed anew.
            let is_typed = |repair: &Repair| repair.exchange_with.is_none() && repair.school.is_none();
            if let Some(repair) = finding.repair.filter(is_typed) {
                let read = Length::read(&repair.text, Unit::Cm).unwrap();
                prop_assert!((read.length.mm() - repair.mm).abs() < 1e-6, "{} is {}", repair.text, repair.mm);
            }
        }
    }

    /// A figure inside its range is never a stop, whatever else is known.
    #[test]
    fn nothing_in_range_is_ever_a_stop(body in any_body(), code in any_code(), share in 0.0..=1.0f64) {
        use yardwand_core::body::Grade;
        let row = measurement(&code).unwrap();
        let mm = row.low + share * (row.high - row.low);
        let text = format!("{mm:.3} mm");
        let entered = Length::read(&text, Unit::Mm).unwrap();
        let found = check_reading(row, &entered, &Beside::body(body.without(&code)), Style::EIGHTHS);
        prop_assert!(found.iter().all(|finding| finding.grade < Grade::Stop), "{found:?}");
    }

    /// Every relation is about a difference or a ratio: a body checked whole says no more than its readings one by one.
    #[test]
    fn a_whole_body_is_doubted_no_more_than_its_readings(body in any_body()) {
        let whole = check_body(&body, Style::TENTHS).len();
        let singly: usize = body
            .iter()
            .filter_map(|(code, mm)| {
                let entered = Length::read(&format!("{mm:.4} mm"), Unit::Mm).ok()?;
                let beside = Beside::body(body.clone().without(code));
                Some(check_reading(measurement(code)?, &entered, &beside, Style::TENTHS).len())
            })
            .sum();
        prop_assert!(whole <= singly, "{whole} against {singly}");
    }

    /// Each way of taking a reading ends in one of four: as taken, assumed, converted within its give, or asked for.
    #[test]
    fn every_school_has_a_worth(body in any_body(), code in any_code(), mm in 100.0..1500.0f64) {
        let row = measurement(&code).unwrap();
        for matter in matters_of(&code) {
            for (place, school) in matter.schools.iter().enumerate() {
                let mut taken = Taken::default();
                taken.schools.insert(matter.code.clone(), school.code.clone());
                match worth(row, mm, &taken, &body, FINGER) {
                    // How firmly the tape is held changes no figure by any rule: it is kept.
                    Worth::AsTaken => {
                        prop_assert!(place == 0 || matter.code == "firmness", "{} {}", matter.code, school.code);
                    }
                    Worth::Assumed { says } | Worth::Ask { says } => prop_assert!(!says.is_empty()),
                    Worth::Converted { mm: converted, give, .. } => {
                        prop_assert!(give > 0.0 || converted != mm);
                        prop_assert!((converted - mm).abs() < 0.3 * mm + 110.0, "{mm} became {converted}");
                    }
                }
                prop_assert!(taken.unknown().is_none());
            }
        }
    }

    /// The profile's body holds each measured figure once, between her sides, and no estimate.
    #[test]
    fn a_profile_lies_between_the_sides(
        left in 100.0..160.0f64, right in 100.0..160.0f64, bust in 800.0..1200.0f64,
    ) {
        let reading = |code: &str, side, mm| LatestReading {
            code: code.into(), side, mm, taken: Taken::default(), days_ago: 3, takes: 1, error_mm: None,
        };
        let latest = [
            reading("shoulder_length", Side::Left, left),
            reading("shoulder_length", Side::Right, right),
            reading("bust_girth", Side::Both, bust),
        ];
        let every: Vec<String> = catalogue().iter().map(|row| row.code.clone()).collect();
        let profile = Profile::of(&latest, FINGER).with_estimates(&every);
        let body = profile.body();
        prop_assert_eq!(body.iter().count(), 2);
        let shoulder = body.get("shoulder_length").unwrap();
        prop_assert!((left.min(right)..=left.max(right)).contains(&shoulder));
        let turns: Vec<u32> = profile.0.iter().map(|figure| measurement(&figure.code).unwrap().turn).collect();
        prop_assert!(turns.is_sorted());
        prop_assert!(profile.0.iter().all(|f| f.estimated == f.days_ago.is_none()));
    }

    /// The median lies between the takes, does not mind their order, and of three ignores one that is far off.
    #[test]
    fn the_median_is_a_middle(takes in prop::collection::vec(500.0..1000.0f64, 1..6), off in 1.0..3000.0f64) {
        let middle = median(&takes).unwrap();
        let (low, high) = takes.iter().fold((f64::MAX, f64::MIN), |(l, h), t| (l.min(*t), h.max(*t)));
        prop_assert!((low..=high).contains(&middle));
        let mut turned = takes.clone();
        turned.reverse();
        prop_assert_eq!(median(&turned), Some(middle));
        prop_assert_eq!(median(&[takes[0], off, takes[0]]), Some(takes[0]));
        prop_assert!(!wants_third(measurement("bust_girth").unwrap(), &[takes[0], off, takes[0]]));
    }

    /// The technical error does not mind which take came first, and grows with the spread.
    #[test]
    fn the_technical_error_measures_spread(
        bodies in prop::collection::vec((600.0..1200.0f64, 0.5..9.0f64), 1..12), factor in 1.1..4.0f64,
    ) {
        let takes = |by: f64| bodies.iter().map(|(mm, d)| vec![mm - d * by, mm + d * by]).collect::<Vec<_>>();
        let turned: Vec<_> = takes(1.0).into_iter().map(|mut t| { t.reverse(); t }).collect();
        let (one, same, more) =
            (precision(&takes(1.0)).unwrap(), precision(&turned).unwrap(), precision(&takes(factor)).unwrap());
        prop_assert!((one.tem_mm - same.tem_mm).abs() < 1e-9);
        prop_assert!((more.tem_mm - factor * one.tem_mm).abs() < 1e-6);
        // Two takes: √(Σd²/2n) with d = 2·spread.
        let d2: f64 = bodies.iter().map(|(_, d)| (2.0 * d).powi(2)).sum();
        prop_assert!((one.tem_mm - (d2 / (2.0 * bodies.len() as f64)).sqrt()).abs() < 1e-9);
    }

    /// Any body can be drawn from three sides, every tape lies on the sheet of its view, and a frame shows it.
    #[test]
    fn every_tape_lies_on_every_figure(body in any_body()) {
        for row in catalogue() {
            let drawing = draw_body(row.tape.view, &body);
            let tape = draw_tape(&row.tape, &body).unwrap();
            let frame = if tape.frame == Frame::Whole { &drawing.bounds } else { &drawing.upper };
            for p in &tape.points {
                prop_assert!(p.x.is_finite() && p.y.is_finite());
                let inside = (frame.x - 20.0..=frame.x + frame.width + 20.0).contains(&p.x)
                    && (frame.y - 20.0..=frame.y + frame.height + 20.0).contains(&p.y);
                prop_assert!(inside, "{} {p:?} {frame:?}", row.code);
            }
        }
        for view in [View::Front, View::Back, View::Side] {
            for path in draw_body(view, &body).body {
                prop_assert!(!path.contains("NaN") && path.starts_with('M'), "{path}");
            }
        }
    }

    /// Winding what is missing makes the form's girth hers: the thickness all round is the difference over 2π.
    #[test]
    fn padding_closes_the_gap(form in any_body(), client in any_body()) {
        let list = padding(&form, &client, Style::TENTHS);
        for level in &list.levels {
            let wound = level.form.mm + std::f64::consts::TAU * level.thickness.mm;
            prop_assert!(wound >= level.form.mm - 1e-9);
            if level.missing.mm > 0.0 {
                prop_assert!((wound - level.client.mm).abs() < 1e-9);
            }
        }
        prop_assert_eq!(list.too_large, list.levels.iter().any(|level| level.form.mm - level.client.mm > 5.0));
    }
}
