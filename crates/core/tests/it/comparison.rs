//! Comparison, both schools and the plan, on bodies whose answer is known beforehand.

use crate::common::{standard_ease, worked_body};
use yardwand_core::Style;
use yardwand_core::alter::make;
use yardwand_core::body::Body;
use yardwand_core::compare::{
    BlockSize, CUP_OVER, DifferenceGrade, Fitting, Plan, PlanChanges, SizeSchool, choose_size, compare,
    compare_fitted,
};
use yardwand_core::draft::{Direct, DirectEase, draft_direct};
use yardwand_core::ease::{EaseSet, ease_set};
use yardwand_core::pattern::{PatternMeasure, measure};

const STYLE: Style = Style::EIGHTHS;

fn size(label: &str, figure: Body) -> BlockSize {
    let method = Direct { ease: DirectEase::of(standard_ease(), &figure), ..Direct::default() };
    let pattern = draft_direct(&figure, &method, STYLE).unwrap().pattern;
    BlockSize::drawn(label, figure, pattern)
}

fn plan(client: &Body, block: &BlockSize) -> Plan {
    yardwand_core::compare::plan(client, block, standard_ease(), &PlanChanges::default(), STYLE).unwrap()
}

/// The worked body with a B cup, larger by `more` all round.
fn figure(more: f64) -> Body {
    let grown = |body: Body, code: &str, by: f64| {
        let mm = body.get(code).unwrap();
        body.with(code, mm + by)
    };
    let body = worked_body().with("upper_bust_girth", 939.8 - 50.8);
    let body = grown(body, "bust_girth", more);
    let body = grown(body, "upper_bust_girth", more);
    let body = grown(body, "waist_girth", more);
    let body = grown(body, "across_back", more / 4.0);
    let body = grown(body, "across_front", more / 3.5);
    grown(body, "shoulder_length", more / 16.0)
}

#[test]
fn a_body_against_its_own_block_fits_everywhere() {
    let block = size("own", figure(0.0));
    let rows = compare(&figure(0.0), &block.figures(), standard_ease(), STYLE).rows;
    for row in &rows {
        assert_eq!(row.grade, DifferenceGrade::Fits, "{row:?}");
    }
    assert_eq!(rows.len(), 14);
    assert!(plan(&figure(0.0), &block).lines.is_empty());
}

#[test]
fn target_is_body_and_ease_and_the_half_pattern_carries_half() {
    let block = size("12", figure(0.0));
    let client = figure(0.0).with("bust_girth", 939.8 + 50.8);
    let rows = compare(&client, &block.figures(), standard_ease(), STYLE);
    let row = rows.row(PatternMeasure::Bust).unwrap();
    assert_eq!(row.grade, DifferenceGrade::Alter);
    assert!((row.target.as_ref().unwrap().mm - (939.8 + 50.8 + 50.0)).abs() < 1e-9);
    assert_eq!(row.on_body.as_ref().unwrap().text, "2");
    assert_eq!(row.on_pattern.as_ref().unwrap().text, "1");
}

#[test]
fn three_inches_of_bust_are_an_inch_and_a_half_a_half() {
    let block = size("12", figure(0.0));
    let client = figure(0.0).with("bust_girth", 939.8 + 76.2);
    let plan = plan(&client, &block);
    let line = &plan.lines.iter().find(|l| l.alteration.as_deref() == Some("full_bust")).unwrap();
    assert_eq!((line.amount.text.as_str(), line.on.as_str()), ("1 1/2", "per half"));
    assert!(line.refused.is_none());
    let after = measure(&make(block.pattern().unwrap(), &plan.recipe(), STYLE).pattern);
    assert!((after.get(PatternMeasure::Bust).unwrap() - (939.8 + 76.2 + 50.0)).abs() < 0.1);
    let bust = plan.predictions.iter().find(|p| p.name == "Bust girth").unwrap();
    assert!(bust.fits, "{bust:?}");
}

