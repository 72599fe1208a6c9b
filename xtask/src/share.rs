//! The share of tests in all code, by one rule, so that it can be compared from month to month.
//!
//! Counted are lines of Rust, TypeScript and Vue that are neither empty nor only a comment. A test is everything below a
//! folder `tests` or `benches`, the whole of the crates of browser tests and of load, and what follows `#[cfg(test)]` to the end of its
//! file. Generated files, SQL and data files are neither. The front end is `web` with the browser tests: they open its
//! pages and nothing else.

use std::fs;
use std::path::Path;

use crate::root;
use crate::run::Step;

/// Where code stands, and what each part is called.
const PARTS: [(&str, &str); 10] = [
    ("core", "crates/core"),
    ("paper", "crates/paper"),
    ("store", "crates/store"),
    ("backup", "crates/backup"),
    ("server", "crates/server"),
    ("devdb", "crates/devdb"),
    ("browser tests", "crates/e2e"),
    ("load", "crates/load"),
    ("xtask", "xtask"),
    ("web", "web"),
];
/// What others write.
const LEFT_OUT: [&str; 4] = ["node_modules", "dist", "target", "schema.d.ts"];
const FRONT_END: [&str; 2] = ["crates/e2e", "web"];
const WHOLLY_TESTS: [&str; 2] = ["crates/e2e", "crates/load"];

/// Lines of one part.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
struct Lines {
    code: usize,
    tests: usize,
}

impl Lines {
    fn and(self, other: Self) -> Self {
        Self { code: self.code + other.code, tests: self.tests + other.tests }
    }

    fn percent(self) -> f64 {
        100.0 * self.tests as f64 / (self.code + self.tests).max(1) as f64
    }
}

/// Prints the table.
///
/// # Errors
///
/// When a file cannot be read.
pub(crate) fn print() -> Step {
    println!("{:<16}{:>9}{:>9}{:>9}", "", "code", "tests", "share");
    let row = |name: &str, lines: Lines| {
        println!("{name:<16}{:>9}{:>9}{:>8.1} %", lines.code, lines.tests, lines.percent());
    };
    let (mut whole, mut front_end) = (Lines::default(), Lines::default());
    for (name, folder) in PARTS {
        let lines = below(&root().join(folder), WHOLLY_TESTS.contains(&folder))?;
        row(name, lines);
        whole = whole.and(lines);
        if FRONT_END.contains(&folder) {
            front_end = front_end.and(lines);
        }
    }
    row("front end", front_end);
    row("all", whole);
    Ok(())
}

fn below(folder: &Path, is_test: bool) -> Result<Lines, String> {
    let failed = |error| format!("{}: {error}", folder.display());
    let mut lines = Lines::default();
    for entry in fs::read_dir(folder).map_err(failed)? {
        let path = entry.map_err(failed)?.path();
        let name = path.file_name().unwrap_or_default().to_string_lossy().into_owned();
        if LEFT_OUT.contains(&name.as_str()) || name.starts_with('.') {
            continue;
        }
        let extension = path.extension().unwrap_or_default().to_string_lossy().into_owned();
        if path.is_dir() {
            lines = lines.and(below(&path, is_test || name == "tests" || name == "benches")?);
        } else if ["rs", "ts", "mjs", "vue"].contains(&extension.as_str()) {
            lines = lines.and(counted(&fs::read_to_string(&path).map_err(failed)?, is_test));
        }
    }
    Ok(lines)
}

fn counted(text: &str, is_test: bool) -> Lines {
    let mut lines = Lines::default();
    let mut in_tests = is_test;
    let mut in_comment = false;
    for line in text.lines().map(str::trim) {
        in_tests |= line == "#[cfg(test)]";
        in_comment |= line.starts_with("/*") || line.starts_with("<!--");
        let counts = !line.is_empty() && !in_comment && !line.starts_with("//");
        in_comment &= !(line.ends_with("*/") || line.ends_with("-->"));
        match (counts, in_tests) {
            (false, _) => {}
            (true, true) => lines.tests += 1,
            (true, false) => lines.code += 1,
        }
    }
    lines
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn empty_lines_and_comments_count_for_nothing() {
        let text = "//! A module.\n\n/// A sum.\nfn sum() {} // said\n/* one\n   two */\nfn two() {}\n";
        assert_eq!(counted(text, false), Lines { code: 2, tests: 0 });
        assert_eq!(counted(text, true), Lines { code: 0, tests: 2 });
        let vue = "<script>\nconst a = 1\n</script>\n<!-- said -->\n<template />\n";
        assert_eq!(counted(vue, false), Lines { code: 4, tests: 0 });
    }

    #[test]
    fn what_follows_the_mark_is_a_test() {
        let lines = counted("fn one() {}\n#[cfg(test)]\nmod tests {\n}\n", false);
        assert_eq!(lines, Lines { code: 1, tests: 3 });
        assert!((lines.percent() - 75.0).abs() < 1e-9);
    }
}
