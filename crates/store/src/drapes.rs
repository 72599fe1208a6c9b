//! Toiles and paper patterns on their way to a block: every click as it was made. What is drawn from them is never kept, only
//! the block that is taken over in the end.

use chrono::{DateTime, NaiveDateTime, Utc};
use serde::{Deserialize, Serialize};
use yardwand_core::drape::{DrapeFacts, DrapeInHand, Draped, PieceInHand};

use crate::audit::{Once, note, saved_before};
use crate::blocks::insert_block;
use crate::error::{read, write};
use crate::taking_out::{Removable, deed, take_out};
use crate::{NewBlock, Result, Store, StoreError, Tx};

/// A drape as it is begun.
#[derive(Clone, Debug, PartialEq)]
pub struct NewDrape {
    /// Its name in the house.
    pub name: String,
    /// Whose body it was draped for.
    pub client_id: Option<u64>,
    /// Which form it was draped on.
    pub form_id: Option<u64>,
    /// What is stated, and what is marked already.
    pub in_hand: DrapeInHand,
    /// The drape whose photographs are taken over with its marks.
    pub pictures_of: Option<u64>,
}

/// A yes: to a correction, to a doubted figure, to a mark that is asked about.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
pub struct DrapeAnswer {
    /// What it is to.
    pub key: String,
    /// By whom, where a doubt is overruled.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub initials: String,
    /// Who was signed in.
    pub by: String,
    /// When.
    pub at: DateTime<Utc>,
}

/// A drape in a list.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct DrapeSummary {
    /// Number.
    pub id: u64,
    /// Its name in the house.
    pub name: String,
    /// Whose body it was draped for.
    pub client_id: Option<u64>,
    /// Her name.
    pub client: Option<String>,
    /// Which form it was draped on.
    pub form_id: Option<u64>,
    /// The form's name.
    pub form: Option<String>,
    /// A back that was slashed on her: it makes no block.
    pub slashed: bool,
    /// The block it became.
    pub block_id: Option<u64>,
    /// Who changed it last.
    pub changed_by: String,
    /// When.
    pub changed_at: DateTime<Utc>,
}

/// A piece of a drape.
#[derive(Clone, Debug, PartialEq)]
pub struct DrapePieceRow {
    /// What is marked of it.
    pub in_hand: PieceInHand,
    /// Width and height of its photograph, in pixels.
    pub picture: Option<[u32; 2]>,
    /// Revision of its own: two people mark front and back at once.
    pub revision: u32,
}

/// A drape with everything that was clicked.
#[derive(Clone, Debug, PartialEq)]
pub struct DrapeRow {
    /// The drape.
    pub summary: DrapeSummary,
    /// What was stated.
    pub facts: DrapeFacts,
    /// What was answered.
    pub answers: Vec<DrapeAnswer>,
    /// Revision of name, facts and answers.
    pub revision: u32,
    /// The front.
    pub front: DrapePieceRow,
    /// The back.
    pub back: DrapePieceRow,
}

/// The revisions of a drape that somebody saw: its own, its front's, its back's.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct DrapeSeen {
    /// Of name, facts and answers.
    pub drape: u32,
    /// Of the front.
    pub front: u32,
    /// Of the back.
    pub back: u32,
}

impl DrapeRow {
    /// What a transfer is computed from.
    pub fn in_hand(&self) -> DrapeInHand {
        DrapeInHand {
            facts: self.facts.clone(),
            front: self.front.in_hand.clone(),
            back: self.back.in_hand.clone(),
        }
    }

    /// One of its pieces.
    pub const fn piece(&self, piece: Draped) -> &DrapePieceRow {
        match piece {
            Draped::Front => &self.front,
            Draped::Back => &self.back,
        }
    }

    /// Its revisions.
    pub const fn seen(&self) -> DrapeSeen {
        DrapeSeen { drape: self.revision, front: self.front.revision, back: self.back.revision }
    }
}

/// Clicks of one person within so many minutes are one change.
const ONE_SITTING: i64 = 30;

