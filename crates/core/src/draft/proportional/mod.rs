//! The proportional method: bust, waist and back length, everything else in published proportion.
//!
//! Formulas and the worked example stand in the handbook (`check-values.md`, section 4). The construction is
//! told in the handbook's axes: x from the piece's own centre line, y down from its own neck-side level.
//! The published points are guides; the curves between them are free and are drawn as house curves here.

mod back;
mod front;
mod shared;

use serde::{Deserialize, Serialize};

use super::clash::{Clash, refusing};
use super::direct::{Draft, DraftError, DraftNote};
use super::quantity::{length, number};
use super::sheet::{Sheet, StepLine, mm, plain, proportion};
use crate::Style;
use crate::body::Body;
use crate::pattern::{Pattern, PieceKind};

/// The constants of the method, in millimetres and degrees; girths are divided by the bare numbers.
#[derive(Clone, Copy, Debug, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(default)]
#[expect(missing_docs, reason = "the table of parameters names every one and says why")]
pub struct Proportional {
    pub bust_ease: f64,
    pub waist_ease: f64,
    pub bust_line_of_bust: f64,
    pub bust_line_more: f64,
    pub back_width_of_bust: f64,
    pub back_width_more: f64,
    pub blade_level: f64,
    pub front_rise_of_bust: f64,
    pub front_rise_more: f64,
    pub chest_of_bust: f64,
    pub chest_more: f64,
    pub bust_point_out: f64,
    pub dart_foot_of_bust: f64,
    pub neck_of_bust: f64,
    pub neck_more: f64,
    pub neck_depth_over: f64,
    pub back_neck_wider: f64,
    pub front_slope: f64,
    pub back_slope: f64,
    pub shoulder_beyond: f64,
    pub bust_dart_of_bust: f64,
    pub bust_dart_less: f64,
    pub shoulder_dart_of_bust: f64,
    pub shoulder_dart_less: f64,
    pub share_a: f64,
    pub share_b: f64,
    pub share_c: f64,
    pub share_d: f64,
    pub share_e: f64,
    pub blade_point_out: f64,
    pub g_lower: f64,
    pub front_guide_more: f64,
    pub back_guide_more: f64,
    pub shoulder_dart_out: f64,
    pub dart_a_below: f64,
    pub dart_b_in: f64,
    pub dart_b_short: f64,
    pub dart_d_in: f64,
    pub dart_e_in: f64,
    pub dart_e_above: f64,
    pub notch_above_waist: f64,
    pub armhole_notch: f64,
}

impl Default for Proportional {
    fn default() -> Self {
        Self {
            bust_ease: 120.0,
            waist_ease: 60.0,
            bust_line_of_bust: 12.0,
            bust_line_more: 137.0,
            back_width_of_bust: 8.0,
            back_width_more: 74.0,
            blade_level: 80.0,
            front_rise_of_bust: 5.0,
            front_rise_more: 83.0,
            chest_of_bust: 8.0,
            chest_more: 62.0,
            bust_point_out: 7.0,
            dart_foot_of_bust: 32.0,
            neck_of_bust: 24.0,
            neck_more: 34.0,
            neck_depth_over: 5.0,
            back_neck_wider: 2.0,
            front_slope: 22.0,
            back_slope: 18.0,
            shoulder_beyond: 18.0,
            bust_dart_of_bust: 0.25,
            bust_dart_less: 2.5,
            shoulder_dart_of_bust: 32.0,
            shoulder_dart_less: 8.0,
            share_a: 0.14,
            share_b: 0.15,
            share_c: 0.11,
            share_d: 0.35,
            share_e: 0.18,
            blade_point_out: 10.0,
            g_lower: 5.0,
            front_guide_more: 5.0,
            back_guide_more: 8.0,
            shoulder_dart_out: 15.0,
            dart_a_below: 25.0,
            dart_b_in: 15.0,
            dart_b_short: 2.0,
            dart_d_in: 10.0,
            dart_e_in: 5.0,
            dart_e_above: 20.0,
            notch_above_waist: 70.0,
            armhole_notch: 1.0 / 3.0,
        }
    }
}

impl Proportional {
    /// The codes the method cannot do without.
    pub const NEEDED: [&str; 3] = ["bust_girth", "waist_girth", "nape_to_waist_back"];
}

/// Bust for which the proportions are published, in millimetres.
const MADE_FOR: std::ops::RangeInclusive<f64> = 770.0..=1040.0;

