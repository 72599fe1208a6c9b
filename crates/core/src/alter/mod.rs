//! Alterations: one file each, one registry, and the recipe that strings them together.
//!
//! An alteration states its parameters, refuses what cannot be with the limit, builds slashes and
//! reshapes, and tells the stages for shears and paper. Adding one is a file and a line in
//! [`registry`]; the API, the command line and the screens are built from there.

mod full_bust;
mod preview;
mod recipe;
mod shoulder_length;

use std::collections::BTreeMap;

use kurbo::{BezPath, Point, Vec2};
use serde::{Deserialize, Serialize};

use crate::Style;
use crate::pattern::{Figure, Pattern, PieceKind, Pt, SlashError};

pub use preview::{
    AlterationView, AmountView, Expectation, FigureRow, ParamView, Preview, StepState, StepView,
    alteration_views, amount_views, preview,
};
pub use recipe::{Made, MadeStep, Recipe, Step, make};

/// Every alteration that is built, in the order of a plan.
pub fn registry() -> &'static [&'static dyn Alteration] {
    &[&full_bust::FullBust, &shoulder_length::ShoulderLength]
}

/// The alteration of a code.
pub fn alteration(code: &str) -> Option<&'static dyn Alteration> {
    registry().iter().copied().find(|alteration| alteration.code() == code)
}

/// One way to correct a pattern.
pub trait Alteration: Sync {
    /// Stable code.
    fn code(&self) -> &'static str;
    /// The trade's name.
    fn name(&self) -> &'static str;
    /// When it is wanted, in a sentence.
    fn why(&self) -> &'static str;
    /// What may be set. The first is the amount.
    fn params(&self) -> &'static [Param];
    /// Whether it is built for the pieces of this pattern. [`Self::apply`] refuses the others.
    fn is_for(&self, pattern: &Pattern) -> bool;
    /// What stays the same, and what truing may cost it, in millimetres.
    fn keeps(&self) -> &'static [(Figure, f64)];
    /// Alters a pattern. An amount of 0 gives the same pattern back.
    ///
    /// # Errors
    ///
    /// [`AlterError`] with the limit; nothing is changed then.
    fn apply(&self, pattern: &Pattern, amounts: &Amounts, style: Style) -> Result<Altered, AlterError>;
}

/// What an amount is measured on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum MeasuredOn {
    /// One half pattern: the body gains twice as much.
    PerHalf,
    /// One seam: front and back alike.
    PerSeam,
    /// A place on the pattern or the body.
    Place,
    /// A share of something, no length.
    Share,
}

/// Something an alteration can be told.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Param {
    /// Stable code; `amount` for the amount.
    pub code: &'static str,
    /// The trade's words.
    pub name: &'static str,
    /// What it is measured on.
    pub on: MeasuredOn,
    /// Least value: millimetres, or a share.
    pub low: f64,
    /// Greatest value: millimetres, or a share.
    pub high: f64,
    /// Where it stands unless told otherwise. `None`: left to the alteration.
    pub default: Option<f64>,
    /// What it does.
    pub why: &'static str,
}

/// Values by parameter code: millimetres or shares.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Amounts(pub BTreeMap<String, f64>);

impl Amounts {
    /// Just the amount, in millimetres.
    pub fn of(mm: f64) -> Self {
        Self(BTreeMap::from([("amount".to_owned(), mm)]))
    }

    /// The same with one more value.
    pub fn with(mut self, code: &str, value: f64) -> Self {
        self.0.insert(code.to_owned(), value);
        self
    }

    /// A value as given, or the parameter's own default.
    pub(crate) fn get(&self, params: &[Param], code: &str) -> Option<f64> {
        let default = || params.iter().find(|p| p.code == code).and_then(|p| p.default);
        self.0.get(code).copied().or_else(default)
    }

    /// Whether every value is known, a number and within its range.
    ///
    /// # Errors
    ///
    /// [`AlterError::OutOfRange`] or [`AlterError::UnknownParam`].
    pub fn validate(&self, params: &[Param], style: Style) -> Result<(), AlterError> {
        for (code, value) in &self.0 {
            let param = params
                .iter()
                .find(|p| p.code == code)
                .ok_or_else(|| AlterError::UnknownParam(code.clone()))?;
            if !(param.low..=param.high).contains(value) {
                let write = |v: f64| match param.on {
                    MeasuredOn::Share => format!("{v:.2}"),
                    _ => style.with_unit(v),
                };
                return Err(AlterError::OutOfRange {
                    name: param.name,
                    asked: write(*value),
                    low: write(param.low),
                    high: write(param.high),
                });
            }
        }
        Ok(())
    }
}

