//! The profile: what a client measures now, from all that was ever read off a tape.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{Body, Measurement, Spread, Taken, Worth, catalogue, matters, measurement, worth};

/// Which side of her a reading is of.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Side {
    /// Taken once for both.
    #[default]
    Both,
    /// Her left.
    Left,
    /// Her right.
    Right,
}

impl Side {
    /// All of them.
    pub const ALL: [Self; 3] = [Self::Both, Self::Left, Self::Right];

    /// In the trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::Both => "both sides",
            Self::Left => "her left",
            Self::Right => "her right",
        }
    }

    /// What stands behind the name of a reading of that side; nothing where it is of both.
    pub const fn behind_a_name(self) -> &'static str {
        match self {
            Self::Both => "",
            Self::Left => ", left",
            Self::Right => ", right",
        }
    }
}

/// The latest figure of one measurement and side.
#[derive(Clone, Debug, PartialEq)]
pub struct LatestReading {
    /// Code of the measurement.
    pub code: String,
    /// Which side.
    pub side: Side,
    /// The median of its takes, in millimetres, less any ease.
    pub mm: f64,
    /// How it was taken.
    pub taken: Taken,
    /// Whole days ago.
    pub days_ago: i64,
    /// How many takes stand.
    pub takes: usize,
    /// The technical error of who took it, in millimetres, where it is known.
    pub error_mm: Option<f64>,
}

impl LatestReading {
    /// How sure its figure is, with what a conversion is uncertain by besides, in millimetres.
    fn spread(&self, row: &Measurement, give: f64) -> Spread {
        Spread::of_reading(self.error_mm.unwrap_or_else(|| row.spread(self.mm)), self.takes, give)
    }
}

/// One figure of a profile.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ProfileReading {
    /// Code of the measurement.
    pub code: String,
    /// The figure that drafting and comparison use, in millimetres: the mean of her sides where both are known.
    /// `None` where the reading has to be taken again.
    pub mm: Option<f64>,
    /// Her left, in millimetres.
    pub left_mm: Option<f64>,
    /// Her right, in millimetres.
    pub right_mm: Option<f64>,
    /// As it was taken, in millimetres, before any conversion.
    pub as_taken_mm: f64,
    /// What the figure is uncertain by beyond the tape, in millimetres.
    pub give_mm: f64,
    /// How sure the figure is, all in all.
    pub spread: Spread,
    /// It was converted: from which way of taking it.
    pub converted: Option<String>,
    /// It is assumed: which way it was taken.
    pub assumed: Option<String>,
    /// It has to be taken again: why.
    pub asked: Option<String>,
    /// No reading: other readings make it so. For looking only, never to cut.
    pub estimated: bool,
    /// How it was taken, where not the catalogue's way.
    pub method: Vec<String>,
    /// Whole days since it was taken.
    pub days_ago: Option<i64>,
}

impl ProfileReading {
    /// A figure as it was taken today, once, the catalogue's way.
    pub fn plain(code: &str, mm: f64) -> Self {
        let spread = measurement(code).map(|row| Spread::of_reading(row.spread(mm), 1, 0.0));
        Self {
            spread: spread.unwrap_or_default(),
            code: code.to_owned(),
            mm: Some(mm),
            left_mm: None,
            right_mm: None,
            as_taken_mm: mm,
            give_mm: 0.0,
            converted: None,
            assumed: None,
            asked: None,
            estimated: false,
            method: Vec::new(),
            days_ago: Some(0),
        }
    }

    /// The figure of one side, in millimetres.
    pub fn of(&self, side: Side) -> Option<f64> {
        match side {
            Side::Both => self.mm,
            Side::Left => self.left_mm,
            Side::Right => self.right_mm,
        }
    }
}

/// A client's current best figures, in the order of the route.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(transparent)]
pub struct Profile(pub Vec<ProfileReading>);

/// The reading that measures the same from the nape round the neck side.
fn from_the_nape(code: &str) -> Option<&'static str> {
    match code {
        "snp_to_bust_point" => Some("nape_to_bust_point"),
        "snp_to_under_bust" => Some("nape_to_under_bust"),
        "snp_to_waist_front" => Some("nape_to_waist_front"),
        _ => None,
    }
}

