//! Corrections over rounds through the API: nothing that was accepted keeps a round open, and more of the same adds up.

use std::sync::Barrier;

use crate::common::{Asker, House};
use serde_json::{Value, json};

/// A garment with a princess line whose first version is on the body: order, pattern, open round.
fn princess(owner: &Asker) -> (u64, u64, u64) {
    let order = owner.garment_of("Edda");
    let (order, pattern) = (order["id"].as_u64().unwrap(), order["pattern_id"].as_u64().unwrap());
    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    let mut recipe = view["recipe"].clone();
    let decided =
        json!({ "alteration": "princess_line", "amounts": { "amount": 3.0 }, "reason": "A panelled front." });
    let taken = owner.post("/api/recipe/take", &json!({ "recipe": recipe, "decided": decided })).body;
    let steps = recipe["steps"].as_array_mut().unwrap();
    assert_eq!(taken["at"], steps.len(), "a style line comes behind every correction: {taken}");
    steps.push(taken["step"].clone());
    let change = json!({ "revision": view["revision"], "recipe": recipe });
    assert_eq!(owner.put(&format!("/api/patterns/{pattern}/recipe"), &change).status, 200);
    let frozen = owner.post(&format!("/api/patterns/{pattern}/versions"), &json!({ "why": "Panelled." }));
    assert_eq!(frozen.status, 201, "{}", frozen.detail());
    (order, pattern, owner.post(&format!("/api/orders/{order}/rounds"), &json!({})).id())
}

fn observed(owner: &Asker, round: u64, place: &str) -> u64 {
    let seen = json!({ "place": place, "kind": "strain" });
    let seen = owner.post(&format!("/api/rounds/{round}/observations"), &seen);
    assert_eq!(seen.status, 201, "{}", seen.detail());
    seen.id()
}

fn decision(revision: u64, alteration: &str, amounts: Value, side: Value) -> Value {
    json!({ "revision": revision, "decision":
        { "what": "alter", "alteration": alteration, "amounts": amounts, "side": side } })
}

#[test]
fn a_princess_garment_takes_every_correction_through_three_rounds() {
    let house = House::with_demo();
    let owner = house.owner();
    let (order, pattern, mut round) = princess(&owner);
    let rounds: [&[(&str, Value, Value)]; 3] = [
        &[
            ("full_bust", json!({ "amount": 6.0 }), Value::Null),
            ("rounded_back", json!({ "amount": 8.0 }), Value::Null),
            ("shoulder_length", json!({ "amount": -4.0 }), Value::Null),
            ("shoulder_slope", json!({ "amount": 5.0 }), Value::Null),
            ("gaping_armhole", json!({ "amount": 5.0 }), Value::Null),
        ],
        &[
            ("rounded_back", json!({ "amount": 4.0 }), Value::Null),
            ("shoulder_slope", json!({ "amount": 3.0 }), json!("left")),
            ("side_seams", json!({ "amount": 3.0, "waist": 4.0 }), Value::Null),
            ("sway_back", json!({ "amount": 5.0 }), Value::Null),
        ],
        &[
            ("back_width", json!({ "amount": 3.0 }), Value::Null),
            ("front_width", json!({ "amount": -2.0 }), Value::Null),
            ("side_seams", json!({ "waist": -2.0 }), Value::Null),
            ("length", json!({ "amount": 6.0 }), Value::Null),
        ],
    ];
    let mut earlier: Vec<u64> = Vec::new();
    for (number, decisions) in (1..).zip(rounds) {
        for id in &earlier {
            let marked = json!({ "observation_id": id, "mark": "gone" });
            assert_eq!(owner.put(&format!("/api/rounds/{round}/marks"), &marked).status, 204);
        }
        earlier = decisions
            .iter()
            .map(|(alteration, amounts, side)| {
                let id = observed(&owner, round, "bust");
                let path = format!("/api/observations/{id}/decision");
                let kept = owner.put(&path, &decision(1, alteration, amounts.clone(), side.clone()));
                assert_eq!(kept.status, 204, "round {number}, {alteration}: {}", kept.detail());
                id
            })
            .collect();
        let closed = owner.post(&format!("/api/rounds/{round}/close"), &json!({}));
        assert_eq!(closed.status, 204, "round {number}: {}", closed.detail());
        if number < 3 {
            round = owner.post(&format!("/api/orders/{order}/rounds"), &json!({})).id();
        }
    }
    let view = owner.get(&format!("/api/patterns/{pattern}")).body;
    let steps = view["recipe"]["steps"].as_array().unwrap();
    let at = |code: &str| steps.iter().position(|step| step["alteration"] == code).unwrap();
    for code in ["full_bust", "rounded_back", "shoulder_slope", "gaping_armhole", "side_seams", "length"] {
        assert!(at(code) < at("princess_line"), "{code} comes before the style line");
    }
    let back = &steps[at("rounded_back")];
    let more = &back["more"].as_array().unwrap().last().unwrap();
    assert_eq!((&more["amounts"]["amount"], &more["round"]), (&json!(4.0), &json!(2)));
    let shown = &view["preview"]["steps"][at("rounded_back")];
    assert!(shown["says"].is_null() && !shown["sums"].as_array().unwrap().is_empty(), "{shown}");
    let slopes: Vec<&Value> = steps.iter().filter(|step| step["alteration"] == "shoulder_slope").collect();
    assert_eq!(slopes.len(), 2, "both sides and the left are two lines");
    assert!(view["preview"]["steps"].as_array().unwrap().iter().all(|step| step["state"] == "done"));
    let says = shown["decisions"][1]["says"].as_str().unwrap();
    assert!(says.starts_with("Round 2: Strain at bust") && says.ends_with("(Marit Holm)"), "{says}");
    assert_eq!(&owner.bytes(&format!("/api/patterns/{pattern}/worksheet.pdf"))[..5], b"%PDF-");
}

