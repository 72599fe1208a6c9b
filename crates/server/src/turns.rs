//! Costly work, a few pieces at once: a few more wait for their turn, and everybody else is asked to come back. However many want
//! it, it takes no more memory and no more of the processor.

use std::sync::Arc;
use std::time::Duration;

use tokio::sync::Semaphore;

use crate::error::ApiError;

/// How many pieces of a kind of work are done at once. Cheap to clone.
#[derive(Clone, Debug)]
pub(crate) struct Turns {
    turns: Arc<Semaphore>,
    places: Arc<Semaphore>,
    patience: Duration,
}

impl Turns {
    /// So many at once, so many in all with those that wait, and nobody waits longer than this.
    pub(crate) fn new(at_once: usize, at_most: usize, patience: Duration) -> Self {
        let semaphore = |count| Arc::new(Semaphore::new(count));
        Self { turns: semaphore(at_once), places: semaphore(at_most), patience }
    }

    /// Does such work beside the others' requests, when it is its turn.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait, or it took too long.
    pub(crate) async fn through<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, ApiError> {
        let place = self.places.clone().try_acquire_owned().map_err(|_| ApiError::Crowded)?;
        let turn = tokio::time::timeout(self.patience, self.turns.clone().acquire_owned()).await;
        let turn = turn.ok().and_then(Result::ok).ok_or(ApiError::Crowded)?;
        let done = tokio::task::spawn_blocking(move || {
            let done = work();
            drop((turn, place));
            done
        });
        // Only a panic in the work ends it otherwise.
        done.await.map_err(|_| ApiError::Crowded)
    }
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicUsize, Ordering};

    use super::*;

    #[tokio::test]
    async fn two_work_a_few_wait_and_the_others_are_asked_to_come_back() {
        let small = Turns::new(2, 5, Duration::from_secs(5));
        static WORKING: AtomicUsize = AtomicUsize::new(0);
        static MOST: AtomicUsize = AtomicUsize::new(0);
        let mut all = tokio::task::JoinSet::new();
        for _ in 0..20 {
            let small = small.clone();
            let work = || {
                MOST.fetch_max(WORKING.fetch_add(1, Ordering::SeqCst) + 1, Ordering::SeqCst);
                std::thread::sleep(Duration::from_millis(30));
                WORKING.fetch_sub(1, Ordering::SeqCst);
            };
            all.spawn(async move { small.through(work).await });
        }
        let done = all.join_all().await;
        assert_eq!(done.iter().filter(|each| each.is_ok()).count(), 5);
        assert!(done.iter().all(|each| matches!(each, Ok(()) | Err(ApiError::Crowded))));
        assert_eq!(MOST.load(Ordering::SeqCst), 2);
        // Afterwards there is room again.
        assert!(small.through(|| ()).await.is_ok());
    }
}
