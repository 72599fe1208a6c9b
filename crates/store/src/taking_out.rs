//! Taking rows out and putting them back: they are marked, not deleted, and what is marked is not read.

use crate::{Result, StoreError, Tx};

/// What can be taken out and put back.
#[derive(Clone, Copy)]
pub(crate) enum Removable {
    Note,
    Drape,
    Observation,
    Photograph,
    Shelved(&'static str),
}

impl Removable {
    /// In a sentence.
    const fn name(self) -> &'static str {
        match self {
            Self::Note => "note",
            Self::Drape => "drape",
            Self::Observation => "observation",
            Self::Photograph => "photograph",
            Self::Shelved(name) => name,
        }
    }
}

/// Takes a row out, or puts it back.
///
/// # Errors
///
/// [`StoreError::NotFound`] where it is not there, or is taken out or put back already.
pub(crate) async fn take_out(tx: &mut Tx, what: Removable, id: u64, out: bool) -> Result<()> {
    macro_rules! mark {
        ($table:literal) => {
            sqlx::query!(
                "UPDATE " + $table + " SET removed_at = IF(?, UTC_TIMESTAMP(3), NULL) WHERE id = ? AND (removed_at IS NULL) = ?",
                out,
                id,
                out
            )
            .execute(&mut **tx)
            .await?
        };
    }
    let marked = match what {
        Removable::Note => mark!("client_notes"),
        Removable::Drape => mark!("drapes"),
        Removable::Observation => mark!("observations"),
        Removable::Photograph => mark!("photographs"),
        Removable::Shelved(_) => mark!("shelves"),
    };
    if marked.rows_affected() == 0 { Err(StoreError::NotFound { what: what.name(), id }) } else { Ok(()) }
}

/// What is noted of it.
pub(crate) const fn deed(out: bool) -> &'static str {
    if out { "taken out" } else { "put back" }
}
