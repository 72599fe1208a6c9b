//! The slash algebra: cut the outline into runs, move each run rigidly, join neighbours again.
//!
//! Everything done with scissors and tape is a [`Slash`] or a reshape. Runs are moved, never
//! redrawn, so a length that must stay stays exactly (handbook: `alterations.md`, section 1).
//! Where nothing is cut but a run is traced and laid down elsewhere, the runs are the same and the cloth stays ([`Slash::trace`]).
//! Level lines and darts inside a region travel with it. The region with the grain does not turn.

use kurbo::{Affine, BezPath, Line, ParamCurveNearest, Point, Shape, Vec2};

use super::piece::{Dart, DartPlace, Edge, Piece, Seam};
use super::shoulder::redraw_shoulder;
use crate::geometry::{Curve, SAME_POINT, closed_path, reshape_start};

/// A place on the outline: an edge by its index, and the arc length from its start.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Place {
    /// Index into [`Piece::edges`].
    pub edge: usize,
    /// Millimetres from the edge's start.
    pub along: f64,
}

impl Place {
    /// Where an edge begins.
    pub(crate) fn start_of(edge: usize) -> Self {
        Self { edge, along: 0.0 }
    }

    /// Where an edge ends.
    pub(crate) fn end_of(piece: &Piece, edge: usize) -> Self {
        Self { edge, along: piece.edges[edge].curve.length() }
    }
}

/// What happens to a region: a rigid motion.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Motion {
    /// Stays where it is.
    Still,
    /// Moves without turning.
    Shift(Vec2),
    /// Turns about a hinge; radians, clockwise to the eye positive.
    Turn {
        /// The hinge.
        about: Point,
        /// Radians.
        by: f64,
    },
    /// Turns and shifts: what is traced on and laid down elsewhere.
    Laid {
        /// The point it is held by.
        from: Point,
        /// Where that point comes to lie.
        to: Point,
        /// Radians, about that point.
        by: f64,
    },
}

impl Motion {
    /// As a transformation.
    pub fn affine(self) -> Affine {
        match self {
            Self::Still => Affine::IDENTITY,
            Self::Shift(by) => Affine::translate(by),
            Self::Turn { about, by } => Affine::rotate_about(by, about),
            Self::Laid { from, to, by } => {
                Affine::translate(to.to_vec2()) * Affine::rotate(by) * Affine::translate(-from.to_vec2())
            }
        }
    }

    /// Whether a line turns with it.
    fn turns(self) -> bool {
        matches!(self, Self::Turn { .. } | Self::Laid { .. })
    }
}

/// One region: a run of the outline, closed through the piece along the slash lines.
#[derive(Clone, Debug, PartialEq)]
pub struct Part {
    /// Where its run begins.
    pub from: Place,
    /// Where its run ends; travelled in the outline's own direction.
    pub to: Place,
    /// The slash lines from the run's end back to its beginning.
    pub inner: Vec<Point>,
    /// What happens to it.
    pub motion: Motion,
}

impl Part {
    /// A run that is traced and laid down elsewhere: nothing is cut, so no region is closed.
    pub(crate) fn traced(from: Place, to: Place, motion: Motion) -> Self {
        Self { from, to, inner: Vec::new(), motion }
    }
}

/// How the end of one run is joined to the beginning of the next.
#[derive(Clone, Copy, Debug, PartialEq)]
pub enum Join {
    /// The ends still coincide: a hinge on the seam line.
    Meet,
    /// A straight connecting edge in the seam it lies in: the spread filled with paper.
    Gap(Seam),
    /// Two legs to a pivot: the spread stays open as a dart.
    Dart(DartPlace, Point),
    /// Two legs to the pivot of a dart that is there already and was carried: a cut through the dart, which is
    /// drawn to its point again.
    Legs(DartPlace),
    /// The ends overlap along the seam: the end is cut back to the next beginning.
    Lap,
    /// The seam was cut across and goes on. A straight one is ruled straight again; into a curved one a straight piece is let
    /// in where the cut opened, and where it laps half the fold is lost from either side.
    Across,
    /// The end that moved is brought to the one that stayed, its seam re-fitted over this length: a tuck
    /// that does not cross the seam squarely leaves the ends a little apart.
    Bring(f64),
    /// The end that moved stays, and the seam that did not is bent to it over this length.
    Follow(f64),
    /// The shoulder is ruled to this point, its dart folded, and the armhole goes on from there, straight to where its run
    /// begins: a wedge cut off the shoulder, or taped to it.
    ShoulderTo(Point),
}

