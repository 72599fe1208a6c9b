//! Curves as straight stretches: how far points lie from them, and where a plumb line meets them.

use kurbo::{Line, Point};

use super::{Curve, SAME_POINT};

/// How far a stretch may lie from the curve that it stands for, in millimetres.
const FLAT: f64 = 0.05;

/// Curves as straight stretches.
pub(crate) struct Stretches(Vec<Line>);

impl Stretches {
    /// Of these curves.
    pub(crate) fn of<'a>(curves: impl IntoIterator<Item = &'a Curve>) -> Self {
        Self::within(FLAT, curves)
    }

    /// Of these curves, none further from them than that, in millimetres.
    pub(crate) fn within<'a>(mm: f64, curves: impl IntoIterator<Item = &'a Curve>) -> Self {
        let of_curve = |curve: &Curve| {
            let points = curve.flattened(mm);
            let long = points.windows(2).filter(|pair| pair[0].distance(pair[1]) > SAME_POINT);
            long.map(|pair| Line::new(pair[0], pair[1])).collect::<Vec<_>>()
        };
        Self(curves.into_iter().flat_map(of_curve).collect())
    }

    /// How far a point lies from the nearest of them, in millimetres.
    pub(crate) fn away(&self, point: Point) -> f64 {
        let off = |line: &Line| {
            let along = line.p1 - line.p0;
            let share = ((point - line.p0).dot(along) / along.hypot2()).clamp(0.0, 1.0);
            point.distance(line.p0 + along * share)
        };
        self.0.iter().map(off).fold(f64::INFINITY, f64::min)
    }

    /// Their ends and middles.
    pub(crate) fn places(&self) -> impl Iterator<Item = Point> + '_ {
        self.0.iter().flat_map(|line| [line.p0, line.p0.midpoint(line.p1), line.p1])
    }

    /// The levels at which a plumb line meets them, from the top down.
    pub(crate) fn levels_at(&self, x: f64) -> Vec<f64> {
        let meets = |line: &Line| {
            let share = (x - line.p0.x) / (line.p1.x - line.p0.x);
            (0.0..1.0).contains(&share).then(|| line.p0.lerp(line.p1, share).y)
        };
        let mut levels: Vec<f64> = self.0.iter().filter_map(meets).collect();
        levels.sort_by(f64::total_cmp);
        levels
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn points_lie_from_them_what_they_lie_from_the_nearest() {
        let corner = Curve::polyline(&[(0.0, 0.0).into(), (10.0, 0.0).into(), (10.0, 20.0).into()]).unwrap();
        let stretches = Stretches::of([&corner]);
        assert!((stretches.away((5.0, 3.0).into()) - 3.0).abs() < 1e-12);
        assert!((stretches.away((13.0, 24.0).into()) - 5.0).abs() < 1e-12);
        assert_eq!(stretches.levels_at(4.0), [0.0]);
        assert_eq!(stretches.places().count(), 6);
    }

    #[test]
    fn a_stretch_without_length_is_none() {
        let there = Curve::line((1.0, 1.0).into(), (1.0, 1.0).into());
        let line = Curve::line((0.0, 5.0).into(), (9.0, 5.0).into());
        assert!((Stretches::of([&there, &line]).away((3.0, 7.0).into()) - 2.0).abs() < 1e-12);
    }
}
