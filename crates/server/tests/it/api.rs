//! The API as a client meets it, on a real server and a real database.

use crate::common::House;
use serde_json::{Value, json};

#[test]
fn without_signing_in_nothing_is_told() {
    let house = House::with_demo();
    for path in
        ["/api/orders", "/api/clients", "/api/clients/1", "/api/blocks", "/api/versions/1/pdf", "/api/house"]
    {
        let answer = house.stranger().get(path);
        assert_eq!(answer.status, 401, "{path}");
        assert_eq!(answer.detail(), "sign in first");
        assert_eq!(answer.header("content-type"), "application/problem+json");
    }
}

#[test]
fn a_sign_in_sets_a_cookie_that_scripts_and_other_sites_cannot_use() {
    let house = House::with_demo();
    let entry = json!({ "email": " Marit@Workroom.example ", "password": "chalk and ink" });
    let answer = house.stranger().post("/api/sign-in", &entry);
    let cookie = answer.header("set-cookie");
    assert!(cookie.contains("HttpOnly") && cookie.contains("SameSite=Strict"), "{cookie}");
    assert_eq!(answer.body["role"], "owner");
}

#[test]
fn five_wrong_passwords_and_the_next_has_to_wait() {
    let house = House::with_demo();
    let stranger = house.stranger();
    let entry = json!({ "email": "marit@workroom.example", "password": "guess" });
    for _ in 0..5 {
        let answer = stranger.post("/api/sign-in", &entry);
        assert_eq!(answer.status, 401);
        assert_eq!(answer.detail(), "this address and password do not belong together");
    }
    let long = json!({ "email": format!("{}@workroom.example", "m".repeat(300)), "password": "guess" });
    assert_eq!(stranger.post("/api/sign-in", &long).status, 401, "nobody has such an address");
    let right = json!({ "email": "marit@workroom.example", "password": "chalk and ink" });
    let waiting = stranger.post("/api/sign-in", &right);
    assert_eq!(waiting.status, 429, "even the right one waits");
    let seconds: u32 = waiting.header("retry-after").parse().unwrap();
    assert!((1..=10).contains(&seconds), "{seconds}");
    assert!(waiting.detail().starts_with("too many wrong passwords: wait "), "{}", waiting.detail());
}

#[test]
fn a_reader_may_look_but_not_write() {
    let house = House::with_demo();
    let reader = house.stranger();
    let entry = json!({ "email": "guest@workroom.example", "password": "tape and pins" });
    assert_eq!(reader.post("/api/sign-in", &entry).status, 200);
    assert_eq!(reader.get("/api/orders").status, 200);
    let answer = reader.post("/api/clients", &json!({ "name": "Anyone" }));
    assert_eq!(answer.status, 403);
    assert!(answer.detail().contains("may look"));
}

#[test]
fn signing_out_ends_the_sign_in() {
    let house = House::with_demo();
    let owner = house.owner();
    assert_eq!(owner.post("/api/sign-out", &json!({})).status, 204);
    assert_eq!(owner.get("/api/me").status, 401);
}

#[test]
fn a_write_from_another_site_is_turned_down() {
    let house = House::with_demo();
    let owner = house.owner();
    let answer =
        owner.post_with("/api/clients", ("origin", "https://elsewhere.example"), &json!({ "name": "X" }));
    assert_eq!(answer.status, 403);
    assert_eq!(
        owner.post_with("/api/clients", ("origin", &house.base()), &json!({ "name": "X" })).status,
        201
    );
}

#[test]
fn every_answer_carries_the_strict_headers() {
    let house = House::with_demo();
    let answer = house.stranger().get("/api/health");
    let policy = answer.header("content-security-policy");
    assert!(policy.contains("default-src 'none'") && !policy.contains("unsafe"), "{policy}");
    assert_eq!(answer.header("x-content-type-options"), "nosniff");
}

