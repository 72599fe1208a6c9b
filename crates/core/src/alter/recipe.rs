//! The recipe: an ordered list of alterations folded over a frozen block.
//!
//! Geometry is always recomputed, so any step can be edited, moved, switched off or undone, and the
//! block is never touched. A step that is decided later is played in its layer's place, and more of the same is
//! added to the step that is there: nothing is drawn on its own result (handbook: `alterations.md`, section 5).

use serde::{Deserialize, Serialize};

use super::fold::fold;
use super::{AlterError, Alteration, Altered, Amounts, Args, Layer, alteration, registry};
use crate::Style;
use crate::pattern::{Covers, Pattern, Piece, PieceKind, WornSide};

/// One step of a recipe.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Step {
    /// Names the step within its recipe; stays when the step is edited or moved.
    pub id: u32,
    /// Code of the alteration.
    pub alteration: String,
    /// What was decided first: its amount, and the ways and places that hold for all of it.
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
    /// The fitting round it was decided in; none where it comes from the plan or the cutting table.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub round: Option<u32>,
    /// Who decided it, where that is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<String>,
    /// What later decisions added to it, oldest first.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[cfg_attr(feature = "schema", schema(required = false))]
    pub more: Vec<Contribution>,
}

/// More of the same: what a later decision adds to a step.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Contribution {
    /// Names it within its step; stays when others are taken back.
    pub id: u32,
    /// The lengths it adds.
    pub amounts: Amounts,
    /// Why.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default)]
    pub reason: String,
    /// The fitting round it was decided in; none where it comes from the plan or the cutting table.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub round: Option<u32>,
    /// Who decided it, where that is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<String>,
    /// Where it is what the house has learnt of this alteration: the factor that brings the amount to where it ends.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub house_factor: Option<f64>,
}

fn on() -> bool {
    true
}

impl Step {
    /// Its amounts with everything that was added: what is drawn, limited and printed.
    pub fn total(&self) -> Amounts {
        let Some(known) = alteration(&self.alteration) else { return self.amounts.clone() };
        self.more.iter().fold(self.amounts.clone(), |sum, more| sum.and_more(&more.amounts, known.params()))
    }

    /// Its place in the one order; none where it is no alteration that is known.
    fn order(&self) -> Option<(Layer, usize)> {
        Some(place_in_order(alteration(&self.alteration)?, &self.amounts))
    }

    /// The style step that draws anew what it works on, by its code.
    fn goes_on_from(&self) -> Option<&'static str> {
        let known = alteration(&self.alteration)?;
        known.goes_on_from(&Args::new(known.params(), &self.amounts))
    }

    /// Whether another decision is more of this one: the same alteration with the same ways and places. A place that
    /// the later decision leaves open is this one's.
    fn is_more_of_the_same(&self, alteration: &dyn Alteration, amounts: &Amounts) -> bool {
        let params = alteration.params();
        self.alteration == alteration.code()
            && params.first().is_some_and(|first| first.is_added())
            && params
                .iter()
                .filter(|param| !param.is_added())
                .all(|param| Args::new(params, &self.amounts).agrees(&Args::new(params, amounts), param))
    }
}

/// What is decided: an alteration with its amounts, on one side or both, and why.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Decided {
    /// Code of the alteration.
    pub alteration: String,
    /// Its amounts.
    pub amounts: Amounts,
    /// The side it is done on; both unless told otherwise.
    #[serde(default)]
    pub side: Option<WornSide>,
    /// Why.
    #[cfg_attr(feature = "schema", schema(required = true))]
    #[serde(default)]
    pub reason: String,
    /// The fitting round it was decided in.
    #[serde(default)]
    pub round: Option<u32>,
    /// Who decided it.
    #[serde(default)]
    pub by: Option<String>,
    /// Where it is what the house has learnt of this alteration: the factor that brings the amount to where it ends.
    #[serde(default)]
    pub house_factor: Option<f64>,
}

impl Decided {
    /// An alteration on both sides, for this reason.
    pub fn new(alteration: &str, amounts: Amounts, reason: &str) -> Self {
        let (alteration, reason) = (alteration.to_owned(), reason.to_owned());
        Self { alteration, amounts, side: None, reason, round: None, by: None, house_factor: None }
    }
}

