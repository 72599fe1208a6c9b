//! Client plus ease against block, dimension by dimension.

use serde::{Deserialize, Serialize};

use super::{Settled, trousers};
use crate::body::{Body, measurement};
use crate::ease::{EaseSet, Eased};
use crate::pattern::{PatternMeasure, PatternMeasures};
use crate::{Shown, Style};

/// Tolerances within which a block fits, in millimetres (common practice, no source).
const GIRTH: Tolerance = Tolerance { fits: 10.0, doubtful: 120.0 };
const LENGTH: Tolerance = Tolerance { fits: 5.0, doubtful: 60.0 };
/// Over a hollow a tape is bridged, and over the blades it bends: such lengths are taken less surely.
const ROUGH: Tolerance = Tolerance { fits: 10.0, doubtful: 60.0 };
const WIDTH: Tolerance = Tolerance { fits: 4.0, doubtful: 60.0 };

/// The underarm of the pattern lies this far below a tape at the armpits, in millimetres.
const BELOW_ARMPIT: f64 = 25.0;

#[derive(Clone, Copy)]
struct Tolerance {
    fits: f64,
    doubtful: f64,
}

/// How a difference is to be taken.
#[derive(Clone, Copy, Debug, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum DifferenceGrade {
    /// Within the tolerance.
    Fits,
    /// Off by less than twice its spread: the tape may have made it, and nothing is planned for it by itself.
    WithinReading,
    /// To be altered.
    Alter,
    /// So large that a wrong reading is likelier.
    Remeasure,
    /// Not measured yet.
    Missing,
}

/// One dimension compared.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Difference {
    /// The reading.
    pub measurement: String,
    /// Its name.
    pub name: String,
    /// The figure it is compared with.
    pub figure: PatternMeasure,
    /// On the body.
    pub body: Option<Shown>,
    /// Ease for this dimension.
    pub ease: Shown,
    /// Body and ease.
    pub target: Option<Shown>,
    /// The block.
    pub block: Shown,
    /// Target less block: positive means the pattern must grow.
    pub on_body: Option<Shown>,
    /// The same as the pattern carries it.
    pub on_pattern: Option<Shown>,
    /// How sure the difference is: its spread, on the body. None of what is no reading.
    pub spread: Option<Shown>,
    /// The same as the pattern carries it.
    pub spread_on_pattern: Option<Shown>,
    /// Who carries it.
    pub carried_by: String,
    /// How it is to be taken.
    pub grade: DifferenceGrade,
    /// The tolerance, in millimetres.
    pub tolerance: f64,
    /// Where it was settled by a fitting: its ease is her own then.
    pub settled: Option<String>,
}

/// A client compared with a block.
#[derive(Clone, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Comparison {
    /// Every dimension, in the order a cutter looks.
    pub rows: Vec<Difference>,
}

impl Comparison {
    /// Target less block of a figure, in millimetres on the body.
    pub fn of(&self, figure: PatternMeasure) -> Option<f64> {
        self.row(figure)?.on_body.as_ref().map(|shown| shown.mm)
    }

    /// The row of a figure.
    pub fn row(&self, figure: PatternMeasure) -> Option<&Difference> {
        self.rows.iter().find(|row| row.figure == figure)
    }
}

struct Dimension {
    code: &'static str,
    figure: PatternMeasure,
    tolerance: Tolerance,
    /// How many times the pattern piece goes into the body.
    halves: f64,
    carried_by: &'static str,
    /// Compared only where it was measured; the others are missing without a reading.
    optional: bool,
}

const fn dimension(
    code: &'static str,
    figure: PatternMeasure,
    tolerance: Tolerance,
    halves: f64,
    carried_by: &'static str,
) -> Dimension {
    Dimension { code, figure, tolerance, halves, carried_by, optional: false }
}

const fn optional(
    code: &'static str,
    figure: PatternMeasure,
    tolerance: Tolerance,
    halves: f64,
    carried_by: &'static str,
) -> Dimension {
    Dimension { code, figure, tolerance, halves, carried_by, optional: true }
}

