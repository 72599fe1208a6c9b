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
    /// It is the pattern the garment is cut from; one that was begun before is not.
    pub in_hand: bool,
}

impl PatternRow {
    /// The block it was begun from was erased with its client: it goes on from its own geometry, and its earlier versions have
    /// nothing left that they were drawn from.
    pub fn stands_alone(&self) -> bool {
        self.block_name == "an erased block"
    }
}

/// A pattern as it is begun.
#[derive(Clone, Copy, Debug)]
pub struct NewPattern<'a> {
    /// The block it is begun from.
    pub block_id: u64,
    /// Its name and size, as printed.
    pub block_name: &'a str,
    /// What is copied of it.
    pub block: &'a Pattern,
    /// What is done to it from the start.
    pub recipe: &'a Recipe,
}

/// A pattern of a garment in a list of them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PatternSummary {
    /// Number.
    pub id: u64,
    /// The block it was begun from: its name and size, as printed.
    pub block_name: String,
    /// Its newest version, 0 where none was saved.
    pub version: u32,
    /// When it was begun.
    pub begun_at: DateTime<Utc>,
    /// It is the pattern the garment is cut from.
    pub in_hand: bool,
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

/// What a client's story tells of a version: all but its geometry.
#[derive(Clone, Debug, PartialEq)]
pub struct VersionTold {
    /// Number.
    pub id: u64,
    /// The garment.
    pub order_id: u64,
    /// 1, 2, 3 …
    pub version: u32,
    /// The recipe.
    pub recipe: Recipe,
    /// Why it was made.
    pub why: String,
    /// When.
    pub made_at: DateTime<Utc>,
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
    /// When it was withdrawn: it is not cut, and the next one takes its place.
    pub withdrawn_at: Option<DateTime<Utc>>,
    /// Why it was withdrawn.
    pub withdrawn_why: String,
}

