//! Side seams let out or taken in at bust, waist and hip, each by itself, front and back alike (handbook:
//! `alterations.md`, section 2).

use kurbo::{Affine, Point, Vec2};

use super::keeps::{CENTRES, Keeps, NECKLINES, SHOULDERS, SKIRT_CENTRES, SKIRT_SIDES};
use super::skirt_side_seams;
use super::skirt_waist::FOLD_AND_WALK;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::geometry::{Curve, SAME_POINT, bent, fading, reshape_start};
use crate::pattern::keep_side_length;
use crate::pattern::{
    DartPlace, Edge, Garment, LevelName, Pattern, PatternMeasure, Piece, Seam, redraw_dart, true_underarm,
};
use crate::{PerEdge, Style};

/// The armhole follows the underarm over this share of its length.
const ARMHOLE_REACH: f64 = 0.5;
/// The armhole arrives square at the new side seam over this length, in millimetres.
const UNDERARM_REACH: f64 = 40.0;
/// Above this at one edge darts and panels should take a part first, in millimetres.
const LARGE: f64 = 12.0;

const PARAMS: [Param; 3] = [
    Param::amount(
        "At the bust",
        MeasuredOn::PerEdge,
        (-25.0, 30.0),
        "What each edge of the side seam gains at bust and underarm: a quarter of the whole.",
    ),
    Param {
        on: MeasuredOn::PerEdge,
        ..Param::place(
            "waist",
            "At the waist",
            (-30.0, 40.0),
            Some(0.0),
            "What each edge of the side seam gains at the waist. Large amounts go to the darts first; on a skirt all does.",
        )
    },
    Param {
        on: MeasuredOn::PerEdge,
        ..Param::place(
            "hip",
            "At the hip",
            (-30.0, 40.0),
            Some(0.0),
            "What each edge gains at the hip, and below.",
        )
    },
];

const ABOUT: About = About {
    code: "side_seams",
    name: "Side seams",
    why: "Frame, waist or hip want more or less while the cup is right.",
    params: &PARAMS,
    seams: &[Seam::Side, Seam::Hem],
    wants: "side seams are altered on a whole front and back alike, of bodice, dress or skirt: this pattern lacks one of them",
    layer: Layer::Fit,
};

/// Side seams out or in.
pub(super) struct SideSeams;

impl Alteration for SideSeams {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice, Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        (pattern.front().is_some() && pattern.back().is_some()) || pattern.skirt_halves().is_some()
    }

    fn asks(&self, pattern: &Pattern, param: &str) -> bool {
        param != "amount" || pattern.front().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, CENTRES, SKIRT_CENTRES, SKIRT_SIDES])
    }

    fn drawn_from(&self) -> f64 {
        // Waist and hip are drawn in one curve.
        2.0
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        let Params { bust, waist, hip } = Params::of(args);
        vec![
            (PatternMeasure::Bust, bust.on_body().0.mm()),
            (PatternMeasure::Waist, waist.on_body().0.mm()),
            (PatternMeasure::Hip, hip.on_body().0.mm()),
        ]
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        Widths::of(args) == Widths { bust: 0.0, waist: 0.0, hip: 0.0 }
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        Some(Handle::new(front.kind, front.underarm(), Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = Widths::of(args);
        if let Some((front, back)) = pattern.skirt_halves() {
            if by.bust != 0.0 {
                return Err(AlterError::not_here(
                    "a skirt has no bust: set what it gains at the waist or the hip",
                ));
            }
            let moved = |piece: &Piece| -> Result<PieceWork, AlterError> {
                Ok(PieceWork::drawn(piece, skirt_side_seams::moved_out(piece, by.waist, by.hip)?))
            };
            let works = [moved(front.at_centre())?, moved(back.at_centre())?];
            return Ok(altered(pattern, &works, &skirt_words(&by, style)));
        }
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        if by.hip != 0.0 && front.last_edge(Seam::Hem).is_none() {
            return Err(AlterError::not_here("this pattern ends at the waist: there is no hip to alter"));
        }
        let (taped_front, taped_back) = (moved_out(front, &by), moved_out(back, &by));
        let (trued_front, trued_back) = trued(front, back, &[by, by], 5e-3);
        let works = [
            PieceWork::drawn_and_trued(front, taped_front, trued_front),
            PieceWork::drawn_and_trued(back, taped_back, trued_back),
        ];
        Ok(altered(pattern, &works, &words(&by, style)))
    }
}

/// Front and back, each by its own widths, with side seams as long as each other as before. Making them so moves the
/// waist's end a little along the side, so the waist is drawn on by that much more or less: it still grows by its amount, within `close_enough` millimetres.
pub(super) fn trued(front: &Piece, back: &Piece, by: &[Widths; 2], close_enough: f64) -> (Piece, Piece) {
    const ROUNDS: usize = 4;
    let off = |front: &Piece, back: &Piece| front.sewn_length(Seam::Side) - back.sewn_length(Seam::Side);
    let mut waists = by.map(|by| by.waist);
    let mut done = (front.clone(), back.clone());
    for _ in 0..ROUNDS {
        let with = |piece: &Piece, half: usize| moved_out(piece, &Widths { waist: waists[half], ..by[half] });
        done = (with(front, 0), with(back, 1));
        let differ = off(&done.0, &done.1) - off(front, back);
        slide_end(&mut done.0, -differ / 2.0);
        slide_end(&mut done.1, differ / 2.0);
        let grown = |old: &Piece, new: &Piece| new.sewn_waist() - old.sewn_waist();
        let missed = [by[0].waist - grown(front, &done.0), by[1].waist - grown(back, &done.1)];
        if missed.iter().all(|mm| mm.abs() < close_enough) {
            break;
        }
        waists[0] += missed[0];
        waists[1] += missed[1];
    }
    for piece in [&mut done.0, &mut done.1] {
        true_underarm(piece, UNDERARM_REACH);
    }
    done
}

/// What it is told: what each edge of the side seam gains.
struct Params {
    bust: PerEdge,
    waist: PerEdge,
    hip: PerEdge,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        let of = |code| args.per_edge(code);
        Self { bust: of("amount"), waist: of("waist"), hip: of("hip") }
    }
}

