//! The "before you cut" list: one function a rule, each with figures, each able to fail.

use kurbo::{Line, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::curve::turn_degrees;
use super::piece::{DartPlace, Pattern, Piece, PieceKind, Seam};
use crate::Style;

/// Seams that join may differ by this, in millimetres.
const SEAM_TOLERANCE: f64 = 1.0;
/// Legs of a dart may differ by this, in millimetres.
const LEG_TOLERANCE: f64 = 0.5;
/// A right angle may be off by this, in degrees.
const SQUARE_TOLERANCE: f64 = 3.0;
/// Underarm corners of front and back together may be off 180 by this, in degrees.
const UNDERARM_TOLERANCE: f64 = 5.0;
/// Side seams may be out of balance by this, in degrees.
const BALANCE_TOLERANCE: f64 = 1.0;
/// The sharpest corner inside a smooth seam, in degrees.
pub const KINK_LIMIT: f64 = 8.0;
/// The widest mouth of a waist dart that sews flat (2 1/2 in), in millimetres.
pub const WAIST_DART_LIMIT: f64 = 63.5;

/// Which rule.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Hash, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum CheckCode {
    /// Front and back side seam.
    SideSeams,
    /// Front and back shoulder.
    Shoulders,
    /// Neckline and waist square to the centre line.
    CentreSquare,
    /// No peak or dip where the shoulders join.
    ShoulderCorners,
    /// No peak or dip under the arm.
    UnderarmCorners,
    /// Legs equal, point backed off, mouth not too wide.
    Darts,
    /// Closed, simple, smooth.
    Outline,
    /// Notches that meet fall together.
    Notches,
    /// Side seams lean alike.
    SideBalance,
}

/// One rule's verdict.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Check {
    /// Which rule.
    pub code: CheckCode,
    /// The rule in the trade's words.
    pub name: String,
    /// Whether it holds.
    pub passed: bool,
    /// The figures, as a sentence.
    pub says: String,
}

impl Check {
    fn new(code: CheckCode, name: &str, passed: bool, says: String) -> Self {
        Self { code, name: name.to_owned(), passed, says }
    }
}

/// Every rule that applies to front and back bodice, in the order a cutter looks.
pub fn check_pattern(pattern: &Pattern, style: Style) -> Vec<Check> {
    let mut checks = Vec::new();
    let front = pattern.piece(PieceKind::BodiceFront);
    let back = pattern.piece(PieceKind::BodiceBack);
    if let (Some(front), Some(back)) = (front, back) {
        checks.push(side_seams(front, back, style));
        checks.push(shoulders(front, back, style));
        checks.push(shoulder_corners(front, back));
        checks.push(underarm_corners(front, back));
        checks.push(side_balance(front, back));
        checks.push(notches(front, back, style));
    }
    checks.push(centre_square(pattern));
    checks.push(darts(pattern, style));
    checks.push(outline(pattern));
    checks
}

fn side_seams(front: &Piece, back: &Piece, style: Style) -> Check {
    let (f, b) = (front.sewn_length(Seam::Side), back.sewn_length(Seam::Side));
    let says = format!("front {} less its dart, back {}", style.with_unit(f), style.with_unit(b));
    Check::new(CheckCode::SideSeams, "Side seams are equal", (f - b).abs() <= SEAM_TOLERANCE, says)
}

fn shoulders(front: &Piece, back: &Piece, style: Style) -> Check {
    let (f, b) = (front.sewn_length(Seam::Shoulder), back.sewn_length(Seam::Shoulder));
    let passed = (-SEAM_TOLERANCE..=12.0 + SEAM_TOLERANCE).contains(&(b - f));
    let says = format!("front {}, back {} less its dart", style.with_unit(f), style.with_unit(b));
    Check::new(CheckCode::Shoulders, "Shoulders are equal", passed, says)
}

/// The angle inside the piece where one edge meets the next, in degrees.
fn corner(into: Vec2, out: Vec2) -> f64 {
    180.0 - turn_degrees(into, out)
}

fn corner_after(piece: &Piece, seam: Seam) -> Option<f64> {
    let last = piece.edges.iter().rposition(|edge| edge.seam == seam)?;
    let next = &piece.edges[(last + 1) % piece.edges.len()];
    Some(corner(piece.edges[last].curve.end_direction(), next.curve.start_direction()))
}