/// Regions in the order of the outline, each with the join that follows it.
#[derive(Clone, Debug, PartialEq)]
pub struct Slash {
    /// Together the parts cover the outline, save legs of darts that are joined anew.
    pub parts: Vec<(Part, Join)>,
}

/// A region as it is drawn: cut out, in place and moved.
#[derive(Clone, Debug, PartialEq)]
pub struct Region {
    /// Before it moved.
    pub before: BezPath,
    /// After it moved.
    pub after: BezPath,
    /// Whether it moves at all.
    pub moves: bool,
}

/// Why a slash cannot be made.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum SlashError {
    /// Two ends that should meet lie apart.
    #[error("the cut edges lie {apart:.2} mm apart where they should meet on the {seam}", seam = .seam.name())]
    Apart {
        /// How far.
        apart: f64,
        /// On which seam.
        seam: Seam,
    },
    /// The region with the grain line would turn.
    #[error("the region that holds the grain line must not turn")]
    GrainTurned,
    /// A slash line runs through a dart, whose legs it would part.
    #[error("the cut would run through the {dart}: choose another place", dart = .0.name())]
    ThroughDart(DartPlace),
    /// A slash line ends where the piece has no such edge.
    #[error("this piece has no {seam} to cut through", seam = .0.name())]
    NoSeam(Seam),
    /// An overlap longer than the edge it would be cut from.
    #[error("the overlap is longer than the {seam} it is cut from", seam = .0.name())]
    LapTooLong(Seam),
}

impl Slash {
    /// Cuts, moves and joins. The outline starts at the neckline again afterwards.
    ///
    /// # Errors
    ///
    /// [`SlashError`] where the parts do not fit the piece; nothing is changed then.
    pub fn apply(&self, piece: &Piece) -> Result<Piece, SlashError> {
        let regions = self.regions(piece);
        // A point in no region lies in the mouth of a dart: it stays.
        self.apply_where(piece, |point| {
            holder_of(&regions, point).map_or(Motion::Still, |index| self.parts[index].0.motion)
        })
    }

    /// The same, where the caller says how a point of the plane moves: what lies in the mouth of a dart as well.
    ///
    /// # Errors
    ///
    /// As [`Self::apply`].
    pub(crate) fn apply_where(
        &self,
        piece: &Piece,
        motion_at: impl Fn(Point) -> Motion,
    ) -> Result<Piece, SlashError> {
        if motion_at(piece.grain.0).turns() {
            return Err(SlashError::GrainTurned);
        }
        if let Some(dart) = self.parted_dart(piece) {
            return Err(SlashError::ThroughDart(dart));
        }
        let mut carried = Piece { darts: self.kept_darts(piece), ..piece.clone() };
        carried.carry(|point| motion_at(point).affine());
        self.joined(piece, carried)
    }

    /// Traces the runs and lays them down where they move to, where nothing is cut: the cloth stays as it lies, and a dart
    /// goes with the run that holds its legs.
    ///
    /// # Errors
    ///
    /// [`SlashError`] where the runs cannot be joined; nothing is changed then.
    pub(crate) fn trace(&self, piece: &Piece) -> Result<Piece, SlashError> {
        let mut traced = Piece { darts: self.kept_darts(piece), ..piece.clone() };
        for dart in &mut traced.darts {
            let holds = |part: &Part| still_run(piece, part).iter().any(|edge| edge.dart == Some(dart.place));
            if let Some((part, _)) = self.parts.iter().find(|(part, _)| holds(part)) {
                let by = part.motion.affine();
                (dart.pivot, dart.point) = (by * dart.pivot, by * dart.point);
            }
        }
        self.joined(piece, traced)
    }

    /// The runs moved and joined to an outline again, round what was carried already.
    fn joined(&self, piece: &Piece, mut carried: Piece) -> Result<Piece, SlashError> {
        let mut runs: Vec<Vec<Edge>> = self.parts.iter().map(|(part, _)| run(piece, part)).collect();
        self.bring_ends(&mut runs);
        self.go_across(&mut runs);
        let mut edges: Vec<Edge> = Vec::new();
        // Where edges of one seam become one: beside a join.
        let mut joined = Vec::new();
        for (index, (_, join)) in self.parts.iter().enumerate() {
            edges.extend(runs[index].iter().cloned());
            joined.push(edges.len());
            let following = runs.iter().cycle().skip(index + 1).take(runs.len());
            let Some(next) = following.flatten().next().map(|edge| edge.curve.start()) else { continue };
            match *join {
                Join::Dart(place, pivot) => {
                    draw_legs(&mut edges, place, pivot, next);
                    carried.darts.push(Dart { place, pivot, point: pivot });
                }
                Join::Legs(place) => {
                    if let Some(pivot) = carried.dart(place).map(|dart| dart.pivot) {
                        draw_legs(&mut edges, place, pivot, next);
                    }
                }
                Join::ShoulderTo(tip) => {
                    if tip.distance(next) > SAME_POINT {
                        edges.push(Edge::sewn(Seam::Armhole, Curve::line(tip, next)));
                    }
                }
                _ => join_to(&mut edges, *join, next)?,
            }
            joined.push(edges.len());
        }
        // A dart that was closed has no legs any more.
        carried.darts.retain(|dart| edges.iter().any(|edge| edge.dart == Some(dart.place)));
        let begins = self.first_edge(piece, &edges);
        let mut taped = Piece { edges: merged_from(begins, edges, &joined), ..carried };
        for (_, join) in &self.parts {
            if let Join::ShoulderTo(tip) = *join {
                redraw_shoulder(&mut taped, tip);
            }
        }
        Ok(taped)
    }

