//! Every method on bodies of a bust of 76 to 140 cm: it closes with every rule green, or it refuses by naming
//! two readings; never a crossed or kinked outline. The table is printed.

use std::collections::BTreeMap;

use crate::common::{bodies, worked_body};
use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::draft::{DraftError, Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, Seam, check_pattern};

const STYLE: Style = Style::TENTHS;
const COUNT: usize = 600;

struct Tally {
    closed: usize,
    refused: BTreeMap<String, usize>,
    failed: Vec<String>,
}

fn tally(method: &Method, bodies: &[Body]) -> Tally {
    let mut tally = Tally { closed: 0, refused: BTreeMap::new(), failed: Vec::new() };
    for body in bodies {
        match draft(body, method, STYLE) {
            Ok(drafted) => {
                tally.closed += 1;
                outlines_are_simple(&drafted.pattern);
                let red = check_pattern(&drafted.pattern, STYLE).into_iter().filter(|check| !check.passed);
                let bust = body.get("bust_girth").unwrap();
                tally.failed.extend(red.map(|check| format!("{bust:.0}: {:?}: {}", check.code, check.says)));
            }
            Err(DraftError::Contradiction(found)) => {
                let names = found.readings.each_ref().map(|one| one.measurement.clone()).join(" / ");
                *tally.refused.entry(names).or_default() += 1;
                either_way_out_is_a_way_out(body, method, &DraftError::Contradiction(found));
            }
            Err(error) => panic!("{error}: nothing is missing on {body:?}"),
        }
    }
    tally
}

/// An own look, not the product's rule: no two flattened edges cross anywhere but at their common ends.
pub(crate) fn outlines_are_simple(pattern: &Pattern) {
    use geo::algorithm::line_intersection::{LineIntersection, line_intersection};
    use geo::{Coord, Line};
    // Neighbours share an end, to the last bit or nearly so.
    let at_end = |at: Coord, line: &Line| {
        [line.start, line.end].iter().any(|end| (end.x - at.x).hypot(end.y - at.y) < 1e-6)
    };
    for piece in &pattern.pieces {
        let mut lines: Vec<Line> = Vec::new();
        for edge in &piece.edges {
            let points = edge.curve.flattened(0.3);
            lines.extend(points.windows(2).map(|pair| {
                Line::new(Coord { x: pair[0].x, y: pair[0].y }, Coord { x: pair[1].x, y: pair[1].y })
            }));
        }
        for (index, one) in lines.iter().enumerate() {
            for other in &lines[index + 1..] {
                if let Some(LineIntersection::SinglePoint { intersection, is_proper: true }) =
                    line_intersection(*one, *other)
                    && !(at_end(intersection, one) && at_end(intersection, other))
                {
                    panic!("{:?} crosses itself at {intersection:?}", piece.kind);
                }
            }
        }
        for edge in piece.edges.iter().filter(|edge| edge.seam != Seam::Side) {
            for (_, turn) in edge.curve.corners() {
                assert!(turn.abs() < 8.0, "{:?} {:?} is kinked by {turn}", piece.kind, edge.seam);
            }
        }
    }
}

/// What a refusal says either reading would have to be does away with that contradiction.
fn either_way_out_is_a_way_out(body: &Body, method: &Method, error: &DraftError) {
    let DraftError::Contradiction(found) = error else { return };
    for conflict in &found.readings {
        let Some(mm) = conflict.would_be else { continue };
        let mended = body.clone().with(&conflict.measurement, mm);
        if let Err(DraftError::Contradiction(again)) = draft(&mended, method, STYLE) {
            let same = |a: &str, b: &str| a == b;
            assert!(
                !same(&again.readings[0].measurement, &found.readings[0].measurement)
                    || !same(&again.readings[1].measurement, &found.readings[1].measurement),
                "{} at {mm} still clashes: {}",
                conflict.measurement,
                again.says
            );
        }
    }
}

#[test]
fn every_method_closes_green_or_refuses_two_readings() {
    let bodies = bodies(COUNT, 2026);
    let least = bodies.iter().filter_map(|body| body.get("bust_girth")).fold(f64::INFINITY, f64::min);
    let most = bodies.iter().filter_map(|body| body.get("bust_girth")).fold(0.0, f64::max);
    assert!(least < 780.0 && most > 1380.0, "{least} to {most}");
    eprintln!("{COUNT} bodies, bust {least:.0} to {most:.0} mm");
    eprintln!("{:<28}{:>8}{:>9}  refused by", "method", "closed", "red");
    for kind in MethodKind::ALL {
        for with_sleeve in [false, true] {
            let method = Method { kind, with_sleeve, ..Method::default() };
            let tally = tally(&method, &bodies);
            let name = format!("{}{}", kind.name(), if with_sleeve { ", sleeve" } else { "" });
            eprintln!("{name:<28}{:>8}{:>9}  {:?}", tally.closed, tally.failed.len(), tally.refused);
            assert!(tally.failed.is_empty(), "{name}: {:#?}", &tally.failed[..tally.failed.len().min(12)]);
            assert!(tally.closed * 10 >= COUNT * 9, "{name} refuses too many of these: {:?}", tally.refused);
        }
    }
}

/// The same with readings that contradict each other on purpose: never a bad outline, always two names.
#[test]
fn wild_readings_are_refused_by_two_names_or_close() {
    let mut chance = crate::common::Chance::new(7);
    let codes: Vec<String> = worked_body().iter().map(|(code, _)| code.to_owned()).collect();
    let mut refused = 0;
    for body in bodies(150, 99) {
        let at = ((chance.even() + 1.0) / 2.0 * codes.len() as f64) as usize;
        let code = &codes[at.min(codes.len() - 1)];
        let Some(mm) = body.get(code) else { continue };
        let wild = body.with(code, mm * (1.0 + chance.even() * 0.45));
        for kind in MethodKind::ALL {
            let method = Method { kind, with_sleeve: true, ..Method::default() };
            match draft(&wild, &method, STYLE) {
                Ok(drafted) => {
                    for piece in &drafted.pattern.pieces {
                        assert!(piece.is_closed(), "{:?} on {wild:?}", piece.kind);
                    }
                }
                Err(error) => {
                    refused += 1;
                    assert_eq!(error.measurements().len(), 2, "{error}");
                }
            }
        }
    }
    assert!(refused > 10, "only {refused} refused: the readings are not wild enough");
}

#[test]
fn what_is_missing_is_named_for_every_method() {
    for kind in MethodKind::ALL {
        let method = Method { kind, with_sleeve: true, ..Method::default() };
        let error = draft(&Body::default(), &method, STYLE).unwrap_err();
        let mut named = error.measurements();
        named.sort_unstable();
        let mut needed = method.needs();
        needed.sort_unstable();
        assert_eq!(named, needed, "{kind:?}");
    }
}