impl Store {
    /// Drapes that are not taken out, the last changed first: all of them, or those of a client.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn drapes(&self, client: Option<u64>) -> Result<Vec<DrapeSummary>> {
        let rows = sqlx::query!(
            "SELECT d.id, d.name, d.client_id, c.name AS \"client?\", d.form_id, f.name AS \"form?\", d.block_id, \
               JSON_VALUE(d.facts, '$.given.material') <=> 'slashed' AS \"slashed!: bool\", \
               p.name AS changed_by, d.changed_at FROM drapes d JOIN people p ON p.id = d.changed_by \
             LEFT JOIN clients c ON c.id = d.client_id LEFT JOIN forms f ON f.id = d.form_id \
             WHERE d.removed_at IS NULL AND (? IS NULL OR d.client_id = ?) ORDER BY d.changed_at DESC, d.id DESC",
            client,
            client
        )
        .fetch_all(&self.pool)
        .await?;
        let summary = rows.into_iter().map(|row| DrapeSummary {
            id: row.id,
            name: row.name,
            client_id: row.client_id,
            client: row.client,
            form_id: row.form_id,
            form: row.form,
            slashed: row.slashed,
            block_id: row.block_id,
            changed_by: row.changed_by,
            changed_at: row.changed_at.and_utc(),
        });
        Ok(summary.collect())
    }

    /// One drape with everything that was clicked.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn drape(&self, id: u64) -> Result<DrapeRow> {
        let held = sqlx::query!(
            "SELECT d.id, d.name, d.client_id, c.name AS \"client?\", d.form_id, f.name AS \"form?\", d.block_id, \
               JSON_VALUE(d.facts, '$.given.material') <=> 'slashed' AS \"slashed!: bool\", \
               p.name AS changed_by, d.changed_at, CAST(d.facts AS CHAR) AS \"facts!: String\", \
               CAST(d.answers AS CHAR) AS \"answers!: String\", d.revision \
             FROM drapes d JOIN people p ON p.id = d.changed_by \
             LEFT JOIN clients c ON c.id = d.client_id LEFT JOIN forms f ON f.id = d.form_id \
             WHERE d.removed_at IS NULL AND d.id = ?",
            id
        )
        .fetch_optional(&self.pool);
        let pieces = sqlx::query!(
            "SELECT p.piece, CAST(p.document AS CHAR) AS \"document!: String\", p.revision, \
               f.width AS \"width?\", f.height AS \"height?\" \
             FROM drape_pieces p LEFT JOIN drape_photographs f ON f.drape_piece_id = p.id WHERE p.drape_id = ?",
            id
        )
        .fetch_all(&self.pool);
        let (held, pieces) = tokio::try_join!(held, pieces)?;
        let held = held.ok_or(StoreError::NotFound { what: "drape", id })?;
        let piece = |piece: Draped| {
            let row = pieces.iter().find(|row| row.piece == piece.name());
            let row = row.ok_or(StoreError::NotFound { what: "drape", id })?;
            Ok::<_, StoreError>(DrapePieceRow {
                in_hand: read("draped piece", &row.document)?,
                picture: row.width.zip(row.height).map(|(width, height)| [width, height]),
                revision: row.revision,
            })
        };
        Ok(DrapeRow {
            facts: read("drape", &held.facts)?,
            answers: read("answers of a drape", &held.answers)?,
            revision: held.revision,
            front: piece(Draped::Front)?,
            back: piece(Draped::Back)?,
            summary: DrapeSummary {
                id: held.id,
                name: held.name,
                client_id: held.client_id,
                client: held.client,
                form_id: held.form_id,
                form: held.form,
                slashed: held.slashed,
                block_id: held.block_id,
                changed_by: held.changed_by,
                changed_at: held.changed_at.and_utc(),
            },
        })
    }

    /// Begins a drape.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn begin_drape(&self, new: &NewDrape, once: Once<'_>) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(id) = saved_before(&mut tx, once, "drapes").await? {
            return Ok(id);
        }
        let added = sqlx::query!(
            "INSERT INTO drapes (name, client_id, form_id, facts, begun_by, changed_by) VALUES (?, ?, ?, ?, ?, ?)",
            new.name,
            new.client_id,
            new.form_id,
            write("drape", &new.in_hand.facts)?,
            once.person,
            once.person
        )
        .execute(&mut *tx)
        .await?;
        let id = added.last_insert_id();
        for piece in Draped::BOTH {
            sqlx::query!(
                "INSERT INTO drape_pieces (drape_id, piece, document) VALUES (?, ?, ?)",
                id,
                piece.name(),
                write("draped piece", new.in_hand.piece(piece))?
            )
            .execute(&mut *tx)
            .await?;
        }
        if let Some(before) = new.pictures_of {
            sqlx::query!(
                "INSERT INTO drape_photographs (drape_piece_id, image, width, height) \
                 SELECT n.id, f.image, f.width, f.height FROM drape_pieces n \
                 JOIN drape_pieces o ON o.drape_id = ? AND o.piece = n.piece \
                 JOIN drape_photographs f ON f.drape_piece_id = o.id WHERE n.drape_id = ?",
                before,
                id
            )
            .execute(&mut *tx)
            .await?;
        }
        note(&mut tx, once, "begun", "drapes", id).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Keeps a drape's name and what was stated of it. `saw` is the revision it had.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`], [`StoreError::NotFound`]; [`StoreError::Refused`] for one that has become a block.
    pub async fn change_drape(
        &self,
        id: u64,
        saw: u32,
        (name, facts): (&str, &DrapeFacts),
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "drapes").await?.is_some() {
            return Ok(());
        }
        let in_hand = lock_drape(&mut tx, id).await?;
        in_hand.seen("drape", in_hand.revision, saw)?;
        let facts = write("drape", facts)?;
        sqlx::query!(
            "UPDATE drapes SET name = ?, facts = ?, revision = revision + 1 WHERE id = ?",
            name,
            facts,
            id
        )
        .execute(&mut *tx)
        .await?;
        touched(&mut tx, (id, &in_hand), once).await?;
        Ok(tx.commit().await?)
    }

    /// Keeps what is answered to a drape's questions. `saw` is the revision it had.
    ///
    /// # Errors
    ///
    /// As [`Store::change_drape`].
    pub async fn answer_drape(
        &self,
        id: u64,
        saw: u32,
        answers: &[DrapeAnswer],
        once: Once<'_>,
    ) -> Result<()> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "drapes").await?.is_some() {
            return Ok(());
        }
        let in_hand = lock_drape(&mut tx, id).await?;
        in_hand.seen("drape", in_hand.revision, saw)?;
        sqlx::query!(
            "UPDATE drapes SET answers = ?, revision = revision + 1 WHERE id = ?",
            write("answers of a drape", &answers)?,
            id
        )
        .execute(&mut *tx)
        .await?;
        touched(&mut tx, (id, &in_hand), once).await?;
        Ok(tx.commit().await?)
    }

    /// Keeps what is marked of a piece. `saw` is the revision the piece had; the new one is answered.
    ///
    /// # Errors
    ///
    /// As [`Store::change_drape`].
    pub async fn mark_drape(
        &self,
        (id, piece): (u64, Draped),
        saw: u32,
        marked: &PieceInHand,
        once: Once<'_>,
    ) -> Result<u32> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "drapes").await?.is_some() {
            return piece_revision(&mut tx, (id, piece)).await;
        }
        let in_hand = lock_drape(&mut tx, id).await?;
        let now = piece_revision(&mut tx, (id, piece)).await?;
        in_hand.seen("piece", now, saw)?;
        sqlx::query!(
            "UPDATE drape_pieces SET document = ?, revision = revision + 1 WHERE drape_id = ? AND piece = ?",
            write("draped piece", marked)?,
            id,
            piece.name()
        )
        .execute(&mut *tx)
        .await?;
        touched(&mut tx, (id, &in_hand), once).await?;
        tx.commit().await?;
        Ok(now + 1)
    }

    /// Keeps the photograph of a piece in place of the one it had; what was clicked stays.
    ///
    /// # Errors
    ///
    /// As [`Store::change_drape`], without a revision.
    pub async fn photograph_drape(
        &self,
        (id, piece): (u64, Draped),
        (image, [width, height]): (&[u8], [u32; 2]),
        once: Once<'_>,
    ) -> Result<u32> {
        let mut tx = self.begin().await?;
        if saved_before(&mut tx, once, "drapes").await?.is_some() {
            return piece_revision(&mut tx, (id, piece)).await;
        }
        let in_hand = lock_drape(&mut tx, id).await?;
        sqlx::query!(
            "INSERT INTO drape_photographs (drape_piece_id, image, width, height) \
             SELECT id, ?, ?, ? FROM drape_pieces WHERE drape_id = ? AND piece = ? \
             ON DUPLICATE KEY UPDATE image = VALUES(image), width = VALUES(width), height = VALUES(height)",
            image,
            width,
            height,
            id,
            piece.name()
        )
        .execute(&mut *tx)
        .await?;
        sqlx::query!(
            "UPDATE drape_pieces SET revision = revision + 1 WHERE drape_id = ? AND piece = ?",
            id,
            piece.name()
        )
        .execute(&mut *tx)
        .await?;
        touched(&mut tx, (id, &in_hand), once).await?;
        let revision = piece_revision(&mut tx, (id, piece)).await?;
        tx.commit().await?;
        Ok(revision)
    }

    /// The photograph of a piece.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn drape_picture(&self, id: u64, piece: Draped) -> Result<Vec<u8>> {
        let row = sqlx::query!(
            "SELECT f.image FROM drape_photographs f JOIN drape_pieces p ON p.id = f.drape_piece_id \
             JOIN drapes d ON d.id = p.drape_id WHERE d.id = ? AND p.piece = ? AND d.removed_at IS NULL",
            id,
            piece.name()
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(|row| row.image).ok_or(StoreError::NotFound { what: "photograph of the drape", id })
    }

    /// Keeps the block a drape has become, if nothing was changed since it was drawn.
    ///
    /// # Errors
    ///
    /// [`StoreError::Stale`] where something was clicked or answered in between; else as [`Store::change_drape`].
    pub async fn drape_became(
        &self,
        id: u64,
        saw: DrapeSeen,
        block: &NewBlock,
        once: Once<'_>,
    ) -> Result<u64> {
        let mut tx = self.begin().await?;
        if let Some(block) = saved_before(&mut tx, once, "blocks").await? {
            return Ok(block);
        }
        let in_hand = lock_drape(&mut tx, id).await?;
        in_hand.seen("drape", in_hand.revision, saw.drape)?;
        for (piece, saw) in Draped::BOTH.into_iter().zip([saw.front, saw.back]) {
            in_hand.seen(piece.name(), piece_revision(&mut tx, (id, piece)).await?, saw)?;
        }
        let block = insert_block(&mut tx, block, once).await?;
        sqlx::query!("UPDATE drapes SET block_id = ?, revision = revision + 1 WHERE id = ?", block, id)
            .execute(&mut *tx)
            .await?;
        note(&mut tx, once, "made", "blocks", block).await?;
        tx.commit().await?;
        Ok(block)
    }

    /// Takes a drape out, or puts it back.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn take_out_drape(&self, id: u64, out: bool, once: Once<'_>) -> Result<()> {
        let mut tx = self.begin().await?;
        take_out(&mut tx, Removable::Drape, id, out).await?;
        note(&mut tx, once, deed(out), "drapes", id).await?;
        Ok(tx.commit().await?)
    }
}

