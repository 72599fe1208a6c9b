//! Fifty people for ten minutes, each with a request every two seconds: reading, typing, dragging, pinning, writing down. Minutes in
//! which the machine was not its own are told and not counted.

use std::collections::BTreeMap;
use std::thread;
use std::time::{Duration, Instant};

use serde_json::json;

use crate::Measured;
use crate::house::{self, LargeHouse};
use crate::person::{Answer, Signed};
use crate::stolen::Ticks;
use crate::tally::Tally;

const PEOPLE: usize = 50;
const EVERY: Duration = Duration::from_secs(2);
const USUAL_MINUTES: u32 = 10;
/// A minute in which others of the same host took more of the processors' time says nothing of the server.
const MOST_STOLEN: f64 = 0.05;
/// So many times as many minutes are waited for.
const AT_MOST: u32 = 4;
/// Of the times of all answers.
const MOST_MS: f64 = 50.0;
/// Of the server's process.
const MOST_MB: u64 = 200;

/// What one of them works on.
struct Work {
    client: u64,
    session: u64,
    order: u64,
    round: u64,
    pattern: u64,
}

/// Somebody at work.
pub(crate) struct AtWork {
    person: Signed,
    work: Work,
}

/// How long each kind of request took, and what was not answered as it should be.
#[derive(Default)]
pub(crate) struct Told {
    times: BTreeMap<&'static str, Tally>,
    wrong: Vec<String>,
}

impl Told {
    pub(crate) fn all(&self) -> Tally {
        let mut all = Tally::default();
        for each in self.times.values() {
            all.append(each.clone());
        }
        all
    }

    fn append(&mut self, other: Self) {
        for (what, times) in other.times {
            self.times.entry(what).or_default().append(times);
        }
        self.wrong.extend(other.wrong);
    }
}

pub(crate) fn measure(house: &LargeHouse) -> Measured {
    let minutes = std::env::var("YARDWAND_LOAD_MINUTES").ok().and_then(|text| text.parse().ok());
    let wanted: u32 = minutes.unwrap_or(USUAL_MINUTES);
    let people = signed_in(house, PEOPLE)?;
    let (mut told, mut counted) = (Told::default(), 0);
    println!("| minute | p95 | of the processors' time, taken by others | |\n|---|---|---|---|");
    for minute in 1..=wanted * AT_MOST {
        let before = Ticks::now();
        let this = at_work(house, &people, EVERY, Duration::from_secs(60));
        let stolen = Ticks::now().stolen_since(before);
        let counts = stolen < MOST_STOLEN;
        let note = if counts { "" } else { "not counted" };
        println!("| {minute} | {:.1} ms | {:.1} % | {note} |", this.all().at(0.95), stolen * 100.0);
        if counts {
            told.append(this);
            counted += 1;
        }
        if counted == wanted {
            break;
        }
    }
    if counted < wanted {
        return Err(format!("of {} minutes only {counted} were this machine's own", wanted * AT_MOST).into());
    }
    println!("| request | how many | p50 | p95 | most |\n|---|---|---|---|---|");
    let row = |what: &str, times: &Tally| {
        let (count, [p50, p95, most]) = (times.count(), [0.5, 0.95, 1.0].map(|share| times.at(share)));
        println!("| {what} | {count} | {p50:.1} ms | {p95:.1} ms | {most:.0} ms |");
    };
    for (what, times) in &told.times {
        row(what, times);
    }
    let all = told.all();
    row("all", &all);
    let (now, most) = house.memory()?;
    println!(
        "the server's memory: {now} MB, at most {most} MB; answers that were wrong: {}",
        told.wrong.len()
    );
    let mut over = told.wrong;
    over.truncate(5);
    if all.at(0.95) > MOST_MS {
        over.push(format!("p95 {:.1} ms", all.at(0.95)));
    }
    if most > MOST_MB {
        over.push(format!("{most} MB"));
    }
    if over.is_empty() { Ok(()) } else { Err(over.join("; ").into()) }
}