    /// The edge the outline begins with: the neckline, or where a piece without one began before.
    fn first_edge(&self, piece: &Piece, edges: &[Edge]) -> usize {
        let before = |index: usize| &edges[(index + edges.len() - 1) % edges.len()];
        let neckline = (0..edges.len())
            .find(|&index| edges[index].seam == Seam::Neckline && before(index).seam != Seam::Neckline);
        let began = piece.edges.first().map(|edge| edge.curve.start()).unwrap_or_default();
        let places = || self.parts.iter().map(|(part, _)| part.motion.affine() * began);
        let is_there = |edge: &Edge| places().any(|place| place.distance(edge.curve.start()) < SAME_POINT);
        neckline.or_else(|| edges.iter().position(is_there)).unwrap_or(0)
    }

    /// Seams that go on across a cut, each as one edge again.
    fn go_across(&self, runs: &mut [Vec<Edge>]) {
        for (index, (_, join)) in self.parts.iter().enumerate() {
            if *join != Join::Across {
                continue;
            }
            let following = (index + 1) % runs.len();
            let Some(second) = runs[following].first().map(|edge| edge.curve.clone()) else { continue };
            if let Some(first) = runs[index].last_mut() {
                first.curve = across(&first.curve, &second);
                runs[following].remove(0);
            }
        }
    }

    fn bring_ends(&self, runs: &mut [Vec<Edge>]) {
        for (index, (part, join)) in self.parts.iter().enumerate() {
            let (reach, follows) = match *join {
                Join::Bring(reach) => (reach, part.motion == Motion::Still),
                Join::Follow(reach) => (reach, part.motion != Motion::Still),
                _ => continue,
            };
            let following = (index + 1) % runs.len();
            let end = runs[index].last().map(|edge| edge.curve.end());
            let start = runs[following].first().map(|edge| edge.curve.start());
            let (Some(end), Some(start)) = (end, start) else { continue };
            if follows {
                if let Some(edge) = runs[following].first_mut() {
                    edge.curve = reshape_start(&edge.curve, end - start, reach);
                }
            } else if let Some(edge) = runs[index].last_mut() {
                edge.curve = reshape_start(&edge.curve.reversed(), start - end, reach).reversed();
            }
        }
    }

    /// The regions, for drawing and for telling what is carried by which.
    pub fn regions(&self, piece: &Piece) -> Vec<Region> {
        self.parts
            .iter()
            .map(|(part, _)| {
                let edges = still_run(piece, part);
                let mut before = closed_path(edges.iter().map(|edge| &edge.curve));
                before.pop();
                part.inner.iter().for_each(|point| before.line_to(*point));
                before.close_path();
                let after = part.motion.affine() * before.clone();
                Region { before, after, moves: part.motion != Motion::Still }
            })
            .collect()
    }

    /// The slash lines as they are ruled on the piece.
    pub fn lines(&self, piece: &Piece) -> Vec<Vec<Point>> {
        self.parts
            .iter()
            .map(|(part, _)| {
                let edges = still_run(piece, part);
                let end = edges.last().map(|edge| edge.curve.end());
                end.into_iter().chain(part.inner.iter().copied()).collect()
            })
            .collect()
    }

    /// Points that regions turn about.
    pub fn hinges(&self) -> Vec<Point> {
        let mut hinges: Vec<Point> = Vec::new();
        for (part, _) in &self.parts {
            if let Motion::Turn { about, .. } = part.motion
                && !hinges.contains(&about)
            {
                hinges.push(about);
            }
        }
        hinges
    }

