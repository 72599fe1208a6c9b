//! `/api/clients/{id}/everything.zip`: all that is kept of one client, to hand over or to keep elsewhere.

use std::io::{self, Cursor, Write};

use axum::extract::State;
use axum::response::Response;
use chrono::{DateTime, NaiveDate, Utc};
use serde::Serialize;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::Recipe;
use yardwand_core::compare::BlockSize;
use yardwand_core::pattern::Pattern;
use yardwand_paper::Paper;
use yardwand_paper::tables::{write_csv, write_json};
use yardwand_store::Orders;
use zip::CompressionMethod;
use zip::write::{SimpleFileOptions, ZipWriter};

use super::files::readings_of;
use super::garment_story::{story_of, story_on_paper};
use super::print::pattern_on_paper;
use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, HouseStyle, Id};
use crate::rights::Readings;
use crate::views::attached;

/// What the document of a client's entry is called, and which version of it this is.
const FORMAT: &str = "yardwand-client";
const FORMAT_VERSION: u32 = 1;

#[derive(Serialize)]
struct ClientOut {
    format: &'static str,
    version: u32,
    name: String,
    contact: String,
    notes: String,
    entered_at: DateTime<Utc>,
    posture: Vec<String>,
    consents: Vec<ConsentOut>,
    /// Notes outside fittings, newest first.
    written: Vec<NoteOut>,
    garments: Vec<GarmentOut>,
}

#[derive(Serialize)]
struct ConsentOut {
    given_on: NaiveDate,
    purpose: String,
    review_on: Option<NaiveDate>,
    withdrawn_on: Option<NaiveDate>,
}

#[derive(Serialize)]
struct NoteOut {
    written_at: DateTime<Utc>,
    written_by: String,
    words: String,
    /// Files in the folder `photographs`.
    photographs: Vec<String>,
}

#[derive(Serialize)]
struct GarmentOut {
    garment: String,
    ordered_at: DateTime<Utc>,
    wanted_on: Option<NaiveDate>,
    handed_over_at: Option<DateTime<Utc>>,
    /// Its folder.
    folder: String,
    /// Why its newest version is not there on paper, where it is not.
    not_printed: Option<String>,
}

/// A block of her own as data.
#[derive(Serialize)]
struct BlockOut<'a> {
    name: &'a str,
    version: u32,
    made_at: DateTime<Utc>,
    made_by: &'a str,
    why: &'a str,
    sizes: &'a [BlockSize],
}

/// A version of a pattern as data.
#[derive(Serialize)]
struct VersionOut<'a> {
    version: u32,
    made_at: DateTime<Utc>,
    made_by: &'a str,
    why: &'a str,
    withdrawn: bool,
    block: &'a str,
    recipe: &'a Recipe,
    pattern: &'a Pattern,
}

/// A zip file that is being written.
struct Packing(ZipWriter<Cursor<Vec<u8>>>);

impl Packing {
    fn new() -> Self {
        Self(ZipWriter::new(Cursor::new(Vec::new())))
    }

    /// Pictures and PDFs are compressed already, and the rest is small.
    fn add(&mut self, name: &str, bytes: &[u8]) -> Result<(), ApiError> {
        let stored = SimpleFileOptions::default().compression_method(CompressionMethod::Stored);
        self.0.start_file(name, stored).map_err(io::Error::from)?;
        Ok(self.0.write_all(bytes)?)
    }

    fn add_json(&mut self, name: &str, document: &impl Serialize) -> Result<(), ApiError> {
        let text = serde_json::to_vec_pretty(document).map_err(io::Error::from)?;
        self.add(name, &text)
    }

    fn finish(self) -> Result<Vec<u8>, ApiError> {
        Ok(self.0.finish().map_err(io::Error::from)?.into_inner())
    }
}

/// Letters and digits of a name, for a file.
fn file_words(name: &str) -> String {
    let kept: String = name.chars().map(|c| if c.is_alphanumeric() { c } else { ' ' }).collect();
    kept.split_whitespace().collect::<Vec<_>>().join("-").to_lowercase()
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(everything))
}

/// Everything of one client as one zip: entry, consents and notes, readings, own blocks, patterns with their recipes and
/// as PDF, stories as data and as PDF, photographs.
#[utoipa::path(get, path = "/api/clients/{id}/everything.zip", responses(
    (status = 200, content_type = "application/zip"), (status = 403, body = Problem), (status = 404, body = Problem)))]
