//! Backups: what is brought back elsewhere is the same house; what is not whole is said and changes nothing; one client alone.

use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::{Command, Output, Stdio};
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use serde_json::json;
use yardwand_devdb::TestDb;

use crate::common::{Asker, House, Server, description};

const PASSPHRASE: &str = "four words for the iron box";

/// A folder that goes with the test.
struct Folder(PathBuf);

impl Folder {
    fn new(name: &str) -> Self {
        let path = std::env::temp_dir().join(format!("yardwand-backups-{}-{name}", std::process::id()));
        std::fs::create_dir_all(&path).unwrap();
        std::fs::write(path.join("passphrase"), format!("{PASSPHRASE}\n")).unwrap();
        Self(path)
    }

    fn join(&self, name: &str) -> PathBuf {
        self.0.join(name)
    }

    /// The backups in a folder of it, oldest first.
    fn backups(&self, folder: &str) -> Vec<PathBuf> {
        let mut found: Vec<PathBuf> =
            std::fs::read_dir(self.join(folder)).unwrap().map(|entry| entry.unwrap().path()).collect();
        found.sort();
        found
    }
}

impl Drop for Folder {
    fn drop(&mut self) {
        let _ = std::fs::remove_dir_all(&self.0);
    }
}

fn command(url: &str, words: &[&str]) -> Command {
    let mut command = Command::new(env!("CARGO_BIN_EXE_yardwand"));
    command.args(words).env("DATABASE_URL", url).env_remove("YARDWAND_BACKUP_PASSPHRASE_FILE");
    command.stdout(Stdio::piped()).stderr(Stdio::piped());
    command
}

fn yardwand(url: &str, words: &[&str]) -> Output {
    command(url, words).output().unwrap()
}

/// Runs it; what it said.
fn done(url: &str, words: &[&str]) -> String {
    let output = yardwand(url, words);
    assert!(output.status.success(), "{words:?}: {}", String::from_utf8_lossy(&output.stderr));
    String::from_utf8(output.stdout).unwrap()
}

/// Runs it; why it was turned down.
fn refused(url: &str, words: &[&str]) -> String {
    let output = yardwand(url, words);
    assert!(!output.status.success(), "{words:?} went through");
    String::from_utf8(output.stderr).unwrap()
}

fn text(path: &Path) -> &str {
    path.to_str().unwrap()
}

/// Backs up without a passphrase; the file.
fn backed_up(url: &str, folder: &Folder, to: &str) -> PathBuf {
    done(url, &["backup", "--to", text(&folder.join(to))]);
    folder.backups(to).pop().unwrap()
}

/// The numbers that there are of what an address names, by the part of the address before them.
fn numbers(db: &TestDb) -> BTreeMap<&'static str, Vec<u64>> {
    let of = [
        ("blocks", "blocks"),
        ("clients", "clients"),
        ("drapes", "drapes"),
        ("forms", "forms"),
        ("imports", "imports"),
        ("orders", "orders"),
        ("patterns", "patterns"),
        ("photographs", "photographs"),
        ("rounds", "rounds"),
        ("sessions", "sessions"),
        ("versions", "pattern_versions"),
    ];
    of.map(|(part, table)| {
        let told = db.ask(&format!("SELECT id FROM {table} ORDER BY id"));
        (part, told.lines().map(|line| line.parse().unwrap()).collect())
    })
    .into()
}

/// Every address that answers with what is kept, of some of the things there are.
fn addresses(db: &TestDb) -> Vec<String> {
    // What is this sign-in's own, how the server is, what it is at, and what says when it was asked for.
    const OTHERS: [&str; 7] = [
        "/api/me/sign-ins",
        "/api/ready",
        "/api/health",
        "/api/house/backup",
        "/api/calendar.ics",
        "/api/jobs",
        "/api/jobs/{id}",
    ];
    let numbers = numbers(db);
    let mut found = Vec::new();
    for (path, item) in description()["paths"].as_object().unwrap() {
        let is_asked = item.get("get").is_some() && !path.ends_with("/events") && !path.contains("{token}");
        if !is_asked || OTHERS.contains(&path.as_str()) {
            continue;
        }
        let parameters = item["get"]["parameters"].as_array().cloned().unwrap_or_default();
        if parameters.iter().any(|each| each["in"] == "query" && each["required"] == true) {
            continue;
        }
        if !path.contains('{') {
            found.push(path.clone());
            continue;
        }
        let part = path.split('/').nth(2).unwrap();
        let all = &numbers[part];
        // The first, the last and some between.
        let step = (all.len() / 4).max(1);
        for id in all.iter().step_by(step).chain(all.last()) {
            let with = |other: &str, of: &str| path.replace(other, &numbers[of][0].to_string());
            let path = match path.as_str() {
                p if p.contains("{other}") => with("{other}", "orders"),
                p if p.contains("{client}") => with("{client}", "clients"),
                _ => path.clone(),
            };
            found.push(path.replace("{id}", &id.to_string()).replace("{piece}", "front"));
        }
    }
    found.dedup();
    found
}

