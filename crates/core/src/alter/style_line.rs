//! A style line over the bust or the blade: the piece parted from armhole or shoulder down to its lower edge, its waist dart
//! taken up in the seam (handbook: `alterations.md`, section 2, princess line).
//!
//! The line leaves the armhole or the shoulder square into the piece and arrives at the dart's pivot along the dart's axis;
//! from there the legs of the dart are the seam. Where the line begins at a shoulder dart, that dart's legs are its first
//! stretch. Other darts that point at the pivot are turned into the seam: the side panel keeps its grain below.

use kurbo::{Affine, Line, Point, Vec2};

use super::AlterError;
use super::darts_in_the_way::end_short_of_curve;
use super::gape::Tuck;
use super::move_dart::turned_to;
use super::pivot::{on_seam, points_at};
use super::ways::ways;
use crate::geometry::{Curve, FURTHEST, house_curve, quarter_turn, root, turn_degrees};
use crate::pattern::{
    Cut, Dart, DartPlace, Edge, Gather, Join, Level, LevelName, Motion, Notch, Part, Piece, Place, Seam,
    Share, Slash, TwoPointedDart, back_off_points, true_closed_side, true_kinks,
};

/// The armhole is drawn anew this far above and below the seam, in millimetres.
const REDRAWN: f64 = 40.0;
/// Over the pivot the seam is drawn round this far above and below, in millimetres.
const PIVOT_REACH: f64 = 15.0;
/// A line through a point of her own runs straight for so long before the pivot, or half-way from there, in millimetres.
const ARRIVES: f64 = 25.0;
/// Over this length, in millimetres, it turns by so many degrees at most: drawn round over the pivot it is then no hook yet.
const BEND: f64 = 8.0;
const MOST_TURN: f64 = 40.0;
/// Both panels are as long within this, in millimetres: what seams that join may differ by.
const AS_LONG: f64 = 1.0;
/// At the waist and where a dart ends below it, the seam is drawn round this far above and below, in millimetres.
const WAIST_REACH: f64 = 40.0;
/// Points nearer than this are one, in millimetres.
const SAME_POINT: f64 = 0.01;
/// Where a line leaves the outline and arrives at its dart it may touch them for so long, in millimetres; in between it is looked
/// at in steps of this length.
const CLEAR: f64 = 4.0;
const LOOKED_AT: f64 = 5.0;
/// The dart that becomes the seam, by the name it has on the way.
const LINE: DartPlace = DartPlace::Waist;

ways! {
    /// Where a style line begins.
    Begins {
        /// At the armhole.
        Armhole = "armhole", "the armhole";
        /// At the shoulder: at its dart, or in its middle.
        Shoulder = "shoulder", "the shoulder";
        /// At the neckline.
        Neckline = "neckline", "the neckline";
    }
}

impl Begins {
    /// The seam it begins on.
    pub(super) const fn seam(self) -> Seam {
        match self {
            Self::Armhole => Seam::Armhole,
            Self::Shoulder => Seam::Shoulder,
            Self::Neckline => Seam::Neckline,
        }
    }
}

/// What is asked of a style line.
#[derive(Clone, Copy, Debug)]
pub(super) struct Asked {
    pub(super) begins: Begins,
    /// Where on the armhole the line or the pinned tuck lies, as a share of it from the tip.
    pub(super) place: f64,
    /// Where on shoulder or neckline the line begins, as a share of it from the neck side or the centre; none at the shoulder
    /// dart or in the middle.
    pub(super) starts: Option<f64>,
    /// Where the line goes through on its way to the pivot: out from the centre line and down from the neck side.
    pub(super) through: Option<Vec2>,
    /// How far above the pivot what is taken in ends, in millimetres.
    pub(super) above: f64,
    /// The whole pinned gape, in millimetres.
    pub(super) gape: f64,
}

/// The two panels of a parted piece, and what to draw of the line.
pub(super) struct Parted {
    pub(super) centre: Piece,
    pub(super) side: Piece,
    /// The line from its beginning to the pivot.
    pub(super) line: Curve,
    /// Where what is taken in ends.
    pub(super) ring: Point,
}

/// Whether a piece has the dart that a style line follows, and an armhole.
pub(super) fn can_be_parted(piece: &Piece) -> bool {
    let has_dart = piece.dart(DartPlace::Waist).is_some() || !piece.two_pointed.is_empty();
    has_dart && piece.first_edge(Seam::Armhole).is_some()
}