#[test]
fn what_cannot_be_done_is_said_when_it_is_decided() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, _, round) = princess(&owner);
    let (first, second) = (observed(&owner, round, "bust"), observed(&owner, round, "back waist"));
    let decide = |id: u64, code: &str, mm: f64| {
        owner.put(
            &format!("/api/observations/{id}/decision"),
            &decision(1, code, json!({ "amount": mm }), Value::Null),
        )
    };
    let refused = decide(first, "full_bust", -59.0);
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/decision/amounts")));
    assert!(refused.detail().contains("smaller size"), "{}", refused.detail());
    // The two together would go too far: the second is refused, the first stands.
    assert_eq!(decide(first, "rounded_back", 30.0).status, 204);
    let refused = decide(second, "rounded_back", 25.0);
    assert_eq!(refused.status, 422, "{}", refused.detail());
    assert!(refused.detail().contains("must lie between"), "{}", refused.detail());
    let watched = json!({ "revision": 1, "decision": { "what": "watch" } });
    assert_eq!(owner.put(&format!("/api/observations/{second}/decision"), &watched).status, 204);
    assert_eq!(owner.post(&format!("/api/rounds/{round}/close"), &json!({})).status, 204);
}

#[test]
fn two_who_decide_at_once_cannot_go_too_far_together() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, _, round) = princess(&owner);
    for _ in 0..4 {
        let ids = [observed(&owner, round, "bust"), observed(&owner, round, "back waist")];
        let both = Barrier::new(2);
        let answers: Vec<u16> = std::thread::scope(|scope| {
            let ask = |id: u64| {
                let (owner, both) = (&owner, &both);
                scope.spawn(move || {
                    both.wait();
                    let path = format!("/api/observations/{id}/decision");
                    let asked = decision(1, "rounded_back", json!({ "amount": 25.0 }), Value::Null);
                    owner.put(&path, &asked).status
                })
            };
            ids.map(ask).into_iter().map(|asked| asked.join().unwrap()).collect()
        });
        let mut sorted = answers.clone();
        sorted.sort_unstable();
        assert_eq!(sorted, [204, 422], "one of them is in time");
        for (id, answer) in ids.into_iter().zip(answers) {
            let revision = if answer == 204 { 2 } else { 1 };
            let watched = json!({ "revision": revision, "decision": { "what": "watch" } });
            assert_eq!(owner.put(&format!("/api/observations/{id}/decision"), &watched).status, 204);
        }
    }
    assert_eq!(owner.post(&format!("/api/rounds/{round}/close"), &json!({})).status, 204);
}

