//! From wish to pattern: what is read from what she wishes, and the hem, against the handbook's worked figures and over random
//! bodies (handbook: `wishes.md`).

use crate::common::{Chance, bodies, holds_still, standard_ease};
use crate::cutting_line;
use crate::random_bodies::outlines_are_simple;
use yardwand_core::Style;
use yardwand_core::alter::{
    AlterError, Amounts, CarryOutcome, Decided, Recipe, Source, alteration, apply, carry_over, make, preview,
};
use yardwand_core::body::{Body, Profile, ProfileReading, catalogue};
use yardwand_core::compare::{WISHED, wishes, wishes_of, with_wishes};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::geometry::{Curve, turn_degrees};
use yardwand_core::pattern::{
    Allowances, Garment, GarmentPart, LevelName, Pattern, PatternMeasure, Piece, Seam, WornSide, measure,
    walk,
};

const STYLE: Style = Style::TENTHS;

/// The body of the handbook's worked figures (`wishes.md`, section 9).
pub(crate) fn wishing_body() -> Body {
    [
        ("bust_girth", 960.0),
        ("upper_bust_girth", 912.0),
        ("waist_girth", 780.0),
        ("hip_girth", 1020.0),
        ("neck_base_girth", 374.0),
        ("shoulder_width", 396.0),
        ("shoulder_length", 124.0),
        ("shoulder_slope", 43.0),
        ("across_front", 330.0),
        ("across_back", 352.0),
        ("bust_span", 190.0),
        ("snp_to_bust_point", 270.0),
        ("snp_to_waist_front", 440.0),
        ("snp_to_waist_back", 424.0),
        ("nape_to_waist_back", 404.0),
        ("armhole_depth", 198.0),
        ("side_length", 182.0),
        ("waist_to_hip", 205.0),
        ("snp_to_under_bust", 346.0),
        ("upper_arm_girth", 296.0),
        ("elbow_girth", 262.0),
        ("wrist_girth", 162.0),
        ("hand_girth", 208.0),
        ("arm_length", 585.0),
    ]
    .into_iter()
    .collect()
}

/// The handbook's body as a bodice of the direct method with both darts in front.
pub(crate) fn bodice(body: &Body) -> Option<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    Some(draft(body, &Method { direct, ..Method::default() }, STYLE).ok()?.pattern)
}

pub(crate) fn dress(body: &Body) -> Option<Pattern> {
    let method = Method { kind: MethodKind::Dress, ..Method::default() };
    Some(draft(body, &method, STYLE).ok()?.pattern)
}

/// A hem so far below the hip, so far out at each side edge.
fn hem(block: &Pattern, length: f64, out: f64) -> Result<Pattern, AlterError> {
    let amounts = Amounts::of(length).with("out", out);
    Ok(apply(alteration("hem_length").unwrap(), block, &amounts, None, STYLE)?.pattern)
}

/// The angle of the piece at the end of the last edge of a seam, in degrees.
fn corner_after(piece: &Piece, seam: Seam) -> f64 {
    let index = piece.last_edge(seam).unwrap();
    let next = &piece.edges[(index + 1) % piece.edges.len()];
    180.0 - turn_degrees(piece.edges[index].curve.end_direction(), next.curve.start_direction())
}

/// What the side seam measures below the hip.
fn side_below_hip(piece: &Piece) -> f64 {
    let hip = *piece.level(LevelName::Hip).unwrap().points.last().unwrap();
    let side = &piece.edges[piece.first_edge(Seam::Hem).unwrap() - 1].curve;
    side.length() - side.nearest(hip)
}

