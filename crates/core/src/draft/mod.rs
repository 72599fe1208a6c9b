//! Drafting a block from a body.
//!
//! The direct method measures everything and trusts few proportions; the proportional method wants three
//! readings (handbook: `blocks.md`, sections 2 and 3; `check-values.md`, section 4). The sleeve is solved from
//! the finished armhole. A draft tells its construction step by step; it is never rounded, a worksheet rounds.

mod back;
mod clash;
mod compare_drafts;
mod direct;
mod dress;
mod front;
mod measures;
mod method;
mod proportional;
mod quantity;
mod ruler;
mod sheet;
mod size_table;
mod skirt;
mod sleeve;
mod split;

pub use clash::{Conflict, Contradiction};
pub use compare_drafts::{DraftDifference, draft_differences};
pub use direct::{
    Direct, DirectEase, DirectReadings, Draft, DraftError, DraftNote, draft_direct, draft_dress,
};
pub use dress::Dress;
pub use measures::{DraftMeasure, draft_measures};
pub use method::{
    Method, MethodKind, Parameter, ParameterError, ParameterUnit, draft, parameter, parameters,
};
pub use proportional::{Proportional, draft_proportional};
pub use sheet::{DraftStep, DraftStepView, StepLine, StepLineView, StepPoint, Term, step_views};
pub use size_table::{SizeTable, TableSize, size_table, size_tables};
pub(crate) use skirt::LEAST_BELOW_HIP;
pub use skirt::{Skirt, draft_skirt};
pub(crate) use sleeve::half as half_of_cap;
pub use sleeve::{SleeveMethod, with_sleeve};

use crate::body::Body;

/// Refuses with every code that a body lacks.
fn missing<'a>(body: &Body, needed: impl Iterator<Item = &'a &'a str>) -> Result<(), DraftError> {
    let missing: Vec<String> =
        needed.filter(|code| body.get(code).is_none()).map(|code| (*code).to_owned()).collect();
    if missing.is_empty() { Ok(()) } else { Err(DraftError::Missing(missing)) }
}
