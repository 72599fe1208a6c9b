//! Neckline to her wish, in one step: as wide, as deep in front and behind and in the shape she wants it (handbook:
//! `wishes.md`, section 1). Armholes, sides and girths stay.

use kurbo::{Point, Vec2};

use super::gape;
use super::keeps::{ARMHOLES, GIRTHS, Keeps, SIDES};
use super::neckline_dart::{DartAfter, drawn, waist_darts_lowered};
use super::neckline_shape::{Ends, Shape, ShapeBehind};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, Measured, MeasuredOn, Param, StageKind,
};
use crate::Style;
use crate::geometry::{Curve, Stretches, quarter_turn};
use crate::pattern::{Dart, DartPlace, NeckBase, Pattern, Piece, Seam, back_off_points};

/// A wish this near to the line that is there moves nothing, in millimetres.
const AS_IT_IS: f64 = 0.5;
/// At least so much of the shoulder is left, in millimetres (common practice, no source).
const LEAST_SHOULDER: f64 = 30.0;
/// Between neckline and armhole at least so much is left, in millimetres (common practice, no source).
const LEAST_STRAP: f64 = 25.0;
/// The neckline ends so far above the bust point unless she wishes it lower, in millimetres (common practice, no source).
const COVERS: f64 = 20.0;
/// Below the neckline a piece is at least so long down its centre, in millimetres.
const LEAST_CENTRE: f64 = 40.0;
/// The grain line begins so far below a neckline that has cut into it, in millimetres.
const GRAIN_BELOW: f64 = 25.0;
/// A grain line is at least so long, in millimetres.
const LEAST_GRAIN: f64 = 40.0;
/// From so far below the pit a neckline stands off, in millimetres: a tenth of what it lies lower, up to [`MOST_GAPE`] a
/// half (common practice, no source).
const GAPES_BELOW: f64 = 40.0;
const MOST_GAPE: f64 = 13.0;
/// Less than this is left to the cloth, in millimetres.
const LEAST_GAPE: f64 = 3.0;
/// The name of what is folded out: the words of a follow-up point to it.
const GAPE: &str = "Taken out towards the bust, each half";
/// A neckline lies at most so far above the pit of her neck, in millimetres (common practice, no source).
const ABOVE_PIT: f64 = 10.0;

ways! {
    /// How low the neckline may be.
    Bust {
        /// It ends above the bust point.
        Covered = "covered", "covered";
        /// As low as is asked for.
        Lower = "lower", "lower: she wishes it so";
    }
}

const PARAMS: [Param; 8] = [
    Param::size(
        "Depth in front",
        (0.0, 350.0),
        "From the level of her neck side down to the deepest point in front. Left out, as deep as it is.",
    ),
    Param::place(
        "width",
        "Width, edge to edge",
        (100.0, 420.0),
        None,
        "Straight across, from shoulder to shoulder. Left out, as wide as it is.",
    ),
    Param::place(
        "behind",
        "Depth behind",
        (0.0, 450.0),
        None,
        "From her nape down to the deepest point behind. Left out, as deep as it is.",
    ),
    Param::way(
        "shape",
        "Shape in front",
        Shape::WAYS,
        "How the line runs from the shoulder to the centre front.",
    ),
    Param::way(
        "shape_behind",
        "Shape behind",
        ShapeBehind::WAYS,
        "How the line runs from the shoulder to the centre back.",
    ),
    Param::place(
        "corner",
        "Corner from the centre",
        (30.0, 230.0),
        None,
        "Where a square or a sweetheart has its corner. Left out, straight below where it leaves the shoulder.",
    ),
    Param::place(
        "gape",
        GAPE,
        (0.0, 20.0),
        Some(0.0),
        "A low neckline stands off: so much of it is folded out and opens the waist dart instead.",
    ),
    Param::way(
        "bust",
        "The bust point is",
        Bust::WAYS,
        "Unless she wishes it lower the neckline ends above it.",
    ),
];

const ABOUT: About = About {
    code: "neckline",
    name: "Neckline to her wish",
    why: "She wishes the neckline so wide, so deep in front and behind, and in this shape.",
    params: &PARAMS,
    seams: &[Seam::Neckline],
    wants: "a neckline is drawn once, on a whole front and back without neck or centre darts: here one of them is parted, has such a dart, or has its wished neckline already",
    layer: Layer::Shape,
};

/// A dart in the front's shoulder shapes the bust: a neckline leaves it alone.
const REACHES_FRONT_DART: &str =
    "the neckline reaches the dart in the front's shoulder: move that dart first";