/// Whether every reading that hangs on the waist was taken at the navel: the set is then usable as it is, with a waist
/// line of its own.
fn is_taken_at_the_navel_throughout(latest: &[LatestReading]) -> bool {
    let Some(matter) = matters().iter().find(|matter| matter.code == "waist") else { return false };
    let at_the_waist = || latest.iter().filter(|reading| matter.applies.contains(&reading.code));
    let is_navel =
        |reading: &LatestReading| reading.taken.schools.get("waist").is_some_and(|school| school == "navel");
    // One girth alone is no set: there is nothing that hangs on the same line.
    let is_a_set = at_the_waist().any(|reading| reading.code == "waist_girth")
        && at_the_waist().any(|reading| reading.code != "waist_girth");
    is_a_set && at_the_waist().all(is_navel)
}

impl Profile {
    /// Brings the latest readings into the catalogue's convention. `finger` in millimetres.
    pub fn of(latest: &[LatestReading], finger: f64) -> Self {
        let mut by_code: BTreeMap<&str, Vec<&LatestReading>> = BTreeMap::new();
        for reading in latest {
            by_code.entry(&reading.code).or_default().push(reading);
        }
        // Conversions look up figures as they were taken: the neck girth behind a nape start is never converted itself.
        let as_taken: Body = by_code.iter().map(|(code, sides)| (*code, merged(sides).1)).collect();
        let own_waist = is_taken_at_the_navel_throughout(latest);
        let figures = catalogue().iter().filter_map(|row| {
            let from_nape = || Some(by_code.get(from_the_nape(&row.code)?)?.as_slice());
            let (sides, start) = match by_code.get(row.code.as_str()) {
                Some(sides) => (sides.as_slice(), None),
                None => (from_nape()?, Some(("start".to_owned(), "nape".to_owned()))),
            };
            let (newest, mm) = merged(sides);
            let mut taken = newest.taken.clone();
            taken.schools.extend(start);
            let method = taken.says();
            if own_waist {
                // All of it hangs on one line: her own.
                taken.schools.remove("waist");
            }
            let mut figure = ProfileReading {
                left_mm: of_side(sides, Side::Left),
                right_mm: of_side(sides, Side::Right),
                method,
                days_ago: Some(newest.days_ago),
                ..ProfileReading::plain(&row.code, mm)
            };
            match worth(row, mm, &taken, &as_taken, finger) {
                Worth::AsTaken => {}
                Worth::Assumed { says } => figure.assumed = Some(says),
                Worth::Converted { mm: converted, give, says } => {
                    let by = converted - mm;
                    figure.mm = Some(converted);
                    figure.left_mm = figure.left_mm.map(|left| left + by);
                    figure.right_mm = figure.right_mm.map(|right| right + by);
                    (figure.give_mm, figure.converted) = (give, Some(says));
                }
                Worth::Ask { says } => (figure.mm, figure.asked) = (None, Some(says)),
            }
            figure.spread = match both_sides(sides, newest) {
                Some([left, right]) => {
                    Spread::of_sides(left.spread(row, figure.give_mm), right.spread(row, figure.give_mm))
                }
                None => newest.spread(row, figure.give_mm),
            };
            Some(figure)
        });
        Self(figures.collect())
    }

    /// One figure.
    pub fn get(&self, code: &str) -> Option<&ProfileReading> {
        self.0.iter().find(|figure| figure.code == code)
    }

    /// The same where she wishes this of a garment, in millimetres, or does not wish it any more.
    #[must_use]
    pub fn wishing(mut self, code: &str, mm: Option<f64>) -> Self {
        self.0.retain(|figure| figure.code != code);
        self.0.extend(mm.map(|mm| ProfileReading::plain(code, mm)));
        self
    }