#[test]
fn a_flared_hem_is_the_worked_one() {
    let block = dress(&wishing_body()).unwrap();
    // To 590 below the waist; the hip lies 205 below it.
    let made = hem(&block, 385.0, 55.0).unwrap();
    let front = made.front().unwrap();
    let end = front.edges[front.first_edge(Seam::Hem).unwrap()].curve.start();
    assert!((end.x - 332.0).abs() < 0.01 && (end.y - 1025.605).abs() < 0.01, "{end:?}");
    for (piece, length) in [(front, 332.093), (made.back().unwrap(), 313.097)] {
        let is = piece.sewn_length(Seam::Hem);
        // The worked figures are drawn by the arc alone; ours turns into an S without a jump (`docs/decisions/0001`).
        assert!((is - length).abs() < 0.06, "{}: {is}", piece.kind.name());
    }
    let refused = hem(&block, 385.0, 90.0).unwrap_err();
    assert!(refused.to_string().contains("more than the 5.9 cm"), "at most 58.5: {refused}");
    // The flare's limit is no amount of the step, which is its length: nothing is offered to be set to it.
    let recipe = Recipe::default().and("hem_length", Amounts::of(385.0).with("out", 90.0), "");
    let step = &preview(&block, &recipe, None, STYLE).steps[0];
    assert!(step.says.is_some() && step.nearest.is_none() && refused.limit().is_none(), "{step:?}");
}

#[test]
fn below_the_hip_it_is_as_wished_and_above_it_nothing_moves() {
    let mut chance = Chance::new(29);
    let (mut tried, mut refused) = (0, 0);
    for body in bodies(40, 83) {
        let Some(block) = dress(&body) else { continue };
        for _ in 0..4 {
            let length = 620.0 + 520.0 * chance.even();
            let out = if chance.even() > 0.4 { 0.0 } else { 45.0 * chance.even() };
            let made = match hem(&block, length, out) {
                Ok(made) => made,
                Err(error) => {
                    let says = error.to_string();
                    assert!(
                        says.contains("a side of this length takes") || says.contains("hangs straight"),
                        "{says}"
                    );
                    refused += 1;
                    continue;
                }
            };
            tried += 1;
            outlines_are_simple(&made);
            for (before, after) in block.pieces.iter().zip(&made.pieces) {
                let told = format!("{} {length:.1} {out:.1}", after.kind.name());
                if !after.kind.is_front() && !after.kind.is_back() {
                    assert_eq!(before, after);
                    continue;
                }
                let last = before.first_edge(Seam::Hem).unwrap() - 1;
                assert_eq!(
                    before.edges[..last],
                    after.edges[..last],
                    "{told}: above the side seam's last edge"
                );
                let (was, is) = (&before.edges[last].curve, &after.edges[last].curve);
                assert_eq!(
                    was.segments(),
                    &is.segments()[..was.segments().len()],
                    "{told}: the side to the hip"
                );
                assert_eq!((&before.darts, &before.two_pointed), (&after.darts, &after.two_pointed));
                assert!((side_below_hip(after) - length).abs() < 0.01, "{told}: {}", side_below_hip(after));
                for seam in [Seam::Side, Seam::Hem] {
                    let angle = corner_after(after, seam);
                    assert!((angle - 90.0).abs() < 0.01, "{told}: {angle} after the {}", seam.name());
                }
                let sharpest =
                    |of: &Curve| of.corners().iter().map(|corner| corner.1.abs()).fold(0.0, f64::max);
                assert!(
                    sharpest(is) <= sharpest(was).max(0.2) + 1e-9,
                    "{told}: the side is kinked by {}",
                    sharpest(is)
                );
            }
            let (was, is) = (measure(&block), measure(&made));
            let of = |figure| is.get(figure).unwrap();
            assert!((of(PatternMeasure::BelowHip) - length).abs() < 0.01);
            assert!((of(PatternMeasure::Hip) - was.get(PatternMeasure::Hip).unwrap()).abs() < 0.01);
            let straight = of(PatternMeasure::Hip) + 4.0 * out;
            assert!((of(PatternMeasure::Hem) - straight).abs() < 4.0 * 0.8, "{length} {out}: hem");
            holds_still(&block, &made, &format!("{length} {out}"));
        }
    }
    assert!(tried > 100 && refused < tried / 2, "{tried} made, {refused} refused");
}

