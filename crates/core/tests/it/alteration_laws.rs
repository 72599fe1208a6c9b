//! What must hold of every alteration, over random bodies and random amounts (handbook: `alterations.md`):
//! what stays, stays exactly as it is taped and within the stated cost when trued; what grows, grows by the
//! stated amount; the pieces stay sewable; nothing asked for is nothing done; limits are refused and named.

use crate::common::{Chance, bodies};
use yardwand_core::Style;
use yardwand_core::alter::{
    AlterError, Alteration, Amounts, Args, MeasuredOn, alteration, apply, registry, suits,
};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    Check, CheckCode, KINK_LIMIT, Pattern, PatternMeasures, Piece, Seam, SlashError, WornSide, check_pattern,
    measure,
};

const STYLE: Style = Style::EIGHTHS;
/// As it is taped: what stays, stays within this, in millimetres.
const EXACT: f64 = 0.01;
/// What may be lost of a line that is turned by so little that it is drawn between nothing and the least amount that is
/// drawn by itself: its ends go straight, not round. In millimetres.
const BETWEEN: f64 = 0.15;
/// What grows, grows by the stated amount within this, in millimetres.
const GROWN: f64 = 0.05;
/// Doing and undoing leaves every point within this, in millimetres: a waist that is drawn smooth twice lies up to 0.13 off.
const UNDONE: f64 = 0.15;

/// Front, back and sleeve by the direct method, a side dart besides the waist dart.
fn blocks(count: usize, seed: u64) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { with_sleeve: true, direct, ..Method::default() };
    drafted(&method, count, seed)
}

fn drafted(method: &Method, count: usize, seed: u64) -> Vec<Pattern> {
    let drafted: Vec<Pattern> = bodies(count, seed)
        .iter()
        .filter_map(|body| Some(draft(body, method, STYLE).ok()?.pattern))
        .collect();
    assert!(drafted.len() * 10 >= count * 9, "{} of {count} bodies draft", drafted.len());
    drafted
}

/// One way of doing an alteration: its code, the amounts, and how far the amount goes at random.
struct Try {
    code: &'static str,
    amounts: Amounts,
    range: (f64, f64),
    /// Rules that this alteration may leave to another step, each with its reason.
    leaves: &'static [(CheckCode, &'static str)],
}

/// A try that leaves every rule as it was.
fn of(code: &'static str, range: (f64, f64), amounts: Amounts) -> Try {
    Try { code, amounts, range, leaves: &[] }
}

