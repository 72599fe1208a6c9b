//! Reading a toile: what was seen, what was pinned, what it comes from, what is decided, where a garment stands, and
//! when she comes again.

mod balance;
mod calendar;
mod calibration;
mod causes;
mod client_words;
mod course;
mod evidence;
mod hem;
mod lasting;
mod near;
mod observation;
mod offers;
mod pins;
mod places;
mod practised;
mod round;
mod sign;
mod standing;
mod sureness;
mod table;
mod weigh;

pub use balance::{Balance, BalanceLine, Levelling, Station, StationOff, read_balance};
pub use calendar::{
    Away, Booked, DatePlan, Done, Gaps, HouseCalendar, MoveSaid, PlannedVisit, Visit, VisitKind, Wish,
    move_visit, plan_dates,
};
pub use calibration::{CalibratedBy, Calibration, PlannedAndPinned, calibrate};
pub use causes::{Cause, Worn, cause, causes};
pub use client_words::client_words;
pub use course::{CoursePoint, Trend, trend, warning};
pub use evidence::{Evidence, LevelOff, Off, Tested, Tried};
pub use hem::{HemMarks, HemPlace, mark_hem};
pub use lasting::{LastingStep, lasting_steps, own_block};
pub use near::{next_door, taken_for};
pub use observation::{
    Decision, Drawn, Lie, Mark, Observation, ObservationKind, Posture, Sureness, Unsaid, is_open,
};
pub use offers::{CauseAnswer, CauseOffer, OffersTried};
pub use pins::{DEEPEST_PIN, PinAmounts, Pinned, PinnedAs, PinnedOn};
pub use places::{PlaceOnFigure, PlaceOnPiece, places, places_on, places_on_pieces};
pub use round::{CannotDecide, Marked, NotClosed, Noted, can_be_closed, can_be_decided, with_decisions};
pub use sign::{Sign, read_observation};
pub use standing::{Facts, GarmentStage, Standing, standing};
pub use sureness::{HowSure, TellApart};
pub use table::{DescribedFitting, read_fittings};
pub use weigh::{SetAside, Suggestion, Weighing, signs_met, weigh, weigh_for};
