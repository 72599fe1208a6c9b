//! The front of the proportional draft.

use kurbo::{Affine, Point, Vec2};

use super::super::quantity::{length, number};
use super::super::sheet::{Sheet, StepLine, mm, plain, proportion};
use super::shared::{
    finished, guide_reach, notches, under_the_arm, unit, waist_edges, waist_share, waist_step,
};
use super::{Frame, Proportional};
use crate::geometry::house_curve;
use crate::geometry::{Curve, quarter_turn};
use crate::pattern::{Dart, DartPlace, Edge, Level, LevelName, Piece, PieceKind, Seam};

/// The frame everything else is drawn in. Levels are told from the neck side.
struct Lines {
    bust_line: f64,
    waist: f64,
    bust_point: Point,
    /// Where the chest line, moved out for the dart, meets the bust line.
    foot: Point,
    /// The lower leg of the bust dart ends here.
    g: Point,
    side: Point,
}

/// Step 1: the frame.
fn lines(f: &Frame, m: &Proportional, sheet: &mut Sheet) -> Lines {
    // The level of the neck side above the bust line, and everything else below that level.
    let rise = proportion(
        "neck side above the bust line",
        f.bust,
        plain("front_rise_of_bust", m.front_rise_of_bust),
        mm("front_rise_more", m.front_rise_more),
        true,
    );
    let down = |below_nape: f64| below_nape - f.bust_line.value + rise.value;
    let (bust_line, waist) = (rise.value, down(f.length));
    let chest = f.chest.value;
    let bust_point_out =
        (f.chest.quantity() / 2.0 + length("bust_point_out", m.bust_point_out)).named("bust point out");
    let bust_point = Point::new(bust_point_out.value, bust_line);
    let foot = Point::new(chest + f.dart_foot.value, bust_line);
    let side = Point::new(f.width.value - f.side, bust_line);
    sheet
        .step("Rule the frame: centre front, bust line, waist, chest line and side seam.")
        .tell(&f.width)
        .tell(&rise)
        .tell(&f.chest)
        .tell(&bust_point_out)
        .point("BP", bust_point)
        .point("side", side)
        .rule(Point::ZERO, Point::new(0.0, waist))
        .rule(Point::new(0.0, bust_line), side)
        .rule(Point::new(chest, 0.0), Point::new(chest, bust_line))
        .rule(side, Point::new(side.x, waist));
    Lines { bust_line, waist, bust_point, foot, g: Point::new(foot.x, down(f.g_line)), side }
}

/// Neck and shoulder.
struct Top {
    snp: Point,
    pit: Point,
    tip: Point,
    /// Of the shoulder, of unit length, away from the neck.
    slope: Vec2,
    neckline: Curve,
    shoulder: f64,
}

/// Step 2: neck and shoulder.
fn top(f: &Frame, m: &Proportional, sheet: &mut Sheet) -> Top {
    let depth = (f.neck.quantity() + length("neck_depth_over", m.neck_depth_over)).named("neck depth");
    let snp = Point::new(f.neck.value, 0.0);
    let pit = Point::new(0.0, depth.value);
    let slope = unit(m.front_slope);
    let to_chest = (f.chest.quantity() - f.neck.quantity()) / number("front_slope", m.front_slope).cosine();
    let shoulder = (to_chest + length("shoulder_beyond", m.shoulder_beyond)).named("shoulder");
    let tip = snp + slope * shoulder.value;
    let neckline = house_curve(pit, Vec2::new(1.0, 0.0), snp, -quarter_turn(slope)).curve;
    sheet
        .step("Draw neck and shoulder: by its slope to the chest line and a little beyond.")
        .tell(&f.neck)
        .tell(&depth)
        .tell(&shoulder)
        .point("SNP", snp)
        .point("FNP", pit)
        .point("tip", tip)
        .draw(&neckline)
        .rule(snp, tip);
    Top { snp, pit, tip, slope, neckline, shoulder: shoulder.value }
}

/// The armhole above and below its dart, whose upper leg ends at `u`.
struct Armhole {
    u: Point,
    upper: Curve,
    lower: Curve,
}

