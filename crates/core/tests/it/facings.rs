//! Facings on random bodies, on every edge they are for, and after everything that changes it (handbook: `wishes.md`, section 8).

use geo::{Area, BooleanOps};
use kurbo::{Line, Point, Shape};

use crate::common::{Chance, bodies};
use crate::outside::{cutting_lines_stand_off, nothing_turned_red, polygon};
use crate::random_bodies::outlines_are_simple;
use crate::wishes::{bodice, dress, wishing_body};
use yardwand_core::Style;
use yardwand_core::alter::{
    AlterError, Amounts, Decided, FollowKind, Recipe, alteration, apply, make, suits,
};
use yardwand_core::body::Body;
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{Covers, Edge, Pattern, PatternMeasure, Piece, Seam, WornSide, measure, walk};

const STYLE: Style = Style::TENTHS;

fn proportional(body: &Body) -> Option<Pattern> {
    let method = Method { kind: MethodKind::Proportional, ..Method::default() };
    Some(draft(body, &method, STYLE).ok()?.pattern)
}

fn one_dart(body: &Body) -> Option<Pattern> {
    let direct = Direct { one_dart: true, ..Direct::default() };
    Some(draft(body, &Method { direct, ..Method::default() }, STYLE).ok()?.pattern)
}

fn done(block: &Pattern, amounts: &Amounts) -> Result<Pattern, AlterError> {
    Ok(apply(alteration("facings").unwrap(), block, amounts, None, STYLE)?.pattern)
}

fn facings(pattern: &Pattern) -> Vec<&Piece> {
    pattern.pieces.iter().filter(|piece| piece.kind.is_facing()).collect()
}

fn outer(piece: &Piece) -> &Edge {
    piece.edges_of(Seam::FacingEdge).next().unwrap()
}

/// How far a point lies from a line drawn through points: a reader of its own.
fn away(points: &[Point], at: Point) -> f64 {
    let off = |pair: &[Point]| {
        let line = Line::new(pair[0], pair[1]);
        let along = line.p1 - line.p0;
        let share = if along.hypot2() == 0.0 {
            0.0
        } else {
            ((at - line.p0).dot(along) / along.hypot2()).clamp(0.0, 1.0)
        };
        at.distance(line.p0 + along * share)
    };
    points.windows(2).map(off).fold(f64::INFINITY, f64::min)
}

/// What must hold of the facings of a pattern, each so wide; `within` where no dart is closed and no panel joined in them.
fn hold(before: &Pattern, made: &Pattern, wide: f64, within: bool, told: &str) {
    outlines_are_simple(made);
    made.validate().unwrap();
    nothing_turned_red(before, made, told);
    let own = facings(made);
    for walked in walk(made).iter().filter(|walked| walked.one.is_facing()) {
        assert!(
            walked.difference().abs() < 0.01 && walked.single == 0,
            "{told}: {}: {}",
            walked.name,
            walked.difference()
        );
    }
    for facing in &own {
        let edge = facing.edges[0].curve.flattened(0.01);
        let line = &outer(facing).curve;
        let is_pointed = facing.neckline.is_some_and(|base| base.pointed);
        // Its ends are put on the seams, its corners are mitred: nearer than that it is nowhere.
        let count = (line.length() / 2.0) as u32;
        for n in 0..=count {
            let along = line.length() * f64::from(n) / f64::from(count);
            let is_end = along < 25.0 || along > line.length() - 25.0;
            let off = away(&edge, line.point_at(along));
            let play = if is_pointed || is_end { 0.16 * wide } else { 0.15 };
            assert!(off > wide - play, "{told}: {} {off} from the edge, {along} along", facing.kind.name());
            if !is_pointed && !is_end && !told.contains("square") {
                assert!(
                    off < wide + 3.0,
                    "{told}: {} {off} from the edge, {along} along",
                    facing.kind.name()
                );
            }
        }
        let (top, foot) = facing.grain;
        assert!(top.x == foot.x && foot.y - top.y > 20.0, "{told}: {top:?} {foot:?}");
        assert!([top, foot].iter().all(|at| facing.outline().contains(*at)), "{told}: {top:?} {foot:?}");
        if within {
            let half =
                if facing.kind.covers() == Covers::Front { made.front() } else { made.back() }.unwrap();
            // A dart nearer to the edge is closed in the facing.
            let is_near = |seam| half.edges_of(seam).next().is_some_and(|edge| edge.curve.length() < wide);
            let is_dart_near = is_near(Seam::Shoulder) || is_near(Seam::Side);
            let beyond = polygon(facing).difference(&polygon(half)).unsigned_area();
            assert!(
                is_dart_near || beyond < 40.0,
                "{told}: {beyond} mm² of {} lie beyond the piece",
                facing.kind.name()
            );
        }
    }
    // Front and back meet at the shoulder and at the side: as long a stretch of it on either.
    for seam in [Seam::Shoulder, Seam::Side] {
        let ends: Vec<f64> = own
            .iter()
            .filter(|piece| piece.first_edge(seam).is_some())
            .map(|piece| piece.flat_length(seam))
            .collect();
        assert!(ends.iter().all(|mm| (mm - wide).abs() < 0.01), "{told}: {} {ends:?}", seam.name());
    }
}

