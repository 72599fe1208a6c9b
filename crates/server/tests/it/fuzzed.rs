//! A fuzzer that is not ours asks every operation with what its description lets through, and with what it forbids: schemathesis
//! (<https://schemathesis.io>), which reads OpenAPI. Our own way of asking is `wild_requests.rs`.

use std::env;
use std::path::Path;
use std::process::Command;

use crate::common::House;

/// Where it is installed; `cargo xtask test` does, where Python is there.
const PROGRAM: &str = "YARDWAND_SCHEMATHESIS";
/// What ends the sign-in it asks with, and streams that never end.
const LEFT_OUT: &str = "/sign-out|/me/|/leave|/events";
/// Nothing breaks, and every answer is one the description knows.
const CHECKS: &str =
    "not_a_server_error,status_code_conformance,content_type_conformance,response_schema_conformance";
/// It draws so many requests for an operation, beside those at the limits of each field.
const DRAWN: &str = "3";
/// An operation has some fifty limits; fewer requests in all mean that it was not asked.
const LEAST: u32 = 3000;

#[test]
fn a_fuzzer_that_is_not_ours_breaks_nothing() {
    let Some(program) = env::var_os(PROGRAM) else {
        println!("left out: {PROGRAM} does not say where schemathesis is");
        return;
    };
    let house = House::with_demo();
    let owner = house.owner();
    let description = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/src/api/openapi.json");
    let mut fuzzer = Command::new(program);
    fuzzer
        .current_dir(env!("CARGO_TARGET_TMPDIR"))
        .arg("run")
        .arg(description)
        .args(["--url", &house.base(), "--header", &format!("Cookie: {}", owner.cookie())])
        .args(["--phases", "coverage,fuzzing", "--max-examples", DRAWN, "--seed", "2026"])
        // A busy machine is no fault.
        .args(["--request-timeout", "120", "--suppress-health-check", "all"])
        .args(["--checks", CHECKS, "--exclude-path-regex", LEFT_OUT, "--continue-on-failure", "--no-color"]);
    let ended = fuzzer.output().unwrap();
    let said = String::from_utf8_lossy(&ended.stdout);
    let errors = String::from_utf8_lossy(&ended.stderr);
    assert!(ended.status.success(), "{said}\n{errors}");
    // `Test cases:` is followed by a line such as `9002 generated, 9002 passed`.
    let count = said.lines().find_map(|line| line.trim().split_once(" generated")?.0.parse::<u32>().ok());
    assert!(count.is_some_and(|count| count >= LEAST), "{count:?}: {said}");
    assert_eq!(owner.get("/api/me").status, 200, "it was signed in to the end");
}
