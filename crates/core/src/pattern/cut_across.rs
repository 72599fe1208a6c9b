//! A cut level across a whole piece, through the darts that stand there: everything below it shifts.

use kurbo::{Point, Vec2};

use super::piece::{Dart, Piece};
use super::slash::{Join, Motion, Part, Place, Slash, SlashError};

/// Where one run of the outline ends and the next begins.
struct Boundary<'a> {
    end: Place,
    start: Place,
    /// The dart whose mouth lies between them; none where the cut crosses a seam.
    dart: Option<Opened<'a>>,
}

/// A dart the cut runs through: its pivot lies on one side, an end of its mouth on the other.
#[derive(Clone, Copy)]
struct Opened<'a> {
    dart: &'a Dart,
    mouth: (Point, Point),
}

impl Opened<'_> {
    /// Where the cut crosses the leg from one end of the mouth.
    fn crossed(&self, mouth: Point, level: f64) -> Point {
        let (from, to) = (mouth, self.dart.pivot);
        from.lerp(to, (level - from.y) / (to.y - from.y))
    }
}

/// The cut along the level at `level`, and the piece taped: what lies below has shifted down by `by`, or up where that is
/// negative, in millimetres. `None` where the level does not cross the piece.
///
/// # Errors
///
/// [`SlashError`] where the piece cannot be cut there.
pub(crate) fn cut_across(piece: &Piece, level: f64, by: f64) -> Result<Option<(Slash, Piece)>, SlashError> {
    let shift = |is_below: bool| if is_below { Motion::Shift(Vec2::new(0.0, by)) } else { Motion::Still };
    let Some(slash) = slash(piece, level, shift) else { return Ok(None) };
    let taped = slash.apply_where(piece, |point| shift(point.y > level))?;
    Ok(Some((slash, taped)))
}

fn slash(piece: &Piece, level: f64, shift: impl Fn(bool) -> Motion) -> Option<Slash> {
    let below = |point: Point| point.y > level;
    let opened: Vec<Opened<'_>> = { piece.darts.iter() }
        .filter_map(|dart| Some(Opened { dart, mouth: piece.mouth(dart.place)? }))
        .filter(|it| [it.mouth.0, it.mouth.1].iter().any(|end| below(*end) != below(it.dart.pivot)))
        .collect();
    let boundaries = boundaries(piece, level, &opened);
    if boundaries.len() < 2 {
        return None;
    }
    let parts = (0..boundaries.len()).map(|index| {
        let (begins, ends) = (&boundaries[index], &boundaries[(index + 1) % boundaries.len()]);
        let first = &piece.edges[begins.start.edge].curve;
        // A run that begins on the level lies on the side where its edge ends.
        let is_below = below(if begins.dart.is_some() { first.start() } else { first.end() });
        let inner = inner_border(begins, ends, level, is_below, &opened);
        let join = ends.dart.map_or(Join::Across, |it| Join::Legs(it.dart.place));
        (Part { from: begins.start, to: ends.end, inner, motion: shift(is_below) }, join)
    });
    Some(Slash { parts: parts.collect() })
}

fn boundaries<'a>(piece: &Piece, level: f64, opened: &[Opened<'a>]) -> Vec<Boundary<'a>> {
    let count = piece.edges.len();
    let mut found = Vec::new();
    for (index, edge) in piece.edges.iter().enumerate() {
        if let Some(dart) = opened.iter().find(|it| edge.dart == Some(it.dart.place)) {
            if edge.curve.end() == dart.dart.pivot {
                let before = (index + count - 1) % count;
                found.push(Boundary {
                    end: Place::end_of(piece, before),
                    start: Place::start_of((index + 2) % count),
                    dart: Some(*dart),
                });
            }
            continue;
        }
        if (edge.curve.start().y > level) != (edge.curve.end().y > level)
            && let Some(along) = edge.curve.crossing_level(level)
        {
            let at = Place { edge: index, along };
            found.push(Boundary { end: at, start: at, dart: None });
        }
    }
    found
}

/// How a region is closed through the piece, from its run's end back to its beginning: along the level, and along the
/// legs of darts that reach into it.
fn inner_border(
    begins: &Boundary<'_>,
    ends: &Boundary<'_>,
    level: f64,
    is_below: bool,
    opened: &[Opened<'_>],
) -> Vec<Point> {
    let is_here = |point: Point| (point.y > level) == is_below;
    // From an end of a mouth along its leg to the level, round the pivot where that lies on this side.
    let along_legs = |it: &Opened<'_>, from: Point, other: Point| -> Vec<Point> {
        if is_here(it.dart.pivot) {
            vec![it.dart.pivot, it.crossed(other, level)]
        } else {
            vec![it.crossed(from, level)]
        }
    };
    let from_end = ends.dart.map(|it| along_legs(&it, it.mouth.0, it.mouth.1)).unwrap_or_default();
    let mut to_start = begins.dart.map(|it| along_legs(&it, it.mouth.1, it.mouth.0)).unwrap_or_default();
    to_start.reverse();
    // Darts that reach in from the other side, in the order in which the level meets them.
    let mut reaching: Vec<&Opened<'_>> = { opened.iter() }
        .filter(|it| is_here(it.dart.pivot) && !is_here(it.mouth.0) && !is_here(it.mouth.1))
        .collect();
    // Below the level the outline runs from the side to the centre, above it from the centre to the side.
    let towards = if is_below { 1.0 } else { -1.0 };
    reaching.sort_by(|a, b| (a.dart.pivot.x * towards).total_cmp(&(b.dart.pivot.x * towards)));
    let round = reaching.into_iter().flat_map(|it| {
        let crossed = [it.crossed(it.mouth.0, level), it.crossed(it.mouth.1, level)];
        let [near, far] =
            if (crossed[0].x - crossed[1].x) * towards <= 0.0 { crossed } else { [crossed[1], crossed[0]] };
        [near, it.dart.pivot, far]
    });
    from_end.into_iter().chain(round).chain(to_start).collect()
}

