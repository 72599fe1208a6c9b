//! Fitting rounds.

use chrono::{DateTime, Utc};
use yardwand_core::fitting::{Decision, Mark, Observation};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::patterns::{insert_version, set_recipe};
use crate::{NewVersion, Result, Store, StoreError, Tx};

/// A fitting round.
#[derive(Clone, Debug, PartialEq)]
pub struct RoundRow {
    /// Number of the row.
    pub id: u64,
    /// The order.
    pub order_id: u64,
    /// 1, 2, 3 …
    pub number: u32,
    /// The version on the body.
    pub version_id: u64,
    /// Its number.
    pub version: u32,
    /// What was worn under it and on the feet.
    pub worn: String,
    /// Her words on comfort.
    pub comfort: String,
    /// Who fitted.
    pub opened_by: String,
    /// When it was opened.
    pub opened_at: DateTime<Utc>,
    /// When it was closed.
    pub closed_at: Option<DateTime<Utc>>,
    /// The version its decisions made.
    pub made_version: Option<u32>,
}

/// Something seen in a round.
#[derive(Clone, Debug, PartialEq)]
pub struct ObservationRow {
    /// Number.
    pub id: u64,
    /// The round.
    pub round_id: u64,
    /// That round's number.
    pub round: u32,
    /// What was seen.
    pub seen: Observation,
    /// What was decided.
    pub decision: Option<Decision>,
    /// Revision of this row.
    pub revision: u32,
    /// What it became in later rounds, oldest first.
    pub marks: Vec<MarkRow>,
}

/// What an observation had become in a later round.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct MarkRow {
    /// The later round's number.
    pub round: u32,
    /// What it had become.
    pub mark: Mark,
}

const fn mark_code(mark: Mark) -> &'static str {
    match mark {
        Mark::Gone => "gone",
        Mark::Better => "better",
        Mark::Same => "same",
        Mark::Worse => "worse",
    }
}

pub(crate) fn mark_from(code: &str) -> Option<Mark> {
    [Mark::Gone, Mark::Better, Mark::Same, Mark::Worse].into_iter().find(|mark| mark_code(*mark) == code)
}

