//! The front end's own tests: composables and components, each by itself, run by Node.

use std::path::Path;
use std::process::Command;

#[test]
fn the_front_end_passes_its_own_tests() {
    let web = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web");
    let said = Command::new("npm").args(["run", "--silent", "test"]).current_dir(web).output().unwrap();
    let (out, err) = (String::from_utf8_lossy(&said.stdout), String::from_utf8_lossy(&said.stderr));
    println!("{out}");
    assert!(said.status.success(), "{out}\n{err}");
}