/// Where a decision went.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Taken {
    /// The step it is in.
    pub step: u32,
    /// What it added to that step; none where it is a step of its own.
    pub contribution: Option<u32>,
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

    /// The same recipe with a step added at the end, whatever its layer and whatever is there already.
    pub fn and(mut self, alteration: &str, amounts: Amounts, reason: &str) -> Self {
        let at = self.steps.len();
        self.insert(at, Decided::new(alteration, amounts, reason));
        self
    }

    /// The same recipe with its last step on one side only.
    pub fn on_one_side(mut self, side: WornSide) -> Self {
        if let Some(last) = self.steps.last_mut() {
            last.side = Some(side);
        }
        self
    }

    /// Takes a decision in: added to the step that does the same on the same side, or as a step in its layer's place.
    pub fn take(&mut self, decided: Decided) -> Taken {
        match self.same_step(&decided) {
            Some(at) => self.add_to(at, decided),
            None => {
                let at = alteration(&decided.alteration)
                    .map_or(self.steps.len(), |known| self.place_for(known, &decided.amounts));
                self.insert(at, decided)
            }
        }
    }

    /// As [`Self::take`], but a step of its own comes last: for decisions that are in order already.
    pub fn take_last(&mut self, decided: Decided) -> Taken {
        match self.same_step(&decided) {
            Some(at) => self.add_to(at, decided),
            None => self.insert(self.steps.len(), decided),
        }
    }

    /// The step that a decision is more of.
    fn same_step(&self, decided: &Decided) -> Option<usize> {
        let known = alteration(&decided.alteration)?;
        let from = self.goes_on_from(known, &decided.amounts, self.steps.len());
        let is_same = |step: &Step| {
            step.on && step.side == decided.side && step.is_more_of_the_same(known, &decided.amounts)
        };
        (from..self.steps.len()).find(|at| is_same(&self.steps[*at]))
    }

    /// Whether a step goes on from what an earlier style step drew anew: it belongs to that style, not to her.
    pub(crate) fn belongs_to_a_style(&self, index: usize) -> bool {
        let step = &self.steps[index];
        alteration(&step.alteration).is_some_and(|known| self.goes_on_from(known, &step.amounts, index) > 0)
    }

    /// From which of the first `end` places on a step of this alteration stands: behind the style step that draws anew what
    /// it works on, where there is one.
    fn goes_on_from(&self, known: &dyn Alteration, amounts: &Amounts, end: usize) -> usize {
        let Some(code) = known.goes_on_from(&Args::new(known.params(), amounts)) else { return 0 };
        let drawn = self.steps[..end].iter().rposition(|step| step.on && step.alteration == code);
        drawn.map_or(0, |index| index + 1)
    }

    fn add_to(&mut self, at: usize, decided: Decided) -> Taken {
        let step = &mut self.steps[at];
        let id = 1 + step.more.iter().map(|more| more.id).max().unwrap_or(0);
        let params = alteration(&step.alteration).map_or(&[][..], Alteration::params);
        let Decided { amounts, reason, round, by, house_factor, .. } = decided;
        let amounts = amounts.added(params);
        step.more.push(Contribution { id, amounts, reason, round, by, house_factor });
        Taken { step: step.id, contribution: Some(id) }
    }

    fn insert(&mut self, at: usize, decided: Decided) -> Taken {
        let id = self.steps.iter().map(|step| step.id).max().unwrap_or(0) + 1;
        let Decided { alteration, amounts, side, reason, round, by, .. } = decided;
        let step = Step { id, alteration, amounts, side, on: true, reason, round, by, more: Vec::new() };
        self.steps.insert(at, step);
        Taken { step: id, contribution: None }
    }

    /// Where a new step belongs: before the first step of a later layer, and in its own layer behind those that come
    /// before it in the one order.
    pub(super) fn place_for(&self, known: &dyn Alteration, amounts: &Amounts) -> usize {
        let own = place_in_order(known, amounts);
        // What a style step draws anew was decided without it: it is drawn over that.
        let drawn_over = self.steps.iter().rposition(|step| step.goes_on_from() == Some(known.code()));
        let place = self.place_of(own).max(drawn_over.map_or(0, |index| index + 1));
        let from = self.goes_on_from(known, amounts, self.steps.len());
        if from <= place {
            return place;
        }
        // Behind others that go on from the same step, in the one order.
        let same = known.goes_on_from(&Args::new(known.params(), amounts));
        let comes_before = |step: &&Step| step.goes_on_from() == same && step.order() <= Some(own);
        from + self.steps[from..].iter().take_while(comes_before).count()
    }

    /// Where a step of this alteration stands behind every other of its kind.
    pub(super) fn place_behind(&self, known: &dyn Alteration) -> usize {
        let (layer, rank) = place_in_order(known, &Amounts::default());
        self.place_of((layer, rank | 1))
    }

    fn place_of(&self, (layer, rank): (Layer, usize)) -> usize {
        let end = self.steps.iter().position(|step| step.order().is_some_and(|(other, _)| other > layer));
        let end = end.unwrap_or(self.steps.len());
        let before = self.steps[..end]
            .iter()
            .rposition(|step| step.order().is_none_or(|place| place <= (layer, rank)));
        before.map_or(0, |index| index + 1)
    }

    /// Which step draws a step on one side, or on both alike where none is named: the first that does the same there and
    /// was not refused. None where it is not done there.
    pub(super) fn drawn_with(
        &self,
        index: usize,
        side: Option<WornSide>,
        refused: &[usize],
    ) -> Option<usize> {
        let step = &self.steps[index];
        let is_done = |step: &Step| step.on && (step.side.is_none() || step.side == side);
        let known = alteration(&step.alteration);
        let same = |(at, earlier): (usize, &Step)| {
            let is_same = known.is_some_and(|known| earlier.is_more_of_the_same(known, &step.amounts));
            is_same && is_done(earlier) && !refused.contains(&at)
        };
        let from = known.map_or(0, |known| self.goes_on_from(known, &step.amounts, index));
        let earlier = self.steps[..index].iter().enumerate().skip(from);
        is_done(step).then(|| { earlier }.find(|each| same(*each)).map_or(index, |(at, _)| at))
    }

    /// Later steps that a step draws too on one side, or on both alike: those that are more of the same.
    pub(super) fn drawn_too(&self, index: usize, side: Option<WornSide>, refused: &[usize]) -> Vec<usize> {
        let later = index + 1..self.steps.len();
        later.filter(|later| self.drawn_with(*later, side, refused) == Some(index)).collect()
    }

    /// What a step draws on one side, or on both alike: its own total and that of what it draws too.
    pub(super) fn drawn_by(&self, index: usize, too: &[usize]) -> Amounts {
        let own = self.steps[index].total();
        let Some(known) = alteration(&self.steps[index].alteration) else { return own };
        too.iter().fold(own, |sum, later| sum.and_more(&self.steps[*later].total(), known.params()))
    }

    /// The recipe with one step in another place.
    ///
    /// # Errors
    ///
    /// A sentence that names what the move would break: a step that was done before and would be refused.
    pub fn moved(&self, block: &Pattern, id: u32, to: usize, style: Style) -> Result<Self, String> {
        let mut moved = self.clone();
        let from = moved.steps.iter().position(|step| step.id == id);
        let from = from.ok_or_else(|| format!("there is no step {id} to move"))?;
        let step = moved.steps.remove(from);
        moved.steps.insert(to.min(moved.steps.len()), step);
        let refused = |recipe: &Self| -> Vec<(u32, String)> {
            let made = make(block, recipe, style);
            made.refused().map(|(step, error)| (step.id, error.to_string())).collect()
        };
        let before = refused(self);
        let broken = refused(&moved).into_iter().find(|(id, _)| before.iter().all(|(other, _)| other != id));
        match broken {
            None => Ok(moved),
            Some((broken, error)) => {
                let name = |id: u32| {
                    let step = self.steps.iter().find(|step| step.id == id);
                    let known = step.and_then(|step| alteration(&step.alteration));
                    known.map_or("the step", Alteration::name).to_lowercase()
                };
                let what = if broken == id { "it".to_owned() } else { name(broken) };
                Err(format!("{} cannot go there: {what} could not be done then, {error}", name(id)))
            }
        }
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
            let number = index + 1;
            let known = alteration(&step.alteration)
                .ok_or_else(|| format!("step {number}: {}", AlterError::Unknown(step.alteration.clone())))?;
            if step.more.len() > Self::MOST_STEPS {
                return Err(format!("step {number}: at most {} decisions add to a step", Self::MOST_STEPS));
            }
            for more in &step.more {
                more.amounts
                    .validate_added(known.params())
                    .map_err(|error| format!("step {number}, what was added: {error}"))?;
            }
            step.total()
                .validate(known.params(), style)
                .map_err(|error| format!("step {number}: {error}"))?;
        }
        Ok(())
    }
}

