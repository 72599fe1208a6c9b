//! Length at a level line: everything below shifts, and what crosses the line is drawn straight again
//! (handbook: `alterations.md`, section 2).

use kurbo::{Point, Vec2};

use super::keeps::{ARMHOLES, Keeps, NECKLINES, SHOULDERS};
use super::two_circles::{GivesWay, redraw_legs};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{
    DartPlace, Edge, Join, LevelName, Pattern, PatternMeasure, Piece, Seam, Slash, cut_across, redraw_dart,
    true_kinks,
};

/// Where a curved seam crosses the line it is drawn smooth over this length, in millimetres.
const SMOOTH: f64 = 40.0;
/// Between the line and the next corner at least this is left, in millimetres.
const LEAST_LEFT: f64 = 5.0;

ways! {
    /// The pieces that get it.
    Pieces {
        /// Front and back.
        Both = "both", "front and back";
        /// The front alone.
        Front = "front", "front only";
        /// The back alone.
        Back = "back", "back only";
        /// The sleeve.
        Sleeve = "sleeve", "sleeve";
    }
}

impl Pieces {
    /// Those of the pattern.
    fn of(self, pattern: &Pattern) -> impl Iterator<Item = &Piece> {
        pattern.pieces.iter().filter(move |piece| match self {
            Self::Both => piece.kind.is_front() || piece.kind.is_back(),
            Self::Front => piece.kind.is_front(),
            Self::Back => piece.kind.is_back(),
            Self::Sleeve => piece.kind.is_sleeve(),
        })
    }
}

ways! {
    /// Where the line is ruled.
    Line {
        /// Between underarm and waist.
        Waist = "waist", "between underarm and waist; on a sleeve above the elbow";
        /// Below the waist.
        Hip = "hip", "below the waist; on a sleeve below the elbow";
        /// Between shoulder and underarm.
        Armhole = "armhole", "between shoulder and underarm";
    }
}

const PARAMS: [Param; 3] = [
    Param::amount(
        "Longer",
        MeasuredOn::Here,
        (-80.0, 120.0),
        "How much longer the pieces become at the line. Negative folds them shorter.",
    ),
    Param::way(
        "pieces",
        "Which pieces",
        Pieces::WAYS,
        "Front and back must both get it between the same levels, or their side seams no longer join.",
    ),
    Param::way(
        "at",
        "Where",
        Line::WAYS,
        "Above the bust point it moves the bust too; below the waist only a piece that goes on there has the line.",
    ),
];

const ABOUT: About = About {
    code: "length",
    name: "Length",
    why: "The waist, the hem or the whole armhole sits too high or too low.",
    params: &PARAMS,
    seams: &[Seam::CentreFront, Seam::CentreBack, Seam::Side, Seam::UnderSleeve],
    wants: "length is let in on whole pieces of bodice, dress and sleeve, before they are divided: this pattern has none",
    layer: Layer::Balance,
};

const LEVEL_MISSING: &str = "that piece has no such level: it ends above it";

/// What it is told.
struct Params {
    /// In millimetres.
    by: f64,
    pieces: Pieces,
    at: Line,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self { by: args.amount(), pieces: args.choice("pieces"), at: args.choice("at") }
    }
}

/// Length let in or folded out at a level.
pub(super) struct Length;

