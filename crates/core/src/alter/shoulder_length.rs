//! Shoulder length: the tip moves along the shoulder's own line, front and back alike, and the
//! armhole is re-drawn from it (handbook: `alterations.md`, section 2).

use kurbo::{BezPath, ParamCurve, Point, Vec2};

use super::{
    AlterError, Alteration, Altered, Amounts, Handle, MeasuredOn, Param, Stage, StageDrawing, StageKind,
    polyline_svg, svg,
};
use crate::Style;
use crate::draft::tangents_meet;
use crate::pattern::{
    Curve, Edge, Figure, Pattern, Piece, PieceKind, Pt, Seam, SlashError, quarter_turn, reshape_start,
};

/// The armhole is re-drawn over this share of its length from the tip.
const REACH_SHARE: f64 = 2.0 / 3.0;
/// It leaves the tip straight for this long, in millimetres.
const STRAIGHT: f64 = 6.0;
/// The shoulder's outer part keeps at least this, in millimetres (ours to tune).
const LEAST_LEFT: f64 = 20.0;
/// Above this change of the armhole the sleeve cap is offered, in millimetres.
const CAP_OFFERED_ABOVE: f64 = 6.0;

const PARAMS: [Param; 1] = [Param {
    code: "amount",
    name: "Shoulder length",
    on: MeasuredOn::PerSeam,
    low: -60.0,
    high: 60.0,
    default: Some(0.0),
    why: "What the shoulder seam gains, front and back alike. Negative shortens. Usual is 6 to 16 mm.",
}];

/// Longer (positive) or shorter (negative) shoulder, front and back alike.
pub(super) struct ShoulderLength;

impl Alteration for ShoulderLength {
    fn code(&self) -> &'static str {
        "shoulder_length"
    }

    fn name(&self) -> &'static str {
        "Shoulder length"
    }

    fn why(&self) -> &'static str {
        "The shoulder seam ends short of the joint or hangs over it."
    }

    fn params(&self) -> &'static [Param] {
        &PARAMS
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.front().is_some() && pattern.back().is_some()
    }

    fn keeps(&self) -> &'static [(Figure, f64)] {
        &[
            (Figure::Bust, 0.01),
            (Figure::Waist, 0.01),
            (Figure::NecklineFront, 0.01),
            (Figure::NecklineBack, 0.01),
            (Figure::SideFront, 0.01),
            (Figure::SideBack, 0.01),
            (Figure::CentreFront, 0.01),
            (Figure::CentreBack, 0.01),
            (Figure::FrontLength, 0.01),
            (Figure::BackLength, 0.01),
        ]
    }

    fn apply(&self, pattern: &Pattern, amounts: &Amounts, style: Style) -> Result<Altered, AlterError> {
        amounts.validate(&PARAMS, style)?;
        let by = amounts.get(&PARAMS, "amount").unwrap_or_default();
        let mut altered = Altered::unchanged(pattern, None);
        let mut changes = Vec::new();
        for (found, usual) in
            [(pattern.front(), PieceKind::BodiceFront), (pattern.back(), PieceKind::BodiceBack)]
        {
            let piece = found.ok_or(AlterError::NoPiece(usual))?;
            let kind = piece.kind;
            let (shoulder, armhole) = edges(piece)?;
            let along = piece.edges[shoulder].curve.end_direction();
            if kind.is_front() {
                altered.handle = Some(Handle::new(kind, piece.tip() + along * by, along));
            }
            if by == 0.0 {
                continue;
            }
            let longest_cut = piece.edges[shoulder].curve.length() - LEAST_LEFT;
            if -by > longest_cut {
                return Err(AlterError::ShoulderTooShort {
                    asked: style.with_unit(-by),
                    limit: style.with_unit(longest_cut),
                });
            }
            let change = Change::of(piece, shoulder, armhole, along * by);
            altered.moved.push((kind, change.swept()));
            altered.pattern = altered.pattern.with(change.after.clone());
            changes.push(change);
        }
        altered.stages = stages(&changes, by, style);
        altered.follow_ups = follow_ups(&changes, style);
        Ok(altered)
    }
}

