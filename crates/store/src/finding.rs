//! One field finds anything: clients by name, number or note, garments and blocks by name. Accents and case do not matter.

use std::collections::{HashMap, HashSet};

use futures_util::future::try_join_all;

use crate::{Result, Store, StoreError, numbers};

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
struct Sought {
    /// Patterns of which every one must be in the text.
    words: Vec<String>,
    /// The digits of a telephone number however it is written; nothing where this is none.
    number: Option<String>,
}

/// So many digits are a part of a telephone number.
const LEAST_DIGITS: usize = 3;
/// Of each kind no more are shown.
const MOST: u32 = 8;

impl Sought {
    fn of(typed: &str) -> Self {
        // What the person typed is text, not a pattern.
        let escaped = |word: &str| word.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_");
        let words = typed.split_whitespace().map(|word| format!("%{}%", escaped(word))).collect();
        let is_number = typed.chars().all(|c| c.is_ascii_digit() || " +-/().".contains(c));
        let digits: String = typed.chars().filter(char::is_ascii_digit).collect();
        let number = (is_number && digits.len() >= LEAST_DIGITS).then(|| format!("%{digits}%"));
        Self { words, number }
    }
}

/// The clients in whose text a word is; with each, whether it is in her name.
type Holding = HashMap<u64, bool>;

/// Those that hold every word; with each, whether all of them are in her name.
fn holding_all(words: &[Holding]) -> Holding {
    let Some((first, others)) = words.split_first() else { return Holding::new() };
    let all = |(id, named): (&u64, &bool)| {
        let others: Vec<bool> = others.iter().map(|word| word.get(id).copied()).collect::<Option<_>>()?;
        Some((*id, *named && others.into_iter().all(|named| named)))
    };
    first.iter().filter_map(all).collect()
}

