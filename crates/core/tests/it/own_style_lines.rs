//! A style line of her own: from armhole, shoulder or neckline through a point of hers to the bust point or the blade, parting the
//! piece as the princess line does (handbook: `alterations.md`, section 2).

use std::collections::BTreeMap;

use kurbo::Point;

use crate::common::{Chance, bodies};
use crate::outside::cutting_lines_stand_off;
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress};
use yardwand_core::Style;
use yardwand_core::alter::{Altered, Amounts, Decided, Recipe, alteration, apply, make, preview};
use yardwand_core::body::Body;
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::pattern::{
    CheckCode, Pattern, PatternMeasure, Piece, Seam, WornSide, check_pattern, measure,
};

const STYLE: Style = Style::TENTHS;

fn parted(block: &Pattern, amounts: &Amounts) -> Result<Altered, String> {
    apply(alteration("princess_line").unwrap(), block, amounts, None, STYLE)
        .map_err(|error| error.to_string())
}

/// The fewest millimetres between a point and the princess seam of a piece, read along it by small steps.
fn off_the_seam(piece: &Piece, point: Point) -> f64 {
    let seam = &piece.edges_of(Seam::Princess).next().unwrap().curve;
    let count = seam.length() as usize * 4;
    (0..=count)
        .map(|n| seam.point_at(seam.length() * n as f64 / count as f64).distance(point))
        .fold(f64::INFINITY, f64::min)
}

/// What a seam cannot change: every figure but the edge it begins on, and both its sides are as long.
fn seam_holds(block: &Pattern, made: &Pattern, told: &str) {
    outlines_are_simple(made);
    made.validate().unwrap();
    let (was, is) = (measure(block), measure(made));
    for figure in [
        PatternMeasure::NecklineFront,
        PatternMeasure::NecklineBack,
        PatternMeasure::ShoulderFront,
        PatternMeasure::ShoulderBack,
        PatternMeasure::ArmholeFront,
        PatternMeasure::ArmholeBack,
        PatternMeasure::SideFront,
        PatternMeasure::SideBack,
        PatternMeasure::Waist,
        PatternMeasure::Hip,
        PatternMeasure::CentreFront,
    ] {
        let Some(then) = was.get(figure) else { continue };
        let now = is.get(figure);
        assert!(
            now.is_some_and(|now| (now - then).abs() < 0.02),
            "{told}: {} {then}, {now:?}",
            figure.name()
        );
    }
    let failing = |pattern: &Pattern| -> Vec<CheckCode> {
        { check_pattern(pattern, STYLE).into_iter() }.filter(|c| !c.passed).map(|c| c.code).collect()
    };
    let before = failing(block);
    for check in check_pattern(made, STYLE).into_iter().filter(|check| !check.passed) {
        let leans = check.code == CheckCode::SideBalance;
        assert!(leans || before.contains(&check.code), "{told}: {} {:?}", check.says, check.faults);
    }
}

fn blocks(body: &Body) -> Vec<Pattern> {
    let proportional = Method { kind: MethodKind::Proportional, ..Method::default() };
    let proportional = draft(body, &proportional, STYLE).ok().map(|made| made.pattern);
    [bodice(body), dress(body), proportional].into_iter().flatten().collect()
}

#[test]
fn a_line_of_her_own_goes_through_her_point_and_parts_the_piece() {
    let mut chance = Chance::new(11);
    let (mut made_so, mut refusals) = (BTreeMap::<String, usize>::new(), BTreeMap::<String, usize>::new());
    for body in bodies(40, 57) {
        for block in blocks(&body) {
            for piece in ["front", "back"] {
                for from in ["armhole", "shoulder", "neckline"] {
                    let plain = Amounts::of(0.0).by("piece", piece).by("from", from);
                    let plain = match from {
                        "armhole" => plain.with("place", chance.between(0.35, 0.7)),
                        _ => plain.with("starts", chance.between(0.25, 0.8)),
                    };
                    let told = format!("{piece} from the {from}, {plain:?}");
                    let by_itself = match parted(&block, &plain) {
                        Ok(made) => made,
                        Err(says) => {
                            let says: String = says.chars().filter(|c| !c.is_ascii_digit()).collect();
                            *refusals.entry(format!("{piece} {from}: {says}")).or_default() += 1;
                            continue;
                        }
                    };
                    *made_so.entry(format!("{piece} {from}")).or_default() += 1;
                    seam_holds(&block, &by_itself.pattern, &told);
                    // Where the line runs by itself, moved by a little.
                    let at = by_itself.point.clone().unwrap();
                    let (out, down) =
                        (at.out + chance.between(-8.0, 8.0), at.down + chance.between(-10.0, 10.0));
                    let own = plain.clone().with("through_out", out).with("through_down", down);
                    let told = format!("{told} through {out:.1}, {down:.1}");
                    let made = match parted(&block, &own) {
                        Ok(made) => made,
                        Err(says) => {
                            *refusals.entry(format!("{piece} {from} through: {says}")).or_default() += 1;
                            continue;
                        }
                    };
                    *made_so.entry(format!("{piece} {from} through")).or_default() += 1;
                    seam_holds(&block, &made.pattern, &told);
                    let covers =
                        if piece == "front" { made.pattern.front_half() } else { made.pattern.back_half() };
                    let (centre, _) = covers.unwrap().panels().unwrap();
                    let whole = if piece == "front" { block.front() } else { block.back() }.unwrap();
                    let hers = Point::new(out, whole.neck_side().y + down);
                    // Rounded corners come within a little of it.
                    assert!(off_the_seam(centre, hers) < 0.3, "{told}: {}", off_the_seam(centre, hers));
                }
            }
        }
    }
    for kind in [
        "front armhole",
        "front shoulder",
        "front neckline",
        "back armhole",
        "back shoulder",
        "back neckline",
    ] {
        let own = made_so.get(&format!("{kind} through")).copied().unwrap_or_default();
        assert!(own >= 30, "{kind}: {made_so:#?}, {refusals:#?}");
    }
}

