//! Measuring sessions: opening, leaving out, signing. What the tape said is in `readings`.

use chrono::{DateTime, Utc};
use yardwand_core::Unit;
use yardwand_core::alter::Recipe;

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::patterns::set_recipe;
use crate::readings::{NewReading, insert_reading};
use crate::{Result, Store, StoreError};

/// A measuring session.
#[derive(Clone, Debug, PartialEq)]
pub struct SessionRow {
    /// Number.
    pub id: u64,
    /// The client.
    pub client_id: u64,
    /// Code of its measurement set.
    pub set_code: String,
    /// Name of its measurement set, as it was then.
    pub set_name: String,
    /// What is measured, in the order of the route, as the set was then. `None` in the oldest sessions.
    pub codes: Option<Vec<String>>,
    /// The unit meant where a reading names none.
    pub unit: Unit,
    /// What she wore under the tape; empty where that was not said.
    pub foundation: String,
    /// Who measures.
    pub measurer: String,
    /// When it began.
    pub started_at: DateTime<Utc>,
    /// When it was closed.
    pub closed_at: Option<DateTime<Utc>>,
    /// Who signed it.
    pub signed: Option<String>,
    /// Grows with every change: what watchers compare.
    pub changes: u32,
    /// When it was dropped: its readings do not count.
    pub dropped_at: Option<DateTime<Utc>>,
    /// Why it was dropped.
    pub dropped_why: String,
}

/// A session about to be opened.
#[derive(Clone, Copy, Debug)]
pub struct NewSession<'a> {
    /// The client.
    pub client: u64,
    /// The garment it is begun for.
    pub order: Option<u64>,
    /// Code of its measurement set.
    pub set_code: &'a str,
    /// Its name.
    pub set_name: &'a str,
    /// What is to be measured, in the order of the route.
    pub codes: &'a [String],
    /// The unit meant where a reading names none.
    pub unit: Unit,
}

/// A reading left out, with the reason.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SkipRow {
    /// Code of the measurement.
    pub code: String,
    /// Why.
    pub reason: String,
}

pub(crate) const fn unit_code(unit: Unit) -> &'static str {
    match unit {
        Unit::Inch => "inch",
        Unit::Cm => "cm",
        Unit::Mm => "mm",
    }
}

pub(crate) fn unit_from(code: &str) -> Unit {
    match code {
        "inch" => Unit::Inch,
        "mm" => Unit::Mm,
        _ => Unit::Cm,
    }
}

