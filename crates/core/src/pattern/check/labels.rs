//! Rule 7: what must be written on every piece before it is cut.

use super::{Check, CheckCode, Fault};
use crate::pattern::piece::{Pattern, Piece};

/// What is known for the labels of a pattern. Empty words are not known.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq)]
pub struct LabelFacts<'a> {
    /// Whose it is; a master carries the house's name for it.
    pub client: &'a str,
    /// The block it comes from, with its size.
    pub block: &'a str,
    /// The version.
    pub version: &'a str,
    /// The fitting round; a block has none, and says so.
    pub round: &'a str,
    /// The day.
    pub date: &'a str,
}

/// Whether every piece can be labelled: client, cut, grain, block, version, round, date, and fold or allowance
/// on every edge.
pub fn check_labels(pattern: &Pattern, facts: &LabelFacts<'_>) -> Check {
    let wanting: Vec<&str> = [
        ("client", facts.client),
        ("block", facts.block),
        ("version", facts.version),
        ("round", facts.round),
        ("date", facts.date),
    ]
    .into_iter()
    .filter_map(|(name, words)| words.trim().is_empty().then_some(name))
    .collect();
    let mut faults = Vec::new();
    for piece in &pattern.pieces {
        let mut fault = |says: String| {
            faults.push(Fault::new(piece.kind, piece.grain.0.midpoint(piece.grain.1), says));
        };
        if !wanting.is_empty() {
            fault(format!("{}: {} not known for the label", piece.kind.name(), wanting.join(", ")));
        }
        if !grain_is_inside(piece) {
            fault(format!("{} has no grain line inside it", piece.kind.name()));
        }
        if piece.edges.iter().any(|edge| edge.fold) != piece.cut_instruction().contains("fold") {
            fault(format!("{}: the cut instruction does not fit the fold", piece.kind.name()));
        }
    }
    let says = format!(
        "client, piece, cut, grain, block, version, round and date on {} pieces",
        pattern.pieces.len()
    );
    Check::of_faults(CheckCode::Labels, &says, faults)
}

fn grain_is_inside(piece: &Piece) -> bool {
    use kurbo::Shape;
    let outline = piece.outline();
    let (top, foot) = piece.grain;
    // A facing is narrow: its grain line is as long as there is room.
    let least = if piece.kind.is_dependent() { 20.0 } else { 50.0 };
    top.distance(foot) > least && outline.winding(top) != 0 && outline.winding(foot) != 0
}
