//! Darts turned out of the way while an alteration works across them, and turned back (handbook: `alterations.md`, sections 1
//! and 2, "a dart in the way").
//!
//! A dart is an angle at its pivot. Turned to another place it leaves the seam it lay in whole; what is then cut and moved
//! there is what would be cut and moved with the dart sewn, and turned back the dart lies where it lay, with the same angle
//! and equal legs. The sewn garment does not depend on where it was put aside.

use kurbo::{Line, Point, Vec2};

use super::move_dart::turned_to;
use super::pivot::{at_length, points_at, side_dart_place};
use super::two_circles::{GivesWay, redraw_legs};
use super::{AlterError, Alteration, Altered, Args, set_aside};
use crate::Style;
use crate::geometry::{Curve, quarter_turn};
use crate::pattern::{
    Cut, Dart, DartPlace, Edge, Pattern, Piece, PieceKind, Place, Seam, back_off_points, dart_across,
    true_closed_side,
};

/// What an alteration works across, and so wants whole in the front.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum WorksAcross {
    /// No dart is in its way, or it minds them itself.
    Nothing,
    /// The armhole from the shoulder tip to the underarm.
    Armhole,
    /// The front from the bust point to the side, where its bust dart is looked for; outer waist darts reach above that.
    BustLine,
}

/// The outer waist dart ends so far short of a dart it would run into, in millimetres.
const SHORT_OF: f64 = 2.0;
/// Points nearer than this are one, in millimetres.
const SAME: f64 = 0.5;

/// Alters a pattern with the darts turned aside that are in the way.
///
/// # Errors
///
/// Those of the alteration; [`AlterError::NotHere`] where a dart cannot be turned back.
pub(super) fn alter_clear(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    args: &Args<'_>,
    style: Style,
) -> Result<Altered, AlterError> {
    let Some((clear, aside)) = cleared(alteration, pattern) else {
        return alteration.alter(pattern, args, style);
    };
    let mut done = alteration.alter(&clear, args, style)?;
    let cut_at = alteration.armhole_taken_in_at(args);
    done.pattern = aside.back_in(&done.pattern, cut_at)?;
    aside.true_closed_side(&mut done.pattern);
    done.taped = aside.back_in(&done.taped, cut_at)?;
    aside.tell(&mut done);
    Ok(done)
}

/// Whether an alteration is for a pattern once the darts in its way are turned aside.
pub fn suits(alteration: &dyn Alteration, pattern: &Pattern) -> bool {
    let pattern = set_aside::cleared(alteration, pattern);
    match cleared(alteration, &pattern) {
        Some((clear, _)) => alteration.is_for(&clear),
        None => alteration.is_for(&pattern),
    }
}

/// The pattern with the darts turned aside; none where nothing is in the way.
fn cleared(alteration: &dyn Alteration, pattern: &Pattern) -> Option<(Pattern, DartsInTheWay)> {
    let across = alteration.works_across();
    if across == WorksAcross::Nothing {
        return None;
    }
    let (front, aside) = DartsInTheWay::of(pattern.front()?, across);
    (!aside.is_empty()).then(|| (pattern.clone().with(front), aside))
}

/// What was put aside in a front.
pub(super) struct DartsInTheWay {
    kind: PieceKind,
    bust_dart: Option<BustDart>,
    outer: Option<OuterDart>,
    /// How far below the bust point the waist dart's pivot lay, in millimetres.
    lowered: Option<f64>,
}

/// A bust dart in the armhole or the shoulder: it is turned to the side, or to the waist where it only has to be away.
struct BustDart {
    place: DartPlace,
    /// Whether it is a side dart while it is aside.
    is_at_side: bool,
    /// Along its seam with the dart closed, from the seam's beginning, in millimetres.
    along: f64,
    /// The length of that seam then, in millimetres.
    seam: f64,
}

/// A second waist dart: while it is aside its cloth lies flat.
struct OuterDart {
    /// Its mouths along the waist from the side, in millimetres.
    mouths: (f64, f64),
    /// Its pivot as seen from the underarm: down the side seam and square to it, in millimetres. The cloth above the bust line
    /// moves as one.
    pivot: Vec2,
}

impl DartsInTheWay {
    /// A front with the darts turned aside that are in the way, and what they were.
    pub(super) fn of(front: &Piece, across: WorksAcross) -> (Piece, Self) {
        let mut piece = front.clone();
        let outer = if across == WorksAcross::BustLine { lay_flat(&mut piece) } else { None };
        let bust_dart = bust_dart_aside(&mut piece, across);
        (piece, Self { kind: front.kind, bust_dart, outer, lowered: None })
    }