/// Parts a piece.
///
/// # Errors
///
/// [`AlterError::NotHere`] where the line cannot be drawn, and what it would need.
pub(super) fn part(piece: &Piece, asked: &Asked) -> Result<Parted, AlterError> {
    let (ready, parting) = Parting::of(piece, asked.begins)?;
    let line = StyleLine::of(&ready, parting, asked)?;
    let (centre, side) = match asked.begins {
        Begins::Armhole => line.parted_at_armhole(&ready, asked.gape / 2.0)?,
        Begins::Shoulder | Begins::Neckline => line.parted_above(&ready),
    };
    let seam = |panel: &Piece| panel.sewn_length(Seam::Princess);
    if (seam(&centre) - seam(&side)).abs() > AS_LONG {
        return Err(AlterError::not_here(
            "the line comes in so much aslant that it cannot be drawn round alike on both panels: begin it further up, or draw it \
             through a point of its own",
        ));
    }
    let mut side = line.parting.laid_back(side, piece);
    if asked.begins != Begins::Armhole && asked.gape > 0.0 {
        let ring = line.parting.lays_back() * line.ring;
        side = with_tuck(&side, ring, asked)?;
    }
    Ok(Parted { centre, side, ring: line.ring, line: line.curve })
}

/// The piece with its waist dart drawn up to the point that its darts shape, where it stops short of it: a seam goes through.
/// In front that is the bust point, behind the dart's own pivot.
///
/// # Errors
///
/// [`AlterError::NotHere`] where there is no waist dart, or it points elsewhere.
pub(super) fn with_dart_drawn_up(piece: &Piece) -> Result<(Piece, Point), AlterError> {
    let no_dart = || {
        AlterError::not_here(
            "the line follows the waist dart down: this piece has none, draw one there first (its place and its intake)",
        )
    };
    let mut piece =
        if piece.dart(LINE).is_none() { opened_below(piece).ok_or_else(no_dart)? } else { piece.clone() };
    let line = piece.dart(LINE).ok_or_else(no_dart)?.clone();
    let pivot = piece.bust_pivot().filter(|_| piece.kind.is_front()).unwrap_or(line.pivot);
    if !points_at(&line, pivot) {
        return Err(AlterError::not_here(
            "the waist dart points elsewhere than the bust point: bring both darts to one point first",
        ));
    }
    if line.pivot.distance(pivot) > SAME_POINT {
        piece.draw_legs_to(LINE, pivot);
    }
    Ok((piece, pivot))
}

/// The piece with all darts that point at the line's pivot turned into the dart below it, and by how much, in radians.
pub(super) fn with_one_dart(piece: &Piece, begins: Begins) -> Result<(Piece, f64), AlterError> {
    let (mut piece, pivot) = with_dart_drawn_up(piece)?;
    let mut turned = 0.0;
    let places: Vec<DartPlace> = { piece.darts.iter() }
        .filter(|dart| dart.place != LINE && dart.pivot.distance(pivot) < 1.0)
        .map(|dart| dart.place)
        .collect();
    for place in places {
        let old = Cut::along(&piece, place).ok_or_else(|| AlterError::no_seam(Seam::DartLeg))?;
        let into = Cut::along(&piece, LINE).ok_or_else(|| AlterError::no_seam(Seam::DartLeg))?;
        let opening = old.dart.map_or(0.0, |(_, opening)| opening);
        (_, piece) = turned_to(&piece, pivot, opening, old, (into, LINE))?;
        turned += opening;
    }
    let in_the_way = |dart: &&Dart| dart.place.seam() == Seam::Armhole && begins == Begins::Armhole;
    if let Some(dart) = piece.darts.iter().find(in_the_way) {
        return Err(AlterError::not_here(format!(
            "the {} points elsewhere than the line: move it first",
            dart.place.name()
        )));
    }
    Ok((piece, turned))
}

