//! Notes about a client outside a fitting, with their photographs.

use chrono::{DateTime, Utc};

use crate::audit::{Once, note, saved_before};
use crate::photographs::{StoredPhotograph, insert_photograph};
use crate::taking_out::{Removable, deed, take_out};
use crate::{NewPhotograph, PhotographRow, Result, Store, StoreError};

/// A note.
#[derive(Clone, Debug, PartialEq)]
pub struct NoteRow {
    /// Number.
    pub id: u64,
    /// What was written.
    pub words: String,
    /// Who wrote it.
    pub written_by: String,
    /// When.
    pub written_at: DateTime<Utc>,
    /// Its photographs, oldest first.
    pub photographs: Vec<PhotographRow>,
}

impl Store {
    /// Keeps a note about a client.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client.
    pub async fn add_note(&self, client: u64, words: &str, once: Once<'_>) -> Result<u64> {
        self.client(client).await?;
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "client_notes").await? {
            return Ok(id);
        }
        let added = sqlx::query!(
            "INSERT INTO client_notes (client_id, words, written_by) VALUES (?, ?, ?)",
            client,
            words,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "written", "client_notes", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Takes a note out with its photographs, or puts it back.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn take_out_note(&self, id: u64, out: bool, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        take_out(&mut tx, Removable::Note, id, out).await?;
        note(&mut tx, once, deed(out), "client_notes", id).await?;
        Ok(tx.commit().await?)
    }

    /// Keeps a photograph of a note.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn add_note_photograph(&self, of: u64, new: &NewPhotograph, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "photographs").await? {
            return Ok(id);
        }
        sqlx::query!("SELECT id FROM client_notes WHERE id = ? AND removed_at IS NULL FOR UPDATE", of)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "note", id: of })?;
        let id = insert_photograph(&mut tx, (None, Some(of)), new, once).await?;
        note(&mut tx, once, "photographed", "photographs", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The notes about a client, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn notes(&self, client: u64) -> Result<Vec<NoteRow>> {
        let rows = sqlx::query!(
            "SELECT n.id, n.words, p.name AS written_by, n.written_at FROM client_notes n \
             JOIN people p ON p.id = n.written_by WHERE n.client_id = ? AND n.removed_at IS NULL ORDER BY n.id DESC",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let stored = sqlx::query_as!(
            StoredPhotograph,
            "SELECT f.id, f.round_id, f.note_id, f.observation_id, f.width, f.height, f.taken_at, \
               CAST(f.strokes AS CHAR) AS \"strokes!: String\" FROM photographs f \
             JOIN client_notes n ON n.id = f.note_id WHERE n.client_id = ? AND f.removed_at IS NULL ORDER BY f.id",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let photographs: Vec<PhotographRow> =
            stored.into_iter().map(PhotographRow::try_from).collect::<Result<_>>()?;
        let row = rows.into_iter().map(|r| NoteRow {
            photographs: photographs.iter().filter(|each| each.note_id == Some(r.id)).cloned().collect(),
            id: r.id,
            words: r.words,
            written_by: r.written_by,
            written_at: r.written_at.and_utc(),
        });
        Ok(row.collect())
    }
}