    /// Draws the waist dart up to the bust point too, where it stops short of it: a cut from the waist runs along it.
    pub(super) fn with_waist_dart_drawn_up(mut self, front: &mut Piece) -> Self {
        self.lowered = raised(front);
        self
    }

    /// Whether nothing was in the way.
    fn is_empty(&self) -> bool {
        self.outer.is_none() && self.bust_dart.is_none() && self.lowered.is_none()
    }

    /// The pattern with the darts back in their places. `taken_in_at` is where the armhole was made shorter, as a share of it.
    fn back_in(&self, pattern: &Pattern, taken_in_at: Option<f64>) -> Result<Pattern, AlterError> {
        let Some(front) = pattern.piece(self.kind) else { return Ok(pattern.clone()) };
        Ok(pattern.clone().with(self.back_in_front(front, taken_in_at)?))
    }

    /// Where the bust dart was aside at the side seam, that seam is closed again: drawn smooth there, as long as it was.
    fn true_closed_side(&self, pattern: &mut Pattern) {
        let was_at_side = self.bust_dart.as_ref().is_some_and(|dart| dart.is_at_side);
        let front = pattern.pieces.iter_mut().find(|piece| piece.kind == self.kind);
        if let Some(front) = front.filter(|_| was_at_side) {
            true_closed_side(front);
        }
    }

    /// The front with the darts back in their places.
    ///
    /// # Errors
    ///
    /// [`AlterError::NotHere`] where a dart has no room any more.
    pub(super) fn back_in_front(&self, front: &Piece, taken_in_at: Option<f64>) -> Result<Piece, AlterError> {
        let mut piece = front.clone();
        if self.is_empty() {
            return Ok(piece);
        }
        if let Some(by) = self.lowered {
            lower(&mut piece, by);
        }
        if let Some(dart) = &self.bust_dart {
            piece = dart.turned_back(&piece, taken_in_at)?;
        }
        if let Some(outer) = &self.outer {
            outer.draw(&mut piece)?;
        }
        back_off_points(&mut piece);
        Ok(piece)
    }

    /// Says in the words of the stages what is turned aside first and back at the end.
    pub(super) fn tell(&self, done: &mut Altered) {
        if self.is_empty() {
            return;
        }
        done.work.moved_again = true;
        let words = &mut done.work.words;
        let mut first = Vec::new();
        let mut last = Vec::new();
        if let Some(dart) = &self.bust_dart {
            let place = dart.place.name();
            let from = if dart.is_at_side { "the side" } else { "the waist" };
            first.push(format!(
                "Fold the {place} shut and cut open to its pivot from {from}, so that its seam is whole."
            ));
            if !dart.is_at_side {
                let cut = |said: &String| said.replace("side dart", "cut from the waist");
                words.iter_mut().for_each(|(_, said)| *said = cut(said));
            }
            last.push(format!("Close what was cut open, so that the {place} opens again where it was."));
        }
        if self.outer.is_some() {
            first.push("Leave the outer waist dart unfolded.".to_owned());
            last.push("Draw the outer waist dart anew from its pivot, with equal legs.".to_owned());
        }
        if let Some((_, said)) = words.first_mut() {
            *said = { first.into_iter().chain([said.clone()]) }.collect::<Vec<_>>().join(" ");
        }
        if let Some((_, said)) = words.last_mut() {
            *said = { [said.clone()].into_iter().chain(last) }.collect::<Vec<_>>().join(" ");
        }
    }
}

/// Turns the bust dart out of the armhole, or out of the armhole or shoulder to the side.
fn bust_dart_aside(piece: &mut Piece, across: WorksAcross) -> Option<BustDart> {
    if piece.dart(DartPlace::Side).is_some() {
        return None;
    }
    let places: &[DartPlace] = match across {
        WorksAcross::Armhole => &[DartPlace::Armhole],
        _ => &[DartPlace::Armhole, DartPlace::Shoulder],
    };
    let place = *places.iter().find(|place| piece.dart(**place).is_some())?;
    let pivot = piece.dart(place)?.pivot;
    let new = match across {
        WorksAcross::Armhole => on_clear_waist(piece, pivot)?,
        _ => side_dart_place(piece, pivot)?,
    };
    let old = Cut::along(piece, place)?;
    let along = piece.length_before(old.before.edge + 1, place.seam());
    let seam = piece.flat_length(place.seam());
    let turn = old.dart.map_or(0.0, |(_, opening)| opening);
    let (_, turned) = turned_to(piece, pivot, turn, old, (Cut::at(new), DartPlace::Side)).ok()?;
    *piece = turned;
    Some(BustDart { place, is_at_side: across != WorksAcross::Armhole, along, seam })
}

