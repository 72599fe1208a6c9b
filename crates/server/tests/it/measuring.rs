//! Measuring over the API: sides, schools, repeats, live events, tapes, sets, forms, history, files.

use std::io::{BufRead, BufReader};

use crate::common::{Asker, House};
use serde_json::{Value, json};

fn client_and_session(owner: &Asker, set: &str) -> (u64, u64) {
    let client = owner.post("/api/clients", &json!({ "name": "Gerda Test", "consent": { "given_on": "2026-01-05", "purpose": "To dress her." } })).id();
    let session = owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": set })).id();
    (client, session)
}

fn row(owner: &Asker, session: u64, code: &str) -> Value {
    let view = owner.get(&format!("/api/sessions/{session}")).body;
    let rows = view["rows"].as_array().unwrap();
    rows.iter().find(|r| r["measurement"]["code"] == code).unwrap_or_else(|| panic!("{code}")).clone()
}

fn figure(owner: &Asker, client: u64, code: &str) -> Value {
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    let figures = profile["figures"].as_array().unwrap().clone();
    figures.into_iter().find(|f| f["code"] == code).unwrap_or_default()
}

#[test]
fn left_and_right_stand_apart_and_their_mean_is_the_figure() {
    let house = House::with_demo();
    let owner = house.owner();
    let (client, session) = client_and_session(&owner, "bodice_direct");
    let readings = format!("/api/sessions/{session}/readings");
    owner.post(&readings, &json!({ "code": "shoulder_length", "side": "left", "text": "5 1/8" })).id();
    owner.post(&readings, &json!({ "code": "shoulder_length", "side": "right", "text": "4 7/8" })).id();
    let sides: Vec<_> = row(&owner, session, "shoulder_length")["entries"]
        .as_array()
        .unwrap()
        .iter()
        .map(|entry| (entry["side"].clone(), entry["figure"]["text"].clone()))
        .collect();
    assert_eq!(sides, [(json!("left"), json!("5 1/8")), (json!("right"), json!("4 7/8"))]);
    assert_eq!(figure(&owner, client, "shoulder_length")["length"]["text"], "5");
    let refused = owner.post(&readings, &json!({ "code": "bust_girth", "side": "left", "text": "37" }));
    assert_eq!((refused.status, refused.detail()), (422, "Bust girth has no left and right"));
}

#[test]
fn repeats_stand_together_and_the_middle_one_counts() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = client_and_session(&owner, "bodice_direct");
    let readings = format!("/api/sessions/{session}/readings");
    owner.post(&readings, &json!({ "code": "waist_girth", "text": "28" })).id();
    let again = json!({ "code": "waist_girth", "text": "28 3/4", "again": true });
    let doubt = owner.post(&format!("/api/sessions/{session}/check"), &again).body;
    assert_eq!(doubt["findings"][0]["kind"], "repeat");
    owner.post(&readings, &again).id();
    owner.post(&readings, &json!({ "code": "waist_girth", "text": "28 1/4", "again": true })).id();
    let entry = row(&owner, session, "waist_girth")["entries"][0].clone();
    assert_eq!(entry["figure"]["text"], "28 1/4");
    assert_eq!(entry["takes"].as_array().unwrap().len(), 3);
    // A correction replaces all three; they stay in the book.
    owner.post(&readings, &json!({ "code": "waist_girth", "text": "28 1/8" })).id();
    let entry = row(&owner, session, "waist_girth")["entries"][0].clone();
    assert_eq!(
        (entry["takes"].as_array().unwrap().len(), entry["corrected"].as_array().unwrap().len()),
        (1, 3)
    );
}

#[test]
fn a_reading_keeps_how_it_was_taken_and_is_converted_or_asked_for() {
    let house = House::with_demo();
    let owner = house.owner();
    let (client, session) = client_and_session(&owner, "bodice_direct");
    let readings = format!("/api/sessions/{session}/readings");
    owner.post(&readings, &json!({ "code": "neck_base_girth", "text": "370 mm" })).id();
    let nape = json!({ "schools": { "start": "nape" }, "ease_mm": 0 });
    owner.post(&readings, &json!({ "code": "snp_to_bust_point", "text": "347 mm", "taken": nape })).id();
    let bust = figure(&owner, client, "snp_to_bust_point");
    assert!((bust["mm"].as_f64().unwrap() - 270.0).abs() < 1e-9, "{bust}");
    assert_eq!((bust["give_mm"].as_f64(), bust["as_taken_mm"].as_f64()), (Some(8.0), Some(347.0)));
    let navel = json!({ "schools": { "waist": "navel" }, "ease_mm": 0 });
    owner.post(&readings, &json!({ "code": "waist_girth", "text": "820 mm", "taken": navel })).id();
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    assert!(profile["cautions"].to_string().contains("waist girth"), "{}", profile["cautions"]);
    // Two fingers and an inch of ease: both come off, both are told.
    let bust_plus_two = json!({ "schools": {}, "ease_mm": 50.8 });
    owner.post(&readings, &json!({ "code": "bust_girth", "text": "40", "taken": bust_plus_two })).id();
    let entry = row(&owner, session, "bust_girth")["entries"][0].clone();
    assert_eq!(entry["figure"]["text"], "38");
    assert_eq!(
        (entry["takes"][0]["typed"].as_str(), entry["takes"][0]["ease"]["text"].as_str()),
        (Some("40"), Some("2"))
    );
    let unknown = json!({ "schools": { "waist": "hips" }, "ease_mm": 0 });
    let refused = owner.post(&readings, &json!({ "code": "waist_girth", "text": "30", "taken": unknown }));
    assert_eq!((refused.status, refused.body["pointer"].as_str()), (422, Some("/taken/schools")));
}