/// A toile of hers with its photograph and a few marks.
fn draped(owner: &Asker, client: u64) {
    let entry = json!({ "name": "Bodice draped for her", "material": "toile", "client": client });
    let drape = owner.post("/api/drapes", &entry).id();
    let picture = include_bytes!("../../../server/src/demo/toile-front.jpg");
    let path = format!("/api/drapes/{drape}/pieces/front");
    let key = "6a2f3df4-6f0e-4c9e-9a53-6a3d5e7c0004";
    assert_eq!(owner.send(&format!("{path}/photograph"), key, picture).status, 200);
    let marked = json!({ "by": "photograph", "marks": { "tip": [812.5, 391.25] } });
    assert_eq!(owner.put(&path, &json!({ "revision": 2, "marked": marked })).status, 200);
}

/// Everything a reader gets of a house, address by address.
fn answers(asker: &Asker, addresses: &[String]) -> BTreeMap<String, (u16, Vec<u8>)> {
    let answer = |path: &String| {
        let client = path.strip_suffix("/everything.zip").and_then(|rest| rest.rsplit('/').next());
        // It is put together first; of one who is not there nothing is.
        if let Some(client) =
            client.filter(|client| asker.get(&format!("/api/clients/{client}")).status == 200)
        {
            asker.everything_of(&json!(client.parse::<u64>().unwrap()));
        }
        (path.clone(), asker.whole(path))
    };
    addresses.iter().map(answer).collect()
}

#[test]
fn a_house_brought_back_elsewhere_answers_the_same_byte_for_byte() {
    let house = House::with_orchestra();
    let folder = Folder::new("whole");
    let (first, second, key) = (folder.join("first"), folder.join("second"), folder.join("passphrase"));
    let url = house.db().url();
    let key = ["--passphrase-file", text(&key)];
    assert!(house.owner().get("/api/house/backup").body["taken_at"].is_null());
    draped(&house.owner(), house.owner().garment_of("Agnes")["client_id"].as_u64().unwrap());

    let said = done(&url, &["backup", "--to", text(&first), "--also", text(&second), key[0], key[1]]);
    assert!(said.contains("found whole") && !said.contains("not encrypted"), "{said}");
    let told = house.owner().get("/api/house/backup").body;
    assert!(
        told["taken_at"].is_string() && told["encrypted"] == true && told["second_place"] == true,
        "{told}"
    );
    let file = folder.backups("first").pop().unwrap();
    let copy = folder.backups("second").pop().unwrap();
    assert!(std::fs::read(&file).unwrap() == std::fs::read(&copy).unwrap(), "the copy is another file");
    assert_eq!(told["bytes"], json!(std::fs::metadata(&file).unwrap().len()));
    assert!(
        !String::from_utf8_lossy(&std::fs::read(&file).unwrap()).contains("Agnes"),
        "nothing can be read in it"
    );

    // It opens with its passphrase only, and elsewhere holds what it held.
    let elsewhere = TestDb::new();
    assert!(refused(&elsewhere.url(), &["restore", text(&file)]).contains("is encrypted"));
    std::fs::write(folder.join("other"), "some other words here\n").unwrap();
    let other = folder.join("other");
    let wrong = refused(&elsewhere.url(), &["restore", text(&file), key[0], text(&other)]);
    assert!(wrong.contains("does not open it"), "{wrong}");
    assert_eq!(elsewhere.ask("SHOW TABLES"), "", "nothing was begun");
    assert!(done(&url, &["check", "--backup", text(&copy), key[0], key[1]]).contains("is whole"));
    done(&elsewhere.url(), &["restore", text(&copy), key[0], key[1]]);

    // Two that are begun together: one house, once.
    let both = TestDb::new();
    let at_once =
        [0, 1].map(|_| command(&both.url(), &["restore", text(&copy), key[0], key[1]]).spawn().unwrap());
    let at_once = at_once.map(|child| child.wait_with_output().unwrap());
    assert_eq!(at_once.iter().filter(|one| one.status.success()).count(), 1);
    let turned_down = at_once.iter().find(|one| !one.status.success()).unwrap();
    let said = String::from_utf8_lossy(&turned_down.stderr);
    assert!(said.contains("being brought back") || said.contains("a house in this database"), "{said}");
    let count = |db: &TestDb| db.ask("SELECT COUNT(*) FROM readings");
    assert_eq!(count(&both), count(house.db()));

    // The second place is another one.
    let (first_again, said) = (folder.join("first/../first"), "under another name");
    assert!(refused(&url, &["backup", "--to", text(&first), "--also", text(&first_again)]).contains(said));

    let addresses = addresses(house.db());
    assert!(addresses.len() > 150, "{}", addresses.len());
    let server = Server::of(&elsewhere);
    let before = answers(&house.owner(), &addresses);
    let after = answers(&Asker::signed_in_at(server.base()), &addresses);
    for (path, (status, bytes)) in &before {
        let (other_status, other) = &after[path];
        assert_eq!((status, bytes.len()), (other_status, other.len()), "{path}");
        assert!(bytes == other, "{path} answers otherwise");
    }
    let good = before.values().filter(|(status, _)| *status == 200).count();
    assert!(good * 10 > before.len() * 9, "{good} of {} are good answers", before.len());

    // Numbers go on from where they were: that of somebody who was erased is never given again.
    let next = |db: &TestDb| {
        db.ask(&format!(
            "SELECT table_name, auto_increment FROM information_schema.tables WHERE table_schema = '{}' \
             AND auto_increment IS NOT NULL AND table_name NOT IN ('backups', 'audit', 'sign_ins') ORDER BY 1",
            db.name()
        ))
    };
    assert_eq!(next(house.db()), next(&elsewhere));
    assert!(done(&elsewhere.url(), &["check"]).contains("Nothing is wrong."));

    // Where a house is already, nothing is brought back over it.
    assert!(
        refused(&elsewhere.url(), &["restore", text(&file), key[0], key[1]])
            .contains("a house in this database")
    );
}

