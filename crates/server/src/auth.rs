//! Signing in and out, and who is asking.

use std::fmt;
use std::net::{IpAddr, Ipv6Addr, SocketAddr};
use std::sync::Arc;

use argon2::password_hash::rand_core::{OsRng, RngCore};
use axum::extract::{ConnectInfo, FromRequestParts, Request, State};
use axum::http::request::Parts;
use axum::http::{HeaderMap, HeaderValue, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{AppendHeaders, IntoResponse, Response};
use chrono::TimeDelta;
use serde::{Deserialize, Serialize};
use sha2::{Digest, Sha256};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::{Attempt, Person, Right, Store};

use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::JsonBody;
use crate::passwords::Passwords;
use crate::rights::{RightName, RoleName};
use crate::second_factor::is_used_up;
use crate::telling::Asker;

/// The cookie of a sign-in.
pub(crate) const COOKIE: &str = "yardwand_sign_in";
/// The cookie by which a device is known that somebody has signed in on.
const DEVICE: &str = "yardwand_device";
/// A device is known for so long after its last sign-in.
const KNOWN_FOR: TimeDelta = TimeDelta::days(400);
/// Wrong passwords in a quarter of an hour before the next has to wait: of one person, and from one place for all persons.
const MOST_ATTEMPTS: i64 = 5;
const MOST_FROM_A_PLACE: i64 = 30;
/// Clients' stories that are read from one place in a quarter of an hour before the next has to wait.
const MOST_STORIES: i64 = 120;
/// Nobody has an address longer than this, in characters.
const LONGEST_ADDRESS: usize = 254;

/// Somebody signed in. 401 without.
pub(crate) struct SignedIn(pub(crate) Person);

/// The same, with the hash of the token they signed in by.
pub(crate) struct SignedInBy(pub(crate) [u8; 32]);

impl FromRequestParts<AppState> for SignedIn {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let token = token_of(&parts.headers, state).ok_or(ApiError::SignedOut)?;
        let person = state.store.signed_in(&hashed(token)).await?.ok_or(ApiError::SignedOut)?;
        if let Some(asker) = parts.extensions.get::<Asker>() {
            asker.is(person.id);
        }
        Ok(Self(person))
    }
}

impl FromRequestParts<AppState> for SignedInBy {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        SignedIn::from_request_parts(parts, state).await?;
        Ok(Self(hashed(token_of(&parts.headers, state).ok_or(ApiError::SignedOut)?)))
    }
}

#[derive(Deserialize, ToSchema)]
struct SignIn {
    email: String,
    password: String,
    /// Of somebody who has set up a second step: the app's six digits, or a code on paper.
    #[serde(default)]
    code: Option<String>,
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
    ConnectInfo(peer): ConnectInfo<SocketAddr>,
    headers: HeaderMap,
    JsonBody(wanted): JsonBody<SignIn>,
) -> Result<Response, ApiError> {
    let email = wanted.email.trim().to_lowercase();
    if email.chars().count() > LONGEST_ADDRESS {
        return Err(ApiError::WrongPassword);
    }
    let counts = counts(&state, &headers, peer, &email).await?;
    let attempts = Attempts::begun(&state.store, &counts).await?;
    let known = state.store.person_by_email(&email).await?;
    let hash = known.as_ref().map(|(_, hash)| hash.clone());
    let fits = attempts.fits(&state.passwords, wanted.password, hash).await?;
    let Some((person, _)) = known.filter(|_| fits) else { return Err(ApiError::WrongPassword) };
    if let Some(factor) = state.store.second_factor(person.id).await? {
        // The password was hers, and nothing was tried yet.
        let Some(code) = wanted.code else {
            attempts.taken_back().await?;
            return Err(ApiError::CodeWanted);
        };
        // A wrong code stays an attempt, as a wrong password does.
        if !is_used_up(&state.store, person.id, &factor, &code).await? {
            return Err(ApiError::WrongCode);
        }
    }
    attempts.were_good().await?;
    signed_in(&state, &headers, person).await
}

/// What an attempt counts for.
pub(crate) enum Counts<'a> {
    /// Somebody on a device where they have signed in before, by the hash of its token.
    Device([u8; 32], &'a str),
    /// A place, for everybody who is tried from there.
    Place(IpAddr),
    /// An address to sign in with, from a device that is not known.
    Address(&'a str),
    /// Somebody who is signed in, by their number.
    Person(u64),
    /// A place from which clients' stories are read by their links.
    Story(IpAddr),
}

impl Counts<'_> {
    /// How many go freely.
    const fn freely(&self) -> i64 {
        match self {
            Self::Place(_) => MOST_FROM_A_PLACE,
            Self::Story(_) => MOST_STORIES,
            Self::Device(..) | Self::Address(_) | Self::Person(_) => MOST_ATTEMPTS,
        }
    }
}

