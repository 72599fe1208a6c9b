//! The straight line nearest to marks and dots: total least squares, each weighted by how well it is known.

use kurbo::{Point, Vec2};

use super::marks::Named;

/// A mark, or a dot of a run, on its way into a line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Dot {
    pub(super) at: Point,
    /// How exactly it is known, in millimetres.
    pub(super) sigma: f64,
    pub(super) named: Named,
}

/// A line through dots.
#[derive(Clone, Debug, PartialEq)]
pub(super) struct StraightLine {
    /// A point of it: the weighted middle of the dots.
    pub(super) through: Point,
    /// Its direction, of unit length, from the first dot towards the last.
    pub(super) along: Vec2,
    /// Standard error of its direction, in radians.
    pub(super) lean_error: f64,
    /// The spread of one of its dots, in millimetres.
    pub(super) sigma: f64,
    /// Indices of dots it was drawn without.
    pub(super) left_out: Vec<usize>,
    /// Distances of the dots that took part, in millimetres.
    pub(super) off: Vec<f64>,
}

/// At most so many dots of a line are left out.
const MOST_LEFT_OUT: usize = 2;
/// A dot that is left out lies so many times the doubtful distance from the line of the others.
const FAR_OUT: f64 = 1.25;

impl StraightLine {
    /// The line nearest to all dots. `None` for fewer than two places.
    pub(super) fn through(dots: &[Dot]) -> Option<Self> {
        let weight = |dot: &Dot| dot.sigma.powi(-2);
        let whole: f64 = dots.iter().map(weight).sum();
        let (first, last) = (dots.first()?.at, dots.last()?.at);
        let middle = dots.iter().map(|dot| dot.at.to_vec2() * weight(dot)).sum::<Vec2>() / whole;
        let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
        for dot in dots {
            let from = dot.at.to_vec2() - middle;
            xx += from.x * from.x * weight(dot);
            xy += from.x * from.y * weight(dot);
            yy += from.y * from.y * weight(dot);
        }
        let along = Vec2::from_angle((2.0 * xy).atan2(xx - yy) / 2.0);
        let along = if along.dot(last - first) < 0.0 { -along } else { along };
        let spread: f64 =
            dots.iter().map(|dot| (dot.at.to_vec2() - middle).dot(along).powi(2) * weight(dot)).sum();
        let is_a_place = spread < 1e-9 || !spread.is_finite();
        let through = middle.to_point();
        let off = dots.iter().map(|dot| (dot.at - through).cross(along).abs()).collect();
        let lean_error = spread.sqrt().recip();
        let sigma = (dots.len() as f64 / whole).sqrt();
        (!is_a_place).then_some(Self { through, along, lean_error, sigma, left_out: Vec::new(), off })
    }

    /// The line nearest to the dots but for those that spoil it: each time the one whose leaving out mends the line most, where it
    /// then lies further off than `doubtful` and a quarter, in millimetres.
    pub(super) fn without_strays(dots: &[Dot], doubtful: f64) -> Option<Self> {
        let mut left_out: Vec<usize> = Vec::new();
        while left_out.len() < MOST_LEFT_OUT {
            let kept: Vec<usize> = (0..dots.len()).filter(|index| !left_out.contains(index)).collect();
            if kept.len() < 3 {
                break;
            }
            let without = |out: usize| -> Option<(f64, f64)> {
                let others: Vec<Dot> =
                    kept.iter().filter(|&&index| index != out).map(|&index| dots[index]).collect();
                let line = Self::through(&others)?;
                Some((line.badness(&others), line.distance(dots[out].at)))
            };
            let tried = kept.iter().filter_map(|&out| Some((out, without(out)?)));
            // Of three dots any one can be left out: then it is the furthest.
            let best = tried.min_by(|(_, (one, far)), (_, (other, further))| {
                one.total_cmp(other).then(further.total_cmp(far))
            });
            match best {
                Some((out, (_, far))) if far > FAR_OUT * doubtful => left_out.push(out),
                _ => break,
            }
        }
        let kept: Vec<Dot> =
            (0..dots.len()).filter(|index| !left_out.contains(index)).map(|index| dots[index]).collect();
        left_out.sort_unstable();
        Some(Self { left_out, ..Self::through(&kept)? })
    }

    /// Sum of the squares of what the dots are off, in their own spread.
    fn badness(&self, dots: &[Dot]) -> f64 {
        dots.iter().map(|dot| (self.distance(dot.at) / dot.sigma).powi(2)).sum()
    }

    /// How far a point lies from it, in millimetres.
    pub(super) fn distance(&self, point: Point) -> f64 {
        (point - self.through).cross(self.along).abs()
    }

    /// The place on it nearest to a point.
    pub(super) fn foot(&self, point: Point) -> Point {
        self.through + self.along * (point - self.through).dot(self.along)
    }
}

#[cfg(test)]
mod tests {
    use super::super::marks::Run;
    use super::*;

    fn dot(x: f64, y: f64) -> Dot {
        Dot { at: Point::new(x, y), sigma: 1.0, named: Run::SideDots.into() }
    }

    #[test]
    fn a_line_passes_its_dots_whichever_way_it_runs() {
        for degrees in [0.0, 37.0, 90.0, 133.0, 180.0, 270.0] {
            let way = Vec2::from_angle(f64::to_radians(degrees));
            let dots: Vec<Dot> = (0..5)
                .map(|n| {
                    let at = Point::new(20.0, -7.0) + way * (30.0 * f64::from(n));
                    dot(at.x, at.y)
                })
                .collect();
            let line = StraightLine::through(&dots).unwrap();
            assert!((line.along - way).hypot() < 1e-9, "{degrees}");
            assert!(line.off.iter().all(|off| *off < 1e-9));
        }
    }

    #[test]
    fn a_dot_beside_the_line_is_left_out_and_one_within_a_hand_s_spread_is_not() {
        let mut dots: Vec<Dot> = (0..6).map(|n| dot(0.0, 40.0 * f64::from(n))).collect();
        dots[3].at.x = 12.0;
        let line = StraightLine::without_strays(&dots, 5.85).unwrap();
        assert_eq!(line.left_out, [3]);
        assert!(line.along.x.abs() < 1e-9);
        dots[3].at.x = 3.0;
        assert!(StraightLine::without_strays(&dots, 5.85).unwrap().left_out.is_empty());
    }

    #[test]
    fn one_place_is_no_line() {
        assert!(StraightLine::through(&[dot(1.0, 1.0), dot(1.0, 1.0)]).is_none());
        assert!(StraightLine::through(&[]).is_none());
    }
}
