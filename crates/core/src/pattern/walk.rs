//! Walking seams: one sewn line along the other, from the underarm end, notch by notch.

use serde::{Deserialize, Serialize};

use super::around::{Along, along};
use super::half::Half;
use super::names::{Covers, GarmentPart};
use super::piece::{Notch, Pattern, Piece, PieceKind, Seam, WornSide};

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

/// Every pair of seams of a pattern that is sewn together; of one whose sides differ, as worn on one side
/// after the other.
pub fn walk(pattern: &Pattern) -> Vec<SeamWalk> {
    let mut walks = if pattern.is_sided() {
        let [mut walks, right] = WornSide::BOTH.map(|side| walk_worn(&pattern.worn_on(side)));
        walks.extend(right);
        walks
    } else {
        walk_worn(pattern)
    };
    walks.extend(pattern.pieces.iter().filter_map(|piece| sewn_on_walk(piece, pattern)));
    walks
}

/// The same of what is worn on one side of a whole pattern: a band that goes all round is walked along both sides.
pub(super) fn walk_one_side(worn: &Pattern, whole: &Pattern) -> Vec<SeamWalk> {
    let mut walks = walk_worn(worn);
    let goes_along = |piece: &Piece| if piece.kind.is_cut_once() { whole } else { worn };
    walks.extend(worn.pieces.iter().filter_map(|piece| sewn_on_walk(piece, goes_along(piece))));
    walks
}