/// While somebody writes, a backup is of one moment: what was saved together is in it together, or not at all.
#[test]
fn a_backup_taken_in_use_is_of_one_moment_and_two_at_once_are_one() {
    let house = House::with_demo();
    let folder = Folder::new("in-use");
    let url = house.db().url();
    let stop = AtomicBool::new(false);
    std::thread::scope(|scope| {
        let writers = [0, 1].map(|writer| {
            let (stop, owner) = (&stop, house.owner());
            scope.spawn(move || {
                let mut written = 0;
                while !stop.load(Ordering::Relaxed) {
                    owner
                        .post("/api/clients", &json!({ "name": format!("Somebody {writer} {written}") }))
                        .id();
                    written += 1;
                }
                written
            })
        });
        std::thread::sleep(Duration::from_millis(300));
        for number in 0..4 {
            let to = format!("to-{number}");
            let file = backed_up(&url, &folder, &to);
            let elsewhere = TestDb::new();
            done(&elsewhere.url(), &["restore", text(&file)]);
            // A client is saved with the note of who added her.
            let alone = "SELECT COUNT(*) FROM clients c LEFT JOIN audit a ON a.of_table = 'clients' AND a.of_id = c.id \
                         WHERE a.id IS NULL AND c.name LIKE 'Somebody%'";
            let noted = "SELECT COUNT(*) FROM audit a LEFT JOIN clients c ON c.id = a.of_id \
                         WHERE a.of_table = 'clients' AND c.id IS NULL";
            assert_eq!((elsewhere.ask(alone).trim(), elsewhere.ask(noted).trim()), ("0", "0"));
        }
        // Two that are begun together: one is taken, the other says why not, or comes after it.
        let both =
            [0, 1].map(|_| command(&url, &["backup", "--to", text(&folder.join("both"))]).spawn().unwrap());
        let both = both.map(|child| child.wait_with_output().unwrap());
        assert!(both.iter().any(|one| one.status.success()));
        for one in both.iter().filter(|one| !one.status.success()) {
            let said = String::from_utf8_lossy(&one.stderr);
            assert!(said.contains("another backup of this house is being taken"), "{said}");
        }
        stop.store(true, Ordering::Relaxed);
        let written: i32 = writers.map(|writer| writer.join().unwrap()).iter().sum();
        assert!(written > 20, "{written} were written meanwhile");
    });
    assert!(folder.backups("both").iter().all(|file| !text(file).ends_with(".part")));
}

