//! More fullness over a seam under the bust: the gathered upper part is cut from the seam up to the shoulder and opened at the
//! seam (handbook: `wishes.md`, section 3). The shoulder, and all that is moved, keeps its length.

use kurbo::Point;

use super::AlterError;
use crate::Style;
use crate::geometry::Curve;
use crate::pattern::{Gather, Join, Motion, Part, Piece, Place, Seam, Slash, true_kinks};

/// A cut opens by this at most, in millimetres (common practice, no source).
const MOST_A_CUT: f64 = 25.0;
/// The seam is drawn smooth over this length either side of an opened cut, in millimetres.
const SMOOTH: f64 = 30.0;

/// What the seam gains is what was asked for within this, in millimetres, after so many tries at most.
const SAME: f64 = 1e-4;
const MOST_TRIES: usize = 12;

/// An upper part that was opened, and the lines it was cut along.
pub(super) struct Spread {
    pub(super) upper: Piece,
    /// On the part before it was opened, the one nearest to the side first.
    pub(super) cuts: Vec<Curve>,
    /// What its gathers grew by, in millimetres.
    pub(super) grown: f64,
}

/// A gathered upper part opened by so much in all.
pub(super) fn spread(upper: &Piece, by: f64, style: Style) -> Result<Spread, AlterError> {
    let refused = |why: &str| {
        AlterError::not_here(format!(
            "{} more fullness cannot be spread from the seam to the shoulder: {why}",
            style.with_unit(by)
        ))
    };
    // Of two, the one under the bust point: it lies nearer to the centre, and is told last.
    let gathers = { upper.gathers.iter() }
        .rposition(|gather| gather.seam == Seam::UnderBust)
        .ok_or_else(|| refused("it is spread where it is gathered"))?;
    let gather = upper.gathers[gathers];
    if upper.edges_of(Seam::Shoulder).count() != 1 {
        return Err(refused("the shoulder has a dart, turn it away first"));
    }
    let count = (by / MOST_A_CUT).ceil().max(1.0);
    let too_low = || refused("the part is too low for that");
    // Drawn smooth the seam gains a little less than the cuts open by: they open by what makes it gain all of it.
    let mut each = by / count;
    let (mut opened, mut grown) = opened_by(upper, gather, count, each).ok_or_else(too_low)?;
    for _ in 0..MOST_TRIES {
        if (grown - by).abs() < SAME {
            break;
        }
        each *= by / grown;
        (opened, grown) = opened_by(upper, gather, count, each).ok_or_else(too_low)?;
    }
    let ends = gather.from_underarm + gather.flat;
    for notch in opened.notches.iter_mut().filter(|notch| notch.seam == Seam::UnderBust) {
        if notch.from_underarm > ends - 1.0 {
            notch.from_underarm += grown;
        }
    }
    // The seam is drawn in to what it was: it is sewn to the same band.
    opened.gathers[gathers].flat += grown;
    opened.gathers[gathers].amount += grown;
    let cuts = cuts(upper, gather, count).filter_map(|(along, up)| cut_line(upper, along, up)).collect();
    Ok(Spread { upper: opened, cuts, grown })
}

/// Where the cuts meet the seam, from the side, and the shoulder, from the neck side: evenly between the notches below and
/// along the shoulder above, the outermost first.
fn cuts(upper: &Piece, gather: Gather, count: f64) -> impl Iterator<Item = (f64, f64)> {
    let shoulder = upper.flat_length(Seam::Shoulder);
    (0..count as u32).map(move |index| {
        let share = (f64::from(index) + 0.5) / count;
        (gather.from_underarm + gather.flat * share, shoulder * (1.0 - share))
    })
}

/// The part with each cut opened by so much and the seam drawn smooth, and what the seam gained.
fn opened_by(upper: &Piece, gather: Gather, count: f64, each: f64) -> Option<(Piece, f64)> {
    let flat = |piece: &Piece| piece.flat_length(Seam::UnderBust);
    let mut opened = upper.clone();
    for (along, up) in cuts(upper, gather, count) {
        let gained = flat(&opened) - flat(upper);
        opened = opened_at(&opened, (along + gained, up), each)?;
    }
    true_kinks(&mut opened, Seam::UnderBust, SMOOTH);
    let grown = flat(&opened) - flat(upper);
    (grown > 0.0).then_some((opened, grown))
}

/// So far along the seam from the side, and along the shoulder from the neck side.
fn places(piece: &Piece, (along, up): (f64, f64)) -> Option<[Place; 2]> {
    let seam = piece.first_edge(Seam::UnderBust)?;
    let shoulder = piece.first_edge(Seam::Shoulder)?;
    Some([Place { edge: seam, along }, Place { edge: shoulder, along: up }])
}

fn at(piece: &Piece, place: Place) -> Point {
    piece.edges[place.edge].curve.point_at(place.along)
}

fn cut_line(piece: &Piece, along: f64, up: f64) -> Option<Curve> {
    let [seam, shoulder] = places(piece, (along, up))?;
    Some(Curve::line(at(piece, seam), at(piece, shoulder)))
}

/// Cut from the seam to the shoulder, and what lies towards the side turned about the shoulder until the seam is so much open.
fn opened_at(piece: &Piece, cut: (f64, f64), by: f64) -> Option<Piece> {
    let [seam, shoulder] = places(piece, cut)?;
    let (about, foot) = (at(piece, shoulder), at(piece, seam));
    let half = by / 2.0 / about.distance(foot);
    let turn = 2.0 * (half < 1.0).then(|| half.asin())?;
    let moved =
        Part { from: shoulder, to: seam, inner: Vec::new(), motion: Motion::Turn { about, by: -turn } };
    let still = Part { from: seam, to: shoulder, inner: Vec::new(), motion: Motion::Still };
    let slash = Slash { parts: vec![(still, Join::Meet), (moved, Join::Gap(Seam::UnderBust))] };
    slash.apply(piece).ok()
}
