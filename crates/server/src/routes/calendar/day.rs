//! The calendar day by day: who comes, and what to prepare for each.

use std::collections::HashMap;

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use chrono::{Days, NaiveDate};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::{Done, Visit, VisitKind, is_open};
use yardwand_paper::{DayEntry, calendar_file};
use yardwand_store::{ObservationRow, Orders, RoundStage, VisitRow};

use super::{FAR, now, today};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::QueryString;
use crate::views::{OrderView, attached, possible_day};

/// A visit on the calendar.
#[derive(Serialize, ToSchema)]
struct VisitView {
    id: u64,
    order_id: u64,
    client_id: u64,
    client: String,
    garment: String,
    visit: Visit,
    name: String,
    on: NaiveDate,
    settled: bool,
    needs_client: bool,
}

impl From<VisitRow> for VisitView {
    fn from(row: VisitRow) -> Self {
        Self {
            id: row.id,
            order_id: row.order_id,
            client_id: row.client_id,
            client: row.client,
            garment: row.garment,
            visit: row.planned.visit,
            name: row.planned.name,
            on: row.planned.on,
            settled: row.planned.settled,
            needs_client: row.planned.visit.kind.needs_client(),
        }
    }
}

/// A visit of today, and what to prepare for it.
#[derive(Serialize, ToSchema)]
struct TodayVisit {
    visit: VisitView,
    /// A line each.
    prepare: Vec<String>,
}

/// What the days ahead hold, and what was to be done by now.
#[derive(Serialize, ToSchema)]
struct WeekView {
    /// Visits that have passed and were not done, the oldest first.
    late: Vec<VisitView>,
    /// Garments in hand whose wanted day has passed.
    overdue: Vec<OrderView>,
    /// Visits of the next seven days, today's left out.
    coming: Vec<VisitView>,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct FromTo {
    from: NaiveDate,
    to: NaiveDate,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(today_list))
        .routes(routes!(week))
        .routes(routes!(file))
}

/// The visits from one day to another, both included.
#[utoipa::path(get, path = "/api/calendar", params(FromTo), responses(
    (status = 200, body = Vec<VisitView>), (status = 422, body = Problem)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(asked): QueryString<FromTo>,
) -> Result<Json<Vec<VisitView>>, ApiError> {
    for (pointer, day) in [("/from", asked.from), ("/to", asked.to)] {
        possible_day(pointer, day)?;
    }
    if asked.to < asked.from || (asked.to - asked.from).num_days() > 800 {
        return Err(ApiError::field("/to", "ask for at most two years, from an earlier day to a later one"));
    }
    let rows = state.store.visits(asked.from, asked.to).await?;
    Ok(Json(rows.into_iter().map(VisitView::from).collect()))
}