#[test]
fn a_move_that_breaks_a_step_is_refused_and_a_decision_says_where_it_went() {
    let house = House::with_demo();
    let owner = house.owner();
    let order = owner.garment_of("Edda");
    let pattern = order["pattern_id"].as_u64().unwrap();
    let step = |id: u32, from: &str, to: &str| json!({ "id": id, "alteration": "move_dart", "amounts": { "from": from, "to": to }, "on": true, "reason": "" });
    let recipe = json!({ "form": 1, "steps": [step(1, "waist", "armhole"), step(2, "armhole", "shoulder")] });
    let moved = |step: u32, to: u32| {
        let asked = json!({ "recipe": recipe, "step": step, "to": to });
        owner.post(&format!("/api/patterns/{pattern}/moved"), &asked)
    };
    let refused = moved(2, 0);
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/to")), "{}", refused.body);
    assert!(refused.detail().contains("cannot go there"), "{}", refused.detail());
    assert_eq!(moved(2, 1).body["steps"][1]["id"], 2);
    let take = |code: &str, amounts: Value| {
        let decided = json!({ "alteration": code, "amounts": amounts, "reason": "" });
        owner.post("/api/recipe/take", &json!({ "recipe": recipe, "decided": decided }))
    };
    assert_eq!(take("neck", json!({ "amount": 5.0 })).body["at"], 0, "fit comes before shape");
    assert_eq!(take("true_up", json!({})).body["at"], 2);
    assert_eq!(take("no_such", json!({})).body["pointer"], "/decided/alteration");
    assert_eq!(take("neck", json!({ "amount": 1e9 })).body["pointer"], "/decided/amounts");
}

#[test]
fn a_recipe_is_carried_to_another_clients_garment_step_by_step() {
    let house = House::with_demo();
    let owner = house.owner();
    let all = owner.get("/api/orders").body;
    let with_pattern = |client: &str| {
        let orders = all.as_array().unwrap().iter();
        let mut own = orders.filter(|order| order["client"].as_str().unwrap().starts_with(client));
        own.find_map(|order| order["pattern_id"].as_u64()).unwrap()
    };
    let others: Vec<u64> = { all.as_array().unwrap().iter() }
        .filter(|order| !order["client"].as_str().unwrap().starts_with("Edda"))
        .filter_map(|order| order["pattern_id"].as_u64())
        .collect();
    let (from, to) = (with_pattern("Edda"), others[0]);
    let hers = owner.get(&format!("/api/patterns/{from}")).body["recipe"].clone();
    let there = owner.get(&format!("/api/patterns/{to}")).body;
    let path = format!("/api/patterns/{to}/carried-over");
    let carried = owner.post(&path, &json!({ "recipe": there["recipe"], "from": from }));
    assert_eq!(carried.status, 200, "{}", carried.detail());
    let report = carried.body["report"].as_array().unwrap();
    assert_eq!(report.len(), hers["steps"].as_array().unwrap().len());
    // Nothing that was said of the one is written on the other's pattern.
    let written = carried.body["recipe"].to_string();
    for step in hers["steps"].as_array().unwrap() {
        let reason = step["reason"].as_str().unwrap_or_default();
        assert!(reason.is_empty() || !written.contains(reason), "{reason}");
    }
    // Nothing is kept until she keeps it; what she keeps can be made.
    assert_eq!(owner.get(&format!("/api/patterns/{to}")).body["recipe"], there["recipe"]);
    let change = json!({ "revision": there["revision"], "recipe": carried.body["recipe"] });
    assert_eq!(owner.put(&format!("/api/patterns/{to}/recipe"), &change).status, 200);
    let shown = owner.get(&format!("/api/patterns/{to}")).body["preview"]["steps"].clone();
    assert!(shown.as_array().unwrap().iter().all(|step| step["state"] != "refused"), "{shown}");
    // A part of it alone, and never onto itself.
    let one = hers["steps"][0]["id"].clone();
    let part = owner.post(&path, &json!({ "recipe": there["recipe"], "from": from, "steps": [one] }));
    assert_eq!(part.body["report"].as_array().unwrap().len(), 1);
    let itself = owner.post(&path, &json!({ "recipe": there["recipe"], "from": to }));
    assert_eq!((itself.status, &itself.body["pointer"]), (422, &json!("/from")));
    assert_eq!(owner.post(&path, &json!({ "recipe": there["recipe"], "from": 999_999 })).status, 404);
    let stranger = house.stranger().post(&path, &json!({ "recipe": there["recipe"], "from": from }));
    assert_eq!(stranger.status, 401);
}
