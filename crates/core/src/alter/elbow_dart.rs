//! Elbow dart: what the back of a sleeve's long seam is longer than its front is sewn into a dart at the elbow, instead of being
//! eased over it (handbook: `wishes.md`, section 5).

use kurbo::Vec2;

use super::keeps::Keeps;
use super::sleeve::{BACK_SEAM, FRONT_SEAM, is_sleeve};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, quarter_turn};
use crate::pattern::{
    Dart, DartPlace, Edge, LevelName, Pattern, PatternMeasure, Piece, Seam, back_off_points,
};

/// A dart is so long, as a share of the sleeve's width at the elbow, and at most so long in millimetres (common practice, no
/// source).
const LONG: f64 = 0.25;
const LONGEST: f64 = 90.0;
/// A dart narrower than this is eased, in millimetres.
pub(super) const LEAST: f64 = 3.0;
/// Its mouth keeps so far from the ends of the seam, in millimetres.
const FROM_ENDS: f64 = 20.0;
/// Lengths nearer than this are one, in millimetres.
const SAME: f64 = 1e-3;
const PLACE: DartPlace = DartPlace::Elbow;

const PARAMS: [Param; 2] = [
    Param::size(
        "Takes in",
        (0.0, 40.0),
        "How much of the back seam is sewn into the dart: at most what it is longer than the front seam.",
    ),
    Param::place(
        "long",
        "Long",
        (30.0, 150.0),
        None,
        "How far it reaches into the sleeve. Left out, a quarter of the width at the elbow, at most 90 mm.",
    ),
];

const ABOUT: About = About {
    code: "elbow_dart",
    name: "Elbow dart",
    why: "A close sleeve follows the bent arm better with a dart at the elbow than with ease, and firm cloth does not ease.",
    params: &PARAMS,
    seams: &[Seam::UnderSleeve],
    wants: "an elbow dart takes in what the back of a sleeve's seam is longer than its front: this pattern has no \
            sleeve that goes on below the elbow, or its seams are about as long as each other; make it closer at the wrist first",
    layer: Layer::Finish,
};

/// A dart at the elbow.
pub(super) struct ElbowDart;

impl Alteration for ElbowDart {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let has_more_behind = |sleeve: &Piece| at_elbow(sleeve).is_some() && longer_behind(sleeve) >= LEAST;
        is_sleeve(pattern) && pattern.sleeve().is_some_and(has_more_behind)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        use PatternMeasure as F;
        Keeps::exactly(&[&[F::CapLength, F::CapHeight, F::CapWidth, F::SleeveHem, F::SleeveLength]])
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        let (along, _) = at_elbow(sleeve)?;
        Some(Handle::new(
            sleeve.kind,
            sleeve.edges.get(BACK_SEAM)?.curve.point_at(along),
            Vec2::new(0.0, 1.0),
        ))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let (wide, most) = (args.amount(), longer_behind(sleeve));
        if wide > most + SAME {
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                wide,
                most,
                "that the back of the sleeve seam is longer than its front",
                "a narrower dart",
            ));
        }
        if wide < LEAST {
            return Err(AlterError::not_here(format!(
                "a dart takes at least {}: ease less than that",
                style.with_unit(LEAST)
            )));
        }
        let after = darted(sleeve, wide.min(most), args.number("long")).ok_or_else(|| {
            AlterError::not_here("the elbow lies too near to an end of the sleeve's seam for a dart")
        })?;
        let eased = most - wide;
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Mark {} on the back seam, half above the elbow line and half below it.",
                    style.with_unit(wide)
                ),
            ),
            (StageKind::Move, "Draw both legs to a point square to the middle of the mouth.".to_owned()),
            (StageKind::True, "Fold the dart down and cut the seam across the fold.".to_owned()),
        ];
        let done = altered(pattern, &[PieceWork::drawn(sleeve, after)], &words);
        Ok(if eased > 1.0 {
            done.and(FollowUp::reminder(format!(
                "{} more of the back seam is eased over the elbow.",
                style.with_unit(eased)
            )))
        } else {
            done
        })
    }
}

/// How much longer the back of a sleeve's seam is than its front, in millimetres.
pub(super) fn longer_behind(sleeve: &Piece) -> f64 {
    sleeve.edges[BACK_SEAM].curve.length() - sleeve.edges[FRONT_SEAM].curve.length()
}