impl BustDart {
    fn turned_back(&self, piece: &Piece, taken_in_at: Option<f64>) -> Result<Piece, AlterError> {
        let Some(aside) = Cut::along(piece, DartPlace::Side) else { return Ok(piece.clone()) };
        let pivot = piece.dart(DartPlace::Side).map_or(Point::ZERO, |dart| dart.pivot);
        // An armhole is named from the underarm, a shoulder from the tip; what is taken in below the dart leaves the part above.
        let rest = self.seam - self.along;
        let now = piece.flat_length(self.place.seam());
        let from_end = taken_in_at.is_none_or(|share| share * self.seam < self.along);
        let along = if from_end { now - rest } else { self.along };
        let place = at_length(piece, self.place.seam(), along)
            .filter(|_| (0.0..=now).contains(&along))
            .ok_or_else(|| AlterError::no_seam(self.place.seam()))?;
        let mut piece = piece.clone();
        if self.is_at_side {
            let waist = piece.waist_at_side();
            redraw_legs(&mut piece, DartPlace::Side, pivot, GivesWay::Second, waist)?;
        }
        let opens_at = piece.edges[place.edge].curve.point_at(place.along);
        end_short_of_curve(&mut piece, &Curve::line(pivot, opens_at));
        let aside = Cut::along(&piece, DartPlace::Side).unwrap_or(aside);
        let turn = aside.dart.map_or(0.0, |(_, opening)| opening);
        Ok(turned_to(&piece, pivot, turn, aside, (Cut::at(place), self.place))?.1)
    }
}

/// On the waist, clear of its darts: half-way between the waist dart and the next, or straight below.
fn on_clear_waist(piece: &Piece, pivot: Point) -> Option<Place> {
    let edges = piece.edges.iter().enumerate().filter(|(_, edge)| edge.seam == Seam::Waist);
    let middle = |(edge, found): (usize, &Edge)| Place { edge, along: found.curve.length() / 2.0 };
    let at = |place: &Place| piece.edges[place.edge].curve.point_at(place.along);
    let mut places: Vec<Place> = edges.map(middle).filter(|place| at(place).x > pivot.x).collect();
    places.sort_by(|a, b| at(a).x.total_cmp(&at(b).x));
    places.into_iter().find(|place| dart_across(piece, Line::new(pivot, at(place)), |_| true).is_none())
}

/// Takes the outer waist dart out: the waist runs on straight over its mouth.
fn lay_flat(piece: &mut Piece) -> Option<OuterDart> {
    let dart = piece.dart(DartPlace::WaistSide)?.clone();
    let leg = piece.first_leg(DartPlace::WaistSide)?;
    let (first, second) = piece.mouth(DartPlace::WaistSide)?;
    let from_side = piece.length_before(leg, Seam::Waist);
    let (underarm, down) = under_the_arm(piece)?;
    let to_pivot = dart.pivot - underarm;
    let flat = Edge::sewn(Seam::Waist, Curve::line(first, second));
    piece.edges.splice(leg..leg + 2, [flat]);
    piece.darts.retain(|each| each.place != DartPlace::WaistSide);
    *piece = piece.clone().merged_at(&[leg, leg + 1]);
    Some(OuterDart {
        mouths: (from_side, from_side + first.distance(second)),
        pivot: Vec2::new(to_pivot.dot(down), to_pivot.dot(quarter_turn(down))),
    })
}

/// The underarm, and the direction the side seam leaves it in.
fn under_the_arm(piece: &Piece) -> Option<(Point, Vec2)> {
    let side = piece.first_edge(Seam::Side)?;
    Some((piece.underarm(), piece.edges[side].curve.start_direction()))
}