/// A piece that goes on below the waist, cut open from the hem straight up its two-pointed dart, in front up to the bust point
/// where the dart stops short of it.
fn opened_below(piece: &Piece) -> Option<Piece> {
    let dart = piece.two_pointed.first()?;
    let axis = dart.lower - dart.upper;
    let below = Line::new(dart.lower, dart.lower + axis / axis.hypot() * FURTHEST);
    let (edge, along) = { piece.edges.iter().enumerate() }
        .filter(|(_, edge)| edge.seam == Seam::Hem)
        .find_map(|(index, edge)| Some((index, edge.curve.crossing(below)?)))?;
    let hem = piece.edges[edge].clone();
    let foot = hem.curve.point_at(along);
    let stops_short = Dart { place: LINE, pivot: dart.upper, point: dart.point };
    let bust_point = piece.bust_pivot().filter(|at| piece.kind.is_front() && points_at(&stops_short, *at));
    let pivot = bust_point.unwrap_or(dart.upper);
    let towards_side = Edge { curve: hem.curve.between(0.0, along), ..hem.clone() };
    let towards_centre = Edge { curve: hem.curve.between(along, hem.curve.length()), ..hem };
    let legs = [Edge::leg(LINE, foot, pivot), Edge::leg(LINE, pivot, foot)];
    let mut open = piece.clone();
    open.edges.splice(edge..=edge, std::iter::once(towards_side).chain(legs).chain([towards_centre]));
    open.darts.push(Dart { place: LINE, pivot, point: pivot });
    open.two_pointed.remove(0);
    Some(open)
}

/// The mouth of the two-pointed dart as it is measured along the waist line, which need not be level: as wide, about where the
/// dart's axis meets the line.
fn mouth_on_level(piece: &Piece) -> Option<(Point, Point)> {
    let dart = piece.two_pointed.first()?;
    let points = &piece.level(LevelName::Waist)?.points;
    let line = Line::new(*points.first()?, *points.last()?);
    let at = line.crossing_point(Line::new(dart.upper, dart.lower))?;
    let half = (line.p1 - line.p0) / line.p0.distance(line.p1) * (dart.intake() / 2.0);
    Some((at - half, at + half))
}

/// The line through these points, straight between and drawn round at each inner one, which it still goes through.
fn rounded_through(points: &[Point]) -> Option<Curve> {
    let (first, last) = (*points.first()?, *points.last()?);
    let mut curve: Option<Curve> = None;
    let mut at = first;
    let mut add = |piece: Curve| {
        curve = Some(match curve.take() {
            Some(before) => before.then(piece),
            None => piece,
        });
    };
    for corner in points.windows(3) {
        let (before, after) = (corner[1] - corner[0], corner[2] - corner[1]);
        let reach = WAIST_REACH.min(before.hypot() / 2.5).min(after.hypot() / 2.5);
        let (into, out) = (before / before.hypot(), after / after.hypot());
        let along = (into + out) / (into + out).hypot();
        let (from, to) = (corner[1] - into * reach, corner[1] + out * reach);
        let third = reach / 3.0;
        add(Curve::line(at, from));
        add(Curve::cubic(from, from + into * third, corner[1] - along * third, corner[1]));
        add(Curve::cubic(corner[1], corner[1] + along * third, to - out * third, to));
        at = to;
    }
    add(Curve::line(at, last));
    curve
}

/// What both panels of a piece are made by, from the point its darts shape downwards: wherever above that they part.
pub(super) struct Parting {
    /// The point its darts shape.
    pub(super) pivot: Point,
    /// The legs of its waist dart downwards, towards the centre and towards the side, as they lie on the piece that is ready.
    pub(super) legs: [Curve; 2],
    /// Where the panels begin on the waist line of a piece that goes on below it.
    at_waist: Option<(Point, Point)>,
    /// How far the side's lower part was turned with other darts, in radians.
    turned: f64,
    /// How far above the pivot what is taken in ends, in millimetres; none where nothing can be.
    ring_above: Option<f64>,
    /// How much of the armhole lies below the seam, in millimetres; all of it where the seam does not begin there.
    armhole_below: f64,
}

/// The line on a piece that is ready.
struct StyleLine {
    parting: Parting,
    top: Top,
    /// From where it leaves the outline, or the pivot of the dart it begins at, to the pivot below.
    curve: Curve,
    ring: Point,
    /// How far along the curve the ring lies, in millimetres.
    to_ring: f64,
}

enum Top {
    /// At a place of the outline.
    At(Place),
    /// Along the legs of a dart, by the index of the first.
    Dart(usize),
}

