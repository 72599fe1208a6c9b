//! Bodies, chance and what must hold of every pattern: what the tests of this crate share.

use yardwand_core::alter::{Decided, Made, Recipe, make};
use yardwand_core::body::Body;
use yardwand_core::ease::{EaseSet, ease_set};
use yardwand_core::pattern::{Pattern, check_pattern};
use yardwand_core::{INCH, Style, Unit};

#[allow(dead_code, reason = "not every test of this crate wants it")]
/// The invented body of the handbook's worked draft (`alterations.md`, section 4), inches there.
pub(crate) fn worked_body() -> Body {
    [
        ("neck_base_girth", 14.5),
        ("shoulder_length", 5.0),
        ("shoulder_slope", 1.625),
        ("shoulder_width", 15.5),
        ("across_front", 13.0),
        ("across_back", 13.75),
        ("bust_girth", 37.0),
        ("upper_bust_girth", 35.5),
        ("waist_girth", 29.0),
        ("bust_span", 7.5),
        ("snp_to_bust_point", 10.5),
        ("snp_to_waist_front", 17.0),
        ("snp_to_waist_back", 16.5),
        ("nape_to_waist_back", 15.75),
        ("armhole_depth", 7.5),
        ("side_length", 7.5),
    ]
    .into_iter()
    .map(|(code, inches)| (code, inches * INCH))
    .collect()
}

/// The ease that most garments are made with.
#[allow(dead_code, reason = "not every test of this crate makes a garment")]
pub(crate) fn standard_ease() -> &'static EaseSet {
    ease_set("standard", Unit::Cm).unwrap()
}

/// Every rule before cutting that held of a pattern holds of it still.
#[allow(dead_code, reason = "not every test of this crate cuts")]
pub(crate) fn holds_still(before: &Pattern, after: &Pattern, told: &str) {
    let now = check_pattern(after, Style::TENTHS);
    for held in check_pattern(before, Style::TENTHS).into_iter().filter(|check| check.passed) {
        let now = now.iter().find(|each| each.code == held.code).unwrap();
        assert!(now.passed, "{told}: {}: {} {:?}", now.name, now.says, now.faults);
    }
}

/// A small generator with a fixed seed (splitmix64): the same bodies in every run.
pub(crate) struct Chance(u64);

#[allow(dead_code, reason = "not every test of this crate throws dice")]
impl Chance {
    pub(crate) fn new(seed: u64) -> Self {
        Self(seed)
    }

    /// Evenly between −1 and 1.
    pub(crate) fn even(&mut self) -> f64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^= z >> 31;
        (z >> 11) as f64 / (1u64 << 52) as f64 - 1.0
    }

    /// Evenly between two figures.
    pub(crate) fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * f64::midpoint(self.even(), 1.0)
    }

    /// One of these.
    pub(crate) fn one_of<T: Copy>(&mut self, all: &[T]) -> T {
        all[(self.between(0.0, all.len() as f64) as usize).min(all.len() - 1)]
    }

    /// About 0 with this spread; never beyond three times it.
    pub(crate) fn about(&mut self, spread: f64) -> f64 {
        (self.even() + self.even() + self.even()) * spread
    }
}

