//! The line to cut on: the capped net outline with each edge's allowance added.
//!
//! Every edge lays down a strip of its own width: a rectangle beside each short straight piece of its
//! flattened line, and a wedge wherever the outline turns outwards. The cutting line is the outer
//! boundary of all strips and the net piece together. So it stands nowhere nearer than its allowance,
//! a bend tighter than the allowance loses no seam, and it cannot cross itself.

use i_overlay::core::fill_rule::FillRule;
use i_overlay::core::overlay_rule::OverlayRule;
use i_overlay::float::overlay::FloatOverlay;
use kurbo::{BezPath, Point, Vec2};

use super::Allowances;
use super::piece::Piece;
use super::truing::capped_outline;
use crate::geometry::quarter_turn;

/// How far a flattened curve may lie from the true one, in millimetres.
const FLATNESS: f64 = 0.01;
/// A mitre reaches at most this many allowances out; beyond it is cut off square.
const MITRE: f64 = 3.0;
/// Points nearer to each other than this are one, in millimetres.
const SAME: f64 = 1e-6;
/// An edge that ends nearer than this to where the next begins ends there, in millimetres; no edge is as short.
const GAP: f64 = 1e-3;
/// The least cosine of the turn between two straight pieces of a gentle bend: 25 degrees.
const GENTLE: f64 = 0.9;
/// Further than any piece reaches, in millimetres.
const FAR: f64 = 1e4;

type Contour = Vec<[f64; 2]>;

/// A flattened edge of the capped outline and what is added to it, in millimetres.
struct Strip {
    points: Vec<Point>,
    out: f64,
    fold: bool,
}

/// The line to cut on, closed, clockwise to the eye like the outline. Empty for an outline that lies wholly beyond its own
/// fold: there is no cloth to cut.
pub fn cut_line(piece: &Piece, allowances: &Allowances) -> BezPath {
    let mut strips: Vec<Strip> = capped_outline(piece)
        .iter()
        .map(|(edge, _)| Strip {
            points: apart(edge.curve.flattened(FLATNESS)),
            out: allowances.on(piece, edge),
            fold: edge.fold,
        })
        .filter(|strip| {
            strip.points.len() > 1 && strip.points[0].distance(strip.points[strip.points.len() - 1]) > GAP
        })
        .collect();
    join_ends(&mut strips);
    let net: Contour = strips.iter().flat_map(|strip| &strip.points[1..]).map(|p| [p.x, p.y]).collect();
    let mut shapes: Vec<Contour> = vec![net];
    for (index, strip) in strips.iter().enumerate() {
        match band(strip) {
            Some(band) => shapes.push(band),
            None => shapes.extend(rectangles(strip).chain(bends(strip))),
        }
        shapes.extend(corner(strip, &strips[(index + 1) % strips.len()]));
    }
    // All of them turn the same way, so that what overlaps counts as filled.
    for shape in &mut shapes {
        if doubled_area(shape) < 0.0 {
            shape.reverse();
        }
    }
    let mut outer = outer_boundary(shapes);
    for strip in strips.iter().filter(|strip| strip.fold) {
        outer = cut_off_beyond(outer, strip);
    }
    closed(&outer)
}

/// Each edge ends in the very point where the next begins: a gap of a rounding error would open a slit in the cloth
/// between their strips.
fn join_ends(strips: &mut [Strip]) {
    for index in 0..strips.len() {
        let begins = strips[(index + 1) % strips.len()].points[0];
        let points = &mut strips[index].points;
        while points.len() > 1 && points[points.len() - 1].distance(begins) < GAP {
            points.pop();
        }
        points.push(begins);
    }
}

/// Without points that fall on the one before.
fn apart(points: Vec<Point>) -> Vec<Point> {
    let mut clean: Vec<Point> = Vec::with_capacity(points.len());
    for point in points {
        if clean.last().is_none_or(|last| last.distance(point) > SAME) {
            clean.push(point);
        }
    }
    clean
}

fn direction(from: Point, to: Point) -> Vec2 {
    (to - from) / from.distance(to)
}

/// The unit vector that points out of a clockwise outline.
fn outward(direction: Vec2) -> Vec2 {
    -quarter_turn(direction)
}

/// A gently bent edge's strip in one: there and back beside it. `None` where a bend is sharp, or so tight that beside it the
/// line would run backwards: rectangles and wedges say what is covered there.
fn band(strip: &Strip) -> Option<Contour> {
    let directions: Vec<Vec2> = strip.points.windows(2).map(|pair| direction(pair[0], pair[1])).collect();
    let (first, last) = (outward(*directions.first()?), outward(*directions.last()?));
    // Beside each point where two straight pieces meet, on the line that halves their corner.
    let halved = directions.windows(2).map(|pair| {
        let along = pair[0].dot(pair[1]);
        (along > GENTLE).then(|| (outward(pair[0]) + outward(pair[1])) / (1.0 + along))
    });
    let sides = std::iter::once(Some(first)).chain(halved).chain(std::iter::once(Some(last)));
    let beside: Vec<Point> = { strip.points.iter().zip(sides) }
        .map(|(at, side)| side.map(|side| *at + side * strip.out))
        .collect::<Option<_>>()?;
    let runs_on = |(pair, along): (&[Point], &Vec2)| (pair[1] - pair[0]).dot(*along) > 0.0;
    let all_run_on = beside.windows(2).zip(&directions).all(runs_on);
    all_run_on.then(|| strip.points.iter().chain(beside.iter().rev()).map(|p| [p.x, p.y]).collect())
}

