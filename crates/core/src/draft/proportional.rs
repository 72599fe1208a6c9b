//! The proportional method: bust, waist and back length, everything else in published proportion.
//!
//! Formulas and the worked example stand in the handbook (`check-values.md`, section 4). The construction is
//! told in the handbook's axes: x from the piece's own centre line, y down from its own neck-side level.
//! The published points are guides; the curves between them are free and are drawn as house curves here.

use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};

use super::clash::{Clash, contradiction};
use super::direct::{Draft, DraftError, DraftNote};
use super::house_curve;
use super::sheet::{Sheet, Term, mm, plain};
use crate::Style;
use crate::body::Body;
use crate::pattern::{
    Curve, Dart, DartPlace, Edge, Level, LevelName, Notch, Pattern, Piece, PieceKind, Seam, back_off_points,
    quarter_turn, true_waist,
};

/// The constants of the method, in millimetres and degrees; girths are divided by the bare numbers.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
#[expect(missing_docs, reason = "the table of parameters names every one and says why")]
pub struct Proportional {
    pub bust_ease: f64,
    pub waist_ease: f64,
    pub bust_line_of_bust: f64,
    pub bust_line_more: f64,
    pub back_width_of_bust: f64,
    pub back_width_more: f64,
    pub blade_level: f64,
    pub front_rise_of_bust: f64,
    pub front_rise_more: f64,
    pub chest_of_bust: f64,
    pub chest_more: f64,
    pub bust_point_out: f64,
    pub dart_foot_of_bust: f64,
    pub neck_of_bust: f64,
    pub neck_more: f64,
    pub neck_depth_over: f64,
    pub back_neck_wider: f64,
    pub front_slope: f64,
    pub back_slope: f64,
    pub shoulder_beyond: f64,
    pub bust_dart_of_bust: f64,
    pub bust_dart_less: f64,
    pub shoulder_dart_of_bust: f64,
    pub shoulder_dart_less: f64,
    pub share_a: f64,
    pub share_b: f64,
    pub share_c: f64,
    pub share_d: f64,
    pub share_e: f64,
}

impl Default for Proportional {
    fn default() -> Self {
        Self {
            bust_ease: 120.0,
            waist_ease: 60.0,
            bust_line_of_bust: 12.0,
            bust_line_more: 137.0,
            back_width_of_bust: 8.0,
            back_width_more: 74.0,
            blade_level: 80.0,
            front_rise_of_bust: 5.0,
            front_rise_more: 83.0,
            chest_of_bust: 8.0,
            chest_more: 62.0,
            bust_point_out: 7.0,
            dart_foot_of_bust: 32.0,
            neck_of_bust: 24.0,
            neck_more: 34.0,
            neck_depth_over: 5.0,
            back_neck_wider: 2.0,
            front_slope: 22.0,
            back_slope: 18.0,
            shoulder_beyond: 18.0,
            bust_dart_of_bust: 0.25,
            bust_dart_less: 2.5,
            shoulder_dart_of_bust: 32.0,
            shoulder_dart_less: 8.0,
            share_a: 0.14,
            share_b: 0.15,
            share_c: 0.11,
            share_d: 0.35,
            share_e: 0.18,
        }
    }
}

impl Proportional {
    /// The codes the method cannot do without.
    pub const NEEDED: [&str; 3] = ["bust_girth", "waist_girth", "nape_to_waist_back"];
}

/// Bust for which the proportions are published, in millimetres.
const MADE_FOR: std::ops::RangeInclusive<f64> = 770.0..=1040.0;
/// The outer front dart ends this far below the bust dart's lower leg, so that the cloth between holds.
const BELOW_LEG: f64 = 2.0;

/// Levels and widths both halves share. Levels count from the nape.
struct Frame {
    bust: f64,
    width: f64,
    waist: f64,
    bust_line: f64,
    back_width: f64,
    chest: f64,
    /// The level between shoulder blade and bust line.
    g_line: f64,
    /// From the back width line to the side seam.
    side: f64,
    /// A sixth of the armhole's width.
    sixth: f64,
    dart_foot: f64,
    /// What all waist darts take in together.
    waist_darts: f64,
    neck: f64,
}

