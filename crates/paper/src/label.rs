//! What every piece of paper says about itself.

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
}

impl Label {
    /// The lines for one piece.
    pub fn lines(&self, piece: &str, cut: &str) -> Vec<String> {
        vec![
            piece.to_owned(),
            format!("{}, {}", self.client, self.garment),
            format!("{cut}, version {}, {}", self.version, self.date),
            format!("from {}", self.block),
            self.allowance.clone(),
        ]
    }
}
