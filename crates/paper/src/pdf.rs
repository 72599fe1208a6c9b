//! PDF in tiles: the plane cut into pages, with marks to join them, and a first page with a map and
//! the test squares.

use krilla::Document;
use krilla::geom::Transform;
use krilla::paint::FillRule;
use krilla::surface::Surface;
use kurbo::{BezPath, PathEl, Point, Rect};
use yardwand_core::pattern::{Allowances, Pattern};

use super::fonts::Fonts;
use super::ink::{Paper, PaperError, finished, line, page, rect_path, stroke, text, to_pdf};
use super::label_place::{BRACKET, BRACKET_OVER, Letters, Written, written};
use super::layout::lay_out_card;
use super::{Label, Laid, lay_out};

/// Unprinted border of a page, in millimetres.
const MARGIN: f64 = 10.0;
/// What neighbouring tiles share, in millimetres.
const OVERLAP: f64 = 10.0;

/// How a plane is cut into pages.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Tiling {
    /// Pages from left to right.
    pub columns: u32,
    /// Pages from top to bottom.
    pub rows: u32,
    /// Printable width of a page, in millimetres.
    pub width: f64,
    /// Printable height of a page, in millimetres.
    pub height: f64,
}

impl Tiling {
    /// The fewest pages that hold `width` by `height` millimetres.
    pub fn of(width: f64, height: f64, paper: Paper) -> Self {
        let (paper_width, paper_height) = paper.size();
        let (w, h) = (paper_width - 2.0 * MARGIN, paper_height - 2.0 * MARGIN);
        let count = |size: f64, page: f64| ((size - OVERLAP) / (page - OVERLAP)).ceil().max(1.0) as u32;
        Self { columns: count(width, w), rows: count(height, h), width: w, height: h }
    }

    /// The part of the plane on a page, in millimetres.
    fn tile(&self, column: u32, row: u32) -> Rect {
        let x = f64::from(column) * (self.width - OVERLAP);
        let y = f64::from(row) * (self.height - OVERLAP);
        Rect::new(x, y, x + self.width, y + self.height)
    }
}

/// One page of a pattern.
#[derive(Clone, Debug, PartialEq)]
pub struct MapPage {
    /// Its name in its corner: rows are letters, columns numbers.
    pub name: String,
    /// Column and row, from 0.
    pub place: (u32, u32),
    /// The part of the plane on it, in millimetres.
    pub covers: Rect,
}

/// Where a pattern lies on its pages: the plane that is cut into them, the pages with something on them, the pieces.
#[derive(Clone, Debug)]
pub struct PageMap {
    /// How the plane is cut.
    pub tiling: Tiling,
    /// The pages that are printed, without the first with this map on it.
    pub pages: Vec<MapPage>,
    /// The pieces in their places.
    pub pieces: Vec<Laid>,
}

impl PageMap {
    /// The pages a pattern is printed on: the same that [`tiled_pdf`] prints.
    pub fn of(pattern: &Pattern, allowances: &Allowances, paper: Paper) -> Self {
        Self::laid(lay_out(pattern, allowances), paper)
    }

    fn laid((pieces, plane): (Vec<Laid>, Rect), paper: Paper) -> Self {
        let tiling = Tiling::of(plane.width(), plane.height(), paper);
        let places = (0..tiling.rows).flat_map(|row| (0..tiling.columns).map(move |column| (column, row)));
        let page = |place: (u32, u32)| MapPage {
            name: tile_name(place.0, place.1),
            place,
            covers: tiling.tile(place.0, place.1),
        };
        let used = |page: &MapPage| pieces.iter().any(|piece| touches(piece, page.covers));
        Self { pages: places.map(page).filter(used).collect(), tiling, pieces }
    }

    /// Width and height of what all pages together cover, in millimetres.
    pub fn size(&self) -> (f64, f64) {
        let last = self.tiling.tile(self.tiling.columns - 1, self.tiling.rows - 1);
        (last.x1, last.y1)
    }
}

