//! Pieces laid side by side on one plane, with everything that is drawn on them.

use kurbo::{Affine, BezPath, Point, Rect, Shape};
use yardwand_core::Style;
use yardwand_core::pattern::{Allowances, Pattern, PieceDrawing, PieceKind, cut_line, draw_piece};

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
    /// The edge that lies on the fold of the cloth.
    pub fold_edge: Option<BezPath>,
    /// Where the label's first line begins.
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
    let mut right = 0.0;
    let mut bottom = 0.0_f64;
    let laid = pattern.pieces.iter().map(|piece| {
        let cutting = cut_line(piece, allowances);
        let bounds = cutting.bounding_box();
        let place = Affine::translate((right - bounds.x0, -bounds.y0));
        right += bounds.width() + BETWEEN;
        bottom = bottom.max(bounds.height());
        laid_piece(&draw_piece(piece, Style::TENTHS), piece.grain, cutting, place)
    });
    let laid: Vec<Laid> = laid.collect();
    (laid, Rect::new(0.0, 0.0, (right - BETWEEN).max(0.0), bottom))
}

fn laid_piece(drawing: &PieceDrawing, grain: (Point, Point), cutting: BezPath, place: Affine) -> Laid {
    let path = |svg: &str| place * BezPath::from_svg(svg).unwrap_or_default();
    let point = |p: yardwand_core::pattern::Pt| place * Point::new(p.x, p.y);
    let punches = drawing.darts.iter().map(|dart| point(dart.point)).chain(drawing.bust_point.map(point));
    Laid {
        kind: drawing.kind,
        name: drawing.name.clone(),
        cut: drawing.cut.clone(),
        cutting: place * cutting,
        net: path(&drawing.outline),
        seams: drawing.seams.iter().map(|seam| (seam.name.clone(), path(&seam.path))).collect(),
        darts: drawing.darts.iter().map(|dart| path(&dart.legs)).collect(),
        folds: drawing.darts.iter().map(|dart| path(&dart.fold)).collect(),
        punches: punches.collect(),
        levels: drawing.levels.iter().map(|level| (level.name.clone(), path(&level.path))).collect(),
        notches: drawing.notches.iter().map(|notch| path(notch)).collect(),
        grain: path(&drawing.grain),
        fold_edge: drawing.seams.iter().find(|seam| seam.fold).map(|seam| path(&seam.path)),
        label_at: place * (grain.0.lerp(grain.1, 0.32) + (8.0, 0.0)),
    }
}
