//! Hem length: a garment that ends at the hip goes on to the length she wishes, straight, flared or pegged, or is cut off above
//! the hip as a blouse is (handbook: `wishes.md`, section 4). Above the hem nothing moves.

use kurbo::{Point, Vec2};

use super::keeps::{ARMHOLES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Amounts, Args, Handle, Layer, MeasuredOn, Param, StageKind,
};
use crate::Style;
use crate::geometry::{Curve, house_curve, quarter_turn, root};
use crate::pattern::{Level, LevelName, Pattern, PatternMeasure, Piece, Seam};

/// A blouse ends at least this far below the waist, in millimetres (common practice, no source).
const BELOW_WAIST: f64 = 40.0;
/// And so far below the ends of its waist darts, in millimetres.
const BELOW_DARTS: f64 = 10.0;
/// The side leaves the hip line this far below it, in millimetres (common practice, no source).
const BENDS: f64 = 60.0;
/// A skirt shorter than this is not flared, nor longer on one side, in millimetres.
pub(crate) const LEAST_SHAPED: f64 = 100.0;
/// A side this near to the centre's length is as long, in millimetres.
const AS_LONG: f64 = 1e-3;
/// The most that each side edge may run out, and in, as a share of its length below the bend.
const MOST_OUT: f64 = 0.18;
const MOST_IN: f64 = 0.12;
/// A hem below the knee that is less round than this wants a slit, in millimetres (common practice, no source).
const STRIDE: f64 = 1000.0;
/// A lining ends this far above the hem, in millimetres (common practice, no source).
const LINING_SHORTER: f64 = 20.0;
/// The slit ends this far above the knee, in millimetres (common practice, no source).
const SLIT_ABOVE_KNEE: f64 = 50.0;

/// How far a hem runs out, of what is let down and of what is joined.
pub(super) const OUT: Param = Param::place(
    "out",
    "Flared at each side edge",
    (-120.0, 260.0),
    Some(0.0),
    "How far the hem runs out at each side edge. Negative pegs it in.",
);

/// How much longer the left side hangs than the centre, where she stands unevenly.
pub(super) const LEFT_SIDE: Param = Param::place(
    "left_side",
    "Left side longer by",
    (-60.0, 60.0),
    Some(0.0),
    "How much longer than the centre the hem is at her left side, where she stands unevenly. Negative is shorter.",
);

/// The same of her right.
pub(super) const RIGHT_SIDE: Param = Param::place(
    "right_side",
    "Right side longer by",
    (-60.0, 60.0),
    Some(0.0),
    "How much longer than the centre the hem is at her right side, where she stands unevenly. Negative is shorter.",
);

const PARAMS: [Param; 7] = [
    Param::amount(
        "Longer below the hip",
        MeasuredOn::Here,
        (-300.0, 1400.0),
        "From the hip line down to the finished hem: what she wishes below the waist, less her waist to hip. Negative ends \
         above the hip, as a blouse does.",
    ),
    OUT,
    Param::place(
        "knee",
        "Knee below the hip",
        (150.0, 700.0),
        None,
        "Where her knee lies, to draw its line and to ask for a slit. Left out, it is not drawn.",
    ),
    Param::place(
        "ankle",
        "Ankle below the hip",
        (400.0, 1100.0),
        None,
        "Where her ankle lies, to draw its line. Left out, it is not drawn.",
    ),
    Param::place(
        "floor",
        "Floor below the hip",
        (500.0, 1300.0),
        None,
        "Where the floor lies, in her shoes, to draw its line. Left out, it is not drawn.",
    ),
    LEFT_SIDE,
    RIGHT_SIDE,
];

const ABOUT: About = About {
    code: "hem_length",
    name: "Hem length",
    why: "She wishes the garment longer than the block is drafted, to the knee, the ankle, the floor; or shorter, as a blouse.",
    params: &PARAMS,
    seams: &[Seam::Hem],
    wants: "a hem is let down where front and back end at the hip: this pattern ends at the waist, or is parted already",
    layer: Layer::Shape,
};

/// Where a hem is to be, in millimetres below the hip line.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct HemWish {
    /// Hip to hem at the centre.
    pub(super) length: f64,
    /// How much longer it is along the side; negative shorter.
    pub(super) longer_at_side: f64,
    /// How far each side edge runs out at the hem; negative in.
    pub(super) out: f64,
    /// Knee, ankle and floor, where they are drawn.
    pub(super) lines: [(LevelName, Option<f64>); 3],
}

impl Default for HemWish {
    fn default() -> Self {
        let lines = [LevelName::Knee, LevelName::Ankle, LevelName::Floor].map(|name| (name, None));
        Self { length: 0.0, longer_at_side: 0.0, out: 0.0, lines }
    }
}

