//! Truing: what makes a cut and moved piece sewable again.

use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::check::WAIST_DART_LIMIT;
use super::measure::side_to_waist;
use super::piece::{DartPlace, Edge, LevelName, Piece, PieceKind, Seam};
use crate::geometry::{
    Curve, NO_CORNER, SAME_POINT, house_curve, quarter_turn, turn_degrees, with_end_direction,
};
use crate::{Natural, Unit};

/// What truing did to a seam.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Trued {
    /// The seam.
    pub seam: Seam,
    /// The furthest the line was moved, in millimetres.
    pub moved: f64,
    /// The change of its length, in millimetres.
    pub lengthened: f64,
}

/// Blends every corner inside the edges of `seam` over `reach` to either side.
pub fn true_kinks(piece: &mut Piece, seam: Seam, reach: f64) -> Trued {
    let mut report = Trued { seam, moved: 0.0, lengthened: 0.0 };
    for edge in piece.edges.iter_mut().filter(|edge| edge.seam == seam) {
        let before = edge.curve.length();
        // Each pass removes one corner; a curve has few.
        for _ in 0..edge.curve.segments().len() {
            let sharpest = edge.curve.corners().into_iter().max_by(|a, b| a.1.abs().total_cmp(&b.1.abs()));
            let Some((at, _)) = sharpest.filter(|(_, turn)| turn.abs() > NO_CORNER) else { break };
            let (smooth, moved) = blended(&edge.curve, at, reach);
            edge.curve = smooth;
            report.moved = report.moved.max(moved);
        }
        report.lengthened += edge.curve.length() - before;
    }
    report
}

fn blended(curve: &Curve, at: f64, reach: f64) -> (Curve, f64) {
    let corner = curve.point_at(at);
    let (from, to) = ((at - reach).max(0.0), (at + reach).min(curve.length()));
    let (head, tail) = (curve.between(0.0, from), curve.between(to, curve.length()));
    let bridge = house_curve(
        curve.point_at(from),
        curve.direction_at(from),
        curve.point_at(to),
        curve.direction_at(to),
    );
    let moved = bridge.curve.point_at(bridge.curve.nearest(corner)).distance(corner);
    let mut smooth = if from > SAME_POINT { head.then(bridge.curve) } else { bridge.curve };
    if to < curve.length() - SAME_POINT {
        smooth = smooth.then(tail);
    }
    (smooth, moved)
}

/// Gives a dart a new pivot: legs re-drawn, the shorter lengthened along itself, and that piece of
/// seam re-drawn to its far end.
pub fn redraw_dart(piece: &mut Piece, place: DartPlace, pivot: Point) {
    let Some((first, second)) = piece.mouth(place) else { return };
    let leg = first.distance(pivot).max(second.distance(pivot));
    let lengthened = |end: Point| pivot + (end - pivot) * (leg / end.distance(pivot));
    let legs: Vec<usize> = (0..piece.edges.len()).filter(|&i| piece.edges[i].dart == Some(place)).collect();
    let &[to_pivot, from_pivot] = legs.as_slice() else { return };
    let (first, second) = (lengthened(first), lengthened(second));
    piece.edges[to_pivot] = Edge::leg(place, first, pivot);
    piece.edges[from_pivot] = Edge::leg(place, pivot, second);
    let before = (to_pivot + piece.edges.len() - 1) % piece.edges.len();
    let after = (from_pivot + 1) % piece.edges.len();
    piece.edges[before].curve = ended_at(&piece.edges[before].curve, first);
    piece.edges[after].curve = ended_at(&piece.edges[after].curve.reversed(), second).reversed();
    if let Some(dart) = piece.darts.iter_mut().find(|dart| dart.place == place) {
        dart.pivot = pivot;
    }
}

/// The line with its end elsewhere: a straight one stays straight, a curve is bent over its length.
fn ended_at(curve: &Curve, end: Point) -> Curve {
    if curve.end().distance(end) < SAME_POINT {
        return curve.clone().with_end(end);
    }
    if curve.is_straight() {
        return Curve::line(curve.start(), end);
    }
    crate::geometry::reshape_start(&curve.reversed(), end - curve.end(), curve.length()).reversed()
}

