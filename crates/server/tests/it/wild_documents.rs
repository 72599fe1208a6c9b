//! Documents nobody would write: whatever comes in on standard input is answered or refused in one line, at once.

use std::io::Cursor;
use std::sync::LazyLock;
use std::time::{Duration, Instant};

use proptest::prelude::*;
use serde_json::{Value, json};
use yardwand_server::{Craft, run_craft};

/// No document may keep anyone waiting longer.
const PATIENCE: Duration = Duration::from_secs(2);

fn body() -> Value {
    json!({
        "neck_base_girth": 368.3, "shoulder_length": 127.0, "shoulder_slope": 41.275, "across_front": 330.2,
        "across_back": 349.25, "bust_girth": 939.8, "upper_bust_girth": 889.0, "waist_girth": 736.6,
        "hip_girth": 1000.0, "waist_to_hip": 205.0, "upper_arm_girth": 290.0, "arm_length": 584.0, "hand_girth": 205.0,
        "bust_span": 190.5, "snp_to_bust_point": 266.7, "snp_to_waist_front": 431.8, "snp_to_waist_back": 419.1,
        "nape_to_waist_back": 400.05, "armhole_depth": 190.5, "side_length": 190.5
    })
}

fn run(craft: Craft, text: &str) -> Result<String, String> {
    let (mut out, begun) = (Vec::new(), Instant::now());
    let done = run_craft(craft, Cursor::new(text), &mut out);
    assert!(begun.elapsed() < PATIENCE, "{:?} for {text:.400}", begun.elapsed());
    match done {
        Ok(()) => Ok(String::from_utf8(out).unwrap()),
        Err(error) => Err(error.to_string()),
    }
}

/// The blocks to alter, one of each of [`KINDS`], drafted once.
static DRAFTED: LazyLock<[Value; KINDS.len()]> = LazyLock::new(|| {
    KINDS.map(|kind| {
        let asked = json!({ "body": body(), "method": { "kind": kind, "with_sleeve": true } });
        let answer: Value = serde_json::from_str(&run(Craft::Draft, &asked.to_string()).unwrap()).unwrap();
        answer["pattern"].clone()
    })
});

/// What was clicked of ten invented drapes: typed, photographed, traced, and as a path.
static DRAPED: LazyLock<Vec<Value>> = LazyLock::new(|| {
    let cases: Value =
        serde_json::from_str(include_str!("../../../core/tests/it/data/drape_cases.json")).unwrap();
    cases["cases"].as_array().unwrap().iter().map(|case| case["input"].clone()).collect()
});

/// An answer holds no figure that is none; a refusal is one line.
fn judge(answer: Result<String, String>) -> Result<(), TestCaseError> {
    match answer {
        Ok(text) => {
            prop_assert!(!text.contains("NaN") && !text.contains("inf "), "{:.300}", text);
            Ok(())
        }
        Err(says) => {
            prop_assert!(!says.trim().is_empty() && says.lines().count() == 1, "{says}");
            Ok(())
        }
    }
}

/// Numbers as they are not meant: tiny, huge, beyond any float, negative, nothing.
fn wild_number() -> impl Strategy<Value = String> {
    prop_oneof![
        Just("0".to_owned()),
        Just("-1".to_owned()),
        Just("1e-7".to_owned()),
        Just("-1e-7".to_owned()),
        Just("1e300".to_owned()),
        Just("1e308".to_owned()),
        Just("-1e308".to_owned()),
        Just("1e-320".to_owned()),
        Just("4999".to_owned()),
        (-3000.0..3000.0_f64).prop_map(|n| n.to_string()),
        (-60.0..60.0_f64).prop_map(|n| n.to_string()),
        (0.9..1.1_f64).prop_map(|n| (n * 400.0).to_string()),
    ]
}

/// A document with some of its numbers replaced, as text: a number may be one that no float holds.
fn spoilt(document: &Value, places: &[(usize, String)]) -> String {
    let text = document.to_string();
    let mut numbers: Vec<(usize, usize)> = Vec::new();
    let bytes = text.as_bytes();
    let mut at = 0;
    while at < bytes.len() {
        let is_start =
            bytes[at].is_ascii_digit() && !bytes[at - 1].is_ascii_alphabetic() && bytes[at - 1] != b'_';
        if !is_start {
            at += 1;
            continue;
        }
        let from = if bytes[at - 1] == b'-' { at - 1 } else { at };
        while at < bytes.len() && (bytes[at].is_ascii_digit() || matches!(bytes[at], b'.' | b'e' | b'E')) {
            at += 1;
        }
        numbers.push((from, at));
    }
    let mut chosen: Vec<((usize, usize), &String)> =
        places.iter().map(|(place, number)| (numbers[place % numbers.len()], number)).collect();
    chosen.sort();
    chosen.dedup_by_key(|((from, _), _)| *from);
    let (mut out, mut done) = (String::new(), 0);
    for ((from, to), number) in chosen {
        out.push_str(&text[done..from]);
        out.push_str(number);
        done = to;
    }
    out + &text[done..]
}

