//! What lasts: her posture and frame go into her own block, cloth and style stay with the garment.

use serde::{Deserialize, Serialize};

use super::causes;
use crate::Style;
use crate::alter::{Recipe, alteration, amount_views, choices, decisions, make};
use crate::pattern::Pattern;

/// A step of a finished recipe, and whether it would be taken into her own block.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LastingStep {
    /// The step's number within the recipe.
    pub id: u32,
    /// The alteration, in the trade's words.
    pub name: String,
    /// Its amount and ways.
    pub says: String,
    /// Why it is there.
    pub reason: String,
    /// Whether it is posture or frame.
    pub lasting: bool,
}

/// The steps of a recipe that are on, each with whether it lasts: what a lasting cause is answered by.
pub fn lasting_steps(recipe: &Recipe, style: Style) -> Vec<LastingStep> {
    let on = recipe.steps.iter().enumerate().filter(|(_, step)| step.on);
    on.filter_map(|(index, step)| {
        let known = alteration(&step.alteration)?;
        let total = step.total();
        let amounts = amount_views(known, &total, style);
        let amount =
            amounts.last().map(|view| format!("{} {} {}", view.amount.text, style.unit().suffix(), view.on));
        let ways = choices(known, &total, style);
        let side = step.side.map(|side| format!("on the {}", side.name()));
        let says: Vec<String> = amount.into_iter().chain(ways).chain(side).collect();
        let answers = causes().iter().filter(|cause| cause.is_answered_by(&step.alteration));
        Some(LastingStep {
            id: step.id,
            name: known.name().to_owned(),
            says: says.join(", "),
            reason: decisions(step).into_iter().map(|each| each.says).collect::<Vec<_>>().join(" "),
            lasting: answers.clone().any(|cause| cause.lasting) && !recipe.belongs_to_a_style(index),
        })
    })
    .collect()
}

/// Her own block: the block with the chosen steps of a recipe, in their order.
///
/// # Errors
///
/// A sentence that names the step that cannot be done without those left out.
pub fn own_block(block: &Pattern, recipe: &Recipe, chosen: &[u32], style: Style) -> Result<Pattern, String> {
    let steps = recipe.steps.iter().filter(|step| step.on && chosen.contains(&step.id)).cloned().collect();
    let kept = Recipe { steps, ..recipe.clone() };
    let made = make(block, &kept, style);
    let refused = made.refused().next().map(|(step, error)| {
        let name = alteration(&step.alteration).map_or(step.alteration.as_str(), |known| known.name());
        format!("{name}: {error}. Take along what it builds on, or leave it out")
    });
    refused.map_or(Ok(made.pattern), Err)
}
