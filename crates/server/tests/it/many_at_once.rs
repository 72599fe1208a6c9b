//! A flood of sign-ins, and a database that goes away and comes back.

use std::io::copy;
use std::net::{Shutdown, SocketAddr, TcpListener, TcpStream};
use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, Mutex};
use std::thread;
use std::time::{Duration, Instant};

use serde_json::json;

use crate::common::{Asker, House};

/// Some are turned down, none breaks, and whoever comes a moment later gets in.
#[test]
fn a_flood_of_sign_ins_is_turned_down_and_somebody_after_it_comes_in() {
    let house = House::with_demo();
    let base = house.base();
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
    assert!(of(401) >= 12, "those that had a place: {}", of(401));
    assert!(answers.iter().all(|(status, wait)| (*status == 429) == (wait == "5")), "{answers:?}");
    assert_eq!(house.owner().get("/api/me").status, 200);
}

/// A line to a database that can be cut.
struct Line {
    address: SocketAddr,
    is_cut: Arc<AtomicBool>,
    open: Arc<Mutex<Vec<TcpStream>>>,
}

impl Line {
    fn to(database: &str) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let address = listener.local_addr().unwrap();
        let is_cut = Arc::new(AtomicBool::new(false));
        let open = Arc::new(Mutex::new(Vec::new()));
        let (cut, opened, database) = (is_cut.clone(), open.clone(), database.to_owned());
        thread::spawn(move || {
            for here in listener.incoming().map_while(Result::ok) {
                if cut.load(Ordering::SeqCst) {
                    continue;
                }
                let Ok(there) = TcpStream::connect(&database) else { continue };
                for (mut from, mut to) in [
                    (here.try_clone().unwrap(), there.try_clone().unwrap()),
                    (there.try_clone().unwrap(), here.try_clone().unwrap()),
                ] {
                    thread::spawn(move || {
                        let _ = copy(&mut from, &mut to);
                        let _ = to.shutdown(Shutdown::Both);
                    });
                }
                opened.lock().unwrap().extend([here, there]);
            }
        });
        Self { address, is_cut, open }
    }

    fn cut(&self) {
        self.is_cut.store(true, Ordering::SeqCst);
        for stream in self.open.lock().unwrap().drain(..) {
            let _ = stream.shutdown(Shutdown::Both);
        }
    }

    fn mend(&self) {
        self.is_cut.store(false, Ordering::SeqCst);
    }
}

#[test]
fn while_the_database_is_away_everybody_is_told_and_afterwards_it_goes_on() {
    let (house, line) = House::over(|url| {
        let (head, database) = url.rsplit_once('/').unwrap();
        let (user, server) = head.rsplit_once('@').unwrap();
        let line = Line::to(server);
        (format!("{user}@{}/{database}", line.address), line)
    });
    let owner = house.owner();
    assert_eq!(owner.get("/api/clients").status, 200);
    line.cut();
    let begun = Instant::now();
    let answer = owner.get("/api/clients");
    assert_eq!((answer.status, answer.header("retry-after")), (503, "1"), "{:?}", answer.body);
    assert!(answer.detail().contains("what you typed stays"), "{}", answer.detail());
    let entry = json!({ "name": "Tove Rask", "contact": "", "notes": "" });
    assert_eq!(owner.post("/api/clients", &entry).status, 503);
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
