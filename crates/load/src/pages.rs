//! Five hundred open pages, each with its stream of changes: what they cost everybody else, and the database.

use std::io::{Read, Write};
use std::net::TcpStream;
use std::thread;
use std::time::Duration;

use crate::Measured;
use crate::house::LargeHouse;
use crate::tally::Tally;
use crate::users::{at_work, signed_in};

const PAGES: usize = 500;
const PEOPLE: usize = 20;
const EVERY: Duration = Duration::from_millis(500);
/// Without and with open pages in turn, so often and so long each: what the machine itself does meanwhile is in both.
const TURNS: u32 = 4;
const LENGTH: Duration = Duration::from_secs(25);
/// The database is asked for all of them so often a second at most.
const MOST_STATEMENTS: f64 = 20.0;
/// So much slower is everybody at most.
const MOST_SLOWER: f64 = 1.10;

pub(crate) fn measure(house: &LargeHouse) -> Measured {
    let at_rest = statements_a_second(house)?;
    // Once before it counts: what is read first is read from the disk.
    let people = signed_in(house, PEOPLE)?;
    at_work(house, &people, EVERY, LENGTH);
    let rounds = house.numbers("/api/orders", "round_id")?;
    let address = house.base().trim_start_matches("http://").to_owned();
    let open = |number: usize| -> Measured<TcpStream> {
        let round = rounds[number % rounds.len()];
        let mut line = TcpStream::connect(&address)?;
        write!(
            line,
            "GET /api/rounds/{round}/events HTTP/1.1\r\nhost: {address}\r\ncookie: {}\r\n\r\n",
            house.person.cookie()
        )?;
        let mut head = [0; 12];
        line.read_exact(&mut head)?;
        if head == *b"HTTP/1.1 200" {
            Ok(line)
        } else {
            Err(String::from_utf8_lossy(&head).into_owned().into())
        }
    };
    let (mut alone, mut beside) = (Tally::default(), Tally::default());
    let (mut for_them, mut memory) = (0.0f64, 0);
    for _ in 0..TURNS {
        alone.append(at_work(house, &people, EVERY, LENGTH).all());
        let pages: Vec<TcpStream> = (0..PAGES).map(open).collect::<Measured<_>>()?;
        for_them = for_them.max(statements_a_second(house)? - at_rest);
        beside.append(at_work(house, &people, EVERY, LENGTH).all());
        memory = house.memory()?.0;
        drop(pages);
        thread::sleep(Duration::from_secs(2));
    }
    let slower = beside.at(0.5) / alone.at(0.5);
    println!("| {PEOPLE} people, {} requests each | p50 | p95 |\n|---|---|---|", beside.count() / PEOPLE);
    for (what, times) in [("alone", &alone), ("beside 500 open pages", &beside)] {
        println!("| {what} | {:.1} ms | {:.1} ms |", times.at(0.5), times.at(0.95));
    }
    println!(
        "500 open pages: {for_them:.1} statements a second, everybody {slower:.2} times as slow, the server has {memory} MB"
    );
    if for_them > MOST_STATEMENTS || slower > MOST_SLOWER { Err("over its limit".into()) } else { Ok(()) }
}

/// How often MariaDB is asked while nobody does anything.
fn statements_a_second(house: &LargeHouse) -> Measured<f64> {
    const WATCHED: Duration = Duration::from_secs(10);
    let before = house.statements()?;
    thread::sleep(WATCHED);
    Ok((house.statements()? - before) as f64 / WATCHED.as_secs_f64())
}
