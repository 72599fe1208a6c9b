//! The whole house copied out as it stands at one moment, and copied in again: rows of any table as plain texts and bytes.
//!
//! The statements are made from what the database itself says of its tables, so that a table which a later migration adds is
//! copied without a line here. Which tables stay behind stands in [`LEFT_BEHIND`].

use std::collections::{BTreeMap, BTreeSet};

use chrono::{DateTime, NaiveDateTime, Utc};
use futures_util::TryStreamExt;
use serde::{Deserialize, Serialize};
use sqlx::mysql::{MySqlConnection, MySqlRow};
use sqlx::{AssertSqlSafe, ConnectOptions, Connection, Row};

use crate::{Result, Store, StoreError, schema};

/// What is no part of the house's book: what lets somebody in, who has tried to come in, work in hand, and how the schema came about.
const LEFT_BEHIND: [&str; 10] = [
    "sign_ins",
    "entry_links",
    "known_devices",
    "attempts",
    "sign_in_attempts",
    "jobs",
    "job_files",
    "schema_steps",
    "schema_lease",
    "_sqlx_migrations",
];

/// What a fresh schema already holds, and a house that is copied in brings itself.
const MADE_WITH_THE_SCHEMA: &str = "house_identity";

/// The one table that names a row of another and outlives it: who did what, with whose client.
const HISTORY: (&str, &str) = ("audit", "client_id");

/// A table as it is copied.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Table {
    /// Its name.
    pub name: String,
    /// Its columns, in the order of a row's values.
    pub columns: Vec<Column>,
    /// The columns of its primary key.
    pub key: Vec<String>,
    /// The number its next row gets, so that the number of an erased one is never given again.
    pub next_id: Option<u64>,
}

/// A column of a table.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct Column {
    /// Its name.
    pub name: String,
    /// What its values are.
    pub holds: Holds,
}

/// What the values of a column are.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Holds {
    /// Numbers, dates and words, as MariaDB writes them.
    Words,
    /// A few bytes, such as a digest.
    Bytes,
    /// A file, such as a photograph: it is copied by itself.
    File,
}

/// A value of a row.
#[derive(Clone, Debug, PartialEq, Eq)]
pub enum Cell {
    /// Nothing.
    Null,
    /// A number, a date, a text.
    Words(String),
    /// Bytes.
    Bytes(Vec<u8>),
}

/// A column that names a row of another table, or of its own.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Reference {
    /// Its name in the database.
    pub name: String,
    /// The table that refers.
    pub table: String,
    /// By this column.
    pub column: String,
    /// To this table.
    pub to_table: String,
    /// To this column of it.
    pub to_column: String,
    /// A row goes when the one it refers to goes.
    pub cascades: bool,
}

impl Table {
    /// The place of a column in a row.
    pub fn place(&self, column: &str) -> Option<usize> {
        self.columns.iter().position(|each| each.name == column)
    }

    /// The names of its columns between commas, as a statement wants them.
    fn column_list(&self) -> String {
        let names: Vec<String> = self.columns.iter().map(|column| format!("`{}`", column.name)).collect();
        names.join(", ")
    }

    fn key_list(&self) -> String {
        let names: Vec<String> = self.key.iter().map(|name| format!("`{name}`")).collect();
        names.join(", ")
    }
}

/// The house as it stands at one moment, however long it takes to read it and whatever is written meanwhile.
#[derive(Debug)]
pub struct Snapshot {
    connection: MySqlConnection,
    /// The moment.
    pub taken_at: DateTime<Utc>,
    /// The newest migration of its schema.
    pub schema: i64,
    /// The house it is of: a word of its own, made once.
    pub identity: String,
    /// Every table of its book.
    pub tables: Vec<Table>,
}

impl Store {
    /// Begins to read the house as it stands now.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] while another one is taken, [`StoreError::Schema`] where the schema is not this program's.
    pub async fn snapshot(&self) -> Result<Snapshot> {
        let mut connection = self.pool.connect_options().connect().await?;
        alone(
            &mut connection,
            "another backup of this house is being taken or brought back: wait until it is done",
        )
        .await?;
        let schema = schema::whole(&mut connection).await?;
        let tables = tables(&mut connection).await?;
        sqlx::raw_sql("SET SESSION TRANSACTION ISOLATION LEVEL REPEATABLE READ")
            .execute(&mut connection)
            .await?;
        sqlx::raw_sql("START TRANSACTION WITH CONSISTENT SNAPSHOT, READ ONLY")
            .execute(&mut connection)
            .await?;
        let (taken_at, identity): (NaiveDateTime, String) =
            sqlx::query_as("SELECT UTC_TIMESTAMP(3), identity FROM house_identity WHERE id = 1")
                .fetch_one(&mut connection)
                .await?;
        Ok(Snapshot { connection, taken_at: taken_at.and_utc(), schema, identity, tables })
    }
}