/// Its name in the database. Each kind has a word of its own in front: an address is anything that was typed.
impl fmt::Display for Counts<'_> {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Device(token, email) => {
                let (short, _) = token.split_at(12);
                write!(f, "device {} {email}", hex::encode(short))
            }
            Self::Place(place) => write!(f, "place {place}"),
            Self::Address(email) => write!(f, "address {email}"),
            Self::Person(id) => write!(f, "person {id}"),
            Self::Story(place) => write!(f, "story {place}"),
        }
    }
}

/// What an attempt to sign in counts for: on a device where this person has signed in before for that device alone, so that
/// nobody elsewhere can keep her out; otherwise for the place it comes from and for the person.
async fn counts<'a>(
    state: &AppState,
    headers: &HeaderMap,
    peer: SocketAddr,
    email: &'a str,
) -> Result<Vec<Counts<'a>>, ApiError> {
    if let Some(token) = cookie_named(headers, DEVICE, state).map(hashed)
        && state.store.knows_device(&token, Some(email)).await?
    {
        return Ok(vec![Counts::Device(token, email)]);
    }
    // The place first: who has to wait there must not make her wait who is tried.
    Ok(vec![Counts::Place(state.proxies.place(headers, peer)), Counts::Address(email)])
}

/// Proxies that are believed where a request comes from: those on this machine, and these.
#[derive(Clone, Debug, Default)]
pub struct Proxies(pub Arc<[IpAddr]>);

impl Proxies {
    /// Where a request comes from. A proxy says it in the last entry of its header; the network of an IPv6 address counts as one place.
    pub(crate) fn place(&self, headers: &HeaderMap, peer: SocketAddr) -> IpAddr {
        let peer = peer.ip().to_canonical();
        let told =
            headers.get_all("x-forwarded-for").iter().next_back().and_then(|value| value.to_str().ok());
        let told = told.and_then(|list| list.rsplit(',').next()?.trim().parse().ok());
        match told.filter(|_| peer.is_loopback() || self.0.contains(&peer)).unwrap_or(peer) {
            IpAddr::V6(address) => {
                let [a, b, c, d, ..] = address.segments();
                IpAddr::V6(Ipv6Addr::new(a, b, c, d, 0, 0, 0, 0))
            }
            address @ IpAddr::V4(_) => address,
        }
    }
}

/// Attempts that were begun together: of one, as it counts for place and person, in this order.
pub(crate) struct Attempts<'a> {
    store: &'a Store,
    under: Vec<String>,
}

impl<'a> Attempts<'a> {
    /// Begins an attempt under each of these. 429 where one has to wait; then none is kept.
    pub(crate) async fn begun(store: &'a Store, all: &[Counts<'_>]) -> Result<Self, ApiError> {
        let mut begun = Self { store, under: Vec::new() };
        for counts in all {
            let of = counts.to_string();
            match store.attempt(&of, counts.freely()).await? {
                Attempt::Goes => begun.under.push(of),
                Attempt::Waits { seconds } => {
                    begun.taken_back().await?;
                    return Err(ApiError::Throttled { seconds });
                }
            }
        }
        Ok(begun)
    }

    /// Whether the password is the one of this hash. A right one forgets this person's attempts.
    pub(crate) async fn prove(
        self,
        passwords: &Passwords,
        password: String,
        hash: Option<String>,
    ) -> Result<bool, ApiError> {
        let fits = self.fits(passwords, password, hash).await?;
        if fits {
            self.were_good().await?;
        }
        Ok(fits)
    }

    /// Whether the password is the one of this hash. One that was never looked at is no attempt.
    async fn fits(
        &self,
        passwords: &Passwords,
        password: String,
        hash: Option<String>,
    ) -> Result<bool, ApiError> {
        let fits = passwords.fits(password, hash).await;
        if fits.is_err() {
            self.taken_back().await?;
        }
        fits
    }

    async fn taken_back(&self) -> Result<(), ApiError> {
        for of in &self.under {
            self.store.take_back_attempt(of).await?;
        }
        Ok(())
    }

    /// From the same place other persons may have been tried: those still count.
    async fn were_good(&self) -> Result<(), ApiError> {
        if let Some(of) = self.under.last() {
            self.store.forget_attempts(of).await?;
        }
        self.taken_back().await
    }
}

