//! Folding a recipe over a block: step by step, on both sides alike, or on each side by itself where a step is for one.
//!
//! Steps that are more of the same on a side are drawn once, where the first of them stands, with their amounts added
//! up before anything is drawn.

use super::apply::both;
use super::recipe::MadeStep;
use super::{AlterError, Altered, Amounts, Recipe, alteration, apply};
use crate::Style;
use crate::pattern::{Pattern, WornSide};

/// The pattern after every step that could be done, and what became of each step.
pub(super) fn fold(block: &Pattern, recipe: &Recipe, style: Style) -> (Pattern, Vec<MadeStep>) {
    let is_one_sided = recipe.steps.iter().any(|step| step.on && step.side.is_some());
    let lanes = if is_one_sided {
        WornSide::BOTH.map(|side| Lane { side: Some(side), pattern: block.worn_on(side) }).into()
    } else {
        vec![Lane { side: None, pattern: block.clone() }]
    };
    let mut table =
        Table { recipe, style, lanes, pattern: block.clone(), refused: Vec::new(), too_much: Vec::new() };
    let steps: Vec<MadeStep> = (0..recipe.steps.len()).map(|index| table.step(index)).collect();
    let finished = table.pattern.without_loose_sleeve();
    let steps = steps.into_iter().map(|made| made.beside(&finished)).collect();
    (finished, steps)
}

/// A pattern as it is worn on one side, or on both alike.
struct Lane {
    side: Option<WornSide>,
    pattern: Pattern,
}

struct Table<'a> {
    recipe: &'a Recipe,
    style: Style,
    /// One for both sides, or left and right.
    lanes: Vec<Lane>,
    /// Both sides in one.
    pattern: Pattern,
    /// Steps that were refused, by index.
    refused: Vec<usize>,
    /// Later steps that could not be added to an earlier one, by index.
    too_much: Vec<(usize, AlterError)>,
}

impl Table<'_> {
    fn step(&mut self, index: usize) -> MadeStep {
        let step = &self.recipe.steps[index];
        let with =
            { self.lanes.iter() }.filter_map(|lane| self.recipe.drawn_with(index, lane.side, &self.refused));
        let earlier = with.filter(|with| *with != index).min();
        let too_much = self.too_much.iter().find(|(later, _)| *later == index);
        let too_much = too_much.map(|(_, error)| error.clone());
        let outcome = step.on.then(|| too_much.map_or_else(|| self.drawn(index), Err));
        if matches!(outcome, Some(Err(_))) {
            self.refused.push(index);
        }
        MadeStep { step: step.clone(), outcome, drawn_with: earlier.map(|index| self.recipe.steps[index].id) }
    }

    /// Draws a step on the sides it is for, each with what later steps add to it there.
    fn drawn(&mut self, index: usize) -> Result<Altered, AlterError> {
        if alteration(&self.recipe.steps[index].alteration).is_some_and(|known| known.goes_all_round()) {
            return self.drawn_all_round(index);
        }
        let mut done = Vec::with_capacity(self.lanes.len());
        let mut too_much = Vec::new();
        for lane in &self.lanes {
            let is_drawn_here = self.recipe.drawn_with(index, lane.side, &self.refused) == Some(index);
            if is_drawn_here {
                let (altered, refused) = self.on_lane(index, lane)?;
                done.push(altered);
                too_much.extend(refused);
            } else {
                done.push(Altered::unchanged(&lane.pattern, None));
            }
        }
        self.too_much.extend(too_much);
        for (lane, altered) in self.lanes.iter_mut().zip(&done) {
            lane.pattern = altered.pattern.clone();
        }
        let mut done = done.into_iter();
        let altered = match (done.next(), done.next()) {
            (Some(left), Some(right)) => both(left, right, &self.pattern),
            (Some(alike), None) => alike,
            (None, _) => Altered::unchanged(&self.pattern, None),
        };
        self.pattern = altered.pattern.clone();
        Ok(altered)
    }

    /// Draws a step that goes all round on both sides at once.
    fn drawn_all_round(&mut self, index: usize) -> Result<Altered, AlterError> {
        let both = Lane { side: None, pattern: self.pattern.clone() };
        let (altered, refused) = self.on_lane(index, &both)?;
        self.too_much.extend(refused);
        for lane in &mut self.lanes {
            lane.pattern = match lane.side {
                Some(side) => altered.pattern.worn_on(side),
                None => altered.pattern.clone(),
            };
        }
        self.pattern = altered.pattern.clone();
        Ok(altered)
    }

    /// A step on one lane with as many of the later steps that add to it as can be done, and those that cannot.
    fn on_lane(&self, index: usize, lane: &Lane) -> Result<(Altered, Vec<(usize, AlterError)>), AlterError> {
        let step = &self.recipe.steps[index];
        let known =
            alteration(&step.alteration).ok_or_else(|| AlterError::Unknown(step.alteration.clone()))?;
        let draw = |amounts: &Amounts| apply(known, &lane.pattern, amounts, None, self.style);
        let too = self.recipe.drawn_too(index, lane.side, &self.refused);
        let whole = draw(&self.recipe.drawn_by(index, &too));
        if whole.is_ok() || too.is_empty() {
            return whole.map(|altered| (altered, Vec::new()));
        }
        // Together they go too far. One by one, in their order: what goes too far with those before it is left out.
        let mut done = vec![];
        let mut drawn = draw(&step.total())?;
        let mut refused = Vec::new();
        for later in too {
            let with = [done.as_slice(), &[later]].concat();
            match draw(&self.recipe.drawn_by(index, &with)) {
                Ok(altered) => (drawn, done) = (altered, with),
                Err(error) => refused.push((later, error)),
            }
        }
        Ok((drawn, refused))
    }
}
