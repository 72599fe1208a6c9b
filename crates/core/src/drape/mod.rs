//! From cloth or paper with marks to a trued front and back (handbook: `drape.md`).
//!
//! The marks come typed from two lines, from a photograph with sheets of known size, or as corners of a path file. All of it
//! is a pure function of what was clicked and what was stated: nothing is corrected unseen, and everything is computed anew
//! from the clicks whenever it is looked at.
//!
//! In the order of the work: a photograph is taken to its plane (`photograph`), a path to its outline (`path_file`); the
//! piece is brought to its own frame (`frame`); marks that cannot be where they are, are asked about (`order`); darts are
//! shaped (`darts`), straight lines and curves drawn through the dots with the darts closed (`straight`, `bend`, `shape`);
//! front and back are held against each other (`pair`); lines are cut at the darts and laid flat (`drawing`).

mod bend;
mod by_distances;
mod checklist;
mod cloth_sheet;
mod controls;
mod darts;
mod drawing;
mod facts;
mod figures;
mod frame;
mod in_hand;
mod input;
mod marks;
mod order;
mod pair;
mod paper;
mod path_file;
mod photograph;
mod report;
mod shape;
mod slashed;
mod straight;

pub use by_distances::by_distances;
pub use checklist::{MarkNeed, MarkWanted, darts_there_may_be, marks_of_a_toile};
pub use cloth_sheet::{ClothFigure, ClothLine, ClothSheet, DrapingCloth, cloth_sheet};
pub use controls::PieceControl;
pub use facts::{Allowance, Given, HandKind, Material, TAPE_WIDTHS, WaistMarked};
pub use in_hand::{
    ControlLength, DartsDecided, DrapeFacts, DrapeInHand, MOST_CONTROLS, MarkedBy, PieceInHand, SheetInHand,
    TapeInHand,
};
pub use input::{DrapeInput, Source};
pub use marks::{Cross, Marks, Named, Run};
pub use path_file::LONGEST_PATH;
pub use photograph::{KnownLength, MOST_SHEETS, Photograph, Sheet};
pub use report::{
    Ask, CameraFound, Correction, DrapeFigure, DrapeUnit, Draped, Exchange, LineFit, Refusal, Transfer,
};

pub use slashed::{MarkedGap, SlashedBack};

use kurbo::Point;

use crate::pattern::Piece;
use drawing::{bust_levels, outline_piece};
use facts::Hand;
use frame::{Framed, frame};
use marks::are_on_the_table;
use path_file::Outline;
use report::{Notes, listed};
use shape::{Closed, Cloth, Joins, eased_bust_point, underarm_level};

/// A piece on the plane it lay in, before anything is drawn.
struct Placed {
    marks: Marks,
    hand: Hand,
    /// Of a path: its outline.
    outline: Option<Outline>,
}

/// A piece in its own frame with its darts shaped.
struct Ready {
    marks: Marks,
    hand: Hand,
    outline: Option<Outline>,
    darts: Vec<darts::ShapedDart>,
}

/// Front and back from what was clicked.
///
/// # Errors
///
/// A [`Refusal`]: one sentence that says what is wanting, and the marks it is about.
pub fn transfer(input: &DrapeInput) -> Result<Transfer, Refusal> {
    input.given.check()?;
    if input.given.material == Some(Material::Slashed) {
        return Err(Refusal::new(Draped::Back, &[], slashed::NO_BLOCK.to_owned()));
    }
    let mut notes = Notes::default();
    let mut cameras = Vec::new();
    let mut place = |piece: Draped| -> Result<Placed, Refusal> {
        let placed = placed(piece, input.source(piece), &input.given, &mut cameras, &mut notes)?;
        wanted(piece, &placed)?;
        controls::hold(
            piece,
            input.source(piece),
            (&placed.marks, &placed.hand),
            &input.controls,
            &mut notes,
        );
        Ok(placed)
    };
    let (front, back) = (place(Draped::Front)?, place(Draped::Back)?);
    let front = in_frame(Draped::Front, front, &mut notes)?;
    let back = in_frame(Draped::Back, back, &mut notes)?;
    let clicked = [&front, &back].map(|ready| ready.as_ref().map(|(framed, _)| framed.marks.clone()));
    let told = |notes: Notes, pieces| Transfer {
        pieces,
        clicked,
        lines: notes.lines,
        corrections: notes.corrections,
        asks: notes.asks,
        figures: notes.figures,
        notes: notes.notes,
        camera: cameras,
    };
    // Marks that cannot be where they are: nothing is drawn before they are mended.
    let (Some(front), Some(back)) = (front, back) else { return Ok(told(notes, Vec::new())) };
    let front = shaped(Draped::Front, front, &input.given, &mut notes)?;
    let back = shaped(Draped::Back, back, &input.given, &mut notes)?;
    let pieces = drawn(&[front, back], &input.given, &mut notes)?;
    figures::of_pieces(&pieces, &mut notes);
    Ok(told(notes, pieces.into()))
}

