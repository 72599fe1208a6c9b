//! How a side seam hangs: its distance from a square to the grain, a hand's length above the waist.
//!
//! Tested as the trade tests it (handbook: `blocks.md`, rule 6): darts whose mouth lies on the side are closed, waist
//! darts stay open, and the part at the waist keeps still.

use kurbo::{Affine, Line, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::curve::{Curve, turn_degrees};
use super::piece::{DartPlace, LevelName, Pattern, Piece, Seam};

/// How far above the waist the seam is looked at, in millimetres; at the underarm where it is shorter.
const ABOVE_WAIST: f64 = 125.0;

/// How front and back hang as they are drafted: the draft's own reason why they may lean differently.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SideHang {
    /// Distance of the front's side seam from the square, outwards positive, in millimetres.
    pub front: f64,
    /// The same of the back.
    pub back: f64,
    /// Angle of the front's waist darts, in degrees: what is turned out of or into them swings the seam.
    pub front_waist: f64,
    /// The same of the back.
    pub back_waist: f64,
}

/// What the side seams are off, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Hanging {
    /// Distance of the front's seam from the square, outwards positive.
    pub(super) front: f64,
    /// The same of the back.
    pub(super) back: f64,
    /// Front less back, less the draft's own reason.
    pub(super) off: f64,
}

impl SideHang {
    /// How a pattern hangs as it is now. `None` where it has no front and back with side seams.
    pub fn of(pattern: &Pattern) -> Option<Self> {
        let (front, back) = (pattern.front_with(Seam::Side)?, pattern.back()?);
        Some(Self {
            front: out(front)?,
            back: out(back)?,
            front_waist: waist_angle(front),
            back_waist: waist_angle(back),
        })
    }
}

/// How the side seams of a pattern hang against what its draft had. `None` where either is not known.
pub(super) fn hanging(pattern: &Pattern) -> Option<Hanging> {
    let (drafted, now) = (pattern.side_hang?, SideHang::of(pattern)?);
    // Panels and gathers take a waist dart up without swinging the seam.
    let swings = |piece: Option<&Piece>| piece.is_some_and(|piece| piece.gathers.is_empty());
    let turned = |from: f64, then: f64, waist: f64, counts: bool| {
        let by = if counts { then - waist } else { 0.0 };
        ABOVE_WAIST * ((from / ABOVE_WAIST).atan() + by.to_radians()).tan()
    };
    let front = turned(drafted.front, drafted.front_waist, now.front_waist, swings(pattern.front()));
    let back = turned(drafted.back, drafted.back_waist, now.back_waist, swings(pattern.back()));
    Some(Hanging { front: now.front, back: now.back, off: (now.front - now.back) - (front - back) })
}

fn waist_angle(piece: &Piece) -> f64 {
    let angle = |place| {
        let (dart, (first, second)) = (piece.dart(place)?, piece.mouth(place)?);
        Some(turn_degrees(first - dart.pivot, second - dart.pivot).abs())
    };
    [DartPlace::Waist, DartPlace::WaistSide].into_iter().filter_map(angle).sum()
}

/// Distance of the closed side seam from the square to the grain raised at its waist end, outwards positive.
fn out(piece: &Piece) -> Option<f64> {
    let seam = closed_side(piece)?;
    let waist = waist_end(piece, &seam)?;
    let up = (piece.grain.0 - piece.grain.1) / piece.grain.0.distance(piece.grain.1);
    let up = if up.y > 0.0 { -up } else { up };
    // Away from the centre line: x grows towards the side.
    let outwards = Vec2::new(-up.y, up.x);
    let highest = seam.first().map(|curve| curve.start())?;
    let height = ABOVE_WAIST.min((highest - waist).dot(up));
    let from = waist + up * height;
    let across = Line::new(from - outwards * 400.0, from + outwards * 400.0);
    let places = seam.iter().filter_map(|curve| Some(curve.point_at(curve.crossing(across)?)));
    let at_top = ((highest - waist).dot(up) - height).abs() < 1e-6;
    let place = places.last().or(at_top.then_some(highest))?;
    Some((place - from).dot(outwards))
}

/// The side seam from the underarm down, with the darts on it closed: what lies above a dart is turned onto what lies
/// below it.
fn closed_side(piece: &Piece) -> Option<Vec<Curve>> {
    let mut closed: Vec<Curve> = Vec::new();
    let first = piece.first_edge(Seam::Side)?;
    let last = piece.last_edge(Seam::Side)?;
    for edge in &piece.edges[first..=last] {
        match (edge.dart, edge.seam) {
            (None, Seam::Side) => closed.push(edge.curve.clone()),
            (Some(place), _) => {
                let (dart, (above, below)) = (piece.dart(place)?, piece.mouth(place)?);
                // Once a dart, at its first leg.
                if edge.curve.start().distance(above) < 1e-6 {
                    let turn = turn_degrees(above - dart.pivot, below - dart.pivot).to_radians();
                    let shut = Affine::rotate_about(turn, dart.pivot);
                    closed = closed.iter().map(|curve| curve.transformed(shut)).collect();
                }
            }
            _ => {}
        }
    }
    Some(closed)
}

/// The waist's end at the side: the seam's own end, or where a piece that goes on below crosses its waist.
fn waist_end(piece: &Piece, seam: &[Curve]) -> Option<Point> {
    let level = piece.levels.iter().find(|level| level.name == LevelName::Waist);
    let crossed = level.and_then(|level| level.points.last()).and_then(|point| {
        let on = |curve: &Curve| curve.point_at(curve.nearest(*point));
        seam.iter().map(on).min_by(|a, b| a.distance(*point).total_cmp(&b.distance(*point)))
    });
    crossed.or_else(|| seam.last().map(Curve::end))
}
