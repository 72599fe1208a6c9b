//! Pointing at a figure and at a pattern: every place can be tapped where the rules look for it, and a line drawn with
//! the finger says how it lies.

use std::collections::BTreeSet;

use crate::common::{Chance, bodies};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, make};
use yardwand_core::body::{Body, Side, View};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::fitting::{
    Decision, Drawn, Evidence, Lie, Mark, Observation, ObservationKind, Pinned, PinnedAs, PinnedOn, Posture,
    Sureness, causes, is_open, places, places_on, places_on_pieces, read_observation, signs_met, weigh,
    weigh_for,
};
use yardwand_core::geometry::Pt;
use yardwand_core::pattern::{Covers, GarmentPart, Pattern, PieceKind};

const STYLE: Style = Style::TENTHS;

fn pattern(kind: MethodKind) -> Pattern {
    let method = Method { kind, with_sleeve: true, ..Method::default() };
    let body =
        Body::middle().with("upper_arm_girth", 280.0).with("arm_length", 580.0).with("hand_girth", 200.0);
    draft(&body, &method, STYLE).unwrap().pattern
}

#[test]
fn every_place_stands_on_every_body_and_on_the_side_it_is_told_to() {
    for body in bodies(40, 11) {
        let found = places_on(&body);
        let named: BTreeSet<&str> = found.iter().map(|place| place.name.as_str()).collect();
        assert_eq!(named, places().collect::<BTreeSet<_>>(), "a place is missing on {body:?}");
        for place in &found {
            assert!(place.at.x.is_finite() && place.at.y.is_finite(), "{place:?}");
            // Her left is drawn to the right from the front, to the left from behind; the other side is mirrored.
            assert_eq!(place.paired, place.view != View::Side && place.at.x.abs() > 1.0, "{place:?}");
        }
        let at = |name: &str, view: View| {
            found.iter().find(|place| place.name == name && place.view == view).unwrap().at
        };
        // As on a body: from the top down.
        for (above, below) in [
            ("neck side", "shoulder tip"),
            ("shoulder tip", "bust"),
            ("above the bust", "bust"),
            ("bust", "under the bust"),
            ("under the bust", "front waist"),
            ("front waist", "belly"),
            ("belly", "front hem"),
        ] {
            assert!(at(above, View::Front).y < at(below, View::Front).y, "{above} above {below}");
        }
        assert!(at("back neck", View::Back).y < at("shoulder blade", View::Back).y);
        assert!(at("shoulder blade", View::Back).y < at("back waist", View::Back).y);
    }
}

#[test]
fn a_place_on_a_piece_lies_on_its_seam_and_has_a_name_of_the_figure() {
    let known: BTreeSet<&str> = places().collect();
    for kind in [MethodKind::Direct, MethodKind::Dress] {
        let drawn = pattern(kind);
        let found = places_on_pieces(&drawn);
        for piece in &drawn.pieces {
            let own: Vec<_> = found.iter().filter(|place| place.piece == piece.kind).collect();
            assert!(own.len() >= 3, "{:?} has {} places", piece.kind, own.len());
            let names: BTreeSet<&str> = own.iter().map(|place| place.name.as_str()).collect();
            assert_eq!(names.len(), own.len(), "a place twice on {:?}", piece.kind);
            assert!(names.is_subset(&known), "{names:?}");
            let bounds = piece.bounds().inflate(0.5, 0.5);
            for place in own {
                assert!(bounds.contains((place.at.x, place.at.y)), "{place:?} lies off {bounds:?}");
            }
        }
        let bust = found.iter().find(|place| place.name == "bust").unwrap();
        let front = drawn.front().unwrap();
        assert_eq!(bust.piece, front.kind);
        assert_eq!(
            bust.at,
            Pt::from(front.bust_pivot().unwrap()),
            "the bust is pointed at where the darts turn"
        );
    }
}

