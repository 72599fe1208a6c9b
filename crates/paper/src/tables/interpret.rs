//! Readings of lines, each line with its own problem.

use std::collections::BTreeMap;

use chrono::NaiveDate;
use yardwand_core::body::{Side, Taken, measurement};
use yardwand_core::{Entered, Length, Unit};

use super::mapping::named;
use super::{Column, LineProblem, Mapping, Table, tidy};

/// The longest note a reading keeps, in characters.
const LONGEST_NOTE: usize = 200;
/// The longest initials, in characters.
const LONGEST_INITIALS: usize = 12;

/// A reading on its way in.
#[derive(Clone, Debug, PartialEq)]
pub struct ReadingIn {
    /// Line in the file.
    pub line: usize,
    /// Her name.
    pub client: String,
    /// The day.
    pub taken_on: NaiveDate,
    /// Code of the measurement.
    pub code: String,
    /// Which side.
    pub side: Side,
    /// The length, ease included.
    pub entered: Entered,
    /// Ease inside, in millimetres.
    pub ease_mm: f64,
    /// How it was taken: school by matter.
    pub schools: BTreeMap<String, String>,
    /// A word about it.
    pub note: String,
    /// Initials behind "measured again, it stands".
    pub stands: Option<String>,
}

/// Makes readings of the lines. `client` and `today` stand in where the file names none.
pub fn interpret(
    table: &Table,
    mapping: &Mapping,
    client: Option<&str>,
    today: NaiveDate,
) -> (Vec<ReadingIn>, Vec<LineProblem>) {
    let (mut readings, mut problems) = (Vec::new(), table.broken.clone());
    for (line, fields) in &table.rows {
        let reader = LineReader { table, mapping, line: *line, fields, client, today };
        match reader.readings() {
            Ok(found) => readings.extend(found),
            Err(problem) => problems.push(problem),
        }
    }
    problems.sort_by_key(|problem| problem.line);
    (readings, problems)
}

struct LineReader<'a> {
    table: &'a Table,
    mapping: &'a Mapping,
    line: usize,
    fields: &'a [String],
    client: Option<&'a str>,
    today: NaiveDate,
}

