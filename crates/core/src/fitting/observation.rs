//! One thing seen on the toile: where, what, how it lies, in which posture, and what became of it.

use serde::{Deserialize, Serialize};

use super::Pinned;
use crate::alter::Amounts;
use crate::body::{Side, View};
use crate::geometry::Pt;
use crate::pattern::{PieceKind, WornSide};

/// What it looks like.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
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

    /// The ways it can lie, in the order they are offered.
    pub const fn lies(self) -> &'static [Lie] {
        match self {
            Self::Fold => &[Lie::Across, Lie::Along],
            Self::Hike => &[Lie::Up, Lie::Down],
            Self::Point => &[Lie::Up, Lie::Down, Lie::In, Lie::Out],
            Self::Swing => &[Lie::Forward, Lie::Backward],
            Self::Place => &[Lie::Up, Lie::Down, Lie::Forward, Lie::Backward, Lie::In, Lie::Out],
            Self::Drag | Self::Gape | Self::Strain => &[],
        }
    }

    /// Whether cloth is wanting where it is seen; otherwise there is too much, or it only hangs wrong.
    pub const fn wants_cloth(self) -> bool {
        matches!(self, Self::Drag | Self::Strain)
    }
}

/// How it lies, or which way it goes.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Lie {
    /// Level: the cloth is too long.
    Across,
    /// Upright: the cloth is too wide.
    Along,
    /// It rises, or lies too high.
    Up,
    /// It sinks, or lies too low.
    Down,
    /// Towards her front.
    Forward,
    /// Towards her back.
    Backward,
    /// Towards her middle.
    In,
    /// Away from her middle.
    Out,
}

impl Lie {
    /// The other way it could lie or go.
    pub const fn opposite(self) -> Self {
        match self {
            Self::Across => Self::Along,
            Self::Along => Self::Across,
            Self::Up => Self::Down,
            Self::Down => Self::Up,
            Self::Forward => Self::Backward,
            Self::Backward => Self::Forward,
            Self::In => Self::Out,
            Self::Out => Self::In,
        }
    }

    /// Every way to lie.
    pub const ALL: [Self; 8] =
        [Self::Across, Self::Along, Self::Up, Self::Down, Self::Forward, Self::Backward, Self::In, Self::Out];

    /// The word for it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Across => "across",
            Self::Along => "along",
            Self::Up => "up",
            Self::Down => "down",
            Self::Forward => "forward",
            Self::Backward => "backward",
            Self::In => "in",
            Self::Out => "out",
        }
    }
}

/// What she was asked to do when it was seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Posture {
    /// Standing easy, arms down.
    Standing,
    /// Arms forward: bowing, driving, stirring.
    ArmsForward,
    /// Arms lifted.
    ArmsLifted,
    /// Arms taken back: putting on a coat.
    ArmsBack,
    /// The arm bent at the elbow.
    ArmBent,
    /// The arm stretched.
    ArmStretched,
    /// Sitting.
    Sitting,
    /// A deep breath.
    BreathingIn,
}

impl Posture {
    /// Every posture.
    pub const ALL: [Self; 8] = [
        Self::Standing,
        Self::ArmsForward,
        Self::ArmsLifted,
        Self::ArmsBack,
        Self::ArmBent,
        Self::ArmStretched,
        Self::Sitting,
        Self::BreathingIn,
    ];

    /// The words for it.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Standing => "standing easy",
            Self::ArmsForward => "arms forward",
            Self::ArmsLifted => "arms lifted",
            Self::ArmsBack => "arms back",
            Self::ArmBent => "arm bent",
            Self::ArmStretched => "arm stretched",
            Self::Sitting => "sitting",
            Self::BreathingIn => "breathing in",
        }
    }
}

/// What an observation leaves open that its causes depend on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Unsaid {
    /// Which way it goes.
    WhichWay,
    /// How far it is off.
    HowFar,
    /// What it points at.
    Towards,
}

/// How sure the fitter is of what she sees.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Sureness {
    /// Seen and felt.
    #[default]
    Sure,
    /// Seen, but it may be the stance or the muslin.
    Doubtful,
}

/// A line drawn with a finger, or a place tapped: on the figure or on a pattern piece, in millimetres of that drawing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Drawn {
    /// On the figure, seen from.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub view: Option<View>,
    /// On this piece of the pattern.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub piece: Option<PieceKind>,
    /// Where it begins.
    pub from: Pt,
    /// Where it ends; where it begins for a place tapped.
    pub to: Pt,
}

impl Drawn {
    /// Lies nearer to level than to upright; `None` for a mere tap.
    pub fn lies(&self) -> Option<Lie> {
        let (dx, dy) = ((self.to.x - self.from.x).abs(), (self.to.y - self.from.y).abs());
        (dx.hypot(dy) > 1.0).then_some(if dx >= dy { Lie::Across } else { Lie::Along })
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
    /// Seen elsewhere now.
    Moved,
}

impl Mark {
    /// Every mark.
    pub const ALL: [Self; 5] = [Self::Gone, Self::Better, Self::Same, Self::Worse, Self::Moved];

