//! A neckline drawn to her wish, against the handbook's worked figures, over random bodies and wishes, and with what comes
//! before and after it (handbook: `wishes.md`, section 1).

use std::collections::BTreeMap;

use kurbo::Shape as _;

use crate::common::{Chance, bodies, holds_still, standard_ease};
use crate::cutting_line;
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress, read, wishing_body};
use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Decided, Recipe, alteration, apply, make};
use yardwand_core::compare::wishes;
use yardwand_core::fitting::lasting_steps;
use yardwand_core::pattern::{
    Allowances, DartPlace, Pattern, PatternMeasure, Seam, WornSide, check_pattern, measure,
};

const STYLE: Style = Style::TENTHS;

fn neckline(block: &Pattern, width: f64, front: f64, behind: f64) -> Amounts {
    assert!(block.front().is_some());
    Amounts::of(front).with("width", width).with("behind", behind)
}

fn with_neckline(block: &Pattern, amounts: &Amounts) -> Result<Pattern, AlterError> {
    Ok(apply(alteration("neckline").unwrap(), block, amounts, None, STYLE)?.pattern)
}

#[test]
fn necklines_are_the_worked_ones() {
    let block = bodice(&wishing_body()).unwrap();
    let lines =
        |made: &Pattern| [made.front(), made.back()].map(|piece| piece.unwrap().sewn_length(Seam::Neckline));
    let near = |is: f64, worked: f64| assert!((is - worked).abs() < 0.01, "{is}, worked {worked}");
    let made = with_neckline(&block, &neckline(&block, 180.0, 140.0, 100.0)).unwrap();
    let neck = made.front().unwrap().neck_side();
    near(neck.x, 90.0);
    near(neck.y, 6.729);
    for (is, worked) in lines(&made).into_iter().zip([168.663, 152.025]) {
        near(is, worked);
    }
    for piece in &made.pieces {
        near(piece.sewn_length(Seam::Shoulder), 104.596);
    }
    let made = with_neckline(&block, &neckline(&block, 200.0, 180.0, 250.0)).unwrap();
    for (is, worked) in lines(&made).into_iter().zip([206.838, 290.113]) {
        near(is, worked);
    }
    let v = neckline(&block, 170.0, 190.0, 180.0).by("shape", "v").by("shape_behind", "v");
    let made = with_neckline(&block, &v).unwrap();
    for (is, worked) in lines(&made).into_iter().zip([203.764, 212.865]) {
        near(is, worked);
    }
    let taken_out = with_neckline(&block, &v.with("gape", 6.87)).unwrap();
    // The handbook draws 30 either side anew; a slanting tuck takes a little more, as everywhere (`gape.rs`).
    assert!((lines(&taken_out)[0] - 197.957).abs() < 0.1, "{:?}", lines(&taken_out));
    let made = with_neckline(&block, &neckline(&block, 270.0, 90.0, 40.0)).unwrap();
    for (is, worked) in lines(&made).into_iter().zip([159.394, 144.951]) {
        near(is, worked);
    }
    assert!(made.back().unwrap().dart(DartPlace::Neckline).is_some(), "the dart goes to the neckline");
    for piece in &made.pieces {
        near(piece.sewn_length(Seam::Shoulder), 56.619);
    }
}

/// What a neckline cut: the line sampled from outside, against its promises.
#[test]
fn a_wished_neckline_is_where_it_was_wished_and_leaves_the_rest() {
    let mut chance = Chance::new(47);
    let (mut made_so, mut refusals) = (0, BTreeMap::<String, usize>::new());
    for body in bodies(40, 59) {
        for block in [bodice(&body), dress(&body)].into_iter().flatten() {
            for _ in 0..6 {
                let base = block.front().unwrap().neck_side().x;
                let width = chance.between(2.0 * base + 4.0, 2.0 * base + 120.0);
                let (front, behind) = (chance.between(95.0, 210.0), chance.between(30.0, 240.0));
                let shape = chance.one_of(&["round", "v", "square", "sweetheart"]);
                let shape_behind = chance.one_of(&["round", "v", "square"]);
                let amounts = neckline(&block, width, front, behind)
                    .by("shape", shape)
                    .by("shape_behind", shape_behind);
                let told = format!("{shape} {shape_behind} {width:.1} {front:.1} {behind:.1}");
                let made = match with_neckline(&block, &amounts) {
                    Ok(made) => made,
                    Err(error) => {
                        *refusals
                            .entry(error.to_string().chars().filter(|c| !c.is_ascii_digit()).collect())
                            .or_default() += 1;
                        continue;
                    }
                };
                made_so += 1;
                necks_hold(&block, &made, (width, front, behind), &told);
            }
        }
    }
    assert!(made_so > 350, "{made_so} made, {refusals:#?}");
}

