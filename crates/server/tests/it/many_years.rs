//! A house that has worked for many years: no statement of the program reads a table from one end to the other that grows with the years,
//! and no index stands there for nothing.

use std::collections::BTreeSet;
use std::fs;
use std::path::Path;

use yardwand_devdb::large_house;

use crate::common::House;

/// What grows with every client, session and garment.
const GROWS: [&str; 14] = [
    "clients",
    "consents",
    "client_notes",
    "sessions",
    "readings",
    "orders",
    "visits",
    "patterns",
    "pattern_versions",
    "rounds",
    "observations",
    "audit",
    "marks",
    "saved_once",
];

/// Enough that MariaDB does not read a whole table because it is short.
const CLIENTS: u32 = 1500;

/// Statements that read all of a table, and why they may: how they begin and what they read.
const READ_WHOLE: [(&str, &str, &str); 7] = [
    ("SELECT id, name LIKE ?", "clients", "a word may stand anywhere in her name, contact and notes"),
    ("SELECT client_id FROM client_notes WHERE", "client_notes", "a word may stand anywhere in a note"),
    ("SELECT id FROM clients WHERE REGEXP_REPLACE", "clients", "a number may be written in any way"),
    (
        "SELECT id, client_id FROM orders WHERE garment LIKE",
        "orders",
        "a word may stand anywhere in a garment's name",
    ),
    (
        "SELECT p.name AS measurer, r.code",
        "sessions",
        "backwards along the numbers, and it stops after 1,000",
    ),
    (
        "SELECT a.id, a.at, p.name AS \"person?\", a.what",
        "audit",
        "backwards from the newest change, a page at a time",
    ),
    ("SELECT id, name, contact FROM clients WHERE", "clients", "a file of readings may name anybody"),
];

/// How a statement asks for something only where it is given: `(? IS NULL OR o.client_id = ?)`.
const WHERE_GIVEN: &str = " IS NULL OR ";

/// A statement with a value in each of its places, as MariaDB's client takes it; of the things that it asks for only where they are given
/// just this one is.
fn with_values(statement: &str, given: usize) -> String {
    let mut whole = String::new();
    let (mut quoted, mut optional, mut goes_with) = (None, 0, false);
    for (at, c) in statement.char_indices() {
        match (quoted, c) {
            (None, '\'' | '"') => quoted = Some(c),
            (Some(quote), _) if quote == c => quoted = None,
            _ => {}
        }
        if c != '?' || quoted.is_some() {
            whole.push(c);
            continue;
        }
        let is_asked = statement[at + 1..].starts_with(WHERE_GIVEN);
        let is_missing = (is_asked || goes_with) && optional != given;
        optional += usize::from(goes_with);
        goes_with = is_asked;
        let before = whole.trim_end();
        let is_day =
            ["_at <", "_at >", "_at <=", "_at >=", "on_day <", "on_day >=", "_on <", "BETWEEN", "AND"];
        whole.push_str(match before {
            _ if is_missing => "NULL",
            _ if before.ends_with("LIMIT") || before.ends_with("OFFSET") => "10",
            _ if before.ends_with("JSON_TABLE(") => "'[11, 12, 13]'",
            _ if before.ends_with("LIKE") => "'%nyg%'",
            _ if is_day.iter().any(|end| before.ends_with(end)) => "'2026-11-30'",
            _ => "'11'",
        });
    }
    whole
}

/// One line of what MariaDB says it would do.
struct Reading {
    /// The table, however the statement calls it.
    table: String,
    how: String,
    key: String,
}

fn explained(house: &House, statement: &str) -> Vec<Reading> {
    (0..statement.matches(WHERE_GIVEN).count().max(1))
        .flat_map(|given| explained_with(house, &with_values(statement, given)))
        .collect()
}

fn explained_with(house: &House, whole: &str) -> Vec<Reading> {
    let told = house.db().ask(&format!("EXPLAIN {whole}"));
    // `orders o` and `FROM orders`: which table an alias means stands in the statement.
    let words: Vec<&str> =
        whole.split(|c: char| !(c.is_alphanumeric() || c == '_')).filter(|w| !w.is_empty()).collect();
    let meant = |alias: &str| {
        let named = words.windows(2).find(|pair| pair[1] == alias && GROWS.contains(&pair[0]));
        named.map_or(alias, |pair| pair[0]).to_owned()
    };
    told.lines()
        .filter_map(|line| {
            let parts: Vec<&str> = line.split('\t').collect();
            Some(Reading {
                table: meant(parts.get(2)?),
                how: (*parts.get(3)?).to_owned(),
                key: (*parts.get(5)?).to_owned(),
            })
        })
        .collect()
}