impl Store {
    /// Begins the pattern of an order from a block; an order has one in hand. `anew` puts the one it has beside it,
    /// whole, to be taken up again.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it has one already and that is not meant, or where a round of it is open.
    pub async fn begin_pattern(
        &self,
        order: u64,
        new: NewPattern<'_>,
        anew: bool,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "patterns").await? {
            return Ok(id);
        }
        // Two who begin at once wait for each other.
        sqlx::query!("SELECT id FROM orders WHERE id = ? FOR UPDATE", order).fetch_optional(&mut *tx).await?;
        let taken = sqlx::query!("SELECT id FROM patterns WHERE order_id = ? AND in_hand FOR UPDATE", order)
            .fetch_optional(&mut *tx)
            .await?;
        if taken.is_some() && !anew {
            return Err(StoreError::Refused("this garment has a pattern already: alter that one"));
        }
        if taken.is_some() {
            no_round_is_open(&mut tx, order).await?;
            lay_aside(&mut tx, order).await?;
        }
        let id = insert_pattern(&mut tx, order, new).await?;
        note(&mut tx, once, "begun", "patterns", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Every pattern that was begun for an order, oldest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn patterns(&self, order: u64) -> Result<Vec<PatternSummary>> {
        let rows = sqlx::query!(
            "SELECT p.id, p.block_name, p.created_at, p.in_hand IS NOT NULL AS \"in_hand!: bool\", \
               (SELECT MAX(v.version) FROM pattern_versions v WHERE v.pattern_id = p.id AND v.withdrawn_at IS NULL) \
                 AS \"version?: u32\" \
             FROM patterns p WHERE p.order_id = ? ORDER BY p.id",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        let summary = rows.into_iter().map(|r| PatternSummary {
            id: r.id,
            block_name: r.block_name,
            version: r.version.unwrap_or(0),
            begun_at: r.created_at.and_utc(),
            in_hand: r.in_hand,
        });
        Ok(summary.collect())
    }

    /// Takes a pattern that was begun before up again, and lays the one in hand aside.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] while a round is open, [`StoreError::NotFound`].
    pub async fn take_up_pattern(&self, id: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "patterns").await?.is_some() {
            return Ok(());
        }
        let row = sqlx::query!("SELECT order_id FROM patterns WHERE id = ?", id)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "pattern", id })?;
        sqlx::query!("SELECT id FROM orders WHERE id = ? FOR UPDATE", row.order_id)
            .fetch_one(&mut *tx)
            .await?;
        no_round_is_open(&mut tx, row.order_id).await?;
        lay_aside(&mut tx, row.order_id).await?;
        sqlx::query!("UPDATE patterns SET in_hand = TRUE WHERE id = ?", id).execute(&mut *tx).await?;
        note(&mut tx, once, "taken up again", "patterns", id).await?;
        Ok(tx.commit().await?)
    }

    /// Withdraws a version that was not cut, with the reason: its number is not given again.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for one that is not the newest, was fitted, or was made by a round, and once the garment
    /// is handed over; [`StoreError::NotFound`].
    pub async fn withdraw_version(&self, id: u64, why: &str, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "pattern_versions").await?.is_some() {
            return Ok(());
        }
        let row = sqlx::query!(
            "SELECT v.pattern_id, v.version, v.withdrawn_at, o.finished_at, \
               (SELECT MAX(n.version) FROM pattern_versions n WHERE n.pattern_id = v.pattern_id AND n.withdrawn_at IS NULL) \
                 AS \"newest?: u32\", \
               EXISTS (SELECT 1 FROM rounds r WHERE r.version_id = v.id) AS \"fitted!: bool\", \
               EXISTS (SELECT 1 FROM rounds r WHERE r.made_version_id = v.id) AS \"of_round!: bool\" \
             FROM pattern_versions v JOIN patterns p ON p.id = v.pattern_id JOIN orders o ON o.id = p.order_id \
             WHERE v.id = ? FOR UPDATE",
            id
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound { what: "pattern version", id })?;
        let refused = if row.withdrawn_at.is_some() {
            Some("this version is withdrawn already")
        } else if row.finished_at.is_some() {
            Some("this garment was handed over: its versions stay")
        } else if row.fitted {
            Some("this version was fitted: what was seen on it stays with it")
        } else if row.of_round {
            Some("a round made this version: open that round again instead")
        } else if row.newest != Some(row.version) {
            Some("a later version was saved: withdraw that one first")
        } else {
            None
        };
        if let Some(says) = refused {
            return Err(StoreError::Refused(says));
        }
        sqlx::query!(
            "UPDATE pattern_versions SET withdrawn_at = UTC_TIMESTAMP(3), withdrawn_why = ? WHERE id = ?",
            why,
            id
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "version withdrawn", "pattern_versions", id).await?;
        Ok(tx.commit().await?)
    }

    /// Lets a withdrawn version stand again.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where a later one was saved; [`StoreError::NotFound`] for one that is not withdrawn.
    pub async fn restore_version(&self, id: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!(
            "SELECT v.version, (SELECT MAX(n.version) FROM pattern_versions n WHERE n.pattern_id = v.pattern_id \
               AND n.withdrawn_at IS NULL) AS \"newest?: u32\" \
             FROM pattern_versions v WHERE v.id = ? AND v.withdrawn_at IS NOT NULL FOR UPDATE",
            id
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound { what: "withdrawn version", id })?;
        if row.newest.is_some_and(|newest| newest > row.version) {
            return Err(StoreError::Refused("a later version was saved in the meantime: that one is cut"));
        }
        sqlx::query!("UPDATE pattern_versions SET withdrawn_at = NULL, withdrawn_why = '' WHERE id = ?", id)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "version let stand", "pattern_versions", id).await?;
        Ok(tx.commit().await?)
    }

    /// One pattern.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn pattern(&self, id: u64) -> Result<PatternRow> {
        let row = sqlx::query!(
            "SELECT id, order_id, block_id, block_name, CAST(block AS CHAR) AS \"block!: String\", \
             CAST(recipe AS CHAR) AS \"recipe!: String\", revision, in_hand IS NOT NULL AS \"in_hand!: bool\" \
             FROM patterns WHERE id = ?",
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
            in_hand: row.in_hand,
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

    /// The number the next version of a pattern will have: one number is one version of the garment, whichever pattern
    /// it is of and whether it stands.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn next_version(&self, pattern: u64) -> Result<u32> {
        let row = sqlx::query!(
            "SELECT CAST(COALESCE(MAX(v.version), 0) + 1 AS UNSIGNED) AS \"next!: u32\" FROM pattern_versions v \
             JOIN patterns p ON p.id = v.pattern_id \
             WHERE p.order_id = (SELECT own.order_id FROM patterns own WHERE own.id = ?)",
            pattern
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(row.next)
    }

    /// Every version of a pattern, withdrawn or not, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn all_versions(&self, pattern: u64) -> Result<Vec<VersionRow>> {
        self.versions_where(Some(pattern), None).await
    }

    /// The versions of a pattern that stand, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn versions(&self, pattern: u64) -> Result<Vec<VersionRow>> {
        let mut found = self.versions_where(Some(pattern), None).await?;
        found.retain(|row| row.withdrawn_at.is_none());
        Ok(found)
    }

    /// Every version of any garment of a client that stands, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn versions_told(&self, client: u64) -> Result<Vec<VersionTold>> {
        let rows = sqlx::query!(
            "SELECT v.id, p.order_id, v.version, CAST(v.recipe AS CHAR) AS \"recipe!: String\", v.why, v.made_at \
             FROM pattern_versions v JOIN patterns p ON p.id = v.pattern_id JOIN orders o ON o.id = p.order_id \
             WHERE o.client_id = ? AND v.withdrawn_at IS NULL ORDER BY p.id, v.version DESC",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let told = rows.into_iter().map(|row| {
            Ok(VersionTold {
                id: row.id,
                order_id: row.order_id,
                version: row.version,
                recipe: read("recipe", &row.recipe)?,
                why: row.why,
                made_at: row.made_at.and_utc(),
            })
        });
        told.collect()
    }

    /// The versions of a pattern that were withdrawn, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn withdrawn_versions(&self, pattern: u64) -> Result<Vec<VersionRow>> {
        let mut found = self.versions_where(Some(pattern), None).await?;
        found.retain(|row| row.withdrawn_at.is_some());
        Ok(found)
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
             CAST(v.pattern AS CHAR) AS \"pattern!: String\", v.why, p.name AS made_by, v.made_at, v.withdrawn_at, v.withdrawn_why \
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
                    withdrawn_at: r.withdrawn_at.map(|at| at.and_utc()),
                    withdrawn_why: r.withdrawn_why,
                })
            })
            .collect()
    }
}

