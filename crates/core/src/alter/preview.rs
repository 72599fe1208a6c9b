//! What the cutting table shows of a recipe: before, now, what moved, figures, checks and stages.

use serde::{Deserialize, Serialize};

use super::amounts::said;
use super::darts_in_the_way::suits;
use super::work::{DrawnPoint, svg};
use super::{
    Alteration, AlteredFor, Amounts, Args, FollowUp, Handle, Made, MadeStep, MeasuredOn, Recipe, Stage,
    alteration, make, place_in_order, registry,
};
use crate::pattern::{
    Check, CheckCode, Garment, Pattern, PatternMeasure, PieceDrawing, PieceKind, Seam, WornSide,
    check_pattern, draw_pattern, measure,
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
    /// What it is done to.
    pub garments: Vec<Garment>,
    /// It goes all round the body: there is no side to choose.
    pub all_round: bool,
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
    /// Whether more of it is added to what is there; otherwise it is a way or a place of the whole step.
    pub added: bool,
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

/// The nearest amount that can be done: what the newest decision of a step would have to be.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Nearest {
    /// The contribution that would change; none for what was decided first.
    pub contribution: Option<u32>,
    /// Its amount, in millimetres.
    pub mm: f64,
}

/// One decision behind a step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DecisionView {
    /// The contribution; none for what was decided first.
    pub contribution: Option<u32>,
    /// Its round, its author and its reason, as far as they are known.
    pub says: String,
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
    /// The nearest amount that can be done, where it was refused for being beyond a limit.
    pub nearest: Option<Nearest>,
    /// When it is done: balance, fit, shape, sleeve and finish.
    pub layer: String,
    /// The whole amount in each of its ways, so that they cannot be mixed up.
    pub amounts: Vec<AmountView>,
    /// How the amount is added up, where several decisions stand behind it: `3/4 + 1/4 = 1`.
    pub sums: Vec<String>,
    /// The decisions behind it, oldest first.
    pub decisions: Vec<DecisionView>,
    /// The earlier step it is drawn with, as a sentence.
    pub drawn_with: Option<String>,
    /// What else was chosen, in the trade's words.
    pub choices: Vec<String>,
    /// Codes of the parameters that do not matter on this pattern.
    pub unasked: Vec<String>,
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
    pub figure: PatternMeasure,
    /// The trade's words.
    pub name: String,
    /// The side, where left and right differ.
    pub side: Option<WornSide>,
    /// On the block; none where it has no such figure, as a block that ends at the hip has no hem.
    pub before: Option<Shown>,
    /// Now.
    pub after: Shown,
    /// Now less before.
    pub change: Option<Shown>,
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
    /// A point of its line that can be dragged.
    pub point: Option<DrawnPoint>,
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
    /// What the pattern is of.
    pub garment: Garment,
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
    let done = |m: &&MadeStep| m.altered().is_some();
    let chosen = match in_hand {
        Some(id) => made.steps.iter().find(|m| m.step.id == id).filter(done),
        None => made.steps.iter().rev().find(done),
    };
    // More of the same is looked at where it is drawn.
    let drawn = chosen.and_then(|m| m.drawn_with).and_then(|id| made.steps.iter().find(|m| m.step.id == id));
    let altered = drawn.or(chosen).and_then(MadeStep::altered);
    let checks = check_pattern(&made.pattern, style);
    let ready = made.is_whole() && checks.iter().all(|check| check.passed);
    let area = |(piece, path): &(PieceKind, kurbo::BezPath)| MovedArea { piece: *piece, path: svg(path) };
    Preview {
        before: draw_pattern(block, style),
        now: draw_pattern(&made.pattern, style),
        in_hand: chosen.map(|m| m.step.id),
        moved: altered.map_or_else(Vec::new, |a| a.moved().iter().map(area).collect()),
        handle: altered.and_then(|a| a.handle),
        point: altered.and_then(|a| a.point.clone()),
        stages: altered.map_or_else(Vec::new, |a| a.stages_in(style)),
        steps: made.steps.iter().map(|m| step_view(m, &made, recipe, style)).collect(),
        figures: figure_rows(block, &made, style),
        broken_by: broken_by(block, &made, &checks, style),
        garment: made.pattern.garment(),
        fits: fits(&made, recipe),
        altered_for: made.altered_for(),
        checks,
        ready,
    }
}

/// Codes of the alterations that can be done, each on the pattern as its own layer finds it; for one whose sides differ,
/// as it is worn on either side.
fn fits(made: &Made, recipe: &Recipe) -> Vec<String> {
    let is_for = |each: &&&dyn Alteration| {
        let pattern = made.before(recipe.place_behind(**each));
        if pattern.is_sided() {
            WornSide::BOTH.iter().any(|side| suits(**each, &pattern.worn_on(*side)))
        } else {
            suits(**each, pattern)
        }
    };
    registry().iter().filter(is_for).map(|each| each.code().to_owned()).collect()
}