impl Parting {
    /// A piece made ready, its waist dart at the point its darts shape and the others turned into it, and how it is parted there.
    ///
    /// # Errors
    ///
    /// [`AlterError::NotHere`] where it has no such dart, or one that points elsewhere.
    pub(super) fn of(whole: &Piece, begins: Begins) -> Result<(Piece, Self), AlterError> {
        let (ready, turned) = with_one_dart(whole, begins)?;
        let no_leg = || AlterError::no_seam(Seam::DartLeg);
        let pivot = ready.dart(LINE).ok_or_else(no_leg)?.pivot;
        let leg = ready.first_leg(LINE).ok_or_else(no_leg)?;
        let straight = [ready.edges[leg + 1].curve.clone(), ready.edges[leg].curve.reversed()];
        // The side's lower part has turned with the darts.
        let with_darts = Affine::rotate_about(-turned, pivot);
        let two_pointed = whole.two_pointed.first().filter(|_| whole.dart(LINE).is_none());
        let shaped = |dart: &TwoPointedDart| {
            Some([
                rounded_through(&[pivot, dart.first, dart.lower, straight[0].end()])?,
                rounded_through(&[
                    pivot,
                    with_darts * dart.second,
                    with_darts * dart.lower,
                    straight[1].end(),
                ])?,
            ])
        };
        let legs = two_pointed.and_then(shaped).unwrap_or_else(|| straight.clone());
        let at_waist = mouth_on_level(whole).map(|(centre, side)| (centre, with_darts * side));
        let armhole_below = f64::INFINITY;
        Ok((ready, Self { pivot, legs, at_waist, turned, ring_above: None, armhole_below }))
    }

    /// What lays the side's lower part back to where it lay in the whole piece.
    fn lays_back(&self) -> Affine {
        Affine::rotate_about(self.turned, self.pivot)
    }

    /// The side panel as it lay in the whole piece below the pivot, its grain upright there.
    pub(super) fn laid_back(&self, mut side: Piece, whole: &Piece) -> Piece {
        let seam = side.edges_of(Seam::Princess).next().map(|edge| edge.curve.clone());
        if let Some(seam) = seam {
            end_short_of_curve(&mut side, &seam);
            back_off_points(&mut side);
        }
        let mut side = side.moved(self.lays_back());
        let outer = side.edges_of(Seam::Side).next().map_or(self.pivot.x, |edge| edge.curve.start().x);
        if whole.dart(DartPlace::Side).is_some() && side.dart(DartPlace::Side).is_none() {
            true_closed_side(&mut side);
        }
        let x = self.pivot.x.midpoint(outer);
        side.grain = (Point::new(x, self.pivot.y), Point::new(x, self.pivot.y + 100.0));
        side
    }

    /// Both panels, by the whole seam on either of them, travelled downwards.
    pub(super) fn panels(
        &self,
        piece: &Piece,
        ends: &Ends,
        [centre_seam, side_seam]: [Curve; 2],
    ) -> (Piece, Piece) {
        let legs = piece.first_leg(LINE).unwrap_or(0);
        let sewn = |curve: Curve| Edge::sewn(Seam::Princess, curve);
        let mut centre: Vec<Edge> = piece.edges[..ends.before].to_vec();
        centre.extend(ends.centre.iter().cloned());
        centre.push(sewn(centre_seam));
        centre.extend(piece.edges[legs + 2..].iter().cloned());
        let mut side = ends.side.clone();
        side.extend(piece.edges[ends.after..legs].iter().cloned());
        side.push(sewn(side_seam.reversed()));
        let panel = |share, edges: Vec<Edge>| {
            let is_centre = share == Share::CentrePanel;
            let has = |place| edges.iter().any(|edge: &Edge| edge.dart == Some(place));
            let seam = edges.iter().find(|edge| edge.seam == Seam::Princess).map(|edge| edge.curve.clone());
            let mut panel = Piece {
                kind: piece.kind.as_share(share),
                darts: piece.darts.iter().filter(|dart| has(dart.place)).cloned().collect(),
                two_pointed: { piece.two_pointed.iter() }
                    .filter(|dart| (dart.upper.x < self.pivot.x) == is_centre)
                    .copied()
                    .collect(),
                levels: seam.map_or_else(Vec::new, |seam| self.levels(piece, &seam, is_centre)),
                notches: Vec::new(),
                edges,
                ..piece.clone()
            };
            let gathers = piece.gathers.iter();
            panel.gathers =
                gathers.filter_map(|gather| self.gather(piece, &panel, *gather, is_centre)).collect();
            panel.notches = self.notches(piece, &panel, is_centre);
            true_kinks(&mut panel, Seam::Princess, PIVOT_REACH);
            back_off_points(&mut panel);
            panel
        };
        (panel(Share::CentrePanel, centre), panel(Share::SidePanel, side))
    }

