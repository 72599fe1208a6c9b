//! The front bodice of the direct method.

use kurbo::{Point, Vec2};

use super::clash::Clash;
use super::direct::{Direct, DirectReadings, DraftNote, written};
use super::quantity::{length, number};
use super::ruler::Armhole;
use super::sheet::{DraftStep, Sheet, StepLine, mm};
use crate::Style;
use crate::geometry::house_curve;
use crate::geometry::{Curve, quarter_turn};
use crate::geometry::{circles_meet, circles_miss_by};
use crate::pattern::{
    Dart, DartPlace, Edge, Level, LevelName, Notch, Piece, PieceKind, Seam, back_off_points, true_waist,
};

/// The front with what the back needs of it.
pub(super) struct Front {
    pub(super) piece: Piece,
    pub(super) tip: Point,
    /// Arc length on the side seam at which the bust line ends.
    pub(super) side_at_bust: f64,
    /// Flare of the side seam, radians, outwards positive.
    pub(super) flare: f64,
    /// Half the bust with ease, less the front.
    pub(super) back_bust: StepLine,
    /// Bust line below the underarm.
    pub(super) bust_below_underarm: f64,
    pub(super) steps: Vec<DraftStep>,
    pub(super) notes: Vec<DraftNote>,
}

/// Neck and shoulder: drawn alike for bodice and dress.
pub(super) struct Top {
    pub(super) snp: Point,
    pub(super) pit: Point,
    pub(super) tip: Point,
    /// Direction of the shoulder, away from the neck.
    pub(super) shoulder: Vec2,
    pub(super) neckline: Curve,
    s_shaped: bool,
}

/// Steps 1: neck-side point, pit, tip, neckline.
pub(super) fn top(r: &DirectReadings, m: &Direct, sheet: &mut Sheet) -> Top {
    let width = m.neck_width(r);
    let neck_width = width.value;
    let depth = (width.quantity() + length("neck_depth_more", m.neck_depth_more)).named("neck depth");
    let run = (length("shoulder_length", r.shoulder).squared() - length("shoulder_slope", r.slope).squared())
        .root();
    let out = (width.quantity() + run).named("tip out from the centre");
    let snp = Point::new(neck_width, 0.0);
    let pit = Point::new(0.0, depth.value);
    let tip = Point::new(out.value, r.slope);
    let shoulder = (tip - snp) / r.shoulder;
    let neckline = house_curve(pit, Vec2::new(1.0, 0.0), snp, -quarter_turn(shoulder));
    sheet
        .step("Rule the centre front and square out from its top. Mark neck side and pit.")
        .tell(&width)
        .tell(&depth)
        .point("SNP", snp)
        .point("pit", pit)
        .rule(Point::ZERO, pit)
        .rule(Point::ZERO, snp);
    sheet
        .step("Draw the shoulder: its length out from the neck side, down by the slope.")
        .take("drop of the tip", mm("shoulder_slope", r.slope))
        .tell(&out)
        .point("tip", tip)
        .rule(snp, tip);
    sheet.step("Draw the neckline: level from the pit, square to the shoulder.").draw(&neckline.curve);
    Top { snp, pit, tip, shoulder, neckline: neckline.curve, s_shaped: neckline.s_shaped }
}

impl Top {
    /// The armhole between tip and underarm, with its touch on the across line; the note if it is an S.
    pub(super) fn armhole(
        &self,
        r: &DirectReadings,
        m: &Direct,
        underarm: Point,
        side: Vec2,
        sheet: &mut Sheet,
    ) -> (Curve, Option<DraftNote>) {
        let half_across =
            m.across("half across front", mm("across_front", r.across_front), m.ease.across_back / 2.0);
        let across = half_across.value;
        let level = ((length("neck depth", self.pit.y) + length("underarm level", underarm.y)) / 2.0)
            .named("its level");
        let touch = Point::new(across.min(self.tip.x), level.value);
        let (armhole, is_s) =
            Armhole { tip: self.tip, shoulder: self.shoulder, touch, underarm, side }.draw();
        sheet
            .step("Draw the armhole: square from the shoulder, straight down past the across line, square into the side seam.")
            .tell(&half_across)
            .tell(&level)
            .point("C", touch)
            .draw(&armhole);
        let note = (is_s || self.s_shaped).then(|| {
            let says = "The front armhole bends both ways between tip and across line: look at across front.";
            DraftNote::about("across_front", says.to_owned())
        });
        (armhole, note)
    }
}

