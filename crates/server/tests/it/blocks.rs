//! Blocks, nests, cards, size tables, house methods and plans as a client of the API meets them.

use crate::common::{Asker, House};
use serde_json::{Value, json};

fn client_of(owner: &Asker, name: &str) -> u64 {
    owner.garment_of(name)["client_id"].as_u64().unwrap()
}

fn master(owner: &Asker) -> u64 {
    let blocks = owner.get("/api/blocks").body;
    let found = blocks.as_array().unwrap().iter().find(|block| block["name"] == "House master, bodice");
    found.unwrap()["id"].as_u64().unwrap()
}

#[test]
fn a_draft_is_told_step_by_step_and_laid_beside_the_other_method() {
    let house = House::with_demo();
    let owner = house.owner();
    let ask = json!({
        "source": { "from": "table", "table": "medium", "size": "12" },
        "method": { "kind": "direct", "with_sleeve": true },
        "beside": "proportional",
    });
    let draft = owner.post("/api/drafting/preview", &ask).body;
    assert_eq!(draft["refused"], Value::Null);
    assert_eq!(draft["drawn"]["pieces"].as_array().unwrap().len(), 3, "front, back and sleeve");
    let steps = draft["steps"].as_array().unwrap();
    assert!(steps.len() >= 12);
    let width = &steps[0]["lines"][0];
    assert_eq!(width["formula"], "neck base girth / 5 − neck width, less");
    assert_eq!(width["put_in"], "14.567 / 5 − 0.125");
    for check in draft["drawn"]["checks"].as_array().unwrap() {
        assert_eq!(check["passed"], true, "{check}");
    }
    let differences = draft["beside"]["differences"].as_array().unwrap();
    assert!(!differences.is_empty());
    assert!(differences.iter().all(|row| row["difference"]["mm"].as_f64().unwrap().abs() > 5.0));

    let constants = json!({ "neck_width_less": "0", "waist_dart_keeps": "1" });
    let mut changed = ask.clone();
    changed["method"]["constants"] = constants;
    let other = owner.post("/api/drafting/preview", &changed).body;
    let of = |body: &Value, code: &str| {
        let rows = body["parameters"].as_array().unwrap();
        rows.iter().find(|row| row["code"] == code).unwrap().clone()
    };
    assert_eq!(
        (of(&other, "waist_dart_keeps")["value"].clone(), of(&other, "waist_dart_keeps")["changed"].clone()),
        (json!("1 in"), json!(true))
    );
    assert_ne!(draft["drawn"]["pieces"], other["drawn"]["pieces"]);
    let sheet = owner.bytes(&format!("/api/drafting/sheet.pdf?ask={}", encoded(&ask)));
    assert_eq!(&sheet[..5], b"%PDF-");
}

/// Percent-encoded for a query.
fn encoded(value: &Value) -> String {
    value.to_string().bytes().map(|byte| format!("%{byte:02X}")).collect()
}

#[test]
fn every_bad_figure_of_a_draft_gets_its_sentence_and_nothing_is_kept() {
    let house = House::with_demo();
    let owner = house.owner();
    let before = owner.get("/api/blocks").body;
    let table = |size: &str| json!({ "from": "table", "table": "medium", "size": size });
    for (ask, pointer, says) in [
        (json!({ "source": table("99") }), "/source/size", "no size 99"),
        (json!({ "source": { "from": "table", "table": "none", "size": "1" } }), "/table", "no size table"),
        (json!({ "source": table("12"), "ease_set": "wide" }), "/ease_set", "no ease set"),
        (
            json!({ "source": table("12"), "method": { "constants": { "front_share": "12" } } }),
            "/method/constants/front_share",
            "must lie between 0 in and 1 1/8 in",
        ),
        (
            json!({ "source": table("12"), "method": { "constants": { "front_share": "wide" } } }),
            "/method/constants/front_share",
            "Front's share",
        ),
        (
            json!({ "source": table("12"), "method": { "constants": { "nonsense": "1" } } }),
            "/method/constants/nonsense",
            "no constant",
        ),
        (
            json!({ "source": table("12"), "method": { "house_method": 999 } }),
            "/method/house_method",
            "no such method",
        ),
    ] {
        let answer = owner.post("/api/drafting/preview", &ask);
        assert_eq!(answer.status, 422, "{ask}");
        assert_eq!(answer.body["pointer"], pointer, "{ask}");
        assert!(answer.detail().contains(says), "{ask}: {}", answer.detail());
    }
    // A size that is refused keeps the whole master from being made, and says which size.
    let entry = json!({ "name": "Odd", "why": "To see.", "table": "medium", "sizes": ["8", "77"] });
    let answer = owner.post("/api/blocks", &entry);
    assert!(answer.status == 422 && answer.detail().contains("no size 77"), "{}", answer.detail());
    let nameless = owner.post("/api/blocks", &json!({ "name": " ", "why": "x", "table": "medium" }));
    assert_eq!(nameless.body["pointer"], "/name");
    assert_eq!(owner.get("/api/blocks").body, before, "nothing half saved");
}

