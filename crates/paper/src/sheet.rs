//! The measuring sheet: blank to take to a client, or filled for the book.

use krilla::Document;
use krilla::paint::FillRule;
use krilla::surface::Surface;
use kurbo::{Affine, Point, Rect};

use super::Stroke;
use super::fonts::Fonts;
use super::ink::{Paper, PaperError, finished, line, page, rect_path, stroke, text, to_pdf};

/// Unprinted border, in millimetres.
const MARGIN: f64 = 14.0;
/// The least height of a row, in millimetres.
const ROW: f64 = 11.5;
/// Height of the heading of a page, in millimetres.
const HEADING: f64 = 30.0;
/// Room kept for the page's number, in millimetres.
const FOOT: f64 = 8.0;
/// Where the columns begin, from the left border, in millimetres: what, last time, first to third take, note.
const COLUMNS: [f64; 6] = [0.0, 82.0, 101.0, 119.0, 137.0, 155.0];
/// Width of the drawing of the tape before the words, in millimetres.
const DRAWING: f64 = 13.0;
/// Height of a line of boxes, in millimetres.
const BOX: f64 = 9.0;
/// Size of the instruction and its distance from line to line, in millimetres.
const HOW: (f64, f64) = (2.9, 3.5);
/// Size of the note and its distance from line to line, in millimetres.
const NOTE: (f64, f64) = (2.5, 3.0);

/// A line of boxes to write into: a side, or the whole body.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct SheetSide {
    /// What stands before the boxes: `left`, `right`, or nothing.
    pub name: String,
    /// The last figure.
    pub last: String,
    /// The takes, all of them; empty on a blank sheet.
    pub takes: Vec<String>,
}

/// One measurement on the sheet. All words are as the house writes them.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct SheetRow {
    /// Its name.
    pub name: String,
    /// How to hold the tape.
    pub how: String,
    /// A line of boxes for each side that is measured.
    pub sides: Vec<SheetSide>,
    /// A word about it: how it was taken, why it stands, why it was left out.
    pub note: String,
    /// The tape on the figure; nothing where it is not drawn.
    pub drawing: Option<TapeDrawing>,
}

/// A tape on a figure.
#[derive(Clone, Debug, PartialEq)]
pub struct TapeDrawing {
    /// The figure's lines thin, the tape strong, in millimetres of the figure.
    pub strokes: Vec<Stroke>,
    /// What of it is shown.
    pub window: Rect,
}

/// A measuring sheet.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Sheet {
    /// The client, or nothing on a blank sheet for anyone.
    pub client: String,
    /// The measurement set.
    pub set: String,
    /// The unit, in a word.
    pub unit: String,
    /// Day, measurer and signature as far as known.
    pub signed: String,
    /// In the order of the route.
    pub rows: Vec<SheetRow>,
}

/// The sheet on pages of `paper`.
///
/// # Errors
///
/// [`PaperError`], only if the program itself is broken.
pub fn measuring_sheet(sheet: &Sheet, paper: Paper) -> Result<Vec<u8>, PaperError> {
    let fonts = Fonts::shipped()?;
    let (_, height) = paper.size();
    let mut document = Document::new();
    let rows: Vec<Row<'_>> = sheet.rows.iter().map(|row| Row::new(row, &fonts, paper)).collect();
    let pages = paginated(&rows, height - 2.0 * MARGIN - HEADING - FOOT);
    for (number, rows) in pages.iter().enumerate() {
        let foot = format!("Page {} of {}", number + 1, pages.len());
        page(&mut document, paper, &fonts, |surface| {
            heading(surface, &fonts, sheet, paper);
            let mut top = MARGIN + HEADING;
            for row in *rows {
                row.draw(surface, &fonts, top, paper);
                top += row.height;
            }
            text(surface, &fonts.regular, Point::new(MARGIN, height - MARGIN), 3.4, &foot);
        })?;
    }
    finished(document)
}

/// Rows page by page; a row is never broken, and there is always a page.
fn paginated<'a, 'b>(rows: &'a [Row<'b>], room: f64) -> Vec<&'a [Row<'b>]> {
    let mut pages = Vec::new();
    let (mut from, mut filled) = (0, 0.0);
    for (index, row) in rows.iter().enumerate() {
        if filled + row.height > room && index > from {
            pages.push(&rows[from..index]);
            (from, filled) = (index, 0.0);
        }
        filled += row.height;
    }
    pages.push(&rows[from..]);
    pages
}

fn heading(surface: &mut Surface<'_>, fonts: &Fonts, sheet: &Sheet, paper: Paper) {
    let (width, _) = paper.size();
    let title = if sheet.client.is_empty() { "Client: " } else { &sheet.client };
    text(surface, &fonts.bold, Point::new(MARGIN, MARGIN + 6.0), 7.0, title);
    let words = format!(
        "{}, in {}. Foundation on, elastic at the waist, a string at the hip; the tape snug, without ease.",
        sheet.set, sheet.unit
    );
    let lines = fonts.regular.wrapped(&words, width - 2.0 * MARGIN, 3.3);
    for (row, line) in lines.iter().take(2).enumerate() {
        text(surface, &fonts.regular, Point::new(MARGIN, MARGIN + 11.0 + 3.9 * row as f64), 3.3, line);
    }
    let signed = if sheet.signed.is_empty() {
        "Date:                         Measured by:                         Over:"
    } else {
        &sheet.signed
    };
    text(surface, &fonts.regular, Point::new(MARGIN, MARGIN + 20.5), 4.2, signed);
    let names = ["", "last", "1", "2", "3", "note"];
    for (name, x) in names.iter().zip(COLUMNS) {
        text(surface, &fonts.bold, Point::new(MARGIN + x + 1.5, MARGIN + HEADING - 2.5), 3.6, name);
    }
    let y = MARGIN + HEADING;
    stroke(surface, &line(Point::new(MARGIN, y), Point::new(width - MARGIN, y)), 0.5, None);
}

