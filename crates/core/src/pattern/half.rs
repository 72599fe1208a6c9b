//! The front or the back of a garment, whole or parted: what other pieces are sewn to, whatever style lines it has.

use super::names::{Covers, GarmentPart, Share};
use super::piece::{Edge, Notch, Pattern, Piece, Seam};

/// One half of a front or a back: a whole piece, the panels a princess line parted it into, the centre's first, or the
/// upper part and the band a seam under the bust parted it into. An upper part with cups is two panels above the band.
#[derive(Clone, Debug)]
pub struct Half<'a> {
    /// One piece, or two, or two panels and a band.
    pieces: Vec<&'a Piece>,
}

impl<'a> Half<'a> {
    /// The whole piece, where it was not parted.
    pub fn whole(&self) -> Option<&'a Piece> {
        match self.pieces.as_slice() {
            [whole] => Some(whole),
            _ => None,
        }
    }

    /// Its panels, centre first, where a princess line parted it, or cups its upper part.
    pub fn panels(&self) -> Option<(&'a Piece, &'a Piece)> {
        match self.pieces.as_slice() {
            [centre, side, ..] if centre.kind.is_panel() => Some((centre, side)),
            _ => None,
        }
    }

    /// The band below a seam under the bust.
    pub fn band(&self) -> Option<&'a Piece> {
        self.pieces.last().copied().filter(|piece| piece.kind.share() == Share::Band)
    }

    /// What lies above that seam, centre first; nothing where there is none.
    pub fn above_band(&self) -> &[&'a Piece] {
        match self.band() {
            Some(_) => &self.pieces[..self.pieces.len() - 1],
            None => &[],
        }
    }

    /// Upper part and band, where a seam under the bust parted it.
    pub fn tiers(&self) -> Option<(&'a Piece, &'a Piece)> {
        match self.pieces.as_slice() {
            [upper, band] if band.kind.share() == Share::Band => Some((upper, band)),
            _ => None,
        }
    }

    /// The piece that neckline, shoulder, armhole and bust line lie on, where that is one.
    pub fn upper(&self) -> Option<&'a Piece> {
        self.whole().or_else(|| self.tiers().map(|(upper, _)| upper))
    }

    /// The piece where the centre line begins.
    pub fn at_centre(&self) -> &'a Piece {
        self.pieces[0]
    }

    /// The piece where the waist meets the centre line.
    pub fn at_centre_waist(&self) -> &'a Piece {
        self.band().unwrap_or_else(|| self.at_centre())
    }

    /// The piece where the side seam ends.
    pub fn at_side(&self) -> &'a Piece {
        self.pieces[self.pieces.len() - 1]
    }

    /// Where a seam begins that is travelled from the centre or from above: the first piece that has it.
    pub fn begins(&self, seam: Seam) -> Option<&'a Piece> {
        self.pieces.iter().copied().find(|piece| piece.first_edge(seam).is_some())
    }

    /// Where a seam ends: the last piece that has it.
    pub fn ends(&self, seam: Seam) -> Option<&'a Piece> {
        self.pieces.iter().copied().rfind(|piece| piece.first_edge(seam).is_some())
    }

    /// The edges of a seam, in the order it is travelled over all its pieces.
    pub(crate) fn edges_of(&self, seam: Seam) -> impl Iterator<Item = &'a Edge> {
        self.pieces.iter().copied().flat_map(move |piece| piece.edges_of(seam))
    }

    /// The word for it.
    pub(crate) fn name(&self) -> &'static str {
        if self.at_centre().kind.covers() == Covers::Front { "front" } else { "back" }
    }

    /// Sewn length of a seam over all its pieces, in millimetres.
    pub fn sewn_length(&self, seam: Seam) -> f64 {
        self.pieces.iter().map(|piece| piece.sewn_length(seam)).sum()
    }

    /// What it is at the waist when it is sewn, in millimetres.
    pub fn sewn_waist(&self) -> f64 {
        self.pieces.iter().map(|piece| piece.sewn_waist()).sum()
    }

    /// The notches of a seam, told from the underarm over all its pieces: of panels the side's come first, of a side seam
    /// that a seam under the bust crosses the upper part's.
    pub fn notches(&self, seam: Seam) -> Vec<Notch> {
        let above = self.above_band();
        let pieces: Vec<&Piece> = match self.band() {
            Some(band) => above.iter().rev().copied().chain([band]).collect(),
            None => self.pieces.iter().rev().copied().collect(),
        };
        let mut below = 0.0;
        let mut all = Vec::new();
        for piece in pieces {
            let own = piece.notches.iter().filter(|notch| notch.seam == seam);
            all.extend(own.map(|notch| Notch { from_underarm: below + notch.from_underarm, ..*notch }));
            below += piece.flat_length(seam);
        }
        all
    }
}

impl Pattern {
    /// The front, whole or parted.
    pub fn front_half(&self) -> Option<Half<'_>> {
        self.half(Covers::Front)
    }

    /// The back, whole or parted.
    pub fn back_half(&self) -> Option<Half<'_>> {
        self.half(Covers::Back)
    }

    /// Front and back of a skirt by itself, whole.
    pub fn skirt_halves(&self) -> Option<(Half<'_>, Half<'_>)> {
        self.whole(GarmentPart::SkirtFront).zip(self.whole(GarmentPart::SkirtBack))
    }

    /// Front and back of a skirt that is joined to a bodice at the waist.
    pub fn joined_skirt_halves(&self) -> Option<(Half<'_>, Half<'_>)> {
        self.whole(GarmentPart::JoinedSkirtFront).zip(self.whole(GarmentPart::JoinedSkirtBack))
    }

    fn whole(&self, part: GarmentPart) -> Option<Half<'_>> {
        let piece = self.pieces.iter().find(|piece| piece.kind.part() == part)?;
        Some(Half { pieces: vec![piece] })
    }

    fn half(&self, covers: Covers) -> Option<Half<'_>> {
        let of_it = |piece: &&Piece| {
            piece.kind.covers() == covers && !piece.kind.is_skirt() && !piece.kind.is_dependent()
        };
        let mut pieces: Vec<&Piece> = self.pieces.iter().filter(of_it).collect();
        pieces.sort_by_key(|piece| piece.kind.share());
        let shares: Vec<Share> = pieces.iter().map(|piece| piece.kind.share()).collect();
        match shares.as_slice() {
            [Share::Whole, ..] => pieces.truncate(1),
            [Share::CentrePanel, Share::SidePanel]
            | [Share::Upper, Share::Band]
            | [Share::CentrePanel, Share::SidePanel, Share::Band] => {}
            _ => return None,
        }
        Some(Half { pieces })
    }
}
