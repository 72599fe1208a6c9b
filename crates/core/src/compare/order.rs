//! The order of a plan: the trade's own, what the dressmaker made of it, and what must come before what.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

/// What the dressmaker changed in a plan: by the key of a line.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default, deny_unknown_fields)]
pub struct PlanChanges {
    /// Lines that are left out.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub off: Vec<String>,
    /// Amounts that were set by hand, in millimetres on the pattern.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub amounts: BTreeMap<String, f64>,
    /// Keys in the wanted order; lines that are not named keep their place in the trade's order.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub order: Vec<String>,
}

impl PlanChanges {
    /// Whether changes from outside can be planned with: every amount a number within a metre.
    ///
    /// # Errors
    ///
    /// A sentence that names the line.
    pub fn validate(&self) -> Result<(), String> {
        match self.amounts.iter().find(|(_, mm)| !(-1000.0..=1000.0).contains(*mm)) {
            Some((key, _)) => Err(format!("the amount of \u{201c}{key}\u{201d} must be at most 1000 mm")),
            None => Ok(()),
        }
    }
}

/// An order that cannot be worked in.
#[derive(Clone, Debug, PartialEq, Eq, thiserror::Error)]
#[error("{after} cannot come before {before}: {reason}")]
pub struct OrderError {
    /// What must come first.
    pub before: &'static str,
    /// What was put before it.
    pub after: &'static str,
    /// Why.
    pub reason: &'static str,
}

/// Every kind of line: key and name, in the one order of plan, cutting table and fitting ([`crate::alter::registry`]).
pub(super) const KEYS: [(&str, &str); 28] = [
    ("length_above", "Bodice length above the bust"),
    ("length", "Bodice length"),
    ("front_balance", "Front balance"),
    ("rounded_back", "Rounded back"),
    ("crotch_depth", "Crotch depth"),
    ("crotch_length", "Crotch seam"),
    ("inside_leg", "Inside leg"),
    ("bust", "Bust"),
    ("shoulder_length", "Shoulder length"),
    ("narrow_shoulder", "Narrow shoulder"),
    ("shoulder_slope", "Shoulder slope"),
    ("back_width", "Back width"),
    ("front_width", "Front width"),
    ("neck", "Neckline"),
    ("bust_side", "Side seams at the bust"),
    ("waist", "Waist"),
    ("hip", "Hip"),
    ("thigh_slanted", "Leg at the crotch line"),
    ("thigh", "Leg at the fullest thigh"),
    ("knee", "Leg at the knee"),
    ("calf", "Leg at the calf"),
    ("trouser_hem", "Trouser hem"),
    ("underarm", "Underarm"),
    ("armhole", "Armhole"),
    ("sleeve_width", "Sleeve width"),
    ("bust_point", "Bust point level"),
    ("bust_span", "Bust points apart"),
    ("sleeve_length", "Sleeve length"),
];

const ARMHOLE: &str = "the sleeve is drawn from the finished armhole";
const LEVELS: &str = "a bust alteration carries the bust point";
const DARTS: &str = "a bust alteration changes the waist dart";

/// What must come before what, and why.
const DEPENDS: [(&str, &str, &str); 22] = [
    ("bust", "sleeve_width", ARMHOLE),
    ("bust_side", "sleeve_width", ARMHOLE),
    ("shoulder_length", "sleeve_width", ARMHOLE),
    ("narrow_shoulder", "sleeve_width", ARMHOLE),
    ("shoulder_slope", "sleeve_width", ARMHOLE),
    ("rounded_back", "sleeve_width", ARMHOLE),
    ("back_width", "sleeve_width", ARMHOLE),
    ("front_width", "sleeve_width", ARMHOLE),
    ("underarm", "sleeve_width", ARMHOLE),
    ("armhole", "sleeve_width", ARMHOLE),
    ("shoulder_length", "sleeve_length", ARMHOLE),
    ("narrow_shoulder", "sleeve_length", ARMHOLE),
    ("shoulder_slope", "sleeve_length", ARMHOLE),
    ("underarm", "sleeve_length", ARMHOLE),
    ("armhole", "sleeve_length", ARMHOLE),
    ("sleeve_width", "sleeve_length", "a wider sleeve changes the cap's height"),
    ("bust", "bust_point", LEVELS),
    ("bust", "bust_span", LEVELS),
    ("bust", "waist", DARTS),
    ("shoulder_length", "narrow_shoulder", "what the length leaves is what the pivot takes"),
    ("crotch_depth", "crotch_length", "a deeper crotch lengthens its seam before and behind"),
    ("waist", "hip", "the side seam is drawn from the waist down"),
];

pub(super) fn name_of(key: &str) -> Option<&'static str> {
    KEYS.iter().find(|(known, _)| *known == key).map(|(_, name)| *name)
}

fn rank(key: &str) -> usize {
    KEYS.iter().position(|(known, _)| *known == key).unwrap_or(KEYS.len())
}

/// Brings keys into the wanted order: the named ones as they are named, in the places the trade gives them.
///
/// # Errors
///
/// [`OrderError`] with the reason where something would come before what it rests on.
pub(super) fn ordered(mut keys: Vec<String>, wanted: &[String]) -> Result<Vec<String>, OrderError> {
    keys.sort_by_key(|key| rank(key));
    let named: Vec<usize> = (0..keys.len()).filter(|&i| wanted.contains(&keys[i])).collect();
    let mut in_order: Vec<String> = named.iter().map(|&i| keys[i].clone()).collect();
    in_order.sort_by_key(|key| wanted.iter().position(|each| each == key));
    for (place, key) in named.into_iter().zip(in_order) {
        keys[place] = key;
    }
    let at = |key: &str| keys.iter().position(|each| each == key);
    for (before, after, reason) in DEPENDS {
        if let (Some(first), Some(then)) = (at(before), at(after))
            && first > then
        {
            let word = |key| name_of(key).unwrap_or(key);
            return Err(OrderError { before: word(before), after: word(after), reason });
        }
    }
    Ok(keys)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn keys(of: &[&str]) -> Vec<String> {
        of.iter().map(|key| (*key).to_owned()).collect()
    }

    #[test]
    fn without_a_wish_the_trades_order_stands() {
        let sorted = ordered(keys(&["waist", "bust", "length"]), &[]).unwrap();
        assert_eq!(sorted, ["length", "bust", "waist"]);
    }

    #[test]
    fn what_is_named_changes_places_and_the_rest_stays() {
        let all = keys(&["length", "bust", "shoulder_length", "waist"]);
        let sorted = ordered(all, &keys(&["shoulder_length", "bust"])).unwrap();
        assert_eq!(sorted, ["length", "shoulder_length", "bust", "waist"]);
    }

    #[test]
    fn a_sleeve_before_its_armhole_is_refused_with_the_reason() {
        let all = keys(&["underarm", "sleeve_width"]);
        let error = ordered(all, &keys(&["sleeve_width", "underarm"])).unwrap_err();
        assert_eq!(
            error.to_string(),
            "Sleeve width cannot come before Underarm: the sleeve is drawn from the finished armhole"
        );
    }

    #[test]
    fn the_trades_own_order_breaks_no_dependency() {
        let all: Vec<String> = KEYS.iter().map(|(key, _)| (*key).to_owned()).collect();
        assert_eq!(ordered(all.clone(), &[]).unwrap(), all);
    }
}
