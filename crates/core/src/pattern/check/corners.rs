//! Rules 2 and 6: right angles, and side seams that lean alike.

use kurbo::{Point, Vec2};

use super::{Check, CheckCode, Fault};
use crate::Style;
use crate::geometry::turn_degrees;
use crate::pattern::half::Half;
use crate::pattern::hang::hanging;
use crate::pattern::piece::{Pattern, Piece, Seam};

/// A right angle may be off by this, in degrees.
const SQUARE_TOLERANCE: f64 = 3.0;
/// Underarm corners of front and back together may be off 180 by this, in degrees.
const UNDERARM_TOLERANCE: f64 = 5.0;
/// Side seams out of balance by this are fine, in millimetres a hand above the waist.
const BALANCE_FINE: f64 = 1.6;
/// Up to this they are a doubt, beyond it a fault.
const BALANCE_DOUBT: f64 = 3.0;

pub(super) fn corners(pattern: &Pattern, style: Style) -> Vec<Check> {
    let mut checks = Vec::new();
    if let Some((front, back)) = pattern.front_half().zip(pattern.back_half()) {
        checks.extend(shoulder_corners(&front, &back));
        checks.extend(AT_SIDE.iter().filter_map(|place| place.check(&front, &back)));
        checks.extend(front.begins(Seam::Side).map(|front| side_balance(pattern, front, style)));
    }
    if let Some((front, back)) = pattern.skirt_halves().or_else(|| pattern.joined_skirt_halves()) {
        checks.extend(AT_SIDE_OF_SKIRT.iter().filter_map(|place| place.check(&front, &back)));
    }
    checks.push(centre_square(pattern));
    checks
}

/// The angle inside the piece where one edge meets the next, in degrees.
fn corner(into: Vec2, out: Vec2) -> f64 {
    180.0 - turn_degrees(into, out)
}

fn corner_after(piece: &Piece, seam: Seam) -> Option<(Point, f64)> {
    let last = piece.edges.iter().rposition(|edge| edge.seam == seam)?;
    let next = &piece.edges[(last + 1) % piece.edges.len()];
    let before = &piece.edges[last].curve;
    Some((before.end(), corner(before.end_direction(), next.curve.start_direction())))
}

/// The corner before the first edge of a seam.
fn corner_before(piece: &Piece, seam: Seam) -> Option<(Point, f64)> {
    let first = piece.edges.iter().position(|edge| edge.seam == seam)?;
    let before = &piece.edges[(first + piece.edges.len() - 1) % piece.edges.len()];
    let next = &piece.edges[first].curve;
    Some((next.start(), corner(before.curve.end_direction(), next.start_direction())))
}

fn together(
    front: &Piece,
    place: &str,
    at: Option<(Point, f64)>,
    other: Option<(Point, f64)>,
    tolerance: f64,
) -> (f64, Option<Fault>) {
    let sum = at.map_or(0.0, |(_, angle)| angle) + other.map_or(0.0, |(_, angle)| angle);
    let is_off = (sum - 180.0).abs() > tolerance;
    let where_at = at.map_or(Point::ZERO, |(at, _)| at);
    let word = if sum < 180.0 { "peak" } else { "dip" };
    let says = || format!("front and back make a {word} of {:.1}\u{b0} {place}", (sum - 180.0).abs());
    (sum, is_off.then(|| Fault::new(front.kind, where_at, says())))
}

