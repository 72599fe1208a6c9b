//! The rise of a skirt: its waist higher or lower all round, between waist and hip alone (handbook: `fitting.md`, section 3).

use super::skirt_waist::{RaisedAt, RaisedWaist};
use super::{About, Layer, MeasuredOn, Param};
use crate::pattern::Seam;

const PARAMS: [Param; 1] = [Param::amount(
    "Higher all round",
    MeasuredOn::Here,
    (-40.0, 40.0),
    "How much longer the skirt becomes from the hip up to the waist, all round. Negative lowers the waist.",
)];

const ABOUT: About = About {
    code: "skirt_rise",
    name: "Rise of a skirt",
    why: "From waist to hip she is shorter or longer than the skirt, all round: a ring of cloth sits under the band, or it rides down.",
    params: &PARAMS,
    seams: &[Seam::Waist],
    wants: "the waist is raised on the whole front and back of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised all round.
pub(super) const SKIRT_RISE: RaisedWaist = RaisedWaist { about: &ABOUT, at: RaisedAt::Round };
