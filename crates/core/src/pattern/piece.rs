//! The pattern model: pieces of named edges, darts, levels and notches, all net.
//!
//! A piece's outline is travelled clockwise to the eye from the top of its centre line: neckline,
//! shoulder, armhole, side, waist, centre; of a skirt waist, side, hem, centre. A dart is two straight legs in that outline that meet at
//! its pivot, so that closing it is a turn about the pivot and nothing else.

use kurbo::{Affine, BezPath, Point, Rect};
use serde::{Deserialize, Serialize};

use super::girths::GirthsOff;
use super::hang::SideHang;
pub use super::names::{DartPlace, LevelName, PieceKind, Seam};
pub(super) use super::names::{Garment, GarmentPart, Share, WornSide};
use super::stitching::DartStitching;
use crate::geometry::{Curve, FURTHEST, SAME_POINT, closed_path, is_on_the_table};

/// One stretch of a piece's outline.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Edge {
    /// What it is sewn as.
    pub seam: Seam,
    /// The dart a leg belongs to.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub dart: Option<DartPlace>,
    /// The stitching line.
    pub curve: Curve,
    /// Whether it lies on the fold of the cloth.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub fold: bool,
}

impl Edge {
    /// Whether the next edge of the outline is a stretch of the same seam, so that both can be one edge.
    pub(crate) fn continues_in(&self, next: &Self) -> bool {
        self.seam == next.seam && self.fold == next.fold && next.dart.is_none()
    }

    /// An edge that is sewn.
    pub fn sewn(seam: Seam, curve: Curve) -> Self {
        Self { seam, dart: None, curve, fold: false }
    }

    /// An edge on the fold.
    pub fn on_fold(seam: Seam, curve: Curve) -> Self {
        Self { seam, dart: None, curve, fold: true }
    }

    /// A straight leg of a dart.
    pub fn leg(dart: DartPlace, from: Point, to: Point) -> Self {
        Self { seam: Seam::DartLeg, dart: Some(dart), curve: Curve::line(from, to), fold: false }
    }
}

/// A wedge that is sewn away: two legs that meet at the pivot.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Dart {
    /// Where its mouth is.
    pub place: DartPlace,
    /// The apex: where geometry turns.
    pub pivot: Point,
    /// Where stitching ends, backed off from the pivot.
    pub point: Point,
}

/// A waist dart with two points: it lies inside a piece that goes on below the waist.
///
/// Sewn, its upper half is a turn about `upper` and its lower half one about `lower`; at the waist the
/// cloth between `first` and `second` is taken away.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct TwoPointedDart {
    /// The upper apex: where geometry turns.
    pub upper: Point,
    /// The lower apex.
    pub lower: Point,
    /// At the waist, towards the centre.
    pub first: Point,
    /// At the waist, towards the side.
    pub second: Point,
    /// Where stitching begins, backed off from the upper apex.
    pub point: Point,
}

impl TwoPointedDart {
    /// What it takes in at the waist, in millimetres.
    pub fn intake(&self) -> f64 {
        self.first.distance(self.second)
    }
}

/// Whether a motion shifts without turning.
fn is_shift(by: Affine) -> bool {
    let [a, b, c, d, ..] = by.as_coeffs();
    [a, b, c, d] == [1.0, 0.0, 0.0, 1.0]
}

/// A level line carried with the cloth: points from the centre towards the side.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Level {
    /// Which level.
    pub name: LevelName,
    /// Centre first. The bust line of a front runs centre, bust point, side.
    pub points: Vec<Point>,
}

/// A notch on a seam, named by its distance along the sewn line so that it is walked anew.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Notch {
    /// The seam it is on.
    pub seam: Seam,
    /// Millimetres along the seam from its end at the underarm (waist: at the side).
    pub from_underarm: f64,
    /// Two cuts: the back armhole's sign.
    pub double: bool,
}

