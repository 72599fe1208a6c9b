//! Half a straight skirt from the waist down to the hip and on to its hem (handbook: `wishes.md`, section 7): the waist's end
//! at the side is found so that the sewn waist and the side's length come out as they are asked for.

use kurbo::{Point, Vec2};

use super::names::{DartPlace, LevelName, Seam};
use super::piece::{Edge, Level, Notch, Piece, PieceKind};
use super::truing::back_off_points;
use super::waist_seam::{WaistDart, WaistSeam, side_to_hip, square_to_side};
use crate::geometry::{Curve, house_curve, root};

/// The waist's end at the side is looked for so far either way from where a straight waist would end, in millimetres.
const SEARCHED: f64 = 80.0;

/// A dart that is asked of a skirt's waist, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct SkirtDart {
    /// What it takes in at the waist.
    pub(crate) mouth: f64,
    /// How far above the hip line it ends.
    pub(crate) above_hip: f64,
    /// How much of the sewn waist lies between it and the centre; evenly spread where that is not asked for.
    pub(crate) from_centre: Option<f64>,
}

/// What half a skirt is drawn from, in millimetres.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct SkirtHalf {
    pub(crate) kind: PieceKind,
    /// Where the waist meets the centre line.
    pub(crate) centre: Point,
    pub(crate) hip_width: f64,
    /// The waist as it is sewn.
    pub(crate) waist: f64,
    /// Down the side.
    pub(crate) waist_to_hip: f64,
    /// The waist rises at the side by this.
    pub(crate) side_raised: f64,
    /// Centre first, at most two.
    pub(crate) darts: Vec<SkirtDart>,
}

/// A waist that was solved, and the side below it down to the hip.
pub(crate) struct SolvedHalf {
    pub(crate) seam: WaistSeam,
    pub(crate) side: Curve,
    /// Where the hip line meets the side.
    pub(crate) hip: Point,
}

impl SkirtHalf {
    /// The waist whose end at the side lies so far out: the side from there to the hip as long as she measures.
    fn ending_at(&self, x: f64) -> Option<SolvedHalf> {
        let waist = Point::new(x, -self.side_raised);
        let hip = |y: f64| Point::new(self.hip_width, y);
        let off = |y: f64| side_to_hip(waist, hip(y)).length() - self.waist_to_hip;
        let hip = hip(root(off, waist.y + 5.0, waist.y + self.waist_to_hip + 1.0)?);
        let side = side_to_hip(waist, hip);
        let arrives = square_to_side(&side);
        let line = house_curve(self.centre, Vec2::new(1.0, 0.0), waist, arrives).curve;
        let (length, parts) = (line.length(), self.darts.len() as f64 + 1.0);
        let places = [DartPlace::Waist, DartPlace::WaistSide];
        let mut before = 0.0;
        let darts = self.darts.iter().zip(places).enumerate().map(|(index, (dart, place))| {
            // The line holds the darts' mouths as well.
            let sewn = dart.from_centre.map(|sewn| sewn + before + dart.mouth / 2.0);
            before += dart.mouth;
            let along = sewn.unwrap_or(length * (index as f64 + 1.0) / parts);
            let at = line.point_at(along);
            let foot = Point::new(at.x, hip.y - dart.above_hip);
            WaistDart { place, foot, mouth: dart.mouth, at, along: line.direction_at(along) }
        });
        let seam = WaistSeam { centre: self.centre, side: waist, arrives, darts: darts.collect() };
        Some(SolvedHalf { seam, side, hip })
    }

    /// The waist that is as long as it is to be when it is sewn. `None` where no end at the side makes it so.
    pub(crate) fn solved(&self) -> Option<SolvedHalf> {
        let straight = self.waist + self.darts.iter().map(|dart| dart.mouth).sum::<f64>();
        let off = |x| self.ending_at(x).map_or(f64::NAN, |half| half.seam.sewn() - self.waist);
        self.ending_at(root(off, straight - SEARCHED, straight + SEARCHED)?)
    }

    /// The piece, straight down from the hip to the hem, with these lines across it, each so far below the hip.
    pub(crate) fn piece(&self, solved: &SolvedHalf, below_hip: f64, lines: &[(LevelName, f64)]) -> Piece {
        let SolvedHalf { seam, side, hip } = solved;
        let at = |mm: f64| (Point::new(0.0, hip.y + mm), *hip + Vec2::new(0.0, mm));
        let (centre_hem, side_hem) = at(below_hip);
        let mut edges = seam.edges();
        edges.push(Edge::sewn(Seam::Side, side.clone().then(Curve::line(*hip, side_hem))));
        edges.push(Edge::sewn(Seam::Hem, Curve::line(side_hem, centre_hem)));
        edges.push(Edge::on_fold(self.kind.centre(), Curve::line(centre_hem, self.centre)));
        let across = |name, mm| Level { name, points: <[Point; 2]>::from(at(mm)).to_vec() };
        let mut levels = vec![across(LevelName::Hip, 0.0)];
        let above_hem = lines.iter().filter(|(_, mm)| (0.0..below_hip).contains(mm));
        levels.extend(above_hem.map(|(name, mm)| across(*name, *mm)));
        // Between the centre and the inner dart.
        let grain_at = self.hip_width * 0.12;
        let mut piece = Piece {
            darts: seam.as_darts(),
            levels,
            notches: vec![Notch { seam: Seam::Side, from_underarm: self.waist_to_hip, double: false }],
            ..Piece::bare(
                self.kind,
                edges,
                (Point::new(grain_at, hip.y * 0.4), Point::new(grain_at, centre_hem.y - 40.0)),
            )
        };
        back_off_points(&mut piece);
        piece
    }
}
