//! The recipe: an ordered list of alterations folded over a frozen block.
//!
//! Geometry is always recomputed, so any step can be edited, moved, switched off or undone, and the
//! block is never touched.

use serde::{Deserialize, Serialize};

use super::{AlterError, Altered, Amounts, Given, alteration, apply};
use crate::Style;
use crate::pattern::{Pattern, Piece, PieceKind, WornSide};

/// One step of a recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Step {
    /// Names the step within its recipe; stays when the step is edited or moved.
    pub id: u32,
    /// Code of the alteration.
    pub alteration: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// The side it is done on; both unless told otherwise.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<WornSide>,
    /// Switched on.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default = "on")]
    pub on: bool,
    /// Why it is done.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default)]
    pub reason: String,
}

fn on() -> bool {
    true
}

/// What is done to a block, in order. Versioned JSON.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Recipe {
    /// Version of this document's form.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default = "Recipe::form")]
    pub form: u32,
    /// The steps.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default)]
    pub steps: Vec<Step>,
}

impl Default for Recipe {
    fn default() -> Self {
        Self { form: Self::FORM, steps: Vec::new() }
    }
}

impl Recipe {
    /// The form of the document that this program writes.
    pub const FORM: u32 = 1;
    /// The most steps a recipe may have.
    pub const MOST_STEPS: usize = 64;

    fn form() -> u32 {
        Self::FORM
    }

    /// The same recipe with a step added at the end.
    pub fn and(mut self, alteration: &str, amounts: Amounts, reason: &str) -> Self {
        let id = self.steps.iter().map(|step| step.id).max().unwrap_or(0) + 1;
        let (alteration, reason) = (alteration.to_owned(), reason.to_owned());
        self.steps.push(Step { id, alteration, amounts, side: None, on: true, reason });
        self
    }

    /// The same recipe with its last step on one side only.
    pub fn on_one_side(mut self, side: WornSide) -> Self {
        if let Some(last) = self.steps.last_mut() {
            last.side = Some(side);
        }
        self
    }

    /// Whether a recipe from outside can be folded: known form, known alterations, amounts in range.
    ///
    /// # Errors
    ///
    /// A sentence that names the step.
    pub fn validate(&self, style: Style) -> Result<(), String> {
        if self.form != Self::FORM {
            return Err(format!(
                "the recipe is written in form {}, this program reads form {}",
                self.form,
                Self::FORM
            ));
        }
        if self.steps.len() > Self::MOST_STEPS {
            return Err(format!("a recipe has at most {} steps", Self::MOST_STEPS));
        }
        for (index, step) in self.steps.iter().enumerate() {
            let known =
                alteration(&step.alteration).ok_or_else(|| AlterError::Unknown(step.alteration.clone()));
            known
                .and_then(|a| step.amounts.validate(a.params(), style))
                .map_err(|error| format!("step {}: {error}", index + 1))?;
        }
        Ok(())
    }
}

/// A step as it turned out.
#[derive(Clone, Debug, PartialEq)]
pub struct MadeStep {
    /// The step.
    pub step: Step,
    /// The pattern it was applied to.
    pub before: Pattern,
    /// What it did, `None` where it is switched off, or why it was refused.
    pub outcome: Option<Result<Altered, AlterError>>,
}

/// What a piece was altered for.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AlteredFor {
    /// The piece.
    pub piece: PieceKind,
    /// The alterations, by name, in their order; none is the block as it is.
    pub names: Vec<String>,
}

/// The piece of this kind, or the one it was cut from later: the same part of both sides, the undivided front.
fn ancestor(pattern: &Pattern, kind: PieceKind) -> Option<&Piece> {
    let same_part = || pattern.pieces.iter().find(|piece| piece.kind.part() == kind.part());
    let undivided = || kind.is_front().then(|| pattern.front()).flatten();
    pattern.piece(kind).or_else(same_part).or_else(undivided)
}

/// A piece as it is cut, whatever it is called: one that only became the left one has not changed.
fn unnamed(piece: Option<&Piece>) -> Option<Piece> {
    piece.map(|piece| Piece { kind: PieceKind::SLEEVE, ..piece.clone() })
}

/// A recipe folded over a block.
#[derive(Clone, Debug, PartialEq)]
pub struct Made {
    /// The pattern after every step that could be done.
    pub pattern: Pattern,
    /// The steps in order.
    pub steps: Vec<MadeStep>,
}

impl Made {
    /// What the steps that were done promise to keep of a figure, truing costs added up; `None` where one of
    /// them may change it.
    pub fn promised(&self, figure: crate::pattern::Figure) -> Option<f64> {
        let done = self.steps.iter().filter(|made| matches!(made.outcome, Some(Ok(_))));
        done.filter_map(|made| Some((alteration(&made.step.alteration)?, &made.step)))
            .map(|(known, step)| {
                let given = Given::new(known.params(), &step.amounts);
                // A step that asks for nothing keeps everything.
                if known.is_nothing(&given) {
                    return Some(0.0);
                }
                known.keeps(&given).cost(figure)
            })
            .sum()
    }

    /// What each piece was altered for, in the trade's words: the steps that were done and changed it. A piece that
    /// came out of another carries what that one was altered for.
    pub fn altered_for(&self) -> Vec<AlteredFor> {
        let of = |kind: PieceKind| AlteredFor { piece: kind, names: self.names_for(kind) };
        self.pattern.pieces.iter().map(|piece| of(piece.kind)).collect()
    }

    fn names_for(&self, kind: PieceKind) -> Vec<String> {
        let mut names: Vec<String> = Vec::new();
        for made in &self.steps {
            let (Some(Ok(altered)), Some(known)) = (&made.outcome, alteration(&made.step.alteration)) else {
                continue;
            };
            let other_side = kind.side().is_some_and(|own| made.step.side.is_some_and(|side| side != own));
            if other_side
                || unnamed(ancestor(&made.before, kind)) == unnamed(ancestor(&altered.pattern, kind))
            {
                continue;
            }
            let name = known.name().to_lowercase();
            let name = made.step.side.map_or(name.clone(), |side| format!("{name} ({})", side.name()));
            if !names.contains(&name) {
                names.push(name);
            }
        }
        names
    }

    /// Whether every step that is switched on was done.
    pub fn is_whole(&self) -> bool {
        self.steps.iter().all(|made| !matches!(made.outcome, Some(Err(_))))
    }
}

/// Folds a recipe over a block. A refused step is passed over and says why; the rest goes on.
pub fn make(block: &Pattern, recipe: &Recipe, style: Style) -> Made {
    let mut pattern = block.clone();
    let mut steps = Vec::with_capacity(recipe.steps.len());
    for step in &recipe.steps {
        let before = pattern.clone();
        let outcome = step.on.then(|| {
            alteration(&step.alteration)
                .ok_or_else(|| AlterError::Unknown(step.alteration.clone()))
                .and_then(|alteration| apply(alteration, &pattern, &step.amounts, step.side, style))
        });
        if let Some(Ok(altered)) = &outcome {
            pattern = altered.pattern.clone();
        }
        steps.push(MadeStep { step: step.clone(), before, outcome });
    }
    Made { pattern, steps }
}