/// A dart that is folded at its seam and not sewn.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Pleat {
    /// Where the dart is.
    pub place: DartPlace,
    /// How far from the seam its folds are marked, in millimetres.
    pub marked: f64,
}

/// Fullness that is gathered or eased away between two notches of a seam.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Gather {
    /// The seam it is in.
    pub seam: Seam,
    /// The notch nearer to the underarm, millimetres along the flat seam from its underarm end.
    pub from_underarm: f64,
    /// Flat length between the notches, in millimetres.
    pub flat: f64,
    /// How much of it is drawn in, in millimetres.
    pub amount: f64,
}

/// What a neckline that was drawn to her wish was drawn off: lengths of her body are measured from the base of her neck
/// still, not from the line.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct NeckBase {
    /// The pit of her neck in front, the nape behind.
    pub top: Point,
    /// Where her neck side lies.
    pub side: Point,
    /// The neckline comes to a point at the centre, as a V does: it is not square there.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub pointed: bool,
}

/// One pattern piece, net: no seam allowance.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Piece {
    /// Which piece.
    pub kind: PieceKind,
    /// The closed outline, clockwise to the eye from the top of the centre line.
    pub edges: Vec<Edge>,
    /// Its darts.
    pub darts: Vec<Dart>,
    /// Darts inside it, with a point at both ends.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub two_pointed: Vec<TwoPointedDart>,
    /// Which of its darts are folded as pleats.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub pleats: Vec<Pleat>,
    /// Which of its darts are sewn otherwise than is usual.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub stitching: Vec<DartStitching>,
    /// Fullness eased or gathered in.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub gathers: Vec<Gather>,
    /// The base of her neck, where the neckline was drawn off it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub neckline: Option<NeckBase>,
    /// It was cut off above the hip: its lower edge is not the hip line.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub above_hip: bool,
    /// Its hem is sewn to a cuff, not turned up.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub cuffed: bool,
    /// How far up from the hem a sleeve's long seam is left open, in millimetres; none where it is sewn to the hem.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub slit: Option<f64>,
    /// Level lines, carried with the cloth.
    pub levels: Vec<Level>,
    /// Notches.
    pub notches: Vec<Notch>,
    /// Grain line, from the top down.
    pub grain: (Point, Point),
}

impl Piece {
    /// The most edges, and the most of any mark, that a piece from outside may have.
    const MOST_PARTS: usize = 200;

    /// A piece of these edges with nothing on it.
    pub(crate) fn bare(kind: PieceKind, edges: Vec<Edge>, grain: (Point, Point)) -> Self {
        Self {
            kind,
            edges,
            darts: Vec::new(),
            two_pointed: Vec::new(),
            pleats: Vec::new(),
            stitching: Vec::new(),
            gathers: Vec::new(),
            neckline: None,
            above_hip: false,
            cuffed: false,
            slit: None,
            levels: Vec::new(),
            notches: Vec::new(),
            grain,
        }
    }

