//! Every alteration on every block (handbook: `alterations.md`, section 5.4): each keeps what it promises there, or says by
//! which fact of geometry it cannot.

use std::collections::BTreeMap;

use crate::common::bodies;
use yardwand_core::Style;
use yardwand_core::alter::{AlterError, Amounts, Args, Decided, Recipe, alteration, make, registry};
use yardwand_core::draft::{Direct, Method, MethodKind, draft};
use yardwand_core::pattern::{
    CheckCode, DartPlace, Pattern, PatternMeasure, Seam, WornSide, check_pattern, measure,
};

const STYLE: Style = Style::EIGHTHS;
const EXACT: f64 = 0.01;
const GROWN: f64 = 0.05;
/// Bodies a block.
const BODIES: usize = 40;

/// An alteration by its code, its amount, and the ways it is done in that are not the first.
pub(crate) type Try = (&'static str, f64, &'static [(&'static str, &'static str)]);

/// A usual amount of every alteration, in millimetres or as a share, with a way that is not the first (common practice, no
/// source).
pub(crate) fn usual() -> Vec<Try> {
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
        ("seat_length", -8.0),
        ("belly_length", 8.0),
        ("neck_forward", 6.0),
        ("side_seam_place", 5.0),
        ("hip_curve", -4.0),
        ("move_dart", 0.5),
        ("split_dart", 0.5),
        ("gather_dart", 1.0),
        ("neckline", 150.0),
        ("hem_length", 400.0),
        ("high_hip", 15.0),
        ("skirt_rise", -10.0),
        ("skirt_dart", -15.0),
        ("skirt_belly", 15.0),
        ("skirt_seat", -15.0),
        ("skirt_length", 80.0),
        ("sleeve_shape", 380.0),
        ("princess_line", 6.0),
        ("under_bust_seam", 65.0),
        ("strapless_edge", 115.0),
        ("cut_in_one", 600.0),
        ("biceps_width", 8.0),
        ("sleeve_width", 10.0),
        ("cap_height", 5.0),
        ("half_cap", 4.0),
        ("sleeve_turn", 8.0),
        ("elbow_dart", 5.0),
        ("dart_point", 6.0),
        ("true_up", 20.0),
        ("facings", 45.0),
        ("collar_stand", 35.0),
        ("waistband", 35.0),
        ("joined_skirt", 600.0),
        ("pleat", 40.0),
        ("curve_dart", 3.0),
        ("cuffs", 60.0),
        ("bias_strips", 32.0),
        ("off_shoulder_band", 70.0),
    ];
    let ways: [Try; 7] = [
        ("neckline", 160.0, &[("shape", "v")]),
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
pub(crate) type Begun = (Pattern, Recipe);
/// A kind of block by its name, on many bodies.
pub(crate) type Block = (&'static str, Vec<Begun>);

/// A block with what its checks already say before anything is tried.
struct Ready<'a> {
    block: &'a Pattern,
    begun: &'a Recipe,
    failing: Vec<CheckCode>,
}

impl<'a> Ready<'a> {
    fn of((block, begun): &'a Begun) -> Self {
        Self { block, begun, failing: failing(&make(block, begun, STYLE).pattern) }
    }
}

fn failing(pattern: &Pattern) -> Vec<CheckCode> {
    { check_pattern(pattern, STYLE).into_iter() }
        .filter(|check| !check.passed)
        .map(|check| check.code)
        .collect()
}

pub(crate) fn blocks() -> Vec<Block> {
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
        ("under the bust", after(Recipe::default().and("under_bust_seam", Amounts::of(65.0), ""))),
        (
            "left and right",
            after(Recipe::default().and("shoulder_slope", Amounts::of(5.0), "").on_one_side(WornSide::Left)),
        ),
        ("skirt", plain(drafted(MethodKind::Skirt, false))),
    ]
}

