//! Lengths that were taken by tape across the cloth, held against what was marked.

use serde::{Deserialize, Serialize};

use super::facts::Hand;
use super::in_hand::ControlLength;
use super::input::Source;
use super::marks::{Marks, Named};
use super::report::{Draped, Notes};

/// A length by tape, and the piece it was taken across.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
pub struct PieceControl {
    /// The piece.
    pub piece: Draped,
    /// Between which crosses, and how long.
    #[serde(flatten)]
    pub length: ControlLength,
}

/// What marks may be off by their own share: as a photograph's scale (drape.md, section 3).
const SCALE: f64 = 0.012;

/// Asks about both ends of every length that the marks contradict: by more than two crosses explain, and than the scale may be off.
pub(super) fn hold(
    piece: Draped,
    source: &Source,
    (marks, hand): (&Marks, &Hand),
    controls: &[PieceControl],
    notes: &mut Notes,
) {
    // The camera was held against this one already.
    let known = match source {
        Source::Photograph { photograph, .. } => {
            photograph.known_length.as_ref().and_then(|length| length.marks)
        }
        _ => None,
    };
    for PieceControl { length, .. } in controls.iter().filter(|control| control.piece == piece) {
        let ends = [length.from, length.to];
        let (Some(from), Some(to)) = (marks.get(length.from), marks.get(length.to)) else { continue };
        let marked = from.distance(to);
        let most = (hand.doubtful() * std::f64::consts::SQRT_2).max(SCALE * length.mm);
        if known == Some(ends) || (marked - length.mm).abs() <= most {
            continue;
        }
        let says = format!(
            "From the {} to the {} of the {} is {:.0} mm by tape and {marked:.0} mm as marked: was it measured between these two, and are both marked where they should be?",
            length.from.name(),
            length.to.name(),
            piece.name(),
            length.mm
        );
        notes.ask(piece, &ends.map(Named::from), says);
    }
}
