//! What a transfer is made of: two pieces, each from its own source, and what was stated.

use serde::{Deserialize, Serialize};

use super::controls::PieceControl;
use super::facts::Given;
use super::marks::Marks;
use super::photograph::Photograph;
use super::report::Draped;

/// Where the marks of a piece come from.
#[derive(Clone, Debug, PartialEq, Serialize)]
#[serde(untagged)]
pub enum Source {
    /// Typed, or measured from two lines, in millimetres.
    Grid {
        /// x to the right, y downwards; the piece may lie anywhere and be turned.
        #[serde(rename = "marks_mm")]
        marks: Marks,
    },
    /// Clicked in a photograph.
    Photograph {
        /// What is known of it.
        photograph: Photograph,
        /// In pixels.
        #[serde(rename = "marks_px")]
        marks: Marks,
    },
    /// The outline of a path file, and its corners.
    Path {
        /// The path's data.
        path: String,
        /// What one of its units is, in millimetres.
        mm_per_unit: f64,
        /// In its units.
        clicks: Marks,
    },
}

/// As a source stands in a file: exactly one of three sets of fields.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Written {
    marks_mm: Option<Marks>,
    photograph: Option<Photograph>,
    marks_px: Option<Marks>,
    path: Option<String>,
    mm_per_unit: Option<f64>,
    clicks: Option<Marks>,
}

impl<'de> Deserialize<'de> for Source {
    fn deserialize<D: serde::Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        use serde::de::Error;
        match Written::deserialize(deserializer)? {
            Written {
                marks_mm: Some(marks),
                photograph: None,
                marks_px: None,
                path: None,
                mm_per_unit: None,
                clicks: None,
            } => Ok(Self::Grid { marks }),
            Written {
                photograph: Some(photograph),
                marks_px: Some(marks),
                marks_mm: None,
                path: None,
                mm_per_unit: None,
                clicks: None,
            } => Ok(Self::Photograph { photograph, marks }),
            Written {
                path: Some(path),
                mm_per_unit: Some(mm_per_unit),
                clicks: Some(clicks),
                marks_mm: None,
                photograph: None,
                marks_px: None,
            } => Ok(Self::Path { path, mm_per_unit, clicks }),
            _ => Err(D::Error::custom(
                "a piece has either marks_mm, or photograph and marks_px, or path, mm_per_unit and clicks",
            )),
        }
    }
}

/// All of a transfer.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct DrapeInput {
    /// The front.
    pub front: Source,
    /// The back.
    pub back: Source,
    /// What was stated.
    #[serde(default)]
    pub given: Given,
    /// Lengths that were taken by tape.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub controls: Vec<PieceControl>,
}

impl DrapeInput {
    pub(super) const fn source(&self, piece: Draped) -> &Source {
        match piece {
            Draped::Front => &self.front,
            Draped::Back => &self.back,
        }
    }
}
