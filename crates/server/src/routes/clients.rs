//! `/api/clients`: who is dressed, her consent, and her story.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{BodyDrawing, View, draw_body};
use yardwand_store::{ListedClient, NewClient, NewConsent, Orders};

use super::story::{StoryEntry, story};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, InPath, JsonBody, QueryString, Writer};
use crate::figures::{figure_of, grouped, name_of, profile_of};
use crate::rights::{Dates, Readings};
use crate::views::{Based, Made, OrderView, Page, optional_lines, optional_words, possible_day, words};

/// Clients on one page.
const PAGE: u32 = 50;

#[derive(Deserialize, ToSchema)]
struct ClientEntry {
    name: String,
    #[serde(default)]
    contact: String,
    #[serde(default)]
    notes: String,
    /// Consent, where she gave it.
    #[serde(default)]
    consent: Option<ConsentEntry>,
}

#[derive(Deserialize, ToSchema)]
struct ConsentEntry {
    given_on: NaiveDate,
    purpose: String,
    #[serde(default)]
    review_on: Option<NaiveDate>,
}

#[derive(Serialize, ToSchema)]
struct ClientSummary {
    id: u64,
    name: String,
    contact: String,
    archived: bool,
    /// Garments in hand.
    in_hand: u32,
    /// When she was last here: measured or fitted.
    here_at: Option<DateTime<Utc>>,
    /// Days since she was measured last.
    readings_age: Option<i64>,
}

impl From<ListedClient> for ClientSummary {
    fn from(row: ListedClient) -> Self {
        Self {
            id: row.id,
            name: row.name,
            contact: row.contact,
            archived: row.archived,
            in_hand: row.in_hand,
            here_at: row.here_at,
            readings_age: row.measured_at.map(|at| (Utc::now() - at).num_days()),
        }
    }
}

#[derive(Deserialize, ToSchema)]
struct Archived {
    archived: bool,
}

#[derive(Deserialize, ToSchema)]
struct OtherEntry {
    /// The entry that goes into this one.
    other: u64,
}

#[derive(Serialize, ToSchema)]
struct ConsentView {
    id: u64,
    /// The day she withdrew it.
    withdrawn_on: Option<NaiveDate>,
    given_on: NaiveDate,
    purpose: String,
    review_on: Option<NaiveDate>,
}

/// A client's current figure of one measurement.
#[derive(Serialize, ToSchema)]
struct ProfileRow {
    code: String,
    name: String,
    /// In the house's style.
    text: String,
    /// As it was typed.
    typed: String,
    taken_at: DateTime<Utc>,
}

#[derive(Serialize, ToSchema)]
struct ClientView {
    id: u64,
    name: String,
    contact: String,
    notes: String,
    revision: u32,
    created_at: DateTime<Utc>,
    archived_at: Option<DateTime<Utc>>,
    /// The dress form it stands for, where it is no client.
    form_id: Option<u64>,
    consents: Vec<ConsentView>,
    orders: Vec<OrderView>,
    profile: Vec<ProfileRow>,
    figure: BodyDrawing,
    open_session: Option<u64>,
    story: Vec<StoryEntry>,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Search {
    /// Any part of the name, the number or the notes.
    #[serde(default)]
    #[param(required = false)]
    q: String,
    /// Those of the archive too.
    #[serde(default)]
    #[param(required = false)]
    archived: bool,
    /// The `next` of the page before.
    #[serde(default)]
    after: Option<String>,
}

impl ClientEntry {
    fn checked(self) -> Result<NewClient, ApiError> {
        Ok(NewClient {
            name: words("/name", "The name", &self.name, 120)?,
            contact: optional_words("/contact", "The contact", &self.contact, 254)?,
            notes: optional_lines("/notes", "The notes", &self.notes, 4000)?,
            consent: self.consent.map(|consent| consent.checked("/consent")).transpose()?,
        })
    }
}

impl ConsentEntry {
    fn checked(self, at: &str) -> Result<NewConsent, ApiError> {
        possible_day(&format!("{at}/given_on"), self.given_on)?;
        self.review_on.map(|day| possible_day(&format!("{at}/review_on"), day)).transpose()?;
        if self.given_on > crate::workroom::today() + chrono::Days::new(1) {
            return Err(ApiError::field(
                &format!("{at}/given_on"),
                "consent cannot have been given in the future: give the day it was given",
            ));
        }
        if self.review_on.is_some_and(|review| review < self.given_on) {
            return Err(ApiError::field(
                &format!("{at}/review_on"),
                "the review date lies before the consent: choose a later day",
            ));
        }
        let purpose = words(&format!("{at}/purpose"), "The purpose of the consent", &self.purpose, 400)?;
        Ok(NewConsent { given_on: self.given_on, purpose, review_on: self.review_on })
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list, add))
        .routes(routes!(get, change))
        .routes(routes!(add_consent))
        .routes(routes!(withdraw, let_stand))
        .routes(routes!(archive))
        .routes(routes!(merge))
        .routes(routes!(part))
}

