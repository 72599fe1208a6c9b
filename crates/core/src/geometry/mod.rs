//! Plane geometry: curves, circles, roots and the bending of a line. It knows no pattern and no body.
//!
//! Millimetres throughout; y runs downwards, so that a turn by a positive angle is clockwise to the eye.

mod bend;
mod beside;
mod circles;
mod curve;
mod house_curve;
mod plane;
mod reshape;
mod root;
mod square_end;
mod stretches;

pub(crate) use bend::{bend, reach_within};
pub(crate) use beside::beside;
pub(crate) use circles::{circles_meet, circles_miss_by, round_about};
pub use curve::{Curve, quarter_turn, turn_degrees};
pub(crate) use curve::{FURTHEST, SAME_POINT, closed_path, is_on_the_table};
pub use house_curve::{HouseCurve, house_curve};
pub(crate) use house_curve::{hip_curve, tangents_meet};
pub(crate) use plane::short_svg;
pub use plane::{Pt, ViewBox};
pub(crate) use reshape::{bent, fading};
pub use reshape::{reshape_at, reshape_ends, reshape_start};
pub(crate) use root::root;
pub(crate) use square_end::{NO_CORNER, with_end_direction};
pub(crate) use stretches::Stretches;
