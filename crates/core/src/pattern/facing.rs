//! Facings: the part of front or back within so much of an edge, cut again to lie against it (handbook: `wishes.md`, section 8).
//!
//! A facing is drafted from the finished edge with its darts closed and its panels joined: edge after edge is laid to the end of
//! the one before and runs on from it. It takes along the stretch of the seams at both ends, so that the facings of front and back
//! meet there.

use kurbo::{Affine, Line, Point, Shape as _, Vec2};

use super::half::Half;
use super::names::Share;
use super::piece::{Edge, NeckBase, Notch, Piece, Seam};
use crate::geometry::{Curve, FURTHEST, beside, house_curve, quarter_turn, reshape_start, turn_degrees};

/// At a centre where the edge comes to a point a facing reaches down by so many of its widths at most.
const POINT_REACH: f64 = 1.5;
/// Where it is cut round there, or set on a seam, the outer edge is drawn anew so far from its end, in millimetres.
const ROUNDED: f64 = 30.0;
/// An edge that arrives within this of square lets the outer edge begin on the seam, in millimetres for a millimetre of width.
const ALMOST_SQUARE: f64 = 0.15;
/// The grain line ends so far from the outline, in millimetres.
const GRAIN_INSIDE: f64 = 3.0;
/// In how many places across a facing the longest grain line is looked for.
const PLACES_ACROSS: u32 = 60;
/// How far the straight pieces a grain line is measured between may lie from the outline, in millimetres.
const FLAT: f64 = 0.1;

/// Why a facing cannot be drafted.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) enum NoFacing {
    /// The half has no such edge.
    NoEdge,
    /// A seam at its end is only so long, in millimetres.
    Short(Seam, f64),
    /// The edge bends too tightly for one so wide.
    TooTight,
}

/// The edges that are faced.
pub(crate) const FACED: [(Seam, Share); 3] = [
    (Seam::Neckline, Share::NeckFacing),
    (Seam::Armhole, Share::ArmholeFacing),
    (Seam::UpperEdge, Share::EdgeFacing),
];

/// A run of edges laid end to end, and how the last of them lies.
struct Laid {
    curve: Curve,
    by: Affine,
}

/// The facing of an edge, so wide.
///
/// # Errors
///
/// [`NoFacing`].
pub(crate) fn facing(half: &Half<'_>, seam: Seam, wide: f64) -> Result<Piece, NoFacing> {
    let share = FACED.iter().find(|(faced, _)| *faced == seam).map(|(_, share)| *share);
    let (first, last) = half.begins(seam).zip(half.ends(seam)).ok_or(NoFacing::NoEdge)?;
    let edge = laid(half, seam).ok_or(NoFacing::NoEdge)?;
    let begins = first.first_edge(seam).ok_or(NoFacing::NoEdge)?;
    let ends = last.last_edge(seam).ok_or(NoFacing::NoEdge)?;
    let count = first.edges.len();
    let before: Vec<&Edge> = (1..count).map(|back| &first.edges[(begins + count - back) % count]).collect();
    let after: Vec<&Edge> =
        (1..last.edges.len()).map(|on| &last.edges[(ends + on) % last.edges.len()]).collect();
    // Both are travelled away from the edge.
    let at_start = end_seam(before.iter().map(|edge| (*edge, edge.curve.reversed())), Affine::IDENTITY)?;
    let at_end = end_seam(after.iter().map(|edge| (*edge, edge.curve.clone())), edge.by)?;
    let outer = beside(&edge.curve, wide).ok_or(NoFacing::TooTight)?;
    let (outer, down) = from_the_centre(outer, &edge.curve, &at_start, wide)?;
    let cut = |seam: &(Seam, Curve, bool), mm: f64| -> Result<Curve, NoFacing> {
        let (of, curve, _) = seam;
        if curve.length() < mm { Err(NoFacing::Short(*of, curve.length())) } else { Ok(curve.split(mm).0) }
    };
    let (start, end) = (cut(&at_start, down)?, cut(&at_end, wide)?);
    let shifts = (start.end() - outer.start(), end.end() - outer.end());
    if shifts.0.hypot().max(shifts.1.hypot()) > ALMOST_SQUARE * wide {
        return Err(NoFacing::TooTight);
    }
    let outer = reshape_start(&outer, shifts.0, ROUNDED);
    let outer = reshape_start(&outer.reversed(), shifts.1, ROUNDED).reversed();
    let outer = outer.with_start(start.end()).with_end(end.end());
    let pointed = half.at_centre().neckline.is_some_and(|base| base.pointed);
    let edges = vec![
        Edge::sewn(seam, edge.curve.clone()),
        Edge::sewn(at_end.0, end),
        Edge::sewn(Seam::FacingEdge, outer.reversed()),
        Edge { fold: at_start.2, ..Edge::sewn(at_start.0, start.reversed()) },
    ];
    let notches: Vec<Notch> = half.notches(seam);
    let mut piece = Piece {
        kind: share.map_or(first.kind, |share| first.kind.as_share(share)),
        neckline: pointed.then_some(NeckBase { top: edge.curve.start(), side: edge.curve.end(), pointed }),
        edges,
        darts: Vec::new(),
        two_pointed: Vec::new(),
        gathers: Vec::new(),
        above_hip: false,
        levels: Vec::new(),
        notches,
        grain: first.grain,
    };
    piece.grain = longest_upright(&piece);
    Ok(piece)
}

