//! How sure a cause can be said: by how far it leads, on how many kinds of evidence, and by what was not looked at.

use serde::{Deserialize, Serialize};

use super::causes::Cause;
use super::evidence::Evidence;
use super::weigh::{SURE, Weighed};
use super::{Lie, Observation, ObservationKind, Tested};

/// A lead from which a cause is sure, and from which it is likely; under the least two cannot be told apart.
const SURE_LEAD: f64 = 3.0;
const LIKELY_LEAD: f64 = 1.25;
const TIE: f64 = 0.5;
/// A cause of which this is seen, or more.
const SURE_WEIGHT: f64 = 5.0;
const LIKELY_WEIGHT: f64 = 2.5;
/// So much may speak against a cause that is sure.
const SURE_AGAINST: f64 = -2.0;
/// A cause that explains this much of what the first does not is there beside it.
const ALONGSIDE: f64 = 0.6 * SURE;
/// Of what a rival explains the first explains at least this share.
const SHARED: f64 = 0.5;

/// How sure a cause is said.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum HowSure {
    /// It leads well, on two kinds of evidence.
    Sure,
    /// It leads.
    Likely,
    /// It is possible.
    CouldBe,
    /// Another weighs as much.
    CannotTell,
}

impl HowSure {
    /// The words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Sure => "sure",
            Self::Likely => "likely",
            Self::CouldBe => "could be",
            Self::CannotTell => "cannot tell",
        }
    }
}

/// A test that tells causes apart.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TellApart {
    /// The cause whose test it is: it is this one where what the test says happens.
    pub cause: String,
    /// In neutral words.
    pub title: String,
    /// The cause it is told from, in neutral words.
    pub from: String,
    /// What to do on the toile, and what is seen then.
    pub test: String,
}

/// How a cause stands among the others.
#[derive(Clone, Copy, Debug)]
pub(super) struct Lead {
    pub(super) sure: HowSure,
    pub(super) alongside: bool,
    /// The strongest of those that explain the same, by its place.
    pub(super) rival: Option<usize>,
}

