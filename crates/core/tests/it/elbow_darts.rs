//! A dart at the elbow takes in what the back of a sleeve's seam is longer, and a slit ends at two notches that meet (handbook:
//! `wishes.md`, section 5). What is closed here is closed by turns of `kurbo`, not by the model's own walk.

use kurbo::Affine;

use crate::common::{bodies, holds_still, made_of};
use crate::cutting_line;
use crate::outside::nothing_turned_red;
use crate::random_bodies::outlines_are_simple;
use crate::sleeve_shapes::{sleeved, wish};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Decided, FollowKind, alteration, apply, suits};
use yardwand_core::body::Body;
use yardwand_core::pattern::{
    Allowances, DartPlace, Edge, Pattern, PatternMeasure, Piece, Seam, WornSide, draw_pattern, measure,
};

const STYLE: Style = Style::TENTHS;

/// Close sleeves to the wrist, whose back seam is longer than the front one, each with how much.
fn close_sleeves(count: usize, seed: u64) -> Vec<(Pattern, f64)> {
    let close = |body: Body| {
        let amounts = wish(&body, body.get("arm_length")?).by("opens", "slit").with("ease", 25.0);
        let made =
            apply(alteration("sleeve_shape").unwrap(), &sleeved(&body)?, &amounts, None, STYLE).ok()?;
        let offered = made.follow_ups.iter().find(|each| each.kind == FollowKind::Offered)?.offer.clone()?;
        assert_eq!(offered.alteration, "elbow_dart");
        Some((made.pattern, offered.amounts.amount()))
    };
    bodies(count, seed).into_iter().filter_map(close).collect()
}

fn darted(block: &Pattern, amounts: &Amounts) -> Result<Pattern, String> {
    let made = apply(alteration("elbow_dart").unwrap(), block, amounts, None, STYLE);
    made.map(|made| made.pattern).map_err(|error| error.to_string())
}

fn sleeve_seams(sleeve: &Piece) -> (f64, f64) {
    let lengths: Vec<f64> = sleeve.edges_of(Seam::UnderSleeve).map(|edge| edge.curve.length()).collect();
    (lengths[0], lengths[1..].iter().sum())
}

/// The dart lies at the elbow, closes by one turn about its pivot, and leaves both seams as long as each other.
fn dart_holds(before: &Pattern, after: &Pattern, left_over: f64, told: &str) {
    let (was, is) = (before.sleeve().unwrap(), after.sleeve().unwrap());
    outlines_are_simple(after);
    after.validate().unwrap();
    let (front, back) = sleeve_seams(is);
    assert!((back - front - left_over).abs() < 0.06, "{told}: front {front}, back {back}, {left_over} left");
    let legs: Vec<&Edge> = is.edges.iter().filter(|edge| edge.dart == Some(DartPlace::Elbow)).collect();
    let [below, above] = legs.as_slice() else { panic!("{told}: {} legs", legs.len()) };
    let (lower, pivot, upper) = (below.curve.start(), below.curve.end(), above.curve.end());
    let turn = (upper - pivot).atan2() - (lower - pivot).atan2();
    let closed = Affine::rotate_about(turn, pivot) * lower;
    assert!(closed.distance(upper) < 1e-6, "{told}: closed {closed:?}, {upper:?}");
    // The elbow line runs into the middle of its mouth.
    let elbow = is.level(yardwand_core::pattern::LevelName::Elbow).unwrap().points[0];
    assert!(elbow.distance(lower.midpoint(upper)) < 1.0, "{told}: {elbow:?}");
    assert!(lower.y > elbow.y && upper.y < elbow.y && pivot.x > elbow.x + 25.0, "{told}");
    for figure in [
        PatternMeasure::CapLength,
        PatternMeasure::CapWidth,
        PatternMeasure::SleeveHem,
        PatternMeasure::SleeveLength,
    ] {
        let of = |pattern| measure(pattern).get(figure).unwrap();
        assert!((of(before) - of(after)).abs() < 1e-9, "{told}: {}", figure.name());
    }
    assert_eq!(was.edges[..4], is.edges[..4], "{told}: all but the back seam");
    nothing_turned_red(before, after, told);
}

#[test]
fn a_dart_at_the_elbow_makes_both_seams_as_long() {
    let sleeves = close_sleeves(40, 19);
    assert!(sleeves.len() > 25, "{}", sleeves.len());
    for (index, (block, longer)) in sleeves.iter().enumerate() {
        // All of it, and a part of it with the rest eased.
        let whole = darted(block, &Amounts::of(*longer)).unwrap();
        dart_holds(block, &whole, 0.0, &format!("{index}, {longer:.2}"));
        if *longer > 7.0 {
            let part = darted(block, &Amounts::of(longer / 2.0).with("long", 70.0)).unwrap();
            dart_holds(block, &part, longer / 2.0, &format!("{index}, half of {longer:.2}"));
        }
        let found = cutting_line::faults(whole.sleeve().unwrap(), &Allowances::default());
        assert!(found.is_empty(), "{index}: {:#?}", found.first());
        let text = serde_json::to_string(&whole).unwrap();
        assert_eq!(serde_json::from_str::<Pattern>(&text).unwrap(), whole);
        let more = darted(block, &Amounts::of(longer + 2.0)).unwrap_err();
        assert!(more.contains("longer than its front"), "{more}");
    }
}

