//! Who may change what: asked of every endpoint by somebody of every role, and people coming and going.

use std::fmt::Write;
use std::path::Path;

use serde_json::{Value, json};

use crate::common::{Answer, Asker, House, description};

const ROLES: [&str; 5] = ["owner", "cutter", "fitter", "assistant", "reader"];
const PASSWORD: &str = "linen thread and wax";
/// Nothing has this number.
const NOBODY: &str = "999999999";

/// Asks somebody in; gives the number and the link's token.
fn asked_in(owner: &Asker, name: &str, role: &str) -> (u64, String) {
    let entry = json!({ "name": name, "email": format!("{name}@workroom.example"), "role": role });
    let made = owner.post("/api/people", &entry);
    assert_eq!(made.status, 201, "{:?}", made.body);
    (made.body["person_id"].as_u64().unwrap(), token_of(&made))
}

fn token_of(made: &Answer) -> String {
    made.body["path"].as_str().unwrap().rsplit('/').next().unwrap().to_owned()
}

fn comes_in(house: &House, name: &str, token: &str) -> Asker {
    let entered = house.stranger().post(&format!("/api/entry/{token}"), &json!({ "password": PASSWORD }));
    assert_eq!(entered.status, 200, "{:?}", entered.body);
    house.signed_in(&format!("{name}@workroom.example"), PASSWORD)
}

fn person(owner: &Asker, id: u64) -> Value {
    let house = owner.get("/api/people").body;
    house["people"].as_array().unwrap().iter().find(|each| each["id"] == id).unwrap().clone()
}

/// Every write of the description that somebody must be signed in for.
fn writes() -> Vec<(String, String)> {
    let mut found = Vec::new();
    for (path, item) in description()["paths"].as_object().unwrap() {
        for (method, operation) in item.as_object().unwrap() {
            // Only what stands open to anybody, or to a paired tape, says so for itself.
            let is_open = operation.get("security").is_some();
            if ["post", "put", "delete"].contains(&method.as_str()) && !is_open {
                found.push((method.clone(), path.clone()));
            }
        }
    }
    // The same order whatever order a document's fields are kept in.
    found.sort_by(|one, other| (&one.1, &one.0).cmp(&(&other.1, &other.0)));
    found
}

/// Whether this role is let in; what is asked for exists nowhere, so that nothing is done.
fn is_let_in(asker: &Asker, method: &str, path: &str) -> bool {
    let path: Vec<&str> =
        path.split('/').map(|part| if part.starts_with('{') { NOBODY } else { part }).collect();
    let (path, nothing) = (path.join("/"), json!({}));
    let answer = match method {
        "post" => asker.post(&path, &nothing),
        "put" => asker.put(&path, &nothing),
        _ => asker.delete(&path),
    };
    assert_ne!(answer.status, 401, "{method} {path}");
    assert!(answer.status < 500, "{method} {path}: {:?}", answer.body);
    answer.status != 403
}

/// The table of the guide is what the server does, endpoint by endpoint; written anew with `YARDWAND_WRITE_RIGHTS=1`.
#[test]
fn every_endpoint_lets_in_the_roles_of_the_table_and_no_others() {
    let house = House::with_demo();
    let owner = house.owner();
    let mut askers = vec![house.owner()];
    for role in &ROLES[1..] {
        let (_, token) = asked_in(&owner, role, role);
        askers.push(comes_in(&house, role, &token));
    }
    let mut table = String::from(
        "# Who may change what\n\nWritten by the test `rights.rs`, which asks every endpoint as somebody of every role. Everybody who is \
         signed in may look.\nWhat stands open to all is a question that stores nothing, or one's own password.\n\n| Change | owner | \
         cutter | fitter | assistant | reader |\n|---|---|---|---|---|---|\n",
    );
    for (method, path) in writes() {
        let let_in: Vec<bool> = askers.iter().map(|asker| is_let_in(asker, &method, &path)).collect();
        // Whoever may less is let in nowhere that somebody who may more is not.
        assert!(let_in.windows(2).all(|pair| pair[0] || !pair[1]), "{method} {path}: {let_in:?}");
        let marks: Vec<&str> = let_in.iter().map(|is| if *is { "yes" } else { "" }).collect();
        writeln!(table, "| {} `{path}` | {} |", method.to_uppercase(), marks.join(" | ")).unwrap();
    }
    let file = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/rights.md");
    if std::env::var_os("YARDWAND_WRITE_RIGHTS").is_some() {
        std::fs::write(&file, &table).unwrap();
    }
    assert_eq!(std::fs::read_to_string(&file).unwrap(), table, "docs/rights.md is not what the server does");
}