/// Restores the right angle under the arm: the armhole's last `reach` is drawn anew so that it arrives
/// square to its own side seam. A corner that is square already is left alone.
pub fn true_underarm(piece: &mut Piece, reach: f64) -> Trued {
    let untouched = Trued { seam: Seam::Armhole, moved: 0.0, lengthened: 0.0 };
    let Some(armhole) = piece.edges.iter().rposition(|edge| edge.seam == Seam::Armhole) else {
        return untouched;
    };
    let Some(side) = piece.edges.get(armhole + 1).filter(|edge| edge.seam == Seam::Side) else {
        return untouched;
    };
    let square = -quarter_turn(side.curve.start_direction());
    let Some(end) = with_end_direction(&piece.edges[armhole].curve, square, reach) else { return untouched };
    piece.edges[armhole].curve = end.curve;
    Trued { moved: end.moved, lengthened: end.lengthened, ..untouched }
}

/// Takes off at the lower end of the side seam what drawing a dart to another point has cost its sewn length.
pub fn keep_side_length(piece: &mut Piece, length: f64) {
    let over = piece.sewn_length(Seam::Side) - length;
    let Some(lower) = piece.last_edge(Seam::Side).filter(|_| over.abs() > SAME_POINT) else { return };
    let curve = piece.edges[lower].curve.clone();
    let (end, onwards) = (curve.end(), curve.end_direction());
    piece.edges[lower].curve = if curve.is_line() {
        Curve::line(curve.start(), end - onwards * over)
    } else if over > 0.0 {
        curve.split(curve.length() - over).0
    } else {
        curve.then(Curve::line(end, end - onwards * over))
    };
    let moved = piece.edges[lower].curve.end();
    let next = (lower + 1) % piece.edges.len();
    piece.edges[next].curve = ended_at(&piece.edges[next].curve.reversed(), moved).reversed();
}

/// A side seam that is sewn shut where a dart was is drawn smooth so far either way, in millimetres.
const CLOSED_REACH: f64 = 30.0;

/// Draws the side seam smooth where a dart that lay in it was closed, as long as it was.
pub fn true_closed_side(piece: &mut Piece) {
    let (length, to_waist) = (piece.sewn_length(Seam::Side), side_to_waist(piece));
    true_kinks(piece, Seam::Side, CLOSED_REACH);
    keep_side_length(piece, length);
    // The waist is marked along the sewn line, where the piece goes on below it.
    let shorter = to_waist - side_to_waist(piece);
    let last = piece.last_edge(Seam::Side).map(|index| piece.edges[index].curve.clone());
    let waist = piece.levels.iter_mut().find(|level| level.name == LevelName::Waist);
    if let (Some(curve), Some(mark)) = (last, waist.and_then(|level| level.points.last_mut())) {
        *mark = curve.point_at(curve.nearest(*mark) + shorter);
    }
}

/// How far stitching ends short of the pivot, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct BackOff {
    /// Of a dart that shapes the bust.
    pub front: f64,
    /// Of any other.
    pub back: f64,
    /// Of a dart in the back's shoulder or neck.
    pub shoulder: f64,
}

impl BackOff {
    /// As the trade has it (common practice, no source).
    pub const USUAL: Self = Self { front: 25.0, back: 12.0, shoulder: 10.0 };

    /// The same as a house with this unit marks it by hand: 1 in, 1/2 in and 3/8 in.
    pub const fn by_hand(unit: Unit) -> Self {
        Self {
            front: Natural::new(1.0, Self::USUAL.front).in_unit(unit),
            back: Natural::new(0.5, Self::USUAL.back).in_unit(unit),
            shoulder: Natural::new(0.375, Self::USUAL.shoulder).in_unit(unit),
        }
    }