/// The ways an alteration is done in on a block: a dart that is there goes to where the piece has a seam; where a style line
/// or gathers take the front's waist dart, the dart is another one.
pub(crate) fn ways(block: &Pattern, begun: &Recipe, code: &str, amounts: Amounts) -> Amounts {
    let Some(front) = block.front() else {
        // A skirt has no bust: its side seams are let out below it.
        let mm = amounts.amount();
        return match code {
            "side_seams" => Amounts::default().with("waist", mm).with("hip", mm),
            _ => amounts,
        };
    };
    let has = |place| front.dart(place).is_some();
    let takes = |code: &str| takes(begun, code);
    match code {
        // Half a metre over both arms.
        "off_shoulder_band" => {
            let bust = measure(block).get(PatternMeasure::Bust).unwrap_or_default();
            amounts.with("round", bust + 400.0)
        }
        // A hip that the waist's darts lead to.
        "joined_skirt" => {
            let waist = measure(block).get(PatternMeasure::Waist).unwrap_or_default();
            amounts.with("hip", waist + 200.0).with("to_hip", 205.0)
        }
        // A dart that reaches a seam, and is there still.
        "pleat" | "curve_dart"
            if !has(DartPlace::Waist)
                || ["princess_line", "gather_dart", "under_bust_seam"].iter().any(|code| takes(code)) =>
        {
            amounts.by("piece", "back").by("dart", "shoulder")
        }
        // The gape is pinned where it points at the bust.
        "princess_line" if amounts.0.contains_key("from") => amounts.with("place", 0.65),
        "dart_point" | "split_dart" if takes("princess_line") => amounts.by("piece", "back"),
        // In front all is gathered.
        "dart_point" if takes("under_bust_seam") => amounts.by("piece", "back"),
        "gather_dart"
            if !has(DartPlace::Waist)
                || ["princess_line", "gather_dart", "under_bust_seam"].iter().any(|code| takes(code)) =>
        {
            amounts.by("dart", "side")
        }
        "move_dart" if has(DartPlace::Armhole) => amounts.by("from", "armhole").by("to", "shoulder"),
        "move_dart" if !has(DartPlace::Side) => amounts.by("from", "waist").by("to", "side"),
        "move_dart" if !has(DartPlace::Waist) => amounts.by("from", "side").by("to", "armhole"),
        _ => amounts,
    }
}

/// What must be decided before an alteration has its edge.
fn decided_before(code: &str) -> Option<(&'static str, Amounts)> {
    match code {
        "off_shoulder_band" => Some(("strapless_edge", Amounts::of(115.0))),
        // A close sleeve follows the forearm.
        "elbow_dart" => Some(("sleeve_shape", Amounts::of(560.0).with("opening", 205.0).by("opens", "slit"))),
        _ => None,
    }
}

/// Whether a recipe has such a step.
fn takes(recipe: &Recipe, code: &str) -> bool {
    recipe.steps.iter().any(|step| step.alteration == code)
}