#[test]
fn a_house_default_is_written_with_each_new_reading_and_leaves_old_ones_alone() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = client_and_session(&owner, "bodice_direct");
    let readings = format!("/api/sessions/{session}/readings");
    owner.post(&readings, &json!({ "code": "snp_to_bust_point", "text": "10 1/2" })).id();
    let now = owner.get("/api/house").body;
    let change = json!({
        "revision": now["revision"], "name": now["name"], "style": now["style"], "ease_set": now["ease_set"],
        "measuring": { "schools": { "start": "nape" }, "finger_mm": 12.5, "age_limit_days": 30, "route": ["waist_girth"] }
    });
    assert_eq!(owner.put("/api/house", &change).status, 200);
    owner.post(&readings, &json!({ "code": "snp_to_waist_front", "text": "20" })).id();
    let method = |code: &str| row(&owner, session, code)["entries"][0]["takes"][0]["method"].clone();
    assert_eq!(method("snp_to_bust_point"), json!([]));
    assert_eq!(method("snp_to_waist_front"), json!(["Front lengths start at the nape, round the neck"]));
    let first = owner.get(&format!("/api/sessions/{session}")).body["rows"][0]["measurement"]["code"].clone();
    assert_eq!(first, "waist_girth", "the house's own route");
    let mut bad = change;
    bad["measuring"]["finger_mm"] = json!(80);
    assert_eq!(owner.put("/api/house", &bad).body["pointer"], "/measuring/finger_mm");
}

#[test]
fn the_second_at_the_same_field_is_told_and_may_replace_or_repeat() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = client_and_session(&owner, "bodice_direct");
    let readings = format!("/api/sessions/{session}/readings");
    let first = owner.post(&readings, &json!({ "code": "bust_girth", "text": "37", "saw": 0 })).id();
    let late = owner.post(&readings, &json!({ "code": "bust_girth", "text": "38", "saw": 0 }));
    assert_eq!((late.status, late.body["type"].as_str()), (409, Some("urn:yardwand:overtaken")));
    assert!(late.detail().contains("Marit Holm has entered 37"), "{}", late.detail());
    owner.post(&readings, &json!({ "code": "bust_girth", "text": "38", "saw": first })).id();
}

/// The lines of a session's event stream, until `enough` says so.
fn listen(house: &House, cookie: &str, session: u64, mut enough: impl FnMut(&str) -> bool) -> Vec<String> {
    let agent: ureq::Agent = ureq::Agent::config_builder().build().into();
    let answer = agent
        .get(format!("{}/api/sessions/{session}/events", house.base()))
        .header("cookie", cookie)
        .call()
        .unwrap();
    assert_eq!(answer.headers()["content-type"], "text/event-stream");
    let mut heard = Vec::new();
    for line in BufReader::new(answer.into_body().into_reader()).lines() {
        let line = line.unwrap();
        let last = enough(&line);
        heard.push(line);
        if last {
            break;
        }
    }
    heard
}

#[test]
fn a_stream_tells_of_readings_and_of_a_held_tape() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = client_and_session(&owner, "bodice_direct");
    let cookie = owner.cookie();
    let token = owner.post(&format!("/api/sessions/{session}/tape"), &json!({})).body["token"].clone();
    let bearer = format!("Bearer {}", token.as_str().unwrap());
    let stranger = house.stranger();
    let mut step = 0;
    let heard = listen(&house, &cookie, session, |line| {
        // Each thing heard causes the next.
        if line.starts_with("data:") {
            step += 1;
            match step {
                1 => {
                    let entry = json!({ "code": "bust_girth", "text": "37" });
                    owner.post(&format!("/api/sessions/{session}/readings"), &entry).id();
                }
                3 => {
                    let word = json!({ "text": "36 1/2", "unit": "inch", "held": true });
                    assert_eq!(
                        stranger.post_with("/api/tape", ("authorization", &bearer), &word).status,
                        204
                    );
                }
                _ => {}
            }
        }
        // It falls silent, and nothing else happens: that is told too.
        line.contains("\"alive\":false") && line.contains("36 1/2")
    });
    let heard = heard.join("\n");
    assert!(heard.contains("event: session") && heard.contains("\"changes\":1"), "{heard}");
    assert!(heard.contains("\"held_seq\":1") && heard.contains("\"alive\":true"), "{heard}");
    let unknown = stranger.post_with(
        "/api/tape",
        ("authorization", "Bearer no"),
        &json!({ "text": "1", "unit": "cm" }),
    );
    assert_eq!((unknown.status, unknown.detail()), (404, "no session knows this tape: pair it again"));
    let nonsense =
        stranger.post_with("/api/tape", ("authorization", &bearer), &json!({ "text": "x", "unit": "cm" }));
    assert_eq!(nonsense.status, 422);
    let open = house.stranger().get(&format!("/api/sessions/{session}/events"));
    assert_eq!(open.status, 401, "a stream is not for strangers");
}

