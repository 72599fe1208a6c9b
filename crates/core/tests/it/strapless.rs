//! The strapless edge against the handbook's worked figures, and over random bodies (handbook: `wishes.md`, section 2).

use geo::{Area, BooleanOps};
use kurbo::{Point, Shape};

use crate::common::{Chance, bodies, standard_ease};
use crate::outside::{corner, cutting_lines_stand_off, part, polygon};
use crate::random_bodies::outlines_are_simple;
use crate::wishes::wishing_body;
use yardwand_core::alter::{AlterError, Amounts, Decided, Recipe, alteration, apply, make, suits};
use yardwand_core::body::Body;
use yardwand_core::compare::{compare, wishes};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::ease::ease_set;
use yardwand_core::pattern::{
    DartPlace, GarmentPart, Pattern, PatternMeasure, Seam, WornSide, check_pattern, measure, walk,
};
use yardwand_core::{Style, Unit};

const STYLE: Style = Style::TENTHS;
const PANELS: [GarmentPart; 4] = [
    GarmentPart::CentrePanel,
    GarmentPart::SidePanel,
    GarmentPart::BackCentrePanel,
    GarmentPart::BackSidePanel,
];

/// A bodice with one dart in front or both, this much larger at bust and waist than the body.
fn bodice(body: &Body, one_dart: bool, ease: f64) -> Option<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, one_dart, ..Direct::default() };
    let mut method = Method { direct, ..Method::default() };
    method.direct.ease.bust = ease;
    method.direct.ease.waist = ease;
    Some(draft(body, &method, STYLE).ok()?.pattern)
}

fn of_kind(body: &Body, kind: MethodKind) -> Option<Pattern> {
    let method = Method { kind, with_sleeve: true, ..Method::default() };
    Some(draft(body, &method, STYLE).ok()?.pattern)
}

fn done(block: &Pattern, amounts: &Amounts) -> Result<Pattern, AlterError> {
    Ok(apply(alteration("strapless_edge").unwrap(), block, amounts, None, STYLE)?.pattern)
}

/// The handbook's wish, with her readings.
fn hers(cup: f64, drop: f64) -> Amounts {
    Amounts::of(cup)
        .with("drop", drop)
        .with("under_bust", 346.0)
        .with("upper_bust", 912.0)
        .with("bust", 960.0)
}

/// The edge as it is sewn, all round.
fn edge(pattern: &Pattern) -> f64 {
    2.0 * PANELS.iter().map(|each| part(pattern, *each).sewn_length(Seam::UpperEdge)).sum::<f64>()
}

#[test]
fn the_edge_is_the_worked_one() {
    let block = bodice(&wishing_body(), false, 0.0).unwrap();
    let made = done(&block, &hers(140.0, 140.0)).unwrap();
    let (centre, side) = (part(&made, GarmentPart::CentrePanel), part(&made, GarmentPart::SidePanel));
    let starts = centre.edges[0].curve.start();
    assert!(starts.distance(Point::new(0.0, 221.3)) < 0.01, "{starts:?}");
    // The cups' top lies at (95, 206): both legs of the wedge are as long as from there to the bust point.
    let point = Point::new(95.0, 270.0);
    for top in [centre.edges[0].curve.end(), side.edges[0].curve.start()] {
        assert!((top.distance(point) - 64.0).abs() < 0.01, "{top:?}");
    }
    // Worked: edge 961.287, her 923.015. That reader goes straight across the open end of the back's waist dart, 18 below
    // which the edge lies; sewn, that is closed, and no part of her.
    let drawn =
        done(&block, &Amounts::of(140.0).with("drop", 140.0).with("under_bust", 346.0).with("held", 0.0))
            .unwrap();
    let back = block.back().unwrap();
    let (first, second) = back.mouth(DartPlace::Waist).unwrap();
    let end = back.dart(DartPlace::Waist).unwrap().pivot;
    let at = part(&drawn, GarmentPart::BackCentrePanel).edges[0].curve.end();
    let open = at.distance(end) * first.distance(second) / first.distance(end);
    assert!((15.0..20.0).contains(&(at.y - end.y)), "{at:?} below {end:?}");
    let off = edge(&drawn) + 2.0 * open - 961.287;
    assert!(off.abs() < 0.7, "{} and twice {open:.3} make {off:.3} more", edge(&drawn));
    // Her girth there less that opening, as wide as she is of the block; that reader's house curves are a little shorter.
    let wanted = (923.015 - 2.0 * open * 0.96) * 0.98;
    assert!((edge(&made) - wanted).abs() < 0.002 * wanted, "{} instead of {wanted}", edge(&made));
}

