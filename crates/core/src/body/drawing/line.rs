//! Lines the figure is drawn with, as SVG path data.

use kurbo::{BezPath, Point};

pub(super) fn arc(from: (f64, f64), through: (f64, f64), to: (f64, f64)) -> String {
    let mut path = BezPath::new();
    path.move_to(from);
    path.quad_to(through, to);
    path.to_svg()
}

pub(super) fn straight(points: &[(f64, f64)]) -> String {
    let mut path = BezPath::new();
    points.iter().enumerate().for_each(|(i, p)| if i == 0 { path.move_to(*p) } else { path.line_to(*p) });
    path.to_svg()
}

pub(super) fn ellipse(centre: (f64, f64), radii: (f64, f64)) -> String {
    kurbo::Shape::to_path(&kurbo::Ellipse::new(centre, radii, 0.0), 0.1).to_svg()
}

/// A smooth line through points (Catmull and Rom's, as cubics).
pub(super) fn spline(points: &[Point], closed: bool) -> BezPath {
    let count = points.len();
    let at = |i: isize| {
        let i = if closed { i.rem_euclid(count as isize) } else { i.clamp(0, count as isize - 1) };
        points[i as usize]
    };
    let mut path = BezPath::new();
    path.move_to(points[0]);
    let spans = if closed { count } else { count - 1 };
    for i in 0..spans as isize {
        let (a, b, c, d) = (at(i - 1), at(i), at(i + 1), at(i + 2));
        path.curve_to(b + (c - a) / 6.0, c - (d - b) / 6.0, c);
    }
    if closed {
        path.close_path();
    }
    path
}

/// Smooth lines one after the other, closed; each starts where the one before it ended.
pub(super) fn outline(runs: &[Vec<Point>]) -> String {
    let mut path = BezPath::new();
    path.move_to(runs[0][0]);
    for run in runs {
        path.line_to(run[0]);
        path.extend(spline(run, false).elements().iter().skip(1).copied());
    }
    path.close_path();
    path.to_svg()
}

pub(super) fn points(of: &[(f64, f64)]) -> Vec<Point> {
    of.iter().map(|p| Point::from(*p)).collect()
}