fn places() -> impl Strategy<Value = Vec<(usize, String)>> {
    prop::collection::vec((any::<usize>(), wild_number()), 1..4)
}

/// 1,500 of each kind, or as many as are asked for (`PROPTEST_CASES=5000`).
fn cases() -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|n| n.parse().ok()).unwrap_or(1_500)
}

const KINDS: [&str; 4] = ["direct", "dress", "proportional", "skirt"];

proptest! {
    #![proptest_config(ProptestConfig::with_cases(cases()))]

    #[test]
    fn wild_bodies_and_methods_are_drafted_or_refused(kind in 0..KINDS.len(), places in places()) {
        let method = json!({ "kind": KINDS[kind], "with_sleeve": true, "direct": { "front_share": 9.5, "neck_divisor": 5.0 } });
        judge(run(Craft::Draft, &spoilt(&json!({ "body": body(), "method": method }), &places)))?;
    }

    #[test]
    fn wild_recipes_are_made_or_refused(which in any::<prop::sample::Index>(), places in places(), side in 0..3_usize) {
        let pattern = &DRAFTED[0];
        let all = yardwand_core::alter::alteration_views(yardwand_core::Style::EIGHTHS);
        let chosen = which.get(&all);
        let amounts: serde_json::Map<String, Value> = chosen
            .params
            .iter()
            .filter(|param| param.ways.is_empty())
            .map(|param| (param.code.to_owned(), json!(param.default.unwrap_or(param.low))))
            .collect();
        let side = [Value::Null, json!("left"), json!("right")][side].clone();
        let step = json!({ "id": 1, "alteration": chosen.code, "amounts": amounts, "side": side });
        let recipe = spoilt(&json!([step]), &places);
        let text = format!("{{\"pattern\": {pattern}, \"recipe\": {{\"steps\": {recipe}}}}}");
        judge(run(Craft::Alter, &text))?;
    }

    #[test]
    fn wild_patterns_are_altered_exported_or_refused(kind in 0..KINDS.len(), places in places(), amount in wild_number()) {
        let pattern = spoilt(&DRAFTED[kind], &places);
        let recipe = format!("{{\"steps\": [{{\"id\": 1, \"alteration\": \"shoulder_length\", \"amounts\": {{\"amount\": {amount}}}}}]}}");
        judge(run(Craft::Alter, &format!("{{\"pattern\": {pattern}, \"recipe\": {recipe}}}")))?;
        let label = json!({ "client": "A", "garment": "B", "block": "C", "version": 1, "date": "D" });
        judge(run(Craft::Export, &format!("{{\"pattern\": {pattern}, \"label\": {label}, \"allowances\": {}}}", json!({
            "side": 12.7, "shoulder": 12.7, "waist": 12.7, "neckline": 9.5, "armhole": 9.5, "centre": 25.0, "hem": 25.0
        }))))?;
    }

    #[test]
    fn wild_drapes_are_drawn_asked_about_or_refused(which in any::<prop::sample::Index>(), places in places()) {
        judge(run(Craft::Drape, &spoilt(which.get(&DRAPED), &places)))?;
    }

    #[test]
    fn wild_comparisons_are_planned_or_refused(places in places()) {
        let block = json!({ "label": "12", "figure": body(), "pattern": DRAFTED[0] });
        let text = json!({ "body": body(), "block": block, "changes": { "amounts": { "bust": 12.0 } } });
        judge(run(Craft::Compare, &spoilt(&text, &places)))?;
    }
}

#[test]
fn a_neck_as_wide_as_the_block_leaves_nothing_to_cut_and_says_so() {
    let mut body = body();
    body["neck_base_girth"] = json!(2133.3);
    let answer =
        run(Craft::Draft, &json!({ "body": body, "method": { "kind": "direct" } }).to_string()).unwrap();
    let answer: Value = serde_json::from_str(&answer).unwrap();
    let checks = answer["checks"].as_array().unwrap();
    let cut = checks.iter().find(|check| check["code"] == "cut_line").unwrap();
    assert_eq!(cut["passed"], false, "{cut}");
    assert!(cut.to_string().contains("nothing is left to cut"), "{cut}");
    let label = json!({ "client": "A", "garment": "B", "block": "C", "version": 1, "date": "D" });
    judge(run(Craft::Export, &json!({ "pattern": answer["pattern"], "label": label }).to_string())).unwrap();
}
