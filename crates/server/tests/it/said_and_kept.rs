//! What is sent is what is kept, once and under its own key; what cannot be kept is said.

use std::io::Write;
use std::process::{Command, Stdio};

use crate::common::{Asker, House};
use serde_json::{Value, json};

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

fn bring(owner: &crate::common::Asker, content: &str) -> u64 {
    owner.post("/api/imports", &json!({ "file_name": "book.csv", "content": content })).id()
}

/// Saves an import and waits until it is done.
fn save(owner: &crate::common::Asker, import: u64) {
    assert_eq!(owner.post(&format!("/api/imports/{import}/save"), &json!({})).status, 202);
    for _ in 0..200 {
        if owner.get(&format!("/api/imports/{import}")).body["state"] == "done" {
            return;
        }
        std::thread::sleep(std::time::Duration::from_millis(25));
    }
    panic!("the import does not end");
}

#[test]
fn an_import_never_writes_into_a_near_namesake_unseen() {
    let house = House::with_demo();
    let owner = house.owner();
    let edda = owner.garment_of("Edda")["client_id"].as_u64().unwrap();
    let bust = |client: u64| {
        let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
        let figures = profile["figures"].as_array().unwrap().clone();
        figures.into_iter().find(|f| f["code"] == "bust_girth").map(|f| f["mm"].as_f64().unwrap())
    };
    let before = bust(edda);
    let import =
        bring(&owner, "client,taken_on,measurement,value,unit\nEdda Martens,2026-11-01,bust_girth,50,in\n");
    let seen = owner.get(&format!("/api/imports/{import}")).body;
    assert_eq!(seen["people"][0]["name"], "Edda Martens");
    assert_eq!(seen["people"][0]["open"], true);
    assert_eq!(seen["people"][0]["may_be"][0]["client_id"], edda);
    let refused = owner.post(&format!("/api/imports/{import}/save"), &json!({}));
    assert_eq!(refused.status, 422);
    assert!(refused.detail().contains("whose the readings of “Edda Martens” are"), "{}", refused.detail());
    // Somebody else, who is new: the other one's figures stay.
    let answer = json!({ "name": "Edda Martens", "client_id": null });
    assert_eq!(owner.put(&format!("/api/imports/{import}/people"), &answer).status, 200);
    save(&owner, import);
    assert_eq!(bust(edda), before);
    // Two of one name are told apart; the answer is where the readings go.
    let twin = owner.post("/api/clients", &json!({ "name": "Edda Mårtens" })).id();
    let import =
        bring(&owner, "client,taken_on,measurement,value,unit\nEdda Mårtens,2026-11-02,bust_girth,44,in\n");
    let seen = owner.get(&format!("/api/imports/{import}")).body;
    assert_eq!(seen["people"][0]["open"], true, "{seen}");
    assert!(seen["people"][0]["may_be"].as_array().unwrap().len() >= 2);
    owner
        .put(&format!("/api/imports/{import}/people"), &json!({ "name": "Edda Mårtens", "client_id": twin }));
    save(&owner, import);
    assert_eq!((bust(edda), bust(twin)), (before, Some(44.0 * 25.4)));
}

