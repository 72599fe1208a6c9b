//! A line to the database that can be listened to, slowed down and cut.

use std::io::{Read, Write};
use std::net::{Shutdown, SocketAddr, TcpListener, TcpStream};
use std::sync::atomic::{AtomicBool, AtomicU64, AtomicUsize, Ordering};
use std::sync::{Arc, Mutex};
use std::thread;
use std::time::{Duration, Instant};

use super::House;

/// Counts the statements that a client sends to MariaDB: each packet begins with its length and its number, and a command is
/// the first packet of its kind (MariaDB's client protocol: `COM_QUERY` is 0x03, `COM_STMT_EXECUTE` 0x17).
#[derive(Default)]
struct Statements {
    head: Vec<u8>,
    left: usize,
}

impl Statements {
    fn in_these(&mut self, bytes: &[u8]) -> usize {
        let mut count = 0;
        for byte in bytes {
            if self.left > 0 {
                self.left -= 1;
                continue;
            }
            self.head.push(*byte);
            let length =
                |head: &[u8]| usize::from(head[0]) | usize::from(head[1]) << 8 | usize::from(head[2]) << 16;
            match self.head.len() {
                4 if length(&self.head) == 0 => self.head.clear(),
                5 => {
                    count += usize::from(self.head[3] == 0 && matches!(self.head[4], 0x03 | 0x17));
                    self.left = length(&self.head) - 1;
                    self.head.clear();
                }
                _ => {}
            }
        }
        count
    }
}

/// A line to a database that counts what is asked over it and can be cut.
pub(crate) struct Line {
    address: SocketAddr,
    is_cut: Arc<AtomicBool>,
    pub(crate) asked: Arc<AtomicUsize>,
    /// From when to when each was on its way and waited for.
    times: Arc<Mutex<Vec<(Instant, Instant)>>>,
    /// So much later each answer comes, in milliseconds.
    late: Arc<AtomicU64>,
    open: Arc<Mutex<Vec<TcpStream>>>,
}

impl Line {
    /// A house whose server reaches its database over such a line.
    pub(crate) fn house() -> (House, Self) {
        House::over(|url| {
            let (head, database) = url.rsplit_once('/').unwrap();
            let (user, server) = head.rsplit_once('@').unwrap();
            let line = Self::to(server);
            (format!("{user}@{}/{database}", line.address), line)
        })
    }

    fn to(database: &str) -> Self {
        let listener = TcpListener::bind("127.0.0.1:0").unwrap();
        let address = listener.local_addr().unwrap();
        let line = Self {
            address,
            is_cut: Arc::default(),
            asked: Arc::default(),
            times: Arc::default(),
            late: Arc::default(),
            open: Arc::default(),
        };
        let (is_cut, asked, open, database) =
            (line.is_cut.clone(), line.asked.clone(), line.open.clone(), database.to_owned());
        let (times, late) = (line.times.clone(), line.late.clone());
        thread::spawn(move || {
            for here in listener.incoming().map_while(Result::ok) {
                if is_cut.load(Ordering::SeqCst) {
                    continue;
                }
                let Ok(there) = TcpStream::connect(&database) else { continue };
                let both = || (here.try_clone().unwrap(), there.try_clone().unwrap());
                let (mut from, mut to) = both();
                let (asked, began) = (asked.clone(), Arc::new(Mutex::new(None)));
                let (times, late, begins) = (times.clone(), late.clone(), began.clone());
                thread::spawn(move || {
                    let (mut statements, mut bytes) = (Statements::default(), [0; 16384]);
                    while let Ok(count @ 1..) = from.read(&mut bytes) {
                        let new = statements.in_these(&bytes[..count]);
                        asked.fetch_add(new, Ordering::SeqCst);
                        if new > 0 {
                            *begins.lock().unwrap() = Some(Instant::now());
                        }
                        if to.write_all(&bytes[..count]).is_err() {
                            break;
                        }
                    }
                    let _ = to.shutdown(Shutdown::Both);
                });
                let (mut to, mut from) = both();
                thread::spawn(move || {
                    let mut bytes = [0; 16384];
                    while let Ok(count @ 1..) = from.read(&mut bytes) {
                        if let Some(began) = began.lock().unwrap().take() {
                            thread::sleep(Duration::from_millis(late.load(Ordering::SeqCst)));
                            times.lock().unwrap().push((began, Instant::now()));
                        }
                        if to.write_all(&bytes[..count]).is_err() {
                            break;
                        }
                    }
                    let _ = to.shutdown(Shutdown::Both);
                });
                open.lock().unwrap().extend([here, there]);
            }
        });
        line
    }

    pub(crate) fn cut(&self) {
        self.is_cut.store(true, Ordering::SeqCst);
        for stream in self.open.lock().unwrap().drain(..) {
            let _ = stream.shutdown(Shutdown::Both);
        }
    }

    pub(crate) fn mend(&self) {
        self.is_cut.store(false, Ordering::SeqCst);
    }

    /// From now on every answer of the database comes so much later.
    pub(crate) fn late_by(&self, late: Duration) {
        self.late.store(u64::try_from(late.as_millis()).unwrap(), Ordering::SeqCst);
    }

    /// How many statements there were since this was asked last, and how many of them waited for another one: the longest chain in
    /// which each began after the one before it was answered.
    pub(crate) fn asked_and_one_after_another(&self) -> (usize, usize) {
        let mut times = std::mem::take(&mut *self.times.lock().unwrap());
        let asked = times.len();
        times.sort_by_key(|(_, answered)| *answered);
        let (mut chain, mut last) = (0, None);
        for (began, answered) in times {
            if last.is_none_or(|last| began >= last) {
                chain += 1;
                last = Some(answered);
            }
        }
        (asked, chain)
    }
}
