//! How an alteration is told: every one in stages that can be drawn, read and played.

use crate::common::bodies;
use kurbo::{BezPath, Shape};
use yardwand_core::Style;
use yardwand_core::alter::{
    Alteration, Amounts, Recipe, StageKind, alteration, apply, preview, registry, suits,
};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{Pattern, PieceKind, Seam};

const STYLE: Style = Style::EIGHTHS;

fn block() -> Pattern {
    drafted(MethodKind::Direct)
}

/// The bodice, or the dress where an alteration is for what goes on below the waist, the skirt where it is for that, or a
/// bodice without shoulders, or one with a close sleeve.
fn block_for(known: &dyn Alteration) -> Pattern {
    let others = [MethodKind::Dress, MethodKind::Skirt].into_iter().map(drafted);
    let edge = alteration("strapless_edge").unwrap();
    let strapless = || apply(edge, &block(), &some("strapless_edge"), None, STYLE).unwrap().pattern;
    let close = || {
        let amounts = Amounts::of(585.0).with("opening", 205.0).by("opens", "slit");
        apply(alteration("sleeve_shape").unwrap(), &block(), &amounts, None, STYLE).unwrap().pattern
    };
    let all = std::iter::once(block()).chain(others);
    let all = all.chain(std::iter::once_with(strapless)).chain(std::iter::once_with(close));
    { all }.find(|block| suits(known, block)).unwrap()
}

fn drafted(kind: MethodKind) -> Pattern {
    let direct = Direct { waist_dart_keeps: 38.0, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    bodies(8, 3).iter().find_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).unwrap()
}

/// An amount each alteration takes on any block: a fifth of what it goes to, a whole share.
fn some(code: &str) -> Amounts {
    let first = alteration(code).unwrap().params()[0];
    let mm = match code {
        // A cup reaches over the bust point.
        "strapless_edge" => 120.0,
        "facings" => 60.0,
        "pleat" => 50.0,
        "curve_dart" => 4.0,
        "elbow_dart" => 4.0,
        // A sleeve goes beyond the shoulder.
        "cut_in_one" => 560.0,
        _ if first.high <= 1.0 => first.high.min(0.6),
        _ => first.high / 5.0,
    };
    let amounts = Amounts::of(mm);
    match code {
        "true_up" => amounts.by("what", "waist"),
        "joined_skirt" => Amounts::of(600.0).with("hip", 1200.0).with("to_hip", 205.0),
        "off_shoulder_band" => amounts.with("round", 1400.0),
        _ => amounts,
    }
}

#[test]
fn every_alteration_is_told_from_marking_to_truing() {
    for known in registry() {
        let block = block_for(*known);
        let recipe = Recipe::default().and(known.code(), some(known.code()), "");
        let shown = preview(&block, &recipe, None, STYLE);
        assert!(shown.steps[0].says.is_none(), "{}: {:?}", known.code(), shown.steps[0].says);
        let kinds: Vec<StageKind> = shown.stages.iter().map(|stage| stage.kind).collect();
        assert_eq!(kinds.first(), Some(&StageKind::Mark), "{}", known.code());
        assert_eq!(kinds.last(), Some(&StageKind::True), "{}", known.code());
        for stage in &shown.stages {
            let words = &stage.words;
            assert!(words.ends_with('.') && words.len() > 20, "{}: {words}", known.code());
            assert!(!words.contains('{') && !words.contains("  "), "{}: {words}", known.code());
            assert!(!stage.drawings.is_empty(), "{} {}", known.code(), stage.kind.name());
        }
    }
}

#[test]
fn every_stage_can_be_drawn() {
    let size = |path: &str| BezPath::from_svg(path).map(|path| path.bounding_box()).unwrap();
    for known in registry() {
        let block = block_for(*known);
        let recipe = Recipe::default().and(known.code(), some(known.code()), "");
        let shown = preview(&block, &recipe, None, STYLE);
        let there: Vec<PieceKind> = shown.before.iter().chain(&shown.now).map(|piece| piece.kind).collect();
        for (stage, drawing) in
            shown.stages.iter().flat_map(|stage| stage.drawings.iter().map(move |d| (stage, d)))
        {
            let told = format!("{} {}", known.code(), stage.kind.name());
            assert!(there.contains(&drawing.piece), "{told}: {}", drawing.piece.name());
            let areas: Vec<&String> =
                [&drawing.outline].into_iter().filter(|path| !path.is_empty()).collect();
            let areas: Vec<&String> =
                areas.into_iter().chain(&drawing.still).chain(&drawing.moving).collect();
            assert!(!areas.is_empty(), "{told}: nothing is drawn");
            let whole = areas.iter().map(|path| size(path)).reduce(|a, b| a.union(b)).unwrap();
            // A strip is narrow.
            let (narrow, wide) = (whole.width().min(whole.height()), whole.width().max(whole.height()));
            assert!(whole.is_finite() && narrow > 15.0 && wide > 40.0, "{told}: {whole:?}");
            for line in &drawing.lines {
                assert!(size(line).is_finite(), "{told}: {line}");
            }
            for hinge in &drawing.hinges {
                assert!(hinge.x.is_finite() && hinge.y.is_finite());
            }
        }
    }
}

