//! The schema is brought up from wherever a house left it: by several servers at once, after a death at any moment, and from every
//! version that was released, with its rows.

use std::collections::BTreeMap;
use std::time::Duration;

use sqlx::mysql::MySqlPool;
use sqlx::{AssertSqlSafe, Row};
use yardwand_devdb::TestDb;
use yardwand_store::Store;

/// What each release added, from the first one: its statements as they were, and rows.
const RELEASES: [(&str, &str); 4] = [
    ("0.1.0", include_str!("../upgrades/0.1.0.sql")),
    ("0.2.0", include_str!("../upgrades/0.2.0.sql")),
    ("0.3.0 and 0.4.0", include_str!("../upgrades/0.3.0.sql")),
    ("0.5.0", include_str!("../upgrades/0.5.0.sql")),
];

/// A database as the first so many releases made it.
async fn of_release(count: usize) -> (TestDb, MySqlPool) {
    let db = TestDb::new();
    let pool = MySqlPool::connect(&db.url()).await.unwrap();
    for (name, sql) in &RELEASES[..count] {
        sqlx::raw_sql(AssertSqlSafe(*sql))
            .execute(&pool)
            .await
            .unwrap_or_else(|error| panic!("{name}: {error}"));
    }
    (db, pool)
}

async fn texts(pool: &MySqlPool, sql: &str) -> Vec<String> {
    let rows = sqlx::query(AssertSqlSafe(sql))
        .fetch_all(pool)
        .await
        .unwrap_or_else(|error| panic!("{sql}: {error}"));
    rows.iter().map(|row| row.get::<String, _>(0)).collect()
}

/// Every table as it would be made, but for how far it has counted.
async fn schema(pool: &MySqlPool) -> BTreeMap<String, String> {
    let names = "SELECT table_name FROM information_schema.tables
                 WHERE table_schema = DATABASE() AND table_type = 'BASE TABLE' AND table_name <> '_sqlx_migrations'";
    let mut made = BTreeMap::new();
    for name in texts(pool, names).await {
        let row =
            sqlx::query(AssertSqlSafe(format!("SHOW CREATE TABLE `{name}`"))).fetch_one(pool).await.unwrap();
        let told: String = row.get(1);
        let counted = |word: &&str| !word.starts_with("AUTO_INCREMENT=");
        made.insert(name, told.split(' ').filter(counted).collect::<Vec<_>>().join(" "));
    }
    made
}

/// The schema as it is made in one go.
async fn whole_schema() -> BTreeMap<String, String> {
    let db = TestDb::new();
    Store::connect(&db.url()).await.unwrap().migrate().await.unwrap();
    schema(&MySqlPool::connect(&db.url()).await.unwrap()).await
}

/// How every row of these columns reads, by its table.
async fn rows(pool: &MySqlPool, columns: &BTreeMap<String, Vec<String>>) -> BTreeMap<String, Vec<String>> {
    let mut all = BTreeMap::new();
    for (table, columns) in columns {
        let told: Vec<String> =
            columns.iter().map(|column| format!("IFNULL(HEX(`{column}`), 'none')")).collect();
        let sql = format!("SELECT CONCAT_WS(' ', {}) AS told FROM `{table}` ORDER BY told", told.join(", "));
        all.insert(table.clone(), texts(pool, &sql).await);
    }
    all
}

/// The columns of every table that a migration leaves as they are.
async fn columns(pool: &MySqlPool) -> BTreeMap<String, Vec<String>> {
    let names = "SELECT CONCAT(c.table_name, ' ', c.column_name) FROM information_schema.columns c
                 JOIN information_schema.tables t ON t.table_schema = c.table_schema AND t.table_name = c.table_name
                 WHERE c.table_schema = DATABASE() AND t.table_type = 'BASE TABLE' ORDER BY c.table_name, c.ordinal_position";
    let mut all: BTreeMap<String, Vec<String>> = BTreeMap::new();
    for name in texts(pool, names).await {
        let (table, column) = name.split_once(' ').unwrap();
        // A house of inches has its constants in inches since 0.6.
        if (table, column) != ("house", "measuring") {
            all.entry(table.to_owned()).or_default().push(column.to_owned());
        }
    }
    all
}

#[tokio::test]
async fn every_release_comes_up_with_its_rows() {
    let whole = whole_schema().await;
    for count in 1..=RELEASES.len() {
        let name = RELEASES[count - 1].0;
        let (db, pool) = of_release(count).await;
        let columns = columns(&pool).await;
        let before = rows(&pool, &columns).await;
        assert!(
            before.len() > 17 && before.values().all(|rows| !rows.is_empty()),
            "{name}: a table without rows shows nothing"
        );
        let store = Store::connect(&db.url()).await.unwrap();
        store.migrate().await.unwrap_or_else(|error| panic!("{name}: {error}"));
        let now = schema(&pool).await;
        for (table, made) in &whole {
            assert_eq!(now.get(table), Some(made), "{name}: {table}");
        }
        assert_eq!(now.len(), whole.len(), "{name}");
        assert_eq!(rows(&pool, &columns).await, before, "{name}");
        // What the new columns are filled with.
        let one = async |sql: &str| texts(&pool, sql).await.join(" ");
        assert_eq!(
            one("SELECT CONCAT(id, ':', IFNULL(order_id, '-')) FROM sessions ORDER BY id").await,
            "1:- 2:1",
            "{name}"
        );
        assert_eq!(
            one("SELECT IFNULL(CONVERT(client_id, CHAR), '-') FROM audit ORDER BY id").await,
            "1 1 1",
            "{name}"
        );
        if count >= 2 {
            let measuring = store.house().await.unwrap().measuring;
            assert_eq!((measuring.finger_mm, measuring.cup_over_mm), (12.7, 25.4), "{name}");
        }
        if count >= 3 {
            assert_eq!(one("SELECT garment FROM blocks ORDER BY id").await, "bodice skirt", "{name}");
        }
        let found = store.clients("", false, None, 10).await.unwrap();
        assert_eq!(found.len(), 2, "{name}");
        // Once more is nothing.
        store.migrate().await.unwrap();
        assert_eq!(rows(&pool, &columns).await, before, "{name}");
    }
}