async fn everything(
    State(state): State<AppState>,
    _: Entitled<Readings>,
    HouseStyle(style): HouseStyle,
    Id(id): Id,
) -> Result<Response, ApiError> {
    let store = &state.store;
    let client = store.client(id).await?;
    let mut packing = Packing::new();

    let readings = readings_of(&state, id).await?;
    packing.add("readings.csv", write_csv(&readings).as_bytes())?;
    packing.add("readings.json", write_json(&readings).as_bytes())?;

    for summary in store.blocks(Some(id)).await?.iter().filter(|block| block.client_id == Some(id)) {
        let block = store.block(summary.id).await?;
        let out = BlockOut {
            name: &summary.name,
            version: summary.version,
            made_at: summary.made_at,
            made_by: &summary.made_by,
            why: &summary.why,
            sizes: &block.sizes,
        };
        packing.add_json(&format!("blocks/{}-{}.json", summary.id, file_words(&summary.name)), &out)?;
    }

    let mut garments = Vec::new();
    for facts in store.orders(Orders::OfClient(id)).await? {
        let order = facts.order;
        let folder = format!("garments/{}-{}", order.id, file_words(&order.garment));
        packing.add(
            &format!("{folder}/story.pdf"),
            &story_on_paper(&state, order.id, style, Paper::A4).await?,
        )?;
        packing.add_json(&format!("{folder}/story.json"), &story_of(&state, order.id, style).await?)?;
        let mut not_printed = None;
        for pattern in store.patterns(order.id).await? {
            let mut versions = store.versions(pattern.id).await?;
            versions.extend(store.withdrawn_versions(pattern.id).await?);
            for version in &versions {
                let name = format!("{folder}/version-{}", version.version);
                let out = VersionOut {
                    version: version.version,
                    made_at: version.made_at,
                    made_by: &version.made_by,
                    why: &version.why,
                    withdrawn: version.withdrawn_at.is_some(),
                    block: &pattern.block_name,
                    recipe: &version.recipe,
                    pattern: &version.pattern,
                };
                packing.add_json(&format!("{name}.json"), &out)?;
            }
            // What is cut now is there on paper too.
            if let Some(newest) = versions.iter().find(|version| version.withdrawn_at.is_none()) {
                match pattern_on_paper(&state, newest.id, style, Paper::A4).await {
                    Ok(bytes) => packing.add(&format!("{folder}/version-{}.pdf", newest.version), &bytes)?,
                    // What cannot be cut is not printed; all the rest of hers is there all the same.
                    Err(ApiError::Field { says, .. }) => not_printed = Some(says),
                    Err(error) => return Err(error),
                }
            }
        }
        for photograph in store.photographs(order.id).await? {
            let bytes = store.picture(photograph.id).await?;
            packing.add(&format!("{folder}/photographs/{}.jpg", photograph.id), &bytes)?;
        }
        garments.push(GarmentOut {
            garment: order.garment,
            ordered_at: order.created_at,
            wanted_on: order.wanted_on,
            handed_over_at: order.finished_at,
            folder,
            not_printed,
        });
    }

    let mut written = Vec::new();
    for note in store.notes(id).await? {
        let mut photographs = Vec::new();
        for photograph in note.photographs {
            let name = format!("photographs/{}.jpg", photograph.id);
            packing.add(&name, &store.picture(photograph.id).await?)?;
            photographs.push(name);
        }
        written.push(NoteOut {
            written_at: note.written_at,
            written_by: note.written_by,
            words: note.words,
            photographs,
        });
    }
    let consents = store.consents(id).await?.into_iter().map(|consent| ConsentOut {
        given_on: consent.given_on,
        purpose: consent.purpose,
        review_on: consent.review_on,
        withdrawn_on: consent.withdrawn_on,
    });
    let file = format!("{}.zip", ascii(&file_words(&client.name), id));
    packing.add_json(
        "client.json",
        &ClientOut {
            format: FORMAT,
            version: FORMAT_VERSION,
            posture: store.posture(id).await?.notes,
            consents: consents.collect(),
            written,
            garments,
            name: client.name,
            contact: client.contact,
            notes: client.notes,
            entered_at: client.created_at,
        },
    )?;
    Ok(attached("application/zip", &file, packing.finish()?))
}

/// The name of a file in a header: plain letters, or the client's number where her name has none.
fn ascii(words: &str, id: u64) -> String {
    let plain: String = words.chars().filter(char::is_ascii).collect();
    let plain = plain.trim_matches('-');
    if plain.is_empty() { format!("client-{id}") } else { plain.to_owned() }
}