/// Levels and widths both halves share, each with what it is found from. Levels count from the nape.
struct Frame {
    bust: f64,
    length: f64,
    width: StepLine,
    bust_line: StepLine,
    back_width: StepLine,
    chest: StepLine,
    dart_foot: StepLine,
    neck: StepLine,
    /// What all waist darts take in together.
    waist_darts: StepLine,
    /// The level between shoulder blade and bust line.
    g_line: f64,
    /// From the back width line to the side seam.
    side: f64,
    /// A sixth of the armhole's width.
    sixth: f64,
}

impl Frame {
    fn of(bust: f64, waist: f64, back_length: f64, m: &Proportional) -> Self {
        let width =
            ((length("bust_girth", bust) + length("bust_ease", m.bust_ease)) / 2.0).named("half width");
        let plus = |name, of, more| proportion(name, bust, of, more, true);
        let bust_line = plus(
            "bust line below the nape",
            plain("bust_line_of_bust", m.bust_line_of_bust),
            mm("bust_line_more", m.bust_line_more),
        );
        let back_width = plus(
            "back width",
            plain("back_width_of_bust", m.back_width_of_bust),
            mm("back_width_more", m.back_width_more),
        );
        let chest =
            plus("chest width", plain("chest_of_bust", m.chest_of_bust), mm("chest_more", m.chest_more));
        let neck = plus("neck width", plain("neck_of_bust", m.neck_of_bust), mm("neck_more", m.neck_more));
        let dart_foot = (length("bust_girth", bust) / number("dart_foot_of_bust", m.dart_foot_of_bust))
            .named("dart's foot beyond the chest line");
        let half_waist = (length("waist_girth", waist) + length("waist_ease", m.waist_ease)) / 2.0;
        let waist_darts = (width.quantity() - half_waist).named("all waist darts together");
        let dart_line = width.value - chest.value - dart_foot.value;
        Self {
            bust,
            length: back_length,
            g_line: m.blade_level.midpoint(bust_line.value) + m.g_lower,
            side: back_width.value.midpoint(dart_line),
            sixth: (dart_line - back_width.value) / 6.0,
            width,
            bust_line,
            back_width,
            chest,
            dart_foot,
            neck,
            waist_darts,
        }
    }
}

/// Drafts a bodice from bust, waist and back length.
///
/// # Errors
///
/// [`DraftError`] naming the readings that are missing or contradict each other.
pub fn draft_proportional(body: &Body, m: &Proportional, style: Style) -> Result<Draft, DraftError> {
    super::missing(body, Proportional::NEEDED.iter())?;
    refusing(body, style, |body, _| Ok(drawn(body, m, style)))
}

fn drawn(body: &Body, m: &Proportional, style: Style) -> Result<Draft, Clash> {
    let of = |code: &str| body.get(code).unwrap_or_default();
    let (bust, waist, length) = (of("bust_girth"), of("waist_girth"), of("nape_to_waist_back"));
    let frame = Frame::of(bust, waist, length, m);
    let (bust_line, waist_darts) = (frame.bust_line.value, frame.waist_darts.value);
    if length < bust_line + 60.0 {
        return Err(Clash {
            what: format!(
                "the bust line of a bust of {} lies {} below the nape, at or below the waist",
                style.with_unit(bust),
                style.with_unit(bust_line)
            ),
            between: ["nape_to_waist_back", "bust_girth"],
        });
    }
    let shares = m.share_a + m.share_b + m.share_c + m.share_d + m.share_e;
    let widest = waist_darts * m.share_d.max(1.0 - shares);
    if waist_darts < 0.0 || widest > 90.0 {
        let relation =
            if waist_darts < 0.0 { "leaves nothing for the darts" } else { "asks for darts too wide to sew" };
        return Err(Clash {
            what: format!(
                "a waist of {} on a bust of {} {relation}",
                style.with_unit(waist),
                style.with_unit(bust)
            ),
            between: ["waist_girth", "bust_girth"],
        });
    }
    let mut notes = Vec::new();
    if !MADE_FOR.contains(&bust) {
        let says = format!(
            "These proportions are published for a bust of {} to {}: look at the armhole before cutting.",
            style.with_unit(*MADE_FOR.start()),
            style.with_unit(*MADE_FOR.end())
        );
        notes.push(DraftNote::about("bust_girth", says));
    }
    let mut front_sheet = Sheet::new(PieceKind::BODICE_FRONT);
    let (front, shoulder) = front::draft(&frame, m, &mut front_sheet);
    let mut back_sheet = Sheet::new(PieceKind::BODICE_BACK);
    let back = back::draft(&frame, m, shoulder, &mut back_sheet);
    let steps = front_sheet.steps.into_iter().chain(back_sheet.steps).collect();
    Ok(Draft { pattern: Pattern::new(vec![front, back]), steps, notes })
}