#[test]
fn the_cutting_line_of_a_long_dress_stands_its_allowance_off() {
    let mut chance = Chance::new(61);
    let mut looked = 0;
    for body in bodies(20, 67) {
        let Some(block) = dress(&body) else { continue };
        let (length, out) = (600.0 + 400.0 * chance.even(), 25.0 + 45.0 * chance.even());
        let Ok(made) = hem(&block, length, out) else { continue };
        for widths in [Allowances::default(), Allowances { side: 20.0, hem: 50.0, ..Allowances::default() }] {
            for piece in &made.pieces {
                let found = cutting_line::faults(piece, &widths);
                assert!(found.is_empty(), "{} {length:.1} {out:.1}: {:#?}", piece.kind.name(), found.first());
                looked += 1;
            }
        }
    }
    assert!(looked > 60, "{looked}");
}

#[test]
fn more_and_less_add_up_and_one_side_alone_makes_two_pieces() {
    let block = dress(&wishing_body()).unwrap();
    let mut recipe = Recipe::default();
    recipe.take(Decided::new("hem_length", Amounts::of(420.0).with("out", 40.0), ""));
    recipe.take(Decided::new("hem_length", Amounts::of(-35.0), "too long at the toile"));
    assert_eq!(recipe.steps.len(), 1);
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole());
    assert_eq!(made.pattern, hem(&block, 385.0, 40.0).unwrap());

    let right = Decided { side: Some(WornSide::Right), ..Decided::new("hem_length", Amounts::of(12.0), "") };
    recipe.take(right);
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
    let below = |side| {
        let worn = made.pattern.worn_on(side);
        side_below_hip(worn.front().unwrap())
    };
    assert!((below(WornSide::Left) - 385.0).abs() < 0.01 && (below(WornSide::Right) - 397.0).abs() < 0.01);
}

#[test]
fn a_style_line_before_or_after_goes_down_to_the_new_hem() {
    let mut looked_at = 0;
    for body in bodies(12, 91) {
        let Some(block) = dress(&body) else { continue };
        let taken = |mut recipe: Recipe, code: &str, amounts: Amounts| {
            recipe.take(Decided::new(code, amounts, ""));
            recipe
        };
        let line = |recipe: Recipe| taken(recipe, "princess_line", Amounts::of(0.0));
        let wish = |recipe: Recipe| taken(recipe, "hem_length", Amounts::of(400.0).with("out", 30.0));
        let (before, after) = (
            make(&block, &wish(line(Recipe::default())), STYLE),
            make(&block, &line(wish(Recipe::default())), STYLE),
        );
        assert!(after.is_whole(), "{:?}", after.refused().collect::<Vec<_>>());
        assert_eq!(before.pattern, after.pattern, "the one order");
        looked_at += 1;
        outlines_are_simple(&after.pattern);
        let figures = measure(&after.pattern);
        let alone = measure(&hem(&block, 400.0, 30.0).unwrap());
        for figure in [PatternMeasure::Hip, PatternMeasure::Hem, PatternMeasure::BelowHip] {
            let off = figures.get(figure).unwrap() - alone.get(figure).unwrap();
            assert!(off.abs() < 0.5, "{}: {off}", figure.name());
        }
    }
    assert!(looked_at > 8, "{looked_at}");
}

