//! The dress block to the hip: the direct method without a waist seam, so the waist darts have two points.

use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::clash::Clash;
use super::direct::{Direct, DirectReadings, Draft, DraftNote, shoulder_width_note, steep_shoulder, written};
use super::front::{NOTCH_ABOVE_WAIST, front_share_line};
use super::ruler::root;
use super::sheet::{Sheet, Term, mm, plain};
use super::{back, front};
use crate::Style;
use crate::pattern::{
    Curve, Dart, DartPlace, Edge, Level, LevelName, Notch, Pattern, Piece, PieceKind, Seam, TwoPointedDart,
    back_off_points,
};

/// The constants of the dress block besides those of the bodice. Common practice, no source.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
pub struct Dress {
    /// A dress's neck is narrower by nothing: width is a fifth of the neck less this, in millimetres.
    pub neck_width_less: f64,
    /// Its front neck is this much deeper than wide, in millimetres (1/2 in).
    pub neck_depth_more: f64,
    /// The dart's share of what the waist is narrower than the bust; the side takes the rest.
    pub dart_share: f64,
    /// The front dart ends this far above hip level, in millimetres.
    pub front_dart_above_hip: f64,
    /// The back dart ends this far above hip level, in millimetres.
    pub back_dart_above_hip: f64,
    /// The level at which the upper bust applies lies this far above the underarm, in millimetres.
    pub upper_bust_above: f64,
    /// At least this much lies between that level and the bust line, in millimetres.
    pub least_rise: f64,
    /// A front waist dart is stitched this far short of the bust point, in millimetres.
    pub front_point: f64,
}

impl Default for Dress {
    fn default() -> Self {
        Self {
            neck_width_less: 0.0,
            neck_depth_more: 12.7,
            dart_share: 2.0 / 3.0,
            front_dart_above_hip: 90.0,
            back_dart_above_hip: 50.0,
            upper_bust_above: 25.0,
            least_rise: 30.0,
            front_point: 25.0,
        }
    }
}

/// A half with the hip below it.
struct Half {
    piece: Piece,
    sewn_side: f64,
}

pub(super) fn drawn(r: &DirectReadings, m: &Direct, d: &Dress, style: Style) -> Result<Draft, Clash> {
    steep_shoulder(r, style)?;
    let m = &Direct { neck_width_less: d.neck_width_less, neck_depth_more: d.neck_depth_more, ..*m };
    let mut notes = Vec::new();
    let mut front_sheet = Sheet::new(PieceKind::DressFront);
    let (front, flare, below, back_bust) = front(r, m, d, style, &mut front_sheet, &mut notes)?;
    notes.extend(shoulder_width_note(r, front.piece.tip(), style));
    let mut back_sheet = Sheet::new(PieceKind::DressBack);
    let (back, to_level) =
        back(r, m, d, &front, flare, below, back_bust, style, &mut back_sheet, &mut notes)?;
    let steps = front_sheet.steps.into_iter().chain(back_sheet.moved(to_level)).collect();
    Ok(Draft { pattern: Pattern::new(vec![front.piece, back.piece]), steps, notes })
}

/// From the waist down: hollow at the waist, straight down at the hip.
fn hip_curve(waist: Point, hip: Point) -> Curve {
    let reach = Vec2::new(0.0, (hip.y - waist.y) / 3.0);
    Curve::cubic(waist, waist + reach, hip - reach, hip)
}

