//! Where a label stands on its piece: inside the stitching line, clear of darts, folds and grain, and smaller where the piece
//! is narrow.

use kurbo::{BezPath, ParamCurve, ParamCurveArclen, PathEl, Point, Rect, Shape, Size, Vec2};

use super::{Label, Laid};

/// The sizes a label is written in, as shares of its own.
const SIZES: [f64; 4] = [1.0, 0.8, 0.65, 0.5];
/// Places are tried at least so far apart, in millimetres, and at most so many across a piece and down it.
const STEP: f64 = 6.0;
const MOST_STEPS: u32 = 30;
/// So near to a mark is on it, in millimetres.
const CLEAR: f64 = 1.0;

/// The bracket at a fold stands so far inside its edge, in millimetres, over these shares of it.
pub(crate) const BRACKET: f64 = 9.0;
pub(crate) const BRACKET_OVER: (f64, f64) = (0.18, 0.82);
/// Room for the words beside its upper end and beside the lower end of the grain line, in millimetres.
const FOLD_WORDS: Size = Size::new(27.0, 6.0);
const GRAIN_WORDS: Size = Size::new(11.0, 8.0);

/// How a label is written in its own size, in millimetres.
#[derive(Clone, Copy, Debug)]
pub(crate) struct Letters {
    /// The letters of the piece's name, its first line.
    pub(crate) name: f64,
    /// Those of the other lines.
    pub(crate) others: f64,
    /// From one line to the next.
    pub(crate) line: f64,
}

/// A line of a label in its place.
pub(crate) struct Written {
    /// Where its base begins.
    pub(crate) at: Point,
    /// Its letters, in millimetres.
    pub(crate) size: f64,
    pub(crate) is_name: bool,
    pub(crate) words: String,
}

/// The label of a piece, line by line; `wide` tells how wide words are in letters of 1 mm, and takes whether they are the
/// name's. As large as it is written, if there is room.
pub(crate) fn written(
    piece: &Laid,
    label: &Label,
    letters: Letters,
    wide: impl Fn(&str, bool) -> f64,
) -> Vec<Written> {
    let lines = label.lines(piece.kind, &piece.name, &piece.cut);
    let size = |index: usize| if index == 0 { letters.name } else { letters.others };
    let widths = lines.iter().enumerate().map(|(index, words)| wide(words, index == 0) * size(index));
    let others = lines.len().saturating_sub(1) as f64;
    let room = Size::new(widths.fold(0.0, f64::max), letters.name + letters.line * others);
    let place = label_place(piece, LabelBlock { room, first_base: letters.name * CAPITALS });
    let line = |(index, words)| Written {
        at: place.at + Vec2::new(0.0, index as f64 * letters.line * place.size),
        size: size(index) * place.size,
        is_name: index == 0,
        words,
    };
    lines.into_iter().enumerate().map(line).collect()
}

/// How high capitals stand above the base, as a share of their size.
const CAPITALS: f64 = 0.8;

/// A label's place.
#[derive(Clone, Copy, Debug, PartialEq)]
struct LabelPlace {
    /// Where the base of its first line begins.
    at: Point,
    /// As a share of its own size.
    size: f64,
}

/// A label as it is written in its own size: how much room it takes, and how far its first line's base lies below its top.
#[derive(Clone, Copy, Debug)]
struct LabelBlock {
    room: Size,
    first_base: f64,
}

impl LabelBlock {
    /// The room it takes at a place.
    fn at(self, LabelPlace { at, size }: LabelPlace) -> Rect {
        let top = at - Vec2::new(0.0, self.first_base * size);
        Rect::from_origin_size(top, self.room * size)
    }
}

/// The place of a piece's label: as large as it fits, on as few marks as may be, as near as may be to where the grain line
/// wants it. On a piece that is too narrow for it everywhere it stands there all the same, as small as it is written.
fn label_place(piece: &Laid, block: LabelBlock) -> LabelPlace {
    let mut net = BezPath::new();
    kurbo::flatten(piece.net.iter(), 0.2, |el| net.push(el));
    let marks = marks(piece);
    let places = places(piece.label_at, net.bounding_box());
    let mut best: Option<(usize, LabelPlace)> = None;
    for size in SIZES {
        let inside = places.iter().map(|at| LabelPlace { at: *at, size }).filter_map(|place| {
            let room = block.at(place);
            // Looked at first: most marks are far away.
            let on = marks.iter().filter(|mark| room.inflate(CLEAR, CLEAR).contains(**mark)).count();
            let is_better = best.is_none_or(|(fewest, _)| on < fewest);
            (is_better && lies_inside(room, &net)).then_some((on, place))
        });
        let far = |place: &LabelPlace| place.at.distance(piece.label_at);
        let found = inside
            .min_by(|(on, one), (other_on, other)| on.cmp(other_on).then(far(one).total_cmp(&far(other))));
        best = found.or(best);
        if best.is_some_and(|(on, _)| on == 0) {
            break;
        }
    }
    best.map_or(LabelPlace { at: piece.label_at, size: SIZES[SIZES.len() - 1] }, |(_, place)| place)
}

/// Where it is tried: where the grain line wants it, then all over the piece.
fn places(wanted: Point, bounds: Rect) -> Vec<Point> {
    let apart = |mm: f64| (mm / f64::from(MOST_STEPS)).max(STEP);
    let step = Vec2::new(apart(bounds.width()), apart(bounds.height()));
    let count = |mm: f64, apart: f64| ((mm / apart).floor() as u32).min(MOST_STEPS);
    let (across, down) = (count(bounds.width(), step.x), count(bounds.height(), step.y));
    let all = (0..=down).flat_map(|row| (0..=across).map(move |column| (column, row)));
    let place =
        |(column, row)| bounds.origin() + Vec2::new(f64::from(column) * step.x, f64::from(row) * step.y);
    std::iter::once(wanted).chain(all.map(place)).collect()
}

