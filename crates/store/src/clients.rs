//! Clients and their consent.

use chrono::{DateTime, NaiveDate, NaiveDateTime, Utc};

use crate::audit::{Once, note, saved_before};
use crate::{Result, Store, StoreError, numbers};

/// A client as she is entered.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewClient {
    /// Name.
    pub name: String,
    /// Telephone, address, post: as the house likes.
    pub contact: String,
    /// Notes.
    pub notes: String,
    /// Consent, where it was given with the entry.
    pub consent: Option<NewConsent>,
}

/// A consent as it is entered.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewConsent {
    /// The day it was given.
    pub given_on: NaiveDate,
    /// What for.
    pub purpose: String,
    /// The day to ask again.
    pub review_on: Option<NaiveDate>,
}

/// A client.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ClientRow {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// Contact.
    pub contact: String,
    /// Notes.
    pub notes: String,
    /// Revision of this row.
    pub revision: u32,
    /// When she was entered.
    pub created_at: DateTime<Utc>,
    /// When she was put into the archive.
    pub archived_at: Option<DateTime<Utc>>,
    /// The dress form it stands for, where it is no client.
    pub form_id: Option<u64>,
}

/// A client in the list of clients.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ListedClient {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// Contact.
    pub contact: String,
    /// Whether she is in the archive.
    pub archived: bool,
    /// Garments in hand.
    pub in_hand: u32,
    /// When she was measured last.
    pub measured_at: Option<DateTime<Utc>>,
    /// When she was last here: measured or fitted.
    pub here_at: Option<DateTime<Utc>>,
}

/// A consent.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct ConsentRow {
    /// Number.
    pub id: u64,
    /// The day it was given.
    pub given_on: NaiveDate,
    /// What for.
    pub purpose: String,
    /// The day to ask again.
    pub review_on: Option<NaiveDate>,
    /// The day she withdrew it.
    pub withdrawn_on: Option<NaiveDate>,
}

