//! Looking a house over where it stands: what refers to nothing, and what there is to be read through.

use sqlx::AssertSqlSafe;

use crate::copying::{self, Reference};
use crate::{Result, Store, StoreError};

/// What is looked over one by one.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum LookedOver {
    /// Blocks with their sizes.
    Blocks,
    /// Patterns with their versions.
    Patterns,
    /// Photographs.
    Photographs,
}

impl LookedOver {
    const fn table(self) -> &'static str {
        match self {
            Self::Blocks => "blocks",
            Self::Patterns => "patterns",
            Self::Photographs => "photographs",
        }
    }
}

impl Store {
    /// Rows that refer to one that is not there, and how many.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn broken_references(&self) -> Result<Vec<(Reference, u64)>> {
        let mut connection = self.pool.acquire().await?;
        copying::broken_references(&mut connection).await
    }

    /// The numbers of what is looked over, in order.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn numbers(&self, of: LookedOver) -> Result<Vec<u64>> {
        let sql = format!("SELECT id FROM `{}` ORDER BY id", of.table());
        let rows: Vec<(u64,)> = sqlx::query_as(AssertSqlSafe(sql)).fetch_all(&self.pool).await?;
        Ok(rows.into_iter().map(|(id,)| id).collect())
    }

    /// Photographs that no round and no note shows, or that show an observation of another round.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn orphaned_photographs(&self) -> Result<Vec<u64>> {
        let rows = sqlx::query!(
            "SELECT f.id FROM photographs f LEFT JOIN observations o ON o.id = f.observation_id \
             WHERE (f.round_id IS NULL AND f.note_id IS NULL) \
                OR (f.observation_id IS NOT NULL AND NOT (o.round_id <=> f.round_id)) \
             ORDER BY f.id"
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| row.id).collect())
    }

    /// A photograph as it is kept, taken out or not: its bytes, its width and height in pixels.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn photograph_file(&self, id: u64) -> Result<(Vec<u8>, (u32, u32))> {
        let row = sqlx::query!("SELECT image, width, height FROM photographs WHERE id = ?", id)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound { what: "photograph", id })?;
        Ok((row.image, (row.width, row.height)))
    }
}