    /// The level lines that are on a panel: the bust line of a front parts at its bust point, others where they meet the seam.
    fn levels(&self, piece: &Piece, seam: &Curve, is_centre: bool) -> Vec<Level> {
        let of = |level: &Level| -> Option<Level> {
            let (first, last) = (*level.points.first()?, *level.points.last()?);
            let middle = match level.points.as_slice() {
                // The seam goes through the pivot, wherever the line was marked before.
                [_, _, _] if level.name == LevelName::Bust => self.pivot,
                [_, middle, _] => *middle,
                _ if level.name == LevelName::Waist && self.at_waist.is_some() => {
                    let (centre, side) = self.at_waist?;
                    if is_centre { centre } else { side }
                }
                _ if level.name == LevelName::Bust && (first.y - self.pivot.y).abs() < 1e-6 => self.pivot,
                _ => {
                    // With the side turned a level is level on either side of the seam, not across it.
                    let across = match (self.turned == 0.0, is_centre) {
                        (true, _) => Line::new(first, last),
                        (false, true) => Line::new(first, first + Vec2::new(FURTHEST, 0.0)),
                        (false, false) => Line::new(last - Vec2::from_angle(-self.turned) * FURTHEST, last),
                    };
                    let along = { seam.crossing(across) }.or_else(|| seam.crossing_level(first.y))?;
                    seam.point_at(along)
                }
            };
            let points = if is_centre { vec![first, middle] } else { vec![middle, last] };
            Some(Level { name: level.name, points })
        };
        piece.levels.iter().filter_map(of).collect()
    }

    /// The old notches that are still on the panel, and those of the new seam: the ring, the pivot, and the waist where the
    /// panel goes on below it.
    fn notches(&self, piece: &Piece, panel: &Piece, is_centre: bool) -> Vec<Notch> {
        let below = self.armhole_below;
        let has = |seam: Seam| panel.edges.iter().any(|edge| edge.seam == seam);
        let mut notches: Vec<Notch> = { piece.notches.iter() }
            .filter(|notch| match notch.seam {
                // Named from the underarm: on the side panel as far as it reaches, above that on the centre panel.
                Seam::Armhole => (notch.from_underarm > below) == is_centre,
                Seam::Princess | Seam::DartLeg => false,
                // A seam that both panels have parts of is named from its side end: the side panel's part has it.
                Seam::Waist | Seam::Hem => {
                    (notch.from_underarm > self.side_part(piece, notch.seam)) == is_centre
                }
                seam => has(seam),
            })
            .copied()
            .collect();
        if is_centre {
            for notch in &mut notches {
                match notch.seam {
                    Seam::Armhole => notch.from_underarm -= below,
                    Seam::Waist | Seam::Hem => notch.from_underarm -= self.side_part(piece, notch.seam),
                    _ => {}
                }
            }
        }
        // Told from below along the leg that both panels have alike.
        let leg = &self.legs[0];
        let to_pivot = leg.length();
        let waist = self.at_waist.map(|(centre, _)| to_pivot - leg.nearest(centre));
        let ring = self.ring_above.map(|above| to_pivot + above);
        let seam = panel.flat_length(Seam::Princess);
        // A seam may begin below the end of its dart.
        let from_below = [ring, Some(to_pivot), waist].into_iter().flatten().filter(|below| *below < seam);
        notches.extend(from_below.map(|from_below| Notch {
            seam: Seam::Princess,
            from_underarm: seam - from_below,
            double: false,
        }));
        notches
    }

    /// What is gathered on a panel: a seam that both have parts of is named from its side end.
    fn gather(&self, piece: &Piece, panel: &Piece, gather: Gather, is_centre: bool) -> Option<Gather> {
        panel.first_edge(gather.seam)?;
        if !matches!(gather.seam, Seam::Waist | Seam::Hem) {
            return Some(gather);
        }
        let below = self.side_part(piece, gather.seam);
        let is_on_it = (gather.from_underarm > below) == is_centre;
        let from_underarm = gather.from_underarm - if is_centre { below } else { 0.0 };
        is_on_it.then_some(Gather { from_underarm, ..gather })
    }

    /// How much of a lower seam lies on the side panel, in millimetres.
    fn side_part(&self, piece: &Piece, seam: Seam) -> f64 {
        let legs = piece.first_leg(LINE).unwrap_or(0);
        piece.length_before(legs, seam)
    }
}