/// The underarm below the neck side: a share of the way to the bust point.
pub(super) fn underarm_level(r: &DirectReadings, m: &Direct) -> StepLine {
    let share = number("underarm_share", m.underarm_share);
    (length("snp_to_bust_point", r.bust_depth) * share).named("underarm level")
}

/// The side seam, through the underarm and the end of the bust line.
struct Side {
    underarm: Point,
    bust: Point,
    waist: Point,
    /// Of unit length, downwards.
    direction: Vec2,
    /// From the underarm to the bust line, in millimetres.
    at_bust: f64,
    /// Half the bust with ease, less the front.
    back_bust: StepLine,
    /// The underarm below the neck side, in millimetres.
    depth: f64,
}

/// Step 2: underarm, end of the bust line and side seam.
fn side(r: &DirectReadings, m: &Direct, style: Style, sheet: &mut Sheet) -> Result<Side, Clash> {
    let depth = underarm_level(r, m);
    let (front_bust, back_bust) = m.bust_shares(r);
    let front_upper = upper_bust(r, m, "front at the underarm");
    let underarm = Point::new(front_upper.value, depth.value);
    let bust = Point::new(front_bust.value, r.bust_depth);
    let at_bust = underarm.distance(bust);
    if at_bust + 1.0 > r.side {
        return Err(Clash {
            what: format!("a side length of {} ends above the bust line", written(r.side, style)),
            between: ["side_length", "snp_to_bust_point"],
        });
    }
    let direction = (bust - underarm) / at_bust;
    let waist = underarm + direction * r.side;
    sheet
        .step("Mark the underarm and the end of the bust line; rule the side seam through both.")
        .tell(&depth)
        .tell(&front_upper)
        .point("K", underarm)
        .tell(&front_bust)
        .take("side seam from the underarm", mm("side_length", r.side))
        .point("I", bust)
        .point("N", waist)
        .rule(Point::new(0.0, r.bust_depth), bust)
        .rule(underarm, waist);
    Ok(Side { underarm, bust, waist, direction, at_bust, back_bust, depth: depth.value })
}

/// The waist dart: its pivot at the bust point, and both legs' ends at the waist, the centre's first.
struct WaistDart {
    pivot: Point,
    first: Point,
    second: Point,
}

/// Step 4: bust point, waist and dart, whose second leg meets what is left of the waist.
fn waist_dart(
    r: &DirectReadings,
    m: &Direct,
    side_waist: Point,
    style: Style,
    sheet: &mut Sheet,
) -> Result<WaistDart, Clash> {
    let front_waist = waist(r, m);
    let span = || length("bust_span", r.span) / 2.0;
    let inside = || length("dart_inside", m.dart_inside);
    let point_out = span().named("bust point out");
    let first_out = (span() - inside()).named("first leg out");
    let down = length("snp_to_waist_front", r.front_length) - length("snp_to_bust_point", r.bust_depth);
    let legs = (inside().squared() + down.squared()).root().named("legs");
    let to_side = (front_waist.quantity() - first_out.quantity()).named("from the second leg to the side");
    let pivot = Point::new(point_out.value, r.bust_depth);
    let first = Point::new(first_out.value, r.front_length);
    let second = second_leg(r, (pivot, legs.value), (side_waist, to_side.value), first, style)?;
    sheet
        .step("Mark the bust point and the waist. The dart's second leg is as long as the first, and what is left of the waist reaches the side seam.")
        .tell(&point_out)
        .take("bust point down", mm("snp_to_bust_point", r.bust_depth))
        .take("centre waist", mm("snp_to_waist_front", r.front_length))
        .tell(&front_waist)
        .tell(&first_out)
        .tell(&legs)
        .tell(&to_side)
        .take("mouth, where both circles meet", mm("mouth", first.distance(second)))
        .point("O", pivot)
        .point("P", first)
        .point("Q", second)
        .rule(Point::new(0.0, r.front_length), first)
        .rule(first, pivot)
        .rule(pivot, second)
        .rule(second, side_waist);
    Ok(WaistDart { pivot, first, second })
}

