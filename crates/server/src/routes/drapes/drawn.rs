//! What is drawn from the marks of a drape, what is asked about it, and the block it becomes when everything is answered.
//! Nothing drawn is kept: it is computed from the clicks whenever it is looked at.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use chrono::Utc;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::Body;
use yardwand_core::compare::BlockSize;
use yardwand_core::drape::{
    Ask, Correction, DrapeFigure, DrapeInHand, DrapeUnit, Draped, Exchange, LineFit, MarkedBy, Marks,
    Material, Named, Refusal, transfer,
};
use yardwand_core::geometry::Pt;
use yardwand_core::pattern::{Garment, Pattern, PatternMeasure, check_pattern, measure};
use yardwand_core::{Length, Style};
use yardwand_store::{DrapeAnswer, DrapeRow, DrapeSeen, How, NewBlock};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::{body_of_client, name_of};
use crate::rights::Cutting;
use crate::routes::blocks::{DrawnBlock, drawn};
use crate::routes::cards::made_for;
use crate::views::{Made, optional_words, words};
use crate::workroom::ease_of_draft;

/// A yes that was given.
#[derive(Clone, Serialize, ToSchema)]
struct DrapeYes {
    /// Whose initials, where a doubt was overruled.
    initials: String,
    by: String,
}

/// Something that is drawn otherwise than it was clicked.
#[derive(Serialize, ToSchema)]
struct DrapeCorrection {
    key: String,
    piece: Draped,
    what: String,
    before: String,
    after: String,
    /// How much it is.
    by: String,
    needs_yes: bool,
    yes: Option<DrapeYes>,
    /// Where it is on the finished piece, and where it would have been.
    at: Option<Pt>,
    was: Option<Pt>,
    marks: Vec<Named>,
}

/// A question about what was clicked.
#[derive(Serialize, ToSchema)]
struct DrapeQuestion {
    key: String,
    /// None where it is of both pieces.
    piece: Option<Draped>,
    marks: Vec<Named>,
    says: String,
    /// Two marks that look exchanged.
    offer: Option<Exchange>,
    /// Whether she may say that it stands as it was marked.
    may_stand: bool,
    stands: Option<DrapeYes>,
}

/// A figure of what is drawn.
#[derive(Serialize, ToSchema)]
struct DrapeFigureView {
    key: String,
    piece: Draped,
    name: &'static str,
    text: String,
    doubt: Option<String>,
    overruled: Option<DrapeYes>,
}

/// How nearly a line passes what was clicked along it.
#[derive(Serialize, ToSchema)]
struct DrapeLine {
    piece: Draped,
    line: &'static str,
    furthest: String,
    on_average: String,
    dots: usize,
    left_out: usize,
}

/// Why nothing can be drawn yet.
#[derive(Serialize, ToSchema)]
pub(super) struct DrapeRefusal {
    says: String,
    piece: Option<Draped>,
    marks: Vec<Named>,
}

impl DrapeRefusal {
    pub(super) fn of(refusal: Refusal, style: Style) -> Self {
        let Refusal { refuses, marks, piece } = refusal;
        Self { says: style.say(&refuses), piece, marks }
    }
}

/// A cross or a dot on the drawing, in its piece's own frame.
#[derive(Serialize, ToSchema)]
pub(super) struct DrapeDot {
    piece: Draped,
    mark: Named,
    /// A cross; otherwise a dot of a run.
    cross: bool,
    at: Pt,
}

/// What is drawn from the marks, and everything there is to say of it.
#[derive(Default, Serialize, ToSchema)]
struct DrapeDrawn {
    refusal: Option<DrapeRefusal>,
    /// Front and back with figures and checks; none while marks cannot be where they are.
    drawn: Option<DrawnBlock>,
    /// What was clicked.
    dots: Vec<DrapeDot>,
    lines: Vec<DrapeLine>,
    corrections: Vec<DrapeCorrection>,
    asks: Vec<DrapeQuestion>,
    figures: Vec<DrapeFigureView>,
    notes: Vec<String>,
    /// How many questions, corrections and doubts wait for an answer.
    open: usize,
    /// Whether it may become a block.
    ready: bool,
    /// The revisions it was drawn from.
    seen: DrapeRevisions,
}