impl Alteration for Length {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn goes_on_from(&self, args: &Args<'_>) -> Option<&'static str> {
        (args.choice::<Pieces>("pieces") == Pieces::Sleeve).then_some("sleeve_shape")
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.pieces.iter().any(|piece| !piece.kind.is_panel() && !piece.kind.is_skirt())
    }

    fn layer(&self, args: &Args<'_>) -> Layer {
        if Params::of(args).pieces == Pieces::Sleeve { Layer::Finish } else { Layer::Balance }
    }

    fn keeps(&self, args: &Args<'_>) -> Keeps {
        let Params { pieces, at, .. } = Params::of(args);
        match (pieces, at) {
            (Pieces::Sleeve, _) => Keeps::exactly(&[&[
                PatternMeasure::CapLength,
                PatternMeasure::CapHeight,
                PatternMeasure::SleeveHem,
            ]]),
            (_, Line::Armhole) => Keeps::exactly(&[NECKLINES, SHOULDERS, &[PatternMeasure::Bust]]),
            _ => Keeps::exactly(&[
                NECKLINES,
                SHOULDERS,
                ARMHOLES,
                &[PatternMeasure::Bust, PatternMeasure::AcrossFront, PatternMeasure::AcrossBack],
            ]),
        }
    }

    fn drawn_from(&self) -> f64 {
        // Its seams are smoothed across the line.
        3.0
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        let Params { by, pieces, at } = Params::of(args);
        let figures: &[PatternMeasure] = match (pieces, at) {
            (Pieces::Sleeve, _) => &[PatternMeasure::SleeveLength],
            (_, Line::Hip) => &[],
            (Pieces::Front, _) => &[PatternMeasure::CentreFront],
            (Pieces::Back, _) => &[PatternMeasure::CentreBack],
            (Pieces::Both, _) => &[PatternMeasure::CentreFront, PatternMeasure::CentreBack],
        };
        figures.iter().map(|figure| (*figure, by)).collect()
    }

    fn grip(&self, pattern: &Pattern, args: &Args<'_>) -> Option<Handle> {
        let piece = Params::of(args).pieces.of(pattern).next()?;
        let foot = piece.bounds().y1;
        Some(Handle::new(piece.kind, Point::new(0.0, foot), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let Params { by, pieces, at } = Params::of(args);
        // One height on all pieces: what is free above the waist on the one that has least.
        let room = pieces.of(pattern).filter_map(free_above_waist).fold(f64::INFINITY, f64::min);
        let levels = pieces.of(pattern).map(|piece| Ok((piece, level_of(piece, at, room)?)));
        let levels: Vec<(&Piece, f64)> = levels.collect::<Result<_, AlterError>>()?;
        within_reach(&levels, by, style)?;
        let works: Vec<PieceWork> = levels
            .into_iter()
            .map(|(piece, level)| {
                let bounds = piece.bounds();
                let line = [Point::new(bounds.x0, level), Point::new(bounds.x1, level)];
                let (slash, taped, trued) = lengthened(piece, level, by)?;
                Ok(PieceWork::cut(piece, slash, taped, trued).with_line(&line))
            })
            .collect::<Result<_, AlterError>>()?;
        if works.is_empty() {
            return Err(AlterError::not_here("the pattern lacks that piece"));
        }
        let amount = style.with_unit(by.abs());
        let done = altered(pattern, &works, &words(by, &amount));
        let other = match pieces {
            Pieces::Front => "back",
            Pieces::Back => "front",
            Pieces::Both | Pieces::Sleeve => return Ok(done),
        };
        Ok(done.and(FollowUp::offered(
            format!("The side seams differ by {amount} now, unless the {other} gets it too."),
            "length",
            super::Amounts::of(by).by("pieces", other).by("at", args.way("at")),
        )))
    }
}

fn words(by: f64, amount: &str) -> Vec<(StageKind, String)> {
    let mark = "Rule the line square across the piece, at one height on all of them.".to_owned();
    let mut words = vec![(StageKind::Mark, mark)];
    if by > 0.0 {
        words.extend([
            (StageKind::Cut, "Cut along it from edge to edge, through the darts it meets.".to_owned()),
            (
                StageKind::Move,
                format!("Draw what lies below straight down, {amount} apart all along the cut."),
            ),
            (StageKind::Fill, "Tape paper behind the cut from edge to edge.".to_owned()),
        ]);
    } else {
        words.push((
            StageKind::Move,
            format!("Fold {amount} out along the line, evenly, and tape the fold flat."),
        ));
    }
    let draw = "Rule the seams straight across the line, draw the darts to their points with equal legs, and walk the side seams.";
    words.push((StageKind::True, draw.to_owned()));
    words
}

/// Where the line is ruled on a piece.
fn level_of(piece: &Piece, at: Line, room: f64) -> Result<f64, AlterError> {
    let missing = || AlterError::not_here(LEVEL_MISSING);
    if piece.kind.is_sleeve() {
        let of = |name| piece.level(name).and_then(|level| level.points.first()).map(|point| point.y);
        let (biceps, elbow) = (of(LevelName::Biceps), of(LevelName::Elbow));
        return match (at, biceps, elbow) {
            (Line::Hip, _, Some(elbow)) => Ok(elbow.midpoint(piece.bounds().y1)),
            (_, Some(biceps), Some(elbow)) => Ok(biceps.midpoint(elbow)),
            // A short sleeve ends above the elbow.
            (_, Some(biceps), None) => Ok(biceps.midpoint(piece.bounds().y1)),
            _ => Err(missing()),
        };
    }
    let underarm = piece.underarm().y;
    let waist = piece.level(LevelName::Waist).map(|level| level.points[0].y);
    match at {
        Line::Armhole => {
            // Above the notches: below them armhole and cap are walked together.
            let notched = piece.notches.iter().filter(|notch| notch.seam == Seam::Armhole);
            let highest =
                notched.filter_map(|notch| Some(piece.notch_place(notch)?.0.y)).fold(underarm, f64::min);
            let tip = piece.tip().y;
            Ok(tip + (highest - tip) * 0.6)
        }
        Line::Hip => waist.map(|waist| waist.midpoint(piece.bounds().y1)).ok_or_else(missing),
        Line::Waist => Ok(up_the_side(piece, room * 0.6)),
    }
}

/// The height so far up the side seam from the waist, along the seam: there front and back lie together.
fn up_the_side(piece: &Piece, by: f64) -> f64 {
    let waist = waist_at_side(piece);
    let mut left = by;
    let edges: Vec<&Edge> = piece.edges_of(Seam::Side).collect();
    for edge in edges.into_iter().rev() {
        let end = edge.curve.crossing_level(waist).unwrap_or_else(|| edge.curve.length());
        if left <= end {
            return edge.curve.point_at(end - left).y;
        }
        left -= end;
    }
    waist - by
}

/// Where the side seam reaches the waist.
fn waist_at_side(piece: &Piece) -> f64 {
    let on_level = piece.waist_at_side().map(|point| point.y);
    on_level
        .or_else(|| piece.edges_of(Seam::Side).last().map(|edge| edge.curve.end().y))
        .unwrap_or_else(|| piece.bounds().y1)
}

/// How much lies free at the side between the waist and the bust point with everything that is carried with it.
fn free_above_waist(piece: &Piece) -> Option<f64> {
    if piece.kind.is_sleeve() {
        return None;
    }
    let pivots = piece.darts.iter().filter(|dart| dart.place.seam() != Seam::Shoulder);
    let lowest = pivots.map(|dart| dart.pivot.y).fold(piece.underarm().y, f64::max);
    let lowest = piece.mouth(DartPlace::Side).map_or(lowest, |(_, lower)| lowest.max(lower.y));
    Some(waist_at_side(piece) - lowest)
}

/// Whether so much can be folded out of every piece at its level.
fn within_reach(levels: &[(&Piece, f64)], by: f64, style: Style) -> Result<(), AlterError> {
    let free = |(piece, level): &(&Piece, f64)| -> f64 {
        let ends = piece.edges.iter().filter(|edge| edge.seam != Seam::DartLeg);
        let ends = ends.flat_map(|edge| [edge.curve.start().y, edge.curve.end().y]);
        ends.filter(|y| y > level).fold(f64::INFINITY, f64::min) - level
    };
    let most = (levels.iter().map(free).fold(f64::INFINITY, f64::min) - LEAST_LEFT).max(0.0);
    if -by <= most {
        return Ok(());
    }
    Err(AlterError::beyond(
        style,
        MeasuredOn::Here,
        -by,
        -most,
        "that can be folded out at this line",
        "take the rest at another level",
    ))
}

/// The cut along the level, the piece as it is taped, and with its seams smooth and its darts' legs equal.
fn lengthened(piece: &Piece, level: f64, by: f64) -> Result<(Slash, Piece, Piece), AlterError> {
    let cut = cut_across(piece, level, by)?;
    let (slash, mut taped) = cut.ok_or_else(|| AlterError::not_here(LEVEL_MISSING))?;
    keep_notches(piece, &mut taped, level, by);
    let mut trued = taped.clone();
    for seam in [Seam::Side, Seam::UnderSleeve, Seam::Armhole] {
        true_crossing(&mut trued, seam, level, by);
    }
    let cut_through = slash.parts.iter().filter_map(|(_, join)| match join {
        Join::Legs(place) => Some((*place, trued.dart(*place)?.pivot)),
        _ => None,
    });
    let cut_through: Vec<(DartPlace, Point)> = cut_through.collect();
    for (place, pivot) in cut_through {
        // The waist stays as long as it is sewn, unless the stretch beside the dart is too short for that.
        let is_drawn = place.seam() == Seam::Waist
            && redraw_legs(&mut trued, place, pivot, GivesWay::First, None).is_ok();
        if !is_drawn {
            redraw_dart(&mut trued, place, pivot);
        }
    }
    Ok((slash, taped, trued))
}

/// Notches stay where they are on the cloth: their way from the underarm changes where the cut lies between.
fn keep_notches(before: &Piece, after: &mut Piece, level: f64, by: f64) {
    let underarm_moves = before.underarm().y > level;
    for (notch, was) in after.notches.iter_mut().zip(&before.notches) {
        let Some((at, _)) = before.notch_place(was) else { continue };
        let goes_apart = match notch.seam {
            Seam::Side => at.y > level && !underarm_moves,
            Seam::Armhole => at.y <= level && underarm_moves,
            _ => false,
        };
        if goes_apart {
            notch.from_underarm += by;
        }
    }
}

fn true_crossing(piece: &mut Piece, seam: Seam, level: f64, by: f64) {
    let has_corner = piece.edges_of(seam).any(|edge| {
        !edge.curve.is_straight()
            && edge.curve.corners().iter().any(|(along, turn)| {
                let y = edge.curve.point_at(*along).y;
                turn.abs() > 0.2 && y > level - by.abs() && y < level + 2.0 * by.abs()
            })
    });
    if has_corner {
        true_kinks(piece, seam, SMOOTH);
    }
}
