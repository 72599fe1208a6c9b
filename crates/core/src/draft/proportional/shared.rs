//! What both halves of the proportional draft are made of.

use kurbo::{Point, Vec2};

use super::super::quantity::{Quantity, length};
use super::super::sheet::{Sheet, StepLine, Term};
use super::{Frame, Proportional};
use crate::geometry::{Curve, house_curve, quarter_turn};
use crate::pattern::{Dart, DartPlace, Edge, Notch, Piece, Seam, back_off_points, true_waist};

pub(super) fn unit(degrees: f64) -> Vec2 {
    Vec2::new(degrees.to_radians().cos(), degrees.to_radians().sin())
}

/// Straight waist between side and centre with darts of these middles and widths, the side first.
pub(super) fn waist_edges(
    side: Point,
    centre: Point,
    darts: &[(DartPlace, Point, f64)],
) -> (Vec<Edge>, Vec<Dart>) {
    let mut edges = Vec::new();
    let mut marks = Vec::new();
    let mut from = side;
    for &(place, apex, width) in darts.iter().filter(|(_, _, width)| *width >= 2.0) {
        let (outer, inner) =
            (Point::new(apex.x + width / 2.0, side.y), Point::new(apex.x - width / 2.0, side.y));
        edges.push(Edge::sewn(Seam::Waist, Curve::line(from, outer)));
        edges.push(Edge::leg(place, outer, apex));
        edges.push(Edge::leg(place, apex, inner));
        marks.push(Dart { place, pivot: apex, point: apex });
        from = inner;
    }
    edges.push(Edge::sewn(Seam::Waist, Curve::line(from, centre)));
    (edges, marks)
}

pub(super) fn notches(m: &Proportional, armhole: f64, side: f64, is_back: bool) -> Vec<Notch> {
    vec![
        Notch { seam: Seam::Armhole, from_underarm: armhole * m.armhole_notch, double: is_back },
        Notch {
            seam: Seam::Side,
            from_underarm: (side - m.notch_above_waist).max(side / 2.0),
            double: false,
        },
    ]
}

pub(super) fn finished(mut piece: Piece) -> Piece {
    true_waist(&mut piece);
    back_off_points(&mut piece);
    piece
}

/// How far the armhole's guide lies from its corner, at 45 degrees.
pub(super) fn guide_reach(f: &Frame, more: Term) -> StepLine {
    (length("sixth of the armhole width", f.sixth) + Quantity::of(more))
        .named("guide from the corner, at 45 degrees")
}

/// The lower armhole: straight down where it begins, through a guide so far from a corner at 45 degrees, square into the side
/// seam, which is told by its ends. The guide as well.
pub(super) fn under_the_arm(
    from: Point,
    corner: Point,
    reach: f64,
    (side, side_waist): (Point, Point),
) -> (Point, Curve) {
    let (down, slanted) = (Vec2::new(0.0, 1.0), unit(45.0));
    let out = reach / std::f64::consts::SQRT_2;
    let guide = corner + Vec2::new(out, -out);
    let square = -quarter_turn((side_waist - side) / side.distance(side_waist));
    let into_side = house_curve(guide, slanted, side, square).curve;
    (guide, house_curve(from, down, guide, slanted).curve.then(into_side))
}

/// A dart's share of what the waist is narrower.
pub(super) fn waist_share(f: &Frame, name: &'static str, part: Term) -> StepLine {
    (f.waist_darts.quantity() * Quantity::of(part)).named(name)
}

/// The step that shares out what the waist is narrower.
pub(super) fn waist_step(sheet: &mut Sheet, f: &Frame, darts: [&StepLine; 3], line: &[Edge]) {
    sheet.step("Share out what the waist is narrower, and draw the darts to the waist.").tell(&f.waist_darts);
    for dart in darts {
        sheet.tell(dart);
    }
    for edge in line {
        sheet.draw(&edge.curve);
    }
}