/// The marks of a photograph on the plane the toile lay in, in millimetres: the frame is the first sheet's.
///
/// # Errors
///
/// A [`Refusal`] where the sheets do not tell the camera, or a mark lies nowhere on the plane.
pub fn on_plane(
    piece: Draped,
    photograph: &Photograph,
    marks: &Marks,
) -> Result<(Marks, CameraFound), Refusal> {
    let mut unheard = Notes::default();
    photograph::rectify(piece, photograph, marks, &mut unheard).map(|found| (found.marks, found.camera))
}

/// What a slash and a drawn centre back tell, of a back that was slashed on her and lies flat.
///
/// # Errors
///
/// A [`Refusal`]: one sentence that says what is wanting, and the marks it is about.
pub fn slashed_back(
    source: &Source,
    given: &Given,
    controls: &[PieceControl],
) -> Result<SlashedBack, Refusal> {
    given.check()?;
    if matches!(source, Source::Path { .. }) {
        let says = "A path file has no slash: type its marks, or click them in a photograph.";
        return Err(Refusal::new(Draped::Back, &[], says.to_owned()));
    }
    let mut notes = Notes::default();
    let given = Given { material: Some(Material::Slashed), ..given.clone() };
    let placed = placed(Draped::Back, source, &given, &mut Vec::new(), &mut notes)?;
    controls::hold(Draped::Back, source, (&placed.marks, &placed.hand), controls, &mut notes);
    slashed::read(&placed.marks, &placed.hand, notes)
}

/// Takes the marks of a piece to the plane it lay in.
fn placed(
    piece: Draped,
    source: &Source,
    given: &Given,
    cameras: &mut Vec<CameraFound>,
    notes: &mut Notes,
) -> Result<Placed, Refusal> {
    let placed = match source {
        Source::Grid { marks } => {
            Placed { marks: marks.clone(), hand: Hand::stated(given, material(given, marks)), outline: None }
        }
        Source::Photograph { photograph, marks } => {
            let found = photograph::rectify(piece, photograph, marks, notes)?;
            cameras.push(found.camera);
            let hand = Hand::stated(given, material(given, marks)).seen_within(found.click);
            Placed { marks: found.marks, hand, outline: None }
        }
        Source::Path { path, mm_per_unit, clicks } => {
            let outline = path_file::traced(piece, path, *mm_per_unit, clicks)?;
            Placed { marks: outline.marks.clone(), hand: Hand::drawn(), outline: Some(outline) }
        }
    };
    are_on_the_table(&placed.marks).map_err(|named| {
        let says = format!(
            "The {} of the {} lies too far off to be on a table: click it again.",
            named.name(),
            piece.name()
        );
        Refusal::new(piece, &[named], says)
    })?;
    Ok(placed)
}

/// What was marked: stated, or told by the marks.
fn material(given: &Given, marks: &Marks) -> Material {
    let traced = if marks.dots(Run::ArmholeLowerDots).is_empty() { Material::Toile } else { Material::Paper };
    given.material.unwrap_or(traced)
}

/// Refuses a piece of which a mark is missing, naming all that are.
fn wanted(piece: Draped, placed: &Placed) -> Result<(), Refusal> {
    let every = Cross::OF_EVERY_PIECE.into_iter().map(Named::from);
    let wanted: Vec<Named> =
        if placed.outline.is_some() { path_file::wanted().collect() } else { every.collect() };
    let missing: Vec<Named> = wanted.into_iter().filter(|named| !placed.marks.has(*named)).collect();
    if missing.is_empty() {
        return darts::have_both_legs(piece, &placed.marks);
    }
    let names: Vec<&str> = missing.iter().map(|named| named.name()).collect();
    let says = format!("The {} has no mark for the {}: click what is missing.", piece.name(), listed(&names));
    Err(Refusal::new(piece, &missing, says))
}

/// Brings a piece to its own frame. `None` where its marks cannot be where they are: that is asked about.
fn in_frame(
    piece: Draped,
    mut placed: Placed,
    notes: &mut Notes,
) -> Result<Option<(Framed, Placed)>, Refusal> {
    let mut own = Notes::default();
    let framed = frame(piece, &placed.marks, &placed.hand, &mut own);
    let mut framed = match framed {
        Ok(framed) => framed,
        // A centre or a level that cannot be: two marks exchanged may be why.
        Err(refusal) => {
            let asks = order::asks(piece, &placed.marks, &placed.hand, &[]);
            if asks.is_empty() {
                return Err(refusal);
            }
            notes.asks.extend(asks);
            return Ok(None);
        }
    };
    if let Some(outline) = placed.outline.take() {
        let outline = outline.framed(piece, &framed.to_frame)?;
        framed.marks = outline.dotted();
        placed.outline = Some(outline);
    }
    let faults = order::faults(piece, &framed.marks);
    if !faults.is_empty() {
        notes.asks.extend(order::asks(piece, &placed.marks, &placed.hand, &faults));
        return Ok(None);
    }
    notes.take(own);
    Ok(Some((framed, placed)))
}