impl Snapshot {
    /// Reads a table, a row at a time, in the order of its key. A file is left out of its row.
    ///
    /// # Errors
    ///
    /// What `take` says, or [`StoreError::Database`].
    pub async fn rows<E: From<StoreError>>(
        &mut self,
        table: &Table,
        mut take: impl FnMut(Vec<Cell>) -> std::result::Result<(), E>,
    ) -> std::result::Result<(), E> {
        let read: Vec<String> = table
            .columns
            .iter()
            .map(|column| match column.holds {
                Holds::Words => format!("CAST(`{}` AS CHAR)", column.name),
                Holds::Bytes => format!("`{}`", column.name),
                Holds::File => "NULL".to_owned(),
            })
            .collect();
        let sql = format!("SELECT {} FROM `{}` ORDER BY {}", read.join(", "), table.name, table.key_list());
        let mut rows = sqlx::query(AssertSqlSafe(sql)).fetch(&mut self.connection);
        while let Some(row) = rows.try_next().await.map_err(StoreError::from)? {
            take(cells(&row, table).map_err(StoreError::from)?)?;
        }
        Ok(())
    }

    /// A file of a row, by the row's key.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn file(&mut self, table: &Table, column: &str, key: &str) -> Result<Vec<u8>> {
        let sql = format!("SELECT `{column}` FROM `{}` WHERE {} = ?", table.name, table.key_list());
        let (file,): (Vec<u8>,) =
            sqlx::query_as(AssertSqlSafe(sql)).bind(key).fetch_one(&mut self.connection).await?;
        Ok(file)
    }

    /// Ends reading.
    ///
    /// # Errors
    ///
    /// [`StoreError::Schema`] where the schema was changed meanwhile: then what was read is not of one moment.
    pub async fn end(mut self) -> Result<()> {
        sqlx::raw_sql("COMMIT").execute(&mut self.connection).await?;
        let now = tables(&mut self.connection).await?;
        let shape = |tables: &[Table]| {
            tables.iter().map(|table| (table.name.clone(), table.columns.clone())).collect::<Vec<_>>()
        };
        if shape(&now) != shape(&self.tables) {
            return Err(StoreError::Schema(
                "it was changed while it was read: take the backup once more".to_owned(),
            ));
        }
        Ok(self.connection.close().await?)
    }
}

fn cells(row: &MySqlRow, table: &Table) -> sqlx::Result<Vec<Cell>> {
    let mut cells = Vec::with_capacity(table.columns.len());
    for (place, column) in table.columns.iter().enumerate() {
        cells.push(match column.holds {
            Holds::Words => row.try_get::<Option<String>, _>(place)?.map_or(Cell::Null, Cell::Words),
            Holds::Bytes => row.try_get::<Option<Vec<u8>>, _>(place)?.map_or(Cell::Null, Cell::Bytes),
            Holds::File => Cell::Null,
        });
    }
    Ok(cells)
}

/// Takes the turn of a copy of this house, in or out: the connection has it until it ends.
async fn alone(connection: &mut MySqlConnection, says: &'static str) -> Result<()> {
    let (turn,): (Option<i64>,) =
        sqlx::query_as("SELECT GET_LOCK(CONCAT('yardwand backup ', SHA1(DATABASE())), 0)")
            .fetch_one(connection)
            .await?;
    if turn == Some(1) { Ok(()) } else { Err(StoreError::Refused(says)) }
}