    fn reopens(&self, place: DartPlace) -> bool {
        self.parts.iter().any(|(_, join)| matches!(join, Join::Dart(at, _) if *at == place))
    }

    /// Whether a dart's legs are drawn anew, so that a cut may run through it.
    fn draws_legs(&self, place: DartPlace) -> bool {
        self.reopens(place) || self.parts.iter().any(|(_, join)| *join == Join::Legs(place))
    }

    /// A dart that stays and that a slash line crosses.
    fn parted_dart(&self, piece: &Piece) -> Option<DartPlace> {
        let lines = self.closed_lines(piece);
        lines.iter().find_map(|line| dart_across(piece, *line, |place| !self.draws_legs(place)))
    }

    /// The slash lines, each from the outline to the outline again.
    fn closed_lines(&self, piece: &Piece) -> Vec<Line> {
        let of = |part: &Part| -> Vec<Line> {
            let edges = still_run(piece, part);
            let ends =
                edges.last().map(|edge| edge.curve.end()).zip(edges.first().map(|edge| edge.curve.start()));
            let Some((end, start)) = ends else { return Vec::new() };
            let points: Vec<Point> = std::iter::once(end)
                .chain(part.inner.iter().copied())
                .chain(std::iter::once(start))
                .collect();
            points.windows(2).map(|pair| Line::new(pair[0], pair[1])).collect()
        };
        self.parts.iter().flat_map(|(part, _)| of(part)).collect()
    }

    /// Darts whose legs are still in a run.
    fn kept_darts(&self, piece: &Piece) -> Vec<Dart> {
        piece.darts.iter().filter(|dart| !self.reopens(dart.place)).cloned().collect()
    }
}

/// The edges of a part's run, unmoved.
fn still_run(piece: &Piece, part: &Part) -> Vec<Edge> {
    let count = piece.edges.len();
    let (first, last) = (part.from.edge, part.to.edge);
    if first == last && part.from.along < part.to.along {
        return vec![piece_of(&piece.edges[first], part.from.along, part.to.along)];
    }
    let mut edges = Vec::new();
    let mut index = first;
    loop {
        let edge = &piece.edges[index];
        let length = edge.curve.length();
        let begin = if index == first && edges.is_empty() { part.from.along } else { 0.0 };
        let is_last = index == last && (first != last || !edges.is_empty());
        let end = if is_last { part.to.along } else { length };
        if end - begin > SAME_POINT {
            edges.push(piece_of(edge, begin, end));
        }
        if is_last {
            return edges;
        }
        index = (index + 1) % count;
        if edges.len() > count {
            return edges;
        }
    }
}

fn piece_of(edge: &Edge, from: f64, to: f64) -> Edge {
    let whole = from <= SAME_POINT && to >= edge.curve.length() - SAME_POINT;
    let curve = if whole { edge.curve.clone() } else { edge.curve.between(from, to) };
    Edge { curve, ..edge.clone() }
}

fn run(piece: &Piece, part: &Part) -> Vec<Edge> {
    let by = part.motion.affine();
    let mut edges = still_run(piece, part);
    if part.motion != Motion::Still {
        edges.iter_mut().for_each(|edge| edge.curve = edge.curve.transformed(by));
    }
    edges
}

fn join_to(edges: &mut Vec<Edge>, join: Join, next: Point) -> Result<(), SlashError> {
    let Some(last) = edges.last_mut() else { return Ok(()) };
    let end = last.curve.end();
    match join {
        Join::Meet | Join::Bring(_) | Join::Follow(_) => {
            let apart = end.distance(next);
            if apart > SAME_POINT * 100.0 {
                return Err(SlashError::Apart { apart, seam: last.seam });
            }
            last.curve = last.curve.clone().with_end(next);
        }
        Join::Gap(seam) => {
            if end.distance(next) > SAME_POINT {
                let fold = last.fold && last.seam == seam;
                let filled = Edge { seam, dart: None, curve: Curve::line(end, next), fold };
                edges.push(filled);
            }
        }
        // Drawn already, as one edge; legs and the shoulder are drawn by the caller.
        Join::Across | Join::Dart(..) | Join::Legs(_) | Join::ShoulderTo(_) => {}
        Join::Lap => {
            let kept = last.curve.length() - end.distance(next);
            if kept <= SAME_POINT {
                return Err(SlashError::LapTooLong(last.seam));
            }
            let curve = last.curve.between(0.0, kept);
            let apart = curve.end().distance(next);
            if apart > SAME_POINT * 100.0 {
                return Err(SlashError::Apart { apart, seam: last.seam });
            }
            last.curve = curve.with_end(next);
        }
    }
    Ok(())
}

