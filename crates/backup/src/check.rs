//! Looking a house over where it stands: what refers to nothing, what cannot be read, what a recipe makes of its block today.

use std::fmt;
use std::io::Cursor;

use image::ImageReader;
use serde_json::Value;
use yardwand_core::Style;
use yardwand_core::alter::{Recipe, make};
use yardwand_core::pattern::Pattern;
use yardwand_store::{LookedOver, Store, StoreError};

use crate::Result;

/// A version's line that lies further than this from where its recipe draws it today has moved, in millimetres.
const MOVED: f64 = 0.01;

/// Something that is not as it should be.
#[derive(Clone, Debug, PartialEq)]
pub enum Finding {
    /// Rows refer to one that is not there.
    Reference {
        /// How many.
        rows: u64,
        /// The table they are in.
        table: String,
        /// By this column.
        column: String,
        /// The table they refer to.
        to: String,
    },
    /// A block, pattern or version cannot be read.
    Unreadable {
        /// What it is, with its number.
        what: String,
    },
    /// A photograph that nothing shows.
    Orphaned {
        /// Its number.
        photograph: u64,
    },
    /// A photograph whose bytes are no picture of the size that is kept with it.
    NoPicture {
        /// Its number.
        photograph: u64,
    },
    /// The recipe of a version draws today something else than what was frozen.
    Moved {
        /// The pattern.
        pattern: u64,
        /// Its version.
        version: u32,
        /// The furthest any figure of it has moved, in millimetres; nothing where it has other pieces or lines.
        by: Option<f64>,
    },
}

impl Finding {
    /// What is frozen is what was cut, and stays: a recipe that a newer program draws otherwise is worth knowing, and no damage.
    pub const fn is_damage(&self) -> bool {
        !matches!(self, Self::Moved { .. })
    }
}

impl fmt::Display for Finding {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match self {
            Self::Reference { rows, table, column, to } => {
                write!(f, "{rows} rows of {table} refer by {column} to rows of {to} that are not there")
            }
            Self::Unreadable { what } => write!(f, "{what} cannot be read"),
            Self::Orphaned { photograph } => {
                write!(f, "photograph {photograph} belongs to no round and no note")
            }
            Self::NoPicture { photograph } => {
                write!(f, "photograph {photograph} is no picture of the size kept with it")
            }
            Self::Moved { pattern, version, by: Some(by) } => {
                write!(
                    f,
                    "version {version} of pattern {pattern}: its recipe draws it up to {by:.2} mm elsewhere today"
                )
            }
            Self::Moved { pattern, version, by: None } => {
                write!(f, "version {version} of pattern {pattern}: its recipe draws other lines today")
            }
        }
    }
}

/// Looks a house over. Nothing is changed.
///
/// # Errors
///
/// [`crate::BackupError::Store`] where the database does not answer.
pub async fn check_house(store: &Store) -> Result<Vec<Finding>> {
    let mut found: Vec<Finding> = store
        .broken_references()
        .await?
        .into_iter()
        .map(|(r, rows)| Finding::Reference { rows, table: r.table, column: r.column, to: r.to_table })
        .collect();
    for id in store.numbers(LookedOver::Blocks).await? {
        readable(store.block(id).await, || format!("block {id}"), &mut found)?;
    }
    let style = store.house().await?.style;
    for id in store.numbers(LookedOver::Patterns).await? {
        let Some(pattern) = readable(store.pattern(id).await, || format!("pattern {id}"), &mut found)? else {
            continue;
        };
        for versions in [store.versions(id).await, store.withdrawn_versions(id).await] {
            let read = readable(versions, || format!("a version of pattern {id}"), &mut found)?;
            for version in read.unwrap_or_default() {
                let (number, recipe, frozen) = (version.version, version.recipe, version.pattern);
                if !pattern.stands_alone()
                    && let Some(by) = moved(&pattern.block, &recipe, &frozen, style)
                {
                    found.push(Finding::Moved { pattern: id, version: number, by });
                }
            }
        }
    }
    found.extend(
        store.orphaned_photographs().await?.into_iter().map(|photograph| Finding::Orphaned { photograph }),
    );
    for photograph in store.numbers(LookedOver::Photographs).await? {
        let (file, size) = store.photograph_file(photograph).await?;
        if size_of(&file) != Some(size) {
            found.push(Finding::NoPicture { photograph });
        }
    }
    Ok(found)
}

/// What could be read; what is kept in another shape than this program's is a finding.
fn readable<T>(
    read: std::result::Result<T, StoreError>,
    what: impl Fn() -> String,
    found: &mut Vec<Finding>,
) -> Result<Option<T>> {
    match read {
        Ok(read) => Ok(Some(read)),
        Err(StoreError::Corrupt { .. }) => {
            found.push(Finding::Unreadable { what: what() });
            Ok(None)
        }
        Err(error) => Err(error.into()),
    }
}

/// How far a version lies from what its recipe makes of its block today; nothing where it lies there.
fn moved(block: &Pattern, recipe: &Recipe, frozen: &Pattern, style: Style) -> Option<Option<f64>> {
    let today = make(block, recipe, style).pattern;
    let (today, frozen) = (serde_json::to_value(&today).ok()?, serde_json::to_value(frozen).ok()?);
    match furthest(&today, &frozen) {
        Some(by) if by <= MOVED => None,
        by => Some(by),
    }
}

/// The greatest difference between two numbers in the same place of two documents; nothing where they differ otherwise.
fn furthest(a: &Value, b: &Value) -> Option<f64> {
    match (a, b) {
        (Value::Number(a), Value::Number(b)) => Some((a.as_f64()? - b.as_f64()?).abs()),
        (Value::Array(a), Value::Array(b)) if a.len() == b.len() => {
            a.iter().zip(b).try_fold(0.0, |so_far, (a, b)| furthest(a, b).map(|far| far.max(so_far)))
        }
        (Value::Object(a), Value::Object(b)) if a.len() == b.len() => {
            a.iter().try_fold(0.0, |so_far, (name, a)| furthest(a, b.get(name)?).map(|far| far.max(so_far)))
        }
        (a, b) => (a == b).then_some(0.0),
    }
}

/// The size of a picture that is whole, in pixels.
fn size_of(bytes: &[u8]) -> Option<(u32, u32)> {
    let picture = ImageReader::new(Cursor::new(bytes)).with_guessed_format().ok()?.decode().ok()?;
    Some((picture.width(), picture.height()))
}

#[cfg(test)]
mod tests {
    use super::*;
    use serde_json::json;

    #[test]
    fn the_furthest_figure_counts_and_another_shape_is_another_thing() {
        let a = json!({ "p": [1.0, 2.0, { "x": 3.0 }], "name": "front" });
        assert_eq!(furthest(&a, &a), Some(0.0));
        assert_eq!(furthest(&a, &json!({ "p": [1.0, 2.5, { "x": 2.0 }], "name": "front" })), Some(1.0));
        for other in [
            json!({ "p": [1.0, 2.0], "name": "front" }),
            json!({ "p": [1.0, 2.0, { "x": 3.0 }], "name": "back" }),
        ] {
            assert_eq!(furthest(&a, &other), None);
        }
    }
}
