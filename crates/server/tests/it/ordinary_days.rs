//! What an ordinary day asks for, through the API: each wish done, seen, and taken back.

use crate::common::{Asker, House};
use serde_json::{Value, json};

fn list<'a>(body: &'a Value, at: &str) -> &'a [Value] {
    body[at].as_array().map_or(&[], Vec::as_slice)
}

fn client(owner: &Asker, name: &str) -> u64 {
    owner.post("/api/clients", &json!({ "name": name, "contact": "020 7946 0101" })).id()
}

fn revision(owner: &Asker, path: &str) -> Value {
    owner.get(path).body["revision"].clone()
}

fn names(owner: &Asker, query: &str) -> Vec<String> {
    let found = owner.get(&format!("/api/clients{query}")).body;
    list(&found, "items").iter().map(|each| each["name"].as_str().unwrap().to_owned()).collect()
}

#[test]
fn a_client_goes_into_the_archive_and_comes_back_but_not_with_a_garment_in_hand() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = client(&owner, "Runa Solberg");
    let path = format!("/api/clients/{id}");
    let archive = |now: bool, revision: Value| {
        owner.put(&format!("{path}/archived"), &json!({ "archived": now, "revision": revision }))
    };
    assert_eq!(archive(true, json!(1)).status, 204);
    assert_eq!(names(&owner, "?q=Runa"), Vec::<String>::new());
    assert_eq!(names(&owner, "?q=Runa&archived=true"), ["Runa Solberg"]);
    assert_eq!(archive(false, json!(1)).status, 409, "seen before it was archived");
    assert_eq!(archive(false, revision(&owner, &path)).status, 204);
    assert_eq!(names(&owner, "?q=Runa"), ["Runa Solberg"]);

    let clara = owner.garment_of("Clara")["client_id"].clone();
    let path = format!("/api/clients/{clara}");
    let body = json!({ "archived": true, "revision": revision(&owner, &path) });
    let refused = owner.put(&format!("{path}/archived"), &body);
    assert_eq!(
        (refused.status, refused.detail()),
        (409, "a garment of hers is in hand: hand it over or cancel it first")
    );
}

#[test]
fn two_entries_of_one_woman_become_one_and_can_be_parted() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let clara = order["client_id"].as_u64().unwrap();
    let other = client(&owner, "C. Moor");
    let note =
        owner.post(&format!("/api/clients/{other}/notes"), &json!({ "words": "Likes a high neck." })).id();
    let before = owner.get(&format!("/api/clients/{clara}")).body;

    let merged = format!("/api/clients/{other}/merged");
    let body = json!({ "other": clara, "revision": 1 });
    assert_eq!(owner.post(&merged, &json!({ "other": other, "revision": 1 })).status, 409, "with itself");
    assert_eq!(owner.post(&merged, &body).status, 204);
    let kept = owner.get(&format!("/api/clients/{other}")).body;
    assert_eq!(list(&kept, "orders").len(), list(&before, "orders").len());
    assert_eq!(list(&kept, "consents").len(), list(&before, "consents").len());
    assert_eq!(list(&kept, "profile").len(), list(&before, "profile").len());
    assert!(kept["contact"].as_str().unwrap().contains("020 7946 0101"));
    assert_eq!(owner.get(&format!("/api/clients/{clara}")).status, 404, "out of sight");
    assert!(names(&owner, "?q=Clara&archived=true").iter().all(|name| !name.starts_with("Clara")));
    let found = owner.get("/api/find?q=Clara").body;
    let clients = found.as_array().unwrap().iter().filter(|hit| hit["kind"] == "client");
    assert!(clients.map(|hit| hit["key"].as_str().unwrap()).all(|key| key == format!("{other}")));
    assert_eq!(owner.get(&format!("/api/orders/{}", order["id"])).body["client"], "C. Moor");

    assert_eq!(owner.delete(&format!("/api/clients/{clara}/merged")).status, 204);
    let again = owner.get(&format!("/api/clients/{clara}")).body;
    for what in ["orders", "consents", "profile"] {
        assert_eq!(list(&again, what).len(), list(&before, what).len(), "{what}");
    }
    let left = owner.get(&format!("/api/clients/{other}")).body;
    assert!(list(&left, "orders").is_empty());
    let notes = owner.get(&format!("/api/clients/{other}/notes")).body;
    assert_eq!(notes[0]["id"], note, "what was its own stays with it");
    assert_eq!(owner.delete(&format!("/api/clients/{clara}/merged")).status, 404, "parted already");
}

#[test]
fn erasing_a_client_takes_what_was_merged_with_her_along() {
    let house = House::with_demo();
    let owner = house.owner();
    let (kept, other) = (client(&owner, "Tyra Vik"), client(&owner, "T. Vik"));
    let body = json!({ "other": other, "revision": 1 });
    assert_eq!(owner.post(&format!("/api/clients/{kept}/merged"), &body).status, 204);
    assert_eq!(owner.delete(&format!("/api/clients/{kept}")).status, 204);
    assert_eq!(owner.delete(&format!("/api/clients/{other}/merged")).status, 404);
    let changes = owner.get("/api/changes").body["page"].clone();
    let told = list(&changes, "items").iter().filter(|each| each["client"].to_string().contains("Vik"));
    assert_eq!(told.count(), 0);
}

