//! Toiles and paper patterns on their way to a block, as a client of the API meets them.

use serde_json::{Value, json};

use crate::common::{Asker, House};

/// A case of typed marks, kept as a drape; its number.
fn begun(owner: &Asker, case: &Value, about: Value) -> u64 {
    let mut entry = json!({ "name": "Bodice on the linen form", "material": "toile" });
    entry.as_object_mut().unwrap().extend(about.as_object().unwrap().clone());
    let id = owner.post("/api/drapes", &entry).id();
    let mut facts = owner.get(&format!("/api/drapes/{id}")).body["facts"].clone();
    for (field, value) in case["input"]["given"].as_object().unwrap() {
        facts["given"][field] = value.clone();
    }
    let change = json!({ "revision": 1, "name": "Bodice on the linen form", "facts": facts });
    let changed = owner.put(&format!("/api/drapes/{id}"), &change);
    assert_eq!(changed.status, 200, "{}", changed.body);
    for piece in ["front", "back"] {
        let marks = &case["input"][piece]["marks_mm"];
        assert_eq!(marked(owner, id, piece, 1, marks).status, 200);
    }
    id
}

fn marked(owner: &Asker, id: u64, piece: &str, revision: u64, marks: &Value) -> crate::common::Answer {
    let body = json!({ "revision": revision, "marked": { "by": "typing", "marks": marks } });
    owner.put(&format!("/api/drapes/{id}/pieces/{piece}"), &body)
}

fn drawn(owner: &Asker, id: u64) -> Value {
    owner.get(&format!("/api/drapes/{id}/drawn")).body
}

/// Says yes to everything that wants one.
fn answered(owner: &Asker, id: u64) -> Value {
    for _ in 0..40 {
        let now = drawn(owner, id);
        let open = |each: &&Value, yes: &str| each[yes].is_null();
        let correction = now["corrections"].as_array().unwrap().iter();
        let correction = correction.filter(|each| each["needs_yes"] == true).find(|each| open(each, "yes"));
        let figure = now["figures"].as_array().unwrap().iter();
        let figure = figure.filter(|each| !each["doubt"].is_null()).find(|each| open(each, "overruled"));
        let ask = now["asks"].as_array().unwrap().iter().find(|each| open(each, "stands"));
        let Some(next) = correction.or(figure).or(ask) else { return now };
        let entry =
            json!({ "revision": now["seen"]["drape"], "key": next["key"], "yes": true, "initials": "mh" });
        let answer = owner.put(&format!("/api/drapes/{id}/answers"), &entry);
        assert_eq!(answer.status, 200, "{}", answer.body);
    }
    panic!("there is no end of questions");
}

/// A public case of typed marks that is clean (handbook: `drape.md`, section 12).
fn clean_case() -> Value {
    let cases: Value =
        serde_json::from_str(include_str!("../../../core/tests/it/data/drape_cases.json")).unwrap();
    let clean =
        |case: &&Value| case["expect"]["asks"] == false && case["input"]["front"]["marks_mm"].is_object();
    cases["cases"].as_array().unwrap().iter().find(clean).unwrap().clone()
}

