//! Shapes shared by several resources.

use axum::http::header;
use axum::response::{IntoResponse, Response};
use chrono::{DateTime, Datelike, NaiveDate, Utc};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use yardwand_core::alter::Recipe;
use yardwand_core::body::measurement_set;
use yardwand_core::fitting::{Standing, standing};
use yardwand_store::{OrderFacts, PutAway, VersionRow};

use crate::error::ApiError;

/// The number of a row that was just made.
#[derive(Serialize, ToSchema)]
pub(crate) struct Made {
    pub(crate) id: u64,
}

/// Why a garment is put away, as documents name it.
#[derive(Clone, Copy, Serialize, Deserialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub(crate) enum PutAwayName {
    /// It is not made after all.
    Cancelled,
    /// It was handed over and is out of sight.
    Archived,
}

impl From<PutAway> for PutAwayName {
    fn from(why: PutAway) -> Self {
        match why {
            PutAway::Cancelled => Self::Cancelled,
            PutAway::Archived => Self::Archived,
        }
    }
}

impl From<PutAwayName> for PutAway {
    fn from(why: PutAwayName) -> Self {
        match why {
            PutAwayName::Cancelled => Self::Cancelled,
            PutAwayName::Archived => Self::Archived,
        }
    }
}

/// A garment in hand.
#[derive(Clone, Serialize, ToSchema)]
pub(crate) struct OrderView {
    pub(crate) id: u64,
    pub(crate) client_id: u64,
    pub(crate) client: String,
    /// The dress form that stands for a client.
    pub(crate) form_id: Option<u64>,
    pub(crate) garment: String,
    /// What is measured for it: code and name of the set.
    pub(crate) set_code: String,
    pub(crate) set_name: String,
    pub(crate) wanted_on: Option<NaiveDate>,
    /// How many toiles are thought of.
    pub(crate) toiles: u32,
    pub(crate) finished_at: Option<DateTime<Utc>>,
    /// Whether and why it is out of hand without being handed over, or out of sight.
    pub(crate) put_away: Option<PutAwayName>,
    pub(crate) revision: u32,
    pub(crate) standing: Standing,
    /// Readings still missing. In the list of garments in hand it is not told of one whose pattern was begun.
    pub(crate) missing: Option<u32>,
    /// Readings the method needs; 0 where what is missing is not told.
    pub(crate) wanted: u32,
    pub(crate) open_session: Option<u64>,
    pub(crate) pattern_id: Option<u64>,
    pub(crate) version: u32,
    pub(crate) round: u32,
    pub(crate) round_id: Option<u64>,
    pub(crate) round_open: bool,
    pub(crate) still_open: u32,
    /// Observations of the open round that are not decided: the one count of what is open there.
    pub(crate) undecided: u32,
}

impl From<OrderFacts> for OrderView {
    fn from(row: OrderFacts) -> Self {
        let set = measurement_set(&row.order.set_code);
        let set_name = Some(row.order.set_name.clone()).filter(|name| !name.is_empty());
        let set_name = set_name.or(set.map(|set| set.name.clone())).unwrap_or_default();
        let facts = row.facts;
        Self {
            id: row.order.id,
            client_id: row.order.client_id,
            client: row.order.client,
            form_id: row.order.form_id,
            garment: row.order.garment,
            set_code: row.order.set_code,
            set_name,
            wanted_on: row.order.wanted_on,
            toiles: row.order.toiles,
            finished_at: row.order.finished_at,
            put_away: row.order.put_away.map(PutAwayName::from),
            revision: row.order.revision,
            standing: standing(&facts),
            missing: row.missing,
            wanted: facts.wanted,
            open_session: row.open_session,
            pattern_id: row.pattern_id,
            version: facts.version,
            round: facts.round,
            round_id: row.round_id,
            round_open: facts.round_open,
            still_open: facts.still_open,
            undecided: if facts.round_open { facts.undecided } else { 0 },
        }
    }
}