#[test]
fn a_contradiction_names_both_readings_and_what_either_would_have_to_be() {
    let house = House::with_demo();
    let owner = house.owner();
    let client = client_of(&owner, "Bettina");
    let session =
        owner.post(&format!("/api/clients/{client}/sessions"), &json!({ "codes": ["side_length"] })).id();
    owner
        .post(
            &format!("/api/sessions/{session}/readings"),
            &json!({ "code": "side_length", "text": "2 1/2", "stands": "MH" }),
        )
        .id();
    let ask = json!({ "source": { "from": "client", "client": client } });
    let draft = owner.post("/api/drafting/preview", &ask).body;
    let conflicts = draft["conflicts"].as_array().unwrap();
    assert_eq!(conflicts.len(), 2, "{draft}");
    for conflict in conflicts {
        assert!(conflict["would_be"].as_f64().is_some() || conflict["would_be"].is_null());
    }
    assert!(draft["refused"].as_str().unwrap().contains("would have to be at least"), "{}", draft["refused"]);
    assert!(draft["drawn"].is_null());
    assert_eq!(owner.post(&format!("/api/clients/{client}/blocks"), &json!({})).status, 422);
}

#[test]
fn a_master_gets_versions_and_is_traced_without_being_touched() {
    let house = House::with_demo();
    let owner = house.owner();
    let entry = json!({ "name": "Trial bodice", "why": "A first nest.", "table": "medium" });
    let first = owner.post("/api/blocks", &entry).id();
    let second = owner
        .post(
            "/api/blocks",
            &json!({ "name": "Trial bodice", "why": "Again.", "table": "medium", "sizes": ["10", "12"] }),
        )
        .id();
    let of = |id: u64| owner.get(&format!("/api/blocks/{id}")).body;
    assert_eq!(
        (of(first)["block"]["version"].clone(), of(second)["block"]["version"].clone()),
        (json!(1), json!(2))
    );
    assert_eq!(of(second)["block"]["sizes"], json!(["10", "12"]));
    let labels = of(first)["sizes"][0]["drawn"]["checks"]
        .as_array()
        .unwrap()
        .iter()
        .find(|c| c["code"] == "labels")
        .cloned();
    assert_eq!(labels.unwrap()["passed"], true);

    let before = of(first);
    let at =
        owner.post(&format!("/api/blocks/{first}/trace"), &json!({ "by": "bust", "girth": "88 cm" })).body;
    assert!(at["says"].as_str().unwrap().starts_with("Traced at size 12"), "{}", at["says"]);
    assert_eq!(at["drawn"]["pieces"], before["sizes"][2]["drawn"]["pieces"], "at a size it is the size");
    let between =
        owner.post(&format!("/api/blocks/{first}/trace"), &json!({ "by": "bust", "girth": "86 cm" })).body;
    assert!(between["dots"].as_array().unwrap().iter().any(|dot| dot["used"] == false));
    assert_eq!(between["around"].as_array().unwrap().len(), 2);
    for (ask, says) in [
        (json!({ "by": "bust", "girth": "120 cm" }), "outside the nest"),
        (json!({ "by": "bust" }), "type the girth"),
        (json!({ "by": "bust", "girth": "wide" }), ""),
    ] {
        let answer = owner.post(&format!("/api/blocks/{first}/trace"), &ask);
        assert_eq!((answer.status, answer.body["pointer"].clone()), (422, json!("/girth")), "{ask}");
        assert!(answer.detail().contains(says), "{}", answer.detail());
    }
    let client = client_of(&owner, "Bettina");
    let ask = json!({ "by": "upper_bust", "client": client, "shoulder": true, "why": "For her coat." });
    let nest = master(&owner);
    let before = of(nest);
    let kept = owner.post(&format!("/api/blocks/{nest}/traces"), &ask).id();
    let traced = of(kept);
    assert_eq!(traced["block"]["how"], "traced");
    assert!(traced["told"].as_str().unwrap().contains("Shoulder set"), "{}", traced["told"]);
    assert_eq!(traced["parent"]["id"], json!(nest));
    assert_eq!(of(nest)["sizes"], before["sizes"], "the master stays as it was");
}

