//! Rules 1 and 5: seams that join are equally long, and their notches fall together.

use kurbo::Point;

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::pattern::piece::{Pattern, Piece, Seam};
use crate::pattern::walk::{SeamWalk, walk, walk_one_side};

/// What a half of the armhole may have changed since its cap was fitted, in millimetres, before the cap is offered to
/// follow (handbook: `alterations.md`, shoulder length).
pub const CAP_PLAY: f64 = 6.0;
/// How far beyond its ease a half of a cap is still set in, in millimetres: a shoulder 5/8 in longer moves it so far on the
/// largest bodies, and nobody touched the cap.
const CAP_TOLERANCE: f64 = 9.0;
/// Seams that join may differ by this, in millimetres.
const SEAM_TOLERANCE: f64 = 1.0;

pub(super) fn joins(pattern: &Pattern, whole: &Pattern, style: Style) -> Vec<Check> {
    let mut checks: Vec<Check> = Vec::new();
    for walked in walk_one_side(pattern, whole) {
        let code = match walked.seam {
            Seam::Side => CheckCode::SideSeams,
            _ if walked.one.is_facing() => CheckCode::Facings,
            _ if walked.one.is_sewn_on() => CheckCode::SewnOn,
            Seam::Shoulder => CheckCode::Shoulders,
            Seam::Cap => CheckCode::CapEase,
            Seam::Princess => CheckCode::PrincessSeam,
            Seam::UnderBust => CheckCode::UnderBustSeam,
            Seam::Overarm => CheckCode::SleeveInOne,
            Seam::UnderSleeve if !walked.one.is_sleeve() => CheckCode::SleeveInOne,
            _ => CheckCode::SleeveSeam,
        };
        let says = match code {
            CheckCode::SideSeams if walked.one.is_joined_skirt() => format!(
                "skirt, front {}, back {}",
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length)
            ),
            CheckCode::SideSeams => format!(
                "front {} less its dart, back {}",
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length)
            ),
            CheckCode::PrincessSeam => format!(
                "side panel {}, centre panel {}",
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length)
            ),
            CheckCode::Shoulders => format!(
                "front {}, back {} less its dart",
                style.with_unit(walked.other_length),
                style.with_unit(walked.one_length)
            ),
            CheckCode::UnderBustSeam => format!(
                "{}: upper part {} drawn in, band {}",
                walked.name,
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length)
            ),
            _ if style.is_alike(walked.one_length, walked.other_length) => format!(
                "{} {}, to be joined to {}: equally long",
                walked.name,
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length),
            ),
            _ => format!(
                "{} {}, to be joined to {}: {} {}",
                walked.name,
                style.with_unit(walked.one_length),
                style.with_unit(walked.other_length),
                style.in_words(&style.difference(walked.one_length, walked.other_length)),
                walked.reason
            ),
        };
        let tolerance = if walked.seam == Seam::Cap { CAP_TOLERANCE } else { SEAM_TOLERANCE };
        let faults = if walked.joins(tolerance) { Vec::new() } else { vec![fault(pattern, &walked, style)] };
        // Both halves of a cap are one rule.
        match checks.last_mut().filter(|last| last.code == code) {
            Some(last) => {
                *last = Check::new(
                    code,
                    format!("{}; {says}", last.says),
                    last.faults.drain(..).chain(faults).collect(),
                );
            }
            None => checks.push(Check::new(code, says, faults)),
        }
    }
    checks
}

fn fault(pattern: &Pattern, walked: &SeamWalk, style: Style) -> Fault {
    let off = walked.difference();
    let (least, most) = walked.ease;
    let by = if off < least { least - off } else { off - most };
    let word = if off < least { "short" } else { "long" };
    let says = format!("the {} is {} too {word}", walked.name, style.with_unit(by));
    Fault::new(walked.one, middle(pattern.piece(walked.one), walked.seam), says)
}

fn middle(piece: Option<&Piece>, seam: Seam) -> Point {
    let longest = piece
        .and_then(|piece| piece.edges_of(seam).max_by(|a, b| a.curve.length().total_cmp(&b.curve.length())));
    longest.map_or(Point::ZERO, |edge| edge.curve.point_at(edge.curve.length() / 2.0))
}

pub(super) fn notches(pattern: &Pattern, style: Style) -> Check {
    let mut faults = Vec::new();
    for walked in walk(pattern).iter().filter(|walked| walked.seam != Seam::Shoulder) {
        let at = middle(pattern.piece(walked.one), walked.seam);
        for pair in walked.notches.iter().filter(|pair| pair.apart() > SEAM_TOLERANCE) {
            let apart = style.with_unit(pair.apart());
            faults.push(Fault::new(
                walked.one,
                at,
                format!("notches of the {} are {apart} apart", walked.name),
            ));
        }
        if walked.single > 0 {
            faults.push(Fault::new(walked.one, at, format!("a notch of the {} has no partner", walked.name)));
        }
    }
    for piece in &pattern.pieces {
        for notch in piece.notches.iter().filter(|notch| piece.notch_place(notch).is_none()) {
            let says = format!("a notch of the {} has left the {}", piece.kind.name(), notch.seam.name());
            faults.push(Fault::new(piece.kind, middle(Some(piece), notch.seam), says));
        }
    }
    Check::of_faults(CheckCode::Notches, "every notch lies on its seam", faults)
}
