//! Described fittings, as they are written in a table: what was seen, measured and tried, and what it came from.

use std::collections::{BTreeMap, HashMap};

use serde::Deserialize;

use super::{Evidence, LevelOff, Mark, Off, Tested, Tried, Worn, cause, read_observation};
use crate::pattern::{Garment, PatternMeasure};

/// What still fits of a girth, and of everything else, in millimetres: the tolerances of the comparison.
const GIRTH_FITS: f64 = 10.0;
const FITS: f64 = 5.0;

/// A fitting as it is described: one row of a table.
#[derive(Clone, Debug, Deserialize)]
pub struct DescribedFitting {
    /// Code of its cause.
    #[serde(default)]
    pub cause: String,
    /// A second cause that is there as well.
    #[serde(default)]
    pub and: Option<String>,
    /// Why it is that cause.
    #[serde(default)]
    pub why: String,
    /// easy, middle or hard.
    #[serde(default)]
    pub difficulty: Option<String>,
    /// What was seen, each in the notation of `data/causes.toml`.
    pub seen: Vec<String>,
    #[serde(default)]
    figures: HashMap<PatternMeasure, f64>,
    #[serde(default)]
    level: BTreeMap<String, f64>,
    #[serde(default)]
    tried: Vec<TriedRow>,
    #[serde(default)]
    tested: Vec<TestedRow>,
    #[serde(default)]
    garment: Garment,
    #[serde(default)]
    worn: Worn,
    /// The alteration's amount in millimetres, where the row gives what it follows from.
    #[serde(default)]
    pub amount: Option<f64>,
}

#[derive(Clone, Debug, Deserialize)]
struct TriedRow {
    cause: String,
    became: Mark,
}

#[derive(Clone, Debug, Deserialize)]
struct TestedRow {
    cause: String,
    holds: bool,
}

#[derive(Deserialize)]
struct Table {
    #[serde(default)]
    fitting: Vec<DescribedFitting>,
}

/// Reads a table of described fittings (TOML, one `[[fitting]]` a row).
///
/// # Errors
///
/// A line that says what cannot be read.
pub fn read_fittings(text: &str) -> Result<Vec<DescribedFitting>, String> {
    let table: Table = toml::from_str(text).map_err(|error| {
        let line = error.span().map_or(1, |span| text[..span.start.min(text.len())].lines().count().max(1));
        format!("line {line}: {}", error.message().replace('\n', " "))
    })?;
    Ok(table.fitting)
}

impl DescribedFitting {
    /// All that is known of it.
    ///
    /// # Errors
    ///
    /// A line that says which of its words cannot be read.
    pub fn evidence(&self) -> Result<Evidence, String> {
        let off = |(figure, mm): (&PatternMeasure, &f64)| {
            let tolerance = if is_girth(*figure) { GIRTH_FITS } else { FITS };
            (*figure, Off { mm: *mm, tolerance })
        };
        let named = self.tried.iter().map(|row| &row.cause).chain(self.tested.iter().map(|row| &row.cause));
        if let Some(unknown) = named.into_iter().find(|code| cause(code).is_none()) {
            return Err(format!("no cause is called “{unknown}”"));
        }
        Ok(Evidence {
            seen: self.seen.iter().map(|text| read_observation(text)).collect::<Result<_, _>>()?,
            figures: self.figures.iter().map(off).collect(),
            level: self.level.iter().map(|(name, mm)| LevelOff::read(name, *mm)).collect::<Result<_, _>>()?,
            tried: self
                .tried
                .iter()
                .map(|row| Tried { cause: row.cause.clone(), became: row.became, trend: None })
                .collect(),
            tested: self
                .tested
                .iter()
                .map(|row| Tested { cause: row.cause.clone(), holds: row.holds })
                .collect(),
            garment: self.garment,
            worn: self.worn,
        })
    }
}

const fn is_girth(figure: PatternMeasure) -> bool {
    matches!(
        figure,
        PatternMeasure::Bust
            | PatternMeasure::Waist
            | PatternMeasure::Hip
            | PatternMeasure::CapWidth
            | PatternMeasure::Armhole
            | PatternMeasure::Neckline
    )
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_row_says_what_was_seen_measured_tried_and_tested() {
        let text = r#"
            [[fitting]]
            cause = "short_shoulder"
            seen = ["drag at sleeve cap towards shoulder tip"]
            figures = { shoulder_front = 9 }
            level = { "waist centre back" = 4 }
            tried = [{ cause = "low_cap", became = "same" }]
            tested = [{ cause = "short_shoulder", holds = true }]
            worn = { sleeve = true }
        "#;
        let [row] = read_fittings(text).unwrap().try_into().unwrap();
        let evidence = row.evidence().unwrap();
        assert_eq!(evidence.figures[&PatternMeasure::ShoulderFront], Off { mm: 9.0, tolerance: 5.0 });
        assert_eq!(evidence.level, [LevelOff::read("waist centre back", 4.0).unwrap()]);
        assert_eq!((evidence.tried.len(), evidence.tested.len()), (1, 1));
        assert_eq!(evidence.worn.sleeve, Some(true));
    }

    #[test]
    fn what_cannot_be_read_is_named() {
        let of = |row: &str| {
            let rows = read_fittings(&format!("[[fitting]]\n{row}"))?;
            rows[0].evidence().map(|_| ())
        };
        for (row, says) in [
            ("seen = [\"ripple at bust\"]", "no kind of observation"),
            ("seen = [\"drag at knee\"]", "no place on the figure"),
            ("seen = []\nlevel = { nowhere = 3 }", "no level line"),
            ("seen = []\nfigures = { elbows = 3 }", "line 3"),
            ("why = \"nothing\"", "seen"),
            ("seen = []\ntried = [{ cause = \"bad_luck\", became = \"same\" }]", "no cause is called"),
            ("seen =", "line 2"),
        ] {
            let error = of(row).unwrap_err();
            assert!(error.contains(says), "{row}: {error}");
        }
        assert!(read_fittings("").unwrap().is_empty());
    }
}
