//! Worksheets: headings, words, tables and small drawings that flow over pages. For reading at the table, not
//! true to size; each drawing says so by its own ruler.

use krilla::Document;
use krilla::surface::Surface;
use kurbo::{Affine, BezPath, ParamCurve, ParamCurveArclen, Point, Rect, Shape};

use super::fonts::Fonts;
use super::ink::{Paper, PaperError, finished, line, page, stroke, text};

/// Unprinted border, in millimetres.
const MARGIN: f64 = 15.0;
/// Words of the text, in millimetres.
const SIZE: f64 = 3.7;
/// From line to line, in millimetres.
const LEADING: f64 = 4.9;

/// A line of a drawing.
#[derive(Clone, Debug, PartialEq)]
pub struct Stroke {
    /// In millimetres of the pattern.
    pub path: BezPath,
    /// Drawn strongly: what this step adds. Otherwise thin: what was there.
    pub strong: bool,
}

/// A name on a drawing.
#[derive(Clone, Debug, PartialEq)]
pub struct Mark {
    /// The letter or name.
    pub name: String,
    /// Where, in millimetres of the pattern.
    pub at: Point,
}

/// A column of a table.
#[derive(Clone, Debug, PartialEq)]
pub struct Column {
    /// Its heading.
    pub name: String,
    /// Its share of the width.
    pub share: f64,
}

/// A drawing under its own words, one of several side by side.
#[derive(Clone, Debug, PartialEq)]
pub struct Cell {
    /// What to do.
    pub words: String,
    /// Its lines.
    pub strokes: Vec<Stroke>,
    /// Names of what the words speak of.
    pub marks: Vec<Mark>,
}

/// One thing on a worksheet.
#[derive(Clone, Debug, PartialEq)]
pub enum Item {
    /// A heading; kept together with what follows.
    Heading(String),
    /// A paragraph.
    Words(String),
    /// A table; a row that does not fit goes to the next page whole.
    Table {
        /// Its columns.
        columns: Vec<Column>,
        /// Its rows, a cell a column.
        rows: Vec<Vec<String>>,
    },
    /// A drawing of at most this height on paper, in millimetres.
    Drawing {
        /// Its lines.
        strokes: Vec<Stroke>,
        /// Its names.
        marks: Vec<Mark>,
        /// The height on paper.
        height: f64,
    },
    /// Stages in rows of three, each drawn at most this high; a row is kept together.
    Stages {
        /// In the order of the work.
        cells: Vec<Cell>,
        /// The height of a drawing on paper.
        height: f64,
    },
}

/// A worksheet.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Worksheet {
    /// What it is.
    pub title: String,
    /// For whom, from what, when.
    pub under: String,
    /// In the order of the work.
    pub items: Vec<Item>,
}

impl Worksheet {
    /// The same with one more thing on it.
    #[must_use]
    pub fn and(mut self, item: Item) -> Self {
        self.items.push(item);
        self
    }
}

/// The worksheet on pages of `paper`.
///
/// # Errors
///
/// [`PaperError`], only if the program itself is broken.
pub fn worksheet(sheet: &Worksheet, paper: Paper) -> Result<Vec<u8>, PaperError> {
    let fonts = Fonts::shipped()?;
    let (width, height) = paper.size();
    let inner = width - 2.0 * MARGIN;
    let parts: Vec<Part> = sheet.items.iter().flat_map(|item| parts_of(item, inner, &fonts)).collect();
    let pages = paginated(&parts, height - 2.0 * MARGIN - 26.0, height - 2.0 * MARGIN - 8.0);
    let mut document = Document::new();
    for (number, on_page) in pages.iter().enumerate() {
        let foot = format!("{}. Page {} of {}", sheet.title, number + 1, pages.len());
        page(&mut document, paper, &fonts, |surface| {
            let mut top = MARGIN;
            if number == 0 {
                text(surface, &fonts.bold, Point::new(MARGIN, top + 6.0), 7.0, &sheet.title);
                for (row, words) in
                    fonts.regular.wrapped(&sheet.under, inner, SIZE).iter().take(2).enumerate()
                {
                    let at = Point::new(MARGIN, top + 12.5 + LEADING * row as f64);
                    text(surface, &fonts.regular, at, SIZE, words);
                }
                let y = top + 20.0;
                stroke(surface, &line(Point::new(MARGIN, y), Point::new(width - MARGIN, y)), 0.4, None);
                top += 26.0;
            }
            for part in on_page {
                part.draw(surface, &fonts, top, inner);
                top += part.height;
            }
            text(surface, &fonts.regular, Point::new(MARGIN, height - MARGIN + 2.0), 3.0, &foot);
        })?;
    }
    finished(document)
}