/// A blouse ends on the block: hundreds of lengths on 40 bodies, along the line and at the corners.
#[test]
fn a_blouse_ends_above_the_hip_as_high_on_the_side_as_at_the_centre() {
    let mut chance = Chance::new(44);
    let mut tried = 0;
    for body in bodies(40, 83) {
        let Some(block) = dress(&body) else { continue };
        for _ in 0..5 {
            let above = chance.between(2.0, 60.0);
            let made = match hem(&block, -above, 0.0) {
                Ok(made) => made,
                Err(error) => {
                    let says = error.to_string();
                    assert!(says.contains("waist darts would run into the hem; at most"), "{says}");
                    continue;
                }
            };
            tried += 1;
            outlines_are_simple(&made);
            holds_still(&block, &made, &format!("{above}"));
            let of = |piece: &Piece| piece.edges[piece.first_edge(Seam::Hem).unwrap() - 1].curve.length();
            for (was, is) in block.pieces.iter().zip(&made.pieces) {
                if !is.kind.is_front() && !is.kind.is_back() {
                    continue;
                }
                let down = |piece: &Piece| piece.edges[piece.first_edge(Seam::Hem).unwrap()].curve.end().y;
                assert!((down(was) - down(is) - above).abs() < 1e-9);
                assert!((of(was) - of(is) - above).abs() < 0.001);
                assert!((corner_after(is, Seam::Side) - 90.0).abs() < 0.01);
                assert!((corner_after(is, Seam::Hem) - 90.0).abs() < 0.01);
                let faults = cutting_line::faults(is, &Allowances::default());
                assert!(faults.is_empty(), "{faults:?}");
            }
            let figures = measure(&made);
            assert_eq!(figures.get(PatternMeasure::Hip), None, "what ends above the hip has none");
            for figure in [PatternMeasure::Bust, PatternMeasure::Waist, PatternMeasure::SideFront] {
                let off = figures.get(figure).unwrap() - measure(&block).get(figure).unwrap();
                assert!(off.abs() < 1e-6, "{}: {off}", figure.name());
            }
        }
    }
    assert!(tried > 80, "{tried}");
}

#[test]
fn a_blouse_is_made_longer_on_one_side_parted_and_read_from_what_she_wishes() {
    let block = dress(&wishing_body()).unwrap();
    let profile = read(&[("blouse_length", 580.0), ("nape_to_waist_back", 404.0), ("waist_to_hip", 205.0)]);
    let wished = wishes(&profile, &block, standard_ease(), STYLE);
    assert_eq!((wished.len(), &wished[0].amounts, &wished[0].refused), (1, &Amounts::of(-29.0), &None));
    assert!(wished[0].says.contains("17.6 cm below the waist, 2.9 cm above the hip"), "{}", wished[0].says);
    let mut recipe = Recipe::default();
    recipe.take(Decided::new("hem_length", wished[0].amounts.clone(), &wished[0].says));
    recipe.take(Decided::new("hem_length", Amounts::of(9.0), "a little longer at the toile"));
    let left = Some(WornSide::Left);
    recipe.take(Decided { side: left, ..Decided::new("hem_length", Amounts::of(-6.0), "") });
    let made = make(&block, &recipe, STYLE);
    assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
    let low = |side| {
        let worn = made.pattern.worn_on(side);
        let front = worn.front().unwrap();
        front.edges[front.first_edge(Seam::Hem).unwrap()].curve.end().y
    };
    assert!((low(WornSide::Right) - low(WornSide::Left) - 6.0).abs() < 1e-9);
    assert_eq!(
        make(&block, &Recipe::default().and("hem_length", Amounts::of(-20.0), ""), STYLE)
            .pattern
            .worn_on(WornSide::Right),
        hem(&block, -20.0, 0.0).unwrap().worn_on(WornSide::Right)
    );
    // Parted by a style line the panels end at the blouse's hem.
    let parted = Recipe::default()
        .and("hem_length", Amounts::of(-20.0), "")
        .and("princess_line", Amounts::of(0.0), "")
        .and("princess_line", Amounts::of(0.0).by("piece", "back"), "");
    let made = make(&block, &parted, STYLE);
    assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
    outlines_are_simple(&made.pattern);
    holds_still(&block, &made.pattern, "parted");
    let flared = hem(&block, -20.0, 15.0).unwrap_err().to_string();
    assert!(flared.contains("2.0 cm above the hip hangs straight"), "{flared}");
    let short = hem(&block, -200.0, 0.0).unwrap_err().to_string();
    assert!(short.contains("too short on the front") && short.contains("at most 8.0 cm above it"), "{short}");
}

