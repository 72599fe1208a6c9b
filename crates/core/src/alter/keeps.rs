//! What an alteration promises to keep.

use crate::pattern::Figure;

/// The neckline, front and back.
pub(super) const NECKLINES: &[Figure] = &[Figure::NecklineFront, Figure::NecklineBack];
/// The shoulder seams, front and back.
pub(super) const SHOULDERS: &[Figure] = &[Figure::ShoulderFront, Figure::ShoulderBack];
/// The armhole, front and back.
pub(super) const ARMHOLES: &[Figure] = &[Figure::ArmholeFront, Figure::ArmholeBack];
/// The side seams, front and back.
pub(super) const SIDES: &[Figure] = &[Figure::SideFront, Figure::SideBack];
/// Centre front and centre back.
pub(super) const CENTRES: &[Figure] = &[Figure::CentreFront, Figure::CentreBack];
/// Bust and waist, all round.
pub(super) const GIRTHS: &[Figure] = &[Figure::Bust, Figure::Waist];
/// What a back's own alteration leaves alone in front.
pub(super) const FRONT: &[Figure] = &[
    Figure::NecklineFront,
    Figure::ShoulderFront,
    Figure::ArmholeFront,
    Figure::SideFront,
    Figure::CentreFront,
];
/// What a front's own alteration leaves alone behind.
pub(super) const BACK: &[Figure] =
    &[Figure::NecklineBack, Figure::ShoulderBack, Figure::ArmholeBack, Figure::SideBack, Figure::CentreBack];

/// Figures that stay the same as it is taped, each with what truing may cost it, in millimetres.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Keeps(Vec<(Figure, f64)>);

impl Keeps {
    /// These stay exactly, trued as well.
    pub(super) fn exactly(groups: &[&[Figure]]) -> Self {
        Self::default().within(0.0, groups)
    }

    /// And these, which truing may cost so much.
    #[must_use]
    pub(super) fn within(mut self, mm: f64, groups: &[&[Figure]]) -> Self {
        for figure in groups.iter().copied().flatten() {
            debug_assert!(self.cost(*figure).is_none(), "{} is kept twice", figure.name());
            self.0.push((*figure, mm));
        }
        self
    }

    /// What truing may cost a figure that is kept; `None` for one that may change.
    pub fn cost(&self, figure: Figure) -> Option<f64> {
        self.iter().find(|(kept, _)| *kept == figure).map(|(_, mm)| mm)
    }

    /// Every figure that is kept, with what truing may cost it.
    pub fn iter(&self) -> impl Iterator<Item = (Figure, f64)> + '_ {
        self.0.iter().copied()
    }
}
