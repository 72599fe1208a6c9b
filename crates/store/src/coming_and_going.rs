//! People of the house: asked in by a link, changed, gone again; and what each is signed in on.

use chrono::{DateTime, Utc};

use crate::audit::{Once, note, saved_before};
use crate::{Person, Result, Role, Store, StoreError, Tx};

/// A person as the owner sees them.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct PersonRow {
    /// Number.
    pub id: u64,
    /// Name.
    pub name: String,
    /// What the person signs in with.
    pub email: String,
    /// What the person may do.
    pub role: Role,
    /// Since when the person has left.
    pub left_at: Option<DateTime<Utc>>,
    /// A link that was made for the person and not used yet lasts until then.
    pub asked_in_until: Option<DateTime<Utc>>,
    /// Needs a code besides the password.
    pub second_factor: bool,
    /// Counts changes.
    pub revision: u32,
}

/// Where somebody is signed in.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct SignInRow {
    /// Number.
    pub id: u64,
    /// What the browser says it is; empty where it said nothing.
    pub device: String,
    /// Since when.
    pub since: DateTime<Utc>,
    /// Whether it is the sign-in that asks.
    pub is_this: bool,
}

const TAKEN: StoreError = StoreError::Refused("somebody signs in with this address already: give another");
const LAST_OWNER: StoreError =
    StoreError::Refused("this is the only owner: make somebody else an owner first");