    /// Stable code.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Gone => "gone",
            Self::Better => "better",
            Self::Same => "same",
            Self::Worse => "worse",
            Self::Moved => "moved",
        }
    }

    /// The mark of a code.
    pub fn of(code: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|mark| mark.code() == code)
    }
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
        /// The side it is done on; both unless told otherwise.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        side: Option<WornSide>,
        /// Code of the cause it is done for.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cause: Option<String>,
        /// Why the fitter decided otherwise than the first cause suggested.
        #[serde(default, skip_serializing_if = "String::is_empty")]
        #[cfg_attr(feature = "schema", schema(required = false))]
        overruled: String,
    },
    /// It stays as it is.
    Leave {
        /// Why.
        reason: String,
    },
    /// It is looked at again next time.
    Watch,
}

impl Decision {
    /// The pattern is altered on both sides, for no stated cause.
    pub fn alter(alteration: &str, amounts: Amounts) -> Self {
        Self::Alter {
            alteration: alteration.to_owned(),
            amounts,
            side: None,
            cause: None,
            overruled: String::new(),
        }
    }

    /// The cause it was decided for.
    pub fn cause(&self) -> Option<&str> {
        match self {
            Self::Alter { cause, .. } => cause.as_deref(),
            Self::Leave { .. } | Self::Watch => None,
        }
    }
}

/// One thing seen.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Observation {
    /// Where.
    pub place: String,
    /// What it looks like.
    pub kind: ObservationKind,
    /// How it lies, or which way it goes.
    #[serde(default)]
    pub lie: Option<Lie>,
    /// The place it points at.
    #[serde(default)]
    pub towards: Option<String>,
    /// On which side of her.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub side: Side,
    /// In which posture; standing easy unless said.
    #[serde(default)]
    pub posture: Option<Posture>,
    /// The posture in which it is gone.
    #[serde(default)]
    pub goes_when: Option<Posture>,
    /// How far it is off, in millimetres: an edge that rises, a seam or a dart's point out of place.
    #[serde(default)]
    pub how_far: Option<f64>,
    /// How sure.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub sureness: Sureness,
    /// The line drawn, or the place tapped.
    #[serde(default)]
    pub drawn: Option<Drawn>,
    /// In words.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub note: String,
    /// What was pinned, if anything.
    #[serde(default)]
    pub pinned: Option<Pinned>,
}

impl Observation {
    /// Just what and where; the rest is not said.
    pub fn of(kind: ObservationKind, place: &str) -> Self {
        Self {
            place: place.to_owned(),
            kind,
            lie: None,
            towards: None,
            side: Side::Both,
            posture: None,
            goes_when: None,
            how_far: None,
            sureness: Sureness::Sure,
            drawn: None,
            note: String::new(),
            pinned: None,
        }
    }

    /// The side of the body it is on, where it is on one alone.
    pub const fn one_side(&self) -> Option<WornSide> {
        WornSide::of(self.side)
    }

    /// The posture it was seen in, where it was not standing easy.
    pub fn in_posture(&self) -> Option<Posture> {
        self.posture.filter(|posture| *posture != Posture::Standing)
    }

    /// What leaves (positive) or is wanting (negative) in one half pattern, in millimetres.
    pub fn signed_per_half(&self) -> Option<f64> {
        let mm = self.pinned?.amounts(self.lie).per_half.0.mm();
        Some(if self.kind.wants_cloth() { -mm } else { mm })
    }

    /// What is still to be said of it before a cause is taken: one tap each.
    pub fn asks(&self) -> Vec<Unsaid> {
        let directed = matches!(self.kind, ObservationKind::Hike | ObservationKind::Place);
        let asks = [
            (Unsaid::WhichWay, directed && self.lie.is_none()),
            (
                Unsaid::HowFar,
                self.kind == ObservationKind::Place && self.how_far.is_none() && self.pinned.is_none(),
            ),
            (Unsaid::Towards, self.kind == ObservationKind::Drag && self.towards.is_none()),
        ];
        asks.into_iter().filter(|(_, asked)| *asked).map(|(ask, _)| ask).collect()
    }

