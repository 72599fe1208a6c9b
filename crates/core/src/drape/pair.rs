//! Front and back held against each other: shoulders and sides of one length, corners that make a straight line
//! (drape.md, section 9).

use super::facts::{Given, Hand};
use super::marks::{Cross, Named};
use super::report::{Ask, Correction, DrapeUnit, Draped, Notes};
use super::shape::Closed;
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
    /// How much longer the back is meant to be, in millimetres.
    meant: f64,
    lengths: [f64; 2],
    marks: [Cross; 2],
}

impl Shared {
    fn over(&self) -> f64 {
        self.lengths[1] - self.lengths[0] - self.meant
    }
}

/// Shares what shoulders and sides differ over all four ends, and squares the corners of paper. Pieces in the order front, back.
pub(super) fn settle(closed: &mut [Closed; 2], hands: &[Hand; 2], given: &Given, notes: &mut Notes) {
    let is_paper = hands.iter().any(Hand::is_paper);
    let sigma = hands.iter().map(Hand::sigma).fold(0.0, f64::max);
    let shoulder = Shared {
        name: "shoulder",
        meant: given.shoulder_ease,
        lengths: [closed[0].shoulder.length(), closed[1].shoulder.length()],
        marks: [Cross::NeckSide, Cross::Tip],
    };
    if share(&shoulder, is_paper, sigma, notes) {
        let by = shoulder.over() / 4.0;
        for (closed, longer) in closed.iter_mut().zip([by, -by]) {
            let along = closed.shoulder.along();
            closed.shoulder.neck -= along * longer;
            closed.shoulder.tip += along * longer;
        }
    }
    let side = Shared {
        name: "side seam",
        meant: 0.0,
        lengths: [closed[0].side.length(), closed[1].side.length()],
        marks: [Cross::Underarm, Cross::SideWaist],
    };
    if share(&side, is_paper, sigma, notes) {
        let by = side.over() / 4.0;
        for (closed, longer) in closed.iter_mut().zip([by, -by]) {
            let along = closed.side.along();
            closed.side.underarm -= along * longer;
            closed.side.waist += along * longer;
        }
    }
    if is_paper {
        straighten_corners(closed, notes);
    }
}

/// Tells and asks about a difference, and whether it is to be shared: what a bought pattern has more is meant.
fn share(seam: &Shared, is_paper: bool, sigma: f64, notes: &mut Notes) -> bool {
    let over = seam.over();
    let [front, back] = seam.lengths;
    let keeps = is_paper && over.abs() > LISTED;
    if keeps {
        notes.notes.push(format!(
            "The {} is {front:.1} mm in front and {back:.1} mm behind: kept as drawn, as a bought pattern means its ease.",
            seam.name
        ));
        return false;
    }
    for (piece, length, sign) in [(Draped::Front, front, 1.0), (Draped::Back, back, -1.0)] {
        let what = format!("{}: front and back made to join, {front:.1} and {back:.1} mm before", seam.name);
        let lengths = (length, length + sign * over / 2.0);
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
fn straighten_corners(closed: &mut [Closed; 2], notes: &mut Notes) {
    // The tangents leave the square by their turn: a straight line where both turns take each other away.
    for (place, turn) in [
        ("neck", (|closed: &mut Closed| &mut closed.turns.neck) as fn(&mut Closed) -> &mut f64),
        ("tip", |closed: &mut Closed| &mut closed.turns.tip),
    ] {
        let [front, back] = closed;
        // Both pieces lie with the centre on the left, so the same turn opens both corners.
        let off = (*turn(front) + *turn(back)).to_degrees();
        if off.abs() <= CORNER {
            continue;
        }
        for (piece, closed) in [(Draped::Front, front), (Draped::Back, back)] {
            let before = turn(closed).to_degrees();
            *turn(closed) -= off.to_radians() / 2.0;
            let what = format!("corner at the {place}: front and back together made straight");
            let degrees = (90.0 + before, 90.0 + turn(closed).to_degrees());
            notes.corrections.push(Correction::new(piece, what, degrees, DrapeUnit::Degrees));
        }
    }
}

/// How a side seam leans out on its way down with the darts above it closed, in degrees.
pub(super) fn lean(closed: &Closed) -> f64 {
    -turn_degrees(quarter_turn(kurbo::Vec2::new(1.0, 0.0)), closed.side.along())
}
