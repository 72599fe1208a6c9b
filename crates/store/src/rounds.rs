//! Fitting rounds: opened on a version, closed into the next.

use chrono::{DateTime, Utc};
use yardwand_core::fitting::Posture;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::patterns::{insert_version, set_recipe};
use crate::{NewVersion, Result, Store, StoreError, Tx, numbers};

/// What is fitted.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub enum RoundStage {
    /// A toile.
    #[default]
    Toile,
    /// Basted cloth.
    Cloth,
    /// The last fitting.
    Final,
}

impl RoundStage {
    /// Stable code.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Toile => "toile",
            Self::Cloth => "cloth",
            Self::Final => "final",
        }
    }

    /// The stage of a code.
    pub fn of(code: &str) -> Option<Self> {
        [Self::Toile, Self::Cloth, Self::Final].into_iter().find(|stage| stage.code() == code)
    }
}

/// A round as it is opened.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewRound {
    /// The version on the body.
    pub version_id: u64,
    /// What is fitted.
    pub stage: RoundStage,
    /// What was worn under it and on the feet.
    pub worn: String,
}

/// A fitting round.
#[derive(Clone, Debug, PartialEq)]
pub struct RoundRow {
    /// Number of the row.
    pub id: u64,
    /// The order.
    pub order_id: u64,
    /// 1, 2, 3 …
    pub number: u32,
    /// What is fitted.
    pub stage: RoundStage,
    /// The version on the body.
    pub version_id: u64,
    /// Its number.
    pub version: u32,
    /// What was worn under it and on the feet.
    pub worn: String,
    /// Her words on comfort.
    pub comfort: String,
    /// Postures she was asked for.
    pub postures: Vec<Posture>,
    /// Pins that went in, as counted.
    pub pins_out: Option<u32>,
    /// Pins that came back.
    pub pins_back: Option<u32>,
    /// Who fitted.
    pub opened_by: String,
    /// When it was opened.
    pub opened_at: DateTime<Utc>,
    /// When it was closed.
    pub closed_at: Option<DateTime<Utc>>,
    /// The version its decisions made.
    pub made_version: Option<u32>,
}

/// What is noted beside the observations; what is left out stays as it is.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Aside {
    /// Her words on comfort.
    pub comfort: Option<String>,
    /// What they were when these were begun: somebody else may have written meanwhile.
    pub comfort_was: String,
    /// Postures she was asked for.
    pub postures: Option<Vec<Posture>>,
    /// Pins that went in.
    pub pins_out: Option<u32>,
    /// Pins that came back.
    pub pins_back: Option<u32>,
}

/// What she wore in a round.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct RoundWorn {
    /// The round.
    pub id: u64,
    /// The order.
    pub order_id: u64,
    /// In her own words; empty where nothing was said.
    pub worn: String,
}

impl Store {
    /// Opens the next round of an order on a version.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] while another round is open.
    pub async fn open_round(&self, order: u64, new: &NewRound, once: Once<'_>) -> Result<u64> {
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
            "SELECT v.id FROM pattern_versions v JOIN patterns p ON p.id = v.pattern_id WHERE v.id = ? AND p.order_id = ? \
               AND p.in_hand AND v.withdrawn_at IS NULL",
            new.version_id,
            order
        )
        .fetch_optional(&mut *tx)
        .await?;
        if of_order.is_none() {
            return Err(StoreError::NotFound { what: "pattern version", id: new.version_id });
        }
        let added = sqlx::query!(
            "INSERT INTO rounds (order_id, number, stage, version_id, worn, opened_by) \
             SELECT ?, COALESCE(MAX(number), 0) + 1, ?, ?, ?, ? FROM rounds WHERE order_id = ?",
            order,
            new.stage.code(),
            new.version_id,
            new.worn,
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
        self.rounds_where(Some(order), None, None).await
    }