    /// Whether a piece from outside can be worked on: closed, every figure finite and within its limit, and no two
    /// darts in one place.
    fn validate(&self) -> Result<(), String> {
        let parts = [
            self.edges.len(),
            self.darts.len(),
            self.two_pointed.len(),
            self.pleats.len(),
            self.stitching.len(),
            self.gathers.len(),
            self.levels.len(),
        ];
        let marks = self.levels.iter().map(|level| level.points.len()).chain([self.notches.len()]);
        if parts.into_iter().chain(marks).any(|count| count > Self::MOST_PARTS) {
            return Err(format!("there are more than {} edges or marks of a kind", Self::MOST_PARTS));
        }
        let of_dart = |dart: &Dart| [dart.pivot, dart.point];
        let of_two = |dart: &TwoPointedDart| [dart.upper, dart.lower, dart.first, dart.second, dart.point];
        let points = self.darts.iter().flat_map(of_dart).chain(self.two_pointed.iter().flat_map(of_two));
        let points = points.chain(self.neckline.iter().flat_map(|base| [base.top, base.side]));
        let lines = self.levels.iter().flat_map(|level| level.points.iter().copied());
        if !points.chain(lines).chain([self.grain.0, self.grain.1]).all(is_on_the_table) {
            return Err(format!(
                "a dart, level, neck or grain line has a point that is no number, or beyond {FURTHEST} mm"
            ));
        }
        if let Some(pleat) = self.pleats.iter().find(|pleat| self.dart(pleat.place).is_none()) {
            return Err(format!("its pleat is of a {} that it has not", pleat.place.name()));
        }
        if self.pleats.iter().any(|pleat| !(0.0..=FURTHEST).contains(&pleat.marked)) {
            return Err("the folds of a pleat are marked for a length that is none".to_owned());
        }
        if let Some(told) = self.stitching.iter().find(|told| self.dart(told.place).is_none()) {
            return Err(format!("it says how a {} is sewn that it has not", told.place.name()));
        }
        if self.stitching.iter().any(|told| !(-FURTHEST..=FURTHEST).contains(&told.bow)) {
            return Err("a dart is bowed by a length that is none".to_owned());
        }
        let along = self.notches.iter().map(|notch| notch.from_underarm);
        let gathers =
            self.gathers.iter().flat_map(|gather| [gather.from_underarm, gather.flat, gather.amount]);
        if along.chain(gathers).any(|mm| !(-FURTHEST..=FURTHEST).contains(&mm)) {
            return Err(format!(
                "a notch or gathers have a length that is no number, or beyond {FURTHEST} mm"
            ));
        }
        if self.slit.is_some_and(|mm| !(0.0..=FURTHEST).contains(&mm)) {
            return Err("its slit has a length that is none".to_owned());
        }
        if self.grain.0.distance(self.grain.1) < SAME_POINT {
            return Err("its grain line has no length".to_owned());
        }
        if !self.is_closed() {
            return Err("its outline does not close".to_owned());
        }
        for (index, dart) in self.darts.iter().enumerate() {
            if self.darts[..index].iter().any(|other| other.place == dart.place) {
                return Err(format!("it has two darts called {}: a place holds one", dart.place.name()));
            }
            let Some((first, second)) = self.mouth(dart.place) else {
                return Err(format!("its {} has no two legs in the outline", dart.place.name()));
            };
            if first.distance(dart.pivot) < SAME_POINT || second.distance(dart.pivot) < SAME_POINT {
                return Err(format!("its {} has a leg without length", dart.place.name()));
            }
        }
        Ok(())
    }