#[test]
fn typed_marks_become_a_block_of_its_lengths_that_is_compared_and_cut_from() {
    let house = House::with_demo();
    let owner = house.owner();
    let case = clean_case();
    let id = begun(&owner, &case, json!({}));
    let now = answered(&owner, id);
    assert_eq!(now["ready"], true, "{now}");

    // The lengths it is drawn with are those the toile was draped from, within what a hand of 1.5 mm leaves (drape.md: 4 mm).
    for check in now["drawn"]["checks"].as_array().unwrap() {
        assert_eq!(check["passed"], true, "{check}");
    }
    let keep = json!({ "name": "Linen form", "why": "Draped in November", "label": "linen",
        "made_for": { "bust_girth": "36", "upper_bust_girth": "34" }, "seen": now["seen"] });
    let kept = owner.post(&format!("/api/drapes/{id}/block"), &keep);
    assert_eq!(kept.status, 201, "{}", kept.body);
    let block = owner.get(&format!("/api/blocks/{}", kept.id())).body;
    assert_eq!((&block["block"]["how"], &block["drape"]), (&json!("draped"), &json!(id)));
    assert!(
        block["told"].as_str().unwrap().starts_with("Draped: front and back from typed marks."),
        "{}",
        block["told"]
    );
    assert_eq!(block["sizes"][0]["made_for"], json!(["bust girth 36 in", "upper bust girth 34 in"]));

    // On card, to trace round.
    let card = owner.bytes(&format!("/api/blocks/{}/card.pdf?size=linen", kept.id()));
    assert_eq!(&card[..5], b"%PDF-");
    assert_eq!(owner.whole(&format!("/api/blocks/{}/card.pdf?size=other", kept.id())).0, 422);

    // As a pattern to cut by: with allowances by edge, points backed off and darts folded as she chooses.
    let cutting = |asked: &str| owner.whole(&format!("/api/blocks/{}/cutting.pdf?{asked}", kept.id()));
    let (status, usual) = cutting("size=linen");
    assert_eq!((status, &usual[..5]), (200, &b"%PDF-"[..]));
    for other in ["side=25", "front_point=40", "folded=side", "folded_across=up&folded=side"] {
        let (status, changed) = cutting(other);
        assert_eq!(status, 200, "{other}");
        assert_ne!(changed, usual, "{other} is seen on paper");
    }
    for (wrong, field) in
        [("side=80", "/side"), ("front_point=70", "/front_point"), ("back_point=nought", "/back_point")]
    {
        let refused = owner.get(&format!("/api/blocks/{}/cutting.pdf?{wrong}", kept.id()));
        assert!(refused.status == 422 || refused.status == 400, "{wrong}: {}", refused.body);
        assert!(
            refused.body.to_string().contains(field.trim_start_matches('/')),
            "{wrong}: {}",
            refused.body
        );
    }

    // Laid over itself nothing differs; over another block what differs is written as it adds up.
    let same = owner.get(&format!("/api/blocks/{0}/beside/{0}", kept.id())).body;
    assert!(same["figures"].as_array().unwrap().iter().all(|row| row["change"]["mm"] == 0.0), "{same}");
    let over = owner.get(&format!("/api/drapes/{id}/beside?block={}", kept.id())).body;
    assert_eq!(over["here"]["name"], "Linen form", "what was there before stands first");
    assert!(over["figures"].as_array().unwrap().iter().all(|row| row["change"]["mm"] == 0.0), "{over}");
    let neither = owner.get(&format!("/api/drapes/{id}/beside"));
    assert_eq!((neither.status, neither.body["pointer"].as_str()), (422, Some("/block")));

    // It is a block like any other: compared with a client, begun from, altered.
    let order = owner.garment_of("Edda");
    let compared = owner.get(&format!("/api/orders/{}/comparison?block={}", order["id"], kept.id()));
    assert_eq!(compared.status, 200, "{}", compared.body);
    assert!(!compared.body["comparison"]["rows"].as_array().unwrap().is_empty(), "{}", compared.body);

    // What became a block stays as it was marked, and is gone on with as a copy.
    let late = marked(&owner, id, "front", 2, &case["input"]["front"]["marks_mm"]);
    assert_eq!(late.status, 409);
    assert!(late.detail().contains("has become a block"), "{}", late.detail());
    let again = owner.post(&format!("/api/drapes/{id}/block"), &keep);
    assert_eq!(again.status, 409, "another press is another block, and there is one already");
    let copy = owner.post("/api/drapes", &json!({ "name": "Once more", "copy_of": id })).id();
    assert_eq!(drawn(&owner, copy)["drawn"]["pieces"], now["drawn"]["pieces"]);
}

