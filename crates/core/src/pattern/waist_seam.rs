//! The waist of a skirt with its darts: the line as it is sewn, and the darts opened in it (handbook: `wishes.md`,
//! section 7, step 4).
//!
//! Each dart opens about its foot: the sewn line's point above it is turned to either side by half the dart, and the line's
//! direction with it, so that the folded dart leaves the waist without a corner.

use kurbo::{Affine, Point, Vec2};

use super::names::{DartPlace, LevelName, Seam};
use super::piece::{Dart, Edge, Piece};
use crate::geometry::{Curve, house_curve, quarter_turn, reshape_start, root};

/// The waist's end at the side is looked for so far either way from where it lies, in millimetres.
const SEARCHED: f64 = 80.0;

/// So much waist at least is left between the outer dart and the side, in millimetres.
const LEAST_BESIDE_DART: f64 = 5.0;

/// A dart of a skirt's waist.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct WaistDart {
    pub(crate) place: DartPlace,
    /// Its pivot: where it ends below the waist.
    pub(crate) foot: Point,
    /// What it takes in at the waist, in millimetres.
    pub(crate) mouth: f64,
    /// Where it lies on the sewn line.
    pub(crate) at: Point,
    /// The sewn line's direction there, from the centre to the side, of unit length.
    pub(crate) along: Vec2,
}

impl WaistDart {
    /// What turns the sewn line to the leg nearer to the centre; the other leg is turned the other way.
    fn half(&self) -> f64 {
        (self.mouth / 2.0 / self.at.distance(self.foot)).min(1.0).asin()
    }
}

/// The sewn waist of half a skirt, from the centre to the side, with its darts.
#[derive(Clone, Debug, PartialEq)]
pub(crate) struct WaistSeam {
    pub(crate) centre: Point,
    pub(crate) side: Point,
    /// The line's direction where it arrives at the side, of unit length.
    pub(crate) arrives: Vec2,
    /// Centre first.
    pub(crate) darts: Vec<WaistDart>,
}

impl WaistSeam {
    /// The waist of a skirt as it is drawn. `None` where the piece has no waist and side.
    pub(crate) fn of(piece: &Piece) -> Option<Self> {
        let side = piece.first_edge(Seam::Side)?;
        let mut darts = Vec::new();
        for (index, edge) in piece.edges[..side].iter().enumerate() {
            // Once a dart, at its first leg.
            let Some(place) = edge.dart.filter(|place| piece.first_leg(*place) == Some(index)) else {
                continue;
            };
            let (first, second) = piece.mouth(place)?;
            let foot = piece.dart(place)?.pivot;
            let (one, other) = (first - foot, second - foot);
            let middle = (one / one.hypot() + other / other.hypot()) / 2.0;
            let leg = one.hypot().midpoint(other.hypot());
            let dart = WaistDart {
                place,
                foot,
                mouth: first.distance(second),
                at: foot + middle / middle.hypot() * leg,
                along: Vec2::ZERO,
            };
            let arrives = piece.edges[index.checked_sub(1)?].curve.end_direction();
            darts.push(WaistDart { along: turned(arrives, dart.half()), ..dart });
        }
        let last = &piece.edges[side.checked_sub(1)?].curve;
        let centre = piece.edges.first()?.curve.start();
        Some(Self { centre, side: last.end(), arrives: last.end_direction(), darts })
    }

    /// The waist cut for its darts, centre to side.
    pub(crate) fn edges(&self) -> Vec<Edge> {
        let mut edges = Vec::new();
        let (mut from, mut leaves) = (self.centre, Vec2::new(1.0, 0.0));
        for dart in &self.darts {
            let leg = |by: f64| Affine::rotate_about(by, dart.foot) * dart.at;
            let half = dart.half();
            let (first, second) = (leg(-half), leg(half));
            edges.push(Edge::sewn(
                Seam::Waist,
                house_curve(from, leaves, first, turned(dart.along, -half)).curve,
            ));
            edges.push(Edge::leg(dart.place, first, dart.foot));
            edges.push(Edge::leg(dart.place, dart.foot, second));
            (from, leaves) = (second, turned(dart.along, half));
        }
        edges.push(Edge::sewn(Seam::Waist, house_curve(from, leaves, self.side, self.arrives).curve));
        edges
    }

