//! What is asked of a draft is what is sewn: girths, balance, sleeve, shoulder; and what the pattern keeps when it is
//! altered. Bodies are random ones and the handbook's worked one.

use crate::common::{bodies, worked_body};
use kurbo::Vec2;
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, alteration, apply, make};
use yardwand_core::body::{Body, FINGER, LatestReading, Profile, Side, Taken};
use yardwand_core::compare::{BlockSize, CUP_OVER, PlanChanges, choose_size, compare, plan};
use yardwand_core::draft::{Draft, Method, MethodKind, draft};
use yardwand_core::ease::ease_set;
use yardwand_core::geometry::{Curve, turn_degrees};
use yardwand_core::pattern::{
    Check, CheckCode, DartPlace, Pattern, PatternMeasure, Seam, check_pattern, measure, walk,
};
use yardwand_core::{Length, Unit};

const STYLE: Style = Style::EIGHTHS;

fn with_arm(body: &Body) -> Body {
    body.clone().with("upper_arm_girth", 290.0).with("arm_length", 584.0).with("hand_girth", 205.0)
}

fn below_too(body: &Body) -> Body {
    body.clone().with("hip_girth", 990.0).with("waist_to_hip", 206.0)
}

fn drafted(body: &Body, method: &Method) -> Option<Draft> {
    draft(body, method, STYLE).ok()
}

fn failed(pattern: &Pattern) -> Vec<Check> {
    check_pattern(pattern, STYLE).into_iter().filter(|check| !check.passed).collect()
}

fn verdict(pattern: &Pattern, code: CheckCode) -> Check {
    check_pattern(pattern, STYLE).into_iter().find(|check| check.code == code).unwrap()
}

/// Truing gives back what it adds: bust, waist and hip of 300 bodies by every method, sewn, against readings and ease.
#[test]
fn the_sewn_girths_of_a_draft_are_body_and_ease() {
    let mut seen = 0;
    for body in bodies(300, 35) {
        for kind in MethodKind::ALL {
            let method = Method { kind, ..Method::default() };
            let Some(draft) = drafted(&body, &method) else { continue };
            let sewn = measure(&draft.pattern);
            let ease = match kind {
                MethodKind::Proportional => method.proportional.waist_ease,
                MethodKind::Skirt => method.skirt.waist_ease,
                _ => method.direct.ease.waist,
            };
            let asked = body.get("waist_girth").unwrap() + ease;
            let off = sewn.get(PatternMeasure::Waist).unwrap() - asked;
            assert!(off.abs() < 0.1, "{kind:?}: the waist is {off:.2} off {asked:.1}");
            if matches!(kind, MethodKind::Direct | MethodKind::Dress) {
                let off = sewn.get(PatternMeasure::Bust).unwrap() - body.get("bust_girth").unwrap() - 50.0;
                assert!(off.abs() < 0.1, "{kind:?}: the bust is {off:.2} off");
            }
            assert!(verdict(&draft.pattern, CheckCode::Girths).passed);
            seen += 1;
        }
    }
    assert!(seen > 700, "{seen}");
}

#[test]
fn a_girth_that_nobody_asked_for_is_found() {
    let mut pattern = drafted(&worked_body(), &Method::default()).unwrap().pattern;
    let hem = pattern.pieces[1].edges.iter_mut().find(|edge| edge.seam == Seam::Waist).unwrap();
    // A waist drawn 4 mm longer on the half back is 8 all round.
    let (from, to) = (hem.curve.start(), hem.curve.end());
    hem.curve = Curve::cubic(from, from + Vec2::new(0.0, 26.0), to + Vec2::new(0.0, 26.0), to);
    let mut off = pattern.girths_off.unwrap();
    off.waist += measure(&pattern).get(PatternMeasure::Waist).unwrap() - (736.6 + 25.0);
    pattern.girths_off = Some(off);
    let found = verdict(&pattern, CheckCode::Girths);
    assert!(
        !found.passed && found.faults[0].says.contains("wider all round than block and recipe ask"),
        "{found:?}"
    );
}

