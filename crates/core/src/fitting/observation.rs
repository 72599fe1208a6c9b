//! One thing seen on the toile: where, what, how much, and what became of it.

use serde::{Deserialize, Serialize};

use crate::alter::Amounts;
use crate::body::{Body, Tape, View, draw_tape};
use crate::pattern::Pt;
use crate::{Length, PerHalf};

/// What it looks like.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum ObservationKind {
    /// Taut lines pointing at the place where cloth is short.
    Drag,
    /// A loose fold, across (too long) or along (too wide).
    Fold,
    /// An edge stands off.
    Gape,
    /// An edge or level line rises or sinks.
    Hike,
    /// A seam leans off plumb, a hem kicks.
    Swing,
    /// Pulled open; she cannot breathe or reach.
    Strain,
    /// A dart's tip peaks, or misses the bust point.
    Point,
    /// A seam lies where the body's line is not.
    Place,
}

impl ObservationKind {
    /// Every kind.
    pub const ALL: [Self; 8] =
        [Self::Drag, Self::Fold, Self::Gape, Self::Hike, Self::Swing, Self::Strain, Self::Point, Self::Place];

    /// The trade's word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Drag => "Drag",
            Self::Fold => "Fold",
            Self::Gape => "Gape",
            Self::Hike => "Hike or drop",
            Self::Swing => "Swing",
            Self::Strain => "Strain",
            Self::Point => "Dart point",
            Self::Place => "Out of place",
        }
    }

    /// What it looks like, in a sentence.
    pub const fn looks(self) -> &'static str {
        match self {
            Self::Drag => "Taut lines that point at the place where cloth is short.",
            Self::Fold => "A loose fold: lying across it is too long, along it is too wide.",
            Self::Gape => "An edge stands off: armhole, neckline, back neck.",
            Self::Hike => "An edge or a level line rises or sinks.",
            Self::Swing => "A seam leans off plumb, or the hem kicks.",
            Self::Strain => "A seam is pulled open; she cannot breathe or reach.",
            Self::Point => "A dart's tip peaks, or does not lie at the bust point.",
            Self::Place => "A seam, the waist or the shoulder is not where the body's is.",
        }
    }
}

/// Where on the bodice a fitter may point, with the view and the landmark of the figure it lies at.
const PLACES: [(&str, View, &str); 14] = [
    ("bust", View::Front, "bust_point"),
    ("above the bust", View::Front, "cup_top"),
    ("under the bust", View::Front, "under_bust_point"),
    ("front armhole", View::Front, "crease"),
    ("back armhole", View::Back, "crease"),
    ("shoulder", View::Front, "shoulder_middle"),
    ("shoulder tip", View::Front, "shoulder"),
    ("front neckline", View::Front, "pit"),
    ("back neck", View::Back, "nape"),
    ("shoulder blade", View::Back, "shoulder_blade"),
    ("across the back", View::Back, "across_centre"),
    ("side seam", View::Front, "side_middle"),
    ("front waist", View::Front, "waist_centre"),
    ("back waist", View::Back, "waist_centre"),
];

/// A place to point at, on the figure of a body.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlaceOnFigure {
    /// The place.
    pub name: String,
    /// Seen from.
    pub view: View,
    /// Where it is drawn.
    pub at: Pt,
}

/// The names of the places.
pub fn places() -> impl Iterator<Item = &'static str> {
    PLACES.iter().map(|(name, _, _)| *name)
}

/// The places on the figure of a body.
pub fn places_on(body: &Body) -> Vec<PlaceOnFigure> {
    let on = |(name, view, landmark): &(&str, View, &str)| {
        let tape =
            Tape { view: *view, level: None, through: vec![(*landmark).to_owned()], round: Vec::new() };
        let at = draw_tape(&tape, body)?.points.into_iter().next()?;
        Some(PlaceOnFigure { name: (*name).to_owned(), view: *view, at })
    };
    PLACES.iter().filter_map(on).collect()
}

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

impl Pinned {
    /// What leaves (or is wanting in) one half pattern.
    ///
    /// ```
    /// use yardwand_core::fitting::{Pinned, PinnedAs, PinnedOn};
    ///
    /// let pinch = Pinned { depth: 6.0, pinned_as: PinnedAs::Pinch, on: PinnedOn::BothSides };
    /// assert_eq!(pinch.per_half().0.mm(), 12.0);
    /// ```
    pub fn per_half(self) -> PerHalf {
        let layers = match self.pinned_as {
            PinnedAs::Pinch => 2.0,
            PinnedAs::Tuck => 1.0,
        };
        let halves = match self.on {
            PinnedOn::BothSides => 1.0,
            PinnedOn::OneSide => 2.0,
        };
        PerHalf(Length::from_mm(self.depth * layers / halves))
    }
}

/// What an old observation has become by the next round.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Mark {
    /// No longer seen.
    Gone,
    /// Less than before.
    Better,
    /// As before.
    Same,
    /// More than before.
    Worse,
}

/// What is done about an observation.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case", tag = "what")]
pub enum Decision {
    /// The pattern is altered.
    Alter {
        /// Code of the alteration.
        alteration: String,
        /// Its amounts.
        amounts: Amounts,
    },
    /// It stays as it is.
    Leave {
        /// Why.
        reason: String,
    },
    /// It is looked at again next time.
    Watch,
}

/// One thing seen.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Observation {
    /// Where.
    pub place: String,
    /// What it looks like.
    pub kind: ObservationKind,
    /// In words.
    #[serde(default)]
    pub note: String,
    /// What was pinned, if anything.
    #[serde(default)]
    pub pinned: Option<Pinned>,
}

/// Whether an observation still wants something: undecided, or marked as still there.
pub fn is_open(decision: Option<&Decision>, mark: Option<Mark>) -> bool {
    match (mark, decision) {
        (Some(Mark::Gone), _) => false,
        (Some(_), _) => true,
        (None, Some(Decision::Leave { .. })) => false,
        (None, _) => true,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn pins_become_amounts_per_half() {
        for (pinned_as, on, expected) in [
            (PinnedAs::Pinch, PinnedOn::BothSides, 20.0),
            (PinnedAs::Pinch, PinnedOn::OneSide, 10.0),
            (PinnedAs::Tuck, PinnedOn::BothSides, 10.0),
            (PinnedAs::Tuck, PinnedOn::OneSide, 5.0),
        ] {
            let pinned = Pinned { depth: 10.0, pinned_as, on };
            assert_eq!(pinned.per_half().0.mm(), expected, "{pinned:?}");
        }
    }

    #[test]
    fn left_as_it_is_or_gone_is_closed_and_everything_else_open() {
        let leave = Decision::Leave { reason: "cloth only".into() };
        assert!(is_open(None, None));
        assert!(is_open(Some(&Decision::Watch), None));
        assert!(!is_open(Some(&leave), None));
        assert!(!is_open(Some(&Decision::Watch), Some(Mark::Gone)));
        assert!(is_open(Some(&leave), Some(Mark::Worse)));
    }

    #[test]
    fn every_place_lies_on_the_figure_apart_from_the_others() {
        let found = places_on(&Body::middle());
        assert_eq!(found.len(), places().count());
        for (index, one) in found.iter().enumerate() {
            for other in &found[index + 1..] {
                let apart = (one.at.x - other.at.x).hypot(one.at.y - other.at.y);
                assert!(
                    one.view != other.view || apart > 30.0,
                    "{} and {} are {apart} apart",
                    one.name,
                    other.name
                );
            }
        }
    }
}