/// A pattern altered, and how.
#[derive(Clone, Debug, PartialEq)]
pub struct Altered {
    /// The new state of every piece.
    pub pattern: Pattern,
    /// How it is done with shears and paper.
    pub stages: Vec<Stage>,
    /// What moved, as areas to tint.
    pub moved: Vec<(PieceKind, BezPath)>,
    /// Where the amount can be dragged.
    pub handle: Option<Handle>,
    /// What must follow in pieces this pattern lacks.
    pub follow_ups: Vec<String>,
}

impl Altered {
    /// The pattern as it was: an amount of nothing.
    fn unchanged(pattern: &Pattern, handle: Option<Handle>) -> Self {
        Self {
            pattern: pattern.clone(),
            stages: Vec::new(),
            moved: Vec::new(),
            handle,
            follow_ups: Vec::new(),
        }
    }
}

/// The steps every alteration is told in.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum StageKind {
    /// Rule the lines.
    Mark,
    /// Cut along them.
    Cut,
    /// Move what was cut.
    Move,
    /// Fill what opened.
    Fill,
    /// Make it sewable.
    True,
}

/// One stage: words, and what is drawn.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stage {
    /// Which.
    pub kind: StageKind,
    /// What to do, in the trade's words.
    pub words: String,
    /// What is drawn on each piece concerned.
    pub drawings: Vec<StageDrawing>,
}

/// A stage on one piece: SVG path data.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StageDrawing {
    /// Which piece.
    pub piece: PieceKind,
    /// Its outline at this stage; empty where the regions show it.
    pub outline: String,
    /// Regions that stay.
    pub still: Vec<String>,
    /// Regions that move, where they are at this stage.
    pub moving: Vec<String>,
    /// Ruled lines.
    pub lines: Vec<String>,
    /// Hinges.
    pub hinges: Vec<Pt>,
}

/// Where an amount can be dragged on the drawing.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Handle {
    /// On which piece.
    pub piece: PieceKind,
    /// The point as it lies now.
    pub at: Pt,
    /// One millimetre this way is one millimetre of amount.
    pub along: Pt,
}

impl Handle {
    fn new(piece: PieceKind, at: Point, along: Vec2) -> Self {
        Self { piece, at: at.into(), along: Pt { x: along.x, y: along.y } }
    }
}

/// Why an alteration was refused. Each says the limit or the way out.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum AlterError {
    /// More than the geometry opens.
    #[error(
        "{asked} a half is more than the {limit} this front opens at its hinge: split it between side and princess seam, or take a larger size"
    )]
    TooMuch {
        /// Asked for, written.
        asked: String,
        /// The most, written.
        limit: String,
        /// The most, in millimetres per half.
        limit_mm: f64,
    },
    /// More than there is to take out.
    #[error(
        "{asked} a half is more than the {limit} that can be taken out of this front: its darts would be used up"
    )]
    TooLittle {
        /// Asked for, written.
        asked: String,
        /// The most that can be taken out, written.
        limit: String,
        /// The least amount, in millimetres per half (negative).
        limit_mm: f64,
    },
    /// A shoulder shortened into its dart or neck.
    #[error("the shoulder can be shortened by at most {limit}: {asked} would reach its dart or the neck")]
    ShoulderTooShort {
        /// Asked for, written.
        asked: String,
        /// The most, written.
        limit: String,
    },
    /// A parameter beyond its range.
    #[error("{name} is {asked}: it must lie between {low} and {high}")]
    OutOfRange {
        /// Its name.
        name: &'static str,
        /// Asked for, written.
        asked: String,
        /// Least, written.
        low: String,
        /// Greatest, written.
        high: String,
    },
    /// A parameter the alteration does not have.
    #[error("this alteration has nothing called \u{201c}{0}\u{201d} to set")]
    UnknownParam(String),
    /// An alteration that is not built.
    #[error("no alteration is called \u{201c}{0}\u{201d}")]
    Unknown(String),
    /// The hinge does not lie above and outside the bust point.
    #[error("the hinge on the armhole must lie above the bust point and nearer the side: move the hinge")]
    HingeMisplaced,
    /// A piece this alteration works on is not in the pattern.
    #[error("the pattern has no {what}", what = .0.name().to_lowercase())]
    NoPiece(PieceKind),
    /// The cuts do not fit the piece.
    #[error(transparent)]
    Slash(#[from] SlashError),
}

/// SVG path data for a stage.
fn svg(path: &BezPath) -> String {
    crate::pattern::short_svg(path)
}

fn polyline_svg(points: &[Point]) -> String {
    crate::pattern::Curve::polyline(points).map_or_else(String::new, |curve| svg(&curve.to_path()))
}
