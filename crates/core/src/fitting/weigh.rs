//! Weighing causes: several observations together, with measurements, level lines, what is worn, tests that were made and
//! what earlier rounds taught.

use serde::{Deserialize, Serialize};

use super::causes::{Cause, Hangs, Sides, Stands, causes};
use super::evidence::{Evidence, LevelOff};
use super::offers::{CauseAnswer, CauseOffer, ReadFrom, moves};
use super::sureness::{HowSure, TellApart, contradictions, leads, not_looked_at, tell_apart};
use super::{Mark, Observation, Sureness, Trend};
use crate::Style;
use crate::body::Side;
use crate::pattern::WornSide;

/// Never more causes than this.
const MOST: usize = 4;
/// What a sign counts (ours, set by what a fitter would say first; held to by the described fittings).
pub(super) const SURE: f64 = 4.0;
const ALSO: f64 = 2.0;
const AGAINST: f64 = -3.0;
/// The same sign once more adds less.
const AGAIN: f64 = 0.35;
/// A doubtful observation.
const DOUBTFUL: f64 = 0.5;
/// A figure that stands as the cause would have it; that fits where it should not; that stands the other way.
const FIGURE_HOLDS: f64 = 2.5;
const FIGURE_FITS: f64 = -1.5;
const FIGURE_OPPOSES: f64 = -2.7;
/// A figure this many times beyond what still fits is strong, and counts this much more.
const STRONG_FROM: f64 = 2.0;
const STRONG: f64 = 1.3;
/// A figure that should fit, and does; and does not.
const FITS_AS_IT_SHOULD: f64 = 1.0;
const SHOULD_FIT: f64 = -2.0;
/// A level line likewise.
const LEVEL_HOLDS: f64 = 3.0;
const LEVEL_FITS: f64 = -2.0;
const LEVEL_OPPOSES: f64 = -3.0;
const LEVEL_AS_IT_SHOULD: f64 = 1.0;
const LEVEL_SHOULD_FIT: f64 = -2.0;
/// Under this, in millimetres, it is the tape's noise (handbook: `fitting.md`, section 3).
const TAPE_NOISE: f64 = 3.0;
/// What must be worn is; and is not.
const WORN_HOLDS: f64 = 1.5;
const WORN_FAILS: f64 = -8.0;
/// What is seen on one side only by rights, and is seen on the other too; what is seen on both in opposite ways, and is not.
const OTHER_SIDE_TOO: f64 = -3.0;
const BOTH_SIDES: f64 = 2.0;
const NOT_ON_BOTH: f64 = 0.4;
/// A cause it is mistaken for was tried in vain; too much of its opposite was given.
const MISTAKEN_TRIED: f64 = 2.0;
const OPPOSITE_GIVEN: f64 = 2.5;
/// Its test was made: what it says happened, or did not; and the test of its neighbour.
const TEST_HOLDS: f64 = 6.0;
const TEST_FAILS: f64 = -6.0;
const NEIGHBOUR_TEST: f64 = 1.5;
/// An observation that is a sign so well is explained by its cause: next door, not two doors away.
const EXPLAINS: f64 = 0.34;
/// Less than this is not told.
const LEAST: f64 = 0.75;

/// A cause that is suggested.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suggestion {
    /// Code of the cause.
    pub cause: String,
    /// In neutral words.
    pub title: String,
    /// How what is seen follows from it.
    pub says: String,
    /// How to tell it from its neighbours.
    pub test: String,
    /// What it weighs.
    pub weight: f64,
    /// How sure it can be said.
    pub sure: HowSure,
    /// It explains what the first cause does not: both may be there.
    pub alongside: bool,
    /// Which observations it explains, by their place in the evidence.
    pub explains: Vec<usize>,
    /// What speaks for it.
    pub speaks_for: Vec<String>,
    /// What speaks against it.
    pub speaks_against: Vec<String>,
    /// What would make it surer and was not looked at.
    pub not_looked_at: Vec<String>,
    /// What is done about it.
    pub answer: CauseAnswer,
    /// What goes with that: length with width below the waist.
    pub beside: Vec<CauseOffer>,
    /// Done on one side only.
    pub side: Option<WornSide>,
    /// It is her posture or frame.
    pub lasting: bool,
}

