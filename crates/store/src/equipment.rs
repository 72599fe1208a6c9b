//! What the house measures with: its own measurement sets, and its dress forms.

use yardwand_core::body::{Body, FormMarking, MarkedLine};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::{Result, Store, StoreError};

/// A set the house made.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SetRow {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// Codes of its measurements.
    pub codes: Vec<String>,
    /// Revision of this row.
    pub revision: u32,
}

/// The lines of a form: name, and where they were measured.
pub type FormLevels = Vec<(String, MarkedLine)>;

/// A dress form.
#[derive(Clone, Debug, PartialEq)]
pub struct FormRow {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// Its own figures.
    pub figures: Body,
    /// Its lines as they were last checked.
    pub levels: FormLevels,
    /// How it is marked.
    pub marking: FormMarking,
    /// Revision of this row.
    pub revision: u32,
}

impl Store {
    /// The house's own sets, by name.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn house_sets(&self) -> Result<Vec<SetRow>> {
        let rows = sqlx::query!(
            "SELECT id, name, CAST(codes AS CHAR) AS \"codes!: String\", revision FROM measurement_sets ORDER BY name"
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(SetRow {
                    id: r.id,
                    name: r.name,
                    codes: read("measurement set", &r.codes)?,
                    revision: r.revision,
                })
            })
            .collect()
    }

    /// Makes a set, or changes the one of `set.id` where that is not 0.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`]; [`StoreError::Refused`] where another set has the name.
    pub async fn save_set(&self, set: &SetRow, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "measurement_sets").await? {
            return Ok(id);
        }
        let twin =
            sqlx::query!("SELECT id FROM measurement_sets WHERE name = ? AND id <> ?", set.name, set.id)
                .fetch_optional(&mut *tx)
                .await?;
        if twin.is_some() {
            return Err(StoreError::Refused("another set of the house has this name: choose another"));
        }
        let codes = write("measurement set", &set.codes)?;
        let id = if set.id == 0 {
            let added =
                sqlx::query!("INSERT INTO measurement_sets (name, codes) VALUES (?, ?)", set.name, codes)
                    .execute(&mut *tx)
                    .await?;
            added.last_insert_id()
        } else {
            let changed = sqlx::query!(
                "UPDATE measurement_sets SET name = ?, codes = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
                set.name,
                codes,
                set.id,
                set.revision
            )
            .execute(&mut *tx)
            .await?;
            if changed.rows_affected() == 0 {
                let now = sqlx::query!("SELECT revision FROM measurement_sets WHERE id = ?", set.id)
                    .fetch_optional(&mut *tx)
                    .await?
                    .ok_or(StoreError::NotFound { what: "set", id: set.id })?;
                return Err(StoreError::Stale { what: "set", now: now.revision, saw: set.revision });
            }
            set.id
        };
        note(&mut tx, once, "saved", "measurement_sets", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Takes a set of the house away. Sessions keep what they were opened with.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn drop_set(&self, id: u64, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        let gone = sqlx::query!("DELETE FROM measurement_sets WHERE id = ?", id).execute(&mut *tx).await?;
        if gone.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "set", id });
        }
        note(&mut tx, once, "taken away", "measurement_sets", id).await?;
        Ok(tx.commit().await?)
    }

    /// The dress forms, by name.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn forms(&self) -> Result<Vec<FormRow>> {
        let rows = sqlx::query!(
            "SELECT id, name, CAST(figures AS CHAR) AS \"figures!: String\", CAST(levels AS CHAR) AS \"levels!: String\", \
             CAST(marking AS CHAR) AS \"marking!: String\", revision FROM forms ORDER BY name, id"
        )
        .fetch_all(&self.pool)
        .await?;
        rows.into_iter()
            .map(|r| {
                Ok(FormRow {
                    id: r.id,
                    name: r.name,
                    figures: read("form", &r.figures)?,
                    levels: read("form", &r.levels)?,
                    marking: read("form", &r.marking)?,
                    revision: r.revision,
                })
            })
            .collect()
    }

    /// One form.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn form(&self, id: u64) -> Result<FormRow> {
        let found = self.forms().await?.into_iter().find(|form| form.id == id);
        found.ok_or(StoreError::NotFound { what: "form", id })
    }

    /// Adds a form, or changes the one of `form.id` where that is not 0.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`].
    pub async fn save_form(&self, form: &FormRow, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "forms").await? {
            return Ok(id);
        }
        let (figures, levels) = (write("form", &form.figures)?, write("form", &form.levels)?);
        let marking = write("form", &form.marking)?;
        let id = if form.id == 0 {
            let added = sqlx::query!(
                "INSERT INTO forms (name, figures, levels, marking) VALUES (?, ?, ?, ?)",
                form.name,
                figures,
                levels,
                marking
            )
            .execute(&mut *tx)
            .await?;
            added.last_insert_id()
        } else {
            let changed = sqlx::query!(
                "UPDATE forms SET name = ?, figures = ?, levels = ?, marking = ?, revision = revision + 1 WHERE id = ? AND revision = ?",
                form.name,
                figures,
                levels,
                marking,
                form.id,
                form.revision
            )
            .execute(&mut *tx)
            .await?;
            if changed.rows_affected() == 0 {
                let now = sqlx::query!("SELECT revision FROM forms WHERE id = ?", form.id)
                    .fetch_optional(&mut *tx)
                    .await?
                    .ok_or(StoreError::NotFound { what: "form", id: form.id })?;
                return Err(StoreError::Stale { what: "form", now: now.revision, saw: form.revision });
            }
            form.id
        };
        // What stands for it where it is fitted on is called as it is.
        sqlx::query!("UPDATE clients SET name = ? WHERE form_id = ?", form.name, id)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "saved", "forms", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// What stands for a form where a garment is fitted on it; made where it is not there yet.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn stand_in_for_form(&self, form: u64, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        // Two who begin at once find one: the form's row is held until the stand-in is there.
        let held = sqlx::query!("SELECT name FROM forms WHERE id = ? FOR UPDATE", form)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "form", id: form })?;
        let there = sqlx::query_scalar!("SELECT id FROM clients WHERE form_id = ?", form)
            .fetch_optional(&mut *tx)
            .await?;
        if let Some(id) = there {
            return Ok(id);
        }
        let added = sqlx::query!(
            "INSERT INTO clients (name, contact, notes, form_id) VALUES (?, '', '', ?)",
            held.name,
            form
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        note(&mut tx, Once::by(once.person), "added", "clients", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// The figures of the form that stands for this client, where one does.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn figures_of_stand_in(&self, client: u64) -> Result<Option<Body>> {
        let row = sqlx::query!(
            "SELECT CAST(f.figures AS CHAR) AS \"figures!: String\" FROM clients c JOIN forms f ON f.id = c.form_id WHERE c.id = ?",
            client
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(|row| read("form", &row.figures)).transpose()
    }
}
