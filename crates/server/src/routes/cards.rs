//! `/api/cards`: blocks that exist only on paper, measured by hand.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::body::Body;
use yardwand_core::compare::{BlockSize, card_figures, card_needs};
use yardwand_core::pattern::{Garment, PatternMeasure, PatternMeasures};
use yardwand_core::{Length, Style};
use yardwand_store::{How, NewBlock};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, JsonBody, Writer};
use crate::figures::name_of;
use crate::rights::Cutting;
use crate::views::{Made, words};
use crate::workroom::{ONLY_COMPARED, ease_of_draft};

/// A card as it is typed, in the house's unit.
#[derive(Deserialize, ToSchema)]
struct CardEntry {
    name: String,
    why: String,
    /// What it is of.
    #[serde(default)]
    garment: Garment,
    /// The client it belongs to, where it is hers.
    #[serde(default)]
    client: Option<u64>,
    /// Its sizes, from the smallest.
    sizes: Vec<CardSizeEntry>,
}

/// One size of a card.
#[derive(Deserialize, ToSchema)]
struct CardSizeEntry {
    /// The size's name.
    label: String,
    /// Readings of the figure it is made for, by code, where the card says so.
    #[serde(default)]
    made_for: BTreeMap<String, String>,
    /// What was measured on it.
    figures: BTreeMap<PatternMeasure, String>,
}

/// What a card of a garment can hold.
#[derive(Serialize, ToSchema)]
struct CardForm {
    garment: Garment,
    /// The garment's name.
    name: String,
    /// What to know of such a card, where there is something.
    says: Option<String>,
    /// Readings of the figure it may be made for: code and name.
    made_for: Vec<CardReading>,
    figures: Vec<CardField>,
}

/// A reading of the figure a card is made for.
#[derive(Serialize, ToSchema)]
struct CardReading {
    code: String,
    name: String,
}

/// A figure that a card can hold.
#[derive(Serialize, ToSchema)]
struct CardField {
    figure: PatternMeasure,
    name: String,
    /// Without it a comparison says too little.
    needed: bool,
}

/// More sizes than an envelope has.
const MOST_SIZES_ON_A_CARD: usize = 12;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(forms, keep))
}

/// The readings of the figure that a card of such a garment may be made for.
pub(super) const fn made_for(garment: Garment) -> &'static [&'static str] {
    match garment {
        Garment::Bodice => &["bust_girth", "upper_bust_girth"],
        Garment::Skirt | Garment::Trousers => &["hip_girth"],
    }
}

/// What a card can hold, by what it is of.
#[utoipa::path(get, path = "/api/cards", responses((status = 200, body = Vec<CardForm>)))]
async fn forms(_: SignedIn) -> Json<Vec<CardForm>> {
    let form = |garment: Garment| {
        let field = |figure: PatternMeasure| CardField {
            figure,
            name: figure.name().to_owned(),
            needed: card_needs(garment).contains(&figure),
        };
        let reading = |code: &&str| CardReading { code: (*code).to_owned(), name: name_of(code) };
        let (name, says) = match garment {
            Garment::Bodice => ("Bodice or dress", None),
            Garment::Skirt => ("Skirt", None),
            Garment::Trousers => ("Trousers", Some(ONLY_COMPARED)),
        };
        CardForm {
            garment,
            name: name.to_owned(),
            says: says.map(str::to_owned),
            made_for: made_for(garment).iter().map(reading).collect(),
            figures: card_figures(garment).map(field).collect(),
        }
    };
    Json(Garment::ALL.into_iter().map(form).collect())
}

impl CardSizeEntry {
    /// The size as a block has it; `place` is its place on the card.
    fn read(&self, place: usize, garment: Garment, style: Style) -> Result<BlockSize, ApiError> {
        let at = |rest: &str| format!("/sizes/{place}/{rest}");
        let label = words(&at("label"), "The size's name", &self.label, 40)?;
        let read = |rest: &str, name: &str, text: &str| {
            Length::read(text.trim(), style.unit())
                .map(|entered| entered.length.mm())
                .map_err(|error| ApiError::field(&at(rest), format!("{name} of size {label}: {error}")))
        };
        let mut figures = Vec::new();
        for (figure, text) in self.figures.iter().filter(|(_, text)| !text.trim().is_empty()) {
            let code = serde_json::to_value(figure).ok().and_then(|code| code.as_str().map(str::to_owned));
            let rest = format!("figures/{}", code.unwrap_or_default());
            if !card_figures(garment).any(|known| known == *figure) {
                let says = format!("{} is no figure of this garment: leave it out", figure.name());
                return Err(ApiError::field(&at(&rest), says));
            }
            figures.push((*figure, read(&rest, figure.name(), text)?));
        }
        let figures: PatternMeasures = figures.into_iter().collect();
        let is_wanting = |figure: &&PatternMeasure| figures.get(**figure).is_none();
        let wanting: Vec<&str> = card_needs(garment).iter().filter(is_wanting).map(|it| it.name()).collect();
        if !wanting.is_empty() {
            let says = format!(
                "there is too little of size {label} to compare with: it wants at least {}",
                wanting.join(", ")
            );
            return Err(ApiError::field(&at("figures"), says));
        }
        let mut figure = Body::default();
        for (code, text) in self.made_for.iter().filter(|(_, text)| !text.trim().is_empty()) {
            let rest = format!("made_for/{code}");
            if !made_for(garment).contains(&code.as_str()) {
                let says = format!("what a card is made for is told by {}", made_for(garment).join(", "));
                return Err(ApiError::field(&at(&rest), says));
            }
            figure = figure.with(code, read(&rest, &name_of(code), text)?);
        }
        Ok(BlockSize::card(&label, figure, figures))
    }
}

/// Keeps a card: a block measured by hand, without geometry.
#[utoipa::path(post, path = "/api/cards", request_body = CardEntry, responses(
    (status = 201, body = Made), (status = 422, body = Problem)))]
async fn keep(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    JsonBody(entry): JsonBody<CardEntry>,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    let name = words("/name", "The card's name", &entry.name, 120)?;
    let why = words("/why", "The reason", &entry.why, 400)?;
    if entry.sizes.is_empty() || entry.sizes.len() > MOST_SIZES_ON_A_CARD {
        let says = format!("a card has between 1 and {MOST_SIZES_ON_A_CARD} sizes");
        return Err(ApiError::field("/sizes", says));
    }
    let sizes = { entry.sizes.iter().enumerate() }
        .map(|(place, size)| size.read(place, entry.garment, style))
        .collect::<Result<Vec<_>, _>>()?;
    if let Some(place) =
        (1..sizes.len()).find(|at| sizes[..*at].iter().any(|size| size.label == sizes[*at].label))
    {
        let says = format!("two sizes are called {}: name them apart", sizes[place].label);
        return Err(ApiError::field(&format!("/sizes/{place}/label"), says));
    }
    if let Some(client) = entry.client {
        state.store.client(client).await?;
    }
    let new = NewBlock {
        name,
        client_id: entry.client,
        how: How::Card,
        told: String::new(),
        parent_id: None,
        method: None,
        ease_set: ease_of_draft(&state.store, None, entry.garment).await?.code,
        why,
        sizes,
    };
    let id = state.store.add_block(&new, writer.once()).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}
