//! `/api/sessions/{id}/readings`: one reading at a time, doubted while it is typed.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::{Finding, Measurement, Side, Taken, cannot_be, measurement};
use yardwand_core::{Entered, Length, Shown, Unit};
use yardwand_store::NewReading;

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Id, JsonBody, Writer};
use crate::figures::SessionReadings;
use crate::rights::Readings;
use crate::views::{Made, optional_words, words};

#[derive(Deserialize, ToSchema)]
struct ReadingEntry {
    code: String,
    #[serde(default)]
    side: Side,
    /// As typed.
    text: String,
    /// How it is taken; the house's way if left out.
    #[serde(default)]
    taken: Option<Taken>,
    /// A word about it.
    #[serde(default)]
    note: String,
    /// Initials behind "measured again, it stands".
    #[serde(default)]
    stands: Option<String>,
    /// A repeat: it stands beside the earlier takes instead of correcting them.
    #[serde(default)]
    again: bool,
    /// The newest take that was seen, 0 for none: 409 where somebody else has entered one since.
    #[serde(default)]
    saw: Option<u64>,
}

/// What a reading of a signed session should have been.
#[derive(Deserialize, ToSchema)]
struct CorrectionEntry {
    /// As typed.
    text: String,
    /// Why: the old reading is kept with it.
    why: String,
    /// Initials behind a length that a body can hardly have.
    #[serde(default)]
    stands: Option<String>,
}

/// What a text would be as a reading.
#[derive(Default, Serialize, ToSchema)]
struct CheckView {
    /// The figure: less any ease.
    length: Option<Shown>,
    /// Why it is no length.
    fault: Option<String>,
    /// Characters before the fault.
    at: Option<usize>,
    findings: Vec<Finding>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(check)).routes(routes!(record)).routes(routes!(correct))
}

pub(super) fn row_of(code: &str) -> Result<&'static Measurement, ApiError> {
    measurement(code).ok_or_else(|| ApiError::field("/code", format!("no measurement is called “{code}”")))
}

impl ReadingEntry {
    fn row(&self) -> Result<&'static Measurement, ApiError> {
        let row = row_of(&self.code)?;
        if self.side != Side::Both && !row.sides {
            return Err(ApiError::field("/side", format!("{} has no left and right", row.name)));
        }
        Ok(row)
    }

    fn way(&self, usual: impl FnOnce() -> Taken) -> Result<Taken, ApiError> {
        let Some(taken) = self.taken.clone() else { return Ok(usual()) };
        if let Some(says) = taken.unknown() {
            return Err(ApiError::field("/taken/schools", says));
        }
        if !(0.0..=300.0).contains(&taken.ease_mm) {
            return Err(ApiError::field("/taken/ease_mm", "ease inside a reading lies between 0 and 300 mm"));
        }
        Ok(taken)
    }

    fn read(&self, unit: Unit) -> Result<Entered, yardwand_core::LengthError> {
        Length::read(&self.text, unit)
    }
}

fn net(entered: &Entered, taken: &Taken) -> Option<Entered> {
    let mm = entered.length.mm() - taken.ease_mm;
    (mm >= 0.0).then(|| Entered { length: Length::from_mm(mm), ..entered.clone() })
}

/// What a text would be as a reading: nothing is kept.
#[utoipa::path(post, path = "/api/sessions/{id}/check", request_body = ReadingEntry, responses((status = 200, body = CheckView)))]
async fn check(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
    JsonBody(entry): JsonBody<ReadingEntry>,
) -> Result<Json<CheckView>, ApiError> {
    let row = entry.row()?;
    let bench = SessionReadings::of(&state.store, id).await?;
    let taken = entry.way(|| bench.house_way(&row.code))?;
    let entered = match entry.read(bench.session.unit) {
        Ok(entered) => entered,
        Err(error) => {
            let (fault, at) = (Some(error.to_string()), Some(error.at));
            return Ok(Json(CheckView { fault, at, ..CheckView::default() }));
        }
    };
    let Some(entered) = net(&entered, &taken) else {
        let fault = Some("there is more ease than length: check both".to_owned());
        return Ok(Json(CheckView { fault, ..CheckView::default() }));
    };
    let standing = if entry.again { bench.takes(&row.code, entry.side) } else { Vec::new() };
    let takes = standing.iter().map(|take| take.entered.length.mm()).collect();
    Ok(Json(CheckView {
        length: Some(bench.style().show(entered.length.mm())),
        findings: bench.doubts(row, entry.side, &entered, &taken, takes),
        ..CheckView::default()
    }))
}

/// Keeps a reading. 422 for text that is no length, with its place; a doubted one is kept.
#[utoipa::path(post, path = "/api/sessions/{id}/readings", request_body = ReadingEntry, responses(
    (status = 201, body = Made), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn record(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<ReadingEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let row = entry.row()?;
    let (house, session) = (state.store.house().await?, state.store.session(id).await?);
    let taken = entry.way(|| Taken::by_house(&row.code, &house.measuring.schools))?;
    let entered = entry.read(session.unit).map_err(|error| ApiError::length("/text", &error))?;
    let stands = entry.stands.as_deref().map(|by| words("/stands", "The initials", by, 12)).transpose()?;
    a_body_s(row, &entered, &taken, stands.is_some())?;
    let reading = NewReading {
        code: row.code.clone(),
        side: entry.side,
        entered,
        taken,
        note: optional_words("/note", "The note", &entry.note, 200)?,
        stands,
        again: entry.again,
        saw: entry.saw,
    };
    let made = state.store.record(id, &reading, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id: made })))
}

/// That a length can be a body's, less the ease that is in it; or somebody stands for it.
fn a_body_s(row: &Measurement, entered: &Entered, taken: &Taken, is_stood_for: bool) -> Result<(), ApiError> {
    let Some(net) = net(entered, taken) else {
        return Err(ApiError::field("/taken/ease_mm", "there is more ease than length: check both"));
    };
    if !is_stood_for && cannot_be(row, net.length.mm()) {
        let says = format!(
            "{} cannot be a body\u{2019}s {}: measure again, or say with your initials that it stands",
            entered.with_unit(),
            row.name.to_lowercase()
        );
        return Err(ApiError::field("/stands", says));
    }
    if entered.typed.chars().count() > 40 {
        return Err(ApiError::field("/text", "a reading has at most 40 characters: write just the length"));
    }
    Ok(())
}

/// Corrects one reading of a signed session, with the reason. The old one is kept.
#[utoipa::path(post, path = "/api/readings/{id}/correction", request_body = CorrectionEntry, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 409, body = Problem),
    (status = 422, body = Problem)))]
async fn correct(
    State(state): State<AppState>,
    writer: Writer<Readings>,
    Id(id): Id,
    JsonBody(entry): JsonBody<CorrectionEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let old = state.store.reading(id).await?;
    let session = state.store.session(old.session_id).await?;
    let entered =
        Length::read(&entry.text, session.unit).map_err(|error| ApiError::length("/text", &error))?;
    let why = words("/why", "The reason", &entry.why, 200)?;
    let stands = entry.stands.as_deref().map(|by| words("/stands", "The initials", by, 12)).transpose()?;
    a_body_s(row_of(&old.code)?, &entered, &old.taken, stands.is_some())?;
    let made = state.store.correct(id, &entered, &why, stands.as_deref(), writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id: made })))
}
