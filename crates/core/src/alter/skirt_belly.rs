//! The belly of a skirt: its waist raised at the centre front (handbook: `wishes.md`, section 7).

use super::skirt_waist::{RaisedAt, RaisedWaist};
use super::{About, Layer, MeasuredOn, Param};
use crate::pattern::Seam;

const PARAMS: [Param; 1] = [Param::amount(
    "Higher at the centre front",
    MeasuredOn::Here,
    (-20.0, 60.0),
    "How much longer the centre front becomes, up from the waist. Negative lowers it: a flat belly.",
)];

const ABOUT: About = About {
    code: "skirt_belly",
    name: "Belly of a skirt",
    why: "The belly lifts the front: the hem rises there and the side seams swing forward.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::CentreFront],
    wants: "the waist is raised on the whole front of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised at the centre front.
pub(super) const SKIRT_BELLY: RaisedWaist = RaisedWaist { about: &ABOUT, at: RaisedAt::Front };
