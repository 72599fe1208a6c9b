//! Paper: every test of this crate from outside, as one program, which links once instead of once a file.

mod calendar_files;
#[path = "../../../core/tests/it/common/mod.rs"]
mod common;
mod outlines;
mod tables_and_sheets;
mod true_size;
mod worksheets_and_sizes;
