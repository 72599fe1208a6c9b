//! How the pieces of a toile are pinned together: which lies on top, what is held first, how many pins.
//!
//! The words are common practice, no source: a toile is pinned with the seams lapped, so that a pin can be moved while it is worn.

use serde::{Deserialize, Serialize};

use super::piece::{Pattern, Seam};
use super::walk::{SeamWalk, walk};
use crate::{Shown, Style};

/// From pin to pin along a straight seam, in millimetres (common practice, no source).
pub const BETWEEN_PINS: f64 = 50.0;
/// The same round a curve, where a seam is eased in (common practice, no source).
const BETWEEN_PINS_EASED: f64 = 25.0;

/// A seam as it is pinned.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Joining {
    /// What is joined.
    pub name: String,
    /// Which lies on top, in words.
    pub lies: String,
    /// What is pinned first, in its order.
    pub held: &'static str,
    /// What is done with what is left over, where one side is longer.
    pub eased: String,
    /// How long the seam is.
    pub length: Shown,
    /// How many pins, across the seam.
    pub pins: usize,
}

/// Every seam of a pattern as it is pinned, the one that carries the weight first.
pub fn joinings(pattern: &Pattern, style: Style) -> Vec<Joining> {
    let mut seams: Vec<SeamWalk> =
        walk(pattern).into_iter().filter(|walked| !walked.one.is_facing()).collect();
    // A toile hangs from its shoulders; sleeves come last.
    seams.sort_by_key(|walked| match walked.seam {
        Seam::Shoulder => 0,
        Seam::Side => 1,
        Seam::Cap => 3,
        _ => 2,
    });
    seams.iter().map(|walked| joining(walked, style)).collect()
}

fn joining(walked: &SeamWalk, style: Style) -> Joining {
    let held = match walked.seam {
        Seam::Shoulder => "the neck, then the shoulder point",
        Seam::Side => "the underarm, then the waist, then the notches",
        Seam::Cap => "the underarm, then the notches, then the shoulder point",
        Seam::Overarm => "the neck, then the end of the sleeve",
        Seam::UnderSleeve => "the underarm, then the end of the sleeve",
        Seam::UnderBust => "the centre, then the notches, then the side",
        _ => "both ends, then the notches",
    };
    let lies = match walked.seam {
        Seam::Shoulder | Seam::Side | Seam::Overarm => "front over back".to_owned(),
        Seam::UnderSleeve => "the sleeve's front over its back".to_owned(),
        Seam::Cap => "the sleeve into the armhole, pinned from the sleeve".to_owned(),
        _ => format!("{} over {}", walked.other.name().to_lowercase(), walked.one.name().to_lowercase()),
    };
    let more = walked.difference();
    let is_eased = !style.is_alike(walked.one_length, walked.other_length);
    let eased = if is_eased {
        let longer = if more > 0.0 { walked.one } else { walked.other };
        let by = style.in_words(&style.difference(
            walked.one_length.max(walked.other_length),
            walked.one_length.min(walked.other_length),
        ));
        format!("{by} of the {} eased in between them", longer.name().to_lowercase())
    } else {
        String::new()
    };
    let length = walked.one_length.max(walked.other_length);
    let apart = if is_eased || walked.seam == Seam::Cap { BETWEEN_PINS_EASED } else { BETWEEN_PINS };
    // A pin at either end, and one at each step between them.
    let pins = (length / apart).ceil().max(1.0) as usize + 1;
    Joining { name: walked.name.to_owned(), lies, held, eased, length: style.show(length), pins }
}
