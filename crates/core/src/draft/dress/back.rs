//! The back of the dress block. Until the last step the underarm level is y = 0.

use kurbo::{Affine, Point, Vec2};

use super::super::back;
use super::super::clash::Clash;
use super::super::direct::{Direct, DirectReadings, DraftNote, written};
use super::super::sheet::{Sheet, StepLine, mm};
use super::shared::{DartLine, hip_step, notches, side_end, to_waist, waist_dart};
use super::{Dress, Front};
use crate::Style;
use crate::geometry::root;
use crate::geometry::{Curve, hip_curve};
use crate::pattern::{
    DARTS_APART, Edge, Level, LevelName, Piece, PieceKind, Seam, back_off_points, second_two_pointed_dart,
};

/// The back, and how it was moved so that its neck side lies at y = 0.
pub(super) fn draft(
    r: &DirectReadings,
    m: &Direct,
    d: &Dress,
    front: &Front,
    style: Style,
    sheet: &mut Sheet,
    notes: &mut Vec<DraftNote>,
) -> Result<(Piece, Affine), Clash> {
    let below = front.bust_below_underarm;
    let flare = m.back_flare(front.flare);
    let side_bust = Point::new(front.back_bust.value, below);
    let underarm = Point::new(side_bust.x + below * flare.tan(), 0.0);
    let above = Vec2::new(-flare.sin(), flare.cos());
    let centre = Point::new(0.0, r.nape_to_waist - r.armhole_depth - m.below_armpit);
    let top = back::top(r, m, underarm, above, centre, sheet);
    let waist = back::waist(r, m);
    let intake = waist_dart(front.dart_shares.1, m.least_dart, &front.back_bust, &waist);
    let upper_part = underarm.distance(side_bust);
    let wide = waist.value + intake.value;
    let side_waist =
        side_end(side_bust, centre, wide, front.sewn_side - upper_part).ok_or_else(|| Clash {
            what: format!(
                "a side length of {} does not reach from underarm to waist behind",
                written(r.side, style)
            ),
            between: ["side_length", "armhole_depth"],
        })?;
    notes.extend(back::waist_level_note(side_waist, centre, style));
    sheet
        .step("Mark the underarm, the bust line and the waist; the side seam is as long as the front's when sewn.")
        .tell(&front.back_bust)
        .tell(&waist)
        .tell(&intake)
        .point("K", underarm)
        .point("I", side_bust)
        .point("N", side_waist)
        .rule(centre, side_waist);

    let width = m.quarter("hip width", mm("hip_girth", r.hip), "ease at the hip", m.ease.hip, false);
    // Side seams sew from waist to hip as well: the back hip lies where its seam is as long as the front's.
    let at = |y: f64| Point::new(width.value, y);
    let off = |y: f64| hip_curve(side_waist, at(y)).length() - front.side_below;
    let reach = (side_waist.y + 10.0, side_waist.y + front.side_below + 50.0);
    let hip = at(root(off, reach.0, reach.1).unwrap_or(side_waist.y + r.waist_to_hip));
    let side = Curve::line(underarm, side_bust)
        .then(to_waist(side_bust, side_waist))
        .then(hip_curve(side_waist, hip));
    let side = Edge::sewn(Seam::Side, side);
    let hip_below = StepLine::taken(
        "hip below the side waist",
        mm("as far as the front's side seam is long", hip.y - side_waist.y),
    );
    hip_step(sheet, &width, &hip_below, d.back_dart_above_hip, hip, [&side]);

    let across = back::half_across(r, m).value;
    let dart = DartLine { x: across / 2.0, top: 0.0, waist: centre.y, foot: hip.y - d.back_dart_above_hip };
    let centre_hip = Point::new(0.0, hip.y);
    let mut edges = top.edges;
    edges.push(side);
    edges.push(Edge::sewn(Seam::Hem, Curve::line(hip, centre_hip)));
    edges.push(Edge::on_fold(Seam::CentreBack, Curve::line(centre_hip, top.nape)));
    let mut piece = Piece {
        darts: vec![top.dart],
        two_pointed: dart.dart(intake.value, d.back_point, m).into_iter().collect(),
        levels: vec![
            Level { name: LevelName::Bust, points: vec![Point::new(0.0, below), side_bust] },
            Level { name: LevelName::Waist, points: vec![centre, side_waist] },
        ],
        notches: notches(m, top.armhole_length, front.sewn_side, true),
        ..Piece::bare(
            PieceKind::DRESS_BACK,
            edges,
            (Point::new(across * 0.22, top.nape.y + 60.0), Point::new(across * 0.22, hip.y - 60.0)),
        )
    };
    back_off_points(&mut piece);
    let wants_second = m.second_back_dart && back::is_wide(intake.value, m);
    let second = { piece.two_pointed.first().filter(|_| wants_second) }
        .and_then(|dart| second_two_pointed_dart(&piece, dart, 0.5, DARTS_APART));
    notes.extend(back::wide_dart_note(intake.value, m, second.is_some(), style));
    notes.extend(top.note);
    if let Some(darts) = second {
        piece.two_pointed = darts.to_vec();
        back::second_dart_step(sheet, darts.map(|dart| dart.intake()));
    }
    let to_level = Affine::translate((0.0, -top.snp.y));
    Ok((piece.moved(to_level), to_level))
}
