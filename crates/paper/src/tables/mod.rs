//! Readings as tables: CSV (RFC 4180, with what spreadsheets make of it) and JSON, in and out.
//!
//! A file comes in three steps that each can be looked at: [`Table::read`] finds rows and columns, [`Mapping`] says what
//! each column is (guessed from its heading, changed by a person), [`interpret`] makes readings of the lines, each line
//! with its own problem. Nothing is refused as a whole for one bad line.

mod interpret;
mod mapping;
mod names;
mod sizes;
mod table;
mod write;

pub use interpret::{ReadingIn, interpret, without_twins};
pub use mapping::{Column, Mapping};
pub use names::{are_near, tidy};
pub use sizes::{SizesIn, read_sizes};
pub use table::{LineProblem, Table, TableError};
pub use write::{HEADINGS, JSON_FORMAT, JSON_VERSION, ReadingOut, csv_file, write_csv, write_json};