#[test]
fn a_set_of_the_house_opens_sessions_that_outlive_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let set = json!({ "name": "Waistcoat", "codes": ["waist_girth", "nape_to_waist_back", "nonsense"] });
    let id = owner.post("/api/sets", &set).id();
    let (client, session) = client_and_session(&owner, &format!("house:{id}"));
    let names = |session| -> Vec<String> {
        let rows = owner.get(&format!("/api/sessions/{session}")).body["rows"].clone();
        rows.as_array()
            .unwrap()
            .iter()
            .map(|r| r["measurement"]["code"].as_str().unwrap().to_owned())
            .collect()
    };
    assert_eq!(names(session), ["nape_to_waist_back", "waist_girth"], "in the order of the route");
    let twin = owner.post("/api/sets", &set);
    assert_eq!(twin.status, 409);
    let change = json!({ "revision": 1, "name": "Waistcoat", "codes": ["bust_girth"] });
    assert_eq!(owner.put(&format!("/api/sets/{id}"), &change).status, 204);
    assert_eq!(owner.put(&format!("/api/sets/{id}"), &change).status, 409, "an old revision");
    assert_eq!(names(session).len(), 2, "an open session keeps its set");
    assert_eq!(owner.delete(&format!("/api/sets/{id}")).status, 204);
    assert_eq!(names(session).len(), 2);
    let gone =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": format!("house:{id}") }));
    assert_eq!((gone.status, gone.body["pointer"].as_str()), (422, Some("/set_code")));
    let none = owner.post("/api/sets", &json!({ "name": "Empty", "codes": [] }));
    assert_eq!(none.body["pointer"], "/codes");
}

#[test]
fn history_marks_changed_methods_and_the_orders_that_used_a_session() {
    let house = House::with_demo();
    let owner = house.owner();
    let clara = owner.garment_of("Clara")["client_id"].as_u64().unwrap();
    let history = owner.get(&format!("/api/clients/{clara}/history")).body;
    let sessions = history["sessions"].as_array().unwrap();
    let days: Vec<_> = sessions.iter().map(|s| s["started_at"].as_str().unwrap()).collect();
    assert!(sessions.len() == 5 && days.is_sorted(), "{days:?}");
    assert_eq!(sessions.last().unwrap()["used_by"][0]["garment"], "Long concert dress");
    let oldest = sessions[0]["figures"].as_array().unwrap();
    let front = oldest.iter().find(|f| f["code"] == "snp_to_waist_front").unwrap();
    assert_eq!(front["method"], json!(["Front lengths start at the nape, round the neck"]));
    let precision = owner.get("/api/precision").body;
    let waist =
        precision.as_array().unwrap().iter().find(|row| row["code"] == "waist_girth").unwrap().clone();
    assert_eq!(waist["precision"]["bodies"], 2);
}

#[test]
fn a_form_is_padded_for_a_client_and_its_lines_are_judged() {
    let house = House::with_demo();
    let owner = house.owner();
    let clara = owner.garment_of("Clara")["client_id"].clone();
    let form = owner.get("/api/forms").body[0].clone();
    let padding = owner.get(&format!("/api/forms/{}/padding/{clara}", form["id"])).body;
    let bust = padding["levels"]
        .as_array()
        .unwrap()
        .iter()
        .find(|l| l["measurement"] == "bust_girth")
        .unwrap()
        .clone();
    let (missing, thick) =
        (bust["missing"]["mm"].as_f64().unwrap(), bust["thickness"]["mm"].as_f64().unwrap());
    assert!((thick - missing / std::f64::consts::TAU).abs() < 1e-9, "{bust}");
    let mut change = form.clone();
    change["levels"] = json!([{ "line": "waist", "front": "41 1/4", "back": "40 3/4" }]);
    let saved = owner.put(&format!("/api/forms/{}", form["id"]), &change).body;
    assert_eq!(saved["levels"][0]["check"]["level"], false);
    assert_eq!(owner.put(&format!("/api/forms/{}", form["id"]), &change).status, 409);
    change["revision"] = saved["revision"].clone();
    change["figures"] = json!([{ "code": "bust_girth", "text": "3x" }]);
    let refused = owner.put(&format!("/api/forms/{}", form["id"]), &change);
    assert_eq!((refused.status, refused.body["pointer"].as_str()), (422, Some("/figures/0/text")));
}