fn tries() -> Vec<Try> {
    let plain = |code, range| of(code, range, Amounts::default());
    let leaving = |code, range, amounts, leaves| Try { code, amounts, range, leaves };
    let by = |param: &str, way: &str| Amounts::default().by(param, way);
    const WIDE_DART: (CheckCode, &str) =
        (CheckCode::Darts, "a waist dart above the limit is split by a step of its own");
    const FLARE: (CheckCode, &str) = (CheckCode::SideBalance, "one side seam leans more: the check says so");
    const CAP: (CheckCode, &str) = (CheckCode::CapEase, "the cap is offered, not taken along");
    const CUP: (CheckCode, &str) =
        (CheckCode::SideBalance, "a small bust takes flare out of the front's side");
    vec![
        leaving("full_bust", (-4.0, 45.0), Amounts::default(), &[WIDE_DART, CUP]),
        leaving("full_bust", (-4.0, 18.0), by("below_waist", "at_hip"), &[WIDE_DART, FLARE]),
        leaving(
            "full_bust",
            (2.0, 18.0),
            Amounts::default().with("bust_point_out", 104.0).with("bust_point_down", 285.0),
            &[WIDE_DART, FLARE],
        ),
        leaving("full_bust", (2.0, 30.0), by("to", "waist"), &[WIDE_DART, FLARE]),
        leaving("full_bust", (2.0, 30.0), by("to", "split"), &[WIDE_DART, FLARE]),
        leaving("full_bust", (2.0, 30.0), by("to", "gathers"), &[WIDE_DART, FLARE]),
        leaving("move_dart", (0.2, 1.0), Amounts::default(), &[WIDE_DART, FLARE]),
        leaving("move_dart", (0.2, 1.0), by("to", "shoulder"), &[FLARE]),
        leaving("move_dart", (0.2, 1.0), by("to", "armhole"), &[FLARE]),
        leaving("move_dart", (1.0, 1.0), by("to", "french"), &[FLARE]),
        leaving("move_dart", (0.2, 1.0), by("to", "neckline"), &[FLARE]),
        leaving("move_dart", (1.0, 1.0), by("to", "centre"), &[FLARE]),
        leaving("move_dart", (0.2, 1.0), by("from", "waist").by("to", "side"), &[FLARE]),
        plain("split_dart", (0.3, 0.6)),
        of("split_dart", (0.4, 0.6), by("piece", "back").with("apart", 14.0)),
        plain("gather_dart", (1.0, 1.0)),
        plain("gather_dart", (0.2, 0.8)),
        of("dart_point", (-15.0, 15.0), Amounts::default().with("out", 6.0)),
        plain("shoulder_length", (-16.0, 16.0)),
        leaving("narrow_shoulder", (-12.0, 16.0), Amounts::default(), &[FLARE]),
        plain("narrow_shoulder_slash", (-10.0, 14.0)),
        plain("shoulder_slope", (-12.0, 14.0)),
        of("shoulder_slope", (-10.0, 10.0), by("underarm", "stays")),
        plain("forward_shoulder", (-10.0, 14.0)),
        plain("rounded_back", (-10.0, 22.0)),
        of("rounded_back", (-8.0, 20.0), Amounts::default().with("level", 55.0)),
        of("rounded_back", (-8.0, 20.0), Amounts::default().with("level", 75.0)),
        of("rounded_back", (2.0, 18.0), by("finish", "neck_dart").with("level", 65.0)),
        of("rounded_back", (2.0, 22.0), by("finish", "neck_dart")),
        of("rounded_back", (-3.0, 6.0), by("finish", "shoulder_dart")),
        plain("sway_back", (-10.0, 20.0)),
        plain("seat_length", (-15.0, 20.0)),
        plain("belly_length", (-12.0, 20.0)),
        plain("neck_forward", (-8.0, 12.0)),
        leaving("side_seam_place", (-12.0, 12.0), Amounts::default(), &[FLARE]),
        plain("hip_curve", (-8.0, 8.0)),
        leaving("gaping_armhole", (2.0, 18.0), Amounts::default(), &[FLARE]),
        leaving("gaping_armhole", (2.0, 18.0), by("into", "waist"), &[FLARE, WIDE_DART]),
        leaving("gaping_neckline", (2.0, 14.0), Amounts::default(), &[FLARE]),
        leaving("princess_line", (0.0, 24.0), Amounts::default(), &[FLARE]),
        leaving("princess_line", (0.0, 20.0), by("from", "shoulder").with("place", 0.65), &[FLARE]),
        leaving("princess_line", (0.0, 10.0), by("piece", "back"), &[FLARE]),
        leaving("princess_line", (0.0, 8.0), by("piece", "back").by("from", "shoulder"), &[FLARE]),
        leaving("front_balance", (-6.0, 25.0), Amounts::default(), &[WIDE_DART]),
        leaving("length", (-20.0, 40.0), Amounts::default(), &[FLARE]),
        leaving("length", (-15.0, 25.0), by("at", "armhole"), &[CAP]),
        of("length", (-30.0, 60.0), by("pieces", "sleeve")),
        leaving("back_width", (-5.0, 14.0), Amounts::default(), &[FLARE]),
        plain("front_width", (-8.0, 8.0)),
        plain("side_seams", (-12.0, 14.0)),
        of("side_seams", (-6.0, 6.0), Amounts::default().with("waist", 10.0)),
        plain("underarm", (-12.0, 20.0)),
        plain("neck", (-4.0, 30.0)),
        of("neck", (0.0, 20.0), Amounts::default().with("width", 12.0).with("behind", 6.0)),
        plain("cap_height", (-20.0, 15.0)),
        plain("biceps_width", (-12.0, 30.0)),
        leaving("half_cap", (-12.0, 12.0), Amounts::default(), &[CAP]),
        plain("sleeve_turn", (-15.0, 15.0)),
        plain("sleeve_width", (-20.0, 40.0)),
        of("true_up", (10.0, 30.0), by("what", "waist")),
        of("sleeve_width", (-10.0, 20.0), Amounts::default().with("elbow", 10.0)),
        plain("hem_length", (20.0, 1100.0)),
        of("hem_length", (240.0, 1100.0), Amounts::default().with("out", 30.0).with("knee", 380.0)),
        of("hem_length", (240.0, 700.0), Amounts::default().with("out", -18.0)),
        plain("neckline", (100.0, 180.0)),
        of("neckline", (120.0, 170.0), by("shape", "v").with("width", 170.0).with("behind", 140.0)),
        of(
            "neckline",
            (130.0, 170.0),
            by("shape", "square").by("shape_behind", "square").with("width", 180.0).with("behind", 120.0),
        ),
        leaving(
            "neckline",
            (140.0, 170.0),
            by("shape", "sweetheart").with("width", 180.0).with("gape", 5.0),
            &[FLARE],
        ),
        plain("sleeve_shape", (260.0, 560.0)),
        of("sleeve_shape", (260.0, 560.0), Amounts::default().with("opening", 300.0).by("lies", "gathered")),
        of(
            "hem_length",
            (240.0, 1100.0),
            Amounts::default().with("left_side", 12.0).with("right_side", -12.0),
        ),
        of("hem_length", (240.0, 1100.0), Amounts::default().with("out", 30.0).with("left_side", -9.0)),
        plain("hem_length", (-60.0, -5.0)),
        plain("high_hip", (-20.0, 40.0)),
        plain("skirt_rise", (-25.0, 30.0)),
        plain("skirt_dart", (-30.0, 30.0)),
        of("skirt_dart", (-30.0, 30.0), by("piece", "back")),
        plain("skirt_belly", (-15.0, 50.0)),
        plain("skirt_seat", (-30.0, 50.0)),
        plain("skirt_length", (-250.0, 600.0)),
        of("skirt_length", (-200.0, 500.0), Amounts::default().with("out", 30.0)),
        of("skirt_length", (0.0, 500.0), Amounts::default().with("out", -18.0)),
        leaving("under_bust_seam", (50.0, 80.0), Amounts::default(), &[FLARE]),
        leaving("under_bust_seam", (50.0, 80.0), by("fullness", "dart").with("clear", 12.0), &[FLARE]),
        leaving("under_bust_seam", (50.0, 80.0), Amounts::default().with("spread", 60.0), &[FLARE]),
        // A side dart that stays wants a low seam under it.
        leaving("under_bust_seam", (80.0, 100.0), by("side_dart", "left").with("clear", 15.0), &[FLARE]),
        plain("facings", (35.0, 60.0)),
        of("facings", (35.0, 55.0), by("edge", "armholes")),
        of("strapless_edge", (105.0, 125.0), Amounts::default().with("below", 5.0)),
        of(
            "strapless_edge",
            (105.0, 125.0),
            by("shape", "sweetheart").with("below", -10.0).with("gap", 50.0),
        ),
        leaving("cut_in_one", (560.0, 680.0), Amounts::default(), &[WIDE_DART]),
        leaving("cut_in_one", (560.0, 640.0), by("falls", "little"), &[WIDE_DART]),
        of("facings", (70.0, 90.0), by("edge", "in_one")),
        plain("collar_stand", (20.0, 60.0)),
        of("collar_stand", (20.0, 60.0), Amounts::default().with("rises", 0.0)),
        plain("waistband", (20.0, 80.0)),
        of("waistband", (20.0, 80.0), by("opens", "side").with("laps", 0.0)),
        of("joined_skirt", (420.0, 1000.0), Amounts::default().with("hip", 1250.0).with("to_hip", 210.0)),
        of(
            "joined_skirt",
            (420.0, 1000.0),
            by("taken_in", "gathers").with("hip", 1350.0).with("to_hip", 210.0).with("out", 40.0),
        ),
        plain("pleat", (20.0, 60.0)),
        of("pleat", (20.0, 60.0), by("piece", "back")),
        plain("curve_dart", (-4.0, 6.0)),
        of("curve_dart", (-4.0, 6.0), by("piece", "back")),
        plain("elbow_dart", (3.0, 3.1)),
        plain("cuffs", (20.0, 90.0)),
        plain("bias_strips", (20.0, 50.0)),
        of("bias_strips", (20.0, 50.0), by("edge", "armholes")),
        of("off_shoulder_band", (40.0, 120.0), Amounts::default().with("round", 1500.0)),
    ]
}