    /// Cut instruction, from whether the centre lies on the fold and whether left and right differ.
    pub fn cut_instruction(&self) -> &'static str {
        let on_fold = self.edges.iter().any(|edge| edge.fold);
        match (self.kind.side(), on_fold) {
            // A collar stand has another one inside.
            (None, true) if self.kind.part() == GarmentPart::CollarStand => "cut 2 on fold",
            (Some(_), _) if self.kind.part() == GarmentPart::CollarStand => "cut 2",
            (None, false) if self.kind.is_cut_once() => "cut 1",
            (None, true) => "cut 1 on fold",
            (None, false) => "cut a pair",
            (Some(_), true) => "cut 1, opened at the fold",
            (Some(_), false) => "cut 1",
        }
    }

    /// The edges sewn as `seam`, in the order of the outline.
    pub fn edges_of(&self, seam: Seam) -> impl Iterator<Item = &Edge> {
        self.edges.iter().filter(move |edge| edge.seam == seam)
    }

    /// Sewn length of a seam: the darts in it closed, gathers drawn in. Legs that meet lose nothing, so
    /// the sewn length is the sum of what lies between the mouths, less what is gathered.
    pub fn sewn_length(&self, seam: Seam) -> f64 {
        let drawn_in: f64 = self.gathers.iter().filter(|g| g.seam == seam).map(|g| g.amount).sum();
        self.flat_length(seam) - drawn_in
    }

    /// How much of a seam is sewn up to a place on it, told along the flat seam from its underarm end: gathers drawn in.
    pub(crate) fn sewn_before(&self, seam: Seam, flat: f64) -> f64 {
        let drawn_in =
            |gather: &Gather| gather.amount * ((flat - gather.from_underarm) / gather.flat).clamp(0.0, 1.0);
        flat - self.gathers.iter().filter(|gather| gather.seam == seam).map(drawn_in).sum::<f64>()
    }

    /// Length of a seam along its edges, gathers lying flat.
    pub fn flat_length(&self, seam: Seam) -> f64 {
        self.edges_of(seam).map(|edge| edge.curve.length()).sum()
    }

    /// The first edge of a seam, by its index.
    pub fn first_edge(&self, seam: Seam) -> Option<usize> {
        self.edges.iter().position(|edge| edge.seam == seam)
    }

    /// The last edge of a seam, by its index.
    pub fn last_edge(&self, seam: Seam) -> Option<usize> {
        self.edges.iter().rposition(|edge| edge.seam == seam)
    }

    /// The dart with its mouth at `place`.
    pub fn dart(&self, place: DartPlace) -> Option<&Dart> {
        self.darts.iter().find(|dart| dart.place == place)
    }

    /// Forgets pleats and stitching of darts that are there no more.
    pub(crate) fn forget_lost_darts(&mut self) {
        let darts = &self.darts;
        let is_left = |place| darts.iter().any(|dart| dart.place == place);
        self.pleats.retain(|pleat| is_left(pleat.place));
        self.stitching.retain(|told| is_left(told.place));
    }

    /// The pleat that a dart is folded as, where it is not sewn.
    pub fn pleat(&self, place: DartPlace) -> Option<&Pleat> {
        self.pleats.iter().find(|pleat| pleat.place == place)
    }

    /// Ends of a dart's legs on the seam, in the order of the outline.
    pub fn mouth(&self, place: DartPlace) -> Option<(Point, Point)> {
        let mut legs = self.edges.iter().filter(|edge| edge.dart == Some(place));
        let (first, second) = (legs.next()?, legs.next()?);
        Some((first.curve.start(), second.curve.end()))
    }

    /// The level line called `name`.
    pub fn level(&self, name: LevelName) -> Option<&Level> {
        self.levels.iter().find(|level| level.name == name)
    }

    /// Where her bust point is meant to lie: the pivot of the darts that shape the front.
    pub fn bust_pivot(&self) -> Option<Point> {
        let of = |place| self.dart(place).map(|dart| dart.pivot);
        // The girth line's own mark comes last: where no dart is left, it still says where she is.
        let marked =
            || self.level(LevelName::Bust).filter(|level| level.points.len() > 2).map(|l| l.points[1]);
        of(DartPlace::Side)
            .or_else(|| of(DartPlace::Armhole))
            .or_else(|| of(DartPlace::Waist))
            .or_else(|| of(DartPlace::UnderBust))
            .or_else(|| self.two_pointed.first().map(|dart| dart.upper))
            .or_else(marked)
    }

    /// The pit of her neck or her nape, also where the neckline was drawn off it.
    pub fn neck_base_top(&self) -> Point {
        self.neckline.map_or_else(|| self.centre_top(), |base| base.top)
    }

    /// Her neck side, also where the neckline was drawn off it.
    pub fn neck_base_side(&self) -> Point {
        self.neckline.map_or_else(|| self.neck_side(), |base| base.side)
    }

    /// Neck-side point: where the neckline ends.
    pub fn neck_side(&self) -> Point {
        self.end_of(Seam::Neckline)
    }

    /// Shoulder tip: where the shoulder ends.
    pub fn tip(&self) -> Point {
        self.end_of(Seam::Shoulder)
    }

    /// Underarm point: where the armhole ends; the top of the side seam on a piece without one.
    pub fn underarm(&self) -> Point {
        let side = || self.edges_of(Seam::Side).next().map_or(Point::ZERO, |edge| edge.curve.start());
        self.edges_of(Seam::Armhole).last().map_or_else(side, |edge| edge.curve.end())
    }

    /// Front neck pit or nape: where the outline starts.
    pub fn centre_top(&self) -> Point {
        self.edges.first().map_or(Point::ZERO, |edge| edge.curve.start())
    }

    /// Whether the waist lies on it, as an edge or as a line across it.
    pub(super) fn has_waist(&self) -> bool {
        self.first_edge(Seam::Waist).is_some() || self.level(LevelName::Waist).is_some()
    }

    /// Where the waist meets the centre line.
    pub fn centre_waist(&self) -> Point {
        if self.kind.is_skirt() {
            return self.centre_top();
        }
        let level = self.level(LevelName::Waist).and_then(|level| level.points.first());
        level.copied().unwrap_or_else(|| self.end_of(Seam::Waist))
    }

    /// Where the waist meets the side, on a piece that goes on below it.
    pub fn waist_at_side(&self) -> Option<Point> {
        self.level(LevelName::Waist).and_then(|level| level.points.last().copied())
    }

    /// The first leg of a dart, by its index; the second follows it.
    pub(crate) fn first_leg(&self, place: DartPlace) -> Option<usize> {
        self.edges.iter().position(|edge| edge.dart == Some(place))
    }

    /// How much of a seam lies before an edge, in the order of the outline, in millimetres.
    pub(crate) fn length_before(&self, edge: usize, seam: Seam) -> f64 {
        self.edges[..edge].iter().filter(|edge| edge.seam == seam).map(|edge| edge.curve.length()).sum()
    }

    /// Draws a dart's legs to another pivot, its mouth staying as it is.
    pub(crate) fn draw_legs_to(&mut self, place: DartPlace, pivot: Point) {
        let (Some(leg), Some((first, second))) = (self.first_leg(place), self.mouth(place)) else { return };
        self.edges[leg] = Edge::leg(place, first, pivot);
        self.edges[leg + 1] = Edge::leg(place, pivot, second);
        if let Some(dart) = self.darts.iter_mut().find(|dart| dart.place == place) {
            dart.pivot = pivot;
        }
    }

    /// The waist as it is sewn: its edges, or its level line less the darts in it.
    pub fn sewn_waist(&self) -> f64 {
        match self.level(LevelName::Waist) {
            Some(level) => {
                let whole: f64 = level.points.windows(2).map(|pair| pair[0].distance(pair[1])).sum();
                whole - self.two_pointed.iter().map(TwoPointedDart::intake).sum::<f64>()
            }
            None => self.sewn_length(Seam::Waist),
        }
    }

    /// The same piece under another name.
    pub(crate) fn named(mut self, kind: PieceKind) -> Self {
        self.kind = kind;
        self
    }

    /// The same piece with one of its seams under another name, with all that is marked on it.
    pub(crate) fn with_seam_as(mut self, seam: Seam, other: Seam) -> Self {
        let rename = |named: &mut Seam| {
            if *named == seam {
                *named = other;
            }
        };
        self.edges.iter_mut().for_each(|edge| rename(&mut edge.seam));
        self.notches.iter_mut().for_each(|notch| rename(&mut notch.seam));
        self.gathers.iter_mut().for_each(|gather| rename(&mut gather.seam));
        self
    }

    /// The same piece with one of its darts under another name.
    pub(crate) fn with_dart_as(mut self, place: DartPlace, other: DartPlace) -> Self {
        self.edges
            .iter_mut()
            .filter(|edge| edge.dart == Some(place))
            .for_each(|edge| edge.dart = Some(other));
        self.darts.iter_mut().filter(|dart| dart.place == place).for_each(|dart| dart.place = other);
        self.pleats.iter_mut().filter(|pleat| pleat.place == place).for_each(|pleat| pleat.place = other);
        self.stitching.iter_mut().filter(|told| told.place == place).for_each(|told| told.place = other);
        self
    }

    /// The same piece moved.
    pub(crate) fn moved(mut self, by: Affine) -> Self {
        self.edges.iter_mut().for_each(|edge| edge.curve = edge.curve.transformed(by));
        self.carry(|_| by);
        self
    }

    /// Moves what lies on the cloth with it, each point as the cloth there moves: darts with their pivot, darts with two
    /// points, level lines and grain. The outline, and notches, which are named by their place on it, are the caller's.
    pub(crate) fn carry(&mut self, by: impl Fn(Point) -> Affine) {
        for dart in &mut self.darts {
            let by = by(dart.pivot);
            (dart.pivot, dart.point) = (by * dart.pivot, by * dart.point);
        }
        for dart in &mut self.two_pointed {
            let whole = by(dart.first.midpoint(dart.second));
            let points =
                [&mut dart.upper, &mut dart.lower, &mut dart.first, &mut dart.second, &mut dart.point];
            let only_shifts = points.iter().all(|point| is_shift(by(**point)));
            for point in points {
                let by = if only_shifts { by(*point) } else { whole };
                *point = by * *point;
            }
        }
        self.levels
            .iter_mut()
            .flat_map(|level| &mut level.points)
            .for_each(|point| *point = by(*point) * *point);
        if let Some(base) = &mut self.neckline {
            (base.top, base.side) = (by(base.top) * base.top, by(base.side) * base.side);
        }
        let (start, end) = self.grain;
        let (whole, own) = (by(start), by(end));
        // The grain stays as it runs: its end goes with the cloth there only where that shifts along it.
        let along = is_shift(whole) && is_shift(own) && {
            let apart = own.translation() - whole.translation();
            apart.cross(end - start).abs() < SAME_POINT * (end - start).hypot()
        };
        self.grain = (whole * start, if along { own } else { whole } * end);
    }

    fn end_of(&self, seam: Seam) -> Point {
        self.edges_of(seam).last().map_or(Point::ZERO, |edge| edge.curve.end())
    }

    /// The net outline as one closed path.
    pub fn outline(&self) -> BezPath {
        closed_path(self.edges.iter().map(|edge| &edge.curve))
    }

    /// The smallest upright rectangle round the outline.
    pub fn bounds(&self) -> Rect {
        use kurbo::Shape;
        self.outline().bounding_box()
    }

    /// Whether every edge begins where the one before ends.
    pub fn is_closed(&self) -> bool {
        let follows = |(a, b): (&Edge, &Edge)| a.curve.end().distance(b.curve.start()) < SAME_POINT * 1e3;
        !self.edges.is_empty() && self.edges.iter().zip(self.edges.iter().cycle().skip(1)).all(follows)
    }

    /// Joins edges of one seam into one edge where they begin at these places: what lay between them was taken out.
    pub(crate) fn merged_at(mut self, starts: &[usize]) -> Self {
        let mut edges: Vec<Edge> = Vec::with_capacity(self.edges.len());
        for (index, edge) in self.edges.into_iter().enumerate() {
            match edges.last_mut() {
                Some(last) if starts.contains(&index) && last.continues_in(&edge) => {
                    last.curve = last.curve.clone().then(edge.curve);
                }
                _ => edges.push(edge),
            }
        }
        self.edges = edges;
        self
    }

    /// Whether the outline comes last to the end of a seam between two parts of one half from which the seam is told: the
    /// armhole's of a princess seam on the side panel, the side's of a seam under the bust on the band.
    pub(crate) fn comes_to_last(&self, seam: Seam) -> bool {
        match seam {
            Seam::Princess => self.kind.share() == Share::SidePanel,
            Seam::UnderBust => self.kind.share() == Share::Band,
            _ => false,
        }
    }

    /// Notches where a slit ends: one on either side of the seam that it is left open in.
    pub fn slit_notches(&self) -> Vec<Notch> {
        let (Some(slit), Some(front)) = (self.slit, self.edges_of(Seam::UnderSleeve).next()) else {
            return Vec::new();
        };
        // The front seam comes first, down to the hem, and the back seam goes up from there.
        let at_hem = front.curve.length();
        [at_hem - slit, at_hem + slit]
            .map(|from_underarm| Notch { seam: Seam::UnderSleeve, from_underarm, double: false })
            .to_vec()
    }

    /// Where a notch lies, and the direction into the piece.
    pub fn notch_place(&self, notch: &Notch) -> Option<(Point, kurbo::Vec2)> {
        let mut left = match notch.seam {
            // The armhole is travelled towards the side seam, the waist away from it, but for a skirt's.
            Seam::Neckline | Seam::Shoulder | Seam::Armhole | Seam::Hem => {
                self.flat_length(notch.seam) - notch.from_underarm
            }
            Seam::Waist if self.kind.is_skirt() || self.kind.is_sewn_on() => {
                self.flat_length(notch.seam) - notch.from_underarm
            }
            seam if self.comes_to_last(seam) => self.flat_length(seam) - notch.from_underarm,
            _ => notch.from_underarm,
        };
        for edge in self.edges_of(notch.seam) {
            let length = edge.curve.length();
            if (0.0..=length).contains(&left) {
                let inward = crate::geometry::quarter_turn(edge.curve.direction_at(left));
                return Some((edge.curve.point_at(left), inward));
            }
            left -= length;
        }
        None
    }
}

