//! The file: an archive of rows and pictures, encrypted as a whole where there is a passphrase.

use std::fs::File;
use std::io::{self, BufRead, BufReader, BufWriter, Read, Seek, Write};
use std::path::Path;

use age::secrecy::SecretString;
use age::stream::StreamWriter as Encrypting;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use sha2::{Digest, Sha256};
use yardwand_store::{Cell, Holds, Table};
use zip::result::ZipError;
use zip::write::{SimpleFileOptions, StreamWriter};
use zip::{CompressionMethod, ZipArchive, ZipWriter};

use crate::{BackupError, Result, doing};

/// How the archive is laid out. A program that lays it out otherwise counts on.
const FORMAT: u32 = 1;
const MANIFEST: &str = "manifest.json";

/// What a backup says of itself.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Manifest {
    /// How the archive is laid out.
    pub format: u32,
    /// The version of the program that took it.
    pub program: String,
    /// The moment it holds.
    pub taken_at: DateTime<Utc>,
    /// The newest migration of its schema.
    pub schema: i64,
    /// The house it is of.
    pub house: String,
    /// Its tables, those first that others refer to.
    pub tables: Vec<TableCopied>,
}

/// A table of a backup.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct TableCopied {
    /// The table.
    #[serde(flatten)]
    pub table: Table,
    /// How many rows it has.
    pub rows: u64,
    /// SHA-256 of its file of rows.
    pub sha256: String,
    /// SHA-256 of all its files one after the other, in the order of the rows.
    pub files_sha256: String,
}

/// Where the bytes go: through age where there is a passphrase.
enum Out {
    Plain(BufWriter<File>),
    Encrypted(Box<Encrypting<BufWriter<File>>>),
}

impl Write for Out {
    fn write(&mut self, bytes: &[u8]) -> io::Result<usize> {
        match self {
            Self::Plain(out) => out.write(bytes),
            Self::Encrypted(out) => out.write(bytes),
        }
    }

    fn flush(&mut self) -> io::Result<()> {
        match self {
            Self::Plain(out) => out.flush(),
            Self::Encrypted(out) => out.flush(),
        }
    }
}

/// An archive that is being written.
pub(crate) struct Writing {
    zip: ZipWriter<StreamWriter<Out>>,
    tables: Vec<TableCopied>,
}

fn zip_failed(error: ZipError) -> BackupError {
    doing("writing the backup")(error.into())
}

fn rows_name(table: &Table) -> String {
    format!("tables/{}.jsonl", table.name)
}

fn file_name(table: &Table, column: &str, key: &str) -> String {
    format!("{}/{column}/{key}.jpg", table.name)
}

impl Writing {
    pub(crate) fn begin(path: &Path, passphrase: Option<&SecretString>) -> Result<Self> {
        let said = || format!("writing {}", path.display());
        let file = BufWriter::new(File::create(path).map_err(doing(said()))?);
        let out = match passphrase {
            None => Out::Plain(file),
            Some(passphrase) => {
                let encryptor = age::Encryptor::with_user_passphrase(passphrase.clone());
                Out::Encrypted(Box::new(encryptor.wrap_output(file).map_err(doing(said()))?))
            }
        };
        Ok(Self { zip: ZipWriter::new_stream(out), tables: Vec::new() })
    }

    fn start(&mut self, name: String, method: CompressionMethod) -> Result<()> {
        // A table of a large house is larger than the four gigabytes of a plain entry.
        let options = SimpleFileOptions::default().compression_method(method).large_file(true);
        self.zip.start_file(name, options).map_err(zip_failed)
    }

    /// Begins a table's file of rows.
    pub(crate) fn table(&mut self, table: &Table) -> Result<RowsOut<'_>> {
        self.start(rows_name(table), CompressionMethod::Deflated)?;
        Ok(RowsOut { table: table.clone(), rows: 0, digest: Sha256::new(), writing: self })
    }

    /// A file of a row.
    pub(crate) fn file(&mut self, table: &Table, column: &str, key: &str, bytes: &[u8]) -> Result<()> {
        self.start(file_name(table, column, key), CompressionMethod::Stored)?;
        self.zip.write_all(bytes).map_err(doing("writing the backup"))
    }

    /// The digest of a table's files, once they are written.
    pub(crate) fn files_were(&mut self, digest: Sha256) {
        if let Some(table) = self.tables.last_mut() {
            table.files_sha256 = hex::encode(digest.finalize());
        }
    }

    /// Writes what the backup says of itself, and all of it to the disk.
    pub(crate) fn end(mut self, manifest: Manifest) -> Result<()> {
        self.start(MANIFEST.to_owned(), CompressionMethod::Deflated)?;
        let manifest = Manifest { tables: self.tables, ..manifest };
        let text = serde_json::to_vec_pretty(&manifest)
            .map_err(io::Error::from)
            .map_err(doing("writing the backup"))?;
        self.zip.write_all(&text).map_err(doing("writing the backup"))?;
        let written = match self.zip.finish().map_err(zip_failed)?.into_inner() {
            Out::Plain(out) => out.into_inner().map_err(|e| e.into_error()),
            Out::Encrypted(out) => out.finish().and_then(|out| out.into_inner().map_err(|e| e.into_error())),
        };
        let file = written.map_err(doing("writing the backup"))?;
        file.sync_all().map_err(doing("writing the backup to the disk"))
    }
}