/// A drape that is being changed: nobody else changes it meanwhile.
struct LockedDrape {
    revision: u32,
    changed_by: u64,
    changed_at: NaiveDateTime,
}

impl LockedDrape {
    fn seen(&self, what: &'static str, now: u32, saw: u32) -> Result<()> {
        if now == saw { Ok(()) } else { Err(StoreError::Stale { what, now, saw }) }
    }
}

async fn lock_drape(tx: &mut Tx, id: u64) -> Result<LockedDrape> {
    let row = sqlx::query!(
        "SELECT revision, block_id, changed_by, changed_at FROM drapes WHERE id = ? AND removed_at IS NULL FOR UPDATE",
        id
    )
    .fetch_optional(&mut **tx)
    .await?
    .ok_or(StoreError::NotFound { what: "drape", id })?;
    if row.block_id.is_some() {
        return Err(StoreError::Refused(
            "this has become a block, and stays as it was marked: go on with a copy of its marks",
        ));
    }
    Ok(LockedDrape { revision: row.revision, changed_by: row.changed_by, changed_at: row.changed_at })
}

async fn piece_revision(tx: &mut Tx, (id, piece): (u64, Draped)) -> Result<u32> {
    let row =
        sqlx::query!("SELECT revision FROM drape_pieces WHERE drape_id = ? AND piece = ?", id, piece.name())
            .fetch_optional(&mut **tx)
            .await?;
    row.map(|row| row.revision).ok_or(StoreError::NotFound { what: "drape", id })
}

/// Who changed it, and when. A sitting in which somebody clicks a hundred marks is one change of the book.
async fn touched(tx: &mut Tx, (id, before): (u64, &LockedDrape), once: Once<'_>) -> Result<()> {
    sqlx::query!(
        "UPDATE drapes SET changed_by = ?, changed_at = UTC_TIMESTAMP(3) WHERE id = ?",
        once.person,
        id
    )
    .execute(&mut **tx)
    .await?;
    let since = Utc::now().naive_utc() - before.changed_at;
    if before.changed_by != once.person || since.num_minutes() >= ONE_SITTING {
        note(tx, once, "marked", "drapes", id).await?;
    }
    Ok(())
}