#[test]
fn a_form_is_marked_by_halving_and_its_lines_hang_from_one_another() {
    let house = House::with_demo();
    let owner = house.owner();
    let form = owner.get("/api/forms").body[0].clone();
    let address = format!("/api/forms/{}", form["id"]);
    let mut change = form.clone();
    change["levels"] = json!([
        { "line": "bust", "left": "49", "right": "49 1/8", "front": "49", "back": "49" },
        { "line": "waist", "below": "bust", "left": "11 cm", "right": "12 cm" },
    ]);
    change["marking"] = json!({
        "tape_width": "1/2",
        "bridged": false,
        "centre": [
            { "line": "bust", "across": "19 1/2", "off": "" },
            { "line": "waist", "across": "14 1/8", "off": "-3/8" },
            { "line": "hip", "across": "47.3 cm", "off": "0" },
            { "line": "knee", "across": "", "off": "" },
        ],
    });
    let saved = owner.put(&address, &change).body;
    let moves = saved["levels"][1]["check"]["moves"].clone();
    assert!(
        moves.to_string().contains("The left lies 3/8 in nearer to the bust line than the right"),
        "{moves}"
    );
    let centre = saved["marking"]["centre"].as_array().unwrap();
    assert_eq!((centre.len(), centre[0]["half"]["text"].as_str()), (3, Some("9 3/4")));
    let says = saved["marking"]["check"]["says"].as_str().unwrap();
    assert!(
        says.contains("waist, hip") && !says.contains("bust"),
        "only what was held against the line: {says}"
    );
    assert_eq!(saved["marking"]["check"]["straight"], false);
    assert!(saved["marking"]["not_bridged"].as_str().unwrap().contains("hollow"));
    // What is shown is typed back unchanged: lengths of the other system too.
    assert_eq!(saved["marking"]["centre"][2]["across"], "47.3 cm");
    let again = owner.put(&address, &saved).body;
    for part in ["levels", "marking", "figures"] {
        assert_eq!(again[part], saved[part], "{part}");
    }
    // Who says nothing of it leaves it as it is.
    change["revision"] = again["revision"].clone();
    change.as_object_mut().unwrap().remove("marking");
    assert_eq!(owner.put(&address, &change).body["marking"], saved["marking"]);
    // A toile that is begun on it knows its tape.
    let drape = owner.post("/api/drapes", &json!({ "name": "On the form", "form": form["id"] })).id();
    let width = owner.get(&format!("/api/drapes/{drape}")).body["facts"]["given"]["tape_width"].as_f64();
    assert_eq!(width, Some(12.7));
    let refused = |field: &str, body: &Value, pointer: &str| {
        let mut wrong = change.clone();
        wrong[field] = body.clone();
        let answer = owner.put(&address, &wrong);
        assert_eq!((answer.status, answer.body["pointer"].as_str()), (422, Some(pointer)), "{}", answer.body);
    };
    refused("marking", &json!({ "tape_width": "3" }), "/marking/tape_width");
    refused(
        "marking",
        &json!({ "centre": [{ "line": "bust", "across": "", "off": "1" }] }),
        "/marking/centre/0/across",
    );
    refused(
        "levels",
        &json!([{ "line": "waist", "below": "waist", "left": "1", "right": "1" }]),
        "/levels/0/below",
    );
}

#[test]
fn a_posture_is_noted_a_client_is_erased_and_only_the_owner_erases() {
    let house = House::with_demo();
    let owner = house.owner();
    let (client, session) = client_and_session(&owner, "dress");
    owner
        .post(&format!("/api/sessions/{session}/readings"), &json!({ "code": "bust_girth", "text": "37" }))
        .id();
    let posture = format!("/api/clients/{client}/posture");
    let entry = json!({ "revision": 1, "notes": ["Rounded back"], "changing": true });
    assert_eq!(owner.put(&posture, &entry).status, 204);
    assert_eq!(owner.put(&posture, &entry).status, 409);
    let profile = owner.get(&format!("/api/clients/{client}/profile")).body;
    assert_eq!(profile["posture"], json!(["Rounded back"]));
    assert!(profile["cautions"].to_string().contains("changing"));
    let fitter = house.signed_in("ines@workroom.example", "tape and pins");
    assert_eq!(fitter.delete(&format!("/api/clients/{client}")).status, 403);
    assert_eq!(owner.delete(&format!("/api/clients/{client}")).status, 204);
    for gone in [format!("/api/clients/{client}"), format!("/api/sessions/{session}")] {
        assert_eq!(owner.get(&gone).status, 404, "{gone}");
    }
}

/// Waits until an import has ended, as long as it moves on: a busy machine is slow, not wrong.
fn wait_for(owner: &Asker, import: u64) -> Value {
    let (mut moved, mut done) = (std::time::Instant::now(), None);
    loop {
        let seen = owner.get(&format!("/api/imports/{import}")).body;
        let under_way = ["running", "stopping"].contains(&seen["state"].as_str().unwrap());
        if !under_way {
            return seen;
        }
        if done != seen["done"].as_u64() {
            (moved, done) = (std::time::Instant::now(), seen["done"].as_u64());
        }
        assert!(moved.elapsed().as_secs() < 60, "the import stands still: {seen}");
        std::thread::sleep(std::time::Duration::from_millis(20));
    }
}

fn five_thousand() -> String {
    let mut text = String::from("client,date,measurement,value,unit\r\n");
    for line in 0..5000 {
        let (client, day) = (line / 50, line % 50);
        let value = if line % 500 == 499 { "oops".to_owned() } else { format!("{}", 80 + line % 40) };
        text += &format!(
            "Player {client:03},2025-{:02}-{:02},bust_girth,{value},cm\r\n",
            1 + day % 10,
            1 + day / 2
        );
    }
    text
}

