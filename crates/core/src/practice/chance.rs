//! Chance that comes out the same again: every exercise is made by its number.

/// A small generator (splitmix64; Steele, Lea and Flood, Fast splittable pseudorandom number generators, OOPSLA 2014).
pub(super) struct Chance(u64);

impl Chance {
    pub(super) const fn new(seed: u64) -> Self {
        Self(seed)
    }

    fn next(&mut self) -> u64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        z ^ (z >> 31)
    }

    /// Evenly between two figures.
    pub(super) fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * ((self.next() >> 11) as f64 / (1u64 << 53) as f64)
    }

    /// A place in a list of so many.
    pub(super) fn below(&mut self, count: usize) -> usize {
        (self.between(0.0, count as f64) as usize).min(count.saturating_sub(1))
    }

    /// Whether it happens, so many times in a hundred.
    pub(super) fn percent(&mut self, percent: f64) -> bool {
        self.between(0.0, 100.0) < percent
    }

    /// One of these; `None` of none.
    pub(super) fn one_of<'a, T>(&mut self, all: &'a [T]) -> Option<&'a T> {
        all.get(self.below(all.len()))
    }

    /// In another order (Fisher and Yates).
    pub(super) fn shuffle<T>(&mut self, all: &mut [T]) {
        for last in (1..all.len()).rev() {
            all.swap(last, self.below(last + 1));
        }
    }
}