#[test]
fn a_garment_is_renamed_cancelled_with_its_dates_and_brought_back() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let path = format!("/api/orders/{}", order["id"]);
    let set = order["set_code"].clone();
    let rename = |garment: &str, revision: &Value| {
        owner.put(&path, &json!({ "garment": garment, "set_code": set, "revision": revision }))
    };
    assert_eq!(rename("  ", &order["revision"]).body["pointer"], "/garment");
    assert_eq!(rename("Recital dress", &order["revision"]).status, 204);
    assert_eq!(rename("Too late", &order["revision"]).status, 409);
    assert_eq!(owner.get(&path).body["garment"], "Recital dress");

    let comes = |garment: &str| {
        let all = owner.get("/api/calendar?from=2025-01-01&to=2027-02-01").body;
        all.as_array().unwrap().iter().filter(|visit| visit["garment"] == garment).count()
    };
    let dates = comes("Recital dress");
    assert!(dates > 0);
    let put = |why: Value| {
        let body = json!({ "put_away": why, "revision": revision(&owner, &path) });
        owner.put(&format!("{path}/put-away"), &body)
    };
    assert_eq!(put(json!("archived")).status, 409, "it is in hand");
    assert_eq!(put(json!("cancelled")).status, 204);
    assert_eq!(comes("Recital dress"), 0, "its dates are free");
    assert_eq!(list(&owner.get(&format!("{path}/dates")).body, "visits").len(), dates, "and kept");
    assert_eq!(put(Value::Null).status, 204);
    assert_eq!(comes("Recital dress"), dates);
    let finish = json!({ "finished": true, "revision": revision(&owner, &path) });
    assert_eq!(owner.put(&format!("{path}/finished"), &finish).status, 204);
    assert_eq!(put(json!("cancelled")).status, 409, "it was handed over");
    assert_eq!(put(json!("archived")).status, 204);
    let up = json!({ "finished": false, "revision": revision(&owner, &path) });
    assert_eq!(owner.put(&format!("{path}/finished"), &up).status, 204);
    assert_eq!(owner.get(&path).body["put_away"], Value::Null, "what is taken up again is in sight");
}

#[test]
fn a_garment_is_made_again_for_her_and_for_another_without_what_was_said() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let pattern = owner.get(&format!("/api/patterns/{}", order["pattern_id"])).body;
    let copy = |client: &Value, garment: &str| {
        let path = format!("/api/orders/{}/copy", order["id"]);
        owner.post(&path, &json!({ "client_id": client, "garment": garment }))
    };
    let hers = copy(&order["client_id"], "Second dress");
    assert_eq!(hers.status, 201, "{}", hers.body);
    let made = owner.get(&format!("/api/orders/{}", hers.id())).body;
    let again = owner.get(&format!("/api/patterns/{}", made["pattern_id"])).body;
    assert_eq!(again["block_name"], pattern["block_name"]);
    assert_eq!(list(&again["recipe"], "steps").len(), list(&pattern["recipe"], "steps").len());
    assert!(again["preview"]["now"] == pattern["preview"]["now"], "the same pattern");

    let other = json!(client(&owner, "Solveig Dahl"));
    let copied = copy(&other, "Second dress");
    let made = owner.get(&format!("/api/orders/{}", copied.id())).body;
    let again = owner.get(&format!("/api/patterns/{}", made["pattern_id"])).body;
    assert_eq!(again["block_name"], pattern["block_name"]);
    let said = again["recipe"].to_string();
    for step in list(&pattern["recipe"], "steps") {
        let reason = step["reason"].as_str().unwrap_or_default();
        assert!(reason.is_empty() || !said.contains(reason), "{reason}");
    }
    assert_eq!(list(&copied.body, "steps").len(), list(&pattern["recipe"], "steps").len());
}

/// The newest signed session of a client, and one reading of it.
fn signed_reading(owner: &Asker, client: &Value, code: &str) -> (u64, Value) {
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    let figures = list(&profile, "figures");
    let figure = figures.iter().find(|each| each["code"] == code).unwrap();
    let take = figure["takes"][0].clone();
    (take["session_id"].as_u64().unwrap(), take)
}

fn figure(owner: &Asker, client: &Value, code: &str) -> Value {
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    list(&profile, "figures").iter().find(|each| each["code"] == code).unwrap()["length"]["text"].clone()
}