/// What a sleeve may be longer than what it is sewn to, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct SleeveRule {
    /// Least ease of the whole cap.
    pub least: f64,
    /// Most ease of the whole cap.
    pub most: f64,
    /// The back's share of it.
    pub back_share: f64,
    /// Most ease over the elbow.
    pub elbow: f64,
}

/// The pieces of one garment, as versioned JSON.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct Pattern {
    /// Version of this document's form.
    #[serde(default = "Pattern::form")]
    pub form: u32,
    /// The pieces.
    pub pieces: Vec<Piece>,
    /// How the sleeve is eased in, where there is one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub sleeve_rule: Option<SleeveRule>,
    /// Codes of the readings that were estimated for the draft: to look at, not to cut by.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub estimated: Vec<String>,
    /// The ease at the bust as the block was drafted, all round, in millimetres; not known of a pattern that says nothing of it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub bust_ease: Option<f64>,
    /// How the side seams hang as they were drafted; not known of a pattern that says nothing of its draft.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side_hang: Option<SideHang>,
    /// What the sewn girths are off from what block and recipe ask; not known of a pattern that says nothing of its draft.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub girths_off: Option<GirthsOff>,
}

impl Pattern {
    /// The form of the document that this program writes.
    pub const FORM: u32 = 1;