/// A table's file of rows that is being written.
pub(crate) struct RowsOut<'a> {
    writing: &'a mut Writing,
    table: Table,
    rows: u64,
    digest: Sha256,
}

impl RowsOut<'_> {
    pub(crate) fn row(&mut self, cells: &[Cell]) -> Result<()> {
        let values: Vec<Value> = cells
            .iter()
            .map(|cell| match cell {
                Cell::Null => Value::Null,
                Cell::Words(words) => Value::from(words.as_str()),
                Cell::Bytes(bytes) => Value::from(hex::encode(bytes)),
            })
            .collect();
        let mut line = Value::from(values).to_string();
        line.push('\n');
        self.digest.update(line.as_bytes());
        self.rows += 1;
        self.writing.zip.write_all(line.as_bytes()).map_err(doing("writing the backup"))
    }

    pub(crate) fn end(self) {
        let none = hex::encode(Sha256::digest([]));
        self.writing.tables.push(TableCopied {
            table: self.table,
            rows: self.rows,
            sha256: hex::encode(self.digest.finalize()),
            files_sha256: none,
        });
    }
}

trait Source: Read + Seek + Send {}
impl<T: Read + Seek + Send> Source for T {}

/// Rows that are read at once.
const ROWS_AT_ONCE: usize = 100;
/// Bytes after which a batch ends though it has fewer rows: MariaDB takes 16 MB in a statement as it comes.
const BYTES_AT_ONCE: usize = 2 << 20;

/// A backup that was opened.
pub struct Backup {
    archive: ZipArchive<Box<dyn Source>>,
    /// What it says of itself.
    pub manifest: Manifest,
    /// It opened with a passphrase.
    pub encrypted: bool,
}

impl Backup {
    /// Opens a backup.
    ///
    /// # Errors
    ///
    /// [`BackupError::Locked`], [`BackupError::WrongPassphrase`], [`BackupError::Broken`].
    pub fn open(path: &Path, passphrase: Option<&SecretString>) -> Result<Self> {
        const AGE: &[u8] = b"age-encryption.org/";
        let said = || format!("reading {}", path.display());
        let mut file = BufReader::new(File::open(path).map_err(doing(said()))?);
        let encrypted = file.fill_buf().map_err(doing(said()))?.starts_with(AGE);
        let source: Box<dyn Source> = if encrypted {
            let passphrase = passphrase.ok_or(BackupError::Locked)?;
            let key = age::scrypt::Identity::new(passphrase.clone());
            let opened =
                age::Decryptor::new_buffered(file).map_err(|e| BackupError::Broken(e.to_string()))?;
            let keys = std::iter::once(&key as &dyn age::Identity);
            let opened = opened.decrypt(keys).map_err(|_| BackupError::WrongPassphrase)?;
            Box::new(BufReader::new(opened))
        } else {
            Box::new(file)
        };
        let mut archive = ZipArchive::new(source).map_err(broken)?;
        let manifest = archive.by_name(MANIFEST).map_err(broken)?;
        let manifest: Manifest =
            serde_json::from_reader(manifest).map_err(|e| BackupError::Broken(e.to_string()))?;
        if manifest.format != FORMAT {
            let format = manifest.format;
            return Err(BackupError::Broken(format!(
                "it is laid out in way {format}, this program knows {FORMAT}"
            )));
        }
        Ok(Self { archive, manifest, encrypted })
    }

    /// Reads the rows of a table, without its files.
    ///
    /// # Errors
    ///
    /// [`BackupError::Broken`] where they are not as they were written; what `take` says.
    pub fn rows(
        &mut self,
        copied: &TableCopied,
        mut take: impl FnMut(Vec<Cell>) -> Result<()>,
    ) -> Result<()> {
        let mut lines = BufReader::new(self.archive.by_name(&rows_name(&copied.table)).map_err(broken)?);
        let (mut digest, mut rows, mut line) = (Sha256::new(), 0, String::new());
        loop {
            line.clear();
            if lines.read_line(&mut line).map_err(|e| BackupError::Broken(e.to_string()))? == 0 {
                break;
            }
            digest.update(line.as_bytes());
            rows += 1;
            take(cells(&line, &copied.table)?)?;
        }
        if rows != copied.rows || hex::encode(digest.finalize()) != copied.sha256 {
            return Err(BackupError::Broken(format!(
                "the rows of “{}” are not as they were written",
                copied.table.name
            )));
        }
        Ok(())
    }