/// So many people, each with work of their own.
pub(crate) fn signed_in(house: &LargeHouse, people: usize) -> Measured<Vec<AtWork>> {
    // Each has a garment in hand with a pattern and a round that is open.
    let list = house.person.read("/api/orders")?;
    let rows = list.as_array().ok_or("not a list")?;
    let in_hand = rows.iter().rev().filter_map(|row| {
        let open = (row["round_open"] == true).then_some(row)?;
        Some((
            open["client_id"].as_u64()?,
            open["id"].as_u64()?,
            open["round_id"].as_u64()?,
            open["pattern_id"].as_u64()?,
        ))
    });
    let mut work = Vec::new();
    for (client, order, round, pattern) in in_hand.take(people) {
        let begin = json!({ "set_code": "bodice_direct" });
        let session = house.person.made(&format!("/api/clients/{client}/sessions"), &begin)?;
        work.push(Work { client, session, order, round, pattern });
    }
    if work.len() < people {
        return Err("there are too few garments in hand".into());
    }
    let signed = (0..people).map(|_| Signed::into(house.base()));
    signed.zip(work).map(|(person, work)| Ok(AtWork { person: person?, work })).collect()
}

/// These people at work for so long.
pub(crate) fn at_work(house: &LargeHouse, people: &[AtWork], every: Duration, length: Duration) -> Told {
    let (begun, count) = (Instant::now(), people.len());
    let mut all = Told::default();
    thread::scope(|scope| {
        let at_work: Vec<_> = { people.iter().enumerate() }
            .map(|(number, person)| {
                // They do not all press at the same moment.
                let first = begun + every.mul_f64(number as f64 / count as f64);
                scope.spawn(move || one_at_work(house, person, first, every, begun + length))
            })
            .collect();
        for told in at_work {
            let Ok(told) = told.join() else { continue };
            all.append(told);
        }
    });
    all
}

fn one_at_work(
    house: &LargeHouse,
    AtWork { person, work }: &AtWork,
    first: Instant,
    every: Duration,
    until: Instant,
) -> Told {
    let mut told = Told::default();
    let mut due = first;
    while due < until {
        thread::sleep(due.saturating_duration_since(Instant::now()));
        // From the moment it was due: what a slow answer holds up is slow too.
        let late = due.elapsed();
        let (what, answer) = request(house, person, work);
        match answer {
            Ok(answer) if answer.status < 400 => {
                told.times.entry(what).or_default().add(late + answer.took);
            }
            Ok(answer) => told.wrong.push(format!("{what}: {} {}", answer.status, answer.body)),
            Err(error) => told.wrong.push(format!("{what}: {error}")),
        }
        due += every;
    }
    told
}

/// One of the things people do, about as often as they do them.
fn request(large: &LargeHouse, person: &Signed, work: &Work) -> (&'static str, Measured<Answer>) {
    let Work { client, session, order, round, pattern } = work;
    match fastrand::u8(..100) {
        0..8 => ("today", person.get("/api/today")),
        8..14 => ("garments in hand", person.get("/api/orders")),
        14..18 => ("the week", person.get("/api/week")),
        18..24 => ("the calendar", person.get("/api/calendar?from=2026-12-01&to=2026-12-28")),
        24..32 => ("a client", person.get(&format!("/api/clients/{}", large.clients.any()))),
        32..38 => ("a garment", person.get(&format!("/api/orders/{order}"))),
        38..44 => ("a round", person.get(&format!("/api/rounds/{round}"))),
        44..48 => ("causes", person.get(&format!("/api/rounds/{round}/causes"))),
        48..52 => ("figures", person.get(&format!("/api/clients/{client}/profile"))),
        52..54 => ("a search", person.get("/api/find?q=nygard")),
        54..70 => {
            let entry = json!({ "code": "bust_girth", "text": "36 1/2" });
            ("a keystroke looked at", person.post(&format!("/api/sessions/{session}/check"), &entry))
        }
        70..84 => {
            let amounts = json!({ "amount": 5.0 + f64::from(fastrand::u8(..40)) / 2.0 });
            let step =
                json!({ "id": 1, "alteration": "full_bust", "amounts": amounts, "on": true, "reason": "" });
            let recipe = json!({ "recipe": { "form": 1, "steps": [step] } });
            ("an amount dragged", person.post(&format!("/api/patterns/{pattern}/preview"), &recipe))
        }
        84..94 => {
            let reading =
                json!({ "code": "bust_girth", "text": format!("{} mm", 900 + u16::from(fastrand::u8(..))) });
            ("a reading kept", person.post(&format!("/api/sessions/{session}/readings"), &reading))
        }
        _ => {
            let seen = json!({ "place": "front armhole", "towards": "bust", "kind": "drag", "depth": "1/4",
                "pinned_as": "tuck", "note": house::MEASURED });
            ("an observation kept", person.post(&format!("/api/rounds/{round}/observations"), &seen))
        }
    }
}