/// The smallest thing that is not broken over pages.
struct Part<'a> {
    height: f64,
    ink: Ink<'a>,
    /// A heading stays with what follows.
    keeps_next: bool,
}

enum Ink<'a> {
    Heading(&'a str),
    Words(String),
    Head(&'a [Column]),
    Row(&'a [Column], Vec<Vec<String>>),
    Drawing(&'a [Stroke], &'a [Mark]),
    Cells { cells: Vec<(Vec<String>, &'a Cell)>, words: f64 },
    Gap,
}

/// How many stages stand side by side.
const ABREAST: usize = 3;
/// Between stages side by side, in millimetres.
const APART: f64 = 5.0;

fn parts_of<'a>(item: &'a Item, inner: f64, fonts: &Fonts) -> Vec<Part<'a>> {
    let wrapped = |words: &str, width: f64| fonts.regular.wrapped(words, width, SIZE);
    let part = |height, ink, keeps_next| Part { height, ink, keeps_next };
    match item {
        Item::Heading(words) => vec![part(9.5, Ink::Heading(words), true)],
        Item::Words(words) => {
            let lines = wrapped(words, inner).into_iter();
            let mut parts: Vec<Part<'a>> = lines.map(|line| part(LEADING, Ink::Words(line), false)).collect();
            parts.push(part(2.2, Ink::Gap, false));
            parts
        }
        Item::Table { columns, rows } => {
            let mut parts = vec![part(6.0, Ink::Head(columns), true)];
            for row in rows {
                let cells: Vec<Vec<String>> = row
                    .iter()
                    .zip(columns)
                    .map(|(cell, column)| wrapped(cell, inner * column.share - 2.0))
                    .collect();
                let lines = cells.iter().map(Vec::len).max().unwrap_or(1).max(1);
                parts.push(part(LEADING * lines as f64 + 1.4, Ink::Row(columns, cells), false));
            }
            parts.push(part(4.0, Ink::Gap, false));
            parts
        }
        Item::Drawing { strokes, marks, height } => {
            vec![part(height + 4.0, Ink::Drawing(strokes, marks), false)]
        }
        Item::Stages { cells, height } => cells
            .chunks(ABREAST)
            .map(|row| {
                let cells: Vec<(Vec<String>, &Cell)> =
                    row.iter().map(|cell| (wrapped(&cell.words, cell_width(inner)), cell)).collect();
                let lines = cells.iter().map(|(words, _)| words.len()).max().unwrap_or(0);
                let words = LEADING * lines as f64 + 2.0;
                part(words + height + 5.0, Ink::Cells { cells, words }, false)
            })
            .collect(),
    }
}

fn cell_width(inner: f64) -> f64 {
    (inner - APART * (ABREAST - 1) as f64) / ABREAST as f64
}

fn paginated<'a, 'b>(parts: &'a [Part<'b>], first: f64, others: f64) -> Vec<Vec<&'a Part<'b>>> {
    let mut pages: Vec<Vec<&Part<'_>>> = vec![Vec::new()];
    let mut left = first;
    let mut index = 0;
    while index < parts.len() {
        // A heading goes with the first thing under it.
        let mut end = index;
        while parts[end].keeps_next && end + 1 < parts.len() {
            end += 1;
        }
        let group = &parts[index..=end];
        let wanted: f64 = group.iter().map(|part| part.height).sum();
        let on_page = pages.len() - 1;
        if wanted > left && !pages[on_page].is_empty() {
            pages.push(Vec::new());
            left = others;
        }
        let on_page = pages.len() - 1;
        pages[on_page].extend(group);
        left -= wanted;
        index = end + 1;
    }
    pages
}

/// Type size of the names on a drawing, in millimetres.
const NAME_SIZE: f64 = 2.9;
/// Ways a name may stand from its point: right above first, as one writes.
const WAYS: [(f64, f64); 8] =
    [(1.0, -1.0), (1.0, 1.0), (-1.0, -1.0), (-1.0, 1.0), (1.0, 0.0), (-1.0, 0.0), (0.0, -1.0), (0.0, 1.0)];

impl Part<'_> {
    fn draw(&self, surface: &mut Surface<'_>, fonts: &Fonts, top: f64, inner: f64) {
        match &self.ink {
            Ink::Gap => {}
            Ink::Heading(words) => {
                text(surface, &fonts.bold, Point::new(MARGIN, top + 6.6), 4.8, words);
            }
            Ink::Words(words) => {
                text(surface, &fonts.regular, Point::new(MARGIN, top + 3.6), SIZE, words);
            }
            Ink::Head(columns) => {
                for (x, column) in places(columns, inner) {
                    text(surface, &fonts.bold, Point::new(x, top + 4.0), 3.2, &column.name);
                }
                rule(surface, top + 5.2, inner, 0.3);
            }
            Ink::Row(columns, cells) => {
                for ((x, _), lines) in places(columns, inner).zip(cells) {
                    for (row, words) in lines.iter().enumerate() {
                        let at = Point::new(x, top + 4.0 + LEADING * row as f64);
                        text(surface, &fonts.regular, at, SIZE, words);
                    }
                }
                rule(surface, top + self.height - 0.2, inner, 0.1);
            }
            Ink::Cells { cells, words } => {
                let width = cell_width(inner);
                for (column, (lines, cell)) in cells.iter().enumerate() {
                    let left = MARGIN + (width + APART) * column as f64;
                    for (row, line) in lines.iter().enumerate() {
                        let at = Point::new(left, top + 3.6 + LEADING * row as f64);
                        text(surface, &fonts.regular, at, SIZE, line);
                    }
                    let frame = Rect::new(left, top + words, left + width, top + self.height - 5.0);
                    draw_small(surface, fonts, &cell.strokes, &cell.marks, frame);
                }
            }
            Ink::Drawing(strokes, marks) => {
                draw_small(
                    surface,
                    fonts,
                    strokes,
                    marks,
                    Rect::new(MARGIN, top, MARGIN + inner, top + self.height - 4.0),
                );
            }
        }
    }
}

