//! Outlines out of a drawing program's file: the closed paths of an SVG (W3C, SVG 1.1), transforms applied, with the scale it states.

use std::ops::RangeInclusive;

use kurbo::{Affine, BezPath, PathEl, Rect, Shape};
use roxmltree::{Document, Node, ParsingOptions};
use serde::Serialize;
use svgtypes::{Length, LengthUnit, Transform, ViewBox};

/// The longest file that is read, in bytes.
pub const LONGEST_FILE: usize = 800_000;
/// More outlines than a file of a pattern has.
const MOST_OUTLINES: usize = 60;
/// A test square whose sides differ by more than this share is none, or was not saved to scale.
const SQUARE: f64 = 0.005;
/// A width and a height that give scales this share apart are not one scale.
const ONE_SCALE: f64 = 0.002;
/// Millimetres that one unit of a drawing may be.
const UNIT_MM: RangeInclusive<f64> = 0.001..=1000.0;
/// The commands of a path that are read.
const COMMANDS: &str = "MmLlHhVvCcSsQqTtZz";

/// One outline of a file, in the units of its drawing.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FileOutline {
    /// What it is called in the file, where it has a name.
    pub name: String,
    /// The data of a path.
    pub path: String,
    /// Its bounds: left, top, width, height.
    pub bounds: [f64; 4],
}

impl FileOutline {
    /// Millimetres a unit, told by a test square whose side is so long.
    ///
    /// # Errors
    ///
    /// A sentence: its sides are not of one length.
    pub fn scale_of_square(&self, side_mm: f64) -> Result<f64, String> {
        let [_, _, width, height] = self.bounds;
        let apart = (width - height).abs() / width.max(height);
        if apart.is_nan() || apart > SQUARE {
            return Err(format!(
                "the sides of this test square differ by {:.1} %: it is no square, or was saved squeezed",
                100.0 * apart
            ));
        }
        Ok(side_mm / ((width + height) / 2.0))
    }
}

/// The outlines of a file.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FileOutlines {
    /// In the order of the file.
    pub outlines: Vec<FileOutline>,
    /// What one unit is, where the file says so by a width and a height in millimetres or the like.
    pub mm_per_unit: Option<f64>,
    /// What of the file was not read, and why.
    pub unread: Vec<String>,
}

/// Reads the outlines of an SVG.
///
/// # Errors
///
/// A sentence: what the file is not.
pub fn outlines_of_svg(text: &str) -> Result<FileOutlines, String> {
    if text.len() > LONGEST_FILE {
        return Err(format!("this file is longer than {LONGEST_FILE} characters: save the outlines alone"));
    }
    // Drawing programs write a document type; nothing it names is fetched.
    let options = ParsingOptions { allow_dtd: true, nodes_limit: 100_000, ..ParsingOptions::default() };
    let document = Document::parse_with_options(text, options)
        .map_err(|_| "this is no SVG that can be read: save the drawing as a plain SVG")?;
    let root = document.root_element();
    if root.tag_name().name() != "svg" {
        return Err("this is no SVG: save the drawing as a plain SVG".to_owned());
    }
    let mut found = Found::default();
    found.walk(root, Affine::IDENTITY, 0);
    if found.outlines.is_empty() {
        let why = found.unread.first().map_or("it has no closed path", String::as_str);
        return Err(format!("no outline was found in this file: {why}"));
    }
    if found.outlines.len() > MOST_OUTLINES {
        return Err(format!("this file has more than {MOST_OUTLINES} outlines: save the pieces alone"));
    }
    Ok(FileOutlines { outlines: found.outlines, mm_per_unit: scale(root), unread: found.unread })
}

/// What one unit of the drawing is, in millimetres, by its width and height; none where they are in pixels or of two scales.
fn scale(root: Node<'_, '_>) -> Option<f64> {
    let length = |name: &str| -> Option<f64> {
        let length: Length = root.attribute(name)?.parse().ok()?;
        let mm = match length.unit {
            LengthUnit::Mm => 1.0,
            LengthUnit::Cm => 10.0,
            LengthUnit::In => 25.4,
            LengthUnit::Pt => 25.4 / 72.0,
            LengthUnit::Pc => 25.4 / 6.0,
            _ => return None,
        };
        Some(length.number * mm)
    };
    let view: ViewBox = root.attribute("viewBox")?.parse().ok()?;
    let (across, down) = (length("width")? / view.w, length("height")? / view.h);
    let is_one = (across - down).abs() <= ONE_SCALE * across;
    (is_one && UNIT_MM.contains(&across)).then_some((across + down) / 2.0)
}

