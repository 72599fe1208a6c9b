//! When what was practised comes again: in boxes, after Sebastian Leitner (So lernt man lernen, 1972). What goes well moves on
//! to the next box and waits twice as long; what goes wrong goes back to the first.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::Mistake;

/// Days that something waits in each box before it comes again.
pub const BOXES: [i64; 5] = [1, 2, 4, 8, 16];
/// An exercise of which this share is right went well.
const WENT_WELL: f64 = 0.8;

/// An exercise that was done.
#[derive(Clone, Debug, PartialEq)]
pub struct Practised {
    /// What it was of: the code of a cause, or of a kind of tape exercise.
    pub item: String,
    /// How much of it was right, 0 to 1.
    pub score: f64,
    /// The mistakes made.
    pub mistakes: Vec<Mistake>,
    /// Whole days ago.
    pub days_ago: i64,
}

/// Where something stands.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeBox {
    /// What it is of.
    pub item: String,
    /// Which box: 1 is where everything begins, 5 the last.
    pub number: usize,
    /// How often it was done.
    pub done: usize,
    /// How often it went well.
    pub went_well: usize,
    /// In so many days it comes again; 0 and less: now.
    pub due_in: i64,
}

/// How far a learner is.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeProgress {
    /// What was practised, what is due first.
    pub boxes: Vec<PracticeBox>,
    /// How often each kind of mistake was made, the commonest first.
    pub mistakes: Vec<(Mistake, usize)>,
}

impl PracticeProgress {
    /// What is to be done next of these: what is due, then what was never done, then what comes next; `None` of none.
    pub fn next<'a>(&self, items: &[&'a str]) -> Option<&'a str> {
        let due = self.boxes.iter().find(|each| each.due_in <= 0).map(|each| each.item.as_str());
        let due = due.and_then(|due| items.iter().find(|item| **item == due));
        let known = |item: &str| self.boxes.iter().any(|each| each.item == item);
        let fresh = || items.iter().find(|item| !known(item));
        let soonest = || {
            let due_in =
                |item: &str| self.boxes.iter().find(|each| each.item == item).map(|each| each.due_in);
            items.iter().min_by_key(|item| due_in(item))
        };
        due.or_else(fresh).or_else(soonest).copied()
    }
}

/// Where everything that was practised stands; oldest first.
pub fn progress(done: &[Practised]) -> PracticeProgress {
    let mut boxes: BTreeMap<&str, PracticeBox> = BTreeMap::new();
    let mut mistakes: BTreeMap<Mistake, usize> = BTreeMap::new();
    for each in done {
        let own = boxes.entry(&each.item).or_insert_with(|| PracticeBox {
            item: each.item.clone(),
            number: 1,
            done: 0,
            went_well: 0,
            due_in: 0,
        });
        own.done += 1;
        if each.score >= WENT_WELL {
            own.went_well += 1;
            own.number = (own.number + 1).min(BOXES.len());
        } else {
            own.number = 1;
        }
        own.due_in = BOXES[own.number - 1] - each.days_ago;
        each.mistakes.iter().for_each(|kind| *mistakes.entry(*kind).or_default() += 1);
    }
    let mut boxes: Vec<PracticeBox> = boxes.into_values().collect();
    boxes.sort_by_key(|each| (each.due_in, each.number));
    let mut mistakes: Vec<_> = mistakes.into_iter().collect();
    mistakes.sort_by_key(|(kind, count)| (std::cmp::Reverse(*count), *kind));
    PracticeProgress { boxes, mistakes }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn done(item: &str, score: f64, days_ago: i64) -> Practised {
        let mistakes = if score < 0.8 { vec![Mistake::Cause] } else { Vec::new() };
        Practised { item: item.to_owned(), score, mistakes, days_ago }
    }

    /// Leitner's boxes by hand: well, well, wrong, well.
    #[test]
    fn what_goes_well_waits_twice_as_long_and_what_goes_wrong_begins_again() {
        let told = |done: &[Practised]| {
            let own = progress(done).boxes[0].clone();
            (own.number, own.due_in)
        };
        let all = [
            done("short_front", 1.0, 7),
            done("short_front", 0.9, 5),
            done("short_front", 0.2, 1),
            done("short_front", 1.0, 0),
        ];
        assert_eq!(told(&all[..1]), (2, 2 - 7));
        assert_eq!(told(&all[..2]), (3, 4 - 5));
        assert_eq!(told(&all[..3]), (1, 0), "a day ago it went wrong: it comes again today");
        assert_eq!(told(&all), (2, 2));
        let many: Vec<_> = (0..9).map(|_| done("short_front", 1.0, 0)).collect();
        assert_eq!(told(&many), (5, 16), "there is no sixth box");
    }

    #[test]
    fn what_is_due_comes_before_what_is_new_and_what_is_new_before_what_waits() {
        let all = [done("a", 1.0, 0), done("b", 0.0, 3)];
        let found = progress(&all);
        assert_eq!(found.next(&["a", "b", "c"]), Some("b"));
        assert_eq!(found.next(&["a", "c"]), Some("c"));
        assert_eq!(found.next(&["a"]), Some("a"));
        assert_eq!(found.next(&[]), None);
        assert_eq!(found.mistakes, [(Mistake::Cause, 1)]);
        assert_eq!(progress(&[]).next(&["x", "y"]), Some("x"));
    }
}
