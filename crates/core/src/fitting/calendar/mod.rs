//! The calendar: from the wanted date backwards, with the house's gaps, closed days, the client's days and what a day
//! holds; the earliest honest date where that cannot be; and moving a date with what depends on it.
//!
//! Plain dates in, plain dates out; today is told, never asked for.

mod days;
mod lateness;
mod moving;
mod planning;

use chrono::NaiveDate;
use serde::{Deserialize, Serialize};

pub use lateness::Done;
pub use moving::{MoveSaid, move_visit};
pub use planning::plan_dates;

/// What happens on a date.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum VisitKind {
    /// The tape.
    Measuring,
    /// The first toile is cut: readings must be fresh.
    Cutting,
    /// A toile is fitted.
    Toile,
    /// Basted cloth is fitted.
    ClothFitting,
    /// The last fitting.
    FinalFitting,
    /// Handed over.
    Delivery,
}

impl VisitKind {
    /// In the order they happen.
    pub const ALL: [Self; 6] =
        [Self::Measuring, Self::Cutting, Self::Toile, Self::ClothFitting, Self::FinalFitting, Self::Delivery];

    /// Whether the client comes.
    pub const fn needs_client(self) -> bool {
        !matches!(self, Self::Cutting)
    }

    /// Stable code.
    pub const fn code(self) -> &'static str {
        match self {
            Self::Measuring => "measuring",
            Self::Cutting => "cutting",
            Self::Toile => "toile",
            Self::ClothFitting => "cloth_fitting",
            Self::FinalFitting => "final_fitting",
            Self::Delivery => "delivery",
        }
    }

    /// The kind of a code.
    pub fn of(code: &str) -> Option<Self> {
        Self::ALL.into_iter().find(|kind| kind.code() == code)
    }
}

/// One date of an order: what happens, and which toile.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Visit {
    /// What happens.
    pub kind: VisitKind,
    /// Which toile; 1 for everything else.
    pub number: u32,
}

impl Visit {
    /// The trade's words.
    pub fn name(self) -> String {
        match self.kind {
            VisitKind::Measuring => "measuring".to_owned(),
            VisitKind::Cutting => "cutting the toile".to_owned(),
            VisitKind::Toile => format!("toile {}", self.number),
            VisitKind::ClothFitting => "cloth fitting".to_owned(),
            VisitKind::FinalFitting => "final fitting".to_owned(),
            VisitKind::Delivery => "delivery".to_owned(),
        }
    }
}

/// Working days from each step to the next (the house's figures; the usual ones are common practice, no source).
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gaps {
    /// From measuring to cutting the toile: drafting and altering.
    pub measuring_to_cutting: u32,
    /// From cutting it to fitting it.
    pub cutting_to_toile: u32,
    /// From one toile to the next.
    pub toile_to_toile: u32,
    /// From the last toile to basted cloth.
    pub toile_to_cloth: u32,
    /// From basted cloth to the final fitting.
    pub cloth_to_final: u32,
    /// From the final fitting to delivery.
    pub final_to_delivery: u32,
}

impl Default for Gaps {
    fn default() -> Self {
        Self {
            measuring_to_cutting: 3,
            cutting_to_toile: 2,
            toile_to_toile: 5,
            toile_to_cloth: 8,
            cloth_to_final: 7,
            final_to_delivery: 4,
        }
    }
}

impl Gaps {
    /// From one step to the one after it.
    pub(super) const fn between(&self, from: Visit, to: Visit) -> u32 {
        match (from.kind, to.kind) {
            (VisitKind::Measuring, _) => self.measuring_to_cutting,
            (VisitKind::Cutting, _) => self.cutting_to_toile,
            (VisitKind::Toile, VisitKind::Toile) => self.toile_to_toile,
            (VisitKind::Toile, _) => self.toile_to_cloth,
            (VisitKind::ClothFitting, _) => self.cloth_to_final,
            (VisitKind::FinalFitting | VisitKind::Delivery, _) => self.final_to_delivery,
        }
    }
}

/// Days from the first to the last, both of them included.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Away {
    /// The first day.
    pub from: NaiveDate,
    /// The last day.
    pub to: NaiveDate,
    /// Why, as far as it is said.
    #[serde(default)]
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub why: String,
}

impl Away {
    fn holds(&self, day: NaiveDate) -> bool {
        (self.from..=self.to).contains(&day)
    }
}

/// How the house works.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct HouseCalendar {
    /// Working days between the steps.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub gaps: Gaps,
    /// Which days of the week it is open, Monday first.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub open: [bool; 7],
    /// Closed days.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub closed: Vec<Away>,
    /// How many clients a day holds.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub a_day: u32,
    /// How old readings may be when the toile is cut, in days.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub reading_days: u32,
    /// How many days before a visit its reminder is written.
    #[cfg_attr(feature = "schema", schema(required = true))]
    pub remind_days: u32,
}

impl Default for HouseCalendar {
    fn default() -> Self {
        Self {
            gaps: Gaps::default(),
            open: [true, true, true, true, true, false, false],
            closed: Vec::new(),
            a_day: 4,
            reading_days: 60,
            remind_days: 2,
        }
    }
}

/// What a day already holds of other orders.
#[derive(Clone, Copy, Debug, PartialEq, Eq)]
pub struct Booked {
    /// The day.
    pub on: NaiveDate,
    /// How many clients come.
    pub count: u32,
}

/// What is to be planned.
#[derive(Clone, Debug, PartialEq)]
pub struct Wish {
    /// Today.
    pub today: NaiveDate,
    /// The day she wants it.
    pub wanted: NaiveDate,
    /// How many toiles are thought of.
    pub toiles: u32,
    /// The client's days away.
    pub away: Vec<Away>,
    /// What the days already hold.
    pub booked: Vec<Booked>,
    /// The day of her newest readings, where all that is needed has been measured.
    pub measured_on: Option<NaiveDate>,
    /// Visits that have been, or that stay where they are.
    pub settled: Vec<PlannedVisit>,
}

/// A visit on its date.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct PlannedVisit {
    /// Which one.
    pub visit: Visit,
    /// In the trade's words.
    pub name: String,
    /// The date.
    pub on: NaiveDate,
    /// It has been, or stays where it is.
    pub settled: bool,
}

/// The dates of an order.
#[derive(Clone, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DatePlan {
    /// The visits, first to last.
    pub visits: Vec<PlannedVisit>,
    /// Whether the wanted date can be kept.
    pub feasible: bool,
    /// The earliest honest date of delivery.
    pub earliest: NaiveDate,
    /// What breaks, what is late, what is to be done.
    pub says: Vec<String>,
}

/// A date in a sentence.
fn said(day: NaiveDate) -> String {
    day.format("%A %-d %B %Y").to_string()
}
