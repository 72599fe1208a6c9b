//! A piece while it is being marked: every click as it was made, however little there is yet. What is computed is computed
//! from this whenever it is looked at.

use serde::{Deserialize, Serialize};

use super::checklist::{MarkNeed, MarkWanted, checklist, darts_there_may_be};
use super::controls::PieceControl;
use super::facts::{Given, Material};
use super::input::{DrapeInput, Source};
use super::marks::{Cross, Marks, Named};
use super::photograph::{KnownLength, Photograph, Sheet};
use super::report::{Draped, Refusal};
use super::slashed::{NO_BLOCK, SlashedBack};
use super::slashed_back;
use crate::pattern::{DartPlace, WornSide};

/// How the marks of a piece come in.
#[derive(Clone, Copy, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum MarkedBy {
    /// Typed from two lines, over and down.
    #[default]
    Typing,
    /// Clicked in a photograph.
    Photograph,
    /// Corners clicked on the outline of a path file.
    Path,
}

/// A sheet of known size, with as many of its corners as are clicked.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SheetInHand {
    /// One side, in millimetres.
    pub width: f64,
    /// The other.
    pub height: f64,
    /// In order round it, in pixels; up to four.
    #[serde(default)]
    pub corners_px: Vec<[f64; 2]>,
}

/// A tape that lies in the photograph, with as many of its ends as are clicked.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TapeInHand {
    /// In pixels; up to two.
    #[serde(default)]
    pub ends_px: Vec<[f64; 2]>,
    /// How much of it lies between them, in millimetres.
    #[serde(default)]
    pub mm: f64,
}

/// A length that was taken by tape, between two crosses.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ControlLength {
    /// From here.
    pub from: Cross,
    /// To here, as straight as the tape lies.
    pub to: Cross,
    /// As measured, in millimetres.
    pub mm: f64,
}

impl ControlLength {
    /// Whether it was measured already: a line of a table that is only begun has no length.
    pub(super) fn is_measured(&self) -> bool {
        self.mm > 0.0
    }
}

/// Everything that is known of a piece so far.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default, deny_unknown_fields)]
pub struct PieceInHand {
    /// How its marks come in.
    pub by: MarkedBy,
    /// What is marked: in millimetres, in pixels or in units of the path.
    #[cfg_attr(feature = "schema", schema(value_type = std::collections::BTreeMap<String, Vec<serde_json::Value>>))]
    pub marks: Marks,
    /// Of a photograph: its sheets.
    pub sheets: Vec<SheetInHand>,
    /// Of a photograph: a tape that lies in it.
    pub tape: TapeInHand,
    /// Of a photograph: its focal length in pixels, where it is known.
    pub focal_px: Option<f64>,
    /// Of a path file: the outline.
    pub path: String,
    /// Of a path file: what one of its units is, in millimetres.
    pub mm_per_unit: Option<f64>,
    /// Lengths that were taken by tape across it.
    pub controls: Vec<ControlLength>,
}

/// At most so many lengths by tape a piece.
pub const MOST_CONTROLS: usize = 6;

/// The darts each piece is shaped with.
#[derive(Clone, Debug, Default, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct DartsDecided {
    /// Of the front.
    pub front: Vec<DartPlace>,
    /// Of the back.
    pub back: Vec<DartPlace>,
}

impl DartsDecided {
    /// Those of one piece.
    pub fn of(&self, piece: Draped) -> &[DartPlace] {
        match piece {
            Draped::Front => &self.front,
            Draped::Back => &self.back,
        }
    }
}

/// What is asked before anything is marked; it is kept with the block.
#[derive(Clone, Debug, Default, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct DrapeFacts {
    /// How it was draped, or drawn.
    pub given: Given,
    /// The darts it is shaped with.
    pub darts: DartsDecided,
    /// Where the rest of the excess went, in her words.
    pub excess: String,
    /// Of a paper pattern: the size that is printed on it.
    pub printed: String,
    /// Which side of an uneven body it is draped on; none where both are alike.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub side: Option<WornSide>,
}

/// A whole drape while it is being marked.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct DrapeInHand {
    /// What was stated.
    pub facts: DrapeFacts,
    /// The front.
    pub front: PieceInHand,
    /// The back.
    pub back: PieceInHand,
}

