//! Letters: reminders as they were written, and whether they went out. The simulated outbox that ships with the
//! application is this table.

use chrono::{DateTime, NaiveDate, NaiveDateTime, Utc};

use crate::{Result, Store};

/// A reminder as it is written.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewLetter {
    /// The visit it reminds of.
    pub visit_id: u64,
    /// On which date it was when it was written: a visit that moves gets another letter.
    pub on_day: NaiveDate,
    /// Her name.
    pub to_name: String,
    /// Her address; empty where none is known.
    pub to_address: String,
    /// The subject.
    pub subject: String,
    /// The letter.
    pub body: String,
}

/// A letter.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct LetterRow {
    /// Number.
    pub id: u64,
    /// The letter itself.
    pub letter: NewLetter,
    /// When it was written.
    pub written_at: DateTime<Utc>,
    /// When it went out.
    pub sent_at: Option<DateTime<Utc>>,
    /// Why it did not, as far as that is known.
    pub failed: String,
}

/// A letter as its columns hold it.
struct Columns {
    id: u64,
    visit_id: u64,
    on_day: NaiveDate,
    to_name: String,
    to_address: String,
    subject: String,
    body: String,
    written_at: NaiveDateTime,
    sent_at: Option<NaiveDateTime>,
    failed: String,
}

impl From<Columns> for LetterRow {
    fn from(r: Columns) -> Self {
        Self {
            id: r.id,
            letter: NewLetter {
                visit_id: r.visit_id,
                on_day: r.on_day,
                to_name: r.to_name,
                to_address: r.to_address,
                subject: r.subject,
                body: r.body,
            },
            written_at: r.written_at.and_utc(),
            sent_at: r.sent_at.map(|at| at.and_utc()),
            failed: r.failed,
        }
    }
}

impl Store {
    /// Writes letters; of one visit and date only one, whoever writes it. Says how many were new.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn write_letters(&self, letters: &[NewLetter]) -> Result<u64> {
        let mut tx = self.begin().await?;
        let mut new = 0;
        for letter in letters {
            let added = sqlx::query!(
                "INSERT IGNORE INTO letters (visit_id, on_day, to_name, to_address, subject, body) VALUES (?, ?, ?, ?, ?, ?)",
                letter.visit_id,
                letter.on_day,
                letter.to_name,
                letter.to_address,
                letter.subject,
                letter.body
            )
            .execute(&mut *tx)
            .await?;
            new += added.rows_affected();
        }
        tx.commit().await?;
        Ok(new)
    }

    /// How many letters wait to be sent.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn letters_waiting(&self) -> Result<i64> {
        let row = sqlx::query!(
            "SELECT COUNT(*) AS \"waiting!: i64\" FROM letters \
             WHERE sent_at IS NULL AND to_address <> '' AND on_day >= UTC_DATE()"
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(row.waiting)
    }

    /// The newest letters, at most so many.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn letters(&self, most: u32) -> Result<Vec<LetterRow>> {
        let rows = sqlx::query_as!(
            Columns,
            "SELECT id, visit_id, on_day, to_name, to_address, subject, body, written_at, sent_at, failed \
             FROM letters ORDER BY id DESC LIMIT ?",
            most
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(LetterRow::from).collect())
    }

    /// Takes the oldest letter that has an address, has not gone out and whose date is not past, for sending: where the
    /// visit still is on that day and the garment was not cancelled. No server
    /// gets it again before `again` minutes are over: whether it failed or its server did.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn letter_to_send(&self, again: u32) -> Result<Option<LetterRow>> {
        let mut tx = self.begin().await?;
        let row = sqlx::query_as!(
            Columns,
            "SELECT id, visit_id, on_day, to_name, to_address, subject, body, written_at, sent_at, failed \
             FROM letters l WHERE sent_at IS NULL AND to_address <> '' AND on_day >= UTC_DATE() \
             AND EXISTS (SELECT 1 FROM visits v JOIN orders o ON o.id = v.order_id WHERE v.id = l.visit_id \
               AND v.on_day = l.on_day AND (o.put_away IS NULL OR o.put_away <> 'cancelled')) \
             AND (taken_at IS NULL OR taken_at <= UTC_TIMESTAMP(3) - INTERVAL ? MINUTE) \
             ORDER BY id LIMIT 1 FOR UPDATE SKIP LOCKED",
            again
        )
        .fetch_optional(&mut *tx)
        .await?;
        let Some(r) = row else { return Ok(None) };
        sqlx::query!("UPDATE letters SET taken_at = UTC_TIMESTAMP(3) WHERE id = ?", r.id)
            .execute(&mut *tx)
            .await?;
        tx.commit().await?;
        Ok(Some(r.into()))
    }

    /// Notes that a letter went out, or why it did not.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn letter_went(&self, id: u64, failed: Option<&str>) -> Result<()> {
        sqlx::query!(
            "UPDATE letters SET sent_at = IF(? IS NULL, UTC_TIMESTAMP(3), NULL), failed = COALESCE(?, '') WHERE id = ?",
            failed,
            failed,
            id
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }
}
