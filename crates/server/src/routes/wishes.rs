//! `/api/orders/{id}/wishes`: what she wishes of a garment, as steps of its recipe, drawn as it is typed and written down.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::{Preview, make, preview};
use yardwand_core::body::{Measurement, Profile};
use yardwand_core::compare::{Wish, wishes, wishes_of, with_wishes};
use yardwand_core::ease::EaseSet;
use yardwand_core::pattern::{Pattern, PieceDrawing, draw_pattern};
use yardwand_core::{Entered, Length, Style};
use yardwand_store::{NewReading, NewSession, PatternRow, Store};

use super::patterns::{Saved, checked};
use super::sessions::has_agreed;
use crate::AppState;
use crate::auth::SignedIn;
use crate::error::{ApiError, Problem};
use crate::extract::{HouseStyle, Id, JsonBody, Writer};
use crate::figures::profile_of_client;
use crate::rights::Cutting;
use crate::views::Based;
use crate::workroom::ease_of_order;

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(of_order, write_down)).routes(routes!(drawn))
}

/// What she wishes of a garment, in millimetres, by the code of the measurement; what is left out stays as her card has it.
#[derive(Deserialize, ToSchema)]
struct Wished {
    #[serde(default)]
    wished: BTreeMap<String, Option<f64>>,
}

/// One thing that she may wish of such a garment.
#[derive(Serialize, ToSchema)]
struct WishField {
    /// Code of the measurement.
    code: String,
    /// What it is.
    name: String,
    /// What her card has, in millimetres.
    mm: Option<f64>,
    /// It is wished, and nothing can be made of it with what else is measured and on this block.
    unmade: bool,
    /// The least there is, in millimetres.
    low: f64,
    /// The most there is, in millimetres.
    high: f64,
}

/// A garment as she wishes it.
#[derive(Serialize, ToSchema)]
struct WishesDrawn {
    fields: Vec<WishField>,
    wishes: Vec<Wish>,
    /// The garment as it is on the cutting table.
    before: Vec<PieceDrawing>,
    /// The garment with what she wishes.
    preview: Preview,
    /// The revision of its recipe.
    revision: u32,
}

/// What her readings wish of a garment, on the block its pattern was begun from; nothing before one is begun.
#[utoipa::path(get, path = "/api/orders/{id}/wishes", responses((status = 200, body = Vec<Wish>), (status = 404, body = Problem)))]
async fn of_order(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Json<Vec<Wish>>, ApiError> {
    let facts = state.store.order(id).await?;
    let Some(pattern) = facts.pattern_id else { return Ok(Json(Vec::new())) };
    let profile = profile_of_client(&state.store, facts.order.client_id).await?;
    let pattern = state.store.pattern(pattern).await?;
    let ease = ease_of_order(&state.store, id, pattern.block.garment()).await?;
    Ok(Json(wishes(&profile, &pattern.block, &ease, style)))
}

/// The garment drawn as she wishes it. Nothing is kept.
#[utoipa::path(post, path = "/api/orders/{id}/wishes/drawn", request_body = Wished, responses(
    (status = 200, body = WishesDrawn), (status = 404, body = Problem), (status = 422, body = Problem)))]
async fn drawn(
    State(state): State<AppState>,
    _: SignedIn,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(asked): JsonBody<Wished>,
) -> Result<Json<WishesDrawn>, ApiError> {
    let garment = GarmentInHand::of(&state.store, id).await?;
    let wishing = garment.wishing(&asked.wished, style)?;
    let own = garment.wishes(&wishing, style);
    let recipe = with_wishes(&garment.pattern.recipe, &own);
    let was = make(&garment.pattern.block, &garment.pattern.recipe, style).pattern;
    let field = |row: &Measurement| WishField {
        code: row.code.clone(),
        name: row.name.trim_end_matches(", wished").to_owned(),
        mm: garment.profile.get(&row.code).and_then(|figure| figure.mm),
        unmade: wishing.get(&row.code).is_some_and(|figure| figure.mm.is_some())
            && !own.iter().any(|wish| wish.readings.contains(&row.code)),
        low: row.low,
        high: row.high,
    };
    let fields = garment.rows().map(field).collect();
    Ok(Json(WishesDrawn {
        fields,
        before: draw_pattern(&was, style),
        preview: preview(&garment.pattern.block, &recipe, None, style),
        wishes: own,
        revision: garment.pattern.revision,
    }))
}

/// Writes down what she wishes: the readings that are new as a session of their own, signed by who writes, and the steps in the
/// recipe of the garment, in one go. 409 where the recipe was changed since.
#[utoipa::path(put, path = "/api/orders/{id}/wishes", request_body = Based<Wished>, responses(
    (status = 200, body = Saved), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
