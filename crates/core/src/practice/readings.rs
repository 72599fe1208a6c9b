//! Her figures and level lines against the pattern she has on, measured.

use std::collections::HashMap;

use serde::{Deserialize, Serialize};

use super::chance::Chance;
use super::exercise::Rules;
use super::hidden::Differs;
use crate::body::Body;
use crate::compare::compare;
use crate::ease::ease_set;
use crate::fitting::{BalanceLine, LevelOff, Off, Station};
use crate::pattern::{Garment, Pattern, PatternMeasure, WornSide, measure};
use crate::{Shown, Style, Unit};

/// A figure of hers beside the pattern's.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PracticeReading {
    /// The figure.
    pub figure: PatternMeasure,
    /// Its name.
    pub name: String,
    /// Her body with its ease.
    pub hers: Shown,
    /// The pattern that is on her.
    pub pattern: Shown,
    /// Hers less the pattern's.
    pub off: Shown,
}

/// What was measured of her.
pub(super) struct Card {
    /// As it is shown.
    pub(super) readings: Vec<PracticeReading>,
    /// The same as evidence.
    pub(super) figures: HashMap<PatternMeasure, Off>,
    /// The one of them that was read wrong.
    pub(super) misread: Option<PatternMeasure>,
}

/// A figure before it is written down.
struct Row {
    figure: PatternMeasure,
    name: String,
    /// What still fits, in millimetres.
    tolerance: f64,
    /// Hers less the pattern's, in millimetres.
    off: f64,
}

impl Row {
    fn fits(&self) -> bool {
        self.off.abs() <= self.tolerance
    }
}

/// Her figures beside the pattern's, as far as they were taken: some of what is off, and some of what fits. One that fits may
/// have been read wrong.
pub(super) fn card(
    body: &Body,
    worn: &Pattern,
    differs: &Differs,
    rules: &Rules,
    chance: &mut Chance,
    style: Style,
) -> Option<Card> {
    let pattern = measure(worn);
    // Which figures are compared, and within what they fit: her own readings are not asked.
    let compared = compare(body, &pattern, ease_set("standard", Unit::Cm)?, style).rows;
    let row = |row: crate::compare::Difference| Row {
        figure: row.figure,
        name: row.name,
        tolerance: row.tolerance,
        off: differs.of(row.figure),
    };
    let mut rows: Vec<Row> = compared.into_iter().filter(|row| row.body.is_some()).map(row).collect();
    chance.shuffle(&mut rows);
    let (fitting, mut off): (Vec<Row>, Vec<Row>) = rows.into_iter().partition(Row::fits);
    off.truncate(off.len().div_ceil(rules.off_one_in));
    let mut fitting: Vec<Row> = fitting.into_iter().take(rules.fitting).collect();
    let mut misread = None;
    if chance.percent(rules.misread)
        && let Some(wrong) = fitting.first_mut()
    {
        let error = chance.between(2.0, 3.0) * wrong.tolerance;
        wrong.off += if chance.percent(50.0) { error } else { -error };
        misread = Some(wrong.figure);
    }
    let mut rows: Vec<Row> = off.into_iter().chain(fitting).collect();
    rows.sort_by_key(|row| row.figure);
    let reading = |row: &Row| {
        let is = pattern.get(row.figure)?;
        // No tape says more than a millimetre.
        let hers = (is + row.off).round();
        Some(PracticeReading {
            figure: row.figure,
            name: row.name.clone(),
            hers: style.show(hers),
            pattern: style.show(is),
            off: style.difference(hers, is),
        })
    };
    Some(Card {
        readings: rows.iter().filter_map(reading).collect(),
        figures: rows.iter().map(|row| (row.figure, Off { mm: row.off, tolerance: row.tolerance })).collect(),
        misread,
    })
}

/// The level line of a garment at its four stations: it rises where the pattern is too short above it, against the middle of
/// the four, which hangs free.
pub(super) fn levels(garment: Garment, differs: &Differs) -> Vec<LevelOff> {
    use PatternMeasure as F;
    let (line, [front, back], sides) = match garment {
        Garment::Skirt => (
            BalanceLine::Hip,
            [F::SkirtCentreFront, F::SkirtCentreBack],
            [F::SkirtSideFront, F::SkirtSideBack],
        ),
        _ => (BalanceLine::Waist, [F::FrontLength, F::CentreBack], [F::SideFront, F::SideBack]),
    };
    let side = |side: WornSide| differs.on(side, sides[0]).midpoint(differs.on(side, sides[1]));
    let stations = [
        (Station::CentreFront, differs.of(front)),
        (Station::Left, side(WornSide::Left)),
        (Station::Right, side(WornSide::Right)),
        (Station::CentreBack, differs.of(back)),
    ];
    let mut heights = stations.map(|(_, mm)| mm);
    heights.sort_by(f64::total_cmp);
    let free = heights[1].midpoint(heights[2]);
    let off = |(station, mm): (Station, f64)| LevelOff { line: Some(line), station, mm: (mm - free).round() };
    stations.map(off).into()
}
