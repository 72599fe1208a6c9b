//! A little of an alteration lies between nothing and the least amount that is drawn anew: an amount that goes to nothing
//! moves no line by a jump, even where truing redraws a whole seam.

use kurbo::{PathSeg, Point, Vec2};

use crate::geometry::{Curve, reshape_ends};
use crate::pattern::{Edge, Pattern, Piece};

/// Parts that a seam is drawn in where its two states are drawn in different ones: a hundredth of a millimetre on a side
/// seam with a corner at its bust line.
const PARTS: u32 = 64;
/// Legs that differ by less are even, in millimetres.
const EVEN: f64 = 1e-3;

impl Curve {
    /// The curve a share of the way to another one, control point for control point where both are drawn in the same
    /// parts, place for place otherwise.
    fn part_way(&self, other: &Self, share: f64) -> Self {
        let (own, theirs) = (self.segments(), other.segments());
        let parts: Option<Vec<Self>> = (own.len() == theirs.len())
            .then(|| own.iter().zip(theirs).map(|pair| part_of_the_way(pair, share)).collect())
            .flatten();
        match parts.and_then(|parts| parts.into_iter().reduce(Self::then)) {
            Some(curve) => curve,
            None => self.towards_in(other, share, PARTS),
        }
    }
}

fn part_of_the_way(pair: (&PathSeg, &PathSeg), share: f64) -> Option<Curve> {
    match pair {
        (PathSeg::Line(a), PathSeg::Line(b)) => {
            Some(Curve::line(a.p0.lerp(b.p0, share), a.p1.lerp(b.p1, share)))
        }
        (PathSeg::Cubic(a), PathSeg::Cubic(b)) => Some(Curve::cubic(
            a.p0.lerp(b.p0, share),
            a.p1.lerp(b.p1, share),
            a.p2.lerp(b.p2, share),
            a.p3.lerp(b.p3, share),
        )),
        _ => None,
    }
}

/// The pattern a share of the way from one state to another. `None` where a piece, an edge or a dart came or went.
pub(super) fn between(from: &Pattern, to: &Pattern, share: f64) -> Option<Pattern> {
    let same = from.pieces.len() == to.pieces.len();
    let pieces = from.pieces.iter().zip(&to.pieces).map(|(from, to)| piece_between(from, to, share));
    let pieces = same.then(|| pieces.collect::<Option<Vec<_>>>()).flatten()?;
    Some(Pattern { pieces, ..to.clone() })
}

/// The piece with the dart that another state of it has more, as a slit of nothing's width.
fn with_slit(from: &Piece, to: &Piece) -> Option<Piece> {
    let new = to.darts.iter().find(|dart| from.dart(dart.place).is_none())?;
    let leg = to.first_leg(new.place)?;
    let before = to.edges.get(leg.checked_sub(1)?)?;
    let after = to.edges.get(leg + 2).filter(|after| after.seam == before.seam)?;
    let index = from.edges.iter().position(|edge| edge.seam == before.seam && edge.dart.is_none())?;
    let whole = &from.edges[index];
    let share = before.curve.length() / (before.curve.length() + after.curve.length());
    let (first, second) = whole.curve.split(whole.curve.length() * share);
    let at = first.end();
    let mut piece = from.clone();
    let with = |curve| Edge { curve, ..whole.clone() };
    let slit = [Edge::leg(new.place, at, new.pivot), Edge::leg(new.place, new.pivot, at)];
    piece.edges.splice(index..=index, [with(first)].into_iter().chain(slit).chain([with(second)]));
    let place = to.darts.iter().position(|dart| dart.place == new.place)?;
    piece.darts.insert(place, new.clone());
    Some(piece)
}

fn with_ends(curve: &Curve, start: Vec2, end: Vec2) -> Curve {
    if curve.is_straight() {
        return Curve::line(curve.start() + start, curve.end() + end);
    }
    reshape_ends(curve, start, end)
}

/// Both legs of every dart that has even legs in both states as long as each other: between them they are uneven by a hair.
fn even_legs(piece: &mut Piece, from: &Piece, to: &Piece) {
    let count = piece.edges.len();
    for index in 0..count {
        let (next, before, after) = ((index + 1) % count, (index + count - 1) % count, (index + 2) % count);
        let lengths = |of: &Piece| [index, next].map(|each| of.edges[each].curve.length());
        let are_even = |of: &Piece| (lengths(of)[0] - lengths(of)[1]).abs() < EVEN;
        let (first, second) = (&piece.edges[index], &piece.edges[next]);
        let Some(place) = first.dart.filter(|place| second.dart == Some(*place)) else { continue };
        if !are_even(from) || !are_even(to) {
            continue;
        }
        let (start, pivot, end) = (first.curve.start(), first.curve.end(), second.curve.end());
        let length = f64::midpoint(start.distance(pivot), end.distance(pivot));
        if length < EVEN {
            continue;
        }
        let corner = |at: Point| pivot + (at - pivot) * (length / at.distance(pivot));
        let moved = [corner(start) - start, corner(end) - end];
        piece.edges[index] = Edge::leg(place, start + moved[0], pivot);
        piece.edges[next] = Edge::leg(place, pivot, end + moved[1]);
        piece.edges[before].curve = with_ends(&piece.edges[before].curve, Vec2::ZERO, moved[0]);
        piece.edges[after].curve = with_ends(&piece.edges[after].curve, moved[1], Vec2::ZERO);
    }
}

fn piece_between(from: &Piece, to: &Piece, share: f64) -> Option<Piece> {
    let slit = (from.darts.len() + 1 == to.darts.len()).then(|| with_slit(from, to)).flatten();
    let from = slit.as_ref().unwrap_or(from);
    let is_alike = |(a, b): (&Edge, &Edge)| a.seam == b.seam && a.dart == b.dart;
    let same = from.kind == to.kind
        && from.edges.len() == to.edges.len()
        && from.edges.iter().zip(&to.edges).all(is_alike)
        && from.darts.len() == to.darts.len()
        && from.two_pointed.len() == to.two_pointed.len()
        && from.levels.len() == to.levels.len()
        && from.notches.len() == to.notches.len()
        && from.gathers == to.gathers;
    if !same {
        return None;
    }
    let mut piece = to.clone();
    let go = |point: &mut Point, start: Point| *point = start.lerp(*point, share);
    for (edge, old) in piece.edges.iter_mut().zip(&from.edges) {
        if edge.curve != old.curve {
            edge.curve = old.curve.part_way(&edge.curve, share);
        }
    }
    even_legs(&mut piece, from, to);
    for dart in &mut piece.darts {
        let old = from.dart(dart.place)?;
        go(&mut dart.pivot, old.pivot);
        go(&mut dart.point, old.point);
    }
    for (dart, old) in piece.two_pointed.iter_mut().zip(&from.two_pointed) {
        for (point, start) in [
            (&mut dart.upper, old.upper),
            (&mut dart.lower, old.lower),
            (&mut dart.first, old.first),
            (&mut dart.second, old.second),
            (&mut dart.point, old.point),
        ] {
            go(point, start);
        }
    }
    for (level, old) in piece.levels.iter_mut().zip(&from.levels) {
        if level.points.len() != old.points.len() {
            return None;
        }
        level.points.iter_mut().zip(&old.points).for_each(|(point, start)| go(point, *start));
    }
    for (notch, old) in piece.notches.iter_mut().zip(&from.notches) {
        notch.from_underarm = old.from_underarm + (notch.from_underarm - old.from_underarm) * share;
    }
    go(&mut piece.grain.0, from.grain.0);
    go(&mut piece.grain.1, from.grain.1);
    Some(piece)
}
