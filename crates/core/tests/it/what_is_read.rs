//! What a reading is taken for: every row of the catalogue, with the drafts, comparisons and wishes that read it. Found by leaving the
//! reading out, one after the other: what does not notice does not read it.

use crate::common::standard_ease;
use std::collections::BTreeMap;

use crate::wishes::read;
use yardwand_core::Style;
use yardwand_core::Unit;
use yardwand_core::body::{
    Body, FINGER, LatestReading, Measurement, Profile, Side, Taken, catalogue, measurement,
};
use yardwand_core::compare::{BlockSize, PlanChanges, WISHED, card_figures, compare, plan, wishes};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::ease::ease_set;
use yardwand_core::pattern::{Garment, Pattern, measure};

const STYLE: Style = Style::TENTHS;

/// A body on which everything is measured, and everything is wished.
fn whole() -> Body {
    let middle = Body::middle();
    catalogue().iter().fold(Body::default(), |body, row| {
        let mm = middle.get(&row.code).unwrap_or_else(|| row.low.midpoint(row.high));
        body.with(&row.code, mm)
    })
}

fn methods() -> Vec<(String, Method)> {
    let mut all = Vec::new();
    for kind in MethodKind::ALL {
        let plain = Method { kind, with_sleeve: true, ..Method::default() };
        all.push((kind.name().to_owned(), plain));
        let mut other = plain;
        other.direct.cup_to_front = true;
        other.direct.slope_by_width = true;
        other.sleeve.hem_opens = true;
        all.push((format!("{}, its options", kind.name()), other));
    }
    all
}

/// What each part of the craft makes of a body, told so that a difference is seen.
fn told(body: &Body, blocks: &[(String, BlockSize)]) -> BTreeMap<String, String> {
    let mut all = BTreeMap::new();
    for (name, method) in methods() {
        let made = draft(body, &method, STYLE);
        all.insert(format!("draft: {name}"), format!("{made:?}"));
    }
    for (name, block) in blocks {
        // A wish stands before the body's own reading: without wishes that one is read.
        let wishes_nothing = WISHED.iter().fold(body.clone(), |body, code| body.without(code));
        for (who, body) in [("", &wishes_nothing), (", as she wishes", body)] {
            for ease in ["standard", "player", "corset"] {
                let ease = ease_set(ease, Unit::Cm).unwrap();
                let compared = compare(body, &block.figures(), ease, STYLE);
                let planned = plan(body, block, ease, &PlanChanges::default(), STYLE).unwrap();
                let told = format!("{compared:?} {:?}", planned.lines);
                all.insert(format!("comparison and plan: {name}, {}{who}", ease.name), told);
            }
        }
        let strapped = body.clone().without("cup_height");
        let over_the_arm = body.clone().without("round_shoulder_girth");
        let in_front = body.clone().without("blouse_length");
        for (who, body) in [
            ("", body),
            (", with shoulders", &strapped),
            (", over the arm", &over_the_arm),
            (", from the shoulder", &in_front),
        ] {
            let wished = { block.pattern() }.map(|pattern| {
                wishes(&read(&body.iter().collect::<Vec<_>>()), pattern, standard_ease(), STYLE)
            });
            all.insert(format!("wish: {name}{who}"), format!("{wished:?}"));
        }
    }
    all
}

/// Trousers are compared as a card.
fn trousers_card() -> (String, BlockSize) {
    let figures = card_figures(Garment::Trousers).map(|figure| (figure, 400.0)).collect();
    ("card of trousers".to_owned(), BlockSize::card("12", Body::default(), figures))
}

/// The reading that this one becomes on her card where that was not taken.
fn stands_for(body: &Body, code: &str) -> Option<&'static str> {
    let card = |left_out: &[&str]| {
        let latest: Vec<LatestReading> = { body.iter() }
            .filter(|(code, _)| !left_out.contains(code))
            .map(|(code, mm)| LatestReading {
                code: code.to_owned(),
                side: Side::Both,
                mm,
                taken: Taken::default(),
                days_ago: 1,
                takes: 1,
                error_mm: None,
            })
            .collect();
        Profile::of(&latest, FINGER).body()
    };
    let becomes = |other: &&'static Measurement| {
        let other = other.code.as_str();
        other != code && card(&[other]).get(other).is_some() && card(&[other, code]).get(other).is_none()
    };
    catalogue().iter().find(becomes).map(|row| row.code.as_str())
}

/// A reading of a draft that this one estimates by itself where it was not taken.
fn estimates(body: &Body, code: &str) -> Option<&'static str> {
    let alone = Body::default().with(code, body.get(code)?);
    let is_estimated = |wanted: &&str| {
        *wanted != code && measurement(wanted).is_some_and(|row| row.estimated(&alone).is_some())
    };
    MethodKind::ALL.into_iter().flat_map(MethodKind::needs).find(is_estimated)
}

#[test]
fn every_reading_is_read_somewhere() {
    let body = whole();
    let middle = Body::middle();
    let drafted = MethodKind::ALL.into_iter().map(|kind| {
        let method = Method { kind, with_sleeve: true, ..Method::default() };
        let pattern: Pattern =
            draft(&middle, &method, STYLE).unwrap_or_else(|error| panic!("{kind:?}: {error}")).pattern;
        assert!(measure(&pattern).iter().count() > 5);
        (kind.name().to_owned(), BlockSize::drawn("middle", middle.clone(), pattern))
    });
    let blocks: Vec<(String, BlockSize)> = drafted.chain([trousers_card()]).collect();
    let with = told(&body, &blocks);
    let mut unread = Vec::new();
    for row in catalogue() {
        let without = told(&body.clone().without(&row.code), &blocks);
        let readers: Vec<&str> = { with.iter() }
            .filter(|(name, says)| without.get(*name) != Some(*says))
            .map(|(name, _)| name.as_str())
            .collect();
        let stands_for = stands_for(&body, &row.code).or_else(|| estimates(&body, &row.code));
        let told: Vec<&str> = readers.iter().copied().chain(stands_for).collect();
        eprintln!("{}: {}", row.code, told.join("; "));
        if told.is_empty() {
            unread.push(row.code.as_str());
        }
    }
    assert_eq!(unread, [""; 0], "what nothing reads");
}
