//! What a server tells of its requests: who came in, was turned down, carried something out or changed who may what, as lines of the
//! log; how many there were and how long they took, as figures. Neither holds a body, a name, an address or the token of a link.

use std::net::SocketAddr;
use std::sync::{Arc, OnceLock};
use std::time::Instant;

use axum::extract::{ConnectInfo, MatchedPath, Request, State};
use axum::http::{HeaderMap, Method, StatusCode, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use prometheus_client::encoding::EncodeLabelSet;
use prometheus_client::encoding::text::encode;
use prometheus_client::metrics::counter::Counter;
use prometheus_client::metrics::family::Family;
use prometheus_client::metrics::gauge::Gauge;
use prometheus_client::metrics::histogram::Histogram;
use prometheus_client::registry::{Registry, Unit};
use sha2::{Digest, Sha256};

use crate::AppState;
use crate::auth::Proxies;

/// More of an address than this is not written down.
const LONGEST_PATH: usize = 200;

/// Filled in by whoever finds out who is asking.
#[derive(Clone, Default)]
pub(crate) struct Asker(Arc<OnceLock<u64>>);

impl Asker {
    /// It is this person.
    pub(crate) fn is(&self, person: u64) {
        // Found out twice, it is the same one.
        let _ = self.0.set(person);
    }
}

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct Answered {
    method: String,
    route: String,
    status: u16,
}

#[derive(Clone, Debug, Hash, PartialEq, Eq, EncodeLabelSet)]
struct Route {
    route: String,
}

/// The figures of one server since it was started.
#[derive(Clone, Debug)]
pub struct Figures {
    /// Who may read them says this word; without one nobody may.
    word: Option<[u8; 32]>,
    answered: Family<Answered, Counter>,
    seconds: Family<Route, Histogram>,
}

impl Default for Figures {
    fn default() -> Self {
        Self::read_with(None)
    }
}

impl Figures {
    /// Figures that are read by whoever says this word.
    pub fn read_with(word: Option<&str>) -> Self {
        let buckets = || Histogram::new([0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 0.5, 1.0, 2.5, 5.0, 10.0]);
        Self {
            word: word.map(|word| Sha256::digest(word.as_bytes()).into()),
            answered: Family::default(),
            seconds: Family::new_with_constructor(buckets),
        }
    }

    /// Whether these headers say the word. Digests are compared: how long that takes says nothing of it.
    fn may_be_read_by(&self, headers: &HeaderMap) -> bool {
        let said = headers.get(header::AUTHORIZATION).and_then(|said| said.to_str().ok());
        let said = said.and_then(|said| said.strip_prefix("Bearer "));
        let digest = |word: &str| -> [u8; 32] { Sha256::digest(word.as_bytes()).into() };
        self.word.is_some_and(|word| said.map(digest) == Some(word))
    }
}

/// The figures as Prometheus reads them (its text format). 404 for whoever does not say the word, as if there were none.
pub(crate) async fn figures(State(state): State<AppState>, headers: HeaderMap) -> Response {
    if !state.figures.may_be_read_by(&headers) {
        return StatusCode::NOT_FOUND.into_response();
    }
    let mut registry = Registry::with_prefix("yardwand");
    let Figures { answered, seconds, .. } = state.figures.clone();
    registry.register("requests", "Requests that were answered", answered);
    registry.register_with_unit("request", "How long an answer took until it began", Unit::Seconds, seconds);
    let mut gauge = |name: &str, help: &str, value: i64| {
        let gauge: Gauge = Gauge::default();
        gauge.set(value);
        registry.register(name, help, gauge);
    };
    let connections = state.store.connections();
    gauge("database_connections", "Connections to the database", i64::from(connections.open));
    gauge("database_connections_idle", "Those that nobody uses", i64::from(connections.idle));
    gauge("streams", "Pages that listen", state.live.listening());
    // A database that is away is told by the figures that are missing.
    if let Ok(waiting) = state.store.letters_waiting().await {
        gauge("letters_waiting", "Letters that wait to be sent", waiting);
    }
    if let Ok(last) = state.store.last_backup().await {
        let at = last.map_or(0, |last| last.taken_at.timestamp());
        gauge("last_backup_timestamp_seconds", "When the house was backed up last; 0 for never", at);
    }
    let mut text = String::new();
    match encode(&mut text, &registry) {
        Ok(()) => {
            let kind = "application/openmetrics-text; version=1.0.0; charset=utf-8";
            ([(header::CONTENT_TYPE, kind)], text).into_response()
        }
        Err(_) => StatusCode::INTERNAL_SERVER_ERROR.into_response(),
    }
}

/// The middleware.
pub(crate) async fn tell(
    State((figures, proxies)): State<(Figures, Proxies)>,
    mut request: Request,
    next: Next,
) -> Response {
    let begun = Instant::now();
    let asker = Asker::default();
    request.extensions_mut().insert(asker.clone());
    // The pages of the front end are one.
    let route = request.extensions().get::<MatchedPath>().map_or("/", MatchedPath::as_str).to_owned();
    let method = request.method().clone();
    let path: String = request.uri().path().chars().take(LONGEST_PATH).collect();
    let peer = request.extensions().get::<ConnectInfo<SocketAddr>>().map(|ConnectInfo(peer)| *peer);
    let from = peer.map(|peer| proxies.place(request.headers(), peer).to_string()).unwrap_or_default();
    let answer = next.run(request).await;
    let status = answer.status();
    if let Some(what) = worth_a_line(&method, &route, status) {
        // What stands in an address besides numbers is the token of a link.
        let at = if route.contains("token") { &route } else { &path };
        let person = asker.0.get().copied();
        tracing::info!(target: "yardwand_server::told", person, from, %method, at, status = status.as_u16(), "{what}");
    }
    figures.seconds.get_or_create(&Route { route: route.clone() }).observe(begun.elapsed().as_secs_f64());
    figures
        .answered
        .get_or_create(&Answered { method: named(&method), route, status: status.as_u16() })
        .inc();
    answer
}

/// A method's name; those that nobody knows are one, so that nobody can make a figure for each word.
fn named(method: &Method) -> String {
    const KNOWN: [Method; 6] =
        [Method::GET, Method::HEAD, Method::OPTIONS, Method::POST, Method::PUT, Method::DELETE];
    if KNOWN.contains(method) { method.to_string() } else { "other".to_owned() }
}

/// What a line of the log is for, where there is to be one.
fn worth_a_line(method: &Method, route: &str, status: StatusCode) -> Option<&'static str> {
    let writes = !matches!(*method, Method::GET | Method::HEAD | Method::OPTIONS);
    let carried_out = [".zip", ".csv", ".json", ".ics"].iter().any(|end| route.ends_with(end));
    Some(match (method, route) {
        _ if status == StatusCode::FORBIDDEN || status == StatusCode::TOO_MANY_REQUESTS => "turned down",
        (_, "/api/sign-in" | "/api/entry/{token}") if writes && status.is_success() => "signed in",
        (_, "/api/sign-in" | "/api/entry/{token}") if writes => "not signed in",
        (_, "/api/sign-out") => "signed out",
        (_, "/api/me/password") if writes && status.is_success() => "password changed",
        (_, "/api/me/password") if writes => "password not changed",
        (_, "/api/me/second-factor" | "/api/me/second-factor/off") if writes && status.is_success() => {
            "second step changed"
        }
        (_, "/api/me/second-factor" | "/api/me/second-factor/off") if writes => "second step not changed",
        (_, "/api/house/backup") if writes && status.is_success() => "backup asked for",
        (_, "/api/me/sign-ins/{id}") if writes => "sign-in ended",
        (&Method::DELETE, "/api/clients/{id}") if status.is_success() => "client erased",
        _ if writes && status.is_success() && (route.starts_with("/api/people") || route == "/api/house") => {
            "house or people changed"
        }
        _ if writes && status.is_success() && route.ends_with("/story/link") => "story shared",
        _ if !writes && status.is_success() && carried_out => "carried out",
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn only_whoever_says_the_word_reads_the_figures() {
        let says = |word: &str| HeaderMap::from_iter([(header::AUTHORIZATION, word.parse().unwrap())]);
        let figures = Figures::read_with(Some("pins and needles"));
        assert!(figures.may_be_read_by(&says("Bearer pins and needles")));
        for other in ["Bearer pins", "pins and needles", "Bearer ", ""] {
            assert!(!figures.may_be_read_by(&says(other)), "{other}");
        }
        assert!(!figures.may_be_read_by(&HeaderMap::new()));
        for nobody in ["Bearer ", "Bearer pins and needles"] {
            assert!(!Figures::default().may_be_read_by(&says(nobody)), "{nobody}");
        }
    }
}