#[test]
fn lines_above_the_hem_are_drawn_and_a_narrow_one_asks_for_a_slit() {
    let block = dress(&wishing_body()).unwrap();
    let amounts = Amounts::of(600.0).with("out", -60.0).with("knee", 380.0).with("ankle", 760.0);
    let done = apply(alteration("hem_length").unwrap(), &block, &amounts, None, STYLE).unwrap();
    let front = done.pattern.front().unwrap();
    let hip = front.level(LevelName::Hip).unwrap().points[0];
    let knee = front.level(LevelName::Knee).unwrap();
    assert!((knee.points[0].y - hip.y - 380.0).abs() < 1e-9);
    // The line ends on the side seam.
    let side = &front.edges[front.first_edge(Seam::Hem).unwrap() - 1].curve;
    let end = *knee.points.last().unwrap();
    assert!(side.point_at(side.nearest(end)).distance(end) < 0.01);
    assert!(front.level(LevelName::Ankle).is_none(), "the hem ends above it");
    // A flared hem rises at the side: a line that meets no side seam is not drawn.
    let amounts = Amounts::of(385.0).with("out", 55.0).with("knee", 383.0);
    let flared = apply(alteration("hem_length").unwrap(), &block, &amounts, None, STYLE).unwrap().pattern;
    assert!(flared.front().unwrap().level(LevelName::Knee).is_none());
    let said: Vec<&str> = done.follow_ups.iter().map(|each| each.says.as_str()).collect();
    assert!(said.iter().any(|says| says.contains("slit")), "{said:?}");
}

/// What a dress was fitted by before and after, another size, and a block it is not for.
#[test]
fn it_goes_with_what_fits_the_dress_and_is_carried_to_another() {
    let corrections = [
        ("full_bust", Amounts::of(10.0)),
        ("side_seams", Amounts::of(4.0).with("hip", 6.0)),
        ("length", Amounts::of(12.0)),
        ("sway_back", Amounts::of(8.0)),
        ("front_balance", Amounts::of(8.0)),
        ("rounded_back", Amounts::of(9.0)),
    ];
    let wish = || Amounts::of(420.0).with("out", 35.0);
    let mut tried = 0;
    for body in bodies(10, 57) {
        let Some(block) = dress(&body) else { continue };
        for (code, amounts) in &corrections {
            let before = Recipe::default().and(code, amounts.clone(), "").and("hem_length", wish(), "");
            let mut after = Recipe::default();
            after.take(Decided::new("hem_length", wish(), ""));
            after.take(Decided::new(code, amounts.clone(), "seen at the toile"));
            let (before, after) = (make(&block, &before, STYLE), make(&block, &after, STYLE));
            if !before.is_whole() {
                continue;
            }
            tried += 1;
            assert_eq!(before.pattern, after.pattern, "{code} after the hem is {code} before it");
            outlines_are_simple(&after.pattern);
            let off = measure(&after.pattern).get(PatternMeasure::BelowHip).unwrap() - 420.0;
            assert!(off.abs() < 0.01, "{code}: {off}");
        }
        let recipe = Recipe::default().and("hem_length", wish(), "to the knee");
        let onto = |block: &Pattern| {
            carry_over(block, &Recipe::default(), &recipe, None, Source::SameClient("Grey dress"), STYLE)
        };
        let larger = onto(&dress(&wishing_body()).unwrap());
        assert_eq!(larger.report[0].outcome, CarryOutcome::Fitted, "{:?}", larger.report);
        let bodice = onto(&draft(&wishing_body(), &Method::default(), STYLE).unwrap().pattern);
        assert!(bodice.recipe.steps.is_empty() && bodice.report[0].says.contains("ends at the waist"));
    }
    assert!(tried > 40, "{tried}");
}