    fn form() -> u32 {
        Self::FORM
    }

    /// The same, as it was drafted: how its side seams hang is its own reason from here on.
    pub fn as_drafted(self) -> Self {
        Self { side_hang: SideHang::of(&self), ..self }
    }

    /// A pattern of these pieces.
    pub fn new(pieces: Vec<Piece>) -> Self {
        Self {
            form: Self::FORM,
            pieces,
            sleeve_rule: None,
            estimated: Vec::new(),
            bust_ease: None,
            side_hang: None,
            girths_off: None,
        }
    }

    /// The piece of that kind.
    pub fn piece(&self, kind: PieceKind) -> Option<&Piece> {
        self.pieces.iter().find(|piece| piece.kind == kind)
    }

    /// What it is of.
    pub fn garment(&self) -> Garment {
        let is_skirt = |piece: &Piece| piece.kind.is_skirt() && !piece.kind.is_joined_skirt();
        if self.pieces.iter().any(is_skirt) { Garment::Skirt } else { Garment::Bodice }
    }

    /// The front, of a bodice or a dress.
    pub fn front(&self) -> Option<&Piece> {
        self.pieces.iter().find(|piece| piece.kind.is_front())
    }

    /// The back, of a bodice or a dress.
    pub fn back(&self) -> Option<&Piece> {
        self.pieces.iter().find(|piece| piece.kind.is_back())
    }

