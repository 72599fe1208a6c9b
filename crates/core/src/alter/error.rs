//! Why an alteration was refused. Each refusal says the limit or the way out.

use super::{Measured, MeasuredOn};
use crate::Style;
use crate::pattern::{Seam, SlashError};

/// Why an alteration was refused.
#[derive(Clone, Debug, PartialEq, thiserror::Error)]
#[non_exhaustive]
pub enum AlterError {
    /// More than this pattern allows.
    #[error("{asked} is more than the {limit} {because}: {way_out}")]
    Beyond {
        /// Asked for, written.
        asked: String,
        /// The most, written.
        limit: String,
        /// The limit as an amount.
        most: Measured,
        /// What sets the limit; follows the figure.
        because: String,
        /// What can be done instead.
        way_out: String,
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
    /// Words where a figure is wanted.
    #[error("{name} must be a figure, in millimetres or as a share")]
    NoFigure {
        /// The parameter's name.
        name: &'static str,
    },
    /// A way that there is not.
    #[error("{name} must be one of: {ways}")]
    UnknownWay {
        /// The parameter's name.
        name: &'static str,
        /// The ways there are.
        ways: String,
    },
    /// A parameter the alteration does not have.
    #[error("this alteration has nothing called \u{201c}{0}\u{201d} to set")]
    UnknownParam(String),
    /// An alteration that is not built.
    #[error("no alteration is called \u{201c}{0}\u{201d}")]
    Unknown(String),
    /// It cannot be done on this pattern as it is.
    #[error("{0}")]
    NotHere(String),
    /// The cuts do not fit the piece.
    #[error(transparent)]
    Slash(#[from] SlashError),
}

impl AlterError {
    /// The limit as an amount, where the pattern sets one.
    pub fn limit(&self) -> Option<Measured> {
        match self {
            Self::Beyond { most, .. } => Some(*most),
            _ => None,
        }
    }

    /// More than the pattern allows: asked for, and the limit as an amount, both in millimetres of what they are measured on.
    pub(super) fn beyond(
        style: Style,
        on: MeasuredOn,
        asked: f64,
        most: f64,
        because: &'static str,
        way_out: &'static str,
    ) -> Self {
        let most = Measured { mm: most, on };
        let (asked, limit) = Measured { mm: asked, on }.written_beside(most, style);
        // The fixed sentences name lengths too.
        let (because, way_out) = (style.say(because), style.say(way_out));
        Self::Beyond { asked, limit, most, because, way_out }
    }

    /// A piece without a seam that is needed.
    pub(super) fn no_seam(seam: Seam) -> Self {
        Self::NotHere(format!("this piece has no {} to cut through: choose another place", seam.name()))
    }

    pub(super) fn not_here(says: impl Into<String>) -> Self {
        Self::NotHere(says.into())
    }
}