/// What comes after a line from the neckline goes on: facings follow the edge over both panels, a sleeve, a skirt, one side.
#[test]
fn what_follows_goes_over_a_line_from_the_neckline() {
    let mut tried = 0;
    for body in bodies(12, 59) {
        let Some(block) = bodice(&body) else { continue };
        let line = Amounts::of(0.0).by("from", "neckline").with("starts", 0.7);
        let recipe = Recipe::default()
            .and("neckline", Amounts::of(130.0).with("width", 190.0).with("behind", 60.0), "")
            .and("princess_line", line.clone(), "")
            .and("princess_line", line.clone().by("piece", "back"), "")
            .and("facings", Amounts::of(45.0), "");
        let made = make(&block, &recipe, STYLE);
        if !made.is_whole() {
            continue;
        }
        tried += 1;
        outlines_are_simple(&made.pattern);
        cutting_lines_stand_off(&made.pattern.pieces, "lined");
        let waist = measure(&block).get(PatternMeasure::Waist).unwrap();
        for (other, amounts) in [
            ("full_bust", Amounts::of(8.0)),
            ("rounded_back", Amounts::of(8.0)),
            ("shoulder_slope", Amounts::of(5.0)),
            ("joined_skirt", Amounts::of(600.0).with("hip", waist + 250.0).with("to_hip", 205.0)),
            ("collar_stand", Amounts::of(30.0)),
        ] {
            let mut later = recipe.clone();
            later.take(Decided::new(other, amounts.clone(), ""));
            let both = make(&block, &later, STYLE);
            assert!(both.is_whole(), "{other}: {:?}", both.refused().next());
            outlines_are_simple(&both.pattern);
        }
        let left = apply(alteration("princess_line").unwrap(), &block, &line, Some(WornSide::Left), STYLE);
        let left = left.unwrap().pattern;
        assert!(left.worn_on(WornSide::Left).front_half().unwrap().panels().is_some());
        assert!(left.worn_on(WornSide::Right).front_half().unwrap().whole().is_some());
    }
    assert!(tried >= 8, "{tried}");
}

#[test]
fn a_line_that_cannot_be_says_why() {
    let block = bodice(&bodies(1, 59)[0]).unwrap();
    let says = |amounts: Amounts| parted(&block, &amounts).unwrap_err();
    let one = says(Amounts::of(0.0).with("through_out", 90.0));
    assert!(one.contains("two figures, out and down"), "{one}");
    let outside = says(Amounts::of(0.0).with("through_out", 380.0).with("through_down", 150.0));
    assert!(outside.contains("the line leaves the piece"), "{outside}");
    let gape = says(Amounts::of(8.0).by("from", "neckline"));
    assert!(gape.contains("from the armhole or the shoulder"), "{gape}");
    // A line beside the shoulder dart of the back that runs across it.
    let across = Amounts::of(0.0).by("piece", "back").by("from", "shoulder").with("starts", 0.85);
    let across = says(across.with("through_out", 60.0).with("through_down", 40.0));
    assert!(across.contains("runs through the shoulder dart"), "{across}");
    // The point can be taken hold of where the line lies.
    let recipe = Recipe::default().and("princess_line", Amounts::of(0.0), "");
    let point = preview(&block, &recipe, None, STYLE).point.unwrap();
    assert_eq!(point.params, ["through_out", "through_down"]);
    assert!(point.at.x > 0.0 && (point.at.x - point.out).abs() < 1e-9);
}
