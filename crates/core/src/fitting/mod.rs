//! Reading a toile: what was seen, what was pinned, what is decided, and where a garment stands.

mod observation;
mod standing;

pub use observation::{
    Decision, Mark, Observation, ObservationKind, Pinned, PinnedAs, PinnedOn, PlaceOnFigure, is_open, places,
    places_on,
};
pub use standing::{Facts, GarmentStage, Standing, standing};