#[test]
fn the_same_cup_on_a_larger_frame_is_no_full_bust() {
    let block = size("12", figure(0.0));
    let plan = plan(&figure(60.0), &block);
    assert!(plan.lines.iter().all(|l| l.alteration.as_deref() != Some("full_bust")), "{:?}", plan.lines);
    let side = plan.lines.iter().find(|l| l.name == "Side seams at the bust").unwrap();
    // 60 on the body is 15 a seam edge, less what a wider back has given already.
    assert!((12.0..15.1).contains(&side.amount.mm), "{}", side.amount.mm);
    let bust = plan.predictions.iter().find(|row| row.figure == PatternMeasure::Bust).unwrap();
    assert!(bust.fits && bust.left.mm.abs() < 0.5, "{bust:?}");
}

#[test]
fn a_full_cup_starts_from_the_frame_and_says_why() {
    let sizes = [
        size("10", figure(-40.0)),
        size("12", figure(0.0)),
        size("14", figure(40.0)),
        size("16", figure(80.0)),
    ];
    // Frame of a 12, bust of a 16: a fuller bust is also longer over the front, lower and further apart.
    let client = figure(0.0)
        .with("bust_girth", 939.8 + 76.2)
        .with("bust_span", 190.5 + 18.0)
        .with("snp_to_bust_point", 266.7 + 14.0)
        .with("snp_to_waist_front", 431.8 + 20.0);
    let choices = choose_size(&client, &sizes, standard_ease(), CUP_OVER, STYLE).unwrap();
    assert_eq!(choices.choices[0].school, SizeSchool::UpperBust, "{choices:#?}");
    assert_eq!(choices.choices[0].size, "12");
    assert_eq!(choices.choices[1].size, "16");
    assert!(choices.choices[0].total.mm < choices.choices[1].total.mm);
    assert!(choices.why.contains("Size 12 leads"), "{}", choices.why);
}

#[test]
fn what_front_and_back_share_is_length_and_the_rest_is_balance() {
    let block = size("12", figure(0.0));
    let longer = |front: f64, back: f64| {
        figure(0.0)
            .with("snp_to_waist_front", 431.8 + front)
            .with("nape_to_waist_back", 400.05 + back)
            .with("snp_to_waist_back", 419.1 + back)
    };
    let lines = |front: f64, back: f64| -> Vec<(String, f64)> {
        let plan = plan(&longer(front, back), &block);
        assert!(
            plan.lines.iter().all(|line| line.alteration.is_some() && line.refused.is_none()),
            "{plan:?}"
        );
        let rows = plan.predictions.iter().filter(|row| row.addressed);
        assert!(rows.clone().count() >= 1 && rows.clone().all(|row| row.fits), "{plan:?}");
        plan.lines.iter().map(|line| (line.key.clone(), (line.amount.mm * 10.0).round() / 10.0)).collect()
    };
    // The front is taped over the bust: it measures a little more than it was read.
    for asked in [12.7, -9.5] {
        let lines = lines(asked, asked);
        assert!(lines.len() == 1 && lines[0].0 == "length" && (lines[0].1 - asked).abs() < 1.2, "{lines:?}");
    }
    let keys = |lines: Vec<(String, f64)>| lines.into_iter().map(|(key, _)| key).collect::<Vec<_>>();
    assert_eq!(keys(lines(22.0, 10.0)), ["length", "front_balance"]);
    assert_eq!(keys(lines(10.0, 22.0)), ["length", "rounded_back"]);
    assert_eq!(keys(lines(12.0, 0.0)), ["front_balance"]);
    assert_eq!(keys(lines(0.0, 12.0)), ["rounded_back"]);
}

#[test]
fn balance_comes_before_the_bust() {
    let block = size("12", figure(0.0));
    let client = figure(0.0)
        .with("bust_girth", 939.8 + 50.8)
        .with("nape_to_waist_back", 400.05 + 12.7)
        .with("snp_to_waist_back", 419.1 + 12.7);
    let plan = plan(&client, &block);
    let names: Vec<&str> = plan.lines.iter().map(|l| l.name.as_str()).collect();
    let at =
        |name: &str| names.iter().position(|n| *n == name).unwrap_or_else(|| panic!("{name} in {names:?}"));
    assert!(at("Rounded back") < at("Full bust"));
    assert!(plan.lines.iter().all(|line| line.alteration.is_some()), "nothing is left to the hand");
}

