//! The front or the back of a garment, whole or parted: what other pieces are sewn to, whatever style lines it has.

use super::names::GarmentPart;
use super::piece::{Notch, Pattern, Piece, Seam};

/// One half of a front or a back: a whole piece, or the panels a style line parted it into, the centre's first.
#[derive(Clone, Debug)]
pub struct Half<'a> {
    /// One piece, or two.
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

    /// Its panels, centre first, where it was parted.
    pub fn panels(&self) -> Option<(&'a Piece, &'a Piece)> {
        match self.pieces.as_slice() {
            [centre, side] => Some((centre, side)),
            _ => None,
        }
    }

    /// The piece at the centre line.
    pub fn at_centre(&self) -> &'a Piece {
        self.pieces[0]
    }

    /// The piece at the side seam.
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

    /// Sewn length of a seam over all its pieces, in millimetres.
    pub fn sewn_length(&self, seam: Seam) -> f64 {
        self.pieces.iter().map(|piece| piece.sewn_length(seam)).sum()
    }

    /// What it is at the waist when it is sewn, in millimetres.
    pub fn sewn_waist(&self) -> f64 {
        self.pieces.iter().map(|piece| piece.sewn_waist()).sum()
    }

    /// The notches of a seam, told from the underarm over all its pieces: the side's first.
    pub fn notches(&self, seam: Seam) -> Vec<Notch> {
        let mut below = 0.0;
        let mut all = Vec::new();
        for piece in self.pieces.iter().rev() {
            let own = piece.notches.iter().filter(|notch| notch.seam == seam);
            all.extend(own.map(|notch| Notch { from_underarm: below + notch.from_underarm, ..*notch }));
            below += piece.flat_length(seam);
        }
        all
    }
}

impl Pattern {
    /// The front, whole or in panels.
    pub fn front_half(&self) -> Option<Half<'_>> {
        self.half(super::PieceKind::is_front, super::PieceKind::is_front_panel)
    }

    /// The back, whole or in panels.
    pub fn back_half(&self) -> Option<Half<'_>> {
        self.half(super::PieceKind::is_back, super::PieceKind::is_back_panel)
    }

    /// Front and back of a skirt, whole.
    pub fn skirt_halves(&self) -> Option<(Half<'_>, Half<'_>)> {
        let of = |part| {
            let piece = self.pieces.iter().find(|piece| piece.kind.part() == part)?;
            Some(Half { pieces: vec![piece] })
        };
        of(GarmentPart::SkirtFront).zip(of(GarmentPart::SkirtBack))
    }

    fn half(
        &self,
        is_whole: fn(super::PieceKind) -> bool,
        is_panel: fn(super::PieceKind) -> bool,
    ) -> Option<Half<'_>> {
        if let Some(whole) = self.pieces.iter().find(|piece| is_whole(piece.kind)) {
            return Some(Half { pieces: vec![whole] });
        }
        let mut panels: Vec<&Piece> = self.pieces.iter().filter(|piece| is_panel(piece.kind)).collect();
        panels.sort_by_key(|panel| panel.kind.centre() == Seam::Princess);
        (panels.len() == 2).then_some(Half { pieces: panels })
    }
}
