//! A new neckline and the darts it meets: a shoulder dart stays, becomes a neck dart or goes; a waist dart that reaches up to
//! it is pointed lower (handbook: `wishes.md`, section 1).

use kurbo::{Affine, Line, Point, Shape as _, Vec2};

use super::AlterError;
use super::neckline_shape::{Ends, Shape};
use crate::Style;
use crate::geometry::{Curve, Stretches, closed_path, turn_degrees};
use crate::pattern::{Dart, DartPlace, Edge, Piece, Seam, back_off_points};

/// A waist dart ends at least so far below a neckline, in millimetres (common practice, no source).
const BELOW_NECKLINE: f64 = 25.0;
/// Shorter than this a waist dart is none, in millimetres (common practice, no source).
const LEAST_DART: f64 = 60.0;
/// A shoulder dart of which less would be left as a neck dart is cut away with its end, in millimetres (common practice, no
/// source): what it leaves in the line is eased.
const LEAST_NECK_DART: f64 = 25.0;
/// How exactly it is found where a waist dart has to end, in millimetres.
const STEP: f64 = 0.5;

/// The outline from the centre to where the shoulder goes on, as it becomes, and the neckline with darts closed.
pub(super) struct Upper {
    /// Neckline, and the legs of a dart in it or in the shoulder, and the shoulder up to the armhole.
    pub(super) edges: Vec<Edge>,
    /// The line as it is sewn, in the parts between its corners.
    pub(super) sewn: Vec<Curve>,
    /// What became of a shoulder dart.
    pub(super) dart: DartAfter,
}

/// What became of a shoulder dart.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum DartAfter {
    /// It is as it was, or there was none.
    Stays,
    /// It opens at the neckline now.
    AtNeckline,
    /// It was cut away.
    Gone,
}

/// A shoulder dart with both halves of its shoulder.
struct OnShoulder {
    inner: Curve,
    outer: Curve,
    pivot: Point,
    /// Turns the outer half onto the inner one, in radians.
    closing: f64,
}

impl OnShoulder {
    fn of(piece: &Piece) -> Option<Self> {
        let pivot = piece.dart(DartPlace::Shoulder)?.pivot;
        let (inner, outer) = piece.mouth(DartPlace::Shoulder)?;
        let closing = turn_degrees(outer - pivot, inner - pivot).to_radians();
        let mut halves = piece.edges_of(Seam::Shoulder).map(|edge| edge.curve.clone());
        Some(Self { inner: halves.next()?, outer: halves.next()?, pivot, closing })
    }

    fn closed(&self) -> Affine {
        Affine::rotate_about(self.closing, self.pivot)
    }

    fn opened(&self) -> Affine {
        Affine::rotate_about(-self.closing, self.pivot)
    }
}

fn sewn(seam: Seam) -> impl Fn(Curve) -> Edge {
    move |curve| Edge::sewn(seam, curve)
}

