//! What Yardwand remembers: MariaDB through SQLx, one module an aggregate.
//!
//! What it is: every statement of the program, checked at build time against the migrations, and the
//! rules of keeping: a revision on every row that people edit, an audit row in the same transaction,
//! nothing with history updated in place. What it is not: it knows no request and decides nothing of
//! the craft.

mod attempts;
mod audit;
mod backups;
mod balance;
mod blocks;
mod checking;
mod clients;
mod coming_and_going;
mod copying;
mod demo;
mod drapes;
mod equipment;
mod error;
mod finding;
mod house;
mod imports;
mod jobs;
mod letters;
mod merging;
mod notes;
mod observations;
mod orders;
mod patterns;
mod people;
mod photographs;
mod plans;
mod practised;
mod profiles;
mod readings;
mod rounds;
mod schema;
mod second_factor;
mod sessions;
mod shelves;
mod stories;
mod taking_out;
mod tapes;
mod tests_made;
mod visits;
mod watching;

pub use attempts::Attempt;
pub use audit::{Change, ChangesOf, Once};
pub use backups::BackupRow;
pub use balance::BalanceRow;
pub use blocks::{BlockRow, BlockSummary, How, NewBlock};
pub use checking::LookedOver;
pub use clients::{ClientRow, ConsentRow, ListedClient, NewClient, NewConsent};
pub use coming_and_going::{PersonRow, SignInRow};
pub use copying::{Cell, Column, CopyingIn, Hers, Holds, Reference, Snapshot, Table};
pub use demo::Backdated;
pub use drapes::{DrapeAnswer, DrapePieceRow, DrapeRow, DrapeSeen, DrapeSummary, NewDrape};
pub use equipment::{FormLevels, FormRow, SetRow};
pub use error::StoreError;
pub use finding::{Found, FoundRow};
pub use house::{House, Measuring};
pub use imports::{ImportRow, ImportState, ImportedClient, ImportedSession};
pub use jobs::{Held, Job, JobInHand, JobRow, JobState};
pub use letters::{LetterRow, NewLetter};
pub use notes::NoteRow;
pub use observations::{MarkRow, ObservationRow};
pub use orders::{NewOrder, OrderChange, OrderFacts, OrderRow, Orders, PutAway};
pub use patterns::{NewPattern, NewVersion, PatternRow, PatternSummary, VersionRow, VersionTold};
pub use people::{Person, Right, Role};
pub use photographs::{NewPhotograph, OnPicture, PhotographRow, Stroke};
pub use plans::OrderPlan;
pub use practised::{ExerciseDone, ExerciseKey};
pub use profiles::{Posture, SessionUse};
pub use readings::{NewReading, PastReading, ReadingRow};
pub use rounds::{Aside, NewRound, RoundRow, RoundSeen, RoundStage, RoundWorn};
pub use second_factor::SecondFactor;
pub use sessions::{NewSession, SessionRow, SkipRow};
pub use shelves::{Kept, Shelf};
pub use stories::FinishedRecipes;
pub use tapes::TapeRow;
pub use visits::{AwayRow, VisitRow};
pub use watching::{Now, Open, SessionNow};

use std::collections::BTreeSet;
use std::time::{Duration, Instant};

use sqlx::Connection;
use sqlx::MySqlPool;
use sqlx::mysql::{MySqlConnectOptions, MySqlPoolOptions, MySqlSslMode};

/// A result of this crate.
pub type Result<T> = std::result::Result<T, StoreError>;

/// A server that is only starting is waited for so long.
const STARTING: Duration = Duration::from_secs(10);

/// Connections of one server: a page asks for several things at once.
const CONNECTIONS: u32 = 32;

/// A connection that nobody used for so long is asked whether it still stands.
const LAY_IDLE: Duration = Duration::from_secs(2);

/// The house's memory. Cheap to clone: it holds a pool of connections.
#[derive(Clone, Debug)]
pub struct Store {
    pool: MySqlPool,
}

/// How a URL is connected to.
fn options(url: &str) -> Result<MySqlConnectOptions> {
    let options: MySqlConnectOptions = url.parse()?;
    let on_this_machine = ["127.0.0.1", "localhost", "::1", "[::1]"].contains(&options.get_host());
    let says = url.contains("ssl-mode=");
    Ok(if on_this_machine && !says { options.ssl_mode(MySqlSslMode::Disabled) } else { options })
}

/// Connections to the database.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Connections {
    /// All.
    pub open: u32,
    /// Those that nobody uses.
    pub idle: u32,
}

impl Store {
    /// Connects, and waits a little for a server that is only starting; nothing is changed. On this machine it speaks plainly; with
    /// another one by TLS where that one can, or as the URL's `ssl-mode` says.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`] where the server does not answer.
    pub async fn connect(url: &str) -> Result<Self> {
        let pool = MySqlPoolOptions::new()
            .max_connections(CONNECTIONS)
            .acquire_timeout(Duration::from_secs(2))
            // One that lay idle may have been ended by the other side; one that was just used was not.
            .test_before_acquire(false)
            .before_acquire(|connection, about| {
                Box::pin(async move {
                    if about.idle_for > LAY_IDLE {
                        connection.ping().await?;
                    }
                    Ok(true)
                })
            })
            .connect_lazy_with(options(url)?);
        let store = Self { pool };
        let begun = Instant::now();
        loop {
            match store.ping().await {
                Err(error) if error.is_away() && begun.elapsed() < STARTING => {}
                done => return done.map(|()| store),
            }
            tokio::time::sleep(Duration::from_millis(200)).await;
        }
    }

    /// How many connections there are.
    pub fn connections(&self) -> Connections {
        let idle = u32::try_from(self.pool.num_idle()).unwrap_or(u32::MAX);
        Connections { open: self.pool.size(), idle }
    }

    /// Whether the database answers, with a table: a node that has lost its cluster still answers questions without one.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`] where it does not.
    pub async fn ping(&self) -> Result<()> {
        match sqlx::query("SELECT id FROM house_identity").execute(&self.pool).await {
            // A house that is still to be made: it answers.
            Err(sqlx::Error::Database(error)) if error.code().as_deref() == Some("42S02") => Ok(()),
            answer => Ok(answer.map(|_| ())?),
        }
    }
}

/// Numbers as a statement takes any count of them: a JSON array, each once.
pub(crate) fn numbers(ids: &[u64]) -> String {
    let each: BTreeSet<u64> = ids.iter().copied().collect();
    serde_json::json!(each).to_string()
}

/// A transaction on the house's memory.
pub(crate) type Tx = sqlx::Transaction<'static, sqlx::MySql>;

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_number_that_is_asked_for_twice_is_answered_once() {
        assert_eq!(numbers(&[9, 3, 9]), "[3,9]");
    }
}
