//! Every alteration on every block (handbook: `alterations.md`, section 5.4): each keeps what it promises there, or says by
//! which fact of geometry it cannot.

use std::collections::BTreeMap;

use crate::common::bodies;
use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Decided, Given, Recipe, alteration, make, registry};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{CheckCode, DartPlace, Pattern, WornSide, check_pattern, measure};

const STYLE: Style = Style::EIGHTHS;
const EXACT: f64 = 0.01;
const GROWN: f64 = 0.05;
/// Bodies a block.
const BODIES: usize = 6;

/// An alteration by its code, its amount, and the ways it is done in that are not the first.
type Try = (&'static str, f64, &'static [(&'static str, &'static str)]);

/// A usual amount of every alteration, in millimetres or as a share, with a way that is not the first (common practice, no
/// source).
fn usual() -> Vec<Try> {
    let plain = [
        ("length", 12.0),
        ("front_balance", 8.0),
        ("rounded_back", 12.0),
        ("full_bust", 12.0),
        ("shoulder_length", 6.0),
        ("narrow_shoulder", 6.0),
        ("narrow_shoulder_slash", 6.0),
        ("shoulder_slope", 6.0),
        ("forward_shoulder", 6.0),
        ("back_width", 5.0),
        ("front_width", 3.0),
        ("neck", 6.0),
        ("side_seams", 4.0),
        ("underarm", 6.0),
        ("gaping_armhole", 6.0),
        ("gaping_neckline", 5.0),
        ("sway_back", 8.0),
        ("move_dart", 0.5),
        ("split_dart", 0.5),
        ("gather_dart", 1.0),
        ("princess_line", 6.0),
        ("biceps_width", 8.0),
        ("sleeve_width", 10.0),
        ("cap_height", 5.0),
        ("half_cap", 4.0),
        ("dart_point", 6.0),
        ("true_up", 20.0),
    ];
    let ways: [Try; 6] = [
        ("rounded_back", 12.0, &[("finish", "neck_dart")]),
        ("rounded_back", 3.0, &[("finish", "shoulder_dart")]),
        ("full_bust", 12.0, &[("below_waist", "at_hip")]),
        ("princess_line", 6.0, &[("from", "shoulder")]),
        ("princess_line", 0.0, &[("piece", "back")]),
        ("princess_line", 0.0, &[("piece", "back"), ("from", "shoulder")]),
    ];
    plain.into_iter().map(|(code, mm)| (code, mm, &[] as &[_])).chain(ways).collect()
}

fn drafted(kind: MethodKind, one_dart: bool) -> Vec<Pattern> {
    let direct = Direct { waist_dart_keeps: 38.0, one_dart, ..Direct::default() };
    let method = Method { kind, with_sleeve: true, direct, ..Method::default() };
    bodies(BODIES, 71).iter().filter_map(|body| Some(draft(body, &method, STYLE).ok()?.pattern)).collect()
}

/// A block, and what was done to it already.
type Begun = (Pattern, Recipe);

fn blocks() -> Vec<(&'static str, Vec<Begun>)> {
    let plain =
        |patterns: Vec<Pattern>| patterns.into_iter().map(|p| (p, Recipe::default())).collect::<Vec<_>>();
    let after = |recipe: Recipe| {
        let begun = drafted(MethodKind::Direct, false).into_iter().map(|p| (p, recipe.clone()));
        begun.filter(|(p, recipe)| make(p, recipe, STYLE).is_whole()).collect::<Vec<_>>()
    };
    let fitted = Recipe::default()
        .and("rounded_back", Amounts::of(6.0), "")
        .and("full_bust", Amounts::of(6.0), "")
        .and("shoulder_slope", Amounts::of(4.0), "");
    let own = after(fitted.clone()).into_iter().map(|(p, recipe)| make(&p, &recipe, STYLE).pattern);
    vec![
        ("direct, one dart", plain(drafted(MethodKind::Direct, true))),
        ("direct, two darts", plain(drafted(MethodKind::Direct, false))),
        ("dress", plain(drafted(MethodKind::Dress, false))),
        ("proportional", plain(drafted(MethodKind::Proportional, false))),
        ("her own", plain(own.collect())),
        ("princess", after(Recipe::default().and("princess_line", Amounts::of(4.0), ""))),
        ("gathers", after(Recipe::default().and("gather_dart", Amounts::of(1.0), ""))),
        (
            "left and right",
            after(Recipe::default().and("shoulder_slope", Amounts::of(5.0), "").on_one_side(WornSide::Left)),
        ),
    ]
}

/// The ways an alteration is done in on a block: a dart that is there goes to where the piece has a seam; where a style line
/// or gathers take the front's waist dart, the dart is another one.
fn ways(block: &Pattern, begun: &Recipe, code: &str, amounts: Amounts) -> Amounts {
    let front = block.front().unwrap();
    let has = |place| front.dart(place).is_some();
    let takes = |code: &str| begun.steps.iter().any(|step| step.alteration == code);
    match code {
        // The gape is pinned where it points at the bust.
        "princess_line" if amounts.0.contains_key("from") => amounts.with("place", 0.65),
        "dart_point" | "split_dart" if takes("princess_line") => amounts.by("piece", "back"),
        "gather_dart" if !has(DartPlace::Waist) || takes("princess_line") || takes("gather_dart") => {
            amounts.by("dart", "side")
        }
        "move_dart" if has(DartPlace::Armhole) => amounts.by("from", "armhole").by("to", "shoulder"),
        "move_dart" if !has(DartPlace::Side) => amounts.by("from", "waist").by("to", "side"),
        "move_dart" if !has(DartPlace::Waist) => amounts.by("from", "side").by("to", "armhole"),
        _ => amounts,
    }
}