    fn of(&self, kind: PieceKind, place: DartPlace) -> f64 {
        match (kind, place) {
            (kind, _) if kind.shapes_bust() => self.front,
            (_, DartPlace::Shoulder | DartPlace::Neckline) => self.shoulder,
            _ => self.back,
        }
    }
}

/// Marks every dart's point as the trade does: on the middle line of the dart, backed off from the pivot.
pub fn back_off_points(piece: &mut Piece) {
    back_off_points_by(piece, &BackOff::USUAL);
}

/// The same, by other lengths.
pub fn back_off_points_by(piece: &mut Piece, by: &BackOff) {
    let kind = piece.kind;
    let mouths: Vec<_> = piece.darts.iter().map(|dart| piece.mouth(dart.place)).collect();
    for (dart, mouth) in piece.darts.iter_mut().zip(mouths) {
        let Some((first, second)) = mouth else { continue };
        let to_mouth = first.midpoint(second) - dart.pivot;
        dart.point = dart.pivot + to_mouth / to_mouth.hypot() * by.of(kind, dart.place);
    }
}

/// Draws the waist anew as it runs with the dart folded: level at the centre, no corner at the dart. What the drawn line
/// is longer than the one it takes the place of is given back in the dart, or at the side where there is none: the sewn
/// waist stays what was asked.
pub fn true_waist(piece: &mut Piece) {
    true_waist_to(piece, piece.sewn_length(Seam::Waist));
}

/// As [`true_waist`], to a sewn waist of so many millimetres on this piece.
pub fn true_waist_to(piece: &mut Piece, asked: f64) {
    draw_waist(piece);
    // Each time what is left is a small part of what was.
    for _ in 0..12 {
        let over = piece.sewn_length(Seam::Waist) - asked;
        if over.abs() < GIVEN_BACK || give_back(piece, over).is_none() {
            break;
        }
        draw_waist(piece);
    }
}

/// What truing may leave of what it added to a piece's waist, in millimetres.
const GIVEN_BACK: f64 = 0.01;

/// Takes so much off the waist: the dart's leg on the side is turned out by it, or the side's end moved in.
fn give_back(piece: &mut Piece, over: f64) -> Option<()> {
    let dart = piece.darts.iter().find(|dart| dart.place == DartPlace::Waist).map(|dart| dart.pivot);
    // A dart at its limit takes no more.
    let mouth = piece.mouth(DartPlace::Waist).map_or(0.0, |(first, second)| first.distance(second));
    let has_room = over < 0.0 || mouth > WAIST_DART_LIMIT || mouth + over <= WAIST_DART_LIMIT;
    let Some(pivot) = dart.filter(|_| has_room) else {
        let first = piece.first_edge(Seam::Waist)?;
        let before = first.checked_sub(1)?;
        let waist = &piece.edges[first].curve;
        let end = waist.start() + waist.start_direction() * over;
        piece.edges[first].curve = waist.clone().with_start(end);
        let side = piece.sewn_length(Seam::Side);
        piece.edges[before].curve = ended_at(&piece.edges[before].curve, end);
        keep_side_length(piece, side);
        return Some(());
    };
    let (side, centre) = piece.mouth(DartPlace::Waist)?;
    let wider = turn_degrees(centre - pivot, side - pivot).signum();
    let turn = Affine::rotate_about(wider * over / pivot.distance(side), pivot);
    let leg = (0..piece.edges.len()).find(|&index| piece.edges[index].dart == Some(DartPlace::Waist))?;
    let end = turn * side;
    piece.edges[leg].curve = Curve::line(end, pivot);
    let before = leg.checked_sub(1)?;
    piece.edges[before].curve = piece.edges[before].curve.clone().with_end(end);
    Some(())
}

