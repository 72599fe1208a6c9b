//! Attempts to prove who one is. Each is kept before its password is looked at, so that a hundred at once count as a hundred; a good
//! one is taken back. And the devices that are known: who guesses elsewhere keeps nobody waiting on her own.

use crate::{Result, Store};

/// What becomes of an attempt.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Attempt {
    /// It may go on.
    Goes,
    /// It comes too soon after others.
    Waits {
        /// How long still.
        seconds: u32,
    },
}

/// The first wait, in seconds; each later one is twice as long as the one before, up to the longest. After so long without an
/// attempt all are forgotten.
const FIRST_WAIT: i64 = 10;
const LONGEST_WAIT: i64 = 900;

impl Store {
    /// Begins an attempt of somebody: of an address to sign in with, of a place it comes from. So many go freely; after
    /// them each waits for longer, but none for ever.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn attempt(&self, made_by: &str, freely: i64) -> Result<Attempt> {
        sqlx::query!(
            "INSERT IGNORE INTO attempts (made_by, failed, newest) VALUES (?, 0, UTC_TIMESTAMP(3))",
            made_by
        )
        .execute(&self.pool)
        .await?;
        // One statement looks and counts: what others begin meanwhile waits for its row. It sets from left to right.
        let counted = sqlx::query!(
            "UPDATE attempts SET failed = IF(newest < UTC_TIMESTAMP(3) - INTERVAL ? SECOND, 1, failed + 1), \
             newest = UTC_TIMESTAMP(3) WHERE made_by = ? AND (failed < ? OR \
             newest <= UTC_TIMESTAMP(3) - INTERVAL LEAST(?, ? * POW(2, failed - ?)) SECOND)",
            LONGEST_WAIT,
            made_by,
            freely,
            LONGEST_WAIT,
            FIRST_WAIT,
            freely
        )
        .execute(&self.pool)
        .await?;
        if counted.rows_affected() == 1 {
            return Ok(Attempt::Goes);
        }
        let row = sqlx::query!(
            "SELECT CAST(GREATEST(1, CEIL(LEAST(?, ? * POW(2, failed - ?)) - \
             TIMESTAMPDIFF(MICROSECOND, newest, UTC_TIMESTAMP(3)) / 1000000)) AS UNSIGNED) AS `seconds: u64` \
             FROM attempts WHERE made_by = ?",
            LONGEST_WAIT,
            FIRST_WAIT,
            freely,
            made_by
        )
        .fetch_optional(&self.pool)
        .await?;
        let seconds = row.and_then(|row| u32::try_from(row.seconds?).ok());
        Ok(Attempt::Waits { seconds: seconds.unwrap_or(1) })
    }

    /// Takes one attempt back that was none: it was good, or its password was never looked at.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn take_back_attempt(&self, made_by: &str) -> Result<()> {
        sqlx::query!("UPDATE attempts SET failed = failed - 1 WHERE made_by = ? AND failed > 0", made_by)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// Forgets somebody's attempts after a good one.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn forget_attempts(&self, made_by: &str) -> Result<()> {
        sqlx::query!("DELETE FROM attempts WHERE made_by = ?", made_by).execute(&self.pool).await?;
        Ok(())
    }

    /// Whether the person of this address has signed in on this device before, with the password of today; anybody where none
    /// is named.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn knows_device(&self, token_hash: &[u8; 32], email: Option<&str>) -> Result<bool> {
        let row = sqlx::query!(
            "SELECT COUNT(*) AS n FROM known_devices d JOIN people p ON p.id = d.person_id \
             WHERE d.token_hash = ? AND p.email = COALESCE(?, p.email)",
            token_hash.as_slice(),
            email
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(row.n > 0)
    }

    /// Keeps that somebody has signed in on this device.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn know_device(&self, token_hash: &[u8; 32], person: u64) -> Result<()> {
        sqlx::query!(
            "INSERT INTO known_devices (token_hash, person_id) VALUES (?, ?) \
             ON DUPLICATE KEY UPDATE seen_at = UTC_TIMESTAMP(3)",
            token_hash.as_slice(),
            person
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}
