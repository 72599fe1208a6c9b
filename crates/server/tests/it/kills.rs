//! Hundreds of kills in the middle of everything, for `cargo xtask kills`: nothing that was answered for is lost, nothing is there twice,
//! and nothing stays stuck.

use std::collections::BTreeMap;
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::thread;
use std::time::{Duration, Instant};

use yardwand_devdb::{DevDb, TestDb, free_port};

use crate::common::writer::{Kept, Writer, all_is_there_once, wait_for};

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

/// Writers at work while `kill` is done again and again; what they were answered for.
fn while_killed(base: &str, mut kill: impl FnMut()) -> Kept {
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
