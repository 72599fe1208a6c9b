//! Rule 4: an outline that is closed, simple and smooth.

use kurbo::{Line, Point};

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::geometry::turn_degrees;
use crate::pattern::piece::{Edge, LevelName, Pattern, Piece, Seam};

/// The sharpest corner inside a smooth seam, in degrees.
pub const KINK_LIMIT: f64 = 8.0;

pub(super) fn outline(pattern: &Pattern, style: Style) -> Check {
    let mut faults = Vec::new();
    for piece in &pattern.pieces {
        let name = piece.kind.name();
        let mut fault = |at, says: String| faults.push(Fault::new(piece.kind, at, says));
        if !piece.is_closed() {
            fault(piece.centre_top(), format!("{name} does not close"));
        }
        if let Some(at) = crosses_itself(piece) {
            fault(at, format!("{name} crosses itself"));
        }
        if let Some(at) = order_broken(piece) {
            fault(at, format!("the edges of {name} are out of order"));
        }
        for edge in &piece.edges {
            let corners = edge.curve.corners().into_iter();
            let corners = corners.filter(|(along, _)| !is_at_the_bust_line(piece, edge, *along));
            let sharpest = corners.max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
            if let Some((along, turn)) = sharpest.filter(|(_, turn)| turn.abs() > KINK_LIMIT) {
                let says = format!("{name} {} has a corner of {:.1}\u{b0}", edge.seam.name(), turn.abs());
                fault(edge.curve.point_at(along), says);
            }
            if let Some((along, turn)) = hook(piece, edge) {
                let says = format!(
                    "{name} {} turns by {turn:.0}\u{b0} within {}",
                    edge.seam.name(),
                    style.with_unit(HOOK_LENGTH)
                );
                fault(edge.curve.point_at(along), says);
            }
        }
    }
    Check::of_faults(CheckCode::Outline, "closed, simple and smooth", faults)
}

/// A smooth seam that turns by more than this within [`HOOK_LENGTH`] is a hook nobody sews, in degrees. The tightest seam
/// of a fresh draft, a back neckline at the neck side, turns by 42 (ours, measured on 600 drafts).
const HOOK_TURN: f64 = 50.0;
/// How far the straight pieces by which a seam's turning is judged may lie from it, in millimetres.
const FLAT: f64 = 0.05;
/// See [`HOOK_TURN`]; in millimetres.
const HOOK_LENGTH: f64 = 8.0;

/// Where a seam turns too much within too little, and by how much, looked at a millimetre at a time. Corners are another
/// fault.
fn hook(piece: &Piece, edge: &Edge) -> Option<(f64, f64)> {
    if edge.seam == Seam::DartLeg || edge.curve.is_straight() {
        return None;
    }
    // What turns less than a hook all along has none.
    let points = edge.curve.flattened(FLAT);
    let turning: f64 =
        points.windows(3).map(|three| turn_degrees(three[1] - three[0], three[2] - three[1]).abs()).sum();
    if turning < HOOK_TURN / 2.0 {
        return None;
    }
    let count = edge.curve.length().floor();
    let places = edge.curve.places((0..=count as u32).map(f64::from));
    let turns: Vec<f64> = places.windows(2).map(|pair| turn_degrees(pair[0].1, pair[1].1)).collect();
    let window = HOOK_LENGTH as usize;
    let sums = turns.windows(window).enumerate().map(|(from, turns)| {
        let middle = from as f64 + HOOK_LENGTH / 2.0;
        (middle, turns.iter().sum::<f64>().abs())
    });
    sums.filter(|(along, turn)| *turn > HOOK_TURN && !is_at_the_bust_line(piece, edge, *along))
        .max_by(|a, b| a.1.total_cmp(&b.1))
}

/// How far from the bust line a side seam may still be angled by it, in millimetres.
const AT_BUST_LINE: f64 = 40.0;

/// A side seam may be angled at the bust line, where a dart or the cup turns it.
fn is_at_the_bust_line(piece: &Piece, edge: &Edge, along: f64) -> bool {
    let line = piece.level(LevelName::Bust).and_then(|level| level.points.last());
    edge.seam == Seam::Side && line.is_some_and(|end| end.distance(edge.curve.point_at(along)) < AT_BUST_LINE)
}

/// Where a seam is taken up again after another has come between; a dart's legs are no seam of their own.
fn order_broken(piece: &Piece) -> Option<Point> {
    let seams: Vec<_> = piece.edges.iter().filter(|edge| edge.seam != Seam::DartLeg).collect();
    // A sleeve's long seam lies on both its sides; a band has two ends, and what laps over is an edge like its outer one.
    let twice = |seam| matches!(seam, Seam::UnderSleeve | Seam::BandEnd | Seam::BandEdge);
    (1..seams.len())
        .find(|&index| {
            let edge = seams[index];
            edge.seam != seams[index - 1].seam
                && !twice(edge.seam)
                && seams[..index].iter().any(|earlier| earlier.seam == edge.seam)
        })
        .map(|index| seams[index].curve.start())
}

/// Where two stretches of the outline cross other than at a shared end or pivot.
fn crosses_itself(piece: &Piece) -> Option<Point> {
    let edges: Vec<Vec<Point>> = piece.edges.iter().map(|edge| edge.curve.flattened(0.25)).collect();
    let boxes: Vec<_> = piece.edges.iter().map(|edge| edge.curve.bounds().inflate(0.1, 0.1)).collect();
    (0..edges.len()).find_map(|i| {
        (i + 1..edges.len())
            .filter(|&j| !boxes[i].intersect(boxes[j]).is_zero_area())
            .find_map(|j| lines_cross(&edges[i], &edges[j]))
    })
}

fn lines_cross(a: &[Point], b: &[Point]) -> Option<Point> {
    let near_end = |p: Point, line: &Line| p.distance(line.p0) < 0.5 || p.distance(line.p1) < 0.5;
    let lines = |points: &[Point]| points.windows(2).map(|w| Line::new(w[0], w[1])).collect::<Vec<_>>();
    let b_lines = lines(b);
    lines(a).iter().find_map(|one| {
        b_lines.iter().find_map(|other| {
            proper_crossing(one, other).filter(|p| !(near_end(*p, one) && near_end(*p, other)))
        })
    })
}

fn proper_crossing(a: &Line, b: &Line) -> Option<Point> {
    let (u, v, w) = (a.p1 - a.p0, b.p1 - b.p0, b.p0 - a.p0);
    let across = u.cross(v);
    if across.abs() < 1e-12 {
        return None;
    }
    let (s, t) = (w.cross(v) / across, w.cross(u) / across);
    ((0.0..=1.0).contains(&s) && (0.0..=1.0).contains(&t)).then(|| a.p0 + u * s)
}
