//! The schools of measuring: how a reading was taken, and what that makes it worth beside another.

use std::collections::BTreeMap;
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use super::{Body, Measurement};
use crate::Natural;

/// One finger under the tape (common practice, no source; a house constant).
pub const USUAL_FINGER: Natural = Natural::new(0.5, FINGER);
/// The same in millimetres, where no house is asked.
pub const FINGER: f64 = 12.5;

/// Something that measurers do differently.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Matter {
    /// Stable code.
    pub code: String,
    /// The beginning of a sentence that a school ends.
    pub name: String,
    /// Measurements it matters to.
    pub applies: Vec<String>,
    /// The ways of taking it; the first is the one comparison and drafting want.
    #[serde(rename = "school")]
    pub schools: Vec<School>,
}

/// One way of taking it.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = MeasuringSchool))]
pub struct School {
    /// Stable code.
    pub code: String,
    /// The end of the matter's sentence.
    pub name: String,
    /// Multiples of other readings, added to convert.
    #[serde(default)]
    from: BTreeMap<String, f64>,
    /// Millimetres, added to convert.
    #[serde(default)]
    plus: f64,
    /// Fingers, taken off to convert.
    #[serde(default)]
    fingers: f64,
    /// What the conversion is uncertain by, in millimetres.
    #[serde(default)]
    give: f64,
    /// Why there is no honest conversion.
    #[serde(default)]
    ask: Option<String>,
    /// The figure counts, but is marked and asked for again.
    #[serde(default)]
    assumed: bool,
}

#[derive(Deserialize)]
struct Data {
    matter: Vec<Matter>,
}

static DATA: LazyLock<Data> = LazyLock::new(|| {
    toml::from_str(include_str!("../../data/schools.toml"))
        .unwrap_or_else(|error| panic!("data/schools.toml cannot be read: {error}"))
});

/// Every matter in which schools differ.
pub fn matters() -> &'static [Matter] {
    &DATA.matter
}

/// The matters that concern a measurement.
pub fn matters_of(code: &str) -> impl Iterator<Item = &'static Matter> {
    matters().iter().filter(move |matter| matter.applies.iter().any(|applies| applies == code))
}

/// How a reading was taken: of each matter that concerns it, the school; and the ease that was inside.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Taken {
    /// Matter to school. A matter that is left out was taken the catalogue's way.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub schools: BTreeMap<String, String>,
    /// Ease that rode on the tape and was taken off, in millimetres.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub ease_mm: f64,
}

impl Taken {
    /// How this house takes a measurement: its own choices in the matters that concern it.
    pub fn by_house(code: &str, house: &BTreeMap<String, String>) -> Self {
        let schools = matters_of(code)
            .filter_map(|matter| {
                let chosen = house.get(&matter.code)?;
                matter.school(chosen).map(|school| (matter.code.clone(), school.code.clone()))
            })
            .collect();
        Self { schools, ease_mm: 0.0 }
    }

    /// A choice that does not exist, as a sentence.
    pub fn unknown(&self) -> Option<String> {
        self.schools.iter().find_map(|(matter, school)| match find(matter) {
            None => Some(format!("no matter of measuring is called \u{201c}{matter}\u{201d}")),
            Some(found) if found.school(school).is_none() => {
                Some(format!("\u{201c}{school}\u{201d} is no school of \u{201c}{}\u{201d}", found.name))
            }
            Some(_) => None,
        })
    }

    /// The schools that are not the catalogue's, in words; lengths in them are millimetres ([`crate::Style::say`]).
    pub fn says(&self) -> Vec<String> {
        let departed = self.departed().map(|(matter, school)| format!("{} {}", matter.name, school.name));
        departed.collect()
    }

    /// Whether two readings were taken the same way, as far as a measurement goes.
    pub fn agrees(&self, other: &Self, code: &str) -> bool {
        let way = |taken: &Self, matter: &Matter| taken.schools.get(&matter.code).cloned();
        let same = |matter: &Matter| {
            let usual = matter.schools.first().map(|school| school.code.clone());
            way(self, matter).or_else(|| usual.clone()) == way(other, matter).or(usual)
        };
        matters_of(code).all(same)
    }

