//! A pinch at the back armhole instead of the shoulder dart: a choice of the direct draft (handbook: `blocks.md`, section 2; common
//! practice, no source). It is the same back with its dart turned, and stays so through every correction.

use std::collections::BTreeMap;

use crate::common::{bodies, furthest_apart, made_of};
use crate::cutting_line;
use crate::random_bodies::outlines_are_simple;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, Layer, Recipe, alteration, apply, registry, suits};
use yardwand_core::body::Body;
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    Allowances, CheckCode, DartPlace, Edge, Pattern, PatternMeasure, Piece, Seam, WornSide, check_pattern,
    measure,
};

const STYLE: Style = Style::TENTHS;

fn drafted(body: &Body, kind: MethodKind, direct: Direct) -> Option<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..direct };
    Some(draft(body, &Method { kind, direct, with_sleeve: true, ..Method::default() }, STYLE).ok()?.pattern)
}

fn pinched(body: &Body, kind: MethodKind) -> Option<Pattern> {
    drafted(body, kind, Direct { back_pinch: true, ..Direct::default() })
}

/// The same block with the pinch turned to the middle of the shoulder, by the step that moves darts.
fn in_the_shoulder(block: &Pattern) -> Pattern {
    let amounts = Amounts::of(1.0).by("piece", "back").by("from", "armhole").by("to", "shoulder");
    apply(alteration("move_dart").unwrap(), block, &amounts, None, STYLE).unwrap().pattern
}

/// The one fails no check that the other does not.
fn fails_no_more(pinched: &Pattern, other: &Pattern, told: &str) {
    let failing = |pattern: &Pattern| -> Vec<CheckCode> {
        let checks = check_pattern(pattern, STYLE).into_iter().filter(|check| !check.passed);
        checks.map(|check| check.code).collect()
    };
    let (is, was) = (failing(pinched), failing(other));
    assert!(is.iter().all(|code| was.contains(code)), "{told}: {is:?}, {was:?}");
}

fn legs(piece: &Piece) -> (f64, f64, f64) {
    let legs: Vec<&Edge> = piece.edges.iter().filter(|edge| edge.dart == Some(DartPlace::Armhole)).collect();
    let (first, second) = (legs[0].curve.start(), legs[1].curve.end());
    (legs[0].curve.length(), legs[1].curve.length(), first.distance(second))
}

#[test]
fn the_pinch_is_the_shoulder_dart_turned() {
    let mut tried = 0;
    for kind in [MethodKind::Direct, MethodKind::Dress] {
        for body in bodies(60, 91) {
            let Some(block) = pinched(&body, kind) else { continue };
            let plain = drafted(&body, kind, Direct::default()).unwrap();
            tried += 1;
            outlines_are_simple(&block);
            block.validate().unwrap();
            let back = block.back().unwrap();
            assert!(back.dart(DartPlace::Shoulder).is_none());
            let (one, other, mouth) = legs(back);
            assert!((one - other).abs() < 1e-6, "{one} {other}");
            assert!((mouth - 12.0).abs() < 0.1, "{mouth}");
            // One straight shoulder, as long as it is sewn.
            let shoulders: Vec<&Edge> = back.edges_of(Seam::Shoulder).collect();
            assert!(shoulders.len() == 1 && shoulders[0].curve.is_line());
            let of = |pattern: &Pattern, figure| measure(pattern).get(figure).unwrap();
            let shoulder = PatternMeasure::ShoulderBack;
            assert!((of(&block, shoulder) - of(&plain, shoulder)).abs() < 1e-9);
            fails_no_more(&block, &plain, "drafted");
            let found = cutting_line::faults(back, &Allowances::default());
            assert!(found.is_empty(), "{:#?}", found.first());
            // With a shoulder dart that turns the outer half as far, it is the same back.
            let depth = Direct::default().shoulder_dart_depth;
            let turn = 2.0 * (mouth / 2.0 / one).asin();
            let as_far = 2.0 * depth * (turn / 2.0).sin();
            let with = Direct { shoulder_dart_mouth: as_far, ..Direct::default() };
            let only_back = |pattern: &Pattern| {
                let mut back = pattern.back().unwrap().clone();
                back.darts.sort_by_key(|dart| dart.place.name());
                Pattern { pieces: vec![back], ..pattern.clone() }
            };
            let apart = furthest_apart(
                &only_back(&in_the_shoulder(&block)),
                &only_back(&drafted(&body, kind, with).unwrap()),
            );
            assert!(apart < 0.01, "{kind:?} {tried}: {apart}");
        }
    }
    assert!(tried > 90, "{tried}");
}