fn shoulder_corners(front: &Piece, back: &Piece) -> Check {
    let sum = |seam| corner_after(front, seam).zip(corner_after(back, seam)).map(|(f, b)| f + b);
    let (neck, arm) = (sum(Seam::Neckline).unwrap_or(0.0), sum(Seam::Shoulder).unwrap_or(0.0));
    let flat = |angle: f64| (angle - 180.0).abs() <= SQUARE_TOLERANCE;
    Check::new(
        CheckCode::ShoulderCorners,
        "Neckline and armhole run on over the shoulder",
        flat(neck) && flat(arm),
        format!("front and back together {neck:.1}\u{b0} at the neck, {arm:.1}\u{b0} at the tip (180)"),
    )
}

fn underarm_corners(front: &Piece, back: &Piece) -> Check {
    let at = |piece| corner_after(piece, Seam::Armhole).unwrap_or(0.0);
    let sum = at(front) + at(back);
    Check::new(
        CheckCode::UnderarmCorners,
        "The armhole runs on under the arm",
        (sum - 180.0).abs() <= UNDERARM_TOLERANCE,
        format!("front and back together {sum:.1}\u{b0} (180)"),
    )
}

/// Lean of the side seam at the underarm, away from the centre line, in degrees.
fn lean(piece: &Piece) -> f64 {
    let down = Vec2::new(0.0, 1.0);
    piece.edges_of(Seam::Side).next().map_or(0.0, |edge| turn_degrees(edge.curve.start_direction(), down))
}

fn side_balance(front: &Piece, back: &Piece) -> Check {
    let (f, b) = (lean(front), lean(back));
    // What the front flares over the cup is the stated reason: beyond eight degrees, which the back does
    // not answer, and by as much as the side dart takes up again when it is sewn.
    let dart = front.dart(DartPlace::Side).zip(front.mouth(DartPlace::Side));
    let taken_up = dart.map_or(0.0, |(dart, (a, b))| turn_degrees(a - dart.pivot, b - dart.pivot).abs());
    let flare = (f - 8.0).max(0.0).max(taken_up);
    let sum = f + b;
    let reason = if sum > BALANCE_TOLERANCE { ": the front flares over the cup" } else { "" };
    Check::new(
        CheckCode::SideBalance,
        "Side seams balance",
        (-BALANCE_TOLERANCE..=flare + BALANCE_TOLERANCE).contains(&sum),
        format!("front leans out {f:.1}\u{b0}, back {b:.1}\u{b0}{reason}"),
    )
}

fn notches(front: &Piece, back: &Piece, style: Style) -> Check {
    let on_side = |piece: &Piece| piece.notches.iter().find(|n| n.seam == Seam::Side).copied();
    let off = match (on_side(front), on_side(back)) {
        (Some(f), Some(b)) => (f.from_underarm - b.from_underarm).abs(),
        (None, None) => 0.0,
        _ => f64::INFINITY,
    };
    let on_seam = |piece: &Piece| piece.notches.iter().all(|notch| piece.notch_place(notch).is_some());
    let passed = off <= SEAM_TOLERANCE && on_seam(front) && on_seam(back);
    let says = if passed {
        "every notch lies on its seam".to_owned()
    } else {
        format!("side notches are {} apart, or a notch has left its seam", style.with_unit(off))
    };
    Check::new(CheckCode::Notches, "Notches fall together", passed, says)
}

fn centre_square(pattern: &Pattern) -> Check {
    let mut off = Vec::new();
    for piece in &pattern.pieces {
        let top = piece.edges.last().zip(piece.edges.first());
        let at_neck = top.map(|(c, n)| corner(c.curve.end_direction(), n.curve.start_direction()));
        for (place, angle) in [("neckline", at_neck), ("waist", corner_after(piece, Seam::Waist))] {
            off.extend(
                angle
                    .filter(|a| (a - 90.0).abs() > SQUARE_TOLERANCE)
                    .map(|a| format!("{} {place} meets the centre at {a:.1}\u{b0}", piece.kind.name())),
            );
        }
    }
    let says =
        if off.is_empty() { "neckline and waist leave the centre square".to_owned() } else { off.join("; ") };
    Check::new(CheckCode::CentreSquare, "Square at the centre", off.is_empty(), says)
}