impl DrapeInHand {
    /// One of its pieces.
    pub const fn piece(&self, piece: Draped) -> &PieceInHand {
        match piece {
            Draped::Front => &self.front,
            Draped::Back => &self.back,
        }
    }

    /// The marks of a piece, in one walk round it. A path file has corners alone: its own line runs between them.
    pub fn checklist(&self, piece: Draped) -> Vec<MarkWanted> {
        let own = self.piece(piece);
        let mut list = checklist(piece, self.material(), &own.darts(piece, self.facts.darts.of(piece)));
        if own.by == MarkedBy::Path {
            list.retain(|wanted| wanted.least_dots.is_none());
            // Where the armhole comes nearest to the centre is found on the line.
            for across in list.iter_mut().filter(|wanted| wanted.mark == Cross::Across.into()) {
                across.need = MarkNeed::Helps;
            }
        }
        list
    }

    /// What is marked of it: cloth where nobody said that it is paper. A path file is paper.
    pub fn material(&self) -> Material {
        if self.facts.given.material == Some(Material::Slashed) {
            return Material::Slashed;
        }
        let is_path = Draped::BOTH.into_iter().any(|piece| self.piece(piece).by == MarkedBy::Path);
        if is_path { Material::Paper } else { self.facts.given.material.unwrap_or(Material::Toile) }
    }

    /// What a transfer is made of; photographs are of the sizes that are kept of them.
    ///
    /// # Errors
    ///
    /// A [`Refusal`]: what has still to be clicked before there is anything to look at.
    pub fn input(&self, sizes_px: [Option<[u32; 2]>; 2]) -> Result<DrapeInput, Refusal> {
        let [front, back] = sizes_px;
        if self.material() == Material::Slashed {
            return Err(Refusal::new(Draped::Back, &[], NO_BLOCK.to_owned()));
        }
        let given = Given { material: Some(self.material()), ..self.facts.given.clone() };
        Ok(DrapeInput {
            front: self.front.source(Draped::Front, front)?,
            back: self.back.source(Draped::Back, back)?,
            given,
            controls: Draped::BOTH.into_iter().flat_map(|piece| self.controls(piece)).collect(),
        })
    }

    /// What its back tells where that was slashed on her; a photograph is of the size that is kept of it.
    ///
    /// # Errors
    ///
    /// A [`Refusal`]: what is wanting.
    pub fn slashed(&self, size_px: Option<[u32; 2]>) -> Result<SlashedBack, Refusal> {
        if self.material() != Material::Slashed {
            let says = "This is no back that was slashed on her: it becomes a block.".to_owned();
            return Err(Refusal::new(Draped::Back, &[], says));
        }
        let controls: Vec<PieceControl> = self.controls(Draped::Back).collect();
        slashed_back(&self.back.source(Draped::Back, size_px)?, &self.facts.given, &controls)
    }

    fn controls(&self, piece: Draped) -> impl Iterator<Item = PieceControl> {
        let measured = self.piece(piece).controls.iter().filter(|length| length.is_measured());
        measured.map(move |length| PieceControl { piece, length: *length })
    }
}

impl PieceInHand {
    /// Whether nothing was clicked or typed yet.
    pub fn is_untouched(&self) -> bool {
        self.marks.is_empty()
            && self.sheets.iter().all(|sheet| sheet.corners_px.is_empty())
            && self.path.is_empty()
    }

    /// The darts it is shaped with: those that were decided on, and whatever is marked.
    pub fn darts(&self, piece: Draped, decided: &[DartPlace]) -> Vec<DartPlace> {
        let is_there = |dart: &&DartPlace| decided.contains(dart) || self.marks.has_dart(**dart);
        darts_there_may_be(piece).iter().filter(is_there).copied().collect()
    }