fn named(each: &Try, mm: f64) -> String {
    format!("{} {mm:.2} {:?}", each.code, each.amounts.0)
}

#[test]
fn every_alteration_is_tried() {
    let tried = tries();
    for known in registry() {
        assert!(tried.iter().any(|each| each.code == known.code()), "{} is not tried", known.code());
    }
}

#[test]
fn every_alteration_is_pictured() {
    let docs = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs");
    let page = std::fs::read_to_string(docs.join("alterations.md")).unwrap();
    for known in registry() {
        let heading = format!("### {}\n\n{}", known.name(), known.why());
        let of_it = page.split_once(&heading).map(|(_, rest)| rest.split("\n### ").next().unwrap_or(rest));
        let of_it =
            of_it.unwrap_or_else(|| panic!("{} is not on the page: run `cargo xtask shots`", known.code()));
        let pictures: Vec<&str> =
            of_it.split("](").skip(1).filter_map(|rest| Some(rest.split_once(')')?.0)).collect();
        assert!(!pictures.is_empty(), "{} has no picture", known.code());
        assert!(pictures.iter().all(|picture| docs.join(picture).exists()), "{pictures:?}");
    }
}

#[test]
fn what_stays_stays_and_what_grows_grows() {
    report(faults_on(&blocks(60, 41), 0.6));
}

