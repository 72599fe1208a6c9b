//! Points, areas and paths of the plane as they are told outside: in millimetres, x to the side and y downwards.

use kurbo::{BezPath, Point};
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
    let round = |p: Point| Point::new((p.x * 1e3).round() / 1e3, (p.y * 1e3).round() / 1e3);
    let rounded: BezPath = path
        .elements()
        .iter()
        .map(|el| match *el {
            kurbo::PathEl::MoveTo(p) => kurbo::PathEl::MoveTo(round(p)),
            kurbo::PathEl::LineTo(p) => kurbo::PathEl::LineTo(round(p)),
            kurbo::PathEl::QuadTo(a, p) => kurbo::PathEl::QuadTo(round(a), round(p)),
            kurbo::PathEl::CurveTo(a, b, p) => kurbo::PathEl::CurveTo(round(a), round(b), round(p)),
            kurbo::PathEl::ClosePath => kurbo::PathEl::ClosePath,
        })
        .collect();
    rounded.to_svg()
}
