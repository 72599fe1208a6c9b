//! One module a resource, each with its `routes()`.

mod beside;
mod block_paper;
mod blocks;
mod blocks_beside;
mod calendar;
mod calibration;
mod cards;
mod changes;
mod clients;
mod comparison;
mod craft;
mod cutting;
mod drafting;
mod drapes;
mod everything;
mod files;
mod finding;
mod forms;
mod garment_story;
mod health;
mod house;
mod imports;
mod jobs;
mod lasting;
mod live;
mod nests;
mod notes;
mod orders;
mod patterns;
mod people;
mod pictures;
mod practice;
mod print;
mod profile;
mod readings;
mod rounds;
mod second_factor;
mod sessions;
mod sets;
mod shelves;
mod story;
mod wishes;

use utoipa_axum::router::OpenApiRouter;

pub(crate) use everything::pack_everything;
pub(crate) use garment_story::{ClientStory, GarmentStory};
pub(crate) use imports::{save_import, take_import_back};
pub(crate) use print::allowance_note;

use crate::AppState;

/// Every route of the API.
pub(crate) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new()
        .merge(crate::auth::routes())
        .merge(health::routes())
        .merge(people::routes())
        .merge(house::routes())
        .merge(craft::routes())
        .merge(finding::routes())
        .merge(clients::routes())
        .merge(notes::routes())
        .merge(everything::routes())
        .merge(changes::routes())
        .merge(second_factor::routes())
        .merge(sessions::routes())
        .merge(readings::routes())
        .merge(live::routes())
        .merge(sets::routes())
        .merge(profile::routes())
        .merge(forms::routes())
        .merge(files::routes())
        .merge(imports::routes())
        .merge(shelves::routes())
        .merge(cutting::routes())
        .merge(drafting::routes())
        .merge(practice::routes())
        .merge(drapes::routes())
        .merge(blocks::routes())
        .merge(block_paper::routes())
        .merge(blocks_beside::routes())
        .merge(pictures::routes())
        .merge(nests::routes())
        .merge(cards::routes())
        .merge(orders::routes())
        .merge(beside::routes())
        .merge(comparison::routes())
        .merge(patterns::routes())
        .merge(wishes::routes())
        .merge(print::routes())
        .merge(rounds::routes())
        .merge(jobs::routes())
        .merge(lasting::routes())
        .merge(garment_story::routes())
        .merge(calendar::routes())
        .merge(calibration::routes())
}
