//! Walking seams: one sewn line along the other, from the underarm end, notch by notch.

use serde::{Deserialize, Serialize};

use super::piece::{Notch, Pattern, Piece, PieceKind, Seam};

/// A pair of notches as the seams are walked along each other.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WalkedNotch {
    /// Millimetres from the underarm end on the one side.
    pub one: f64,
    /// The same on the other.
    pub other: f64,
}

impl WalkedNotch {
    /// How far the two fall apart, in millimetres.
    pub fn apart(&self) -> f64 {
        (self.one - self.other).abs()
    }
}

/// Two sewn lines walked along each other.
#[derive(Clone, Debug, PartialEq)]
pub struct SeamWalk {
    /// What is joined.
    pub name: &'static str,
    /// The piece that is walked.
    pub one: PieceKind,
    /// The piece it is walked along.
    pub other: PieceKind,
    /// Its seam.
    pub seam: Seam,
    /// Sewn length of the one, in millimetres.
    pub one_length: f64,
    /// Sewn length of the other.
    pub other_length: f64,
    /// How much longer the one is meant to be: least and most.
    pub ease: (f64, f64),
    /// Why it may be longer.
    pub reason: &'static str,
    /// Notches that meet, from the underarm end. A notch without its partner has none of these.
    pub notches: Vec<WalkedNotch>,
    /// Notches of either side without a partner.
    pub single: usize,
}

impl SeamWalk {
    /// The one less the other, in millimetres.
    pub fn difference(&self) -> f64 {
        self.one_length - self.other_length
    }

    /// Whether the lines join within `tolerance` of the intended ease.
    pub fn joins(&self, tolerance: f64) -> bool {
        (self.ease.0 - tolerance..=self.ease.1 + tolerance).contains(&self.difference())
    }
}

/// Every pair of seams of a pattern that is sewn together.
pub fn walk(pattern: &Pattern) -> Vec<SeamWalk> {
    let mut walks = Vec::new();
    let (front, back) = (pattern.front(), pattern.back());
    if let (Some(front), Some(back)) = (front, back) {
        walks.push(pair("side seam", front, back, Seam::Side, (0.0, 0.0), ""));
        let reason = "eased or darted over the shoulder blade";
        walks.push(pair("shoulder", back, front, Seam::Shoulder, (0.0, 12.0), reason));
    }
    let (Some(sleeve), Some(rule)) = (pattern.piece(PieceKind::Sleeve), pattern.sleeve_rule) else {
        return walks;
    };
    let halves = |seam| {
        let lengths: Vec<f64> = sleeve.edges_of(seam).map(|edge| edge.curve.length()).collect();
        (lengths.first().copied().unwrap_or_default(), lengths.get(1).copied().unwrap_or_default())
    };
    let (cap_back, cap_front) = halves(Seam::Cap);
    for (garment, name, cap, is_back) in
        [(front, "front of the cap", cap_front, false), (back, "back of the cap", cap_back, true)]
    {
        let Some(garment) = garment else { continue };
        let armhole = garment.sewn_length(Seam::Armhole);
        let whole = cap_back + cap_front;
        // A cap's notches are told from its back end; the front one is as far from the front end.
        let on_cap = notches(sleeve, Seam::Cap).into_iter().filter(|notch| notch.double == is_back);
        let from_end = |notch: Notch| if is_back { notch.from_underarm } else { whole - notch.from_underarm };
        let (met, single) =
            matched(&on_cap.map(from_end).collect::<Vec<_>>(), &places(garment, Seam::Armhole));
        let share = if is_back { rule.back_share } else { 1.0 - rule.back_share };
        walks.push(SeamWalk {
            name,
            one: PieceKind::Sleeve,
            other: garment.kind,
            seam: Seam::Cap,
            one_length: cap,
            other_length: armhole,
            ease: (rule.least * share, rule.most * share),
            reason: "eased into the armhole",
            notches: met,
            single,
        });
    }
    let (under_front, under_back) = halves(Seam::UnderSleeve);
    walks.push(SeamWalk {
        name: "sleeve seam, back on front",
        one: PieceKind::Sleeve,
        other: PieceKind::Sleeve,
        seam: Seam::UnderSleeve,
        one_length: under_back,
        other_length: under_front,
        ease: (0.0, rule.elbow),
        reason: "eased over the elbow",
        notches: Vec::new(),
        single: 0,
    });
    walks
}

fn pair(
    name: &'static str,
    one: &Piece,
    other: &Piece,
    seam: Seam,
    ease: (f64, f64),
    reason: &'static str,
) -> SeamWalk {
    let (met, single) = matched(&places(one, seam), &places(other, seam));
    SeamWalk {
        name,
        one: one.kind,
        other: other.kind,
        seam,
        one_length: one.sewn_length(seam),
        other_length: other.sewn_length(seam),
        ease,
        reason,
        notches: met,
        single,
    }
}

fn notches(piece: &Piece, seam: Seam) -> Vec<Notch> {
    piece.notches.iter().filter(|notch| notch.seam == seam).copied().collect()
}

fn places(piece: &Piece, seam: Seam) -> Vec<f64> {
    notches(piece, seam).iter().map(|notch| notch.from_underarm).collect()
}

/// Notches in their order along the seam, and how many are left over.
fn matched(one: &[f64], other: &[f64]) -> (Vec<WalkedNotch>, usize) {
    let sorted = |places: &[f64]| {
        let mut places = places.to_vec();
        places.sort_by(f64::total_cmp);
        places
    };
    let (one, other) = (sorted(one), sorted(other));
    let met = one.iter().zip(&other).map(|(&one, &other)| WalkedNotch { one, other }).collect();
    (met, one.len().abs_diff(other.len()))
}