#[test]
fn a_card_is_compared_planned_and_printed_but_not_cut() {
    let house = House::with_demo();
    let owner = house.owner();
    let forms = owner.get("/api/cards").body;
    for form in forms.as_array().unwrap() {
        let fields = form["figures"].as_array().unwrap();
        let needed = fields.iter().filter(|field| field["needed"] == true).count();
        assert!((2..=3).contains(&needed) && fields.len() > 8, "{form}");
    }
    let card = |sizes: Value| json!({ "name": "Card of an old bodice", "why": "Bought.", "sizes": sizes });
    let little = card(json!([{ "label": "12", "figures": { "bust": "37" } }]));
    let answer = owner.post("/api/cards", &little);
    assert_eq!((answer.status, answer.body["pointer"].clone()), (422, json!("/sizes/0/figures")));
    assert!(answer.detail().contains("too little of size 12"), "{}", answer.detail());
    let enough = json!({ "bust": "37", "waist": "28", "shoulder_front": "5" });
    let with = |key: &str, text: &str| {
        let mut figures = enough.clone();
        figures[key] = json!(text);
        figures
    };
    for (sizes, pointer) in [
        (json!([]), "/sizes"),
        (json!([{ "label": "12", "figures": with("bust", "37x") }]), "/sizes/0/figures/bust"),
        (json!([{ "label": "12", "figures": with("leg_hem", "9") }]), "/sizes/0/figures/leg_hem"),
        (
            json!([{ "label": "12", "figures": enough, "made_for": { "bust_girth": "?" } }]),
            "/sizes/0/made_for/bust_girth",
        ),
        (
            json!([{ "label": "12", "figures": enough, "made_for": { "hip_girth": "38" } }]),
            "/sizes/0/made_for/hip_girth",
        ),
        (
            json!([{ "label": "12", "figures": enough }, { "label": "12", "figures": enough }]),
            "/sizes/1/label",
        ),
        (
            json!([{ "label": "12", "figures": enough }, { "label": " ", "figures": enough }]),
            "/sizes/1/label",
        ),
    ] {
        let answer = owner.post("/api/cards", &card(sizes));
        assert_eq!(
            (answer.status, answer.body["pointer"].clone()),
            (422, json!(pointer)),
            "{}",
            answer.detail()
        );
    }

    let entry = card(json!([{ "label": "12", "made_for": { "bust_girth": "34", "upper_bust_girth": "32" },
        "figures": { "bust": "37", "waist": "27 1/2", "shoulder_front": "4 3/4", "centre_back": "15 1/2" } }]));
    let card = owner.post("/api/cards", &entry).id();
    let order = owner.garment_of("Bettina")["id"].as_u64().unwrap();
    let view = owner.get(&format!("/api/orders/{order}/comparison?block={card}")).body;
    assert_eq!(view["block_pieces"], json!([]));
    assert_eq!(view["comparison"]["rows"].as_array().unwrap().len(), 4);
    assert!(!view["plan"]["lines"].as_array().unwrap().is_empty());
    assert_eq!(view["plan"]["predictions"], json!([]));
    let begun = owner.post(
        &format!("/api/orders/{order}/pattern"),
        &json!({ "block_id": card, "size": "12", "recipe": { "form": 1, "steps": [] } }),
    );
    assert_eq!(begun.status, 422);
    assert!(begun.detail().contains("no geometry"), "{}", begun.detail());
    assert_eq!(&owner.bytes(&format!("/api/orders/{order}/plan.pdf"))[..5], b"%PDF-");
}

