//! `/api/jobs`: long work, whoever asked for it and whichever server does it.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::{DateTime, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_store::{Job, JobRow, JobState, Right, StoreError};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, Id};
use crate::rights::Housekeeping;
use crate::views::Made;

/// What is done.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum JobKind {
    /// A file of readings is saved.
    Import,
    /// All that is kept of a client is put together as one file.
    Everything,
    /// The house is backed up.
    Backup,
}

/// Where it stands.
#[derive(Clone, Copy, Debug, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum JobStanding {
    Waiting,
    Working,
    Stopping,
    Done,
    GivenUp,
    Failed,
}

/// A piece of long work.
#[derive(Serialize, ToSchema)]
struct JobView {
    id: u64,
    kind: JobKind,
    /// The import's or the client's number.
    of: u64,
    /// The client's name, or the file's.
    about: Option<String>,
    asked_by: String,
    asked_at: DateTime<Utc>,
    state: JobStanding,
    /// So much of it is done.
    done: u32,
    /// Of so much in all; 0 while that is not known.
    total: u32,
    /// Why it failed.
    says: Option<String>,
}

impl From<JobRow> for JobView {
    fn from(row: JobRow) -> Self {
        let (kind, of) = match row.job {
            Job::Import(id) => (JobKind::Import, id),
            Job::Everything(id) => (JobKind::Everything, id),
            Job::Backup => (JobKind::Backup, 0),
        };
        Self {
            id: row.id,
            kind,
            of,
            about: row.client.or(row.file),
            asked_by: row.asked_by,
            asked_at: row.asked_at,
            state: match row.state {
                JobState::Waiting => JobStanding::Waiting,
                JobState::Working => JobStanding::Working,
                JobState::Stopping => JobStanding::Stopping,
                JobState::Done => JobStanding::Done,
                JobState::GivenUp => JobStanding::GivenUp,
                JobState::Failed => JobStanding::Failed,
            },
            done: row.done,
            total: row.total,
            says: row.says,
        }
    }
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(list))
        .routes(routes!(look))
        .routes(routes!(stop))
        .routes(routes!(back_up))
}

/// The long work that was asked for last, the newest first.
#[utoipa::path(get, path = "/api/jobs", responses((status = 200, body = Vec<JobView>)))]
async fn list(State(state): State<AppState>, _: SignedIn) -> Result<Json<Vec<JobView>>, ApiError> {
    Ok(Json(state.store.jobs().await?.into_iter().map(JobView::from).collect()))
}

/// A piece of long work: where it stands and how far it is.
#[utoipa::path(get, path = "/api/jobs/{id}", responses((status = 200, body = JobView), (status = 404, body = Problem)))]
async fn look(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<JobView>, ApiError> {
    Ok(Json(state.store.job(id).await?.into()))
}

/// Asks that it be given up. What was done of it is taken back.
#[utoipa::path(post, path = "/api/jobs/{id}/stop", responses(
    (status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
async fn stop(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    let right = match state.store.job(id).await?.job {
        Job::Backup => Right::Housekeeping,
        Job::Import(_) | Job::Everything(_) => Right::Readings,
    };
    if !person.role.may(right) {
        return Err(ApiError::Forbidden("your sign-in may not give this up: ask the owner".to_owned()));
    }
    if !state.store.stop_job(id).await? {
        return Err(StoreError::Refused("it has ended already").into());
    }
    state.jobs.wake();
    Ok(StatusCode::NO_CONTENT)
}

/// Asks that the house be backed up, where the server was told where to.
#[utoipa::path(post, path = "/api/house/backup", responses(
    (status = 201, body = Made), (status = 403, body = Problem), (status = 409, body = Problem)))]
async fn back_up(
    State(state): State<AppState>,
    person: Entitled<Housekeeping>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    if !state.jobs.takes_backups() {
        return Err(StoreError::Refused(
            "this server was not told where to put backups: start it with --backup-to, or run `yardwand backup`",
        )
        .into());
    }
    let id = state.jobs.ask(&state.store, Job::Backup, person.0.id).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
