//! What tests read off pieces from outside: their cloth as an outside library has it, their corners, their cutting lines.

use geo::{Coord, LineString, Polygon};

use crate::cutting_line;
use yardwand_core::geometry::turn_degrees;
use yardwand_core::pattern::{Allowances, GarmentPart, Pattern, Piece, check_pattern};
use yardwand_core::{Style, Unit};

/// A piece as a polygon.
pub(crate) fn polygon(piece: &Piece) -> Polygon {
    let points = piece.edges.iter().flat_map(|edge| edge.curve.flattened(0.01));
    Polygon::new(LineString::from_iter(points.map(|p| Coord { x: p.x, y: p.y })), Vec::new())
}

/// The angle inside a piece between the end of one edge and the start of the next, in degrees.
pub(crate) fn corner(piece: &Piece, edge: usize) -> f64 {
    let next = &piece.edges[(edge + 1) % piece.edges.len()].curve;
    180.0 - turn_degrees(piece.edges[edge].curve.end_direction(), next.start_direction())
}

/// The line to cut on, looked along: every one of these pieces has its allowance everywhere.
pub(crate) fn cutting_lines_stand_off<'a>(pieces: impl IntoIterator<Item = &'a Piece>, told: &str) {
    let allowances = Allowances::usual(Unit::Cm);
    let faults: Vec<String> =
        pieces.into_iter().flat_map(|piece| cutting_line::faults(piece, &allowances)).collect();
    assert!(faults.is_empty(), "{told}: {faults:?}");
}

/// A part of a garment whose sides are alike.
pub(crate) fn part(pattern: &Pattern, part: GarmentPart) -> &Piece {
    pattern.pieces.iter().find(|piece| piece.kind.part() == part).unwrap()
}

/// Every rule that held before holds still, and every new one holds.
pub(crate) fn nothing_turned_red(before: &Pattern, made: &Pattern, told: &str) {
    let was = check_pattern(before, Style::TENTHS);
    for check in check_pattern(made, Style::TENTHS) {
        let held = was.iter().find(|each| each.code == check.code).is_none_or(|each| each.passed);
        assert!(check.passed || !held, "{told}: {}: {} {:?}", check.name, check.says, check.faults);
    }
}
