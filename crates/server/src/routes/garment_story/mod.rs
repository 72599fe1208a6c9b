//! `/api/orders/{id}/story`: the story of a garment, round by round, as the workroom reads it; on paper.

mod client;

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{FigureRow, Layer, Step, alteration, figures_beside, place_in_order};
use yardwand_core::fitting::{CoursePoint, Mark};
use yardwand_core::{Shown, Style};
use yardwand_paper::Paper;
use yardwand_store::{BalanceRow, ObservationRow, PhotographRow, RoundRow, VersionRow};

pub(crate) use client::ClientStory;
use client::client_story;

use super::print::SheetPaper;
use super::rounds::{
    BalanceLineView, FittingStage, ObservationView, PhotographView, line_view, observation_view,
};
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, QueryString};
use crate::sheets::story_sheet;
use crate::views::{OrderView, attached};

/// A round of the story.
#[derive(Serialize, ToSchema)]
pub(crate) struct RoundStory {
    pub(crate) id: u64,
    pub(crate) number: u32,
    pub(super) stage: FittingStage,
    pub(crate) version: u32,
    pub(crate) on: DateTime<Utc>,
    pub(crate) closed: bool,
    pub(crate) by: String,
    pub(crate) worn: String,
    pub(crate) comfort: String,
    /// What was seen in it.
    pub(super) seen: Vec<ObservationView>,
    /// What had become of earlier observations: their words and the mark.
    pub(crate) became: Vec<Became>,
    pub(super) lines: Vec<BalanceLineView>,
    pub(super) photographs: Vec<PhotographView>,
    pub(crate) made_version: Option<u32>,
    /// Observations still open after it.
    pub(crate) open: u32,
    /// All that was pinned and still left in it, per half.
    pub(crate) pinned: Shown,
    /// Figures of the version it made, against the one that was on her.
    pub(crate) changed: Vec<FigureRow>,
}

impl RoundStory {
    /// What was seen, what was pinned, what was decided: a row each, for paper.
    pub(crate) fn story_rows(&self) -> Vec<Vec<String>> {
        let row = |view: &ObservationView| {
            let note =
                if view.seen.note.is_empty() { String::new() } else { format!(". {}", view.seen.note) };
            vec![
                format!("{}{note}", view.said),
                view.per_half().unwrap_or_default(),
                view.decided.clone().unwrap_or_else(|| "not decided".to_owned()),
            ]
        };
        self.seen.iter().map(row).collect()
    }

    /// What the balance lines said, a sentence each.
    pub(crate) fn line_words(&self) -> Vec<String> {
        let words = |line: &BalanceLineView| {
            let read = line.read.as_ref()?;
            let says = if read.level { "level".to_owned() } else { read.says.join(" ") };
            Some(format!("{}: {says}", line.name))
        };
        self.lines.iter().filter_map(words).collect()
    }
}

/// What had become of an earlier observation.
#[derive(Serialize, ToSchema)]
pub(crate) struct Became {
    pub(crate) said: String,
    pub(crate) mark: Mark,
    pub(crate) warning: Option<String>,
}

/// An amount from round to round.
#[derive(Serialize, ToSchema)]
pub(crate) struct Course {
    said: String,
    points: Vec<CoursePoint>,
    warning: Option<String>,
}

/// What a garment was shaped to, and from which version on.
#[derive(Serialize, ToSchema)]
pub(crate) struct Shaped {
    pub(crate) version: u32,
    /// The name of the step.
    pub(crate) name: String,
    /// What was wished, as it was written down.
    pub(crate) says: String,
}

/// The story of a garment.
#[derive(Serialize, ToSchema)]
pub(crate) struct GarmentStory {
    pub(crate) order: OrderView,
    pub(crate) ordered_at: DateTime<Utc>,
    /// What was wished of it, and made.
    pub(crate) shaped: Vec<Shaped>,
    pub(crate) rounds: Vec<RoundStory>,
    /// Amounts from round to round, to be plotted.
    pub(crate) courses: Vec<Course>,
    /// How the house writes lengths.
    pub(crate) unit: String,
    /// Millimetres in one of it.
    pub(crate) unit_mm: f64,
    /// Whether clients may read stories.
    pub(crate) may_be_shown: bool,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct ForWhom {
    /// In neutral words, as a client may read it.
    #[serde(default)]
    #[param(required = false)]
    client: bool,
    /// The paper.
    #[serde(default = "crate::routes::print::a4")]
    #[param(inline, required = false)]
    paper: SheetPaper,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(story)).routes(routes!(paper)).merge(client::routes())
}

/// All that a story is told from.
struct Told {
    order: OrderView,
    ordered_at: DateTime<Utc>,
    rounds: Vec<RoundRow>,
    seen: Vec<ObservationRow>,
    lines: Vec<BalanceRow>,
    photographs: Vec<PhotographRow>,
    versions: Vec<VersionRow>,
}

async fn told(state: &AppState, id: u64) -> Result<Told, ApiError> {
    let store = &state.store;
    let (facts, rounds, seen, lines, photographs) = tokio::try_join!(
        store.order(id),
        store.rounds(id),
        store.observations(id),
        store.balances(id),
        store.photographs(id)
    )?;
    let ordered_at = facts.order.created_at;
    let order: OrderView = facts.into();
    let versions = match order.pattern_id {
        Some(pattern) => store.versions(pattern).await?,
        None => Vec::new(),
    };
    Ok(Told { rounds, seen, lines, photographs, versions, ordered_at, order })
}

/// Whether it was open when the round ended.
fn open_after(row: &ObservationRow, round: u32) -> bool {
    row.round <= round && row.noted().was_open_before(round + 1)
}

