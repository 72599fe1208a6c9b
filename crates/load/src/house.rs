//! A large house with its server: made once, and found again by the next measurement.

use std::io::{BufRead, BufReader};
use std::path::Path;
use std::process::{Child, Command, Stdio};
use std::time::Instant;

use yardwand_devdb::{DevDb, free_port, large_house};

use crate::Measured;
use crate::person::Signed;

/// So many clients, with four sessions of 25 readings and two garments each.
const CLIENTS: u32 = 50_000;
/// As `packaging/mariadb-yardwand.cnf` has it.
const MARIADB: [&str; 1] = ["--innodb-buffer-pool-size=512M"];
const DATABASE: &str = "house";

/// A server of the house, ended when it is dropped.
struct Server {
    child: Child,
    base: String,
}

impl Server {
    fn start(program: &Path, url: &str, words: &[&str]) -> Measured<Self> {
        let mut child = Command::new(program)
            .args(["serve", "--listen", "127.0.0.1:0"])
            .args(words)
            .env("DATABASE_URL", url)
            .env("RUST_LOG", "warn")
            .stdout(Stdio::piped())
            .spawn()?;
        let mut line = String::new();
        BufReader::new(child.stdout.take().ok_or("the server says nothing")?).read_line(&mut line)?;
        match line.trim().rsplit_once(' ') {
            Some((_, base)) => Ok(Self { base: base.to_owned(), child }),
            None => Err("the server does not start".into()),
        }
    }
}

impl Drop for Server {
    fn drop(&mut self) {
        let _ = self.child.kill();
        let _ = self.child.wait();
    }
}

/// The house, with somebody who is signed in.
pub(crate) struct LargeHouse {
    pub(crate) person: Signed,
    /// Numbers of the clients and garments that were made for it.
    pub(crate) clients: Numbers,
    pub(crate) garments: Numbers,
    server: Server,
    db: DevDb,
}

/// The first and last number of a table's rows.
#[derive(Clone, Copy)]
pub(crate) struct Numbers {
    first: u64,
    last: u64,
}

impl Numbers {
    pub(crate) fn any(self) -> u64 {
        fastrand::u64(self.first..=self.last)
    }
}

/// The note of every observation that a measurement writes.
pub(crate) const MEASURED: &str = "measured, not seen";

impl LargeHouse {
    /// Opens the house in a folder, making it first where it is not there.
    pub(crate) fn open(program: &Path, folder: &Path) -> Measured<Self> {
        let options = MARIADB.map(str::to_owned);
        let db = DevDb::start_with(folder, free_port()?, &options)?;
        let url = db.database(DATABASE)?;
        let number = |sql: &str| -> Measured<u64> { Ok(db.ask(DATABASE, sql)?.trim().parse()?) };
        // The demo is filled and the schema brought up to date in any case.
        drop(Server::start(program, &url, &["--demo"])?);
        if number("SELECT COUNT(*) FROM clients")? < u64::from(CLIENTS) {
            let begun = Instant::now();
            db.run_in(DATABASE, &large_house(CLIENTS))?;
            println!("made a house of {CLIENTS} clients in {:.0} s", begun.elapsed().as_secs_f64());
        }
        // What earlier measurements pinned on the same rounds would make this one slower than the house is.
        db.run_in(DATABASE, &format!("DELETE FROM observations WHERE seen LIKE '%\"{MEASURED}\"%'"))?;
        let last = |table: &str| -> Measured<Numbers> {
            let last = number(&format!("SELECT MAX(id) FROM {table}"))?;
            // The last ones are in hand; what is asked for is anybody's.
            Ok(Numbers { first: last / 10, last })
        };
        let (clients, garments) = (last("clients")?, last("orders")?);
        for table in ["clients", "sessions", "readings", "orders"] {
            println!("{table}: {}", number(&format!("SELECT COUNT(*) FROM {table}"))?);
        }
        let server = Server::start(program, &url, &[])?;
        let person = Signed::into(&server.base)?;
        Ok(Self { person, clients, garments, server, db })
    }

    pub(crate) fn base(&self) -> &str {
        &self.server.base
    }

    pub(crate) fn url(&self) -> String {
        format!("{}/{DATABASE}", self.db.server_url())
    }

    /// Statements that MariaDB has answered so far.
    pub(crate) fn statements(&self) -> Measured<u64> {
        let told = self.db.ask(DATABASE, "SHOW GLOBAL STATUS LIKE 'Questions'")?;
        Ok(told.split_whitespace().nth(1).ok_or("MariaDB does not count")?.parse()?)
    }

    /// Memory of the server's process in MB: what it has now, and the most it ever had.
    pub(crate) fn memory(&self) -> Measured<(u64, u64)> {
        let status = std::fs::read_to_string(format!("/proc/{}/status", self.server.child.id()))?;
        let of = |name: &str| -> Measured<u64> {
            let line = status.lines().find(|line| line.starts_with(name)).ok_or("no memory is told")?;
            let kb: u64 = line.split_whitespace().nth(1).ok_or("no memory is told")?.parse()?;
            Ok(kb / 1024)
        };
        Ok((of("VmRSS")?, of("VmHWM")?))
    }

    /// Numbers of a list the server gives.
    pub(crate) fn numbers(&self, path: &str, field: &str) -> Measured<Vec<u64>> {
        let list = self.person.read(path)?;
        let rows = list.as_array().ok_or("not a list")?;
        Ok(rows.iter().filter_map(|row| row[field].as_u64()).collect())
    }
}
