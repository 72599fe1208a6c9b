//! Digital tapes: what a paired tape says now. A live state, not a history: a held length becomes a reading only when
//! the measurer takes it over.

use chrono::{NaiveDateTime, TimeDelta, Utc};
use yardwand_core::Unit;

use crate::sessions::{unit_code, unit_from};
use crate::{Result, Store};

/// A tape that has said nothing for this long is not there.
const GONE_AFTER: TimeDelta = TimeDelta::seconds(2);

/// What a tape says.
#[derive(Clone, Debug, PartialEq)]
pub struct TapeRow {
    /// Grows with every word of the tape.
    pub seq: u32,
    /// The length, as the tape writes it.
    pub typed: String,
    /// The tape's unit.
    pub unit: Unit,
    /// The last word with the hold button pressed; 0 for none.
    pub held_seq: u32,
    /// It has spoken within the last two seconds: told here, so that a tape that falls silent is something new.
    pub alive: bool,
}

/// Whether a tape that spoke then is still there.
pub(crate) fn is_alive(said_at: Option<NaiveDateTime>) -> bool {
    said_at.is_some_and(|at| Utc::now() - at.and_utc() < GONE_AFTER)
}

impl Store {
    /// Pairs a tape with a session; an earlier tape of the session is let go.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::NotFound`] for an unknown session.
    pub async fn pair_tape(&self, session: u64, token_hash: &[u8]) -> Result<()> {
        self.session(session).await?;
        sqlx::query!("REPLACE INTO tapes (session_id, token_hash) VALUES (?, ?)", session, token_hash)
            .execute(&self.pool)
            .await?;
        Ok(())
    }

    /// Lets the tape of a session go.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn unpair_tape(&self, session: u64) -> Result<()> {
        sqlx::query!("DELETE FROM tapes WHERE session_id = ?", session).execute(&self.pool).await?;
        Ok(())
    }

    /// What a tape says now. False where no session knows it.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn tape_says(&self, token_hash: &[u8], typed: &str, unit: Unit, held: bool) -> Result<bool> {
        // The assignments run from left to right: held_seq sees the new seq.
        let said = sqlx::query!(
            "UPDATE tapes SET seq = seq + 1, typed = ?, unit = ?, held_seq = IF(?, seq, held_seq), \
             said_at = UTC_TIMESTAMP(3) WHERE token_hash = ?",
            typed,
            unit_code(unit),
            held,
            token_hash
        )
        .execute(&self.pool)
        .await?;
        Ok(said.rows_affected() > 0)
    }

    /// The tape of a session.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn tape(&self, session: u64) -> Result<Option<TapeRow>> {
        let row = sqlx::query!(
            "SELECT seq, typed, unit, held_seq, said_at FROM tapes WHERE session_id = ?",
            session
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|r| TapeRow {
            seq: r.seq,
            typed: r.typed,
            unit: unit_from(&r.unit),
            held_seq: r.held_seq,
            alive: is_alive(r.said_at),
        }))
    }
}
