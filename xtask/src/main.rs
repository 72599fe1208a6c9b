//! `cargo xtask`: everything the project does to itself, on a machine with Rust, Node and Debian's base.
//!
//! demo · test · lint · bench · load · shots · queries · types · licences · deny · package · kills · cluster · share

mod licences;
mod module_order;
mod package;
mod prepare;
mod run;
mod share;

use std::env;
use std::path::{Path, PathBuf};
use std::process::ExitCode;
use std::time::Instant;

use yardwand_devdb::{DevDb, TEST_SERVER};

use prepare::{front_end, fuzzer, install_front_end, packages, rust_components};
use run::{Step, cargo, command, npm};

/// Read by proptest.
const PROPERTY_SEED: &str = "PROPTEST_RNG_SEED";

/// Where schemathesis is, for the test `fuzzed.rs`.
const FUZZER: &str = "YARDWAND_SCHEMATHESIS";

const HELP: &str = "cargo xtask <task>

  demo      prepare everything, fill the demo and serve it
  test      prepare everything, then format, lint, types, and every test
  lint      format, order of the core's modules, clippy, ESLint, Prettier, vue-tsc, generated files
  bench     criterion for the craft, and a loopback load on the server
  load      a house of 50,000 clients read page by page, fifty people for ten minutes, five hundred open pages
  shots     pictures of the main views from the demo, into docs/screenshots, and of every alteration
  queries   check every statement against a fresh database, write the offline data
  types     write the API's description and the types generated from it
  licences  the page of everything the program is made of
  deny      licences, bans and sources of the dependencies, by cargo-deny
  package   the program, its units and how to run it, as one archive in target/package
  kills     hundreds of kills of server, database and migrations while people write: nothing lost, nothing twice
  cluster   ten minutes of work on three nodes, one after another of which is killed and comes back
  share     count how much of the code is tests";

fn main() -> ExitCode {
    let task = env::args().nth(1).unwrap_or_default();
    let begun = Instant::now();
    let done = match task.as_str() {
        "demo" => demo(),
        "test" => test(),
        "lint" => lint_alone(),
        "bench" => bench(),
        "load" => load(),
        "shots" => shots(),
        "queries" => queries(&root().join("crates/store/.sqlx")),
        "types" => types(),
        "licences" => licences::write(),
        "deny" => licences::deny(),
        "package" => package::package(),
        "kills" => ignored(&["mariadb-server"], "kills::"),
        "cluster" => ignored(&["mariadb-server", "galera-4", "iproute2", "rsync", "haproxy"], "cluster::"),
        "share" => share::print(),
        _ => {
            println!("{HELP}");
            return if task.is_empty() { ExitCode::SUCCESS } else { ExitCode::from(2) };
        }
    };
    match done {
        Ok(()) => {
            println!("{task}: done in {} s", begun.elapsed().as_secs());
            ExitCode::SUCCESS
        }
        Err(error) => {
            eprintln!("{task}: {error}");
            ExitCode::FAILURE
        }
    }
}

/// The repository.
pub(crate) fn root() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).parent().map_or_else(PathBuf::new, Path::to_path_buf)
}

fn private_server(name: &str) -> Result<DevDb, String> {
    DevDb::start(&root().join(".yardwand").join(name)).map_err(|error| error.to_string())
}

fn demo() -> Step {
    packages(&["mariadb-server"])?;
    front_end()?;
    cargo(&["build", "--package", "yardwand-server"])?;
    let server = private_server("demo")?;
    let url = server.database("yardwand").map_err(|error| error.to_string())?;
    println!("\n  Sign in as marit@workroom.example with the password: chalk and ink");
    println!("  Ctrl-C stops both the application and its database.\n");
    let listen = env::var("YARDWAND_LISTEN").unwrap_or_else(|_| "127.0.0.1:8350".to_owned());
    let mut serve = command(&root().join("target/debug/yardwand").display().to_string());
    serve.args(["serve", "--demo", "--listen", &listen]).env("DATABASE_URL", url);
    // Ctrl-C reaches the application too: it ends in good order, and then its database here.
    let ended = serve.status().map_err(|error| format!("the application cannot be started: {error}"))?;
    drop(server);
    if ended.success() { Ok(()) } else { Err(format!("the application ended with {ended}")) }
}

fn test() -> Step {
    packages(&["mariadb-server", "chromium", "chromium-driver", "python3-venv"])?;
    rust_components()?;
    front_end()?;
    lint()?;
    let server = private_server("test")?;
    println!("-- tests");
    let mut tests = command("cargo");
    tests.args(["test", "--workspace", "--locked"]).env(TEST_SERVER, server.server_url());
    // The same bodies on every machine; a plain `cargo test` draws new ones, and PROPTEST_CASES draws more.
    if env::var_os(PROPERTY_SEED).is_none() {
        tests.env(PROPERTY_SEED, "2026");
    }
    match fuzzer() {
        Some(program) => drop(tests.env(FUZZER, program)),
        None => println!("-- schemathesis cannot be installed here: the test fuzzed.rs asks nothing"),
    }
    run::checked(tests)?;
    drop(server);
    let fresh = root().join("target/sqlx-fresh");
    queries(&fresh)?;
    same_folder(&fresh, &root().join("crates/store/.sqlx"))
}

