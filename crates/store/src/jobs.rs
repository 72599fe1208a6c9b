//! Long work: asked for once, done by any server of the house, gone on with by another one where its server goes away.
//!
//! Whoever takes a job up holds it for a while and says again and again that it is still at it. A job whose holder has not
//! said so is anybody's: what it does must be such that it can be done from the beginning, or gone on with.

use chrono::{DateTime, Utc};

use crate::{Result, Store, StoreError, Tx};

/// A server that does not say for so long that it is still at a job has gone away, in seconds.
const LEASE_SECONDS: u32 = 20;

/// What is to be done.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Job {
    /// A file of readings is saved, by its number.
    Import(u64),
    /// All that is kept of a client is put together as one file.
    Everything(u64),
    /// The house is backed up.
    Backup,
}

impl Job {
    const fn code(self) -> &'static str {
        match self {
            Self::Import(_) => "import",
            Self::Everything(_) => "everything",
            Self::Backup => "backup",
        }
    }

    const fn of(self) -> u64 {
        match self {
            Self::Import(id) | Self::Everything(id) => id,
            Self::Backup => 0,
        }
    }

    fn read(code: &str, of: u64) -> Result<Self> {
        match code {
            "import" => Ok(Self::Import(of)),
            "everything" => Ok(Self::Everything(of)),
            "backup" => Ok(Self::Backup),
            _ => Err(StoreError::Refused("a newer version of Yardwand has asked for this work")),
        }
    }
}

/// Where a job stands.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum JobState {
    /// Nobody has taken it up yet.
    Waiting,
    /// It is being done.
    Working,
    /// Somebody has asked that it be given up.
    Stopping,
    /// Done.
    Done,
    /// It was given up.
    GivenUp,
    /// It failed; the job says why.
    Failed,
}

impl JobState {
    const fn code(self) -> &'static str {
        match self {
            Self::Waiting => "waiting",
            Self::Working => "working",
            Self::Stopping => "stopping",
            Self::Done => "done",
            Self::GivenUp => "given_up",
            Self::Failed => "failed",
        }
    }

    fn read(code: &str) -> Self {
        [Self::Waiting, Self::Working, Self::Stopping, Self::Done, Self::GivenUp]
            .into_iter()
            .find(|state| state.code() == code)
            .unwrap_or(Self::Failed)
    }
}

/// A job as everybody sees it.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct JobRow {
    /// Number.
    pub id: u64,
    /// What is done.
    pub job: Job,
    /// The client it is about.
    pub client: Option<String>,
    /// The file that is saved.
    pub file: Option<String>,
    /// Who asked for it.
    pub asked_by: String,
    /// When.
    pub asked_at: DateTime<Utc>,
    /// Where it stands.
    pub state: JobState,
    /// So much of it is done.
    pub done: u32,
    /// Of so much in all; 0 while that is not known.
    pub total: u32,
    /// Why it failed.
    pub says: Option<String>,
}

/// A job in the hands of whoever took it up.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct JobInHand {
    /// Number.
    pub id: u64,
    /// What is to be done.
    pub job: Job,
    /// Who asked for it.
    pub asked_by: u64,
    /// How often it was taken up, this time too.
    pub begun: u32,
    /// Marks this time.
    worker: [u8; 16],
}

/// Whether whoever has a job in hand may go on.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub enum Held {
    /// It is still in these hands.
    Mine,
    /// It is to be given up.
    Stopping,
    /// Another server has it now, or it is gone.
    Lost,
}