/// The pattern true to size on pages of `paper`; tiles with nothing on them are left out.
///
/// # Errors
///
/// [`PaperError`], only if the program itself is broken.
pub fn tiled_pdf(
    pattern: &Pattern,
    allowances: &Allowances,
    label: &Label,
    paper: Paper,
) -> Result<Vec<u8>, PaperError> {
    printed(&PageMap::of(pattern, allowances, paper), label, paper)
}

/// A card block true to size, to glue on card and to trace round.
///
/// # Errors
///
/// [`PaperError`], only if the program itself is broken.
pub fn card_pdf(pattern: &Pattern, label: &Label, paper: Paper) -> Result<Vec<u8>, PaperError> {
    printed(&PageMap::laid(lay_out_card(pattern), paper), label, paper)
}

fn printed(map: &PageMap, label: &Label, paper: Paper) -> Result<Vec<u8>, PaperError> {
    let fonts = Fonts::shipped()?;
    let mut document = Document::new();
    page(&mut document, paper, &fonts, |surface| cover(surface, &fonts, map, label))?;
    // A label has one place, whichever sheets it runs over.
    let wide = |words: &str, is_name: bool| {
        if is_name { fonts.bold.width(words, 1.0) } else { fonts.regular.width(words, 1.0) }
    };
    let labels: Vec<_> = map.pieces.iter().map(|piece| written(piece, label, LETTERS, wide)).collect();
    for each in &map.pages {
        page(&mut document, paper, &fonts, |surface| tile(surface, &fonts, (map, &labels), each, label))?;
    }
    finished(document)
}

/// Whether any line of the piece runs through the tile, or the tile lies inside it.
fn touches(piece: &Laid, tile: Rect) -> bool {
    use kurbo::Shape;
    let mut hit = piece.cutting.contains(tile.center());
    let mut last = Point::ZERO;
    kurbo::flatten(piece.cutting.iter(), 0.5, |el| match el {
        PathEl::MoveTo(p) => last = p,
        PathEl::LineTo(p) => {
            let step = Rect::from_points(last, p);
            hit |= tile.contains(p)
                || tile.contains(last.midpoint(p))
                || tile.overlaps(step) && crosses(tile, last, p);
            last = p;
        }
        _ => {}
    });
    hit
}

fn crosses(tile: Rect, from: Point, to: Point) -> bool {
    (0..=32).any(|i| tile.contains(from.lerp(to, f64::from(i) / 32.0)))
}

fn tile(
    surface: &mut Surface<'_>,
    fonts: &Fonts,
    (map, labels): (&PageMap, &[Vec<Written>]),
    page: &MapPage,
    label: &Label,
) {
    let (tile, tiling) = (page.covers, &map.tiling);
    let frame = Rect::new(MARGIN, MARGIN, MARGIN + tiling.width, MARGIN + tiling.height);
    if let Some(clip) = to_pdf(&rect_path(frame)) {
        surface.push_clip_path(&clip, &FillRule::NonZero);
        let (x, y) = (MARGIN - tile.x0, MARGIN - tile.y0);
        surface.push_transform(&Transform::from_translate(x as f32, y as f32));
        for (piece, lines) in map.pieces.iter().zip(labels) {
            draw_piece(surface, fonts, piece, lines);
        }
        surface.pop();
        surface.pop();
    }
    stroke(surface, &rect_path(frame), 0.15, None);
    marks(surface, fonts, frame, tiling, page);
    let words = format!("{}, {}, version {}, {}", label.client, label.garment, label.version, label.date);
    text(surface, &fonts.regular, Point::new(MARGIN, MARGIN - 3.0), 3.2, &words);
}