#[test]
fn the_girths_stay_what_was_asked_through_a_recipe() {
    for body in bodies(25, 8) {
        let Some(draft) = drafted(&body, &Method::default()) else { continue };
        let recipe = Recipe::default()
            .and("full_bust", Amounts::of(12.0), "")
            .and("shoulder_length", Amounts::of(-6.0), "")
            .and("back_width", Amounts::of(4.0), "")
            .and("side_seams", Amounts::of(3.0).with("waist", 5.0), "");
        let made = make(&draft.pattern, &recipe, STYLE);
        if !made.is_whole() {
            continue;
        }
        let grown = measure(&made.pattern).get(PatternMeasure::Bust).unwrap()
            - measure(&draft.pattern).get(PatternMeasure::Bust).unwrap();
        assert!(verdict(&made.pattern, CheckCode::Girths).passed, "{:?} {grown}", made.pattern.girths_off);
    }
}

/// The two drafts that balance by themselves (handbook: `blocks.md`, rule 6).
#[test]
fn a_balanced_draft_leans_alike_in_front_and_behind() {
    for kind in [MethodKind::Direct, MethodKind::Dress] {
        let (mut off, mut plain) = (Vec::new(), Vec::new());
        for body in bodies(200, 22) {
            let mut method = Method { kind, ..Method::default() };
            let lean = |draft: &Draft| {
                let hang = draft.pattern.side_hang.unwrap();
                (hang.front - hang.back).abs()
            };
            let Some(as_usual) = drafted(&body, &method) else { continue };
            (method.direct.balanced, method.dress.balanced) = (true, true);
            let Some(balanced) = drafted(&body, &method) else { continue };
            assert!(failed(&balanced.pattern).is_empty(), "{kind:?}: {:?}", failed(&balanced.pattern));
            off.push(lean(&balanced));
            plain.push(lean(&as_usual));
        }
        let sorted = |mut all: Vec<f64>| {
            all.sort_by(f64::total_cmp);
            all
        };
        let (off, plain) = (sorted(off), sorted(plain));
        let at = |all: &[f64], share: f64| all[(all.len() as f64 * share) as usize];
        assert!(
            at(&off, 0.5) < 0.8 && at(&plain, 0.5) > 1.0,
            "{kind:?}: {} beside {}",
            at(&off, 0.5),
            at(&plain, 0.5)
        );
        assert!(at(&off, 0.85) < 3.0, "{kind:?}: {}", at(&off, 0.85));
    }
}

/// One woman's bodice and dress have one front armhole level and, in it, one underarm.
#[test]
fn bodice_and_dress_of_one_woman_agree_on_the_front_armhole() {
    for body in bodies(40, 4) {
        let of = |kind, by_bust| {
            let mut method = Method { kind, ..Method::default() };
            method.dress.armhole_by_bust = by_bust;
            drafted(&body, &method).map(|draft| draft.pattern.front().unwrap().underarm())
        };
        let (Some(bodice), Some(dress), Some(level)) =
            (of(MethodKind::Direct, true), of(MethodKind::Dress, true), of(MethodKind::Dress, false))
        else {
            continue;
        };
        assert!(
            (bodice.y - dress.y).abs() < 15.0 && (bodice.x - dress.x).abs() < 15.0,
            "{bodice:?} {dress:?}"
        );
        let armpit = body.get("armhole_depth").unwrap() + body.get("snp_to_waist_back").unwrap()
            - body.get("nape_to_waist_back").unwrap()
            + 25.0;
        assert!((level.y - armpit).abs() < 15.0, "{level:?}, {armpit}");
    }
}

