//! Every page of a large house read on its own, beside an empty handler; a search beside its bare SQL.

use std::time::Instant;

use tokio::runtime::Runtime;
use yardwand_store::Store;

use crate::Measured;
use crate::house::LargeHouse;
use crate::tally::Tally;

/// So often each is read.
const TIMES: usize = 200;
/// Of Today, a client, a garment and the calendar.
const MOST_MS: f64 = 50.0;
/// Of a search, beside its statements alone.
const MOST_OF_BARE: f64 = 1.5;
const SEARCHES: [&str; 6] = ["nygard", "signe lind", "velvet", "700123", "collar", "wedding moe"];

pub(crate) fn measure(house: &LargeHouse) -> Measured {
    let timed = |path: &dyn Fn() -> String| -> Measured<Tally> {
        (0..TIMES)
            .map(|_| {
                let path = path();
                let answer = house.person.get(&path)?;
                if answer.status == 200 {
                    Ok(answer.took)
                } else {
                    Err(format!("{path}: {}", answer.status).into())
                }
            })
            .collect()
    };
    let empty = timed(&|| "/api/health".to_owned())?.at(0.5);
    println!("an empty handler: p50 {empty:.2} ms");
    println!("| page | p50 | p95 | p50 as a multiple of the empty handler |\n|---|---|---|---|");
    let in_hand = house.numbers("/api/orders", "id")?;
    let client = || house.clients.any();
    let garment = || house.garments.any();
    let a_garment_in_hand = || fastrand::choice(&in_hand).copied().unwrap_or_default();
    let pages: [(&str, bool, &dyn Fn() -> String); 12] = [
        ("who comes today", true, &|| "/api/today".to_owned()),
        ("the week", true, &|| "/api/week".to_owned()),
        ("garments in hand", true, &|| "/api/orders".to_owned()),
        ("a client", true, &|| format!("/api/clients/{}", client())),
        ("a garment", true, &|| format!("/api/orders/{}", garment())),
        ("a garment in hand", true, &|| format!("/api/orders/{}", a_garment_in_hand())),
        ("four weeks of the calendar", true, &|| "/api/calendar?from=2026-12-01&to=2026-12-28".to_owned()),
        ("a client's figures", true, &|| format!("/api/clients/{}/profile", client())),
        ("a client's history", true, &|| format!("/api/clients/{}/history", client())),
        ("a garment's story", true, &|| format!("/api/orders/{}/story", garment())),
        ("the list of clients", true, &|| "/api/clients".to_owned()),
        ("what was changed", true, &|| "/api/changes".to_owned()),
    ];
    let mut over = Vec::new();
    for (what, limited, path) in pages {
        let times = timed(path)?;
        let (p50, p95) = (times.at(0.5), times.at(0.95));
        println!("| {what} | {p50:.1} ms | {p95:.1} ms | {:.0} |", p50 / empty);
        if limited && p95 > MOST_MS {
            over.push(format!("{what}: p95 {p95:.1} ms"));
        }
    }
    over.extend(searches(house)?);
    if over.is_empty() { Ok(()) } else { Err(over.join("; ").into()) }
}

/// A search through the server, and its statements alone, in turns so that both meet the same machine.
fn searches(house: &LargeHouse) -> Measured<Option<String>> {
    let runtime = Runtime::new()?;
    let store = runtime.block_on(Store::connect(&house.url()))?;
    let (mut bare, mut served) = (Tally::default(), Tally::default());
    for at in 0..TIMES {
        let words = SEARCHES[at % SEARCHES.len()];
        let begun = Instant::now();
        runtime.block_on(store.find(words))?;
        bare.add(begun.elapsed());
        served.add(house.person.get(&format!("/api/find?q={}", words.replace(' ', "+")))?.took);
    }
    let ratio = served.at(0.95) / bare.at(0.95);
    println!(
        "a search: p50 {:.1} ms, p95 {:.1} ms; its statements alone: p50 {:.1} ms, p95 {:.1} ms; p95 {ratio:.2} times them",
        served.at(0.5),
        served.at(0.95),
        bare.at(0.5),
        bare.at(0.95)
    );
    Ok((ratio > MOST_OF_BARE).then(|| format!("a search takes {ratio:.2} times its statements")))
}
