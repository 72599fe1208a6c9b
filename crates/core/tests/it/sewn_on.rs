//! Collar stand, waistband, cuffs, bias strips and the off-shoulder band on random bodies, and after everything that changes their edge (handbook:
//! `wishes.md`, sections 5 and 8).

use kurbo::Point;

use crate::common::{Chance, bodies};
use crate::outside::{corner, cutting_lines_stand_off, nothing_turned_red, part};
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress, wishing_body};
use yardwand_core::alter::{Altered, Amounts, Decided, FollowKind, Recipe, alteration, apply, make, suits};
use yardwand_core::body::Body;
use yardwand_core::draft::{Method, MethodKind, draft};
use yardwand_core::pattern::{
    Allowances, CheckCode, Covers, GarmentPart, LevelName, Pattern, Piece, Seam, WornSide, check_pattern,
    draw_pattern, walk,
};
use yardwand_core::{Style, Unit};

const STYLE: Style = Style::TENTHS;
const EXACT: f64 = 0.01;

fn drafted(body: &Body, kind: MethodKind) -> Option<Pattern> {
    Some(draft(body, &Method { kind, with_sleeve: true, ..Method::default() }, STYLE).ok()?.pattern)
}

fn skirt(body: &Body) -> Option<Pattern> {
    Some(draft(body, &Method { kind: MethodKind::Skirt, ..Method::default() }, STYLE).ok()?.pattern)
}

fn done(code: &str, block: &Pattern, amounts: &Amounts) -> Altered {
    apply(alteration(code).unwrap(), block, amounts, None, STYLE).unwrap()
}

fn refused(code: &str, block: &Pattern, amounts: &Amounts) -> String {
    apply(alteration(code).unwrap(), block, amounts, None, STYLE).unwrap_err().to_string()
}

fn sewn_on(pattern: &Pattern) -> Vec<&Piece> {
    pattern.pieces.iter().filter(|piece| piece.kind.is_sewn_on()).collect()
}

/// What an edge is sewn, read off its pieces: those that are worn on one side, doubled, or both sides where they differ.
fn all_round(pattern: &Pattern, seam: Seam) -> f64 {
    let of = |pattern: &Pattern| -> f64 {
        let bodies = pattern.pieces.iter().filter(|piece| !piece.kind.is_dependent());
        bodies.map(|piece| piece.sewn_length(seam)).sum()
    };
    if pattern.is_sided() {
        WornSide::BOTH.map(|side| of(&pattern.worn_on(side))).iter().sum()
    } else {
        2.0 * of(pattern)
    }
}

/// What must hold of everything that is sewn on: what was green stays green, the outline is clean, the ends are square, the
/// cutting line stands off, and it walks along its edge.
fn hold(before: &Pattern, made: &Pattern, told: &str) {
    outlines_are_simple(made);
    made.validate().unwrap();
    nothing_turned_red(before, made, told);
    assert!(check_pattern(made, STYLE).iter().any(|check| check.code == CheckCode::SewnOn), "{told}");
    let own = sewn_on(made);
    assert!(!own.is_empty());
    for piece in &own {
        let corners = (0..piece.edges.len()).map(|edge| corner(piece, edge));
        let square = corners.filter(|angle| (angle - 180.0).abs() > EXACT);
        assert!(
            square.into_iter().all(|angle| (angle - 90.0).abs() < EXACT),
            "{told}: {}",
            piece.kind.name()
        );
        for notch in &piece.notches {
            let (at, inward) = piece.notch_place(notch).unwrap();
            assert!(inward.y < 0.0, "{told}: notches point up from the lower edge: {at:?} {inward:?}");
        }
    }
    cutting_lines_stand_off(own.iter().copied(), told);
    let walked: Vec<_> = { walk(made).into_iter() }.filter(|walked| walked.one.is_sewn_on()).collect();
    assert_eq!(walked.len(), own.len(), "{told}");
    assert!(walked.iter().all(|walked| walked.joins(EXACT)), "{told}: {walked:?}");
}

