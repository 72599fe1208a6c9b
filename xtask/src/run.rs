//! Running other programs, in the repository, with their failure told in one line.

use std::fs;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::SystemTime;

use crate::root;

/// A step of a task: done, or one line that says why not.
pub(crate) type Step = Result<(), String>;

/// A command that runs in the repository.
pub(crate) fn command(program: &str) -> Command {
    let mut command = Command::new(program);
    command.current_dir(root());
    command
}

/// Runs it; anything but success is a failure.
pub(crate) fn checked(mut command: Command) -> Step {
    let line = format!("{command:?}");
    match command.status() {
        Ok(status) if status.success() => Ok(()),
        Ok(status) => Err(format!("{line} ended with {status}")),
        Err(error) => Err(format!("{line} cannot be run: {error}")),
    }
}

/// Cargo with these arguments.
pub(crate) fn cargo(arguments: &[&str]) -> Step {
    let mut cargo = command("cargo");
    cargo.args(arguments);
    checked(cargo)
}

/// npm with these arguments, in the front end's folder.
pub(crate) fn npm(arguments: &[&str]) -> Step {
    let mut npm = command("npm");
    npm.args(arguments).current_dir(root().join("web"));
    checked(npm)
}

/// The files of a folder, by name.
pub(crate) fn files(folder: &Path) -> Result<Vec<PathBuf>, String> {
    let entries = fs::read_dir(folder).map_err(|error| format!("{}: {error}", folder.display()))?;
    let mut files: Vec<PathBuf> = entries.flatten().map(|entry| entry.path()).collect();
    files.sort();
    Ok(files)
}

/// Makes a file look changed.
pub(crate) fn touch(path: &Path) -> Step {
    let file = fs::File::options().append(true).open(path);
    file.and_then(|file| file.set_modified(SystemTime::now()))
        .map_err(|error| format!("{}: {error}", path.display()))
}
