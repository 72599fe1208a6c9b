//! A hem to the floor of a client who stands unevenly: longer on one side, level at the centre (handbook: `wishes.md`, section 4).

use kurbo::Point;

use crate::common::{Chance, bodies, holds_still, standard_ease};
use crate::outside::nothing_turned_red;
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress, read, wishing_body};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, alteration, apply, make};
use yardwand_core::body::{Profile, ProfileReading};
use yardwand_core::compare::wishes;
use yardwand_core::geometry::turn_degrees;
use yardwand_core::pattern::{GarmentPart, LevelName, Pattern, Piece, Seam, WornSide};

const STYLE: Style = Style::TENTHS;

/// How long a piece is from its hip line to its hem: at the centre, and along the side.
fn below_hip(piece: &Piece) -> (f64, f64) {
    let hip = &piece.level(LevelName::Hip).unwrap().points;
    let hem = piece.edges_of(Seam::Hem).next().unwrap();
    let side = piece.edges_of(Seam::Side).last().unwrap();
    // Walked by small steps, not by the model's own length.
    let points: Vec<Point> = (0..=4000)
        .map(|i| side.curve.length() * f64::from(i) / 4000.0)
        .map(|s| side.curve.point_at(s))
        .collect();
    let from = *hip.last().unwrap();
    let nearest = (0..points.len())
        .min_by(|a, b| points[*a].distance(from).total_cmp(&points[*b].distance(from)))
        .unwrap();
    let along: f64 = points[nearest..].windows(2).map(|pair| pair[0].distance(pair[1])).sum::<f64>();
    (hem.curve.end().y - hip[0].y, along)
}

fn hems_meet(pattern: &Pattern, told: &str) {
    for side in WornSide::BOTH {
        let worn = pattern.worn_on(side);
        let pieces: Vec<&Piece> = worn
            .pieces
            .iter()
            .filter(|piece| piece.first_edge(Seam::Hem).is_some() && !piece.kind.is_sleeve())
            .collect();
        let mut across = 0.0;
        for piece in &pieces {
            let hem = piece.first_edge(Seam::Hem).unwrap();
            let [side, hem] = [&piece.edges[hem - 1].curve, &piece.edges[hem].curve];
            across += 180.0 - turn_degrees(side.end_direction(), hem.start_direction());
            let level = hem.end_direction();
            assert!(level.y.abs() < 1e-6, "{told}: square at the centre, {level:?}");
        }
        assert!((across - 180.0).abs() < 0.02, "{told}: {across} at the side");
    }
}

#[test]
fn each_side_hangs_to_its_own_length() {
    let mut chance = Chance::new(3);
    let mut tried = 0;
    for body in bodies(40, 13) {
        let Some(block) = dress(&body) else { continue };
        let (left, right) = (chance.between(-30.0, 30.0), chance.between(-30.0, 30.0));
        let length = chance.between(250.0, 900.0);
        let out = if tried % 2 == 0 { 0.0 } else { 25.0 };
        let amounts = Amounts::of(length).with("out", out).with("left_side", left).with("right_side", right);
        let told = format!("{amounts:?}");
        let known = alteration("hem_length").unwrap();
        let made = apply(known, &block, &amounts, None, STYLE).unwrap().pattern;
        tried += 1;
        outlines_are_simple(&made);
        nothing_turned_red(&block, &made, &told);
        holds_still(&block, &made, &told);
        hems_meet(&made, &told);
        assert!(made.is_sided());
        for (side, longer) in WornSide::BOTH.into_iter().zip([left, right]) {
            let worn = made.worn_on(side);
            for piece in [worn.front().unwrap(), worn.back().unwrap()] {
                let (centre, along) = below_hip(piece);
                assert!((centre - length).abs() < 1e-6, "{told}: {centre}");
                assert!((along - length - longer).abs() < 0.3, "{told}: {along}");
            }
        }
        // Alike on both sides they stay one front and one back; nothing apart is the hem as it always was.
        let alike = amounts.clone().with("right_side", left);
        assert!(!apply(known, &block, &alike, None, STYLE).unwrap().pattern.is_sided());
        let level = Amounts::of(length).with("out", out);
        let none = level.clone().with("left_side", 0.0).with("right_side", 0.0);
        assert_eq!(
            apply(known, &block, &none, None, STYLE).unwrap().pattern,
            apply(known, &block, &level, None, STYLE).unwrap().pattern
        );
    }
    assert!(tried > 25, "{tried}");
}

/// What is to be drawn is said of each side.
#[test]
fn each_side_is_told_its_own() {
    let block = dress(&wishing_body()).unwrap();
    let amounts = Amounts::of(600.0).with("left_side", 10.0).with("right_side", -10.0);
    let made = apply(alteration("hem_length").unwrap(), &block, &amounts, None, STYLE).unwrap();
    let told: Vec<String> = made.stages_in(STYLE).into_iter().map(|stage| stage.words).collect();
    let of_sides = told.iter().find(|words| words.contains("Left: ")).unwrap();
    assert!(of_sides.contains("1.0 cm longer than the centre. Right: "), "{of_sides}");
    assert!(of_sides.ends_with("1.0 cm shorter than the centre."), "{of_sides}");
    // What is alike on both is said once.
    assert!(told.iter().filter(|words| words.contains("Left: ")).count() == 1, "{told:?}");
}