    /// What a transfer is made of; a photograph is of the size that is kept of it.
    ///
    /// # Errors
    ///
    /// A [`Refusal`]: what has still to be clicked before there is anything to look at.
    pub fn source(&self, piece: Draped, size_px: Option<[u32; 2]>) -> Result<Source, Refusal> {
        let refuse = |says: String| Err(Refusal::new(piece, &[], says));
        let marks = self.marks.clone();
        match self.by {
            MarkedBy::Typing => Ok(Source::Grid { marks }),
            MarkedBy::Photograph => {
                let Some(size_px) = size_px else {
                    return refuse(format!("The {} has no photograph yet: choose one.", piece.name()));
                };
                let sheets = self.sheets.iter().enumerate().map(|(index, sheet)| sheet.whole(piece, index));
                let photograph = Photograph {
                    size_px,
                    focal_px: self.focal_px,
                    sheets: sheets.collect::<Result<_, _>>()?,
                    known_length: self.known_length(),
                };
                Ok(Source::Photograph { photograph, marks })
            }
            MarkedBy::Path => {
                if self.path.trim().is_empty() {
                    return refuse(format!("The {} has no path yet: choose a file.", piece.name()));
                }
                let Some(mm_per_unit) = self.mm_per_unit else {
                    let says = "The scale of the path is not stated: say how long one of its units is.";
                    return refuse(says.to_owned());
                };
                Ok(Source::Path { path: self.path.clone(), mm_per_unit, clicks: marks })
            }
        }
    }

    /// What the photograph is held against: a tape that lies in it, or the first length by tape whose ends are both clicked.
    fn known_length(&self) -> Option<KnownLength> {
        if let (Ok(px), true) = (<[[f64; 2]; 2]>::try_from(self.tape.ends_px.as_slice()), self.tape.mm > 0.0)
        {
            return Some(KnownLength { marks: None, px: Some(px), mm: self.tape.mm });
        }
        let is_clicked = |mark: Cross| self.marks.has(Named::from(mark));
        let mut measured = self.controls.iter().filter(|length| length.is_measured());
        let known = measured.find(|length| is_clicked(length.from) && is_clicked(length.to))?;
        Some(KnownLength { marks: Some([known.from, known.to]), px: None, mm: known.mm })
    }
}

impl SheetInHand {
    fn whole(&self, piece: Draped, index: usize) -> Result<Sheet, Refusal> {
        let corners_px = <[[f64; 2]; 4]>::try_from(self.corners_px.as_slice()).map_err(|_| {
            let says = format!(
                "Sheet {} of the {} has {} of its 4 corners: click them all, one after the other round it, or leave the sheet out.",
                index + 1,
                piece.name(),
                self.corners_px.len()
            );
            Refusal::new(piece, &[], says)
        })?;
        Ok(Sheet { width: self.width, height: self.height, corners_px })
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_sheet_with_three_corners_is_named() {
        let sheet = SheetInHand { width: 297.0, height: 210.0, corners_px: vec![[0.0, 0.0]; 3] };
        let piece = PieceInHand { by: MarkedBy::Photograph, sheets: vec![sheet], ..PieceInHand::default() };
        let refusal = piece.source(Draped::Back, Some([4000, 3000])).unwrap_err();
        assert!(refusal.refuses.contains("Sheet 1 of the back has 3 of its 4 corners"), "{refusal}");
        let none = piece.source(Draped::Back, None).unwrap_err();
        assert!(none.refuses.contains("no photograph yet"), "{none}");
    }

    #[test]
    fn a_photograph_is_held_against_the_first_length_whose_ends_are_clicked() {
        let mut marks = Marks::default();
        marks.put(Cross::CentreTop, kurbo::Point::new(10.0, 10.0));
        marks.put(Cross::CentreWaist, kurbo::Point::new(10.0, 900.0));
        let length = |from, to, mm| ControlLength { from, to, mm };
        let controls = vec![
            length(Cross::Underarm, Cross::SideWaist, 210.0),
            length(Cross::CentreTop, Cross::CentreWaist, 360.0),
        ];
        let piece = PieceInHand { marks, controls, by: MarkedBy::Photograph, ..PieceInHand::default() };
        assert_eq!(piece.known_length().map(|known| known.mm), Some(360.0));
        // A tape that lies in the picture comes before.
        let tape = TapeInHand { ends_px: vec![[0.0, 0.0], [400.0, 0.0]], mm: 400.0 };
        let with_tape = PieceInHand { tape, ..piece };
        assert_eq!(with_tape.known_length().map(|known| (known.mm, known.px.is_some())), Some((400.0, true)));
    }
}