fn necks_hold(block: &Pattern, made: &Pattern, (width, depth, behind): (f64, f64, f64), told: &str) {
    outlines_are_simple(made);
    let (front, back) = (made.front().unwrap(), made.back().unwrap());
    let (front_was, back_was) = (block.front().unwrap(), block.back().unwrap());
    let near = |is: f64, wished: f64, what: &str| {
        assert!((is - wished).abs() < 0.01, "{told}: {what} {is}, not {wished}")
    };
    near(2.0 * front.neck_side().x, width, "width");
    near(front.centre_top().y - front_was.neck_side().y, depth, "depth in front");
    near(back.centre_top().y - back_was.centre_top().y, behind, "depth behind");
    let out = front_was.sewn_length(Seam::Shoulder) - front.sewn_length(Seam::Shoulder);
    near(back_was.sewn_length(Seam::Shoulder) - back.sewn_length(Seam::Shoulder), out, "shoulder behind");
    for piece in [front, back] {
        // The grain lies on the cloth, and a dart that is left is one.
        let outline = piece.outline();
        for share in [0.0, 0.5, 1.0] {
            let at = piece.grain.0.lerp(piece.grain.1, share);
            assert!(outline.contains(at), "{told}: the grain of {} at {at:?}", piece.kind.name());
        }
        for dart in &piece.darts {
            let (first, _) = piece.mouth(dart.place).unwrap();
            assert!(first.distance(dart.pivot) > 20.0, "{told}: {dart:?}");
        }
    }
    let (was, is) = (measure(block), measure(made));
    use PatternMeasure as F;
    for figure in [
        F::ArmholeFront,
        F::ArmholeBack,
        F::SideFront,
        F::SideBack,
        F::Bust,
        F::Waist,
        F::AcrossFront,
        F::AcrossBack,
        F::BustPointDepth,
        F::BustSpan,
        F::BackLength,
        F::ArmholeDepth,
        F::ShoulderDrop,
    ] {
        if let Some((was, is)) = was.get(figure).zip(is.get(figure)) {
            near(is, was, figure.name());
        }
    }
    holds_still(block, made, told);
}

#[test]
fn the_cutting_line_of_a_wished_neckline_stands_its_allowance_off() {
    let mut looked = 0;
    for (index, body) in bodies(12, 71).iter().enumerate() {
        let Some(block) = bodice(body) else { continue };
        let [shape, behind] = [["round", "v"], ["square", "round"], ["sweetheart", "square"]][index % 3];
        let amounts =
            Amounts::of(165.0).with("width", 175.0).with("behind", 120.0 + 15.0 * (index % 7) as f64);
        let Ok(made) = with_neckline(&block, &amounts.by("shape", shape).by("shape_behind", behind)) else {
            continue;
        };
        for piece in &made.pieces {
            let found = cutting_line::faults(piece, &Allowances::default());
            assert!(found.is_empty(), "{shape} {behind}: {}: {:#?}", piece.kind.name(), found.first());
            looked += 1;
        }
    }
    assert!(looked > 12, "{looked}");
}