/// A body of this bust: a published table for medium height (check values, 3a) carried on in its own steps,
/// larger sizes rounder at waist and hip as EN 13402-3's centres are (check values, 2), with scatter. The
/// scatter is common practice, no source.
#[allow(dead_code, reason = "not every test of this crate draws bodies")]
pub(crate) fn body_of_bust(bust: f64, chance: &mut Chance) -> Body {
    let size = (bust - 880.0) / 40.0;
    // Above a 104 bust the widths of the frame grow by half of what they grow below.
    let frame = size.min(4.0) + (size - 4.0).max(0.0) * 0.5;
    let cup = 50.8 + 12.0 * (frame / 4.0) + chance.about(14.0);
    let back = 412.0 + frame * 5.0 + chance.about(5.0);
    let front = back + 18.0 + (cup - 50.8) * 0.35 + chance.about(5.0);
    let waist = bust - 200.0 + (bust - 960.0).max(0.0) * 0.25 + chance.about(22.0);
    let shoulder = 122.5 + frame * 2.5 + chance.about(3.0);
    let neck = 370.0 + frame * 10.0 + chance.about(5.0);
    let slope = 42.0 + chance.about(5.0);
    [
        ("neck_base_girth", neck),
        ("shoulder_length", shoulder),
        ("shoulder_slope", slope),
        ("across_front", 324.0 + frame * 12.0 + chance.about(6.0)),
        ("across_back", 344.0 + frame * 10.0 + chance.about(6.0)),
        ("bust_girth", bust),
        ("upper_bust_girth", bust - cup),
        ("waist_girth", waist),
        ("hip_girth", bust + 50.0 - (bust - 1000.0).max(0.0) * 0.2 + chance.about(22.0)),
        ("bust_span", bust.min(1150.0) * 0.205 + (bust - 1150.0).max(0.0) * 0.1 + chance.about(5.0)),
        ("snp_to_bust_point", 264.0 + frame * 7.0 + chance.about(5.0)),
        ("snp_to_waist_front", front),
        ("snp_to_waist_back", back),
        ("nape_to_waist_back", back - 20.0 + chance.about(2.0)),
        ("armhole_depth", 190.0 + frame * 5.0 + chance.about(3.0)),
        ("side_length", back - 20.0 - (190.0 + frame * 5.0) - 10.0 + chance.about(5.0)),
        ("waist_to_hip", 206.0 + frame * 2.0 + chance.about(6.0)),
        ("upper_arm_girth", 284.0 + size * 12.0 + chance.about(8.0)),
        ("arm_length", 584.0 + chance.about(12.0)),
        ("hand_girth", 205.0 + size * 3.0 + chance.about(5.0)),
    ]
    .into_iter()
    .collect()
}

/// So many bodies of a bust between 76 and 140 cm.
#[allow(dead_code, reason = "not every test of this crate draws bodies")]
pub(crate) fn bodies(count: usize, seed: u64) -> Vec<Body> {
    let mut chance = Chance::new(seed);
    (0..count)
        .map(|_| {
            let bust = 1080.0 + 320.0 * chance.even();
            body_of_bust(bust, &mut chance)
        })
        .collect()
}

#[allow(dead_code, reason = "not every test of this crate compares patterns")]
/// The furthest that two patterns lie apart, at every hundredth of every edge, both taken the same way round.
pub(crate) fn furthest_apart(one: &Pattern, other: &Pattern) -> f64 {
    if one.pieces.len() != other.pieces.len() {
        return f64::INFINITY;
    }
    let mut furthest: f64 = 0.0;
    for (a, b) in one.pieces.iter().zip(&other.pieces) {
        if a.kind != b.kind || a.edges.len() != b.edges.len() || a.darts.len() != b.darts.len() {
            return f64::INFINITY;
        }
        for (e, f) in a.edges.iter().zip(&b.edges) {
            let (l, m) = (e.curve.length(), f.curve.length());
            for n in 0..=100 {
                let share = f64::from(n) / 100.0;
                furthest = furthest.max(e.curve.point_at(l * share).distance(f.curve.point_at(m * share)));
            }
        }
        for (d, e) in a.darts.iter().zip(&b.darts) {
            furthest = furthest.max(d.pivot.distance(e.pivot)).max(d.point.distance(e.point));
        }
    }
    furthest
}

#[allow(dead_code, reason = "not every test of this crate wants it")]
/// What a block becomes by these decisions, taken one after the other.
pub(crate) fn made_of(block: &Pattern, steps: impl IntoIterator<Item = Decided>) -> Made {
    let mut recipe = Recipe::default();
    for step in steps {
        recipe.take(step);
    }
    make(block, &recipe, Style::TENTHS)
}

#[allow(dead_code, reason = "not every test of this crate counts")]
/// The size that this share of some values, signs aside, does not exceed.
pub(crate) fn size_at(share: f64, values: &[f64]) -> f64 {
    let mut sizes: Vec<f64> = values.iter().map(|value| value.abs()).collect();
    sizes.sort_by(f64::total_cmp);
    let place = (share * sizes.len().saturating_sub(1) as f64).round() as usize;
    sizes.get(place).copied().unwrap_or(f64::NAN)
}