/// Below the bust line the side of a dress is smooth, and a kink there is a fault.
#[test]
fn the_side_of_a_dress_is_smooth_down_to_the_hip() {
    for body in bodies(120, 33) {
        let Some(draft) = drafted(&body, &Method { kind: MethodKind::Dress, ..Method::default() }) else {
            continue;
        };
        for piece in &draft.pattern.pieces {
            let bust = piece.levels.iter().find(|level| level.name.name() == "bust line").unwrap();
            let bust = bust.points.last().unwrap().y;
            for edge in piece.edges_of(Seam::Side) {
                for (along, turn) in edge.curve.corners() {
                    let below = edge.curve.point_at(along).y > bust + 40.0;
                    assert!(!below || turn.abs() < 1.0, "{} is angled by {turn:.1}", piece.kind.name());
                }
            }
        }
    }
    let dress = Method { kind: MethodKind::Dress, ..Method::default() };
    let mut kinked = drafted(&below_too(&worked_body()), &dress).unwrap().pattern;
    let side = kinked.pieces[0].edges.iter_mut().rfind(|edge| edge.seam == Seam::Side).unwrap();
    let (start, end) = (side.curve.start(), side.curve.end());
    let middle = start.midpoint(end) - Vec2::new(40.0, 0.0);
    side.curve = Curve::line(start, middle).then(Curve::line(middle, end));
    let found = verdict(&kinked, CheckCode::Outline);
    assert!(!found.passed && found.says.contains("side seam has a corner of"), "{found:?}");
}

#[test]
fn a_tight_hook_in_a_smooth_seam_is_a_fault() {
    let mut pattern = drafted(&worked_body(), &Method::default()).unwrap().pattern;
    assert!(verdict(&pattern, CheckCode::Outline).passed);
    let armhole = pattern.pieces[0].edges.iter_mut().find(|edge| edge.seam == Seam::Armhole).unwrap();
    let middle = armhole.curve.length() / 2.0;
    armhole.curve = yardwand_core::geometry::reshape_at(
        &armhole.curve.between(0.0, armhole.curve.length()),
        middle,
        Vec2::new(-1.0, 0.0),
    );
    assert!(verdict(&pattern, CheckCode::Outline).passed, "a millimetre is no hook");
    let armhole = pattern.pieces[0].edges.iter_mut().find(|edge| edge.seam == Seam::Armhole).unwrap();
    let (head, tail) =
        (armhole.curve.between(0.0, middle), armhole.curve.between(middle + 9.0, armhole.curve.length()));
    let (from, to) = (head.end(), tail.start());
    let out = Vec2::new(14.0, 0.0);
    let hook = Curve::cubic(
        from,
        from + head.end_direction() * 3.0 + out,
        to - tail.start_direction() * 3.0 + out,
        to,
    );
    armhole.curve = head.then(hook).then(tail);
    let found = verdict(&pattern, CheckCode::Outline);
    assert!(!found.passed, "{found:?}");
}

#[test]
fn a_sleeve_has_the_ease_of_its_set_and_goes_over_elbow_hand_and_wrist() {
    let body = with_arm(&worked_body());
    let width = |set: &str| {
        let method = Method { with_sleeve: true, ..Method::default() }
            .with_ease(ease_set(set, Unit::Cm).unwrap(), &body);
        let draft = drafted(&body, &method).unwrap();
        measure(&draft.pattern).get(PatternMeasure::CapWidth).unwrap()
    };
    assert!((width("standard") - 340.0).abs() < 0.1 && (width("easy") - 350.0).abs() < 0.1);
    let method = Method { with_sleeve: true, ..Method::default() };
    let at_elbow = |body: &Body| {
        let pattern = drafted(body, &method).unwrap().pattern;
        assert!(failed(&pattern).is_empty(), "{:?}", failed(&pattern));
        let sleeve = pattern.sleeve().unwrap().clone();
        let level =
            sleeve.levels.iter().find(|level| level.name.name() == "elbow line").unwrap().points.clone();
        level[1].x - level[0].x
    };
    let stout = body.clone().with("elbow_girth", 300.0);
    assert!(at_elbow(&body) < 345.0);
    assert!((at_elbow(&stout) - 350.0).abs() < 1.0, "{}", at_elbow(&stout));
    let hem = |method: &Method, body: &Body| {
        measure(&drafted(body, method).unwrap().pattern).get(PatternMeasure::SleeveHem).unwrap()
    };
    assert!((hem(&method, &body) - 235.0).abs() < 0.01, "the closed hand and 30");
    let mut slit = method;
    slit.sleeve.hem_opens = true;
    assert!((hem(&slit, &body.clone().with("wrist_girth", 160.0)) - 190.0).abs() < 0.01, "the wrist and 30");
    let wish = body.clone().with("sleeve_opening_girth", 260.0);
    assert!((hem(&method, &wish) - 260.0).abs() < 0.01);
    let tight = body.clone().with("sleeve_opening_girth", 190.0);
    let draft = drafted(&tight, &method).unwrap();
    assert!(
        draft.notes.iter().any(|note| note.says.contains("does not go over her hand")),
        "{:?}",
        draft.notes
    );
    assert!((hem(&method, &tight) - 215.0).abs() < 0.01, "ten more than the hand that goes through it");
}

