//! The shoulder: drawn to a new tip with its dart folded, and its corner at the armhole trued.

use kurbo::{Affine, Point, Vec2};

use super::piece::{DartPlace, Edge, Piece, Seam};
use super::truing::Trued;
use crate::geometry::{Curve, quarter_turn, turn_degrees, with_end_direction};

/// A tip this near to the shoulder's own line lies on it, in millimetres.
const ON_LINE: f64 = 1e-6;

/// Draws the shoulder from the neck side to a new tip, as it runs with its dart folded: straight where it ran straight, with
/// the corner it had at the dart where it had one.
///
/// The dart keeps its pivot and its angle; its legs are lengthened or shortened along themselves. A tip that moved along the
/// shoulder's own line leaves the dart as it is. Does nothing to a piece without a shoulder.
pub fn redraw_shoulder(piece: &mut Piece, tip: Point) {
    let Some(folded) = Folded::of(piece) else {
        draw_without_dart(piece, tip);
        return;
    };
    let own_line = folded.tip - folded.outer;
    if (tip - folded.outer).cross(own_line).abs() < ON_LINE * own_line.hypot() {
        piece.edges[folded.last] = Edge::sewn(Seam::Shoulder, Curve::line(folded.outer, tip));
        return;
    }
    let corner = folded.chord(folded.tip).cross(folded.inner - folded.start);
    folded.draw(piece, tip, corner);
}

/// Draws the shoulder to its tip from a neck side that was moved, with the corner at its dart that it had before.
pub fn redraw_shoulder_from(piece: &mut Piece, before: &Piece) {
    let tip = piece.tip();
    match (Folded::of(piece), Folded::of(before)) {
        (Some(folded), Some(old)) => {
            let corner = old.chord(old.tip).cross(old.inner - old.start);
            folded.draw(piece, tip, corner);
        }
        _ => draw_without_dart(piece, tip),
    }
}

/// Draws the shoulder straight from the neck side to its tip, as it runs with its dart folded.
pub fn straighten_shoulder(piece: &mut Piece) {
    let tip = piece.tip();
    match Folded::of(piece) {
        Some(folded) => folded.draw(piece, tip, 0.0),
        None => draw_without_dart(piece, tip),
    }
}

/// The direction from the neck side to the tip with the dart folded, as it lies at the tip.
pub fn shoulder_direction(piece: &Piece) -> Option<Vec2> {
    let Some(folded) = Folded::of(piece) else {
        return piece.last_edge(Seam::Shoulder).map(|index| piece.edges[index].curve.end_direction());
    };
    let chord = folded.chord(folded.tip);
    Some((Affine::rotate(-folded.closing) * chord.to_point()).to_vec2())
}

fn draw_without_dart(piece: &mut Piece, tip: Point) {
    if let Some(last) = piece.last_edge(Seam::Shoulder) {
        piece.edges[last] = Edge::sewn(Seam::Shoulder, Curve::line(piece.edges[last].curve.start(), tip));
    }
}

/// A shoulder with a dart, as it is folded: the outer half is brought to the inner one.
struct Folded {
    first: usize,
    last: usize,
    start: Point,
    tip: Point,
    inner: Point,
    outer: Point,
    pivot: Point,
    /// Turns the outer half onto the inner one, in radians.
    closing: f64,
}

impl Folded {
    fn of(piece: &Piece) -> Option<Self> {
        let (first, last) = (piece.first_edge(Seam::Shoulder)?, piece.last_edge(Seam::Shoulder)?);
        let (inner, outer) = piece.mouth(DartPlace::Shoulder).filter(|_| last == first + 3)?;
        let pivot = piece.dart(DartPlace::Shoulder)?.pivot;
        let closing = turn_degrees(outer - pivot, inner - pivot).to_radians();
        let (start, tip) = (piece.edges[first].curve.start(), piece.edges[last].curve.end());
        Some(Self { first, last, start, tip, inner, outer, pivot, closing })
    }

    /// The direction from the neck side to a tip, dart folded.
    fn chord(&self, tip: Point) -> Vec2 {
        let folded = Affine::rotate_about(self.closing, self.pivot) * tip;
        (folded - self.start) / self.start.distance(folded)
    }

    /// Draws the shoulder to a tip, its mouth so far off the folded line from the neck side to there.
    fn draw(&self, piece: &mut Piece, tip: Point, corner: f64) {
        // Where the folded shoulder crosses the inner leg, drawn on if need be.
        let (leg, along) = (self.inner - self.pivot, self.chord(tip));
        let across = along.cross(leg);
        if across.abs() < 1e-9 {
            return;
        }
        let inner = self.pivot + leg * ((corner - along.cross(self.pivot - self.start)) / across);
        let outer = Affine::rotate_about(-self.closing, self.pivot) * inner;
        piece.edges[self.first] = Edge::sewn(Seam::Shoulder, Curve::line(self.start, inner));
        piece.edges[self.first + 1] = Edge::leg(DartPlace::Shoulder, inner, self.pivot);
        piece.edges[self.first + 2] = Edge::leg(DartPlace::Shoulder, self.pivot, outer);
        piece.edges[self.last] = Edge::sewn(Seam::Shoulder, Curve::line(outer, tip));
    }
}

