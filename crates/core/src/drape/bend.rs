//! A curved seam fitted to its dots: one cubic whose end tangents the trade fixes, with a few numbers free.
//!
//! Each free number has a spread, so that where there are no dots the line is the house curve and the ends stay on their
//! marks. Gauss-Newton from the house curve.

use kurbo::{CubicBez, ParamCurve, ParamCurveDeriv, Point, Vec2};
use nalgebra::{DMatrix, DVector};

use super::straight::Dot;
use crate::geometry::{Curve, house_curve};

/// So many rounds at most.
const ROUNDS: u32 = 9;
/// A handle is at most so many of its spreads longer or shorter than the house curve's.
const MOST_SPREADS: f64 = 2.5;
/// A handle's spread: its length times e to this.
const HANDLE_SPREAD: f64 = 0.35;
/// A dot that is left out lies so many times the doubtful distance from the line of the others.
const FAR_OUT: f64 = 1.15;
/// How far a free number is moved to see what it does, in its spreads.
const STEP: f64 = 1e-4;

/// The ends and directions of a curve before its handles are chosen.
#[derive(Clone, Copy, Debug)]
pub(super) struct Ends {
    pub(super) from: Point,
    pub(super) leaving: Vec2,
    pub(super) to: Point,
    pub(super) arriving: Vec2,
}

/// How one curve may be drawn.
pub(super) struct Bend<'a> {
    /// Where it begins and ends, by the free numbers of its ends, each in units of its spread.
    pub(super) ends: &'a dyn Fn(&[f64]) -> Ends,
    /// How many of those there are.
    pub(super) free: usize,
    /// A handle of the house curve is at most this share of the chord.
    pub(super) longest_handle: f64,
    /// Whether handles are free too: they are not where the line is drawn by rule.
    pub(super) free_handles: bool,
}

/// A curve through its dots.
#[derive(Clone, Debug)]
pub(super) struct Fitted {
    pub(super) cubic: CubicBez,
    /// Free numbers of the ends, in their spreads.
    pub(super) numbers: Vec<f64>,
    /// The dot it was drawn without, if one.
    pub(super) left_out: Option<usize>,
    /// Distances of the dots that took part, in millimetres.
    pub(super) off: Vec<f64>,
}

impl Fitted {
    pub(super) fn curve(&self) -> Curve {
        let CubicBez { p0, p1, p2, p3 } = self.cubic;
        Curve::cubic(p0, p1, p2, p3)
    }
}

impl Bend<'_> {
    /// The curve nearest to the dots, without the one that lies furthest off where that is further than `doubtful` and a bit.
    pub(super) fn without_stray(&self, dots: &[Dot], doubtful: f64) -> Fitted {
        let all = self.fit(dots);
        // Fewer say nothing about each other.
        if dots.len() < 3 {
            return all;
        }
        let furthest = (0..dots.len()).max_by(|one, other| all.off[*one].total_cmp(&all.off[*other]));
        let Some(out) = furthest else { return all };
        let others: Vec<Dot> =
            (0..dots.len()).filter(|index| *index != out).map(|index| dots[index]).collect();
        let without = self.fit(&others);
        let is_far = distance(&without.cubic, dots[out].at).abs() > FAR_OUT * doubtful;
        if is_far { Fitted { left_out: Some(out), ..without } } else { all }
    }

    /// The curve nearest to the dots, in squares of their own spreads.
    pub(super) fn fit(&self, dots: &[Dot]) -> Fitted {
        let count = self.free + if self.free_handles { 2 } else { 0 };
        let mut numbers = vec![0.0; count];
        let mut now = self.residuals(&numbers, dots);
        for _ in 0..ROUNDS {
            if count == 0 || dots.is_empty() {
                break;
            }
            let slopes: Vec<DVector<f64>> = (0..count)
                .map(|index| {
                    let mut moved = numbers.clone();
                    moved[index] += STEP;
                    (self.residuals(&moved, dots) - &now) / STEP
                })
                .collect();
            let slopes = DMatrix::from_columns(&slopes);
            let squared = slopes.transpose() * &slopes;
            let Some(solved) = squared.cholesky().map(|parts| parts.solve(&(slopes.transpose() * &now)))
            else {
                break;
            };
            // Half as far, and half again, where the whole step would make it worse.
            let mut share = 1.0;
            let better = loop {
                let mut next: Vec<f64> =
                    numbers.iter().zip(solved.iter()).map(|(number, step)| number - step * share).collect();
                next[self.free..].iter_mut().for_each(|n| *n = n.clamp(-MOST_SPREADS, MOST_SPREADS));
                let residuals = self.residuals(&next, dots);
                if residuals.norm_squared() <= now.norm_squared() {
                    break Some((next, residuals));
                }
                share /= 2.0;
                if share < 0.05 {
                    break None;
                }
            };
            let Some((next, residuals)) = better else { break };
            let gained = now.norm_squared() - residuals.norm_squared();
            (numbers, now) = (next, residuals);
            if gained < 1e-10 {
                break;
            }
        }
        let cubic = self.draw(&numbers);
        let off = dots.iter().map(|dot| distance(&cubic, dot.at).abs()).collect();
        numbers.truncate(self.free);
        Fitted { cubic, numbers, left_out: None, off }
    }

    fn draw(&self, numbers: &[f64]) -> CubicBez {
        let (ends, handles) = numbers.split_at(self.free);
        let Ends { from, leaving, to, arriving } = (self.ends)(ends);
        let house = house_curve(from, leaving, to, arriving).curve;
        let longest = self.longest_handle * from.distance(to);
        let (ahead, behind) = match house.segments() {
            [kurbo::PathSeg::Cubic(cubic)] => (cubic.p0.distance(cubic.p1), cubic.p3.distance(cubic.p2)),
            _ => (longest, longest),
        };
        let scaled = |handle: f64, by: Option<&f64>| {
            handle.min(longest) * by.map_or(1.0, |by| (HANDLE_SPREAD * by).exp())
        };
        let (leaving, arriving) = (leaving / leaving.hypot(), arriving / arriving.hypot());
        let (ahead, behind) = (scaled(ahead, handles.first()), scaled(behind, handles.get(1)));
        CubicBez::new(from, from + leaving * ahead, to - arriving * behind, to)
    }

    /// What each dot is off in its spread, and each free number in its own.
    fn residuals(&self, numbers: &[f64], dots: &[Dot]) -> DVector<f64> {
        let cubic = self.draw(numbers);
        let off = dots.iter().map(|dot| distance(&cubic, dot.at) / dot.sigma);
        DVector::from_iterator(dots.len() + numbers.len(), off.chain(numbers.iter().copied()))
    }
}