/// How each of the weighed causes stands; they are sorted, strongest first.
pub(super) fn leads(weighed: &[Weighed<'_>]) -> Vec<Lead> {
    let mut leads: Vec<Lead> = Vec::new();
    for (index, one) in weighed.iter().enumerate() {
        let alongside = index > 0 && is_alongside(one, &weighed[0]);
        let rivals = weighed.iter().enumerate().filter(|(other, w)| *other != index && is_rival(w, one));
        let rival = rivals.max_by(|a, b| a.1.weight.total_cmp(&b.1.weight)).map(|(other, _)| other);
        let lead = one.weight - rival.map_or(0.0, |other| weighed[other].weight.max(0.0));
        let leads_at_all = index == 0 || alongside;
        let sure = if leads_at_all
            && lead >= SURE_LEAD
            && one.weight >= SURE_WEIGHT
            && one.seen_itself
            && one.against >= SURE_AGAINST
            && one.kinds_of_evidence() >= 2
        {
            HowSure::Sure
        } else if leads_at_all && lead >= LIKELY_LEAD && one.weight >= LIKELY_WEIGHT {
            HowSure::Likely
        } else if lead.abs() < TIE && one.weight > 0.0 {
            HowSure::CannotTell
        } else {
            HowSure::CouldBe
        };
        leads.push(Lead { sure, alongside, rival });
    }
    leads
}

/// Whether two explain much of the same.
fn is_rival(other: &Weighed<'_>, one: &Weighed<'_>) -> bool {
    let shared = other.signs.iter().filter(|sign| one.explains(sign.index));
    let shared: f64 = shared.map(|sign| sign.weight).sum();
    let whole: f64 = other.signs.iter().map(|sign| sign.weight).sum();
    shared >= SHARED * whole
}

/// Whether one explains what the first does not, by its own signs.
fn is_alongside(one: &Weighed<'_>, first: &Weighed<'_>) -> bool {
    let own = one.signs.iter().filter(|sign| !first.explains(sign.index));
    one.seen_itself && own.map(|sign| sign.weight).sum::<f64>() >= ALONGSIDE && !is_rival(one, first)
}

/// The test that tells the first cause from its strongest rival of those that are told; none where it is sure, or has none.
pub(super) fn tell_apart(weighed: &[Weighed<'_>], leads: &[Lead], tested: &[Tested]) -> Option<TellApart> {
    let (first, lead) = (weighed.first()?, leads.first()?);
    if lead.sure == HowSure::Sure {
        return None;
    }
    let rival = weighed.get(lead.rival?)?;
    // A test that was made tells no more; of the others one that is meant for the two comes first.
    let mut tests = vec![(first, rival), (rival, first)];
    tests.retain(|(of, _)| !tested.iter().any(|made| made.cause == of.cause.code));
    tests.sort_by_key(|(of, from)| !of.cause.tells_from.contains(&from.cause.code));
    let (of, from) = tests.first()?;
    Some(TellApart {
        cause: of.cause.code.clone(),
        title: of.cause.title.clone(),
        from: from.cause.title.clone(),
        test: of.cause.test.clone(),
    })
}

/// What would speak for or against a cause and is not known.
pub(super) fn not_looked_at(cause: &Cause, evidence: &Evidence) -> Vec<String> {
    let figures = cause.figures.iter().filter(|sign| !evidence.figures.contains_key(&sign.figure));
    let figures = figures.map(|sign| sign.figure.name().to_lowercase());
    let level = cause.level.iter().any(|sign| !evidence.level.iter().any(|l| l.is_meant_by(sign, None)));
    let mut open: Vec<String> = figures.collect();
    open.dedup();
    if level {
        open.push("the level lines".to_owned());
    }
    open
}

/// Pairs of signs that cannot both be so: the same thing at the same place, the one way and the other.
pub(super) fn contradictions(seen: &[Observation]) -> Vec<String> {
    let mut said = Vec::new();
    for (index, one) in seen.iter().enumerate() {
        for other in &seen[index + 1..] {
            let alike = one.place == other.place
                && one.side == other.side
                && one.posture == other.posture
                && one.goes_when == other.goes_when;
            let both_ways = one.kind == other.kind
                && one.kind != ObservationKind::Fold
                && one.lie.is_some()
                && one.lie.map(Lie::opposite) == other.lie;
            let is_wide =
                |seen: &Observation| seen.kind == ObservationKind::Fold && seen.lie == Some(Lie::Along);
            let is_tight = |seen: &Observation| seen.kind == ObservationKind::Strain;
            let tight_and_wide = (is_wide(one) && is_tight(other)) || (is_tight(one) && is_wide(other));
            if alike && (both_ways || tight_and_wide) {
                said.push(format!(
                    "“{}” and “{}” contradict each other: look again, one of them is something else.",
                    one.said(),
                    other.said()
                ));
            }
        }
    }
    said
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fitting::read_observation;

    #[test]
    fn what_cannot_both_be_so_is_said() {
        let read = |texts: &[&str]| -> Vec<Observation> {
            texts.iter().map(|text| read_observation(text).unwrap()).collect()
        };
        let both = contradictions(&read(&["hike up at back waist", "hike down at back waist"]));
        assert!(both.len() == 1 && both[0].contains("contradict each other"), "{both:?}");
        assert_eq!(contradictions(&read(&["strain at hip", "fold along at hip"])).len(), 1);
        // On either side of her, or in two postures, both may be.
        let apart = ["hike up at side hem on the left", "hike down at side hem on the right"];
        assert!(contradictions(&read(&apart)).is_empty());
        assert!(contradictions(&read(&["strain at hip when sitting", "fold along at hip"])).is_empty());
        assert!(contradictions(&read(&["fold across at bust", "fold along at bust"])).is_empty());
    }
}