/// What of it was pinned or left in a round, per half, in millimetres without its sign.
fn left_in(view: &ObservationView, round: u32) -> f64 {
    view.course.iter().find(|point| point.round == round).map_or(0.0, |point| point.mm.abs())
}

/// What each version was newly shaped to: steps of shape and finish that it has first, or otherwise than the one before.
fn shaped(versions: &[VersionRow]) -> Vec<Shaped> {
    let mut standing: Vec<&VersionRow> = versions.iter().filter(|row| row.withdrawn_at.is_none()).collect();
    standing.sort_by_key(|row| row.version);
    let shapes = |step: &&Step| {
        let known = alteration(&step.alteration);
        step.on && known.is_some_and(|known| place_in_order(known, &step.amounts).0 >= Layer::Shape)
    };
    let mut before: &[Step] = &[];
    let mut all = Vec::new();
    for row in standing {
        let is_new = |step: &&Step| {
            !before.iter().any(|old| {
                old.on
                    && (&old.alteration, &old.amounts, old.side)
                        == (&step.alteration, &step.amounts, step.side)
            })
        };
        all.extend(row.recipe.steps.iter().filter(shapes).filter(is_new).map(|step| Shaped {
            version: row.version,
            name: alteration(&step.alteration).map_or_else(String::new, |known| known.name().to_owned()),
            says: step.reason.clone(),
        }));
        before = &row.recipe.steps;
    }
    all
}

fn garment_story(told: Told, style: Style, may_be_shown: bool) -> GarmentStory {
    let views: Vec<ObservationView> =
        told.seen.iter().map(|row| observation_view(row.clone(), style)).collect();
    let version = |number: u32| told.versions.iter().find(|v| v.version == number);
    let rounds = told.rounds.iter().map(|round| {
        let became = told.seen.iter().zip(&views).filter_map(|(row, view)| {
            let mark = row.marks.iter().find(|m| m.round == round.number)?.mark;
            Some(Became { said: view.said.clone(), mark, warning: view.warning.clone() })
        });
        let changed = match (version(round.version), round.made_version.and_then(version)) {
            (Some(was), Some(is)) => figures_beside(&was.pattern, &is.pattern, style),
            _ => Vec::new(),
        };
        RoundStory {
            id: round.id,
            number: round.number,
            stage: round.stage.into(),
            version: round.version,
            on: round.opened_at,
            closed: round.closed_at.is_some(),
            by: round.opened_by.clone(),
            worn: round.worn.clone(),
            comfort: round.comfort.clone(),
            became: became.collect(),
            lines: told
                .lines
                .iter()
                .filter(|l| l.round_id == round.id)
                .map(|l| line_view(l, style))
                .collect(),
            photographs: told
                .photographs
                .iter()
                .filter(|p| p.round_id == Some(round.id))
                .cloned()
                .map(Into::into)
                .collect(),
            made_version: round.made_version,
            open: told.seen.iter().filter(|row| open_after(row, round.number)).count() as u32,
            pinned: style.show(views.iter().map(|view| left_in(view, round.number)).sum()),
            seen: told
                .seen
                .iter()
                .zip(&views)
                .filter(|(row, _)| row.round_id == round.id)
                .map(|(_, v)| v.clone())
                .collect(),
            changed: changed
                .into_iter()
                .filter(|row| row.change.as_ref().is_some_and(|change| change.mm.abs() > 0.2))
                .collect(),
        }
    });
    let rounds = rounds.collect();
    let courses = views.iter().filter(|view| !view.course.is_empty()).map(|view| Course {
        said: view.said.clone(),
        points: view.course.clone(),
        warning: view.warning.clone(),
    });
    GarmentStory {
        shaped: shaped(&told.versions),
        courses: courses.collect(),
        rounds,
        ordered_at: told.ordered_at,
        order: told.order,
        unit: style.unit().suffix().to_owned(),
        unit_mm: style.unit().in_mm(),
        may_be_shown,
    }
}

/// The story of a garment.
#[utoipa::path(get, path = "/api/orders/{id}/story", responses(
    (status = 200, body = GarmentStory), (status = 404, body = Problem)))]
async fn story(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<GarmentStory>, ApiError> {
    Ok(Json(story_of(&state, id, style).await?))
}

/// The story of a garment on paper, as the workroom reads it.
pub(in crate::routes) async fn story_on_paper(
    state: &AppState,
    id: u64,
    style: Style,
    paper: Paper,
) -> Result<Vec<u8>, ApiError> {
    Ok(story_sheet(&story_of(state, id, style).await?, style, paper)?)
}

/// The story of a garment, as the workroom reads it.
pub(in crate::routes) async fn story_of(
    state: &AppState,
    id: u64,
    style: Style,
) -> Result<GarmentStory, ApiError> {
    let shown = state.store.house().await?.shows_stories;
    Ok(garment_story(told(state, id).await?, style, shown))
}

/// The story on paper.
#[utoipa::path(get, path = "/api/orders/{id}/story.pdf", params(ForWhom), responses(
    (status = 200, content_type = "application/pdf"), (status = 404, body = Problem)))]
async fn paper(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    QueryString(asked): QueryString<ForWhom>,
) -> Result<Response, ApiError> {
    let paper: Paper = asked.paper.into();
    let bytes = if asked.client {
        let house = state.store.house().await?;
        crate::sheets::client_story_sheet(&client_story(&told(&state, id).await?, house.name), paper)?
    } else {
        story_on_paper(&state, id, style, paper).await?
    };
    Ok(attached("application/pdf", "story.pdf", bytes))
}