/// Who comes today, and what to prepare for each.
#[utoipa::path(get, path = "/api/today", responses((status = 200, body = Vec<TodayVisit>)))]
async fn today_list(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<TodayVisit>>, ApiError> {
    let visits = state.store.visits(today(), today()).await?;
    let ids: Vec<u64> = visits.iter().map(|row| row.order_id).collect();
    let store = &state.store;
    let (orders, rounds, seen) =
        tokio::try_join!(store.orders(Orders::These(&ids)), store.worn(&ids), store.observations_of(&ids))?;
    let orders: HashMap<u64, OrderView> =
        orders.into_iter().map(|facts| (facts.order.id, facts.into())).collect();
    let order_of: HashMap<u64, u64> = rounds.iter().map(|round| (round.id, round.order_id)).collect();
    let list = visits.into_iter().map(|row| {
        let seen = seen.iter().filter(|seen| order_of.get(&seen.round_id) == Some(&row.order_id));
        let worn = rounds.iter().rfind(|round| round.order_id == row.order_id && !round.worn.is_empty());
        let worn = worn.map(|round| round.worn.as_str());
        let prepare =
            orders.get(&row.order_id).map(|order| prepare(row.planned.visit.kind, order, seen, worn));
        TodayVisit { visit: row.into(), prepare: prepare.unwrap_or_default() }
    });
    Ok(Json(list.collect()))
}

/// What is late, and what comes in the next seven days.
#[utoipa::path(get, path = "/api/week", responses((status = 200, body = WeekView)))]
async fn week(State(state): State<AppState>, _: SignedIn) -> Result<Json<WeekView>, ApiError> {
    let store = &state.store;
    let (orders, rounds, past, coming) = tokio::try_join!(
        store.orders(Orders::Late(today())),
        store.rounds_in_hand(),
        store.visits_in_hand(today()),
        store.visits(today() + Days::new(1), today() + Days::new(7)),
    )?;
    let late: Vec<OrderView> = orders.into_iter().map(OrderView::from).collect();
    let done = |order: &OrderView| {
        let at = |stage| rounds.iter().find(|row| row.0 == order.id && row.1 == stage).map_or(0, |row| row.2);
        Done {
            measured: order.missing == Some(0),
            toile_rounds: at(RoundStage::Toile),
            cloth_rounds: at(RoundStage::Cloth),
            final_rounds: at(RoundStage::Final),
            finished: false,
        }
    };
    let is_late = |row: &VisitRow| {
        let order = late.iter().find(|order| order.id == row.order_id);
        order.is_some_and(|order| !done(order).covers(row.planned.visit))
    };
    Ok(Json(WeekView {
        late: past.into_iter().filter(is_late).map(VisitView::from).collect(),
        coming: coming.into_iter().map(VisitView::from).collect(),
        overdue: late.into_iter().filter(|order| order.wanted_on.is_some_and(|on| on < today())).collect(),
    }))
}

/// What to prepare for a visit: from where the garment stands, what was seen on it, and what she wore.
fn prepare<'a>(
    kind: VisitKind,
    order: &OrderView,
    seen: impl Iterator<Item = &'a ObservationRow>,
    worn: Option<&str>,
) -> Vec<String> {
    let mut lines = Vec::new();
    let missing = order.missing.unwrap_or(0);
    match kind {
        VisitKind::Measuring => {
            lines.push(format!("Tape, elastic and a second string; {missing} readings to take."));
        }
        VisitKind::Cutting if order.version == 0 => {
            lines.push("Save a version of the pattern first.".to_owned())
        }
        VisitKind::Cutting => lines.push(format!("Cut the toile from version {}.", order.version)),
        _ if order.version == 0 => lines.push("No version of the pattern is saved yet.".to_owned()),
        VisitKind::Delivery => lines.push("Pressed, hung and packed.".to_owned()),
        _ => lines.push(format!("Version {} of the pattern, on the rail.", order.version)),
    }
    if missing > 0 && kind != VisitKind::Measuring {
        lines.push(format!("{missing} readings are still missing: take them while she is here."));
    }
    let open = seen.filter(|o| is_open(o.decision.as_ref(), o.marks.last().map(|m| m.mark)));
    let open: Vec<String> = open.map(|o| o.seen.said()).collect();
    if !open.is_empty() {
        lines.push(format!("Look again at: {}.", open.join("; ")));
    }
    match worn {
        Some(worn) => lines.push(format!("To bring, as last time: {worn}")),
        None if kind.needs_client() && kind != VisitKind::Delivery => {
            lines.push("To bring: her foundation and the shoes she will wear.".to_owned());
        }
        None => {}
    }
    lines
}

/// The dates from today on as a calendar file: the client's name and the garment, never what was seen.
#[utoipa::path(get, path = "/api/calendar.ics", responses((status = 200, content_type = "text/calendar", body = String)))]
async fn file(State(state): State<AppState>, _: SignedIn) -> Result<Response, ApiError> {
    let house = state.store.house().await?;
    let rows = state.store.visits(today(), today() + Days::new(FAR)).await?;
    let identity = state.store.house_identity().await?;
    let entries = rows.into_iter().map(|row| DayEntry {
        uid: format!("visit-{}@{identity}.yardwand", row.id),
        sequence: row.moves,
        on: row.planned.on,
        summary: format!("{}: {}, {}", row.client, row.planned.name, row.garment),
        description: String::new(),
    });
    let entries: Vec<_> = entries.collect();
    let file = calendar_file(&house.name, &entries, now());
    Ok(attached("text/calendar; charset=utf-8", "workroom.ics", file))
}