#[test]
fn a_collar_stand_is_the_arc_the_handbook_has_on_every_neckline() {
    let mut chance = Chance::new(29);
    let mut tried = 0;
    for body in bodies(60, 211) {
        let blocks = [MethodKind::Direct, MethodKind::Dress, MethodKind::Proportional];
        for block in blocks.into_iter().filter_map(|kind| drafted(&body, kind)) {
            let (height, rise) = (chance.between(20.0, 60.0), chance.between(0.0, 30.0));
            let block = if chance.between(0.0, 1.0) < 0.5 {
                let deeper = Amounts::of(chance.between(0.0, 25.0)).with("width", chance.between(0.0, 15.0));
                done("neck", &block, &deeper).pattern
            } else {
                block
            };
            let told = format!("{height:.1} high, rises {rise:.1}");
            let made = done("collar_stand", &block, &Amounts::of(height).with("rises", rise)).pattern;
            hold(&block, &made, &told);
            let stand = part(&made, GarmentPart::CollarStand);
            let half = all_round(&block, Seam::Neckline) / 2.0;
            let lower = &stand.edges_of(Seam::Neckline).next().unwrap().curve;
            let upper = &stand.edges_of(Seam::BandEdge).next().unwrap().curve;
            assert!((lower.length() - half).abs() < EXACT, "{told}: {} for {half}", lower.length());
            assert!((lower.end().y - lower.start().y - rise).abs() < EXACT, "{told}");
            // The angle of the arc, found by halving: n / θ · (1 − cos θ) = k (handbook, `wishes.md` 8).
            let (mut low, mut high) = (1e-9, std::f64::consts::FRAC_PI_2);
            for _ in 0..80 {
                let middle = f64::midpoint(low, high);
                if half / middle * (1.0 - middle.cos()) < rise { low = middle } else { high = middle }
            }
            let above = half - height * low;
            assert!((upper.length() - above).abs() < EXACT, "{told}: {} for {above}", upper.length());
            // Both edges run beside each other, everywhere as far apart.
            let line = lower.flattened(0.001);
            for n in 0..=40 {
                let at = upper.point_at(upper.length() * f64::from(n) / 40.0);
                let off = line.windows(2).map(|pair| from_line(at, pair)).fold(f64::INFINITY, f64::min);
                assert!((off - height).abs() < EXACT, "{told}: {off}");
            }
            let behind = block.back_half().unwrap().sewn_length(Seam::Neckline);
            let shoulder = lower.reversed().nearest(stand.notch_place(&stand.notches[0]).unwrap().0);
            assert!((shoulder - behind).abs() < EXACT, "{told}: {shoulder} for {behind}");
            assert_eq!(stand.cut_instruction(), "cut 2 on fold");
            tried += 1;
        }
    }
    assert!(tried > 150, "{tried}");
}

/// How far a point lies from a stretch between two points: a reader of its own.
fn from_line(at: Point, pair: &[Point]) -> f64 {
    let along = pair[1] - pair[0];
    let share = ((at - pair[0]).dot(along) / along.hypot2()).clamp(0.0, 1.0);
    at.distance(pair[0] + along * share)
}