/// A cause that something seen is a sign of, and that is not offered all the same.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SetAside {
    /// Code of the cause.
    pub cause: String,
    /// In neutral words.
    pub title: String,
    /// Why it is not offered.
    pub why: String,
}

/// What is offered for what was seen, and what was thought of and set aside: no cause comes and goes without a word.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Weighing {
    /// The causes offered, strongest first, at most four.
    pub offered: Vec<Suggestion>,
    /// The other causes there is a sign of, strongest first.
    pub set_aside: Vec<SetAside>,
    /// The test that tells the first causes apart; none where the first one is sure.
    pub tell_apart: Option<TellApart>,
    /// Signs that contradict each other, in a sentence each.
    pub contradictions: Vec<String>,
}

/// The causes of all that was seen.
pub fn weigh(evidence: &Evidence, style: Style) -> Weighing {
    Weighing::of(evidence, style, |_| true)
}

/// The causes of one observation, with all the rest as evidence.
pub fn weigh_for(evidence: &Evidence, one: usize, style: Style) -> Weighing {
    Weighing::of(evidence, style, |weighed| weighed.explains(one))
}

impl Weighing {
    /// Where nothing speaks clearly, the strongest cause is offered with what speaks against it: a sign that fitters
    /// know is not answered with silence because a figure fits.
    fn of(evidence: &Evidence, style: Style, is_wanted: impl Fn(&Weighed<'_>) -> bool) -> Self {
        let of_garment = causes().iter().filter(|cause| cause.is_of(evidence.garment));
        let weighed = of_garment.filter_map(|cause| Weighed::of(cause, evidence, style));
        let mut weighed: Vec<_> = weighed.filter(is_wanted).collect();
        // Stable: of two that weigh the same the upper one is told first.
        weighed.sort_by(|a, b| b.weight.total_cmp(&a.weight));
        let leads = leads(&weighed);
        let clear = weighed.iter().take_while(|w| w.weight >= LEAST).count();
        let told = clear.clamp(weighed.len().min(1), MOST);
        let tell_apart = tell_apart(&weighed[..told], &leads, &evidence.tested);
        let rest = weighed.split_off(told);
        let offered = weighed.into_iter().zip(leads);
        Self {
            offered: offered
                .map(|(weighed, lead)| weighed.suggestion(lead.sure, lead.alongside, evidence, style))
                .collect(),
            set_aside: rest.into_iter().filter(Weighed::explains_any).map(Weighed::set_aside).collect(),
            tell_apart,
            contradictions: contradictions(&evidence.seen),
        }
    }
}

/// The signs of `causes.toml` that an observation meets, as `cause: sign`; for testing that none is idle.
pub fn signs_met(seen: &Observation) -> Vec<String> {
    let met = |cause: &'static Cause| {
        let signs = cause.sure.iter().chain(&cause.also).chain(&cause.against);
        signs.filter(|sign| sign.met(seen).itself).map(|sign| format!("{}: {}", cause.code, sign.text))
    };
    causes().iter().flat_map(met).collect()
}

/// A kind of evidence.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
enum Kind {
    Seen,
    Figure,
    Level,
    Round,
    Test,
}

/// An observation that is a sign of a cause.
#[derive(Clone, Copy, Debug)]
pub(super) struct SignMet {
    /// Its place in the evidence.
    pub(super) index: usize,
    /// What it counts.
    pub(super) weight: f64,
    /// How well it is the sign, from 0 to 1.
    part: f64,
}

/// A cause with all that speaks for and against it.
pub(super) struct Weighed<'a> {
    pub(super) cause: &'a Cause,
    pub(super) weight: f64,
    /// The observations that are signs of it.
    pub(super) signs: Vec<SignMet>,
    /// One of its own signs is met by itself, not by a neighbour's.
    pub(super) seen_itself: bool,
    /// The kinds of evidence that speak for it.
    kinds: Vec<Kind>,
    /// What speaks against it, added up.
    pub(super) against: f64,
    pub(super) side: Option<WornSide>,
    speaks_for: Vec<String>,
    speaks_against: Vec<String>,
}

