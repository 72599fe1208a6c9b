//! The committed description is the code's own; the front end's types are generated from it.

#[test]
fn the_committed_description_is_what_the_code_describes() {
    let said = yardwand_server::openapi().to_pretty_json().unwrap();
    let kept = include_str!("../../../web/src/api/openapi.json");
    assert!(said.trim() == kept.trim(), "web/src/api/openapi.json is old: run `cargo xtask types`");
}