/// Two legs from where the edges end, over the pivot, to where they go on.
fn draw_legs(edges: &mut Vec<Edge>, place: DartPlace, pivot: Point, next: Point) {
    let Some(end) = edges.last().map(|edge| edge.curve.end()) else { return };
    edges.push(Edge::leg(place, end, pivot));
    edges.push(Edge::leg(place, pivot, next));
}

/// A seam that was cut between its two halves and goes on from one to the other.
fn across(first: &Curve, second: &Curve) -> Curve {
    if first.is_straight() && second.is_straight() {
        let mut corners = first.flattened(1.0);
        corners.pop();
        corners.extend(second.flattened(1.0).into_iter().skip(1));
        return Curve::polyline(&corners).unwrap_or_else(|| first.clone());
    }
    let apart = second.start() - first.end();
    if apart.dot(first.end_direction()) >= 0.0 {
        return first.clone().then(Curve::line(first.end(), second.start())).then(second.clone());
    }
    // Folded: half of it is lost from either side, and the ends brought together.
    let half = apart.hypot() / 2.0;
    let (kept, _) = first.split((first.length() - half).max(1.0));
    let (_, rest) = second.split(half.min(second.length() - 1.0));
    let between = Curve::line(kept.end(), rest.start());
    kept.then(between).then(rest)
}

/// A dart, of those that count, whose legs a line runs through.
pub(crate) fn dart_across(
    piece: &Piece,
    line: Line,
    counts: impl Fn(DartPlace) -> bool,
) -> Option<DartPlace> {
    piece.edges.iter().find_map(|edge| {
        let place = edge.dart.filter(|place| counts(*place))?;
        let leg = Line::new(edge.curve.start(), edge.curve.end());
        crosses_inside(&leg, &line).then_some(place)
    })
}

/// Whether two lines cross well inside both: meeting at an end is no crossing.
fn crosses_inside(one: &Line, other: &Line) -> bool {
    const INSIDE: f64 = 1.0;
    let Some(at) = one.crossing_point(*other) else { return false };
    let inside = |line: &Line| {
        let length = line.p0.distance(line.p1);
        let along = (at - line.p0).dot(line.p1 - line.p0) / length;
        along > INSIDE && along < length - INSIDE
    };
    inside(one) && inside(other)
}

/// The outline begun with another edge; at the places given, edges of one seam become one.
fn merged_from(begins: usize, edges: Vec<Edge>, joined: &[usize]) -> Vec<Edge> {
    let count = edges.len();
    let mut merged: Vec<Edge> = Vec::with_capacity(count);
    for step in 0..count {
        let index = (begins + step) % count;
        let edge = edges[index].clone();
        let is_joined = joined.iter().any(|place| place % count == index);
        match merged.last_mut() {
            Some(last) if is_joined && last.continues_in(&edge) => {
                last.curve = ruled_on(&last.curve, edge.curve);
            }
            _ => merged.push(edge),
        }
    }
    merged
}

/// One line after another; a straight one that goes on in its own direction is ruled as one.
fn ruled_on(first: &Curve, second: Curve) -> Curve {
    let is_one = first.is_line() && second.is_line() && {
        let (along, whole) = (first.end() - first.start(), second.end() - first.start());
        along.dot(second.end() - second.start()) > 0.0
            && along.cross(whole).abs() < SAME_POINT * whole.hypot().max(SAME_POINT)
    };
    if is_one { Curve::line(first.start(), second.end()) } else { first.clone().then(second) }
}

/// The first region that holds the point or has it on its border.
fn holder_of(regions: &[Region], point: Point) -> Option<usize> {
    let on_border = |path: &BezPath| {
        path.segments().any(|seg| seg.nearest(point, 1e-9).distance_sq < (SAME_POINT * 1e3).powi(2))
    };
    regions.iter().position(|region| region.before.contains(point) || on_border(&region.before))
}

#[cfg(test)]
mod tests {
    use super::super::piece::{Level, LevelName, PieceKind};
    use super::*;
    use crate::geometry::turn_degrees;

    /// The outline of the check values, section 6: area 80550, perimeter 1168.336.
    fn piece() -> Piece {
        let at = [
            (0., 60.),
            (70., 0.),
            (185., 45.),
            (180., 150.),
            (245., 215.),
            (230., 400.),
            (0., 400.),
            (0., 60.),
        ];
        let seams = [
            Seam::Neckline,
            Seam::Shoulder,
            Seam::Armhole,
            Seam::Armhole,
            Seam::Side,
            Seam::Waist,
            Seam::CentreFront,
        ];
        let edge = |(i, seam): (usize, Seam)| Edge::sewn(seam, Curve::line(at[i].into(), at[i + 1].into()));
        Piece {
            levels: vec![Level {
                name: LevelName::Bust,
                points: vec![(0., 265.).into(), (95., 265.).into(), (240., 265.).into()],
            }],
            ..Piece::bare(
                PieceKind::BODICE_FRONT,
                seams.into_iter().enumerate().map(edge).collect::<Vec<_>>(),
                ((40., 120.).into(), (40., 360.).into()),
            )
        }
        .merged_at(&[3])
    }