#[test]
fn five_thousand_lines_come_in_with_progress_and_are_known_the_next_time() {
    let house = House::with_demo();
    let owner = house.owner();
    let file = json!({ "file_name": "book.csv", "content": five_thousand() });
    let import = owner.post("/api/imports", &file).id();
    let seen = owner.get(&format!("/api/imports/{import}")).body;
    assert_eq!((seen["fresh"].as_u64(), seen["problem_count"].as_u64()), (Some(4990), Some(10)));
    assert_eq!(seen["clients"], 100);
    assert_eq!(
        owner.get("/api/clients?q=Player%200").body["items"],
        json!([]),
        "nothing is saved before it is asked for"
    );
    assert_eq!(owner.post(&format!("/api/imports/{import}/save"), &json!({})).status, 202);
    let done = wait_for(&owner, import);
    assert_eq!((done["state"].as_str(), done["done"].as_u64()), (Some("done"), Some(4990)));
    assert_eq!(owner.post(&format!("/api/imports/{import}/save"), &json!({})).status, 409);
    let again = owner.post("/api/imports", &file).id();
    let seen = owner.get(&format!("/api/imports/{again}")).body;
    assert_eq!((seen["fresh"].as_u64(), seen["twin_count"].as_u64()), (Some(0), Some(4990)));
    let nothing = owner.post(&format!("/api/imports/{again}/save"), &json!({}));
    assert_eq!((nothing.status, nothing.detail()), (422, "there is nothing new to save in this file"));
}

#[test]
fn a_cancelled_import_leaves_nothing_behind() {
    let house = House::with_demo();
    let owner = house.owner();
    let import =
        owner.post("/api/imports", &json!({ "file_name": "b.csv", "content": five_thousand() })).id();
    assert_eq!(owner.post(&format!("/api/imports/{import}/save"), &json!({})).status, 202);
    let stop = owner.post(&format!("/api/imports/{import}/cancel"), &json!({}));
    let ended = wait_for(&owner, import);
    // A fast machine may have saved it all before the word arrived.
    if stop.status == 204 {
        assert_eq!(
            (ended["state"].as_str(), ended["done"].as_u64()),
            (Some("cancelled"), Some(0)),
            "{ended}"
        );
        assert_eq!(owner.get("/api/clients?q=Player").body["items"], json!([]));
    } else {
        assert_eq!(ended["state"], "done");
    }
}

#[test]
fn a_column_is_mapped_by_hand_once_and_remembered() {
    let house = House::with_demo();
    let owner = house.owner();
    let file = json!({ "file_name": "old.csv", "content": "Dame;Tag;BU\nAda;2025-03-04;94\n" });
    let import = owner.post("/api/imports", &file).id();
    let seen = owner.get(&format!("/api/imports/{import}")).body;
    assert_eq!(seen["lacks"], "say which column holds the client's name");
    let mapping = json!({ "columns": [{ "is": "client" }, { "is": "day" }, { "is": "of", "code": "bust_girth" }],
        "unit": "cm", "day_first": true });
    let mapped = owner.put(&format!("/api/imports/{import}/mapping"), &mapping).body;
    assert_eq!((mapped["fresh"].as_u64(), mapped["sample"][0]["text"].as_str()), (Some(1), Some("94 cm")));
    let next = owner.post("/api/imports", &file).id();
    assert_eq!(owner.get(&format!("/api/imports/{next}")).body["fresh"], 1);
    let short = json!({ "columns": [], "unit": "cm", "day_first": true });
    assert_eq!(owner.put(&format!("/api/imports/{import}/mapping"), &short).status, 422);
    let empty = owner.post("/api/imports", &json!({ "file_name": "e.csv", "content": " " }));
    assert_eq!((empty.status, empty.body["pointer"].as_str()), (422, Some("/content")));
}

#[test]
fn readings_go_out_as_csv_and_json_and_sheets_as_pdf() {
    let house = House::with_demo();
    let owner = house.owner();
    let clara = owner.garment_of("Clara")["client_id"].clone();
    let csv = String::from_utf8(owner.bytes(&format!("/api/clients/{clara}/readings.csv"))).unwrap();
    assert!(csv.starts_with("client,taken_on,") && csv.contains("Clara Wynn-Osei") && csv.contains("\r\n"));
    assert!(
        csv.contains("the standard's waist") || csv.contains("The standard's waist"),
        "an export states what differs"
    );
    let out = owner.get(&format!("/api/clients/{clara}/readings.json")).body;
    assert_eq!((out["format"].as_str(), out["version"].as_u64()), (Some("yardwand.readings"), Some(1)));
    let count = out["readings"].as_array().unwrap().len();
    assert_eq!(count, csv.lines().count() - 1);
    let session = owner.get(&format!("/api/clients/{clara}/history")).body["sessions"][0]["id"].clone();
    for path in [
        "/api/sheet.pdf?set=dress".to_owned(),
        format!("/api/clients/{clara}/sheet.pdf?set=corset&paper=letter"),
        format!("/api/sessions/{session}/sheet.pdf"),
    ] {
        assert!(owner.bytes(&path).starts_with(b"%PDF-"), "{path}");
    }
    assert_eq!(owner.get("/api/sheet.pdf?set=nonsense").status, 422);
}