/// The line of the waist with its darts folded. The ends of the legs and of the side seam stay; only the line between
/// them bends.
fn draw_waist(piece: &mut Piece) {
    let waist: Vec<usize> = (0..piece.edges.len()).filter(|&i| piece.edges[i].seam == Seam::Waist).collect();
    let level = Vec2::new(-1.0, 0.0);
    match *waist.as_slice() {
        [only] => {
            let curve = &piece.edges[only].curve;
            let (from, to) = (curve.start(), curve.end());
            piece.edges[only].curve = drawn(from, unit(unit(to - from) * 2.0 - level), to, level);
        }
        [side, centre] => {
            let Some(pivot) = piece.dart(DartPlace::Waist).map(|dart| dart.pivot) else { return };
            let (n, q) = (piece.edges[side].curve.start(), piece.edges[side].curve.end());
            let (p, c) = (piece.edges[centre].curve.start(), piece.edges[centre].curve.end());
            let opening = turn_degrees(p - pivot, q - pivot).to_radians();
            let turned = |v: Vec2, by: f64| (Affine::rotate(by) * v.to_point()).to_vec2();
            // Over the fold the line goes on as it came from the centre, leaning a little to the side:
            // most of the bend lies beside the dart, where a waist is drawn round.
            let folded = turned(unit(q - n), -opening);
            let common = unit(unit(c - p) * 3.0 + folded);
            let (leaving, arriving) = (unit(q - n), turned(common, opening));
            piece.edges[side].curve = drawn(n, leaving, q, arriving);
            piece.edges[centre].curve = drawn(p, common, c, level);
        }
        _ => {
            // Several darts: square to every leg, so that it is smooth whichever is folded.
            let inward = |end: Point, other: Point| unit(other - end);
            for &index in &waist {
                let count = piece.edges.len();
                let (before, after) =
                    (&piece.edges[(index + count - 1) % count], &piece.edges[(index + 1) % count]);
                let curve = &piece.edges[index].curve;
                let (from, to) = (curve.start(), curve.end());
                let along = unit(to - from);
                let square_to = |leg: Vec2| {
                    let square = quarter_turn(leg);
                    if square.dot(along) < 0.0 { -square } else { square }
                };
                let leaving = match before.dart {
                    Some(_) => square_to(inward(before.curve.end(), before.curve.start())),
                    None => along,
                };
                let arriving = match after.dart {
                    Some(_) => square_to(inward(after.curve.start(), after.curve.end())),
                    None => level,
                };
                let line = drawn(from, leaving, to, arriving);
                piece.edges[index].curve = line;
            }
        }
    }
}

fn drawn(from: Point, leaving: Vec2, to: Point, arriving: Vec2) -> Curve {
    let third = from.distance(to) / 3.0;
    Curve::cubic(from, from + leaving * third, to - arriving * third, to)
}

fn unit(v: Vec2) -> Vec2 {
    v / v.hypot()
}

/// The outline with every dart's mouth capped as it must be cut: folded, then cut along the seam.
///
/// Waist and shoulder darts are folded towards the centre, side darts downwards (common practice), unless the piece says otherwise.
/// Each entry is the seam whose allowance the line takes, and the line.
pub fn capped_outline(piece: &Piece) -> Vec<(Edge, Option<DartPlace>)> {
    let count = piece.edges.len();
    let mut outline = Vec::with_capacity(count);
    let mut index = 0;
    while index < count {
        let edge = &piece.edges[index];
        let capped = edge.dart.and_then(|place| {
            let after = &piece.edges[(index + 2) % count];
            let before = &piece.edges[(index + count - 1) % count];
            cap(piece, place, before, after)
        });
        match (edge.dart, capped) {
            (Some(place), Some((first, apex, second))) => {
                let sewn = |a, b| Edge::sewn(place.seam(), Curve::line(a, b));
                outline.push((sewn(first, apex), Some(place)));
                outline.push((sewn(apex, second), Some(place)));
                index += 2;
            }
            _ => {
                outline.push((edge.clone(), None));
                index += 1;
            }
        }
    }
    outline
}

