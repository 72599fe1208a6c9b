//! What the handbook says of single alterations in figures (`alterations.md`, section 2), and what follows from them
//! in other pieces (section 3).

use crate::common::bodies;
use yardwand_core::Style;
use yardwand_core::alter::{Altered, Amounts, FollowKind, Recipe, alteration, apply, make};
use yardwand_core::draft::{Direct, Method, draft};
use yardwand_core::geometry::turn_degrees;
use yardwand_core::pattern::{
    DartPlace, GarmentPart, Pattern, PatternMeasure, Piece, PieceKind, Seam, measure, walk,
};

const STYLE: Style = Style::EIGHTHS;

fn blocks(with_sleeve: bool) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { with_sleeve, direct, ..Method::default() };
    bodies(40, 8).iter().filter_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).collect()
}

fn done(block: &Pattern, code: &str, amounts: &Amounts) -> Option<Altered> {
    apply(alteration(code).unwrap(), block, amounts, None, STYLE).ok()
}

fn figure(pattern: &Pattern, figure: PatternMeasure) -> f64 {
    measure(pattern).get(figure).unwrap()
}

fn grown(before: &Pattern, after: &Pattern, of: PatternMeasure) -> f64 {
    figure(after, of) - figure(before, of)
}

fn opening(piece: &Piece, place: DartPlace) -> f64 {
    let pivot = piece.dart(place).unwrap().pivot;
    let (first, second) = piece.mouth(place).unwrap();
    turn_degrees(first - pivot, second - pivot).abs()
}

/// A dart that turns about her own bust point takes in the same wherever it goes: what the sewn bust measures does not hang on
/// where the dart lies, nor on whether a seam takes its place.
#[test]
fn the_sewn_bust_is_the_same_wherever_the_dart_of_a_full_bust_goes() {
    for block in blocks(false) {
        let bust = block.front().unwrap().bust_pivot().unwrap();
        let own =
            Amounts::of(15.0).with("bust_point_out", bust.x + 6.0).with("bust_point_down", bust.y + 2.0);
        let begun = Recipe::default().and("full_bust", own, "");
        let girth = |code: &str, amounts: Amounts| {
            let made = make(&block, &begun.clone().and(code, amounts, ""), STYLE);
            made.is_whole().then(|| measure(&made.pattern).get(PatternMeasure::Bust).unwrap())
        };
        let moved = |to: &str| girth("move_dart", Amounts::of(1.0).by("to", to));
        let line = |from: &str| girth("princess_line", Amounts::of(0.0).by("from", from));
        let all: Vec<f64> =
            [moved("shoulder"), moved("french"), moved("armhole"), line("armhole"), line("shoulder")]
                .into_iter()
                .flatten()
                .collect();
        assert!(all.len() >= 3, "{all:?}");
        assert!(all.iter().all(|girth| (girth - all[0]).abs() < 0.05), "{all:?}");
    }
}

/// Her pins say where the shaped centre back runs: it goes through them, smoothly, and the nape stays where the turn of the
/// upper back brings it.
#[test]
fn a_shaped_centre_back_goes_through_her_pins() {
    let mut tried = 0;
    for block in blocks(false) {
        let house = Amounts::of(14.0);
        let pinned = house.clone().with("pinned_at_level", 3.0).with("pinned_half_way", 9.0);
        let made = |amounts: &Amounts| done(&block, "rounded_back", amounts);
        let (Some(house), Some(pinned)) = (made(&house), made(&pinned)) else { continue };
        tried += 1;
        let back = |altered: &Altered| altered.pattern.back().unwrap().clone();
        let (house, pinned, flat) = (back(&house), back(&pinned), block.back().unwrap());
        assert_eq!(house.centre_top(), pinned.centre_top());
        let level = flat.centre_top().y.midpoint(flat.underarm().y);
        let centre = pinned.edges_of(Seam::CentreBack).next().unwrap();
        for (height, by) in [(level, 3.0), (level.midpoint(pinned.centre_top().y), 9.0)] {
            let along = centre.curve.crossing_level(height).unwrap();
            assert!((centre.curve.point_at(along).x - by).abs() < 0.01, "{height}: {by}");
        }
        let sharpest = centre.curve.corners().into_iter().map(|(_, turn)| turn.abs()).fold(0.0, f64::max);
        assert!(sharpest < 0.5, "{sharpest}");
        let same = |seam| (house.sewn_length(seam) - pinned.sewn_length(seam)).abs() < 1e-6;
        assert!(same(Seam::Neckline) && same(Seam::Shoulder) && same(Seam::Armhole) && same(Seam::Side));
    }
    assert!(tried > 20, "{tried}");
}

