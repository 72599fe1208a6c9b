//! Under which licences stands what the program is made of: a page made from the lock files, and cargo-deny's look at them.

use std::collections::BTreeSet;
use std::fs;
use std::path::PathBuf;
use std::process::Stdio;

use serde_json::Value;

use crate::root;
use crate::run::{Step, checked, command};

/// The machine a house has; on another one some crates are others.
const TARGET: &str = "x86_64-unknown-linux-gnu";
/// The tool, as it is installed where it is missing.
const DENY: [&str; 4] = ["install", "cargo-deny", "--version=^0.18", "--locked"];

const HEAD: &str = "# Licences

Made by `cargo xtask licences` from the lock files: what is in the program and in its pages, not what only builds or tests them.
Yardwand itself is under the MIT licence. The texts are in the packages themselves; those of the fonts lie beside them in
`crates/paper/fonts`. What may be used stands in `deny.toml`.

";

/// Something the program is made of.
#[derive(PartialEq, Eq, PartialOrd, Ord)]
struct Part {
    name: String,
    version: String,
    licence: String,
}

fn page() -> PathBuf {
    root().join("docs/licences.md")
}

/// Writes the page.
pub(crate) fn write() -> Step {
    fs::write(page(), text()?).map_err(|error| error.to_string())
}

/// Whether the page is what the lock files say.
pub(crate) fn check() -> Step {
    if fs::read_to_string(page()).unwrap_or_default() == text()? {
        Ok(())
    } else {
        Err("docs/licences.md is old: run `cargo xtask licences`".to_owned())
    }
}

/// Licences, bans and sources by cargo-deny, which is built here first where it is missing; advisories are looked up where the network has them.
pub(crate) fn deny() -> Step {
    let mut ask = command("cargo");
    ask.args(["deny", "--version"]).stdout(Stdio::null()).stderr(Stdio::null());
    if !ask.status().is_ok_and(|status| status.success()) {
        let mut install = command("cargo");
        install.args(DENY);
        checked(install)?;
    }
    let mut deny = command("cargo");
    deny.args(["deny", "--locked", "check", "licenses", "bans", "sources"]);
    checked(deny)
}

fn text() -> Result<String, String> {
    let table = |title: &str, parts: BTreeSet<Part>| {
        let rows: String = { parts.iter() }
            .map(|part| format!("| {} | {} | {} |\n", part.name, part.version, part.licence))
            .collect();
        format!("## {title}\n\n| | version | licence |\n|---|---|---|\n{rows}")
    };
    Ok(format!("{HEAD}{}\n{}", table("The program", crates()?), table("The pages", packages()?)))
}

/// What the server is built from, as cargo says.
fn crates() -> Result<BTreeSet<Part>, String> {
    let mut tree = command("cargo");
    tree.args(["tree", "--package", "yardwand-server", "--edges", "normal", "--target", TARGET])
        .args(["--prefix", "none", "--format", "{p}|{l}", "--locked"]);
    let told = tree.output().map_err(|error| format!("cargo tree cannot be run: {error}"))?;
    if !told.status.success() {
        return Err(String::from_utf8_lossy(&told.stderr).trim().to_owned());
    }
    // `name v1.2.3 (*)|MIT`, with the folder in brackets where it is this workspace's own.
    let part = |line: &str| {
        let (package, licence) = line.split_once('|')?;
        let mut words = package.split(' ');
        let (name, version) = (words.next()?, words.next()?.strip_prefix('v')?);
        let licence = licence.trim_end_matches(" (*)");
        let is_own = name.starts_with("yardwand-");
        (!is_own).then(|| Part {
            name: name.to_owned(),
            version: version.to_owned(),
            licence: licence.to_owned(),
        })
    };
    Ok(String::from_utf8_lossy(&told.stdout).lines().filter_map(part).collect())
}

/// What the pages are built from, as npm's lock file says.
fn packages() -> Result<BTreeSet<Part>, String> {
    let lock = fs::read_to_string(root().join("web/package-lock.json")).map_err(|error| error.to_string())?;
    let lock: Value = serde_json::from_str(&lock).map_err(|error| error.to_string())?;
    let all = lock["packages"].as_object().ok_or("web/package-lock.json has no packages")?;
    let only_builds = |package: &Value| {
        ["dev", "optional", "devOptional"].iter().any(|flag| package[*flag].as_bool() == Some(true))
    };
    let part = |(path, package): (&String, &Value)| {
        let name = path.rsplit_once("node_modules/")?.1;
        let of = |field: &str| package[field].as_str().unwrap_or("not said").to_owned();
        (!only_builds(package)).then(|| Part {
            name: name.to_owned(),
            version: of("version"),
            licence: of("license"),
        })
    };
    Ok(all.iter().filter_map(part).collect())
}
