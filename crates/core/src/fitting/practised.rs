//! What the practice room wants of a cause: what is done for it, what is seen of it, and where its amount can be read.

use super::causes::{AmountFrom, Cause, Remedy, Sides};
use super::{Observation, ObservationKind, Pinned, PinnedAs, PinnedOn, Sign, Worn};
use crate::alter::{Amounts, MeasuredOn};
use crate::body::Side;
use crate::pattern::Garment;

impl Cause {
    /// Code of what is done for it on such a garment, and the usual amount, in millimetres.
    pub(crate) fn corrected_by(&self, garment: Garment) -> Option<(&str, f64)> {
        let remedy = self.remedy(garment)?;
        Some((&remedy.alteration, remedy.usual()))
    }

    /// What the alteration is told for so much of it.
    pub(crate) fn told(&self, garment: Garment, mm: f64) -> Option<Amounts> {
        Some(self.remedy(garment)?.amounts(mm))
    }

    /// What the amount is measured on.
    pub(crate) fn measured_on(&self, garment: Garment) -> Option<MeasuredOn> {
        Some(self.remedy(garment)?.measured_on())
    }

    /// Whether it can be with what is worn, as far as that is known.
    pub(crate) fn goes_with(&self, worn: &Worn) -> bool {
        self.worn.iter().all(|sign| sign.holds(worn) != Some(false))
    }

    /// The side it is seen on: one, where it is seen on one alone.
    pub(crate) const fn side_or(&self, one: Side) -> Side {
        match self.sides {
            Sides::One => one,
            Sides::Any | Sides::Apart => Side::Both,
        }
    }

    /// Lets an observation of it hold the amount, where that is what the amount is read from; whether it does.
    pub(crate) fn hold_amount(&self, garment: Garment, mm: f64, seen: &mut Observation) -> bool {
        let Some(remedy) = self.remedy(garment) else { return false };
        remedy.amount.iter().any(|source| held(remedy, source, mm, seen))
    }
}

fn held(remedy: &Remedy, source: &AmountFrom, mm: f64, seen: &mut Observation) -> bool {
    let pin = |seen: &mut Observation, of_one: f64| {
        let depth = mm / of_one;
        if !(depth.is_finite() && depth > 0.0) {
            return false;
        }
        seen.pinned = Some(Pinned { depth, ..one(seen) });
        true
    };
    let is_cloth =
        matches!(seen.kind, ObservationKind::Fold | ObservationKind::Gape | ObservationKind::Strain);
    match source {
        AmountFrom::Pins { times } if is_cloth => {
            let on_each = one(seen).amounts(seen.lie).measured_on(remedy.measured_on());
            pin(seen, on_each * times)
        }
        AmountFrom::Wedge { times } if is_cloth => pin(seen, *times),
        AmountFrom::Across { times } if seen.lie == Some(super::Lie::Across) => {
            let leaves = one(seen).amounts(seen.lie).leaves;
            pin(seen, leaves * times)
        }
        AmountFrom::HowFar { times } if is_moved(seen.kind) && mm / times > 0.0 => {
            seen.how_far = Some(mm / times);
            true
        }
        _ => false,
    }
}

/// Something that is off by a distance.
const fn is_moved(kind: ObservationKind) -> bool {
    matches!(kind, ObservationKind::Hike | ObservationKind::Place | ObservationKind::Point)
}

/// A millimetre tucked where something is seen.
fn one(seen: &Observation) -> Pinned {
    let on = if seen.side == Side::Both { PinnedOn::BothSides } else { PinnedOn::ThatSide };
    Pinned { depth: 1.0, pinned_as: PinnedAs::Tuck, on }
}

impl Sign {
    /// The observations that are this sign itself, every place of it, on a side of her.
    pub(crate) fn pictures(&self, side: Side) -> Vec<Observation> {
        let aims: Vec<Option<&String>> = match self.towards() {
            [] => vec![None],
            aims => aims.iter().map(Some).collect(),
        };
        let one = |place: &String, towards: Option<&String>| {
            (towards != Some(place)).then(|| Observation {
                lie: self.lie(),
                towards: towards.cloned(),
                side,
                posture: self.posture(),
                goes_when: self.goes_when(),
                ..Observation::of(self.kind(), place)
            })
        };
        self.at().iter().flat_map(|place| aims.iter().filter_map(move |aim| one(place, *aim))).collect()
    }
}
