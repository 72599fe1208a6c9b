//! Rule 8: the cutting line stands its allowance off every edge, nowhere nearer, and never crosses itself.
//!
//! Looked at from both sides, a millimetre at a time: from the cutting line back to the edges, and from
//! every edge out to the cutting line, so that a seam that is cut straight across is found.

use kurbo::{BezPath, Line, PathEl, PathSeg, Point, Rect, Shape};

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::geometry::quarter_turn;
use crate::pattern::piece::{Pattern, Piece};
use crate::pattern::truing::capped_outline;
use crate::pattern::{Allowances, cut_line};

/// How far from its allowance a cutting line may stand, in millimetres.
const TOLERANCE: f64 = 0.05;
/// How far a flattened edge may lie from the true one here, in millimetres.
const FLATNESS: f64 = 0.004;
/// How far apart samples are, in millimetres.
const STEP: f64 = 1.0;
/// A foot this near to the end of an edge stands on its corner, in millimetres.
const AT_CORNER: f64 = 0.02;
/// A mitre reaches at most this many allowances out.
const MITRE: f64 = 3.0;
/// How many short pieces share one box while distances are looked for, and how many boxes share one round them.
const BOXED: usize = 8;
const GROUPED: usize = 16;

/// A line of short straight pieces that can be asked how far a point lies from it.
struct Traced {
    points: Vec<Point>,
    /// Round all of it.
    bounds: Rect,
    boxes: Vec<Rect>,
    /// Round so many boxes each.
    groups: Vec<Rect>,
}

impl Traced {
    fn new(points: Vec<Point>) -> Self {
        let round = |part: &[Point]| {
            let first = part.first().map_or(Rect::ZERO, |point| Rect::from_points(*point, *point));
            part.iter().fold(first, |bounds, point| bounds.union_pt(*point))
        };
        let boxes: Vec<Rect> = (0..points.len().saturating_sub(1))
            .step_by(BOXED)
            .map(|from| round(&points[from..(from + BOXED + 1).min(points.len())]))
            .collect();
        let groups = boxes.chunks(GROUPED).map(|part| part.iter().fold(part[0], |all, one| all.union(*one)));
        Self { bounds: round(&points), groups: groups.collect(), points, boxes }
    }

    /// Distance from a point, and the foot on the line. Nothing further than `within` is looked at: then that is the distance.
    fn distance(&self, point: Point, within: f64) -> (f64, Point) {
        // Squared until the end: this is asked at every millimetre of a cutting line.
        let mut best = (within * within, point);
        if away(&self.bounds, point) >= best.0 {
            return (within, point);
        }
        for (group, bounds) in self.groups.iter().enumerate() {
            if away(bounds, point) >= best.0 {
                continue;
            }
            for index in group * GROUPED..((group + 1) * GROUPED).min(self.boxes.len()) {
                if away(&self.boxes[index], point) < best.0 {
                    best = self.nearer_in(index, point, best);
                }
            }
        }
        (best.0.sqrt(), best.1)
    }

    /// The nearest place of one box, with its squared distance, where it is nearer than what was found.
    fn nearer_in(&self, index: usize, point: Point, found: (f64, Point)) -> (f64, Point) {
        let part = index * BOXED..((index + 1) * BOXED).min(self.points.len() - 1);
        let feet = part.map(|at| foot_on(self.points[at], self.points[at + 1], point));
        feet.map(|foot| (foot.distance_squared(point), foot))
            .fold(found, |best, next| if next.0 < best.0 { next } else { best })
    }

    /// Points along it, a step apart, with the direction it runs in there.
    fn samples(&self) -> impl Iterator<Item = (Point, kurbo::Vec2)> {
        self.points.windows(2).filter(|pair| pair[0].distance(pair[1]) > 1e-9).flat_map(|pair| {
            let (from, to) = (pair[0], pair[1]);
            let count = (from.distance(to) / STEP).ceil().max(1.0) as usize;
            let along = (to - from) / from.distance(to);
            (0..count).map(move |n| (from.lerp(to, (n as f64 + 0.5) / count as f64), along))
        })
    }
}

/// The square of how far a point lies outside a box.
fn away(bounds: &Rect, point: Point) -> f64 {
    let x = (bounds.x0 - point.x).max(point.x - bounds.x1).max(0.0);
    let y = (bounds.y0 - point.y).max(point.y - bounds.y1).max(0.0);
    x * x + y * y
}

fn foot_on(from: Point, to: Point, point: Point) -> Point {
    let along = to - from;
    let squared = along.hypot2();
    if squared == 0.0 {
        return from;
    }
    from + along * ((point - from).dot(along) / squared).clamp(0.0, 1.0)
}

struct NetEdge {
    line: Traced,
    out: f64,
    fold: bool,
    name: &'static str,
}

impl NetEdge {
    /// How far a place lies inside of the line of this edge, in millimetres; the line goes on at both ends.
    fn inside(&self, at: Point) -> f64 {
        let points = &self.line.points;
        let along = points[points.len() - 1] - points[0];
        quarter_turn(along / along.hypot()).dot(at - points[0])
    }

