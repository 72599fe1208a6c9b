//! Orders: a garment for a client, and the facts its standing is read from.

use std::collections::hash_map::Entry;
use std::collections::{HashMap, HashSet};

use chrono::{DateTime, NaiveDate, Utc};
use yardwand_core::body::measurement_set;
use yardwand_core::fitting::{Decision, Facts, Mark, is_open};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::patterns::insert_pattern;
use crate::{NewPattern, Result, Store, StoreError, Tx, numbers};

/// An order as it is entered.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct NewOrder {
    /// The client.
    pub client_id: u64,
    /// The garment.
    pub garment: String,
    /// The measurement set it is measured with.
    pub set_code: String,
    /// The set's name when the order was taken.
    pub set_name: String,
    /// Its measurements when the order was taken; of an order from before that was kept, none.
    pub set_codes: Vec<String>,
    /// The day she wants it.
    pub wanted_on: Option<NaiveDate>,
    /// How many toiles are thought of.
    pub toiles: u32,
}

/// What of an order can be changed at any time.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct OrderChange {
    /// The garment.
    pub garment: String,
    /// The measurement set it is measured with.
    pub set_code: String,
    /// The set's name.
    pub set_name: String,
    /// Its measurements.
    pub set_codes: Vec<String>,
}

/// An order.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct OrderRow {
    /// Number.
    pub id: u64,
    /// The client.
    pub client_id: u64,
    /// Her name.
    pub client: String,
    /// The dress form it is fitted on, where that stands for a client: its own figures are all there is to measure.
    pub form_id: Option<u64>,
    /// The garment.
    pub garment: String,
    /// The measurement set it is measured with.
    pub set_code: String,
    /// The set's name when the order was taken.
    pub set_name: String,
    /// Its measurements when the order was taken; of an order from before that was kept, none.
    pub set_codes: Vec<String>,
    /// The day she wants it.
    pub wanted_on: Option<NaiveDate>,
    /// How many toiles are thought of.
    pub toiles: u32,
    /// When it was handed over.
    pub finished_at: Option<DateTime<Utc>>,
    /// Whether and why it is out of hand without being handed over, or out of sight.
    pub put_away: Option<PutAway>,
    /// Revision of this row.
    pub revision: u32,
    /// When it was taken.
    pub created_at: DateTime<Utc>,
}

/// Why a garment is put away.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum PutAway {
    /// It is not made after all: its dates are free again.
    Cancelled,
    /// It was handed over and is out of sight.
    Archived,
}

impl PutAway {
    /// As it is stored.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Cancelled => "cancelled",
            Self::Archived => "archived",
        }
    }

    fn of(code: &str) -> Option<Self> {
        [Self::Cancelled, Self::Archived].into_iter().find(|why| why.code() == code)
    }
}

impl OrderRow {
    /// What is measured for the garment, as the set was when the order was taken; of orders before that was kept, as it is in the catalogue.
    pub fn codes(&self) -> &[String] {
        if !self.set_codes.is_empty() {
            return &self.set_codes;
        }
        measurement_set(&self.set_code).map_or(&[], |set| &set.codes)
    }
}

/// An order with the facts its standing is read from.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct OrderFacts {
    /// The order.
    pub order: OrderRow,
    /// The facts.
    pub facts: Facts,
    /// Readings still missing; not known in a list where a pattern was begun: nothing waits for them there.
    pub missing: Option<u32>,
    /// The pattern, where one was begun.
    pub pattern_id: Option<u64>,
    /// The session that is still open, if any.
    pub open_session: Option<u64>,
    /// The newest round.
    pub round_id: Option<u64>,
}

/// Which orders are read.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Orders<'a> {
    /// Neither handed over nor put away.
    InHand,
    /// Those in hand, and so many of those handed over last, to be listed: what is missing of the readings is told of those that wait
    /// for it.
    InHandAndLately(u32),
    /// Those in hand whose wanted day, or a visit, was before this day.
    Late(NaiveDate),
    /// All of one client.
    OfClient(u64),
    /// Those of these numbers.
    These(&'a [u64]),
    /// Those in whose garment or client's name every word is, at most so many.
    Found {
        /// As they were typed.
        words: &'a str,
        /// How many.
        most: u32,
    },
}

/// Of so few orders the clients' whole sessions are read at once; of more only the newest first, which mostly has all that is wanted.
const FEW: usize = 20;

