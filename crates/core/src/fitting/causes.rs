//! The causes a fitter thinks of: data, readable by a dressmaker.

use std::str::FromStr;
use std::sync::LazyLock;

use serde::{Deserialize, Deserializer};

use super::{Sign, Station};
use crate::alter::{Amounts, MeasuredOn, Setting, alteration};
use crate::pattern::{Garment, PatternMeasure};

/// A cause of what is seen on a toile, and what is done about it. The file says what each field means.
#[derive(Clone, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Cause {
    /// Stable code.
    pub code: String,
    /// In neutral words.
    pub title: String,
    /// How what is seen follows from it.
    pub says: String,
    /// How to tell it from its neighbours.
    pub test: String,
    /// What is seen when it is this.
    pub sure: Vec<Sign>,
    /// What is often seen with it.
    #[serde(default)]
    pub also: Vec<Sign>,
    /// What speaks for something else.
    #[serde(default)]
    pub against: Vec<Sign>,
    /// Figures that are more, less or right.
    #[serde(default)]
    pub(super) figures: Vec<FigureSign>,
    /// Level lines that rise or sink.
    #[serde(default)]
    pub(super) level: Vec<LevelSign>,
    /// Causes it is mistaken for.
    #[serde(default)]
    pub mistaken: Vec<String>,
    /// Code of the alteration.
    pub alteration: String,
    /// The parameter the amount goes into.
    #[serde(default = "amount_itself")]
    pub param: String,
    /// What else the alteration is told.
    #[serde(default)]
    pub(super) with: Amounts,
    /// Where the amount is read, the first that is known.
    pub(super) amount: Vec<AmountFrom>,
    /// It is her posture or frame: it goes into her own block.
    pub lasting: bool,
}

fn amount_itself() -> String {
    "amount".to_owned()
}

impl Cause {
    /// What the amount's parameter is measured on.
    pub(super) fn measured_on(&self) -> MeasuredOn {
        let known = alteration(&self.alteration).map(|known| known.params()).unwrap_or_default();
        known.iter().find(|param| param.code == self.param).map_or(MeasuredOn::Here, |param| param.on)
    }

    /// Whether what corrects it is done to such a garment.
    pub(super) fn is_of(&self, garment: Garment) -> bool {
        alteration(&self.alteration).is_some_and(|known| known.garments().contains(&garment))
    }

    /// The alteration's amounts for one of this cause, held within what the alteration takes.
    pub(super) fn amounts(&self, mm: f64) -> Amounts {
        let known = alteration(&self.alteration).map(|known| known.params()).unwrap_or_default();
        let param = known.iter().find(|param| param.code == self.param);
        let mm = param.map_or(mm, |param| mm.clamp(param.low, param.high));
        let mut amounts = self.with.clone();
        amounts.0.insert(self.param.clone(), Setting::Number(mm));
        amounts
    }
}

/// How a figure must stand to her.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) enum Stands {
    /// The pattern wants more.
    More,
    /// The pattern wants less.
    Less,
    /// It fits.
    Fits,
}

/// `bust+`, `bust-`, `bust=`.
#[derive(Clone, Copy, Debug)]
pub(super) struct FigureSign {
    pub(super) figure: PatternMeasure,
    pub(super) stands: Stands,
}

impl<'de> Deserialize<'de> for FigureSign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let text = String::deserialize(from)?;
        let (name, sign) = text.split_at(text.len().saturating_sub(1));
        let stands = match sign {
            "+" => Stands::More,
            "-" => Stands::Less,
            "=" => Stands::Fits,
            _ => return Err(serde::de::Error::custom(format!("“{text}” ends with no +, - or ="))),
        };
        Ok(Self { figure: figure_of(name).map_err(serde::de::Error::custom)?, stands })
    }
}

/// `centre back+`, `left-`.
#[derive(Clone, Copy, Debug)]
pub(super) struct LevelSign {
    pub(super) station: Station,
    pub(super) rises: bool,
}

