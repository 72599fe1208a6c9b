//! Side balance, held against the closed forms of the handbook (`blocks.md`, rule 6; `alterations.md`, section 4).

use crate::common::{Chance, bodies, worked_body};
use kurbo::{Affine, Vec2};
use yardwand_core::Style;
use yardwand_core::alter::{Amounts, Recipe, make};
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::geometry::{Curve, turn_degrees};
use yardwand_core::pattern::{Check, CheckCode, DartPlace, LevelName, Pattern, Piece, Seam, check_pattern};

const STYLE: Style = Style::EIGHTHS;

fn drafted(body: &yardwand_core::body::Body, kind: MethodKind) -> Option<Pattern> {
    draft(body, &Method { kind, ..Method::default() }, STYLE).ok().map(|draft| draft.pattern)
}

fn balance(pattern: &Pattern) -> Check {
    check_pattern(pattern, STYLE).into_iter().find(|check| check.code == CheckCode::SideBalance).unwrap()
}

fn side_dart(front: &Piece) -> f64 {
    let dart = front.dart(DartPlace::Side).zip(front.mouth(DartPlace::Side));
    dart.map_or(0.0, |(dart, (a, b))| turn_degrees(a - dart.pivot, b - dart.pivot).abs())
}

/// Direct: front 125·tan(τ − ψ), back 125·tan ψb, with τ read off the pattern and ψ, ψb computed from the readings.
#[test]
fn a_direct_draft_hangs_as_the_closed_form_says() {
    let mut seen = 0;
    for body in bodies(120, 22) {
        let Some(pattern) = drafted(&body, MethodKind::Direct) else { continue };
        let get = |code| body.get(code).unwrap();
        let rise = 0.25 * get("snp_to_bust_point");
        let flare = ((get("bust_girth") - get("upper_bust_girth")) / 4.0 / rise).atan();
        let back_flare = flare.clamp(0.0, 8.0_f64.to_radians());
        let tau = side_dart(pattern.front().unwrap()).to_radians();
        let hang = pattern.side_hang.unwrap();
        // The seam must reach as high as it is looked at on both pieces, below its dart.
        if get("side_length") < 150.0 || get("snp_to_waist_front") - get("snp_to_bust_point") < 130.0 {
            continue;
        }
        assert!((hang.front - 125.0 * (tau - flare).tan()).abs() < 0.3, "{} {tau} {flare}", hang.front);
        assert!((hang.back - 125.0 * back_flare.tan()).abs() < 0.3, "{} {back_flare}", hang.back);
        seen += 1;
    }
    assert!(seen > 40, "{seen}");
}

fn swung(pattern: &mut Pattern, piece: usize, degrees: f64) {
    let side = pattern.pieces[piece].edges.iter_mut().rev().find(|edge| edge.seam == Seam::Side).unwrap();
    let about = side.curve.end();
    side.curve = side.curve.transformed(Affine::rotate_about(degrees.to_radians(), about));
}

/// A seam swung about its waist end is found from 3 mm on; both let out alike hang as before.
#[test]
fn one_seam_that_swings_is_found_and_two_that_swing_alike_are_not() {
    // A bust point high enough that a hand above the waist lies below the side dart.
    let body = worked_body().with("snp_to_bust_point", 240.0);
    let fresh = drafted(&body, MethodKind::Direct).unwrap();
    assert!(balance(&fresh).passed, "{:?}", balance(&fresh));
    for (degrees, passes) in [(0.5, true), (1.2, true), (1.6, false), (14.0, false), (-14.0, false)] {
        let mut one = fresh.clone();
        swung(&mut one, 1, degrees);
        assert_eq!(balance(&one).passed, passes, "the back by {degrees}: {:?}", balance(&one));
    }
    let mut both = fresh.clone();
    swung(&mut both, 0, 1.5);
    swung(&mut both, 1, 1.5);
    assert!(balance(&both).passed, "{:?}", balance(&both));
    let mut straight = fresh;
    let side = straight.pieces[1].edges.iter_mut().find(|edge| edge.seam == Seam::Side).unwrap();
    let from = side.curve.start();
    side.curve = Curve::line(from, from + Vec2::new(0.4, 0.9).normalize() * side.curve.length());
    let failed = balance(&straight);
    assert!(!failed.passed && failed.faults[0].says.contains("more than it was drafted to"), "{failed:?}");
}