#[test]
fn a_round_trip_keeps_method_side_note_and_the_exact_figure() {
    let house = House::with_demo();
    let owner = house.owner();
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    let client = owner.post("/api/clients", &json!({ "name": "Round Trip", "consent": consent })).id();
    let session =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": "dress" })).id();
    let entries = [
        json!({ "code": "snp_to_waist_front", "text": "19 1/16", "taken": { "schools": { "start": "nape" }, "ease_mm": 0 } }),
        json!({ "code": "shoulder_length", "side": "left", "text": "5 1/32", "note": "=careful" }),
        json!({ "code": "bust_girth", "text": "38", "taken": { "schools": {}, "ease_mm": 1.5875 } }),
    ];
    for entry in &entries {
        owner.post(&format!("/api/sessions/{session}/readings"), entry).id();
    }
    for kind in ["csv", "json"] {
        let file = String::from_utf8(owner.bytes(&format!("/api/clients/{client}/readings.{kind}"))).unwrap();
        // Brought back it is known already: nothing would double.
        let again = bring(&owner, &file);
        let seen = owner.get(&format!("/api/imports/{again}")).body;
        assert_eq!((&seen["fresh"], &seen["twin_count"]), (&json!(0), &json!(3)), "{kind}: {seen}");
        // In another woman's book it says the same.
        let import = bring(&owner, &file.replace("Round Trip", &format!("Other {kind}")));
        save(&owner, import);
        let found = owner.get(&format!("/api/clients?q=Other%20{kind}")).body;
        let other = found["items"][0]["id"].as_u64().unwrap();
        let back = String::from_utf8(owner.bytes(&format!("/api/clients/{other}/readings.csv"))).unwrap();
        let own = String::from_utf8(owner.bytes(&format!("/api/clients/{client}/readings.csv"))).unwrap();
        let lines = |text: &str| {
            let mut lines: Vec<String> =
                text.lines().skip(1).map(|l| l.split_once(',').unwrap().1.to_owned()).collect();
            lines.sort();
            lines
        };
        assert_eq!(lines(&back), lines(&own), "{kind}");
        assert!(own.contains("start=nape") && own.contains("'=careful") && own.contains("1.5875"), "{own}");
    }
}

#[test]
fn a_file_whose_days_read_both_ways_is_asked_about_and_unknown_codes_are_refused() {
    let house = House::with_demo();
    let owner = house.owner();
    let heading = "client,taken_on,measurement,value,unit\n";
    let open = bring(&owner, &format!("{heading}Nora New,3/4/2026,bust_girth,38,in\n"));
    let seen = owner.get(&format!("/api/imports/{open}")).body;
    assert!(seen["lacks"].as_str().unwrap().contains("3/4/2026"), "{seen}");
    let columns: Vec<&serde_json::Value> =
        seen["columns"].as_array().unwrap().iter().map(|c| &c["is"]).collect();
    let mapping = json!({ "columns": columns, "unit": "inch", "day_first": false, "order_chosen": true });
    let seen = owner.put(&format!("/api/imports/{open}/mapping"), &mapping).body;
    assert_eq!(seen["sample"][0]["taken_on"], "2026-03-04", "{seen}");
    // Another file with the same headings is asked about again; one whose own days decide is not.
    let again = bring(&owner, &format!("{heading}Nora New,5/6/2026,bust_girth,38,in\n"));
    assert!(!owner.get(&format!("/api/imports/{again}")).body["lacks"].is_null());
    let clear = bring(
        &owner,
        &format!("{heading}Nora New,5/6/2026,bust_girth,38,in\nNora New,23/6/2026,bust_girth,38,in\n"),
    );
    let seen = owner.get(&format!("/api/imports/{clear}")).body;
    assert_eq!((&seen["lacks"], &seen["sample"][0]["taken_on"]), (&json!(null), &json!("2026-06-05")));
    let mut unknown = mapping;
    unknown["columns"][2] = json!({ "is": "of", "code": "no_such_measurement" });
    let refused = owner.put(&format!("/api/imports/{open}/mapping"), &unknown);
    assert_eq!(refused.status, 422);
    assert!(refused.detail().contains("no measurement is called “no_such_measurement”"));
    // A note that is too long is said, not cut.
    let long = bring(
        &owner,
        &format!("client,measurement,value,unit,note\nNora New,bust_girth,38,in,{}\n", "x".repeat(201)),
    );
    let seen = owner.get(&format!("/api/imports/{long}")).body;
    assert_eq!((&seen["fresh"], &seen["problem_count"]), (&json!(0), &json!(1)), "{seen}");
}

#[test]
fn nobody_is_measured_before_she_agrees_nor_after_she_withdraws() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.post("/api/clients", &json!({ "name": "Asked First" })).id();
    let begin = || owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": "dress" }));
    let refused = begin();
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/consent")));
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    assert_eq!(owner.post(&format!("/api/clients/{client}/consents"), &consent).status, 201);
    begin().id();
    let given = owner.get(&format!("/api/clients/{client}")).body["consents"][0]["id"].clone();
    let withdraw = format!("/api/clients/{client}/consents/{given}/withdraw");
    assert_eq!(owner.post(&withdraw, &json!({})).status, 204);
    assert_eq!(owner.post(&withdraw, &json!({})).status, 409);
    assert_eq!(begin().status, 422);
    assert!(!owner.get(&format!("/api/clients/{client}")).body["consents"][0]["withdrawn_on"].is_null());
}