#[test]
fn an_altered_pattern_is_pointed_at_where_it_is_now() {
    let block = pattern(MethodKind::Direct);
    let recipe = Recipe::default().and("princess_line", Amounts::of(0.0), "");
    let panels = make(&block, &recipe, STYLE).pattern;
    let found = places_on_pieces(&panels);
    assert_eq!(found.iter().filter(|place| place.name == "princess line").count(), 2, "one on each panel");
    assert!(places_on_pieces(&block).iter().all(|place| place.name != "princess line"));
    // A panel of the back is pointed at behind.
    let behind = Recipe::default().and("princess_line", Amounts::of(0.0).by("piece", "back"), "");
    let found = places_on_pieces(&make(&block, &behind, STYLE).pattern);
    let of_back: Vec<&str> = { found.iter() }
        .filter(|place| place.piece.covers() == Covers::Back)
        .map(|place| place.name.as_str())
        .collect();
    assert!(of_back.contains(&"back armhole") && of_back.contains(&"back neck"), "{of_back:?}");
    assert!(of_back.iter().all(|name| !name.contains("front")), "{of_back:?}");
}

#[test]
fn parts_above_and_below_a_seam_under_the_bust_are_pointed_at() {
    let block = pattern(MethodKind::Direct);
    let recipe = Recipe::default().and("under_bust_seam", Amounts::of(70.0), "");
    let parted = make(&block, &recipe, STYLE).pattern;
    let found = places_on_pieces(&parted);
    let on = |part: GarmentPart| -> Vec<&str> {
        let of_it = found.iter().filter(|place| place.piece.part() == part);
        of_it.map(|place| place.name.as_str()).collect()
    };
    for (part, names) in [
        (GarmentPart::UpperFront, vec!["front neckline", "front armhole", "bust", "under the bust"]),
        (GarmentPart::FrontBand, vec!["under the bust", "front waist", "side seam"]),
        (GarmentPart::UpperBack, vec!["back neck", "back armhole", "under the bust"]),
        (GarmentPart::BackBand, vec!["under the bust", "back waist", "side seam"]),
    ] {
        let on = on(part);
        assert!(names.iter().all(|name| on.contains(name)), "{part:?}: {on:?}");
    }
}

#[test]
fn a_line_drawn_lies_as_it_was_drawn() {
    let line = |dx: f64, dy: f64| Drawn {
        view: Some(View::Front),
        piece: None,
        from: Pt { x: 10.0, y: 20.0 },
        to: Pt { x: 10.0 + dx, y: 20.0 + dy },
    };
    assert_eq!(line(80.0, 10.0).lies(), Some(Lie::Across));
    assert_eq!(line(-80.0, 79.0).lies(), Some(Lie::Across));
    assert_eq!(line(5.0, -60.0).lies(), Some(Lie::Along));
    assert_eq!(line(0.4, 0.4).lies(), None, "a tap does not lie");
}

#[test]
fn what_is_kept_comes_back_as_it_was() {
    let mut chance = Chance::new(31);
    let names: Vec<&str> = places().collect();
    for _ in 0..300 {
        let mut pick = |count: usize| ((chance.even().abs() * count as f64) as usize).min(count - 1);
        let kind = ObservationKind::ALL[pick(ObservationKind::ALL.len())];
        let lies = kind.lies();
        let seen = Observation {
            lie: (!lies.is_empty()).then(|| lies[pick(lies.len())]),
            towards: (pick(2) == 0).then(|| names[pick(names.len())].to_owned()),
            side: [Side::Both, Side::Left, Side::Right][pick(3)],
            posture: (pick(2) == 0).then(|| Posture::ALL[pick(Posture::ALL.len())]),
            sureness: [Sureness::Sure, Sureness::Doubtful][pick(2)],
            drawn: (pick(2) == 0).then(|| Drawn {
                view: None,
                piece: Some(PieceKind::SLEEVE),
                from: Pt { x: 1.5, y: -2.25 },
                to: Pt { x: 70.0, y: 3.0 },
            }),
            note: "as it was".to_owned(),
            pinned: (pick(2) == 0).then_some(Pinned {
                depth: 6.35,
                pinned_as: PinnedAs::Pinch,
                on: PinnedOn::ThatSide,
            }),
            ..Observation::of(kind, names[pick(names.len())])
        };
        let text = serde_json::to_string(&seen).unwrap();
        assert_eq!(serde_json::from_str::<Observation>(&text).unwrap(), seen, "{text}");
    }
}

