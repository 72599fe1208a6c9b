//! What a server does not let others do to it: hold its lines, hide in its pages, or write over each other's words.

use std::io::{BufRead, BufReader, Read, Write};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use yardwand_server::{AppState, DEMO_EMAIL, DEMO_PASSWORD, Patience};

use crate::common::{Asker, House, Server};

const MOMENT: Duration = Duration::from_millis(400);

fn impatient() -> Patience {
    Patience { head: MOMENT, body: MOMENT, request: MOMENT * 4, end: MOMENT * 2, lines: 40 }
}

fn same(state: AppState) -> AppState {
    state
}

#[test]
fn every_answer_says_how_it_may_be_used() {
    let house = House::with_demo();
    let owner = house.owner();
    for path in ["/", "/clients/1", "/api/clients/1", "/api/health", "/api/nothing", "/api/blocks/1/picture"]
    {
        let answer = owner.get(path);
        assert!(answer.header("content-security-policy").starts_with("default-src 'none'"), "{path}");
        assert_eq!(answer.header("x-content-type-options"), "nosniff", "{path}");
        assert_eq!(answer.header("referrer-policy"), "no-referrer", "{path}");
        assert_eq!(answer.header("x-robots-tag"), "noindex, nofollow", "{path}");
        assert_eq!(answer.header("cache-control") == "no-store", path.starts_with("/api/"), "{path}");
        assert_eq!(answer.header("strict-transport-security"), "", "{path}: this house has no HTTPS");
        // A page that was opened from another version can tell.
        assert_eq!(answer.header("yardwand-page").is_empty(), !path.starts_with("/api/"), "{path}");
    }
    let page = owner.get("/api/health").header("yardwand-page").to_owned();
    assert!(owner.get("/").body.as_str().unwrap().contains(&format!("src=\"/assets/{page}\"")), "{page}");
}

/// Behind HTTPS a cookie is this address's own, and the browser comes over HTTPS only from then on.
#[test]
fn behind_https_the_sign_in_is_the_hosts_own() {
    let house = House::with_demo();
    let server =
        Server::patient(&house, Patience::default(), |state| AppState { secure_cookies: true, ..state });
    let stranger = Asker::new(server.base());
    let answer = stranger.post("/api/sign-in", &json!({ "email": DEMO_EMAIL, "password": DEMO_PASSWORD }));
    assert_eq!(answer.status, 200);
    assert_eq!(answer.header("strict-transport-security"), "max-age=31536000");
    let cookies: Vec<&str> =
        answer.head.headers().get_all("set-cookie").iter().map(|each| each.to_str().unwrap()).collect();
    assert_eq!(cookies.len(), 2);
    for cookie in &cookies {
        assert!(cookie.starts_with("__Host-yardwand_"), "{cookie}");
        for wanted in ["; Path=/;", "; HttpOnly", "; SameSite=Strict", "; Secure"] {
            assert!(cookie.contains(wanted), "{cookie}");
        }
        assert!(!cookie.contains("Domain"), "{cookie}");
    }
    // The same token under a name that another address could have set is no sign-in.
    let sign_in = cookies.iter().find(|cookie| cookie.contains("sign_in")).unwrap();
    let pair = sign_in.split(';').next().unwrap();
    let with = |cookie: &str| Asker::new(server.base()).with_cookie(cookie).get("/api/me").status;
    assert_eq!((with(pair), with(pair.strip_prefix("__Host-").unwrap())), (200, 401));
}

/// What the server says until it closes the line, and how long that took.
fn said(server: &Server, parts: &[&str], every: Duration) -> (String, Duration) {
    let (mut line, begun) = (server.line(), Instant::now());
    let mut said = Vec::new();
    for part in parts {
        // A line that was closed takes nothing more.
        if line.write_all(part.as_bytes()).is_err() {
            break;
        }
        std::thread::sleep(every);
    }
    let _ = line.read_to_end(&mut said);
    (String::from_utf8_lossy(&said).into_owned(), begun.elapsed())
}

