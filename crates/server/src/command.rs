//! The craft for scripts: JSON in, JSON out, the same documents as the API's.

use std::io::{Read, Write};

use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use yardwand_core::alter::{AlteredFor, Preview, Recipe, alteration_views, make, preview};
use yardwand_core::body::Body;
use yardwand_core::compare::{BlockSize, Comparison, Plan, PlanChanges, compare_fitted, plan_with_spread};
use yardwand_core::draft::{DraftNote, DraftStepView, Method, draft, step_views};
use yardwand_core::drape::{DrapeInput, Transfer, transfer};
use yardwand_core::ease::ease_set;
use yardwand_core::fitting::{read_fittings, weigh};
use yardwand_core::pattern::{Allowances, Check, Pattern, check_pattern, measure};
use yardwand_core::{Style, Unit};
use yardwand_paper::{Label, Paper, tiled_pdf, true_size_svg};

use crate::routes::allowance_note;

/// One of the craft's commands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Craft {
    /// `{body, method?}` → pattern, notes, figures, checks.
    Draft,
    /// `{body, block, ease?}` → comparison and plan.
    Compare,
    /// `{pattern, recipe}` → pattern, figures, checks, steps.
    Alter,
    /// `{front, back, given}` → pieces, lines, corrections, asks, figures, notes, camera.
    Drape,
    /// Described fittings, `[[fitting]]` rows of TOML → a line of JSON a row: `{causes: [{cause, weight, sure, …}]}`.
    Causes,
    /// `{pattern, label, allowances?, format?}` → SVG, or PDF bytes.
    Export,
}

/// Why a document was turned down: one clear line.
#[derive(Debug, thiserror::Error)]
#[error("{0}")]
pub struct CraftError(String);

