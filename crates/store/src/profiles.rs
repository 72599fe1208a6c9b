//! What belongs to a client beside her readings: posture in neutral words, which orders used which session, erasing.

use yardwand_core::alter::Recipe;
use yardwand_core::pattern::Pattern;

use crate::audit::{Once, note};
use crate::error::{read, write};
use crate::{PatternRow, Result, Store, StoreError};

/// How she stands, as far as it matters for cloth.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Posture {
    /// Notes in neutral words.
    pub notes: Vec<String>,
    /// Her figure is changing: figures age sooner.
    pub changing: bool,
}

/// An order and the session whose figures it was begun with.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SessionUse {
    /// The newest session when the pattern was begun.
    pub session_id: u64,
    /// The order.
    pub order_id: u64,
    /// What it is.
    pub garment: String,
}

impl Store {
    /// A client's posture.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn posture(&self, client: u64) -> Result<Posture> {
        let row = sqlx::query!(
            "SELECT CAST(posture AS CHAR) AS \"posture!: String\", changing AS \"changing!: bool\" FROM clients WHERE id = ?",
            client
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "client", id: client })?;
        Ok(Posture { notes: read("posture", &row.posture)?, changing: row.changing })
    }

    /// Changes a client's posture; `saw` is the revision of the client the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn set_posture(&self, client: u64, posture: &Posture, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        let changed = sqlx::query!(
            "UPDATE clients SET posture = ?, changing = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
            write("posture", &posture.notes)?,
            posture.changing,
            client,
            saw
        )
        .execute(&mut *tx)
        .await?;
        if changed.rows_affected() == 0 {
            let now = self.client(client).await?.revision;
            return Err(StoreError::Stale { what: "client", now, saw });
        }
        note(&mut tx, Once::by(by), "posture", "clients", client).await?;
        Ok(tx.commit().await?)
    }

    /// Which orders of a client were begun with which session.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn session_uses(&self, client: u64) -> Result<Vec<SessionUse>> {
        let rows = sqlx::query!(
            "SELECT o.id AS order_id, o.garment, (SELECT s.id FROM sessions s WHERE s.client_id = o.client_id \
               AND s.dropped_at IS NULL AND s.started_at <= p.created_at ORDER BY s.started_at DESC, s.id DESC LIMIT 1) AS \"session_id?: u64\" \
             FROM orders o JOIN patterns p ON p.order_id = o.id AND p.in_hand WHERE o.client_id = ? ORDER BY o.id",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let uses = rows.into_iter().filter_map(|r| {
            Some(SessionUse { session_id: r.session_id?, order_id: r.order_id, garment: r.garment })
        });
        Ok(uses.collect())
    }

    /// Patterns of other clients that were begun from a block of hers.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn patterns_begun_from(&self, client: u64) -> Result<Vec<PatternRow>> {
        let found = sqlx::query!(
            "SELECT p.id FROM patterns p JOIN blocks b ON b.id = p.block_id JOIN orders o ON o.id = p.order_id \
             WHERE b.client_id = ? AND o.client_id <> ?",
            client,
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let mut rows = Vec::new();
        for row in found {
            rows.push(self.pattern(row.id).await?);
        }
        Ok(rows)
    }

    /// Erases a client with everything of hers. What is left says only that somebody was erased, and by whom. `stand_alone`
    /// holds the patterns of other clients that were begun from a block of hers ([`Self::patterns_begun_from`]), each with
    /// its own geometry, which takes the place of the copy of her block.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`]; [`StoreError::Stale`] where one of these patterns was changed meanwhile or is missing.
    pub async fn erase_client(
        &self,
        client: u64,
        stand_alone: &[(PatternRow, Pattern)],
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        let name = sqlx::query!("SELECT name FROM clients WHERE id = ? FOR UPDATE", client)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "client", id: client })?
            .name;
        // Files that were looked at and hold her name, and file names that carry it. What others lose by it is a
        // preview they can bring in again.
        sqlx::query!(
            "UPDATE imports SET content = '', answers = NULL, file_name = '', state = 'cancelled' \
             WHERE state = 'preview' AND (LOCATE(?, content) > 0 OR LOCATE(?, file_name) > 0)",
            name,
            name
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "UPDATE imports SET file_name = '' WHERE LOCATE(?, file_name) > 0 \
             OR id IN (SELECT s.import_id FROM sessions s WHERE s.client_id = ? AND s.import_id IS NOT NULL)",
            name,
            client
        )
        .execute(&mut *tx)
        .await?;
        // A garment of somebody else that was begun from her block keeps its own geometry, and no word of hers.
        for (row, own) in stand_alone {
            let changed = sqlx::query!(
                "UPDATE patterns SET block = ?, recipe = ?, block_name = 'an erased block', revision = revision + 1 \
                 WHERE id = ? AND revision = ?",
                write("pattern", own)?,
                write("recipe", &Recipe::default())?,
                row.id,
                row.revision
            )
            .execute(&mut *tx)
            .await?;
            if changed.rows_affected() == 0 {
                return Err(StoreError::Stale { what: "pattern", now: row.revision + 1, saw: row.revision });
            }
        }
        let copies = sqlx::query!(
            "SELECT COUNT(*) AS \"left!: i64\" FROM patterns p JOIN blocks b ON b.id = p.block_id \
             JOIN orders o ON o.id = p.order_id \
             WHERE b.client_id = ? AND o.client_id <> ? AND p.block_name <> 'an erased block'",
            client,
            client
        )
        .fetch_one(&mut *tx)
        .await?;
        if copies.left > 0 {
            return Err(StoreError::Refused(
                "a pattern was begun from her block in the meantime: erase her once more",
            ));
        }
        // What was noted of her, and of entries that were made one with hers, goes with them.
        sqlx::query!(
            "DELETE a FROM clients c STRAIGHT_JOIN audit a ON a.client_id = c.id WHERE c.id = ? OR c.merged_into = ?",
            client,
            client
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!("DELETE FROM clients WHERE id = ? OR merged_into = ?", client, client)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "erased", "clients", client).await?;
        Ok(tx.commit().await?)
    }
}
