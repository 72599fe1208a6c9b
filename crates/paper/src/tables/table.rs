//! A file as rows and columns, whatever they mean.

use serde::Serialize;

/// A file as rows and columns.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Table {
    /// The headings.
    pub columns: Vec<String>,
    /// Line number in the file and the fields.
    pub rows: Vec<(usize, Vec<String>)>,
    /// Lines that are no rows of this table.
    pub broken: Vec<LineProblem>,
}

/// Why a file is no table.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum TableError {
    /// There is nothing in it.
    #[error("the file is empty: it needs a heading and at least one line")]
    Empty,
    /// It looks like JSON and is none, or another document.
    #[error(
        "this JSON cannot be read ({0}): it needs a list of readings, or a document with \u{201c}readings\u{201d}"
    )]
    Json(String),
    /// A later version of the document.
    #[error("this file was written by a later version ({0}): this program reads version 1")]
    Version(u64),
}

/// What is wrong with a line.
#[derive(Clone, Debug, PartialEq, Eq, Serialize)]
pub struct LineProblem {
    /// Line in the file, from 1.
    pub line: usize,
    /// The column concerned, where there is one.
    pub column: Option<String>,
    /// What is wrong, and the way out.
    pub says: String,
}

impl Table {
    /// Reads CSV (comma, semicolon or tab, whichever the heading holds most of) or JSON.
    ///
    /// # Errors
    ///
    /// [`TableError`] where there is no table at all; a bad line is in [`Table::broken`].
    pub fn read(text: &str) -> Result<Self, TableError> {
        // One line break for all, or the reader's line numbers would lag behind the file's.
        let text = text.trim_start_matches('\u{feff}').replace("\r\n", "\n");
        let text = text.as_str();
        match text.trim_start().chars().next() {
            None => Err(TableError::Empty),
            Some('{' | '[') => Self::of_json(text),
            Some(_) => Self::of_csv(text),
        }
    }

    fn of_csv(text: &str) -> Result<Self, TableError> {
        let heading = text.lines().find(|line| !line.trim().is_empty()).ok_or(TableError::Empty)?;
        let most = |c: &char| heading.matches(*c).count();
        // On a tie the earlier of these wins.
        let delimiter = ['\t', ';', ','].into_iter().max_by_key(most).unwrap_or(',');
        let mut reader =
            csv::ReaderBuilder::new().delimiter(delimiter as u8).flexible(true).from_reader(text.as_bytes());
        let columns: Vec<String> = match reader.headers() {
            Ok(heading) => heading.iter().map(|name| name.trim().to_owned()).collect(),
            Err(_) => return Err(TableError::Empty),
        };
        // The reader passes over empty lines without counting them to the next row.
        let lines: Vec<&str> = text.lines().collect();
        let line_of = |at: Option<&csv::Position>| {
            let begun = at.map_or(0, |at| at.line() as usize);
            let empty = lines.iter().skip(begun.saturating_sub(1)).take_while(|line| line.is_empty()).count();
            begun + empty
        };
        let (mut rows, mut broken) = (Vec::new(), Vec::new());
        for record in reader.records() {
            match record {
                Ok(record) if record.iter().all(|field| field.trim().is_empty()) => {}
                Ok(record) => {
                    let line = line_of(record.position());
                    if record.len() > columns.len() {
                        let says = format!(
                            "{} fields under {} headings: quote a field that holds a {delimiter:?}",
                            record.len(),
                            columns.len()
                        );
                        broken.push(LineProblem { line, column: None, says });
                    } else {
                        rows.push((line, record.iter().map(|field| field.trim().to_owned()).collect()));
                    }
                }
                Err(error) => broken.push(LineProblem {
                    line: line_of(error.position()),
                    column: None,
                    says: "this line cannot be read: look for a quotation mark that is not closed".to_owned(),
                }),
            }
        }
        Ok(Self { columns, rows, broken })
    }

    fn of_json(text: &str) -> Result<Self, TableError> {
        let value: serde_json::Value =
            serde_json::from_str(text).map_err(|error| TableError::Json(error.to_string()))?;
        if let Some(version) = value.get("version").and_then(serde_json::Value::as_u64).filter(|v| *v > 1) {
            return Err(TableError::Version(version));
        }
        let list = value.as_array().or_else(|| value.get("readings")?.as_array());
        let list = list.ok_or_else(|| TableError::Json("there is no list of readings".to_owned()))?;
        let mut columns: Vec<String> = Vec::new();
        for key in list.iter().filter_map(serde_json::Value::as_object).flat_map(|object| object.keys()) {
            if !columns.contains(key) {
                columns.push(key.clone());
            }
        }
        let (mut rows, mut broken) = (Vec::new(), Vec::new());
        for (place, entry) in list.iter().enumerate() {
            match entry.as_object() {
                Some(object) => {
                    let field = |name: &String| match object.get(name) {
                        None | Some(serde_json::Value::Null) => String::new(),
                        Some(serde_json::Value::String(text)) => text.trim().to_owned(),
                        Some(other) => other.to_string(),
                    };
                    rows.push((place + 1, columns.iter().map(field).collect()));
                }
                None => broken.push(LineProblem {
                    line: place + 1,
                    column: None,
                    says: "this entry is no reading: it needs names and values in braces".to_owned(),
                }),
            }
        }
        Ok(Self { columns, rows, broken })
    }
}
