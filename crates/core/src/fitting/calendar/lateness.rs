//! Whether what a date was planned for has been done: what is late is told by that, not by the date alone.

use super::{Visit, VisitKind};

/// What has been done of a garment.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct Done {
    /// Every reading its set wants is there.
    pub measured: bool,
    /// Rounds that were opened on toiles.
    pub toile_rounds: u32,
    /// On basted cloth.
    pub cloth_rounds: u32,
    /// Last fittings.
    pub final_rounds: u32,
    /// Handed over.
    pub finished: bool,
}

impl Done {
    /// Whether what a visit is for has been done. What comes later in a garment's life does what came before.
    pub const fn covers(self, visit: Visit) -> bool {
        let Self { measured, toile_rounds, cloth_rounds, final_rounds, finished } = self;
        let finally = finished || final_rounds > 0;
        let on_cloth = finally || cloth_rounds > 0;
        match visit.kind {
            VisitKind::Measuring => measured || on_cloth || toile_rounds > 0,
            VisitKind::Cutting => on_cloth || toile_rounds > 0,
            VisitKind::Toile => on_cloth || toile_rounds >= visit.number,
            VisitKind::ClothFitting => on_cloth,
            VisitKind::FinalFitting => finally,
            VisitKind::Delivery => finished,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    /// Visits in the order of a garment's life that are not done yet.
    fn left(done: Done) -> Vec<(VisitKind, u32)> {
        let visits = [
            (VisitKind::Measuring, 1),
            (VisitKind::Cutting, 1),
            (VisitKind::Toile, 1),
            (VisitKind::Toile, 2),
            (VisitKind::ClothFitting, 1),
            (VisitKind::FinalFitting, 1),
            (VisitKind::Delivery, 1),
        ];
        visits
            .into_iter()
            .filter(|(kind, number)| !done.covers(Visit { kind: *kind, number: *number }))
            .collect()
    }

    #[test]
    fn each_thing_done_takes_one_visit_off_the_list() {
        let steps = [
            Done::default(),
            Done { measured: true, ..Done::default() },
            Done { measured: true, toile_rounds: 1, ..Done::default() },
            Done { measured: true, toile_rounds: 2, ..Done::default() },
            Done { measured: true, toile_rounds: 2, cloth_rounds: 1, ..Done::default() },
            Done { measured: true, toile_rounds: 2, cloth_rounds: 1, final_rounds: 1, finished: false },
            Done { finished: true, ..Done::default() },
        ];
        assert_eq!(steps.map(|done| left(done).len()), [7, 6, 4, 3, 2, 1, 0]);
    }

    #[test]
    fn a_second_toile_is_late_when_only_the_first_was_fitted() {
        let done = Done { measured: true, toile_rounds: 1, ..Done::default() };
        assert_eq!(left(done)[0], (VisitKind::Toile, 2));
    }

    #[test]
    fn a_garment_that_went_to_cloth_at_once_misses_no_toile() {
        assert_eq!(left(Done { cloth_rounds: 1, ..Done::default() })[0].0, VisitKind::FinalFitting);
    }
}
