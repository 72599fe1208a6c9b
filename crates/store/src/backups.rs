//! When the house was backed up.

use chrono::{DateTime, Utc};

use crate::{Result, Store};

/// A backup that was taken and found whole.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct BackupRow {
    /// The moment it holds.
    pub taken_at: DateTime<Utc>,
    /// How large its file is.
    pub bytes: u64,
    /// It opens with a passphrase only.
    pub encrypted: bool,
    /// A copy of it lies in a second place.
    pub second_place: bool,
}

impl Store {
    /// Keeps that a backup was taken.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn backed_up(&self, backup: &BackupRow) -> Result<()> {
        sqlx::query!(
            "INSERT INTO backups (taken_at, bytes, encrypted, second_place) VALUES (?, ?, ?, ?)",
            backup.taken_at.naive_utc(),
            backup.bytes,
            backup.encrypted,
            backup.second_place
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// The newest backup.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn last_backup(&self) -> Result<Option<BackupRow>> {
        let row = sqlx::query!(
            "SELECT taken_at, bytes, encrypted AS \"encrypted: bool\", second_place AS \"second_place: bool\" \
             FROM backups ORDER BY taken_at DESC, id DESC LIMIT 1"
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| BackupRow {
            taken_at: row.taken_at.and_utc(),
            bytes: row.bytes,
            encrypted: row.encrypted,
            second_place: row.second_place,
        }))
    }
}