/// One of them does it, the others wait; each step is kept once.
#[tokio::test]
async fn servers_that_start_at_once_all_serve() {
    let whole = whole_schema().await;
    for count in [0, 1, RELEASES.len()] {
        let (db, pool) = of_release(count).await;
        let mut servers = tokio::task::JoinSet::new();
        for _ in 0..3 {
            let url = db.url();
            servers.spawn(async move {
                let store = Store::connect(&url).await.unwrap();
                store.migrate().await.unwrap();
                store.house().await.map(|house| house.name)
            });
        }
        let served = servers.join_all().await;
        assert!(served.iter().all(Result::is_ok), "{served:?}");
        assert_eq!(schema(&pool).await, whole, "from {count}");
    }
}

/// Ends every other connection to this database: what a server sees whose database server dies.
async fn cut_off(pool: &MySqlPool) {
    let others = "SELECT CONVERT(id, CHAR) FROM information_schema.processlist WHERE db = DATABASE() AND id <> CONNECTION_ID()";
    for id in texts(pool, others).await {
        // It may have ended by itself.
        let _ = sqlx::raw_sql(AssertSqlSafe(format!("KILL {id}"))).execute(pool).await;
    }
}

/// Killed again and again, after moments that grow, the next start goes on from where it was.
#[tokio::test]
async fn a_server_that_dies_at_any_moment_is_followed_by_one_that_finishes() {
    let whole = whole_schema().await;
    let mut kills = 0;
    for count in [0, 1, RELEASES.len()] {
        let (db, pool) = of_release(count).await;
        let columns = columns(&pool).await;
        let before = rows(&pool, &columns).await;
        for turn in 0_u64.. {
            let store = Store::connect(&db.url()).await.unwrap();
            let moment = tokio::time::sleep(Duration::from_micros(500 + 1371 * turn));
            let done = tokio::select! {
                done = store.migrate() => Some(done),
                () = moment => None,
            };
            match done {
                Some(done) => {
                    done.unwrap();
                    break;
                }
                // Its own death closes its connections; every other time the database's end goes first.
                None if turn % 2 == 0 => cut_off(&pool).await,
                None => {}
            }
            kills += 1;
            assert!(turn < 500, "it gets nowhere");
        }
        assert_eq!(schema(&pool).await, whole, "from {count}");
        assert_eq!(rows(&pool, &columns).await, before, "from {count}");
    }
    assert!(kills >= 40, "{kills}");
}

/// What a program before 0.6 left half done is finished.
#[tokio::test]
async fn a_migration_that_an_older_program_left_half_done_is_finished() {
    let (db, pool) = of_release(3).await;
    let half: String = RELEASES[3].1.split_inclusive(";\n").take(5).collect();
    sqlx::raw_sql(AssertSqlSafe(half)).execute(&pool).await.unwrap();
    sqlx::raw_sql(
        "INSERT INTO _sqlx_migrations (version, description, success, checksum, execution_time)
         VALUES (20261124090000, 'fitting whole', FALSE, '', -1)",
    )
    .execute(&pool)
    .await
    .unwrap();
    Store::connect(&db.url()).await.unwrap().migrate().await.unwrap();
    assert_eq!(schema(&pool).await, whole_schema().await);
}

#[tokio::test]
async fn a_newer_programs_schema_is_left_alone() {
    let db = TestDb::new();
    let store = Store::connect(&db.url()).await.unwrap();
    store.migrate().await.unwrap();
    let pool = MySqlPool::connect(&db.url()).await.unwrap();
    sqlx::raw_sql("INSERT INTO schema_steps (version, step) VALUES (29990101000000, 0)")
        .execute(&pool)
        .await
        .unwrap();
    let refused = store.migrate().await.unwrap_err().to_string();
    assert!(refused.contains("newer Yardwand"), "{refused}");
}

/// A house that is copied in comes with the schema it had: on one that is further the changes of rows between would be missing.
#[tokio::test]
async fn a_house_is_copied_into_its_own_schema_and_not_into_a_later_one() {
    // The last one before there were backups.
    const EARLIER: i64 = 20_261_129_220_000;
    let db = TestDb::new();
    let store = Store::connect(&db.url()).await.unwrap();
    store.migrate().await.unwrap();
    let refused = store.copy_house_in(EARLIER, &[]).await.unwrap_err();
    assert!(refused.to_string().contains("without a table"), "{refused}");

    let empty = TestDb::new();
    let store = Store::connect(&empty.url()).await.unwrap();
    let into = store.copy_house_in(EARLIER, &[]).await.unwrap();
    assert_eq!(empty.ask("SELECT MAX(version) FROM schema_steps").trim(), EARLIER.to_string());
    into.end().await.unwrap();
    assert_eq!(schema(&MySqlPool::connect(&empty.url()).await.unwrap()).await, whole_schema().await);
    // One of a program that is newer than this one is refused.
    let later = TestDb::new();
    let store = Store::connect(&later.url()).await.unwrap();
    let refused = store.copy_house_in(29_991_231_235_959, &[]).await.unwrap_err();
    assert!(refused.to_string().contains("newer Yardwand"), "{refused}");
}