#[test]
fn a_neckline_is_faced_on_every_block_in_every_shape() {
    let mut chance = Chance::new(17);
    let (mut tried, mut refused) = (0, 0);
    for body in bodies(40, 83) {
        for block in [one_dart(&body), bodice(&body), dress(&body), proportional(&body)].into_iter().flatten()
        {
            let wide = chance.between(40.0, 70.0);
            let shape = chance.one_of(&["as it is", "round", "v", "square", "sweetheart"]);
            let behind = chance.one_of(&["round", "v", "square"]);
            let neckline = Amounts::of(chance.between(130.0, 170.0))
                .with("behind", chance.between(60.0, 130.0))
                .with("width", 170.0)
                .by("shape", if shape == "as it is" { "round" } else { shape })
                .by("shape_behind", behind);
            let told = format!("{wide:.1} {shape}, {behind} behind");
            let edge = if shape == "as it is" {
                Ok(block.clone())
            } else {
                apply(alteration("neckline").unwrap(), &block, &neckline, None, STYLE)
                    .map(|made| made.pattern)
            };
            // What the neckline refuses is its own matter.
            let Ok(edge) = edge else { continue };
            match done(&edge, &Amounts::of(wide)) {
                Ok(made) => {
                    tried += 1;
                    assert_eq!(facings(&made).len(), 2, "{told}");
                    hold(&edge, &made, wide, shape == "as it is", &told);
                    if tried % 12 == 0 {
                        cutting_lines_stand_off(facings(&made), &told);
                    }
                }
                Err(AlterError::NotHere(says)) => {
                    assert!(says.contains("at most") || says.contains("narrower"), "{told}: {says}");
                    eprintln!("{told}: {says}");
                    refused += 1;
                }
                Err(other) => panic!("{told}: {other}"),
            }
        }
    }
    eprintln!("{tried} made, {refused} refused");
    assert!(tried > 100 && refused < tried / 4, "{tried} made, {refused} refused");
}

#[test]
fn armholes_are_faced_whole_and_in_panels() {
    let mut chance = Chance::new(19);
    let mut tried = 0;
    for body in bodies(40, 84) {
        for block in [one_dart(&body), bodice(&body), dress(&body)].into_iter().flatten() {
            let style =
                chance.one_of(&["plain", "princess", "princess behind", "under the bust", "strapless"]);
            let recipe = match style {
                "princess" => Recipe::default().and("princess_line", Amounts::of(6.0), ""),
                "princess behind" => {
                    Recipe::default().and("princess_line", Amounts::of(0.0).by("piece", "back"), "")
                }
                "under the bust" => Recipe::default().and("under_bust_seam", Amounts::of(65.0), ""),
                "strapless" => Recipe::default().and("strapless_edge", Amounts::of(115.0), ""),
                _ => Recipe::default(),
            };
            let begun = make(&block, &recipe, STYLE);
            if !begun.is_whole() {
                continue;
            }
            let edge = if style == "strapless" { "upper_edge" } else { "armholes" };
            let wide = chance.between(40.0, 60.0);
            let told = format!("{style} {wide:.1}");
            let made = match done(&begun.pattern, &Amounts::of(wide).by("edge", edge)) {
                Ok(made) => made,
                // A seam under the bust may lie nearer to the underarm than that.
                Err(AlterError::NotHere(says)) if style == "under the bust" && says.contains("at most") => {
                    continue;
                }
                Err(error) => panic!("{told}: {error}"),
            };
            tried += 1;
            hold(&begun.pattern, &made, wide, style == "plain", &told);
            let (was, is) = (measure(&begun.pattern), measure(&made));
            for figure in [
                PatternMeasure::Bust,
                PatternMeasure::Waist,
                PatternMeasure::ArmholeFront,
                PatternMeasure::SideBack,
            ] {
                assert_eq!(was.get(figure), is.get(figure), "{told}: {}", figure.name());
            }
        }
    }
    assert!(tried > 70, "{tried}");
}