/// The versions of an order's patterns.
#[derive(Default)]
struct Versions {
    /// The newest of the pattern in hand that was not withdrawn; 0 for none.
    newest: u32,
    /// The number of each.
    numbers: HashMap<u64, u32>,
}

/// The newest round of an order.
struct NewestRound {
    id: u64,
    number: u32,
    version_id: u64,
    is_open: bool,
}

/// An observation, as far as a garment waits for it.
struct Observed {
    /// The round it was made in.
    round: u32,
    /// Nothing was decided about it.
    is_undecided: bool,
    /// It is not done with.
    is_open: bool,
}

/// What each client was measured for: codes parted by commas, as MariaDB puts them together.
type Measured = HashMap<u64, String>;

/// Of what is measured for a garment, how much there is and how much of it is missing.
fn count_missing(of: &mut OrderFacts, measured: &Measured) {
    if of.order.form_id.is_some() {
        of.missing = Some(0);
        return;
    }
    let wanted: HashSet<&str> = of.order.codes().iter().map(String::as_str).collect();
    let has: HashSet<&str> =
        measured.get(&of.order.client_id).map(|codes| codes.split(',').collect()).unwrap_or_default();
    of.facts.wanted = wanted.len() as u32;
    of.facts.missing = wanted.difference(&has).count() as u32;
    of.missing = Some(of.facts.missing);
}

