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

macro_rules! things {
    ($($thing:ident: $table:literal, $name:literal, $many:literal;)+) => {
        /// What is changed, as a person calls it.
        #[derive(Clone, Copy, Deserialize, Serialize, ToSchema)]
        #[serde(rename_all = "snake_case")]
        enum ChangedThing {
            $($thing,)+
        }

        /// Each with its table, its name in a sentence, and the name of all of them.
        const THINGS: &[(ChangedThing, &str, &str, &str)] =
            &[$((ChangedThing::$thing, $table, $name, $many),)+];

        impl ChangedThing {
            const fn table(self) -> &'static str {
                match self {
                    $(Self::$thing => $table,)+
                }
            }
        }
    };
}

things! {
    Client: "clients", "client", "Clients";
    Consent: "consents", "consent", "Consents";
    Note: "client_notes", "note", "Notes";
    Away: "away_days", "days away", "Days away";
    Session: "sessions", "measuring session", "Measuring sessions";
    Reading: "readings", "reading", "Readings";
    Garment: "orders", "garment", "Garments and dates";
    Pattern: "patterns", "pattern", "Patterns";
    Version: "pattern_versions", "version of the pattern", "Versions";
    Round: "rounds", "fitting round", "Fitting rounds";
    Observation: "observations", "observation in fitting round", "Observations";
    Photograph: "photographs", "photograph", "Photographs";
    Block: "blocks", "block", "Blocks";
    Drape: "drapes", "drape or paper pattern", "Drapes and paper patterns";
    Form: "forms", "form", "Forms";
    Set: "measurement_sets", "measurement set", "Measurement sets";
    Shelf: "shelves", "way of drafting", "Ways of drafting";
    Import: "imports", "file brought in", "Files brought in";
    Person: "people", "person of the house", "People";
    House: "house", "house", "The house";
}

/// A kind of thing that changes can be asked of.
#[derive(Serialize, ToSchema)]
struct ThingView {
    thing: ChangedThing,
    name: &'static str,
}

/// A page of everything that was changed in the house.
#[derive(Serialize, ToSchema)]
struct HouseChanges {
    /// What can be asked of.
    things: Vec<ThingView>,
    page: Page<NotedChange>,
}

impl From<Change> for NotedChange {
    fn from(row: Change) -> Self {
        let thing = THINGS.iter().find(|(_, table, ..)| *table == row.of_table);
        let name = thing.map_or("something", |(_, _, name, _)| name);
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

async fn page(state: &AppState, of: ChangesOf<'_>) -> Result<Page<NotedChange>, ApiError> {
    let rows = state.store.changes(of, PAGE).await?;
    let full = rows.len() == PAGE as usize;
    let next = rows.last().filter(|_| full).map(|last| last.id.to_string());
    Ok(Page { items: rows.into_iter().map(NotedChange::from).collect(), next })
}

/// Everything that was changed in the house, newest first.
#[utoipa::path(get, path = "/api/changes", params(Asked), responses(
    (status = 200, body = HouseChanges), (status = 403, body = Problem)))]
async fn of_house(
    State(state): State<AppState>,
    _: Entitled<Housekeeping>,
    QueryString(asked): QueryString<Asked>,
) -> Result<Json<HouseChanges>, ApiError> {
    let things = { THINGS.iter() }.map(|(thing, _, _, name)| ThingView { thing: *thing, name }).collect();
    Ok(Json(HouseChanges { things, page: page(&state, asked.of()).await? }))
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
    Ok(Json(page(&state, ChangesOf { client: Some(id), ..asked.of() }).await?))
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
    Ok(Json(page(&state, ChangesOf { order: Some(id), ..asked.of() }).await?))
}