/// Every correction of a back measures the same as on the block with the dart in the shoulder.
#[test]
fn a_correction_is_the_same_wherever_the_dart_is_sewn() {
    let (mut tried, mut refused) = (0, BTreeMap::<&str, usize>::new());
    let early = registry().iter().filter(|known| known.about().layer <= Layer::Fit);
    let usual = crate::cells::usual();
    for known in early {
        let Some((_, mm, _)) = usual.iter().find(|(code, ..)| *code == known.code()) else {
            panic!("{} has no usual amount", known.code())
        };
        for body in bodies(12, 97) {
            let Some(block) = pinched(&body, MethodKind::Direct) else { continue };
            let shoulder = in_the_shoulder(&block);
            let told = format!("{} {mm}", known.code());
            assert_eq!(suits(*known, &block), suits(*known, &shoulder), "{told}");
            if !suits(*known, &block) {
                continue;
            }
            let done = |block: &Pattern| apply(*known, block, &Amounts::of(*mm), None, STYLE);
            let (one, other) = match (done(&block), done(&shoulder)) {
                (Ok(one), Ok(other)) => (one, other),
                (one, other) => {
                    assert_eq!(one.is_ok(), other.is_ok(), "{told}: {:?}", one.err().or(other.err()));
                    *refused.entry(known.code()).or_default() += 1;
                    continue;
                }
            };
            tried += 1;
            outlines_are_simple(&one.pattern);
            fails_no_more(&one.pattern, &other.pattern, &told);
            let back = one.pattern.back().unwrap();
            assert!(
                back.dart(DartPlace::Armhole).is_some() && back.dart(DartPlace::Shoulder).is_none(),
                "{told}"
            );
            let (left, right, _) = legs(back);
            assert!((left - right).abs() < 1e-6, "{told}");
            let (is, was) = (measure(&one.pattern), measure(&other.pattern));
            for (figure, then) in was.iter().filter(|(figure, _)| *figure != PatternMeasure::ShoulderDart) {
                // Walked round, the armhole's depth and what is read across it lie in another place of the cloth.
                let now = is.get(figure);
                let across = [PatternMeasure::AcrossBack, PatternMeasure::ArmholeDepth].contains(&figure);
                assert!(
                    across || now.is_some_and(|now| (now - then).abs() < 0.02),
                    "{told}: {} {now:?}, {then}",
                    figure.name()
                );
            }
            // An amount of nothing leaves it to the last digit.
            let nothing = apply(*known, &block, &Amounts::of(0.0), None, STYLE).unwrap();
            assert_eq!(nothing.pattern, block, "{told}");
        }
    }
    assert!(tried > 150, "{tried}, {refused:?}");
}

#[test]
fn pairs_go_with_the_pinch_in_any_order_and_on_one_side() {
    let steps = [
        ("rounded_back", Amounts::of(10.0)),
        ("shoulder_slope", Amounts::of(5.0)),
        ("back_width", Amounts::of(5.0)),
        ("underarm", Amounts::of(6.0)),
        ("sway_back", Amounts::of(8.0)),
        ("full_bust", Amounts::of(8.0)),
    ];
    for body in bodies(4, 101) {
        let Some(block) = pinched(&body, MethodKind::Direct) else { continue };
        for (first, one) in &steps {
            for (second, two) in &steps {
                let one = || Decided::new(first, one.clone(), "");
                let two = || Decided::new(second, two.clone(), "");
                let (there, back) = (made_of(&block, [one(), two()]), made_of(&block, [two(), one()]));
                assert!(there.is_whole(), "{first}, {second}: {:?}", there.refused().next());
                assert_eq!(there.pattern, back.pattern, "{first}, {second}");
                assert!(there.pattern.back().unwrap().dart(DartPlace::Armhole).is_some());
            }
        }
        let known = alteration("shoulder_slope").unwrap();
        let left = apply(known, &block, &Amounts::of(5.0), Some(WornSide::Left), STYLE).unwrap().pattern;
        for side in WornSide::BOTH {
            assert!(left.worn_on(side).back().unwrap().dart(DartPlace::Armhole).is_some());
        }
        assert_eq!(left.worn_on(WornSide::Right).back().unwrap().edges, block.back().unwrap().edges);
    }
}

/// What shapes and finishes a garment works on a back with a pinch, or says why not.
#[test]
fn style_goes_on_from_a_pinch() {
    let mut made_so: BTreeMap<&str, usize> = BTreeMap::new();
    for body in bodies(10, 103) {
        let Some(block) = pinched(&body, MethodKind::Direct) else { continue };
        for (code, mm, by) in crate::cells::usual() {
            let known = alteration(code).unwrap();
            if known.about().layer <= Layer::Fit || !suits(known, &block) {
                continue;
            }
            let amounts = by.iter().fold(Amounts::of(mm), |amounts, (param, way)| amounts.by(param, way));
            let amounts = crate::cells::ways(&block, &Recipe::default(), code, amounts);
            let Ok(made) = apply(known, &block, &amounts, None, STYLE) else { continue };
            let shoulder = apply(known, &in_the_shoulder(&block), &amounts, None, STYLE);
            outlines_are_simple(&made.pattern);
            made.pattern.validate().unwrap();
            if let Ok(other) = shoulder {
                fails_no_more(&made.pattern, &other.pattern, code);
            }
            *made_so.entry(code).or_default() += 1;
        }
    }
    for code in ["neckline", "princess_line", "strapless_edge", "under_bust_seam", "facings", "joined_skirt"]
    {
        assert!(made_so.get(code).is_some_and(|count| *count >= 5), "{code}: {made_so:?}");
    }
}