/// What became of a cell on one pattern.
fn tried(ready: &Ready<'_>, (code, mm, by): Try) -> Result<(), String> {
    let Ready { block, begun, .. } = *ready;
    if let Some((first, amounts)) = decided_before(code).filter(|(first, _)| !takes(begun, first)) {
        let begun = (block.clone(), begun.clone().and(first, amounts, ""));
        if let Some((step, why)) = make(block, &begun.1, STYLE).refused().next() {
            return Err(format!("refused, {}: {why}", step.alteration));
        }
        return tried(&Ready::of(&begun), (code, mm, by));
    }
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
        let args = Args::new(known.params(), &amounts);
        for (figure, cost) in known.keeps(&args).iter() {
            let Some(then) = was.get(figure) else { continue };
            let off = |of: Option<f64>| of.map_or(f64::NAN, |is| (is - then).abs());
            let exact = if mm.abs() < known.drawn_from() { 0.15 } else { EXACT };
            let (laid, is) = (off(taped.get(figure)), off(now.get(figure)));
            if laid.is_nan() || is.is_nan() || laid > exact || is > cost + exact {
                return Err(format!("{} does not stay: {is:.3}", figure.name()));
            }
        }
        for (figure, by) in known.grows(&args) {
            let Some(then) = was.get(figure) else { continue };
            let grown = now.get(figure).map_or(f64::NAN, |is| is - then);
            if (grown - by).abs() > GROWN || grown.is_nan() {
                return Err(format!("{} grows by {grown:.3} instead of {by:.3}", figure.name()));
            }
        }
    }
    // A dart above the width that sews flat is offered to be split; a seam that leans more is said by the check.
    let told = [CheckCode::Darts, CheckCode::SideBalance];
    match failing(&made.pattern)
        .into_iter()
        .find(|code| !ready.failing.contains(code) && !told.contains(code))
    {
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

/// On how many bodies of a block an alteration holds, of how many, and why it does not on the others; of none, where the
/// block is another garment than it is for, or a seam that shuts it out has parted it.
type Cell = (usize, usize, Option<String>);

/// A row of the table: an alteration in one of its ways, block by block.
struct Row {
    name: String,
    cells: Vec<Cell>,
}

/// Whether an alteration is for the garment that a block is of: a hem below the waist is for one that goes on there.
fn is_for_the_garment(code: &str, begun: &[Begun]) -> bool {
    let known = alteration(code).unwrap();
    begun.first().is_some_and(|(block, _)| {
        let has_hem = block.front().is_none_or(|front| front.last_edge(Seam::Hem).is_some());
        let below_the_waist = ["hem_length", "hip_curve", "seat_length", "belly_length"].contains(&code);
        known.garments().contains(&block.garment()) && (!below_the_waist || has_hem)
    })
}

/// Whether a seam that parts front and back is tried where another one has parted them, or one that parts both where the
/// front's waist dart is gathered: the two shut each other out.
fn is_shut_out(code: &str, begun: &[Begun]) -> bool {
    let both = ["under_bust_seam", "strapless_edge", "cut_in_one"];
    let code = decided_before(code).map_or(code, |(first, _)| first);
    let parts = |code: &str| both.contains(&code) || code == "princess_line";
    let is_other =
        |other: &str| (parts(other) && other != code) || (other == "gather_dart" && both.contains(&code));
    parts(code) && begun.iter().any(|(_, recipe)| recipe.steps.iter().any(|step| is_other(&step.alteration)))
}

/// What every alteration does on every block, block by block on two threads.
fn measured(usual: &[Try], blocks: &[Block]) -> Vec<Row> {
    let of_block = |(name, begun): &Block| -> Vec<Cell> {
        let ready: Vec<Ready> = begun.iter().map(Ready::of).collect();
        let cell = |each: &Try| {
            let mut reasons: BTreeMap<String, usize> = BTreeMap::new();
            if !is_for_the_garment(each.0, begun) || is_shut_out(each.0, begun) {
                return (0, 0, None);
            }
            for ready in &ready {
                if let Err(reason) = tried(ready, *each) {
                    *reasons.entry(reason).or_default() += 1;
                }
            }
            let bad: usize = reasons.values().sum();
            let most = reasons.into_iter().max_by_key(|(_, count)| *count);
            (ready.len() - bad, ready.len(), most.map(|(reason, _)| reason))
        };
        let cells: Vec<_> = usual.iter().map(cell).collect();
        eprintln!("{name}: {} of {} hold", cells.iter().filter(|cell| cell.0 == cell.1).count(), cells.len());
        cells
    };
    let columns: Vec<_> = std::thread::scope(|scope| {
        let half = |which: usize| blocks.iter().skip(which).step_by(2).map(of_block).collect::<Vec<_>>();
        let other = scope.spawn(move || half(1));
        let (mut even, mut odd) = (half(0).into_iter(), other.join().unwrap().into_iter());
        (0..blocks.len()).filter_map(|index| if index % 2 == 0 { even.next() } else { odd.next() }).collect()
    });
    let row = |(index, (code, _, by)): (usize, &Try)| {
        let own = alteration(code).unwrap().name();
        let name =
            by.iter().fold(own.to_owned(), |name, (_, way)| format!("{name}, {}", way.replace('_', " ")));
        Row { name, cells: columns.iter().map(|column| column[index].clone()).collect() }
    };
    usual.iter().enumerate().map(row).collect()
}

/// The table as it stands in `docs/alterations.md`; every cell that does not hold has its reason under it.
fn written(rows: &[Row], blocks: &[Block]) -> String {
    let names: Vec<&str> = blocks.iter().map(|(name, _)| *name).collect();
    let mut table = format!("| | {} |\n|---|{}\n", names.join(" | "), "---|".repeat(names.len()));
    let mut reasons: Vec<String> = Vec::new();
    for row in rows {
        let cell = |(index, (held, of, why)): (usize, &Cell)| match why {
            None if *of == 0 => "\u{2013}".to_owned(),
            None => "holds".to_owned(),
            Some(why) => {
                reasons.push(format!("{}, {}: {why}", row.name, names[index]));
                format!("{held} of {of} ({})", reasons.len())
            }
        };
        let cells: Vec<String> = row.cells.iter().enumerate().map(cell).collect();
        table += &format!("| {} | {} |\n", row.name, cells.join(" | "));
    }
    let numbered = reasons.iter().enumerate().map(|(index, why)| format!("{}. {why}\n", index + 1));
    format!("{table}\n{}", numbered.collect::<String>())
}

/// The table for the page that shows the alterations.
#[allow(dead_code, reason = "the program that writes the page asks for it")]
pub(crate) fn table() -> String {
    let (usual, blocks) = (usual(), blocks());
    written(&measured(&usual, &blocks), &blocks)
}

#[test]
fn every_alteration_holds_on_every_block_or_says_why_not() {
    let mut usual = usual();
    for known in registry() {
        assert!(usual.iter().any(|(code, ..)| *code == known.code()), "{} has no usual amount", known.code());
    }
    let only = std::env::var("CELLS").ok();
    usual.retain(|(code, ..)| only.as_ref().is_none_or(|only| only.split(',').any(|each| each == *code)));
    let blocks = blocks();
    let rows = measured(&usual, &blocks);
    let table = written(&rows, &blocks);
    eprintln!("{table}");
    let cells = || rows.iter().flat_map(|row| &row.cells).filter(|(_, of, _)| *of > 0);
    let held = cells().filter(|(held, of, _)| held == of).count();
    eprintln!("{held} of {} cells hold on every body", cells().count());
    if only.is_none() {
        // Of those left some want another body or a part that is there already: each has its reason in the table.
        assert!(held * 100 >= cells().count() * 96, "{held} of {}", cells().count());
        let page = std::path::Path::new(env!("CARGO_MANIFEST_DIR")).join("../../docs/alterations.md");
        let page = std::fs::read_to_string(page).unwrap();
        assert!(page.contains(&table), "the table of the page is another: run `cargo xtask shots`");
    }
}
