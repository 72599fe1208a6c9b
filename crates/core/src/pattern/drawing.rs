//! What is drawn of a pattern: paths in millimetres with the names and figures that belong to them.

use kurbo::{BezPath, Line, PathEl, Point, Rect, Shape as _, Vec2};
use serde::{Deserialize, Serialize};

use super::measure::across_level;
use super::names::{Covers, GarmentPart, Share};
use super::piece::{Dart, DartPlace, Edge, Pattern, Piece, PieceKind, Seam, TwoPointedDart};
use super::stitching::stitching_lines;
use super::truing::capped_outline;
use crate::geometry::{Curve, Pt, ViewBox, closed_path, short_svg, turn_degrees};
use crate::{Shown, Style};

/// One stretch of seam.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeamDrawing {
    /// What it is sewn as.
    pub seam: Seam,
    /// The trade's word.
    pub name: String,
    /// SVG path data.
    pub path: String,
    /// Its own length.
    pub length: Shown,
    /// Whether it lies on the fold.
    pub fold: bool,
}

/// A dart as it is marked on cloth.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DartDrawing {
    /// Where its mouth is.
    pub place: DartPlace,
    /// The trade's word.
    pub name: String,
    /// Whether it is folded as a pleat, and not sewn.
    pub is_pleat: bool,
    /// Stitching lines, mouth to point to mouth: straight, or bowed. Of a pleat its two folds, each from the seam as far as it is marked.
    pub legs: String,
    /// Middle line from the cap to the pivot.
    pub fold: String,
    /// The seam beyond the dart as it lies when the dart is folded shut; empty inside a piece.
    pub folded: String,
    /// The mouth at the seam.
    pub intake: Shown,
    /// The angle at the pivot, in degrees.
    pub degrees: f64,
    /// Where geometry turns.
    pub pivot: Pt,
    /// Where stitching ends.
    pub point: Pt,
}

/// A level or reference line.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LevelDrawing {
    /// What it marks.
    pub name: String,
    /// SVG path data.
    pub path: String,
}

/// One piece as it is drawn, in its own coordinates.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PieceDrawing {
    /// Which piece.
    pub kind: PieceKind,
    /// The name on its label.
    pub name: String,
    /// Cut instruction.
    pub cut: String,
    /// It came off another piece, or follows an edge of others: what it was before is drawn with those.
    pub second_part: bool,
    /// The closed net outline, dart mouths capped.
    pub outline: String,
    /// The seams one by one.
    pub seams: Vec<SeamDrawing>,
    /// The darts.
    pub darts: Vec<DartDrawing>,
    /// Level lines.
    pub levels: Vec<LevelDrawing>,
    /// Notches, each a short stroke into the piece.
    pub notches: Vec<String>,
    /// Grain line.
    pub grain: String,
    /// The bust point, where the piece has one.
    pub bust_point: Option<Pt>,
    /// Where the waist meets the centre line: what pieces are laid on each other by, besides the neck side.
    pub centre_waist: Option<Pt>,
    /// Where its label's first line begins on a screen: inside the piece. On paper it stands beside the grain line.
    pub label_at: Pt,
    /// How wide it may be there, in millimetres.
    pub label_room: f64,
    /// What it fills.
    pub bounds: ViewBox,
}

/// Every piece, drawn.
pub fn draw_pattern(pattern: &Pattern, style: Style) -> Vec<PieceDrawing> {
    pattern.pieces.iter().map(|piece| draw_piece(piece, style)).collect()
}

/// One piece, drawn.
pub fn draw_piece(piece: &Piece, style: Style) -> PieceDrawing {
    let seams = piece.edges.iter().filter(|edge| edge.seam != Seam::DartLeg).map(|edge| SeamDrawing {
        seam: edge.seam,
        name: edge.seam.name().to_owned(),
        path: short_svg(&edge.curve.to_path()),
        length: style.show(edge.curve.length()),
        fold: edge.fold,
    });
    let outline = outline_path(piece);
    let bounds = outline.bounding_box();
    let (label_at, label_room) = label_at(piece, &outline, bounds);
    PieceDrawing {
        kind: piece.kind,
        name: piece.kind.name().to_owned(),
        cut: piece.cut_instruction().to_owned(),
        second_part: piece.kind.is_second_part(),
        outline: short_svg(&outline),
        seams: seams.collect(),
        darts: piece
            .darts
            .iter()
            .filter_map(|dart| draw_dart(piece, dart, style))
            .chain(piece.two_pointed.iter().map(|dart| draw_two_pointed(dart, style)))
            .collect(),
        levels: draw_levels(piece),
        notches: { piece.notches.iter().copied().chain(piece.slit_notches()) }
            .flat_map(|notch| draw_notch(piece, &notch))
            .collect(),
        grain: short_svg(&Curve::line(piece.grain.0, piece.grain.1).to_path()),
        bust_point: front_pivot(piece).map(Pt::from),
        centre_waist: piece.has_waist().then(|| piece.centre_waist().into()),
        label_at: label_at.into(),
        label_room,
        bounds: bounds.into(),
    }
}

