//! From differences to a plan: an ordered recipe with amounts, reasons and the readings behind them.
//!
//! Lengths and the back's balance first, since they move levels; then the bust before any other width, since a
//! difference at the bust is mostly prominence; then shoulders, widths, side seams and underarm; the sleeve from the
//! finished armhole, and the points last. What the dressmaker switches off, sets or reorders is worked in and the rest planned anew.

use serde::{Deserialize, Serialize};

use super::carry_out::{Done, Ground, Means};
use super::doubt::{PlanDoubt, doubt_of};
use super::explain::CUP_COUNTS;
use super::order::{name_of, ordered};
use super::{BlockSize, Comparison, DifferenceGrade, OrderError, PlanChanges, Settled, compare_fitted};
use crate::alter::{Amounts, Decided, MeasuredOn, Recipe, alteration, make};
use crate::body::Body;
use crate::ease::EaseSet;
use crate::pattern::{PatternMeasure, PatternMeasures, measure};
use crate::{Length, OnBody, Shown, Style};

/// Amounts under this are dropped, in millimetres.
const DROPPED_BELOW: f64 = 3.0;
/// A shoulder narrower than this on each side is pivoted in, in millimetres.
const NARROW_A_SIDE: f64 = 6.0;
/// Each dart takes up to this of a waist difference before the side seams do, in millimetres.
const DART_TAKES: f64 = 12.0;
/// Above this in all a waist difference wants a panel seam, in millimetres.
const WANTS_PANEL: f64 = 50.0;

/// One line of a plan.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlanLine {
    /// Stable key: what the dressmaker's changes are kept by.
    pub key: String,
    /// The alteration's name.
    pub name: String,
    /// Code of the alteration where it is built; a line without one stays on the worksheet.
    pub alteration: Option<String>,
    /// Its amounts, where it is built.
    pub amounts: Amounts,
    /// The amount as the pattern carries it.
    pub amount: Shown,
    /// How sure the amount is: its spread. None where it was set by hand, or where nobody asked.
    pub spread: Option<Shown>,
    /// What the plan made of it, where the amount was set by hand.
    pub planned: Option<Shown>,
    /// What the amount is measured on.
    pub measured_on: MeasuredOn,
    /// How many such parts go round the body: 2 halves, 4 seam edges, 1 where it is said as it is.
    pub parts: u32,
    /// What it is measured on or where it is done, in words.
    pub on: String,
    /// Why, with the figures.
    pub reason: String,
    /// The readings behind it.
    pub readings: Vec<String>,
    /// Whether it is done.
    pub done: bool,
    /// Why it cannot be done as it stands, where it cannot.
    pub refused: Option<String>,
    /// Why it is not carried out on the pattern and how it is done by hand, where that is so.
    pub by_hand: Option<String>,
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
    /// The figure.
    pub figure: PatternMeasure,
    /// The figure's reading.
    pub name: String,
    /// Body and ease.
    pub target: Shown,
    /// On the block.
    pub before: Shown,
    /// How sure the target is: its spread, as far as it hangs on a reading.
    pub spread: Option<Shown>,
    /// After the plan's built lines are applied.
    pub predicted: Shown,
    /// How sure the prediction is, by the amounts that are planned: their spreads carried through the alterations. None where
    /// no planned amount moves it, or where nobody asked.
    pub predicted_spread: Option<Shown>,
    /// What is still missing of the target, as the row shows it.
    pub left: Shown,
    /// Target and prediction are written alike.
    pub closes: bool,
    /// Within the comparison's tolerance.
    pub fits: bool,
    /// A line that is done is there for it.
    pub addressed: bool,
    /// Other lines bring it along: on the block it was near enough, or off the other way.
    pub by_product: bool,
    /// Why it is off after the plan, and what brings it there; none where it is near enough.
    pub rest: Option<String>,
}

