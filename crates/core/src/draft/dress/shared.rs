//! What front and back of the dress block are made of alike.

use kurbo::{Point, Vec2};

use super::super::direct::{Direct, DirectReadings};
use super::super::quantity::number;
use super::super::sheet::{Sheet, StepLine, mm};
use super::Dress;
use crate::geometry::Curve;
use crate::geometry::root;
use crate::pattern::{Edge, Notch, Seam, TwoPointedDart};

/// How far above the waist a side seam begins to turn plumb, in millimetres: below a hand's length, where its balance is
/// looked at.
const TURNS: f64 = 60.0;

/// From the bust line to the waist: straight, and plumb at last, where it meets the hip curve, so that nothing is angled
/// there.
pub(super) fn to_waist(from: Point, waist: Point) -> Curve {
    let length = from.distance(waist);
    let reach = TURNS.min(length / 2.0);
    let way = (waist - from) / length;
    let turn = waist - way * reach;
    let plumb = Vec2::new(0.0, reach / 3.0);
    Curve::line(from, turn).then(Curve::cubic(turn, turn + way * (reach / 3.0), waist - plumb, waist))
}

/// The point to which `end` is moved along the waist's plumb line so that the side from `start` to it has this length.
pub(super) fn at_length(start: Point, end: Point, length: f64) -> Option<Point> {
    let at = |down: f64| Point::new(end.x, start.y + down);
    root(|down| to_waist(start, at(down)).length() - length, 20.0, length).map(at)
}

/// The end of the waist at the side: `wide` of cloth from the centre at `centre` to it, so far from the bust line that the
/// side seam has this length.
pub(super) fn side_end(start: Point, centre: Point, wide: f64, length: f64) -> Option<Point> {
    let mut end = at_length(start, centre + Vec2::new(wide, 0.0), length)?;
    // Where it lies above or below the centre the waist runs aslant, and reaches less far out.
    for _ in 0..8 {
        let out = (wide * wide - (end.y - centre.y).powi(2)).max(0.0).sqrt();
        end = at_length(start, Point::new(out, centre.y), length)?;
    }
    Some(end)
}

/// What the shares of the waist darts are found from.
pub(super) struct Sides<'a> {
    pub(super) readings: &'a DirectReadings,
    pub(super) method: &'a Direct,
    pub(super) dress: &'a Dress,
    /// Underarm level in front, in millimetres.
    pub(super) underarm: f64,
    /// The side seam's run out from underarm to bust line in front, in millimetres.
    pub(super) flare_out: f64,
    /// What the waist is narrower than the bust line, on a quarter, in millimetres.
    pub(super) narrower: f64,
}

impl Sides<'_> {
    /// The waist darts' shares of what the waist is narrower than the bust line, front and back. The side seams take
    /// the rest: alike, or each by the height it has for it, so that both lean alike (handbook: `blocks.md`, rule 6).
    pub(super) fn dart_shares(&self) -> (f64, f64) {
        let share = self.dress.dart_share;
        if !self.dress.balanced || self.narrower <= 0.0 {
            return (share, share);
        }
        let (r, rise) = (self.readings, self.readings.bust_depth - self.underarm);
        let flare = self.flare_out.atan2(rise);
        let front_upper = rise / flare.cos();
        let back_below = r.side - rise / self.method.back_flare(flare).cos();
        let both = 2.0 * (1.0 - share) * self.narrower;
        // Down from the bust line, where a side so long runs in by so much; a side dart keeps the front's own level.
        let down = |length: f64, run: f64| (length * length - run * run).max(1.0).sqrt();
        let level = r.front_length - r.bust_depth;
        let mut heights = (level, back_below);
        for _ in 0..6 {
            let run = both * heights.0 / (heights.0 + heights.1);
            let is_darted = front_upper + level.hypot(run) - r.side >= self.method.least_dart;
            let front = if is_darted { level } else { down(r.side - front_upper, run) };
            heights = (front, down(back_below, both - run));
        }
        let of = |height: f64| {
            let at_side = both * height / (heights.0 + heights.1);
            (1.0 - at_side / self.narrower).clamp(0.0, 1.0)
        };
        (of(heights.0), of(heights.1))
    }
}

/// The dart's share of what the waist is narrower than the bust line; none where it is wider, or where the dart would be
/// too narrow to sew.
pub(super) fn waist_dart(share: f64, least: f64, bust: &StepLine, waist: &StepLine) -> StepLine {
    let narrower = bust.value - waist.value;
    let part = if share * narrower >= least { share } else { 0.0 };
    (number("dart's share", part) * (bust.quantity() - waist.quantity())).named("waist dart")
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
