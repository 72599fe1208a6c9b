//! What can go wrong with remembering.

/// Why something was not read or kept.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum StoreError {
    /// There is no such row.
    #[error("there is no {what} with the number {id}")]
    NotFound {
        /// What was looked for.
        what: &'static str,
        /// Its number.
        id: u64,
    },
    /// Somebody else changed the row since it was read.
    #[error(
        "this {what} was changed by somebody else in the meantime (it is now at revision {now}, you saw {saw})"
    )]
    Stale {
        /// What was to be changed.
        what: &'static str,
        /// The revision it has.
        now: u32,
        /// The revision the change was based on.
        saw: u32,
    },
    /// Somebody else wrote the same text in the meantime.
    #[error("somebody else has written {what} in the meantime: “{now}”; put both together and save again")]
    Rewritten {
        /// Which text.
        what: &'static str,
        /// As it is now.
        now: String,
    },
    /// Somebody else entered the same reading first.
    #[error("{by} has entered {typed} here in the meantime: enter yours again to replace it, or as a repeat")]
    Overtaken {
        /// Who.
        by: String,
        /// What.
        typed: String,
    },
    /// The key of this write was made for another one.
    #[error(
        "something else was saved under the key of this write, and this was not saved: look at what is there, then save again"
    )]
    KeyUsed,
    /// The row cannot take this change any more.
    #[error("{0}")]
    Refused(&'static str),
    /// A document in the database is not what this program writes.
    #[error("a stored {what} cannot be read: {source}")]
    Corrupt {
        /// Which document.
        what: &'static str,
        /// What the reader said.
        source: serde_json::Error,
    },
    /// The database failed.
    #[error("the database failed")]
    Database(#[from] sqlx::Error),
    /// The schema cannot be brought up to date.
    #[error("the schema cannot be brought up to date: {0}")]
    Schema(String),
}

impl StoreError {
    /// Whether two at once stood in each other's way, and this one was turned back: nothing of it was kept.
    pub fn is_turned_back(&self) -> bool {
        let Self::Database(sqlx::Error::Database(error)) = self else { return false };
        error.code().as_deref() == Some("40001")
    }

    /// Whether the database did not answer: it is down, stopping, or out of connections. Nothing is wrong with what was asked.
    pub fn is_away(&self) -> bool {
        use sqlx::Error as E;
        match self {
            Self::Database(E::PoolTimedOut | E::PoolClosed | E::Io(_) | E::Tls(_)) => true,
            // Too many connections, a server that is shutting down, a connection that was ended, a node without its cluster.
            Self::Database(E::Database(error)) => error
                .try_downcast_ref::<sqlx::mysql::MySqlDatabaseError>()
                .is_some_and(|error| matches!(error.number(), 1040 | 1047 | 1053 | 1927)),
            _ => false,
        }
    }
}

/// Reads a stored document.
pub(crate) fn read<T: serde::de::DeserializeOwned>(what: &'static str, text: &str) -> Result<T, StoreError> {
    serde_json::from_str(text).map_err(|source| StoreError::Corrupt { what, source })
}

/// Writes a document for storing.
pub(crate) fn write<T: serde::Serialize>(what: &'static str, value: &T) -> Result<String, StoreError> {
    serde_json::to_string(value).map_err(|source| StoreError::Corrupt { what, source })
}
