//! The causes a fitter thinks of: data, readable by a dressmaker.

use std::str::FromStr;
use std::sync::LazyLock;

use serde::{Deserialize, Deserializer};

use super::{BalanceLine, Sign, Station};
use crate::alter::{Amounts, MeasuredOn, Setting, alteration};
use crate::pattern::{Covers, Garment, Pattern, PatternMeasure, Piece, Seam};

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
    /// Causes the test tells it from.
    pub tells_from: Vec<String>,
    /// What is seen when it is this.
    pub sure: Vec<Sign>,
    /// What is often seen with it.
    #[serde(default)]
    pub also: Vec<Sign>,
    /// What speaks for something else.
    #[serde(default)]
    pub against: Vec<Sign>,
    /// Whether it is seen on one side of her, or on both in opposite ways.
    #[serde(default)]
    pub(super) sides: Sides,
    /// Figures that are more, less or right.
    #[serde(default)]
    pub(super) figures: Vec<FigureSign>,
    /// Level lines that rise, sink or hang level.
    #[serde(default)]
    pub(super) level: Vec<LevelSign>,
    /// What must be on her for it, and what must not.
    #[serde(default)]
    pub(super) worn: Vec<WornSign>,
    /// Causes it is mistaken for.
    #[serde(default)]
    pub mistaken: Vec<String>,
    /// What is done about it, garment by garment; nothing where there is nothing to alter.
    #[serde(default)]
    pub(super) remedy: Vec<Remedy>,
    /// What goes with it, garment by garment.
    #[serde(default)]
    pub(super) beside: Vec<Remedy>,
    /// Why nothing is altered.
    #[serde(default)]
    pub leave: Option<String>,
    /// It is her posture or frame: it goes into her own block.
    pub lasting: bool,
}

/// What is done about a cause.
#[derive(Clone, Debug, Deserialize)]
#[serde(deny_unknown_fields)]
pub(super) struct Remedy {
    /// Code of the alteration.
    pub(super) alteration: String,
    /// The parameter the amount goes into.
    #[serde(default = "amount_itself")]
    pub(super) param: String,
    /// What else the alteration is told.
    #[serde(default)]
    pub(super) with: Amounts,
    /// Where the amount is read, the first that is known.
    pub(super) amount: Vec<AmountFrom>,
}

fn amount_itself() -> String {
    "amount".to_owned()
}

impl Remedy {
    /// What the amount's parameter is measured on.
    pub(super) fn measured_on(&self) -> MeasuredOn {
        let known = alteration(&self.alteration).map(|known| known.params()).unwrap_or_default();
        known.iter().find(|param| param.code == self.param).map_or(MeasuredOn::Here, |param| param.on)
    }

    /// Whether it is done to such a garment.
    fn is_of(&self, garment: Garment) -> bool {
        alteration(&self.alteration).is_some_and(|known| known.garments().contains(&garment))
    }

    /// The usual amount, in millimetres: a guess.
    pub(super) fn usual(&self) -> f64 {
        let usual = self.amount.iter().find_map(|from| match from {
            AmountFrom::Usual { mm } => Some(*mm),
            _ => None,
        });
        usual.unwrap_or_default()
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

    /// Whether another does the same the other way.
    fn undoes(&self, other: &Self) -> bool {
        (&self.alteration, &self.param) == (&other.alteration, &other.param)
            && self.usual() * other.usual() < 0.0
    }
}

impl Cause {
    /// What is done about it on such a garment.
    pub(super) fn remedy(&self, garment: Garment) -> Option<&Remedy> {
        self.remedy.iter().find(|remedy| remedy.is_of(garment))
    }

    /// From how many sources its amounts are read, besides guesses; for testing that each was worked by hand.
    pub fn amounts_read(&self) -> usize {
        let sources = self.remedy.iter().chain(&self.beside).flat_map(|remedy| &remedy.amount);
        sources.filter(|source| !matches!(source, AmountFrom::Usual { .. })).count()
    }

    /// What goes with that on such a garment.
    pub(super) fn beside(&self, garment: Garment) -> impl Iterator<Item = &Remedy> {
        let first = self.remedy(garment).map(|remedy| &remedy.alteration);
        self.beside.iter().filter(move |remedy| remedy.is_of(garment) && Some(&remedy.alteration) != first)
    }

    /// Whether it is a cause of what is seen on such a garment: what corrects another is none of it.
    pub(super) fn is_of(&self, garment: Garment) -> bool {
        self.leave.is_some() || self.remedy(garment).is_some()
    }

    /// Whether an alteration is done for it.
    pub(super) fn is_answered_by(&self, alteration: &str) -> bool {
        self.remedy.iter().chain(&self.beside).any(|remedy| remedy.alteration == alteration)
    }

    /// Whether too much of what corrects the other looks like this.
    pub(crate) fn is_opposite_of(&self, other: &Self) -> bool {
        self.remedy.iter().any(|own| other.remedy.iter().any(|its| own.undoes(its)))
    }

