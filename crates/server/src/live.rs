//! Streams of events: what happens to a session or a round that is open on a screen, told as it happens.
//!
//! However many streams are open, one watcher a server asks the database, for all of them at once: four times a second, and a
//! little sooner after a write of this server. It sees what other servers write as well. A stream ends when its sign-in does,
//! when what it shows is gone, and when the server or the database stops; the browser comes back by itself.

use std::collections::BTreeMap;
use std::convert::Infallible;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::Duration;

use axum::extract::{Request, State};
use axum::middleware::Next as Handler;
use axum::response::sse::{Event, KeepAlive};
use axum::response::{Response, Sse};
use futures_util::Stream;
use futures_util::stream::unfold;
use serde::Serialize;
use tokio::sync::{Notify, watch};
use yardwand_store::{Now, Open, Store};

/// The watcher asks at least so often.
const EVERY: Duration = Duration::from_millis(250);
/// And at most so often, whatever is written.
const GAP: Duration = Duration::from_millis(160);

/// Shared by everything that streams. Cheap to clone.
#[derive(Clone, Debug, Default)]
pub struct Live(Arc<Shared>);

#[derive(Debug)]
struct Shared {
    stopping: watch::Sender<bool>,
    open: Mutex<Places>,
    /// How everything stood at the last look; none where the database did not answer.
    now: watch::Sender<Option<Arc<Now>>>,
    written: Notify,
}

impl Default for Shared {
    fn default() -> Self {
        Self {
            stopping: watch::Sender::new(false),
            open: Mutex::default(),
            now: watch::Sender::new(Some(Arc::default())),
            written: Notify::new(),
        }
    }
}

/// What is watched, and by how many streams.
#[derive(Debug, Default)]
struct Places {
    sessions: BTreeMap<u64, u32>,
    rounds: BTreeMap<u64, u32>,
    sign_ins: BTreeMap<[u8; 32], u32>,
    is_watched: bool,
}

impl Places {
    fn open(&self) -> Open {
        Open {
            sessions: self.sessions.keys().copied().collect(),
            rounds: self.rounds.keys().copied().collect(),
            sign_ins: self.sign_ins.keys().copied().collect(),
        }
    }
}

/// What a stream is about.
#[derive(Clone, Copy, Debug)]
pub(crate) enum About {
    /// A session of measuring.
    Session(u64),
    /// A round of fitting.
    Round(u64),
}

/// What a stream does at a look.
pub(crate) enum Next {
    /// Nothing new.
    Wait,
    Tell(Event),
    /// It is gone.
    End,
}

/// What a stream of events tells.
pub(crate) trait Watched: Send + 'static {
    /// What it is about.
    fn about(&self) -> About;
    /// What is new since it was last asked.
    fn look(&mut self, now: &Now) -> Next;
}

impl Live {
    /// Ends every stream.
    pub fn stop(&self) {
        self.0.stopping.send_replace(true);
    }

    /// How many pages listen.
    pub(crate) fn listening(&self) -> i64 {
        self.places(|places| places.sign_ins.values().map(|count| i64::from(*count)).sum())
    }

    /// Resolves once the server stops.
    async fn stopped(&self) {
        // The sender lives as long as `self`, so waiting cannot fail.
        let _ = self.0.stopping.subscribe().wait_for(|stopping| *stopping).await;
    }

    fn places<T>(&self, with: impl FnOnce(&mut Places) -> T) -> T {
        with(&mut self.0.open.lock().unwrap_or_else(PoisonError::into_inner))
    }

    /// A stream that tells what is new, for as long as this sign-in lasts.
    pub(crate) fn events<T: Watched>(
        self,
        store: &Store,
        watched: T,
        sign_in: [u8; 32],
    ) -> Sse<impl Stream<Item = Result<Event, Infallible>> + use<T>> {
        // Before the watcher's next look: that one is heard.
        let heard = self.0.now.subscribe();
        let place = Place::taken(self, watched.about(), sign_in);
        if place.live.places(|places| !std::mem::replace(&mut places.is_watched, true)) {
            tokio::spawn(watch_over(place.live.clone(), store.clone()));
        }
        let stream = unfold((place, heard, watched), move |(place, mut heard, mut watched)| async move {
            loop {
                let now = heard.borrow_and_update().clone()?;
                if now.sign_ins.get(&place.sign_in) == Some(&false) {
                    return None;
                }
                match watched.look(&now) {
                    Next::Tell(event) => return Some((Ok(event), (place, heard, watched))),
                    Next::End => return None,
                    Next::Wait => {}
                }
                tokio::select! {
                    changed = heard.changed() => changed.ok()?,
                    () = place.live.stopped() => return None,
                }
            }
        });
        Sse::new(stream).keep_alive(KeepAlive::new().interval(Duration::from_secs(15)))
    }
}

/// A stream's place among what is watched. It is given up when the stream ends, however it does.
struct Place {
    live: Live,
    about: About,
    sign_in: [u8; 32],
}

impl Place {
    fn taken(live: Live, about: About, sign_in: [u8; 32]) -> Self {
        live.places(|places| {
            match about {
                About::Session(id) => *places.sessions.entry(id).or_default() += 1,
                About::Round(id) => *places.rounds.entry(id).or_default() += 1,
            }
            *places.sign_ins.entry(sign_in).or_default() += 1;
        });
        Self { live, about, sign_in }
    }
}

impl Drop for Place {
    fn drop(&mut self) {
        self.live.places(|places| {
            match self.about {
                About::Session(id) => one_less(&mut places.sessions, id),
                About::Round(id) => one_less(&mut places.rounds, id),
            }
            one_less(&mut places.sign_ins, self.sign_in);
        });
    }
}

fn one_less<K: Ord>(places: &mut BTreeMap<K, u32>, of: K) {
    if let Some(count) = places.get_mut(&of) {
        *count -= 1;
        if *count == 0 {
            places.remove(&of);
        }
    }
}

/// Looks after everything that is open, until nothing is, or the server stops.
async fn watch_over(live: Live, store: Store) {
    loop {
        let open = live.places(|places| {
            let open = places.open();
            places.is_watched = !open.sign_ins.is_empty();
            open
        });
        if open.sign_ins.is_empty() {
            // The next stream begins with nothing known, also where the last look found no database.
            live.0.now.send_replace(Some(Arc::default()));
            return;
        }
        // Where the database does not answer, every stream ends: its page says so and comes back.
        let now = store.stands(&open).await.map(Arc::new).ok();
        // Where nothing is new, nobody is woken.
        live.0.now.send_if_modified(|last| {
            let is_new = *last != now;
            if is_new {
                *last = now;
            }
            is_new
        });
        let turn = async {
            tokio::time::sleep(GAP).await;
            let _ = tokio::time::timeout(EVERY - GAP, live.0.written.notified()).await;
        };
        tokio::select! {
            () = turn => {}
            () = live.stopped() => return,
        }
    }
}

/// The middleware: after a write the watcher looks sooner.
pub(crate) async fn written(State(live): State<Live>, request: Request, next: Handler) -> Response {
    let writes = !request.method().is_safe();
    let response = next.run(request).await;
    if writes && response.status().is_success() {
        live.0.written.notify_one();
    }
    response
}

/// An event with its data.
pub(crate) fn event<T: Serialize>(name: &str, data: &T) -> Event {
    Event::default().event(name).data(serde_json::to_string(data).unwrap_or_default())
}