/// What to do, why, and where it leads.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Plan {
    /// The lines in order.
    pub lines: Vec<PlanLine>,
    /// Too small to act on.
    pub dropped: Vec<DroppedLine>,
    /// Figures after it; none without geometry.
    pub predictions: Vec<Prediction>,
    /// All corrections added up, in millimetres on the pattern.
    pub total: Shown,
    /// Which readings its amounts hang on; none where nobody asked.
    pub doubt: Option<PlanDoubt>,
}

impl Plan {
    /// The recipe of the lines that are built and done.
    pub fn recipe(&self) -> Recipe {
        self.lines
            .iter()
            .filter(|line| line.done && line.refused.is_none())
            .filter_map(|line| line.alteration.as_ref().map(|code| (code, line)))
            .fold(Recipe::default(), |mut recipe, (code, line)| {
                // The lines are in order already; those of one alteration are one step.
                recipe.take_last(Decided::new(code, line.amounts.clone(), &line.reason));
                recipe
            })
    }
}

/// Plans the way from a block to a body with its ease.
///
/// # Errors
///
/// [`OrderError`] where the wanted order breaks a dependency.
pub fn plan(
    body: &Body,
    block: &BlockSize,
    ease: &EaseSet,
    changes: &PlanChanges,
    style: Style,
) -> Result<Plan, OrderError> {
    let asked = Asked::new(body, block, ease, changes, style);
    asked.planned(asked.worked(asked.block_as_it_is()))
}

/// The same with what the spreads of her readings make of every amount and of every figure after it, and which reading is
/// best taken again.
///
/// # Errors
///
/// [`OrderError`] where the wanted order breaks a dependency.
pub fn plan_with_spread(
    body: &Body,
    block: &BlockSize,
    ease: &EaseSet,
    changes: &PlanChanges,
    style: Style,
) -> Result<Plan, OrderError> {
    let asked = Asked::new(body, block, ease, changes, style);
    let worked = asked.worked(asked.block_as_it_is());
    let doubt = doubt_of(&asked, &worked);
    let mut plan = asked.planned(worked)?;
    doubt.written_into(&mut plan, style);
    Ok(plan)
}

/// What a plan is made of.
#[derive(Clone, Copy)]
pub(super) struct Asked<'a> {
    pub(super) body: &'a Body,
    pub(super) block: &'a BlockSize,
    pub(super) settled: &'a [Settled],
    pub(super) ease: &'a EaseSet,
    pub(super) changes: &'a PlanChanges,
    pub(super) style: Style,
}

impl<'a> Asked<'a> {
    pub(super) fn new(
        body: &'a Body,
        block: &'a BlockSize,
        ease: &'a EaseSet,
        changes: &'a PlanChanges,
        style: Style,
    ) -> Self {
        Self { body, block, settled: &block.settled, ease, changes, style }
    }

    fn against(&self, figures: &PatternMeasures) -> Comparison {
        compare_fitted(self.body, figures, self.settled, self.ease, self.style)
    }

    pub(super) fn block_as_it_is(&self) -> Ground {
        self.block.pattern().map_or(Ground::Card, |pattern| Ground::Drawn(pattern.clone()))
    }