fn edges(piece: &Piece) -> Result<(usize, usize), AlterError> {
    let no = SlashError::NoSeam;
    let is = |seam| move |edge: &crate::pattern::Edge| edge.seam == seam;
    let shoulder = piece.edges.iter().rposition(is(Seam::Shoulder)).ok_or(no(Seam::Shoulder))?;
    // A bust dart may divide the armhole: the part that begins at the tip is the one that moves.
    let armhole = piece.edges.iter().position(is(Seam::Armhole)).ok_or(no(Seam::Armhole))?;
    Ok((shoulder, armhole))
}

/// One piece before and after.
struct Change {
    before: Piece,
    after: Piece,
    old: Curve,
    new: Curve,
}

impl Change {
    fn of(piece: &Piece, shoulder: usize, armhole: usize, by: Vec2) -> Self {
        let old = piece.edges[armhole].curve.clone();
        let along = piece.edges[shoulder].curve.end_direction();
        let new = refitted(&old, along, by);
        let mut after = piece.clone();
        let start = piece.edges[shoulder].curve.start();
        after.edges[shoulder] = Edge::sewn(Seam::Shoulder, Curve::line(start, new.start()));
        after.edges[armhole] = Edge::sewn(Seam::Armhole, new.clone());
        Self { before: piece.clone(), after, old, new }
    }

    /// The area between the old armhole and the new one.
    fn swept(&self) -> BezPath {
        let mut path = self.old.to_path();
        for seg in self.new.reversed().segments() {
            path.line_to(seg.start());
            path.push(seg.as_path_el());
        }
        path.close_path();
        path
    }
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
    match tangents_meet(straight_to, square, join, into) {
        Some((ahead, behind)) => {
            let along = (1..10).map(|i| reach * f64::from(i) / 10.0);
            let wanted: Vec<Point> = bent.places(along).into_iter().map(|(place, _)| place).collect();
            let curve = nearest_convex(straight_to, square * ahead, join, into * behind, &wanted);
            Curve::line(tip, straight_to).then(curve).then(rest)
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

fn stages(changes: &[Change], by: f64, style: Style) -> Vec<Stage> {
    if changes.is_empty() {
        return Vec::new();
    }
    let amount = style.with_unit(by.abs());
    let (longer, beyond) = if by > 0.0 { ("Lengthen", "beyond") } else { ("Shorten", "short of") };
    let stage = |kind, words: String, draw: &dyn Fn(&Change) -> StageDrawing| Stage {
        kind,
        words,
        drawings: changes.iter().map(draw).collect(),
    };
    let on = |piece: &Piece, outline: String, lines: Vec<String>| StageDrawing {
        piece: piece.kind,
        outline,
        still: Vec::new(),
        moving: Vec::new(),
        lines,
        hinges: Vec::new(),
    };
    vec![
        stage(
            StageKind::Mark,
            format!("{longer} the shoulder on its own line, front and back: mark {amount} {beyond} the tip."),
            &|c| {
                let line = polyline_svg(&[c.old.start(), c.new.start()]);
                on(&c.before, svg(&c.before.outline()), vec![line])
            },
        ),
        stage(
            StageKind::Move,
            "From the new tip draw the armhole: square to the shoulder for a little, then into the old line at two thirds of the way down.".to_owned(),
            &|c| StageDrawing {
                moving: vec![svg(&c.swept())],
                hinges: vec![Pt::from(c.old.point_at(c.old.length() * REACH_SHARE))],
                ..on(&c.before, svg(&c.before.outline()), vec![svg(&c.new.to_path())])
            },
        ),
        stage(
            StageKind::True,
            "Lay front and back shoulder together: the armhole runs on over the seam without a peak. Measure the armhole again.".to_owned(),
            &|c| on(&c.after, svg(&c.after.outline()), Vec::new()),
        ),
    ]
}

fn follow_ups(changes: &[Change], style: Style) -> Vec<String> {
    let change: f64 = changes.iter().map(|c| c.new.length() - c.old.length()).sum();
    if change.abs() <= CAP_OFFERED_ABOVE {
        return Vec::new();
    }
    let word = if change > 0.0 { "longer" } else { "shorter" };
    vec![format!(
        "The whole armhole is {} {word}: see that the sleeve cap still eases in.",
        style.with_unit(change.abs())
    )]
}