#[test]
fn the_right_side_is_draped_for_itself_and_laid_over_the_left() {
    let house = House::with_demo();
    let owner = house.owner();
    let case = clean_case();
    let left = begun(&owner, &case, json!({}));
    let other = json!({ "name": "The right side", "copy_of": left, "other_side": true });
    let unsaid = owner.post("/api/drapes", &other);
    assert_eq!((unsaid.status, unsaid.body["pointer"].as_str()), (422, Some("/other_side")));
    let drape = |id: u64| owner.get(&format!("/api/drapes/{id}")).body;
    let mut stated = drape(left);
    stated["facts"]["side"] = json!("left");
    assert_eq!(owner.put(&format!("/api/drapes/{left}"), &stated).status, 200);
    let right = owner.post("/api/drapes", &other).id();
    let begun = drape(right);
    assert_eq!(begun["facts"]["side"], "right");
    assert_eq!(begun["facts"]["given"], drape(left)["facts"]["given"], "what is stated is the same");
    assert!(begun["front"]["marked"]["marks"].as_object().is_none_or(serde_json::Map::is_empty), "{begun}");
    let early = owner.get(&format!("/api/drapes/{left}/beside?drape={right}"));
    assert_eq!((early.status, early.body["pointer"].as_str()), (422, Some("/drape")), "{}", early.body);

    // Her right front is 6 mm wider from the side seam: 12 mm on a pattern of two such halves.
    let mut front = case["input"]["front"]["marks_mm"].clone();
    let outer = ["underarm", "side_waist", "side_dart_upper", "side_dart_lower"];
    for mark in outer {
        front[mark][0] = json!(front[mark][0].as_f64().unwrap() + 6.0);
    }
    for dots in ["side_dots", "side_lower_dots", "side_dart_upper_leg", "side_dart_lower_leg"] {
        if let Some(dots) = front[dots].as_array_mut() {
            dots.iter_mut().for_each(|dot| dot[0] = json!(dot[0].as_f64().unwrap() + 6.0));
        }
    }
    assert_eq!(marked(&owner, right, "front", 1, &front).status, 200);
    assert_eq!(marked(&owner, right, "back", 1, &case["input"]["back"]["marks_mm"]).status, 200);
    let laid = owner.get(&format!("/api/drapes/{right}/beside?drape={left}")).body;
    assert_eq!(
        (&laid["here"]["which"], &laid["there"]["which"]),
        (&json!("left side"), &json!("right side")),
        "{laid}"
    );
    let figures = laid["figures"].as_array().unwrap();
    let of = |name: &str| {
        figures.iter().find(|row| row["figure"] == name).unwrap_or_else(|| panic!("{name}: {laid}"))
    };
    let bust = of("bust")["change"]["mm"].as_f64().unwrap();
    assert!((bust - 12.0).abs() < 3.0, "{bust}");
    let across = of("across_back")["change"]["mm"].as_f64().unwrap();
    assert!(across.abs() < 1.0, "what was not draped otherwise is the same: {across}");
}

#[test]
fn nothing_is_kept_before_every_question_is_answered_and_a_click_opens_them_again() {
    let house = House::with_demo();
    let owner = house.owner();
    let case = clean_case();
    let id = begun(&owner, &case, json!({}));
    let mut marks = case["input"]["front"]["marks_mm"].clone();
    // One cross 25 mm off: asked about, and named.
    marks["tip"][1] = json!(marks["tip"][1].as_f64().unwrap() + 25.0);
    assert_eq!(marked(&owner, id, "front", 2, &marks).status, 200);
    let asked = drawn(&owner, id);
    assert!(asked["asks"].to_string().contains("tip"), "{}", asked["asks"]);
    let keep = |seen: &Value| json!({ "name": "Linen form", "why": "Draped", "seen": seen });
    let early = owner.post(&format!("/api/drapes/{id}/block"), &keep(&asked["seen"]));
    assert_eq!((early.status, early.body["pointer"].as_str()), (422, Some("/seen")), "{}", early.body);
    assert!(early.detail().contains("still open"), "{}", early.detail());

    // A doubt is overruled with initials only.
    let doubt = asked["asks"][0]["key"].clone();
    let entry = |initials: &str| json!({ "revision": asked["seen"]["drape"], "key": doubt, "yes": true, "initials": initials });
    let nameless = owner.put(&format!("/api/drapes/{id}/answers"), &entry(""));
    assert_eq!((nameless.status, nameless.body["pointer"].as_str()), (422, Some("/initials")));
    assert_eq!(owner.put(&format!("/api/drapes/{id}/answers"), &entry("mh")).status, 200);

    // Clicked right after all, that question is gone, and its answer with it.
    let revision = drawn(&owner, id)["seen"]["front"].as_u64().unwrap();
    assert_eq!(marked(&owner, id, "front", revision, &case["input"]["front"]["marks_mm"]).status, 200);
    let mended = drawn(&owner, id);
    assert_eq!(mended["asks"], json!([]));
    let stale = owner.put(
        &format!("/api/drapes/{id}/answers"),
        &json!({
        "revision": mended["seen"]["drape"], "key": doubt, "yes": true, "initials": "mh" }),
    );
    assert_eq!((stale.status, stale.body["pointer"].as_str()), (422, Some("/key")));

    // What was looked at is what is kept: a click in between is told.
    let seen = answered(&owner, id)["seen"].clone();
    let front = owner.get(&format!("/api/drapes/{id}")).body["front"]["marked"]["marks"].clone();
    assert_eq!(marked(&owner, id, "front", seen["front"].as_u64().unwrap(), &front).status, 200);
    assert_eq!(owner.post(&format!("/api/drapes/{id}/block"), &keep(&seen)).status, 409);
}

