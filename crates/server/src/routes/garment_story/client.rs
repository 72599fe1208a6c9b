//! The story as the client may read it: what was done, in neutral words; by a link that ends.

use std::net::SocketAddr;

use axum::Json;
use axum::extract::{ConnectInfo, State};
use axum::http::{HeaderMap, StatusCode};
use chrono::{DateTime, NaiveDate, TimeDelta, Utc};
use serde::Serialize;
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::fitting::{Decision, Mark, client_words};
use yardwand_store::{RoundRow, RoundStage, VersionRow};

use super::{Told, told};
use crate::AppState;
use crate::auth::{Attempts, Counts, SignedIn, hashed, new_token};
use crate::error::{ApiError, Problem};
use crate::extract::{Id, InPath, Writer};
use crate::rights::Cutting;

/// What a client reads: what was done, never what it says of her.
#[derive(Serialize, ToSchema)]
pub(crate) struct ClientStory {
    pub(crate) house: String,
    pub(crate) client: String,
    pub(crate) garment: String,
    pub(crate) wanted_on: Option<NaiveDate>,
    pub(crate) chapters: Vec<Chapter>,
}

/// A part of it.
#[derive(Serialize, ToSchema)]
pub(crate) struct Chapter {
    pub(crate) on: DateTime<Utc>,
    pub(crate) title: String,
    pub(crate) lines: Vec<String>,
}

/// A link lasts so long.
const LINK_LASTS: TimeDelta = TimeDelta::days(90);

#[derive(Serialize, ToSchema)]
struct StoryLink {
    /// What follows the house's address. Shown once.
    path: String,
    until: DateTime<Utc>,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(for_client)).routes(routes!(share, unshare)).routes(routes!(shared))
}

/// What alterations were for, in neutral words, each once.
fn in_neutral_words<'a>(alterations: impl Iterator<Item = &'a str>) -> Vec<String> {
    let mut lines: Vec<String> = Vec::new();
    for words in alterations.map(client_words) {
        if !lines.iter().any(|line| line == words) {
            lines.push(words.to_owned());
        }
    }
    lines
}

pub(super) fn client_story(told: &Told, house: String) -> ClientStory {
    let wanted = told.order.wanted_on.map(|day| format!("Wanted for {}.", day.format("%-d %B %Y")));
    let chapter = |on, title: &str, lines| Chapter { on, title: title.to_owned(), lines };
    let ordered = chapter(told.ordered_at, "Ordered", wanted.into_iter().collect());
    let done = told.order.finished_at.map(|on| chapter(on, "Handed over", vec!["Wear it well.".to_owned()]));
    let mut chapters = vec![ordered];
    chapters.extend(told.versions.last().map(first_version));
    chapters.extend(told.rounds.iter().map(|round| of_round(told, round)));
    chapters.extend(done);
    chapters.sort_by_key(|chapter| chapter.on);
    ClientStory {
        house,
        client: told.order.client.clone(),
        garment: told.order.garment.clone(),
        wanted_on: told.order.wanted_on,
        chapters,
    }
}

fn first_version(version: &VersionRow) -> Chapter {
    let steps = version.recipe.steps.iter().filter(|step| step.on).map(|step| step.alteration.as_str());
    let mut lines = vec!["The pattern was drawn for you.".to_owned()];
    lines.extend(in_neutral_words(steps));
    Chapter { on: version.made_at, title: "The pattern".to_owned(), lines }
}

fn of_round(told: &Told, round: &RoundRow) -> Chapter {
    let own = told.seen.iter().filter(|row| row.round_id == round.id);
    let altered = own.filter_map(|row| match &row.decision {
        Some(Decision::Alter { alteration, .. }) => Some(alteration.as_str()),
        _ => None,
    });
    let marks = told.seen.iter().flat_map(|row| &row.marks);
    let settled = match marks.filter(|m| m.round == round.number && m.mark == Mark::Gone).count() {
        0 => None,
        1 => Some("One thing from last time is settled.".to_owned()),
        n => Some(format!("{n} things from last time are settled.")),
    };
    let worn = (!round.worn.is_empty()).then(|| format!("Worn: {}", round.worn));
    let said = (!round.comfort.is_empty()).then(|| format!("You said: \u{201c}{}\u{201d}", round.comfort));
    let mut lines: Vec<String> = worn.into_iter().collect();
    lines.extend(in_neutral_words(altered));
    lines.extend(settled);
    lines.extend(said);
    if lines.is_empty() {
        lines.push("Nothing had to be changed.".to_owned());
    }
    let what = match round.stage {
        RoundStage::Toile => "the toile",
        RoundStage::Cloth => "in cloth",
        RoundStage::Final => "the last",
    };
    Chapter { on: round.opened_at, title: format!("Fitting {}, {what}", round.number), lines }
}

/// The story as the client would read it: to look at before it is shared.
#[utoipa::path(get, path = "/api/orders/{id}/story/client", responses(
    (status = 200, body = ClientStory), (status = 404, body = Problem)))]
async fn for_client(
    State(state): State<AppState>,
    _: SignedIn,
    Id(id): Id,
) -> Result<Json<ClientStory>, ApiError> {
    let house = state.store.house().await?.name;
    Ok(Json(client_story(&told(&state, id).await?, house)))
}

/// Makes a link by which the client reads her story, where the house shows stories.
#[utoipa::path(post, path = "/api/orders/{id}/story/link", responses(
    (status = 201, body = StoryLink), (status = 403, body = Problem)))]
async fn share(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<(StatusCode, Json<StoryLink>), ApiError> {
    state.store.order(id).await?;
    if !state.store.house().await?.shows_stories {
        return Err(ApiError::Forbidden(
            "the house shows no stories to clients: turn it on under House first".to_owned(),
        ));
    }
    let token = new_token();
    let until = Utc::now() + LINK_LASTS;
    state.store.share_story(id, &hashed(&token), until, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(StoryLink { path: format!("/story/{token}"), until })))
}

/// Ends every link to this story.
#[utoipa::path(delete, path = "/api/orders/{id}/story/link", responses((status = 204)))]
async fn unshare(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.unshare_story(id, writer.person.id).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The story a link leads to. Nobody signs in for it.
#[utoipa::path(get, path = "/api/shared/{token}", security(()), params(("token" = String, Path, description = "From the link.")),
    responses((status = 200, body = ClientStory), (status = 404, body = Problem), (status = 429, body = Problem)))]
async fn shared(
    State(state): State<AppState>,
    ConnectInfo(peer): ConnectInfo<SocketAddr>,
    headers: HeaderMap,
    InPath(token): InPath<String>,
) -> Result<Json<ClientStory>, ApiError> {
    // A client looks now and then; somebody who tries links does not.
    Attempts::begun(&state.store, &[Counts::Story(state.proxies.place(&headers, peer))]).await?;
    let order = state.store.shared_story(&hashed(&token)).await?;
    let gone = || ApiError::NotFound("this link has ended: ask the workroom for a new one".to_owned());
    let house = state.store.house().await?.name;
    Ok(Json(client_story(&told(&state, order.ok_or_else(gone)?).await?, house)))
}