    /// One round.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn round(&self, id: u64) -> Result<RoundRow> {
        let found = self.rounds_where(None, None, Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "round", id })
    }

    /// The rounds of every garment of a client, garment by garment.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn rounds_on(&self, client: u64) -> Result<Vec<RoundRow>> {
        self.rounds_where(None, Some(client), None).await
    }

    /// Every round of these orders, oldest first: of which order it is, and what she wore.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn worn(&self, orders: &[u64]) -> Result<Vec<RoundWorn>> {
        Ok(sqlx::query_as!(
            RoundWorn,
            "SELECT r.id, r.order_id, r.worn \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN rounds r ON r.order_id = a.id \
             ORDER BY r.number",
            numbers(orders)
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// How many rounds each garment in hand has had at each stage.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn rounds_in_hand(&self) -> Result<Vec<(u64, RoundStage, u32)>> {
        let rows = sqlx::query!(
            "SELECT r.order_id, r.stage, CAST(COUNT(*) AS UNSIGNED) AS \"count!: u32\" FROM rounds r \
             JOIN orders o ON o.id = r.order_id WHERE o.finished_at IS NULL AND o.put_away IS NULL \
             GROUP BY r.order_id, r.stage"
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().filter_map(|r| Some((r.order_id, RoundStage::of(&r.stage)?, r.count))).collect())
    }

    async fn rounds_where(
        &self,
        order: Option<u64>,
        client: Option<u64>,
        id: Option<u64>,
    ) -> Result<Vec<RoundRow>> {
        let rows = sqlx::query!(
            "SELECT r.id, r.order_id, r.number, r.stage, r.version_id, v.version, r.worn, r.comfort, p.name AS opened_by, \
               CAST(r.postures AS CHAR) AS \"postures!: String\", r.pins_out, r.pins_back, \
               r.opened_at, r.closed_at, m.version AS \"made_version?: u32\" \
             FROM rounds r JOIN pattern_versions v ON v.id = r.version_id JOIN people p ON p.id = r.opened_by \
             JOIN orders o ON o.id = r.order_id \
             LEFT JOIN pattern_versions m ON m.id = r.made_version_id \
             WHERE (? IS NULL OR r.order_id = ?) AND (? IS NULL OR o.client_id = ?) AND (? IS NULL OR r.id = ?) \
             ORDER BY r.order_id, r.number",
            order,
            order,
            client,
            client,
            id,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(RoundRow {
                    id: r.id,
                    stage: RoundStage::of(&r.stage).unwrap_or_default(),
                    postures: read("postures", &r.postures)?,
                    pins_out: r.pins_out,
                    pins_back: r.pins_back,
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
            })
            .collect()
    }

    /// Keeps what was said and counted beside the observations of an open round: her words on comfort, the postures
    /// she was asked for, pins that went in and came back.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed round, [`StoreError::Rewritten`] where somebody else wrote her words meanwhile.
    pub async fn set_aside(&self, round: u64, aside: &Aside, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        lock_open_round(&mut tx, round).await?;
        if let Some(words) = &aside.comfort {
            let now =
                sqlx::query!("SELECT comfort FROM rounds WHERE id = ?", round).fetch_one(&mut *tx).await?;
            if now.comfort != aside.comfort_was && now.comfort != *words {
                return Err(StoreError::Rewritten { what: "her words on comfort", now: now.comfort });
            }
        }
        let postures = aside.postures.as_ref().map(|postures| write("postures", postures)).transpose()?;
        sqlx::query!(
            "UPDATE rounds SET comfort = COALESCE(?, comfort), postures = COALESCE(?, postures), \
             pins_out = COALESCE(?, pins_out), pins_back = COALESCE(?, pins_back) WHERE id = ?",
            aside.comfort,
            postures,
            aside.pins_out,
            aside.pins_back,
            round
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "noted", "rounds", round).await?;
        Ok(tx.commit().await?)
    }

    /// The round an observation belongs to.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn round_of(&self, observation: u64) -> Result<u64> {
        let row = sqlx::query!("SELECT round_id FROM observations WHERE id = ?", observation)
            .fetch_optional(&self.pool)
            .await?;
        row.map(|row| row.round_id).ok_or(StoreError::NotFound { what: "observation", id: observation })
    }

    /// How often a round was changed: grows with every write.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn round_changes(&self, round: u64) -> Result<u32> {
        let row =
            sqlx::query!("SELECT changes FROM rounds WHERE id = ?", round).fetch_optional(&self.pool).await?;
        row.map(|row| row.changes).ok_or(StoreError::NotFound { what: "round", id: round })
    }

    /// Closes a round. Where it decided alterations, `made` is the version they make: the pattern's new
    /// recipe and the frozen version are kept in the same breath.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it is closed, [`StoreError::Stale`] where the round or the recipe was changed.
    pub async fn close_round(
        &self,
        round: u64,
        pattern: u64,
        saw: RoundSeen,
        made: Option<&NewVersion>,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        lock_open_round_seen(&mut tx, round, Some(saw.changes)).await?;
        let version = match made {
            Some(new) => {
                set_recipe(&mut tx, pattern, &new.recipe, saw.recipe).await?;
                Some(insert_version(&mut tx, pattern, new, once.person).await?)
            }
            None => None,
        };
        sqlx::query!(
            "UPDATE rounds SET closed_at = UTC_TIMESTAMP(3), made_version_id = ?, changes = changes + 1 WHERE id = ?",
            version,
            round
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "closed", "rounds", round).await?;
        Ok(tx.commit().await?)
    }
}