impl Store {
    /// Everything in the book whose text holds every word that was typed.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn find(&self, typed: &str) -> Result<Found> {
        let sought = &Sought::of(typed);
        let (words, numbered) =
            tokio::try_join!(self.clients_by_word(sought), self.clients_by_number(sought))?;
        let (clients, garments, blocks) = tokio::try_join!(
            self.clients_told(&words, &numbered),
            self.garments_told(sought, &words, MOST),
            self.blocks_told(sought)
        )?;
        Ok(Found { clients, garments, blocks })
    }

    /// The clients that are found by what was typed: by every word of it, or as a number.
    pub(crate) async fn clients_found(&self, typed: &str) -> Result<Vec<u64>> {
        let sought = &Sought::of(typed);
        let (words, numbered) =
            tokio::try_join!(self.clients_by_word(sought), self.clients_by_number(sought))?;
        Ok(holding_all(&words).into_keys().chain(numbered).collect())
    }

    /// Garments in whose own or whose client's name every word is, at most so many.
    pub(crate) async fn garments_found(&self, typed: &str, most: u32) -> Result<Vec<FoundRow>> {
        let sought = &Sought::of(typed);
        self.garments_told(sought, &self.clients_by_word(sought).await?, most).await
    }

    /// Of each word the clients in whose name, contact or notes it is.
    async fn clients_by_word(&self, sought: &Sought) -> Result<Vec<Holding>> {
        try_join_all(sought.words.iter().map(async |word| {
            let own = sqlx::query!(
                "SELECT id, name LIKE ? AS \"named!: bool\" FROM clients WHERE CONCAT_WS(' ', name, contact, notes) LIKE ?",
                word,
                word
            )
            .fetch_all(&self.pool);
            let noted = sqlx::query_scalar!(
                "SELECT client_id FROM client_notes WHERE removed_at IS NULL AND words LIKE ?",
                word
            )
            .fetch_all(&self.pool);
            let (own, noted) = tokio::try_join!(own, noted)?;
            let noted = noted.into_iter().map(|id| (id, false));
            Ok(noted.chain(own.into_iter().map(|row| (row.id, row.named))).collect())
        }))
        .await
    }

    async fn clients_by_number(&self, sought: &Sought) -> Result<Vec<u64>> {
        let Some(number) = &sought.number else { return Ok(Vec::new()) };
        Ok(sqlx::query_scalar!(
            "SELECT id FROM clients WHERE REGEXP_REPLACE(contact, '[^0-9]', '') LIKE ?",
            number
        )
        .fetch_all(&self.pool)
        .await?)
    }

    /// Those whose name it is come first.
    async fn clients_told(&self, words: &[Holding], numbered: &[u64]) -> Result<Vec<FoundRow>> {
        let found = holding_all(words);
        let named: Vec<u64> = found.iter().filter(|(_, named)| **named).map(|(id, _)| *id).collect();
        let others: Vec<u64> = { found.into_iter() }
            .filter(|(_, named)| !named)
            .map(|(id, _)| id)
            .chain(numbered.iter().copied())
            .collect();
        let rows = sqlx::query!(
            "SELECT c.id, c.name, c.contact, c.archived_at FROM ( \
               SELECT a.id, FALSE AS other FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a \
               UNION ALL SELECT b.id, TRUE FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) b) f \
             STRAIGHT_JOIN clients c ON c.id = f.id WHERE c.merged_into IS NULL AND c.form_id IS NULL GROUP BY c.id \
             ORDER BY c.archived_at IS NOT NULL, MIN(f.other), c.name, c.id LIMIT ?",
            numbers(&named),
            numbers(&others),
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let detail = |contact, archived: Option<_>| archived.map_or(contact, |_| "in the archive".to_owned());
        Ok({ rows.into_iter() }
            .map(|r| FoundRow { id: r.id, title: r.name, detail: detail(r.contact, r.archived_at) })
            .collect())
    }

    /// Garments that are found: those whose own name it is first, then those of the clients whose name holds what theirs does not.
    async fn garments_told(&self, sought: &Sought, clients: &[Holding], most: u32) -> Result<Vec<FoundRow>> {
        let by_word: Vec<HashMap<u64, u64>> = try_join_all(sought.words.iter().map(async |word| {
            let rows = sqlx::query!("SELECT id, client_id FROM orders WHERE garment LIKE ?", word)
                .fetch_all(&self.pool)
                .await?;
            Ok::<_, StoreError>(rows.into_iter().map(|row| (row.id, row.client_id)).collect())
        }))
        .await?;
        let is_named = |word: &Holding, client: &u64| word.get(client) == Some(&true);
        let (mut own, mut shared) = (Vec::new(), Vec::new());
        for (id, client) in by_word.iter().flatten() {
            let mut words = by_word.iter().zip(clients);
            if by_word.iter().all(|word| word.contains_key(id)) {
                own.push(*id);
            } else if words.all(|(garments, named)| garments.contains_key(id) || is_named(named, client)) {
                shared.push(*id);
            }
        }
        let hers: Vec<u64> =
            { holding_all(clients).into_iter() }.filter(|(_, named)| *named).map(|(id, _)| id).collect();
        let rows = sqlx::query!(
            "SELECT o.id, o.garment, c.name AS client FROM ( \
               SELECT a.id, FALSE AS other FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a \
               UNION ALL SELECT b.id, TRUE FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) b \
               UNION ALL SELECT g.id, TRUE FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) h \
                 STRAIGHT_JOIN orders g ON g.client_id = h.id) f \
             STRAIGHT_JOIN orders o ON o.id = f.id STRAIGHT_JOIN clients c ON c.id = o.client_id GROUP BY o.id \
             ORDER BY MIN(f.other), o.finished_at IS NOT NULL, o.id DESC LIMIT ?",
            numbers(&own),
            numbers(&shared),
            numbers(&hers),
            most
        )
        .fetch_all(&self.pool)
        .await?;
        Ok(rows.into_iter().map(|r| FoundRow { id: r.id, title: r.garment, detail: r.client }).collect())
    }

    /// Blocks are few beside all else: each word is looked for by itself in their names and in whose they are.
    async fn blocks_told(&self, sought: &Sought) -> Result<Vec<FoundRow>> {
        let by_word: Vec<HashSet<u64>> = try_join_all(sought.words.iter().map(async |word| {
            let rows = sqlx::query_scalar!(
                "SELECT b.id FROM blocks b LEFT JOIN clients c ON c.id = b.client_id WHERE CONCAT_WS(' ', b.name, c.name) LIKE ?",
                word
            )
            .fetch_all(&self.pool)
            .await?;
            Ok::<_, StoreError>(rows.into_iter().collect())
        }))
        .await?;
        let found: Vec<u64> = { by_word.iter().flatten() }
            .filter(|id| by_word.iter().all(|word| word.contains(id)))
            .copied()
            .collect();
        let rows = sqlx::query!(
            "SELECT b.id, b.name, b.version, c.name AS \"client?\" \
             FROM JSON_TABLE(?, '$[*]' COLUMNS (id BIGINT UNSIGNED PATH '$')) a STRAIGHT_JOIN blocks b ON b.id = a.id \
             LEFT JOIN clients c ON c.id = b.client_id \
             WHERE NOT EXISTS (SELECT 1 FROM blocks n WHERE n.name = b.name AND n.client_id <=> b.client_id AND n.version > b.version) \
             ORDER BY b.client_id IS NOT NULL, b.name, b.id LIMIT ?",
            numbers(&found),
            MOST
        )
        .fetch_all(&self.pool)
        .await?;
        let detail = |client: Option<String>, version| client.unwrap_or_else(|| format!("version {version}"));
        Ok({ rows.into_iter() }
            .map(|r| FoundRow { id: r.id, title: r.name, detail: detail(r.client, r.version) })
            .collect())
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn words_are_text_and_digits_are_a_number_however_they_are_written() {
        assert_eq!(
            Sought::of("  50% _moe "),
            Sought { words: vec!["%50\\%%".into(), "%\\_moe%".into()], number: None }
        );
        assert_eq!(Sought::of("+44 (0)20/7946-09").number.as_deref(), Some("%44020794609%"));
        assert_eq!(Sought::of("12").number, None, "too short to be one");
    }

    #[test]
    fn every_word_must_be_there_and_only_where_all_are_in_it_is_it_her_name() {
        let [signe, moe] = [
            Holding::from([(1, true), (2, true), (3, false), (5, false)]),
            Holding::from([(1, true), (3, true), (4, true)]),
        ];
        assert_eq!(holding_all(&[signe.clone(), moe]), Holding::from([(1, true), (3, false)]));
        assert_eq!(holding_all(std::slice::from_ref(&signe)), signe);
        assert_eq!(holding_all(&[]), Holding::new(), "nothing was asked for");
    }
}
