//! The sleeve's hem and elbow: wider or narrower below the biceps line (handbook: `alterations.md`, section 2).

use kurbo::Vec2;

use super::cap_height::WANTS;
use super::keeps::Keeps;
use super::sleeve::{BACK_SEAM, FRONT_SEAM, HEM, end_levels_on_seams, is_sleeve};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::{Curve, reshape_at, reshape_start};
use crate::pattern::{LevelName, Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 2] = [
    Param::amount(
        "Hem wider",
        MeasuredOn::Here,
        (-80.0, 120.0),
        "How much wider the sleeve becomes at the hem, all round. Negative takes in; it must still pass the hand.",
    ),
    Param::place(
        "elbow",
        "Elbow wider",
        (-40.0, 60.0),
        Some(0.0),
        "How much wider it becomes at the elbow line, all round.",
    ),
];

const ABOUT: About = About {
    code: "sleeve_width",
    name: "Sleeve hem and elbow",
    why: "The sleeve is tight or loose below the upper arm: bending the elbow strains it, or the hand does not pass.",
    params: &PARAMS,
    seams: &[Seam::UnderSleeve, Seam::Hem],
    wants: WANTS,
    layer: Layer::Finish,
};

/// What it is told, all round, in millimetres.
struct Params {
    hem: f64,
    elbow: f64,
}

impl Params {
    fn of(args: &Args<'_>) -> Self {
        Self { hem: args.amount(), elbow: args.of("elbow") }
    }
}

/// The sleeve's hem and elbow wider or narrower.
pub(super) struct SleeveWidth;

impl Alteration for SleeveWidth {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[
            PatternMeasure::CapLength,
            PatternMeasure::CapHeight,
            PatternMeasure::CapWidth,
            PatternMeasure::SleeveLength,
        ]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::SleeveHem, Params::of(args).hem)]
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        let Params { hem, elbow } = Params::of(args);
        hem == 0.0 && elbow == 0.0
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        Some(Handle::new(sleeve.kind, sleeve.edges[FRONT_SEAM].curve.end(), Vec2::new(0.5, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve = pattern.sleeve().ok_or_else(|| AlterError::not_here(WANTS))?;
        let Params { hem, elbow } = Params::of(args);
        // Half on either seam.
        let (hem, elbow) = (hem / 2.0, elbow / 2.0);
        let width = sleeve.edges[HEM].curve.length();
        if width + 2.0 * hem < 40.0 {
            let limit = width - 40.0;
            return Err(AlterError::beyond(
                style,
                MeasuredOn::Here,
                -2.0 * hem,
                -limit,
                "that can be taken off this hem",
                "no hand passes a narrower one",
            ));
        }
        let after = widened(sleeve, hem, elbow);
        let in_words = |half: f64, place: &str| {
            if style.is_alike(half, 0.0) {
                return format!("the old place at the {place}");
            }
            let way = if half < 0.0 { "in" } else { "out" };
            format!("{} {way} on each seam at the {place}", style.with_unit(half.abs()))
        };
        let words = [
            (StageKind::Mark, format!("Mark {} and {}.", in_words(hem, "hem"), in_words(elbow, "elbow"))),
            (StageKind::Move, "Draw both seams smoothly through the marks from the underarm.".to_owned()),
            (StageKind::True, "Walk the seams along each other; square the hem.".to_owned()),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(sleeve, after)], &words))
    }
}

fn widened(sleeve: &Piece, hem: f64, elbow: f64) -> Piece {
    let mut after = sleeve.clone();
    let level = sleeve.level(LevelName::Elbow).and_then(|level| level.points.first()).map(|point| point.y);
    let bent = |curve: &Curve, outwards: f64| {
        // Travelled from the hem: full there, nothing at the underarm.
        let reach = curve.length();
        let by_hem = reshape_start(curve, Vec2::new(hem * outwards, 0.0), reach);
        match level.and_then(|level| by_hem.crossing_level(level)) {
            Some(along) => reshape_at(&by_hem, along, Vec2::new(elbow * outwards, 0.0)),
            None => by_hem,
        }
    };
    after.edges[FRONT_SEAM].curve = bent(&sleeve.edges[FRONT_SEAM].curve.reversed(), 1.0).reversed();
    after.edges[BACK_SEAM].curve = bent(&sleeve.edges[BACK_SEAM].curve, -1.0);
    let line = &sleeve.edges[HEM].curve;
    let shift = Vec2::new(hem, 0.0);
    after.edges[HEM].curve = Curve::line(line.start() + shift, line.end() - shift);
    end_levels_on_seams(&mut after);
    after
}
