//! Long work: done by any server, given up without a trace, gone on with where a server was killed.

use std::fmt::Write;
use std::io::{BufRead, BufReader};
use std::path::PathBuf;
use std::process::{Command, Stdio};
use std::thread::sleep;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use yardwand_server::{AppState, BackupPlaces, Jobs, Patience};

use crate::common::{Asker, House, Server};

/// A file of so many days of one new client and one who is known, a reading each.
fn days(count: u32) -> Value {
    let mut content = "client,day,measurement,value\n".to_owned();
    for day in 0..count {
        let on = chrono::NaiveDate::from_ymd_opt(2001, 1, 1).unwrap() + chrono::Days::new(day.into());
        writeln!(content, "Vera Long,{on},bust_girth,{} mm", 900 + day % 50).unwrap();
        writeln!(content, "Edda Mårtens,{on},waist_girth,{} mm", 700 + day % 50).unwrap();
    }
    json!({ "file_name": "days.csv", "content": content })
}

/// The job of an import that is being saved.
fn job_of(asker: &Asker, import: u64) -> u64 {
    let jobs = asker.get("/api/jobs").body;
    let of = |job: &&Value| job["kind"] == "import" && job["of"] == import;
    jobs.as_array().unwrap().iter().find(of).unwrap()["id"].as_u64().unwrap()
}

fn saving(asker: &Asker, file: &Value) -> u64 {
    let import = asker.post("/api/imports", file).id();
    assert_eq!(asker.post(&format!("/api/imports/{import}/save"), &json!({})).status, 202);
    import
}

/// Sessions that this import has saved.
fn saved(house: &House, import: u64) -> u32 {
    house
        .db()
        .ask(&format!("SELECT COUNT(*) FROM sessions WHERE import_id = {import}"))
        .trim()
        .parse()
        .unwrap()
}

/// A server that looks for others' work all the time.
fn eager(house: &House) -> Server {
    Server::patient(house, Patience::default(), |state| AppState {
        jobs: Jobs::default().looking_every(Duration::from_millis(50)),
        ..state
    })
}

#[test]
fn a_clients_file_is_put_together_told_and_goes_with_her() {
    let house = House::with_demo();
    let owner = house.owner();
    let clara = owner.garment_of("Clara")["client_id"].clone();
    let zip = format!("/api/clients/{clara}/everything.zip");
    assert_eq!(owner.get(&zip).status, 404, "nobody has asked for it");
    let asked = owner.post(&format!("/api/clients/{clara}/everything"), &json!({})).id();
    let ended = owner.ended(asked);
    assert_eq!((&ended["state"], &ended["done"]), (&json!("done"), &ended["total"]), "{ended}");
    assert!(ended["total"].as_u64().unwrap() > 0 && ended["about"].as_str().unwrap().starts_with("Clara"));
    assert!(owner.bytes(&zip).starts_with(b"PK"));
    let stop = owner.post(&format!("/api/jobs/{asked}/stop"), &json!({}));
    assert_eq!((stop.status, stop.detail()), (409, "it has ended already"));
    // Asked for twice at the same moment it is put together once, and both are told of the same.
    let both: Vec<u64> = std::thread::scope(|scope| {
        let asks = [0, 1].map(|_| {
            scope.spawn(|| owner.post(&format!("/api/clients/{clara}/everything"), &json!({})).id())
        });
        asks.map(|ask| ask.join().unwrap()).into()
    });
    both.iter().for_each(|job| assert_eq!(owner.ended(*job)["state"], "done"));
    // She is erased: nothing of it is left.
    let revision = owner.get(&format!("/api/clients/{clara}")).body["revision"].clone();
    assert_eq!(owner.delete(&format!("/api/clients/{clara}?revision={revision}")).status, 204);
    assert_eq!(house.db().ask("SELECT COUNT(*) FROM jobs").trim(), "0");
    assert_eq!(house.db().ask("SELECT COUNT(*) FROM job_files").trim(), "0");
}

#[test]
fn what_is_given_up_leaves_nothing_and_another_server_hears_of_it() {
    let house = House::with_demo();
    let owner = house.owner();
    let import = saving(&owner, &days(2000));
    let job = job_of(&owner, import);
    let other = house.second_server();
    let elsewhere = Asker::signed_in_at(other.base());
    while saved(&house, import) == 0 {
        sleep(Duration::from_millis(5));
    }
    assert_eq!(elsewhere.post(&format!("/api/jobs/{job}/stop"), &json!({})).status, 204);
    assert_eq!(elsewhere.ended(job)["state"], "given_up");
    assert_eq!(owner.get(&format!("/api/imports/{import}")).body["state"], "cancelled");
    assert_eq!(saved(&house, import), 0);
    assert_eq!(owner.get("/api/clients?q=Vera").body["items"], json!([]), "nor is she");
}