fn shoulder_corners(front: &Half<'_>, back: &Half<'_>) -> Option<Check> {
    let at = |half: &Half<'_>, seam| half.ends(seam).and_then(|piece| corner_after(piece, seam));
    let of = |place, seam| -> Option<(f64, Option<Fault>)> {
        Some(together(front.ends(seam)?, place, at(front, seam), at(back, seam), SQUARE_TOLERANCE))
    };
    let (neck, at_neck) = of("at the neck", Seam::Neckline)?;
    // A shoulder that goes on into the sleeve has no tip.
    let tip = of("at the tip", Seam::Shoulder).filter(|_| front.ends(Seam::Overarm).is_none());
    let at_tip = tip.as_ref().map(|(arm, _)| format!(", {arm:.1}\u{b0} at the tip")).unwrap_or_default();
    Some(Check::new(
        CheckCode::ShoulderCorners,
        format!("front and back together {neck:.1}\u{b0} at the neck{at_tip} (180)"),
        at_neck.into_iter().chain(tip.and_then(|(_, fault)| fault)).collect(),
    ))
}

/// Where front and back meet at the side, a corner of each: together they make a straight line.
struct AtSide {
    code: CheckCode,
    /// How the place is said.
    place: &'static str,
    /// The piece of a half that has the corner.
    on: for<'a> fn(&Half<'a>) -> Option<&'a Piece>,
    /// The corner of that piece there.
    corner: fn(&Piece) -> Option<(Point, f64)>,
    /// How far both together may be off, in degrees.
    tolerance: f64,
}

/// The places of a bodice or a dress, from above.
const AT_SIDE: [AtSide; 7] = [
    AtSide {
        code: CheckCode::UnderarmCorners,
        place: "under the arm",
        on: |half| half.ends(Seam::Armhole),
        corner: |piece| corner_after(piece, Seam::Armhole),
        tolerance: UNDERARM_TOLERANCE,
    },
    AtSide {
        code: CheckCode::SleeveEdgeCorners,
        place: "of the sleeve's edge over the arm",
        on: |half| half.ends(Seam::Overarm),
        corner: |piece| corner_after(piece, Seam::Overarm),
        tolerance: SQUARE_TOLERANCE,
    },
    AtSide {
        code: CheckCode::SleeveEdgeCorners,
        place: "of the sleeve's edge under the arm",
        on: |half| half.ends(Seam::SleeveEdge),
        corner: |piece| corner_after(piece, Seam::SleeveEdge),
        tolerance: SQUARE_TOLERANCE,
    },
    AtSide {
        code: CheckCode::UpperEdgeCorners,
        place: "of the upper edge at the side",
        on: |half| half.ends(Seam::UpperEdge),
        corner: |piece| corner_after(piece, Seam::UpperEdge),
        tolerance: SQUARE_TOLERANCE,
    },
    AtSide {
        code: CheckCode::UnderBustCorners,
        place: "at the side above the seam under the bust",
        on: |half| half.above_band().last().copied(),
        corner: |piece| corner_before(piece, Seam::UnderBust),
        tolerance: SQUARE_TOLERANCE,
    },
    AtSide {
        code: CheckCode::UnderBustCorners,
        place: "at the side below the seam under the bust",
        on: |half| half.ends(Seam::UnderBust),
        corner: |piece| corner_after(piece, Seam::UnderBust),
        tolerance: SQUARE_TOLERANCE,
    },
    HEM,
];
/// The places of a skirt.
const AT_SIDE_OF_SKIRT: [AtSide; 2] = [
    AtSide {
        code: CheckCode::WaistCorners,
        place: "of the waist at the side",
        on: |half| half.ends(Seam::Waist),
        corner: |piece| corner_after(piece, Seam::Waist),
        tolerance: SQUARE_TOLERANCE,
    },
    HEM,
];
const HEM: AtSide = AtSide {
    code: CheckCode::HemCorners,
    place: "of the hem at the side",
    on: |half| half.ends(Seam::Hem),
    corner: |piece| corner_before(piece, Seam::Hem),
    tolerance: SQUARE_TOLERANCE,
};

impl AtSide {
    /// The rule on these halves; none where one of them has no such corner.
    fn check(&self, front: &Half<'_>, back: &Half<'_>) -> Option<Check> {
        let (front, back) = ((self.on)(front)?, (self.on)(back)?);
        let (sum, fault) =
            together(front, self.place, Some((self.corner)(front)?), (self.corner)(back), self.tolerance);
        let says = format!("front and back together {sum:.1}\u{b0} {} (180)", self.place);
        Some(Check::new(self.code, says, fault.into_iter().collect()))
    }
}

