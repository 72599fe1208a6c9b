//! The body: what can be measured on it, what a reading is worth, and where the tape goes.

mod catalogue;
mod caution;
mod checks;
mod drawing;
mod form;
mod form_marks;
mod level;
mod profile;
mod school;
mod spread;
mod takes;

pub use catalogue::{
    Estimate, Group, Measurement, MeasurementSet, Tape, View, catalogue, measurement, measurement_set, route,
    sets,
};
pub use caution::{Consent, cautions};
pub use checks::{
    Beside, Earlier, Finding, FindingKind, Grade, Repair, cannot_be, check_age, check_body, check_reading,
};
pub use drawing::{BodyDrawing, Frame, Tapeline, draw_body, draw_tape};
pub use form::{Padding, PaddingLevel, padding};
pub use form_marks::{CentreCheck, FormMarking, Halving, NOT_BRIDGED, check_centre};
pub use level::{LevelCheck, LineHeights, MarkedLine, check_level, check_lines};
pub use profile::{LatestReading, Profile, ProfileReading, Side};
pub use school::{FINGER, Matter, School, Taken, USUAL_FINGER, Worth, matters, matters_of, worth};
pub(crate) use spread::doubtful_readings;
pub use spread::{Carried, DoubtfulReading, Spread, carried};
pub use takes::{Precision, median, precision, wants_third};

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use crate::length::LONGEST;

/// A body as figures: measurement code to millimetres, snug, without ease; and how sure each is, as far as that is known.
///
/// A document holds the figures alone. Two bodies are the same where they measure the same.
#[derive(Clone, Debug, Default, Serialize, Deserialize)]
#[serde(transparent)]
pub struct Body {
    figures: BTreeMap<String, f64>,
    /// Of readings whose spread is known to be another than the catalogue's.
    #[serde(skip)]
    spreads: BTreeMap<String, Spread>,
}

impl PartialEq for Body {
    fn eq(&self, other: &Self) -> bool {
        self.figures == other.figures
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Body {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        <BTreeMap<String, f64> as utoipa::PartialSchema>::schema()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for Body {}

impl Body {
    /// The figure of a code, in millimetres.
    pub fn get(&self, code: &str) -> Option<f64> {
        self.figures.get(code).copied()
    }

    /// The same body with one figure set.
    pub fn with(mut self, code: &str, mm: f64) -> Self {
        self.figures.insert(code.to_owned(), mm);
        self
    }

    /// The same body with one figure left out.
    pub fn without(mut self, code: &str) -> Self {
        self.figures.remove(code);
        self.spreads.remove(code);
        self
    }

    /// A middle figure: size 12 of a published table for medium height (check values, 3a), with its height and upper
    /// bust from common practice; what the table lacks is estimated.
    pub fn middle() -> Self {
        const TABLE: [(&str, f64); 18] = [
            ("bust_girth", 880.0),
            ("upper_bust_girth", 826.0),
            ("waist_girth", 680.0),
            ("hip_girth", 930.0),
            ("neck_base_girth", 370.0),
            ("shoulder_length", 122.5),
            ("across_back", 344.0),
            ("across_front", 324.0),
            ("nape_to_waist_back", 400.0),
            ("armhole_depth", 205.0),
            ("waist_to_hip", 206.0),
            ("waist_to_knee", 585.0),
            ("waist_to_floor", 1040.0),
            ("crotch_depth", 280.0),
            ("upper_arm_girth", 284.0),
            ("wrist_girth", 160.0),
            ("arm_length", 584.0),
            ("height", 1650.0),
        ];
        TABLE.into_iter().collect::<Self>().estimated()
    }

    /// The same body with every figure that its readings make of a missing one.
    pub fn estimated(mut self) -> Self {
        // An estimate may rest on another: three rounds reach every row that anything reaches.
        for _ in 0..3 {
            let missing = catalogue().iter().filter(|row| !row.wish && self.get(&row.code).is_none());
            let found: Vec<_> =
                missing.filter_map(|row| Some((&row.code, row.estimated(&self)?.0))).collect();
            for (code, mm) in found {
                self.figures.insert(code.clone(), mm);
            }
        }
        self
    }

    /// Whether a body from outside can be drafted from: figures of the catalogue, each more than nothing and no longer
    /// than any tape.
    ///
    /// # Errors
    ///
    /// A sentence that names the measurement.
    pub fn validate(&self) -> Result<(), String> {
        for (code, mm) in self.iter() {
            let row = measurement(code)
                .ok_or_else(|| format!("no measurement is called \u{201c}{code}\u{201d}"))?;
            if !(mm > 0.0 && mm <= LONGEST) {
                return Err(format!("{} must be more than 0 and at most {LONGEST} mm", row.name));
            }
        }
        Ok(())
    }

    /// The same body without figures that cannot be a body's: what is drawn from it keeps its shape.
    pub fn plausible(mut self) -> Self {
        self.figures.retain(|code, mm| measurement(code).is_none_or(|row| !cannot_be(row, *mm)));
        self
    }

    /// All figures by code.
    pub fn iter(&self) -> impl Iterator<Item = (&str, f64)> {
        self.figures.iter().map(|(code, mm)| (code.as_str(), *mm))
    }
}

impl<S: Into<String>> FromIterator<(S, f64)> for Body {
    fn from_iter<I: IntoIterator<Item = (S, f64)>>(figures: I) -> Self {
        let figures = figures.into_iter().map(|(code, mm)| (code.into(), mm)).collect();
        Self { figures, spreads: BTreeMap::new() }
    }
}