#[test]
fn a_half_of_the_cap_made_shorter_keeps_the_biceps_and_says_when_it_cannot() {
    let pattern = drafted(&with_arm(&worked_body()), &Method { with_sleeve: true, ..Method::default() })
        .unwrap()
        .pattern;
    let width = |pattern: &Pattern| measure(pattern).get(PatternMeasure::CapWidth).unwrap();
    for half in ["front", "back"] {
        let shorter = |mm: f64| {
            let made = make(
                &pattern,
                &Recipe::default().and("half_cap", Amounts::of(mm).by("half", half), ""),
                STYLE,
            );
            assert!(made.is_whole());
            made
        };
        let little = shorter(-3.0);
        assert!((width(&little.pattern) - width(&pattern)).abs() < 1e-6, "{half}");
        let change = measure(&little.pattern).get(PatternMeasure::CapLength).unwrap()
            - measure(&pattern).get(PatternMeasure::CapLength).unwrap();
        assert!((change + 3.0).abs() < 0.01, "{half}: {change}");
        let much = shorter(-22.0);
        assert!(
            width(&much.pattern) < width(&pattern) - 5.0,
            "{half}: flatter than a straight line it cannot be"
        );
        let words = |made: &yardwand_core::alter::Made| {
            made.steps[0].outcome.as_ref().unwrap().as_ref().unwrap().stages()[0].words.clone()
        };
        assert!(
            words(&little).contains("both stay") && words(&much).contains("move the"),
            "{} {}",
            words(&little),
            words(&much)
        );
    }
}

/// A shoulder five eighths longer or shorter leaves a cap that nobody touched within what a cap takes.
#[test]
fn a_longer_shoulder_fails_no_cap() {
    for body in bodies(60, 23) {
        let Some(draft) = drafted(&body, &Method { with_sleeve: true, ..Method::default() }) else {
            continue;
        };
        for mm in [15.875, -15.875] {
            let made =
                make(&draft.pattern, &Recipe::default().and("shoulder_length", Amounts::of(mm), ""), STYLE);
            if made.is_whole() {
                assert!(verdict(&made.pattern, CheckCode::CapEase).passed, "{:?}", failed(&made.pattern));
                assert_eq!(made.pattern.sleeve(), draft.pattern.sleeve());
            }
        }
    }
}

#[test]
fn narrowing_a_shoulder_keeps_each_armhole_within_a_millimetre() {
    for body in bodies(80, 3) {
        let Some(draft) = drafted(&body, &Method::default()) else { continue };
        let before = measure(&draft.pattern);
        for mm in [-12.0, 8.0, 16.0, 22.0] {
            let made =
                make(&draft.pattern, &Recipe::default().and("narrow_shoulder", Amounts::of(mm), ""), STYLE);
            if !made.is_whole() {
                continue;
            }
            let after = measure(&made.pattern);
            for figure in [PatternMeasure::ArmholeFront, PatternMeasure::ArmholeBack] {
                let by = after.get(figure).unwrap() - before.get(figure).unwrap();
                assert!(by.abs() <= 1.0, "{mm}: {} is {by:.2} off", figure.name());
            }
        }
    }
}

