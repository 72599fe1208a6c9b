//! The second step of signing in: set up with an app, asked for, used once, lost and taken away.

use std::thread;
use std::time::{Duration, SystemTime, UNIX_EPOCH};

use serde_json::{Value, json};
use totp_rs::{Builder, Secret, Totp};
use yardwand_server::{DEMO_EMAIL, DEMO_PASSWORD};

use crate::common::{Answer, Asker, House};

/// A code holds so long, in seconds (RFC 6238, section 5.2).
const STEP: u64 = 30;

/// An app on a telephone.
struct App(Totp);

impl App {
    /// One that has read the key as it is shown.
    fn with(key: &Value) -> Self {
        let key: String = key["key"].as_str().unwrap().split(' ').collect();
        let secret = Secret::try_from_base32(key).unwrap();
        Self(Builder::new().with_secret(secret).with_account_name("Marit").build().unwrap())
    }

    /// The code of now, or of so many steps beside it.
    fn shows(&self, beside: i64) -> String {
        let away = beside.unsigned_abs() * STEP;
        let time = if beside < 0 { now() - away } else { now() + away };
        self.0.generate(time).to_string()
    }
}

fn now() -> u64 {
    SystemTime::now().duration_since(UNIX_EPOCH).unwrap().as_secs()
}

/// Waits for a code that still holds for a while.
fn early_in_a_step() {
    let gone = now() % STEP;
    if gone > 12 {
        thread::sleep(Duration::from_secs(STEP - gone));
    }
}

/// Sets it up with the code of the step before; gives the app and the codes on paper.
fn set_up(asker: &Asker) -> (App, Vec<String>) {
    let app = App::with(&asker.post("/api/me/second-factor/key", &json!({})).body);
    let made = asker.put("/api/me/second-factor", &entry(&app, &app.shows(-1), DEMO_PASSWORD));
    assert_eq!(made.status, 200, "{:?}", made.body);
    (app, serde_json::from_value(made.body["codes"].clone()).unwrap())
}

fn entry(app: &App, code: &str, password: &str) -> Value {
    json!({ "key": app.0.secret().to_base32(), "code": code, "password": password })
}

fn signs_in(house: &House, password: &str, code: Option<&str>) -> Answer {
    let entry = json!({ "email": DEMO_EMAIL, "password": password, "code": code });
    house.stranger().post("/api/sign-in", &entry)
}

fn kind(answer: &Answer) -> (u16, &str) {
    (answer.status, answer.body["type"].as_str().unwrap_or_default().trim_start_matches("urn:yardwand:"))
}

#[test]
fn it_is_set_up_by_a_code_and_then_asked_for_and_each_code_is_good_once() {
    let house = House::with_demo();
    let (owner, elsewhere) = (house.owner(), house.owner());
    assert_eq!(owner.get("/api/me/second-factor").body, json!({ "since": null, "recovery_codes": 0 }));
    early_in_a_step();
    let shown = owner.post("/api/me/second-factor/key", &json!({})).body;
    let app = App::with(&shown);
    assert!(shown["address"].as_str().unwrap().starts_with("otpauth://totp/"), "{shown}");
    assert!(shown["size"].as_u64().unwrap() > 20 && shown["squares"].as_str().unwrap().starts_with('M'));
    for (tried, at) in [
        (entry(&app, "000000", DEMO_PASSWORD), "/code"),
        (entry(&app, &app.shows(-5), DEMO_PASSWORD), "/code"),
        (entry(&app, &app.shows(0), "guessed"), "/password"),
        (json!({ "key": "GEZD", "code": app.shows(0), "password": DEMO_PASSWORD }), "/key"),
    ] {
        let refused = owner.put("/api/me/second-factor", &tried);
        assert_eq!((refused.status, &refused.body["pointer"]), (422, &json!(at)), "{tried}");
    }
    assert_eq!(signs_in(&house, DEMO_PASSWORD, None).status, 200, "nothing was kept of it");
    let (app, paper) = set_up(&owner);
    assert_eq!(paper.len(), 10);
    assert_eq!((owner.get("/api/me").status, elsewhere.get("/api/me").status), (200, 401));
    assert_eq!(owner.get("/api/me/second-factor").body["recovery_codes"], 10);

    // The password alone lets nobody in, and a wrong one is not told from it by a code.
    assert_eq!(kind(&signs_in(&house, DEMO_PASSWORD, None)), (401, "code-wanted"));
    assert_eq!(kind(&signs_in(&house, "guessed", Some(&app.shows(0)))), (401, "wrong-password"));
    assert_eq!(kind(&signs_in(&house, "guessed", None)), (401, "wrong-password"));
    assert_eq!(kind(&signs_in(&house, DEMO_PASSWORD, Some(&app.shows(-1)))), (401, "wrong-code"), "was used");
    let spaced = format!(" {} {} ", &app.shows(0)[..3], &app.shows(0)[3..]);
    assert_eq!(signs_in(&house, DEMO_PASSWORD, Some(&spaced)).status, 200);
    // Two who come with one code at the same moment: one comes in.
    let next = app.shows(1);
    let mut both: Vec<u16> = thread::scope(|scope| {
        let tries = [0, 1].map(|_| scope.spawn(|| signs_in(&house, DEMO_PASSWORD, Some(&next)).status));
        tries.map(|tried| tried.join().unwrap()).into()
    });
    both.sort_unstable();
    assert_eq!(both, [200, 401]);
    // What is on paper is good once, however it is written.
    let written = paper[3].to_uppercase().replace('-', " ");
    assert_eq!(signs_in(&house, DEMO_PASSWORD, Some(&written)).status, 200);
    assert_eq!(kind(&signs_in(&house, DEMO_PASSWORD, Some(&paper[3]))), (401, "wrong-code"));
    assert_eq!(owner.get("/api/me/second-factor").body["recovery_codes"], 9);

    // Set up anew, the telephone and the paper of before are worth nothing.
    let (_, newer) = set_up(&owner);
    assert_eq!(kind(&signs_in(&house, DEMO_PASSWORD, Some(&paper[0]))), (401, "wrong-code"));
    assert_eq!(signs_in(&house, DEMO_PASSWORD, Some(&newer[0])).status, 200);
    // It goes with the password, and not without.
    let off =
        |password: &str| owner.post("/api/me/second-factor/off", &json!({ "password": password })).status;
    assert_eq!((off("guessed"), off(DEMO_PASSWORD)), (422, 204));
    assert_eq!(signs_in(&house, DEMO_PASSWORD, None).status, 200);
}

