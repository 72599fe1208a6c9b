//! `/api/changes`: who changed what, and when. Of one client or garment everybody may ask, of the house the owner.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::{Change, ChangesOf};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, Id, QueryString};
use crate::figures::name_of;
use crate::rights::Housekeeping;
use crate::views::{Page, attached};

/// Changes on one page.
const PAGE: u32 = 60;
/// Changes in one file.
const MOST_IN_FILE: u32 = 100_000;

/// A change.
#[derive(Serialize, ToSchema)]
struct NotedChange {
    id: u64,
    at: DateTime<Utc>,
    /// Who; nobody where the program did it by itself.
    person: Option<String>,
    /// What was done to what, in words.
    says: String,
    client: Option<String>,
    garment: Option<String>,
}

/// What is changed, as a person calls it.
#[derive(Clone, Copy, Deserialize, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum ChangedThing {
    Client,
    Consent,
    Note,
    Session,
    Reading,
    Garment,
    Pattern,
    Version,
    Round,
    Observation,
    Photograph,
    Block,
    Person,
    House,
    Shelf,
    Form,
    Set,
    Import,
    Away,
}

impl ChangedThing {
    const ALL: [Self; 19] = [
        Self::Client,
        Self::Consent,
        Self::Note,
        Self::Session,
        Self::Reading,
        Self::Garment,
        Self::Pattern,
        Self::Version,
        Self::Round,
        Self::Observation,
        Self::Photograph,
        Self::Block,
        Self::Person,
        Self::House,
        Self::Shelf,
        Self::Form,
        Self::Set,
        Self::Import,
        Self::Away,
    ];

    /// Its table.
    const fn table(self) -> &'static str {
        match self {
            Self::Client => "clients",
            Self::Consent => "consents",
            Self::Note => "client_notes",
            Self::Session => "sessions",
            Self::Reading => "readings",
            Self::Garment => "orders",
            Self::Pattern => "patterns",
            Self::Version => "pattern_versions",
            Self::Round => "rounds",
            Self::Observation => "observations",
            Self::Photograph => "photographs",
            Self::Block => "blocks",
            Self::Person => "people",
            Self::House => "house",
            Self::Shelf => "shelves",
            Self::Form => "forms",
            Self::Set => "measurement_sets",
            Self::Import => "imports",
            Self::Away => "away_days",
        }
    }

    /// In a sentence.
    const fn name(self) -> &'static str {
        match self {
            Self::Client => "client",
            Self::Consent => "consent",
            Self::Note => "note",
            Self::Session => "measuring session",
            Self::Reading => "reading",
            Self::Garment => "garment",
            Self::Pattern => "pattern",
            Self::Version => "version of the pattern",
            Self::Round => "fitting round",
            Self::Observation => "observation in fitting round",
            Self::Photograph => "photograph",
            Self::Block => "block",
            Self::Person => "person of the house",
            Self::House => "house",
            Self::Shelf => "way of drafting",
            Self::Form => "form",
            Self::Set => "measurement set",
            Self::Import => "file brought in",
            Self::Away => "days away",
        }
    }
}

impl From<Change> for NotedChange {
    fn from(row: Change) -> Self {
        let thing = ChangedThing::ALL.into_iter().find(|thing| thing.table() == row.of_table);
        let name = thing.map_or("something", ChangedThing::name);
        let about = [
            row.code.as_deref().map(|code| name_of(code).to_owned()),
            row.number.map(|number| number.to_string()),
            row.words.filter(|words| !words.is_empty()),
        ];
        let about: Vec<String> = about.into_iter().flatten().collect();
        let about = if about.is_empty() { String::new() } else { format!(" {}", about.join(", ")) };
        Self {
            says: format!("{name}{about}: {}", row.what),
            id: row.id,
            at: row.at,
            person: row.person,
            client: row.client,
            garment: row.garment,
        }
    }
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Asked {
    /// By this person.
    person: Option<u64>,
    /// Of this kind.
    #[param(inline)]
    of: Option<ChangedThing>,
    /// The `next` of the page before.
    after: Option<u64>,
}

impl Asked {
    fn of(&self) -> ChangesOf<'static> {
        ChangesOf {
            person: self.person,
            table: self.of.map(ChangedThing::table),
            before: self.after,
            ..ChangesOf::default()
        }
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(of_house))
        .routes(routes!(file))
        .routes(routes!(of_client))
        .routes(routes!(of_order))
}

async fn page(state: &AppState, of: ChangesOf<'_>) -> Result<Json<Page<NotedChange>>, ApiError> {
    let rows = state.store.changes(of, PAGE).await?;
    let full = rows.len() == PAGE as usize;
    let next = rows.last().filter(|_| full).map(|last| last.id.to_string());
    Ok(Json(Page { items: rows.into_iter().map(NotedChange::from).collect(), next }))
}

/// Everything that was changed in the house, newest first.
#[utoipa::path(get, path = "/api/changes", params(Asked), responses(
    (status = 200, body = Page<NotedChange>), (status = 403, body = Problem)))]
async fn of_house(
    State(state): State<AppState>,
    _: Entitled<Housekeeping>,
    QueryString(asked): QueryString<Asked>,
) -> Result<Json<Page<NotedChange>>, ApiError> {
    page(&state, asked.of()).await
}

/// The same as a file: CSV (RFC 4180).
#[utoipa::path(get, path = "/api/changes.csv", params(Asked), responses(
    (status = 200, content_type = "text/csv"), (status = 403, body = Problem)))]
async fn file(
    State(state): State<AppState>,
    _: Entitled<Housekeeping>,
    QueryString(asked): QueryString<Asked>,
) -> Result<Response, ApiError> {
    let rows = state.store.changes(asked.of(), MOST_IN_FILE).await?;
    let lines = rows.into_iter().map(NotedChange::from).map(|row| {
        let at = row.at.to_rfc3339();
        [
            at,
            row.person.unwrap_or_default(),
            row.says,
            row.client.unwrap_or_default(),
            row.garment.unwrap_or_default(),
        ]
    });
    let text = yardwand_paper::tables::csv_file(["when", "who", "what", "client", "garment"], lines);
    Ok(attached("text/csv; charset=utf-8; header=present", "changes.csv", text))
}

/// Who changed what of one client: her entry, readings, garments, everything.
#[utoipa::path(get, path = "/api/clients/{id}/changes", params(Asked), responses(
    (status = 200, body = Page<NotedChange>)))]
async fn of_client(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    QueryString(asked): QueryString<Asked>,
) -> Result<Json<Page<NotedChange>>, ApiError> {
    page(&state, ChangesOf { client: Some(id), ..asked.of() }).await
}

/// Who changed what of one garment: its dates, its pattern, its rounds.
#[utoipa::path(get, path = "/api/orders/{id}/changes", params(Asked), responses(
    (status = 200, body = Page<NotedChange>)))]
async fn of_order(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    QueryString(asked): QueryString<Asked>,
) -> Result<Json<Page<NotedChange>>, ApiError> {
    page(&state, ChangesOf { order: Some(id), ..asked.of() }).await
}
