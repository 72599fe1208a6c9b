//! What is sent is what is kept, once and under its own key; what cannot be kept is said.

mod common;

use std::io::Write;
use std::process::{Command, Stdio};

use common::House;
use serde_json::json;

#[test]
fn a_key_answers_only_for_the_write_it_was_made_for() {
    let house = House::with_demo();
    let owner = house.owner();
    let key = ("idempotency-key", "one key for one write");
    let first = owner.post_with("/api/clients", key, &json!({ "name": "First" })).id();
    assert_eq!(owner.post_with("/api/clients", key, &json!({ "name": "First" })).id(), first, "a retry");
    // Another body, and another endpoint: nothing is kept, and nobody is told otherwise.
    let other_body = owner.post_with("/api/clients", key, &json!({ "name": "Second" }));
    assert_eq!(other_body.status, 409, "{:?}", other_body.body);
    assert_eq!(other_body.body["type"], "urn:yardwand:key-used");
    assert!(other_body.detail().contains("was not saved"), "{}", other_body.detail());
    let garment = json!({ "garment": "Coat", "toiles": 2 });
    let elsewhere = owner.post_with(&format!("/api/clients/{first}/orders"), key, &garment);
    assert_eq!(elsewhere.status, 409, "{:?}", elsewhere.body);
    let same_words =
        owner.post_with("/api/forms", key, &json!({ "name": "First", "figures": [], "levels": [] }));
    assert_eq!(same_words.status, 409, "{:?}", same_words.body);
    assert!(owner.get("/api/clients?q=Second").body["items"].as_array().unwrap().is_empty());
    let client = owner.get(&format!("/api/clients/{first}")).body;
    assert!(client["orders"].as_array().unwrap().is_empty());
    // A write that was turned down has used no key.
    let again = ("idempotency-key", "a key that was not used");
    assert_eq!(owner.post_with("/api/clients", again, &json!({ "name": " " })).status, 422);
    owner.post_with("/api/clients", again, &json!({ "name": "Third" })).id();
}

#[test]
fn a_version_is_saved_of_the_recipe_that_was_seen() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let revision = owner.get(&format!("/api/patterns/{pattern}")).body["revision"].as_u64().unwrap();
    let versions = format!("/api/patterns/{pattern}/versions");
    let late = owner.post(&versions, &json!({ "why": "", "revision": revision + 1 }));
    assert_eq!(late.status, 409, "{:?}", late.body);
    owner.post(&versions, &json!({ "why": "", "revision": revision })).id();
}

#[test]
fn one_line_texts_refuse_signs_that_cannot_be_seen() {
    let house = House::with_demo();
    let owner = house.owner();
    for (name, status) in [("Zoë Ångström", 201), ("Two\nlines", 422), ("Bell\u{7}", 422), ("Tab\there", 422)]
    {
        let answer = owner.post("/api/clients", &json!({ "name": name }));
        assert_eq!(answer.status, status, "{name:?}: {:?}", answer.body);
        if status == 422 {
            assert_eq!(answer.body["pointer"], "/name");
            let says = answer.detail();
            assert!(says.contains("on one line") || says.contains("type it anew"), "{says}");
        }
    }
    let notes = json!({ "name": "Notes", "notes": "first line\nsecond line" });
    let client = owner.post("/api/clients", &notes).id();
    let kept = owner.get(&format!("/api/clients/{client}")).body;
    assert_eq!(kept["notes"], "first line\nsecond line");
    assert_eq!(owner.post("/api/clients", &json!({ "name": "N", "notes": "a\u{0}b" })).status, 422);
    let garment = json!({ "garment": "Coat\r\nX-Header: no", "toiles": 2 });
    assert_eq!(owner.post(&format!("/api/clients/{client}/orders"), &garment).status, 422);
}

#[test]
fn a_length_beyond_its_field_is_refused_with_both_limits() {
    let house = House::with_demo();
    let owner = house.owner();
    let fits = owner.get("/api/length?text=7%2F8&least=0&most=60").body["mm"].as_f64().unwrap();
    assert!((fits - 22.225).abs() < 1e-9);
    let wide = owner.get("/api/length?text=100&least=0&most=60");
    assert_eq!((wide.status, wide.detail()), (422, "100 in does not fit here: give between 0 and 2 3/8 in"));
    // 3 m is the longest tape.
    assert_eq!(owner.get("/api/length?text=3000%20mm").status, 200);
    assert_eq!(owner.get("/api/length?text=3001%20mm").status, 422);
}

#[test]
fn the_allowance_sentence_names_every_edge_the_pattern_has() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Filippa")["pattern_id"].as_u64().unwrap();
    let version = owner.get(&format!("/api/patterns/{pattern}")).body["versions"][0]["id"].as_u64().unwrap();
    let svg =
        |ask: &str| String::from_utf8(owner.bytes(&format!("/api/versions/{version}/svg?{ask}"))).unwrap();
    assert!(svg("").contains("Allowance 1/2 in; neckline 3/8, armhole 3/8."));
    assert!(svg("waist=25.4").contains("waist 1, neckline 3/8"));
    assert!(!svg("hem=38.1").contains("hem"), "a waisted bodice has no hem");
    let wide = owner.get(&format!("/api/versions/{version}/svg?side=100"));
    assert_eq!(wide.status, 422);
    assert!(wide.detail().contains("between nothing and 2 3/8 in"), "{}", wide.detail());
}

/// Runs `user-add` on a house; a refusal is one line and exit code 2.
fn user_add(url: &str, arguments: [&str; 3]) -> (Option<i32>, String) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .arg("user-add")
        .args(arguments)
        .env("DATABASE_URL", url)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // It may refuse before it reads the password.
    let _ = child.stdin.take().unwrap().write_all(b"three good words\n");
    let output = child.wait_with_output().unwrap();
    (output.status.code(), String::from_utf8_lossy(&output.stderr).into_owned())
}

#[test]
fn a_person_is_added_with_a_known_role_and_an_address_of_their_own() {
    let db = yardwand_devdb::TestDb::new();
    let url = db.url();
    let refused = |arguments, says: &str| {
        let (code, error) = user_add(&url, arguments);
        assert_eq!(code, Some(2), "{error}");
        assert!(error.contains(says), "{error}");
    };
    refused(["Ines", "ines@workroom.example", "onwer"], "“onwer” is no role");
    refused(["Ines", "at the workroom", "owner"], "is no e-mail address");
    refused(["Ines\nCalder", "ines@workroom.example", "owner"], "on one line");
    assert_eq!(user_add(&url, ["Ines", "ines@workroom.example", "cutter"]), (Some(0), String::new()));
    refused(["Ines", "INES@workroom.example", "cutter"], "signs in with this address already");
}
