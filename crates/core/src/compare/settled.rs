//! What a fitting settled: dimensions of a block that pins have put right, which the bare readings must not undo.

use serde::{Deserialize, Serialize};

use super::difference::{dimensions, target_of};
use crate::body::Body;
use crate::ease::{EaseSet, Eased};
use crate::pattern::{Pattern, PatternMeasure, measure};

/// Two figures of a pattern nearer than this are the same, in millimetres.
const SAME: f64 = 0.05;

/// A dimension that was settled on her body: fitted then, with the reading and the ease of that day.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Settled {
    /// The dimension.
    pub figure: PatternMeasure,
    /// What the fitted pattern measures, in millimetres.
    pub fitted: f64,
    /// Her reading then, in millimetres.
    pub reading: f64,
    /// The ease of the set then, in millimetres.
    pub ease: f64,
    /// The garment it was fitted on.
    pub garment: String,
    /// The round after which it was left.
    pub round: u32,
}

impl Settled {
    /// Her own ease on this dimension, in millimetres, with a set that asks for `ease` now: what the fitted pattern had
    /// over her reading, and what the set has changed since (handbook: `compare.md`, section 3).
    pub fn own_ease(&self, ease: f64) -> f64 {
        self.fitted - self.reading + ease - self.ease
    }

    /// Her reading of it, by code, as it is now.
    pub(super) fn read_from(&self, body: &Body, ease: &EaseSet) -> Option<(&'static str, f64)> {
        let (code, figure) = dimensions().find(|(_, figure)| *figure == self.figure)?;
        let Eased { reading, mm, .. } = target_of(body, code, figure, ease);
        Some((reading, mm?))
    }

    /// Where it was settled, in words.
    pub fn says(&self) -> String {
        format!("fitted in round {} of {}", self.round, self.garment)
    }
}

/// A fitting: whose body it was on, with which ease, and where it is written down.
#[derive(Clone, Debug, PartialEq)]
pub struct Fitting<'a> {
    /// Her readings on the day.
    pub body: &'a Body,
    /// The ease set it was made with.
    pub ease: &'a EaseSet,
    /// The garment.
    pub garment: &'a str,
    /// The last round that was closed.
    pub round: u32,
}

impl Fitting<'_> {
    /// The dimensions in which the fitted pattern differs from what it began from: those are settled. What was settled
    /// before and has not changed stays as it was.
    pub fn settled(&self, begun: &Pattern, fitted: &Pattern, before: &[Settled]) -> Vec<Settled> {
        let (then, now) = (measure(begun), measure(fitted));
        let of = |(code, figure): (&'static str, PatternMeasure)| {
            let mm = now.get(figure)?;
            if then.get(figure).is_some_and(|was| (mm - was).abs() < SAME) {
                return before.iter().find(|known| known.figure == figure).cloned();
            }
            let Eased { mm: reading, ease, .. } = target_of(self.body, code, figure, self.ease);
            Some(Settled {
                figure,
                fitted: mm,
                reading: reading?,
                ease,
                garment: self.garment.to_owned(),
                round: self.round,
            })
        };
        dimensions().filter_map(of).collect()
    }
}
