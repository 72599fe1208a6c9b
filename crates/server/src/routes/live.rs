//! `/api/sessions/{id}/events` and `/api/tape`: what happens while somebody measures.
//!
//! One server-sent event stream a session carries two kinds of events: `session` (something was entered: read it anew)
//! and `tape` (what a paired digital tape says). A tape is any program that posts to `/api/tape` with the token it was
//! paired by: `{"text": "37 3/8", "unit": "inch", "held": false}`, some five times a second; `held` when its button is
//! pressed. State lives in the database, so browser, tape and colleague may each talk to another server.

use std::convert::Infallible;

use axum::Json;
use axum::extract::State;
use axum::http::{HeaderMap, StatusCode, header};
use axum::response::Sse;
use axum::response::sse::Event;
use futures_util::Stream;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::{Length, Unit};
use yardwand_store::{Now, SessionNow, TapeRow};

use crate::AppState;
use crate::auth::{SignedInBy, hashed, new_token};
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::live::{About, Next, Watched, event};
use crate::rights::Readings;

/// What a tape says.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub(super) struct TapeView {
    /// The length as the tape writes it.
    text: String,
    unit: Unit,
    /// Grows with every word.
    seq: u32,
    /// The last word with the button pressed; 0 for none.
    held_seq: u32,
    /// It has spoken within the last two seconds.
    alive: bool,
}

impl From<TapeRow> for TapeView {
    fn from(row: TapeRow) -> Self {
        let TapeRow { typed: text, unit, seq, held_seq, alive } = row;
        Self { text, unit, seq, held_seq, alive }
    }
}

#[derive(Serialize, ToSchema)]
struct Paired {
    /// What the tape sends as `Authorization: Bearer …`. Shown once.
    token: String,
}

#[derive(Deserialize, ToSchema)]
struct TapeWord {
    text: String,
    unit: Unit,
    #[serde(default)]
    held: bool,
}

#[derive(Serialize)]
struct SessionChanged {
    changes: u32,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(events)).routes(routes!(pair, unpair)).routes(routes!(say))
}

struct Watch {
    session: u64,
    changes: Option<u32>,
    /// What the tape said last; nothing before the first look.
    tape: Option<Option<TapeView>>,
}

impl Watched for Watch {
    fn about(&self) -> About {
        About::Session(self.session)
    }

    fn look(&mut self, now: &Now) -> Next {
        let Some(session) = now.sessions.get(&self.session) else { return Next::Wait };
        let Some(SessionNow { changes, tape }) = session else { return Next::End };
        if self.changes.replace(*changes) != Some(*changes) {
            return Next::Tell(event("session", &SessionChanged { changes: *changes }));
        }
        let tape = tape.clone().map(TapeView::from);
        if self.tape.as_ref() == Some(&tape) {
            return Next::Wait;
        }
        self.tape = Some(tape);
        Next::Tell(event("tape", &self.tape))
    }
}

/// Entries and tape of a session as they happen.
#[utoipa::path(get, path = "/api/sessions/{id}/events", responses(
    (status = 200, content_type = "text/event-stream"), (status = 404, body = Problem)))]
async fn events(
    State(state): State<AppState>,
    SignedInBy(sign_in): SignedInBy,
    Id(session): Id,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    state.store.session_changes(session).await?;
    let watch = Watch { session, changes: None, tape: None };
    Ok(state.live.events(&state.store, watch, sign_in))
}

/// Pairs a tape with an open session.
#[utoipa::path(post, path = "/api/sessions/{id}/tape", responses((status = 201, body = Paired), (status = 404, body = Problem)))]
async fn pair(
    State(state): State<AppState>,
    _: Writer<Readings>,
    Id(session): Id,
) -> Result<(StatusCode, Json<Paired>), ApiError> {
    let token = new_token();
    state.store.pair_tape(session, &hashed(&token)).await?;
    Ok((StatusCode::CREATED, Json(Paired { token })))
}

/// Lets the tape of a session go.
#[utoipa::path(delete, path = "/api/sessions/{id}/tape", responses((status = 204)))]
async fn unpair(
    State(state): State<AppState>,
    _: Writer<Readings>,
    Id(session): Id,
) -> Result<StatusCode, ApiError> {
    state.store.unpair_tape(session).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A word of a tape. Not signed in: the token of its pairing says which session it measures for.
#[utoipa::path(post, path = "/api/tape", security(("tape" = [])), request_body = TapeWord, responses(
    (status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn say(
    State(state): State<AppState>,
    headers: HeaderMap,
    JsonBody(word): JsonBody<TapeWord>,
) -> Result<StatusCode, ApiError> {
    let token =
        headers.get(header::AUTHORIZATION).and_then(|value| value.to_str().ok()?.strip_prefix("Bearer "));
    let unknown = || ApiError::NotFound("no session knows this tape: pair it again".to_owned());
    let token = token.ok_or_else(unknown)?;
    let entered = Length::read(&word.text, word.unit).map_err(|error| ApiError::length("/text", &error))?;
    if entered.typed.len() > 40 {
        return Err(ApiError::field("/text", "a length has at most 40 characters"));
    }
    let known = state.store.tape_says(&hashed(token), &entered.typed, word.unit, word.held).await?;
    if known { Ok(StatusCode::NO_CONTENT) } else { Err(unknown()) }
}
