//! The back of the proportional draft.

use kurbo::{Point, Vec2};

use super::super::quantity::length;
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
    nape: Point,
    bust_line: f64,
    waist: f64,
    /// Where the back width line meets the bust line.
    c: Point,
    /// The shoulder blade's point, where the shoulder dart ends.
    e: Point,
    side: Point,
}

/// Neck and shoulder, with the dart's ends on it where there is one.
struct Top {
    snp: Point,
    tip: Point,
    neckline: Curve,
    mouth: f64,
    first: Point,
    second: Point,
}

/// How far the neck side lies out from the centre and above the nape.
struct Neck {
    width: StepLine,
    rise: StepLine,
}

impl Neck {
    fn of(f: &Frame, m: &Proportional) -> Self {
        let width =
            (f.neck.quantity() + length("back_neck_wider", m.back_neck_wider)).named("back neck width");
        let rise = (width.quantity() / 3.0).named("neck side above the nape");
        Self { width, rise }
    }
}

/// Step 1: the frame.
fn lines(f: &Frame, m: &Proportional, neck: &Neck, sheet: &mut Sheet) -> Lines {
    let rise = neck.rise.value;
    let down = |below_nape: f64| below_nape + rise;
    let nape = Point::new(0.0, rise);
    let (bust_line, waist) = (down(f.bust_line.value), down(f.length));
    let c = Point::new(f.back_width.value, bust_line);
    let e = Point::new(c.x / 2.0 + m.blade_point_out, down(m.blade_level));
    let side = Point::new(f.side, bust_line);
    sheet
        .step("Rule the frame: centre back, shoulder blade level, bust line, waist, back width line and side seam.")
        .tell(&f.bust_line)
        .tell(&f.back_width)
        .take("waist below the nape", mm("nape_to_waist_back", f.length))
        .point("nape", nape)
        .point("C", c)
        .point("side", side)
        .rule(nape, Point::new(0.0, waist))
        .rule(Point::new(0.0, bust_line), side)
        .rule(Point::new(0.0, e.y), Point::new(c.x, e.y))
        .rule(Point::new(c.x, e.y), c)
        .rule(side, Point::new(side.x, waist));
    Lines { nape, bust_line, waist, c, e, side }
}

/// Step 2: neck and shoulder with its dart.
fn top(
    f: &Frame,
    m: &Proportional,
    neck: &Neck,
    lines: &Lines,
    front_shoulder: f64,
    sheet: &mut Sheet,
) -> Top {
    let Lines { nape, e, .. } = *lines;
    let snp = Point::new(neck.width.value, 0.0);
    let slope = unit(m.back_slope);
    let dart = proportion(
        "shoulder dart",
        f.bust,
        plain("shoulder_dart_of_bust", m.shoulder_dart_of_bust),
        mm("shoulder_dart_less", m.shoulder_dart_less),
        false,
    );
    let mouth = dart.value.max(0.0);
    let shoulder =
        (length("front shoulder", front_shoulder) + length("shoulder dart", mouth)).named("back shoulder");
    let tip = snp + slope * shoulder.value;
    // Straight up from the dart's point to the shoulder, then on towards the tip.
    let above = (e.x - snp.x) / slope.x + m.shoulder_dart_out;
    let first = snp + slope * above;
    let published_second = first + slope * mouth;
    // The published legs differ by a millimetre: the second is trued to the first.
    let second = e + (published_second - e) * (e.distance(first) / e.distance(published_second));
    let neckline = house_curve(nape, Vec2::new(1.0, 0.0), snp, -quarter_turn(slope)).curve;
    sheet
        .step("Draw neck and shoulder; the back shoulder is longer than the front by its dart.")
        .tell(&neck.width)
        .tell(&neck.rise)
        .tell(&dart)
        .tell(&shoulder)
        .point("SNP", snp)
        .point("tip", tip)
        .point("E", e)
        .point("shoulder dart 1", first)
        .point("shoulder dart 2", published_second)
        .draw(&neckline)
        .rule(snp, tip)
        .rule(first, e)
        .rule(e, second);
    Top { snp, tip, neckline, mouth, first, second }
}

/// Step 3: the armhole, down to a side seam that ends there.
fn armhole(
    f: &Frame,
    m: &Proportional,
    lines: &Lines,
    top: &Top,
    side_waist: Point,
    sheet: &mut Sheet,
) -> Curve {
    let Lines { bust_line, c, e, side, .. } = *lines;
    let reach = guide_reach(f, mm("back_guide_more", m.back_guide_more));
    let touch = Point::new(c.x.min(top.tip.x), e.y.midpoint(bust_line));
    let (guide, lower) = under_the_arm(touch, c, reach.value, (side, side_waist));
    let outer_way = (top.tip - top.second) / top.tip.distance(top.second);
    let down = Vec2::new(0.0, 1.0);
    let armhole = house_curve(top.tip, quarter_turn(outer_way), touch, down).curve.then(lower);
    sheet
        .step("Draw the armhole: square from the shoulder, along the back width line, through the guide, square into the side.")
        .tell(&reach)
        .point("armhole guide", guide)
        .draw(&armhole);
    armhole
}