#[test]
fn codes_are_guessed_no_more_often_than_passwords() {
    let house = House::with_demo();
    let owner = house.owner();
    let (_, paper) = set_up(&owner);
    // Whoever has the password and no code asks as often as he likes, and learns nothing by it.
    for _ in 0..8 {
        assert_eq!(kind(&signs_in(&house, DEMO_PASSWORD, None)), (401, "code-wanted"));
    }
    let tried: Vec<u16> =
        (0..6).map(|code| signs_in(&house, DEMO_PASSWORD, Some(&format!("00000{code}"))).status).collect();
    assert_eq!(tried, [401, 401, 401, 401, 401, 429]);
    assert_eq!(signs_in(&house, DEMO_PASSWORD, Some(&paper[0])).status, 429, "a right one waits too");
    assert_eq!(owner.get("/api/me/second-factor").body["recovery_codes"], 10, "and is not used up");
}

#[test]
fn a_link_gives_a_new_password_and_the_owner_takes_the_second_step_away() {
    let house = House::with_demo();
    let owner = house.owner();
    let own = owner.get("/api/me").body["id"].clone();
    let (_, paper) = set_up(&owner);
    let listed = || {
        let people = owner.get("/api/people").body["people"].clone();
        people.as_array().unwrap().iter().find(|each| each["id"] == own).unwrap()["second_factor"].clone()
    };
    assert_eq!(listed(), true);
    let link = owner.post(&format!("/api/people/{own}/link"), &json!({})).body["path"].clone();
    let entry = link.as_str().unwrap().replace("/welcome", "/api/entry");
    let guest = house.stranger();
    assert_eq!(guest.get(&entry).body["second_factor"], true);
    let anew = "linen thread and wax";
    assert_eq!(guest.post(&entry, &json!({ "password": anew })).status, 204);
    assert_eq!(guest.get("/api/me").status, 401, "the link alone lets nobody in");
    assert_eq!(kind(&signs_in(&house, anew, None)), (401, "code-wanted"));
    assert_eq!(signs_in(&house, anew, Some(&paper[0])).status, 200);

    let again = house.stranger();
    let entry = json!({ "email": DEMO_EMAIL, "password": anew, "code": paper[1] });
    assert_eq!(again.post("/api/sign-in", &entry).status, 200);
    let off = format!("/api/people/{own}/second-factor/off");
    assert_eq!(again.post(&off, &json!({})).status, 204);
    assert_eq!(again.post(&off, &json!({})).status, 404, "there is none any more");
    assert_eq!(signs_in(&house, anew, None).status, 200);
    // It stands in the book of changes, and no code does.
    let changes = again.get("/api/changes").body.to_string();
    for what in ["second step set up", "came in by a code on paper", "second step taken away"] {
        assert!(changes.contains(what), "{changes}");
    }
    assert!(paper.iter().all(|code| !changes.contains(code.as_str())));
}