    /// Works every line out, each after the ones before it.
    pub(super) fn worked(self, ground: Ground) -> Planner<'a> {
        let comparison = self.against(&self.block.figures());
        let mut planner = Planner {
            body: self.body,
            on_block: comparison.clone(),
            comparison,
            ground,
            lines: Vec::new(),
            dropped: Vec::new(),
            addressed: Vec::new(),
            asked: Vec::new(),
            done: Vec::new(),
            settled: self.settled,
            ease: self.ease,
            changes: self.changes,
            style: self.style,
        };
        let bust = planner.bust_difference(self.block.cup());
        if let Some(BustDifference::Prominence(because)) = &bust {
            planner.bust(because);
        }
        planner.shoulders();
        // After the bust, which lengthens the front: what is left then is length. It is done first all the same.
        planner.lengths();
        planner.widths(bust == Some(BustDifference::Frame));
        planner.trousers();
        planner.sleeve();
        planner
    }

    /// Puts the lines in their order and foretells what they make.
    fn planned(&self, worked: Planner<'_>) -> Result<Plan, OrderError> {
        let style = self.style;
        let Planner { lines, dropped, addressed, asked, on_block, .. } = worked;
        let keys = ordered(lines.iter().map(|line| line.key.clone()).collect(), &self.changes.order)?;
        let lines: Vec<PlanLine> =
            keys.iter().filter_map(|key| lines.iter().find(|line| line.key == *key).cloned()).collect();
        let (exact, written) =
            lines.iter().filter(|line| line.done).fold((0.0, 0.0), |(exact, written), line| {
                let mm = line.amount.mm.abs();
                (exact + mm, written + style.written_part(mm, line.parts))
            });
        let total = style.shown_in_parts(exact, written, 4);
        let mut plan = Plan { lines, dropped, predictions: Vec::new(), total, doubt: None };
        if let Some(pattern) = self.block.pattern() {
            let after = self.against(&measure(&make(pattern, &plan.recipe(), style).pattern));
            let prediction = |row: super::Difference| {
                let before = on_block.row(row.figure)?.block.clone();
                Some(Prediction {
                    figure: row.figure,
                    fits: row.grade == DifferenceGrade::Fits,
                    addressed: addressed.contains(&row.figure),
                    by_product: is_by_product(&on_block, &row),
                    rest: rest(&row, &plan.lines, &asked, is_by_product(&on_block, &row), style),
                    closes: row.on_body.as_ref().is_some_and(|left| left.text == style.show(0.0).text),
                    left: row.on_body?,
                    name: row.name,
                    target: row.target?,
                    spread: row.spread,
                    predicted: row.block,
                    predicted_spread: None,
                    before,
                })
            };
            let predictions: Vec<Prediction> = after.rows.into_iter().filter_map(prediction).collect();
            plan.predictions = predictions;
        }
        Ok(plan)
    }
}

/// Figures that another alteration changes along the way: a longer shoulder widens the back where it is measured, a fuller
/// bust lengthens the front.
const BY_PRODUCTS: [PatternMeasure; 7] = [
    PatternMeasure::FrontLength,
    PatternMeasure::CentreBack,
    PatternMeasure::AcrossBack,
    PatternMeasure::AcrossFront,
    PatternMeasure::ShoulderDrop,
    PatternMeasure::BustPointDepth,
    PatternMeasure::BustSpan,
];

/// Whether a figure that is off after the plan was near enough on the block, or off the other way.
fn is_by_product(on_block: &Comparison, after: &super::Difference) -> bool {
    let off = after.on_body.as_ref().filter(|_| after.grade == DifferenceGrade::Alter).map(|shown| shown.mm);
    off.is_some_and(|off| difference(on_block, after.figure).is_none_or(|was| was * off <= 0.0))
}