/// Side seams let out or taken in front and back alike hang as before, and keep to the bust line: down to it each seam
/// moves by the bust's amount along that line, from there it goes over into the waist's without a kink.
#[test]
fn side_seams_altered_alike_hang_as_before_and_keep_to_the_bust_line() {
    let mut chance = Chance::new(41);
    let (mut seen, mut sampled) = (0, 0);
    for body in bodies(60, 41) {
        for kind in [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional] {
            let Some(fresh) = drafted(&body, kind) else { continue };
            if !balance(&fresh).passed {
                continue;
            }
            let (bust, waist) = (chance.between(-12.0, 15.0), chance.between(-18.0, 20.0));
            // Next to nothing at the bust is nothing.
            let bust = if bust.abs() < 0.1 { 0.0 } else { bust };
            let recipe = Recipe::default().and(
                "side_seams",
                Amounts::of(bust).with("waist", waist),
                "taken in by pins",
            );
            let made = make(&fresh, &recipe, STYLE);
            assert!(made.is_whole(), "{kind:?}, {bust:.1} and {waist:.1}");
            let check = balance(&made.pattern);
            assert!(check.passed, "{kind:?}, {bust:.1} and {waist:.1}: {check:?}");
            seen += 1;
            let (was, is) = (fresh.back().unwrap(), made.pattern.back().unwrap());
            let ends = |piece: &Piece| *piece.level(LevelName::Bust).unwrap().points.last().unwrap();
            let (was_end, is_end) = (ends(was), ends(is));
            // The bust line's end lies on the seam as it did, and along the seam above it every point has moved alike.
            let [was, is] = [was, is].map(|piece| &piece.edges[piece.first_edge(Seam::Side).unwrap()].curve);
            let off = |seam: &Curve, end| seam.point_at(seam.nearest(end)).distance(end);
            let (off_before, off) = (off(was, was_end), off(is, is_end));
            assert!((off - off_before).abs() < 0.01, "{kind:?} {bust} {waist}: {off} from {off_before}");
            // The underarm itself is squared anew over its first 40.
            let along = was.nearest(was_end);
            let by = is_end - was_end;
            assert!((by.hypot() - bust.abs()).abs() < 0.01, "{kind:?}: {by:?} for {bust}");
            for s in (0..=20).map(|i| along * f64::from(i) / 20.0).filter(|s| *s > 41.0) {
                let moved = was.point_at(s) + by;
                let off = is.point_at(is.nearest(moved)).distance(moved);
                assert!(off < 0.02, "{kind:?} {bust} {waist}: {off} off at {s}");
                sampled += 1;
            }
            // No kink that was not there.
            let kink = |of: &Curve| of.corners().iter().map(|(_, turn)| turn.abs()).fold(0.0, f64::max);
            assert!(kink(is) < kink(was) + 0.1, "{kind:?} {bust} {waist}: {} {}", kink(is), kink(was));
        }
    }
    assert!(seen > 100 && sampled > 500, "{seen} {sampled}");
}

/// Where a dart is moved to changes nothing that hangs: turned into the shoulder the front has waist and shoulder darts
/// and hangs as before; turned into the waist it swings the seam, and that is the dart's own reason.
#[test]
fn darts_moved_leave_the_balance() {
    for body in bodies(30, 5) {
        let Some(pattern) = drafted(&body, MethodKind::Direct) else { continue };
        for to in ["shoulder", "waist", "armhole"] {
            let recipe =
                Recipe::default().and("move_dart", Amounts::of(1.0).by("from", "side").by("to", to), "");
            let made = make(&pattern, &recipe, STYLE);
            if made.is_whole() {
                let check = balance(&made.pattern);
                assert!(check.passed, "{to}: {check:?}");
            }
        }
    }
}
