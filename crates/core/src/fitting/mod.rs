//! Reading a toile: what was seen, what was pinned, what it comes from, what is decided, where a garment stands, and
//! when she comes again.

mod balance;
mod calendar;
mod calibration;
mod causes;
mod client_words;
mod course;
mod hem;
mod lasting;
mod observation;
mod pins;
mod places;
mod sign;
mod standing;
mod weigh;

pub use balance::{Balance, BalanceLine, Levelling, Station, StationOff, read_balance};
pub use calendar::{
    Away, Booked, DatePlan, Done, Gaps, HouseCalendar, MoveSaid, PlannedVisit, Visit, VisitKind, Wish,
    move_visit, plan_dates,
};
pub use calibration::{CalibratedBy, Calibration, PlannedAndPinned, calibrate};
pub use causes::{Cause, cause, causes};
pub use client_words::client_words;
pub use course::{CoursePoint, Trend, trend, warning};
pub use hem::{HemMarks, HemPlace, mark_hem};
pub use lasting::{LastingStep, lasting_steps, own_block};
pub use observation::{Decision, Drawn, Lie, Mark, Observation, ObservationKind, Posture, Sureness, is_open};
pub use pins::{DEEPEST_PIN, PinAmounts, Pinned, PinnedAs, PinnedOn};
pub use places::{PlaceOnFigure, PlaceOnPiece, places, places_on, places_on_pieces};
pub use sign::{Sign, read_observation};
pub use standing::{Facts, GarmentStage, Standing, standing};
pub use weigh::{
    Evidence, Off, OffersTried, SetAside, Suggestion, Tried, Weighing, signs_met, weigh, weigh_for,
};