/// What it is told, in millimetres.
struct Wish {
    depth: Option<f64>,
    width: Option<f64>,
    behind: Option<f64>,
    shape: Shape,
    shape_behind: Shape,
    corner: Option<f64>,
    gape: f64,
    bust: Bust,
}

impl Wish {
    fn of(args: &Args<'_>) -> Self {
        let behind: ShapeBehind = args.choice("shape_behind");
        Self {
            depth: args.number("amount").filter(|mm| *mm > 0.0),
            width: args.number("width"),
            behind: args.number("behind"),
            shape: args.choice("shape"),
            shape_behind: behind.shape(),
            corner: args.number("corner"),
            gape: args.of("gape"),
            bust: args.choice("bust"),
        }
    }
}

/// The neckline drawn to her wish.
pub(super) struct Neckline;

impl Alteration for Neckline {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let is_plain = |piece: Option<&Piece>| {
            piece.is_some_and(|piece| {
                piece.neckline.is_none()
                    && piece.first_edge(Seam::Neckline) == Some(0)
                    && piece.edges.last().is_some_and(|last| last.seam == piece.kind.centre())
                    && [DartPlace::Neckline, DartPlace::Centre]
                        .into_iter()
                        .all(|place| piece.dart(place).is_none())
            })
        };
        is_plain(pattern.front()) && is_plain(pattern.back())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[ARMHOLES, SIDES, GIRTHS])
    }

    fn grows(&self, _: &Args<'_>) -> Vec<(crate::pattern::PatternMeasure, f64)> {
        Vec::new()
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        let Wish { depth, width, behind, shape, shape_behind, gape, .. } = Wish::of(args);
        [depth, width, behind].iter().all(Option::is_none)
            && [shape, shape_behind] == [Shape::Round; 2]
            && gape == 0.0
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(
            front.kind,
            Point::new(front.centre_top().x, front.neck_side().y),
            Vec2::new(0.0, 1.0),
        ))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let wish = Wish::of(args);
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let out = out_along_shoulder(front, &wish, style)?;
        let in_front = Line { depth: wish.depth, shape: wish.shape, out, corner: wish.corner };
        let behind = Line { depth: wish.behind, shape: wish.shape_behind, out, corner: wish.corner };
        let (front_drawn, _) = in_front.drawn_on(front, style)?;
        let (back_drawn, dart) = behind.drawn_on(back, style)?;
        if wish.bust == Bust::Covered {
            covers_the_bust(&front_drawn, measured_from(front), style)?;
        }
        let lower = (front_drawn.centre_top().y - front.centre_top().y).max(0.0);
        let front_trued = match wish.gape {
            0.0 => front_drawn.clone(),
            by => gape::folded_out(&front_drawn, Seam::Neckline, by, style)?,
        };
        let words = words(&wish, (out, dart), style);
        let works =
            [PieceWork::drawn_and_trued(front, front_drawn, front_trued), PieceWork::drawn(back, back_drawn)];
        let done = altered(pattern, &works, &words);
        Ok(match usual_gape(&wish, lower) {
            Some(mm) => done.and(FollowUp::reminder(format!(
                "A neckline {} below the pit usually stands off by {} a half: what is set under “{}” is folded out towards the bust.",
                style.with_unit(lower),
                style.with_unit(mm),
                GAPE
            ))),
            None => done,
        })
    }
}

/// How far the neck point moves out along the shoulder, front and back alike.
fn out_along_shoulder(front: &Piece, wish: &Wish, style: Style) -> Result<f64, AlterError> {
    let shoulder =
        front.edges_of(Seam::Shoulder).next().ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let is = front.neck_side().x - front.centre_top().x;
    let Some(width) = wish.width else { return Ok(0.0) };
    if width < 2.0 * is - AS_IT_IS {
        return Err(AlterError::not_here(format!(
            "a neckline {} wide lies inside the base of her neck: at least {}",
            style.with_unit(width),
            style.with_unit(2.0 * is)
        )));
    }
    let out = ((width / 2.0 - is) / shoulder.curve.start_direction().x).max(0.0);
    let whole = front.sewn_length(Seam::Shoulder);
    if whole - out < LEAST_SHOULDER {
        let most = 2.0 * (is + (whole - LEAST_SHOULDER) * shoulder.curve.start_direction().x);
        return Err(AlterError::not_here(format!(
            "a neckline {} wide leaves less than {} of the shoulder: at most {}",
            style.with_unit(width),
            style.with_unit(LEAST_SHOULDER),
            style.with_unit(most)
        )));
    }
    Ok(out)
}

