//! Choosing the size: by the frame or by the bust, both computed, the smaller correction leads.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::doubt::doubt_of_total;
use super::{Plan, PlanChanges, Settled, compare_fitted, plan};
use crate::body::{Body, carried, measurement};
use crate::ease::EaseSet;
use crate::pattern::{Garment, Pattern, PatternMeasure, PatternMeasures, measure};
use crate::{Natural, Shown, Style};

/// What a size of a block is known by.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub enum BlockSource {
    /// The draft, net.
    #[serde(rename = "pattern")]
    Drawn(Pattern),
    /// A card: what was measured on it by hand. No geometry.
    #[serde(rename = "card")]
    Card(PatternMeasures),
}

/// One size of a house master: the figure it was drafted for, and the draft.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct BlockSize {
    /// The size's name in the house.
    pub label: String,
    /// The house figure.
    pub figure: Body,
    /// Drawn, or measured by hand.
    #[serde(flatten)]
    pub source: BlockSource,
    /// What fittings settled of it.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub settled: Vec<Settled>,
}

/// No figure of a card is larger, in millimetres.
const MOST_ON_A_CARD: f64 = 3000.0;

impl BlockSize {
    /// A drawn size.
    pub fn drawn(label: &str, figure: Body, pattern: Pattern) -> Self {
        Self { label: label.to_owned(), figure, source: BlockSource::Drawn(pattern), settled: Vec::new() }
    }

    /// A card: what was measured on it by hand.
    pub fn card(label: &str, figure: Body, figures: PatternMeasures) -> Self {
        Self { label: label.to_owned(), figure, source: BlockSource::Card(figures), settled: Vec::new() }
    }

    /// The draft; a card has none.
    pub fn pattern(&self) -> Option<&Pattern> {
        match &self.source {
            BlockSource::Drawn(pattern) => Some(pattern),
            BlockSource::Card(_) => None,
        }
    }

    /// Whether a block from outside can be compared: a sound pattern or figures, and a sound house figure.
    ///
    /// # Errors
    ///
    /// A sentence that names what is wrong.
    pub fn validate(&self) -> Result<(), String> {
        self.figure.validate()?;
        match &self.source {
            BlockSource::Drawn(pattern) => pattern.validate(),
            BlockSource::Card(figures) => {
                match figures.iter().find(|(_, value)| !(-MOST_ON_A_CARD..=MOST_ON_A_CARD).contains(value)) {
                    Some((figure, _)) => {
                        Err(format!("{} must be at most {MOST_ON_A_CARD} mm", figure.name()))
                    }
                    None => Ok(()),
                }
            }
        }
    }

    /// What it is of: a card is of trousers where it has a crotch and no bust, and of a skirt where it has a hip and neither.
    pub fn garment(&self) -> Garment {
        match &self.source {
            BlockSource::Drawn(pattern) => pattern.garment(),
            BlockSource::Card(figures) => {
                let has = |figure| figures.get(figure).is_some();
                if has(PatternMeasure::Bust) || !has(PatternMeasure::Hip) {
                    Garment::Bodice
                } else if has(PatternMeasure::CrotchDepth) {
                    Garment::Trousers
                } else {
                    Garment::Skirt
                }
            }
        }
    }

    /// What is measured on it.
    pub fn figures(&self) -> PatternMeasures {
        match &self.source {
            BlockSource::Drawn(pattern) => measure(pattern),
            BlockSource::Card(figures) => figures.clone(),
        }
    }

    /// Bust less upper bust of the figure it was drafted for; 51 (a B cup) where it is not known.
    pub fn cup(&self) -> f64 {
        let known = self.figure.get("bust_girth").zip(self.figure.get("upper_bust_girth"));
        known.map_or(50.8, |(bust, upper)| bust - upper)
    }

    /// The bust that a bought pattern is printed for: what is measured by hand on it is a card.
    fn printed(&self) -> Option<f64> {
        self.figure.get("bust_girth").filter(|_| self.pattern().is_none())
    }

    /// What a bought pattern is wider at the bust than it is printed for: its own ease. Known where both stand on a card.
    pub fn printed_ease(&self) -> Option<f64> {
        let finished = self.figures().get(PatternMeasure::Bust).filter(|_| self.pattern().is_none());
        finished.zip(self.figure.get("bust_girth")).map(|(finished, printed)| finished - printed)
    }

    /// The hip it was drafted for; of a card without one, what it measures less the usual ease.
    fn hip(&self) -> f64 {
        let measured = || self.figures().get(PatternMeasure::Hip).map(|mm| mm - 40.0);
        self.figure.get("hip_girth").or_else(measured).unwrap_or_default()
    }

