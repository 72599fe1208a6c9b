//! Dates of orders, and the days clients are away.

use chrono::NaiveDate;
use yardwand_core::fitting::{Away, Booked, PlannedVisit, Visit, VisitKind};

use crate::audit::{Once, note, saved_before};
use crate::{Result, Store, StoreError};

/// A visit on the calendar.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct VisitRow {
    /// Number of the row.
    pub id: u64,
    /// The order.
    pub order_id: u64,
    /// The client.
    pub client_id: u64,
    /// Her name.
    pub client: String,
    /// How she is reached.
    pub contact: String,
    /// The garment.
    pub garment: String,
    /// What, and on which date.
    pub planned: PlannedVisit,
    /// How often it was moved to another day.
    pub moves: u32,
}

/// A visit as the statements below give it.
struct AsKept {
    id: u64,
    order_id: u64,
    client_id: u64,
    client: String,
    contact: String,
    garment: String,
    kind: String,
    number: u32,
    on_day: NaiveDate,
    moves: u32,
    settled: bool,
}

impl AsKept {
    fn read(self) -> Option<VisitRow> {
        let visit = Visit { kind: VisitKind::of(&self.kind)?, number: self.number };
        Some(VisitRow {
            id: self.id,
            order_id: self.order_id,
            client_id: self.client_id,
            client: self.client,
            contact: self.contact,
            garment: self.garment,
            moves: self.moves,
            planned: PlannedVisit { visit, name: visit.name(), on: self.on_day, settled: self.settled },
        })
    }
}

/// Days a client is away.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct AwayRow {
    /// Number of the row.
    pub id: u64,
    /// The days.
    pub away: Away,
}