impl Store {
    /// Takes an order.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client.
    pub async fn add_order(&self, new: &NewOrder, once: Once<'_>) -> Result<u64> {
        self.client(new.client_id).await?;
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "orders").await? {
            return Ok(id);
        }
        let id = insert_order(&mut tx, new).await?;
        note(&mut tx, once, "taken", "orders", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Marks a garment as handed over, or not; `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn finish_order(&self, id: u64, finished: bool, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        lock_order_seen(&mut tx, id, saw).await?;
        // What is taken up again is in sight again.
        sqlx::query!(
            "UPDATE orders SET finished_at = IF(?, UTC_TIMESTAMP(3), NULL), put_away = NULL, revision = revision + 1 \
             WHERE id = ?",
            finished,
            id
        )
        .execute(&mut *tx)
        .await?;
        let what = if finished { "handed over" } else { "taken up again" };
        note(&mut tx, Once::by(by), what, "orders", id).await?;
        Ok(tx.commit().await?)
    }

    /// Takes an order whose pattern is begun at once.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client.
    pub async fn add_order_with_pattern(
        &self,
        new: &NewOrder,
        begun: NewPattern<'_>,
        once: Once<'_>,
    ) -> Result<u64> {
        self.client(new.client_id).await?;
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "orders").await? {
            return Ok(id);
        }
        let id = insert_order(&mut tx, new).await?;
        let pattern = insert_pattern(&mut tx, id, begun).await?;
        note(&mut tx, Once::by(once.person), "begun", "patterns", pattern).await?;
        note(&mut tx, once, "taken", "orders", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Renames a garment, and changes what is measured for it; `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn change_order(&self, id: u64, change: &OrderChange, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        lock_order_seen(&mut tx, id, saw).await?;
        sqlx::query!(
            "UPDATE orders SET garment = ?, set_code = ?, set_name = ?, set_codes = ?, revision = revision + 1 WHERE id = ?",
            change.garment,
            change.set_code,
            change.set_name,
            write("measurement set", &change.set_codes)?,
            id
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, Once::by(by), "changed", "orders", id).await?;
        Ok(tx.commit().await?)
    }

    /// Puts a garment away, or brings it back (`None`); `saw` is the revision the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] for archiving what is in hand and for cancelling what was handed over;
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn put_away(&self, id: u64, why: Option<PutAway>, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        let finished = lock_order_seen(&mut tx, id, saw).await?;
        match why {
            Some(PutAway::Archived) if !finished => {
                return Err(StoreError::Refused("this garment is in hand: hand it over or cancel it first"));
            }
            Some(PutAway::Cancelled) if finished => {
                return Err(StoreError::Refused(
                    "this garment was handed over: it can be archived, not cancelled",
                ));
            }
            _ => {}
        }
        sqlx::query!(
            "UPDATE orders SET put_away = ?, revision = revision + 1 WHERE id = ?",
            why.map(PutAway::code),
            id
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, Once::by(by), why.map_or("brought back", PutAway::code), "orders", id).await?;
        Ok(tx.commit().await?)
    }

    /// One order with its facts.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn order(&self, id: u64) -> Result<OrderFacts> {
        let found = self.orders_told(&[id], false).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "garment", id })
    }

    /// Those orders, in the [`Orders`]' own order: the nearest wanted date first, what was handed over after what is in hand.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn orders(&self, which: Orders<'_>) -> Result<Vec<OrderFacts>> {
        let ids = match which {
            Orders::InHand => self.in_hand().await?,
            Orders::Late(day) => {
                sqlx::query_scalar!(
                    "SELECT o.id FROM orders o WHERE o.finished_at IS NULL AND o.put_away IS NULL AND (o.wanted_on < ? \
                       OR EXISTS (SELECT 1 FROM visits v WHERE v.order_id = o.id AND v.on_day < ?))",
                    day,
                    day
                )
                .fetch_all(&self.pool)
                .await?
            }
            Orders::InHandAndLately(most) => {
                let lately = sqlx::query_scalar!(
                    "SELECT id FROM orders FORCE INDEX (orders_finished) WHERE finished_at IS NOT NULL AND put_away IS NULL \
                     ORDER BY finished_at DESC, id DESC LIMIT ?",
                    most
                )
                .fetch_all(&self.pool);
                let lately = async { Ok(lately.await?) };
                let (in_hand, lately) = tokio::try_join!(self.in_hand(), lately)?;
                [in_hand, lately].concat()
            }
            Orders::OfClient(client) => {
                sqlx::query_scalar!("SELECT id FROM orders WHERE client_id = ?", client)
                    .fetch_all(&self.pool)
                    .await?
            }
            Orders::These(ids) => ids.to_vec(),
            Orders::Found { words, most } => {
                self.garments_found(words, most).await?.into_iter().map(|found| found.id).collect()
            }
        };
        self.orders_told(&ids, matches!(which, Orders::InHandAndLately(_))).await
    }

    async fn in_hand(&self) -> Result<Vec<u64>> {
        Ok(sqlx::query_scalar!("SELECT id FROM orders WHERE finished_at IS NULL AND put_away IS NULL")
            .fetch_all(&self.pool)
            .await?)
    }

    /// Each part of it is read by itself along an index, and put together here: nested in one statement it takes twice as long.
    /// Where they are to be listed, what is missing is counted where no pattern was begun.
    async fn orders_told(&self, ids: &[u64], listed: bool) -> Result<Vec<OrderFacts>> {
        if ids.is_empty() {
            return Ok(Vec::new());
        }
        let few = ids.len() <= FEW;
        let ids = &numbers(ids);
        let measured =
            async { if few { self.measured_ever(ids).await } else { self.measured_last(ids, listed).await } };
        let (mut found, mut measured, patterns, rounds, sessions, observations) = tokio::try_join!(
            self.order_rows(ids),
            measured,
            self.pattern_versions_of(ids),
            self.newest_rounds(ids),
            self.open_sessions(ids),
            self.open_observations(ids)
        )?;
        for each in &mut found {
            let (id, facts) = (each.order.id, &mut each.facts);
            each.open_session = sessions.get(&id).copied();
            let patterns = patterns.get(&id);
            facts.version = patterns.map_or(0, |patterns| patterns.newest);
            if let Some(round) = rounds.get(&id) {
                each.round_id = Some(round.id);
                facts.round = round.number;
                facts.round_open = round.is_open;
                facts.round_version =
                    patterns.and_then(|all| all.numbers.get(&round.version_id).copied()).unwrap_or(0);
            }
            for seen in observations.get(&id).into_iter().flatten() {
                facts.undecided += u32::from(seen.round == facts.round && seen.is_undecided);
                facts.still_open += u32::from(seen.is_open);
            }
        }
        let is_counted = |each: &&mut OrderFacts| !listed || !each.facts.has_pattern;
        found.iter_mut().filter(is_counted).for_each(|each| count_missing(each, &measured));
        // Where the newest session has not all that is wanted, it is looked for in all of hers.
        let is_lacking = |each: &&mut OrderFacts| each.facts.missing > 0;
        let lacking: Vec<&mut OrderFacts> =
            if few { Vec::new() } else { found.iter_mut().filter(is_lacking).collect() };
        if !lacking.is_empty() {
            let of: Vec<u64> = lacking.iter().map(|each| each.order.id).collect();
            measured = self.measured_ever(&numbers(&of)).await?;
            lacking.into_iter().for_each(|each| count_missing(each, &measured));
        }
        Ok(found)
    }

    /// The orders themselves with the pattern in hand of each, in the [`Orders`]' order.
    async fn order_rows(&self, ids: &str) -> Result<Vec<OrderFacts>> {
        let rows = sqlx::query!(
            "SELECT o.id, o.client_id, c.name AS client, c.form_id, o.garment, o.set_code, o.set_name, \
               CAST(o.set_codes AS CHAR) AS \"set_codes?: String\", o.wanted_on, o.toiles, o.finished_at, o.put_away, o.revision, \
               o.created_at, p.id AS \"pattern_id?: u64\" \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN orders o ON o.id = a.id \
             JOIN clients c ON c.id = o.client_id LEFT JOIN patterns p ON p.order_id = o.id AND p.in_hand",
            ids
        )
        .fetch_all(&self.pool)
        .await?;
        let mut found: Vec<OrderFacts> = { rows.into_iter() }
            .map(|r| {
                let set_codes = r.set_codes.map(|text| read("measurement set", &text)).transpose()?;
                Ok(OrderFacts {
                    pattern_id: r.pattern_id,
                    open_session: None,
                    round_id: None,
                    missing: None,
                    facts: Facts {
                        has_pattern: r.pattern_id.is_some(),
                        finished: r.finished_at.is_some(),
                        ..Facts::default()
                    },
                    order: OrderRow {
                        id: r.id,
                        client_id: r.client_id,
                        client: r.client,
                        form_id: r.form_id,
                        garment: r.garment,
                        set_code: r.set_code,
                        set_name: r.set_name,
                        set_codes: set_codes.unwrap_or_default(),
                        wanted_on: r.wanted_on,
                        toiles: r.toiles,
                        finished_at: r.finished_at.map(|at| at.and_utc()),
                        put_away: r.put_away.as_deref().and_then(PutAway::of),
                        revision: r.revision,
                        created_at: r.created_at.and_utc(),
                    },
                })
            })
            .collect::<Result<_>>()?;
        found.sort_by_key(|OrderFacts { order, .. }| {
            let (away, finished) = (order.put_away.is_some(), order.finished_at.is_some());
            (away, finished, order.wanted_on.is_none(), order.wanted_on, order.id)
        });
        Ok(found)
    }

    /// The versions of each order's patterns.
    async fn pattern_versions_of(&self, orders: &str) -> Result<HashMap<u64, Versions>> {
        let rows = sqlx::query!(
            "SELECT p.order_id, v.id, v.version, p.in_hand IS NOT NULL AND v.withdrawn_at IS NULL AS \"stands!: bool\" \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN patterns p ON p.order_id = a.id \
             STRAIGHT_JOIN pattern_versions v ON v.pattern_id = p.id",
            orders
        )
        .fetch_all(&self.pool)
        .await?;
        let mut of: HashMap<u64, Versions> = HashMap::new();
        for row in rows {
            let versions = of.entry(row.order_id).or_default();
            versions.numbers.insert(row.id, row.version);
            if row.stands {
                versions.newest = versions.newest.max(row.version);
            }
        }
        Ok(of)
    }

    /// The newest round of each order that has one.
    async fn newest_rounds(&self, orders: &str) -> Result<HashMap<u64, NewestRound>> {
        let rows = sqlx::query!(
            "SELECT r.order_id, r.id, r.number, r.version_id, r.closed_at IS NULL AS \"is_open!: bool\" \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN rounds r ON r.order_id = a.id \
             ORDER BY r.order_id, r.number",
            orders
        )
        .fetch_all(&self.pool)
        .await?;
        Ok({ rows.into_iter() }
            .map(|r| {
                let round =
                    NewestRound { id: r.id, number: r.number, version_id: r.version_id, is_open: r.is_open };
                (r.order_id, round)
            })
            .collect())
    }

    /// The session of each order that is still open, the newest where there are several.
    async fn open_sessions(&self, orders: &str) -> Result<HashMap<u64, u64>> {
        let rows = sqlx::query!(
            "SELECT s.order_id AS \"order_id!: u64\", s.id \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN sessions s ON s.order_id = a.id \
             WHERE s.closed_at IS NULL AND s.dropped_at IS NULL ORDER BY s.id",
            orders
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.order_id, row.id)).collect())
    }

    /// What each client of these orders was measured for in her newest session; of a list, only of orders without a pattern.
    async fn measured_last(&self, orders: &str, listed: bool) -> Result<Measured> {
        let rows = sqlx::query!(
            "SELECT whose.client_id, GROUP_CONCAT(r.code) AS \"codes!: String\" FROM \
               (SELECT DISTINCT o.client_id, (SELECT MAX(s.id) FROM sessions s \
                 WHERE s.client_id = o.client_id AND s.dropped_at IS NULL) AS newest \
                FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN orders o ON o.id = a.id \
                WHERE NOT ? OR NOT EXISTS (SELECT 1 FROM patterns p WHERE p.order_id = o.id AND p.in_hand)) whose \
             STRAIGHT_JOIN readings r ON r.session_id = whose.newest AND r.replaced_by IS NULL GROUP BY whose.client_id",
            orders,
            listed
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.client_id, row.codes)).collect())
    }

    /// What each client of these orders was ever measured for.
    async fn measured_ever(&self, orders: &str) -> Result<Measured> {
        let rows = sqlx::query!(
            "SELECT s.client_id, GROUP_CONCAT(DISTINCT r.code) AS \"codes!: String\" FROM \
               (SELECT DISTINCT o.client_id FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a \
                STRAIGHT_JOIN orders o ON o.id = a.id) whose \
             STRAIGHT_JOIN sessions s ON s.client_id = whose.client_id STRAIGHT_JOIN readings r ON r.session_id = s.id \
             WHERE r.replaced_by IS NULL AND s.dropped_at IS NULL GROUP BY s.client_id",
            orders
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|row| (row.client_id, row.codes)).collect())
    }

    /// What was observed in the rounds of each order.
    async fn open_observations(&self, orders: &str) -> Result<HashMap<u64, Vec<Observed>>> {
        let rows = sqlx::query!(
            "SELECT b.id, r.order_id, r.number, CAST(b.decision AS CHAR) AS \"decision?: String\", \
               m.round_id AS \"marked_in?: u64\", m.mark AS \"mark?: String\" \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN rounds r ON r.order_id = a.id \
             STRAIGHT_JOIN observations b ON b.round_id = r.id LEFT JOIN marks m ON m.observation_id = b.id \
             WHERE b.removed_at IS NULL",
            orders
        )
        .fetch_all(&self.pool)
        .await?;
        // A row for each mark of an observation: the one of the latest round stands.
        let mut latest = HashMap::with_capacity(rows.len());
        for row in rows {
            match latest.entry(row.id) {
                Entry::Vacant(first) => {
                    first.insert(row);
                }
                Entry::Occupied(mut other) if other.get().marked_in < row.marked_in => {
                    other.insert(row);
                }
                Entry::Occupied(_) => {}
            }
        }
        let mut of: HashMap<u64, Vec<Observed>> = HashMap::new();
        for row in latest.into_values() {
            let decision: Option<Decision> =
                row.decision.as_deref().map(|d| read("decision", d)).transpose()?;
            let mark: Option<Mark> = row.mark.as_deref().and_then(Mark::of);
            of.entry(row.order_id).or_default().push(Observed {
                round: row.number,
                is_undecided: decision.is_none(),
                is_open: is_open(decision.as_ref(), mark),
            });
        }
        Ok(of)
    }
}