/// Restores the right angle at the neck side: the neckline's last `reach` is drawn anew so that it arrives
/// square to the shoulder. A corner that is square already is left alone.
pub fn true_neck_side(piece: &mut Piece, reach: f64) -> Trued {
    let untouched = Trued { seam: Seam::Neckline, moved: 0.0, lengthened: 0.0 };
    let (Some(neckline), Some(shoulder)) =
        (piece.last_edge(Seam::Neckline), piece.first_edge(Seam::Shoulder))
    else {
        return untouched;
    };
    let square = -quarter_turn(piece.edges[shoulder].curve.start_direction());
    let old = &piece.edges[neckline].curve;
    let Some(end) = with_end_direction(old, square, reach.min(old.length() * 2.0 / 3.0)) else {
        return untouched;
    };
    piece.edges[neckline].curve = end.curve;
    Trued { moved: end.moved, lengthened: end.lengthened, ..untouched }
}

/// Restores the right angle at the shoulder tip: the armhole's first `reach` is drawn anew so that it leaves
/// square to the shoulder. A corner that is square already is left alone.
pub fn true_tip(piece: &mut Piece, reach: f64) -> Trued {
    let untouched = Trued { seam: Seam::Armhole, moved: 0.0, lengthened: 0.0 };
    let (Some(shoulder), Some(armhole)) = (piece.last_edge(Seam::Shoulder), piece.first_edge(Seam::Armhole))
    else {
        return untouched;
    };
    let square = quarter_turn(piece.edges[shoulder].curve.end_direction());
    // Looked at from the other end: there it arrives at the shoulder.
    let old = piece.edges[armhole].curve.reversed();
    let Some(end) = with_end_direction(&old, -square, reach.min(old.length() / 2.0)) else {
        return untouched;
    };
    piece.edges[armhole].curve = end.curve.reversed();
    Trued { moved: end.moved, lengthened: end.lengthened, ..untouched }
}

#[cfg(test)]
mod tests {
    use super::super::piece::{Dart, PieceKind};
    use super::*;

    /// A back with a shoulder dart: the outer half turned so that the folded shoulder runs straight.
    fn back() -> Piece {
        let (start, inner, pivot) =
            (Point::new(70.0, 0.0), Point::new(130.0, 20.0), Point::new(125.0, 105.0));
        let open = Affine::rotate_about(8f64.to_radians(), pivot);
        let along = (inner - start) / start.distance(inner);
        let (outer, tip) = (open * inner, open * (inner + along * 60.0));
        let edges = vec![
            Edge::sewn(Seam::Neckline, Curve::line((0., 20.).into(), start)),
            Edge::sewn(Seam::Shoulder, Curve::line(start, inner)),
            Edge::leg(DartPlace::Shoulder, inner, pivot),
            Edge::leg(DartPlace::Shoulder, pivot, outer),
            Edge::sewn(Seam::Shoulder, Curve::line(outer, tip)),
            Edge::sewn(Seam::Armhole, Curve::line(tip, (240., 220.).into())),
            Edge::sewn(Seam::Side, Curve::line((240., 220.).into(), (220., 420.).into())),
            Edge::on_fold(Seam::CentreBack, Curve::line((220., 420.).into(), (0., 20.).into())),
        ];
        Piece {
            darts: vec![Dart { place: DartPlace::Shoulder, pivot, point: pivot }],
            ..Piece::bare(PieceKind::BODICE_BACK, edges, ((30., 60.).into(), (30., 380.).into()))
        }
    }

    fn folded_corner(piece: &Piece) -> f64 {
        let pivot = piece.darts[0].pivot;
        let (inner, outer) = piece.mouth(DartPlace::Shoulder).unwrap();
        let shut = turn_degrees(outer - pivot, inner - pivot).to_radians();
        let halves: Vec<&Edge> = piece.edges_of(Seam::Shoulder).collect();
        let after = (Affine::rotate(shut) * halves[1].curve.start_direction().to_point()).to_vec2();
        turn_degrees(halves[0].curve.end_direction(), after).abs()
    }

    #[test]
    fn a_shoulder_is_straight_to_its_new_tip_when_the_dart_is_folded() {
        let mut piece = back();
        assert!(folded_corner(&piece) < 1e-9);
        let tip = piece.tip() + kurbo::Vec2::new(6.0, 11.0);
        redraw_shoulder(&mut piece, tip);
        assert_eq!(piece.tip(), tip);
        assert!(folded_corner(&piece) < 1e-6, "{}", folded_corner(&piece));
        let (inner, outer) = piece.mouth(DartPlace::Shoulder).unwrap();
        let pivot = piece.darts[0].pivot;
        assert!((inner.distance(pivot) - outer.distance(pivot)).abs() < 1e-9, "legs are equal");
        assert!((turn_degrees(inner - pivot, outer - pivot).abs() - 8.0).abs() < 1e-9, "the angle stays");
    }

    #[test]
    fn corners_are_squared_and_their_cost_told() {
        let mut piece = back();
        let before = piece.flat_length(Seam::Armhole);
        let trued = true_tip(&mut piece, 40.0);
        let shoulder = piece.last_edge(Seam::Shoulder).unwrap();
        let square = quarter_turn(piece.edges[shoulder].curve.end_direction());
        let armhole = &piece.edges[shoulder + 1].curve;
        assert!(turn_degrees(armhole.start_direction(), square).abs() < 1e-9);
        assert!((piece.flat_length(Seam::Armhole) - before - trued.lengthened).abs() < 1e-6);
        assert!(trued.moved > 0.1);
        true_neck_side(&mut piece, 30.0);
        let square = -quarter_turn(piece.edges[1].curve.start_direction());
        assert!(turn_degrees(piece.edges[0].curve.end_direction(), square).abs() < 1e-9);
        // What is square already is left alone, to the last bit.
        let again = piece.clone();
        assert_eq!(true_tip(&mut piece, 40.0).moved, 0.0);
        true_neck_side(&mut piece, 30.0);
        assert_eq!(piece, again);
    }
}
