//! What both halves of the proportional draft are made of.

use kurbo::{Point, Vec2};

use super::super::sheet::{Sheet, Term, mm};
use super::{Frame, Proportional};
use crate::pattern::{Curve, Dart, DartPlace, Edge, Notch, Piece, Seam, back_off_points, true_waist};

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

pub(super) fn notches(armhole: f64, side: f64, is_back: bool) -> Vec<Notch> {
    vec![
        Notch { seam: Seam::Armhole, from_underarm: armhole / 3.0, double: is_back },
        Notch { seam: Seam::Side, from_underarm: (side - 70.0).max(side / 2.0), double: false },
    ]
}

pub(super) fn finished(mut piece: Piece) -> Piece {
    true_waist(&mut piece);
    back_off_points(&mut piece);
    piece
}

pub(super) fn waist_step(
    sheet: &mut Sheet,
    f: &Frame,
    m: &Proportional,
    darts: &[(&'static str, &'static str, f64, f64)],
) {
    let waist = 2.0 * (f.width - f.waist_darts) - m.waist_ease;
    sheet.step("Share out what the waist is narrower, and draw the darts to the waist.").find(
        "all waist darts together",
        "{half width} − ({waist_girth} + {waist_ease}) / 2",
        &[mm("half width", f.width), mm("waist_girth", waist), mm("waist_ease", m.waist_ease)],
        f.waist_darts,
    );
    for &(name, code, share, value) in darts {
        // The sheet speaks of the parameter by its name.
        let formula = match code {
            "share_a" => "{all waist darts} × {share_a}",
            "share_b" => "{all waist darts} × {share_b}",
            "share_c" => "{all waist darts} × {share_c}",
            "share_d" => "{all waist darts} × {share_d}",
            "share_e" => "{all waist darts} × {share_e}",
            _ => "{all waist darts} × {what is left}",
        };
        sheet.find(
            name,
            formula,
            &[mm("all waist darts", f.waist_darts), Term { name: code, value: share, plain: true }],
            value,
        );
    }
}