/// Drafts a bodice from bust, waist and back length.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_proportional(body: &Body, m: &Proportional, style: Style) -> Result<Draft, DraftError> {
    super::missing(body, Proportional::NEEDED.iter())?;
    drawn(body, m, style).map_err(|clash| {
        let between = clash.between;
        let clashes = |body: &Body| drawn(body, m, style).is_err_and(|again| again.between == between);
        DraftError::Contradiction(Box::new(contradiction(clash, body, style, clashes)))
    })
}

fn drawn(body: &Body, m: &Proportional, style: Style) -> Result<Draft, Clash> {
    let of = |code: &str| body.get(code).unwrap_or_default();
    let (bust, waist, length) = (of("bust_girth"), of("waist_girth"), of("nape_to_waist_back"));
    let width = (bust + m.bust_ease) / 2.0;
    let bust_line = bust / m.bust_line_of_bust + m.bust_line_more;
    let back_width = bust / m.back_width_of_bust + m.back_width_more;
    let chest = bust / m.chest_of_bust + m.chest_more;
    let dart_foot = bust / m.dart_foot_of_bust;
    let frame = Frame {
        bust,
        width,
        waist: length,
        bust_line,
        back_width,
        chest,
        g_line: m.blade_level.midpoint(bust_line) + 5.0,
        side: back_width.midpoint(width - chest - dart_foot),
        sixth: (width - chest - dart_foot - back_width) / 6.0,
        dart_foot,
        waist_darts: width - (waist + m.waist_ease) / 2.0,
        neck: bust / m.neck_of_bust + m.neck_more,
    };
    if length < bust_line + 60.0 {
        return Err(Clash {
            what: format!(
                "the bust line of a bust of {} lies {} below the nape, at or below the waist",
                style.with_unit(bust),
                style.with_unit(bust_line)
            ),
            between: ["nape_to_waist_back", "bust_girth"],
        });
    }
    let shares = m.share_a + m.share_b + m.share_c + m.share_d + m.share_e;
    let widest = frame.waist_darts * m.share_d.max(1.0 - shares);
    if frame.waist_darts < 0.0 || widest > 90.0 {
        let relation = if frame.waist_darts < 0.0 {
            "leaves nothing for the darts"
        } else {
            "asks for darts too wide to sew"
        };
        return Err(Clash {
            what: format!(
                "a waist of {} on a bust of {} {relation}",
                style.with_unit(waist),
                style.with_unit(bust)
            ),
            between: ["waist_girth", "bust_girth"],
        });
    }
    let mut notes = Vec::new();
    if !MADE_FOR.contains(&bust) {
        let says = format!(
            "These proportions are published for a bust of {} to {}: look at the armhole before cutting.",
            style.with_unit(*MADE_FOR.start()),
            style.with_unit(*MADE_FOR.end())
        );
        notes.push(DraftNote::about("bust_girth", says));
    }
    let mut front_sheet = Sheet::new(PieceKind::BodiceFront);
    let (front, shoulder) = front(&frame, m, &mut front_sheet);
    let mut back_sheet = Sheet::new(PieceKind::BodiceBack);
    let back = back(&frame, m, shoulder, &mut back_sheet);
    let steps = front_sheet.steps.into_iter().chain(back_sheet.steps).collect();
    Ok(Draft { pattern: Pattern::new(vec![front, back]), steps, notes })
}

fn unit(degrees: f64) -> Vec2 {
    Vec2::new(degrees.to_radians().cos(), degrees.to_radians().sin())
}

/// Straight waist between side and centre with darts of these middles and widths, the side first.
fn waist_edges(side: Point, centre: Point, darts: &[(DartPlace, Point, f64)]) -> (Vec<Edge>, Vec<Dart>) {
    let mut edges = Vec::new();
    let mut marks = Vec::new();
    let mut from = side;
    for &(place, apex, width) in darts.iter().filter(|(_, _, width)| *width >= 2.0) {
        let (outer, inner) =
            (Point::new(apex.x + width / 2.0, side.y), Point::new(apex.x - width / 2.0, side.y));
        edges.push(Edge::sewn(Seam::Waist, Curve::line(from, outer)));
        edges.push(Edge::leg(place, outer, apex));
        edges.push(Edge::leg(place, apex, inner));
        marks.push(Dart { place, pivot: apex, point: apex });
        from = inner;
    }
    edges.push(Edge::sewn(Seam::Waist, Curve::line(from, centre)));
    (edges, marks)
}

