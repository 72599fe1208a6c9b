//! From differences to a plan: an ordered recipe with amounts, reasons and the readings behind them.
//!
//! Lengths first, since they move levels; then the bust before any other width, since a difference at
//! the bust is mostly prominence; then shoulders, widths, waist and underarm.

use serde::{Deserialize, Serialize};

use super::{Comparison, DifferenceGrade, EaseSet, compare};
use crate::alter::{AlterError, Amounts, Recipe, alteration};
use crate::body::Body;
use crate::pattern::{Figure, Pattern, measure};
use crate::{Length, OnBody, Shown, Style};

/// Amounts under this are dropped, in millimetres.
const DROPPED_BELOW: f64 = 3.0;
/// A cup that differs from the block's by this much is prominence, in millimetres (half a cup; ours).
const CUP_COUNTS: f64 = 12.7;

/// One line of a plan.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanLine {
    /// The alteration's name.
    pub name: String,
    /// Code of the alteration where it is built; a line without one stays on the worksheet.
    pub alteration: Option<String>,
    /// Its amounts, where it is built.
    pub amounts: Amounts,
    /// The amount as the pattern carries it.
    pub amount: Shown,
    /// What the amount is measured on.
    pub on: String,
    /// Why, with the figures.
    pub reason: String,
    /// The readings behind it.
    pub readings: Vec<String>,
    /// Why it cannot be done as it stands, where it cannot.
    pub refused: Option<String>,
}

/// A difference too small to act on.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DroppedLine {
    /// The alteration's name.
    pub name: String,
    /// The amount.
    pub amount: Shown,
}

/// A figure after the plan, beside its target.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Prediction {
    /// The figure's reading.
    pub name: String,
    /// Body and ease.
    pub target: Shown,
    /// After the plan's built lines are applied.
    pub predicted: Shown,
    /// Within the comparison's tolerance.
    pub fits: bool,
}

/// What to do, why, and where it leads.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The lines in order.
    pub lines: Vec<PlanLine>,
    /// Too small to act on.
    pub dropped: Vec<DroppedLine>,
    /// Figures after it.
    pub predictions: Vec<Prediction>,
    /// All corrections added up, in millimetres on the pattern.
    pub total: Shown,
}

impl Plan {
    /// The recipe of the lines that are built.
    pub fn recipe(&self) -> Recipe {
        self.lines
            .iter()
            .filter(|line| line.refused.is_none())
            .filter_map(|line| line.alteration.as_ref().map(|code| (code, line)))
            .fold(Recipe::default(), |recipe, (code, line)| {
                recipe.and(code, line.amounts.clone(), &line.reason)
            })
    }
}

/// Plans the way from a block to a body with its ease. `block_cup` is the block's own bust less upper bust.
pub fn plan(body: &Body, block: &Pattern, block_cup: f64, ease: &EaseSet, style: Style) -> Plan {
    let mut planner = Planner {
        body,
        comparison: compare(body, &measure(block), ease, style),
        pattern: block.clone(),
        lines: Vec::new(),
        dropped: Vec::new(),
        style,
    };
    planner.bust(block_cup);
    planner.shoulders();
    // Length and waist are seen on the pattern as the bust left it.
    planner.comparison = compare(body, &measure(&planner.pattern), ease, style);
    planner.lengths();
    planner.widths();
    let Planner { pattern, mut lines, dropped, .. } = planner;
    lines.sort_by_key(|(order, _)| *order);
    let lines: Vec<PlanLine> = lines.into_iter().map(|(_, line)| line).collect();
    let total = lines.iter().map(|line| line.amount.mm.abs()).sum();
    let after = compare(body, &measure(&pattern), ease, style);
    let predictions = after
        .rows
        .into_iter()
        .filter_map(|row| {
            let fits = row.grade == DifferenceGrade::Fits;
            Some(Prediction { name: row.name, target: row.target?, predicted: row.block, fits })
        })
        .collect();
    Plan { lines, dropped, predictions, total: style.show(total) }
}

/// Where a line stands in the order of the trade.
#[derive(Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Order {
    Length,
    Bust,
    BustPoint,
    Shoulder,
    Width,
    Waist,
    Underarm,
}

struct Planner<'a> {
    body: &'a Body,
    comparison: Comparison,
    pattern: Pattern,
    lines: Vec<(Order, PlanLine)>,
    dropped: Vec<DroppedLine>,
    style: Style,
}

/// A line before it is written down.
struct Wanted<'a> {
    order: Order,
    name: &'a str,
    mm: f64,
    on: &'a str,
    figure: Figure,
    because: &'a str,
}