/// Every table of the book as the database describes it, those first that others refer to.
async fn tables(connection: &mut MySqlConnection) -> Result<Vec<Table>> {
    let columns: Vec<(String, String, String)> = sqlx::query_as(
        "SELECT c.table_name, c.column_name, c.data_type FROM information_schema.columns c
         JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
         WHERE c.table_schema = DATABASE() AND t.table_type = 'BASE TABLE' AND c.is_generated = 'NEVER'
         ORDER BY c.table_name, c.ordinal_position",
    )
    .fetch_all(&mut *connection)
    .await?;
    let mut of: BTreeMap<String, Table> = BTreeMap::new();
    for (table, column, kind) in columns {
        let holds = match kind.to_ascii_lowercase().as_str() {
            "binary" | "varbinary" => Holds::Bytes,
            "tinyblob" | "blob" | "mediumblob" | "longblob" => Holds::File,
            _ => Holds::Words,
        };
        let empty = Table { name: table.clone(), columns: Vec::new(), key: Vec::new(), next_id: None };
        of.entry(table).or_insert(empty).columns.push(Column { name: column, holds });
    }
    let keys: Vec<(String, String)> = sqlx::query_as(
        "SELECT table_name, column_name FROM information_schema.key_column_usage
         WHERE table_schema = DATABASE() AND constraint_name = 'PRIMARY' ORDER BY table_name, ordinal_position",
    )
    .fetch_all(&mut *connection)
    .await?;
    for (table, column) in keys {
        of.entry(table).and_modify(|table| table.key.push(column));
    }
    let counters: Vec<(String, Option<u64>)> = sqlx::query_as(
        "SELECT table_name, auto_increment FROM information_schema.tables WHERE table_schema = DATABASE()",
    )
    .fetch_all(&mut *connection)
    .await?;
    for (table, next_id) in counters {
        of.entry(table).and_modify(|table| table.next_id = next_id);
    }
    of.retain(|name, _| !LEFT_BEHIND.contains(&name.as_str()));
    let references = references(connection).await?;
    Ok(parents_first(of, &references))
}

/// The tables in an order in which each comes after those it refers to.
fn parents_first(mut left: BTreeMap<String, Table>, references: &[Reference]) -> Vec<Table> {
    let mut ordered = Vec::with_capacity(left.len());
    while !left.is_empty() {
        let waits = |name: &str| {
            let names_clients = name == HISTORY.0 && left.contains_key("clients");
            let refers =
                |r: &Reference| r.table == name && r.to_table != name && left.contains_key(&r.to_table);
            names_clients || references.iter().any(refers)
        };
        // Two that refer to each other would wait for ever: then the first by name goes on.
        let next = left.keys().find(|name| !waits(name)).or_else(|| left.keys().next()).cloned();
        ordered.extend(next.and_then(|name| left.remove(&name)));
    }
    ordered
}

/// Every column that names a row of another table.
pub(crate) async fn references(connection: &mut MySqlConnection) -> Result<Vec<Reference>> {
    let rows: Vec<(String, String, String, String, String, String)> = sqlx::query_as(
        "SELECT k.constraint_name, k.table_name, k.column_name, k.referenced_table_name, k.referenced_column_name,
           r.delete_rule
         FROM information_schema.key_column_usage k
         JOIN information_schema.referential_constraints r ON r.constraint_schema = k.table_schema
           AND r.constraint_name = k.constraint_name AND r.table_name = k.table_name
         WHERE k.table_schema = DATABASE() AND k.referenced_table_name IS NOT NULL
         ORDER BY k.table_name, k.constraint_name",
    )
    .fetch_all(connection)
    .await?;
    let reference = |(name, table, column, to_table, to_column, rule): (String, _, _, _, _, String)| {
        Reference { name, table, column, to_table, to_column, cascades: rule == "CASCADE" }
    };
    Ok(rows.into_iter().map(reference).collect())
}

/// Rows that refer to one that is not there: the reference's name, and how many.
pub(crate) async fn broken_references(connection: &mut MySqlConnection) -> Result<Vec<(Reference, u64)>> {
    let mut broken = Vec::new();
    for reference in references(connection).await? {
        let Reference { table, column, to_table, to_column, .. } = &reference;
        let sql = format!(
            "SELECT COUNT(*) FROM `{table}` a LEFT JOIN `{to_table}` b ON b.`{to_column}` = a.`{column}` \
             WHERE a.`{column}` IS NOT NULL AND b.`{to_column}` IS NULL"
        );
        let (rows,): (i64,) = sqlx::query_as(AssertSqlSafe(sql)).fetch_one(&mut *connection).await?;
        if rows > 0 {
            broken.push((reference, rows.unsigned_abs()));
        }
    }
    Ok(broken)
}

/// Rows that are copied into a house: all of them, or none.
#[derive(Debug)]
pub struct CopyingIn {
    store: Store,
    connection: MySqlConnection,
    tables: Vec<Table>,
    /// A whole house is looked over at the end; rows of one client are held to what is there as they come.
    whole: bool,
}