    fn departed(&self) -> impl Iterator<Item = (&'static Matter, &'static School)> {
        self.schools.iter().filter_map(|(matter, school)| {
            let matter = find(matter)?;
            let place = matter.schools.iter().position(|each| each.code == *school)?;
            (place > 0).then(|| (matter, &matter.schools[place]))
        })
    }
}

impl Matter {
    fn school(&self, code: &str) -> Option<&School> {
        self.schools.iter().find(|school| school.code == code)
    }
}

fn find(code: &str) -> Option<&'static Matter> {
    matters().iter().find(|matter| matter.code == code)
}

/// What a reading is worth in the catalogue's convention.
#[derive(Clone, Debug, PartialEq)]
pub enum Worth {
    /// It was taken that way.
    AsTaken,
    /// It is marked and asked for again, but counts.
    Assumed {
        /// Which way it was taken.
        says: String,
    },
    /// It was converted.
    Converted {
        /// The figure in the catalogue's convention, in millimetres.
        mm: f64,
        /// What that is uncertain by, in millimetres.
        give: f64,
        /// Which way it was taken.
        says: String,
    },
    /// No honest conversion exists: take it again.
    Ask {
        /// Why.
        says: String,
    },
}

/// Brings a reading into the catalogue's convention; `finger` is one finger under the tape, in millimetres.
///
/// ```
/// use yardwand_core::body::{Body, FINGER, Taken, Worth, measurement, worth};
///
/// let mut taken = Taken::default();
/// taken.schools.insert("start".into(), "nape".into());
/// let row = measurement("snp_to_bust_point").unwrap();
/// let neck = Body::default().with("neck_base_girth", 370.0);
/// let Worth::Converted { mm, give, .. } = worth(row, 347.0, &taken, &neck, FINGER) else { panic!() };
/// assert!((mm - (347.0 - 0.2 * 370.0 - 3.0)).abs() < 1e-9 && give == 8.0);
/// ```
pub fn worth(row: &Measurement, mm: f64, taken: &Taken, body: &Body, finger: f64) -> Worth {
    let mut converted = mm;
    let (mut give, mut assumed, mut said) = (0.0_f64, false, Vec::new());
    for (matter, school) in taken.departed() {
        if !matter.applies.contains(&row.code) {
            continue;
        }
        if let Some(why) = &school.ask {
            return Worth::Ask { says: format!("{} {}: {why}", matter.name, school.name) };
        }
        for (code, multiple) in &school.from {
            let Some(other) = body.get(code) else {
                let wanted = super::measurement(code).map_or(code.as_str(), |other| &other.name);
                return Worth::Ask {
                    says: format!("{} {}: to convert it, measure {wanted}", matter.name, school.name),
                };
            };
            converted += multiple * other;
        }
        converted += school.plus - school.fingers * finger;
        give += school.give;
        assumed |= school.assumed;
        said.push(format!("{} {}", matter.name, school.name));
    }
    let says = said.join("; ");
    if converted != mm || give > 0.0 {
        Worth::Converted { mm: converted, give, says }
    } else if assumed {
        Worth::Assumed { says }
    } else {
        Worth::AsTaken
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::body::measurement;

    fn taken(matter: &str, school: &str) -> Taken {
        Taken { schools: [(matter.to_owned(), school.to_owned())].into(), ease_mm: 0.0 }
    }

    fn worth_of(code: &str, mm: f64, how: &Taken) -> Worth {
        let body = Body::default().with("neck_base_girth", 370.0);
        worth(measurement(code).unwrap(), mm, how, &body, FINGER)
    }

    #[test]
    fn every_matter_concerns_measurements_that_exist_and_has_a_choice() {
        for matter in matters() {
            assert!(matter.schools.len() > 1, "{}", matter.code);
            assert!(matter.applies.iter().all(|code| measurement(code).is_some()), "{}", matter.code);
            let first = &matter.schools[0];
            assert!(first.ask.is_none() && first.give == 0.0 && !first.assumed, "{}", matter.code);
        }
    }

    /// Handbook, measuring section 3: nape figure = SNP figure + neck × 0.2 + 3, give or take 8.
    #[test]
    fn a_front_length_from_the_nape_loses_the_back_neck_arc() {
        let Worth::Converted { mm, give, .. } =
            worth_of("snp_to_waist_front", 507.0, &taken("start", "nape"))
        else {
            panic!()
        };
        assert!((mm - 430.0).abs() < 1e-9);
        assert_eq!(give, 8.0);
    }

    #[test]
    fn two_fingers_under_the_tape_are_an_inch_less() {
        let Worth::Converted { mm, .. } = worth_of("armhole_girth", 425.0, &taken("fingers", "two")) else {
            panic!()
        };
        assert_eq!(mm, 400.0);
    }

    /// Firmness is kept and not converted: what was taken firm is compared with what was taken firm.
    #[test]
    fn fingers_come_off_any_girth_and_firmness_stays_with_the_reading() {
        let Worth::Converted { mm, give, .. } = worth_of("hip_girth", 1000.0, &taken("girth_fingers", "one"))
        else {
            panic!()
        };
        assert_eq!((mm, give), (987.5, 4.0));
        let (firm, snug) = (taken("firmness", "firm"), Taken::default());
        assert_eq!(worth_of("waist_girth", 700.0, &firm), Worth::AsTaken);
        assert!(!firm.agrees(&snug, "waist_girth") && firm.agrees(&snug, "arm_length"));
        // A house that measures the armhole over fingers does not measure a bust so.
        let house = [("fingers".to_owned(), "two".to_owned())].into();
        assert!(Taken::by_house("bust_girth", &house).schools.is_empty());
    }

    #[test]
    fn where_no_honest_conversion_exists_the_reading_is_asked_for() {
        for (code, matter, school) in [
            ("waist_girth", "waist", "navel"),
            ("snp_to_bust_point", "start", "middle_of_shoulder"),
            ("wrist_girth", "wrist", "closed_hand"),
            ("thigh_girth", "thigh", "slanted"),
        ] {
            let worth = worth_of(code, 300.0, &taken(matter, school));
            assert!(matches!(worth, Worth::Ask { .. }), "{code}: {worth:?}");
        }
    }

    #[test]
    fn a_placed_hip_is_assumed_and_a_dropping_upper_bust_keeps_its_figure() {
        assert!(matches!(
            worth_of("waist_to_hip", 215.0, &taken("hip_level", "placed")),
            Worth::Assumed { .. }
        ));
        let dropping = worth_of("upper_bust_girth", 880.0, &taken("upper_bust", "dropping"));
        assert!(matches!(dropping, Worth::Converted { mm, give, .. } if mm == 880.0 && give == 10.0));
    }

    #[test]
    fn a_school_of_another_measurement_changes_nothing() {
        assert_eq!(worth_of("bust_girth", 900.0, &taken("waist", "navel")), Worth::AsTaken);
    }

    #[test]
    fn a_house_default_is_written_down_with_the_reading() {
        let house =
            [("start".to_owned(), "nape".to_owned()), ("waist".to_owned(), "nowhere".to_owned())].into();
        let taken = Taken::by_house("snp_to_waist_front", &house);
        assert_eq!(taken.schools.get("start").map(String::as_str), Some("nape"));
        assert_eq!(taken.schools.len(), 1, "a school that does not exist is not written down");
        assert!(!taken.agrees(&Taken::default(), "snp_to_waist_front"));
        assert!(taken.agrees(&Taken::default(), "bust_girth"));
        assert!(Taken { schools: house, ease_mm: 0.0 }.unknown().unwrap().contains("nowhere"));
    }
}