/// The same in millimetres.
#[derive(Clone, Copy, Debug, PartialEq)]
pub(super) struct Widths {
    bust: f64,
    waist: f64,
    hip: f64,
}

impl Widths {
    /// The same all the way down.
    pub(super) const fn alike(by: f64) -> Self {
        Self { bust: by, waist: by, hip: by }
    }

    fn of(args: &Args<'_>) -> Self {
        let Params { bust, waist, hip } = Params::of(args);
        Self { bust: bust.0.mm(), waist: waist.0.mm(), hip: hip.0.mm() }
    }
}

/// One piece's side seam displaced: by the bust's amount down to the bust line, fading to the waist's, to the
/// hip's. The waist is drawn on along its own line, so that it grows by just as much.
fn moved_out(piece: &Piece, by: &Widths) -> Piece {
    let mut after = piece.clone();
    let whole = piece.flat_length(Seam::Side);
    let at_level = |name| {
        let point = piece.level(name).and_then(|level| level.points.last().copied())?;
        Some(along_side(piece, point))
    };
    let bust = at_level(LevelName::Bust).unwrap_or(0.0);
    let waist = at_level(LevelName::Waist).unwrap_or(whole);
    let waist_shift = match at_level(LevelName::Waist) {
        Some(_) => Vec2::new(by.waist, 0.0),
        None => waist_drawn_on(&mut after, by.waist),
    };
    let bust_shift = bust_direction(piece) * by.bust;
    let hip_shift = Vec2::new(by.hip, 0.0);
    let shift = |s: f64| -> (Vec2, Vec2) {
        let between = |a: Vec2, b: Vec2, from: f64, to: f64| {
            let (weight, slope) = fading(((s - from) / (to - from)).clamp(0.0, 1.0));
            (b + (a - b) * weight, (a - b) * (slope / (to - from)))
        };
        if s <= bust {
            (bust_shift, Vec2::ZERO)
        } else if s <= waist {
            between(bust_shift, waist_shift, bust, waist)
        } else {
            between(waist_shift, hip_shift, waist, whole.max(waist + 1.0))
        }
    };
    let mut before = 0.0;
    for index in 0..piece.edges.len() {
        let edge = &piece.edges[index];
        if edge.seam != Seam::Side {
            continue;
        }
        let length = edge.curve.length();
        let above = (bust - before).clamp(0.0, length);
        let (upper, lower) = edge.curve.split(above);
        let below = length - above;
        // Down to the bust line the seam keeps its shape; below it the amount fades into the waist's.
        after.edges[index].curve = if below < SAME_POINT {
            edge.curve.transformed(Affine::translate(bust_shift))
        } else {
            let lower = bent(&lower, below, |s| shift(before + above + s));
            if above < SAME_POINT {
                lower
            } else {
                upper.transformed(Affine::translate(bust_shift)).then(lower)
            }
        };
        before += length;
    }
    follow(piece, &mut after, bust_shift, hip_shift);
    for level in &mut after.levels {
        let by = match level.name {
            LevelName::Bust => bust_shift,
            LevelName::Waist => waist_shift,
            _ => Vec2::ZERO,
        };
        if let Some(last) = level.points.last_mut() {
            *last += by;
        }
    }
    after
}