fn cap(piece: &Piece, place: DartPlace, before: &Edge, after: &Edge) -> Option<(Point, Point, Point)> {
    let (first, second) = piece.mouth(place)?;
    let pivot = piece.dart(place)?.pivot;
    let to_first = match place {
        // A skirt's waist is travelled away from the centre.
        DartPlace::Waist | DartPlace::WaistSide if piece.kind.is_skirt() => true,
        // A sleeve's back seam is travelled upwards: the lower mouth comes first.
        DartPlace::Shoulder | DartPlace::Neckline | DartPlace::Centre | DartPlace::Elbow => true,
        DartPlace::Side
        | DartPlace::Waist
        | DartPlace::WaistSide
        | DartPlace::Armhole
        | DartPlace::UnderBust
        | DartPlace::UnderBustSide => false,
    };
    let (from, seam) = if to_first == piece.stitching(place).other_way {
        (second, after.curve.start_direction())
    } else {
        (first, -before.curve.end_direction())
    };
    let leg = unit(from - pivot);
    let mirrored = leg * (2.0 * seam.dot(leg)) - seam;
    let middle = unit(unit(first - pivot) + unit(second - pivot));
    let across = mirrored.cross(middle);
    let middle_of_mouth = first.midpoint(second);
    let apex = if across.abs() < 1e-6 {
        middle_of_mouth
    } else {
        from + mirrored * ((pivot - from).cross(middle) / across)
    };
    // A very flat dart would throw its cap far out: cut such a one straight.
    let far = apex.distance(middle_of_mouth) > first.distance(second) * 2.0 + 5.0;
    Some((first, if far { middle_of_mouth } else { apex }, second))
}

#[cfg(test)]
mod tests {
    use super::super::piece::Dart;
    use super::super::stitching::DartStitching;
    use super::*;

    /// A waist with one dart: pivot (90, 265), legs of 165, mouth 32, on a square front.
    fn darted() -> Piece {
        let pivot = Point::new(90.0, 265.0);
        let half = (16.0f64 / 165.0).asin();
        let leg = |sign: f64| pivot + Vec2::new(sign * half.sin(), half.cos()) * 165.0;
        let (side, centre) = (leg(1.0), leg(-1.0));
        let corner = |x: f64| Point::new(x, side.y);
        let edges = vec![
            Edge::sewn(Seam::Neckline, Curve::line((0., 0.).into(), (70., 0.).into())),
            Edge::sewn(Seam::Armhole, Curve::line((70., 0.).into(), (230., 150.).into())),
            Edge::sewn(Seam::Side, Curve::line((230., 150.).into(), corner(230.0))),
            Edge::sewn(Seam::Waist, Curve::line(corner(230.0), side)),
            Edge::leg(DartPlace::Waist, side, pivot),
            Edge::leg(DartPlace::Waist, pivot, centre),
            Edge::sewn(Seam::Waist, Curve::line(centre, corner(0.0))),
            Edge::on_fold(Seam::CentreFront, Curve::line(corner(0.0), (0., 0.).into())),
        ];
        Piece {
            darts: vec![Dart { place: DartPlace::Waist, pivot, point: pivot }],
            ..Piece::bare(PieceKind::BODICE_FRONT, edges, ((30., 40.).into(), (30., 300.).into()))
        }
    }

    #[test]
    fn a_moved_pivot_lengthens_the_shorter_leg_along_itself() {
        let mut piece = darted();
        let (side, centre) = piece.mouth(DartPlace::Waist).unwrap();
        let pivot = Point::new(80.0, 255.0);
        redraw_dart(&mut piece, DartPlace::Waist, pivot);
        let (new_side, new_centre) = piece.mouth(DartPlace::Waist).unwrap();
        assert!((new_side.distance(pivot) - new_centre.distance(pivot)).abs() < 1e-9);
        assert_eq!(new_side, side, "the longer leg stays where it is");
        let along = (new_centre - pivot).cross(centre - pivot) / pivot.distance(centre);
        assert!(along.abs() < 1e-9 && new_centre.distance(pivot) > centre.distance(pivot));
        assert!(piece.is_closed());
    }

