//! Dating the demo's history: what a real house never does.

use chrono::{DateTime, Utc};

use crate::{Result, Store};

/// A row of the demo that is to look older than it is.
#[derive(Clone, Copy, Debug)]
pub enum Backdated {
    /// A session with its readings; closed half an hour later where it is closed.
    Session(u64),
    /// An order and its client.
    Order(u64),
    /// A pattern version.
    Version(u64),
    /// A round; closed an hour later where it is closed.
    Round(u64),
}

impl Store {
    /// Dates a row of the demo back.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn backdate(&self, row: Backdated, at: DateTime<Utc>) -> Result<()> {
        let at = at.naive_utc();
        match row {
            Backdated::Session(id) => {
                sqlx::query!(
                    "UPDATE sessions SET started_at = ?, closed_at = IF(closed_at IS NULL, NULL, ? + INTERVAL 30 MINUTE) WHERE id = ?",
                    at,
                    at,
                    id
                )
                .execute(&self.pool)
                .await?;
                sqlx::query!("UPDATE readings SET taken_at = ? WHERE session_id = ?", at, id)
                    .execute(&self.pool)
                    .await?;
            }
            Backdated::Order(id) => {
                sqlx::query!("UPDATE orders SET created_at = ?, finished_at = IF(finished_at IS NULL, NULL, ? + INTERVAL 40 DAY) WHERE id = ?", at, at, id)
                    .execute(&self.pool)
                    .await?;
                sqlx::query!("UPDATE clients c JOIN orders o ON o.client_id = c.id SET c.created_at = LEAST(c.created_at, ?) WHERE o.id = ?", at, id)
                    .execute(&self.pool)
                    .await?;
            }
            Backdated::Version(id) => {
                sqlx::query!("UPDATE pattern_versions SET made_at = ? WHERE id = ?", at, id)
                    .execute(&self.pool)
                    .await?;
            }
            Backdated::Round(id) => {
                sqlx::query!(
                    "UPDATE rounds SET opened_at = ?, closed_at = IF(closed_at IS NULL, NULL, ? + INTERVAL 1 HOUR) WHERE id = ?",
                    at,
                    at,
                    id
                )
                .execute(&self.pool)
                .await?;
            }
        }
        Ok(())
    }
}