/// For each failing check, the step that broke it first.
fn broken_by(block: &Pattern, made: &Made, checks: &[Check], style: Style) -> Vec<Broken> {
    let mut failing: Vec<&Check> = checks.iter().filter(|check| !check.passed).collect();
    failing.dedup_by_key(|check| check.code);
    if failing.is_empty() {
        return Vec::new();
    }
    let done: Vec<(&MadeStep, &Pattern)> =
        made.steps.iter().filter_map(|made| Some((made, &made.altered()?.pattern))).collect();
    // The last pattern in which a rule held; what came next broke it. From the end back, and no further than to the last
    // of them: each pattern takes as long to look at as the whole preview.
    let mut broken_at: Vec<(CheckCode, usize)> = Vec::new();
    for place in (0..done.len()).rev() {
        let before = place.checked_sub(1).map_or(block, |earlier| done[earlier].1);
        if broken_at.len() == failing.len() {
            break;
        }
        if before == done[place].1 {
            continue;
        }
        let checked = check_pattern(before, style);
        let holds = |code: CheckCode| checked.iter().all(|check| check.code != code || check.passed);
        let is_new = |code: CheckCode| broken_at.iter().all(|(known, _)| *known != code);
        let found: Vec<CheckCode> =
            failing.iter().map(|check| check.code).filter(|code| holds(*code) && is_new(*code)).collect();
        broken_at.extend(found.into_iter().map(|code| (code, place)));
    }
    failing
        .into_iter()
        .map(|check| {
            let place = { broken_at.iter() }.find(|(code, _)| *code == check.code).map(|(_, place)| *place);
            let says = match place {
                Some(place) => {
                    let name =
                        alteration(&done[place].0.step.alteration).map_or("a step", |known| known.name());
                    format!("{} held until step {}, {}.", check.name, place + 1, name.to_lowercase())
                }
                None => format!("{} does not hold on the block itself.", check.name),
            };
            Broken { check: check.code, step: place.map(|place| done[place].0.step.id), says }
        })
        .collect()
}

fn step_view(made: &MadeStep, all: &Made, recipe: &Recipe, style: Style) -> StepView {
    let step = &made.step;
    let known = alteration(&step.alteration);
    let (state, says, follow_ups) = match &made.outcome {
        None => (StepState::Off, None, Vec::new()),
        Some(Ok(altered)) => (StepState::Done, None, altered.follow_ups.clone()),
        Some(Err(error)) => (StepState::Refused, Some(error.to_string()), Vec::new()),
    };
    let name = known.map_or_else(|| step.alteration.clone(), |a| a.name().to_owned());
    let name = match step.side {
        None => name,
        Some(side) => format!("{name}, {} only", side.name()),
    };
    let total = step.total();
    let place = all.steps.iter().position(|each| each.step.id == step.id).unwrap_or(0);
    StepView {
        id: step.id,
        name,
        state,
        says,
        nearest: nearest(made, recipe),
        layer: known.map_or_else(String::new, |a| place_in_order(a, &total).0.name().to_owned()),
        amounts: { known.filter(|a| a.asks(all.before(place), "amount")) }
            .map_or_else(Vec::new, |a| amount_views(a, &total, style)),
        sums: known.map_or_else(Vec::new, |a| sums(a, step, style)),
        decisions: decisions(step),
        drawn_with: made.drawn_with.and_then(|id| drawn_with(made, all, id)),
        choices: known.map_or_else(Vec::new, |a| choices(a, &total, style)),
        unasked: known.map_or_else(Vec::new, |a| unasked(a, all.before(place))),
        follow_ups,
    }
}

fn unasked(known: &dyn Alteration, pattern: &Pattern) -> Vec<String> {
    let codes = known.params().iter().map(|param| param.code);
    codes.filter(|code| !known.asks(pattern, code)).map(str::to_owned).collect()
}

/// Inside a limit by what a chalk line does not show, in millimetres.
const INSIDE: f64 = 0.05;

/// What the newest decision of a refused step would have to be for the whole to be within the limit.
pub(super) fn nearest(made: &MadeStep, recipe: &Recipe) -> Option<Nearest> {
    let limit = made.refusal()?.limit()?.mm;
    let most = limit - INSIDE.copysign(limit);
    let index = recipe.steps.iter().position(|step| step.id == made.step.id)?;
    let with = made.drawn_with.and_then(|id| recipe.steps.iter().position(|step| step.id == id));
    let drawn = with.unwrap_or(index);
    let whole = recipe.drawn_by(drawn, &recipe.drawn_too(drawn, made.step.side, &[])).amount();
    let newest = made.step.more.last();
    let own = newest.map_or(&made.step.amounts, |more| &more.amounts).amount();
    let mm = own + most - whole;
    (limit.abs() > INSIDE).then_some(Nearest { contribution: newest.map(|more| more.id), mm })
}

