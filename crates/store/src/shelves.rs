//! What a house keeps of its own beside the built-in: drafting methods, ease sets, size tables.

use chrono::{DateTime, Utc};
use serde::Serialize;
use serde::de::DeserializeOwned;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::taking_out::{Removable, deed, take_out};
use crate::{Result, Store, StoreError};

/// Which shelf.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Shelf {
    /// Drafting methods with the house's constants.
    Methods,
    /// Ease sets.
    Ease,
    /// Size tables.
    SizeTables,
}

impl Shelf {
    const fn code(self) -> &'static str {
        match self {
            Self::Methods => "methods",
            Self::Ease => "ease",
            Self::SizeTables => "size_tables",
        }
    }

    const fn what(self) -> &'static str {
        match self {
            Self::Methods => "house method",
            Self::Ease => "ease set",
            Self::SizeTables => "size table",
        }
    }
}

/// Something on a shelf.
#[derive(Clone, Debug, PartialEq)]
pub struct Kept<T> {
    /// Number.
    pub id: u64,
    /// The house's name for it, once on its shelf.
    pub name: String,
    /// What it is.
    pub document: T,
    /// Revision of this row.
    pub revision: u32,
    /// Who changed it last.
    pub changed_by: String,
    /// When.
    pub changed_at: DateTime<Utc>,
}

impl Store {
    /// Everything on a shelf, by name.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn shelf<T: DeserializeOwned>(&self, shelf: Shelf) -> Result<Vec<Kept<T>>> {
        let rows = sqlx::query!(
            "SELECT s.id, s.name, CAST(s.document AS CHAR) AS \"document!: String\", s.revision, \
             p.name AS changed_by, s.changed_at FROM shelves s JOIN people p ON p.id = s.changed_by \
             WHERE s.shelf = ? AND s.removed_at IS NULL ORDER BY s.name",
            shelf.code()
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(Kept {
                    id: r.id,
                    document: read(shelf.what(), &r.document)?,
                    name: r.name,
                    revision: r.revision,
                    changed_by: r.changed_by,
                    changed_at: r.changed_at.and_utc(),
                })
            })
            .collect()
    }

    /// Puts something on a shelf.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where the name is taken.
    pub async fn put_on_shelf<T: Serialize + Sync>(
        &self,
        shelf: Shelf,
        name: &str,
        document: &T,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "shelves").await? {
            return Ok(id);
        }
        let document = write(shelf.what(), document)?;
        // What was taken off makes room for another of its name.
        sqlx::query!(
            "DELETE FROM shelves WHERE shelf = ? AND name = ? AND removed_at IS NOT NULL",
            shelf.code(),
            name
        )
        .execute(&mut *tx)
        .await?;
        let added = sqlx::query!(
            "INSERT IGNORE INTO shelves (shelf, name, document, changed_by) VALUES (?, ?, ?, ?)",
            shelf.code(),
            name,
            document,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        if added.rows_affected() == 0 {
            return Err(StoreError::Refused("the house has one of this name already: choose another name"));
        }
        let id = added.last_insert_id();
        note(&mut tx, once, "kept", "shelves", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Changes something on a shelf; `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] where somebody else was faster; [`StoreError::NotFound`].
    pub async fn change_on_shelf<T: Serialize + Sync>(
        &self,
        shelf: Shelf,
        id: u64,
        document: &T,
        saw: u32,
        by: u64,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        let document = write(shelf.what(), document)?;
        let changed = sqlx::query!(
            "UPDATE shelves SET document = ?, changed_by = ?, changed_at = UTC_TIMESTAMP(3), revision = revision + 1 \
             WHERE shelf = ? AND id = ? AND revision = ? AND removed_at IS NULL",
            document,
            by,
            shelf.code(),
            id,
            saw
        )
        .execute(&mut *tx)
        .await?;
        if changed.rows_affected() == 0 {
            let now = sqlx::query!(
                "SELECT revision FROM shelves WHERE shelf = ? AND id = ? AND removed_at IS NULL",
                shelf.code(),
                id
            )
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: shelf.what(), id })?;
            return Err(StoreError::Stale { what: shelf.what(), now: now.revision, saw });
        }
        note(&mut tx, Once::by(by), "changed", "shelves", id).await?;
        Ok(tx.commit().await?)
    }

    /// Takes something off a shelf, or puts it back. What was made with it keeps its own copy.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn take_off_shelf(&self, shelf: Shelf, id: u64, off: bool, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        sqlx::query!("SELECT id FROM shelves WHERE shelf = ? AND id = ? FOR UPDATE", shelf.code(), id)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: shelf.what(), id })?;
        take_out(&mut tx, Removable::Shelved(shelf.what()), id, off).await?;
        note(&mut tx, Once::by(by), deed(off), "shelves", id).await?;
        Ok(tx.commit().await?)
    }
}
