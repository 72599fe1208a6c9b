//! Pieces laid side by side on one plane, with everything that is drawn on them.

use kurbo::{Affine, BezPath, Line, PathEl, PathSeg, Point, Rect, Shape};
use yardwand_core::Style;
use yardwand_core::pattern::{
    Allowances, DartDrawing, Pattern, PieceDrawing, PieceKind, cut_line, draw_piece,
};

/// No cutting line stands further off than this, in millimetres: a mitre of the widest allowance.
const FURTHEST: f64 = 3.0 * Allowances::MOST;
/// Room round the whole, in millimetres: a line on its very edge would be cut by the frame of the page.
const EDGE: f64 = 3.0;
/// Room between pieces, in millimetres.
const BETWEEN: f64 = 12.0;

/// One piece in its place on the plane.
#[derive(Clone, Debug)]
pub struct Laid {
    /// Which piece.
    pub kind: PieceKind,
    /// Its name.
    pub name: String,
    /// Cut instruction.
    pub cut: String,
    /// Cutting line.
    pub cutting: BezPath,
    /// Net (stitching) line.
    pub net: BezPath,
    /// Seams of the net line: name and path.
    pub seams: Vec<(String, BezPath)>,
    /// Dart legs.
    pub darts: Vec<BezPath>,
    /// Middle lines of darts, to fold on.
    pub folds: Vec<BezPath>,
    /// Dart points and bust point: punch marks.
    pub punches: Vec<Point>,
    /// Level lines: name and path.
    pub levels: Vec<(String, BezPath)>,
    /// Notches.
    pub notches: Vec<BezPath>,
    /// Grain line.
    pub grain: BezPath,
    /// The crosswise grain, on a card.
    pub cross_grain: Option<BezPath>,
    /// From the piece to its place on the plane.
    pub(crate) place: Affine,
    /// The edge that lies on the fold of the cloth.
    pub fold_edge: Option<BezPath>,
    /// Where the label's first line would begin beside the grain line, were there room for it.
    pub label_at: Point,
}

impl Laid {
    /// Everything it covers.
    pub fn bounds(&self) -> Rect {
        self.cutting.bounding_box()
    }
}

/// Lays the pieces of a pattern out in a row; the plane begins at the origin. Millimetres.
pub fn lay_out(pattern: &Pattern, allowances: &Allowances) -> (Vec<Laid>, Rect) {
    let mut right = EDGE;
    let mut bottom = 0.0_f64;
    let laid = pattern.pieces.iter().map(|piece| {
        let cutting = cut_line(piece, allowances);
        let bounds = cutting.bounding_box();
        let place = Affine::translate((right - bounds.x0, EDGE - bounds.y0));
        right += bounds.width() + BETWEEN;
        bottom = bottom.max(bounds.height());
        laid_piece(&draw_piece(piece, Style::TENTHS), piece.grain, cutting, place)
    });
    let laid: Vec<Laid> = laid.collect();
    (laid, Rect::new(0.0, 0.0, (right - BETWEEN).max(EDGE) + EDGE, bottom + 2.0 * EDGE))
}

/// Two holes nearer to each other are one, in millimetres.
const APART: f64 = 1.0;
/// Half of the crosswise grain on a card, in millimetres.
const CROSSWISE: f64 = 30.0;

/// A pattern as a card block, to trace round: net lines alone, holes at pivots as at points, the grain in both directions.
pub fn lay_out_card(pattern: &Pattern) -> (Vec<Laid>, Rect) {
    let (mut laid, plane) = lay_out(pattern, &Allowances::NONE);
    for (laid, piece) in laid.iter_mut().zip(&pattern.pieces) {
        let place = laid.place;
        for dart in &piece.darts {
            let pivot = place * dart.pivot;
            if laid.punches.iter().all(|punch| punch.distance(pivot) > APART) {
                laid.punches.push(pivot);
            }
        }
        let ends: Vec<Point> = laid.grain.elements().iter().filter_map(PathEl::end_point).collect();
        if let [top, .., bottom] = ends.as_slice() {
            let middle = top.midpoint(*bottom);
            let across = (*bottom - *top).normalize();
            let across = kurbo::Vec2::new(-across.y, across.x) * CROSSWISE;
            laid.cross_grain = Some(BezPath::from_vec(vec![
                PathEl::MoveTo(middle - across),
                PathEl::LineTo(middle + across),
            ]));
        }
    }
    (laid, plane)
}