    fn is_on_fold_line(&self, at: Point) -> bool {
        self.fold && self.inside(at).abs() < TOLERANCE
    }

    fn is_beyond_fold(&self, at: Point) -> bool {
        self.fold && self.inside(at) < 0.0
    }

    /// Whether a place lies on the piece's side of this edge, seen from its foot on it.
    fn is_inside_of(&self, at: Point, foot: Point) -> bool {
        let on = |pair: &&[Point]| foot_on(pair[0], pair[1], foot).distance(foot) < 1e-9;
        let piece_side = |pair: &[Point]| quarter_turn(pair[1] - pair[0]).dot(at - foot) > 0.0;
        self.line.points.windows(2).filter(on).all(piece_side)
    }

    fn is_end(&self, foot: Point) -> bool {
        let points = &self.line.points;
        foot.distance(points[0]) < AT_CORNER || foot.distance(points[points.len() - 1]) < AT_CORNER
    }
}

/// Edges that follow each other with one allowance, as one line: a dart's cap is no corner of its seam.
fn runs_of(edges: &[NetEdge]) -> Vec<NetEdge> {
    let mut runs: Vec<NetEdge> = Vec::new();
    let goes_on = |run: &NetEdge, edge: &NetEdge| {
        !run.fold && !edge.fold && run.out.total_cmp(&edge.out).is_eq() && run.name == edge.name
    };
    for edge in edges {
        let (line, out, fold, name) = (&edge.line.points, edge.out, edge.fold, edge.name);
        match runs.last_mut().filter(|run| goes_on(run, edge)) {
            Some(run) => run.line = Traced::new([&run.line.points, &line[1..]].concat()),
            None => runs.push(NetEdge { line: Traced::new(line.clone()), out, fold, name }),
        }
    }
    runs
}

/// The rule with the house's usual allowances.
pub(super) fn cutting(pattern: &Pattern, style: Style) -> Check {
    check_cut_lines(pattern, &Allowances::default(), style)
}

/// The eighth rule: how the cutting lines of all pieces stand with these allowances.
pub fn check_cut_lines(pattern: &Pattern, allowances: &Allowances, style: Style) -> Check {
    let faults: Vec<Fault> =
        pattern.pieces.iter().filter_map(|piece| fault_of(piece, allowances, style)).collect();
    Check::of_faults(CheckCode::CutLine, "every cutting line stands its allowance off", faults)
}

/// The first thing that is wrong with a piece's cutting line.
fn fault_of(piece: &Piece, allowances: &Allowances, style: Style) -> Option<Fault> {
    let edges: Vec<NetEdge> = capped_outline(piece)
        .into_iter()
        .map(|(edge, _)| NetEdge {
            line: Traced::new(edge.curve.flattened(FLATNESS)),
            out: allowances.on(piece, &edge),
            fold: edge.fold,
            name: edge.seam.name(),
        })
        .filter(|edge| edge.line.points.len() > 1)
        .collect();
    let runs = runs_of(&edges);
    let path = cut_line(piece, allowances);
    let fault = |at, says: String| Some(Fault::new(piece.kind, at, says));
    if path.is_empty() {
        let at = piece.edges.first().map_or(Point::ZERO, |edge| edge.curve.start());
        return fault(at, "nothing is left to cut: the piece lies beyond its own fold".to_owned());
    }
    let cut = Traced::new(points_of(&path));
    let widest = edges.iter().map(|edge| edge.out).fold(0.0, f64::max);
    for (at, _) in cut.samples() {
        let (is_near, is_on) = beside(&runs, at);
        if is_near && let Some((edge, off)) = too_near(&runs, at, widest) {
            let (off, out) = (style.with_unit(off), style.with_unit(edge.out));
            return fault(at, format!("the cutting line comes to {off} of the {}, not {out}", edge.name));
        }
        if !is_on && !stands_off(&edges, at, widest) {
            return fault(at, "the cutting line belongs to no seam here".to_owned());
        }
    }
    for edge in edges.iter().filter(|edge| !edge.fold) {
        for (at, along) in edge.line.samples() {
            let wanted = at - quarter_turn(along) * edge.out;
            // Inside lies what the mitre of a corner covers; what is cut too far out is found from the other side.
            let is_cut = cut.distance(wanted, 2.0 * TOLERANCE).0 <= TOLERANCE;
            if !is_cut && !covered(&edges, edge, wanted) && !path.contains(wanted) {
                let off = cut.distance(wanted, f64::INFINITY).0;
                let (name, off) = (edge.name, style.with_unit(off));
                return fault(at, format!("the {name} is not cut along its allowance: {off} off"));
            }
        }
    }
    crossing(&cut.points).and_then(|at| fault(at, "the cutting line crosses itself".to_owned()))
}