/// Step 3: the bust dart turned open, and the armhole on either side of it, down to a side seam that ends there.
fn armhole(
    f: &Frame,
    m: &Proportional,
    lines: &Lines,
    top: &Top,
    side_waist: Point,
    sheet: &mut Sheet,
) -> Armhole {
    let Lines { bust_point, foot, g, side, .. } = *lines;
    let opened =
        number("bust in centimetres", f.bust / 10.0) * number("bust_dart_of_bust", m.bust_dart_of_bust);
    let dart = (opened - number("bust_dart_less", m.bust_dart_less)).named_angle("bust dart");
    let turn = -dart.value.to_radians();
    let u = Affine::rotate_about(turn, bust_point) * g;
    let reach = guide_reach(f, mm("front_guide_more", m.front_guide_more));
    let from_u = (Affine::rotate(turn) * Point::new(0.0, 1.0)).to_vec2();
    let upper = house_curve(top.tip, quarter_turn(top.slope), u, from_u).curve;
    let (guide, lower) = under_the_arm(g, foot, reach.value, (side, side_waist));
    sheet
        .step("Turn the bust dart open about the bust point and draw the armhole: down to the dart, on from its other leg, through the guide, square into the side.")
        .tell(&f.dart_foot)
        .tell(&dart)
        .tell(&reach)
        .point("F", foot)
        .point("G", g)
        .point("U", u)
        .point("armhole guide", guide)
        .draw(&upper)
        .rule(u, bust_point)
        .rule(bust_point, g)
        .draw(&lower);
    Armhole { u, upper, lower }
}

/// Step 4: the waist with its darts a and b, from the side.
fn waist(
    f: &Frame,
    m: &Proportional,
    lines: &Lines,
    shares: [&StepLine; 3],
    side_waist: Point,
    sheet: &mut Sheet,
) -> (Vec<Edge>, Vec<Dart>) {
    let [a, b, _] = shares;
    let Lines { bust_point, foot, g, .. } = *lines;
    let outer_x = foot.x - m.dart_b_in;
    // Up to the bust dart's lower leg; the pivot a little short of it, so that the cloth between holds.
    let on_leg = bust_point + (g - bust_point) * ((outer_x - bust_point.x) / (g.x - bust_point.x));
    let tops = [
        (DartPlace::WaistSide, on_leg + Vec2::new(0.0, m.dart_b_short), b.value),
        (DartPlace::Waist, bust_point + Vec2::new(0.0, m.dart_a_below), a.value),
    ];
    let centre = Point::new(0.0, lines.waist);
    let (line, darts) = waist_edges(side_waist, centre, &tops);
    waist_step(sheet, f, shares, &line);
    sheet.point("top of a", tops[1].1).point("top of b", on_leg).point("CF at WL", centre);
    (line, darts)
}

/// The front and the length of its shoulder.
pub(super) fn draft(f: &Frame, m: &Proportional, sheet: &mut Sheet) -> (Piece, f64) {
    let lines = lines(f, m, sheet);
    let top = top(f, m, sheet);
    let [a, b, c] = [
        ("dart a, under the bust point", plain("share_a", m.share_a)),
        ("dart b, towards the side", plain("share_b", m.share_b)),
        ("side seam c, half of it here", plain("share_c", m.share_c)),
    ]
    .map(|(name, part)| waist_share(f, name, part));
    let side = lines.side;
    let side_waist = Point::new(side.x - c.value / 2.0, lines.waist);
    let Armhole { u, upper, lower } = armhole(f, m, &lines, &top, side_waist, sheet);
    let (waist_line, waist_darts) = waist(f, m, &lines, [&a, &b, &c], side_waist, sheet);

    let Lines { bust_line, bust_point, g, .. } = lines;
    let armhole_length = upper.length() + lower.length();
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, top.neckline),
        Edge::sewn(Seam::Shoulder, Curve::line(top.snp, top.tip)),
        Edge::sewn(Seam::Armhole, upper),
        Edge::leg(DartPlace::Armhole, u, bust_point),
        Edge::leg(DartPlace::Armhole, bust_point, g),
        Edge::sewn(Seam::Armhole, lower),
        Edge::sewn(Seam::Side, Curve::line(side, side_waist)),
    ];
    edges.extend(waist_line);
    edges.push(Edge::on_fold(Seam::CentreFront, Curve::line(Point::new(0.0, lines.waist), top.pit)));
    let mut darts = vec![Dart { place: DartPlace::Armhole, pivot: bust_point, point: bust_point }];
    darts.extend(waist_darts);
    let grain_at = bust_point.x * 0.42;
    let piece = Piece {
        darts,
        levels: vec![Level {
            name: LevelName::Bust,
            points: vec![Point::new(0.0, bust_line), bust_point, side],
        }],
        notches: notches(m, armhole_length, side.distance(side_waist), false),
        ..Piece::bare(
            PieceKind::BODICE_FRONT,
            edges,
            (Point::new(grain_at, top.pit.y + 45.0), Point::new(grain_at, lines.waist - 45.0)),
        )
    };
    (finished(piece), top.shoulder)
}
