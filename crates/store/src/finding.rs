//! One field finds anything: clients by name, number or note, garments and blocks by name. Accents and case do not matter.

use crate::{Result, Store};

/// What was found in the book.
#[derive(Clone, Debug, Default, PartialEq, Eq)]
pub struct Found {
    /// Clients; those whose name it is come first.
    pub clients: Vec<FoundRow>,
    /// Garments; those whose name it is come first.
    pub garments: Vec<FoundRow>,
    /// Blocks, each in its newest version.
    pub blocks: Vec<FoundRow>,
}

/// Something that was found.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct FoundRow {
    /// Its number.
    pub id: u64,
    /// Its name.
    pub title: String,
    /// What tells it from another of that name: her number, whose garment, which version.
    pub detail: String,
}

/// What a person typed, as what is looked for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Sought {
    /// Patterns of which every one must be in the text, as a JSON array.
    pub(crate) words: String,
    /// The digits of a telephone number however it is written; nothing where this is none.
    pub(crate) number: Option<String>,
}

/// So many digits are a part of a telephone number.
const LEAST_DIGITS: usize = 3;
/// Of each kind no more are shown.
const MOST: u32 = 8;

impl Sought {
    pub(crate) fn of(typed: &str) -> Self {
        // What the person typed is text, not a pattern.
        let escaped = |word: &str| word.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
        let words: Vec<String> =
            typed.split_whitespace().map(|word| format!("%{}%", escaped(word))).collect();
        let is_number = typed.chars().all(|c| c.is_ascii_digit() || " +-/().".contains(c));
        let digits: String = typed.chars().filter(char::is_ascii_digit).collect();
        let number = (is_number && digits.len() >= LEAST_DIGITS).then(|| format!("%{digits}%"));
        Self { words: serde_json::json!(words).to_string(), number }
    }
}

impl Store {
    /// Everything in the book whose text holds every word that was typed.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn find(&self, typed: &str) -> Result<Found> {
        let Sought { words, number } = Sought::of(typed);
        let clients = sqlx::query!(
            "SELECT c.id, c.name, c.contact, c.archived_at FROM clients c JOIN client_texts t ON t.client_id = c.id \
             WHERE c.merged_into IS NULL AND (NOT EXISTS (SELECT 1 FROM JSON_TABLE(?, '$[*]' COLUMNS (word TEXT PATH '$')) w \
                 WHERE t.words NOT LIKE w.word) \
               OR REGEXP_REPLACE(c.contact, '[^0-9]', '') LIKE ?) \
             ORDER BY c.archived_at IS NOT NULL, \
               EXISTS (SELECT 1 FROM JSON_TABLE(?, '$[*]' COLUMNS (word TEXT PATH '$')) w WHERE c.name NOT LIKE w.word), \
               c.name, c.id LIMIT ?",
            words,
            number,
            words,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let garments = sqlx::query!(
            "SELECT o.id, o.garment, c.name AS client FROM orders o JOIN clients c ON c.id = o.client_id \
             WHERE NOT EXISTS (SELECT 1 FROM JSON_TABLE(?, '$[*]' COLUMNS (word TEXT PATH '$')) w \
                 WHERE CONCAT_WS(' ', o.garment, c.name) NOT LIKE w.word) \
             ORDER BY EXISTS (SELECT 1 FROM JSON_TABLE(?, '$[*]' COLUMNS (word TEXT PATH '$')) w WHERE o.garment NOT LIKE w.word), \
               o.finished_at IS NOT NULL, o.id DESC LIMIT ?",
            words,
            words,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let blocks = sqlx::query!(
            "SELECT b.id, b.name, b.version, c.name AS \"client?\" \
             FROM blocks b LEFT JOIN clients c ON c.id = b.client_id \
             WHERE NOT EXISTS (SELECT 1 FROM JSON_TABLE(?, '$[*]' COLUMNS (word TEXT PATH '$')) w \
                 WHERE CONCAT_WS(' ', b.name, c.name) NOT LIKE w.word) \
               AND NOT EXISTS (SELECT 1 FROM blocks n WHERE n.name = b.name AND n.client_id <=> b.client_id AND n.version > b.version) \
             ORDER BY b.client_id IS NOT NULL, b.name, b.id LIMIT ?",
            words,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(Found {
            clients: { clients.into_iter() }
                .map(|r| FoundRow {
                    id: r.id,
                    title: r.name,
                    detail: r.archived_at.map_or(r.contact, |_| "in the archive".to_owned()),
                })
                .collect(),
            garments: { garments.into_iter() }
                .map(|r| FoundRow { id: r.id, title: r.garment, detail: r.client })
                .collect(),
            blocks: { blocks.into_iter() }
                .map(|r| FoundRow {
                    id: r.id,
                    title: r.name,
                    detail: r.client.unwrap_or_else(|| format!("version {}", r.version)),
                })
                .collect(),
        })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_text_and_digits_are_a_number_however_they_are_written() {
        let sought = Sought::of("  50% _moe ");
        assert_eq!(serde_json::from_str::<[String; 2]>(&sought.words).unwrap(), ["%50\\%%", "%\\_moe%"]);
        assert_eq!(sought.number, None);
        assert_eq!(Sought::of("+44 (0)20/7946-09").number.as_deref(), Some("%44020794609%"));
        assert_eq!(Sought::of("12").number, None, "too short to be one");
    }
}
