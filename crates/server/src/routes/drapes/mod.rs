//! `/api/drapes`: a draped toile or a paper pattern on its way to a block. Every click is kept as it is made; what is drawn from
//! them stands in [`drawn`], what helps while marking in
//! [`helping`], the cloth before it goes on in [`cloth`], a back that was slashed on her in [`slashed`].

mod cloth;
mod drawn;
mod guide;
mod helping;
mod slashed;

pub(super) use drawn::pattern_of_drape;

use axum::Json;
use axum::body::Bytes;
use axum::extract::rejection::BytesRejection;
use axum::extract::{DefaultBodyLimit, State};
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use chrono::{DateTime, Utc};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::Style;
use yardwand_core::drape::{
    ControlLength, DartsDecided, DrapeFacts, DrapeInHand, Draped, Given, LONGEST_PATH, MOST_CONTROLS,
    MOST_SHEETS, MarkWanted, Material, PieceInHand, darts_there_may_be,
};
use yardwand_core::pattern::DartPlace;
use yardwand_store::{DrapePieceRow, DrapeRow, DrapeSummary, NewDrape};

use super::rounds::PictureBytes;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, InPath, JsonBody, QueryString, Writer};
use crate::picture::Kept;
use crate::rights::Cutting;
use crate::views::{Based, Made, optional_words, words};
use crate::{AppState, PHOTO_LIMIT};

/// A drape in a list.
#[derive(Serialize, ToSchema)]
struct DrapeListed {
    id: u64,
    name: String,
    client_id: Option<u64>,
    client: Option<String>,
    form_id: Option<u64>,
    form: Option<String>,
    /// A back that was slashed on her: it makes no block, it corrects one.
    slashed: bool,
    /// The block it became.
    block_id: Option<u64>,
    changed_by: String,
    changed_at: DateTime<Utc>,
}

impl From<DrapeSummary> for DrapeListed {
    fn from(row: DrapeSummary) -> Self {
        Self {
            id: row.id,
            name: row.name,
            client_id: row.client_id,
            client: row.client,
            form_id: row.form_id,
            form: row.form,
            slashed: row.slashed,
            block_id: row.block_id,
            changed_by: row.changed_by,
            changed_at: row.changed_at,
        }
    }
}

/// A piece of a drape, with everything that is marked of it.
#[derive(Serialize, ToSchema)]
struct DrapePieceView {
    marked: PieceInHand,
    /// Width and height of its photograph, in pixels.
    picture: Option<[u32; 2]>,
    revision: u32,
    /// Its marks, in one walk round the piece.
    wanted: Vec<MarkWanted>,
    /// The darts it may be shaped with.
    darts: &'static [DartPlace],
}

/// A drape with everything that was stated and marked.
#[derive(Serialize, ToSchema)]
struct DrapeView {
    #[serde(flatten)]
    listed: DrapeListed,
    facts: DrapeFacts,
    /// What lies on the table: cloth, or paper.
    material: Material,
    revision: u32,
    front: DrapePieceView,
    back: DrapePieceView,
}

/// What a drape is begun with.
#[derive(Deserialize, ToSchema)]
struct DrapeEntry {
    name: String,
    /// Whose body it was draped for.
    #[serde(default)]
    client: Option<u64>,
    /// Which form it was draped on.
    #[serde(default)]
    form: Option<u64>,
    /// What lies on the table.
    #[serde(default)]
    material: Option<Material>,
    /// The drape whose marks, photographs and facts are taken over.
    #[serde(default)]
    copy_of: Option<u64>,
    /// Of that one the facts alone: this is the other side of an uneven body.
    #[serde(default)]
    other_side: bool,
}

/// A drape's name, and what is stated of it.
#[derive(Deserialize, ToSchema)]
struct DrapeChange {
    name: String,
    facts: DrapeFacts,
}

/// A piece as it is marked now.
#[derive(Deserialize, ToSchema)]
struct MarkedEntry {
    revision: u32,
    marked: PieceInHand,
}

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct WhoseDrapes {
    /// Of this client alone.
    client: Option<u64>,
}

/// Which piece.
#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Path)]
#[expect(dead_code, reason = "it describes the path")]
struct OfPiece {
    piece: Draped,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .routes(routes!(take_photograph))
        .layer(DefaultBodyLimit::max(PHOTO_LIMIT))
        .routes(routes!(list, begin))
        .routes(routes!(get, change, take_out))
        .routes(routes!(put_back))
        .routes(routes!(mark))
        .routes(routes!(photograph))
        .merge(cloth::routes())
        .merge(drawn::routes())
        .merge(guide::routes())
        .merge(helping::routes())
        .merge(slashed::routes())
}

fn piece_view(row: &DrapeRow, in_hand: &DrapeInHand, piece: Draped) -> DrapePieceView {
    let DrapePieceRow { in_hand: marked, picture, revision } = row.piece(piece).clone();
    let wanted = in_hand.checklist(piece);
    DrapePieceView { marked, picture, revision, wanted, darts: darts_there_may_be(piece) }
}

