//! Balance lines of a round: heights as they were taken.

use yardwand_core::body::LineHeights;
use yardwand_core::fitting::{BalanceLine, Station};

use crate::audit::{Once, note, saved_before};
use crate::error::{read, write};
use crate::rounds::lock_open_round;
use crate::{Result, Store};

/// A line as it was taken.
#[derive(Clone, Debug, PartialEq)]
pub struct BalanceRow {
    /// The round.
    pub round_id: u64,
    /// Which line.
    pub line: BalanceLine,
    /// Heights in millimetres.
    pub heights: LineHeights,
    /// Stations that are caught on the body.
    pub caught: Vec<Station>,
}

const fn code(line: BalanceLine) -> &'static str {
    match line {
        BalanceLine::Bust => "bust",
        BalanceLine::Waist => "waist",
        BalanceLine::Hip => "hip",
        BalanceLine::Hem => "hem",
    }
}

impl Store {
    /// Keeps a line of an open round, in place of what was taken of it before.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Refused`] in a closed round.
    pub async fn set_balance(&self, row: &BalanceRow, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "rounds").await?.is_some() {
            return Ok(());
        }
        lock_open_round(&mut tx, row.round_id).await?;
        sqlx::query!(
            "REPLACE INTO balance_lines (round_id, line, heights, caught, made_by) VALUES (?, ?, ?, ?, ?)",
            row.round_id,
            code(row.line),
            write("heights", &row.heights)?,
            write("stations", &row.caught)?,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        note(&mut tx, once, "levelled", "rounds", row.round_id).await?;
        Ok(tx.commit().await?)
    }

    /// The lines of an order's rounds, from the top of the body down.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn balances(&self, order: u64) -> Result<Vec<BalanceRow>> {
        let rows = sqlx::query!(
            "SELECT b.round_id, b.line, CAST(b.heights AS CHAR) AS \"heights!: String\", \
             CAST(b.caught AS CHAR) AS \"caught!: String\" \
             FROM balance_lines b JOIN rounds r ON r.id = b.round_id WHERE r.order_id = ? ORDER BY r.number",
            order
        )
        .fetch_all(&self.pool)
        .await?;
        let mut lines: Vec<BalanceRow> = rows
            .into_iter()
            .filter_map(|r| {
                let line = BalanceLine::ALL.into_iter().find(|line| code(*line) == r.line)?;
                let row = |heights, caught| BalanceRow { round_id: r.round_id, line, heights, caught };
                Some(read("heights", &r.heights).and_then(|h| Ok(row(h, read("stations", &r.caught)?))))
            })
            .collect::<Result<_>>()?;
        lines.sort_by_key(|row| (row.round_id, row.line));
        Ok(lines)
    }
}
