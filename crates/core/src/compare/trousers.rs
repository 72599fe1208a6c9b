//! Trousers: compared as a card measured by hand, and planned for the paper. They are neither drafted nor altered here.

use super::plan::{On, PlanLine, Planner, Wanted};
use crate::alter::MeasuredOn;
use crate::pattern::PatternMeasure;

/// The wishes a comparison reads: how wide the legs should be.
pub const WISHED: [&str; 2] = [WISHED_AT_THE_KNEE, WISHED_AT_THE_HEM];
const WISHED_AT_THE_KNEE: &str = "trouser_knee_girth";
const WISHED_AT_THE_HEM: &str = "trouser_hem_girth";

/// The crotch of trousers lies this far below hers, so that she can sit, in millimetres (common practice, no source).
const BELOW_HER_CROTCH: f64 = 15.0;
/// A hem that goes to the floor ends this far above it, in millimetres (handbook: `wishes.md`, section 4).
const ABOVE_THE_FLOOR: f64 = 15.0;
/// Whether it is a leg's width.
pub(super) const fn is_leg(figure: PatternMeasure) -> bool {
    use PatternMeasure as F;
    matches!(figure, F::LegAtCrotch | F::LegAtThigh | F::LegAtKnee | F::LegAtCalf | F::LegHem)
}

/// The wish that stands before the body's own reading of a figure.
pub(super) fn wish_for(figure: PatternMeasure) -> Option<&'static str> {
    match figure {
        PatternMeasure::LegAtKnee => Some(WISHED_AT_THE_KNEE),
        PatternMeasure::LegHem => Some(WISHED_AT_THE_HEM),
        _ => None,
    }
}

/// What a figure of trousers is more than hers, in millimetres (common practice, no source). The slanted thigh has two
/// fingers in it already; a knee must bend, and a foot go through the hem.
pub(super) const fn room(figure: PatternMeasure) -> f64 {
    match figure {
        PatternMeasure::CrotchDepth => BELOW_HER_CROTCH,
        // As much deeper before as behind.
        PatternMeasure::CrotchLength => 2.0 * BELOW_HER_CROTCH,
        PatternMeasure::InsideLeg => -(BELOW_HER_CROTCH + ABOVE_THE_FLOOR),
        PatternMeasure::LegAtCrotch => 25.0,
        PatternMeasure::LegAtThigh | PatternMeasure::LegAtKnee => 50.0,
        PatternMeasure::LegAtCalf => 40.0,
        PatternMeasure::LegHem => 80.0,
        _ => 0.0,
    }
}

/// Why a line of trousers is done by hand.
const BY_HAND: &str = "Trousers are not altered here: do it on the paper, from the worksheet.";

impl Planner<'_> {
    /// Crotch, inside leg and the widths of a leg. Each amount is for its own place on the paper; only the seam through
    /// the crotch is lengthened by a deeper crotch already.
    pub(super) fn trousers(&mut self) {
        let deeper = self.to_alter(PatternMeasure::CrotchDepth).unwrap_or_default();
        self.on_paper(Wanted {
            key: "crotch_depth",
            name: "Crotch depth",
            mm: deeper,
            on: On::at("along a level cut between hip and crotch, front and back"),
            figure: PatternMeasure::CrotchDepth,
            because: "the crotch must lie where she can sit",
        });
        self.crotch_seam();
        let inside = self.to_alter(PatternMeasure::InsideLeg).unwrap_or_default();
        self.on_paper(Wanted {
            key: "inside_leg",
            name: "Inside leg",
            mm: inside,
            on: On::at("along a level cut at the knee, front and back"),
            figure: PatternMeasure::InsideLeg,
            because: "the hem ends just above the floor, without shoes",
        });
        for (key, name, figure) in [
            ("thigh_slanted", "Leg at the crotch line", PatternMeasure::LegAtCrotch),
            ("thigh", "Leg at the fullest thigh", PatternMeasure::LegAtThigh),
            ("knee", "Leg at the knee", PatternMeasure::LegAtKnee),
            ("calf", "Leg at the calf", PatternMeasure::LegAtCalf),
            ("trouser_hem", "Trouser hem", PatternMeasure::LegHem),
        ] {
            let Some(off) = self.to_alter(figure) else { continue };
            let (on, because) =
                (On::part(MeasuredOn::PerEdge), "side seam and inside leg, front and back alike");
            self.on_paper(Wanted {
                key,
                name,
                mm: off / f64::from(MeasuredOn::PerEdge.parts()),
                on,
                figure,
                because,
            });
        }
    }

    /// What the seam through the crotch wants besides what a deeper crotch brings it, twice: before and behind.
    fn crotch_seam(&mut self) {
        let style = self.style;
        let deeper = self.lines.iter().find(|line| line.key == "crotch_depth" && line.done);
        let deeper = deeper.map_or(0.0, |line| line.amount.mm);
        let Some(row) = self.comparison.row(PatternMeasure::CrotchLength) else { return };
        let Some((body, off)) = row.body.as_ref().zip(row.on_body.as_ref()) else { return };
        if (off.mm - 2.0 * deeper).abs() <= row.tolerance {
            return;
        }
        // What is left of the marks that are seen, so that the page adds up: no more than a mark off the exact figure.
        let brought = 2.0 * style.written(deeper);
        let target = style.written(body.mm) + style.written(row.ease.mm);
        let left = target - style.written(row.block.mm) - brought;
        let because = if brought == 0.0 {
            "the crotch depth brings nothing of it".to_owned()
        } else {
            format!("the crotch depth brings {} of it, before and behind", style.with_unit(brought))
        };
        self.on_paper(Wanted {
            key: "crotch_length",
            name: "Crotch seam",
            mm: left,
            on: On::at("at the crotch points, mostly behind"),
            figure: PatternMeasure::CrotchLength,
            because: &because,
        });
    }

    /// A line for the paper; none where there is nothing to do.
    fn on_paper(&mut self, wanted: Wanted<'_>) {
        if wanted.mm == 0.0 {
            return;
        }
        if let Some(line) = self.line(&wanted) {
            self.lines.push(PlanLine { by_hand: Some(BY_HAND.to_owned()), ..line });
        }
    }
}
