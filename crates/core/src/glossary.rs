//! The words of the trade, explained: one data file for the hover on every screen and for the page of all of them.

use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

/// A word of the trade.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Term {
    /// What a screen marks it with.
    pub code: String,
    /// The word.
    pub name: String,
    /// What it means, in plain sentences.
    pub says: String,
}

#[derive(Deserialize)]
struct File {
    term: Vec<Term>,
}

static GLOSSARY: LazyLock<Vec<Term>> = LazyLock::new(|| {
    let file: File = toml::from_str(include_str!("../data/glossary.toml"))
        .unwrap_or_else(|error| panic!("data/glossary.toml cannot be read: {error}"));
    file.term
});

/// Every word of the glossary, in the order of the file.
pub fn glossary() -> &'static [Term] {
    &GLOSSARY
}

#[cfg(test)]
mod tests {
    use std::collections::HashSet;

    use super::*;

    #[test]
    fn every_word_is_explained_once_in_whole_sentences() {
        let codes: HashSet<&str> = glossary().iter().map(|term| term.code.as_str()).collect();
        assert_eq!(codes.len(), glossary().len());
        for Term { code, name, says } in glossary() {
            assert!(says.ends_with('.') && says.starts_with(char::is_uppercase), "{code}: {says}");
            assert!(!name.is_empty() && says.len() > 20, "{code}");
        }
    }
}
