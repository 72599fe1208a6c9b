//! The house's book in one file.
//!
//! What it is: the file a backup is, how one is taken, looked over and brought back, which older ones are kept, and looking a
//! house over where it stands. What it is not: it writes no SQL, and asks nobody anything.
//!
//! The file is a ZIP archive that any tool opens, encrypted as a whole with [age](https://age-encryption.org/v1) where there is
//! a passphrase. In it lie `manifest.json`, a file of rows for each table (`tables/readings.jsonl`: a JSON array a line, its
//! values in the order of the manifest's columns; numbers and dates are written as MariaDB writes them, bytes in hexadecimal),
//! and every photograph as a picture (`photographs/image/17.jpg`).

mod check;
mod file;
mod rotation;
mod take;

pub use check::{Finding, check_house};
pub use file::{Backup, Manifest, TableCopied};
pub use rotation::{name_of, superfluous, taken_at};
pub use take::{Taken, Wanted, bring_client_back, restore, take, take_watched};

/// What a backup opens with; it is wiped from memory when it is dropped, and never printed.
pub use age::secrecy::SecretString as Passphrase;
use yardwand_store::StoreError;

/// Why a backup was not taken, opened or brought back.
#[derive(Debug, thiserror::Error)]
#[non_exhaustive]
pub enum BackupError {
    /// A file or a folder.
    #[error("{doing}: {source}")]
    Io {
        /// What was being done.
        doing: String,
        /// What the system said.
        source: std::io::Error,
    },
    /// The database.
    #[error("{0}")]
    Store(StoreError),
    /// It was to be given up.
    #[error("the backup was given up, and nothing is left of it")]
    Stopped,
    /// The second place is the first one.
    #[error("the second place is the first one under another name: give a folder on another disk or machine")]
    OnePlace,
    /// It is encrypted, and no passphrase was given.
    #[error("this backup is encrypted: give the passphrase it was taken with (--passphrase-file)")]
    Locked,
    /// The passphrase is another one, or the file was changed.
    #[error("this passphrase does not open it; without the one it was taken with nobody can")]
    WrongPassphrase,
    /// It is no backup, or a part of it is missing or not as it was written.
    #[error("this is no whole backup: {0}")]
    Broken(String),
}

impl From<StoreError> for BackupError {
    fn from(error: StoreError) -> Self {
        Self::Store(error)
    }
}

/// A result of this crate.
pub type Result<T> = std::result::Result<T, BackupError>;

/// What was being done when the system turned it down.
fn doing(what: impl Into<String>) -> impl FnOnce(std::io::Error) -> BackupError {
    |source| BackupError::Io { doing: what.into(), source }
}
