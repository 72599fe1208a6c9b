//! Patterns: a frozen block and a recipe, and the versions that were cut.

use chrono::{DateTime, Utc};
use yardwand_core::alter::Recipe;
use yardwand_core::pattern::Pattern;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::{Result, Store, StoreError, Tx};

/// A pattern in hand.
#[derive(Clone, Debug, PartialEq)]
pub struct PatternRow {
    /// Number.
    pub id: u64,
    /// The order it is for.
    pub order_id: u64,
    /// The block it was begun from.
    pub block_id: u64,
    /// Its name and size, as printed.
    pub block_name: String,
    /// The frozen copy of the block.
    pub block: Pattern,
    /// What is done to it.
    pub recipe: Recipe,
    /// Revision of this row.
    pub revision: u32,
}

/// A version as it is frozen.
#[derive(Clone, Debug, PartialEq)]
pub struct NewVersion {
    /// The recipe.
    pub recipe: Recipe,
    /// The geometry it makes.
    pub pattern: Pattern,
    /// Why it was made.
    pub why: String,
}

/// A frozen version.
#[derive(Clone, Debug, PartialEq)]
pub struct VersionRow {
    /// Number.
    pub id: u64,
    /// The pattern.
    pub pattern_id: u64,
    /// 1, 2, 3 …
    pub version: u32,
    /// The recipe.
    pub recipe: Recipe,
    /// The geometry.
    pub pattern: Pattern,
    /// Why it was made.
    pub why: String,
    /// Who made it.
    pub made_by: String,
    /// When.
    pub made_at: DateTime<Utc>,
}

impl Store {
    /// Begins the pattern of an order from a block; an order has one.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it has one already.
    pub async fn begin_pattern(
        &self,
        order: u64,
        block_id: u64,
        block_name: &str,
        block: &Pattern,
        recipe: &Recipe,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "patterns").await? {
            return Ok(id);
        }
        let taken = sqlx::query!("SELECT id FROM patterns WHERE order_id = ? FOR UPDATE", order)
            .fetch_optional(&mut *tx)
            .await?;
        if taken.is_some() {
            return Err(StoreError::Refused("this garment has a pattern already: alter that one"));
        }
        let (block, recipe) = (write("pattern", block)?, write("recipe", recipe)?);
        let added = sqlx::query!(
            "INSERT INTO patterns (order_id, block_id, block_name, block, recipe) VALUES (?, ?, ?, ?, ?)",
            order,
            block_id,
            block_name,
            block,
            recipe
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "begun", "patterns", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// One pattern.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn pattern(&self, id: u64) -> Result<PatternRow> {
        let row = sqlx::query!(
            "SELECT id, order_id, block_id, block_name, CAST(block AS CHAR) AS \"block!: String\", \
             CAST(recipe AS CHAR) AS \"recipe!: String\", revision FROM patterns WHERE id = ?",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "pattern", id })?;
        Ok(PatternRow {
            id: row.id,
            order_id: row.order_id,
            block_id: row.block_id,
            block_name: row.block_name,
            block: read("pattern", &row.block)?,
            recipe: read("recipe", &row.recipe)?,
            revision: row.revision,
        })
    }

    /// Changes the recipe; `saw` is the revision the change was based on. Returns the new revision.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn change_recipe(&self, id: u64, recipe: &Recipe, saw: u32, by: u64) -> Result<u32> {
        let mut tx = self.begin().await?;
        let revision = set_recipe(&mut tx, id, recipe, saw).await?;
        note(&mut tx, Once::by(by), "changed recipe", "patterns", id).await?;
        tx.commit().await?;
        Ok(revision)
    }

    /// Freezes a version.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn add_version(&self, pattern: u64, new: &NewVersion, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "pattern_versions").await? {
            return Ok(id);
        }
        let id = insert_version(&mut tx, pattern, new, once.person).await?;
        note(&mut tx, once, "version frozen", "pattern_versions", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The versions of a pattern, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn versions(&self, pattern: u64) -> Result<Vec<VersionRow>> {
        self.versions_where(Some(pattern), None).await
    }

    /// One version.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn version(&self, id: u64) -> Result<VersionRow> {
        let found = self.versions_where(None, Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "pattern version", id })
    }

    async fn versions_where(&self, pattern: Option<u64>, id: Option<u64>) -> Result<Vec<VersionRow>> {
        let rows = sqlx::query!(
            "SELECT v.id, v.pattern_id, v.version, CAST(v.recipe AS CHAR) AS \"recipe!: String\", \
             CAST(v.pattern AS CHAR) AS \"pattern!: String\", v.why, p.name AS made_by, v.made_at \
             FROM pattern_versions v JOIN people p ON p.id = v.made_by \
             WHERE (? IS NULL OR v.pattern_id = ?) AND (? IS NULL OR v.id = ?) ORDER BY v.version DESC",
            pattern,
            pattern,
            id,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(VersionRow {
                    id: r.id,
                    pattern_id: r.pattern_id,
                    version: r.version,
                    recipe: read("recipe", &r.recipe)?,
                    pattern: read("pattern", &r.pattern)?,
                    why: r.why,
                    made_by: r.made_by,
                    made_at: r.made_at.and_utc(),
                })
            })
            .collect()
    }
}

/// Changes a recipe in a transaction.
pub(crate) async fn set_recipe(tx: &mut Tx, id: u64, recipe: &Recipe, saw: u32) -> Result<u32> {
    let recipe = write("recipe", recipe)?;
    let changed = sqlx::query!(
        "UPDATE patterns SET recipe = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
        recipe,
        id,
        saw
    )
    .execute(&mut **tx)
    .await?;
    if changed.rows_affected() == 1 {
        return Ok(saw + 1);
    }
    let row =
        sqlx::query!("SELECT revision FROM patterns WHERE id = ?", id).fetch_optional(&mut **tx).await?;
    Err(match row {
        Some(row) => StoreError::Stale { what: "pattern", now: row.revision, saw },
        None => StoreError::NotFound { what: "pattern", id },
    })
}

/// Adds the next version in a transaction.
pub(crate) async fn insert_version(tx: &mut Tx, pattern: u64, new: &NewVersion, by: u64) -> Result<u64> {
    // The pattern's row is the lock that numbers its versions.
    sqlx::query!("SELECT id FROM patterns WHERE id = ? FOR UPDATE", pattern)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound { what: "pattern", id: pattern })?;
    let (recipe, geometry) = (write("recipe", &new.recipe)?, write("pattern", &new.pattern)?);
    let added = sqlx::query!(
        "INSERT INTO pattern_versions (pattern_id, version, recipe, pattern, why, made_by) \
         SELECT ?, COALESCE(MAX(version), 0) + 1, ?, ?, ?, ? FROM pattern_versions WHERE pattern_id = ?",
        pattern,
        recipe,
        geometry,
        new.why,
        by,
        pattern
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}
