//! Long work is done here: taken up from the house's book, one piece after another, and gone on with where another server went away.

use std::path::PathBuf;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, AtomicU32, Ordering::Relaxed};
use std::time::Duration;

use argon2::password_hash::rand_core::{OsRng, RngCore};
use tokio::sync::Notify;
use tokio::task::JoinSet;
use yardwand_backup::{BackupError, Passphrase, Wanted};
use yardwand_store::{Held, ImportState, Job, JobInHand, JobState, Store, StoreError};

use crate::AppState;
use crate::error::ApiError;
use crate::routes::{pack_everything, save_import, take_import_back};

/// So much is done at once by one server: a client's file does not wait for a backup.
const AT_ONCE: usize = 2;
/// What was asked for elsewhere, or was left by a server that went away, is looked for this often.
const LOOK: Duration = Duration::from_secs(5);
/// Whoever watches sees it move; the lease lasts many times as long.
const SAY_SO: Duration = Duration::from_secs(1);
/// What was begun so often, and ended nowhere, is not begun again.
const MOST_TRIES: u32 = 5;

/// What a server does of the house's long work. Cheap to clone.
#[derive(Clone, Debug)]
pub struct Jobs {
    /// Something was asked for here.
    asked: Arc<Notify>,
    /// How often it looks for what was asked for elsewhere.
    look: Duration,
    /// Where backups go, where this server takes them.
    backups: Option<Arc<BackupPlaces>>,
}

impl Default for Jobs {
    fn default() -> Self {
        Self::new(None)
    }
}

/// Where backups go, and what they open with.
#[derive(Clone, Debug)]
pub struct BackupPlaces {
    /// The folder they are put in.
    pub to: PathBuf,
    /// A folder elsewhere that gets copies.
    pub also: Option<PathBuf>,
    /// Without, anybody can read them who has the file.
    pub passphrase: Option<Passphrase>,
}

impl Jobs {
    /// Takes backups too, where it is told where to put them.
    pub fn new(backups: Option<BackupPlaces>) -> Self {
        Self { asked: Arc::default(), look: LOOK, backups: backups.map(Arc::new) }
    }

    /// The same, looking this often for what was asked for elsewhere.
    #[must_use]
    pub fn looking_every(self, look: Duration) -> Self {
        Self { look, ..self }
    }

    /// Whether this server takes backups.
    pub(crate) fn takes_backups(&self) -> bool {
        self.backups.is_some()
    }

    /// Asks for work and wakes whoever does it here.
    pub(crate) async fn ask(&self, store: &Store, job: Job, by: u64) -> Result<u64, ApiError> {
        let id = store.ask_job(job, by).await?;
        self.asked.notify_one();
        Ok(id)
    }

    /// Something is to be given up: whoever is free here ends it, where nobody has it in hand.
    pub(crate) fn wake(&self) {
        self.asked.notify_one();
    }
}

/// Works for as long as the set lives.
pub(crate) fn begin(state: &AppState) -> JoinSet<()> {
    let mut workers = JoinSet::new();
    for _ in 0..AT_ONCE {
        workers.spawn(keep_at_work(state.clone()));
    }
    workers
}

async fn keep_at_work(state: AppState) {
    loop {
        let mut worker = [0; 16];
        OsRng.fill_bytes(&mut worker);
        match state.store.take_job(worker, state.jobs.backups.is_some()).await {
            // A piece that breaks off is left, and tried again when its lease has ended.
            Ok(Some(job)) => drop(tokio::spawn(at_work(state.clone(), job)).await),
            Ok(None) => drop(tokio::time::timeout(state.jobs.look, state.jobs.asked.notified()).await),
            Err(error) => {
                tracing::debug!(%error, "no work can be taken up");
                tokio::time::sleep(state.jobs.look).await;
            }
        }
    }
}

/// How a piece of work ended.
pub(crate) enum Ended {
    /// Done, with what its file is called where there is one.
    Done(Option<String>),
    /// It was to be given up.
    GivenUp,
}

/// A piece of work in hand: says that it is being done and how far it is, and hears when it is to be given up. Cheap to clone.
#[derive(Clone)]
pub(crate) struct Hand {
    pub(crate) store: Store,
    pub(crate) job: JobInHand,
    at: Arc<At>,
}

