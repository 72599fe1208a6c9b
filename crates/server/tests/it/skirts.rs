//! A straight skirt through the API: drafted to her wish, offered for what is measured without a bust, fitted for a skirt's
//! own causes, and kept under its own name.

use crate::common::{Asker, House};
use serde_json::{Value, json};

fn skirt_of(owner: &Asker) -> Value {
    let orders = owner.get("/api/orders").body;
    let all = orders.as_array().unwrap();
    all.iter().find(|order| order["garment"] == "Straight skirt, to the knee").unwrap().clone()
}

fn codes(rows: &Value, name: &str) -> Vec<String> {
    rows.as_array().unwrap().iter().map(|row| row[name].as_str().unwrap().to_owned()).collect()
}

#[test]
fn a_skirt_is_drafted_to_her_wish_with_its_own_ease_and_without_a_sleeve() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let client = skirt_of(&owner)["client_id"].clone();
    let ask = |kind: &str| json!({ "source": { "from": "client", "client": client }, "method": { "kind": kind, "with_sleeve": true } });
    let draft = owner.post("/api/drafting/preview", &ask("skirt")).body;
    assert_eq!((&draft["refused"], &draft["ease"]), (&Value::Null, &json!("Straight skirt")));
    assert_eq!(codes(&draft["drawn"]["pieces"], "kind"), ["skirt_front", "skirt_back"]);
    assert!(draft["drawn"]["checks"].as_array().unwrap().iter().all(|check| check["passed"] == true));
    // 25 in as she wishes it, down the side; her waist of 28 1/2 and 3/8.
    let measured = draft["drawn"]["figures"].as_array().unwrap();
    let of = |name: &str| measured.iter().find(|row| row["name"] == name).unwrap()["text"].clone();
    assert_eq!((of("skirt's front side"), of("waist")), (json!("25 in"), json!("28 7/8 in")), "{measured:?}");
    let constants = codes(&draft["parameters"], "code");
    assert!(constants.iter().all(|code| code.starts_with("skirt_")), "{constants:?}");

    let kept =
        owner.post(&format!("/api/clients/{client}/blocks"), &json!({ "method": { "kind": "skirt" } }));
    let block = owner.get(&format!("/api/blocks/{}", kept.id())).body["block"].clone();
    assert_eq!((&block["name"], &block["version"]), (&json!("Katarina Zell, own skirt"), &json!(2)));
    assert_eq!(block["garment"], "skirt");
}

#[test]
fn what_is_measured_without_a_bust_is_compared_with_her_skirt() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let order = skirt_of(&owner)["id"].clone();
    let view = owner.get(&format!("/api/orders/{order}/comparison")).body;
    let block =
        view["blocks"].as_array().unwrap().iter().find(|block| block["id"] == view["block_id"]).unwrap();
    assert_eq!(block["name"], "Katarina Zell, own skirt");
    assert_eq!(view["ease"]["code"], "skirt");
    assert_eq!(
        codes(&view["comparison"]["rows"], "measurement"),
        ["waist_girth", "hip_girth", "waist_to_hip", "top_hip_girth"]
    );
    assert_eq!(codes(&view["choices"]["choices"], "school"), ["hip"]);
    assert_eq!(codes(&view["own_pieces"], "kind"), ["skirt_front", "skirt_back"]);
    // Drafted to her wish already: there is nothing to wish.
    assert_eq!(owner.get(&format!("/api/orders/{order}/wishes")).body, json!([]));
    let name = owner.get(&format!("/api/orders/{order}/lasting")).body["name"].clone();
    assert_eq!(name, "Katarina Zell, own skirt");
}

#[test]
fn a_skirt_on_her_has_the_causes_of_a_skirt() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let order = skirt_of(&owner)["id"].clone();
    let round = owner.post(&format!("/api/orders/{order}/rounds"), &json!({})).id();
    let seen =
        json!({ "place": "front hem", "kind": "hike", "lie": "up", "depth": "1/2", "pinned_as": "tuck" });
    let id = owner.post(&format!("/api/rounds/{round}/observations"), &seen).id();
    let causes = owner.get(&format!("/api/rounds/{round}/causes")).body;
    let own = causes["each"].as_array().unwrap().iter().find(|each| each["observation_id"] == id).unwrap();
    let first = &own["causes"][0];
    assert_eq!(
        (&first["cause"], &first["answer"]["alteration"]),
        (&json!("skirt_belly"), &json!("skirt_belly")),
        "{own}"
    );
    let answers = own["causes"].as_array().unwrap().iter().map(|cause| &cause["answer"]["alteration"]);
    let alterations: Vec<&str> = answers.filter_map(Value::as_str).collect();
    let of_skirts = ["side_seams", "side_seam_place", "hip_curve", "high_hip"];
    assert!(
        alterations.iter().all(|code| code.starts_with("skirt_") || of_skirts.contains(code)),
        "{alterations:?}"
    );
}

#[test]
fn a_master_of_skirts_is_traced_by_the_hip() {
    let house = House::with_demo();
    let owner = house.owner();
    let entry = json!({
        "name": "House skirt", "why": "To begin from.", "table": "medium", "method": { "kind": "skirt" },
        "sizes": ["10", "12"],
    });
    let block = owner.post("/api/blocks", &entry).id();
    let trace = |ask: Value| owner.post(&format!("/api/blocks/{block}/trace"), &ask);
    let traced = trace(json!({ "by": "hip", "girth": "36 1/2" }));
    assert!(traced.body["says"].as_str().unwrap().starts_with("Traced between 10 and 12"), "{}", traced.body);
    let refused = trace(json!({ "by": "hip", "girth": "50" }));
    assert!(refused.status == 422 && refused.detail().contains("outside the nest"), "{}", refused.detail());
}

/// What a garment was shaped to stands in its story from its first version on, each thing once; what was pinned does not.
#[test]
fn the_story_says_what_was_wished() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let order = skirt_of(&owner)["id"].clone();
    let story = owner.get(&format!("/api/orders/{order}/story")).body;
    assert_eq!(
        story["shaped"],
        json!([{ "version": 1, "name": "Waistband", "says": "Narrow, under a blouse." }])
    );
    let orders = owner.get("/api/orders").body;
    let all = orders.as_array().unwrap();
    let blouse = all.iter().find(|order| order["garment"] == "Sleeveless blouse, deep back").unwrap();
    let story = owner.get(&format!("/api/orders/{}/story", blouse["id"])).body;
    assert_eq!(codes(&story["shaped"], "name"), ["Neckline to her wish", "Hem length", "Facings"]);
    assert!(story["shaped"][0]["says"].as_str().unwrap().contains("deep behind"), "{}", story["shaped"]);
    assert_eq!(&owner.bytes(&format!("/api/orders/{}/story.pdf", blouse["id"]))[..5], b"%PDF-");
}
