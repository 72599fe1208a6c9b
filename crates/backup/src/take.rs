//! Taking a backup, and bringing one back: the whole house, or one client.

use std::fs::{self, File};
use std::path::{Path, PathBuf};

use age::secrecy::SecretString;
use sha2::{Digest, Sha256};
use tokio::sync::mpsc;
use yardwand_store::{BackupRow, Cell, CopyingIn, Store, Table};

use crate::file::{Backup, Manifest, Writing, files_of, key_of};
use crate::rotation::{name_of, superfluous, taken_at};
use crate::{BackupError, Result, doing};

/// What backup is wanted.
#[derive(Clone, Debug)]
pub struct Wanted {
    /// The folder it is put in.
    pub to: PathBuf,
    /// A folder somewhere else that gets a copy.
    pub also: Option<PathBuf>,
    /// What it opens with; without, anybody can read it who has the file.
    pub passphrase: Option<SecretString>,
}

impl Wanted {
    /// The folders it lies in.
    fn places(&self) -> impl Iterator<Item = &PathBuf> {
        std::iter::once(&self.to).chain(&self.also)
    }
}

/// A backup that was taken, read again and found whole.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Taken {
    /// Its file.
    pub path: PathBuf,
    /// How large it is.
    pub bytes: u64,
    /// The rows in it.
    pub rows: u64,
    /// Older ones that went.
    pub removed: Vec<PathBuf>,
}

/// Takes a backup while the house is in use: writes it beside its final name, reads it again, and only then gives it its
/// name and lets older ones go.
///
/// # Errors
///
/// [`BackupError`]; an older backup is never touched by one that failed.
pub async fn take(store: &Store, wanted: &Wanted) -> Result<Taken> {
    take_watched(store, wanted, |_, _| true).await
}

/// The same for somebody who watches: `watch` is told how many tables are copied, of how many, and says whether to go on.
///
/// # Errors
///
/// [`BackupError`]; [`BackupError::Stopped`] where it was not to go on, and nothing is left of it then.
pub async fn take_watched(
    store: &Store,
    wanted: &Wanted,
    mut watch: impl FnMut(u32, u32) -> bool + Send,
) -> Result<Taken> {
    let folder = &wanted.to;
    for place in wanted.places() {
        fs::create_dir_all(place).map_err(doing(format!("making {}", place.display())))?;
    }
    if let Some(also) = &wanted.also
        && same_folder(folder, also)?
    {
        return Err(BackupError::OnePlace);
    }
    let mut snapshot = store.snapshot().await?;
    // Nobody else is taking one now: what lies there half written was left by a death.
    for place in wanted.places() {
        remove_halves(place)?;
    }
    let name = name_of(snapshot.taken_at, wanted.passphrase.is_some());
    let half = folder.join(format!("{name}.part"));
    let mut writing = Writing::begin(&half, wanted.passphrase.as_ref())?;
    let manifest = Manifest::begun(snapshot.taken_at, snapshot.schema, snapshot.identity.clone());
    let mut rows = 0;
    let tables = snapshot.tables.clone();
    for (copied, table) in (0..).zip(&tables) {
        if !watch(copied, tables.len() as u32) {
            drop(writing);
            return remove(&half).and(Err(BackupError::Stopped));
        }
        let mut keys = Vec::new();
        let mut out = writing.table(table)?;
        snapshot
            .rows::<BackupError>(table, |row| {
                rows += 1;
                if files_of(table).next().is_some() {
                    keys.push(key_of(table, &row)?);
                }
                out.row(&row)
            })
            .await?;
        out.end();
        let mut digest = Sha256::new();
        for key in keys {
            for column in files_of(table) {
                let bytes = snapshot.file(table, column, &key).await?;
                digest.update(&bytes);
                writing.file(table, column, &key, &bytes)?;
            }
        }
        writing.files_were(digest);
    }
    let taken_at = manifest.taken_at;
    writing.end(manifest)?;
    snapshot.end().await?;
    Backup::open(&half, wanted.passphrase.as_ref())?.look_over()?;
    let path = named(&half, &folder.join(&name))?;
    let bytes = fs::metadata(&path).map_err(doing(format!("reading {}", path.display())))?.len();
    if let Some(also) = &wanted.also {
        copied(&path, also, &name)?;
    }
    let second_place = wanted.also.is_some();
    store
        .backed_up(&BackupRow { taken_at, bytes, encrypted: wanted.passphrase.is_some(), second_place })
        .await?;
    let mut removed = Vec::new();
    for place in wanted.places() {
        removed.extend(rotated(place)?);
    }
    Ok(Taken { path, bytes, rows, removed })
}

fn same_folder(one: &Path, other: &Path) -> Result<bool> {
    let whole = |path: &Path| fs::canonicalize(path).map_err(doing(format!("finding {}", path.display())));
    Ok(whole(one)? == whole(other)?)
}