    /// It in words: `Drag at sleeve cap towards shoulder tip, arms forward, on the left`.
    pub fn said(&self) -> String {
        let kind = match (self.kind, self.lie) {
            (ObservationKind::Hike, Some(Lie::Up)) => "Hike".to_owned(),
            (ObservationKind::Hike, Some(Lie::Down)) => "Drop".to_owned(),
            (ObservationKind::Point, Some(Lie::Up)) => "Dart point too high".to_owned(),
            (ObservationKind::Point, Some(Lie::Down)) => "Dart point too low".to_owned(),
            (ObservationKind::Point, Some(Lie::In)) => "Dart point too far in".to_owned(),
            (ObservationKind::Point, Some(Lie::Out)) => "Dart point too far out".to_owned(),
            (ObservationKind::Place, Some(Lie::Up)) => "Lies too high".to_owned(),
            (ObservationKind::Place, Some(Lie::Down)) => "Lies too low".to_owned(),
            (ObservationKind::Place, Some(lie)) => format!("Lies too far {}", lie.name()),
            (kind, Some(lie)) if kind.lies().contains(&lie) => format!("{} {}", kind.name(), lie.name()),
            (kind, _) => kind.name().to_owned(),
        };
        let mut text = format!("{kind} at {}", self.place);
        if let Some(towards) = &self.towards {
            text += &format!(" towards {towards}");
        }
        if let Some(posture) = self.in_posture() {
            text += &format!(", {}", posture.name());
        }
        if let Some(posture) = self.goes_when {
            text += &format!(", gone {}", posture.name());
        }
        if let Some(side) = self.one_side() {
            text += &format!(", on the {}", side.name());
        }
        text
    }
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
    fn left_as_it_is_or_gone_is_closed_and_everything_else_open() {
        let leave = Decision::Leave { reason: "cloth only".into() };
        assert!(is_open(None, None));
        assert!(is_open(Some(&Decision::Watch), None));
        assert!(!is_open(Some(&leave), None));
        assert!(!is_open(Some(&Decision::Watch), Some(Mark::Gone)));
        assert!(is_open(Some(&leave), Some(Mark::Worse)));
        assert!(is_open(Some(&Decision::Watch), Some(Mark::Moved)));
    }

    #[test]
    fn what_was_kept_before_there_were_directions_is_still_read() {
        let old = r#"{"place":"front armhole","kind":"gape","note":"","pinned":{"depth":6.35,"pinned_as":"tuck","on":"both_sides"}}"#;
        let seen: Observation = serde_json::from_str(old).unwrap();
        assert_eq!(seen.said(), "Gape at front armhole");
        assert_eq!(seen.signed_per_half(), Some(6.35));
        let decided: Decision =
            serde_json::from_str(r#"{"what":"alter","alteration":"full_bust","amounts":{"amount":6.0}}"#)
                .unwrap();
        assert_eq!(decided, Decision::alter("full_bust", Amounts::of(6.0)));
    }

    #[test]
    fn an_observation_says_all_that_was_seen() {
        let seen = Observation {
            towards: Some("shoulder tip".into()),
            posture: Some(Posture::ArmsForward),
            side: Side::Left,
            ..Observation::of(ObservationKind::Drag, "sleeve cap")
        };
        assert_eq!(seen.said(), "Drag at sleeve cap towards shoulder tip, arms forward, on the left");
        let hike =
            Observation { lie: Some(Lie::Down), ..Observation::of(ObservationKind::Hike, "front hem") };
        assert_eq!(hike.said(), "Drop at front hem");
        let fold = Observation {
            goes_when: Some(Posture::ArmsForward),
            ..Observation::of(ObservationKind::Fold, "back armhole")
        };
        assert_eq!(fold.said(), "Fold at back armhole, gone arms forward");
    }

    #[test]
    fn what_a_cause_depends_on_is_asked_for_until_it_is_said() {
        let drag = Observation::of(ObservationKind::Drag, "sleeve cap");
        assert_eq!(drag.asks(), [Unsaid::Towards]);
        assert!(Observation { towards: Some("shoulder tip".into()), ..drag }.asks().is_empty());
        let place = Observation::of(ObservationKind::Place, "shoulder tip");
        assert_eq!(place.asks(), [Unsaid::WhichWay, Unsaid::HowFar]);
        let said = Observation { lie: Some(Lie::Out), how_far: Some(9.0), ..place };
        assert!(said.asks().is_empty());
        assert_eq!(Observation::of(ObservationKind::Hike, "front hem").asks(), [Unsaid::WhichWay]);
        assert!(Observation::of(ObservationKind::Gape, "front armhole").asks().is_empty());
    }

    #[test]
    fn the_opposite_of_the_opposite_is_the_way_itself() {
        for lie in Lie::ALL {
            assert_eq!(lie.opposite().opposite(), lie);
            assert_ne!(lie.opposite(), lie);
        }
    }

    #[test]
    fn a_drawn_line_tells_how_a_fold_lies() {
        let drawn = |x: f64, y: f64| Drawn {
            view: Some(View::Back),
            piece: None,
            from: Pt { x: 0.0, y: 0.0 },
            to: Pt { x, y },
        };
        assert_eq!(drawn(120.0, 30.0).lies(), Some(Lie::Across));
        assert_eq!(drawn(-20.0, 90.0).lies(), Some(Lie::Along));
        assert_eq!(drawn(0.0, 0.0).lies(), None);
    }
}