/// Where the circle of the second leg about the pivot meets that of the rest of the waist about the side.
fn second_leg(
    r: &DirectReadings,
    (pivot, leg): (Point, f64),
    (side_waist, rest): (Point, f64),
    first: Point,
    style: Style,
) -> Result<Point, Clash> {
    if rest <= 0.0 {
        return Err(Clash {
            what: format!(
                "a waist of {} leaves no room for a bust span of {}",
                written(r.waist, style),
                written(r.span, style)
            ),
            between: ["waist_girth", "bust_span"],
        });
    }
    let unreachable = || Clash {
        what: format!(
            "the front waist misses the side seam by {}",
            written(circles_miss_by(pivot, leg, side_waist, rest), style)
        ),
        between: ["waist_girth", "snp_to_waist_front"],
    };
    let [one, other] = circles_meet(pivot, leg, side_waist, rest).ok_or_else(unreachable)?;
    let nearer = |p: &Point| (p.y - first.y).abs();
    let second = if nearer(&one) <= nearer(&other) { one } else { other };
    if second.x > first.x { Ok(second) } else { Err(unreachable()) }
}

/// The piece, its waist trued and its dart's point backed off.
fn piece(
    r: &DirectReadings,
    m: &Direct,
    top: Top,
    (side, armhole, dart): (&Side, Curve, &WaistDart),
    sheet: &mut Sheet,
) -> Piece {
    let WaistDart { pivot, first, second } = *dart;
    let centre = Point::new(0.0, r.front_length);
    let at_armhole = armhole.length() * m.armhole_notch;
    let grain_at = pivot.x * 0.42;
    let mut piece = Piece {
        darts: vec![Dart { place: DartPlace::Waist, pivot, point: pivot }],
        levels: vec![Level {
            name: LevelName::Bust,
            points: vec![Point::new(0.0, r.bust_depth), pivot, side.bust],
        }],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: at_armhole, double: false },
            Notch { seam: Seam::Side, from_underarm: r.side - m.notch_above_waist, double: false },
        ],
        ..Piece::bare(
            PieceKind::BODICE_FRONT,
            vec![
                Edge::sewn(Seam::Neckline, top.neckline),
                Edge::sewn(Seam::Shoulder, Curve::line(top.snp, top.tip)),
                Edge::sewn(Seam::Armhole, armhole),
                Edge::sewn(Seam::Side, Curve::line(side.underarm, side.waist)),
                Edge::sewn(Seam::Waist, Curve::line(side.waist, second)),
                Edge::leg(DartPlace::Waist, second, pivot),
                Edge::leg(DartPlace::Waist, pivot, first),
                Edge::sewn(Seam::Waist, Curve::line(first, centre)),
                Edge::on_fold(Seam::CentreFront, Curve::line(centre, top.pit)),
            ],
            (Point::new(grain_at, top.pit.y + 45.0), Point::new(grain_at, r.front_length - 45.0)),
        )
    };
    true_waist(&mut piece);
    back_off_points(&mut piece);
    let step = sheet.step("Fold the dart and true the waist: level at the centre, smooth over the fold.");
    piece.edges_of(Seam::Waist).for_each(|edge| {
        step.draw(&edge.curve);
    });
    piece
}

pub(super) fn draft(r: &DirectReadings, m: &Direct, style: Style) -> Result<Front, Clash> {
    let mut sheet = Sheet::new(PieceKind::BODICE_FRONT);
    let top = top(r, m, &mut sheet);
    let side = side(r, m, style, &mut sheet)?;
    let (armhole, s_note) = top.armhole(r, m, side.underarm, side.direction, &mut sheet);
    let dart = waist_dart(r, m, side.waist, style, &mut sheet)?;
    let tip = top.tip;
    let piece = piece(r, m, top, (&side, armhole, &dart), &mut sheet);
    Ok(Front {
        piece,
        tip,
        side_at_bust: side.at_bust,
        flare: side.direction.x.atan2(side.direction.y),
        back_bust: side.back_bust,
        bust_below_underarm: r.bust_depth - side.depth,
        steps: sheet.steps,
        notes: s_note.into_iter().collect(),
    })
}

/// The front at the level of the upper bust.
pub(super) fn upper_bust(r: &DirectReadings, m: &Direct, name: &'static str) -> StepLine {
    m.quarter(name, mm("upper_bust_girth", r.upper_bust), "ease at the bust", m.ease.bust, true)
}

/// The front at the waist.
pub(super) fn waist(r: &DirectReadings, m: &Direct) -> StepLine {
    m.quarter("front waist", mm("waist_girth", r.waist), "ease at the waist", m.ease.waist, true)
}