impl Store {
    /// Adds a client.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn add_client(&self, new: &NewClient, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "clients").await? {
            return Ok(id);
        }
        let added = sqlx::query!(
            "INSERT INTO clients (name, contact, notes) VALUES (?, ?, ?)",
            new.name,
            new.contact,
            new.notes
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        if let Some(consent) = &new.consent {
            insert_consent(&mut tx, id, consent).await?;
        }
        note(&mut tx, once, "added", "clients", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Changes a client; `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn change_client(&self, id: u64, new: &NewClient, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        let changed = sqlx::query!(
            "UPDATE clients SET name = ?, contact = ?, notes = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
            new.name,
            new.contact,
            new.notes,
            id,
            saw
        )
        .execute(&mut *tx)
        .await?;
        if changed.rows_affected() == 0 {
            let row = sqlx::query!("SELECT revision FROM clients WHERE id = ?", id)
                .fetch_optional(&mut *tx)
                .await?;
            return Err(match row {
                Some(row) => StoreError::Stale { what: "client", now: row.revision, saw },
                None => StoreError::NotFound { what: "client", id },
            });
        }
        note(&mut tx, Once::by(by), "changed", "clients", id).await?;
        Ok(tx.commit().await?)
    }

    /// Adds a consent.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client.
    pub async fn add_consent(&self, client: u64, consent: &NewConsent, once: Once<'_>) -> Result<()> {
        self.client(client).await?;
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "consents").await?.is_none() {
            let id = insert_consent(&mut tx, client, consent).await?;
            note(&mut tx, once, "added", "consents", id).await?;
            tx.commit().await?;
        }
        Ok(())
    }

    /// Writes down that she has withdrawn a consent.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for a consent that is not hers, [`StoreError::Refused`] where it was withdrawn before.
    pub async fn withdraw_consent(
        &self,
        client: u64,
        consent: u64,
        on: NaiveDate,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!(
            "SELECT withdrawn_on FROM consents WHERE id = ? AND client_id = ? FOR UPDATE",
            consent,
            client
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound { what: "consent", id: consent })?;
        if row.withdrawn_on.is_some() {
            return Err(StoreError::Refused("this consent is withdrawn already"));
        }
        sqlx::query!("UPDATE consents SET withdrawn_on = ? WHERE id = ?", on, consent)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "withdrawn", "consents", consent).await?;
        Ok(tx.commit().await?)
    }

    /// Takes back that she withdrew a consent: it was a mistake.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for a consent that is not hers or was not withdrawn.
    pub async fn let_consent_stand(&self, client: u64, consent: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let changed = sqlx::query!(
            "UPDATE consents SET withdrawn_on = NULL WHERE id = ? AND client_id = ? AND withdrawn_on IS NOT NULL",
            consent,
            client
        )
        .execute(&mut *tx)
        .await?;
        if changed.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "withdrawn consent", id: consent });
        }
        note(&mut tx, once, "withdrawal taken back", "consents", consent).await?;
        Ok(tx.commit().await?)
    }

    /// One client.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn client(&self, id: u64) -> Result<ClientRow> {
        let row = sqlx::query!(
            "SELECT id, name, contact, notes, revision, created_at, archived_at, form_id FROM clients \
             WHERE id = ? AND merged_into IS NULL",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "client", id })?;
        Ok(ClientRow {
            id: row.id,
            name: row.name,
            contact: row.contact,
            notes: row.notes,
            revision: row.revision,
            created_at: row.created_at.and_utc(),
            archived_at: row.archived_at.map(|at| at.and_utc()),
            form_id: row.form_id,
        })
    }

    /// Puts a client into the archive, or brings her back; `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] while a garment of hers is in hand; [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn archive_client(&self, id: u64, archived: bool, saw: u32, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "clients").await?.is_some() {
            return Ok(());
        }
        let row =
            sqlx::query!("SELECT revision FROM clients WHERE id = ? AND merged_into IS NULL FOR UPDATE", id)
                .fetch_optional(&mut *tx)
                .await?
                .ok_or(StoreError::NotFound { what: "client", id })?;
        if row.revision != saw {
            return Err(StoreError::Stale { what: "client", now: row.revision, saw });
        }
        let in_hand = sqlx::query!(
            "SELECT id FROM orders WHERE client_id = ? AND finished_at IS NULL AND put_away IS NULL LIMIT 1",
            id
        )
        .fetch_optional(&mut *tx)
        .await?;
        if archived && in_hand.is_some() {
            return Err(StoreError::Refused("a garment of hers is in hand: hand it over or cancel it first"));
        }
        sqlx::query!(
            "UPDATE clients SET archived_at = IF(?, UTC_TIMESTAMP(3), NULL), revision = revision + 1 WHERE id = ?",
            archived,
            id
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, if archived { "archived" } else { "brought back" }, "clients", id).await?;
        Ok(tx.commit().await?)
    }

    /// Her consents: those that stand first, each the newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn consents(&self, client: u64) -> Result<Vec<ConsentRow>> {
        let rows = sqlx::query_as!(
            ConsentRow,
            "SELECT id, given_on, purpose, review_on, withdrawn_on FROM consents WHERE client_id = ? \
             ORDER BY withdrawn_on IS NOT NULL, given_on DESC, id DESC",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows)
    }

    /// Clients in whose name, number or notes `part` is, by name, after the name and number of `after`; at most `most`.
    /// Those of the archive only where they are asked for.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn clients(
        &self,
        part: &str,
        archived: bool,
        after: Option<(&str, u64)>,
        most: u32,
    ) -> Result<Vec<ListedClient>> {
        // Without a word it goes along the names, and stops when the page is full.
        let found = match part.trim() {
            "" => None,
            part => Some(numbers(&self.clients_found(part).await?)),
        };
        let (name, id) = after.unwrap_or(("", 0));
        let rows = sqlx::query!(
            "SELECT c.id, c.name, c.contact, c.archived_at, \
               CAST((SELECT COUNT(*) FROM orders o WHERE o.client_id = c.id AND o.finished_at IS NULL AND o.put_away IS NULL) \
                 AS UNSIGNED) AS \"in_hand!: u32\", \
               (SELECT MAX(s.started_at) FROM sessions s WHERE s.client_id = c.id AND s.dropped_at IS NULL) \
                 AS \"measured_at?: NaiveDateTime\", \
               (SELECT MAX(r.opened_at) FROM rounds r JOIN orders o ON o.id = r.order_id WHERE o.client_id = c.id) \
                 AS \"fitted_at?: NaiveDateTime\" \
             FROM clients c WHERE c.merged_into IS NULL AND c.form_id IS NULL AND (? OR c.archived_at IS NULL) \
               AND (? IS NULL OR c.id IN (SELECT a.id FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a)) \
               AND (c.name > ? OR (c.name = ? AND c.id > ?)) ORDER BY c.name, c.id LIMIT ?",
            archived,
            found,
            found,
            name,
            name,
            id,
            most
        )
        .fetch_all(&self.pool)
        .await?;
        Ok({ rows.into_iter() }
            .map(|r| ListedClient {
                id: r.id,
                name: r.name,
                contact: r.contact,
                archived: r.archived_at.is_some(),
                in_hand: r.in_hand,
                measured_at: r.measured_at.map(|at| at.and_utc()),
                here_at: r.measured_at.max(r.fitted_at).map(|at| at.and_utc()),
            })
            .collect())
    }
}

async fn insert_consent(tx: &mut crate::Tx, client: u64, consent: &NewConsent) -> Result<u64> {
    let added = sqlx::query!(
        "INSERT INTO consents (client_id, given_on, purpose, review_on) VALUES (?, ?, ?, ?)",
        client,
        consent.given_on,
        consent.purpose,
        consent.review_on
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}
