//! The construction sheet: a draft told step by step, each with its formula and the numbers put in.

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::method::parameter;
use super::quantity::{Quantity, length};
use crate::body::measurement;
use crate::geometry::{Curve, Pt, short_svg};
use crate::length::short_decimal;
use crate::pattern::PieceKind;
use crate::{Shown, Style};

/// A number that a formula takes.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Term {
    /// Reading, parameter or letter, as it stands in the formula.
    pub name: &'static str,
    /// Millimetres, degrees or a bare number.
    pub value: f64,
    /// A bare number is not turned into the house's unit.
    pub plain: bool,
}

/// A length by its name.
pub(super) const fn mm(name: &'static str, value: f64) -> Term {
    Term { name, value, plain: false }
}

/// A bare number, a share or an angle by its name.
pub(super) const fn plain(name: &'static str, value: f64) -> Term {
    Term { name, value, plain: true }
}

/// One figure of a step: what it is, how it is found, what comes out.
#[derive(Clone, Debug, PartialEq)]
pub struct StepLine {
    /// What is found: a letter and its words.
    pub name: &'static str,
    /// The formula; terms stand in braces.
    pub formula: String,
    /// What is put in.
    pub terms: Vec<Term>,
    /// What comes out: millimetres, unless `plain`.
    pub value: f64,
    /// The result is an angle or a bare number.
    pub plain: bool,
}

impl StepLine {
    /// A length that is taken as it was read, set or solved.
    pub(super) fn taken(name: &'static str, term: Term) -> Self {
        Quantity::of(term).named(name)
    }
}

/// A quarter of a girth with its ease, and the share by which the front exceeds it; the back has less by as much.
pub(super) fn quarter(name: &'static str, girth: Term, ease: Term, share: Term, is_front: bool) -> StepLine {
    let quarter = (Quantity::of(girth) + Quantity::of(ease)) / 4.0;
    let share = Quantity::of(share);
    (if is_front { quarter + share } else { quarter - share }).named(name)
}

/// A length in proportion to the bust: its share, and a fixed amount more or less.
pub(super) fn proportion(name: &'static str, bust: f64, of: Term, more: Term, is_more: bool) -> StepLine {
    let share = length("bust_girth", bust) / Quantity::of(of);
    let more = Quantity::of(more);
    (if is_more { share + more } else { share - more }).named(name)
}

/// One step of the construction.
#[derive(Clone, Debug, PartialEq)]
pub struct DraftStep {
    /// The piece it is drawn on.
    pub piece: PieceKind,
    /// What is done, in a sentence.
    pub title: String,
    /// Its figures.
    pub lines: Vec<StepLine>,
    /// Points it marks.
    pub points: Vec<(String, Point)>,
    /// Lines it draws.
    pub curves: Vec<Curve>,
}

/// Collects the steps of one piece while it is drafted.
#[derive(Debug)]
pub(super) struct Sheet {
    piece: PieceKind,
    pub(super) steps: Vec<DraftStep>,
}

impl Sheet {
    pub(super) fn new(piece: PieceKind) -> Self {
        Self { piece, steps: Vec::new() }
    }

    /// Begins a step; what follows belongs to it.
    pub(super) fn step(&mut self, title: &str) -> &mut Self {
        let title = title.to_owned();
        let step =
            DraftStep { piece: self.piece, title, lines: Vec::new(), points: Vec::new(), curves: Vec::new() };
        self.steps.push(step);
        self
    }

    fn last(&mut self) -> Option<&mut DraftStep> {
        self.steps.last_mut()
    }

    /// A figure that has been found already, with what it was found from.
    pub(super) fn tell(&mut self, line: &StepLine) -> &mut Self {
        self.last().into_iter().for_each(|step| step.lines.push(line.clone()));
        self
    }

    /// A length that is found, by what it is found from.
    pub(super) fn find(&mut self, name: &'static str, found: Quantity) -> &mut Self {
        self.tell(&found.named(name))
    }

    /// A length that is taken as it was read or set.
    pub(super) fn take(&mut self, name: &'static str, term: Term) -> &mut Self {
        self.tell(&StepLine::taken(name, term))
    }