/// What became of a cell on one pattern.
fn tried(block: &Pattern, begun: &Recipe, (code, mm, by): Try) -> Result<(), String> {
    let known = alteration(code).unwrap();
    let amounts = by.iter().fold(Amounts::of(mm), |amounts, (param, way)| amounts.by(param, way));
    let amounts = ways(block, begun, code, amounts);
    let mut recipe = begun.clone();
    let taken = recipe.take(Decided::new(code, amounts.clone(), ""));
    let made = make(block, &recipe, STYLE);
    let index = made.steps.iter().position(|step| step.step.id == taken.step).unwrap();
    let refused = made.steps.iter().find_map(|step| {
        let error: &AlterError = step.outcome.as_ref()?.as_ref().err()?;
        Some(format!("{}: {error}", step.step.alteration))
    });
    if let Some(refused) = refused {
        // A fresh block runs smooth and square: there is nothing to true, and that is said.
        let is_true = code == "true_up" && refused.contains("nothing to true there");
        return if is_true { Ok(()) } else { Err(format!("refused, {refused}")) };
    }
    let before = made.steps[..index].iter().rev().find_map(|step| step.outcome.as_ref()?.as_ref().ok());
    let before = before.map_or(block, |altered| &altered.pattern);
    let altered = made.steps[index].outcome.as_ref().unwrap().as_ref().unwrap();
    // What an earlier step drew already on the left is looked at on the right alone.
    let drawn = usize::from(made.steps[index].drawn_with.is_some());
    for (was, taped, now) in sides(before, &altered.taped, &altered.pattern).into_iter().skip(drawn) {
        let (was, taped, now) = (measure(&was), measure(&taped), measure(&now));
        let given = Given::new(known.params(), &amounts);
        for (figure, cost) in known.keeps(&given).iter() {
            let Some(then) = was.get(figure) else { continue };
            let off = |of: Option<f64>| of.map_or(f64::NAN, |is| (is - then).abs());
            let exact = if mm.abs() < known.drawn_from() { 0.15 } else { EXACT };
            let (laid, is) = (off(taped.get(figure)), off(now.get(figure)));
            if laid.is_nan() || is.is_nan() || laid > exact || is > cost + exact {
                return Err(format!("{} does not stay: {is:.3}", figure.name()));
            }
        }
        for (figure, by) in known.grows(&given) {
            let Some(then) = was.get(figure) else { continue };
            let grown = now.get(figure).map_or(f64::NAN, |is| is - then);
            if (grown - by).abs() > GROWN || grown.is_nan() {
                return Err(format!("{} grows by {grown:.3} instead of {by:.3}", figure.name()));
            }
        }
    }
    let failing = |pattern: &Pattern| -> Vec<CheckCode> {
        check_pattern(pattern, STYLE)
            .into_iter()
            .filter(|check| !check.passed)
            .map(|check| check.code)
            .collect()
    };
    let without = failing(&make(block, begun, STYLE).pattern);
    // A dart above the width that sews flat is offered to be split; a seam that leans more is said by the check.
    let told = [CheckCode::Darts, CheckCode::SideBalance];
    match failing(&made.pattern).into_iter().find(|code| !without.contains(code) && !told.contains(code)) {
        Some(code) => Err(format!("the check {code:?} fails")),
        None => Ok(()),
    }
}

fn sides(before: &Pattern, taped: &Pattern, after: &Pattern) -> Vec<(Pattern, Pattern, Pattern)> {
    if !after.is_sided() {
        return vec![(before.clone(), taped.clone(), after.clone())];
    }
    WornSide::BOTH.map(|side| (before.worn_on(side), taped.worn_on(side), after.worn_on(side))).into()
}

#[test]
fn every_alteration_holds_on_every_block_or_says_why_not() {
    let usual = usual();
    for known in registry() {
        assert!(usual.iter().any(|(code, ..)| *code == known.code()), "{} has no usual amount", known.code());
    }
    let blocks = blocks();
    let (mut held, mut cells) = (0, 0);
    let mut why: Vec<String> = Vec::new();
    eprint!("{:<34}", "");
    blocks.iter().for_each(|(name, _)| eprint!("{name:>19}"));
    eprintln!();
    for (code, mm, by) in &usual {
        if std::env::var("CELLS").is_ok_and(|only| !only.split(',').any(|each| each == *code)) {
            continue;
        }
        let name = by.iter().fold(String::from(*code), |name, (_, way)| format!("{name}, {way}"));
        eprint!("{name:<34}");
        let alteration = name;
        for (name, patterns) in &blocks {
            let mut reasons: BTreeMap<String, usize> = BTreeMap::new();
            for (block, begun) in patterns {
                if let Err(reason) = tried(block, begun, (*code, *mm, *by)) {
                    *reasons.entry(reason).or_default() += 1;
                }
            }
            let bad: usize = reasons.values().sum();
            cells += 1;
            held += usize::from(bad == 0);
            eprint!("{:>19}", format!("{} of {}", patterns.len() - bad, patterns.len()));
            if let Some((reason, count)) = reasons.into_iter().max_by_key(|(_, count)| *count) {
                why.push(format!("{alteration} on {name}: {count} times {reason}"));
            }
        }
        eprintln!();
    }
    eprintln!("{held} of {cells} cells hold on every body");
    why.iter().for_each(|line| eprintln!("  {line}"));
    assert!(held * 100 >= cells * 88, "{held} of {cells}");
}
