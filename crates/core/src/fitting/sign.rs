//! What is seen, as it is said: the notation of `data/causes.toml` and of the described fittings.

use serde::{Deserialize, Deserializer};

use super::{Lie, Observation, ObservationKind, Posture, places};
use crate::body::Side;

/// A sign to look for: any of its places, any of the places it points at.
#[derive(Clone, Debug, PartialEq)]
pub struct Sign {
    /// As it is written.
    pub text: String,
    kind: ObservationKind,
    lie: Option<Lie>,
    at: Vec<String>,
    towards: Vec<String>,
    posture: Option<Posture>,
    on_one_side: bool,
}

/// A detail the observation has and the sign does not speak of.
const UNSPOKEN_AIM: f64 = 0.35;
const UNSPOKEN_POSTURE: f64 = 0.6;
const UNSPOKEN_LIE: f64 = 0.8;
const UNSPOKEN_SIDE: f64 = 0.9;
/// A detail the sign speaks of and the observation leaves open.
const OPEN_AIM: f64 = 0.5;
const OPEN_POSTURE: f64 = 0.4;
const OPEN_LIE: f64 = 0.7;
const OPEN_SIDE: f64 = 0.1;

impl Sign {
    /// Reads a sign.
    ///
    /// ```
    /// use yardwand_core::fitting::Sign;
    ///
    /// let sign = Sign::read("fold across at back neck or shoulder blade when sitting").unwrap();
    /// assert!(Sign::read("ripple at back neck").is_err());
    /// ```
    ///
    /// # Errors
    ///
    /// What cannot be read, with the words there are.
    pub fn read(text: &str) -> Result<Self, String> {
        let (rest, on_one_side) = match text.strip_suffix(" on one side") {
            Some(rest) => (rest, true),
            None => (text, false),
        };
        let (rest, posture) = split(rest, " when ");
        let posture = posture.map(|name| posture_of(name, text)).transpose()?;
        let (rest, towards) = split(rest, " towards ");
        let (what, at) = rest.split_once(" at ").ok_or_else(|| format!("“{text}” says no place: at …"))?;
        let (kind, lie) = split(what, " ");
        let kind = ObservationKind::ALL.into_iter().find(|each| word_of(*each) == kind);
        let kind = kind.ok_or_else(|| format!("“{text}” begins with no kind of observation"))?;
        let lie = lie.map(|name| {
            let known = kind.lies().iter().copied().find(|lie| lie.name() == name);
            known.ok_or_else(|| format!("“{text}”: “{name}” is no way a {} lies", word_of(kind)))
        });
        Ok(Self {
            text: text.to_owned(),
            kind,
            lie: lie.transpose()?,
            at: places_of(at, text)?,
            towards: towards.map(|names| places_of(names, text)).transpose()?.unwrap_or_default(),
            posture,
            on_one_side,
        })
    }

    /// How well an observation is this sign, from 0 to 1.
    pub fn matches(&self, seen: &Observation) -> f64 {
        if self.kind != seen.kind {
            return 0.0;
        }
        let as_drawn = self.aim(&seen.place, seen.towards.as_deref());
        // A fold has two ends and no head: it may be drawn from either. A drag points at what is short.
        let aim = match (self.kind, &seen.towards) {
            (ObservationKind::Fold, Some(towards)) => as_drawn.max(self.aim(towards, Some(&seen.place))),
            _ => as_drawn,
        };
        let one = seen.side != Side::Both;
        let side = match (one, self.on_one_side) {
            (true, false) => UNSPOKEN_SIDE,
            (false, true) => OPEN_SIDE,
            _ => 1.0,
        };
        aim * side
            * detail(self.lie, seen.lie, OPEN_LIE, UNSPOKEN_LIE)
            * detail(self.posture, seen.in_posture(), OPEN_POSTURE, UNSPOKEN_POSTURE)
    }
}

impl Sign {
    /// How well a place, and what it points at, are those of the sign.
    fn aim(&self, place: &str, towards: Option<&str>) -> f64 {
        let has = |names: &[String], name: &str| names.iter().any(|known| known == name);
        match towards {
            _ if !has(&self.at, place) => 0.0,
            None if self.towards.is_empty() => 1.0,
            None => OPEN_AIM,
            Some(_) if self.towards.is_empty() => UNSPOKEN_AIM,
            Some(towards) => f64::from(u8::from(has(&self.towards, towards))),
        }
    }
}

