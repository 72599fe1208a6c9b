//! Exercises of the practice room that somebody has done. They know people of the house and nobody else.

use chrono::{DateTime, Utc};

use crate::{Result, Store};

/// An exercise, by what makes it the same again.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct ExerciseKey<'a> {
    /// What kind of exercise.
    pub kind: &'a str,
    /// How hard.
    pub difficulty: &'a str,
    /// Its number.
    pub seed: u64,
}

/// An exercise that was done.
#[derive(Clone, Debug, PartialEq)]
pub struct ExerciseDone {
    /// What it was of.
    pub item: String,
    /// How much of it was right, 0 to 1.
    pub score: f64,
    /// The kinds of mistakes, as a list.
    pub mistakes: serde_json::Value,
    /// When.
    pub done_at: DateTime<Utc>,
}

impl Store {
    /// Keeps what came of an exercise. The first time counts: whoever does it again knows the answer.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn keep_practised(
        &self,
        person: u64,
        exercise: ExerciseKey<'_>,
        item: &str,
        score: f64,
        mistakes: &serde_json::Value,
    ) -> Result<()> {
        sqlx::query!(
            "INSERT IGNORE INTO practised (person_id, kind, difficulty, seed, item, score, mistakes) VALUES (?, ?, ?, ?, ?, ?, ?)",
            person,
            exercise.kind,
            exercise.difficulty,
            exercise.seed,
            item,
            score,
            mistakes.to_string()
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// What somebody has practised, oldest first.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn practised(&self, person: u64) -> Result<Vec<ExerciseDone>> {
        let rows = sqlx::query!(
            "SELECT item, score, CAST(mistakes AS CHAR) AS \"mistakes!: String\", done_at AS \"done_at!: DateTime<Utc>\" \
             FROM practised WHERE person_id = ? ORDER BY id",
            person
        )
        .fetch_all(&self.pool)
        .await?;
        let done = rows.into_iter().map(|row| ExerciseDone {
            item: row.item,
            score: row.score,
            mistakes: serde_json::from_str(&row.mistakes).unwrap_or_default(),
            done_at: row.done_at,
        });
        Ok(done.collect())
    }
}