/// The revisions something was drawn from.
#[derive(Clone, Copy, Default, Deserialize, Serialize, ToSchema)]
struct DrapeRevisions {
    drape: u32,
    front: u32,
    back: u32,
}

impl From<DrapeSeen> for DrapeRevisions {
    fn from(DrapeSeen { drape, front, back }: DrapeSeen) -> Self {
        Self { drape, front, back }
    }
}

impl From<DrapeRevisions> for DrapeSeen {
    fn from(DrapeRevisions { drape, front, back }: DrapeRevisions) -> Self {
        Self { drape, front, back }
    }
}

/// An answer to one question.
#[derive(Deserialize, ToSchema)]
struct DrapeAnswerEntry {
    revision: u32,
    /// What it answers.
    key: String,
    /// Whether it is given or taken back.
    yes: bool,
    /// Of whoever overrules a doubt.
    #[serde(default)]
    initials: String,
}

/// A drape that becomes a block.
#[derive(Deserialize, ToSchema)]
struct DrapeBlockEntry {
    name: String,
    why: String,
    /// Its size's name.
    #[serde(default)]
    label: String,
    /// Readings of the figure it is made for, by code: of what is neither a client's nor a form's.
    #[serde(default)]
    made_for: BTreeMap<String, String>,
    /// Why it is taken over although a check fails.
    #[serde(default)]
    although: String,
    /// The revisions that were looked at.
    seen: DrapeRevisions,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(look)).routes(routes!(answer)).routes(routes!(keep))
}

/// The answers of a drape by what they are to.
struct Answers<'a>(&'a [DrapeAnswer]);

impl Answers<'_> {
    fn to(&self, key: &str) -> Option<DrapeYes> {
        let answer = self.0.iter().find(|answer| answer.key == key)?;
        Some(DrapeYes { initials: answer.initials.clone(), by: answer.by.clone() })
    }
}

fn amount(mm: f64, unit: DrapeUnit, style: Style) -> String {
    match unit {
        DrapeUnit::Mm => style.with_unit(mm),
        DrapeUnit::Degrees => format!("{mm:.1}\u{b0}"),
    }
}

/// What lies between both, so that it adds up as they are written.
fn between((before, after): (f64, f64), unit: DrapeUnit, style: Style) -> String {
    match unit {
        DrapeUnit::Mm => style.in_words(&style.difference(after, before)),
        DrapeUnit::Degrees => {
            let tenths = |degrees: f64| (degrees * 10.0).round() / 10.0;
            amount((tenths(after) - tenths(before)).abs(), unit, style)
        }
    }
}

fn correction(told: &Correction, answers: &Answers<'_>, style: Style) -> DrapeCorrection {
    // A correction of three millimetres is none in eighths.
    let style = style.finest();
    let key = told.key();
    DrapeCorrection {
        piece: told.piece,
        what: style.say(&told.what),
        before: amount(told.before, told.unit, style),
        after: amount(told.after, told.unit, style),
        by: between((told.before, told.after), told.unit, style),
        needs_yes: told.needs_yes,
        yes: answers.to(&key),
        at: told.at,
        was: told.was,
        marks: told.marks.clone(),
        key,
    }
}

fn question(ask: &Ask, answers: &Answers<'_>, style: Style) -> DrapeQuestion {
    let key = ask.key();
    DrapeQuestion {
        piece: ask.piece,
        marks: ask.marks.clone(),
        says: style.say(&ask.says),
        offer: ask.offer,
        may_stand: ask.may_stand(),
        stands: answers.to(&key).filter(|_| ask.may_stand()),
        key,
    }
}

