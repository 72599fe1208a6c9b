//! The front of the proportional draft.

use kurbo::{Affine, Point, Vec2};

use super::super::house_curve;
use super::super::sheet::{Sheet, mm, plain};
use super::shared::{finished, notches, unit, waist_edges, waist_step};
use super::{Frame, Proportional};
use crate::pattern::{Curve, Dart, DartPlace, Edge, Level, LevelName, Piece, PieceKind, Seam, quarter_turn};

/// The outer front dart ends this far below the bust dart's lower leg, so that the cloth between holds.
const BELOW_LEG: f64 = 2.0;

/// The front and the length of its shoulder.
pub(super) fn draft(f: &Frame, m: &Proportional, sheet: &mut Sheet) -> (Piece, f64) {
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