impl HemWish {
    /// The hem as it is on a piece that goes on below its hip line.
    pub(super) fn drawn_on(piece: &Piece) -> Option<Self> {
        let hip = &piece.level(LevelName::Hip)?.points;
        let (centre, side) = (*hip.first()?, *hip.last()?);
        let hem = piece.first_edge(Seam::Hem)?;
        let (along_side, hem) = (&piece.edges[hem.checked_sub(1)?].curve, &piece.edges[hem].curve);
        let below = |name| Some(piece.level(name)?.points.first()?.y - centre.y);
        let length = hem.end().y - centre.y;
        let longer = along_side.length() - along_side.nearest(side) - length;
        Some(Self {
            length,
            longer_at_side: if longer.abs() < AS_LONG { 0.0 } else { longer },
            out: hem.start().x - side.x,
            lines: Self::default().lines.map(|(name, _)| (name, below(name))),
        })
    }

    fn of(args: &Args<'_>) -> Self {
        let line = |name, code| (name, args.number(code));
        Self {
            length: args.amount(),
            // The sides are apart here already: both say the same.
            longer_at_side: args.of(LEFT_SIDE.code),
            out: args.of("out"),
            lines: [
                line(LevelName::Knee, "knee"),
                line(LevelName::Ankle, "ankle"),
                line(LevelName::Floor, "floor"),
            ],
        }
    }

    /// How the side is drawn down to it.
    pub(super) fn side_words(&self, style: Style) -> String {
        let as_long = match self.longer_at_side {
            0.0 => "as long as the centre".to_owned(),
            by if by > 0.0 => format!("{} longer than the centre", style.with_unit(by)),
            by => format!("{} shorter than the centre", style.with_unit(-by)),
        };
        if self.out == 0.0 {
            let ends = if self.longer_at_side == 0.0 { String::new() } else { format!(", {as_long}") };
            return format!("Draw the side straight down from the hip{ends}.");
        }
        let way = if self.out > 0.0 { "out" } else { "in" };
        format!(
            "Draw the side from {BENDS:.0} mm below the hip so that the hem lies {} further {way}, {as_long}, and round it at the hip.",
            style.with_unit(self.out.abs())
        )
    }

    /// What else follows a hem.
    pub(super) fn facing_words(style: Style) -> String {
        let shorter = style.with_unit(LINING_SHORTER);
        format!("The hem facing follows the new hem; a lining ends {shorter} above it.")
    }

    /// What a hem so round, in millimetres, wants for walking; nothing where it is wide enough or above her knee.
    pub(super) fn slit_words(&self, round: f64, style: Style) -> Option<String> {
        let (_, knee) = self.lines[0];
        (self.length > knee? && round < STRIDE).then(|| {
            format!(
                "The hem is {} round and lies below her knee: it wants a slit up to {} above the knee.",
                style.with_unit(round),
                style.with_unit(SLIT_ABOVE_KNEE)
            )
        })
    }

    /// Whether this pattern's hem may end there, and the side edges run so far out.
    pub(super) fn is_possible(&self, style: Style) -> Result<(), AlterError> {
        let Self { length, longer_at_side, out, .. } = *self;
        if out == 0.0 && longer_at_side == 0.0 {
            return Ok(());
        }
        if length < LEAST_SHAPED {
            let way = if length < 0.0 { "above" } else { "below" };
            return Err(AlterError::not_here(format!(
                "what ends {} {way} the hip hangs straight and level: from {} below it on it can be flared or pegged, or longer on one side",
                style.with_unit(length.abs()),
                style.with_unit(LEAST_SHAPED)
            )));
        }
        if out == 0.0 {
            return Ok(());
        }
        // It is no limit of the amount, which is the length: it is said, and the flare is set by hand.
        let (share, way, way_out) = if out > 0.0 {
            (MOST_OUT, "out", "for more, close the waist dart by hand and let the hem open")
        } else {
            (MOST_IN, "in", "she could not walk in less")
        };
        let most = share * (length - BENDS);
        if out.abs() > most {
            return Err(AlterError::not_here(format!(
                "{} {way} at each side edge is more than the {} a side of this length takes: {way_out}",
                style.with_unit(out.abs()),
                style.with_unit(most)
            )));
        }
        Ok(())
    }
}

/// The amounts of either side, where her sides hang to different lengths: each says its own twice.
pub(super) fn sides_apart(args: &Args<'_>) -> Option<[Amounts; 2]> {
    let both @ [left, right] = [LEFT_SIDE, RIGHT_SIDE].map(|side| args.of(side.code));
    let alike = |mm| args.amounts().clone().with(LEFT_SIDE.code, mm).with(RIGHT_SIDE.code, mm);
    (left != right).then(|| both.map(alike))
}

