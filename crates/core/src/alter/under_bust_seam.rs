//! Seam under the bust: front and back parted across at her own level; what shapes the bust becomes gathers or a dart above it,
//! and the band below it is one smooth piece (handbook: `wishes.md`, section 3).

use kurbo::{Point, Vec2};

use super::keeps::{ARMHOLES, CENTRES, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::style_line::{self, Begins, with_dart_drawn_up, with_one_dart};
use super::under_bust_parts::{Asked, AtSide, PartedAcross, UpperDart, part_across};
use super::under_bust_spread::{Spread, spread};
use super::ways::{Ways, ways};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::Curve;
use crate::pattern::{DartPlace, Edge, Pattern, PatternMeasure, Piece, Seam, true_closed_side, upright_at};

/// From her bust point down to the root of the bust it is at least so far, in millimetres.
const LEAST_ROOT: f64 = 30.0;
ways! {
    /// What becomes of the fullness above the seam.
    Fullness {
        /// Drawn in between notches.
        Gathered = "gathered", "gathered";
        /// A dart up to the bust point.
        Dart = "dart", "a dart";
        /// Sewn into a seam over the bust point.
        Cups = "cups", "cups, with a seam over the bust";
    }
}

ways! {
    /// What becomes of a dart at the side.
    SideDart {
        /// Its intake goes into the fullness over the seam.
        Turned = "turned", "turned into it";
        /// It stays where it is.
        Left = "left", "left as it is";
    }
}

const PARAMS: [Param; 7] = [
    Param::amount(
        "From the bust point down to under the bust",
        MeasuredOn::Here,
        (0.0, 160.0),
        "Along the cloth over the bust: neck side to under the bust, less neck side to the bust point.",
    ),
    Param::place(
        "clear",
        "Seam below that",
        (0.0, 40.0),
        Some(5.0),
        "How far the seam lies below the root of the bust.",
    ),
    Param {
        told_where_chosen: true,
        ..Param::way(
            "fullness",
            "The fullness over it is",
            Fullness::WAYS,
            "What the waist dart takes in is gathered into the seam, stays a dart up to the bust point, or is sewn into a seam that \
             parts the upper front.",
        )
    },
    Param::way(
        "cups_from",
        "The cups' seam begins at",
        Begins::WAYS,
        "Where the seam over the bust begins that parts the upper front into cups.",
    ),
    Param::place(
        "notches",
        "Gathers end from the dart",
        (10.0, 140.0),
        Some(40.0),
        "How far on either side of the dart the gathers reach.",
    ),
    Param::place(
        "spread",
        "More fullness over it",
        (0.0, 200.0),
        Some(0.0),
        "On each half in front: cut from the seam to the shoulder and opened at the seam, to be gathered as well.",
    ),
    Param::way(
        "side_dart",
        "Another dart to the bust is",
        SideDart::WAYS,
        "All shaping of the bust goes into the seam; or what is not at the waist stays.",
    ),
];

const ABOUT: About = About {
    code: "under_bust_seam",
    name: "Seam under the bust",
    why: "Front and back are parted under the bust: what the waist dart shapes is gathered, stays a dart or becomes cups above the \
          seam, a smooth band goes on below. It comes after all corrections of both.",
    params: &PARAMS,
    seams: &[Seam::Side, Seam::DartLeg, Seam::CentreFront],
    wants: "a seam under the bust parts a whole front and back that end at the waist, the front with a waist dart to the bust: this \
            pattern goes on below the waist (for a dress begin from a bodice and join a skirt), is parted already, has a dart at the \
            centre or none at the waist",
    layer: Layer::Shape,
};

/// What it is told, in millimetres.
struct Params {
    /// From the bust point down to the root of the bust.
    root: f64,
    clear: f64,
    fullness: Fullness,
    notches: f64,
    /// What is gathered besides.
    spread: f64,
    side_dart: SideDart,
    /// Where the seam of cups begins.
    cups_from: Begins,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self {
            root: args.amount(),
            clear: args.of("clear"),
            fullness: args.choice("fullness"),
            notches: args.of("notches"),
            spread: args.of("spread"),
            side_dart: args.choice("side_dart"),
            cups_from: args.choice("cups_from"),
        }
    }
}

/// Front and back parted under the bust.
pub(super) struct UnderBustSeam;