impl StyleLine {
    fn of(piece: &Piece, mut parting: Parting, asked: &Asked) -> Result<Self, AlterError> {
        let no_leg = || AlterError::no_seam(Seam::DartLeg);
        // Both legs leave the pivot; between them lies the axis.
        let axis = parting.legs[0].start_direction() + parting.legs[1].start_direction();
        let begins_at_dart = asked.begins == Begins::Shoulder && asked.starts.is_none();
        let shoulder_dart = piece.first_leg(DartPlace::Shoulder).filter(|_| begins_at_dart);
        let (top, from, inwards) = if let Some(index) = shoulder_dart {
            let (first, second) = piece.mouth(DartPlace::Shoulder).ok_or_else(no_leg)?;
            let pivot = piece.dart(DartPlace::Shoulder).ok_or_else(no_leg)?.pivot;
            (Top::Dart(index), pivot, pivot - first.midpoint(second))
        } else {
            let share = match asked.begins {
                Begins::Armhole => asked.place,
                Begins::Shoulder | Begins::Neckline => asked.starts.unwrap_or(0.5),
            };
            let place = on_seam(piece, asked.begins.seam(), share)?;
            let edge = &piece.edges[place.edge].curve;
            (Top::At(place), edge.point_at(place.along), quarter_turn(edge.direction_at(place.along)))
        };
        let curve = match asked.through {
            None => house_curve(from, inwards, parting.pivot, axis).curve,
            Some(through) => {
                let through = Point::new(0.0, piece.neck_base_side().y) + through;
                drawn_through(from, inwards, through, (parting.pivot, axis))?
            }
        };
        runs_clear(piece, &curve)?;
        if asked.through.is_some() {
            bends_softly(&curve)?;
        }
        let length = curve.length();
        if asked.above > length * 0.8 {
            return Err(AlterError::not_here(
                "the seam is too short for that: end the tightening nearer to the bust point",
            ));
        }
        let to_ring = length - asked.above;
        let ring = curve.point_at(to_ring);
        parting.ring_above = Some(asked.above);
        if let Top::At(place) = top
            && piece.edges[place.edge].seam == Seam::Armhole
        {
            parting.armhole_below = piece.flat_length(Seam::Armhole) - place.along;
        }
        Ok(Self { parting, top, ring, to_ring, curve })
    }

    /// Both panels of a line from the armhole, each edge of its upper part turned away by `tighten` at the armhole; the armhole
    /// is drawn across the folded seam, so that no step is left when it is sewn.
    fn parted_at_armhole(&self, piece: &Piece, tighten: f64) -> Result<(Piece, Piece), AlterError> {
        let Top::At(place) = self.top else { return Err(AlterError::no_seam(Seam::Armhole)) };
        let hinge = self.ring;
        let (upper, lower) = self.curve.split(self.to_ring);
        let turn = (tighten / hinge.distance(self.curve.start())).asin();
        let up = Affine::rotate_about(-turn, hinge);
        let armhole = piece.edges[place.edge].curve.clone();
        let (above, below) =
            ((place.along - REDRAWN).max(1.0), (place.along + REDRAWN).min(armhole.length() - 1.0));
        let (kept_above, kept_below) = (armhole.split(above).0, armhole.split(below).1);
        let shut = Affine::rotate_about(-2.0 * turn, hinge);
        let to = shut * kept_below.start();
        let towards = (Affine::rotate(-2.0 * turn) * kept_below.start_direction().to_point()).to_vec2();
        let across = if tighten == 0.0 {
            armhole.between(above, below)
        } else {
            let third = kept_above.end().distance(to) / 3.0;
            let from = kept_above.end();
            Curve::cubic(from, from + kept_above.end_direction() * third, to - towards * third, to)
        };
        let seam_up = upper.transformed(up);
        let (on_armhole, on_line) = meeting(&across, &seam_up).ok_or_else(|| {
            AlterError::not_here("the seam does not meet the armhole any more: a smaller gape")
        })?;
        let (to_seam, from_seam) = across.split(on_armhole);
        let (_, sewn_up) = seam_up.split(on_line);
        let open = Affine::rotate_about(2.0 * turn, hinge);
        let cut = sewn_up.start();
        let centre_top = kept_above.then(to_seam).with_end(cut);
        let side_top = from_seam.with_start(cut).transformed(open).then(kept_below);
        let seam_down = sewn_up.transformed(open);
        let edge = |curve: Curve| Edge { curve, ..piece.edges[place.edge].clone() };
        let ends = Ends {
            before: place.edge,
            centre: vec![edge(centre_top)],
            side: vec![edge(side_top)],
            after: place.edge + 1,
        };
        Ok(self.parting.panels(
            piece,
            &ends,
            self.down_the_legs([sewn_up.then(lower.clone()), seam_down.then(lower)]),
        ))
    }

