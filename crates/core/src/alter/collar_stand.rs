//! Collar stand: it stands up from the finished neckline (handbook: `wishes.md`, section 8).

use kurbo::Vec2;

use super::keeps::{ARMHOLES, CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SIDES};
use super::sewn_on::{follows, on_each_side, on_front, sewn_on, wide_enough};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, Param, StageKind};
use crate::Style;
use crate::pattern::{Pattern, Piece, Seam, Stand};

/// At its upper edge it is bent over a radius of at least this, in millimetres.
const LEAST_RADIUS: f64 = 20.0;
/// How far its front rises unless told otherwise, in millimetres (common practice, no source).
const RISES: f64 = 12.0;

const PARAMS: [Param; 2] = [
    Param::size("Height", (0.0, 200.0), "How high it stands: usually 35 mm."),
    Param::place(
        "rises",
        "Rises in front",
        (0.0, 120.0),
        Some(RISES),
        "How much its lower edge rises towards the front: the more, the closer it lies to her neck.",
    ),
];

const ABOUT: About = About {
    code: "collar_stand",
    name: "Collar stand",
    why: "A stand-up collar, or the stand of one that is turned over. It follows the neckline as it is at the end.",
    params: &PARAMS,
    seams: &[Seam::Neckline],
    wants: "a collar stand is sewn to a neckline in front and behind that runs round, without a point or a corner at the centre, \
            and has no stand or strip yet",
    layer: Layer::Finish,
};

/// A collar stand.
pub(super) struct CollarStand;

impl Alteration for CollarStand {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        let halves = pattern.front_half().zip(pattern.back_half());
        let runs_round = |piece: Option<&Piece>| {
            piece.is_some_and(|piece| piece.neckline.is_none_or(|base| !base.pointed))
        };
        let has = halves.is_some_and(|(front, back)| {
            runs_round(front.begins(Seam::Neckline)) && runs_round(back.begins(Seam::Neckline))
        });
        has && !pattern.follows(Seam::Neckline).any(|piece| piece.kind.is_sewn_on())
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[NECKLINES, SHOULDERS, ARMHOLES, SIDES, CENTRES, GIRTHS])
    }

    fn goes_all_round(&self) -> bool {
        true
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        on_front(pattern, Seam::Neckline, Vec2::new(0.0, -1.0))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (height, rise) = (args.amount(), args.of("rises"));
        wide_enough("collar stand", height, style)?;
        let stand = |worn: &Pattern| -> Result<Piece, AlterError> {
            let (front, back) =
                worn.front_half().zip(worn.back_half()).ok_or_else(|| AlterError::not_here(self.wants()))?;
            let behind = back.sewn_length(Seam::Neckline);
            let neckline = behind + front.sewn_length(Seam::Neckline);
            let stand = Stand { neckline, behind, height, rise, on_fold: true };
            let unit = |mm: f64| style.with_unit(mm);
            if rise > neckline / 2.0 {
                return Err(AlterError::not_here(format!(
                    "a collar stand rises by at most {}, half of half the neckline, not {}",
                    style.greatest_mark(neckline / 2.0),
                    unit(rise)
                )));
            }
            if let Some(most) =
                stand.radius().map(|radius| radius - LEAST_RADIUS).filter(|most| height > *most)
            {
                return Err(AlterError::not_here(format!(
                    "a collar stand that rises by {} has no room for {}: {} so high at most, or one that rises less",
                    unit(rise),
                    unit(height),
                    style.greatest_mark(most)
                )));
            }
            Ok(stand.piece())
        };
        let mut made = on_each_side(pattern, stand)?;
        if let [_, _] = made.as_slice() {
            // Left and right meet in a seam.
            made.iter_mut().flat_map(|piece| &mut piece.edges).for_each(|edge| edge.fold = false);
        }
        let long: Vec<String> =
            made.iter().map(|piece| style.with_unit(piece.sewn_length(Seam::Neckline))).collect();
        let words = [
            (
                StageKind::Mark,
                format!(
                    "Draw a line as long as the neckline, half of it from centre back to centre front: {}. Bend it into an arc that \
                     rises by {} at the front.",
                    long.join(" on the left and "),
                    style.with_unit(rise)
                ),
            ),
            (
                StageKind::True,
                format!(
                    "Square up {} from it everywhere, and close it at the front, square to both edges. Mark the shoulder.",
                    style.with_unit(height)
                ),
            ),
        ];
        Ok(sewn_on(pattern, &made, &words).and(follows("collar stand", "neckline")))
    }
}
