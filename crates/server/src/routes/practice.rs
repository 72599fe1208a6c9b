//! `/api/practice`: exercises made by their numbers, what somebody has practised, and the certificate. Nothing of a client
//! goes in or comes out.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use chrono::Utc;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::fitting::cause;
use yardwand_core::practice::{
    BOXES, Difficulty, Exercise, Mistake, PracticeAnswers, PracticeFitting, PracticeProgress,
    PracticeVerdict, Practised, TapeAnswer, TapeExercise, TapeKind, TapeVerdict, exercise, judge, judge_tape,
    practised_causes, progress, tape_exercise,
};
use yardwand_store::{ExerciseKey, Store};

use super::print::OnPaper;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, JsonBody, QueryString};
use crate::sheets::certificate_sheet;
use crate::views::attached;

/// From this box on something is known well: it went well three times running.
const KNOWN_FROM: usize = 4;
/// The kind that fittings are kept as; tapes are kept by their own.
const FITTING: &str = "fitting";

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(look))
        .routes(routes!(fitting, answer_fitting))
        .routes(routes!(tape, answer_tape))
        .routes(routes!(certificate))
}

/// What is to be done next.
#[derive(Serialize, ToSchema)]
struct NextExercise {
    /// A tape exercise of this kind; a fitting where there is none.
    tape: Option<TapeKind>,
    difficulty: Difficulty,
    seed: u64,
    /// Why this one: it is due, it is new, or it comes next.
    why: &'static str,
}

/// Something that is practised, where it stands.
#[derive(Serialize, ToSchema)]
struct PracticeStanding {
    /// Code of a cause, or of a kind of tape exercise.
    item: String,
    name: String,
    /// Which of the boxes it lies in; none where it was never done.
    number: Option<usize>,
    done: usize,
    went_well: usize,
    /// In so many days it comes again; 0 and less: now.
    due_in: Option<i64>,
}

/// A kind of mistake, and how often it was made.
#[derive(Serialize, ToSchema)]
struct MistakeMade {
    mistake: Mistake,
    says: &'static str,
    count: usize,
}

#[derive(Serialize, ToSchema)]
struct PracticeView {
    next_fitting: NextExercise,
    next_tape: NextExercise,
    /// Everything that can be practised: what is due first, then what was never done.
    standing: Vec<PracticeStanding>,
    mistakes: Vec<MistakeMade>,
    /// How many boxes there are.
    boxes: usize,
    /// How much of it is known well.
    known: usize,
    /// From which box on something is known well.
    known_from: usize,
    /// Exercises done in all.
    done: usize,
}

fn tape_kind(code: &str) -> Option<TapeKind> {
    TapeKind::ALL.into_iter().find(|kind| kind.code() == code)
}

fn name_of(item: &str) -> String {
    let tape = tape_kind(item).map(|kind| kind.name().to_owned());
    tape.or_else(|| Some(cause(item)?.title.clone())).unwrap_or_else(|| item.to_owned())
}

/// What somebody has practised, oldest first, as the boxes count it.
async fn practised_by(store: &Store, person: u64) -> Result<Vec<Practised>, ApiError> {
    let now = Utc::now();
    let done = store.practised(person).await?.into_iter().map(|done| Practised {
        item: done.item,
        score: done.score,
        mistakes: serde_json::from_value(done.mistakes).unwrap_or_default(),
        days_ago: (now - done.done_at).num_days(),
    });
    Ok(done.collect())
}

fn items() -> (Vec<&'static str>, Vec<&'static str>) {
    let causes = practised_causes().iter().map(|cause| cause.code.as_str()).collect();
    (causes, TapeKind::ALL.map(TapeKind::code).into())
}

/// The next exercise of these items: harder the further on it lies, and never one that was done.
fn next(progress: &PracticeProgress, items: &[&str], person: u64) -> NextExercise {
    let item = progress.next(items).unwrap_or_default();
    let own = progress.boxes.iter().find(|own| own.item == item);
    let difficulty = match own.map_or(1, |own| own.number) {
        ..=2 => Difficulty::Easy,
        3 => Difficulty::Middle,
        _ => Difficulty::Hard,
    };
    let why = match own {
        Some(own) if own.due_in <= 0 => "it is due",
        Some(_) => "it comes next",
        None => "it is new",
    };
    let at = items.iter().position(|each| *each == item).unwrap_or_default() as u64;
    let times = own.map_or(0, |own| own.done as u64) + 100 * (person % 1000);
    let tape = tape_kind(item);
    // A cause is a place in the list that numbers go round; a tape has numbers of its own.
    let seed = if tape.is_some() { times } else { at + items.len() as u64 * times };
    NextExercise { tape, difficulty, seed, why }
}

/// What there is to practise, and how far one is oneself.
#[utoipa::path(get, path = "/api/practice", responses((status = 200, body = PracticeView)))]
async fn look(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
) -> Result<Json<PracticeView>, ApiError> {
    let done = practised_by(&state.store, person.id).await?;
    let progress = progress(&done);
    let (causes, tapes) = items();
    let standing = |item: &str| {
        let own = progress.boxes.iter().find(|own| own.item == item);
        PracticeStanding {
            item: item.to_owned(),
            name: name_of(item),
            number: own.map(|own| own.number),
            done: own.map_or(0, |own| own.done),
            went_well: own.map_or(0, |own| own.went_well),
            due_in: own.map(|own| own.due_in),
        }
    };
    let begun = progress.boxes.iter().map(|own| own.item.as_str());
    let fresh = causes.iter().chain(&tapes).copied().filter(|item| !begun.clone().any(|own| own == *item));
    let mistakes = progress.mistakes.iter().map(|(mistake, count)| MistakeMade {
        mistake: *mistake,
        says: mistake.says(),
        count: *count,
    });
    Ok(Json(PracticeView {
        next_fitting: next(&progress, &causes, person.id),
        next_tape: next(&progress, &tapes, person.id),
        standing: begun.clone().chain(fresh).map(standing).collect(),
        mistakes: mistakes.collect(),
        boxes: BOXES.len(),
        known: progress.boxes.iter().filter(|own| own.number >= KNOWN_FROM).count(),
        known_from: KNOWN_FROM,
        done: done.len(),
    }))
}

