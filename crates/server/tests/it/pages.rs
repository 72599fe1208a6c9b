//! What a page costs: how many statements it takes to read one, and how many of them one after another.

use std::time::Duration;

use crate::common::line::Line;

/// At most so many statements of a page wait for another one.
const ONE_AFTER_ANOTHER: usize = 6;

#[test]
fn a_page_is_read_in_few_round_trips() {
    let (house, line) = Line::house();
    let owner = house.owner();
    let clara = owner.garment_of("Clara");
    let edda = owner.garment_of("Edda");
    let at = |path: &str, of: &serde_json::Value| format!("{path}/{of}");
    let pages = [
        at("/api/clients", &clara["client_id"]),
        at("/api/clients", &edda["client_id"]),
        at("/api/rounds", &clara["round_id"]),
        at("/api/patterns", &edda["pattern_id"]),
        at("/api/orders", &clara["id"]),
        at("/api/orders", &clara["id"]) + "/rounds",
        at("/api/orders", &clara["id"]) + "/story",
        at("/api/clients", &clara["client_id"]) + "/profile",
        "/api/today".to_owned(),
        "/api/orders".to_owned(),
        "/api/clients".to_owned(),
        "/api/week".to_owned(),
        "/api/blocks".to_owned(),
        "/api/calendar?from=2026-01-01&to=2026-12-31".to_owned(),
    ];
    // What is prepared once is prepared, on as many connections as a page takes.
    for page in pages.iter().chain(&pages) {
        assert_eq!(owner.get(page).status, 200, "{page}");
    }
    // Longer than a busy machine takes to send what goes at once.
    line.late_by(Duration::from_millis(150));
    let mut told = Vec::new();
    for page in &pages {
        line.asked_and_one_after_another();
        owner.get(page);
        let (asked, chain) = line.asked_and_one_after_another();
        told.push(format!("{page}: {asked} statements, {chain} one after another"));
        if std::env::var_os("YARDWAND_TELL").is_none() {
            assert!((1..=ONE_AFTER_ANOTHER).contains(&chain), "{told:#?}");
        }
    }
    println!("{told:#?}");
}