/// The bought trousers of the demo: a garment measured for trousers is compared with them without being told.
#[test]
fn trousers_are_compared_with_their_card_and_planned_for_the_paper() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let orders = owner.get("/api/orders").body;
    let trousers =
        { orders.as_array().unwrap().iter() }.find(|order| order["garment"] == "Concert trousers").unwrap();
    let order = trousers["id"].as_u64().unwrap();
    let view = owner.get(&format!("/api/orders/{order}/comparison")).body;
    let card = view["block_id"].as_u64().unwrap();
    assert_eq!(view["sizes"], json!(["10", "12", "14"]));
    assert_eq!(view["ease"]["code"], "trousers");
    let said = view["of_block"].to_string();
    assert!(said.contains("neither drafted nor altered here"), "{said}");
    assert_eq!(view["own_refused"], view["of_block"][0], "no draft of trousers is promised");
    let rows = view["comparison"]["rows"].as_array().unwrap();
    let read = |figure: &str| rows.iter().find(|row| row["figure"] == figure).unwrap()["measurement"].clone();
    assert_eq!(read("leg_at_crotch"), "thigh_slant_girth");
    assert_eq!(
        (read("leg_at_knee"), read("leg_hem")),
        (json!("trouser_knee_girth"), json!("trouser_hem_girth"))
    );
    assert!(rows.iter().all(|row| row["grade"] != "missing"), "{rows:?}");
    let lines = view["plan"]["lines"].as_array().unwrap();
    assert!(!lines.is_empty() && lines.iter().all(|line| line["by_hand"].is_string()), "{lines:?}");
    // A line set by hand comes back as it was set, and the worksheet is printed with it.
    let changes = json!({ "off": [], "amounts": { "crotch_length": 20.0 }, "order": [] });
    let entry = json!({ "revision": view["plan_revision"], "block_id": card, "size": view["size"], "ease_set": "trousers", "changes": changes });
    let kept = owner.put(&format!("/api/orders/{order}/plan"), &entry);
    assert_eq!(kept.status, 200, "{}", kept.detail());
    let again = owner.get(&format!("/api/orders/{order}/comparison")).body;
    assert_eq!(again["changes"]["amounts"]["crotch_length"], 20.0);
    assert_eq!(&owner.bytes(&format!("/api/orders/{order}/plan.pdf"))[..5], b"%PDF-");
    // Beside a bodice she is told that it is none.
    let blocks = view["blocks"].as_array().unwrap();
    let bodice = { blocks.iter() }.find(|block| block["garment"] == "bodice").unwrap()["id"].clone();
    let beside = owner.get(&format!("/api/orders/{order}/comparison?block={bodice}")).body;
    assert!(
        beside["of_block"][0].as_str().unwrap().contains("measured as trousers"),
        "{}",
        beside["of_block"]
    );
    let begun = json!({ "block_id": card, "size": "14", "recipe": { "form": 1, "steps": [] } });
    assert_eq!(owner.post(&format!("/api/orders/{order}/pattern"), &begun).status, 422);
}

