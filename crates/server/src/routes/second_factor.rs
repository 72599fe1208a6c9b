//! `/api/me/second-factor`: the second step of one's own sign-in. It is set up with an app that shows the right code once, and
//! taken away with the password; the owner can take it away from somebody who has lost app and paper.

use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::Person;

use crate::AppState;
use crate::auth::{Attempts, Counts, SignedIn, hashed, token_of};
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::rights::Housekeeping;
use crate::second_factor::{SharedKey, Squares, on_paper};

#[derive(Serialize, ToSchema)]
struct SecondFactorView {
    /// None where the password is enough.
    since: Option<DateTime<Utc>>,
    /// Codes on paper that were not used yet.
    recovery_codes: u32,
}

/// What an app is set up with.
#[derive(Serialize, ToSchema)]
struct KeyView {
    /// In base 32, in groups of four.
    key: String,
    /// The same as an address, which the picture holds.
    address: String,
    /// So many squares high and wide.
    size: i32,
    /// The dark squares of the picture, as a path.
    squares: String,
}

#[derive(Deserialize, ToSchema)]
struct SecondFactorEntry {
    /// As it was shown.
    key: String,
    /// What the app shows now.
    code: String,
    /// The one that is signed in with.
    password: String,
}

/// Codes for the day the app is lost. Shown once.
#[derive(Serialize, ToSchema)]
struct OnPaper {
    codes: Vec<String>,
}

#[derive(Deserialize, ToSchema)]
struct PasswordProof {
    password: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(look, set_up))
        .routes(routes!(key))
        .routes(routes!(take_away))
        .routes(routes!(take_away_from))
}

/// Whether one needs a code oneself, and how many are left on paper.
#[utoipa::path(get, path = "/api/me/second-factor", responses((status = 200, body = SecondFactorView)))]
async fn look(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
) -> Result<Json<SecondFactorView>, ApiError> {
    let factor = state.store.second_factor(person.id).await?;
    Ok(Json(SecondFactorView {
        since: factor.as_ref().map(|factor| factor.since),
        recovery_codes: factor.map_or(0, |factor| factor.recovery_codes),
    }))
}

/// A new key to set an app up with. Nothing is kept until the app has shown a code of it.
#[utoipa::path(post, path = "/api/me/second-factor/key", responses((status = 200, body = KeyView)))]
async fn key(State(state): State<AppState>, SignedIn(person): SignedIn) -> Result<Json<KeyView>, ApiError> {
    let key = SharedKey::new();
    let address = key.address(&state.store.house().await?.name, &person.name);
    let Squares { size, path } = Squares::of(&address);
    Ok(Json(KeyView { key: key.in_groups(), address, size, squares: path }))
}

/// Sets it up: with a key whose code the app shows. Every other sign-in ends, and so does an app that was set up before.
#[utoipa::path(put, path = "/api/me/second-factor", request_body = SecondFactorEntry, responses(
    (status = 200, body = OnPaper), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn set_up(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    headers: HeaderMap,
    JsonBody(entry): JsonBody<SecondFactorEntry>,
) -> Result<Json<OnPaper>, ApiError> {
    let key = SharedKey::typed(&entry.key)
        .ok_or_else(|| ApiError::field("/key", "this is no key of this house: ask for a new one"))?;
    let other = "the app shows another code for this key: see that the telephone's clock is right, and type the next one";
    let step = key.step_of(&entry.code).ok_or_else(|| ApiError::field("/code", other))?;
    prove(&state, &person, entry.password).await?;
    let (codes, kept) = on_paper(&key);
    let this = hashed(token_of(&headers, &state).unwrap_or_default());
    state.store.begin_second_factor(person.id, (key.bytes(), step), &kept, &this).await?;
    Ok(Json(OnPaper { codes }))
}

/// From now on one's password is enough again.
#[utoipa::path(post, path = "/api/me/second-factor/off", request_body = PasswordProof, responses(
    (status = 204), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn take_away(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    JsonBody(proof): JsonBody<PasswordProof>,
) -> Result<StatusCode, ApiError> {
    prove(&state, &person, proof.password).await?;
    state.store.end_second_factor(person.id, person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// From now on somebody's password is enough again, who has lost the app and the codes on paper.
#[utoipa::path(post, path = "/api/people/{id}/second-factor/off", responses((status = 204), (status = 404, body = Problem)))]
async fn take_away_from(
    State(state): State<AppState>,
    writer: Writer<Housekeeping>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    if state.store.end_second_factor(id, writer.person.id).await? {
        Ok(StatusCode::NO_CONTENT)
    } else {
        Err(ApiError::NotFound("nobody of this number signs in with a code".to_owned()))
    }
}

/// Whoever finds an open screen may neither set up an app of his own nor take one away.
async fn prove(state: &AppState, person: &Person, password: String) -> Result<(), ApiError> {
    let attempts = Attempts::begun(&state.store, &[Counts::Person(person.id)]).await?;
    let held = state.store.password_hash(person.id).await?;
    if attempts.prove(&state.passwords, password, Some(held)).await? {
        Ok(())
    } else {
        Err(ApiError::field("/password", "this is not the password you sign in with"))
    }
}