impl Store {
    /// Everybody, those who left last.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn people(&self) -> Result<Vec<PersonRow>> {
        let rows = sqlx::query!(
            "SELECT p.id, p.name, p.email, p.role, p.left_at, p.revision, MAX(l.expires_at) AS asked_in_until, \
               EXISTS (SELECT 1 FROM second_factors f WHERE f.person_id = p.id) AS \"second_factor!: bool\" \
             FROM people p LEFT JOIN entry_links l ON l.person_id = p.id AND l.expires_at > UTC_TIMESTAMP(3) \
             GROUP BY p.id ORDER BY p.left_at IS NOT NULL, p.name, p.id"
        )
        .fetch_all(&self.pool)
        .await?;
        Ok({ rows.into_iter() }
            .map(|r| PersonRow {
                id: r.id,
                name: r.name,
                email: r.email,
                role: Role::from_code(&r.role),
                left_at: r.left_at.map(|at| at.and_utc()),
                asked_in_until: r.asked_in_until.map(|at| at.and_utc()),
                second_factor: r.second_factor,
                revision: r.revision,
            })
            .collect())
    }

    /// Asks somebody in: a person who may sign in as soon as the link was used. `password_hash` is of a password nobody has.
    ///
    /// # Errors
    ///
    /// [`StoreError::Refused`] where the address is taken, [`StoreError::KeyUsed`], [`StoreError::Database`].
    pub async fn ask_in(
        &self,
        name: &str,
        email: &str,
        role: Role,
        password_hash: &str,
        link: (&[u8; 32], DateTime<Utc>),
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        let id = match saved_before(&mut tx, once, "people").await? {
            // Asked for twice: the same person, and the link that is shown now.
            Some(id) => id,
            None => {
                let added = sqlx::query!(
                    "INSERT INTO people (name, email, password_hash, role) VALUES (?, ?, ?, ?)",
                    name,
                    email,
                    password_hash,
                    role.code()
                )
                .execute(&mut *tx)
                .await
                .map_err(taken_or_failed)?;
                let id = added.last_insert_id();
                note(&mut tx, once, "person asked in", "people", id).await?;
                id
            }
        };
        make_link(&mut tx, id, link).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// A new link for somebody who has lost the password, or who comes back. Earlier links end.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`], [`StoreError::Database`].
    pub async fn ask_in_again(&self, person: u64, link: (&[u8; 32], DateTime<Utc>), by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        standing(&mut tx, person).await?;
        sqlx::query!(
            "UPDATE people SET left_at = NULL, revision = revision + (left_at IS NOT NULL) WHERE id = ?",
            person
        )
        .execute(&mut *tx)
        .await?;
        make_link(&mut tx, person, link).await?;
        note(&mut tx, Once::by(by), "link to sign in made", "people", person).await?;
        Ok(tx.commit().await?)
    }

    /// Changes name, address and role.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], [`StoreError::Refused`] for the only owner or an address that is taken, [`StoreError::NotFound`],
    /// [`StoreError::Database`].
    pub async fn change_person(
        &self,
        person: u64,
        name: &str,
        email: &str,
        role: Role,
        saw: u32,
        by: u64,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if standing_as_seen(&mut tx, person, saw).await?.is_only_owner && role != Role::Owner {
            return Err(LAST_OWNER);
        }
        sqlx::query!(
            "UPDATE people SET name = ?, email = ?, role = ?, revision = revision + 1 WHERE id = ?",
            name,
            email,
            role.code(),
            person
        )
        .execute(&mut *tx)
        .await
        .map_err(taken_or_failed)?;
        note(&mut tx, Once::by(by), "person changed", "people", person).await?;
        Ok(tx.commit().await?)
    }

    /// Somebody leaves: what they measured and cut stays under their name, and every sign-in of theirs ends at once.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], [`StoreError::Refused`] for the only owner, [`StoreError::NotFound`], [`StoreError::Database`].
    pub async fn leave(&self, person: u64, saw: u32, by: u64) -> Result<()> {
        let mut tx = self.begin().await?;
        if standing_as_seen(&mut tx, person, saw).await?.is_only_owner {
            return Err(LAST_OWNER);
        }
        sqlx::query!(
            "UPDATE people SET left_at = UTC_TIMESTAMP(3), revision = revision + 1 WHERE id = ?",
            person
        )
        .execute(&mut *tx)
        .await?;
        end_all(&mut tx, person).await?;
        note(&mut tx, Once::by(by), "person left", "people", person).await?;
        Ok(tx.commit().await?)
    }

    /// Whom a link asks in, while it lasts.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn asked_in(&self, token_hash: &[u8; 32]) -> Result<Option<Person>> {
        let row = sqlx::query!(
            "SELECT p.id, p.name, p.role FROM entry_links l JOIN people p ON p.id = l.person_id \
             WHERE l.token_hash = ? AND l.expires_at > UTC_TIMESTAMP(3) AND p.left_at IS NULL",
            token_hash.as_slice()
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|r| Person { id: r.id, name: r.name, role: Role::from_code(&r.role) }))
    }

    /// Takes a link: the password is the person's own from now on, the link and every earlier sign-in end. `None` where the
    /// link is used, has ended or was never made.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn come_in(&self, token_hash: &[u8; 32], password_hash: &str) -> Result<Option<Person>> {
        let mut tx = self.begin().await?;
        // Two who press at once: the second waits here and finds no link.
        let row = sqlx::query!(
            "SELECT p.id, p.name, p.role FROM entry_links l JOIN people p ON p.id = l.person_id \
             WHERE l.token_hash = ? AND l.expires_at > UTC_TIMESTAMP(3) AND p.left_at IS NULL FOR UPDATE",
            token_hash.as_slice()
        )
        .fetch_optional(&mut *tx)
        .await?;
        let Some(r) = row else { return Ok(None) };
        let person = Person { id: r.id, name: r.name, role: Role::from_code(&r.role) };
        end_all(&mut tx, person.id).await?;
        set_password(&mut tx, person.id, password_hash).await?;
        note(&mut tx, Once::by(person.id), "came in by a link", "people", person.id).await?;
        tx.commit().await?;
        Ok(Some(person))
    }

    /// The hash of somebody's password.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn password_hash(&self, person: u64) -> Result<String> {
        let row = sqlx::query!("SELECT password_hash FROM people WHERE id = ?", person);
        Ok(row.fetch_one(&self.pool).await?.password_hash)
    }

    /// Somebody's own new password: every other sign-in of theirs ends.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn change_password(
        &self,
        person: u64,
        password_hash: &str,
        this_token: &[u8; 32],
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        set_password(&mut tx, person, password_hash).await?;
        end_others(&mut tx, person, this_token).await?;
        note(&mut tx, Once::by(person), "password changed", "people", person).await?;
        Ok(tx.commit().await?)
    }

    /// Where somebody is signed in, the newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn sign_ins_of(&self, person: u64, this_token: &[u8; 32]) -> Result<Vec<SignInRow>> {
        let rows = sqlx::query!(
            "SELECT id, token_hash, device, created_at FROM sign_ins \
             WHERE person_id = ? AND expires_at > UTC_TIMESTAMP(3) ORDER BY id DESC",
            person
        )
        .fetch_all(&self.pool)
        .await?;
        Ok({ rows.into_iter() }
            .map(|r| SignInRow {
                id: r.id,
                device: r.device,
                since: r.created_at.and_utc(),
                is_this: r.token_hash.as_slice() == this_token.as_slice(),
            })
            .collect())
    }

    /// Ends one sign-in of somebody's own.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`], [`StoreError::Database`].
    pub async fn end_sign_in(&self, id: u64, person: u64) -> Result<()> {
        let ended = sqlx::query!("DELETE FROM sign_ins WHERE id = ? AND person_id = ?", id, person)
            .execute(&self.pool)
            .await?;
        if ended.rows_affected() == 0 {
            return Err(StoreError::NotFound { what: "sign-in of yours", id });
        }
        Ok(())
    }
}

