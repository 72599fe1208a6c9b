//! `/api/find`: one field finds anything in the book, and the alterations of the craft.

use axum::Json;
use axum::extract::State;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::registry;
use yardwand_store::{Found, FoundRow};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::ApiError;
use crate::extract::QueryString;

#[derive(Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
struct Typed {
    /// Any part of a name, number or note; every word must be there. Accents and case do not matter.
    #[serde(default)]
    q: String,
}

#[derive(Clone, Copy, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
enum FoundKind {
    Client,
    Garment,
    Block,
    Alteration,
}

#[derive(Serialize, ToSchema)]
struct FoundView {
    kind: FoundKind,
    /// The number of the row, or the code of the alteration.
    key: String,
    title: String,
    /// What tells it from another of that name.
    detail: String,
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(find))
}

/// Clients, garments, blocks and alterations that hold every word; nothing where nothing was typed.
#[utoipa::path(get, path = "/api/find", params(Typed), responses((status = 200, body = Vec<FoundView>)))]
async fn find(
    State(state): State<AppState>,
    _: SignedIn,
    QueryString(Typed { q }): QueryString<Typed>,
) -> Result<Json<Vec<FoundView>>, ApiError> {
    if q.trim().is_empty() {
        return Ok(Json(Vec::new()));
    }
    let Found { clients, garments, blocks } = state.store.find(&q).await?;
    let rows = [(FoundKind::Client, clients), (FoundKind::Garment, garments), (FoundKind::Block, blocks)];
    let mut found: Vec<FoundView> = { rows.into_iter() }
        .flat_map(|(kind, rows)| rows.into_iter().map(move |row| (kind, row)))
        .map(|(kind, FoundRow { id, title, detail })| FoundView { kind, key: id.to_string(), title, detail })
        .collect();
    let words = q.to_lowercase();
    let known = registry().iter().filter(|each| {
        let said = format!("{} {}", each.name(), each.about().why).to_lowercase();
        words.split_whitespace().all(|word| said.contains(word))
    });
    found.extend(known.map(|each| FoundView {
        kind: FoundKind::Alteration,
        key: each.code().to_owned(),
        title: each.name().to_owned(),
        detail: each.about().why.to_owned(),
    }));
    Ok(Json(found))
}