fn default_style() -> Style {
    Style::EIGHTHS
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DraftAsked {
    body: Body,
    #[serde(default)]
    method: Method,
    #[serde(default = "default_style")]
    style: Style,
}

#[derive(Serialize)]
struct Drafted {
    /// The construction, step by step.
    steps: Vec<DraftStepView>,
    pattern: Pattern,
    notes: Vec<DraftNote>,
    figures: Vec<(yardwand_core::pattern::PatternMeasure, f64)>,
    checks: Vec<Check>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct CompareAsked {
    body: Body,
    block: BlockSize,
    #[serde(default = "standard")]
    ease: String,
    #[serde(default)]
    changes: PlanChanges,
    #[serde(default = "default_style")]
    style: Style,
}

fn standard() -> String {
    "standard".to_owned()
}

#[derive(Serialize)]
struct Compared {
    comparison: Comparison,
    plan: Plan,
    recipe: Recipe,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct AlterAsked {
    pattern: Pattern,
    recipe: Recipe,
    #[serde(default = "default_style")]
    style: Style,
}

#[derive(Serialize)]
struct AlteredDoc {
    pattern: Pattern,
    preview: Preview,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct ExportAsked {
    pattern: Pattern,
    label: LabelAsked,
    #[serde(default)]
    allowances: Allowances,
    #[serde(default)]
    format: Format,
    #[serde(default = "default_style")]
    style: Style,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct LabelAsked {
    client: String,
    garment: String,
    block: String,
    version: u32,
    date: String,
    #[serde(default)]
    altered_for: Vec<String>,
}

#[derive(Clone, Copy, Default, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Format {
    #[default]
    Svg,
    PdfA4,
    PdfLetter,
}

/// Reads a document, does the work, writes the answer.
///
/// # Errors
///
/// [`CraftError`] with one line that says what is wrong with the document.
pub fn run_craft(craft: Craft, mut input: impl Read, mut output: impl Write) -> Result<(), CraftError> {
    let mut text = String::new();
    input.read_to_string(&mut text).map_err(|e| CraftError(format!("standard input cannot be read: {e}")))?;
    let answer = match craft {
        Craft::Draft => json(&drafted(document(&text)?)?)?,
        Craft::Compare => json(&compared(document(&text)?)?)?,
        Craft::Alter => json(&altered(document(&text)?)?)?,
        Craft::Drape => json(&draped(&document(&text)?)?)?,
        Craft::Causes => causes(&text)?,
        Craft::Export => exported(document(&text)?)?,
    };
    output.write_all(&answer).map_err(|e| CraftError(format!("standard output cannot be written: {e}")))
}

/// Every alteration with its parameters, as a recipe for [`Craft::Alter`] is written from: JSON.
///
/// # Errors
///
/// [`CraftError`] where it cannot be written.
pub fn list_alterations(mut output: impl Write) -> Result<(), CraftError> {
    let listed = json(&alteration_views(default_style()))?;
    output.write_all(&listed).map_err(|e| CraftError(format!("standard output cannot be written: {e}")))
}

fn document<T: DeserializeOwned>(text: &str) -> Result<T, CraftError> {
    serde_json::from_str(text).map_err(|e| CraftError(format!("the document cannot be read: {e}")))
}

fn json<T: Serialize>(answer: &T) -> Result<Vec<u8>, CraftError> {
    let mut bytes = serde_json::to_vec(answer).map_err(|e| CraftError(e.to_string()))?;
    bytes.push(b'\n');
    Ok(bytes)
}

fn drafted(asked: DraftAsked) -> Result<Drafted, CraftError> {
    asked.body.validate().map_err(CraftError)?;
    asked.method.validate().map_err(CraftError)?;
    let draft = draft(&asked.body, &asked.method, asked.style).map_err(|e| CraftError(e.to_string()))?;
    Ok(Drafted {
        steps: step_views(&draft.steps, asked.style),
        figures: measure(&draft.pattern).iter().collect(),
        checks: check_pattern(&draft.pattern, asked.style),
        notes: draft.notes,
        pattern: draft.pattern,
    })
}

fn compared(asked: CompareAsked) -> Result<Compared, CraftError> {
    asked.body.validate().map_err(CraftError)?;
    asked.block.validate().map_err(CraftError)?;
    asked.changes.validate().map_err(CraftError)?;
    let ease = ease_set(&asked.ease, Unit::Cm)
        .ok_or_else(|| CraftError(format!("no ease set is called “{}”", asked.ease)))?;
    let plan = plan_with_spread(&asked.body, &asked.block, ease, &asked.changes, asked.style)
        .map_err(|e| CraftError(e.to_string()))?;
    Ok(Compared {
        comparison: compare_fitted(
            &asked.body,
            &asked.block.figures(),
            &asked.block.settled,
            ease,
            asked.style,
        ),
        recipe: plan.recipe(),
        plan,
    })
}

fn altered(asked: AlterAsked) -> Result<AlteredDoc, CraftError> {
    asked.pattern.validate().map_err(CraftError)?;
    asked.recipe.validate(asked.style).map_err(CraftError)?;
    let made = make(&asked.pattern, &asked.recipe, asked.style);
    for step in &made.steps {
        if let Some(Err(error)) = &step.outcome {
            return Err(CraftError(format!("step {}: {error}", step.step.id)));
        }
    }
    Ok(AlteredDoc {
        preview: preview(&asked.pattern, &asked.recipe, None, asked.style),
        pattern: made.pattern,
    })
}

fn draped(asked: &DrapeInput) -> Result<Transfer, CraftError> {
    transfer(asked).map_err(|refusal| {
        // Whoever wrote the document knows the marks by their codes.
        let marks: Vec<&str> = refusal.marks.iter().map(|named| named.code()).collect();
        let named = if marks.is_empty() { String::new() } else { format!(" ({})", marks.join(", ")) };
        CraftError(format!("{refusal}{named}"))
    })
}

/// A cause of a described fitting.
#[derive(Serialize)]
struct CauseTold {
    cause: String,
    weight: f64,
    sure: &'static str,
    #[serde(rename = "for")]
    speaks_for: Vec<String>,
    against: Vec<String>,
    test: String,
    /// None where nothing is altered.
    alteration: Option<String>,
    /// In millimetres, as the alteration measures it.
    amount: Option<f64>,
}

#[derive(Serialize)]
struct CausesTold {
    causes: Vec<CauseTold>,
}

fn causes(text: &str) -> Result<Vec<u8>, CraftError> {
    let rows = read_fittings(text).map_err(|e| CraftError(format!("the table cannot be read: {e}")))?;
    let mut lines = Vec::new();
    for (row, number) in rows.iter().zip(1..) {
        let evidence = row.evidence().map_err(|e| CraftError(format!("fitting {number}: {e}")))?;
        let told = weigh(&evidence, default_style()).offered.into_iter().map(|each| {
            let offer = each.answer.offer().cloned();
            CauseTold {
                cause: each.cause,
                weight: each.weight,
                sure: each.sure.name(),
                speaks_for: each.speaks_for,
                against: each.speaks_against,
                test: each.test,
                alteration: offer.as_ref().map(|offer| offer.alteration.clone()),
                amount: offer.map(|offer| offer.amount.mm),
            }
        });
        lines.extend(json(&CausesTold { causes: told.collect() })?);
    }
    Ok(lines)
}

fn exported(asked: ExportAsked) -> Result<Vec<u8>, CraftError> {
    asked.pattern.validate().map_err(CraftError)?;
    asked.allowances.validate(asked.style).map_err(CraftError)?;
    let label = Label {
        client: asked.label.client,
        garment: asked.label.garment,
        block: asked.label.block,
        version: asked.label.version,
        date: asked.label.date,
        allowance: allowance_note(&asked.allowances, &asked.pattern, asked.style),
        altered_for: asked
            .pattern
            .pieces
            .iter()
            .map(|piece| AlteredFor { piece: piece.kind, names: asked.label.altered_for.clone() })
            .collect(),
    };
    let pdf = |paper| {
        tiled_pdf(&asked.pattern, &asked.allowances, &label, paper).map_err(|e| CraftError(e.to_string()))
    };
    match asked.format {
        Format::Svg => Ok(true_size_svg(&asked.pattern, &asked.allowances, &label).into_bytes()),
        Format::PdfA4 => pdf(Paper::A4),
        Format::PdfLetter => pdf(Paper::Letter),
    }
}
