//! The measurement catalogue: data, read once.

use std::collections::BTreeMap;
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use super::{Body, Grade};

/// What is measured.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Group {
    /// All round.
    Girth,
    /// From side to side.
    Width,
    /// Up and down.
    Length,
}

/// The side of the figure a tape is drawn on.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum View {
    /// From the front.
    Front,
    /// From behind.
    Back,
    /// From her left side.
    Side,
}

/// Where the tape goes.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Tape {
    /// Seen from.
    pub view: View,
    /// A ring at the height of this landmark.
    #[serde(default)]
    pub level: Option<String>,
    /// A line through these landmarks.
    #[serde(default)]
    pub through: Vec<String>,
    /// A ring round a limb, between these two landmarks.
    #[serde(default)]
    pub round: Vec<String>,
}

impl Tape {
    /// The landmarks it touches.
    pub fn landmarks(&self) -> impl Iterator<Item = &str> {
        self.level.iter().chain(&self.through).chain(&self.round).map(String::as_str)
    }
}

/// What other readings make of a measurement: to preview a draft, and to tell which of two is the odd one.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Estimate {
    /// Multiples of other readings that are added up.
    pub from: BTreeMap<String, f64>,
    /// Millimetres added.
    pub plus: f64,
    /// Give or take, in millimetres: about nine bodies in ten lie within it.
    pub give: f64,
}

impl Estimate {
    /// The figure it makes of a body, in millimetres. `None` where a reading is missing.
    pub fn of(&self, body: &Body) -> Option<f64> {
        self.from.iter().try_fold(self.plus, |sum, (code, multiple)| Some(sum + multiple * body.get(code)?))
    }
}

/// One row of the catalogue.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Measurement {
    /// Stable code.
    pub code: String,
    /// House name.
    pub name: String,
    /// The standard's term (ISO 8559-1), where its meaning is the same.
    #[serde(default)]
    pub term: Option<String>,
    /// The standard's clause, where its number is known.
    #[serde(default)]
    pub clause: Option<String>,
    /// How house practice differs from the standard.
    #[serde(default)]
    pub differs: Option<String>,
    /// A wish for the garment, not a figure of the body: never compared with one.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub wish: bool,
    /// What is measured.
    pub group: Group,
    /// Place in the route with the fewest turns.
    pub turn: u32,
    /// Least plausible figure of an adult, in millimetres.
    pub low: f64,
    /// Greatest plausible figure of an adult, in millimetres.
    pub high: f64,
    /// Whether left and right may be taken apart.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub sides: bool,
    /// Whether it is read over what she wears under the tape, so that another foundation makes another figure.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub over_foundation: bool,
    /// Whether fingers may be under the tape.
    #[serde(default)]
    pub fingers: bool,
    /// How to hold the tape.
    pub how: String,
    /// The common mistake.
    pub mistake: String,
    /// Where it goes on the figure.
    pub tape: Tape,
    /// What other readings make it, best first.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub estimates: Vec<Estimate>,
}

impl Measurement {
    /// Two takes may differ by this, in millimetres, before a third is asked for.
    pub const fn repeat_tolerance(&self, mm: f64) -> f64 {
        match self.group {
            Group::Girth if mm > 600.0 => 10.0,
            Group::Girth => 5.0,
            Group::Width | Group::Length => 7.0,
        }
    }

    /// A change from session to session above this is worth a word, in millimetres.
    pub const fn usual_change(&self) -> f64 {
        match self.group {
            Group::Girth => 20.0,
            Group::Width | Group::Length => 10.0,
        }
    }

    /// The best figure that other readings make of it, in millimetres, with its give.
    pub fn estimated(&self, body: &Body) -> Option<(f64, f64)> {
        self.estimates.iter().find_map(|estimate| Some((estimate.of(body)?, estimate.give)))
    }
}

/// Measurements that belong together, chosen before the tape comes out.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MeasurementSet {
    /// Stable code.
    pub code: String,
    /// House name.
    pub name: String,
    /// Its measurements in the order of the route.
    pub codes: Vec<String>,
}

/// A relation that plausible readings keep.
#[derive(Clone, Debug, Deserialize)]
pub(super) struct Relation {
    pub(super) terms: BTreeMap<String, f64>,
    pub(super) over: Option<String>,
    pub(super) low: Option<f64>,
    pub(super) high: Option<f64>,
    pub(super) grade: Grade,
    pub(super) says: String,
    pub(super) remedy: String,
}

