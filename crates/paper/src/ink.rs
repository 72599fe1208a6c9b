//! Ink on a page: papers, fonts, lines and words, in millimetres until the very last step.

use krilla::Document;
use krilla::color::rgb;
use krilla::geom::{PathBuilder, Point as PdfPoint, Transform};
use krilla::page::PageSettings;
use krilla::paint::{Fill, Stroke, StrokeDash};
use krilla::surface::Surface;
use krilla::text::TextDirection;
use kurbo::{BezPath, PathEl, Point, Rect};

use super::fonts::{BOX_WIDTH, Fonts, Typeface};

/// Points in a millimetre.
const POINTS: f64 = 72.0 / 25.4;

/// A paper size.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Paper {
    /// 210 × 297 mm.
    A4,
    /// 8 1/2 × 11 in.
    Letter,
}

impl Paper {
    /// Width and height, upright, in millimetres.
    pub const fn size(self) -> (f64, f64) {
        match self {
            Self::A4 => (210.0, 297.0),
            Self::Letter => (215.9, 279.4),
        }
    }
}

/// Why no PDF could be made.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum PaperError {
    /// The shipped font cannot be read: the program is built wrongly.
    #[error("the font shipped with the program cannot be read")]
    Font,
    /// The writer refused.
    #[error("the PDF could not be written: {0}")]
    Write(String),
}

pub(crate) fn finished(document: Document) -> Result<Vec<u8>, PaperError> {
    document.finish().map_err(|error| PaperError::Write(format!("{error:?}")))
}

pub(crate) fn page(
    document: &mut Document,
    paper: Paper,
    fonts: &Fonts,
    draw: impl FnOnce(&mut Surface<'_>),
) -> Result<(), PaperError> {
    let (width, height) = paper.size();
    let settings = PageSettings::from_wh((width * POINTS) as f32, (height * POINTS) as f32)
        .ok_or_else(|| PaperError::Write("a page without size".to_owned()))?;
    let mut page = document.start_page_with(settings);
    let mut surface = page.surface();
    // From here on everything is drawn in millimetres.
    surface.push_transform(&Transform::from_scale(POINTS as f32, POINTS as f32));
    draw(&mut surface);
    if fonts.drew_boxes() {
        let note = "A box stands for a sign that no font of this program has.";
        text(&mut surface, &fonts.regular, Point::new(10.0, height - 3.0), 2.6, note);
    }
    surface.pop();
    surface.finish();
    page.finish();
    Ok(())
}

pub(crate) fn line(from: Point, to: Point) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(from);
    path.line_to(to);
    path
}

pub(crate) fn rect_path(rect: Rect) -> BezPath {
    kurbo::Shape::to_path(&rect, 0.1)
}

pub(crate) fn stroke(surface: &mut Surface<'_>, path: &BezPath, width: f64, dash: Option<f64>) {
    let Some(path) = to_pdf(path) else { return };
    surface.set_fill(None);
    surface.set_stroke(Some(Stroke {
        paint: rgb::Color::new(22, 48, 43).into(),
        width: width as f32,
        dash: dash.map(|mm| StrokeDash { array: vec![mm as f32, mm as f32 * 0.5], offset: 0.0 }),
        ..Stroke::default()
    }));
    surface.draw_path(&path);
}

pub(crate) fn text(surface: &mut Surface<'_>, face: &Typeface, at: Point, size: f64, words: &str) {
    let mut x = at.x;
    for run in face.runs(words) {
        match run.font {
            Some(font) => {
                surface.set_stroke(None);
                surface.set_fill(Some(Fill { paint: rgb::Color::new(22, 48, 43).into(), ..Fill::default() }));
                let from = PdfPoint::from_xy(x as f32, at.y as f32);
                surface.draw_text(from, font.clone(), size as f32, &run.text, false, TextDirection::Auto);
            }
            None => {
                let (left, right) = (x + size * 0.06, x + size * (BOX_WIDTH - 0.06));
                stroke(surface, &rect_path(Rect::new(left, at.y - size * 0.68, right, at.y)), 0.15, None);
            }
        }
        x += run.width * size;
    }
}

pub(crate) fn to_pdf(path: &BezPath) -> Option<krilla::geom::Path> {
    let mut builder = PathBuilder::new();
    let xy = |p: Point| (p.x as f32, p.y as f32);
    for el in path.elements() {
        match *el {
            PathEl::MoveTo(p) => builder.move_to(xy(p).0, xy(p).1),
            PathEl::LineTo(p) => builder.line_to(xy(p).0, xy(p).1),
            PathEl::QuadTo(a, p) => builder.quad_to(xy(a).0, xy(a).1, xy(p).0, xy(p).1),
            PathEl::CurveTo(a, b, p) => {
                builder.cubic_to(xy(a).0, xy(a).1, xy(b).0, xy(b).1, xy(p).0, xy(p).1)
            }
            PathEl::ClosePath => builder.close(),
        }
    }
    builder.finish()
}
