//! What a house is given: the program, its units for systemd and the words on how to run it, as one archive.

use std::fs;
use std::path::{Path, PathBuf};

use crate::prepare::{front_end, packages};
use crate::root;
use crate::run::{Step, cargo, checked, command};

/// Where the program lies once it is installed, as the units name it.
const INSTALLED: &str = "/usr/bin/yardwand";
/// Choices for the service that a house may lay over it.
const OVER_THE_SERVICE: &str = "yardwand-asked-backups.conf";

/// Builds the program as it runs in a house, has systemd look at the units, and packs all of it.
pub(crate) fn package() -> Step {
    packages(&["systemd"])?;
    front_end()?;
    cargo(&["build", "--release", "--locked", "--package", "yardwand-server"])?;
    let program = root().join("target/release/yardwand");
    verify(&root().join("packaging"), &program)?;
    let (kernel, version) = (std::env::consts::ARCH, env!("CARGO_PKG_VERSION"));
    let name = format!("yardwand-{version}-{kernel}");
    let (folder, staged) = (root().join("target/package"), root().join("target/package").join(&name));
    let _ = fs::remove_dir_all(&staged);
    fs::create_dir_all(&staged).map_err(|error| error.to_string())?;
    let mut files = crate::run::files(&root().join("packaging"))?;
    files.extend([
        program,
        root().join("docs/running.md"),
        root().join("CHANGELOG.md"),
        root().join("docs/licences.md"),
    ]);
    for file in &files {
        let to = staged.join(file.file_name().unwrap_or_default());
        fs::copy(file, &to).map_err(|error| format!("{}: {error}", file.display()))?;
    }
    let archive = folder.join(format!("{name}.tar.gz"));
    let mut tar = command("tar");
    tar.args(["--create", "--gzip", "--sort=name", "--owner=0", "--group=0", "--file"]);
    tar.arg(&archive).arg("--directory").arg(&folder).arg(&name);
    checked(tar)?;
    println!("-- {}", archive.display());
    Ok(())
}

/// Has systemd read the units, with the program where it was built: an installed one need not be there.
fn verify(units: &Path, program: &Path) -> Step {
    let folder = root().join("target/units");
    let _ = fs::remove_dir_all(&folder);
    fs::create_dir_all(&folder).map_err(|error| error.to_string())?;
    let mut verify = command("systemd-analyze");
    verify.args(["verify", "--man=no", "--recursive-errors=no"]);
    let is_unit = |file: &&PathBuf| file.extension().is_some_and(|end| end == "service" || end == "timer");
    for unit in crate::run::files(units)?.iter().filter(is_unit) {
        let text = fs::read_to_string(unit).map_err(|error| error.to_string())?;
        if unit.extension().is_some_and(|end| end == "service") && !text.contains(INSTALLED) {
            return Err(format!("{} does not start {INSTALLED}", unit.display()));
        }
        let copy = folder.join(unit.file_name().unwrap_or_default());
        fs::write(&copy, text.replace(INSTALLED, &program.display().to_string()))
            .map_err(|error| error.to_string())?;
        verify.arg(copy);
    }
    // What is laid over the service is looked at with it.
    let over = folder.join("yardwand.service.d");
    fs::create_dir_all(&over).map_err(|error| error.to_string())?;
    let laid = units.join(OVER_THE_SERVICE);
    fs::copy(&laid, over.join(OVER_THE_SERVICE)).map_err(|error| format!("{}: {error}", laid.display()))?;
    checked(verify)
}