fn darts(pattern: &Pattern, style: Style) -> Check {
    let mut faults = Vec::new();
    let mut count = 0;
    for piece in &pattern.pieces {
        for dart in &piece.darts {
            let Some((first, second)) = piece.mouth(dart.place) else { continue };
            count += 1;
            let name = format!("{} {}", piece.kind.name(), dart.place.name());
            if (first.distance(dart.pivot) - second.distance(dart.pivot)).abs() > LEG_TOLERANCE {
                faults.push(format!("the legs of the {name} differ"));
            }
            if dart.point.distance(dart.pivot) < 1.0 {
                faults.push(format!("the {name} is stitched right to its pivot"));
            }
            let mouth = first.distance(second);
            if dart.place == DartPlace::Waist && mouth > WAIST_DART_LIMIT + LEG_TOLERANCE {
                let limit = style.with_unit(WAIST_DART_LIMIT);
                faults.push(format!("the {name} is {}, above {limit}: split it", style.with_unit(mouth)));
            }
        }
    }
    let says = if faults.is_empty() {
        format!("{count} darts, legs equal, points backed off")
    } else {
        faults.join("; ")
    };
    Check::new(CheckCode::Darts, "Darts sew flat", faults.is_empty(), says)
}

fn outline(pattern: &Pattern) -> Check {
    let mut faults = Vec::new();
    for piece in &pattern.pieces {
        let name = piece.kind.name();
        if !piece.is_closed() {
            faults.push(format!("{name} does not close"));
        }
        if crosses_itself(piece) {
            faults.push(format!("{name} crosses itself"));
        }
        for edge in piece.edges.iter().filter(|edge| edge.seam != Seam::Side) {
            let sharpest = edge.curve.corners().into_iter().map(|(_, turn)| turn.abs()).fold(0.0, f64::max);
            if sharpest > KINK_LIMIT {
                faults.push(format!("{name} {} has a corner of {sharpest:.1}\u{b0}", edge.seam.name()));
            }
        }
    }
    let says = if faults.is_empty() { "closed, simple and smooth".to_owned() } else { faults.join("; ") };
    Check::new(CheckCode::Outline, "The outline is clean", faults.is_empty(), says)
}

/// Whether two stretches of the outline cross other than at a shared end or pivot.
fn crosses_itself(piece: &Piece) -> bool {
    let edges: Vec<Vec<Point>> = piece.edges.iter().map(|edge| edge.curve.flattened(0.25)).collect();
    let boxes: Vec<_> = piece.edges.iter().map(|edge| edge.curve.bounds().inflate(0.1, 0.1)).collect();
    (0..edges.len()).any(|i| {
        (i + 1..edges.len())
            .any(|j| !boxes[i].intersect(boxes[j]).is_zero_area() && lines_cross(&edges[i], &edges[j]))
    })
}

fn lines_cross(a: &[Point], b: &[Point]) -> bool {
    let near_end = |p: Point, line: &Line| p.distance(line.p0) < 0.5 || p.distance(line.p1) < 0.5;
    let lines = |points: &[Point]| points.windows(2).map(|w| Line::new(w[0], w[1])).collect::<Vec<_>>();
    let b_lines = lines(b);
    lines(a).iter().any(|one| {
        b_lines.iter().any(|other| {
            let crossing = proper_crossing(one, other);
            crossing.is_some_and(|p| !(near_end(p, one) && near_end(p, other)))
        })
    })
}

fn proper_crossing(a: &Line, b: &Line) -> Option<Point> {
    let (u, v, w) = (a.p1 - a.p0, b.p1 - b.p0, b.p0 - a.p0);
    let across = u.cross(v);
    if across.abs() < 1e-12 {
        return None;
    }
    let (s, t) = (w.cross(v) / across, w.cross(u) / across);
    ((0.0..=1.0).contains(&s) && (0.0..=1.0).contains(&t)).then(|| a.p0 + u * s)
}