#[test]
fn a_missing_reading_is_estimated_to_look_at_and_stands_in_the_way_of_keeping() {
    let house = House::with_demo();
    let owner = house.owner();
    let (client, session) = client_and_session(&owner, "bodice_direct");
    let readings = [
        ("neck_base_girth", "14 1/2"),
        ("shoulder_length", "5"),
        ("shoulder_slope", "1 5/8"),
        ("across_front", "13"),
        ("across_back", "13 3/4"),
        ("bust_girth", "37"),
        ("upper_bust_girth", "35"),
        ("waist_girth", "29"),
        ("snp_to_bust_point", "10 1/2"),
        ("snp_to_waist_front", "17"),
        ("snp_to_waist_back", "16 1/2"),
        ("nape_to_waist_back", "15 3/4"),
        ("armhole_depth", "7 1/2"),
        ("side_length", "7 1/2"),
    ];
    for (code, text) in readings {
        owner.post(&format!("/api/sessions/{session}/readings"), &json!({ "code": code, "text": text })).id();
    }
    let ask = json!({ "source": { "from": "client", "client": client } });
    let draft = owner.post("/api/drafting/preview", &ask).body;
    assert_eq!(draft["readings"], json!(["bust_span"]));
    assert_eq!(draft["refused"], "The draft still wants bust span.");
    let note = draft["drawn"]["notes"][0].clone();
    assert_eq!((note["estimated"].as_bool(), note["measurement"].as_str()), (Some(true), Some("bust_span")));
    let kept = owner.post(&format!("/api/clients/{client}/blocks"), &json!({}));
    assert_eq!((kept.status, kept.body["pointer"].as_str()), (422, Some("/readings")));
}

#[test]
fn old_readings_are_one_remark_beside_the_comparison() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Dorothea")["id"].clone();
    let view = owner.get(&format!("/api/orders/{order}/comparison")).body;
    let remarks = view["remarks"].as_array().unwrap();
    assert_eq!(remarks.len(), 1, "{remarks:?}");
    assert_eq!(remarks[0]["codes"].as_array().unwrap().len(), 16);
    assert!(
        remarks[0]["says"].as_str().unwrap().starts_with("16 readings: Taken 116 days ago"),
        "{remarks:?}"
    );
    let again = json!({ "codes": remarks[0]["codes"] });
    let client = owner.garment_of("Dorothea")["client_id"].clone();
    let session = owner.post(&format!("/api/clients/{client}/sessions"), &again).id();
    assert_eq!(owner.get(&format!("/api/sessions/{session}")).body["rows"].as_array().unwrap().len(), 16);
}

/// Years ago only once, and not in the newest few sessions: still her figure.
#[test]
fn a_figure_taken_long_ago_is_found_behind_many_newer_sessions() {
    let house = House::with_demo();
    let owner = house.owner();
    let mut rows = vec![
        json!({ "client": "Vera", "taken_on": "2020-01-01", "measurement": "height", "value": "165 cm" }),
    ];
    for day in 1..=20 {
        let (on, value) = (format!("2021-01-{day:02}"), format!("{} mm", 900 + day));
        rows.push(json!({ "client": "Vera", "taken_on": on, "measurement": "bust_girth", "value": value }));
    }
    let file = json!({ "file_name": "vera.json", "content": Value::from(rows).to_string() });
    let import = owner.post("/api/imports", &file).id();
    owner.post(&format!("/api/imports/{import}/save"), &json!({}));
    assert_eq!(wait_for(&owner, import)["done"], 21);
    let vera = owner.get("/api/clients?q=Vera").body["items"][0]["id"].as_u64().unwrap();
    assert_eq!(figure(&owner, vera, "height")["mm"], 1650.0);
    assert_eq!(figure(&owner, vera, "bust_girth")["mm"], 920.0);
    // Looked at from an old session, "last time" is what came before it, not after.
    let sessions = owner.get(&format!("/api/clients/{vera}/history")).body["sessions"].clone();
    let third = sessions[3]["id"].as_u64().unwrap();
    assert_eq!(row(&owner, third, "bust_girth")["previous"][0]["length"]["mm"], 902.0);
}

