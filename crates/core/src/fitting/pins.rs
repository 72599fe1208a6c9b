//! From what the pins hold to what the pattern loses or wants, and back.

use serde::{Deserialize, Serialize};

use super::Lie;
use crate::alter::MeasuredOn;
use crate::{Length, OnBody, PerEdge, PerHalf};

/// The deepest pin that is believed, in millimetres (common practice, no source).
pub const DEEPEST_PIN: f64 = 200.0;

/// How a depth of cloth was pinned and measured.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PinnedAs {
    /// A fold pinched up and measured to its crease: twice as much leaves the cloth.
    Pinch,
    /// A tuck measured flat, or an opening measured across.
    Tuck,
}

/// On which sides it was pinned.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum PinnedOn {
    /// The same on both sides.
    BothSides,
    /// All of it on one side, for both halves.
    OneSide,
    /// On one side, for that side alone.
    ThatSide,
}

/// What the pins hold.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Pinned {
    /// Depth as it was measured, in millimetres.
    pub depth: f64,
    /// How it was measured.
    pub pinned_as: PinnedAs,
    /// On which sides.
    pub on: PinnedOn,
}

/// A pinned depth in each of the dressmaker's ways of saying it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct PinAmounts {
    /// What leaves (or is wanting in) the cloth where it is pinned, in millimetres.
    pub leaves: f64,
    /// On the body: all round for a width, once for a length.
    pub on_body: OnBody,
    /// In one half pattern.
    pub per_half: PerHalf,
    /// On each edge of a seam that it is shared over.
    pub per_seam: PerEdge,
}

impl PinAmounts {
    /// What an alteration takes, whose amount is measured on this.
    pub fn measured_on(&self, on: MeasuredOn) -> f64 {
        match on {
            MeasuredOn::PerEdge => self.per_seam.0.mm(),
            MeasuredOn::Here | MeasuredOn::Place => self.leaves,
            _ => self.per_half.0.mm(),
        }
    }
}

impl Pinned {
    /// What it comes to. A fold across is a length: it is the same on the body and on the half. Everything else is
    /// a width: the halves share it.
    ///
    /// ```
    /// use yardwand_core::fitting::{Lie, Pinned, PinnedAs, PinnedOn};
    ///
    /// let pinch = Pinned { depth: 6.0, pinned_as: PinnedAs::Pinch, on: PinnedOn::BothSides };
    /// let width = pinch.amounts(Some(Lie::Along));
    /// assert_eq!(width.on_body.0.mm(), 24.0);
    /// assert_eq!(width.per_half.0.mm(), 12.0);
    /// assert_eq!(width.per_seam.0.mm(), 6.0);
    /// assert_eq!(pinch.amounts(Some(Lie::Across)).on_body.0.mm(), 12.0);
    /// ```
    pub fn amounts(self, lie: Option<Lie>) -> PinAmounts {
        let leaves = self.depth * self.layers();
        let (on_body, per_half, per_seam) = match (lie, self.on) {
            (Some(Lie::Across), _) => (leaves, leaves, leaves),
            (_, PinnedOn::BothSides) => (2.0 * leaves, leaves, leaves / 2.0),
            (_, PinnedOn::OneSide) => (leaves, leaves / 2.0, leaves / 4.0),
            (_, PinnedOn::ThatSide) => (leaves, leaves, leaves / 2.0),
        };
        PinAmounts {
            leaves,
            on_body: OnBody(Length::from_mm(on_body)),
            per_half: PerHalf(Length::from_mm(per_half)),
            per_seam: PerEdge(Length::from_mm(per_seam)),
        }
    }

    /// How deep to pin, so that a half pattern loses `per_half`: the way back, for trying an amount on the toile.
    pub fn for_half(per_half: PerHalf, lie: Option<Lie>, pinned_as: PinnedAs, on: PinnedOn) -> Self {
        let one = Self { depth: 1.0, pinned_as, on }.amounts(lie).per_half.0.mm();
        Self { depth: per_half.0.mm() / one, pinned_as, on }
    }

    const fn layers(self) -> f64 {
        match self.pinned_as {
            PinnedAs::Pinch => 2.0,
            PinnedAs::Tuck => 1.0,
        }
    }
}

#[cfg(test)]
mod tests {
    use proptest::prelude::*;

    use super::*;

    #[test]
    fn pins_become_amounts() {
        // leaves, on the body, per half, per seam; the arithmetic of a pinched fold (common practice, no source).
        for (pinned_as, on, expected) in [
            (PinnedAs::Pinch, PinnedOn::BothSides, [20.0, 40.0, 20.0, 10.0]),
            (PinnedAs::Pinch, PinnedOn::OneSide, [20.0, 20.0, 10.0, 5.0]),
            (PinnedAs::Tuck, PinnedOn::BothSides, [10.0, 20.0, 10.0, 5.0]),
            (PinnedAs::Tuck, PinnedOn::OneSide, [10.0, 10.0, 5.0, 2.5]),
            (PinnedAs::Pinch, PinnedOn::ThatSide, [20.0, 20.0, 20.0, 10.0]),
        ] {
            let got = Pinned { depth: 10.0, pinned_as, on }.amounts(None);
            let got = [got.leaves, got.on_body.0.mm(), got.per_half.0.mm(), got.per_seam.0.mm()];
            assert_eq!(got, expected, "{pinned_as:?} {on:?}");
        }
    }

    #[test]
    fn an_alteration_takes_what_its_amount_is_measured_on() {
        let pinned = Pinned { depth: 10.0, pinned_as: PinnedAs::Pinch, on: PinnedOn::OneSide }.amounts(None);
        assert_eq!(pinned.measured_on(MeasuredOn::PerHalf), 10.0);
        assert_eq!(pinned.measured_on(MeasuredOn::PerEdge), 5.0);
        assert_eq!(pinned.measured_on(MeasuredOn::Here), 20.0);
    }

    proptest! {
        #[test]
        fn pins_to_amounts_and_back(
            depth in 0.5..DEEPEST_PIN,
            as_pinch: bool,
            on in prop::sample::select(vec![PinnedOn::BothSides, PinnedOn::OneSide, PinnedOn::ThatSide]),
            lie in prop::sample::select(vec![None, Some(Lie::Across), Some(Lie::Along)]),
        ) {
            let pinned_as = if as_pinch { PinnedAs::Pinch } else { PinnedAs::Tuck };
            let pinned = Pinned { depth, pinned_as, on };
            let back = Pinned::for_half(pinned.amounts(lie).per_half, lie, pinned_as, on);
            prop_assert!((back.depth - depth).abs() < 1e-9);
            prop_assert_eq!((back.pinned_as, back.on), (pinned_as, on));
        }
    }
}
