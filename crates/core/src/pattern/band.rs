//! Bands, collar stands and strips: pieces that are sewn to a finished edge from outside (handbook: `wishes.md`, section 8).
//!
//! All of them lie with the edge they are sewn by below, and their notches are told from its left end.

use kurbo::{Point, Vec2};

use super::names::{GarmentPart, LevelName, PieceKind};
use super::piece::{Edge, Level, Notch, Piece, Seam};
use crate::geometry::{Curve, root, round_about};

/// The grain line ends so far from the outline, in millimetres, and is at most so long.
const GRAIN_INSIDE: f64 = 5.0;
const LONGEST_GRAIN: f64 = 300.0;
/// A straight collar stand rises by no more than this, in millimetres.
const STRAIGHT: f64 = 1e-6;

/// How the grain runs in a straight piece.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(crate) enum Grain {
    /// Along it, and it is folded over its length: as wide again.
    AlongAndFolded,
    /// Across it at half a right angle.
    Bias,
}

/// A straight piece: a band or a strip.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Straight {
    pub(crate) part: GarmentPart,
    /// What it is sewn to.
    pub(crate) seam: Seam,
    /// Sewn length along that, in millimetres.
    pub(crate) long: f64,
    /// What laps under beyond its left end, in millimetres.
    pub(crate) laps: f64,
    /// Its width as it is worn, in millimetres.
    pub(crate) wide: f64,
    pub(crate) grain: Grain,
    /// What comes to lie at its lower edge, in millimetres from the left end of the sewn stretch.
    pub(crate) joints: Vec<f64>,
}

impl Straight {
    /// The piece.
    pub(crate) fn piece(&self) -> Piece {
        let is_folded = self.grain == Grain::AlongAndFolded;
        let (long, wide) = (self.laps + self.long, if is_folded { 2.0 * self.wide } else { self.wide });
        let at = |x: f64, y: f64| Point::new(x, y);
        let line = |from: Point, to: Point| Curve::line(from, to);
        let begins = at(self.laps, wide);
        let mut edges = vec![
            Edge::sewn(Seam::BandEdge, line(at(0.0, 0.0), at(long, 0.0))),
            Edge::sewn(Seam::BandEnd, line(at(long, 0.0), at(long, wide))),
            Edge::sewn(self.seam, line(at(long, wide), begins)),
        ];
        if self.laps > 0.0 {
            edges.push(Edge::sewn(Seam::BandEdge, line(begins, at(0.0, wide))));
        }
        edges.push(Edge::sewn(Seam::BandEnd, line(at(0.0, wide), at(0.0, 0.0))));
        let (middle, reach) = match self.grain {
            Grain::AlongAndFolded => {
                let half = (long / 2.0 - GRAIN_INSIDE).min(LONGEST_GRAIN / 2.0);
                (at(long / 2.0, wide / 4.0), Vec2::new(half, 0.0))
            }
            Grain::Bias => {
                let half = wide.min(long) / 2.0 - GRAIN_INSIDE;
                (at(long / 2.0, wide / 2.0), Vec2::new(half, half))
            }
        };
        let folded = Level { name: LevelName::Fold, points: vec![at(0.0, wide / 2.0), at(long, wide / 2.0)] };
        Piece {
            levels: if is_folded { vec![folded] } else { Vec::new() },
            ..sewn_on(self.part, edges, self.seam, &self.joints, (middle - reach, middle + reach))
        }
    }
}

/// Half a collar stand: it stands up from the neckline, its lower edge an arc that rises towards the front.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct Stand {
    /// Half the neckline, sewn, in millimetres.
    pub(crate) neckline: f64,
    /// From the centre back to the shoulder, in millimetres.
    pub(crate) behind: f64,
    pub(crate) height: f64,
    /// How much its lower edge rises at the front, in millimetres.
    pub(crate) rise: f64,
    /// Whether its centre back lies on the fold.
    pub(crate) on_fold: bool,
}

impl Stand {
    /// The radius of its lower edge; none where that is straight.
    pub(crate) fn radius(&self) -> Option<f64> {
        let rises = |angle: f64| self.neckline / angle * (1.0 - angle.cos()) - self.rise;
        (self.rise > STRAIGHT).then_some(())?;
        root(rises, 1e-6, std::f64::consts::FRAC_PI_2).map(|angle| self.neckline / angle)
    }

    /// The piece.
    pub(crate) fn piece(&self) -> Piece {
        let (foot, top) = (Point::ORIGIN, Point::new(0.0, -self.height));
        let (lower, upper) = match self.radius() {
            Some(radius) => {
                let (about, angle) = (Point::new(0.0, -radius), self.neckline / radius);
                (round_about(about, foot, -angle), round_about(about, top, -angle))
            }
            None => {
                let out = Vec2::new(self.neckline, 0.0);
                (Curve::line(foot, foot + out), Curve::line(top, top + out))
            }
        };
        let end = Curve::line(upper.end(), lower.end());
        let centre = Curve::line(foot, top);
        let edges = vec![
            Edge::sewn(Seam::BandEdge, upper),
            Edge::sewn(Seam::BandEnd, end),
            Edge::sewn(Seam::Neckline, lower.reversed()),
            Edge { fold: self.on_fold, ..Edge::sewn(Seam::CentreBack, centre) },
        ];
        let middle = Point::new(self.behind.min(self.neckline) / 2.0, -self.height / 2.0);
        let reach = Vec2::new(0.0, self.height / 2.0 - GRAIN_INSIDE);
        let joints = [self.behind];
        sewn_on(GarmentPart::CollarStand, edges, Seam::Neckline, &joints, (middle - reach, middle + reach))
    }
}

fn sewn_on(part: GarmentPart, edges: Vec<Edge>, seam: Seam, joints: &[f64], grain: (Point, Point)) -> Piece {
    let notch = |along: &f64| Notch { seam, from_underarm: *along, double: false };
    let notches = joints.iter().map(notch).collect();
    Piece { notches, ..Piece::bare(PieceKind::of(part), edges, grain) }
}