/// Where a label has room: its usual place as shares of what the piece fills (a panel is narrow, and a dress has a dart where
/// a bodice has none), or further across where a neckline has cut that away; in a narrow piece wherever most room is. With it,
/// how wide the piece is there to the right, in millimetres.
fn label_at(piece: &Piece, outline: &BezPath, bounds: Rect) -> (Point, f64) {
    /// It is moved by at least so much at a time, in millimetres, and at most so many times across and down.
    const STEP: f64 = 6.0;
    const MOST: f64 = 24.0;
    /// So wide a label is seldom, in millimetres: where there is as much room none is looked for elsewhere.
    const AMPLE: f64 = 130.0;
    let kind = piece.kind;
    let across = if kind.is_panel() { 0.1 } else { 0.24 };
    let down =
        if matches!(kind.part(), GarmentPart::DressFront | GarmentPart::DressBack) { 0.25 } else { 0.36 };
    let usual = Point::new(bounds.x0 + bounds.width() * across, bounds.y0 + bounds.height() * down);
    let lines = flat_lines(outline);
    let steps = |long: f64| {
        let step = STEP.max(long / MOST);
        (0..=(long / step) as u32).map(move |count| f64::from(count) * step)
    };
    let with_room = |at: Point| Some((at, label_room(&lines, at)?));
    let beside = steps(bounds.width() / 2.0).map(|by| usual + Vec2::new(by, 0.0));
    let near = beside.filter_map(with_room).find(|(_, room)| *room >= AMPLE);
    let anywhere = || {
        let places = steps(bounds.height()).flat_map(|down| {
            steps(bounds.width()).map(move |right| Point::new(bounds.x0 + right, bounds.y0 + down))
        });
        places.filter_map(with_room).max_by(|(_, one), (_, other)| one.total_cmp(other))
    };
    near.or_else(anywhere).unwrap_or((usual, 0.0))
}

/// How much room a label has from its left end to the outline on the right, in millimetres; none where it does not begin
/// inside.
fn label_room(lines: &[Line], at: Point) -> Option<f64> {
    /// A label's first line rises by so much, and its last lies so far below, in millimetres.
    const HIGH: [f64; 4] = [-10.0, 0.0, 12.0, 26.0];
    /// It keeps so far from the outline, in millimetres.
    const AWAY: f64 = 6.0;
    let mut least = f64::MAX;
    for level in HIGH.map(|by| at.y + by) {
        let crossing = |line: &Line| {
            let (from, to) = (line.p0.y - level, line.p1.y - level);
            ((from > 0.0) != (to > 0.0)).then(|| line.p0.lerp(line.p1, from / (from - to)).x)
        };
        let (mut left, mut right): (Vec<f64>, Vec<f64>) =
            lines.iter().filter_map(crossing).partition(|x| *x < at.x);
        left.sort_by(f64::total_cmp);
        right.sort_by(f64::total_cmp);
        // Inside, an odd number of crossings lies on either side.
        if left.len() % 2 == 0 || at.x - left.last()? < AWAY {
            return None;
        }
        least = least.min(right.first()? - at.x - AWAY);
    }
    (least > 0.0).then_some(least)
}

/// An outline in straight lines.
fn flat_lines(outline: &BezPath) -> Vec<Line> {
    let mut lines = Vec::new();
    let mut last = Point::ZERO;
    let mut begun = Point::ZERO;
    kurbo::flatten(outline, 0.5, |part| match part {
        PathEl::MoveTo(to) => (last, begun) = (to, to),
        PathEl::LineTo(to) => {
            lines.push(Line::new(last, to));
            last = to;
        }
        PathEl::ClosePath => lines.push(Line::new(last, begun)),
        PathEl::QuadTo(..) | PathEl::CurveTo(..) => {}
    });
    lines
}

fn outline_path(piece: &Piece) -> BezPath {
    closed_path(capped_outline(piece).iter().map(|(edge, _)| &edge.curve))
}

fn front_pivot(piece: &Piece) -> Option<Point> {
    piece.kind.shapes_bust().then(|| piece.bust_pivot()).flatten()
}

