//! A second step at signing in, for whoever chooses it: a code of six digits from an app (TOTP, RFC 6238), or one of ten codes on paper.

use std::time::{SystemTime, UNIX_EPOCH};

use argon2::password_hash::rand_core::{OsRng, RngCore};
use qrcodegen::{QrCode, QrCodeEcc};
use sha2::{Digest, Sha256};
use totp_rs::{Builder, Secret, Totp};
use yardwand_store::{SecondFactor, Store};

use crate::error::ApiError;

/// So many codes on paper are given.
const ON_PAPER: usize = 10;
/// Letters and digits that are not taken for one another.
const SIGNS: &[u8] = b"abcdefghjkmnpqrstuvwxyz23456789";
/// So many characters of a name are told to an app.
const LONGEST_NAME: usize = 30;
/// A code on paper is so many groups of four signs: 59 bits.
const GROUPS: usize = 3;

/// The key that an app and the house share.
pub(crate) struct SharedKey(Totp);

impl SharedKey {
    /// A new one: 160 bits, as RFC 4226 (section 4) advises.
    pub(crate) fn new() -> Self {
        let mut bytes = [0; 20];
        OsRng.fill_bytes(&mut bytes);
        Self::of(&bytes)
    }

    /// As it is kept.
    pub(crate) fn of(bytes: &[u8]) -> Self {
        // What every app understands: six digits, half a minute, SHA-1; a clock may be half a minute wrong.
        Self(Builder::new().with_secret(Secret::from(bytes)).with_account_name("").build_noncompliant())
    }

    /// As it was typed into an app; nothing where it is none of ours.
    pub(crate) fn typed(text: &str) -> Option<Self> {
        let text: String = text.split_whitespace().collect();
        let secret = Secret::try_from_base32(text.to_uppercase()).ok()?;
        (secret.as_bytes().len() == 20).then(|| Self::of(secret.as_bytes()))
    }

    pub(crate) fn bytes(&self) -> &[u8] {
        self.0.secret().as_bytes()
    }

    /// As it is typed: groups of four.
    pub(crate) fn in_groups(&self) -> String {
        let text = self.0.secret().to_base32();
        let groups: Vec<&str> =
            text.as_bytes().chunks(4).filter_map(|g| std::str::from_utf8(g).ok()).collect();
        groups.join(" ")
    }

    /// The address that an app reads from a picture: the form that the apps agree on.
    pub(crate) fn address(&self, house: &str, person: &str) -> String {
        // A colon parts the two names, and a long name makes a picture that no telephone reads.
        let plain = |name: &str| name.replace(':', " ").chars().take(LONGEST_NAME).collect::<String>();
        let named = Builder::new()
            .with_secret(Secret::from(self.bytes()))
            .with_issuer(Some(plain(house)))
            .with_account_name(plain(person))
            .build_noncompliant();
        named.to_url().unwrap_or_default()
    }

    /// The step of this code: the half minute it belongs to, now or beside now.
    pub(crate) fn step_of(&self, code: &str) -> Option<u64> {
        let code: String = code.split_whitespace().collect();
        let now = SystemTime::now().duration_since(UNIX_EPOCH).ok()?;
        self.0.check(&code, now.as_secs())
    }
}

/// A picture of squares that a telephone reads, as a path: each square of it is one unit.
pub(crate) struct Squares {
    pub(crate) size: i32,
    pub(crate) path: String,
}

impl Squares {
    /// Empty where the text is longer than a picture holds, which no [`SharedKey::address`] is.
    pub(crate) fn of(text: &str) -> Self {
        let Ok(code) = QrCode::encode_text(text, QrCodeEcc::Medium) else {
            return Self { size: 0, path: String::new() };
        };
        let size = code.size();
        let dark =
            (0..size).flat_map(|y| (0..size).map(move |x| (x, y))).filter(|(x, y)| code.get_module(*x, *y));
        Self { size, path: dark.map(|(x, y)| format!("M{x} {y}h1v1h-1z")).collect() }
    }
}