/// Rule 6: front and back hang alike, less the draft's own reason.
fn side_balance(pattern: &Pattern, front: &Piece, style: Style) -> Check {
    let Some(hangs) = hanging(pattern) else {
        let says = "not judged: this pattern does not say how it was drafted".to_owned();
        return Check::new(CheckCode::SideBalance, says, Vec::new());
    };
    let side = |mm: f64| match (style.is_alike(mm, 0.0), mm < 0.0) {
        (true, _) => "hangs straight".to_owned(),
        (false, inwards) => {
            format!(
                "leans {} {}",
                if inwards { "inwards by" } else { "outwards by" },
                style.with_unit(mm.abs())
            )
        }
    };
    let apart = style.with_unit(hangs.off.abs());
    let says = format!("above the waist the front {}, the back {}", side(hangs.front), side(hangs.back));
    let says = match hangs.off.abs() {
        off if off <= BALANCE_FINE => format!("{says}, as drafted"),
        off if off <= BALANCE_DOUBT => format!("{says}: {apart} apart, look at it on the toile"),
        _ => says,
    };
    let off = || {
        let way = if hangs.off > 0.0 { "front" } else { "back" };
        let says = format!("the {way}'s side seam leans out by {apart} more than it was drafted to");
        let at = front.edges_of(Seam::Side).next().map_or(Point::ZERO, |edge| edge.curve.start());
        Fault::new(front.kind, at, says)
    };
    let faults = if hangs.off.abs() <= BALANCE_DOUBT { Vec::new() } else { vec![off()] };
    Check::new(CheckCode::SideBalance, says, faults)
}

/// Whether the outline closes at a centre line.
fn has_a_centre(piece: &Piece) -> bool {
    matches!(piece.kind.centre(), Seam::CentreFront | Seam::CentreBack)
}

fn centre_square(pattern: &Pattern) -> Check {
    let mut faults = Vec::new();
    for piece in pattern.pieces.iter().filter(|piece| has_a_centre(piece)) {
        // A neckline or an upper edge that comes to a point there is no corner that was lost: it is the shape.
        let is_pointed = piece.neckline.is_some_and(|base| base.pointed);
        let top = piece.edges.last().zip(piece.edges.first()).filter(|_| !is_pointed);
        let at_neck =
            top.map(|(c, n)| (n.curve.start(), corner(c.curve.end_direction(), n.curve.start_direction())));
        // What the outline begins with was looked at: a skirt's waist, a band's seam under the bust.
        let begins = piece.edges.first().map_or(Seam::Neckline, |edge| edge.seam);
        let ends = [Seam::UnderBust, Seam::Waist, Seam::Hem].into_iter().filter(|seam| *seam != begins);
        let below = ends.map(|seam| (seam.name(), corner_after(piece, seam)));
        for (place, found) in std::iter::once((begins.name(), at_neck)).chain(below) {
            let Some((at, angle)) = found.filter(|(_, angle)| (angle - 90.0).abs() > SQUARE_TOLERANCE) else {
                continue;
            };
            let says = format!("{} {place} meets the centre at {angle:.1}\u{b0}", piece.kind.name());
            faults.push(Fault::new(piece.kind, at, says));
        }
    }
    let has = |seam| pattern.pieces.iter().any(|piece| piece.first_edge(seam).is_some());
    let says = if has(Seam::Neckline) {
        "neckline and waist leave the centre square"
    } else if has(Seam::UpperEdge) {
        "upper edge and waist leave the centre square"
    } else {
        "waist and hem leave the centre square"
    };
    Check::of_faults(CheckCode::CentreSquare, says, faults)
}