/// The edges of a seam over all pieces of a half, laid end to end.
fn laid(half: &Half<'_>, seam: Seam) -> Option<Laid> {
    let mut whole: Option<Laid> = None;
    for curve in half.edges_of(seam).map(|edge| &edge.curve) {
        whole = Some(match whole {
            None => Laid { curve: curve.clone(), by: Affine::IDENTITY },
            Some(Laid { curve: before, .. }) => {
                let by = running_on(&before, curve);
                Laid { curve: before.then(curve.transformed(by)), by }
            }
        });
    }
    whole
}

/// What lays a curve to the end of another so that it runs on from it.
fn running_on(before: &Curve, next: &Curve) -> Affine {
    let turn = turn_degrees(next.start_direction(), before.end_direction()).to_radians();
    Affine::translate(before.end().to_vec2())
        * Affine::rotate(turn)
        * Affine::translate(-next.start().to_vec2())
}

/// The seam that an edge ends at, as far as it is one seam, its darts closed: which, how it lies, whether it is on the fold.
fn end_seam<'a>(
    edges: impl Iterator<Item = (&'a Edge, Curve)>,
    by: Affine,
) -> Result<(Seam, Curve, bool), NoFacing> {
    let mut whole: Option<(Seam, Curve, bool)> = None;
    for (edge, curve) in edges {
        match &mut whole {
            None => whole = Some((edge.seam, curve.transformed(by), edge.fold)),
            Some(_) if edge.dart.is_some() => {}
            Some((seam, before, _)) if *seam == edge.seam => {
                let on = running_on(before, &curve);
                *before = before.clone().then(curve.transformed(on));
            }
            Some(_) => break,
        }
    }
    whole.ok_or(NoFacing::NoEdge)
}

/// The outer edge where it begins at the centre, and how far down the centre that is. Where the edge comes to a point there, the
/// outer edge is carried on to the centre, or cut round.
fn from_the_centre(
    outer: Curve,
    edge: &Curve,
    (_, centre, _): &(Seam, Curve, bool),
    wide: f64,
) -> Result<(Curve, f64), NoFacing> {
    let down = centre.start_direction();
    let aside = (outer.start() - edge.start()).cross(down);
    if aside.abs() <= ALMOST_SQUARE * wide {
        return Ok((outer, wide));
    }
    let way = outer.start_direction();
    let from = edge.start();
    let on = Line::new(outer.start(), outer.start() - way)
        .crossing_point(Line::new(from, from + down))
        .ok_or(NoFacing::TooTight)?;
    let reaches = (on - from).dot(down);
    if aside < 0.0 || reaches <= 0.0 {
        // Beyond the centre line: cut off there.
        let along = outer.crossing(Line::new(from, from + down * FURTHEST)).ok_or(NoFacing::TooTight)?;
        let short = outer.split(along).1;
        let down = (short.start() - from).dot(down);
        return Ok((short, down));
    }
    if reaches <= POINT_REACH * wide {
        return Ok((Curve::line(on, outer.start()).then(outer), reaches));
    }
    let foot = from + down * (POINT_REACH * wide);
    let level = -quarter_turn(down);
    let corner = Line::new(foot, foot + level)
        .crossing_point(Line::new(outer.start(), outer.start() + way))
        .ok_or(NoFacing::TooTight)?;
    let whole = Curve::line(on, outer.start()).then(outer);
    let along = whole.nearest(corner) + ROUNDED;
    let (to, onwards) = (whole.point_at(along), whole.direction_at(along));
    let round = house_curve(foot, level, to, onwards).curve;
    Ok((round.then(whole.split(along).1), POINT_REACH * wide))
}

/// The longest line straight up and down in a piece, a little inside the outline.
fn longest_upright(piece: &Piece) -> (Point, Point) {
    let bounds = piece.bounds();
    let stretches: Vec<Line> = { piece.edges.iter() }
        .flat_map(|edge| {
            let points = edge.curve.flattened(FLAT);
            points.windows(2).map(|pair| Line::new(pair[0], pair[1])).collect::<Vec<_>>()
        })
        .collect();
    let outline = piece.outline();
    let upright = |n: u32| {
        let x = bounds.x0 + bounds.width() * (f64::from(n) + 0.5) / f64::from(PLACES_ACROSS);
        let meets = |line: &Line| {
            let share = (x - line.p0.x) / (line.p1.x - line.p0.x);
            (0.0..1.0).contains(&share).then(|| line.p0.lerp(line.p1, share).y)
        };
        let mut levels: Vec<f64> = stretches.iter().filter_map(meets).collect();
        levels.sort_by(f64::total_cmp);
        let inside = |pair: &&[f64]| outline.contains(Point::new(x, pair[0].midpoint(pair[1])));
        let longest = { levels.windows(2) }
            .filter(inside)
            .max_by(|a, b| (a[1] - a[0]).total_cmp(&(b[1] - b[0])))
            .map(|pair| (pair[0] + GRAIN_INSIDE, pair[1] - GRAIN_INSIDE))?;
        Some((Point::new(x, longest.0), Point::new(x, longest.1)))
    };
    let length = |line: &(Point, Point)| line.1.y - line.0.y;
    let found = (0..PLACES_ACROSS).filter_map(upright).max_by(|a, b| length(a).total_cmp(&length(b)));
    found.unwrap_or_else(|| {
        let at = bounds.center();
        (at - Vec2::new(0.0, 1.0), at + Vec2::new(0.0, 1.0))
    })
}
