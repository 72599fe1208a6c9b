//! The schema: brought up to this program's version, by one server at a time, in steps that may each run again.
//!
//! A migration is a file of statements. MariaDB ends a transaction at every change of a table, so a migration cannot be
//! one transaction: each statement is a step of its own, kept in `schema_steps` when it is done. A step that was
//! done and not yet kept when its server died runs again, which is why every one is written so that it may
//! (`IF NOT EXISTS`, `OR REPLACE`). A step that changes rows is kept in the same transaction and runs exactly once.

use std::collections::BTreeSet;
use std::time::Duration;

use sqlx::migrate::{Migration, Migrator};
use sqlx::mysql::MySqlConnection;
use sqlx::{AssertSqlSafe, ConnectOptions, Connection};

use crate::{Result, Store, StoreError};

static MIGRATIONS: Migrator = sqlx::migrate!("./migrations");

/// How long a server waits for another one that is at work on the schema.
const PATIENCE: Duration = Duration::from_secs(600);

/// A server of a cluster that does not say for so long that it is still at work on the schema has died, in seconds.
const LEASE_SECONDS: u32 = 30;

impl Store {
    /// Brings the schema up to this program's version. Forward only. Where several servers start at once, one does it and
    /// the others wait for it.
    ///
    /// # Errors
    ///
    /// [`StoreError::Schema`] where another server is at it for too long, or the schema is a newer program's.
    pub async fn migrate(&self) -> Result<()> {
        self.migrate_to(i64::MAX).await
    }

    /// The same up to a version, for a house that comes as it was then.
    pub(crate) async fn migrate_to(&self, version: i64) -> Result<()> {
        // A connection of its own: the lock ends with it, also where this server dies. A change of a table is slow by nature, and
        // not worth a warning.
        let options = self.pool.connect_options().as_ref().clone().disable_statement_logging();
        let mut connection = options.connect().await?;
        let done = migrate(&mut connection, version).await;
        connection.close().await?;
        done
    }
}

async fn migrate(connection: &mut MySqlConnection, until: i64) -> Result<()> {
    take_turn(connection).await?;
    let lease = Lease::take(connection).await?;
    run(
        connection,
        "CREATE TABLE IF NOT EXISTS schema_steps (
            version BIGINT NOT NULL,
            step INT UNSIGNED NOT NULL,
            done_at DATETIME(3) NOT NULL DEFAULT UTC_TIMESTAMP(3),
            PRIMARY KEY (version, step)
        )",
    )
    .await?;
    let whole = adopted(connection).await?;
    let done: BTreeSet<(i64, u32)> = sqlx::query_as("SELECT version, step FROM schema_steps")
        .fetch_all(&mut *connection)
        .await?
        .into_iter()
        .collect();
    let known: BTreeSet<i64> = MIGRATIONS.iter().map(|migration| migration.version).collect();
    let asked = (until != i64::MAX).then_some(&until);
    if let Some(newer) = done
        .iter()
        .map(|(version, _)| version)
        .chain(&whole)
        .chain(asked)
        .find(|version| !known.contains(version))
    {
        return Err(StoreError::Schema(format!(
            "it was brought up by a newer Yardwand (migration {newer} is not this program's): start that one"
        )));
    }
    let wanted = MIGRATIONS.iter().filter(|migration| migration.version <= until);
    for migration in wanted.filter(|migration| !whole.contains(&migration.version)) {
        for (step, statement) in (0..).zip(steps(migration)) {
            if !done.contains(&(migration.version, step)) {
                lease.renew(connection).await?;
                run_step(connection, (migration.version, step), statement).await?;
            }
        }
    }
    lease.give_back(connection).await
}

/// Whether a program of 0.6 or later has been at work on this schema.
async fn has_steps(connection: &mut MySqlConnection) -> Result<bool> {
    let sql = "SELECT COUNT(*) FROM information_schema.tables
               WHERE table_schema = DATABASE() AND table_name = 'schema_steps'";
    let (count,): (i64,) = sqlx::query_as(sql).fetch_one(connection).await?;
    Ok(count > 0)
}

/// The newest migration that was begun on this schema.
pub(crate) async fn newest(connection: &mut MySqlConnection) -> Result<Option<i64>> {
    let adopted = adopted(connection).await?.into_iter().max();
    if !has_steps(connection).await? {
        return Ok(adopted);
    }
    let (newest,): (Option<i64>,) =
        sqlx::query_as("SELECT MAX(version) FROM schema_steps").fetch_one(connection).await?;
    Ok(newest.max(adopted))
}