/// What the back's waist gives up: to its darts, to the side seam and at the centre.
struct Shares {
    outer: StepLine,
    inner: StepLine,
    side: StepLine,
    centre: StepLine,
}

impl Shares {
    fn of(f: &Frame, m: &Proportional) -> Self {
        let [outer, inner, side] = [
            ("dart d, towards the side", plain("share_d", m.share_d)),
            ("dart e, under the blade", plain("share_e", m.share_e)),
            ("side seam c", plain("share_c", m.share_c)),
        ]
        .map(|(name, part)| waist_share(f, name, part));
        let left = (1.0 - m.share_a - m.share_b - m.share_c - m.share_d - m.share_e).max(0.0);
        let centre = waist_share(f, "centre back f", plain("what is left", left));
        Self { outer, inner, side, centre }
    }
}

/// Step 4: the waist with its darts d and e, from the side, and the shaped centre back.
fn waist(
    f: &Frame,
    m: &Proportional,
    lines: &Lines,
    shares: &Shares,
    side_waist: Point,
    sheet: &mut Sheet,
) -> (Vec<Edge>, Vec<Dart>) {
    let Lines { nape, bust_line, waist, c, e, .. } = *lines;
    let tops = [
        (DartPlace::WaistSide, Point::new(c.x - m.dart_d_in, f.g_line + nape.y), shares.outer.value),
        (DartPlace::Waist, Point::new(e.x - m.dart_e_in, bust_line - m.dart_e_above), shares.inner.value),
    ];
    let centre = Point::new(shares.centre.value, waist);
    let (line, darts) = waist_edges(side_waist, centre, &tops);
    waist_step(sheet, f, [&shares.outer, &shares.inner, &shares.centre], &line);
    sheet.point("top of d", tops[0].1).point("top of e", tops[1].1).point("CB at WL", Point::new(0.0, waist));
    sheet.rule(Point::new(0.0, e.y), centre);
    (line, darts)
}

/// The back; its shoulder is the front's and the dart.
pub(super) fn draft(f: &Frame, m: &Proportional, front_shoulder: f64, sheet: &mut Sheet) -> Piece {
    let neck = Neck::of(f, m);
    let lines = lines(f, m, &neck, sheet);
    let top = top(f, m, &neck, &lines, front_shoulder, sheet);
    let shares = Shares::of(f, m);
    let side_waist = Point::new(lines.side.x - shares.side.value / 2.0, lines.waist);
    let armhole = armhole(f, m, &lines, &top, side_waist, sheet);
    let (waist_line, waist_darts) = waist(f, m, &lines, &shares, side_waist, sheet);
    piece(m, &lines, top, (armhole, side_waist), (waist_line, waist_darts), shares.centre.value)
}

/// The piece; its centre back runs in to the waist by so much from the shoulder blade down.
fn piece(
    m: &Proportional,
    lines: &Lines,
    top: Top,
    (armhole, side_waist): (Curve, Point),
    (waist_line, waist_darts): (Vec<Edge>, Vec<Dart>),
    centre_in: f64,
) -> Piece {
    let Lines { nape, bust_line, waist, e, side, .. } = *lines;
    let Top { snp, tip, neckline, mouth, first, second } = top;
    let (centre, blade) = (Point::new(centre_in, waist), Point::new(0.0, e.y));
    let armhole_length = armhole.length();
    let mut edges = vec![Edge::sewn(Seam::Neckline, neckline)];
    let mut darts = Vec::new();
    if mouth >= 2.0 {
        edges.push(Edge::sewn(Seam::Shoulder, Curve::line(snp, first)));
        edges.push(Edge::leg(DartPlace::Shoulder, first, e));
        edges.push(Edge::leg(DartPlace::Shoulder, e, second));
        edges.push(Edge::sewn(Seam::Shoulder, Curve::line(second, tip)));
        darts.push(Dart { place: DartPlace::Shoulder, pivot: e, point: e });
    } else {
        edges.push(Edge::sewn(Seam::Shoulder, Curve::line(snp, tip)));
    }
    edges.push(Edge::sewn(Seam::Armhole, armhole));
    edges.push(Edge::sewn(Seam::Side, Curve::line(side, side_waist)));
    edges.extend(waist_line);
    edges.push(if centre_in > 0.5 {
        Edge::sewn(Seam::CentreBack, Curve::line(centre, blade).then(Curve::line(blade, nape)))
    } else {
        Edge::on_fold(Seam::CentreBack, Curve::line(centre, nape))
    });
    darts.extend(waist_darts);
    // The bust line begins where the shaped centre back crosses it.
    let in_at_bust = centre_in * (bust_line - blade.y) / (waist - blade.y);
    let grain_at = e.x * 0.45;
    let piece = Piece {
        darts,
        levels: vec![Level { name: LevelName::Bust, points: vec![Point::new(in_at_bust, bust_line), side] }],
        notches: notches(m, armhole_length, side.distance(side_waist), true),
        ..Piece::bare(
            PieceKind::BODICE_BACK,
            edges,
            (Point::new(grain_at, nape.y + 60.0), Point::new(grain_at, waist - 45.0)),
        )
    };
    finished(piece)
}