#[test]
fn a_client_is_found_by_any_part_of_her_name() {
    let house = House::with_demo();
    let owner = house.owner();
    let names = |q: &str| -> Vec<String> {
        let items = owner.get(&format!("/api/clients?q={q}")).body["items"].clone();
        items.as_array().unwrap().iter().map(|c| c["name"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(names("wynn"), ["Clara Wynn-Osei"]);
    assert_eq!(names("osei"), ["Clara Wynn-Osei"]);
    assert_eq!(names("%25"), Vec::<String>::new(), "a percent sign is a percent sign");
    assert_eq!(names("").len(), 6);
}

#[test]
fn sql_in_a_name_is_a_name() {
    let house = House::with_demo();
    let owner = house.owner();
    let name = "Robin'); DROP TABLE clients; -- \"\\";
    let id = owner.post("/api/clients", &json!({ "name": name })).id();
    assert_eq!(owner.get(&format!("/api/clients/{id}")).body["name"], name);
    assert_eq!(owner.get("/api/clients?q=%27%29%3B%20DROP").body["items"].as_array().unwrap().len(), 1);
}

#[test]
fn an_empty_name_is_told_by_its_field() {
    let house = House::with_demo();
    let answer = house.owner().post("/api/clients", &json!({ "name": "  " }));
    assert_eq!((answer.status, answer.body["pointer"].as_str()), (422, Some("/name")));
    assert_eq!(answer.detail(), "The name is empty: write something");
}

fn open_session(owner: &crate::common::Asker) -> (u64, u64) {
    let client = owner.post("/api/clients", &json!({ "name": "Gerda Test", "consent": { "given_on": "2026-01-05", "purpose": "To dress her." } })).id();
    let set = json!({ "set_code": "bodice_direct" });
    (client, owner.post(&format!("/api/clients/{client}/sessions"), &set).id())
}

fn row(owner: &crate::common::Asker, session: u64, code: &str) -> Value {
    let view = owner.get(&format!("/api/sessions/{session}")).body;
    view["rows"].as_array().unwrap().iter().find(|r| r["measurement"]["code"] == code).unwrap().clone()
}

/// The last take that stands, for both sides.
fn taken(owner: &crate::common::Asker, session: u64, code: &str) -> Value {
    row(owner, session, code)["entries"][0]["takes"].as_array().unwrap().last().unwrap().clone()
}

#[test]
fn reading_in_eighths_comes_back_in_eighths() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = open_session(&owner);
    let readings = format!("/api/sessions/{session}/readings");
    for (code, text, mm) in
        [("bust_girth", "37 3/8", 949.325), ("waist_girth", "73,5 cm", 735.0), ("bust_span", "7-1/2", 190.5)]
    {
        owner.post(&readings, &json!({ "code": code, "text": text })).id();
        let reading = taken(&owner, session, code);
        assert_eq!(reading["typed"], text);
        assert!((reading["length"]["mm"].as_f64().unwrap() - mm).abs() < 1e-9, "{text}");
    }
}

#[test]
fn a_letter_in_a_length_is_told_with_its_place_and_loses_nothing() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = open_session(&owner);
    let readings = format!("/api/sessions/{session}/readings");
    owner.post(&readings, &json!({ "code": "bust_girth", "text": "37" })).id();
    let answer = owner.post(&readings, &json!({ "code": "bust_girth", "text": "3x7" }));
    assert_eq!((answer.status, answer.body["at"].as_u64()), (422, Some(1)));
    assert_eq!(answer.detail(), "\u{201c}x\u{201d} is not part of a length: write it like 37 3/8 or 94,9 cm");
    assert_eq!(taken(&owner, session, "bust_girth")["typed"], "37");
}

#[test]
fn inches_typed_as_centimetres_are_doubted_and_kept_with_initials_alone() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = open_session(&owner);
    let entry = json!({ "code": "bust_girth", "text": "36 cm" });
    let doubt = owner.post(&format!("/api/sessions/{session}/check"), &entry).body;
    assert_eq!(doubt["findings"][0]["kind"], "unit_slip");
    assert_eq!(doubt["findings"][0]["repair"]["text"], "36 in");
    // 36 cm cannot be a bust: it is kept only where somebody stands behind it.
    let readings = format!("/api/sessions/{session}/readings");
    let refused = owner.post(&readings, &entry);
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/stands")));
    let stands = json!({ "code": "bust_girth", "text": "36 cm", "stands": "MH" });
    owner.post(&readings, &stands).id();
    assert_eq!(taken(&owner, session, "bust_girth")["typed"], "36 cm", "nothing blocks saving");
}

