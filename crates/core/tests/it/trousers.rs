//! Trousers as a card: compared with a body, planned for the paper, and what a bought pattern's printed figures say.

use crate::common::Chance;
use yardwand_core::body::Body;
use yardwand_core::compare::{
    BlockSize, CUP_OVER, DifferenceGrade, PlanChanges, SizeSchool, WISHED, card_figures, card_needs,
    choose_size, compare, plan,
};
use yardwand_core::ease::{EaseSet, ease_set};
use yardwand_core::pattern::{Garment, PatternMeasure as F, PatternMeasures};
use yardwand_core::{Length, Shown, Style, Unit};

fn ease() -> &'static EaseSet {
    ease_set(Garment::Trousers.usual_ease().unwrap(), Unit::Cm).unwrap()
}

/// A body with all that trousers want, without wishes.
fn body(chance: &mut Chance) -> Body {
    let middle = Body::middle();
    let grown = |mm: f64, chance: &mut Chance| mm * chance.between(0.9, 1.25);
    [
        "waist_girth",
        "hip_girth",
        "waist_to_hip",
        "crotch_depth",
        "crotch_length",
        "inside_leg",
        "thigh_slant_girth",
        "thigh_girth",
        "knee_girth",
        "calf_girth",
        "ankle_girth",
    ]
    .into_iter()
    .fold(Body::default(), |body, code| body.with(code, grown(middle.get(code).unwrap(), chance)))
}

/// A card with every figure of trousers, for the middle figure and some off it.
fn card(chance: &mut Chance) -> PatternMeasures {
    let middle = Body::middle();
    let of = |figure| match figure {
        F::Waist => middle.get("waist_girth").unwrap() + 10.0,
        F::Hip => middle.get("hip_girth").unwrap() + 50.0,
        F::TopHip => middle.get("top_hip_girth").unwrap() + 30.0,
        F::WaistToHip => middle.get("waist_to_hip").unwrap(),
        F::CrotchDepth => middle.get("crotch_depth").unwrap() + 15.0,
        F::CrotchLength => middle.get("crotch_length").unwrap() + 30.0,
        F::InsideLeg => middle.get("inside_leg").unwrap() - 30.0,
        F::LegAtCrotch => middle.get("thigh_slant_girth").unwrap() + 25.0,
        F::LegAtThigh => middle.get("thigh_girth").unwrap() + 50.0,
        F::LegAtKnee => middle.get("knee_girth").unwrap() + 50.0,
        F::LegAtCalf => middle.get("calf_girth").unwrap() + 40.0,
        F::LegHem => middle.get("ankle_girth").unwrap() + 80.0,
        dart => panic!("{dart:?} is measured for nothing here"),
    };
    let figures =
        card_figures(Garment::Trousers).filter(|f| !matches!(f, F::WaistDartFront | F::WaistDartBack));
    figures.map(|figure| (figure, of(figure) * chance.between(0.97, 1.03))).collect()
}

/// The card after what the lines say was done on the paper: what each adds all round, by what the trade means by it.
fn done(card: &PatternMeasures, lines: &[yardwand_core::compare::PlanLine]) -> PatternMeasures {
    let amount = |key: &str| {
        { lines.iter() }
            .filter(|line| line.done && line.key == key)
            .map(|line| line.amount.mm * f64::from(line.parts))
            .sum::<f64>()
    };
    card.iter()
        .map(|(figure, mm)| {
            let more = match figure {
                F::Waist => amount("waist"),
                F::Hip => amount("hip"),
                F::CrotchDepth => amount("crotch_depth"),
                // A level cut above the crotch is opened in front and behind.
                F::CrotchLength => 2.0 * amount("crotch_depth") + amount("crotch_length"),
                F::InsideLeg => amount("inside_leg"),
                F::LegAtCrotch => amount("thigh_slanted"),
                F::LegAtThigh => amount("thigh"),
                F::LegAtKnee => amount("knee"),
                F::LegAtCalf => amount("calf"),
                F::LegHem => amount("trouser_hem"),
                _ => 0.0,
            };
            (figure, mm + more)
        })
        .collect()
}

