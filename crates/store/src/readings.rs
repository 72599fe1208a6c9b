//! What the tape said. Readings save one by one; a corrected one keeps the old, a repeat stands beside it.

use std::collections::{BTreeMap, BTreeSet};

use chrono::{DateTime, NaiveDate, NaiveDateTime, NaiveTime, Utc};
use yardwand_core::body::{Side, Taken};
use yardwand_core::{Entered, Length};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::sessions::{SessionRow, change_open, unit_code, unit_from};
use crate::{Result, Store, StoreError, Tx};

/// A reading as it is entered.
#[derive(Clone, Debug, PartialEq)]
pub struct NewReading {
    /// Code of the measurement.
    pub code: String,
    /// Which side.
    pub side: Side,
    /// The length as it was typed, ease included.
    pub entered: Entered,
    /// How it was taken.
    pub taken: Taken,
    /// A word about it.
    pub note: String,
    /// Initials behind "measured again, it stands".
    pub stands: Option<String>,
    /// A repeat: it stands beside the earlier takes instead of replacing them.
    pub again: bool,
    /// The newest take the measurer had seen, 0 for none. `None` does not ask.
    pub saw: Option<u64>,
}

impl NewReading {
    /// A plain reading, taken the catalogue's way.
    pub fn plain(code: &str, entered: Entered) -> Self {
        Self {
            code: code.to_owned(),
            side: Side::Both,
            entered,
            taken: Taken::default(),
            note: String::new(),
            stands: None,
            again: false,
            saw: None,
        }
    }

    /// The figure of the body: less the ease that was inside.
    fn net_mm(&self) -> f64 {
        self.entered.length.mm() - self.taken.ease_mm
    }
}

/// A take that stands.
#[derive(Clone, Debug, PartialEq)]
pub struct ReadingRow {
    /// Number.
    pub id: u64,
    /// The session it was taken in.
    pub session_id: u64,
    /// Code of the measurement.
    pub code: String,
    /// Which side.
    pub side: Side,
    /// The length less any ease, and how it was typed.
    pub entered: Entered,
    /// How it was taken.
    pub taken: Taken,
    /// A word about it.
    pub note: String,
    /// Initials behind "measured again, it stands".
    pub stands: Option<String>,
    /// Who took it.
    pub taken_by: String,
    /// When it was taken.
    pub taken_at: DateTime<Utc>,
    /// A later one corrects it.
    pub replaced: bool,
    /// Why it corrects one of a signed session.
    pub corrected_why: String,
}

/// A take that stands, as a figure.
#[derive(Clone, Debug, PartialEq)]
pub struct PastReading {
    /// The session it was taken in.
    pub session_id: u64,
    /// Code of the measurement.
    pub code: String,
    /// Which side.
    pub side: Side,
    /// Less any ease, in millimetres.
    pub mm: f64,
    /// How it was taken.
    pub taken: Taken,
}

/// So many of a client's newest sessions are read whole when her figures are looked for.
const WHOLE_SESSIONS: u64 = 6;
/// Later than any session.
const LAST_DAY: NaiveDate = NaiveDate::from_ymd_opt(9999, 1, 1).unwrap();

pub(crate) const fn side_code(side: Side) -> &'static str {
    match side {
        Side::Both => "both",
        Side::Left => "left",
        Side::Right => "right",
    }
}

fn side_from(code: &str) -> Side {
    match code {
        "left" => Side::Left,
        "right" => Side::Right,
        _ => Side::Both,
    }
}

/// A reading as its row holds it.
struct Stored {
    id: u64,
    session_id: u64,
    code: String,
    side: String,
    mm: f64,
    typed: String,
    unit: String,
    taken: String,
    note: String,
    stands: Option<String>,
    taken_by: String,
    taken_at: NaiveDateTime,
    replaced: i64,
    corrected_why: String,
}

impl TryFrom<Stored> for ReadingRow {
    type Error = StoreError;

    fn try_from(row: Stored) -> Result<Self> {
        let unit = unit_from(&row.unit);
        let taken: Taken = read("way of measuring", &row.taken)?;
        // Typed text is the truth where it can be read: the column holds it to 5 decimals.
        let mm = Length::read(&row.typed, unit).map_or(row.mm, |read| read.length.mm() - taken.ease_mm);
        Ok(Self {
            id: row.id,
            session_id: row.session_id,
            code: row.code,
            side: side_from(&row.side),
            entered: Entered { length: Length::from_mm(mm), typed: row.typed, unit },
            taken,
            note: row.note,
            stands: row.stands,
            taken_by: row.taken_by,
            taken_at: row.taken_at.and_utc(),
            replaced: row.replaced != 0,
            corrected_why: row.corrected_why,
        })
    }
}

