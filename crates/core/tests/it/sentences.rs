//! Every sentence the core can say speaks the house's unit: no millimetres in an inch house, and none beside them in a
//! house of centimetres.

use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Recipe, alteration_views, make, preview};
use yardwand_core::body::{Beside, Body, Taken, catalogue, check_reading, matters};
use yardwand_core::draft::{Method, MethodKind, ParameterUnit, draft, parameters};
use yardwand_core::ease::ease_sets;
use yardwand_core::{Entered, Length, Unit};

/// A figure before a unit that does not belong into this house's sentences.
fn foreign(text: &str, style: Style) -> bool {
    let units: &[&str] = match style.unit() {
        Unit::Inch => &[" mm", " cm"],
        _ => &[" mm"],
    };
    units.iter().any(|unit| {
        text.match_indices(unit).any(|(at, _)| {
            let ends = !text[at + unit.len()..].starts_with(|c: char| c.is_alphanumeric());
            ends && text[..at].ends_with(|c: char| c.is_ascii_digit())
        })
    })
}

fn assert_own(text: &str, style: Style) {
    assert!(!foreign(text, style), "{:?}: {text}", style.unit());
    // Nothing is said in noughts, unless a limit lies there.
    let limit = text.contains("must lie between") || text.contains("is more than the");
    assert!(limit || !text.contains(" 0 in ") && !text.starts_with("0 in "), "{text}");
}

const STYLES: [Style; 2] = [Style::EIGHTHS, Style::TENTHS];

#[test]
fn what_alterations_say_of_themselves() {
    for style in STYLES {
        for view in alteration_views(style) {
            assert_own(&view.why, style);
            for param in &view.params {
                assert_own(&param.why, style);
            }
        }
    }
}