impl Store {
    /// Asks for work. Work that is asked for again while it is in hand is the same.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn ask_job(&self, job: Job, asked_by: u64) -> Result<u64> {
        let mut tx = self.begin().await?;
        let id = insert_job(&mut tx, job, asked_by).await?;
        tx.commit().await?;
        Ok(id)
    }

    /// Takes up the oldest job that nobody has in hand; backups only where this server can take them. `worker` is drawn anew each
    /// time.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn take_job(&self, worker: [u8; 16], backups: bool) -> Result<Option<JobInHand>> {
        let marked = worker.as_slice();
        let taken = sqlx::query!(
            "UPDATE jobs SET worker = ?, lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND, begun = begun + 1, \
               state = IF(state = 'waiting', 'working', state) \
             WHERE in_hand = 1 AND (lease_until IS NULL OR lease_until < UTC_TIMESTAMP(3)) AND (kind <> 'backup' OR ?) \
             ORDER BY id LIMIT 1",
            marked,
            LEASE_SECONDS,
            backups
        )
        .execute(&self.pool)
        .await?;
        if taken.rows_affected() == 0 {
            return Ok(None);
        }
        let row = sqlx::query!(
            "SELECT id, kind, of_id, asked_by, begun FROM jobs WHERE in_hand = 1 AND worker = ?",
            marked
        )
        .fetch_optional(&self.pool)
        .await?;
        row.map(|row| {
            let job = Job::read(&row.kind, row.of_id)?;
            Ok(JobInHand { id: row.id, job, asked_by: row.asked_by, begun: row.begun, worker })
        })
        .transpose()
    }

    /// Says that it is still being worked at, and how far it is; tells whether that may go on.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn hold_job(&self, job: &JobInHand, done: u32, total: u32) -> Result<Held> {
        let marked = job.worker.as_slice();
        sqlx::query!(
            "UPDATE jobs SET lease_until = UTC_TIMESTAMP(3) + INTERVAL ? SECOND, done = ?, total = ? \
             WHERE id = ? AND in_hand = 1 AND worker = ?",
            LEASE_SECONDS,
            done,
            total,
            job.id,
            marked
        )
        .execute(&self.pool)
        .await?;
        let row = sqlx::query!(
            "SELECT state FROM jobs WHERE id = ? AND in_hand = 1 AND worker = ?",
            job.id,
            marked
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(match row.map(|row| JobState::read(&row.state)) {
            None => Held::Lost,
            Some(JobState::Stopping) => Held::Stopping,
            Some(_) => Held::Mine,
        })
    }

    /// Asks that a job be given up. False where it has ended already.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn stop_job(&self, id: u64) -> Result<bool> {
        self.job(id).await?;
        sqlx::query!("UPDATE jobs SET state = 'stopping' WHERE id = ? AND in_hand = 1", id)
            .execute(&self.pool)
            .await?;
        Ok(!matches!(self.job(id).await?.state, JobState::Done | JobState::Failed))
    }

    /// Ends a job that is in these hands. `says` is why it failed; `file_name` what its file is called.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn end_job(
        &self,
        job: &JobInHand,
        state: JobState,
        says: Option<&str>,
        file_name: Option<&str>,
    ) -> Result<()> {
        let says: Option<String> = says.map(|says| says.chars().take(300).collect());
        sqlx::query!(
            "UPDATE jobs SET state = ?, says = ?, file_name = ?, ended_at = UTC_TIMESTAMP(3), done = IF(state = 'done', total, done) \
             WHERE id = ? AND in_hand = 1 AND worker = ?",
            state.code(),
            says,
            file_name,
            job.id,
            job.worker.as_slice()
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// A job.
    ///
    /// # Errors
    ///
    /// [`StoreError::NotFound`].
    pub async fn job(&self, id: u64) -> Result<JobRow> {
        let found = self.jobs_where(Some(id)).await?;
        found.into_iter().next().ok_or(StoreError::NotFound { what: "piece of long work", id })
    }

    /// The jobs asked for last, the newest first.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn jobs(&self) -> Result<Vec<JobRow>> {
        self.jobs_where(None).await
    }

    async fn jobs_where(&self, id: Option<u64>) -> Result<Vec<JobRow>> {
        let rows = sqlx::query!(
            "SELECT j.id, j.kind, j.of_id, c.name AS \"client?\", i.file_name AS \"file?\", p.name AS asked_by, j.asked_at, j.state, \
               j.done, j.total, j.says \
             FROM jobs j JOIN people p ON p.id = j.asked_by LEFT JOIN clients c ON c.id = j.client_id \
             LEFT JOIN imports i ON j.kind = 'import' AND i.id = j.of_id \
             WHERE j.id = COALESCE(?, j.id) ORDER BY j.id DESC LIMIT 20",
            id
        )
        .fetch_all(&self.pool)
        .await?;
        { rows.into_iter() }
            .map(|r| {
                Ok(JobRow {
                    id: r.id,
                    job: Job::read(&r.kind, r.of_id)?,
                    client: r.client,
                    file: r.file,
                    asked_by: r.asked_by,
                    asked_at: r.asked_at.and_utc(),
                    state: JobState::read(&r.state),
                    done: r.done,
                    total: r.total,
                    says: r.says,
                })
            })
            .collect()
    }

    /// Keeps a part of what a job puts together.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn keep_part(&self, job: &JobInHand, part: u32, bytes: &[u8]) -> Result<()> {
        // Whoever has gone on with it since keeps its own.
        sqlx::query!(
            "REPLACE INTO job_files (job_id, part, bytes) SELECT id, ?, ? FROM jobs WHERE id = ? AND in_hand = 1 AND worker = ?",
            part,
            bytes,
            job.id,
            job.worker.as_slice()
        )
        .execute(&self.pool)
        .await?;
        Ok(())
    }

    /// What was put together of a client last: the job, the file's name and how large it is.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn everything_of(&self, client: u64) -> Result<Option<(u64, String, u64)>> {
        let row = sqlx::query!(
            "SELECT j.id, j.file_name AS \"file_name!\", CAST(SUM(LENGTH(f.bytes)) AS UNSIGNED) AS \"bytes!: u64\" \
             FROM jobs j JOIN job_files f ON f.job_id = j.id \
             WHERE j.client_id = ? AND j.kind = 'everything' AND j.state = 'done' AND j.file_name IS NOT NULL \
             GROUP BY j.id ORDER BY j.id DESC LIMIT 1",
            client
        )
        .fetch_optional(&self.pool)
        .await?;
        Ok(row.map(|row| (row.id, row.file_name, row.bytes)))
    }

    /// A part of what a job has put together; nothing after the last.
    ///
    /// # Errors
    ///
    /// [`StoreError::Database`].
    pub async fn part(&self, job: u64, part: u32) -> Result<Option<Vec<u8>>> {
        Ok(sqlx::query_scalar!("SELECT bytes FROM job_files WHERE job_id = ? AND part = ?", job, part)
            .fetch_optional(&self.pool)
            .await?)
    }

    /// Lets go of files the day after they were put together, and of jobs a month after they ended.
    pub(crate) async fn forget_old_jobs(&self) -> Result<()> {
        sqlx::query!(
            "DELETE f FROM job_files f JOIN jobs j ON j.id = f.job_id \
             WHERE j.ended_at < UTC_TIMESTAMP(3) - INTERVAL 1 DAY OR j.state IN ('given_up', 'failed')"
        )
        .execute(&self.pool)
        .await?;
        sqlx::query!("DELETE FROM jobs WHERE ended_at < UTC_TIMESTAMP(3) - INTERVAL 30 DAY")
            .execute(&self.pool)
            .await?;
        Ok(())
    }
}

/// Asks for work in the transaction of what it belongs to.
pub(crate) async fn insert_job(tx: &mut Tx, job: Job, asked_by: u64) -> Result<u64> {
    let client = if let Job::Everything(client) = job { Some(client) } else { None };
    let asked = sqlx::query!(
        "INSERT INTO jobs (kind, of_id, client_id, asked_by) VALUES (?, ?, ?, ?) \
         ON DUPLICATE KEY UPDATE id = LAST_INSERT_ID(id)",
        job.code(),
        job.of(),
        client,
        asked_by
    )
    .execute(&mut **tx)
    .await?;
    Ok(asked.last_insert_id())
}