fn figure(told: &DrapeFigure, answers: &Answers<'_>, style: Style) -> DrapeFigureView {
    let key = told.key();
    DrapeFigureView {
        piece: told.piece,
        name: told.name,
        text: amount(told.value, told.unit, style),
        doubt: told.doubt.as_ref().map(|doubt| style.say(doubt)),
        overruled: answers.to(&key).filter(|_| told.doubt.is_some()),
        key,
    }
}

fn line(told: &LineFit, style: Style) -> DrapeLine {
    let style = style.finest();
    DrapeLine {
        piece: told.piece,
        line: told.line,
        furthest: style.with_unit(told.max),
        on_average: style.with_unit(told.rms),
        dots: told.dots,
        left_out: told.left_out,
    }
}

pub(super) fn dots(piece: Draped, marks: &Marks) -> impl Iterator<Item = DrapeDot> {
    let crosses = marks.points().map(|(mark, at)| (Named::from(mark), at));
    let runs = marks.runs().flat_map(|(run, dots)| dots.iter().map(move |dot| (Named::from(run), *dot)));
    crosses.chain(runs).map(move |(mark, at)| DrapeDot {
        piece,
        mark,
        cross: matches!(mark, Named::Cross(_)),
        at: at.into(),
    })
}

/// What the clicks make, and the pattern that is drawn; none while marks cannot be where they are.
fn looked_at(row: &DrapeRow, style: Style) -> (DrapeDrawn, Option<Pattern>) {
    let seen = row.seen().into();
    let input = row.in_hand().input([row.front.picture, row.back.picture]);
    let told = match input.and_then(|input| transfer(&input)) {
        Ok(told) => told,
        Err(refusal) => {
            let refusal = Some(DrapeRefusal::of(refusal, style));
            return (DrapeDrawn { refusal, seen, ..DrapeDrawn::default() }, None);
        }
    };
    let answers = Answers(&row.answers);
    let corrections: Vec<_> = told.corrections.iter().map(|each| correction(each, &answers, style)).collect();
    let asks: Vec<_> = told.asks.iter().map(|ask| question(ask, &answers, style)).collect();
    let figures: Vec<_> = told.figures.iter().map(|each| figure(each, &answers, style)).collect();
    let open = corrections.iter().filter(|each| each.needs_yes && each.yes.is_none()).count()
        + asks.iter().filter(|ask| ask.stands.is_none()).count()
        + figures.iter().filter(|each| each.doubt.is_some() && each.overruled.is_none()).count();
    let clicked = Draped::BOTH.into_iter().zip(&told.clicked);
    let dots =
        clicked.flat_map(|(piece, marks)| marks.iter().flat_map(move |marks| dots(piece, marks))).collect();
    let pattern = (!told.pieces.is_empty()).then(|| Pattern::new(told.pieces).as_drafted());
    let now = DrapeDrawn {
        ready: pattern.is_some() && open == 0 && row.summary.block_id.is_none(),
        drawn: pattern.as_ref().map(|pattern| drawn(pattern, Vec::new(), None, style)),
        lines: told.lines.iter().map(|each| line(each, style)).collect(),
        notes: told.notes.iter().map(|note| style.say(note)).collect(),
        refusal: None,
        dots,
        corrections,
        asks,
        figures,
        open,
        seen,
    };
    (now, pattern)
}

/// The pattern that the marks of a toile make.
///
/// # Errors
///
/// A sentence: what keeps it from being drawn.
pub(in crate::routes) fn pattern_of_drape(row: &DrapeRow, style: Style) -> Result<Pattern, String> {
    let (now, pattern) = looked_at(row, style);
    pattern.ok_or_else(|| {
        let why = now.refusal.map(|refusal| refusal.says).or_else(|| Some(now.asks.first()?.says.clone()));
        format!("\u{201c}{}\u{201d} is not drawn yet: {}", row.summary.name, why.unwrap_or_default())
    })
}

/// What the marks make: front and back, what was corrected, what is asked.
#[utoipa::path(get, path = "/api/drapes/{id}/drawn", responses(
    (status = 200, body = DrapeDrawn), (status = 404, body = Problem)))]