impl<'a> Weighed<'a> {
    /// `None` where nothing that was seen is a sign of it: measurements alone are no fault of the toile.
    fn of(cause: &'a Cause, evidence: &Evidence, style: Style) -> Option<Self> {
        let mut w = Self {
            cause,
            weight: 0.0,
            signs: Vec::new(),
            seen_itself: false,
            kinds: Vec::new(),
            against: 0.0,
            side: None,
            speaks_for: Vec::new(),
            speaks_against: Vec::new(),
        };
        w.see(evidence);
        if w.signs.is_empty() {
            return None;
        }
        w.sides(evidence);
        w.wear(evidence);
        w.measure(evidence, style);
        w.level(evidence, style);
        w.remember(evidence);
        w.test(evidence);
        Some(w)
    }

    /// The observations it explains: not what is only two doors away, or another kind at its place.
    pub(super) fn explained(&self) -> impl Iterator<Item = &SignMet> {
        self.signs.iter().filter(|sign| sign.part >= EXPLAINS)
    }

    /// Whether it explains an observation.
    pub(super) fn explains(&self, one: usize) -> bool {
        self.explained().any(|sign| sign.index == one)
    }

    /// Whether it explains anything.
    fn explains_any(&self) -> bool {
        self.explained().next().is_some()
    }

    /// How many kinds of evidence speak for it.
    pub(super) fn kinds_of_evidence(&self) -> usize {
        self.kinds.len()
    }

    /// What it is offered for: what it explains, or, where that is nothing, what is seen of it further off.
    fn offered_for(&self) -> impl Iterator<Item = &SignMet> {
        let explains_any = self.explains_any();
        self.signs.iter().filter(move |sign| sign.part >= EXPLAINS || !explains_any)
    }

    fn add(&mut self, kind: Kind, weight: f64, says: String) {
        // A figure raises a cause that is seen near by, not one two doors away.
        if matches!(kind, Kind::Figure | Kind::Level) && weight > 0.0 && !self.explains_any() {
            return;
        }
        self.weight += weight;
        if weight > 0.0 && !self.kinds.contains(&kind) {
            self.kinds.push(kind);
        }
        self.against += weight.min(0.0);
        let told = if weight > 0.0 { &mut self.speaks_for } else { &mut self.speaks_against };
        if !told.contains(&says) {
            told.push(says);
        }
    }