impl Store {
    /// Opens a session.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client, [`StoreError::Refused`] for another client's garment, and for a dress form.
    pub async fn open_session(&self, new: NewSession<'_>, once: Once<'_>) -> Result<u64> {
        if self.client(new.client).await?.form_id.is_some() {
            return Err(StoreError::Refused("this is a dress form: its own figures are entered on its page"));
        }
        if let Some(order) = new.order
            && self.order(order).await?.order.client_id != new.client
        {
            return Err(StoreError::Refused("this garment is another client's: measure her for her own"));
        }
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "sessions").await? {
            return Ok(id);
        }
        let id = insert_session(&mut tx, &new, once.person).await?;
        note(&mut tx, once, "opened", "sessions", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Writes down what she wishes of a garment, and the recipe that carries it, in one go: the readings as a session of their own,
    /// signed at once; without readings only the recipe. `saw` is the revision of the pattern the change was based on; the new one is
    /// given back.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`]; nothing is kept then.
    pub async fn write_wishes(
        &self,
        new: NewSession<'_>,
        readings: &[NewReading],
        signed: &str,
        (pattern, recipe, saw): (u64, &Recipe, u32),
        once: Once<'_>,
    ) -> Result<u32> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "patterns").await?.is_some() {
            return Ok(saw + 1);
        }
        let revision = set_recipe(&mut tx, pattern, recipe, saw).await?;
        if !readings.is_empty() {
            let session = insert_session(&mut tx, &new, once.person).await?;
            for reading in readings {
                insert_reading(&mut tx, session, reading, once.person, None).await?;
            }
            sign(&mut tx, session, signed).await?;
            note(&mut tx, Once::by(once.person), "closed", "sessions", session).await?;
        }
        note(&mut tx, once, "changed recipe", "patterns", pattern).await?;
        tx.commit().await?;
        Ok(revision)
    }

    /// One session.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn session(&self, id: u64) -> Result<SessionRow> {
        let found = self.sessions_where(None, Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "session", id })
    }

    /// A client's sessions that count, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn sessions(&self, client: u64) -> Result<Vec<SessionRow>> {
        let mut found = self.sessions_where(Some(client), None).await?;
        found.retain(|row| row.dropped_at.is_none());
        Ok(found)
    }

    /// A client's sessions that were dropped, newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn dropped_sessions(&self, client: u64) -> Result<Vec<SessionRow>> {
        let mut found = self.sessions_where(Some(client), None).await?;
        found.retain(|row| row.dropped_at.is_some());
        Ok(found)
    }

    async fn sessions_where(&self, client: Option<u64>, id: Option<u64>) -> Result<Vec<SessionRow>> {
        let rows = sqlx::query!(
            "SELECT s.id, s.client_id, s.set_code, s.set_name, CAST(s.codes AS CHAR) AS \"codes?: String\", s.unit, s.foundation, \
                    p.name AS measurer, s.started_at, s.closed_at, s.signed, s.changes, s.dropped_at, s.dropped_why \
             FROM sessions s JOIN people p ON p.id = s.measurer_id \
             WHERE (? IS NULL OR s.client_id = ?) AND (? IS NULL OR s.id = ?) ORDER BY s.started_at DESC, s.id DESC",
            client,
            client,
            id,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(SessionRow {
                    id: r.id,
                    client_id: r.client_id,
                    set_code: r.set_code,
                    set_name: r.set_name,
                    codes: r.codes.map(|codes| read("measurement set", &codes)).transpose()?,
                    unit: unit_from(&r.unit),
                    foundation: r.foundation,
                    measurer: r.measurer,
                    started_at: r.started_at.and_utc(),
                    closed_at: r.closed_at.map(|at| at.and_utc()),
                    signed: r.signed,
                    changes: r.changes,
                    dropped_at: r.dropped_at.map(|at| at.and_utc()),
                    dropped_why: r.dropped_why,
                })
            })
            .collect()
    }

    /// How often a session has changed: what watchers compare.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn session_changes(&self, id: u64) -> Result<u32> {
        let row = sqlx::query!("SELECT changes FROM sessions WHERE id = ?", id)
            .fetch_optional(&self.pool)
            .await?
            .ok_or(StoreError::NotFound { what: "session", id })?;
        Ok(row.changes)
    }

    /// Drops a session: its readings count no longer, and it can be brought back.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for one that is dropped already, [`StoreError::NotFound`].
    pub async fn drop_session(&self, id: u64, why: &str, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!("SELECT dropped_at FROM sessions WHERE id = ? FOR UPDATE", id)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "session", id })?;
        if row.dropped_at.is_some() {
            return Err(StoreError::Refused("this session is dropped already"));
        }
        sqlx::query!(
            "UPDATE sessions SET dropped_at = UTC_TIMESTAMP(3), dropped_why = ?, changes = changes + 1 WHERE id = ?",
            why,
            id
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!("DELETE FROM tapes WHERE session_id = ?", id).execute(&mut *tx).await?;
        note(&mut tx, once, "dropped", "sessions", id).await?;
        Ok(tx.commit().await?)
    }

    /// Brings a dropped session back.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it is not dropped, or is open and its garment has another open one by now;
    /// [`StoreError::NotFound`].
    pub async fn restore_session(&self, id: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let row =
            sqlx::query!("SELECT dropped_at, closed_at, order_id FROM sessions WHERE id = ? FOR UPDATE", id)
                .fetch_optional(&mut *tx)
                .await?
                .ok_or(StoreError::NotFound { what: "session", id })?;
        if row.dropped_at.is_none() {
            return Err(StoreError::Refused("this session is not dropped"));
        }
        let other = sqlx::query!(
            "SELECT id FROM sessions WHERE order_id = ? AND closed_at IS NULL AND dropped_at IS NULL LIMIT 1",
            row.order_id
        )
        .fetch_optional(&mut *tx)
        .await?;
        if row.closed_at.is_none() && other.is_some() {
            return Err(StoreError::Refused(
                "another session of this garment is open: close or drop that one first",
            ));
        }
        sqlx::query!(
            "UPDATE sessions SET dropped_at = NULL, dropped_why = '', changes = changes + 1 WHERE id = ?",
            id
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "brought back", "sessions", id).await?;
        Ok(tx.commit().await?)
    }

    /// Writes down what she wears under the tape.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed session.
    pub async fn set_foundation(&self, session: u64, foundation: &str, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "sessions").await?.is_some() {
            return Ok(());
        }
        change_open(&mut tx, session).await?;
        sqlx::query!("UPDATE sessions SET foundation = ? WHERE id = ?", foundation, session)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "said the foundation of", "sessions", session).await?;
        Ok(tx.commit().await?)
    }

    /// Leaves a reading out, with the reason.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed session.
    pub async fn skip(&self, session: u64, code: &str, reason: &str, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "sessions").await?.is_some() {
            return Ok(());
        }
        change_open(&mut tx, session).await?;
        sqlx::query!(
            "REPLACE INTO skipped_readings (session_id, code, reason) VALUES (?, ?, ?)",
            session,
            code,
            reason
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "skipped a reading", "sessions", session).await?;
        Ok(tx.commit().await?)
    }

    /// Closes and signs a session: its readings stand as they are.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where it is closed already.
    pub async fn close_session(&self, session: u64, signed: &str, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "sessions").await?.is_some() {
            return Ok(());
        }
        change_open(&mut tx, session).await?;
        sign(&mut tx, session, signed).await?;
        sqlx::query!("DELETE FROM tapes WHERE session_id = ?", session).execute(&mut *tx).await?;
        note(&mut tx, once, "closed", "sessions", session).await?;
        Ok(tx.commit().await?)
    }

    /// What was left out of a session.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn skipped(&self, session: u64) -> Result<Vec<SkipRow>> {
        let rows = sqlx::query_as!(
            SkipRow,
            "SELECT code, reason FROM skipped_readings WHERE session_id = ? ORDER BY code",
            session
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows)
    }
}