impl Alteration for UnderBustSeam {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let (Some(front), Some(back)) = (pattern.front(), pattern.back()) else { return false };
        front.dart(DartPlace::Waist).is_some() && [front, back].into_iter().all(ends_at_waist)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, &[PatternMeasure::Waist]])
    }

    fn asks(&self, pattern: &Pattern, param: &str) -> bool {
        param != "side_dart" || pattern.front().is_some_and(has_another_dart)
    }

    fn turns_darts(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.bust_pivot()?, Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let params = Params::of(args);
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        if params.root < LEAST_ROOT {
            return Err(AlterError::not_here(format!(
                "from the bust point down to under the bust it is at least {}, not {}: measured over the bust",
                style.with_unit(LEAST_ROOT),
                style.with_unit(params.root)
            )));
        }
        let (ready, pivot) = ready(front, params.side_dart)?;
        let level = pivot.y + params.root + params.clear;
        let upper_dart = match params.fullness {
            Fullness::Gathered => UpperDart::Gathered,
            Fullness::Dart | Fullness::Cups => UpperDart::Kept,
        };
        let asked = Asked { level, at_side: AtSide::StraightOn, upper_dart, notches: params.notches };
        let in_front = part_across(&ready, &asked, style)?;
        if params.spread > 0.0 && params.fullness != Fullness::Gathered {
            return Err(AlterError::not_here(
                "more fullness over the seam is gathered: choose gathers in place of the dart or the cups",
            ));
        }
        let above_waist = ready.centre_waist().y - level;
        let behind = part_across(
            back,
            &Asked {
                level: back.centre_waist().y - above_waist,
                at_side: AtSide::AboveWaist(in_front.side_below),
                upper_dart: UpperDart::Kept,
                ..asked
            },
            style,
        )?;
        let (in_front, cuts) = match params.spread {
            more if more > 0.0 => with_more(in_front, more, style)?,
            _ => (in_front, Vec::new()),
        };
        let cups = match params.fullness {
            Fullness::Cups => Some(cups(&in_front.upper, &params)?),
            Fullness::Gathered | Fullness::Dart => None,
        };
        let words = words(&params, above_waist, &in_front, (&ready != front, cuts.len()), style);
        let drawn = |piece: &Piece, parted: &PartedAcross| {
            parted.drawn.iter().fold(PieceWork::drawn(piece, piece.clone()), PieceWork::with_curve)
        };
        let cut = |work: PieceWork, line: &Curve| work.with_curve(line).with_hinge(line.end());
        let front_work = cuts.iter().fold(drawn(&ready, &in_front).with_hinge(pivot), cut);
        let works = [front_work, drawn(back, &behind)];
        let mut done = altered(pattern, &works, &words);
        let clear = in_front.closed.point_at(in_front.closed.nearest(pivot)).distance(pivot) - params.root;
        let gathers = in_front.gathers;
        let upper_front = cups.map_or_else(|| vec![in_front.upper], Vec::from);
        let front_parts: Vec<Piece> = upper_front.into_iter().chain([in_front.band]).collect();
        let back_parts = [behind.upper, behind.band];
        done.work.became = front_parts.iter().chain(&back_parts).cloned().collect();
        done.pattern = pattern.parted(front.kind, front_parts).parted(back.kind, back_parts);
        done.taped = done.pattern.clone();
        Ok(follow_ups(clear, gathers, style).into_iter().fold(done, Altered::and))
    }
}

/// Whether a piece has its armhole and ends at the waist, its outline closed by one centre line.
fn ends_at_waist(piece: &Piece) -> bool {
    let is_centre = |edge: &&Edge| edge.seam == piece.kind.centre();
    piece.first_edge(Seam::Waist).is_some()
        && piece.first_edge(Seam::Armhole).is_some()
        && piece.two_pointed.is_empty()
        && piece.dart(DartPlace::Centre).is_none()
        && piece.edges.iter().filter(is_centre).count() == 1
        && piece.edges.last().as_ref().is_some_and(is_centre)
}

/// Whether another dart than the one at the waist shapes the bust.
fn has_another_dart(front: &Piece) -> bool {
    let Some(pivot) = front.bust_pivot() else { return false };
    front.darts.iter().any(|dart| dart.place != DartPlace::Waist && dart.pivot.distance(pivot) < 1.0)
}

/// The front with its waist dart drawn up to the bust point, the others turned into it where that is asked for.
fn ready(front: &Piece, side_dart: SideDart) -> Result<(Piece, Point), AlterError> {
    let (drawn_up, pivot) = with_dart_drawn_up(front)?;
    if side_dart == SideDart::Left {
        return Ok((drawn_up, pivot));
    }
    let (mut ready, _) = with_one_dart(front, Begins::Shoulder)?;
    if front.dart(DartPlace::Side).is_some() && ready.dart(DartPlace::Side).is_none() {
        true_closed_side(&mut ready);
    }
    Ok((ready, pivot))
}

/// The grain line of a cup's side ends so far from its edges, as a share of what lies between them.
const GRAIN_INSIDE: f64 = 0.15;
/// Lengths nearer than this are one, in millimetres.
const SAME: f64 = 0.01;
/// The armhole's middle: there the seam of cups begins that begins at the armhole.
const CUPS_AT_ARMHOLE: f64 = 0.5;
/// A notch so far above the bust point says where both panels of a cup are held together, in millimetres.
const CUPS_NOTCH: f64 = 25.0;