    #[test]
    fn stitching_ends_an_inch_short_in_front() {
        let mut piece = darted();
        back_off_points(&mut piece);
        let dart = &piece.darts[0];
        assert!((dart.point.distance(dart.pivot) - 25.0).abs() < 1e-9);
        assert!(dart.point.y > dart.pivot.y, "towards the mouth");
    }

    #[test]
    fn a_folded_dart_shows_a_waist_without_a_corner() {
        let mut piece = darted();
        let before = piece.sewn_length(Seam::Waist);
        true_waist(&mut piece);
        let waist: Vec<&Edge> = piece.edges_of(Seam::Waist).collect();
        let pivot = piece.darts[0].pivot;
        let (side, centre) = piece.mouth(DartPlace::Waist).unwrap();
        let closing = turn_degrees(side - pivot, centre - pivot);
        let arriving = turn_degrees(Vec2::new(1.0, 0.0), waist[0].curve.end_direction()) + closing;
        let leaving = turn_degrees(Vec2::new(1.0, 0.0), waist[1].curve.start_direction());
        let corner = (arriving - leaving).rem_euclid(360.0).min((leaving - arriving).rem_euclid(360.0));
        assert!(corner < 1e-6, "{corner}");
        assert_eq!(waist[1].curve.end_direction(), Vec2::new(-1.0, 0.0), "level at the centre");
        assert!((piece.sewn_length(Seam::Waist) - before).abs() < 1.0);
    }

    #[test]
    fn a_kink_is_smoothed_and_its_cost_told() {
        let mut piece = darted();
        let bent = Curve::polyline(&[(70., 0.).into(), (140., 60.).into(), (230., 150.).into()]).unwrap();
        let length = bent.length();
        piece.edges[1].curve = bent;
        let told = true_kinks(&mut piece, Seam::Armhole, 12.0);
        let armhole = &piece.edges[1].curve;
        assert!(armhole.corners().iter().all(|(_, turn)| turn.abs() <= NO_CORNER));
        assert!((armhole.length() - length - told.lengthened).abs() < 1e-9);
        assert!(told.moved > 0.0 && told.moved < 2.0, "{told:?}");
    }

    #[test]
    fn the_underarm_is_squared_and_a_square_one_left_alone() {
        let mut piece = darted();
        true_underarm(&mut piece, 40.0);
        let (arm, side) = (&piece.edges[1].curve, &piece.edges[2].curve);
        assert!(arm.end_direction().dot(side.start_direction()).abs() < 1e-9);
        assert_eq!(arm.end(), side.start());
        let squared = piece.clone();
        let told = true_underarm(&mut piece, 40.0);
        assert_eq!((told.lengthened, &piece), (0.0, &squared));
    }

    /// Folding the cap over a leg must lay it on the seam: mirrored over the leg it falls on the waist.
    #[test]
    fn a_cap_folds_onto_its_seam_on_either_side() {
        for other_way in [false, true] {
            let mut piece = darted();
            piece.stitch(DartStitching { place: DartPlace::Waist, bow: 0.0, other_way });
            let outline = capped_outline(&piece);
            let caps: Vec<&Edge> =
                outline.iter().filter(|(_, of)| of.is_some()).map(|(edge, _)| edge).collect();
            let [first, second] = caps.as_slice() else { panic!("{caps:?}") };
            let apex = first.curve.end();
            // The waist is travelled from the side to the centre.
            let (at, seam) = if other_way {
                (first.curve.start(), piece.edges[3].curve.end_direction())
            } else {
                (second.curve.end(), piece.edges[6].curve.start_direction())
            };
            let leg = unit(at - piece.darts[0].pivot);
            let over = at + (leg * (2.0 * (apex - at).dot(leg)) - (apex - at));
            assert!((over - at).cross(seam).abs() < 1e-9, "{over:?}");
            // It lies on the seam that goes on from there, not under the dart.
            let onwards = if other_way { -seam } else { seam };
            assert!((over - at).dot(onwards) > 0.0, "{over:?} lies beside the seam");
        }
    }
}
