//! Holds a private MariaDB until standard input closes, and prints its URL: for working on queries.

use std::io::Read;
use std::path::Path;

fn main() -> Result<(), Box<dyn std::error::Error>> {
    let home = std::env::args().nth(1).unwrap_or_else(|| ".yardwand/work".to_owned());
    let server = yardwand_devdb::DevDb::start(Path::new(&home))?;
    println!("{}", server.database("yardwand")?);
    std::io::stdin().read_to_end(&mut Vec::new())?;
    Ok(())
}