    /// Both panels of a line from the shoulder or the neckline.
    fn parted_above(&self, piece: &Piece) -> (Piece, Piece) {
        let line = || self.curve.clone();
        let (ends, lines) = match self.top {
            Top::At(place) => {
                let cut = &piece.edges[place.edge];
                let edge = |curve: Curve| Edge { curve, ..cut.clone() };
                let (inner, outer) = cut.curve.split(place.along);
                let ends = Ends {
                    before: place.edge,
                    centre: vec![edge(inner)],
                    side: vec![edge(outer)],
                    after: place.edge + 1,
                };
                (ends, [line(), line()])
            }
            Top::Dart(leg) => {
                let ends = Ends { before: leg, centre: Vec::new(), side: Vec::new(), after: leg + 2 };
                let legs = [piece.edges[leg].curve.clone(), piece.edges[leg + 1].curve.reversed()];
                (ends, legs.map(|leg| leg.then(line())))
            }
        };
        self.parting.panels(piece, &ends, self.down_the_legs(lines))
    }

    /// Two lines down to the pivot, towards the centre and towards the side, each with the leg of the dart it goes on along.
    fn down_the_legs(&self, [centre, side]: [Curve; 2]) -> [Curve; 2] {
        let [to_centre, to_side] = self.parting.legs.clone();
        [centre.then(to_centre), side.then(to_side)]
    }
}

/// A line through a point of her own: it leaves in its direction, goes on without a corner there and arrives straight along the
/// axis, so that the seam is drawn round over the pivot alike on both panels.
fn drawn_through(
    from: Point,
    inwards: Vec2,
    through: Point,
    (pivot, axis): (Point, Vec2),
) -> Result<Curve, AlterError> {
    let down = axis / axis.hypot();
    let above = (pivot - through).dot(down);
    if above < ARRIVES {
        return Err(AlterError::not_here(
            "the point that the line goes through lies beside or below the end of its dart, or hardly above it: one further up",
        ));
    }
    let arrives = pivot - down * ARRIVES.min(above / 2.0);
    // Past her point it runs as it would there by itself.
    let by_itself = house_curve(from, inwards, pivot, axis).curve;
    let on = by_itself.direction_at(by_itself.nearest(through));
    let above = house_curve(from, inwards, through, on).curve;
    let below = house_curve(through, on, arrives, down).curve;
    Ok(above.then(below).then(Curve::line(arrives, pivot)))
}

/// Whether a line can be sewn as it bends.
fn bends_softly(line: &Curve) -> Result<(), AlterError> {
    let steps = (line.length() - BEND).max(0.0) as u32;
    let turn = |n: u32| {
        let from = f64::from(n);
        turn_degrees(line.direction_at(from), line.direction_at(from + BEND)).abs()
    };
    if (0..=steps).all(|n| turn(n) <= MOST_TURN) {
        return Ok(());
    }
    Err(AlterError::not_here(
        "through that point the line bends too tightly to be sewn: one nearer to where it runs by itself",
    ))
}

/// Whether a line stays inside a piece, and clear of the darts that are not its own; an outer waist dart ends short of it.
fn runs_clear(piece: &Piece, line: &Curve) -> Result<(), AlterError> {
    let length = line.length();
    // It touches the outline where it leaves it, and its own dart where it arrives.
    let from = CLEAR.min(length / 4.0);
    let count = ((length - 2.0 * from) / LOOKED_AT).ceil().max(1.0) as u32;
    let at = |n: u32| line.point_at(from + (length - 2.0 * from) * f64::from(n) / f64::from(count));
    let others: Vec<&Edge> = { piece.edges.iter() }
        .filter(|edge| edge.dart.is_none_or(|dart| dart.seam() != LINE.seam()))
        .collect();
    for n in 0..count {
        let step = Line::new(at(n), at(n + 1));
        if let Some(edge) = others.iter().find(|edge| edge.curve.crossing(step).is_some()) {
            let what = match edge.dart {
                Some(dart) => format!(
                    "the line runs through the {}: another point for it, or move the dart first",
                    dart.name()
                ),
                None => format!(
                    "the line leaves the piece at the {}: a point nearer to the bust point",
                    edge.seam.name()
                ),
            };
            return Err(AlterError::not_here(what));
        }
    }
    Ok(())
}

