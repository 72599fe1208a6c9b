//! Signing in and out, and who is asking.

use argon2::password_hash::rand_core::{OsRng, RngCore};
use axum::extract::{FromRequestParts, Request, State};
use axum::http::request::Parts;
use axum::http::{HeaderMap, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use chrono::{TimeDelta, Utc};
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::{Person, Right};

use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::JsonBody;
use crate::rights::{RightName, RoleName};

/// The cookie of a sign-in.
pub(crate) const COOKIE: &str = "yardwand_sign_in";
/// A sign-in lasts this long.
const LASTS: TimeDelta = TimeDelta::days(14);
/// Wrong passwords in a quarter of an hour before an address has to wait.
pub(crate) const MOST_ATTEMPTS: i64 = 5;

/// Somebody signed in. 401 without.
pub(crate) struct SignedIn(pub(crate) Person);

/// The same, with the hash of the token they signed in by.
pub(crate) struct SignedInBy(pub(crate) [u8; 32]);

impl FromRequestParts<AppState> for SignedIn {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let token = token_of(&parts.headers).ok_or(ApiError::SignedOut)?;
        let person = state.store.signed_in(&hashed(token)).await?;
        person.map(Self).ok_or(ApiError::SignedOut)
    }
}

impl FromRequestParts<AppState> for SignedInBy {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        SignedIn::from_request_parts(parts, state).await?;
        Ok(Self(hashed(token_of(&parts.headers).ok_or(ApiError::SignedOut)?)))
    }
}

#[derive(Deserialize, ToSchema)]
struct SignIn {
    email: String,
    password: String,
}

/// Who is signed in.
#[derive(Serialize, ToSchema)]
pub(crate) struct Me {
    id: u64,
    name: String,
    role: RoleName,
    /// What this sign-in may change.
    may: Vec<RightName>,
}

impl From<Person> for Me {
    fn from(person: Person) -> Self {
        let may =
            Right::ALL.into_iter().filter(|right| person.role.may(*right)).map(RightName::from).collect();
        Self { id: person.id, name: person.name, role: person.role.into(), may }
    }
}

/// Routes of this module.
pub(crate) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(sign_in)).routes(routes!(sign_out)).routes(routes!(me))
}

/// Signs in: sets an HttpOnly cookie.
#[utoipa::path(post, path = "/api/sign-in", security(()), request_body = SignIn, responses(
    (status = 200, body = Me), (status = 401, body = Problem), (status = 429, body = Problem)))]
async fn sign_in(
    State(state): State<AppState>,
    headers: HeaderMap,
    JsonBody(wanted): JsonBody<SignIn>,
) -> Result<Response, ApiError> {
    let email = wanted.email.trim().to_lowercase();
    if state.store.failed_attempts(&email, false).await? >= MOST_ATTEMPTS {
        return Err(ApiError::Throttled);
    }
    let known = state.store.person_by_email(&email).await?;
    let hash = known.as_ref().map(|(_, hash)| hash.clone());
    let fits = state.passwords.fits(wanted.password, hash).await?;
    let Some((person, _)) = known.filter(|_| fits) else {
        state.store.failed_attempts(&email, true).await?;
        return Err(ApiError::WrongPassword);
    };
    state.store.forget_attempts(&email).await?;
    signed_in(&state, &headers, person).await
}

/// Begins a sign-in of somebody who has proved who it is.
pub(crate) async fn signed_in(
    state: &AppState,
    headers: &HeaderMap,
    person: Person,
) -> Result<Response, ApiError> {
    let token = new_token();
    state.store.sign_in(&hashed(&token), person.id, &device(headers), Utc::now() + LASTS).await?;
    let cookie = cookie(&token, LASTS.num_seconds(), state.secure_cookies);
    Ok(([(header::SET_COOKIE, cookie)], axum::Json(Me::from(person))).into_response())
}

/// The browser and the machine in plain words, as far as the request says them.
fn device(headers: &HeaderMap) -> String {
    let said = headers.get(header::USER_AGENT).and_then(|said| said.to_str().ok()).unwrap_or_default();
    // Each says the names of those it came after: the later ones first.
    let named = |names: &[(&str, &'static str)]| {
        names.iter().find(|(sign, _)| said.contains(sign)).map(|(_, name)| *name)
    };
    let browser =
        named(&[("Firefox/", "Firefox"), ("Edg", "Edge"), ("Chrom", "Chrome"), ("Safari/", "Safari")]);
    let machine = named(&[
        ("iPhone", "an iPhone"),
        ("iPad", "an iPad"),
        ("Android", "Android"),
        ("Windows", "Windows"),
        ("Mac OS", "a Mac"),
        ("Linux", "Linux"),
    ]);
    match (browser, machine) {
        (Some(browser), Some(machine)) => format!("{browser} on {machine}"),
        (Some(one), None) | (None, Some(one)) => one.to_owned(),
        (None, None) => String::new(),
    }
}

/// Signs out.
#[utoipa::path(post, path = "/api/sign-out", security(()), responses((status = 204)))]
async fn sign_out(State(state): State<AppState>, headers: HeaderMap) -> Result<Response, ApiError> {
    if let Some(token) = token_of(&headers) {
        state.store.sign_out(&hashed(token)).await?;
    }
    let gone = cookie("", 0, state.secure_cookies);
    Ok((StatusCode::NO_CONTENT, [(header::SET_COOKIE, gone)]).into_response())
}

/// Who is signed in.
#[utoipa::path(get, path = "/api/me", responses((status = 200, body = Me), (status = 401, body = Problem)))]
async fn me(SignedIn(person): SignedIn) -> axum::Json<Me> {
    axum::Json(person.into())
}

pub(crate) fn new_token() -> String {
    let mut bytes = [0_u8; 32];
    OsRng.fill_bytes(&mut bytes);
    bytes.iter().map(|byte| format!("{byte:02x}")).collect()
}

pub(crate) fn hashed(token: &str) -> [u8; 32] {
    Sha256::digest(token.as_bytes()).into()
}

pub(crate) fn token_of(headers: &HeaderMap) -> Option<&str> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|value| value.to_str().ok());
    cookies.flat_map(|line| line.split(';')).find_map(|pair| {
        let (name, value) = pair.trim().split_once('=')?;
        (name == COOKIE && !value.is_empty()).then_some(value)
    })
}

fn cookie(token: &str, seconds: i64, secure: bool) -> HeaderValue {
    let secure = if secure { "; Secure" } else { "" };
    let text = format!("{COOKIE}={token}; Path=/; HttpOnly; SameSite=Strict; Max-Age={seconds}{secure}");
    HeaderValue::from_str(&text).unwrap_or(HeaderValue::from_static(""))
}

/// Turns down writes that another site's page sends.
pub(crate) async fn same_origin(request: Request, next: Next) -> Response {
    let reads = matches!(*request.method(), Method::GET | Method::HEAD | Method::OPTIONS);
    let host = request.headers().get(header::HOST).and_then(|h| h.to_str().ok()).unwrap_or_default();
    let origin = request.headers().get(header::ORIGIN).and_then(|o| o.to_str().ok());
    let own = origin.is_none_or(|origin| origin.split_once("://").is_some_and(|(_, at)| at == host));
    if reads || own {
        next.run(request).await
    } else {
        ApiError::Forbidden("this was sent from another site's page".to_owned()).into_response()
    }
}