/// The stand-in of the command line, as a real tape would: paired by its word, holding by its button.
#[test]
fn the_tape_of_the_command_line_speaks_to_the_session_it_is_paired_with() {
    use std::io::Write;
    use std::process::{Command, Stdio};

    let house = House::with_demo();
    let owner = house.owner();
    let (_, session) = client_and_session(&owner, "bodice_direct");
    let token = owner.post(&format!("/api/sessions/{session}/tape"), &json!({})).body["token"].clone();
    let run = |token: &str, unit: &str, lines: &str| {
        let mut tape = Command::new(env!("CARGO_BIN_EXE_yardwand"))
            .args(["tape", "--server", &house.base(), "--token", token, "--unit", unit, "--jitter", "0"])
            .stdin(Stdio::piped())
            .stdout(Stdio::piped())
            .stderr(Stdio::piped())
            .spawn()
            .unwrap();
        tape.stdin.take().unwrap().write_all(lines.as_bytes()).unwrap();
        tape.wait_with_output().unwrap()
    };
    let word = token.as_str().unwrap();
    let said = run(word, "inch", "36 1/2\n\ndrop\n37\n\nback\n38\nend\n");
    let out = String::from_utf8_lossy(&said.stdout).into_owned();
    assert!(said.status.success(), "{}", String::from_utf8_lossy(&said.stderr));
    assert!(out.contains("36 1/2 in  held") && out.contains("38 in"), "{out}");
    assert!(!out.contains("37 in"), "nothing is said while the connection is dropped: {out}");
    let tape = owner.get(&format!("/api/sessions/{session}")).body["tape"].clone();
    assert_eq!((tape["text"].as_str(), tape["held_seq"].as_u64()), (Some("38"), Some(2)), "{tape}");
    let stranger = run("nobody", "cm", "90\nend\n");
    assert_eq!(stranger.status.code(), Some(2));
    assert!(String::from_utf8_lossy(&stranger.stderr).contains("pair it again"));
    let nonsense = run(word, "ell", "");
    assert!(String::from_utf8_lossy(&nonsense.stderr).contains("use inch or cm"));
}

#[test]
fn what_she_wears_under_the_tape_is_kept_with_the_session() {
    let house = House::with_demo();
    let owner = house.owner();
    let (client, first) = client_and_session(&owner, "bodice_direct");
    let of = |session: u64| owner.get(&format!("/api/sessions/{session}")).body;
    let wears = |session: u64, worn: &str| {
        owner.put(&format!("/api/sessions/{session}/foundation"), &json!({ "foundation": worn }))
    };
    let read = |session: u64, code: &str, text: &str| {
        owner.post(&format!("/api/sessions/{session}/readings"), &json!({ "code": code, "text": text })).id()
    };
    assert_eq!(
        (of(first)["foundation"].clone(), of(first)["foundation_before"].clone()),
        (json!(""), json!(""))
    );
    assert_eq!(wears(first, "  her own bra, firm ").status, 204);
    let long = wears(first, &"x".repeat(121));
    assert_eq!(long.status, 422);
    assert!(long.detail().contains("What she wears under the tape"), "{}", long.detail());
    read(first, "bust_girth", "37");
    read(first, "shoulder_length", "5");
    owner.post(&format!("/api/sessions/{first}/close"), &json!({ "signed": "M." }));
    let late = wears(first, "another");
    assert_eq!(late.status, 409, "a signed session stays as it is: {}", late.detail());
    // Another foundation: bust is not compared as a change of hers, the shoulder is.
    let second =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": "bodice_direct" })).id();
    assert_eq!(of(second)["foundation_before"], "her own bra, firm");
    assert_eq!(wears(second, "a corset").status, 204);
    read(second, "bust_girth", "38 1/2");
    read(second, "shoulder_length", "5 1/4");
    let history = owner.get(&format!("/api/clients/{client}/history")).body;
    let change = |code: &str| {
        let changes = history["changes"].as_array().unwrap();
        changes.iter().find(|change| change["code"] == code).unwrap()["method_changed"].clone()
    };
    assert_eq!((change("bust_girth"), change("shoulder_length")), (json!(true), json!(false)));
    let worn: Vec<&Value> =
        history["sessions"].as_array().unwrap().iter().map(|session| &session["foundation"]).collect();
    assert!(worn.contains(&&json!("a corset")) && worn.contains(&&json!("her own bra, firm")), "{worn:?}");
    // Where one of the two was not said, nothing is known of a difference.
    assert_eq!(wears(second, "").status, 204);
    let history = owner.get(&format!("/api/clients/{client}/history")).body;
    assert!(history["changes"].as_array().unwrap().iter().all(|change| change["method_changed"] == false));
}