fn statements() -> Vec<String> {
    let folder = Path::new(env!("CARGO_MANIFEST_DIR")).join("../store/.sqlx");
    let mut all: Vec<String> = fs::read_dir(folder)
        .unwrap()
        .map(|entry| {
            let text = fs::read_to_string(entry.unwrap().path()).unwrap();
            let kept: serde_json::Value = serde_json::from_str(&text).unwrap();
            kept["query"].as_str().unwrap().to_owned()
        })
        .filter(|statement| ["SELECT", "UPDATE", "DELETE"].iter().any(|verb| statement.starts_with(verb)))
        .collect();
    all.sort();
    assert!(all.len() > 150, "only {} statements were found", all.len());
    all
}

#[test]
fn no_statement_reads_a_growing_table_whole_and_no_index_is_idle() {
    let house = House::with_demo();
    house.db().ask(&large_house(CLIENTS));
    let (mut whole, mut used) = (Vec::new(), BTreeSet::new());
    let mut allowed = BTreeSet::new();
    for statement in statements() {
        for reading in explained(&house, &statement) {
            used.insert((reading.table.clone(), reading.key));
            if !GROWS.contains(&reading.table.as_str()) || !["ALL", "index"].contains(&reading.how.as_str()) {
                continue;
            }
            let may = READ_WHOLE
                .iter()
                .position(|(begins, table, _)| statement.starts_with(begins) && reading.table == *table);
            match may {
                Some(at) => drop(allowed.insert(at)),
                None => whole.push(format!("{} ({}): {statement}", reading.table, reading.how)),
            }
        }
    }
    assert!(whole.is_empty(), "{whole:#?}");
    let not_needed: Vec<&str> =
        (0..READ_WHOLE.len()).filter(|at| !allowed.contains(at)).map(|at| READ_WHOLE[at].0).collect();
    assert!(not_needed.is_empty(), "these need no exception any more: {not_needed:#?}");

    // Keys that hold something unique, or a reference of another table, have their reason in that.
    let idle: Vec<String> = house
        .db()
        .ask(
            "SELECT s.table_name, s.index_name FROM information_schema.statistics s WHERE s.table_schema = DATABASE() \
             AND s.non_unique = 1 AND s.seq_in_index = 1 AND NOT EXISTS (SELECT 1 FROM information_schema.key_column_usage k \
               WHERE k.table_schema = s.table_schema AND k.table_name = s.table_name AND k.column_name = s.column_name \
                 AND k.referenced_table_name IS NOT NULL)",
        )
        .lines()
        .filter(|line| line.split('\t').next().is_some_and(|table| GROWS.contains(&table)))
        .filter(|line| {
            let (table, key) = line.split_once('\t').unwrap();
            !used.contains(&(table.to_owned(), key.to_owned()))
        })
        .map(str::to_owned)
        .collect();
    assert!(idle.is_empty(), "no statement uses: {idle:#?}");
}

#[test]
fn every_place_of_a_statement_gets_a_value_and_no_alias_does() {
    let statement = "SELECT v.version AS \"version?: u32\" FROM t WHERE id = ? AND name LIKE ? LIMIT ?";
    assert_eq!(
        with_values(statement, 0),
        "SELECT v.version AS \"version?: u32\" FROM t WHERE id = '11' AND name LIKE '%nyg%' LIMIT 10"
    );
    let statement = "WHERE (? IS NULL OR a = ?) AND (? IS NULL OR b = ?) AND c = ?";
    assert_eq!(
        [0, 1].map(|given| with_values(statement, given)),
        [
            "WHERE ('11' IS NULL OR a = '11') AND (NULL IS NULL OR b = NULL) AND c = '11'",
            "WHERE (NULL IS NULL OR a = NULL) AND ('11' IS NULL OR b = '11') AND c = '11'",
        ]
    );
}
