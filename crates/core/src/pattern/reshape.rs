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
    let step = reach / f64::from(KNOTS);
    let along = (0..=KNOTS).map(|i| step * f64::from(i));
    let knot = |(s, (place, direction)): (f64, (kurbo::Point, Vec2))| {
        let u = s / reach;
        let weight = 1.0 - u * u * (3.0 - 2.0 * u);
        let slope = -6.0 * u * (1.0 - u) / reach;
        (place + shift * weight, direction + shift * slope)
    };
    let knots: Vec<_> = along.clone().zip(near.places(along)).map(knot).collect();
    let bent = knots.windows(2).map(|pair| {
        let ((p0, d0), (p1, d1)) = (pair[0], pair[1]);
        Curve::cubic(p0, p0 + d0 * (step / 3.0), p1 - d1 * (step / 3.0), p1)
    });
    let bent = bent.reduce(Curve::then).unwrap_or(near).with_end(far.start());
    let nothing_left = matches!(far.segments(), [PathSeg::Line(line)] if line.p0 == line.p1);
    if nothing_left { bent } else { bent.then(far) }
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
}