/// The place of an alteration in the one order of plan, cutting table and fitting: its layer, and its place in that.
/// Where its ways take it to another layer than its usual one, it comes last there.
pub fn place_in_order(known: &dyn Alteration, amounts: &Amounts) -> (Layer, usize) {
    let all = registry();
    let rank = all.iter().position(|each| each.code() == known.code()).unwrap_or(all.len());
    let args = Args::new(known.params(), amounts);
    let layer = known.layer(&args);
    let rank = if layer == known.about().layer { rank } else { all.len() + rank };
    (layer, 2 * rank + usize::from(known.comes_second(&args)))
}

/// A step as it turned out.
#[derive(Clone, Debug, PartialEq)]
pub struct MadeStep {
    /// The step.
    pub step: Step,
    /// What it did, `None` where it is switched off, or why it was refused.
    pub outcome: Option<Result<Altered, AlterError>>,
    /// The earlier step that it is drawn with, on one side at least: more of the same is one line.
    pub drawn_with: Option<u32>,
}

impl MadeStep {
    /// With its follow-ups as they stand beside the finished pattern.
    pub(super) fn beside(mut self, finished: &Pattern) -> Self {
        if let Some(Ok(altered)) = &mut self.outcome {
            let follow_ups = std::mem::take(&mut altered.follow_ups);
            altered.follow_ups = follow_ups.into_iter().map(|follow| follow.beside(finished)).collect();
        }
        self
    }

