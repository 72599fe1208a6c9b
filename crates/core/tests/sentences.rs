//! Every sentence the core can say speaks the house's unit: no millimetres in an inch house, and none beside them in a
//! house of centimetres.

use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Recipe, alteration_views, make, preview};
use yardwand_core::body::{Beside, Body, catalogue, check_reading};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::{Entered, Length, Unit};

mod common;

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
    let body = common::worked_body()
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
