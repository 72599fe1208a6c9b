//! Three machines, each with Yardwand beside its own node of a Galera cluster, and HAProxy in front, for `cargo xtask cluster`: ten minutes
//! of reading and writing while one node after another is killed and comes back.

use std::fs;
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::sync::atomic::{AtomicBool, AtomicUsize, Ordering};
use std::thread;
use std::time::{Duration, Instant};

use serde_json::{Value, json};
use yardwand_devdb::{Cluster, free_port};

use crate::common::writer::{Kept, Writer, all_is_there_once, wait_for};

const NODES: usize = 3;
const DATABASE: &str = "house";
const USUAL_MINUTES: u64 = 10;

/// A process that ends with the test.
struct Running(Child);

impl Drop for Running {
    fn drop(&mut self) {
        let _ = self.0.kill();
        let _ = self.0.wait();
    }
}

/// Tells the others to stop, however it ends itself.
struct Stops<'a>(&'a AtomicBool);

impl Drop for Stops<'_> {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// The program on a node; its words are kept beside the node's.
fn yardwand(url: &str, words: &[&str], log: &Path) -> Running {
    let mut command = Command::new(env!("CARGO_BIN_EXE_yardwand"));
    command.args(words).env("DATABASE_URL", url);
    let log = fs::File::create(log).unwrap();
    command.stdout(log.try_clone().unwrap()).stderr(log);
    Running(command.spawn().unwrap())
}

/// HAProxy as `packaging` has it, at these addresses; each request goes to another machine, which is harder than one person's to one.
fn in_front_of(machines: &[String], at: &str, home: &Path) -> Running {
    let packaged = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../packaging/haproxy-yardwand.cfg");
    let mut config = fs::read_to_string(packaged).unwrap();
    let mut replace = |packaged: &str, here: &str| {
        assert!(config.contains(packaged), "{packaged} is not in the packaged file");
        config = config.replace(packaged, here);
    };
    replace("bind :8350", &format!("bind {at}"));
    replace("balance source", "balance roundrobin");
    for (packaged, here) in ["10.0.0.11:8350", "10.0.0.12:8350", "10.0.0.13:8350"].iter().zip(machines) {
        replace(packaged, here);
    }
    let file = home.join("haproxy.cfg");
    fs::write(&file, config).unwrap();
    let mut proxy = Command::new("haproxy");
    proxy.arg("-f").arg(&file).stdout(Stdio::null()).stderr(Stdio::null());
    Running(proxy.spawn().expect("HAProxy is installed by cargo xtask cluster"))
}

/// Writes observations into one round that others write into too, until it is told to stop; the notes that were answered for.
fn pin_until(writer: &Writer, stop: &AtomicBool, number: usize, round: u64) -> Vec<String> {
    let mut kept = Vec::new();
    while !stop.load(Ordering::Relaxed) {
        let note = format!("Pinned {number} {}", kept.len());
        let seen = json!({ "place": "front armhole", "towards": "bust", "kind": "drag", "depth": "1/4",
            "pinned_as": "tuck", "note": note });
        writer.post(
            &format!("/api/rounds/{round}/observations"),
            &format!("p-{number}-{}", kept.len()),
            &seen,
        );
        kept.push(note);
    }
    kept
}

/// Reads pages until it is told to stop: each is there, or the book is closed for a moment.
fn read_until(writer: &Writer, stop: &AtomicBool, read: &AtomicUsize, closed: &AtomicUsize) {
    let pages = ["/api/today", "/api/orders", "/api/week", "/api/clients", "/api/find?q=kept"];
    while !stop.load(Ordering::Relaxed) {
        match writer.status(pages[fastrand::usize(..pages.len())]) {
            Some(200) => drop(read.fetch_add(1, Ordering::Relaxed)),
            // A line that was cut with its machine.
            None | Some(502..=504) => drop(closed.fetch_add(1, Ordering::Relaxed)),
            Some(status) => panic!("a page was answered with {status}"),
        }
        thread::sleep(Duration::from_millis(30));
    }
}

