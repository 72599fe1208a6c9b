//! Photographs of a round: re-encoded pictures, kept in the database and gone with the client.

use chrono::{DateTime, Utc};

use crate::audit::{Once, note, saved_before};
use crate::rounds::lock_round_as_of;
use crate::{Result, Store, StoreError};

/// A photograph as it is kept.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewPhotograph {
    /// The observation it shows; the whole round if none.
    pub observation: Option<u64>,
    /// JPEG without metadata.
    pub image: Vec<u8>,
    /// In pixels.
    pub width: u32,
    /// In pixels.
    pub height: u32,
    /// The fitter's own time.
    pub taken_at: DateTime<Utc>,
}

/// A photograph in a list.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PhotographRow {
    /// Number.
    pub id: u64,
    /// The round.
    pub round_id: u64,
    /// The observation it shows.
    pub observation_id: Option<u64>,
    /// In pixels.
    pub width: u32,
    /// In pixels.
    pub height: u32,
    /// When it was taken.
    pub taken_at: DateTime<Utc>,
}

impl Store {
    /// Keeps a photograph that was taken while the round was open.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for one taken after it was closed, or for an observation of another one.
    pub async fn add_photograph(&self, round: u64, new: &NewPhotograph, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "photographs").await? {
            return Ok(id);
        }
        lock_round_as_of(&mut tx, round, Some(new.taken_at)).await?;
        if let Some(observation) = new.observation {
            let own =
                sqlx::query!("SELECT id FROM observations WHERE id = ? AND round_id = ?", observation, round)
                    .fetch_optional(&mut *tx)
                    .await?;
            if own.is_none() {
                return Err(StoreError::Refused("this observation is of another round"));
            }
        }
        let added = sqlx::query!(
            "INSERT INTO photographs (round_id, observation_id, image, width, height, taken_at, made_by) \
             VALUES (?, ?, ?, ?, ?, ?, ?)",
            round,
            new.observation,
            new.image,
            new.width,
            new.height,
            new.taken_at.naive_utc(),
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "photographed", "photographs", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The photographs of an order, oldest first, without their pictures.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn photographs(&self, order: u64) -> Result<Vec<PhotographRow>> {
        let rows = sqlx::query!(
            "SELECT p.id, p.round_id, p.observation_id, p.width, p.height, p.taken_at FROM photographs p \
             JOIN rounds r ON r.id = p.round_id WHERE r.order_id = ? ORDER BY p.id",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        let row = rows.into_iter().map(|r| PhotographRow {
            id: r.id,
            round_id: r.round_id,
            observation_id: r.observation_id,
            width: r.width,
            height: r.height,
            taken_at: r.taken_at.and_utc(),
        });
        Ok(row.collect())
    }

    /// The picture itself.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn picture(&self, id: u64) -> Result<Vec<u8>> {
        let row =
            sqlx::query!("SELECT image FROM photographs WHERE id = ?", id).fetch_optional(&self.pool).await?;
        row.map(|row| row.image).ok_or(StoreError::NotFound { what: "photograph", id })
    }

    /// Takes a photograph out for good.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn drop_photograph(&self, id: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        sqlx::query!(
            "UPDATE rounds SET changes = changes + 1 WHERE id = (SELECT round_id FROM photographs WHERE id = ?)",
            id
        )
        .execute(&mut *tx)
        .await?;
        let gone = sqlx::query!("DELETE FROM photographs WHERE id = ?", id).execute(&mut *tx).await?;
        if gone.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "photograph", id });
        }
        note(&mut tx, once, "taken out", "photographs", id).await?;
        Ok(tx.commit().await?)
    }
}