fn rows(found: Vec<Stored>) -> Result<Vec<ReadingRow>> {
    found.into_iter().map(ReadingRow::try_from).collect()
}

impl Store {
    /// Keeps a reading. An earlier one of the same measurement and side in this session is kept as replaced, unless
    /// this is a repeat.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] in a closed session; [`StoreError::Overtaken`] where somebody else has entered the same
    /// reading since.
    pub async fn record(&self, session: u64, new: &NewReading, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "readings").await? {
            return Ok(id);
        }
        change_open(&mut tx, session).await?;
        if let Some(saw) = new.saw {
            not_overtaken(&mut tx, session, new, saw).await?;
        }
        let id = insert_reading(&mut tx, session, new, once.person, None).await?;
        if !new.again {
            sqlx::query!(
                "UPDATE readings SET replaced_by = ? \
                 WHERE session_id = ? AND code = ? AND side = ? AND replaced_by IS NULL AND id <> ?",
                id,
                session,
                new.code,
                side_code(new.side),
                id
            )
            .execute(&mut *tx)
            .await?;
        }
        sqlx::query!("DELETE FROM skipped_readings WHERE session_id = ? AND code = ?", session, new.code)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "recorded", "readings", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Corrects one reading of a signed session, with the reason: the old one is kept as replaced, and everything else of
    /// the session stands as it was signed. It is as old as it was, and its measurer's; who corrected it is noted.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where the session is open or dropped, or the reading was corrected already;
    /// [`StoreError::NotFound`].
    pub async fn correct(
        &self,
        reading: u64,
        entered: &Entered,
        why: &str,
        stands: Option<&str>,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "readings").await? {
            return Ok(id);
        }
        let old = sqlx::query!(
            "SELECT r.session_id, r.code, r.side, CAST(r.taken AS CHAR) AS \"taken!: String\", r.replaced_by, \
               r.taken_by, r.taken_at, s.closed_at, s.dropped_at FROM readings r JOIN sessions s ON s.id = r.session_id WHERE r.id = ? FOR UPDATE",
            reading
        )
        .fetch_optional(&mut *tx)
        .await?
        .ok_or(StoreError::NotFound { what: "reading", id: reading })?;
        if old.replaced_by.is_some() {
            return Err(StoreError::Refused("this reading was corrected already: correct the newer one"));
        }
        if old.closed_at.is_none() {
            return Err(StoreError::Refused("this session is still open: read it again there"));
        }
        if old.dropped_at.is_some() {
            return Err(StoreError::Refused("this session was dropped: bring it back first"));
        }
        let new = NewReading {
            side: side_from(&old.side),
            taken: read("way of measuring", &old.taken)?,
            stands: stands.map(str::to_owned),
            ..NewReading::plain(&old.code, entered.clone())
        };
        let id = insert_reading(&mut tx, old.session_id, &new, old.taken_by, Some(old.taken_at)).await?;
        sqlx::query!("UPDATE readings SET corrected_why = ? WHERE id = ?", why, id).execute(&mut *tx).await?;
        sqlx::query!("UPDATE readings SET replaced_by = ? WHERE id = ?", id, reading)
            .execute(&mut *tx)
            .await?;
        sqlx::query!("UPDATE sessions SET changes = changes + 1 WHERE id = ?", old.session_id)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "corrected", "readings", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// One reading.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn reading(&self, id: u64) -> Result<ReadingRow> {
        let found = sqlx::query_as!(
            Stored,
            "SELECT r.id, r.session_id, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\", r.typed, r.unit, \
                    CAST(r.taken AS CHAR) AS \"taken!: String\", r.note, r.stands, p.name AS taken_by, r.taken_at, \
                    r.replaced_by IS NOT NULL AS \"replaced!: i64\", r.corrected_why \
             FROM readings r JOIN people p ON p.id = r.taken_by WHERE r.id = ?",
            id
        )
        .fetch_optional(&self.pool)
        .await?
        .ok_or(StoreError::NotFound { what: "reading", id })?;
        found.try_into()
    }

    /// Every take of a session, in the order they were taken, replaced ones included.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn readings(&self, session: u64) -> Result<Vec<ReadingRow>> {
        let found = sqlx::query_as!(
            Stored,
            "SELECT r.id, r.session_id, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\", r.typed, r.unit, \
                    CAST(r.taken AS CHAR) AS \"taken!: String\", r.note, r.stands, p.name AS taken_by, r.taken_at, \
                    r.replaced_by IS NOT NULL AS \"replaced!: i64\", r.corrected_why \
             FROM readings r JOIN people p ON p.id = r.taken_by WHERE r.session_id = ? ORDER BY r.id",
            session
        )
        .fetch_all(&self.pool)
        .await?;
        rows(found)
    }

    /// A client's current best figures: of each measurement and side the takes of the newest session that has it,
    /// among those begun before `before`.
    ///
    /// Reads the newest few sessions whole, and of the others only what those lack: a client of many years costs
    /// hardly more than a new one.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn latest_readings(&self, client: u64, before: Option<&SessionRow>) -> Result<Vec<ReadingRow>> {
        let (at, id) =
            before.map_or((NaiveDateTime::MAX, u64::MAX), |row| (row.started_at.naive_utc(), row.id));
        let at = at.min(LAST_DAY.and_time(NaiveTime::MIN));
        let known = async {
            let known = sqlx::query!("SELECT code, side FROM measured_pairs WHERE client_id = ?", client);
            Ok(known.fetch_all(&self.pool).await?)
        };
        let newest = self.older_readings(client, at, id, (0, WHOLE_SESSIONS), None);
        let (mut found, known) = tokio::try_join!(newest, known)?;
        let seen: BTreeSet<(String, Side)> = found.iter().map(|row| (row.code.clone(), row.side)).collect();
        let missing = known
            .into_iter()
            .map(|pair| (pair.code, side_from(&pair.side)))
            .filter(|pair| !seen.contains(pair));
        let missing: Vec<String> =
            missing.map(|(code, side)| format!("{code} {}", side_code(side))).collect();
        if !missing.is_empty() {
            let rest = (WHOLE_SESSIONS, u64::from(u32::MAX));
            found.extend(self.older_readings(client, at, id, rest, Some(&missing.join(","))).await?);
        }
        // Newest session first: the first of a measurement and side says which session counts.
        let mut newest: BTreeMap<(String, Side), u64> = BTreeMap::new();
        for row in &found {
            newest.entry((row.code.clone(), row.side)).or_insert(row.session_id);
        }
        found.retain(|row| newest.get(&(row.code.clone(), row.side)) == Some(&row.session_id));
        found.sort_by_key(|row| row.id);
        Ok(found)
    }

    /// Standing takes of a client's sessions begun before a time, newest session first: so many sessions from an
    /// offset on, all of them or only the measurements and sides listed (`code side`, with commas between).
    async fn older_readings(
        &self,
        client: u64,
        at: NaiveDateTime,
        id: u64,
        (offset, count): (u64, u64),
        only: Option<&str>,
    ) -> Result<Vec<ReadingRow>> {
        let found = sqlx::query_as!(
            Stored,
            "SELECT r.id, r.session_id, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\", r.typed, r.unit, \
                    CAST(r.taken AS CHAR) AS \"taken!: String\", r.note, r.stands, p.name AS taken_by, r.taken_at, \
                    0 AS \"replaced!: i64\", r.corrected_why \
             FROM (SELECT s.id, s.started_at FROM sessions s \
                   WHERE s.client_id = ? AND s.dropped_at IS NULL AND (s.started_at < ? OR (s.started_at = ? AND s.id < ?)) \
                   ORDER BY s.started_at DESC, s.id DESC LIMIT ? OFFSET ?) older \
             JOIN readings r ON r.session_id = older.id JOIN people p ON p.id = r.taken_by \
             WHERE r.replaced_by IS NULL AND (? IS NULL OR FIND_IN_SET(CONCAT(r.code, ' ', r.side), ?)) \
             ORDER BY older.started_at DESC, older.id DESC, r.id",
            client,
            at,
            at,
            id,
            count,
            offset,
            only,
            only
        )
        .fetch_all(&self.pool)
        .await?;
        rows(found)
    }

    /// Every take of a client that stands, over all sessions, oldest first.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn all_readings(&self, client: u64) -> Result<Vec<ReadingRow>> {
        let found = sqlx::query_as!(
            Stored,
            "SELECT r.id, r.session_id, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\", r.typed, r.unit, \
                    CAST(r.taken AS CHAR) AS \"taken!: String\", r.note, r.stands, p.name AS taken_by, r.taken_at, \
                    0 AS \"replaced!: i64\", r.corrected_why \
             FROM sessions s JOIN readings r ON r.session_id = s.id JOIN people p ON p.id = r.taken_by \
             WHERE s.client_id = ? AND s.dropped_at IS NULL AND r.replaced_by IS NULL ORDER BY s.started_at, s.id, r.id",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        rows(found)
    }

    /// The same as figures only, for looking at years at once.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn past_readings(&self, client: u64) -> Result<Vec<PastReading>> {
        let found = sqlx::query!(
            "SELECT r.session_id, r.code, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\", CAST(r.taken AS CHAR) AS \"taken!: String\" \
             FROM sessions s JOIN readings r ON r.session_id = s.id \
             WHERE s.client_id = ? AND s.dropped_at IS NULL AND r.replaced_by IS NULL ORDER BY r.id",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        found
            .into_iter()
            .map(|r| {
                Ok(PastReading {
                    session_id: r.session_id,
                    side: side_from(&r.side),
                    code: r.code,
                    mm: r.mm,
                    taken: read("way of measuring", &r.taken)?,
                })
            })
            .collect()
    }

    /// How many takes stand in each session of a client.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn reading_counts(&self, client: u64) -> Result<BTreeMap<u64, u64>> {
        let rows = sqlx::query!(
            "SELECT r.session_id, COUNT(*) AS \"taken!: u64\" FROM sessions s JOIN readings r ON r.session_id = s.id \
             WHERE s.client_id = ? AND s.dropped_at IS NULL AND r.replaced_by IS NULL GROUP BY r.session_id",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.session_id, row.taken)).collect())
    }

    /// Takes of repeated measurements in the house's newest 1,000 sessions: measurer, measurement, and the takes of each body. For the
    /// technical error.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn repeats(&self) -> Result<Vec<(String, String, Vec<f64>)>> {
        let found = sqlx::query!(
            "SELECT p.name AS measurer, r.code, r.session_id, r.side, CAST(r.mm AS DOUBLE) AS \"mm!: f64\" \
             FROM (SELECT o.session_id, o.code, o.side, o.taken_by \
                 FROM (SELECT id FROM sessions WHERE dropped_at IS NULL ORDER BY id DESC LIMIT 1000) s \
                 STRAIGHT_JOIN readings o ON o.session_id = s.id AND o.replaced_by IS NULL \
                 GROUP BY o.session_id, o.code, o.side, o.taken_by HAVING COUNT(*) > 1) again \
             STRAIGHT_JOIN readings r ON r.session_id = again.session_id AND r.replaced_by IS NULL AND r.code = again.code \
               AND r.side = again.side AND r.taken_by = again.taken_by \
             JOIN people p ON p.id = r.taken_by \
             ORDER BY measurer, r.code, r.session_id, r.side, r.id"
        )
        .fetch_all(&self.pool)
        .await?;
        let mut bodies: Vec<(String, String, Vec<f64>)> = Vec::new();
        let mut at = None;
        for row in found {
            let key = (row.measurer.clone(), row.code.clone(), row.session_id, row.side);
            if at.as_ref() == Some(&key) {
                if let Some((_, _, takes)) = bodies.last_mut() {
                    takes.push(row.mm);
                }
            } else {
                bodies.push((row.measurer, row.code, vec![row.mm]));
                at = Some(key);
            }
        }
        Ok(bodies)
    }
}