fn front(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Result<(Half, f64, f64, f64), Clash> {
    let top = front::top(r, m, sheet);
    let (front_bust, back_bust) = m.bust_shares(r);
    let front_upper = (r.upper_bust + m.ease.bust) / 4.0 + m.front_share;
    let front_waist = (r.waist + m.ease.waist) / 4.0 + m.front_share;
    let front_hip = (r.hip + m.ease.hip) / 4.0 + m.front_share;
    let depth = r.armhole_depth + (r.back_length - r.nape_to_waist) + m.below_armpit;
    let upper_level = depth - d.upper_bust_above;

    let side_bust = Point::new(front_bust, r.bust_depth);
    if r.bust_depth <= depth + 1.0 {
        return Err(Clash {
            what: format!("the bust line lies above the underarm, {} down", written(depth, style)),
            between: ["snp_to_bust_point", "armhole_depth"],
        });
    }
    let from = Point::new(front_upper, upper_level.min(r.bust_depth - d.least_rise));
    let way = (side_bust - from) / (side_bust.y - from.y);
    let underarm = from + way * (depth - from.y);
    let above = (side_bust - underarm) / side_bust.distance(underarm);
    let bust_line = Point::new(0.0, r.bust_depth);
    sheet
        .step("Mark the underarm below the tape at the armpits; the side leans from the upper bust to the bust line.")
        .find(
            "underarm level",
            "{armhole_depth} + ({snp_to_waist_back} − {nape_to_waist_back}) + {below_armpit}",
            &[
                mm("armhole_depth", r.armhole_depth),
                mm("snp_to_waist_back", r.back_length),
                mm("nape_to_waist_back", r.nape_to_waist),
                mm("below_armpit", m.below_armpit),
            ],
            depth,
        )
        .find(
            "front at the upper bust",
            "({upper_bust_girth} + {ease at the bust}) / 4 + {front_share}",
            &[mm("upper_bust_girth", r.upper_bust), mm("ease at the bust", m.ease.bust), mm("front_share", m.front_share)],
            front_upper,
        );
    front_share_line(sheet, r, m, front_bust);
    sheet.point("K", underarm).point("I", side_bust).rule(underarm, side_bust).rule(bust_line, side_bust);

    let waist = r.front_length;
    let pivot = Point::new(r.span / 2.0, r.bust_depth);
    let centre = Point::new(0.0, waist);
    if waist <= r.bust_depth + 20.0 {
        return Err(Clash {
            what: format!("the waist in front, {} down, lies above the bust point", written(waist, style)),
            between: ["snp_to_waist_front", "snp_to_bust_point"],
        });
    }
    let narrower = front_bust - front_waist;
    let intake = (d.dart_share * narrower).max(0.0);
    let mut side_waist = Point::new(front_waist + intake, waist);
    let upper_part = underarm.distance(side_bust);
    let excess = upper_part + side_bust.distance(side_waist) - r.side;
    let with_dart = excess >= m.least_dart;
    if !with_dart {
        // No side dart: the side seam ends where its own length takes it.
        side_waist = at_length(side_bust, side_waist, r.side - upper_part).ok_or_else(|| Clash {
            what: format!(
                "a side length of {} does not reach from underarm to waist",
                written(r.side, style)
            ),
            between: ["side_length", "snp_to_waist_front"],
        })?;
    }
    let hip = Point::new(front_hip, waist + r.waist_to_hip);
    let dart =
        two_pointed(pivot.x, r.bust_depth, waist, hip.y - d.front_dart_above_hip, intake, d.front_point, m);
    sheet
        .step("Mark the waist: two thirds of what it is narrower than the bust goes into the dart, a third to the side. What the side is too long goes into a side dart.")
        .find(
            "front waist",
            "({waist_girth} + {ease at the waist}) / 4 + {front_share}",
            &[mm("waist_girth", r.waist), mm("ease at the waist", m.ease.waist), mm("front_share", m.front_share)],
            front_waist,
        )
        .find(
            "waist dart",
            "{dart_share} × ({front at the bust line} − {front waist})",
            &[
                plain("dart_share", if narrower > 0.0 { d.dart_share } else { 0.0 }),
                mm("front at the bust line", front_bust),
                mm("front waist", front_waist),
            ],
            intake,
        )
        .find(
            "side too long by",
            "{underarm to bust line} + {bust line to waist} − {side_length}",
            &[
                mm("underarm to bust line", upper_part),
                mm("bust line to waist", excess + r.side - upper_part),
                mm("side_length", r.side),
            ],
            excess,
        )
        .point("O", pivot)
        .point("N", side_waist)
        .rule(centre, side_waist);
    let mut darts = Vec::new();
    let mut side = Vec::new();
    if with_dart {
        let (upper, lower) =
            side_dart(underarm, side_bust, side_waist, pivot, excess, r.side).ok_or_else(|| Clash {
                what: format!("the side seam is {} too long for a side dart", written(excess, style)),
                between: ["side_length", "snp_to_waist_front"],
            })?;
        let mouth = upper.end();
        side.push(Edge::sewn(Seam::Side, upper));
        side.push(Edge::leg(DartPlace::Side, mouth, pivot));
        side.push(Edge::leg(DartPlace::Side, pivot, lower));
        let below = Curve::line(lower, side_waist).then(hip_curve(side_waist, hip));
        side.push(Edge::sewn(Seam::Side, below));
        darts.push(Dart { place: DartPlace::Side, pivot, point: pivot });
        sheet.rule(mouth, pivot).rule(pivot, lower);
    } else {
        let line = Curve::line(underarm, side_bust).then(Curve::line(side_bust, side_waist));
        side.push(Edge::sewn(Seam::Side, line.then(hip_curve(side_waist, hip))));
    }
    let sewn_side =
        r.side.min(if with_dart { f64::INFINITY } else { upper_part + side_bust.distance(side_waist) });
    hip_step(
        sheet,
        r,
        m,
        hip,
        front_hip,
        waist,
        d.front_dart_above_hip,
        &side,
        m.front_share,
        ("{waist_to_hip}", &[mm("waist_to_hip", r.waist_to_hip)]),
    );
    let side_way = side.first().map_or(above, |edge| edge.curve.start_direction());
    let (armhole, s_note) = top.armhole(r, m, underarm, side_way, sheet);
    notes.extend(s_note);
    let armhole_length = armhole.length();
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, top.neckline),
        Edge::sewn(Seam::Shoulder, Curve::line(top.snp, top.tip)),
        Edge::sewn(Seam::Armhole, armhole),
    ];
    edges.extend(side);
    edges.push(Edge::sewn(Seam::Hem, Curve::line(hip, Point::new(0.0, hip.y))));
    edges.push(Edge::on_fold(Seam::CentreFront, Curve::line(Point::new(0.0, hip.y), top.pit)));
    let mut piece = Piece {
        kind: PieceKind::DressFront,
        edges,
        darts,
        two_pointed: dart.into_iter().collect(),
        levels: vec![
            Level { name: LevelName::Bust, points: vec![bust_line, pivot, side_bust] },
            Level { name: LevelName::Waist, points: vec![centre, side_waist] },
        ],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: armhole_length / 3.0, double: false },
            Notch { seam: Seam::Side, from_underarm: sewn_side - NOTCH_ABOVE_WAIST, double: false },
            Notch { seam: Seam::Side, from_underarm: sewn_side, double: false },
        ],
        grain: (Point::new(pivot.x * 0.42, top.pit.y + 45.0), Point::new(pivot.x * 0.42, hip.y - 60.0)),
    };
    back_off_points(&mut piece);
    let flare = above.x.atan2(above.y);
    Ok((Half { piece, sewn_side }, flare, r.bust_depth - depth, back_bust))
}

