//! From rows of readings to figures: what a client measures now, and what stands beside a reading that is doubted.

use std::collections::BTreeMap;

use chrono::{DateTime, Utc};
use yardwand_core::Entered;
use yardwand_core::Style;
use yardwand_core::body::{
    Beside, Body, Earlier, Finding, LatestReading, Measurement, Precision, Profile, Side, Taken,
    check_reading, measurement, measurement_set, median, precision,
};
use yardwand_store::{House, ReadingRow, SessionRow, Store};

use crate::error::ApiError;

/// Takes of one measurement and side, oldest first.
pub(crate) type Takes<'a> = BTreeMap<(&'a str, Side), Vec<&'a ReadingRow>>;

/// Standing takes by measurement and side.
pub(crate) fn grouped(rows: &[ReadingRow]) -> Takes<'_> {
    let mut takes = Takes::new();
    for row in rows.iter().filter(|row| !row.replaced) {
        takes.entry((row.code.as_str(), row.side)).or_default().push(row);
    }
    takes
}

/// The figure that takes make together, in millimetres.
pub(crate) fn figure_of(takes: &[&ReadingRow]) -> f64 {
    median(&takes.iter().map(|take| take.entered.length.mm()).collect::<Vec<_>>()).unwrap_or_default()
}

/// How well each measurer repeats each measurement, from bodies that were measured more than once, as the store has them: those
/// of one measurer and measurement beside each other.
pub(crate) fn precisions(
    bodies: &[(String, String, Vec<f64>)],
) -> impl Iterator<Item = (&str, &str, Precision)> {
    bodies.chunk_by(|a, b| a.0 == b.0 && a.1 == b.1).filter_map(|same| {
        let takes: Vec<_> = same.iter().map(|(_, _, takes)| takes.clone()).collect();
        Some((same[0].0.as_str(), same[0].1.as_str(), precision(&takes)?))
    })
}

/// The technical error of who measures what, in millimetres, where it is known: by measurer and measurement.
#[derive(Default)]
struct TechnicalErrors(BTreeMap<(String, String), f64>);

impl TechnicalErrors {
    fn of(bodies: &[(String, String, Vec<f64>)]) -> Self {
        let known = precisions(bodies).filter_map(|(measurer, code, precision)| {
            Some(((measurer.to_owned(), code.to_owned()), precision.spread()?))
        });
        Self(known.collect())
    }

    fn get(&self, take: &ReadingRow) -> Option<f64> {
        self.0.get(&(take.taken_by.clone(), take.code.clone())).copied()
    }
}

fn latest_of(takes: &Takes<'_>, errors: &TechnicalErrors, now: DateTime<Utc>) -> Vec<LatestReading> {
    let of = |((code, side), takes): (&(&str, Side), &Vec<&ReadingRow>)| {
        let newest = takes.last()?;
        Some(LatestReading {
            code: (*code).to_owned(),
            side: *side,
            mm: figure_of(takes),
            taken: newest.taken.clone(),
            days_ago: (now - newest.taken_at).num_days(),
            takes: takes.len(),
            error_mm: errors.get(newest),
        })
    };
    takes.iter().filter_map(of).collect()
}

/// What these readings make her measure; of one measurement and side, the later session counts. Who took them is not asked:
/// the figures are for checks, which have tolerances of their own.
pub(crate) fn profile_of(older: &[ReadingRow], newer: &[ReadingRow], finger: f64) -> Profile {
    let mut takes = grouped(older);
    takes.extend(grouped(newer));
    Profile::of(&latest_of(&takes, &TechnicalErrors::default(), Utc::now()), finger)
}

/// A client's current best figures; of a dress form that stands for one, the form's.
pub(crate) async fn profile_of_client(store: &Store, client: u64) -> Result<Profile, ApiError> {
    let (house, readings, form, repeats) = tokio::try_join!(
        store.house(),
        store.latest_readings(client, None),
        store.figures_of_stand_in(client),
        store.repeats(),
    )?;
    let mut latest = latest_of(&grouped(&readings), &TechnicalErrors::of(&repeats), Utc::now());
    if let Some(figures) = form {
        // What a form measures stands on its own page; what is wished of a garment on it is a reading like any other.
        latest.retain(|reading| figures.get(&reading.code).is_none());
        latest.extend(figures.iter().map(|(code, mm)| LatestReading {
            code: code.to_owned(),
            side: Side::Both,
            mm,
            taken: Taken::default(),
            days_ago: 0,
            takes: 1,
            error_mm: None,
        }));
    }
    Ok(Profile::of(&latest, house.measuring.finger_mm))
}

/// The body that drafting and comparison work with.
pub(crate) async fn body_of_client(store: &Store, client: u64) -> Result<Body, ApiError> {
    Ok(profile_of_client(store, client).await?.body())
}

