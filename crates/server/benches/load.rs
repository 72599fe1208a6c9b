//! A loopback load on the real server: previews as a drag sends them, and what the server weighs afterwards.
//! Run by `cargo xtask bench`, which gives it a database.

use std::io::{BufRead, BufReader};
use std::process::{Command, Stdio};
use std::time::{Duration, Instant};

use chrono::NaiveDate;
use serde_json::{Value, json};
use ureq::Agent;
use yardwand_core::body::{Body, measurement_set};
use yardwand_store::Store;

/// A drag sends at most so many previews a second.
const A_SECOND: u32 = 20;
const REQUESTS: usize = 400;

fn main() {
    let Ok(database) = std::env::var("DATABASE_URL") else {
        println!("load: no DATABASE_URL, nothing to measure; run `cargo xtask bench`");
        return;
    };
    let mut server = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(["serve", "--demo", "--listen", "127.0.0.1:0"])
        .env("DATABASE_URL", &database)
        .stdout(Stdio::piped())
        .spawn()
        .expect("the server starts");
    let mut line = String::new();
    BufReader::new(server.stdout.take().expect("its output")).read_line(&mut line).expect("its address");
    let base = line.trim().rsplit(' ').next().unwrap_or_default().to_owned();
    let agent: Agent = Agent::config_builder().http_status_as_error(false).build().into();
    let entry = json!({ "email": yardwand_server::DEMO_EMAIL, "password": yardwand_server::DEMO_PASSWORD });
    agent.post(format!("{base}/api/sign-in")).send_json(&entry).expect("signs in");

    let orders: Value = read(&agent, &format!("{base}/api/orders"));
    let by = |name: &str| {
        let all = orders.as_array().expect("orders");
        all.iter()
            .find(|o| o["client"].as_str().is_some_and(|c| c.starts_with(name)))
            .expect("in the demo")
            .clone()
    };
    // A machine is told by what an answer costs that says nothing: the others are multiples of it.
    let empty = report("an empty handler", None, || {
        read(&agent, &format!("{base}/api/health"));
    });
    let report = |what: &str, once: &mut dyn FnMut()| report(what, Some(empty), once);
    let pattern = by("Edda")["pattern_id"].clone();
    report("preview of two alterations", &mut || {
        let amount = 5.0 + f64::from(rand_step()) * 0.5;
        let recipe = json!({ "form": 1, "steps": [
            { "id": 1, "alteration": "full_bust", "amounts": { "amount": amount }, "on": true, "reason": "" },
            { "id": 2, "alteration": "shoulder_length", "amounts": { "amount": 6.0 }, "on": true, "reason": "" }] });
        let answer = agent
            .post(format!("{base}/api/patterns/{pattern}/preview"))
            .send_json(json!({ "recipe": recipe }));
        whole(answer);
    });
    report("preview of eight alterations", &mut || {
        let step = |id: u32, code: &str, amounts: Value| json!({ "id": id, "alteration": code, "amounts": amounts, "on": true, "reason": "" });
        let amount = 5.0 + f64::from(rand_step()) * 0.5;
        let recipe = json!({ "form": 1, "steps": [
            step(1, "full_bust", json!({ "amount": amount })),
            step(2, "shoulder_length", json!({ "amount": 6.0 })),
            step(3, "shoulder_slope", json!({ "amount": 6.0 })),
            step(4, "rounded_back", json!({ "amount": 10.0 })),
            step(5, "sway_back", json!({ "amount": 8.0 })),
            step(6, "gaping_armhole", json!({ "amount": 6.0 })),
            step(7, "side_seams", json!({ "amount": 3.0, "waist": 5.0 })),
            step(8, "underarm", json!({ "amount": 6.0 }))] });
        let answer = agent
            .post(format!("{base}/api/patterns/{pattern}/preview"))
            .send_json(json!({ "recipe": recipe }));
        whole(answer);
    });
    let session = by("Agnes")["open_session"].clone();
    report("check of a keystroke", &mut || {
        let entry = json!({ "code": "bust_girth", "text": "36 1/2" });
        let answer = agent.post(format!("{base}/api/sessions/{session}/check")).send_json(entry);
        whole(answer);
    });
    let (veteran, open) = veteran(&agent, &base);
    report("check of a keystroke beside 200 sessions", &mut || {
        let entry = json!({ "code": "bust_girth", "text": "36 1/2" });
        let answer = agent.post(format!("{base}/api/sessions/{open}/check")).send_json(entry);
        whole(answer);
    });
    for (what, page) in [("her page", ""), ("her figures", "/profile"), ("her history", "/history")] {
        report(&format!("a client with 200 sessions of 30 readings: {what}"), &mut || {
            read(&agent, &format!("{base}/api/clients/{veteran}{page}"));
        });
    }
    let runtime = tokio::runtime::Runtime::new().expect("a runtime");
    let store = runtime.block_on(Store::connect(&database)).expect("the database");
    let number = veteran.as_u64().expect("a number");
    report("the statements of her figures alone", &mut || {
        let reads = async {
            tokio::try_join!(
                store.house(),
                store.latest_readings(number, None),
                store.figures_of_stand_in(number)
            )
        };
        runtime.block_on(reads).expect("her readings");
    });
    let order = by("Bettina")["id"].clone();
    report("the Compare page's data", &mut || {
        read(&agent, &format!("{base}/api/orders/{order}/comparison"));
    });
    let (garment, round) = long_story(&agent, &base, &by("Filippa"));
    for (what, path) in [
        ("its newest round", format!("/api/rounds/{round}")),
        ("the causes of that round", format!("/api/rounds/{round}/causes")),
        ("its story", format!("/api/orders/{garment}/story")),
        ("its place on the wand", format!("/api/orders/{garment}")),
    ] {
        report(&format!("a garment with 12 rounds and 200 observations: {what}"), &mut || {
            read(&agent, &format!("{base}{path}"));
        });
    }
    let status = std::fs::read_to_string(format!("/proc/{}/status", server.id())).unwrap_or_default();
    let resident = status.lines().find(|l| l.starts_with("VmRSS")).unwrap_or("VmRSS: unknown");
    println!("server after the load: {}", resident.split_whitespace().collect::<Vec<_>>().join(" "));
    let _ = server.kill();
    let _ = server.wait();
}