    /// What it did, where it was done.
    pub fn altered(&self) -> Option<&Altered> {
        self.outcome.as_ref()?.as_ref().ok()
    }

    /// Why it was refused, where it was.
    pub fn refusal(&self) -> Option<&AlterError> {
        self.outcome.as_ref()?.as_ref().err()
    }
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

/// The piece of this kind, or the one it was cut from later: the same part of both sides, the undivided front or back.
fn ancestor(pattern: &Pattern, kind: PieceKind) -> Option<&Piece> {
    let same_part = || pattern.pieces.iter().find(|piece| piece.kind.part() == kind.part());
    let undivided = || match kind.covers() {
        _ if kind.is_sewn_on() => None,
        Covers::Front => pattern.front(),
        Covers::Back => pattern.back(),
        Covers::Arm | Covers::Edge => None,
    };
    pattern.piece(kind).or_else(same_part).or_else(undivided)
}

/// A piece as it is cut, whatever it is called: one that only became the left one has not changed.
fn unnamed(piece: Option<&Piece>) -> Option<Piece> {
    piece.map(|piece| Piece { kind: PieceKind::SLEEVE, ..piece.clone() })
}

/// A recipe folded over a block.
#[derive(Clone, Debug, PartialEq)]
pub struct Made {
    /// The block it was folded over.
    pub block: Pattern,
    /// The pattern after every step that could be done.
    pub pattern: Pattern,
    /// The steps in order.
    pub steps: Vec<MadeStep>,
}

impl Made {
    /// The steps that were refused, and why.
    pub fn refused(&self) -> impl Iterator<Item = (&Step, &AlterError)> {
        self.steps.iter().filter_map(|made| Some((&made.step, made.refusal()?)))
    }

    /// The pattern as the step in this place found it, from 0.
    pub(super) fn before(&self, place: usize) -> &Pattern {
        let done = self.steps[..place].iter().rev().find_map(MadeStep::altered);
        done.map_or(&self.block, |altered| &altered.pattern)
    }

    /// What the steps that were done promise to keep of a figure, truing costs added up; `None` where one of
    /// them may change it.
    pub fn promised(&self, figure: crate::pattern::PatternMeasure) -> Option<f64> {
        let done = self.steps.iter().filter(|made| matches!(made.outcome, Some(Ok(_))));
        done.filter_map(|made| Some((alteration(&made.step.alteration)?, &made.step)))
            .map(|(known, step)| {
                let total = step.total();
                let args = Args::new(known.params(), &total);
                // A step that asks for nothing keeps everything.
                if known.is_nothing(&args) {
                    return Some(0.0);
                }
                known.keeps(&args).cost(figure)
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
        let mut before = &self.block;
        for made in &self.steps {
            let (Some(Ok(altered)), Some(known)) = (&made.outcome, alteration(&made.step.alteration)) else {
                continue;
            };
            let was = std::mem::replace(&mut before, &altered.pattern);
            let other_side = kind.side().is_some_and(|own| made.step.side.is_some_and(|side| side != own));
            if other_side || unnamed(ancestor(was, kind)) == unnamed(ancestor(&altered.pattern, kind)) {
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
        self.refused().next().is_none()
    }
}

/// Folds a recipe over a block. A refused step is passed over and says why; the rest goes on.
pub fn make(block: &Pattern, recipe: &Recipe, style: Style) -> Made {
    let (pattern, steps) = fold(block, recipe, style);
    Made { block: block.clone(), pattern, steps }
}