/// What is decided after them is done before them: they lie against the edge as it is at the end.
#[test]
fn facings_follow_what_is_decided_later() {
    let block = bodice(&wishing_body()).unwrap();
    let decided = |mut recipe: Recipe, code: &str, amounts: Amounts| {
        recipe.take(Decided::new(code, amounts, ""));
        recipe
    };
    let faced = decided(
        decided(Recipe::default(), "facings", Amounts::of(50.0)),
        "facings",
        Amounts::of(40.0).by("edge", "armholes"),
    );
    let later = [
        ("neckline", Amounts::of(150.0).with("width", 180.0)),
        ("shoulder_slope", Amounts::of(5.0)),
        ("full_bust", Amounts::of(10.0)),
        ("true_up", Amounts::of(20.0).by("what", "underarm")),
    ];
    let recipe = later.into_iter().fold(faced, |recipe, (code, amounts)| decided(recipe, code, amounts));
    let made = make(&block, &recipe, STYLE);
    let refused: Vec<_> =
        made.refused().map(|(step, error)| format!("{}: {error}", step.alteration)).collect();
    assert!(refused.iter().all(|says| says.starts_with("true_up")), "{refused:?}");
    let codes: Vec<&str> = recipe.steps.iter().map(|step| step.alteration.as_str()).collect();
    assert_eq!(codes[codes.len() - 2..], ["facings", "facings"], "{codes:?}");
    assert_eq!(facings(&made.pattern).len(), 4);
    for walked in walk(&made.pattern).iter().filter(|walked| walked.one.is_facing()) {
        assert!(walked.difference().abs() < 0.01, "{}: {}", walked.name, walked.difference());
    }
    // Each edge is faced once: decided again, it is said.
    assert!(!suits(alteration("facings").unwrap(), &made.pattern));
    let again = make(&block, &decided(recipe, "facings", Amounts::of(60.0)), STYLE);
    assert!(again.refused().any(|(step, _)| step.alteration == "facings"));
    assert_eq!(again.pattern, made.pattern);
}

/// A shoulder that differs on one side has an armhole and facings of its own there.
#[test]
fn sides_that_differ_are_faced_each_by_itself() {
    let block = bodice(&wishing_body()).unwrap();
    let slope = alteration("shoulder_slope").unwrap();
    let left = apply(slope, &block, &Amounts::of(8.0), Some(WornSide::Left), STYLE).unwrap().pattern;
    let made = done(&left, &Amounts::of(45.0).by("edge", "armholes")).unwrap();
    let names: Vec<String> = facings(&made).iter().map(|piece| piece.kind.name()).collect();
    assert_eq!(names.len(), 4, "{names:?}");
    assert!(names.contains(&"Front armhole facing, left".to_owned()), "{names:?}");
    hold(&left, &made, 45.0, false, "left lower");
}

