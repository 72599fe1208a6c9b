//! Ways as their own types: an enum for each choice, with the stable code and the trade's words of every variant.
//!
//! Codes are read and written here and in [`super::amounts`] only; alterations work with the variants.

use super::Args;
use super::amounts::Way;
use crate::pattern::{DartPlace, Half, Pattern, Piece};

/// The ways of a parameter, in the order they are offered: the first is the usual one.
pub(super) trait Ways: Copy + 'static {
    /// Stable codes and the trade's words.
    const WAYS: &'static [Way];
    /// The variants in the same order.
    const ALL: &'static [Self];
}

/// Declares the ways of a parameter: variant, stable code, the trade's words.
macro_rules! ways {
    ($(#[$doc:meta])* $name:ident { $($(#[$variant_doc:meta])* $variant:ident = $code:literal, $words:literal;)+ }) => {
        $(#[$doc])*
        #[derive(Clone, Copy, Debug, PartialEq, Eq)]
        pub(super) enum $name {
            $($(#[$variant_doc])* $variant,)+
        }

        impl $crate::alter::ways::Ways for $name {
            const WAYS: &'static [$crate::alter::Way] = &[$(($code, $words)),+];
            const ALL: &'static [Self] = &[$(Self::$variant),+];
        }
    };
}
pub(super) use ways;

ways! {
    /// Front or back.
    Body {
        /// In front.
        Front = "front", "front";
        /// Behind.
        Back = "back", "back";
    }
}

impl Body {
    /// The whole piece, where it is one.
    pub(super) fn piece_of(self, pattern: &Pattern) -> Option<&Piece> {
        match self {
            Self::Front => pattern.front(),
            Self::Back => pattern.back(),
        }
    }

    /// The piece its darts are in: the whole one, or what lies of it above a seam under the bust.
    pub(super) fn upper_of(self, pattern: &Pattern) -> Option<&Piece> {
        self.half_of(pattern)?.upper()
    }

    /// That half, whole or parted.
    pub(super) fn half_of(self, pattern: &Pattern) -> Option<Half<'_>> {
        match self {
            Self::Front => pattern.front_half(),
            Self::Back => pattern.back_half(),
        }
    }

    /// The word.
    pub(super) const fn name(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
        }
    }
}

ways! {
    /// A dart that reaches a seam, by its place.
    FromDart {
        /// At the side.
        Side = "side", "side dart";
        /// At the waist.
        Waist = "waist", "waist dart";
        /// In the shoulder.
        Shoulder = "shoulder", "shoulder dart";
        /// In the armhole.
        Armhole = "armhole", "armhole dart";
        /// In the neckline.
        Neckline = "neckline", "neck dart";
        /// At the centre.
        Centre = "centre", "centre dart";
    }
}

impl FromDart {
    /// Its place on the pattern.
    pub(super) const fn place(self) -> DartPlace {
        match self {
            Self::Side => DartPlace::Side,
            Self::Waist => DartPlace::Waist,
            Self::Shoulder => DartPlace::Shoulder,
            Self::Armhole => DartPlace::Armhole,
            Self::Neckline => DartPlace::Neckline,
            Self::Centre => DartPlace::Centre,
        }
    }
}

impl Args<'_> {
    /// The chosen way of a parameter, or the usual one.
    pub(super) fn choice<W: Ways>(&self, param: &str) -> W {
        let code = self.way(param);
        let chosen = W::WAYS.iter().position(|(known, _)| *known == code);
        W::ALL[chosen.unwrap_or(0)]
    }
}

#[cfg(test)]
mod tests {
    use super::super::{Amounts, registry};
    use super::*;

    /// Codes are stable: what a recipe names is read as that way, and no two are alike.
    #[test]
    fn every_way_is_read_by_its_code() {
        for known in registry() {
            for param in known.params().iter().filter(|param| !param.ways.is_empty()) {
                for (code, _) in param.ways {
                    let amounts = Amounts::default().by(param.code, code);
                    assert_eq!(Args::new(known.params(), &amounts).way(param.code), *code);
                    assert_eq!(param.ways.iter().filter(|(other, _)| other == code).count(), 1, "{code}");
                }
            }
        }
    }
}