#[test]
fn a_waistband_is_as_long_as_the_waist_whatever_was_done_to_it() {
    let mut chance = Chance::new(31);
    let mut tried = 0;
    for body in bodies(60, 213) {
        let blocks = [
            drafted(&body, MethodKind::Direct),
            drafted(&body, MethodKind::Proportional),
            bodice(&body),
            skirt(&body),
        ];
        for block in blocks.into_iter().flatten() {
            let (height, laps) = (chance.between(20.0, 80.0), chance.one_of(&[0.0, 25.0, 40.0]));
            let opens = chance.one_of(&["centre_back", "side", "centre_front"]);
            let amounts = Amounts::of(height).with("laps", laps).by("opens", opens);
            let told = format!("{height:.1} high, {laps} over, {opens}");
            let side = chance.one_of(&[None, Some(WornSide::Left), Some(WornSide::Right)]);
            let amount = chance.between(-8.0, 12.0);
            let changed = if block.skirt_halves().is_some() {
                apply(alteration("high_hip").unwrap(), &block, &Amounts::of(amount), side, STYLE)
            } else {
                // The waist of one side too: the band goes along both.
                let amounts = Amounts::of(amount).with("waist", chance.between(-10.0, 12.0));
                apply(alteration("side_seams").unwrap(), &block, &amounts, side, STYLE)
            };
            let block = changed.map_or(block, |changed| changed.pattern);
            let made = done("waistband", &block, &amounts).pattern;
            hold(&block, &made, &told);
            let [band] = sewn_on(&made)[..] else { panic!("{told}: more than one band") };
            let waist = all_round(&block, Seam::Waist);
            assert!((band.flat_length(Seam::Waist) - waist).abs() < EXACT, "{told}");
            let bounds = band.bounds();
            assert!((bounds.width() - waist - laps).abs() < EXACT, "{told}: {}", bounds.width());
            assert!((bounds.height() - 2.0 * height).abs() < EXACT, "{told}");
            let fold = &band.levels[0];
            assert!(
                fold.name == LevelName::Fold && fold.points.iter().all(|at| (at.y - height).abs() < EXACT)
            );
            // Where front and back, left and right come to lie.
            let worn = |side: WornSide| if block.is_sided() { block.worn_on(side) } else { block.clone() };
            let halves = |side| {
                let worn = worn(side);
                let (front, back) = worn
                    .skirt_halves()
                    .or_else(|| worn.front_half().zip(worn.back_half()))
                    .map(|(front, back)| (front.sewn_length(Seam::Waist), back.sewn_length(Seam::Waist)))
                    .unwrap();
                (front, back)
            };
            let ((lf, lb), (rf, rb)) = (halves(WornSide::Left), halves(WornSide::Right));
            let wanted = match opens {
                "centre_back" => [lb, lb + lf, lb + lf + rf],
                "side" => [lf, lf + rf, lf + rf + rb],
                _ => [lf, lf + lb, lf + lb + rb],
            };
            for (notch, wanted) in band.notches.iter().zip(wanted) {
                let at = band.notch_place(notch).unwrap().0;
                assert!((at.x - laps - wanted).abs() < EXACT, "{told}: {} for {wanted}", at.x - laps);
            }
            assert_eq!((band.notches.len(), band.cut_instruction()), (3, "cut 1"), "{told}");
            tried += 1;
        }
    }
    assert!(tried > 200, "{tried}");
}

#[test]
fn a_cuff_is_as_long_as_the_sleeve_is_sewn_flat_or_gathered() {
    let mut chance = Chance::new(37);
    let (mut tried, mut gathered) = (0, 0);
    for body in bodies(60, 217) {
        let Some(block) = drafted(&body, MethodKind::Direct) else { continue };
        let (height, length) = (chance.between(20.0, 90.0), chance.between(320.0, 560.0));
        let opening = chance.between(260.0, 340.0);
        let lies = chance.one_of(&["flat", "gathered"]);
        let shape = Amounts::of(length)
            .with("opening", opening)
            .with("cuff", height)
            .by("lies", lies)
            .by("opens", "cuff");
        let Ok(shaped) = apply(alteration("sleeve_shape").unwrap(), &block, &shape, None, STYLE) else {
            continue;
        };
        // The sleeve's own step offers the cuff, besides a dart at the elbow where there is something to take in.
        let offers: Vec<_> = shaped.follow_ups.iter().filter_map(|follow| follow.offer.as_ref()).collect();
        assert!(offers.iter().all(|offer| ["cuffs", "elbow_dart"].contains(&offer.alteration.as_str())));
        let offer = *offers.iter().find(|offer| offer.alteration == "cuffs").unwrap();
        assert_eq!(offer.amounts.amount(), height);
        let made = done("cuffs", &shaped.pattern, &offer.amounts).pattern;
        hold(&shaped.pattern, &made, lies);
        let cuff = part(&made, GarmentPart::Cuff);
        // Its length is the opening and what laps over it (handbook, `wishes.md` 5, step 8).
        let bounds = cuff.bounds();
        assert!((bounds.width() - opening - 25.0).abs() < EXACT, "{lies}: {} for {opening}", bounds.width());
        assert!((bounds.height() - 2.0 * height).abs() < EXACT);
        assert_eq!(cuff.cut_instruction(), "cut a pair");
        tried += 1;
        gathered += usize::from(lies == "gathered");
    }
    assert!(tried > 40 && gathered > 15, "{tried}, {gathered} gathered");
}