#[test]
fn panels_of_a_princess_line_walk_within_a_millimetre() {
    for body in bodies(80, 6) {
        let Some(draft) = drafted(&body, &Method::default()) else { continue };
        let recipe = Recipe::default().and("full_bust", Amounts::of(10.0), "").and(
            "princess_line",
            Amounts::of(12.0),
            "",
        );
        let made = make(&draft.pattern, &recipe, STYLE);
        for walked in walk(&made.pattern).iter().filter(|walked| walked.seam == Seam::Princess) {
            assert!(walked.difference().abs() <= 1.0, "{}", walked.difference());
        }
    }
}

/// A back waist dart above the usual one is drafted as two where the house wants that: the sewn waist stays, the second takes about half,
/// nothing that was right is wrong for it, and the note that asks for a second dart is gone.
#[test]
fn a_wide_back_waist_dart_is_drafted_as_two_where_the_house_wants_it() {
    let asks = |draft: &Draft| draft.notes.iter().any(|note| note.says.contains("lies flatter"));
    let mut seen = [0, 0];
    for body in bodies(200, 61) {
        let slim = body.get("waist_girth").unwrap() - 60.0;
        let body = below_too(&body).with("waist_girth", slim);
        for (place, kind) in [MethodKind::Direct, MethodKind::Dress].into_iter().enumerate() {
            let mut method = Method { kind, ..Method::default() };
            let Some(one) = drafted(&body, &method) else { continue };
            method.direct.second_back_dart = true;
            let two = drafted(&body, &method).unwrap();
            if !asks(&one) {
                assert_eq!(one.pattern.pieces, two.pattern.pieces, "{kind:?}: a usual dart stays one");
                continue;
            }
            if two.notes.iter().any(|note| note.says.contains("there is no room for a second one")) {
                continue;
            }
            seen[place] += 1;
            assert!(!asks(&two), "{:?}", two.notes);
            let waist = |draft: &Draft| measure(&draft.pattern).get(PatternMeasure::Waist).unwrap();
            assert!((waist(&one) - waist(&two)).abs() < 0.1, "{kind:?}: {} and {}", waist(&one), waist(&two));
            let back = two.pattern.back().unwrap();
            let mouths: Vec<f64> = if kind == MethodKind::Dress {
                back.two_pointed.iter().map(|dart| dart.intake()).collect()
            } else {
                let width = |place| back.mouth(place).map(|(a, b)| a.distance(b));
                [DartPlace::Waist, DartPlace::WaistSide].into_iter().filter_map(width).collect()
            };
            assert_eq!(mouths.len(), 2, "{kind:?}");
            assert!(
                (mouths[0] - mouths[1]).abs() < 8.0 && mouths.iter().all(|mouth| *mouth > 6.0),
                "{kind:?}: {mouths:?}"
            );
            let wrong =
                |draft: &Draft| failed(&draft.pattern).iter().map(|check| check.code).collect::<Vec<_>>();
            assert!(
                wrong(&two).iter().all(|code| wrong(&one).contains(code)),
                "{kind:?}: {:?}",
                failed(&two.pattern)
            );
            assert!(two.steps.iter().any(|step| step.title.contains("second one lies beside it")));
        }
    }
    assert!(seen.iter().all(|seen| *seen > 20), "{seen:?}");
}

/// Solved from the width, the slope is the one the width was made by; and a mark of the tape moves it by degrees.
#[test]
fn a_shoulder_without_a_slope_is_placed_by_its_width_where_the_house_wants_it() {
    let measured = worked_body();
    let tip = drafted(&measured, &Method::default()).unwrap().pattern.front().unwrap().tip();
    let body = measured.clone().without("shoulder_slope").with("shoulder_width", 2.0 * tip.x);
    let mut method = Method::default();
    method.direct.slope_by_width = true;
    let solved = drafted(&body, &method).unwrap();
    assert!(solved.pattern.front().unwrap().tip().distance(tip) < 1e-6);
    let note = solved.notes.iter().find(|note| note.estimated).unwrap();
    assert!(
        note.says.contains("solved from shoulder width and length")
            && note.says.contains("measure it before cutting"),
        "{}",
        note.says
    );
    assert_eq!(solved.pattern.estimated, ["shoulder_slope"], "it stands in the way of cutting");
    let usual = drafted(&body, &Method::default()).unwrap();
    assert!(usual.notes.iter().any(|note| note.says.contains("20 degrees")));
    // Where neck, shoulder and width make no triangle the usual slope stands.
    let wide = drafted(&body.clone().with("shoulder_width", 480.0), &method).unwrap();
    assert!(wide.notes.iter().any(|note| note.says.contains("20 degrees")));
}