#[test]
fn a_rounded_back_grows_by_its_amount_as_each_school_allows() {
    for block in blocks(false) {
        for g in [6.0, 12.0, 20.0] {
            for (finish, within) in [("seam", 0.2), ("neck_dart", 1.5)] {
                let Some(after) = done(&block, "rounded_back", &Amounts::of(g).by("finish", finish)) else {
                    continue;
                };
                let by = grown(&block, &after.pattern, PatternMeasure::CentreBack);
                assert!((by - g).abs() < within, "{finish} {g}: {by}");
                let back = after.pattern.back().unwrap();
                let folds = back.edges_of(Seam::CentreBack).all(|edge| edge.fold);
                assert_eq!(folds, finish == "neck_dart");
                assert_eq!(back.cut_instruction(), if folds { "cut 1 on fold" } else { "cut a pair" });
                assert_eq!(
                    after.follow_ups.iter().any(|follow| follow.says.contains("centre back is a seam")),
                    !folds
                );
            }
        }
    }
}

#[test]
fn a_shoulder_dart_opens_by_about_one_point_eight_of_a_rounded_back() {
    for block in blocks(false) {
        let Some(after) = done(&block, "rounded_back", &Amounts::of(5.0).by("finish", "shoulder_dart"))
        else {
            continue;
        };
        let by = grown(&block, &after.pattern, PatternMeasure::ShoulderDart);
        assert!((1.2..=2.6).contains(&(by / 5.0)), "{by}");
    }
}

#[test]
fn a_sway_back_lifts_the_waist_as_its_curve_says() {
    let block = &blocks(false)[0];
    let after = done(block, "sway_back", &Amounts::of(12.0)).unwrap().pattern;
    let (old, new) = (block.back().unwrap(), after.back().unwrap());
    let whole = old.flat_length(Seam::Waist);
    let mut ahead = whole;
    for (before, now) in old.edges_of(Seam::Waist).zip(new.edges_of(Seam::Waist)) {
        let length = before.curve.length();
        for step in 1..8 {
            let s = length * f64::from(step) / 8.0;
            let u = (ahead - s) / whole;
            let lift = 12.0 * (1.0 - u * u * (3.0 - 2.0 * u));
            let wanted = before.curve.point_at(s) - kurbo::Vec2::new(0.0, lift);
            let off = now.curve.point_at(now.curve.nearest(wanted)).distance(wanted);
            assert!(off < 0.6, "{u}: off by {off}");
        }
        ahead -= length;
    }
}

#[test]
fn a_gape_widens_the_dart_by_its_turn_and_shortens_the_armhole() {
    for block in blocks(false) {
        for (code, seam) in [("gaping_armhole", Seam::Armhole), ("gaping_neckline", Seam::Neckline)] {
            let g = 8.0;
            let Some(after) = done(&block, code, &Amounts::of(g)) else { continue };
            let (old, new) = (block.front().unwrap(), after.pattern.front().unwrap());
            let curve = &old.edges_of(seam).next().unwrap().curve;
            let share = if seam == Seam::Armhole { 0.6 } else { 0.5 };
            let at = curve.point_at(curve.length() * share);
            let pivot = old.bust_pivot().unwrap();
            let turn = 2.0 * (g / (2.0 * pivot.distance(at))).asin();
            let wider = opening(new, DartPlace::Side) - opening(old, DartPlace::Side);
            assert!((wider - turn.to_degrees()).abs() < 1e-6, "{code}: {wider} for {}", turn.to_degrees());
            let along = turn_degrees(curve.direction_at(curve.length() * share), pivot - at).to_radians();
            let shorter = old.flat_length(seam) - new.flat_length(seam);
            let about = g / along.sin().abs();
            // Bringing the moved end to the unmoved one gives back a part where the tuck lies askew.
            assert!((0.5..=1.35).contains(&(shorter / about)), "{code}: {shorter} for about {about}");
        }
    }
}