    fn place(piece: &Piece, seam: Seam, point: Point) -> Place {
        let edge = piece.edges.iter().position(|e| e.seam == seam).unwrap();
        Place { edge, along: piece.edges[edge].curve.nearest(point) }
    }

    fn area(piece: &Piece) -> f64 {
        piece.outline().area().abs()
    }

    /// Cut from the shoulder at x = 120 straight down to the waist.
    fn halves(piece: &Piece, side: Motion) -> Slash {
        let shoulder = place(piece, Seam::Shoulder, (120., 19.565).into());
        let waist = place(piece, Seam::Waist, (120., 400.).into());
        let point = |at: Place| piece.edges[at.edge].curve.point_at(at.along);
        let (top, bottom) = (point(shoulder), point(waist));
        Slash {
            parts: vec![
                (
                    Part { from: waist, to: shoulder, inner: vec![top, bottom], motion: Motion::Still },
                    Join::Gap(Seam::Shoulder),
                ),
                (
                    Part { from: shoulder, to: waist, inner: vec![bottom, top], motion: side },
                    Join::Gap(Seam::Waist),
                ),
            ],
        }
    }

    /// Check values, section 6: a parallel spread adds spread × height.
    #[test]
    fn a_parallel_spread_adds_spread_times_height() {
        let before = piece();
        assert!((area(&before) - 80550.0).abs() < 1e-6);
        let slash = halves(&before, Motion::Shift(Vec2::new(12.7, 0.0)));
        let height =
            400.0 - before.edges[1].curve.point_at(before.edges[1].curve.nearest((120., 19.565).into())).y;
        let after = slash.apply(&before).unwrap();
        assert!(after.is_closed());
        assert!((area(&after) - area(&before) - 12.7 * height).abs() < 1e-6);
        assert!((after.sewn_length(Seam::Waist) - before.sewn_length(Seam::Waist) - 12.7).abs() < 1e-6);
        for kept in [Seam::Armhole, Seam::Side, Seam::Neckline, Seam::CentreFront] {
            assert_eq!(after.sewn_length(kept), before.sewn_length(kept), "{}", kept.name());
        }
    }

    #[test]
    fn what_lies_in_a_region_travels_with_it() {
        let before = piece();
        let after = halves(&before, Motion::Shift(Vec2::new(12.7, 0.0))).apply(&before).unwrap();
        let points = &after.level(LevelName::Bust).unwrap().points;
        assert_eq!(points[1].x, 95.0, "the still half keeps its point");
        assert!((points[2].x - 252.7).abs() < 1e-9, "the moved half takes its own along");
    }

    #[test]
    fn a_turn_opens_a_dart_of_exactly_its_angle() {
        let before = piece();
        let hinge = before.edges[1].curve.point_at(before.edges[1].curve.nearest((120., 19.565).into()));
        let by = -7.339f64.to_radians();
        let mut slash = halves(&before, Motion::Turn { about: hinge, by });
        slash.parts[0].1 = Join::Meet;
        slash.parts[1].1 = Join::Dart(DartPlace::Waist, hinge);
        let after = slash.apply(&before).unwrap();
        let (side, centre) = after.mouth(DartPlace::Waist).unwrap();
        assert!((turn_degrees(side - hinge, centre - hinge) - 7.339).abs() < 1e-9);
        assert!((side.distance(hinge) - centre.distance(hinge)).abs() < 1e-9, "legs are equal");
        // Check values, section 6: mouth = 2 L sin(α/2).
        let mouth = 2.0 * centre.distance(hinge) * (by.abs() / 2.0).sin();
        assert!((side.distance(centre) - mouth).abs() < 1e-9);
        assert_eq!(after.edges.first().unwrap().seam, Seam::Neckline, "the outline still starts at the neck");
    }

    #[test]
    fn the_grain_never_turns() {
        let before = piece();
        let mut slash = halves(&before, Motion::Still);
        slash.parts[0].0.motion = Motion::Turn { about: Point::new(120.0, 400.0), by: 0.01 };
        assert_eq!(slash.apply(&before), Err(SlashError::GrainTurned));
    }