/// The dress block and the proportional block take what is built for them, by the same laws.
#[test]
fn what_stays_stays_on_the_other_blocks_too() {
    for kind in [MethodKind::Dress, MethodKind::Proportional, MethodKind::Skirt] {
        let method = Method { kind, with_sleeve: true, ..Method::default() };
        report(faults_on(&drafted(&method, 30, 17), 0.0));
    }
}

/// A bodice that was cut off above the bust takes what is left to it, by the same laws.
#[test]
fn what_stays_stays_where_there_are_no_shoulders() {
    let edge = alteration("strapless_edge").unwrap();
    let cut_off = |block: Pattern| Some(apply(edge, &block, &Amounts::of(115.0), None, STYLE).ok()?.pattern);
    let strapless: Vec<Pattern> = blocks(40, 43).into_iter().filter_map(cut_off).collect();
    assert!(strapless.len() > 20, "{}", strapless.len());
    report(faults_on(&strapless, 0.0));
    let at_the_edge = Amounts::default().by("edge", "upper_edge");
    let finishes = [
        of("bias_strips", (20.0, 50.0), at_the_edge.clone()),
        of("facings", (40.0, 60.0), at_the_edge),
        of("off_shoulder_band", (40.0, 120.0), Amounts::default().with("round", 1700.0)),
    ];
    report(faults_of(&finishes, &strapless, 0.9));
}

/// A close sleeve follows the forearm: it has more behind, and a dart at the elbow takes that in.
#[test]
fn what_stays_stays_where_the_sleeve_is_close() {
    let shape = alteration("sleeve_shape").unwrap();
    let wish = Amounts::of(560.0).with("opening", 205.0).by("opens", "slit");
    let close = |block: Pattern| Some(apply(shape, &block, &wish, None, STYLE).ok()?.pattern);
    let close: Vec<Pattern> = blocks(30, 47).into_iter().filter_map(close).collect();
    assert!(close.len() > 20, "{}", close.len());
    let tries = [
        of("elbow_dart", (3.0, 6.0), Amounts::default()),
        of("elbow_dart", (3.0, 5.0), Amounts::default().with("long", 60.0)),
    ];
    report(faults_of(&tries, &close, 0.8));
}