async fn look(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<DrapeDrawn>, ApiError> {
    Ok(Json(looked_at(&state.store.drape(id).await?, style).0))
}

/// Answers one question of a drape, or takes an answer back.
#[utoipa::path(put, path = "/api/drapes/{id}/answers", request_body = DrapeAnswerEntry, responses(
    (status = 200, body = DrapeDrawn), (status = 404, body = Problem), (status = 409, body = Problem),
    (status = 422, body = Problem)))]
async fn answer(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<DrapeAnswerEntry>,
) -> Result<Json<DrapeDrawn>, ApiError> {
    let row = state.store.drape(id).await?;
    let initials = optional_words("/initials", "The initials", &entry.initials, 12)?;
    let (now, _) = looked_at(&row, style);
    let is_correction = now.corrections.iter().any(|each| each.key == entry.key);
    let is_doubt = now.asks.iter().any(|ask| ask.key == entry.key && ask.may_stand)
        || now.figures.iter().any(|each| each.key == entry.key && each.doubt.is_some());
    if !is_correction && !is_doubt {
        let says = "this is not asked any more: something was clicked again in the meantime";
        return Err(ApiError::field("/key", says));
    }
    if entry.yes && is_doubt && initials.is_empty() {
        let says = "a doubt is overruled with the initials of whoever looked at the cloth: write them";
        return Err(ApiError::field("/initials", says));
    }
    // Answers to what is not asked any more go.
    let asked = |key: &str| {
        now.corrections.iter().any(|each| each.key == key)
            || now.asks.iter().any(|ask| ask.key == key)
            || now.figures.iter().any(|each| each.key == key)
    };
    let mut answers = row.answers;
    answers.retain(|answer| answer.key != entry.key && asked(&answer.key));
    if entry.yes {
        let by = writer.person.name.clone();
        answers.push(DrapeAnswer { key: entry.key, initials, by, at: Utc::now() });
    }
    state.store.answer_drape(id, entry.revision, &answers, writer.once()).await?;
    Ok(Json(looked_at(&state.store.drape(id).await?, style).0))
}

/// The figure a block is made for: her readings, the form's figures, or what is printed on a pattern.
async fn figure_of(
    state: &AppState,
    row: &DrapeRow,
    typed: &BTreeMap<String, String>,
    style: Style,
) -> Result<Body, ApiError> {
    if let Some(client) = row.summary.client_id {
        return body_of_client(&state.store, client).await;
    }
    if let Some(form) = row.summary.form_id {
        return Ok(state.store.form(form).await?.figures);
    }
    let mut figure = Body::default();
    for (code, text) in typed.iter().filter(|(_, text)| !text.trim().is_empty()) {
        let at = format!("/made_for/{code}");
        if !made_for(Garment::Bodice).contains(&code.as_str()) {
            let says =
                format!("what a pattern is made for is told by {}", made_for(Garment::Bodice).join(", "));
            return Err(ApiError::field(&at, says));
        }
        let entered = Length::read(text.trim(), style.unit())
            .map_err(|error| ApiError::field(&at, format!("{}: {error}", name_of(code))))?;
        figure = figure.with(code, entered.length.mm());
    }
    Ok(figure)
}

/// Where a block's `told` ends.
const MOST_TOLD: usize = 600;

