//! The committed description is the code's own, from which the front end's types are generated; no type of it replaces
//! another.

use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};

#[test]
fn the_committed_description_is_what_the_code_describes() {
    // As documents: the order of keys depends on what else is built with the server.
    let read = |text: &str| serde_json::from_str::<serde_json::Value>(text).unwrap();
    let kept = read(include_str!("../../../../web/src/api/openapi.json"));
    let now = read(&yardwand_server::openapi().to_pretty_json().unwrap());
    assert!(kept == now, "web/src/api/openapi.json is old: run `cargo xtask types`");
}

fn sources(folder: &Path, found: &mut Vec<PathBuf>) {
    for entry in fs::read_dir(folder).unwrap().flatten() {
        let path = entry.path();
        if path.is_dir() {
            sources(&path, found);
        } else if path.extension().is_some_and(|end| end == "rs") {
            found.push(path);
        }
    }
}

/// The description knows types by their bare names: of two that are called alike one would silently stand for both.
#[test]
fn no_two_described_types_are_called_alike() {
    let crates = Path::new(env!("CARGO_MANIFEST_DIR")).join("..");
    let mut files = Vec::new();
    for part in ["core", "paper", "store", "server"] {
        sources(&crates.join(part).join("src"), &mut files);
    }
    let mut places: BTreeMap<String, Vec<String>> = BTreeMap::new();
    for file in files {
        let text = fs::read_to_string(&file).unwrap();
        let mut is_described = false;
        for line in text.lines().map(str::trim) {
            is_described |= line.starts_with("#[") && line.contains("derive(") && line.contains("ToSchema");
            let words: Vec<&str> = line.split(|c: char| !c.is_alphanumeric() && c != '_').collect();
            let named = words.iter().position(|word| ["struct", "enum"].contains(word));
            if let (true, Some(at), false) = (is_described, named, line.starts_with("//")) {
                places.entry(words[at + 1].to_owned()).or_default().push(file.display().to_string());
                is_described = false;
            }
        }
    }
    assert!(places.len() > 200, "only {} types were found: is the search still right?", places.len());
    let twice: Vec<_> = places.iter().filter(|(_, files)| files.len() > 1).collect();
    assert!(twice.is_empty(), "these names stand for two types: {twice:#?}");
}
