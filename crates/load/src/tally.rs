//! Times that were measured, and what is said of them.

use std::time::Duration;

/// Times of one kind.
#[derive(Clone, Debug, Default)]
pub(crate) struct Tally {
    took: Vec<Duration>,
}

impl Tally {
    pub(crate) fn add(&mut self, took: Duration) {
        self.took.push(took);
    }

    pub(crate) fn append(&mut self, mut other: Self) {
        self.took.append(&mut other.took);
    }

    pub(crate) fn count(&self) -> usize {
        self.took.len()
    }

    /// The time that this share of them did not exceed, in milliseconds.
    pub(crate) fn at(&self, share: f64) -> f64 {
        let mut sorted = self.took.clone();
        sorted.sort_unstable();
        let place = (share * sorted.len() as f64).ceil() as usize;
        sorted.get(place.saturating_sub(1)).map_or(0.0, |took| took.as_secs_f64() * 1e3)
    }
}

impl FromIterator<Duration> for Tally {
    fn from_iter<I: IntoIterator<Item = Duration>>(times: I) -> Self {
        Self { took: times.into_iter().collect() }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_share_of_the_times_did_not_exceed_it() {
        let tally: Tally = (1..=100).map(Duration::from_millis).collect();
        assert_eq!([0.5, 0.95, 1.0].map(|share| tally.at(share)), [50.0, 95.0, 100.0]);
        let one: Tally = [Duration::from_millis(7)].into_iter().collect();
        assert_eq!([0.01, 1.0].map(|share| one.at(share)), [7.0, 7.0]);
    }
}
