//! What the columns of a file mean: guessed from headings and lengths, changed by a person.

use serde::{Deserialize, Serialize};
use yardwand_core::body::{catalogue, measurement};
use yardwand_core::{Entered, Length, Unit};

use super::Table;

/// What a column is.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case", tag = "is")]
pub enum Column {
    /// Passed over.
    Ignore,
    /// The client's name.
    Client,
    /// The day.
    Day,
    /// Code or name of the measurement.
    Measurement,
    /// Both, left or right.
    Side,
    /// The length.
    Value,
    /// The unit of the length.
    Unit,
    /// How it was taken: `matter=school` pairs, as this program writes them.
    Schools,
    /// Ease inside the length, in millimetres.
    Ease,
    /// A word about it.
    Note,
    /// Initials behind "measured again, it stands".
    Stands,
    /// Lengths of one measurement: one line is a whole session.
    Of {
        /// Code of the measurement.
        code: String,
    },
}

/// How the columns of a file are to be understood.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Mapping {
    /// One for each column.
    pub columns: Vec<Column>,
    /// The unit of a length that names none.
    pub unit: Unit,
    /// In a date such as 3/4/2026 the day comes first.
    pub day_first: bool,
}

impl Mapping {
    /// What the headings and the lengths seem to say; `unit` where the lengths are plausible in several or in none.
    pub fn guess(table: &Table, unit: Unit) -> Self {
        let columns = table.columns.iter().map(|name| guess(name)).collect();
        let mut mapping = Self { columns, unit, day_first: true };
        mapping.unit = mapping.likely_unit(table).unwrap_or(unit);
        mapping
    }

    /// The one unit in which most lengths lie in their ranges.
    fn likely_unit(&self, table: &Table) -> Option<Unit> {
        let mut plausible = [(Unit::Inch, 0), (Unit::Cm, 0), (Unit::Mm, 0)];
        let place = |wanted: &Column| self.columns.iter().position(|column| column == wanted);
        let (what, value) = (place(&Column::Measurement), place(&Column::Value));
        for (_, fields) in table.rows.iter().take(500) {
            let field = |at: Option<usize>| at.and_then(|at| fields.get(at)).map(String::as_str);
            let long = field(what).and_then(named).zip(field(value));
            let wide = self.columns.iter().zip(fields).filter_map(|(column, text)| match column {
                Column::Of { code } => Some((code.as_str(), text.as_str())),
                _ => None,
            });
            for (code, text) in wide.chain(long) {
                let Some(row) = measurement(code) else { continue };
                for (unit, count) in &mut plausible {
                    let fits = |read: Entered| (row.low..=row.high).contains(&read.length.mm());
                    *count += u32::from(Length::read(text, *unit).is_ok_and(fits));
                }
            }
        }
        plausible.sort_by_key(|(_, count)| std::cmp::Reverse(*count));
        let [(unit, most), (_, next), _] = plausible;
        (most > next).then_some(unit)
    }

    /// Whether a day of the file can be read in two orders and none of them decides.
    pub fn order_is_open(&self, table: &Table) -> bool {
        let Some(day) = self.columns.iter().position(|column| *column == Column::Day) else { return false };
        let mut open = false;
        for (_, fields) in &table.rows {
            let text = fields.get(day).map_or("", String::as_str);
            let parts: Vec<u32> = text.split('/').filter_map(|part| part.trim().parse().ok()).collect();
            let [first, second, _] = parts.as_slice() else { continue };
            if *first > 1000 || first == second {
                continue;
            }
            if *first > 12 || *second > 12 {
                return false;
            }
            open = true;
        }
        open
    }

    /// The same, with the order of day and month that the file's own days decide, where they do.
    pub fn in_the_files_order(mut self, table: &Table) -> Self {
        let Some(day) = self.columns.iter().position(|column| *column == Column::Day) else { return self };
        for (_, fields) in &table.rows {
            let text = fields.get(day).map_or("", String::as_str);
            let parts: Vec<u32> = text.split('/').filter_map(|part| part.trim().parse().ok()).collect();
            match parts.as_slice() {
                [first, ..] if (13..=31).contains(first) => self.day_first = true,
                [_, second, _] if (13..=31).contains(second) => self.day_first = false,
                _ => {}
            }
        }
        self
    }

    /// A column that names a measurement the catalogue does not have.
    pub fn unknown(&self) -> Option<&str> {
        self.columns.iter().find_map(|column| match column {
            Column::Of { code } if measurement(code).is_none() => Some(code.as_str()),
            _ => None,
        })
    }

    /// What is missing before lines can be read, as a sentence.
    pub fn lacks(&self, client_is_known: bool) -> Option<&'static str> {
        let has = |wanted: &Column| self.columns.contains(wanted);
        let wide = self.columns.iter().any(|column| matches!(column, Column::Of { .. }));
        if !client_is_known && !has(&Column::Client) {
            Some("say which column holds the client's name")
        } else if !(wide || has(&Column::Measurement) && has(&Column::Value)) {
            Some("say which columns hold the measurement and its value, or which column is which measurement")
        } else {
            None
        }
    }
}

fn plain(name: &str) -> String {
    let letters = name.chars().map(|c| if c.is_alphanumeric() { c.to_ascii_lowercase() } else { ' ' });
    letters.collect::<String>().split_whitespace().collect::<Vec<_>>().join(" ")
}

/// The measurement a heading or field names: by its code, its name or the standard's term.
pub(super) fn named(name: &str) -> Option<&'static str> {
    let name = plain(name);
    let is = |other: &str| plain(other) == name;
    let row =
        catalogue().iter().find(|row| is(&row.code) || is(&row.name) || row.term.as_deref().is_some_and(is));
    row.or_else(|| {
        measurement(match name.as_str() {
            "bust" => "bust_girth",
            "upper bust" | "high bust" => "upper_bust_girth",
            "underbust" | "under bust" => "under_bust_girth",
            "waist" => "waist_girth",
            "hip" | "hips" => "hip_girth",
            "neck" => "neck_base_girth",
            "shoulder" => "shoulder_length",
            "wrist" => "wrist_girth",
            "upper arm" | "biceps" | "bicep" => "upper_arm_girth",
            _ => return None,
        })
    })
    .map(|row| row.code.as_str())
}

fn guess(heading: &str) -> Column {
    match plain(heading).as_str() {
        "client" | "name" | "client name" | "customer" => Column::Client,
        "date" | "day" | "taken on" | "measured on" => Column::Day,
        "measurement" | "code" | "what" => Column::Measurement,
        "side" => Column::Side,
        "value" | "length" | "reading" => Column::Value,
        "unit" | "units" => Column::Unit,
        "schools" => Column::Schools,
        "ease mm" | "ease" => Column::Ease,
        "note" | "notes" | "remark" => Column::Note,
        "stands" | "it stands" => Column::Stands,
        _ => named(heading).map_or(Column::Ignore, |code| Column::Of { code: code.to_owned() }),
    }
}