#[test]
fn every_line_the_words_speak_of_is_named_on_a_drawing() {
    let seams: Vec<&str> = Seam::ALL.into_iter().map(Seam::name).filter(|name| *name != "dart leg").collect();
    let mut named = 0;
    for known in registry() {
        let block = block_for(*known);
        let recipe = Recipe::default().and(known.code(), some(known.code()), "");
        for stage in preview(&block, &recipe, None, STYLE).stages {
            let words = stage.words.to_lowercase();
            let names: Vec<&str> = stage
                .drawings
                .iter()
                .flat_map(|drawing| &drawing.names)
                .map(|each| each.name.as_str())
                .collect();
            let drawn = |seam: &str| {
                let has = |kind: PieceKind| {
                    block.piece(kind).is_some_and(|piece| piece.edges.iter().any(|e| e.seam.name() == seam))
                };
                stage.drawings.iter().any(|drawing| has(drawing.piece))
            };
            for seam in seams.iter().filter(|seam| words.contains(&format!("the {seam}")) && drawn(seam)) {
                // A dart's name holds its seam's.
                if !words.contains(&format!("{seam} dart")) {
                    assert!(
                        names.contains(seam),
                        "{} {}: {words} names only {names:?}",
                        known.code(),
                        stage.kind.name()
                    );
                    named += 1;
                }
            }
            for drawing in &stage.drawings {
                let piece = block.piece(drawing.piece);
                // What is drawn on lies beyond the old outline by what it is drawn on.
                let reach = 80.0 + some(known.code()).amount().abs();
                let near = piece.map(|piece| piece.bounds().inflate(reach, reach));
                for each in &drawing.names {
                    assert!(
                        near.is_none_or(|near| near.contains(kurbo::Point::new(each.at.x, each.at.y))),
                        "{}: {each:?}",
                        known.code()
                    );
                }
            }
        }
    }
    assert!(named > 20, "{named}");
    let full_bust =
        preview(&block(), &Recipe::default().and("full_bust", Amounts::of(12.7), ""), None, STYLE);
    let marked: Vec<&str> =
        full_bust.stages[0].drawings[0].names.iter().map(|each| each.name.as_str()).collect();
    for name in ["line 1", "line 2", "line 3", "hinge", "bust point"] {
        assert!(marked.contains(&name), "{name} is not among {marked:?}");
    }
}

#[test]
fn a_handle_lies_where_the_amount_has_brought_it_and_follows_the_hand() {
    for known in registry() {
        let block = block_for(*known);
        let amounts = some(known.code());
        let at = |amounts: Amounts| {
            preview(&block, &Recipe::default().and(known.code(), amounts, ""), None, STYLE).handle
        };
        let (Some(rest), Some(moved)) = (at(Amounts::of(0.0)), at(amounts.clone())) else { continue };
        let along = (rest.along.x, rest.along.y);
        let reach = f64::hypot(along.0, along.1);
        assert!((0.4..=1.01).contains(&reach), "{}: {reach}", known.code());
        // What the hand covers along the handle's way is the amount, so that the point stays under it.
        let by = ((moved.at.x - rest.at.x) * along.0 + (moved.at.y - rest.at.y) * along.1) / (reach * reach);
        let mm = amounts.amount();
        assert!((by - mm).abs() < 0.6 * mm.abs() + 1.0, "{}: the handle went {by} for {mm}", known.code());
    }
}

#[test]
fn the_step_in_hand_is_the_one_that_is_told() {
    let block = block();
    let recipe = Recipe::default()
        .and("full_bust", Amounts::of(8.0), "")
        .and("underarm", Amounts::of(6.0), "")
        .and("sway_back", Amounts::of(6.0), "");
    let told = |in_hand: Option<u32>| preview(&block, &recipe, in_hand, STYLE).stages[0].words.clone();
    assert!(told(Some(1)).contains("bust point"), "{}", told(Some(1)));
    assert!(told(Some(2)).contains("underarm"), "{}", told(Some(2)));
    assert_eq!(told(None), told(Some(3)));
    // One that is switched off or refused has nothing to tell, and the drawing is of the rest.
    let mut off = recipe.clone();
    off.steps[1].on = false;
    let shown = preview(&block, &off, Some(2), STYLE);
    assert!(shown.stages.is_empty() && shown.handle.is_none() && shown.moved.is_empty());
}

#[test]
fn an_amount_is_told_in_every_way_that_could_be_mixed_up() {
    let block = block();
    let told = |code: &str, mm: f64| {
        let shown = preview(&block, &Recipe::default().and(code, Amounts::of(mm), ""), None, STYLE);
        let views = &shown.steps[0].amounts;
        views.iter().map(|view| format!("{} {}", view.amount.text, view.on)).collect::<Vec<_>>().join(", ")
    };
    assert_eq!(told("full_bust", 12.7), "1 on the body, 1/2 per half");
    assert_eq!(told("side_seams", 6.35), "1 on the body, 1/2 per half, 1/4 on each edge");
    assert_eq!(told("shoulder_length", 6.35), "1/4 on the seam, front and back");
    assert_eq!(told("shoulder_slope", 6.35), "1/4 on each side");
    assert_eq!(told("gaping_armhole", 12.7), "1/2 taken in, 1/4 as the tuck stands up");
    assert_eq!(told("sway_back", 12.7), "1/2 here");
}
