//! What is seen, drawn on the figure: folds, drags, edges that stand off, seams out of place, and the level lines.

use kurbo::{BezPath, Point, Vec2};
use serde::{Deserialize, Serialize};

use crate::body::{Body, BodyDrawing, Side, View, draw_body};
use crate::fitting::{
    BalanceLine, LevelOff, Lie, Observation, ObservationKind, PlaceOnFigure, Station, places_on,
};
use crate::{Shown, Style};

/// A level line is drawn so many times as steep as it is: a finger's breadth is hardly seen on a whole figure.
const STEEPER: f64 = 3.0;

/// One thing seen, drawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeMark {
    /// Which of the things seen: 0 is marked A.
    pub of: usize,
    /// Seen from.
    pub view: View,
    /// Lines of the cloth, as paths in the figure's millimetres.
    pub cloth: Vec<String>,
    /// Where the body's own line is, where something lies beside it.
    pub body: Vec<String>,
    /// Where its letter is written.
    pub at: crate::geometry::Pt,
}

/// A level line, drawn and told.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeLevel {
    /// Seen from.
    pub view: View,
    /// The line, three times as steep as it hangs.
    pub path: String,
    /// Where it would hang level.
    pub level: String,
}

/// A figure with what is seen on it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeFigure {
    /// Front, back and side.
    pub views: Vec<BodyDrawing>,
    /// What is seen.
    pub marks: Vec<PracticeMark>,
    /// Level lines.
    pub levels: Vec<PracticeLevel>,
    /// What was measured of them: where, and how far it rises (more) or sinks (less).
    pub heights: Vec<LevelHeight>,
}

/// A level line's height at a station.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LevelHeight {
    /// Which line, and where.
    pub at: String,
    /// Above where it hangs free.
    pub off: Shown,
}

impl PracticeFigure {
    pub(super) fn of(body: &Body, seen: &[Observation], level: &[LevelOff], style: Style) -> Self {
        let places = places_on(body);
        let marks = seen.iter().enumerate().flat_map(|(of, seen)| mark(of, seen, &places));
        let heights = level.iter().map(|level| LevelHeight {
            at: level.line.map_or_else(String::new, |line| format!("{} line, ", capital(line.name())))
                + level.station.name(),
            off: style.show(level.mm),
        });
        Self {
            views: [View::Front, View::Back, View::Side].map(|view| draw_body(view, body)).into(),
            marks: marks.collect(),
            levels: [View::Front, View::Back]
                .into_iter()
                .filter_map(|view| drawn_level(view, level, &places))
                .collect(),
            heights: heights.collect(),
        }
    }
}

fn capital(word: &str) -> String {
    let mut letters = word.trim_end_matches(" line").chars();
    letters.next().map_or_else(String::new, |first| first.to_uppercase().chain(letters).collect())
}

fn drawn_level(view: View, level: &[LevelOff], places: &[PlaceOnFigure]) -> Option<PracticeLevel> {
    let line = level.first()?.line?;
    let side = match line {
        BalanceLine::Waist | BalanceLine::Bust => "waist at the side",
        BalanceLine::Hip | BalanceLine::Hem => "hip",
    };
    let out = places.iter().find(|place| place.view == view && place.name == side)?.at;
    let height =
        |station: Station| level.iter().find(|level| level.station == station).map_or(0.0, |level| level.mm);
    let at_centre = if view == View::Front { Station::CentreFront } else { Station::CentreBack };
    // Her left is to the right of the drawing from the front, and to its left from behind: where `out` lies.
    let at = |x: f64, station: Station| Point::new(x, out.y - STEEPER * height(station));
    let (left, middle, right) = (at(out.x, Station::Left), at(0.0, at_centre), at(-out.x, Station::Right));
    let through = |from: Point, by: Point, to: Point| {
        let mut path = BezPath::new();
        path.move_to(from);
        // A parabola that goes through the middle.
        path.quad_to((by.to_vec2() * 2.0 - from.to_vec2() * 0.5 - to.to_vec2() * 0.5).to_point(), to);
        path.to_svg()
    };
    let flat = |point: Point| Point::new(point.x, out.y);
    Some(PracticeLevel {
        view,
        path: through(right, middle, left),
        level: through(flat(right), flat(middle), flat(left)),
    })
}

/// Where a letter stands beside what it is of: two things at one place have their letters apart.
const BESIDE: [Vec2; 5] = [
    Vec2::new(34.0, -30.0),
    Vec2::new(-34.0, -30.0),
    Vec2::new(34.0, 36.0),
    Vec2::new(-34.0, 36.0),
    Vec2::new(0.0, -52.0),
];

fn mark(of: usize, seen: &Observation, places: &[PlaceOnFigure]) -> Vec<PracticeMark> {
    let at = |name: &str, view: View| places.iter().find(|place| place.view == view && place.name == name);
    let Some(place) = places.iter().find(|place| place.name == seen.place) else { return Vec::new() };
    let here = Point::new(place.at.x, place.at.y);
    let towards = seen.towards.as_ref().and_then(|name| at(name, place.view));
    let towards = towards.map(|place| Point::new(place.at.x, place.at.y));
    let (cloth, body) = strokes(seen, here, towards, place.view);
    let drawn = |mirrored: bool| {
        let over =
            if mirrored { kurbo::Affine::scale_non_uniform(-1.0, 1.0) } else { kurbo::Affine::IDENTITY };
        let paths = |paths: &[BezPath]| paths.iter().map(|path| (over * path.clone()).to_svg()).collect();
        let letter = over * (here + BESIDE[of % BESIDE.len()]);
        PracticeMark { of, view: place.view, cloth: paths(&cloth), body: paths(&body), at: letter.into() }
    };
    match (place.paired, seen.side) {
        (true, Side::Both) => vec![drawn(false), drawn(true)],
        (true, Side::Right) => vec![drawn(true)],
        _ => vec![drawn(false)],
    }
}

