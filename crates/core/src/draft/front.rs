//! The front bodice of the direct method.

use kurbo::{Point, Vec2};

use super::direct::{Direct, DirectReadings, DraftError, DraftNote, DraftPoint, written};
use super::house_curve;
use super::ruler::{Armhole, circles_meet, circles_miss_by};
use crate::Style;
use crate::pattern::{
    Curve, Dart, DartPlace, Edge, Level, LevelName, Notch, Piece, PieceKind, Seam, back_off_points,
    quarter_turn, true_waist,
};

/// Side notches lie this far above the waist, in millimetres (common practice, no source).
pub(super) const NOTCH_ABOVE_WAIST: f64 = 70.0;

/// The front with what the back needs of it.
pub(super) struct Front {
    pub(super) piece: Piece,
    pub(super) tip: Point,
    /// Arc length on the side seam at which the bust line ends.
    pub(super) side_at_bust: f64,
    /// Flare of the side seam, radians, outwards positive.
    pub(super) flare: f64,
    /// Half the bust with ease, less the front.
    pub(super) back_bust: f64,
    /// Bust line below the underarm.
    pub(super) bust_below_underarm: f64,
    pub(super) points: Vec<DraftPoint>,
    pub(super) notes: Vec<DraftNote>,
}

pub(super) fn draft(r: &DirectReadings, m: &Direct, style: Style) -> Result<Front, DraftError> {
    let neck_width = r.neck / 5.0 - m.neck_width_less;
    let neck_depth = neck_width + m.neck_depth_more;
    let (bust_depth, underarm_depth) = (r.bust_depth, m.underarm_share * r.bust_depth);
    let half_bust = (r.bust + m.ease.bust) / 2.0;
    let front_bust = half_bust / 2.0 + m.front_share;
    let front_upper = (r.upper_bust + m.ease.bust) / 4.0 + m.front_share;
    let front_waist = (r.waist + m.ease.waist) / 4.0 + m.front_share;
    let across = (r.across_front + m.ease.across_back / 2.0) / 2.0;

    let snp = Point::new(neck_width, 0.0);
    let pit = Point::new(0.0, neck_depth);
    let tip = snp + Vec2::new((r.shoulder.powi(2) - r.slope.powi(2)).sqrt(), r.slope);
    let shoulder = (tip - snp) / r.shoulder;

    let underarm = Point::new(front_upper, underarm_depth);
    let side_bust = Point::new(front_bust, bust_depth);
    let side_at_bust = underarm.distance(side_bust);
    if side_at_bust + 1.0 > r.side {
        return Err(DraftError::SideTooShort {
            side: written(r.side, style),
            least: written(side_at_bust + 1.0, style),
        });
    }
    let side = (side_bust - underarm) / side_at_bust;
    let side_waist = underarm + side * r.side;

    let touch = Point::new(across.min(tip.x), neck_depth.midpoint(underarm_depth));
    let (armhole, is_s) = Armhole { tip, shoulder, touch, underarm, side }.draw();
    let neckline = house_curve(pit, Vec2::new(1.0, 0.0), snp, -quarter_turn(shoulder));

    let pivot = Point::new(r.span / 2.0, bust_depth);
    let first = Point::new(pivot.x - m.dart_inside, r.front_length);
    let centre = Point::new(0.0, r.front_length);
    let (leg, rest) = (pivot.distance(first), front_waist - first.x);
    if rest <= 0.0 {
        return Err(DraftError::NoRoom {
            wide: "waist girth",
            wide_is: written(r.waist, style),
            narrow: "twice the bust span",
            narrow_is: written(2.0 * r.span, style),
        });
    }
    let unreachable = || DraftError::WaistUnreachable {
        piece: "front",
        by: written(circles_miss_by(pivot, leg, side_waist, rest), style),
        waist: written(r.waist, style),
        length_name: "neck side to waist in front",
        length: written(r.front_length, style),
    };
    let meetings = circles_meet(pivot, leg, side_waist, rest).ok_or_else(unreachable)?;
    let nearer = |p: &Point| (p.y - first.y).abs();
    let [one, other] = meetings;
    let second = if nearer(&one) <= nearer(&other) { one } else { other };
    if second.x <= first.x {
        return Err(unreachable());
    }

    let armhole_length = armhole.length();
    let mut piece = Piece {
        kind: PieceKind::BodiceFront,
        edges: vec![
            Edge::sewn(Seam::Neckline, neckline.curve),
            Edge::sewn(Seam::Shoulder, Curve::line(snp, tip)),
            Edge::sewn(Seam::Armhole, armhole),
            Edge::sewn(Seam::Side, Curve::line(underarm, side_waist)),
            Edge::sewn(Seam::Waist, Curve::line(side_waist, second)),
            Edge::leg(DartPlace::Waist, second, pivot),
            Edge::leg(DartPlace::Waist, pivot, first),
            Edge::sewn(Seam::Waist, Curve::line(first, centre)),
            Edge::on_fold(Seam::CentreFront, Curve::line(centre, pit)),
        ],
        darts: vec![Dart { place: DartPlace::Waist, pivot, point: pivot }],
        levels: vec![Level {
            name: LevelName::Bust,
            points: vec![Point::new(0.0, bust_depth), pivot, side_bust],
        }],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: armhole_length / 3.0, double: false },
            Notch { seam: Seam::Side, from_underarm: r.side - NOTCH_ABOVE_WAIST, double: false },
        ],
        grain: (
            Point::new(pivot.x * 0.42, neck_depth + 45.0),
            Point::new(pivot.x * 0.42, r.front_length - 45.0),
        ),
    };
    true_waist(&mut piece);
    back_off_points(&mut piece);

    let named = [
        ("SNP", snp),
        ("pit", pit),
        ("tip", tip),
        ("K", underarm),
        ("I", side_bust),
        ("N", side_waist),
        ("O", pivot),
        ("P", first),
        ("Q", second),
        ("C", touch),
    ];
    let point =
        |(name, at): (&str, Point)| DraftPoint { piece: PieceKind::BodiceFront, name: name.to_owned(), at };
    let s_note = (is_s || neckline.s_shaped).then(|| DraftNote {
        says: "The front armhole bends both ways between tip and across line: look at across front."
            .to_owned(),
        measurement: Some("across_front".to_owned()),
        estimated: false,
    });
    Ok(Front {
        piece,
        tip,
        side_at_bust,
        flare: side.x.atan2(side.y),
        back_bust: half_bust - front_bust,
        bust_below_underarm: bust_depth - underarm_depth,
        points: named.into_iter().map(point).collect(),
        notes: s_note.into_iter().collect(),
    })
}
