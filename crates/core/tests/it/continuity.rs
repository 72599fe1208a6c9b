//! Amount to nothing means line to nothing: a law of every alteration, on every block it is for.

use crate::common::bodies;
use yardwand_core::Style;
use yardwand_core::alter::Recipe;
use yardwand_core::alter::{Amounts, Setting, alteration_views, make};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, Piece, Seam};

/// As little as is not yet taken for nothing, in millimetres.
const TINY: f64 = 0.06;
/// The furthest it may move any line, in millimetres.
const MOVES: f64 = 0.3;

/// How far the seams of a piece lie from the seams it had, the furthest place, sampled every 4 mm.
fn moved(before: &Piece, after: &Piece) -> f64 {
    let mut furthest = 0.0_f64;
    // Read with darts closed: a dart that is new is a slit of nothing's width.
    for edge in after.edges.iter().filter(|edge| edge.seam != Seam::DartLeg) {
        let count = (edge.curve.length() / 4.0).ceil().max(2.0);
        for n in 0..=count as usize {
            let at = edge.curve.point_at(edge.curve.length() * n as f64 / count);
            let near = before
                .edges
                .iter()
                .map(|old| old.curve.point_at(old.curve.nearest(at)).distance(at))
                .fold(f64::INFINITY, f64::min);
            furthest = furthest.max(near);
        }
    }
    furthest
}

fn blocks() -> Vec<(MethodKind, Pattern)> {
    bodies(6, 33)
        .iter()
        .flat_map(|body| {
            MethodKind::ALL.into_iter().filter_map(|kind| {
                let method =
                    Method { kind, with_sleeve: kind != MethodKind::Proportional, ..Method::default() };
                Some((kind, draft(body, &method, Style::EIGHTHS).ok()?.pattern))
            })
        })
        .collect()
}

#[test]
fn an_amount_of_nearly_nothing_moves_nothing() {
    let mut worst: Vec<String> = Vec::new();
    let mut looked = 0;
    for (kind, block) in blocks() {
        for view in alteration_views(Style::EIGHTHS) {
            // A style line divides the front whatever the amount.
            if view.code == "princess_line" || view.params[0].on == yardwand_core::alter::MeasuredOn::Share {
                continue;
            }
            for amount in [TINY, -TINY] {
                let ways: Vec<(String, Option<String>)> = view
                    .params
                    .iter()
                    .flat_map(|param| {
                        param.ways.iter().map(|way| (param.code.clone(), Some(way.code.clone())))
                    })
                    .chain([(String::new(), None)])
                    .collect();
                // Gathers take the place of a dart that was there: that is no small step.
                for (code, way) in ways.into_iter().filter(|(_, way)| way.as_deref() != Some("gathers")) {
                    let mut amounts = Amounts::of(amount);
                    if let Some(way) = way.clone() {
                        amounts.0.insert(code, Setting::Way(way));
                    }
                    let made = make(&block, &Recipe::default().and(&view.code, amounts, ""), Style::EIGHTHS);
                    if !made.is_whole() {
                        continue;
                    }
                    looked += 1;
                    for piece in &made.pattern.pieces {
                        let Some(before) = block.piece(piece.kind) else { continue };
                        let off = moved(before, piece);
                        if off > MOVES {
                            worst.push(format!(
                                "{kind:?} {} {way:?} {amount}: {} moves {off:.2}",
                                view.code,
                                piece.kind.name()
                            ));
                        }
                    }
                }
            }
        }
    }
    assert!(looked > 500, "{looked}");
    worst.sort();
    assert!(worst.is_empty(), "{} of {looked}:\n{}", worst.len(), worst.join("\n"));
}
