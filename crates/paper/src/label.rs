//! What every piece of paper says about itself.

use yardwand_core::alter::AlteredFor;
use yardwand_core::pattern::PieceKind;

/// The label of a pattern: nothing leaves the workroom without one.
#[derive(Clone, Debug, PartialEq, Eq)]
pub struct Label {
    /// Client, or initials where the house wishes it.
    pub client: String,
    /// The garment.
    pub garment: String,
    /// The block it was made from.
    pub block: String,
    /// Version of the pattern.
    pub version: u32,
    /// The date, as the house writes dates.
    pub date: String,
    /// What was added at the edges, in a sentence.
    pub allowance: String,
    /// What each piece was altered for; none is the block as it is.
    pub altered_for: Vec<AlteredFor>,
}

impl Label {
    /// The lines for one piece.
    pub fn lines(&self, kind: PieceKind, piece: &str, cut: &str) -> Vec<String> {
        let mut lines = vec![
            piece.to_owned(),
            format!("{}, {}", self.client, self.garment),
            format!("{cut}, version {}, {}", self.version, self.date),
            format!("from {}", self.block),
            self.allowance.clone(),
        ];
        // A label is narrow: two names a line.
        let own = self.altered_for.iter().find(|each| each.piece == kind);
        for (index, names) in own.map_or(&[][..], |each| &each.names).chunks(2).enumerate() {
            let lead = if index == 0 { "altered for " } else { "" };
            lines.push(format!("{lead}{}", names.join(", ")));
        }
        lines
    }
}