/// Row and column, crosses at the corners, and the strip to glue the next page on.
fn marks(surface: &mut Surface<'_>, fonts: &Fonts, frame: Rect, tiling: &Tiling, page: &MapPage) {
    let (column, row) = page.place;
    text(surface, &fonts.bold, Point::new(frame.x1 - 10.0, frame.y0 - 3.0), 5.0, &page.name);
    for corner in [(frame.x0, frame.y0), (frame.x1, frame.y0), (frame.x0, frame.y1), (frame.x1, frame.y1)] {
        let at = Point::from(corner);
        stroke(surface, &line(at - (3.0, 0.0), at + (3.0, 0.0)), 0.3, None);
        stroke(surface, &line(at - (0.0, 3.0), at + (0.0, 3.0)), 0.3, None);
    }
    if column + 1 < tiling.columns {
        let x = frame.x1 - OVERLAP;
        stroke(surface, &line(Point::new(x, frame.y0), Point::new(x, frame.y1)), 0.2, Some(2.0));
        let words = format!("glue {} here", tile_name(column + 1, row));
        text(surface, &fonts.regular, Point::new(frame.x1 - 24.0, frame.y1 + 4.5), 3.2, &words);
    }
    if row + 1 < tiling.rows {
        let y = frame.y1 - OVERLAP;
        stroke(surface, &line(Point::new(frame.x0, y), Point::new(frame.x1, y)), 0.2, Some(2.0));
        let words = format!("glue {} below", tile_name(column, row + 1));
        text(surface, &fonts.regular, Point::new(frame.x0, frame.y1 + 4.5), 3.2, &words);
    }
}

/// Rows are letters, columns numbers: `B3`.
fn tile_name(column: u32, row: u32) -> String {
    let letter = char::from_u32(u32::from(b'A') + row % 26).unwrap_or('?');
    format!("{letter}{}", column + 1)
}

fn cover(surface: &mut Surface<'_>, fonts: &Fonts, map: &PageMap, label: &Label) {
    text(
        surface,
        &fonts.bold,
        Point::new(MARGIN, 22.0),
        8.0,
        &format!("{}, {}", label.client, label.garment),
    );
    let version = format!("Version {} of {}. From {}.", label.version, label.date, label.block);
    text(surface, &fonts.regular, Point::new(MARGIN, 29.0), 4.2, &version);
    text(surface, &fonts.regular, Point::new(MARGIN, 35.0), 4.2, &label.allowance);
    let print = "Print at 100 %, no fitting to the page. Measure both squares before cutting.";
    text(surface, &fonts.regular, Point::new(MARGIN, 41.0), 4.2, print);
    for (top, side, words) in [(48.0, 100.0, "100 mm"), (156.0, 101.6, "4 in")] {
        stroke(surface, &rect_path(Rect::new(MARGIN, top, MARGIN + side, top + side)), 0.3, None);
        text(surface, &fonts.bold, Point::new(MARGIN + 4.0, top + 8.0), 5.0, words);
    }
    draw_map(surface, fonts, map);
}

/// The pages and the pieces on them, small.
fn draw_map(surface: &mut Surface<'_>, fonts: &Fonts, map: &PageMap) {
    let (width, height) = map.size();
    let scale = (72.0 / width).min(110.0 / height);
    let origin = Point::new(MARGIN + 112.0, 48.0);
    let at = |p: Point| origin + p.to_vec2() * scale;
    for page in &map.pages {
        let tile = page.covers;
        let small = Rect::from_points(at(tile.origin()), at(Point::new(tile.x1, tile.y1)));
        stroke(surface, &rect_path(small), 0.2, None);
        text(surface, &fonts.regular, Point::new(small.x0 + 1.5, small.y0 + 4.5), 3.6, &page.name);
    }
    let place = kurbo::Affine::translate(origin.to_vec2()) * kurbo::Affine::scale(scale);
    for piece in &map.pieces {
        stroke(surface, &(place * piece.cutting.clone()), 0.3, None);
    }
    let below = at(Point::new(0.0, height)).y + 6.0;
    let words = format!(
        "{} pages: rows A to {}, columns 1 to {}",
        map.pages.len(),
        tile_name(0, map.tiling.rows - 1).trim_end_matches('1'),
        map.tiling.columns
    );
    text(surface, &fonts.regular, Point::new(origin.x, below), 3.6, &words);
}

