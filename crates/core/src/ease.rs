//! Ease sets: wearing and design ease by name. The built-in ones are data; a house adds its own.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::body::Body;
use crate::{INCH, Unit};

/// Ease added for the look, over what moving wants: total, on the body, in millimetres.
#[derive(Clone, Copy, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct DesignEase {
    /// At the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip.
    pub hip: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
    /// At the upper arm.
    pub upper_arm: f64,
    /// At the elbow; as at the upper arm where nothing is said.
    pub elbow: Option<f64>,
    /// At the wrist; as at the upper arm where nothing is said.
    pub wrist: Option<f64>,
}

/// Ease by dimension: total, on the body, in millimetres.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct EaseSet {
    /// Stable code.
    pub code: String,
    /// House name.
    pub name: String,
    /// What it is for.
    pub note: String,
    /// Wearing ease at the bust.
    pub bust: f64,
    /// At the waist.
    pub waist: f64,
    /// At the hip.
    pub hip: f64,
    /// Across the back; the front takes half of it.
    pub across_back: f64,
    /// At the upper arm.
    pub upper_arm: f64,
    /// At the elbow; as at the upper arm where nothing is said.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub elbow: Option<f64>,
    /// At the wrist; as at the upper arm where nothing is said.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub wrist: Option<f64>,
    /// What the cloth gives, as a share of bust, waist and hip: −0.05 cuts it a twentieth smaller.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub stretch: f64,
    /// Across the back takes the arms-forward reading where there is one: for players and drivers.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub reach: bool,
    /// The waist takes the drawn-in reading, without wearing ease, where there is one beside the natural waist: for corsets.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub drawn_in: bool,
    /// Design ease over all that.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub design: DesignEase,
}

/// The reading a dimension of a garment is held against, and the ease on it.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct Eased {
    /// Code of the reading.
    pub(crate) reading: &'static str,
    /// In millimetres, where it is known.
    pub(crate) mm: Option<f64>,
    /// In millimetres on the body.
    pub(crate) ease: f64,
    /// What body and ease together grow by with a millimetre of the reading: ease in hundredths grows with it.
    pub(crate) per_mm: f64,
}

/// How much wider than her arm a sleeve is, along it, in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(crate) struct ArmEase {
    pub(crate) upper_arm: f64,
    pub(crate) elbow: f64,
    pub(crate) wrist: f64,
}

impl EaseSet {
    /// What a sleeve is wider than her arm, wearing and design ease together.
    pub(crate) fn along_the_arm(&self) -> ArmEase {
        let (wearing, design) = (self.upper_arm, self.design.upper_arm);
        ArmEase {
            upper_arm: wearing + design,
            elbow: self.elbow.unwrap_or(wearing) + self.design.elbow.unwrap_or(design),
            wrist: self.wrist.unwrap_or(wearing) + self.design.wrist.unwrap_or(design),
        }
    }

    /// The waist of a garment on this body: her natural one, or drawn in (handbook: `wishes.md`, section 2).
    pub(crate) fn waist(&self, body: &Body) -> Eased {
        let natural = body.get("waist_girth");
        let drawn_in = body.get("waist_girth_drawn_in").filter(|_| self.drawn_in && natural.is_some());
        match drawn_in {
            Some(mm) => {
                Eased { reading: "waist_girth_drawn_in", mm: Some(mm), ease: self.design.waist, per_mm: 1.0 }
            }
            None => {
                let stretched = natural.unwrap_or_default() * self.stretch;
                Eased {
                    reading: "waist_girth",
                    mm: natural,
                    ease: stretched + self.waist + self.design.waist,
                    per_mm: 1.0 + self.stretch,
                }
            }
        }
    }

    /// What a garment's waist is more than her natural one, in millimetres.
    pub(crate) fn over_natural_waist(&self, body: &Body) -> f64 {
        let Eased { mm, ease, .. } = self.waist(body);
        ease + mm.zip(body.get("waist_girth")).map_or(0.0, |(is, natural)| is - natural)
    }
}

/// A built-in set: in centimetres' figures, and what houses of inches have instead.
#[derive(Deserialize)]
struct Row {
    #[serde(flatten)]
    set: EaseSet,
    inches: Inches,
}

#[derive(Deserialize)]
struct Inches {
    bust: f64,
    waist: f64,
    hip: f64,
    across_back: f64,
    upper_arm: f64,
}

impl Row {
    fn in_inches(&self) -> EaseSet {
        EaseSet {
            bust: self.inches.bust * INCH,
            waist: self.inches.waist * INCH,
            hip: self.inches.hip * INCH,
            across_back: self.inches.across_back * INCH,
            upper_arm: self.inches.upper_arm * INCH,
            ..self.set.clone()
        }
    }
}

#[derive(Deserialize)]
struct Data {
    ease: Vec<Row>,
}

struct Sets {
    inches: Vec<EaseSet>,
    centimetres: Vec<EaseSet>,
}

static DATA: LazyLock<Sets> = LazyLock::new(|| {
    let data: Data = toml::from_str(include_str!("../data/ease.toml"))
        .unwrap_or_else(|error| panic!("data/ease.toml cannot be read: {error}"));
    Sets {
        inches: data.ease.iter().map(Row::in_inches).collect(),
        centimetres: data.ease.into_iter().map(|row| row.set).collect(),
    }
});

/// The built-in sets, in the natural figures of houses with this unit.
pub fn ease_sets(unit: Unit) -> &'static [EaseSet] {
    match unit {
        Unit::Inch => &DATA.inches,
        Unit::Cm | Unit::Mm => &DATA.centimetres,
    }
}

/// The built-in set of a code, in the natural figures of houses with this unit.
pub fn ease_set(code: &str, unit: Unit) -> Option<&'static EaseSet> {
    ease_sets(unit).iter().find(|set| set.code == code)
}
