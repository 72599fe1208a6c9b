//! What the cutting table shows of a recipe: before, now, what moved, figures, checks and stages.

use serde::{Deserialize, Serialize};

use super::amounts::said;
use super::told::svg;
use super::{
    Alteration, AlteredFor, Amounts, FollowUp, Given, Handle, Made, MadeStep, MeasuredOn, Recipe, Stage,
    alteration, make, registry,
};
use crate::pattern::{
    Check, CheckCode, Figure, Pattern, PieceDrawing, PieceKind, Seam, WornSide, check_pattern, draw_pattern,
    measure,
};
use crate::{Shown, Style};

/// An alteration as a screen offers it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AlterationView {
    /// Stable code.
    pub code: String,
    /// The trade's name.
    pub name: String,
    /// When it is wanted.
    pub why: String,
    /// Seams at which it is looked for.
    pub seams: Vec<Seam>,
    /// What may be set; the first is the amount.
    pub params: Vec<ParamView>,
}

/// One of several ways, as a screen offers it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WayView {
    /// Stable code.
    pub code: String,
    /// The trade's words.
    pub name: String,
}

/// A parameter as a screen offers it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ParamView {
    /// Stable code.
    pub code: String,
    /// The trade's words.
    pub name: String,
    /// What it is measured on.
    pub on: MeasuredOn,
    /// Least value.
    pub low: f64,
    /// Greatest value.
    pub high: f64,
    /// Default, where there is one.
    pub default: Option<f64>,
    /// How many such parts go round the body: 2 halves, 4 seam edges, 1 where it is said as it is.
    pub parts: u32,
    /// The ways there are to choose from; the first is the usual one.
    pub ways: Vec<WayView>,
    /// What it does.
    pub why: String,
}

/// One amount said in one of its ways.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AmountView {
    /// What it is measured on: `on the body`, `per half`, `per seam`.
    pub on: String,
    /// The amount.
    pub amount: Shown,
}

/// How a step stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum StepState {
    /// Done.
    Done,
    /// Switched off.
    Off,
    /// Refused; `says` tells why.
    Refused,
}

/// One step of the recipe with what it did.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepView {
    /// The step's own name.
    pub id: u32,
    /// The alteration's name.
    pub name: String,
    /// How it stands.
    pub state: StepState,
    /// Why it was refused.
    pub says: Option<String>,
    /// The most or least amount, in millimetres, where it was refused for being beyond it.
    pub limit_mm: Option<f64>,
    /// The amount in each of its ways, so that they cannot be mixed up.
    pub amounts: Vec<AmountView>,
    /// What else was chosen, in the trade's words.
    pub choices: Vec<String>,
    /// What follows elsewhere.
    pub follow_ups: Vec<FollowUp>,
}

/// What the recipe promises of a figure.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Expectation {
    /// It must stay, and does.
    Stays,
    /// It must stay, and does not.
    Broken,
    /// It may change.
    Free,
}

/// A figure of the pattern before and after the recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FigureRow {
    /// Which figure.
    pub figure: Figure,
    /// The trade's words.
    pub name: String,
    /// The side, where left and right differ.
    pub side: Option<WornSide>,
    /// On the block.
    pub before: Shown,
    /// Now.
    pub after: Shown,
    /// Now less before.
    pub change: Shown,
    /// What the recipe promises.
    pub expectation: Expectation,
}

/// An area that moved.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MovedArea {
    /// On which piece.
    pub piece: PieceKind,
    /// SVG path data.
    pub path: String,
}

/// Everything the cutting table draws.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Preview {
    /// The block.
    pub before: Vec<PieceDrawing>,
    /// The pattern now.
    pub now: Vec<PieceDrawing>,
    /// The step in hand: what was moved, the handle and the stages are its own. None where it is off or refused.
    pub in_hand: Option<u32>,
    /// What the step in hand moved.
    pub moved: Vec<MovedArea>,
    /// Where the step in hand can be dragged.
    pub handle: Option<Handle>,
    /// Stages of the step in hand.
    pub stages: Vec<Stage>,
    /// The steps.
    pub steps: Vec<StepView>,
    /// Figures before and after.
    pub figures: Vec<FigureRow>,
    /// The "before you cut" list.
    pub checks: Vec<Check>,
    /// Which step each failing check was first broken by.
    pub broken_by: Vec<Broken>,
    /// Codes of the alterations that are built for the pattern as it is now.
    pub fits: Vec<String>,
    /// What each piece is altered for, by name: what its label says.
    pub altered_for: Vec<AlteredFor>,
    /// Whether every step was done and every check holds.
    pub ready: bool,
}

/// A rule that held until a step was done.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Broken {
    /// The rule.
    pub check: CheckCode,
    /// The step after which it no longer held; `None` where the block itself breaks it.
    pub step: Option<u32>,
    /// The same as a sentence.
    pub says: String,
}

