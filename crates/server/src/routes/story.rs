//! A client's story: what happened, in order, in neutral words.

use chrono::{DateTime, NaiveTime, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use yardwand_core::Style;
use yardwand_core::alter::{alteration, amount_views, decisions};
use yardwand_store::{
    ClientRow, ConsentRow, ObservationRow, OrderRow, RoundRow, SessionRow, Store, VersionTold,
};

use super::rounds::observation_view;
use crate::error::ApiError;

/// One thing that happened.
#[derive(Serialize, ToSchema)]
pub(super) struct StoryEntry {
    at: DateTime<Utc>,
    /// `entered`, `consent`, `measured`, `ordered`, `pattern`, `round` or `done`.
    kind: String,
    title: String,
    lines: Vec<String>,
    /// The garment it belongs to.
    order_id: Option<u64>,
    /// The session, round or version it tells of.
    of_id: Option<u64>,
}

fn entry(at: DateTime<Utc>, kind: &str, title: String, lines: Vec<String>) -> StoryEntry {
    StoryEntry { at, kind: kind.to_owned(), title, lines, order_id: None, of_id: None }
}

/// Everything that happened with a client, oldest first.
pub(super) async fn story<'a>(
    store: &Store,
    client: &ClientRow,
    consents: &[ConsentRow],
    orders: impl Iterator<Item = &'a OrderRow>,
    sessions: &[SessionRow],
    style: Style,
) -> Result<Vec<StoryEntry>, ApiError> {
    let mut entries = vec![entry(client.created_at, "entered", "Entered in the book".to_owned(), Vec::new())];
    for consent in consents {
        let at = consent.given_on.and_time(NaiveTime::MIN).and_utc().max(client.created_at);
        entries.push(entry(at, "consent", "Consent given".to_owned(), vec![consent.purpose.clone()]));
    }
    let (counts, versions, rounds, seen) = tokio::try_join!(
        store.reading_counts(client.id),
        store.versions_told(client.id),
        store.rounds_on(client.id),
        store.observations_on(client.id)
    )?;
    for session in sessions {
        let taken = counts.get(&session.id).copied().unwrap_or_default();
        let state = if session.closed_at.is_some() { "closed" } else { "still open" };
        let lines = vec![format!("{taken} readings by {}, {state}.", session.measurer)];
        entries.push(StoryEntry {
            of_id: Some(session.id),
            ..entry(session.started_at, "measured", "Measured".to_owned(), lines)
        });
    }
    for order in orders {
        of_order(order, &versions, &rounds, &seen, style, &mut entries);
    }
    entries.sort_by_key(|entry| entry.at);
    Ok(entries)
}

/// What happened with a garment.
fn of_order(
    order: &OrderRow,
    versions: &[VersionTold],
    rounds: &[RoundRow],
    seen: &[ObservationRow],
    style: Style,
    entries: &mut Vec<StoryEntry>,
) {
    let wanted = order
        .wanted_on
        .map(|day| vec![format!("Wanted for {}.", day.format("%-d %B %Y"))])
        .unwrap_or_default();
    let mut push = |mut e: StoryEntry, of: Option<u64>| {
        e.order_id = Some(order.id);
        e.of_id = of;
        entries.push(e);
    };
    push(entry(order.created_at, "ordered", format!("{} ordered", order.garment), wanted), None);
    for version in versions.iter().filter(|version| version.order_id == order.id) {
        let lines = version.recipe.steps.iter().filter(|step| step.on).map(|step| {
            let done = said(&step.alteration, &step.total(), style);
            let reasons = decisions(step).into_iter().map(|each| each.says);
            let told: Vec<String> = reasons.filter(|says| !says.is_empty()).collect();
            if told.is_empty() { done } else { format!("{done}. {}", told.join(" ")) }
        });
        let title = format!("{}: version {} of the pattern", order.garment, version.version);
        let why = Some(version.why.clone()).filter(|why| !why.is_empty());
        push(
            entry(version.made_at, "pattern", title, why.into_iter().chain(lines).collect()),
            Some(version.id),
        );
    }
    let own: Vec<&RoundRow> = rounds.iter().filter(|round| round.order_id == order.id).collect();
    let seen: Vec<&ObservationRow> =
        seen.iter().filter(|seen| own.iter().any(|round| round.id == seen.round_id)).collect();
    for round in own {
        let title = format!("{}: fitting round {} on version {}", order.garment, round.number, round.version);
        push(entry(round.opened_at, "round", title, round_lines(round, &seen, style)), Some(round.id));
    }
    if let Some(at) = order.finished_at {
        push(entry(at, "done", format!("{} handed over", order.garment), Vec::new()), None);
    }
}

fn round_lines(round: &RoundRow, seen: &[&ObservationRow], style: Style) -> Vec<String> {
    let marked = seen.iter().filter_map(|o| {
        let mark = o.marks.iter().find(|m| m.round == round.number)?.mark;
        Some(format!("{} from round {}: {}.", o.seen.said(), o.round, mark.code()))
    });
    let own = seen.iter().filter(|o| o.round_id == round.id).map(|o| {
        let view = observation_view((*o).clone(), style);
        let pinned = o
            .seen
            .pinned
            .map(|p| format!(", {} a half", style.with_unit(p.amounts(o.seen.lie).per_half.0.mm())))
            .unwrap_or_default();
        let note = if o.seen.note.is_empty() { String::new() } else { format!(" ({})", o.seen.note) };
        let decided = view.decided.unwrap_or_else(|| "not decided".to_owned());
        format!("{}{pinned}{note}: {decided}.", view.said)
    });
    let comfort =
        Some(format!("Comfort: \u{201c}{}\u{201d}", round.comfort)).filter(|_| !round.comfort.is_empty());
    let made = round.made_version.map(|version| format!("It made version {version}."));
    marked.chain(own).chain(comfort).chain(made).collect()
}

/// An alteration with its amount, as a person says it.
pub(super) fn said(code: &str, amounts: &yardwand_core::alter::Amounts, style: Style) -> String {
    let Some(known) = alteration(code) else { return code.to_owned() };
    let views = amount_views(known, amounts, style);
    let last = views.last().map(|v| format!(" {} {} {}", v.amount.text, style.unit().suffix(), v.on));
    format!("{}{}", known.name(), last.unwrap_or_default())
}
