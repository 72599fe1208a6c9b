//! Front balance: what the front is longer over the bust than the back asks for, let in (or folded out) along a cut from
//! centre front to the bust point and on along the side dart (handbook: `alterations.md`, section 2).
//!
//! Everything below the cut shifts straight down; the side dart takes what opened at the side, so that the sewn side stays
//! as long as the back's.

use kurbo::{Point, Vec2};

use super::keeps::{BACK, GIRTHS, Keeps};
use super::pivot::{has_whole_front, side_dart_place};
use super::two_circles::{GivesWay, redraw_legs};
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::pattern::{
    Cut, DartPlace, Join, Motion, Part, Pattern, PatternMeasure, Piece, Place, Seam, Slash, SlashError,
    back_off_points,
};

/// Pivots nearer than this are one point, in millimetres.
const SAME_PIVOT: f64 = 1.0;
/// The side bends at the dart; from this on it is said, in degrees.
const BEND_SAID: f64 = 8.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Longer over the bust",
    MeasuredOn::Here,
    (-30.0, 50.0),
    "How much longer the front becomes at the centre, from the bust down. Negative folds it out.",
)];

const ABOUT: About = About {
    code: "front_balance",
    name: "Front balance",
    why: "The front hikes at the centre, or is too long over the bust, while the bust girth fits: front and back hang out of balance.",
    params: &PARAMS,
    seams: &[Seam::CentreFront, Seam::Side, Seam::DartLeg],
    wants: "front balance is let in over the bust of a whole front: this pattern has none",
    layer: Layer::Balance,
};

/// Length let in over the bust, or folded out.
pub(super) struct FrontBalance;

impl Alteration for FrontBalance {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        has_whole_front(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::BustLine
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        use PatternMeasure::{ArmholeFront, NecklineFront, ShoulderFront, SideFront};
        Keeps::exactly(&[BACK, GIRTHS, &[NecklineFront, ShoulderFront, ArmholeFront, SideFront]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::CentreFront, args.amount())]
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.centre_waist(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let front = pattern.front().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let by = args.amount();
        let cut = Over::mark(front)?;
        cut.within_limit(by, style)?;
        let slash = cut.slash(by);
        let taped = cut.with_its_pivots(slash.apply(front)?, by);
        let mut trued = cut.with_equal_legs(taped.clone(), by)?;
        back_off_points(&mut trued);
        let words = words(&cut, by, style);
        let mut done = altered(pattern, &[PieceWork::cut(front, slash, taped, trued)], &words);
        let bend = (by.abs() / cut.bust.distance(cut.side_at)).atan().to_degrees();
        if bend > BEND_SAID {
            done = done.and(FollowUp::reminder(format!(
                "The sewn side bends by about {bend:.0}\u{b0} at the side dart: press it over a curve, or split the balance \
                 between this and the shoulder."
            )));
        }
        Ok(done)
    }
}

/// The cut over the bust, from centre front to the side.
struct Over {
    bust: Point,
    on_centre: Place,
    /// Ends of the runs above and below the cut at the side.
    side: (Place, Place),
    /// Where the upper run ends.
    side_at: Point,
    /// The mouth of the side dart that is there.
    mouth: Option<(Point, Point)>,
    /// Where the waist meets the side: the lower run turns about it.
    waist_side: Point,
}

impl Over {
    fn mark(front: &Piece) -> Result<Self, AlterError> {
        let bust = front.bust_pivot().ok_or(SlashError::NoSeam(Seam::DartLeg))?;
        let centre = front.first_edge(Seam::CentreFront).ok_or(SlashError::NoSeam(Seam::CentreFront))?;
        let along =
            front.edges[centre].curve.crossing_level(bust.y).ok_or(SlashError::NoSeam(Seam::CentreFront))?;
        let existing = Cut::along(front, DartPlace::Side).filter(|_| {
            front.dart(DartPlace::Side).is_some_and(|dart| dart.pivot.distance(bust) < SAME_PIVOT)
        });
        if existing.is_none() && front.dart(DartPlace::Side).is_some() {
            return Err(AlterError::not_here(
                "the side dart points elsewhere than the bust point: bring both darts to one point first",
            ));
        }
        let side = match existing {
            Some(cut) => (cut.before, cut.after),
            None => {
                let at = side_dart_place(front, bust).ok_or(SlashError::NoSeam(Seam::Side))?;
                (at, at)
            }
        };
        let last = front.last_edge(Seam::Side).ok_or(SlashError::NoSeam(Seam::Side))?;
        let side_end = front.edges[last].curve.end();
        Ok(Self {
            bust,
            on_centre: Place { edge: centre, along },
            side,
            side_at: front.edges[side.0.edge].curve.point_at(side.0.along),
            mouth: existing.and_then(|_| front.mouth(DartPlace::Side)),
            waist_side: front.waist_at_side().unwrap_or(side_end),
        })
    }