#[test]
fn a_garment_is_measured_with_its_own_set_and_its_session_is_its_own() {
    let house = House::with_demo();
    let owner = house.owner();
    let set = json!({ "name": "Waistcoat", "codes": ["bust_girth", "waist_girth", "hip_girth"] });
    let own = owner.post("/api/sets", &set).id();
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    let client = owner.post("/api/clients", &json!({ "name": "Two Garments", "consent": consent })).id();
    let order = |set: &str| {
        let entry = json!({ "garment": format!("In {set}"), "set_code": set });
        owner.post(&format!("/api/clients/{client}/orders"), &entry).id()
    };
    let (dress, waistcoat) = (order("dress"), order(&format!("house:{own}")));
    let view = owner.get(&format!("/api/orders/{waistcoat}")).body;
    assert_eq!(
        (&view["wanted"], &view["missing"], &view["set_name"]),
        (&json!(3), &json!(3), &json!("Waistcoat"))
    );
    let entry = json!({ "set_code": view["set_code"], "order": waistcoat });
    let session = owner.post(&format!("/api/clients/{client}/sessions"), &entry).id();
    let rows = owner.get(&format!("/api/sessions/{session}")).body["rows"].as_array().unwrap().len();
    assert_eq!(rows, 3, "a hip can be entered on the way");
    // It does not take over the other garment's page, and can be dropped.
    let open = |order: u64| owner.get(&format!("/api/orders/{order}")).body["open_session"].clone();
    assert_eq!((open(waistcoat), open(dress)), (json!(session), json!(null)));
    assert_eq!(owner.delete(&format!("/api/sessions/{session}")).status, 204);
    assert_eq!(open(waistcoat), json!(null));
    let dropped = owner.get(&format!("/api/sessions/{session}"));
    assert!(dropped.body["dropped_at"].is_string(), "it is kept, to be brought back");
    let others = json!({ "set_code": "dress", "order": owner.garment_of("Edda")["id"] });
    assert_eq!(owner.post(&format!("/api/clients/{client}/sessions"), &others).status, 409);
}

#[test]
fn erasing_leaves_no_preview_and_no_word_of_her_in_other_garments() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.post("/api/clients", &json!({ "name": "Erased Entirely" })).id();
    let heading = "client,measurement,value,unit\n";
    let hers = bring(&owner, &format!("{heading}Erased Entirely,bust_girth,38,in\n"));
    let others = bring(&owner, &format!("{heading}Nora New,bust_girth,38,in\n"));
    assert_eq!(owner.delete(&format!("/api/clients/{client}")).status, 204);
    let left = owner.get(&format!("/api/imports/{hers}")).body;
    assert_eq!(
        (&left["state"], &left["file_name"], &left["fresh"]),
        (&json!("cancelled"), &json!(""), &json!(0))
    );
    assert_eq!(owner.get(&format!("/api/imports/{others}")).body["state"], "preview");
}

/// The figures of the handbook's worked draft (`alterations.md`, section 4) without the shoulder slope, in inches.
const WITHOUT_SLOPE: [(&str, &str); 15] = [
    ("neck_base_girth", "14 1/2"),
    ("shoulder_length", "5"),
    ("across_front", "13"),
    ("across_back", "13 3/4"),
    ("bust_girth", "37"),
    ("upper_bust_girth", "35 1/2"),
    ("waist_girth", "29"),
    ("bust_span", "7 1/2"),
    ("snp_to_bust_point", "10 1/2"),
    ("snp_to_waist_front", "17"),
    ("snp_to_waist_back", "16 1/2"),
    ("nape_to_waist_back", "15 3/4"),
    ("armhole_depth", "7 1/2"),
    ("side_length", "7 1/2"),
    ("shoulder_width", "15 1/2"),
];