impl<'de> Deserialize<'de> for LevelSign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let text = String::deserialize(from)?;
        let (name, sign) = text.split_at(text.len().saturating_sub(1));
        let station = Station::of(name).filter(|_| ["+", "-"].contains(&sign));
        let station =
            station.ok_or_else(|| serde::de::Error::custom(format!("“{text}” is no level sign")))?;
        Ok(Self { station, rises: sign == "+" })
    }
}

/// Where an amount is read, and what turns it into the alteration's.
#[derive(Clone, Copy, Debug)]
pub(super) enum AmountFrom {
    Pins { times: f64 },
    Level { station: Station, times: f64 },
    PatternMeasure { figure: PatternMeasure, times: f64 },
    Usual { mm: f64 },
}

impl FromStr for AmountFrom {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let number = |text: &str| text.trim().parse::<f64>().map_err(|_| format!("“{text}” is no number"));
        let Some((source, times)) = text.split_once(" * ") else {
            return Ok(Self::Usual { mm: number(text)? });
        };
        let times = number(times)?;
        match source.split_once(' ') {
            None if source == "pins" => Ok(Self::Pins { times }),
            Some(("level", name)) => {
                let station = Station::of(name).ok_or_else(|| format!("“{name}” is no station"))?;
                Ok(Self::Level { station, times })
            }
            Some(("figure", name)) => Ok(Self::PatternMeasure { figure: figure_of(name)?, times }),
            _ => Err(format!("“{text}” is no source of an amount")),
        }
    }
}

impl<'de> Deserialize<'de> for AmountFrom {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        String::deserialize(from)?.parse().map_err(serde::de::Error::custom)
    }
}

fn figure_of(name: &str) -> Result<PatternMeasure, String> {
    let name: serde::de::value::StrDeserializer<'_, serde::de::value::Error> =
        serde::de::IntoDeserializer::into_deserializer(name);
    PatternMeasure::deserialize(name).map_err(|error| error.to_string())
}

#[derive(Deserialize)]
struct Data {
    cause: Vec<Cause>,
}

static CAUSES: LazyLock<Vec<Cause>> = LazyLock::new(|| {
    let data: Data = toml::from_str(include_str!("../../data/causes.toml"))
        .unwrap_or_else(|error| panic!("data/causes.toml cannot be read: {error}"));
    data.cause
});

/// Every cause, balance and lengths first, then from the top down.
pub fn causes() -> &'static [Cause] {
    &CAUSES
}

/// The cause of a code.
pub fn cause(code: &str) -> Option<&'static Cause> {
    causes().iter().find(|cause| cause.code == code)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Style;

    #[test]
    fn every_cause_names_an_alteration_that_takes_its_usual_amount() {
        for cause in causes() {
            let known = alteration(&cause.alteration)
                .unwrap_or_else(|| panic!("{}: no alteration is called {}", cause.code, cause.alteration));
            let usual = cause.amount.iter().find_map(|from| match from {
                AmountFrom::Usual { mm } => Some(*mm),
                _ => None,
            });
            let usual = usual.unwrap_or_else(|| panic!("{} has no usual amount to fall back on", cause.code));
            let amounts = cause.amounts(usual);
            amounts.validate(known.params(), Style::TENTHS).unwrap_or_else(|e| panic!("{}: {e}", cause.code));
            assert_eq!(
                amounts.0.get(&cause.param),
                Some(&Setting::Number(usual)),
                "{} is clamped",
                cause.code
            );
        }
    }

    #[test]
    fn codes_are_unique_and_every_mistaken_cause_is_one() {
        for (index, one) in causes().iter().enumerate() {
            assert!(causes()[index + 1..].iter().all(|other| other.code != one.code), "{} twice", one.code);
            for other in &one.mistaken {
                assert!(cause(other).is_some(), "{} is mistaken for {other}, which is no cause", one.code);
            }
        }
    }

    #[test]
    fn an_amount_beyond_what_the_alteration_takes_is_held_at_its_limit() {
        assert_eq!(cause("wide_back").unwrap().amounts(-60.0).amount(), -12.0);
    }
}