    #[test]
    fn ends_that_lie_apart_do_not_meet() {
        let before = piece();
        let mut slash = halves(&before, Motion::Shift(Vec2::new(3.0, 4.0)));
        slash.parts[0].1 = Join::Meet;
        let refused = slash.apply(&before).unwrap_err();
        assert!(
            matches!(refused, SlashError::Apart { apart, seam: Seam::Shoulder } if (apart - 5.0).abs() < 1e-9),
            "{refused}"
        );
    }

    #[test]
    fn a_lap_cuts_back_what_overlaps() {
        let before = piece();
        let centre = place(&before, Seam::CentreFront, (0., 300.).into());
        let side = place(&before, Seam::Side, (238.1, 300.).into());
        let at = |p: Place| before.edges[p.edge].curve.point_at(p.along);
        let up = Motion::Shift(Vec2::new(0.0, -8.0));
        let slash = Slash {
            parts: vec![
                (
                    Part { from: centre, to: side, inner: vec![at(side), at(centre)], motion: Motion::Still },
                    Join::Gap(Seam::Side),
                ),
                (Part { from: side, to: centre, inner: vec![at(centre), at(side)], motion: up }, Join::Lap),
            ],
        };
        let after = slash.apply(&before).unwrap();
        assert!(
            (before.sewn_length(Seam::CentreFront) - after.sewn_length(Seam::CentreFront) - 8.0).abs() < 1e-9
        );
        assert_eq!(after.centre_waist(), Point::new(0.0, 392.0));
    }

    #[test]
    fn a_cut_never_runs_through_a_dart_that_stays() {
        let mut before = piece();
        let pivot = Point::new(150.0, 300.0);
        let waist = before.edges.iter().position(|edge| edge.seam == Seam::Waist).unwrap();
        let (start, end) = (before.edges[waist].curve.start(), before.edges[waist].curve.end());
        let (first, second) = (Point::new(165.0, 400.0), Point::new(110.0, 400.0));
        let dart = [
            Edge::sewn(Seam::Waist, Curve::line(start, first)),
            Edge::leg(DartPlace::Waist, first, pivot),
            Edge::leg(DartPlace::Waist, pivot, second),
            Edge::sewn(Seam::Waist, Curve::line(second, end)),
        ];
        before.edges.splice(waist..=waist, dart);
        before.darts.push(Dart { place: DartPlace::Waist, pivot, point: pivot });
        let shoulder = place(&before, Seam::Shoulder, (120., 19.565).into());
        let hinge = Place { edge: waist + 3, along: 100.0 - 80.0 };
        let at = |place: Place| before.edges[place.edge].curve.point_at(place.along);
        // From the shoulder to a waist point on the other side of the dart's leg.
        let crossing = vec![at(shoulder), Point::new(140.0, 370.0)];
        let slash = Slash {
            parts: vec![
                (
                    Part { from: hinge, to: shoulder, inner: crossing.clone(), motion: Motion::Still },
                    Join::Meet,
                ),
                (
                    Part {
                        from: shoulder,
                        to: hinge,
                        inner: crossing,
                        motion: Motion::Shift(Vec2::new(3.0, 0.0)),
                    },
                    Join::Meet,
                ),
            ],
        };
        assert_eq!(slash.apply(&before), Err(SlashError::ThroughDart(DartPlace::Waist)));
    }

    #[test]
    fn an_end_that_moved_is_brought_to_the_one_that_stayed() {
        let before = piece();
        let waist = place(&before, Seam::Waist, (120., 400.).into());
        let shoulder = place(&before, Seam::Shoulder, (120., 19.565).into());
        let at = |p: Place| before.edges[p.edge].curve.point_at(p.along);
        let by = Vec2::new(2.0, 1.5);
        let slash = Slash {
            parts: vec![
                (
                    Part {
                        from: waist,
                        to: shoulder,
                        inner: vec![at(shoulder), at(waist)],
                        motion: Motion::Still,
                    },
                    Join::Bring(30.0),
                ),
                (
                    Part {
                        from: shoulder,
                        to: waist,
                        inner: vec![at(waist), at(shoulder)],
                        motion: Motion::Shift(by),
                    },
                    Join::Bring(30.0),
                ),
            ],
        };
        let after = slash.apply(&before).unwrap();
        assert!(after.is_closed());
        // The still ends stayed; beyond the reach the moved run lies where it was carried.
        assert!(
            after.edges_of(Seam::Shoulder).any(|e| e
                .curve
                .point_at(e.curve.nearest(at(shoulder)))
                .distance(at(shoulder))
                < 1e-9)
        );
        let tip = after.tip();
        assert!(tip.distance(before.tip() + by) < 1e-9, "{tip:?}");
    }