fn places(columns: &[Column], inner: f64) -> impl Iterator<Item = (f64, &Column)> {
    columns.iter().scan(MARGIN, move |x, column| {
        let here = *x;
        *x += inner * column.share;
        Some((here, column))
    })
}

fn rule(surface: &mut Surface<'_>, y: f64, inner: f64, width: f64) {
    stroke(surface, &line(Point::new(MARGIN, y), Point::new(MARGIN + inner, y)), width, None);
}

/// Points on a line, near enough to each other that no name slips between them.
fn along(path: &BezPath) -> Vec<Point> {
    let lengths = path.segments().map(|segment| (segment, segment.arclen(0.1)));
    lengths
        .flat_map(|(segment, length)| {
            let steps = (length / 0.7).ceil().max(1.0);
            (0..=steps as usize).map(move |n| segment.eval(n as f64 / steps))
        })
        .collect()
}

/// Where each name stands: beside its point, where it covers no other name and as little of the drawing as can be. Points
/// come with the widths of their names, in millimetres.
fn label_boxes(named: &[(Point, f64)], drawn: &[Point], frame: Rect) -> Vec<Rect> {
    let mut taken: Vec<Rect> = Vec::new();
    for (at, width) in named {
        let stands = |(x, y): (f64, f64), off: f64| {
            let left = at.x + x * (width / 2.0 + off) - width / 2.0;
            let top = at.y + y * (NAME_SIZE / 2.0 + off) - NAME_SIZE / 2.0;
            Rect::new(left, top, left + width, top + NAME_SIZE)
        };
        let covers = |label: &Rect| {
            let on_names: f64 = taken.iter().map(|other| label.intersect(*other).area()).sum();
            let on_lines = drawn.iter().filter(|point| label.contains(**point)).count();
            let on_points =
                named.iter().filter(|(point, _)| label.inflate(0.5, 0.5).contains(*point)).count();
            let outside = label.area() - label.intersect(frame).area();
            20.0 * (on_names + outside) + 6.0 * on_points as f64 + on_lines as f64
        };
        let near = WAYS.iter().map(|way| (stands(*way, 0.9), 0.0));
        // Further off only where that is worth it: a name belongs to what it stands beside.
        let far = WAYS.iter().map(|way| (stands(*way, 3.0), 3.0));
        let best = near.chain(far).map(|(label, far)| (covers(&label) + far, label));
        taken.extend(best.min_by(|a, b| a.0.total_cmp(&b.0)).map(|(_, label)| label));
    }
    taken
}