/// A fitting by its number.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct FittingAsked {
    difficulty: Difficulty,
    seed: u64,
}

fn made(difficulty: Difficulty, seed: u64, style: Style) -> Result<Exercise, ApiError> {
    exercise(seed, difficulty, style).ok_or_else(|| {
        ApiError::field("/seed", "the cause of this number shows on no toile: take the next number")
    })
}

/// What is shown of a fitting; nothing of what is behind it.
#[utoipa::path(get, path = "/api/practice/fitting", params(FittingAsked), responses(
    (status = 200, body = PracticeFitting), (status = 422, body = Problem)))]
async fn fitting(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<FittingAsked>,
) -> Result<Json<PracticeFitting>, ApiError> {
    Ok(Json(made(asked.difficulty, asked.seed, style)?.shown))
}

/// Answers to a fitting, as far as they are given.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct FittingAnswered {
    difficulty: Difficulty,
    seed: u64,
    answers: PracticeAnswers,
}

/// Judges answers step by step; with the last of them the truth is told, and what came of it is kept.
#[utoipa::path(post, path = "/api/practice/fitting", request_body = FittingAnswered, responses(
    (status = 200, body = PracticeVerdict), (status = 422, body = Problem)))]
async fn answer_fitting(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(asked): JsonBody<FittingAnswered>,
) -> Result<Json<PracticeVerdict>, ApiError> {
    let made = made(asked.difficulty, asked.seed, style)?;
    let verdict = judge(&made, &asked.answers, style);
    if verdict.truth.is_some() {
        let key = ExerciseKey { kind: FITTING, difficulty: asked.difficulty.name(), seed: asked.seed };
        let item = made.causes()[0];
        keep(&state.store, person.id, key, item, verdict.score, &verdict.mistakes).await?;
    }
    Ok(Json(verdict))
}

async fn keep(
    store: &Store,
    person: u64,
    key: ExerciseKey<'_>,
    item: &str,
    score: f64,
    mistakes: &[Mistake],
) -> Result<(), ApiError> {
    let mistakes = serde_json::to_value(mistakes).unwrap_or_default();
    Ok(store.keep_practised(person, key, item, score, &mistakes).await?)
}

/// A tape by its number.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct TapeAsked {
    kind: TapeKind,
    difficulty: Difficulty,
    seed: u64,
}

fn no_tape() -> ApiError {
    ApiError::field(
        "/answer",
        "this is no answer to such an exercise: a length where a tape is read, else which one it is",
    )
}

/// What is shown of a tape exercise; nothing of what is behind it.
#[utoipa::path(get, path = "/api/practice/tape", params(TapeAsked), responses(
    (status = 200, body = TapeExercise), (status = 422, body = Problem)))]
async fn tape(
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    QueryString(asked): QueryString<TapeAsked>,
) -> Result<Json<TapeExercise>, ApiError> {
    tape_exercise(asked.seed, asked.kind, asked.difficulty, style).map(Json).ok_or_else(no_tape)
}

/// An answer to a tape exercise.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
struct TapeAnswered {
    kind: TapeKind,
    difficulty: Difficulty,
    seed: u64,
    answer: TapeAnswer,
}

/// Judges an answer, tells what is so, and keeps what came of it.
#[utoipa::path(post, path = "/api/practice/tape", request_body = TapeAnswered, responses(
    (status = 200, body = TapeVerdict), (status = 422, body = Problem)))]
async fn answer_tape(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    HouseStyle(style): HouseStyle,
    JsonBody(asked): JsonBody<TapeAnswered>,
) -> Result<Json<TapeVerdict>, ApiError> {
    let TapeAnswered { kind, difficulty, seed, answer } = asked;
    let verdict = judge_tape(seed, kind, difficulty, answer, style).ok_or_else(no_tape)?;
    let key = ExerciseKey { kind: kind.code(), difficulty: difficulty.name(), seed };
    keep(&state.store, person.id, key, kind.code(), verdict.score, &verdict.mistakes).await?;
    Ok(Json(verdict))
}

/// One's own certificate: what one knows well, and on how many exercises that rests.
#[utoipa::path(get, path = "/api/practice/certificate.pdf", params(OnPaper), responses(
    (status = 200, content_type = "application/pdf", body = Vec<u8>)))]
async fn certificate(
    State(state): State<AppState>,
    SignedIn(person): SignedIn,
    QueryString(asked): QueryString<OnPaper>,
) -> Result<Response, ApiError> {
    let (done, house) =
        tokio::try_join!(practised_by(&state.store, person.id), async { Ok(state.store.house().await?) })?;
    let progress = progress(&done);
    let known = progress.boxes.iter().filter(|own| own.number >= KNOWN_FROM);
    let mut rows: Vec<_> = known.map(|own| (name_of(&own.item), own.went_well, own.done)).collect();
    rows.sort();
    let today = Utc::now().date_naive();
    let pdf = certificate_sheet(&house.name, &person.name, today, done.len(), &rows, asked.paper.into())
        .map_err(ApiError::from)?;
    Ok(attached("application/pdf", "certificate.pdf", pdf))
}