/// The front and the length of its shoulder.
fn front(f: &Frame, m: &Proportional, sheet: &mut Sheet) -> (Piece, f64) {
    // The level of the neck side above the bust line, and everything else below that level.
    let rise = f.bust / m.front_rise_of_bust + m.front_rise_more;
    let down = |below_nape: f64| below_nape - f.bust_line + rise;
    let (bust_line, waist) = (rise, down(f.waist));
    let bust_point = Point::new(f.chest / 2.0 + m.bust_point_out, bust_line);
    let foot = Point::new(f.chest + f.dart_foot, bust_line);
    let g = Point::new(foot.x, down(f.g_line));
    let angle = f.bust / 10.0 * m.bust_dart_of_bust - m.bust_dart_less;
    let u = Affine::rotate_about(-angle.to_radians(), bust_point) * g;
    let side = Point::new(f.width - f.side, bust_line);
    sheet
        .step("Rule the frame: centre front, bust line, waist, chest line and side seam.")
        .find(
            "half width",
            "({bust_girth} + {bust_ease}) / 2",
            &[mm("bust_girth", f.bust), mm("bust_ease", m.bust_ease)],
            f.width,
        )
        .find(
            "neck side above the bust line",
            "{bust_girth} / {front_rise_of_bust} + {front_rise_more}",
            &[
                mm("bust_girth", f.bust),
                plain("front_rise_of_bust", m.front_rise_of_bust),
                mm("front_rise_more", m.front_rise_more),
            ],
            rise,
        )
        .find(
            "chest width",
            "{bust_girth} / {chest_of_bust} + {chest_more}",
            &[
                mm("bust_girth", f.bust),
                plain("chest_of_bust", m.chest_of_bust),
                mm("chest_more", m.chest_more),
            ],
            f.chest,
        )
        .find(
            "bust point out",
            "{chest width} / 2 + {bust_point_out}",
            &[mm("chest width", f.chest), mm("bust_point_out", m.bust_point_out)],
            bust_point.x,
        )
        .point("BP", bust_point)
        .point("side", side)
        .rule(Point::ZERO, Point::new(0.0, waist))
        .rule(Point::new(0.0, bust_line), side)
        .rule(Point::new(f.chest, 0.0), Point::new(f.chest, bust_line))
        .rule(side, Point::new(side.x, waist));

    let snp = Point::new(f.neck, 0.0);
    let pit = Point::new(0.0, f.neck + m.neck_depth_over);
    let slope = unit(m.front_slope);
    let shoulder = (f.chest - f.neck) / slope.x + m.shoulder_beyond;
    let tip = snp + slope * shoulder;
    let neckline = house_curve(pit, Vec2::new(1.0, 0.0), snp, -quarter_turn(slope)).curve;
    sheet
        .step("Draw neck and shoulder: by its slope to the chest line and a little beyond.")
        .find(
            "neck width",
            "{bust_girth} / {neck_of_bust} + {neck_more}",
            &[mm("bust_girth", f.bust), plain("neck_of_bust", m.neck_of_bust), mm("neck_more", m.neck_more)],
            f.neck,
        )
        .find(
            "neck depth",
            "{neck width} + {neck_depth_over}",
            &[mm("neck width", f.neck), mm("neck_depth_over", m.neck_depth_over)],
            pit.y,
        )
        .find(
            "shoulder",
            "({chest width} − {neck width}) / cos({front_slope}) + {shoulder_beyond}",
            &[
                mm("chest width", f.chest),
                mm("neck width", f.neck),
                plain("front_slope", m.front_slope),
                mm("shoulder_beyond", m.shoulder_beyond),
            ],
            shoulder,
        )
        .point("SNP", snp)
        .point("FNP", pit)
        .point("tip", tip)
        .draw(&neckline)
        .rule(snp, tip);

    let out = (f.sixth + 5.0) / std::f64::consts::SQRT_2;
    let guide = foot + Vec2::new(out, -out);
    let into_dart = Vec2::new(0.0, 1.0);
    let from_u = (Affine::rotate(-angle.to_radians()) * into_dart.to_point()).to_vec2();
    let side_waist = Point::new(side.x - f.waist_darts * m.share_c / 2.0, waist);
    let side_way = (side_waist - side) / side.distance(side_waist);
    let upper = house_curve(tip, quarter_turn(slope), u, from_u).curve;
    let slanted = unit(45.0);
    let lower = house_curve(g, into_dart, guide, slanted)
        .curve
        .then(house_curve(guide, slanted, side, -quarter_turn(side_way)).curve);
    sheet
        .step("Turn the bust dart open about the bust point and draw the armhole: down to the dart, on from its other leg, through the guide, square into the side.")
        .find("dart's foot beyond the chest line", "{bust_girth} / {dart_foot_of_bust}", &[mm("bust_girth", f.bust), plain("dart_foot_of_bust", m.dart_foot_of_bust)], f.dart_foot)
        .find_angle(
            "bust dart",
            "{bust in centimetres} × {bust_dart_of_bust} − {bust_dart_less}",
            &[
                plain("bust in centimetres", f.bust / 10.0),
                plain("bust_dart_of_bust", m.bust_dart_of_bust),
                plain("bust_dart_less", m.bust_dart_less),
            ],
            angle,
        )
        .find("guide from the corner, at 45 degrees", "{sixth of the armhole width} + {half a centimetre}", &[mm("sixth of the armhole width", f.sixth), mm("half a centimetre", 5.0)], f.sixth + 5.0)
        .point("F", foot)
        .point("G", g)
        .point("U", u)
        .point("armhole guide", guide)
        .draw(&upper)
        .rule(u, bust_point)
        .rule(bust_point, g)
        .draw(&lower);

    let (a, b) = (f.waist_darts * m.share_a, f.waist_darts * m.share_b);
    let outer_x = foot.x - 15.0;
    // Up to the bust dart's lower leg.
    let on_leg = bust_point + (g - bust_point) * ((outer_x - bust_point.x) / (g.x - bust_point.x));
    let tops = [
        (DartPlace::WaistSide, on_leg + Vec2::new(0.0, BELOW_LEG), b),
        (DartPlace::Waist, bust_point + Vec2::new(0.0, 25.0), a),
    ];
    let centre = Point::new(0.0, waist);
    let (waist_line, waist_darts) = waist_edges(side_waist, centre, &tops);
    waist_step(
        sheet,
        f,
        m,
        &[
            ("dart a, under the bust point", "share_a", m.share_a, a),
            ("dart b, towards the side", "share_b", m.share_b, b),
            ("side seam c, half of it here", "share_c", m.share_c, f.waist_darts * m.share_c),
        ],
    );
    sheet.point("top of a", tops[1].1).point("top of b", on_leg).point("CF at WL", centre);
    waist_line.iter().for_each(|edge| {
        sheet.draw(&edge.curve);
    });

    let (upper_length, lower_length) = (upper.length(), lower.length());
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, neckline),
        Edge::sewn(Seam::Shoulder, Curve::line(snp, tip)),
        Edge::sewn(Seam::Armhole, upper),
        Edge::leg(DartPlace::Armhole, u, bust_point),
        Edge::leg(DartPlace::Armhole, bust_point, g),
        Edge::sewn(Seam::Armhole, lower),
        Edge::sewn(Seam::Side, Curve::line(side, side_waist)),
    ];
    edges.extend(waist_line);
    edges.push(Edge::on_fold(Seam::CentreFront, Curve::line(centre, pit)));
    let mut darts = vec![Dart { place: DartPlace::Armhole, pivot: bust_point, point: bust_point }];
    darts.extend(waist_darts);
    let piece = Piece {
        kind: PieceKind::BodiceFront,
        edges,
        darts,
        two_pointed: Vec::new(),
        levels: vec![Level {
            name: LevelName::Bust,
            points: vec![Point::new(0.0, bust_line), bust_point, side],
        }],
        notches: notches(upper_length + lower_length, side.distance(side_waist), false),
        grain: (Point::new(bust_point.x * 0.42, pit.y + 45.0), Point::new(bust_point.x * 0.42, waist - 45.0)),
    };
    (finished(piece), shoulder)
}