impl LineReader<'_> {
    fn field(&self, wanted: &Column) -> Option<(&str, &str)> {
        let place = self.mapping.columns.iter().position(|column| column == wanted)?;
        let text = self.fields.get(place)?.as_str();
        (!text.is_empty()).then(|| (self.table.columns[place].as_str(), text))
    }

    fn problem(&self, column: Option<&str>, says: String) -> LineProblem {
        LineProblem { line: self.line, column: column.map(str::to_owned), says }
    }

    fn stands(&self) -> Result<Option<String>, LineProblem> {
        let Some((column, text)) = self.field(&Column::Stands) else { return Ok(None) };
        let initials = without_guard(text);
        if initials.chars().count() > LONGEST_INITIALS || initials.contains(char::is_control) {
            let says =
                format!("\u{201c}{initials}\u{201d} are no initials: at most {LONGEST_INITIALS} characters");
            return Err(self.problem(Some(column), says));
        }
        Ok(Some(initials.to_owned()))
    }

    fn readings(&self) -> Result<Vec<ReadingIn>, LineProblem> {
        let client = self.field(&Column::Client).map(|(_, name)| without_guard(name)).or(self.client);
        let client =
            client.ok_or_else(|| self.problem(None, "there is no client's name on this line".to_owned()))?;
        if client.chars().count() > 120 {
            return Err(self.problem(None, "the client's name has more than 120 characters".to_owned()));
        }
        let taken_on = match self.field(&Column::Day) {
            None => self.today,
            Some((column, text)) => read_day(text, self.mapping.day_first).ok_or_else(|| {
                self.problem(
                    Some(column),
                    format!("\u{201c}{text}\u{201d} is no day: write it like 2026-11-23"),
                )
            })?,
        };
        if taken_on > self.today {
            return Err(self
                .problem(None, format!("{taken_on} lies in the future: check the order of day and month")));
        }
        let note = self.field(&Column::Note).map_or("", |(_, note)| without_guard(note));
        let long = note.chars().count();
        if long > LONGEST_NOTE {
            let says = format!("the note has {long} characters: at most {LONGEST_NOTE} are kept, shorten it");
            return Err(self.problem(None, says));
        }
        if client.contains(char::is_control) || note.contains(char::is_control) {
            let says = "the name or the note holds a line break or another sign that cannot be seen";
            return Err(self.problem(None, says.to_owned()));
        }
        let stands = self.stands()?;
        let client = tidy(client);
        let schools = self.schools()?;
        let base = |code: &str, side, entered, ease_mm| ReadingIn {
            line: self.line,
            client: client.clone(),
            taken_on,
            code: code.to_owned(),
            side,
            entered,
            ease_mm,
            schools: schools.clone(),
            note: note.to_owned(),
            stands: stands.clone(),
        };
        let mut found = Vec::new();
        if let Some((column, value)) = self.field(&Column::Value) {
            let (what_column, what) = self
                .field(&Column::Measurement)
                .ok_or_else(|| self.problem(None, "there is a value but no measurement".to_owned()))?;
            let code = named(what).ok_or_else(|| {
                self.problem(
                    Some(what_column),
                    format!(
                        "no measurement is called \u{201c}{what}\u{201d}: use a code or name of the catalogue"
                    ),
                )
            })?;
            let unit = self.unit()?;
            let side = self.side(code)?;
            let ease_mm = self.ease()?;
            found.push(base(code, side, self.length(column, value, unit)?, ease_mm));
        } else if self.mapping.columns.contains(&Column::Value) {
            return Err(self.problem(None, "there is no value on this line".to_owned()));
        }
        let unit = self.unit()?;
        for (place, column) in self.mapping.columns.iter().enumerate() {
            let Column::Of { code } = column else { continue };
            let Some(text) = self.fields.get(place).filter(|text| !text.is_empty()) else { continue };
            found.push(base(code, Side::Both, self.length(&self.table.columns[place], text, unit)?, 0.0));
        }
        Ok(found)
    }

    fn unit(&self) -> Result<Unit, LineProblem> {
        let Some((column, text)) = self.field(&Column::Unit) else { return Ok(self.mapping.unit) };
        match text.to_lowercase().as_str() {
            "in" | "inch" | "inches" | "\"" => Ok(Unit::Inch),
            "cm" => Ok(Unit::Cm),
            "mm" => Ok(Unit::Mm),
            _ => {
                Err(self
                    .problem(Some(column), format!("\u{201c}{text}\u{201d} is no unit: use in, cm or mm")))
            }
        }
    }

    fn side(&self, code: &str) -> Result<Side, LineProblem> {
        let Some((column, text)) = self.field(&Column::Side) else { return Ok(Side::Both) };
        let side = match text.to_lowercase().as_str() {
            "both" | "b" => Side::Both,
            "left" | "l" => Side::Left,
            "right" | "r" => Side::Right,
            _ => {
                return Err(self.problem(
                    Some(column),
                    format!("\u{201c}{text}\u{201d} is no side: use left, right or both"),
                ));
            }
        };
        let sided = measurement(code).is_some_and(|row| row.sides);
        if side != Side::Both && !sided {
            return Err(
                self.problem(Some(column), "this measurement has no left and right: use both".to_owned())
            );
        }
        Ok(side)
    }

    fn schools(&self) -> Result<BTreeMap<String, String>, LineProblem> {
        let Some((column, text)) = self.field(&Column::Schools) else { return Ok(BTreeMap::new()) };
        let pairs = text.split(';').map(str::trim).filter(|pair| !pair.is_empty());
        let schools: Option<BTreeMap<String, String>> = pairs
            .map(|pair| pair.split_once('=').map(|(m, s)| (m.trim().to_owned(), s.trim().to_owned())))
            .collect();
        let taken = schools.map(|schools| Taken { schools, ease_mm: 0.0 });
        match taken {
            Some(taken) if taken.unknown().is_none() => Ok(taken.schools),
            _ => Err(self.problem(
                Some(column),
                format!("\u{201c}{text}\u{201d} is no way of measuring this program knows: leave it empty for the usual one"),
            )),
        }
    }

    fn ease(&self) -> Result<f64, LineProblem> {
        let Some((column, text)) = self.field(&Column::Ease) else { return Ok(0.0) };
        let ease = text.parse::<f64>().ok().filter(|mm| (0.0..=300.0).contains(mm));
        ease.ok_or_else(|| {
            self.problem(
                Some(column),
                format!("\u{201c}{text}\u{201d} is no ease: millimetres from 0 to 300"),
            )
        })
    }

    fn length(&self, column: &str, text: &str, unit: Unit) -> Result<Entered, LineProblem> {
        if text.chars().count() > 40 {
            return Err(self.problem(Some(column), "a length has at most 40 characters".to_owned()));
        }
        Length::read(text, unit)
            .map_err(|error| self.problem(Some(column), format!("\u{201c}{text}\u{201d}: {error}")))
    }
}

