//! What front and back of the dress block are made of alike.

use kurbo::{Point, Vec2};

use super::super::direct::Direct;
use super::super::sheet::{Sheet, StepLine, mm, plain};
use super::Dress;
use crate::pattern::{Curve, Edge, Notch, Seam, TwoPointedDart};

/// From the waist down: hollow at the waist, straight down at the hip.
pub(super) fn hip_curve(waist: Point, hip: Point) -> Curve {
    let reach = Vec2::new(0.0, (hip.y - waist.y) / 3.0);
    Curve::cubic(waist, waist + reach, hip - reach, hip)
}

/// The point from which `end` is moved along the waist's plumb line until the way from `start` has this length.
pub(super) fn at_length(start: Point, end: Point, length: f64) -> Option<Point> {
    let across = end.x - start.x;
    let down = (length * length - across * across).max(0.0).sqrt();
    (down > 20.0).then(|| Point::new(end.x, start.y + down))
}

/// The dart's share of what the waist is narrower than the bust line; none where it is wider.
pub(super) fn waist_dart(d: &Dress, bust: &StepLine, waist: &StepLine) -> StepLine {
    let narrower = bust.value - waist.value;
    let part = if narrower > 0.0 { d.dart_share } else { 0.0 };
    let formula = format!("{{dart_share}} × ({{{}}} − {{{}}})", bust.name, waist.name);
    let terms = [plain("dart_share", part), mm(bust.name, bust.value), mm(waist.name, waist.value)];
    StepLine::new("waist dart", formula, &terms, part * narrower)
}

/// Where a waist dart lies: its middle, its upper end, the waist and its lower end.
pub(super) struct DartLine {
    pub(super) x: f64,
    pub(super) top: f64,
    pub(super) waist: f64,
    pub(super) foot: f64,
}

impl DartLine {
    /// The dart, or none where it would be too narrow to sew or has no room below the waist.
    pub(super) fn dart(&self, intake: f64, back_off: f64, m: &Direct) -> Option<TwoPointedDart> {
        let &Self { x, top, waist, foot } = self;
        (intake >= m.least_dart && foot > waist + 20.0).then(|| TwoPointedDart {
            upper: Point::new(x, top),
            lower: Point::new(x, foot),
            first: Point::new(x - intake / 2.0, waist),
            second: Point::new(x + intake / 2.0, waist),
            point: Point::new(x, top + back_off),
        })
    }
}

/// The step that marks the hip and draws the side down to it.
pub(super) fn hip_step<'a>(
    sheet: &mut Sheet,
    width: &StepLine,
    below: &StepLine,
    dart_above: f64,
    hip: Point,
    side: impl IntoIterator<Item = &'a Edge>,
) {
    sheet
        .step("Mark the hip below the waist; draw the side hollow at the waist and straight down at the hip; the waist dart gets its lower point.")
        .tell(width)
        .tell(below)
        .take("dart ends above the hip", mm("dart above the hip", dart_above))
        .point("H", hip);
    for edge in side.into_iter().filter(|edge| edge.seam == Seam::Side) {
        sheet.draw(&edge.curve);
    }
    sheet.rule(hip, Point::new(0.0, hip.y));
}

/// Armhole, above the waist, and at the waist: front and back fall together.
pub(super) fn notches(m: &Direct, armhole: f64, sewn_side: f64, is_back: bool) -> Vec<Notch> {
    let on_side = |from_underarm| Notch { seam: Seam::Side, from_underarm, double: false };
    let on_armhole = Notch { seam: Seam::Armhole, from_underarm: armhole * m.armhole_notch, double: is_back };
    vec![on_armhole, on_side(sewn_side - m.notch_above_waist), on_side(sewn_side)]
}
