//! How a toile is pinned together, held against the walks of the same seams.

use yardwand_core::Style;
use yardwand_core::body::Body;
use yardwand_core::draft::{Method, draft};
use yardwand_core::pattern::{BETWEEN_PINS, joinings, walk};

#[test]
fn a_bodice_is_pinned_from_its_shoulders_on_and_every_seam_is_as_long_as_it_is_walked() {
    let style = Style::EIGHTHS;
    let made = draft(&Body::middle(), &Method::default(), style).unwrap();
    let seams = joinings(&made.pattern, style);
    assert_eq!((seams[0].name.as_str(), seams[1].name.as_str()), ("shoulder", "side seam"));
    assert_eq!(seams[0].lies, "front over back");
    let walked = walk(&made.pattern);
    assert_eq!(seams.len(), walked.iter().filter(|walked| !walked.one.is_facing()).count());
    for seam in &seams {
        let own = walked.iter().find(|walked| walked.name == seam.name).unwrap();
        assert!((seam.length.mm - own.one_length.max(own.other_length)).abs() < 1e-9);
        // No stretch without a pin is longer than the hand is wide, and what is longer is told.
        assert!(seam.length.mm / (seam.pins - 1) as f64 <= BETWEEN_PINS && seam.pins >= 3, "{seam:?}");
        let alike = style.is_alike(own.one_length, own.other_length);
        assert_eq!(seam.eased.is_empty(), alike, "{seam:?}");
    }
}