#[test]
fn a_strip_is_a_little_shorter_than_a_hollow_edge_and_lies_across_the_grain() {
    let body = wishing_body();
    let strapless = done("strapless_edge", &bodice(&body).unwrap(), &Amounts::of(120.0)).pattern;
    let cases = [
        (bodice(&body).unwrap(), "neckline", GarmentPart::NeckStrip, Seam::Neckline, 1.0, 0.97, "cut 1"),
        (
            dress(&body).unwrap(),
            "armholes",
            GarmentPart::ArmholeStrip,
            Seam::Armhole,
            0.5,
            0.97,
            "cut a pair",
        ),
        (strapless, "upper_edge", GarmentPart::EdgeStrip, Seam::UpperEdge, 1.0, 1.0, "cut 1"),
    ];
    for (block, edge, kind, seam, share, left, cut) in cases {
        let made = done("bias_strips", &block, &Amounts::of(32.0).by("edge", edge)).pattern;
        hold(&block, &made, edge);
        let strip = part(&made, kind);
        let wanted = all_round(&block, seam) * share * left;
        let bounds = strip.bounds();
        assert!((bounds.width() - wanted).abs() < EXACT && (bounds.height() - 32.0).abs() < EXACT, "{edge}");
        assert_eq!(strip.cut_instruction(), cut);
        let along = strip.grain.1 - strip.grain.0;
        assert!((along.x.abs() - along.y.abs()).abs() < 1e-9, "{edge}: half a right angle, {along:?}");
    }
}

#[test]
fn they_follow_what_changes_their_edge_whenever_that_was_decided() {
    let body = wishing_body();
    let block = drafted(&body, MethodKind::Direct).unwrap();
    let of = |code: &str, amounts: Amounts| Decided::new(code, amounts, "");
    let sewn = [
        of("collar_stand", Amounts::of(35.0)),
        of("waistband", Amounts::of(40.0)),
        of("cuffs", Amounts::of(60.0)),
        of("bias_strips", Amounts::of(30.0).by("edge", "armholes")),
    ];
    let changes = [
        of("neck", Amounts::of(15.0).with("width", 8.0)),
        of("side_seams", Amounts::of(6.0)),
        of("full_bust", Amounts::of(15.0)),
        of("sleeve_shape", Amounts::of(500.0).with("opening", 240.0).with("cuff", 60.0).by("opens", "cuff")),
        of("princess_line", Amounts::of(6.0)),
        of("underarm", Amounts::of(8.0)),
        of("rounded_back", Amounts::of(12.0)),
    ];
    for change in changes {
        for side in [None, Some(WornSide::Left)] {
            let mut change = change.clone();
            change.side = side;
            let made = |order: &[&Decided]| {
                let mut recipe = Recipe::default();
                for each in order {
                    recipe.take((*each).clone());
                }
                make(&block, &recipe, STYLE)
            };
            let told = format!("{} {side:?}", change.alteration);
            let mut after: Vec<&Decided> = sewn.iter().collect();
            after.push(&change);
            let mut before = vec![&change];
            before.extend(&sewn);
            let (first, last) = (made(&before), made(&after));
            assert_eq!(first.refused().count(), 0, "{told}: {:?}", first.refused().collect::<Vec<_>>());
            assert_eq!(first.pattern, last.pattern, "{told}: whenever it was decided");
            let alone = made(&[&change]).pattern;
            hold(&alone, &first.pattern, &told);
        }
    }
}

#[test]
fn what_was_a_reminder_is_done_where_the_piece_is_there() {
    let block = drafted(&wishing_body(), MethodKind::Direct).unwrap();
    let says = |recipe: &Recipe| -> Vec<(FollowKind, String)> {
        let made = make(&block, recipe, STYLE);
        let first = made.steps[0].outcome.as_ref().unwrap().as_ref().unwrap();
        first.follow_ups.iter().map(|follow| (follow.kind, follow.says.clone())).collect()
    };
    for (change, what, word) in [
        (("neck", Amounts::of(20.0)), ("collar_stand", 35.0), "neckline"),
        (("side_seams", Amounts::of(6.0).with("waist", 8.0)), ("waistband", 35.0), "waist"),
    ] {
        let alone = Recipe::default().and(change.0, change.1, "");
        let about = |all: Vec<(FollowKind, String)>| {
            { all.into_iter() }.find(|(_, says)| says.starts_with(&format!("The {word} is"))).unwrap()
        };
        assert_eq!(about(says(&alone)).0, FollowKind::Reminder);
        let (kind, says) = about(says(&alone.and(what.0, Amounts::of(what.1), "")));
        assert!(kind == FollowKind::Done && says.ends_with("is drafted again."), "{says}");
    }
}