    /// The same pattern with one piece exchanged for a new state of it.
    pub fn with(mut self, piece: Piece) -> Self {
        if let Some(old) = self.pieces.iter_mut().find(|old| old.kind == piece.kind) {
            *old = piece;
        }
        self
    }

    /// The same pattern with its parts in the place of one piece.
    #[must_use]
    pub(crate) fn parted(&self, kind: PieceKind, parts: impl Into<Vec<Piece>>) -> Self {
        let mut pieces = Vec::with_capacity(self.pieces.len() + 1);
        let mut parts = Some(parts.into());
        for piece in &self.pieces {
            match parts.take_if(|_| piece.kind == kind) {
                Some(parts) => pieces.extend(parts),
                None => pieces.push(piece.clone()),
            }
        }
        Self { pieces, ..self.clone() }
    }

    /// The sleeve.
    pub fn sleeve(&self) -> Option<&Piece> {
        self.pieces.iter().find(|piece| piece.kind.is_sleeve())
    }

    /// The same without a sleeve, and its cuff, that no armhole is left for: what is done to it on the way has its piece still.
    #[must_use]
    pub(crate) fn without_loose_sleeve(mut self) -> Self {
        let halves = self.front_half().zip(self.back_half());
        let is_loose = halves.is_some_and(|(front, back)| {
            front.begins(Seam::Armhole).is_none() && back.begins(Seam::Armhole).is_none()
        });
        if is_loose {
            self.pieces.retain(|piece| !piece.kind.is_sleeve() && piece.kind.part() != GarmentPart::Cuff);
            self.sleeve_rule = None;
        }
        self
    }

