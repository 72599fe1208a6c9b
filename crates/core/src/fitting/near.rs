//! What lies next door and what is taken for each other: data, readable by a dressmaker.

use std::collections::{BTreeMap, HashMap};
use std::sync::LazyLock;

use serde::Deserialize;

use super::{ObservationKind, places};

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Data {
    next_door: f64,
    two_doors: f64,
    other_kind: f64,
    places: BTreeMap<String, Vec<String>>,
    kinds: HashMap<ObservationKind, HashMap<ObservationKind, f64>>,
}

static NEAR: LazyLock<Data> = LazyLock::new(|| {
    toml::from_str(include_str!("../../data/near.toml"))
        .unwrap_or_else(|error| panic!("data/near.toml cannot be read: {error}"))
});

/// How much each place counts for each other one.
static PLACES: LazyLock<HashMap<(&'static str, &'static str), f64>> = LazyLock::new(|| {
    let count = |one: &str, other: &str| {
        if one == other {
            1.0
        } else if is_next_to(one, other) {
            NEAR.next_door
        } else if places().any(|between| is_next_to(one, between) && is_next_to(between, other)) {
            NEAR.two_doors
        } else {
            0.0
        }
    };
    places().flat_map(|one| places().map(move |other| ((one, other), count(one, other)))).collect()
});

/// How much a place counts for another: 1 for itself, a part for its neighbour, nothing for what lies further off.
pub(super) fn places_count(one: &str, other: &str) -> f64 {
    PLACES.get(&(one, other)).copied().unwrap_or(0.0)
}

fn is_next_to(one: &str, other: &str) -> bool {
    let lists = |from: &str, to: &str| NEAR.places.get(from).is_some_and(|near| near.iter().any(|n| n == to));
    lists(one, other) || lists(other, one)
}

/// The same for kinds.
pub(super) fn kinds_count(one: ObservationKind, other: ObservationKind) -> f64 {
    let part = |from, to| NEAR.kinds.get(&from).and_then(|near| near.get(&to)).copied();
    if one == other { 1.0 } else { part(one, other).or(part(other, one)).unwrap_or(NEAR.other_kind) }
}

/// The places next to one.
pub fn next_door(place: &str) -> Vec<&'static str> {
    places().filter(|other| is_next_to(place, other)).collect()
}

/// The kinds a kind is taken for.
pub fn taken_for(kind: ObservationKind) -> Vec<ObservationKind> {
    let others = ObservationKind::ALL.into_iter().filter(|other| *other != kind);
    others.filter(|other| kinds_count(kind, *other) > NEAR.other_kind).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_place_has_a_neighbour_and_every_neighbour_is_a_place() {
        for place in places() {
            assert!(!next_door(place).is_empty(), "nothing lies next to {place}");
        }
        for (place, near) in &NEAR.places {
            for name in near.iter().chain([place]) {
                assert!(places().any(|known| known == name), "{name} is no place");
            }
        }
    }

    #[test]
    fn a_pair_stands_once_and_counts_the_same_from_either_end() {
        for (place, near) in &NEAR.places {
            for other in near {
                let back = NEAR.places.get(other).is_some_and(|list| list.contains(place));
                assert!(!back && place != other, "{place} and {other} stand twice");
                assert_eq!(places_count(place, other), places_count(other, place));
            }
        }
        for one in ObservationKind::ALL {
            for other in ObservationKind::ALL {
                assert_eq!(kinds_count(one, other), kinds_count(other, one));
                assert!((0.0..=1.0).contains(&kinds_count(one, other)));
            }
        }
    }
}
