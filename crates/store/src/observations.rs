//! What is seen in fitting rounds, what is decided about it, and what it becomes.

use std::collections::HashMap;

use chrono::{DateTime, NaiveDateTime, Utc};
use yardwand_core::fitting::{Decision, Mark, Marked, Noted, Observation};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::rounds::{lock_open_round, lock_open_round_seen, lock_round_as_of};
use crate::taking_out::{Removable, deed, take_out};
use crate::{Result, Store, StoreError, Tx, numbers};

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
    /// When it was seen: the fitter's own time.
    pub seen_at: DateTime<Utc>,
    /// Who saw it.
    pub seen_by: String,
    /// Revision of this row.
    pub revision: u32,
    /// What it became in later rounds, oldest first.
    pub marks: Vec<MarkRow>,
}

/// What an observation had become in a later round.
#[derive(Clone, Copy, Debug, PartialEq)]
pub struct MarkRow {
    /// The later round's number.
    pub round: u32,
    /// What it had become.
    pub mark: Mark,
    /// What is still left in one half, in millimetres, where it was measured; negative where it turned over.
    pub per_half: Option<f64>,
}

impl ObservationRow {
    /// As the rules of a round see it.
    pub fn noted(&self) -> Noted {
        let marked = |mark: &MarkRow| Marked { round: mark.round, mark: mark.mark, per_half: mark.per_half };
        Noted {
            round: self.round,
            seen: self.seen.clone(),
            seen_by: self.seen_by.clone(),
            decision: self.decision.clone(),
            marks: self.marks.iter().map(marked).collect(),
        }
    }
}

impl Store {
    /// Keeps an observation.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for one seen after the round was closed.
    pub async fn observe(
        &self,
        round: u64,
        seen: &Observation,
        seen_at: DateTime<Utc>,
        once: Once<'_>,
    ) -> Result<u64> {
        self.keep_observation(round, seen, None, seen_at, once).await
    }

    /// Keeps an observation together with what is decided about it; `changes` is how often the round had been changed
    /// when it was decided.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round, [`StoreError::Stale`] in one that was changed.
    pub async fn observe_decided(
        &self,
        round: u64,
        seen: &Observation,
        decision: &Decision,
        changes: u32,
        once: Once<'_>,
    ) -> Result<u64> {
        self.keep_observation(round, seen, Some((decision, changes)), Utc::now(), once).await
    }

    async fn keep_observation(
        &self,
        round: u64,
        seen: &Observation,
        decision: Option<(&Decision, u32)>,
        seen_at: DateTime<Utc>,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "observations").await? {
            return Ok(id);
        }
        let now = lock_round_as_of(&mut tx, round, Some(seen_at)).await?;
        if let Some((_, saw)) = decision.filter(|(_, saw)| *saw != now) {
            return Err(StoreError::Stale { what: "round", now, saw });
        }
        let seen = write("observation", seen)?;
        let decision = decision.map(|(decision, _)| write("decision", decision)).transpose()?;
        let added = sqlx::query!(
            "INSERT INTO observations (round_id, seen, decision, seen_at, made_by) VALUES (?, ?, ?, ?, ?)",
            round,
            seen,
            decision,
            seen_at.naive_utc(),
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "observed", "observations", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Decides an observation; `saw` is the revision the decision was based on. Where it was looked at together with the
    /// others of its round, `changes` is how often that had been changed.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], or [`StoreError::Refused`] in a closed round.
    pub async fn decide(
        &self,
        observation: u64,
        decision: &Decision,
        saw: u32,
        changes: Option<u32>,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "observations").await?.is_some() {
            return Ok(());
        }
        lock_as_seen(&mut tx, observation, saw, changes).await?;
        let decision = write("decision", decision)?;
        sqlx::query!(
            "UPDATE observations SET decision = ?, revision = revision + 1 WHERE id = ?",
            decision,
            observation
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "decided", "observations", observation).await?;
        Ok(tx.commit().await?)
    }