#[test]
fn an_estimate_stays_with_the_block_and_somebody_stands_for_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    let client = owner.post("/api/clients", &json!({ "name": "Estimated Slope", "consent": consent })).id();
    let order = owner.post(&format!("/api/clients/{client}/orders"), &json!({ "garment": "Bodice" })).id();
    let entry = json!({ "set_code": "bodice_direct", "order": order });
    let session = owner.post(&format!("/api/clients/{client}/sessions"), &entry).id();
    for (code, text) in WITHOUT_SLOPE {
        owner.post(&format!("/api/sessions/{session}/readings"), &json!({ "code": code, "text": text })).id();
    }
    let block = owner.post(&format!("/api/clients/{client}/blocks"), &json!({})).id();
    let kept = owner.get(&format!("/api/blocks/{block}")).body.to_string();
    assert!(kept.contains("shoulder slope is estimated"), "the block says it");
    let comparison = owner.get(&format!("/api/orders/{order}/comparison?block={block}")).body;
    assert_eq!(comparison["estimated"], "shoulder slope");
    let begin = json!({ "block_id": block, "size": "own", "recipe": { "steps": [] } });
    let pattern = owner.post(&format!("/api/orders/{order}/pattern"), &begin).id();
    let preview = owner.get(&format!("/api/patterns/{pattern}")).body["preview"].clone();
    assert_eq!(preview["ready"], false, "it stands in the way of cutting");
    let versions = format!("/api/patterns/{pattern}/versions");
    let refused = owner.post(&versions, &json!({ "why": "" }));
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/stands")), "{:?}", refused.body);
    let version = owner.post(&versions, &json!({ "why": "First toile.", "stands": "MH" })).id();
    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    assert_eq!(view["versions"][0]["why"], "First toile. Estimated shoulder slope stands (MH).");
    let svg = String::from_utf8(owner.bytes(&format!("/api/versions/{version}/svg"))).unwrap();
    assert!(svg.contains("shoulder slope estimated"), "the label says it");
    owner.post(&versions, &json!({ "why": "Second." })).id();
}

/// Everything another client's pattern shows, without what changes with every save.
fn drawn(owner: &Asker, pattern: u64) -> (String, Value) {
    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    (view.to_string(), view["preview"]["now"].clone())
}

#[test]
fn an_erased_client_leaves_nothing_in_another_womans_pattern() {
    let house = House::with_demo();
    let owner = house.owner();
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    let new = |name: &str| owner.post("/api/clients", &json!({ "name": name, "consent": consent })).id();
    let (erased, other) = (new("Wanda Vanishing"), new("Olga Remaining"));
    let session =
        owner.post(&format!("/api/clients/{erased}/sessions"), &json!({ "set_code": "bodice_direct" })).id();
    for (code, text) in WITHOUT_SLOPE {
        owner.post(&format!("/api/sessions/{session}/readings"), &json!({ "code": code, "text": text })).id();
    }
    let block =
        owner.post(&format!("/api/clients/{erased}/blocks"), &json!({ "name": "Wanda, fitted" })).id();
    let order = owner.post(&format!("/api/clients/{other}/orders"), &json!({ "garment": "Bodice" })).id();
    let step = json!({ "id": 1, "alteration": "rounded_back", "amounts": { "amount": 9.525 }, "on": true,
        "reason": "as Wanda Vanishing has it" });
    let recipe = json!({ "form": 1, "steps": [step] });
    let begin = json!({ "block_id": block, "size": "own", "recipe": recipe });
    let pattern = owner.post(&format!("/api/orders/{order}/pattern"), &begin).id();
    let (said, before) = drawn(&owner, pattern);
    assert!(said.contains("Wanda") && before.is_array(), "{before}");
    assert_eq!(owner.delete(&format!("/api/clients/{erased}")).status, 204);
    let (said, after) = drawn(&owner, pattern);
    assert!(!said.contains("Wanda"), "{said}");
    assert_eq!(after, before, "what she wears is drawn as before");
    // And her dressmaker goes on with it.
    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    let recipe = json!({ "form": 1, "steps": [{ "id": 1, "alteration": "side_seams", "amounts": { "amount": 3.0 }, "on": true, "reason": "" }] });
    let change = json!({ "revision": view["revision"], "recipe": recipe });
    let kept = owner.put(&format!("/api/patterns/{pattern}/recipe"), &change);
    assert_eq!(kept.status, 200, "{:?}", kept.body);
}