/// What every try gets wrong on these blocks; each must be done on a share of them at least.
fn faults_on(blocks: &[Pattern], least: f64) -> Vec<String> {
    faults_of(&tries(), blocks, least)
}

fn faults_of(tries: &[Try], blocks: &[Pattern], least: f64) -> Vec<String> {
    let mut chance = Chance::new(7);
    let mut faults: Vec<String> = Vec::new();
    for each in tries {
        let known = alteration(each.code).unwrap();
        let mut done = 0;
        for block in blocks {
            let share = (chance.even() + 1.0) / 2.0;
            let mm = each.range.0 + (each.range.1 - each.range.0) * share;
            let amounts = each.amounts.clone().with("amount", mm);
            match apply(known, block, &amounts, None, STYLE) {
                Ok(altered) => {
                    done += 1;
                    let args = Args::new(known.params(), &amounts);
                    let told = named(each, mm);
                    kept(known, &args, block, &altered.taped, &altered.pattern, &told, &mut faults);
                    sewable(block, &altered.pattern, each, &told, &mut faults);
                }
                Err(AlterError::Beyond { most, .. }) => {
                    let limit_mm = most.mm;
                    let beyond = mm.abs() >= limit_mm.abs();
                    if !beyond {
                        faults.push(format!("{}: refused within its limit {limit_mm:.2}", named(each, mm)));
                    }
                }
                // Each of these is a sentence with a way out.
                Err(AlterError::NotHere(_) | AlterError::Slash(SlashError::ThroughDart(_))) => {}
                Err(other) => faults.push(format!("{}: {other}", named(each, mm))),
            }
        }
        let meant_for = blocks.iter().filter(|block| suits(known, block)).count();
        if f64::from(done) < meant_for as f64 * least {
            faults.push(format!("{}: done on {done} of {} blocks only", named(each, 0.0), blocks.len()));
        }
    }
    faults
}

/// At most three faults an alteration, so that one that is wrong does not hide the others.
fn report(faults: Vec<String>) {
    let code = |fault: &str| fault.split(' ').next().unwrap_or_default().to_owned();
    let mut shown: Vec<&String> = Vec::new();
    for fault in &faults {
        if shown.iter().filter(|each| code(each) == code(fault)).count() < 3 {
            shown.push(fault);
        }
    }
    let lines: Vec<&str> = shown.into_iter().map(String::as_str).collect();
    assert!(faults.is_empty(), "{} faults, among them:\n{}", faults.len(), lines.join("\n"));
}

fn kept(
    known: &dyn Alteration,
    args: &Args<'_>,
    block: &Pattern,
    taped: &Pattern,
    trued: &Pattern,
    told: &str,
    faults: &mut Vec<String>,
) {
    let [before, taped, after]: [PatternMeasures; 3] = [measure(block), measure(taped), measure(trued)];
    let exact = if args.amount().abs() < known.drawn_from() { BETWEEN } else { EXACT };
    for (figure, cost) in known.keeps(args).iter() {
        let Some(was) = before.get(figure) else { continue };
        for (figures, limit, when) in [(&taped, exact, "taped"), (&after, cost + exact, "trued")] {
            let off = figures.get(figure).map_or(f64::NAN, |now| now - was);
            if off.abs() > limit || off.is_nan() {
                faults.push(format!("{told}: {} {when} is off by {off:.4}", figure.name()));
            }
        }
    }
    for (figure, by) in known.grows(args) {
        let Some(was) = before.get(figure) else { continue };
        let grown = after.get(figure).map_or(f64::NAN, |now| now - was);
        if (grown - by).abs() > GROWN || grown.is_nan() {
            faults.push(format!("{told}: {} grew by {grown:.4} instead of {by:.4}", figure.name()));
        }
    }
}