    /// Whether a facing lies against that edge.
    pub fn is_faced(&self, edge: Seam) -> bool {
        self.follows(edge).any(|piece| piece.kind.is_facing())
    }

    /// The pieces that follow an edge: facings of it, and what is sewn to it from outside.
    pub fn follows(&self, edge: Seam) -> impl Iterator<Item = &Piece> {
        self.pieces.iter().filter(move |piece| piece.kind.share().follows().contains(&edge))
    }

    /// Whether left and right differ somewhere: it holds pieces of both. What is worn on one side does not.
    pub fn is_sided(&self) -> bool {
        let has = |side| self.pieces.iter().any(|piece| piece.kind.side() == Some(side));
        WornSide::BOTH.into_iter().all(has)
    }

    /// What is worn on one side: its own pieces, and those that serve both.
    #[must_use]
    pub fn worn_on(&self, side: WornSide) -> Self {
        let is_worn = |piece: &&Piece| piece.kind.side().is_none_or(|of| of == side);
        Self { pieces: self.pieces.iter().filter(is_worn).cloned().collect(), ..self.clone() }
    }

    /// The most pieces a pattern from outside may have.
    pub const MOST_PIECES: usize = 40;

    /// Whether a document read from outside can be worked on: known form, closed pieces.
    ///
    /// # Errors
    ///
    /// A sentence that names what is wrong.
    pub fn validate(&self) -> Result<(), String> {
        if self.form != Self::FORM {
            return Err(format!(
                "the pattern is written in form {}, this program reads form {}",
                self.form,
                Self::FORM
            ));
        }
        if self.pieces.is_empty() {
            return Err("the pattern has no pieces".to_owned());
        }
        if self.pieces.len() > Self::MOST_PIECES {
            return Err(format!("a pattern has at most {} pieces", Self::MOST_PIECES));
        }
        for (index, piece) in self.pieces.iter().enumerate() {
            piece.validate().map_err(|says| format!("{}: {says}", piece.kind.name()))?;
            if self.pieces[..index].iter().any(|other| other.kind == piece.kind) {
                return Err(format!("{} is there twice", piece.kind.name()));
            }
        }
        Ok(())
    }
}
