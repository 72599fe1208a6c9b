//! Hundreds of kills in the middle of everything, for `cargo xtask kills`: nothing that was answered for is lost, nothing is there twice,
//! and nothing stays stuck.

use std::collections::BTreeMap;
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use ureq::Agent;
use yardwand_devdb::{DevDb, TestDb, free_port};
use yardwand_server::{DEMO_EMAIL, DEMO_PASSWORD};

/// No write may take longer to be answered for, however often it is asked again.
const STUCK: Duration = Duration::from_secs(120);

/// How often: as the issue of a release asks, or as the environment says.
fn times(usual: usize) -> usize {
    std::env::var("YARDWAND_KILLS").ok().and_then(|text| text.parse().ok()).unwrap_or(usual)
}

fn yardwand(url: &str, words: &[&str]) -> Child {
    let mut command = Command::new(env!("CARGO_BIN_EXE_yardwand"));
    command.args(words).env("DATABASE_URL", url).stdout(Stdio::null()).stderr(Stdio::null()).spawn().unwrap()
}

fn killed(mut child: Child) {
    child.kill().unwrap();
    child.wait().unwrap();
}

/// Somebody who writes without end and asks again, under the same key, until each is answered for.
struct Writer {
    agent: Agent,
    base: String,
    cookie: String,
}

impl Writer {
    fn signed_in(base: &str) -> Self {
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

    /// Posts until it is answered for; the number it was given.
    fn post(&self, path: &str, key: &str, body: &Value) -> u64 {
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
    fn write_until(&self, stop: &AtomicBool, writer: usize) -> BTreeMap<String, (u64, u64)> {
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
fn wait_for(base: &str) {
    let agent: Agent =
        Agent::config_builder().http_status_as_error(false).max_idle_connections(0).build().into();
    let begun = Instant::now();
    while !agent.get(format!("{base}/api/ready")).call().is_ok_and(|answer| answer.status() == 200) {
        assert!(begun.elapsed() < STUCK, "the server does not come up");
        thread::sleep(Duration::from_millis(20));
    }
}

/// What was answered for is there once, with its session and reading; `ask` reads the database.
fn all_is_there_once(kept: &BTreeMap<String, (u64, u64)>, ask: impl Fn(&str) -> String) {
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

/// Writers at work while `kill` is done again and again; what they were answered for.
fn while_killed(base: &str, mut kill: impl FnMut()) -> BTreeMap<String, (u64, u64)> {
    wait_for(base);
    let writers: Vec<Writer> = (0..4).map(|_| Writer::signed_in(base)).collect();
    let stop = AtomicBool::new(false);
    thread::scope(|scope| {
        let stop = &stop;
        let at_work: Vec<_> = writers
            .iter()
            .enumerate()
            .map(|(number, writer)| scope.spawn(move || writer.write_until(stop, number)))
            .collect();
        kill();
        stop.store(true, Ordering::Relaxed);
        at_work.into_iter().flat_map(|writer| writer.join().unwrap()).collect()
    })
}

#[test]
#[ignore = "takes minutes: cargo xtask kills"]
fn a_server_killed_two_hundred_times_loses_and_doubles_nothing() {
    let db = TestDb::new();
    let address = format!("127.0.0.1:{}", free_port().unwrap());
    let base = format!("http://{address}");
    let serve = ["serve", "--demo", "--listen", &address];
    let mut server = Some(yardwand(&db.url(), &serve));
    let (count, mut done) = (times(200), 0);
    let kept = while_killed(&base, || {
        for _ in 0..count {
            thread::sleep(Duration::from_millis(fastrand::u64(5..900)));
            killed(server.take().unwrap());
            done += 1;
            server = Some(yardwand(&db.url(), &serve));
            // Sometimes it is killed before it is up.
            if fastrand::u8(..4) > 0 {
                wait_for(&base);
            }
        }
    });
    wait_for(&base);
    killed(server.take().unwrap());
    all_is_there_once(&kept, |sql| db.ask(sql));
    println!(
        "{done} kills of the server, {} clients with session and reading answered for: none lost, none twice",
        kept.len()
    );
}

#[test]
#[ignore = "takes minutes: cargo xtask kills"]
fn a_database_killed_fifty_times_loses_and_doubles_nothing() {
    let home = std::env::temp_dir().join(format!("yardwand-kills-{}", std::process::id()));
    let db = DevDb::start(&home).unwrap();
    let (port, url) = (db.port(), db.database("house").unwrap());
    let address = format!("127.0.0.1:{}", free_port().unwrap());
    let base = format!("http://{address}");
    let server = yardwand(&url, &["serve", "--demo", "--listen", &address]);
    let (mut db, mut done) = (Some(db), 0);
    let kept = while_killed(&base, || {
        for _ in 0..times(50) {
            thread::sleep(Duration::from_millis(fastrand::u64(20..1500)));
            db.take().unwrap().kill(&home).unwrap();
            done += 1;
            db = Some(DevDb::start_at(&home, port).unwrap());
            wait_for(&base);
        }
    });
    killed(server);
    let ask = |sql: &str| db.as_ref().unwrap().ask("house", sql).unwrap();
    all_is_there_once(&kept, ask);
    println!(
        "{done} kills of the database, {} clients with session and reading answered for: none lost, none twice",
        kept.len()
    );
    drop(db);
    let _ = std::fs::remove_dir_all(&home);
}

/// Each migration is killed in its middle at least so often as is asked, and the next start finishes.
#[test]
#[ignore = "takes minutes: cargo xtask kills"]
fn a_migration_killed_at_any_moment_is_finished_by_the_next_start() {
    let schema = |db: &TestDb| {
        let tables = db.ask(&format!(
            "SELECT table_name FROM information_schema.tables WHERE table_schema = '{}' AND table_type = 'BASE TABLE' ORDER BY 1",
            db.name()
        ));
        let one = |table: &str| db.ask(&format!("SHOW CREATE TABLE `{table}`"));
        tables.lines().map(one).collect::<String>()
    };
    let whole = TestDb::new();
    let begun = Instant::now();
    assert!(yardwand(&whole.url(), &["migrate"]).wait().unwrap().success());
    let (takes, wanted) = (begun.elapsed(), schema(&whole));
    let (least, mut in_the_middle_of, mut done) = (times(40), BTreeMap::<String, usize>::new(), 0);
    let all = whole.ask("SELECT DISTINCT version FROM schema_steps");
    while all.lines().any(|version| in_the_middle_of.get(version).is_none_or(|count| *count < least)) {
        // A migration of a few milliseconds is seldom hit: it is not waited for without end.
        if done >= least * all.lines().count() {
            break;
        }
        let db = TestDb::new();
        let migrating = yardwand(&db.url(), &["migrate"]);
        thread::sleep(takes.mul_f64(fastrand::f64()));
        killed(migrating);
        done += 1;
        let has = db.ask(&format!(
            "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = '{}' AND table_name = 'schema_steps'",
            db.name()
        ));
        if has.trim() == "1" {
            let at = db.ask("SELECT COALESCE(MAX(version), 0) FROM schema_steps");
            *in_the_middle_of.entry(at.trim().to_owned()).or_default() += 1;
        }
        assert!(yardwand(&db.url(), &["migrate"]).wait().unwrap().success(), "after {done} kills");
        assert_eq!(schema(&db), wanted, "after {done} kills");
    }
    println!("{done} kills while migrating; the newest migration that was begun then: {in_the_middle_of:#?}");
}