/// The text less the apostrophe that keeps a spreadsheet from running it.
fn without_guard(text: &str) -> &str {
    match text.strip_prefix('\'') {
        Some(rest) if rest.starts_with(['=', '+', '-', '@']) => rest,
        _ => text,
    }
}

/// 2026-11-23, 23.11.2026, 23/11/2026 or 11/23/2026.
fn read_day(text: &str, day_first: bool) -> Option<NaiveDate> {
    let text = text.split(['T', ' ']).next()?;
    let parts: Vec<u32> = text.split(['-', '.', '/']).map(|part| part.parse().ok()).collect::<Option<_>>()?;
    let [a, b, c] = parts.as_slice() else { return None };
    let (year, month, day) = if *a > 1000 {
        (*a, *b, *c)
    } else if day_first || text.contains('.') {
        (*c, *b, *a)
    } else {
        (*c, *a, *b)
    };
    (1900..=2200)
        .contains(&year)
        .then(|| NaiveDate::from_ymd_opt(i32::try_from(year).ok()?, month, day))
        .flatten()
}

/// Lines that say what another line or the book says already: the same client, day, measurement, side and figure to the
/// tenth of a millimetre. `known` are figures of the book by client. Returns the readings that are new, and how many
/// were not.
pub fn without_twins(
    readings: Vec<ReadingIn>,
    known: &BTreeMap<String, Vec<(NaiveDate, String, Side, f64)>>,
) -> (Vec<ReadingIn>, Vec<LineProblem>) {
    let key = |day: NaiveDate, code: &str, side: Side, mm: f64| {
        (day, code.to_owned(), side, (mm * 10.0).round() as i64)
    };
    let mut seen: std::collections::HashMap<_, usize> = std::collections::HashMap::new();
    for (client, figures) in known {
        for (day, code, side, mm) in figures {
            seen.insert((client.to_lowercase(), key(*day, code, *side, *mm)), 0);
        }
    }
    let (mut fresh, mut twins) = (Vec::new(), Vec::new());
    for reading in readings {
        let mm = reading.entered.length.mm() - reading.ease_mm;
        let own = (reading.client.to_lowercase(), key(reading.taken_on, &reading.code, reading.side, mm));
        match seen.get(&own) {
            Some(0) => twins.push(twin(&reading, "the book has this reading already".to_owned())),
            Some(line) => twins.push(twin(&reading, format!("the same reading stands on line {line}"))),
            None => {
                seen.insert(own, reading.line);
                fresh.push(reading);
            }
        }
    }
    (fresh, twins)
}

fn twin(reading: &ReadingIn, says: String) -> LineProblem {
    LineProblem { line: reading.line, column: None, says }
}
