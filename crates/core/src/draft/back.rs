//! The back bodice of the direct method. Until the last step the underarm level is y = 0.

use kurbo::{Affine, Point, Vec2};

use super::clash::Clash;
use super::direct::{Direct, DirectReadings, DraftNote, written};
use super::front::Front;
use super::quantity::{Quantity, length, number};
use super::ruler::Armhole;
use super::sheet::{DraftStep, Sheet, StepLine, mm};
use crate::Style;
use crate::geometry::house_curve;
use crate::geometry::{Curve, quarter_turn, turn_degrees};
use crate::geometry::{circles_meet, circles_miss_by};
use crate::pattern::{
    DARTS_APART, Dart, DartPlace, Edge, Level, LevelName, Notch, Piece, PieceKind, Seam, back_off_points,
    true_waist,
};

pub(super) struct Back {
    pub(super) piece: Piece,
    pub(super) steps: Vec<DraftStep>,
    pub(super) notes: Vec<DraftNote>,
}

struct Shoulder {
    inner: Curve,
    outer: Curve,
    pivot: Point,
}

/// Nape, neck side, shoulder with its dart and armhole: drawn alike for bodice and dress.
pub(super) struct Top {
    pub(super) nape: Point,
    pub(super) snp: Point,
    /// The outline from the nape to the underarm.
    pub(super) edges: Vec<Edge>,
    pub(super) dart: Dart,
    pub(super) armhole_length: f64,
    pub(super) note: Option<DraftNote>,
}

/// The upper part of a back. `underarm` lies at y = 0; `centre` is the waist at centre back.
pub(super) fn top(
    r: &DirectReadings,
    m: &Direct,
    underarm: Point,
    side: Vec2,
    centre: Point,
    sheet: &mut Sheet,
) -> Top {
    let neck_width = m.neck_width(r);
    let half_across = half_across(r, m);
    let across = half_across.value;
    let depth = (length("armhole_depth", r.armhole_depth) + length("below_armpit", m.below_armpit))
        .named("nape above the underarm level");
    let nape = Point::new(0.0, -depth.value);
    let snp = Point::new(neck_width.value, centre.y - r.back_length);
    sheet
        .step("Rule the centre back. Mark the nape above the underarm level, the waist below the nape, the neck side above the waist.")
        .tell(&depth)
        .take("waist below the nape", mm("nape_to_waist_back", r.nape_to_waist))
        .take("neck side above the waist", mm("snp_to_waist_back", r.back_length))
        .tell(&neck_width)
        .point("nape", nape)
        .point("SNP", snp)
        .rule(nape, centre);
    let waist_pivot = Point::new(across / 2.0, 0.0);
    let mouth = length("shoulder_dart_mouth", m.shoulder_dart_mouth);
    let depth = length("shoulder_dart_depth", m.shoulder_dart_depth);
    // A pinch at the armhole is as wide there as the dart would be in the shoulder.
    let whole = draw_shoulder(r, m, snp, waist_pivot, 0.0);
    let touch_of = |shoulder: &Shoulder| Point::new(across.min(shoulder.outer.end().x), nape.y / 2.0);
    let reach = match m.back_pinch {
        true => {
            let reach_of = |shoulder: &Shoulder| shoulder.pivot.distance(touch_of(shoulder));
            // Where across back is wider than the shoulder, the armhole moves a little with the tip.
            let again = |reach: f64| {
                let turn = 2.0 * (m.shoulder_dart_mouth / 2.0 / reach).asin();
                reach_of(&draw_shoulder(r, m, snp, waist_pivot, turn))
            };
            length("pivot to the armhole", again(again(again(reach_of(&whole)))))
        }
        false => depth.clone(),
    };
    let turn = Quantity::from(2.0) * (mouth / 2.0 / reach).arcsine();
    let turn = turn.named_angle("turn of the outer half");
    let shoulder = draw_shoulder(r, m, snp, waist_pivot, turn.value.to_radians());
    sheet
        .step(
            "Draw the shoulder as in front; open its dart by turning the outer half about the dart's pivot.",
        )
        .find("drop of the tip before the dart is opened", length("shoulder_slope", r.slope))
        .find("pivot below the middle of the shoulder", depth)
        .tell(&turn)
        .point("V", shoulder.pivot)
        .point("tip", shoulder.outer.end())
        .draw(&shoulder.inner)
        .rule(shoulder.inner.end(), shoulder.pivot)
        .rule(shoulder.pivot, shoulder.outer.start())
        .draw(&shoulder.outer);
    let touch = touch_of(&shoulder);
    let arm = Armhole {
        tip: shoulder.outer.end(),
        shoulder: shoulder.outer.end_direction(),
        touch,
        underarm,
        side,
    };
    let (armhole, is_s) = arm.draw();
    let neckline =
        house_curve(nape, Vec2::new(1.0, 0.0), snp, -quarter_turn(shoulder.inner.start_direction()));
    sheet
        .step("Draw the armhole, square to shoulder and side seam and straight down past the across line, and the neckline.")
        .tell(&half_across)
        .point("C", touch)
        .draw(&armhole)
        .draw(&neckline.curve);
    let armhole_length = armhole.length();
    let shaped = match m.back_pinch {
        true => pinched(&shoulder, &whole, armhole, (touch, turn.value), sheet),
        false => Shaped {
            edges: vec![
                Edge::sewn(Seam::Shoulder, shoulder.inner.clone()),
                Edge::leg(DartPlace::Shoulder, shoulder.inner.end(), shoulder.pivot),
                Edge::leg(DartPlace::Shoulder, shoulder.pivot, shoulder.outer.start()),
                Edge::sewn(Seam::Shoulder, shoulder.outer.clone()),
                Edge::sewn(Seam::Armhole, armhole),
            ],
            place: DartPlace::Shoulder,
        },
    };
    let note = (is_s || neckline.s_shaped).then(|| {
        let says = "The back armhole bends both ways between tip and across line: look at across back.";
        DraftNote::about("across_back", says.to_owned())
    });
    let edges = [Edge::sewn(Seam::Neckline, neckline.curve)].into_iter().chain(shaped.edges).collect();
    let dart = Dart { place: shaped.place, pivot: shoulder.pivot, point: shoulder.pivot };
    Top { nape, snp, edges, dart, armhole_length, note }
}

