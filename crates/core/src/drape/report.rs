//! What a transfer answers: pieces, how nearly each line passes its dots, what was corrected, and what must be asked.

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::marks::{Marks, Named};
use crate::geometry::Pt;
use crate::pattern::{Piece, PieceKind, Seam};

/// Which of the two pieces.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Draped {
    /// The front.
    Front,
    /// The back.
    Back,
}

impl Draped {
    /// Both.
    pub const BOTH: [Self; 2] = [Self::Front, Self::Back];

    /// The piece of a pattern it becomes.
    pub const fn kind(self) -> PieceKind {
        match self {
            Self::Front => PieceKind::BODICE_FRONT,
            Self::Back => PieceKind::BODICE_BACK,
        }
    }

    /// The trade's word.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Front => "front",
            Self::Back => "back",
        }
    }
}

/// How nearly a drawn line passes what was clicked along it.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LineFit {
    /// The piece.
    pub piece: Draped,
    /// What is sewn there.
    pub seam: Seam,
    /// The line in words: an armhole is drawn in two.
    pub line: &'static str,
    /// The furthest dot from the line, in millimetres.
    pub max: f64,
    /// Root of the mean square of all of them.
    pub rms: f64,
    /// How many marks and dots it passes.
    pub dots: usize,
    /// How many were left out, each of them asked about.
    pub left_out: usize,
}

/// The unit of a correction or a figure.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum DrapeUnit {
    /// Millimetres.
    Mm,
    /// Degrees.
    Degrees,
}

/// Something the transfer drew otherwise than it was clicked.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Correction {
    /// The piece.
    pub piece: Draped,
    /// What was corrected.
    pub what: String,
    /// As it was clicked.
    pub before: f64,
    /// As it is drawn.
    pub after: f64,
    /// Of both.
    pub unit: DrapeUnit,
    /// Above 3 mm or half a degree: it is not made without a yes.
    pub needs_yes: bool,
    /// Where it is, on the finished piece.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<Pt>,
    /// Where it would have been, on the same piece.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub was: Option<Pt>,
    /// What would have to be clicked again for another answer.
    pub marks: Vec<Named>,
}

/// A correction of so many millimetres is made without a yes.
const MM_WITHOUT_A_YES: f64 = 3.0;
/// And one of so many degrees.
const DEGREES_WITHOUT_A_YES: f64 = 0.5;

impl Correction {
    /// What a yes to it is kept under: another amount is another question.
    pub fn key(&self) -> String {
        let Self { piece, what, before, after, .. } = self;
        format!("correction of the {}: {what}: {before:.1} to {after:.1}", piece.name())
    }

    pub(super) fn new(piece: Draped, what: String, (before, after): (f64, f64), unit: DrapeUnit) -> Self {
        let most = match unit {
            DrapeUnit::Mm => MM_WITHOUT_A_YES,
            DrapeUnit::Degrees => DEGREES_WITHOUT_A_YES,
        };
        let needs_yes = (after - before).abs() > most;
        Self { piece, what, before, after, unit, needs_yes, at: None, was: None, marks: Vec::new() }
    }

    #[must_use]
    pub(super) fn moved(mut self, was: Point, at: Point) -> Self {
        (self.was, self.at) = (Some(was.into()), Some(at.into()));
        self
    }

    #[must_use]
    pub(super) fn of(mut self, marks: &[Named]) -> Self {
        self.marks = marks.to_vec();
        self
    }
}

/// Two marks that look exchanged for each other.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Exchange {
    /// The one.
    pub one: Named,
    /// The other.
    pub other: Named,
}

/// A question about what was clicked: nothing is kept before it is answered.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ask {
    /// The piece; none where it is of both.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub piece: Option<Draped>,
    /// The marks in doubt.
    pub marks: Vec<Named>,
    /// The question, lengths in millimetres.
    pub says: String,
    /// What would answer it.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub offer: Option<Exchange>,
}

impl Ask {
    /// What an answer to it is kept under.
    pub fn key(&self) -> String {
        format!("question of the {}: {}", self.piece.map_or("two pieces", Draped::name), self.says)
    }

    /// Whether she may say that it is as it was marked: not of marks that look exchanged, as one of them is wrong.
    pub const fn may_stand(&self) -> bool {
        self.offer.is_none()
    }
}

