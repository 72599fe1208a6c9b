//! The practice room through the API: judged step by step, kept once and for oneself, with nothing of a client in it.

use serde_json::{Value, json};

use crate::common::{Asker, House};

fn fitting(asker: &Asker, difficulty: &str, seed: u64) -> Value {
    let shown = asker.get(&format!("/api/practice/fitting?difficulty={difficulty}&seed={seed}"));
    assert_eq!(shown.status, 200, "{}", shown.body);
    shown.body
}

fn answered(asker: &Asker, difficulty: &str, seed: u64, answers: Value) -> Value {
    let body = json!({ "difficulty": difficulty, "seed": seed, "answers": answers });
    let told = asker.post("/api/practice/fitting", &body);
    assert_eq!(told.status, 200, "{}", told.body);
    told.body
}

#[test]
fn an_exercise_is_judged_step_by_step_and_counts_once_for_whoever_did_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let begun = owner.get("/api/practice").body;
    assert_eq!((&begun["done"], &begun["known"]), (&json!(0), &json!(0)));
    let next = &begun["next_fitting"];
    assert_eq!((&next["difficulty"], &next["why"]), (&json!("easy"), &json!("it is new")));
    let seed = next["seed"].as_u64().unwrap();
    let shown = fitting(&owner, "easy", seed);
    assert_eq!(shown, fitting(&owner, "easy", seed), "the same number is the same exercise");
    // Nothing of the truth is in what is shown: no code of a cause, no amount.
    assert!(shown.get("hidden").is_none() && shown.get("truth").is_none(), "{shown}");
    let first = answered(&owner, "easy", seed, json!({ "sight": 0 }));
    assert!(first["sight"]["says"].as_str().unwrap().starts_with("It is: ") && first["truth"].is_null());
    assert_eq!(owner.get("/api/practice").body["done"], 0, "half an exercise is none");

    let mut answers = json!({ "sight": 0, "test": 0, "cause": 0, "follows": [] });
    if shown["amount"].is_string() {
        answers["amount"] = json!(12.0);
    }
    // Pressed twice at once it is kept once.
    let told: Vec<Value> = std::thread::scope(|scope| {
        let asks = [0, 1].map(|_| scope.spawn(|| answered(&owner, "easy", seed, answers.clone())));
        asks.map(|ask| ask.join().unwrap()).into()
    });
    assert_eq!(told[0], told[1]);
    assert!(!told[0]["truth"]["why"].as_str().unwrap().is_empty());
    let after = owner.get("/api/practice").body;
    assert_eq!(after["done"], 1);
    let own = &after["standing"][0];
    let went_well = told[0]["score"].as_f64().unwrap() >= 0.8;
    assert_eq!((&own["done"], &own["went_well"]), (&json!(1), &json!(u8::from(went_well))), "{own}");
    assert_eq!(own["number"], if went_well { 2 } else { 1 });
    // Whoever does it again knows the answer: it does not count, however it goes.
    let better = (0..5).map(|cause| {
        let mut again = answers.clone();
        again["cause"] = json!(cause);
        answered(&owner, "easy", seed, again)["score"].as_f64().unwrap()
    });
    assert!(better.fold(0.0, f64::max) >= told[0]["score"].as_f64().unwrap());
    assert_eq!(owner.get("/api/practice").body["standing"][0], *own);
    assert_ne!(owner.get("/api/practice").body["next_fitting"]["seed"], json!(seed), "the next is another");
    // It is nobody else's, and nothing of it is said of a client.
    let other = house.signed_in("ines@workroom.example", "tape and pins");
    assert_eq!(other.get("/api/practice").body["done"], 0);
    assert_eq!(house.db().ask("SELECT COUNT(*) FROM practised").trim(), "1");
    assert!(owner.bytes("/api/practice/certificate.pdf").starts_with(b"%PDF"));
}

#[test]
fn every_number_that_is_proposed_can_be_practised() {
    let house = House::with_demo();
    let owner = house.owner();
    let causes = owner.get("/api/practice").body["standing"].as_array().unwrap().len() as u64 - 3;
    for seed in 0..causes {
        for difficulty in ["easy", "middle", "hard"] {
            let shown = fitting(&owner, difficulty, seed);
            assert!(shown["causes"].as_array().unwrap().len() == 5, "{difficulty} {seed}");
        }
    }
}

#[test]
fn a_tape_is_read_a_wrong_one_found_and_an_answer_of_another_kind_is_turned_down() {
    let house = House::with_demo();
    let owner = house.owner();
    let next = owner.get("/api/practice").body["next_tape"].clone();
    assert_eq!(next["tape"], "reading");
    let seed = next["seed"].as_u64().unwrap();
    let shown = owner.get(&format!("/api/practice/tape?kind=reading&difficulty=easy&seed={seed}")).body;
    assert!(shown["tape"]["marks"].as_array().unwrap().len() > 10);
    let answer = |kind: &str, answer: Value| {
        owner.post(
            "/api/practice/tape",
            &json!({ "kind": kind, "difficulty": "easy", "seed": seed, "answer": answer }),
        )
    };
    let refused = answer("reading", json!({ "which": 1 }));
    assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!("/answer")));
    let told = answer("reading", json!({ "reads": 1.0 }));
    assert_eq!((told.status, &told.body["mistakes"]), (200, &json!(["tape_reading"])));
    let places: Vec<Value> = (0..3).map(|at| answer("place", json!({ "which": at })).body).collect();
    assert_eq!(places.iter().filter(|told| told["verdict"]["grade"] == "right").count(), 1, "{places:?}");
    let practice = owner.get("/api/practice").body;
    assert_eq!(practice["done"], 2, "the first answer to each counts");
    assert!(practice["mistakes"].as_array().unwrap().iter().any(|made| made["mistake"] == "tape_reading"));
    for wrong in
        ["kind=knot&difficulty=easy&seed=1", "kind=place&difficulty=easy&seed=-1", "kind=place&seed=1"]
    {
        assert_eq!(owner.get(&format!("/api/practice/tape?{wrong}")).status, 400, "{wrong}");
    }
}
