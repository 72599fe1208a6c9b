//! Reshaping: bending part of one edge by a displacement that fades out.

use kurbo::{PathSeg, Vec2};

use super::curve::Curve;

/// Cubics laid along the bent part. Twelve keep the bend within 0.001 of its definition on an armhole.
const KNOTS: u32 = 12;

/// Moves the start of `curve` by `shift`; the displacement fades to nothing `reach` along, in value
/// and in slope: weight 1 − u²(3 − 2u), u = s / reach.
///
/// No shift returns the curve unchanged, bit for bit; beyond the reach nothing moves.
pub fn reshape_start(curve: &Curve, shift: Vec2, reach: f64) -> Curve {
    if shift == Vec2::ZERO {
        return curve.clone();
    }
    let reach = reach.min(curve.length());
    let (near, far) = curve.split(reach);
    let bent = bent(&near, reach, |s| {
        let (weight, slope) = fading(s / reach);
        (shift * weight, shift * (slope / reach))
    });
    let bent = bent.with_end(far.start());
    let nothing_left = matches!(far.segments(), [PathSeg::Line(line)] if line.p0 == line.p1);
    if nothing_left { bent } else { bent.then(far) }
}

/// Moves both ends of `curve`, each fading to nothing at the other end. No shift returns it unchanged.
pub fn reshape_ends(curve: &Curve, start: Vec2, end: Vec2) -> Curve {
    if (start, end) == (Vec2::ZERO, Vec2::ZERO) {
        return curve.clone();
    }
    let length = curve.length();
    bent(curve, length, |s| {
        let (weight, slope) = fading(s / length);
        (end + (start - end) * weight, (start - end) * (slope / length))
    })
}

/// Moves `curve` by `shift` at the place `at` along; the displacement fades to nothing at both ends, in value
/// and in slope. No shift returns it unchanged.
pub fn reshape_at(curve: &Curve, at: f64, shift: Vec2) -> Curve {
    if shift == Vec2::ZERO {
        return curve.clone();
    }
    let (before, after) = curve.split(at);
    let before = reshape_start(&before.reversed(), shift, before.length()).reversed();
    let after = reshape_start(&after, shift, after.length());
    before.then(after)
}

impl Curve {
    /// The curve a share of the way from this one to another, place for place along both.
    pub(crate) fn towards(&self, other: &Self, share: f64) -> Self {
        self.towards_in(other, share, KNOTS)
    }

    /// As [`Self::towards`], in so many parts.
    pub(crate) fn towards_in(&self, other: &Self, share: f64, parts: u32) -> Self {
        let lengths = [self.length(), other.length()];
        let knots = |curve: &Self, length: f64| {
            curve.places((0..=parts).map(|i| length * f64::from(i) / f64::from(parts)))
        };
        let (from, to) = (knots(self, lengths[0]), knots(other, lengths[1]));
        let knots: Vec<_> = from
            .into_iter()
            .zip(to)
            .map(|((p, d), (q, e))| {
                let step = |length: f64| length / f64::from(parts) / 3.0;
                (p.lerp(q, share), (d * step(lengths[0])).lerp(e * step(lengths[1]), share))
            })
            .collect();
        let parts = knots.windows(2).map(|pair| {
            let ((p0, d0), (p1, d1)) = (pair[0], pair[1]);
            Self::cubic(p0, p0 + d0, p1 - d1, p1)
        });
        parts.reduce(Self::then).unwrap_or_else(|| self.clone())
    }
}

/// 1 at 0 and nothing at 1, level at both ends: value and slope.
pub(crate) fn fading(u: f64) -> (f64, f64) {
    (1.0 - u * u * (3.0 - 2.0 * u), -6.0 * u * (1.0 - u))
}

