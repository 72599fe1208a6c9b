//! Shoulder length: the tip moves along the shoulder's own line, front and back alike, and the
//! armhole is re-drawn from it (handbook: `alterations.md`, section 2).

use kurbo::{ParamCurve, Point, Vec2};

use super::keeps::{CENTRES, GIRTHS, Keeps, NECKLINES, SIDES};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::tangents_meet;
use crate::geometry::{Curve, quarter_turn, reshape_start};
use crate::pattern::{Edge, Pattern, PatternMeasure, Piece, Seam};

/// The armhole is re-drawn over this share of its length from the tip.
const REACH_SHARE: f64 = 2.0 / 3.0;
/// It leaves the tip straight for this long, in millimetres.
const STRAIGHT: f64 = 6.0;
/// From this amount on the armhole is drawn anew, in millimetres: usual are 6 to 16.
const LEAST_USUAL: f64 = 6.0;
/// The shoulder's outer part keeps at least this, in millimetres (ours to tune).
const LEAST_LEFT: f64 = 20.0;
const PARAMS: [Param; 1] = [Param::amount(
    "Shoulder length",
    MeasuredOn::PerSeam,
    (-60.0, 60.0),
    "What the shoulder seam gains, front and back alike. Negative shortens. Usual is 6 to 16 mm.",
)];

const ABOUT: About = About {
    code: "shoulder_length",
    name: "Shoulder length",
    why: "The shoulder seam ends short of the joint or hangs over it.",
    params: &PARAMS,
    seams: &[Seam::Shoulder, Seam::Armhole],
    wants: "the shoulder is altered on front and back alike: this pattern lacks one of them whole",
    layer: Layer::Fit,
};

/// Longer (positive) or shorter (negative) shoulder, front and back alike.
pub(super) struct ShoulderLength;

impl Alteration for ShoulderLength {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.front().is_some() && pattern.back().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            NECKLINES,
            SIDES,
            CENTRES,
            GIRTHS,
            &[PatternMeasure::FrontLength, PatternMeasure::BackLength],
        ])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::ShoulderFront, args.amount()), (PatternMeasure::ShoulderBack, args.amount())]
    }

    fn takes_the_cap_along(&self) -> bool {
        // The sleeve stays as it is unless the dressmaker wants its cap to follow.
        false
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let shoulder = front.last_edge(Seam::Shoulder)?;
        Some(Handle::new(front.kind, front.tip(), front.edges[shoulder].curve.end_direction()))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let pieces = [pattern.front(), pattern.back()];
        let works: Vec<PieceWork> = pieces
            .into_iter()
            .flatten()
            .map(|piece| {
                let (after, hinge) = with_tip_moved(piece, by, style)?;
                Ok(PieceWork::drawn(piece, after).with_hinge(hinge))
            })
            .collect::<Result<_, AlterError>>()?;
        Ok(altered(pattern, &works, &words(by, style)))
    }
}

/// The piece with its shoulder longer, and where the new armhole runs into the old one.
fn with_tip_moved(piece: &Piece, by: f64, style: Style) -> Result<(Piece, Point), AlterError> {
    let shoulder = piece.last_edge(Seam::Shoulder).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    // A bust dart may divide the armhole: the part that begins at the tip is the one that moves.
    let armhole = piece.first_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let line = &piece.edges[shoulder].curve;
    let longest_cut = line.length() - LEAST_LEFT;
    if -by > longest_cut {
        return Err(AlterError::beyond(
            style,
            MeasuredOn::PerSeam,
            -by,
            -longest_cut,
            "this shoulder can be shortened by",
            "it would reach its dart or the neck; take a smaller size",
        ));
    }
    let along = line.end_direction();
    let old = &piece.edges[armhole].curve;
    let new = refitted(old, along, along * by);
    let mut after = piece.clone();
    after.edges[shoulder] = Edge::sewn(Seam::Shoulder, Curve::line(line.start(), new.start()));
    after.edges[armhole] = Edge::sewn(Seam::Armhole, new);
    Ok((after, old.point_at(old.length() * REACH_SHARE)))
}