#[test]
#[ignore = "takes ten minutes: cargo xtask cluster"]
fn a_cluster_loses_and_doubles_nothing_while_one_node_after_another_is_killed() {
    let home = std::env::temp_dir().join(format!("yardwand-cluster-{}", std::process::id()));
    fs::create_dir_all(&home).unwrap();
    let mut cluster = Cluster::start(&home, NODES).unwrap();
    cluster.node(0).database(DATABASE).unwrap();
    let addresses: Vec<String> = (0..=NODES).map(|_| format!("127.0.0.1:{}", free_port().unwrap())).collect();
    let (front, machines) = addresses.split_last().unwrap();
    let on = |node: usize, words: &[&str]| {
        let url = format!("{}/{DATABASE}", cluster.node(node).server_url());
        yardwand(&url, words, &home.join(format!("yardwand-{node}.log")))
    };
    // All at once on an empty database: one of them makes the house, the others wait for it.
    let made: Vec<Running> = (0..NODES).map(|node| on(node, &["migrate"])).collect();
    for mut migrating in made {
        assert!(migrating.0.wait().unwrap().success());
    }
    let mut servers = Vec::new();
    for (node, machine) in machines.iter().enumerate() {
        let demo = if node == 0 { &["--demo"][..] } else { &[] };
        servers.push(on(node, &[&["serve", "--listen", machine], demo].concat()));
        wait_for(&format!("http://{machine}"));
    }
    let proxy = in_front_of(machines, front, &home);
    let base = format!("http://{front}");
    wait_for(&base);

    let writers: Vec<Writer> = (0..8).map(|_| Writer::signed_in(&base)).collect();
    let orders = writers[0].read("/api/orders");
    let open = orders
        .as_array()
        .unwrap()
        .iter()
        .find(|order| order["round_open"] == true || !order["round_id"].is_null());
    let round = open.and_then(|order: &Value| order["round_id"].as_u64()).unwrap();
    let minutes = std::env::var("YARDWAND_CLUSTER_MINUTES").ok().and_then(|text| text.parse().ok());
    let length = Duration::from_secs(60 * minutes.unwrap_or(USUAL_MINUTES));
    let (stop, read, closed) = (AtomicBool::new(false), AtomicUsize::new(0), AtomicUsize::new(0));
    let mut kills = 0;
    let (kept, pinned): (Kept, Vec<String>) = thread::scope(|scope| {
        let (stop, read, closed) = (&stop, &read, &closed);
        let (entering, rest) = writers.split_at(3);
        let (pinning, reading) = rest.split_at(3);
        let entering: Vec<_> = { entering.iter().enumerate() }
            .map(|(number, writer)| scope.spawn(move || writer.write_until(stop, number)))
            .collect();
        let pinning: Vec<_> = { pinning.iter().enumerate() }
            .map(|(number, writer)| scope.spawn(move || pin_until(writer, stop, number, round)))
            .collect();
        for writer in reading {
            scope.spawn(move || read_until(writer, stop, read, closed));
        }
        let (begun, stops) = (Instant::now(), Stops(stop));
        while begun.elapsed() < length {
            thread::sleep(Duration::from_secs(fastrand::u64(10..25)));
            let node = fastrand::usize(..NODES);
            cluster.kill(node).unwrap();
            kills += 1;
            thread::sleep(Duration::from_secs(fastrand::u64(2..12)));
            cluster.bring_back(node).unwrap();
            wait_for(&format!("http://{}", machines[node]));
        }
        drop(stops);
        (
            entering.into_iter().flat_map(|writer| writer.join().unwrap()).collect(),
            pinning.into_iter().flat_map(|writer| writer.join().unwrap()).collect(),
        )
    });
    drop((servers, proxy));

    let each = |sql: &str| -> Vec<String> {
        (0..cluster.count()).map(|node| cluster.node(node).ask(DATABASE, sql).unwrap()).collect()
    };
    for node in 0..cluster.count() {
        all_is_there_once(&kept, |sql| cluster.node(node).ask(DATABASE, sql).unwrap());
    }
    let mut expected = pinned.clone();
    expected.sort();
    let notes = each(&format!(
        "SELECT JSON_VALUE(seen, '$.note') FROM observations WHERE round_id = {round} AND JSON_VALUE(seen, '$.note') LIKE 'Pinned %'"
    ));
    for (node, told) in notes.iter().enumerate() {
        let mut found: Vec<&str> = told.lines().collect();
        found.sort_unstable();
        assert_eq!(found, expected, "node {node}");
    }
    let tables = cluster.node(0).ask(DATABASE, "SHOW FULL TABLES WHERE table_type = 'BASE TABLE'").unwrap();
    for table in tables.lines().filter_map(|line| line.split('\t').next()) {
        let sums = each(&format!("CHECKSUM TABLE `{table}`"));
        assert!(sums.iter().all(|sum| *sum == sums[0]), "{table}: {sums:?}");
    }
    let conflicts: u64 = ["wsrep_local_cert_failures", "wsrep_local_bf_aborts"]
        .iter()
        .flat_map(|name| each(&format!("SHOW GLOBAL STATUS LIKE '{name}'")))
        .filter_map(|told| told.split_whitespace().nth(1)?.parse::<u64>().ok())
        .sum();
    assert!(conflicts > 0, "nobody stood in anybody's way: nothing was tried");
    println!(
        "{} minutes, {kills} nodes killed; {} clients with session and reading and {} observations in one round answered for: none lost, \
         none twice, on every node; {} pages read, {} not for a moment; {conflicts} changes turned back since the nodes came up last",
        length.as_secs() / 60,
        kept.len(),
        pinned.len(),
        read.load(Ordering::Relaxed),
        closed.load(Ordering::Relaxed),
    );
    drop(cluster);
    let _ = fs::remove_dir_all(&home);
}