impl Store {
    /// Opens the newest round again while nothing was done after it: the version it made is withdrawn, and the recipe is
    /// again the one of the version that was on the body.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it is open, another round was opened, a later version was saved, the recipe was
    /// worked on, or the garment is handed over; [`StoreError::NotFound`].
    pub async fn reopen_round(&self, round: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        let row = sqlx::query!(
            "SELECT r.closed_at, r.made_version_id, r.version_id, o.finished_at, \
               EXISTS (SELECT 1 FROM rounds n WHERE n.order_id = r.order_id AND n.number > r.number) AS \"later_round!: bool\", \
               EXISTS (SELECT 1 FROM pattern_versions n JOIN patterns p ON p.id = n.pattern_id \
                 JOIN pattern_versions m ON m.id = COALESCE(r.made_version_id, r.version_id) \
                 WHERE p.order_id = r.order_id AND n.version > m.version AND n.withdrawn_at IS NULL) AS \"later_version!: bool\" \
             FROM rounds r JOIN orders o ON o.id = r.order_id WHERE r.id = ? FOR UPDATE",
            round
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound { what: "round", id: round })?;
        let refused = if row.closed_at.is_none() {
            Some("this round is open")
        } else if row.finished_at.is_some() {
            Some("this garment was handed over: take it up again first")
        } else if row.later_round {
            Some("a later round was opened: what is seen now belongs there")
        } else if row.later_version {
            Some("a later version was saved: withdraw it first, or open the next round")
        } else {
            None
        };
        if let Some(says) = refused {
            return Err(StoreError::Refused(says));
        }
        if let Some(made) = row.made_version_id {
            let back = sqlx::query!(
                "UPDATE patterns p JOIN pattern_versions m ON m.pattern_id = p.id AND m.id = ? \
                 JOIN pattern_versions f ON f.id = ? \
                 SET p.recipe = f.recipe, p.revision = p.revision + 1 WHERE p.recipe = m.recipe AND p.in_hand",
                made,
                row.version_id
            )
            .execute(&mut *tx)
            .await?;
            if back.rows_affected() == 0 {
                return Err(StoreError::Refused(
                    "the pattern was worked on since: correct it on the cutting table, or open the next round",
                ));
            }
            sqlx::query!(
                "UPDATE pattern_versions SET withdrawn_at = UTC_TIMESTAMP(3), withdrawn_why = ? WHERE id = ?",
                "Its round was opened again.",
                made
            )
            .execute(&mut *tx)
            .await?;
        }
        sqlx::query!(
            "UPDATE rounds SET closed_at = NULL, made_version_id = NULL, changes = changes + 1 WHERE id = ?",
            round
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "opened again", "rounds", round).await?;
        Ok(tx.commit().await?)
    }
}

/// What a round stood at when its closing was worked out.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct RoundSeen {
    /// How often the round had been changed.
    pub changes: u32,
    /// Revision of the pattern's recipe.
    pub recipe: u32,
}

/// Locks a round that is still open, and counts the change that follows.
pub(crate) async fn lock_open_round(tx: &mut Tx, id: u64) -> Result<()> {
    lock_open_round_seen(tx, id, None).await
}

/// The same where it must not have been changed since it was looked at.
pub(crate) async fn lock_open_round_seen(tx: &mut Tx, id: u64, saw: Option<u32>) -> Result<()> {
    let now = lock_round_as_of(tx, id, None).await?;
    match saw.filter(|saw| *saw != now) {
        Some(saw) => Err(StoreError::Stale { what: "round", now, saw }),
        None => Ok(()),
    }
}

/// The same for what was entered at some time: what waited for the line belongs to the round it was seen in, even if
/// that was closed meanwhile. Tells how often it had been changed.
pub(crate) async fn lock_round_as_of(tx: &mut Tx, id: u64, entered: Option<DateTime<Utc>>) -> Result<u32> {
    let row = sqlx::query!("SELECT closed_at, changes FROM rounds WHERE id = ? FOR UPDATE", id)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound { what: "round", id })?;
    let closed = row.closed_at.map(|at| at.and_utc());
    if closed.is_some_and(|closed| entered.is_none_or(|entered| entered >= closed)) {
        return Err(StoreError::Refused("this round is closed: open the next one"));
    }
    sqlx::query!("UPDATE rounds SET changes = changes + 1 WHERE id = ?", id).execute(&mut **tx).await?;
    Ok(row.changes)
}
