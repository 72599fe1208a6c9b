//! Names of people: which of them may be the same one.

use unicode_normalization::UnicodeNormalization;
use unicode_normalization::char::is_combining_mark;

/// A name on one line with single spaces, composed: two that read alike are equal.
pub fn tidy(name: &str) -> String {
    name.nfc().collect::<String>().split_whitespace().collect::<Vec<_>>().join(" ")
}

/// Letters without accents and case, words in order of the alphabet: `Mårtens, Edda` and `edda martens` are alike.
fn bare(name: &str) -> String {
    let letters: String = name
        .nfd()
        .filter(|c| !is_combining_mark(*c))
        .flat_map(char::to_lowercase)
        .map(|c| if c.is_alphanumeric() { c } else { ' ' })
        .collect();
    let mut words: Vec<&str> = letters.split_whitespace().collect();
    words.sort_unstable();
    words.join(" ")
}

/// Whether two names that are not the same may still mean the same woman: other accents, other case, words in another
/// order, or a letter or two mistyped. A person decides.
pub fn are_near(one: &str, other: &str) -> bool {
    let (one, other) = (bare(one), bare(other));
    if one == other {
        return true;
    }
    let short = one.chars().count().min(other.chars().count());
    let slips = match short {
        0..5 => 0,
        5..9 => 1,
        _ => 2,
    };
    strsim::damerau_levenshtein(&one, &other) <= slips
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn names_that_may_be_one_woman_are_near_and_others_are_not() {
        for other in
            ["Edda Martens", "edda mårtens", "Mårtens, Edda", "Edda Maartens", "Eda Mårtens", "Edda  Mårtens"]
        {
            assert!(are_near("Edda Mårtens", other), "{other}");
        }
        for other in ["Greta Mårtens", "Edda Holm", "Bettina Corr", "E. M."] {
            assert!(!are_near("Edda Mårtens", other), "{other}");
        }
        assert!(!are_near("Ada", "Ida"), "short names differ by one letter");
        assert_eq!(tidy("  Zoe\u{308}   Å "), "Zoë Å");
    }
}