/// A client with 200 sessions of 30 readings each, brought in as a file of 6,000 lines, and a session that is open.
fn veteran(agent: &Agent, base: &str) -> (Value, Value) {
    let body = Body::middle().with("full_length", 1070.0);
    let codes = &measurement_set("dress").expect("a set").codes;
    let mut rows = Vec::new();
    for day in 0..200_u64 {
        let on = NaiveDate::from_ymd_opt(2024, 1, 1).expect("a day") + chrono::Days::new(day * 4);
        for code in codes {
            let mm = body.get(code).expect("a figure") + (day % 7) as f64;
            rows.push(json!({ "client": "Vera Longtime", "taken_on": on, "measurement": code, "value": format!("{mm} mm") }));
        }
    }
    let content = serde_json::to_string(&rows).expect("JSON");
    let post = |path: &str, body: Value| -> Value {
        let mut answer = agent.post(format!("{base}{path}")).send_json(body).expect("answers");
        answer.body_mut().read_json().unwrap_or_default()
    };
    let begun = Instant::now();
    let file = post("/api/imports", json!({ "file_name": "book.json", "content": content }))["id"].clone();
    println!("a file of 6,000 readings looked at in {:.0} ms", {
        read(agent, &format!("{base}/api/imports/{file}"));
        begun.elapsed().as_secs_f64() * 1e3
    });
    let begun = Instant::now();
    post(&format!("/api/imports/{file}/save"), json!({}));
    while read(agent, &format!("{base}/api/imports/{file}"))["state"] == "running" {
        std::thread::sleep(Duration::from_millis(20));
    }
    println!("and saved in {:.1} s", begun.elapsed().as_secs_f64());
    let found = read(agent, &format!("{base}/api/clients?q=Vera"));
    let client = found["items"][0]["id"].clone();
    // Nobody's figures are kept before she has agreed; a session that was refused would measure nothing.
    post(
        &format!("/api/clients/{client}/consents"),
        json!({ "given_on": "2024-01-01", "purpose": "making her clothes" }),
    );
    let open = post(&format!("/api/clients/{client}/sessions"), json!({ "set_code": "dress" }))["id"].clone();
    assert!(open.is_u64(), "her session is open");
    (client, open)
}

