//! The back bodice of the direct method. Until the last step the underarm level is y = 0.

use kurbo::{Affine, Point, Vec2};

use super::direct::{Direct, DirectReadings, DraftError, DraftNote, DraftPoint, written};
use super::front::{Front, NOTCH_ABOVE_WAIST};
use super::house_curve;
use super::ruler::{Armhole, circles_meet, circles_miss_by};
use crate::Style;
use crate::pattern::{
    Curve, Dart, DartPlace, Edge, Level, LevelName, Notch, Piece, PieceKind, Seam, back_off_points,
    quarter_turn, true_waist,
};

/// The side seam starts this far below a tape at the armpits, in millimetres.
pub(super) const BELOW_ARMPIT: f64 = 25.0;
/// A waist dart narrower than this is not worth sewing, in millimetres.
const LEAST_DART: f64 = 6.0;
/// Above this a back wants a second dart, in millimetres (common practice, no source).
const USUAL_DART: f64 = 38.0;

pub(super) struct Back {
    pub(super) piece: Piece,
    pub(super) points: Vec<DraftPoint>,
    pub(super) notes: Vec<DraftNote>,
}

struct Shoulder {
    inner: Curve,
    outer: Curve,
    pivot: Point,
}

pub(super) fn draft(r: &DirectReadings, m: &Direct, front: &Front, style: Style) -> Result<Back, DraftError> {
    let neck_width = r.neck / 5.0 - m.neck_width_less;
    let back_waist = (r.waist + m.ease.waist) / 4.0 - m.front_share;
    let across = (r.across_back + m.ease.across_back) / 2.0;
    let flare = front.flare.clamp(0.0, m.back_flare_limit.to_radians());
    let below = front.bust_below_underarm;

    let side_bust = Point::new(front.back_bust, below);
    let underarm = Point::new(front.back_bust + below * flare.tan(), 0.0);
    let side = Vec2::new(-flare.sin(), flare.cos());
    let nape = Point::new(0.0, -r.nape_to_underarm);
    let centre = Point::new(0.0, nape.y + r.nape_to_waist);
    let snp = Point::new(neck_width, centre.y - r.back_length);

    let waist_pivot = Point::new(across / 2.0, 0.0);
    let shoulder = draw_shoulder(r, m, snp, waist_pivot);
    let touch = Point::new(across.min(shoulder.outer.end().x), nape.y / 2.0);
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

    let side_waist = underarm + side * r.side;
    let waist = draw_waist(r, m, underarm, side_waist, waist_pivot, centre, back_waist, style)?;
    let mut notes = Vec::new();
    if (waist.side_end.y - centre.y).abs() > 15.0 {
        notes.push(DraftNote {
            says: format!(
                "The back waist lies {} apart at centre and side: measure nape to waist and side length again.",
                style.with_unit((waist.side_end.y - centre.y).abs())
            ),
            measurement: Some("nape_to_waist_back".to_owned()),
            estimated: false,
        });
    }
    if let Some(mouth) = waist.mouth.map(|(a, b)| a.distance(b)).filter(|mouth| *mouth > USUAL_DART) {
        notes.push(DraftNote {
            says: format!(
                "The back waist dart is {}, above {}: a second dart beside it would lie flatter.",
                style.with_unit(mouth),
                style.with_unit(USUAL_DART)
            ),
            measurement: Some("waist_girth".to_owned()),
            estimated: false,
        });
    }
    if is_s || neckline.s_shaped {
        notes.push(DraftNote {
            says: "The back armhole bends both ways between tip and across line: look at across back."
                .to_owned(),
            measurement: Some("across_back".to_owned()),
            estimated: false,
        });
    }

    let armhole_length = armhole.length();
    let mut edges = vec![
        Edge::sewn(Seam::Neckline, neckline.curve),
        Edge::sewn(Seam::Shoulder, shoulder.inner.clone()),
        Edge::leg(DartPlace::Shoulder, shoulder.inner.end(), shoulder.pivot),
        Edge::leg(DartPlace::Shoulder, shoulder.pivot, shoulder.outer.start()),
        Edge::sewn(Seam::Shoulder, shoulder.outer.clone()),
        Edge::sewn(Seam::Armhole, armhole),
        Edge::sewn(Seam::Side, Curve::line(underarm, waist.side_end)),
    ];
    edges.extend(waist.edges);
    edges.push(Edge::on_fold(Seam::CentreBack, Curve::line(centre, nape)));
    let mut darts = vec![Dart { place: DartPlace::Shoulder, pivot: shoulder.pivot, point: shoulder.pivot }];
    darts.extend(waist.mouth.map(|_| Dart {
        place: DartPlace::Waist,
        pivot: waist_pivot,
        point: waist_pivot,
    }));
    let mut piece = Piece {
        kind: PieceKind::BodiceBack,
        edges,
        darts,
        levels: vec![Level { name: LevelName::Bust, points: vec![Point::new(0.0, below), side_bust] }],
        notches: vec![
            Notch { seam: Seam::Armhole, from_underarm: armhole_length / 3.0, double: true },
            Notch { seam: Seam::Side, from_underarm: r.side - NOTCH_ABOVE_WAIST, double: false },
        ],
        grain: (Point::new(across * 0.22, nape.y + 60.0), Point::new(across * 0.22, centre.y - 45.0)),
    };
    true_waist(&mut piece);
    back_off_points(&mut piece);

    let to_level = Affine::translate((0.0, -snp.y));
    let mut named = vec![
        ("nape", nape),
        ("SNP", snp),
        ("tip", arm.tip),
        ("K", underarm),
        ("N", waist.side_end),
        ("O", waist_pivot),
        ("C", touch),
        ("V", shoulder.pivot),
    ];
    named.extend(waist.mouth.iter().flat_map(|&(first, second)| [("P", first), ("Q", second)]));
    let points = named.into_iter().map(|(name, at)| DraftPoint {
        piece: PieceKind::BodiceBack,
        name: name.to_owned(),
        at: to_level * at,
    });
    Ok(Back { points: points.collect(), piece: moved(piece, to_level), notes })
}