fn laid_piece(drawing: &PieceDrawing, grain: (Point, Point), cutting: BezPath, place: Affine) -> Laid {
    let path = |svg: &str| place * BezPath::from_svg(svg).unwrap_or_default();
    let cutting = place * cutting;
    let point = |p: yardwand_core::geometry::Pt| place * Point::new(p.x, p.y);
    let sewn = drawing.darts.iter().filter(|dart| !dart.is_pleat);
    let punches = sewn.map(|dart| point(dart.point)).chain(drawing.bust_point.map(point));
    let legs = |dart: &DartDrawing| match dart.is_pleat {
        true => lines_of(&path(&dart.legs))
            .iter()
            .flat_map(|fold| reaching(fold, &cutting, Ends::First))
            .collect(),
        false => reaching(&path(&dart.legs), &cutting, Ends::Both),
    };
    Laid {
        kind: drawing.kind,
        name: drawing.name.clone(),
        cut: drawing.cut.clone(),
        net: path(&drawing.outline),
        seams: drawing.seams.iter().map(|seam| (seam.name.clone(), path(&seam.path))).collect(),
        darts: drawing.darts.iter().map(legs).collect(),
        folds: drawing.darts.iter().map(|dart| reaching(&path(&dart.fold), &cutting, Ends::First)).collect(),
        punches: punches.collect(),
        levels: drawing.levels.iter().map(|level| (level.name.clone(), path(&level.path))).collect(),
        notches: drawing.notches.iter().map(|notch| snip(&path(notch), &cutting)).collect(),
        grain: path(&drawing.grain),
        cross_grain: None,
        place,
        fold_edge: drawing.seams.iter().find(|seam| seam.fold).map(|seam| path(&seam.path)),
        cutting,
        label_at: place * (grain.0.lerp(grain.1, 0.32) + (8.0, 0.0)),
    }
}

/// The lines of a path that begins anew for each of them.
fn lines_of(path: &BezPath) -> Vec<BezPath> {
    let mut lines: Vec<BezPath> = Vec::new();
    for part in path.elements() {
        match lines.last_mut() {
            Some(line) if !matches!(part, PathEl::MoveTo(_)) => line.push(*part),
            _ => lines.push(BezPath::from_vec(vec![*part])),
        }
    }
    lines
}

/// How deep a notch is snipped into the allowance, in millimetres.
const SNIP: f64 = 6.0;
/// What of the allowance a notch always leaves whole, in millimetres.
const WHOLE: f64 = 1.0;

#[derive(Clone, Copy, PartialEq, Eq)]
enum Ends {
    First,
    Both,
}

fn points_of(path: &BezPath) -> Vec<Point> {
    path.elements().iter().filter_map(kurbo::PathEl::end_point).collect()
}

fn polyline(points: &[Point]) -> BezPath {
    let mut path = BezPath::new();
    for (index, point) in points.iter().enumerate() {
        if index == 0 { path.move_to(*point) } else { path.line_to(*point) }
    }
    path
}

/// A line whose ends run on to the cutting line: what is sewn is marked to the edge that is cut.
fn reaching(line: &BezPath, cutting: &BezPath, ends: Ends) -> BezPath {
    let points = points_of(line);
    let last = points.len().saturating_sub(1);
    // A two-pointed dart lies inside the piece and comes back to where it began.
    if points.len() < 2 || points[0].distance(points[last]) < 1e-6 {
        return line.clone();
    }
    let parts: Vec<PathSeg> = line.segments().collect();
    let (Some(begins), Some(ends_with)) = (parts.first(), parts.last()) else { return line.clone() };
    // A curve runs on straight, as it comes out at the seam.
    let mut reaching = BezPath::new();
    reaching.move_to(run_on(handles(begins)[0], points[0], cutting));
    if !matches!(begins, PathSeg::Line(_)) {
        reaching.line_to(points[0]);
    }
    for (place, part) in parts.iter().enumerate() {
        let is_end = place + 1 == parts.len() && ends == Ends::Both;
        match part {
            PathSeg::Line(_) if is_end => {}
            part => reaching.push(part.as_path_el()),
        }
    }
    if ends == Ends::Both {
        reaching.line_to(run_on(handles(ends_with)[1], points[last], cutting));
    }
    reaching
}

/// The places that pull at a part's two ends: of a line its own ends, the other way round.
fn handles(part: &PathSeg) -> [Point; 2] {
    match part {
        PathSeg::Line(line) => [line.p1, line.p0],
        PathSeg::Quad(quad) => [quad.p1, quad.p1],
        PathSeg::Cubic(cubic) => [cubic.p1, cubic.p2],
    }
}

/// A notch as it is snipped: from the cut edge inwards, never to the stitching line. Where nothing is added it is
/// drawn into the piece, as a mark.
fn snip(notch: &BezPath, cutting: &BezPath) -> BezPath {
    let points = points_of(notch);
    let [on_seam, inside] = points.as_slice() else { return notch.clone() };
    let edge = run_on(*inside, *on_seam, cutting);
    let room = edge.distance(*on_seam);
    if room <= WHOLE {
        return notch.clone();
    }
    let depth = SNIP.min(room - WHOLE);
    polyline(&[edge, edge.lerp(*on_seam, depth / room)])
}

/// Where the line from one point through another first meets the cutting line behind the second.
fn run_on(from: Point, through: Point, cutting: &BezPath) -> Point {
    let along = through - from;
    let length = along.hypot();
    if length < 1e-9 {
        return through;
    }
    let far = Line::new(through, through + along * (FURTHEST / length));
    let hits = cutting.segments().flat_map(|seg| seg.intersect_line(far).to_vec());
    let nearest = hits.map(|hit| hit.line_t).min_by(f64::total_cmp);
    nearest.map_or(through, |t| far.p0.lerp(far.p1, t))
}
