//! Blocks: house masters in sizes, cards, and clients' own. Never updated; a correction is a new version.

use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use yardwand_core::compare::{BlockSize, BlockSource};
use yardwand_core::draft::Method;
use yardwand_core::pattern::Garment;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::{Result, Store, StoreError, Tx};

/// How a block came about.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum How {
    /// By a drafting method.
    Drafted,
    /// Traced off a nest.
    Traced,
    /// A card, measured by hand.
    Card,
    /// From a toile that was draped.
    Draped,
    /// From a paper pattern.
    Paper,
}

impl How {
    const fn code(self) -> &'static str {
        match self {
            Self::Drafted => "drafted",
            Self::Traced => "traced",
            Self::Card => "card",
            Self::Draped => "draped",
            Self::Paper => "paper",
        }
    }

    fn of(code: &str) -> Self {
        match code {
            "traced" => Self::Traced,
            "card" => Self::Card,
            "draped" => Self::Draped,
            "paper" => Self::Paper,
            _ => Self::Drafted,
        }
    }
}

/// A block as it is made.
#[derive(Clone, Debug, PartialEq)]
pub struct NewBlock {
    /// Name in the house.
    pub name: String,
    /// Whose own block it is; a house block without.
    pub client_id: Option<u64>,
    /// How it came about.
    pub how: How,
    /// What was done, in a sentence: the trace with its shoulder.
    pub told: String,
    /// The block it was traced from.
    pub parent_id: Option<u64>,
    /// The method it was drafted by; a card has none.
    pub method: Option<Method>,
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
    /// How it came about.
    pub how: How,
    /// Version.
    pub version: u32,
    /// Names of its sizes in order.
    pub sizes: Vec<String>,
    /// What its sizes are of.
    pub garment: Garment,
    /// How many patterns were begun from it.
    pub used: u64,
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
    /// What was done.
    pub told: String,
    /// The block it was traced from.
    pub parent_id: Option<u64>,
    /// The drape it was taken over from.
    pub drape_id: Option<u64>,
    /// The ease set it was drafted with.
    pub ease_set: String,
    /// The method it was drafted by.
    pub method: Option<Method>,
    /// Its sizes in order.
    pub sizes: Vec<BlockSize>,
}

