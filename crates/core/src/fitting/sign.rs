//! What is seen, as it is said: the notation of `data/causes.toml` and of the described fittings.

use serde::{Deserialize, Deserializer};

use super::near::{kinds_count, places_count};
use super::{Lie, Observation, ObservationKind, Pinned, PinnedAs, PinnedOn, Posture, places};
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
    goes_when: Option<Posture>,
    on_one_side: bool,
}

/// A detail the observation has and the sign does not speak of.
const UNSPOKEN_AIM: f64 = 0.35;
const UNSPOKEN_POSTURE: f64 = 0.6;
const UNSPOKEN_LIE: f64 = 0.8;
const UNSPOKEN_SIDE: f64 = 0.9;
/// What vanishes in a posture is mostly that posture's own.
const UNSPOKEN_GOING: f64 = 0.5;
/// A detail the sign speaks of and the observation leaves open.
const OPEN_AIM: f64 = 0.5;
const OPEN_POSTURE: f64 = 0.4;
const OPEN_LIE: f64 = 0.7;
const OPEN_SIDE: f64 = 0.1;
const OPEN_GOING: f64 = 0.15;

/// How well an observation is a sign.
#[derive(Clone, Copy, Debug, Default, PartialEq)]
pub(super) struct Met {
    /// From 0 to 1.
    pub(super) part: f64,
    /// It is the sign's own kind and place, not a neighbour's.
    pub(super) itself: bool,
    /// A detail the sign speaks of was left open.
    pub(super) left_open: bool,
}

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
        let said = Said::read(rest, text)?;
        if said.how_far.is_some() {
            return Err(format!("“{text}” says how far: a sign has no amount"));
        }
        Ok(Self {
            text: text.to_owned(),
            kind: said.kind,
            lie: said.lie,
            at: said.at,
            towards: said.towards,
            posture: said.posture,
            goes_when: said.goes_when,
            on_one_side,
        })
    }

    /// Whether it is a sign on one side of her alone.
    #[cfg(test)]
    pub(super) const fn is_of_one_side(&self) -> bool {
        self.on_one_side
    }

    pub(super) const fn kind(&self) -> ObservationKind {
        self.kind
    }

    pub(super) const fn lie(&self) -> Option<Lie> {
        self.lie
    }

    pub(super) fn at(&self) -> &[String] {
        &self.at
    }

    pub(super) fn towards(&self) -> &[String] {
        &self.towards
    }

    pub(super) const fn posture(&self) -> Option<Posture> {
        self.posture
    }

    pub(super) const fn goes_when(&self) -> Option<Posture> {
        self.goes_when
    }

    /// How well an observation is this sign, from 0 to 1. A place next door and a kind that fitters take for it count
    /// in part.
    pub fn matches(&self, seen: &Observation) -> f64 {
        self.met(seen).part
    }

    /// How well an observation is this sign, and whether it is the sign itself or its neighbour.
    pub(super) fn met(&self, seen: &Observation) -> Met {
        let kind = kinds_count(self.kind, seen.kind);
        if kind == 0.0 {
            return Met::default();
        }
        let as_drawn = self.aim(&seen.place, seen.towards.as_deref());
        // A fold has two ends and no head: it may be drawn from either. A drag points at what is short.
        let (aim, is_there) = match (seen.kind, &seen.towards) {
            (ObservationKind::Fold, Some(towards)) => {
                let turned = self.aim(towards, Some(&seen.place));
                if turned.0 > as_drawn.0 { turned } else { as_drawn }
            }
            _ => as_drawn,
        };
        let one = seen.side != Side::Both;
        let side = match (one, self.on_one_side) {
            (true, false) => UNSPOKEN_SIDE,
            (false, true) => OPEN_SIDE,
            _ => 1.0,
        };
        let lie = if self.kind == seen.kind {
            detail(self.lie, seen.lie, OPEN_LIE, UNSPOKEN_LIE)
        } else if self.lie.is_some() && self.lie.map(Lie::opposite) == seen.lie {
            0.0
        } else {
            1.0
        };
        let part = kind
            * aim
            * side
            * lie
            * detail(self.posture, seen.in_posture(), OPEN_POSTURE, UNSPOKEN_POSTURE)
            * detail(self.goes_when, seen.goes_when, OPEN_GOING, UNSPOKEN_GOING);
        let left_open = (self.lie.is_some() && seen.lie.is_none())
            || (!self.towards.is_empty() && seen.towards.is_none())
            || (self.posture.is_some() && seen.in_posture().is_none())
            || (self.goes_when.is_some() && seen.goes_when.is_none());
        Met { part, itself: is_there && self.kind == seen.kind, left_open }
    }

    /// Whether an observation is the very opposite of this sign: the same thing at the same place, the other way.
    pub(super) fn is_contradicted_by(&self, seen: &Observation) -> bool {
        self.kind == seen.kind
            && self.lie.is_some()
            && self.lie.map(Lie::opposite) == seen.lie
            && self.kind != ObservationKind::Fold
            && self.at.contains(&seen.place)
            && self.posture == seen.in_posture()
            && self.on_one_side == (seen.side != Side::Both)
    }

    /// How well a place, and what it points at, are those of the sign; and whether the place is one of its own.
    fn aim(&self, place: &str, towards: Option<&str>) -> (f64, bool) {
        let counts = |names: &[String], name: &str| {
            names.iter().map(|known| places_count(known, name)).fold(0.0, f64::max)
        };
        let at = counts(&self.at, place);
        let towards = match towards {
            None if self.towards.is_empty() => 1.0,
            None => OPEN_AIM,
            Some(_) if self.towards.is_empty() => UNSPOKEN_AIM,
            Some(towards) => counts(&self.towards, towards),
        };
        (at * towards, at == 1.0)
    }
}

