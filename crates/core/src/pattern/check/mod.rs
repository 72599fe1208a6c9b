//! The "before you cut" list: nine rules, each with figures, each able to fail, each fault with its place.

mod corners;
mod cutting;
mod darts;
mod girths;
mod labels;
mod outline;
mod seams;

use kurbo::Point;
use serde::{Deserialize, Serialize};

use super::piece::{Pattern, PieceKind, WornSide};
use crate::Style;
use crate::body::measurement;
use crate::geometry::Pt;

pub use cutting::check_cut_lines;
pub use darts::{WAIST_DART_LIMIT, too_wide_for_one};
pub use labels::{LabelFacts, check_labels};
pub use outline::KINK_LIMIT;
pub use seams::CAP_PLAY;

/// Which rule.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CheckCode {
    /// Front and back side seam.
    SideSeams,
    /// Front and back shoulder.
    Shoulders,
    /// Cap and armhole, within the sleeve's rule.
    CapEase,
    /// The sleeve's own long seam.
    SleeveSeam,
    /// Centre and side panel of a divided front.
    PrincessSeam,
    /// Upper part and band of a front or back divided under the bust.
    UnderBustSeam,
    /// Front and back of a sleeve in one with the body, over the arm and under it.
    SleeveInOne,
    /// A facing and the edge it lies against.
    Facings,
    /// A band, a collar stand or a strip and the edge it is sewn to.
    SewnOn,
    /// Neckline, waist and hem square to the centre line.
    CentreSquare,
    /// No peak or dip where the shoulders join.
    ShoulderCorners,
    /// No peak or dip under the arm.
    UnderarmCorners,
    /// No peak or dip of the hem at the side.
    HemCorners,
    /// No peak or dip of a skirt's waist at the side.
    WaistCorners,
    /// No peak or dip of a seam under the bust at the side.
    UnderBustCorners,
    /// No peak or dip of an upper edge at the side.
    UpperEdgeCorners,
    /// No peak or dip of the edge of a sleeve in one with the body, over the arm and under it.
    SleeveEdgeCorners,
    /// Legs equal, point backed off, mouth not too wide.
    Darts,
    /// Closed, simple, smooth.
    Outline,
    /// Notches that meet fall together.
    Notches,
    /// Side seams lean alike.
    SideBalance,
    /// Everything a piece must say is on it.
    Labels,
    /// The cutting line stands its allowance off.
    CutLine,
    /// Bust, waist and hip are what was asked.
    Girths,
    /// No reading was estimated.
    Estimated,
}

impl CheckCode {
    /// The number of the rule on the "before you cut" list, 1 to 9.
    pub const fn rule(self) -> u8 {
        match self {
            Self::SideSeams
            | Self::Shoulders
            | Self::CapEase
            | Self::SleeveSeam
            | Self::PrincessSeam
            | Self::UnderBustSeam
            | Self::SleeveInOne
            | Self::Facings
            | Self::SewnOn => 1,
            Self::CentreSquare
            | Self::ShoulderCorners
            | Self::UnderarmCorners
            | Self::HemCorners
            | Self::WaistCorners
            | Self::UnderBustCorners
            | Self::UpperEdgeCorners
            | Self::SleeveEdgeCorners => 2,
            Self::Darts => 3,
            Self::Outline => 4,
            Self::Notches => 5,
            Self::SideBalance => 6,
            Self::Labels | Self::Estimated => 7,
            Self::CutLine => 8,
            Self::Girths => 9,
        }
    }

    /// What the rule is about: its heading on the list.
    pub const fn heading(self) -> &'static str {
        match self.rule() {
            1 => "Seams that join",
            2 => "Right angles",
            3 => "Darts",
            4 => "Outline",
            5 => "Notches",
            6 => "Side seams balanced",
            7 => "Labelled",
            8 => "Cutting line",
            _ => "Girths",
        }
    }

    /// The rule in the trade's words.
    pub const fn name(self) -> &'static str {
        match self {
            Self::SideSeams => "Side seams are equal",
            Self::Shoulders => "Shoulders are equal",
            Self::CapEase => "The cap eases into the armhole",
            Self::SleeveSeam => "The sleeve seam closes",
            Self::PrincessSeam => "The panels walk",
            Self::UnderBustSeam => "Upper part and band walk",
            Self::SleeveInOne => "Seams over and under the arm walk",
            Self::Facings => "Facings fit their edge",
            Self::SewnOn => "What is sewn on fits its edge",
            Self::CentreSquare => "Square at the centre",
            Self::ShoulderCorners => "Neckline and armhole run on over the shoulder",
            Self::UnderarmCorners => "The armhole runs on under the arm",
            Self::HemCorners => "The hem runs on at the side",
            Self::WaistCorners => "The waist runs on at the side",
            Self::UnderBustCorners => "The seam under the bust runs on at the side",
            Self::UpperEdgeCorners => "The upper edge runs on at the side",
            Self::SleeveEdgeCorners => "The sleeve's edge runs on over and under the arm",
            Self::Darts => "Darts sew flat",
            Self::Outline => "The outline is clean",
            Self::Notches => "Notches fall together",
            Self::SideBalance => "Side seams balance",
            Self::Labels => "Every piece is labelled",
            Self::CutLine => "The cutting line stands off",
            Self::Girths => "Girths are what was asked",
            Self::Estimated => "Everything is measured",
        }
    }
}