/// How the block came about, in sentences: it stands with it for good.
fn told(row: &DrapeRow, in_hand: &DrapeInHand, now: &DrapeDrawn, although: &str) -> String {
    let by = |by: MarkedBy| match by {
        MarkedBy::Typing => "typed marks",
        MarkedBy::Photograph => "a photograph",
        MarkedBy::Path => "a path file",
    };
    let from = match (by(in_hand.front.by), by(in_hand.back.by)) {
        (front, back) if front == back => format!("front and back from {front}"),
        (front, back) => format!("front from {front}, back from {back}"),
    };
    let made = match (in_hand.material(), &row.summary.form, &row.summary.client) {
        (Material::Toile, Some(form), _) => format!("Draped on {form}"),
        (Material::Toile, None, Some(client)) => format!("Draped for {client}"),
        (Material::Toile, None, None) => "Draped".to_owned(),
        (Material::Paper, ..) => "From a paper pattern".to_owned(),
        (Material::Slashed, ..) => "A slashed back".to_owned(),
    };
    let printed = &in_hand.facts.printed;
    let printed = if printed.is_empty() { String::new() } else { format!(", printed size {printed}") };
    let side = in_hand.facts.side.map_or_else(String::new, |side| format!(", her {} side", side.name()));
    let mut says = vec![format!("{made}{side}{printed}: {from}.")];
    let accepted: Vec<String> = { now.corrections.iter() }
        .filter(|each| each.needs_yes && each.yes.is_some())
        .map(|each| format!("{} of the {} {} to {}", each.what, each.piece.name(), each.before, each.after))
        .collect();
    if !accepted.is_empty() {
        says.push(format!("Accepted: {}.", accepted.join("; ")));
    }
    let doubts = now.asks.iter().map(|ask| (&ask.says, &ask.stands));
    let doubts =
        doubts.chain(now.figures.iter().filter_map(|each| Some((each.doubt.as_ref()?, &each.overruled))));
    for (doubt, yes) in doubts {
        says.extend(yes.as_ref().map(|yes| format!("{doubt} It stands ({}).", yes.initials)));
    }
    if !although.is_empty() {
        says.push(format!("Taken over although a check fails: {although}."));
    }
    let whole = says.join(" ");
    match whole.char_indices().nth(MOST_TOLD - 1) {
        Some((end, _)) => format!("{}\u{2026}", &whole[..end]),
        None => whole,
    }
}

/// Keeps what was drawn as a block. The drape stays as it was marked.
#[utoipa::path(post, path = "/api/drapes/{id}/block", request_body = DrapeBlockEntry, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 409, body = Problem),
    (status = 422, body = Problem)))]
async fn keep(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(entry): JsonBody<DrapeBlockEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The block's name", &entry.name, 120)?;
    let why = words("/why", "The reason", &entry.why, 400)?;
    let label = optional_words("/label", "The size's name", &entry.label, 40)?;
    let although = optional_words("/although", "Why it is taken over all the same", &entry.although, 200)?;
    let row = state.store.drape(id).await?;
    let (now, pattern) = looked_at(&row, style);
    if let Some(refusal) = &now.refusal {
        return Err(ApiError::field("/seen", refusal.says.clone()));
    }
    let in_hand = row.in_hand();
    let Some(mut pattern) = pattern.filter(|_| now.open == 0) else {
        let says = format!(
            "{} still open: answer every question, correction and doubt before it becomes a block",
            if now.open == 1 { "one thing is".to_owned() } else { format!("{} things are", now.open) }
        );
        return Err(ApiError::field("/seen", says));
    };
    let failing = check_pattern(&pattern, style).into_iter().find(|check| !check.passed);
    if let Some(check) = failing.filter(|_| although.is_empty()) {
        let says =
            format!("a check fails: {}. {} Say why it is taken over all the same", check.name, check.says);
        return Err(ApiError::field("/although", says));
    }
    let figure = figure_of(&state, &row, &entry.made_for, style).await?;
    pattern.bust_ease = measure(&pattern)
        .get(PatternMeasure::Bust)
        .zip(figure.get("bust_girth"))
        .map(|(bust, girth)| bust - girth);
    let usual = if row.summary.client_id.is_some() { "own" } else { "one size" };
    let label = if label.is_empty() { usual.to_owned() } else { label };
    let new = NewBlock {
        name,
        client_id: row.summary.client_id,
        how: if in_hand.material() == Material::Paper { How::Paper } else { How::Draped },
        told: told(&row, &in_hand, &now, &although),
        parent_id: None,
        method: None,
        ease_set: ease_of_draft(&state.store, None, Garment::Bodice).await?.code,
        why,
        sizes: vec![BlockSize::drawn(&label, figure, pattern)],
    };
    let id = state.store.drape_became(id, entry.seen.into(), &new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
