//! What the server answered for survives `kill -9` right after the answer.

use std::io::{BufRead, BufReader};
use std::process::{Child, Command, Stdio};

use crate::common::Asker;
use serde_json::json;
use yardwand_devdb::TestDb;
use yardwand_server::{DEMO_EMAIL, DEMO_PASSWORD};

fn serve(url: &str) -> (Served, Asker) {
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(["serve", "--demo", "--listen", "127.0.0.1:0"])
        .env("DATABASE_URL", url)
        .stdout(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let asker = Asker::new(line.trim().rsplit(' ').next().unwrap().to_owned());
    let entry = json!({ "email": DEMO_EMAIL, "password": DEMO_PASSWORD });
    assert_eq!(asker.post("/api/sign-in", &entry).status, 200);
    (Served(child), asker)
}

/// A server that ends with the test, however that goes.
struct Served(Child);

impl Drop for Served {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// SIGKILL: no handler, no flush, no goodbye.
fn kill(server: Served) {
    drop(server);
}

#[test]
fn a_reading_a_recipe_step_and_an_observation_survive() {
    let db = TestDb::new();

    let (server, owner) = serve(&db.url());
    let session = owner.garment_of("Agnes")["open_session"].as_u64().unwrap();
    let reading = json!({ "code": "bust_girth", "text": "36 7/8" });
    owner.post(&format!("/api/sessions/{session}/readings"), &reading).id();
    kill(server);

    let (server, owner) = serve(&db.url());
    let rows = owner.get(&format!("/api/sessions/{session}")).body["rows"].clone();
    let kept =
        rows.as_array().unwrap().iter().find(|r| r["measurement"]["code"] == "bust_girth").unwrap().clone();
    assert_eq!(kept["entries"][0]["takes"][0]["typed"], "36 7/8");
    let pattern = owner.garment_of("Edda")["pattern_id"].as_u64().unwrap();
    let recipe = json!({ "form": 1, "steps": [
        { "id": 9, "alteration": "shoulder_length", "amounts": { "amount": 6.35 }, "on": true, "reason": "kept" }] });
    let saved =
        owner.put(&format!("/api/patterns/{pattern}/recipe"), &json!({ "revision": 1, "recipe": recipe }));
    assert_eq!(saved.status, 200);
    kill(server);

    let (server, owner) = serve(&db.url());
    assert_eq!(owner.get(&format!("/api/patterns/{pattern}")).body["recipe"], recipe);
    let round = owner.garment_of("Clara")["round_id"].as_u64().unwrap();
    let seen =
        json!({ "place": "back neck", "kind": "gape", "note": "after the lights went out", "depth": "3/8" });
    owner.post(&format!("/api/rounds/{round}/observations"), &seen).id();
    kill(server);

    let (server, owner) = serve(&db.url());
    let round = owner.get(&format!("/api/rounds/{round}")).body;
    let notes: Vec<&str> = round["observations"]
        .as_array()
        .unwrap()
        .iter()
        .map(|o| o["seen"]["note"].as_str().unwrap())
        .collect();
    assert!(notes.contains(&"after the lights went out"), "{notes:?}");
    kill(server);
}
