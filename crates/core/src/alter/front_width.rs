//! Front width: the front armhole bent out or in at chest level (handbook: `alterations.md`, section 2).

use kurbo::Vec2;

use super::keeps::{GIRTHS, Keeps, SHOULDERS};
use super::work::{PieceWork, altered};
use super::{
    About, AlterError, Alteration, Altered, Args, Handle, Layer, MeasuredOn, Param, StageKind, WorksAcross,
};
use crate::Style;
use crate::geometry::reshape_at;
use crate::pattern::{DartPlace, Pattern, PatternMeasure, Piece, Seam, across_level};

const PARAMS: [Param; 1] = [Param::amount(
    "Wider",
    MeasuredOn::PerHalf,
    (-20.0, 20.0),
    "How much wider one half of the front becomes at chest level. Negative hollows the armhole.",
)];

const ABOUT: About = About {
    code: "front_width",
    name: "Front width",
    why: "The front strains towards the arms, or stands in folds before them, while the bust fits.",
    params: &PARAMS,
    seams: &[Seam::Armhole],
    wants: "the armhole of a whole front is bent: this pattern has none, or a dart divides its armhole",
    layer: Layer::Fit,
};

/// The front wider or narrower at chest level.
pub(super) struct FrontWidth;

impl Alteration for FrontWidth {
    fn about(&self) -> &'static About {
        &ABOUT
    }

    fn is_for(&self, pattern: &Pattern) -> bool {
        pattern.front().is_some_and(|front| front.dart(DartPlace::Armhole).is_none())
    }

    fn works_across(&self) -> WorksAcross {
        WorksAcross::Armhole
    }

    fn keeps(&self, _: &Args<'_>) -> Keeps {
        Keeps::exactly(&[
            SHOULDERS,
            GIRTHS,
            &[
                PatternMeasure::NecklineFront,
                PatternMeasure::SideFront,
                PatternMeasure::CentreFront,
                PatternMeasure::ArmholeBack,
            ],
        ])
    }

    fn grows(&self, args: &Args<'_>) -> Vec<(PatternMeasure, f64)> {
        vec![(PatternMeasure::AcrossFront, args.per_half().on_body().0.mm())]
    }

    fn grip(&self, pattern: &Pattern, _: &Args<'_>) -> Option<Handle> {
        let front = pattern.front()?;
        let (_, along) = chest(front)?;
        let armhole = front.first_edge(Seam::Armhole)?;
        Some(Handle::new(front.kind, front.edges[armhole].curve.point_at(along), Vec2::new(1.0, 0.0)))
    }

    fn alter(&self, pattern: &Pattern, args: &Args<'_>, style: Style) -> Result<Altered, AlterError> {
        let front = pattern.front().ok_or_else(|| AlterError::not_here(self.wants()))?;
        let (armhole, along) = chest(front).ok_or_else(|| AlterError::no_seam(Seam::Armhole))?;
        let by = args.per_half().0.mm();
        let mut after = front.clone();
        after.edges[armhole].curve = reshape_at(&front.edges[armhole].curve, along, Vec2::new(by, 0.0));
        let (way, amount) = (
            if by > 0.0 { "out" } else { "in" },
            style.part_with_unit(by.abs(), MeasuredOn::PerHalf.parts()),
        );
        let words = [
            (StageKind::Mark, format!("At chest level mark {amount} {way} from the armhole.")),
            (
                StageKind::Move,
                "Draw the armhole through the mark, into the old line at shoulder tip and underarm."
                    .to_owned(),
            ),
            (StageKind::True, "Measure the armhole again: the front of the sleeve cap follows.".to_owned()),
        ];
        Ok(altered(pattern, &[PieceWork::drawn(front, after)], &words))
    }
}

/// The armhole's edge, and where it crosses chest level.
fn chest(front: &Piece) -> Option<(usize, f64)> {
    let armhole = front.first_edge(Seam::Armhole)?;
    Some((armhole, front.edges[armhole].curve.crossing_level(across_level(front))?))
}