#[derive(Deserialize)]
struct Data {
    measurement: Vec<Measurement>,
    set: Vec<MeasurementSet>,
    relation: Vec<Relation>,
}

static DATA: LazyLock<Data> = LazyLock::new(|| {
    let mut data: Data = toml::from_str(include_str!("../../data/catalogue.toml"))
        .unwrap_or_else(|error| panic!("data/catalogue.toml cannot be read: {error}"));
    data.measurement.sort_by_key(|row| row.turn);
    let all: Vec<String> = data.measurement.iter().map(|row| row.code.clone()).collect();
    for set in &mut data.set {
        let wanted = std::mem::take(&mut set.codes);
        set.codes = in_route(&all, &wanted);
    }
    data
});

/// The wanted codes in the order of the route; all of them where none is named.
fn in_route(all: &[String], wanted: &[String]) -> Vec<String> {
    all.iter().filter(|code| wanted.is_empty() || wanted.contains(code)).cloned().collect()
}

/// These codes in the order of the route; unknown ones are left out.
pub fn route(wanted: &[String]) -> Vec<String> {
    catalogue().iter().map(|row| &row.code).filter(|code| wanted.contains(code)).cloned().collect()
}

/// Every measurement, in the order of the route.
pub fn catalogue() -> &'static [Measurement] {
    &DATA.measurement
}

/// The measurement of a code.
pub fn measurement(code: &str) -> Option<&'static Measurement> {
    DATA.measurement.iter().find(|row| row.code == code)
}

/// The named sets.
pub fn sets() -> &'static [MeasurementSet] {
    &DATA.set
}

/// The set of a code.
pub fn measurement_set(code: &str) -> Option<&'static MeasurementSet> {
    DATA.set.iter().find(|set| set.code == code)
}

pub(super) fn relations() -> &'static [Relation] {
    &DATA.relation
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_relation_speaks_of_measurements_that_exist() {
        for relation in relations() {
            for code in relation.terms.keys().chain(relation.over.iter()) {
                assert!(measurement(code).is_some(), "{code} in {:?}", relation.says);
            }
            assert!(relation.low.is_some() || relation.high.is_some(), "{:?} can never fail", relation.says);
        }
    }

    /// The handbook's list: 18 girths, 5 widths and 21 lengths, across back a second time with arms forward, four of its "more rows" that trousers want, the front length to the hip, and the way over an arm; 9 wishes, the one that a sleeve in one wants (`wishes.md`, section 6) and the two of trousers.
    #[test]
    fn the_catalogue_is_whole_and_every_code_and_turn_is_its_own() {
        let body: Vec<_> = catalogue().iter().filter(|row| !row.wish).collect();
        assert_eq!(body.len(), 52, "{:?}", body.iter().map(|row| &row.code).collect::<Vec<_>>());
        assert_eq!(catalogue().len() - body.len(), 16);
        for pair in catalogue().windows(2) {
            assert!(pair[0].turn < pair[1].turn, "{} and {}", pair[0].code, pair[1].code);
            assert!(catalogue().iter().filter(|row| row.code == pair[0].code).count() == 1);
        }
    }

    #[test]
    fn every_estimate_speaks_of_other_measurements_and_lies_in_the_range() {
        let middle = crate::body::Body::middle();
        for row in catalogue() {
            for estimate in &row.estimates {
                assert!(estimate.give > 0.0 && !estimate.from.contains_key(&row.code), "{}", row.code);
                assert!(
                    estimate.from.keys().all(|code| measurement(code).is_some_and(|r| !r.wish)),
                    "{}",
                    row.code
                );
                let figure = estimate.of(&middle).unwrap_or_else(|| panic!("{} needs more", row.code));
                assert!((row.low..=row.high).contains(&figure), "{} is estimated at {figure}", row.code);
            }
        }
    }

    #[test]
    fn every_set_names_rows_of_the_catalogue() {
        let data: toml::Table = toml::from_str(include_str!("../../data/catalogue.toml")).unwrap();
        for set in data["set"].as_array().unwrap() {
            for code in set["codes"].as_array().unwrap() {
                assert!(measurement(code.as_str().unwrap()).is_some(), "{code:?} in {:?}", set["name"]);
            }
        }
    }

    #[test]
    fn ranges_are_ranges() {
        for row in catalogue() {
            assert!(row.low < row.high, "{}", row.code);
        }
    }
}