#[test]
fn a_corrected_reading_keeps_the_old_one_and_a_closed_session_takes_no_more() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = open_session(&owner);
    let readings = format!("/api/sessions/{session}/readings");
    let first = owner.post(&readings, &json!({ "code": "bust_girth", "text": "37" })).id();
    let second = owner.post(&readings, &json!({ "code": "bust_girth", "text": "38", "stands": "MH" })).id();
    assert_ne!(first, second);
    assert_eq!(taken(&owner, session, "bust_girth")["stands"], "MH");
    assert_eq!(
        owner.post(&format!("/api/sessions/{session}/close"), &json!({ "signed": "M. Holm" })).status,
        204
    );
    let late = owner.post(&readings, &json!({ "code": "bust_girth", "text": "39" }));
    assert_eq!(late.status, 409);
    assert!(late.detail().contains("open a new one"));
}

#[test]
fn a_retried_write_saves_once() {
    let house = House::with_demo();
    let owner = house.owner();
    let key = ("idempotency-key", "0b54a1a7-4a0d-4f4b-9a52-5fca0b3a5f10");
    let entry = json!({ "name": "Once Only" });
    let first = owner.post_with("/api/clients", key, &entry).id();
    let again = owner.post_with("/api/clients", key, &entry).id();
    assert_eq!(first, again);
    assert_eq!(owner.get("/api/clients?q=Once").body["items"].as_array().unwrap().len(), 1);
}

#[test]
fn two_retries_at_once_save_once() {
    let house = House::with_demo();
    let owners: Vec<_> = (0..4).map(|_| house.owner()).collect();
    let key = "f00dfeed-0000-4000-8000-000000000001";
    let ids: Vec<u64> = std::thread::scope(|scope| {
        let asked = owners.iter().map(|owner| {
            scope.spawn(move || {
                owner.post_with("/api/clients", ("idempotency-key", key), &json!({ "name": "Twin" })).id()
            })
        });
        let asked: Vec<_> = asked.collect();
        asked.into_iter().map(|t| t.join().unwrap()).collect()
    });
    assert!(ids.iter().all(|id| *id == ids[0]), "{ids:?}");
}

#[test]
fn a_stale_change_gets_both_versions_and_overwrites_nothing() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = owner.post("/api/clients", &json!({ "name": "Hilda" })).id();
    let path = format!("/api/clients/{id}");
    assert_eq!(owner.put(&path, &json!({ "revision": 1, "name": "Hilda A" })).status, 204);
    let late = owner.put(&path, &json!({ "revision": 1, "name": "Hilda B" }));
    assert_eq!(late.status, 409);
    assert!(late.detail().contains("changed by somebody else"), "{}", late.detail());
    assert_eq!(late.body["current"]["name"], "Hilda A");
    assert_eq!(owner.get(&path).body["name"], "Hilda A");
}

#[test]
fn a_body_of_20_mb_is_turned_down_and_the_house_goes_on() {
    let house = House::with_demo();
    let owner = house.owner();
    let answer = owner.post("/api/clients", &json!({ "name": "x".repeat(20 << 20) }));
    assert_eq!(answer.status, 413);
    assert_eq!(answer.detail(), "this is larger than 1 MB: send less at a time");
    assert_eq!(owner.get("/api/orders").status, 200);
}

#[test]
fn what_cannot_be_read_and_what_is_not_there_get_their_sentences() {
    let house = House::with_demo();
    let owner = house.owner();
    for path in [
        "/api/clients/9999",
        "/api/orders/9999",
        "/api/patterns/9999",
        "/api/rounds/9999",
        "/api/blocks/9999",
        "/api/versions/9999/pdf",
    ] {
        let answer = owner.get(path);
        assert_eq!(answer.status, 404, "{path}");
        assert!(answer.detail().contains("9999"), "{path}: {}", answer.detail());
    }
    assert_eq!(owner.get("/api/clients/seven").status, 404);
    assert_eq!(owner.get("/api/nothing").status, 404);
    assert_eq!(owner.post("/api/clients", &json!({ "nome": 3 })).status, 400);
}

#[test]
fn a_shoulder_that_drops_more_than_it_is_long_is_refused_with_both_readings() {
    let house = House::with_demo();
    let owner = house.owner();
    let garment = owner.garment_of("Bettina");
    let client = garment["client_id"].as_u64().unwrap();
    let session =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": "bodice_direct" })).id();
    owner
        .post(
            &format!("/api/sessions/{session}/readings"),
            &json!({ "code": "shoulder_slope", "text": "5 1/2", "stands": "MH" }),
        )
        .id();
    let ask = json!({ "source": { "from": "client", "client": client } });
    let draft = owner.post("/api/drafting/preview", &ask).body;
    assert!(draft["drawn"].is_null());
    assert!(draft["refused"].as_str().unwrap().contains("cannot drop 5 1/2 in"), "{draft}");
    assert_eq!(draft["readings"], json!(["shoulder_slope", "shoulder_length"]));
    let kept = owner.post(&format!("/api/clients/{client}/blocks"), &json!({}));
    assert_eq!(kept.status, 422, "and is not kept");
}