/// Shoulder and armhole with the dart between them.
struct Shaped {
    edges: Vec<Edge>,
    place: DartPlace,
}

/// The shoulder closed again and its dart turned to the armhole at the across line: what lies between goes back with the outer
/// half, so that the shoulder is whole.
fn pinched(
    opened: &Shoulder,
    whole: &Shoulder,
    armhole: Curve,
    (touch, degrees): (Point, f64),
    sheet: &mut Sheet,
) -> Shaped {
    let (above, below) = armhole.split(armhole.nearest(touch));
    let above = above.transformed(Affine::rotate_about(-degrees.to_radians(), opened.pivot));
    let shoulder = Curve::line(whole.inner.start(), whole.outer.end());
    let (upper, pivot, lower) = (above.end(), opened.pivot, below.start());
    sheet
        .step("Cut from the armhole at C to the dart's pivot and fold the shoulder dart shut: it opens at the armhole as a pinch, and the shoulder is whole.")
        .find("mouth of the pinch", length("mouth", upper.distance(lower)))
        .point("C2", upper)
        .draw(&shoulder)
        .draw(&above)
        .rule(upper, pivot)
        .rule(pivot, lower);
    let edges = vec![
        Edge::sewn(Seam::Shoulder, shoulder),
        Edge::sewn(Seam::Armhole, above),
        Edge::leg(DartPlace::Armhole, upper, pivot),
        Edge::leg(DartPlace::Armhole, pivot, lower),
        Edge::sewn(Seam::Armhole, below),
    ];
    Shaped { edges, place: DartPlace::Armhole }
}

/// Half across the back.
pub(super) fn half_across(r: &DirectReadings, m: &Direct) -> StepLine {
    m.across("half across back", mm("across_back", r.across_back), m.ease.across_back)
}

/// The back at the waist.
pub(super) fn waist(r: &DirectReadings, m: &Direct) -> StepLine {
    m.quarter("back waist", mm("waist_girth", r.waist), "ease at the waist", m.ease.waist, false)
}

