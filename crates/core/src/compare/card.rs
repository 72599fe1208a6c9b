//! Cards: blocks that exist only on paper, measured by hand. What one can hold, what it must, and what it does not tell.

use super::BlockSize;
use super::difference::wanted_figures;
use super::trousers::is_leg;
use crate::pattern::{Garment, PatternMeasure};

/// What a card of such a garment can hold, in a fixed order.
pub fn card_figures(garment: Garment) -> impl Iterator<Item = PatternMeasure> {
    PatternMeasure::ALL.into_iter().filter(move |figure| is_of(*figure, garment))
}

/// Without these a card of such a garment says too little for a comparison.
pub const fn card_needs(garment: Garment) -> &'static [PatternMeasure] {
    match garment {
        Garment::Bodice => &[PatternMeasure::Bust, PatternMeasure::Waist, PatternMeasure::ShoulderFront],
        Garment::Skirt => &[PatternMeasure::Waist, PatternMeasure::Hip],
        Garment::Trousers => &[PatternMeasure::Waist, PatternMeasure::Hip, PatternMeasure::CrotchDepth],
    }
}

/// Whether a figure is one of such a garment.
fn is_of(figure: PatternMeasure, garment: Garment) -> bool {
    use PatternMeasure as F;
    let garments: &[Garment] = match figure {
        F::Waist | F::Hip | F::TopHip | F::WaistDartFront | F::WaistDartBack => &Garment::ALL,
        F::WaistToHip => &[Garment::Skirt, Garment::Trousers],
        F::BelowHip | F::Hem => &[Garment::Bodice, Garment::Skirt],
        F::SkirtSideFront | F::SkirtSideBack | F::SkirtCentreFront | F::SkirtCentreBack => &[Garment::Skirt],
        F::CrotchDepth | F::CrotchLength | F::InsideLeg => &[Garment::Trousers],
        leg if is_leg(leg) => &[Garment::Trousers],
        _ => &[Garment::Bodice],
    };
    garments.contains(&garment)
}

impl BlockSize {
    /// What a comparison with such a garment looks at and this card does not tell; nothing where the block is drawn.
    pub fn untold(&self) -> Vec<PatternMeasure> {
        if self.pattern().is_some() {
            return Vec::new();
        }
        let (garment, figures) = (self.garment(), self.figures());
        wanted_figures().filter(|figure| is_of(*figure, garment) && figures.get(*figure).is_none()).collect()
    }
}