#[test]
fn both_armholes_are_held_against_her_own() {
    let body = worked_body();
    let drawn =
        measure(&drafted(&body, &Method::default()).unwrap().pattern).get(PatternMeasure::Armhole).unwrap();
    let notes = |hers: f64| {
        let draft = drafted(&body.clone().with("armhole_girth", hers), &Method::default()).unwrap();
        draft.notes.iter().any(|note| note.measurement.as_deref() == Some("armhole_girth"))
    };
    assert!(!notes(drawn - 30.0) && notes(drawn + 5.0) && notes(drawn - 120.0));
}

fn reading(code: &str, mm: f64, matter: &str, school: &str) -> LatestReading {
    let mut taken = Taken::default();
    if !matter.is_empty() {
        taken.schools.insert(matter.into(), school.into());
    }
    LatestReading { code: code.into(), side: Side::Both, mm, taken, days_ago: 1, takes: 1, error_mm: None }
}

#[test]
fn readings_kept_under_their_nape_names_count_where_the_neck_side_ones_do() {
    let latest = [
        reading("neck_base_girth", 370.0, "", ""),
        reading("nape_to_bust_point", 345.0, "", ""),
        reading("nape_to_waist_front", 510.0, "", ""),
    ];
    let profile = Profile::of(&latest, FINGER);
    let body = profile.body();
    // The neck arc is a fifth of the neck and 3 mm.
    assert!((body.get("snp_to_bust_point").unwrap() - 268.0).abs() < 1e-9);
    assert!((body.get("snp_to_waist_front").unwrap() - 433.0).abs() < 1e-9);
    let figure = profile.get("snp_to_bust_point").unwrap();
    assert!(figure.converted.is_some() && figure.give_mm == 8.0, "{figure:?}");
    let own = [latest[0].clone(), latest[1].clone(), reading("snp_to_bust_point", 271.0, "", "")];
    assert_eq!(
        Profile::of(&own, FINGER).body().get("snp_to_bust_point"),
        Some(271.0),
        "her own reading counts first"
    );
}

#[test]
fn a_set_taken_at_the_navel_throughout_has_a_waist_line_of_its_own() {
    let navel = |code: &str, mm: f64| reading(code, mm, "waist", "navel");
    let mut latest =
        vec![navel("waist_girth", 820.0), navel("nape_to_waist_back", 430.0), navel("side_length", 215.0)];
    let profile = Profile::of(&latest, FINGER);
    assert_eq!(profile.body().get("waist_girth"), Some(820.0));
    assert!(!profile.get("waist_girth").unwrap().method.is_empty(), "it still says where it was taken");
    latest.push(reading("waist_to_hip", 180.0, "", ""));
    assert_eq!(
        Profile::of(&latest, FINGER).body().get("waist_girth"),
        None,
        "one reading from elsewhere: ask"
    );
}

