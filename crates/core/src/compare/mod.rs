//! A client against a block: ease, differences, the size to start from, and the plan.

mod difference;
mod ease;
mod plan;
mod size;

pub use difference::{Comparison, Difference, DifferenceGrade, compare};
pub use ease::{EaseSet, ease_set, ease_sets};
pub use plan::{DroppedLine, Plan, PlanLine, Prediction, plan};
pub use size::{BlockSize, School, SizeChoice, SizeChoices, choose_size};