/// Where the elbow line meets the back seam, told along that from the hem, and how wide the sleeve is there.
fn at_elbow(sleeve: &Piece) -> Option<(f64, f64)> {
    let line = &sleeve.level(LevelName::Elbow)?.points;
    let (back, front) = (line.first()?, line.last()?);
    Some((sleeve.edges.get(BACK_SEAM)?.curve.nearest(*back), back.distance(*front)))
}

/// The sleeve with a dart of this width.
fn darted(sleeve: &Piece, wide: f64, long: Option<f64>) -> Option<Piece> {
    let (elbow, width) = at_elbow(sleeve)?;
    let back = &sleeve.edges[BACK_SEAM].curve;
    let (from, to) = (elbow - wide / 2.0, elbow + wide / 2.0);
    if from < FROM_ENDS || to > back.length() - FROM_ENDS {
        return None;
    }
    let (below, above) = (back.between(0.0, from), back.between(to, back.length()));
    let (lower, upper) = (below.end(), above.start());
    // Up the back seam the sleeve lies to the right.
    let into = quarter_turn(upper - lower) / upper.distance(lower);
    let pivot = lower.midpoint(upper) + into * long.unwrap_or_else(|| (width * LONG).min(LONGEST));
    let mut after = sleeve.clone();
    let edges = [
        Edge::sewn(Seam::UnderSleeve, below),
        Edge::leg(PLACE, lower, pivot),
        Edge::leg(PLACE, pivot, upper),
        Edge::sewn(Seam::UnderSleeve, above),
    ];
    after.edges.splice(BACK_SEAM..=BACK_SEAM, edges);
    after.darts.push(Dart { place: PLACE, pivot, point: pivot });
    back_off_points(&mut after);
    Some(after)
}

/// A pattern with the elbow darts of its sleeves laid flat: what alters a sleeve looks at its whole seams. None without such a
/// dart.
pub(super) fn laid_flat(pattern: &Pattern) -> Option<Pattern> {
    let flat: Vec<Piece> = pattern.pieces.iter().filter_map(flat).collect();
    (!flat.is_empty()).then(|| flat.into_iter().fold(pattern.clone(), Pattern::with))
}

fn flat(sleeve: &Piece) -> Option<Piece> {
    let leg = sleeve.first_leg(PLACE)?;
    let (lower, upper) = sleeve.mouth(PLACE)?;
    let mut flat = sleeve.clone();
    flat.edges.splice(leg..leg + 2, [Edge::sewn(Seam::UnderSleeve, Curve::line(lower, upper))]);
    flat.darts.retain(|dart| dart.place != PLACE);
    Some(flat.merged_at(&[leg, leg + 1]))
}

/// Draws the elbow darts again that were laid flat: as they were where the sleeve was not touched, otherwise as wide as there is
/// still to take in.
pub(super) fn drawn_again(
    mut done: Altered,
    before: &Pattern,
    flat: &Pattern,
) -> Result<Altered, AlterError> {
    let mut is_gone = false;
    for was in before.pieces.iter().filter(|piece| piece.dart(PLACE).is_some()) {
        let is_it = |piece: &&mut Piece| piece.kind == was.kind && piece.dart(PLACE).is_none();
        let untouched = flat.piece(was.kind);
        for pattern in [&mut done.pattern, &mut done.taped] {
            let Some(piece) = pattern.pieces.iter_mut().find(is_it) else { continue };
            if Some(&*piece) == untouched {
                *piece = was.clone();
                continue;
            }
            match as_it_was(was, piece) {
                Some(drawn) => *piece = drawn,
                None => is_gone = true,
            }
        }
    }
    if is_gone {
        done.follow_ups.push(FollowUp::done(
            "The elbow dart is gone: there is nothing left for it to take in at the elbow.".to_owned(),
        ));
    }
    Ok(done)
}

/// A sleeve that was altered with its dart laid flat, with the dart as far as there is something to take in.
fn as_it_was(was: &Piece, now: &Piece) -> Option<Piece> {
    let (lower, upper) = was.mouth(PLACE)?;
    let long = was.dart(PLACE)?.pivot.distance(lower.midpoint(upper));
    at_elbow(now)?;
    let wide = lower.distance(upper).min(longer_behind(now));
    if wide < LEAST { None } else { darted(now, wide, Some(long)) }
}
