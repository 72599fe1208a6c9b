//! The rules of a round: what is still open, what earlier rounds taught, what its decisions make of the recipe, and when it
//! can be closed.

use super::{CoursePoint, Decision, Mark, Observation, Tried, cause, is_open, trend};
use crate::Style;
use crate::alter::{Decided, Recipe, alteration, make};
use crate::pattern::{Pattern, WornSide};

/// Something seen, with all that was decided and became of it.
#[derive(Clone, Debug, PartialEq)]
pub struct Noted {
    /// The number of the round it was seen in.
    pub round: u32,
    /// What was seen.
    pub seen: Observation,
    /// By whom.
    pub seen_by: String,
    /// What was decided.
    pub decision: Option<Decision>,
    /// What it became in later rounds, oldest first.
    pub marks: Vec<Marked>,
}

/// What an observation had become in a later round.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct Marked {
    /// The later round's number.
    pub round: u32,
    /// What it had become.
    pub mark: Mark,
    /// What is still left in one half, in millimetres, where it was measured; negative where it turned over.
    pub per_half: Option<f64>,
}

impl Noted {
    /// Whether it still wants something.
    pub fn is_open(&self) -> bool {
        is_open(self.decision.as_ref(), self.marks.last().map(|marked| marked.mark))
    }

    /// Whether it was still open when a round began.
    pub fn was_open_before(&self, round: u32) -> bool {
        let last = self.marks.iter().rfind(|marked| marked.round < round);
        is_open(self.decision.as_ref(), last.map(|marked| marked.mark))
    }

    /// Whether it is evidence in a round: seen there, or earlier and marked there as still to be seen.
    pub fn is_evidence_in(&self, round: u32) -> bool {
        let still = |marked: &Marked| marked.round == round && marked.mark != Mark::Gone;
        self.round == round || (self.round < round && self.marks.iter().any(still))
    }

    /// Its amounts round by round: what is gone is nought.
    pub fn course(&self) -> Vec<CoursePoint> {
        let Some(first) = self.seen.signed_per_half() else { return Vec::new() };
        let way = first.signum();
        let later = self.marks.iter().filter_map(|marked| {
            let mm = match (marked.mark, marked.per_half) {
                (Mark::Gone, _) => 0.0,
                (_, Some(mm)) => way * mm,
                (_, None) => return None,
            };
            Some(CoursePoint { round: marked.round, mm })
        });
        std::iter::once(CoursePoint { round: self.round, mm: first }).chain(later).collect()
    }

    /// What a round teaches of the cause it was decided for: what had become of it by then.
    pub fn taught_by(&self, round: u32) -> Option<Tried> {
        let cause = self.decision.as_ref()?.cause().filter(|_| self.round < round)?;
        let became = self.marks.iter().rfind(|marked| marked.round <= round)?.mark;
        let course: Vec<CoursePoint> =
            self.course().into_iter().filter(|point| point.round <= round).collect();
        let trend = (course.len() > 1).then(|| trend(&course));
        Some(Tried { cause: cause.to_owned(), became, trend })
    }

    /// What closing its round takes into the recipe; none where nothing is altered for it.
    fn decided(&self) -> Option<Decided> {
        let decided = altered_by(self.decision.as_ref()?)?;
        let reason = format!("{}.", self.seen.said());
        Some(Decided { reason, round: Some(self.round), by: Some(self.seen_by.clone()), ..decided })
    }
}

/// What a decision alters, for no stated reason yet; none where it alters nothing.
fn altered_by(decision: &Decision) -> Option<Decided> {
    let Decision::Alter { alteration, amounts, side, .. } = decision else { return None };
    Some(Decided { side: *side, ..Decided::new(alteration, amounts.clone(), "") })
}

/// Why a round cannot be closed yet: the first thing that is still to be done.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
pub enum NotClosed {
    /// Observations of its own without a decision.
    #[error("{undecided} of {of} observations are not decided: alter, leave or watch each")]
    Undecided {
        /// How many.
        undecided: usize,
        /// Of how many.
        of: usize,
    },
    /// Earlier ones that were not looked at.
    #[error(
        "{0} earlier observations are not marked: say whether each is gone, better, same, worse or moved"
    )]
    Unmarked(usize),
    /// Pins that are still in the cloth, or on the floor.
    #[error("{missing} of {out} pins are not back: look for them before she dresses")]
    Pins {
        /// How many.
        missing: u32,
        /// Of how many.
        out: u32,
    },
    /// One cause answered twice by the same alteration.
    #[error(
        "“{cause}” is decided both for “{first}” and for “{second}”, and would alter the pattern twice: watch one of them"
    )]
    Twice {
        /// The cause, in neutral words.
        cause: String,
        /// The one observation in words.
        first: String,
        /// The other.
        second: String,
    },
}