#[test]
fn sides_that_differ_have_one_band_and_stands_of_their_own() {
    let block = drafted(&wishing_body(), MethodKind::Direct).unwrap();
    let neck = alteration("neck").unwrap();
    let sided = apply(neck, &block, &Amounts::of(10.0), Some(WornSide::Left), STYLE).unwrap().pattern;
    let made = done("collar_stand", &sided, &Amounts::of(35.0)).pattern;
    hold(&sided, &made, "one side of the neckline deeper");
    let stands = sewn_on(&made);
    assert_eq!(
        stands.iter().map(|piece| piece.kind.side()).collect::<Vec<_>>(),
        [Some(WornSide::Left), Some(WornSide::Right)]
    );
    assert!(stands.iter().all(|piece| piece.cut_instruction() == "cut 2"));
    assert!(stands[0].flat_length(Seam::Neckline) > stands[1].flat_length(Seam::Neckline) + 1.0);
    // A neckline that is alike on both sides of a pattern whose sides differ elsewhere has one stand.
    let side_seams = alteration("side_seams").unwrap();
    let sided = apply(side_seams, &block, &Amounts::of(8.0), Some(WornSide::Left), STYLE).unwrap().pattern;
    let made = done("collar_stand", &sided, &Amounts::of(35.0)).pattern;
    assert_eq!(sewn_on(&made).len(), 1);
    assert_eq!(sewn_on(&made)[0].cut_instruction(), "cut 2 on fold");
}

#[test]
fn what_cannot_be_sewn_on_is_refused_with_the_way_out() {
    let body = wishing_body();
    let block = drafted(&body, MethodKind::Direct).unwrap();
    let v = done("neckline", &block, &Amounts::of(170.0).with("width", 170.0).by("shape", "v")).pattern;
    assert!(!suits(alteration("collar_stand").unwrap(), &v));
    assert!(!suits(alteration("waistband").unwrap(), &dress(&body).unwrap()));
    assert!(!suits(alteration("cuffs").unwrap(), &bodice(&body).unwrap()));
    for (code, mm) in [("collar_stand", 35.0), ("waistband", 35.0), ("cuffs", 60.0), ("bias_strips", 30.0)] {
        let once = done(code, &block, &Amounts::of(mm)).pattern;
        let again = refused(code, &once, &Amounts::of(mm));
        assert!(
            again.contains("already") || again.contains("or has") || again.contains("yet"),
            "{code}: {again}"
        );
        let low = refused(code, &block, &Amounts::of(5.0));
        assert!(low.contains("at least 1.5 cm wide, not 0.5 cm"), "{code}: {low}");
    }
    let half = all_round(&block, Seam::Neckline) / 2.0;
    let bent = refused("collar_stand", &block, &Amounts::of(35.0).with("rises", 110.0));
    assert!(
        half / 2.0 < 110.0 && bent.contains(&format!("at most {}", STYLE.greatest_mark(half / 2.0))),
        "{bent}"
    );
    let deep = refused("collar_stand", &block, &Amounts::of(180.0).with("rises", 90.0));
    assert!(deep.contains("so high at most"), "{deep}");
    let bound = done("bias_strips", &block, &Amounts::of(30.0)).pattern;
    assert!(!suits(alteration("collar_stand").unwrap(), &bound));
}

#[test]
fn a_piece_that_came_off_another_says_so_in_its_drawing() {
    let block = drafted(&wishing_body(), MethodKind::Direct).unwrap();
    let recipe = Recipe::default()
        .and("princess_line", Amounts::of(6.0), "")
        .and("facings", Amounts::of(45.0), "")
        .and("waistband", Amounts::of(35.0), "")
        .and("cuffs", Amounts::of(60.0), "");
    let made = make(&block, &recipe, STYLE).pattern;
    let second: Vec<String> = { draw_pattern(&made, STYLE).into_iter() }
        .filter(|drawing| drawing.second_part)
        .map(|drawing| drawing.name)
        .collect();
    let wanted = ["Side front panel", "Front neck facing", "Back neck facing", "Waistband", "Cuff"];
    assert_eq!(second, wanted);
}