#[test]
fn from_comparison_to_a_frozen_version_the_master_stays_as_it_is() {
    let house = House::with_demo();
    let owner = house.owner();
    let garment = owner.garment_of("Bettina");
    let id = garment["id"].as_u64().unwrap();
    let view = owner.get(&format!("/api/orders/{id}/comparison")).body;
    assert_eq!(view["choices"]["choices"].as_array().unwrap().len(), 2, "both schools");
    let block = view["block_id"].as_u64().unwrap();
    let master = owner.get(&format!("/api/blocks/{block}")).body;
    let line =
        view["plan"]["lines"].as_array().unwrap().iter().find(|l| l["alteration"] == "full_bust").unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 1, "alteration": "full_bust", "amounts": line["amounts"], "on": true, "reason": line["reason"] }] });
    let entry = json!({ "block_id": block, "size": view["size"], "recipe": recipe });
    let pattern = owner.post(&format!("/api/orders/{id}/pattern"), &entry).id();
    assert_eq!(
        owner.post(&format!("/api/orders/{id}/pattern"), &entry).status,
        409,
        "an order has one pattern"
    );

    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    assert_eq!(view["preview"]["steps"][0]["state"], "done");
    assert_eq!(view["preview"]["stages"].as_array().unwrap().len(), 5);
    let version =
        owner.post(&format!("/api/patterns/{pattern}/versions"), &json!({ "why": "First toile." })).id();
    let after = owner.get(&format!("/api/blocks/{block}")).body;
    assert_eq!(after["sizes"], master["sizes"], "the master is unchanged");
    assert_eq!(after["block"]["used"], json!(master["block"]["used"].as_u64().unwrap() + 1), "but in use");
    assert_eq!(&owner.bytes(&format!("/api/versions/{version}/pdf?paper=letter"))[..5], b"%PDF-");
    let svg = String::from_utf8(owner.bytes(&format!("/api/versions/{version}/svg"))).unwrap();
    assert!(svg.contains("Bettina Corr") && svg.contains("version 1"), "labelled");
    let pages = owner.get(&format!("/api/versions/{version}/pages?paper=letter")).body;
    let pdf = owner.bytes(&format!("/api/versions/{version}/pdf?paper=letter"));
    let printed = lopdf::Document::load_mem(&pdf).unwrap().get_pages().len();
    assert_eq!(pages["sheets"].as_array().unwrap().len() + 1, printed, "as many as are said before");
    assert_eq!(pages["pieces"].as_array().unwrap().len(), 2);
    assert_eq!(owner.get(&format!("/api/versions/{version}/pages?side=900")).status, 422);
    for of in [format!("blocks/{block}"), format!("patterns/{pattern}"), format!("versions/{version}")] {
        let picture = String::from_utf8(owner.bytes(&format!("/api/{of}/picture"))).unwrap();
        assert!(picture.starts_with("<svg") && picture.matches("\"net\"").count() >= 2, "{of}: {picture}");
    }
    assert_eq!(owner.garment_of("Bettina")["standing"]["stage"], "toile");
}

#[test]
fn beyond_the_hinge_is_said_in_the_preview_and_cannot_be_frozen() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 1, "alteration": "full_bust", "amounts": { "amount": 118.0 }, "on": true, "reason": "" }] });
    let shown = owner.post(&format!("/api/patterns/{pattern}/preview"), &json!({ "recipe": recipe })).body;
    assert_eq!(shown["steps"][0]["state"], "refused");
    assert!(shown["steps"][0]["says"].as_str().unwrap().contains("more than the"), "{}", shown["steps"][0]);
    assert_eq!(shown["ready"], false);
    let path = format!("/api/patterns/{pattern}/recipe");
    assert_eq!(
        owner.put(&path, &json!({ "revision": 1, "recipe": recipe })).status,
        200,
        "it is kept to be mended"
    );
    let frozen = owner.post(&format!("/api/patterns/{pattern}/versions"), &json!({}));
    assert_eq!(frozen.status, 422);
    assert!(frozen.detail().contains("step 1 cannot be done"));
    let stale = owner.put(&path, &json!({ "revision": 1, "recipe": { "form": 1, "steps": [] } }));
    assert_eq!((stale.status, stale.body["current"]["revision"].as_u64()), (409, Some(2)));
}

