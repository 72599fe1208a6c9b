//! Drape to paper against ten cases with their truth, invented and spoilt by hand noise (handbook: `drape.md`, section 12).

use std::collections::BTreeMap;

use crate::common::size_at;
use serde::Deserialize;
use yardwand_core::drape::{DrapeInput, Transfer, transfer};
use yardwand_core::pattern::{DartPlace, Piece, Seam};

#[derive(Deserialize)]
struct Cases {
    cases: Vec<Case>,
}

#[derive(Deserialize)]
struct Case {
    id: String,
    kind: String,
    style: String,
    input: DrapeInput,
    expect: Expect,
    truth: Truth,
}

#[derive(Deserialize)]
struct Expect {
    #[serde(default)]
    asks: bool,
    #[serde(default)]
    refuses: bool,
    #[serde(default)]
    names_any_of: Vec<String>,
    about: Option<String>,
}

#[derive(Deserialize)]
struct Truth {
    sewn_lengths: BTreeMap<String, BTreeMap<String, f64>>,
    dart_mouths: BTreeMap<String, BTreeMap<String, f64>>,
    area_mm2: BTreeMap<String, f64>,
}

fn cases() -> Vec<Case> {
    let text = include_str!("data/drape_cases.json");
    serde_json::from_str::<Cases>(text).expect("the cases can be read").cases
}

fn seam(name: &str) -> Seam {
    match name {
        "neckline" => Seam::Neckline,
        "shoulder" => Seam::Shoulder,
        "armhole" => Seam::Armhole,
        "side" => Seam::Side,
        _ => Seam::Waist,
    }
}

/// What the sewn lengths of both pieces are off, in millimetres: all seams but the centre.
fn off(case: &Case, told: &Transfer) -> Vec<(String, f64)> {
    let mut off = Vec::new();
    for (name, piece) in ["front", "back"].into_iter().zip(&told.pieces) {
        for (which, length) in case.truth.sewn_lengths[name].iter().filter(|(which, _)| *which != "centre") {
            off.push((format!("{name} {which}"), piece.sewn_length(seam(which)) - length));
        }
    }
    off
}

fn mouths_off(case: &Case, told: &Transfer) -> Vec<f64> {
    let place = |name: &str| match name {
        "side" => DartPlace::Side,
        "shoulder" => DartPlace::Shoulder,
        _ => DartPlace::Waist,
    };
    let mouth = |piece: &Piece, name: &str| piece.mouth(place(name)).map(|(one, other)| one.distance(other));
    let pieces = ["front", "back"].into_iter().zip(&told.pieces);
    pieces
        .flat_map(|(name, piece)| {
            case.truth.dart_mouths[name]
                .iter()
                .map(move |(dart, mm)| mouth(piece, dart).map_or(f64::INFINITY, |is| is - mm))
        })
        .collect()
}

/// What the areas of both pieces are off, in percent.
fn areas_off(case: &Case, told: &Transfer) -> Vec<f64> {
    let of = |piece: &Piece| kurbo::Shape::area(&piece.outline()).abs();
    let pieces = ["front", "back"].into_iter().zip(&told.pieces);
    pieces.map(|(name, piece)| (of(piece) / case.truth.area_mm2[name] - 1.0) * 100.0).collect()
}

#[test]
fn the_ten_cases_come_out_within_their_bars() {
    let mut all: BTreeMap<String, Vec<f64>> = BTreeMap::new();
    let mut wrong = Vec::new();
    for case in cases() {
        let told = transfer(&case.input);
        if case.expect.refuses {
            let refusal = told.expect_err(&case.id);
            let about = case.expect.about.as_deref().unwrap_or_default();
            assert!(refusal.marks.iter().any(|named| named.code() == about), "{}: {refusal:?}", case.id);
            continue;
        }
        let told = told.unwrap_or_else(|refusal| panic!("{}: {refusal}", case.id));
        if case.expect.asks {
            let named: Vec<&str> =
                told.asks.iter().flat_map(|ask| &ask.marks).map(|named| named.code()).collect();
            let is_named = case.expect.names_any_of.iter().any(|name| named.contains(&name.as_str()));
            if !is_named {
                wrong.push(format!("{}: asks {:?}", case.id, told.asks));
            }
            continue;
        }
        if !told.asks.is_empty() {
            wrong.push(format!("{}: asked without cause: {:?}", case.id, told.asks));
        }
        let seams = off(&case, &told);
        let areas = areas_off(&case, &told);
        assert!(areas.iter().all(|percent| percent.abs() < 1.0), "{}: areas off by {areas:.2?} %", case.id);
        println!(
            "{} {} {}: {:.2?}; mouths {:.2?}",
            case.id,
            case.kind,
            case.style,
            seams,
            mouths_off(&case, &told)
        );
        all.entry(case.kind.clone()).or_default().extend(seams.iter().map(|(_, off)| *off));
    }
    for (kind, off) in all {
        let (median, most) = (size_at(0.5, &off), size_at(0.95, &off));
        println!("{kind}: median {median:.2}, 95 % {most:.2}");
        let bars = match kind.as_str() {
            "paper" => (0.5, 1.5),
            "path" => (0.1, 0.6),
            _ => (1.5, 4.0),
        };
        if median > bars.0 || most > bars.1 {
            wrong.push(format!("{kind}: median {median:.2} of {}, 95 % {most:.2} of {}", bars.0, bars.1));
        }
    }
    assert!(wrong.is_empty(), "{}", wrong.join("\n"));
}