async fn write_down(
    State(state): State<AppState>,
    writer: Writer<Cutting>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
    JsonBody(based): JsonBody<Based<Wished>>,
) -> Result<Json<Saved>, ApiError> {
    let garment = GarmentInHand::of(&state.store, id).await?;
    let wishing = garment.wishing(&based.change.wished, style)?;
    let recipe = with_wishes(&garment.pattern.recipe, &garment.wishes(&wishing, style));
    checked(&recipe, style)?;
    let is_new = |(code, mm): &(&String, &Option<f64>)| {
        mm.is_some() && garment.profile.get(code).and_then(|figure| figure.mm) != **mm
    };
    let readings: Vec<NewReading> = { based.change.wished.iter() }
        .filter(is_new)
        .filter_map(|(code, mm)| {
            let (length, unit) = (Length::from_mm((*mm)?), style.unit());
            let as_typed = |text: &str| Length::read(text, unit).is_ok_and(|read| read.length == length);
            // As it is typed here; finer where it lies on no mark of the tape; in millimetres where it was typed in another unit.
            let texts = [style.typed(length.mm()), style.exact(length.mm())];
            let typed = texts.into_iter().find(|text| as_typed(text));
            let typed = typed.unwrap_or_else(|| format!("{} mm", length.mm()));
            let entered = Entered { length, typed, unit };
            Some(NewReading::plain(code, entered))
        })
        .collect();
    if readings.is_empty() && recipe == garment.pattern.recipe && garment.pattern.revision == based.revision {
        return Ok(Json(Saved { revision: based.revision }));
    }
    if !readings.is_empty() {
        has_agreed(&state.store, garment.client).await?;
    }
    let codes: Vec<String> = readings.iter().map(|reading| reading.code.clone()).collect();
    let session = NewSession {
        client: garment.client,
        order: Some(id),
        set_code: "chosen",
        set_name: "What she wishes",
        codes: &codes,
        unit: style.unit(),
    };
    let pattern = (garment.pattern.id, &recipe, based.revision);
    let revision =
        state.store.write_wishes(session, &readings, &writer.person.name, pattern, writer.once()).await?;
    Ok(Json(Saved { revision }))
}

/// A garment with its pattern and the card of whom it is for.
struct GarmentInHand {
    client: u64,
    profile: Profile,
    pattern: PatternRow,
    ease: EaseSet,
}

impl GarmentInHand {
    async fn of(store: &Store, order: u64) -> Result<Self, ApiError> {
        let facts = store.order(order).await?;
        let pattern = facts.pattern_id.ok_or_else(|| {
            ApiError::NotFound("no pattern is begun: choose a block on the Compare page first".to_owned())
        })?;
        let client = facts.order.client_id;
        let pattern = store.pattern(pattern).await?;
        Ok(Self {
            client,
            profile: profile_of_client(store, client).await?,
            ease: ease_of_order(store, order, pattern.block.garment()).await?,
            pattern,
        })
    }

    /// What is wished of it. What would only be possible by what was measured is offered on the cutting table, not taken here.
    fn wishes(&self, card: &Profile, style: Style) -> Vec<Wish> {
        let block = &self.pattern.block;
        wishes(card, block, &self.ease, style)
            .into_iter()
            .filter(|wish| wish.is_wished(block.garment()))
            .collect()
    }

    /// What may be wished of it.
    fn rows(&self) -> impl Iterator<Item = &'static Measurement> {
        let block: &Pattern = &self.pattern.block;
        wishes_of(block.garment())
    }

    /// Her card with these wishes, each within what there is of it.
    fn wishing(&self, wished: &BTreeMap<String, Option<f64>>, style: Style) -> Result<Profile, ApiError> {
        let mut profile = self.profile.clone();
        for (code, mm) in wished {
            let field = format!("/wished/{code}");
            let row = { self.rows() }.find(|row| row.code == *code).ok_or_else(|| {
                ApiError::field(&field, format!("nothing called “{code}” is wished of such a garment"))
            })?;
            if let Some(mm) = mm.filter(|mm| !(row.low..=row.high).contains(mm)) {
                let says = format!(
                    "{}: {} is not between {} and {}",
                    row.name,
                    style.with_unit(mm),
                    style.with_unit(row.low),
                    style.with_unit(row.high)
                );
                return Err(ApiError::field(&field, says));
            }
            profile = profile.wishing(code, *mm);
        }
        Ok(profile)
    }
}