/// Centre and side must end at about one level.
pub(super) fn waist_level_note(side: Point, centre: Point, style: Style) -> Option<DraftNote> {
    let apart = (side.y - centre.y).abs();
    (apart > 15.0).then(|| {
        let apart = style.with_unit(apart);
        DraftNote::about(
            "nape_to_waist_back",
            format!("The back waist lies {apart} apart at centre and side: measure nape to waist and side length again."),
        )
    })
}

/// What is said of a dart so wide that it wants a second one beside it; none where it has one.
pub(super) fn wide_dart_note(mouth: f64, m: &Direct, has_second: bool, style: Style) -> Option<DraftNote> {
    (is_wide(mouth, m) && !has_second).then(|| {
        let (mouth, usual) = (style.with_unit(mouth), style.with_unit(m.usual_back_dart));
        let how = if m.second_back_dart {
            "there is no room for a second one beside it"
        } else {
            "a second one beside it lies flatter; for that choose \u{201c}Second back waist dart\u{201d} among the constants"
        };
        DraftNote::about("waist_girth", format!("The back waist dart is {mouth}, above {usual}: {how}."))
    })
}

/// Whether a back waist dart is wider than usual.
pub(super) fn is_wide(mouth: f64, m: &Direct) -> bool {
    mouth > m.usual_back_dart
}

/// The step that draws the second dart: what the two take in.
pub(super) fn second_dart_step(sheet: &mut Sheet, [first, second]: [f64; 2]) {
    sheet
        .step("So wide a dart does not lie flat: half of its angle stays; a second one lies beside it and parallel, nearer the side and a little lower, and takes what is left.")
        .take("between the two along the waist", mm("between the darts", DARTS_APART))
        .take("the first takes", mm("first dart", first))
        .take("the second takes", mm("second dart", second));
}