impl Store {
    /// Keeps the dates of an order, in place of those that are not settled; `saw` is the order's revision.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] where the order was changed meanwhile.
    pub async fn set_visits(
        &self,
        order: u64,
        visits: &[PlannedVisit],
        saw: u32,
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "orders").await?.is_some() {
            return Ok(());
        }
        let row = sqlx::query!("SELECT revision FROM orders WHERE id = ? FOR UPDATE", order)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "garment", id: order })?;
        if row.revision != saw {
            return Err(StoreError::Stale { what: "garment", now: row.revision, saw });
        }
        // A visit that stays keeps its number, and with it the letter that was written for it.
        let kept = sqlx::query!("SELECT id, kind, number FROM visits WHERE order_id = ?", order)
            .fetch_all(&mut *tx)
            .await?;
        for old in kept {
            let is_kept =
                visits.iter().any(|p| p.visit.kind.code() == old.kind && p.visit.number == old.number);
            if !is_kept {
                sqlx::query!("DELETE FROM visits WHERE id = ?", old.id).execute(&mut *tx).await?;
            }
        }
        for planned in visits {
            sqlx::query!(
                "INSERT INTO visits (order_id, kind, number, on_day, settled) VALUES (?, ?, ?, ?, ?) \
                 ON DUPLICATE KEY UPDATE moves = moves + (on_day <> VALUE(on_day)), on_day = VALUE(on_day), \
                 settled = VALUE(settled)",
                order,
                planned.visit.kind.code(),
                planned.visit.number,
                planned.on,
                planned.settled
            )
            .execute(&mut *tx)
            .await?;
        }
        sqlx::query!("UPDATE orders SET revision = revision + 1 WHERE id = ?", order)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "dated", "orders", order).await?;
        Ok(tx.commit().await?)
    }

    /// Changes what an order is wanted for: the day, and how many toiles; `saw` is its revision.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] or [`StoreError::NotFound`].
    pub async fn change_wish(
        &self,
        order: u64,
        wanted_on: Option<NaiveDate>,
        toiles: u32,
        saw: u32,
        by: u64,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        let row = sqlx::query!("SELECT revision FROM orders WHERE id = ? FOR UPDATE", order)
            .fetch_optional(&mut *tx)
            .await?
            .ok_or(StoreError::NotFound { what: "garment", id: order })?;
        if row.revision != saw {
            return Err(StoreError::Stale { what: "garment", now: row.revision, saw });
        }
        sqlx::query!(
            "UPDATE orders SET wanted_on = ?, toiles = ?, revision = revision + 1 WHERE id = ?",
            wanted_on,
            toiles,
            order
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, Once::by(by), "wanted", "orders", order).await?;
        Ok(tx.commit().await?)
    }

    /// The visits from one day to another, both included, but those of cancelled garments.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn visits(&self, from: NaiveDate, to: NaiveDate) -> Result<Vec<VisitRow>> {
        let rows = sqlx::query_as!(
            AsKept,
            "SELECT v.id, v.order_id, o.client_id, c.name AS client, c.contact, o.garment, v.kind, v.number, v.on_day, \
             v.moves, v.settled AS \"settled!: bool\" FROM visits v JOIN orders o ON o.id = v.order_id \
             JOIN clients c ON c.id = o.client_id \
             WHERE v.on_day BETWEEN ? AND ? AND (o.put_away IS NULL OR o.put_away <> 'cancelled') ORDER BY v.on_day, v.id",
            from,
            to
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().filter_map(AsKept::read).collect())
    }

    /// The visits of one order.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn visits_of(&self, order: u64) -> Result<Vec<VisitRow>> {
        let rows = sqlx::query_as!(
            AsKept,
            "SELECT v.id, v.order_id, o.client_id, c.name AS client, c.contact, o.garment, v.kind, v.number, v.on_day, \
             v.moves, v.settled AS \"settled!: bool\" FROM visits v JOIN orders o ON o.id = v.order_id \
             JOIN clients c ON c.id = o.client_id WHERE v.order_id = ? ORDER BY v.on_day, v.id",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().filter_map(AsKept::read).collect())
    }

    /// The visits of garments in hand before a day.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn visits_in_hand(&self, before: NaiveDate) -> Result<Vec<VisitRow>> {
        let rows = sqlx::query_as!(
            AsKept,
            "SELECT v.id, v.order_id, o.client_id, c.name AS client, c.contact, o.garment, v.kind, v.number, v.on_day, \
             v.moves, v.settled AS \"settled!: bool\" FROM orders o STRAIGHT_JOIN visits v ON v.order_id = o.id \
             JOIN clients c ON c.id = o.client_id \
             WHERE o.finished_at IS NULL AND o.put_away IS NULL AND v.on_day < ? ORDER BY v.on_day, v.id",
            before
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().filter_map(AsKept::read).collect())
    }

    /// How many clients come on each day from `from` on, those of one order left out.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn booked(&self, from: NaiveDate, but: u64) -> Result<Vec<Booked>> {
        let rows = sqlx::query!(
            "SELECT v.on_day, COUNT(*) AS \"count!: u32\" FROM visits v JOIN orders o ON o.id = v.order_id \
             WHERE v.on_day >= ? AND v.order_id <> ? AND v.kind <> 'cutting' \
               AND (o.put_away IS NULL OR o.put_away <> 'cancelled') GROUP BY v.on_day",
            from,
            but
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|r| Booked { on: r.on_day, count: r.count }).collect())
    }

    /// Days a client is away, the soonest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn away(&self, client: u64) -> Result<Vec<AwayRow>> {
        let rows = sqlx::query!(
            "SELECT id, from_day, to_day, why FROM away_days WHERE client_id = ? ORDER BY from_day",
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let row = |id, from, to, why| AwayRow { id, away: Away { from, to, why } };
        Ok(rows.into_iter().map(|r| row(r.id, r.from_day, r.to_day, r.why)).collect())
    }

    /// Adds days a client is away; the same days once more change nothing. Says how many were new.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`] for an unknown client.
    pub async fn add_away(&self, client: u64, days: &[Away], once: Once<'_>) -> Result<u64> {
        self.client(client).await?;
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "clients").await?.is_some() {
            return Ok(0);
        }
        let mut new = 0;
        for away in days {
            let added = sqlx::query!(
                "INSERT IGNORE INTO away_days (client_id, from_day, to_day, why) VALUES (?, ?, ?, ?)",
                client,
                away.from,
                away.to,
                away.why
            )
            .execute(&mut *tx)
            .await?;
            new += added.rows_affected();
        }
        note(&mut tx, once, "away", "clients", client).await?;
        tx.commit().await?;
        Ok(new)
    }

    /// Takes days away out again.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn drop_away(&self, id: u64, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        note(&mut tx, Once::by(by), "back", "away_days", id).await?;
        let gone = sqlx::query!("DELETE FROM away_days WHERE id = ?", id).execute(&mut *tx).await?;
        if gone.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "days away", id });
        }
        Ok(tx.commit().await?)
    }
}