    fn see(&mut self, evidence: &Evidence) {
        let cause = self.cause;
        let groups = [(&cause.sure, SURE), (&cause.also, ALSO)];
        let signs: Vec<_> =
            groups.iter().flat_map(|(signs, each)| signs.iter().map(move |s| (s, *each))).collect();
        // Each observation is the sign it meets best.
        let mut found: Vec<(usize, SignMet)> = Vec::new();
        for (index, seen) in evidence.seen.iter().enumerate() {
            let sureness = if seen.sureness == Sureness::Sure { 1.0 } else { DOUBTFUL };
            let all = signs.iter().enumerate().map(|(i, (sign, each))| {
                let met = sign.met(seen);
                (i, SignMet { index, weight: each * met.part * sureness, part: met.part }, met.itself)
            });
            let best = all.filter(|(_, met, _)| met.weight > 0.0);
            let best = best.max_by(|a, b| a.1.weight.total_cmp(&b.1.weight));
            // What speaks against is meant word by word: a neighbour's sign, or one half said, speaks against nothing.
            let speaks_against = |sign: &super::Sign| {
                let met = sign.met(seen);
                if met.itself && !met.left_open { met.part } else { 0.0 }
            };
            let against = cause.against.iter().map(speaks_against).fold(0.0, f64::max);
            // A cause that is seen in opposite ways on her two sides is not contradicted by them.
            let contradicts =
                cause.sides != Sides::Apart && cause.sure.iter().any(|sign| sign.is_contradicted_by(seen));
            let against = if contradicts { 1.0 } else { against };
            if against > 0.0 {
                self.add(Kind::Seen, AGAINST * against * sureness, seen.said());
            }
            // What speaks against it word by word does not speak for it next door.
            if let Some((sign, met, itself)) = best.filter(|(.., itself)| *itself || against == 0.0) {
                found.push((sign, met));
                self.seen_itself |= itself;
            }
        }
        // The strongest first, so that it does not matter in which order they were seen.
        found.sort_by(|a, b| b.1.weight.total_cmp(&a.1.weight));
        let mut times = vec![0_i32; signs.len()];
        for (sign, met) in found {
            let weight = met.weight * AGAIN.powi(times[sign]);
            times[sign] += 1;
            self.signs.push(SignMet { weight, ..met });
        }
        // What is only two doors away counts, and is not told beside what is the sign.
        let told: Vec<SignMet> = self.offered_for().copied().collect();
        for sign in &told {
            self.add(Kind::Seen, sign.weight, evidence.seen[sign.index].said());
        }
        let all: f64 = self.signs.iter().map(|sign| sign.weight).sum();
        self.weight += all - told.iter().map(|sign| sign.weight).sum::<f64>();
        self.signs.sort_by_key(|sign| sign.index);
    }

    /// The side it is on, and what the other side says of it.
    fn sides(&mut self, evidence: &Evidence) {
        // What lies further off is another's: its side says nothing of this one.
        let on = |side: Side| -> f64 {
            let of_side = self.offered_for().filter(|sign| evidence.seen[sign.index].side == side);
            of_side.map(|sign| sign.weight).sum()
        };
        let (left, right) = (on(Side::Left), on(Side::Right));
        match self.cause.sides {
            Sides::Any => {
                let of_one = self.offered_for().all(|sign| evidence.seen[sign.index].side != Side::Both);
                self.side = match (left > 0.0, right > 0.0) {
                    (true, false) if of_one => Some(WornSide::Left),
                    (false, true) if of_one => Some(WornSide::Right),
                    _ => None,
                };
            }
            Sides::One => {
                self.side = match (left > 0.0, right > 0.0) {
                    (false, false) => None,
                    _ if left >= right => Some(WornSide::Left),
                    _ => Some(WornSide::Right),
                };
                if left > 0.0 && right > 0.0 {
                    self.add(Kind::Seen, OTHER_SIDE_TOO, "The other side shows the same".to_owned());
                }
            }
            Sides::Apart if left > 0.0 && right > 0.0 => {
                self.add(Kind::Seen, BOTH_SIDES, "The two sides lean the same way round her".to_owned());
            }
            Sides::Apart => {
                let on_one = left + right > 0.0;
                self.weight *= NOT_ON_BOTH;
                let says = if on_one { "The other side shows nothing of it" } else { "Both sides are alike" };
                self.speaks_against.push(says.to_owned());
            }
        }
    }

    fn wear(&mut self, evidence: &Evidence) {
        for sign in &self.cause.worn {
            // What is worn is no evidence of its own: it makes a cause's own signs likelier, or the cause impossible.
            if let Some(holds) = sign.holds(&evidence.worn).filter(|holds| !holds || self.seen_itself) {
                self.add(Kind::Seen, if holds { WORN_HOLDS } else { WORN_FAILS }, sign.says(holds));
            }
        }
    }