#[test]
fn a_round_s_decisions_become_the_next_version() {
    let house = House::with_demo();
    let owner = house.owner();
    let garment = owner.garment_of("Clara");
    let round = garment["round_id"].as_u64().unwrap();
    let close = format!("/api/rounds/{round}/close");
    let early = owner.post(&close, &json!({}));
    assert_eq!(early.status, 422);
    assert!(early.detail().contains("not decided"), "{}", early.detail());
    let view = owner.get(&format!("/api/rounds/{round}")).body;
    assert_eq!(view["earlier"].as_array().unwrap().len(), 2, "both observations of round 1 are asked about");
    let seen = &view["observations"][0];
    assert_eq!(seen["pins"]["per_half"]["text"], "1/4");
    let decision = json!({ "revision": seen["revision"], "decision": {
        "what": "alter", "alteration": "full_bust", "amounts": { "amount": seen["pins"]["per_half"]["mm"] } } });
    assert_eq!(owner.put(&format!("/api/observations/{}/decision", seen["id"]), &decision).status, 204);
    assert_eq!(owner.post(&close, &json!({})).status, 204);
    let after = owner.garment_of("Clara");
    assert_eq!((after["version"].as_u64(), after["standing"]["stage"].as_str()), (Some(3), Some("toile")));
    let client = after["client_id"].as_u64().unwrap();
    let story = owner.get(&format!("/api/clients/{client}")).body["story"].clone();
    let told: Vec<&str> = story.as_array().unwrap().iter().map(|e| e["title"].as_str().unwrap()).collect();
    assert!(told.iter().any(|t| t.contains("version 3 of the pattern")), "{told:?}");
    assert_eq!(owner.post(&close, &json!({})).status, 409, "a closed round stays closed");
}

#[test]
fn an_impossible_pin_is_told() {
    let house = House::with_demo();
    let owner = house.owner();
    let round = owner.garment_of("Clara")["round_id"].as_u64().unwrap();
    let path = format!("/api/rounds/{round}/observations");
    let pin = |depth: &str| json!({ "place": "bust", "kind": "fold", "depth": depth });
    assert!(owner.post(&path, &pin("30 cm")).detail().contains("no pin holds that much"));
    assert_eq!(owner.post(&path, &pin("1/7")).body["pointer"], "/depth");
    assert_eq!(owner.post(&path, &json!({ "place": "moon", "kind": "fold" })).body["pointer"], "/place");
}

#[test]
fn the_house_s_unit_changes_everywhere_at_once() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.garment_of("Bettina")["client_id"].as_u64().unwrap();
    let waist = || {
        let profile = owner.get(&format!("/api/clients/{client}")).body["profile"].clone();
        let row = profile.as_array().unwrap().iter().find(|r| r["code"] == "waist_girth").unwrap().clone();
        (row["text"].as_str().unwrap().to_owned(), row["typed"].as_str().unwrap().to_owned())
    };
    assert_eq!(waist(), ("29 1/4".to_owned(), "29 1/4 in".to_owned()));
    let change =
        json!({ "revision": 1, "name": "Holm", "style": { "unit": "cm", "steps": 10 }, "ease_set": "close" });
    assert_eq!(owner.put("/api/house", &change).status, 200);
    assert_eq!(waist(), ("74.3".to_owned(), "29 1/4 in".to_owned()), "what was typed stays as it was typed");
    assert_eq!(owner.get("/api/length?text=-2,5").body["mm"], -25.0);
}