/// The upper outline with its neckline in this shape, `out` further along the closed shoulder, from `centre`.
///
/// # Errors
///
/// [`AlterError::NotHere`] where the line crosses a shoulder dart that it neither takes along nor leaves alone.
pub(super) fn drawn(
    piece: &Piece,
    (centre, level): (Point, Vec2),
    out: f64,
    (shape, corner): (Shape, Option<f64>),
) -> Result<Upper, AlterError> {
    let first = piece.edges_of(Seam::Shoulder).next().ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let old = Ends {
        centre: piece.centre_top(),
        level,
        neck: piece.neck_side(),
        shoulder: first.curve.start_direction(),
    };
    let lines =
        |neck: Point, shoulder: Vec2| Ends { centre, level, neck, shoulder }.drawn(shape, corner, &old);
    let Some(dart) = OnShoulder::of(piece) else {
        let (_, rest) = first.curve.split(out);
        let line = lines(rest.start(), rest.start_direction());
        let after = piece.edges_of(Seam::Shoulder).skip(1).cloned();
        let edges = { line.iter().cloned().map(sewn(Seam::Neckline)) }
            .chain([Edge::sewn(Seam::Shoulder, rest)])
            .chain(after)
            .collect();
        return Ok(Upper { edges, sewn: line, dart: DartAfter::Stays });
    };
    let within = dart.inner.length() - out;
    let rest = if within > 0.0 {
        dart.inner.split(out).1
    } else {
        dart.outer.transformed(dart.closed()).split(-within).1
    };
    let line = lines(rest.start(), rest.start_direction());
    let crossings = crossings(&line, Line::new(dart.inner.end(), dart.pivot));
    let is_stub =
        |(part, along): &(usize, f64)| line[*part].point_at(*along).distance(dart.pivot) < LEAST_NECK_DART;
    let is_cut_away = is_cut_away(piece, &line, (&dart, out), dart.pivot)
        || within <= 0.0 && crossings.len() == 1 && crossings.iter().all(is_stub);
    let legs = |from: Point, to: Point| {
        let place = if within > 0.0 { DartPlace::Shoulder } else { DartPlace::Neckline };
        [Edge::leg(place, from, dart.pivot), Edge::leg(place, dart.pivot, to)]
    };
    if is_cut_away {
        // What is left of the inner half is laid on the outer one, which stays where it lies.
        let (from, outer) = if within > 0.0 {
            let laid = rest.transformed(dart.opened());
            (laid.start(), Curve::line(laid.start(), dart.outer.end()))
        } else {
            let outer = dart.outer.split(-within).1;
            (outer.start(), outer)
        };
        let line = lines(from, outer.start_direction());
        let edges = line
            .iter()
            .cloned()
            .map(sewn(Seam::Neckline))
            .chain([Edge::sewn(Seam::Shoulder, outer)])
            .collect();
        return Ok(Upper { edges, sewn: line, dart: DartAfter::Gone });
    }
    match (within > 0.0, crossings.as_slice()) {
        (true, []) => {
            let [first, second] = legs(dart.inner.end(), dart.outer.start());
            let edges = { line.iter().cloned().map(sewn(Seam::Neckline)) }
                .chain([
                    Edge::sewn(Seam::Shoulder, rest),
                    first,
                    second,
                    Edge::sewn(Seam::Shoulder, dart.outer),
                ])
                .collect();
            Ok(Upper { edges, sewn: line, dart: DartAfter::Stays })
        }
        (false, [(part, along)]) => {
            let (before, after) = line[*part].split(*along);
            let mouth = before.end();
            let [first, second] = legs(mouth, dart.opened() * mouth);
            let open = |curve: &Curve| curve.transformed(dart.opened());
            let mut edges: Vec<Edge> =
                line[..*part].iter().cloned().chain([before]).map(sewn(Seam::Neckline)).collect();
            edges.extend([first, second]);
            edges.extend(
                [open(&after)].into_iter().chain(line[part + 1..].iter().map(open)).map(sewn(Seam::Neckline)),
            );
            edges.push(Edge::sewn(Seam::Shoulder, dart.outer.split(-within).1));
            Ok(Upper { edges, sewn: line, dart: DartAfter::AtNeckline })
        }
        _ => Err(AlterError::not_here(
            "the neckline crosses the shoulder dart and leaves both its ends: move that dart to the neckline first",
        )),
    }
}

/// Where the parts of a line cross a straight one: the part and the length along it.
fn crossings(line: &[Curve], across: Line) -> Vec<(usize, f64)> {
    let of = |(part, curve): (usize, &Curve)| {
        let mut found = Vec::new();
        let mut from = 0.0;
        // The first crossing of what is left, again and again.
        while let Some(along) = curve.between(from, curve.length()).crossing(across) {
            found.push((part, from + along));
            from += along + STEP;
            if from >= curve.length() {
                break;
            }
        }
        found
    };
    line.iter().enumerate().flat_map(of).collect()
}