fn view(row: DrapeRow) -> DrapeView {
    let in_hand = row.in_hand();
    DrapeView {
        front: piece_view(&row, &in_hand, Draped::Front),
        back: piece_view(&row, &in_hand, Draped::Back),
        material: in_hand.material(),
        facts: in_hand.facts,
        revision: row.revision,
        listed: row.summary.into(),
    }
}

/// Drapes and paper patterns in hand and taken over, the last changed first.
#[utoipa::path(get, path = "/api/drapes", params(WhoseDrapes), responses((status = 200, body = Vec<DrapeListed>)))]
async fn list(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(whose): QueryString<WhoseDrapes>,
) -> Result<Json<Vec<DrapeListed>>, ApiError> {
    let rows = state.store.drapes(whose.client).await?;
    Ok(Json(rows.into_iter().map(DrapeListed::from).collect()))
}

/// Begins a drape, or a paper pattern; or goes on with a copy of the marks of another one.
#[utoipa::path(post, path = "/api/drapes", request_body = DrapeEntry, responses(
    (status = 201, body = Made), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn begin(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    JsonBody(entry): JsonBody<DrapeEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The name", &entry.name, 120)?;
    if entry.client.is_some() && entry.form.is_some() {
        let says = "name the client or the form, not both: a form that is padded for her is draped for her";
        return Err(ApiError::field("/form", says));
    }
    if let Some(client) = entry.client {
        state.store.client(client).await?;
    }
    let tape_of_form = match entry.form {
        Some(form) => state.store.form(form).await?.marking.tape_width,
        None => None,
    };
    let in_hand = match entry.copy_of {
        Some(before) if entry.other_side => {
            let facts = state.store.drape(before).await?.in_hand().facts;
            let side = facts.side.ok_or_else(|| {
                let says = "it is not said which side this toile is of: state left or right first";
                ApiError::field("/other_side", says)
            })?;
            let facts = DrapeFacts { side: Some(side.other()), ..facts };
            DrapeInHand { facts, ..DrapeInHand::default() }
        }
        Some(before) => state.store.drape(before).await?.in_hand(),
        None => {
            let mut facts = usual_facts(entry.material.unwrap_or(Material::Toile));
            facts.given.tape_width = tape_of_form.unwrap_or(facts.given.tape_width);
            DrapeInHand { facts, ..DrapeInHand::default() }
        }
    };
    let pictures_of = entry.copy_of.filter(|_| !entry.other_side);
    let new = NewDrape { name, client_id: entry.client, form_id: entry.form, in_hand, pictures_of };
    let id = state.store.begin_drape(&new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// What is usual before anybody says otherwise: a toile is draped skin tight with a dart at the waist of both pieces.
fn usual_facts(material: Material) -> DrapeFacts {
    let given =
        Given { material: Some(material), skin_tight: material == Material::Toile, ..Given::default() };
    let darts = match material {
        Material::Slashed => DartsDecided::default(),
        Material::Toile | Material::Paper => {
            DartsDecided { front: vec![DartPlace::Waist], back: vec![DartPlace::Waist] }
        }
    };
    DrapeFacts { given, darts, ..DrapeFacts::default() }
}

/// A drape with everything that was stated and marked.
#[utoipa::path(get, path = "/api/drapes/{id}", responses((status = 200, body = DrapeView), (status = 404, body = Problem)))]
async fn get(State(state): State<AppState>, _: SignedIn, Id(id): Id) -> Result<Json<DrapeView>, ApiError> {
    Ok(Json(view(state.store.drape(id).await?)))
}

/// Changes a drape's name and what is stated of it.
#[utoipa::path(put, path = "/api/drapes/{id}", request_body = Based<DrapeChange>, responses(
    (status = 200, body = DrapeView), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn change(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<DrapeChange>>,
) -> Result<Json<DrapeView>, ApiError> {
    let DrapeChange { name, facts } = based.change;
    let name = words("/name", "The name", &name, 120)?;
    let facts = checked(facts, style)?;
    state.store.change_drape(id, based.revision, (&name, &facts), writer.once()).await?;
    Ok(Json(view(state.store.drape(id).await?)))
}

/// What is stated, if it can be meant.
fn checked(facts: DrapeFacts, style: Style) -> Result<DrapeFacts, ApiError> {
    let excess = optional_words("/facts/excess", "Where the excess went", &facts.excess, 200)?;
    let printed = optional_words("/facts/printed", "The printed size", &facts.printed, 40)?;
    if let Some((field, says)) = facts.given.out_of_bounds() {
        return Err(ApiError::field(&format!("/facts/given/{field}"), style.say(&says)));
    }
    let mut darts = facts.darts;
    for (piece, own) in [(Draped::Front, &mut darts.front), (Draped::Back, &mut darts.back)] {
        own.dedup();
        if let Some(other) = own.iter().find(|dart| !darts_there_may_be(piece).contains(dart)) {
            let says = format!("a {} has no {} to mark: leave it out", piece.name(), other.name());
            return Err(ApiError::field(&format!("/facts/darts/{}", piece.name()), says));
        }
    }
    Ok(DrapeFacts { excess, printed, darts, ..facts })
}

/// Takes a drape out. It can be put back.
#[utoipa::path(delete, path = "/api/drapes/{id}", responses((status = 204), (status = 404, body = Problem)))]
async fn take_out(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_drape(id, true, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Puts a drape that was taken out back.
#[utoipa::path(post, path = "/api/drapes/{id}/restore", responses((status = 204), (status = 404, body = Problem)))]
async fn put_back(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    Id(id): Id,
) -> Result<StatusCode, ApiError> {
    state.store.take_out_drape(id, false, writer.once()).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Keeps what is marked of a piece, however little there is yet.
#[utoipa::path(put, path = "/api/drapes/{id}/pieces/{piece}", params(OfPiece), request_body = MarkedEntry, responses(
    (status = 200, body = DrapePieceView), (status = 404, body = Problem), (status = 409, body = Problem),
    (status = 422, body = Problem)))]
async fn mark(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    InPath((id, piece)): InPath<(u64, Draped)>,
    JsonBody(entry): JsonBody<MarkedEntry>,
) -> Result<Json<DrapePieceView>, ApiError> {
    let MarkedEntry { revision, marked } = entry;
    fits(&marked)?;
    state.store.mark_drape((id, piece), revision, &marked, writer.once()).await?;
    let row = state.store.drape(id).await?;
    Ok(Json(piece_view(&row, &row.in_hand(), piece)))
}

/// Whether there is no more of it than can be meant; whether it can be drawn is said where it is drawn.
fn fits(marked: &PieceInHand) -> Result<(), ApiError> {
    if marked.sheets.len() > MOST_SHEETS || marked.sheets.iter().any(|sheet| sheet.corners_px.len() > 4) {
        let says = format!("a photograph has at most {MOST_SHEETS} sheets with four corners each");
        return Err(ApiError::field("/marked/sheets", says));
    }
    if marked.tape.ends_px.len() > 2 {
        return Err(ApiError::field("/marked/tape", "a tape has two ends"));
    }
    if marked.controls.len() > MOST_CONTROLS {
        let says = format!("at most {MOST_CONTROLS} lengths are taken by tape across a piece");
        return Err(ApiError::field("/marked/controls", says));
    }
    if let Some(place) = marked.controls.iter().position(|ControlLength { from, to, .. }| from == to) {
        let says = "a length by tape runs between two marks: choose another one for its end";
        return Err(ApiError::field(&format!("/marked/controls/{place}"), says));
    }
    if marked.path.len() > LONGEST_PATH {
        let says = format!("this path is longer than {LONGEST_PATH} characters: save the outline alone");
        return Err(ApiError::field("/marked/path", says));
    }
    Ok(())
}

/// Takes the photograph of a piece in: written anew, in all its fineness, without what the camera says of itself.
#[utoipa::path(post, path = "/api/drapes/{id}/pieces/{piece}/photograph", params(OfPiece),
    request_body(content = PictureBytes, content_type = "application/octet-stream"), responses(
    (status = 200, body = DrapePieceView), (status = 404, body = Problem), (status = 409, body = Problem),
    (status = 413, body = Problem), (status = 422, body = Problem), (status = 429, body = Problem)))]
