//! A flood of sign-ins, and a database that goes away and comes back.

use std::io::{Read, Write};
use std::net::TcpStream;
use std::sync::PoisonError;
use std::sync::atomic::Ordering;
use std::thread;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use yardwand_server::{DEMO_EMAIL, DEMO_PASSWORD};

use crate::common::line::Line;
use crate::common::{Asker, House, LOG};

fn her_own() -> Value {
    json!({ "email": DEMO_EMAIL, "password": DEMO_PASSWORD })
}

/// Somebody on a device the owner has signed in on, with its cookie.
fn known_device(house: &House) -> (Asker, String) {
    let asker = house.stranger();
    let answer = asker.post("/api/sign-in", &her_own());
    let cookies = answer.head.headers().get_all("set-cookie").iter();
    let device =
        cookies.filter_map(|each| each.to_str().ok()).find(|each| each.starts_with("yardwand_device"));
    let device = device.and_then(|each| each.split(';').next()).expect("the device is known from now on");
    (asker, device.to_owned())
}

/// Guesses from elsewhere make others wait, and longer each time; whoever signed in here before does not notice.
#[test]
fn nobody_can_keep_the_owner_out_of_her_own_house() {
    let house = House::with_demo();
    let (at_home, device) = known_device(&house);
    let guess = json!({ "email": DEMO_EMAIL, "password": "guess" });
    let guesses: Vec<_> = (0..20)
        .map(|_| {
            let (stranger, guess) = (house.stranger(), guess.clone());
            thread::spawn(move || stranger.post("/api/sign-in", &guess).status)
        })
        .collect();
    let answers: Vec<u16> = guesses.into_iter().map(|one| one.join().unwrap()).collect();
    let looked_at = answers.iter().filter(|status| **status == 401).count();
    assert!((1..=5).contains(&looked_at), "at once they count as many as they are: {answers:?}");
    assert!(answers.iter().all(|status| [401, 429].contains(status)), "{answers:?}");
    while house.stranger().post("/api/sign-in", &guess).status == 401 {}
    assert_eq!(
        house.stranger().post("/api/sign-in", &her_own()).status,
        429,
        "elsewhere even the right one waits"
    );
    assert_eq!(at_home.post_with("/api/sign-in", ("cookie", &device), &her_own()).status, 200);
    // The device is hers alone, and who finds it may not guess there for ever either.
    let other = json!({ "email": "guest@workroom.example", "password": "guess" });
    for turn in 0..7 {
        let status = at_home.post_with("/api/sign-in", ("cookie", &device), &other).status;
        assert_eq!(status, if turn < 5 { 401 } else { 429 }, "{turn}");
    }
    let cookie = ("cookie", device.as_str());
    let statuses: Vec<u16> =
        (0..6).map(|_| at_home.post_with("/api/sign-in", cookie, &guess).status).collect();
    assert_eq!(statuses, [401, 401, 401, 401, 401, 429]);
}

/// Some are turned down, none breaks, and whoever comes a moment later gets in.
#[test]
fn a_flood_of_sign_ins_is_turned_down_and_somebody_after_it_comes_in() {
    let house = House::with_demo();
    let base = house.base();
    let (at_home, device) = known_device(&house);
    let flood: Vec<_> = (0..80)
        .map(|number| {
            let stranger = Asker::new(base.clone());
            thread::spawn(move || {
                let address = format!("nobody{number}@elsewhere.example");
                let answer = stranger
                    .post("/api/sign-in", &json!({ "email": address, "password": "chalk and chalk" }));
                (answer.status, answer.header("retry-after").to_owned())
            })
        })
        .collect();
    let answers: Vec<_> = flood.into_iter().map(|one| one.join().unwrap()).collect();
    let of = |wanted: u16| answers.iter().filter(|(status, _)| *status == wanted).count();
    assert_eq!(of(401) + of(429), answers.len(), "{answers:?}");
    assert!((12..=30).contains(&of(401)), "those that had a turn, from one place: {}", of(401));
    assert!(answers.iter().all(|(status, wait)| (*status == 429) != wait.is_empty()), "{answers:?}");
    assert_eq!(
        at_home.post_with("/api/sign-in", ("cookie", &device), &her_own()).status,
        200,
        "on a known device"
    );
}