/// The hem let down.
pub(super) struct HemLength;

impl Alteration for HemLength {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let ends_at_the_hip = |piece: Option<&Piece>| {
            piece.is_some_and(|piece| {
                let side_before_hem = |index: usize| index > 0 && piece.edges[index - 1].seam == Seam::Side;
                piece.level(LevelName::Hip).is_none()
                    && !piece.above_hip
                    && piece.edges_of(Seam::Hem).count() == 1
                    && piece.first_edge(Seam::Hem).is_some_and(side_before_hem)
            })
        };
        ends_at_the_hip(pattern.front()) && ends_at_the_hip(pattern.back())
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        // What ends above the hip has none.
        let hip: &[PatternMeasure] = if args.amount() < 0.0 { &[] } else { &[PatternMeasure::Hip] };
        Keeps::exactly(&[ARMHOLES, SIDES, NECKLINES, SHOULDERS, GIRTHS, hip])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::BelowHip, args.amount())]
    }

    fn apart(&self, args: &Args<'_>) -> Option<[Amounts; 2]> {
        sides_apart(args)
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let hem = &front.edges[front.first_edge(Seam::Hem)?].curve;
        Some(Handle::new(front.kind, hem.end(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let wish = HemWish::of(args);
        wish.is_possible(style)?;
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        if wish.length < 0.0 {
            let cut = |piece| Ok(PieceWork::drawn(piece, cut_off(piece, -wish.length, style)?));
            let works: [Result<PieceWork, AlterError>; 2] = [cut(front), cut(back)];
            let [front, back] = works;
            return Ok(altered(pattern, &[front?, back?], &blouse_words(-wish.length, style))
                .and(FollowUp::reminder("The hem facing follows the new hem.".to_owned())));
        }
        let (front_after, back_after) = (let_down(front, &wish)?, let_down(back, &wish)?);
        let hem = 2.0 * (front_after.sewn_length(Seam::Hem) + back_after.sewn_length(Seam::Hem));
        let length = style.with_unit(wish.length);
        let words = [
            (StageKind::Mark, format!("Draw the centre {length} on below the hip, front and back.")),
            (StageKind::Move, wish.side_words(style)),
            (StageKind::True, "Draw the hem: level at the centre, square to the side.".to_owned()),
        ];
        let works = [PieceWork::drawn(front, front_after), PieceWork::drawn(back, back_after)];
        let done = altered(pattern, &works, &words).and(FollowUp::reminder(HemWish::facing_words(style)));
        Ok(match wish.slit_words(hem, style) {
            Some(says) => done.and(FollowUp::reminder(says)),
            None => done,
        })
    }
}

/// A piece that ends at the hip, cut off so far above it: along the centre and along the side seam alike.
fn cut_off(piece: &Piece, above_hip: f64, style: Style) -> Result<Piece, AlterError> {
    let hem = piece.first_edge(Seam::Hem).ok_or_else(|| AlterError::no_seam(Seam::Hem))?;
    let (side, centre) = (&piece.edges[hem - 1].curve, piece.edges[hem].curve.end());
    let down_to = |from: f64, clear: f64| centre.y - from - clear;
    let waist = [piece.centre_waist().y, piece.waist_at_side().map_or(f64::MIN, |waist| waist.y)];
    let to_waist = waist.into_iter().map(|y| down_to(y, BELOW_WAIST)).fold(f64::INFINITY, f64::min);
    let to_darts =
        piece.two_pointed.iter().map(|dart| down_to(dart.lower.y, BELOW_DARTS)).fold(f64::INFINITY, f64::min);
    if above_hip > to_waist.min(to_darts) {
        let (most, why) = if to_darts < to_waist {
            (to_darts, "the waist darts would run into the hem")
        } else {
            (to_waist, "it would end at the waist")
        };
        return Err(AlterError::not_here(format!(
            "a hem {} above the hip is too short on the {}: {why}; at most {} above it",
            style.with_unit(above_hip),
            if piece.kind.is_back() { "back" } else { "front" },
            style.with_unit(most.max(0.0))
        )));
    }
    let kept = side.split(side.length() - above_hip).0;
    let end = centre - Vec2::new(0.0, above_hip);
    let square = quarter_turn(kept.end_direction());
    let mut after = piece.clone();
    after.edges[hem].curve = house_curve(kept.end(), square, end, Vec2::new(-1.0, 0.0)).curve;
    after.edges[hem - 1].curve = kept;
    if let Some(line) = after.edges.last_mut() {
        let up = &line.curve;
        line.curve =
            if up.is_line() { Curve::line(end, up.end()) } else { up.split(above_hip).1.with_start(end) };
    }
    after.above_hip = true;
    after.grain.1.y = after.grain.1.y.min(end.y - GRAIN_ABOVE_HEM);
    Ok(after)
}

/// The grain line ends so far above a hem that was cut off, in millimetres.
const GRAIN_ABOVE_HEM: f64 = 20.0;

fn blouse_words(above_hip: f64, style: Style) -> [(StageKind, String); 3] {
    let above = style.with_unit(above_hip);
    [
        (StageKind::Mark, format!("Mark the centre {above} above the hip, front and back.")),
        (StageKind::Move, format!("Mark both side seams {above} above the hip as well, along the seam.")),
        (StageKind::True, "Draw the hem: level at the centre, square to the side.".to_owned()),
    ]
}

/// A piece that goes on below its hip line, cut off there.
pub(super) fn up_to_hip(piece: &Piece) -> Option<Piece> {
    let level = piece.level(LevelName::Hip)?.points.clone();
    let (centre, hip) = (*level.first()?, *level.last()?);
    let hem = piece.first_edge(Seam::Hem)?;
    let side = hem.checked_sub(1)?;
    let mut short = piece.clone();
    let curve = &piece.edges[side].curve;
    short.edges[side].curve = curve.split(curve.nearest(hip)).0.with_end(hip);
    short.edges[hem].curve = Curve::line(hip, centre);
    let up = short.edges.last_mut()?;
    up.curve = Curve::line(centre, up.curve.end());
    short.levels.retain(|level| level.points.first().is_some_and(|point| point.y < centre.y));
    Some(short)
}

/// A piece that ends at the hip, drawn on below it.
pub(super) fn let_down(piece: &Piece, wish: &HemWish) -> Result<Piece, AlterError> {
    let hem = piece.first_edge(Seam::Hem).ok_or_else(|| AlterError::no_seam(Seam::Hem))?;
    let (hip, centre) = (piece.edges[hem].curve.start(), piece.edges[hem].curve.end());
    let down = Vec2::new(0.0, wish.length);
    let side = side_below(hip, wish)?;
    let end = side.end();
    let square = quarter_turn(side.end_direction());
    let mut after = piece.clone();
    let above = after.edges[hem - 1].curve.clone();
    after.edges[hem - 1].curve = above.then(side.clone());
    after.edges[hem].curve = if wish.out == 0.0 && wish.longer_at_side == 0.0 {
        Curve::line(end, centre + down)
    } else {
        house_curve(end, square, centre + down, Vec2::new(-1.0, 0.0)).curve
    };
    if let Some(line) = after.edges.last_mut() {
        let up = &line.curve;
        line.curve = match up.is_line() {
            true => Curve::line(centre + down, up.end()),
            false => Curve::line(centre + down, centre).then(up.clone()),
        };
    }
    after.levels.push(Level { name: LevelName::Hip, points: vec![centre, hip] });
    for (name, mm) in wish.lines {
        let from = mm.map(|mm| centre + Vec2::new(0.0, mm)).filter(|from| from.y < centre.y + wish.length);
        // A flared hem rises at the side: a line just above it at the centre does not reach the side seam.
        let line = from.and_then(|from| Some((from, side.point_at(side.crossing_level(from.y)?))));
        after.levels.extend(line.map(|(from, to)| Level { name, points: vec![from, to] }));
    }
    Ok(after)
}

/// The side below the hip, as long as it is to be: straight, or leaving it by an angle at which its end lies so far out.
fn side_below(hip: Point, wish: &HemWish) -> Result<Curve, AlterError> {
    let (length, out) = (wish.length + wish.longer_at_side, wish.out);
    if out == 0.0 {
        return Ok(Curve::line(hip, hip + Vec2::new(0.0, length)));
    }
    let down = Vec2::new(0.0, 1.0);
    let bend = hip + down * BENDS;
    // The kink is drawn round from the hip to as far below the bend; what is left runs straight, to the wished length.
    let leaning = |angle: f64| {
        let way = Vec2::new(angle.sin(), angle.cos());
        let from = bend + way * BENDS;
        let round = house_curve(hip, down, from, way).curve;
        let rest = length - round.length();
        round.then(Curve::line(from, from + way * rest))
    };
    let off = |angle: f64| leaning(angle).end().x - hip.x - out;
    let angle = root(off, -0.6, 0.6).ok_or_else(|| {
        AlterError::not_here("the hem cannot run out so far on so short a side: less, or longer")
    })?;
    Ok(leaning(angle))
}