#[test]
fn a_broken_size_table_is_told_line_by_line_and_a_good_one_is_drafted_from() {
    let house = House::with_demo();
    let owner = house.owner();
    let broken = "measurement,unit,36,38\nBust girth,cm,84,wide\nElbow room,cm,1,2\n";
    let read = owner.post("/api/house/size-tables/preview", &json!({ "csv": broken })).body;
    let lines: Vec<u64> =
        read["problems"].as_array().unwrap().iter().map(|p| p["line"].as_u64().unwrap()).collect();
    assert_eq!(lines, [1, 2, 3], "{read}");
    let kept = owner.post("/api/house/size-tables", &json!({ "name": "Ours", "csv": broken }));
    assert_eq!((kept.status, kept.body["pointer"].clone()), (422, json!("/csv")));
    assert!(kept.detail().contains("and 2 more"), "{}", kept.detail());
    assert_eq!(owner.get("/api/drafting").body["tables"].as_array().unwrap().len(), 2, "nothing half saved");

    let good = "measurement,unit,36,38,40\nBust girth,cm,84,88,92\nWaist girth,cm,66,70,74\nHip girth,cm,90,94,98\n\
                Nape to waist, back,cm,40,40.5,41\n";
    let bad_name = owner.post("/api/house/size-tables/preview", &json!({ "csv": good })).body;
    assert_eq!(
        bad_name["problems"].as_array().unwrap().len(),
        1,
        "an unquoted comma shifts the line: {bad_name}"
    );
    let good = good.replace("Nape to waist, back", "nape_to_waist_back");
    let id = owner.post("/api/house/size-tables", &json!({ "name": "Ours", "csv": good })).id();
    let twice = owner.post("/api/house/size-tables", &json!({ "name": "Ours", "csv": good }));
    assert_eq!(twice.status, 409, "{}", twice.detail());
    let entry = json!({ "name": "From our table", "why": "Trial.", "table": format!("house-{id}") });
    let block = owner.post("/api/blocks", &entry).id();
    assert_eq!(owner.get(&format!("/api/blocks/{block}")).body["block"]["sizes"], json!(["36", "38", "40"]));
}

#[test]
fn the_house_keeps_methods_and_ease_sets_of_its_own() {
    let house = House::with_demo();
    let owner = house.owner();
    let method = json!({ "name": "Deep armhole", "method": { "kind": "direct", "constants": { "below_armpit": "1 1/4" } } });
    let id = owner.post("/api/house/methods", &method).id();
    let ask = json!({ "source": { "from": "table", "table": "medium", "size": "12" }, "method": { "house_method": id } });
    let draft = owner.post("/api/drafting/preview", &ask).body;
    let row = draft["parameters"]
        .as_array()
        .unwrap()
        .iter()
        .find(|row| row["code"] == "below_armpit")
        .cloned()
        .unwrap();
    assert_eq!((row["value"].clone(), row["changed"].clone()), (json!("1 1/4 in"), json!(true)));

    let entry = json!({ "name": "Knit", "note": "Jersey.", "wearing": { "bust": "-1", "waist": "1/2" },
        "design": { "bust": "2" }, "stretch": "-5", "reach": true });
    let ease = owner.post("/api/house/ease-sets", &entry).id();
    let order = owner.garment_of("Bettina")["id"].as_u64().unwrap();
    let view = owner.get(&format!("/api/orders/{order}/comparison?ease=house-{ease}")).body;
    let bust = view["comparison"]["rows"]
        .as_array()
        .unwrap()
        .iter()
        .find(|row| row["figure"] == "bust")
        .cloned()
        .unwrap();
    let body = bust["body"]["mm"].as_f64().unwrap();
    let wanted = body * 0.95 - 25.4 + 50.8;
    assert!((bust["target"]["mm"].as_f64().unwrap() - wanted).abs() < 1e-6, "{bust}");
    for (field, text) in [("wearing", json!({ "bust": "a" })), ("design", json!({ "hip": "99" }))] {
        let mut wrong = entry.clone();
        wrong["name"] = json!("Other");
        wrong[field] = text;
        let answer = owner.post("/api/house/ease-sets", &wrong);
        assert_eq!(answer.status, 422);
        assert!(
            answer.body["pointer"].as_str().unwrap().starts_with(&format!("/{field}/")),
            "{}",
            answer.body
        );
    }
    let mut wrong = entry.clone();
    wrong["wearing"]["wrist"] = json!("wide");
    let answer = owner.post("/api/house/ease-sets", &wrong);
    assert_eq!((answer.status, &answer.body["pointer"]), (422, &json!("/wearing/wrist")));
    let own = owner.get("/api/house/ease-sets").body;
    let mut kept = own.as_array().unwrap().iter().map(|view| &view["set"]);
    let knit = kept.find(|set| set["name"] == "Knit").unwrap();
    assert_eq!(
        (&knit["elbow"], &knit["wrist"]),
        (&Value::Null, &Value::Null),
        "as at the upper arm: not nothing"
    );
    let mut change = entry.clone();
    change["revision"] = json!(1);
    change["wearing"]["upper_arm"] = json!("1 1/2");
    change["wearing"]["elbow"] = json!("2");
    change["wearing"]["wrist"] = json!("0");
    assert_eq!(owner.put(&format!("/api/house/ease-sets/{ease}"), &change).status, 204);
    let own = owner.get("/api/house/ease-sets").body;
    let set = &own.as_array().unwrap().iter().find(|view| view["id"] == ease).unwrap()["set"];
    assert_eq!(
        (&set["elbow"], &set["wrist"]),
        (&json!(50.8), &json!(0.0)),
        "nothing typed, and nought typed"
    );
    assert_eq!(
        owner.put(&format!("/api/house/ease-sets/{ease}"), &change).status,
        409,
        "somebody was faster"
    );
}

