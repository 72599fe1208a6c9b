//! Size tables: the figures a master's sizes are drafted for. Data.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::body::Body;

/// A side length starts this far below a tape at the armpits, in millimetres (handbook: `blocks.md`, section 2).
const SIDE_STARTS: f64 = 25.0;

/// One size of a table.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TableSize {
    /// Its name.
    pub label: String,
    /// Its figures as the table gives them.
    pub figure: Body,
}

/// A table of sizes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeTable {
    /// Stable code.
    pub code: String,
    /// Its name.
    pub name: String,
    /// Where it comes from and what to mind.
    pub note: String,
    /// Its sizes, the smallest first.
    pub sizes: Vec<TableSize>,
}

#[derive(Deserialize)]
struct Data {
    table: Vec<Row>,
}

/// A table as it is written down: a column a size, a row a measurement.
#[derive(Deserialize)]
struct Row {
    code: String,
    name: String,
    note: String,
    sizes: Vec<String>,
    /// Millimetres in the table's own unit.
    unit_mm: f64,
    figures: std::collections::BTreeMap<String, Vec<f64>>,
}

impl From<Row> for SizeTable {
    fn from(row: Row) -> Self {
        let size = |(place, label): (usize, &String)| TableSize {
            label: label.clone(),
            figure: row
                .figures
                .iter()
                .filter_map(|(code, figures)| Some((code.clone(), figures.get(place)? * row.unit_mm)))
                .collect(),
        };
        let sizes = row.sizes.iter().enumerate().map(size).collect();
        Self { code: row.code, name: row.name, note: row.note, sizes }
    }
}

static TABLES: LazyLock<Vec<SizeTable>> = LazyLock::new(|| {
    let data: Data = toml::from_str(include_str!("../../data/size_tables.toml"))
        .unwrap_or_else(|error| panic!("data/size_tables.toml cannot be read: {error}"));
    data.table.into_iter().map(SizeTable::from).collect()
});

/// The built-in tables.
pub fn size_tables() -> &'static [SizeTable] {
    &TABLES
}

/// The table of a code.
pub fn size_table(code: &str) -> Option<&'static SizeTable> {
    TABLES.iter().find(|table| table.code == code)
}

impl SizeTable {
    /// The figures to draft a size from: what the table lacks is estimated from what it has. A table without
    /// an upper bust is taken to be for a B cup, 51 mm (2 in) less than the bust; without a side length the side
    /// ends level with the waist. A shoulder width is never estimated: it would only doubt the shoulder length.
    pub fn figure(&self, label: &str) -> Option<Body> {
        let size = self.sizes.iter().find(|size| size.label == label)?;
        let figure = size.figure.clone();
        let figure = match (figure.get("upper_bust_girth"), figure.get("bust_girth")) {
            (None, Some(bust)) => figure.with("upper_bust_girth", bust - 50.8),
            _ => figure,
        };
        let figure = match (
            figure.get("side_length"),
            figure.get("nape_to_waist_back"),
            figure.get("armhole_depth"),
        ) {
            (None, Some(back), Some(depth)) => figure.with("side_length", back - depth - SIDE_STARTS),
            _ => figure,
        };
        let stated = figure.get("shoulder_width").is_some();
        let whole = figure.estimated();
        Some(if stated { whole } else { whole.without("shoulder_width") })
    }
}
