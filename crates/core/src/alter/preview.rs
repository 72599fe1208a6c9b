//! What the cutting table shows of a recipe: before, now, what moved, figures, checks and stages.

use serde::{Deserialize, Serialize};

use super::{
    Alteration, Amounts, Handle, MadeStep, MeasuredOn, Recipe, Stage, alteration, make, registry, svg,
};
use crate::pattern::{Check, Figure, Pattern, PieceDrawing, PieceKind, check_pattern, draw_pattern, measure};
use crate::{Length, PerHalf, Shown, Style};

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
    /// What may be set; the first is the amount.
    pub params: Vec<ParamView>,
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
    /// The amount in each of its ways, so that they cannot be mixed up.
    pub amounts: Vec<AmountView>,
    /// What must follow elsewhere.
    pub follow_ups: Vec<String>,
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
    /// Whether every step was done and every check holds.
    pub ready: bool,
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
        moved: altered.map_or_else(Vec::new, |a| a.moved.iter().map(area).collect()),
        handle: altered.and_then(|a| a.handle),
        stages: altered.map_or_else(Vec::new, |a| a.stages.clone()),
        steps: made.steps.iter().map(|m| step_view(m, style)).collect(),
        figures: figure_rows(block, &made.pattern, &made.steps, style),
        checks,
        ready,
    }
}

fn step_view(made: &MadeStep, style: Style) -> StepView {
    let known = alteration(&made.step.alteration);
    let (state, says, follow_ups) = match &made.outcome {
        None => (StepState::Off, None, Vec::new()),
        Some(Ok(altered)) => (StepState::Done, None, altered.follow_ups.clone()),
        Some(Err(error)) => (StepState::Refused, Some(error.to_string()), Vec::new()),
    };
    StepView {
        id: made.step.id,
        name: known.map_or_else(|| made.step.alteration.clone(), |a| a.name().to_owned()),
        state,
        says,
        amounts: known.map_or_else(Vec::new, |a| amount_views(a, &made.step.amounts, style)),
        follow_ups,
    }
}

/// The amount of an alteration in each of the dressmaker's ways.
pub fn amount_views(alteration: &dyn Alteration, amounts: &Amounts, style: Style) -> Vec<AmountView> {
    let params = alteration.params();
    let Some(first) = params.first() else { return Vec::new() };
    let mm = amounts.get(params, first.code).unwrap_or_default();
    let view = |on: &str, mm: f64| AmountView { on: on.to_owned(), amount: style.show(mm) };
    match first.on {
        MeasuredOn::PerHalf => {
            let on_body = PerHalf(Length::from_mm(mm)).on_body().0.mm();
            vec![view("on the body", on_body), view("per half", mm)]
        }
        MeasuredOn::PerSeam => vec![view("on the seam, front and back", mm)],
        MeasuredOn::Place | MeasuredOn::Share => vec![view("here", mm)],
    }
}

fn figure_rows(block: &Pattern, now: &Pattern, steps: &[MadeStep], style: Style) -> Vec<FigureRow> {
    let (before, after) = (measure(block), measure(now));
    let applied: Vec<&dyn Alteration> = steps
        .iter()
        .filter(|m| matches!(m.outcome, Some(Ok(_))))
        .filter_map(|m| alteration(&m.step.alteration))
        .collect();
    let promised = |figure: Figure| -> Option<f64> {
        let cost = |a: &&dyn Alteration| a.keeps().iter().find(|(f, _)| *f == figure).map(|(_, mm)| *mm);
        applied.iter().map(cost).sum()
    };
    after
        .iter()
        .map(|(figure, mm)| {
            let was = before.get(figure).unwrap_or_default();
            let expectation = match promised(figure) {
                Some(cost) if (mm - was).abs() <= cost + 0.01 => Expectation::Stays,
                Some(_) => Expectation::Broken,
                None => Expectation::Free,
            };
            FigureRow {
                figure,
                name: figure.name().to_owned(),
                before: style.show(was),
                after: style.show(mm),
                change: style.show(mm - was),
                expectation,
            }
        })
        .collect()
}

/// The registry as a screen offers it.
pub fn alteration_views() -> Vec<AlterationView> {
    let param = |p: &super::Param| ParamView {
        code: p.code.to_owned(),
        name: p.name.to_owned(),
        on: p.on,
        low: p.low,
        high: p.high,
        default: p.default,
        why: p.why.to_owned(),
    };
    registry()
        .iter()
        .map(|a| AlterationView {
            code: a.code().to_owned(),
            name: a.name().to_owned(),
            why: a.why().to_owned(),
            params: a.params().iter().map(param).collect(),
        })
        .collect()
}