/// A stream of events, read from the line itself.
fn listens(base: &str, cookie: &str, path: &str) -> TcpStream {
    let host = base.trim_start_matches("http://").to_owned();
    let mut line = TcpStream::connect(&host).unwrap();
    line.set_read_timeout(Some(Duration::from_secs(10))).unwrap();
    let ask = format!("GET {path} HTTP/1.1\r\nHost: {host}\r\nCookie: {cookie}\r\nConnection: close\r\n\r\n");
    line.write_all(ask.as_bytes()).unwrap();
    line
}

/// What is heard until such words; everything where the stream ends before.
fn heard_until(line: &mut TcpStream, words: &str) -> String {
    let (mut heard, mut bytes) = (Vec::new(), [0; 4096]);
    while !String::from_utf8_lossy(&heard).contains(words) {
        match line.read(&mut bytes).unwrap() {
            0 => break,
            count => heard.extend_from_slice(&bytes[..count]),
        }
    }
    String::from_utf8_lossy(&heard).into_owned()
}

#[test]
fn a_hundred_open_pages_cost_the_database_what_one_costs_and_all_hear() {
    let (house, line) = Line::house();
    let (owner, other) = (house.owner(), house.owner());
    let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
    let client = owner.post("/api/clients", &json!({ "name": "Gerda Test", "consent": consent })).id();
    let sessions = format!("/api/clients/{client}/sessions");
    let session = owner.post(&sessions, &json!({ "set_code": "bodice_direct" })).id();
    let path = format!("/api/sessions/{session}/events");
    let mut open: Vec<TcpStream> = (0..100).map(|_| listens(&house.base(), &owner.cookie(), &path)).collect();
    let mut others = listens(&house.base(), &other.cookie(), &path);
    for line in open.iter_mut().chain([&mut others]) {
        let heard = heard_until(line, "event: tape");
        assert!(heard.contains("event: session") && heard.contains("event: tape"), "{heard}");
    }
    let before = line.asked.load(Ordering::SeqCst);
    thread::sleep(Duration::from_secs(3));
    let asked = line.asked.load(Ordering::SeqCst) - before;
    assert!((6..=60).contains(&asked), "{asked} statements in three seconds: at most 20 in each");
    owner
        .post(&format!("/api/sessions/{session}/readings"), &json!({ "code": "bust_girth", "text": "37" }))
        .id();
    for line in &mut open {
        assert!(heard_until(line, "\"changes\":1").contains("\"changes\":1"));
    }
    // Who signs out hears nothing more, and at once; the others' streams go on.
    assert_eq!(other.post("/api/sign-out", &json!({})).status, 204);
    let begun = Instant::now();
    heard_until(&mut others, "this is never said");
    assert!(begun.elapsed() < Duration::from_secs(2), "{:?}", begun.elapsed());
    owner
        .post(&format!("/api/sessions/{session}/readings"), &json!({ "code": "waist_girth", "text": "29" }))
        .id();
    for line in &mut open {
        assert!(heard_until(line, "\"changes\":2").contains("\"changes\":2"));
    }
    // With nobody there the database is left alone.
    drop(open);
    thread::sleep(Duration::from_secs(1));
    let before = line.asked.load(Ordering::SeqCst);
    thread::sleep(Duration::from_secs(2));
    let asked = line.asked.load(Ordering::SeqCst) - before;
    assert!(asked < 30, "{asked}: streams whose reader has gone are noticed within fifteen seconds");
}

/// What is written through one server is heard at another, signing out too; and guesses are counted together.
#[test]
fn two_servers_of_a_house_tell_what_either_was_told() {
    let house = House::with_demo();
    let beside = house.second_server();
    let (owner, other) = (house.owner(), house.owner());
    let round = owner.garment_of("Clara")["round_id"].as_u64().unwrap();
    let path = format!("/api/rounds/{round}/events");
    let mut open = listens(&beside.base(), &owner.cookie(), &path);
    let mut others = listens(&beside.base(), &other.cookie(), &path);
    let first = heard_until(&mut open, "\n\n");
    assert!(first.contains("event: round"), "{first}");
    let seen =
        json!({ "place": "back neck", "kind": "gape", "note": "from the other server", "depth": "3/8" });
    owner.post(&format!("/api/rounds/{round}/observations"), &seen).id();
    assert!(heard_until(&mut open, "event: round").contains("event: round"));
    assert_eq!(other.post("/api/sign-out", &json!({})).status, 204);
    let begun = Instant::now();
    heard_until(&mut others, "this is never said");
    assert!(begun.elapsed() < Duration::from_secs(2), "{:?}", begun.elapsed());
    let guess = json!({ "email": DEMO_EMAIL, "password": "guess" });
    let statuses: Vec<u16> = (0..6)
        .map(|turn| {
            let base = if turn % 2 == 0 { house.base() } else { beside.base() };
            Asker::new(base).post("/api/sign-in", &guess).status
        })
        .collect();
    assert_eq!(statuses, [401, 401, 401, 401, 401, 429]);
}