/// Shapes the darts of a piece; of a traced cutting line after it was moved in.
fn shaped(
    piece: Draped,
    (framed, placed): (Framed, Placed),
    given: &Given,
    notes: &mut Notes,
) -> Result<Ready, Refusal> {
    let Placed { hand, outline, .. } = placed;
    let marks = match given.allowance.filter(|_| hand.is_paper()) {
        Some(allowance) => moved_in(piece, &framed.marks, &hand, given, &allowance)?,
        None => framed.marks,
    };
    // A path whose cutting line was traced is drawn through its dots like any other.
    let outline = outline.filter(|_| given.allowance.is_none());
    let marks = eased_bust_point(&marks, given);
    let darts = darts_of(piece, &marks, &hand, given, outline.as_ref(), notes)?;
    Ok(Ready { marks, hand, outline, darts })
}

fn darts_of(
    piece: Draped,
    marks: &Marks,
    hand: &Hand,
    given: &Given,
    outline: Option<&Outline>,
    notes: &mut Notes,
) -> Result<Vec<darts::ShapedDart>, Refusal> {
    let underarm = underarm_level(marks, given);
    let points_are_pivots = outline.is_some();
    darts::Darts { piece, marks, hand, given, points_are_pivots, underarm }.shaped(notes)
}

/// A cutting line is moved in so often: each round knows better how its lines run into their corners.
const ROUNDS_INWARDS: u32 = 3;

/// The marks of the stitching line of a piece whose cutting line was traced.
fn moved_in(
    piece: Draped,
    marks: &Marks,
    hand: &Hand,
    given: &Given,
    allowance: &Allowance,
) -> Result<Marks, Refusal> {
    let mut unheard = Notes::default();
    // The centre of the stitching line is the centre.
    let cut = marks.map(|at| Point::new(at.x - allowance.centre, at.y));
    let mut stitched = cut.clone();
    for round in 0..ROUNDS_INWARDS {
        let darts = darts_of(piece, &stitched, hand, given, None, &mut unheard)?;
        let cloth = Cloth { piece, marks: &stitched, hand, given, darts: &darts };
        let closed = cloth.closed(&mut unheard)?;
        stitched = paper::stitching(&cloth, &closed, &cloth.curves(&closed), (&cut, allowance), round == 0);
    }
    Ok(frame(piece, &stitched, hand, &mut unheard)?.marks)
}

/// How a piece comes to its lines.
enum Lines<'a> {
    /// Through its marks and dots.
    Fitted(Closed),
    /// As a program drew them: nothing was clicked that could be mended.
    Standing(&'a Outline),
}

impl<'a> Lines<'a> {
    fn of(cloth: &Cloth<'_>, outline: Option<&'a Outline>, notes: &mut Notes) -> Result<Self, Refusal> {
        match outline.filter(|outline| outline.is_drawn_true()) {
            Some(outline) => Ok(Self::Standing(outline)),
            None => cloth.closed(notes).map(Self::Fitted),
        }
    }

    fn joins(&self, cloth: &Cloth<'_>) -> Joins {
        match self {
            Self::Fitted(closed) => closed.joins,
            Self::Standing(_) => cloth.standing(),
        }
    }

    /// The piece, as it joins the other one.
    fn finished(self, cloth: &Cloth<'_>, joins: Joins, notes: &mut Notes) -> Result<Piece, Refusal> {
        match self {
            Self::Fitted(closed) => {
                let closed = Closed { joins, ..closed };
                let curves = cloth.curves(&closed);
                figures::of_lines(cloth.piece, &closed, &curves.lower_armhole, notes);
                cloth.draw_piece(&closed, curves)
            }
            Self::Standing(outline) => {
                notes.corrections.retain(|correction| correction.piece != cloth.piece);
                notes
                    .notes
                    .push(format!("The outline of the {} is kept as it is drawn.", cloth.piece.name()));
                outline_piece(cloth, outline)
            }
        }
    }
}

/// The finished pieces.
fn drawn([front, back]: &[Ready; 2], given: &Given, notes: &mut Notes) -> Result<[Piece; 2], Refusal> {
    let cloths = [(Draped::Front, front), (Draped::Back, back)]
        .map(|(piece, Ready { marks, hand, darts, .. })| Cloth { piece, marks, hand, given, darts });
    let front_lines = Lines::of(&cloths[0], front.outline.as_ref(), notes)?;
    let back_lines = Lines::of(&cloths[1], back.outline.as_ref(), notes)?;
    let mut joins = [front_lines.joins(&cloths[0]), back_lines.joins(&cloths[1])];
    pair::settle(&mut joins, &[front.hand, back.hand], given, notes);
    let mut pieces = [
        front_lines.finished(&cloths[0], joins[0], notes)?,
        back_lines.finished(&cloths[1], joins[1], notes)?,
    ];
    bust_levels(&cloths, joins.map(|joins| joins.side), &mut pieces);
    Ok(pieces)
}