#[test]
fn a_block_goes_back_to_a_form_in_rounds_of_its_own_without_a_client() {
    let house = House::with_demo();
    let owner = house.owner();
    let form = owner.get("/api/forms").body[0].clone();
    let address = format!("/api/forms/{}/garments", form["id"]);
    // Two begin at once: the form is stood in for once.
    let begun: Vec<u64> = std::thread::scope(|scope| {
        let begin = |name: &'static str| {
            let (owner, address) = (&owner, &address);
            scope.spawn(move || owner.post(address, &json!({ "garment": name })).id())
        };
        [begin("First cloth"), begin("Second cloth")].map(|one| one.join().unwrap()).to_vec()
    });
    let orders: Vec<Value> = begun.iter().map(|id| owner.get(&format!("/api/orders/{id}")).body).collect();
    assert_eq!(orders[0]["client_id"], orders[1]["client_id"]);
    assert_eq!((&orders[0]["form_id"], &orders[0]["client"]), (&form["id"], &form["name"]));
    assert_eq!(
        (&orders[0]["missing"], &orders[0]["standing"]["stage"]),
        (&json!(0), &json!("compare")),
        "{}",
        orders[0]
    );

    // It is in no list of clients, and nobody is asked for its consent or measured for it.
    let client = orders[0]["client_id"].clone();
    let listed = owner.get("/api/clients").body;
    assert!(!listed["items"].as_array().unwrap().iter().any(|each| each["id"] == client), "{listed}");
    assert_eq!(owner.get(&format!("/api/clients/{client}")).body["form_id"], form["id"]);

    // Compared with the form's own figures, begun, kept as a version, and fitted.
    let blocks = owner.get(&format!("/api/orders/{}/comparison", begun[0])).body["blocks"].clone();
    let block = &blocks[0]["id"];
    let compared = owner.get(&format!("/api/orders/{}/comparison?block={block}", begun[0])).body;
    let rows = compared["comparison"]["rows"].as_array().unwrap_or_else(|| panic!("{compared}"));
    let bust = rows.iter().find(|row| row["figure"] == "bust").unwrap_or_else(|| panic!("{compared}"));
    let own = form["figures"].as_array().unwrap().iter().find(|each| each["code"] == "bust_girth").unwrap();
    assert_eq!(bust["body"]["text"], own["text"], "{bust}");

    // Begun from a size, kept as a version, fitted in a round that is closed: nobody's consent or reading is asked for.
    let begin = json!({ "block_id": block, "size": "10", "recipe": { "form": 1, "steps": [] } });
    let pattern = owner.post(&format!("/api/orders/{}/pattern", begun[0]), &begin).id();
    let version = owner.post(&format!("/api/patterns/{pattern}/versions"), &json!({ "why": "First cloth" }));
    assert_eq!(version.status, 201, "{}", version.body);
    let worn = json!({ "version_id": version.id(), "worn": "", "stage": "toile" });
    let round = owner.post(&format!("/api/orders/{}/rounds", begun[0]), &worn);
    assert_eq!(round.status, 201, "{}", round.body);
    let round = format!("/api/rounds/{}", round.id());
    let seen = json!({ "place": "front armhole", "towards": "bust", "kind": "drag" });
    let observation = owner.post(&format!("{round}/observations"), &seen).id();
    let view = owner.get(&round);
    assert_eq!(view.status, 200, "{}", view.body);
    let observed =
        view.body["observations"].as_array().unwrap().iter().find(|each| each["id"] == observation).unwrap();
    let causes = owner.get(&format!("{round}/causes")).body;
    assert!(!causes["each"][0]["causes"].as_array().unwrap().is_empty(), "{causes}");
    let alter = json!({ "revision": observed["revision"], "decision": { "what": "alter", "alteration": "full_bust",
        "amounts": { "amount": 6.0 }, "cause": "little_bust" } });
    assert_eq!(owner.put(&format!("/api/observations/{observation}/decision"), &alter).status, 204);
    let closed = owner.post(&format!("{round}/close"), &json!({}));
    assert_eq!(closed.status, 204, "{}", closed.body);
    assert_eq!(owner.get(&round).body["made_version"], 2);

    // A block goes back to the form from its own page: the pattern is begun in the same go, once for the same press.
    let back = json!({ "garment": "The block again", "block_id": block, "size": "10" });
    let put_on = format!("/api/forms/{}/garments", form["id"]);
    let unknown = json!({ "garment": "The block again", "block_id": block, "size": "no such" });
    let refused = owner.post(&put_on, &unknown);
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/size")));
    let again = owner.post(&put_on, &back).id();
    let garment = owner.get(&format!("/api/orders/{again}")).body;
    assert!(garment["pattern_id"].is_u64() && garment["form_id"] == form["id"], "{garment}");

    // It is found as a garment, not as a client; it is nobody's second entry, and nobody opens a session for it.
    let found = owner.get("/api/find?q=Linen%20form").body.to_string();
    assert!(found.contains("First cloth"), "{found}");
    let kinds = owner.get("/api/find?q=Linen%20form").body;
    assert!(!kinds.as_array().is_some_and(|all| all.iter().any(|each| each["kind"] == "client")), "{kinds}");
    let session =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "set_code": "bodice_direct" }));
    assert_eq!(session.status, 409, "{}", session.body);
    assert!(session.detail().contains("dress form"), "{}", session.detail());

    // What is wished of its garment is written down all the same, and nobody is asked to agree.
    let wished = format!("/api/orders/{}/wishes", begun[0]);
    let drawn = owner.post(&format!("{wished}/drawn"), &json!({ "wished": { "neck_width": 170.0 } })).body;
    let change = json!({ "revision": drawn["revision"], "wished": { "neck_width": 170.0 } });
    let written = owner.put(&wished, &change);
    assert_eq!(written.status, 200, "{}", written.body);
    assert_eq!(owner.get(&wished).body[0]["readings"], json!(["neck_width"]));

    // Called otherwise, it is called so everywhere.
    let mut change = owner.get(&format!("/api/forms/{}", form["id"])).body;
    change["name"] = json!("Linen form, padded");
    assert_eq!(owner.put(&format!("/api/forms/{}", form["id"]), &change).status, 200);
    assert_eq!(owner.get(&format!("/api/orders/{}", begun[1])).body["client"], "Linen form, padded");
}