#[test]
fn what_cannot_be_is_refused_with_the_way_out() {
    let block = dress(&wishing_body()).unwrap();
    for (length, out, says) in
        [(-260.0, 0.0, "too short on the"), (80.0, 20.0, "hangs straight"), (500.0, -80.0, "could not walk")]
    {
        let refused = hem(&block, length, out).unwrap_err().to_string();
        assert!(refused.contains(says), "{refused}");
    }
    let bodice = draft(&wishing_body(), &Method::default(), STYLE).unwrap().pattern;
    assert!(hem(&bodice, 300.0, 0.0).unwrap_err().to_string().contains("ends at the waist"));
    let again = hem(&hem(&block, 300.0, 0.0).unwrap(), 100.0, 0.0);
    assert!(again.is_err(), "what is let down already has its hem");
}

/// What was measured, today and as the house measures.
pub(crate) fn read(figures: &[(&str, f64)]) -> Profile {
    Profile(figures.iter().map(|(code, mm)| ProfileReading::plain(code, *mm)).collect())
}

#[test]
fn her_full_length_is_read_as_a_hem_and_lines() {
    let figures = [
        ("full_length", 1030.0),
        ("snp_to_waist_front", 440.0),
        ("waist_to_hip", 205.0),
        ("waist_to_knee", 585.0),
    ];
    let profile = read(&figures);
    let block = dress(&wishing_body()).unwrap();
    let wished = wishes(&profile, &block, standard_ease(), STYLE);
    assert_eq!(wished.len(), 1);
    assert_eq!(wished[0].amounts, Amounts::of(385.0).with("knee", 380.0));
    assert_eq!((wished[0].alteration.as_str(), &wished[0].refused), ("hem_length", &None));
    assert!(wished[0].says.contains("59.0 cm below the waist, 38.5 cm below the hip"), "{}", wished[0].says);
    // Taken into a recipe, the dress is as long as she wishes: the worked figure.
    let recipe = Recipe::default().and(&wished[0].alteration, wished[0].amounts.clone(), &wished[0].says);
    let made = measure(&make(&block, &recipe, STYLE).pattern);
    let full = made.get(PatternMeasure::BelowHip).unwrap() + 205.0 + 440.0;
    assert!((full - 1030.0).abs() < 0.01, "{full}");

    let bodice = draft(&wishing_body(), &Method::default(), STYLE).unwrap().pattern;
    assert!(
        wishes(&profile, &bodice, standard_ease(), STYLE)[0]
            .refused
            .as_ref()
            .unwrap()
            .contains("ends at the waist")
    );
    // What is only estimated wishes nothing, and without a hip there is nothing to let down from.
    let without = |code: &str| Profile(profile.0.iter().filter(|each| each.code != code).cloned().collect());
    assert!(wishes(&without("waist_to_hip"), &block, standard_ease(), STYLE).is_empty());
    let mut estimated = profile.clone();
    estimated.0[0].estimated = true;
    assert!(wishes(&estimated, &block, standard_ease(), STYLE).is_empty());
}

/// The seam goes down to the hem however far that was let down before it.
#[test]
fn a_floor_length_dress_is_parted_down_to_its_hem() {
    let block = dress(&wishing_body()).unwrap();
    for piece in ["front", "back"] {
        let recipe = Recipe::default().and("hem_length", Amounts::of(850.0).with("out", 60.0), "").and(
            "princess_line",
            Amounts::of(0.0).by("piece", piece),
            "",
        );
        let made = make(&block, &recipe, STYLE);
        assert!(made.is_whole(), "{piece}: {:?}", made.refused().collect::<Vec<_>>());
        let hem = |pattern: &Pattern| measure(pattern).get(PatternMeasure::Hem).unwrap();
        let long = make(
            &block,
            &Recipe::default().and("hem_length", Amounts::of(850.0).with("out", 60.0), ""),
            STYLE,
        );
        assert!((hem(&made.pattern) - hem(&long.pattern)).abs() < 0.01);
        for walked in walk(&made.pattern).iter().filter(|walked| walked.seam == Seam::Princess) {
            assert!(walked.one_length > 1000.0 && walked.difference().abs() < 0.1, "{}", walked.difference());
        }
    }
}