#[test]
fn whoever_says_nothing_or_little_loses_the_line() {
    let house = House::with_demo();
    let server = Server::patient(&house, impatient(), same);
    let long = Duration::from_secs(8);
    // No head, half a head, a head a letter at a time, and a whole one with nothing after it.
    let (nothing, took) = said(&server, &[], MOMENT);
    assert!(nothing.is_empty() && took < long, "{nothing} {took:?}");
    let (half, took) = said(&server, &["GET /api/health HTTP/1.1\r\nHost: a"], MOMENT);
    assert!(!half.contains("200 OK") && took < long, "{half} {took:?}");
    let letters: Vec<String> = "GET /api/health HTTP/1.1\r\n".chars().map(String::from).collect();
    let letters: Vec<&str> = letters.iter().map(String::as_str).collect();
    let (letters, took) = said(&server, &letters, MOMENT / 4);
    assert!(!letters.contains("200 OK") && took < long, "{letters} {took:?}");
    let (whole, took) = said(&server, &["GET /api/health HTTP/1.1\r\nHost: a\r\n\r\n"], Duration::ZERO);
    assert!(whole.contains("200 OK") && took < long, "{whole} {took:?}");

    // A body that breaks off, and one that trickles for ever.
    let head = "POST /api/sign-in HTTP/1.1\r\nHost: a\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n";
    let (broken, took) = said(&server, &[head, "{"], Duration::ZERO);
    assert!(!broken.contains("200 OK") && took < long, "{broken} {took:?}");
    let trickling: Vec<&str> = std::iter::once(head).chain(std::iter::repeat_n(" ", 60)).collect();
    let (trickled, took) = said(&server, &trickling, MOMENT / 4);
    assert!(trickled.contains("408") && took < long, "{trickled} {took:?}");
}

/// Others who hold every line keep nobody out for longer than they are waited for.
#[test]
fn held_lines_are_given_to_those_who_speak() {
    let house = House::with_demo();
    let server = Server::patient(&house, impatient(), same);
    let held: Vec<_> = (0..120).map(|_| server.line()).collect();
    let begun = Instant::now();
    assert_eq!(Asker::new(server.base()).get("/api/health").status, 200);
    assert!(begun.elapsed() < Duration::from_secs(8), "{:?}", begun.elapsed());
    drop(held);
}

#[test]
fn the_end_waits_for_those_who_are_answered_and_not_for_ever() {
    let house = House::with_demo();
    let patience =
        Patience { head: Duration::from_secs(60), end: Duration::from_secs(2), ..Patience::default() };
    let server = Server::patient(&house, patience, same);
    let owner = Asker::signed_in_at(server.base());
    let session = owner.garment_of("Agnes")["open_session"].as_u64().unwrap();
    // An open page that listens, and a body that never comes to its end.
    let mut page = server.line();
    let ask = format!(
        "GET /api/sessions/{session}/events HTTP/1.1\r\nHost: a\r\nCookie: {}\r\n\r\n",
        owner.cookie()
    );
    page.write_all(ask.as_bytes()).unwrap();
    let mut begun = [0; 12];
    page.read_exact(&mut begun).unwrap();
    assert_eq!(&begun, b"HTTP/1.1 200");
    let mut stuck = server.line();
    stuck.write_all(b"POST /api/sign-in HTTP/1.1\r\nHost: a\r\nContent-Type: application/json\r\nContent-Length: 900\r\n\r\n{").unwrap();
    std::thread::sleep(MOMENT);
    let told = Instant::now();
    drop(server);
    let took = told.elapsed();
    assert!(took > Duration::from_millis(1500), "it waits for the body: {took:?}");
    assert!(took < Duration::from_secs(6), "but not for ever: {took:?}");
    let mut rest = Vec::new();
    let _ = page.read_to_end(&mut rest);
}

/// Two who write down what she says at once: the second is told the first one's words, and nothing is lost.
#[test]
fn two_who_write_her_words_at_once_lose_neither() {
    let house = House::with_demo();
    let owner = house.owner();
    let round = owner.garment_of("Clara")["round_id"].as_u64().unwrap();
    let (path, page) = (format!("/api/rounds/{round}/aside"), format!("/api/rounds/{round}"));
    let was = owner.get(&page).body["comfort"].as_str().unwrap().to_owned();
    let words = |text: &str, was: &str| json!({ "comfort": text, "comfort_was": was });
    let keep = |asked: Value| owner.put(&path, &asked);
    assert_eq!(keep(words("the collar scratches", &was)).status, 204);
    let late = keep(words("she can raise both arms", &was));
    assert_eq!((late.status, &late.body["current"]), (409, &json!("the collar scratches")));
    assert!(late.detail().contains("“the collar scratches”"), "{}", late.detail());
    assert_eq!(owner.get(&page).body["comfort"], "the collar scratches");
    // Without a word of what they were, words are not written over either; the same once more is no quarrel.
    assert_eq!(keep(json!({ "comfort": "mine" })).status, 409);
    assert_eq!(keep(words("the collar scratches", "")).status, 204);
    assert_eq!(keep(json!({ "pins_out": 24 })).status, 204);
    let both = "the collar scratches; she can raise both arms";
    assert_eq!(keep(words(both, "the collar scratches")).status, 204);
    assert_eq!(owner.get(&page).body["comfort"], both);

    // Really at once, again and again: each text is kept, or its writer is told.
    for turn in 0..10 {
        let was = owner.get(&page).body["comfort"].as_str().unwrap().to_owned();
        let texts = [format!("one {turn}"), format!("other {turn}")];
        let statuses: Vec<u16> = std::thread::scope(|scope| {
            let both = texts.each_ref().map(|text| scope.spawn(|| keep(words(text, &was)).status));
            both.map(|each| each.join().unwrap()).into()
        });
        assert_eq!(statuses.iter().filter(|status| **status == 204).count(), 1, "{statuses:?}");
        let kept = statuses.iter().position(|status| *status == 204).unwrap();
        assert_eq!(owner.get(&page).body["comfort"], json!(texts[kept]));
    }
}

