//! The sleeve turned in its armhole, so that it hangs with her arm: top of the cap and seam move along it, the sleeve itself
//! stays (handbook: `fitting.md`, section 3).

use kurbo::{Affine, Vec2};

use super::cap_height::WANTS;
use super::keeps::Keeps;
use super::sleeve::{BACK_CAP, BACK_SEAM, FRONT_CAP, FRONT_SEAM, HEM, crown, is_sleeve};
use super::work::{FollowUp, PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 1] = [Param::amount(
    "Forward",
    MeasuredOn::Here,
    (-20.0, 20.0),
    "How far the sleeve is turned forward in its armhole, along the cap. Negative turns it back.",
)];

const ABOUT: About = About {
    code: "sleeve_turn",
    name: "Sleeve turned",
    why: "The sleeve hangs behind her arm, or before it: one half of the cap crowds in folds, the other pulls.",
    params: &PARAMS,
    seams: &[Seam::Cap],
    wants: WANTS,
    layer: Layer::Finish,
};

/// The sleeve turned in its armhole.
pub(super) struct SleeveTurn;

impl Alteration for SleeveTurn {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        is_sleeve(pattern)
    }

    fn goes_on_from(&self, _: &Args<'_>) -> Option<&'static str> {
        Some("sleeve_shape")
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[&[
            PatternMeasure::CapLength,
            PatternMeasure::CapEase,
            PatternMeasure::SleeveHem,
            PatternMeasure::SleeveLength,
            PatternMeasure::CapHeight,
        ]])
    }

    fn takes_the_cap_along(&self) -> bool {
        // It is the cap: what it does stands.
        false
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let sleeve = pattern.sleeve()?;
        // Turned forward the mark at the top goes back.
        Some(Handle::new(sleeve.kind, crown(sleeve), Vec2::new(-1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let sleeve =
            pattern.sleeve().filter(|_| is_sleeve(pattern)).ok_or_else(|| AlterError::not_here(WANTS))?;
        let by = args.amount();
        let after = turned(sleeve, by);
        let (way, mark, from, to) = if by > 0.0 {
            ("forward", "back", "front", "back")
        } else {
            ("back", "forward", "back", "front")
        };
        let amount = style.with_unit(by.abs());
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Move the mark at the top of the cap {amount} {mark} along the seam; rule a strip {amount} wide along \
                         the {from} seam of the sleeve."
                ),
            ),
            (
                StageKind::Move,
                format!("Cut the strip off and tape it to the {to} seam: the sleeve is as wide as before."),
            ),
            (
                StageKind::True,
                format!(
                    "Draw the cap smooth into the strip; set in, the sleeve hangs {amount} further {way}."
                ),
            ),
        ];
        let done = altered(pattern, &[PieceWork::drawn(sleeve, after)], &words);
        Ok(done.and(FollowUp::reminder(
            "Elbow dart and opening move with the seam: look where they lie on her.",
        )))
    }
}

/// The sleeve with the top of its cap moved back by so much along it, in millimetres, and its seam towards the front: both
/// halves of the cap keep their length.
fn turned(old: &Piece, by: f64) -> Piece {
    let curve = |index: usize| old.edges[index].curve.clone();
    let (back, front) = (curve(BACK_CAP), curve(FRONT_CAP));
    let whole = back.clone().then(front.clone());
    // What is cut off at one underarm is drawn on at the other.
    let (cap, shift) = if by > 0.0 {
        let (kept, cut) = whole.split(whole.length() - by);
        let shift = cut.start() - cut.end();
        (cut.transformed(Affine::translate(back.start() - cut.end())).then(kept), shift)
    } else {
        let (cut, kept) = whole.split(-by);
        let shift = cut.end() - cut.start();
        (kept.then(cut.transformed(Affine::translate(front.end() - cut.start()))), shift)
    };
    let (cap_start, cap_end) = (cap.start(), cap.end());
    let (new_back, new_front) = cap.split(back.length());
    let mut after = old.clone();
    after.edges[BACK_CAP].curve = new_back;
    after.edges[FRONT_CAP].curve = new_front;
    // Seam and hem move across alone: where the new seam begins the cap has risen a little.
    let across = Affine::translate((shift.x, 0.0));
    let seam = |index: usize| curve(index).transformed(across);
    let (front_seam, back_seam) = (seam(FRONT_SEAM), seam(BACK_SEAM));
    after.edges[FRONT_SEAM].curve = front_seam.with_start(cap_end);
    after.edges[HEM].curve = seam(HEM);
    after.edges[BACK_SEAM].curve = back_seam.with_end(cap_start);
    let [front, back] = [FRONT_SEAM, BACK_SEAM].map(|seam| after.edges[seam].curve.clone());
    for level in &mut after.levels {
        if let [first, .., last] = level.points.as_mut_slice() {
            for (point, seam) in [(first, &back), (last, &front)] {
                let met = seam.crossing_level(point.y).map(|along| seam.point_at(along));
                *point = met.unwrap_or(*point + Vec2::new(shift.x, 0.0));
            }
        }
    }
    after
}
