//! The people of the house and their sign-ins.

use chrono::{DateTime, NaiveDateTime, Utc};

use crate::{Result, Store, StoreError};

/// What a person may do.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    /// Everything.
    Owner,
    /// Blocks, patterns, fitting.
    Cutter,
    /// Fitting and readings.
    Fitter,
    /// Readings.
    Assistant,
    /// Looking only.
    Reader,
}

impl Role {
    /// As it is stored.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Owner => "owner",
            Self::Cutter => "cutter",
            Self::Fitter => "fitter",
            Self::Assistant => "assistant",
            Self::Reader => "reader",
        }
    }

    /// The role of this name.
    pub fn named(code: &str) -> Option<Self> {
        [Self::Owner, Self::Cutter, Self::Fitter, Self::Assistant, Self::Reader]
            .into_iter()
            .find(|role| role.code() == code)
    }

    /// From its stored form; what is unknown may only look.
    pub fn from_code(code: &str) -> Self {
        Self::named(code).unwrap_or(Self::Reader)
    }
}

/// A person of the house.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Person {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// What the person may do.
    pub role: Role,
}

impl Store {
    /// Adds a person.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where the address is taken, [`StoreError::Database`].
    pub async fn add_person(&self, name: &str, email: &str, password_hash: &str, role: Role) -> Result<u64> {
        let added = sqlx::query!(
            "INSERT INTO people (name, email, password_hash, role) VALUES (?, ?, ?, ?)",
            name,
            email,
            password_hash,
            role.code()
        )
        .execute(&self.pool)
        .await
        .map_err(|error| match error.as_database_error() {
            Some(known) if known.is_unique_violation() => {
                StoreError::Refused("somebody signs in with this address already: give another")
            }
            _ => error.into(),
        })?;
        Ok(added.last_insert_id())
    }

    /// The person of an address, with the password's hash.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn person_by_email(&self, email: &str) -> Result<Option<(Person, String)>> {
        let row = sqlx::query!("SELECT id, name, role, password_hash FROM people WHERE email = ?", email)
            .fetch_optional(&self.pool)
            .await?;
        Ok(row.map(|r| (Person { id: r.id, name: r.name, role: Role::from_code(&r.role) }, r.password_hash)))
    }

    /// Keeps a sign-in by the hash of its token.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn sign_in(&self, token_hash: &[u8; 32], person: u64, expires_at: DateTime<Utc>) -> Result<()> {
        let (token, expires): (&[u8], NaiveDateTime) = (token_hash, expires_at.naive_utc());
        sqlx::query!("DELETE FROM sign_ins WHERE expires_at < UTC_TIMESTAMP(3)").execute(&self.pool).await?;
        sqlx::query!(
            "INSERT INTO sign_ins (token_hash, person_id, expires_at) VALUES (?, ?, ?)",
            token,
            person,
            expires
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// Who is signed in with this token.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn signed_in(&self, token_hash: &[u8; 32]) -> Result<Option<Person>> {
        let token: &[u8] = token_hash;
        let row = sqlx::query!(
            "SELECT p.id, p.name, p.role FROM sign_ins s JOIN people p ON p.id = s.person_id \
             WHERE s.token_hash = ? AND s.expires_at > UTC_TIMESTAMP(3)",
            token
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|r| Person { id: r.id, name: r.name, role: Role::from_code(&r.role) }))
    }

    /// Ends a sign-in.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn sign_out(&self, token_hash: &[u8; 32]) -> Result<()> {
        let token: &[u8] = token_hash;
        sqlx::query!("DELETE FROM sign_ins WHERE token_hash = ?", token).execute(&self.pool).await?;
        Ok(())
    }

    /// Notes a failed attempt and tells how many there were in the last quarter of an hour.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn failed_attempts(&self, email: &str, note_one_more: bool) -> Result<i64> {
        if note_one_more {
            sqlx::query!("INSERT INTO sign_in_attempts (email) VALUES (?)", email)
                .execute(&self.pool)
                .await?;
        }
        let row = sqlx::query!(
            "SELECT COUNT(*) AS n FROM sign_in_attempts \
             WHERE email = ? AND at > UTC_TIMESTAMP(3) - INTERVAL 15 MINUTE",
            email
        )
        .fetch_one(&self.pool)
        .await?;
        Ok(row.n)
    }

    /// Forgets failed attempts after a good one.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn forget_attempts(&self, email: &str) -> Result<()> {
        sqlx::query!("DELETE FROM sign_in_attempts WHERE email = ?", email).execute(&self.pool).await?;
        Ok(())
    }

    /// Forgets keys of writes after a month and failed attempts to sign in after a day: nobody asks for them any more.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn forget_old(&self) -> Result<()> {
        self.end_left_imports().await?;
        sqlx::query!("DELETE FROM saved_once WHERE at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY")
            .execute(&self.pool)
            .await?;
        sqlx::query!("DELETE FROM sign_in_attempts WHERE at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY")
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}