/// Pairs and sequences: with what fits the garment, with other style steps before and after, twice, one side after both.
#[test]
fn a_wished_neckline_goes_with_what_comes_before_and_after_it() {
    let wish = || Amounts::of(150.0).with("width", 180.0).with("behind", 110.0).by("shape", "square");
    let others = [
        ("full_bust", Amounts::of(10.0)),
        ("rounded_back", Amounts::of(9.0)),
        ("shoulder_slope", Amounts::of(6.0)),
        ("forward_shoulder", Amounts::of(6.0)),
        ("neck", Amounts::of(6.0)),
        ("gaping_neckline", Amounts::of(5.0)),
        ("side_seams", Amounts::of(4.0)),
        ("length", Amounts::of(12.0)),
        ("move_dart", Amounts::of(1.0)),
        ("move_dart", Amounts::of(0.6).by("to", "armhole")),
        ("split_dart", Amounts::of(0.5)),
        ("gather_dart", Amounts::of(1.0)),
        ("princess_line", Amounts::of(4.0)),
        ("princess_line", Amounts::of(0.0).by("piece", "back")),
        ("dart_point", Amounts::of(6.0)),
        ("true_up", Amounts::of(20.0)),
    ];
    let (mut tried, mut looked) = (0, 0);
    for body in bodies(10, 61) {
        let Some(block) = bodice(&body) else { continue };
        let alone = make(&block, &Recipe::default().and("neckline", wish(), ""), STYLE);
        if !alone.is_whole() {
            continue;
        }
        for (code, amounts) in &others {
            let told = format!("{code} {amounts:?}");
            let single = make(&block, &Recipe::default().and(code, amounts.clone(), ""), STYLE);
            let mut recipe = Recipe::default();
            recipe.take(Decided::new("neckline", wish(), "she wishes it"));
            recipe.take(Decided::new(code, amounts.clone(), "seen at the toile"));
            let made = make(&block, &recipe, STYLE);
            if !single.is_whole() || !made.is_whole() {
                continue;
            }
            tried += 1;
            outlines_are_simple(&made.pattern);
            let centre = made.pattern.front_half().unwrap().at_centre();
            assert!(
                (centre.centre_top().y - centre.neck_base_side().y - 150.0).abs() < 0.05,
                "{told}: depth"
            );
            let fails = |pattern: &Pattern| -> Vec<_> {
                check_pattern(pattern, STYLE).into_iter().filter(|c| !c.passed).map(|c| c.code).collect()
            };
            let before = [fails(&alone.pattern), fails(&single.pattern)].concat();
            let new: Vec<_> =
                fails(&made.pattern).into_iter().filter(|code| !before.contains(code)).collect();
            assert!(new.is_empty(), "{told}: {new:?}");
            // Along the whole cutting line, by the reader from outside, of two bodies.
            for piece in made.pattern.pieces.iter().filter(|_| looked < 2) {
                let found = cutting_line::faults(piece, &Allowances::default());
                assert!(found.is_empty(), "{told}: {}: {:#?}", piece.kind.name(), found.first());
            }
        }
        looked += 1;
        // Twice it is refused: what is there already is changed where it stands.
        let twice = Recipe::default().and("neckline", wish(), "").and("neckline", wish(), "");
        let made = make(&block, &twice, STYLE);
        assert!(made.refused().next().unwrap().1.to_string().contains("has its wished neckline already"));
        assert_eq!(made.pattern, alone.pattern);
        // One side after both, and one side alone.
        let right = Decided { side: Some(WornSide::Right), ..Decided::new("neckline", wish(), "") };
        let mut recipe = Recipe::default();
        recipe.take(right);
        let made = make(&block, &recipe, STYLE);
        assert!(made.is_whole());
        assert_eq!(made.pattern.worn_on(WornSide::Left).front().unwrap().edges, block.front().unwrap().edges);
        assert_eq!(
            made.pattern.worn_on(WornSide::Right).back().unwrap().edges,
            alone.pattern.back().unwrap().edges
        );
    }
    assert!(tried > 100, "{tried}");
}

#[test]
fn a_neckline_that_cannot_be_is_refused_with_the_way_out() {
    let block = bodice(&wishing_body()).unwrap();
    let says = |amounts: &Amounts| with_neckline(&block, amounts).unwrap_err().to_string();
    let base = 2.0 * block.front().unwrap().neck_side().x;
    let narrow = says(&Amounts::default().with("width", base - 10.0));
    assert!(narrow.contains(&format!("at least {}", STYLE.with_unit(base))), "{narrow}");
    let wide = says(&Amounts::of(200.0).with("width", 400.0));
    assert!(wide.contains("of the shoulder: at most"), "{wide}");
    let low = says(&Amounts::of(320.0).with("width", 190.0));
    assert!(low.contains("32.0 cm is more than the 25.0 cm that lies 2.0 cm above the bust point"), "{low}");
    let sweetheart = |depth: f64| Amounts::of(depth).with("width", 170.0).by("shape", "sweetheart");
    let high = says(&sweetheart(80.0));
    assert!(high.contains("deep in front"), "{high}");
    // The least depth that is named is one that can be drawn.
    let least: f64 = high.split("at least ").nth(1).unwrap().split(' ').next().unwrap().parse().unwrap();
    assert!(with_neckline(&block, &sweetheart(least * 10.0 + 1.0)).is_ok());
    let above = says(&Amounts::of(60.0).with("width", 260.0));
    assert!(above.contains("above the pit of her neck: at least 7.1 cm"), "{above}");
    // A dart that shapes the bust from the shoulder is not cut into.
    let moved = Recipe::default().and("move_dart", Amounts::of(1.0).by("to", "shoulder"), "");
    let moved = make(&block, &moved, STYLE).pattern;
    let wide = with_neckline(&moved, &neckline(&moved, 280.0, 150.0, 60.0)).unwrap_err().to_string();
    assert!(wide.contains("move that dart first"), "{wide}");
    assert!(with_neckline(&moved, &neckline(&moved, 170.0, 120.0, 60.0)).is_ok());
    let near = says(&neckline(&block, 190.0, 262.0, 40.0));
    assert!(near.contains("above the bust point"), "{near}");
    assert!(with_neckline(&block, &neckline(&block, 190.0, 262.0, 40.0).by("bust", "lower")).is_ok());
    // What is there already moves nothing.
    let front = block.front().unwrap();
    let is = Amounts::of(front.centre_top().y - front.neck_side().y + 0.4).with("width", base + 0.3);
    assert_eq!(with_neckline(&block, &is).unwrap().pieces, block.pieces);
}