/// Closed and simple, no kink in a smooth seam, and every rule that held still holds.
fn sewable(before: &Pattern, after: &Pattern, each: &Try, told: &str, faults: &mut Vec<String>) {
    for piece in &after.pieces {
        if !piece.is_closed() {
            faults.push(format!("{told}: {} is open", piece.kind.name()));
        }
        for edge in piece.edges.iter().filter(|edge| edge.seam != Seam::Side) {
            let sharpest = edge.curve.corners().iter().map(|corner| corner.1.abs()).fold(0.0, f64::max);
            if sharpest > KINK_LIMIT {
                faults.push(format!(
                    "{told}: {} {} has a kink of {sharpest:.1}",
                    piece.kind.name(),
                    edge.seam.name()
                ));
            }
        }
    }
    let is_left = |check: &Check| each.leaves.iter().any(|(code, _)| *code == check.code);
    let failing =
        { check_pattern(after, STYLE).into_iter() }.filter(|check| !check.passed && !is_left(check));
    let failing: Vec<Check> = failing.collect();
    if failing.is_empty() {
        return;
    }
    // What the block fails already is not the alteration's.
    let held: Vec<Check> = check_pattern(before, STYLE).into_iter().filter(|check| check.passed).collect();
    for check in failing.into_iter().filter(|check| held.iter().any(|before| before.code == check.code)) {
        faults.push(format!("{told}: {}: {}", check.name, check.says));
    }
}

#[test]
fn nothing_asked_for_is_nothing_done() {
    let of = |kind| Method { kind, with_sleeve: true, ..Method::default() };
    let others = [MethodKind::Dress, MethodKind::Skirt].into_iter().flat_map(|kind| drafted(&of(kind), 2, 3));
    for block in blocks(6, 3).into_iter().chain(others) {
        for each in tries() {
            let known = alteration(each.code).unwrap();
            // A princess line without tightening still divides the front: see its own test.
            if known.code() == "princess_line" || !suits(known, &block) {
                continue;
            }
            let params = known.params();
            let nothing = params
                .iter()
                .filter(|param| param.default == Some(0.0))
                .fold(each.amounts.clone().with("amount", 0.0), |amounts, param| {
                    amounts.with(param.code, 0.0)
                });
            // What is no more or less but a place of its own asks for something.
            let asks =
                |code: &String| code == "back_off" || ["neckline", "sleeve_shape"].contains(&known.code());
            let nothing = Amounts(nothing.0.into_iter().filter(|(code, _)| !asks(code)).collect());
            let same = apply(known, &block, &nothing, None, STYLE).unwrap();
            assert_eq!(same.pattern, block, "{}", named(&each, 0.0));
            assert!(same.stages().is_empty(), "{}", each.code);
            let dragged = !matches!(params[0].on, MeasuredOn::Share | MeasuredOn::Place)
                && known.asks(&block, params[0].code);
            assert_eq!(same.handle.is_some(), dragged, "{}: what has an amount can be dragged", each.code);
        }
    }
}

#[test]
fn done_and_undone_is_as_it_was() {
    let mut chance = Chance::new(19);
    let mut faults = Vec::new();
    let skirt = Method { kind: MethodKind::Skirt, ..Method::default() };
    for block in blocks(20, 11).into_iter().chain(drafted(&skirt, 20, 11)) {
        for each in tries() {
            let known = alteration(each.code).unwrap();
            if !known.is_reversible() {
                continue;
            }
            let most = each.range.0.abs().min(each.range.1.abs());
            let mm = most * chance.even();
            let turned = |amounts: &Amounts, sign: f64| {
                let params = known.params();
                params.iter().fold(Amounts(amounts.0.clone()), |amounts, param| {
                    match (param.on, number(&amounts, param.code)) {
                        (MeasuredOn::Choice, _) | (_, None) => amounts,
                        (_, Some(value)) => amounts.with(param.code, value * sign),
                    }
                })
            };
            let amounts = each.amounts.clone().with("amount", mm);
            let Ok(there) = apply(known, &block, &amounts, None, STYLE) else { continue };
            let Ok(back) = apply(known, &there.pattern, &turned(&amounts, -1.0), None, STYLE) else {
                continue;
            };
            let off = furthest(&block, &back.pattern);
            if off > UNDONE {
                faults.push(format!("{}: off by {off:.3} after doing and undoing", named(&each, mm)));
            }
        }
    }
    report(faults);
}