/// Whether a rectangle lies inside a closed line, looked at round its edge.
fn lies_inside(room: Rect, net: &BezPath) -> bool {
    const ROUND: u32 = 8;
    (0..=ROUND).map(|step| f64::from(step) / f64::from(ROUND)).all(|share| {
        let (x, y) = (room.x0 + room.width() * share, room.y0 + room.height() * share);
        let round =
            [Point::new(x, room.y0), Point::new(x, room.y1), Point::new(room.x0, y), Point::new(room.x1, y)];
        round.into_iter().all(|point| net.contains(point))
    })
}

/// What a label should not stand on, as points along it.
fn marks(piece: &Laid) -> Vec<Point> {
    const APART: f64 = 2.0;
    // A line that runs on and on is looked at further apart.
    const MOST_POINTS: u32 = 120;
    let levels = piece.levels.iter().map(|(_, level)| level);
    let lines = piece.darts.iter().chain(&piece.folds).chain(levels).chain(std::iter::once(&piece.grain));
    let along = |line: &BezPath| -> Vec<Point> {
        let points = |seg: kurbo::PathSeg| {
            let count = ((seg.arclen(0.1) / APART).ceil().max(1.0) as u32).min(MOST_POINTS);
            (0..=count).map(move |step| seg.eval(f64::from(step) / f64::from(count))).collect::<Vec<_>>()
        };
        line.segments().flat_map(points).collect()
    };
    let ends = piece.notches.iter().flat_map(|notch| notch.elements().iter().filter_map(PathEl::end_point));
    let words = fold_room(piece).into_iter().chain(grain_words(piece)).flat_map(all_over);
    lines.flat_map(along).chain(piece.punches.iter().copied()).chain(ends).chain(words).collect()
}

/// Points all over a rectangle.
fn all_over(room: Rect) -> Vec<Point> {
    const APART: f64 = 3.0;
    let count = |mm: f64| (mm / APART).ceil().max(1.0) as u32;
    let (across, down) = (count(room.width()), count(room.height()));
    let share = |step: u32, of: u32| f64::from(step) / f64::from(of);
    let at = |column: u32, row: u32| {
        Point::new(room.x0 + room.width() * share(column, across), room.y0 + room.height() * share(row, down))
    };
    (0..=down).flat_map(|row| (0..=across).map(move |column| at(column, row))).collect()
}

/// What the bracket at the fold takes up, and its words.
fn fold_room(piece: &Laid) -> Vec<Rect> {
    let ends: Vec<Point> = { piece.fold_edge.iter() }
        .flat_map(|edge| edge.elements().iter().filter_map(PathEl::end_point))
        .collect();
    let [from, .., to] = ends.as_slice() else { return Vec::new() };
    let (one, other) = (from.lerp(*to, BRACKET_OVER.0), from.lerp(*to, BRACKET_OVER.1));
    let bracket = Rect::from_points(one, other + Vec2::new(BRACKET, 0.0));
    vec![bracket, Rect::from_origin_size((bracket.x1, bracket.y0), FOLD_WORDS)]
}

/// What the word beside the grain line takes up.
fn grain_words(piece: &Laid) -> Option<Rect> {
    let lowest =
        { piece.grain.elements().iter().filter_map(PathEl::end_point) }.max_by(|a, b| a.y.total_cmp(&b.y))?;
    Some(Rect::from_origin_size(lowest - Vec2::new(0.0, GRAIN_WORDS.height), GRAIN_WORDS))
}

#[cfg(test)]
mod tests {
    use yardwand_core::Style;
    use yardwand_core::alter::{Amounts, Recipe, make};
    use yardwand_core::body::Body;
    use yardwand_core::draft::{Method, draft};
    use yardwand_core::pattern::Allowances;

    use super::*;
    use crate::lay_out;

    /// On every piece, also on narrow facings and panels, the label lies inside the stitching line and stands on no mark.
    #[test]
    fn a_label_lies_on_its_piece() {
        let block = LabelBlock { room: Size::new(72.0, 44.0), first_base: 6.0 };
        let method = Method { with_sleeve: true, ..Method::default() };
        let bodice = draft(&Body::middle(), &method, Style::TENTHS).unwrap().pattern;
        let faced = Recipe::default().and("facings", Amounts::of(60.0), "");
        let strapless = Recipe::default().and("strapless_edge", Amounts::of(130.0), "").and(
            "facings",
            Amounts::of(50.0).by("edge", "upper_edge"),
            "",
        );
        let mut smaller = 0;
        for recipe in [Recipe::default(), faced, strapless] {
            let made = make(&bodice, &recipe, Style::TENTHS);
            assert!(made.is_whole());
            for piece in lay_out(&made.pattern, &Allowances::default()).0 {
                let place = label_place(&piece, block);
                let room = block.at(place);
                let corners =
                    [(room.x0, room.y0), (room.x1, room.y0), (room.x0, room.y1), (room.x1, room.y1)];
                for corner in corners.map(Point::from) {
                    assert!(piece.net.contains(corner), "{}: {corner:?} of {room:?}", piece.name);
                }
                assert!(marks(&piece).iter().all(|mark| !room.contains(*mark)), "{}: on a mark", piece.name);
                smaller += usize::from(place.size < 1.0);
            }
        }
        assert!(smaller > 0, "a facing is too narrow for it in its own size");
    }
}