fn words(by: f64, style: Style) -> [(StageKind, String); 3] {
    let amount = style.with_unit(by.abs());
    let (longer, beyond) = if by > 0.0 { ("Lengthen", "beyond") } else { ("Shorten", "short of") };
    [
        (
            StageKind::Mark,
            format!("{longer} the shoulder on its own line, front and back: mark {amount} {beyond} the tip."),
        ),
        (
            StageKind::Move,
            "From the new tip draw the armhole: square to the shoulder for a little, then into the old line at two thirds of \
             the way down."
                .to_owned(),
        ),
        (
            StageKind::True,
            "Lay front and back shoulder together: the armhole runs on over the seam without a peak. Measure the armhole \
             again."
                .to_owned(),
        ),
    ]
}

/// The armhole from the moved tip: square to the shoulder and straight for a little, then one curve
/// into the old line with the old line's own tangent.
fn refitted(old: &Curve, shoulder: Vec2, by: Vec2) -> Curve {
    let reach = old.length() * REACH_SHARE;
    let (_, rest) = old.split(reach);
    let tip = old.start() + by;
    let square = quarter_turn(shoulder);
    let straight_to = tip + square * STRAIGHT;
    let (join, into) = (rest.start(), rest.start_direction());
    let bent = reshape_start(old, by, reach);
    // A little more or less shoulder only bends the old line; from the usual amounts on it is drawn anew. Between them
    // one runs into the other, so that an amount of nothing moves nothing.
    let drawn_anew = (by.hypot() / LEAST_USUAL).min(1.0);
    match tangents_meet(straight_to, square, join, into) {
        Some((ahead, behind)) => {
            let along = (1..10).map(|i| reach * f64::from(i) / 10.0);
            let wanted: Vec<Point> = bent.places(along).into_iter().map(|(place, _)| place).collect();
            let curve = nearest_convex(straight_to, square * ahead, join, into * behind, &wanted);
            let anew = Curve::line(tip, straight_to).then(curve);
            if drawn_anew < 1.0 {
                let near = bent.between(0.0, bent.length() - rest.length());
                near.towards(&anew, drawn_anew).with_end(rest.start()).then(rest)
            } else {
                anew.then(rest)
            }
        }
        // The old line was an S already: bend it as it is.
        None => bent,
    }
}

/// The cubic between two ends whose handles stay short of where the tangents meet, so that its
/// curvature keeps one sign, and which lies nearest to `wanted`. A small pattern search.
fn nearest_convex(p0: Point, ahead: Vec2, p1: Point, behind: Vec2, wanted: &[Point]) -> Curve {
    // A shorter handle would bend the line sharply beside the tip: a hook.
    const SHORTEST: f64 = 0.35;
    const LONGEST: f64 = 0.97;
    let cubic = |a: f64, b: f64| kurbo::CubicBez::new(p0, p0 + ahead * a, p1 - behind * b, p1);
    let miss = |a: f64, b: f64| -> f64 {
        let cubic = cubic(a, b);
        let points: [Point; 13] = std::array::from_fn(|i| cubic.eval(i as f64 / 12.0));
        wanted.iter().map(|w| distance_to(*w, &points)).sum()
    };
    let (mut a, mut b) = (0.5, 0.5);
    let mut best = miss(a, b);
    let mut step = 0.2;
    // A handle's last two thousandths move the line by less than a twentieth of a millimetre.
    while step > 2e-3 {
        let tries = [(a + step, b), (a - step, b), (a, b + step), (a, b - step)];
        let better = tries
            .into_iter()
            .map(|(a, b)| (a.clamp(SHORTEST, LONGEST), b.clamp(SHORTEST, LONGEST)))
            .map(|(a, b)| (miss(a, b), a, b))
            .min_by(|x, y| x.0.total_cmp(&y.0))
            .filter(|(m, ..)| *m < best);
        match better {
            Some((m, x, y)) => (best, a, b) = (m, x, y),
            None => step /= 2.0,
        }
    }
    let cubic = cubic(a, b);
    Curve::cubic(cubic.p0, cubic.p1, cubic.p2, cubic.p3)
}

/// Squared distance from a point to a polyline.
fn distance_to(point: Point, line: &[Point]) -> f64 {
    line.windows(2)
        .map(|w| {
            let (along, to) = (w[1] - w[0], point - w[0]);
            let t = (to.dot(along) / along.hypot2().max(1e-12)).clamp(0.0, 1.0);
            (to - along * t).hypot2()
        })
        .fold(f64::INFINITY, f64::min)
}
