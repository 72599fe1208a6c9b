//! Bodies the tests of this crate share.

use yardwand_core::INCH;
use yardwand_core::body::Body;

/// The invented body of the handbook's worked draft (`alterations.md`, section 4), inches there.
pub(crate) fn worked_body() -> Body {
    [
        ("neck_base_girth", 14.5),
        ("shoulder_length", 5.0),
        ("shoulder_slope", 1.625),
        ("shoulder_width", 15.5),
        ("across_front", 13.0),
        ("across_back", 13.75),
        ("bust_girth", 37.0),
        ("upper_bust_girth", 35.5),
        ("waist_girth", 29.0),
        ("bust_span", 7.5),
        ("snp_to_bust_point", 10.5),
        ("snp_to_waist_front", 17.0),
        ("snp_to_waist_back", 16.5),
        ("nape_to_waist_back", 15.75),
        ("armhole_depth", 7.5),
        ("side_length", 7.5),
    ]
    .into_iter()
    .map(|(code, inches)| (code, inches * INCH))
    .collect()
}