#[test]
fn clients_stories_are_not_read_without_end_from_one_place() {
    let house = House::with_demo();
    let stranger = house.stranger();
    let statuses: Vec<u16> =
        (0..130).map(|n| stranger.get(&format!("/api/shared/{n:064x}")).status).collect();
    assert_eq!(statuses.iter().filter(|status| **status == 404).count(), 120);
    assert!(statuses[120..].iter().all(|status| *status == 429), "{statuses:?}");
    // Those who work here are not kept out by it.
    house.owner();
}

/// The log says who came in, was turned down, carried something out or erased somebody, and holds no name, address or word of anybody.
#[test]
fn the_log_tells_what_happened_and_nothing_of_anybody() {
    let db = yardwand_devdb::TestDb::new();
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(["serve", "--demo", "--listen", "127.0.0.1:0", "--metrics-token", "pins and needles"])
        .env("DATABASE_URL", db.url())
        .env_remove("RUST_LOG")
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let base = line.trim().rsplit(' ').next().unwrap().to_owned();
    let stranger = Asker::new(base.clone());
    let wrong = json!({ "email": DEMO_EMAIL, "password": "something secret" });
    assert_eq!(stranger.post("/api/sign-in", &wrong).status, 401);
    let owner = Asker::signed_in_at(base);
    let client =
        owner.post("/api/clients", &json!({ "name": "Somebody Secret", "notes": "a secret note" })).id();
    owner.everything_of(&json!(client));
    let revision = owner.get(&format!("/api/clients/{client}")).body["revision"].clone();
    assert_eq!(owner.delete(&format!("/api/clients/{client}?revision={revision}")).status, 204);
    let asked_in = json!({ "name": "Tove Secret", "email": "secret@workroom.example", "role": "reader" });
    let link = owner.post("/api/people", &asked_in).body["path"]
        .as_str()
        .unwrap()
        .rsplit('/')
        .next()
        .unwrap()
        .to_owned();
    let entered =
        stranger.post(&format!("/api/entry/{link}"), &json!({ "password": "kettle orbit mauve stair" }));
    assert_eq!(entered.status, 200, "{:?}", entered.body);
    assert_eq!(stranger.post("/api/clients", &json!({ "name": "Not allowed" })).status, 403);
    assert_eq!(stranger.post("/api/sign-out", &json!({})).status, 204);

    // The figures, for whoever knows the word.
    assert_eq!(stranger.get("/metrics").status, 404);
    let figures = stranger.get_with("/metrics", ("authorization", "Bearer pins and needles"));
    let figures = figures.body.as_str().unwrap().to_owned();
    for wanted in [
        "yardwand_requests_total{method=\"POST\",route=\"/api/sign-in\",status=\"401\"} 1",
        "yardwand_requests_total{method=\"GET\",route=\"/api/clients/{id}\",status=\"200\"} 1",
        "yardwand_request_seconds_bucket{le=",
        "yardwand_database_connections ",
        "yardwand_streams 0",
        "yardwand_letters_waiting ",
        "yardwand_last_backup_timestamp_seconds 0",
        "# EOF",
    ] {
        assert!(figures.contains(wanted), "{wanted}: {figures}");
    }
    child.kill().unwrap();
    let mut log = String::new();
    child.stderr.take().unwrap().read_to_string(&mut log).unwrap();
    child.wait().unwrap();
    for wanted in [
        "not signed in".to_owned(),
        "signed in".to_owned(),
        format!(
            "carried out person=1 from=\"127.0.0.1\" method=GET at=\"/api/clients/{client}/everything.zip\" status=200"
        ),
        format!(
            "client erased person=1 from=\"127.0.0.1\" method=DELETE at=\"/api/clients/{client}\" status=204"
        ),
        "house or people changed person=1".to_owned(),
        "at=\"/api/entry/{token}\" status=200".to_owned(),
        "turned down person=".to_owned(),
        "signed out".to_owned(),
    ] {
        assert!(log.contains(&wanted), "{wanted}: {log}");
    }
    for secret in ["ecret", DEMO_EMAIL, "Tove", link.as_str(), "kettle"] {
        assert!(!log.contains(secret), "{secret}: {log}");
    }
}