#[test]
fn a_wild_difference_is_sent_back_to_the_tape() {
    let block = size("12", figure(0.0));
    let client = figure(0.0).with("nape_to_waist_back", 400.05 + 75.0);
    let rows = compare(&client, &block.figures(), standard_ease(), STYLE);
    assert_eq!(rows.row(PatternMeasure::CentreBack).unwrap().grade, DifferenceGrade::Remeasure);
}

#[test]
fn what_was_not_measured_is_missing_not_nought() {
    let block = size("12", figure(0.0));
    let rows = compare(&figure(0.0).without("waist_girth"), &block.figures(), standard_ease(), STYLE);
    let row = rows.row(PatternMeasure::Waist).unwrap();
    assert_eq!((row.grade, row.on_body.is_none()), (DifferenceGrade::Missing, true));
}

#[test]
fn a_plan_reads_like_the_work_to_be_done() {
    let block = size("12", figure(0.0));
    let client = figure(0.0)
        .with("bust_girth", 939.8 + 50.8)
        .with("bust_span", 190.5 + 12.7)
        .with("snp_to_bust_point", 266.7 + 12.7)
        .with("snp_to_waist_front", 431.8 + 25.4)
        .with("shoulder_length", 127.0 + 9.5)
        .with("nape_to_waist_back", 400.05 + 12.7)
        .with("snp_to_waist_back", 419.1 + 12.7);
    let plan = plan(&client, &block);
    let told: Vec<String> = plan
        .lines
        .iter()
        .map(|l| format!("{} {} in {}: {}", l.name, l.amount.text, l.on, l.reason))
        .collect();
    insta::assert_snapshot!(told.join("\n"), @r"
    Rounded back 1/2 in at centre back, over the blades: Nape to waist, back: target 16 1/4 in, block 15 3/4 in; the back is longer over the blades than the front asks for.
    Full bust 1 in per half: Bust girth: target 41 in, block 39 in; her cup is 2 in over the block's, so the difference is prominence.
    Shoulder length 3/8 in on the seam, front and back: Shoulder length: target 5 3/8 in, block 5 in; front and back alike.
    ");
}

/// Her block, corrected by two rounds of pins: shoulder shorter, back wider and rounded.
fn fitted_block(body: &Body) -> (BlockSize, BlockSize) {
    use yardwand_core::alter::{Amounts, Recipe, make};
    let begun = size("own", body.clone());
    let recipe = Recipe::default()
        .and("rounded_back", Amounts::of(6.35), "")
        .and("shoulder_length", Amounts::of(-9.5), "")
        .and("back_width", Amounts::of(3.2), "");
    let pattern = make(begun.pattern().unwrap(), &recipe, STYLE).pattern;
    let fitting = Fitting { body, ease: standard_ease(), garment: "Concert dress", round: 2 };
    let settled = fitting.settled(begun.pattern().unwrap(), &pattern, &[]);
    let bare = BlockSize::drawn("own", body.clone(), pattern);
    (BlockSize { settled, ..bare.clone() }, bare)
}

#[test]
fn what_pins_settled_is_not_corrected_back_and_moves_with_her() {
    let body = figure(0.0);
    let (fitted, bare) = fitted_block(&body);
    let keys = |body: &Body, block: &BlockSize| -> Vec<String> {
        plan(body, block).lines.into_iter().map(|line| line.key).collect()
    };
    let undone = keys(&body, &bare);
    assert!(undone.contains(&"shoulder_length".to_owned()), "the bare readings would undo it: {undone:?}");
    let begun = keys(&body, &size("own", body.clone()));
    assert_eq!(keys(&body, &fitted), begun, "nothing is planned against a fitting");

    let compared =
        |body: &Body, ease: &EaseSet| compare_fitted(body, &fitted.figures(), &fitted.settled, ease, STYLE);
    let row = compared(&body, standard_ease()).row(PatternMeasure::ShoulderFront).unwrap().clone();
    assert_eq!(row.settled.as_deref(), Some("fitted in round 2 of Concert dress"));
    assert!(row.on_body.unwrap().mm.abs() < 1e-9 && row.grade == DifferenceGrade::Fits);

    // The reading moved, and the target with it.
    let longer = body.get("shoulder_length").unwrap() + 8.0;
    let moved = compared(&body.clone().with("shoulder_length", longer), standard_ease());
    assert!((moved.of(PatternMeasure::ShoulderFront).unwrap() - 8.0).abs() < 1e-9);
    // The set asks for more across the back now: her own ease grows by what the set does.
    let easy = ease_set("easy", yardwand_core::Unit::Cm).unwrap();
    let wider = compared(&body, easy).of(PatternMeasure::AcrossBack).unwrap();
    assert!((wider - (easy.across_back - standard_ease().across_back)).abs() < 1e-9, "{wider}");

    // What the next garment changes is settled anew, the rest stays as it was.
    use yardwand_core::alter::{Amounts, Recipe, make};
    let begun = fitted.pattern().unwrap();
    let next = make(begun, &Recipe::default().and("back_width", Amounts::of(3.0), ""), STYLE).pattern;
    let again = Fitting { body: &body, ease: standard_ease(), garment: "Coat", round: 1 };
    let settled = again.settled(begun, &next, &fitted.settled);
    let of = |figure| settled.iter().find(|each| each.figure == figure).unwrap().says();
    assert_eq!(of(PatternMeasure::ShoulderFront), "fitted in round 2 of Concert dress");
    assert_eq!(of(PatternMeasure::AcrossBack), "fitted in round 1 of Coat");
}

/// A longer shoulder widens the back where it is measured: that is told, and not planned back.
#[test]
fn what_a_line_brings_along_is_told_and_not_corrected() {
    let block = size("12", figure(0.0));
    let plan = plan(&figure(0.0).with("shoulder_length", 127.0 + 16.0), &block);
    let keys: Vec<&str> = plan.lines.iter().map(|line| line.key.as_str()).collect();
    assert_eq!(keys, ["shoulder_length"]);
    let back = plan.predictions.iter().find(|row| row.figure == PatternMeasure::AcrossBack).unwrap();
    assert!(back.by_product && !back.fits && !back.addressed, "{back:?}");
    assert!(plan.predictions.iter().filter(|row| row.fits).all(|row| !row.by_product));
}

/// A dress to the hip: what lies below the waist is added to the lengths above it, straight down.
#[test]
fn lengths_to_the_hip_are_compared_where_the_garment_goes_on_below_the_waist() {
    use yardwand_core::draft::{Method, MethodKind, draft};
    use yardwand_core::pattern::{LevelName, PieceKind};
    let body = worked_body().with("hip_girth", 1000.0).with("waist_to_hip", 210.0);
    let dress =
        draft(&body, &Method { kind: MethodKind::Dress, ..Method::default() }, STYLE).unwrap().pattern;
    let figures = measure(&dress);
    let down = |kind| {
        let piece = dress.piece(kind).unwrap();
        piece.edges.iter().map(|edge| edge.curve.end().y).fold(0.0, f64::max)
            - piece.level(LevelName::Waist).unwrap().points[0].y
    };
    let front = figures.get(PatternMeasure::FrontLength).unwrap() + down(PieceKind::DRESS_FRONT);
    let is = figures.get(PatternMeasure::FrontToHip).unwrap();
    assert!((is - front).abs() < 1e-6, "{is} {front}");
    let back = dress.piece(PieceKind::DRESS_BACK).unwrap();
    let from_neck_side = figures.get(PatternMeasure::BackLength).unwrap() + down(PieceKind::DRESS_BACK);
    let is = figures.get(PatternMeasure::BackToHip).unwrap();
    assert!((from_neck_side - (back.tip().y - back.neck_base_side().y) / 2.0 - is).abs() < 1e-6, "{is}");
    let rows = |body: &Body| compare(body, &figures, standard_ease(), STYLE).rows.len();
    let hers = body.clone().with("snp_to_hip_front", front).with("shoulder_to_hip_back", is);
    assert_eq!(rows(&hers), rows(&body) + 2, "compared where they were measured");
    let bodice = measure(size("12", figure(0.0)).pattern().unwrap());
    assert_eq!((bodice.get(PatternMeasure::FrontToHip), bodice.get(PatternMeasure::BackToHip)), (None, None));
}