fn draw_dart(piece: &Piece, dart: &Dart, style: Style) -> Option<DartDrawing> {
    let (first, second) = piece.mouth(dart.place)?;
    let apex = capped_outline(piece)
        .into_iter()
        .find(|(_, of)| *of == Some(dart.place))
        .map_or(first.midpoint(second), |(edge, _)| edge.curve.end());
    let turn = turn_degrees(first - dart.pivot, second - dart.pivot);
    // Of a pleat only the folds are drawn, as far as they are pressed.
    let pressed = |from: Point, mm: f64| from + (dart.pivot - from) / from.distance(dart.pivot) * mm;
    let (name, legs, fold) = match piece.pleat(dart.place) {
        Some(pleat) => (
            format!("pleat from the {}", dart.place.name()),
            [first, second]
                .map(|from| [from, pressed(from, pleat.marked)])
                .map(|fold| polyline(&fold))
                .concat(),
            polyline(&[apex, pressed(apex, pleat.marked)]),
        ),
        None => (
            dart.place.name().to_owned(),
            short_svg(&stitching_lines(first, dart.point, second, piece.stitching(dart.place).bow)),
            polyline(&[apex, dart.pivot]),
        ),
    };
    Some(DartDrawing {
        place: dart.place,
        name,
        legs,
        fold,
        is_pleat: piece.pleat(dart.place).is_some(),
        folded: folded(piece, dart, turn),
        intake: style.show(first.distance(second)),
        degrees: turn.abs(),
        pivot: dart.pivot.into(),
        point: dart.point.into(),
    })
}

/// What follows the dart on its seam, turned about the pivot until the legs meet.
fn folded(piece: &Piece, dart: &Dart, turn: f64) -> String {
    let last_leg = piece.edges.iter().rposition(|edge| edge.dart == Some(dart.place));
    let after = last_leg.and_then(|leg| piece.edges.get((leg + 1) % piece.edges.len()));
    after.map_or_else(String::new, |edge| {
        let shut = kurbo::Affine::rotate_about(-turn.to_radians(), dart.pivot);
        short_svg(&edge.curve.transformed(shut).to_path())
    })
}

fn draw_two_pointed(dart: &TwoPointedDart, style: Style) -> DartDrawing {
    let turn = turn_degrees(dart.first - dart.upper, dart.second - dart.upper);
    DartDrawing {
        place: DartPlace::Waist,
        name: "two-pointed waist dart".to_owned(),
        is_pleat: false,
        legs: polyline(&[dart.point, dart.first, dart.lower, dart.second, dart.point]),
        fold: polyline(&[dart.point, dart.lower]),
        folded: String::new(),
        intake: style.show(dart.intake()),
        degrees: turn.abs(),
        pivot: dart.upper.into(),
        point: dart.point.into(),
    }
}

fn draw_levels(piece: &Piece) -> Vec<LevelDrawing> {
    let mut levels: Vec<LevelDrawing> = piece
        .levels
        .iter()
        .map(|level| LevelDrawing { name: level.name.name().to_owned(), path: polyline(&level.points) })
        .collect();
    if piece.kind.is_dependent() {
        return levels;
    }
    let y = across_level(piece);
    let across = piece
        .edges_of(Seam::Armhole)
        .find_map(|edge| Some(edge.curve.point_at(edge.curve.crossing_level(y)?)));
    let across = across.and_then(|end| Some((level_begins(piece, y, end)?, end)));
    levels.extend(across.map(|(begins, end)| LevelDrawing {
        name: if piece.kind.covers() == Covers::Front { "across front" } else { "across back" }.to_owned(),
        path: polyline(&[begins, end]),
    }));
    levels
}

/// Where a level line begins: at the centre, or at a neckline that was drawn lower than it; on a side panel at its princess seam,
/// where that reaches so high.
fn level_begins(piece: &Piece, y: f64, end: Point) -> Option<Point> {
    let on = |edge: &Edge| Some(edge.curve.point_at(edge.curve.crossing_level(y)?));
    if piece.kind.share() == Share::SidePanel {
        return piece.edges_of(Seam::Princess).find_map(on).filter(|begins| begins.x < end.x);
    }
    let at_centre = Point::new(0.0, y);
    if piece.centre_top().y < y {
        return Some(at_centre);
    }
    Some(piece.edges_of(Seam::Neckline).find_map(on).unwrap_or(at_centre))
}

fn draw_notch(piece: &Piece, notch: &super::Notch) -> Vec<String> {
    const DEPTH: f64 = 6.0;
    const APART: f64 = 7.0;
    let offsets: &[f64] = if notch.double { &[-APART / 2.0, APART / 2.0] } else { &[0.0] };
    offsets
        .iter()
        .filter_map(|offset| {
            let at = super::Notch { from_underarm: notch.from_underarm + offset, ..*notch };
            let (place, inward) = piece.notch_place(&at)?;
            Some(polyline(&[place, place + inward * DEPTH]))
        })
        .collect()
}

fn polyline(points: &[Point]) -> String {
    Curve::polyline(points).map_or_else(String::new, |curve| short_svg(&curve.to_path()))
}