    fn measure(&mut self, evidence: &Evidence, style: Style) {
        for sign in &self.cause.figures {
            let Some(off) = evidence.figures.get(&sign.figure) else { continue };
            let name = sign.figure.name();
            let beyond = off.mm.abs() > off.tolerance;
            let stands = match (beyond, off.mm > 0.0) {
                (false, _) => Stands::Fits,
                (true, true) => Stands::More,
                (true, false) => Stands::Less,
            };
            let strong = if off.mm.abs() > STRONG_FROM * off.tolerance { STRONG } else { 1.0 };
            let by = style.with_unit(off.mm.abs());
            let says = match stands {
                Stands::Fits => format!("By her readings the {name} fits"),
                Stands::More => format!("Measured, she has {by} more than the pattern: {name}"),
                Stands::Less => format!("Measured, she has {by} less than the pattern: {name}"),
            };
            let weight = match (sign.stands, stands) {
                (Stands::Fits, Stands::Fits) => FITS_AS_IT_SHOULD,
                (Stands::Fits, _) => SHOULD_FIT,
                (asked, found) if asked == found => FIGURE_HOLDS * strong,
                (_, Stands::Fits) => FIGURE_FITS,
                _ => FIGURE_OPPOSES,
            };
            self.add(Kind::Figure, weight, says);
        }
    }

    fn level(&mut self, evidence: &Evidence, style: Style) {
        for sign in &self.cause.level {
            let meant: Vec<&LevelOff> =
                evidence.level.iter().filter(|level| level.is_meant_by(sign, self.side)).collect();
            let off = |up: bool| {
                let beyond =
                    meant.iter().filter(|level| level.mm.abs() >= TAPE_NOISE && (level.mm > 0.0) == up);
                beyond.max_by(|a, b| a.mm.abs().total_cmp(&b.mm.abs())).copied()
            };
            let Some(any) = meant.first() else { continue };
            let (up, down) = (off(true), off(false));
            let as_it_is = |level: &LevelOff| {
                let mut says = moves(level, style);
                says.replace_range(..1, &says[..1].to_uppercase());
                says
            };
            let (weight, says) = match (sign.hangs, up, down) {
                (Hangs::Up, Some(up), _) => (LEVEL_HOLDS, as_it_is(up)),
                (Hangs::Down, _, Some(down)) => (LEVEL_HOLDS, as_it_is(down)),
                (Hangs::Up, None, Some(other)) | (Hangs::Down, Some(other), None) => {
                    (LEVEL_OPPOSES, as_it_is(other))
                }
                (Hangs::Level, None, None) => (LEVEL_AS_IT_SHOULD, format!("The {} hangs level", any.said())),
                // Of a line nobody named it is not known whether it is the one that should hang level.
                (Hangs::Level, up, down) => match up.or(down) {
                    Some(off) if off.line.is_some() => (LEVEL_SHOULD_FIT, as_it_is(off)),
                    _ => continue,
                },
                (_, None, None) => (LEVEL_FITS, format!("The {} hangs level", any.said())),
            };
            self.add(Kind::Level, weight, says);
        }
    }

    fn remember(&mut self, evidence: &Evidence) {
        for tried in &evidence.tried {
            let Some(other) = super::cause(&tried.cause) else { continue };
            let name = format!("“{}”", other.title.to_lowercase());
            let turned = tried.trend == Some(Trend::Flips);
            let in_vain =
                matches!(tried.became, Mark::Same | Mark::Worse) || tried.trend == Some(Trend::Grows);
            if other.code == self.cause.code {
                let (weight, became) = match (tried.trend, tried.became) {
                    (_, Mark::Worse) => (-4.0, "became worse"),
                    (Some(Trend::Grows), _) => (-4.0, "its amount grew"),
                    (Some(Trend::Flips), _) => (-3.0, "its amount turned over"),
                    (_, Mark::Same) => (-3.0, "became same"),
                    (_, Mark::Moved) => (-1.0, "became moved"),
                    (_, Mark::Better) => (1.0, "became better"),
                    (_, Mark::Gone) => continue,
                };
                self.add(Kind::Round, weight, format!("Taken up before, and it {became}"));
            } else if self.cause.is_opposite_of(other) && self.seen_itself && (turned || !in_vain) {
                self.add(Kind::Round, OPPOSITE_GIVEN, format!("Perhaps too much was given for {name}"));
            } else if in_vain && self.cause.is_neighbour_of(other) {
                let says = format!("It is often mistaken for {name}, which did not help");
                self.add(Kind::Round, MISTAKEN_TRIED, says);
            }
        }
    }