#[test]
fn what_the_plan_says_done_on_the_paper_fits_everywhere() {
    let mut chance = Chance::new(2026);
    let mut lines_seen = 0;
    for _ in 0..300 {
        let mut body = body(&mut chance);
        if chance.even() > 0.0 {
            for (wish, girth, most) in [(WISHED[0], "knee_girth", 200.0), (WISHED[1], "ankle_girth", 300.0)] {
                let mm = body.get(girth).unwrap() + chance.between(0.0, most);
                body = body.with(wish, mm);
            }
        }
        let figures = card(&mut chance);
        let size = BlockSize::card("12", Body::default(), figures.clone());
        assert_eq!(size.garment(), Garment::Trousers);
        assert!(size.untold().is_empty());
        let planned = plan(&body, &size, ease(), &PlanChanges::default(), Style::TENTHS).unwrap();
        assert!(planned.lines.iter().all(|line| line.alteration.is_none() && line.by_hand.is_some()));
        assert!(planned.recipe().steps.is_empty() && planned.predictions.is_empty());
        lines_seen += planned.lines.len();
        let after = compare(&body, &done(&figures, &planned.lines), ease(), Style::TENTHS);
        for row in after.rows {
            // Where the hip lies on the paper is no line of its own: the crotch depth carries it.
            if row.figure == F::WaistToHip {
                continue;
            }
            let (off, grade) = (row.on_body.as_ref().unwrap().mm, row.grade);
            // Amounts under 3 are dropped: on four edges that leaves a girth under 12.
            let is_girth = matches!(row.figure, F::Waist | F::Hip) || off.abs() > row.tolerance;
            assert!(
                grade == DifferenceGrade::Fits || (is_girth && off.abs() < 12.0),
                "{row:?} {:?}",
                planned.lines
            );
        }
    }
    assert!(lines_seen > 600, "{lines_seen}");
}

#[test]
fn a_wide_leg_is_style_and_a_wished_one_is_exact() {
    let chance = &mut Chance::new(5);
    let body = body(chance).with("knee_girth", 360.0).with("ankle_girth", 230.0);
    let figures: PatternMeasures = [
        (F::Waist, 700.0),
        (F::Hip, 1000.0),
        (F::CrotchDepth, 295.0),
        (F::LegAtKnee, 520.0),
        (F::LegHem, 300.0),
    ]
    .into_iter()
    .collect();
    let row =
        |body: &Body, figure| compare(body, &figures, ease(), Style::TENTHS).row(figure).unwrap().clone();
    let knee = row(&body, F::LegAtKnee);
    assert_eq!((knee.grade, knee.on_body.unwrap().mm), (DifferenceGrade::Fits, 410.0 - 520.0));
    // 230 and 80, for the foot, are more than the hem has.
    assert_eq!(row(&body, F::LegHem).grade, DifferenceGrade::Fits, "10 short is within a girth's tolerance");
    assert_eq!(row(&body.clone().with("ankle_girth", 240.0), F::LegHem).grade, DifferenceGrade::Alter);
    let wished = row(&body.with(WISHED[0], 440.0), F::LegAtKnee);
    assert_eq!((wished.measurement.as_str(), wished.grade), (WISHED[0], DifferenceGrade::Alter));
    assert_eq!((wished.ease.mm, wished.on_body.unwrap().mm), (0.0, -80.0));
    let untold = BlockSize::card("12", Body::default(), figures).untold();
    assert_eq!(untold, [F::WaistToHip, F::CrotchLength, F::InsideLeg, F::LegAtCrotch]);
}

/// Written in eighths of an inch, target less block less what the crotch depth brings is the amount that is written.
#[test]
fn the_crotch_seam_adds_up_as_it_is_shown() {
    let mm = |shown: &Shown| Length::read_signed(&shown.text, Unit::Inch).unwrap();
    let mut chance = Chance::new(77);
    let mut seen = 0;
    for _ in 0..300 {
        let (body, figures) = (body(&mut chance), card(&mut chance));
        let size = BlockSize::card("12", Body::default(), figures);
        let planned = plan(&body, &size, ease(), &PlanChanges::default(), Style::EIGHTHS).unwrap();
        let line = |key: &str| planned.lines.iter().find(|line| line.key == key);
        let Some(seam) = line("crotch_length") else { continue };
        let deeper = line("crotch_depth").map_or(0.0, |line| 2.0 * mm(&line.amount));
        let compared = compare(&body, &size.figures(), ease(), Style::EIGHTHS);
        let row = compared.row(F::CrotchLength).unwrap();
        let off = mm(row.target.as_ref().unwrap()) - mm(&row.block);
        assert!((off - deeper - mm(&seam.amount)).abs() < 1e-6, "{seam:?} {row:?} {deeper}");
        assert!(
            line("crotch_depth").is_none() || seam.reason.contains("before and behind"),
            "{}",
            seam.reason
        );
        seen += 1;
    }
    assert!(seen > 100, "{seen}");
}

