//! All that is known when the causes of a round are weighed.

use yardwand_core::Style;
use yardwand_core::compare::compare;
use yardwand_core::fitting::{Evidence, LevelOff, Noted, Station, Worn, read_balance};
use yardwand_core::pattern::measure;
use yardwand_store::RoundRow;

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
    let noted: Vec<(u64, Noted)> = all.iter().map(|row| (row.id, row.noted())).collect();
    let (own, before): (Vec<_>, Vec<_>) = noted
        .iter()
        .filter(|(_, each)| each.is_evidence_in(round.number))
        .partition(|(_, each)| each.round == round.number);
    let (ids, seen) = own.into_iter().chain(before).map(|(id, each)| (*id, each.seen.clone())).unzip();
    let mut evidence = Evidence {
        seen,
        tried: noted.iter().filter_map(|(_, each)| each.taught_by(round.number)).collect(),
        tested: store.tests_made(round.id).await?,
        ..Evidence::default()
    };
    for row in store.balances(round.order_id).await?.iter().filter(|row| row.round_id == round.id) {
        let Some(read) = read_balance(row.heights, &row.caught, style) else { continue };
        let taken = Station::ALL.into_iter().filter_map(|station| Some((station, read.off(station)?)));
        let off = |(station, mm)| LevelOff { line: Some(row.line), station, mm };
        evidence.level.extend(taken.map(off));
    }
    let client = store.order(round.order_id).await?.order.client_id;
    let body = body_of_client(store, client).await?;
    let version = store.version(round.version_id).await?;
    evidence.garment = version.pattern.garment();
    evidence.worn = Worn::of(&version.pattern);
    let ease = ease_of_order(store, round.order_id, evidence.garment).await?;
    let compared = compare(&body, &measure(&version.pattern), &ease, style);
    Ok((evidence.with_comparison(&compared), ids))
}
