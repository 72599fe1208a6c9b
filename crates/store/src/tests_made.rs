//! Tests made on the toile of a round, and whether what each says happened.

use yardwand_core::fitting::Tested;

use crate::audit::{Once, note, saved_before};
use crate::rounds::lock_open_round;
use crate::{Result, Store};

impl Store {
    /// Keeps what came of a test in an open round, in place of what was kept of it before; nothing is taken back.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Refused`] in a closed round.
    pub async fn set_test(&self, round: u64, cause: &str, holds: Option<bool>, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        lock_open_round(&mut tx, round).await?;
        match holds {
            Some(holds) => {
                sqlx::query!(
                    "REPLACE INTO tests_made (round_id, cause, holds, made_by) VALUES (?, ?, ?, ?)",
                    round,
                    cause,
                    holds,
                    once.person
                )
                .execute(&mut *tx)
                .await?;
            }
            None => {
                sqlx::query!("DELETE FROM tests_made WHERE round_id = ? AND cause = ?", round, cause)
                    .execute(&mut *tx)
                    .await?;
            }
        }
        note(&mut tx, once, "tested", "rounds", round).await?;
        Ok(tx.commit().await?)
    }

    /// The tests made in a round, by their causes' codes.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn tests_made(&self, round: u64) -> Result<Vec<Tested>> {
        let rows = sqlx::query!(
            "SELECT cause, holds AS \"holds!: bool\" FROM tests_made WHERE round_id = ? ORDER BY cause",
            round
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| Tested { cause: row.cause, holds: row.holds }).collect())
    }
}
