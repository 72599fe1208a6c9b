//! Blocks: house masters in sizes, and clients' own. Never updated; a correction is a new version.

use chrono::{DateTime, Utc};
use yardwand_core::compare::BlockSize;
use yardwand_core::draft::Direct;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::{Result, Store, StoreError};

/// A block as it is made.
#[derive(Clone, Debug, PartialEq)]
pub struct NewBlock {
    /// Name in the house.
    pub name: String,
    /// Whose own block it is; a house master without.
    pub client_id: Option<u64>,
    /// The method it was drafted by.
    pub method: Direct,
    /// The ease set it was drafted with.
    pub ease_set: String,
    /// Why it was made.
    pub why: String,
    /// Its sizes in order.
    pub sizes: Vec<BlockSize>,
}

/// A block in a list.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct BlockSummary {
    /// Number.
    pub id: u64,
    /// Name in the house.
    pub name: String,
    /// Whose own block it is.
    pub client_id: Option<u64>,
    /// Version.
    pub version: u32,
    /// Why it was made.
    pub why: String,
    /// Who made it.
    pub made_by: String,
    /// When.
    pub made_at: DateTime<Utc>,
}

/// A block with its sizes.
#[derive(Clone, Debug, PartialEq)]
pub struct BlockRow {
    /// The block.
    pub summary: BlockSummary,
    /// The ease set it was drafted with.
    pub ease_set: String,
    /// The method it was drafted by.
    pub method: Direct,
    /// Its sizes in order.
    pub sizes: Vec<BlockSize>,
}

impl Store {
    /// Keeps a block. A client's second own block is version 2 of it, and so on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn add_block(&self, new: &NewBlock, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "blocks").await? {
            return Ok(id);
        }
        let method = write("method", &new.method)?;
        let before = sqlx::query!(
            "SELECT CAST(COALESCE(MAX(version), 0) AS UNSIGNED) AS \"version!: u64\" FROM blocks WHERE name = ? AND client_id <=> ?",
            new.name,
            new.client_id
        )
        .fetch_one(&mut *tx)
        .await?;
        let added = sqlx::query!(
            "INSERT INTO blocks (name, client_id, version, method, ease_set, why, made_by) VALUES (?, ?, ?, ?, ?, ?, ?)",
            new.name,
            new.client_id,
            before.version + 1,
            method,
            new.ease_set,
            new.why,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        for (place, size) in (0_u32..).zip(&new.sizes) {
            let (figure, pattern) = (write("figure", &size.figure)?, write("pattern", &size.pattern)?);
            sqlx::query!(
                "INSERT INTO block_sizes (block_id, place, label, figure, pattern) VALUES (?, ?, ?, ?, ?)",
                id,
                place,
                size.label,
                figure,
                pattern
            )
            .execute(&mut *tx)
            .await?;
        }
        note(&mut tx, once, "made", "blocks", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// House masters, and the own blocks of `client` where one is named; newest version of each first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn blocks(&self, client: Option<u64>) -> Result<Vec<BlockSummary>> {
        let rows = sqlx::query!(
            "SELECT b.id, b.name, b.client_id, b.version, b.why, p.name AS made_by, b.made_at \
             FROM blocks b JOIN people p ON p.id = b.made_by \
             WHERE b.client_id IS NULL OR b.client_id = ? ORDER BY b.client_id IS NULL DESC, b.name, b.version DESC",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows
            .into_iter()
            .map(|r| BlockSummary {
                id: r.id,
                name: r.name,
                client_id: r.client_id,
                version: r.version,
                why: r.why,
                made_by: r.made_by,
                made_at: r.made_at.and_utc(),
            })
            .collect())
    }

    /// One block with its sizes.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn block(&self, id: u64) -> Result<BlockRow> {
        let row = sqlx::query!(
            "SELECT b.id, b.name, b.client_id, b.version, b.why, p.name AS made_by, b.made_at, b.ease_set, \
             CAST(b.method AS CHAR) AS \"method!: String\" \
             FROM blocks b JOIN people p ON p.id = b.made_by WHERE b.id = ?",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "block", id })?;
        let sizes = sqlx::query!(
            "SELECT label, CAST(figure AS CHAR) AS \"figure!: String\", CAST(pattern AS CHAR) AS \"pattern!: String\" \
             FROM block_sizes WHERE block_id = ? ORDER BY place",
            id
        )
        .fetch_all(&self.pool)
        .await?;
        let sizes = sizes.into_iter().map(|s| {
            Ok(BlockSize {
                label: s.label,
                figure: read("figure", &s.figure)?,
                pattern: read("pattern", &s.pattern)?,
            })
        });
        Ok(BlockRow {
            sizes: sizes.collect::<Result<_>>()?,
            ease_set: row.ease_set,
            method: read("method", &row.method)?,
            summary: BlockSummary {
                id: row.id,
                name: row.name,
                client_id: row.client_id,
                version: row.version,
                why: row.why,
                made_by: row.made_by,
                made_at: row.made_at.and_utc(),
            },
        })
    }
}