#[test]
fn a_crotch_depth_left_out_or_set_by_hand_is_taken_as_it_stands() {
    let mut chance = Chance::new(3);
    let body = body(&mut chance).with("crotch_depth", 300.0).with("crotch_length", 760.0);
    let figures: PatternMeasures =
        [(F::Waist, 700.0), (F::Hip, 1000.0), (F::CrotchDepth, 290.0), (F::CrotchLength, 700.0)]
            .into_iter()
            .collect();
    let size = BlockSize::card("12", Body::default(), figures);
    let seam = |changes: &PlanChanges| {
        let planned = plan(&body, &size, ease(), changes, Style::TENTHS).unwrap();
        planned.lines.iter().find(|line| line.key == "crotch_length").map(|line| line.amount.mm)
    };
    // 300 and 15 are 25 more than 290: 50 of the 90 that the seam is short.
    assert_eq!(seam(&PlanChanges::default()), Some(40.0));
    let off = PlanChanges { off: vec!["crotch_depth".into()], ..PlanChanges::default() };
    assert_eq!(seam(&off), Some(90.0));
    let set = PlanChanges { amounts: [("crotch_depth".to_owned(), 40.0)].into(), ..PlanChanges::default() };
    assert_eq!(seam(&set), Some(10.0).filter(|mm| *mm > 10.0), "10 left is within the tolerance");
    let by_hand =
        PlanChanges { amounts: [("crotch_length".to_owned(), 33.0)].into(), ..PlanChanges::default() };
    assert_eq!(seam(&by_hand), Some(33.0));
    let turned =
        PlanChanges { order: vec!["crotch_length".into(), "crotch_depth".into()], ..PlanChanges::default() };
    let told = plan(&body, &size, ease(), &turned, Style::TENTHS).unwrap_err().to_string();
    assert!(told.contains("crotch seam") || told.contains("Crotch seam"), "{told}");
}

/// Her upper bust read as the printed bust (handbook: `compare.md`, section 2, school 3).
#[test]
fn a_bought_pattern_is_chosen_by_its_printed_bust_and_its_ease_read_off() {
    let size = |label: &str, printed: f64| {
        let figures = [(F::Bust, printed + 76.0), (F::Waist, printed - 130.0), (F::ShoulderFront, 122.0)];
        BlockSize::card(label, Body::default().with("bust_girth", printed), figures.into_iter().collect())
    };
    let sizes = [size("10", 826.0), size("12", 864.0), size("14", 914.0)];
    let ease = ease_set("standard", Unit::Cm).unwrap();
    let choose = |bust: f64, upper: f64, sizes: &[BlockSize]| {
        let body = Body::default().with("bust_girth", bust).with("upper_bust_girth", upper);
        choose_size(&body, sizes, ease, CUP_OVER, Style::TENTHS).unwrap()
    };
    let found = choose(920.0, 850.0, &sizes);
    let printed = found.choices.iter().find(|choice| choice.school == SizeSchool::Printed).unwrap();
    assert_eq!(printed.size, "12");
    assert!(printed.why.contains("85.0 cm") && printed.why.contains("86.4 cm"), "{}", printed.why);
    assert!(printed.why.contains("7.6 cm of ease"), "{}", printed.why);
    assert_eq!(found.choices.len(), 3);
    let totals: Vec<f64> = found.choices.iter().map(|choice| choice.total.mm).collect();
    assert!(totals.is_sorted(), "the smaller correction leads: {totals:?}");
    // Between two sizes the smaller, for the frame.
    let between = choose(920.0, 845.0, &sizes);
    let printed = |found: &yardwand_core::compare::SizeChoices| {
        { found.choices.iter() }
            .find(|choice| choice.school == SizeSchool::Printed)
            .map(|choice| choice.size.clone())
    };
    assert_eq!(printed(&between).as_deref(), Some("10"));
    // A card that does not say what it is printed for has no such school.
    let plain = sizes.map(|size| BlockSize::card(&size.label, Body::default(), size.figures()));
    assert_eq!(printed(&choose(920.0, 850.0, &plain)), None);
    assert_eq!(plain[0].printed_ease(), None);
}

#[test]
fn a_card_holds_what_its_garment_has_and_needs_some_of_it() {
    for garment in Garment::ALL {
        let all: Vec<F> = card_figures(garment).collect();
        assert!(card_needs(garment).iter().all(|figure| all.contains(figure)), "{garment:?}");
        let least = card_needs(garment).iter().map(|figure| (*figure, 500.0)).collect();
        assert_eq!(BlockSize::card("12", Body::default(), least).garment(), garment);
    }
    let has = |garment, figure| card_figures(garment).any(|each| each == figure);
    assert!(
        has(Garment::Trousers, F::LegHem)
            && !has(Garment::Bodice, F::LegHem)
            && !has(Garment::Skirt, F::Bust)
    );
    for figure in F::ALL {
        assert!(Garment::ALL.into_iter().any(|garment| has(garment, figure)), "{figure:?} fits on no card");
    }
}