/// The bust line's own direction at the side: girth is measured along it.
fn bust_direction(piece: &Piece) -> Vec2 {
    match piece.level(LevelName::Bust).map(|level| level.points.as_slice()) {
        Some([.., a, b]) if a.distance(*b) > 1.0 => (*b - *a) / a.distance(*b),
        _ => Vec2::new(1.0, 0.0),
    }
}

/// Sewn distance down the side of a point on it.
fn along_side(piece: &Piece, point: Point) -> f64 {
    let mut before = 0.0;
    let mut best = (f64::INFINITY, 0.0);
    for edge in piece.edges_of(Seam::Side) {
        let along = edge.curve.nearest(point);
        let off = edge.curve.point_at(along).distance(point);
        if off < best.0 - 1e-6 {
            best = (off, before + along);
        }
        before += edge.curve.length();
    }
    best.1
}

/// The waist's side end drawn on along its own line, or cut back; returns how its end moved.
fn waist_drawn_on(piece: &mut Piece, by: f64) -> Vec2 {
    let Some(waist) = piece.first_edge(Seam::Waist) else { return Vec2::ZERO };
    let old = piece.edges[waist].curve.clone();
    let start = old.start();
    let new = if by > 0.0 {
        let from = start - old.start_direction() * by;
        Curve::line(from, start).then(old)
    } else {
        old.split(-by).1
    };
    let moved = new.start() - start;
    piece.edges[waist].curve = new;
    moved
}

/// What hangs on the side seam: darts in it, the armhole above it, the hem below it.
fn follow(before: &Piece, after: &mut Piece, bust: Vec2, hip: Vec2) {
    if let Some(dart) = before.dart(DartPlace::Side) {
        let pivot = dart.pivot;
        let legs: Vec<usize> =
            (0..after.edges.len()).filter(|&i| after.edges[i].dart == Some(DartPlace::Side)).collect();
        if let [first, second] = *legs.as_slice() {
            let (from, to) = (after.edges[first - 1].curve.end(), after.edges[second + 1].curve.start());
            after.edges[first] = Edge::leg(DartPlace::Side, from, pivot);
            after.edges[second] = Edge::leg(DartPlace::Side, pivot, to);
            redraw_dart(after, DartPlace::Side, pivot);
        }
    }
    if let Some(last) = after.last_edge(Seam::Armhole) {
        let old = before.edges[last].curve.clone();
        let reach = old.length() * ARMHOLE_REACH;
        after.edges[last].curve = reshape_start(&old.reversed(), bust, reach).reversed();
    }
    if let Some(hem) = after.first_edge(Seam::Hem) {
        let line = &before.edges[hem].curve;
        after.edges[hem].curve = Curve::line(line.start() + hip, line.end());
    }
}

/// The lower end of a side seam that ends at the waist moved along it: front and back as long as each other.
fn slide_end(piece: &mut Piece, by: f64) {
    let length = piece.sewn_length(Seam::Side) + by;
    keep_side_length(piece, length);
}

/// What is marked on each edge: `1/4 in out at the waist`.
fn marks(by: &Widths, style: Style) -> String {
    let in_words = |(mm, place): (f64, &str)| {
        (mm != 0.0).then(|| {
            format!(
                "{} {} at the {place}",
                style.part_with_unit(mm.abs(), MeasuredOn::PerEdge.parts()),
                if mm > 0.0 { "out" } else { "in" }
            )
        })
    };
    let places = [(by.bust, "bust"), (by.waist, "waist"), (by.hip, "hip")];
    places.into_iter().filter_map(in_words).collect::<Vec<_>>().join(", ")
}

fn skirt_words(by: &Widths, style: Style) -> [(StageKind, String); 3] {
    [
        (StageKind::Mark, format!("On each edge, front and back alike, mark {}.", marks(by, style))),
        (
            StageKind::Move,
            "Let the darts take or give what the waist changes, as far as they can; draw the side hollow from the waist to the \
             hip, as long as before, and straight down from there."
                .to_owned(),
        ),
        (StageKind::True, FOLD_AND_WALK.to_owned()),
    ]
}

fn words(by: &Widths, style: Style) -> [(StageKind, String); 3] {
    let large = if [by.bust, by.waist, by.hip].iter().any(|mm| mm.abs() > LARGE) {
        " So much is better shared with the darts or a panel seam."
    } else {
        ""
    };
    [
        (StageKind::Mark, format!("On each edge, front and back alike, mark {}.{large}", marks(by, style))),
        (StageKind::Move, "Draw the side seam through the marks, the hip in one smooth curve; the armhole follows at the underarm.".to_owned()),
        (StageKind::True, "Walk front and back side seam along each other; square the hem.".to_owned()),
    ]
}