#[test]
fn a_plan_keeps_what_the_dressmaker_makes_of_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Bettina")["id"].as_u64().unwrap();
    let view = owner.get(&format!("/api/orders/{order}/comparison?block={}", master(&owner))).body;
    let keys: Vec<String> = view["plan"]["lines"]
        .as_array()
        .unwrap()
        .iter()
        .map(|line| line["key"].as_str().unwrap().to_owned())
        .collect();
    assert!(keys.contains(&"bust".to_owned()), "{keys:?}");
    let entry = |revision: u64, changes: Value| json!({ "revision": revision, "block_id": view["block_id"], "size": view["size"], "ease_set": view["ease"]["code"], "changes": changes });
    let path = format!("/api/orders/{order}/plan");
    let none = json!({ "off": [], "amounts": {}, "order": [] });
    let off = owner.put(&path, &entry(0, json!({ "off": ["bust"], "amounts": {}, "order": [] }))).body;
    assert_eq!(off["revision"], 1);
    let line =
        off["plan"]["lines"].as_array().unwrap().iter().find(|line| line["key"] == "bust").cloned().unwrap();
    assert_eq!(line["done"], false);
    assert_eq!(
        owner.put(&path, &entry(0, none.clone())).status,
        409,
        "based on nothing while something is kept"
    );
    let by_hand =
        owner.put(&path, &entry(1, json!({ "off": [], "amounts": { "bust": 12.7 }, "order": [] }))).body;
    let line = by_hand["plan"]["lines"]
        .as_array()
        .unwrap()
        .iter()
        .find(|line| line["key"] == "bust")
        .cloned()
        .unwrap();
    assert_eq!((line["amount"]["text"].clone(), line["planned"].is_null()), (json!("1/2"), false));
    let again = owner.get(&format!("/api/orders/{order}/comparison")).body;
    assert_eq!(
        (again["plan_revision"].clone(), again["plan"]["lines"].clone()),
        (json!(2), by_hand["plan"]["lines"].clone())
    );
    let wild = owner.put(&path, &entry(2, json!({ "off": [], "amounts": { "bust": 900.0 }, "order": [] })));
    assert_eq!(wild.body["pointer"], "/changes/amounts/bust");
    if keys.contains(&"waist".to_owned()) {
        let order = json!({ "off": [], "amounts": {}, "order": ["waist", "bust"] });
        let broken = owner.put(&path, &entry(2, order));
        assert_eq!(broken.status, 422);
        assert!(broken.detail().contains("cannot come before"), "{}", broken.detail());
    }
}

#[test]
fn a_reader_looks_at_drafts_and_keeps_nothing() {
    let house = House::with_demo();
    let reader = house.stranger();
    let entry = json!({ "email": "guest@workroom.example", "password": "tape and pins" });
    assert_eq!(reader.post("/api/sign-in", &entry).status, 200);
    let ask = json!({ "source": { "from": "table", "table": "medium", "size": "12" } });
    assert_eq!(reader.post("/api/drafting/preview", &ask).status, 200);
    for (path, body) in [
        ("/api/blocks", json!({ "name": "X", "why": "x", "table": "medium" })),
        ("/api/cards", json!({ "name": "X", "why": "x", "sizes": [] })),
        ("/api/house/methods", json!({ "name": "X", "method": {} })),
        ("/api/house/size-tables", json!({ "name": "X", "csv": "" })),
    ] {
        assert_eq!(reader.post(path, &body).status, 403, "{path}");
    }
}