#[test]
fn one_reading_of_a_signed_session_is_corrected_with_a_reason_and_the_old_one_is_kept() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.garment_of("Clara")["client_id"].clone();
    let (session, take) = signed_reading(&owner, &client, "bust_girth");
    let age = || {
        let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
        let bust = list(&profile, "figures").iter().find(|each| each["code"] == "bust_girth").cloned();
        bust.unwrap()["days_ago"].as_i64().unwrap()
    };
    let was = age();
    assert!(was > 0);
    let path = format!("/api/readings/{}/correction", take["id"]);
    let correct = |text: &str, why: &str| owner.post(&path, &json!({ "text": text, "why": why }));
    assert_eq!(correct("37 1/4", " ").body["pointer"], "/why");
    assert_eq!(correct("37 1/", "slip").body["pointer"], "/text");
    assert_eq!(correct("3", "slip").body["pointer"], "/stands", "no bust is that small");
    let made = correct("37 1/4", "Written down wrongly");
    assert_eq!(made.status, 201, "{}", made.body);
    assert_eq!(figure(&owner, &client, "bust_girth"), "37 1/4");
    assert_eq!(age(), was, "it was not measured anew");
    let view = owner.get(&format!("/api/sessions/{session}")).body;
    let row = list(&view, "rows").iter().find(|row| row["measurement"]["code"] == "bust_girth").unwrap();
    let entry = &row["entries"][0];
    assert_eq!(entry["takes"][0]["corrected_why"], "Written down wrongly");
    assert_eq!(entry["corrected"][0]["id"], take["id"], "the old one is kept");
    assert_eq!(correct("38", "again").status, 409, "the newer one is corrected");
    let told = owner.get(&format!("/api/clients/{client}/changes?of=reading")).body;
    assert_eq!(told["items"][0]["says"], "reading Bust girth, 37 1/4: corrected");
    assert_eq!(told["items"][0]["person"], "Marit Holm");
}

#[test]
fn a_wrong_session_is_dropped_with_a_reason_its_figures_count_no_longer_and_it_comes_back() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let client = order["client_id"].clone();
    let (session, _) = signed_reading(&owner, &client, "bust_girth");
    let before = figure(&owner, &client, "bust_girth");
    let path = format!("/api/sessions/{session}");
    assert_eq!(owner.delete(&path).body["pointer"], "/why", "a signed one wants the reason");
    assert_eq!(owner.delete(&format!("{path}?why=another%20client")).status, 204);
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    let counted = list(&profile, "figures").iter().find(|each| each["code"] == "bust_girth");
    assert!(
        counted.is_none_or(|each| each["takes"]
            .as_array()
            .unwrap()
            .iter()
            .all(|t| t["session_id"] != session))
    );
    let history = owner.get(&format!("/api/clients/{client}/history")).body;
    assert!(list(&history, "sessions").iter().all(|each| each["id"] != session));
    assert_eq!(history["dropped"][0]["why"], "another client");
    let reading = owner.post(&format!("{path}/readings"), &json!({ "code": "bust_girth", "text": "36" }));
    assert_eq!(reading.status, 409, "nothing is read in it");
    assert_eq!(owner.post(&format!("{path}/restore"), &json!({})).status, 204);
    assert_eq!(figure(&owner, &client, "bust_girth"), before);
    assert_eq!(owner.post(&format!("{path}/restore"), &json!({})).status, 409);
    // An open one comes back as long as no other of its garment is open.
    let open = || {
        let entry = json!({ "set_code": "bodice_direct", "order": order["id"] });
        owner.post(&format!("/api/clients/{client}/sessions"), &entry).id()
    };
    let first = open();
    assert_eq!(owner.delete(&format!("/api/sessions/{first}")).status, 204);
    let second = open();
    let back = || owner.post(&format!("/api/sessions/{first}/restore"), &json!({}));
    assert_eq!(back().detail(), "another session of this garment is open: close or drop that one first");
    assert_eq!(owner.delete(&format!("/api/sessions/{second}")).status, 204);
    assert_eq!(back().status, 204);
}

/// Decides everything in the open round of a garment and closes it; `alter` is what is done for the first.
fn close(owner: &Asker, round: &str, alter: &Value) {
    let view = owner.get(round).body;
    for (index, seen) in list(&view, "observations").iter().enumerate() {
        let decision = if index == 0 { alter.clone() } else { json!({ "what": "watch" }) };
        let body = json!({ "revision": seen["revision"], "decision": decision });
        let kept = owner.put(&format!("/api/observations/{}/decision", seen["id"]), &body);
        assert_eq!(kept.status, 204, "{}", kept.body);
    }
    for seen in list(&view, "earlier") {
        let body = json!({ "observation_id": seen["id"], "mark": "gone" });
        assert_eq!(owner.put(&format!("{round}/marks"), &body).status, 204);
    }
    let closed = owner.post(&format!("{round}/close"), &json!({}));
    assert_eq!(closed.status, 204, "{}", closed.body);
}

