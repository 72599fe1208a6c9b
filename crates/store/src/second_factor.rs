//! A second step at signing in: the key that somebody's app shares with the house, and codes on paper for the day the app is lost.

use chrono::{DateTime, Utc};

use crate::audit::{Once, note};
use crate::coming_and_going::{end_others, forget_devices};
use crate::{Result, Store, Tx};

/// What somebody needs besides the password.
#[derive(Clone, PartialEq, Eq)]
pub struct SecondFactor {
    /// The key that the app and the house share.
    pub key: Vec<u8>,
    /// Since when.
    pub since: DateTime<Utc>,
    /// So many codes on paper are not used yet.
    pub recovery_codes: u32,
}

impl Store {
    /// What this person needs besides the password, if anything.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn second_factor(&self, person: u64) -> Result<Option<SecondFactor>> {
        let row = sqlx::query!(
            "SELECT shared_key, since, \
               (SELECT COUNT(*) FROM recovery_codes c WHERE c.person_id = f.person_id) AS \"recovery_codes!: u32\" \
             FROM second_factors f WHERE person_id = ?",
            person
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|r| SecondFactor {
            key: r.shared_key,
            since: r.since.and_utc(),
            recovery_codes: r.recovery_codes,
        }))
    }

    /// From now on this person needs a code too. `used_step` is the one of the code that was just shown to be right. Every sign-in but
    /// the one of this token ends, and so do the codes of a key before.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn begin_second_factor(
        &self,
        person: u64,
        (key, used_step): (&[u8], u64),
        recovery: &[[u8; 32]],
        this_token: &[u8; 32],
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        take_away(&mut tx, person).await?;
        sqlx::query!(
            "INSERT INTO second_factors (person_id, shared_key, used_step) VALUES (?, ?, ?)",
            person,
            key,
            used_step
        )
        .execute(&mut *tx)
        .await?;
        for code in recovery {
            sqlx::query!(
                "INSERT INTO recovery_codes (person_id, code_hash) VALUES (?, ?)",
                person,
                code.as_slice()
            )
            .execute(&mut *tx)
            .await?;
        }
        end_others(&mut tx, person, this_token).await?;
        // A device that is known came in with the password alone.
        forget_devices(&mut tx, person).await?;
        note(&mut tx, Once::by(person), "second step set up", "people", person).await?;
        Ok(tx.commit().await?)
    }

    /// From now on the password is enough for this person again. Whether it was not before.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn end_second_factor(&self, person: u64, by: u64) -> Result<bool> {
        let mut tx = self.begin().await?;
        let there_was_one = take_away(&mut tx, person).await?;
        if there_was_one {
            note(&mut tx, Once::by(by), "second step taken away", "people", person).await?;
        }
        tx.commit().await?;
        Ok(there_was_one)
    }

    /// Uses up the code of this step: no earlier one is good after it, and of two who come with the same one comes in.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn use_code(&self, person: u64, step: u64) -> Result<bool> {
        let used = sqlx::query!(
            "UPDATE second_factors SET used_step = ? WHERE person_id = ? AND used_step < ?",
            step,
            person,
            step
        )
        .execute(&self.pool)
        .await?;
        Ok(used.rows_affected() == 1)
    }

    /// Uses up a code on paper: whether there was one of this hash.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn use_recovery_code(&self, person: u64, hash: &[u8; 32]) -> Result<bool> {
        let mut tx = self.begin().await?;
        let used = sqlx::query!(
            "DELETE FROM recovery_codes WHERE person_id = ? AND code_hash = ?",
            person,
            hash.as_slice()
        )
        .execute(&mut *tx)
        .await?
        .rows_affected();
        if used == 1 {
            note(&mut tx, Once::by(person), "came in by a code on paper", "people", person).await?;
        }
        tx.commit().await?;
        Ok(used == 1)
    }
}

async fn take_away(tx: &mut Tx, person: u64) -> Result<bool> {
    let taken =
        sqlx::query!("DELETE FROM second_factors WHERE person_id = ?", person).execute(&mut **tx).await?;
    Ok(taken.rows_affected() == 1)
}
