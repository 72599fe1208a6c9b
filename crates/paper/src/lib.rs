//! Patterns and readings on paper and in files: true-size SVG, PDF, CSV, JSON, iCalendar.
//!
//! Values in, bytes out: no files, no clock. Everything is true to size and labelled. Coordinates are
//! millimetres until the very last step; a PDF is written in points of 1/72 in.

mod dates;
mod fonts;
mod ink;
mod label;
mod label_place;
mod layout;
mod outlines;
mod pdf;
mod sheet;
mod svg;
pub mod tables;
mod worksheet;

pub use dates::{BusyDays, DayEntry, busy_days, calendar_file};
pub use ink::{Paper, PaperError};
pub use label::Label;
pub use layout::{Laid, lay_out, lay_out_card};
pub use outlines::{FileOutline, FileOutlines, LONGEST_FILE, outlines_of_svg};
pub use pdf::{MapPage, PageMap, Tiling, card_pdf, tiled_pdf};
pub use sheet::{Sheet, SheetRow, SheetSide, TapeDrawing, measuring_sheet};
pub use svg::{small_svg, true_size_svg};
pub use worksheet::{Cell, Column, Item, Mark, Stroke, Worksheet, worksheet};
