//! The audit row of a change, and saving once what is sent twice. Both in the change's transaction.

use chrono::{DateTime, Utc};

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
    /// Number: grows with time.
    pub id: u64,
    /// When.
    pub at: DateTime<Utc>,
    /// Who did it; nobody where the program did it by itself.
    pub person: Option<String>,
    /// What was done.
    pub what: String,
    /// The table of the row it was done to.
    pub of_table: String,
    /// The row.
    pub of_id: u64,
    /// Whom it concerns.
    pub client: Option<String>,
    /// The garment it concerns.
    pub garment: Option<String>,
    /// A reading's measurement.
    pub code: Option<String>,
    /// The number of a round or of a version.
    pub number: Option<u32>,
    /// A reading as it was typed, the name of a block, the purpose of a consent.
    pub words: Option<String>,
}

/// Which changes are asked for; what is left out does not count.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct ChangesOf<'a> {
    /// Of this client, and of entries that were made one with hers.
    pub client: Option<u64>,
    /// Of this garment.
    pub order: Option<u64>,
    /// By this person.
    pub person: Option<u64>,
    /// Of rows of this table.
    pub table: Option<&'a str>,
    /// Of this row of it.
    pub row: Option<u64>,
    /// Older than the change of this number.
    pub before: Option<u64>,
}