impl OuterDart {
    /// Draws the dart again: its pivot went with the cloth under the arm, its mouths with the waist.
    fn draw(&self, piece: &mut Piece) -> Result<(), AlterError> {
        let no_waist = || AlterError::no_seam(Seam::Waist);
        let (underarm, down) = under_the_arm(piece).ok_or_else(|| AlterError::no_seam(Seam::Side))?;
        let pivot = underarm + down * self.pivot.x + quarter_turn(down) * self.pivot.y;
        let edge = piece.first_edge(Seam::Waist).ok_or_else(no_waist)?;
        let waist = piece.edges[edge].clone();
        let (first, second) = self.mouths;
        if second > waist.curve.length() - SAME {
            return Err(AlterError::not_here(
                "the outer waist dart has no room on the waist any more: split or move the waist dart first",
            ));
        }
        let towards_side = Edge { curve: waist.curve.between(0.0, first), ..waist.clone() };
        let towards_centre = Edge { curve: waist.curve.between(second, waist.curve.length()), ..waist };
        let (from, to) = (towards_side.curve.end(), towards_centre.curve.start());
        let place = DartPlace::WaistSide;
        let legs = [Edge::leg(place, from, pivot), Edge::leg(place, pivot, to)];
        let [in_leg, out_leg] = legs;
        piece.edges.splice(edge..=edge, [towards_side, in_leg, out_leg, towards_centre]);
        piece.darts.push(Dart { place, pivot, point: pivot });
        redraw_legs(piece, place, pivot, GivesWay::First, None)?;
        end_outer_dart_short(piece);
        Ok(())
    }
}

/// Ends the outer waist dart a little short of every dart it would run into.
pub(super) fn end_outer_dart_short(piece: &mut Piece) {
    let legs: Vec<Curve> = { piece.edges.iter() }
        .filter(|edge| edge.dart.is_some_and(|other| other.seam() != Seam::Waist))
        .map(|edge| edge.curve.clone())
        .collect();
    legs.iter().for_each(|leg| end_short_of_curve(piece, leg));
}

/// Ends the outer waist dart a little short of a curve that its axis crosses.
pub(super) fn end_short_of_curve(piece: &mut Piece, curve: &Curve) {
    let mouth = piece.mouth(DartPlace::WaistSide);
    let (Some(dart), Some((first, second))) = (piece.dart(DartPlace::WaistSide), mouth) else { return };
    let axis = Line::new(dart.pivot, first.midpoint(second));
    if let Some(along) = curve.crossing(axis) {
        let (at, down) = (curve.point_at(along), axis.p1 - axis.p0);
        piece.draw_legs_to(DartPlace::WaistSide, at + down / down.hypot() * SHORT_OF);
    }
}

/// Draws the waist dart up to the bust point where it ends a little below it; tells how far that is.
fn raised(piece: &mut Piece) -> Option<f64> {
    let bust = piece.bust_pivot()?;
    let (first, second) = piece.mouth(DartPlace::Waist)?;
    let dart = piece.dart(DartPlace::Waist)?;
    let below = dart.pivot.distance(bust);
    let is_on_axis = (first.distance(bust) - second.distance(bust)).abs() < SAME;
    if below < SAME || !points_at(dart, bust) || !is_on_axis {
        return None;
    }
    piece.draw_legs_to(DartPlace::Waist, bust);
    Some(below)
}

/// Ends the waist dart so far below the bust point, in the middle between its legs.
fn lower(piece: &mut Piece, by: f64) {
    let mouth = piece.mouth(DartPlace::Waist);
    if let (Some(dart), Some((first, second))) = (piece.dart(DartPlace::Waist), mouth) {
        let down = first.midpoint(second) - dart.pivot;
        let pivot = dart.pivot + down / down.hypot() * by;
        piece.draw_legs_to(DartPlace::Waist, pivot);
    }
}

#[cfg(test)]
mod tests {
    use kurbo::Affine;

    use super::*;

    #[test]
    fn a_quarter_turn_reads_a_place_beside_the_side_seam_both_ways() {
        let down = Vec2::new(0.6, 0.8);
        let (underarm, pivot) = (Point::new(200.0, 180.0), Point::new(150.0, 240.0));
        let to = pivot - underarm;
        let seen = Vec2::new(to.dot(down), to.dot(quarter_turn(down)));
        let found = underarm + down * seen.x + quarter_turn(down) * seen.y;
        assert!(found.distance(pivot) < 1e-9);
        // Where the cloth turns, the place turns with it.
        let by = Affine::rotate_about(0.3, underarm);
        let turned = (Affine::rotate(0.3) * down.to_point()).to_vec2();
        let found = underarm + turned * seen.x + quarter_turn(turned) * seen.y;
        assert!(found.distance(by * pivot) < 1e-9);
    }
}
