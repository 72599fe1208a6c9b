//! The people of the house and their sign-ins.

use chrono::TimeDelta;

use crate::{Result, Store, StoreError};

/// What a person may do.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Role {
    /// Everything.
    Owner,
    /// Readings, blocks, patterns, fitting, dates.
    Cutter,
    /// Readings, fitting, dates.
    Fitter,
    /// Readings.
    Assistant,
    /// Looking only.
    Reader,
}

/// What it takes a right to change.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Right {
    /// Clients, consents, sessions and readings.
    Readings,
    /// Rounds, what is seen and decided in them, photographs.
    Fitting,
    /// Garments ordered and handed over, appointments, letters.
    Dates,
    /// Blocks, forms, plans, patterns and the house's ways of drafting.
    Cutting,
    /// The house itself, its people, and erasing a client.
    Housekeeping,
}

impl Right {
    /// Every right.
    pub const ALL: [Self; 5] =
        [Self::Readings, Self::Fitting, Self::Dates, Self::Cutting, Self::Housekeeping];
}

impl Role {
    /// Every role, from all rights to none.
    pub const ALL: [Self; 5] = [Self::Owner, Self::Cutter, Self::Fitter, Self::Assistant, Self::Reader];

    /// Whether it may change what takes this right. Looking takes none.
    pub const fn may(self, right: Right) -> bool {
        match self {
            Self::Owner => true,
            Self::Cutter => !matches!(right, Right::Housekeeping),
            Self::Fitter => matches!(right, Right::Readings | Right::Fitting | Right::Dates),
            Self::Assistant => matches!(right, Right::Readings),
            Self::Reader => false,
        }
    }

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
        Self::ALL.into_iter().find(|role| role.code() == code)
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
    /// A sign-in lasts no longer than this, however much it is used.
    pub const SIGN_IN_LASTS: TimeDelta = TimeDelta::days(14);
    /// And no longer than this unused: from before a weekend to after it.
    pub const UNUSED_LASTS: TimeDelta = TimeDelta::days(4);

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
        let row = sqlx::query!(
            "SELECT id, name, role, password_hash FROM people WHERE email = ? AND left_at IS NULL",
            email
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|r| (Person { id: r.id, name: r.name, role: Role::from_code(&r.role) }, r.password_hash)))
    }

    /// Keeps a sign-in by the hash of its token; `device` is what its browser says it is.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn sign_in(&self, token_hash: &[u8; 32], person: u64, device: &str) -> Result<()> {
        let token: &[u8] = token_hash;
        sqlx::query!("DELETE FROM sign_ins WHERE expires_at < UTC_TIMESTAMP(3)").execute(&self.pool).await?;
        sqlx::query!(
            "INSERT INTO sign_ins (token_hash, person_id, device, expires_at) \
             VALUES (?, ?, ?, UTC_TIMESTAMP(3) + INTERVAL ? DAY)",
            token,
            person,
            device,
            Self::UNUSED_LASTS.num_days()
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
        let (unused, in_all) = (Self::UNUSED_LASTS.num_days(), Self::SIGN_IN_LASTS.num_days());
        let row = sqlx::query!(
            "SELECT p.id, p.name, p.role, \
               LEAST(s.created_at + INTERVAL ? DAY, UTC_TIMESTAMP(3) + INTERVAL ? DAY) > s.expires_at + INTERVAL 10 MINUTE \
                 AS \"goes_on!: bool\" \
             FROM sign_ins s JOIN people p ON p.id = s.person_id \
             WHERE s.token_hash = ? AND s.expires_at > UTC_TIMESTAMP(3) AND p.left_at IS NULL",
            in_all,
            unused,
            token
        )
        .fetch_optional(&self.pool)
        .await?;
        // Kept now and then only: a page asks many times a minute.
        if row.as_ref().is_some_and(|row| row.goes_on) {
            sqlx::query!(
                "UPDATE sign_ins SET expires_at = LEAST(created_at + INTERVAL ? DAY, UTC_TIMESTAMP(3) + INTERVAL ? DAY) \
                 WHERE token_hash = ?",
                in_all,
                unused,
                token
            )
            .execute(&self.pool)
            .await?;
        }
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

    /// Forgets keys of writes after a month and failed attempts to sign in after a day, and devices nobody has signed in on for more than a year.
    ///
    /// # Errors
    ///
    /// [`crate::StoreError::Database`].
    pub async fn forget_old(&self) -> Result<()> {
        self.forget_left_imports().await?;
        self.forget_old_jobs().await?;
        sqlx::query!("DELETE FROM saved_once WHERE at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY")
            .execute(&self.pool)
            .await?;
        sqlx::query!("DELETE FROM entry_links WHERE expires_at < UTC_TIMESTAMP(3)")
            .execute(&self.pool)
            .await?;
        sqlx::query!("DELETE FROM attempts WHERE newest < UTC_TIMESTAMP(3) - INTERVAL 1 DAY")
            .execute(&self.pool)
            .await?;
        sqlx::query!("DELETE FROM known_devices WHERE seen_at < UTC_TIMESTAMP(3) - INTERVAL 400 DAY")
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}