impl Planner<'_> {
    fn bust(&mut self, block_cup: f64) {
        let Some(off) = self.to_alter(Figure::Bust) else { return };
        let cup = self.body.get("bust_girth").zip(self.body.get("upper_bust_girth")).map(|(b, u)| b - u);
        let more_cup = cup.map_or(0.0, |cup| cup - block_cup);
        let longer_front = self.to_alter(Figure::FrontLength).is_some_and(|mm| mm > 0.0)
            && self.to_alter(Figure::CentreBack).is_none();
        let is_prominence = (more_cup >= CUP_COUNTS && off > 0.0)
            || (more_cup <= -CUP_COUNTS && off < 0.0)
            || (longer_front && off > 0.0);
        if !is_prominence {
            let per_half = OnBody(Length::from_mm(off)).per_half();
            self.worksheet(Wanted {
                order: Order::Bust,
                name: "Side seams at the bust",
                mm: per_half.per_seam().0.mm(),
                on: "per seam edge",
                figure: Figure::Bust,
                because: "the cup is the block's own, so the difference is frame",
            });
            return;
        }
        let half = OnBody(Length::from_mm(off)).per_half().0.mm();
        let mut amounts = Amounts::of(half);
        if let (Some(span), Some(depth)) = (self.body.get("bust_span"), self.body.get("snp_to_bust_point")) {
            amounts = amounts.with("bust_point_out", span / 2.0).with("bust_point_down", depth);
        }
        let because = format!(
            "her cup is {} over the block's, so the difference is prominence",
            self.style.with_unit(more_cup)
        );
        let name = if half > 0.0 { "Full bust" } else { "Small bust" };
        self.built(
            Wanted {
                order: Order::Bust,
                name,
                mm: half,
                on: "per half",
                figure: Figure::Bust,
                because: &because,
            },
            "full_bust",
            amounts,
        );
    }

    fn shoulders(&mut self) {
        if let Some(off) = self.to_alter(Figure::ShoulderFront) {
            let wanted = Wanted {
                order: Order::Shoulder,
                name: "Shoulder length",
                mm: off,
                on: "on the seam, front and back",
                figure: Figure::ShoulderFront,
                because: "front and back alike",
            };
            self.built(wanted, "shoulder_length", Amounts::of(off));
        }
        if let Some(off) = self.to_alter(Figure::ShoulderDrop) {
            self.worksheet(Wanted {
                order: Order::Shoulder,
                name: "Shoulder slope",
                mm: off,
                on: "per side",
                figure: Figure::ShoulderDrop,
                because: if off > 0.0 { "her shoulders slope more" } else { "her shoulders are squarer" },
            });
        }
    }

    fn lengths(&mut self) {
        for (figure, name) in
            [(Figure::CentreBack, "Bodice length, back"), (Figure::FrontLength, "Bodice length, front")]
        {
            if let Some(mm) = self.to_alter(figure) {
                self.worksheet(Wanted {
                    order: Order::Length,
                    name,
                    mm,
                    on: "at a level line",
                    figure,
                    because: "lengths move levels and come first",
                });
            }
        }
        let depth = self.to_alter(Figure::BustPointDepth);
        let planned_bust = self.lines.iter().any(|(_, line)| line.alteration.as_deref() == Some("full_bust"));
        if let Some(mm) = depth.filter(|_| !planned_bust) {
            self.worksheet(Wanted {
                order: Order::BustPoint,
                name: "Bust point level",
                mm,
                on: "down the front",
                figure: Figure::BustPointDepth,
                because: "the darts must point at hers",
            });
        }
    }

    fn widths(&mut self) {
        for (order, figure, name, share, on) in [
            (Order::Width, Figure::AcrossBack, "Back width", 2.0, "per half"),
            (Order::Width, Figure::AcrossFront, "Front width", 2.0, "per half"),
            (Order::Waist, Figure::Waist, "Waist: darts first, then side seams", 2.0, "per half"),
            (Order::Underarm, Figure::ArmholeDepth, "Underarm", 1.0, "down, front and back"),
        ] {
            if let Some(off) = self.to_alter(figure) {
                let because = "measured on the pattern after the lines above";
                self.worksheet(Wanted { order, name, mm: off / share, on, figure, because });
            }
        }
    }

    /// The difference of a figure that is graded to be altered, on the body.
    fn to_alter(&self, figure: Figure) -> Option<f64> {
        let row = self.comparison.row(figure)?;
        let acts = matches!(row.grade, DifferenceGrade::Alter | DifferenceGrade::Remeasure);
        row.on_body.as_ref().filter(|_| acts).map(|shown| shown.mm)
    }

    fn built(&mut self, wanted: Wanted<'_>, code: &str, amounts: Amounts) {
        let Some((order, mut line)) = self.line(&wanted) else { return };
        line.alteration = Some(code.to_owned());
        line.amounts = amounts;
        let outcome = alteration(code)
            .ok_or_else(|| AlterError::Unknown(code.to_owned()))
            .and_then(|alteration| alteration.apply(&self.pattern, &line.amounts, self.style));
        match outcome {
            Ok(altered) => self.pattern = altered.pattern,
            Err(error) => line.refused = Some(error.to_string()),
        }
        self.lines.push((order, line));
    }

    fn worksheet(&mut self, wanted: Wanted<'_>) {
        let line = self.line(&wanted);
        self.lines.extend(line);
    }

    /// The line with its reason; `None`, listed as dropped, where the amount is too small to act on.
    fn line(&mut self, wanted: &Wanted<'_>) -> Option<(Order, PlanLine)> {
        if wanted.mm.abs() < DROPPED_BELOW {
            self.dropped
                .push(DroppedLine { name: wanted.name.to_owned(), amount: self.style.show(wanted.mm) });
            return None;
        }
        let row = self.comparison.row(wanted.figure)?;
        let (target, doubtful) = (row.target.as_ref()?, row.grade == DifferenceGrade::Remeasure);
        let again = if doubtful {
            " So large a difference is more often a wrong reading: measure it again."
        } else {
            ""
        };
        let line = PlanLine {
            name: wanted.name.to_owned(),
            alteration: None,
            amounts: Amounts::default(),
            amount: self.style.show(wanted.mm),
            on: wanted.on.to_owned(),
            reason: format!(
                "{}: target {}, block {}; {}.{again}",
                row.name,
                self.style.with_unit(target.mm),
                self.style.with_unit(row.block.mm),
                wanted.because
            ),
            readings: vec![row.measurement.clone()],
            refused: None,
        };
        Some((wanted.order, line))
    }
}