fn taken_or_failed(error: sqlx::Error) -> StoreError {
    match error.as_database_error() {
        Some(known) if known.is_unique_violation() => TAKEN,
        _ => error.into(),
    }
}

/// A person as they stand, held until the change is done.
struct Standing {
    revision: u32,
    /// Nobody else who is there owns the house.
    is_only_owner: bool,
}

/// Holds everybody, in one order: of two owners who go at once the second sees that the first is gone.
async fn standing(tx: &mut Tx, person: u64) -> Result<Standing> {
    let rows = sqlx::query!("SELECT id, role, left_at, revision FROM people ORDER BY id FOR UPDATE")
        .fetch_all(&mut **tx)
        .await?;
    let row = rows.iter().find(|row| row.id == person);
    let row = row.ok_or(StoreError::NotFound { what: "person", id: person })?;
    let owns = |code: &str| Role::from_code(code) == Role::Owner;
    let others = rows.iter().any(|other| other.id != person && other.left_at.is_none() && owns(&other.role));
    Ok(Standing { revision: row.revision, is_only_owner: owns(&row.role) && !others })
}

/// The same, refused where the person was changed since the revision that was seen.
async fn standing_as_seen(tx: &mut Tx, person: u64, saw: u32) -> Result<Standing> {
    let standing = standing(tx, person).await?;
    if standing.revision != saw {
        return Err(StoreError::Stale { what: "person", now: standing.revision, saw });
    }
    Ok(standing)
}

async fn make_link(tx: &mut Tx, person: u64, (token_hash, until): (&[u8; 32], DateTime<Utc>)) -> Result<()> {
    sqlx::query!("DELETE FROM entry_links WHERE person_id = ?", person).execute(&mut **tx).await?;
    sqlx::query!(
        "INSERT INTO entry_links (token_hash, person_id, expires_at) VALUES (?, ?, ?)",
        token_hash.as_slice(),
        person,
        until.naive_utc()
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

async fn set_password(tx: &mut Tx, person: u64, password_hash: &str) -> Result<()> {
    sqlx::query!("UPDATE people SET password_hash = ? WHERE id = ?", password_hash, person)
        .execute(&mut **tx)
        .await?;
    // Who knew the old one may have signed in on a device of his own.
    forget_devices(tx, person).await
}

/// Ends every sign-in of somebody but the one of this token.
pub(crate) async fn end_others(tx: &mut Tx, person: u64, this_token: &[u8; 32]) -> Result<()> {
    sqlx::query!(
        "DELETE FROM sign_ins WHERE person_id = ? AND token_hash <> ?",
        person,
        this_token.as_slice()
    )
    .execute(&mut **tx)
    .await?;
    Ok(())
}

/// Forgets the devices somebody has signed in on.
pub(crate) async fn forget_devices(tx: &mut Tx, person: u64) -> Result<()> {
    sqlx::query!("DELETE FROM known_devices WHERE person_id = ?", person).execute(&mut **tx).await?;
    Ok(())
}

/// Ends every sign-in and link of somebody.
async fn end_all(tx: &mut Tx, person: u64) -> Result<()> {
    sqlx::query!("DELETE FROM sign_ins WHERE person_id = ?", person).execute(&mut **tx).await?;
    sqlx::query!("DELETE FROM entry_links WHERE person_id = ?", person).execute(&mut **tx).await?;
    Ok(())
}
