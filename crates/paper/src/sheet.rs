//! The measuring sheet: blank to take to a client, or filled for the book.

use krilla::Document;
use krilla::surface::Surface;
use kurbo::{BezPath, Point, Rect};

use super::ink::{Fonts, Paper, PaperError, finished, line, page, rect_path, stroke, text};

/// Unprinted border, in millimetres.
const MARGIN: f64 = 14.0;
/// Height of a row, in millimetres.
const ROW: f64 = 11.5;
/// Height of the heading of a page, in millimetres.
const HEADING: f64 = 30.0;
/// Where the columns begin, from the left border, in millimetres: what, last time, first take, second, third or note.
const COLUMNS: [f64; 5] = [0.0, 84.0, 106.0, 130.0, 154.0];

/// One measurement on the sheet. All words are as the house writes them.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct SheetRow {
    /// Its name, with the side where there is one.
    pub name: String,
    /// How to hold the tape.
    pub how: String,
    /// The last figure.
    pub last: String,
    /// The takes; empty on a blank sheet.
    pub takes: Vec<String>,
    /// A word about it: how it was taken, why it stands, why it was left out.
    pub note: String,
}

/// A measuring sheet.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
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
    let fit = ((height - 2.0 * MARGIN - HEADING - 8.0) / ROW).floor() as usize;
    let mut document = Document::new();
    let pages: Vec<&[SheetRow]> =
        if sheet.rows.is_empty() { vec![&[]] } else { sheet.rows.chunks(fit.max(1)).collect() };
    for (number, rows) in pages.iter().enumerate() {
        let foot = format!("Page {} of {}", number + 1, pages.len());
        page(&mut document, paper, |surface| {
            heading(surface, &fonts, sheet, paper);
            for (place, row) in rows.iter().enumerate() {
                let top = MARGIN + HEADING + ROW * place as f64;
                draw_row(surface, &fonts, row, top, paper);
            }
            text(surface, &fonts.regular, Point::new(MARGIN, height - MARGIN), 3.4, &foot);
        })?;
    }
    finished(document)
}

fn heading(surface: &mut Surface<'_>, fonts: &Fonts, sheet: &Sheet, paper: Paper) {
    let (width, _) = paper.size();
    let title = if sheet.client.is_empty() { "Client: " } else { &sheet.client };
    text(surface, &fonts.bold, Point::new(MARGIN, MARGIN + 6.0), 7.0, title);
    text(
        surface,
        &fonts.regular,
        Point::new(MARGIN, MARGIN + 13.0),
        3.7,
        &format!(
            "{}, in {}. Foundation on, elastic at the waist, a string at the hip; the tape snug, without ease.",
            sheet.set, sheet.unit
        ),
    );
    let signed =
        if sheet.signed.is_empty() { "Date:                         Measured by:" } else { &sheet.signed };
    text(surface, &fonts.regular, Point::new(MARGIN, MARGIN + 19.5), 4.2, signed);
    let names = ["", "last", "1", "2", "3, note"];
    for (name, x) in names.iter().zip(COLUMNS) {
        text(surface, &fonts.bold, Point::new(MARGIN + x + 1.5, MARGIN + HEADING - 2.5), 3.6, name);
    }
    let y = MARGIN + HEADING;
    stroke(surface, &line(Point::new(MARGIN, y), Point::new(width - MARGIN, y)), 0.5, None);
}

fn draw_row(surface: &mut Surface<'_>, fonts: &Fonts, row: &SheetRow, top: f64, paper: Paper) {
    let right = paper.size().0 - MARGIN;
    text(surface, &fonts.bold, Point::new(MARGIN, top + 4.4), 4.0, &row.name);
    text(surface, &fonts.regular, Point::new(MARGIN, top + 8.6), 2.9, &shortened(&row.how, 82));
    text(surface, &fonts.regular, Point::new(MARGIN + COLUMNS[1] + 1.5, top + 7.0), 4.4, &row.last);
    let edges = [COLUMNS[2], COLUMNS[3], COLUMNS[4], right - MARGIN];
    for (place, pair) in edges.windows(2).enumerate() {
        let cell = Rect::new(MARGIN + pair[0], top + 1.2, MARGIN + pair[1] - 1.5, top + ROW - 1.2);
        stroke(surface, &rect_path(cell), 0.2, None);
        let words = row.takes.get(place).map(String::as_str).unwrap_or_default();
        text(surface, &fonts.bold, Point::new(cell.x0 + 1.2, top + 7.0), 4.6, words);
    }
    if !row.note.is_empty() {
        let at = Point::new(MARGIN + COLUMNS[4] + 1.2, top + 9.4);
        text(surface, &fonts.regular, at, 2.5, &shortened(&row.note, 34));
    }
    let mut rule = BezPath::new();
    rule.move_to((MARGIN, top + ROW));
    rule.line_to((right, top + ROW));
    stroke(surface, &rule, 0.12, None);
}

fn shortened(words: &str, most: usize) -> String {
    if words.chars().count() <= most {
        return words.to_owned();
    }
    let kept: String = words.chars().take(most - 1).collect();
    let whole = kept.rsplit_once(' ').map_or(kept.as_str(), |(head, _)| head);
    format!("{whole}\u{2026}")
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_long_sentence_ends_at_a_word() {
        assert_eq!(shortened("over the fullest part, tape level", 20), "over the fullest\u{2026}");
        assert_eq!(shortened("short", 20), "short");
    }
}
