//! Passwords are hashed by argon2id, which takes 19 MB and a good part of a second each time on purpose. So only two are hashed at
//! once in one server, a few wait, and everybody else is asked to come back: a flood of sign-ins takes neither the memory nor
//! the processor.

use std::time::Duration;

use argon2::Argon2;
use argon2::password_hash::rand_core::OsRng;
use argon2::password_hash::{PasswordHash, PasswordHasher, PasswordVerifier, SaltString};
use zxcvbn::{Score, zxcvbn};

use crate::auth::new_token;
use crate::error::ApiError;
use crate::turns::Turns;

/// How many are hashed at once, and how many may be there in all: those and the ones that wait.
const AT_ONCE: usize = 2;
const AT_MOST: usize = 12;
/// Longer than this nobody waits for a turn.
const PATIENCE: Duration = Duration::from_secs(5);

/// The server's only way to hash: a few at once, and a few more that wait. Cheap to clone.
#[derive(Clone, Debug)]
pub struct Passwords(Turns);

impl Default for Passwords {
    fn default() -> Self {
        Self(Turns::new(AT_ONCE, AT_MOST, PATIENCE))
    }
}

impl Passwords {
    /// Hashes a password.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait; a field's error for a password that is too long.
    pub(crate) async fn hash(&self, password: String) -> Result<String, ApiError> {
        let hashed = self.0.through(move || hash_password(&password)).await?;
        hashed.map_err(|_| ApiError::field("/password", "this password is too long: at most 200 characters"))
    }

    /// Whether a password is the one of a hash; where there is none, it takes as long all the same.
    ///
    /// # Errors
    ///
    /// [`ApiError::Crowded`] where too many wait.
    pub(crate) async fn fits(&self, password: String, hash: Option<String>) -> Result<bool, ApiError> {
        self.0
            .through(move || match hash {
                Some(hash) => password_fits(&password, &hash),
                None => {
                    password_fits(&password, nobodys_hash());
                    false
                }
            })
            .await
    }
}

/// A password has at least so many characters, and no more than so many.
const LEAST: usize = 12;
const MOST: usize = 200;
/// What is looked at of it: guessing more would take longer than it is worth.
const LOOKED_AT: usize = 64;

/// Whether a password can be chosen: it is long enough, and not among those that are tried first. `own` are words that somebody
/// who knows the person would try, such as the name. The lists of common passwords, names and words are zxcvbn's.
///
/// # Errors
///
/// A sentence with the way out.
pub fn can_be_chosen(password: &str, own: &[&str]) -> Result<(), &'static str> {
    let long = password.chars().count();
    if long < LEAST {
        return Err("a password has at least twelve characters: four words do well");
    }
    if long > MOST {
        return Err("a password has at most 200 characters: use fewer");
    }
    let looked_at: String = password.chars().take(LOOKED_AT).collect();
    // A name is tried whole, by its parts, and written as one word.
    let of_own = |word: &&str| -> Vec<String> {
        let parts: Vec<&str> =
            word.split(|c: char| !c.is_alphanumeric()).filter(|part| part.len() > 2).collect();
        let whole = [(*word).to_owned(), parts.concat()];
        parts.iter().map(|part| (*part).to_owned()).chain(whole).collect()
    };
    let own: Vec<String> = own.iter().flat_map(of_own).collect();
    let own: Vec<&str> = own.iter().map(String::as_str).collect();
    if zxcvbn(&looked_at, &own).score() < Score::Three {
        return Err(
            "this password is among the first that somebody would try: take four words that have nothing to do with \
                    each other, or with you",
        );
    }
    Ok(())
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
    use super::*;

    #[test]
    fn what_somebody_would_try_first_cannot_be_chosen() {
        let own = ["Marit Holm", "marit@workroom.example", "The Workroom"];
        for good in [
            "linen thread and wax",
            "kettle orbit mauve stair",
            "Tr0ub4dor&3-xylophone",
            "änderung säume über tüll",
        ] {
            assert_eq!(can_be_chosen(good, &own), Ok(()), "{good}");
        }
        for (short, says) in [("chalk", "at least twelve"), ("eleven char", "at least twelve")] {
            assert!(can_be_chosen(short, &own).unwrap_err().contains(says), "{short}");
        }
        // From memory: patterns that every list of leaked passwords has.
        for common in [
            "password1234",
            "passwordpassword",
            "qwertyuiopasdf",
            "aaaaaaaaaaaaaaaa",
            "123456789012",
            "iloveyou1234",
            "MaritHolm2026",
            "marit@workroom.example",
        ] {
            assert!(can_be_chosen(common, &own).is_err(), "{common}");
        }
        assert!(can_be_chosen(&"ab".repeat(101), &own).unwrap_err().contains("at most 200"));
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