#[test]
fn a_closed_round_is_opened_again_while_nothing_was_done_after_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let (round, pattern) =
        (format!("/api/rounds/{}", order["round_id"]), format!("/api/patterns/{}", order["pattern_id"]));
    let fitted = owner.get(&round).body["version_id"].clone();
    let before = owner.get(&pattern).body;
    let recipe_of = |id: &Value| {
        let now = owner.get(&pattern).body;
        list(&now, "versions").iter().find(|each| each["id"] == *id).map(|each| each["recipe"].clone())
    };
    let fitted_recipe = recipe_of(&fitted).unwrap();
    let reopen = || owner.post(&format!("{round}/reopen"), &json!({}));
    assert_eq!(reopen().detail(), "this round is open");

    let alter = json!({ "what": "alter", "alteration": "full_bust", "amounts": { "amount": 6.0 } });
    close(&owner, &round, &alter);
    let closed = owner.get(&pattern).body;
    let made = closed["versions"][0]["version"].clone();
    assert_eq!(owner.get(&round).body["made_version"], made);
    // The version is withdrawn by its round, not by itself.
    let withdraw = format!("/api/versions/{}/withdraw", closed["versions"][0]["id"]);
    assert_eq!(owner.post(&withdraw, &json!({ "why": "slip" })).status, 409);

    assert_eq!(reopen().status, 204);
    let open = owner.get(&round).body;
    assert_eq!((&open["closed_at"], &open["made_version"]), (&Value::Null, &Value::Null));
    let now = owner.get(&pattern).body;
    assert_eq!(now["recipe"], fitted_recipe, "the recipe of what was on her");
    assert_eq!(list(&now, "versions").len(), list(&before, "versions").len());
    assert_eq!(now["withdrawn"][0]["version"], made);
    assert_eq!(
        list(&open, "observations")[0]["decision"]["alteration"],
        "full_bust",
        "what was decided stays"
    );

    // Closed once more it makes the next number; worked on since, it stays closed.
    let closed_again = owner.post(&format!("{round}/close"), &json!({}));
    assert_eq!(closed_again.status, 204, "{}", closed_again.body);
    let again = owner.get(&pattern).body;
    assert_eq!(again["versions"][0]["version"].as_u64(), made.as_u64().map(|number| number + 1));
    let worked = json!({ "recipe": fitted_recipe, "revision": again["revision"] });
    assert_eq!(owner.put(&format!("{pattern}/recipe"), &worked).status, 200);
    assert!(reopen().detail().contains("worked on since"));
}

#[test]
fn a_version_is_withdrawn_before_it_is_cut_and_a_pattern_is_begun_anew_beside_the_first() {
    let house = House::with_demo();
    let owner = house.owner();
    let orders = owner.get("/api/orders").body;
    let order = orders.as_array().unwrap().iter().find(|each| {
        each["pattern_id"] != Value::Null && each["round"] == 0 && each["finished_at"] == Value::Null
    });
    let order = order.expect("a garment on the cutting table").clone();
    let pattern = format!("/api/patterns/{}", order["pattern_id"]);
    let version = owner.post(&format!("{pattern}/versions"), &json!({ "why": "first", "stands": "mh" }));
    assert_eq!(version.status, 201, "{}", version.body);
    let path = format!("/api/versions/{}/withdraw", version.id());
    assert_eq!(owner.post(&path, &json!({ "why": "" })).body["pointer"], "/why");
    assert_eq!(owner.post(&path, &json!({ "why": "wrong size" })).status, 204);
    let withdrawn = owner.get(&pattern).body;
    let number = withdrawn["withdrawn"][0]["version"].as_u64().unwrap();
    assert_eq!(withdrawn["next_version"], number + 1, "its number is not given again, and nothing says so");
    assert_eq!(owner.get(&format!("/api/orders/{}", order["id"])).body["version"], order["version"]);
    let round =
        owner.post(&format!("/api/orders/{}/rounds", order["id"]), &json!({ "version_id": version.id() }));
    assert_eq!(round.status, 404, "a withdrawn version is not fitted");
    assert_eq!(owner.delete(&path).status, 204);
    let first = owner.get(&pattern).body;
    assert_eq!(first["versions"][0]["id"], version.id());

    let blocks = owner.get("/api/blocks").body;
    let master =
        blocks.as_array().unwrap().iter().find(|each| each["name"] == "House master, bodice").unwrap();
    let body = json!({ "block_id": master["id"], "size": "16" });
    let begin = format!("/api/orders/{}/pattern", order["id"]);
    assert_eq!(owner.post(&begin, &body).status, 409, "there is one");
    let mut anew = body.clone();
    anew["anew"] = json!(true);
    let second = owner.post(&begin, &anew);
    assert_eq!(second.status, 201, "{}", second.body);
    let list_of = || owner.get(&format!("/api/orders/{}/patterns", order["id"])).body;
    let in_hand =
        || list_of().as_array().unwrap().iter().map(|each| each["in_hand"] == true).collect::<Vec<_>>();
    assert_eq!(in_hand(), [false, true]);
    let saved = owner.post(&format!("/api/patterns/{}/versions", second.id()), &json!({ "why": "anew" }));
    assert_eq!(saved.status, 201, "{}", saved.body);
    let numbers =
        list_of().as_array().unwrap().iter().map(|each| each["version"].clone()).collect::<Vec<_>>();
    assert_ne!(numbers[0], numbers[1], "one number is one version of the garment");
    // The first is as it was, and is taken up again.
    assert_eq!(owner.post(&format!("{pattern}/take-up"), &json!({})).status, 204);
    assert_eq!(in_hand(), [true, false]);
    let again = owner.get(&pattern).body;
    assert_eq!((&again["recipe"], &again["versions"]), (&first["recipe"], &first["versions"]));
}