/// How each length of a step that several decisions set is added up. What is written adds up: where the whole is written otherwise
/// than its parts, the first part gives way.
pub fn sums(alteration: &dyn Alteration, step: &super::Step, style: Style) -> Vec<String> {
    let number = |amounts: &Amounts, code: &str| match amounts.0.get(code) {
        Some(super::Setting::Number(mm)) => *mm,
        _ => 0.0,
    };
    let total = step.total();
    let params = alteration.params().iter().enumerate();
    let of = |(index, param): (usize, &super::Param)| {
        let later: Vec<f64> = { step.more.iter() }
            .map(|more| number(&more.amounts, param.code))
            .filter(|mm| *mm != 0.0)
            .collect();
        if later.is_empty() {
            return None;
        }
        let parts = param.on.parts();
        let written = |mm: f64| style.written_part(mm, parts);
        let whole = written(number(&total, param.code));
        let rest: f64 = later.iter().copied().map(written).sum();
        let write = |mm: f64| style.shown_in_parts(mm, mm, parts).text;
        let first = write(whole - rest);
        let added = later.iter().map(|mm| {
            let sign = if *mm < 0.0 { '\u{2212}' } else { '+' };
            format!(" {sign} {}", write(written(mm.abs())))
        });
        let name = if index == 0 { String::new() } else { format!("{}: ", param.name.to_lowercase()) };
        Some(format!("{name}{first}{} = {}", added.collect::<String>(), write(whole)))
    };
    params.filter_map(of).collect()
}

/// The decisions behind a step, oldest first: when, why and by whom, as far as that is known.
pub fn decisions(step: &super::Step) -> Vec<DecisionView> {
    let first = (None, step.round, step.by.as_deref(), step.reason.as_str());
    let later = { step.more.iter() }
        .map(|more| (Some(more.id), more.round, more.by.as_deref(), more.reason.as_str()));
    { std::iter::once(first).chain(later) }
        .map(|(contribution, round, by, reason)| {
            let when = round.map(|round| format!("Round {round}:"));
            let who = by.map(|by| format!("({by})"));
            let why = Some(reason.to_owned()).filter(|reason| !reason.is_empty());
            let says = { when.into_iter().chain(why).chain(who) }.collect::<Vec<_>>().join(" ");
            DecisionView { contribution, says }
        })
        .collect()
}

fn drawn_with(made: &MadeStep, all: &Made, id: u32) -> Option<String> {
    let place = all.steps.iter().position(|other| other.step.id == id)?;
    let side = made.step.side.map_or_else(String::new, |side| format!(" on the {}", side.name()));
    Some(format!("Added to step {}{side} and drawn with it as one.", place + 1))
}

/// The amount of an alteration in each of the dressmaker's ways. A share is told with the other choices.
pub fn amount_views(alteration: &dyn Alteration, amounts: &Amounts, style: Style) -> Vec<AmountView> {
    let params = alteration.params();
    let args = Args::new(params, amounts);
    let Some(first) = params.first().filter(|first| first.on != MeasuredOn::Share) else { return Vec::new() };
    // All of them are so many times the amount that is set, as it is written: half of 3/8 on the body is 3/16.
    let set = args.of(first.code);
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
    let args = Args::new(params, amounts);
    let chosen = |param: &super::Param| -> Option<String> {
        let is_set = amounts.0.contains_key(param.code);
        let name = param.name.to_lowercase();
        match param.on {
            MeasuredOn::Choice if param.told_where_chosen && !is_set => None,
            MeasuredOn::Choice => {
                let way = args.way(param.code);
                let (_, words) = param.ways.iter().find(|(code, _)| *code == way)?;
                Some(format!("{name}: {words}"))
            }
            MeasuredOn::Share if param.code == "amount" => {
                Some(format!("{name}: {:.0} %", args.of(param.code) * 100.0))
            }
            _ if param.code == "amount" || !is_set => None,
            MeasuredOn::Share => Some(format!("{name}: {:.0} %", args.of(param.code) * 100.0)),
            _ => Some(format!("{name}: {}", style.with_unit(args.of(param.code)))),
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
        let text = |shown: &Option<Shown>| shown.as_ref().map(|shown| shown.text.clone());
        if l.figure == r.figure && text(&l.before) == text(&r.before) && l.after.text == r.after.text {
            rows.push(FigureRow { side: None, ..l });
        } else {
            rows.extend([l, r]);
        }
    }
    rows
}

/// Two patterns by their figures: what the one measures, what the other does, and the difference.
pub fn figures_beside(one: &Pattern, other: &Pattern, style: Style) -> Vec<FigureRow> {
    let nothing = Made { block: one.clone(), pattern: other.clone(), steps: Vec::new() };
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
            let was = before.get(figure);
            let expectation = match made.promised(figure).zip(was) {
                Some((cost, was)) if (mm - was).abs() <= cost + 0.01 => Expectation::Stays,
                Some(_) => Expectation::Broken,
                None => Expectation::Free,
            };
            FigureRow {
                figure,
                name: figure.name().to_owned(),
                side,
                before: was.map(|was| style.show(was)),
                after: style.show(mm),
                change: was.map(|was| style.difference(mm, was)),
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
        added: p.is_added(),
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
            garments: a.garments().to_vec(),
            all_round: a.goes_all_round(),
            params: a.params().iter().map(param).collect(),
        })
        .collect()
}
