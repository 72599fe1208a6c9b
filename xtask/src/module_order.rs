//! The order of the core's modules: each knows only those that stand before it.

use std::path::Path;

use crate::run::{Step, files};

/// From the bottom up. Units, names of things and fixed sentences are the crate's own and stand below all of them.
const ORDER: [&str; 12] = [
    "geometry", "body", "pattern", "ease", "draft", "drape", "alter", "draping", "compare", "nest",
    "fitting", "practice",
];

/// Whether every module of the core names only modules that stand before it.
///
/// # Errors
///
/// Each file that names a later module, or a module that has no place in the order.
pub(crate) fn check(core: &Path) -> Step {
    let mut faults = Vec::new();
    let declared = std::fs::read_to_string(core.join("lib.rs")).map_err(|error| error.to_string())?;
    let public = declared.lines().filter_map(|line| line.strip_prefix("pub mod ")?.strip_suffix(';'));
    faults.extend(
        public
            .filter(|module| rank(module).is_none())
            .map(|module| format!("the module {module} has no place in the order")),
    );
    for (own, module) in ORDER.iter().enumerate() {
        for file in sources(core, module)? {
            let text = std::fs::read_to_string(&file).map_err(|error| error.to_string())?;
            let later = named(&text).filter(|name| rank(name).is_some_and(|rank| rank > own));
            faults.extend(
                later.map(|name| format!("{} names {name}, which stands above {module}", file.display())),
            );
        }
    }
    if faults.is_empty() { Ok(()) } else { Err(faults.join("\n")) }
}

fn rank(module: &str) -> Option<usize> {
    ORDER.iter().position(|known| *known == module)
}

/// The files of a module: its own and those of its folder.
fn sources(core: &Path, module: &str) -> Result<Vec<std::path::PathBuf>, String> {
    let own = core.join(format!("{module}.rs"));
    let mut found: Vec<_> = own.exists().then_some(own).into_iter().collect();
    let mut folders: Vec<_> = Some(core.join(module)).into_iter().filter(|folder| folder.is_dir()).collect();
    while let Some(folder) = folders.pop() {
        for entry in files(&folder)? {
            if entry.is_dir() { folders.push(entry) } else { found.push(entry) }
        }
    }
    Ok(found)
}

/// The names behind `crate::` in a text, one by one or in braces.
fn named(text: &str) -> impl Iterator<Item = &str> {
    let is_part = |c: char| c.is_alphanumeric() || c == '_';
    text.match_indices("crate::").flat_map(move |(at, path)| {
        let rest = &text[at + path.len()..];
        let list = rest.strip_prefix('{').and_then(|rest| rest.split(';').next());
        let names: Vec<&str> = match list {
            // What follows a colon is a name inside the module.
            Some(list) => list
                .split([',', '{', '}'])
                .map(|each| each.trim().split("::").next().unwrap_or_default())
                .collect(),
            None => vec![rest.split(|c| !is_part(c)).next().unwrap_or_default()],
        };
        names
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_module_that_names_a_later_one_is_found() {
        let folder = std::env::temp_dir().join(format!("yardwand-order-{}", std::process::id()));
        std::fs::create_dir_all(folder.join("pattern")).unwrap();
        std::fs::write(folder.join("lib.rs"), "pub mod pattern;\npub mod draft;\n").unwrap();
        std::fs::write(folder.join("draft.rs"), "use crate::pattern::Piece;\n").unwrap();
        std::fs::write(folder.join("pattern/mod.rs"), "use crate::{Style, geometry::Curve};\n").unwrap();
        assert_eq!(check(&folder), Ok(()));
        std::fs::write(folder.join("pattern/piece.rs"), "use crate::{Style, draft::Direct};\n").unwrap();
        let error = check(&folder).unwrap_err();
        assert!(error.ends_with("names draft, which stands above pattern"), "{error}");
        std::fs::write(folder.join("pattern/piece.rs"), "fn f() { crate::alter::apply() }\n").unwrap();
        assert!(check(&folder).is_err());
        std::fs::remove_dir_all(&folder).unwrap();
    }
}