#[cfg(test)]
mod tests {
    use kurbo::Shape;

    use super::super::piece::{Edge, Level, LevelName, PieceKind, Seam};
    use super::super::{DartPlace, TwoPointedDart};
    use super::*;
    use crate::geometry::Curve;

    const MOUTH: f64 = 30.0;

    /// A block of cloth 200 wide and 400 long, with a waist dart from its foot to (100, 150).
    fn piece() -> Piece {
        let at = |x: f64, y: f64| Point::new(x, y);
        let sewn = |seam, from, to| Edge::sewn(seam, Curve::line(from, to));
        let pivot = at(100.0, 150.0);
        let (first, second) = (at(100.0 + MOUTH / 2.0, 400.0), at(100.0 - MOUTH / 2.0, 400.0));
        Piece {
            darts: vec![Dart { place: DartPlace::Waist, pivot, point: at(100.0, 175.0) }],
            two_pointed: vec![TwoPointedDart {
                upper: at(150.0, 120.0),
                lower: at(150.0, 390.0),
                first: at(145.0, 330.0),
                second: at(155.0, 330.0),
                point: at(150.0, 130.0),
            }],
            levels: vec![Level { name: LevelName::Bust, points: vec![at(0.0, 150.0), at(200.0, 150.0)] }],
            ..Piece::bare(
                PieceKind::BODICE_FRONT,
                vec![
                    sewn(Seam::Neckline, at(0.0, 0.0), at(80.0, 0.0)),
                    sewn(Seam::Shoulder, at(80.0, 0.0), at(200.0, 0.0)),
                    sewn(Seam::Side, at(200.0, 0.0), at(200.0, 400.0)),
                    sewn(Seam::Waist, at(200.0, 400.0), first),
                    Edge::leg(DartPlace::Waist, first, pivot),
                    Edge::leg(DartPlace::Waist, pivot, second),
                    sewn(Seam::Waist, second, at(0.0, 400.0)),
                    Edge::on_fold(Seam::CentreFront, Curve::line(at(0.0, 400.0), at(0.0, 0.0))),
                ],
                (at(40.0, 50.0), at(40.0, 350.0)),
            )
        }
    }

    fn area(piece: &Piece) -> f64 {
        piece.outline().area().abs()
    }

    /// The strip let in is as wide as the piece; of it the dart, drawn to its point again, takes half its mouth away.
    #[test]
    fn the_cloth_grows_by_the_strip_less_what_the_dart_takes_of_it() {
        let before = piece();
        for by in [25.0, -25.0] {
            for level in [200.0, 250.0, 320.0] {
                let (_, after) = cut_across(&before, level, by).unwrap().unwrap();
                assert!(after.is_closed(), "{level} {by}");
                let grown = area(&after) - area(&before);
                assert!((grown - by * (200.0 - MOUTH / 2.0)).abs() < 1e-6, "{level} {by}: {grown}");
                assert_eq!(after.edges.len(), before.edges.len(), "no edge is left in two");
                for kept in [Seam::Waist, Seam::Neckline, Seam::Shoulder] {
                    assert!((after.sewn_length(kept) - before.sewn_length(kept)).abs() < 1e-9);
                }
            }
        }
    }

    #[test]
    fn what_lies_above_stays_and_what_lies_below_goes_with_the_cloth() {
        let before = piece();
        let (slash, after) = cut_across(&before, 250.0, 20.0).unwrap().unwrap();
        let (was, is) = (before.dart(DartPlace::Waist).unwrap(), after.dart(DartPlace::Waist).unwrap());
        assert_eq!((was.pivot, was.point), (is.pivot, is.point));
        assert_eq!(after.mouth(DartPlace::Waist).unwrap().0.y, 420.0);
        let dart = after.two_pointed[0];
        assert_eq!((dart.upper.y, dart.point.y, dart.first.y, dart.lower.y), (120.0, 130.0, 350.0, 410.0));
        assert_eq!(
            after.level(LevelName::Bust).unwrap().points,
            before.level(LevelName::Bust).unwrap().points
        );
        assert_eq!((after.grain.0.y, after.grain.1.y), (50.0, 370.0));
        // The regions cover the cloth, once.
        let covered: f64 = slash.regions(&before).iter().map(|region| region.before.area().abs()).sum();
        assert!((covered - area(&before)).abs() < 1e-6, "{covered}");
    }

    #[test]
    fn a_level_beside_the_piece_cuts_nothing() {
        assert_eq!(cut_across(&piece(), 500.0, 20.0), Ok(None));
    }
}