/// A figure of the result, and whether it is unusual.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DrapeFigure {
    /// The piece.
    pub piece: Draped,
    /// What it is of.
    pub name: &'static str,
    /// How much.
    pub value: f64,
    /// Of what.
    pub unit: DrapeUnit,
    /// Why it is doubted; none where it is as usual. Nothing that was clicked is suspected.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub doubt: Option<String>,
}

impl DrapeFigure {
    /// What a yes to a doubted figure is kept under.
    pub fn key(&self) -> String {
        format!("figure of the {}: {}: {:.0}", self.piece.name(), self.name, self.value)
    }
}

/// The camera, as the sheets in the picture tell it.
#[derive(Clone, Copy, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CameraFound {
    /// The piece it took.
    pub piece: Draped,
    /// Radial term of the lens.
    pub k1: f64,
    /// Focal length in pixels.
    pub f: f64,
    /// How nearly the corners of the sheets are met, in pixels.
    pub rms_px: f64,
    /// Tilt of the camera from straight above, in degrees.
    pub tilt: f64,
    /// By what share the known length is off; none where it took part itself.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub scale_error: Option<f64>,
}

/// What came of a transfer.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Transfer {
    /// Front and back, to look at while anything is asked; to keep when nothing is.
    #[cfg_attr(feature = "schema", schema(value_type = Vec<Object>))]
    pub pieces: Vec<Piece>,
    /// What was clicked of front and back, each in its piece's own frame; none where it could not be brought there.
    #[serde(skip)]
    pub clicked: [Option<Marks>; 2],
    /// Every line that was drawn.
    pub lines: Vec<LineFit>,
    /// What was drawn otherwise than clicked.
    pub corrections: Vec<Correction>,
    /// What must be answered first.
    pub asks: Vec<Ask>,
    /// Figures of the result.
    pub figures: Vec<DrapeFigure>,
    /// What else there is to say.
    pub notes: Vec<String>,
    /// The cameras of the photographs.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    pub camera: Vec<CameraFound>,
}

/// Why nothing can be drawn: what, and the way out.
#[derive(Clone, Debug, PartialEq, Serialize, thiserror::Error)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[error("{refuses}")]
pub struct Refusal {
    /// One sentence.
    pub refuses: String,
    /// The marks it is about.
    pub marks: Vec<Named>,
    /// The piece; none where it is of both.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub piece: Option<Draped>,
}

impl Refusal {
    pub(super) fn new(piece: Draped, marks: &[Named], refuses: String) -> Self {
        Self { refuses, marks: marks.to_vec(), piece: Some(piece) }
    }
}

/// What is noted on the way, in order.
#[derive(Clone, Debug, Default, PartialEq)]
pub(super) struct Notes {
    pub(super) lines: Vec<LineFit>,
    pub(super) corrections: Vec<Correction>,
    pub(super) asks: Vec<Ask>,
    pub(super) figures: Vec<DrapeFigure>,
    pub(super) notes: Vec<String>,
}

impl Notes {
    /// Takes over what was noted elsewhere.
    pub(super) fn take(&mut self, other: Self) {
        self.lines.extend(other.lines);
        self.corrections.extend(other.corrections);
        self.asks.extend(other.asks);
        self.figures.extend(other.figures);
        self.notes.extend(other.notes);
    }

    /// Asks whether a mark, the first of those named, was clicked where it should be: it lies so many millimetres from something.
    pub(super) fn ask_where(&mut self, piece: Draped, marks: &[Named], off: f64, from: &str) {
        let Some(first) = marks.first() else { return };
        let one = match first {
            Named::Cross(_) => "The",
            Named::Run(_) => "One of the",
        };
        let says = format!(
            "{one} {} lies {off:.0} mm from {from}: was it clicked where it should be?",
            first.name()
        );
        self.ask(piece, marks, says);
    }

    /// Asks about some marks of a piece.
    pub(super) fn ask(&mut self, piece: Draped, marks: &[Named], says: String) {
        let ask = Ask { piece: Some(piece), marks: marks.to_vec(), says, offer: None };
        if !self.asks.contains(&ask) {
            self.asks.push(ask);
        }
    }
}

/// Names in a sentence: “a”, “a and b”, “a, b and c”.
pub(super) fn listed(names: &[&str]) -> String {
    match names {
        [] => String::new(),
        [one] => (*one).to_owned(),
        [first @ .., last] => format!("{} and {last}", first.join(", ")),
    }
}