impl Store {
    /// Begins to copy a whole house into this database, which has to be empty. Its schema is made as it was when the copy was
    /// taken; [`CopyingIn::end`] brings it up to this program's.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where there is a house already, [`StoreError::Schema`] where the copy is a newer program's.
    pub async fn copy_house_in(&self, schema: i64, copied: &[Table]) -> Result<CopyingIn> {
        let mut connection = self.pool.connect_options().connect().await?;
        alone(
            &mut connection,
            "another backup is being brought back into this database: wait until it is done",
        )
        .await?;
        // What a later migration changes in rows would have been done before the rows were there.
        if schema::newest(&mut connection).await?.is_some_and(|newest| newest > schema) {
            return Err(StoreError::Refused(
                "this database was brought up already, further than the backup: give one that is empty, without a table",
            ));
        }
        self.migrate_to(schema).await?;
        for table in ["people", "clients", "house", "audit"] {
            let sql = format!("SELECT EXISTS (SELECT 1 FROM `{table}`)");
            let (holds,): (bool,) = sqlx::query_as(AssertSqlSafe(sql)).fetch_one(&mut connection).await?;
            if holds {
                return Err(StoreError::Refused(
                    "there is a house in this database already, and nothing was changed: give an empty database",
                ));
            }
        }
        let tables = tables(&mut connection).await?;
        for table in copied {
            let own = known(&tables, table)?;
            if let Some(next) = table.next_id {
                let sql = format!("ALTER TABLE `{}` AUTO_INCREMENT = {next}", own.name);
                sqlx::raw_sql(AssertSqlSafe(sql)).execute(&mut connection).await?;
            }
        }
        sqlx::raw_sql("SET foreign_key_checks = 0; START TRANSACTION").execute(&mut connection).await?;
        sqlx::raw_sql(AssertSqlSafe(format!("DELETE FROM `{MADE_WITH_THE_SCHEMA}`")))
            .execute(&mut connection)
            .await?;
        Ok(CopyingIn { store: self.clone(), connection, tables, whole: true })
    }

    /// Begins to copy rows of one client into this house, of whom nothing may be there.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where she is in the house, or the copy is of another one or of another schema.
    pub async fn copy_client_in(&self, schema: i64, identity: &str, client: u64) -> Result<CopyingIn> {
        let mut connection = self.pool.connect_options().connect().await?;
        if schema::whole(&mut connection).await? != schema {
            return Err(StoreError::Refused(
                "this backup is of an older Yardwand: restore it whole into an empty database, back that one up with this \
                 program, and bring her back from there",
            ));
        }
        let (own,): (String,) = sqlx::query_as("SELECT identity FROM house_identity WHERE id = 1")
            .fetch_one(&mut connection)
            .await?;
        if own != identity {
            return Err(StoreError::Refused(
                "this backup is of another house: numbers of its clients mean others here",
            ));
        }
        let (here,): (bool,) = sqlx::query_as("SELECT EXISTS (SELECT 1 FROM clients WHERE id = ?)")
            .bind(client)
            .fetch_one(&mut connection)
            .await?;
        if here {
            return Err(StoreError::Refused(
                "she is in this house: restore the backup whole into an empty database to look at how she was, or erase her first",
            ));
        }
        let tables = tables(&mut connection).await?;
        sqlx::raw_sql("START TRANSACTION").execute(&mut connection).await?;
        Ok(CopyingIn { store: self.clone(), connection, tables, whole: false })
    }
}

/// A table of a copy as this house has it: only names that the database itself says come into a statement.
fn known<'a>(tables: &'a [Table], copied: &Table) -> Result<&'a Table> {
    let own = tables.iter().find(|own| own.name == copied.name);
    let own = own.filter(|own| copied.columns.iter().all(|column| own.columns.contains(column)));
    own.ok_or_else(|| {
        StoreError::Schema(format!(
            "the copy's table “{}” is none of this house, or has other columns",
            copied.name
        ))
    })
}

