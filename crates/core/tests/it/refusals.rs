//! What cannot be done is refused with a sentence that names the thing and the way out; nothing is changed then.

use crate::common::worked_body;
use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Recipe, StepState, alteration, apply, make, preview};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::Pattern;

const STYLE: Style = Style::EIGHTHS;

fn bodice(with_sleeve: bool) -> Pattern {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    drafted(&Method { with_sleeve, direct, ..Method::default() })
}

fn other(kind: MethodKind) -> Pattern {
    drafted(&Method { kind, with_sleeve: true, ..Method::default() })
}

fn drafted(method: &Method) -> Pattern {
    let body = worked_body()
        .with("upper_arm_girth", 284.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("hip_girth", 990.0)
        .with("waist_to_hip", 206.0);
    draft(&body, method, STYLE).unwrap().pattern
}

fn refused(pattern: &Pattern, code: &str, amounts: &Amounts) -> AlterError {
    let done = apply(alteration(code).unwrap(), pattern, amounts, None, STYLE);
    done.expect_err(&format!("{code} {:?} is refused", amounts.0))
}

#[test]
fn each_refusal_names_the_thing_and_the_way_out() {
    let of = Amounts::of;
    let cases: [(&str, Amounts, &str); 14] = [
        ("full_bust", of(110.0), "split it between side and princess seam, or take a larger size"),
        ("full_bust", of(-40.0), "take a smaller size"),
        (
            "full_bust",
            of(10.0).with("hinge", 0.9),
            "Hinge up the armhole is 0.90: it must lie between 0.20 and 0.60",
        ),
        (
            "full_bust",
            of(10.0).by("to", "the moon"),
            "Where the new dart goes must be one of: stays at the side",
        ),
        (
            "move_dart",
            of(1.0).by("from", "armhole"),
            "has no armhole dart to move: choose a dart that is there",
        ),
        ("move_dart", of(1.0).by("to", "side"), "the dart is there already: choose another place"),
        ("move_dart", of(1.0).by("from", "waist").by("to", "french"), "there is a side dart already"),
        (
            "move_dart",
            of(1.0).by("piece", "back").by("from", "waist").by("to", "shoulder"),
            "points elsewhere",
        ),
        ("gather_dart", of(1.0).by("dart", "neckline"), "has no neck dart to gather"),
        (
            "rounded_back",
            of(-10.0).by("finish", "neck_dart"),
            "for an erect back choose the centre-back seam",
        ),
        (
            "rounded_back",
            of(20.0).by("finish", "shoulder_dart"),
            "put the rest in the centre-back seam or a neck dart",
        ),
        ("gaping_armhole", of(12.0).with("place", 0.9), "move its place"),
        ("side_seams", of(4.0).with("hip", 6.0), "this pattern ends at the waist"),
        ("length", of(-70.0), "take the rest at another level"),
    ];
    let block = bodice(true);
    for (code, amounts, wanted) in cases {
        let says = refused(&block, code, &amounts).to_string();
        assert!(says.contains(wanted), "{code}: {says}");
    }
}

#[test]
fn a_pattern_without_the_piece_says_what_is_wanted() {
    let bare = bodice(false);
    for code in ["cap_height", "biceps_width", "half_cap", "sleeve_width"] {
        assert!(refused(&bare, code, &Amounts::of(5.0)).to_string().contains("one-piece sleeve"), "{code}");
    }
    let sleeve_length = refused(&bare, "length", &Amounts::of(5.0).by("pieces", "sleeve"));
    assert!(sleeve_length.to_string().contains("the pattern lacks that piece"), "{sleeve_length}");
    let mut fronts = bare.clone();
    fronts.pieces.retain(|piece| piece.kind.is_front());
    for code in [
        "shoulder_length",
        "shoulder_slope",
        "narrow_shoulder",
        "underarm",
        "side_seams",
        "neck",
        "sway_back",
    ] {
        let says = refused(&fronts, code, &Amounts::of(5.0)).to_string();
        assert!(
            says.contains("lacks one of them") || says.contains("this pattern has none"),
            "{code}: {says}"
        );
    }
}

#[test]
fn what_a_block_is_not_built_for_is_not_offered_and_says_so() {
    // Both its waist darts are two already; without a sleeve there is no cap.
    let mut bare = other(MethodKind::Dress);
    bare.pieces.retain(|piece| !piece.kind.is_sleeve());
    for (block, code, amount) in
        [(other(MethodKind::Proportional), "split_dart", 0.5), (bare, "cap_height", 5.0)]
    {
        let shown = preview(&block, &Recipe::default().and(code, Amounts::of(amount), ""), None, STYLE);
        assert!(!shown.fits.iter().any(|fits| fits == code), "{code}");
        assert_eq!(shown.steps[0].state, StepState::Refused);
        assert_eq!(shown.steps[0].says.as_deref(), Some(alteration(code).unwrap().wants()));
    }
}

#[test]
fn a_cut_that_would_part_another_dart_is_refused_by_its_name() {
    let block = other(MethodKind::Proportional);
    let says =
        refused(&block, "move_dart", &Amounts::of(1.0).by("from", "waist").by("to", "side")).to_string();
    assert!(says.contains("would run through the outer waist dart: choose another place"), "{says}");
}

#[test]
fn a_refused_step_changes_nothing_and_its_limit_can_be_taken_over() {
    let block = bodice(true);
    let recipe = Recipe::default().and("full_bust", Amounts::of(110.0), "");
    let made = make(&block, &recipe, STYLE);
    assert_eq!(made.pattern, block);
    let shown = preview(&block, &recipe, None, STYLE);
    let nearest = shown.steps[0].nearest.expect("a limit to take over");
    let again = Recipe::default().and("full_bust", Amounts::of(nearest.mm), "");
    assert!(make(&block, &again, STYLE).is_whole());
    assert!(!shown.ready && preview(&block, &again, None, STYLE).steps[0].says.is_none());
}

#[test]
fn figures_that_round_alike_are_told_exactly() {
    let block = bodice(false);
    let limit =
        refused(&block, "rounded_back", &Amounts::of(20.0).by("finish", "shoulder_dart")).limit().unwrap().mm;
    let just_over = Amounts::of(limit + 0.3).by("finish", "shoulder_dart");
    let says = refused(&block, "rounded_back", &just_over).to_string();
    let (asked, most) = says.split_once(" is more than the ").unwrap();
    assert!(!most.starts_with(asked), "{says}");
}

#[test]
fn a_dart_is_split_once() {
    let halves = |recipe: Recipe| recipe.and("split_dart", Amounts::of(0.5), "");
    let shown = preview(&bodice(false), &halves(halves(Recipe::default())), None, STYLE);
    assert_eq!(shown.steps[0].state, StepState::Done);
    let says = shown.steps[1].says.as_deref().unwrap();
    assert!(says.contains("split already: move the rest to another seam"), "{says}");
}