#[test]
fn two_people_mark_front_and_back_at_once_and_one_piece_after_the_other() {
    let house = House::with_demo();
    let owner = house.owner();
    let case = clean_case();
    let id = begun(&owner, &case, json!({}));
    let tip = |x: f64| json!({ "tip": [x, 2.0] });
    assert_eq!(marked(&owner, id, "front", 2, &tip(1.0)).status, 200);
    assert_eq!(marked(&owner, id, "back", 2, &tip(3.0)).status, 200, "another piece is another revision");
    let behind = marked(&owner, id, "front", 2, &tip(9.0));
    assert_eq!(behind.status, 409, "{}", behind.body);
    let view = owner.get(&format!("/api/drapes/{id}")).body;
    assert_eq!(view["front"]["marked"]["marks"], tip(1.0));
    assert_eq!(view["back"]["marked"]["marks"], tip(3.0));
    // The same try, repeated on a bad line, marks once.
    let body = json!({ "revision": 3, "marked": { "by": "typing", "marks": tip(5.0) } });
    for _ in 0..2 {
        let path = format!("/api/drapes/{id}/pieces/front");
        let answer =
            owner.put_with(&path, ("idempotency-key", "6a2f3df4-6f0e-4c9e-9a53-6a3d5e7c0001"), &body);
        assert_eq!((answer.status, &answer.body["revision"]), (200, &json!(4)));
    }
}

#[test]
fn a_mark_is_kept_to_the_last_digit() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = begun(&owner, &clean_case(), json!({}));
    let marks = json!({ "tip": [127.337_492_118_6, -0.000_213_4], "neckline_dots": [[0.1, 1e-7], [33.333_333_333_333_336, 7.0]] });
    assert_eq!(marked(&owner, id, "back", 2, &marks).status, 200);
    assert_eq!(owner.get(&format!("/api/drapes/{id}")).body["back"]["marked"]["marks"], marks);
}

#[test]
fn what_cannot_be_meant_gets_its_sentence_and_nothing_that_was_clicked_is_lost() {
    let house = House::with_demo();
    let owner = house.owner();
    let case = clean_case();
    let id = begun(&owner, &case, json!({}));
    let says = |marks: Value| {
        let revision = drawn(&owner, id)["seen"]["front"].as_u64().unwrap();
        assert_eq!(marked(&owner, id, "front", revision, &marks).status, 200, "it is kept all the same");
        drawn(&owner, id)["refusal"]["says"].as_str().unwrap_or_default().to_owned()
    };
    let without = |names: &[&str]| {
        let mut marks = case["input"]["front"]["marks_mm"].clone();
        for name in names {
            marks.as_object_mut().unwrap().remove(*name);
        }
        marks
    };
    assert!(says(without(&["waist_dart_out"])).contains("one leg only"));
    assert!(says(without(&["tip", "across"])).contains("shoulder tip and across"));
    assert!(says(json!({})).contains("click what is missing"));

    // A photograph that is none, sheets without corners.
    let path = format!("/api/drapes/{id}/pieces/front/photograph");
    let none = owner.send(&path, "6a2f3df4-6f0e-4c9e-9a53-6a3d5e7c0002", b"pins, chalk, muslin");
    assert_eq!((none.status, none.body["pointer"].as_str()), (422, Some("/photograph")), "{}", none.body);
    let revision = drawn(&owner, id)["seen"]["front"].as_u64().unwrap();
    let photograph = |sheets: Value| json!({ "revision": revision, "marked": { "by": "photograph", "marks": { "tip": [3, 4] }, "sheets": sheets } });
    let path = format!("/api/drapes/{id}/pieces/front");
    let five =
        json!([{ "width": 297, "height": 210, "corners_px": [[0, 0], [1, 0], [1, 1], [0, 1], [2, 2]] }]);
    assert_eq!(owner.put(&path, &photograph(five)).status, 422);
    let three = json!([{ "width": 297, "height": 210, "corners_px": [[0, 0], [1, 0], [1, 1]] }]);
    assert_eq!(owner.put(&path, &photograph(three)).status, 200);
    assert!(drawn(&owner, id)["refusal"]["says"].as_str().unwrap().contains("no photograph yet"));
    assert_eq!(
        owner.get(&format!("/api/drapes/{id}")).body["front"]["marked"]["marks"],
        json!({ "tip": [3.0, 4.0] })
    );
}

