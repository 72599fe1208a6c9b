//! Drafting a block from a body.
//!
//! The direct method measures everything and trusts few proportions (handbook: `blocks.md`,
//! section 2). The draft itself is never rounded; a worksheet rounds.

mod back;
mod direct;
mod front;
mod house_curve;
mod ruler;
mod split;

pub use direct::{
    Direct, DirectEase, DirectReadings, Draft, DraftError, DraftNote, DraftPoint, draft_direct,
};
pub(crate) use house_curve::tangents_meet;
pub use house_curve::{HouseCurve, house_curve};