/// Whether a place on the cutting line is nearer to some edge than its allowance, and whether it stands just that off one:
/// what is asked of every place, before the few that are near a corner are looked at more closely.
fn beside(edges: &[NetEdge], at: Point) -> (bool, bool) {
    edges.iter().fold((false, false), |(is_near, is_on), edge| {
        if edge.fold {
            return (is_near, is_on || edge.is_on_fold_line(at));
        }
        let (off, _) = edge.line.distance(at, edge.out + 2.0 * TOLERANCE);
        (is_near || off < edge.out - TOLERANCE, is_on || (off - edge.out).abs() <= TOLERANCE)
    })
}

/// The edge that a place on the cutting line is too near to. About a corner the smaller of both allowances counts,
/// and along a fold there is none.
fn too_near(edges: &[NetEdge], at: Point, widest: f64) -> Option<(&NetEdge, f64)> {
    if edges.iter().any(|edge| edge.is_on_fold_line(at)) {
        return None;
    }
    let furthest = MITRE * widest + 1.0;
    let feet: Vec<(&NetEdge, f64, Point)> = edges
        .iter()
        .map(|edge| (edge, edge.line.distance(at, furthest)))
        .filter(|(_, (off, _))| *off < furthest)
        .map(|(edge, (off, foot))| (edge, off, foot))
        .collect();
    feet.iter().filter(|(edge, ..)| !edge.fold).find_map(|(edge, off, own)| {
        if *off >= edge.out - TOLERANCE {
            return None;
        }
        // Through the piece itself a seam may lie as near as it likes.
        if !edge.is_end(*own) && edge.is_inside_of(at, *own) {
            return None;
        }
        // Before a corner a neighbour's own cutting line runs past this edge, behind it on to the mitre.
        let meets = |foot: Point, other: &NetEdge| edge.is_end(foot) && other.is_end(foot);
        let neighbours = feet.iter().filter(|(other, _, foot)| meets(*foot, other) || meets(*own, other));
        let least = neighbours.map(|(other, ..)| other.out).fold(edge.out, f64::min);
        (*off < least - TOLERANCE).then_some((*edge, *off))
    })
}

/// Whether a place on the cutting line stands an allowance off some edge, or lies about a corner.
fn stands_off(edges: &[NetEdge], at: Point, widest: f64) -> bool {
    // A mitre, or its square end, lies no further from its corner than this.
    let corner = MITRE * widest + 1.0;
    edges.iter().any(|edge| {
        let (off, foot) = edge.line.distance(at, corner);
        edge.is_on_fold_line(at) || (off - edge.out).abs() <= TOLERANCE || (off < corner && edge.is_end(foot))
    })
}

/// Whether the place an edge's allowance reaches lies inside the allowance of another edge, or beyond a fold.
fn covered(edges: &[NetEdge], own: &NetEdge, wanted: Point) -> bool {
    edges.iter().any(|edge| {
        if edge.fold {
            return edge.is_beyond_fold(wanted);
        }
        // Its own bend may be tighter than its allowance.
        let slack = if std::ptr::eq(edge, own) { 2.0 * FLATNESS } else { 0.0 };
        let within = edge.out - slack;
        edge.line.distance(wanted, within).0 < within
    })
}

fn points_of(path: &BezPath) -> Vec<Point> {
    let mut points: Vec<Point> = path
        .elements()
        .iter()
        .filter_map(|el| match el {
            PathEl::MoveTo(p) | PathEl::LineTo(p) => Some(*p),
            _ => None,
        })
        .collect();
    points.extend(points.first().copied());
    points
}

/// Where a closed line crosses itself, if it does: the first place along it.
fn crossing(points: &[Point]) -> Option<Point> {
    let lines: Vec<(Line, Rect)> = points
        .windows(2)
        .map(|pair| Line::new(pair[0], pair[1]))
        .map(|line| (line, line.bounding_box()))
        .collect();
    // From left to right: only what begins before a line ends on the right can cross it.
    let mut order: Vec<usize> = (0..lines.len()).collect();
    order.sort_by(|a, b| lines[*a].1.x0.total_cmp(&lines[*b].1.x0));
    let mut first: Option<(usize, Point)> = None;
    for (place, &one) in order.iter().enumerate() {
        let (line, bounds) = &lines[one];
        let beside = order[place + 1..].iter().take_while(|&&other| lines[other].1.x0 <= bounds.x1);
        for &other in beside {
            let (low, high) = (one.min(other), one.max(other));
            let are_neighbours = high - low < 2 || (low == 0 && high == lines.len() - 1);
            let (against, box_against) = &lines[other];
            if are_neighbours || bounds.y1 < box_against.y0 || box_against.y1 < bounds.y0 {
                continue;
            }
            let inside = |t: f64| (1e-6..1.0 - 1e-6).contains(&t);
            if let Some(hit) = PathSeg::Line(*against).intersect_line(*line).first()
                && inside(hit.line_t)
                && inside(hit.segment_t)
                && first.is_none_or(|(before, _)| low < before)
            {
                first = Some((low, line.p0.lerp(line.p1, hit.line_t)));
            }
        }
    }
    first.map(|(_, at)| at)
}