/// After what made left and right apart, and on one side after both: each has its own.
#[test]
fn on_sides_that_differ_already_each_keeps_its_own() {
    let block = dress(&wishing_body()).unwrap();
    let known = alteration("hem_length").unwrap();
    let amounts = Amounts::of(600.0).with("left_side", 10.0).with("right_side", -10.0);
    let sloped =
        apply(alteration("shoulder_slope").unwrap(), &block, &Amounts::of(5.0), Some(WornSide::Left), STYLE);
    let sloped = sloped.unwrap().pattern;
    let made = apply(known, &sloped, &amounts, None, STYLE).unwrap().pattern;
    hems_meet(&made, "sloped");
    let only = apply(known, &block, &amounts, Some(WornSide::Right), STYLE).unwrap().pattern;
    let right = only.worn_on(WornSide::Right);
    assert!((below_hip(right.front().unwrap()).1 - 590.0).abs() < 0.3);
    assert!(only.worn_on(WornSide::Left).front().unwrap().level(LevelName::Hip).is_none());
    // What ends at the hip or above hangs level, and says so.
    let short = apply(known, &block, &Amounts::of(40.0).with("left_side", 10.0), None, STYLE).unwrap_err();
    assert!(short.to_string().contains("longer on one side"), "{short}");
}

#[test]
fn a_joined_skirt_hangs_to_its_own_length_on_each_side() {
    let block = bodice(&wishing_body()).unwrap();
    let skirt = Amounts::of(900.0).with("hip", 1020.0).with("to_hip", 205.0);
    let apart = skirt.clone().with("left_side", 8.0).with("right_side", -8.0);
    let of =
        |amounts: &Amounts| make(&block, &Recipe::default().and("joined_skirt", amounts.clone(), ""), STYLE);
    let (level, made) = (of(&skirt), of(&apart));
    assert!(made.is_whole());
    hems_meet(&made.pattern, "joined");
    for (side, longer) in WornSide::BOTH.into_iter().zip([8.0, -8.0]) {
        for part in [GarmentPart::JoinedSkirtFront, GarmentPart::JoinedSkirtBack] {
            let worn = made.pattern.worn_on(side);
            let is = worn.pieces.iter().find(|piece| piece.kind.part() == part).unwrap();
            let was = level.pattern.pieces.iter().find(|piece| piece.kind.part() == part).unwrap();
            let ((centre, along), (level_centre, level_along)) = (below_hip(is), below_hip(was));
            assert!((centre - level_centre).abs() < 1e-6 && (along - level_along - longer).abs() < 0.3);
        }
    }
}

#[test]
fn her_floor_lengths_left_and_right_are_wished() {
    let block = dress(&wishing_body()).unwrap();
    let uneven = |code: &str, left: f64, right: f64| ProfileReading {
        left_mm: Some(left),
        right_mm: Some(right),
        ..ProfileReading::plain(code, (left + right) / 2.0)
    };
    let known = [("full_length", 1400.0), ("snp_to_waist_front", 440.0), ("waist_to_hip", 205.0)];
    let with = |more: Vec<ProfileReading>| Profile(read(&known).0.into_iter().chain(more).collect());
    let wish = |profile: &Profile| {
        wishes(profile, &block, standard_ease(), STYLE)
            .into_iter()
            .find(|wish| wish.alteration == "hem_length")
            .unwrap()
    };
    let to_floor = wish(&with(vec![uneven("waist_to_floor", 1052.0, 1040.0)]));
    assert_eq!(to_floor.refused, None);
    let amount = |code: &str| to_floor.amounts.0.get(code).cloned();
    use yardwand_core::alter::Setting::Number;
    assert_eq!((amount("left_side"), amount("right_side")), (Some(Number(6.0)), Some(Number(-6.0))));
    assert!(to_floor.says.contains("at her left it hangs 0.6 cm lower"), "{}", to_floor.says);
    assert!(to_floor.readings.contains(&"waist_to_floor".to_owned()));
    // Standing evenly, or measured on one side alone, she wants one hem.
    let level = wish(&with(vec![uneven("waist_to_floor", 1040.0, 1040.0)]));
    assert!(!level.amounts.0.contains_key("left_side"));
    // A dress that ends just below the hip hangs level, and is wished as ever.
    let short = [("full_length", 690.0), ("snp_to_waist_front", 440.0), ("waist_to_hip", 205.0)];
    let uneven_floor = uneven("waist_to_floor", 1052.0, 1040.0);
    let short = Profile(read(&short).0.into_iter().chain([uneven_floor]).collect());
    let short = wish(&short);
    assert!(short.refused.is_none() && !short.amounts.0.contains_key("left_side"), "{:?}", short.refused);
    // Where the floor was not measured the ankle tells the same.
    let to_ankle = wish(&with(vec![uneven("waist_to_ankle", 950.0, 960.0)]));
    assert_eq!(to_ankle.amounts.0.get("right_side"), Some(&Number(5.0)));
}