/// The dart of a dress front is in its seam, though it stops short of the bust point: at the waist both panels lie apart by what
/// it took in, read off their outlines.
#[test]
fn a_parted_dress_is_taken_in_at_the_waist() {
    for body in bodies(20, 92) {
        let Some(block) = dress(&body) else { continue };
        for (half, parts) in [
            ("front", [GarmentPart::CentrePanel, GarmentPart::SidePanel]),
            ("back", [GarmentPart::BackCentrePanel, GarmentPart::BackSidePanel]),
        ] {
            let recipe = Recipe::default().and("princess_line", Amounts::of(0.0).by("piece", half), "");
            let made = make(&block, &recipe, STYLE);
            assert!(made.is_whole(), "{:?}", made.refused().collect::<Vec<_>>());
            let whole = if half == "front" { block.front() } else { block.back() }.unwrap();
            let dart = whole.two_pointed[0];
            let level = dart.first.midpoint(dart.second).y;
            let [centre, side] = parts.map(|part| {
                let panel = made.pattern.pieces.iter().find(|piece| piece.kind.part() == part).unwrap();
                let seam = &panel.edges_of(Seam::Princess).next().unwrap().curve;
                seam.point_at(seam.crossing_level(level).unwrap()).x
            });
            let apart = side - centre;
            assert!((apart - dart.intake()).abs() < 0.5, "{half}: {apart} instead of {}", dart.intake());
        }
    }
}

#[test]
fn a_recipe_takes_her_wishes_each_once_and_keeps_what_else_was_decided() {
    let block = dress(&wishing_body()).unwrap();
    let before = Recipe::default().and("full_bust", Amounts::of(10.0), "the bust").and(
        "neckline",
        Amounts::of(150.0).by("shape", "v").with("width", 170.0),
        "as drawn",
    );
    let card = read(&[
        ("neck_depth_front", 180.0),
        ("sleeve_opening_girth", 250.0),
        ("waist_to_hip", 205.0),
        ("snp_to_waist_front", 440.0),
    ])
    .wishing("full_length", Some(1000.0))
    .wishing("sleeve_opening_girth", None);
    let all = wishes(&card, &block, standard_ease(), STYLE);
    let made = with_wishes(&before, &all);
    let codes: Vec<&str> = made.steps.iter().map(|step| step.alteration.as_str()).collect();
    assert_eq!(codes, ["full_bust", "neckline", "hem_length"], "{all:?}");
    let neckline = &made.steps[1];
    assert_eq!(neckline.id, before.steps[1].id);
    // What she wishes is set, what was chosen besides stays.
    let wanted = Amounts::of(180.0).by("shape", "v").with("width", 170.0);
    assert_eq!(neckline.amounts, wanted);
    assert!(neckline.reason.contains("deep in front"), "{}", neckline.reason);
    assert_eq!(with_wishes(&made, &all), made, "once more is the same");
    // What was switched off is wished again.
    let mut off = made.clone();
    off.steps[1].on = false;
    assert_eq!(with_wishes(&off, &all), made);
    // Being measured under the bust is no wish for a seam there.
    let measured = read(&[("snp_to_under_bust", 346.0), ("snp_to_bust_point", 270.0), ("neck_width", 180.0)]);
    let offered = wishes(&measured, &bodice(&wishing_body()).unwrap(), standard_ease(), STYLE);
    let wished: Vec<(&str, bool)> =
        { offered.iter() }.map(|wish| (wish.alteration.as_str(), wish.is_wished(Garment::Bodice))).collect();
    assert_eq!(wished, [("neckline", true), ("under_bust_seam", false)]);
    // What cannot be made is left out.
    let bodice = bodice(&wishing_body()).unwrap();
    let refused = wishes(&card, &bodice, standard_ease(), STYLE);
    assert!(refused.iter().any(|wish| wish.refused.is_some()));
    assert!(
        with_wishes(&Recipe::default(), &refused).steps.iter().all(|step| step.alteration != "hem_length")
    );
}