/// The point from which `end` is moved along the waist's plumb line until the way from `start` has this length.
fn at_length(start: Point, end: Point, length: f64) -> Option<Point> {
    let across = end.x - start.x;
    let down = (length * length - across * across).max(0.0).sqrt();
    (down > 20.0).then(|| Point::new(end.x, start.y + down))
}

/// At least this much side seam is left above the dart, in millimetres (ours).
const LEAST_ABOVE_DART: f64 = 20.0;

/// Ends of the side dart's legs, equally far from the pivot, so that the sewn side has this length.
///
/// The mouth lies as far above the bust line as below it, as long as there is seam above; the shorter leg is
/// lengthened along itself, which is how a dart is trued.
fn side_dart(k: Point, i: Point, n: Point, pivot: Point, excess: f64, length: f64) -> Option<(Curve, Point)> {
    let (up, down) = ((k - i) / k.distance(i), (n - i) / n.distance(i));
    let above = excess / 2.0;
    let room = k.distance(i) - LEAST_ABOVE_DART;
    let on_line = if above <= room {
        i + up * above
    } else if room >= 0.0 {
        i + up * room
    } else {
        i - down * room
    };
    let upper = |lower: Point| {
        let way = (on_line - pivot) / on_line.distance(pivot);
        let end = pivot + way * lower.distance(pivot);
        if room >= 0.0 { Curve::line(k, end) } else { Curve::line(k, i).then(Curve::line(i, end)) }
    };
    let lower = |below: f64| i + down * below;
    let off = |below: f64| upper(lower(below)).length() + lower(below).distance(n) - length;
    let below = root(off, (-room).max(0.0), n.distance(i) - 10.0)?;
    Some((upper(lower(below)), lower(below)))
}

