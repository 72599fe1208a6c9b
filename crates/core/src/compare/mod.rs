//! A client against a block: differences and their causes, the size to start from, and the plan.

mod card;
mod carry_out;
mod difference;
mod doubt;
mod explain;
mod linear;
mod order;
mod plan;
mod settled;
mod size;
mod trousers;
mod wishes;

pub use card::{card_figures, card_needs};
pub use difference::{Comparison, Difference, DifferenceGrade, compare, compare_fitted};
pub use doubt::PlanDoubt;
pub use explain::{Explanation, explain};
pub use order::{OrderError, PlanChanges};
pub use plan::{DroppedLine, Plan, PlanLine, Prediction, plan, plan_with_spread};
pub use settled::{Fitting, Settled};
pub use size::{
    BlockSize, BlockSource, CUP_OVER, SizeChoice, SizeChoices, SizeSchool, USUAL_CUP_OVER, choose_size,
};
pub use trousers::WISHED;
pub use wishes::{Wish, wishes, wishes_of, with_wishes};