#[test]
fn the_photographs_of_a_client_go_with_her_and_stand_in_her_file() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.garment_of("Edda")["client_id"].clone();
    let id = begun(&owner, &clean_case(), json!({ "client": client }));
    let picture = include_bytes!("../../../server/src/demo/toile-front.jpg");
    let path = format!("/api/drapes/{id}/pieces/front/photograph");
    let taken = owner.send(&path, "6a2f3df4-6f0e-4c9e-9a53-6a3d5e7c0003", picture);
    assert_eq!((taken.status, &taken.body["picture"]), (200, &json!([2400, 1800])), "{}", taken.body);
    assert_eq!(&owner.bytes(&path)[..2], [0xff, 0xd8]);
    let packed = owner.everything_of(&client);
    let mut file = zip::ZipArchive::new(std::io::Cursor::new(packed)).unwrap();
    let names: Vec<String> = file.file_names().map(|name| name.unwrap().into_owned()).collect();
    assert!(
        names.iter().any(|name| name.starts_with("drapes/") && name.ends_with("/front.jpg")),
        "{names:?}"
    );
    let marks = names.iter().find(|name| name.ends_with("/marks.json")).unwrap().clone();
    let marks: Value = serde_json::from_reader(file.by_name(&marks).unwrap()).unwrap();
    assert!(marks["front"]["marks"]["centre_top"].is_array(), "{marks}");

    assert_eq!(owner.delete(&format!("/api/clients/{client}")).status, 204);
    assert_eq!(owner.get(&format!("/api/drapes/{id}")).status, 404);
    assert_eq!(owner.whole(&path).0, 404);
}

#[test]
fn a_drape_is_taken_out_and_put_back() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = begun(&owner, &clean_case(), json!({}));
    let listed = || owner.get("/api/drapes").body.as_array().unwrap().iter().any(|each| each["id"] == id);
    assert!(listed());
    assert_eq!(owner.delete(&format!("/api/drapes/{id}")).status, 204);
    assert!(!listed());
    assert_eq!(owner.get(&format!("/api/drapes/{id}/drawn")).status, 404);
    assert_eq!(owner.post(&format!("/api/drapes/{id}/restore"), &json!({})).status, 204);
    assert!(listed());
}

#[test]
fn a_path_file_and_a_mark_by_two_distances_are_read_and_nothing_is_kept() {
    let house = House::with_demo();
    let owner = house.owner();
    let file =
        r#"<svg width="100mm" height="100mm" viewBox="0 0 50 50"><path id="front" d="M0 0H40V40H0Z"/></svg>"#;
    let read = owner.post("/api/drape-outlines", &json!({ "file": file })).body;
    assert_eq!((&read["mm_per_unit"], &read["outlines"][0]["name"]), (&json!(2.0), &json!("front")));
    let square = json!({ "file": file, "square": { "outline": 0, "side_mm": 100 } });
    assert_eq!(owner.post("/api/drape-outlines", &square).body["mm_per_unit"], json!(2.5));
    let wrong = owner.post("/api/drape-outlines", &json!({ "file": "pins" }));
    assert_eq!((wrong.status, wrong.body["pointer"].as_str()), (422, Some("/file")));

    let ask = |one: f64, other: f64| {
        let body = json!({ "one": { "at": [0, 0], "mm": one }, "other": { "at": [100, 0], "mm": other } });
        owner.post("/api/drape-places", &body)
    };
    assert_eq!(ask(60.0, 80.0).body["places"], json!([[36.0, 48.0], [36.0, -48.0]]));
    assert!(ask(30.0, 40.0).detail().contains("do not meet"));
    assert!(ask(1e200, 1e200).detail().contains("too far off"));
}