/// The newest migration of a schema that is this program's, whole.
pub(crate) async fn whole(connection: &mut MySqlConnection) -> Result<i64> {
    let not_whole = || {
        StoreError::Schema(
            "it is not this program's: start the server once, or `yardwand migrate`, which brings it up"
                .to_owned(),
        )
    };
    if !has_steps(connection).await? {
        return Err(not_whole());
    }
    let adopted = adopted(connection).await?;
    let done: Vec<(i64, i64)> = sqlx::query_as("SELECT version, COUNT(*) FROM schema_steps GROUP BY version")
        .fetch_all(&mut *connection)
        .await?;
    for migration in MIGRATIONS.iter().filter(|migration| !adopted.contains(&migration.version)) {
        let steps = i64::try_from(steps(migration).len()).unwrap_or(i64::MAX);
        if !done.contains(&(migration.version, steps)) {
            return Err(not_whole());
        }
    }
    let newest = MIGRATIONS.iter().map(|migration| migration.version).max().unwrap_or_default();
    if done.iter().any(|(version, _)| *version > newest) {
        return Err(not_whole());
    }
    Ok(newest)
}

/// Waits until no other server on this database server is at work on this schema. The lock is the connection's: it goes
/// with it.
async fn take_turn(connection: &mut MySqlConnection) -> Result<()> {
    // A lock is the whole server's: its name holds the database's, shortened, as a name has at most 64 characters.
    let (taken,): (Option<i64>,) =
        sqlx::query_as("SELECT GET_LOCK(CONCAT('yardwand ', SHA1(DATABASE())), ?)")
            .bind(PATIENCE.as_secs())
            .fetch_one(connection)
            .await?;
    match taken {
        Some(1) => Ok(()),
        _ => Err(StoreError::Schema(
            "another server is still at work on it: look whether that one goes on, then start this one again"
                .to_owned(),
        )),
    }
}

/// In a cluster a lock holds on one node only: there a row says besides who is at work on the schema, and until when. Nodes
/// that write it at once are told apart when they commit.
struct Lease {
    /// None outside a cluster.
    holder: Option<String>,
}

impl Lease {
    async fn take(connection: &mut MySqlConnection) -> Result<Self> {
        let (in_cluster,): (i64,) = sqlx::query_as("SELECT @@wsrep_on = 1 AND @@wsrep_cluster_address <> ''")
            .fetch_one(&mut *connection)
            .await?;
        if in_cluster == 0 {
            return Ok(Self { holder: None });
        }
        run(
            connection,
            "CREATE TABLE IF NOT EXISTS schema_lease (
                id TINYINT UNSIGNED NOT NULL PRIMARY KEY,
                holder VARCHAR(64) NOT NULL,
                until DATETIME(3) NOT NULL,
                CONSTRAINT schema_lease_single CHECK (id = 1)
            )",
        )
        .await?;
        // Another node may be making it at the same time.
        let made = sqlx::query(
            "INSERT IGNORE INTO schema_lease (id, holder, until) VALUES (1, '', UTC_TIMESTAMP(3))",
        )
        .execute(&mut *connection)
        .await
        .map_err(StoreError::from);
        if let Err(error) = made
            && !error.is_turned_back()
        {
            return Err(error);
        }
        let (holder,): (String,) = sqlx::query_as("SELECT UUID()").fetch_one(&mut *connection).await?;
        let lease = Self { holder: Some(holder) };
        let begun = std::time::Instant::now();
        while begun.elapsed() < PATIENCE {
            if lease.extend(connection).await? {
                return Ok(lease);
            }
            tokio::time::sleep(Duration::from_millis(500)).await;
        }
        Err(StoreError::Schema(
            "another node's server is still at work on it: start this one again later".to_owned(),
        ))
    }

    /// Takes the lease or makes it longer; false where another one has it.
    async fn extend(&self, connection: &mut MySqlConnection) -> Result<bool> {
        let Some(holder) = &self.holder else { return Ok(true) };
        let taken = sqlx::query(
            "UPDATE schema_lease SET holder = ?, until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND
             WHERE id = 1 AND (holder = ? OR until <= UTC_TIMESTAMP(3))",
        )
        .bind(holder)
        .bind(LEASE_SECONDS)
        .bind(holder)
        .execute(connection)
        .await;
        match taken.map_err(StoreError::from) {
            Ok(done) => Ok(done.rows_affected() == 1),
            // Another node was faster.
            Err(error) if error.is_turned_back() => Ok(false),
            Err(error) => Err(error),
        }
    }

    async fn renew(&self, connection: &mut MySqlConnection) -> Result<()> {
        if self.extend(connection).await? {
            return Ok(());
        }
        Err(StoreError::Schema(
            "this server was too slow, and another node's has taken over: start this one again".to_owned(),
        ))
    }

    async fn give_back(&self, connection: &mut MySqlConnection) -> Result<()> {
        let Some(holder) = &self.holder else { return Ok(()) };
        sqlx::query("UPDATE schema_lease SET until = UTC_TIMESTAMP(3) WHERE id = 1 AND holder = ?")
            .bind(holder)
            .execute(connection)
            .await?;
        Ok(())
    }
}