fn number(amounts: &Amounts, code: &str) -> Option<f64> {
    match amounts.0.get(code) {
        Some(yardwand_core::alter::Setting::Number(value)) => Some(*value),
        _ => None,
    }
}

/// The furthest any point of an edge of the one lies from the same edge of the other.
fn furthest(one: &Pattern, other: &Pattern) -> f64 {
    let off = |a: &Piece, b: &Piece| {
        a.edges
            .iter()
            .zip(&b.edges)
            .flat_map(|(x, y)| {
                let length = x.curve.length();
                (0..=8).map(move |i| {
                    let at = x.curve.point_at(length * f64::from(i) / 8.0);
                    y.curve.point_at(y.curve.nearest(at)).distance(at)
                })
            })
            .fold(0.0, f64::max)
    };
    one.pieces.iter().zip(&other.pieces).map(|(a, b)| off(a, b)).fold(0.0, f64::max)
}

#[test]
fn at_and_beyond_the_limit_is_refused_with_the_limit() {
    let block = &blocks(1, 5)[0];
    for known in registry() {
        let amount = known.params()[0];
        for (beyond, limit) in [(amount.low - 0.01, amount.low), (amount.high + 0.01, amount.high)] {
            let refused = apply(*known, block, &Amounts::of(beyond), None, STYLE).unwrap_err();
            let written = match amount.on {
                MeasuredOn::Share => format!("{limit}"),
                // A hundredth beyond would be written like the limit itself: both are written exactly.
                _ => STYLE.exact(limit),
            };
            assert!(refused.to_string().contains(&written), "{}: {refused}", known.code());
        }
    }
    // Where the pattern itself sets the limit: just inside is done, just outside is refused and says so.
    let mut limits = 0;
    for each in tries() {
        let known = alteration(each.code).unwrap();
        let amount = known.params()[0];
        for extreme in [amount.low, amount.high] {
            let asked = |mm: f64| apply(known, block, &each.amounts.clone().with("amount", mm), None, STYLE);
            let Err(refused) = asked(extreme) else { continue };
            let Some(limit) = refused.limit().map(|most| most.mm) else { continue };
            limits += 1;
            let step = 0.02_f64.copysign(extreme);
            assert!(
                asked(limit - step).is_ok(),
                "{} at {limit}: {:?}",
                named(&each, extreme),
                asked(limit - step).err()
            );
            let beyond = asked(limit + step).expect_err(each.code);
            assert!(beyond.limit().is_some_and(|again| (again.mm - limit).abs() < 0.1), "{beyond}");
            assert!(refused.to_string().contains("more than the"), "{refused}");
        }
    }
    assert!(limits >= 6, "{limits} limits that the pattern sets were met");
}

#[test]
fn one_side_makes_a_left_and_a_right_piece() {
    for block in blocks(4, 23) {
        for each in tries().into_iter().filter(|each| each.code != "princess_line") {
            let known = alteration(each.code).unwrap();
            let mm = if each.range.1 > 1.0 { each.range.1 / 3.0 } else { each.range.1 };
            let amounts = each.amounts.clone().with("amount", mm);
            let Ok(both) = apply(known, &block, &amounts, None, STYLE) else { continue };
            let left = apply(known, &block, &amounts, Some(WornSide::Left), STYLE).unwrap();
            if known.goes_all_round() {
                assert_eq!(left.pattern, both.pattern, "{}", named(&each, mm));
                continue;
            }
            assert!(left.pattern.is_sided(), "{}", named(&each, mm));
            let bare = |pattern: Pattern| -> Vec<Vec<yardwand_core::pattern::Edge>> {
                pattern.pieces.into_iter().map(|piece| piece.edges).collect()
            };
            assert_eq!(
                bare(left.pattern.worn_on(WornSide::Left)),
                bare(both.pattern),
                "{}",
                named(&each, mm)
            );
            assert_eq!(
                bare(left.pattern.worn_on(WornSide::Right)),
                bare(block.clone()),
                "{}",
                named(&each, mm)
            );
            assert!(left.follow_ups.iter().any(|follow| follow.says.contains("must still match")));
        }
    }
}
