//! The "before you cut" list: every rule can fail, and the fault is shown where it is.

use crate::common::worked_body;
use kurbo::{Affine, Point, Vec2};
use yardwand_core::Style;
use yardwand_core::draft::{Dress, Method, MethodKind, draft};
use yardwand_core::geometry::Curve;
use yardwand_core::pattern::{
    Check, CheckCode, DartPlace, Edge, LabelFacts, Notch, Pattern, Piece, Seam, check_labels, check_pattern,
    walk,
};

const STYLE: Style = Style::EIGHTHS;

fn sleeved(kind: MethodKind) -> Pattern {
    let body = worked_body()
        .with("upper_arm_girth", 290.0)
        .with("arm_length", 584.0)
        .with("hand_girth", 205.0)
        .with("hip_girth", 1000.0)
        .with("waist_to_hip", 205.0);
    let method = Method { kind, with_sleeve: true, dress: Dress::default(), ..Method::default() };
    draft(&body, &method, STYLE).unwrap_or_else(|error| panic!("{error}")).pattern
}

fn check(pattern: &Pattern, code: CheckCode) -> Check {
    check_pattern(pattern, STYLE).into_iter().find(|check| check.code == code).unwrap()
}

fn edge(piece: &mut Piece, seam: Seam) -> &mut Edge {
    piece.edges.iter_mut().find(|edge| edge.seam == seam).unwrap()
}

/// A block with every rule green, spoilt in one place; the one rule fails, and says where.
fn spoilt(code: CheckCode, kind: MethodKind, spoil: impl Fn(&mut Pattern)) {
    let mut pattern = sleeved(kind);
    let sound = check(&pattern, code);
    assert!(sound.passed && sound.faults.is_empty(), "{sound:#?}");
    spoil(&mut pattern);
    let failed = check(&pattern, code);
    assert!(!failed.passed, "{code:?} cannot fail: {failed:?}");
    assert!(!failed.faults.is_empty() && failed.faults.iter().all(|fault| !fault.says.is_empty()));
}

#[test]
fn every_rule_is_green_on_a_sound_block_of_every_kind() {
    for kind in MethodKind::ALL {
        let pattern = sleeved(kind);
        for check in check_pattern(&pattern, STYLE) {
            assert!(check.passed, "{kind:?}: {check:#?}");
            assert_eq!(check.rule, check.code.rule());
        }
    }
    let rules: std::collections::BTreeSet<u8> =
        check_pattern(&sleeved(MethodKind::Dress), STYLE).iter().map(|check| check.rule).collect();
    assert_eq!(rules.into_iter().collect::<Vec<_>>(), [1, 2, 3, 4, 5, 6, 8, 9]);
}

#[test]
fn rule_1_seams_that_join() {
    spoilt(CheckCode::SideSeams, MethodKind::Direct, |pattern| {
        let side = edge(&mut pattern.pieces[1], Seam::Side);
        let (from, to) = (side.curve.start(), side.curve.end());
        side.curve = Curve::line(from, to + Vec2::new(0.0, 3.0));
    });
    spoilt(CheckCode::Shoulders, MethodKind::Direct, |pattern| {
        let shoulder = edge(&mut pattern.pieces[0], Seam::Shoulder);
        shoulder.curve = Curve::line(shoulder.curve.start(), shoulder.curve.end() + Vec2::new(4.0, 0.0));
    });
    spoilt(CheckCode::CapEase, MethodKind::Direct, |pattern| {
        let cap = edge(&mut pattern.pieces[2], Seam::Cap);
        cap.curve = cap.curve.transformed(Affine::scale(1.2));
    });
    spoilt(CheckCode::SleeveSeam, MethodKind::Direct, |pattern| {
        let under = edge(&mut pattern.pieces[2], Seam::UnderSleeve);
        under.curve = under.curve.transformed(Affine::scale(1.05));
    });
}

#[test]
fn rule_2_right_angles() {
    spoilt(CheckCode::CentreSquare, MethodKind::Direct, |pattern| {
        let neckline = edge(&mut pattern.pieces[0], Seam::Neckline);
        neckline.curve = Curve::line(neckline.curve.start(), neckline.curve.end());
    });
    spoilt(CheckCode::ShoulderCorners, MethodKind::Direct, |pattern| {
        let armhole = edge(&mut pattern.pieces[0], Seam::Armhole);
        armhole.curve = Curve::line(armhole.curve.start(), armhole.curve.end());
    });
    spoilt(CheckCode::UnderarmCorners, MethodKind::Direct, |pattern| {
        let armhole = edge(&mut pattern.pieces[1], Seam::Armhole);
        armhole.curve = Curve::line(armhole.curve.start(), armhole.curve.end());
    });
    spoilt(CheckCode::HemCorners, MethodKind::Dress, |pattern| {
        let hem = edge(&mut pattern.pieces[0], Seam::Hem);
        hem.curve = Curve::line(hem.curve.start(), hem.curve.end() + Vec2::new(0.0, 40.0));
    });
}

#[test]
fn rule_3_darts() {
    spoilt(CheckCode::Darts, MethodKind::Direct, |pattern| {
        let piece = &mut pattern.pieces[0];
        let leg = piece.edges.iter_mut().find(|edge| edge.dart == Some(DartPlace::Waist)).unwrap();
        leg.curve = Curve::line(leg.curve.start() + Vec2::new(0.0, 2.0), leg.curve.end());
    });
    spoilt(CheckCode::Darts, MethodKind::Direct, |pattern| {
        let dart = &mut pattern.pieces[0].darts[0];
        dart.point = dart.pivot;
    });
    spoilt(CheckCode::Darts, MethodKind::Dress, |pattern| {
        pattern.pieces[0].two_pointed[0].first.x -= 80.0;
    });
}