/// The cutting line of what is sewn on has one allowance all round, that of its edge; a sleeve that ends in a cuff is cut there as a
/// seam, not as a hem.
#[test]
fn what_is_sewn_on_is_cut_as_the_edge_it_is_sewn_to() {
    let block = drafted(&wishing_body(), MethodKind::Direct).unwrap();
    let steps = [("collar_stand", 35.0), ("waistband", 40.0), ("cuffs", 60.0)];
    let recipe = steps.iter().fold(Recipe::default(), |all, (code, mm)| all.and(code, Amounts::of(*mm), ""));
    let made = make(&block, &recipe, STYLE).pattern;
    let widths =
        Allowances { side: 15.0, waist: 12.0, neckline: 9.0, hem: 30.0, ..Allowances::usual(Unit::Cm) };
    let out = |piece: &Piece, seam| {
        let edge = piece.edges_of(seam).next().unwrap();
        let middle = edge.curve.point_at(edge.curve.length() / 2.0);
        let line = yardwand_core::pattern::cut_line(piece, &widths);
        let far =
            line.segments().map(|part| kurbo::ParamCurveNearest::nearest(&part, middle, 1e-6).distance_sq);
        far.fold(f64::INFINITY, f64::min).sqrt()
    };
    for (kind, edge, wanted) in [
        (GarmentPart::CollarStand, Seam::Neckline, 9.0),
        (GarmentPart::Waistband, Seam::Waist, 12.0),
        (GarmentPart::Cuff, Seam::Hem, 15.0),
    ] {
        let piece = part(&made, kind);
        for seam in [edge, Seam::BandEdge, Seam::BandEnd] {
            assert!((out(piece, seam) - wanted).abs() < 0.05, "{} {}", piece.kind.name(), seam.name());
        }
    }
    assert!((out(made.sleeve().unwrap(), Seam::Hem) - 15.0).abs() < 0.05, "sewn to the cuff");
    assert!((out(block.sleeve().unwrap(), Seam::Hem) - 30.0).abs() < 0.05, "turned up");
}

#[test]
fn a_cuff_goes_with_a_sleeve_that_no_armhole_is_left_for() {
    let block = drafted(&wishing_body(), MethodKind::Direct).unwrap();
    let cuffs = Recipe::default().and("cuffs", Amounts::of(60.0), "");
    let parts = |recipe: &Recipe| -> Vec<GarmentPart> {
        let made = make(&block, recipe, STYLE);
        assert_eq!(made.refused().count(), 0);
        made.pattern.pieces.iter().map(|piece| piece.kind.part()).collect()
    };
    assert!(parts(&cuffs).contains(&GarmentPart::Cuff));
    let mut strapless = cuffs;
    strapless.take(Decided::new("strapless_edge", Amounts::of(120.0), ""));
    let left = parts(&strapless);
    assert!(!left.contains(&GarmentPart::Cuff) && !left.contains(&GarmentPart::Sleeve), "{left:?}");
}

