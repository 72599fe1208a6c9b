//! What somebody has open on a screen, as it stands now: read for everybody at once, by few queries however many are open.

use std::collections::BTreeMap;

use serde::Serialize;

use crate::error::write;
use crate::sessions::unit_from;
use crate::tapes::is_alive;
use crate::{Result, Store, TapeRow};

/// What is open: each once.
#[derive(Clone, Debug, Default)]
pub struct Open {
    /// Sessions of measuring.
    pub sessions: Vec<u64>,
    /// Rounds of fitting.
    pub rounds: Vec<u64>,
    /// The hashes of the sign-ins that look at them.
    pub sign_ins: Vec<[u8; 32]>,
}

/// How a session stands.
#[derive(Clone, Debug, PartialEq)]
pub struct SessionNow {
    /// Grows with everything that is entered.
    pub changes: u32,
    /// What its tape says, where one is paired.
    pub tape: Option<TapeRow>,
}

/// How everything stands that was asked for: nothing for what is gone.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Now {
    /// Sessions by their number.
    pub sessions: BTreeMap<u64, Option<SessionNow>>,
    /// By the number of a round, what grows with everything that is entered in it.
    pub rounds: BTreeMap<u64, Option<u32>>,
    /// Whether these are signed in still.
    pub sign_ins: BTreeMap<[u8; 32], bool>,
}

impl Store {
    /// How it stands with everything that is open. It reads the counts themselves: what was committed late is seen late, and
    /// never missed.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn stands(&self, open: &Open) -> Result<Now> {
        Ok(Now {
            sessions: self.sessions_now(&open.sessions).await?,
            rounds: self.rounds_now(&open.rounds).await?,
            sign_ins: self.sign_ins_now(&open.sign_ins).await?,
        })
    }

    async fn sessions_now(&self, of: &[u64]) -> Result<BTreeMap<u64, Option<SessionNow>>> {
        let Some(list) = list(of)? else { return Ok(BTreeMap::new()) };
        let rows = sqlx::query!(
            "SELECT s.id, s.changes, t.seq AS `seq?`, t.typed AS `typed?`, t.unit AS `unit?`, t.held_seq AS `held_seq?`, t.said_at \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) o JOIN sessions s ON s.id = o.id \
             LEFT JOIN tapes t ON t.session_id = s.id",
            list
        )
        .fetch_all(&self.pool)
        .await?;
        let mut now: BTreeMap<u64, Option<SessionNow>> = of.iter().map(|id| (*id, None)).collect();
        for row in rows {
            let said = row.seq.zip(row.typed).zip(row.unit).zip(row.held_seq);
            let tape = said.map(|(((seq, typed), unit), held_seq)| TapeRow {
                seq,
                typed,
                unit: unit_from(&unit),
                held_seq,
                alive: is_alive(row.said_at),
            });
            now.insert(row.id, Some(SessionNow { changes: row.changes, tape }));
        }
        Ok(now)
    }

    async fn rounds_now(&self, of: &[u64]) -> Result<BTreeMap<u64, Option<u32>>> {
        let Some(list) = list(of)? else { return Ok(BTreeMap::new()) };
        let rows = sqlx::query!(
            "SELECT r.id, r.changes FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) o \
             JOIN rounds r ON r.id = o.id",
            list
        )
        .fetch_all(&self.pool)
        .await?;
        let mut now: BTreeMap<u64, Option<u32>> = of.iter().map(|id| (*id, None)).collect();
        now.extend(rows.into_iter().map(|row| (row.id, Some(row.changes))));
        Ok(now)
    }

    async fn sign_ins_now(&self, of: &[[u8; 32]]) -> Result<BTreeMap<[u8; 32], bool>> {
        let told: Vec<String> =
            of.iter().map(|hash| hash.iter().map(|byte| format!("{byte:02x}")).collect()).collect();
        let Some(list) = list(&told)? else { return Ok(BTreeMap::new()) };
        let rows = sqlx::query!(
            "SELECT s.token_hash FROM JSON_TABLE(?, '$[*]' COLUMNS (token CHAR(64) PATH '$')) o \
             JOIN sign_ins s ON s.token_hash = UNHEX(o.token) JOIN people p ON p.id = s.person_id \
             WHERE s.expires_at > UTC_TIMESTAMP(3) AND p.left_at IS NULL",
            list
        )
        .fetch_all(&self.pool)
        .await?;
        let mut now: BTreeMap<[u8; 32], bool> = of.iter().map(|hash| (*hash, false)).collect();
        now.extend(rows.into_iter().filter_map(|row| Some((row.token_hash.try_into().ok()?, true))));
        Ok(now)
    }
}

/// A list as one parameter of a statement; nothing where it is empty.
fn list<T: Serialize>(of: &[T]) -> Result<Option<String>> {
    if of.is_empty() { Ok(None) } else { write("list", &of).map(Some) }
}
