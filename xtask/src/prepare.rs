//! What a machine must have: Debian packages, Rust's own tools, the front end built.

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Stdio;
use std::time::SystemTime;

use crate::root;
use crate::run::{Step, checked, command, npm};

/// Installs the Debian packages that are missing, or prints the line to run where it may not.
pub(crate) fn packages(wanted: &[&str]) -> Step {
    let installed = |package: &&str| {
        let mut ask = command("dpkg-query");
        ask.args(["--show", "--showformat=${Status}", package]).stderr(Stdio::null());
        ask.output().is_ok_and(|said| said.stdout.ends_with(b"ok installed"))
    };
    let missing: Vec<&str> = wanted.iter().copied().filter(|package| !installed(package)).collect();
    if missing.is_empty() {
        return Ok(());
    }
    let line = format!("apt-get install --yes --no-install-recommends {}", missing.join(" "));
    if !is_root() {
        return Err(format!("some Debian packages are missing; run: sudo {line}"));
    }
    println!("-- {line}");
    let apt = |arguments: &[&str]| {
        let mut apt = command("apt-get");
        apt.args(arguments).env("DEBIAN_FRONTEND", "noninteractive").stdout(Stdio::null());
        checked(apt)
    };
    apt(&["update"])?;
    let install = ["install", "--yes", "--no-install-recommends"];
    apt(&install.into_iter().chain(missing.iter().copied()).collect::<Vec<_>>())
}

fn is_root() -> bool {
    fs::metadata("/proc/self").is_ok_and(|own| std::os::unix::fs::MetadataExt::uid(&own) == 0)
}

/// rustfmt and clippy come with the toolchain, or by rustup.
pub(crate) fn rust_components() -> Step {
    let has = |tool: &str| {
        let mut ask = command("cargo");
        ask.args([tool, "--version"]).stdout(Stdio::null()).stderr(Stdio::null());
        ask.status().is_ok_and(|status| status.success())
    };
    if has("fmt") && has("clippy") {
        return Ok(());
    }
    let mut add = command("rustup");
    add.args(["component", "add", "rustfmt", "clippy"]);
    checked(add)
}

/// Schemathesis, in a folder of its own: nothing where Python is not there or its registry does not answer.
pub(crate) fn fuzzer() -> Option<PathBuf> {
    const WANTED: &str = "schemathesis==4.32.5";
    let folder = root().join(".yardwand").join(WANTED.replace("==", "-"));
    let program = folder.join("bin/st");
    if !program.exists() {
        println!("-- {WANTED}");
        let done = |program: &Path, arguments: &[&str]| {
            let mut run = command(&program.display().to_string());
            run.args(arguments).stdout(Stdio::null()).stderr(Stdio::null());
            run.status().is_ok_and(|status| status.success())
        };
        let _ = done(Path::new("python3"), &["-m", "venv", &folder.display().to_string()])
            && done(&folder.join("bin/pip"), &["install", "--quiet", WANTED]);
    }
    program.exists().then_some(program)
}

/// Installs the front end's packages from the lock file, where the lock file is newer.
pub(crate) fn install_front_end() -> Step {
    let (lock, stamp) =
        (root().join("web/package-lock.json"), root().join("web/node_modules/.package-lock.json"));
    if newest(&[lock]) > newest(&[stamp]) {
        println!("-- npm ci");
        npm(&["ci", "--no-audit", "--no-fund", "--loglevel=error"])?;
    }
    Ok(())
}

/// Builds the front end where a source is newer than what was built.
pub(crate) fn front_end() -> Step {
    let web = root().join("web");
    let sources: Vec<PathBuf> =
        ["src", "public", "scripts", "index.html", "vite.config.ts", "package-lock.json"]
            .iter()
            .map(|part| web.join(part))
            .collect();
    if newest(&sources) > newest(&[web.join("dist/index.html")]) {
        install_front_end()?;
        println!("-- front end");
        npm(&["run", "--silent", "build", "--", "--logLevel=error"])?;
    }
    Ok(())
}

/// When the newest file below these paths was changed.
fn newest(paths: &[PathBuf]) -> Option<SystemTime> {
    paths.iter().filter_map(|path| newest_below(path)).max()
}

fn newest_below(path: &Path) -> Option<SystemTime> {
    if path.is_dir() {
        let entries = fs::read_dir(path).ok()?;
        return entries.flatten().filter_map(|entry| newest_below(&entry.path())).max();
    }
    fs::metadata(path).and_then(|meta| meta.modified()).ok()
}