/// Twelve rounds with 200 observations, most of them left as they are, some watched and marked from round to round.
fn long_story(agent: &Agent, base: &str, order: &Value) -> (Value, Value) {
    let post = |path: &str, body: Value| -> Value {
        let mut answer = agent.post(format!("{base}{path}")).send_json(body).expect("answers");
        answer.body_mut().read_json().unwrap_or_default()
    };
    let put = |path: &str, body: Value| {
        let answer = agent.put(format!("{base}{path}")).send_json(body).expect("answers");
        assert_eq!(answer.status(), 204, "{path}");
    };
    let mut newest = Value::Null;
    for number in 1..=12 {
        let round =
            post(&format!("/api/orders/{}/rounds", order["id"]), json!({ "worn": "the same" }))["id"].clone();
        let earlier = read(agent, &format!("{base}/api/rounds/{round}"))["earlier"].clone();
        for seen in earlier.as_array().expect("earlier ones") {
            let mark = if number % 3 == 0 { "better" } else { "same" };
            put(
                &format!("/api/rounds/{round}/marks"),
                json!({ "observation_id": seen["id"], "mark": mark, "left": "1/8" }),
            );
        }
        for index in 0..17.min(200 - (number - 1) * 17) {
            let seen = json!({ "place": "front armhole", "towards": "bust", "kind": "drag", "depth": "1/4",
                "pinned_as": "tuck", "note": format!("the {index}th of round {number}") });
            let id = post(&format!("/api/rounds/{round}/observations"), seen)["id"].clone();
            let decision = match index % 6 {
                0 => json!({ "what": "watch" }),
                _ => json!({ "what": "leave", "reason": "it is the stance" }),
            };
            put(&format!("/api/observations/{id}/decision"), json!({ "revision": 1, "decision": decision }));
        }
        let heights = json!({ "front": "41 1/2", "left": "41", "right": "41 1/2", "back": "42" });
        put(&format!("/api/rounds/{round}/lines/waist"), heights);
        if number < 12 {
            let closed = post(&format!("/api/rounds/{round}/close"), json!({}));
            assert!(closed.is_null(), "{closed}");
        }
        newest = round;
    }
    (order["id"].clone(), newest)
}

fn read(agent: &Agent, url: &str) -> Value {
    let mut answer = agent.get(url).call().expect("answers");
    assert_eq!(answer.status(), 200, "{url}");
    answer.body_mut().read_json().expect("JSON")
}

/// Reads an answer to its end. A refusal would be quick, and would measure nothing.
fn whole(answer: Result<ureq::http::Response<ureq::Body>, ureq::Error>) {
    let mut answer = answer.expect("answers");
    assert_eq!(answer.status(), 200);
    answer.body_mut().read_to_vec().expect("whole");
}

/// A different amount each time, without randomness.
fn rand_step() -> u32 {
    use std::sync::atomic::{AtomicU32, Ordering};
    static STEP: AtomicU32 = AtomicU32::new(0);
    STEP.fetch_add(7, Ordering::Relaxed) % 60
}

/// Prints what it cost, beside an empty handler where that is known; the median in milliseconds.
fn report(what: &str, empty: Option<f64>, mut once: impl FnMut()) -> f64 {
    let gap = Duration::from_secs(1) / A_SECOND;
    let mut took: Vec<Duration> = (0..REQUESTS)
        .map(|_| {
            let begun = Instant::now();
            once();
            let took = begun.elapsed();
            std::thread::sleep(gap.saturating_sub(took).min(Duration::from_millis(8)));
            took
        })
        .collect();
    took.sort();
    let at = |share: f64| took[((took.len() - 1) as f64 * share) as usize].as_secs_f64() * 1e3;
    let beside = empty.map_or_else(String::new, |empty| format!(", {:.1} empty handlers", at(0.5) / empty));
    println!(
        "{what}: {REQUESTS} requests, p50 {:.1} ms, p95 {:.1} ms, most {:.1} ms{beside}",
        at(0.5),
        at(0.95),
        at(1.0)
    );
    at(0.5)
}