#[test]
fn her_neckline_is_read_from_what_she_wishes() {
    let block = bodice(&wishing_body()).unwrap();
    let profile = read(&[("neck_width", 180.0), ("neck_depth_back", 250.0)]);
    let wished = wishes(&profile, &block, standard_ease(), STYLE);
    assert_eq!(wished.len(), 1);
    assert_eq!(wished[0].amounts, Amounts::default().with("width", 180.0).with("behind", 250.0));
    assert_eq!(wished[0].readings, ["neck_width", "neck_depth_back"]);
    assert!(wished[0].says.contains("18.0 cm wide, 25.0 cm deep behind"), "{}", wished[0].says);
    assert!(wished[0].refused.is_none(), "{:?}", wished[0].refused);
}

/// What is pinned on a wished neckline goes on from it: it is neither lost under it nor added to what was fitted before.
#[test]
fn pins_on_a_wished_neckline_change_it() {
    let mut tried = 0;
    for body in bodies(10, 67) {
        let Some(block) = bodice(&body) else { continue };
        let mut recipe = Recipe::default();
        recipe.take(Decided::new("neck", Amounts::of(4.0), "the plan"));
        recipe.take(Decided::new("neckline", neckline(&block, 175.0, 140.0, 110.0), "she wishes it"));
        recipe.take(Decided::new("princess_line", Amounts::of(0.0).by("piece", "back"), "style"));
        let before = make(&block, &recipe, STYLE);
        if !before.is_whole() {
            continue;
        }
        let deep = |pattern: &Pattern| {
            let front = pattern.front().unwrap();
            front.centre_top().y - front.neck_base_side().y
        };
        assert!((deep(&before.pattern) - 140.0).abs() < 0.01);
        recipe.take(Decided::new("neck", Amounts::of(6.0), "too high at the toile"));
        recipe.take(Decided::new("neck", Amounts::of(2.0), "and still"));
        recipe.take(Decided::new("gaping_neckline", Amounts::of(5.0), "it stands off"));
        let order: Vec<&str> = recipe.steps.iter().map(|step| step.alteration.as_str()).collect();
        assert_eq!(order, ["neck", "neckline", "neck", "gaping_neckline", "princess_line"]);
        // What was fitted before the wish is hers; what belongs to the style is not offered for her own block.
        let lasts =
            |recipe: &Recipe| lasting_steps(recipe, STYLE).into_iter().filter(|each| each.lasting).count();
        let mut alone = Recipe::default();
        alone.take(Decided::new("gaping_neckline", Amounts::of(5.0), ""));
        assert_eq!((lasts(&recipe), lasts(&alone)), (1, 1));
        let after = make(&block, &recipe, STYLE);
        // The step behind it needs a whole back without a dart in the neckline.
        if !after.is_whole() {
            continue;
        }
        tried += 1;
        assert!((deep(&after.pattern) - 148.0).abs() < 0.05, "{}", deep(&after.pattern));
        let line = |pattern: &Pattern| pattern.front().unwrap().sewn_length(Seam::Neckline);
        let only_lower = {
            let mut without = recipe.clone();
            without.steps.retain(|step| step.alteration != "gaping_neckline");
            make(&block, &without, STYLE).pattern
        };
        let taken = line(&only_lower) - line(&after.pattern);
        assert!((3.0..6.5).contains(&taken), "{taken} of the 5 that were pinned");
        outlines_are_simple(&after.pattern);
    }
    assert!(tried > 5, "{tried}");
}