fn walk_worn(pattern: &Pattern) -> Vec<SeamWalk> {
    let mut walks = Vec::new();
    let (front, back) = (pattern.front_half(), pattern.back_half());
    let sides_of_skirt = |(front, back): (Half<'_>, Half<'_>)| {
        pair("side seam of the skirt", &front, &back, Seam::Side, (0.0, 0.0), "")
    };
    if let (Some(front), Some(back)) = (&front, &back) {
        walks.extend(pair("side seam", front, back, Seam::Side, (0.0, 0.0), ""));
        walks.extend(pattern.joined_skirt_halves().and_then(sides_of_skirt));
        let reason = "eased or darted over the shoulder blade";
        walks.extend(pair("shoulder", back, front, Seam::Shoulder, (0.0, 12.0), reason));
        for (name, seam) in [("overarm seam", Seam::Overarm), ("underarm seam", Seam::UnderSleeve)] {
            walks.extend(pair(name, front, back, seam, (0.0, 0.0), ""));
        }
    }
    walks.extend(pattern.skirt_halves().and_then(sides_of_skirt));
    for (half, name) in [(&front, "princess seam"), (&back, "princess seam of the back")] {
        if let Some((centre, side)) = half.as_ref().and_then(Half::panels) {
            walks.extend(parts(name, Seam::Princess, &[side], centre));
        }
    }
    for (half, name) in [(&front, "seam under the bust"), (&back, "seam under the bust, behind")] {
        let Some(half) = half else { continue };
        if let Some(band) = half.band() {
            let above: Vec<&Piece> = half.above_band().iter().rev().copied().collect();
            walks.extend(parts(name, Seam::UnderBust, &above, band));
        }
    }
    for facing in pattern.pieces.iter().filter(|piece| piece.kind.is_facing()) {
        let half = if facing.kind.covers() == Covers::Front { &front } else { &back };
        let edges = facing.kind.share().follows().iter();
        walks.extend(edges.filter_map(|edge| facing_walk(facing, half.as_ref()?, *edge)));
    }
    let (Some(sleeve), Some(rule)) = (pattern.sleeve(), pattern.sleeve_rule) else {
        return walks;
    };
    // The second half may be parted by a dart at the elbow.
    let halves = |seam| {
        let mut lengths = sleeve.edges_of(seam).map(|edge| edge.curve.length());
        (lengths.next().unwrap_or_default(), lengths.sum::<f64>())
    };
    let (cap_back, cap_front) = halves(Seam::Cap);
    let armhole = |half: Half<'_>| {
        let at = half.ends(Seam::Armhole)?;
        Some((at.kind, half.sewn_length(Seam::Armhole), places(&half.notches(Seam::Armhole))))
    };
    let (in_front, behind) = (front.and_then(armhole), back.and_then(armhole));
    for (garment, name, cap, is_back) in
        [(in_front, "front of the cap", cap_front, false), (behind, "back of the cap", cap_back, true)]
    {
        let Some((kind, armhole, on_armhole)) = garment else { continue };
        let whole = cap_back + cap_front;
        // A cap's notches are told from its back end; the front one is as far from the front end.
        let on_cap = notches(sleeve, Seam::Cap).filter(|notch| notch.double == is_back);
        let from_end = |notch: Notch| if is_back { notch.from_underarm } else { whole - notch.from_underarm };
        let (met, single) = matched(&on_cap.map(from_end).collect::<Vec<_>>(), &on_armhole);
        let share = if is_back { rule.back_share } else { 1.0 - rule.back_share };
        walks.push(SeamWalk {
            name,
            one: sleeve.kind,
            other: kind,
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
        one: sleeve.kind,
        other: sleeve.kind,
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

/// Two halves joined along a seam that both have; each is named by its piece at the seam's end.
fn pair(
    name: &'static str,
    one: &Half<'_>,
    other: &Half<'_>,
    seam: Seam,
    ease: (f64, f64),
    reason: &'static str,
) -> Option<SeamWalk> {
    let (met, single) = matched(&places(&one.notches(seam)), &places(&other.notches(seam)));
    Some(SeamWalk {
        name,
        one: one.ends(seam)?.kind,
        other: other.ends(seam)?.kind,
        seam,
        one_length: one.sewn_length(seam),
        other_length: other.sewn_length(seam),
        ease,
        reason,
        notches: met,
        single,
    })
}

/// A facing along an edge it lies against.
fn facing_walk(facing: &Piece, half: &Half<'_>, seam: Seam) -> Option<SeamWalk> {
    let own: Vec<f64> = notches(facing, seam).map(|notch| notch.from_underarm).collect();
    let (met, single) = matched(&own, &places(&half.notches(seam)));
    Some(SeamWalk {
        name: facing.kind.part_name(),
        one: facing.kind,
        other: half.begins(seam)?.kind,
        seam,
        one_length: facing.sewn_length(seam),
        other_length: half.sewn_length(seam),
        ease: (0.0, 0.0),
        reason: "",
        notches: met,
        single,
    })
}

/// What is sewn on from outside along the edge it follows; none of another piece.
fn sewn_on_walk(piece: &Piece, pattern: &Pattern) -> Option<SeamWalk> {
    let edge = *piece.kind.share().follows().first().filter(|_| piece.kind.is_sewn_on())?;
    let Along { other, long } = along(piece.kind, pattern)?;
    // A strip is stretched a little where the edge is hollow; what goes on over the arms is sewn to nothing there.
    let stretched = long * piece.kind.share().stretched();
    let free = free_over_the_arms(piece);
    let (more, reason) = match free {
        Some(free) => (free, "free over the arms"),
        None => (-stretched, "stretched round the edge"),
    };
    Some(SeamWalk {
        name: piece.kind.part_name(),
        one: piece.kind,
        other,
        seam: edge,
        one_length: piece.sewn_length(edge),
        other_length: long,
        ease: (more, more),
        reason,
        notches: Vec::new(),
        single: 0,
    })
}

/// What of a band over the arms is sewn to nothing, by its marks: the back's end, an arm, the front in two, the other arm.
fn free_over_the_arms(piece: &Piece) -> Option<f64> {
    let marks: Vec<f64> = piece.notches.iter().map(|notch| notch.from_underarm).collect();
    match marks[..] {
        [back, left, _, right, again] if piece.kind.part() == GarmentPart::OffShoulderBand => {
            Some(left - back + again - right)
        }
        _ => None,
    }
}

/// The parts of a half joined along the seam that divides it: those on its one side, told from where it is walked, and the other.
/// Where two of the ones meet, their own seam is a notch.
fn parts(name: &'static str, seam: Seam, ones: &[&Piece], other: &Piece) -> Option<SeamWalk> {
    // What is gathered before a notch is not walked.
    let of = |piece: &Piece| -> Vec<f64> {
        notches(piece, seam).map(|notch| piece.sewn_before(seam, notch.from_underarm)).collect()
    };
    let (mut walked, mut long) = (Vec::new(), 0.0);
    for (index, piece) in ones.iter().enumerate() {
        walked.extend((index > 0).then_some(long));
        walked.extend(of(piece).into_iter().map(|mm| long + mm));
        long += piece.sewn_length(seam);
    }
    let (met, single) = matched(&walked, &of(other));
    Some(SeamWalk {
        name,
        one: ones.first()?.kind,
        other: other.kind,
        seam,
        one_length: long,
        other_length: other.sewn_length(seam),
        ease: (0.0, 0.0),
        reason: "",
        notches: met,
        single,
    })
}

fn notches(piece: &Piece, seam: Seam) -> impl Iterator<Item = Notch> {
    piece.notches.iter().filter(move |notch| notch.seam == seam).copied()
}

fn places(notches: &[Notch]) -> Vec<f64> {
    notches.iter().map(|notch| notch.from_underarm).collect()
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
