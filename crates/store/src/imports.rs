//! Files of readings on their way in: kept until they are saved or given up, so that any server may go on with them.

use chrono::{NaiveDate, NaiveTime};
use yardwand_core::Unit;

use crate::audit::{Once, note, saved_before};
use crate::jobs::{Job, insert_job};
use crate::readings::{NewReading, insert_reading};
use crate::sessions::unit_code;
use crate::{Result, Store, StoreError, Tx};

/// Where an import stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum ImportState {
    /// Looked at; nothing is saved.
    Preview,
    /// Being saved.
    Running,
    /// To be given up.
    Stopping,
    /// Saved.
    Done,
    /// Given up: nothing of it is left.
    Cancelled,
    /// It failed: nothing of it is left.
    Failed,
}

impl ImportState {
    /// Stable name.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Preview => "preview",
            Self::Running => "running",
            Self::Stopping => "stopping",
            Self::Done => "done",
            Self::Cancelled => "cancelled",
            Self::Failed => "failed",
        }
    }

    fn from_code(code: &str) -> Self {
        [Self::Running, Self::Stopping, Self::Done, Self::Cancelled, Self::Failed]
            .into_iter()
            .find(|state| state.code() == code)
            .unwrap_or(Self::Preview)
    }
}

/// A file of readings.
#[derive(Clone, Debug, PartialEq)]
pub struct ImportRow {
    /// Number.
    pub id: u64,
    /// The file's name.
    pub file_name: String,
    /// Its text.
    pub content: String,
    /// Where it stands.
    pub state: ImportState,
    /// Readings to save.
    pub total: u32,
    /// Readings saved.
    pub done: u32,
}

/// Whose readings of a file are.
#[derive(Clone, Debug, PartialEq, Eq, PartialOrd, Ord)]
pub enum ImportedClient {
    /// A client of the book.
    Known(u64),
    /// A client of this name who is new in the book.
    New(String),
}

/// The readings of one client and one day.
#[derive(Clone, Debug, PartialEq)]
pub struct ImportedSession {
    /// Whose they are.
    pub client: ImportedClient,
    /// The day.
    pub taken_on: NaiveDate,
    /// The unit of the file.
    pub unit: Unit,
    /// What was read.
    pub readings: Vec<NewReading>,
}

impl Store {
    /// Keeps a file to look at.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn add_import(&self, file_name: &str, content: &str, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "imports").await? {
            return Ok(id);
        }
        let added = sqlx::query!(
            "INSERT INTO imports (file_name, content, made_by) VALUES (?, ?, ?)",
            file_name,
            content,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, once, "brought in", "imports", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// A file of readings.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn import(&self, id: u64) -> Result<ImportRow> {
        let row = sqlx::query!("SELECT file_name, content, state, total, done FROM imports WHERE id = ?", id)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound { what: "file", id })?;
        Ok(ImportRow {
            id,
            file_name: row.file_name,
            content: row.content,
            state: ImportState::from_code(&row.state),
            total: row.total,
            done: row.done,
        })
    }

    /// Moves an import on, if it stands where the caller thinks. False where it does not.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn move_import(&self, id: u64, from: ImportState, to: ImportState) -> Result<bool> {
        // A finished file is not kept: body data stays where it belongs.
        let moved = sqlx::query!(
            "UPDATE imports SET state = ?, touched_at = UTC_TIMESTAMP(3), content = IF(? IN ('preview', 'running', 'stopping'), content, '') \
             WHERE id = ? AND state = ?",
            to.code(),
            to.code(),
            id,
            from.code()
        )
        .execute(&self.pool)
        .await?;
        Ok(moved.rows_affected() > 0)
    }

    /// A file that was looked at is to be saved, as long work. False where it is being saved or was.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn begin_import(&self, id: u64, total: u32, by: u64) -> Result<bool> {
        let mut tx = self.begin().await?;
        let begun = sqlx::query!(
            "UPDATE imports SET state = 'running', total = ?, touched_at = UTC_TIMESTAMP(3) WHERE id = ? AND state = 'preview'",
            total,
            id
        )
        .execute(&mut *tx)
        .await?;
        if begun.rows_affected() == 0 {
            return Ok(false);
        }
        insert_job(&mut tx, Job::Import(id), by).await?;
        tx.commit().await?;
        Ok(true)
    }

    /// Saves some of an import's sessions together while it runs: all of them or none. False once it is to be given up. Those that are
    /// there already stay as they are: whoever goes on with a file begins at its first line.
    ///
    /// Together, because each transaction waits for the disk: one by one, five thousand days take a minute or more.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn import_sessions(&self, import: u64, sessions: &[ImportedSession], by: u64) -> Result<bool> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!("SELECT state FROM imports WHERE id = ? FOR UPDATE", import)
            .fetch_one(&mut *tx)
            .await?;
        if ImportState::from_code(&row.state) != ImportState::Running {
            return Ok(false);
        }
        let mut readings = 0;
        for session in sessions {
            if import_session(&mut tx, import, session, Once::by(by)).await? {
                readings += session.readings.len();
            }
        }
        sqlx::query!(
            "UPDATE imports SET done = done + ?, touched_at = UTC_TIMESTAMP(3) WHERE id = ?",
            readings as u32,
            import
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(true)
    }

    /// Takes back everything an import has saved.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn undo_import(&self, import: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        sqlx::query!("DELETE FROM sessions WHERE import_id = ?", import).execute(&mut *tx).await?;
        sqlx::query!(
            "DELETE FROM clients WHERE import_id = ? AND NOT EXISTS (SELECT 1 FROM sessions s WHERE s.client_id = clients.id) \
             AND NOT EXISTS (SELECT 1 FROM orders o WHERE o.client_id = clients.id)",
            import
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!("UPDATE imports SET done = 0 WHERE id = ?", import).execute(&mut *tx).await?;
        Ok(tx.commit().await?)
    }

    /// Empties files that were looked at and never saved, after a day.
    pub(crate) async fn forget_left_imports(&self) -> Result<()> {
        sqlx::query!(
            "UPDATE imports SET content = '', answers = NULL, state = 'cancelled' \
             WHERE state = 'preview' AND touched_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY"
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// What was answered about a file that is looked at: a document of the caller's. Nothing before the first answer.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn import_answers(&self, id: u64) -> Result<Option<String>> {
        let row = sqlx::query!(
            "SELECT CAST(answers AS CHAR) AS \"answers?: String\" FROM imports WHERE id = ?",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "file", id })?;
        Ok(row.answers)
    }

    /// Keeps what was answered about a file that is looked at.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] once it is being saved.
    pub async fn answer_import(&self, id: u64, answers: &str) -> Result<()> {
        let kept = sqlx::query!(
            "UPDATE imports SET answers = ?, touched_at = UTC_TIMESTAMP(3) WHERE id = ? AND state = 'preview'",
            answers,
            id
        )
        .execute(&self.pool)
        .await?;
        if kept.rows_affected() == 0 {
            return Err(StoreError::Refused("this file is being saved or was: bring it in again"));
        }
        Ok(())
    }

    /// Number, name and contact of every client: who the names of a file may be. Those that the file itself has brought in are left
    /// out: what is gone on with is read as it was at first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn everyone_but_of(&self, import: u64) -> Result<Vec<(u64, String, String)>> {
        let rows = sqlx::query!(
            "SELECT id, name, contact FROM clients WHERE merged_into IS NULL AND form_id IS NULL AND NOT import_id <=> ? ORDER BY name, id",
            import
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|r| (r.id, r.name, r.contact)).collect())
    }

    /// Figures a client already has but for those of this file: day, measurement, side, millimetres.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn figures_but_of(
        &self,
        import: u64,
        client: u64,
    ) -> Result<Vec<(NaiveDate, String, String, f64)>> {
        let rows = sqlx::query!(
            "SELECT s.started_at, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\" \
             FROM sessions s JOIN readings r ON r.session_id = s.id WHERE s.client_id = ? AND s.dropped_at IS NULL AND r.replaced_by IS NULL \
               AND NOT s.import_id <=> ?",
            client,
            import
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|r| (r.started_at.date(), r.code, r.side, r.mm)).collect())
    }

    /// The mapping that was last used for files with these columns.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn remembered_mapping(&self, header_hash: &[u8]) -> Result<Option<String>> {
        let row = sqlx::query!(
            "SELECT CAST(mapping AS CHAR) AS \"mapping!: String\" FROM import_mappings WHERE header_hash = ?",
            header_hash
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| row.mapping))
    }

    /// Remembers a mapping for files with these columns.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn remember_mapping(&self, header_hash: &[u8], mapping: &str) -> Result<()> {
        sqlx::query!(
            "REPLACE INTO import_mappings (header_hash, mapping) VALUES (?, ?)",
            header_hash,
            mapping
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}