impl Store {
    /// Changes, newest first; at most `most`.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn changes(&self, of: ChangesOf<'_>, most: u32) -> Result<Vec<Change>> {
        let rows = sqlx::query!(
            "SELECT a.id, a.at, p.name AS \"person?\", a.what, a.of_table, a.of_id, c.name AS \"client?\", \
               o.garment AS \"garment?\", r.code AS \"code?\", COALESCE(f.number, v.version) AS \"number?: u32\", \
               COALESCE(r.typed, b.name, d.name, k.purpose) AS \"words?: String\" \
             FROM audit a LEFT JOIN people p ON p.id = a.person_id \
             LEFT JOIN clients c ON c.id = a.client_id LEFT JOIN orders o ON o.id = a.order_id \
             LEFT JOIN readings r ON a.of_table = 'readings' AND r.id = a.of_id \
             LEFT JOIN observations s ON a.of_table = 'observations' AND s.id = a.of_id \
             LEFT JOIN photographs h ON a.of_table = 'photographs' AND h.id = a.of_id \
             LEFT JOIN rounds f ON f.id = IF(a.of_table = 'rounds', a.of_id, COALESCE(s.round_id, h.round_id)) \
             LEFT JOIN pattern_versions v ON a.of_table = 'pattern_versions' AND v.id = a.of_id \
             LEFT JOIN blocks b ON a.of_table = 'blocks' AND b.id = a.of_id \
             LEFT JOIN drapes d ON a.of_table = 'drapes' AND d.id = a.of_id \
             LEFT JOIN consents k ON a.of_table = 'consents' AND k.id = a.of_id \
             WHERE (? IS NULL OR a.client_id = ? OR a.client_id IN (SELECT m.id FROM clients m WHERE m.merged_into = ?)) \
               AND (? IS NULL OR a.order_id = ?) AND (? IS NULL OR a.person_id = ?) \
               AND (? IS NULL OR a.of_table = ?) AND (? IS NULL OR a.of_id = ?) AND (? IS NULL OR a.id < ?) \
             ORDER BY a.id DESC LIMIT ?",
            of.client,
            of.client,
            of.client,
            of.order,
            of.order,
            of.person,
            of.person,
            of.table,
            of.table,
            of.row,
            of.row,
            of.before,
            of.before,
            most
        )
        .fetch_all(&self.pool)
        .await?;
        let change = rows.into_iter().map(|r| Change {
            id: r.id,
            at: r.at.and_utc(),
            person: r.person,
            what: r.what,
            of_table: r.of_table,
            of_id: r.of_id,
            client: r.client,
            garment: r.garment,
            code: r.code,
            number: r.number,
            words: r.words,
        });
        Ok(change.collect())
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

/// Notes a change with whom it concerns, and under its key what it made. What is about to be deleted is noted first.
pub(crate) async fn note(tx: &mut Tx, once: Once<'_>, what: &str, table: &str, id: u64) -> Result<()> {
    let concerns = concerned(tx, table, id).await?.unwrap_or_default();
    sqlx::query!(
        "INSERT INTO audit (person_id, what, of_table, of_id, client_id, order_id) VALUES (?, ?, ?, ?, ?, ?)",
        once.person,
        what,
        table,
        id,
        concerns.client_id,
        concerns.order_id
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

/// Whom a change of a row concerns, and for which garment.
#[derive(Default)]
struct Concerned {
    client_id: Option<u64>,
    order_id: Option<u64>,
}

async fn concerned(tx: &mut Tx, table: &str, id: u64) -> Result<Option<Concerned>> {
    macro_rules! of {
        ($select:literal) => {
            sqlx::query_as!(Concerned, $select, id).fetch_optional(&mut **tx).await?
        };
    }
    Ok(match table {
        "clients" => Some(Concerned { client_id: Some(id), order_id: None }),
        "consents" => {
            of!("SELECT client_id AS \"client_id?\", NULL AS \"order_id: u64\" FROM consents WHERE id = ?")
        }
        "client_notes" => {
            of!(
                "SELECT client_id AS \"client_id?\", NULL AS \"order_id: u64\" FROM client_notes WHERE id = ?"
            )
        }
        "away_days" => {
            of!("SELECT client_id AS \"client_id?\", NULL AS \"order_id: u64\" FROM away_days WHERE id = ?")
        }
        "drapes" => of!("SELECT client_id, NULL AS \"order_id: u64\" FROM drapes WHERE id = ?"),
        "blocks" => of!("SELECT client_id, NULL AS \"order_id: u64\" FROM blocks WHERE id = ?"),
        "sessions" => of!("SELECT client_id AS \"client_id?\", order_id FROM sessions WHERE id = ?"),
        "readings" => of!("SELECT s.client_id AS \"client_id?\", s.order_id FROM readings r \
             JOIN sessions s ON s.id = r.session_id WHERE r.id = ?"),
        "orders" => of!("SELECT client_id AS \"client_id?\", id AS \"order_id?\" FROM orders WHERE id = ?"),
        "patterns" => of!("SELECT o.client_id AS \"client_id?\", o.id AS \"order_id?\" FROM patterns p \
             JOIN orders o ON o.id = p.order_id WHERE p.id = ?"),
        "pattern_versions" => {
            of!("SELECT o.client_id AS \"client_id?\", o.id AS \"order_id?\" FROM pattern_versions v \
             JOIN patterns p ON p.id = v.pattern_id JOIN orders o ON o.id = p.order_id WHERE v.id = ?")
        }
        "rounds" => of!("SELECT o.client_id AS \"client_id?\", o.id AS \"order_id?\" FROM rounds r \
             JOIN orders o ON o.id = r.order_id WHERE r.id = ?"),
        "observations" => {
            of!("SELECT o.client_id AS \"client_id?\", o.id AS \"order_id?\" FROM observations b \
             JOIN rounds r ON r.id = b.round_id JOIN orders o ON o.id = r.order_id WHERE b.id = ?")
        }
        "photographs" => {
            of!("SELECT COALESCE(o.client_id, n.client_id) AS \"client_id?: u64\", o.id AS \"order_id?\" \
             FROM photographs f LEFT JOIN rounds r ON r.id = f.round_id LEFT JOIN orders o ON o.id = r.order_id \
             LEFT JOIN client_notes n ON n.id = f.note_id WHERE f.id = ?")
        }
        // The house, its people, its shelves and files from outside concern nobody.
        _ => None,
    })
}
