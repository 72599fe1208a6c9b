//! People who do not wait for an answer: a page left while it loads, a drag that overtakes its own previews.

use std::io::{self, Write};
use std::net::TcpStream;
use std::sync::{Arc, Mutex, PoisonError};
use std::thread::sleep;
use std::time::Duration;

use crate::common::{House, LOG};

/// What the program logs, for reading it here.
#[derive(Clone, Default)]
struct Log(Arc<Mutex<Vec<u8>>>);

impl Write for Log {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        self.0.lock().unwrap().extend_from_slice(bytes);
        Ok(bytes.len())
    }

    fn flush(&mut self) -> io::Result<()> {
        Ok(())
    }
}

#[test]
fn an_asker_who_leaves_costs_no_connection_to_the_database() {
    let _alone = LOG.lock().unwrap_or_else(PoisonError::into_inner);
    let log = Log::default();
    let writer = log.clone();
    tracing_subscriber::fmt()
        .with_max_level(tracing::Level::WARN)
        .with_ansi(false)
        .with_writer(move || writer.clone())
        .init();
    let house = House::with_demo();
    let owner = house.owner();
    let host = house.base().trim_start_matches("http://").to_owned();
    for path in ["/api/orders/1/comparison", "/api/rounds/1/causes", "/api/sessions/1/events"] {
        for wait in 0..30 {
            let mut line = TcpStream::connect(&host).unwrap();
            let ask = format!("GET {path} HTTP/1.1\r\nHost: {host}\r\nCookie: {}\r\n\r\n", owner.cookie());
            line.write_all(ask.as_bytes()).unwrap();
            sleep(Duration::from_micros(700 * wait));
        }
    }
    sleep(Duration::from_millis(500));
    assert_eq!(owner.get("/api/orders").status, 200);
    drop(house);
    let written = String::from_utf8(log.0.lock().unwrap().clone()).unwrap();
    assert_eq!(written, "", "the log of a quiet day is empty");
}
