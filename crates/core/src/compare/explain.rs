//! Differences that have one cause, told together. The causes are data.

use std::sync::LazyLock;

use serde::de::IntoDeserializer;
use serde::de::value::StrDeserializer;
use serde::{Deserialize, Serialize};

use super::{Comparison, DifferenceGrade};
use crate::body::Body;
use crate::pattern::PatternMeasure;

/// A cup that differs from the block's by this much counts, in millimetres (half a cup; ours).
pub(super) const CUP_COUNTS: f64 = 12.7;

/// Several differences with one cause.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Explanation {
    /// The cause, in neutral words.
    pub title: String,
    /// How the differences follow from it, and what to do first.
    pub says: String,
    /// The differences it explains.
    pub figures: Vec<PatternMeasure>,
}

/// A figure that is more or less than the block has: `bust+`, `front_length-`.
#[derive(Clone, Copy, Debug, PartialEq)]
struct Sign {
    figure: PatternMeasure,
    is_more: bool,
}

impl<'de> Deserialize<'de> for Sign {
    fn deserialize<D: serde::Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let text = String::deserialize(from)?;
        let (name, is_more) = match (text.strip_suffix('+'), text.strip_suffix('-')) {
            (Some(name), _) => (name, true),
            (None, Some(name)) => (name, false),
            (None, None) => return Err(serde::de::Error::custom(format!("{text} has no sign"))),
        };
        let figure: StrDeserializer<'_, D::Error> = name.into_deserializer();
        Ok(Self { figure: PatternMeasure::deserialize(figure)?, is_more })
    }
}

impl Sign {
    fn holds(&self, comparison: &Comparison) -> bool {
        let acts = |grade| matches!(grade, DifferenceGrade::Alter | DifferenceGrade::Remeasure);
        let row = comparison.row(self.figure).filter(|row| acts(row.grade));
        row.and_then(|row| row.on_body.as_ref()).is_some_and(|off| (off.mm > 0.0) == self.is_more)
    }
}

#[derive(Clone, Copy, Debug, PartialEq, Deserialize)]
#[serde(rename_all = "snake_case")]
enum Cup {
    More,
    Less,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct Cause {
    title: String,
    says: String,
    #[serde(default)]
    cup: Option<Cup>,
    #[serde(default)]
    unless: Vec<String>,
    #[serde(default)]
    all: Vec<Sign>,
    #[serde(default)]
    any: Vec<Sign>,
    #[serde(default)]
    none: Vec<Sign>,
    #[serde(default)]
    also: Vec<Sign>,
}

#[derive(Deserialize)]
struct Data {
    explanation: Vec<Cause>,
}

static CAUSES: LazyLock<Vec<Cause>> = LazyLock::new(|| {
    let data: Data = toml::from_str(include_str!("../../data/explanations.toml"))
        .unwrap_or_else(|error| panic!("data/explanations.toml cannot be read: {error}"));
    data.explanation
});

/// Explains a comparison: each cause once, the one that explains most first.
pub fn explain(body: &Body, block_cup: f64, comparison: &Comparison) -> Vec<Explanation> {
    let cup = body.get("bust_girth").zip(body.get("upper_bust_girth")).map(|(bust, upper)| bust - upper);
    let more_cup = cup.map_or(0.0, |cup| cup - block_cup);
    let cup = match more_cup {
        more if more >= CUP_COUNTS => Some(Cup::More),
        more if more <= -CUP_COUNTS => Some(Cup::Less),
        _ => None,
    };
    let holds = |sign: &&Sign| sign.holds(comparison);
    let mut found: Vec<Explanation> = Vec::new();
    for cause in CAUSES.iter() {
        let told = found.iter().any(|each| each.title == cause.title || cause.unless.contains(&each.title));
        let applies = !told
            && (cause.cup.is_none() || cause.cup == cup)
            && cause.all.iter().all(|sign| sign.holds(comparison))
            && (cause.any.is_empty() || cause.any.iter().any(|sign| sign.holds(comparison)))
            && !cause.none.iter().any(|sign| sign.holds(comparison));
        if applies {
            let signs = cause.all.iter().chain(&cause.any).chain(&cause.also).filter(holds);
            found.push(Explanation {
                title: cause.title.clone(),
                says: cause.says.clone(),
                figures: signs.map(|sign| sign.figure).collect(),
            });
        }
    }
    found.sort_by_key(|each| std::cmp::Reverse(each.figures.len()));
    found
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_cause_says_what_it_rests_on_and_refers_to_titles_there_are() {
        for cause in CAUSES.iter() {
            assert!(!cause.all.is_empty() || !cause.any.is_empty(), "{}", cause.title);
            assert!(cause.says.len() > 40, "{}", cause.title);
            for other in &cause.unless {
                assert!(CAUSES.iter().any(|each| &each.title == other), "{}: {other}", cause.title);
            }
            // What must hold cannot be what must not.
            assert!(cause.all.iter().all(|sign| !cause.none.contains(sign)), "{}", cause.title);
        }
    }

    #[test]
    fn a_sign_without_a_sign_or_of_no_figure_is_refused() {
        let read = |text: &str| {
            toml::from_str::<Data>(&format!("[[explanation]]\ntitle = 'x'\nsays = 'y'\nall = ['{text}']"))
        };
        assert!(read("bust+").is_ok());
        assert!(read("bust").is_err());
        assert!(read("elbow_room+").is_err());
    }
}