/// Reads one observation written the same way, with one place each, how far it is off, its side and what was pinned:
/// `place out at shoulder tip by 9 on the left, pinched 6`.
///
/// # Errors
///
/// As [`Sign::read`].
pub fn read_observation(text: &str) -> Result<Observation, String> {
    let (rest, pins) = split(text, ", ");
    let (rest, side) = match (rest.strip_suffix(" on the left"), rest.strip_suffix(" on the right")) {
        (Some(rest), _) => (rest, Side::Left),
        (None, Some(rest)) => (rest, Side::Right),
        (None, None) => (rest, Side::Both),
    };
    let said = Said::read(rest, text)?;
    let ([place], [] | [_]) = (said.at.as_slice(), said.towards.as_slice()) else {
        return Err(format!("“{text}” names several places: what was seen is at one"));
    };
    let on = if side == Side::Both { PinnedOn::BothSides } else { PinnedOn::ThatSide };
    let pinned = pins.map(|pins| {
        let (word, depth) = pins.split_once(' ').unwrap_or((pins, ""));
        let pinned_as = match word {
            "pinched" => Ok(PinnedAs::Pinch),
            "tucked" => Ok(PinnedAs::Tuck),
            _ => Err(format!("“{text}”: “{word}” is no way to pin: pinched or tucked")),
        };
        Ok::<_, String>(Pinned { depth: number(depth, text)?, pinned_as: pinned_as?, on })
    });
    Ok(Observation {
        lie: said.lie,
        towards: said.towards.first().cloned(),
        side,
        posture: said.posture,
        goes_when: said.goes_when,
        how_far: said.how_far,
        pinned: pinned.transpose()?,
        ..Observation::of(said.kind, place)
    })
}

/// What signs and observations have in common.
struct Said {
    kind: ObservationKind,
    lie: Option<Lie>,
    at: Vec<String>,
    how_far: Option<f64>,
    towards: Vec<String>,
    posture: Option<Posture>,
    goes_when: Option<Posture>,
}