    /// The body that drafting and comparison work with: measured figures only, no wishes.
    pub fn body(&self) -> Body {
        let of_body = |figure: &&ProfileReading| {
            !figure.estimated && measurement(&figure.code).is_some_and(|row| !row.wish)
        };
        let known = self.0.iter().filter(of_body).filter_map(|figure| Some((figure, figure.mm?)));
        known.fold(Body::default(), |body, (figure, mm)| {
            body.with(&figure.code, mm).with_spread(&figure.code, figure.spread)
        })
    }

    /// The same with these of her wishes, for a draft that reads them.
    pub fn body_with(&self, wishes: &[&str]) -> Body {
        let wished = |code: &str| self.get(code).filter(|figure| !figure.estimated)?.mm;
        let known = wishes.iter().filter_map(|code| Some((*code, wished(code)?)));
        known.fold(self.body(), |body, (code, mm)| body.with(code, mm))
    }

    /// The same with what the measured figures make of these missing ones, marked as estimated.
    pub fn with_estimates(mut self, wanted: &[String]) -> Self {
        let known = self.body();
        let missing: Vec<_> = wanted.iter().filter(|code| known.get(code).is_none()).collect();
        for row in missing.into_iter().filter_map(|code| measurement(code)) {
            let Some((mm, give_mm)) = row.estimated(&known) else { continue };
            let asked = self.get(&row.code).and_then(|figure| figure.asked.clone());
            self.0.retain(|figure| figure.code != row.code);
            self.0.push(ProfileReading {
                give_mm,
                spread: Spread::of_estimate(row, mm, give_mm),
                asked,
                estimated: true,
                days_ago: None,
                ..ProfileReading::plain(&row.code, mm)
            });
        }
        let place = |figure: &ProfileReading| measurement(&figure.code).map_or(u32::MAX, |row| row.turn);
        self.0.sort_by_key(place);
        self
    }
}

fn of_side(sides: &[&LatestReading], side: Side) -> Option<f64> {
    sides.iter().find(|reading| reading.side == side).map(|reading| reading.mm)
}

/// The newest reading of a measurement, and its figure: the mean of left and right where they are the newer.
fn merged<'a>(sides: &[&'a LatestReading]) -> (&'a LatestReading, f64) {
    let newest = sides.iter().min_by_key(|reading| (reading.days_ago, reading.side)).copied();
    let newest = newest.expect("a measurement is grouped with at least one reading");
    let mm = both_sides(sides, newest).map_or(newest.mm, |[left, right]| left.mm.midpoint(right.mm));
    (newest, mm)
}