/// Why a figure is off after the plan, and what brings it there.
fn rest(
    row: &super::Difference,
    lines: &[PlanLine],
    asked: &[(PatternMeasure, &'static str)],
    is_by_product: bool,
    style: Style,
) -> Option<String> {
    if row.grade == DifferenceGrade::Fits {
        return None;
    }
    if row.grade == DifferenceGrade::WithinReading {
        return Some("within the reading: less than twice its spread".to_owned());
    }
    let keys: Vec<&str> =
        asked.iter().filter(|(figure, _)| *figure == row.figure).map(|(_, key)| *key).collect();
    let own: Vec<&PlanLine> = lines.iter().filter(|line| keys.contains(&line.key.as_str())).collect();
    let stands_in_the_way = own.iter().find_map(|line| {
        let name = format!("\u{201c}{}\u{201d}", line.name);
        match line {
            _ if !line.done => Some(format!("{name} is left out: it is there to bring this right")),
            _ if line.refused.is_some() => Some(format!("{name} cannot be done as it stands: see there")),
            _ if line.by_hand.is_some() => Some(format!("by hand: see {name}")),
            _ if line.planned.is_some() => Some(format!("the amount of {name} was set by hand")),
            _ => None,
        }
    });
    let on_the_table = || match changed_by(row.figure).and_then(alteration) {
        Some(known) => format!("by hand: \u{201c}{}\u{201d} on the cutting table changes it", known.name()),
        None => "by hand, on the paper".to_owned(),
    };
    Some(match stands_in_the_way {
        Some(says) => says,
        None if own.is_empty() && !keys.is_empty() => {
            format!("less than {} a part: too little to act on", style.with_unit(DROPPED_BELOW))
        }
        None if is_by_product => {
            format!("the lines above bring it along, and it is not corrected back; {}", on_the_table())
        }
        None => on_the_table(),
    })
}

/// The alteration that changes a figure by itself, by code.
fn changed_by(figure: PatternMeasure) -> Option<&'static str> {
    Some(match figure {
        PatternMeasure::Bust | PatternMeasure::Waist | PatternMeasure::Hip => "side_seams",
        PatternMeasure::AcrossFront => "front_width",
        PatternMeasure::AcrossBack => "back_width",
        PatternMeasure::ShoulderFront | PatternMeasure::ShoulderBack => "shoulder_length",
        PatternMeasure::ShoulderDrop => "shoulder_slope",
        PatternMeasure::Neckline | PatternMeasure::NecklineFront | PatternMeasure::NecklineBack => "neck",
        PatternMeasure::Armhole
        | PatternMeasure::ArmholeFront
        | PatternMeasure::ArmholeBack
        | PatternMeasure::ArmholeDepth => "underarm",
        PatternMeasure::SideFront | PatternMeasure::SideBack | PatternMeasure::SleeveLength => "length",
        PatternMeasure::CentreFront | PatternMeasure::FrontLength => "front_balance",
        PatternMeasure::CentreBack | PatternMeasure::BackLength => "rounded_back",
        PatternMeasure::BustPointDepth | PatternMeasure::BustSpan => "dart_point",
        PatternMeasure::CapHeight | PatternMeasure::CapLength | PatternMeasure::CapEase => "cap_height",
        PatternMeasure::CapWidth => "biceps_width",
        PatternMeasure::SleeveHem => "sleeve_width",
        PatternMeasure::CrotchDepth
        | PatternMeasure::CrotchLength
        | PatternMeasure::InsideLeg
        | PatternMeasure::LegAtCrotch
        | PatternMeasure::LegAtThigh
        | PatternMeasure::LegAtKnee
        | PatternMeasure::LegAtCalf
        | PatternMeasure::LegHem
        | PatternMeasure::UnderBust
        | PatternMeasure::WaistDartFront
        | PatternMeasure::WaistDartBack
        | PatternMeasure::SideDart
        | PatternMeasure::ShoulderDart
        | PatternMeasure::ArmholeDart => return None,
        PatternMeasure::BelowHip | PatternMeasure::Hem => "hem_length",
        PatternMeasure::WaistToHip => "high_hip",
        PatternMeasure::TopHip => "skirt_belly",
        PatternMeasure::FrontToHip => "front_balance",
        PatternMeasure::BackToHip => "rounded_back",
        PatternMeasure::SkirtSideFront | PatternMeasure::SkirtSideBack => "skirt_length",
        PatternMeasure::SkirtCentreFront => "skirt_belly",
        PatternMeasure::SkirtCentreBack => "skirt_seat",
    })
}

/// The difference of a figure that a comparison grades to be altered, on the body, in millimetres.
fn difference(comparison: &Comparison, figure: PatternMeasure) -> Option<f64> {
    let row = comparison.row(figure)?;
    let acts = matches!(row.grade, DifferenceGrade::Alter | DifferenceGrade::Remeasure);
    row.on_body.as_ref().filter(|_| acts).map(|shown| shown.mm)
}

/// What two differences ask for alike: the smaller of the two where both have one direction.
fn both_want(one: f64, other: f64) -> f64 {
    if one * other > 0.0 { one.abs().min(other.abs()).copysign(one) } else { 0.0 }
}

pub(super) struct Planner<'a> {
    pub(super) body: &'a Body,
    pub(super) comparison: Comparison,
    /// The comparison with the block as it is.
    pub(super) on_block: Comparison,
    /// The block as the lines so far leave it.
    pub(super) ground: Ground,
    pub(super) lines: Vec<PlanLine>,
    pub(super) dropped: Vec<DroppedLine>,
    pub(super) addressed: Vec<PatternMeasure>,
    /// Which figure each line is for, by key; also those that were too small to act on.
    pub(super) asked: Vec<(PatternMeasure, &'static str)>,
    /// What was done on the pattern, in the order it was done.
    pub(super) done: Vec<Done>,
    pub(super) settled: &'a [Settled],
    pub(super) ease: &'a EaseSet,
    pub(super) changes: &'a PlanChanges,
    pub(super) style: Style,
}

/// What a line's amount is measured on, and how that or its place is said.
#[derive(Clone, Copy)]
pub(super) struct On {
    measured: MeasuredOn,
    words: &'static str,
}

impl On {
    /// A part of the body's girth, a seam or a side.
    pub(super) const fn part(measured: MeasuredOn) -> Self {
        Self { measured, words: measured.words() }
    }

    /// As it is, at a place.
    pub(super) const fn at(words: &'static str) -> Self {
        Self { measured: MeasuredOn::Here, words }
    }
}

/// A line before it is written down.
pub(super) struct Wanted<'a> {
    pub(super) key: &'static str,
    pub(super) name: &'a str,
    pub(super) mm: f64,
    pub(super) on: On,
    pub(super) figure: PatternMeasure,
    pub(super) because: &'a str,
}