#[test]
fn a_killed_servers_work_is_gone_on_with_and_nothing_is_there_twice() {
    let house = House::with_demo();
    let mut child = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(["serve", "--listen", "127.0.0.1:0"])
        .env("DATABASE_URL", house.db().url())
        .stdout(Stdio::piped())
        .stderr(Stdio::null())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let there = Asker::signed_in_at(line.trim().rsplit(' ').next().unwrap().to_owned());
    let import = saving(&there, &days(2000));
    // As soon as anything is there: a machine that does much else looks seldom.
    while saved(&house, import) == 0 {
        sleep(Duration::from_millis(5));
    }
    child.kill().unwrap();
    child.wait().unwrap();
    let left = saved(&house, import);
    assert!(left < 4000, "it was too quick to be killed");
    let owner = house.owner();
    let job = job_of(&owner, import);
    assert_eq!(owner.get(&format!("/api/jobs/{job}")).body["state"], "working", "nobody knows yet");

    let begun = Instant::now();
    let _eager = eager(&house);
    assert_eq!(owner.ended(job)["state"], "done");
    assert!(begun.elapsed() < Duration::from_secs(60), "{:?}", begun.elapsed());
    assert_eq!(saved(&house, import), 4000);
    let twice = "SELECT COUNT(*) FROM (SELECT client_id, started_at FROM sessions WHERE import_id IS NOT NULL \
                 GROUP BY client_id, started_at HAVING COUNT(*) > 1) d";
    assert_eq!(house.db().ask(twice).trim(), "0");
    let seen = owner.get(&format!("/api/imports/{import}")).body;
    assert_eq!((&seen["state"], &seen["done"], &seen["total"]), (&json!("done"), &json!(4000), &json!(4000)));
    assert_eq!(owner.get("/api/clients?q=Vera").body["items"].as_array().unwrap().len(), 1);
}

/// It takes its servers down each time: after the fifth it is left, and nothing of it is there.
#[test]
fn what_breaks_off_every_time_is_not_begun_without_end() {
    let house = House::with_demo();
    let owner = house.owner();
    let import = saving(&owner, &days(5));
    let job = job_of(&owner, import);
    owner.ended(job);
    // As five servers that died would have left it, with a part of it saved.
    house.db().ask(&format!(
        "UPDATE jobs SET state = 'working', ended_at = NULL, begun = 5, lease_until = UTC_TIMESTAMP(3) WHERE id = {job}; \
         UPDATE imports SET state = 'running' WHERE id = {import}"
    ));
    assert!(saved(&house, import) > 0);
    let _eager = eager(&house);
    let left = owner.ended(job);
    assert_eq!(left["state"], "failed");
    assert!(left["says"].as_str().unwrap().contains("begun 5 times"), "{left}");
    assert_eq!(owner.get(&format!("/api/imports/{import}")).body["state"], "failed");
    assert_eq!(saved(&house, import), 0);
}

#[test]
fn a_backup_is_asked_for_where_it_has_a_place() {
    let house = House::with_demo();
    let owner = house.owner();
    let refused = owner.post("/api/house/backup", &json!({}));
    assert_eq!(refused.status, 409);
    assert!(refused.detail().contains("--backup-to"), "{}", refused.detail());
    let to = PathBuf::from(env!("CARGO_TARGET_TMPDIR")).join(format!("asked-for-{}", std::process::id()));
    let places = BackupPlaces { to: to.clone(), also: None, passphrase: None };
    let server = Server::patient(&house, Patience::default(), |state| AppState {
        jobs: Jobs::new(Some(places)),
        ..state
    });
    let there = Asker::signed_in_at(server.base());
    assert_eq!(there.get("/api/house/backup").body["can_take"], true);
    let job = there.post("/api/house/backup", &json!({})).id();
    let ended = there.ended(job);
    assert_eq!((&ended["state"], &ended["says"]), (&json!("done"), &Value::Null), "{ended}");
    let taken = std::fs::read_dir(&to).unwrap().flatten().map(|entry| entry.path()).collect::<Vec<_>>();
    assert_eq!(taken.len(), 1, "{taken:?}");
    let checked = Command::new(env!("CARGO_BIN_EXE_yardwand"))
        .args(["check", "--backup"])
        .arg(&taken[0])
        .output()
        .unwrap();
    assert!(String::from_utf8_lossy(&checked.stdout).contains("is whole"), "{checked:?}");
    // A folder that cannot be made is a failure that says so.
    std::fs::remove_dir_all(&to).unwrap();
    std::fs::write(&to, "a file").unwrap();
    let failed = there.ended(there.post("/api/house/backup", &json!({})).id());
    std::fs::remove_file(&to).unwrap();
    assert_eq!(failed["state"], "failed");
    assert!(failed["says"].as_str().unwrap().contains("making"), "{failed}");
}
