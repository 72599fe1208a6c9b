//! Facings: the part of front or back within so much of an edge, cut again to lie against it (handbook: `wishes.md`, section 8).
//!
//! A facing is drafted from the finished edge with its darts closed and its panels joined: edge after edge is laid to the end of
//! the one before and runs on from it. It takes along the stretch of the seams at both ends, so that the facings of front and back
//! meet there.

use kurbo::{Affine, Line, Point, Vec2};

use super::grain::longest_upright;
use super::half::Half;
use super::names::Share;
use super::piece::{Edge, NeckBase, Notch, Piece, Seam};
use crate::geometry::{
    Curve, FURTHEST, Stretches, beside, house_curve, quarter_turn, reshape_start, root, turn_degrees,
};

/// At a centre where the edge comes to a point a facing reaches down by so many of its widths at most.
const POINT_REACH: f64 = 1.5;
/// Where it is cut round there, or set on a seam, the outer edge is drawn anew so far from its end, in millimetres.
const REDRAWN: f64 = 30.0;
/// An edge that arrives within this of square lets the outer edge begin on the seam, in millimetres for a millimetre of width.
const ALMOST_SQUARE: f64 = 0.15;
/// Where two outer edges cross is looked for in steps of this length, and how exactly the edge is read there, in millimetres.
const LOOKED_AT: f64 = 2.0;
const CROSSES_WITHIN: f64 = 0.005;
/// The one goes round into the other from so far before where they cross to so far after it, the first that is nowhere sharper
/// than this radius, in millimetres; looked at in so many places.
const GOES_ROUND: [f64; 5] = [30.0, 45.0, 60.0, 80.0, 110.0];
const LEAST_RADIUS: f64 = 20.0;
const CURVATURES: u32 = 40;
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
    /// Neckline and armhole lie further apart than both their facings are wide.
    Apart,
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
    let share = Share::facing_of(&[seam]).ok_or(NoFacing::NoEdge)?;
    let (first, last) = half.begins(seam).zip(half.ends(seam)).ok_or(NoFacing::NoEdge)?;
    let Laid { curve: edge, by } = laid(half, seam, Affine::IDENTITY).ok_or(NoFacing::NoEdge)?;
    let at_start = EndSeam::before(first, seam).ok_or(NoFacing::NoEdge)?;
    let at_end = EndSeam::after(last, seam, by).ok_or(NoFacing::NoEdge)?;
    let outer = beside(&edge, wide).ok_or(NoFacing::TooTight)?;
    let (outer, down) = from_the_centre(outer, &edge, &at_start.curve, wide)?;
    let (start, end) = (at_start.cut(down)?, at_end.cut(wide)?);
    let outer = ended_on(&outer, start.end(), end.end(), wide)?;
    let pointed = first.neckline.is_some_and(|base| base.pointed);
    let base = pointed.then_some(NeckBase { top: edge.start(), side: edge.end(), pointed });
    let edges = vec![
        Edge::sewn(seam, edge),
        Edge::sewn(at_end.seam, end),
        Edge::sewn(Seam::FacingEdge, outer.reversed()),
        Edge { fold: at_start.fold, ..Edge::sewn(at_start.seam, start.reversed()) },
    ];
    Ok(piece(first, share, edges, base, half.notches(seam)))
}