pub(super) fn draft(r: &DirectReadings, m: &Direct, front: &Front, style: Style) -> Result<Back, Clash> {
    let mut sheet = Sheet::new(PieceKind::BODICE_BACK);
    let back_waist = waist(r, m);
    let across = half_across(r, m).value;
    let flare = m.back_flare(front.flare);
    let below = front.bust_below_underarm;

    let side_bust = Point::new(front.back_bust.value, below);
    let degrees = number("flare", flare.to_degrees());
    let flared = length("bust line below the underarm", below) * degrees.clone().tangent();
    let at_underarm = (front.back_bust.quantity() + flared).named("back at the underarm");
    let underarm = Point::new(at_underarm.value, 0.0);
    let side = Vec2::new(-flare.sin(), flare.cos());
    let centre = Point::new(0.0, r.nape_to_waist - r.armhole_depth - m.below_armpit);
    let top = top(r, m, underarm, side, centre, &mut sheet);
    let (nape, snp) = (top.nape, top.snp);

    let pivot_out = (length("half across back", across) / 2.0).named("dart's pivot out");
    let waist_pivot = Point::new(pivot_out.value, 0.0);
    let side_waist = underarm + side * r.side;
    sheet
        .step("Mark the underarm and rule the side seam, as long as in front. The back does not take up more of the cup's flare than a side seam bears.")
        .tell(&front.back_bust)
        .tell(&degrees.named_angle("flare"))
        .tell(&at_underarm)
        .point("K", underarm)
        .rule(underarm, side_waist);
    let waist = draw_waist(r, m, underarm, side_waist, waist_pivot, centre, back_waist.value, style)?;
    let step = sheet.step("Mark the waist and its dart; the second leg is as long as the first, and what is left reaches the side seam.");
    step.tell(&back_waist).tell(&pivot_out).point("O", waist_pivot).point("N", waist.side_end);
    if let Some((first, second)) = waist.mouth {
        let how = match waist.second {
            None => "mouth, where both circles meet",
            Some(_) => "mouth, half of the angle to where both circles meet",
        };
        step.take(how, mm("mouth", first.distance(second)))
            .point("P", first)
            .point("Q", second)
            .rule(first, waist_pivot)
            .rule(waist_pivot, second);
    }
    waist.edges.iter().filter(|edge| edge.seam == Seam::Waist).for_each(|edge| {
        step.draw(&edge.curve);
    });
    if let (Some((first, inner)), Some(beside)) = (waist.mouth, &waist.second) {
        second_dart_step(&mut sheet, [first.distance(inner), beside.first.distance(beside.second)]);
        sheet.point("O2", beside.pivot).rule(beside.first, beside.pivot).rule(beside.pivot, beside.second);
    }
    let mouth = waist.mouth.map_or(0.0, |(a, b)| a.distance(b));

    let mut edges = top.edges;
    edges.push(Edge::sewn(Seam::Side, Curve::line(underarm, waist.side_end)));
    edges.extend(waist.edges);
    edges.push(Edge::on_fold(Seam::CentreBack, Curve::line(centre, nape)));
    let mut darts = vec![top.dart];
    darts.extend(waist.mouth.map(|_| Dart {
        place: DartPlace::Waist,
        pivot: waist_pivot,
        point: waist_pivot,
    }));
    darts.extend(waist.second.as_ref().map(|beside| Dart {
        place: DartPlace::WaistSide,
        pivot: beside.pivot,
        point: beside.pivot,
    }));
    let mut piece = Piece {
        darts,
        levels: vec![Level { name: LevelName::Bust, points: vec![Point::new(0.0, below), side_bust] }],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: top.armhole_length * m.armhole_notch, double: true },
            Notch { seam: Seam::Side, from_underarm: r.side - m.notch_above_waist, double: false },
        ],
        ..Piece::bare(
            PieceKind::BODICE_BACK,
            edges,
            (Point::new(across * 0.22, nape.y + 60.0), Point::new(across * 0.22, centre.y - 45.0)),
        )
    };
    true_waist(&mut piece);
    back_off_points(&mut piece);
    let notes = waist_level_note(waist.side_end, centre, style)
        .into_iter()
        .chain(wide_dart_note(mouth, m, waist.second.is_some(), style))
        .chain(top.note)
        .collect();
    let to_level = Affine::translate((0.0, -snp.y));
    Ok(Back { piece: piece.moved(to_level), steps: sheet.moved(to_level), notes })
}

/// Both halves of the shoulder, the outer one turned open about the dart's pivot.
/// `opened` is what the outer half turns about the dart's pivot, in radians.
fn draw_shoulder(r: &DirectReadings, m: &Direct, snp: Point, waist_pivot: Point, opened: f64) -> Shoulder {
    let tip = snp + Vec2::new((r.shoulder.powi(2) - r.slope.powi(2)).sqrt(), r.slope);
    let middle = snp.midpoint(tip);
    let towards = (waist_pivot - middle) / waist_pivot.distance(middle);
    let pivot = middle + towards * m.shoulder_dart_depth;
    let outer = Curve::line(middle, tip).transformed(Affine::rotate_about(opened, pivot));
    Shoulder { inner: Curve::line(snp, middle), outer, pivot }
}

struct Waist {
    edges: Vec<Edge>,
    /// First and second leg's end, where there is a dart.
    mouth: Option<(Point, Point)>,
    /// The second dart, where the first is shared.
    second: Option<SecondDart>,
    side_end: Point,
}

/// A second dart beside the first, nearer the side.
struct SecondDart {
    pivot: Point,
    /// First and second leg's end.
    first: Point,
    second: Point,
}

/// Between the second dart and the side at least so much waist is left, in millimetres: less could not be drawn smooth.
const SIDE_LEFT: f64 = 45.0;
/// The second dart ends so far below the first, in millimetres.
const SECOND_LOWER: f64 = 30.0;