/// Folds the recipe and draws it. `in_hand` is the step whose stages and handle are shown; the last
/// step that is on where none is named.
pub fn preview(block: &Pattern, recipe: &Recipe, in_hand: Option<u32>, style: Style) -> Preview {
    let made = make(block, recipe, style);
    let done = |m: &&MadeStep| matches!(m.outcome, Some(Ok(_)));
    let chosen = match in_hand {
        Some(id) => made.steps.iter().find(|m| m.step.id == id).filter(done),
        None => made.steps.iter().rev().find(done),
    };
    let altered = chosen.and_then(|m| m.outcome.as_ref()).and_then(|outcome| outcome.as_ref().ok());
    let checks = check_pattern(&made.pattern, style);
    let ready = made.is_whole() && checks.iter().all(|check| check.passed);
    let area = |(piece, path): &(PieceKind, kurbo::BezPath)| MovedArea { piece: *piece, path: svg(path) };
    Preview {
        before: draw_pattern(block, style),
        now: draw_pattern(&made.pattern, style),
        in_hand: chosen.map(|m| m.step.id),
        moved: altered.map_or_else(Vec::new, |a| a.moved().iter().map(area).collect()),
        handle: altered.and_then(|a| a.handle),
        stages: altered.map_or_else(Vec::new, |a| a.stages_in(style)),
        steps: made.steps.iter().map(|m| step_view(m, style)).collect(),
        figures: figure_rows(block, &made, style),
        broken_by: broken_by(block, &made, &checks, style),
        fits: fits(&made.pattern),
        altered_for: made.altered_for(),
        checks,
        ready,
    }
}

/// Codes of the alterations built for a pattern; for one whose sides differ, as it is worn on either side.
fn fits(pattern: &Pattern) -> Vec<String> {
    let worn: Vec<Pattern> = if pattern.is_sided() {
        WornSide::BOTH.iter().map(|side| pattern.worn_on(*side)).collect()
    } else {
        vec![pattern.clone()]
    };
    let is_for = |each: &&&dyn Alteration| worn.iter().any(|pattern| each.is_for(pattern));
    registry().iter().filter(is_for).map(|each| each.code().to_owned()).collect()
}

/// For each failing check, the step that broke it first.
fn broken_by(block: &Pattern, made: &Made, checks: &[Check], style: Style) -> Vec<Broken> {
    let mut failing: Vec<&Check> = checks.iter().filter(|check| !check.passed).collect();
    failing.dedup_by_key(|check| check.code);
    if failing.is_empty() {
        return Vec::new();
    }
    let fails = |pattern: &Pattern| -> Vec<CheckCode> {
        check_pattern(pattern, style).iter().filter(|check| !check.passed).map(|check| check.code).collect()
    };
    // The states in order: the block, then the pattern after each step that was done.
    let mut states = vec![(None, fails(block))];
    for made in &made.steps {
        if let Some(Ok(altered)) = &made.outcome {
            states.push((Some(made), fails(&altered.pattern)));
        }
    }
    failing
        .into_iter()
        .map(|check| {
            // The last state in which it held; what came next broke it.
            let last_good = states.iter().rposition(|(_, failed)| !failed.contains(&check.code));
            let step = last_good.and_then(|index| states.get(index + 1)).and_then(|(made, _)| *made);
            let says = match step {
                Some(made) => {
                    let place = 1 + states_before(&states, made.step.id);
                    let name = alteration(&made.step.alteration).map_or("a step", |known| known.name());
                    format!("{} held until step {place}, {}.", check.name, name.to_lowercase())
                }
                None => format!("{} does not hold on the block itself.", check.name),
            };
            Broken { check: check.code, step: step.map(|made| made.step.id), says }
        })
        .collect()
}

fn states_before(states: &[(Option<&MadeStep>, Vec<CheckCode>)], id: u32) -> usize {
    states.iter().filter_map(|(made, _)| *made).position(|made| made.step.id == id).unwrap_or(0)
}

fn step_view(made: &MadeStep, style: Style) -> StepView {
    let known = alteration(&made.step.alteration);
    let (state, says, follow_ups, limit_mm) = match &made.outcome {
        None => (StepState::Off, None, Vec::new(), None),
        Some(Ok(altered)) => (StepState::Done, None, altered.follow_ups.clone(), None),
        Some(Err(error)) => (StepState::Refused, Some(error.to_string()), Vec::new(), error.limit_mm()),
    };
    let name = known.map_or_else(|| made.step.alteration.clone(), |a| a.name().to_owned());
    let name = match made.step.side {
        None => name,
        Some(side) => format!("{name}, {} only", side.name()),
    };
    StepView {
        id: made.step.id,
        name,
        state,
        says,
        limit_mm,
        amounts: known.map_or_else(Vec::new, |a| amount_views(a, &made.step.amounts, style)),
        choices: known.map_or_else(Vec::new, |a| choices(a, &made.step.amounts, style)),
        follow_ups,
    }
}