async fn take_photograph(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    InPath((id, piece)): InPath<(u64, Draped)>,
    bytes: Result<Bytes, BytesRejection>,
) -> Result<Json<DrapePieceView>, ApiError> {
    let bytes = bytes.map_err(|rejection| match rejection.status() {
        StatusCode::PAYLOAD_TOO_LARGE => ApiError::LARGE_PHOTOGRAPH,
        _ => ApiError::Unreadable("the photograph did not arrive whole: send it again".to_owned()),
    })?;
    let picture = state.pictures.taken_in(bytes, Kept::ToMeasureIn).await?;
    let image = (picture.bytes.as_slice(), [picture.width, picture.height]);
    state.store.photograph_drape((id, piece), image, writer.once()).await?;
    let row = state.store.drape(id).await?;
    Ok(Json(piece_view(&row, &row.in_hand(), piece)))
}

/// The photograph of a piece.
#[utoipa::path(get, path = "/api/drapes/{id}/pieces/{piece}/photograph", params(OfPiece), responses(
    (status = 200, body = PictureBytes, content_type = "image/jpeg"), (status = 404, body = Problem)))]
async fn photograph(
    State(state): State<AppState>,
    _: SignedIn,
    InPath((id, piece)): InPath<(u64, Draped)>,
) -> Result<Response, ApiError> {
    let bytes = state.store.drape_picture(id, piece).await?;
    Ok(([(header::CONTENT_TYPE, "image/jpeg")], bytes).into_response())
}
