//! Full bust on a front that goes on below the waist: the dart between waist points opens, and the spread runs out to the
//! hem or is closed again at the hip (handbook: `alterations.md`, section 2).

use kurbo::{Line, Point, Vec2};

use super::AlterError;
use super::full_bust::{Marks, Opening, carry_bust_line};
use super::two_circles::{GivesWay, redraw_legs};
use super::work::PieceWork;
use crate::Style;
use crate::geometry::{Curve, hip_curve};
use crate::pattern::{
    DartPlace, Edge, Join, LevelName, Motion, Part, Piece, Place, Seam, Slash, SlashError, TwoPointedDart,
    true_kinks,
};

/// Truing reach at the hinge, in millimetres.
const HINGE_REACH: f64 = 12.0;
/// A waist dart that is made ends so far above the hip, in millimetres (as the draft's own).
const ABOVE_HIP: f64 = 90.0;
/// Stitching ends so far short of the upper point, in millimetres.
const BACK_OFF: f64 = 25.0;

/// What is asked of the front.
pub(super) struct Asked {
    /// How much wider one half becomes at the bust, in millimetres.
    pub(super) spread: f64,
    /// Where the hinge lies up the armhole, as a share from the underarm.
    pub(super) hinge_share: f64,
    /// Her own bust point, where it is known.
    pub(super) bust_point: Option<Point>,
    /// The spread is closed again at the hip; otherwise it runs out to the hem.
    pub(super) closes_at_hip: bool,
}

/// Whether a front goes on below the waist.
pub(super) fn goes_below(front: &Piece) -> bool {
    front.level(LevelName::Waist).is_some() && front.last_edge(Seam::Hem).is_some()
}

/// The front cut, taped and trued, and what its bust opened by.
pub(super) fn altered(
    front: &Piece,
    asked: &Asked,
    style: Style,
) -> Result<(PieceWork, Opening), AlterError> {
    let cuts = Cuts::mark(front, asked.hinge_share)?;
    let taken_up = cuts.dart.map(|(_, dart)| (dart.second, dart.first));
    let opened = Opening::of(&cuts.marks, taken_up, asked.spread, style)?;
    let slash = cuts.slash(&opened);
    let cut = slash.apply(front)?;
    let mut trued = cuts.with_waist_dart(cut.clone(), &opened, asked.spread, asked.bust_point);
    let taped = cuts.with_waist_dart(cut, &opened, asked.spread, None);
    carry_bust_line(&mut trued, front, &opened);
    true_kinks(&mut trued, Seam::Armhole, HINGE_REACH);
    let pivot = cuts.upper_point(&opened, asked.spread, asked.bust_point);
    let far = cuts.waist_side + opened.by;
    redraw_legs(&mut trued, DartPlace::Side, pivot, GivesWay::Second, Some(far))?;
    if asked.closes_at_hip {
        cuts.close_at_hip(&mut trued, &opened)?;
    }
    crate::pattern::back_off_points(&mut trued);
    Ok((PieceWork::cut(front, slash, taped, trued), opened))
}

/// The lines as they are marked.
struct Cuts {
    marks: Marks,
    on_hem: Place,
    on_centre: Place,
    /// Where line 3 meets line 1.
    crossing: Point,
    /// The dart at the waist that is there, and its place among those of the piece.
    dart: Option<(usize, TwoPointedDart)>,
    /// Where the waist lies at the centre and at the side.
    waist: Point,
    waist_side: Point,
    /// The hip at the side: a dress block ends there.
    hip: Point,
}