/// Clients in whose name, number or notes a text is, by name.
#[utoipa::path(get, path = "/api/clients", params(Search), responses((status = 200, body = Page<ClientSummary>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(search): QueryString<Search>,
) -> Result<Json<Page<ClientSummary>>, ApiError> {
    let after = search.after.as_deref().and_then(|cursor| {
        let (id, name) = cursor.split_once(' ')?;
        Some((name, id.parse::<u64>().ok()?))
    });
    let rows = state.store.clients(search.q.trim(), search.archived, after, PAGE).await?;
    let full = rows.len() == PAGE as usize;
    let next = rows.last().filter(|_| full).map(|last| format!("{} {}", last.id, last.name));
    Ok(Json(Page { items: rows.into_iter().map(ClientSummary::from).collect(), next }))
}

/// Adds a client.
#[utoipa::path(post, path = "/api/clients", request_body = ClientEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn add(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    JsonBody(entry): JsonBody<ClientEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let id = state.store.add_client(&entry.checked()?, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// A client with her figures and her story.
#[utoipa::path(get, path = "/api/clients/{id}", responses((status = 200, body = ClientView), (status = 404, body = Problem)))]
async fn get(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<ClientView>, ApiError> {
    let store = &state.store;
    let (house, client, readings, orders, sessions, consents) = tokio::try_join!(
        store.house(),
        store.client(id),
        store.latest_readings(id, None),
        store.orders(Orders::OfClient(id)),
        store.sessions(id),
        store.consents(id)
    )?;
    let style = house.style;
    let taken = orders.iter().map(|facts| &facts.order);
    let story = story(store, &client, &consents, taken, &sessions, style).await?;
    let orders: Vec<OrderView> = orders.into_iter().map(OrderView::from).collect();
    let figure = draw_body(View::Front, &profile_of(&readings, &[], house.measuring.finger_mm).body());
    let takes = grouped(&readings);
    let profile = takes.iter().filter_map(|((code, side), takes)| {
        let last = takes.last()?;
        Some(ProfileRow {
            code: (*code).to_owned(),
            name: format!("{}{}", name_of(code), side.behind_a_name()),
            text: style.show(figure_of(takes)).text,
            typed: last.entered.with_unit(),
            taken_at: last.taken_at,
        })
    });
    Ok(Json(ClientView {
        profile: profile.collect(),
        figure,
        open_session: sessions.iter().find(|s| s.closed_at.is_none()).map(|s| s.id),
        story,
        orders,
        consents: consents
            .into_iter()
            .map(|c| ConsentView {
                id: c.id,
                given_on: c.given_on,
                purpose: c.purpose,
                review_on: c.review_on,
                withdrawn_on: c.withdrawn_on,
            })
            .collect(),
        id: client.id,
        form_id: client.form_id,
        name: client.name,
        contact: client.contact,
        notes: client.notes,
        revision: client.revision,
        created_at: client.created_at,
        archived_at: client.archived_at,
    }))
}

/// Changes a client's entry.
#[utoipa::path(put, path = "/api/clients/{id}", request_body = Based<ClientEntry>, responses(
    (status = 204), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<ClientEntry>>,
) -> Result<StatusCode, ApiError> {
    let entry = based.change.checked()?;
    match state.store.change_client(id, &entry, based.revision, writer.person.id).await {
        Ok(()) => Ok(StatusCode::NO_CONTENT),
        Err(error) => {
            let current = state.store.client(id).await.ok();
            let current = current.map(|c| serde_json::json!({ "name": c.name, "contact": c.contact, "notes": c.notes, "revision": c.revision }));
            Err(ApiError::from(error).with_current(current))
        }
    }
}

/// Adds a consent.
#[utoipa::path(post, path = "/api/clients/{id}/consents", request_body = ConsentEntry, responses(
    (status = 201), (status = 422, body = Problem)))]
async fn add_consent(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<ConsentEntry>,
) -> Result<StatusCode, ApiError> {
    state.store.add_consent(id, &entry.checked("")?, writer.once()).await?;
    Ok(StatusCode::CREATED)
}

/// Writes down that she withdraws a consent: nothing more is measured of her until she agrees again. What is kept stays
/// for the garments in hand until she is erased.
#[utoipa::path(post, path = "/api/clients/{id}/consents/{consent}/withdraw", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn withdraw(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    InPath((client, consent)): InPath<(u64, u64)>,
) -> Result<StatusCode, ApiError> {
    state.store.withdraw_consent(client, consent, crate::workroom::today(), writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Takes back that she withdrew a consent.
#[utoipa::path(delete, path = "/api/clients/{id}/consents/{consent}/withdraw", responses(
    (status = 204), (status = 404, body = Problem)))]
async fn let_stand(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    InPath((client, consent)): InPath<(u64, u64)>,
) -> Result<StatusCode, ApiError> {
    state.store.let_consent_stand(client, consent, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a client into the archive, or brings her back.
#[utoipa::path(put, path = "/api/clients/{id}/archived", request_body = Based<Archived>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn archive(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<Archived>>,
) -> Result<StatusCode, ApiError> {
    state.store.archive_client(id, based.change.archived, based.revision, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Makes two entries of one woman one: everything of the other goes to this one.
#[utoipa::path(post, path = "/api/clients/{id}/merged", request_body = Based<OtherEntry>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn merge(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<OtherEntry>>,
) -> Result<StatusCode, ApiError> {
    state.store.merge_clients(id, based.change.other, based.revision, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Parts an entry again from the one it was merged into.
#[utoipa::path(delete, path = "/api/clients/{id}/merged", responses(
    (status = 204), (status = 404, body = Problem)))]
async fn part(
    State(state): State<AppState>,
    writer: Writer<Dates>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.part_clients(id, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}