#[test]
fn the_neck_is_compared_planned_and_counted_in_the_choice_of_a_size() {
    let body = worked_body();
    let block = BlockSize::drawn("own", body.clone(), drafted(&body, &Method::default()).unwrap().pattern);
    let ease = ease_set("standard", Unit::Cm).unwrap();
    let thicker = body.clone().with("neck_base_girth", body.get("neck_base_girth").unwrap() + 40.0);
    let row = compare(&thicker, &block.figures(), ease, STYLE).row(PatternMeasure::Neckline).unwrap().clone();
    let off = row.on_body.unwrap().mm;
    assert!(off > 20.0 && off < 40.0, "{off}");
    let plan = plan(&thicker, &block, ease, &PlanChanges::default(), STYLE).unwrap();
    let line = plan.lines.iter().find(|line| line.key == "neck").expect("a line for the neck");
    assert_eq!(line.alteration.as_deref(), Some("neck"));
    let predicted = plan.predictions.iter().find(|row| row.figure == PatternMeasure::Neckline).unwrap();
    assert!(predicted.fits, "{predicted:?}");
    // A neckline that is roomier is a matter of style.
    let thinner = body.clone().with("neck_base_girth", body.get("neck_base_girth").unwrap() - 20.0);
    let roomy = yardwand_core::compare::plan(&thinner, &block, ease, &PlanChanges::default(), STYLE).unwrap();
    assert!(roomy.lines.iter().all(|line| line.key != "neck"));

    let sizes = [block];
    let choices = choose_size(&body, &sizes, ease, CUP_OVER, STYLE).unwrap();
    assert!(choices.uncounted.is_empty(), "{:?}", choices.uncounted);
    let unmeasured = body.without("neck_base_girth").without("across_back");
    let choices = choose_size(&unmeasured, &sizes, ease, CUP_OVER, STYLE).unwrap();
    assert_eq!(choices.uncounted, ["Neck base girth", "Across back"]);
}

/// Folding the side dart shut shows the mouth as wide as its angle makes it: the dart is what the draft says.
#[test]
fn a_balanced_side_dart_takes_the_flare_of_both_seams() {
    let body = worked_body();
    let mut method = Method::default();
    method.direct.balanced = true;
    let front = drafted(&body, &method).unwrap().pattern.front().unwrap().clone();
    let (dart, (upper, lower)) =
        (front.dart(DartPlace::Side).unwrap(), front.mouth(DartPlace::Side).unwrap());
    let angle = turn_degrees(upper - dart.pivot, lower - dart.pivot).abs();
    let rise = 0.25 * body.get("snp_to_bust_point").unwrap();
    let flare =
        ((body.get("bust_girth").unwrap() - body.get("upper_bust_girth").unwrap()) / 4.0 / rise).atan();
    let wanted = (flare + flare.clamp(0.0, 8.0_f64.to_radians())).to_degrees();
    let keeps = front.mouth(DartPlace::Waist).map(|(a, b)| a.distance(b)).unwrap();
    assert!(
        (angle - wanted).abs() < 0.2 || (keeps - 64.0).abs() < 1.0 || (keeps - 12.0).abs() < 1.0,
        "{angle} for {wanted}, {keeps}"
    );
    assert!(Length::from_mm(keeps).mm() <= 64.5);
}

/// Waist darts of a dress may end at the hip line (handbook: `blocks.md`, section 2): it stays whole, and so does what is let down
/// from it.
#[test]
fn dress_darts_may_end_at_the_hip_line() {
    let method = Method { kind: MethodKind::Dress, ..Method::default() };
    let method = method.with("front_dart_above_hip", 0.0).unwrap().with("back_dart_above_hip", 0.0).unwrap();
    let mut seen = 0;
    for body in bodies(60, 52) {
        let Some(draft) = drafted(&body, &method) else { continue };
        seen += 1;
        assert_eq!(failed(&draft.pattern), [], "{body:?}");
        for piece in &draft.pattern.pieces {
            let hem = piece.edges.iter().find(|edge| edge.seam == Seam::Hem).unwrap().curve.end().y;
            assert!(
                piece.two_pointed.iter().all(|dart| (dart.lower.y - hem).abs() < 1e-6),
                "{}",
                piece.kind.name()
            );
        }
        let longer =
            apply(alteration("hem_length").unwrap(), &draft.pattern, &Amounts::of(350.0), None, STYLE);
        assert_eq!(failed(&longer.unwrap().pattern), []);
    }
    assert!(seen > 50, "{seen}");
}
