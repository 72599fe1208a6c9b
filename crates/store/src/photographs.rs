//! Photographs of rounds and of notes: re-encoded pictures, kept in the database and gone with the client.

use chrono::{DateTime, NaiveDateTime, Utc};
use serde::{Deserialize, Serialize};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::rounds::lock_round_as_of;
use crate::taking_out::{Removable, deed, take_out};
use crate::{Result, Store, StoreError, Tx};

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

/// A place on a picture, in parts of its width and height, from its upper left corner.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct OnPicture {
    /// To the right.
    pub x: f64,
    /// Down.
    pub y: f64,
}

/// A line drawn on a photograph.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct Stroke {
    /// Where it begins.
    pub from: OnPicture,
    /// Where it ends.
    pub to: OnPicture,
    /// With a point at its end.
    pub arrow: bool,
}

/// A photograph in a list.
#[derive(Clone, Debug, PartialEq)]
pub struct PhotographRow {
    /// Number.
    pub id: u64,
    /// The round, where it is of one.
    pub round_id: Option<u64>,
    /// The note, where it is of one.
    pub note_id: Option<u64>,
    /// The observation it shows.
    pub observation_id: Option<u64>,
    /// In pixels.
    pub width: u32,
    /// In pixels.
    pub height: u32,
    /// When it was taken.
    pub taken_at: DateTime<Utc>,
    /// What was drawn on it.
    pub strokes: Vec<Stroke>,
}

/// A photograph as its row holds it.
pub(crate) struct StoredPhotograph {
    pub(crate) id: u64,
    pub(crate) round_id: Option<u64>,
    pub(crate) note_id: Option<u64>,
    pub(crate) observation_id: Option<u64>,
    pub(crate) width: u32,
    pub(crate) height: u32,
    pub(crate) taken_at: NaiveDateTime,
    pub(crate) strokes: String,
}

impl TryFrom<StoredPhotograph> for PhotographRow {
    type Error = StoreError;

    fn try_from(row: StoredPhotograph) -> Result<Self> {
        Ok(Self {
            id: row.id,
            round_id: row.round_id,
            note_id: row.note_id,
            observation_id: row.observation_id,
            width: row.width,
            height: row.height,
            taken_at: row.taken_at.and_utc(),
            strokes: read("drawing", &row.strokes)?,
        })
    }
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
        let id = insert_photograph(&mut tx, (Some(round), None), new, once).await?;
        note(&mut tx, once, "photographed", "photographs", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The photographs of an order's rounds, oldest first, without their pictures.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn photographs(&self, order: u64) -> Result<Vec<PhotographRow>> {
        let rows = sqlx::query_as!(
            StoredPhotograph,
            "SELECT p.id, p.round_id, p.note_id, p.observation_id, p.width, p.height, p.taken_at, \
               CAST(p.strokes AS CHAR) AS \"strokes!: String\" FROM photographs p \
             JOIN rounds r ON r.id = p.round_id WHERE r.order_id = ? AND p.removed_at IS NULL ORDER BY p.id",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter().map(PhotographRow::try_from).collect()
    }

    /// The picture itself.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn picture(&self, id: u64) -> Result<Vec<u8>> {
        let row = sqlx::query!(
            "SELECT f.image FROM photographs f LEFT JOIN client_notes n ON n.id = f.note_id \
             WHERE f.id = ? AND f.removed_at IS NULL AND n.removed_at IS NULL",
            id
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(|row| row.image).ok_or(StoreError::NotFound { what: "photograph", id })
    }

    /// Keeps what is drawn on a photograph.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn draw_on_photograph(&self, id: u64, strokes: &[Stroke], once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "photographs").await?.is_some() {
            return Ok(());
        }
        sqlx::query!("SELECT id FROM photographs WHERE id = ? AND removed_at IS NULL FOR UPDATE", id)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "photograph", id })?;
        sqlx::query!("UPDATE photographs SET strokes = ? WHERE id = ?", write("drawing", &strokes)?, id)
            .execute(&mut *tx)
            .await?;
        count_change(&mut tx, id).await?;
        note(&mut tx, once, "drawn on", "photographs", id).await?;
        Ok(tx.commit().await?)
    }

    /// Takes a photograph out, or puts it back.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn take_out_photograph(&self, id: u64, out: bool, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        take_out(&mut tx, Removable::Photograph, id, out).await?;
        count_change(&mut tx, id).await?;
        note(&mut tx, once, deed(out), "photographs", id).await?;
        Ok(tx.commit().await?)
    }
}

/// Whoever watches the photograph's round hears of it.
async fn count_change(tx: &mut Tx, photograph: u64) -> Result<()> {
    sqlx::query!(
        "UPDATE rounds SET changes = changes + 1 WHERE id = (SELECT round_id FROM photographs WHERE id = ?)",
        photograph
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

/// Keeps a photograph of a round or of a note.
pub(crate) async fn insert_photograph(
    tx: &mut Tx,
    (round, of_note): (Option<u64>, Option<u64>),
    new: &NewPhotograph,
    once: Once<'_>,
) -> Result<u64> {
    let added = sqlx::query!(
        "INSERT INTO photographs (round_id, note_id, observation_id, image, width, height, taken_at, made_by) \
         VALUES (?, ?, ?, ?, ?, ?, ?, ?)",
        round,
        of_note,
        new.observation,
        new.image,
        new.width,
        new.height,
        new.taken_at.naive_utc(),
        once.person
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}