    fn test(&mut self, evidence: &Evidence) {
        for tested in &evidence.tested {
            let Some(other) = super::cause(&tested.cause) else { continue };
            let told = other.test.trim_end_matches('.').to_owned();
            if other.code == self.cause.code {
                let (weight, says) = if tested.holds {
                    (TEST_HOLDS, "Tested, and so it is")
                } else {
                    (TEST_FAILS, "Tested, and it is not so")
                };
                self.add(Kind::Test, weight, format!("{says}: {told}"));
            } else if other.tells_from.contains(&self.cause.code) {
                let weight = if tested.holds { -NEIGHBOUR_TEST } else { NEIGHBOUR_TEST };
                let says = if tested.holds { "The test of" } else { "In vain the test of" };
                self.add(Kind::Test, weight, format!("{says} “{}” was made", other.title.to_lowercase()));
            }
        }
    }

    fn set_aside(self) -> SetAside {
        let why = if self.speaks_against.is_empty() {
            "the causes offered weigh more".to_owned()
        } else {
            self.speaks_against.join("; ")
        };
        SetAside { cause: self.cause.code.clone(), title: self.cause.title.clone(), why }
    }

    fn suggestion(self, sure: HowSure, alongside: bool, evidence: &Evidence, style: Style) -> Suggestion {
        let explains: Vec<usize> = self.offered_for().map(|sign| sign.index).collect();
        let from = ReadFrom { evidence, explains: &explains, side: self.side };
        let answer = match self.cause.remedy(evidence.garment) {
            Some(remedy) => CauseAnswer::Alter(CauseOffer::of(remedy, &from, style)),
            None => CauseAnswer::Leave { reason: self.cause.leave.clone().unwrap_or_default() },
        };
        let beside = self.cause.beside(evidence.garment).filter(|_| evidence.worn.below_waist != Some(false));
        let beside = beside.map(|remedy| CauseOffer::of(remedy, &from, style)).collect();
        Suggestion {
            cause: self.cause.code.clone(),
            title: self.cause.title.clone(),
            says: self.cause.says.clone(),
            test: self.cause.test.clone(),
            weight: self.weight,
            sure,
            alongside,
            side: self.side,
            not_looked_at: not_looked_at(self.cause, evidence),
            explains,
            speaks_for: self.speaks_for,
            speaks_against: self.speaks_against,
            answer,
            beside,
            lasting: self.cause.lasting,
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::fitting::{LevelOff, Tested, Tried, Worn, read_observation};
    use crate::pattern::Garment;

    fn seen(texts: &[&str]) -> Evidence {
        let seen = texts.iter().map(|text| read_observation(text).unwrap()).collect();
        Evidence { seen, ..Evidence::default() }
    }

    fn level(evidence: Evidence, name: &str, mm: f64) -> Evidence {
        let mut evidence = evidence;
        evidence.level.push(LevelOff::read(name, mm).unwrap());
        evidence
    }

    fn of<'a>(weighing: &'a Weighing, cause: &str) -> &'a Suggestion {
        weighing.offered.iter().find(|each| each.cause == cause).unwrap_or_else(|| panic!("no {cause}"))
    }

    #[test]
    fn the_tape_s_noise_is_no_cause() {
        let hike = seen(&["hike up at back waist"]);
        let bare = of(&weigh(&hike, Style::TENTHS), "rounded_back").weight;
        let noise = level(hike.clone(), "waist centre back", 2.9);
        let beyond = level(hike, "waist centre back", 3.0);
        assert!(of(&weigh(&noise, Style::TENTHS), "rounded_back").weight < bare);
        assert!(of(&weigh(&beyond, Style::TENTHS), "rounded_back").weight > bare);
    }