    /// Folding out goes as far as the side dart is shut.
    fn within_limit(&self, by: f64, style: Style) -> Result<(), AlterError> {
        let most = self.mouth.map_or(0.0, |(upper, lower)| {
            let (waist, run) = (self.waist_side, self.waist_side.distance(lower));
            upper.y - waist.y + (run * run - (waist.x - upper.x).powi(2)).max(0.0).sqrt()
        });
        if by >= most.min(0.0) {
            return Ok(());
        }
        Err(AlterError::beyond(
            style,
            MeasuredOn::Here,
            by,
            most.min(0.0),
            "that shuts the side dart",
            "shorten it by Length, or take the rest at the shoulder",
        ))
    }

    fn slash(&self, by: f64) -> Slash {
        let part = |from, to, motion| Part { from, to, inner: vec![self.bust], motion };
        let centre = if by < 0.0 { Join::Lap } else { Join::Gap(Seam::CentreFront) };
        Slash {
            parts: vec![
                (part(self.on_centre, self.side.0, Motion::Still), Join::Dart(DartPlace::Side, self.bust)),
                (part(self.side.1, self.on_centre, Motion::Shift(Vec2::new(0.0, by))), centre),
            ],
        }
    }

    /// The waist darts that point at the bust.
    fn waist_darts<'a>(&self, piece: &'a Piece) -> impl Iterator<Item = DartPlace> + use<'a> {
        let bust = self.bust;
        let points_at = move |dart: &&crate::pattern::Dart| {
            dart.place.seam() == Seam::Waist && dart.pivot.distance(bust) < SAME_PIVOT
        };
        piece.darts.iter().filter(points_at).map(|dart| dart.place)
    }

    /// What points at the bust still does: its mouths went down with the waist, the bust point stayed.
    fn with_its_pivots(&self, mut piece: Piece, by: f64) -> Piece {
        for place in self.waist_darts(&piece).collect::<Vec<_>>() {
            piece.draw_legs_to(place, self.bust);
        }
        let moved = self.bust + Vec2::new(0.0, by);
        for dart in &mut piece.two_pointed {
            if dart.upper.distance(moved) < SAME_PIVOT {
                dart.point -= Vec2::new(0.0, by);
                dart.upper = self.bust;
            }
        }
        piece
    }

    /// Both legs of every dart at the bust point equal, every sewn length as it was.
    fn with_equal_legs(&self, mut piece: Piece, by: f64) -> Result<Piece, AlterError> {
        for place in self.waist_darts(&piece).collect::<Vec<_>>() {
            redraw_legs(&mut piece, place, self.bust, GivesWay::First, None)?;
        }
        let far = self.waist_side + Vec2::new(0.0, by);
        redraw_legs(&mut piece, DartPlace::Side, self.bust, GivesWay::Second, Some(far))?;
        Ok(piece)
    }
}