/// A waist dart shared with a second one: half of its angle stays, the second lies beside it and parallel, a little lower, and
/// takes what is left, so that the waist still reaches the side: `rest` of it is sewn from the first dart on. None where there is
/// no room.
fn shared(
    pivot: Point,
    (first, whole): (Point, Point),
    (side_waist, centre): (Point, Point),
    rest: f64,
    least: f64,
) -> Option<Waist> {
    let angle = turn_degrees(first - pivot, whole - pivot).to_radians();
    let inner = Affine::rotate_about(angle / 2.0, pivot) * first;
    let (leg, half) = (pivot.distance(first), first.distance(inner));
    let axis = pivot - first.midpoint(inner);
    let up = axis / axis.hypot();
    let out = Vec2::new(-up.y, up.x);
    let next = inner + out * DARTS_APART;
    let beside = next + out * (half / 2.0) + up * (leg - SECOND_LOWER);
    let left = rest - DARTS_APART;
    let meet = circles_meet(beside, beside.distance(next), side_waist, left.max(0.0))?;
    let second = meet.into_iter().min_by(|a, b| (a.y - next.y).abs().total_cmp(&(b.y - next.y).abs()))?;
    if left < SIDE_LEFT || second.x - next.x < least {
        return None;
    }
    let edges = vec![
        Edge::sewn(Seam::Waist, Curve::line(side_waist, second)),
        Edge::leg(DartPlace::WaistSide, second, beside),
        Edge::leg(DartPlace::WaistSide, beside, next),
        Edge::sewn(Seam::Waist, Curve::line(next, inner)),
        Edge::leg(DartPlace::Waist, inner, pivot),
        Edge::leg(DartPlace::Waist, pivot, first),
        Edge::sewn(Seam::Waist, Curve::line(first, centre)),
    ];
    let dart = SecondDart { pivot: beside, first: next, second };
    Some(Waist { edges, mouth: Some((first, inner)), second: Some(dart), side_end: side_waist })
}

#[expect(clippy::too_many_arguments, reason = "one construction step with the points it is drawn between")]
fn draw_waist(
    r: &DirectReadings,
    m: &Direct,
    underarm: Point,
    side_waist: Point,
    pivot: Point,
    centre: Point,
    back_waist: f64,
    style: Style,
) -> Result<Waist, Clash> {
    let plain = || {
        // No dart: the side seam swings to the waist's own width and keeps its length.
        let run = back_waist - underarm.x;
        let drop = (r.side.powi(2) - run.powi(2)).max(0.0).sqrt();
        let level = underarm + Vec2::new(run, drop);
        // Above or below the centre the waist runs aslant: it is as wide along itself.
        let aslant = circles_meet(underarm, r.side, centre, back_waist);
        let nearest = |ends: [Point; 2]| {
            ends.into_iter().min_by(|a, b| a.distance(level).total_cmp(&b.distance(level)))
        };
        let side_end = aslant.and_then(nearest).unwrap_or(level);
        let edges = vec![Edge::sewn(Seam::Waist, Curve::line(side_end, centre))];
        Waist { edges, mouth: None, second: None, side_end }
    };
    if side_waist.x < back_waist + m.least_dart {
        return Ok(plain());
    }
    let first = Point::new(pivot.x - m.dart_inside, centre.y);
    let (leg, rest) = (pivot.distance(first), back_waist - first.x);
    let unreachable = || Clash {
        what: format!(
            "the back waist misses the side seam by {}",
            written(circles_miss_by(pivot, leg, side_waist, rest), style)
        ),
        between: ["waist_girth", "nape_to_waist_back"],
    };
    let [one, other] = circles_meet(pivot, leg, side_waist, rest).ok_or_else(unreachable)?;
    let nearer = |p: &Point| (p.y - first.y).abs();
    let second = if nearer(&one) <= nearer(&other) { one } else { other };
    if second.x - first.x < m.least_dart {
        return Ok(plain());
    }
    if m.second_back_dart
        && is_wide(first.distance(second), m)
        && let Some(two) = shared(pivot, (first, second), (side_waist, centre), rest, m.least_dart)
    {
        return Ok(two);
    }
    let edges = vec![
        Edge::sewn(Seam::Waist, Curve::line(side_waist, second)),
        Edge::leg(DartPlace::Waist, second, pivot),
        Edge::leg(DartPlace::Waist, pivot, first),
        Edge::sewn(Seam::Waist, Curve::line(first, centre)),
    ];
    Ok(Waist { edges, mouth: Some((first, second)), second: None, side_end: side_waist })
}