/// The level from which a neckline's depth is told: of the neck side in front, of the nape behind.
fn measured_from(piece: &Piece) -> f64 {
    if piece.kind.is_front() { piece.neck_side().y } else { piece.centre_top().y }
}

/// One neckline, in front or behind.
struct Line {
    /// Below the level it is measured from; as deep as it is where it is left out.
    depth: Option<f64>,
    shape: Shape,
    out: f64,
    corner: Option<f64>,
}

impl Line {
    /// The piece with it, and what became of its shoulder dart.
    fn drawn_on(&self, piece: &Piece, style: Style) -> Result<(Piece, DartAfter), AlterError> {
        let (top, from) = (piece.centre_top(), measured_from(piece));
        let centre = self.depth.map_or(top.y, |depth| from + depth);
        if (centre - top.y).abs() <= AS_IT_IS && self.out <= AS_IT_IS / 2.0 && self.shape == Shape::Round {
            return Ok((piece.clone(), DartAfter::Stays));
        }
        if centre < top.y - ABOVE_PIT {
            return Err(AlterError::not_here(format!(
                "a neckline {} deep lies above the pit of her neck: at least {}",
                style.with_unit(centre - from),
                style.with_unit(top.y - ABOVE_PIT - from)
            )));
        }
        let centre = cut_centre(piece, centre, style)?;
        let level = quarter_turn(centre.end_direction());
        self.is_possible(piece, (centre.end(), level), from, style)?;
        let upper = drawn(piece, (centre.end(), level), self.out, (self.shape, self.corner))?;
        if piece.kind.is_front() && upper.dart != DartAfter::Stays {
            return Err(AlterError::not_here(REACHES_FRONT_DART));
        }
        leaves_a_strap(piece, &upper.sewn, style)?;
        let mut after = piece.clone();
        let armhole = piece.last_edge(Seam::Shoulder).map_or(0, |last| last + 1);
        after.edges.splice(..armhole, upper.edges);
        if let Some(last) = after.edges.last_mut() {
            last.curve = centre;
        }
        match upper.dart {
            DartAfter::Stays => {}
            DartAfter::Gone => after.darts.retain(|dart| dart.place != DartPlace::Shoulder),
            DartAfter::AtNeckline => {
                let at_shoulder = |dart: &&mut Dart| dart.place == DartPlace::Shoulder;
                after
                    .darts
                    .iter_mut()
                    .find(at_shoulder)
                    .into_iter()
                    .for_each(|dart| dart.place = DartPlace::Neckline);
                back_off_points(&mut after);
            }
        }
        waist_darts_lowered(piece, &mut after, &upper.sewn, style)?;
        begin_grain_below(&mut after, &upper.sewn);
        let pointed = self.shape.is_pointed();
        after.neckline = Some(NeckBase { top, side: piece.neck_side(), pointed });
        Ok((after, upper.dart))
    }

    /// Whether it can be drawn in its shape from there.
    fn is_possible(
        &self,
        piece: &Piece,
        (centre, level): (Point, Vec2),
        from: f64,
        style: Style,
    ) -> Result<(), AlterError> {
        let shoulder =
            &piece.edges_of(Seam::Shoulder).next().ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?.curve;
        let along = shoulder.start_direction();
        let ends = Ends { centre, level, neck: piece.neck_side() + along * self.out, shoulder: along };
        let Some(short) = ends.is_too_high_by(self.shape) else { return Ok(()) };
        let place = if piece.kind.is_front() { "in front" } else { "behind" };
        let deep = |mm: f64| Measured { mm, on: MeasuredOn::Here };
        let (is, least) = deep(centre.y - from).written_beside(deep(centre.y + short - from), style);
        Err(AlterError::not_here(format!(
            "a neckline so wide, in this shape, must lie at least {least} deep {place}: it was to be {is}"
        )))
    }
}

/// The centre line cut off at a level, or drawn on up to it.
fn cut_centre(piece: &Piece, level: f64, style: Style) -> Result<Curve, AlterError> {
    let line = &piece.edges.last().ok_or_else(|| AlterError::no_seam(piece.kind.centre()))?.curve;
    let top = line.end();
    if level <= top.y {
        let up = line.end_direction();
        let by = (top.y - level) / -up.y;
        let end = top + up * by;
        return Ok(if line.is_line() {
            Curve::line(line.start(), end)
        } else {
            line.clone().then(Curve::line(top, end))
        });
    }
    let waist = piece.centre_waist().y;
    match line.crossing_level(level) {
        Some(along) if level < waist - LEAST_CENTRE => Ok(line.split(along).0),
        _ => Err(AlterError::not_here(format!(
            "a neckline must end at least {} above the waist",
            style.with_unit(LEAST_CENTRE)
        ))),
    }
}

