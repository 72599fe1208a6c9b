//! Darts that lie elsewhere for the time of an alteration, and go back afterwards: an elbow dart lies flat, a pinch at the back
//! armhole lies in the shoulder. What alters a sleeve or fits a back then knows of one kind of sleeve and one kind of back.

use std::borrow::Cow;

use super::{AlterError, Alteration, Altered, back_pinch, elbow_dart};
use crate::pattern::Pattern;

/// One way of setting a dart aside.
struct SetAside {
    /// The pattern without the dart for this alteration; none where there is nothing to set aside.
    clear: fn(&dyn Alteration, &Pattern) -> Option<Pattern>,
    /// What was done to that, with the dart again; of the pattern as it was before and as it was clear.
    back_in: fn(Altered, &Pattern, &Pattern) -> Result<Altered, AlterError>,
}

const ALL: [SetAside; 2] = [
    SetAside { clear: |_, pattern| elbow_dart::laid_flat(pattern), back_in: elbow_dart::drawn_again },
    SetAside { clear: back_pinch::in_the_shoulder, back_in: back_pinch::turned_back },
];

/// Alters a pattern with everything set aside that lies elsewhere for this alteration.
///
/// # Errors
///
/// Those of the alteration, or why a dart cannot go back.
pub(super) fn alter_without(
    alteration: &dyn Alteration,
    pattern: &Pattern,
    alter: impl Fn(&Pattern) -> Result<Altered, AlterError>,
) -> Result<Altered, AlterError> {
    let mut taken: Vec<(&SetAside, Pattern)> = Vec::new();
    for way in &ALL {
        let now = taken.last().map_or(pattern, |(_, clear)| clear);
        if let Some(clear) = (way.clear)(alteration, now) {
            taken.push((way, clear));
        }
    }
    let mut done = alter(taken.last().map_or(pattern, |(_, clear)| clear))?;
    // What was set aside last goes back first.
    while let Some((way, clear)) = taken.pop() {
        done = (way.back_in)(done, taken.last().map_or(pattern, |(_, before)| before), &clear)?;
    }
    Ok(done)
}

/// The pattern as an alteration finds it, with everything set aside.
pub(super) fn cleared<'a>(alteration: &dyn Alteration, pattern: &'a Pattern) -> Cow<'a, Pattern> {
    ALL.iter().fold(Cow::Borrowed(pattern), |now, way| match (way.clear)(alteration, &now) {
        Some(clear) => Cow::Owned(clear),
        None => now,
    })
}