    pub(super) fn point(&mut self, name: &str, at: Point) -> &mut Self {
        self.last().into_iter().for_each(|step| step.points.push((name.to_owned(), at)));
        self
    }

    pub(super) fn draw(&mut self, curve: &Curve) -> &mut Self {
        self.last().into_iter().for_each(|step| step.curves.push(curve.clone()));
        self
    }

    pub(super) fn rule(&mut self, from: Point, to: Point) -> &mut Self {
        self.draw(&Curve::line(from, to))
    }

    /// The same steps on a piece that has been moved.
    pub(super) fn moved(mut self, by: kurbo::Affine) -> Vec<DraftStep> {
        for step in &mut self.steps {
            step.points.iter_mut().for_each(|(_, at)| *at = by * *at);
            step.curves.iter_mut().for_each(|curve| *curve = curve.transformed(by));
        }
        self.steps
    }
}

/// A figure of a step as it is shown.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepLineView {
    /// What is found.
    pub name: String,
    /// The formula in the trade's words.
    pub formula: String,
    /// The same with the numbers put in, in the house's unit.
    pub put_in: String,
    /// The result, exact to a thousandth of an inch or a hundredth of a centimetre.
    pub exact: String,
    /// The result to the step of a tape: 1/8 in or 1 mm. Angles are not rounded further.
    pub rounded: String,
}

/// A named point of a step.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct StepPoint {
    /// Its letter or name.
    pub name: String,
    /// Where it lies.
    pub at: Pt,
    /// From the centre line, as a tape shows it.
    pub across: Shown,
    /// Below the neck-side level.
    pub down: Shown,
}

/// A step as it is shown and printed.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DraftStepView {
    /// The piece it is drawn on.
    pub piece: PieceKind,
    /// Its name.
    pub piece_name: String,
    /// What is done.
    pub title: String,
    /// Its figures.
    pub lines: Vec<StepLineView>,
    /// Points it marks.
    pub points: Vec<StepPoint>,
    /// Lines it draws, as SVG path data.
    pub paths: Vec<String>,
}

/// Steps as the house writes them.
pub fn step_views(steps: &[DraftStep], style: Style) -> Vec<DraftStepView> {
    let view = |step: &DraftStep| DraftStepView {
        piece: step.piece,
        piece_name: step.piece.name().to_owned(),
        title: step.title.clone(),
        lines: step.lines.iter().map(|line| line_view(line, style)).collect(),
        points: step
            .points
            .iter()
            .map(|(name, at)| StepPoint {
                name: name.clone(),
                at: (*at).into(),
                across: style.show(at.x),
                down: style.show(at.y),
            })
            .collect(),
        paths: step.curves.iter().map(|curve| short_svg(&curve.to_path())).collect(),
    };
    steps.iter().map(view).collect()
}

fn line_view(line: &StepLine, style: Style) -> StepLineView {
    let filled = |of: &dyn Fn(&Term) -> String| {
        line.terms
            .iter()
            .fold(line.formula.clone(), |text, term| text.replace(&format!("{{{}}}", term.name), &of(term)))
    };
    let (result, rounded) = if line.plain {
        let degrees = format!("{}\u{b0}", short_decimal(line.value, 2));
        (degrees.clone(), degrees)
    } else {
        (format!("{} {}", style.exact(line.value), style.unit().suffix()), style.with_unit(line.value))
    };
    StepLineView {
        name: line.name.to_owned(),
        formula: filled(&|term| spoken(term)),
        put_in: filled(&|term| {
            if term.plain { short_decimal(term.value, 4) } else { style.exact(term.value) }
        }),
        exact: result,
        rounded,
    }
}

/// A reading or a length of the method by its name, a bare number of the method as it stands, a letter as it is.
fn spoken(term: &Term) -> String {
    let constant = parameter(term.name);
    if term.plain && constant.is_some() {
        return short_decimal(term.value, 4);
    }
    let name = measurement(term.name).map(|row| row.name.as_str()).or(constant.map(|row| row.name));
    name.map_or_else(|| term.name.to_owned(), str::to_lowercase)
}
