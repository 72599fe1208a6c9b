//! Sentences whose lengths are written down in millimetres, said in the house's unit.
//!
//! The craft's fixed sentences (why an alteration is wanted, what sets a limit, what is usual) hold lengths such as
//! `12.7 to 15.9 mm` or `60 mm (2 3/8 in)`. A house that measures in inches never reads a millimetre, and the other way
//! round.

use crate::{Length, Style};

impl Style {
    /// The sentence with every length in millimetres, and what repeats it in inches behind or before it, in this
    /// house's unit.
    ///
    /// ```
    /// use yardwand_core::Style;
    ///
    /// let usual = "Usual is 6 to 16 mm, at most 60 mm (2 3/8 in).";
    /// assert_eq!(Style::EIGHTHS.say(usual), "Usual is 1/4 to 5/8 in, at most 2 3/8 in.");
    /// assert_eq!(Style::TENTHS.say(usual), "Usual is 0.6 to 1.6 cm, at most 6.0 cm.");
    /// ```
    pub fn say(self, sentence: &str) -> String {
        let mut said = String::with_capacity(sentence.len());
        let mut rest = sentence;
        while let Some(found) = Found::first(rest) {
            said.push_str(&rest[..found.from]);
            let written: Vec<String> = found.mm.iter().map(|mm| self.write(Length::from_mm(*mm))).collect();
            said.push_str(&format!("{} {}", written.join(found.between), self.unit().suffix()));
            rest = &rest[found.to..];
        }
        said.push_str(rest);
        said
    }
}

/// The same words with a capital, to begin a sentence.
pub(crate) fn capitalised(words: &str) -> String {
    let mut letters = words.chars();
    letters.next().map_or_else(String::new, |first| format!("{}{}", first.to_uppercase(), letters.as_str()))
}

/// A length, or a range of lengths, in a sentence.
struct Found<'a> {
    from: usize,
    to: usize,
    mm: Vec<f64>,
    between: &'a str,
}

impl<'a> Found<'a> {
    /// The first length of a sentence that is written in millimetres.
    fn first(text: &'a str) -> Option<Self> {
        text.match_indices(" mm").find_map(|(at, unit)| {
            let to = at + unit.len();
            let ends_here = !text[to..].starts_with(|c: char| c.is_alphanumeric());
            let (from, last) = number_before(text, at).filter(|_| ends_here)?;
            let mut found = Self { from, to, mm: vec![last], between: "" };
            for between in [" to ", " and ", " or "] {
                let Some(before) = text[..from].strip_suffix(between) else { continue };
                if let Some((start, first)) = number_before(text, before.len()) {
                    found = Self { from: start, to, mm: vec![first, last], between };
                    break;
                }
            }
            Some(found.with_its_inches(text))
        })
    }

    /// Takes in the same length in inches: `60 mm (2 3/8 in)`, or `10 in (254 mm)`.
    fn with_its_inches(mut self, text: &str) -> Self {
        if let Some(behind) = text[self.to..].strip_prefix(" (")
            && let Some(end) = behind.find(')')
            && behind[..end].ends_with(" in")
        {
            self.to += 2 + end + 1;
        } else if text[self.to..].starts_with(')')
            && let Some(before) = text[..self.from].strip_suffix(" in (")
        {
            let words =
                before.char_indices().rev().take_while(|(_, c)| c.is_ascii_digit() || " /-.".contains(*c));
            let start = words.last().map_or(before.len(), |(at, _)| at);
            self.from = start + (before.len() - start - before[start..].trim_start().len());
            self.to += 1;
        }
        self
    }
}

/// The number that ends at a place of a text: where it begins, and its value.
fn number_before(text: &str, end: usize) -> Option<(usize, f64)> {
    let digits = text[..end].char_indices().rev().take_while(|(_, c)| c.is_ascii_digit() || *c == '.');
    let from = digits.last().map(|(at, _)| at)?;
    Some((from, text[from..end].parse().ok()?))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_length_is_said_once_in_the_house_s_unit() {
        for (sentence, inches, centimetres) in [
            ("75 mm long", "3 in long", "7.5 cm long"),
            ("with 12.7 to 15.9 mm on it", "with 1/2 to 5/8 in on it", "with 1.3 to 1.6 cm on it"),
            ("within 60 mm (2 3/8 in) of it", "within 2 3/8 in of it", "within 6.0 cm of it"),
            ("up to 10 in (254 mm) over", "up to 10 in over", "up to 25.4 cm over"),
            ("between 6 and 16 mm.", "between 1/4 and 5/8 in.", "between 0.6 and 1.6 cm."),
            ("drawn in by 11 in 100", "drawn in by 11 in 100", "drawn in by 11 in 100"),
            ("no length here", "no length here", "no length here"),
            ("mm 5 mmx", "mm 5 mmx", "mm 5 mmx"),
        ] {
            assert_eq!(Style::EIGHTHS.say(sentence), inches);
            assert_eq!(Style::TENTHS.say(sentence), centimetres);
        }
    }
}