#[test]
fn what_cannot_be_is_refused_with_its_limit() {
    let block = bodice(&wishing_body(), false, 0.0).unwrap();
    let says = |amounts: Amounts| done(&block, &amounts).unwrap_err().to_string();
    // Worked: cup 90 refused, at least 96.
    assert!(says(hers(90.0, 140.0)).contains("at least 9.6 cm"), "{}", says(hers(90.0, 140.0)));
    // The cups end at 206, the pit lies at 81.3.
    assert!(
        says(hers(140.0, 100.0)).contains("at least 12.5 cm below the pit"),
        "{}",
        says(hers(140.0, 100.0))
    );
    assert!(says(hers(140.0, 260.0)).contains("at most 25.5 cm"), "{}", says(hers(140.0, 260.0)));
    assert!(says(hers(250.0, 140.0)).contains("at most"), "{}", says(hers(250.0, 140.0)));
    let roomy = bodice(&wishing_body(), false, 200.0).unwrap();
    let loose = done(&roomy, &hers(140.0, 140.0)).unwrap_err().to_string();
    assert!(loose.contains("less ease"), "{loose}");
    let larger = hers(140.0, 140.0).with("upper_bust", 1000.0);
    assert!(says(larger.clone()).contains("let the side seams out"), "{}", says(larger));
    // What the limit names is made.
    done(&block, &hers(96.0, 190.0)).unwrap();
}

#[test]
fn panels_join_and_hold_on_every_body() {
    let mut chance = Chance::new(53);
    let (mut tried, mut refused) = (0, 0);
    for body in bodies(40, 71) {
        let ease = chance.between(-10.0, 40.0);
        let blocks = [
            bodice(&body, true, ease),
            bodice(&body, false, ease),
            of_kind(&body, MethodKind::Proportional),
            of_kind(&body, MethodKind::Dress),
        ];
        for block in blocks.into_iter().flatten() {
            let front = block.front().unwrap();
            let below = chance.between(60.0, 90.0);
            let root = front.bust_pivot().unwrap().y - front.neck_base_side().y + below;
            let above = chance.between(25.0, 60.0);
            let top = root - (below + above) - front.neck_base_top().y;
            let gap = chance.one_of(&[0.0, 0.0, 50.0, 75.0]);
            let shape = chance.one_of(&["level", "sweetheart"]);
            let girth = |code: &str| body.get(code).unwrap();
            let amounts = Amounts::of(below + above)
                .with("under_bust", root)
                .with("drop", top + chance.between(0.0, 50.0))
                .with("below", chance.between(-20.0, 30.0))
                .with("behind", chance.between(0.0, 60.0))
                .with("gap", gap)
                .with("held", chance.between(0.0, 0.04))
                .with("upper_bust", girth("upper_bust_girth"))
                .with("bust", girth("bust_girth"))
                .by("shape", shape);
            let told = format!("{amounts:?}");
            let made = match done(&block, &amounts) {
                Ok(made) => made,
                Err(AlterError::NotHere(says)) => {
                    eprintln!("{says}");
                    refused += 1;
                    continue;
                }
                Err(other) => panic!("{told}: {other}"),
            };
            tried += 1;
            outlines_are_simple(&made);
            made.validate().unwrap();
            for check in check_pattern(&made, STYLE) {
                assert!(check.passed, "{told}: {}: {} {:?}", check.name, check.says, check.faults);
            }
            // A sleeve that the block had is left out by the recipe, not by the step.
            for walked in walk(&made).iter().filter(|walked| walked.seam != Seam::UnderSleeve) {
                assert!(walked.difference().abs() < 0.01, "{told}: {}: {}", walked.name, walked.difference());
            }
            let waist = |pattern: &Pattern| measure(pattern).get(PatternMeasure::Waist).unwrap();
            let lost = waist(&block) - waist(&made);
            // The gap is cut level; a waist that slopes there loses its own length.
            assert!((lost - gap).abs() < 0.01 + 0.015 * gap, "{told}: waist less by {lost}");
            for each in PANELS {
                let piece = part(&made, each);
                let (top, foot) = piece.grain;
                let is_inside = [top, foot].iter().all(|at| piece.outline().contains(*at));
                assert!(is_inside && top.distance(foot) > 50.0, "{told}: {each:?} grain {top:?} {foot:?}");
                let at = (corner(piece, piece.edges.len() - 1), corner(piece, 0));
                let is_point = shape == "sweetheart" && each == GarmentPart::CentrePanel;
                let begins = if is_point { 135.0 } else { 90.0 };
                assert!((at.0 - begins).abs() < 0.3 && (at.1 - 90.0).abs() < 0.3, "{told}: {each:?} {at:?}");
            }
            // Not more cloth than there was: the centre panels lie in the whole pieces, but for a sliver where the waist is square.
            for (half, centre) in
                [(front, GarmentPart::CentrePanel), (block.back().unwrap(), GarmentPart::BackCentrePanel)]
            {
                let beyond = polygon(part(&made, centre)).difference(&polygon(half)).unsigned_area();
                assert!(beyond < 12.0, "{told}: {beyond} mm² of the {centre:?} lie beyond the whole");
            }
            if tried % 9 == 0 {
                cutting_lines_stand_off(&made.pieces, &told);
            }
        }
    }
    eprintln!("{tried} made, {refused} refused");
    assert!(tried > 100, "{tried} made, {refused} refused");
}