    /// Its sewn length: what lies between the darts, in millimetres.
    pub(crate) fn sewn(&self) -> f64 {
        let edges = self.edges();
        edges.iter().filter(|edge| edge.seam == Seam::Waist).map(|edge| edge.curve.length()).sum()
    }

    /// Whether a dart is shorter than this, in millimetres.
    pub(crate) fn has_darts_shorter_than(&self, long: f64) -> bool {
        self.darts.iter().any(|dart| dart.at.distance(dart.foot) < long)
    }

    /// The darts themselves, their points at the pivot still.
    pub(crate) fn as_darts(&self) -> Vec<Dart> {
        let dart = |dart: &WaistDart| Dart { place: dart.place, pivot: dart.foot, point: dart.foot };
        self.darts.iter().map(dart).collect()
    }
}

fn turned(way: Vec2, by: f64) -> Vec2 {
    (Affine::rotate(by) * way.to_point()).to_vec2()
}

/// The side of a skirt from the waist to the hip: hollow over the hip bone, straight down at the hip.
pub(crate) fn side_to_hip(waist: Point, hip: Point) -> Curve {
    let towards = Point::new(hip.x, waist.y.midpoint(hip.y));
    house_curve(waist, towards - waist, hip, Vec2::new(0.0, 1.0)).curve
}

/// The direction square to a skirt's side at the waist, away from the centre.
pub(crate) fn square_to_side(side: &Curve) -> Vec2 {
    -quarter_turn(side.start_direction())
}

/// What is asked of a skirt's half besides the line of its waist, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Redrawn {
    /// The sewn waist becomes wider by this.
    pub(crate) wider: f64,
    /// The side becomes longer by this, above the hip.
    pub(crate) longer: f64,
    /// The hip's end at the side moves out by this, with all below it.
    pub(crate) hip_out: f64,
}

impl Piece {
    /// A skirt's waist drawn so, and its side down to the hip after it: the waist's end at the side is moved until the sewn
    /// waist and the side's length are as asked. `None` where no such end is.
    pub(crate) fn with_waist(&self, drawn: &WaistSeam, asked: Redrawn) -> Option<Self> {
        let out = Vec2::new(asked.hip_out, 0.0);
        let old_hip = *self.level(LevelName::Hip)?.points.last()?;
        let hip = old_hip + out;
        let index = self.first_edge(Seam::Side)?;
        let side = &self.edges[index].curve;
        let to_hip = side.nearest(old_hip);
        let below = side.split(to_hip).1.transformed(Affine::translate(out));
        let above = to_hip + asked.longer;
        let waist = self.sewn_length(Seam::Waist) + asked.wider;
        let seam_to = |x: f64| {
            let at = |y: f64| Point::new(x, y);
            let off = |y: f64| side_to_hip(at(y), hip).length() - above;
            let end = at(root(off, hip.y - above - 1.0, hip.y - 5.0)?);
            let upper = side_to_hip(end, hip);
            let seam = WaistSeam { side: end, arrives: square_to_side(&upper), ..drawn.clone() };
            Some((seam, upper))
        };
        let off = |x: f64| seam_to(x).map_or(f64::NAN, |(seam, _)| seam.sewn() - waist);
        // Beyond the last dart's outer leg: what lies nearer would turn the waist back on itself.
        let least = drawn.darts.last().map_or(0.0, |dart| dart.at.x + dart.mouth / 2.0) + LEAST_BESIDE_DART;
        let x = root(off, least.max(drawn.side.x - SEARCHED), drawn.side.x + SEARCHED)?;
        let (seam, upper) = seam_to(x)?;
        let mut after = self.clone();
        after.edges.splice(..index, seam.edges());
        let index = after.first_edge(Seam::Side)?;
        after.edges[index].curve = upper.then(below);
        let hem = &after.edges[index + 1].curve;
        after.edges[index + 1].curve = match hem.is_line() {
            true => Curve::line(hem.start() + out, hem.end()),
            false => reshape_start(hem, out, f64::INFINITY),
        };
        let centre = after.edges.len() - 1;
        after.edges[centre].curve = after.edges[centre].curve.clone().with_end(seam.centre);
        for level in &mut after.levels {
            level.points.last_mut().into_iter().for_each(|point| *point += out);
        }
        after.darts = seam.as_darts();
        super::truing::back_off_points(&mut after);
        Some(after)
    }
}