#[test]
fn what_cannot_be_is_refused_with_its_limit() {
    let block = bodice(&wishing_body()).unwrap();
    let says = |amounts: Amounts| done(&block, &amounts).unwrap_err().to_string();
    assert!(says(Amounts::of(20.0)).contains("at least 3.0 cm"), "{}", says(Amounts::of(20.0)));
    // The shoulder is 124 long.
    assert!(says(Amounts::of(110.0)).contains("at most 10.4 cm"), "{}", says(Amounts::of(110.0)));
    assert!(says(Amounts::of(60.0).by("edge", "upper_edge")).contains("no upper edge"));
    let neck = done(&block, &Amounts::of(104.0)).unwrap();
    // What is left of the shoulder beside it is 20.
    let both = |wide: f64| done(&neck, &Amounts::of(wide).by("edge", "armholes"));
    let told = both(45.0).unwrap_err().to_string();
    assert!(told.contains("over each other: at most 2.0 cm"), "{told}");
    let narrower = done(&block, &Amounts::of(64.0)).unwrap();
    done(&narrower, &Amounts::of(60.0).by("edge", "armholes")).unwrap();
}

/// What a step before the facings says of the edge: with a facing it is drafted again, without one it is to be thought of, and
/// where the edge is gone nothing follows it.
#[test]
fn what_follows_an_edge_is_done_where_its_facing_is_there() {
    let block = bodice(&wishing_body()).unwrap();
    let of = |steps: &[(&str, Amounts)], says: &str| -> Vec<(FollowKind, String)> {
        let mut recipe = Recipe::default();
        for (code, amounts) in steps {
            recipe.take(Decided::new(code, amounts.clone(), ""));
        }
        let made = make(&block, &recipe, STYLE);
        assert!(made.is_whole(), "{steps:?}");
        let follows =
            made.steps.iter().filter_map(|step| step.altered()).flat_map(|done| done.follow_ups.clone());
        follows.filter(|follow| follow.says.contains(says)).map(|follow| (follow.kind, follow.says)).collect()
    };
    let wider = ("neck", Amounts::of(20.0).with("width", 12.0));
    let lower = ("underarm", Amounts::of(14.0));
    let facing = |edge: &str| ("facings", Amounts::of(45.0).by("edge", edge));
    for (step, edge, says) in [(&wider, "neckline", "The neckline is"), (&lower, "armholes", "armhole is")] {
        let [(kind, told)] = of(std::slice::from_ref(step), says).try_into().unwrap();
        assert_eq!(kind, FollowKind::Reminder);
        assert!(!told.contains("drafted again"), "{told}");
        let [(kind, told)] = of(&[step.clone(), facing(edge)], says).try_into().unwrap();
        assert_eq!(kind, FollowKind::Done);
        assert!(told.contains("its facing is drafted again"), "{told}");
        // The other edge's facing does nothing for it.
        let other = if edge == "neckline" { "armholes" } else { "neckline" };
        let [(kind, _)] = of(&[step.clone(), facing(other)], says).try_into().unwrap();
        assert_eq!(kind, FollowKind::Reminder);
    }
    for style in ["strapless_edge", "cut_in_one"] {
        let amounts = if style == "strapless_edge" {
            Amounts::of(130.0)
        } else {
            Amounts::of(560.0).with("upper_arm", 296.0)
        };
        let gone = of(&[(style, amounts)], "of a sleeve follows");
        assert!(gone.is_empty(), "{style}: {gone:?}");
    }
    let gone = of(&[("strapless_edge", Amounts::of(130.0))], "neckline is");
    assert!(gone.is_empty(), "{gone:?}");
}