#[test]
fn the_worksheet_of_a_recipe_tells_its_amounts_and_stages() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 1, "alteration": "full_bust", "amounts": { "amount": 19.05, "to": "waist" }, "on": true, "reason": "Her cup is full." },
        { "id": 2, "alteration": "shoulder_slope", "amounts": { "amount": 9.525 }, "side": "right", "on": true, "reason": "" },
        { "id": 3, "alteration": "underarm", "amounts": { "amount": 400.0 }, "on": true, "reason": "" }] });
    let path = format!("/api/patterns/{pattern}/recipe");
    let refused = owner.put(&path, &json!({ "revision": 1, "recipe": recipe }));
    assert_eq!(refused.status, 422);
    assert!(
        refused.detail().contains("step 3: Lower is 15 3/4 in: it must lie between"),
        "{}",
        refused.detail()
    );
    let mut kept = recipe.clone();
    kept["steps"].as_array_mut().unwrap().pop();
    assert_eq!(owner.put(&path, &json!({ "revision": 1, "recipe": kept })).status, 200);

    // Read back by a PDF library that shares no code with the writer.
    let pdf = owner.bytes(&format!("/api/patterns/{pattern}/worksheet.pdf"));
    let document = lopdf::Document::load_mem(&pdf).unwrap();
    let pages: Vec<u32> = document.get_pages().keys().copied().collect();
    let words = document.extract_text(&pages).unwrap().split_whitespace().collect::<Vec<_>>().join(" ");
    for wanted in [
        "1. Full bust",
        "Why: Her cup is full.",
        "on the body 1.5 in 1 1/2 in",
        "per half 0.75 in 3/4 in",
        "where the new dart goes into the waist dart",
        "Swing the side open about",
        "2. Shoulder slope, right only",
        "on each side 0.375 in 3/8 in",
        "Left and right differ now",
        "Figures before and after",
    ] {
        assert!(words.contains(wanted), "{wanted} is not in: {words}");
    }
}

#[test]
fn seams_are_walked_and_two_states_laid_beside_each_other() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 1, "alteration": "length", "amounts": { "amount": 12.7, "pieces": "front" }, "on": true, "reason": "" }] });
    let walks = owner.post(&format!("/api/patterns/{pattern}/walks"), &json!({ "recipe": recipe })).body;
    let side = walks.as_array().unwrap().iter().find(|walk| walk["name"] == "side seam").unwrap();
    assert_eq!(side["joins"], false);
    assert!(side["says"].as_str().unwrap().starts_with("side seam: 1/2 in longer"), "{}", side["says"]);
    assert_eq!(side["frames"].as_array().unwrap().len(), 25);
    let beside = owner.get(&format!("/api/patterns/{pattern}/beside?one=block&other=now")).body;
    let bust = beside["figures"].as_array().unwrap().iter().find(|row| row["figure"] == "bust").unwrap();
    assert!(bust["change"]["mm"].as_f64().unwrap() > 10.0, "{bust}");
    let missing = owner.get(&format!("/api/patterns/{pattern}/beside?one=block&other=7"));
    assert_eq!(missing.status, 422);
    assert!(missing.detail().contains("this pattern has no version 7"));
}

#[test]
fn a_one_sided_step_is_kept_drawn_checked_and_printed_on_its_own_side() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 1, "alteration": "shoulder_slope", "amounts": { "amount": 9.525 }, "side": "left", "on": true,
          "reason": "Her left shoulder drops." }] });
    let path = format!("/api/patterns/{pattern}");
    assert_eq!(owner.put(&format!("{path}/recipe"), &json!({ "revision": 1, "recipe": recipe })).status, 200);
    let view = owner.get(&path).body;
    assert_eq!(view["recipe"]["steps"][0]["side"], "left", "kept as it was sent");
    let kinds: Vec<&str> = view["preview"]["now"]
        .as_array()
        .unwrap()
        .iter()
        .map(|piece| piece["kind"].as_str().unwrap())
        .collect();
    assert_eq!(kinds, ["bodice_front_left", "bodice_front_right", "bodice_back_left", "bodice_back_right"]);
    let walks = owner.post(&format!("{path}/walks"), &json!({ "recipe": recipe })).body;
    assert_eq!(walks.as_array().unwrap().len(), 4, "side seam and shoulder, left and right");
    let version = owner.post(&format!("{path}/versions"), &json!({ "why": "The left." })).id();
    let svg = String::from_utf8(owner.bytes(&format!("/api/versions/{version}/svg"))).unwrap();
    assert!(svg.contains("Bodice front, left") && svg.contains("Bodice front, right"));
    assert!(svg.contains("altered for shoulder slope (left)"), "the label says what it is altered for");
    assert_eq!(&owner.bytes(&format!("/api/versions/{version}/pdf"))[..5], b"%PDF-");
    // Laid over the block: what differs is told for its side.
    let beside = owner.get(&format!("{path}/beside?one=block&other=1")).body;
    let drop = beside["figures"]
        .as_array()
        .unwrap()
        .iter()
        .find(|row| row["figure"] == "shoulder_drop" && row["side"] == "left");
    assert!((drop.unwrap()["change"]["mm"].as_f64().unwrap() - 9.525).abs() < 0.05);
}