/// Reads one observation written the same way, with one place each and its side: `… on the left`.
///
/// # Errors
///
/// As [`Sign::read`].
pub fn read_observation(text: &str) -> Result<Observation, String> {
    let (rest, side) = match (text.strip_suffix(" on the left"), text.strip_suffix(" on the right")) {
        (Some(rest), _) => (rest, Side::Left),
        (None, Some(rest)) => (rest, Side::Right),
        (None, None) => (text, Side::Both),
    };
    let sign = Sign::read(rest)?;
    let place = sign.at.first().cloned().unwrap_or_default();
    Ok(Observation {
        lie: sign.lie,
        towards: sign.towards.first().cloned(),
        side,
        posture: sign.posture,
        ..Observation::of(sign.kind, &place)
    })
}

impl<'de> Deserialize<'de> for Sign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        Self::read(&String::deserialize(from)?).map_err(serde::de::Error::custom)
    }
}

fn split<'a>(text: &'a str, at: &str) -> (&'a str, Option<&'a str>) {
    text.split_once(at).map_or((text, None), |(before, after)| (before, Some(after)))
}

fn detail<T: PartialEq>(asked: Option<T>, seen: Option<T>, open: f64, unspoken: f64) -> f64 {
    match (asked, seen) {
        (None, None) => 1.0,
        (Some(_), None) => open,
        (None, Some(_)) => unspoken,
        (Some(asked), Some(seen)) => f64::from(u8::from(asked == seen)),
    }
}

const fn word_of(kind: ObservationKind) -> &'static str {
    match kind {
        ObservationKind::Drag => "drag",
        ObservationKind::Fold => "fold",
        ObservationKind::Gape => "gape",
        ObservationKind::Hike => "hike",
        ObservationKind::Swing => "swing",
        ObservationKind::Strain => "strain",
        ObservationKind::Point => "point",
        ObservationKind::Place => "place",
    }
}

fn posture_of(name: &str, text: &str) -> Result<Posture, String> {
    let known = Posture::ALL.into_iter().find(|posture| posture.name() == name);
    known.ok_or_else(|| format!("“{text}”: “{name}” is no posture"))
}

fn places_of(names: &str, text: &str) -> Result<Vec<String>, String> {
    let place = |name: &str| {
        let known = places().any(|place| place == name);
        known.then(|| name.to_owned()).ok_or_else(|| format!("“{text}”: “{name}” is no place on the figure"))
    };
    names.split(" or ").map(place).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    fn how_well(sign: &str, seen: &str) -> f64 {
        Sign::read(sign).unwrap().matches(&read_observation(seen).unwrap())
    }

    #[test]
    fn a_sign_is_met_in_full_in_part_or_not() {
        let drag = "drag at sleeve cap or upper arm towards shoulder tip";
        assert_eq!(how_well(drag, "drag at upper arm towards shoulder tip"), 1.0);
        assert_eq!(how_well(drag, "drag at upper arm"), OPEN_AIM);
        assert_eq!(how_well(drag, "drag at upper arm towards underarm"), 0.0);
        assert_eq!(how_well(drag, "fold at upper arm towards shoulder tip"), 0.0);
        // A fold drawn from its other end is the same fold; a drag that points the other way is another.
        let wedge = "fold at underarm towards neck side";
        assert_eq!(how_well(wedge, "fold at neck side towards underarm"), 1.0);
        assert_eq!(how_well(drag, "drag at shoulder tip towards upper arm"), 0.0);
        assert_eq!(how_well("fold across at back waist", "fold along at back waist"), 0.0);
        assert_eq!(how_well("gape at front armhole", "gape at front armhole on the left"), UNSPOKEN_SIDE);
        assert_eq!(how_well("strain at underarm", "strain at underarm when arms lifted"), UNSPOKEN_POSTURE);
    }

    #[test]
    fn what_cannot_be_read_says_what() {
        for (text, says) in [
            ("ripple at bust", "kind of observation"),
            ("fold up at bust", "no way a fold lies"),
            ("fold at knee", "no place on the figure"),
            ("fold across", "says no place"),
            ("drag at bust when dancing", "no posture"),
        ] {
            let error = Sign::read(text).unwrap_err();
            assert!(error.contains(says), "{error}");
        }
    }
}
