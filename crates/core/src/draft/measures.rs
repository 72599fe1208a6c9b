//! What a draft measures, how sure each figure is, and which readings it hangs on.

use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};

use super::{Draft, Method, draft};
use crate::body::{Body, DoubtfulReading, carried, doubtful_readings};
use crate::pattern::{PatternMeasure, measure};
use crate::{Shown, Style};

/// So many readings are named beside a figure, those that hold most of its doubt.
const NAMED: usize = 3;
/// A reading that holds this share of a figure's doubt is worth naming.
const WORTH_NAMING: f64 = 0.05;

/// A figure of a draft.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DraftMeasure {
    /// The figure.
    pub figure: PatternMeasure,
    /// Its name.
    pub name: String,
    /// As it is drawn.
    pub measure: Shown,
    /// How sure it is, by the spreads of the readings. None where it hangs on none.
    pub spread: Option<Shown>,
    /// The readings it hangs on, the heaviest first.
    pub hangs_on: Vec<DoubtfulReading>,
}

/// Every figure of a draft of this body, with the spreads of its readings carried through the construction.
pub fn draft_measures(drawn: &Draft, body: &Body, method: &Method, style: Style) -> Vec<DraftMeasure> {
    let figures = |body: &Body| -> BTreeMap<PatternMeasure, f64> {
        draft(body, method, style)
            .map_or_else(|_| BTreeMap::new(), |draft| measure(&draft.pattern).iter().collect())
    };
    let carried = carried(body, figures);
    let of = |(figure, mm): (PatternMeasure, f64)| {
        let doubt = carried.get(&figure).filter(|doubt| doubt.mm() > 0.0);
        let mut hangs_on = doubtful_readings(body, doubt);
        hangs_on.sort_by(|a, b| b.share.total_cmp(&a.share));
        hangs_on.retain(|reading| reading.share >= WORTH_NAMING);
        hangs_on.truncate(NAMED);
        DraftMeasure {
            figure,
            name: figure.name().to_owned(),
            measure: style.show(mm),
            spread: doubt.map(|doubt| style.spread(doubt.mm())),
            hangs_on,
        }
    };
    measure(&drawn.pattern).iter().map(of).collect()
}