const LETTERS: Letters = Letters { name: 7.0, others: 4.0, line: 6.0 };

fn draw_piece(surface: &mut Surface<'_>, fonts: &Fonts, piece: &Laid, lines: &[Written]) {
    stroke(surface, &piece.cutting, 0.5, None);
    stroke(surface, &piece.net, 0.3, Some(4.0));
    piece.darts.iter().for_each(|dart| stroke(surface, dart, 0.3, None));
    piece.folds.iter().for_each(|fold| stroke(surface, fold, 0.2, Some(1.5)));
    for (name, level) in &piece.levels {
        stroke(surface, level, 0.2, Some(1.5));
        if let Some(PathEl::MoveTo(start)) = level.elements().first() {
            text(surface, &fonts.regular, *start + (3.0, -1.5), 3.4, name);
        }
    }
    piece.notches.iter().for_each(|notch| stroke(surface, notch, 0.5, None));
    draw_grain(surface, fonts, &piece.grain);
    if let Some(crosswise) = &piece.cross_grain {
        stroke(surface, crosswise, 0.4, None);
    }
    if let Some(edge) = &piece.fold_edge {
        draw_fold(surface, fonts, edge);
    }
    for punch in &piece.punches {
        let ring = kurbo::Circle::new(*punch, 1.5);
        stroke(surface, &kurbo::Shape::to_path(&ring, 0.01), 0.3, None);
    }
    for line in lines {
        let font = if line.is_name { &fonts.bold } else { &fonts.regular };
        text(surface, font, line.at, line.size, &line.words);
    }
}

/// A bracket whose arrows point at the fold.
fn draw_fold(surface: &mut Surface<'_>, fonts: &Fonts, edge: &BezPath) {
    let ends: Vec<Point> = edge.elements().iter().filter_map(PathEl::end_point).collect();
    let [from, .., to] = ends.as_slice() else { return };
    let places = [from.lerp(*to, BRACKET_OVER.0), from.lerp(*to, BRACKET_OVER.1)];
    let inside = places.map(|place| place + (BRACKET, 0.0));
    stroke(surface, &line(inside[0], inside[1]), 0.4, None);
    for (place, inner) in places.into_iter().zip(inside) {
        stroke(surface, &line(inner, place), 0.4, None);
        stroke(surface, &line(place, place + (3.5, 1.6)), 0.4, None);
        stroke(surface, &line(place, place + (3.5, -1.6)), 0.4, None);
    }
    let top = if inside[0].y < inside[1].y { inside[0] } else { inside[1] };
    text(surface, &fonts.regular, top + (1.5, 5.0), 3.8, "place on fold");
}

fn draw_grain(surface: &mut Surface<'_>, fonts: &Fonts, grain: &BezPath) {
    stroke(surface, grain, 0.4, None);
    let ends: Vec<Point> = grain.elements().iter().filter_map(PathEl::end_point).collect();
    if let [top, .., bottom] = ends.as_slice() {
        for (end, way) in [(*top, 1.0), (*bottom, -1.0)] {
            stroke(surface, &line(end, end + (2.0, 5.0 * way)), 0.4, None);
            stroke(surface, &line(end, end + (-2.0, 5.0 * way)), 0.4, None);
        }
        text(surface, &fonts.regular, *bottom + (2.5, -4.0), 3.6, "grain");
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Check values, section 8: margin 10, overlap 10.
    #[test]
    fn tiles_are_counted_as_the_published_formula_says() {
        let count = |w, h, paper| {
            let t = Tiling::of(w, h, paper);
            (t.columns, t.rows)
        };
        assert_eq!(count(600.0, 800.0, Paper::A4), (4, 3));
        assert_eq!(count(600.0, 800.0, Paper::Letter), (4, 4));
        assert_eq!(count(190.0, 277.0, Paper::A4), (1, 1));
        assert_eq!(count(190.1, 277.1, Paper::A4), (2, 2));
        assert_eq!(count(5.0, 5.0, Paper::A4), (1, 1));
    }
}