/// Named one by one, beside the table: what an assistant could do and may not any more.
#[test]
fn an_assistant_measures_and_leaves_house_recipe_and_story_alone() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, token) = asked_in(&owner, "tove", "assistant");
    let assistant = comes_in(&house, "tove", &token);
    assert_eq!(assistant.get("/api/me").body["may"], json!(["readings"]));
    assert_eq!(assistant.post("/api/clients", &json!({ "name": "Somebody New" })).status, 201);
    let mut changed = owner.get("/api/house").body;
    changed["name"] = json!("Another name");
    let renamed = assistant.put("/api/house", &changed);
    assert_eq!(
        (renamed.status, renamed.detail()),
        (403, "your sign-in may not change the house and its people: ask the owner")
    );
    let order = owner.garment_of("Edda");
    let pattern = format!("/api/patterns/{}", order["pattern_id"]);
    let kept = owner.get(&pattern).body;
    let emptied = json!({ "revision": kept["revision"], "recipe": { "steps": [] } });
    assert_eq!(assistant.put(&format!("{pattern}/recipe"), &emptied).status, 403);
    assert_eq!(owner.get(&pattern).body["recipe"], kept["recipe"]);
    assert_eq!(assistant.post(&format!("/api/orders/{}/story/link", order["id"]), &json!({})).status, 403);
    assert_eq!(assistant.get("/api/people").status, 403, "addresses are the owner's");
    // What the owner reads of a role when giving it is what the role may.
    let roles = owner.get("/api/people").body["roles"].clone();
    let may = |role: &str| {
        roles.as_array().unwrap().iter().find(|each| each["role"] == role).unwrap()["may"].clone()
    };
    assert_eq!(may("assistant"), "clients and readings");
    assert_eq!(may("fitter"), "clients and readings, fittings, garments and dates");
    assert_eq!(may("reader"), "nothing, and looks at all");
}

#[test]
fn somebody_comes_in_by_a_link_once_and_goes_again() {
    let house = House::with_demo();
    let owner = house.owner();
    let (id, token) = asked_in(&owner, "tove", "fitter");
    let link = format!("/api/entry/{token}");
    let stranger = house.stranger();
    assert_eq!(stranger.get(&link).body["name"], "tove");
    // Nobody signs in before the link is used, and a short password is refused with its reason.
    let sign_in = json!({ "email": "tove@workroom.example", "password": PASSWORD });
    assert_eq!(stranger.post("/api/sign-in", &sign_in).status, 401);
    let short = stranger.post(&link, &json!({ "password": "thread" }));
    assert_eq!((short.status, &short.body["pointer"]), (422, &json!("/password")));
    let tove = comes_in(&house, "tove", &token);
    assert_eq!(stranger.post(&link, &json!({ "password": "another one of mine" })).status, 404, "once");
    // A changed role holds from the next thing she does.
    assert_eq!(tove.get("/api/me").body["role"], "fitter");
    let mut entry = person(&owner, id);
    entry["role"] = json!("reader");
    assert_eq!(owner.put(&format!("/api/people/{id}"), &entry).status, 204);
    assert_eq!(tove.post("/api/clients", &json!({ "name": "Nobody" })).status, 403);
    // The same change again is based on what has been changed since.
    let late = owner.put(&format!("/api/people/{id}"), &entry);
    assert_eq!((late.status, &late.body["current"]["role"]), (409, &json!("reader")));
    // She leaves: signed out at once, and her name stays. A link brings her back.
    let leaving = json!({ "revision": person(&owner, id)["revision"] });
    assert_eq!(owner.post(&format!("/api/people/{id}/leave"), &leaving).status, 204);
    assert_eq!(tove.get("/api/me").status, 401);
    assert_eq!(stranger.post("/api/sign-in", &sign_in).status, 401);
    assert!(person(&owner, id)["left_at"].is_string());
    let again = owner.post(&format!("/api/people/{id}/link"), &json!({}));
    assert!(comes_in(&house, "tove", &token_of(&again)).get("/api/orders").status == 200);
    assert!(person(&owner, id)["left_at"].is_null());
}