/// How far a piece of work is.
#[derive(Default)]
struct At {
    done: AtomicU32,
    total: AtomicU32,
    stopping: AtomicBool,
    lost: AtomicBool,
}

impl Hand {
    /// Whether to leave off; asked between one part and the next.
    pub(crate) fn is_ending(&self) -> bool {
        self.at.stopping.load(Relaxed) || self.is_lost()
    }

    /// Whether another server goes on with it, which needs what is there already.
    pub(crate) fn is_lost(&self) -> bool {
        self.at.lost.load(Relaxed)
    }

    /// So much of it is done.
    pub(crate) fn tell(&self, done: u32, total: u32) {
        self.at.done.store(done, Relaxed);
        self.at.total.store(total, Relaxed);
    }

    async fn say_so(&self) {
        let (done, total) = (self.at.done.load(Relaxed), self.at.total.load(Relaxed));
        match self.store.hold_job(&self.job, done, total).await {
            Ok(Held::Mine) => {}
            Ok(Held::Stopping) => self.at.stopping.store(true, Relaxed),
            Ok(Held::Lost) => self.at.lost.store(true, Relaxed),
            // The line comes back, or the lease ends.
            Err(error) => tracing::debug!(%error, "long work cannot say that it goes on"),
        }
    }

    async fn keep_saying_so(self) {
        loop {
            tokio::time::sleep(SAY_SO).await;
            self.say_so().await;
        }
    }
}

async fn at_work(state: AppState, job: JobInHand) {
    let store = state.store.clone();
    let hand = Hand { store: store.clone(), job, at: Arc::default() };
    // It may be to be given up already.
    hand.say_so().await;
    let mut beside = JoinSet::new();
    beside.spawn(hand.clone().keep_saying_so());
    let done = match hand.job.job {
        _ if hand.job.begun > MOST_TRIES => broke_off(&hand).await,
        Job::Import(import) => save_import(&hand, import).await,
        Job::Everything(client) => pack_everything(&state, &hand, client).await,
        Job::Backup => take_backup(&state, &hand).await,
    };
    drop(beside);
    hand.say_so().await;
    if hand.is_lost() {
        return;
    }
    let (ended, says, file) = match done {
        Ok(Ended::Done(file)) => (JobState::Done, None, file),
        Ok(Ended::GivenUp) => (JobState::GivenUp, None, None),
        // Whoever has a line again goes on with it.
        Err(error) if error.is_passing() => return,
        Err(error) => {
            tracing::warn!(job = hand.job.id, error = ?error, "a piece of long work failed");
            (JobState::Failed, Some(error.in_words()), None)
        }
    };
    if let Err(error) = store.end_job(&hand.job, ended, says.as_deref(), file.as_deref()).await {
        tracing::warn!(job = hand.job.id, %error, "a piece of long work is done and cannot be ended");
    }
}

/// Every server that took it up went away over it, or found no line: what there is of it is taken back.
async fn broke_off(hand: &Hand) -> Result<Ended, ApiError> {
    if let Job::Import(id) = hand.job.job {
        take_import_back(&hand.store, id, ImportState::Failed).await?;
    }
    Err(ApiError::Work(format!("it was begun {MOST_TRIES} times and broke off each time")))
}

async fn take_backup(state: &AppState, hand: &Hand) -> Result<Ended, ApiError> {
    let Some(places) = state.jobs.backups.as_deref() else {
        return Err(StoreError::Refused("this server was not told where to put backups").into());
    };
    let BackupPlaces { to, also, passphrase } = places.clone();
    let wanted = Wanted { to, also, passphrase };
    let watched = yardwand_backup::take_watched(&state.store, &wanted, |done, total| {
        hand.tell(done, total);
        !hand.is_ending()
    });
    match watched.await {
        Ok(_) => Ok(Ended::Done(None)),
        Err(BackupError::Stopped) => Ok(Ended::GivenUp),
        Err(BackupError::Store(error)) => Err(error.into()),
        Err(error) => Err(ApiError::Work(error.to_string())),
    }
}