/// What a difference at the bust comes from.
#[derive(Clone, Debug, PartialEq)]
enum BustDifference {
    /// More or less bust on the same frame, and why it is taken for that.
    Prominence(String),
    /// A wider or narrower frame: it belongs to the side seams.
    Frame,
}

impl Planner<'_> {
    /// What a difference at the bust comes from, seen on the block as it is; none where it needs nothing.
    fn bust_difference(&self, block_cup: f64) -> Option<BustDifference> {
        let off = self.to_alter(PatternMeasure::Bust)?;
        let cup = self.body.get("bust_girth").zip(self.body.get("upper_bust_girth")).map(|(b, u)| b - u);
        let more_cup = cup.map_or(0.0, |cup| cup - block_cup);
        let longer_front = self.to_alter(PatternMeasure::FrontLength).is_some_and(|mm| mm > 0.0)
            && self.to_alter(PatternMeasure::CentreBack).is_none();
        let is_prominence = (more_cup >= CUP_COUNTS && off > 0.0)
            || (more_cup <= -CUP_COUNTS && off < 0.0)
            || (longer_front && off > 0.0);
        if !is_prominence {
            return Some(BustDifference::Frame);
        }
        let because = if more_cup.abs() >= CUP_COUNTS {
            let word = if more_cup > 0.0 { "over" } else { "under" };
            let by = self.style.with_unit(more_cup.abs());
            format!("her cup is {by} {word} the block's, so the difference is prominence")
        } else {
            "the front is longer while the back fits, so the difference is prominence".to_owned()
        };
        Some(BustDifference::Prominence(because))
    }

    fn bust(&mut self, because: &str) {
        let Some(off) = self.to_alter(PatternMeasure::Bust) else { return };
        let half = OnBody(Length::from_mm(off)).per_half().0.mm();
        let mut amounts = Amounts::of(half);
        if let (Some(span), Some(depth)) = (self.body.get("bust_span"), self.body.get("snp_to_bust_point")) {
            amounts = amounts.with("bust_point_out", span / 2.0).with("bust_point_down", depth);
        }
        let moves_point = amounts.0.contains_key("bust_point_out");
        let name = if half > 0.0 { "Full bust" } else { "Small bust" };
        let wanted = Wanted {
            key: "bust",
            name,
            mm: half,
            on: On::part(MeasuredOn::PerHalf),
            figure: PatternMeasure::Bust,
            because,
        };
        let done = self.built(wanted, Means { amounts, ..Means::by("full_bust") });
        if done && moves_point {
            self.addressed.extend([PatternMeasure::BustPointDepth, PatternMeasure::BustSpan]);
        }
    }

    fn shoulders(&mut self) {
        let by_length = self.to_alter(PatternMeasure::ShoulderFront);
        if let Some(off) = by_length {
            let wanted = Wanted {
                key: "shoulder_length",
                name: "Shoulder length",
                mm: off,
                on: On::part(MeasuredOn::PerSeam),
                figure: PatternMeasure::ShoulderFront,
                because: "front and back alike",
            };
            self.built(wanted, Means::by("shoulder_length"));
        }
        // Narrower across while the seam's own length fits: the whole shoulder stands too far out.
        let drawn = self.ground.shoulder_width();
        let narrower = self.body.get("shoulder_width").zip(drawn).map(|(hers, drawn)| (drawn - hers) / 2.0);
        // A shoulder that pins have placed stays where they placed it.
        let is_settled = self.settled.iter().any(|settled| settled.figure == PatternMeasure::ShoulderFront);
        let narrower = narrower.filter(|mm| *mm > NARROW_A_SIDE && by_length.is_none() && !is_settled);
        if let Some(mm) = narrower {
            let line = self.line_of(
                "narrow_shoulder",
                "Narrow shoulder by pivot",
                -mm,
                On::part(MeasuredOn::PerSide),
                format!(
                    "Shoulder width: hers {}, block {}; the shoulder's own length fits.",
                    self.style.with_unit(self.body.get("shoulder_width").unwrap_or_default()),
                    self.style.with_unit(drawn.unwrap_or_default())
                ),
                vec!["shoulder_width".to_owned()],
            );
            self.carry_out(line, None, Means::by("narrow_shoulder").opposite());
        }
        if let Some(off) = self.to_alter(PatternMeasure::ShoulderDrop) {
            let wanted = Wanted {
                key: "shoulder_slope",
                name: "Shoulder slope",
                mm: off,
                on: On::part(MeasuredOn::PerSide),
                figure: PatternMeasure::ShoulderDrop,
                because: if off > 0.0 { "her shoulders slope more" } else { "her shoulders are squarer" },
            };
            self.built(wanted, Means::by("shoulder_slope"));
        }
    }

    /// What front and back share is length, at a level; what is left over is balance (handbook: `compare.md`, section 4).
    fn lengths(&mut self) {
        let front = self.to_alter(PatternMeasure::FrontLength).unwrap_or(0.0);
        let behind = self.to_alter(PatternMeasure::CentreBack).unwrap_or(0.0);
        let shared = both_want(front, behind);
        // Above the bust as far as the bust point and the armhole are to come down with it; the rest below.
        let wanted = |figure| self.to_alter(figure).unwrap_or(0.0);
        let above = both_want(
            shared,
            both_want(wanted(PatternMeasure::BustPointDepth), wanted(PatternMeasure::ArmholeDepth)),
        );
        self.shared_length("length_above", "Bodice length above the bust", above, "armhole");
        self.shared_length("length", "Bodice length", shared - above, "waist");
        if shared != 0.0 {
            self.addressed.extend([PatternMeasure::FrontLength, PatternMeasure::CentreBack]);
        }
        if let Some(mm) = self.to_alter(PatternMeasure::FrontLength) {
            let wanted = Wanted {
                key: "front_balance",
                name: "Front balance",
                mm,
                on: On::at("at centre front, over the bust"),
                figure: PatternMeasure::FrontLength,
                because: if mm > 0.0 {
                    "the front is longer over the bust than the back asks for"
                } else {
                    "the front is shorter over the bust than the back asks for"
                },
            };
            self.built(wanted, Means::by("front_balance"));
        }
        if let Some(mm) = self.to_alter(PatternMeasure::CentreBack) {
            let wanted = Wanted {
                key: "rounded_back",
                name: if mm > 0.0 { "Rounded back" } else { "Erect back" },
                mm,
                on: On::at("at centre back, over the blades"),
                figure: PatternMeasure::CentreBack,
                because: if mm > 0.0 {
                    "the back is longer over the blades than the front asks for"
                } else {
                    "the back is shorter over the blades than the front asks for"
                },
            };
            self.built(wanted, Means::by("rounded_back"));
        }
    }

    /// A length that front and back get alike: the amount is theirs, and no figure alone says it.
    fn shared_length(&mut self, key: &'static str, name: &str, mm: f64, at: &str) {
        let wanted = Wanted {
            key,
            name,
            mm,
            on: On::at("along a level cut, front and back"),
            figure: PatternMeasure::CentreBack,
            because: "front and back differ alike: lengths move levels and come first",
        };
        if mm == 0.0 {
            return;
        }
        self.asked.push((PatternMeasure::FrontLength, key));
        if let Some(line) = self.line(&wanted) {
            let amounts = Amounts::default().by("at", at);
            self.carry_out(line, None, Means { amounts, ..Means::by("length") });
        }
    }

    fn points(&mut self) {
        let planned_bust = self.lines.iter().any(|line| line.key == "bust" && line.done);
        if planned_bust {
            return;
        }
        for (key, name, figure, share, on, param) in [
            (
                "bust_point",
                "Bust point level",
                PatternMeasure::BustPointDepth,
                1.0,
                On::at("down the front"),
                "amount",
            ),
            (
                "bust_span",
                "Bust points apart",
                PatternMeasure::BustSpan,
                2.0,
                On::part(MeasuredOn::PerHalf),
                "out",
            ),
        ] {
            if let Some(mm) = self.to_alter(figure) {
                let because = "the darts must point at hers";
                let wanted = Wanted { key, name, mm: mm / share, on, figure, because };
                self.built(wanted, Means::by("dart_point").param(param));
            }
        }
    }

    fn widths(&mut self, frame_at_the_bust: bool) {
        let waist = self.to_alter(PatternMeasure::Waist).map_or(0.0, f64::abs);
        let how = if waist > WANTS_PANEL {
            let most = self.style.with_unit(WANTS_PANEL);
            format!("more than {most} in all is better placed in a panel seam")
        } else {
            let each = self.style.with_unit(DART_TAKES);
            format!("at the side seams; the darts can take up to {each} each of it first")
        };
        let seen = "measured on the pattern after the lines above";
        let side = || Means::by("side_seams");
        let large = "an armhole must be 1 in larger than the arm's own";
        for (key, name, figure, share, on, because, means) in [
            (
                "back_width",
                "Back width",
                PatternMeasure::AcrossBack,
                2.0,
                On::part(MeasuredOn::PerHalf),
                seen,
                Means::by("back_width"),
            ),
            (
                "front_width",
                "Front width",
                PatternMeasure::AcrossFront,
                2.0,
                On::part(MeasuredOn::PerHalf),
                seen,
                Means::by("front_width"),
            ),
            (
                "neck",
                "Neckline",
                PatternMeasure::Neckline,
                2.0,
                On::at("deeper at centre front"),
                "a neckline must not choke: more is a matter of style",
                Means::by("neck"),
            ),
            (
                "bust_side",
                "Side seams at the bust",
                PatternMeasure::Bust,
                4.0,
                On::part(MeasuredOn::PerEdge),
                "the cup is the block's own, so the difference is frame",
                side(),
            ),
            (
                "waist",
                "Waist",
                PatternMeasure::Waist,
                4.0,
                On::part(MeasuredOn::PerEdge),
                how.as_str(),
                side().param("waist"),
            ),
            (
                "hip",
                "Hip",
                PatternMeasure::Hip,
                4.0,
                On::part(MeasuredOn::PerEdge),
                "half to each side of the side seam",
                side().param("hip"),
            ),
            (
                "underarm",
                "Underarm",
                PatternMeasure::ArmholeDepth,
                1.0,
                On::at("down, front and back"),
                seen,
                Means::by("underarm"),
            ),
            (
                "armhole",
                "Armhole",
                PatternMeasure::Armhole,
                2.0,
                On::at("down at the underarm"),
                large,
                Means::by("underarm"),
            ),
        ] {
            let rounded = key == "underarm" && self.lines.iter().any(|line| line.key == "rounded_back");
            let lowered = key == "armhole" && self.lines.iter().any(|line| line.key == "underarm");
            let is_cups = key == "bust_side" && !frame_at_the_bust;
            if let Some(off) = self.to_alter(figure).filter(|_| !rounded && !lowered && !is_cups) {
                self.built(Wanted { key, name, mm: off / share, on, figure, because }, means);
            }
        }
    }

    /// The sleeve from the finished armhole, and the points of the darts.
    fn sleeve(&mut self) {
        let because = "the sleeve comes last, from the finished armhole";
        let length = Amounts::default().by("pieces", "sleeve");
        let mut plan = |key, name, figure, on, means| {
            if let Some(mm) = self.to_alter(figure) {
                self.built(Wanted { key, name, mm, on, figure, because }, means);
            }
        };
        plan(
            "sleeve_width",
            "Sleeve width",
            PatternMeasure::CapWidth,
            On::at("at the biceps line"),
            Means::by("biceps_width"),
        );
        plan(
            "sleeve_length",
            "Sleeve length",
            PatternMeasure::SleeveLength,
            On::at("at the elbow line"),
            Means { amounts: length, ..Means::by("length") },
        );
        self.points();
    }

    /// The difference of a figure that is graded to be altered, on the body. What only the lines before brought about is
    /// theirs: such a by-product is not corrected back, unless other pieces hang on the figure.
    pub(super) fn to_alter(&self, figure: PatternMeasure) -> Option<f64> {
        let now = difference(&self.comparison, figure)?;
        let is_own = || difference(&self.on_block, figure).is_some_and(|on_block| on_block * now > 0.0);
        (!BY_PRODUCTS.contains(&figure) || is_own()).then_some(now)
    }

    /// The line with its reason; `None`, listed as dropped, where the amount is too small to act on.
    pub(super) fn line(&mut self, wanted: &Wanted<'_>) -> Option<PlanLine> {
        self.asked.push((wanted.figure, wanted.key));
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
        let reason = format!(
            "{}: target {} {}, block {}; {}.{again}",
            row.name,
            target.text,
            self.style.unit().suffix(),
            self.style.with_unit(row.block.mm),
            wanted.because
        );
        let readings = vec![row.measurement.clone()];
        Some(self.line_of(wanted.key, wanted.name, wanted.mm, wanted.on, reason, readings))
    }

    fn line_of(
        &self,
        key: &str,
        name: &str,
        mm: f64,
        on: On,
        reason: String,
        readings: Vec<String>,
    ) -> PlanLine {
        debug_assert!(name_of(key).is_some(), "{key} has a place in the order");
        let by_hand = self.changes.amounts.get(key).copied();
        let parts = on.measured.parts();
        PlanLine {
            key: key.to_owned(),
            name: name.to_owned(),
            alteration: None,
            amounts: Amounts::default(),
            amount: self.style.part(by_hand.unwrap_or(mm), parts),
            spread: None,
            planned: by_hand.map(|_| self.style.part(mm, parts)),
            measured_on: on.measured,
            parts,
            on: on.words.to_owned(),
            reason,
            readings,
            done: !self.changes.off.iter().any(|off| off == key),
            refused: None,
            by_hand: None,
        }
    }
}
