//! The construction sheet never says what was not drawn: every formula, with its numbers put in, is worked out
//! by a calculator that shares no code with the draft (`evalexpr`), and must give the figure that was used.

use crate::common::{bodies, worked_body};
use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::draft::{Draft, Method, MethodKind, StepLine, draft, parameters, step_views};

fn whole_body() -> Body {
    worked_body()
        .with("upper_arm_girth", 316.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("wrist_girth", 160.0)
        .with("hip_girth", 1000.0)
        .with("waist_to_hip", 205.0)
}

/// The formula as a calculator wants it, in millimetres; angles of sines are meant in degrees.
fn worked_out(line: &StepLine) -> f64 {
    let filled = line.terms.iter().fold(line.formula.to_owned(), |text, term| {
        text.replace(&format!("{{{}}}", term.name), &format!("({:.9})", term.value))
    });
    // The calculator's own word for what the sheet says.
    let filled = match filled.strip_prefix("the smaller of ").and_then(|of| of.split_once(" and ")) {
        Some((one, other)) => format!("min({one}, {other})"),
        None => filled,
    };
    let plain = filled
        .replace('×', "*")
        .replace('−', "-")
        .replace('√', "math::sqrt")
        .replace('²', "^2")
        .replace("asin(", "57.29577951308232 * math::asin(")
        .replace("cos(", "math::cos(0.017453292519943295 * ")
        .replace("tan(", "math::tan(0.017453292519943295 * ");
    assert!(!plain.contains('{'), "a term of “{}” is not put in: {plain}", line.formula);
    evalexpr::eval_number(&decimals(&plain)).unwrap_or_else(|error| panic!("{plain}: {error}"))
}

/// Whole numbers of a formula as decimals: the calculator divides whole numbers without a rest.
fn decimals(formula: &str) -> String {
    formula
        .split(' ')
        .map(|word| {
            let digits = word.trim_matches(|c| c == '(' || c == ')');
            let whole = !digits.is_empty() && digits.chars().all(|c| c.is_ascii_digit());
            if whole { word.replace(digits, &format!("{digits}.0")) } else { word.to_owned() }
        })
        .collect::<Vec<_>>()
        .join(" ")
}

fn agrees(drafted: &Draft, what: &str) -> usize {
    let lines = drafted.steps.iter().flat_map(|step| &step.lines);
    lines
        .map(|line| {
            let worked = worked_out(line);
            assert!(
                (worked - line.value).abs() < 1e-5,
                "{what}: {} = {}: {worked} for {}",
                line.name,
                line.formula,
                line.value
            );
        })
        .count()
}

#[test]
fn every_formula_of_every_method_gives_the_figure_that_was_drawn() {
    for kind in MethodKind::ALL {
        let mut method = Method { kind, with_sleeve: true, ..Method::default() };
        let drafted = draft(&whole_body(), &method, Style::EIGHTHS).unwrap();
        let lines = agrees(&drafted, kind.name());
        let least = if kind.has_armhole() { 20 } else { 15 };
        assert!(lines >= least, "{}: only {lines} figures are told", kind.name());
        method.direct.cup_to_front = true;
        for body in bodies(20, 5) {
            agrees(&draft(&body, &method, Style::EIGHTHS).unwrap(), kind.name());
        }
    }
}

#[test]
fn a_sheet_gives_exact_and_rounded_figures_in_the_houses_unit() {
    let drafted = draft(&whole_body(), &Method::default(), Style::EIGHTHS).unwrap();
    let inches = step_views(&drafted.steps, Style::EIGHTHS);
    let width = &inches[0].lines[0];
    assert_eq!(width.formula, "neck base girth / 5 − neck width, less");
    assert_eq!(width.put_in, "14.5 / 5 − 0.118");
    assert_eq!((width.exact.as_str(), width.rounded.as_str()), ("2.782 in", "2 3/4 in"));
    let cm = step_views(&drafted.steps, Style::TENTHS);
    assert_eq!(cm[0].lines[0].put_in, "36.83 / 5 − 0.3");
    assert_eq!((cm[0].lines[0].exact.as_str(), cm[0].lines[0].rounded.as_str()), ("7.066 cm", "7.1 cm"));
    for step in inches {
        assert!(!step.title.is_empty() && (!step.paths.is_empty() || !step.points.is_empty()), "{step:?}");
        for line in step.lines {
            assert!(!line.put_in.contains('{') && !line.formula.contains('{'), "{line:?}");
        }
    }
}

/// Changing a constant changes the draft, and nothing outside its limits is taken.
#[test]
fn every_constant_is_named_limited_and_does_something() {
    for kind in MethodKind::ALL {
        let method = Method { kind, with_sleeve: true, ..Method::default() };
        let before = draft(&whole_body(), &method, Style::TENTHS).unwrap();
        for row in parameters(kind, true) {
            let value = row.of(&method);
            assert!((row.least..=row.most).contains(&value), "{}: {value}", row.code);
            assert!(!row.name.is_empty() && row.reason.len() > 8, "{}", row.code);
            assert!(method.with(row.code, row.most + 1.0).is_err(), "{} has no limit", row.code);
            // Half-way to the nearer limit; a switch is switched.
            let moved = if row.most == 1.0 && row.least == 0.0 && value.fract() == 0.0 {
                1.0 - value
            } else if row.most - value > value - row.least {
                value + (row.most - value) * 0.3
            } else {
                value - (value - row.least) * 0.3
            };
            let changed =
                method.with(row.code, moved).unwrap_or_else(|error| panic!("{}: {error}", row.code));
            assert_ne!(changed, method, "{}", row.code);
            // Limits that this body does not reach change nothing for it.
            let only_limits = [
                "least_dart",
                "least_rise",
                "upper_bust_above",
                "cap_ease_least",
                "cap_ease_most",
                "cap_least",
                "cap_most",
                "back_flare_limit",
                "middle_cup",
                "estimated_slope",
                "slope_by_width",
                "above_side_dart",
                "skirt_least_dart",
                "skirt_side_most",
                "skirt_one_front_dart",
                "skirt_one_back_dart",
            ];
            if let Ok(after) = draft(&whole_body(), &changed, Style::TENTHS)
                && !only_limits.contains(&row.code)
            {
                let drawn = after.pattern != before.pattern
                    || after.steps != before.steps
                    || after.notes != before.notes;
                assert!(drawn, "{} changes nothing in {}", row.code, kind.name());
            }
        }
    }
}

/// Those that wait for their own case do something in it.
#[test]
fn constants_that_wait_for_a_case_count_in_it() {
    let changes = |method: Method, body: &Body, code: &str, value: f64| {
        let drafted = |method: &Method| draft(body, method, Style::TENTHS).unwrap().pattern;
        assert_ne!(drafted(&method), drafted(&method.with(code, value).unwrap()), "{code}");
    };
    let direct = Method { with_sleeve: true, ..Method::default() };
    let mut to_front = direct;
    to_front.direct.cup_to_front = true;
    changes(to_front, &whole_body(), "middle_cup", 76.0);
    changes(direct, &whole_body().without("shoulder_slope"), "estimated_slope", 24.0);
    let by_width = whole_body().without("shoulder_slope").with("shoulder_width", 390.0);
    changes(direct, &by_width, "slope_by_width", 1.0);
    // A cup that leans the side out further than the back follows.
    let flaring = whole_body().with("upper_bust_girth", 830.0).with("bust_girth", 990.0);
    changes(direct, &flaring, "back_flare_limit", 3.0);
    // An arm that wants a lower or a higher cap than the house allows.
    changes(direct, &whole_body().with("upper_arm_girth", 250.0), "cap_most", 0.75);
    changes(direct, &whole_body().with("upper_arm_girth", 345.0), "cap_least", 0.7);
    let dress = Method { kind: MethodKind::Dress, ..Method::default() };
    let mut by_armpit = dress;
    by_armpit.dress.armhole_by_bust = false;
    changes(by_armpit, &whole_body(), "upper_bust_above", 40.0);
    let short_side = whole_body().with("side_length", 165.0);
    changes(dress, &short_side, "above_side_dart", 34.0);
    let skirt = Method { kind: MethodKind::Skirt, ..Method::default() };
    let straight = whole_body().with("waist_girth", 950.0);
    changes(skirt, &straight, "skirt_least_dart", 15.0);
    changes(skirt, &whole_body(), "skirt_side_most", 15.0);
    changes(skirt, &whole_body(), "skirt_one_front_dart", 60.0);
    // 31 of intake behind: one dart, or two.
    let little = whole_body().with("waist_girth", 875.0);
    changes(skirt, &little, "skirt_one_back_dart", 12.0);
}