/// A row with its words broken into lines and its height known.
struct Row<'a> {
    row: &'a SheetRow,
    how: Vec<String>,
    note: Vec<String>,
    height: f64,
}

impl<'a> Row<'a> {
    fn new(row: &'a SheetRow, fonts: &Fonts, paper: Paper) -> Self {
        let words = COLUMNS[1] - text_left(row) - 2.0;
        let how = fonts.regular.wrapped(&row.how, words, HOW.0);
        // More takes than boxes are written out beside them.
        let more = row.sides.iter().filter(|side| side.takes.len() > 3).map(|side| {
            let name = if side.name.is_empty() { String::new() } else { format!("{} ", side.name) };
            format!("{name}further takes {}", side.takes[3..].join(", "))
        });
        let said: Vec<String> = more.chain(Some(row.note.clone()).filter(|note| !note.is_empty())).collect();
        let note_width = paper.size().0 - 2.0 * MARGIN - COLUMNS[5] - 1.5;
        let note = fonts.regular.wrapped(&said.join("; "), note_width, NOTE.0);
        let drawing = if row.drawing.is_none() { 0.0 } else { 17.0 };
        let height = [
            6.2 + HOW.1 * how.len() as f64,
            BOX * row.sides.len().max(1) as f64 + 2.4,
            NOTE.1 * note.len() as f64 + 3.4,
            drawing + 2.0,
        ];
        Self { row, how, note, height: height.into_iter().fold(ROW, f64::max) }
    }

    fn draw(&self, surface: &mut Surface<'_>, fonts: &Fonts, top: f64, paper: Paper) {
        let right = paper.size().0 - MARGIN;
        let left = MARGIN + text_left(self.row);
        text(surface, &fonts.bold, Point::new(left, top + 4.4), 3.8, &self.row.name);
        for (index, line) in self.how.iter().enumerate() {
            let at = Point::new(left, top + 8.0 + HOW.1 * index as f64);
            text(surface, &fonts.regular, at, HOW.0, line);
        }
        for (index, side) in self.row.sides.iter().enumerate() {
            draw_boxes(surface, fonts, side, top + 1.2 + BOX * index as f64);
        }
        for (index, line) in self.note.iter().enumerate() {
            let at = Point::new(MARGIN + COLUMNS[5] + 1.0, top + 4.2 + NOTE.1 * index as f64);
            text(surface, &fonts.regular, at, NOTE.0, line);
        }
        let frame = Rect::new(MARGIN, top + 1.0, MARGIN + DRAWING - 1.0, top + self.height - 1.0);
        if let Some(drawing) = &self.row.drawing {
            draw_tape(surface, drawing, frame);
        }
        let below = line(Point::new(MARGIN, top + self.height), Point::new(right, top + self.height));
        stroke(surface, &below, 0.12, None);
    }
}

fn text_left(row: &SheetRow) -> f64 {
    if row.drawing.is_none() { 0.0 } else { DRAWING }
}

/// Last time's figure and three boxes, with the takes that there are.
fn draw_boxes(surface: &mut Surface<'_>, fonts: &Fonts, side: &SheetSide, top: f64) {
    let last = MARGIN + COLUMNS[1] + 1.5;
    text(surface, &fonts.regular, Point::new(last, top + 3.0), 2.5, &side.name);
    text(surface, &fonts.regular, Point::new(last, top + 7.0), 3.8, &side.last);
    for (place, pair) in COLUMNS[2..].windows(2).enumerate() {
        let cell = Rect::new(MARGIN + pair[0], top, MARGIN + pair[1] - 1.5, top + BOX - 1.2);
        stroke(surface, &rect_path(cell), 0.2, None);
        let words = side.takes.get(place).map(String::as_str).unwrap_or_default();
        // A long entry is made smaller rather than run over the next box.
        let size =
            [4.4, 3.6, 2.9].into_iter().find(|size| fonts.bold.width(words, *size) < cell.width() - 2.0);
        text(surface, &fonts.bold, Point::new(cell.x0 + 1.0, top + 5.6), size.unwrap_or(2.4), words);
    }
}

/// The window of a drawing, as large as the frame holds; what lies outside of it is cut off.
fn draw_tape(surface: &mut Surface<'_>, drawing: &TapeDrawing, frame: Rect) {
    let window = drawing.window;
    let scale = (frame.width() / window.width()).min(frame.height() / window.height());
    let place = Affine::translate(frame.origin().to_vec2())
        * Affine::scale(scale)
        * Affine::translate(-window.origin().to_vec2());
    let shown = Rect::from_origin_size(frame.origin(), window.size() * scale);
    let Some(clip) = to_pdf(&rect_path(shown)) else { return };
    surface.push_clip_path(&clip, &FillRule::NonZero);
    for each in &drawing.strokes {
        stroke(surface, &(place * each.path.clone()), if each.strong { 0.6 } else { 0.12 }, None);
    }
    surface.pop();
}
