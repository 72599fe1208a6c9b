//! One high hip: a skirt's waist raised at the side, on the side that is higher (handbook: `wishes.md`, section 7).

use super::skirt_waist::{RaisedAt, RaisedWaist};
use super::{About, Layer, MeasuredOn, Param};
use crate::pattern::Seam;

const PARAMS: [Param; 1] = [Param::amount(
    "Higher at the side",
    MeasuredOn::PerSide,
    (-25.0, 45.0),
    "How much longer the skirt becomes from the hip up to the waist at the side. Negative lowers it there.",
)];

const ABOUT: About = About {
    code: "high_hip",
    name: "High hip",
    why: "One hip stands higher, so that the skirt drags up on that side and its hem rises; or both curve more than the block.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::Side],
    wants: "the waist is raised on the whole front and back of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised at the side.
pub(super) const HIGH_HIP: RaisedWaist = RaisedWaist { about: &ABOUT, at: RaisedAt::Side };
