//! `/api/people`: who works in the house and may what; how each comes in, and one's own sign-ins.

use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use axum::response::{IntoResponse, Response};
use chrono::{DateTime, TimeDelta, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::PersonRow;

use crate::AppState;
use crate::auth::{Attempts, Counts, SignedIn, hashed, new_token, signed_in, token_of};
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, Id, InPath, JsonBody, Writer};
use crate::passwords::can_be_chosen;
use crate::rights::{Housekeeping, RoleName, RoleView, roles};
use crate::views::{Based, email, words};

/// A link by which somebody comes in lasts so long.
const LINK_LASTS: TimeDelta = TimeDelta::days(7);

#[derive(Serialize, ToSchema)]
struct HousePerson {
    id: u64,
    name: String,
    email: String,
    role: RoleName,
    /// Since when the person has left.
    left_at: Option<DateTime<Utc>>,
    /// A link was made and not used yet; it lasts until then.
    asked_in_until: Option<DateTime<Utc>>,
    /// Signs in with a code as well.
    second_factor: bool,
    revision: u32,
}

impl From<PersonRow> for HousePerson {
    fn from(row: PersonRow) -> Self {
        let PersonRow { id, name, email, role, left_at, asked_in_until, second_factor, revision } = row;
        Self { id, name, email, role: role.into(), left_at, asked_in_until, second_factor, revision }
    }
}

/// Everybody, and the roles that can be given.
#[derive(Serialize, ToSchema)]
struct HousePeople {
    people: Vec<HousePerson>,
    roles: Vec<RoleView>,
}

#[derive(Deserialize, ToSchema)]
struct PersonEntry {
    name: String,
    email: String,
    role: RoleName,
}

/// Somebody goes, as they were seen.
#[derive(Deserialize, ToSchema)]
struct Leaving {
    revision: u32,
}

#[derive(Serialize, ToSchema)]
struct EntryLink {
    person_id: u64,
    /// What follows the house's address. Shown once: the person opens it and chooses a password.
    path: String,
    until: DateTime<Utc>,
}

/// Whom a link asks in.
#[derive(Serialize, ToSchema)]
struct Welcome {
    house: String,
    name: String,
    /// With the password of their own they then sign in as ever, and with a code.
    second_factor: bool,
}

#[derive(Deserialize, ToSchema)]
struct OwnPassword {
    password: String,
}

#[derive(Deserialize, ToSchema)]
struct PasswordChange {
    /// The one that holds now.
    now: String,
    /// The one that is to hold.
    password: String,
}

#[derive(Serialize, ToSchema)]
struct SignInView {
    id: u64,
    /// Such as `Firefox on Linux`; empty where the browser said nothing.
    device: String,
    since: DateTime<Utc>,
    /// The one that asks.
    is_this: bool,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list, ask_in))
        .routes(routes!(change))
        .routes(routes!(leave))
        .routes(routes!(ask_in_again))
        .routes(routes!(welcome, come_in))
        .routes(routes!(change_password))
        .routes(routes!(sign_ins))
        .routes(routes!(end_sign_in))
}

/// Everybody of the house. Only the owner sees addresses and roles.
#[utoipa::path(get, path = "/api/people", responses(
    (status = 200, body = HousePeople), (status = 403, body = Problem)))]
async fn list(
    State(state): State<AppState>,
    _: Entitled<Housekeeping>,
) -> Result<Json<HousePeople>, ApiError> {
    let people = state.store.people().await?.into_iter().map(HousePerson::from).collect();
    Ok(Json(HousePeople { people, roles: roles() }))
}

/// Asks somebody in, by a link that is passed on by hand.
#[utoipa::path(post, path = "/api/people", request_body = PersonEntry, responses(
    (status = 201, body = EntryLink), (status = 409, body = Problem), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn ask_in(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    JsonBody(entry): JsonBody<PersonEntry>,
) -> Result<(StatusCode, Json<EntryLink>), ApiError> {
    let (name, email) = checked(&entry)?;
    let (token, until) = (new_token(), Utc::now() + LINK_LASTS);
    // Until the link is used the password is one that nobody has.
    let nobodys = state.passwords.hash(new_token()).await?;
    let link = (&hashed(&token), until);
    let id = state.store.ask_in(&name, &email, entry.role.into(), &nobodys, link, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(entry_link(id, &token, until))))
}

/// Changes name, address and role. The only owner stays one.
#[utoipa::path(put, path = "/api/people/{id}", request_body = Based<PersonEntry>, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<PersonEntry>>,
) -> Result<StatusCode, ApiError> {
    let Based { revision, change: entry } = based;
    let (name, email) = checked(&entry)?;
    let changed =
        state.store.change_person(id, &name, &email, entry.role.into(), revision, writer.person.id).await;
    as_it_is_now(&state, id, changed).await
}

/// Lets somebody go: every sign-in ends at once, and what was measured and cut stays under the name.
#[utoipa::path(post, path = "/api/people/{id}/leave", request_body = Leaving, responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn leave(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    Id(id): Id,
    JsonBody(Leaving { revision }): JsonBody<Leaving>,
) -> Result<StatusCode, ApiError> {
    let left = state.store.leave(id, revision, writer.person.id).await;
    as_it_is_now(&state, id, left).await
}

/// A new link: for a lost password, or for somebody who comes back. Earlier links end.
#[utoipa::path(post, path = "/api/people/{id}/link", responses(
    (status = 201, body = EntryLink), (status = 404, body = Problem)))]