/// A session with all that a reading in it is doubted by.
pub(crate) struct SessionReadings {
    pub(crate) house: House,
    pub(crate) session: SessionRow,
    /// In the house's order.
    pub(crate) codes: Vec<String>,
    /// Every take of the session, replaced ones included.
    pub(crate) readings: Vec<ReadingRow>,
    /// The newest takes of sessions before this one.
    pub(crate) before: Vec<ReadingRow>,
    /// Her figures, this session's first.
    pub(crate) profile: Profile,
}

impl SessionReadings {
    pub(crate) async fn of(store: &Store, session: u64) -> Result<Self, ApiError> {
        let (house, session) = tokio::try_join!(store.house(), store.session(session))?;
        let (readings, before) = tokio::try_join!(
            store.readings(session.id),
            store.latest_readings(session.client_id, Some(&session))
        )?;
        let set = || measurement_set(&session.set_code).map(|set| set.codes.clone()).unwrap_or_default();
        let codes = house.measuring.in_order(&session.codes.clone().unwrap_or_else(set));
        let profile = profile_of(&before, &readings, house.measuring.finger_mm);
        Ok(Self { house, session, codes, readings, before, profile })
    }

    pub(crate) fn style(&self) -> Style {
        self.house.style
    }

    /// The takes of a measurement and side that stand.
    pub(crate) fn takes(&self, code: &str, side: Side) -> Vec<&ReadingRow> {
        let of = |row: &&ReadingRow| !row.replaced && row.code == code && row.side == side;
        self.readings.iter().filter(of).collect()
    }

    /// Her figure of an earlier session: of the same side, else of both.
    pub(crate) fn earlier(&self, code: &str, side: Side) -> Option<Earlier> {
        let of = |side: Side| -> Vec<&ReadingRow> {
            self.before.iter().filter(|row| row.code == code && row.side == side).collect()
        };
        let takes = Some(of(side)).filter(|takes| !takes.is_empty()).unwrap_or_else(|| of(Side::Both));
        let newest = takes.last()?;
        let days_ago = (Utc::now() - newest.taken_at).num_days();
        Some(Earlier { mm: figure_of(&takes), taken: newest.taken.clone(), days_ago })
    }

    /// How this house takes a measurement.
    pub(crate) fn house_way(&self, code: &str) -> Taken {
        Taken::by_house(code, &self.house.measuring.schools)
    }

    /// Doubts about a length as one more take (`again`) or instead of the takes that stand.
    pub(crate) fn doubts(
        &self,
        row: &Measurement,
        side: Side,
        entered: &Entered,
        taken: &Taken,
        takes: Vec<f64>,
    ) -> Vec<Finding> {
        let other = match side {
            Side::Both => None,
            Side::Left => Some(Side::Right),
            Side::Right => Some(Side::Left),
        };
        let other_side = other.and_then(|other| {
            let takes = self.takes(&row.code, other);
            if takes.is_empty() {
                self.profile.get(&row.code).and_then(|f| f.of(other))
            } else {
                Some(figure_of(&takes))
            }
        });
        let place = self.codes.iter().position(|code| *code == row.code);
        let around = place.map(|at| [at.checked_sub(1), Some(at + 1)]).into_iter().flatten().flatten();
        // Only figures of this very session can have been put into each other's rows.
        let here = |code: &&String| self.readings.iter().any(|r| !r.replaced && r.code == **code);
        let beside = Beside {
            body: self.profile.body().without(&row.code),
            side,
            other_side,
            takes,
            last: self.earlier(&row.code, side),
            taken: taken.clone(),
            neighbours: around.filter_map(|at| self.codes.get(at)).filter(here).cloned().collect(),
            finger: Some(self.house.measuring.finger_mm),
        };
        check_reading(row, entered, &beside, self.style())
    }

    /// Doubts about what stands for a measurement and side: its last take beside the ones before.
    pub(crate) fn standing_doubts(&self, row: &Measurement, side: Side) -> Vec<Finding> {
        let takes = self.takes(&row.code, side);
        let Some((last, before)) = takes.split_last() else { return Vec::new() };
        let before = before.iter().map(|take| take.entered.length.mm()).collect();
        self.doubts(row, side, &last.entered, &last.taken, before)
    }
}

/// Names of measurements.
pub(crate) fn name_of(code: &str) -> String {
    measurement(code).map_or_else(|| code.to_owned(), |row| row.name.clone())
}

/// How a reading was taken, where not the catalogue's way, as this house says it.
pub(crate) fn said_of(taken: &Taken, style: Style) -> Vec<String> {
    taken.says().iter().map(|says| style.say(says)).collect()
}