#[test]
fn a_garment_is_asked_for_what_it_can_have() {
    let asked = |garment| wishes_of(garment).map(|row| row.code.as_str()).collect::<Vec<_>>();
    assert_eq!(asked(Garment::Skirt), ["skirt_length"]);
    let bodice = asked(Garment::Bodice);
    let all: Vec<&str> = catalogue().iter().filter(|row| row.wish).map(|row| row.code.as_str()).collect();
    assert!(bodice.contains(&"full_length"), "to where a dress should end is measured, and wished");
    let others = [asked(Garment::Skirt), asked(Garment::Trousers)].concat();
    assert_eq!(asked(Garment::Trousers), WISHED);
    // What is kept of every kind of sleeve is offered, and asked for on her card only.
    let is_kept = |code: &&&str| code.starts_with("sleeve_length_");
    assert_eq!(all.iter().filter(is_kept).count(), 3);
    let asked = all.iter().filter(|code| !is_kept(code));
    assert!(asked.into_iter().all(|code| bodice.contains(code) != others.contains(code)), "{bodice:?}");
}

#[test]
fn several_sleeve_lengths_are_kept_and_one_is_wished_of_a_garment() {
    let block =
        draft(&wishing_body(), &Method { with_sleeve: true, ..Method::default() }, STYLE).unwrap().pattern;
    let card = read(&[
        ("sleeve_length_short", 210.0),
        ("sleeve_length_three_quarter", 430.0),
        ("upper_arm_girth", 296.0),
        ("arm_length", 585.0),
    ]);
    let sleeves = |profile: &Profile| {
        let all = wishes(profile, &block, standard_ease(), STYLE)
            .into_iter()
            .filter(|wish| wish.alteration == "sleeve_shape");
        all.map(|wish| (wish.amounts.amount(), wish.is_wished(Garment::Bodice), wish.refused))
            .collect::<Vec<_>>()
    };
    assert_eq!(sleeves(&card), [(210.0, false, None), (430.0, false, None)]);
    assert_eq!(
        sleeves(&card.clone().wishing("sleeve_length", Some(380.0))),
        [(380.0, true, None), (210.0, false, None), (430.0, false, None)]
    );
    let says: Vec<String> =
        wishes(&card, &block, standard_ease(), STYLE).into_iter().map(|wish| wish.says).collect();
    assert!(says.contains(&"Her short sleeve: 21.0 cm long.".to_owned()), "{says:?}");
}

#[test]
fn a_blouse_is_as_long_from_the_shoulder_as_from_the_nape() {
    let block = dress(&wishing_body()).unwrap();
    let hem = |wished: &[(&str, f64)]| {
        let figures = [("nape_to_waist_back", 404.0), ("snp_to_waist_front", 440.0), ("waist_to_hip", 205.0)];
        let card = read(&figures.iter().chain(wished).copied().collect::<Vec<_>>());
        let all = wishes(&card, &block, standard_ease(), STYLE);
        let wish = all.into_iter().find(|wish| wish.alteration == "hem_length").unwrap();
        assert!(wish.refused.is_none(), "{wish:?}");
        (wish.amounts.amount(), wish.says)
    };
    // 170 below the waist either way: 35 above the hip.
    let (behind, from_nape) = hem(&[("blouse_length", 574.0)]);
    let (in_front, from_shoulder) = hem(&[("blouse_length_front", 610.0)]);
    assert!((behind + 35.0).abs() < 0.01 && (in_front - behind).abs() < 0.01, "{behind} {in_front}");
    assert!(
        from_nape.contains("from the nape") && from_shoulder.contains("over the bust"),
        "{from_shoulder}"
    );
    // Where both were said the one down the back is made; that they differ is a doubt of the card.
    assert_eq!(hem(&[("blouse_length", 574.0), ("blouse_length_front", 640.0)]).0, behind);
}
