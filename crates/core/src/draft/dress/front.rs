//! The front of the dress block.

use kurbo::{Point, Vec2};

use super::super::clash::Clash;
use super::super::direct::{Direct, DirectReadings, DraftNote, written};
use super::super::front;
use super::super::quantity::length;
use super::super::sheet::{Sheet, StepLine, mm};
use super::shared::{DartLine, Sides, hip_step, notches, side_end, to_waist, waist_dart};
use super::{Dress, Front};
use crate::Style;
use crate::geometry::root;
use crate::geometry::{Curve, hip_curve};
use crate::pattern::{Dart, DartPlace, Edge, Level, LevelName, Piece, PieceKind, Seam, back_off_points};

/// The side above the bust line: it leans from the upper bust through the underarm.
struct Above {
    underarm: Point,
    /// Where the bust line meets the side.
    bust: Point,
    /// Of unit length, downwards.
    way: Vec2,
    front_bust: StepLine,
    back_bust: StepLine,
    /// The underarm below the neck side, in millimetres.
    depth: f64,
}

fn above(r: &DirectReadings, m: &Direct, d: &Dress, style: Style, sheet: &mut Sheet) -> Result<Above, Clash> {
    let (front_bust, back_bust) = m.bust_shares(r);
    let upper_bust = front::upper_bust(r, m, "front at the upper bust");
    let depth = underarm_level(r, m, d);
    let bust = Point::new(front_bust.value, r.bust_depth);
    if r.bust_depth <= depth.value + 1.0 {
        return Err(Clash {
            what: format!("the bust line lies above the underarm, {} down", written(depth.value, style)),
            between: ["snp_to_bust_point", "armhole_depth"],
        });
    }
    let upper_level = if d.armhole_by_bust {
        depth.value
    } else {
        (depth.value - d.upper_bust_above).min(r.bust_depth - d.least_rise)
    };
    let from = Point::new(upper_bust.value, upper_level);
    let way = (bust - from) / (bust.y - from.y);
    let underarm = from + way * (depth.value - from.y);
    sheet
        .step("Mark the underarm; the side leans from the upper bust to the bust line.")
        .tell(&depth)
        .tell(&upper_bust)
        .tell(&front_bust)
        .point("K", underarm)
        .point("I", bust)
        .rule(underarm, bust)
        .rule(Point::new(0.0, r.bust_depth), bust);
    let way = (bust - underarm) / bust.distance(underarm);
    Ok(Above { underarm, bust, way, front_bust, back_bust, depth: depth.value })
}

/// The waist: its end at the side, what the dart inside takes in, and what the side is too long by.
struct Waist {
    side: Point,
    intake: f64,
    dart_shares: (f64, f64),
    /// None where it is too little for a side dart: the side ends where its own length takes it.
    excess: Option<f64>,
}

fn waist(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    above: &Above,
    style: Style,
    sheet: &mut Sheet,
) -> Result<Waist, Clash> {
    let level = r.front_length;
    let centre = Point::new(0.0, level);
    if level <= r.bust_depth + 20.0 {
        return Err(Clash {
            what: format!("the waist in front, {} down, lies above the bust point", written(level, style)),
            between: ["snp_to_waist_front", "snp_to_bust_point"],
        });
    }
    let front_waist = front::waist(r, m);
    let sides = Sides {
        readings: r,
        method: m,
        dress: d,
        underarm: above.depth,
        flare_out: above.bust.x - above.underarm.x,
        narrower: above.front_bust.value - front_waist.value,
    };
    let dart_shares = sides.dart_shares();
    let intake = waist_dart(dart_shares.0, m.least_dart, &above.front_bust, &front_waist);
    let wide = front_waist.value + intake.value;
    let mut side = Point::new(wide, level);
    let (upper_part, lower_part) = (above.underarm.distance(above.bust), to_waist(above.bust, side).length());
    let whole = length("underarm to bust line", upper_part) + length("bust line to waist", lower_part);
    let excess = (whole - length("side_length", r.side)).named("side too long by");
    let with_dart = excess.value >= m.least_dart;
    if !with_dart {
        side = side_end(above.bust, centre, wide, r.side - upper_part).ok_or_else(|| Clash {
            what: format!(
                "a side length of {} does not reach from underarm to waist",
                written(r.side, style)
            ),
            between: ["side_length", "snp_to_waist_front"],
        })?;
    }
    sheet
        .step("Mark the waist: two thirds of what it is narrower than the bust goes into the dart, a third to the side. What the side is too long goes into a side dart.")
        .tell(&front_waist)
        .tell(&intake)
        .tell(&excess)
        .point("O", bust_point(r))
        .point("N", side)
        .rule(centre, side);
    Ok(Waist { side, intake: intake.value, dart_shares, excess: with_dart.then_some(excess.value) })
}

fn bust_point(r: &DirectReadings) -> Point {
    Point::new(r.span / 2.0, r.bust_depth)
}

/// The side seam from the underarm to the hip, with its dart where it has one.
struct SideSeam {
    edges: Vec<Edge>,
    darts: Vec<Dart>,
    hip: Point,
    /// From the waist to the hip, in millimetres.
    below: f64,
}

