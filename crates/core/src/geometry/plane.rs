//! Points, areas and paths of the plane as they are told outside: in millimetres, x to the side and y downwards.

use std::fmt::Write;

use kurbo::{BezPath, PathEl, Point};
use serde::{Deserialize, Serialize};

/// A point of a drawing, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Pt {
    /// From the centre line towards the side.
    pub x: f64,
    /// Downwards.
    pub y: f64,
}

impl From<Point> for Pt {
    fn from(point: Point) -> Self {
        Self { x: point.x, y: point.y }
    }
}

/// The part of the plane a drawing fills, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ViewBox {
    /// Left.
    pub x: f64,
    /// Top.
    pub y: f64,
    /// Width.
    pub width: f64,
    /// Height.
    pub height: f64,
}

impl From<kurbo::Rect> for ViewBox {
    fn from(rect: kurbo::Rect) -> Self {
        Self { x: rect.x0, y: rect.y0, width: rect.width(), height: rect.height() }
    }
}

/// SVG path data rounded to a thousandth of a millimetre: for looking at, not for keeping.
pub(crate) fn short_svg(path: &BezPath) -> String {
    let mut text = String::with_capacity(path.elements().len() * 24);
    for element in path.elements() {
        let (letter, points): (char, &[Point]) = match element {
            PathEl::MoveTo(p) => ('M', &[*p]),
            PathEl::LineTo(p) => ('L', &[*p]),
            PathEl::QuadTo(a, p) => ('Q', &[*a, *p]),
            PathEl::CurveTo(a, b, p) => ('C', &[*a, *b, *p]),
            PathEl::ClosePath => ('Z', &[]),
        };
        if !text.is_empty() {
            text.push(' ');
        }
        text.push(letter);
        for (index, point) in points.iter().enumerate() {
            if index > 0 {
                text.push(' ');
            }
            write_thousandths(&mut text, point.x);
            text.push(',');
            write_thousandths(&mut text, point.y);
        }
    }
    text
}

/// A number rounded to thousandths, without zeros at its end.
fn write_thousandths(text: &mut String, value: f64) {
    let all = (value * 1e3).round() as i64;
    let (whole, part) = (all.unsigned_abs() / 1000, all.unsigned_abs() % 1000);
    if all < 0 {
        text.push('-');
    }
    // Writing to a string cannot fail.
    let _ = write!(text, "{whole}");
    let digits = match part {
        0 => return,
        _ if part % 100 == 0 => (part / 100, 1),
        _ if part % 10 == 0 => (part / 10, 2),
        _ => (part, 3),
    };
    let _ = write!(text, ".{:0>1$}", digits.0, digits.1);
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_path_is_written_to_a_thousandth_without_zeros_at_the_end() {
        let mut path = BezPath::new();
        path.move_to((0.0, -0.0004));
        path.line_to((-12.3456, 7.05));
        path.curve_to((1.0, 2.5), (0.001, -0.25), (1e5, -3.9996));
        path.close_path();
        assert_eq!(short_svg(&path), "M0,0 L-12.346,7.05 C1,2.5 0.001,-0.25 100000,-4 Z");
    }
}
