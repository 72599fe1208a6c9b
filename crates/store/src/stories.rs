//! Links by which a client reads the story of her garment without a sign-in; and what all garments together tell.

use chrono::{DateTime, Utc};
use yardwand_core::alter::Recipe;

use crate::audit::{Once, note};
use crate::error::read;
use crate::{Result, Store};

/// A garment handed over: the recipe it was planned with, and the one it was cut from.
#[derive(Clone, Debug, PartialEq)]
pub struct FinishedRecipes {
    /// Who cut: who saved the first version.
    pub cutter: String,
    /// Who measured last before the pattern was begun.
    pub measurer: String,
    /// The first version's recipe.
    pub planned: Recipe,
    /// The last version's recipe.
    pub ended: Recipe,
}

impl Store {
    /// Makes a link to the story of an order; only its hash is kept.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn share_story(
        &self,
        order: u64,
        token_hash: &[u8; 32],
        expires_at: DateTime<Utc>,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        sqlx::query!(
            "INSERT INTO story_links (token_hash, order_id, made_by, expires_at) VALUES (?, ?, ?, ?)",
            token_hash.as_slice(),
            order,
            once.person,
            expires_at.naive_utc()
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "story shared", "orders", order).await?;
        Ok(tx.commit().await?)
    }

    /// Ends every link to the story of an order.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn unshare_story(&self, order: u64, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        sqlx::query!("DELETE FROM story_links WHERE order_id = ?", order).execute(&mut *tx).await?;
        note(&mut tx, Once::by(by), "story no longer shared", "orders", order).await?;
        Ok(tx.commit().await?)
    }

    /// The order a link leads to, while it lasts and while the house shows stories.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn shared_story(&self, token_hash: &[u8; 32]) -> Result<Option<u64>> {
        let row = sqlx::query!(
            "SELECT l.order_id FROM story_links l JOIN house h ON h.id = 1 AND h.shows_stories \
             WHERE l.token_hash = ? AND l.expires_at > UTC_TIMESTAMP(3)",
            token_hash.as_slice()
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| row.order_id))
    }

    /// First and last recipe of the 500 garments handed over last: enough to learn from, and how the house works now.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError`].
    pub async fn finished_recipes(&self) -> Result<Vec<FinishedRecipes>> {
        let rows = sqlx::query!(
            "SELECT p.name AS cutter, CAST(first.recipe AS CHAR) AS \"planned!: String\", \
               CAST(last.recipe AS CHAR) AS \"ended!: String\", \
               COALESCE((SELECT m.name FROM sessions s JOIN people m ON m.id = s.measurer_id WHERE s.client_id = o.client_id AND s.dropped_at IS NULL AND s.started_at <= t.created_at \
                 ORDER BY s.started_at DESC LIMIT 1), '') AS \"measurer!: String\" \
             FROM (SELECT id, client_id FROM orders FORCE INDEX (orders_finished) WHERE finished_at IS NOT NULL ORDER BY finished_at DESC, id DESC LIMIT 500) o \
             STRAIGHT_JOIN patterns t ON t.order_id = o.id AND t.in_hand \
             JOIN pattern_versions first ON first.pattern_id = t.id AND first.version = \
               (SELECT MIN(v.version) FROM pattern_versions v WHERE v.pattern_id = t.id AND v.withdrawn_at IS NULL) \
             JOIN pattern_versions last ON last.pattern_id = t.id AND last.version = \
               (SELECT MAX(v.version) FROM pattern_versions v WHERE v.pattern_id = t.id AND v.withdrawn_at IS NULL) \
             JOIN people p ON p.id = first.made_by ORDER BY o.id"
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(FinishedRecipes {
                    cutter: r.cutter,
                    measurer: r.measurer,
                    planned: read("recipe", &r.planned)?,
                    ended: read("recipe", &r.ended)?,
                })
            })
            .collect()
    }
}
