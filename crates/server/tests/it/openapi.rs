//! The committed description is the code's own, from which the front end's types are generated; no type of it replaces
//! another.

use std::collections::BTreeMap;
use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;

use serde_json::Value;

use super::common::description;

#[test]
fn the_committed_description_is_what_the_code_describes() {
    // As documents: the order of keys depends on what else is built with the server.
    let read = |text: &str| serde_json::from_str::<serde_json::Value>(text).unwrap();
    let kept = read(include_str!("../../../../web/src/api/openapi.json"));
    let now = read(&yardwand_server::openapi().to_pretty_json().unwrap());
    assert!(kept == now, "web/src/api/openapi.json is old: run `cargo xtask types`");
}

/// Each operation with its path and method.
fn operations() -> impl Iterator<Item = (String, &'static Value)> {
    let paths = description()["paths"].as_object().unwrap();
    paths.iter().flat_map(|(path, item)| {
        let methods = item.as_object().unwrap().iter();
        methods.map(move |(method, operation)| (format!("{method} {path}"), operation))
    })
}

#[test]
fn every_operation_is_described_whole() {
    let mut seen = 0;
    for (name, operation) in operations() {
        seen += 1;
        let said: Vec<&Value> = operation["parameters"].as_array().into_iter().flatten().collect();
        for wanted in name.split('/').filter_map(|part| part.strip_prefix('{')?.strip_suffix('}')) {
            let found = said.iter().find(|each| each["in"] == "path" && each["name"] == wanted);
            let found = found.unwrap_or_else(|| panic!("{name} lacks its parameter {wanted}"));
            assert!(found["required"] == true && found["schema"].is_object(), "{name}: {found}");
        }
        for (status, response) in operation["responses"].as_object().unwrap() {
            assert!(!response["description"].as_str().unwrap_or_default().is_empty(), "{name} {status}");
            // A server that is not ready says so itself.
            let is_ready = name == "get /api/ready" && status == "503";
            let is_problem = !status.starts_with('2') && !is_ready;
            let kinds: Vec<&String> =
                response["content"].as_object().into_iter().flat_map(|c| c.keys()).collect();
            assert_eq!(is_problem, kinds == ["application/problem+json"], "{name} {status}: {kinds:?}");
        }
        let wants_sign_in = operation.get("security").is_none();
        assert!(
            !wants_sign_in || operation["responses"]["401"].is_object(),
            "{name} can be called by anybody"
        );
        assert!(
            !operation["description"].is_null() || !operation["summary"].is_null(),
            "{name} says nothing"
        );
    }
    assert!(seen > 120, "{seen} operations");
}

/// OpenAPI's own rules, by a validator of Python's world, where it is installed.
#[test]
fn a_strict_validator_accepts_the_description() {
    let here = Command::new("python3").args(["-c", "import openapi_spec_validator"]).output();
    if !here.is_ok_and(|said| said.status.success()) {
        eprintln!("openapi-spec-validator is not installed: not tried");
        return;
    }
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/api/openapi.json");
    let said = Command::new("python3")
        .args(["-m", "openapi_spec_validator", "--subschema-errors", "all"])
        .arg(file)
        .output();
    let said = said.unwrap();
    assert!(said.status.success(), "{}", String::from_utf8_lossy(&said.stdout));
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