const DIMENSIONS: [Dimension; 31] = [
    dimension("nape_to_waist_back", PatternMeasure::CentreBack, LENGTH, 1.0, "back"),
    dimension("snp_to_waist_back", PatternMeasure::BackLength, LENGTH, 1.0, "back"),
    dimension("snp_to_waist_front", PatternMeasure::FrontLength, LENGTH, 1.0, "front"),
    dimension("bust_girth", PatternMeasure::Bust, GIRTH, 2.0, "half pattern, front and back"),
    dimension("snp_to_bust_point", PatternMeasure::BustPointDepth, LENGTH, 1.0, "front"),
    dimension("bust_span", PatternMeasure::BustSpan, WIDTH, 2.0, "half front"),
    dimension("shoulder_length", PatternMeasure::ShoulderFront, WIDTH, 1.0, "front and back alike"),
    dimension("shoulder_slope", PatternMeasure::ShoulderDrop, WIDTH, 1.0, "front and back alike"),
    dimension("neck_base_girth", PatternMeasure::Neckline, GIRTH, 2.0, "half the neckline, front and back"),
    dimension("across_front", PatternMeasure::AcrossFront, WIDTH, 2.0, "half front"),
    dimension("across_back", PatternMeasure::AcrossBack, WIDTH, 2.0, "half back"),
    dimension("armhole_depth", PatternMeasure::ArmholeDepth, LENGTH, 1.0, "front and back alike"),
    dimension("side_length", PatternMeasure::SideBack, LENGTH, 1.0, "front and back alike"),
    dimension("waist_girth", PatternMeasure::Waist, GIRTH, 2.0, "half pattern, front and back"),
    dimension("hip_girth", PatternMeasure::Hip, GIRTH, 2.0, "half pattern, front and back"),
    optional("armhole_girth", PatternMeasure::Armhole, GIRTH, 1.0, "front and back alike"),
    dimension("upper_arm_girth", PatternMeasure::CapWidth, GIRTH, 1.0, "sleeve"),
    dimension("arm_length", PatternMeasure::SleeveLength, LENGTH, 1.0, "sleeve"),
    dimension("waist_to_hip", PatternMeasure::WaistToHip, LENGTH, 1.0, "front and back alike"),
    optional("top_hip_girth", PatternMeasure::TopHip, GIRTH, 2.0, "half pattern, front and back"),
    optional("centre_front_length", PatternMeasure::CentreFront, ROUGH, 1.0, "front"),
    optional("snp_to_hip_front", PatternMeasure::FrontToHip, ROUGH, 1.0, "front"),
    optional("shoulder_to_hip_back", PatternMeasure::BackToHip, ROUGH, 1.0, "back"),
    dimension("crotch_depth", PatternMeasure::CrotchDepth, LENGTH, 1.0, "front and back alike"),
    dimension("crotch_length", PatternMeasure::CrotchLength, GIRTH, 1.0, "front and back, mostly the back"),
    dimension("inside_leg", PatternMeasure::InsideLeg, LENGTH, 1.0, "front and back alike"),
    dimension("thigh_slant_girth", PatternMeasure::LegAtCrotch, GIRTH, 1.0, "front and back leg"),
    optional("thigh_girth", PatternMeasure::LegAtThigh, GIRTH, 1.0, "front and back leg"),
    dimension("knee_girth", PatternMeasure::LegAtKnee, GIRTH, 1.0, "front and back leg"),
    optional("calf_girth", PatternMeasure::LegAtCalf, GIRTH, 1.0, "front and back leg"),
    dimension("ankle_girth", PatternMeasure::LegHem, GIRTH, 1.0, "front and back leg"),
];

/// The dimensions that are compared: code of the reading, and the figure of the pattern.
pub(super) fn dimensions() -> impl Iterator<Item = (&'static str, PatternMeasure)> {
    DIMENSIONS.iter().map(|dimension| (dimension.code, dimension.figure))
}

/// The figures that every comparison of such a garment wants of a block.
pub(super) fn wanted_figures() -> impl Iterator<Item = PatternMeasure> {
    DIMENSIONS.iter().filter(|dimension| !dimension.optional).map(|dimension| dimension.figure)
}

/// A body's reading as it is compared, and the ease of the set on it.
pub(super) fn target_of(body: &Body, code: &'static str, figure: PatternMeasure, ease: &EaseSet) -> Eased {
    let wished = trousers::wish_for(figure).and_then(|wish| Some((wish, body.get(wish)?)));
    if let Some((reading, mm)) = wished {
        return Eased { reading, mm: Some(mm), ease: 0.0, per_mm: 1.0 };
    }
    let is = body.get(code);
    let eased = |ease| Eased { reading: code, mm: is, ease, per_mm: 1.0 };
    let stretched = |room: f64| Eased {
        per_mm: 1.0 + ease.stretch,
        ..eased(is.unwrap_or_default() * ease.stretch + room)
    };
    match figure {
        PatternMeasure::Bust => stretched(ease.bust + ease.design.bust),
        PatternMeasure::Waist => ease.waist(body),
        PatternMeasure::Hip => stretched(ease.hip + ease.design.hip),
        // Half-way between waist and hip.
        PatternMeasure::TopHip => {
            let (waist, hip) = (ease.waist + ease.design.waist, ease.hip + ease.design.hip);
            stretched(waist.midpoint(hip))
        }
        PatternMeasure::AcrossBack => {
            let usual = eased(ease.across_back + ease.design.across_back);
            let forward = "across_back_arms_forward";
            match body.get(forward).filter(|_| ease.reach) {
                Some(mm) => Eased { reading: forward, mm: Some(mm), ..usual },
                None => usual,
            }
        }
        PatternMeasure::AcrossFront => eased((ease.across_back + ease.design.across_back) / 2.0),
        PatternMeasure::CapWidth => eased(ease.along_the_arm().upper_arm),
        PatternMeasure::ArmholeDepth | PatternMeasure::Armhole => eased(BELOW_ARMPIT),
        _ => eased(trousers::room(figure)),
    }
}