/// How many places of a cubic are looked at before the nearest is looked for.
const PLACES: u32 = 16;

/// Distance of a point from a cubic, to its right positive, in millimetres. Beyond an end it is told from the end's tangent.
pub(super) fn distance(cubic: &CubicBez, point: Point) -> f64 {
    let slope = cubic.deriv();
    let bend = slope.deriv();
    let nearest = (0..=PLACES)
        .map(|n| f64::from(n) / f64::from(PLACES))
        .min_by(|one, other| {
            let far = |t: f64| cubic.eval(t).distance_squared(point);
            far(*one).total_cmp(&far(*other))
        })
        .unwrap_or_default();
    let mut t = nearest;
    for _ in 0..5 {
        let (from, along) = (cubic.eval(t) - point, slope.eval(t).to_vec2());
        let curving = bend.eval(t).to_vec2();
        let change = along.hypot2() + from.dot(curving);
        if change <= 0.0 {
            break;
        }
        t = (t - from.dot(along) / change).clamp(0.0, 1.0);
    }
    let along = slope.eval(t).to_vec2();
    along.cross(point - cubic.eval(t)) / along.hypot().max(1e-9)
}

#[cfg(test)]
mod tests {
    use super::super::marks::Run;
    use super::*;

    fn quarter(handles: (f64, f64)) -> CubicBez {
        let (from, to) = (Point::new(0.0, 86.0), Point::new(77.0, 0.0));
        CubicBez::new(from, from + Vec2::new(handles.0, 0.0), to + Vec2::new(-10.0, 26.0) * handles.1, to)
    }

    fn dots_on(cubic: &CubicBez, count: u32) -> Vec<Dot> {
        let at = |n: u32| cubic.eval(f64::from(n + 1) / f64::from(count + 1));
        (0..count).map(|n| Dot { at: at(n), sigma: 0.05, named: Run::NecklineDots.into() }).collect()
    }

    fn bend(ends: &dyn Fn(&[f64]) -> Ends) -> Bend<'_> {
        Bend { ends, free: 1, longest_handle: 1.0, free_handles: true }
    }

    /// The pit is free by 1.5 mm; the other end stays.
    fn ends(numbers: &[f64]) -> Ends {
        Ends {
            from: Point::new(0.0, 86.0 + 1.5 * numbers[0]),
            leaving: Vec2::new(1.0, 0.0),
            to: Point::new(77.0, 0.0),
            arriving: Vec2::new(10.0, -26.0),
        }
    }

    #[test]
    fn dots_of_a_curve_give_the_curve_back() {
        let truth = quarter((30.0, 1.6));
        let fitted = bend(&ends).fit(&dots_on(&truth, 9));
        for n in 0..=20 {
            let off = distance(&fitted.cubic, truth.eval(f64::from(n) / 20.0)).abs();
            assert!(off < 0.15, "{off} at {n}");
        }
    }

    #[test]
    fn without_dots_it_is_the_house_curve() {
        let fitted = bend(&ends).fit(&[]);
        let at = ends(&[0.0]);
        let house = house_curve(at.from, at.leaving, at.to, at.arriving).curve;
        assert!((fitted.curve().length() - house.length()).abs() < 1e-9);
    }

    #[test]
    fn a_dot_beside_the_line_is_left_out() {
        let truth = quarter((30.0, 1.6));
        let mut dots = dots_on(&truth, 6);
        dots.iter_mut().for_each(|dot| dot.sigma = 1.5);
        dots[2].at += Vec2::new(12.0, 12.0);
        assert_eq!(bend(&ends).without_stray(&dots, 5.85).left_out, Some(2));
    }

    #[test]
    fn a_distance_is_told_from_the_nearest_place() {
        let cubic = quarter((40.0, 1.5));
        for n in 0..=40 {
            let t = f64::from(n) / 40.0;
            let along = cubic.deriv().eval(t).to_vec2();
            let right = Vec2::new(-along.y, along.x) / along.hypot();
            for by in [-4.0, -0.3, 0.0, 0.3, 4.0] {
                assert!((distance(&cubic, cubic.eval(t) + right * by) - by).abs() < 1e-6, "{t} {by}");
            }
        }
    }
}