#[test]
fn an_observation_of_the_first_release_is_still_read() {
    // As round 1 of a house was kept before postures, sides and lines were.
    let old = r#"{"place":"shoulder tip","kind":"drag","note":"both sides","pinned":{"depth":10.0,"pinned_as":"tuck","on":"both_sides"}}"#;
    let seen: Observation = serde_json::from_str(old).unwrap();
    assert_eq!((seen.side, seen.posture, seen.drawn.is_none()), (Side::Both, None, true));
    let old = r#"{"what":"alter","alteration":"shoulder_length","amounts":{"amount":10.0}}"#;
    let decision: Decision = serde_json::from_str(old).unwrap();
    assert_eq!(decision.cause(), None);
    assert_eq!(serde_json::to_string(&decision).unwrap(), old, "what was not said is not written");
}

#[test]
fn an_observation_is_open_until_it_is_gone_or_left() {
    let altered = Decision::alter("full_bust", Amounts::of(6.0));
    let left = Decision::Leave { reason: "the style".into() };
    // Decision, mark, open; as a fitter keeps her list.
    let table = [
        (None, None, true),
        (Some(&altered), None, true),
        (Some(&altered), Some(Mark::Gone), false),
        (Some(&altered), Some(Mark::Better), true),
        (Some(&altered), Some(Mark::Moved), true),
        (Some(&left), None, false),
        (Some(&Decision::Watch), None, true),
        (Some(&Decision::Watch), Some(Mark::Gone), false),
        (Some(&Decision::Watch), Some(Mark::Worse), true),
    ];
    for (decision, mark, open) in table {
        assert_eq!(is_open(decision, mark), open, "{decision:?}, {mark:?}");
    }
}

#[test]
fn causes_do_not_hang_on_the_order_in_which_things_are_seen() {
    let mut chance = Chance::new(5);
    let texts: Vec<String> = causes()
        .iter()
        .flat_map(|cause| &cause.sure)
        .map(|sign| sign.text.replace(" on one side", " on the left"))
        .filter(|text| !text.contains(" or ") && read_observation(text).is_ok())
        .collect();
    assert!(texts.len() > 20, "only {} signs have one place", texts.len());
    for _ in 0..60 {
        let mut pick = || ((chance.even().abs() * texts.len() as f64) as usize).min(texts.len() - 1);
        let mut chosen: Vec<usize> = (0..4).map(|_| pick()).collect();
        chosen.sort_unstable();
        chosen.dedup();
        let of = |order: &[usize]| {
            let seen = order.iter().map(|at| read_observation(&texts[*at]).unwrap()).collect();
            weigh(&Evidence { seen, ..Evidence::default() }, STYLE).offered
        };
        let forward = of(&chosen);
        chosen.reverse();
        let backward = of(&chosen);
        let weights = |all: &[yardwand_core::fitting::Suggestion]| -> Vec<(String, i64)> {
            let mut told: Vec<_> =
                all.iter().map(|s| (s.cause.clone(), (s.weight * 1e6).round() as i64)).collect();
            told.sort();
            told
        };
        assert!(forward.len() <= 4);
        if forward.len() < 4 {
            assert_eq!(weights(&forward), weights(&backward));
        }
        assert!(forward.windows(2).all(|pair| pair[0].weight >= pair[1].weight), "strongest first");
    }
}

#[test]
fn a_doubtful_observation_weighs_half_and_one_that_is_no_sign_says_nothing() {
    let sure = read_observation("gape at front armhole").unwrap();
    let doubtful = Observation { sureness: Sureness::Doubtful, ..sure.clone() };
    let first = |seen: &Observation| {
        weigh(&Evidence { seen: vec![seen.clone()], ..Evidence::default() }, STYLE).offered[0].weight
    };
    assert!((first(&doubtful) * 2.0 - first(&sure)).abs() < 1e-9);
    let nothing = read_observation("swing forward at elbow").unwrap();
    assert!(signs_met(&nothing).is_empty());
    let evidence = Evidence { seen: vec![nothing, sure], ..Evidence::default() };
    assert!(weigh_for(&evidence, 0, STYLE).offered.is_empty());
    assert!(!weigh_for(&evidence, 1, STYLE).offered.is_empty());
}