fn side_seam(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    (above, waist): (&Above, &Waist),
    style: Style,
    sheet: &mut Sheet,
) -> Result<SideSeam, Clash> {
    let width = m.quarter("hip width", mm("hip_girth", r.hip), "ease at the hip", m.ease.hip, true);
    let hip = Point::new(width.value, r.front_length + r.waist_to_hip);
    let curve = hip_curve(waist.side, hip);
    let below = curve.length();
    let pivot = bust_point(r);
    let (mut edges, mut darts) = (Vec::new(), Vec::new());
    if let Some(excess) = waist.excess {
        let corners = [above.underarm, above.bust, waist.side];
        let (upper, lower) =
            side_dart(corners, pivot, excess, r.side, d.above_side_dart).ok_or_else(|| Clash {
                what: format!("the side seam is {} too long for a side dart", written(excess, style)),
                between: ["side_length", "snp_to_waist_front"],
            })?;
        let mouth = upper.end();
        edges.push(Edge::sewn(Seam::Side, upper));
        edges.push(Edge::leg(DartPlace::Side, mouth, pivot));
        edges.push(Edge::leg(DartPlace::Side, pivot, lower));
        edges.push(Edge::sewn(Seam::Side, to_waist(lower, waist.side).then(curve)));
        darts.push(Dart { place: DartPlace::Side, pivot, point: pivot });
        sheet.rule(mouth, pivot).rule(pivot, lower);
    } else {
        let line = Curve::line(above.underarm, above.bust).then(to_waist(above.bust, waist.side));
        edges.push(Edge::sewn(Seam::Side, line.then(curve)));
    }
    let to_hip = length("waist_to_hip", r.waist_to_hip) + length("waist level", r.front_length);
    let hip_below = (to_hip - length("side waist", waist.side.y)).named("hip below the side waist");
    hip_step(sheet, &width, &hip_below, d.front_dart_above_hip, hip, &edges);
    Ok(SideSeam { edges, darts, hip, below })
}

pub(super) fn draft(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Result<Front, Clash> {
    let top = front::top(r, m, sheet);
    let above = above(r, m, d, style, sheet)?;
    let waist = waist(r, m, d, &above, style, sheet)?;
    let side = side_seam(r, m, d, (&above, &waist), style, sheet)?;
    let way = side.edges.first().map_or(above.way, |edge| edge.curve.start_direction());
    let (armhole, s_note) = top.armhole(r, m, above.underarm, way, sheet);
    notes.extend(s_note);
    let sides = (&above, &waist, &side);
    let piece = piece(r, m, d, top, armhole, sides);
    Ok(Front {
        piece,
        sewn_side: r.side,
        side_below: side.below,
        flare: above.way.x.atan2(above.way.y),
        bust_below_underarm: r.bust_depth - above.depth,
        back_bust: above.back_bust,
        dart_shares: waist.dart_shares,
    })
}

/// The piece, its dart's points backed off.
fn piece(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    top: front::Top,
    armhole: Curve,
    (above, waist, side): (&Above, &Waist, &SideSeam),
) -> Piece {
    let (pivot, hip) = (bust_point(r), side.hip);
    let dart =
        DartLine { x: pivot.x, top: pivot.y, waist: r.front_length, foot: hip.y - d.front_dart_above_hip };
    let notches = notches(m, armhole.length(), r.side, false);
    let centre_hip = Point::new(0.0, hip.y);
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, top.neckline),
        Edge::sewn(Seam::Shoulder, Curve::line(top.snp, top.tip)),
        Edge::sewn(Seam::Armhole, armhole),
    ];
    edges.extend(side.edges.iter().cloned());
    edges.push(Edge::sewn(Seam::Hem, Curve::line(hip, centre_hip)));
    edges.push(Edge::on_fold(Seam::CentreFront, Curve::line(centre_hip, top.pit)));
    let at_centre = |level: f64| Point::new(0.0, level);
    let grain_at = pivot.x * 0.42;
    let mut piece = Piece {
        darts: side.darts.clone(),
        two_pointed: dart.dart(waist.intake, d.front_point, m).into_iter().collect(),
        levels: vec![
            Level { name: LevelName::Bust, points: vec![at_centre(r.bust_depth), pivot, above.bust] },
            Level { name: LevelName::Waist, points: vec![at_centre(r.front_length), waist.side] },
        ],
        notches,
        ..Piece::bare(
            PieceKind::DRESS_FRONT,
            edges,
            (Point::new(grain_at, top.pit.y + 45.0), Point::new(grain_at, hip.y - 60.0)),
        )
    };
    back_off_points(&mut piece);
    piece
}

/// The underarm: as in the bodice, or level with the back's armpit.
fn underarm_level(r: &DirectReadings, m: &Direct, d: &Dress) -> StepLine {
    if d.armhole_by_bust {
        return front::underarm_level(r, m);
    }
    let nape = length("snp_to_waist_back", r.back_length) - length("nape_to_waist_back", r.nape_to_waist);
    let armpit = length("armhole_depth", r.armhole_depth) + nape;
    (armpit + length("below_armpit", m.below_armpit)).named("underarm level")
}

/// Ends of the side dart's legs, equally far from the pivot, so that the sewn side has this length.
///
/// The mouth lies as far above the bust line as below it, as long as there is seam above; the shorter leg is
/// lengthened along itself, which is how a dart is trued.
fn side_dart(
    [k, i, n]: [Point; 3],
    pivot: Point,
    excess: f64,
    length: f64,
    least_above: f64,
) -> Option<(Curve, Point)> {
    let (up, down) = ((k - i) / k.distance(i), (n - i) / n.distance(i));
    let above = excess / 2.0;
    let room = k.distance(i) - least_above;
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
    let off = |below: f64| upper(lower(below)).length() + to_waist(lower(below), n).length() - length;
    let below = root(off, (-room).max(0.0), n.distance(i) - 10.0)?;
    Some((upper(lower(below)), lower(below)))
}