/// The curve displaced by what `by` tells of each arc length: displacement, and its change a millimetre.
///
/// Straight runs that are displaced evenly are not kept straight: displace their ends instead.
pub(crate) fn bent(curve: &Curve, length: f64, by: impl Fn(f64) -> (Vec2, Vec2)) -> Curve {
    let step = length / f64::from(KNOTS);
    let along = (0..=KNOTS).map(|i| step * f64::from(i));
    let knot = |(s, (place, direction)): (f64, (kurbo::Point, Vec2))| {
        let (shift, slope) = by(s);
        (place + shift, direction + slope)
    };
    let knots: Vec<_> = along.clone().zip(curve.places(along)).map(knot).collect();
    let bent = knots.windows(2).map(|pair| {
        let ((p0, d0), (p1, d1)) = (pair[0], pair[1]);
        Curve::cubic(p0, p0 + d0 * (step / 3.0), p1 - d1 * (step / 3.0), p1)
    });
    bent.reduce(Curve::then).unwrap_or_else(|| curve.clone())
}

#[cfg(test)]
mod tests {
    use super::*;

    fn arc() -> Curve {
        Curve::cubic((190.0, 45.0).into(), (170.0, 90.0).into(), (165.0, 180.0).into(), (235.0, 205.0).into())
    }

    #[test]
    fn nothing_moves_beyond_the_reach() {
        let bent = reshape_start(&arc(), Vec2::new(9.0, 3.0), 100.0);
        let (_, tail) = arc().split(100.0);
        assert_eq!(bent.end(), arc().end());
        for point in (0..20).map(|i| tail.point_at(tail.length() * f64::from(i) / 20.0)) {
            let s = bent.nearest(point);
            assert!(bent.point_at(s).distance(point) < 1e-4, "{point:?}");
        }
        assert_eq!(bent.start(), arc().start() + Vec2::new(9.0, 3.0));
    }

    #[test]
    fn no_shift_is_the_same_curve_bit_for_bit() {
        assert_eq!(reshape_start(&arc(), Vec2::ZERO, 100.0), arc());
    }

    #[test]
    fn the_bend_is_smooth() {
        let bent = reshape_start(&arc(), Vec2::new(9.0, 3.0), 100.0);
        assert!(bent.corners().iter().all(|(_, turn)| turn.abs() < 0.1), "{:?}", bent.corners());
    }

    #[test]
    fn both_ends_move_by_their_own_shift_and_keep_their_directions() {
        let (start, end) = (Vec2::new(4.0, -3.0), Vec2::new(-2.0, 7.0));
        let bent = reshape_ends(&arc(), start, end);
        assert!(bent.start().distance(arc().start() + start) < 1e-9);
        assert!(bent.end().distance(arc().end() + end) < 1e-9);
        assert!(bent.start_direction().dot(arc().start_direction()) > 1.0 - 1e-9);
        assert!(bent.end_direction().dot(arc().end_direction()) > 1.0 - 1e-9);
        assert_eq!(reshape_ends(&arc(), Vec2::ZERO, Vec2::ZERO), arc());
    }

    #[test]
    fn a_bump_moves_its_place_and_leaves_the_ends() {
        let at = 80.0;
        let bent = reshape_at(&arc(), at, Vec2::new(9.0, 0.0));
        let wanted = arc().point_at(at) + Vec2::new(9.0, 0.0);
        assert!(bent.point_at(bent.nearest(wanted)).distance(wanted) < 1e-6);
        assert_eq!((bent.start(), bent.end()), (arc().start(), arc().end()));
        assert!(bent.corners().iter().all(|(_, turn)| turn.abs() < 0.5), "{:?}", bent.corners());
    }

    #[test]
    fn a_reach_to_the_very_end_leaves_no_sliver_behind() {
        // A sliver too short to have a direction would be a corner.
        let bent = reshape_start(&arc(), Vec2::new(9.0, 3.0), arc().length());
        let again = reshape_start(&bent.reversed(), Vec2::new(-2.0, 1.0), bent.length());
        assert!(again.corners().iter().all(|(_, turn)| turn.abs() < 0.5), "{:?}", again.corners());
    }
}