/// The facing of neckline and armhole in one, so wide, with the shoulder between them: for a shoulder too short for one of each.
///
/// # Errors
///
/// [`NoFacing`].
pub(crate) fn facing_in_one(half: &Half<'_>, wide: f64) -> Result<Piece, NoFacing> {
    let edges = [Seam::Neckline, Seam::Armhole];
    let share = Share::facing_of(&edges).ok_or(NoFacing::NoEdge)?;
    let [first, last] = edges.map(|seam| half.begins(seam).zip(half.ends(seam)).ok_or(NoFacing::NoEdge));
    let ((first, _), (_, last)) = (first?, last?);
    let ([neckline, shoulder, armhole], by) = laid_in_one(half).ok_or(NoFacing::NoEdge)?;
    let at_start = EndSeam::before(first, Seam::Neckline).ok_or(NoFacing::NoEdge)?;
    let at_end = EndSeam::after(last, Seam::Armhole, by).ok_or(NoFacing::NoEdge)?;
    let of_neckline = beside(&neckline, wide).ok_or(NoFacing::TooTight)?;
    let (of_neckline, down) = from_the_centre(of_neckline, &neckline, &at_start.curve, wide)?;
    let of_armhole = beside(&armhole, wide).ok_or(NoFacing::TooTight)?;
    let outer = joined(&of_neckline, &of_armhole, &armhole, wide)?;
    let (start, end) = (at_start.cut(down)?, at_end.cut(wide)?);
    let outer = ended_on(&outer, start.end(), end.end(), wide)?;
    let pointed = first.neckline.is_some_and(|base| base.pointed);
    let base = pointed.then_some(NeckBase { top: neckline.start(), side: neckline.end(), pointed });
    let sewn = vec![
        Edge::sewn(Seam::Neckline, neckline),
        Edge::sewn(Seam::Shoulder, shoulder),
        Edge::sewn(Seam::Armhole, armhole),
        Edge::sewn(at_end.seam, end),
        Edge::sewn(Seam::FacingEdge, outer.reversed()),
        Edge { fold: at_start.fold, ..Edge::sewn(at_start.seam, start.reversed()) },
    ];
    Ok(piece(first, share, sewn, base, edges.iter().flat_map(|seam| half.notches(*seam)).collect()))
}

/// The outer edges of neckline and armhole as one: where they cross the one goes round into the other.
fn joined(of_neckline: &Curve, of_armhole: &Curve, armhole: &Curve, wide: f64) -> Result<Curve, NoFacing> {
    let armhole = Stretches::within(CROSSES_WITHIN, [armhole]);
    let long = of_neckline.length();
    let beyond = |along: f64| armhole.away(of_neckline.point_at(along)) - wide;
    let count = (long / LOOKED_AT).ceil().max(1.0) as u32;
    let at = |n: u32| long * f64::from(n) / f64::from(count);
    let before = (1..=count).find(|n| beyond(at(*n)) <= 0.0).ok_or(NoFacing::Apart)?;
    let crosses = root(beyond, at(before - 1), at(before)).ok_or(NoFacing::TooTight)?;
    let meets = of_armhole.nearest(of_neckline.point_at(crosses));
    let round = |reach: f64| {
        let (from, to) = (crosses - reach, meets + reach);
        if from <= 0.0 || to >= of_armhole.length() {
            return None;
        }
        let (begins, onwards) = (of_neckline.split(from).0, of_armhole.split(to).1);
        let (leaves, arrives) = (begins.end_direction(), onwards.start_direction());
        let round = house_curve(begins.end(), leaves, onwards.start(), arrives).curve;
        let sharpest =
            { round.curvatures(CURVATURES).into_iter() }.fold(0.0, |most: f64, k| most.max(k.abs()));
        (sharpest < 1.0 / LEAST_RADIUS).then(|| begins.then(round).then(onwards))
    };
    GOES_ROUND.into_iter().find_map(round).ok_or(NoFacing::Apart)
}

/// A facing of these edges, its grain line the longest that has room.
fn piece(
    of: &Piece,
    share: Share,
    edges: Vec<Edge>,
    neckline: Option<NeckBase>,
    notches: Vec<Notch>,
) -> Piece {
    let mut piece = Piece { neckline, notches, ..Piece::bare(of.kind.as_share(share), edges, of.grain) };
    if let Some((top, foot)) = longest_upright(&piece) {
        let inside = Vec2::new(0.0, GRAIN_INSIDE);
        piece.grain = (top + inside, foot - inside);
    }
    piece
}

/// Neckline, shoulder and armhole of a half laid end to end, darts closed and panels joined, and how the piece lies that the
/// armhole ends on.
fn laid_in_one(half: &Half<'_>) -> Option<([Curve; 3], Affine)> {
    let Laid { curve: neckline, by } = laid(half, Seam::Neckline, Affine::IDENTITY)?;
    let Laid { curve: shoulder, by } = laid(half, Seam::Shoulder, by)?;
    let Laid { curve: armhole, by } = laid(half, Seam::Armhole, by)?;
    Some(([neckline, shoulder, armhole], by))
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

/// The edges of a seam over all pieces of a half, laid end to end; the piece it begins on lies so.
fn laid(half: &Half<'_>, seam: Seam, by: Affine) -> Option<Laid> {
    let mut whole: Option<Laid> = None;
    for curve in half.edges_of(seam).map(|edge| &edge.curve) {
        whole = Some(match whole {
            None => Laid { curve: curve.transformed(by), by },
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