fn picture() -> Vec<u8> {
    let mut bytes = std::io::Cursor::new(Vec::new());
    let picture = image::RgbImage::from_fn(60, 80, |x, y| image::Rgb([x as u8 * 3, y as u8 * 3, 90]));
    picture.write_to(&mut bytes, image::ImageFormat::Jpeg).unwrap();
    bytes.into_inner()
}

#[test]
fn a_note_has_its_photographs_with_what_is_drawn_on_them_and_comes_back_when_taken_out() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = client(&owner, "Liv Aune");
    let notes = format!("/api/clients/{id}/notes");
    let note = owner.post(&notes, &json!({ "words": "Collar of her old coat.\nKeep its roll." })).id();
    let photograph = owner.send(&format!("/api/notes/{note}/photographs"), "a photograph", &picture());
    assert_eq!(photograph.status, 201, "{}", photograph.body);
    let at = |x: f64, y: f64| json!({ "x": x, "y": y });
    let strokes = json!([{ "from": at(0.1, 0.2), "to": at(0.5, 0.6), "arrow": true }]);
    let draw = |strokes: &Value| {
        owner.put(&format!("/api/photographs/{}/strokes", photograph.id()), &json!({ "strokes": strokes }))
    };
    let beside = json!([{ "from": at(0.1, 0.2), "to": at(1.5, 0.6), "arrow": true }]);
    assert_eq!(draw(&beside).body["pointer"], "/strokes");
    assert_eq!(draw(&strokes).status, 204);
    let kept = owner.get(&notes).body;
    assert_eq!(kept[0]["words"], "Collar of her old coat.\nKeep its roll.");
    assert_eq!(kept[0]["photographs"][0]["strokes"], strokes);
    assert_eq!(owner.delete(&format!("/api/notes/{note}")).status, 204);
    assert_eq!(owner.get(&notes).body, json!([]));
    assert_eq!(owner.post(&format!("/api/notes/{note}/restore"), &json!({})).status, 204);
    assert_eq!(owner.get(&notes).body, kept);
    assert_eq!(names(&owner, "?q=keep%20its%20roll"), ["Liv Aune"], "she is found by it");
    let found = owner.get("/api/find?q=collar%20liv").body;
    assert_eq!(found[0]["title"], "Liv Aune");
}

#[test]
fn what_is_taken_out_of_a_round_is_put_back_as_it_was() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let round = format!("/api/rounds/{}", order["round_id"]);
    let before = owner.get(&round).body["observations"].clone();
    let seen = &before[0];
    let path = format!("/api/observations/{}", seen["id"]);
    assert_eq!(owner.delete(&format!("{path}?revision={}", seen["revision"])).status, 204);
    assert_eq!(list(&owner.get(&round).body, "observations").len(), before.as_array().unwrap().len() - 1);
    assert_eq!(owner.post(&format!("{path}/restore"), &json!({})).status, 204);
    let after = owner.get(&round).body["observations"].clone();
    for (one, other) in before.as_array().unwrap().iter().zip(after.as_array().unwrap()) {
        assert_eq!(
            (&one["id"], &one["said"], &one["decision"]),
            (&other["id"], &other["said"], &other["decision"])
        );
    }
    assert_eq!(owner.post(&format!("{path}/restore"), &json!({})).status, 404);
}

#[test]
fn a_withdrawn_consent_stands_again_where_that_was_a_slip() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = owner.garment_of("Clara")["client_id"].clone();
    let consent = owner.get(&format!("/api/clients/{id}")).body["consents"][0]["id"].clone();
    let path = format!("/api/clients/{id}/consents/{consent}/withdraw");
    assert_eq!(owner.post(&path, &json!({})).status, 204);
    assert_eq!(owner.delete(&path).status, 204);
    let view = owner.get(&format!("/api/clients/{id}")).body;
    assert_eq!(view["consents"][0]["withdrawn_on"], Value::Null);
    assert_eq!(owner.delete(&path).status, 404);
}

#[test]
fn who_changed_what_is_told_of_a_client_to_all_and_of_the_house_to_its_owner() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let of_order = owner.get(&format!("/api/orders/{}/changes", order["id"])).body;
    assert!(list(&of_order, "items").iter().all(|each| each["garment"] == order["garment"]));
    assert!(!list(&of_order, "items").is_empty());
    // Page by page, each change once.
    let mut seen = Vec::new();
    let mut next = String::new();
    loop {
        let page = owner.get(&format!("/api/changes?person=1{next}")).body["page"].clone();
        seen.extend(list(&page, "items").iter().map(|each| each["id"].as_u64().unwrap()));
        match page["next"].as_str() {
            Some(after) => next = format!("&after={after}"),
            None => break,
        }
    }
    assert!(seen.is_sorted_by(|one, other| one > other) && seen.len() > 60);
    let file = owner.get("/api/changes.csv?of=reading");
    assert_eq!(file.status, 200);
}

