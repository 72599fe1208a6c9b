//! Passwords are hashed by argon2id, which takes 19 MB and a good part of a second each time on purpose. So only two are hashed at
//! once in one server, a few wait, and everybody else is asked to come back: a flood of sign-ins takes neither the memory nor
//! the processor.

use std::sync::Arc;
use std::time::Duration;

use argon2::Argon2;
use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{PasswordHash, PasswordHasher, PasswordVerifier, SaltString};
use tokio::sync::Semaphore;

use crate::auth::new_token;
use crate::error::ApiError;

/// How many are hashed at once, and how many may be there in all: those and the ones that wait.
const AT_ONCE: usize = 2;
const AT_MOST: usize = 12;
/// Longer than this nobody waits for a turn.
const PATIENCE: Duration = Duration::from_secs(5);

/// The server's only way to hash: a few at once, and a few more that wait. Cheap to clone.
#[derive(Clone, Debug)]
pub struct Passwords {
    turns: Arc<Semaphore>,
    places: Arc<Semaphore>,
}

impl Default for Passwords {
    fn default() -> Self {
        Self::new(AT_ONCE, AT_MOST)
    }
}

impl Passwords {
    fn new(at_once: usize, at_most: usize) -> Self {
        Self { turns: Arc::new(Semaphore::new(at_once)), places: Arc::new(Semaphore::new(at_most)) }
    }

    /// Does such work beside the others' requests, when it is its turn.
    async fn through<T: Send + 'static>(
        &self,
        work: impl FnOnce() -> T + Send + 'static,
    ) -> Result<T, ApiError> {
        let place = self.places.clone().try_acquire_owned().map_err(|_| ApiError::Crowded)?;
        let turn = tokio::time::timeout(PATIENCE, self.turns.clone().acquire_owned()).await;
        let turn = turn.ok().and_then(Result::ok).ok_or(ApiError::Crowded)?;
        let done = tokio::task::spawn_blocking(move || {
            let done = work();
            drop((turn, place));
            done
        });
        // Only a panic in the work ends it otherwise.
        done.await.map_err(|_| ApiError::Crowded)
    }

    /// Hashes a password.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait; a field's error for a password that is too long.
    pub(crate) async fn hash(&self, password: String) -> Result<String, ApiError> {
        let hashed = self.through(move || hash_password(&password)).await?;
        hashed.map_err(|_| ApiError::field("/password", "this password is too long: at most 200 characters"))
    }

    /// Whether a password is the one of a hash; where there is none, it takes as long all the same.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait.
    pub(crate) async fn fits(&self, password: String, hash: Option<String>) -> Result<bool, ApiError> {
        self.through(move || match hash {
            Some(hash) => password_fits(&password, &hash),
            None => {
                password_fits(&password, nobodys_hash());
                false
            }
        })
        .await
    }
}

/// Hashes a password with argon2id.
///
/// # Errors
///
/// Only for a password longer than the algorithm takes.
pub fn hash_password(password: &str) -> Result<String, argon2::password_hash::Error> {
    let salt = SaltString::generate(&mut OsRng);
    Ok(Argon2::default().hash_password(password.as_bytes(), &salt)?.to_string())
}

fn password_fits(password: &str, hash: &str) -> bool {
    PasswordHash::new(hash)
        .is_ok_and(|parsed| Argon2::default().verify_password(password.as_bytes(), &parsed).is_ok())
}

/// The hash of a password nobody has.
fn nobodys_hash() -> &'static str {
    static HASH: std::sync::OnceLock<String> = std::sync::OnceLock::new();
    HASH.get_or_init(|| hash_password(&new_token()).unwrap_or_default())
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicUsize, Ordering};

    use super::*;

    #[tokio::test]
    async fn two_work_a_few_wait_and_the_others_are_asked_to_come_back() {
        let small = Passwords::new(2, 5);
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

    #[tokio::test]
    async fn a_password_fits_its_own_hash_and_nobodys_never() {
        let passwords = Passwords::default();
        let hash = passwords.hash("chalk and ink".to_owned()).await.unwrap();
        assert!(passwords.fits("chalk and ink".to_owned(), Some(hash.clone())).await.unwrap());
        assert!(!passwords.fits("chalk and pink".to_owned(), Some(hash)).await.unwrap());
        assert!(!passwords.fits("chalk and ink".to_owned(), None).await.unwrap());
    }
}