    /// Whether fitters take the one for the other.
    pub(crate) fn is_neighbour_of(&self, other: &Self) -> bool {
        let names = |one: &Self, other: &Self| {
            one.mistaken.contains(&other.code) || one.tells_from.contains(&other.code)
        };
        names(self, other) || names(other, self)
    }
}

/// On which sides of her a cause is seen.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "snake_case")]
pub(super) enum Sides {
    /// On both alike, or on either.
    #[default]
    Any,
    /// On one alone.
    One,
    /// On both, in opposite ways.
    Apart,
}

/// What is on her, as far as it is known.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct Worn {
    /// A sleeve is set in.
    #[serde(default)]
    pub sleeve: Option<bool>,
    /// A seam runs over the bust.
    #[serde(default)]
    pub princess: Option<bool>,
    /// It ends above the bust, without shoulders.
    #[serde(default)]
    pub strapless: Option<bool>,
    /// It goes on below the waist.
    #[serde(default)]
    pub below_waist: Option<bool>,
}

impl Worn {
    /// What a pattern tells of it.
    pub fn of(pattern: &Pattern) -> Self {
        let has = |is: &dyn Fn(&Piece) -> bool| pattern.pieces.iter().any(is);
        let is_body = |piece: &Piece| {
            piece.kind.is_joined_skirt() || (piece.kind.covers() != Covers::Arm && !piece.kind.is_dependent())
        };
        let is_front = |piece: &Piece| piece.kind.covers() == Covers::Front;
        Self {
            sleeve: Some(has(&|piece| piece.kind.is_sleeve())),
            princess: Some(has(&|piece| is_front(piece) && piece.edges_of(Seam::Princess).next().is_some())),
            strapless: Some(has(&|piece| piece.edges_of(Seam::UpperEdge).next().is_some())),
            below_waist: Some(has(&|piece| is_body(piece) && piece.edges_of(Seam::Hem).next().is_some())),
        }
    }
}

/// Reads one thing off what is worn.
type Look = fn(&Worn) -> Option<bool>;

/// A thing worn that a cause needs, or cannot be with: `sleeve`, `no princess`.
#[derive(Clone, Copy, Debug)]
pub(super) struct WornSign {
    of: Look,
    wanted: bool,
    name: &'static str,
}

impl WornSign {
    const NAMES: [(&'static str, Look); 4] = [
        ("sleeve", |worn| worn.sleeve),
        ("princess", |worn| worn.princess),
        ("strapless", |worn| worn.strapless),
        ("below the waist", |worn| worn.below_waist),
    ];

    /// Whether it holds; `None` where nobody knows.
    pub(super) fn holds(&self, worn: &Worn) -> Option<bool> {
        (self.of)(worn).map(|is| is == self.wanted)
    }

    /// Why a cause cannot be, or what speaks for it.
    pub(super) fn says(&self, holds: bool) -> String {
        let is_there = holds == self.wanted;
        match (self.name, is_there) {
            ("sleeve", true) => "A sleeve is set in",
            ("sleeve", false) => "No sleeve is set in",
            ("princess", true) => "A seam runs over the bust",
            ("princess", false) => "No seam runs over the bust",
            ("strapless", true) => "It has no shoulders",
            ("strapless", false) => "It hangs from the shoulders",
            (_, true) => "It goes on below the waist",
            (_, false) => "It ends at the waist",
        }
        .to_owned()
    }
}

impl<'de> Deserialize<'de> for WornSign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        let text = String::deserialize(from)?;
        let (name, wanted) = text.strip_prefix("no ").map_or((text.as_str(), true), |name| (name, false));
        let known = Self::NAMES.into_iter().find(|(known, _)| *known == name);
        let (name, of) =
            known.ok_or_else(|| serde::de::Error::custom(format!("“{text}” is nothing worn")))?;
        Ok(Self { of, wanted, name })
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

/// Where a level line is asked for: at the centre, or at the side of what is seen.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum LevelAt {
    Centre(Station),
    Side,
}

/// How a level line hangs there.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub(super) enum Hangs {
    Up,
    Down,
    Level,
}

/// `centre back+`, `waist or bust centre back+`, `hip side-`, `waist side=`. No line named: any above the hem.
#[derive(Clone, Debug)]
pub(super) struct LevelSign {
    pub(super) lines: Vec<BalanceLine>,
    pub(super) at: LevelAt,
    pub(super) hangs: Hangs,
}

impl FromStr for LevelSign {
    type Err = String;

    fn from_str(text: &str) -> Result<Self, String> {
        let wrong = || format!("“{text}” is no level sign");
        let (name, sign) = text.split_at(text.len().saturating_sub(1));
        let hangs = match sign {
            "+" => Hangs::Up,
            "-" => Hangs::Down,
            "=" => Hangs::Level,
            _ => return Err(wrong()),
        };
        let (lines, at) = line_and_station(name);
        let lines = lines.map(|lines| lines.split(" or ").map(line_of).collect::<Option<Vec<_>>>());
        let lines = lines.map(|lines| lines.ok_or_else(wrong)).transpose()?.unwrap_or_default();
        let at = match at {
            "side" => LevelAt::Side,
            name => LevelAt::Centre(Station::of(name).ok_or_else(wrong)?),
        };
        Ok(Self { lines, at, hangs })
    }
}

