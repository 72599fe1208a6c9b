//! `/api/clients/{id}/everything.zip`: all that is kept of one client, to hand over or to keep elsewhere. It is put together as
//! long work and then fetched.

use std::fs::File;
use std::io::{self, Read, Seek, SeekFrom, Write};

use axum::Json;
use axum::body::Body;
use axum::extract::State;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::Response;
use chrono::{DateTime, NaiveDate, Utc};
use futures_util::stream;
use serde::Serialize;
use utoipa_axum::router::OpenApiRouter;
use utoipa_axum::routes;
use yardwand_core::alter::Recipe;
use yardwand_core::compare::BlockSize;
use yardwand_core::drape::{DrapeFacts, Draped, PieceInHand};
use yardwand_core::pattern::Pattern;
use yardwand_paper::Paper;
use yardwand_paper::tables::{write_csv, write_json};
use yardwand_store::{DrapeAnswer, Job, Orders, StoreError};
use zip::CompressionMethod;
use zip::write::{SimpleFileOptions, ZipWriter};

use super::files::readings_of;
use super::garment_story::{story_of, story_on_paper};
use super::print::pattern_on_paper;
use crate::AppState;
use crate::error::{ApiError, Problem};
use crate::extract::{Entitled, Id};
use crate::jobs::{Ended, Hand};
use crate::rights::Readings;
use crate::views::{Made, attached};

/// A part of the file as it is kept, in bytes: well below what MariaDB takes in one statement.
const PART: u64 = 4 << 20;

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

/// A toile or paper pattern of hers as it was marked.
#[derive(Serialize)]
struct DrapeOut<'a> {
    name: &'a str,
    changed_at: DateTime<Utc>,
    changed_by: &'a str,
    facts: &'a DrapeFacts,
    answers: &'a [DrapeAnswer],
    front: &'a PieceInHand,
    back: &'a PieceInHand,
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

/// A zip file that is being written: on the disk, for photographs are many.
struct Packing(ZipWriter<File>);

impl Packing {
    fn new() -> Result<Self, ApiError> {
        Ok(Self(ZipWriter::new(tempfile::tempfile()?)))
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

    /// Keeps the whole of it in the house's book, in parts.
    async fn keep(self, hand: &Hand) -> Result<(), ApiError> {
        let mut file = self.0.finish().map_err(io::Error::from)?;
        file.seek(SeekFrom::Start(0))?;
        for number in 0.. {
            let mut part = Vec::new();
            (&file).take(PART).read_to_end(&mut part)?;
            if part.is_empty() {
                break;
            }
            hand.store.keep_part(&hand.job, number, &part).await?;
        }
        Ok(())
    }
}

/// Letters and digits of a name, for a file.
fn file_words(name: &str) -> String {
    let kept: String = name.chars().map(|c| if c.is_alphanumeric() { c } else { ' ' }).collect();
    kept.split_whitespace().collect::<Vec<_>>().join("-").to_lowercase()
}

/// Routes of this module.
pub(super) fn routes() -> OpenApiRouter<AppState> {
    OpenApiRouter::new().routes(routes!(ask)).routes(routes!(everything))
}

/// Asks that everything of one client be put together as one file. The number is that of the long work.
#[utoipa::path(post, path = "/api/clients/{id}/everything", responses(
    (status = 201, body = Made), (status = 403, body = Problem), (status = 404, body = Problem)))]
async fn ask(
    State(state): State<AppState>,
    person: Entitled<Readings>,
    Id(id): Id,
) -> Result<(StatusCode, Json<Made>), ApiError> {
    state.store.client(id).await?;
    let id = state.jobs.ask(&state.store, Job::Everything(id), person.0.id).await?;
    Ok((StatusCode::CREATED, Json(Made { id })))
}

/// Everything of one client as it was put together last: entry, consents and notes, readings, own blocks, toiles as they were
/// marked, patterns with their recipes and as PDF, stories as data and as PDF, photographs. It is kept until the next day.
#[utoipa::path(get, path = "/api/clients/{id}/everything.zip", responses(
    (status = 200, content_type = "application/zip"), (status = 403, body = Problem), (status = 404, body = Problem)))]
async fn everything(
    State(state): State<AppState>,
    _: Entitled<Readings>,
    Id(id): Id,
) -> Result<Response, ApiError> {
    let Some((job, file, bytes)) = state.store.everything_of(id).await? else {
        return Err(ApiError::NotFound(
            "nothing was put together of this client: ask for it first".to_owned(),
        ));
    };
    let parts = stream::try_unfold((state.store, 0), move |(store, number)| async move {
        let part = store.part(job, number).await?;
        Ok::<_, StoreError>(part.map(|bytes| (bytes, (store, number + 1))))
    });
    let mut answer = attached("application/zip", &file, Body::from_stream(parts));
    answer.headers_mut().insert(header::CONTENT_LENGTH, HeaderValue::from(bytes));
    Ok(answer)
}

/// Puts it together. A server that goes on with it begins anew.
pub(crate) async fn pack_everything(state: &AppState, hand: &Hand, id: u64) -> Result<Ended, ApiError> {
    let style = state.store.house().await?.style;
    let store = &state.store;
    let client = store.client(id).await?;
    let mut packing = Packing::new()?;

    let readings = readings_of(state, id).await?;
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

    for summary in store.drapes(Some(id)).await? {
        let folder = format!("drapes/{}-{}", summary.id, file_words(&summary.name));
        let drape = store.drape(summary.id).await?;
        let out = DrapeOut {
            name: &summary.name,
            changed_at: summary.changed_at,
            changed_by: &summary.changed_by,
            facts: &drape.facts,
            answers: &drape.answers,
            front: &drape.front.in_hand,
            back: &drape.back.in_hand,
        };
        packing.add_json(&format!("{folder}/marks.json"), &out)?;
        for piece in Draped::BOTH.into_iter().filter(|piece| drape.piece(*piece).picture.is_some()) {
            let bytes = store.drape_picture(summary.id, piece).await?;
            packing.add(&format!("{folder}/{}.jpg", piece.name()), &bytes)?;
        }
    }

    let mut garments = Vec::new();
    let (orders, notes) = (store.orders(Orders::OfClient(id)).await?, store.notes(id).await?);
    let total = (orders.len() + notes.len()) as u32;
    for (done, facts) in (0..).zip(orders) {
        hand.tell(done, total);
        if hand.is_ending() {
            return Ok(Ended::GivenUp);
        }
        let order = facts.order;
        let folder = format!("garments/{}-{}", order.id, file_words(&order.garment));
        packing
            .add(&format!("{folder}/story.pdf"), &story_on_paper(state, order.id, style, Paper::A4).await?)?;
        packing.add_json(&format!("{folder}/story.json"), &story_of(state, order.id, style).await?)?;
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
                match pattern_on_paper(state, newest.id, style, Paper::A4).await {
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
    for (done, note) in (garments.len() as u32..).zip(notes) {
        hand.tell(done, total);
        if hand.is_ending() {
            return Ok(Ended::GivenUp);
        }
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
    packing.keep(hand).await?;
    hand.tell(total, total);
    Ok(Ended::Done(Some(file)))
}

/// The name of a file in a header: plain letters, or the client's number where her name has none.
fn ascii(words: &str, id: u64) -> String {
    let plain: String = words.chars().filter(char::is_ascii).collect();
    let plain = plain.trim_matches('-');
    if plain.is_empty() { format!("client-{id}") } else { plain.to_owned() }
}
