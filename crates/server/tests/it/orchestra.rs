//! The demo's orchestra: every list, plot and search has something to show, and a second start adds nobody.

use std::collections::BTreeMap;

use crate::common::House;
use serde_json::Value;

#[test]
fn the_orchestra_has_every_build_every_stage_and_a_few_mistakes_and_comes_once() {
    let house = House::with_orchestra();
    let owner = house.owner();
    let clients = owner.get("/api/clients?archived=true").body;
    assert_eq!(
        clients["items"].as_array().unwrap().len(),
        46,
        "six stories and forty players, one of them entered twice"
    );

    // Those that were put away are found with their clients.
    let of_client = |client: &Value| {
        let id = &client["id"];
        let orders = owner.get(&format!("/api/orders?client={id}")).body;
        { orders.as_array().unwrap().iter() }
            .filter(|order| order["client_id"] == *id)
            .cloned()
            .collect::<Vec<_>>()
    };
    let orders: Vec<Value> = clients["items"].as_array().unwrap().iter().flat_map(of_client).collect();
    assert!(orders.len() >= 60, "{} garments", orders.len());
    let mut stages: BTreeMap<String, usize> = BTreeMap::new();
    for order in &orders {
        let stands = order["put_away"].as_str().or(order["standing"]["stage"].as_str()).unwrap();
        *stages.entry(stands.to_owned()).or_default() += 1;
    }
    for stage in ["measure", "compare", "alter", "toile", "fit", "cut", "done", "archived", "cancelled"] {
        assert!(stages.contains_key(stage), "nothing stands at {stage}: {stages:?}");
    }

    // What pins made of plans is steady for two alterations.
    let learnt = owner.get("/api/calibration").body;
    let offered: Vec<&str> = { learnt.as_array().unwrap().iter() }
        .filter(|each| each["learnt"]["offered"] == true && each["learnt"]["by"] == "house")
        .map(|each| each["learnt"]["alteration"].as_str().unwrap())
        .collect();
    assert_eq!(offered, ["rounded_back", "shoulder_length"]);

    let week = owner.get("/api/week").body;
    assert_eq!(week["late"].as_array().unwrap().len(), 2, "two toiles should have been on her by now");
    let of = |query: &str| owner.get(&format!("/api/changes?{query}")).body["page"]["items"].clone();
    let says = |items: &Value, words: &str| {
        items.as_array().unwrap().iter().any(|each| each["says"].as_str().unwrap().contains(words))
    };
    assert!(says(&of("of=client"), "merged") && says(&of("of=session"), "dropped"));
    assert!(says(&of("of=reading"), "corrected") && says(&of("of=note"), "written"));
    let roles = owner.get("/api/people").body;
    let has = |role: &str| roles["people"].as_array().unwrap().iter().any(|each| each["role"] == role);
    assert!(["owner", "cutter", "fitter", "assistant", "reader"].into_iter().all(has));
    let before = owner.get("/api/orders").body.as_array().unwrap().len();
    house.seed_again();
    assert_eq!(owner.get("/api/orders").body.as_array().unwrap().len(), before);
}
