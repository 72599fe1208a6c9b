//! A paper pattern whose cutting line was traced: its dots moved in by the allowance of their seam (drape.md, section 10).

use kurbo::{Affine, Point, Vec2};

use super::facts::Allowance;
use super::marks::{Cross, Marks, Run};
use super::shape::{Closed, Cloth, Curves};
use crate::geometry::{Curve, quarter_turn};
use crate::pattern::DartPlace;

/// A stretch of outline: its line where it is drawn, what takes its dots there, its allowance.
struct Stretch {
    line: Curve,
    to_line: Affine,
    allowance: f64,
}

impl Stretch {
    /// A dot moved in along the line's normal.
    fn moved(&self, dot: Point) -> Point {
        let at = self.to_line * dot;
        let inward = quarter_turn(self.line.direction_at(self.line.nearest(at)));
        self.to_line.inverse() * (at + inward * self.allowance)
    }

    /// The line's own direction at its nearest place to a point, as the piece lies flat.
    fn direction(&self, at: Point) -> Vec2 {
        let along = self.line.direction_at(self.line.nearest(self.to_line * at));
        (self.to_line.inverse() * along.to_point()) - (self.to_line.inverse() * Point::ZERO)
    }
}

/// Where two lines through a corner cross once each is moved in by its allowance: two linear equations.
fn corner(at: Point, (one, in_one): (Vec2, f64), (other, in_other): (Vec2, f64)) -> Point {
    let (one, other) = (quarter_turn(one / one.hypot()), quarter_turn(other / other.hypot()));
    let across = one.cross(other);
    if across.abs() < 0.05 {
        // One line goes on in the other: in by the mean.
        return at + (one + other) / 2.0 * (in_one + in_other) / 2.0;
    }
    let x = (in_one * other.y - in_other * one.y) / across;
    let y = (in_other * one.x - in_one * other.x) / across;
    at + Vec2::new(x, y)
}

/// The marks of the stitching line, from those of the cutting line and lines that run as it does.
///
/// First these are the lines fitted to the cutting line itself, then those of the last round. A cutting line goes straight for the
/// length of its allowance before a corner, so that it does not tell how the stitching line runs into it: in the first round, which
/// is `by_rule`, neckline and armhole meet their straight seams squarely, as the trade draws them.
pub(super) fn stitching(
    cloth: &Cloth<'_>,
    closed: &Closed,
    curves: &Curves,
    (marks, allowance): (&Marks, &Allowance),
    by_rule: bool,
) -> Marks {
    let still = Affine::IDENTITY;
    let (to_closed, below, to_waist) = (cloth.to_closed(), cloth.to_closed_below(), cloth.to_waist());
    let to_shoulder = cloth.shoulder_to_armhole().inverse() * to_closed;
    let shoulder = closed.joins.shoulder.curve();
    let side = closed.joins.side.curve();
    let waist = curves.waist.reversed();
    let stretch =
        |line: &Curve, to_line: Affine, allowance: f64| Stretch { line: line.clone(), to_line, allowance };
    let neckline = stretch(&curves.neckline, still, allowance.neckline);
    let inner_shoulder = stretch(&shoulder, still, allowance.shoulder);
    let outer_shoulder = stretch(&shoulder, to_shoulder, allowance.shoulder);
    let armhole = stretch(&curves.armhole, to_closed, allowance.armhole);
    let lower_armhole = stretch(&curves.lower_armhole, to_closed, allowance.armhole);
    let upper_side = stretch(&side, to_closed, allowance.side);
    let lower_side = stretch(&side, below, allowance.side);
    let outer_waist = stretch(&waist, to_waist, allowance.waist);
    let inner_waist = stretch(&waist, still, allowance.waist);
    // Up along the centre, as the outline is travelled.
    let centre = Stretch {
        line: Curve::line(Point::new(0.0, closed.waist), Point::new(0.0, closed.pit)),
        to_line: still,
        allowance: allowance.centre,
    };

    let mut moved = marks.clone();
    let mut put = |mark: Cross, to: &dyn Fn(Point) -> Point| {
        if let Some(at) = marks.get(mark) {
            moved.put(mark, to(at));
        }
    };
    let at_corner = |one: &Stretch, other: &Stretch, at: Point| {
        corner(at, (one.direction(at), one.allowance), (other.direction(at), other.allowance))
    };
    // A curve that meets a straight seam: it comes to it, or leaves it, to the left of where the seam heads.
    let meets = |curve: &Stretch, seam: &Stretch, at: Point, comes: bool| {
        if !by_rule {
            return at_corner(curve, seam, at);
        }
        let along = seam.direction(at);
        let square = if comes { -quarter_turn(along) } else { quarter_turn(along) };
        corner(at, (square, curve.allowance), (along, seam.allowance))
    };
    put(Cross::CentreTop, &|at| at_corner(&centre, &neckline, at));
    put(Cross::NeckSide, &|at| meets(&neckline, &inner_shoulder, at, true));
    put(Cross::Tip, &|at| meets(&armhole, &outer_shoulder, at, false));
    put(Cross::Across, &|at| {
        armhole.to_line.inverse() * (armhole.to_line * at - Vec2::new(allowance.armhole, 0.0))
    });
    put(Cross::Underarm, &|at| meets(&lower_armhole, &upper_side, at, true));
    let last_side = if cloth.dart(DartPlace::Side).is_some() { &lower_side } else { &upper_side };
    put(Cross::SideWaist, &|at| at_corner(last_side, &outer_waist, at));
    put(Cross::CentreWaist, &|at| at_corner(&inner_waist, &centre, at));
    // A mouth goes in along its own leg, to where its seam is moved to.
    for (place, mark, seam) in [
        (DartPlace::Shoulder, Cross::ShoulderDartIn, &inner_shoulder),
        (DartPlace::Shoulder, Cross::ShoulderDartOut, &outer_shoulder),
        (DartPlace::Side, Cross::SideDartUpper, &upper_side),
        (DartPlace::Side, Cross::SideDartLower, &lower_side),
        (DartPlace::Waist, Cross::WaistDartOut, &outer_waist),
        (DartPlace::Waist, Cross::WaistDartIn, &inner_waist),
    ] {
        if let Some(dart) = cloth.dart(place) {
            put(mark, &|at| corner(at, (at - dart.pivot, 0.0), (seam.direction(at), seam.allowance)));
        }
    }
    for (run, stretch) in [
        (Run::CentreDots, &centre),
        (Run::NecklineDots, &neckline),
        (Run::ShoulderDots, &inner_shoulder),
        (Run::ShoulderOuterDots, &outer_shoulder),
        (Run::ArmholeDots, &armhole),
        (Run::ArmholeLowerDots, &lower_armhole),
        (Run::SideDots, &upper_side),
        (Run::SideLowerDots, &lower_side),
        (Run::WaistOuterDots, &outer_waist),
        (Run::WaistDots, &inner_waist),
    ] {
        moved.put_dots(run, marks.dots(run).iter().map(|dot| stretch.moved(*dot)).collect());
    }
    moved
}