    #[test]
    fn a_level_speaks_of_its_own_line_and_side() {
        let fold = seen(&["fold at underarm towards neck side on the left"]);
        let bare = of(&weigh(&fold, Style::TENTHS), "low_shoulder").weight;
        let own = level(fold.clone(), "bust left", -8.0);
        let other = level(fold.clone(), "bust right", -8.0);
        assert!(of(&weigh(&own, Style::TENTHS), "low_shoulder").weight > bare);
        assert_eq!(
            of(&weigh(&other, Style::TENTHS), "low_shoulder").weight,
            bare,
            "the other side says nothing"
        );
        // The line below the waist is no sign of the back above it.
        let hike = seen(&["hike up at back hem"]);
        let hip = level(hike.clone(), "hip centre back", 12.0);
        let rounded = |evidence: &Evidence| of(&weigh(evidence, Style::TENTHS), "rounded_back").weight;
        assert_eq!(rounded(&hip), rounded(&hike));
    }

    #[test]
    fn the_same_on_the_other_side_counts_against_a_cause_of_one_side() {
        let one = seen(&["fold at underarm towards neck side on the left"]);
        let both = seen(&[
            "fold at underarm towards neck side on the left",
            "fold at underarm towards neck side on the right",
        ]);
        let weighing = weigh(&both, Style::TENTHS);
        let low = of(&weighing, "low_shoulder");
        assert!(low.weight < of(&weigh(&one, Style::TENTHS), "low_shoulder").weight);
        assert!(low.speaks_against.iter().any(|says| says == "The other side shows the same"), "{low:?}");
    }

    #[test]
    fn what_is_seen_further_off_says_nothing_of_the_side() {
        // Two doors from the underarm, on both sides and on the other one: another's signs.
        for other in ["strain at front waist", "strain at back waist on the right", "gape at back neck"] {
            let both = seen(&["fold at underarm towards neck side on the left", other]);
            let weighing = weigh(&both, Style::TENTHS);
            let low = of(&weighing, "low_shoulder");
            assert_eq!(low.side, Some(WornSide::Left), "{other}");
            assert!(low.speaks_against.is_empty(), "{other}: {low:?}");
        }
        let alone = seen(&["gape at front armhole on the left", "strain at hip"]);
        assert_eq!(of(&weigh(&alone, Style::TENTHS), "small_bust_dart").side, Some(WornSide::Left));
    }

    #[test]
    fn what_is_not_worn_is_no_cause_and_what_is_makes_it_likelier() {
        let gape = seen(&["gape at front armhole"]);
        let first = |princess: Option<bool>| {
            let worn = Worn { princess, ..Worn::default() };
            weigh(&Evidence { worn, ..gape.clone() }, Style::TENTHS).offered[0].cause.clone()
        };
        assert_eq!(first(None), "small_bust_dart");
        assert_eq!(first(Some(false)), "small_bust_dart");
        assert_eq!(first(Some(true)), "loose_princess");
        let bare = Worn { sleeve: Some(false), ..Worn::default() };
        let arm = Evidence { worn: bare, ..seen(&["strain at upper arm"]) };
        let weighing = weigh(&arm, Style::TENTHS);
        assert!(weighing.offered.iter().all(|each| each.cause != "tight_sleeve"), "{:?}", weighing.offered);
        let aside = weighing.set_aside.iter().find(|each| each.cause == "tight_sleeve");
        assert!(aside.is_some_and(|aside| aside.why.contains("No sleeve is set in")));
    }

    #[test]
    fn a_test_is_asked_where_two_cannot_be_told_and_its_answer_tells_them() {
        let fold = seen(&["place out at shoulder tip"]);
        let weighing = weigh(&fold, Style::TENTHS);
        assert_ne!(weighing.offered[0].sure, HowSure::Sure);
        let asked = weighing.tell_apart.clone().unwrap();
        let answered = |holds: bool| {
            let tested = vec![Tested { cause: asked.cause.clone(), holds }];
            weigh(&Evidence { tested, ..fold.clone() }, Style::TENTHS)
        };
        assert_eq!(answered(true).offered[0].cause, asked.cause);
        assert_eq!(answered(true).offered[0].sure, HowSure::Sure);
        assert_ne!(answered(false).offered[0].cause, asked.cause);
    }