impl Said {
    /// Reads `rest`; `text` is the whole, for what is said when it cannot be read.
    fn read(rest: &str, text: &str) -> Result<Self, String> {
        let (rest, goes_when) = split(rest, " goes when ");
        let (rest, posture) = split(rest, " when ");
        let (rest, towards) = split(rest, " towards ");
        let (rest, how_far) = split(rest, " by ");
        let (what, at) = rest.split_once(" at ").ok_or_else(|| format!("“{text}” says no place: at …"))?;
        let (kind, lie) = split(what, " ");
        let kind = ObservationKind::ALL.into_iter().find(|each| word_of(*each) == kind);
        let kind = kind.ok_or_else(|| format!("“{text}” begins with no kind of observation"))?;
        let lie = lie.map(|name| {
            let known = kind.lies().iter().copied().find(|lie| lie.name() == name);
            known.ok_or_else(|| format!("“{text}”: “{name}” is no way a {} lies", word_of(kind)))
        });
        Ok(Self {
            kind,
            lie: lie.transpose()?,
            at: places_of(at, text)?,
            how_far: how_far.map(|mm| number(mm, text)).transpose()?,
            towards: towards.map(|names| places_of(names, text)).transpose()?.unwrap_or_default(),
            posture: posture.map(|name| posture_of(name, text)).transpose()?,
            goes_when: goes_when.map(|name| posture_of(name, text)).transpose()?,
        })
    }
}

impl<'de> Deserialize<'de> for Sign {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Self, D::Error> {
        Self::read(&String::deserialize(from)?).map_err(serde::de::Error::custom)
    }
}

fn split<'a>(text: &'a str, at: &str) -> (&'a str, Option<&'a str>) {
    text.split_once(at).map_or((text, None), |(before, after)| (before, Some(after)))
}

fn number(text: &str, whole: &str) -> Result<f64, String> {
    let read = text.trim().parse().ok().filter(|mm: &f64| mm.is_finite() && *mm > 0.0);
    read.ok_or_else(|| format!("“{whole}”: “{text}” is no number of millimetres"))
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
        assert!(how_well(drag, "drag at upper arm towards sleeve hem") < 0.01);
        assert!(how_well(drag, "fold at upper arm towards shoulder tip") < 0.5);
        // A fold drawn from its other end is the same fold; a drag that points the other way is another.
        let wedge = "fold at underarm towards neck side";
        assert_eq!(how_well(wedge, "fold at neck side towards underarm"), 1.0);
        assert!(how_well(drag, "drag at shoulder tip towards upper arm") < 0.3);
        assert_eq!(how_well("fold across at back waist", "fold along at back waist"), 0.0);
        assert_eq!(how_well("gape at front armhole", "gape at front armhole on the left"), UNSPOKEN_SIDE);
        assert_eq!(how_well("strain at underarm", "strain at underarm when arms lifted"), UNSPOKEN_POSTURE);
        let going = "fold along at back armhole goes when arms forward";
        assert_eq!(how_well(going, going), 1.0);
        assert_eq!(how_well(going, "fold along at back armhole"), OPEN_GOING);
        assert_eq!(how_well("fold along at back armhole", going), UNSPOKEN_GOING);
    }

    #[test]
    fn a_neighbour_counts_in_part_and_the_other_way_not_at_all() {
        let met = |sign: &str, seen: &str| Sign::read(sign).unwrap().met(&read_observation(seen).unwrap());
        let next_door = met("gape at front armhole", "gape at princess line");
        assert!(next_door.part > 0.0 && next_door.part < 1.0 && !next_door.itself);
        let other_kind = met("drag at upper arm", "strain at upper arm");
        assert!(other_kind.part > 0.0 && other_kind.part < 1.0 && !other_kind.itself);
        assert!(met("hike up at front waist", "place up at front waist").part > 0.0);
        assert_eq!(met("hike up at front waist", "place down at front waist").part, 0.0);
        assert_eq!(met("gape at front armhole", "gape at back neck").part, 0.0);
    }

    #[test]
    fn an_observation_says_how_far_and_what_was_pinned() {
        let seen = read_observation("place out at shoulder tip by 9 on the left").unwrap();
        assert_eq!((seen.how_far, seen.side), (Some(9.0), Side::Left));
        let fold = read_observation("fold at shoulder tip towards underarm, pinched 8").unwrap();
        let pinned = Pinned { depth: 8.0, pinned_as: PinnedAs::Pinch, on: PinnedOn::BothSides };
        assert_eq!(fold.pinned, Some(pinned));
        for (text, says) in [
            ("gape at bust, sewn 3", "no way to pin"),
            ("gape at bust, pinched", "no number"),
            ("place in at bust by -3", "no number"),
            ("gape at bust or belly", "several places"),
        ] {
            let error = read_observation(text).unwrap_err();
            assert!(error.contains(says), "{error}");
        }
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