#[derive(Default)]
struct Found {
    outlines: Vec<FileOutline>,
    unread: Vec<String>,
}

/// Deeper than any drawing nests its groups.
const DEEPEST: u32 = 64;

impl Found {
    fn walk(&mut self, node: Node<'_, '_>, outer: Affine, depth: u32) {
        if depth > DEEPEST {
            return;
        }
        let own = node.attribute("transform").map_or(Ok(Affine::IDENTITY), |text| {
            text.parse::<Transform>().map(|t| Affine::new([t.a, t.b, t.c, t.d, t.e, t.f]))
        });
        let called = node.attribute("id").unwrap_or_default();
        let Ok(own) = own else {
            self.unread.push(format!("{} has a transform that cannot be read", named(called, node)));
            return;
        };
        let to_drawing = outer * own;
        match node.tag_name().name() {
            // What is only defined is not drawn.
            "defs" | "symbol" | "clipPath" | "mask" | "pattern" | "marker" => return,
            "path" => self.path(node, called, to_drawing),
            "rect" => self.rect(node, called, to_drawing),
            "polygon" => {
                let points = node.attribute("points").unwrap_or_default();
                self.data(&format!("M{points}Z"), called, node, to_drawing);
            }
            "use" => self.unread.push(format!("{} is a copy: turn it into a path", named(called, node))),
            "circle" | "ellipse" => {
                self.unread.push(format!("{} is a circle: only paths are read", named(called, node)));
            }
            _ => {}
        }
        for child in node.children().filter(Node::is_element) {
            self.walk(child, to_drawing, depth + 1);
        }
    }

    fn path(&mut self, node: Node<'_, '_>, called: &str, to_drawing: Affine) {
        self.data(node.attribute("d").unwrap_or_default(), called, node, to_drawing);
    }

    fn rect(&mut self, node: Node<'_, '_>, called: &str, to_drawing: Affine) {
        let number =
            |name: &str| node.attribute(name).map_or(Some(0.0), |text| text.trim().parse::<f64>().ok());
        let (Some(x), Some(y), Some(width), Some(height)) =
            (number("x"), number("y"), number("width"), number("height"))
        else {
            self.unread.push(format!("{} has sides in units of their own", named(called, node)));
            return;
        };
        self.keep(&(to_drawing * Rect::new(x, y, x + width, y + height).to_path(1e-3)), called);
    }

    fn data(&mut self, data: &str, called: &str, node: Node<'_, '_>, to_drawing: Affine) {
        // “e” stands in numbers too.
        let other =
            data.chars().find(|c| c.is_ascii_alphabetic() && !COMMANDS.contains(*c) && !"eE".contains(*c));
        if let Some(other) = other {
            let what = if "Aa".contains(other) { "an elliptical arc" } else { "a command that is not known" };
            self.unread.push(format!(
                "{} has {what} ({other}): turn its curves into Bézier curves in the drawing program",
                named(called, node)
            ));
            return;
        }
        match BezPath::from_svg(data.trim()) {
            Ok(path) => {
                let parts = subpaths(&(to_drawing * path));
                for part in parts {
                    self.keep(&part, called);
                }
            }
            Err(_) => self.unread.push(format!("{} cannot be read", named(called, node))),
        }
    }

    /// Keeps an outline with some area; a line or a notch has none.
    fn keep(&mut self, path: &BezPath, called: &str) {
        let bounds = path.bounding_box();
        let is_finite = [bounds.x0, bounds.y0, bounds.x1, bounds.y1].iter().all(|at| at.is_finite());
        if !is_finite || path.segments().count() < 3 || path.area().abs() < 1e-9 {
            return;
        }
        let bounds = [bounds.x0, bounds.y0, bounds.width(), bounds.height()];
        self.outlines.push(FileOutline { name: called.to_owned(), path: path.to_svg(), bounds });
    }
}

/// Each “M” begins an outline of its own.
fn subpaths(path: &BezPath) -> Vec<BezPath> {
    let mut parts: Vec<BezPath> = Vec::new();
    for element in path.elements() {
        if matches!(element, PathEl::MoveTo(_)) || parts.is_empty() {
            parts.push(BezPath::new());
        }
        if let Some(part) = parts.last_mut() {
            part.push(*element);
        }
    }
    parts
}

fn named(called: &str, node: Node<'_, '_>) -> String {
    if called.is_empty() { format!("a {}", node.tag_name().name()) } else { format!("“{called}”") }
}
