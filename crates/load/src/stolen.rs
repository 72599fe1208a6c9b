//! How much of the processors' time was taken by others of the same host.

use std::fs;

/// Ticks of the processors so far, as the kernel counts them; none where it does not tell.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(crate) struct Ticks {
    stolen: u64,
    all: u64,
}

impl Ticks {
    pub(crate) fn now() -> Self {
        fs::read_to_string("/proc/stat").ok().and_then(|stat| Self::of(&stat)).unwrap_or_default()
    }

    /// What share of the time since then was taken by others.
    pub(crate) fn stolen_since(self, before: Self) -> f64 {
        let since = |now: u64, then: u64| now.saturating_sub(then) as f64;
        since(self.stolen, before.stolen) / since(self.all, before.all).max(1.0)
    }

    /// By the first line of `/proc/stat`: user, nice, system, idle, iowait, irq, softirq, steal (man 5 proc_stat).
    fn of(stat: &str) -> Option<Self> {
        let line = stat.lines().next()?.strip_prefix("cpu ")?;
        let ticks: Vec<u64> = line.split_whitespace().filter_map(|word| word.parse().ok()).take(8).collect();
        Some(Self { stolen: *ticks.get(7)?, all: ticks.iter().sum() })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_eighth_figure_is_what_others_took() {
        let then = Ticks::of("cpu  1 2 3 4 5 6 7 20 9 9\ncpu0 1").unwrap();
        assert_eq!(then, Ticks { stolen: 20, all: 48 });
        let now = Ticks::of("cpu  41 2 3 4 5 6 7 30 9 9").unwrap();
        assert_eq!(now.stolen_since(then), 0.2);
        assert_eq!(Ticks::of("cpu  1 2 3"), None);
        assert_eq!(Ticks::default().stolen_since(now), 0.0);
    }
}
