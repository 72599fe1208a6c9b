//! Two entries of one woman made one, and parted again.

use serde::{Deserialize, Serialize};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::{Result, Store, StoreError, Tx};

/// What came from the other entry, so that it can go back.
#[derive(Debug, Default, Serialize, Deserialize)]
struct Moved {
    sessions: Vec<u64>,
    orders: Vec<u64>,
    consents: Vec<u64>,
    blocks: Vec<u64>,
    client_notes: Vec<u64>,
    #[serde(default)]
    drapes: Vec<u64>,
    away_days: Vec<u64>,
    /// Entries that had been made one with the other before.
    #[serde(default)]
    entries: Vec<u64>,
}

impl Store {
    /// Moves everything of another entry to this one and puts the other out of sight; its contact and notes are added
    /// to this one's. `saw` is the revision of this entry.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for an entry with itself, [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn merge_clients(&self, into: u64, other: u64, saw: u32, once: Once<'_>) -> Result<()> {
        if into == other {
            return Err(StoreError::Refused("this is the same entry: choose the other one"));
        }
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "clients").await?.is_some() {
            return Ok(());
        }
        // Both in one order, so that two who merge crosswise wait for each other.
        let rows = sqlx::query!(
            "SELECT id, contact, notes, revision, form_id FROM clients WHERE id IN (?, ?) AND merged_into IS NULL ORDER BY id FOR UPDATE",
            into,
            other
        )
        .fetch_all(&mut *tx)
        .await?;
        let row =
            |id: u64| rows.iter().find(|row| row.id == id).ok_or(StoreError::NotFound { what: "client", id });
        let (kept, gone) = (row(into)?, row(other)?);
        if kept.revision != saw {
            return Err(StoreError::Stale { what: "client", now: kept.revision, saw });
        }
        if kept.form_id.or(gone.form_id).is_some() {
            return Err(StoreError::Refused(
                "one of the two is a dress form: a form is nobody\u{2019}s second entry",
            ));
        }
        let moved = move_all(&mut tx, other, into).await?;
        let contact = joined(&kept.contact, &gone.contact, ", ", CONTACT);
        let notes = joined(&kept.notes, &gone.notes, "\n", NOTES);
        sqlx::query!(
            "UPDATE clients SET contact = ?, notes = ?, revision = revision + 1 WHERE id = ?",
            contact,
            notes,
            into
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "UPDATE clients SET merged_into = ?, merged = ?, revision = revision + 1 WHERE id = ?",
            into,
            write("merged entry", &moved)?,
            other
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "merged with another entry", "clients", into).await?;
        Ok(tx.commit().await?)
    }

    /// Parts an entry again from the one it was merged into: what came from it goes back. Contact and notes of the
    /// other stay as they are.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an entry that was not merged.
    pub async fn part_clients(&self, merged: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!(
            "SELECT merged_into, CAST(merged AS CHAR) AS \"moved?: String\" FROM clients WHERE id = ? FOR UPDATE",
            merged
        )
        .fetch_optional(&mut *tx)
        .await?;
        let row = row.and_then(|row| Some((row.merged_into?, row.moved?)));
        let (into, moved) = row.ok_or(StoreError::NotFound { what: "merged client", id: merged })?;
        let moved: Moved = read("merged entry", &moved)?;
        move_back(&mut tx, &moved, into, merged).await?;
        sqlx::query!(
            "UPDATE clients SET merged_into = NULL, merged = NULL, revision = revision + 1 WHERE id = ?",
            merged
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "parted from another entry", "clients", merged).await?;
        Ok(tx.commit().await?)
    }
}

/// Room for a contact.
const CONTACT: usize = 254;
/// Room for notes.
const NOTES: usize = 4000;

/// Both texts, one where they are the same or one is empty; cut where there is no room for all.
fn joined(first: &str, second: &str, between: &str, room: usize) -> String {
    let both = match (first.trim(), second.trim()) {
        (first, second) if second.is_empty() || first == second => first.to_owned(),
        ("", second) => second.to_owned(),
        (first, second) => format!("{first}{between}{second}"),
    };
    both.chars().take(room).collect()
}

/// What hangs on a client, one table after the other.
macro_rules! each_table {
    ($what:ident) => {
        $what!("sessions", sessions);
        $what!("orders", orders);
        $what!("consents", consents);
        $what!("blocks", blocks);
        $what!("client_notes", client_notes);
        $what!("drapes", drapes);
    };
}

async fn move_all(tx: &mut Tx, from: u64, to: u64) -> Result<Moved> {
    let mut moved = Moved::default();
    macro_rules! moves {
        ($table:literal, $list:ident) => {
            let rows = sqlx::query_scalar!("SELECT id FROM " + $table + " WHERE client_id = ?", from);
            moved.$list = rows.fetch_all(&mut **tx).await?;
            sqlx::query!("UPDATE " + $table + " SET client_id = ? WHERE client_id = ?", to, from)
                .execute(&mut **tx)
                .await?;
        };
    }
    each_table!(moves);
    // Days that both are away stay where they are.
    moved.away_days = sqlx::query_scalar!(
        "SELECT a.id FROM away_days a WHERE a.client_id = ? AND NOT EXISTS (SELECT 1 FROM away_days b \
           WHERE b.client_id = ? AND b.from_day = a.from_day AND b.to_day = a.to_day)",
        from,
        to
    )
    .fetch_all(&mut **tx)
    .await?;
    sqlx::query!("UPDATE IGNORE away_days SET client_id = ? WHERE client_id = ?", to, from)
        .execute(&mut **tx)
        .await?;
    moved.entries = sqlx::query_scalar!("SELECT id FROM clients WHERE merged_into = ?", from)
        .fetch_all(&mut **tx)
        .await?;
    sqlx::query!("UPDATE clients SET merged_into = ? WHERE merged_into = ?", to, from)
        .execute(&mut **tx)
        .await?;
    sqlx::query!(
        "INSERT IGNORE INTO measured_pairs (client_id, code, side) SELECT ?, code, side FROM measured_pairs WHERE client_id = ?",
        to,
        from
    )
    .execute(&mut **tx)
    .await?;
    Ok(moved)
}

/// Rows that were moved and are still where they were moved to.
async fn move_back(tx: &mut Tx, moved: &Moved, from: u64, to: u64) -> Result<()> {
    macro_rules! moves {
        ($table:literal, $list:ident) => {
            sqlx::query!(
                "UPDATE "
                    + $table
                    + " SET client_id = ? WHERE client_id = ? AND id IN \
                       (SELECT m.id FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) m)",
                to,
                from,
                write("merged entry", &moved.$list)?
            )
            .execute(&mut **tx)
            .await?;
        };
    }
    each_table!(moves);
    moves!("away_days", away_days);
    sqlx::query!(
        "UPDATE clients SET merged_into = ? WHERE merged_into = ? AND id IN \
           (SELECT m.id FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) m)",
        to,
        from,
        write("merged entry", &moved.entries)?
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}
