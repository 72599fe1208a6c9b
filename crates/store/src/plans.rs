//! What the dressmaker made of a plan: kept with the order until the pattern is begun from it, and after.

use yardwand_core::compare::PlanChanges;

use crate::audit::{Once, note};
use crate::error::{read, write};
use crate::{Result, Store, StoreError};

/// The plan of an order.
#[derive(Clone, Debug, PartialEq)]
pub struct OrderPlan {
    /// The block it starts from.
    pub block_id: u64,
    /// Its size.
    pub size: String,
    /// The ease set.
    pub ease_set: String,
    /// What was switched off, set or reordered.
    pub changes: PlanChanges,
    /// Revision of this row; 0 where nothing was kept yet.
    pub revision: u32,
}

impl Store {
    /// The plan of an order as it was kept; none where nobody changed anything.
    ///
    /// # Errors
    ///
    /// [`StoreError`].
    pub async fn order_plan(&self, order: u64) -> Result<Option<OrderPlan>> {
        let row = sqlx::query!(
            "SELECT block_id, size, ease_set, CAST(changes AS CHAR) AS \"changes!: String\", revision \
             FROM order_plans WHERE order_id = ?",
            order
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(|r| {
            Ok(OrderPlan {
                block_id: r.block_id,
                size: r.size,
                ease_set: r.ease_set,
                changes: read("plan", &r.changes)?,
                revision: r.revision,
            })
        })
        .transpose()
    }

    /// Keeps the plan of an order; `plan.revision` is the one the change was based on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] where somebody else was faster.
    pub async fn keep_plan(&self, order: u64, plan: &OrderPlan, by: u64) -> Result<u32> {
        let mut tx = self.begin().await?;
        let changes = write("plan", &plan.changes)?;
        let kept = if plan.revision == 0 {
            sqlx::query!(
                "INSERT IGNORE INTO order_plans (order_id, block_id, size, ease_set, changes, changed_by) \
                 VALUES (?, ?, ?, ?, ?, ?)",
                order,
                plan.block_id,
                plan.size,
                plan.ease_set,
                changes,
                by
            )
            .execute(&mut *tx)
            .await?
        } else {
            sqlx::query!(
                "UPDATE order_plans SET block_id = ?, size = ?, ease_set = ?, changes = ?, changed_by = ?, \
                 changed_at = UTC_TIMESTAMP(3), revision = revision + 1 WHERE order_id = ? AND revision = ?",
                plan.block_id,
                plan.size,
                plan.ease_set,
                changes,
                by,
                order,
                plan.revision
            )
            .execute(&mut *tx)
            .await?
        };
        if kept.rows_affected() == 0 {
            let now = sqlx::query!("SELECT revision FROM order_plans WHERE order_id = ?", order)
                .fetch_optional(&mut *tx)
                .await?
                .ok_or(StoreError::NotFound { what: "order", id: order })?;
            return Err(StoreError::Stale { what: "plan", now: now.revision, saw: plan.revision });
        }
        note(&mut tx, Once::by(by), "planned", "orders", order).await?;
        tx.commit().await?;
        Ok(plan.revision + 1)
    }
}