/// Whether a round can be closed, from all that was noted of its garment.
///
/// # Errors
///
/// [`NotClosed`]: what must be done before, the first thing first.
pub fn can_be_closed(
    round: u32,
    noted: &[Noted],
    pins_out: Option<u32>,
    pins_back: Option<u32>,
) -> Result<(), NotClosed> {
    let own: Vec<&Noted> = noted.iter().filter(|each| each.round == round).collect();
    let undecided = own.iter().filter(|each| each.decision.is_none()).count();
    if undecided > 0 {
        return Err(NotClosed::Undecided { undecided, of: own.len() });
    }
    let unmarked = noted.iter().filter(|each| each.round < round && each.was_open_before(round));
    let unmarked = unmarked.filter(|each| each.marks.iter().all(|marked| marked.round != round)).count();
    if unmarked > 0 {
        return Err(NotClosed::Unmarked(unmarked));
    }
    if let Some(out) = pins_out
        && pins_back.unwrap_or(0) < out
    {
        return Err(NotClosed::Pins { missing: out - pins_back.unwrap_or(0), out });
    }
    decided_twice(&own)
}

/// Two observations decided for the same cause by the same alteration on the same side: one cause shows in several places
/// and is answered once. Width and length of one cause are two answers.
fn decided_twice(own: &[&Noted]) -> Result<(), NotClosed> {
    type Answer<'a> = (&'a str, &'a str, Option<WornSide>);
    fn answer(noted: &Noted) -> Option<Answer<'_>> {
        match &noted.decision {
            Some(Decision::Alter { cause: Some(cause), alteration, side, .. }) => {
                Some((cause, alteration, *side))
            }
            _ => None,
        }
    }
    for (index, first) in own.iter().enumerate() {
        let Some(given) = answer(first) else { continue };
        if let Some(second) = own[index + 1..].iter().find(|second| answer(second) == Some(given)) {
            let title = cause(given.0).map_or("the same cause", |cause| cause.title.as_str());
            return Err(NotClosed::Twice {
                cause: title.to_owned(),
                first: first.seen.said(),
                second: second.seen.said(),
            });
        }
    }
    Ok(())
}

/// The recipe of what was on the body with every decision of a round taken in, each in its layer's place or added to what is
/// there.
pub fn with_decisions<'a>(own: impl IntoIterator<Item = &'a Noted>, mut recipe: Recipe) -> Recipe {
    for decided in own.into_iter().filter_map(Noted::decided) {
        recipe.take(decided);
    }
    recipe
}

/// Why a decision cannot be kept beside the others of its round.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct CannotDecide {
    /// It is its own alteration that cannot be done, not another's.
    pub is_own: bool,
    /// In a sentence, with the limit.
    pub says: String,
}