/// A file that is cut off, or in which a byte is another, is found out before anything is brought back.
#[test]
fn what_is_not_whole_is_found_out_and_changes_nothing() {
    let house = House::with_demo();
    let folder = Folder::new("broken");
    let url = house.db().url();
    let plain = backed_up(&url, &folder, "plain");
    let key = folder.join("passphrase");
    done(&url, &["backup", "--to", text(&folder.join("secret")), "--passphrase-file", text(&key)]);
    let secret = folder.backups("secret").pop().unwrap();
    let broken = folder.join("broken.zip");
    let elsewhere = TestDb::new();
    fastrand::seed(2026);
    for file in [&plain, &secret] {
        let whole = std::fs::read(file).unwrap();
        for round in 0..12 {
            let mut bytes = whole.clone();
            let at = fastrand::usize(..bytes.len());
            if round % 3 == 0 {
                bytes.truncate(at)
            } else {
                bytes[at] ^= 1 << fastrand::u8(..8)
            }
            std::fs::write(&broken, &bytes).unwrap();
            let checked =
                yardwand(&url, &["check", "--backup", text(&broken), "--passphrase-file", text(&key)]);
            if checked.status.success() {
                // A byte that holds nothing of the house, such as a time in the archive's list of names.
                assert!(round % 3 != 0 && file == &plain, "a changed byte at {at} of {} passed", whole.len());
                continue;
            }
            refused(&elsewhere.url(), &["restore", text(&broken), "--passphrase-file", text(&key)]);
            assert_eq!(elsewhere.ask("SHOW TABLES"), "", "a changed byte at {at}");
        }
    }
    for (file, words) in [("nothing.zip", "reading"), ("passphrase", "no whole backup")] {
        let said = refused(&url, &["check", "--backup", text(&folder.join(file))]);
        assert!(said.contains(words), "{said}");
    }
}

/// Killed at any moment, taking one leaves the older ones whole and bringing one back leaves an empty house that takes the next.
#[test]
fn a_kill_in_the_middle_leaves_the_older_backups_and_an_empty_house() {
    let house = House::with_demo();
    let folder = Folder::new("killed");
    let url = house.db().url();
    let older = backed_up(&url, &folder, "to");
    let older_bytes = std::fs::read(&older).unwrap();
    fastrand::seed(2026);
    // How long it takes to bring one back, by doing it once.
    let elsewhere = TestDb::new();
    let begun = Instant::now();
    done(&elsewhere.url(), &["restore", text(&older)]);
    let takes = begun.elapsed();
    elsewhere.empty();
    let (mut halves, mut taken) = (0, 0);
    for round in 0..8 {
        let mut taking = command(&url, &["backup", "--to", text(&folder.join("to"))]).spawn().unwrap();
        // Every other time in the middle of writing, otherwise at any moment.
        let has_begun = || folder.backups("to").iter().any(|file| text(file).ends_with(".part"));
        while round % 2 == 0 && !has_begun() && taking.try_wait().unwrap().is_none() {
            std::thread::sleep(Duration::from_millis(2));
        }
        std::thread::sleep(Duration::from_millis(fastrand::u64(..40) * (1 + 10 * (round % 2))));
        taking.kill().unwrap();
        taking.wait().unwrap();
        let mut bringing = command(&elsewhere.url(), &["restore", text(&older)]).spawn().unwrap();
        std::thread::sleep(takes.mul_f64(fastrand::f64() * 1.1));
        bringing.kill().unwrap();
        bringing.wait().unwrap();
        halves += usize::from(folder.backups("to").iter().any(|file| text(file).ends_with(".part")));
        // Whatever has a name of its own is whole.
        for file in folder.backups("to").iter().filter(|file| text(file).ends_with(".zip")) {
            assert!(done(&url, &["check", "--backup", text(file)]).contains("is whole"));
        }
        let people = elsewhere.ask("SELECT COUNT(*) FROM information_schema.tables WHERE table_name = 'people' AND table_schema = DATABASE()");
        if people.trim() == "1" && elsewhere.ask("SELECT COUNT(*) FROM people").trim() != "0" {
            // It was done before the kill came: the next begins anew.
            taken += 1;
            elsewhere.empty();
        }
    }
    assert!(std::fs::read(&older).unwrap() == older_bytes, "the older one is untouched");
    done(&elsewhere.url(), &["restore", text(&older)]);
    done(&url, &["backup", "--to", text(&folder.join("to"))]);
    assert!(folder.backups("to").iter().all(|file| text(file).ends_with(".zip")), "halves go with the next");
    assert!(halves > 0 && taken < 8, "{halves} halves, {taken} whole: the kills came at other moments");
}

