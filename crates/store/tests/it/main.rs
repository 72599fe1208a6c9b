//! What is kept: every test of this crate from outside, as one program, which links once instead of once a file.

mod attempts;
mod common;
mod dates;
mod fitting;
mod jobs;
mod keeping;
mod measured;
mod schema;
