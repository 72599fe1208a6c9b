//! What a handler may take from a request, each with the way it turns one down.

use std::marker::PhantomData;

use axum::extract::rejection::{BytesRejection, FailedToBufferBody, JsonRejection};
use axum::extract::{FromRequest, FromRequestParts, Path, Query, Request};
use axum::http::request::Parts;
use serde::de::DeserializeOwned;
use yardwand_core::Style;
use yardwand_store::{Once, Person};

use crate::AppState;
use crate::auth::SignedIn;
use crate::error::ApiError;
use crate::fingerprint::Fingerprint;
use crate::rights::{Matter, refused};

/// A JSON document. 400 where it cannot be read, 413 above [`crate::BODY_LIMIT`].
pub(crate) struct JsonBody<T>(pub(crate) T);

impl<T: DeserializeOwned> FromRequest<AppState> for JsonBody<T> {
    type Rejection = ApiError;

    async fn from_request(request: Request, state: &AppState) -> Result<Self, ApiError> {
        let read = axum::Json::<T>::from_request(request, state).await;
        read.map(|axum::Json(doc)| Self(doc)).map_err(|rejection| match rejection {
            JsonRejection::BytesRejection(BytesRejection::FailedToBufferBody(
                FailedToBufferBody::LengthLimitError(_),
            )) => ApiError::LARGE,
            other => ApiError::Unreadable(other.body_text()),
        })
    }
}

/// What the path names. 404 where it names nothing there can be.
pub(crate) struct InPath<T>(pub(crate) T);

impl<T: DeserializeOwned + Send> FromRequestParts<AppState> for InPath<T> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let read = Path::<T>::from_request_parts(parts, state).await;
        read.map(|Path(named)| Self(named))
            .map_err(|_| ApiError::NotFound("there is nothing at this address".to_owned()))
    }
}

/// The number in the path.
pub(crate) struct Id(pub(crate) u64);

impl FromRequestParts<AppState> for Id {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let InPath(id) = InPath::from_request_parts(parts, state).await?;
        Ok(Self(id))
    }
}

/// The query string. 400 where it cannot be read.
pub(crate) struct QueryString<T>(pub(crate) T);

impl<T: DeserializeOwned> FromRequestParts<AppState> for QueryString<T> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let read = Query::<T>::from_request_parts(parts, state).await;
        read.map(|Query(ask)| Self(ask)).map_err(|rejection| ApiError::Unreadable(rejection.body_text()))
    }
}

/// How the house writes lengths.
pub(crate) struct HouseStyle(pub(crate) Style);

impl FromRequestParts<AppState> for HouseStyle {
    type Rejection = ApiError;

    async fn from_request_parts(_: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        Ok(Self(state.store.house().await?.style))
    }
}

/// Somebody signed in who has the right of this matter. 403 where it is lacking.
pub(crate) struct Entitled<M>(pub(crate) Person, PhantomData<M>);

impl<M: Matter> FromRequestParts<AppState> for Entitled<M> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let SignedIn(person) = SignedIn::from_request_parts(parts, state).await?;
        if person.role.may(M::RIGHT) { Ok(Self(person, PhantomData)) } else { Err(refused::<M>(person.role)) }
    }
}

/// Who writes in this matter, and the key of this write (`Idempotency-Key`, at most 36 characters).
pub(crate) struct Writer<M> {
    pub(crate) person: Person,
    key: Option<String>,
    fingerprint: Option<[u8; 32]>,
    matter: PhantomData<M>,
}

impl<M> Writer<M> {
    /// Who writes, once.
    pub(crate) fn once(&self) -> Once<'_> {
        Once::keyed(self.person.id, self.key.as_deref()).of(self.fingerprint)
    }
}

impl<M: Matter> FromRequestParts<AppState> for Writer<M> {
    type Rejection = ApiError;

    async fn from_request_parts(parts: &mut Parts, state: &AppState) -> Result<Self, ApiError> {
        let Entitled(person, matter) = Entitled::<M>::from_request_parts(parts, state).await?;
        let key =
            parts.headers.get("idempotency-key").map(|value| value.to_str().unwrap_or_default().to_owned());
        if key.as_ref().is_some_and(|key| key.is_empty() || key.len() > 36) {
            return Err(ApiError::Unreadable("an idempotency key has 1 to 36 characters".to_owned()));
        }
        let fingerprint = parts.extensions.get::<Fingerprint>().map(|fingerprint| fingerprint.0);
        Ok(Self { person, key, fingerprint, matter })
    }
}
