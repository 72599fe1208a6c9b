//! The audit row of a change, and saving once what is sent twice. Both in the change's transaction.

use crate::{Result, Store, StoreError, Tx};

/// Who writes, and the key that marks a retried write as the same one.
#[derive(Clone, Copy, Debug)]
pub struct Once<'a> {
    /// The person writing.
    pub person: u64,
    /// The write's key; without one a retry saves again.
    pub key: Option<&'a str>,
    /// Digest of the endpoint and the body the key stands for: a key answers only for the write it was made for.
    pub fingerprint: Option<[u8; 32]>,
}

impl<'a> Once<'a> {
    /// A write without a key.
    pub fn by(person: u64) -> Self {
        Self { person, key: None, fingerprint: None }
    }

    /// A write with its key.
    pub fn keyed(person: u64, key: Option<&'a str>) -> Self {
        Self { person, key, fingerprint: None }
    }

    /// The same, for exactly this endpoint and body.
    #[must_use]
    pub fn of(self, fingerprint: Option<[u8; 32]>) -> Self {
        Self { fingerprint, ..self }
    }
}

/// A change as it was noted.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Change {
    /// What was done.
    pub what: String,
    /// Who did it.
    pub person_id: Option<u64>,
}

impl Store {
    /// What was done to a row, oldest first.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn changes(&self, table: &str, id: u64) -> Result<Vec<Change>> {
        let rows = sqlx::query_as!(
            Change,
            "SELECT what, person_id FROM audit WHERE of_table = ? AND of_id = ? ORDER BY id",
            table,
            id
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows)
    }

    pub(crate) async fn begin(&self) -> Result<Tx> {
        Ok(self.pool.begin().await?)
    }
}

/// The number saved under this key before, if it was. Otherwise the key is taken until the transaction
/// ends, and a twin that arrives meanwhile waits for it.
///
/// # Errors
///
/// [`StoreError::KeyUsed`] where the key was made for another endpoint or another body.
pub(crate) async fn saved_before(tx: &mut Tx, once: Once<'_>, table: &str) -> Result<Option<u64>> {
    let Some(key) = once.key else { return Ok(None) };
    let taken = sqlx::query!(
        "INSERT IGNORE INTO saved_once (idempotency_key, person_id, of_table, of_id, fingerprint) VALUES (?, ?, ?, 0, ?)",
        key,
        once.person,
        table,
        once.fingerprint.as_ref().map(<[u8; 32]>::as_slice)
    )
    .execute(&mut **tx)
    .await?;
    if taken.rows_affected() == 1 {
        return Ok(None);
    }
    let row = sqlx::query!(
        "SELECT of_table, of_id, fingerprint FROM saved_once WHERE person_id = ? AND idempotency_key = ?",
        once.person,
        key
    )
    .fetch_one(&mut **tx)
    .await?;
    let same_body = match (&once.fingerprint, &row.fingerprint) {
        (Some(now), Some(then)) => now.as_slice() == then.as_slice(),
        // A row of an earlier version of this program knows only its table.
        _ => true,
    };
    if row.of_table != table || !same_body {
        return Err(StoreError::KeyUsed);
    }
    Ok(Some(row.of_id))
}

/// Notes a change, and under its key what it made.
pub(crate) async fn note(tx: &mut Tx, once: Once<'_>, what: &str, table: &str, id: u64) -> Result<()> {
    sqlx::query!(
        "INSERT INTO audit (person_id, what, of_table, of_id) VALUES (?, ?, ?, ?)",
        once.person,
        what,
        table,
        id
    )
    .execute(&mut **tx)
    .await?;
    if let Some(key) = once.key {
        sqlx::query!(
            "UPDATE saved_once SET of_id = ? WHERE person_id = ? AND idempotency_key = ?",
            id,
            once.person,
            key
        )
        .execute(&mut **tx)
        .await?;
    }
    Ok(())
}