#[test]
fn one_client_is_brought_back_whole_and_nobody_else_changes() {
    let house = House::with_demo();
    let owner = house.owner();
    let folder = Folder::new("one");
    let url = house.db().url();
    let client = owner.garment_of("Clara")["client_id"].as_u64().unwrap();
    draped(&owner, client);
    let file = backed_up(&url, &folder, "to");
    let one = client.to_string();
    let bring = ["restore", text(&file), "--client", &one];
    assert!(refused(&url, &bring).contains("she is in this house"));

    let all = addresses(house.db());
    let before = answers(&owner, &all);
    // Erased and brought back, and both once more.
    for _ in 0..2 {
        let revision = owner.get(&format!("/api/clients/{client}")).body["revision"].as_u64().unwrap();
        let erased = owner.delete(&format!("/api/clients/{client}?revision={revision}"));
        assert_eq!(erased.status, 204, "{:?}", erased.body);
        assert_eq!(owner.get(&format!("/api/clients/{client}")).status, 404);
        let said = done(&url, &bring);
        assert!(said.contains("is back as she was"), "{said}");
        assert!(refused(&url, &bring).contains("she is in this house"));
    }
    let after = answers(&owner, &all);
    for (path, answer) in &before {
        // Who did what says besides that she was erased and is back.
        if !path.contains("/changes") && path != "/api/changes" && !path.ends_with("everything.zip") {
            assert!(answer == &after[path], "{path} answers otherwise");
        }
    }
    assert!(done(&url, &["check"]).contains("Nothing is wrong."));
    let said = owner.get("/api/changes").body.to_string();
    assert!(said.contains("brought back from a backup") || said.contains("from a backup"), "{said}");

    // Somebody who is not in it, and a house that is another one.
    assert!(
        refused(&url, &["restore", text(&file), "--client", "999999"]).contains("no client has the number")
    );
    let other = House::with_demo();
    let away = other.db().url();
    assert!(refused(&away, &["restore", text(&file), "--client", "999999"]).contains("of another house"));
}

#[test]
fn what_is_damaged_in_a_house_is_found() {
    let house = House::with_orchestra();
    let url = house.db().url();
    assert!(done(&url, &["check"]).contains("Nothing is wrong."));
    let damage = |sql: &str, words: &str| {
        house.db().ask(&format!("SET foreign_key_checks = 0, check_constraint_checks = 0; {sql}"));
        let output = yardwand(&url, &["check"]);
        let said = String::from_utf8(output.stdout).unwrap();
        assert!(said.contains(words), "{sql}: {said}");
        output.status.success()
    };
    let picture = "SELECT MIN(id) FROM photographs";
    assert!(!damage(
        &format!("UPDATE photographs SET image = LEFT(image, 500) WHERE id = ({picture})"),
        "is no picture"
    ));
    assert!(!damage(
        "UPDATE photographs SET round_id = NULL, note_id = NULL, observation_id = NULL LIMIT 1",
        "belongs to no round"
    ));
    assert!(!damage("DELETE FROM sessions ORDER BY id LIMIT 1", "refer by session_id"));
    let moved = "UPDATE pattern_versions SET pattern = REGEXP_REPLACE(pattern, '([0-9])\\\\.([0-9])', '\\\\1.9\\\\2') ORDER BY id LIMIT 1";
    damage(moved, "its recipe draws");
    assert!(!damage(
        "UPDATE patterns SET recipe = '{}' ORDER BY id LIMIT 1; UPDATE patterns SET block = '{}' ORDER BY id LIMIT 1",
        "cannot be read"
    ));
}

/// A backup is as large a secret as the house: a short passphrase is turned down, and a file that is none.
#[test]
fn a_passphrase_that_is_none_is_turned_down() {
    let folder = Folder::new("short");
    std::fs::write(folder.join("short"), "needles\n").unwrap();
    let db = TestDb::new();
    let words = |file: &str| {
        let (to, key) = (folder.join("to"), folder.join(file));
        refused(&db.url(), &["backup", "--to", text(&to), "--passphrase-file", text(&key)])
    };
    assert!(words("short").contains("shorter than 12 characters"));
    assert!(words("nothing").contains("cannot be read"));
    // A database that is no house yet.
    assert!(words("passphrase").contains("yardwand migrate"));
}