/// Where a rule does not hold.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Fault {
    /// On which piece.
    pub piece: PieceKind,
    /// Where on it.
    pub at: Pt,
    /// What is wrong there.
    pub says: String,
}

impl Fault {
    fn new(piece: PieceKind, at: Point, says: impl Into<String>) -> Self {
        Self { piece, at: at.into(), says: says.into() }
    }
}

/// One rule's verdict.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Check {
    /// Which rule.
    pub code: CheckCode,
    /// Its number on the list, 1 to 9.
    pub rule: u8,
    /// What that rule is about.
    pub heading: String,
    /// The rule in the trade's words.
    pub name: String,
    /// Whether it holds.
    pub passed: bool,
    /// The figures, as a sentence.
    pub says: String,
    /// Where it does not hold.
    pub faults: Vec<Fault>,
}

impl Check {
    /// A rule holds where it has no fault. `says` gives the figures.
    fn new(code: CheckCode, says: String, faults: Vec<Fault>) -> Self {
        Self {
            code,
            rule: code.rule(),
            heading: code.heading().to_owned(),
            name: code.name().to_owned(),
            passed: faults.is_empty(),
            says,
            faults,
        }
    }

    /// The same, the faults being what there is to say.
    fn of_faults(code: CheckCode, otherwise: &str, faults: Vec<Fault>) -> Self {
        let says = if faults.is_empty() {
            otherwise.to_owned()
        } else {
            faults.iter().map(|fault| fault.says.as_str()).collect::<Vec<_>>().join("; ")
        };
        Self::new(code, says, faults)
    }
}

/// Every rule that applies to the pieces there are, in the order a cutter looks. The seventh, on labels,
/// needs to know for whom and when: [`check_labels`].
pub fn check_pattern(pattern: &Pattern, style: Style) -> Vec<Check> {
    if !pattern.is_sided() {
        return check_worn(pattern, pattern, style);
    }
    // What is worn on one side is sewn together on that side; a rule told alike on both is told once.
    let mut checks: Vec<Check> = Vec::new();
    for side in WornSide::BOTH {
        for check in check_worn(&pattern.worn_on(side), pattern, style) {
            if !checks.iter().any(|told| told.code == check.code && told.says == check.says) {
                let name = format!("{}, {}", check.name, side.name());
                checks.push(Check { name, ..check });
            }
        }
    }
    checks
}

/// The rules for what is worn on one side of a whole pattern, or for all of one whose sides are alike.
fn check_worn(pattern: &Pattern, whole: &Pattern, style: Style) -> Vec<Check> {
    let mut checks = seams::joins(pattern, whole, style);
    checks.extend(corners::corners(pattern, style));
    checks.push(seams::notches(pattern, style));
    checks.push(darts::darts(pattern, style));
    checks.push(outline::outline(pattern, style));
    checks.push(cutting::cutting(pattern, style));
    checks.extend(girths::girths(pattern, style));
    checks.extend(estimates(pattern));
    checks
}

/// Readings that were estimated for the draft: in the way of cutting until they are measured.
fn estimates(pattern: &Pattern) -> Option<Check> {
    let piece = pattern.pieces.first().filter(|_| !pattern.estimated.is_empty())?;
    let names = pattern
        .estimated
        .iter()
        .map(|code| measurement(code).map_or_else(|| code.clone(), |row| row.name.to_lowercase()));
    let names: Vec<String> = names.collect();
    let says =
        format!("{} is estimated: measure it and draft the block anew before cutting", names.join(" and "));
    let at = piece.grain.0.midpoint(piece.grain.1);
    Some(Check::of_faults(CheckCode::Estimated, "", vec![Fault::new(piece.kind, at, says)]))
}