    /// What is traced and laid down elsewhere keeps its length; the straight side is ruled on to it as one line.
    #[test]
    fn a_traced_run_keeps_its_length_and_the_straight_seam_is_ruled_on_to_it() {
        let before = piece();
        let armhole = before.first_edge(Seam::Armhole).unwrap();
        let length = before.edges[armhole].curve.length();
        let (tip, under) = (before.tip(), before.edges[armhole].curve.end());
        let side = before.edges[armhole + 1].curve.clone();
        // Up the side seam's own line, so that the armhole only shifts.
        let up = -side.start_direction() * 12.0;
        let shoulder = before.first_edge(Seam::Shoulder).unwrap();
        let laid = Motion::Laid { from: tip, to: tip + up, by: 0.0 };
        let slash = Slash {
            parts: vec![
                (
                    Part::traced(Place::start_of(armhole + 1), Place::start_of(shoulder), Motion::Still),
                    Join::Meet,
                ),
                (
                    Part::traced(Place::start_of(shoulder), Place::end_of(&before, shoulder), Motion::Still),
                    Join::ShoulderTo(tip + up),
                ),
                (
                    Part::traced(Place::start_of(armhole), Place::end_of(&before, armhole), laid),
                    Join::Gap(Seam::Side),
                ),
            ],
        };
        let after = slash.trace(&before).unwrap();
        assert!(after.is_closed());
        assert_eq!(after.edges.len(), before.edges.len());
        assert!((after.edges[armhole].curve.length() - length).abs() < 1e-9);
        assert!(after.tip().distance(tip + up) < 1e-9);
        let ruled = &after.edges[armhole + 1].curve;
        assert!(ruled.is_line(), "one straight line, not two");
        assert!(ruled.start().distance(under + up) < 1e-9);
        assert!((ruled.length() - side.length() - 12.0).abs() < 1e-9);
        assert_eq!(after.levels, before.levels, "nothing was cut: the cloth stays as it lies");
    }

    /// A wedge taped to the shoulder brings a straight stretch of armhole with it; one cut off takes its stretch away.
    #[test]
    fn a_wedge_is_cut_off_the_shoulder_or_taped_to_it() {
        let before = piece();
        let armhole = before.first_edge(Seam::Armhole).unwrap();
        let (length, tip) = (before.flat_length(Seam::Armhole), before.tip());
        let to = Place::end_of(&before, before.last_edge(Seam::Shoulder).unwrap());
        let ruled = |along: f64, tip: Point| {
            let stays = Part::traced(Place { edge: armhole, along }, to, Motion::Still);
            Slash { parts: vec![(stays, Join::ShoulderTo(tip))] }.trace(&before).unwrap()
        };
        let off = ruled(10.0, before.edges[armhole].curve.point_at(10.0));
        assert!((off.flat_length(Seam::Armhole) - length + 10.0).abs() < 1e-9);
        let on = ruled(0.0, tip + Vec2::new(0.0, -10.0));
        assert!((on.flat_length(Seam::Armhole) - length - 10.0).abs() < 1e-9);
        for after in [off, on] {
            assert!(after.is_closed());
            assert_eq!(after.edges.len(), before.edges.len());
            assert!(after.edges[after.first_edge(Seam::Shoulder).unwrap()].curve.is_line());
            assert_eq!(after.neck_side(), before.neck_side());
        }
    }

    #[test]
    fn a_seam_that_stayed_is_bent_to_the_end_that_moved() {
        let before = piece();
        let armhole = before.first_edge(Seam::Armhole).unwrap();
        let shoulder = before.first_edge(Seam::Shoulder).unwrap();
        let turn = Motion::Turn { about: before.neck_side(), by: 0.1 };
        let slash = Slash {
            parts: vec![
                (
                    Part::traced(Place::start_of(armhole), Place::start_of(shoulder), Motion::Still),
                    Join::Meet,
                ),
                (
                    Part::traced(Place::start_of(shoulder), Place::end_of(&before, shoulder), turn),
                    Join::Follow(60.0),
                ),
            ],
        };
        let after = slash.trace(&before).unwrap();
        assert!(after.is_closed());
        assert!(after.tip().distance(turn.affine() * before.tip()) < 1e-9);
        let (old, new) = (&before.edges[armhole].curve, &after.edges[armhole].curve);
        let far = old.point_at(80.0);
        assert!(new.point_at(new.nearest(far)).distance(far) < 1e-9, "beyond the reach it stayed");
    }
}
