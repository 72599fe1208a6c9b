//! What a client reads of an alteration: neutral words, never what it says of her.

use std::collections::BTreeMap;
use std::sync::LazyLock;

static WORDS: LazyLock<BTreeMap<String, String>> = LazyLock::new(|| {
    toml::from_str(include_str!("../../data/client_words.toml"))
        .unwrap_or_else(|error| panic!("data/client_words.toml cannot be read: {error}"))
});

/// The sentence a client reads of an alteration.
pub fn client_words(alteration: &str) -> &'static str {
    WORDS.get(alteration).map_or("The pattern was altered.", String::as_str)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::alter::registry;

    #[test]
    fn every_alteration_has_its_words_and_none_speaks_of_the_body() {
        for known in registry() {
            let words = WORDS.get(known.code()).unwrap_or_else(|| panic!("{} has no words", known.code()));
            for word in
                ["round", "full", "large", "small", "narrow", "low", "sway", "hollow", "erect", "belly"]
            {
                let said = words.to_lowercase();
                let parts = said.split(|c: char| !c.is_alphabetic());
                assert!(parts.into_iter().all(|part| part != word), "{}: {words}", known.code());
            }
        }
        assert_eq!(WORDS.len(), registry().len());
    }
}
