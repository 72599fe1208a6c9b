//! The front end's own tests: composables and components, each by itself, run by Node. And what its first screen weighs.

use std::collections::BTreeSet;
use std::fs::{read_dir, read_to_string};
use std::io::Write;
use std::path::Path;
use std::process::Command;

use flate2::Compression;
use flate2::write::GzEncoder;

#[test]
fn the_front_end_passes_its_own_tests() {
    let web = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web");
    let said = Command::new("npm").args(["run", "--silent", "test"]).current_dir(web).output().unwrap();
    let (out, err) = (String::from_utf8_lossy(&said.stdout), String::from_utf8_lossy(&said.stderr));
    println!("{out}");
    assert!(said.status.success(), "{out}\n{err}");
}

/// Bytes of script, compressed as they are sent, that the first screen may wait for.
const FIRST_SCREEN: usize = 120_000;

/// The scripts that a script imports before it runs.
fn imported(text: &str) -> impl Iterator<Item = &str> {
    let from = text.split("from\"./").skip(1).chain(text.split("import\"./").skip(1));
    from.filter_map(|rest| rest.split('"').next()).filter(|name| name.ends_with(".js"))
}

#[test]
fn the_first_screen_waits_for_little_script() {
    let dist = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../web/dist");
    let page = read_to_string(dist.join("index.html")).unwrap();
    let entry = page.split("src=\"/assets/").nth(1).and_then(|rest| rest.split('"').next()).unwrap();
    let names =
        read_dir(dist.join("assets")).unwrap().map(|file| file.unwrap().file_name().into_string().unwrap());
    let today = names.into_iter().find(|name| name.starts_with("Today-") && name.ends_with(".js")).unwrap();
    let mut wanted = vec![entry.to_owned(), today];
    let mut seen = BTreeSet::new();
    let mut bytes = 0;
    while let Some(name) = wanted.pop() {
        if !seen.insert(name.clone()) {
            continue;
        }
        let text = read_to_string(dist.join("assets").join(&name)).unwrap();
        wanted.extend(imported(&text).map(str::to_owned));
        let mut packed = GzEncoder::new(Vec::new(), Compression::default());
        packed.write_all(text.as_bytes()).unwrap();
        bytes += packed.finish().unwrap().len();
    }
    println!("{} scripts, {bytes} bytes", seen.len());
    assert!(seen.len() > 3 && bytes <= FIRST_SCREEN, "{bytes} bytes in {seen:?}");
}