#[test]
fn the_cloth_is_reckoned_for_a_form_when_its_figures_are_there() {
    let house = House::with_demo();
    let owner = house.owner();
    let figure = |code: &str, text: &str| json!({ "code": code, "text": text });
    let mut figures = vec![figure("bust_girth", "36 1/4"), figure("nape_to_waist_back", "16")];
    let form = owner.post("/api/forms", &json!({ "name": "Linen form, size 12", "figures": figures })).id();
    let missing = owner.get(&format!("/api/cloth?form={form}")).body;
    assert!(missing["sheet"].is_null() && missing["missing"].to_string().contains("Bust span"), "{missing}");
    assert_eq!(owner.whole(&format!("/api/cloth.pdf?form={form}")).0, 422);
    for (code, text) in [
        ("bust_span", "7 1/2"),
        ("snp_to_bust_point", "10 1/2"),
        ("snp_to_waist_front", "17 1/4"),
        ("across_front", "13 1/2"),
        ("across_back", "14"),
    ] {
        figures.push(figure(code, text));
    }
    let change = json!({ "revision": 1, "name": "Linen form, size 12", "figures": figures });
    assert_eq!(owner.put(&format!("/api/forms/{form}"), &change).status, 200);
    let view = owner.get(&format!("/api/cloth?form={form}")).body;
    assert_eq!(view["of"], "Linen form, size 12");
    let width = &view["sheet"]["cloths"][0]["figures"][1];
    // 36 1/4 / 4 = 9 1/16, and 4.
    assert_eq!((&width["name"], &width["shown"]["text"]), (&json!("width"), &json!("13 1/16")));
    assert_eq!(&owner.bytes(&format!("/api/cloth.pdf?form={form}"))[..5], b"%PDF-");
    // A draft straight from its figures, once they say enough.
    let entry = json!({ "method": { "kind": "proportional" } });
    let wanting = owner.post(&format!("/api/forms/{form}/blocks"), &entry);
    assert_eq!(
        (wanting.status, wanting.body["pointer"].as_str()),
        (422, Some("/readings")),
        "{}",
        wanting.body
    );
    figures.push(figure("waist_girth", "28"));
    let change = json!({ "revision": 2, "name": "Linen form, size 12", "figures": figures });
    assert_eq!(owner.put(&format!("/api/forms/{form}"), &change).status, 200);
    let kept = owner.post(&format!("/api/forms/{form}/blocks"), &entry);
    assert_eq!(kept.status, 201, "{}", kept.body);
    let block = owner.get(&format!("/api/blocks/{}", kept.id())).body;
    assert_eq!(block["block"]["name"], "Linen form, size 12, own block");
    assert!(block["block"]["client_id"].is_null());
    let neither = owner.get("/api/cloth");
    assert_eq!((neither.status, neither.body["pointer"].as_str()), (422, Some("/client")));
}

#[test]
fn the_guide_says_where_the_dart_goes_for_a_client_and_names_what_is_missing() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.garment_of("Clara")["client_id"].clone();
    let proposed = owner.get(&format!("/api/draping-guide?client={client}&piece=front")).body;
    let guide = &proposed["guide"];
    let ways = guide["ways"].as_array().unwrap_or_else(|| panic!("{proposed}"));
    assert_eq!(ways[0]["goes"], guide["goes"], "the proposed one is shown");
    assert_eq!(ways[0]["doubt"], Value::Null);
    let says = guide["steps"].to_string();
    assert!(says.contains("ruled grain") && says.contains("takes") && says.contains("Pinch ease"), "{says}");
    let side = owner.get(&format!("/api/draping-guide?client={client}&piece=front&goes=side&two=true")).body;
    assert_eq!((&side["guide"]["goes"], &side["guide"]["two"]), (&json!("side"), &json!(true)), "{side}");
    let back = owner.get(&format!("/api/draping-guide?client={client}&piece=back&goes=armhole")).body;
    assert_eq!(back["guide"]["goes"], "armhole", "{back}");
    let bare = owner.post("/api/forms", &json!({ "name": "Bare", "figures": [], "levels": [] })).id();
    let missing = owner.get(&format!("/api/draping-guide?form={bare}&piece=front")).body;
    assert!(missing["guide"].is_null() && missing["missing"].to_string().contains("Bust girth"), "{missing}");
    assert_eq!(owner.get("/api/draping-guide?piece=front").status, 422);
    assert_eq!(owner.get(&format!("/api/draping-guide?client={client}&piece=sleeve")).status, 400);
}