    /// The bust it was drafted for; of a card without one, what it measures less the usual ease.
    fn bust(&self) -> f64 {
        let measured = || self.figures().get(PatternMeasure::Bust).map(|mm| mm - 50.0);
        self.figure.get("bust_girth").or_else(measured).unwrap_or_default()
    }
}

/// A cup that exceeds the block's by more than this is chosen for by the upper bust: a house constant (a published
/// threshold is a cup of 51 mm in itself).
pub const USUAL_CUP_OVER: Natural = Natural::new(1.0, CUP_OVER);
/// The same in millimetres, where no house is asked.
pub const CUP_OVER: f64 = 25.0;

/// How a size is chosen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SizeSchool {
    /// By the upper bust: frame, neck and shoulders fit, the bust is opened.
    UpperBust,
    /// By the bust: the shoulders and chest are narrowed.
    Bust,
    /// Of a bought pattern, her upper bust read as the printed bust.
    Printed,
    /// By the hip, of what has no bust: the waist is taken in.
    Hip,
}

/// What one school chooses and what it would need.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeChoice {
    /// The school.
    pub school: SizeSchool,
    /// The size's name.
    pub size: String,
    /// Why this size.
    pub why: String,
    /// The lines it would need, by name and amount.
    pub lines: Vec<String>,
    /// All corrections added up.
    pub total: Shown,
}

/// The schools side by side.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeChoices {
    /// The leading choice first.
    pub choices: Vec<SizeChoice>,
    /// Why the first leads.
    pub why: String,
    /// Where the spreads of her readings make the choice a toss-up, and between which sizes.
    pub toss_ups: Vec<String>,
    /// Readings the corrections should count and could not, by name: they are not taken yet, or the block does not tell.
    pub uncounted: Vec<String>,
}

/// Chooses a size by every school there is for the block; `cup_over` is the house's constant ([`CUP_OVER`]). `None` without
/// sizes, bust or upper bust. What has no bust is chosen by the hip alone.
pub fn choose_size(
    body: &Body,
    sizes: &[BlockSize],
    ease: &EaseSet,
    cup_over: f64,
    style: Style,
) -> Option<SizeChoices> {
    if sizes.iter().any(|size| size.garment() != Garment::Bodice) {
        return by_hip(body, sizes, ease, style);
    }
    let (bust, upper) = (body.get("bust_girth")?, body.get("upper_bust_girth")?);
    let by_the_bust = |body: &Body, size: &BlockSize| off(size.bust(), body.get("bust_girth"));
    let by_the_frame =
        |body: &Body, size: &BlockSize| off(size.bust() - size.cup(), body.get("upper_bust_girth"));
    // Between two sizes the smaller, for the frame.
    let nearest = |off: &OffBy<'_>| ranked(body, sizes, off, BlockSize::bust);
    let (bust_sizes, frame_sizes) = (nearest(&by_the_bust), nearest(&by_the_frame));
    let by_bust = *bust_sizes.first()?;
    let over_the_cup = |body: &Body| {
        let cup = body.get("bust_girth")? - body.get("upper_bust_girth")?;
        Some(cup - by_bust.cup() - cup_over)
    };
    let full_cup = over_the_cup(body)? > 0.0;
    let by_frame = if full_cup { *frame_sizes.first()? } else { by_bust };
    let choice = |school, size: &BlockSize, why: String| {
        // Without changes the trade's own order stands.
        let plan = plan(body, size, ease, &PlanChanges::default(), style).ok()?;
        Some(to_choice(school, size, why, &plan, style))
    };
    let write = |mm| style.with_unit(mm);
    let why = if full_cup {
        format!(
            "Upper bust {}, and the {} that the block's bust is more than its upper bust, make a bust of {}.",
            write(upper),
            write(by_frame.cup()),
            write(upper + by_frame.cup())
        )
    } else {
        format!(
            "Her bust is {} more than her upper bust, the block's {} more: not over {} of difference, so the bust chooses \
             the size.",
            write(bust - upper),
            write(by_bust.cup()),
            write(cup_over)
        )
    };
    let frame = choice(SizeSchool::UpperBust, by_frame, why)?;
    let bust =
        choice(SizeSchool::Bust, by_bust, format!("Bust {}, nearest in the house sizes.", write(bust)))?;
    let by_the_printed =
        |body: &Body, size: &BlockSize| off(size.printed().unwrap_or_default(), body.get("upper_bust_girth"));
    let mut printed_sizes = nearest(&by_the_printed);
    printed_sizes.retain(|size| size.printed().is_some());
    let printed = printed_sizes.first().copied();
    let printed =
        printed.and_then(|size| choice(SizeSchool::Printed, size, why_printed(upper, size, style)?));
    let mut choices: Vec<SizeChoice> = [Some(frame), Some(bust), printed].into_iter().flatten().collect();
    choices.sort_by(|a, b| a.total.mm.total_cmp(&b.total.mm));
    let toss_up = Tossing { body, sizes, ease, style };
    let cup = |body: &Body| over_the_cup(body).unwrap_or_default();
    let toss_ups = [
        toss_up.between("bust", &bust_sizes, &by_the_bust),
        toss_up.between("upper bust", &frame_sizes, &by_the_frame).filter(|_| full_cup),
        toss_up.between("upper bust, read as the printed bust", &printed_sizes, &by_the_printed),
        toss_up.whether_the_cup_counts(cup, by_bust, frame_sizes.first()?),
        toss_up.which_leads(&choices),
    ];
    let why = why_it_leads(&choices, sizes.len(), style);
    let toss_ups = toss_ups.into_iter().flatten().collect();
    Some(SizeChoices { choices, why, toss_ups, uncounted: uncounted(body, by_frame, ease, style) })
}