#[test]
fn the_only_owner_stays_one_and_an_address_belongs_to_one() {
    let house = House::with_demo();
    let owner = house.owner();
    let own = owner.get("/api/me").body["id"].as_u64().unwrap();
    let mut entry = person(&owner, own);
    entry["role"] = json!("cutter");
    let refused = owner.put(&format!("/api/people/{own}"), &entry);
    assert_eq!(refused.status, 409, "{:?}", refused.body);
    assert!(refused.detail().contains("make somebody else an owner first"), "{}", refused.detail());
    let leaving = json!({ "revision": entry["revision"] });
    assert_eq!(owner.post(&format!("/api/people/{own}/leave"), &leaving).status, 409);
    let taken = json!({ "name": "Two", "email": "MARIT@workroom.example", "role": "reader" });
    assert!(owner.post("/api/people", &taken).detail().contains("signs in with this address already"));
    let wrong = owner.post("/api/people", &json!({ "name": "Two", "email": "two", "role": "reader" }));
    assert_eq!((wrong.status, &wrong.body["pointer"]), (422, &json!("/email")));
    // With a second owner she may go.
    asked_in(&owner, "tove", "owner");
    assert_eq!(owner.put(&format!("/api/people/{own}"), &entry).status, 204);
    assert_eq!(owner.get("/api/people").status, 403);
}

#[test]
fn a_new_password_ends_every_other_sign_in_and_one_can_be_ended_by_itself() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, token) = asked_in(&owner, "tove", "fitter");
    let (first, second) =
        (comes_in(&house, "tove", &token), house.signed_in("tove@workroom.example", PASSWORD));
    // Two by hand, and the one the link began.
    let all = first.get("/api/me/sign-ins").body;
    assert_eq!(all.as_array().unwrap().len(), 3);
    let others: Vec<&Value> =
        all.as_array().unwrap().iter().filter(|each| each["is_this"] == false).collect();
    assert_eq!(others.len(), 2);
    let newest = format!("/api/me/sign-ins/{}", others[0]["id"]);
    assert_eq!(owner.delete(&newest).status, 404, "somebody else's");
    assert_eq!(first.delete(&newest).status, 204);
    assert_eq!(second.get("/api/me").status, 401);
    let wrong = first.put("/api/me/password", &json!({ "now": "guessed", "password": "silk and beeswax" }));
    assert_eq!((wrong.status, &wrong.body["pointer"]), (422, &json!("/now")));
    let third = house.signed_in("tove@workroom.example", PASSWORD);
    let changed = json!({ "now": PASSWORD, "password": "silk and beeswax" });
    assert_eq!(first.put("/api/me/password", &changed).status, 204);
    assert_eq!((first.get("/api/me").status, third.get("/api/me").status), (200, 401));
    // Guessing at an open screen is stopped as it is at the door.
    for _ in 0..6 {
        first.put("/api/me/password", &json!({ "now": "guessed", "password": "silk and beeswax" }));
    }
    assert_eq!(first.put("/api/me/password", &changed).status, 429);
}