/// Whether enough is left between neckline and armhole.
fn leaves_a_strap(piece: &Piece, line: &[Curve], style: Style) -> Result<(), AlterError> {
    let armhole = Stretches::of(piece.edges_of(Seam::Armhole).map(|edge| &edge.curve));
    let neckline = Stretches::of(line);
    let least = neckline.places().map(|point| armhole.away(point)).fold(f64::INFINITY, f64::min);
    if least >= LEAST_STRAP {
        return Ok(());
    }
    Err(AlterError::not_here(format!(
        "the neckline leaves {} between it and the armhole of the {}, at least {} are wanted: narrower or higher",
        style.with_unit(least),
        piece.kind.name().to_lowercase(),
        style.with_unit(LEAST_STRAP)
    )))
}

/// Whether the neckline keeps above the bust point.
fn covers_the_bust(front: &Piece, level: f64, style: Style) -> Result<(), AlterError> {
    let Some(bust) = front.bust_pivot() else { return Ok(()) };
    let lowest = front.centre_top().y;
    if lowest <= bust.y - COVERS {
        return Ok(());
    }
    Err(AlterError::beyond(
        style,
        MeasuredOn::Here,
        lowest - level,
        bust.y - COVERS - level,
        "that lies 20 mm above the bust point",
        "higher, or say that she wishes it lower",
    ))
}

/// A grain line that a neckline has cut into begins below it.
fn begin_grain_below(piece: &mut Piece, line: &[Curve]) {
    let (start, end) = piece.grain;
    let way = (end - start) / start.distance(end);
    let across = kurbo::Line::new(start - way * GRAIN_BELOW, end);
    let lowest = line.iter().filter_map(|curve| Some(curve.point_at(curve.crossing(across)?)));
    let along = lowest.map(|at| (at - start).dot(way) + GRAIN_BELOW).fold(0.0, f64::max);
    piece.grain.0 = start + way * along.min(start.distance(end) - LEAST_GRAIN);
}

/// What a neckline so much below the pit usually stands off, each half; none where that is little, or taken out already.
fn usual_gape(wish: &Wish, lower: f64) -> Option<f64> {
    let usual = ((lower - GAPES_BELOW) / 10.0).clamp(0.0, MOST_GAPE);
    (wish.gape == 0.0 && usual >= LEAST_GAPE).then_some(usual)
}

fn words(wish: &Wish, (out, dart): (f64, DartAfter), style: Style) -> Vec<(StageKind, String)> {
    let depth = |mm: Option<f64>| {
        mm.map_or_else(|| "as it is".to_owned(), |mm| format!("{} down", style.with_unit(mm)))
    };
    let side = match out {
        0.0 => "where it is".to_owned(),
        out => format!("{} out along the shoulder", style.with_unit(out)),
    };
    let runs = |shape: Shape| match shape {
        Shape::Round => "one curve",
        Shape::V => "straight to a point",
        Shape::Square => "to a corner and level from there",
        Shape::Sweetheart => "to a corner and over the breast to a dip",
    };
    let close = match dart {
        DartAfter::Stays => "",
        DartAfter::AtNeckline => " The shoulder dart opens at the neckline now: open it again.",
        DartAfter::Gone => " The shoulder dart is cut away: the shoulder runs straight.",
    };
    let fold = if wish.gape > 0.0 {
        format!(
            " Fold out {} towards the bust point: the dart below opens instead.",
            style.with_unit(wish.gape)
        )
    } else {
        String::new()
    };
    vec![
        (
            StageKind::Mark,
            format!(
                "Pin the shoulder dart shut. Mark the neck side {side}, the centre front {} from the level of the neck side, the centre back {} from the nape.",
                depth(wish.depth),
                depth(wish.behind)
            ),
        ),
        (
            StageKind::Move,
            format!(
                "Draw the neckline square to the shoulder, in front {}, behind {}.",
                runs(wish.shape),
                runs(wish.shape_behind)
            ),
        ),
        (
            StageKind::True,
            format!("Lay the shoulders together: the neckline runs on over them.{close}{fold}"),
        ),
    ]
}