    #[test]
    fn ties_are_said_to_be_ties() {
        let weighing = weigh(&seen(&["place out at shoulder tip"]), Style::TENTHS);
        let [first, second, ..] = weighing.offered.as_slice() else { panic!("{weighing:?}") };
        assert!((first.weight - second.weight).abs() < 0.5, "{weighing:?}");
        assert_eq!((first.sure, second.sure), (HowSure::CannotTell, HowSure::CannotTell));
        assert!(weighing.tell_apart.is_some());
    }

    #[test]
    fn two_causes_at_once_are_found_as_two() {
        let mut both = seen(&["hike up at back waist", "fold across at sleeve cap, pinched 5"]);
        both = level(both, "waist centre back", 12.0);
        let weighing = weigh(&both, Style::TENTHS);
        let (back, cap) = (of(&weighing, "rounded_back"), of(&weighing, "high_cap"));
        assert!(back.sure != HowSure::CannotTell && cap.alongside, "{weighing:?}");
        assert_eq!((back.explains.as_slice(), cap.explains.as_slice()), (&[0][..], &[1][..]));
    }

    #[test]
    fn an_alteration_that_brought_the_opposite_explains_the_new_sign() {
        let hangs = seen(&["place out at shoulder tip"]);
        let taught = |became, trend| {
            let tried = vec![Tried { cause: "short_shoulder".into(), became, trend }];
            weigh(&Evidence { tried, ..hangs.clone() }, Style::TENTHS)
        };
        let bare = of(&weigh(&hangs, Style::TENTHS), "long_shoulder").weight;
        let gone = taught(Mark::Gone, None);
        let after = of(&gone, "long_shoulder");
        assert!(after.weight > bare);
        assert!(after.speaks_for.iter().any(|says| says.contains("too much was given")), "{after:?}");
        assert!(of(&taught(Mark::Better, Some(Trend::Flips)), "long_shoulder").weight > bare);
        assert_eq!(of(&taught(Mark::Same, None), "long_shoulder").weight, bare);
    }

    #[test]
    fn an_amount_that_grew_moves_its_cause_down_and_its_neighbour_up() {
        let gape = seen(&["gape at front armhole"]);
        let tried =
            Tried { cause: "small_bust_dart".into(), became: Mark::Better, trend: Some(Trend::Grows) };
        let after = Evidence { tried: vec![tried], ..gape.clone() };
        let (before, after) = (weigh(&gape, Style::TENTHS), weigh(&after, Style::TENTHS));
        assert_eq!(before.offered[0].cause, "small_bust_dart");
        assert!(of(&after, "little_bust").weight > of(&before, "little_bust").weight);
        let aside = after.set_aside.iter().find(|each| each.cause == "small_bust_dart");
        assert!(aside.is_some_and(|aside| aside.why.contains("its amount grew")), "{after:?}");
    }

    #[test]
    fn what_is_no_fault_is_left_as_it_is() {
        let fold = seen(&["fold along at back armhole goes when arms forward"]);
        let first = weigh(&fold, Style::TENTHS).offered.swap_remove(0);
        assert_eq!(first.cause, "movement_ease");
        assert!(matches!(first.answer, CauseAnswer::Leave { .. }));
        // The same fold that stays when she reaches is another matter.
        let stays = weigh(&seen(&["fold along at back armhole when arms forward"]), Style::TENTHS);
        assert_eq!(stays.offered[0].cause, "wide_back");
    }

    #[test]
    fn a_garment_gets_its_own_answer_to_one_cause() {
        let hip = seen(&["hike up at side hem on the left", "hike up at hip on the left"]);
        let answer = |garment| {
            let weighing = weigh(&Evidence { garment, ..hip.clone() }, Style::TENTHS);
            of(&weighing, "high_hip").answer.offer().map(|offer| offer.alteration.clone())
        };
        assert_eq!(answer(Garment::Bodice).as_deref(), Some("side_seams"));
        assert_eq!(answer(Garment::Skirt).as_deref(), Some("high_hip"));
    }
}