fn notches(armhole: f64, side: f64, is_back: bool) -> Vec<Notch> {
    vec![
        Notch { seam: Seam::Armhole, from_underarm: armhole / 3.0, double: is_back },
        Notch { seam: Seam::Side, from_underarm: (side - 70.0).max(side / 2.0), double: false },
    ]
}

fn finished(mut piece: Piece) -> Piece {
    true_waist(&mut piece);
    back_off_points(&mut piece);
    piece
}

fn waist_step(
    sheet: &mut Sheet,
    f: &Frame,
    m: &Proportional,
    darts: &[(&'static str, &'static str, f64, f64)],
) {
    let waist = 2.0 * (f.width - f.waist_darts) - m.waist_ease;
    sheet.step("Share out what the waist is narrower, and draw the darts to the waist.").find(
        "all waist darts together",
        "{half width} − ({waist_girth} + {waist_ease}) / 2",
        &[mm("half width", f.width), mm("waist_girth", waist), mm("waist_ease", m.waist_ease)],
        f.waist_darts,
    );
    for &(name, code, share, value) in darts {
        // The sheet speaks of the parameter by its name.
        let formula = match code {
            "share_a" => "{all waist darts} × {share_a}",
            "share_b" => "{all waist darts} × {share_b}",
            "share_c" => "{all waist darts} × {share_c}",
            "share_d" => "{all waist darts} × {share_d}",
            "share_e" => "{all waist darts} × {share_e}",
            _ => "{all waist darts} × {what is left}",
        };
        sheet.find(
            name,
            formula,
            &[mm("all waist darts", f.waist_darts), Term { name: code, value: share, plain: true }],
            value,
        );
    }
}

