//! One field finds anything: clients by name, number or note, garments and blocks by name. Accents and case do not matter.

use crate::{Result, Store};

/// What was found.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Found {
    /// What it is.
    pub kind: FoundKind,
    /// Its number.
    pub id: u64,
    /// Its name.
    pub title: String,
    /// What tells it from another of that name: her number, whose garment, which version.
    pub detail: String,
}

/// What can be found in the book.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum FoundKind {
    /// A client.
    Client,
    /// A garment.
    Garment,
    /// A block, in its newest version.
    Block,
}

/// What a person typed, as what is looked for.
#[derive(Clone, Debug, PartialEq, Eq)]
pub(crate) struct Sought {
    /// Every word must be somewhere in the text; words that were not typed are everywhere.
    pub(crate) words: [String; MOST_WORDS],
    /// The digits of a telephone number however it is written; nothing where this is none.
    pub(crate) number: Option<String>,
}

/// Words beyond these are passed over.
const MOST_WORDS: usize = 4;
/// So many digits are a part of a telephone number.
const LEAST_DIGITS: usize = 3;
/// Of each kind no more are shown.
const MOST: u32 = 8;

impl Sought {
    pub(crate) fn of(typed: &str) -> Self {
        let mut words: [String; MOST_WORDS] = std::array::from_fn(|_| "%".to_owned());
        for (slot, word) in words.iter_mut().zip(typed.split_whitespace()) {
            // What the person typed is text, not a pattern.
            let escaped = word.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
            *slot = format!("%{escaped}%");
        }
        let is_number = typed.chars().all(|c| c.is_ascii_digit() || " +-/().".contains(c));
        let digits: String = typed.chars().filter(char::is_ascii_digit).collect();
        let number = (is_number && digits.len() >= LEAST_DIGITS).then(|| format!("%{digits}%"));
        Self { words, number }
    }
}

impl Store {
    /// Everything in the book whose text holds every word that was typed.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn find(&self, typed: &str) -> Result<Vec<Found>> {
        let Sought { words: [first, second, third, fourth], number } = Sought::of(typed);
        let clients = sqlx::query!(
            "SELECT id, name, contact FROM clients \
             WHERE (CONCAT_WS(' ', name, contact, notes) LIKE ? AND CONCAT_WS(' ', name, contact, notes) LIKE ? \
               AND CONCAT_WS(' ', name, contact, notes) LIKE ? AND CONCAT_WS(' ', name, contact, notes) LIKE ?) \
               OR REGEXP_REPLACE(contact, '[^0-9]', '') LIKE ? \
             ORDER BY name LIKE ? DESC, name, id LIMIT ?",
            first,
            second,
            third,
            fourth,
            number,
            first,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let garments = sqlx::query!(
            "SELECT o.id, o.garment, c.name AS client FROM orders o JOIN clients c ON c.id = o.client_id \
             WHERE CONCAT_WS(' ', o.garment, c.name) LIKE ? AND CONCAT_WS(' ', o.garment, c.name) LIKE ? \
               AND CONCAT_WS(' ', o.garment, c.name) LIKE ? AND CONCAT_WS(' ', o.garment, c.name) LIKE ? \
             ORDER BY o.garment LIKE ? DESC, o.finished_at IS NOT NULL, o.id DESC LIMIT ?",
            first,
            second,
            third,
            fourth,
            first,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let blocks = sqlx::query!(
            "SELECT b.id, b.name, b.version, c.name AS \"client?\" \
             FROM blocks b LEFT JOIN clients c ON c.id = b.client_id \
             WHERE CONCAT_WS(' ', b.name, c.name) LIKE ? AND CONCAT_WS(' ', b.name, c.name) LIKE ? \
               AND CONCAT_WS(' ', b.name, c.name) LIKE ? AND CONCAT_WS(' ', b.name, c.name) LIKE ? \
               AND NOT EXISTS (SELECT 1 FROM blocks n WHERE n.name = b.name AND n.client_id <=> b.client_id AND n.version > b.version) \
             ORDER BY b.client_id IS NOT NULL, b.name, b.id LIMIT ?",
            first,
            second,
            third,
            fourth,
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let mut found: Vec<Found> = Vec::new();
        found.extend(clients.into_iter().map(|r| Found {
            kind: FoundKind::Client,
            id: r.id,
            title: r.name,
            detail: r.contact,
        }));
        found.extend(garments.into_iter().map(|r| Found {
            kind: FoundKind::Garment,
            id: r.id,
            title: r.garment,
            detail: r.client,
        }));
        found.extend(blocks.into_iter().map(|r| Found {
            kind: FoundKind::Block,
            id: r.id,
            title: r.name,
            detail: r.client.unwrap_or_else(|| format!("version {}", r.version)),
        }));
        Ok(found)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_text_and_digits_are_a_number_however_they_are_written() {
        let sought = Sought::of("  50% _moe ");
        assert_eq!(sought.words, ["%50\\%%", "%\\_moe%", "%", "%"]);
        assert_eq!(sought.number, None);
        assert_eq!(Sought::of("+44 (0)20/7946-09").number.as_deref(), Some("%44020794609%"));
        assert_eq!(Sought::of("12").number, None, "too short to be one");
    }
}