/// The versions that a program before 0.6 brought up whole: it kept them in a table of SQLx's. What it left half done is not
/// among them and runs again from its first step.
async fn adopted(connection: &mut MySqlConnection) -> Result<BTreeSet<i64>> {
    let (has_table,): (i64,) = sqlx::query_as(
        "SELECT COUNT(*) FROM information_schema.tables WHERE table_schema = DATABASE() AND table_name = '_sqlx_migrations'",
    )
    .fetch_one(&mut *connection)
    .await?;
    if has_table == 0 {
        return Ok(BTreeSet::new());
    }
    let whole: Vec<(i64,)> =
        sqlx::query_as("SELECT version FROM _sqlx_migrations WHERE success").fetch_all(connection).await?;
    Ok(whole.into_iter().map(|(version,)| version).collect())
}

async fn run_step(
    connection: &mut MySqlConnection,
    (version, step): (i64, u32),
    statement: &str,
) -> Result<()> {
    let keep =
        sqlx::query("INSERT IGNORE INTO schema_steps (version, step) VALUES (?, ?)").bind(version).bind(step);
    if changes_rows(statement) {
        let mut tx = connection.begin().await?;
        run(&mut tx, statement).await?;
        keep.execute(&mut *tx).await?;
        tx.commit().await?;
    } else {
        run(connection, statement).await?;
        keep.execute(connection).await?;
    }
    Ok(())
}

async fn run(connection: &mut MySqlConnection, statement: &str) -> Result<()> {
    // As text: MariaDB prepares not every change of a table.
    sqlx::raw_sql(AssertSqlSafe(statement.to_owned())).execute(connection).await?;
    Ok(())
}

/// The statements of a migration: each ends with a semicolon at the end of a line.
fn steps(migration: &Migration) -> Vec<&str> {
    migration
        .sql
        .as_str()
        .split_inclusive(";\n")
        .map(str::trim)
        .filter(|step| !words(step).is_empty())
        .collect()
}

/// A statement without the comments before it.
fn words(statement: &str) -> &str {
    let mut rest = statement.trim_start();
    while let Some(comment) = rest.strip_prefix("--") {
        rest = comment.split_once('\n').map_or("", |(_, after)| after).trim_start();
    }
    rest
}

/// Whether a statement changes rows, and no table.
fn changes_rows(statement: &str) -> bool {
    ["INSERT", "UPDATE", "DELETE"].iter().any(|word| words(statement).starts_with(word))
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A step that begins otherwise is not known to be one that may run again.
    #[test]
    fn every_step_is_of_a_kind_that_may_run_again() {
        let mut steps_seen = 0;
        for migration in MIGRATIONS.iter() {
            for step in steps(migration) {
                steps_seen += 1;
                let step = words(step);
                let may = match step {
                    _ if step.starts_with("CREATE TABLE") => step.starts_with("CREATE TABLE IF NOT EXISTS"),
                    _ if step.starts_with("CREATE") => step.starts_with("CREATE OR REPLACE VIEW"),
                    _ if step.starts_with("ALTER TABLE") => alters_again(step),
                    _ => changes_rows(step),
                };
                assert!(may, "{}: {step}", migration.description);
            }
        }
        assert!(steps_seen > 70, "{steps_seen}");
    }

    /// Whether each part of a change of a table asks first whether it is done.
    fn alters_again(statement: &str) -> bool {
        let parts: Vec<&str> = statement.lines().flat_map(|line| line.split("ADD ").skip(1)).collect();
        let asks = |part: &&str| part.contains("IF NOT EXISTS") || replaces(statement, part);
        parts.iter().all(asks)
            && !statement.lines().any(|line| line.contains("DROP ") && !line.contains("IF EXISTS"))
    }

    /// A constraint that is dropped in the same statement, where there is one, is written anew.
    fn replaces(statement: &str, added: &str) -> bool {
        let name = added.strip_prefix("CONSTRAINT ").and_then(|rest| rest.split_whitespace().next());
        name.is_some_and(|name| statement.contains(&format!("DROP CONSTRAINT IF EXISTS {name},")))
    }

    #[test]
    fn a_statement_ends_at_the_end_of_a_line() {
        assert_eq!(words("-- What; it is.\n-- More.\nUPDATE a SET b = 1;"), "UPDATE a SET b = 1;");
        assert!(changes_rows("-- Why.\nINSERT IGNORE INTO a VALUES (1);"));
        assert!(!changes_rows("ALTER TABLE a ADD COLUMN IF NOT EXISTS b INT;"));
    }
}