impl Store {
    /// Keeps a block. A second one of the same name and owner is version 2 of it, and so on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn add_block(&self, new: &NewBlock, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "blocks").await? {
            return Ok(id);
        }
        let id = insert_block(&mut tx, new, once).await?;
        note(&mut tx, once, "made", "blocks", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// House blocks, and the own blocks of `client` where one is named; newest version of each first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn blocks(&self, client: Option<u64>) -> Result<Vec<BlockSummary>> {
        let rows = sqlx::query!(
            "SELECT b.id, b.name, b.client_id, b.how, b.version, b.why, p.name AS made_by, b.made_at, \
             b.garment, \
             (SELECT GROUP_CONCAT(s.label ORDER BY s.place SEPARATOR '\t') FROM block_sizes s WHERE s.block_id = b.id) AS labels, \
             CAST((SELECT COUNT(*) FROM patterns u WHERE u.block_id = b.id) AS UNSIGNED) AS \"used!: u64\" \
             FROM blocks b JOIN people p ON p.id = b.made_by \
             WHERE b.client_id IS NULL OR b.client_id = ? \
             ORDER BY b.client_id IS NULL DESC, b.how = 'card', b.name, b.version DESC",
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
                how: How::of(&r.how),
                version: r.version,
                sizes: r.labels.map(|all| all.split('\t').map(str::to_owned).collect()).unwrap_or_default(),
                garment: Garment::of(&r.garment),
                used: r.used,
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
            "SELECT b.id, b.name, b.client_id, b.how, b.told, b.parent_id, b.version, b.why, p.name AS made_by, b.made_at, \
             b.ease_set, b.garment, CAST(b.method AS CHAR) AS \"method: String\", \
             CAST((SELECT COUNT(*) FROM patterns u WHERE u.block_id = b.id) AS UNSIGNED) AS \"used!: u64\", \
             (SELECT MIN(d.id) FROM drapes d WHERE d.block_id = b.id) AS \"drape_id: u64\" \
             FROM blocks b JOIN people p ON p.id = b.made_by WHERE b.id = ?",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "block", id })?;
        let sizes = sqlx::query!(
            "SELECT label, CAST(figure AS CHAR) AS \"figure!: String\", CAST(pattern AS CHAR) AS \"pattern: String\", \
             CAST(card AS CHAR) AS \"card: String\", CAST(settled AS CHAR) AS \"settled!: String\" FROM block_sizes WHERE block_id = ? ORDER BY place",
            id
        )
        .fetch_all(&self.pool)
        .await?;
        let sizes: Vec<BlockSize> = sizes
            .into_iter()
            .map(|s| {
                let source = match (&s.pattern, &s.card) {
                    (Some(pattern), _) => BlockSource::Drawn(read("pattern", pattern)?),
                    (None, card) => BlockSource::Card(read("card", card.as_deref().unwrap_or("[]"))?),
                };
                let settled = read("settled dimensions", &s.settled)?;
                Ok(BlockSize { label: s.label, figure: read("figure", &s.figure)?, source, settled })
            })
            .collect::<Result<_>>()?;
        Ok(BlockRow {
            ease_set: row.ease_set,
            method: row.method.as_deref().map(|method| read("method", method)).transpose()?,
            told: row.told,
            parent_id: row.parent_id,
            drape_id: row.drape_id,
            summary: BlockSummary {
                id: row.id,
                name: row.name,
                client_id: row.client_id,
                how: How::of(&row.how),
                version: row.version,
                sizes: sizes.iter().map(|size| size.label.clone()).collect(),
                garment: Garment::of(&row.garment),
                used: row.used,
                why: row.why,
                made_by: row.made_by,
                made_at: row.made_at.and_utc(),
            },
            sizes,
        })
    }
}

/// Keeps a block with its sizes. A second one of the same name and owner is version 2 of it, and so on.
pub(crate) async fn insert_block(tx: &mut Tx, new: &NewBlock, once: Once<'_>) -> Result<u64> {
    let method = new.method.as_ref().map(|method| write("method", method)).transpose()?;
    let before = sqlx::query!(
        "SELECT CAST(COALESCE(MAX(version), 0) AS UNSIGNED) AS \"version!: u64\" FROM blocks WHERE name = ? AND client_id <=> ?",
        new.name,
        new.client_id
    )
    .fetch_one(&mut **tx)
    .await?;
    let added = sqlx::query!(
        "INSERT INTO blocks (name, client_id, version, method, how, told, parent_id, ease_set, garment, why, made_by) \
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, ?)",
        new.name,
        new.client_id,
        before.version + 1,
        method,
        new.how.code(),
        new.told,
        new.parent_id,
        new.ease_set,
        new.sizes.first().map(BlockSize::garment).unwrap_or_default().code(),
        new.why,
        once.person
    )
    .execute(&mut **tx)
    .await?;
    let id = added.last_insert_id();
    for (place, size) in (0_u32..).zip(&new.sizes) {
        let figure = write("figure", &size.figure)?;
        let settled = write("settled dimensions", &size.settled)?;
        let (pattern, card) = match &size.source {
            BlockSource::Drawn(pattern) => (Some(write("pattern", pattern)?), None),
            BlockSource::Card(figures) => (None, Some(write("card", figures)?)),
        };
        sqlx::query!(
            "INSERT INTO block_sizes (block_id, place, label, figure, pattern, card, settled) VALUES (?, ?, ?, ?, ?, ?, ?)",
            id,
            place,
            size.label,
            figure,
            pattern,
            card,
            settled
        )
        .execute(&mut **tx)
        .await?;
    }
    Ok(id)
}