async fn insert_order(tx: &mut Tx, new: &NewOrder) -> Result<u64> {
    // Whoever has a garment in hand is in sight.
    sqlx::query!(
        "UPDATE clients SET archived_at = NULL, revision = revision + 1 WHERE id = ? AND archived_at IS NOT NULL",
        new.client_id
    )
    .execute(&mut **tx)
    .await?;
    let added = sqlx::query!(
        "INSERT INTO orders (client_id, garment, set_code, set_name, set_codes, wanted_on, toiles) VALUES (?, ?, ?, ?, ?, ?, ?)",
        new.client_id,
        new.garment,
        new.set_code,
        new.set_name,
        write("measurement set", &new.set_codes)?,
        new.wanted_on,
        new.toiles
    )
    .execute(&mut **tx)
    .await?;
    Ok(added.last_insert_id())
}

/// Locks an order that is still at this revision; tells whether it was handed over.
async fn lock_order_seen(tx: &mut Tx, id: u64, saw: u32) -> Result<bool> {
    let row = sqlx::query!("SELECT revision, finished_at FROM orders WHERE id = ? FOR UPDATE", id)
        .fetch_optional(&mut **tx)
        .await?
        .ok_or(StoreError::NotFound { what: "garment", id })?;
    if row.revision == saw {
        Ok(row.finished_at.is_some())
    } else {
        Err(StoreError::Stale { what: "garment", now: row.revision, saw })
    }
}