fn two_pointed(
    x: f64,
    top: f64,
    waist: f64,
    foot: f64,
    intake: f64,
    back_off: f64,
    m: &Direct,
) -> Option<TwoPointedDart> {
    (intake >= m.least_dart && foot > waist + 20.0).then(|| TwoPointedDart {
        upper: Point::new(x, top),
        lower: Point::new(x, foot),
        first: Point::new(x - intake / 2.0, waist),
        second: Point::new(x + intake / 2.0, waist),
        point: Point::new(x, top + back_off),
    })
}

#[expect(clippy::too_many_arguments, reason = "one step of the sheet with everything it tells")]
fn hip_step(
    sheet: &mut Sheet,
    r: &DirectReadings,
    m: &Direct,
    hip: Point,
    width: f64,
    waist: f64,
    dart_above: f64,
    side: &[Edge],
    share: f64,
    below: (&'static str, &[Term]),
) {
    let formula = if share >= 0.0 {
        "({hip_girth} + {ease at the hip}) / 4 + {share of the front}"
    } else {
        "({hip_girth} + {ease at the hip}) / 4 − {share of the front}"
    };
    sheet
        .step("Mark the hip below the waist; draw the side hollow at the waist and straight down at the hip; the waist dart gets its lower point.")
        .find(
            "hip width",
            formula,
            &[mm("hip_girth", r.hip), mm("ease at the hip", m.ease.hip), mm("share of the front", share.abs())],
            width,
        )
        .find("hip below the side waist", below.0, below.1, hip.y - waist)
        .find("dart ends above the hip", "{dart above the hip}", &[mm("dart above the hip", dart_above)], dart_above)
        .point("H", hip);
    for edge in side.iter().filter(|edge| edge.seam == Seam::Side) {
        sheet.draw(&edge.curve);
    }
    sheet.rule(hip, Point::new(0.0, hip.y));
}

#[expect(clippy::too_many_arguments, reason = "the back with everything the front hands on")]
fn back(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    front: &Half,
    front_flare: f64,
    below: f64,
    back_bust: f64,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Result<(Half, Affine), Clash> {
    let back_waist = (r.waist + m.ease.waist) / 4.0 - m.front_share;
    let back_hip = (r.hip + m.ease.hip) / 4.0 - m.front_share;
    let across = (r.across_back + m.ease.across_back) / 2.0;
    let flare = front_flare.clamp(0.0, m.back_flare_limit.to_radians());
    let side_bust = Point::new(back_bust, below);
    let underarm = Point::new(back_bust + below * flare.tan(), 0.0);
    let above = Vec2::new(-flare.sin(), flare.cos());
    let centre = Point::new(0.0, r.nape_to_waist - r.armhole_depth - m.below_armpit);
    let top = back::top(r, m, underarm, above, centre, sheet);
    let narrower = back_bust - back_waist;
    let intake = (d.dart_share * narrower).max(0.0);
    let upper_part = underarm.distance(side_bust);
    let wanted = Point::new(back_waist + intake, centre.y);
    let side_waist = at_length(side_bust, wanted, front.sewn_side - upper_part).ok_or_else(|| Clash {
        what: format!(
            "a side length of {} does not reach from underarm to waist behind",
            written(r.side, style)
        ),
        between: ["side_length", "armhole_depth"],
    })?;
    notes.extend(back::waist_level_note(side_waist, centre, style));
    notes.extend(back::wide_dart_note(intake, style));
    notes.extend(top.note.clone());
    let front_hip = front.piece.edges_of(Seam::Hem).next().map_or(0.0, |edge| edge.curve.start().y);
    let front_waist = front.piece.level(LevelName::Waist).and_then(|l| l.points.last()).map_or(0.0, |p| p.y);
    // Side seams must sew from waist to hip as well: the back hip lies as far below its own side waist.
    let front_below: f64 = front.piece.sewn_length(Seam::Side) - front.sewn_side;
    let hip = hip_of_length(side_waist, back_hip, side_waist.y + front_hip - front_waist, front_below);
    sheet
        .step("Mark the underarm, the bust line and the waist; the side seam is as long as the front's when sewn.")
        .find("back at the bust line", "{half the bust with ease} − {front at the bust line}", &[
            mm("half the bust with ease", (r.bust + m.ease.bust) / 2.0),
            mm("front at the bust line", (r.bust + m.ease.bust) / 2.0 - back_bust),
        ], back_bust)
        .find(
            "back waist",
            "({waist_girth} + {ease at the waist}) / 4 − {front_share}",
            &[mm("waist_girth", r.waist), mm("ease at the waist", m.ease.waist), mm("front_share", m.front_share)],
            back_waist,
        )
        .find(
            "waist dart",
            "{dart_share} × ({back at the bust line} − {back waist})",
            &[
                plain("dart_share", if narrower > 0.0 { d.dart_share } else { 0.0 }),
                mm("back at the bust line", back_bust),
                mm("back waist", back_waist),
            ],
            intake,
        )
        .point("K", underarm)
        .point("I", side_bust)
        .point("N", side_waist)
        .rule(centre, side_waist);
    let side = Curve::line(underarm, side_bust)
        .then(Curve::line(side_bust, side_waist))
        .then(hip_curve(side_waist, hip));
    let side = Edge::sewn(Seam::Side, side);
    hip_step(
        sheet,
        r,
        m,
        hip,
        back_hip,
        side_waist.y,
        d.back_dart_above_hip,
        std::slice::from_ref(&side),
        -m.front_share,
        (
            "{as far as the front's side seam is long}",
            &[mm("as far as the front's side seam is long", hip.y - side_waist.y)],
        ),
    );
    let hem_level = hip.y;
    let mut edges = top.edges;
    edges.push(side);
    edges.push(Edge::sewn(Seam::Hem, Curve::line(hip, Point::new(0.0, hem_level))));
    edges.push(Edge::on_fold(Seam::CentreBack, Curve::line(Point::new(0.0, hem_level), top.nape)));
    let dart_x = across / 2.0;
    let dart = two_pointed(dart_x, 0.0, centre.y, hip.y - d.back_dart_above_hip, intake, 12.0, m);
    let mut piece = Piece {
        kind: PieceKind::DressBack,
        edges,
        darts: vec![top.dart],
        two_pointed: dart.into_iter().collect(),
        levels: vec![
            Level { name: LevelName::Bust, points: vec![Point::new(0.0, below), side_bust] },
            Level { name: LevelName::Waist, points: vec![centre, side_waist] },
        ],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: top.armhole_length / 3.0, double: true },
            Notch { seam: Seam::Side, from_underarm: front.sewn_side - NOTCH_ABOVE_WAIST, double: false },
            Notch { seam: Seam::Side, from_underarm: front.sewn_side, double: false },
        ],
        grain: (Point::new(across * 0.22, top.nape.y + 60.0), Point::new(across * 0.22, hip.y - 60.0)),
    };
    back_off_points(&mut piece);
    let to_level = Affine::translate((0.0, -top.snp.y));
    Ok((Half { piece: piece.moved(to_level), sewn_side: front.sewn_side }, to_level))
}

/// The hip at this width whose seam from the waist has this length; `level` is where to look first.
fn hip_of_length(waist: Point, width: f64, level: f64, length: f64) -> Point {
    let at = |y: f64| Point::new(width, y);
    let off = |y: f64| hip_curve(waist, at(y)).length() - length;
    at(root(off, waist.y + 10.0, waist.y + length + 50.0).unwrap_or(level))
}