#[test]
fn everything_of_one_client_comes_as_one_file() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let client = order["client_id"].clone();
    let lasting = json!({ "name": "Clara, own block", "steps": [] });
    assert_eq!(owner.post(&format!("/api/orders/{}/own-block", order["id"]), &lasting).status, 201);
    let note =
        owner.post(&format!("/api/clients/{client}/notes"), &json!({ "words": "Sits at the second desk." }));
    owner.send(&format!("/api/notes/{}/photographs", note.id()), "a photograph", &picture());
    let bytes = owner.everything_of(&client);
    let mut packed = zip::ZipArchive::new(std::io::Cursor::new(bytes)).unwrap();
    let names: Vec<String> = packed.file_names().map(|name| name.unwrap().into_owned()).collect();
    let folder = format!("garments/{}-", order["id"]);
    for part in ["client.json", "readings.csv", "readings.json"] {
        assert!(names.iter().any(|name| name == part), "{part} in {names:?}");
    }
    for (begins, ends) in [
        (folder.as_str(), "story.pdf"),
        (&folder, "story.json"),
        ("blocks/", ".json"),
        (&folder, "version-1.json"),
        (&folder, ".pdf"),
        ("photographs/", ".jpg"),
    ] {
        assert!(
            names.iter().any(|name| name.starts_with(begins) && name.ends_with(ends)),
            "{ends} in {names:?}"
        );
    }
    let mut read = |name: &str| {
        let mut text = Vec::new();
        std::io::Read::read_to_end(&mut packed.by_name(name).unwrap(), &mut text).unwrap();
        text
    };
    let about: Value = serde_json::from_slice(&read("client.json")).unwrap();
    assert_eq!((&about["format"], &about["version"]), (&json!("yardwand-client"), &json!(1)));
    assert_eq!(about["written"][0]["words"], "Sits at the second desk.");
    let photograph = about["written"][0]["photographs"][0].as_str().unwrap().to_owned();
    assert!(read(&photograph).starts_with(&[0xff, 0xd8]), "a JPEG");
    let readings = String::from_utf8(read("readings.csv")).unwrap();
    assert!(readings.lines().count() > 10);
}

/// Of what is listed everything stands as it does by itself, but for the readings of garments that do not wait for them.
#[test]
fn a_garment_is_listed_as_it_stands() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let (mut waiting, mut begun) = (0, 0);
    for mut listed in owner.get("/api/orders").body.as_array().unwrap().clone() {
        let mut alone = owner.get(&format!("/api/orders/{}", listed["id"])).body;
        assert!(alone["missing"].is_u64() && alone["wanted"] != 0, "{alone}");
        if listed["pattern_id"].is_null() {
            waiting += 1;
        } else {
            begun += 1;
            for of in [&mut listed, &mut alone] {
                let [missing, wanted] = ["missing", "wanted"].map(|field| of[field].take());
                assert!(missing.is_null() == (wanted == 0), "{of}");
            }
        }
        assert_eq!(listed, alone);
    }
    assert!(waiting > 3 && begun > 10, "{waiting} {begun}");
}

#[test]
fn what_is_late_is_told_by_what_was_done_and_the_week_by_its_dates() {
    let house = House::with_demo();
    let owner = house.owner();
    let week = owner.get("/api/week").body;
    for late in list(&week, "late") {
        let order = owner.get(&format!("/api/orders/{}", late["order_id"])).body;
        assert_eq!(order["finished_at"], Value::Null, "{late}");
        let measured = late["visit"]["kind"] == "measuring";
        assert!(!measured || order["missing"] != 0, "she was measured: {late}");
    }
    let today = chrono::Local::now().date_naive();
    for coming in list(&week, "coming") {
        let on: chrono::NaiveDate = coming["on"].as_str().unwrap().parse().unwrap();
        assert!((1..=7).contains(&(on - today).num_days()), "{coming}");
    }
}

#[test]
fn two_garments_are_compared_as_they_are_cut() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Clara");
    let body = json!({ "client_id": order["client_id"], "garment": "Second dress" });
    let second = owner.post(&format!("/api/orders/{}/copy", order["id"]), &body).id();
    let beside = |other: &Value| owner.get(&format!("/api/orders/{}/beside/{other}", order["id"]));
    let same = beside(&json!(second)).body;
    let with_recipe_in_hand = same["here"]["version"] == 0;
    let steps = list(&same, "steps");
    assert!(
        !steps.is_empty()
            && steps.iter().all(|each| each["here"] != Value::Null || each["there"] != Value::Null)
    );
    assert!(!with_recipe_in_hand && same["there"]["version"] == 0);
    let unmeasured = client(&owner, "Not begun");
    let none = owner.post(&format!("/api/clients/{unmeasured}/orders"), &json!({ "garment": "Skirt" })).id();
    let refused = beside(&json!(none));
    assert_eq!(refused.status, 404);
    assert!(refused.detail().contains("no pattern yet"));
}