/// How far a size is off a body, in millimetres.
type OffBy<'a> = dyn Fn(&Body, &BlockSize) -> f64 + 'a;

fn off(size: f64, reading: Option<f64>) -> f64 {
    (size - reading.unwrap_or_default()).abs()
}

/// The sizes, the one that is least off first; of two as near the one with the smaller `rather`.
fn ranked<'a>(
    body: &Body,
    sizes: &'a [BlockSize],
    off: &OffBy<'_>,
    rather: impl Fn(&BlockSize) -> f64,
) -> Vec<&'a BlockSize> {
    let mut ranked: Vec<&BlockSize> = sizes.iter().collect();
    ranked.sort_by(|a, b| off(body, a).total_cmp(&off(body, b)).then(rather(a).total_cmp(&rather(b))));
    ranked
}

/// A choice whose margin is under half its spread is a toss-up: measured again it would come out the other way three times
/// in ten or oftener (a normal figure is below half its spread under its middle in 31 of 100).
const TOSS_UP: f64 = 0.5;

/// Where the spreads of readings decide which size is chosen.
struct Tossing<'a> {
    body: &'a Body,
    sizes: &'a [BlockSize],
    ease: &'a EaseSet,
    style: Style,
}

impl Tossing<'_> {
    /// What a figure of her body is, and whether it is nearer to nothing than half its spread.
    fn margin(&self, of: impl Fn(&Body) -> f64) -> Option<(f64, f64)> {
        let spread = carried(self.body, |body| BTreeMap::from([((), of(body))])).get(&())?.mm();
        let margin = of(self.body);
        (margin.abs() < TOSS_UP * spread).then_some((margin.abs(), spread))
    }

    /// How far it is to where a choice changes; nothing where that is written as nothing.
    fn from(&self, margin: f64) -> String {
        if self.style.is_alike(margin, 0.0) {
            String::new()
        } else {
            format!("{} from ", self.style.with_unit(margin))
        }
    }

    /// Between the two sizes that are nearest by a reading.
    fn between(&self, by: &str, nearest: &[&BlockSize], off: &OffBy<'_>) -> Option<String> {
        let [first, second, ..] = nearest else { return None };
        let (margin, spread) = self.margin(|body| off(body, second) - off(body, first))?;
        // Half-way between two sizes, a reading goes towards the one as fast as it goes away from the other.
        let (from, spread) = (self.from(margin / 2.0), self.style.spread(spread / 2.0));
        Some(format!(
            "By the {by}, {} or {} is a toss-up: hers is {from}half-way between them, and the reading \u{b1} {}.",
            first.label, second.label, spread.text
        ))
    }

    /// Whether her cup is so much over the block's that the frame chooses instead of the bust.
    fn whether_the_cup_counts(
        &self,
        over: impl Fn(&Body) -> f64,
        by_bust: &BlockSize,
        by_frame: &BlockSize,
    ) -> Option<String> {
        let (margin, spread) = self.margin(over).filter(|_| by_bust.label != by_frame.label)?;
        Some(format!(
            "Whether the bust chooses {} or the frame {} is a toss-up: her cup is {}where that changes, \u{b1} {}.",
            by_bust.label,
            by_frame.label,
            self.from(margin),
            self.style.spread(spread).text
        ))
    }

    /// Which size has the smaller sum of corrections.
    fn which_leads(&self, choices: &[SizeChoice]) -> Option<String> {
        let first = choices.first()?;
        let other = choices.iter().find(|choice| choice.size != first.size)?;
        let of = |label: &str| {
            let size = self.sizes.iter().find(|size| size.label == label)?;
            Some(doubt_of_total(self.body, size, self.ease, self.style))
        };
        let spread = of(&first.size)?.less(&of(&other.size)?).mm();
        let margin = other.total.mm - first.total.mm;
        (margin < TOSS_UP * spread).then(|| {
            format!(
                "Whether size {} or {} needs less is a toss-up: the sums are {} apart, \u{b1} {}.",
                first.size,
                other.size,
                self.style.with_unit(margin),
                self.style.spread(spread).text
            )
        })
    }
}

