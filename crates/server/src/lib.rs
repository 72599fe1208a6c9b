//! The yardwand server: HTTP API, sign-in and the front end it carries.
//!
//! What it is: the edge. A handler reads core types from a request, makes one call into the store or
//! the core, and answers with a view. What it is not: no SQL, no geometry, no state of its own, so
//! that any number of servers may share one database.

mod again;
mod assets;
mod auth;
mod closed;
mod command;
mod demo;
mod describe;
mod error;
mod extract;
mod figures;
mod fingerprint;
mod finish;
mod guarding;
mod jobs;
mod limit;
mod live;
mod passwords;
mod picture;
mod post;
mod rights;
mod routes;
mod second_factor;
mod serving;
mod setup;
mod sheets;
mod tape;
mod telling;
mod turns;
mod upkeep;
mod views;
mod workroom;

use axum::Router;
use axum::extract::DefaultBodyLimit;
use tower_http::compression::CompressionLayer;
use utoipa::OpenApi;
use utoipa_axum::router::OpenApiRouter;
use yardwand_store::Store;

pub use auth::Proxies;
pub use closed::Closed;
pub use command::{Craft, CraftError, list_alterations, run_craft};
pub use demo::{DEMO_EMAIL, DEMO_PASSWORD, seed_demo, seed_orchestra};
pub use jobs::{BackupPlaces, Jobs};
pub use live::Live;
pub use passwords::{Passwords, can_be_chosen, hash_password};
pub use picture::Pictures;
pub use post::{Post, keep_house};
pub use serving::{Patience, serve};
pub use setup::{good_address, good_name, new_password, set_up};
pub use tape::StandInTape;
pub use telling::Figures;
pub use upkeep::{Database, Key, bring_back, look_over_backup, look_over_house, take_backup};

/// The largest body a request may have, in bytes.
pub const BODY_LIMIT: usize = 1 << 20;
/// The largest photograph that is taken in, in bytes.
pub const PHOTO_LIMIT: usize = 20 << 20;

/// What every handler may use.
#[derive(Clone, Debug)]
pub struct AppState {
    /// The house's memory.
    pub store: Store,
    /// Cookies only over HTTPS: for a real house behind a proxy.
    pub secure_cookies: bool,
    /// Whose word on where a request comes from is believed.
    pub proxies: Proxies,
    /// Ends the event streams when the server stops.
    pub live: Live,
    /// How letters go out.
    pub post: Post,
    /// How passwords are hashed.
    pub passwords: Passwords,
    /// How photographs are read.
    pub pictures: Pictures,
    /// How many requests there were, and how long they took.
    pub figures: Figures,
    /// Whether the database was away when it was asked last.
    pub closed: Closed,
    /// What this server does of the house's long work.
    pub jobs: Jobs,
}

impl AppState {
    /// What serves a house as it comes: over plain HTTP, with letters that stay in the outbox.
    pub fn of(store: Store) -> Self {
        Self {
            store,
            secure_cookies: false,
            proxies: Proxies::default(),
            live: Live::default(),
            post: Post::default(),
            passwords: Passwords::default(),
            pictures: Pictures::default(),
            figures: Figures::default(),
            closed: Closed::default(),
            jobs: Jobs::default(),
        }
    }
}

#[derive(OpenApi)]
#[openapi(info(
    title = "Yardwand",
    description = "Lengths are millimetres; `Shown` carries the house's own writing beside it.",
    license(name = "MIT")
))]
struct ApiDoc;

fn api() -> (Router<AppState>, utoipa::openapi::OpenApi) {
    let (router, mut doc) =
        OpenApiRouter::with_openapi(ApiDoc::openapi()).merge(routes::routes()).split_for_parts();
    describe::complete(&mut doc);
    (router, doc)
}

/// The API's description, from the code.
pub fn openapi() -> utoipa::openapi::OpenApi {
    api().1
}

/// The whole application.
pub fn app(state: AppState) -> Router {
    let secure = guarding::Secure(state.secure_cookies);
    let (live, closed) = (state.live.clone(), state.closed.clone());
    let tells = (state.figures.clone(), state.proxies.clone());
    api()
        .0
        .route("/metrics", axum::routing::get(telling::figures))
        .fallback(assets::serve)
        .with_state(state)
        .layer(axum::middleware::from_fn_with_state(live, live::written))
        .layer(axum::middleware::from_fn_with_state(closed, closed::at_once))
        .layer(axum::middleware::from_fn(fingerprint::take))
        .layer(axum::middleware::from_fn(auth::same_origin))
        .layer(axum::middleware::from_fn(finish::finish))
        .layer(DefaultBodyLimit::max(BODY_LIMIT))
        .layer(axum::middleware::from_fn(limit::turn_down))
        .layer(CompressionLayer::new())
        .layer(axum::middleware::from_fn_with_state(secure, guarding::guard))
        .layer(axum::middleware::from_fn_with_state(tells, telling::tell))
}