#[test]
fn a_recipe_that_cannot_be_read_is_refused_by_the_step_and_the_field() {
    let house = House::with_demo();
    let owner = house.owner();
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let step = |amounts: Value, side: Value| {
        json!({ "form": 1, "steps": [{ "id": 1, "alteration": "rounded_back", "amounts": amounts, "side": side,
            "on": true, "reason": "" }] })
    };
    for (recipe, wanted) in [
        (
            step(json!({ "amount": 90.0 }), Value::Null),
            "step 1: Longer behind is 3 1/2 in: it must lie between",
        ),
        (
            step(json!({ "amount": 9.0, "finish": "glue" }), Value::Null),
            "Finish must be one of: shaped centre-back seam",
        ),
        (step(json!({ "amount": 9.0, "finish": 3.0 }), Value::Null), "Finish must be one of"),
        (step(json!({ "amount": "much" }), Value::Null), "Longer behind must be a figure"),
        (
            step(json!({ "amount": 9.0, "depth": 3.0 }), Value::Null),
            "nothing called \u{201c}depth\u{201d} to set",
        ),
        (step(json!({ "amount": 9.0 }), json!("middle")), "middle"),
    ] {
        let path = format!("/api/patterns/{pattern}/recipe");
        let refused = owner.put(&path, &json!({ "revision": 1, "recipe": recipe }));
        assert!((400..=422).contains(&refused.status), "{}", refused.status);
        assert!(refused.detail().contains(wanted), "{wanted}: {}", refused.detail());
    }
    let kept = owner.get(&format!("/api/patterns/{pattern}")).body;
    assert_eq!(kept["revision"], 1, "nothing is lost and nothing was kept");
}

#[test]
fn one_field_finds_clients_garments_blocks_and_alterations() {
    let house = House::with_demo();
    let owner = house.owner();
    let entry = json!({ "name": "Søs O'Brádaigh", "contact": "+44 (0)20 7946 0958", "notes": "plays the tuba, 50% off" });
    let her = owner.post("/api/clients", &entry).id().to_string();
    let found = |typed: &str| -> Vec<(String, String, String)> {
        let typed: String = typed.bytes().map(|byte| format!("%{byte:02x}")).collect();
        let hits = owner.get(&format!("/api/find?q={typed}")).body;
        let text = |hit: &Value, field: &str| hit[field].as_str().unwrap().to_owned();
        hits.as_array()
            .unwrap()
            .iter()
            .map(|hit| (text(hit, "kind"), text(hit, "key"), text(hit, "title")))
            .collect()
    };
    let is_she = |typed: &str| found(typed).iter().any(|(kind, key, _)| kind == "client" && *key == her);
    // By any part of name, number or note; without accents, in small letters, in any order.
    for typed in [
        "sos",
        "SØS",
        "bradaigh",
        "o'brad s",
        "tuba",
        "tuba søs",
        "79460958",
        "020 7946",
        "50%",
        "7946-0958",
        "søs plays the tuba 50% off",
    ] {
        assert!(is_she(typed), "{typed}");
    }
    for typed in ["", "  ", "tuba anna", "%%", "_", "50% on", "søs plays the tuba 50% on", "79460959"] {
        assert!(!is_she(typed), "{typed}");
    }
    // The list of clients holds to the same words.
    assert_eq!(owner.get("/api/clients?q=7946%200958").body["items"][0]["name"], entry["name"]);
    let kinds = |typed: &str| -> Vec<String> { found(typed).into_iter().map(|(kind, ..)| kind).collect() };
    assert!(
        kinds("martens").starts_with(&["client".to_owned(), "garment".to_owned()]),
        "{:?}",
        found("martens")
    );
    assert!(
        found("house master")
            .iter()
            .any(|(kind, _, title)| kind == "block" && title.contains("House master"))
    );
    assert!(found("joint forward").contains(&(
        "alteration".to_owned(),
        "forward_shoulder".to_owned(),
        "Forward shoulder".to_owned()
    )));
}