/// A frozen version in a list.
#[derive(Serialize, ToSchema)]
pub(crate) struct VersionView {
    pub(crate) id: u64,
    pub(crate) version: u32,
    pub(crate) why: String,
    pub(crate) made_by: String,
    pub(crate) made_at: DateTime<Utc>,
    pub(crate) recipe: Recipe,
    /// Why it was withdrawn; none where it stands.
    pub(crate) withdrawn: Option<String>,
}

impl From<VersionRow> for VersionView {
    fn from(row: VersionRow) -> Self {
        Self {
            id: row.id,
            version: row.version,
            why: row.why,
            made_by: row.made_by,
            made_at: row.made_at,
            recipe: row.recipe,
            withdrawn: row.withdrawn_at.map(|_| row.withdrawn_why),
        }
    }
}

/// A list read page by page.
#[derive(Serialize, ToSchema)]
pub(crate) struct Page<T: ToSchema> {
    pub(crate) items: Vec<T>,
    /// Ask with this for the next page; none at the end.
    pub(crate) next: Option<String>,
}

/// A change that states the revision it was based on.
#[derive(Deserialize, ToSchema)]
pub(crate) struct Based<T> {
    pub(crate) revision: u32,
    #[serde(flatten)]
    pub(crate) change: T,
}

/// What the core says in passing, as a sentence of its own.
pub(crate) fn sentence(text: &str) -> String {
    let mut chars = text.chars();
    chars.next().map_or_else(String::new, |first| format!("{}{}.", first.to_uppercase(), chars.as_str()))
}

/// A day that somebody can mean: of this house's time, and of what a calendar can be reckoned with.
pub(crate) fn possible_day(pointer: &str, day: NaiveDate) -> Result<NaiveDate, ApiError> {
    if (1900..2200).contains(&day.year()) {
        Ok(day)
    } else {
        Err(ApiError::field(pointer, "this day lies in another century: check the year"))
    }
}

/// An address to sign in with, as it is kept.
pub(crate) fn email(pointer: &str, text: &str) -> Result<String, ApiError> {
    let email = words(pointer, "The e-mail address", text, 254)?.to_lowercase();
    if email.parse::<lettre::Address>().is_err() {
        let says = format!("“{email}” is no e-mail address: write it like marit@workroom.example");
        return Err(ApiError::field(pointer, says));
    }
    Ok(email)
}

/// One line of text that must say something, trimmed.
pub(crate) fn words(pointer: &str, name: &str, text: &str, most: usize) -> Result<String, ApiError> {
    let text = optional_words(pointer, name, text, most)?;
    if text.is_empty() {
        Err(ApiError::field(pointer, format!("{name} is empty: write something")))
    } else {
        Ok(text)
    }
}

/// One line of text that may be empty, trimmed. Control characters are refused: a line break in a name
/// would break a letter's head or a calendar's line.
pub(crate) fn optional_words(pointer: &str, name: &str, text: &str, most: usize) -> Result<String, ApiError> {
    let text = optional_lines(pointer, name, text, most)?;
    if text.contains(char::is_control) {
        let says =
            format!("{name} holds a line break or another sign that cannot be seen: write it on one line");
        return Err(ApiError::field(pointer, says));
    }
    Ok(text)
}

/// Text of one or several lines that may be empty, trimmed. Of the control characters only line breaks and tabs
/// belong into it.
pub(crate) fn optional_lines(pointer: &str, name: &str, text: &str, most: usize) -> Result<String, ApiError> {
    let text = text.trim();
    let long = text.chars().count();
    if long > most {
        return Err(ApiError::field(pointer, format!("{name} has {long} characters: at most {most} fit")));
    }
    if text.contains(|c: char| c.is_control() && !matches!(c, '\n' | '\r' | '\t')) {
        let says = format!("{name} holds a sign that cannot be seen: type it anew");
        return Err(ApiError::field(pointer, says));
    }
    Ok(text.to_owned())
}

/// A file to keep, under a name.
pub(crate) fn attached(kind: &str, name: &str, bytes: impl IntoResponse) -> Response {
    let headers = [
        (header::CONTENT_TYPE, kind.to_owned()),
        (header::CONTENT_DISPOSITION, format!("attachment; filename=\"{name}\"")),
    ];
    (headers, bytes).into_response()
}
