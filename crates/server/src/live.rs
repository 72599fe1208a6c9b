//! Whether the server is stopping: an open event stream would otherwise keep it for ever.

use std::sync::Arc;

use tokio::sync::watch;

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
