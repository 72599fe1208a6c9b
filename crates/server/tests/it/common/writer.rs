//! People who write without end and ask again, under the same key, until each is answered for; and how it is found out afterwards that
//! nothing of it is lost and nothing is there twice.

use std::collections::BTreeMap;
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use ureq::Agent;
use yardwand_server::{DEMO_EMAIL, DEMO_PASSWORD};

/// No write may take longer to be answered for, however often it is asked again.
pub(crate) const STUCK: Duration = Duration::from_secs(120);

/// A name, and the numbers of the client and the session that were answered for.
pub(crate) type Kept = BTreeMap<String, (u64, u64)>;

/// Somebody who writes without end and asks again, under the same key, until each is answered for.
pub(crate) struct Writer {
    agent: Agent,
    base: String,
    cookie: String,
}

impl Writer {
    pub(crate) fn signed_in(base: &str) -> Self {
        let agent: Agent = Agent::config_builder()
            .http_status_as_error(false)
            .max_idle_connections(0)
            .timeout_global(Some(Duration::from_secs(20)))
            .build()
            .into();
        let entry = json!({ "email": DEMO_EMAIL, "password": DEMO_PASSWORD });
        let answer = agent.post(format!("{base}/api/sign-in")).send_json(&entry).unwrap();
        assert_eq!(answer.status(), 200);
        let cookie = answer.headers()["set-cookie"].to_str().unwrap().split(';').next().unwrap().to_owned();
        Self { agent, base: base.to_owned(), cookie }
    }

    /// The status a page is answered with; none where the line was cut.
    pub(crate) fn status(&self, path: &str) -> Option<u16> {
        let mut answer =
            self.agent.get(format!("{}{path}", self.base)).header("cookie", &self.cookie).call().ok()?;
        answer.body_mut().read_to_vec().ok()?;
        Some(answer.status().as_u16())
    }

    /// What a page says.
    pub(crate) fn read(&self, path: &str) -> Value {
        let answer = self.agent.get(format!("{}{path}", self.base)).header("cookie", &self.cookie).call();
        answer.unwrap().body_mut().read_json().unwrap()
    }

    /// Posts until it is answered for; the number it was given.
    pub(crate) fn post(&self, path: &str, key: &str, body: &Value) -> u64 {
        let begun = Instant::now();
        loop {
            let request = self.agent.post(format!("{}{path}", self.base)).header("cookie", &self.cookie);
            match request.header("idempotency-key", key).send_json(body) {
                Ok(mut answer) if answer.status() == 201 => {
                    // The answer may break off in the middle: then it is asked for again.
                    if let Ok(made) = answer.body_mut().read_json::<Value>()
                        && let Some(id) = made["id"].as_u64()
                    {
                        return id;
                    }
                }
                Ok(answer) => assert!(answer.status().as_u16() >= 500, "{path}: {}", answer.status()),
                Err(_) => {}
            }
            assert!(begun.elapsed() < STUCK, "{path} is stuck");
            thread::sleep(Duration::from_millis(40));
        }
    }

    /// Clients, each with a session and a reading in it, until it is told to stop; the names and numbers answered for.
    pub(crate) fn write_until(&self, stop: &AtomicBool, writer: usize) -> Kept {
        let mut kept = BTreeMap::new();
        while !stop.load(Ordering::Relaxed) {
            let name = format!("Kept {writer} {}", kept.len());
            let key = |of: &str| format!("{of}-{writer}-{}", kept.len());
            let consent = json!({ "given_on": "2026-01-05", "purpose": "To dress her." });
            let client = self.post("/api/clients", &key("c"), &json!({ "name": name, "consent": consent }));
            let begin = json!({ "set_code": "bodice_direct" });
            let session = self.post(&format!("/api/clients/{client}/sessions"), &key("s"), &begin);
            let reading = json!({ "code": "bust_girth", "text": "36 7/8" });
            self.post(&format!("/api/sessions/{session}/readings"), &key("r"), &reading);
            kept.insert(name, (client, session));
        }
        kept
    }
}

/// Waits until a server is ready.
pub(crate) fn wait_for(base: &str) {
    let agent: Agent =
        Agent::config_builder().http_status_as_error(false).max_idle_connections(0).build().into();
    let begun = Instant::now();
    while !agent.get(format!("{base}/api/ready")).call().is_ok_and(|answer| answer.status() == 200) {
        assert!(begun.elapsed() < STUCK, "the server does not come up");
        thread::sleep(Duration::from_millis(20));
    }
}

/// What was answered for is there once, with its session and reading; `ask` reads the database.
pub(crate) fn all_is_there_once(kept: &Kept, ask: impl Fn(&str) -> String) {
    let told = ask(
        "SELECT c.name, c.id, s.id, COUNT(DISTINCT r.id) FROM clients c LEFT JOIN sessions s ON s.client_id = c.id \
         LEFT JOIN readings r ON r.session_id = s.id WHERE c.name LIKE 'Kept %' GROUP BY c.id, s.id ORDER BY c.id",
    );
    let mut found = BTreeMap::new();
    for line in told.lines() {
        let parts: Vec<&str> = line.split('\t').collect();
        let (name, readings) = (parts[0].to_owned(), parts[3]);
        assert_eq!(readings, "1", "{line}");
        let twice = found.insert(name, (parts[1].parse().unwrap(), parts[2].parse().unwrap()));
        assert!(twice.is_none(), "there twice: {line}");
    }
    assert_eq!(&found, kept);
}
