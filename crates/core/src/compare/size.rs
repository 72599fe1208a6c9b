//! Choosing the size: by the frame or by the bust, both computed, the smaller correction leads.

use serde::{Deserialize, Serialize};

use super::{EaseSet, Plan, plan};
use crate::body::Body;
use crate::pattern::Pattern;
use crate::{Shown, Style};

/// One size of a house master: the figure it was drafted for, and the draft.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
pub struct BlockSize {
    /// The size's name in the house.
    pub label: String,
    /// The house figure.
    pub figure: Body,
    /// The draft, net.
    pub pattern: Pattern,
}

impl BlockSize {
    /// Bust less upper bust of the figure it was drafted for; 51 (a B cup) where it is not known.
    pub fn cup(&self) -> f64 {
        let known = self.figure.get("bust_girth").zip(self.figure.get("upper_bust_girth"));
        known.map_or(50.8, |(bust, upper)| bust - upper)
    }

    fn bust(&self) -> f64 {
        self.figure.get("bust_girth").unwrap_or_default()
    }
}

/// How a size is chosen.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum School {
    /// By the upper bust: frame, neck and shoulders fit, the bust is opened.
    UpperBust,
    /// By the bust: the shoulders and chest are narrowed.
    Bust,
}

/// What one school chooses and what it would need.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeChoice {
    /// The school.
    pub school: School,
    /// The size's name.
    pub size: String,
    /// Why this size.
    pub why: String,
    /// The lines it would need, by name and amount.
    pub lines: Vec<String>,
    /// All corrections added up.
    pub total: Shown,
}

/// Both schools side by side.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SizeChoices {
    /// The leading choice first.
    pub choices: Vec<SizeChoice>,
    /// Why the first leads.
    pub why: String,
}

/// Chooses a size by both schools. `None` without sizes, bust or upper bust.
pub fn choose_size(body: &Body, sizes: &[BlockSize], ease: &EaseSet, style: Style) -> Option<SizeChoices> {
    let (bust, upper) = (body.get("bust_girth")?, body.get("upper_bust_girth")?);
    let nearest = |wanted: &dyn Fn(&BlockSize) -> f64| {
        sizes.iter().min_by(|a, b| {
            let off = |size: &BlockSize| (size.bust() - wanted(size)).abs();
            // Between two sizes the smaller, for the frame.
            off(a).total_cmp(&off(b)).then(a.bust().total_cmp(&b.bust()))
        })
    };
    let by_frame = nearest(&|size| upper + size.cup())?;
    let by_bust = nearest(&|_| bust)?;
    let choice = |school, size: &BlockSize, why: String| {
        let plan = plan(body, &size.pattern, size.cup(), ease, style);
        (to_choice(school, size, why, &plan, style), plan.total.mm)
    };
    let write = |mm| style.with_unit(mm);
    let frame = choice(
        School::UpperBust,
        by_frame,
        format!(
            "Upper bust {} and the block's own cup of {} make a bust of {}.",
            write(upper),
            write(by_frame.cup()),
            write(upper + by_frame.cup())
        ),
    );
    let bust = choice(School::Bust, by_bust, format!("Bust {}, nearest in the house sizes.", write(bust)));
    let same = by_frame.label == by_bust.label;
    let [first, second] = if frame.1 <= bust.1 { [frame, bust] } else { [bust, frame] };
    let why = if same {
        format!("Both schools choose size {}.", first.0.size)
    } else {
        format!(
            "Size {} leads: its corrections add up to {}, those of size {} to {}.",
            first.0.size,
            write(first.1),
            second.0.size,
            write(second.1)
        )
    };
    Some(SizeChoices { choices: vec![first.0, second.0], why })
}

fn to_choice(school: School, size: &BlockSize, why: String, plan: &Plan, style: Style) -> SizeChoice {
    let line =
        |line: &super::PlanLine| format!("{} {} {}", line.name, style.with_unit(line.amount.mm), line.on);
    SizeChoice {
        school,
        size: size.label.clone(),
        why,
        lines: plan.lines.iter().map(line).collect(),
        total: plan.total.clone(),
    }
}