    /// Says more of an observation in an open round; what is decided about it stays.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round, [`StoreError::Stale`] where it was changed meanwhile.
    pub async fn say_more(
        &self,
        observation: u64,
        more: impl FnOnce(Observation) -> Observation + Send,
        saw: u32,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "observations").await?.is_some() {
            return Ok(());
        }
        let seen = lock_as_seen(&mut tx, observation, saw, None).await?;
        let seen = write("observation", &more(read("observation", &seen)?))?;
        sqlx::query!(
            "UPDATE observations SET seen = ?, revision = revision + 1 WHERE id = ?",
            seen,
            observation
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "said", "observations", observation).await?;
        Ok(tx.commit().await?)
    }

    /// Marks what an earlier observation has become in an open round.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round or for an observation of the round itself.
    pub async fn mark(
        &self,
        round: u64,
        observation: u64,
        mark: Mark,
        per_half: Option<f64>,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "observations").await?.is_some() {
            return Ok(());
        }
        lock_open_round(&mut tx, round).await?;
        let earlier = sqlx::query!(
            "SELECT b.id FROM observations b JOIN rounds e ON e.id = b.round_id \
             JOIN rounds r ON r.order_id = e.order_id AND r.number > e.number WHERE b.id = ? AND r.id = ? AND b.removed_at IS NULL",
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
            "REPLACE INTO marks (observation_id, round_id, mark, per_half) VALUES (?, ?, ?, ?)",
            observation,
            round,
            mark.code(),
            per_half
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "marked", "observations", observation).await?;
        Ok(tx.commit().await?)
    }

    /// Takes an observation of an open round out again, if its revision is still `saw`.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], or [`StoreError::Refused`] in a closed round.
    pub async fn take_back(&self, observation: u64, saw: u32, once: Once<'_>) -> Result<()> {
        self.take_out_observation(observation, Some(saw), once).await
    }

    /// Puts an observation that was taken out back into its open round.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for one that was not taken out, [`StoreError::Refused`] in a closed round.
    pub async fn restore_observation(&self, observation: u64, once: Once<'_>) -> Result<()> {
        self.take_out_observation(observation, None, once).await
    }

    /// Takes it out where it still is at the revision that was seen; without one it is put back.
    async fn take_out_observation(&self, id: u64, saw: Option<u32>, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!("SELECT round_id, revision FROM observations WHERE id = ? FOR UPDATE", id)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "observation", id })?;
        lock_open_round(&mut tx, row.round_id).await?;
        take_out(&mut tx, Removable::Observation, id, saw.is_some()).await?;
        if let Some(saw) = saw.filter(|saw| *saw != row.revision) {
            return Err(StoreError::Stale { what: "observation", now: row.revision, saw });
        }
        sqlx::query!("UPDATE observations SET revision = revision + 1 WHERE id = ?", id)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, deed(saw.is_some()), "observations", id).await?;
        Ok(tx.commit().await?)
    }

    /// Everything seen on an order, oldest first, with what it became.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn observations(&self, order: u64) -> Result<Vec<ObservationRow>> {
        self.observations_of(&[order]).await
    }

    /// Everything observed on any garment of a client, oldest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn observations_on(&self, client: u64) -> Result<Vec<ObservationRow>> {
        let orders = sqlx::query_scalar!("SELECT id FROM orders WHERE client_id = ?", client)
            .fetch_all(&self.pool)
            .await?;
        self.observations_of(&orders).await
    }

    /// Everything seen on these orders, oldest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn observations_of(&self, orders: &[u64]) -> Result<Vec<ObservationRow>> {
        if orders.is_empty() {
            return Ok(Vec::new());
        }
        let orders = &numbers(orders);
        let marks = sqlx::query!(
            "SELECT m.observation_id, m.mark, CAST(m.per_half AS DOUBLE) AS \"per_half?: f64\", r.number \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN rounds r ON r.order_id = a.id \
             STRAIGHT_JOIN marks m ON m.round_id = r.id ORDER BY r.number",
            orders
        )
        .fetch_all(&self.pool);
        let rows = sqlx::query!(
            "SELECT b.id, b.round_id, r.number, CAST(b.seen AS CHAR) AS \"seen!: String\", \
             CAST(b.decision AS CHAR) AS \"decision?: String\", b.revision, \
             COALESCE(b.seen_at, b.made_at) AS \"seen_at!: NaiveDateTime\", p.name AS seen_by \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN rounds r ON r.order_id = a.id \
             STRAIGHT_JOIN observations b ON b.round_id = r.id STRAIGHT_JOIN people p ON p.id = b.made_by \
             WHERE b.removed_at IS NULL ORDER BY b.id",
            orders
        )
        .fetch_all(&self.pool);
        let (marks, rows) = tokio::try_join!(marks, rows)?;
        let mut marks_of: HashMap<u64, Vec<MarkRow>> = HashMap::new();
        for m in marks {
            if let Some(mark) = Mark::of(&m.mark) {
                let row = MarkRow { round: m.number, mark, per_half: m.per_half };
                marks_of.entry(m.observation_id).or_default().push(row);
            }
        }
        rows.into_iter()
            .map(|r| {
                Ok(ObservationRow {
                    id: r.id,
                    round_id: r.round_id,
                    round: r.number,
                    seen: read("observation", &r.seen)?,
                    decision: r.decision.as_deref().map(|d| read("decision", d)).transpose()?,
                    seen_at: r.seen_at.and_utc(),
                    seen_by: r.seen_by,
                    revision: r.revision,
                    marks: marks_of.remove(&r.id).unwrap_or_default(),
                })
            })
            .collect()
    }
}

/// Locks an observation of an open round as it was seen, and its round with it; returns what was seen, as it is kept.
/// `changes` is how often the round had been changed, where that matters.
///
/// # Errors
///
/// [`StoreError::NotFound`] where it was taken out, [`StoreError::Refused`] in a closed round, [`StoreError::Stale`] where
/// it, or the round, was changed meanwhile.
async fn lock_as_seen(tx: &mut Tx, observation: u64, saw: u32, changes: Option<u32>) -> Result<String> {
    let row = sqlx::query!(
        "SELECT round_id, revision, CAST(seen AS CHAR) AS \"seen!: String\" FROM observations \
         WHERE id = ? AND removed_at IS NULL FOR UPDATE",
        observation
    )
    .fetch_optional(&mut **tx)
    .await?
    .ok_or(StoreError::NotFound { what: "observation", id: observation })?;
    lock_open_round_seen(tx, row.round_id, changes).await?;
    if row.revision == saw {
        Ok(row.seen)
    } else {
        Err(StoreError::Stale { what: "observation", now: row.revision, saw })
    }
}