pub(crate) async fn insert_reading(
    tx: &mut Tx,
    session: u64,
    new: &NewReading,
    by: u64,
    at: Option<NaiveDateTime>,
) -> Result<u64> {
    let added = sqlx::query!(
        "INSERT INTO readings (session_id, code, side, mm, typed, unit, taken, note, stands, taken_by, taken_at) \
         VALUES (?, ?, ?, ?, ?, ?, ?, ?, ?, ?, COALESCE(?, UTC_TIMESTAMP(3)))",
        session,
        new.code,
        side_code(new.side),
        new.net_mm(),
        new.entered.typed,
        unit_code(new.entered.unit),
        write("way of measuring", &new.taken)?,
        new.note,
        new.stands,
        by,
        at
    )
    .execute(&mut **tx)
    .await?;
    sqlx::query!(
        "INSERT IGNORE INTO measured_pairs (client_id, code, side) SELECT client_id, ?, ? FROM sessions WHERE id = ?",
        new.code,
        side_code(new.side),
        session
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}

/// Two measurers at one field: the later one is told instead of silently replacing.
async fn not_overtaken(tx: &mut Tx, session: u64, new: &NewReading, saw: u64) -> Result<()> {
    let newest = sqlx::query!(
        "SELECT r.id, r.typed, p.name FROM readings r JOIN people p ON p.id = r.taken_by \
         WHERE r.session_id = ? AND r.code = ? AND r.side = ? AND r.replaced_by IS NULL ORDER BY r.id DESC LIMIT 1",
        session,
        new.code,
        side_code(new.side)
    )
    .fetch_optional(&mut **tx)
    .await?;
    match newest {
        Some(row) if row.id != saw => Err(StoreError::Overtaken { by: row.name, typed: row.typed }),
        _ => Ok(()),
    }
}