    /// A file of a row.
    ///
    /// # Errors
    ///
    /// [`BackupError::Broken`] where it is not there or was changed.
    pub fn file(&mut self, table: &Table, column: &str, key: &str) -> Result<Vec<u8>> {
        let mut entry = self.archive.by_name(&file_name(table, column, key)).map_err(broken)?;
        let mut bytes = Vec::new();
        entry.read_to_end(&mut bytes).map_err(|e| BackupError::Broken(e.to_string()))?;
        Ok(bytes)
    }

    /// Reads a table with its files, some rows at a time.
    pub(crate) fn batches(
        &mut self,
        copied: &TableCopied,
        mut take: impl FnMut(Vec<Vec<Cell>>) -> Result<()>,
    ) -> Result<()> {
        let table = &copied.table;
        let mut batch = Batch::default();
        if files_of(table).next().is_none() {
            self.rows(copied, |row| batch.with(row).map_or(Ok(()), &mut take))?;
        } else {
            // The rows are short without their files, of which each is an entry of the archive.
            let mut rows = Vec::new();
            self.rows(copied, |row| {
                rows.push(row);
                Ok(())
            })?;
            for mut row in rows {
                let key = key_of(table, &row)?;
                for column in files_of(table) {
                    let file = self.file(table, column, &key)?;
                    if let Some(cell) = table.place(column).and_then(|at| row.get_mut(at)) {
                        *cell = Cell::Bytes(file);
                    }
                }
                batch.with(row).map_or(Ok(()), &mut take)?;
            }
        }
        take(batch.rows)
    }

    /// Reads every byte of it and holds it against what was written.
    ///
    /// # Errors
    ///
    /// [`BackupError::Broken`] with the first part that is not whole.
    pub fn look_over(&mut self) -> Result<()> {
        for copied in self.manifest.tables.clone() {
            let table = &copied.table;
            let mut keys = Vec::new();
            self.rows(&copied, |row| {
                if files_of(table).next().is_some() {
                    keys.push(key_of(table, &row)?);
                }
                Ok(())
            })?;
            let mut digest = Sha256::new();
            for key in keys {
                for column in files_of(table) {
                    digest.update(self.file(table, column, &key)?);
                }
            }
            if hex::encode(digest.finalize()) != copied.files_sha256 {
                return Err(BackupError::Broken(format!(
                    "the pictures of “{}” are not as they were written",
                    table.name
                )));
            }
        }
        Ok(())
    }
}

/// Rows that are read together.
#[derive(Default)]
struct Batch {
    rows: Vec<Vec<Cell>>,
    bytes: usize,
}

impl Batch {
    /// Takes a row in; gives them all out where it is full with it.
    fn with(&mut self, row: Vec<Cell>) -> Option<Vec<Vec<Cell>>> {
        let size = |cell: &Cell| match cell {
            Cell::Null => 0,
            Cell::Words(words) => words.len(),
            Cell::Bytes(bytes) => bytes.len(),
        };
        self.bytes += row.iter().map(size).sum::<usize>();
        self.rows.push(row);
        let full = self.rows.len() >= ROWS_AT_ONCE || self.bytes >= BYTES_AT_ONCE;
        full.then(|| std::mem::take(self).rows)
    }
}

/// The key of a row that has files: a table with files has one column for it.
pub(crate) fn key_of(table: &Table, row: &[Cell]) -> Result<String> {
    let at = table.key.first().and_then(|key| table.place(key));
    match at.and_then(|at| row.get(at)) {
        Some(Cell::Words(key)) => Ok(key.clone()),
        _ => Err(BackupError::Broken(format!("a row of “{}” has no number", table.name))),
    }
}

/// The columns of a table that hold files.
pub(crate) fn files_of(table: &Table) -> impl Iterator<Item = &str> {
    table.columns.iter().filter(|column| column.holds == Holds::File).map(|column| column.name.as_str())
}

fn broken(error: ZipError) -> BackupError {
    BackupError::Broken(error.to_string())
}

fn cells(line: &str, table: &Table) -> Result<Vec<Cell>> {
    let unreadable = || BackupError::Broken(format!("a row of “{}” cannot be read", table.name));
    let values: Vec<Option<String>> = serde_json::from_str(line).map_err(|_| unreadable())?;
    if values.len() != table.columns.len() {
        return Err(unreadable());
    }
    let cell = |(value, column): (Option<String>, &yardwand_store::Column)| match (value, column.holds) {
        (None, _) => Ok(Cell::Null),
        (Some(words), Holds::Words) => Ok(Cell::Words(words)),
        (Some(digits), Holds::Bytes | Holds::File) => {
            hex::decode(digits).map(Cell::Bytes).map_err(|_| unreadable())
        }
    };
    values.into_iter().zip(&table.columns).map(cell).collect()
}

impl Manifest {
    /// What a backup says of itself that is only being taken.
    pub(crate) fn begun(taken_at: DateTime<Utc>, schema: i64, house: String) -> Self {
        let program = env!("CARGO_PKG_VERSION").to_owned();
        Self { format: FORMAT, program, taken_at, schema, house, tables: Vec::new() }
    }
}