async fn ask_in_again(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    Id(id): Id,
) -> Result<(StatusCode, Json<EntryLink>), ApiError> {
    let (token, until) = (new_token(), Utc::now() + LINK_LASTS);
    state.store.ask_in_again(id, (&hashed(&token), until), writer.person.id).await?;
    Ok((StatusCode::CREATED, Json(entry_link(id, &token, until))))
}

/// Whom a link asks in. Nobody has to be signed in.
#[utoipa::path(get, path = "/api/entry/{token}", security(()),
    params(("token" = String, Path, description = "From the link.")), responses(
    (status = 200, body = Welcome), (status = 404, body = Problem)))]
async fn welcome(
    State(state): State<AppState>,
    InPath(token): InPath<String>,
) -> Result<Json<Welcome>, ApiError> {
    let person = state.store.asked_in(&hashed(&token)).await?.ok_or_else(ended)?;
    let second_factor = state.store.second_factor(person.id).await?.is_some();
    Ok(Json(Welcome { house: state.store.house().await?.name, name: person.name, second_factor }))
}

/// Comes in by a link with a password of one's own, and is signed in. The link ends, and every earlier sign-in. Whoever has
/// set up a second step is not signed in by the link alone: 204.
#[utoipa::path(post, path = "/api/entry/{token}", security(()),
    params(("token" = String, Path, description = "From the link.")), request_body = OwnPassword, responses(
    (status = 200, body = crate::auth::Me), (status = 204), (status = 404, body = Problem), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn come_in(
    State(state): State<AppState>,
    headers: HeaderMap,
    InPath(token): InPath<String>,
    JsonBody(OwnPassword { password }): JsonBody<OwnPassword>,
) -> Result<Response, ApiError> {
    let token = hashed(&token);
    let asked = state.store.asked_in(&token).await?.ok_or_else(ended)?;
    let house = state.store.house().await?.name;
    let password = state.passwords.hash(good(password, &[&asked.name, &house])?).await?;
    let person = state.store.come_in(&token, &password).await?.ok_or_else(ended)?;
    if state.store.second_factor(person.id).await?.is_some() {
        return Ok(StatusCode::NO_CONTENT.into_response());
    }
    signed_in(&state, &headers, person).await
}

/// One's own password. Every other sign-in ends.
#[utoipa::path(put, path = "/api/me/password", request_body = PasswordChange, responses(
    (status = 204), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn change_password(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    headers: HeaderMap,
    JsonBody(change): JsonBody<PasswordChange>,
) -> Result<StatusCode, ApiError> {
    // Whoever finds an open screen may not try passwords at it either.
    let password = good(change.password, &[&person.name, &state.store.house().await?.name])?;
    let attempts = Attempts::begun(&state.store, &[Counts::Person(person.id)]).await?;
    let held = state.store.password_hash(person.id).await?;
    if !attempts.prove(&state.passwords, change.now, Some(held)).await? {
        return Err(ApiError::field("/now", "this is not the password you sign in with"));
    }
    let this = hashed(token_of(&headers, &state).unwrap_or_default());
    state.store.change_password(person.id, &state.passwords.hash(password).await?, &this).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Where one is signed in oneself.
#[utoipa::path(get, path = "/api/me/sign-ins", responses((status = 200, body = Vec<SignInView>)))]
async fn sign_ins(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    headers: HeaderMap,
) -> Result<Json<Vec<SignInView>>, ApiError> {
    let this = hashed(token_of(&headers, &state).unwrap_or_default());
    let rows = state.store.sign_ins_of(person.id, &this).await?;
    let view = |row: yardwand_store::SignInRow| SignInView {
        id: row.id,
        device: row.device,
        since: row.since,
        is_this: row.is_this,
    };
    Ok(Json(rows.into_iter().map(view).collect()))
}

/// Ends a sign-in of one's own, on another device.
#[utoipa::path(delete, path = "/api/me/sign-ins/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn end_sign_in(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.end_sign_in(id, person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

fn entry_link(person_id: u64, token: &str, until: DateTime<Utc>) -> EntryLink {
    EntryLink { person_id, path: format!("/welcome/{token}"), until }
}

fn ended() -> ApiError {
    ApiError::NotFound("this link was used already or has ended: ask the owner for a new one".to_owned())
}

/// Name and address as they are kept.
fn checked(entry: &PersonEntry) -> Result<(String, String), ApiError> {
    let name = words("/name", "The name", &entry.name, 120)?;
    Ok((name, email("/email", &entry.email)?))
}

/// A password that this person can choose.
fn good(password: String, own: &[&str]) -> Result<String, ApiError> {
    match can_be_chosen(&password, own) {
        Ok(()) => Ok(password),
        Err(says) => Err(ApiError::field("/password", says)),
    }
}

/// A change that came too late is answered with the person as they are now.
async fn as_it_is_now(
    state: &AppState,
    id: u64,
    changed: Result<(), yardwand_store::StoreError>,
) -> Result<StatusCode, ApiError> {
    match changed {
        Ok(()) => Ok(StatusCode::NO_CONTENT),
        Err(error) => {
            let people = state.store.people().await?;
            let current = people.into_iter().find(|row| row.id == id).map(HousePerson::from);
            Err(ApiError::from(error).with_current(current))
        }
    }
}