/// An address is anything that was typed: it counts for nobody but itself.
#[test]
fn an_address_that_looks_like_something_else_keeps_nobody_waiting() {
    let house = House::with_demo();
    let owner = house.owner();
    let id = owner.get("/api/me").body["id"].as_u64().unwrap();
    for typed in [format!("person {id}"), "place 127.0.0.1".to_owned()] {
        for _ in 0..6 {
            let guess = json!({ "email": typed, "password": "guess" });
            house.stranger().post("/api/sign-in", &guess);
        }
    }
    let change = json!({ "now": DEMO_PASSWORD, "password": "silk and beeswax" });
    assert_eq!(owner.put("/api/me/password", &change).status, 204);
}

/// A stream ends when the database goes away: the page says so, and asks for it again.
#[test]
fn streams_end_with_the_database_and_begin_again_with_it() {
    let _alone = LOG.lock().unwrap_or_else(PoisonError::into_inner);
    let (house, line) = Line::house();
    let owner = house.owner();
    let path = "/api/rounds/1/events";
    let mut open = listens(&house.base(), &owner.cookie(), path);
    assert!(heard_until(&mut open, "event: round").contains("event: round"));
    line.cut();
    heard_until(&mut open, "this is never said");
    assert!(heard_until(&mut listens(&house.base(), &owner.cookie(), path), "\r\n").contains("503"));
    line.mend();
    let begun = Instant::now();
    while !heard_until(&mut listens(&house.base(), &owner.cookie(), path), "event: round")
        .contains("event: round")
    {
        assert!(begun.elapsed() < Duration::from_secs(20), "it does not come back");
        thread::sleep(Duration::from_millis(100));
    }
}

#[test]
fn while_the_database_is_away_everybody_is_told_and_afterwards_it_goes_on() {
    let _alone = LOG.lock().unwrap_or_else(PoisonError::into_inner);
    let (house, line) = Line::house();
    let owner = house.owner();
    assert_eq!(owner.get("/api/clients").status, 200);
    line.cut();
    let begun = Instant::now();
    let answer = owner.get("/api/clients");
    assert_eq!((answer.status, answer.header("retry-after")), (503, "1"), "{:?}", answer.body);
    assert!(answer.detail().contains("what you typed stays"), "{}", answer.detail());
    // One now and then tries; the others do not wait for what it waits for.
    let entry = json!({ "name": "Tove Rask", "contact": "", "notes": "" });
    let told: Vec<Duration> = (0..20)
        .map(|_| {
            let asked = Instant::now();
            let answer = owner.post("/api/clients", &entry);
            assert_eq!((answer.status, answer.header("retry-after")), (503, "1"), "{:?}", answer.body);
            asked.elapsed()
        })
        .collect();
    let at_once = told.iter().filter(|took| **took < Duration::from_millis(300)).count();
    assert!(at_once >= 18, "{told:?}");
    assert_eq!(house.stranger().get("/api/ready").status, 503);
    assert_eq!(house.stranger().get("/api/health").status, 200, "the server itself is there");
    assert!(begun.elapsed() < Duration::from_secs(20), "{:?}", begun.elapsed());
    line.mend();
    let begun = Instant::now();
    while house.stranger().get("/api/ready").status != 200 {
        assert!(begun.elapsed() < Duration::from_secs(20), "it does not come back");
        thread::sleep(Duration::from_millis(50));
    }
    owner.post("/api/clients", &entry).id();
    let found = owner.get("/api/clients?q=Tove%20Rask").body;
    assert_eq!(found.to_string().matches("Tove Rask").count(), 1, "once, after all: {found}");
}