/// Begins a pattern in a transaction.
pub(crate) async fn insert_pattern(tx: &mut Tx, order: u64, new: NewPattern<'_>) -> Result<u64> {
    let added = sqlx::query!(
        "INSERT INTO patterns (order_id, block_id, block_name, block, recipe) VALUES (?, ?, ?, ?, ?)",
        order,
        new.block_id,
        new.block_name,
        write("pattern", new.block)?,
        write("recipe", new.recipe)?
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
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
    // The garment's row is the lock that numbers its versions: one number is one version, whichever pattern it is of.
    let order = sqlx::query!(
        "SELECT o.id FROM orders o JOIN patterns p ON p.order_id = o.id WHERE p.id = ? FOR UPDATE",
        pattern
    )
    .fetch_optional(&mut **tx)
    .await?
    .ok_or(StoreError::NotFound { what: "pattern", id: pattern })?
    .id;
    let (recipe, geometry) = (write("recipe", &new.recipe)?, write("pattern", &new.pattern)?);
    let added = sqlx::query!(
        "INSERT INTO pattern_versions (pattern_id, version, recipe, pattern, why, made_by) \
         SELECT ?, COALESCE(MAX(v.version), 0) + 1, ?, ?, ?, ? FROM pattern_versions v \
           JOIN patterns p ON p.id = v.pattern_id WHERE p.order_id = ?",
        pattern,
        recipe,
        geometry,
        new.why,
        by,
        order
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}

/// Lays the pattern of an order that is in hand aside.
async fn lay_aside(tx: &mut Tx, order: u64) -> Result<()> {
    sqlx::query!("UPDATE patterns SET in_hand = NULL WHERE order_id = ?", order).execute(&mut **tx).await?;
    Ok(())
}

async fn no_round_is_open(tx: &mut Tx, order: u64) -> Result<()> {
    let open =
        sqlx::query!("SELECT id FROM rounds WHERE order_id = ? AND closed_at IS NULL FOR UPDATE", order)
            .fetch_optional(&mut **tx)
            .await?;
    match open {
        Some(_) => Err(StoreError::Refused("a round of this garment is open: close it first")),
        None => Ok(()),
    }
}
