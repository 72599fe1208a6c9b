//! What an alteration promises to keep.

use crate::pattern::PatternMeasure;

/// The neckline, front and back.
pub(super) const NECKLINES: &[PatternMeasure] =
    &[PatternMeasure::NecklineFront, PatternMeasure::NecklineBack];
/// The shoulder seams, front and back.
pub(super) const SHOULDERS: &[PatternMeasure] =
    &[PatternMeasure::ShoulderFront, PatternMeasure::ShoulderBack];
/// The armhole, front and back.
pub(super) const ARMHOLES: &[PatternMeasure] = &[PatternMeasure::ArmholeFront, PatternMeasure::ArmholeBack];
/// The side seams, front and back.
pub(super) const SIDES: &[PatternMeasure] = &[PatternMeasure::SideFront, PatternMeasure::SideBack];
/// Centre front and centre back.
pub(super) const CENTRES: &[PatternMeasure] = &[PatternMeasure::CentreFront, PatternMeasure::CentreBack];
/// Bust and waist, all round.
pub(super) const GIRTHS: &[PatternMeasure] = &[PatternMeasure::Bust, PatternMeasure::Waist];
/// A skirt's side seams, front and back.
pub(super) const SKIRT_SIDES: &[PatternMeasure] =
    &[PatternMeasure::SkirtSideFront, PatternMeasure::SkirtSideBack];
/// A skirt's centre front and centre back.
pub(super) const SKIRT_CENTRES: &[PatternMeasure] =
    &[PatternMeasure::SkirtCentreFront, PatternMeasure::SkirtCentreBack];
/// A skirt from the hip line down.
pub(super) const SKIRT_HIP: &[PatternMeasure] =
    &[PatternMeasure::Hip, PatternMeasure::Hem, PatternMeasure::BelowHip];
/// What a back's own alteration leaves alone in front.
pub(super) const FRONT: &[PatternMeasure] = &[
    PatternMeasure::NecklineFront,
    PatternMeasure::ShoulderFront,
    PatternMeasure::ArmholeFront,
    PatternMeasure::SideFront,
    PatternMeasure::CentreFront,
];
/// What a front's own alteration leaves alone behind.
pub(super) const BACK: &[PatternMeasure] = &[
    PatternMeasure::NecklineBack,
    PatternMeasure::ShoulderBack,
    PatternMeasure::ArmholeBack,
    PatternMeasure::SideBack,
    PatternMeasure::CentreBack,
];

/// Figures that stay the same as it is taped, each with what truing may cost it, in millimetres.
#[derive(Clone, Debug, Default, PartialEq)]
pub struct Keeps(Vec<(PatternMeasure, f64)>);

impl Keeps {
    /// These stay exactly, trued as well.
    pub(super) fn exactly(groups: &[&[PatternMeasure]]) -> Self {
        Self::default().within(0.0, groups)
    }

    /// And these, which truing may cost so much.
    #[must_use]
    pub(super) fn within(mut self, mm: f64, groups: &[&[PatternMeasure]]) -> Self {
        for figure in groups.iter().copied().flatten() {
            debug_assert!(self.cost(*figure).is_none(), "{} is kept twice", figure.name());
            self.0.push((*figure, mm));
        }
        self
    }

    /// What truing may cost a figure that is kept; `None` for one that may change.
    pub fn cost(&self, figure: PatternMeasure) -> Option<f64> {
        self.iter().find(|(kept, _)| *kept == figure).map(|(_, mm)| mm)
    }

    /// Every figure that is kept, with what truing may cost it.
    pub fn iter(&self) -> impl Iterator<Item = (PatternMeasure, f64)> + '_ {
        self.0.iter().copied()
    }
}
