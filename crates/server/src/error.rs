//! The one way a request is turned down: problem+json (RFC 9457).

use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use serde::Serialize;
use utoipa::ToSchema;
use yardwand_core::LengthError;
use yardwand_store::StoreError;

use crate::again::TurnedBack;

/// What a client of the API is told.
#[derive(Clone, Debug, PartialEq, Serialize, ToSchema)]
pub(crate) struct Problem {
    /// Stable name of the kind of problem.
    pub r#type: String,
    /// The kind in words.
    pub title: String,
    /// HTTP status.
    pub status: u16,
    /// A sentence a person can act on.
    pub detail: String,
    /// The field concerned, as a JSON pointer.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub pointer: Option<String>,
    /// Characters before the fault, where the field is text that was read.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub at: Option<usize>,
    /// The row as it is now, where a change came too late.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[schema(value_type = Option<Object>)]
    pub current: Option<serde_json::Value>,
}

/// Why a request failed.
#[derive(Debug, thiserror::Error)]
pub(crate) enum ApiError {
    /// Nobody is signed in.
    #[error("sign in first")]
    SignedOut,
    /// Address or password is wrong; which is not said.
    #[error("this address and password do not belong together")]
    WrongPassword,
    /// Somebody who has chosen it signs in with a code as well.
    #[error(
        "this sign-in takes a code too: the six digits your app shows now, or one of your codes on paper"
    )]
    CodeWanted,
    /// The code is not the one of this moment, or was used already.
    #[error("this is not the code of this moment: wait for the next one, or take one of your codes on paper")]
    WrongCode,
    /// Too many wrong passwords.
    #[error("too many wrong passwords: wait {}", in_words(*.seconds))]
    Throttled {
        /// How long.
        seconds: u32,
    },
    /// Too many want the same costly thing at this moment.
    #[error("many want this at the same moment: try again in a few seconds")]
    Crowded,
    /// The database was away a moment ago.
    #[error("the database is away")]
    Closed,
    /// The person may not do this.
    #[error("{0}")]
    Forbidden(String),
    /// There is no such thing.
    #[error("{0}")]
    NotFound(String),
    /// The request cannot be read.
    #[error("{0}")]
    Unreadable(String),
    /// The request is too large.
    #[error("{0}")]
    TooLarge(&'static str),
    /// A field is wrong.
    #[error("{says}")]
    Field {
        /// The field, as a JSON pointer.
        pointer: String,
        /// What is wrong and the way out.
        says: String,
        /// Characters before the fault.
        at: Option<usize>,
    },
    /// A change came too late.
    #[error("{says}")]
    Stale {
        /// What happened.
        says: String,
        /// The row as it is now.
        current: Option<serde_json::Value>,
    },
    /// The store.
    #[error(transparent)]
    Store(#[from] StoreError),
    /// The paper.
    #[error(transparent)]
    Paper(#[from] yardwand_paper::PaperError),
    /// Long work could not be done, for a reason outside the house's book.
    #[error("{0}")]
    Work(String),
    /// A file of many could not be packed.
    #[error("the files could not be packed: {0}")]
    Packing(#[from] std::io::Error),
}

/// A time to wait.
fn in_words(seconds: u32) -> String {
    match seconds {
        0..=1 => "a second".to_owned(),
        2..=90 => format!("{seconds} seconds"),
        _ => format!("{} minutes", seconds.div_ceil(60)),
    }
}

impl ApiError {
    /// A document above [`crate::BODY_LIMIT`].
    pub(crate) const LARGE: Self = Self::TooLarge("this is larger than 1 MB: send less at a time");
    /// A photograph above [`crate::PHOTO_LIMIT`].
    pub(crate) const LARGE_PHOTOGRAPH: Self = Self::TooLarge(
        "this photograph is larger than 20 MB: take it at a lower resolution or send a smaller copy; nothing else is lost",
    );

    /// A field that is wrong.
    pub(crate) fn field(pointer: &str, says: impl Into<String>) -> Self {
        Self::Field { pointer: pointer.to_owned(), says: says.into(), at: None }
    }

    /// A text that is no length.
    pub(crate) fn length(pointer: &str, error: &LengthError) -> Self {
        Self::Field { pointer: pointer.to_owned(), says: error.to_string(), at: Some(error.at) }
    }

    /// The same error, with the row as it is now where it came too late.
    pub(crate) fn with_current<T: Serialize>(self, current: Option<T>) -> Self {
        match self {
            Self::Store(stale @ StoreError::Stale { .. }) => Self::Stale {
                says: format!("{stale}: look at both and save again"),
                current: current.and_then(|row| serde_json::to_value(row).ok()),
            },
            other => other,
        }
    }

    /// Whether it may well go by itself: the database is away, or somebody else was at the same thing.
    pub(crate) fn is_passing(&self) -> bool {
        matches!(self, Self::Store(error) if error.is_away() || error.is_turned_back())
    }

    /// Why long work failed, for whoever asked for it.
    pub(crate) fn in_words(&self) -> String {
        match self {
            Self::Work(_) => self.to_string(),
            _ if self.kind().0 == StatusCode::INTERNAL_SERVER_ERROR => {
                "something failed on our side: ask for it again".to_owned()
            }
            _ => self.to_string(),
        }
    }

    /// After how many seconds it is worth asking again, where that is known.
    fn wait(&self) -> Option<u32> {
        match self {
            Self::Throttled { seconds } => Some(*seconds),
            Self::Crowded => Some(5),
            Self::Closed => Some(1),
            Self::Store(error) if error.is_away() || error.is_turned_back() => Some(1),
            _ => None,
        }
    }

    /// Status, stable name and title, decided in one place.
    fn kind(&self) -> (StatusCode, &'static str, &'static str) {
        use StatusCode as S;
        match self {
            Self::SignedOut => (S::UNAUTHORIZED, "signed-out", "Not signed in"),
            Self::WrongPassword => (S::UNAUTHORIZED, "wrong-password", "Not signed in"),
            Self::CodeWanted => (S::UNAUTHORIZED, "code-wanted", "One more step"),
            Self::WrongCode => (S::UNAUTHORIZED, "wrong-code", "Not signed in"),
            Self::Throttled { .. } => (S::TOO_MANY_REQUESTS, "throttled", "Too many attempts"),
            Self::Crowded => (S::TOO_MANY_REQUESTS, "crowded", "Many at once"),
            Self::Closed => (S::SERVICE_UNAVAILABLE, "closed", "The book is closed for a moment"),
            Self::Store(error) if error.is_away() => Self::Closed.kind(),
            Self::Store(error) if error.is_turned_back() => {
                (S::SERVICE_UNAVAILABLE, "turned-back", "Two at once")
            }
            Self::Forbidden(_) => (S::FORBIDDEN, "forbidden", "Not allowed"),
            Self::NotFound(_) | Self::Store(StoreError::NotFound { .. }) => {
                (S::NOT_FOUND, "not-found", "Not found")
            }
            Self::Unreadable(_) => (S::BAD_REQUEST, "unreadable", "Cannot be read"),
            Self::TooLarge(_) => (S::PAYLOAD_TOO_LARGE, "too-large", "Too large"),
            Self::Field { .. } => (S::UNPROCESSABLE_ENTITY, "field", "A field is wrong"),
            Self::Stale { .. } | Self::Store(StoreError::Stale { .. } | StoreError::Rewritten { .. }) => {
                (S::CONFLICT, "stale", "Changed meanwhile")
            }
            Self::Store(StoreError::KeyUsed) => (S::CONFLICT, "key-used", "Saved already, and otherwise"),
            Self::Store(StoreError::Overtaken { .. }) => (S::CONFLICT, "overtaken", "Entered meanwhile"),
            Self::Store(StoreError::Refused(_)) => (S::CONFLICT, "refused", "Not as things stand"),
            Self::Store(_) | Self::Paper(_) | Self::Packing(_) | Self::Work(_) => {
                (S::INTERNAL_SERVER_ERROR, "internal", "Something failed here")
            }
        }
    }
}

impl IntoResponse for ApiError {
    fn into_response(self) -> Response {
        let (status, name, title) = self.kind();
        let is_turned_back = matches!(&self, Self::Store(error) if error.is_turned_back());
        let detail = if is_turned_back {
            "somebody else changed the same thing at the same moment, and this was not saved: try again"
                .to_owned()
        } else if status == StatusCode::SERVICE_UNAVAILABLE {
            // Once for each that tried, and not for each that was told.
            if !matches!(self, Self::Closed) {
                tracing::warn!(error = ?self, "the database does not answer");
            }
            "the workroom's book is closed for a moment: what you typed stays here, try again in a few seconds".to_owned()
        } else if status == StatusCode::INTERNAL_SERVER_ERROR {
            // The log gets the cause; it holds no body data, and the answer holds no cause.
            tracing::error!(error = ?self, "request failed");
            "something failed on our side and nothing was changed: try again".to_owned()
        } else {
            self.to_string()
        };
        let wait = self.wait();
        let (pointer, at, current) = match self {
            Self::Field { pointer, at, .. } => (Some(pointer), at, None),
            Self::Stale { current, .. } => (None, None, current),
            Self::Store(StoreError::Rewritten { now, .. }) => (None, None, Some(now.into())),
            _ => (None, None, None),
        };
        let problem = Problem {
            r#type: format!("urn:yardwand:{name}"),
            title: title.to_owned(),
            status: status.as_u16(),
            detail,
            pointer,
            at,
            current,
        };
        let body = serde_json::to_vec(&problem).unwrap_or_default();
        let mut response =
            (status, [(header::CONTENT_TYPE, "application/problem+json")], body).into_response();
        if is_turned_back {
            response.extensions_mut().insert(TurnedBack);
        }
        if let Some(seconds) = wait {
            response.headers_mut().insert(header::RETRY_AFTER, HeaderValue::from(seconds));
        }
        response
    }
}