impl Store {
    /// Opens the next round of an order on a version.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] while another round is open.
    pub async fn open_round(&self, order: u64, version: u64, worn: &str, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "rounds").await? {
            return Ok(id);
        }
        sqlx::query!("SELECT id FROM orders WHERE id = ? FOR UPDATE", order)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "garment", id: order })?;
        let open = sqlx::query!("SELECT id FROM rounds WHERE order_id = ? AND closed_at IS NULL", order)
            .fetch_optional(&mut *tx)
            .await?;
        if open.is_some() {
            return Err(StoreError::Refused("a round of this garment is still open: close it first"));
        }
        let of_order = sqlx::query!(
            "SELECT v.id FROM pattern_versions v JOIN patterns p ON p.id = v.pattern_id WHERE v.id = ? AND p.order_id = ?",
            version,
            order
        )
        .fetch_optional(&mut *tx)
        .await?;
        if of_order.is_none() {
            return Err(StoreError::NotFound { what: "pattern version", id: version });
        }
        let added = sqlx::query!(
            "INSERT INTO rounds (order_id, number, version_id, worn, opened_by) \
             SELECT ?, COALESCE(MAX(number), 0) + 1, ?, ?, ? FROM rounds WHERE order_id = ?",
            order,
            version,
            worn,
            once.person,
            order
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "opened", "rounds", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The rounds of an order, oldest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn rounds(&self, order: u64) -> Result<Vec<RoundRow>> {
        self.rounds_where(Some(order), None).await
    }

    /// One round.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn round(&self, id: u64) -> Result<RoundRow> {
        let found = self.rounds_where(None, Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "round", id })
    }

    async fn rounds_where(&self, order: Option<u64>, id: Option<u64>) -> Result<Vec<RoundRow>> {
        let rows = sqlx::query!(
            "SELECT r.id, r.order_id, r.number, r.version_id, v.version, r.worn, r.comfort, p.name AS opened_by, \
               r.opened_at, r.closed_at, m.version AS \"made_version?: u32\" \
             FROM rounds r JOIN pattern_versions v ON v.id = r.version_id JOIN people p ON p.id = r.opened_by \
             LEFT JOIN pattern_versions m ON m.id = r.made_version_id \
             WHERE (? IS NULL OR r.order_id = ?) AND (? IS NULL OR r.id = ?) ORDER BY r.number",
            order,
            order,
            id,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|r| RoundRow {
                id: r.id,
                order_id: r.order_id,
                number: r.number,
                version_id: r.version_id,
                version: r.version,
                worn: r.worn,
                comfort: r.comfort,
                opened_by: r.opened_by,
                opened_at: r.opened_at.and_utc(),
                closed_at: r.closed_at.map(|at| at.and_utc()),
                made_version: r.made_version,
            })
            .collect())
    }

    /// Keeps an observation.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round.
    pub async fn observe(&self, round: u64, seen: &Observation, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "observations").await? {
            return Ok(id);
        }
        lock_open_round(&mut tx, round).await?;
        let seen = write("observation", seen)?;
        let added = sqlx::query!(
            "INSERT INTO observations (round_id, seen, made_by) VALUES (?, ?, ?)",
            round,
            seen,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "observed", "observations", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Decides an observation; `saw` is the revision the decision was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], or [`StoreError::Refused`] in a closed round.
    pub async fn decide(&self, observation: u64, decision: &Decision, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        let row =
            sqlx::query!("SELECT round_id, revision FROM observations WHERE id = ? FOR UPDATE", observation)
                .fetch_optional(&mut *tx)
                .await?
                .ok_or(StoreError::NotFound { what: "observation", id: observation })?;
        lock_open_round(&mut tx, row.round_id).await?;
        if row.revision != saw {
            return Err(StoreError::Stale { what: "observation", now: row.revision, saw });
        }
        let decision = write("decision", decision)?;
        sqlx::query!(
            "UPDATE observations SET decision = ?, revision = revision + 1 WHERE id = ?",
            decision,
            observation
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, Once::by(by), "decided", "observations", observation).await?;
        Ok(tx.commit().await?)
    }

    /// Marks what an earlier observation has become in an open round.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round or for an observation of the round itself.
    pub async fn mark(&self, round: u64, observation: u64, mark: Mark, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        lock_open_round(&mut tx, round).await?;
        let earlier = sqlx::query!(
            "SELECT b.id FROM observations b JOIN rounds e ON e.id = b.round_id \
             JOIN rounds r ON r.order_id = e.order_id AND r.number > e.number WHERE b.id = ? AND r.id = ?",
            observation,
            round
        )
        .fetch_optional(&mut *tx)
        .await?;
        if earlier.is_none() {
            return Err(StoreError::Refused(
                "only what was seen in an earlier round of this garment can be marked",
            ));
        }
        sqlx::query!(
            "REPLACE INTO marks (observation_id, round_id, mark) VALUES (?, ?, ?)",
            observation,
            round,
            mark_code(mark)
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, Once::by(by), "marked", "observations", observation).await?;
        Ok(tx.commit().await?)
    }

    /// Keeps her words on comfort.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round.
    pub async fn set_comfort(&self, round: u64, words: &str, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        lock_open_round(&mut tx, round).await?;
        sqlx::query!("UPDATE rounds SET comfort = ? WHERE id = ?", words, round).execute(&mut *tx).await?;
        note(&mut tx, Once::by(by), "comfort noted", "rounds", round).await?;
        Ok(tx.commit().await?)
    }

    /// Closes a round. Where it decided alterations, `made` is the version they make: the pattern's new
    /// recipe and the frozen version are kept in the same breath. `saw` is the pattern's revision.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it is closed, [`StoreError::Stale`] where the recipe was changed.
    pub async fn close_round(
        &self,
        round: u64,
        pattern: u64,
        saw: u32,
        made: Option<&NewVersion>,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        lock_open_round(&mut tx, round).await?;
        let version = match made {
            Some(new) => {
                set_recipe(&mut tx, pattern, &new.recipe, saw).await?;
                Some(insert_version(&mut tx, pattern, new, once.person).await?)
            }
            None => None,
        };
        sqlx::query!(
            "UPDATE rounds SET closed_at = UTC_TIMESTAMP(3), made_version_id = ? WHERE id = ?",
            version,
            round
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "closed", "rounds", round).await?;
        Ok(tx.commit().await?)
    }

    /// Everything seen on an order, oldest first, with what it became.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn observations(&self, order: u64) -> Result<Vec<ObservationRow>> {
        let marks = sqlx::query!(
            "SELECT m.observation_id, m.mark, r.number FROM marks m JOIN rounds r ON r.id = m.round_id \
             WHERE r.order_id = ? ORDER BY r.number",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        let rows = sqlx::query!(
            "SELECT b.id, b.round_id, r.number, CAST(b.seen AS CHAR) AS \"seen!: String\", \
             CAST(b.decision AS CHAR) AS \"decision?: String\", b.revision \
             FROM observations b JOIN rounds r ON r.id = b.round_id WHERE r.order_id = ? ORDER BY b.id",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                let own = marks.iter().filter(|m| m.observation_id == r.id);
                let mark = |m: &str, round| mark_from(m).map(|mark| MarkRow { round, mark });
                Ok(ObservationRow {
                    id: r.id,
                    round_id: r.round_id,
                    round: r.number,
                    seen: read("observation", &r.seen)?,
                    decision: r.decision.as_deref().map(|d| read("decision", d)).transpose()?,
                    revision: r.revision,
                    marks: own.filter_map(|m| mark(&m.mark, m.number)).collect(),
                })
            })
            .collect()
    }
}

/// Locks a round that is still open.
async fn lock_open_round(tx: &mut Tx, id: u64) -> Result<()> {
    let row = sqlx::query!("SELECT closed_at FROM rounds WHERE id = ? FOR UPDATE", id)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound { what: "round", id })?;
    match row.closed_at {
        None => Ok(()),
        Some(_) => Err(StoreError::Refused("this round is closed: open the next one")),
    }
}
