//! The application, over HTTP and on the command line: every test of this crate from outside, as one program, which links once instead of once a file.

mod api;
mod backups;
mod blocks;
mod calendar;
mod cluster;
mod command_line;
mod common;
mod composing;
mod fitting;
mod gone_askers;
mod guarded;
mod kill;
mod kills;
mod many_at_once;
mod many_years;
mod measuring;
mod openapi;
mod orchestra;
mod ordinary_days;
mod pages;
mod rights;
mod said_and_kept;
mod second_factor;
mod skirts;
mod wild_documents;
mod wild_requests;