/// Tests that take long and are left out of `test`: `YARDWAND_KILLS` says how many kills, `YARDWAND_CLUSTER_MINUTES` how long instead.
fn ignored(needs: &[&str], tests: &str) -> Step {
    packages(needs)?;
    front_end()?;
    let server = private_server("test")?;
    let mut run = command("cargo");
    run.args([
        "test",
        "--workspace",
        "--locked",
        "--test",
        "it",
        "--",
        "--ignored",
        tests,
        "--nocapture",
        "--test-threads=1",
    ]);
    run.env(TEST_SERVER, server.server_url());
    run::checked(run)
}

fn lint_alone() -> Step {
    rust_components()?;
    install_front_end()?;
    front_end()?;
    lint()
}

fn lint() -> Step {
    println!("-- lint");
    cargo(&["fmt", "--all", "--check"])?;
    module_order::check(&root().join("crates/core/src"))?;
    licences::check()?;
    cargo(&["clippy", "--workspace", "--all-targets", "--locked", "--", "--deny", "warnings"])?;
    npm(&["run", "--silent", "lint"])?;
    npm(&["run", "--silent", "format"])?;
    npm(&["run", "--silent", "check"])
}

fn same_folder(fresh: &Path, kept: &Path) -> Step {
    let names = |path: &Path| -> Result<Vec<String>, String> {
        let entries = std::fs::read_dir(path).map_err(|error| format!("{}: {error}", path.display()))?;
        let mut names: Vec<String> =
            entries.flatten().map(|e| e.file_name().to_string_lossy().into_owned()).collect();
        names.sort();
        Ok(names)
    };
    // A description's name is the hash of its statement.
    if names(fresh)? == names(kept)? {
        Ok(())
    } else {
        Err("the offline data of the queries are old: run `cargo xtask queries`".to_owned())
    }
}

/// Checks every statement against a database made by the migrations alone.
fn queries(into: &Path) -> Step {
    println!("-- queries");
    packages(&["mariadb-server"])?;
    let server = private_server("queries")?;
    // Always the same name: it stands in the descriptions.
    let name = "queries";
    let said = |error: yardwand_devdb::DevDbError| error.to_string();
    server.run_in("mysql", &format!("DROP DATABASE IF EXISTS `{name}`")).map_err(said)?;
    let url = server.database(name).map_err(said)?;
    // By the files themselves: the application cannot be built while a statement is new.
    for migration in run::files(&root().join("crates/store/migrations"))? {
        let sql = std::fs::read_to_string(&migration).map_err(|error| error.to_string())?;
        server.run_in(name, &sql).map_err(|error| format!("{}: {error}", migration.display()))?;
    }
    let _ = std::fs::remove_dir_all(into);
    std::fs::create_dir_all(into).map_err(|error| error.to_string())?;
    let mut check = command("cargo");
    // A folder of its own: the flags of this check must not make the usual build anew.
    check
        .args(["check", "--quiet", "--package", "yardwand-store", "--target-dir", "target/queries"])
        .env("DATABASE_URL", &url)
        .env("SQLX_OFFLINE", "false")
        .env("SQLX_OFFLINE_DIR", into);
    let touched = root().join("crates/store/src/lib.rs");
    run::touch(&touched)?;
    run::checked(check)
}

fn types() -> Step {
    install_front_end()?;
    let mut describe = command("cargo");
    describe.args(["run", "--quiet", "--package", "yardwand-server", "--", "openapi"]);
    let said = describe.output().map_err(|error| error.to_string())?;
    std::fs::write(root().join("web/src/api/openapi.json"), said.stdout)
        .map_err(|error| error.to_string())?;
    npm(&["run", "--silent", "types"])
}

fn bench() -> Step {
    packages(&["mariadb-server"])?;
    cargo(&["bench", "--package", "yardwand-core", "--bench", "craft", "--bench", "fitting"])?;
    front_end()?;
    let server = private_server("bench")?;
    let url = server.database("bench").map_err(|error| error.to_string())?;
    let mut load = command("cargo");
    load.args(["bench", "--package", "yardwand-server", "--bench", "load"]).env("DATABASE_URL", url);
    run::checked(load)
}

/// Takes half an hour: all three measurements, or the one that is named.
fn load() -> Step {
    packages(&["mariadb-server"])?;
    front_end()?;
    cargo(&["build", "--release", "--locked", "--package", "yardwand-server", "--package", "yardwand-load"])?;
    let named = env::args().nth(2);
    let all = ["scale", "users", "pages"];
    let over: Vec<String> = all
        .into_iter()
        .filter(|what| named.as_deref().is_none_or(|named| named == *what))
        .filter_map(|what| {
            println!("-- {what}");
            let mut measure = command(&root().join("target/release/yardwand-load").display().to_string());
            measure.arg(root().join("target/release/yardwand")).arg(root().join(".yardwand/load")).arg(what);
            run::checked(measure).err()
        })
        .collect();
    if over.is_empty() { Ok(()) } else { Err(over.join("; ")) }
}

fn shots() -> Step {
    packages(&["mariadb-server", "chromium", "chromium-driver"])?;
    front_end()?;
    let server = private_server("shots")?;
    let mut shoot = command("cargo");
    shoot
        .args(["run", "--quiet", "--package", "yardwand-e2e", "--bin", "shots"])
        .env(TEST_SERVER, server.server_url());
    run::checked(shoot)?;
    // The alterations are drawn from the core alone, as SVG, with the page that shows them.
    let mut draw = command("cargo");
    draw.args([
        "run",
        "--quiet",
        "--package",
        "yardwand-core",
        "--example",
        "alteration_pictures",
        "--",
        "docs",
    ]);
    run::checked(draw)
}