fn line(points: &[Point]) -> BezPath {
    let mut path = BezPath::new();
    for (index, point) in points.iter().enumerate() {
        if index == 0 { path.move_to(*point) } else { path.line_to(*point) }
    }
    path
}

/// A soft line through two points, hanging to one side.
fn soft(from: Point, to: Point, hang: f64) -> BezPath {
    let along = to - from;
    let out = Vec2::new(-along.y, along.x).normalize() * hang;
    let mut path = BezPath::new();
    path.move_to(from);
    path.curve_to(from + along / 3.0 + out, to - along / 3.0 + out, to);
    path
}

/// The way a lie goes on the drawing.
fn way(lie: Lie, here: Point, view: View) -> Vec2 {
    let outwards = if here.x < 0.0 { -1.0 } else { 1.0 };
    // From her left side her front is to the left of the drawing.
    let forwards = if view == View::Side { -1.0 } else { outwards };
    match lie {
        Lie::Across | Lie::Out => Vec2::new(outwards, 0.0),
        Lie::Along | Lie::Up => Vec2::new(0.0, -1.0),
        Lie::Down => Vec2::new(0.0, 1.0),
        Lie::Forward => Vec2::new(forwards, 0.0),
        Lie::Backward => Vec2::new(-forwards, 0.0),
        Lie::In => Vec2::new(-outwards, 0.0),
    }
}

/// The cloth's lines, and the body's beside them.
fn strokes(
    seen: &Observation,
    here: Point,
    towards: Option<Point>,
    view: View,
) -> (Vec<BezPath>, Vec<BezPath>) {
    let lie = seen.lie;
    match seen.kind {
        // Taut and straight, in a fan that runs together where it points.
        ObservationKind::Drag => {
            let to = towards.unwrap_or(here + Vec2::new(0.0, -70.0));
            let along = to - here;
            let along = if along.hypot() > 1.0 { along } else { Vec2::new(0.0, -60.0) };
            let across = Vec2::new(-along.y, along.x).normalize();
            let fan = [-22.0, 0.0, 22.0].map(|off| line(&[here + across * off, here + along * 0.85]));
            (fan.into(), Vec::new())
        }
        ObservationKind::Fold => {
            let along = match (lie, towards) {
                (_, Some(to)) if (to - here).hypot() > 1.0 => to - here,
                (Some(Lie::Along), _) => Vec2::new(0.0, 90.0),
                _ => Vec2::new(80.0, 0.0),
            };
            let across = Vec2::new(-along.y, along.x).normalize();
            let half = along / 2.0;
            let folds = [-14.0, 0.0, 14.0].map(|off| {
                let middle = here + across * off;
                soft(middle - half, middle + half, 9.0)
            });
            (folds.into(), Vec::new())
        }
        // The edge, and the edge standing off it.
        ObservationKind::Gape => {
            let (from, to) = (here + Vec2::new(-14.0, -38.0), here + Vec2::new(14.0, 38.0));
            (vec![soft(from, to, -20.0)], vec![soft(from, to, 4.0)])
        }
        ObservationKind::Hike => {
            let up = way(lie.unwrap_or(Lie::Up), here, view) * 20.0;
            let (from, to) = (here + Vec2::new(-45.0, 0.0), here + Vec2::new(45.0, 0.0));
            let mut edge = BezPath::new();
            edge.move_to(from);
            edge.quad_to(here + up * 2.0, to);
            (vec![edge], vec![line(&[from, to])])
        }
        ObservationKind::Swing => {
            let lean = way(lie.unwrap_or(Lie::Forward), here, view) * 34.0;
            let (top, foot) = (here + Vec2::new(0.0, -60.0), here + Vec2::new(0.0, 80.0));
            (vec![line(&[top, foot + lean])], vec![line(&[top, foot])])
        }
        ObservationKind::Strain => {
            let pull = |x: f64, y: f64| line(&[here + Vec2::new(x, y), here + Vec2::new(x * 3.4, y * 1.6)]);
            let pulls = [-12.0, 12.0].into_iter().flat_map(|x| [-16.0, 0.0, 16.0].map(|y| pull(x, y)));
            (pulls.collect(), Vec::new())
        }
        ObservationKind::Point => {
            let off = lie.map_or(Vec2::ZERO, |lie| way(lie, here, view) * 22.0);
            let tip = here + off;
            let dart = line(&[tip + Vec2::new(-9.0, 62.0), tip, tip + Vec2::new(9.0, 62.0)]);
            let own = [
                line(&[here + Vec2::new(-7.0, -7.0), here + Vec2::new(7.0, 7.0)]),
                line(&[here + Vec2::new(7.0, -7.0), here + Vec2::new(-7.0, 7.0)]),
            ];
            (vec![dart], own.into())
        }
        ObservationKind::Place => {
            let off = lie.map_or(Vec2::new(0.0, 18.0), |lie| way(lie, here, view) * 20.0);
            let is_level = off.x.abs() < off.y.abs();
            let half = if is_level { Vec2::new(42.0, 0.0) } else { Vec2::new(0.0, 42.0) };
            (vec![line(&[here + off - half, here + off + half])], vec![line(&[here - half, here + half])])
        }
    }
}
