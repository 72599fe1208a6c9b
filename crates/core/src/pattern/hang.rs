//! How a side seam hangs: its distance from a square to the grain, a hand's length above the waist.
//!
//! Tested as the trade tests it (handbook: `blocks.md`, rule 6): waist darts stay open, and the part at the waist keeps
//! still. Darts on the side are closed; both seams are looked at below the lowest of them, and their lean carried on to
//! the full height, so that the flare over a cup does not count as a swing of the waist.

use kurbo::{Affine, Line, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::piece::{LevelName, Pattern, Piece, Seam};
use crate::geometry::{Curve, turn_degrees};

/// How far above the waist the seams are looked at, in millimetres; lower where one of them is shorter.
const ABOVE_WAIST: f64 = 125.0;

/// How front and back hang as they are drafted: the draft's own reason why they may lean differently.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SideHang {
    /// Distance of the front's side seam from the square, outwards positive, in millimetres.
    pub front: f64,
    /// The same of the back.
    pub back: f64,
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
        let (front, back) = (pattern.front_half()?, pattern.back_half()?);
        let (front, back) = (Side::of(front.at_side())?, Side::of(back.at_side())?);
        // Where one seam is shorter, or has a dart lower, the other is looked at no higher either.
        let height = ABOVE_WAIST.min(front.height).min(back.height);
        Some(Self { front: front.out(height)?, back: back.out(height)? })
    }

    /// The reason of a pattern whose darts were turned: the swing that a turned dart gives a seam is its own.
    pub(crate) fn after_turning(before: &Pattern, after: &Pattern) -> Option<Self> {
        let (drafted, was, is) = (before.side_hang?, Self::of(before)?, Self::of(after)?);
        Some(Self { front: drafted.front + is.front - was.front, back: drafted.back + is.back - was.back })
    }
}

/// How the side seams of a pattern hang against what its draft had. `None` where either is not known.
pub(super) fn hanging(pattern: &Pattern) -> Option<Hanging> {
    let (drafted, now) = (pattern.side_hang?, SideHang::of(pattern)?);
    Some(Hanging {
        front: now.front,
        back: now.back,
        off: (now.front - now.back) - (drafted.front - drafted.back),
    })
}

/// A side seam with its darts closed, and how it stands to the grain.
struct Side {
    /// From the underarm down.
    seam: Vec<Curve>,
    /// Its end at the waist.
    waist: Point,
    /// Up along the grain.
    up: Vec2,
    /// From the waist's end up to its top, or to its lowest dart: what lies above that flares over the cup, and says
    /// nothing of how the waist hangs. In millimetres.
    height: f64,
}

impl Side {
    fn of(piece: &Piece) -> Option<Self> {
        let seam = closed_side(piece)?;
        let waist = waist_end(piece, &seam)?;
        let up = (piece.grain.0 - piece.grain.1) / piece.grain.0.distance(piece.grain.1);
        let up = if up.y > 0.0 { -up } else { up };
        let height = (seam.last()?.start() - waist).dot(up);
        (height >= 1.0).then_some(Self { seam, waist, up, height })
    }

    /// Distance of the seam from the square to the grain raised at its waist end, outwards positive; looked at so
    /// high and carried on to the full height.
    fn out(&self, height: f64) -> Option<f64> {
        // Away from the centre line: x grows towards the side.
        let outwards = Vec2::new(-self.up.y, self.up.x);
        let from = self.waist + self.up * height;
        let across = Line::new(from - outwards * 400.0, from + outwards * 400.0);
        let mut places = self.seam.iter().filter_map(|curve| Some(curve.point_at(curve.crossing(across)?)));
        let at_top = ((self.height - height).abs() < 1e-6).then(|| self.seam.last().map(Curve::start));
        let place = places.next_back().or(at_top.flatten())?;
        Some((place - from).dot(outwards) * (ABOVE_WAIST / height))
    }
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
