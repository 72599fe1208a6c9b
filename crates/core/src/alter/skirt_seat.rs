//! The seat of a skirt: its waist raised at the centre back for a full seat, lowered for a hollow back (handbook: `wishes.md`,
//! section 7).

use super::skirt_waist::{RaisedAt, RaisedWaist};
use super::{About, Layer, MeasuredOn, Param};
use crate::pattern::Seam;

const PARAMS: [Param; 1] = [Param::amount(
    "Higher at the centre back",
    MeasuredOn::Here,
    (-40.0, 60.0),
    "How much longer the centre back becomes, up from the waist. Negative lowers it: a hollow or sway back.",
)];

const ABOUT: About = About {
    code: "skirt_seat",
    name: "Seat of a skirt",
    why: "The seat lifts the back, so that the hem rises there; or the waist falls into folds behind, over a hollow back.",
    params: &PARAMS,
    seams: &[Seam::Waist, Seam::CentreBack],
    wants: "the waist is raised on the whole back of a skirt: this pattern has none",
    layer: Layer::Fit,
};

/// The waist raised at the centre back.
pub(super) const SKIRT_SEAT: RaisedWaist = RaisedWaist { about: &ABOUT, at: RaisedAt::Back };