/// What is decided at a fitting, before or after the edge in the list, is done before it: the edge is drawn on what was corrected.
#[test]
fn a_correction_decided_after_it_is_done_before_it() {
    let block = bodice(&wishing_body(), true, 20.0).unwrap();
    let decided = |mut recipe: Recipe, code: &str, amounts: Amounts| {
        recipe.take(Decided::new(code, amounts, ""));
        recipe
    };
    let wish = || Amounts::of(130.0).with("drop", 150.0).with("gap", 50.0);
    let strapless = |recipe| decided(recipe, "strapless_edge", wish());
    let fuller = |recipe| decided(recipe, "full_bust", Amounts::of(10.0));
    let sides = |recipe| decided(recipe, "side_seams", Amounts::default().with("waist", -4.0));
    let one = make(&block, &sides(strapless(fuller(Recipe::default()))), STYLE);
    let other = make(&block, &fuller(sides(strapless(Recipe::default()))), STYLE);
    for made in [&one, &other] {
        assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
    }
    assert_eq!(one.pattern, other.pattern);
    outlines_are_simple(&one.pattern);
    for check in check_pattern(&one.pattern, STYLE) {
        assert!(check.passed, "{}: {} {:?}", check.name, check.says, check.faults);
    }
    // An edge once drawn is not drawn again, and no other seam has a whole front to part.
    for again in ["strapless_edge", "princess_line", "under_bust_seam", "neckline"] {
        assert!(!suits(alteration(again).unwrap(), &one.pattern), "{again}");
    }
    // Decided twice it is drawn once, and that is said.
    let twice = make(&block, &strapless(strapless(Recipe::default())), STYLE);
    let refused: Vec<String> = twice.refused().map(|(_, error)| error.to_string()).collect();
    assert!(refused.len() == 1 && refused[0].contains("parted already"), "{refused:?}");
    assert_eq!(twice.pattern, make(&block, &strapless(Recipe::default()), STYLE).pattern);
    // A wished neckline leaves nothing to cut off as it was drafted: it is said.
    let neckline = decided(Recipe::default(), "neckline", Amounts::of(150.0).with("width", 180.0));
    let both = make(&block, &strapless(neckline), STYLE);
    let refused: Vec<String> = both.refused().map(|(_, error)| error.to_string()).collect();
    assert!(refused.len() == 1 && refused[0].contains("wished neckline"), "{refused:?}");
}