/// Her left and right, where they are newer than what was taken of both at once.
fn both_sides<'a>(sides: &[&'a LatestReading], newest: &LatestReading) -> Option<[&'a LatestReading; 2]> {
    let of = |side| sides.iter().copied().find(|reading| reading.side == side);
    if newest.side == Side::Both {
        return None;
    }
    Some([of(Side::Left)?, of(Side::Right)?])
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::body::FINGER;

    fn reading(code: &str, side: Side, mm: f64, days_ago: i64) -> LatestReading {
        let taken = Taken::default();
        LatestReading { code: code.to_owned(), side, mm, taken, days_ago, takes: 1, error_mm: None }
    }

    /// Handbook: `compare.md`, section 5. The catalogue's spread of a length is 7 mm / 2.77.
    #[test]
    fn a_figure_is_as_sure_as_it_was_taken() {
        let spread = |latest: &[LatestReading], code: &str| {
            Profile::of(latest, FINGER).body().spread(code).unwrap().mm
        };
        let tape = 7.0 / (1.96 * 2.0_f64.sqrt());
        let is = |found: f64, wanted: f64| assert!((found - wanted).abs() < 1e-9, "{found} for {wanted}");
        let back = reading("across_back", Side::Both, 344.0, 1);
        is(spread(std::slice::from_ref(&back), "across_back"), tape);
        is(spread(&[LatestReading { takes: 3, ..back.clone() }], "across_back"), 0.7 * tape);
        is(spread(&[LatestReading { error_mm: Some(1.2), ..back }], "across_back"), 1.2);
        let sides = [
            reading("shoulder_length", Side::Left, 124.0, 3),
            reading("shoulder_length", Side::Right, 118.0, 3),
        ];
        is(spread(&sides, "shoulder_length"), tape / 2.0_f64.sqrt());
        // Measured from the nape: converted, give or take 8 (handbook: `measuring.md`, section 3).
        let mut nape = reading("snp_to_bust_point", Side::Both, 350.0, 2);
        nape.taken.schools.insert("start".into(), "nape".into());
        let latest = [nape, reading("neck_base_girth", Side::Both, 370.0, 2)];
        is(spread(&latest, "snp_to_bust_point"), tape.hypot(8.0));
        // An estimate is in the profile with its give, nine in ten, and never in the body.
        let bust = [reading("bust_girth", Side::Both, 900.0, 1)];
        let guessed = Profile::of(&bust, FINGER).with_estimates(&["armhole_depth".to_owned()]);
        let depth = guessed.get("armhole_depth").unwrap_or_else(|| panic!("{guessed:?}"));
        is(depth.spread.mm, depth.give_mm / 1.645);
    }

    #[test]
    fn sides_make_their_mean_and_stay_apart() {
        let latest = [
            reading("shoulder_length", Side::Left, 124.0, 3),
            reading("shoulder_length", Side::Right, 118.0, 3),
            reading("shoulder_length", Side::Both, 150.0, 300),
        ];
        let profile = Profile::of(&latest, FINGER);
        let figure = profile.get("shoulder_length").unwrap();
        assert_eq!((figure.mm, figure.left_mm, figure.right_mm), (Some(121.0), Some(124.0), Some(118.0)));
        assert_eq!(profile.body().get("shoulder_length"), Some(121.0));
    }

    #[test]
    fn a_newer_reading_of_both_counts_before_old_sides() {
        let latest = [
            reading("shoulder_length", Side::Left, 124.0, 300),
            reading("shoulder_length", Side::Right, 118.0, 300),
            reading("shoulder_length", Side::Both, 122.0, 3),
        ];
        assert_eq!(Profile::of(&latest, FINGER).get("shoulder_length").unwrap().mm, Some(122.0));
    }

    #[test]
    fn what_cannot_be_converted_is_asked_for_and_left_out_of_the_body() {
        let mut navel = reading("waist_girth", Side::Both, 820.0, 1);
        navel.taken.schools.insert("waist".into(), "navel".into());
        let profile = Profile::of(&[navel, reading("bust_girth", Side::Both, 900.0, 1)], FINGER);
        assert!(profile.get("waist_girth").unwrap().asked.is_some());
        assert_eq!(profile.body().get("waist_girth"), None);
        let guessed = profile.with_estimates(&["waist_girth".to_owned()]);
        let waist = guessed.get("waist_girth").unwrap();
        assert!(waist.estimated && waist.asked.is_some() && waist.mm == Some(700.0), "{waist:?}");
        assert_eq!(guessed.body().get("waist_girth"), None, "an estimate never reaches a draft");
    }

    #[test]
    fn a_wish_is_in_the_profile_but_not_in_the_body() {
        let profile = Profile::of(&[reading("sleeve_length", Side::Both, 300.0, 1)], FINGER);
        assert!(profile.get("sleeve_length").is_some());
        assert_eq!(profile.body(), Body::default());
    }

    #[test]
    fn a_conversion_moves_both_sides_alike() {
        let from_nape = |side, mm| {
            let mut taken = reading("snp_to_bust_point", side, mm, 2);
            taken.taken.schools.insert("start".into(), "nape".into());
            taken
        };
        let neck = reading("neck_base_girth", Side::Both, 370.0, 2);
        let profile =
            Profile::of(&[from_nape(Side::Left, 350.0), from_nape(Side::Right, 344.0), neck], FINGER);
        let figure = profile.get("snp_to_bust_point").unwrap();
        assert_eq!((figure.left_mm, figure.right_mm, figure.mm), (Some(273.0), Some(267.0), Some(270.0)));
        assert_eq!(figure.give_mm, 8.0);
        assert!(figure.converted.as_deref().unwrap().contains("nape"));
    }
}
