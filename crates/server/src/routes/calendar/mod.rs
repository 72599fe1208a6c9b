//! `/api/calendar` and the dates of orders: planned backwards, moved with what depends on them, listed for today.

mod away;
mod day;
mod letters;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Days, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::{
    DatePlan, HouseCalendar, MoveSaid, PlannedVisit, Visit, Wish, move_visit, plan_dates,
};
use yardwand_store::Store;

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::rights::Dates;
use crate::views::{Based, OrderView, possible_day};

/// As far back and ahead as dates are looked at, in days.
const FAR: u64 = 1500;

/// The dates of an order.
#[derive(Serialize, ToSchema)]
struct DatesView {
    order_id: u64,
    wanted_on: Option<NaiveDate>,
    toiles: u32,
    /// The dates that are kept; none before it is planned.
    visits: Vec<PlannedVisit>,
    revision: u32,
}

#[derive(Clone, Copy, Deserialize, ToSchema)]
struct WishEntry {
    wanted_on: NaiveDate,
    toiles: u32,
    /// Keep the earliest honest dates where the wanted one cannot be kept.
    #[serde(default)]
    take_earliest: bool,
}

#[derive(Deserialize, ToSchema)]
struct MoveEntry {
    visit: Visit,
    to: NaiveDate,
    /// Keep it; otherwise it is only said what would move.
    #[serde(default)]
    keep: bool,
}

#[derive(Deserialize, ToSchema)]
struct SettledEntry {
    visit: Visit,
    settled: bool,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(dates, keep_dates))
        .routes(routes!(propose))
        .routes(routes!(move_one))
        .routes(routes!(settle))
        .merge(away::routes())
        .merge(day::routes())
        .merge(letters::routes())
}

/// Today, by the server's clock.
pub(super) fn today() -> NaiveDate {
    crate::workroom::today()
}

fn said(day: NaiveDate) -> String {
    day.format("%A %-d %B %Y").to_string()
}

/// A date that lies ahead.
pub(super) fn not_before_today(day: NaiveDate) -> Result<NaiveDate, ApiError> {
    if day < today() {
        let says = format!("{} lies before today: choose today or later", said(day));
        return Err(ApiError::field("/wanted_on", says));
    }
    if day > today() + Days::new(FAR) {
        return Err(ApiError::field("/wanted_on", format!("{} is years away: check the year", said(day))));
    }
    Ok(day)
}

/// How many toiles may be thought of.
pub(super) fn checked_toiles(toiles: u32) -> Result<u32, ApiError> {
    match toiles {
        1..=6 => Ok(toiles),
        _ => Err(ApiError::field("/toiles", "one to six toiles are planned: more will show in the fitting")),
    }
}

async fn visits_of(store: &Store, order: u64) -> Result<Vec<PlannedVisit>, ApiError> {
    let mut visits: Vec<PlannedVisit> =
        store.visits_of(order).await?.into_iter().map(|row| row.planned).collect();
    visits.sort_by_key(|planned| planned.visit);
    Ok(visits)
}

/// What is planned: the house's days, hers, and what other garments have taken.
async fn wish_of(
    store: &Store,
    order: &OrderView,
    wanted: NaiveDate,
    toiles: u32,
) -> Result<(HouseCalendar, Wish), ApiError> {
    let calendar = store.house().await?.calendar;
    let away = store.away(order.client_id).await?.into_iter().map(|row| row.away).collect();
    let measured = if order.missing == Some(0) {
        let sessions = store.sessions(order.client_id).await?;
        sessions.iter().map(|session| session.started_at.date_naive()).max()
    } else {
        None
    };
    // What has been, and what is settled, stays.
    let kept = visits_of(store, order.id).await?.into_iter();
    let settled = kept.filter(|planned| planned.settled || planned.on < today());
    let wish = Wish {
        today: today(),
        wanted,
        toiles,
        away,
        booked: store.booked(today(), order.id).await?,
        measured_on: measured,
        settled: settled.map(|planned| PlannedVisit { settled: true, ..planned }).collect(),
    };
    Ok((calendar, wish))
}

async fn order_of(state: &AppState, id: u64) -> Result<OrderView, ApiError> {
    Ok(state.store.order(id).await?.into())
}