/// Begins a sign-in of somebody who has proved who it is.
pub(crate) async fn signed_in(
    state: &AppState,
    headers: &HeaderMap,
    person: Person,
) -> Result<Response, ApiError> {
    let token = new_token();
    state.store.sign_in(&hashed(&token), person.id, &device(headers)).await?;
    // A token that nobody has signed in with is somebody else's idea.
    let known = match cookie_named(headers, DEVICE, state) {
        Some(told) if state.store.knows_device(&hashed(told), None).await? => told.to_owned(),
        _ => new_token(),
    };
    state.store.know_device(&hashed(&known), person.id).await?;
    let cookies = [(COOKIE, &token, Store::SIGN_IN_LASTS), (DEVICE, &known, KNOWN_FOR)]
        .map(|(name, value, lasts)| (header::SET_COOKIE, cookie(name, value, lasts, state)));
    Ok((AppendHeaders(cookies), axum::Json(Me::from(person))).into_response())
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
    if let Some(token) = token_of(&headers, &state) {
        state.store.sign_out(&hashed(token)).await?;
    }
    let gone = cookie(COOKIE, "", TimeDelta::zero(), &state);
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
    hex::encode(bytes)
}

pub(crate) fn hashed(token: &str) -> [u8; 32] {
    Sha256::digest(token.as_bytes()).into()
}

/// The token of a sign-in.
pub(crate) fn token_of<'a>(headers: &'a HeaderMap, state: &AppState) -> Option<&'a str> {
    cookie_named(headers, COOKIE, state)
}

/// In front of the name of a cookie that only this very address can have set, over HTTPS (RFC 6265bis, 4.1.3.2).
const HOSTS_OWN: &str = "__Host-";

fn cookie_named<'a>(headers: &'a HeaderMap, wanted: &str, state: &AppState) -> Option<&'a str> {
    let cookies = headers.get_all(header::COOKIE).iter().filter_map(|value| value.to_str().ok());
    cookies.flat_map(|line| line.split(';')).find_map(|pair| {
        let (name, value) = pair.trim().split_once('=')?;
        let name = if state.secure_cookies { name.strip_prefix(HOSTS_OWN)? } else { name };
        (name == wanted && !value.is_empty()).then_some(value)
    })
}

fn cookie(name: &str, value: &str, lasts: TimeDelta, state: &AppState) -> HeaderValue {
    let (front, back) = if state.secure_cookies { (HOSTS_OWN, "; Secure") } else { ("", "") };
    let seconds = lasts.num_seconds();
    let text = format!("{front}{name}={value}; Path=/; HttpOnly; SameSite=Strict; Max-Age={seconds}{back}");
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

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_place_is_the_peer_or_what_a_proxy_says_that_is_believed() {
        let proxies = Proxies(Arc::new(["10.0.0.10".parse().unwrap()]));
        let from = |peer: &str, told: &[&'static str]| {
            let told = told.iter().map(|each| HeaderValue::from_static(each));
            let headers: HeaderMap =
                told.map(|value| (axum::http::HeaderName::from_static("x-forwarded-for"), value)).collect();
            proxies.place(&headers, SocketAddr::new(peer.parse().unwrap(), 4000)).to_string()
        };
        assert_eq!(from("192.0.2.7", &[]), "192.0.2.7");
        assert_eq!(from("::ffff:192.0.2.7", &[]), "192.0.2.7", "the same, written otherwise");
        assert_eq!(from("192.0.2.7", &["198.51.100.1"]), "192.0.2.7", "anybody may claim that");
        assert_eq!(
            from("127.0.0.1", &["203.0.113.9, 198.51.100.1"]),
            "198.51.100.1",
            "the proxy's own word is the last"
        );
        assert_eq!(from("127.0.0.1", &["203.0.113.9", "198.51.100.2"]), "198.51.100.2");
        assert_eq!(from("127.0.0.1", &["nonsense"]), "127.0.0.1");
        assert_eq!(
            from("10.0.0.10", &["198.51.100.3"]),
            "198.51.100.3",
            "the house's own, on another machine"
        );
        assert_eq!(from("2001:db8:1:2:3:4:5:6", &[]), "2001:db8:1:2::", "one network, one place");
    }
}
