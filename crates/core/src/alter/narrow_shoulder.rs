//! Narrow (or wide) shoulder by pivot: the whole armhole swings in with the tip, so that armhole and sleeve
//! keep their length (handbook: `alterations.md`, section 2).

use super::armhole::{MovedArmhole, armhole_laid, with_underarms_level};
use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES};
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::geometry::root;
use crate::pattern::{DartPlace, Motion, Pattern, PatternMeasure, Piece, Seam};

/// A pivot that lifts the underarm by more than this wants a smaller size, in millimetres.
const MOST_RISE: f64 = 30.0;

const PARAMS: [Param; 1] = [Param::amount(
    "Narrower",
    MeasuredOn::PerSide,
    (-25.0, 40.0),
    "How far the shoulder tip comes in along the shoulder, front and back alike. Negative brings it out.",
)];

const ABOUT: About = About {
    code: "narrow_shoulder",
    name: "Narrow shoulder by pivot",
    why: "The shoulders stand too far out (or in) while armhole and sleeve fit; the underarm rises a little, which a narrow \
         frame usually wants.",
    params: &PARAMS,
    seams: &[Seam::Shoulder, Seam::Armhole],
    wants: PLAIN_ARMHOLES,
    layer: Layer::Fit,
};

/// Shoulder tips in or out, the armhole carried along.
pub(super) struct NarrowShoulder;

impl Alteration for NarrowShoulder {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        has_plain_armholes(pattern)
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, CENTRES, GIRTHS, &[PatternMeasure::BustPointDepth]])
            .within(1.0, &[ARMHOLES])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::ShoulderFront, -args.amount()), (PatternMeasure::ShoulderBack, -args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let shoulder = front.last_edge(Seam::Shoulder)?;
        Some(Handle::new(front.kind, front.tip(), -front.edges[shoulder].curve.end_direction()))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let (old_front, old_back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let (front, back) = (swung(old_front, by)?, swung(old_back, by)?);
        let rise = front.rise.midpoint(back.rise);
        if rise > MOST_RISE {
            return Err(too_far(old_front, old_back, by, style));
        }
        let taped = [front.piece.clone(), back.piece.clone()];
        let (front, back) = with_underarms_level(front, back);
        let works: Vec<PieceWork> = [old_front, old_back]
            .into_iter()
            .zip(taped)
            .zip([front, back])
            .map(|((before, taped), trued)| {
                PieceWork::drawn_and_trued(before, taped, trued).with_hinge(before.tip())
            })
            .collect();
        Ok(altered(pattern, &works, &words(by, rise, style)))
    }
}

/// What an armhole must be like that is carried as one.
pub(super) const PLAIN_ARMHOLES: &str = "the armhole is carried as one, on front and back alike: this pattern lacks one of them, or a dart divides its armhole";

/// Whether front and back are there and no dart divides their armholes.
pub(super) fn has_plain_armholes(pattern: &Pattern) -> bool {
    let plain = |piece: Option<&Piece>| piece.is_some_and(|piece| piece.dart(DartPlace::Armhole).is_none());
    plain(pattern.front()) && plain(pattern.back())
}

fn swung(piece: &Piece, by: f64) -> Result<MovedArmhole, AlterError> {
    let shoulder = piece.last_edge(Seam::Shoulder).ok_or_else(|| AlterError::no_seam(Seam::Shoulder))?;
    let line = &piece.edges[shoulder].curve;
    if by > line.length() - 10.0 {
        return Err(AlterError::not_here(
            "the tip would reach the dart of the shoulder or the neck: a smaller amount",
        ));
    }
    armhole_laid(piece, Motion::Still, line.end() - line.end_direction() * by)
}

fn too_far(front: &Piece, back: &Piece, by: f64, style: Style) -> AlterError {
    let over = |amount: f64| {
        let rise = |piece| swung(piece, amount).map_or(f64::NAN, |moved| moved.rise);
        rise(front).midpoint(rise(back)) - MOST_RISE
    };
    let limit = root(over, 0.0, by).unwrap_or_default();
    AlterError::beyond(
        style,
        MeasuredOn::PerSide,
        by,
        limit,
        "that can be pivoted in before the underarm rises by more than 30 mm",
        "take a smaller size",
    )
}

fn words(by: f64, rise: f64, style: Style) -> [(StageKind, String); 3] {
    let (way, raised) = (if by > 0.0 { "in" } else { "out" }, if rise > 0.0 { "rises" } else { "drops" });
    [
        (
            StageKind::Mark,
            format!("Mark the new shoulder tip {} {way} on the shoulder's own line, front and back.", style.with_unit(by.abs())),
        ),
        (
            StageKind::Move,
            format!(
                "Trace the armhole with its notches. Lay its tip on the new tip and swing it until its lower end lies on the \
                 side seam, extended if need be: the underarm {raised} by {}.",
                style.with_unit(rise.abs())
            ),
        ),
        (
            StageKind::True,
            "Bring front and back underarm to one height, square the armhole to shoulder and side seam, and walk the side \
             seams along each other."
                .to_owned(),
        ),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::geometry::Curve;
    use crate::pattern::{Edge, PieceKind};

    /// Worked figures (handbook: `alterations.md`, section 4).
    #[test]
    fn the_tip_and_the_rise_are_where_the_worked_figure_says() {
        let at = [(0., 90.), (72., 0.), (190., 45.), (235., 205.), (228., 405.), (0., 405.)];
        let seams =
            [Seam::Neckline, Seam::Shoulder, Seam::Armhole, Seam::Side, Seam::Waist, Seam::CentreFront];
        let edge = |(i, seam): (usize, Seam)| {
            Edge::sewn(seam, Curve::line(at[i].into(), at[(i + 1) % at.len()].into()))
        };
        let piece = Piece::bare(
            PieceKind::BODICE_FRONT,
            seams.into_iter().enumerate().map(edge).collect(),
            ((30., 120.).into(), (30., 380.).into()),
        );
        let swung = swung(&piece, 19.0).unwrap();
        assert!(swung.piece.tip().distance((172.247, 38.230).into()) < 1e-3, "{:?}", swung.piece.tip());
        assert!((swung.rise - 13.059).abs() < 1e-3, "{}", swung.rise);
    }
}