async fn view(state: &AppState, id: u64) -> Result<DatesView, ApiError> {
    let order = order_of(state, id).await?;
    Ok(DatesView {
        order_id: id,
        wanted_on: order.wanted_on,
        toiles: order.toiles,
        visits: visits_of(&state.store, id).await?,
        revision: order.revision,
    })
}

/// The dates of an order.
#[utoipa::path(get, path = "/api/orders/{id}/dates", responses((status = 200, body = DatesView), (status = 404, body = Problem)))]
async fn dates(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<DatesView>, ApiError> {
    Ok(Json(view(&state, id).await?))
}

async fn planned(state: &AppState, id: u64, wish: WishEntry) -> Result<DatePlan, ApiError> {
    let order = order_of(state, id).await?;
    let wanted = not_before_today(wish.wanted_on)?;
    let (calendar, wish) = wish_of(&state.store, &order, wanted, checked_toiles(wish.toiles)?).await?;
    Ok(plan_dates(&calendar, &wish))
}

/// Plans backwards from a wanted date; nothing is kept.
#[utoipa::path(post, path = "/api/orders/{id}/dates/proposal", request_body = WishEntry, responses(
    (status = 200, body = DatePlan), (status = 422, body = Problem)))]
async fn propose(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    JsonBody(wish): JsonBody<WishEntry>,
) -> Result<Json<DatePlan>, ApiError> {
    Ok(Json(planned(&state, id, wish).await?))
}

/// Plans backwards from a wanted date and keeps the dates.
#[utoipa::path(put, path = "/api/orders/{id}/dates", request_body = Based<WishEntry>, responses(
    (status = 200, body = DatesView), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn keep_dates(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<WishEntry>>,
) -> Result<Json<DatesView>, ApiError> {
    let wish = based.change;
    let plan = planned(&state, id, wish).await?;
    if !plan.feasible && !wish.take_earliest {
        return Err(ApiError::field("/wanted_on", plan.says.join(" ")));
    }
    let order = order_of(&state, id).await?;
    let mut revision = based.revision;
    if order.wanted_on != Some(wish.wanted_on) || order.toiles != wish.toiles {
        let by = writer.person.id;
        state.store.change_wish(id, Some(wish.wanted_on), wish.toiles, revision, by).await?;
        revision += 1;
    }
    state.store.set_visits(id, &plan.visits, revision, writer.once()).await?;
    Ok(Json(view(&state, id).await?))
}

/// Moves a visit to another day with what depends on it. Asks first: with `keep` it is done.
#[utoipa::path(post, path = "/api/orders/{id}/dates/move", request_body = Based<MoveEntry>, responses(
    (status = 200, body = MoveSaid), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn move_one(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<MoveEntry>>,
) -> Result<Json<MoveSaid>, ApiError> {
    let entry = based.change;
    possible_day("/to", entry.to)?;
    let order = order_of(&state, id).await?;
    let visits = visits_of(&state.store, id).await?;
    let wanted = order.wanted_on.or(visits.last().map(|last| last.on));
    let wanted =
        wanted.ok_or_else(|| ApiError::field("/visit", "this garment has no dates yet: plan them first"))?;
    let (calendar, wish) = wish_of(&state.store, &order, wanted, order.toiles).await?;
    let been = |planned: &PlannedVisit| planned.settled || planned.on < today();
    let visits: Vec<_> =
        visits.into_iter().map(|planned| PlannedVisit { settled: been(&planned), ..planned }).collect();
    let moved = move_visit(&calendar, &wish, &visits, entry.visit, entry.to)
        .map_err(|says| ApiError::field("/to", says))?;
    if entry.keep {
        state.store.set_visits(id, &moved.visits, based.revision, writer.once()).await?;
    }
    Ok(Json(moved))
}

/// Settles a visit where it is, or lets it move again.
#[utoipa::path(post, path = "/api/orders/{id}/dates/settled", request_body = Based<SettledEntry>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn settle(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<SettledEntry>>,
) -> Result<StatusCode, ApiError> {
    let entry = based.change;
    let mut visits = visits_of(&state.store, id).await?;
    let one = visits.iter_mut().find(|planned| planned.visit == entry.visit);
    one.ok_or_else(|| ApiError::field("/visit", "this garment has no such date"))?.settled = entry.settled;
    state.store.set_visits(id, &visits, based.revision, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// When something is written.
fn now() -> DateTime<Utc> {
    Utc::now()
}