/// A back cut 4 in below the nape and opened by 5/8 about a hinge 7 in from the centre, the centre drawn in: worked by hand, in
/// millimetres.
fn slashed_marks() -> Value {
    json!({
        "centre_top": [9.0, -115.9], "centre_waist": [0.0, 260.0],
        "centre_dots": [[0.0, 60.0], [0.0, 130.0], [0.0, 200.0]],
        "slash_lower_dots": [[0.0, 0.0], [60.0, 0.0], [120.0, 0.0]],
        "slash_upper_dots": [[0.0, -15.9], [60.0, -10.5], [120.0, -5.2]],
        "drawn_centre_dots": [[0.0, 0.0], [0.6, -29.0], [2.2, -58.0], [5.1, -87.0]]
    })
}

#[test]
fn a_back_that_was_slashed_on_her_sets_a_rounded_back_and_makes_no_block() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = owner.garment_of("Edda")["client_id"].clone();
    let entry = json!({ "name": "Her back, first toile", "material": "slashed", "client": client });
    let id = owner.post("/api/drapes", &entry).id();
    let path = format!("/api/drapes/{id}");
    let view = owner.get(&path).body;
    assert_eq!((&view["material"], &view["slashed"]), (&json!("slashed"), &json!(true)));
    assert_eq!(view["front"]["wanted"], json!([]), "a slashed back has no front");
    let wanted: Vec<&str> = view["back"]["wanted"]
        .as_array()
        .unwrap()
        .iter()
        .map(|each| each["mark"].as_str().unwrap())
        .collect();
    assert_eq!(
        wanted,
        [
            "centre_top",
            "centre_waist",
            "centre_dots",
            "slash_lower_dots",
            "slash_upper_dots",
            "drawn_centre_dots"
        ]
    );
    let listed = owner.get(&format!("/api/drapes?client={client}")).body;
    assert!(listed.as_array().unwrap().iter().any(|each| each["id"] == id && each["slashed"] == true));

    // What is missing is named, and nothing that is marked is lost.
    let slashed = format!("{path}/slashed");
    let says = owner.get(&slashed).body["refusal"]["says"].as_str().unwrap().to_owned();
    assert!(says.contains("dots above the slash"), "{says}");
    assert_eq!(marked(&owner, id, "back", 1, &slashed_marks()).status, 200);
    let read = owner.get(&slashed).body["read"].clone();
    let amount = |code: &str| read["amounts"][code].as_f64().unwrap();
    assert!((amount("amount") - 15.9).abs() < 0.06 && (amount("level") - 100.4).abs() < 0.1, "{read}");
    assert_eq!(read["amounts"]["finish"], "seam");
    assert!((amount("pinned_half_way") - 2.2).abs() < 0.4 && amount("pinned_at_level") < 0.3, "{read}");
    assert_eq!(read["gaps"].as_array().unwrap().len(), 3);
    assert_eq!(read["asks"], json!([]));

    // The step it sets is done on her pattern, and the seam runs where she drew it.
    let pattern = owner.garment_of("Edda")["pattern_id"].clone();
    let step = |amounts: &Value| {
        let recipe = json!({ "form": 1, "steps": [
            { "id": 1, "alteration": "rounded_back", "amounts": amounts, "on": true, "reason": "" }] });
        owner.post(&format!("/api/patterns/{pattern}/preview"), &json!({ "recipe": recipe })).body
    };
    let (hers, house_curve) =
        (step(&read["amounts"]), step(&json!({ "amount": amount("amount"), "level": amount("level") })));
    assert_eq!(hers["steps"][0]["state"], "done", "{}", hers["steps"][0]);
    assert_ne!(hers["now"], house_curve["now"], "it takes the place of the house's curve");

    // It is no block, and a toile is no slashed back.
    assert!(drawn(&owner, id)["refusal"]["says"].as_str().unwrap().contains("makes no block"));
    let seen = drawn(&owner, id)["seen"].clone();
    let keep = json!({ "name": "Her block", "why": "to try", "seen": seen });
    assert_eq!(owner.post(&format!("{path}/block"), &keep).status, 422);
    let other = owner.post("/api/drapes", &json!({ "name": "A toile" })).id();
    let told = owner.get(&format!("/api/drapes/{other}/slashed")).body;
    assert!(told["read"].is_null() && told["refusal"]["says"].as_str().unwrap().contains("becomes a block"));
}