impl Cuts {
    fn mark(front: &Piece, hinge_share: f64) -> Result<Self, AlterError> {
        let marks = Marks::of(front, hinge_share)?;
        let bust = marks.bust;
        let edge_of = |seam| front.first_edge(seam).ok_or(SlashError::NoSeam(seam));
        let level = front.level(LevelName::Waist).map(|level| level.points.as_slice());
        let Some(&[waist, .., waist_side]) = level else {
            return Err(SlashError::NoSeam(Seam::Waist).into());
        };
        let hem = edge_of(Seam::Hem)?;
        let plumb = Line::new(bust, (bust.x, bust.y + 3000.0));
        let on_hem = front.edges[hem].curve.crossing(plumb).ok_or(SlashError::NoSeam(Seam::Hem))?;
        let centre = edge_of(Seam::CentreFront)?;
        let below = bust.y.midpoint(waist.y);
        let on_centre =
            front.edges[centre].curve.crossing_level(below).ok_or(SlashError::NoSeam(Seam::CentreFront))?;
        Ok(Self {
            marks,
            on_hem: Place { edge: hem, along: on_hem },
            on_centre: Place { edge: centre, along: on_centre },
            crossing: Point::new(bust.x, below),
            dart: { front.two_pointed.iter().copied().enumerate() }
                .find(|(_, dart)| (dart.upper.x - bust.x).abs() < 1.0),
            waist,
            waist_side,
            hip: front.edges[hem].curve.start(),
        })
    }

    fn slash(&self, opened: &Opening) -> Slash {
        let (hem, centre) = if opened.by.x < 0.0 {
            (Join::Lap, Join::Lap)
        } else {
            (Join::Gap(Seam::Hem), Join::Gap(Seam::CentreFront))
        };
        let part = |from, to, inner, motion| Part { from, to, inner, motion };
        let [above, beside] = self.marks.above(self.on_centre, self.crossing, opened);
        let down = Motion::Shift(Vec2::new(0.0, opened.by.y));
        Slash {
            parts: vec![
                above,
                beside,
                (part(self.marks.side.1, self.on_hem, vec![self.marks.bust], Motion::Shift(opened.by)), hem),
                (part(self.on_hem, self.on_centre, vec![self.crossing], down), centre),
            ],
        }
    }

    /// Half-way into the opening, or at her own bust point.
    fn upper_point(&self, opened: &Opening, spread: f64, own: Option<Point>) -> Point {
        own.unwrap_or(Point::new(self.marks.bust.x + spread / 2.0, opened.bust.y))
    }

    /// The dart at the waist wider by the spread, so that the sewn waist stays; where there is none, one is made.
    fn with_waist_dart(&self, mut piece: Piece, opened: &Opening, spread: f64, own: Option<Point>) -> Piece {
        let down = Vec2::new(0.0, opened.by.y);
        let made = || {
            let lower = self.hip.y - ABOVE_HIP;
            let mouth = Point::new(self.marks.bust.x, self.waist.y);
            TwoPointedDart {
                upper: self.marks.bust,
                lower: Point::new(self.marks.bust.x, lower),
                first: mouth,
                second: mouth,
                point: self.marks.bust,
            }
        };
        let old = self.dart.map_or_else(made, |(_, dart)| dart);
        let upper = self.upper_point(opened, spread, own);
        // Both mouths lie half the intake to either side of the upper point, so that all four legs are equal in pairs.
        let aside = upper.x - (self.marks.bust.x + spread / 2.0);
        let along = Vec2::new(aside, 0.0);
        let dart = TwoPointedDart {
            upper,
            lower: Point::new(upper.x, old.lower.y + opened.by.y),
            first: old.first + down + along,
            second: old.second + opened.by + along,
            point: upper + Vec2::new(0.0, BACK_OFF),
        };
        let place = self.dart.map_or(piece.two_pointed.len(), |(place, _)| place);
        piece.two_pointed.splice(place..piece.two_pointed.len().min(place + 1), [dart]);
        piece
    }

