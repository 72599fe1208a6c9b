//! A skirt's length and width at the hem: longer or shorter, flared or pegged; above the hip nothing moves (handbook:
//! `wishes.md`, section 4).

use kurbo::Vec2;

use super::hem_length::{HemWish, let_down, up_to_hip};
use super::keeps::{GIRTHS, Keeps};
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, FollowUp, Handle, Layer, MeasuredOn, Param, StageKind,
};
use crate::Style;
use crate::pattern::{Garment, Pattern, PatternMeasure, Piece, Seam};

const PARAMS: [Param; 2] = [
    Param::amount(
        "Longer",
        MeasuredOn::Here,
        (-700.0, 900.0),
        "How much longer the skirt becomes at the hem, all round. Negative shortens it.",
    ),
    Param::place(
        "out",
        "Wider at each side edge of the hem",
        (-120.0, 260.0),
        Some(0.0),
        "How much further out the hem runs at each side edge, a quarter of the whole. Negative pegs it in.",
    ),
];

const ABOUT: About = About {
    code: "skirt_length",
    name: "Skirt length",
    why: "The skirt is to be longer or shorter, or to swing or narrow more at the hem.",
    params: &PARAMS,
    seams: &[Seam::Hem],
    wants: "a hem is let down on the whole front and back of a skirt: this pattern has none",
    layer: Layer::Shape,
};

/// A skirt ends at least this far below the hip, in millimetres.
const LEAST: f64 = 20.0;

/// The hem of a skirt let down, taken up, flared or pegged.
pub(super) struct SkirtLength;

impl Alteration for SkirtLength {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn garments(&self) -> &'static [Garment] {
        &[Garment::Skirt]
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.skirt_halves().is_some()
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[GIRTHS, &[PatternMeasure::Hip, PatternMeasure::WaistToHip]])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        use PatternMeasure as F;
        [F::BelowHip, F::SkirtSideFront, F::SkirtSideBack, F::SkirtCentreFront, F::SkirtCentreBack]
            .map(|figure| (figure, args.amount()))
            .to_vec()
    }

    fn is_reversible(&self) -> bool {
        true
    }

    fn is_nothing(&self, args: &Args<'_>) -> bool {
        args.amount() == 0.0 && args.of("out") == 0.0
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let (front, _) = pattern.skirt_halves()?;
        let front = front.at_centre();
        let hem = &front.edges[front.first_edge(Seam::Hem)?].curve;
        Some(Handle::new(front.kind, hem.end(), Vec2::new(0.0, 1.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let (front, back) = pattern.skirt_halves().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let (by, out) = (args.amount(), args.of("out"));
        // Each half from where it is; the words are the front's.
        let changed = |piece: &Piece| -> Result<(HemWish, PieceWork), AlterError> {
            let is = HemWish::drawn_on(piece).ok_or_else(|| AlterError::no_seam(Seam::Hem))?;
            let wish = HemWish { length: is.length + by, out: is.out + out, ..is };
            if wish.length < LEAST {
                return Err(AlterError::not_here(format!(
                    "a skirt ends at least {} below the hip: at most {} shorter",
                    style.with_unit(LEAST),
                    style.with_unit((is.length - LEAST).max(0.0))
                )));
            }
            wish.is_possible(style)?;
            let to_hip = up_to_hip(piece).ok_or_else(|| AlterError::no_seam(Seam::Hem))?;
            let work = PieceWork::drawn(piece, let_down(&to_hip, &wish)?);
            Ok((wish, work))
        };
        let ((wish, front_work), (_, back_work)) = (changed(front.at_centre())?, changed(back.at_centre())?);
        let works = [front_work, back_work];
        let mut marks = Vec::new();
        if by != 0.0 {
            let way = if by > 0.0 { "longer" } else { "shorter" };
            marks.push(format!(
                "Mark the centre {} {way} at the hem, front and back.",
                style.with_unit(by.abs())
            ));
        }
        if out != 0.0 {
            let way = if out > 0.0 { "out" } else { "in" };
            marks.push(format!(
                "Mark the hem {} further {way} at each side edge.",
                style.with_unit(out.abs())
            ));
        }
        let words = [
            (StageKind::Mark, marks.join(" ")),
            (StageKind::Move, wish.side_words(style)),
            (StageKind::True, "Draw the hem: level at the centre, square to the side.".to_owned()),
        ];
        let done = altered(pattern, &works, &words);
        let (front, back) = done.pattern.skirt_halves().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let hem = 2.0 * (front.sewn_length(Seam::Hem) + back.sewn_length(Seam::Hem));
        let slit = wish.slit_words(hem, style);
        let done = done.and(FollowUp::reminder(HemWish::facing_words(style)));
        Ok(match slit {
            Some(says) => done.and(FollowUp::reminder(says)),
            None => done,
        })
    }
}
