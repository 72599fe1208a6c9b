//! All that is known when the causes of a round are weighed.

use yardwand_core::Style;
use yardwand_core::compare::compare;
use yardwand_core::fitting::{BalanceLine, Evidence, Mark, Station, Tried, read_balance};
use yardwand_core::pattern::measure;
use yardwand_store::{ObservationRow, RoundRow};

use crate::AppState;
use crate::error::ApiError;
use crate::figures::body_of_client;
use crate::workroom::ease_of_order;

/// The evidence of a round, and the observations it tells of in the same order: its own, then the earlier ones that
/// were marked as still there.
pub(super) async fn evidence_of(
    state: &AppState,
    round: &RoundRow,
    style: Style,
) -> Result<(Evidence, Vec<u64>), ApiError> {
    let store = &state.store;
    let all = store.observations(round.order_id).await?;
    let still = |row: &&ObservationRow| {
        row.round < round.number && row.marks.iter().any(|m| m.round == round.number && m.mark != Mark::Gone)
    };
    let own = all.iter().filter(|row| row.round_id == round.id);
    let told: Vec<&ObservationRow> = own.chain(all.iter().filter(still)).collect();
    let ids = told.iter().map(|row| row.id).collect();
    let tried = all.iter().filter(|row| row.round < round.number).filter_map(|row| {
        let cause = row.decision.as_ref()?.cause()?.to_owned();
        let became = row.marks.iter().rfind(|m| m.round <= round.number)?.mark;
        Some(Tried { cause, became })
    });
    let mut evidence = Evidence {
        seen: told.iter().map(|row| row.seen.clone()).collect(),
        tried: tried.collect(),
        ..Evidence::default()
    };
    for row in store.balances(round.order_id).await?.iter().filter(|row| row.round_id == round.id) {
        // The hem has faults of its own.
        if row.line == BalanceLine::Hem {
            continue;
        }
        let Some(read) = read_balance(row.heights, &row.caught, style) else { continue };
        for station in Station::ALL {
            if let Some(off) = read.off(station) {
                let worst = evidence.level.entry(station).or_insert(off);
                if off.abs() > worst.abs() {
                    *worst = off;
                }
            }
        }
    }
    let client = store.order(round.order_id).await?.order.client_id;
    let body = body_of_client(store, client).await?;
    let version = store.version(round.version_id).await?;
    evidence.garment = version.pattern.garment();
    let ease = ease_of_order(store, round.order_id, evidence.garment).await?;
    let compared = compare(&body, &measure(&version.pattern), &ease, style);
    Ok((evidence.with_comparison(&compared), ids))
}