/// Both halves of the shoulder, the outer one turned open about the dart's pivot.
fn draw_shoulder(r: &DirectReadings, m: &Direct, snp: Point, waist_pivot: Point) -> Shoulder {
    let tip = snp + Vec2::new((r.shoulder.powi(2) - r.slope.powi(2)).sqrt(), r.slope);
    let middle = snp.midpoint(tip);
    let towards = (waist_pivot - middle) / waist_pivot.distance(middle);
    let pivot = middle + towards * m.shoulder_dart_depth;
    let opened = 2.0 * (m.shoulder_dart_mouth / 2.0 / m.shoulder_dart_depth).asin();
    let outer = Curve::line(middle, tip).transformed(Affine::rotate_about(opened, pivot));
    Shoulder { inner: Curve::line(snp, middle), outer, pivot }
}

struct Waist {
    edges: Vec<Edge>,
    /// First and second leg's end, where there is a dart.
    mouth: Option<(Point, Point)>,
    side_end: Point,
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
) -> Result<Waist, DraftError> {
    let plain = || {
        // No dart: the side seam swings to the waist's own width and keeps its length.
        let run = back_waist - underarm.x;
        let drop = (r.side.powi(2) - run.powi(2)).max(0.0).sqrt();
        let side_end = underarm + Vec2::new(run, drop);
        let edges = vec![Edge::sewn(Seam::Waist, Curve::line(side_end, centre))];
        Waist { edges, mouth: None, side_end }
    };
    if side_waist.x < back_waist + LEAST_DART {
        return Ok(plain());
    }
    let first = Point::new(pivot.x - m.dart_inside, centre.y);
    let (leg, rest) = (pivot.distance(first), back_waist - first.x);
    let unreachable = || DraftError::WaistUnreachable {
        piece: "back",
        by: written(circles_miss_by(pivot, leg, side_waist, rest), style),
        waist: written(r.waist, style),
        length_name: "nape to waist behind",
        length: written(r.nape_to_waist, style),
    };
    let [one, other] = circles_meet(pivot, leg, side_waist, rest).ok_or_else(unreachable)?;
    let nearer = |p: &Point| (p.y - first.y).abs();
    let second = if nearer(&one) <= nearer(&other) { one } else { other };
    if second.x - first.x < LEAST_DART {
        return Ok(plain());
    }
    let edges = vec![
        Edge::sewn(Seam::Waist, Curve::line(side_waist, second)),
        Edge::leg(DartPlace::Waist, second, pivot),
        Edge::leg(DartPlace::Waist, pivot, first),
        Edge::sewn(Seam::Waist, Curve::line(first, centre)),
    ];
    Ok(Waist { edges, mouth: Some((first, second)), side_end: side_waist })
}

fn moved(mut piece: Piece, by: Affine) -> Piece {
    piece.edges.iter_mut().for_each(|edge| edge.curve = edge.curve.transformed(by));
    for dart in &mut piece.darts {
        (dart.pivot, dart.point) = (by * dart.pivot, by * dart.point);
    }
    piece.levels.iter_mut().flat_map(|level| &mut level.points).for_each(|p| *p = by * *p);
    piece.grain = (by * piece.grain.0, by * piece.grain.1);
    piece
}