/// Saves one client's day of an import; false where it is saved already.
async fn import_session(tx: &mut Tx, import: u64, session: &ImportedSession, once: Once<'_>) -> Result<bool> {
    let client = match &session.client {
        ImportedClient::Known(id) => *id,
        ImportedClient::New(name) => new_client(tx, import, name, once).await?,
    };
    let noon = session.taken_on.and_time(NaiveTime::from_hms_opt(12, 0, 0).unwrap_or_default());
    let there = sqlx::query!(
        "SELECT id FROM sessions WHERE import_id = ? AND client_id = ? AND started_at = ? LIMIT 1",
        import,
        client,
        noon
    )
    .fetch_optional(&mut **tx)
    .await?;
    if there.is_some() {
        return Ok(false);
    }
    let codes: Vec<&String> = session.readings.iter().map(|reading| &reading.code).collect();
    let added = sqlx::query!(
        "INSERT INTO sessions (client_id, set_code, set_name, codes, unit, measurer_id, started_at, closed_at, import_id) \
         VALUES (?, 'brought_in', 'Brought in from a file', ?, ?, ?, ?, ?, ?)",
        client,
        crate::error::write("measurement set", &codes)?,
        unit_code(session.unit),
        once.person,
        noon,
        noon,
        import
    )
    .execute(&mut **tx)
    .await?;
    let id = added.last_insert_id();
    for reading in &session.readings {
        insert_reading(tx, id, reading, once.person, Some(noon)).await?;
    }
    note(tx, once, "brought in", "sessions", id).await?;
    Ok(true)
}

/// The client of this name whom the import has added already, or adds now: her other days in the same file come to
/// the same client.
async fn new_client(tx: &mut Tx, import: u64, name: &str, once: Once<'_>) -> Result<u64> {
    let made =
        sqlx::query!("SELECT id FROM clients WHERE import_id = ? AND BINARY name = ? LIMIT 1", import, name)
            .fetch_optional(&mut **tx)
            .await?;
    if let Some(row) = made {
        return Ok(row.id);
    }
    let added = sqlx::query!(
        "INSERT INTO clients (name, contact, notes, import_id) VALUES (?, '', '', ?)",
        name,
        import
    )
    .execute(&mut **tx)
    .await?;
    note(tx, once, "added", "clients", added.last_insert_id()).await?;
    Ok(added.last_insert_id())
}