/// Whether the recipe can be made with a decision, for one of the round's observations or for a new one.
///
/// # Errors
///
/// [`CannotDecide`]: the limit, or the other decision that would no longer be possible.
pub fn can_be_decided(
    block: &Pattern,
    fitted: &Recipe,
    own: &[Noted],
    index: Option<usize>,
    decision: &Decision,
    style: Style,
) -> Result<(), CannotDecide> {
    let refused = |recipe: &Recipe| {
        let made = make(block, recipe, style);
        made.refused().map(|(step, error)| (step.alteration.clone(), error.to_string())).collect::<Vec<_>>()
    };
    let before = refused(&with_decisions(own, fitted.clone()));
    let mut noted = own.to_vec();
    if let Some(its_own) = index.and_then(|index| noted.get_mut(index)) {
        its_own.decision = Some(decision.clone());
    }
    let mut with = with_decisions(&noted, fitted.clone());
    if index.is_none() {
        altered_by(decision).map(|decided| with.take(decided));
    }
    let Some((code, error)) = refused(&with).into_iter().find(|each| !before.contains(each)) else {
        return Ok(());
    };
    let is_own = matches!(decision, Decision::Alter { alteration, .. } if *alteration == code);
    let name = alteration(&code).map_or(code.as_str(), |known| known.name());
    let says = if is_own {
        format!("{name}: {error}")
    } else {
        format!("{name}, decided before, could not be done with that: {error}")
    };
    Err(CannotDecide { is_own, says })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::alter::Amounts;
    use crate::fitting::{Trend, read_observation};

    fn noted(round: u32, text: &str, decision: Option<Decision>) -> Noted {
        let seen = read_observation(text).unwrap();
        Noted { round, seen, seen_by: "Ada".into(), decision, marks: Vec::new() }
    }

    fn alter(code: &str, mm: f64, of: &str) -> Option<Decision> {
        let cause = Some(of.to_owned());
        match Decision::alter(code, Amounts::of(mm)) {
            Decision::Alter { alteration, amounts, side, overruled, .. } => {
                Some(Decision::Alter { alteration, amounts, side, cause, overruled })
            }
            other => Some(other),
        }
    }

    fn marked(mut noted: Noted, round: u32, mark: Mark, per_half: Option<f64>) -> Noted {
        noted.marks.push(Marked { round, mark, per_half });
        noted
    }

    #[test]
    fn a_round_is_closed_when_nothing_is_left_to_do_in_it() {
        let gape = || noted(1, "gape at front armhole", Some(Decision::Watch));
        assert_eq!(can_be_closed(1, &[gape()], None, None), Ok(()));
        let open = [gape(), noted(1, "strain at underarm", None)];
        assert_eq!(can_be_closed(1, &open, None, None), Err(NotClosed::Undecided { undecided: 1, of: 2 }));
        assert_eq!(can_be_closed(2, &[gape()], None, None), Err(NotClosed::Unmarked(1)));
        let looked_at = [marked(gape(), 2, Mark::Gone, None)];
        assert_eq!(can_be_closed(2, &looked_at, None, None), Ok(()));
        let pins = can_be_closed(1, &[gape()], Some(40), Some(37));
        assert_eq!(
            pins.unwrap_err().to_string(),
            "3 of 40 pins are not back: look for them before she dresses"
        );
        assert_eq!(can_be_closed(1, &[gape()], Some(40), Some(41)), Ok(()));
    }

    #[test]
    fn one_cause_is_answered_once_by_each_alteration() {
        let seat = |text, code| noted(1, text, alter(code, 6.0, "full_seat"));
        let twice =
            [seat("hike up at back hem", "side_seams"), seat("drag at hip towards seat", "side_seams")];
        assert!(matches!(can_be_closed(1, &twice, None, None), Err(NotClosed::Twice { .. })));
        let both =
            [seat("hike up at back hem", "side_seams"), seat("drag at hip towards seat", "seat_length")];
        assert_eq!(can_be_closed(1, &both, None, None), Ok(()));
    }

    #[test]
    fn earlier_rounds_teach_what_became_of_a_cause_and_how_its_amount_went() {
        let gape =
            noted(1, "gape at front armhole, tucked 6", alter("gaping_armhole", 6.0, "small_bust_dart"));
        assert_eq!(gape.taught_by(2), None, "nobody has looked yet");
        let grew = marked(gape.clone(), 2, Mark::Worse, Some(12.0));
        let taught = grew.taught_by(2).unwrap();
        assert_eq!((taught.became, taught.trend), (Mark::Worse, Some(Trend::Grows)));
        let turned = marked(gape, 2, Mark::Better, Some(-8.0));
        assert_eq!(turned.taught_by(2).unwrap().trend, Some(Trend::Flips));
        assert_eq!(turned.taught_by(1), None);
        assert!(turned.is_evidence_in(2) && !turned.is_evidence_in(3));
    }

    #[test]
    fn decisions_of_a_round_are_taken_into_the_recipe_with_their_reason() {
        let own = [
            noted(2, "fold across at back waist", alter("sway_back", 8.0, "sway_back")),
            noted(2, "gape at back neck", Some(Decision::Watch)),
        ];
        let recipe = with_decisions(&own, Recipe::default());
        let [step] = recipe.steps.as_slice() else { panic!("{recipe:?}") };
        assert_eq!((step.alteration.as_str(), step.round), ("sway_back", Some(2)));
        assert_eq!(step.reason, "Fold across at back waist.");
    }
}
