//! Front and back held against each other: shoulders and sides of one length, corners that make a straight line
//! (drape.md, section 9).

use super::facts::{Given, Hand};
use super::marks::{Cross, Named};
use super::report::{Ask, Correction, DrapeUnit, Draped, Notes};
use super::shape::{Closed, ClosedSeam, Joins};
use crate::geometry::{quarter_turn, turn_degrees};

/// A difference of sewn lengths that so many spreads of a hand do not explain is asked about.
const APART: f64 = 6.0;
/// From here on a difference is listed, in millimetres.
const LISTED: f64 = 3.0;
/// Corners of front and back on paper may together be off a straight line by this, in degrees.
const CORNER: f64 = 2.5;

/// One of the two seams that front and back share.
struct Shared {
    name: &'static str,
    of: fn(&mut Joins) -> &mut ClosedSeam,
    /// How much longer the back is meant to be, in millimetres.
    meant: f64,
    marks: [Cross; 2],
}

/// Shares what shoulders and sides differ over all four ends, and squares the corners of paper. Pieces in the order front, back.
pub(super) fn settle(joins: &mut [Joins; 2], hands: &[Hand; 2], given: &Given, notes: &mut Notes) {
    let is_paper = hands.iter().any(Hand::is_paper);
    let sigma = hands.iter().map(Hand::sigma).fold(0.0, f64::max);
    for seam in [
        Shared {
            name: "shoulder",
            of: |joins| &mut joins.shoulder,
            meant: given.shoulder_ease,
            marks: [Cross::NeckSide, Cross::Tip],
        },
        Shared {
            name: "side seam",
            of: |joins| &mut joins.side,
            meant: 0.0,
            marks: [Cross::Underarm, Cross::SideWaist],
        },
    ] {
        let lengths = joins.each_mut().map(|joins| (seam.of)(joins).length());
        let over = lengths[1] - lengths[0] - seam.meant;
        let moves = joins.each_ref().map(|joins| !joins.stands);
        if share(&seam, lengths, (over, moves), (is_paper, sigma), notes) {
            for (joins, longer) in joins.iter_mut().zip(shares(over, moves)) {
                (seam.of)(joins).lengthen(longer);
            }
        }
    }
    if is_paper {
        straighten_corners(joins, notes);
    }
}

/// What front and back become longer, so that the back is no longer by so much: each by half, or the one that moves by all of it.
fn shares(over: f64, moves: [bool; 2]) -> [f64; 2] {
    match moves {
        [true, true] => [over / 2.0, -over / 2.0],
        [true, false] => [over, 0.0],
        [false, true] => [0.0, -over],
        [false, false] => [0.0, 0.0],
    }
}

/// Tells and asks about a difference, and whether it is to be shared: what a bought pattern has more is meant.
fn share(
    seam: &Shared,
    [front, back]: [f64; 2],
    (over, moves): (f64, [bool; 2]),
    (is_paper, sigma): (bool, f64),
    notes: &mut Notes,
) -> bool {
    if moves == [false, false] && over.abs() <= LISTED {
        return false;
    }
    if moves == [false, false] || (is_paper && over.abs() > LISTED) {
        notes.notes.push(format!(
            "The {} is {front:.1} mm in front and {back:.1} mm behind: kept as drawn, as a bought pattern means its ease.",
            seam.name
        ));
        return false;
    }
    let longer = Draped::BOTH.into_iter().zip([front, back]).zip(shares(over, moves));
    for ((piece, length), longer) in longer.filter(|(_, longer)| *longer != 0.0) {
        let what = format!("{}: front and back made to join, {front:.1} and {back:.1} mm before", seam.name);
        let lengths = (length, length + longer);
        let mut correction =
            Correction::new(piece, what, lengths, DrapeUnit::Mm).of(&seam.marks.map(Named::from));
        correction.needs_yes = over.abs() > LISTED;
        notes.corrections.push(correction);
    }
    if !is_paper && over.abs() > APART * sigma {
        notes.asks.push(Ask {
            piece: None,
            marks: seam.marks.map(Named::from).to_vec(),
            says: format!(
                "The {} is {front:.0} mm in front and {back:.0} mm behind: look at the {} and the {} of both pieces.",
                seam.name,
                seam.marks[0].name(),
                seam.marks[1].name()
            ),
            offer: None,
        });
    }
    true
}

/// Turns the ends of neckline and armhole of paper so that front and back together run straight over the shoulder.
fn straighten_corners(joins: &mut [Joins; 2], notes: &mut Notes) {
    // The tangents leave the square by their turn: a straight line where both turns take each other away.
    for (place, turn) in [
        ("neck", (|joins: &mut Joins| &mut joins.turns.neck) as fn(&mut Joins) -> &mut f64),
        ("tip", |joins: &mut Joins| &mut joins.turns.tip),
    ] {
        let [front, back] = joins;
        // Both pieces lie with the centre on the left, so the same turn opens both corners.
        let off = (*turn(front) + *turn(back)).to_degrees();
        if off.abs() <= CORNER {
            continue;
        }
        let moves = [!front.stands, !back.stands];
        let less = shares(off.to_radians(), moves).map(f64::abs);
        for ((piece, joins), less) in [(Draped::Front, front), (Draped::Back, back)].into_iter().zip(less) {
            if less == 0.0 {
                continue;
            }
            let before = turn(joins).to_degrees();
            *turn(joins) -= less * off.signum();
            let what = format!("corner at the {place}: front and back together made straight");
            let degrees = (90.0 + before, 90.0 + turn(joins).to_degrees());
            notes.corrections.push(Correction::new(piece, what, degrees, DrapeUnit::Degrees));
        }
    }
}

/// How a side seam leans out on its way down with the darts above it closed, in degrees.
pub(super) fn lean(closed: &Closed) -> f64 {
    -turn_degrees(quarter_turn(kurbo::Vec2::new(1.0, 0.0)), closed.joins.side.along())
}