#[test]
fn rule_4_a_clean_outline() {
    spoilt(CheckCode::Outline, MethodKind::Direct, |pattern| {
        let armhole = edge(&mut pattern.pieces[0], Seam::Armhole);
        let (from, to) = (armhole.curve.start(), armhole.curve.end());
        let out = Point::new(to.x + 60.0, from.y);
        armhole.curve = Curve::polyline(&[from, out, to]).unwrap();
    });
    // Crossed: the neckline runs down over the bust line and back.
    spoilt(CheckCode::Outline, MethodKind::Direct, |pattern| {
        let neckline = edge(&mut pattern.pieces[0], Seam::Neckline);
        let (from, to) = (neckline.curve.start(), neckline.curve.end());
        neckline.curve =
            Curve::cubic(from, from + Vec2::new(900.0, 300.0), to + Vec2::new(900.0, -200.0), to);
    });
    // Out of order: the shoulder is taken up again below.
    spoilt(CheckCode::Outline, MethodKind::Direct, |pattern| {
        let last = pattern.pieces[0].edges.last_mut().unwrap();
        last.seam = Seam::Shoulder;
    });
}

#[test]
fn rule_5_notches() {
    spoilt(CheckCode::Notches, MethodKind::Direct, |pattern| {
        let notch = pattern.pieces[0].notches.iter_mut().find(|notch| notch.seam == Seam::Side).unwrap();
        notch.from_underarm += 2.0;
    });
    spoilt(CheckCode::Notches, MethodKind::Direct, |pattern| {
        pattern.pieces[1].notches.retain(|notch| notch.seam != Seam::Armhole);
    });
    spoilt(CheckCode::Notches, MethodKind::Direct, |pattern| {
        let lost = Notch { seam: Seam::Neckline, from_underarm: 900.0, double: false };
        pattern.pieces[1].notches.push(lost);
    });
}

#[test]
fn rule_6_side_seams_balance() {
    spoilt(CheckCode::SideBalance, MethodKind::Direct, |pattern| {
        let side = edge(&mut pattern.pieces[1], Seam::Side);
        let (from, length) = (side.curve.start(), side.curve.length());
        side.curve = Curve::line(from, from + Vec2::new(0.4, 0.9).normalize() * length);
    });
}

#[test]
fn rule_7_labels() {
    let pattern = sleeved(MethodKind::Direct);
    let facts = LabelFacts {
        client: "Greta Sundqvist",
        block: "House bodice, size 12",
        version: "2",
        round: "before the first fitting",
        date: "23 November 2026",
    };
    assert!(check_labels(&pattern, &facts).passed);
    let undated = check_labels(&pattern, &LabelFacts { date: " ", ..facts });
    assert!(!undated.passed && undated.says.contains("date not known"), "{}", undated.says);
    let mut adrift = pattern.clone();
    adrift.pieces[0].grain = (Point::new(-200.0, 0.0), Point::new(-200.0, 100.0));
    assert!(!check_labels(&adrift, &facts).passed);
}

#[test]
fn seams_are_walked_with_their_notches_from_the_underarm() {
    let walks = walk(&sleeved(MethodKind::Direct));
    let names: Vec<&str> = walks.iter().map(|walked| walked.name).collect();
    assert_eq!(
        names,
        ["side seam", "shoulder", "front of the cap", "back of the cap", "sleeve seam, back on front"]
    );
    for walked in &walks {
        assert!(walked.joins(1.0), "{walked:?}");
        assert_eq!(walked.single, 0, "{walked:?}");
        for pair in &walked.notches {
            assert!(pair.apart() < 1e-6, "{walked:?}");
        }
    }
    let cap: f64 = walks[2..4].iter().map(|walked| walked.difference()).sum();
    assert!((cap - 28.0).abs() < 0.01, "the cap is eased by {cap}");
}

/// A dress is measured to its waist where a bodice is, and to the hip besides: the worked body's own figures.
#[test]
fn a_dress_measures_what_the_body_measured() {
    use yardwand_core::pattern::{PatternMeasure, measure};
    let method = Method { kind: MethodKind::Dress, ..Method::default() };
    let body = worked_body().with("hip_girth", 1000.0).with("waist_to_hip", 205.0);
    let figures = measure(&draft(&body, &method, STYLE).unwrap().pattern);
    let ease = method.direct.ease;
    for (figure, code, more) in [
        (PatternMeasure::Bust, "bust_girth", ease.bust),
        (PatternMeasure::Waist, "waist_girth", ease.waist),
        (PatternMeasure::Hip, "hip_girth", ease.hip),
        (PatternMeasure::CentreBack, "nape_to_waist_back", 0.0),
        (PatternMeasure::BackLength, "snp_to_waist_back", 0.0),
        (PatternMeasure::FrontLength, "snp_to_waist_front", 0.0),
        (PatternMeasure::SideFront, "side_length", 0.0),
        (PatternMeasure::SideBack, "side_length", 0.0),
        (PatternMeasure::ShoulderFront, "shoulder_length", 0.0),
        (PatternMeasure::AcrossBack, "across_back", ease.across_back),
        (PatternMeasure::ArmholeDepth, "armhole_depth", 25.0),
    ] {
        let (got, wanted) = (figures.get(figure).unwrap(), body.get(code).unwrap() + more);
        assert!((got - wanted).abs() < 0.6, "{}: {got} for {wanted}", figure.name());
    }
}