fn back(f: &Frame, m: &Proportional, front_shoulder: f64, sheet: &mut Sheet) -> Piece {
    let neck = f.neck + m.back_neck_wider;
    let rise = neck / 3.0;
    let down = |below_nape: f64| below_nape + rise;
    let nape = Point::new(0.0, rise);
    let snp = Point::new(neck, 0.0);
    let (bust_line, waist) = (down(f.bust_line), down(f.waist));
    let c = Point::new(f.back_width, bust_line);
    let e = Point::new(f.back_width / 2.0 + 10.0, down(m.blade_level));
    let side = Point::new(f.side, bust_line);
    let slope = unit(m.back_slope);
    let mouth = (f.bust / m.shoulder_dart_of_bust - m.shoulder_dart_less).max(0.0);
    let shoulder = front_shoulder + mouth;
    let tip = snp + slope * shoulder;
    sheet
        .step("Rule the frame: centre back, shoulder blade level, bust line, waist, back width line and side seam.")
        .find(
            "bust line below the nape",
            "{bust_girth} / {bust_line_of_bust} + {bust_line_more}",
            &[mm("bust_girth", f.bust), plain("bust_line_of_bust", m.bust_line_of_bust), mm("bust_line_more", m.bust_line_more)],
            f.bust_line,
        )
        .find(
            "back width",
            "{bust_girth} / {back_width_of_bust} + {back_width_more}",
            &[mm("bust_girth", f.bust), plain("back_width_of_bust", m.back_width_of_bust), mm("back_width_more", m.back_width_more)],
            f.back_width,
        )
        .find("waist below the nape", "{nape_to_waist_back}", &[mm("nape_to_waist_back", f.waist)], f.waist)
        .point("nape", nape)
        .point("C", c)
        .point("side", side)
        .rule(nape, Point::new(0.0, waist))
        .rule(Point::new(0.0, bust_line), side)
        .rule(Point::new(0.0, e.y), Point::new(f.back_width, e.y))
        .rule(Point::new(f.back_width, e.y), c)
        .rule(side, Point::new(side.x, waist));

    // Straight up from the dart's point to the shoulder, then 15 on towards the tip.
    let above = (e.x - snp.x) / slope.x + 15.0;
    let first = snp + slope * above;
    let published_second = first + slope * mouth;
    // The published legs differ by a millimetre: the second is trued to the first.
    let second = e + (published_second - e) * (e.distance(first) / e.distance(published_second));
    let neckline = house_curve(nape, Vec2::new(1.0, 0.0), snp, -quarter_turn(slope)).curve;
    sheet
        .step("Draw neck and shoulder; the back shoulder is longer than the front by its dart.")
        .find(
            "back neck width",
            "{neck width} + {back_neck_wider}",
            &[mm("neck width", f.neck), mm("back_neck_wider", m.back_neck_wider)],
            neck,
        )
        .find("neck side above the nape", "{back neck width} / 3", &[mm("back neck width", neck)], rise)
        .find(
            "shoulder dart",
            "{bust_girth} / {shoulder_dart_of_bust} − {shoulder_dart_less}",
            &[
                mm("bust_girth", f.bust),
                plain("shoulder_dart_of_bust", m.shoulder_dart_of_bust),
                mm("shoulder_dart_less", m.shoulder_dart_less),
            ],
            mouth,
        )
        .find(
            "back shoulder",
            "{front shoulder} + {shoulder dart}",
            &[mm("front shoulder", front_shoulder), mm("shoulder dart", mouth)],
            shoulder,
        )
        .point("SNP", snp)
        .point("tip", tip)
        .point("E", e)
        .point("shoulder dart 1", first)
        .point("shoulder dart 2", published_second)
        .draw(&neckline)
        .rule(snp, tip)
        .rule(first, e)
        .rule(e, second);

    let out = (f.sixth + 8.0) / std::f64::consts::SQRT_2;
    let guide = c + Vec2::new(out, -out);
    let side_waist = Point::new(side.x - f.waist_darts * m.share_c / 2.0, waist);
    let side_way = (side_waist - side) / side.distance(side_waist);
    let touch = Point::new(f.back_width.min(tip.x), e.y.midpoint(bust_line));
    let straight = Vec2::new(0.0, 1.0);
    let slanted = unit(45.0);
    let outer_way = (tip - second) / tip.distance(second);
    let armhole = house_curve(tip, quarter_turn(outer_way), touch, straight)
        .curve
        .then(house_curve(touch, straight, guide, slanted).curve)
        .then(house_curve(guide, slanted, side, -quarter_turn(side_way)).curve);
    sheet
        .step("Draw the armhole: square from the shoulder, along the back width line, through the guide, square into the side.")
        .find("guide from the corner, at 45 degrees", "{sixth of the armhole width} + {eight millimetres}", &[mm("sixth of the armhole width", f.sixth), mm("eight millimetres", 8.0)], f.sixth + 8.0)
        .point("armhole guide", guide)
        .draw(&armhole);

    let (d, inner) = (f.waist_darts * m.share_d, f.waist_darts * m.share_e);
    let left = (1.0 - m.share_a - m.share_b - m.share_c - m.share_d - m.share_e).max(0.0);
    let centre_in = f.waist_darts * left;
    let tops = [
        (DartPlace::WaistSide, Point::new(c.x - 10.0, down(f.g_line)), d),
        (DartPlace::Waist, Point::new(e.x - 5.0, bust_line - 20.0), inner),
    ];
    let centre = Point::new(centre_in, waist);
    let blade = Point::new(0.0, e.y);
    let (waist_line, waist_darts) = waist_edges(side_waist, centre, &tops);
    waist_step(
        sheet,
        f,
        m,
        &[
            ("dart d, towards the side", "share_d", m.share_d, d),
            ("dart e, under the blade", "share_e", m.share_e, inner),
            ("centre back f", "what is left", left, centre_in),
        ],
    );
    sheet.point("top of d", tops[0].1).point("top of e", tops[1].1).point("CB at WL", Point::new(0.0, waist));
    waist_line.iter().for_each(|edge| {
        sheet.draw(&edge.curve);
    });
    sheet.rule(blade, centre);

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
    let shaped = centre_in > 0.5;
    let centre_back = if shaped {
        Edge::sewn(Seam::CentreBack, Curve::line(centre, blade).then(Curve::line(blade, nape)))
    } else {
        Edge::on_fold(Seam::CentreBack, Curve::line(centre, nape))
    };
    edges.push(centre_back);
    darts.extend(waist_darts);
    // The bust line begins where the shaped centre back crosses it.
    let in_at_bust = centre_in * (bust_line - blade.y) / (waist - blade.y);
    let piece = Piece {
        kind: PieceKind::BodiceBack,
        edges,
        darts,
        two_pointed: Vec::new(),
        levels: vec![Level { name: LevelName::Bust, points: vec![Point::new(in_at_bust, bust_line), side] }],
        notches: notches(armhole_length, side.distance(side_waist), true),
        grain: (Point::new(e.x * 0.45, nape.y + 60.0), Point::new(e.x * 0.45, waist - 45.0)),
    };
    finished(piece)
}