#[test]
fn a_wider_back_opens_at_the_blades_and_keeps_its_shoulder() {
    for block in blocks(false) {
        for w in [4.0, 9.0] {
            let Some(after) = done(&block, "back_width", &Amounts::of(w)) else { continue };
            let by = grown(&block, &after.pattern, PatternMeasure::AcrossBack) / 2.0;
            assert!((by / w - 1.0).abs() < 0.25, "{w}: {by}");
            let shoulder = grown(&block, &after.pattern, PatternMeasure::ShoulderBack);
            assert!(shoulder.abs() < 1.0, "{w}: the shoulder is off by {shoulder}");
            let dart = grown(&block, &after.pattern, PatternMeasure::ShoulderDart);
            assert!((1.0..=1.7).contains(&(dart / w)), "{w}: the dart grew by {dart}");
        }
    }
}

#[test]
fn princess_panels_walk_and_without_tightening_measure_as_before() {
    for block in blocks(false) {
        let Some(plain) = done(&block, "princess_line", &Amounts::of(0.0)) else { continue };
        for kept in [
            PatternMeasure::Bust,
            PatternMeasure::Waist,
            PatternMeasure::ArmholeFront,
            PatternMeasure::SideFront,
            PatternMeasure::CentreFront,
        ] {
            let by = grown(&block, &plain.pattern, kept);
            assert!(by.abs() < 0.05, "{}: {by}", kept.name());
        }
        let tight = done(&block, "princess_line", &Amounts::of(16.0)).unwrap();
        for pattern in [&plain.pattern, &tight.pattern] {
            let walked = walk(pattern).into_iter().find(|each| each.seam == Seam::Princess).unwrap();
            assert!(walked.difference().abs() < 0.3, "the panels differ by {}", walked.difference());
            assert!(walked.notches.iter().all(|pair| pair.apart() < 0.3));
        }
        let shorter = -grown(&block, &tight.pattern, PatternMeasure::ArmholeFront);
        // Common practice says about 2.5 times; it depends on how squarely the seam leaves the armhole.
        assert!((1.0..=3.6).contains(&(shorter / 8.0)), "the armhole is {shorter} shorter by 8 a side");
        // A divided front takes no more alterations of a whole one, and says so.
        let refused = apply(alteration("full_bust").unwrap(), &tight.pattern, &Amounts::of(5.0), None, STYLE)
            .unwrap_err();
        assert!(refused.to_string().contains("whole bodice front"), "{refused}");
        assert!(tight.pattern.piece(PieceKind::of(GarmentPart::SidePanel)).is_some());
    }
}

#[test]
fn a_sleeve_follows_its_armhole_and_is_reminded_of_where_it_is_missing() {
    let gape = Amounts::of(14.0);
    for block in blocks(true) {
        let Some(after) = done(&block, "gaping_armhole", &gape) else { continue };
        let follow = after.follow_ups.iter().find(|follow| follow.says.contains("cap")).unwrap();
        assert_ne!(follow.kind, FollowKind::Reminder, "the sleeve is here: {}", follow.says);
        if follow.kind == FollowKind::Done {
            let rule = after.pattern.sleeve_rule.unwrap();
            let ease = figure(&after.pattern, PatternMeasure::CapEase);
            assert!((rule.least - 0.01..=rule.most + 0.01).contains(&ease), "{ease}");
        }
        // The shoulder's length leaves the cap alone; above 6 mm of armhole it is offered, and the offer does it.
        let longer = done(&block, "shoulder_length", &Amounts::of(14.0)).unwrap();
        assert_eq!(longer.pattern.sleeve(), block.sleeve());
        for offer in longer.follow_ups.iter().filter_map(|follow| follow.offer.as_ref()) {
            let taken = done(&longer.pattern, &offer.alteration, &offer.amounts).unwrap();
            let by = offer.amounts.amount();
            assert!((grown(&longer.pattern, &taken.pattern, PatternMeasure::CapLength) - by).abs() < 0.05);
        }
    }
    for block in blocks(false) {
        let Some(after) = done(&block, "gaping_armhole", &gape) else { continue };
        let reminded = |words: &str| {
            let is = |follow: &&yardwand_core::alter::FollowUp| follow.says.contains(words);
            after.follow_ups.iter().find(is).is_some_and(|follow| follow.kind == FollowKind::Reminder)
        };
        assert!(reminded("the cap of a sleeve follows"), "{:?}", after.follow_ups);
        let neck = done(&block, "neck", &Amounts::of(20.0)).unwrap();
        assert!(neck.follow_ups.iter().any(|follow| follow.says.contains("facing, collar or hood follow")));
    }
}