impl CopyingIn {
    /// Copies rows of a table in; each has the values of its columns in order.
    ///
    /// # Errors
    ///
    /// [`StoreError::Schema`] for a table that is not one of the house, [`StoreError::Database`].
    pub async fn rows(&mut self, table: &Table, rows: &[Vec<Cell>]) -> Result<()> {
        if rows.is_empty() {
            return Ok(());
        }
        known(&self.tables, table)?;
        let width = table.columns.len();
        if let Some(odd) = rows.iter().find(|row| row.len() != width) {
            let found = odd.len();
            return Err(StoreError::Schema(format!(
                "a row of “{}” has {found} values, not {width}",
                table.name
            )));
        }
        let row = format!("({})", vec!["?"; width].join(", "));
        let values = vec![row.as_str(); rows.len()].join(", ");
        let sql = format!("INSERT INTO `{}` ({}) VALUES {values}", table.name, table.column_list());
        let mut insert = sqlx::query(AssertSqlSafe(sql)).persistent(false);
        for cell in rows.iter().flatten() {
            insert = match cell {
                Cell::Null => insert.bind(None::<String>),
                Cell::Words(words) => insert.bind(words),
                Cell::Bytes(bytes) => insert.bind(bytes),
            };
        }
        insert.execute(&mut self.connection).await?;
        Ok(())
    }

    /// Notes in the house's history that somebody was brought back.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn note_client(&mut self, client: u64) -> Result<()> {
        sqlx::query(
            "INSERT INTO audit (person_id, what, of_table, of_id, client_id) VALUES (NULL, 'brought back from a backup', 'clients', ?, ?)",
        )
        .bind(client)
        .bind(client)
        .execute(&mut self.connection)
        .await?;
        Ok(())
    }

    /// Keeps all of it. A whole house is looked over first, and its schema brought up to this program's after it.
    ///
    /// # Errors
    ///
    /// [`StoreError::Schema`] where a row refers to one that is not there: then nothing is kept.
    pub async fn end(mut self) -> Result<()> {
        if self.whole
            && let Some((reference, rows)) = broken_references(&mut self.connection).await?.first()
        {
            return Err(StoreError::Schema(format!(
                "{rows} rows of “{}” refer to rows of “{}” that are not in the copy: nothing was kept",
                reference.table, reference.to_table
            )));
        }
        sqlx::raw_sql("COMMIT").execute(&mut self.connection).await?;
        self.connection.close().await?;
        if self.whole { self.store.migrate().await } else { Ok(()) }
    }
}

/// What belongs to one client in a copy: the rows that would go if she were erased.
///
/// A row goes with the row that a part of its own key names; otherwise with any that it goes with.
#[derive(Debug)]
pub struct Hers {
    client: String,
    references: Vec<Reference>,
    /// The values by which other tables refer to her rows, by table and column.
    named: BTreeMap<(String, String), BTreeSet<String>>,
}

impl Store {
    /// Begins to ask what is hers.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn hers(&self, client: u64) -> Result<Hers> {
        let mut connection = self.pool.acquire().await?;
        let references = references(&mut connection).await?;
        Ok(Hers { client: client.to_string(), references, named: BTreeMap::new() })
    }
}

impl Hers {
    /// Whether this row is hers. Tables have to be asked in the order of the copy: those first that others refer to.
    pub fn takes(&mut self, table: &Table, row: &[Cell]) -> bool {
        let value = |column: &str| match table.place(column).and_then(|place| row.get(place)) {
            Some(Cell::Words(words)) => Some(words.as_str()),
            _ => None,
        };
        let hers = match table.name.as_str() {
            "clients" => [value("id"), value("merged_into")].contains(&Some(self.client.as_str())),
            table if table == HISTORY.0 => self.names("clients", "id", value(HISTORY.1)),
            _ => {
                let going = self.references.iter().filter(|r| r.table == table.name && r.cascades);
                let (by_key, by_others): (Vec<_>, Vec<_>) =
                    going.partition(|r| table.key.len() == 1 && table.key.contains(&r.column));
                let deciding = if by_key.is_empty() { by_others } else { by_key };
                deciding.iter().any(|r| self.names(&r.to_table, &r.to_column, value(&r.column)))
            }
        };
        if hers {
            for reference in self.references.iter().filter(|r| r.to_table == table.name) {
                if let Some(named) = value(&reference.to_column) {
                    let of = (table.name.clone(), reference.to_column.clone());
                    self.named.entry(of).or_default().insert(named.to_owned());
                }
            }
        }
        hers
    }

    fn names(&self, table: &str, column: &str, value: Option<&str>) -> bool {
        let of = self.named.get(&(table.to_owned(), column.to_owned()));
        value.is_some_and(|value| of.is_some_and(|named| named.contains(value)))
    }
}