fn words(cut: &Over, by: f64, style: Style) -> [(StageKind, String); 5] {
    let amount = style.with_unit(by.abs());
    let side = if cut.mouth.is_some() {
        "along the middle of the side dart"
    } else {
        "to the side seam, where a dart is made"
    };
    let (movement, fill) = if by > 0.0 {
        (
            format!("Let the lower part down by {amount}, level, without turning it."),
            "Tape paper behind what opened.",
        )
    } else {
        (format!("Lap the lower part up by {amount}, level, without turning it."), "Tape the lap flat.")
    };
    [
        (StageKind::Mark, format!("Rule a level line from centre front to the bust point, and on {side}.")),
        (StageKind::Cut, "Cut along it from the centre to the side.".to_owned()),
        (StageKind::Move, movement),
        (StageKind::Fill, fill.to_owned()),
        (
            StageKind::True,
            "Draw the darts to the bust point with equal legs: swing the seam beside each about its far end until they are. \
             The sewn side and the sewn waist stay as long as they were."
                .to_owned(),
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::{Curve, circles_meet, turn_degrees};
    use crate::pattern::{Dart, Edge, PieceKind};

    /// Worked figures (handbook: `alterations.md`, section 4), front balance on a dress.
    #[test]
    fn the_lower_mouth_goes_where_the_worked_figure_says() {
        let (a, m1, m2) = (Point::new(95., 270.), Point::new(261.168, 262.447), Point::new(261.096, 278.993));
        let (n, down) = (Point::new(244.917, 440.), Vec2::new(0.0, 12.0));
        let over = Over {
            bust: a,
            on_centre: Place::start_of(0),
            side: (Place::start_of(0), Place::start_of(0)),
            side_at: m1,
            mouth: Some((m1, m2)),
            waist_side: n,
        };
        let far = n + down;
        let meet = circles_meet(a, a.distance(m1), far, n.distance(m2)).unwrap();
        let to =
            meet.into_iter().min_by(|p, q| p.distance(m2 + down).total_cmp(&q.distance(m2 + down))).unwrap();
        assert!(to.distance((260.023, 290.889).into()) < 1e-3, "{to:?}");
        assert!((to.distance(m1) - 28.465).abs() < 1e-3 && (far.y - 452.0).abs() < 1e-9);
        assert!((turn_degrees(m1 - a, to - a) - 9.817).abs() < 1e-3);
        assert!((turn_degrees(m2 + down - far, to - far) + 0.382).abs() < 1e-3);
        let refused = over.within_limit(-20.0, Style::TENTHS).unwrap_err();
        assert!((refused.limit().unwrap().mm + 16.553).abs() < 1e-3, "{refused}");
        assert!(over.within_limit(-16.5, Style::TENTHS).is_ok());
    }

    /// A front with a waist dart alone, its corners those of the worked figure.
    fn made() -> Piece {
        let at = |x: f64, y: f64| Point::new(x, y);
        let (a, n, p, q) = (at(95.25, 266.7), at(261.866, 388.61), at(85.75, 431.8), at(158.484, 419.506));
        let line = |seam, from, to| Edge::sewn(seam, Curve::line(from, to));
        let (pit, snp, tip, k) = (at(0., 80.16), at(70.66, 0.), at(190.766, 41.275), at(234.925, 200.025));
        // The side runs from the underarm through (244.45, 266.7) to the waist.
        let side = Curve::polyline(&[k, at(244.45, 266.7), n]).unwrap();
        Piece {
            darts: vec![Dart { place: DartPlace::Waist, pivot: a, point: a }],
            ..Piece::bare(
                PieceKind::BODICE_FRONT,
                vec![
                    line(Seam::Neckline, pit, snp),
                    line(Seam::Shoulder, snp, tip),
                    line(Seam::Armhole, tip, k),
                    Edge::sewn(Seam::Side, side),
                    line(Seam::Waist, n, q),
                    Edge::leg(DartPlace::Waist, q, a),
                    Edge::leg(DartPlace::Waist, a, p),
                    line(Seam::Waist, p, at(0., 431.8)),
                    Edge::on_fold(Seam::CentreFront, Curve::line(at(0., 431.8), pit)),
                ],
                (at(30., 100.), at(30., 400.)),
            )
        }
    }

    /// The second worked figure: no side dart, p 10.
    #[test]
    fn without_a_side_dart_one_is_made_as_the_worked_figure_says() {
        let front = made();
        let cut = Over::mark(&front).unwrap();
        assert!(cut.side_at.distance((244.45, 266.7).into()) < 1e-6, "{:?}", cut.side_at);
        let taped = cut.with_its_pivots(cut.slash(10.0).apply(&front).unwrap(), 10.0);
        let after = cut.with_equal_legs(taped, 10.0).unwrap();
        let (m1, m2) = after.mouth(DartPlace::Side).unwrap();
        assert!(m2.distance((244.111, 276.749).into()) < 1e-3, "{m2:?}");
        assert!((m1.distance(m2) - 10.055).abs() < 1e-3);
        let (q, p) = after.mouth(DartPlace::Waist).unwrap();
        assert!(q.distance((158.688, 430.181).into()) < 1e-3, "{q:?}");
        assert!(p.distance((85.75, 441.8).into()) < 1e-9 && (q.distance(p) - 73.858).abs() < 1e-3);
        assert!(after.is_closed());
        for seam in [Seam::Side, Seam::Waist] {
            assert!((after.sewn_length(seam) - front.sewn_length(seam)).abs() < 1e-6, "{seam:?}");
        }
        // Done twice it is done once.
        let (mut again, pivot) = (after.clone(), cut.bust);
        redraw_legs(&mut again, DartPlace::Waist, pivot, GivesWay::First, None).unwrap();
        assert!(again.mouth(DartPlace::Waist).unwrap().0.distance(q) < 1e-9);
    }
}
