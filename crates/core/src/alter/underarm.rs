//! Underarm up or down: the armhole's lower half follows, the side seam gives way (handbook: `alterations.md`,
//! section 2).

use super::armhole::{begun_at, keep_side_notches, on_line};
use super::keeps::{CENTRES, Keeps, NECKLINES, SHOULDERS};
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::geometry::reshape_start;
use crate::pattern::{Pattern, PatternMeasure, Piece, Seam};

/// The armhole follows over this share of its length.
const REACH: f64 = 0.5;

const PARAMS: [Param; 1] = [Param::amount(
    "Lower",
    MeasuredOn::PerSide,
    (-25.0, 40.0),
    "How far the underarm drops along the side seam, front and back alike. Negative raises it.",
)];

const ABOUT: About = About {
    code: "underarm",
    name: "Underarm",
    why: "The armhole cuts in under the arm, or hangs so low that the arm lifts the whole garment.",
    params: &PARAMS,
    seams: &[Seam::Armhole, Seam::Side],
    wants: "the underarm is altered on a whole front and back alike: this pattern lacks one of them",
    layer: Layer::Fit,
};

/// The underarm lower or higher.
pub(super) struct Underarm;

impl Alteration for Underarm {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.front().is_some() && pattern.back().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, CENTRES, &[PatternMeasure::Waist]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::SideFront, -args.amount()), (PatternMeasure::SideBack, -args.amount())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let side = front.first_edge(Seam::Side)?;
        Some(Handle::new(front.kind, front.underarm(), front.edges[side].curve.start_direction()))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let works: Vec<PieceWork> = [pattern.front(), pattern.back()]
            .into_iter()
            .flatten()
            .map(|piece| Ok(PieceWork::drawn(piece, lowered(piece, by, style)?)))
            .collect::<Result<_, AlterError>>()?;
        let (way, amount) = (if by > 0.0 { "down" } else { "up" }, style.with_unit(by.abs()));
        let words = [
            (
                StageKind::Mark,
                format!("On front and back mark {amount} {way} the side seam's own line from the underarm."),
            ),
            (
                StageKind::Move,
                "Draw the armhole to the mark from half-way down, arriving square to the side seam."
                    .to_owned(),
            ),
            (
                StageKind::True,
                "Lay the side seams together: the armhole runs on without a peak. Measure it again."
                    .to_owned(),
            ),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

fn lowered(piece: &Piece, by: f64, style: Style) -> Result<Piece, AlterError> {
    let armhole = piece.last_edge(Seam::Armhole).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
    let side = piece
        .edges
        .get(armhole + 1)
        .filter(|edge| edge.seam == Seam::Side)
        .ok_or_else(|| AlterError::no_seam(Seam::Side))?;
    let room = side.curve.length() - 10.0;
    if by > room {
        return Err(AlterError::beyond(
            style,
            MeasuredOn::PerSide,
            by,
            room,
            "of side seam above the next dart or the waist",
            "a smaller amount, or move the dart first",
        ));
    }
    let mut after = piece.clone();
    after.edges[armhole + 1].curve = begun_at(&side.curve, -by);
    let shift = on_line(&side.curve, -by) - side.curve.start();
    let old = &piece.edges[armhole].curve;
    after.edges[armhole].curve = reshape_start(&old.reversed(), shift, old.length() * REACH).reversed();
    keep_side_notches(&mut after, -by);
    Ok(after)
}
