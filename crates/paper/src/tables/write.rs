//! Readings on their way out.

use chrono::NaiveDate;
use serde::Serialize;
use yardwand_core::Unit;
use yardwand_core::body::Side;

/// The columns of a file that is written, in order. Readers find them by these names.
pub const HEADINGS: [&str; 13] = [
    "client",
    "taken_on",
    "measurement",
    "side",
    "value",
    "unit",
    "mm",
    "method",
    "schools",
    "ease_mm",
    "measured_by",
    "note",
    "stands",
];
/// Name and version of the JSON document.
pub const JSON_FORMAT: &str = "yardwand.readings";
/// Its version.
pub const JSON_VERSION: u32 = 1;

/// A reading on its way out.
#[derive(Clone, Debug, PartialEq, Serialize)]
pub struct ReadingOut {
    /// Her name.
    pub client: String,
    /// The day.
    pub taken_on: NaiveDate,
    /// Code of the measurement.
    pub measurement: String,
    /// Both, left or right.
    pub side: Side,
    /// As it was typed, ease included.
    pub value: String,
    /// The unit it was typed in.
    pub unit: Unit,
    /// The figure less any ease, in millimetres.
    pub mm: f64,
    /// How it was taken, where not the catalogue's way; and where the measurement is not the standard's.
    pub method: String,
    /// The same as `matter=school` pairs, for this program to read back.
    pub schools: String,
    /// Ease that was inside, in millimetres.
    pub ease_mm: f64,
    /// Who measured.
    pub measured_by: String,
    /// A word about it.
    pub note: String,
    /// Initials behind "measured again, it stands"; empty for none.
    pub stands: String,
}

/// Readings as CSV: UTF-8, a heading, CRLF.
pub fn write_csv(readings: &[ReadingOut]) -> String {
    let side = |side| match side {
        Side::Both => "both",
        Side::Left => "left",
        Side::Right => "right",
    };
    let rows = readings.iter().map(|r| {
        [
            r.client.clone(),
            r.taken_on.to_string(),
            r.measurement.clone(),
            side(r.side).to_owned(),
            r.value.clone(),
            r.unit.suffix().to_owned(),
            millimetres(r.mm),
            r.method.clone(),
            r.schools.clone(),
            millimetres(r.ease_mm),
            r.measured_by.clone(),
            r.note.clone(),
            r.stands.clone(),
        ]
    });
    csv_file(HEADINGS, rows)
}

/// A table as CSV (RFC 4180): UTF-8, a heading, CRLF. A text that a spreadsheet would run as a formula is guarded.
pub fn csv_file<const N: usize>(headings: [&str; N], rows: impl IntoIterator<Item = [String; N]>) -> String {
    let mut writer = csv::WriterBuilder::new().terminator(csv::Terminator::CRLF).from_writer(Vec::new());
    let rows = rows.into_iter().map(|row| row.map(|text| guarded(&text)));
    for row in std::iter::once(headings.map(str::to_owned)).chain(rows) {
        // Writing into memory does not fail.
        let _ = writer.write_record(&row);
    }
    writer.into_inner().map(|bytes| String::from_utf8_lossy(&bytes).into_owned()).unwrap_or_default()
}

/// To a millionth, without noughts at its end: finer than any mark that was typed.
fn millimetres(mm: f64) -> String {
    let text = format!("{mm:.6}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// A spreadsheet would run a text that begins like a formula: it gets an apostrophe in front.
fn guarded(text: &str) -> String {
    if text.starts_with(['=', '+', '-', '@', '\t', '\r']) { format!("'{text}") } else { text.to_owned() }
}

/// Readings as a JSON document with its format and version.
pub fn write_json(readings: &[ReadingOut]) -> String {
    #[derive(Serialize)]
    struct Document<'a> {
        format: &'static str,
        version: u32,
        readings: &'a [ReadingOut],
    }
    let document = Document { format: JSON_FORMAT, version: JSON_VERSION, readings };
    serde_json::to_string_pretty(&document).unwrap_or_default()
}
