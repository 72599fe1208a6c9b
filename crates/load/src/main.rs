//! Measures a house of many years under load: `yardwand-load PROGRAM FOLDER scale|users|pages`, as `cargo xtask load` calls it.
//!
//! `scale`: every page read on its own, beside an empty handler and the bare SQL of a search. `users`: fifty people for ten minutes.
//! `pages`: what five hundred open pages cost everybody else. Each prints its figures, and ends with an error where one is over its limit.

mod house;
mod pages;
mod person;
mod scale;
mod stolen;
mod tally;
mod users;

use std::path::Path;
use std::process::ExitCode;

use house::LargeHouse;

/// What went wrong, or which figure is over its limit.
type Measured<T = ()> = Result<T, Box<dyn std::error::Error>>;

fn main() -> ExitCode {
    let words: Vec<String> = std::env::args().skip(1).collect();
    let [program, folder, what] = &words[..] else {
        eprintln!("yardwand-load PROGRAM FOLDER scale|users|pages");
        return ExitCode::from(2);
    };
    let measured =
        LargeHouse::open(Path::new(program), Path::new(folder)).and_then(|house| match what.as_str() {
            "scale" => scale::measure(&house),
            "users" => users::measure(&house),
            "pages" => pages::measure(&house),
            _ => Err(format!("there is no measurement “{what}”").into()),
        });
    match measured {
        Ok(()) => ExitCode::SUCCESS,
        Err(error) => {
            eprintln!("{what}: {error}");
            ExitCode::FAILURE
        }
    }
}