/// What stays of the outline above the line, and how it ends at the line.
pub(super) struct Ends {
    /// Edges before this are the centre panel's.
    pub(super) before: usize,
    pub(super) centre: Vec<Edge>,
    pub(super) side: Vec<Edge>,
    /// Edges from this on are the side panel's.
    pub(super) after: usize,
}

/// A gape pinned at the armhole of a side panel turned into its seam: what lies between the seam above the ring, the shoulder
/// and the tuck turns down about the ring.
fn with_tuck(side: &Piece, ring: Point, asked: &Asked) -> Result<Piece, AlterError> {
    let tuck = Tuck::mark(side, Seam::Armhole, asked.place, asked.gape, ring)?;
    let side = &tuck.clear(side, ring);
    let last = side.last_edge(Seam::Princess).ok_or_else(|| AlterError::no_seam(Seam::Princess))?;
    let curve = &side.edges[last].curve;
    let at_ring = Place { edge: last, along: curve.nearest(ring) };
    let start = Place::start_of(0);
    let end = Place { edge: last, along: curve.length() };
    let turn = Motion::Turn { about: ring, by: tuck.turn };
    let part = |from, to, inner: &[Point], motion| Part { from, to, inner: inner.to_vec(), motion };
    let slash = Slash {
        parts: vec![
            (part(start, tuck.upper, &[ring], turn), Join::Bring(tuck.refit)),
            (part(tuck.lower, at_ring, &[], Motion::Still), Join::Meet),
            (part(at_ring, end, &[], turn), Join::Meet),
        ],
    };
    let mut after = slash.apply(side)?;
    true_kinks(&mut after, Seam::Armhole, tuck.refit);
    true_kinks(&mut after, Seam::Princess, PIVOT_REACH);
    back_off_points(&mut after);
    Ok(after)
}

/// Where two curves cross: arc lengths on the one and the other. The second may have to be drawn on a little
/// beyond its start.
fn meeting(one: &Curve, other: &Curve) -> Option<(f64, f64)> {
    let start = other.start();
    let drawn_on = Curve::line(start - other.start_direction() * 30.0, start).then(other.clone());
    let signed = |s: f64| {
        let at = one.point_at(s);
        let along = drawn_on.nearest(at);
        let (foot, direction) = (drawn_on.point_at(along), drawn_on.direction_at(along));
        direction.cross(at - foot)
    };
    let s = root(signed, 0.0, one.length())?;
    let at = one.point_at(s);
    let along = drawn_on.nearest(at) - 30.0;
    // A seam that ends inside is prolonged by the armhole being drawn to its end.
    Some((s, along.max(0.0)))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn curves_are_found_to_cross_where_they_do() {
        let level = Curve::line((0., 10.).into(), (100., 10.).into());
        let down = Curve::line((40., 12.).into(), (40., 60.).into());
        let (s, along) = meeting(&level, &down).unwrap();
        assert!((s - 40.0).abs() < 1e-6 && along == 0.0);
    }

    #[test]
    fn a_rounded_line_goes_through_its_points_without_a_corner() {
        let points = [(95., 288.), (78., 458.), (95., 573.), (95., 663.)].map(Point::from);
        let curve = rounded_through(&points).unwrap();
        for point in points {
            assert!(curve.point_at(curve.nearest(point)).distance(point) < 1e-6, "{point:?}");
        }
        assert!(curve.corners().iter().all(|(_, turn)| turn.abs() < 0.5), "{:?}", curve.corners());
        // Mirrored about the dart's axis it is as long: both panels are sewn to each other.
        let mirrored: Vec<Point> = points.iter().map(|p| Point::new(190.0 - p.x, p.y)).collect();
        assert!((rounded_through(&mirrored).unwrap().length() - curve.length()).abs() < 1e-9);
    }

    /// Worked figure (handbook: `alterations.md`, section 4), a gape into a shoulder line.
    #[test]
    fn a_gape_opens_a_shoulder_line_as_the_worked_figure_says() {
        let (ring, top, tuck) = (Point::new(92., 238.), Point::new(128., 19.), Point::new(172., 150.));
        let turn = Tuck::turn(10.0, ring.distance(tuck));
        assert!((turn.to_degrees() - 4.819).abs() < 5e-4, "{}", turn.to_degrees());
        let opened = Affine::rotate_about(turn, ring) * top;
        assert!(opened.distance((146.271, 22.799).into()) < 1e-3, "{opened:?}");
        assert!((opened.distance(top) - 18.662).abs() < 1e-3);
    }
}
