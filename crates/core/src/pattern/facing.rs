//! Facings: the part of front or back within so much of an edge, cut again to lie against it (handbook: `wishes.md`, section 8).
//!
//! A facing is drafted from the finished edge with its darts closed and its panels joined: edge after edge is laid to the end of
//! the one before and runs on from it. It takes along the stretch of the seams at both ends, so that the facings of front and back
//! meet there.

use kurbo::{Affine, Line, Point, Vec2};

use super::grain::longest_upright;
use super::half::Half;
use super::names::Share;
use super::piece::{Edge, NeckBase, Piece, Seam};
use crate::geometry::{Curve, FURTHEST, beside, house_curve, quarter_turn, reshape_start, turn_degrees};

/// At a centre where the edge comes to a point a facing reaches down by so many of its widths at most.
const POINT_REACH: f64 = 1.5;
/// Where it is cut round there, or set on a seam, the outer edge is drawn anew so far from its end, in millimetres.
const REDRAWN: f64 = 30.0;
/// An edge that arrives within this of square lets the outer edge begin on the seam, in millimetres for a millimetre of width.
const ALMOST_SQUARE: f64 = 0.15;
/// The grain line ends so far from the outline, in millimetres.
const GRAIN_INSIDE: f64 = 3.0;

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
    let share = Share::facing_of(seam).ok_or(NoFacing::NoEdge)?;
    let (first, last) = half.begins(seam).zip(half.ends(seam)).ok_or(NoFacing::NoEdge)?;
    let Laid { curve: edge, by } = laid(half, seam).ok_or(NoFacing::NoEdge)?;
    let at_start = EndSeam::before(first, seam).ok_or(NoFacing::NoEdge)?;
    let at_end = EndSeam::after(last, seam, by).ok_or(NoFacing::NoEdge)?;
    let outer = beside(&edge, wide).ok_or(NoFacing::TooTight)?;
    let (outer, down) = from_the_centre(outer, &edge, &at_start.curve, wide)?;
    let (start, end) = (at_start.cut(down)?, at_end.cut(wide)?);
    let outer = ended_on(&outer, start.end(), end.end(), wide)?;
    let pointed = first.neckline.is_some_and(|base| base.pointed);
    let mut piece = Piece {
        kind: first.kind.as_share(share),
        neckline: pointed.then_some(NeckBase { top: edge.start(), side: edge.end(), pointed }),
        edges: vec![
            Edge::sewn(seam, edge),
            Edge::sewn(at_end.seam, end),
            Edge::sewn(Seam::FacingEdge, outer.reversed()),
            Edge { fold: at_start.fold, ..Edge::sewn(at_start.seam, start.reversed()) },
        ],
        darts: Vec::new(),
        two_pointed: Vec::new(),
        gathers: Vec::new(),
        above_hip: false,
        levels: Vec::new(),
        notches: half.notches(seam),
        grain: first.grain,
    };
    if let Some((top, foot)) = longest_upright(&piece) {
        let inside = Vec2::new(0.0, GRAIN_INSIDE);
        piece.grain = (top + inside, foot - inside);
    }
    Ok(piece)
}

/// The outer edge with its ends put on the seams there, which it comes near to.
fn ended_on(outer: &Curve, start: Point, end: Point, wide: f64) -> Result<Curve, NoFacing> {
    let shifts = [start - outer.start(), end - outer.end()];
    if shifts.iter().any(|shift| shift.hypot() > ALMOST_SQUARE * wide) {
        return Err(NoFacing::TooTight);
    }
    let begun = reshape_start(outer, shifts[0], REDRAWN);
    let ended = reshape_start(&begun.reversed(), shifts[1], REDRAWN).reversed();
    Ok(ended.with_start(start).with_end(end))
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

/// The seam that an edge ends at, as far as it is one seam, its darts closed; travelled away from the edge.
struct EndSeam {
    seam: Seam,
    curve: Curve,
    fold: bool,
}

impl EndSeam {
    /// What the edge begins at.
    fn before(piece: &Piece, edge: Seam) -> Option<Self> {
        let (first, count) = (piece.first_edge(edge)?, piece.edges.len());
        let backwards = (1..count).map(|back| &piece.edges[(first + count - back) % count]);
        Self::along(backwards.map(|edge| (edge, edge.curve.reversed())), Affine::IDENTITY)
    }

    /// What it ends at, on a piece that lies so.
    fn after(piece: &Piece, edge: Seam, by: Affine) -> Option<Self> {
        let (last, count) = (piece.last_edge(edge)?, piece.edges.len());
        let onwards = (1..count).map(|on| &piece.edges[(last + on) % count]);
        Self::along(onwards.map(|edge| (edge, edge.curve.clone())), by)
    }

    fn along<'a>(edges: impl Iterator<Item = (&'a Edge, Curve)>, by: Affine) -> Option<Self> {
        let mut whole: Option<Self> = None;
        for (edge, curve) in edges {
            match &mut whole {
                None => whole = Some(Self { seam: edge.seam, curve: curve.transformed(by), fold: edge.fold }),
                Some(_) if edge.dart.is_some() => {}
                Some(begun) if begun.seam == edge.seam => {
                    let on = running_on(&begun.curve, &curve);
                    begun.curve = begun.curve.clone().then(curve.transformed(on));
                }
                Some(_) => break,
            }
        }
        whole
    }

    /// So much of it from the edge on.
    fn cut(&self, mm: f64) -> Result<Curve, NoFacing> {
        let long = self.curve.length();
        if long < mm { Err(NoFacing::Short(self.seam, long)) } else { Ok(self.curve.split(mm).0) }
    }
}

/// The outer edge where it begins at the centre, and how far down the centre that is. Where the edge comes to a point there, the
/// outer edge is carried on to the centre, or cut round.
fn from_the_centre(outer: Curve, edge: &Curve, centre: &Curve, wide: f64) -> Result<(Curve, f64), NoFacing> {
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
    let along = whole.nearest(corner) + REDRAWN;
    let (to, onwards) = (whole.point_at(along), whole.direction_at(along));
    let round = house_curve(foot, level, to, onwards).curve;
    Ok((round.then(whole.split(along).1), POINT_REACH * wide))
}
