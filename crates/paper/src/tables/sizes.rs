//! A house's size table from CSV: a row a measurement, a column a size.
//!
//! The heading is `measurement, unit, <size>, <size> …`; the unit may be left out of the file when every row has
//! the same. Every line is looked at; the table is taken only when none has a problem.

use yardwand_core::body::{Body, catalogue};
use yardwand_core::draft::TableSize;
use yardwand_core::{Length, Unit};

use super::{LineProblem, Table, TableError};

/// The least a size must say to be drafted or chosen.
const NEEDED: [&str; 2] = ["bust_girth", "waist_girth"];

/// What was made of a size table.
#[derive(Clone, Debug, PartialEq)]
pub struct SizesIn {
    /// Its sizes in order; empty where there was a problem.
    pub sizes: Vec<TableSize>,
    /// Codes of the measurements that were read.
    pub measurements: Vec<String>,
    /// What is wrong, line by line.
    pub problems: Vec<LineProblem>,
}

/// Reads a size table; `usual` is the unit of rows that name none.
///
/// # Errors
///
/// [`TableError`] where the file is no table at all.
pub fn read_sizes(text: &str, usual: Unit) -> Result<SizesIn, TableError> {
    let table = Table::read(text)?;
    let mut problems = table.broken.clone();
    let mut problem = |line: usize, column: Option<&str>, says: String| {
        problems.push(LineProblem { line, column: column.map(str::to_owned), says });
    };
    let is_unit = |name: &str| name.eq_ignore_ascii_case("unit");
    let size_columns: Vec<(usize, &String)> =
        table.columns.iter().enumerate().skip(1).filter(|(_, name)| !is_unit(name)).collect();
    let unit_column = table.columns.iter().position(|name| is_unit(name));
    if size_columns.is_empty() {
        problem(
            1,
            None,
            "the heading names no size: write measurement, unit, and a column a size".to_owned(),
        );
    }
    for (place, (_, label)) in size_columns.iter().enumerate() {
        if label.is_empty() || label.chars().count() > 40 {
            problem(1, None, "every size wants a name of at most 40 letters in the heading".to_owned());
        } else if size_columns[..place].iter().any(|(_, earlier)| earlier == label) {
            problem(1, Some(label), format!("size {label} stands twice in the heading"));
        }
    }
    let mut figures: Vec<Body> = vec![Body::default(); size_columns.len()];
    let mut measurements: Vec<String> = Vec::new();
    for (line, fields) in &table.rows {
        let name = fields.first().map(|name| name.trim()).unwrap_or_default();
        if name.is_empty() {
            continue;
        }
        let Some(row) =
            catalogue().iter().find(|row| row.code == name || row.name.eq_ignore_ascii_case(name))
        else {
            problem(
                *line,
                None,
                format!(
                    "no measurement is called \u{201c}{name}\u{201d}: use its name or code from the guide"
                ),
            );
            continue;
        };
        if measurements.contains(&row.code) {
            problem(*line, None, format!("{} stands twice: leave one of the lines out", row.name));
            continue;
        }
        let written = unit_column.and_then(|at| fields.get(at)).map(|unit| unit.trim()).unwrap_or_default();
        let unit = match written.to_ascii_lowercase().as_str() {
            "" => usual,
            "in" | "inch" | "inches" => Unit::Inch,
            "cm" => Unit::Cm,
            "mm" => Unit::Mm,
            _ => {
                problem(
                    *line,
                    Some("unit"),
                    format!("\u{201c}{written}\u{201d} is no unit: write in, cm or mm"),
                );
                continue;
            }
        };
        measurements.push(row.code.clone());
        let mut last: Option<f64> = None;
        for (place, (at, label)) in size_columns.iter().enumerate() {
            let text = fields.get(*at).map(|text| text.trim()).unwrap_or_default();
            if text.is_empty() {
                problem(*line, Some(label), format!("{} is missing for size {label}", row.name));
                continue;
            }
            match Length::read(text, unit) {
                Ok(entered) => {
                    let mm = entered.length.mm();
                    if !(row.low..=row.high).contains(&mm) {
                        let says = format!(
                            "{} of {text} {} is outside anything measured on a body: check the unit",
                            row.name,
                            unit.suffix()
                        );
                        problem(*line, Some(label), says);
                    }
                    if row.code == "bust_girth" && last.is_some_and(|before| mm <= before) {
                        problem(
                            *line,
                            Some(label),
                            format!(
                                "size {label} is no larger at the bust than the one before: put the sizes in order"
                            ),
                        );
                    }
                    last = Some(mm);
                    figures[place] = std::mem::take(&mut figures[place]).with(&row.code, mm);
                }
                Err(error) => problem(*line, Some(label), error.to_string()),
            }
        }
    }
    for code in NEEDED {
        if !measurements.iter().any(|known| known == code) {
            let name = catalogue().iter().find(|row| row.code == code).map_or(code, |row| &row.name);
            problem(
                1,
                None,
                format!(
                    "the table has no line for {}: a size cannot be drafted without it",
                    name.to_lowercase()
                ),
            );
        }
    }
    problems.sort_by_key(|problem| problem.line);
    let sizes = if problems.is_empty() {
        let size =
            |((_, label), figure): (&(usize, &String), Body)| TableSize { label: (*label).clone(), figure };
        size_columns.iter().zip(figures).map(size).collect()
    } else {
        Vec::new()
    };
    Ok(SizesIn { sizes, measurements, problems })
}
