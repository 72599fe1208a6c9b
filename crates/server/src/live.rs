//! Streams of events, and whether the server is stopping: an open stream would otherwise keep it for ever.

use std::convert::Infallible;
use std::sync::Arc;
use std::time::Duration;

use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive};
use futures_util::Stream;
use futures_util::stream::unfold;
use serde::Serialize;
use tokio::sync::watch;
use yardwand_store::StoreError;

use crate::finish::finished;

/// Shared by everything that streams. Cheap to clone.
#[derive(Clone, Debug)]
pub struct Live(Arc<watch::Sender<bool>>);

impl Default for Live {
    fn default() -> Self {
        Self(Arc::new(watch::Sender::new(false)))
    }
}

impl Live {
    /// Ends every stream.
    pub fn stop(&self) {
        self.0.send_replace(true);
    }

    /// Resolves once the server stops.
    pub(crate) async fn stopped(&self) {
        // The sender lives as long as `self`, so waiting cannot fail.
        let _ = self.0.subscribe().wait_for(|stopping| *stopping).await;
    }
}

/// What a stream of events watches.
pub(crate) trait Watched: Send + 'static {
    /// What happened since it was last asked; nothing, or an error that ends the stream.
    fn look(&mut self) -> impl Future<Output = Result<Option<Event>, StoreError>> + Send;
}

/// A stream that looks so often, and ends after so many looks without news: the browser comes back, and its sign-in is
/// asked for again. It ends with the server too.
pub(crate) fn events(
    live: Live,
    watched: impl Watched,
    every: Duration,
    looks: u32,
) -> Sse<impl Stream<Item = Result<Event, Infallible>>> {
    let stream = unfold((live, watched, looks), move |(live, mut watched, mut left)| async move {
        loop {
            let seen;
            (watched, seen) = finished(async move {
                let seen = watched.look().await;
                (watched, seen)
            })
            .await;
            if let Some(event) = seen.ok()? {
                return Some((Ok(event), (live, watched, left)));
            }
            left = left.checked_sub(1)?;
            tokio::select! {
                () = tokio::time::sleep(every) => {}
                () = live.stopped() => return None,
            }
        }
    });
    Sse::new(stream).keep_alive(KeepAlive::new().interval(Duration::from_secs(15)))
}

/// An event with its data.
pub(crate) fn event<T: Serialize>(name: &str, data: &T) -> Event {
    Event::default().event(name).data(serde_json::to_string(data).unwrap_or_default())
}
