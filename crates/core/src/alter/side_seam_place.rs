//! The side seam's place: what the front gains in width the back gives, all the way down (handbook: `fitting.md`, section 3).

use kurbo::Vec2;

use super::keeps::{CENTRES, GIRTHS, Keeps, NECKLINES, SHOULDERS, SKIRT_CENTRES, SKIRT_SIDES};
use super::side_seams::{Widths, trued};
use super::skirt_waist::FOLD_AND_WALK;
use super::work::{PieceWork, altered};
use super::{About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind};
use crate::Style;
use crate::pattern::{Garment, Pattern, PatternMeasure, Piece, Redrawn, Seam, WaistSeam};

/// The waist as a whole stays within twice this, in millimetres.
const CLOSE_ENOUGH: f64 = 1e-3;

const PARAMS: [Param; 1] = [Param::amount(
    "From back to front",
    MeasuredOn::Here,
    (-25.0, 25.0),
    "How much of each side the front gains and the back gives, from the underarm down. Negative gives it to the back.",
)];

const ABOUT: About = About {
    code: "side_seam_place",
    name: "Side seam's place",
    why: "The girth is right, but the front is tight and the back loose, or the other way: the seam is off the middle of her side.",
    params: &PARAMS,
    seams: &[Seam::Side],
    wants: "the side seam is moved between a whole front and back, of bodice, dress or skirt: this pattern lacks one of them",
    layer: Layer::Fit,
};

/// Width moved from the back to the front.
pub(super) struct SideSeamPlace;

impl Alteration for SideSeamPlace {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Bodice, Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        (pattern.front().is_some() && pattern.back().is_some()) || pattern.skirt_halves().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            NECKLINES,
            SHOULDERS,
            CENTRES,
            SKIRT_CENTRES,
            SKIRT_SIDES,
            GIRTHS,
            &[PatternMeasure::Hip],
        ])
    }

    fn drawn_from(&self) -> f64 {
        // Waist and hip are drawn in one curve.
        2.0
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let out = Vec2::new(1.0, 0.0);
        let of_skirt = pattern.skirt_halves().and_then(|(front, _)| {
            let front = front.at_centre();
            Some(Handle::new(front.kind, WaistSeam::of(front)?.side, out))
        });
        of_skirt.or_else(|| pattern.front().map(|front| Handle::new(front.kind, front.underarm(), out)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let by = args.amount();
        let (gains, gives) = if by > 0.0 { ("front", "back") } else { ("back", "front") };
        let mark = format!(
            "Along the whole side seam mark {} out on the {gains} and as much in on the {gives}.",
            style.with_unit(by.abs())
        );
        if let Some((front, back)) = pattern.skirt_halves() {
            let works = [(front.at_centre(), by), (back.at_centre(), -by)]
                .map(|(piece, by)| Ok(PieceWork::drawn(piece, skirt_moved(piece, by)?)));
            let works = works.into_iter().collect::<Result<Vec<_>, AlterError>>()?;
            let words = [
                (StageKind::Mark, mark),
                (StageKind::Move, "Draw the seam through the marks, hollow as it was.".to_owned()),
                (StageKind::True, FOLD_AND_WALK.to_owned()),
            ];
            return Ok(altered(pattern, &works, &words));
        }
        let (front, back) =
            pattern.front().zip(pattern.back()).ok_or_else(|| AlterError::not_here(self.wants()))?;
        let by = [Widths::alike(by), Widths::alike(-by)];
        let (trued_front, trued_back) = trued(front, back, &by, CLOSE_ENOUGH);
        let works = [PieceWork::drawn(front, trued_front), PieceWork::drawn(back, trued_back)];
        let words = [
            (StageKind::Mark, mark),
            (
                StageKind::Move,
                "Draw the seam through the marks as it was; the armholes follow at the underarm, one longer, one shorter."
                    .to_owned(),
            ),
            (StageKind::True, "Walk front and back side seam along each other; square the hem.".to_owned()),
        ];
        Ok(altered(pattern, &works, &words))
    }
}

/// Half a skirt with its side moved out by so much, in millimetres, its darts as they are.
fn skirt_moved(piece: &Piece, by: f64) -> Result<Piece, AlterError> {
    let beyond =
        || AlterError::not_here("the side seam would come too near to the dart there: a smaller amount");
    let seam = WaistSeam::of(piece).ok_or_else(beyond)?;
    piece.with_waist(&seam, Redrawn { wider: by, hip_out: by, ..Redrawn::default() }).ok_or_else(beyond)
}