/// The drawing at the largest scale that fits its frame, with a ruler of 100 mm of the pattern beside it.
fn draw_small(surface: &mut Surface<'_>, fonts: &Fonts, strokes: &[Stroke], marks: &[Mark], frame: Rect) {
    let boxes = strokes.iter().map(|stroke| stroke.path.bounding_box());
    let Some(bounds) = boxes.reduce(|a, b| a.union(b)) else { return };
    let bounds = bounds.inflate(6.0, 6.0);
    let scale = (frame.width() / bounds.width()).min(frame.height() / bounds.height());
    let place = Affine::translate(frame.origin().to_vec2())
        * Affine::scale(scale)
        * Affine::translate(-bounds.origin().to_vec2());
    for each in strokes {
        let width = if each.strong { 0.45 } else { 0.14 };
        stroke(surface, &(place * each.path.clone()), width, None);
    }
    let drawn: Vec<Point> = strokes.iter().flat_map(|each| along(&(place * each.path.clone()))).collect();
    let named: Vec<(Point, f64)> =
        marks.iter().map(|mark| (place * mark.at, fonts.bold.width(&mark.name, NAME_SIZE))).collect();
    for ((mark, (at, _)), label) in marks.iter().zip(&named).zip(label_boxes(&named, &drawn, frame)) {
        stroke(surface, &kurbo::Circle::new(*at, 0.5).to_path(0.01), 0.25, None);
        text(surface, &fonts.bold, Point::new(label.x0, label.y1 - 0.7), NAME_SIZE, &mark.name);
    }
    let right = frame.x1 - 1.0;
    let (low, high) = (frame.y1 - 1.0, frame.y1 - 1.0 - 100.0 * scale);
    if high > frame.y0 {
        stroke(surface, &line(Point::new(right, low), Point::new(right, high)), 0.25, None);
        for y in [low, high] {
            stroke(surface, &line(Point::new(right - 1.5, y), Point::new(right, y)), 0.25, None);
        }
        text(surface, &fonts.regular, Point::new(right - 14.0, low.midpoint(high)), 2.6, "100 mm");
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_of_places_near_each_other_cover_neither_each_other_nor_the_lines() {
        let frame = Rect::new(0.0, 0.0, 55.0, 40.0);
        let named: Vec<(Point, f64)> =
            [(20.0, 20.0, 14.0), (24.0, 20.0, 8.0), (25.0, 21.5, 12.0), (54.0, 5.0, 9.0)]
                .map(|(x, y, width)| (Point::new(x, y), width))
                .to_vec();
        let level = line(Point::new(20.0, 20.0), Point::new(40.0, 20.0));
        let drawn = along(&level);
        let labels = label_boxes(&named, &drawn, frame);
        for (index, label) in labels.iter().enumerate() {
            assert_eq!(label.intersect(frame).area(), label.area(), "{label:?} is in the frame");
            assert!(!drawn.iter().any(|point| label.contains(*point)), "{label:?} is struck through");
            for other in &labels[index + 1..] {
                assert_eq!(label.intersect(*other).area(), 0.0, "{label:?} covers {other:?}");
            }
        }
    }

    #[test]
    fn a_heading_goes_to_the_next_page_with_what_follows() {
        let items = [
            Item::Words("a line".to_owned()),
            Item::Heading("Front".to_owned()),
            Item::Drawing { strokes: Vec::new(), marks: Vec::new(), height: 30.0 },
        ];
        let fonts = Fonts::shipped().unwrap();
        let parts: Vec<Part<'_>> = items.iter().flat_map(|item| parts_of(item, 180.0, &fonts)).collect();
        let pages = paginated(&parts, 40.0, 200.0);
        assert_eq!(pages.len(), 2);
        assert!(matches!(pages[1][0].ink, Ink::Heading("Front")));
    }
}