impl<'de> Deserialize<'de> for LevelSign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        String::deserialize(from)?.parse().map_err(serde::de::Error::custom)
    }
}

/// `waist or hip centre back`: the lines, where any is named, and where on them.
pub(super) fn line_and_station(name: &str) -> (Option<&str>, &str) {
    const STATIONS: [&str; 5] = ["centre front", "centre back", "left", "right", "side"];
    let at = STATIONS.into_iter().find(|station| name.ends_with(station)).unwrap_or(name);
    let lines = name[..name.len() - at.len()].trim_end();
    ((!lines.is_empty()).then_some(lines), at)
}

/// The line of a short name: `waist`.
pub(super) fn line_of(name: &str) -> Option<BalanceLine> {
    BalanceLine::ALL.into_iter().find(|line| line.name().strip_suffix(" line").unwrap_or(line.name()) == name)
}

/// Where an amount is read, and what turns it into the alteration's.
#[derive(Clone, Debug)]
pub(super) enum AmountFrom {
    /// What was pinned, as the alteration's amount is measured: per edge, per half, or where it is pinned.
    Pins { times: f64 },
    /// A wedge: what stands up at its open end is the drop itself, pinched or tucked.
    Wedge { times: f64 },
    /// A fold lying across: what leaves is length.
    Across { times: f64 },
    /// How far something is off.
    HowFar { times: f64 },
    /// A level line.
    Level { sign: LevelSign, times: f64 },
    /// Her figure against the pattern's.
    PatternMeasure { figure: PatternMeasure, times: f64 },
    /// Nobody measured: a guess.
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
            None if source == "wedge" => Ok(Self::Wedge { times }),
            None if source == "across" => Ok(Self::Across { times }),
            Some(("how", "far")) => Ok(Self::HowFar { times }),
            // Which way it hangs is the amount's own sign.
            Some(("level", name)) => Ok(Self::Level { sign: format!("{name}+").parse()?, times }),
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
            assert_eq!(cause.remedy.is_empty(), cause.leave.is_some(), "{}: alter or leave", cause.code);
            for remedy in cause.remedy.iter().chain(&cause.beside) {
                let known = alteration(&remedy.alteration);
                let known = known.unwrap_or_else(|| {
                    panic!("{}: no alteration is called {}", cause.code, remedy.alteration)
                });
                let usual = remedy.usual();
                assert!(usual != 0.0, "{} has no usual amount to fall back on", cause.code);
                let amounts = remedy.amounts(usual);
                let valid = amounts.validate(known.params(), Style::TENTHS);
                valid.unwrap_or_else(|e| panic!("{}: {e}", cause.code));
                let told = amounts.0.get(&remedy.param);
                assert_eq!(told, Some(&Setting::Number(usual)), "{} is clamped", cause.code);
            }
        }
    }

    #[test]
    fn codes_are_unique_and_every_neighbour_is_a_cause() {
        for (index, one) in causes().iter().enumerate() {
            assert!(causes()[index + 1..].iter().all(|other| other.code != one.code), "{} twice", one.code);
            assert!(!one.tells_from.is_empty(), "the test of {} tells it from nothing", one.code);
            for other in one.mistaken.iter().chain(&one.tells_from) {
                assert!(cause(other).is_some(), "{}: {other} is no cause", one.code);
                assert_ne!(*other, one.code);
            }
        }
    }

    #[test]
    fn what_is_seen_on_one_side_says_so_in_a_sign() {
        for cause in causes() {
            let of_one_side = cause.sure.iter().any(Sign::is_of_one_side);
            assert_eq!(of_one_side, cause.sides != Sides::Any, "{}", cause.code);
        }
    }

    #[test]
    fn an_amount_beyond_what_the_alteration_takes_is_held_at_its_limit() {
        let remedy = cause("wide_back").unwrap().remedy(Garment::Bodice).unwrap();
        assert_eq!(remedy.amounts(-60.0).amount(), -12.0);
    }

    #[test]
    fn a_level_sign_names_lines_and_where_on_them() {
        let sign: LevelSign = "bust or waist centre back+".parse().unwrap();
        assert_eq!(sign.lines, [BalanceLine::Bust, BalanceLine::Waist]);
        assert_eq!((sign.at, sign.hangs), (LevelAt::Centre(Station::CentreBack), Hangs::Up));
        let side: LevelSign = "side-".parse().unwrap();
        assert!(side.lines.is_empty() && side.at == LevelAt::Side && side.hangs == Hangs::Down);
        for wrong in ["waist+", "knee side+", "waist side", "nowhere="] {
            assert!(wrong.parse::<LevelSign>().is_err(), "{wrong}");
        }
    }
}
