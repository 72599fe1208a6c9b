//! The dressmaker's craft as pure functions on plain values.
//!
//! What it is: lengths, bodies and readings, the pattern model with its slash algebra, drafting,
//! alterations, the comparison of a client with a block, and what a fitting found. What it is not:
//! it reads no clock, file or database, knows no request and no screen.
//!
//! Everything is millimetres. On a pattern x runs from the centre line to the side seam and y
//! downwards; a turn by a positive angle is clockwise to the eye.

pub mod alter;
pub mod body;
pub mod compare;
pub mod draft;
pub mod drape;
pub mod draping;
pub mod ease;
pub mod fitting;
pub mod geometry;
mod glossary;
mod length;
mod natural;
pub mod nest;
pub mod pattern;
pub mod practice;
mod sentence;

pub use glossary::{Term, glossary};
pub use length::{
    Entered, Length, LengthError, LengthFault, OnBody, PerEdge, PerHalf, Shown, Style, Unit, short_decimal,
};
pub use natural::Natural;

/// Millimetres in an inch, exactly.
pub const INCH: f64 = 25.4;