#[test]
fn what_is_said_of_steps_stages_limits_and_what_follows() {
    let body = crate::common::worked_body()
        .with("upper_arm_girth", 284.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("hip_girth", 990.0)
        .with("waist_to_hip", 206.0);
    let mut refused = 0;
    for style in STYLES {
        for kind in MethodKind::ALL {
            let method = Method { kind, with_sleeve: true, ..Method::default() };
            let drafted = draft(&body, &method, style).unwrap();
            for note in &drafted.notes {
                assert_own(&note.says, style);
            }
            for view in alteration_views(style) {
                let first = &view.params[0];
                for amount in [first.low, first.low / 2.0, first.high / 3.0, first.high] {
                    let recipe = Recipe::default().and(&view.code, Amounts::of(amount), "");
                    let made = make(&drafted.pattern, &recipe, style);
                    if let Some(Err(error)) = &made.steps[0].outcome {
                        assert_own(&error.to_string(), style);
                        refused += u32::from(matches!(error, AlterError::Beyond { .. }));
                    }
                    let shown = preview(&drafted.pattern, &recipe, Some(1), style);
                    let checks = shown.checks.iter().map(|check| check.says.clone());
                    let stages = shown.stages.iter().map(|stage| stage.words.clone());
                    let steps = shown.steps.iter().flat_map(|step| {
                        let follow = step.follow_ups.iter().map(|follow| follow.says.clone());
                        step.says.clone().into_iter().chain(step.choices.clone()).chain(follow)
                    });
                    for text in checks.chain(stages).chain(steps) {
                        assert_own(&text, style);
                    }
                }
            }
        }
    }
    assert!(refused > 10, "{refused}");
}

#[test]
fn what_is_doubted_about_readings() {
    for style in STYLES {
        for row in catalogue().iter().filter(|row| !row.wish) {
            for mm in [row.low * 0.55, row.low * 0.9, row.low, row.high, row.high * 1.2, row.high * 1.6] {
                let entered = Entered {
                    length: Length::from_mm(mm),
                    typed: style.write(Length::from_mm(mm)),
                    unit: style.unit(),
                };
                let beside = Beside { body: Body::middle().without(&row.code), ..Beside::default() };
                for finding in check_reading(row, &entered, &beside, style) {
                    assert_own(&finding.says, style);
                    assert_own(&finding.remedy, style);
                }
            }
        }
    }
}

#[test]
fn why_a_constant_stands_how_a_reading_was_taken_and_what_an_ease_is_for() {
    for style in STYLES {
        for row in MethodKind::ALL.into_iter().flat_map(|kind| parameters(kind, true)) {
            let said = style.say(row.reason);
            // A published figure is quoted as its source has it.
            if !row.reason.starts_with("Published") {
                assert_own(&said, style);
            }
            let bare = |word: &str| word.parse::<f64>().is_ok_and(|mm| mm >= 5.0);
            let inches = style == Style::EIGHTHS && said.split([' ', ',', ';']).any(bare);
            assert!(!inches || row.reason.starts_with("Published"), "a bare figure: {said}");
        }
        for matter in matters() {
            for school in &matter.schools {
                let taken =
                    Taken { schools: [(matter.code.clone(), school.code.clone())].into(), ease_mm: 0.0 };
                for code in &matter.applies {
                    let row = catalogue().iter().find(|row| row.code == *code).unwrap();
                    let entered = Entered {
                        length: Length::from_mm((row.low + row.high) / 2.0),
                        typed: String::new(),
                        unit: style.unit(),
                    };
                    let beside = Beside { taken: taken.clone(), body: Body::middle(), ..Beside::default() };
                    for finding in check_reading(row, &entered, &beside, style) {
                        assert_own(&finding.says, style);
                    }
                }
            }
        }
        for set in ease_sets(style.unit()) {
            assert_own(&style.say(&set.note), style);
        }
    }
}

/// In a house of inches nothing usual is a converted centimetre, and the other way round.
#[test]
fn what_is_usual_is_a_natural_figure_in_either_system() {
    use yardwand_core::pattern::Allowances;
    for (style, unit) in [(Style::EIGHTHS, Unit::Inch), (Style::TENTHS, Unit::Cm)] {
        // An eighth of an inch, or half a millimetre.
        let mark = if unit == Unit::Inch { 25.4 / 8.0 } else { 0.5 };
        let natural = |mm: f64| ((mm / mark).round() * mark - mm).abs() < 1e-9;
        let method = Method::usual(unit);
        let rows = MethodKind::ALL.into_iter().flat_map(|kind| parameters(kind, true));
        for row in rows.filter(|row| row.unit == ParameterUnit::Mm && !row.reason.starts_with("Published")) {
            let mm = row.of(&method);
            // Two figures of the direct school are sixteenths in its own inches.
            let close = unit == Unit::Cm && [12.7].contains(&mm);
            assert!(natural(mm) || close, "{}: {mm} mm in {unit:?}", row.code);
            assert!((row.least..=row.most).contains(&mm), "{}", row.code);
        }
        for set in ease_sets(unit) {
            for mm in [set.bust, set.waist, set.hip, set.across_back, set.upper_arm] {
                assert!(natural(mm), "{}: {mm}", set.code);
            }
        }
        let a = Allowances::usual(unit);
        for mm in [a.side, a.shoulder, a.waist, a.neckline, a.armhole, a.centre, a.hem] {
            assert!(natural(mm), "{mm}");
            assert!(
                !style.typed_exactly(mm).contains(' ') || unit == Unit::Inch,
                "{}",
                style.typed_exactly(mm)
            );
        }
    }
    assert_eq!(Style::EIGHTHS.typed_exactly(Method::usual(Unit::Inch).direct.front_share), "3/8");
    assert_eq!(Style::EIGHTHS.typed_exactly(Method::usual(Unit::Inch).direct.shoulder_dart_mouth), "1/2");
}

proptest::proptest! {
    /// What a field shows reads back as the very same length, whatever the house.
    #[test]
    fn what_stands_in_a_field_reads_back_as_the_same(mm in -150.0..600.0_f64, sixteenths in 0..400_u32, tenths in 0..4000_u32) {
        for style in [Style::EIGHTHS, Style::TENTHS, Style::Inch { denominator: 4 }, Style::Cm { steps: 2 }] {
            for mm in [mm, f64::from(sixteenths) * 25.4 / 16.0, f64::from(tenths) / 10.0, 12.7, 50.0, 9.525] {
                let text = style.typed_exactly(mm);
                let back = Length::read_signed(&text, style.unit()).unwrap();
                proptest::prop_assert!((back - mm).abs() < 1e-4, "{mm} became {text} and {back}");
            }
        }
    }
}