/// Why the first of the choices leads.
fn why_it_leads(choices: &[SizeChoice], sizes: usize, style: Style) -> String {
    let Some((first, rest)) = choices.split_first() else { return String::new() };
    let other = rest.iter().find(|choice| choice.size != first.size);
    let in_all = |choice: &SizeChoice| format!("{} {}", choice.total.text, style.unit().suffix());
    match other {
        _ if sizes == 1 => "This block has one size.".to_owned(),
        None if rest.len() == 1 => {
            format!("The upper bust and the bust choose the same size: {}.", first.size)
        }
        None => format!("Every school chooses the same size: {}.", first.size),
        Some(other) => format!(
            "Size {} leads: its corrections add up to {}, those of size {} to {}.",
            first.size,
            in_all(first),
            other.size,
            in_all(other)
        ),
    }
}

/// Why this size of a bought pattern, whose printed bust is nearest to her upper bust: a bought pattern is printed for a B cup,
/// so her frame is that of a smaller size than her bust says. Its ease is read off, finished less printed.
fn why_printed(upper: f64, size: &BlockSize, style: Style) -> Option<String> {
    let bust = size.printed()?;
    let ease = size.printed_ease().map_or_else(String::new, |ease| {
        format!(" It is made with {} of ease at the bust, finished less printed.", style.with_unit(ease))
    });
    Some(format!(
        "Upper bust {}, read as the printed bust: {} is nearest.{ease}",
        style.with_unit(upper),
        style.with_unit(bust)
    ))
}

/// The size whose hip is nearest to hers; of two as near the larger, since a waist is taken in more easily than a hip let out.
fn by_hip(body: &Body, sizes: &[BlockSize], ease: &EaseSet, style: Style) -> Option<SizeChoices> {
    let hip = body.get("hip_girth")?;
    let by_the_hip = |body: &Body, size: &BlockSize| off(size.hip(), body.get("hip_girth"));
    let nearest = ranked(body, sizes, &by_the_hip, |size| -size.hip());
    let size = *nearest.first()?;
    let plan = plan(body, size, ease, &PlanChanges::default(), style).ok()?;
    let why = format!("Hip {}, nearest in the house sizes.", style.with_unit(hip));
    let choice = to_choice(SizeSchool::Hip, size, why, &plan, style);
    let why = match sizes.len() {
        1 => "This block has one size.".to_owned(),
        _ => format!("What has no bust is chosen by the hip: size {}.", choice.size),
    };
    let toss_ups = Tossing { body, sizes, ease, style }.between("hip", &nearest, &by_the_hip);
    Some(SizeChoices {
        choices: vec![choice],
        why,
        toss_ups: toss_ups.into_iter().collect(),
        uncounted: Vec::new(),
    })
}

/// What a size is chosen for besides the bust: neck, chest, back and shoulder.
const COUNTED: [(&str, PatternMeasure); 4] = [
    ("neck_base_girth", PatternMeasure::Neckline),
    ("across_front", PatternMeasure::AcrossFront),
    ("across_back", PatternMeasure::AcrossBack),
    ("shoulder_length", PatternMeasure::ShoulderFront),
];

/// Names of the readings that the sum of corrections could not count.
fn uncounted(body: &Body, size: &BlockSize, ease: &EaseSet, style: Style) -> Vec<String> {
    let compared = compare_fitted(body, &size.figures(), &size.settled, ease, style);
    let is_counted = |figure| compared.of(figure).is_some();
    let name = |code: &str| measurement(code).map_or(code, |row| row.name.as_str()).to_owned();
    COUNTED.iter().filter(|(_, figure)| !is_counted(*figure)).map(|(code, _)| name(code)).collect()
}

fn to_choice(school: SizeSchool, size: &BlockSize, why: String, plan: &Plan, style: Style) -> SizeChoice {
    // As the plan writes it, so that the lines add up to the sum below them.
    let line = |line: &super::PlanLine| {
        format!("{} {} {} {}", line.name, line.amount.text, style.unit().suffix(), line.on)
    };
    SizeChoice {
        school,
        size: size.label.clone(),
        why,
        lines: plan.lines.iter().filter(|line| line.done).map(line).collect(),
        total: plan.total.clone(),
    }
}
