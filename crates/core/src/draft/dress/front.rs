//! The front of the dress block.

use kurbo::Point;

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

pub(super) fn draft(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Result<Front, Clash> {
    let top = front::top(r, m, sheet);
    let (front_bust, back_bust) = m.bust_shares(r);
    let upper_bust = front::upper_bust(r, m, "front at the upper bust");
    let depth = underarm_level(r, m, d);

    let side_bust = Point::new(front_bust.value, r.bust_depth);
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
    let way = (side_bust - from) / (side_bust.y - from.y);
    let underarm = from + way * (depth.value - from.y);
    let above = (side_bust - underarm) / side_bust.distance(underarm);
    let bust_line = Point::new(0.0, r.bust_depth);
    sheet
        .step("Mark the underarm; the side leans from the upper bust to the bust line.")
        .tell(&depth)
        .tell(&upper_bust)
        .tell(&front_bust)
        .point("K", underarm)
        .point("I", side_bust)
        .rule(underarm, side_bust)
        .rule(bust_line, side_bust);

    let waist = r.front_length;
    let pivot = Point::new(r.span / 2.0, r.bust_depth);
    let centre = Point::new(0.0, waist);
    if waist <= r.bust_depth + 20.0 {
        return Err(Clash {
            what: format!("the waist in front, {} down, lies above the bust point", written(waist, style)),
            between: ["snp_to_waist_front", "snp_to_bust_point"],
        });
    }
    let front_waist = front::waist(r, m);
    let sides = Sides {
        readings: r,
        method: m,
        dress: d,
        underarm: depth.value,
        flare_out: side_bust.x - underarm.x,
        narrower: front_bust.value - front_waist.value,
    };
    let dart_shares = sides.dart_shares();
    let intake = waist_dart(dart_shares.0, m.least_dart, &front_bust, &front_waist);
    let mut side_waist = Point::new(front_waist.value + intake.value, waist);
    let (upper_part, lower_part) = (underarm.distance(side_bust), to_waist(side_bust, side_waist).length());
    let whole = length("underarm to bust line", upper_part) + length("bust line to waist", lower_part);
    let excess = (whole - length("side_length", r.side)).named("side too long by");
    let with_dart = excess.value >= m.least_dart;
    if !with_dart {
        // No side dart: the side seam ends where its own length takes it.
        let wide = front_waist.value + intake.value;
        side_waist = side_end(side_bust, centre, wide, r.side - upper_part).ok_or_else(|| Clash {
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
        .point("O", pivot)
        .point("N", side_waist)
        .rule(centre, side_waist);

    let width = m.quarter("hip width", mm("hip_girth", r.hip), "ease at the hip", m.ease.hip, true);
    let hip = Point::new(width.value, waist + r.waist_to_hip);
    let below = hip_curve(side_waist, hip);
    let side_below = below.length();
    let mut darts = Vec::new();
    let mut side = Vec::new();
    if with_dart {
        let corners = [underarm, side_bust, side_waist];
        let (upper, lower) =
            side_dart(corners, pivot, excess.value, r.side, d.above_side_dart).ok_or_else(|| Clash {
                what: format!("the side seam is {} too long for a side dart", written(excess.value, style)),
                between: ["side_length", "snp_to_waist_front"],
            })?;
        let mouth = upper.end();
        side.push(Edge::sewn(Seam::Side, upper));
        side.push(Edge::leg(DartPlace::Side, mouth, pivot));
        side.push(Edge::leg(DartPlace::Side, pivot, lower));
        side.push(Edge::sewn(Seam::Side, to_waist(lower, side_waist).then(below)));
        darts.push(Dart { place: DartPlace::Side, pivot, point: pivot });
        sheet.rule(mouth, pivot).rule(pivot, lower);
    } else {
        let line = Curve::line(underarm, side_bust).then(to_waist(side_bust, side_waist));
        side.push(Edge::sewn(Seam::Side, line.then(below)));
    }
    let to_hip = length("waist_to_hip", r.waist_to_hip) + length("waist level", waist);
    let hip_below = (to_hip - length("side waist", side_waist.y)).named("hip below the side waist");
    hip_step(sheet, &width, &hip_below, d.front_dart_above_hip, hip, &side);
    let side_way = side.first().map_or(above, |edge| edge.curve.start_direction());
    let (armhole, s_note) = top.armhole(r, m, underarm, side_way, sheet);
    notes.extend(s_note);
    let dart = DartLine { x: pivot.x, top: pivot.y, waist, foot: hip.y - d.front_dart_above_hip };
    let armhole_length = armhole.length();
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, top.neckline),
        Edge::sewn(Seam::Shoulder, Curve::line(top.snp, top.tip)),
        Edge::sewn(Seam::Armhole, armhole),
    ];
    edges.extend(side);
    let centre_hip = Point::new(0.0, hip.y);
    edges.push(Edge::sewn(Seam::Hem, Curve::line(hip, centre_hip)));
    edges.push(Edge::on_fold(Seam::CentreFront, Curve::line(centre_hip, top.pit)));
    let mut piece = Piece {
        darts,
        two_pointed: dart.dart(intake.value, d.front_point, m).into_iter().collect(),
        levels: vec![
            Level { name: LevelName::Bust, points: vec![bust_line, pivot, side_bust] },
            Level { name: LevelName::Waist, points: vec![centre, side_waist] },
        ],
        notches: notches(m, armhole_length, r.side, false),
        ..Piece::bare(
            PieceKind::DRESS_FRONT,
            edges,
            (Point::new(pivot.x * 0.42, top.pit.y + 45.0), Point::new(pivot.x * 0.42, hip.y - 60.0)),
        )
    };
    back_off_points(&mut piece);
    Ok(Front {
        piece,
        sewn_side: r.side,
        side_below,
        flare: above.x.atan2(above.y),
        bust_below_underarm: r.bust_depth - depth.value,
        back_bust,
        dart_shares,
    })
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
