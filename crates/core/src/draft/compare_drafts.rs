//! Two drafts of one body side by side: where they differ.

use serde::{Deserialize, Serialize};

use super::Draft;
use crate::pattern::{PatternMeasure, measure};
use crate::{Shown, Style};

/// Differences up to this are not worth a line, in millimetres (handbook: `blocks.md`, section 3).
const WORTH_TELLING: f64 = 5.0;

/// A figure in which two drafts differ.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DraftDifference {
    /// The figure.
    pub figure: PatternMeasure,
    /// Its name.
    pub name: String,
    /// In the one draft.
    pub one: Shown,
    /// In the other.
    pub other: Shown,
    /// The one less the other.
    pub difference: Shown,
}

/// Every figure in which two drafts differ by more than 5 mm, the widest first.
pub fn draft_differences(one: &Draft, other: &Draft, style: Style) -> Vec<DraftDifference> {
    let others = measure(&other.pattern);
    let mut found: Vec<DraftDifference> = measure(&one.pattern)
        .iter()
        .filter_map(|(figure, mm)| {
            let beside = others.get(figure)?;
            ((mm - beside).abs() > WORTH_TELLING).then(|| DraftDifference {
                figure,
                name: figure.name().to_owned(),
                one: style.show(mm),
                other: style.show(beside),
                difference: style.difference(mm, beside),
            })
        })
        .collect();
    found.sort_by(|a, b| b.difference.mm.abs().total_cmp(&a.difference.mm.abs()));
    found
}