/// The amount of an alteration in each of the dressmaker's ways. A share is told with the other choices.
pub fn amount_views(alteration: &dyn Alteration, amounts: &Amounts, style: Style) -> Vec<AmountView> {
    let params = alteration.params();
    let given = Given::new(params, amounts);
    let Some(first) = params.first().filter(|first| first.on != MeasuredOn::Share) else { return Vec::new() };
    // All of them are so many times the amount that is set, as it is written: half of 3/8 on the body is 3/16.
    let set = given.of(first.code);
    let parts = first.on.parts();
    let written = style.written_part(set, parts);
    let view = |(on, mm): (&str, f64)| {
        let times = if set == 0.0 { 0.0 } else { mm / set };
        let finest = if times < 1.0 { 2 * parts } else { parts };
        AmountView { on: on.to_owned(), amount: style.shown_in_parts(mm, written * times, finest) }
    };
    said(first.on, set).into_iter().map(view).collect()
}

/// What was chosen besides the amount, in the trade's words.
pub fn choices(alteration: &dyn Alteration, amounts: &Amounts, style: Style) -> Vec<String> {
    let params = alteration.params();
    let given = Given::new(params, amounts);
    let chosen = |param: &super::Param| -> Option<String> {
        let is_set = amounts.0.contains_key(param.code);
        let name = param.name.to_lowercase();
        match param.on {
            MeasuredOn::Choice => {
                let way = given.way(param.code);
                let (_, words) = param.ways.iter().find(|(code, _)| *code == way)?;
                Some(format!("{name}: {words}"))
            }
            MeasuredOn::Share if param.code == "amount" => {
                Some(format!("{name}: {:.0} %", given.of(param.code) * 100.0))
            }
            _ if param.code == "amount" || !is_set => None,
            MeasuredOn::Share => Some(format!("{name}: {:.0} %", given.of(param.code) * 100.0)),
            _ => Some(format!("{name}: {}", style.with_unit(given.of(param.code)))),
        }
    };
    params.iter().filter_map(chosen).collect()
}

fn figure_rows(block: &Pattern, made: &Made, style: Style) -> Vec<FigureRow> {
    let now = &made.pattern;
    if !now.is_sided() && !block.is_sided() {
        return rows_of(block, now, made, None, style);
    }
    let [left, right] =
        WornSide::BOTH.map(|side| rows_of(&block.worn_on(side), &now.worn_on(side), made, Some(side), style));
    // What is alike on both sides is told once.
    let mut rows = Vec::new();
    for (l, r) in left.into_iter().zip(right) {
        if l.figure == r.figure && l.before.text == r.before.text && l.after.text == r.after.text {
            rows.push(FigureRow { side: None, ..l });
        } else {
            rows.extend([l, r]);
        }
    }
    rows
}

/// Two patterns by their figures: what the one measures, what the other does, and the difference.
pub fn figures_beside(one: &Pattern, other: &Pattern, style: Style) -> Vec<FigureRow> {
    let nothing = Made { pattern: other.clone(), steps: Vec::new() };
    let mut rows = figure_rows(one, &nothing, style);
    rows.iter_mut().for_each(|row| row.expectation = Expectation::Free);
    rows
}

fn rows_of(
    block: &Pattern,
    now: &Pattern,
    made: &Made,
    side: Option<WornSide>,
    style: Style,
) -> Vec<FigureRow> {
    let (before, after) = (measure(block), measure(now));
    after
        .iter()
        .map(|(figure, mm)| {
            let was = before.get(figure).unwrap_or_default();
            let expectation = match made.promised(figure) {
                Some(cost) if (mm - was).abs() <= cost + 0.01 => Expectation::Stays,
                Some(_) => Expectation::Broken,
                None => Expectation::Free,
            };
            FigureRow {
                figure,
                name: figure.name().to_owned(),
                side,
                before: style.show(was),
                after: style.show(mm),
                change: style.difference(mm, was),
                expectation,
            }
        })
        .collect()
}

/// The registry as a screen offers it, its sentences in the house's unit.
pub fn alteration_views(style: Style) -> Vec<AlterationView> {
    let param = |p: &super::Param| ParamView {
        code: p.code.to_owned(),
        name: p.name.to_owned(),
        on: p.on,
        low: p.low,
        high: p.high,
        default: p.default,
        parts: p.on.parts(),
        ways: p
            .ways
            .iter()
            .map(|(code, name)| WayView { code: (*code).into(), name: (*name).into() })
            .collect(),
        why: style.say(p.why),
    };
    registry()
        .iter()
        .map(|a| AlterationView {
            code: a.code().to_owned(),
            name: a.name().to_owned(),
            why: style.say(a.why()),
            seams: a.seams().to_vec(),
            params: a.params().iter().map(param).collect(),
        })
        .collect()
}
