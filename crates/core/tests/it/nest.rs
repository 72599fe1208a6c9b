//! The nest: exact at a size; between sizes every seam that joins still walks; her shoulder; refusals.

use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::{Direct, Method, MethodKind, draft, size_table};
use yardwand_core::nest::{NestError, TraceBy, trace};
use yardwand_core::pattern::{Pattern, PatternMeasure, check_pattern, measure, walk};

const STYLE: Style = Style::TENTHS;

fn sizes(kind: MethodKind, with_sleeve: bool) -> Vec<BlockSize> {
    let table = size_table("medium").unwrap();
    let method = Method { kind, with_sleeve, direct: Direct::default(), ..Method::default() };
    table
        .sizes
        .iter()
        .map(|size| {
            let figure = table.figure(&size.label).unwrap();
            let pattern = draft(&figure, &method, STYLE).unwrap_or_else(|error| panic!("{error}")).pattern;
            BlockSize::drawn(&size.label, figure, pattern)
        })
        .collect()
}

fn walks(pattern: &Pattern, at: &str) {
    for walked in walk(pattern) {
        assert!(walked.joins(1.0), "{at}: {} differs by {:.2}", walked.name, walked.difference());
        for pair in &walked.notches {
            assert!(
                pair.apart() <= 1.0,
                "{at}: notches of the {} are {:.2} apart",
                walked.name,
                pair.apart()
            );
        }
    }
}

/// The first table closes as the handbook says it does (check values, 3a): every row steps evenly.
#[test]
fn the_built_in_table_steps_evenly_and_keeps_its_differences() {
    let table = size_table("medium").unwrap();
    for size in &table.sizes {
        let of = |code: &str| size.figure.get(code).unwrap();
        assert!((of("bust_girth") - of("waist_girth") - 200.0).abs() < 1e-9);
        assert!((of("hip_girth") - of("bust_girth") - 50.0).abs() < 1e-9);
    }
    let codes: Vec<String> = table.sizes[0].figure.iter().map(|(code, _)| code.to_owned()).collect();
    assert_eq!(codes.len(), 16);
    for code in codes {
        let steps: Vec<f64> = table
            .sizes
            .windows(2)
            .map(|pair| pair[1].figure.get(&code).unwrap() - pair[0].figure.get(&code).unwrap())
            .collect();
        assert!(steps.iter().all(|step| (step - steps[0]).abs() < 1e-9), "{code}: {steps:?}");
    }
}

#[test]
fn at_a_size_the_trace_is_the_size_to_the_last_bit() {
    for kind in MethodKind::ALL {
        let sizes = sizes(kind, true);
        for size in &sizes {
            for by in [TraceBy::Bust, TraceBy::UpperBust, TraceBy::Hip] {
                let girth = size.figure.get(by.code()).unwrap();
                let traced = trace(&sizes, by, girth, None, STYLE).unwrap();
                assert_eq!(&traced.pattern, size.pattern().unwrap(), "{kind:?} {}", size.label);
                assert!(traced.says.contains(&format!("at size {}", size.label)), "{}", traced.says);
            }
        }
    }
}

#[test]
fn between_sizes_every_seam_that_joins_still_walks() {
    for kind in MethodKind::ALL {
        let sizes = sizes(kind, true);
        for step in 0..=60 {
            let bust = 800.0 + 2.0 * f64::from(step);
            // The table's hip is 50 more than its bust.
            let (by, girth, figure, ease) = match kind {
                MethodKind::Skirt => (TraceBy::Hip, bust + 50.0, PatternMeasure::Hip, 40.0),
                MethodKind::Proportional => (TraceBy::Bust, bust, PatternMeasure::Bust, 120.0),
                _ => (TraceBy::Bust, bust, PatternMeasure::Bust, 50.0),
            };
            let traced = trace(&sizes, by, girth, None, STYLE).unwrap();
            walks(&traced.pattern, &format!("{kind:?} at {girth}"));
            let drawn = measure(&traced.pattern).get(figure).unwrap();
            assert!((drawn - girth - ease).abs() < 8.0, "{kind:?} at {girth}: {drawn}");
            let red: Vec<_> =
                check_pattern(&traced.pattern, STYLE).into_iter().filter(|check| !check.passed).collect();
            assert!(red.is_empty(), "{kind:?} at {bust}: {red:#?}");
        }
    }
}

#[test]
fn her_shoulder_is_set_and_the_seams_still_walk() {
    for kind in MethodKind::ALL.into_iter().filter(|kind| kind.has_armhole()) {
        let sizes = sizes(kind, false);
        for hers in [112.0, 118.0, 124.0, 136.0] {
            let traced = trace(&sizes, TraceBy::Bust, 864.0, Some(hers), STYLE).unwrap();
            let shoulder = measure(&traced.pattern).get(PatternMeasure::ShoulderFront).unwrap();
            assert!((shoulder - hers).abs() < 0.05, "{kind:?}: {shoulder} for {hers}");
            walks(&traced.pattern, &format!("{kind:?}, shoulder {hers}"));
            let word = if traced.shoulder > 0.0 { "set out" } else { "set in" };
            assert!(traced.says.contains(word), "{}", traced.says);
        }
    }
}

#[test]
fn dots_of_the_sizes_it_did_not_pass_are_crossed_out() {
    let sizes = sizes(MethodKind::Direct, false);
    let traced = trace(&sizes, TraceBy::Bust, 864.0, None, STYLE).unwrap();
    let used: std::collections::BTreeSet<&str> =
        traced.dots.iter().filter(|dot| dot.used).map(|dot| dot.size.as_str()).collect();
    assert_eq!(used.into_iter().collect::<Vec<_>>(), ["10", "12"]);
    assert!(traced.dots.iter().any(|dot| !dot.used && dot.size == "8"));
    assert!(!traced.lines.is_empty());
}

#[test]
fn outside_the_nest_it_is_refused_with_its_ends() {
    let sizes = sizes(MethodKind::Direct, false);
    let error = trace(&sizes, TraceBy::Bust, 964.0, None, STYLE).unwrap_err();
    assert_eq!(
        error.to_string(),
        "96.4 cm lies outside the nest, which goes from 80.0 cm (8) to 92.0 cm (14) by bust: draft a block for her \
         instead, or a further size"
    );
    assert_eq!(trace(&[], TraceBy::Bust, 900.0, None, STYLE).unwrap_err(), NestError::Empty);
    let unstated: Vec<BlockSize> = sizes
        .iter()
        .map(|size| BlockSize::drawn(&size.label, Body::default(), size.pattern().unwrap().clone()))
        .collect();
    assert!(matches!(
        trace(&unstated, TraceBy::UpperBust, 900.0, None, STYLE).unwrap_err(),
        NestError::Unstated { .. }
    ));
}

#[test]
fn sizes_that_are_drawn_otherwise_are_not_mixed() {
    let mut sizes = sizes(MethodKind::Direct, false);
    let figure = sizes[1].figure.clone();
    let one_dart = Method { direct: Direct { one_dart: true, ..Direct::default() }, ..Method::default() };
    let odd = draft(&figure, &one_dart, STYLE).unwrap().pattern;
    sizes[1] = BlockSize::drawn("10", figure, odd);
    let error = trace(&sizes, TraceBy::Bust, 820.0, None, STYLE).unwrap_err();
    assert_eq!(
        error.to_string(),
        "sizes 8 and 10 are not drawn alike (the bodice front has a dart more in one): trace at one of them"
    );
}