#[test]
fn her_own_block_is_offered_first() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Dorothea");
    let compared = |order: &Value| {
        let view = owner.get(&format!("/api/orders/{order}/comparison")).body;
        let id = view["block_id"].clone();
        list(&view, "blocks").iter().find(|each| each["id"] == id).unwrap()["client_id"].clone()
    };
    let next = json!({ "garment": "Autumn dress", "set_code": order["set_code"] });
    let next = json!(owner.post(&format!("/api/clients/{}/orders", order["client_id"]), &next).id());
    assert_eq!(compared(&next), Value::Null, "a master of the house");
    let lasting = json!({ "name": "Dorothea, own block", "steps": [] });
    let own = owner.post(&format!("/api/orders/{}/own-block", order["id"]), &lasting);
    assert_eq!(own.status, 201, "{}", own.body);
    assert_eq!(compared(&next), order["client_id"]);
}

#[test]
fn her_full_length_is_offered_as_a_hem_on_a_dress_and_says_why_not_on_a_bodice() {
    let house = House::with_demo();
    let owner = house.owner();
    let measured = |garment: &Value| {
        let sessions = format!("/api/clients/{}/sessions", garment["client_id"]);
        let readings = [("full_length", "40"), ("waist_to_hip", "8"), ("waist_to_knee", "22 1/2")];
        let codes: Vec<&str> = readings.iter().map(|(code, _)| *code).collect();
        let session = owner.post(&sessions, &json!({ "codes": codes })).id();
        for (code, text) in readings {
            let path = format!("/api/sessions/{session}/readings");
            assert_eq!(owner.post(&path, &json!({ "code": code, "text": text })).status, 201, "{code}");
        }
        let signed = owner.post(&format!("/api/sessions/{session}/close"), &json!({ "signed": "Marit" }));
        assert!(signed.status < 300, "{}", signed.body);
    };
    let wishes = |garment: &Value| {
        owner.get(&format!("/api/orders/{}/wishes", garment["id"])).body.as_array().unwrap().clone()
    };

    let dress = owner.garment_of("Bettina");
    measured(&dress);
    assert!(wishes(&dress).is_empty(), "nothing before a pattern is begun");
    let blocks = owner.get("/api/blocks").body;
    let named = |block: &&Value| block["name"] == "Concert dress to the hip";
    let block = blocks.as_array().unwrap().iter().find(named).unwrap();
    let entry = json!({ "block_id": block["id"], "size": "12", "recipe": { "form": 1, "steps": [] } });
    let pattern = owner.post(&format!("/api/orders/{}/pattern", dress["id"]), &entry).id();
    let wished = wishes(&dress);
    assert_eq!((wished.len(), &wished[0]["refused"]), (1, &Value::Null), "{wished:?}");
    let recipe = json!({ "form": 1, "steps": [{ "id": 1, "alteration": wished[0]["alteration"],
        "amounts": wished[0]["amounts"], "on": true, "reason": wished[0]["says"] }] });
    let shown = owner.post(&format!("/api/patterns/{pattern}/preview"), &json!({ "recipe": recipe })).body;
    assert_eq!(shown["steps"][0]["state"], "done", "{}", shown["steps"][0]);
    let wished_mm = wished[0]["amounts"]["amount"].as_f64().unwrap();
    let figures = list(&shown, "figures");
    let below = figures.iter().find(|row| row["figure"] == "below_hip").unwrap();
    let drawn = below["after"]["mm"].as_f64().unwrap();
    assert!((drawn - wished_mm).abs() < 0.01 && wished_mm > 250.0, "{below}");
    assert!(list(&shown, "checks").iter().all(|check| check["passed"] == true), "{}", shown["checks"]);

    let bodice = owner.garment_of("Edda");
    measured(&bodice);
    let refused = wishes(&bodice)[0]["refused"].as_str().unwrap().to_owned();
    assert!(refused.contains("ends at the waist"), "{refused}");
}

