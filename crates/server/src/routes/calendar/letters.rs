//! Letters: the reminders that are due, and the outbox they lie in.

use axum::Json;
use axum::extract::State;
use chrono::{DateTime, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::LetterRow;

use super::today;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::ApiError;
use crate::extract::Writer;
use crate::post::{send_waiting, write_reminders};
use crate::rights::Dates;

/// Letters that are listed.
const SHOWN: u32 = 200;

#[derive(Serialize, ToSchema)]
struct LetterView {
    id: u64,
    to_name: String,
    /// Empty where none is known.
    to_address: String,
    subject: String,
    body: String,
    written_at: DateTime<Utc>,
    sent_at: Option<DateTime<Utc>>,
    failed: String,
}

impl From<LetterRow> for LetterView {
    fn from(row: LetterRow) -> Self {
        Self {
            id: row.id,
            to_name: row.letter.to_name,
            to_address: row.letter.to_address,
            subject: row.letter.subject,
            body: row.letter.body,
            written_at: row.written_at,
            sent_at: row.sent_at,
            failed: row.failed,
        }
    }
}

#[derive(Serialize, ToSchema)]
struct Outbox {
    /// No mail server is set: letters stay here to be read.
    simulated: bool,
    letters: Vec<LetterView>,
}

#[derive(Serialize, ToSchema)]
struct Written {
    /// Letters that were new.
    written: u64,
    /// Letters that went out.
    sent: u64,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(outbox, write))
}

/// The outbox, newest first.
#[utoipa::path(get, path = "/api/letters", responses((status = 200, body = Outbox)))]
async fn outbox(State(state): State<AppState>, _: SignedIn) -> Result<Json<Outbox>, ApiError> {
    let letters = state.store.letters(SHOWN).await?.into_iter().map(LetterView::from).collect();
    Ok(Json(Outbox { simulated: state.post.is_simulated(), letters }))
}

/// Writes the reminders that are due, and sends what waits where a mail server is set.
#[utoipa::path(post, path = "/api/letters", responses((status = 200, body = Written)))]
async fn write(State(state): State<AppState>, _: Writer<Dates>) -> Result<Json<Written>, ApiError> {
    let written = write_reminders(&state.store, today()).await?;
    let sent = send_waiting(&state.store, &state.post).await?;
    Ok(Json(Written { written, sent }))
}