/// How much roomier than her neck a neckline may be and still be called a neckline at its base, in millimetres (common
/// practice, no source).
const ROOMY_NECK: f64 = 40.0;

/// What of a difference is a fault of the fit. An armhole, a leg or a skirt over the top hip must not be too tight; how roomy
/// it is, is a matter of style, unless she wishes it so. A neckline likewise, as long as it lies about the neck base.
fn counted(figure: PatternMeasure, is_wished: bool, off: f64) -> f64 {
    match figure {
        _ if is_wished => off,
        PatternMeasure::Armhole | PatternMeasure::TopHip => off.max(0.0),
        leg if trousers::is_leg(leg) => off.max(0.0),
        PatternMeasure::Neckline if off < 0.0 => (off + ROOMY_NECK).min(0.0),
        _ => off,
    }
}

/// A difference of so many spreads is one of her body, not of the tape (handbook: `compare.md`, section 3).
const SURE: f64 = 2.0;

impl Eased {
    /// How sure body and ease together are, in millimetres. What a fitting settled hangs on that day's reading: as long as
    /// that stands nothing is off, and after a new one both are uncertain.
    pub(super) fn spread(&self, body: &Body, settled: Option<&Settled>) -> f64 {
        let of_reading = body.spread(self.reading).map_or(0.0, |spread| spread.mm) * self.per_mm;
        match settled {
            Some(settled) if self.mm.is_some_and(|mm| stands(mm, settled)) => 0.0,
            Some(_) => of_reading * std::f64::consts::SQRT_2,
            None => of_reading,
        }
    }
}

/// Whether her reading is still that of the day on which a fitting settled what hangs on it.
pub(super) fn stands(mm: f64, settled: &Settled) -> bool {
    /// Two readings nearer than this are the same, in millimetres.
    const SAME: f64 = 0.05;
    (mm - settled.reading).abs() < SAME
}

/// Compares a body and its ease with what was measured on a block of which no dimension was settled by a fitting.
pub fn compare(body: &Body, block: &PatternMeasures, ease: &EaseSet, style: Style) -> Comparison {
    compare_fitted(body, block, &[], ease, style)
}

/// Compares a body with what was measured on a block; a dimension that a fitting settled has her own ease.
pub fn compare_fitted(
    body: &Body,
    block: &PatternMeasures,
    settled: &[Settled],
    ease: &EaseSet,
    style: Style,
) -> Comparison {
    let row = |d: &Dimension| {
        let block = block.get(d.figure)?;
        let target = target_of(body, d.code, d.figure, ease);
        let settled = settled.iter().find(|settled| settled.figure == d.figure);
        let spread = target.spread(body, settled);
        let Eased { reading, mm: body, ease, .. } = target;
        let ease = settled.map_or(ease, |settled| settled.own_ease(ease));
        if d.optional && body.is_none() {
            return None;
        }
        let target = body.map(|mm| mm + ease);
        let off = target.map(|mm| mm - block);
        // What the row shows obeys its own sum: body and ease make the target, target less block the difference.
        let written_target = body.map_or(0.0, |mm| style.written(mm)) + style.written(ease);
        let written_off = written_target - style.written(block);
        let row = measurement(reading);
        let counts = off.map(|off| counted(d.figure, row.is_some_and(|row| row.wish), off));
        let grade = match counts {
            None => DifferenceGrade::Missing,
            Some(off) if off.abs() > d.tolerance.doubtful => DifferenceGrade::Remeasure,
            Some(off) if off.abs() > d.tolerance.fits && off.abs() < SURE * spread => {
                DifferenceGrade::WithinReading
            }
            Some(off) if off.abs() > d.tolerance.fits => DifferenceGrade::Alter,
            Some(_) => DifferenceGrade::Fits,
        };
        Some(Difference {
            measurement: reading.to_owned(),
            name: row.map_or(reading, |row| &row.name).to_owned(),
            figure: d.figure,
            body: body.map(|mm| style.show(mm)),
            ease: style.show(ease),
            target: target.map(|mm| style.shown(mm, written_target)),
            block: style.show(block),
            on_body: off.map(|mm| style.shown(mm, written_off)),
            on_pattern: off.map(|mm| {
                if d.halves > 1.0 { style.half_of(mm, written_off) } else { style.shown(mm, written_off) }
            }),
            spread: (spread > 0.0).then(|| style.spread(spread)),
            spread_on_pattern: (spread > 0.0)
                .then(|| style.spread_part(spread / d.halves, if d.halves > 1.0 { 2 } else { 1 })),
            carried_by: d.carried_by.to_owned(),
            grade,
            tolerance: d.tolerance.fits,
            settled: settled.map(Settled::says),
        })
    };
    Comparison { rows: DIMENSIONS.iter().filter_map(row).collect() }
}