/// On random bodies with a random edge, one side altered as often as not: the band is as long as she is round, its marks lie
/// at the ends of back and front, and what is left between them goes over the arms.
#[test]
fn a_band_over_the_arms_is_as_long_as_she_is_round_and_free_over_both() {
    let mut chance = Chance::new(90);
    let mut tried = 0;
    for body in bodies(60, 90) {
        let Some(block) = drafted(&body, MethodKind::Direct) else { continue };
        let gap = if chance.even() > 0.0 { chance.between(40.0, 75.0) } else { 0.0 };
        let edge = Amounts::of(chance.between(100.0, 125.0)).with("gap", gap);
        let mut recipe = Recipe::default().and("strapless_edge", edge, "");
        if chance.even() > 0.0 {
            let left = Decided::new("side_seams", Amounts::of(chance.between(2.0, 8.0)), "");
            recipe.take(Decided { side: Some(WornSide::Left), ..left });
        }
        let before = make(&block, &recipe, STYLE);
        if before.refused().next().is_some() {
            continue;
        }
        let before = before.pattern;
        let (round_edge, height) = (all_round(&before, Seam::UpperEdge), chance.between(50.0, 120.0));
        let round = round_edge + gap + chance.between(260.0, 600.0);
        let amounts = Amounts::of(height).with("round", round).with("gap", gap);
        let made = done("off_shoulder_band", &before, &amounts).pattern;
        hold(&before, &made, "band over the arms");
        let band = part(&made, GarmentPart::OffShoulderBand);
        let bounds = band.bounds();
        assert!(
            (bounds.width() - (round - gap)).abs() < EXACT && (bounds.height() - 2.0 * height).abs() < EXACT
        );
        let of = |side: WornSide, front: bool| -> f64 {
            let worn = before.worn_on(side);
            let pieces = worn.pieces.iter().filter(|piece| (piece.kind.covers() == Covers::Front) == front);
            pieces.map(|piece| piece.sewn_length(Seam::UpperEdge)).sum()
        };
        let [left_back, left_front, right_front, right_back] = [
            of(WornSide::Left, false),
            of(WornSide::Left, true),
            of(WornSide::Right, true),
            of(WornSide::Right, false),
        ];
        let arm = (round - gap - round_edge) / 2.0;
        let marks: Vec<f64> = band.notches.iter().map(|notch| notch.from_underarm).collect();
        let steps = [left_back, arm, left_front, right_front, arm];
        let mut at = 0.0;
        for (mark, step) in marks.iter().zip(steps) {
            at += step;
            assert!((mark - at).abs() < EXACT, "{marks:?} {steps:?}");
        }
        assert!((round - gap - at - right_back).abs() < EXACT, "what is left is the right back");
        tried += 1;
    }
    assert!(tried > 25, "{tried}");
}

#[test]
fn a_band_too_short_to_go_over_the_arms_is_refused_with_the_least_and_follows_the_edge() {
    let body = wishing_body();
    let block = bodice(&body).unwrap();
    let strapless = done("strapless_edge", &block, &Amounts::of(120.0)).pattern;
    let edge = all_round(&strapless, Seam::UpperEdge);
    let of = |round: f64| Amounts::of(70.0).with("round", round);
    let told = refused("off_shoulder_band", &strapless, &of(edge + 239.0));
    assert!(told.contains(&STYLE.with_unit(edge + 240.0)), "{told}");
    done("off_shoulder_band", &strapless, &of(edge + 240.5));
    let told = refused("off_shoulder_band", &strapless, &Amounts::of(70.0));
    assert!(told.contains("say how much"), "{told}");
    // Told over each arm instead, it is as long as the edge and both, and follows an edge that changes.
    for width in [-4.0, 6.0] {
        let side = done("side_seams", &block, &Amounts::of(width)).pattern;
        let strapless = done("strapless_edge", &side, &Amounts::of(120.0)).pattern;
        let edge = all_round(&strapless, Seam::UpperEdge);
        let over = Amounts::of(70.0).with("over", 210.0).with("gap", 50.0);
        let made = done("off_shoulder_band", &strapless, &over).pattern;
        let long = part(&made, GarmentPart::OffShoulderBand).bounds().width();
        assert!((long - edge - 420.0).abs() < EXACT, "{long} for {edge}");
    }
    assert!(!suits(alteration("off_shoulder_band").unwrap(), &block), "with shoulders there is no such edge");
    let faced = done("facings", &strapless, &Amounts::of(50.0).by("edge", "upper_edge")).pattern;
    assert!(!suits(alteration("off_shoulder_band").unwrap(), &faced), "a faced edge has no band");
    // Whenever the edge was decided: the band is drafted from it as it is at the end.
    let first = Recipe::default().and("strapless_edge", Amounts::of(120.0), "");
    let band = Decided::new("off_shoulder_band", of(edge + 400.0), "");
    let (mut one, mut other) = (first.clone(), first);
    let side = Decided::new("side_seams", Amounts::of(5.0), "");
    one.take(band.clone());
    one.take(side.clone());
    other.take(side);
    other.take(band);
    let [one, other] = [one, other].map(|recipe| make(&block, &recipe, STYLE).pattern);
    assert!(crate::common::furthest_apart(&one, &other) < EXACT);
}