/// Typed on its page, drawn, written down: the card has the very length, the recipe the step, and both or neither.
#[test]
fn what_she_wishes_is_drawn_and_written_down_in_one_go() {
    let house = House::with_demo();
    let owner = house.owner();
    let dress = owner.garment_of("Bettina");
    let path = format!("/api/orders/{}/wishes", dress["id"]);
    let drawn = |wished: &Value| owner.post(&format!("{path}/drawn"), &json!({ "wished": wished }));
    assert_eq!(drawn(&json!({})).status, 404, "nothing before a pattern is begun");
    let blocks = owner.get("/api/blocks").body;
    let named = |block: &&Value| block["name"] == "Concert dress to the hip";
    let block = blocks.as_array().unwrap().iter().find(named).unwrap();
    let entry = json!({ "block_id": block["id"], "size": "12", "recipe": { "form": 1, "steps": [] } });
    let pattern = owner.post(&format!("/api/orders/{}/pattern", dress["id"]), &entry).id();
    let pattern = || owner.get(&format!("/api/patterns/{pattern}")).body;
    let card = || owner.get(&format!("/api/clients/{}/profile", dress["client_id"])).body;

    // Drawn, and nothing kept: a neckline 5 7/8 in deep and no mark of the tape wide.
    let wished = json!({ "neck_depth_front": 149.225, "neck_width": 170.03 });
    let shown = drawn(&wished).body;
    let codes: Vec<&str> =
        list(&shown, "fields").iter().map(|field| field["code"].as_str().unwrap()).collect();
    assert!(codes.contains(&"neck_width") && !codes.contains(&"skirt_length"), "{codes:?}");
    let wish = &list(&shown, "wishes")[0];
    assert_eq!((&wish["alteration"], &wish["refused"]), (&json!("neckline"), &Value::Null));
    assert_eq!(shown["preview"]["steps"][0]["state"], "done");
    assert_ne!(shown["preview"]["now"], shown["before"], "the drawing changes");
    assert_eq!(pattern()["recipe"]["steps"], json!([]));
    let left = drawn(&json!({ "neck_depth_front": null })).body;
    assert_eq!((&left["wishes"], &left["preview"]["now"]), (&json!([]), &left["before"]));
    for (wished, says) in [
        (json!({ "neck_width": 5.0 }), "is not between"),
        (json!({ "bust_girth": 900.0 }), "is wished of such a garment"),
    ] {
        let refused = drawn(&wished);
        assert!(
            refused.status == 422 && refused.body["detail"].to_string().contains(says),
            "{}",
            refused.body
        );
    }

    // Written down: the very lengths on her card, the step in the recipe, the session signed and of this garment.
    let body = json!({ "wished": wished, "revision": shown["revision"] });
    let sessions = || {
        let history = owner.get(&format!("/api/clients/{}/history", dress["client_id"])).body;
        list(&history, "sessions").len()
    };
    let before = sessions();
    assert_eq!(owner.put(&path, &body).status, 200);
    let step = pattern()["recipe"]["steps"][0].clone();
    assert_eq!(step["alteration"], "neckline");
    assert_eq!((&step["amounts"]["amount"], &step["amounts"]["width"]), (&json!(149.225), &json!(170.03)));
    let figures = card()["figures"].clone();
    let mm = |code: &str| {
        let found = figures.as_array().unwrap().iter().find(|figure| figure["code"] == code).unwrap();
        found["mm"].as_f64().unwrap()
    };
    assert!((mm("neck_depth_front") - 149.225).abs() < 1e-9, "{}", mm("neck_depth_front"));
    assert!((mm("neck_width") - 170.03).abs() < 1e-9, "{}", mm("neck_width"));
    assert_eq!(sessions(), before + 1, "one signed session");

    // On what somebody else changed since nothing is written: neither the card nor the recipe.
    let late = json!({ "wished": { "neck_depth_front": 160.0 }, "revision": shown["revision"] });
    assert_eq!(owner.put(&path, &late).status, 409);
    assert_eq!((card()["figures"].clone(), sessions()), (figures.clone(), before + 1));
    assert_eq!(pattern()["recipe"]["steps"][0], step);

    // Deeper, once more: the step that is there is made to it and keeps what was chosen on the table.
    let mut recipe = pattern()["recipe"].clone();
    recipe["steps"][0]["amounts"]["shape"] = json!("v");
    let id = pattern()["id"].clone();
    let kept = json!({ "recipe": recipe, "revision": pattern()["revision"] });
    assert_eq!(owner.put(&format!("/api/patterns/{id}/recipe"), &kept).status, 200);
    let again = json!({ "wished": { "neck_depth_front": 155.575 }, "revision": pattern()["revision"] });
    assert_eq!(owner.put(&path, &again).status, 200);
    let amounts = pattern()["recipe"]["steps"][0]["amounts"].clone();
    assert_eq!((&amounts["amount"], &amounts["shape"]), (&json!(155.575), &json!("v")));
    assert_eq!(pattern()["recipe"]["steps"].as_array().unwrap().len(), 1);
}

#[test]
fn any_garment_is_found_by_its_words_and_a_clients_own_come_first() {
    let house = House::with_demo();
    let owner = house.owner();
    let clara = owner.garment_of("Clara");
    let (id, client) = (&clara["id"], &clara["client_id"]);
    let away = json!({ "revision": clara["revision"], "put_away": "cancelled" });
    assert_eq!(owner.put(&format!("/api/orders/{id}/put-away"), &away).status, 204);
    let ids = |path: &str| -> Vec<Value> {
        let body = owner.get(path).body;
        body.as_array().unwrap().iter().map(|order| order["id"].clone()).collect()
    };
    assert!(!ids("/api/orders").contains(id), "it is not in hand");
    assert_eq!(
        ids("/api/orders?q=concert+clara"),
        std::slice::from_ref(id),
        "each word in the garment's name or in hers"
    );
    assert_eq!(ids("/api/orders?q=concert+nobody"), Vec::<Value>::new());
    let hers_first = owner.get(&format!("/api/orders?client={client}")).body;
    let whose: Vec<bool> =
        hers_first.as_array().unwrap().iter().map(|order| order["client_id"] == *client).collect();
    assert!(whose[0] && whose.is_sorted_by(|a, b| a >= b), "{whose:?}");
    assert_eq!(whose.len(), ids("/api/orders").len() + 1, "each garment once");
}
