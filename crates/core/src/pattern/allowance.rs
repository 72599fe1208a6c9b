//! Seam allowance: added on output, per edge, mitred.

use kurbo::{BezPath, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::curve::quarter_turn;
use super::piece::{DartPlace, Edge, Piece, Seam};
use super::truing::capped_outline;

/// How far a flattened curve may lie from the true one, in millimetres.
const FLATNESS: f64 = 0.01;
/// How much nearer than its allowance a cutting line may come, in millimetres.
const NEAR_ENOUGH: f64 = 0.02;
/// A mitre reaches at most this many allowances out.
const MITRE: f64 = 3.0;

/// The house's allowances by edge, in millimetres. On the fold there is none.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Allowances {
    /// Side seam.
    pub side: f64,
    /// Shoulder.
    pub shoulder: f64,
    /// Waist.
    pub waist: f64,
    /// Neckline.
    pub neckline: f64,
    /// Armhole.
    pub armhole: f64,
    /// Centre front or back where it is a seam.
    pub centre: f64,
    /// Hem.
    #[serde(default = "Allowances::usual_hem")]
    pub hem: f64,
}

impl Default for Allowances {
    /// 1/2 in, 3/8 in at neckline and armhole, 1 in at a toile's centre (common practice, no source).
    fn default() -> Self {
        Self { side: 12.7, shoulder: 12.7, waist: 12.7, neckline: 9.5, armhole: 9.5, centre: 25.0, hem: 25.0 }
    }
}

impl Allowances {
    /// None at all: "I add it on the cloth".
    pub const NONE: Self =
        Self { side: 0.0, shoulder: 0.0, waist: 0.0, neckline: 0.0, armhole: 0.0, centre: 0.0, hem: 0.0 };

    /// Houses that were set up before there were hems.
    fn usual_hem() -> f64 {
        Self::default().hem
    }

    /// What an edge of this seam gets.
    pub fn of(&self, seam: Seam, fold: bool) -> f64 {
        if fold {
            return 0.0;
        }
        match seam {
            Seam::Side | Seam::UnderSleeve | Seam::Princess => self.side,
            Seam::Shoulder => self.shoulder,
            Seam::Waist => self.waist,
            Seam::Neckline => self.neckline,
            Seam::Armhole | Seam::Cap => self.armhole,
            Seam::Hem => self.hem,
            Seam::CentreFront | Seam::CentreBack => self.centre,
            Seam::DartLeg => 0.0,
        }
    }
}

/// The line to cut on: the capped net outline, each edge moved out by its allowance, mitred.
pub fn cut_line(piece: &Piece, allowances: &Allowances) -> BezPath {
    let outline = capped_outline(piece);
    let edges: Vec<(Vec<Point>, f64)> = outline
        .iter()
        .map(|(edge, _)| {
            let out = allowances.of(edge.seam, edge.fold);
            let mut points = moved_out(&edge.curve.flattened(FLATNESS), out);
            // Where the seam bends inwards more tightly than the allowance the moved line would loop:
            // the loop is what comes too near.
            let last = points.len().saturating_sub(1);
            let near = |p: Point| edge.curve.point_at(edge.curve.nearest(p)).distance(p) < out - NEAR_ENOUGH;
            let mut index = 0..;
            points.retain(|p| index.next().is_none_or(|i| i == 0 || i == last || !near(*p)));
            (points, out)
        })
        .filter(|(points, _)| points.len() > 1)
        .collect();
    let mut path = BezPath::new();
    for (index, (points, out)) in edges.iter().enumerate() {
        let (before, before_out) = &edges[(index + edges.len() - 1) % edges.len()];
        let (after, after_out) = &edges[(index + 1) % edges.len()];
        let clear = |corner| kept_clear(corner, &outline, allowances);
        let start = clear(mitre(before, points, before_out.max(*out)));
        let end = clear(mitre(points, after, after_out.max(*out)));
        let along = |p: &Point, from: Point, dir: Vec2| (*p - from).dot(dir);
        let first = direction(points[0], points[1]);
        let last = direction(points[points.len() - 2], points[points.len() - 1]);
        let inside = points[1..points.len() - 1]
            .iter()
            .filter(|p| along(p, start, first) > 0.0 && along(p, end, last) < 0.0);
        for point in std::iter::once(&start).chain(inside).chain(std::iter::once(&end)) {
            if path.elements().is_empty() { path.move_to(*point) } else { path.line_to(*point) }
        }
    }
    path.close_path();
    path
}

fn direction(from: Point, to: Point) -> Vec2 {
    (to - from) / from.distance(to)
}

/// A flattened edge moved to the outside of a clockwise outline.
fn moved_out(points: &[Point], out: f64) -> Vec<Point> {
    let mut clean: Vec<Point> = Vec::with_capacity(points.len());
    for point in points {
        if clean.last().is_none_or(|last| last.distance(*point) > 1e-6) {
            clean.push(*point);
        }
    }
    if clean.len() < 2 {
        return Vec::new();
    }
    let outward: Vec<Vec2> = clean.windows(2).map(|w| -quarter_turn(direction(w[0], w[1]))).collect();
    let last = clean.len() - 1;
    (0..=last)
        .map(|i| {
            let (a, b) = (outward[i.saturating_sub(1)], outward[i.min(last - 1)]);
            let middle = (a + b) / (a + b).hypot();
            clean[i] + middle * (out / middle.dot(a))
        })
        .collect()
}

/// A corner beside a very short edge (a dart's cap) can come too near the edge behind it: it is moved
/// straight away from that edge to its full allowance.
fn kept_clear(corner: Point, outline: &[(Edge, Option<DartPlace>)], allowances: &Allowances) -> Point {
    outline.iter().filter(|(edge, _)| !edge.fold).fold(corner, |corner, (edge, _)| {
        let out = allowances.of(edge.seam, edge.fold);
        let foot = edge.curve.point_at(edge.curve.nearest(corner));
        let off = foot.distance(corner);
        if off < out - NEAR_ENOUGH && off > 0.0 { foot + (corner - foot) * (out / off) } else { corner }
    })
}

/// Where the line that ends `before` meets the line that begins `after`.
fn mitre(before: &[Point], after: &[Point], out: f64) -> Point {
    let (p, q) = (before[before.len() - 1], after[0]);
    let (u, v) = (direction(before[before.len() - 2], p), direction(q, after[1]));
    let across = u.cross(v);
    if across.abs() < 1e-6 {
        return p.midpoint(q);
    }
    let meeting = p + u * ((q - p).cross(v) / across);
    let reach = p.distance(meeting);
    if reach <= MITRE * out.max(1.0) { meeting } else { p.midpoint(q) }
}