#[test]
fn neckline_and_armholes_are_faced_in_one_where_the_shoulder_is_short() {
    let mut chance = Chance::new(41);
    let (mut tried, mut refused) = (0, 0);
    let both = |wide: f64| Amounts::of(wide).by("edge", "in_one");
    for body in bodies(40, 91) {
        for block in [one_dart(&body), bodice(&body), dress(&body), proportional(&body)].into_iter().flatten()
        {
            let wide = chance.between(40.0, 65.0);
            let neckline = Amounts::of(chance.between(110.0, 150.0))
                .with("behind", chance.between(40.0, 120.0))
                .with("width", chance.between(215.0, 265.0));
            let Ok(narrow) = apply(alteration("neckline").unwrap(), &block, &neckline, None, STYLE) else {
                continue;
            };
            let parted =
                apply(alteration("princess_line").unwrap(), &narrow.pattern, &Amounts::of(4.0), None, STYLE);
            let edge = match parted {
                Ok(parted) if chance.between(0.0, 1.0) < 0.3 => parted.pattern,
                _ => narrow.pattern,
            };
            let strap = edge.front_half().unwrap().sewn_length(Seam::Shoulder);
            let told = format!("{wide:.1}, strap {strap:.1}, {neckline:?}");
            match done(&edge, &both(wide)) {
                Ok(made) => {
                    in_one_hold(&edge, &made, wide, &told);
                    tried += 1;
                }
                Err(error) => {
                    let says = error.to_string();
                    assert!(
                        says.contains("so far apart")
                            || says.contains("bends too tightly")
                            || says.contains("at most"),
                        "{told}: {says}"
                    );
                    refused += 1;
                }
            }
        }
    }
    assert!(tried > 80, "{tried} made, {refused} refused");
    // A wide shoulder has a facing of each.
    let block = dress(&wishing_body()).unwrap();
    assert!(done(&block, &both(40.0)).unwrap_err().to_string().contains("a facing of each"));
    // A narrow one says so where each is asked for by itself, and both edges are faced then.
    let wide_neck = Amounts::of(140.0).with("behind", 80.0).with("width", 240.0);
    let narrow = apply(alteration("neckline").unwrap(), &block, &wide_neck, None, STYLE).unwrap().pattern;
    let says = done(&narrow, &Amounts::of(60.0)).unwrap_err().to_string();
    assert!(says.contains("or neckline and armholes in one"), "{says}");
    let made = done(&narrow, &both(60.0)).unwrap();
    for edge in ["neckline", "armholes", "in_one"] {
        let again = done(&made, &Amounts::of(60.0).by("edge", edge)).unwrap_err().to_string();
        assert!(again.contains("already"), "{edge}: {again}");
    }
}

/// What must hold of facings in one: both edges and the whole shoulder as they are sewn, nowhere nearer to them than the width.
fn in_one_hold(before: &Pattern, made: &Pattern, wide: f64, told: &str) {
    outlines_are_simple(made);
    made.validate().unwrap();
    nothing_turned_red(before, made, told);
    let own = facings(made);
    assert_eq!(own.len(), 2, "{told}");
    cutting_lines_stand_off(own.iter().copied(), told);
    assert_eq!(walk(made).iter().filter(|walked| walked.one.is_facing()).count(), 4, "{told}");
    for facing in &own {
        let half = if facing.kind.covers() == Covers::Front { made.front_half() } else { made.back_half() };
        let half = half.unwrap();
        for seam in [Seam::Neckline, Seam::Armhole, Seam::Shoulder] {
            let (is, wanted) = (facing.flat_length(seam), half.sewn_length(seam));
            assert!((is - wanted).abs() < 0.05, "{told}: {} {is} for {wanted}", seam.name());
        }
        let lies: Vec<Point> = [Seam::Neckline, Seam::Armhole]
            .into_iter()
            .flat_map(|seam| facing.edges_of(seam))
            .flat_map(|edge| edge.curve.flattened(0.01))
            .collect();
        let neck_ends =
            facing.edges_of(Seam::Neckline).map(|edge| edge.curve.flattened(0.01).len()).sum::<usize>();
        let line = &outer(facing).curve;
        let count = (line.length() / 2.0) as u32;
        for n in 0..=count {
            let along = line.length() * f64::from(n) / f64::from(count);
            let at = line.point_at(along);
            let off = away(&lies[..neck_ends], at).min(away(&lies[neck_ends..], at));
            let is_end = along < 35.0 || along > line.length() - 35.0;
            let play = if is_end { 0.16 * wide } else { 0.3 };
            assert!(off > wide - play, "{told}: {} {off} from the edges", facing.kind.name());
            // Where the one goes round into the other it reaches further in.
            assert!(is_end || off < wide + 45.0, "{told}: {} {off} from the edges", facing.kind.name());
        }
        // Its outer edge has no corner but at its ends.
        assert!(
            line.corners().iter().all(|(_, degrees)| degrees.abs() < 3.0),
            "{told}: {:?}",
            line.corners()
        );
    }
}
