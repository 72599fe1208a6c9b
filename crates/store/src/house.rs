//! The house's own choices.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use yardwand_core::body::USUAL_FINGER;
use yardwand_core::compare::USUAL_CUP_OVER;
use yardwand_core::fitting::HouseCalendar;
use yardwand_core::{Style, Unit};

use crate::audit::{Once, note};
use crate::error::{read, write};
use crate::{Result, Store, StoreError};

/// The house's choices.
#[derive(Clone, Debug, PartialEq)]
pub struct House {
    /// Its name.
    pub name: String,
    /// How it writes lengths.
    pub style: Style,
    /// Code of its usual ease set.
    pub ease_set: String,
    /// How it measures.
    pub measuring: Measuring,
    /// How its calendar runs.
    pub calendar: HouseCalendar,
    /// Whether clients may read the story of their garment.
    pub shows_stories: bool,
    /// Revision of this row.
    pub revision: u32,
}

/// How a house measures.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[serde(default)]
pub struct Measuring {
    /// Its school in each matter it has chosen; the catalogue's in the others.
    pub schools: BTreeMap<String, String>,
    /// One finger under the tape, in millimetres.
    pub finger_mm: f64,
    /// Readings older than this are asked for again before cutting.
    pub age_limit_days: i64,
    /// Its own order of the tape: codes; the rest follows in the catalogue's order.
    pub route: Vec<String>,
    /// A cup that exceeds the block's by more than this is chosen for by the upper bust, in millimetres.
    pub cup_over_mm: f64,
}

impl Default for Measuring {
    fn default() -> Self {
        Self::usual(Unit::Inch)
    }
}

impl Measuring {
    /// As houses with this unit begin.
    pub fn usual(unit: Unit) -> Self {
        Self {
            schools: BTreeMap::new(),
            finger_mm: USUAL_FINGER.in_unit(unit),
            age_limit_days: 90,
            route: Vec::new(),
            cup_over_mm: USUAL_CUP_OVER.in_unit(unit),
        }
    }

    /// The same in a house that changes to this unit: what it never chose becomes the usual figure there.
    #[must_use]
    pub fn in_unit(self, unit: Unit) -> Self {
        Self {
            finger_mm: USUAL_FINGER.or_own(self.finger_mm, unit),
            cup_over_mm: USUAL_CUP_OVER.or_own(self.cup_over_mm, unit),
            ..self
        }
    }

    /// These codes in the house's order.
    pub fn in_order(&self, codes: &[String]) -> Vec<String> {
        let first = self.route.iter().filter(|code| codes.contains(code));
        let rest = codes.iter().filter(|code| !self.route.contains(code));
        first.chain(rest).cloned().collect()
    }
}

impl Store {
    /// The house; its defaults where nothing was chosen.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn house(&self) -> Result<House> {
        let row = sqlx::query!(
            "SELECT name, CAST(style AS CHAR) AS \"style!: String\", ease_set, \
             CAST(measuring AS CHAR) AS \"measuring!: String\", CAST(calendar AS CHAR) AS \"calendar!: String\", \
             shows_stories AS \"shows_stories!: bool\", revision FROM house WHERE id = 1"
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(match row {
            Some(r) => House {
                name: r.name,
                style: read("style", &r.style)?,
                ease_set: r.ease_set,
                measuring: read("way of measuring", &r.measuring)?,
                calendar: read("calendar", &r.calendar)?,
                shows_stories: r.shows_stories,
                revision: r.revision,
            },
            None => House {
                name: "The workroom".to_owned(),
                style: Style::EIGHTHS,
                ease_set: "standard".to_owned(),
                measuring: Measuring::default(),
                calendar: HouseCalendar::default(),
                shows_stories: false,
                revision: 0,
            },
        })
    }

    /// What tells this house from every other in files that leave it. It stays for ever.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn house_identity(&self) -> Result<String> {
        let row =
            sqlx::query!("SELECT identity FROM house_identity WHERE id = 1").fetch_one(&self.pool).await?;
        Ok(row.identity)
    }

    /// Changes the house's choices; `house.revision` is the one the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] where somebody else was faster.
    pub async fn change_house(&self, house: &House, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        let style = write("style", &house.style)?;
        let measuring = write("way of measuring", &house.measuring)?;
        let calendar = write("calendar", &house.calendar)?;
        let changed = if house.revision == 0 {
            sqlx::query!(
                "INSERT IGNORE INTO house (id, name, style, ease_set, measuring, calendar, shows_stories) \
                 VALUES (1, ?, ?, ?, ?, ?, ?)",
                house.name,
                style,
                house.ease_set,
                measuring,
                calendar,
                house.shows_stories
            )
            .execute(&mut *tx)
            .await?
        } else {
            sqlx::query!(
                "UPDATE house SET name = ?, style = ?, ease_set = ?, measuring = ?, calendar = ?, \
                 shows_stories = ?, revision = revision + 1 \
                 WHERE id = 1 AND revision = ?",
                house.name,
                style,
                house.ease_set,
                measuring,
                calendar,
                house.shows_stories,
                house.revision
            )
            .execute(&mut *tx)
            .await?
        };
        if changed.rows_affected() == 0 {
            let now = sqlx::query!("SELECT revision FROM house WHERE id = 1").fetch_one(&mut *tx).await?;
            return Err(StoreError::Stale { what: "house", now: now.revision, saw: house.revision });
        }
        note(&mut tx, Once::by(by), "changed", "house", 1).await?;
        Ok(tx.commit().await?)
    }
}