/// Adds a session in a transaction.
async fn insert_session(tx: &mut crate::Tx, new: &NewSession<'_>, by: u64) -> Result<u64> {
    let added = sqlx::query!(
        "INSERT INTO sessions (client_id, order_id, set_code, set_name, codes, unit, measurer_id) VALUES (?, ?, ?, ?, ?, ?, ?)",
        new.client,
        new.order,
        new.set_code,
        new.set_name,
        write("measurement set", &new.codes)?,
        unit_code(new.unit),
        by
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}

async fn sign(tx: &mut crate::Tx, session: u64, signed: &str) -> Result<()> {
    sqlx::query!(
        "UPDATE sessions SET closed_at = UTC_TIMESTAMP(3), signed = ? WHERE id = ?",
        signed,
        session
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

/// Locks a session that is still open, and counts the change that is about to be made.
pub(crate) async fn change_open(tx: &mut crate::Tx, id: u64) -> Result<()> {
    let row = sqlx::query!("SELECT closed_at, dropped_at FROM sessions WHERE id = ? FOR UPDATE", id)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound { what: "session", id })?;
    if row.dropped_at.is_some() {
        return Err(StoreError::Refused("this session was dropped: bring it back, or open a new one"));
    }
    if row.closed_at.is_some() {
        return Err(StoreError::Refused("this session is closed: open a new one to measure again"));
    }
    sqlx::query!("UPDATE sessions SET changes = changes + 1 WHERE id = ?", id).execute(&mut **tx).await?;
    Ok(())
}