/// New codes on paper, and what is kept of them.
pub(crate) fn on_paper(key: &SharedKey) -> (Vec<String>, Vec<[u8; 32]>) {
    let codes: Vec<String> = (0..ON_PAPER).map(|_| code_on_paper()).collect();
    let hashes = codes.iter().map(|code| hashed(key.bytes(), code)).collect();
    (codes, hashes)
}

fn code_on_paper() -> String {
    let sign = || loop {
        // Each sign as likely as the others: what is above the last whole multiple is drawn again.
        let mut drawn = [0_u8];
        OsRng.fill_bytes(&mut drawn);
        let drawn = usize::from(drawn[0]);
        if drawn < 256 / SIGNS.len() * SIGNS.len() {
            return char::from(SIGNS[drawn % SIGNS.len()]);
        }
    };
    let group = || (0..4).map(|_| sign()).collect::<String>();
    (0..GROUPS).map(|_| group()).collect::<Vec<_>>().join("-")
}

/// What is kept of a code on paper: the key of its owner is its salt.
fn hashed(key: &[u8], code: &str) -> [u8; 32] {
    let signs = code.chars().filter(char::is_ascii_alphanumeric).map(|sign| sign.to_ascii_lowercase());
    Sha256::new().chain_update(key).chain_update(signs.collect::<String>()).finalize().into()
}

/// Whether a code is one that this person has; it is used up.
pub(crate) async fn is_used_up(
    store: &Store,
    person: u64,
    factor: &SecondFactor,
    code: &str,
) -> Result<bool, ApiError> {
    if let Some(step) = SharedKey::of(&factor.key).step_of(code) {
        return Ok(store.use_code(person, step).await?);
    }
    Ok(store.use_recovery_code(person, &hashed(&factor.key, code)).await?)
}

#[cfg(test)]
mod tests {
    use super::*;

    /// RFC 6238, appendix B: the last six of the eight digits for SHA-1, and the step of each time.
    #[test]
    fn codes_are_those_of_the_standard() {
        let key = SharedKey::of(b"12345678901234567890");
        for (time, code, step) in [
            (59, "287082", 0x1),
            (1_111_111_109, "081804", 0x0235_23EC),
            (1_111_111_111, "050471", 0x0235_23ED),
            (1_234_567_890, "005924", 0x0273_EF07),
            (2_000_000_000, "279037", 0x03F9_40AA),
            (20_000_000_000, "353130", 0x27BC_86AA),
        ] {
            assert_eq!(key.0.check(code, time), Some(step), "{time}");
            assert_eq!(key.0.check(code, time + 30), Some(step), "a clock that is half a minute wrong");
            assert_eq!(key.0.check(code, time + 90), None, "an old code");
        }
    }

    #[test]
    fn a_key_is_read_as_it_is_shown_and_names_house_and_person() {
        let key = SharedKey::of(b"12345678901234567890");
        assert_eq!(key.in_groups(), "GEZD GNBV GY3T QOJQ GEZD GNBV GY3T QOJQ", "RFC 4648, base 32");
        let typed = SharedKey::typed(" gezd gnbv gy3t qojq gezd gnbv gy3t qojq ").unwrap();
        assert_eq!(typed.bytes(), key.bytes());
        assert!(SharedKey::typed("GEZD").is_none() && SharedKey::typed("1890").is_none());
        assert_eq!(
            key.address("The workroom: Sund", "Marit Øye"),
            "otpauth://totp/The%20workroom%20%20Sund:Marit%20%C3%98ye?secret=GEZDGNBVGY3TQOJQGEZDGNBVGY3TQOJQ\
             &issuer=The%20workroom%20%20Sund"
        );
        assert_ne!(SharedKey::new().bytes(), SharedKey::new().bytes());
    }

    #[test]
    fn codes_on_paper_differ_and_are_read_however_they_are_written() {
        let key = SharedKey::new();
        let (codes, kept) = on_paper(&key);
        assert_eq!(codes.iter().collect::<std::collections::HashSet<_>>().len(), ON_PAPER);
        for (code, kept) in codes.iter().zip(&kept) {
            assert_eq!(code.len(), 14);
            assert_eq!(hashed(key.bytes(), &code.replace('-', " ").to_uppercase()), *kept);
            assert_ne!(hashed(SharedKey::new().bytes(), code), *kept, "another's");
        }
    }
}