/// Whether a point of the piece lies in what a neckline cuts off, a shoulder dart closed.
fn is_cut_away(piece: &Piece, line: &[Curve], (dart, out): (&OnShoulder, f64), point: Point) -> bool {
    let inner = dart.inner.length();
    let shoulder = if out <= inner {
        vec![dart.inner.split(out).0]
    } else {
        vec![dart.inner.clone(), dart.outer.transformed(dart.closed()).split(out - inner).0]
    };
    cut_off(piece, line, &shoulder).contains(point)
}

/// What a neckline cuts off: between the line that is there and the new one, and the shoulder up to where it ends.
fn cut_off(piece: &Piece, line: &[Curve], shoulder: &[Curve]) -> kurbo::BezPath {
    let back = |curves: &[Curve]| curves.iter().rev().map(Curve::reversed).collect::<Vec<_>>();
    let old = piece.edges_of(Seam::Neckline).map(|edge| edge.curve.clone());
    let down = line.first().map(|first| Curve::line(first.start(), piece.centre_top()));
    let all: Vec<Curve> =
        down.into_iter().chain(old).chain(shoulder.iter().cloned()).chain(back(line)).collect();
    closed_path(all.iter())
}

/// Points the waist darts of a back that reach up to a neckline lower along their axes. Returns how many it pointed lower.
///
/// # Errors
///
/// [`AlterError::NotHere`] where too little of a dart would be left.
pub(super) fn waist_darts_lowered(
    before: &Piece,
    after: &mut Piece,
    line: &[Curve],
    style: Style,
) -> Result<usize, AlterError> {
    let area = cut_off(before, line, &[]);
    let stretches = Stretches::of(line);
    let is_free = |point: Point| !area.contains(point) && stretches.away(point) >= BELOW_NECKLINE;
    lowered_below(after, None, is_free, "so deep a neckline", style)
}

/// Points waist darts lower along their axes, all but the one at `but`, until their ends are free. Returns how many.
///
/// # Errors
///
/// [`AlterError::NotHere`] where too little of a dart would be left under what is to blame for it.
pub(super) fn lowered_below(
    after: &mut Piece,
    but: Option<DartPlace>,
    is_free: impl Fn(Point) -> bool,
    blame: &str,
    style: Style,
) -> Result<usize, AlterError> {
    let lowered = |end: Point, mouth: Point| -> Result<Option<Point>, AlterError> {
        let axis = mouth - end;
        let way = axis / axis.hypot();
        let steps = 0..=((axis.hypot() / STEP) as u32);
        let by = steps.map(|step| f64::from(step) * STEP).find(|by| is_free(end + way * *by));
        match by {
            Some(0.0) => Ok(None),
            Some(by) if axis.hypot() - by >= LEAST_DART => Ok(Some(end + way * by)),
            _ => Err(AlterError::not_here(format!(
                "{blame} leaves less than {} of the waist dart: a higher one, or part the piece through the dart first",
                style.with_unit(LEAST_DART)
            ))),
        }
    };
    let mut count = 0;
    let is_asked = |dart: &&Dart| dart.place.seam() == Seam::Waist && Some(dart.place) != but;
    let darts: Vec<Dart> = after.darts.iter().filter(is_asked).cloned().collect();
    for Dart { place, pivot, .. } in darts {
        let Some((first, second)) = after.mouth(place) else { continue };
        if let Some(end) = lowered(pivot, first.midpoint(second))? {
            after.draw_legs_to(place, end);
            count += 1;
        }
    }
    for dart in &mut after.two_pointed {
        if let Some(end) = lowered(dart.upper, dart.first.midpoint(dart.second))? {
            dart.point += end - dart.upper;
            dart.upper = end;
            count += 1;
        }
    }
    if count > 0 {
        back_off_points(after);
    }
    Ok(count)
}