/// The upper front parted into cups: a seam over the bust point takes up the dart.
fn cups(upper: &Piece, params: &Params) -> Result<[Piece; 2], AlterError> {
    if params.side_dart == SideDart::Left {
        return Err(AlterError::not_here(
            "the seam of cups takes up every dart to the bust: turn the other one into it",
        ));
    }
    let Some(leg) = upper.first_leg(DartPlace::UnderBust) else {
        return Err(AlterError::not_here(
            "the dart above the seam is too short for a seam of cups: a lower seam, or gathers",
        ));
    };
    // Where the band is notched for the dart, the seam of the cups meets it.
    let at_dart = upper.length_before(leg, Seam::UnderBust);
    let mut upper = upper.clone();
    upper
        .notches
        .retain(|notch| notch.seam != Seam::UnderBust || (notch.from_underarm - at_dart).abs() > SAME);
    // A style line takes up the dart at the lower edge, and that of a whole piece is the waist.
    let whole = (upper.with_seam_as(Seam::UnderBust, Seam::Waist))
        .with_dart_as(DartPlace::UnderBust, DartPlace::Waist)
        .with_dart_as(DartPlace::UnderBustSide, DartPlace::WaistSide);
    let asked = style_line::Asked {
        begins: params.cups_from,
        place: CUPS_AT_ARMHOLE,
        starts: None,
        through: None,
        above: CUPS_NOTCH,
        gape: 0.0,
    };
    let mut parted = style_line::part(&whole, &asked)?;
    let side = &mut parted.side;
    // So short a panel has room for its grain between its edges only.
    if let Some((top, foot)) = upright_at(side, side.bounds().center().x) {
        let inside = (foot - top) * GRAIN_INSIDE;
        side.grain = (top + inside, foot - inside);
    }
    Ok([parted.centre, parted.side].map(|panel| {
        (panel.with_seam_as(Seam::Waist, Seam::UnderBust))
            .with_dart_as(DartPlace::WaistSide, DartPlace::UnderBustSide)
    }))
}

/// The front with its upper part opened for more gathers, and the lines it is cut along.
fn with_more(
    parted: PartedAcross,
    more: f64,
    style: Style,
) -> Result<(PartedAcross, Vec<Curve>), AlterError> {
    let Spread { upper, cuts, grown } = spread(&parted.upper, more, style)?;
    Ok((PartedAcross { upper, gathers: parted.gathers + grown, ..parted }, cuts))
}

fn words(
    params: &Params,
    above_waist: f64,
    front: &PartedAcross,
    (is_turned, cuts): (bool, usize),
    style: Style,
) -> [(StageKind, String); 3] {
    let first = if is_turned {
        "Draw the waist dart up to the bust point, the other darts turned into it. "
    } else {
        ""
    };
    let opened = match cuts {
        0 => String::new(),
        1 => format!(
            " Cut the upper front from the seam to the shoulder, and open it by {} at the seam.",
            style.with_unit(params.spread)
        ),
        many => format!(
            " Cut the upper front from the seam to the shoulder at {many} places, and open each by {} at the seam.",
            style.with_unit(params.spread / many as f64)
        ),
    };
    let upper = match params.fullness {
        Fullness::Gathered => format!(
            "Draw the upper front's edge smooth over the open dart; {} of it is gathered between notches {} on either side.",
            style.with_unit(front.gathers),
            style.with_unit(params.notches)
        ),
        Fullness::Dart => "The dart stays in the upper front.".to_owned(),
        Fullness::Cups => format!(
            "Draw a line from the {} over the bust point to the dart, and part the upper front along it and the dart's legs.",
            params.cups_from.seam().name()
        ),
    };
    [
        (
            StageKind::Mark,
            format!(
                "{first}Draw the seam level from the centre, {} above the waist, to the waist dart; from as far down its other leg on \
                 to the side, square to it. Draw it behind as far above the waist, at the centre and at the side.",
                style.with_unit(above_waist)
            ),
        ),
        (
            StageKind::Cut,
            format!("Cut front and back along it, and close the waist darts in the bands.{opened}"),
        ),
        (StageKind::True, format!("{upper} Walk upper part and band along each other.")),
    ]
}

fn follow_ups(clear: f64, gathers: f64, style: Style) -> Vec<FollowUp> {
    let mut all = Vec::new();
    if gathers > 0.0 {
        all.push(FollowUp::reminder(format!(
            "{} is gathered over each breast: draw it in to the band's notches.",
            style.with_unit(gathers)
        )));
    }
    let lies =
        format!("Closed, the seam lies at least {} below the root of the bust.", style.with_unit(clear));
    all.push(FollowUp::reminder(lies));
    all.push(FollowUp::reminder(
        "Lining and facings are parted along the same seam; a skirt or peplum follows the bands.",
    ));
    all
}