/// One side corrected apart: left and right are cut off each as it is, and joined on its own side.
#[test]
fn sides_that_differ_are_cut_off_each_by_itself() {
    let block = bodice(&wishing_body(), false, 20.0).unwrap();
    let full = alteration("full_bust").unwrap();
    let left = apply(full, &block, &Amounts::of(8.0), Some(WornSide::Left), STYLE).unwrap().pattern;
    let made = done(&left, &Amounts::of(130.0).with("gap", 50.0)).unwrap();
    assert!(made.is_sided());
    let sided: Vec<String> = made.pieces.iter().map(|piece| piece.kind.name()).collect();
    assert!(sided.iter().any(|name| name == "Centre front panel, left"), "{sided:?}");
    assert!(sided.iter().any(|name| name == "Side front panel, right"), "{sided:?}");
    outlines_are_simple(&made);
    for check in check_pattern(&made, STYLE) {
        assert!(check.passed, "{}: {} {:?}", check.name, check.says, check.faults);
    }
    assert!(walk(&made).iter().all(|walked| walked.difference().abs() < 0.01));
}

/// Cup height and drop are read off her card with what they are measured against; a sleeve of the block is not cut.
#[test]
fn her_edge_is_wished_from_her_card() {
    use crate::wishes::read;
    let block = of_kind(&wishing_body(), MethodKind::Direct).unwrap();
    let card = [
        ("cup_height", 140.0),
        ("neckline_drop", 150.0),
        ("snp_to_under_bust", 346.0),
        ("upper_bust_girth", 912.0),
        ("bust_girth", 960.0),
    ];
    let all = wishes(&read(&card), &block, standard_ease(), STYLE);
    let wish = all.iter().find(|wish| wish.alteration == "strapless_edge").unwrap();
    assert_eq!(wish.amounts, hers(140.0, 150.0));
    assert!(wish.refused.is_none(), "{:?}", wish.refused);
    assert_eq!(wish.readings, card.map(|(code, _)| code));
    // What is decided of the sleeve stands in the way of nothing, and it is not cut.
    let recipe = Recipe::default()
        .and("strapless_edge", wish.amounts.clone(), "")
        .and("biceps_width", Amounts::of(8.0), "")
        .and("length", Amounts::of(20.0).by("pieces", "sleeve"), "");
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
    assert!(made.pattern.sleeve().is_none() && made.pattern.sleeve_rule.is_none());
    let with = make(&block, &Recipe::default().and("biceps_width", Amounts::of(8.0), ""), STYLE).pattern;
    assert!(with.sleeve().is_some());
    let none = wishes(&read(&card[1..]), &block, standard_ease(), STYLE);
    assert!(none.iter().all(|wish| wish.alteration != "strapless_edge"));
}

/// A corset's waist is held against her drawn-in reading, never without the natural one; otherwise 50 less than that.
#[test]
fn a_corset_takes_the_drawn_in_waist() {
    let corset = ease_set("corset", Unit::Cm).unwrap();
    let block = bodice(&wishing_body(), true, 20.0).unwrap();
    let target = |readings: &[(&str, f64)], ease: &str| {
        let body: Body = readings.iter().copied().collect();
        let compared = compare(&body, &measure(&block), ease_set(ease, Unit::Cm).unwrap(), STYLE);
        let row = compared.row(PatternMeasure::Waist).unwrap();
        (row.name.clone(), row.target.as_ref().map(|shown| shown.mm))
    };
    let both = [("waist_girth", 700.0), ("waist_girth_drawn_in", 640.0)];
    assert_eq!(target(&both, "corset"), ("Waist girth, drawn in".to_owned(), Some(640.0)));
    assert_eq!(target(&both[..1], "corset"), ("Waist girth".to_owned(), Some(650.0)));
    assert_eq!(target(&both[1..], "corset"), ("Waist girth".to_owned(), None));
    assert_eq!(target(&both, "standard"), ("Waist girth".to_owned(), Some(725.0)));
    // A block drafted for her in a corset has that waist.
    let body = wishing_body().with("waist_girth_drawn_in", 720.0);
    let method = Method::default().with_ease(corset, &body);
    let drafted = draft(&body, &method, STYLE).unwrap().pattern;
    let waist = measure(&drafted).get(PatternMeasure::Waist).unwrap();
    assert!((waist - 720.0).abs() < 0.1, "{waist}");
}