fn rectangles(strip: &Strip) -> impl Iterator<Item = Contour> {
    strip.points.windows(2).filter(|_| strip.out > 0.0).map(|pair| {
        let (from, to) = (pair[0], pair[1]);
        let out = outward(direction(from, to)) * strip.out;
        contour(&[from, to, to + out, from + out])
    })
}

/// Wedges where a smooth edge turns outwards between two of its straight pieces.
fn bends(strip: &Strip) -> impl Iterator<Item = Contour> {
    strip.points.windows(3).filter(|_| strip.out > 0.0).filter_map(|three| {
        let (before, after) = (direction(three[0], three[1]), direction(three[1], three[2]));
        wedge(three[1], (before, strip.out), (after, strip.out))
    })
}

/// The wedge at the corner where one edge ends and the next begins.
fn corner(ends: &Strip, begins: &Strip) -> Option<Contour> {
    let [.., before, at] = ends.points.as_slice() else { return None };
    let after = begins.points.get(1)?;
    wedge(*at, (direction(*before, *at), ends.out), (direction(*at, *after), begins.out))
}

/// What lies between the ends of two strips that meet at `at`: each a direction and what is added.
///
/// A mitre where both lines run on to their crossing; cut off square where that lies too far out.
/// `None` where the outline turns inwards: the strips overlap there.
fn wedge(at: Point, (u, first): (Vec2, f64), (v, second): (Vec2, f64)) -> Option<Contour> {
    let (turn, along) = (u.cross(v), u.dot(v));
    if turn < 1e-12 && along > 0.0 || turn < -1e-9 || first.max(second) <= 0.0 {
        return None;
    }
    let (from, to) = (at + outward(u) * first, at + outward(v) * second);
    let most = MITRE * first.max(second);
    // How far each line runs on to the crossing of both.
    let on = (to - from).cross(v) / turn;
    let back = (to - from).cross(u) / turn;
    let meeting = from + u * on;
    if turn > 1e-9 && on >= 0.0 && back <= 0.0 && at.distance(meeting) <= most {
        return Some(contour(&[at, from, meeting, to]));
    }
    if turn > 1e-9 && (on < 0.0 || back > 0.0) {
        // A slight turn between unequal allowances: both run on as far as the smaller one has it.
        let least = first.min(second);
        let middle = outward(u) + outward(v);
        let tip = at + middle * (least / (1.0 + along));
        return Some(contour(&[at, from, tip, to]));
    }
    // Too sharp for a mitre: cut off square to the line that halves the corner.
    let half = if turn > 1e-9 { outward(u) + outward(v) } else { u - v };
    let half = half / half.hypot();
    let reach = |start: Point, way: Vec2| {
        let step = way.dot(half);
        if step > 1e-9 { start + way * (((most - (start - at).dot(half)) / step).max(0.0)) } else { start }
    };
    Some(contour(&[at, from, reach(from, u), reach(to, -v), to]))
}

fn contour(points: &[Point]) -> Contour {
    points.iter().map(|p| [p.x, p.y]).collect()
}

/// Twice the area, positive for a contour that runs clockwise to the eye.
fn doubled_area(contour: &Contour) -> f64 {
    let next = contour.iter().cycle().skip(1);
    contour.iter().zip(next).map(|(a, b)| a[0] * b[1] - b[0] * a[1]).sum()
}

/// The outer boundary of everything together, clockwise to the eye. What the strips close in on all sides
/// is cloth that stays.
fn outer_boundary(shapes: Vec<Contour>) -> Contour {
    let united = FloatOverlay::with_subj(&shapes).overlay(OverlayRule::Subject, FillRule::NonZero);
    largest(united)
}

/// Without what reaches over the line of a fold: there the cloth goes on, doubled.
fn cut_off_beyond(outer: Contour, fold: &Strip) -> Contour {
    let (first, last) = (fold.points[0], fold.points[fold.points.len() - 1]);
    let along = direction(first, last);
    let inward = -outward(along);
    let (top, bottom) = (first - along * FAR, last + along * FAR);
    let side = contour(&[top, bottom, bottom + inward * FAR, top + inward * FAR]);
    let kept =
        FloatOverlay::with_subj_and_clip(&outer, &side).overlay(OverlayRule::Intersect, FillRule::NonZero);
    largest(kept)
}

fn largest(shapes: Vec<Vec<Contour>>) -> Contour {
    let outer = shapes.into_iter().filter_map(|shape| shape.into_iter().next());
    let by_area = |a: &Contour, b: &Contour| doubled_area(a).abs().total_cmp(&doubled_area(b).abs());
    let mut largest = outer.max_by(by_area).unwrap_or_default();
    if doubled_area(&largest) < 0.0 {
        largest.reverse();
    }
    largest
}

fn closed(contour: &Contour) -> BezPath {
    let mut path = BezPath::new();
    for (index, [x, y]) in contour.iter().enumerate() {
        if index == 0 { path.move_to((*x, *y)) } else { path.line_to((*x, *y)) }
    }
    if !contour.is_empty() {
        path.close_path();
    }
    path
}