    /// Below the waist the side comes back to where it was at the hip, by the block's own hip curve; what that changes of
    /// the seam is given back at the side of the hem.
    fn close_at_hip(&self, piece: &mut Piece, opened: &Opening) -> Result<(), AlterError> {
        let hip = self.hip;
        let (waist, drop) = (self.waist_side + opened.by, Vec2::new(0.0, opened.by.y));
        let to = hip + drop;
        if opened.by.x > hip.x - self.waist_side.x {
            return Err(AlterError::not_here(
                "closed at the hip the side would go in below the waist: let the spread run out to the hem",
            ));
        }
        let (side, hem) = piece
            .last_edge(Seam::Side)
            .zip(piece.last_edge(Seam::Hem))
            .ok_or(SlashError::NoSeam(Seam::Side))?;
        let old = piece.edges[side].curve.clone();
        let length = old.length();
        let upper = old.between(0.0, old.nearest(waist)).with_end(waist);
        // Below the hip the seam comes back as a whole.
        let back = kurbo::Affine::translate((-opened.by.x, 0.0));
        let at_hip = old.nearest(hip + opened.by);
        let mut drawn = upper.then(hip_curve(waist, to));
        if at_hip < length - 1e-6 {
            drawn = drawn.then(old.between(at_hip, length).transformed(back));
        }
        let over = drawn.length() - length;
        let end = drawn.end();
        let onwards = drawn.end_direction();
        drawn = if over > 0.0 {
            drawn.split(drawn.length() - over).0
        } else {
            drawn.then(Curve::line(end, end - onwards * over))
        };
        let end = drawn.end();
        piece.edges[side].curve = drawn;
        // The hem is level at the centre and square at the side.
        let centre = piece.edges[hem].curve.end();
        let third = end.distance(centre) / 3.0;
        let square = Vec2::new(onwards.y, -onwards.x) * -1.0;
        let leaving = if square.x < 0.0 { square } else { -square };
        piece.edges[hem] = Edge {
            curve: Curve::cubic(end, end + leaving * third, centre + Vec2::new(third, 0.0), centre),
            ..piece.edges[hem].clone()
        };
        Ok(())
    }
}

#[cfg(test)]
mod tests {
    use kurbo::Affine;

    use super::*;
    use crate::geometry::{circles_meet, turn_degrees};

    /// Worked figures (handbook: `alterations.md`, section 4), full bust on a dress.
    #[test]
    fn the_darts_go_where_the_worked_figure_says() {
        let at = |x: f64, y: f64| Point::new(x, y);
        let (bust, hinge, d) = (at(95., 270.), at(185., 190.), 20.0);
        let (m1, m2, n) = (at(261.168, 262.447), at(261.096, 278.993), at(244.917, 440.));
        let place = Place::start_of(0);
        let dart = TwoPointedDart {
            upper: bust,
            lower: at(95., 555.),
            first: at(77.917, 440.),
            second: at(112.083, 440.),
            point: bust,
        };
        let cuts = Cuts {
            marks: Marks { bust, hinge, on_armhole: place, side: (place, place), side_mouth: Some((m1, m2)) },
            on_hem: place,
            on_centre: place,
            crossing: at(95., 355.),
            dart: Some((0, dart)),
            waist: at(0., 440.),
            waist_side: n,
            hip: at(277., 645.),
        };
        let opened = Opening::of(&cuts.marks, Some((dart.second, dart.first)), d, Style::TENTHS).unwrap();
        assert!(opened.bust.distance(at(115., 287.980)) < 1e-3, "{:?}", opened.bust);
        assert!((opened.turn.to_degrees() + 12.823).abs() < 1e-3);
        let v = cuts.upper_point(&opened, d, None);
        assert!(v.distance(at(105., 287.980)) < 1e-3);
        let upper_mouth = Affine::rotate_about(opened.turn, hinge) * m1;
        assert!(upper_mouth.distance(at(275.347, 243.735)) < 2e-3, "{upper_mouth:?}");
        let far = n + opened.by;
        let meet = circles_meet(v, v.distance(upper_mouth), far, n.distance(m2)).unwrap();
        let lower = m2 + opened.by;
        let to = meet.into_iter().min_by(|a, b| a.distance(lower).total_cmp(&b.distance(lower))).unwrap();
        assert!(to.distance(at(280.771, 296.940)) < 2e-3, "{to:?}");
        assert!(turn_degrees(lower - far, to - far).abs() < 6.0);
        // Closed at the hip: hip and hem stay, and the seam becomes shorter by the worked figure.
        let seam = |waist, hip| hip_curve(waist, hip).length();
        let down = Vec2::new(0.0, opened.by.y);
        let changed = seam(far, cuts.hip + down) - seam(n, cuts.hip);
        assert!((changed + 2.555).abs() < 2e-3, "{changed}");
    }
}