/// Decided before or after what else is done to a sleeve, it is the same sleeve.
#[test]
fn it_comes_after_what_shapes_the_sleeve() {
    let steps = [
        ("cap_height", Amounts::of(4.0)),
        ("biceps_width", Amounts::of(8.0)),
        ("sleeve_width", Amounts::of(6.0)),
        ("half_cap", Amounts::of(3.0)),
        ("length", Amounts::of(12.0).by("pieces", "sleeve")),
        ("full_bust", Amounts::of(8.0)),
    ];
    for (block, longer) in close_sleeves(9, 23).into_iter().filter(|(_, longer)| *longer > 7.0) {
        let dart = || Decided::new("elbow_dart", Amounts::of(longer - 3.0), "");
        for (code, amounts) in &steps {
            let other = || Decided::new(code, amounts.clone(), "");
            let of = |steps| made_of(&block, steps);
            let (one, two) = (of([dart(), other()]), of([other(), dart()]));
            assert!(one.is_whole(), "{code}: {:?}", one.refused().next());
            assert_eq!(one.pattern, two.pattern, "{code}");
        }
    }
}

/// A block that has the dart already is altered like any other: the dart goes along, or is gone where nothing is left for it.
#[test]
fn a_sleeve_that_has_it_is_altered_with_it() {
    for (block, longer) in close_sleeves(6, 29) {
        let own = darted(&block, &Amounts::of(longer)).unwrap();
        for (code, amounts) in [
            ("cap_height", Amounts::of(4.0)),
            ("biceps_width", Amounts::of(8.0)),
            ("sleeve_width", Amounts::of(6.0).with("elbow", 5.0)),
            ("half_cap", Amounts::of(3.0)),
            ("length", Amounts::of(12.0).by("pieces", "sleeve")),
            ("forward_shoulder", Amounts::of(5.0)),
            ("elbow_dart", Amounts::of(longer - 2.0)),
            ("cuffs", Amounts::of(50.0)),
        ] {
            let known = alteration(code).unwrap();
            assert!(suits(known, &own), "{code}");
            let Ok(plain) = apply(known, &block, &amounts, None, STYLE) else { continue };
            let made = apply(known, &own, &amounts, None, STYLE).unwrap();
            outlines_are_simple(&made.pattern);
            let (sleeve, flat) = (made.pattern.sleeve().unwrap(), plain.pattern.sleeve().unwrap());
            assert!(sleeve.dart(DartPlace::Elbow).is_some(), "{code}");
            let (front, back) = sleeve_seams(sleeve);
            assert!((front - sleeve_seams(flat).0).abs() < 0.01, "{code}: front seam {front}");
            assert!(back > front - 0.05, "{code}: {back}, front {front}");
            holds_still(&own, &made.pattern, code);
        }
        // What does not touch it leaves it as it is, to the last digit.
        let wider = apply(alteration("neck").unwrap(), &own, &Amounts::of(6.0), None, STYLE).unwrap();
        assert_eq!(wider.pattern.sleeve(), own.sleeve());
        let short =
            apply(alteration("sleeve_shape").unwrap(), &own, &Amounts::of(240.0), None, STYLE).unwrap();
        assert!(short.pattern.sleeve().unwrap().darts.is_empty());
        assert!(short.follow_ups.iter().any(|each| each.says.contains("The elbow dart is gone")));
        // One side alone makes two sleeves, each with its own.
        let left =
            apply(alteration("biceps_width").unwrap(), &own, &Amounts::of(9.0), Some(WornSide::Left), STYLE);
        let left = left.unwrap().pattern;
        let sleeves: Vec<&Piece> = left.pieces.iter().filter(|piece| piece.kind.is_sleeve()).collect();
        assert_eq!(sleeves.len(), 2);
        assert!(sleeves.iter().all(|sleeve| sleeve.dart(DartPlace::Elbow).is_some()));
        let again = apply(alteration("cap_height").unwrap(), &left, &Amounts::of(3.0), None, STYLE).unwrap();
        assert!(again.pattern.pieces.iter().filter(|p| p.kind.is_sleeve()).all(|p| p.darts.len() == 1));
    }
}

/// Two notches say how far the seam is left open; sewn, they lie on each other.
#[test]
fn a_slit_ends_at_two_notches_that_meet() {
    for (block, longer) in close_sleeves(12, 31) {
        for pattern in [block.clone(), darted(&block, &Amounts::of(longer)).unwrap()] {
            let sleeve = pattern.sleeve().unwrap();
            let slit = sleeve.slit.unwrap();
            let seams: Vec<_> = sleeve.edges_of(Seam::UnderSleeve).collect();
            // Down the front to the hem, and up the back from there.
            let in_front = seams[0].curve.point_at(seams[0].curve.length() - slit);
            let behind = seams[1].curve.point_at(slit);
            let places: Vec<_> =
                sleeve.slit_notches().iter().map(|notch| sleeve.notch_place(notch).unwrap().0).collect();
            assert!(places[0].distance(in_front) < 1e-6 && places[1].distance(behind) < 1e-6, "{places:?}");
            let drawn = draw_pattern(&pattern, STYLE).into_iter().find(|p| p.kind == sleeve.kind).unwrap();
            let cap = sleeve.notches.iter().map(|notch| if notch.double { 2 } else { 1 }).sum::<usize>();
            assert_eq!(drawn.notches.len(), cap + 2);
        }
    }
}