/// Gives a file its name, so that it is there after a failure of power too.
fn named(half: &Path, whole: &Path) -> Result<PathBuf> {
    let said = || format!("naming {}", whole.display());
    fs::rename(half, whole).map_err(doing(said()))?;
    if let Some(folder) = whole.parent() {
        File::open(folder).and_then(|folder| folder.sync_all()).map_err(doing(said()))?;
    }
    Ok(whole.to_owned())
}

fn copied(path: &Path, folder: &Path, name: &str) -> Result<()> {
    let half = folder.join(format!("{name}.part"));
    let said = || format!("copying the backup to {} (it lies in the first place, whole)", folder.display());
    fs::copy(path, &half).map_err(doing(said()))?;
    File::open(&half).and_then(|file| file.sync_all()).map_err(doing(said()))?;
    named(&half, &folder.join(name)).map(drop)
}

fn names_in(folder: &Path) -> Result<Vec<String>> {
    let entries = fs::read_dir(folder).map_err(doing(format!("reading {}", folder.display())))?;
    Ok(entries.flatten().filter_map(|entry| entry.file_name().into_string().ok()).collect())
}

fn remove(path: &Path) -> Result<()> {
    fs::remove_file(path).map_err(doing(format!("removing {}", path.display())))
}

fn remove_halves(folder: &Path) -> Result<()> {
    let halves = names_in(folder)?;
    let own = |name: &&String| name.strip_suffix(".part").is_some_and(|whole| taken_at(whole).is_some());
    halves.iter().filter(own).try_for_each(|name| remove(&folder.join(name)))
}

/// Removes what is superfluous among the backups of a folder; other files stay.
fn rotated(folder: &Path) -> Result<Vec<PathBuf>> {
    let names = names_in(folder)?;
    let moments: Vec<_> = names.iter().filter_map(|name| taken_at(name)).collect();
    let gone = superfluous(&moments);
    let superfluous = names.iter().filter(|name| taken_at(name).is_some_and(|at| gone.contains(&at)));
    superfluous
        .map(|name| {
            let path = folder.join(name);
            remove(&path).map(|()| path)
        })
        .collect()
}

/// Brings a whole house back into an empty database, all of it or nothing. Returns how many rows.
///
/// # Errors
///
/// [`BackupError`]: the backup is not whole, or the database holds a house.
pub async fn restore(store: &Store, mut backup: Backup) -> Result<u64> {
    // Before anything is made in the database: a backup that is not whole leaves it as it was.
    backup.look_over()?;
    let tables: Vec<Table> = backup.manifest.tables.iter().map(|copied| copied.table.clone()).collect();
    let mut into = store.copy_house_in(backup.manifest.schema, &tables).await?;
    let rows = copy_in(&mut into, backup, |_, _| true).await?;
    into.end().await?;
    Ok(rows)
}

/// Brings one client back into her house, with everything that went when she was erased. Returns how many rows.
///
/// # Errors
///
/// [`BackupError`]: she is there, or not in the backup, or it is of another house.
pub async fn bring_client_back(store: &Store, mut backup: Backup, client: u64) -> Result<u64> {
    backup.look_over()?;
    let mut into = store.copy_client_in(backup.manifest.schema, &backup.manifest.house, client).await?;
    let mut hers = store.hers(client).await?;
    let rows = copy_in(&mut into, backup, |table, row| hers.takes(table, row)).await?;
    if rows == 0 {
        return Err(BackupError::Broken(format!("no client has the number {client} in it")));
    }
    into.note_client(client).await?;
    into.end().await?;
    Ok(rows)
}

/// Copies those rows of a backup that are wanted. Returns how many.
async fn copy_in(
    into: &mut CopyingIn,
    mut backup: Backup,
    mut wanted: impl FnMut(&Table, &[Cell]) -> bool,
) -> Result<u64> {
    // The file is read on a thread of its own, a few batches ahead of the database.
    let (send, mut batches) = mpsc::channel(4);
    let reading = tokio::task::spawn_blocking(move || {
        let tables = backup.manifest.tables.clone();
        tables.iter().try_for_each(|copied| {
            backup.batches(copied, |rows| {
                // Nobody takes them where the database has turned some down: what it said is told.
                let sent = send.blocking_send((copied.table.clone(), rows));
                sent.map_err(|_| BackupError::Broken("it was not brought back to its end".to_owned()))
            })
        })
    });
    let mut copied = 0;
    while let Some((table, mut rows)) = batches.recv().await {
        rows.retain(|row| wanted(&table, row));
        into.rows(&table, &rows).await?;
        copied += rows.len() as u64;
    }
    reading.await.map_err(|error| BackupError::Broken(error.to_string()))??;
    Ok(copied)
}
